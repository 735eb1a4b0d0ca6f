package form

import (
	"math"
	"net/url"
	"testing"
	"time"

	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/recipetext"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// What is spooned, splashed and pinched is read as grams; what is none of it is refused beside its field.
func TestSpoonsSplashesAndPinches(t *testing.T) {
	metric := Form{}
	water := recipetext.Stuff{Kind: recipetext.Water}
	for typed, want := range map[string]float64{"2 tbsp": 30, "a splash": 5, "half a shell": 18, "30 ml": 30,
		"three shells": 54, "1/2 cup": 125, "½ cup": 125,
		"1,5 tsp": 7.5, "2 drizzles": 8, "12 oz": 340.2, "some": -1, "-1 tsp": -1, "a pinch": -1, "": -1,
		"2 tbsp of what": -1, "a couple of teaspoons": 10, "about 2 tbsp": 30, "a generous tablespoon": 17.4,
		"a heaped tablespoon": 30 / 2, "three quarters of a cup": 187.5} {
		if g, ok := metric.spooned(request.Field{}, typed, water); ok != (want != -1) || ok && math.Abs(g-want) > 1e-9 {
			t.Errorf("%q is %v g, %v", typed, g, ok)
		}
	}
	plain, _ := flour.Find("plain")
	for typed, want := range map[string]float64{"1 cup spooned": 250 * plain.SpoonedGPerML,
		"2 cups dipped": 500 * plain.DippedGPerML,
		"1 cup":         125 * (plain.SpoonedGPerML + plain.PackedGPerML)} {
		for _, of := range []flour.Flour{plain, {}} { // of one whose cup is not known, too
			if g, ok := metric.spooned(request.Field{}, typed, recipetext.Stuff{Kind: recipetext.Flour,
				Flour: of}); !ok ||
				math.Abs(g-want) > 1e-9 {
				t.Errorf("%q of flour is %v g, %v, not %v", typed, g, ok, want)
			}
		}
	}
	base := request.Default()
	base.Amount.By, base.Amount.FlourG = request.ByOwn, 400
	bind := func(in measure.System, change func(url.Values)) Form {
		t.Helper()
		v, page := url.Values{}, request.Padded(base)
		for _, f := range request.Fields() {
			v.Set(f.Path, f.In(in).Get(&page))
		}
		change(v)
		f, err := Bind(base, v, With{Rules: rules.Default(), Typed: in, Shown: in}, time.Now())
		if err != nil {
			t.Fatal(err)
		}
		return f
	}
	for _, in := range []measure.System{measure.Metric, measure.Customary} {
		f := bind(in, func(v url.Values) {
			v.Set("eggs.liquid_g", "2 tbsp")
			v.Set("oil_share", "1 tbsp")
			v.Set("salt_share", "2 pinches")
			v.Set("eggs.fix_whole_eggs", "4")
		})
		r := f.Request
		if len(f.Errors) > 0 || r.Eggs.LiquidG == nil || math.Abs(*r.Eggs.LiquidG-30) > .5 {
			t.Fatalf("%v: %v %+v", in, f.Errors, r.Eggs.LiquidG)
		}
		if math.Abs(r.Oil*400-13.5) > .1 || math.Abs(r.Salt*400-.8) > .05 || f.Plan.Formula.FlourG != 400 ||
			math.Abs(f.Plan.Formula.TopG-30) > .5 {
			t.Errorf("%v: oil %.2f g, salt %.2f g, %+v", in, r.Oil*400, r.Salt*400, f.Plan.Formula.TopG)
		}
	}
	f := bind(measure.Metric, func(v url.Values) { v.Set("eggs.liquid_g", "some"); v.Set("oil_share", "13") })
	for _, path := range []string{"eggs.liquid_g", "oil_share"} {
		if _, ok := f.Errors[path]; !ok {
			t.Errorf("%s is taken", path)
		}
	}
}
