package bench

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
)

// SummaryVersion is the version of a Summary: it goes up when one of the same making may come out otherwise, so that
// those
// kept are made anew.
const SummaryVersion = 12

// FeltWords are the words for how a dough felt, from -2 on.
var FeltWords = []string{"too dry", "a little dry", "right", "a little wet", "too wet"}

// Summary is what lists, charts and the ledger read of an ended making, so that they need not fold it. Masses g, times
// min, hydration points.
type Summary struct {
	Version   int       `json:"version"`
	Name      string    `json:"name"`
	Shape     string    `json:"shape"`
	Flours    []string  `json:"flours"` // names, the most first
	Began     time.Time `json:"began"`
	Ended     time.Time `json:"ended"`
	Min       float64   `json:"min"`       // from beginning to end
	HandsMin  float64   `json:"hands_min"` // in steps that want hands
	PlanMin   float64   `json:"plan_min"`
	FlourG    float64   `json:"flour_g"` // that went in
	DoughG    float64   `json:"dough_g"`
	Hw        float64   `json:"hw_points"` // as made
	PlanHw    float64   `json:"plan_hw_points"`
	TargetHw  float64   `json:"target_hw_points"` // with what was learned
	Felt      *int      `json:"felt,omitempty"`
	OutG      float64   `json:"out_g,omitempty"`
	OutSaid   bool      `json:"out_said,omitempty"` // OutG was weighed, also where it is nought
	Thrown    bool      `json:"thrown,omitempty"`   // it ended thrown away
	ThrownG   float64   `json:"thrown_g,omitempty"` // all that was planned where nobody weighed it
	Why       string    `json:"why,omitempty"`      // it was thrown away
	PlanOutG  float64   `json:"plan_out_g"`
	Pieces    int       `json:"pieces,omitempty"` // counted out
	Made      int       `json:"made,omitempty"`   // nests, pieces or handfuls counted at the cut
	PokeS     float64   `json:"poke_s,omitempty"` // the last one
	SheetMM   float64   `json:"sheet_mm,omitempty"`
	PlanMM    float64   `json:"plan_sheet_mm"`
	PieceMin  float64   `json:"piece_min,omitempty"` // of rolling one piece, the mean of those rolled
	Loss      float64   `json:"loss,omitempty"`      // in drying, share
	Makers    []string  `json:"makers"`
	Lots      []string  `json:"lots"`
	EggSource string    `json:"eggs,omitempty"`
	RH        float64   `json:"rh"`                    // of the room it was planned in, share
	TempC     float64   `json:"temp_c"`                // °C
	InG       float64   `json:"in_g"`                  // everything weighed in
	TrimG     float64   `json:"trim_g"`                // trimmings: weighed, as planned where they were not
	BackG     float64   `json:"trim_back_g,omitempty"` // of them kneaded into the next piece
	Cost      float64   `json:"cost,omitempty"`        // in the house's currency
	Next      string    `json:"next,omitempty"`
	Evidence  Evidence  `json:"bears"` // what it says for the next ones
}

