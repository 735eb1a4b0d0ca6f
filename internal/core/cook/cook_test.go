package cook

import (
	"math"
	"testing"

	"hollen/internal/core/rules"
)

func TestFresh(t *testing.T) {
	r := rules.Default().Cook
	for _, c := range []struct{ t, w, want float64 }{
		{.9, 7, 25 + 95*.81*49/(49.81)},  // a ribbon cooks nearly as its sheet
		{2.4, 2.4, 25 + 95*2.4*2.4/2},    // a square from all sides
		{.8, 1000, 25 + 95*.64*.9999994}, // a sheet
	} {
		if got := Of(r, Piece{ThickMM: c.t, WidthMM: c.w}).Seconds; math.Abs(got-c.want) > .1 {
			t.Errorf("%v × %v: %.1f s, want %.1f", c.t, c.w, got, c.want)
		}
	}
	o := Of(r, Piece{ThickMM: .9, WidthMM: 7, Loss: .05})
	if math.Abs(o.DriedS-1.2*o.Seconds) > 1e-9 || o.FromS >= o.Seconds || o.ToS <= o.DriedS || o.FrozenS != o.Seconds+45 {
		t.Errorf("%+v", o)
	}
	if !Of(r, Piece{ThickMM: 4, WidthMM: 40}).TasteOnly || o.TasteOnly {
		t.Error("taste only is for pieces over 2.5 mm")
	}
}

func TestPot(t *testing.T) {
	r := rules.Default()
	for _, c := range []struct {
		g, potL float64
		pots    int
		lots    int
		lotG    float64
	}{
		{1200, 20, 1, 1, 1200}, {1200, 8, 1, 2, 600}, {1200, 8, 2, 1, 600}, {600, 8, 4, 1, 600}, {2000, 8, 2, 2, 500},
	} {
		p := For(r.Cook, c.g, c.potL, c.pots)
		if math.Abs(p.WaterL-c.g/100) > 1e-9 || math.Abs(p.SaltG-c.g/10) > 1e-9 || p.Lots != c.lots || math.Abs(p.LotG-c.lotG) > 1e-9 {
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
	raw := Of(r.Cook, Piece{ThickMM: 1.4, WidthMM: 50, FillS: r.Cook.FillRawS})
	if math.Abs(raw.Seconds-bare.Seconds-r.Cook.FillRawS) > 1e-9 || raw.FromS <= bare.FromS {
		t.Errorf("%+v %+v", bare, raw)
	}
	if _, d := Days(r.Safety, Fridge, true); d >= r.Safety.FridgeDays {
		t.Error("a raw filling keeps as long as plain ribbons")
	}
}
