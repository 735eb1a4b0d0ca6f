package roll

import (
	"fmt"
	"math"
	"math/rand"
	"strings"
	"testing"
)

// A synthetic machine whose gaps are off by a slow drift is recovered from three noisy sheets
// within the error the fit states.
func TestCalibrationRecoversAMachine(t *testing.T) {
	rnd := rand.New(rand.NewSource(11))
	m, _ := Find("hand-crank-10")
	within, all := 0, 0
	for range 300 {
		off, drift := .9+.3*rnd.Float64(), .04*(rnd.Float64()-.5)
		k := func(i int) float64 { return off + drift*float64(i)/9 }
		var points []Measure
		for _, i := range []int{1, 4, 7} {
			points = append(points, Measure{m.Stops[i].Label, m.Stops[i].GapMM * k(i) * 1.08 * (1 +
				.015*rnd.NormFloat64()), ""})
		}
		f, err := Calibrate(m, points, .08)
		if err != nil {
			continue // noise can turn two sheets round; then it says so
		}
		for i := range m.Stops {
			all++
			if math.Abs(f.K[i]/k(i)-1) <= f.Error {
				within++
			}
		}
	}
	if all < 2500 || float64(within) < .95*float64(all) {
		t.Errorf("%d of %d stops are within the stated error", within, all)
	}
}

func TestCalibrate(t *testing.T) {
	m, _ := Find("hand-crank-10")
	// Two points, by hand: k = 0.99/(0.9·1.08) and 2.1/(1.9·1.08), linear in the gap between,
	// flat beyond.
	f, err := Calibrate(m, []Measure{{"7", .99, ""}, {"4", 2.1, ""}}, .08)
	if err != nil {
		t.Fatal(err)
	}
	k7, k4 := .99/(.9*1.08), 2.1/(1.9*1.08)
	for i, want := range map[int]float64{0: k4, 4: k4, 5: k7 + (k4-k7)*(1.5-.9)/(1.9-.9), 7: k7, 9: k7} {
		if math.Abs(f.K[i]-want) > 5.1e-5 {
			t.Errorf("stop %d: k %.4f, want %.4f", i, f.K[i], want)
		}
	}
	if !f.Measured[7] || f.Measured[5] || f.Error != .06 || f.Clamped {
		t.Errorf("%+v", f)
	}
	// The plan follows the true gaps.
	l := lay(7, EveryStop)
	before := l.Sheet(l.Machine.Stops[7].GapMM, 1)
	l.Machine.Stops, l.TargetMM = f.Stops, before*k7
	if p := l.Plan(); l.TargetStop() != 7 || math.Abs(p.SheetMM/before-k7) > 1e-4 {
		t.Errorf("%.3f mm, then %.3f at stop %d", before, p.SheetMM, l.TargetStop())
	}
	for what, points := range map[string][]Measure{
		"no such stop": {{"12", 1, ""}}, "is allowed": {{"7", 60, ""}}, "measured twice": {{"7", 1, ""}, {"7", .9, ""}},
		"nothing is measured": {},
		"no thinner than":     {{"4", 1, ""}, {"7", 1.2, ""}},
	} {
		if _, err := Calibrate(m, points, .08); err == nil || !strings.Contains(err.Error(), what) {
			t.Errorf("%v: %v", points, err)
		}
	}
	// What cannot be believed is held to the bounds and said.
	if f, err := Calibrate(m, []Measure{{"7", 1.9, ""}}, .08); err != nil || !f.Clamped || f.K[7] != KMax {
		t.Errorf("%+v, %v", f.K, err)
	}
	if FromPaper(9) != .9 {
		t.Errorf("nine leaves: %v mm", FromPaper(9))
	}
}

// Machines with one stop and with twenty, labels rising, falling and mixed; what cannot be is
// refused by name.
func TestMachines(t *testing.T) {
	for _, n := range []int{1, 2, 20, 40} {
		for what, label := range map[string]func(int) string{"rising": func(i int) string { return fmt.Sprint(i) },
			"falling": func(i int) string { return fmt.Sprint(n - i) }, "mixed": func(i int) string {
				return string(
					rune('A'+i%26)) + fmt.Sprint(i*7%11)
			}} {
			m, _ := Find("motor-9")
			m.Stops = nil
			for i := range n {
				m.Stops = append(m.Stops, Stop{Label: label(i), GapMM: 8 * math.Pow(.92, float64(i))})
			}
			if err := m.Check(); err != nil || m.Widest() != label(0) || m.Finest() != label(n-1) {
				t.Errorf("%d %s: %v", n, what, err)
			}
			for _, mode := range []Mode{EveryStop, Fewest} {
				for _, target := range []float64{.1, .9, 3, 60} {
					l := lay(7, mode)
					l.Machine, l.TargetMM = m, target
					p := l.Plan()
					last := p.Passes[len(p.Passes)-1]
					if len(p.Passes) == 0 || p.SheetMM != last.OutMM || last.Stop != l.TargetStop() {
						t.Errorf("%d %s to %v mm: %+v", n, what, target, p)
					}
				}
			}
		}
	}
	m, _ := Find("hand-crank-10")
	for what, change := range map[string]func(*Machine){
		"width_mm":       func(m *Machine) { m.WidthMM = math.NaN() },
		"speed_mm_per_s": func(m *Machine) { m.SpeedMMPerS = 0 },
		"feed_mm":        func(m *Machine) { m.FeedMM = 1e9 }, "name": func(m *Machine) { m.Name = "" },
		"not finer":   func(m *Machine) { m.Stops[3].GapMM = 5 },
		"a label has": func(m *Machine) { m.Stops[2].Label = "" },
		"is off by":   func(m *Machine) { m.Stops[2].K = 3 }, "0.2 to 40": func(m *Machine) { m.Stops[9].GapMM = .1 },
	} {
		c := m
		c.Stops = append([]Stop{}, m.Stops...)
		change(&c)
		if err := c.Check(); err == nil || !strings.Contains(err.Error(), what) {
			t.Errorf("%s: %v", what, err)
		}
	}
	for _, motor := range []bool{true, false} {
		if len(SetUp(motor)) < 5 {
			t.Error("the set-up is short")
		}
	}
}

