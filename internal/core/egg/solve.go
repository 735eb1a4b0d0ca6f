package egg

import (
	"math"

	"hollen/internal/core/rules"
)

// Task is what the solver is asked: bring this flour to its target with eggs of this
// class, in this style.
type Task struct {
	Eggs      rules.Eggs
	Hydration rules.Hydration
	BasisWB   float64 // the flour basis, share wet basis (0.14)

	FlourG     float64 // flour as weighed, g, > 0
	F14G       float64 // the same at the 14 % basis, g, > 0
	MoistureWB float64 // of the flour as weighed, share
	TargetHw   float64 // target working hydration without yolks, points
	LossG      float64 // water the room takes while kneading, g
	ExtraWater float64 // water already in (purée, cocoa …), g
	ExtraFat   float64 // fat already in (oil), g
	GivenG     float64 // whole egg of other classes already in the bowl, edible, g

	Class     Class
	Style     Style
	TopUp     TopUp
	LockFlour bool // the flour may not be moved
	FixWhole  *int // whole eggs to use, nil when free
	FixYolks  *int // extra yolks to use, nil when free
}

// Solution is one way there. Masses in g, hydration in points of working hydration.
type Solution struct {
	Whole     int     `json:"whole_eggs"`
	Yolks     int     `json:"extra_yolks"`
	EggG      float64 `json:"egg_g"`        // whole eggs and yolks, edible
	WholeG    float64 `json:"whole_egg_g"`  // of it whole egg
	YolkG     float64 `json:"yolk_g"`       // of it extra yolk
	TopG      float64 `json:"top_up_g"`     // top-up liquid
	FlourAddG float64 `json:"flour_add_g"`  // flour moved to suit whole eggs
	Hw        float64 `json:"hw_points"`    // working hydration reached
	TargetHw  float64 `json:"target_hw"`    // target at this yolk share
	MissPts   float64 `json:"miss_points"`  // beyond the tolerance
	YolkShare float64 `json:"yolk_share"`   // extra yolk over egg mass, 0–1
	WhitesG   float64 `json:"whites_g"`     // left over
	Cost      float64 `json:"cost_j"`       // the objective, no unit
	Name      string  `json:"is,omitempty"` // what sets an alternative apart
}

// Weighed is the answer that needs no whole eggs: beat and weigh.
type Weighed struct {
	WholeG   float64 `json:"beaten_egg_g"`
	YolkG    float64 `json:"yolk_g"`
	LiquidG  float64 `json:"liquid_g"` // top-up liquid, for the styles that take it freely
	Crack    int     `json:"crack_eggs"`
	Separate int     `json:"separate_yolks"`
	Hw       float64 `json:"hw_points"`
}

// Answer is the best solution, up to four real alternatives, and the weighed row. When no
// whole number of eggs serves, Best is the weighed row's nearest and Exact is false.
type Answer struct {
	Best         Solution   `json:"best"`
	Exact        bool       `json:"found"`
	Alternatives []Solution `json:"alternatives"`
	Weighed      Weighed    `json:"beat_and_weigh"`
}

// nominal returns the yolk share the style aims at.
func (t *Task) nominal() float64 {
	switch t.Style {
	case Rich:
		return t.Eggs.RichNominal
	case YolksOnly:
		return 1
	}
	return 0
}

// target returns the target working hydration at a yolk share, points.
func (t *Task) target(share float64) float64 { return t.TargetHw + t.Hydration.YolkShift*share }

// worth returns what one gram of c brings, in g of working water.
func (t *Task) worth(c Composition) float64 { return c.Water + t.Hydration.FatWeight*c.Fat }

// dry returns the working hydration before any egg or top-up, points.
func (t *Task) dry() float64 {
	return 100 * (t.ExtraWater - t.LossG + t.Hydration.FatWeight*t.ExtraFat + t.FlourG - t.F14G) / t.F14G
}

// start returns the working hydration before any egg of the class or top-up, points: dry, and
// the eggs of other classes that are given.
func (t *Task) start() float64 { return t.dry() + 100*t.GivenG*t.worth(Whole)/t.F14G }

// freeTop says whether the style takes top-up without limit.
func (t *Task) freeTop() bool { return t.Style == WholeWater || t.Style == NoEgg }

