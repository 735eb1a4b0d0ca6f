package measure

import (
	"errors"
	"math"
	"testing"
)

// A figure is read in any unit it may be thought in, in halves and quarters, by the clock, with a comma or a point; a
// part of nothing named is asked for.
func TestRead(t *testing.T) {
	const no, ask = -1., -2.
	for _, c := range []struct {
		text string
		unit Unit
		by   float64 // of a number alone
		want float64
	}{
		{"2 kg", G, 1, 2000}, {"1.5kg", G, 1, 1500}, {"1,5 kg", G, 1, 1500}, {"1 lb 2 oz", G, 1, 453.59237 + 56.699},
		{"8 oz", G, 28.35, 226.796}, {"500 g", KG, 1, .5}, {"1 kg 200 g", G, 1, 1200}, {"1 kg 200", G, 1, 1200},
		{"1 lb 2", G, 1, 510.29},
		{"25 kg", G, 28.35, 25000}, {"2 Kilos", G, 1, 2000}, {"half a kilo", G, 1, 500}, {"a pound", G, 1, 453.59},
		{"a kilo and a half", G, 1, 1500}, {"2 and a half kg", G, 1, no}, {"a half kilo", G, 1, 500},
		{"2 and a half", "", 1, 2.5},
		{"12 cm", MM, 1, 120}, {"1/2 in", MM, 25.4, 12.7}, {"3\"", MM, 1, 76.2}, {"2 inches", MM, 1, 50.8}, {"12 m", M,
			.3048, 12}, {"1 m 20", MM, 1, 1200},
		{"half", "", 1, .5}, {"1 1/2", "", 1, 1.5}, {"½ kg", G, 1, 500}, {"1½ kg", G, 1, 1500},
		{"three quarters of a pound", G, 1, 340.19},
		{"half", G, 28.35, ask}, {"1/2", G, 1, ask}, {"half", MIN, 1, ask}, {"half", MM, 1, ask}, {"half", KG, 1, .5},
		{"half", L, 1, .5},
		{"2 cups", G, 1, no}, {"kg", G, 1, no}, {"1/0", "", 1, no}, {"2 kg of it", G, 1, no}, {"", G, 1, no},
		{"5 stone", G, 1, no},
		{"12 mm", "", 1, no}, {"--3", G, 1, no}, {"1:30", G, 1, no}, {"1 kg -200 g", G, 1, no}, {"1-2", G, 1, no},
		{"45 s", MIN, 1, .75}, {"90sec", MIN, 1, 1.5}, {"12 h", MIN, 1, 720}, {"2 hours", MIN, 1, 120}, {"8", MIN, 1,
			8}, {"8 min", MIN, 1, 8},
		{"8 minutes", MIN, 1, 8}, {"1:30", MIN, 1, 1.5}, {"1:30 h", MIN, 1, 90}, {"1 h 30", MIN, 1, 90}, {"1 h 30 min",
			MIN, 1, 90}, {"7,5", MIN, 1, 7.5},
		{"half an hour", MIN, 1, 30}, {"an hour and a half", MIN, 1, 90}, {"2 hours and a quarter", MIN, 1, 135},
		{"quarter of an hour", MIN, 1, 15}, {"an hour", MIN, 1, 60}, {"1 1/2 h", MIN, 1, 90},
		{"1:75", MIN, 1, no}, {"a while", MIN, 1, no}, {"h", MIN, 1, no}, {"90 s", S, 1, 90}, {"1:30", S, 1, 90},
		{"2 min", S, 1, 120}, {"1 h", S, 1, 3600},
		{"1:30", H, 1, 1.5}, {"90 min", H, 1, 1.5}, {"2 weeks", DAYS, 1, 14}, {"12 h", DAYS, 1, .5}, {"70 °F", C, 1,
			21.11}, {"21 C", C, 1, 21},
		{"−18 °C", C, 1, -18}, {"54 %", "%", 1, 54}, {"1.2 g/mL", "g/mL", 1, 1.2}, {"54 %", "", 1, no}, {"8 L", L, 1,
			8}, {"750 ml", L, 1, .75}, {"2 litres", L, 1, 2},
	} {
		got, err := Read(c.text, c.unit, func(n float64) float64 { return n * c.by })
		var unclear Unclear
		switch {
		case c.want == ask:
			if !errors.As(err, &unclear) || unclear.Ask == "" {
				t.Errorf("%q as %s is %v, %v; it is to be asked for", c.text, c.unit, got, err)
			}
		case c.want == no:
			if !errors.Is(err, ErrNoFigure) {
				t.Errorf("%q as %s is %v, %v; it is no figure", c.text, c.unit, got, err)
			}
		case err != nil || math.Abs(got-c.want) > .01:
			t.Errorf("%q as %s is %v, %v; want %v", c.text, c.unit, got, err, c.want)
		}
	}
}

// Whatever is typed, a figure that is read is one.
func FuzzRead(f *testing.F) {
	for _, s := range []string{"1 lb 2 oz", "1:30 h", "half a kg", "1/2", "−3,5", "1e9 kg", "1 h 30 min 2"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for unit := range written {
			if v, err := Read(text, unit, nil); err == nil && (math.IsNaN(v) || math.IsInf(v, 0)) {
				t.Errorf("%q as %s is %v", text, unit, v)
			}
		}
	})
}
