package plan_test

import (
	"testing"

	"hollen/internal/core/egg"
	"hollen/internal/core/request"
)

// TestOfEggs: a batch asked for by its eggs takes that many, of every class and style, from one egg to thirty.
func TestOfEggs(t *testing.T) {
	for _, style := range []egg.Style{egg.WholeEggs, egg.Rich, egg.YolksOnly, egg.WholeWater} {
		for _, c := range egg.Classes() {
			for _, n := range []int{1, 2, 3, 4, 5, 7, 10, 12, 30} {
				r := request.Default()
				r.Eggs.Style, r.Eggs.Class = style, c.Key
				first := made(t, r)
				of, ok := first.OfEggs(n)
				if !ok {
					if n > 3 {
						t.Errorf("%s, %s: no flour for %d", style, c.Key, n)
					}
					continue
				}
				p := made(t, of)
				got := p.Formula.Pick.Whole
				if style == egg.YolksOnly {
					got = p.Formula.Pick.Yolks
				}
				if got != n {
					t.Errorf("%s, %s: %d eggs asked, %s from %.0f g of flour", style, c.Key, n, p.EggWords(), of.Amount.FlourG)
				}
			}
		}
	}
	r := request.Default()
	r.Eggs.Style = egg.NoEgg
	if _, ok := made(t, r).OfEggs(4); ok {
		t.Error("eggs in a dough without egg")
	}
}
