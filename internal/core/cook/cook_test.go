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
		if got := Fresh(r, c.t, c.w, 0).Seconds; math.Abs(got-c.want) > .1 {
			t.Errorf("%v × %v: %.1f s, want %.1f", c.t, c.w, got, c.want)
		}
	}
	o := Fresh(r, .9, 7, .05)
	if math.Abs(o.DriedS-1.2*o.Seconds) > 1e-9 || o.FromS >= o.Seconds || o.ToS <= o.DriedS || o.FrozenS != o.Seconds+45 {
		t.Errorf("%+v", o)
	}
	if !Fresh(r, 4, 40, 0).TasteOnly || o.TasteOnly {
		t.Error("taste only is for pieces over 2.5 mm")
	}
}

func TestPot(t *testing.T) {
	p := For(rules.Default().Cook, 1200)
	if math.Abs(p.WaterL-12) > 1e-9 || math.Abs(p.SaltG-120) > 1e-9 {
		t.Errorf("%+v", p)
	}
}
