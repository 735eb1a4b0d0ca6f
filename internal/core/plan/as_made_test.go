package plan_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Two thousand recipes of the maker's own are taken at their word: the flour, the eggs, the liquid, oil and
// salt weighed are those said, nothing is held back or kept by the board, and what they come to is said.
func TestAmountsAreTakenLiterally(t *testing.T) {
	rng := rand.New(rand.NewPCG(12, 5))
	for i := range 2000 {
		r := anyRequest(rng)
		r.Amount.By, r.Amount.FlourG = request.ByOwn, float64(60+rng.IntN(3000))
		r.Eggs.MoveFlour, r.Eggs.Style = rng.IntN(2) == 0, "whole"
		whole, yolks, liquid := float64(rng.IntN(20)), float64(rng.IntN(12)), float64(rng.IntN(200))
		r.Eggs.FixWhole, r.Eggs.FixYolks, r.Eggs.LiquidG = &whole, &yolks, &liquid
		if r.Eggs.TopUp == "nothing" {
			r.Eggs.LiquidG, liquid = nil, 0
		}
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatalf("%d: %v", i, err)
		}
		f, c := &p.Formula, p.EggClass()
		for _, x := range [][2]float64{{f.FlourG, r.Amount.FlourG}, {f.WholeG, whole * c.EdibleG}, {f.YolkG,
			yolks * c.YolkG}, {f.TopG, liquid},
			{f.OilG, r.Oil * r.Amount.FlourG}, {f.SaltG, r.Salt * r.Amount.FlourG}, {f.HeldBackG, 0}, {p.Room.KeepG, 0},
			{p.Room.PourG, liquid}} {
			if math.Abs(x[0]-x[1]) > 1e-6 {
				t.Fatalf("%d: %g where %g is said: %+v", i, x[0], x[1], r.Eggs)
			}
		}
		if f.Pick.Whole != int(whole) || f.Pick.Yolks != int(yolks) || math.IsNaN(f.Dough.Hw) ||
			math.Abs(f.Pick.Hw-f.Dough.Hw) > .05 {
			t.Fatalf("%d: %d + %d, %.2f and %.2f points", i, f.Pick.Whole, f.Pick.Yolks, f.Pick.Hw, f.Dough.Hw)
		}
	}
}

// Beaten egg by its weight, and nothing wet at all.
func TestBeatenEggIsTakenLiterally(t *testing.T) {
	r := request.Default()
	g := 230.
	r.Amount.By, r.Amount.FlourG, r.Eggs.CrackedG = request.ByOwn, 400, &g
	p, err := plan.Make(rules.Default(), r)
	if err != nil || p.Formula.WholeG != 230 || p.Formula.TopG != 0 {
		t.Fatalf("%v: %+v", err, p.Formula.Pick)
	}
	four := 4.
	r.Eggs.FixWhole = &four
	if p, err = plan.Make(rules.Default(), r); err != nil || p.Formula.WholeG != 230 || p.Formula.Pick.Whole != 4 {
		t.Errorf("%v: %+v", err, p.Formula.Pick)
	}
	r.Eggs.FixWhole, r.Eggs.CrackedG = nil, nil
	if p, err = plan.Make(rules.Default(), r); err != nil || p.Formula.WholeG+p.Formula.TopG != 0 ||
		p.Formula.Feel == "" {
		t.Errorf("%v: %+v", err, p.Formula)
	}
}
