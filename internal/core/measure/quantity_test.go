package measure

import (
	"math"
	"testing"
)

// A figure is read in any unit it may be thought in, in halves and quarters, with a comma or a point.
func TestParseQuantity(t *testing.T) {
	for _, c := range []struct {
		text string
		unit Unit
		by   float64 // of a number alone
		want float64
	}{
		{"2 kg", G, 1, 2000}, {"1.5kg", G, 1, 1500}, {"1,5 kg", G, 1, 1500}, {"1 lb 2 oz", G, 1, 453.59237 + 56.699},
		{"8 oz", G, 28.35, 226.796}, {"500 g", KG, 1, .5},
		{"12 cm", MM, 1, 120}, {"1/2 in", MM, 25.4, 12.7}, {"3\"", MM, 1, 76.2}, {"half", "", 1, .5}, {"1 1/2", "", 1, 1.5},
		{"½ kg", G, 1, 500}, {"1½ kg", G, 1, 1500},
		{"half", G, 28.35, 14.175}, {"2 cups", G, 1, -1}, {"kg", G, 1, -1}, {"1/0", "", 1, -1}, {"2 kg of it", G, 1, -1}, {"", G, 1, -1}, {"5 stone", G, 1, -1},
		{"12 mm", "", 1, -1}, {"--3", G, 1, -1},
	} {
		got, ok := ParseQuantity(c.text, c.unit, c.by)
		if ok != (c.want != -1) || ok && math.Abs(got-c.want) > .01 {
			t.Errorf("%q as %s is %v, %v; want %v", c.text, c.unit, got, ok, c.want)
		}
	}
}