// Try returns the solution with e whole eggs and y extra yolks:
//
//	need = (target − Hw)·F14/100
//	need > 0:              top = min(need, 8 % F), 0 if under 0.3 % F
//	need < −0.3·F14/100:   flour dF = F14·Δ/100 / ((1−m)/0.86·(1+Hw_t/100) − 1), ≤ 12 % F
//
// and its cost J = 10·miss + max(0,|share−nominal|−.03)/.05 + .5·top% + .7·dF% + .02·whites
// g per 100 g flour. miss is what remains of |Hw−target| beyond 0.3 points.
func (t *Task) Try(e, y int) Solution {
	eg, yg := float64(e)*t.Class.EdibleG+t.GivenG, float64(y)*t.Class.YolkG
	s := Solution{Whole: e, Yolks: y, EggG: eg + yg, WholeG: eg, YolkG: yg, WhitesG: float64(y) * (t.Class.EdibleG - t.Class.YolkG)}
	if s.EggG > 0 {
		s.YolkShare = yg / s.EggG
	}
	s.TargetHw = t.target(s.YolkShare)
	s.Hw = t.dry() + 100*(eg*t.worth(Whole)+yg*t.worth(Yolk))/t.F14G
	need := (s.TargetHw - s.Hw) * t.F14G / 100
	tol := t.Eggs.Tolerance
	if need > 0 {
		if v := t.worth(t.TopUp.Composition()); v > 0 {
			s.TopG = need / v
			if !t.freeTop() {
				s.TopG = min(s.TopG, t.Eggs.MaxTopShare*t.FlourG)
			}
			if s.TopG < t.Eggs.MinTopShare*t.FlourG {
				s.TopG = 0
			}
			s.Hw += 100 * s.TopG * v / t.F14G
		}
	} else if need < -tol*t.F14G/100 && !t.LockFlour {
		perG := (1 - t.MoistureWB) / (1 - t.BasisWB)
		s.FlourAddG = min(-need/(perG*(1+s.TargetHw/100)-1), t.Eggs.MaxFlourShare*t.FlourG)
		f14 := t.F14G + s.FlourAddG*perG
		s.Hw = 100 * ((1+s.Hw/100)*t.F14G + s.FlourAddG - f14) / f14
	}
	s.MissPts = max(0, math.Abs(s.Hw-s.TargetHw)-tol)
	r := &t.Eggs
	s.Cost = r.MissCost*s.MissPts +
		max(0, math.Abs(s.YolkShare-t.nominal())-r.ShareFree)/r.ShareStep +
		r.TopCost*100*s.TopG/t.FlourG + r.FlourCost*100*s.FlourAddG/t.FlourG +
		r.WhitesCost*100*s.WhitesG/t.FlourG
	return s
}

// Exactly returns the solution with these grams of whole egg and of yolk, however many eggs
// gave them; Whole and Yolks say about how many that is.
func (t *Task) Exactly(wholeG, yolkG float64) Solution {
	about := func(g, each float64) (n int, mean float64) {
		if g <= 0 {
			return 0, each
		}
		n = max(1, int(math.Round(g/each)))
		return n, g / float64(n)
	}
	k := *t
	k.GivenG = 0
	var e, y int
	e, k.Class.EdibleG = about(wholeG, t.Class.EdibleG)
	y, k.Class.YolkG = about(yolkG, t.Class.YolkG)
	return k.Try(e, y)
}

// FlourFactor returns by how much the flour would have to be multiplied for exactly these
// grams of whole egg and yolk, and nothing else, to bring it to its target.
func (t *Task) FlourFactor(wholeG, yolkG float64) float64 {
	share := 0.
	if wholeG+yolkG > 0 {
		share = yolkG / (wholeG + yolkG)
	}
	need := (t.target(share) - t.dry()) * t.F14G / 100
	if need <= 0 {
		return 1
	}
	return (wholeG*t.worth(Whole) + yolkG*t.worth(Yolk)) / need
}

