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
	ByWeight  bool // egg is wanted by weight, not in whole numbers
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
	Beaten    bool    `json:"beaten"`       // beat and weigh: Whole and Yolks are cracked for it, each rounded up
	LeftG     float64 `json:"left_g"`       // beaten egg left of what is cracked
	LeftYolkG float64 `json:"left_yolk_g"`  // likewise yolk
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

// Answer is the best solution, up to four real alternatives, and the weighed row, of the flour of the
// best. When no whole number of eggs serves, or weight is wished for, Best is beat and weigh.
// Exact says whether a whole number of eggs serves.
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
// (what is given as a share of the flour grows with it) and its cost
// J = max(0,|share−nominal|−.03)/.05 + .5·top% (nothing where the style lives by it) + .7·dF% + .02·whites g per 100 g
// flour. miss is what
// remains of |Hw−target| beyond 0.3 points.
func (t *Task) Try(e, y int) Solution {
	eg, yg := float64(e)*t.Class.EdibleG+t.GivenG, float64(y)*t.Class.YolkG
	s := Solution{Whole: e, Yolks: y, EggG: eg + yg, WholeG: eg, YolkG: yg,
		WhitesG: float64(y) * (t.Class.EdibleG - t.Class.YolkG)}
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
		s.FlourAddG = min(t.flourFor(s), t.Eggs.MaxFlourShare*t.FlourG)
		s.Hw = t.Moved(s.FlourAddG).hw(s)
	}
	s.MissPts = max(0, math.Abs(s.Hw-s.TargetHw)-tol)
	r := &t.Eggs
	top := r.TopCost * 100 * s.TopG / t.FlourG
	if t.freeTop() {
		top = 0 // the style lives by it
	}
	s.Cost = max(0, math.Abs(s.YolkShare-t.nominal())-r.ShareFree)/r.ShareStep + top +
		r.FlourCost*100*s.FlourAddG/t.FlourG +
		r.WhitesCost*100*s.WhitesG/t.FlourG
	return s
}

// hw returns the working hydration of a solution's egg and top-up in the task's flour, points.
func (t *Task) hw(s Solution) float64 {
	return t.dry() + 100*(s.WholeG*t.worth(Whole)+s.YolkG*t.worth(Yolk)+s.TopG*t.worth(t.TopUp.Composition()))/t.F14G
}

// flourFor returns the flour that has to come in to bring a solution's egg down to its target, g; what
// is a share of the flour comes with it.
func (t *Task) flourFor(s Solution) float64 {
	perG := ((1+s.TargetHw/100)*t.F14G - t.FlourG - t.ExtraWater - t.Hydration.FatWeight*t.ExtraFat) / t.FlourG
	if perG <= 0 {
		return math.Inf(1)
	}
	return max(0, (s.WholeG*t.worth(Whole)+s.YolkG*t.worth(Yolk)-t.LossG)/perG-t.FlourG)
}

// Moved returns the task with addG g more of its flour, and of what goes by its shares.
func (t *Task) Moved(addG float64) *Task {
	k, by := *t, 1+addG/t.FlourG
	k.FlourG = by * t.FlourG
	k.F14G = by * t.F14G
	k.ExtraWater = by * t.ExtraWater
	k.ExtraFat = by * t.ExtraFat
	return &k
}

// Meets says whether the solution comes to its target.
func (s *Solution) Meets() bool { return s.MissPts <= 1e-9 }

