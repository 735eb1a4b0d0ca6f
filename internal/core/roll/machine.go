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
	"slices"
	"sync"

	"hollen/internal/core/dough"
	"hollen/internal/core/measure"
)

// Stop is one setting of a machine: the label on the dial and the gap, mm. K is what
// calibration found: the true gap over the one given; 0 counts as 1.
type Stop struct {
	Label string  `json:"label"`
	GapMM float64 `json:"gap_mm"`
	K     float64 `json:"k,omitempty"`
}

// TrueMM returns the gap as calibrated, mm.
func (s Stop) TrueMM() float64 {
	if s.K == 0 {
		return s.GapMM
	}
	return s.GapMM * s.K
}

// Machine is a pair of rollers with stops from the widest to the finest. Labels may rise or
// fall as the gap closes; only the order of the gaps counts.
type Machine struct {
	Key         string     `json:"key"`
	Name        string     `json:"name"`
	Tool        dough.Tool `json:"tool"` // roller, sheeter or pin
	Stops       []Stop     `json:"stops"`
	WidthMM     float64    `json:"width_mm"`       // the sheet it makes, mm
	SpeedMMPerS float64    `json:"speed_mm_per_s"` // mm/s at the rollers
	FeedMM      float64    `json:"feed_mm"`        // thickest piece it draws in, mm
	Motor       bool       `json:"motor"`
	Cutters     []Cutter   `json:"cutters,omitempty"` // that belong to it

	BoardLengthMM float64 `json:"board_length_mm,omitempty"` // of a pin: the board it rolls on
	BoardWidthMM  float64 `json:"board_width_mm,omitempty"`
	// only the dial is known; the gaps are as GuessStops has them
	GapsGuessed  bool      `json:"gaps_guessed,omitempty"`
	SetSpeed     string    `json:"set_speed,omitempty"`   // the maker's own speed, in his words
	Calibrated   []Measure `json:"calibrated,omitempty"`  // what the gaps stand on, the newest set
	SpringThen   float64   `json:"spring_then,omitempty"` // spring-back of the dough measured, share of gap
	CalibratedOn string    `json:"calibrated_on,omitempty"`

	History []Calibration `json:"history,omitempty"` // earlier sets, oldest first; stays in the cabinet
}

// Cutter is a pair of cutting rollers that belongs to a machine, mm.
type Cutter struct {
	PitchMM float64 `json:"pitch_mm"`      // ribbon it cuts
	WidthMM float64 `json:"width_mm"`      // sheet it takes
	FromMM  float64 `json:"sheet_from_mm"` // thinner mats
	ToMM    float64 `json:"sheet_to_mm"`   // thicker does not separate
}

// MaxCutters is how many cutters a machine may have.
const MaxCutters = 10

// Check returns what is wrong with a cutter: ribbons of 0.8–120 mm from a sheet 20–1,000 mm wide
// and 0.3–6 mm thick.
func (c Cutter) Check() error {
	if c.PitchMM >= .8 && c.PitchMM <= 120 && c.WidthMM >= max(20, c.PitchMM) && c.WidthMM <= 1000 && c.FromMM >= .3 &&
		c.ToMM > c.FromMM && c.ToMM <= 6 {
		return nil
	}
	return measure.Faultf("cutters", "%g mm on %g mm, sheets of %g to %g; ribbons of 0.8 to 120 mm, a width of 20 to "+
		"1,000 mm and sheets of "+
		"0.3 to 6 mm, thin to thick, are allowed", c.PitchMM, c.WidthMM, c.FromMM, c.ToMM)
}

// Calibration is one set of measured sheets.
type Calibration struct {
	On       string    `json:"on"` // yyyy-mm-dd
	Measured []Measure `json:"measured"`
	Spring   float64   `json:"spring"` // share of gap
}

// Apply returns m with the fit of newly measured sheets, the former set added to its history.
func (m Machine) Apply(f Fit, points []Measure, spring float64, on string) Machine {
	if len(m.Calibrated) > 0 {
		m.History = append(slices.Clone(m.History), Calibration{m.CalibratedOn, m.Calibrated, m.SpringThen})
		if n := len(m.History); n > MaxHistory {
			m.History = m.History[n-MaxHistory:]
		}
	}
	m.Stops = f.Stops
	m.Calibrated = points
	m.SpringThen = spring
	m.CalibratedOn = on
	return m
}