// allowed says whether the style and the fixed numbers admit e whole eggs and y yolks.
func (t *Task) allowed(e, y int) bool {
	if t.FixWhole != nil && e != *t.FixWhole || t.FixYolks != nil && y != *t.FixYolks || e < 0 || y < 0 {
		return false
	}
	if t.FixWhole != nil && t.FixYolks != nil {
		return true
	}
	if t.Style == NoEgg {
		return e == 0 && y == 0
	}
	if e+y < 1 && t.GivenG == 0 {
		return false
	}
	switch t.Style {
	case Rich:
		if t.FixWhole != nil || t.FixYolks != nil {
			return true
		}
		share := float64(y) * t.Class.YolkG / (t.GivenG + float64(e)*t.Class.EdibleG + float64(y)*t.Class.YolkG)
		return share >= t.Eggs.RichLow && share <= t.Eggs.RichHigh
	case YolksOnly:
		return e == 0 || t.FixWhole != nil
	case WholeWater:
		return (y == 0 || t.FixYolks != nil) && (e == t.wholeWaterEggs() || t.FixWhole != nil)
	}
	return y == 0 || t.FixYolks != nil
}

// least is the fewest eggs and yolks of the class an answer with egg has.
func (t *Task) least() int {
	if t.GivenG > 0 {
		return 0
	}
	return 1
}

// wholeWaterEggs returns round(0.7·need/egg) less what is given, at least one egg in all.
func (t *Task) wholeWaterEggs() int {
	need := (t.TargetHw - t.dry()) * t.F14G / 100
	return max(t.least(), int(math.Round((t.Eggs.WholeWaterShare*need-t.GivenG)/t.Class.EdibleG)))
}

// fixed says whether the maker has named a number, so that no answer is dropped.
func (t *Task) fixed() bool { return t.FixWhole != nil || t.FixYolks != nil }

// each calls f for every admitted (e, y) whose cost can be limit or less. A cost under
// limit bounds the top-up, the moved flour, the miss and the distance from the nominal
// share, and so the grams of working water the eggs may bring: the loops run over those
// alone. With limit = +Inf it visits every answer that is not dropped.
func (t *Task) each(limit float64, f func(Solution)) {
	r := &t.Eggs
	keep := t.fixed() || t.freeTop()
	miss := min(r.MaxMiss, limit/r.MissCost) + r.Tolerance
	most := min(100*r.MaxTopShare, limit/r.TopCost) / 100 * t.FlourG * t.worth(t.TopUp.Composition())
	moved := min(100*r.MaxFlourShare, limit/r.FlourCost) / 100 * t.FlourG
	if t.LockFlour {
		moved = 0
	}
	perG := (1-t.MoistureWB)/(1-t.BasisWB)*(1+t.TargetHw/100) - 1
	need := (t.TargetHw - t.start()) * t.F14G / 100
	slack := math.Abs(t.Hydration.YolkShift)*t.F14G/100 + 1e-6
	low := need - most - miss*t.F14G/100 - slack
	high := need + moved*max(perG, 0) + miss*(t.F14G+moved*1.1)/100 + slack
	if keep {
		low, high = 0, max(need, 0)*1.5+3*t.Class.EdibleG
	}
	try := func(e, y int) {
		if !t.allowed(e, y) {
			return
		}
		if s := t.Try(e, y); (keep || s.MissPts <= r.MaxMiss) && s.Cost <= limit {
			f(s)
		}
	}
	if t.FixWhole != nil && t.FixYolks != nil {
		try(*t.FixWhole, *t.FixYolks)
		return
	}
	perEgg, perYolk := t.Class.EdibleG*t.worth(Whole), t.Class.YolkG*t.worth(Yolk)
	eLow, eHigh := 0, int(high/perEgg)+1
	switch {
	case t.FixWhole != nil:
		eLow, eHigh = *t.FixWhole, *t.FixWhole
	case t.Style == YolksOnly || t.Style == NoEgg:
		eHigh = 0
	case t.Style == WholeWater:
		eLow, eHigh = t.wholeWaterEggs(), t.wholeWaterEggs()
	}
	reach := r.ShareFree + r.ShareStep*limit
	for e := eLow; e <= eHigh; e++ {
		yLow := int(math.Ceil((low - float64(e)*perEgg) / perYolk))
		yHigh := int((high-float64(e)*perEgg)/perYolk) + 1
		switch {
		case t.FixYolks != nil:
			yLow, yHigh = *t.FixYolks, *t.FixYolks
		case t.Style == Rich:
			// share between nominal ± reach: y·Y = share/(1−share)·e·E
			of := func(share float64) float64 {
				return share / (1 - share) * (float64(e)*t.Class.EdibleG + t.GivenG) / t.Class.YolkG
			}
			yLow = max(yLow, int(of(max(t.nominal()-reach, 0))))
			if up := t.nominal() + reach; up < 1 {
				yHigh = min(yHigh, int(of(up))+1)
			}
		case t.Style != YolksOnly:
			yHigh = 0
		}
		for y := max(yLow, 0); y <= yHigh; y++ {
			if keep || t.within(e, y, limit) {
				try(e, y)
			}
		}
	}
}

