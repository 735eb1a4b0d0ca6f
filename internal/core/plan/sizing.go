package plan

import (
	"math"

	"hollen/internal/core/egg"
	"hollen/internal/core/request"
)

// sizing looks for the flour that gives what was asked. What a flour gives is worked out once for each division and for
// eggs counted or weighed.
type sizing struct {
	p    *Plan
	want float64        // portions' or dough's mass, g
	made func() float64 // of it, by the plan as it stands, g
	kept map[sized]float64
}

// sized is what a flour is tried with.
type sized struct {
	flourG, divided float64
	weighs, loose   bool
}

func (s *sizing) key(flourG float64) sized {
	return sized{flourG, s.p.divided, s.p.weighs, s.p.sizing}
}

// gives is what so much flour makes of what was asked, g.
func (s *sizing) gives(flourG float64) float64 {
	k := s.key(flourG)
	g, known := s.kept[k]
	if !known {
		s.p.mix(flourG)
		s.p.roll()
		s.p.cut()
		g = s.made()
		s.kept[k] = g
	}
	return g
}

// works is gives through every stage: the plan stands as that flour makes it.
func (s *sizing) works(flourG float64) float64 {
	s.p.work(flourG)
	s.kept[s.key(flourG)] = s.made()
	return s.made()
}

// workTo finds the flour that gives the portions or the dough asked for with eggs by weight, and then
// the one near it that suits whole eggs. Sheets and ribbons come in whole numbers, so what a flour
// gives moves in jumps: it corrects the flour by what was got, and where that does not settle halves the flours half a
// per cent apart down to where short turns into enough, and takes the nearest there. Of several shapes the one
// served worst counts. Kneading hardly answers to such changes and is left as it was, unless
// that turns out to decide a jump.
func (p *Plan) workTo(r request.Request) {
	s := &sizing{p: p, want: r.Amount.DoughG, kept: map[sized]float64{},
		made: func() float64 { return p.Formula.Dough.MassG }}
	if r.Amount.By == request.ByPortions {
		s.want = 0
		for _, g := range p.wants() {
			s.want += g
		}
	}
	p.sizing = true
	first := roundFlour(s.want / 1.5)
	p.work(first)
	if r.Amount.By == request.ByPortions {
		if c := &p.Cut; c.AllMadeG > 0 { // a filling is not made of flour
			s.want *= c.AllDoughG / c.AllMadeG
		}
		s.made = func() float64 { return s.want * p.served() }
	}
	s.kept[s.key(first)] = s.made()
	best, off := s.search(first)
	if off > lookOver {
		best = s.dividedOtherwise(best, off)
	}
	p.sizing = false
	ru := &p.rules.Eggs
	enough := func(made float64) bool { return made/s.want >= 1-nearEnough && made/s.want <= 1+ru.MaxOver }
	if enough(s.works(p.suited(best))) {
		return
	}
	// Whole eggs, or sheets divided otherwise, give less or much more: the least flour that gives enough.
	for f := best; f <= (1+ru.MaxOver)*best; f += weighStep(best) {
		if enough(s.gives(f)) {
			p.work(f)
			return
		}
	}
	p.weighs = true
	if len(r.Cut.Also) > 0 { // weighed eggs make a little more or less dough than the search went by
		for f := best; f <= (1+ru.MaxOver)*best; f += weighStep(best) {
			if s.gives(f)/s.want >= 1-nearEnough {
				best = f
				break
			}
		}
	}
	p.work(best)
}

// muchOver is from how much more than was asked on of several shapes it is said, and lookOver from how much on another
// division is looked for,
// share.
const (
	muchOver = .25
	lookOver = .12
)

// dividedOtherwise looks for a division into more or fewer pieces that serves several shapes with less over, and
// returns its flour; best where there is none. Sheets come whole, and one sheet more of a shape may be much more than
// was asked.
func (s *sizing) dividedOtherwise(best, off float64) float64 {
	p := s.p
	p.mix(best)
	p.roll()
	usual := float64(p.Roll.Pieces)
	if p.Request.Roll.Pieces != nil || p.Pinned() || p.Roped() {
		return best
	}
	chosen := 0.
	for _, by := range []float64{-1, 1, -2, 2, 3} {
		if p.divided = usual + by; p.divided < 1 || p.divided > 2*usual {
			continue
		}
		if f, o := s.search(best); o < off-1e-9 {
			best = f
			off = o
			chosen = p.divided
		}
	}
	p.divided = chosen
	for f := best; off >= mixedShort && f < mostFlour*best; f *= scanStep { // short by every division: more flour
		if o := s.missed(s.gives(f)); o < off {
			best = f
			off = o
		}
	}
	return best
}

// suited returns the flour, among those no more than 15 % over what is needed, that suits whole eggs best:
// the least of the cost of its eggs and 0.3 for each % over, moved flour included; needed itself where no
// whole number serves, or weight is wished for.
func (p *Plan) suited(needed float64) float64 {
	ru := &p.rules.Eggs
	best, least := needed, math.Inf(1)
	for f := needed; f <= (1+ru.MaxOver)*needed+1e-9; f += weighStep(needed) {
		if ru.OverCost*100*(f/needed-1) >= least {
			break
		}
		_, t := p.eggTask(f)
		if t.ByWeight {
			return needed
		}
		s, ok := t.WholeNumbers()
		over := (f+s.FlourAddG)/needed - 1
		if !ok || over > ru.MaxOver+1e-9 {
			continue
		}
		if cost := s.Cost + ru.OverCost*100*over; cost < least-1e-9 {
			best, least = f, cost
		}
	}
	return best
}

