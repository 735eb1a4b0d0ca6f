package recipe

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// own is 400 g of flour and 4 eggs, at the maker's word.
func own400(t *testing.T) (request.Request, *plan.Plan) {
	t.Helper()
	r := request.Default()
	four := 4.
	r.Amount.By, r.Amount.FlourG, r.Eggs.FixWhole = request.ByOwn, 400, &four
	return r, planned(t, r)
}

func planned(t *testing.T, r request.Request) *plan.Plan {
	t.Helper()
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// The worked examples: whole eggs lead, everything follows them, the ratio stays to the gram.
func TestScalingByWholeEggs(t *testing.T) {
	r, p := own400(t)
	for _, x := range []struct{ times, eggs, factor, flour float64 }{{8 / 6.1, 6, 1.5, 600}, {12 / 6.1, 8, 2, 800},
		{30 / 6.1, 20, 5, 2000}, {1, 4, 1, 400}, {.3, 2, .5, 200}, {.01, 1, .25, 100}} {
		got, s, err := Scale(r, p, Want{Times: x.times})
		if err != nil {
			t.Fatal(err)
		}
		if s.Eggs != x.eggs || math.Abs(s.Factor-x.factor) > 1e-9 || *got.Eggs.FixWhole != x.eggs ||
			got.Amount.FlourG != x.flour || got.Amount.FlourG / *got.Eggs.FixWhole != 100 {
			t.Errorf("× %.3f: %+v, %v eggs on %v g", x.times, s, *got.Eggs.FixWhole, got.Amount.FlourG)
		}
		if over := s.Factor > 1.25*s.Asked; over != strings.Contains(strings.Join(s.Words, " "),
			"more than was asked") {
			t.Errorf("× %.3f says %q", x.times, s.Words)
		}
		if q := planned(t, got); math.Abs(q.Formula.Dough.Hw-p.Formula.Dough.Hw) > .2 ||
			q.Formula.TopG != p.Formula.TopG*x.factor {
			t.Errorf("× %.3f: another dough: %.2f for %.2f, %.1f g added", x.times, q.Formula.Dough.Hw,
				p.Formula.Dough.Hw, q.Formula.TopG)
		}
	}
	if r.Amount.FlourG != 400 || *r.Eggs.FixWhole != 4 {
		t.Error("the recipe itself was changed")
	}
	exact, s, err := Scale(r, p, Want{Portions: 8, Exactly: true})
	if err != nil || exact.Eggs.CrackedG == nil || math.Abs(s.Factor-s.Asked) > 1e-9 {
		t.Fatalf("exactly: %+v, %v", s, err)
	}
	if q := planned(t, exact); math.Abs(q.Formula.Portions-8) > .2 {
		t.Errorf("exactly 8: %.2f portions", q.Formula.Portions)
	}
	if _, _, err := Scale(r, p, Want{}); err == nil {
		t.Error("nothing is wanted, and something made")
	}
}

// What is worked out gets its amount; what is for the whole batch goes along.
func TestScalingWhatIsWorkedOut(t *testing.T) {
	r := request.Default()
	r.Cut.Also = []request.ShapePart{{Shape: "maltagliati", Portions: 2}}
	p := planned(t, r)
	got, s, err := Scale(r, p, Want{Portions: 25})
	if err != nil || got.Amount.By != request.ByPortions || got.Amount.Portions != 25 ||
		math.Abs(s.Factor-25/p.Formula.Portions) > 1e-9 {
		t.Errorf("%+v, %v", got.Amount, err)
	}
	if got, _, _ = Scale(r, p, Want{DoughG: 2000}); got.Amount.By != request.ByDough || got.Amount.DoughG != 2000 {
		t.Errorf("dough: %+v", got.Amount)
	}
}

// Cups and spoons go by quarters, and weigh what they then are.
func TestScalingCups(t *testing.T) {
	r, _ := own400(t)
	r.Measure(request.Said{Path: "flours.0.share", Text: "3 cups", LowG: 375, G: 400, High: 430})
	if len(r.Measured()) != 1 {
		t.Skip("the amount of an own recipe stands under another path")
	}
	got, _, err := Scale(r, planned(t, r), Want{Times: 1.5})
	if err != nil || !strings.Contains(string(got.Measures), "4½ cups") {
		t.Errorf("%q, %v", got.Measures, err)
	}
}

// What a batch has otherwise: the recipe's fields alone, ratios of what is the maker's own, never a scaled amount.
func TestDifferencesAndBack(t *testing.T) {
	r, p := own400(t)
	batch, _, _ := Scale(r, p, Want{Times: 3})
	batch.Room.TempC, batch.MadeOn, batch.Name = 27, "2026-11-30", "Tagliatelle for Saturday"
	if d := Differences(measure.Metric, r, batch); len(d) != 0 {
		t.Errorf("only day and amount are otherwise: %v", d)
	}
	fourteen := 14.
	batch.Eggs.FixWhole = &fourteen
	batch.Rest.At = request.InFridge
	d := Differences(measure.Metric, r, batch)
	if len(d) != 2 || d[0].Field.Path != "eggs.fix_whole_eggs" || !d[0].Ratio || d[0].FromShown != "12" ||
		d[0].ToShown != "14" ||
		d[1].Field.Path != "rest.at" {
		t.Fatalf("%+v", d)
	}
	next := Into(r, batch, []string{"rest.at"})
	if next.Rest.At != request.InFridge || *next.Eggs.FixWhole != 4 || next.Room.TempC != r.Room.TempC ||
		next.Amount.FlourG != 400 {
		t.Errorf("into the recipe: %+v", next.Rest)
	}
	if both := Into(r, batch, []string{"rest.at", "eggs.fix_whole_eggs"}); *both.Eggs.FixWhole != 5 {
		t.Errorf("14 eggs on 1,200 g are %v on 400", *both.Eggs.FixWhole)
	}
}

// What a newer version changed is taken where the batch was as before; what the batch changed itself stays, and is
// told.
func TestNewerVersion(t *testing.T) {
	r, p := own400(t)
	batch, _, _ := Scale(r, p, Want{Times: 2})
	batch.Knead.Mix = request.InBowl
	now := r
	now.Rest.At, now.Knead.Mix, now.Salt = request.InFridge, request.InWell, .01
	now.Knead.Mix = r.Knead.Mix
	wide := 9.
	now.Cut.Width = &wide
	narrow := 5.
	batch.Cut.Width = &narrow
	got, taken := Newer(measure.Metric, r, batch, now)
	if got.Rest.At != request.InFridge || got.Salt != .01 || got.Knead.Mix != request.InBowl || *got.Cut.Width != 5 ||
		got.Amount.FlourG != 800 {
		t.Errorf("%+v", got)
	}
	if len(taken.Took) != 2 || len(taken.Offered) != 1 || taken.Offered[0].Label != "Width" {
		t.Errorf("%+v", taken)
	}
}

// Every field of the request stands in exactly one part, and no row names a field that is not there.
func TestEveryFieldInOnePart(t *testing.T) {
	seen := map[string]bool{}
	for _, f := range request.Fields() {
		row := Row(f.Path)
		n := 0
		for _, part := range []Part{OfRecipe, OfDay, OfAmount} {
			for _, p := range Rows(part) {
				if p == row {
					n++
				}
			}
		}
		if n != 1 {
			t.Errorf("%s stands in %d parts", row, n)
		}
		seen[row] = true
	}
	for _, part := range []Part{OfRecipe, OfDay, OfAmount} {
		for _, p := range Rows(part) {
			if !seen[p] {
				t.Errorf("%s is no field", p)
			}
		}
	}
}

// What is made again at another amount, on another day and under another name is the same thing; another minute of
// kneading, or another ratio at the maker's word, is not.
func TestAlike(t *testing.T) {
	r, p := own400(t)
	twice, _, err := Scale(r, p, Want{Times: 2})
	if err != nil {
		t.Fatal(err)
	}
	twice.Name, twice.MadeOn, twice.Room.TempC = "For Saturday, copy", "2026-11-28", 27
	wetter := r
	five := 5.
	wetter.Eggs.FixWhole = &five
	worked := request.Default()
	more := worked
	more.Amount.By, more.Amount.DoughG, more.Flours = request.ByDough, 2000, []request.FlourPart{worked.Flours[0]}
	more.Flours[0].Lot = "B-12"
	longer := more
	min := 12.
	longer.Knead.Min = &min
	got := Alike([]request.Request{r, worked, twice, wetter, more, longer})
	want := "[[0 2] [1 4] [3] [5]]"
	if fmt.Sprint(got) != want {
		t.Errorf("%v, not %s", got, want)
	}
	for name, want := range map[string]string{"Ribbons, copy, copy": "Ribbons", "Ribbons": "Ribbons", ", copy": ""} {
		if got := Called(name); got != want {
			t.Errorf("%q is called %q", name, got)
		}
	}
}

// Made twenty-five times at other amounts, and what differs taken into it each time, an own recipe is what it was: what
// counting to whole eggs rounds is no difference.
func TestARecipeStaysItself(t *testing.T) {
	first, _ := own400(t)
	liquid := 12.
	first.Eggs.LiquidG = &liquid
	r := first
	for n := range 25 {
		batch, s, err := Scale(r, planned(t, r), Want{Times: []float64{.5, 1.3, 2, 3.7, .8}[n%5]})
		if err != nil {
			t.Fatal(err)
		}
		batch.Room.RH, batch.MadeOn = .3+float64(n%5)/10, "2026-11-28"
		var paths []string
		for _, d := range Differences(measure.Metric, r, batch) {
			paths = append(paths, d.Field.Path)
			t.Errorf("round %d, factor %v: %s", n, s.Factor, d.Words())
		}
		r = Of(Into(r, batch, paths))
	}
	if r.Amount.FlourG != 400 || *r.Eggs.FixWhole != 4 || *r.Eggs.LiquidG != 12 {
		t.Errorf("%+v %v %v", r.Amount, *r.Eggs.FixWhole, *r.Eggs.LiquidG)
	}
}
