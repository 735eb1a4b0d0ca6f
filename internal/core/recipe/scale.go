package recipe

import (
	"fmt"
	"math"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
)

// Want is how much is to be made: one of them.
type Want struct {
	Portions float64
	DoughG   float64
	FlourG   float64
	Eggs     float64 // whole eggs; yolks, where it has no whole ones
	Times    float64 // as much as it makes
	// Exactly has an own recipe beaten and weighed to the gram instead of led by whole eggs.
	Exactly bool
}

// Scaled is what came of scaling.
type Scaled struct {
	Asked  float64 // times what the recipe makes
	Factor float64 // what everything was taken by
	Eggs   float64 // whole eggs, or yolks where there are none; 0: neither leads
	Words  []string
}

// The sums of scaling. Source: house.
const (
	leastShare = .98  // of the eggs asked for that are enough
	overShare  = 1.25 // of what was asked, from which on it is said
)

// asked is how many times what p makes is wanted.
func (w Want) asked(p *plan.Plan) (float64, error) {
	f := &p.Formula
	eggs := float64(0)
	if w := p.Request.Eggs.FixWhole; w != nil {
		eggs = *w
	} else {
		eggs = float64(f.Pick.Whole)
	}
	if yolks := p.Request.Eggs.FixYolks; eggs == 0 && yolks != nil {
		eggs = *yolks
	}
	for _, x := range []struct{ want, makes float64 }{{w.Portions, f.Portions}, {w.DoughG, f.Dough.MassG}, {w.FlourG,
		f.FlourG},
		{w.Eggs, eggs}, {w.Times, 1}} {
		if x.want > 0 && x.makes > 0 {
			return x.want / x.makes, nil
		}
	}
	return 0, measure.Faultf("amount", "say how much is to be made")
}

// Scale makes a recipe at another amount. p is its plan. What is worked out gets its amount; what is made at the
// maker's word keeps its ratios: whole eggs lead, nothing is added, no share is moved. Minutes, passes and stops
// stay. An error where nothing is wanted.
func Scale(r request.Request, p *plan.Plan, w Want) (request.Request, Scaled, error) {
	k, err := w.asked(p)
	if err != nil {
		return r, Scaled{}, err
	}
	out := request.Pruned(request.Padded(r)) // lists of its own
	s := Scaled{Asked: k, Factor: k}
	if r.Amount.By == request.ByOwn {
		s.lead(&out, w.Exactly, p)
		own(&out, &s)
		s.said(&out, p)
	} else {
		worked(&out, p, w, k)
	}
	whole(&out, s.Factor)
	return out, s, nil
}

// worked sets the amount of what is worked out.
func worked(r *request.Request, p *plan.Plan, w Want, k float64) {
	a := &r.Amount
	switch {
	case w.Portions > 0:
		a.By, a.Portions = request.ByPortions, w.Portions
	case w.DoughG > 0:
		a.By, a.DoughG = request.ByDough, math.Round(w.DoughG)
	default:
		a.By, a.FlourG = request.ByFlour, math.Round(k*p.Formula.FlourG)
	}
	if a.By != request.ByEggs {
		r.Eggs.CrackedG = nil
	}
	for _, n := range []**float64{&r.Eggs.FixWhole, &r.Eggs.FixYolks} {
		if *n != nil {
			*n = times(**n, k, 1)
		}
	}
}

// lead finds the factor: by whole eggs, else yolks, else as it was asked.
func (s *Scaled) lead(r *request.Request, exactly bool, p *plan.Plan) {
	n := r.Eggs.FixWhole
	if n == nil || *n == 0 {
		n = r.Eggs.FixYolks
	}
	if n == nil || *n == 0 {
		return
	}
	if exactly {
		each := p.Formula.WholeG + p.Formula.YolkG
		s.Eggs = math.Ceil(s.Asked**n - 1e-9)
		jug := math.Round(s.Asked * each)
		r.Eggs.CrackedG = &jug
		return
	}
	s.Eggs = max(1, math.Ceil(leastShare*s.Asked**n-1e-9))
	s.Factor = s.Eggs / *n
}

// own takes flour, eggs and liquid of a recipe at the maker's word by the factor.
func own(r *request.Request, s *Scaled) {
	was := *r
	step := 1.
	if r.Bench.Tenths {
		step = .1
	}
	grams := func(g float64) float64 { return step * math.Round(g*s.Factor/step) }
	r.Amount.FlourG = grams(r.Amount.FlourG)
	if l := r.Eggs.LiquidG; l != nil {
		v := grams(*l)
		r.Eggs.LiquidG = &v
	}
	led := false
	for _, n := range []**float64{&r.Eggs.FixWhole, &r.Eggs.FixYolks} {
		switch {
		case *n == nil || **n == 0:
		case !led && s.Eggs > 0:
			v := s.Eggs
			*n, led = &v, true
		default:
			*n = times(**n, s.Factor, 0)
		}
	}
	for i := range r.Eggs.Also {
		r.Eggs.Also[i].Count = *times(r.Eggs.Also[i].Count, s.Factor, 0)
	}
	scaleMeasures(r, &was, s.Factor)
}

// times is a count times k, to the nearest whole and no less than that.
func times(n, k, least float64) *float64 {
	v := max(least, math.Round(n*k))
	return &v
}

// whole takes what is said of the whole batch by the factor: what a filling costs, other shapes, pieces.
func whole(r *request.Request, k float64) {
	if r.Prices.Filling != nil {
		v := *r.Prices.Filling
		v = roundMoney(v, k)
		r.Prices.Filling = &v
	}
	for i := range r.Cut.Also {
		x := &r.Cut.Also[i]
		v := x.Portions * k
		switch x.By {
		case request.ShareByPieces, request.ShareByHandful:
			v = max(1, math.Round(v))
		case request.ShareByGrams:
			v = max(1, math.Round(v))
		default:
			v = max(.5, math.Round(2*v)/2)
		}
		x.Portions = v
	}
	if r.Roll.Pieces != nil {
		r.Roll.Pieces = times(*r.Roll.Pieces, k, 1)
	}
}

// said says what a maker would want to know of an own recipe at its new amount.
func (s *Scaled) said(r *request.Request, p *plan.Plan) {
	if s.Factor > overShare*s.Asked {
		s.Words = append(s.Words, fmt.Sprintf("Whole eggs lead: it makes %.0f %% more than was asked.",
			100*(s.Factor/s.Asked-1)))
	}
	q, err := plan.Make(p.Rules(), *r)
	if err != nil {
		return
	}
	if moved := q.Formula.Dough.Hw - p.Formula.Dough.Hw; math.Abs(moved) >= .05 {
		way := "wetter"
		if moved < 0 {
			way = "drier"
		}
		s.Words = append(s.Words, fmt.Sprintf("Counted to whole numbers it is %.1f points %s.", math.Abs(moved), way))
	}
}
