package roll

import (
	"errors"
	"fmt"
	"math"
	"slices"
)

// Bounds of a believable calibration, true gap over the gap given.
const KMin, KMax = .8, 1.5

// PaperMM is a leaf of 80 g/m² office paper, mm. Source: paper trade, ±0.005.
const PaperMM = .1

// Unmeasured is how far a generic gap may be off, share: half the spread between machines of
// a kind. Source: house.
const Unmeasured = .12

// MeasuredWithin is how far a sheet from a measured stop may be off, share, and the least
// that is said of any other: a caliper or a square on soft dough is good to 1.5 %, and twice
// that covers nineteen in twenty. FewWithin is said of stops between fewer than three
// measured ones. Source: house.
const MeasuredWithin, FewWithin = .03, .06

// Seen is what is seen through a sheet, of a plain egg dough.
type Seen string

// Things that can be seen through a thin sheet.
const (
	ByHand  Seen = "hand"  // the shadow of a hand
	ByPrint Seen = "print" // print can be read
)

// Seens are what is seen through a sheet, the thicker first.
func Seens() []Seen { return []Seen{ByHand, ByPrint} }

// MM is the thickest sheet it is seen through, and how far that may be off, mm. Source: house.
func (s Seen) MM() (at, within float64) {
	switch s {
	case ByHand:
		return 1.2, .3
	case ByPrint:
		return .8, .15
	}
	return 0, 0
}

// Words say it: "your hand shows through".
func (s Seen) Words() string {
	return map[Seen]string{ByHand: "your hand shows through", ByPrint: "print can be read through it"}[s]
}

// Measure is one sheet measured, the stop it came from and its thickness; or the first stop at which something is seen
// through it.
type Measure struct {
	Stop    string  `json:"stop"` // label
	SheetMM float64 `json:"sheet_mm"`
	By      Seen    `json:"by,omitempty"` // "": measured
}

// SeenAt is the reading of a stop at which something begins to be seen through the sheet.
func SeenAt(stop string, by Seen) Measure {
	mm, _ := by.MM()
	return Measure{stop, mm, by}
}

// Fit is what measured sheets say of a machine's gaps.
type Fit struct {
	Stops    []Stop    // with K
	K        []float64 // by stop, after interpolation and bounds
	Measured []bool    // by stop; what is only seen through is not
	Clamped  bool      // a stop lay beyond what is believed and was held there
	Error    float64   // how far a stop that was not measured may be off, share of its sheet
}

