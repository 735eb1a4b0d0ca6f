package cook

import (
	"math"
	"testing"

	"hollen/internal/core/rules"
)

func TestFresh(t *testing.T) {
	r := rules.Default().Cook
	for _, c := range []struct{ t, w, want float64 }{{.8, 7, 89.6}, {1.3, 1000, 143.8}, {1.6, 1000, 181.7}, {2.4, 2.4,
		194.7}} {
		if got := Of(r, Piece{ThickMM: c.t, WidthMM: c.w}).Seconds; math.Abs(got-c.want) > .1 {
			t.Errorf("%v × %v: %.1f s, want %.1f", c.t, c.w, got, c.want)
		}
	}
	o := Of(r, Piece{ThickMM: .8, WidthMM: 7, Loss: .28})
	if math.Abs(o.DriedS/o.Seconds-3.3) > .01 || math.Abs(o.FromS-.6*o.DriedS) > 1e-9 ||
		math.Abs(o.ToS-1.6*o.DriedS) > 1e-9 || o.FrozenS != o.Seconds+45 ||
		math.Abs(o.InPanS-o.Seconds*2/3) > 1e-9 {
		t.Errorf("%+v", o)
	}
	for x := .001; x < .3; x += .001 { // continuous with drying
		if Dried(r, 100, x)-Dried(r, 100, x-.001) > 2 {
			t.Fatalf("at %.1f %% lost the time jumps", 100*x)
		}
	}
	if !Of(r, Piece{ThickMM: 4, WidthMM: 40}).TasteOnly || o.TasteOnly {
		t.Error("taste only is for pieces over 3 mm")
	}
}

func TestPot(t *testing.T) {
	r := rules.Default()
	for _, c := range []struct {
		g, potL float64
		pots    int
		loads   int
		lotG    float64
	}{
		{1200, 20, 1, 1, 1200}, {1200, 8, 1, 2, 600}, {1200, 8, 2, 1, 600}, {600, 8, 4, 1, 600}, {2000, 8, 2, 2, 500},
	} {
		p := For(r.Cook, c.g, c.potL, c.pots)
		if math.Abs(p.WaterL-c.g/100) > 1e-9 || math.Abs(p.SaltG-c.g/10) > 1e-9 || p.Loads != c.loads ||
			math.Abs(p.LoadG-c.lotG) > 1e-9 {
			t.Errorf("%+v: %+v", c, p)
		}
		if p.FillL > r.Cook.PotFill*c.potL+1e-9 || math.Abs(p.DoseG-10*p.FillL) > 1e-9 {
			t.Errorf("%+v overfills: %+v", c, p)
		}
	}
}

func TestFillingsCookLonger(t *testing.T) {
	r := rules.Default()
	bare := Of(r.Cook, Piece{ThickMM: 1.4, WidthMM: 50})
	raw := Of(r.Cook, Piece{ThickMM: 1.4, WidthMM: 50, FillS: r.Cook.FillRawS, Raw: true})
	if math.Abs(raw.Seconds-bare.Seconds-r.Cook.FillRawS) > 1e-9 || raw.FromS != raw.Seconds {
		t.Errorf("%+v %+v", bare, raw)
	}
	if _, d := Days(r.Safety, Fridge, true); d >= r.Safety.FridgeDays {
		t.Error("a raw filling keeps as long as plain ribbons")
	}
}
