package bench

import (
	"cmp"
	"math"
	"strings"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
)

// Bears is what a making says for the next ones: what was seen beside what the book would have planned, nothing learned
// counted in, and whose it was.
type Bears struct {
	Flour  string `json:"flour"` // label: its key, and a second one's that is a quarter or more
	Lot    string `json:"lot,omitempty"`
	Maker  string `json:"maker,omitempty"`
	Eggs   string `json:"eggs,omitempty"`
	Shape  string `json:"shape"`
	Family string `json:"family"`
	Tool   string `json:"tool"`  // it was kneaded with
	Place  string `json:"place"` // it dried on, and in what air

	HwPoints float64   `json:"hw_points"` // as made, less the book's target
	Knead    []Ratio   `json:"knead,omitempty"`
	Rest     []Poke    `json:"rest,omitempty"`
	Dry      []Ratio   `json:"dry,omitempty"`
	Cook     []Ratio   `json:"cook,omitempty"`
	Sheets   []AtStop  `json:"sheets,omitempty"`
	HandsMin float64   `json:"hands_min,omitempty"` // cutting and forming
	PlanMin  float64   `json:"plan_hands_min,omitempty"`
	LossG    float64   `json:"loss_g,omitempty"` // on bowl and board: what went in, less the pieces as they were weighed
	PlanG    float64   `json:"plan_loss_g,omitempty"`
	TrimG    float64   `json:"trim_g,omitempty"`      // trimmings, weighed
	PlanTrim float64   `json:"plan_trim_g,omitempty"` // by the layout, nothing learned counted in
	Shrunk   []float64 `json:"shrunk,omitempty"`      // share a ribbon pulled in, a look each
	EggRatio float64   `json:"egg_ratio,omitempty"`   // counted eggs as they weighed, over what their class says
}

