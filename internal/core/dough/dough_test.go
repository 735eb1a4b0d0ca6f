package dough

import (
	"math"
	"testing"

	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/rules"
)

func at14(key string, g float64) flour.Part {
	f, _ := flour.Find(key)
	return flour.Part{Flour: f, MassG: g, Moisture: flour.Moisture{NowWB: .14, Measured: true}}
}

func near(t *testing.T, what string, got, want, tol float64) {
	t.Helper()
	if math.Abs(got-want) > tol {
		t.Errorf("%s: got %.4f, want %.4f ± %g", what, got, want, tol)
	}
}

func TestReferenceDough(t *testing.T) {
	r := rules.Default()
	b := flour.Mix(r.Flour, []flour.Part{at14("soft-00", 500)})
	d := Make(r, b, Amounts{WholeEggG: 300})
	near(t, "water", d.WaterG, 298.4, .06)
	near(t, "protein", d.ProteinG, 90.2, .05)
	near(t, "fat", d.FatG, 34.5, .05)
	near(t, "carbohydrate", d.CarbG, 371.2, .05)
	near(t, "ash", d.AshG, 5.7, .05)
	near(t, "density", d.DensityGPerML, 1.214, .0006)
	near(t, "hydration", d.Hydration, 45.7, .05)
	near(t, "working hydration", d.Hw, 46.8, .05)
	near(t, "mass", d.MassG, 800, .1)
	// per 100 g: (4·90.2 + 4·371.2 + 9·34.5)/8
	near(t, "energy", d.KcalPer100G, 269.5, .2)
}

func TestYolkDough(t *testing.T) {
	r := rules.Default()
	b := flour.Mix(r.Flour, []flour.Part{at14("soft-00", 1000)})
	d := Make(r, b, Amounts{YolkG: 732})
	near(t, "hydration", d.Hydration, 38.3, .05)
	near(t, "working hydration", d.Hw, 42.2, .05)
	near(t, "fat %", d.FatPct, 19.4, .05)
}

func TestMassesAddUp(t *testing.T) {
	r := rules.Default()
	parts := []flour.Part{at14("soft-00", 700), at14("semola-fine", 300)}
	parts[0].Moisture.NowWB, parts[1].Moisture.NowWB = .115, .131
	b := flour.Mix(r.Flour, parts)
	a := Amounts{WholeEggG: 480, YolkG: 55, TopG: 14, TopUp: egg.TopMilk, OilG: 10, SaltG: 6, LossG: 1.3}
	d := Make(r, b, a)
	near(t, "mass", d.MassG, 1000+480+55+14+10+6-1.3, .6) // table compositions add up to 0.9999 to 1.0
	twice := Make(r, flour.Mix(r.Flour, flour.Scale(parts, 2)), Amounts{960, 110, 28, egg.TopMilk, 20, 12, 2.6, nil})
	near(t, "twice the mass", twice.MassG, 2*d.MassG, 1e-9)
	near(t, "same hydration", twice.Hw, d.Hw, 1e-9)
	near(t, "same density", twice.DensityGPerML, d.DensityGPerML, 1e-12)
}

func TestBandAndFeel(t *testing.T) {
	r := rules.Default().Hydration
	a := Aim(r, Roller, 55, false, false, 0)
	near(t, "target", a.Hw, 42.25, 1e-9)
	// Points outside the band, by tool: makers roll one US large egg to 100 g (39.0) daily.
	for _, c := range []struct {
		tool  Tool
		hw    float64
		grade int
		odd   bool
	}{
		{Roller, 42, 0, false}, {Roller, 39, -1, false}, {Roller, 34, -1, false}, {Roller, 33.6, -2, false},
		{Roller, 30.7, -3, true}, {Roller, 27.7, -4, true},
		{Roller, 47.2, 1, false}, {Roller, 49.7, 2, false}, {Roller, 54.7, 3, true}, {Roller, 54.8, 4, true},
		{Pin, 43.5, -1, false}, {Pin, 36, -2, false}, {Pin, 33, -3, true}, {Pin, 31.7, -4, true}, {Sheeter, 45.2, 1,
			false}, {Sheeter, 48.2,
			2, false}, {Sheeter, 30, -3, true},
	} {
		if got := Aim(r, c.tool, 55, false, false, 0).Feel(r, c.hw); got.Grade != c.grade || got.Odd() != c.odd ||
			got.Words == "" {
			t.Errorf("%s at %v: %+v, want %+v", c.tool, c.hw, got, c)
		}
	}
	// The word counts yolk, which sets firm: an all-yolk dough at its own aim is firm, meant so.
	for share, grade := range map[float64]int{0: 0, .3: 0, 1: -1} {
		aim := Aim(r, Roller, 56, false, false, share)
		if got := aim.Feel(r, aim.Hw); got.Grade != grade {
			t.Errorf("all at its aim, yolk share %v: %+v", share, got)
		}
	}
	near(t, "fine rich", Aim(r, Roller, 56, false, true, .3).Hw, 42.5-.5-.45, 1e-9)
	near(t, "pin", Aim(r, Pin, 56, false, false, 0).High, 49, 1e-9)
}

func TestTintDeepensWithYolk(t *testing.T) {
	b := flour.Blend{}
	whole, yolk := Tint(b, 91.5, 800, 0), Tint(b, 732, 1732, 10)
	if whole.Face != "#efcc72" || yolk.Face != "#e6a632" {
		t.Errorf("whole %s, yolk %s", whole.Face, yolk.Face)
	}
	if bran := Tint(flour.Blend{WholegrainShare: 1}, 91.5, 800, 0); bran.Face == whole.Face {
		t.Error("wholegrain leaves the colour as it was")
	}
}

// A purée wets the dough, a powder dries it, and both keep the mass.
func TestAdditions(t *testing.T) {
	r := rules.Default()
	b := flour.Mix(r.Flour, []flour.Part{at14("soft-00", 1000)})
	plain := Make(r, b, Amounts{WholeEggG: 540})
	for _, c := range []struct {
		g, uptake, points float64
		comp              egg.Composition
	}{
		// 90 g of water, 0.04 % of fat
		{100, 0, 9 + .2*.04, egg.Composition{Water: .90, Fat: .004, Carb: .096}},
		{30, 1.2, 3*(.05-1.2) + .2*.12, egg.Composition{Water: .05, Fat: .04, Carb: .91}}, // 34.5 g taken up
	} {
		d := Make(r, b, Amounts{WholeEggG: 540, Others: []Other{{c.g, c.uptake, c.comp}}})
		near(t, "points", d.Hw-plain.Hw, c.points, 1e-9)
		near(t, "mass", d.MassG-plain.MassG, c.g, 1e-9)
	}
	// 150 g of spinach to a kilo: green, and greener with more.
	stain := Stain{"#7aa468", 12, 150, "green", "Spinach"}
	c := Tint(b, 165, 1690, 0, stain)
	stain.G = 300
	if d := Tint(b, 165, 1840, 0, stain); c.Words != "green from spinach" || c.Face == d.Face || c.Face == Tint(b, 165,
		1690, 0).Face {
		t.Errorf("%+v, then %+v", c, d)
	}
	if Tint(b, 165, 1690, 15).Face == Tint(b, 165, 1690, 5).Face {
		t.Error("the yolk's colour changes nothing")
	}
}
