// Package roll answers: stop by stop, how does a lump become a sheet of the thickness the
// shape wants, how long is it, and where would it tear?
//
//	sheet out = gap·(1 + s/n), n-th pass at the stop ≤ 2
//	s         = .05 + .25·T + .03·durum share          (spring-back)
//	length    = mass/(ρ·width·sheet)
package roll

import (
	"errors"
	"fmt"

	"hollen/internal/core/dough"
)

// Stop is one setting of a machine: the label on the dial and the gap, mm.
type Stop struct {
	Label string  `json:"label"`
	GapMM float64 `json:"gap_mm"`
}

// Machine is a pair of rollers with stops from the widest to the finest. Labels may rise or
// fall as the gap closes; only the order of the gaps counts.
type Machine struct {
	Key         string     `json:"key"`
	Name        string     `json:"name"`
	Tool        dough.Tool `json:"tool"` // roller or sheeter
	Stops       []Stop     `json:"stops"`
	WidthMM     float64    `json:"width_mm"`       // the sheet it makes, mm
	SpeedMMPerS float64    `json:"speed_mm_per_s"` // mm/s at the rollers
	FeedMM      float64    `json:"feed_mm"`        // thickest piece it draws in, mm
	Motor       bool       `json:"motor"`
}

// Check returns an error for every part of m that cannot be used: 2–40 stops with falling
// gaps of 0.2–40 mm, width 50–1,000 mm, speed 5–2,000 mm/s.
func (m Machine) Check() error {
	var errs []error
	if len(m.Stops) < 1 || len(m.Stops) > 40 {
		errs = append(errs, fmt.Errorf("stops: %d given; 1 to 40 are allowed", len(m.Stops)))
	}
	for i, s := range m.Stops {
		if s.GapMM < .2 || s.GapMM > 40 {
			errs = append(errs, fmt.Errorf("stop %q: gap %g mm; 0.2 to 40 mm is allowed", s.Label, s.GapMM))
		}
		if i > 0 && s.GapMM >= m.Stops[i-1].GapMM {
			errs = append(errs, fmt.Errorf("stop %q: gap %g mm is not finer than %g mm before it; list the stops from the widest to the finest", s.Label, s.GapMM, m.Stops[i-1].GapMM))
		}
	}
	if m.Tool != dough.Roller && m.Tool != dough.Sheeter {
		errs = append(errs, fmt.Errorf("tool: %q; roller or sheeter is allowed", m.Tool))
	}
	if m.WidthMM < 50 || m.WidthMM > 1000 {
		errs = append(errs, fmt.Errorf("width: %g mm; 50 to 1,000 mm is allowed", m.WidthMM))
	}
	if m.SpeedMMPerS < 5 || m.SpeedMMPerS > 2000 {
		errs = append(errs, fmt.Errorf("speed: %g mm/s; 5 to 2,000 mm/s is allowed", m.SpeedMMPerS))
	}
	if m.FeedMM < 2 || m.FeedMM > 100 {
		errs = append(errs, fmt.Errorf("feed: %g mm; 2 to 100 mm is allowed", m.FeedMM))
	}
	return errors.Join(errs...)
}

func stops(gaps []float64, label func(i int) string) []Stop {
	out := make([]Stop, len(gaps))
	for i, g := range gaps {
		out[i] = Stop{label(i), g}
	}
	return out
}

// Shipped returns the generic machines. Gaps are typical of their kind, not measured on
// one: a maker's own machine is calibrated.
func Shipped() []Machine {
	rising := func(from int) func(int) string { return func(i int) string { return fmt.Sprint(from + i) } }
	return []Machine{
		{"hand-crank-10", "Hand crank, ten stops", dough.Roller,
			stops([]float64{4.6, 3.7, 3.0, 2.4, 1.9, 1.5, 1.2, .9, .7, .5}, rising(0)), 140, 110, 15, false},
		{"mixer-8", "Mixer roller, eight stops", dough.Roller,
			stops([]float64{4.4, 3.3, 2.5, 1.9, 1.5, 1.2, .9, .7}, rising(1)), 140, 130, 15, true},
		{"motor-9", "Motor roller, nine stops", dough.Roller,
			stops([]float64{6.0, 4.6, 3.6, 2.8, 2.2, 1.7, 1.3, .95, .7}, func(i int) string { return fmt.Sprint(9 - i) }), 210, 160, 15, true},
		{"sheeter-mm", "Bench sheeter, dial in mm", dough.Sheeter,
			stops([]float64{10, 8, 6, 4.5, 3.5, 2.8, 2.2, 1.8, 1.5, 1.2, 1.0, .8, .6}, func(i int) string {
				return fmt.Sprintf("%.1f", []float64{10, 8, 6, 4.5, 3.5, 2.8, 2.2, 1.8, 1.5, 1.2, 1.0, .8, .6}[i])
			}), 300, 250, 25, true},
	}
}

// Find returns the shipped machine of that key and whether there is one.
func Find(key string) (Machine, bool) {
	for _, m := range Shipped() {
		if m.Key == key {
			return m, true
		}
	}
	return Machine{}, false
}
