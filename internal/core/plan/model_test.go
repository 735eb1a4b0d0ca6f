package plan_test

import (
	"math"
	"testing"

	"hollen/internal/core/dough"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/request"
)

// A second model of the work, written from the laws alone: it shares data with the plan (machines,
// shapes, and which numbers were asked for), and no sums. Where a law leaves a choice open (how
// the dough is divided, which school) it takes the plan's and works out what must follow.

// shelf are the flours by the laws' table: protein, ash, absorption %, gluten factor, τh min, durum,
// wholegrain, sorption a, b, c.
type shelfFlour struct {
	prot, ash, abs, glut, tau float64
	durum, whole              bool
	a, b, c                   float64
}

var shelf = func() map[string]shelfFlour {
	soft, hard, durum := [3]float64{1.2299e-5, 2.5558, 64.346}, [3]float64{2.3007e-5, 2.2857, 55.815},
		[3]float64{2.5738e-5, 2.2110, 70.318}
	f := func(prot, ash, abs, glut, tau float64, d, w bool, s [3]float64) shelfFlour {
		return shelfFlour{prot, ash, abs, glut, tau, d, w, s[0], s[1], s[2]}
	}
	return map[string]shelfFlour{
		"soft-00": f(10.5, .5, 55, 1, 6, false, false, soft), "soft-0": f(11, .6, 56, 1, 6, false, false, soft),
		"plain": f(11, .55, 58, 1, 7, false, false, soft), "strong": f(13, .6, 62, 1, 8, false, false, hard),
		"semola-fine": f(12.5, .85, 62, .9, 14, true, false, durum), "semolina-coarse": f(12.5, .85, 58, .9, 22, true,
			false, durum),
		"wholemeal": f(12.5, 1.6, 66, .85, 16, false, true, soft), "wholemeal-flatbread": f(12, 1.5, 70, .85, 14, false,
			true, hard),
		"wholemeal-durum": f(13, 1.7, 67, .8, 20, true, true, durum), "spelt-white": f(12, .65, 57, .75, 7, false,
			false, soft),
		"emmer": f(12.5, 1.7, 60, .55, 14, false, true, hard), "khorasan": f(13.5, .9, 62, .8, 14, true, false, durum),
		"rye-light": f(8, .8, 65, .15, 12, false, false, soft), "buckwheat": f(12, 1.8, 60, 0, 12, false, false, soft),
	}
}()

// sizes are the egg classes: edible and yolk, g.
var sizes = map[string][2]float64{"eu-s": {43, 14.5}, "eu-m": {51, 16.3}, "eu-l": {60, 18.3}, "eu-xl": {68, 19.9},
	"us-s": {38, 13}, "us-m": {44, 15}, "us-l": {50, 17},
	"us-xl": {56, 18.6}, "us-jumbo": {63, 20.4}}

// stuff is what a gram is made of: water, protein, fat, carbohydrate, ash.
type stuff [5]float64

var (
	wholeEgg = stuff{.7615, .1256, .0951, .0072, .0106}
	yolkOnly = stuff{.5231, .1586, .2654, .0359, .0170}
	milkIs   = stuff{.875, .034, .036, .048, .007}
)

// working is the working water in a gram.
func (s stuff) working() float64 { return s[0] + .2*s[2] }

// model is one batch worked out by the laws.
type model struct {
	r                                   request.Request
	flourG, f14                         float64
	prot, ash, abs, glut, pg, dur, whol float64
	taus, shares                        []float64
	meq, mNow                           float64
	lossG                               float64
	egg, yolk                           float64 // of a class, g
}