// Summary returns what lists read of a making; events are its own, in any order.
func (m *Making) Summary(events []Event) Summary {
	p := m.Begun
	a := m.Ahead
	st := &m.State
	s := Summary{Version: SummaryVersion, Name: p.Request.Name, Shape: a.Cut.Shape.Name, Flours: []string{},
		Began: st.Began, Ended: st.Ended,
		FlourG: round(a.Formula.FlourG), DoughG: round(a.Formula.Dough.MassG), Hw: round(a.Formula.Dough.Hw),
		PlanHw:   round(p.Formula.Dough.Hw),
		TargetHw: round(p.Formula.Target.Hw), Felt: st.Felt, OutG: st.OutG, OutSaid: st.OutSaid, Thrown: st.Thrown,
		ThrownG: st.ThrownG, Why: st.Why, PlanOutG: round(p.Cut.AllMadeG), Pieces: st.OutN,
		PlanMM: round(p.Roll.SheetMM),
		RH:     p.Request.Room.RH, TempC: p.Request.Room.TempC, InG: round(a.Cost.InG + a.Cut.FillTotalG),
		TrimG:  round(a.Cut.AllTrimG),
		Cost:   round(a.Cost.Total.Units()),
		Makers: []string{}, Lots: []string{}, Next: st.Next}
	if s.Thrown && s.ThrownG == 0 {
		s.ThrownG = round(a.Cut.AllMadeG)
	}
	flours := slices.Clone(a.Formula.Flours)
	slices.SortStableFunc(flours, func(x, y plan.Weighed) int { return int(math.Copysign(1, y.Share-x.Share)) })
	for _, f := range flours {
		s.Flours = append(s.Flours, f.Name)
	}
	if !st.Ended.IsZero() {
		s.Min = round(st.Ended.Sub(st.Began).Minutes())
	}
	s.PlanMin = round(p.SpanMin())
	mm, n := 0., 0
	for i := range m.Steps {
		x, d := &m.Steps[i], st.Steps[m.Steps[i].Key]
		if !x.Unattended && d.Status == WasDone {
			s.HandsMin += d.Took()
		}
		s.Made += d.Made
		if d.PokeS > 0 {
			s.PokeS = d.PokeS
		}
		if d.Loss > 0 {
			s.Loss = round(d.Loss)
		}
		if lastOfPiece(m.Steps, i) && d.MM > 0 {
			mm, n = mm+d.MM, n+1
		}
	}
	for i := range m.Steps { // of a part of the work nothing is said
		if x := &m.Steps[i]; !x.Unattended && st.Steps[x.Key].Status != WasDone && st.Steps[x.Key].Status != LeftOut {
			s.HandsMin = 0
		}
	}
	s.HandsMin = round(s.HandsMin)
	s.PieceMin = m.PieceMin()
	if n > 0 {
		s.SheetMM = round(mm / float64(n))
	}
	ordered := Ordered(events)
	s.Evidence = m.evidence(ordered)
	for _, x := range st.Remarks {
		if left, ok := x.Says.(Left); ok && left.What == Trimmings && left.Into == KneadedIn {
			s.BackG = round(s.BackG + left.G)
		}
	}
	if s.Evidence.TrimG > 0 {
		s.TrimG = s.Evidence.TrimG
	}
	for _, e := range ordered {
		if e.By != "" && !slices.Contains(s.Makers, e.By) {
			s.Makers = append(s.Makers, e.By)
		}
		switch x, _ := e.Says.(Named); x.What {
		case NamedLot:
			if !slices.Contains(s.Lots, x.Name) {
				s.Lots = append(s.Lots, x.Name)
			}
		case NamedEggs:
			s.EggSource = x.Name
		}
	}
	return s
}

// lastOfPiece says whether a step is the pass its piece ends with.
func lastOfPiece(steps []Step, i int) bool {
	if steps[i].Kind != Pass {
		return false
	}
	for _, s := range steps[i+1:] {
		if s.Piece != steps[i].Piece || s.Kind != Pass && s.Kind != Wait {
			return true
		}
		if s.Kind == Pass {
			return false
		}
	}
	return true
}

// PieceMin is how long one piece took to roll, min: the mean of those whose every pass was done, by whatever taps; 0
// where there is none.
func (m *Making) PieceMin() float64 {
	took, whole := map[int]float64{}, map[int]bool{}
	for i := range m.Steps {
		s, d := &m.Steps[i], m.State.Steps[m.Steps[i].Key]
		if s.Kind != Pass {
			continue
		}
		if _, begun := took[s.Piece]; !begun {
			whole[s.Piece] = true
		}
		took[s.Piece] += d.Took()
		whole[s.Piece] = whole[s.Piece] && d.Status == WasDone
	}
	sum, n := 0., 0
	for piece, all := range whole {
		if all && took[piece] > 0 {
			sum, n = sum+took[piece], n+1
		}
	}
	if n == 0 {
		return 0
	}
	return round(sum / float64(n))
}

func round(v float64) float64 { return math.Round(1000*v) / 1000 }

// OutWords say what came out of a making: weighed, nothing, not weighed, or thrown away and why.
func (s *Summary) OutWords(in measure.System) string {
	words := ""
	switch {
	case s.Thrown:
		return strings.TrimSuffix(fmt.Sprintf("thrown away, %s: %s", in.Grams(s.ThrownG), s.Why), ": ")
	case s.OutSaid && s.OutG == 0:
		return "nothing came out"
	case s.OutSaid:
		words = in.Grams(s.OutG) + " came out"
	default:
		words = fmt.Sprintf("not weighed, %s as planned", in.Grams(s.PlanOutG))
	}
	if s.Pieces > 0 {
		words += ", " + measure.Plural(s.Pieces, "piece", "pieces")
	}
	return words
}
