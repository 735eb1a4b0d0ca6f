package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// ownWay is the maker's own way as the model follows it, nil where a school works it out. What is mixed
// before anything else is over when the model starts.
func (p *Plan) ownWay() *knead.Own {
	k := &p.Request.Knead
	if !k.Own() {
		return nil
	}
	o := &knead.Own{FoodMin: p.rules.Safety.MixMin}
	for _, s := range k.Steps[:mixesFirst(k.Steps)] {
		o.MixMin += s.Min
		o.Machine = o.Machine || s.Do != request.DoMix
	}
	o.FoodMin = max(o.FoodMin, o.MixMin)
	pieces := max(1, request.Or(p.Request.Roll.Pieces, math.Round(p.Formula.FlourG/p.pieceFlourG())))
	for _, s := range k.Steps[mixesFirst(k.Steps):] {
		step := knead.Step{By: s.Do.Tool(), Min: s.Min}
		if s.Do.Rests() {
			chill, flat := 0., 0.
			switch s.Cover {
			case request.CoverPieces:
				chill = p.Formula.Dough.MassG / pieces
			case request.CoverFlat:
				flat = request.Or(p.Request.Rest.FlatMM, p.rules.Knead.FlatMM)
			}
			step = knead.Lie(step.By, s.Min, chill, flat)
			step.Lies, step.Tempers = string(s.Cover), s.Do == request.DoTemper
			if s.Do == request.DoPause && s.Cover == request.CoverUsual {
				step.Lies = string(request.CoverBowl)
			}
		} else if s.Hands != request.HandsTurns {
			step = step.Once()
		}
		o.Steps = append(o.Steps, step)
	}
	return o
}

// mixesFirst is how many steps at the beginning only mix.
func mixesFirst(steps []request.KneadStep) int {
	n := 0
	for n < len(steps) && steps[n].Do.Mixes() {
		n++
	}
	return n
}

// ownLoads is how a batch is divided by the maker's own steps: shared out or load by load where one of them
// says so, by what the hands or the bowl of that step take.
func (p *Plan) ownLoads() loads {
	out, machine := loads{n: 1, turns: 1}, false
	for _, s := range p.Request.Knead.Steps {
		if s.Do.Rests() || s.Do.Mixes() {
			continue
		}
		by := p.loadsOf(s.Do, s.Hands == request.HandsShared)
		switch {
		case s.Hands == request.HandsTurns && by.n > out.n, s.Hands == request.HandsShared && by.shared:
			return by
		}
		if isMachine := s.Do != request.DoHand; isMachine || !machine {
			out.limitG, machine = by.limitG, isMachine // the bowl counts, where there is one
		}
	}
	return out
}

// loadsOf is what one pair of hands or the bowl of a step takes at once.
func (p *Plan) loadsOf(do request.KneadDo, shared bool) loads {
	return p.loadsShared(do.School(), shared)
}

// OwnSteps is the way of the plan as a maker would say it: the school's, to change a step of.
func (p *Plan) OwnSteps() []request.KneadStep {
	if p.Request.Knead.Own() {
		return slices.Clone(p.Request.Knead.Steps)
	}
	school, ru := p.Knead.School.Traits(), &p.rules.Knead
	mix := request.KneadStep{Do: request.DoMix, Min: ru.MixHandMin}
	if school.Machine() {
		mix.Do, mix.Min = request.DoMixMachine, ru.MixMachineMin
		if p.Knead.School == knead.Processor {
			mix.Do = request.DoMixProcessor
		}
	}
	out := []request.KneadStep{mix}
	_, _, w := p.solve(p.Knead.School, func(a *knead.Ask) { a.MoreKnead, a.MoreRest = 0, 0 })
	for i, s := range w.Steps {
		o := request.KneadStep{Min: s.Min}
		switch {
		case s.Rests() && hasWork(w.Steps[i:]):
			o.Do = request.DoPause
		case s.By == knead.InFridge:
			o.Do = request.DoFridge
		case s.By == knead.InRoom && i > 0 && w.Steps[i-1].By == knead.InFridge:
			o.Do = request.DoTemper
		case s.By == knead.InRoom:
			o.Do = request.DoRest
		default:
			o.Do = request.KneadDo(s.By)
			if p.Knead.Shared {
				o.Hands = request.HandsShared
			} else if p.Knead.Loads > 1 {
				o.Hands = request.HandsTurns
			}
		}
		if s.Spread && p.ask.ChillG > 0 {
			o.Cover = request.CoverPieces
		} else if s.Spread {
			o.Cover = request.CoverFlat
		}
		out = append(out, o)
	}
	return out
}