// blend takes g of flour through the air of the room.
func (m *model) blend(g float64) {
	r := &m.r
	milled := .135
	if len(r.Eggs.Class) > 2 && r.Eggs.Class[:2] == "us" {
		milled = .125
	}
	*m = model{r: *r, flourG: g, egg: sizes[r.Eggs.Class][0], yolk: sizes[r.Eggs.Class][1]}
	t, rh := math.Min(math.Max(r.Room.TempC, 5), 40), math.Min(math.Max(r.Room.RH, .1), .9)
	var f14s []float64
	for _, x := range r.Flours {
		f := shelf[x.Flour]
		M := math.Pow(-math.Log(1-rh)/(f.a*(t+f.c)), 1/f.b)
		eq := M / (100 + M)
		tau := map[flour.Keeping]float64{flour.SealedTub: 120, flour.PaperBag: 8, flour.OpenBin: 2,
			flour.Sifted: .3}[x.Kept]
		tau *= math.Pow(math.Min(math.Max(x.ContainsKG, .25), 25), 2./3)
		now := math.Min(math.Max(eq+(milled-eq)*math.Exp(-x.OpenDays/tau), .105), .155)
		if x.MeasuredWB != nil {
			now = *x.MeasuredWB
		}
		f14s = append(f14s, x.Share*g*(1-now)/.86)
		m.f14 += x.Share * g * (1 - now) / .86
		m.mNow += x.Share * now
		m.taus = append(m.taus, f.tau)
		m.meq += x.Share * g * (1 - now) / .86 * eq
	}
	m.meq /= m.f14
	for i, x := range r.Flours {
		f, s := shelf[x.Flour], f14s[i]/m.f14
		m.shares = append(m.shares, s)
		m.prot, m.ash, m.abs, m.glut, m.pg = m.prot+s*f.prot, m.ash+s*f.ash, m.abs+s*f.abs, m.glut+s*f.glut,
			m.pg+s*f.prot*f.glut
		if f.durum {
			m.dur += s
		}
		if f.whole {
			m.whol += s
		}
	}
	m.lossG = math.Max(0, vapour(r.Room.TempC, .97)-vapour(r.Room.TempC, r.Room.RH)) * .0025 * .045 * math.Pow(
		1.55*g/500, 2./3) * 600
}

// vapour is the water vapour in air, g/m³.
func vapour(t, rh float64) float64 {
	return 1000 * rh * 611.2 * math.Exp(17.62*t/(243.12+t)) * .018015 / (8.314 * (t + 273.15))
}

// target is the working hydration aimed at, with a band below and above.
func (m *model) target(yolkShare float64) (hw, low, high float64) {
	b := [3]float64{42.5, 2.5, 2.5}
	s := m.r.Cut.Kind()
	switch mach := m.r.Roll.Kind(); {
	case s.RopeMM > 0 || mach.Tool == dough.Pin:
		b = [3]float64{46, 2, 3}
	case mach.Tool == dough.Sheeter:
		b = [3]float64{39, 1.5, 2.5}
	}
	hw = b[0] + .25*(m.abs-56) - 1.5*yolkShare
	if s.Close != "" {
		hw++
	}
	if s.MaxLengthMM > 0 && s.WidthMM < 3 {
		hw -= .5
	}
	return hw, hw - b[1], hw + b[2]
}

// solution is an egg answer of the model.
type solution struct {
	e, y            int
	wg, yg, top, df float64
	hw, share, cost float64
	meets, beaten   bool
}

// hw is the working hydration of egg and top-up in k times the flour, with the oil that goes by it.
func (m *model) hw(k, wg, yg, top float64) float64 {
	liquid := wg*wholeEgg.working() + yg*yolkOnly.working() + top*m.topIs().working() + k*m.r.Oil*m.flourG*.2 - m.lossG
	return 100 * (liquid + k*m.flourG - k*m.f14) / (k * m.f14)
}

func (m *model) topIs() stuff {
	switch m.r.Eggs.TopUp {
	case egg.TopMilk:
		return milkIs
	case egg.TopWater:
		return stuff{1}
	}
	return stuff{}
}

// nominal and the bounds of the yolk share, by style.
func (m *model) nominal() (low, nominal, high float64) {
	switch m.r.Eggs.Style {
	case egg.Rich:
		return .15, .30, .60
	case egg.YolksOnly:
		return 1, 1, 1
	}
	return 0, 0, 0
}