// Ratio is what a look says: the right moment was between so many times the planned one; 0 is an open end, the same twice is
// seen exactly.
type Ratio struct {
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

// Poke is a timed poke after a rest: seconds to half recovery, how far the model has it relax by then, and the tension it began
// with.
type Poke struct {
	S  float64 `json:"s"`
	X  float64 `json:"x"`
	T0 float64 `json:"t0"`
}

// AtStop is a sheet measured at a stop.
type AtStop struct {
	Machine string  `json:"machine"`
	Stop    string  `json:"stop"`
	GapMM   float64 `json:"gap_mm"`
	Ratio   float64 `json:"ratio"` // measured over planned, nothing learned counted in
}

// bears returns what a making says for the next ones; events are in order.
func (m *Making) bears(events []Event) Bears {
	p, a := m.Begun, m.Ahead
	r, l := &a.Request, p.Rules().Learned
	b := Bears{Flour: plan.FlourLabel(r.Flours), Lot: plan.LotLabel(r.Flours), Eggs: r.Eggs.Class, Shape: a.Cut.Shape.Key, Family: string(a.Cut.Shape.Family),
		Tool: kneadTool(p), Place: DryPlace(r), HwPoints: round(a.Formula.Dough.Hw - (p.Formula.Target.Hw - l.Hw.Points))}
	if l.Hw.N == 0 {
		b.HwPoints = round(a.Formula.Dough.Hw - p.Formula.Target.Hw)
	}
	hands := map[string]int{}
	for _, e := range events {
		if e.By != "" {
			hands[e.By]++
			if hands[e.By] > hands[b.Maker] || b.Maker == "" {
				b.Maker = e.By
			}
		}
		if e.What == Named && e.Of == "lot" {
			b.Lot = e.Text
		} else if e.What == Named && e.Of == "eggs" {
			b.Eggs = e.Text
		}
	}
	b.looks(m, events)
	b.lost(m)
	for _, x := range m.State.Remarks {
		if x.What == Left && x.Text == Trimmings {
			b.TrimG, b.PlanTrim = round(b.TrimG+x.G), round(a.Cut.LaidTrimG())
		}
	}
	if d := m.State.Steps["weigh.eggs"]; d != nil && d.G > 0 && p.BowlLoads() == 1 && p.Request.Eggs.OwnClass == nil && !p.Formula.Weighed() && p.Formula.Pick.EggG > 0 {
		b.EggRatio = round(d.G / p.Formula.Pick.EggG)
	}
	for i := range m.Steps {
		s, d := &m.Steps[i], m.State.Steps[m.Steps[i].Key]
		if d.Shrunk != 0 {
			b.Shrunk = append(b.Shrunk, math.Round(1e4*d.Shrunk)/1e4)
		}
		switch {
		case s.Kind == Pass && d.MM > 0 && s.SheetMM > 0 && s.Stop != "" && !a.Pinned():
			if gap := gapOf(a, s.Stop); gap > 0 {
				b.Sheets = append(b.Sheets, AtStop{a.Roll.Machine.Key, s.Stop, gap, round(d.MM / s.SheetMM * l.Gap(s.Stop))})
			}
		case s.Kind == Cut && d.Status == WasDone && s.PlanMin > 1 && d.Took() > .5:
			b.HandsMin, b.PlanMin = round(b.HandsMin+d.Took()), round(b.PlanMin+s.PlanMin/l.Hands.K())
		}
	}
	return b
}

// Trimmings is what is weighed of them called, where they are left, and KneadedIn what is said of those that went into the next piece.
const (
	Trimmings = "trimmings"
	KneadedIn = "kneaded in"
)

// lost reads what stayed on bowl and board, where every piece was weighed.
func (b *Bears) lost(m *Making) {
	sum, n := 0., 0
	for i := range m.Steps {
		if m.Steps[i].Kind == Divide {
			if d := m.State.Steps[m.Steps[i].Key]; d.G > 0 && d.Status == WasDone {
				sum, n = sum+d.G, n+1
			}
		}
	}
	p := m.Ahead
	if n == 0 || n != p.Roll.Pieces || m.State.PutBy > 0 || p.Roll.AsideG > 0 {
		return
	}
	share := p.Rules().Dough.BowlLossShare
	b.LossG, b.PlanG = round(math.Max(0, p.Formula.Dough.MassG-sum)), round(p.Formula.Dough.MassG*share)
}

func gapOf(p *plan.Plan, stop string) float64 {
	for _, s := range p.Roll.Machine.Stops {
		if s.Label == stop {
			return s.GapMM
		}
	}
	return 0
}

// looks reads what was looked at and tried, each against the planned minutes without what was learned.
func (b *Bears) looks(m *Making, events []Event) {
	l := m.Begun.Rules().Learned
	notYet := map[string]int{} // the place of the last such look, by what it was of
	see := func(of string, at, planned float64, word string, to *[]Ratio) {
		if planned <= 0 || at <= 0 {
			return
		}
		x := round(at / planned)
		switch word {
		case "not yet":
			notYet[of] = len(*to)
			*to = append(*to, Ratio{From: x})
		case "right":
			if n, looked := notYet[of]; looked && (*to)[n].From < x { // it came between the two; the look before says no more by itself
				(*to)[n].To = x
			} else {
				*to = append(*to, Ratio{x, x})
			}
		case "past":
			*to = append(*to, Ratio{To: x})
		}
	}
	for _, e := range events {
		i := -1
		for j := range m.Steps {
			if m.Steps[j].Key == e.Step {
				i = j
			}
		}
		if i < 0 || e.What != Looked && e.What != Poked {
			continue
		}
		s, d := &m.Steps[i], m.State.Steps[e.Step]
		at := e.At.Sub(d.Began).Minutes()
		switch {
		case e.What == Poked && s.Station == request.AtRest:
			if x, t0, rest := m.Ahead.Relaxes(); x > 0 && rest > 0 && at > 1 {
				b.Rest = append(b.Rest, Poke{e.S, round(x * l.Rest.K() * math.Min(1, at/rest)), round(t0)})
			}
		case e.What != Looked:
		case s.Station == request.AtKnead && s.Kind == Work:
			before, all := 0., 0.
			for j := range m.Steps {
				if k := &m.Steps[j]; strings.HasPrefix(k.Key, "knead.") {
					all += k.PlanMin
					if j < i {
						before += m.State.Steps[k.Key].Took()
					}
				}
			}
			see("knead", before+at, all/l.Knead.K(), e.Text, &b.Knead)
		case s.Station == request.AtDry && s.Kind == Wait:
			d := &m.Ahead.Dry
			planned := d.Leather.FromMin
			if e.Text == "past" {
				planned = d.Brittle.FromMin
			}
			see("dry", at, planned/l.Dry.K(), e.Text, &b.Dry)
		case s.Kind == Pot && !s.Through: // what is raw inside is not timed by taste
			see(s.Key, 60*at, m.Ahead.BookPotS(s.Part), e.Text, &b.Cook)
		}
	}
}

// kneadTool is what the dough was kneaded with, by its school.
func kneadTool(p *plan.Plan) string {
	if p.Knead.Own {
		return "own"
	}
	return string(p.Knead.School)
}

// DryPlace is where a batch dries: on what, and in what air. What is learned of drying is of that.
func DryPlace(r *request.Request) string {
	return string(cmp.Or(r.Dry.On, request.OnRack)) + ", " + string(cmp.Or(r.Room.Air, "still"))
}
