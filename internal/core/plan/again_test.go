package plan

import (
	"math"
	"testing"

	"hollen/internal/core/doctor"
	"hollen/internal/core/request"
)

// Made again from what truly went in, a dough is what it came to last time.
func TestAsItCame(t *testing.T) {
	for name, change := range map[string]func(r *request.Request){
		"flour left":  func(r *request.Request) { r.Used.FlourLeftG = ptr(45) },
		"water left":  func(r *request.Request) { r.Used.LiquidLeftG = ptr(8) },
		"water added": func(r *request.Request) { r.Used.LiquidAddedG = ptr(11.5) },
		"flour worked": func(r *request.Request) {
			r.Acts = []request.Act{{Kind: doctor.Flour, Amount: 15, Stage: request.AtKnead}}
		},
		"oil worked": func(r *request.Request) {
			r.Acts = []request.Act{{Kind: doctor.Oil, Amount: 5, Stage: request.AtKnead}}
		},
		"with spinach": func(r *request.Request) {
			r.Used.FlourLeftG = ptr(30)
			r.Additions = []request.AdditionPart{{Addition: "spinach", Share: .2}}
		},
		"beaten": func(r *request.Request) { r.Eggs.ByWeight, r.Used.FlourLeftG = true, ptr(20) },
		"no top-up": func(r *request.Request) {
			r.Eggs.TopUp, r.Used.LiquidAddedG = "nothing", ptr(6)
		},
	} {
		t.Run(name, func(t *testing.T) {
			r := request.Default()
			r.Salt = .004
			change(&r)
			last := must(t, r)
			again, ok := last.AsItCame()
			if !ok {
				t.Fatal("not offered")
			}
			p := must(t, again)
			if a, b := last.Formula.Dough.MassG, p.Formula.Dough.MassG; math.Abs(a-b) > .002*a {
				t.Errorf("%.1f g of dough, then %.1f g", a, b)
			}
			if a, b := last.Formula.Dough.Hw, p.Formula.Dough.Hw; math.Abs(a-b) > .15 {
				t.Errorf("%.2f points, then %.2f", a, b)
			}
		})
	}
	if _, ok := must(t, request.Default()).AsItCame(); ok {
		t.Error("offered where nothing was weighed back")
	}
	oily := request.Default()
	oily.Acts = []request.Act{{Kind: doctor.Oil, Amount: .13 * must(t, oily).Formula.FlourG, Stage: request.AtKnead}}
	if _, ok := must(t, oily).AsItCame(); ok {
		t.Error("offered with more oil than may be asked for")
	}
	r := request.Default()
	r.Acts = []request.Act{{Kind: doctor.Egg, Amount: 10, Stage: request.AtKnead}}
	if _, ok := must(t, r).AsItCame(); ok {
		t.Error("offered with egg worked in")
	}
}