// solve tries every pair of whole eggs and yolks; by weight where none serves, or it is said.
func (m *model) solve(mayMove, byWeight bool) solution {
	low, nominal, high := m.nominal()
	dry := m.hw(1, 0, 0, 0)
	t0, _, _ := m.target(0)
	emax, ymax := int(1.3*m.flourG/m.egg)+3, int(1.6*m.flourG/m.yolk)+3
	var best solution
	found := false
	for e := 0; e <= emax; e++ {
		for y := 0; y <= ymax; y++ {
			s := solution{e: e, y: y, wg: float64(e) * m.egg, yg: float64(y) * m.yolk}
			if e+y > 0 {
				s.share = s.yg / (s.wg + s.yg)
			}
			switch m.r.Eggs.Style {
			case egg.NoEgg:
				if e+y > 0 {
					continue
				}
			case egg.WholeWater:
				need := (t0 - dry) * m.f14 / 100
				if y > 0 || e != int(math.Max(1, math.Round(.7*need/m.egg))) {
					continue
				}
			default:
				if e+y < 1 || s.share < low-1e-12 || s.share > high+1e-12 {
					continue
				}
			}
			free := m.r.Eggs.Style == egg.NoEgg || m.r.Eggs.Style == egg.WholeWater
			t, _, _ := m.target(s.share)
			s.hw = m.hw(1, s.wg, s.yg, 0)
			need := (t - s.hw) * m.f14 / 100
			if !free && need > (.09*m.topIs().working()+.004)*m.flourG || m.hw(1.13, s.wg, s.yg, 0) > t+.5 {
				continue // out of reach
			}
			switch {
			case need > 0 && m.topIs().working() > 0:
				if s.top = need / m.topIs().working(); !free {
					s.top = math.Min(s.top, .08*m.flourG)
				}
				if s.top < .003*m.flourG {
					s.top = 0
				}
				s.hw = m.hw(1, s.wg, s.yg, s.top)
			case need < -.3*m.f14/100 && mayMove:
				lo, hi := 0., .12 // bisect the flour, oil with it
				if m.hw(1+hi, s.wg, s.yg, 0) > t {
					lo = hi
				}
				for range 60 {
					if mid := (lo + hi) / 2; m.hw(1+mid, s.wg, s.yg, 0) > t {
						lo = mid
					} else {
						hi = mid
					}
				}
				s.df = hi * m.flourG
				s.hw = m.hw(1+hi, s.wg, s.yg, 0)
			}
			if math.Abs(s.hw-t) > .3+1e-9 {
				continue
			}
			whites := float64(y) * (m.egg - m.yolk)
			s.cost = math.Max(0, math.Abs(s.share-nominal)-.03)/.05 + .7*100*s.df/m.flourG + .02*100*whites/m.flourG
			if !free {
				s.cost += .5 * 100 * s.top / m.flourG
			}
			s.meets = true
			if !found || s.cost < best.cost-1e-6 || s.cost < best.cost+1e-6 && (e+y < best.e+best.y ||
				e+y == best.e+best.y && y < best.y) {
				best, found = s, true
			}
		}
	}
	if found && !byWeight {
		return best
	}
	return m.beatAndWeigh()
}

// beatAndWeigh meets the target exactly, at the nominal share.
func (m *model) beatAndWeigh() solution {
	_, nominal, _ := m.nominal()
	dry := m.hw(1, 0, 0, 0)
	t, _, _ := m.target(nominal)
	need := (t - dry) * m.f14 / 100
	s := solution{beaten: true, meets: true, hw: t, share: nominal}
	eggs := need
	if m.r.Eggs.Style == egg.WholeWater && m.r.Eggs.TopUp != egg.TopNone {
		eggs = .7 * need
		s.top = .3 * need / m.topIs().working()
	}
	if m.r.Eggs.Style == egg.NoEgg { // the liquid alone, to the gram
		s.top, s.share = need/m.topIs().working(), 0
		return s
	}
	g := eggs / ((1-nominal)*wholeEgg.working() + nominal*yolkOnly.working())
	s.wg, s.yg = g*(1-nominal), g*nominal
	return s
}

// kneading is a dough followed step by step, written out plainly.
type kneading struct {
	w, r, t, c float64
	u          []float64
}

type kneadLaw struct {
	w63, tauR, tauD float64
	taus, shares    []float64
}

func (k kneadLaw) uptake(s *kneading, dt float64) {
	for i := range s.u {
		s.u[i] += (1 - s.u[i]) * (1 - math.Exp(-dt/(k.taus[i]*math.Pow(2, (22-s.c)/20))))
	}
}