// hollens is the way a school would work this dough, beside the maker's own; nil where that is the way.
func (p *Plan) hollens() *knead.Way {
	if p.ask.Own == nil {
		return nil
	}
	_, _, w := p.solveBy(p.Knead.School, p.loadsBy(p.Knead.School), nil)
	return &w
}

// sameWay says whether the maker's own way is the school's, to the minute.
func (p *Plan) sameWay() bool {
	loads := p.loadsBy(p.Knead.School)
	_, a, w := p.solveBy(p.Knead.School, loads, nil)
	mix, machine := p.rules.Knead.MixHandMin, a.School.Traits().Machine()
	if machine {
		mix = p.rules.Knead.MixMachineMin
	}
	own, k := p.ask.Own, &p.Knead
	return own.MixMin == mix && own.Machine == machine && loads.n == k.Loads && loads.shared == k.Shared &&
		slices.EqualFunc(w.Steps, p.way.Steps, func(x, y knead.Step) bool {
			return x.By == y.By && x.Min == y.Min &&
				x.Spread == y.Spread
		}) &&
		w.Folds == p.way.Folds
}

// ownWords is the kneading of the maker's own way in words: "8 min and 5 min by hand".
func (p *Plan) ownWords() string {
	said := map[knead.Tool]string{knead.ByHand: "by hand", knead.BySlowHook: "on the hook, slow",
		knead.ByHook:      "on the hook",
		knead.ByProcessor: "in the processor"}
	var order []knead.Tool
	minutes := map[knead.Tool][]string{}
	for _, x := range p.way.Steps {
		if _, worked := said[x.By]; worked {
			if minutes[x.By] == nil {
				order = append(order, x.By)
			}
			minutes[x.By] = append(minutes[x.By], measure.Exactly(x.Min))
		}
	}
	var out []string
	for _, by := range order {
		text := measure.List(minutes[by])
		if n := len(minutes[by]); n > 1 && len(slices.Compact(slices.Clone(minutes[by]))) == 1 {
			text = measure.Plural(n, "time", "times") + " " + minutes[by][0]
		}
		out = append(out, text+" "+said[by])
	}
	if len(out) == 0 {
		return "No kneading"
	}
	return measure.List(out)
}

// restsMin is all rest of the way, min.
func (p *Plan) restsMin() float64 {
	sum := 0.
	for _, s := range p.way.Steps {
		if s.Rests() {
			sum += s.Min
		}
	}
	return sum
}

// explainOwn gives the reasons of a way of the maker's own, and what the school would do.
func (p *Plan) explainOwn() {
	w := p.hollens()
	theirs := p.Knead.School.Traits().Work(&p.rules.Knead, w)
	rest := "no rest"
	if w.RestMin > 0 {
		rest = measure.Minutes(w.RestMin) + " of rest"
	}
	say := fmt.Sprintf("Your own steps, as you say them: %s from flour to the %s. %s would be %s and %s: %s.",
		measure.Minutes(p.way.ElapsedMin), p.toWhat(),
		p.Knead.School.Traits().Short, theirs, rest, measure.Minutes(w.ElapsedMin))
	p.say("knead.school", "%s", say)
	hot := knead.Long.Traits()
	for _, s := range p.way.Steps {
		switch s.By {
		case knead.ByProcessor:
			hot = knead.Processor.Traits()
		case knead.ByHook:
			if hot.School != knead.Processor {
				hot = knead.Hook.Traits()
			}
		}
	}
	p.say("knead.peak", "From %s when it comes together, and %s a minute %s.", p.in.C(p.Room.ContactC, 0),
		p.in.RiseC(hot.HeatC(&p.rules.Knead)), hot.WarmedBy)
}

// toWhat names where the dough goes after its rest.
func (p *Plan) toWhat() string {
	if p.Pinned() {
		return "board"
	}
	return "roller"
}

