package bench

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/doctor"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
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
	Food   Food
	Change string // one sentence, "" where nothing is otherwise
	// Changes are the same, each with the step it concerns: that is where it is said, until it is done.
	Changes []Change

	byBook *booked // worked out when it is first asked for
}

// Run folds the events of a making over the plan it was begun with, and works out again what is to come.
// Steps that have happened are never changed.
func Run(p *plan.Plan, began time.Time, events []Event) Making {
	ordered := Ordered(events)
	m := Making{Begun: p, Ahead: p, Steps: withOwn(p, Steps(p), ordered)}
	m.State = fold(m.Steps, began, ordered)
	if ahead, ok := m.ahead(); ok {
		m.Ahead = ahead
		m.merge(Steps(ahead))
		m.State = fold(m.Steps, began, ordered)
	}
	m.asMeasured()
	m.Food = m.food()
	m.Changes = m.changes(ordered)
	m.Change = changeWords(m.Changes)
	return m
}

// Change is one thing that has come to be otherwise, and the step it concerns; "" of all of it.
type Change struct {
	Step string `json:"step"`
	Text string `json:"text"`
}

// changeWords say all of them in one sentence; "" where there are none.
func changeWords(all []Change) string {
	var parts []string
	for _, c := range all {
		parts = append(parts, c.Text)
	}
	if len(parts) == 0 {
		return ""
	}
	return measure.Capital(strings.Join(parts, "; ")) + "."
}

// inDough says whether an event is of what went into the dough.
func inDough(s Said) bool {
	switch s.(type) {
	case Weighed, Added, Seen, Left:
		return true
	}
	return false
}

// saidAt is the key of the step that was on when the last event of a kind was said; of what was weighed, the first that
// works the dough.
func (m *Making) saidAt(events []Event, is func(Said) bool) string {
	for i := len(events) - 1; i >= 0; i-- {
		if !is(events[i].Says) {
			continue
		}
		for _, s := range m.Steps {
			x := m.State.Steps[s.Key]
			worked := s.Kind != Weigh && s.Kind != SetOut && s.Kind != Divide
			if worked && (x.Status != WasDone && x.Status != LeftOut || x.Over.After(events[i].At)) {
				return s.Key
			}
		}
		return ""
	}
	return ""
}

// ahead makes the plan again from what was weighed, done and decided, and how long things took; false where that
// is as planned, or beyond what can be worked out.
func (m *Making) ahead() (*plan.Plan, bool) {
	all := []func(*request.Request) bool{m.weighed, m.acted, m.spent, m.shaped, m.poked}
	const dough = 3 // the first so many change the dough, and with it its rest
	r := m.Begun.Request
	off := false
	doughOff := false
	for i, part := range all {
		if part(&r) {
			off, doughOff = true, doughOff || i < dough
		}
	}
	if !off {
		return nil, false
	}
	p, err := plan.MakeIn(m.Begun.In(), m.Begun.Rules(), r)
	if err != nil { // something cannot be worked out: without that
		p = nil
		r = m.Begun.Request
		doughOff = false
		for i, part := range all {
			next := r
			if !part(&next) {
				continue
			}
			if q, err := plan.MakeIn(m.Begun.In(), m.Begun.Rules(), next); err == nil {
				p = q
				r = next
				doughOff = doughOff || i < dough
			}
		}
	}
	if p == nil {
		return nil, false
	}
	if doughOff {
		p = m.rested(p)
	}
	return p, true
}