func (k kneadLaw) run(s kneading, minutes, work, heat, around, tauD float64) kneading {
	s.u = append([]float64{}, s.u...)
	const dt = .05
	for left := minutes; left > 1e-9; left -= dt {
		d := math.Min(dt, left)
		if work > 0 {
			s.w += work * d
			s.t += (1 - s.t) * (1 - math.Exp(-work*d/1.5))
		} else {
			s.r = math.Min(2, s.r+.05*math.Pow(2, (s.c-22)/10)*d)
			s.t *= math.Exp(-d / (k.tauR * math.Pow(2, (22-s.c)/10)))
		}
		k.uptake(&s, d)
		s.c = around + (s.c-around)*math.Exp(-d/tauD) + heat*d
	}
	return s
}

func (k kneadLaw) dev(s kneading, folds int) float64 {
	return 1 - math.Exp(-(s.w+s.r+.5*float64(folds))/k.w63)
}

func (k kneadLaw) up(s kneading) (sum float64) {
	for i, u := range s.u {
		sum += k.shares[i] * u
	}
	return sum
}

// follow takes the plan's own steps through the model.
func (k kneadLaw) follow(steps []knead.Step, start, room, fridge, spreadTau float64) (s kneading, outMin, coolMin,
	peak float64) {
	s = kneading{c: start, u: make([]float64, len(k.taus))}
	peak = start
	for i, st := range steps {
		work, heat, around, tau := 0., 0., room, k.tauD
		switch st.By {
		case knead.ByHand:
			work, heat = 1, .2
		case knead.ByHook:
			work, heat = 1.3, .6
		case knead.BySlowHook:
			work, heat = .65, .3
		case knead.ByProcessor:
			work, heat = 8, 5
		case knead.InFridge:
			around = fridge
		}
		if st.Spread {
			tau = spreadTau
		}
		if st.By == knead.InFridge {
			if s.c > 7 {
				coolMin = tau * math.Log((s.c-fridge)/(7-fridge))
			}
		} else {
			outMin += st.Min
		}
		_ = i
		s = k.run(s, st.Min, work, heat, around, tau)
		peak = math.Max(peak, s.c)
	}
	return s, outMin, coolMin, peak
}

// first is what a school may do before the last rest, and the kneading by hand in it.
type first struct {
	steps []knead.Step
	hands float64
}

// beginnings are all a school may do before the last rest, and how long that may be.
func beginnings(school knead.School, minRest, turns float64) (firsts []first, lo, hi float64) {
	hand := func(m float64) knead.Step { return knead.Step{By: knead.ByHand, Min: m} }
	lo, hi = minRest, 120
	switch school {
	case knead.Long:
		for m := 8.; m <= 15; m++ {
			firsts = append(firsts, first{[]knead.Step{hand(m)}, m})
		}
	case knead.Short:
		lo, hi = math.Max(minRest, 20), math.Max(minRest, 30)
		for m := 1.; m <= 2; m++ {
			firsts = append(firsts, first{[]knead.Step{hand(m)}, m})
		}
	case knead.Hook:
		for m := 6.; m <= 8; m++ {
			firsts = append(firsts, first{[]knead.Step{{By: knead.BySlowHook, Min: 2}, {By: knead.ByHook, Min: m}}, 0})
		}
	case knead.Processor:
		for _, s := range []float64{.75, 1} {
			for m := 2.; m <= 3; m++ {
				firsts = append(firsts, first{[]knead.Step{{By: knead.ByProcessor, Min: s}, hand(m)}, m})
			}
		}
	case knead.Turns:
		lo, hi = 120, 1440
		for t := 2; t <= 3; t++ {
			for m := 3.; m <= 5; m++ {
				steps := []knead.Step{hand(m)}
				for range t - 1 {
					steps = append(steps, knead.Step{By: knead.InRoom, Min: math.Max(15, (turns-1)*m)}, hand(m))
				}
				firsts = append(firsts, first{steps, float64(t) * m})
			}
		}
	}
	return firsts, lo, hi
}