// Literal returns what the maker puts in, taken at their word: about so many eggs and yolks that weigh so
// much, g, and topG g of the top-up. Nothing is added, moved or rounded; miss is how far from the target
// it comes to.
func (t *Task) Literal(whole, yolks int, wholeG, yolkG, topG float64) Solution {
	s := Solution{Whole: whole, Yolks: yolks, EggG: wholeG + yolkG, WholeG: wholeG, YolkG: yolkG, TopG: topG,
		WhitesG: float64(yolks) * (t.Class.EdibleG - t.Class.YolkG)}
	if s.EggG > 0 {
		s.YolkShare = yolkG / s.EggG
	}
	s.TargetHw, s.Hw = t.target(s.YolkShare), t.hw(s)
	s.MissPts = max(0, math.Abs(s.Hw-s.TargetHw)-t.Eggs.Tolerance)
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

// FlourFactor returns by how much the flour would have to be multiplied for exactly these grams of
// whole egg and yolk, and nothing else, to bring it to its target; 0 when no flour is little enough.
func (t *Task) FlourFactor(wholeG, yolkG float64) float64 {
	s := Solution{WholeG: wholeG, YolkG: yolkG}
	if wholeG+yolkG > 0 {
		s.YolkShare = yolkG / (wholeG + yolkG)
	}
	perG := ((1+t.target(s.YolkShare)/100)*t.F14G - t.FlourG - t.ExtraWater - t.Hydration.FatWeight*t.ExtraFat) / t.FlourG
	if perG <= 0 {
		return 0
	}
	return max(0, (wholeG*t.worth(Whole)+yolkG*t.worth(Yolk)-t.LossG)/perG/t.FlourG)
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

// each calls f for every admitted (e, y) that meets its target and whose cost can be limit or less.
// A cost under limit bounds the top-up, the moved flour and the distance from the nominal share,
// and so the grams of working water the eggs may bring: the loops run over those alone.
func (t *Task) each(limit float64, f func(Solution)) {
	r := &t.Eggs
	most := min(100*r.MaxTopShare, limit/r.TopCost) / 100 * t.FlourG * t.worth(t.TopUp.Composition())
	moved := min(100*r.MaxFlourShare, limit/r.FlourCost) / 100 * t.FlourG
	if t.LockFlour {
		moved = 0
	}
	need := (t.TargetHw - t.start()) * t.F14G / 100
	slack := (math.Abs(t.Hydration.YolkShift)+r.Tolerance)*t.F14G/100*1.2 + 1e-6
	low, high := need-most-slack, need+t.takes(moved)+slack
	if t.freeTop() {
		low = 0
	}
	try := func(e, y int) {
		if !t.allowed(e, y) {
			return
		}
		if s := t.Try(e, y); s.Meets() && s.Cost <= limit {
			f(s)
		}
	}
	if t.FixWhole != nil && t.FixYolks != nil {
		try(*t.FixWhole, *t.FixYolks)
		return
	}
	perEgg, perYolk := t.Class.EdibleG*t.worth(Whole), t.Class.YolkG*t.worth(Yolk)
	eLow, eHigh := 0, int(max(high, 0)/perEgg)+1
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
			if t.freeTop() || t.within(e, y, limit) {
				try(e, y)
			}
		}
	}
}

// takes is the working water that so many g of moved flour take up at the target, g.
func (t *Task) takes(movedG float64) float64 {
	perG := ((1+t.TargetHw/100)*t.F14G - t.FlourG - t.ExtraWater - t.Hydration.FatWeight*t.ExtraFat) / t.FlourG
	return movedG * max(perG, 0)
}

// within says whether (e, y) can meet its target at a cost of limit or less. Every term of the cost is
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
	points := r.Tolerance + 1e-9
	if need > 0 {
		top := min(100*r.MaxTopShare, left/r.TopCost) / 100 * t.FlourG
		return need <= top*t.worth(t.TopUp.Composition())+points*t.F14G/100+r.MinTopShare*t.FlourG
	}
	moved := min(100*r.MaxFlourShare, left/r.FlourCost) / 100 * t.FlourG
	if t.LockFlour {
		moved = 0
	}
	return -need <= t.takes(moved)+points*(t.F14G+moved)/100+1e-9
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

// WholeNumbers returns the least-cost answer over all whole numbers of eggs and yolks the style admits
// and that meet the target, exact, ties to 1e-6 going to fewer e+y and then fewer y; false when
// none does.
func (t *Task) WholeNumbers() (best Solution, ok bool) {
	least := math.Inf(1)
	t.near(func(s Solution) { least = min(least, s.Cost) })
	t.each(least+tie, func(s Solution) { least = min(least, s.Cost) })
	if math.IsInf(least, 1) {
		return best, false
	}
	t.each(least+tie, func(s Solution) {
		if !ok || fewer(s, best) {
			best, ok = s, true
		}
	})
	return best, ok
}

