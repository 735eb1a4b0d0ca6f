package bench

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
)

// Making is a run through a batch as it stands: what it was begun with, its steps, what is to come worked
// out again from what has happened, and what that changed.
type Making struct {
	Begun  *plan.Plan
	Ahead  *plan.Plan // as it has come to be; Begun where nothing is otherwise
	Steps  []Step
	State  State
	Change string // one sentence, "" where nothing is otherwise
}

// Run folds the events of a making over the plan it was begun with, and works out again what is to come.
// What has happened never changes.
func Run(p *plan.Plan, began time.Time, events []Event) Making {
	m := Making{Begun: p, Ahead: p, Steps: Steps(p)}
	m.State = Fold(m.Steps, began, events)
	ahead, ok := m.ahead()
	if !ok {
		return m
	}
	m.Ahead = ahead
	m.merge(Steps(ahead))
	m.State = Fold(m.Steps, began, events)
	m.Change = m.change()
	return m
}

// Otherwise is from what share a duration counts as another than planned. Source: house.
const Otherwise = .15

// ahead makes the plan again from what was weighed and how long things took; false where that is as planned, or
// beyond what can be worked out.
func (m *Making) ahead() (*plan.Plan, bool) {
	r := m.Begun.Request
	weighed := m.weighed(&r)
	spent := m.spent(&r)
	if !weighed && !spent {
		return nil, false
	}
	p, err := plan.MakeIn(m.Begun.In(), m.Begun.Rules(), r)
	if err != nil {
		return nil, false
	}
	if spent {
		p = m.rested(p)
	}
	return p, true
}

// weighed puts what lay on the scale in place of what was planned; false where it is the same to the scale.
func (m *Making) weighed(r *request.Request) bool {
	p, f := m.Begun, &m.Begun.Formula
	off := false
	got := func(key string, planned float64) float64 {
		x := m.State.Steps["weigh."+key]
		if x == nil || x.Status != WasDone || x.G == 0 {
			return planned
		}
		off = off || math.Abs(x.G-planned) > Tolerance(planned)
		return x.G
	}
	flours := make([]float64, len(f.Flours))
	all := 0.
	for i, x := range f.Flours {
		flours[i] = got(fmt.Sprintf("flour.%d", i+1), x.Share*p.Room.FlourG)
		all += flours[i]
	}
	eggs := got("eggs", f.Pick.EggG)
	liquid := got("pour", p.Room.PourG) + got("board", p.Room.KeepG)
	salt, oil := got("salt", f.SaltG), got("oil", f.OilG)
	adds := make([]float64, len(f.Additions))
	for i, x := range f.Additions {
		adds[i] = got(fmt.Sprintf("addition.%d", i+1), x.MassG)
	}
	for _, x := range m.State.Remarks {
		switch {
		case x.What == Added && x.Text == "water":
			liquid, off = liquid+x.G, true
		case x.What == Left && x.Text == "flour":
			for i := range flours {
				flours[i] -= x.G * flours[i] / all
			}
			all, off = all-x.G, true
		}
	}
	if !off || all <= 0 {
		return false
	}
	p.AmountsInto(r)
	r.Amount.By, r.Amount.FlourG, r.Amount.Open = request.ByOwn, plan.Tenth(all), false
	r.Flours = slices.Clone(r.Flours)
	for i := range r.Flours {
		r.Flours[i].Share = flours[i] / all
	}
	r.Eggs.CrackedG, r.Eggs.LiquidG = plan.Some(plan.Tenth(eggs)), plan.Some(plan.Tenth(liquid))
	r.Salt, r.Oil = salt/all, oil/all
	r.Additions = slices.Clone(r.Additions)
	for i := range r.Additions {
		r.Additions[i].Share = adds[i] / all
	}
	r.Used, r.Acts = request.Used{}, []request.Act{}
	return true
}

// timed are the plan's steps that make its way of kneading and resting, in order.
func timed(steps []Step) (out []Step) {
	for _, s := range steps {
		switch kind, _, _ := strings.Cut(s.Key, "."); kind {
		case "mix", "knead", "rest":
			out = append(out, s)
		}
	}
	return out
}