// lightest looks through a school for the ready way that weighs least: elapsed + 2 × hands, a folded pass
// half a minute of it; false when none is. spare is by how much it is ready.
func (k kneadLaw) lightest(school knead.School, start, room, around, tauRest, minRest, glut float64, folds [2]int,
	turns float64) (work, rest float64,
	n int, spare float64, ok bool) {
	firsts, lo, hi := beginnings(school, minRest, turns)
	best := math.Inf(1)
	for _, f := range firsts {
		s, _, _, _ := k.follow(f.steps, start, room, 4, 0)
		minutes, kneaded, run := 0., 0., 0.
		for _, st := range f.steps {
			minutes += st.Min
			if run += st.Min; st.By == knead.InRoom {
				run = 0
			} else {
				kneaded += st.Min
			}
		}
		for r := lo; r <= hi; r += 5 {
			at := 5.
			if r == lo {
				at = lo
			}
			s = k.run(s, at, 0, 0, around, tauRest)
			if k.up(s) < .95 || glut >= .45 && s.t > .25 {
				continue
			}
			got := -1
			for n := folds[0]; n <= folds[1]; n++ {
				if glut < .45 || k.dev(s, n) >= .90 {
					got = n
					break
				}
			}
			if got < 0 {
				continue
			}
			w := minutes + (turns-1)*run + r + 2*f.hands*turns + float64(got)
			if w < best-1e-9 || w < best+1e-9 && kneaded < work-1e-9 {
				best, work, rest, n, ok = w, kneaded, r, got, true
				if spare = k.up(s) - .95; glut >= .45 {
					spare = math.Min(spare, math.Min(.25-s.t, k.dev(s, got)-.90))
				}
			}
			break
		}
	}
	return work, rest, n, spare, ok
}

// easy is the largest easy reduction into a gap.
func easy(d, t, fat, glut, outside, gap float64, sheeter bool) float64 {
	r := math.Max(.36, .45-.3*math.Max(0, .90-d)-.15*math.Max(0, t-.25)) - .004*math.Max(0,
		fat-5) - .20*(1-glut) - .005*math.Abs(outside)
	if sheeter {
		r += .05
	}
	if gap < 1 {
		r -= .04
	}
	return math.Min(math.Max(r, .22), .55)
}

// way is the stops below the widest with their passes, fewest first, tried exhaustively.
type way struct {
	stops, passes []int
	n             int
	most, sum     float64
}

func (a way) better(b way) bool {
	switch {
	case a.n != b.n:
		return a.n < b.n
	case math.Abs(a.most-b.most) > 1e-12:
		return a.most < b.most
	}
	return a.sum < b.sum-1e-12
}

func fewest(target, startPasses int, sheet func(i, n int) float64, limit func(i, j int) float64) (best way, ok bool) {
	var walk func(i, n int, w way)
	walk = func(i, n int, w way) {
		if i == target {
			if !ok || w.better(best) {
				best, ok = way{append([]int{}, w.stops...), append([]int{}, w.passes...), w.n, w.most, w.sum}, true
			}
			return
		}
		if ok && w.n >= best.n && i != target {
			return // another pass is still to come
		}
		for j := i + 1; j <= target; j++ {
			red, lim := 1-sheet(j, 1)/sheet(i, n), limit(i, j)
			if j > i+1 && red > lim {
				continue
			}
			for p := 1; p <= 2; p++ {
				walk(j, p, way{append(w.stops[:len(w.stops):len(w.stops)], j), append(w.passes[:len(w.passes):len(
					w.passes)], p), w.n + p,
					math.Max(w.most, red/lim), w.sum + red*red/lim/lim})
			}
		}
	}
	walk(0, startPasses, way{})
	return best, ok
}

// check compares figures and counts what does not agree.
type check struct {
	t            *testing.T
	what         string
	bad, weighed int
}

func (c *check) near(name string, got, want, abs float64) {
	if d := math.Abs(got - want); !(d <= .005*math.Abs(want) || d <= abs) {
		c.bad++
		c.t.Errorf("%s: %s is %.5g, by the laws %.5g", c.what, name, got, want)
	}
}

func (c *check) same(name string, got, want any) {
	if got != want {
		c.bad++
		c.t.Errorf("%s: %s is %v, by the laws %v", c.what, name, got, want)
	}
}