// Solve returns the whole numbers of eggs that serve best; where none serves, or weight is wished for,
// beat and weigh; numbers the maker fixed are kept, whatever they come to. With it up to four
// real alternatives and the weighed row of the same flour, so that an answer is never empty. Only what
// is fixed, given or forbidden makes an answer miss.
func (t *Task) Solve() Answer {
	a := Answer{Alternatives: []Solution{}}
	a.Best, a.Exact = t.WholeNumbers()
	switch {
	case t.ByWeight && !t.fixed():
		own := a.Best
		a.Best = t.Beaten()
		if a.Exact {
			own.Name = OwnAnswer
			a.Alternatives = append(a.Alternatives, own)
		}
	case !a.Exact && t.fixed():
		a.Best = t.closest()
	case !a.Exact:
		if a.Best = t.Beaten(); !a.Best.Meets() { // too much is given, or there is nothing to add
			a.Best = t.closest()
		}
	}
	if len(a.Alternatives) == 0 {
		a.Alternatives = t.alternatives(a.Best)
	}
	a.Weighed = t.Moved(a.Best.FlourAddG).Weigh()
	return a
}

// near calls f for the admitted answers round the real-valued one, to give the search a
// first bound.
func (t *Task) near(f func(Solution)) {
	e0, y0 := int(t.Weigh().WholeG/t.Class.EdibleG), int(t.Weigh().YolkG/t.Class.YolkG)
	for e := e0 - 1; e <= e0+2; e++ {
		for y := y0 - 3; y <= y0+4; y++ {
			if t.allowed(e, y) {
				if s := t.Try(e, y); s.Meets() {
					f(s)
				}
			}
		}
	}
}

// closest returns the answer with the least miss that keeps what the maker fixed and gave.
func (t *Task) closest() (best Solution) {
	most := math.Max(0, t.TargetHw-t.start()) * t.F14G / 100
	eLow := 0
	eHigh := int(most/(t.Class.EdibleG*t.worth(Whole))) + 2
	yLow := 0
	yHigh := int(most/(t.Class.YolkG*t.worth(Yolk))) + 2
	if t.FixWhole != nil {
		eLow, eHigh = *t.FixWhole, *t.FixWhole
	}
	if t.FixYolks != nil {
		yLow, yHigh = *t.FixYolks, *t.FixYolks
	}
	first := true
	for e := eLow; e <= eHigh; e++ {
		for y := yLow; y <= yHigh; y++ {
			if !t.allowed(e, y) {
				continue
			}
			s := t.Try(e, y)
			if first || s.MissPts < best.MissPts-tie || s.MissPts < best.MissPts+tie && s.Cost < best.Cost {
				best, first = s, false
			}
		}
	}
	if first { // no number goes with what is fixed
		best = t.Try(eLow, yLow)
	}
	return best
}

// Beaten returns beat and weigh as a solution: whole egg and yolk at the nominal share to the target
// exactly, each cracked up, with what is left of them.
func (t *Task) Beaten() Solution {
	w := t.Weigh()
	s := Solution{Whole: w.Crack, Yolks: w.Separate, WholeG: w.WholeG + t.GivenG, YolkG: w.YolkG, TopG: w.LiquidG,
		Beaten:  true,
		WhitesG: float64(w.Separate) * (t.Class.EdibleG - t.Class.YolkG),
		LeftG:   float64(w.Crack)*t.Class.EdibleG - w.WholeG, LeftYolkG: float64(w.Separate)*t.Class.YolkG - w.YolkG}
	if s.EggG = s.WholeG + s.YolkG; s.EggG > 0 {
		s.YolkShare = s.YolkG / s.EggG
	}
	s.TargetHw, s.Hw = t.target(s.YolkShare), t.hw(s)
	s.MissPts = max(0, math.Abs(s.Hw-s.TargetHw)-t.Eggs.Tolerance)
	return s
}

