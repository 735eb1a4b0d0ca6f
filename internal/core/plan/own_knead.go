package plan

import (
	"math"
	"slices"

	"hollen/internal/core/knead"
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
		step.Adds = s.Add
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
	if slices.ContainsFunc(p.Request.Knead.Steps, func(s request.KneadStep) bool { return s.Add != "" }) ||
		mixesFirst(p.Request.Knead.Steps) > 1 {
		return false
	}
	return own.MixMin == mix && own.Machine == machine && loads.n == k.Loads && loads.shared == k.Shared &&
		slices.EqualFunc(w.Steps, p.way.Steps, func(x, y knead.Step) bool {
			return x.By == y.By && x.Min == y.Min &&
				x.Spread == y.Spread
		}) &&
		w.Folds == p.way.Folds
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
