package bench

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/plan"
	"hollen/internal/core/recipetext"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// Evidence is what a making says for the next ones: what was seen beside what the book would have planned, nothing
// learned
// counted in, and whose it was.
type Evidence struct {
	Flour  string `json:"flour"` // label: its key, and a second one's that is a quarter or more
	Lot    string `json:"lot,omitempty"`
	Maker  string `json:"maker,omitempty"`
	Eggs   string `json:"eggs,omitempty"`
	Shape  string `json:"shape"`
	Family string `json:"family"`
	Tool   string `json:"tool"`  // it was kneaded with
	Place  string `json:"place"` // it dried on, and in what air

	HwPoints float64  `json:"hw_points"` // as made, less the book's target
	Knead    []Ratio  `json:"knead,omitempty"`
	Rest     []Poke   `json:"rest,omitempty"`
	Dry      []Ratio  `json:"dry,omitempty"`
	Cook     []Ratio  `json:"cook,omitempty"`
	Sheets   []AtStop `json:"sheets,omitempty"`
	HandsMin float64  `json:"hands_min,omitempty"` // cutting and forming
	PlanMin  float64  `json:"plan_hands_min,omitempty"`
	// on bowl and board: what went in, less the pieces as they were weighed
	LossG    float64   `json:"loss_g,omitempty"`
	PlanG    float64   `json:"plan_loss_g,omitempty"`
	TrimG    float64   `json:"trim_g,omitempty"`      // trimmings, weighed
	PlanTrim float64   `json:"plan_trim_g,omitempty"` // by the layout, nothing learned counted in
	Shrunk   []float64 `json:"shrunk,omitempty"`      // share a ribbon pulled in, a look each
	Under    *Unseen   `json:"unseen,omitempty"`      // what a floor of the plan hid
	EggRatio float64   `json:"egg_ratio,omitempty"`   // counted eggs as they weighed, over what their class says
	Cups     []Cup     `json:"cups,omitempty"`        // flour measured in cups, as it weighed
}

// Cup is one cup of a flour, as it weighed.
type Cup struct {
	Flour string  `json:"flour"` // key
	G     float64 `json:"g"`
}

// cups are the cups of flour that were weighed.
func (m *Making) cups() (out []Cup) {
	if m.Begun.BowlLoads() > 1 {
		return nil
	}
	for i, x := range m.Begun.Request.Flours {
		key := fmt.Sprintf("flour.%d", i+1)
		said, measured := m.Begun.Said(key)
		n, cups := recipetext.Cups(said.Text)
		if d := m.State.Steps["weigh."+key]; measured && cups && d != nil && d.G > 0 {
			out = append(out, Cup{x.Kind().Key, round(d.G / n)})
		}
	}
	return out
}

// Unseen is what a look could not say, for the plan stood on more minutes than the dough needs by the book: below so
// many
// minutes nothing was seen; 0 where nothing was hidden.
type Unseen struct {
	KneadMin float64 `json:"knead_min,omitempty"` // of kneading, rests between not counted
	RestMin  float64 `json:"rest_min,omitempty"`  // of its last rest
}

// unseen is where a making keeps what its looks could not say.
func (b *Evidence) unseen() *Unseen {
	if b.Under == nil {
		b.Under = &Unseen{}
	}
	return b.Under
}

// Ratio is what a look says: the right moment was between so many times the planned one; 0 is an open end, the same
// twice is
// seen exactly.
type Ratio struct {
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

// Poke is a timed poke after a rest: seconds to half recovery, how far the model has it relax by then, and the tension
// it began
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
	// how far the reading itself may be off, share, where something was seen through it; 0: measured
	Within float64 `json:"within,omitempty"`
}

