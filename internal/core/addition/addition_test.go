package addition

import (
	"math"
	"strings"
	"testing"
)

func TestShippedAdditionsAreWhole(t *testing.T) {
	keys := map[string]bool{}
	for _, a := range Shipped() {
		if err := a.Check(); err != nil || keys[a.Key] || a.Advice == "" {
			t.Errorf("%s: %v", a.Key, err)
		}
		keys[a.Key] = true
		c := a.Composition()
		if sum := c.Water + c.Protein + c.Fat + c.Carb + c.Ash; math.Abs(sum-1) > 1e-9 {
			t.Errorf("%s adds up to %v", a.Key, sum)
		}
		if s := a.StartShare(); s < a.LowShare-1e-9 || s > a.HighShare {
			t.Errorf("%s starts at %v", a.Key, s)
		}
		// A purée wets, a powder dries.
		if g := a.LiquidG(100); (a.Kind == Powder) != (g < 0) {
			t.Errorf("100 g of %s bring %v g", a.Key, g)
		}
	}
	if p, _ := Find("spinach-powder"); math.Abs(p.LiquidG(20)+23) > 1e-9 { // 20·(0.05 − 1.2)
		t.Errorf("20 g of powder take %v g", p.LiquidG(20))
	}
}

func TestCheckNamesWhatIsWrong(t *testing.T) {
	a, _ := Find("beet")
	a.WaterShare, a.FatShare, a.Colour, a.Kind, a.HighShare = .9, .5, "red", "jam", .01
	err := a.Check()
	for _, want := range []string{"come to 14", "#rrggbb", "jam", "high_share"} {
		if err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%v does not say %s", err, want)
		}
	}
	a.WaterShare = math.NaN()
	if a.Check() == nil {
		t.Error("no number is accepted")
	}
}

func TestPowder(t *testing.T) {
	// A kilo of beetroot at 87.6 % water: 124 g of solids, 130.5 g of powder at 5 %.
	if g := PowderG(1000, .876); math.Abs(g-130.526) > .001 || math.Abs(FreshG(g, .876)-1000) > 1e-9 {
		t.Errorf("%v g", g)
	}
	if m := MeanShare([]Yield{{FreshG: 1000, PowderG: 100}, {FreshG: 3000, PowderG: 180}}); m != .07 {
		t.Errorf("mean %v", m)
	}
	if MeanShare(nil) != 0 {
		t.Error("no drying has a share")
	}
	for _, y := range []Yield{{}, {Of: "x", FreshG: 100, PowderG: 100}, {Of: "x", FreshG: 100, PowderG: 5, Hours: 90},
		{Of: "x", FreshG: math.NaN(), PowderG: 1}} {
		if y.Check() == nil {
			t.Errorf("%+v is accepted", y)
		}
	}
}