// MaxHistory is how many earlier sets are kept.
const MaxHistory = 20

// Widest returns the label of the first stop, "" of a pin.
func (m Machine) Widest() string {
	if len(m.Stops) == 0 {
		return ""
	}
	return m.Stops[0].Label
}

// Finest returns the label of the last stop, "" of a pin.
func (m Machine) Finest() string {
	if len(m.Stops) == 0 {
		return ""
	}
	return m.Stops[len(m.Stops)-1].Label
}

// Check returns an error for every part of m that cannot be used: 2–40 stops with falling
// gaps of 0.2–40 mm, width 50–1,000 mm, speed 5–2,000 mm/s.
func (m Machine) Check() error {
	var errs []error
	if n := len([]rune(m.Name)); n < 1 || n > 60 {
		errs = append(errs, measure.Faultf("name", "%d letters; 1 to 60 are allowed", n))
	}
	if n := len(m.Cutters); n > MaxCutters {
		errs = append(errs, measure.Faultf("cutters", "%d given; at most %d are allowed", n, MaxCutters))
	}
	for _, c := range m.Cutters {
		if err := c.Check(); err != nil {
			errs = append(errs, err)
		}
	}
	if m.Tool == dough.Pin {
		if !(m.WidthMM >= 150 && m.WidthMM <= 1500) {
			errs = append(errs, measure.Faultf("width_mm", "%g; a pin is 150 to 1,500 mm long", m.WidthMM))
		}
		if !(min(m.BoardLengthMM, m.BoardWidthMM) >= 200 && max(m.BoardLengthMM, m.BoardWidthMM) <= 5000) {
			errs = append(errs, measure.Faultf("board_length_mm", "%g by %g; a board is 200 to 5,000 mm each way",
				m.BoardLengthMM, m.BoardWidthMM))
		}
		return errors.Join(errs...)
	}
	if len(m.Stops) < 1 || len(m.Stops) > MostStops {
		errs = append(errs, measure.Faultf("stops", "%d given; 1 to %d are allowed", len(m.Stops), MostStops))
	}
	least, most := m.believed()
	for i, s := range m.Stops {
		if s.Label == "" || len([]rune(s.Label)) > 12 {
			errs = append(errs, measure.Faultf("stops", "a label has 1 to 12 letters, not %q", s.Label))
		}
		if slices.ContainsFunc(m.Stops[:i], func(o Stop) bool { return o.Label == s.Label }) {
			errs = append(errs, measure.Faultf("stops", "two are called %q; each needs a label of its own", s.Label))
		}
		if s.K != 0 && !(s.K >= least && s.K <= most) {
			errs = append(errs, measure.Faultf("stops", "%q is off by %g; %g to %g is believed", s.Label, s.K, least,
				most))
		}
		if !(s.GapMM >= .2 && s.GapMM <= 40) {
			errs = append(errs, measure.Faultf("stops", "%q has a gap of %g mm; 0.2 to 40 mm is allowed", s.Label,
				s.GapMM))
		}
		if i > 0 && !(s.GapMM < m.Stops[i-1].GapMM && s.TrueMM() < m.Stops[i-1].TrueMM()) {
			errs = append(errs, measure.Faultf("stops", "%q, gap %g mm is not finer than %g mm before it; list the "+
				"stops from the widest to the finest",
				s.Label, s.GapMM, m.Stops[i-1].GapMM))
		}
	}
	if m.Tool != dough.Roller && m.Tool != dough.Sheeter {
		errs = append(errs, measure.Faultf("tool", "%q; roller or sheeter is allowed", m.Tool))
	}
	if !(m.WidthMM >= 50 && m.WidthMM <= 1000) {
		errs = append(errs, measure.Faultf("width_mm", "%g mm; 50 to 1,000 mm is allowed", m.WidthMM))
	}
	if !(m.SpeedMMPerS >= 5 && m.SpeedMMPerS <= 2000) {
		errs = append(errs, measure.Faultf("speed_mm_per_s", "%g mm/s; 5 to 2,000 mm/s is allowed", m.SpeedMMPerS))
	}
	if !(m.FeedMM >= 2 && m.FeedMM <= 100) {
		errs = append(errs, measure.Faultf("feed_mm", "%g mm; 2 to 100 mm is allowed", m.FeedMM))
	}
	return errors.Join(errs...)
}