// evidence returns what a making says for the next ones; events are in order.
func (m *Making) evidence(events []Event) Evidence {
	p, a := m.Begun, m.Ahead
	r, l := &a.Request, p.Rules().Learned
	b := Evidence{Flour: plan.FlourLabel(r.Flours), Lot: plan.LotLabel(r.Flours), Eggs: r.Eggs.Class,
		Shape: a.Cut.Shape.Key, Family: string(a.Cut.Shape.Family),
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
		switch x, _ := e.Says.(Named); x.What {
		case NamedLot:
			b.Lot = x.Name
		case NamedEggs:
			b.Eggs = x.Name
		}
	}
	b.looks(m, events)
	b.lost(m)
	b.Cups = m.cups()
	for _, x := range m.State.Remarks {
		if left, ok := x.Says.(Left); ok && left.What == Trimmings {
			b.TrimG, b.PlanTrim = round(b.TrimG+left.G), round(a.Cut.LaidTrimG())
		}
	}
	if d := m.State.Steps["weigh.eggs"]; d != nil && d.G > 0 && p.BowlLoads() == 1 && p.Request.Eggs.OwnClass == nil &&
		!p.Formula.Weighed() && p.Formula.Pick.EggG > 0 {
		b.EggRatio = round(d.G / p.Formula.Pick.EggG)
	}
	for i := range m.Steps {
		s, d := &m.Steps[i], m.State.Steps[m.Steps[i].Key]
		if d.Shrunk != 0 {
			b.Shrunk = append(b.Shrunk, math.Round(1e4*d.Shrunk)/1e4)
		}
		switch {
		case s.Kind == Pass && (d.MM > 0 || d.Seen != "") && s.SheetMM > 0 && s.Stop != "" && !a.Pinned():
			mm, within := d.MM, 0.
			if mm == 0 {
				at, off := d.Seen.MM()
				mm, within = at, round(off/at)
			}
			if gap, moved := gapOf(&a.Roll.Machine, s.Stop), movedOf(a, s.Stop); gap > 0 && moved > 0 {
				b.Sheets = append(b.Sheets, AtStop{a.Roll.Machine.Key, s.Stop, gap, round(mm / s.SheetMM * moved),
					within})
			}
		case s.Kind == Cut && d.Status == WasDone && s.PlanMin > 1 && d.Took() > .5:
			if booked := m.bookMin(s.Key); booked > 0 {
				b.HandsMin, b.PlanMin = round(b.HandsMin+d.Took()), round(b.PlanMin+booked)
			}
		}
	}
	return b
}

// booked are the plan of a making by the book, and its steps; nil where it cannot be worked out.
type booked struct {
	plan  *plan.Plan
	steps []Step
}

// book is the plan of a making as it came to be, by the book, made when it is first asked for.
func (m *Making) book() *booked {
	if m.byBook == nil {
		m.byBook = &booked{}
		if p, err := m.Ahead.Book(); err == nil {
			m.byBook = &booked{p, Steps(p)}
		}
	}
	return m.byBook
}

// bookMin is how long a step takes by the book, min; 0 where it has no such step.
func (m *Making) bookMin(key string) float64 {
	for i := range m.book().steps {
		if s := &m.book().steps[i]; s.Key == key {
			return s.PlanMin
		}
	}
	return 0
}

// bookPlan is that plan; nil where it cannot be worked out.
func (m *Making) bookPlan() *plan.Plan { return m.book().plan }

// worked is how far the dough was kneaded, in min of hand kneading with the credit of its rests, when the step of that
// key had taken so long; 0 where
// it is no kneading of the plan’s.
func (m *Making) worked(key string, at float64) float64 {
	way := m.Begun.Knead.Way.Steps
	var rests []*Progress
	for i := range m.Steps {
		if strings.HasPrefix(m.Steps[i].Key, "rest.") {
			rests = append(rests, m.State.Steps[m.Steps[i].Key])
		}
	}
	var minutes []float64
	kneadings, resting := 0, 0
	for _, s := range way {
		if s.Rests() {
			took := s.Min
			if resting < len(rests) && rests[resting].Took() > 0 {
				took = rests[resting].counts()
			}
			resting++
			minutes = append(minutes, took)
			continue
		}
		kneadings++
		of := fmt.Sprintf("knead.%d", kneadings)
		if of == key {
			return m.Begun.Kneaded(append(minutes, at))
		}
		took := 0.
		if d := m.State.Steps[of]; d != nil {
			took = d.counts()
		}
		minutes = append(minutes, took)
	}
	return 0
}

// kneadsTo is how far the plan kneads the dough where it stands on more minutes than that needs, less what nobody
// tells apart; without end where it
// does not.
func (m *Making) kneadsTo() float64 {
	const apart = .5 // min of hand kneading
	if k, counts := m.Begun.Kneading(); counts && k.Floored {
		return k.DoneMin - apart
	}
	return math.Inf(1)
}

