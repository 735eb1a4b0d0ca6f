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

// LossAt undoes Minutes.
func TestLossAtUndoesMinutes(t *testing.T) {
	r := rules.Default().Dry
	o := Of(r, Sheet{.9, 1.214, .373, .107}, Room{22, .45, Still}, 2)
	for loss := .005; loss < .2; loss += .005 {
		m, _ := o.Minutes(r, loss)
		if back := o.LossAt(r, m); math.Abs(back-loss) > 1e-9 {
			t.Errorf("%v → %v min → %v", loss, m, back)
		}
	}
	if far := o.LossAt(r, 1e6); math.Abs(far-o.EndLoss) > 1e-6 {
		t.Errorf("ends at %v, not %v", far, o.EndLoss)
	}
	if fog := Of(r, Sheet{.9, 1.214, .373, .2}, Room{22, .96, Still}, 2); fog.LossAt(r, 60) != 0 {
		t.Error("it dries in fog")
	}
}

func TestFollowToKeep(t *testing.T) {
	r := rules.Default().Dry
	const raw, water, end = 1000., .373, .30 // it would stop at 700 g; 12.5 % moisture is 716.6 g
	target := KeepG(r, raw, water)
	if math.Abs(target-716.57) > .01 {
		t.Fatalf("target %v", target)
	}
	at := func(minutes float64) Weighing { return Weighing{minutes, 700 + 300*math.Exp(-minutes/200)} }
	d, ok := Follow(r, raw, water, end, []Weighing{at(100), at(240)})
	want := 200*math.Log(300/(target-700)) - 240
	if !ok || d.Done || d.Stalled || math.Abs(d.MoreMin-want) > .01 || math.Abs(d.MoreG-(at(240).G-target)) > 1e-9 {
		t.Errorf("%+v, want %v min more", d, want)
	}
	if d, _ = Follow(r, raw, water, end, []Weighing{{0, 716}}); !d.Done || math.Abs(d.Moisture-(1-627/716.)) > 1e-9 {
		t.Errorf("at 716 g: %+v", d)
	}
	if d, _ = Follow(r, raw, water, .2, []Weighing{{0, 900}, {60, 850}}); !d.Stalled {
		t.Errorf("air that stops at 800 g: %+v", d)
	}
	if _, ok = Follow(r, raw, water, end, nil); ok {
		t.Error("nothing weighed, and judged")
	}
}

func TestTraysHoldAll(t *testing.T) {
	r := rules.Default().Dry
	if n, each := Trays(r, 13, 90); n != 1 || each != 24 {
		t.Errorf("13 nests: %d trays of %d", n, each)
	}
	if n, each := Trays(r, 25, 90); n != 2 || each != 24 {
		t.Errorf("25 nests: %d trays of %d", n, each)
	}
	if n, each := Trays(r, 3, 900); n != 0 || each != 0 {
		t.Errorf("too big for a tray: %d of %d", n, each)
	}
}

// What dries in two moments dries as in one of the same air: After goes on from what is gone, From counts from there.
func TestDriesOn(t *testing.T) {
	r := rules.Default().Dry
	o := Of(r, Sheet{.9, 1.214, .373, .107}, Room{22, .45, Still}, 2)
	for _, first := range []float64{0, 5, 14, 40, 90} {
		for _, then := range []float64{0, 3, 20, 60} {
			gone := o.LossAt(r, first)
			if now := o.After(r, gone, then); math.Abs(now-o.LossAt(r, first+then)) > 1e-9 {
				t.Errorf("%v and %v min: %v, at once %v", first, then, now, o.LossAt(r, first+then))
			}
		}
		gone := o.LossAt(r, first)
		for _, loss := range []float64{.03, .06, .10} {
			w, whole := o.From(r, gone, loss), o.At(r, loss)
			switch {
			case loss <= gone:
				if !w.Will || w.FromMin != 0 {
					t.Errorf("%v is gone, %v: %+v", gone, loss, w)
				}
			case math.Abs(w.FromMin-(whole.FromMin-first)) > 1e-9:
				t.Errorf("after %v min to %v: %v more, of %v", first, loss, w.FromMin, whole.FromMin)
			}
		}
	}
	fog := Of(r, Sheet{.9, 1.214, .373, .2}, Room{22, .96, Still}, 2)
	if fog.After(r, .05, 90) != .05 || fog.From(r, .05, .06).Will {
		t.Error("it dries on in fog")
	}
	if past := o.After(r, o.EndLoss+.01, 60); past != o.EndLoss+.01 {
		t.Errorf("drier than the air, and %v", past)
	}
}