// WholeBatch returns the whole numbers of eggs whose own flour, with no other liquid than the style's,
// is nearest this flour, and that flour over this one; false when the style has no such batch.
func (t *Task) WholeBatch() (s Solution, factor float64, ok bool) {
	w, best := t.Weigh(), math.Inf(1)
	for e := 0; e <= w.Crack+2; e++ {
		for y := 0; y <= w.Separate+3; y++ {
			if e+y == 0 || t.Style != Rich && t.Style != YolksOnly && y > 0 || t.Style == YolksOnly && e > 0 ||
				t.Style == NoEgg {
				continue
			}
			eg, yg := float64(e)*t.Class.EdibleG, float64(y)*t.Class.YolkG
			share := yg / (eg + yg)
			if t.Style == Rich && (share < t.Eggs.RichLow || share > t.Eggs.RichHigh) {
				continue
			}
			k := t.FlourFactor(eg, yg)
			if t.Style == WholeWater && w.WholeG > 0 {
				k = eg / w.WholeG
			}
			if k <= 0 {
				continue
			}
			off := math.Abs(math.Log(k)) + max(0, math.Abs(share-t.nominal())-t.Eggs.ShareFree)
			if off < best-tie {
				best = off
				factor = k
				ok = true
				s = Solution{Whole: e, Yolks: y, EggG: eg + yg, WholeG: eg, YolkG: yg, YolkShare: share}
			}
		}
	}
	return s, factor, ok
}

// OwnAnswer names, among the alternatives to numbers the maker fixed, what the solver would
// have taken.
const OwnAnswer = "the solver's own answer"

// flourMoved names the alternative that suits whole eggs by more flour.
const flourMoved = "flour moved to suit whole eggs"

// altReach is how much dearer than the best an alternative of the rich style may be, for a
// kilogram of flour; in larger batches one egg more or less costs less.
const altReach = 3

// alternatives returns up to four answers that differ from best in a way a maker cares about and meet
// the target, each the least-cost one of its kind. Flour may move in one of them, locked or not.
func (t *Task) alternatives(best Solution) []Solution {
	if t.fixed() {
		free := *t
		free.FixWhole, free.FixYolks = nil, nil
		a := free.Solve()
		a.Best.Name = OwnAnswer
		return []Solution{a.Best}
	}
	limit := math.Inf(1)
	if t.Style == Rich && !best.Beaten {
		limit = best.Cost + altReach*min(1, max(.1, 1000/t.FlourG))
	}
	kinds := []struct {
		name string
		is   func(Solution) bool
	}{
		{"no added liquid", func(s Solution) bool { return s.TopG == 0 && s.FlourAddG == 0 && best.TopG > 0 }},
		{"fewer whites left", func(s Solution) bool { return s.WhitesG < best.WhitesG }},
		{flourMoved, func(s Solution) bool { return s.FlourAddG > 0 && best.FlourAddG == 0 }},
		{"one egg fewer", func(s Solution) bool {
			return !best.Beaten && s.Whole == best.Whole-1 &&
				s.Yolks <= best.Yolks+3
		}},
		{"one egg more", func(s Solution) bool { return !best.Beaten && s.Whole == best.Whole+1 }},
	}
	found := make([]*Solution, len(kinds))
	open := *t
	open.LockFlour = false
	open.each(limit, func(s Solution) {
		if !best.Beaten && s.Whole == best.Whole && s.Yolks == best.Yolks {
			return
		}
		for i, k := range kinds {
			if t.LockFlour && s.FlourAddG > 0 && k.name != flourMoved {
				continue
			}
			if k.is(s) && (found[i] == nil || s.Cost < found[i].Cost-tie || s.Cost < found[i].Cost+tie && fewer(s,
				*found[i])) {
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
		if t.TopUp != TopNone {
			egg *= t.Eggs.WholeWaterShare
		}
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
