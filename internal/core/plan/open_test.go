package plan

import (
	"math"
	"strings"
	"testing"

	"hollen/internal/core/request"
)

// Flour that goes in until the dough takes no more is worked out from the eggs, up to what was weighed out;
// oil and salt stay as they were weighed, and what comes back is the truth.
func TestFlourUntilItTakesNoMore(t *testing.T) {
	r := request.Default()
	eggs := 5.
	r.Amount.By, r.Amount.FlourG, r.Amount.Open, r.Eggs.FixWhole, r.Oil = request.ByOwn, 700, true, &eggs, .02
	p := must(t, r)
	f := &p.Formula
	if f.FlourG >= 650 || f.FlourG < 500 || math.Abs(f.Dough.Hw-f.Target.Hw) > .15 || f.OpenG != 700 ||
		p.Room.FlourG != 700 || math.Abs(f.OilG-14) > 1e-9 {
		t.Errorf("%.0f g of flour at %.2f, aim %.2f, oil %.1f g", f.FlourG, f.Dough.Hw, f.Target.Hw, f.OilG)
	}
	if w := p.Why["formula.flour"]; !strings.Contains(w, "Of the 700 g weighed out") {
		t.Error(w)
	}
	// More eggs take more flour; a little flour goes in whole.
	last := 0.
	for n := 1.; n <= 9; n++ {
		r.Eggs.FixWhole = &n
		if g := must(t, r).Formula.FlourG; g < last || g > 700 || g < 350 {
			t.Errorf("%.0f eggs take %.0f g, fewer %.0f g", n, g, last)
		} else {
			last = g
		}
	}
	if r.Eggs.FixWhole = &eggs; last != 700 {
		t.Errorf("nine eggs leave some of 700 g: %.0f", last)
	}
	left := 150.
	r.Used.FlourLeftG = &left
	if p = must(t, r); math.Abs(p.Formula.FlourG-550) > 1e-6 || math.Abs(p.Formula.OilG-14) > 1e-9 {
		t.Errorf("150 g came back: %.1f g went in, %.1f g of oil", p.Formula.FlourG, p.Formula.OilG)
	}
	// Said of another amount it changes nothing.
	r = request.Default()
	a := must(t, r)
	r.Amount.Open = true
	if b := must(t, r); a.Formula.FlourG != b.Formula.FlourG || a.Formula.Dough != b.Formula.Dough {
		t.Error("an open flour counts where it is not as the maker makes it")
	}
}
