// Package sack answers: what does this sack of flour drink today, by what a kitchen can measure? Moisture through the
// history of its air, dm/dt = (m_eq(t) − m)/τ(t); by the sack's own weight; by the oven; and what a flour wants by
// small doughs and their words. Every figure comes with its standard deviation. Source of the moisture: F14 and the
// sorption table of package flour; of the spreads: rules.Measure.
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

// turns returns ∫dt/τ of a step.
func (s *Step) turns(ru rules.Flour) float64 {
	a := min(max(s.FromKG, .25), 25)
	b := min(max(s.ToKG, .25), 25)
	one := s.How.TauDays(ru, 1)
	if math.Abs(a-b) < 1e-9 {
		return s.Days / (one * math.Pow(a, ru.DriftMassPower))
	}
	p := 1 - ru.DriftMassPower
	return s.Days * (math.Pow(a, p) - math.Pow(b, p)) / (p * (a - b) * one)
}

// way is steps with what is reckoned of each once: where its air draws the flour to as it was read, a little damper and
// a little drier than that, and damper where nobody read it; and its turns.
type way struct{ eq, damper, drier, bridged, turns []float64 }

// wayOf is the way of a class of flour through steps.
func wayOf(ru rules.Flour, me rules.Measure, class flour.Sorption, steps []Step) way {
	n := len(steps)
	all := make([]float64, 5*n)
	w := way{all[:n], all[n : 2*n], all[2*n : 3*n], all[3*n : 4*n], all[4*n:]}
	for i := range steps {
		s := &steps[i]
		w.eq[i], _ = flour.Equilibrium(class, s.TempC, s.RH)
		w.damper[i], _ = flour.Equilibrium(class, s.TempC, s.RH+me.SensorRH)
		w.drier[i], _ = flour.Equilibrium(class, s.TempC, s.RH-me.SensorRH)
		if w.bridged[i] = w.eq[i]; s.Bridged {
			w.bridged[i], _ = flour.Equilibrium(class, s.TempC, s.RH+me.BridgeRH)
		}
		w.turns[i] = s.turns(ru)
	}
	return w
}

// first is the first n steps of a way.
func (w way) first(n int) way {
	return way{w.eq[:n], w.damper[:n], w.drier[:n], w.bridged[:n], w.turns[:n]}
}

// run returns where a moisture comes to, share wet basis: drawn to eq step by step, its time constants times tau.
func run(start float64, eq, turns []float64, tau float64) (m float64) {
	m = start
	for i := range eq {
		m = eq[i] + (m-eq[i])*math.Exp(-turns[i]/tau)
	}
	return m
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

// follow returns the moisture of flour that began at startWB, share wet basis with a standard deviation of startSD,
// after a way. Exact while air and keeping stand still in each step: m ← m_eq + (m − m_eq)·e^(−Δ/τ).
func follow(me rules.Measure, startWB, startSD float64, w way) Drift {
	d := Drift{WB: run(startWB, w.eq, w.turns, 1)}
	for _, t := range w.turns {
		d.Turns += t
	}
	left := math.Exp(-d.Turns)
	d.Doubt = Parts{
		Start:    left * startSD,
		Sorption: (1 - left) * me.SorptionSD,
		Sensor:   (run(startWB, w.damper, w.turns, 1) - run(startWB, w.drier, w.turns, 1)) / 2,
		Tau:      (run(startWB, w.eq, w.turns, 1+me.TauShare) - run(startWB, w.eq, w.turns, 1/(1+me.TauShare))) / 2,
		Bridge:   run(startWB, w.bridged, w.turns, 1) - d.WB,
	}
	d.Shares = append(make([]float64, 0, len(w.turns)+1), left)
	gone := 0.
	for _, t := range w.turns {
		gone += t
		d.Shares = append(d.Shares, (1-math.Exp(-t))*math.Exp(-(d.Turns-gone)))
	}
	return d
}
