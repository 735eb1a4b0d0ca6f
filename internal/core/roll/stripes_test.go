package roll

import (
	"math"
	"math/rand/v2"
	"testing"

	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
)

func stripeLay() *Lay {
	m, _ := Find("hand-crank-10")
	return &Lay{Rules: rules.Default().Roll, Machine: m, T: .1, D: .95, ReadyD: .9, ReadyT: .25, FatFreePct: 5,
		FatPct: 7, Gluten: 1, DensityG: 1.214, PieceG: 160}
}

// Strips as thin as the base are joined one stop back, and where the base is no thicker than that sheet it is
// only smoothed.
func TestStripsAsThinAsTheBase(t *testing.T) {
	l := stripeLay()
	for stop := 2; stop < len(l.Machine.Stops); stop++ {
		tb := l.Sheet(l.Machine.Stops[stop].TrueMM(), 1)
		if tb < .6 || tb > 3 {
			continue
		}
		j, err := l.Join(Stripes{BaseMM: tb, StripeMM: tb, WidthMM: 10, PitchMM: 30})
		if err != nil {
			t.Errorf("at stop %s: %v", l.Machine.Stops[stop].Label, err)
			continue
		}
		if j.Stop != stop-1 || !j.Smoothed || j.Base != 1 {
			t.Errorf("base and strips of stop %d are joined at %d, smoothed %v", stop, j.Stop, j.Smoothed)
		}
		if want := 1./3*(2*tb/j.SheetMM) + 2./3; math.Abs(j.Longer-want) > 1e-9 {
			t.Errorf("%.3f times as long, not %.3f", j.Longer, want)
		}
	}
}

// Over random patterns the dough is neither more nor less after the joining: where nothing is only smoothed,
// length times thickness is what it was; a turn of the pattern adds up; mirrored it reads the same both ways.
func TestPatternsKeepTheirDough(t *testing.T) {
	l := stripeLay()
	rnd := rand.New(rand.NewPCG(12, 6))
	joined := 0
	for range 3000 {
		s := Stripes{BaseMM: .8 + 2*rnd.Float64(), WidthMM: 2 + 40*rnd.Float64(), Mirror: rnd.IntN(2) == 0,
			Third: "beet-powder",
			Lay:   []Laid{LaidAcross, LaidAlong, LaidLattice}[rnd.IntN(3)]}
		s.StripeMM, s.PitchMM = s.BaseMM*(.25+.75*rnd.Float64()), s.WidthMM+1+60*rnd.Float64()
		for range rnd.IntN(6) {
			s.Strips = append(s.Strips, Strip{[]Colour{OtherDough, ThirdColour}[rnd.IntN(2)], 2 + 30*rnd.Float64(),
				40 * rnd.Float64()})
		}
		turn, phi := s.Covered(BareBase)
		_, a := s.Covered(OtherDough)
		_, b := s.Covered(ThirdColour)
		if math.Abs(a+b-phi) > 1e-9 || phi <= 0 || phi > 1+1e-9 {
			t.Fatalf("%+v covers %v and %v of %v", s, a, b, phi)
		}
		bands := s.Bands()
		if s.Mirror && len(s.Strips) > 1 {
			n := len(bands) - 1 // the last gap stands between two turns
			if bands[n].Colour != BareBase {
				n++
			}
			for i := range n {
				if bands[i] != bands[n-1-i] {
					t.Fatalf("%+v is not the same from behind: %+v", s.Strips, bands)
				}
			}
		}
		j, err := l.Join(s)
		if err != nil {
			continue
		}
		joined++
		ways := 1.
		if s.Lay == LaidLattice {
			ways = 2
		}
		if mean := s.BaseMM + ways*phi*s.StripeMM; j.Base > 1 && math.Abs(j.Longer*j.SheetMM-mean) > 1e-9 {
			t.Fatalf("%+v: %.4f mm of dough becomes %.4f", s, mean, j.Longer*j.SheetMM)
		}
		if over := joinOverThick; j.SheetMM > s.BaseMM+over*s.StripeMM+1e-9 || j.Reduction > j.Easy+1e-9 {
			t.Fatalf("%+v is joined %+v", s, j)
		}
		drawn := 0.
		for _, x := range j.Drawn(s, j.SheetMM) {
			drawn += x.MM
		}
		if s.Lay != LaidAlong && math.Abs(drawn-turn*j.Longer) > 1e-6*drawn {
			t.Fatalf("%+v: a turn is drawn %.3f, is %.3f", s, drawn, turn*j.Longer)
		}
		if g := s.MassG(OtherDough, 1000) + s.MassG(ThirdColour, 1000); math.Abs(g-1000*j.StripeG) > 1e-6 {
			t.Fatalf("%+v: strips of %.3f g, %.3f", s, g, 1000*j.StripeG)
		}
	}
	if joined < 800 {
		t.Errorf("%d of 3000 patterns are joined", joined)
	}
	if err := (Stripes{BaseMM: 1.8, StripeMM: .5, Strips: []Strip{{ThirdColour, 10, 10}}}).Check(); len(measure.Faults(
		err)) != 1 {
		t.Errorf("a third colour of nothing: %v", err)
	}
}