// lost reads what stayed on bowl and board, where every piece was weighed.
func (b *Evidence) lost(m *Making) {
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

func gapOf(m *roll.Machine, stop string) float64 {
	for _, s := range m.Stops {
		if s.Label == stop {
			return s.GapMM
		}
	}
	return 0
}

// movedOf is by how much the plan moved what a stop gives, times: what is learned of it, as far as the stops stayed in
// order.
func movedOf(p *plan.Plan, stop string) float64 {
	kept := p.Request.Roll.Kind()
	for i, s := range p.Roll.Machine.Stops {
		if s.Label == stop && i < len(kept.Stops) && kept.Stops[i].TrueMM() > 0 {
			return s.TrueMM() / kept.Stops[i].TrueMM()
		}
	}
	return 0
}

// looks reads what was looked at and tried, each against the planned minutes without what was learned.
func (b *Evidence) looks(m *Making, events []Event) {
	l := m.Begun.Rules().Learned
	notYet := map[string]int{} // the place of the last such look, by what it was of
	see := func(of string, at, planned float64, word string, to *[]Ratio) {
		if planned <= 0 || at <= 0 {
			return
		}
		x := round(at / planned)
		switch word {
		case "not yet": // of several the last alone says when: they are of one dough
			if n, looked := notYet[of]; looked && (*to)[n].To == 0 {
				(*to)[n].From = math.Max(x, (*to)[n].From)
				return
			}
			notYet[of] = len(*to)
			*to = append(*to, Ratio{From: x})
		case "right":
			// it came between the two; the look before says no more by itself
			if n, looked := notYet[of]; looked && (*to)[n].From < x {
				(*to)[n].To = x
			} else {
				*to = append(*to, Ratio{x, x})
			}
		case "past":
			*to = append(*to, Ratio{To: x})
		}
	}
	for _, e := range events {
		look, looked := e.Says.(Looked)
		poke, poked := e.Says.(Poked)
		i := slices.IndexFunc(m.Steps, func(s Step) bool { return s.Key == e.Step() })
		if i < 0 || !looked && !poked {
			continue
		}
		s, d := &m.Steps[i], m.State.Steps[e.Step()]
		at := e.At.Sub(d.Began).Minutes()
		if d.Began.IsZero() || at < 0 || at > request.MostStepMin {
			continue // of what had not begun, or was forgotten for days, a look says nothing
		}
		switch {
		case poked && s.Station == request.AtRest:
			slow := poke.S >= m.Begun.Rules().Learn.PokeOpenS // so slow that nobody tells how relaxed it is
			x, t0, rest := m.Ahead.Relaxes()
			switch {
			case x <= 0 || rest <= 0 || at <= 1:
			case slow && m.Begun.RestFloored():
				b.unseen().RestMin = round(rest)
			default:
				b.Rest = append(b.Rest, Poke{poke.S, round(x * l.Rest.K() * math.Min(1, at/rest)), round(t0)})
			}
		case poked:
		case s.Station == request.AtKnead && s.Kind == Work:
			if book := m.bookPlan(); book != nil {
				by, counts := book.Kneading()
				if worked, end := m.worked(s.Key, at), m.kneadsTo(); counts && worked > 0 {
					if _, before := notYet["knead"]; look.Look == "right" && !before && worked >= end {
						// smooth at the end of more minutes than it needs
						b.unseen().KneadMin = round(m.Begun.KneadsMin())
						continue
					}
					see("knead", worked, by.NeedMin, look.Look, &b.Knead)
				}
			}
		case s.Station == request.AtDry && s.Kind == Wait:
			if book := m.bookPlan(); book != nil && book.Dry.Moment(s.Key) != nil {
				d := book.Dry.Moment(s.Key)
				planned := d.Right.FromMin
				if look.Look == "past" {
					planned = d.Brittle.FromMin
				}
				if planned > 0 {
					see("dry", at, planned, look.Look, &b.Dry)
				}
			}
		case s.Kind == Pot && !s.Through: // what is raw inside is not timed by taste
			see(s.Key, 60*at, m.Ahead.BookPotS(s.Part), look.Look, &b.Cook)
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