// weighed puts what lay on the scale in place of what was planned; false where it is the same to the scale.
func (m *Making) weighed(r *request.Request) bool {
	p := m.Begun
	f := &m.Begun.Formula
	ru := m.Begun.Rules().Bench
	off := false
	loads := p.BowlLoads()
	got := func(key string, planned float64) (sum float64) {
		each := planned / float64(loads)
		for k := range loads {
			x := m.State.Steps["weigh."+LoadKey(key, k+1)]
			if x == nil || x.Status != WasDone || x.G == 0 {
				sum += each
				continue
			}
			off = off || math.Abs(x.G-each) > Tolerance(ru, each)
			sum += x.G
		}
		return sum
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
	// Where something is added until the dough takes no more, the amount is known once somebody weighs what is left.
	if f.OpenG > 0 && !m.leftOf("flour") {
		for i := range flours {
			flours[i] *= f.FlourG / f.OpenG
		}
		all *= f.FlourG / f.OpenG
	}
	if f.OpenLiquidG > 0 && !m.leftOf("water") {
		liquid *= f.TopG / f.OpenLiquidG
	}
	w := inBowl{flours, all, eggs, liquid, oil, 0}
	off = m.besides(&w, r.Eggs.TopUp == egg.TopMilk) || off
	all = w.all
	eggs = w.eggs
	liquid = w.liquid
	oil = w.oil
	if !off || all <= 0 {
		return false
	}
	p.AmountsInto(r)
	r.Amount.By = request.ByOwn
	r.Amount.FlourG = plan.Tenth(all)
	r.Amount.Open = false
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
	r.Eggs.LiquidOpen = false
	if w.milk > 0 {
		r.Acts = append(r.Acts, request.Act{Kind: doctor.Milk, Amount: plan.Tenth(w.milk), Stage: request.AtKnead})
	}
	return true
}

// acted counts what was worked in because of something seen.
func (m *Making) acted(r *request.Request) bool {
	any := false
	r.Acts = slices.Clone(r.Acts)
	for _, x := range m.State.Remarks {
		seen, _ := x.Says.(Seen)
		kind := doctor.Kind(seen.Act)
		if seen.G == 0 || len(r.Acts) >= request.MaxActs ||
			!slices.Contains([]doctor.Kind{doctor.Water, doctor.Egg, doctor.Milk, doctor.Oil, doctor.Flour}, kind) {
			continue
		}
		at := request.AtKnead
		for i := range m.Steps {
			if m.Steps[i].Key == seen.Step {
				at = m.Steps[i].Station
			}
		}
		r.Acts = append(r.Acts, request.Act{Kind: kind, Amount: plan.Tenth(seen.G), Sign: seen.Sign, Stage: at})
		any = true
	}
	return any
}

// inBowl is what is in the bowl by the scale, g.
type inBowl struct {
	flours                       []float64
	all, eggs, liquid, oil, milk float64 // all: of the flours
}

// besides counts what was added besides, and what was left over; milk is of the liquid where that is milk. It says
// whether there was anything.
func (m *Making) besides(w *inBowl, milkTop bool) (any bool) {
	for _, x := range m.State.Remarks {
		g, what := 0., ""
		switch x := x.Says.(type) {
		case Added:
			g, what = x.G, x.What
		case Left:
			g, what = -x.G, x.What
		}
		switch {
		case what == "water", what == "milk" && milkTop:
			w.liquid = max(0, w.liquid+g)
		case what == "milk":
			w.milk += g
		case what == "egg":
			w.eggs = max(0, w.eggs+g)
		case what == "oil":
			w.oil = max(0, w.oil+g)
		case what == "flour":
			g = max(g, -w.all)
			for i := range w.flours {
				w.flours[i] += g * w.flours[i] / max(w.all, 1e-9)
			}
			w.all += g
		default:
			continue
		}
		any = true
	}
	return any
}

// leftOf says whether somebody has said what was left of something.
func (m *Making) leftOf(what string) bool {
	return slices.ContainsFunc(m.State.Remarks, func(e Event) bool {
		left, is := e.Says.(Left)
		return is && left.What == what
	})
}

// poked gives the dough the time a poke took to half recover.
func (m *Making) poked(r *request.Request) bool {
	s := 0.
	for _, x := range m.Steps {
		if p := m.State.Steps[x.Key]; p.PokeS > 0 {
			s = p.PokeS
		}
	}
	if s == 0 {
		return false
	}
	r.Rest.PokeS = &s
	return true
}

// shaped has pieces become what was decided on the way; what is not decided stays as planned.
func (m *Making) shaped(r *request.Request) bool {
	if len(m.State.Shapes) == 0 || m.Begun.Roped() {
		return false
	}
	pieces := m.Begun.Roll.Pieces
	var parts []request.ShapePart
	decided := 0
	for piece := 1; piece <= pieces; piece++ {
		e := m.State.Shapes[piece]
		into, ok := e.Says.(Shaped)
		if !ok || into.Shape == r.Cut.Shape && into.Own == nil {
			continue
		}
		decided++
		i := slices.IndexFunc(parts, func(x request.ShapePart) bool { return x.Shape == into.Shape })
		if i < 0 {
			parts = append(parts, request.ShapePart{Shape: into.Shape, By: request.ShareByPieces, Own: into.Own})
			i = len(parts) - 1
		}
		parts[i].Portions++
	}
	if decided == 0 {
		return false
	}
	if decided == pieces { // nothing of the first shape is left
		r.Cut.Shape, r.Cut.Own = parts[0].Shape, parts[0].Own
		r.Cut.Width = nil
		r.Cut.Long = nil
		r.Cut.Min = nil
		r.Cut.Max = nil
		r.Cut.NestG = nil
		r.Cut.PieceG = nil
		r.Cut.Tool = ""
		parts = parts[1:]
	}
	if r.Amount.By != request.ByOwn { // the dough is there: it makes what it makes
		m.Begun.AmountsInto(r)
		r.Amount.By, r.Amount.Open = request.ByOwn, false
	}
	n, mm := float64(pieces), m.Begun.Roll.TargetMM
	r.Roll.Pieces, r.Roll.TargetMM = &n, &mm
	r.Cut.Also = append(slices.Clone(r.Cut.Also), parts...)
	return true
}

// merge takes what is to come from the steps of the plan made again, where it has them.
func (m *Making) merge(now []Step) {
	by, has := map[string]*Step{}, map[string]bool{}
	for i := range now {
		by[now[i].Key] = &now[i]
	}
	for i := range m.Steps {
		has[m.Steps[i].Key] = true
	}
	for i := range now { // a shape decided on the way is cut, too
		if now[i].Kind != Cut || has[now[i].Key] {
			continue
		}
		at := len(m.Steps)
		for j := range m.Steps {
			if m.Steps[j].Kind == Cut {
				at = j + 1
			}
		}
		m.Steps = slices.Insert(m.Steps, at, now[i])
	}
	rest := lastRest(m.Steps)
	if was := lastRest(now); rest != nil && was != nil { // what was put in before it counts in its number there
		by[rest.Key] = was
	}
	for i := range m.Steps {
		s := &m.Steps[i]
		n := by[s.Key]
		if x := m.State.Steps[s.Key]; n == nil || x == nil || x.Status == WasDone || x.Status == LeftOut {
			continue
		}
		switch s.Kind {
		case Weigh, SetOut: // what is weighed next stays as it was asked for
		default:
			if kind, _, _ := strings.Cut(s.Key, "."); slices.Contains([]string{"mix", "knead", "rest", "lots"}, kind) &&
				s != rest {
				continue // hands go on as they began
			}
			s.Min = n.Min
			s.LeastMin = n.LeastMin
			s.MostMin = n.MostMin
			s.WantG = n.WantG
			s.Much = n.Much
			s.SheetMM = n.SheetMM
			s.LengthMM = n.LengthMM
			s.Sign = n.Sign
			s.Count = n.Count
			s.CountName = n.CountName
			s.RackMin = n.RackMin
			s.Then = n.Then
			s.Head = n.Head
			if s.Kind != Wait || s.Station == request.AtDry { // its sentence is of its clock
				s.Say = n.Say
			}
		}
	}
	goOn(m.Steps)
}

// lastRest is the last rest before the roller; nil where there is none.
func lastRest(steps []Step) (rest *Step) {
	for i := range steps {
		if steps[i].Kind == Pass {
			break
		}
		if steps[i].Kind == Wait && strings.HasPrefix(steps[i].Key, "rest.") {
			rest = &steps[i]
		}
	}
	return rest
}

// changes are what is otherwise by now.
func (m *Making) changes(events []Event) (parts []Change) {
	a, b := m.Begun, m.Ahead
	say := func(step, format string, of ...any) { parts = append(parts, Change{step, fmt.Sprintf(format, of...)}) }
	if hw, was := b.Formula.Dough.Hw, a.Formula.Dough.Hw; math.Abs(hw-was) >= .2 {
		word := "wetter"
		if hw < was {
			word = "drier"
		}
		say(m.saidAt(events, inDough), "working hydration %.1f where %.1f was planned, %s to the hand", hw, was, word)
	}
	if g, was := b.Formula.Dough.MassG, a.Formula.Dough.MassG; math.Abs(g-was) > .01*was {
		say(m.saidAt(events, inDough), "%s of dough where %s was", a.In().Grams(g), a.In().Grams(was))
	}
	for _, s := range m.Steps {
		if s.Kind == Wait && strings.HasPrefix(s.Key, "rest.") && m.State.Steps[s.Key].Status != WasDone {
			if !s.Own && math.Abs(s.Min-s.PlanMin) >= 1 {
				say(s.Key, "rest %s where %s was", measure.Minutes(s.Min), measure.Minutes(s.PlanMin))
			}
		}
	}
	for _, s := range m.Steps {
		if st := m.State.Steps[s.Key].Status; st == WasDone || st == LeftOut || s.Own {
			continue
		}
		if s.Kind != Pot {
			continue
		}
		part := s.Part
		tasteFrom, _ := a.PotAs(part, 1, a.PotLoss(part))
		if from := tasteFrom / 60; math.Abs(s.Min-from) > .1*from {
			say(s.Key, "taste from %s where %s was", measure.MinSec(60*s.Min), measure.MinSec(60*from))
			break
		}
	}
	for _, c := range m.cups() {
		kind, _ := flour.Find(c.Flour)
		say(m.saidAt(events, inDough), "weighed: %s a cup; kept for this cup and %s", a.In().Grams(c.G),
			cmp.Or(kind.Name, "this flour"))
	}
	if n := m.State.PutBy; n > 0 {
		say(m.saidAt(events, func(s Said) bool { _, is := s.(PutBy); return is }), "%s put by", measure.Plural(n,
			"piece", "pieces"))
	}
	if len(b.Cut.Also) > len(a.Cut.Also) {
		say(m.saidAt(events, func(s Said) bool { _, is := s.(Shaped); return is }), "shapes decided: %s",
			b.SharedWords())
	}
	return parts
}
