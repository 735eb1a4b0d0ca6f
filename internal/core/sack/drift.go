// Package sack answers: what does this sack of flour drink today, by what a kitchen can measure? Moisture through the
// history of its air, dm/dt = (m_eq(t) − m)/τ(t); by the sack's own weight; by the oven; and what a flour wants by small
// doughs and their words. Every figure comes with its standard deviation. Source of the moisture: F14 and the sorption
// table of package flour; of the spreads: rules.Measure.
package sack

import (
	"math"

	"hollen/internal/core/flour"
	"hollen/internal/core/rules"
)

// Step is a stretch of time in which air and keeping stand still.
type Step struct {
	Days    float64 // ≥ 0
	TempC   float64
	RH      float64 // share 0–1
	How     flour.Keeping
	FromKG  float64 // in the container at its beginning, used evenly to ToKG
	ToKG    float64
	Bridged bool // nobody measured this air
}

// turns returns ∫dt/τ of a step whose τ is scaled by tau.
func (s *Step) turns(ru rules.Flour, tau float64) float64 {
	a := min(max(s.FromKG, .25), 25)
	b := min(max(s.ToKG, .25), 25)
	one := s.How.TauDays(ru, 1) * tau
	if math.Abs(a-b) < 1e-9 {
		return s.Days / (one * math.Pow(a, ru.DriftMassPower))
	}
	p := 1 - ru.DriftMassPower
	return s.Days * (math.Pow(a, p) - math.Pow(b, p)) / (p * (a - b) * one)
}

// Off is how a world may differ from the one that is reckoned with: one of them at a time.
type off struct {
	rh     float64 // added to every reading, share
	bridge float64 // added where the air was not measured, share
	tau    float64 // the time constants, times
}

// run returns the moisture, share wet basis, and the turns after steps.
func run(ru rules.Flour, class flour.Sorption, startWB float64, steps []Step, o off) (m, turns float64) {
	m = startWB
	for i := range steps {
		s := &steps[i]
		rh := s.RH + o.rh
		if s.Bridged {
			rh += o.bridge
		}
		eq, _ := flour.Equilibrium(class, s.TempC, rh)
		ds := s.turns(ru, o.tau)
		m = eq + (m-eq)*math.Exp(-ds)
		turns += ds
	}
	return m, turns
}

// Parts are what the doubt of a moisture is made of: standard deviations, share wet basis, with their sign.
type Parts struct{ Start, Sorption, Sensor, Tau, Bridge float64 }

// SD is all of them together.
func (p Parts) SD() float64 {
	return math.Sqrt(p.Start*p.Start + p.Sorption*p.Sorption + p.Sensor*p.Sensor + p.Tau*p.Tau + p.Bridge*p.Bridge)
}

// less is the doubt of the difference of two moistures of one sack: what both share falls away.
func (p Parts) less(q Parts) Parts {
	return Parts{p.Start - q.Start, p.Sorption - q.Sorption, p.Sensor - q.Sensor, p.Tau - q.Tau, p.Bridge - q.Bridge}
}

// Drift is a moisture that followed the air.
type Drift struct {
	WB     float64   // share wet basis; not held to what is believed without a measurement
	Turns  float64   // time constants gone by
	Doubt  Parts     // standard deviations, share
	Shares []float64 // of the start, then of each step in WB; their sum is 1
}

// SD is its standard deviation, share wet basis.
func (d *Drift) SD() float64 { return d.Doubt.SD() }

// Shown is what may be believed of it without a measurement, and whether it was held to that.
func (d *Drift) Shown(ru rules.Flour) (wb float64, held bool) {
	wb = min(max(d.WB, ru.EstimateLowWB), ru.EstimateHighWB)
	return wb, wb != d.WB
}

// Follow returns the moisture of flour of a class that began at startWB, share wet basis with a standard deviation of
// startSD, after steps. Exact while air and keeping stand still in each: m ← m_eq + (m − m_eq)·e^(−Δ/τ).
func Follow(ru rules.Flour, me rules.Measure, class flour.Sorption, startWB, startSD float64, steps []Step) Drift {
	as := off{tau: 1}
	d := Drift{}
	d.WB, d.Turns = run(ru, class, startWB, steps, as)
	left := math.Exp(-d.Turns)
	of := func(o off) float64 {
		m, _ := run(ru, class, startWB, steps, o)
		return m
	}
	d.Doubt = Parts{
		Start:    left * startSD,
		Sorption: (1 - left) * me.SorptionSD,
		Sensor:   (of(off{rh: me.SensorRH, tau: 1}) - of(off{rh: -me.SensorRH, tau: 1})) / 2,
		Tau:      (of(off{tau: 1 + me.TauShare}) - of(off{tau: 1 / (1 + me.TauShare)})) / 2,
	}
	for i := range steps {
		if steps[i].Bridged {
			d.Doubt.Bridge = of(off{bridge: me.BridgeRH, tau: 1}) - d.WB
			break
		}
	}
	d.Shares = append(d.Shares, left)
	gone := 0.
	for i := range steps {
		ds := steps[i].turns(ru, 1)
		gone += ds
		d.Shares = append(d.Shares, (1-math.Exp(-ds))*math.Exp(-(d.Turns-gone)))
	}
	return d
}

// Change returns how much wetter (share wet basis) a sack is after all steps than it was after the first n of them, with
// the doubt of that difference: what both moments share falls away.
func Change(ru rules.Flour, me rules.Measure, class flour.Sorption, startWB, startSD float64, steps []Step, n int) (
	byWB float64, doubt Parts) {
	then := Follow(ru, me, class, startWB, startSD, steps[:n])
	now := Follow(ru, me, class, startWB, startSD, steps)
	return now.WB - then.WB, now.Doubt.less(then.Doubt)
}
