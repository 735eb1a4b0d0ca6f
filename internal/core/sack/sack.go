package sack

import (
	"math"
	"slices"
	"time"

	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
)

// Keep is how a sack is kept from a moment on, with how much in it.
type Keep struct {
	At  time.Time
	How flour.Keeping
	KG  float64
}

// Weighing is a sack on the scale, net, at a moment: before flour is taken, or after it.
type Weighing struct {
	At    time.Time
	G     float64
	StepG float64 // of the scale
	After bool    // flour was just taken; the next one before a taking is compared with it
}

// Dried is an answer of the oven.
type Dried struct {
	At     time.Time
	WB, SD float64 // share
}

// Sack is a flour in its container: how it was kept and what was measured of it, each in order of time.
type Sack struct {
	Class    flour.Sorption
	StartWB  float64 // share wet basis, when it was opened
	StartSD  float64
	Kept     []Keep // the first when it was opened
	Weighed  []Weighing
	Dried    []Dried
	Evenly   bool // between two keeps flour was used evenly; else it was taken at the second
	Measured []Measurement
}

// Measurement is a moisture that was measured some other way and stands as it was said.
type Measurement = Dried

// Source is where a moisture comes from.
type Source string

// The sources of a moisture.
const (
	ByAir    Source = "air"    // it followed the air
	ByScale  Source = "weight" // the sack's own weight
	ByOven   Source = "oven"   // dried
	BySaying Source = "said"   // measured, and said
)

// Point is the moisture at a moment.
type Point struct {
	At   time.Time
	WB   float64
	Turn Source // where it was measured there
}

// Moisture is what a sack holds by now.
type Moisture struct {
	WB     float64 // share wet basis, as it may be believed
	Level  float64 // the same, not held to anything
	SD     float64
	Doubt  Parts
	Held   bool // held to what is believed without a measurement
	From   Source
	Since  time.Time // of its last measurement, or when it was opened
	Curve  []Point
	Bridge time.Duration // of air nobody measured, since then
	// SteadyWB is what steady air, the named room's, would have said.
	SteadyWB float64
	steps    []Step // since then
	startWB  float64
	startSD  float64
}

// StartSD is how sure its last measurement was, or what it held when it was opened, share.
func (m *Moisture) StartSD() float64 { return m.startSD }

// every is how long a step is: an hour, ten minutes where flour lies open.
func every(how flour.Keeping) time.Duration {
	if how == flour.Sifted {
		return slot
	}
	return time.Hour
}

// steps are the stretches of a sack's time from one moment to another.
func (s *Sack) steps(a *Air, from, to time.Time) (out []Step) {
	for i, k := range s.Kept {
		begin, end := k.At, to
		last := k.KG
		if i+1 < len(s.Kept) {
			end = s.Kept[i+1].At
			if s.Evenly {
				last = s.Kept[i+1].KG
			}
		}
		whole := end.Sub(begin)
		if begin.Before(from) {
			begin = from
		}
		if end.After(to) {
			end = to
		}
		kg := func(at time.Time) float64 {
			if whole <= 0 {
				return k.KG
			}
			return k.KG + (last-k.KG)*float64(at.Sub(k.At))/float64(whole)
		}
		for at := begin; at.Before(end); {
			next := at.Truncate(every(k.How)).Add(every(k.How))
			if next.After(end) {
				next = end
			}
			c, rh, bridged := a.At(at.Add(next.Sub(at) / 2))
			out = append(out, Step{Days: next.Sub(at).Hours() / 24, TempC: c, RH: rh, How: k.How, FromKG: kg(at),
				ToKG: kg(next), Bridged: bridged})
			at = next
		}
	}
	return out
}

// known is something measured of a sack.
type known struct {
	at     time.Time
	begins time.Time // of the span two weighings close, zero of anything else
	from   Source
	wb, sd float64 // of what was dried or said
	then   float64 // of two weighings
	now    float64
	stepG  float64
}

// measured is all that was measured of s up to now, in order.
func (s *Sack) measured(now time.Time) (out []known) {
	opened := s.Kept[0].At
	within := func(at time.Time) bool { return !at.Before(opened) && !at.After(now) }
	for _, d := range s.Dried {
		if within(d.At) {
			out = append(out, known{at: d.At, from: ByOven, wb: d.WB, sd: d.SD})
		}
	}
	for _, d := range s.Measured {
		if within(d.At) {
			out = append(out, known{at: d.At, from: BySaying, wb: d.WB, sd: d.SD})
		}
	}
	for i := 1; i < len(s.Weighed); i++ {
		a, b := s.Weighed[i-1], s.Weighed[i]
		if within(a.At) && within(b.At) && a.After && !b.After && a.G > 0 && b.G > 0 {
			out = append(out, known{at: b.At, begins: a.At, from: ByScale, then: a.G, now: b.G, stepG: max(a.StepG,
				b.StepG)})
		}
	}
	slices.SortStableFunc(out, func(x, y known) int { return x.at.Compare(y.at) })
	return out
}