// adviseOwn comments on the steps of the maker's own way; none of it changes them.
func (p *Plan) adviseOwn() {
	k := &p.Request.Knead
	if k.By == request.KneadOwn && len(k.Steps) == 0 {
		p.note(request.AtKnead, "knead.school", Remark, "no_steps", "No step of your own yet.",
			"Until there is one, the school works it out.")
	}
	if p.ask.Own == nil {
		return
	}
	if mixesFirst(k.Steps) == 0 {
		p.note(request.AtKnead, "knead.school", Remark, "no_mix", "No mixing in it.",
			"Flour and egg take some minutes to hang together: as a step they count in the hours and in the day.")
	}
	limit := p.Knead.LimitG
	if mass := p.Formula.Dough.MassG; p.Knead.Loads == 1 && !p.Knead.Shared && limit > 0 && mass > limit+.5 {
		p.note(request.AtKnead, "knead.min", Remark, "own_much", "Much at once.",
			"%s where %s is usual here: the minutes of work reach less of it. Lot by lot, "+
				"or shared out, can be said at each step.", p.in.Grams(mass), p.in.Grams(limit))
	}
	for _, s := range p.way.Steps {
		if s.Rests() && s.Lies == string(request.CoverNone) && s.Min > openMin {
			p.note(request.AtRest, "rest.min", Remark, "open", "It lies open.",
				"In %s a skin forms that rolls into flakes; a damp cloth or a bowl keeps it off.",
				measure.Minutes(s.Min))
			break
		}
	}
}

// openMin is how long a dough may lie open before it skins, min. Source: house.
const openMin = 5

// longerLast says how long the last kneading of the maker's own way would have to be until it serves; ""
// where no minutes within reason do.
func (p *Plan) longerLast(most float64) string {
	own := p.ask.Own
	last := -1
	for i, s := range own.Steps {
		if !s.Rests() && s.By != knead.ByMixing {
			last = i
		}
	}
	if last < 0 {
		return ""
	}
	longer := *own
	longer.Steps = slices.Clone(own.Steps)
	for m := math.Ceil(longer.Steps[last].Min) + 1; m <= most; m++ {
		longer.Steps[last].Min = m
		a := p.ask
		a.Own = &longer
		if w := p.model.Solve(a); w.DFolded >= p.rules.Knead.ReadyD {
			return "make the last kneading " + measure.Minutes(m)
		}
	}
	return ""
}

// handWords is the n-th kneading by hand of the maker's own way, of so many, after what was done before.
func (p *Plan) handWords(s knead.Step, n int, before knead.Tool) knead.Words {
	hands := 0
	for _, x := range p.way.Steps {
		if x.By == knead.ByHand {
			hands++
		}
	}
	switch {
	case before == knead.ByProcessor:
		return knead.Processor.Traits().Hand(n, hands)
	case hands > 1:
		return knead.Turns.Traits().Hand(n, hands)
	case s.Min <= p.rules.Knead.ShortMaxMin:
		return knead.Short.Traits().Hand(1, 1)
	}
	return knead.Long.Traits().Hand(1, 1)
}

// ownRest is how the dough lies in a rest of the maker's own, in words; "" as usual.
func (p *Plan) ownRest(s knead.Step) string {
	switch request.Cover(s.Lies) {
	case request.CoverFilm:
		return "In film, airtight."
	case request.CoverBowl:
		return "Under the upturned bowl. It softens by itself."
	case request.CoverNone:
		return "Open on the board."
	case request.CoverPieces:
		return "Divide it, press each piece flat, and film each: airtight, and it cools and warms through sooner."
	case request.CoverFlat:
		return fmt.Sprintf("Press it %s flat and film it: airtight, and it cools and warms through sooner.",
			p.in.MM(request.Or(p.Request.Rest.FlatMM, p.rules.Knead.FlatMM), 0))
	}
	return ""
}

// KneadWords is all kneading in as few words as a figure has: "8 + 5", "2 × 5", "10".
func (p *Plan) KneadWords() string {
	w := &p.Knead.Way
	switch {
	case !w.Uneven && w.Turns > 1 && p.ask.Own == nil:
		return fmt.Sprintf("%d × %.0f", w.Turns, w.KneadMin)
	case p.ask.Own == nil:
		return fmt.Sprintf("%.3g", w.WorkMin)
	}
	var out []string
	same := true
	for _, s := range w.Steps {
		if !s.Rests() && s.By != knead.ByMixing {
			out = append(out, fmt.Sprintf("%.3g", s.Min))
			same = same && out[0] == out[len(out)-1]
		}
	}
	switch n := len(out); {
	case n == 0:
		return "0"
	case same && n > 1:
		return fmt.Sprintf("%d × %s", n, out[0])
	case n > 3:
		return fmt.Sprintf("%.3g", w.WorkMin)
	}
	return strings.Join(out, " + ")
}
