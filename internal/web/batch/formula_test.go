package batch

import (
	"fmt"
	"math"
	"testing"

	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/web/form"
)

// No two ways there are called the same, whatever is fixed, weighed or entered as made.
func TestWaysThereAreToldApart(t *testing.T) {
	whole := func(n float64) func(r *request.Request) {
		return func(r *request.Request) { r.Eggs.FixWhole = &n }
	}
	both := func(n, yolks float64) func(r *request.Request) {
		return func(r *request.Request) { r.Eggs.FixWhole, r.Eggs.FixYolks = &n, &yolks }
	}
	for _, set := range []func(r *request.Request){
		func(r *request.Request) {}, whole(2), whole(3), whole(4), whole(5), both(3, 2), both(4, 1),
		func(r *request.Request) { r.Eggs.ByWeight = true },
		func(r *request.Request) { r.Amount.By = request.ByOwn },
		func(r *request.Request) { cracked := 230.; r.Eggs.CrackedG = &cracked },
	} {
		for flour := 300.; flour <= 500; flour += 20 {
			r := request.Default()
			r.Amount.By, r.Amount.FlourG = request.ByFlour, flour
			set(&r)
			seen := map[string]bool{}
			for _, w := range (&formulaView{batchView: newViewOf(t, r)}).Ways() {
				if seen[w.Words] {
					t.Errorf("%g g of flour: two ways called %q", flour, w.Words)
				}
				seen[w.Words] = true
			}
		}
	}
}

func newViewOf(t *testing.T, r request.Request) *batchView {
	t.Helper()
	f, err := form.Saved(r, form.With{Rules: rules.Default()})
	if err != nil {
		t.Fatal(err)
	}
	return newView(1, 1, "", r, f)
}

// In dry air part of the water waits by the board; in damp air all of it is poured and the
// doubtful part stands ready on top.
func TestBenchCardAddsUp(t *testing.T) {
	for _, rh := range []float64{.2, .45, .6, .8, .9} {
		r := demo.Batch(demo.Saturday)
		r.Room.RH = rh
		v := &roomView{formulaView{batchView: newViewOf(t, r)}}
		top := v.Plan.Formula.TopG
		sum := v.PourNow() + v.KeepBy()
		if dry := v.Plan.Room.CorrectionG > 0; dry && sum != math.Round(top) || !dry && (v.PourNow() != math.Round(
			top) || v.KeepBy() < 0) {
			t.Errorf("%.0f %%: %v + %v of %.2f g, the room asks for %.2f", 100*rh, v.PourNow(), v.KeepBy(), top,
				v.Plan.Room.CorrectionG)
		}
	}
}

// Ingredients stand in falling order and make the whole dough, its figures as the plan has them.
func TestIngredientsOfTheDough(t *testing.T) {
	v := &formulaView{batchView: newViewOf(t, demo.Batch(demo.Saturday))}
	sum, last := 0., 1.
	for _, x := range v.Ingredients() {
		if x.Share > last {
			t.Errorf("%s stands too low", x.Name)
		}
		sum, last = sum+x.Share, x.Share
	}
	if sum < .999 || sum > 1.003 { // the board takes a gram of water
		t.Errorf("the ingredients make %.4f of the dough", sum)
	}
	d := v.Plan.Formula.Dough
	if n := v.Nutrition(); n[1].Per100 != fmt.Sprintf("%.0f kcal", d.KcalPer100G) || n[2].PerPortion != fmt.Sprintf(
		"%.1f g", 120*d.FatG/d.MassG) {
		t.Errorf("%+v", n)
	}
}
