package recipe

import (
	"math"
	"strings"
	"testing"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

func TestRatiosAreRead(t *testing.T) {
	for text, want := range map[string]Ratio{
		"100 g to an egg":            {FlourG: 100, Eggs: 1},
		"100g/egg":                   {FlourG: 100, Eggs: 1},
		"100 g of flour per egg":     {FlourG: 100, Eggs: 1},
		"a kilo to ten eggs":         {FlourG: 1000, Eggs: 10},
		"10 eggs to a kilo":          {FlourG: 1000, Eggs: 10},
		"1 kg : 30 yolks":            {FlourG: 1000, Yolks: 30},
		"35 g to a yolk":             {FlourG: 35, Yolks: 1},
		"1 kg to 8 eggs and 4 yolks": {FlourG: 1000, Eggs: 8, Yolks: 4},
		"An egg to 110 grams":        {FlourG: 110, Eggs: 1},
		"2 lb to 9 eggs":             {FlourG: 907.18474, Eggs: 9},
		"70:30":                      {ByMass: 70. / 30},
		"70 / 30":                    {ByMass: 70. / 30},
		"2 to 1":                     {ByMass: 2},
	} {
		got, err := ReadRatio(text)
		if err != nil || math.Abs(got.FlourG-want.FlourG) > 1e-6 || got.Eggs != want.Eggs || got.Yolks != want.Yolks ||
			math.Abs(got.ByMass-want.ByMass) > 1e-9 {
			t.Errorf("%q: %+v, %v", text, got, err)
		}
		if again, err := ReadRatio(strings.TrimSuffix(got.Words(measure.Metric),
			", flour to egg by weight")); err != nil ||
			math.Abs(again.FlourG-got.FlourG) > .5 || math.Abs(again.ByMass-got.ByMass) > .01 {
			t.Errorf("%q: said as %q, read as %+v, %v", text, got.Words(measure.Metric), again, err)
		}
	}
	for _, text := range []string{"", "eggs", "100 to an egg", "100 g", "100 g to a spoon", "100 g to 1.5 eggs",
		"5 g to an egg",
		"30:70", "1 kg to 0 eggs", "70:0", "9999 kg to 10 eggs", "a b c"} {
		if r, err := ReadRatio(text); err == nil {
			t.Errorf("%q: %+v", text, r)
		}
	}
}

// TestARatioIsKept: whatever is asked of a ratio, its flour to an egg stays to the gram, and whole eggs lead.
func TestARatioIsKept(t *testing.T) {
	for _, text := range []string{"100 g to an egg", "1 kg to 10 eggs", "32 g to a yolk", "70:30",
		"1 kg to 8 eggs and 4 yolks"} {
		ratio, err := ReadRatio(text)
		if err != nil {
			t.Fatal(err)
		}
		r := ratio.Onto(request.Default())
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatalf("%s: %v", text, err)
		}
		each := func(r *request.Request) float64 {
			return r.Amount.FlourG / (*r.Eggs.FixWhole + *r.Eggs.FixYolks)
		}
		for _, w := range []Want{{Portions: 3}, {Portions: 8}, {Portions: 30}, {FlourG: 640}, {Eggs: 7}} {
			if w.Eggs > 0 && *r.Eggs.FixWhole == 0 {
				continue
			}
			out, s, err := Scale(r, p, w)
			if err != nil {
				t.Fatal(err)
			}
			if n := *out.Eggs.FixWhole; n != math.Trunc(n) || w.Eggs > 0 && n != w.Eggs {
				t.Errorf("%s, %+v: %g eggs", text, w, n)
			}
			one := *r.Eggs.FixWhole == 0 || *r.Eggs.FixYolks == 0 // of two kinds the second is rounded
			if off := math.Abs(each(&out)-each(&r)) * (*out.Eggs.FixWhole + *out.Eggs.FixYolks); one && off > .51 {
				t.Errorf("%s, %+v: %.3f g to an egg, not %.3f", text, w, each(&out), each(&r))
			}
			if s.Factor < leastShare*s.Asked-1e-9 {
				t.Errorf("%s, %+v: %.3f of %.3f asked", text, w, s.Factor, s.Asked)
			}
		}
	}
	r := request.Default()
	if _, is := RatioOf(&r); is {
		t.Error("what is worked out has no ratio")
	}
	ratio, _ := ReadRatio("1 kg to 10 eggs")
	r = ratio.Onto(r)
	if got, is := RatioOf(&r); !is || got.Words(measure.Metric) != "100 g of flour to an egg" {
		t.Errorf("%+v %v", got, is)
	}
}
