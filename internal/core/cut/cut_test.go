package cut

import (
	"math"
	"math/rand"
	"testing"

	"hollen/internal/core/rules"
)

// bruteAlong looks for the best division of a length by trying every count.
func bruteAlong(use, a, b, c float64) (int, float64) {
	best, n := math.Inf(1), 0
	for k := 1; float64(k)*a <= use+1e-6; k++ {
		if each := use / float64(k); each <= b+1e-9 && math.Abs(each-c) < best-1e-9 {
			best, n = math.Abs(each-c), k
		}
	}
	if n > 0 {
		return n, use / float64(n)
	}
	for k := 1; float64(k)*a <= use+1e-6; k++ {
		n = k
	}
	if n == 0 {
		return 0, 0
	}
	return n, b
}

func TestAlongEqualsBruteForce(t *testing.T) {
	rnd := rand.New(rand.NewSource(1))
	for range 20000 {
		use, a := 50+rnd.Float64()*2500, 100+rnd.Float64()*300
		b := a + rnd.Float64()*200
		c := a + rnd.Float64()*(b-a)
		n, each := Along(use, a, b, c)
		wn, weach := bruteAlong(use, a, b, c)
		if n != wn || math.Abs(each-weach) > 1e-6 {
			t.Fatalf("%v in %v–%v (%v): %d × %v, want %d × %v", use, a, b, c, n, each, wn, weach)
		}
	}
}

func TestRibbonsAddUp(t *testing.T) {
	r := rules.Default().Cut
	rnd := rand.New(rand.NewSource(2))
	for range 2000 {
		s := Sheets{Count: 1 + rnd.Intn(12), LengthMM: 100 + rnd.Float64()*1500, WidthMM: 60 + rnd.Float64()*250, MassG: 20 + rnd.Float64()*300}
		w := 1 + rnd.Float64()*30
		o := Ribbons(r, s, Knife, w, 250, 350, 300, 110)
		if math.Abs(o.RibbonsG+o.TrimG-float64(s.Count)*s.MassG) > 1e-6 || o.TrimG < -1e-9 {
			t.Fatalf("%+v: %v + %v g", s, o.RibbonsG, o.TrimG)
		}
		if o.Ribbons == 0 {
			continue
		}
		if o.SideTrimMM < r.TrimSideMM-1e-9 || o.EndTrimMM < r.TrimEndMM-1e-9 || float64(o.Across+1)*w <= s.WidthMM-2*r.TrimSideMM {
			t.Fatalf("%+v: %+v", s, o)
		}
		if o.Nests*o.PerNest+o.LastNest != o.Ribbons || o.KnifeCuts != o.Across+1 {
			t.Fatalf("nests: %+v", o)
		}
		// Areas: ribbons and trims make up the sheet.
		ribbons := float64(o.Across*o.Along) * w * o.LengthMM
		edges := s.LengthMM*s.WidthMM - (s.LengthMM-2*o.EndTrimMM)*(s.WidthMM-2*o.SideTrimMM)
		if math.Abs((ribbons+edges)/(s.LengthMM*s.WidthMM)-1) > .001 {
			t.Fatalf("areas: %v + %v of %v", ribbons, edges, s.LengthMM*s.WidthMM)
		}
	}
}

func TestTooSmallSheet(t *testing.T) {
	o := Ribbons(rules.Default().Cut, Sheets{2, 200, 140, 30}, Knife, 7, 250, 350, 300, 110)
	if o.Ribbons != 0 || o.TrimG != 60 {
		t.Errorf("%+v", o)
	}
}