// 480 g at 0.8 mm make a disc of 793 mm; a rectangle keeps the same area.
func TestPin(t *testing.T) {
	disc, rect := SheetOf(Disc, 480, 1.214, .8, 700), SheetOf(Rectangle, 480, 1.214, .8, 600)
	if math.Abs(disc.LengthMM-793) > .5 || math.Abs(disc.LengthMM*disc.WidthMM/(rect.LengthMM*rect.WidthMM)-1) > 1e-9 ||
		rect.WidthMM != 600 {
		t.Errorf("%+v, %+v", disc, rect)
	}
	if disc.Fits(Disc, 900, 700) || !disc.Fits(Disc, 900, 800) || !rect.Fits(Rectangle, 700, 900) {
		t.Error("what lies on a board")
	}
	m, _ := Find("pin-board")
	l := lay(7, EveryStop)
	l.Machine, l.Pin, l.Outline, l.TargetMM, l.PieceG = m, true, Disc, .8, 480
	p := l.Plan()
	for i, x := range p.Passes {
		if i > 0 && x.OutMM >= p.Passes[i-1].OutMM {
			t.Errorf("stage %d is no thinner: %+v", i, x)
		}
	}
	if len(p.Passes) != 7 || p.SheetMM != .8 || math.Abs(p.LengthMM-793) > .5 || p.TimeMin < 8 || p.TimeMin > 20 {
		t.Errorf("%+v", p)
	}
	if l.TargetMM = 6; len(l.Plan().Passes) != 3 {
		t.Errorf("to 6 mm: %+v", l.Plan().Passes)
	}
}

// Two colours: stripe and bare base stretch by their own thickness, so that volume is kept where the
// base is thinned, and the joining stop is the widest that serves.
func TestStripes(t *testing.T) {
	s := Stripes{BaseMM: 1.6, StripeMM: .6, WidthMM: 20, PitchMM: 50}
	longer, stripe, base := s.After(1.3)
	if math.Abs(stripe-2.2/1.3) > 1e-12 || math.Abs(base-1.6/1.3) > 1e-12 || math.Abs(longer*1.3-(1.6+.4*.6)) > 1e-12 {
		t.Errorf("%.3f %.3f %.3f", longer, stripe, base)
	}
	l := lay(7, EveryStop)
	j, err := l.Join(s)
	if err != nil || j.Label != "5" || !j.Smoothed || j.Base != 1 || j.SheetMM > 1.6+.25*.6 ||
		l.Sheet(l.Machine.Stops[j.Stop-1].TrueMM(), 1) <= 1.6+.25*.6 ||
		math.Abs(j.StripeG-.4*.6/1.6) > 1e-9 {
		t.Errorf("%+v, %v", j, err)
	}
	// As thin as the base, joined one stop back: common, and easy.
	if j, err := l.Join(Stripes{BaseMM: .97, StripeMM: .97, WidthMM: 20, PitchMM: 50}); err != nil || j.Label != "6" ||
		!j.Smoothed {
		t.Errorf("as thick as the base: %+v, %v", j, err)
	}
	laid := func(base, stripe, wide, pitch float64) Stripes {
		return Stripes{BaseMM: base, StripeMM: stripe, WidthMM: wide, PitchMM: pitch}
	}
	for what, bad := range map[string]Stripes{"base_mm": laid(.1, .1, 5, 10), "no thicker than": laid(1, 2, 5, 10),
		"pitch_mm": laid(2, .5, 20, 20),
		"width_mm": laid(2, .5, math.NaN(), 40), "finer than the base": laid(.6, .2, 5, 10)} {
		if _, err := l.Join(bad); what != "finer than the base" && (err == nil || !strings.Contains(err.Error(),
			what)) {
			t.Errorf("%+v: %v", bad, err)
		}
	}
	l.D, l.Gluten = .7, .2
	if _, err := l.Join(Stripes{BaseMM: 1.2, StripeMM: 1.2, WidthMM: 20, PitchMM: 50}); err == nil ||
		!strings.Contains(err.Error(), "is easy") {
		t.Errorf("a fragile dough: %v", err)
	}
}