// Spilt asks back a weighing that says more than .5 points a day were lost or gained by a closed sack.
func (s *Sack) Spilt(me rules.Measure, before, after Weighing, wb float64) error {
	if len(s.Kept) > 0 {
		if how := s.Kept[len(s.Kept)-1].How; how == flour.Sifted || how == flour.OpenBin {
			return nil
		}
	}
	days := max(after.At.Sub(before.At).Hours()/24, .5)
	by := math.Abs(ByWeight(wb, before.G, after.G) - wb)
	if by-Within(ByWeightSD(max(before.StepG, after.StepG), before.G, wb, 1)) > me.MostADay*days {
		return measure.Faultf("g", "that is %.1f points of moisture in %s: was flour taken or spilt and not said? "+
			"Weigh it "+
			"once more, or say that flour was taken", 100*by, measure.Days(math.Ceil(days)))
	}
	return nil
}

// Moisture returns what s holds by now: it follows the air from where it was last known; what was measured replaces
// that over the days it spans. An oven's answer is weighed with the estimate unless it is sure enough to stand alone.
func (s *Sack) Moisture(ru rules.Flour, me rules.Measure, a *Air, now time.Time) Moisture {
	m := Moisture{WB: s.StartWB, Level: s.StartWB, From: ByAir}
	if len(s.Kept) == 0 {
		return m
	}
	m.Since = s.Kept[0].At
	wb, sd := s.StartWB, s.StartSD
	m.Curve = append(m.Curve, Point{At: m.Since, WB: wb})
	m.Bridge = 0
	// goOn follows it from at to there; the curve gets a point every quarter of a day.
	goOn := func(at, there time.Time) Drift {
		steps := s.steps(a, at, there)
		w := wayOf(ru, me, s.Class, steps)
		d := follow(me, wb, sd, w)
		x, t := wb, at
		for i := range steps {
			x = run(x, w.eq[i:i+1], w.turns[i:i+1], 1)
			t = t.Add(time.Duration(steps[i].Days * 24 * float64(time.Hour)))
			if last := m.Curve[len(m.Curve)-1]; t.Sub(last.At) >= 6*time.Hour || i == len(steps)-1 {
				m.Curve = append(m.Curve, Point{At: t, WB: x})
			}
		}
		return d
	}
	for _, k := range s.measured(now) {
		until := k.at
		if k.from == ByScale {
			if k.begins.Before(m.Since) { // it spans something surer
				continue
			}
			until = k.begins
		}
		d := goOn(m.Since, until)
		est, estSD := d.WB, d.SD()
		switch k.from {
		case ByScale:
			wb = ByWeight(est, k.then, k.now)
			sd = math.Hypot(estSD, ByWeightSD(k.stepG, k.then, est, 1))
		case ByOven:
			wb, sd = k.wb, k.sd
			if k.sd > ru.MeasuredSD {
				wb, sd = Together(est, estSD, k.wb, k.sd)
			}
		default:
			wb, sd = k.wb, k.sd
		}
		m.From, m.Since = k.from, k.at
		m.Curve = append(m.Curve, Point{At: k.at, WB: wb, Turn: k.from})
	}
	m.startWB, m.startSD = wb, sd
	m.steps = s.steps(a, m.Since, now)
	d := goOn(m.Since, now)
	m.Doubt = d.Doubt
	m.WB, m.SD = d.WB, d.SD()
	m.Level = d.WB
	if m.From == ByAir {
		m.WB, m.Held = d.Shown(ru)
	}
	for i := range m.steps {
		if m.steps[i].Bridged {
			m.Bridge += time.Duration(m.steps[i].Days * 24 * float64(time.Hour))
		}
	}
	eq, _ := flour.Equilibrium(s.Class, a.named.TempC, a.named.RH)
	m.SteadyWB = m.startWB
	for i := range m.steps {
		m.SteadyWB = eq + (m.SteadyWB-eq)*math.Exp(-m.steps[i].turns(ru))
	}
	m.SteadyWB = min(max(m.SteadyWB, ru.EstimateLowWB), ru.EstimateHighWB)
	return m
}

// Since returns what the level of s was then, share, whose moisture is m by now, and how sure what has changed since
// is: what both moments share falls away. false where something was measured in between, so that the level itself is
// surer.
func (s *Sack) Since(ru rules.Flour, me rules.Measure, a *Air, m *Moisture, then time.Time) (level, sd float64,
	ok bool) {
	if len(m.steps) == 0 || then.Before(m.Since) {
		return 0, 0, false
	}
	n := len(s.steps(a, m.Since, then))
	if n > len(m.steps) {
		return 0, 0, false
	}
	w := wayOf(ru, me, s.Class, m.steps)
	was := follow(me, m.startWB, m.startSD, w.first(n))
	now := follow(me, m.startWB, m.startSD, w)
	return was.WB, now.Doubt.less(was.Doubt).SD(), true
}