// Calibrate fits a machine to sheets measured at some of its stops with a dough of spring-back
// spring: k = t/(gap·(1+spring)) at a measured stop, linear in the gap between two, flat
// beyond, held to 0.8–1.5, wider where the gaps were guessed. The error is twice what each measured stop is missed by
// when it is
// left out, root mean square, never under MeasuredWithin; with fewer than three points
// FewWithin. Sheets that do not
// fall with the gap are refused, as are unknown stops and impossible thicknesses. What is seen through a sheet moves
// the whole dial, by its weight beside the gaps as they are given; beside measured sheets it weighs next to nothing and
// is left out.
func Calibrate(m Machine, points []Measure, spring float64) (Fit, error) {
	f := Fit{Stops: slices.Clone(m.Stops), K: make([]float64, len(m.Stops)), Measured: make([]bool, len(m.Stops))}
	type at struct {
		stop   int
		gap, k float64
		t      float64
	}
	var known []at
	var errs []error
	if slices.ContainsFunc(points, func(p Measure) bool { return p.By == "" }) {
		points = slices.DeleteFunc(slices.Clone(points), func(p Measure) bool { return p.By != "" })
	} else if len(points) > 0 {
		return seenThrough(m, points, spring)
	}
	for _, p := range points {
		i := slices.IndexFunc(m.Stops, func(s Stop) bool { return s.Label == p.Stop })
		switch {
		case i < 0:
			errs = append(errs, fmt.Errorf("stop %q: the machine has no such stop", p.Stop))
			continue
		case !(p.SheetMM >= .2 && p.SheetMM <= 40):
			errs = append(errs, fmt.Errorf("stop %q: a sheet of %g mm; 0.2 to 40 mm is allowed", p.Stop, p.SheetMM))
			continue
		case f.Measured[i]:
			errs = append(errs, fmt.Errorf("stop %q: measured twice; give the mean", p.Stop))
			continue
		}
		f.Measured[i] = true
		gap := m.Stops[i].GapMM
		known = append(known, at{i, gap, p.SheetMM / (gap * (1 + spring)), p.SheetMM})
	}
	if len(errs) > 0 {
		return f, errors.Join(errs...)
	}
	if len(known) == 0 {
		return f, errors.New("nothing is measured yet: give the sheet of at least one stop")
	}
	slices.SortFunc(known, func(a, b at) int { return a.stop - b.stop })
	for i := 1; i < len(known); i++ {
		if known[i].t >= known[i-1].t {
			return f, fmt.Errorf("the sheet of stop %q (%.2f mm) is no thinner than that of stop %q (%.2f mm) before "+
				"it: measure again, from the same dough",
				m.Stops[known[i].stop].Label, known[i].t, m.Stops[known[i-1].stop].Label, known[i-1].t)
		}
	}
	between := func(gap float64, points []at) float64 {
		for i, p := range points {
			if gap >= p.gap {
				if i == 0 {
					return p.k
				}
				q := points[i-1]
				return p.k + (q.k-p.k)*(gap-p.gap)/(q.gap-p.gap)
			}
		}
		return points[len(points)-1].k
	}
	least, most := m.believed()
	for i, s := range m.Stops {
		k := between(s.GapMM, known)
		f.K[i] = math.Round(1e4*min(max(k, least), most)) / 1e4
		f.Clamped = f.Clamped || k < least || k > most
		f.Stops[i].K = f.K[i]
		if i > 0 && f.Stops[i].TrueMM() >= f.Stops[i-1].TrueMM() {
			return f, fmt.Errorf("by these sheets stop %q would be no finer than stop %q: measure one of them, too",
				s.Label, m.Stops[i-1].Label)
		}
	}
	f.Error = FewWithin
	if len(known) >= 3 {
		sum := 0.
		for i := range known {
			rest := append(slices.Clone(known[:i]), known[i+1:]...)
			miss := between(known[i].gap, rest)/known[i].k - 1
			sum += miss * miss
		}
		f.Error = max(MeasuredWithin, 2*math.Sqrt(sum/float64(len(known))))
	}
	return f, nil
}

// seenThrough fits a machine by what is seen through its sheets alone: one factor for all gaps, between 1, as far as
// the gaps are believed, and what the readings say, each by its own weight.
func seenThrough(m Machine, points []Measure, spring float64) (Fit, error) {
	f := Fit{Stops: slices.Clone(m.Stops), K: make([]float64, len(m.Stops)), Measured: make([]bool, len(m.Stops))}
	prior := m.Within()
	weights := 1 / (prior * prior)
	sum := 0. // of ln k
	last, before := -1, Seen("")
	for _, by := range Seens() {
		i := slices.IndexFunc(points, func(p Measure) bool { return p.By == by })
		if i < 0 {
			continue
		}
		at := slices.IndexFunc(m.Stops, func(s Stop) bool { return s.Label == points[i].Stop })
		switch {
		case at < 0:
			return f, fmt.Errorf("stop %q: the machine has no such stop", points[i].Stop)
		case at <= last:
			return f, fmt.Errorf("stop %q: before %s, %s; look again, on the same dough", points[i].Stop, by.Words(),
				before.Words())
		}
		last, before = at, by
		mm, off := by.MM()
		w := (mm / off) * (mm / off)
		sum += w * math.Log(mm/(m.Stops[at].GapMM*(1+spring)))
		weights += w
	}
	least, most := m.believed()
	k := math.Exp(sum / weights)
	f.Clamped = k < least || k > most
	k = math.Round(1e4*min(max(k, least), most)) / 1e4
	for i := range f.Stops {
		f.K[i], f.Stops[i].K = k, k
	}
	f.Error = 1 / math.Sqrt(weights)
	return f, nil
}

// FromPaper returns a thickness from the leaves of 80 g/m² paper that are as high, mm.
func FromPaper(leaves float64) float64 { return leaves * PaperMM }

// SetUp is what is done before the first pass. Source: usual practice.
func SetUp(motor bool) []string {
	out := []string{"a damp cloth under it, and the clamp tight", "the dial clicked home at the widest stop",
		"rollers wiped dry, no water on them",
		"hair tied, sleeves up, rings off"}
	if motor {
		return append(out, "the drive seated, the slow speed set", "a hand on the switch, fingers off the feed")
	}
	return append(out, "the crank seated, room to turn it")
}