// missed is how far what was made is from what was asked, share; being short counts more, and where several shapes are
// asked for, more than anything made too much: who ordered the second shape is not helped by more of the first.
func (s *sizing) missed(made float64) float64 {
	o := made/s.want - 1
	if o >= 0 {
		return o
	}
	if o < -nearEnough && len(s.p.Request.Cut.Also) > 0 {
		return mixedShort - o
	}
	return -shortWeighs * o
}

// search returns the flour that gives what is nearest to what was asked, beginning at one, and by how much it misses.
func (s *sizing) search(from float64) (best, off float64) {
	least := s.want / mostDough
	best, off = from, math.Inf(1)
	made := s.gives(from) // by the best
	if made <= 0 {
		made = s.want
	}
	try := func(f float64) float64 {
		g := s.gives(f)
		if o := s.missed(g); o < off && g > 0 {
			best = f
			off = o
			made = g
		}
		return g
	}
	f := from
	for i, g := 0, s.gives(from); i < rounds && g > 0; i++ {
		next := roundFlour(min(max(f*s.want/g, least), mostFlour*least))
		if next == f && i > 0 {
			break
		}
		f = next
		if g = try(f); off <= nearEnough {
			return best, off
		}
	}
	// What a flour gives rises with it, in jumps, so what is wanted lies where short turns into
	// enough; a few flours either side of there see the jumps.
	scan := max(least, scanFrom*best*min(1, s.want/made))
	at := func(step int) bool {
		return try(roundFlour(scan*math.Pow(scanStep, float64(step)))) >= s.want
	}
	lo, hi := 0, max(scanSteps, int(math.Log(1.2*best/scan)/math.Log(scanStep)))
	for lo+1 < hi {
		if mid := (lo + hi) / 2; at(mid) {
			hi = mid
		} else {
			lo = mid
		}
	}
	for step := lo - beside; step <= hi+beside; step++ {
		at(step)
	}
	return best, off
}

// FlourForEggs returns the flour that eggG g of beaten egg brings to its target, g. What the
// room takes grows a little slower than the flour, so it is found by correcting.
func (p *Plan) FlourForEggs(eggG float64) float64 {
	f := eggG / .56
	for range 12 {
		_, t := p.eggTask(f)
		w := t.Weigh()
		if w.WholeG+w.YolkG <= 0 {
			return f
		}
		f *= eggG / (w.WholeG + w.YolkG)
	}
	return f
}

// FlourFor returns the flour that exactly these grams of whole egg and yolk bring to its
// target with no other liquid, g.
func (p *Plan) FlourFor(wholeG, yolkG float64) float64 {
	f := p.Formula.FlourG
	for range 12 {
		_, t := p.eggTask(f)
		k := t.FlourFactor(wholeG, yolkG)
		if k <= 0 {
			return f
		}
		f *= k
	}
	return f
}

// fineFlourG is the flour under which it is weighed to the gram, above to 5 g.
const fineFlourG = 300

// weighStep is how far apart flours near g are tried, g: as finely as it is weighed, and some 60 of them.
func weighStep(g float64) float64 {
	if g < fineFlourG {
		return 1
	}
	return 5 * math.Ceil(g/2000)
}

// roundFlour rounds to what a kitchen scale and a patient hand weigh, g.
func roundFlour(g float64) float64 {
	if g < fineFlourG {
		return max(math.Round(g), 20)
	}
	return math.Round(g/5) * 5
}

// rounds is the most times the flour is corrected towards portions or dough mass, and
// scanSteps how many steps of scanStep the search looks over, at least, when that does not settle.
const (
	rounds    = 5
	scanSteps = 150
	scanStep  = 1.005
	beside    = 4 // steps tried either side of where it settles
)

// scanFrom is where that search starts, share of the nearest so far; mostFlour times the least
// flour is never passed, however much a round wastes of a narrow sheet.
const (
	scanFrom  = .75
	mostFlour = 6
)

// mostDough is more dough than a gram of flour ever makes (all yolk, strong flour), g.
const mostDough = 1.95

// nearEnough is how far from what was asked an answer settles the search, share. Being short
// counts shortWeighs times.
const (
	nearEnough  = .02
	shortWeighs = 3
	mixedShort  = 10
)

// OfEggs returns the request of this plan made to suit n eggs as they are cracked, with the yolks that go with them in
// a rich dough, n yolks in one of yolks alone: the flour they bring to its target, to the gram. Where yolks or water
// could stand in for an egg, the eggs are fixed. n is 1 or more; false for a dough without egg, and where the flour
// would be more or less than is allowed.
func (p *Plan) OfEggs(n int) (request.Request, bool) {
	r := p.Request
	class := p.task.Class
	wholeG := float64(n) * class.EdibleG
	flourG := 0.
	switch r.Eggs.Style {
	case egg.NoEgg:
		return r, false
	case egg.YolksOnly:
		flourG = p.FlourFor(0, float64(n)*class.YolkG)
	case egg.Rich:
		w := p.task.Weigh()
		yolks := max(1, math.Round(wholeG*w.YolkG/w.WholeG/class.YolkG))
		flourG = p.FlourFor(wholeG, yolks*class.YolkG)
		r.Eggs.FixWhole, r.Eggs.FixYolks = Some(float64(n)), Some(yolks)
	case egg.WholeWater:
		flourG = p.FlourForEggs(wholeG)
		r.Eggs.FixWhole = Some(float64(n))
	default:
		flourG = p.FlourFor(wholeG, 0)
	}
	field, _ := request.FieldAt("amount.flour_g")
	if flourG = math.Round(flourG); n < 1 || flourG < field.Min || flourG > field.Max {
		return r, false
	}
	r.Amount.By, r.Amount.FlourG = request.ByFlour, flourG
	return r, true
}
