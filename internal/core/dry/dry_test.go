package dry

import (
	"math"
	"testing"

	"hollen/internal/core/flour"
	"hollen/internal/core/rules"
)

func TestReferenceTimes(t *testing.T) {
	r := rules.Default().Dry
	m, _ := flour.Equilibrium(flour.Soft, 22, .45)
	s := Sheet{.9, 1.214, .373, m}
	a := Room{22, .45, Still}
	two, one := Of(r, s, a, r.RackFaces), Of(r, s, a, r.BoardFaces)
	for loss, want := range map[float64]float64{.03: 11, .06: 22, .10: 38} {
		got, ok := two.Minutes(r, loss)
		if !ok || math.Abs(got-want) > .5 {
			t.Errorf("two faces, %v: %.1f min, want %v", loss, got, want)
		}
		if single, _ := one.Minutes(r, loss); math.Abs(single-2*got) > 1e-9 {
			t.Errorf("one face, %v: %.1f min, want twice %.1f", loss, single, got)
		}
	}
}

func TestDampAirGivesNoNumber(t *testing.T) {
	r := rules.Default().Dry
	s := Sheet{.9, 1.214, .373, .2}
	for _, rh := range []float64{.94, .96, .99} {
		if w := Of(r, s, Room{22, rh, Still}, 2).At(r, r.HoldLoss); w.Will {
			t.Errorf("%v: %+v", rh, w)
		}
	}
	// Damper air never dries faster, and a fan never slower.
	last := 0.
	for rh := .2; rh < .8; rh += .05 {
		m, ok := Of(r, s, Room{22, rh, Still}, 2).Minutes(r, .06)
		if ok && m < last {
			t.Fatalf("faster at %v", rh)
		}
		if f, fok := Of(r, s, Room{22, rh, Fan}, 2).Minutes(r, .06); ok && (!fok || f >= m) {
			t.Fatalf("a fan does not help at %v", rh)
		}
		last = m
	}
}

func TestBoardLoss(t *testing.T) {
	r := rules.Default()
	if g := BoardLossG(r, 22, .45, 500); g < .2 || g > 2 {
		t.Errorf("500 g of flour at 45 %%: %.2f g", g)
	}
	if g := BoardLossG(r, 22, .99, 500); g != 0 {
		t.Errorf("in fog: %v g", g)
	}
}