// spent puts how long mixing, kneading and resting took in place of what was planned; false where it is the same.
func (m *Making) spent(r *request.Request) bool {
	way, steps := m.Begun.OwnSteps(), timed(m.Steps)
	if len(way) != len(steps) || m.Begun.Clock != nil {
		return false
	}
	off := false
	for i, s := range steps {
		x := m.State.Steps[s.Key]
		if x.Status != WasDone && x.Status != LeftOut {
			continue
		}
		took := x.Took()
		if x.Status == LeftOut {
			took = 0
		}
		if math.Abs(took-s.PlanMin) > math.Max(1, Otherwise*s.PlanMin) {
			way[i].Min, off = math.Round(10*took)/10, true
		}
	}
	if !off {
		return false
	}
	r.Knead.By, r.Knead.Steps = request.KneadOwn, way
	return true
}

// rested gives the rest that is to come the minutes the dough wants by now.
func (m *Making) rested(p *plan.Plan) *plan.Plan {
	way, steps := slices.Clone(p.Request.Knead.Steps), timed(m.Steps)
	last := len(steps) - 1
	if last < 0 || len(way) != len(steps) || steps[last].Kind != Wait || p.Rest.ReadyAtMin < 0 {
		return p
	}
	if x := m.State.Steps[steps[last].Key]; x.Status == WasDone || x.Status == LeftOut {
		return p
	}
	before := 0.
	for _, s := range way[:last] {
		before += s.Min
	}
	way[last].Min = math.Ceil(math.Max(0, p.Rest.ReadyAtMin-before))
	r := p.Request
	r.Knead.Steps = way
	if again, err := plan.MakeIn(p.In(), p.Rules(), r); err == nil {
		return again
	}
	return p
}

// merge takes what is to come from the steps of the plan made again, where it has them.
func (m *Making) merge(now []Step) {
	by := map[string]*Step{}
	for i := range now {
		by[now[i].Key] = &now[i]
	}
	for i := range m.Steps {
		s := &m.Steps[i]
		n := by[s.Key]
		if st := m.State.Steps[s.Key].Status; n == nil || st == WasDone || st == LeftOut {
			continue
		}
		switch s.Kind {
		case Weigh, SetOut: // what is weighed next stays as it was asked for
		case Work:
			if strings.HasPrefix(s.Key, "mix.") || strings.HasPrefix(s.Key, "knead.") {
				continue // hands go on as they began
			}
			fallthrough
		default:
			s.Min, s.LeastMin, s.MostMin = n.Min, n.LeastMin, n.MostMin
			s.WantG, s.Much, s.SheetMM, s.LengthMM, s.Sign = n.WantG, n.Much, n.SheetMM, n.LengthMM, n.Sign
			if s.Kind != Wait {
				s.Say = n.Say
			}
		}
	}
}

// change says in one sentence what is otherwise by now.
func (m *Making) change() string {
	a, b := m.Begun, m.Ahead
	var parts []string
	if hw, was := b.Formula.Dough.Hw, a.Formula.Dough.Hw; math.Abs(hw-was) >= .2 {
		word := "wetter"
		if hw < was {
			word = "drier"
		}
		parts = append(parts, fmt.Sprintf("working hydration %.1f where %.1f was planned, %s to the hand", hw, was, word))
	}
	if g, was := b.Formula.Dough.MassG, a.Formula.Dough.MassG; math.Abs(g-was) > .01*was {
		parts = append(parts, fmt.Sprintf("%s of dough where %s was", a.In().Grams(g), a.In().Grams(was)))
	}
	for _, s := range m.Steps {
		if s.Kind == Wait && strings.HasPrefix(s.Key, "rest.") && m.State.Steps[s.Key].Status != WasDone {
			if math.Abs(s.Min-s.PlanMin) >= 1 {
				parts = append(parts, fmt.Sprintf("rest %s where %s was", measure.Minutes(s.Min), measure.Minutes(s.PlanMin)))
			}
		}
	}
	if len(parts) == 0 {
		return ""
	}
	return measure.Capital(strings.Join(parts, "; ")) + "."
}