// within says whether the cost of (e, y) can be limit or less. Every term of the cost is
// positive, so each must fit into what the whites, which are known, leave of it.
func (t *Task) within(e, y int, limit float64) bool {
	r := &t.Eggs
	left := limit - r.WhitesCost*100*float64(y)*(t.Class.EdibleG-t.Class.YolkG)/t.FlourG
	if left < 0 {
		return false
	}
	eg, yg := float64(e)*t.Class.EdibleG+t.GivenG, float64(y)*t.Class.YolkG
	share := 0.
	if eg+yg > 0 {
		share = yg / (eg + yg)
	}
	if math.Abs(share-t.nominal()) > r.ShareFree+r.ShareStep*left+1e-9 {
		return false
	}
	target := t.target(share)
	need := (target-t.dry())*t.F14G/100 - eg*t.worth(Whole) - yg*t.worth(Yolk)
	points := r.Tolerance + min(r.MaxMiss, left/r.MissCost) + 1e-9
	if need > 0 {
		top := min(100*r.MaxTopShare, left/r.TopCost) / 100 * t.FlourG
		return need <= top*t.worth(t.TopUp.Composition())+points*t.F14G/100
	}
	moved := min(100*r.MaxFlourShare, left/r.FlourCost) / 100 * t.FlourG
	if t.LockFlour {
		moved = 0
	}
	perG := (1 - t.MoistureWB) / (1 - t.BasisWB)
	return -need <= moved*max(perG*(1+target/100)-1, 0)+points*(t.F14G+moved*perG)/100
}

// tie is the difference in cost that counts as none.
const tie = 1e-6

// fewer orders solutions of equal cost: fewer e+y, then fewer y.
func fewer(a, b Solution) bool {
	if n, m := a.Whole+a.Yolks, b.Whole+b.Yolks; n != m {
		return n < m
	}
	return a.Yolks < b.Yolks
}

// Solve returns the least-cost answer over all whole numbers of eggs and yolks the style
// admits, exact, ties to 1e-6 going to fewer e+y and then fewer y; up to four real
// alternatives; and the weighed row, so that an answer is never empty.
func (t *Task) Solve() Answer {
	a := Answer{Weighed: t.Weigh(), Alternatives: []Solution{}}
	least := math.Inf(1)
	t.near(func(s Solution) { least = min(least, s.Cost) })
	t.each(least+tie, func(s Solution) { least = min(least, s.Cost) })
	if math.IsInf(least, 1) {
		a.Best = t.nearest()
		return a
	}
	a.Exact = true
	first := true
	t.each(least+tie, func(s Solution) {
		if first || fewer(s, a.Best) {
			a.Best, first = s, false
		}
	})
	a.Alternatives = t.alternatives(a.Best)
	return a
}

// near calls f for the admitted answers round the real-valued one, to give the search a
// first bound.
func (t *Task) near(f func(Solution)) {
	e0, y0 := int(t.Weigh().WholeG/t.Class.EdibleG), int(t.Weigh().YolkG/t.Class.YolkG)
	for e := e0 - 1; e <= e0+2; e++ {
		for y := y0 - 3; y <= y0+4; y++ {
			if t.allowed(e, y) {
				if s := t.Try(e, y); t.fixed() || t.freeTop() || s.MissPts <= t.Eggs.MaxMiss {
					f(s)
				}
			}
		}
	}
}

