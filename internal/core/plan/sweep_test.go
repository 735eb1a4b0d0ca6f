package plan_test

import (
	"math"
	"testing"

	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

func made(t *testing.T, r request.Request) *plan.Plan {
	t.Helper()
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// yield is the share of the dough that becomes pasta.
func yield(p *plan.Plan) float64 { return p.Cut.AllDoughG / (p.Cut.AllDoughG + p.Cut.AllTrimG) }

// One to six portions of every shape, in every style, with the eggs of four markets: every pick meets its
// target, every shape can be cut, and what is made is what was asked for, a piece or so more.
func TestSmallBatchesMeet(t *testing.T) {
	machines := []string{"hand-crank-10", "sheeter-mm", "pin-board", "mixer-8", "motor-9"}
	n := 0
	for _, s := range cut.Shipped() {
		for _, style := range []egg.Style{egg.WholeEggs, egg.Rich, egg.YolksOnly, egg.WholeWater, egg.NoEgg} {
			for _, class := range []string{"eu-m", "eu-l", "eu-xl", "us-l"} {
				for portions := 1.; portions <= 6; portions++ {
					r := request.Default()
					r.Cut.Shape, r.Eggs.Style, r.Eggs.Class, r.Amount.Portions = s.Key, style, class, portions
					r.Roll.Machine = machines[n%len(machines)]
					n++
					p := made(t, r)
					f := &p.Formula
					what := []any{portions, s.Key, style, class, r.Roll.Machine}
					if off := math.Abs(f.Dough.Hw - f.Target.Hw); off > .3+1e-6 || !f.Pick.Meets() {
						t.Errorf("%v: %.2f points off", what, off)
					}
					if p.Cut.Count == 0 || p.Cut.Short && p.Roll.SheetsAll > 1 {
						t.Errorf("%v: none fits", what)
					} else if got, one := f.Portions, f.Portions/float64(p.Cut.Count); got < .95*portions ||
						got > 1.15*portions+1.5*one {
						t.Errorf("%v: %.2f portions, %.2f each", what, got, one)
					}
				}
			}
		}
	}
}

// In small steps nothing jumps. A jump is absurd when a gram more flour turns a twelfth of the dough from
// pasta into trimmings, or is not the flour that is used; when a portion more takes
// clearly less flour, or makes less than 95 or more than 130 % of what is asked; when half a degree,
// or a hundredth of humidity, moves kneading by more than two minutes, the rest by more than ten,
// or the dough by more than the tolerance of the target to either side; when a minute's rest makes
// it tenser.
func TestNothingJumps(t *testing.T) {
	const tolerance = .61 // points, from one edge of what meets the target to the other
	base := func(machine, shape string) request.Request {
		r := request.Default()
		r.Amount.By, r.Roll.Machine, r.Cut.Shape = request.ByFlour, machine, shape
		return r
	}
	for _, c := range [][2]string{{"hand-crank-10", "tagliatelle"}, {"sheeter-mm", "tagliatelle"}, {"sheeter-mm",
		"ravioli-round"}, {"pin-board", "pappardelle"},
		{"motor-9", "agnolotti"}, {"mixer-8", "farfalle"}} {
		r := base(c[0], c[1])
		var was *plan.Plan
		for r.Amount.FlourG = 100; r.Amount.FlourG <= 1200; r.Amount.FlourG++ {
			p := made(t, r)
			if p.Formula.FlourG != r.Amount.FlourG {
				t.Errorf("%v: %v g of flour asked, %v used", c, r.Amount.FlourG, p.Formula.FlourG)
			}
			if was != nil && (yield(was)-yield(p) > 1./12 ||
				math.Abs(p.Formula.Dough.Hw-was.Formula.Dough.Hw) > tolerance) {
				t.Errorf("%v at %v g: yield %.2f after %.2f, hydration %.2f after %.2f", c, r.Amount.FlourG, yield(p),
					yield(was), p.Formula.Dough.Hw,
					was.Formula.Dough.Hw)
			}
			was = p
		}
		r.Amount.By, was = request.ByPortions, nil
		for r.Amount.Portions = 1; r.Amount.Portions <= 40; r.Amount.Portions++ {
			p := made(t, r)
			if got := p.Formula.Portions / r.Amount.Portions; got < .95 || got > 1.3 {
				t.Errorf("%v: %v portions asked, %.2f made", c, r.Amount.Portions, p.Formula.Portions)
			}
			if was != nil && p.Formula.FlourG < .85*was.Formula.FlourG {
				t.Errorf("%v at %v portions: %v g of flour after %v", c, r.Amount.Portions, p.Formula.FlourG,
					was.Formula.FlourG)
			}
			was = p
		}
	}
	calm := func(what string, at float64, p, was *plan.Plan) {
		if was == nil || p.Rest.Ready != was.Rest.Ready {
			return
		}
		if k, w := &p.Knead.Way, &was.Knead.Way; math.Abs(k.WorkMin-w.WorkMin) > 2 ||
			math.Abs(k.RestMin-w.RestMin) > 10 ||
			math.Abs(p.Formula.Dough.Hw-was.Formula.Dough.Hw) > tolerance || p.Knead.School != was.Knead.School {
			t.Errorf("%s at %.4g: %v + %v min after %v + %v, hydration %.2f after %.2f", what, at, k.WorkMin, k.RestMin,
				w.WorkMin, w.RestMin,
				p.Formula.Dough.Hw, was.Formula.Dough.Hw)
		}
	}
	for _, machine := range []string{"hand-crank-10", "sheeter-mm", "pin-board"} {
		for _, f := range []string{"soft-00", "strong", "semola-fine", "wholemeal"} {
			r := base(machine, "tagliatelle")
			r.Flours[0].Flour = f
			var was *plan.Plan
			for r.Room.TempC = 8; r.Room.TempC <= 34; r.Room.TempC += .5 {
				p := made(t, r)
				calm(machine+" "+f+", °C", r.Room.TempC, p, was)
				was = p
			}
			r.Room.TempC, was = 22, nil
			for r.Room.RH = .15; r.Room.RH <= .9; r.Room.RH += .01 {
				p := made(t, r)
				calm(machine+" "+f+", humidity", r.Room.RH, p, was)
				was = p
			}
			r.Room.RH, was = .45, nil
			for rest := 0.; rest <= 150; rest++ {
				r.Rest.Min = &rest
				p := made(t, r)
				if was != nil && p.Rest.T > was.Rest.T+1e-9 && p.Knead.Min == was.Knead.Min {
					t.Errorf("%s %s: tension %.3f after %v min, %.3f a minute before", machine, f, p.Rest.T, rest,
						was.Rest.T)
				}
				was = p
			}
		}
	}
}