func stops(gaps []float64, label func(i int) string) []Stop {
	out := make([]Stop, len(gaps))
	for i, g := range gaps {
		out[i] = Stop{Label: label(i), GapMM: g}
	}
	return out
}

// Shipped returns the generic machines. Gaps are typical of their kind, not measured on
// one: a maker's own machine is calibrated.
func Shipped() []Machine {
	rising := func(from int) func(int) string { return func(i int) string { return fmt.Sprint(from + i) } }
	cutters := func(width float64, pitches ...float64) (out []Cutter) {
		// Source: house
		suits := map[float64][2]float64{1: {.6, 1}, 2: {.8, 1.6}, 2.5: {.7, 1.4}, 3.5: {.8, 1.5}, 6: {.7, 1.5},
			6.5: {.7, 1.5}}
		for _, p := range pitches {
			out = append(out, Cutter{p, width, suits[p][0], suits[p][1]})
		}
		return out
	}
	dial := []float64{10, 8, 6, 4.5, 3.5, 2.8, 2.2, 1.8, 1.5, 1.2, 1.0, .8, .6}
	return []Machine{
		{Key: "hand-crank-10", Name: "Hand crank, ten stops", Tool: dough.Roller, WidthMM: 140, SpeedMMPerS: 110,
			FeedMM: 15, Cutters: cutters(140, 2, 6.5),
			Stops: stops([]float64{4.6, 3.7, 3.0, 2.4, 1.9, 1.5, 1.2, .9, .7, .5}, rising(0))},
		{Key: "mixer-8", Name: "Mixer roller, eight stops", Tool: dough.Roller, WidthMM: 140, SpeedMMPerS: 130,
			FeedMM: 15, Motor: true,
			Cutters: cutters(140, 1, 2, 6),
			Stops:   stops([]float64{4.4, 3.3, 2.5, 1.9, 1.5, 1.2, .9, .7}, rising(1))},
		{Key: "motor-9", Name: "Motor roller, nine stops", Tool: dough.Roller, WidthMM: 210, SpeedMMPerS: 160,
			FeedMM: 15, Motor: true,
			Cutters: cutters(205, 2.5, 6.5),
			Stops: stops([]float64{6.0, 4.6, 3.6, 2.8, 2.2, 1.7, 1.3, .95, .7},
				func(i int) string { return fmt.Sprint(9 - i) })},
		{Key: "sheeter-mm", Name: "Bench sheeter, dial in mm", Tool: dough.Sheeter, WidthMM: 300, SpeedMMPerS: 250,
			FeedMM: 25, Motor: true,
			Cutters: cutters(290, 2, 3.5, 6.5),
			Stops:   stops(dial, func(i int) string { return fmt.Sprintf("%.1f", dial[i]) })},
		{Key: "pin-board", Name: "Rolling pin and board", Tool: dough.Pin, WidthMM: 800, BoardLengthMM: 900,
			BoardWidthMM: 700},
	}
}

// Hands stand for a machine where pieces are formed from a rope.
func Hands() Machine {
	return Machine{Key: "hands", Name: "Hands, a rope on the board", Tool: dough.Pin, WidthMM: 800, BoardLengthMM: 2000,
		BoardWidthMM: 700}
}

// Find returns the shipped machine of that key and whether there is one.
func Find(key string) (Machine, bool) {
	for _, m := range shipped() {
		if m.Key == key {
			m.Stops, m.Cutters = slices.Clone(m.Stops), slices.Clone(m.Cutters)
			return m, true
		}
	}
	return Machine{}, false
}

var shipped = sync.OnceValue(Shipped)
