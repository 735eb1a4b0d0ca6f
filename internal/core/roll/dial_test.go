package roll

import (
	"math"
	"strings"
	"testing"

	"hollen/internal/core/dough"
)

func TestReadDial(t *testing.T) {
	for in, want := range map[string]string{"from 9 to 1": "9 8 7 6 5 4 3 2 1", "0-3": "0 1 2 3", "1 … 4": "1 2 3 4",
		" 2..1 ": "2 1", "a to D": "A B C D",
		"3 to 1 in halves": "3 2.5 2 1.5 1", "From 0 TO 1 by 0,5": "0 0.5 1"} {
		got, err := ReadDial(in)
		if err != nil || strings.Join(got, " ") != want {
			t.Errorf("%q: %v, %v; want %s", in, got, err, want)
		}
	}
	for _, in := range []string{"", "9", "5 to 5", "a to 4", "0 to 99", "from 25 to 1 in halves", "a to d in halves",
		"9 8 7", "9 0.5", "from 9.5 to 1",
		"-1 to 3"} {
		if got, err := ReadDial(in); err == nil {
			t.Errorf("%q is read as %v", in, got)
		}
	}
}

// Every roller that ships lies within what is said of a guess at its dial.
func TestGuessedGaps(t *testing.T) {
	for _, m := range Shipped() {
		if m.Tool != dough.Roller {
			continue
		}
		labels := make([]string, len(m.Stops))
		for i, s := range m.Stops {
			labels[i] = s.Label
		}
		guess := m
		guess.Stops, guess.GapsGuessed = GuessStops(labels), true
		if err := guess.Check(); err != nil {
			t.Errorf("%s: %v", m.Key, err)
		}
		for i, s := range m.Stops {
			if off := guess.Stops[i].GapMM/s.GapMM - 1; math.Abs(off) > GuessedWithin {
				t.Errorf("%s, stop %s: %g mm is guessed %g, %.0f %% off", m.Key, s.Label, s.GapMM, guess.Stops[i].GapMM,
					100*off)
			}
		}
		// Three sheets measured on the true machine put it right.
		spring := .1
		var points []Measure
		for _, i := range []int{1, len(m.Stops) / 2, len(m.Stops) - 1} {
			points = append(points, Measure{Stop: m.Stops[i].Label,
				SheetMM: m.Stops[i].GapMM * (1 + spring)})
		}
		fit, err := Calibrate(guess, points, spring)
		if err != nil || fit.Clamped {
			t.Fatalf("%s: %v, clamped %v", m.Key, err, fit.Clamped)
		}
		for i, s := range fit.Stops {
			if off := s.TrueMM()/m.Stops[i].GapMM - 1; math.Abs(off) > fit.Error {
				t.Errorf("%s, stop %s measured: %.2f mm for %g, %.0f %% off where %.0f %% is said", m.Key, s.Label,
					s.TrueMM(), m.Stops[i].GapMM, 100*off, 100*fit.Error)
			}
		}
	}
	for n := 2; n <= MostStops; n++ {
		labels, err := ReadDial("1 to " + string(rune('0'+n/10)) + string(rune('0'+n%10)))
		if err != nil {
			t.Fatal(err)
		}
		m := Machine{Name: "A dial", Tool: dough.Roller, Stops: GuessStops(labels), GapsGuessed: true, WidthMM: 150,
			SpeedMMPerS: 100, FeedMM: 15}
		if err := m.Check(); err != nil {
			t.Errorf("%d stops: %v", n, err)
		}
	}
}