// nearest returns the admitted answer with the least miss, for when none is near enough.
func (t *Task) nearest() Solution {
	e, y := max(t.least(), int(math.Round(t.Weigh().WholeG/t.Class.EdibleG))), 0
	if t.Style == YolksOnly {
		e, y = 0, max(t.least(), int(math.Round(t.Weigh().YolkG/t.Class.YolkG)))
	} else if t.Style == Rich {
		y = 1
	}
	return t.Try(e, y)
}

// OwnAnswer names, among the alternatives to numbers the maker fixed, what the solver would
// have taken.
const OwnAnswer = "the solver's own answer"

// altReach is how much dearer than the best an alternative of the rich style may be, for a
// kilogram of flour; in larger batches one egg more or less costs less.
const altReach = 3

// alternatives returns up to four answers that differ from best in a way a maker cares
// about, each the least-cost one of its kind.
func (t *Task) alternatives(best Solution) []Solution {
	if t.fixed() {
		free := *t
		free.FixWhole, free.FixYolks = nil, nil
		a := free.Solve()
		a.Best.Name = OwnAnswer
		return []Solution{a.Best}
	}
	limit := math.Inf(1)
	if t.Style == Rich {
		limit = best.Cost + altReach*min(1, max(.1, 1000/t.FlourG))
	}
	kinds := []struct {
		name string
		is   func(Solution) bool
	}{
		{"no added liquid", func(s Solution) bool { return s.TopG == 0 && s.FlourAddG == 0 && best.TopG > 0 }},
		{"fewer whites left", func(s Solution) bool { return s.WhitesG < best.WhitesG }},
		{"flour moved to suit whole eggs", func(s Solution) bool { return s.FlourAddG > 0 && best.FlourAddG == 0 }},
		{"one egg fewer", func(s Solution) bool { return s.Whole == best.Whole-1 && s.Yolks <= best.Yolks+3 }},
		{"one egg more", func(s Solution) bool { return s.Whole == best.Whole+1 }},
	}
	found := make([]*Solution, len(kinds))
	t.each(limit, func(s Solution) {
		if s.Whole == best.Whole && s.Yolks == best.Yolks {
			return
		}
		for i, k := range kinds {
			if k.is(s) && (found[i] == nil || s.Cost < found[i].Cost-tie || s.Cost < found[i].Cost+tie && fewer(s, *found[i])) {
				c := s
				c.Name = k.name
				found[i] = &c
			}
		}
	})
	out := []Solution{}
	for _, s := range found {
		if s == nil || len(out) == 4 {
			continue
		}
		seen := false
		for _, o := range out {
			seen = seen || o.Whole == s.Whole && o.Yolks == s.Yolks
		}
		if !seen {
			out = append(out, *s)
		}
	}
	return out
}

// Weigh returns the answer in grams: beaten egg and yolk at the style's nominal share that
// reach the target exactly, beside what is given, and how many to crack for them.
func (t *Task) Weigh() Weighed {
	share := t.nominal()
	target := t.target(share)
	need := max(0, (target-t.dry())*t.F14G/100)
	w := Weighed{Hw: max(target, t.dry())}
	egg := need
	switch t.Style {
	case NoEgg:
		egg = 0
	case WholeWater:
		egg *= t.Eggs.WholeWaterShare
	}
	g := egg / ((1-share)*t.worth(Whole) + share*t.worth(Yolk))
	w.WholeG, w.YolkG = g*(1-share)-t.GivenG, g*share
	if w.WholeG < 0 { // what is given is more than this share of whole egg: yolk makes up the rest
		w.WholeG = 0
		if share > 0 {
			w.YolkG = max(0, egg-t.GivenG*t.worth(Whole)) / t.worth(Yolk)
		}
		w.Hw = max(w.Hw, t.start())
	}
	if rest := need - egg; rest > 0 {
		if v := t.worth(t.TopUp.Composition()); v > 0 {
			w.LiquidG = rest / v
		}
	}
	w.Crack = int(math.Ceil(w.WholeG/t.Class.EdibleG - 1e-9))
	w.Separate = int(math.Ceil(w.YolkG/t.Class.YolkG - 1e-9))
	return w
}
