package measure

import (
	"errors"
	"math"
	"testing"
)

// The same figures in both systems; the international yard and pound.
func TestFiguresInBothSystems(t *testing.T) {
	for _, c := range []struct{ got, want string }{
		{Metric.Grams(1592.4), "1,592 g"}, {Metric.Grams(4.62), "4.6 g"}, {Metric.Whole(4.62), "5 g"},
		{Customary.Grams(27), "0.95 oz"},
		{Customary.Grams(4.62), "0.16 oz"}, {Customary.Grams(127.3), "4.5 oz"}, {Customary.Grams(282.9), "10 oz"},
		{Customary.Grams(285), "10.1 oz"}, {Customary.Grams(-3), "-0.11 oz"},
		{Customary.Grams(1000), "2 lb 3.3 oz"},
		{Customary.KG(5, Shortest), "11 lb 0.4 oz"}, {Metric.KG(2.5, Shortest), "2.5 kg"}, {Customary.C(22, 0),
			"72 °F"}, {Metric.C(22.4, 0), "22 °C"},
		{Customary.C(-18, 0), "0 °F"},
		{Metric.MM(.85, 2), "0.85 mm"}, {Customary.MM(7, Shortest), "9/32 in"}, {Customary.M(2.5, 1), "8.2 ft"},
		{Customary.L(8, Shortest), "8.45 qt"},
		{Metric.Joined(" × ", MM, Shortest, 50, 50, .7), "50 × 50 × 0.7 mm"}, {Customary.Joined(" × ", MM, Shortest, 50,
			50, .7), "2 × 2 × 0.028 in"},
		{Customary.Joined("–", G, 0, 500, 1500), "1 lb 1.6–3 lb 4.9 oz"}, {Grouped("-1234567"), "-1,234,567"},
		{Grouped("12.5"), "12.5"},
	} {
		if c.got != c.want {
			t.Errorf("%q, want %q", c.got, c.want)
		}
	}
	for oz, want := range map[float64]string{15.9: "15.9 oz", 16: "1 lb", 31.9: "1 lb 15.9 oz", 31.97: "2 lb",
		40: "2 lb 8 oz"} {
		if got := Customary.Grams(oz * 28.349523125); got != want {
			t.Errorf("%g oz is told as %q, want %q", oz, got, want)
		}
	}
}

// Only what is set in braces is turned, and the braces go in every system.
func TestProse(t *testing.T) {
	for text, want := range map[string][2]string{
		"above {5 °C} by then, 1–2 °C": {"above 5 °C by then, 1–2 °C",
			"above 41 °F by then, 1–2 °C"},
		"frozen at {−18 °C}": {"frozen at −18 °C", "frozen at 0 °F"},
		"between {5 and 60 °C}; a {100 by 100 mm} square": {"between 5 and 60 °C; a 100 by 100 mm square",
			"between 41 and 140 °F; a 4 by 4 in square"},
		"Ravioli, {50 × 50 × 0.7 mm}": {"Ravioli, 50 × 50 × 0.7 mm",
			"Ravioli, 2 × 2 × 0.028 in"},
		"25 kg sack {of mine}": {"25 kg sack {of mine}", "25 kg sack {of mine}"},
	} {
		if m, c := Metric.Prose(text), Customary.Prose(text); m != want[0] || c != want[1] {
			t.Errorf("%q\n says %q\n  and %q", text, m, c)
		}
	}
}

func TestReadMass(t *testing.T) {
	for text, want := range map[string]float64{"200 g": 200, "1,5 kg": 1500, "7 oz": 198.4466, "2lb": 907.18474} {
		if g, ok := ParseMass(text); !ok || g-want > 1e-4 || want-g > 1e-4 {
			t.Errorf("%q: %v, %v", text, g, ok)
		}
	}
	for _, text := range []string{"20", "g", "", "two kg", "%"} {
		if g, ok := ParseMass(text); ok {
			t.Errorf("%q: %v", text, g)
		}
	}
}

// Faults keep their field through joining; what is none keeps its text.
func TestFaults(t *testing.T) {
	got := Faults(errors.Join(Faultf("width_mm", "%d; 1 to 5 is allowed", 9), errors.Join(errors.New("torn"),
		Faultf("name", "empty"))))
	if len(got) != 3 || got[0].Field != "width_mm" || got[1] != (Fault{Text: "torn"}) ||
		got[2].Error() != "name: empty" {
		t.Errorf("%+v", got)
	}
	if Faults(nil) != nil {
		t.Error("nothing has faults")
	}
}

func FuzzParseNumber(f *testing.F) {
	for _, s := range []string{"1", "1,000", "0,9", "-1.5e3", "1.000,5", "", "∞", ",", "1,00", "0x1p4"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if n, ok := ParseNumber(s); ok && (math.IsNaN(n) || math.IsInf(n, 0)) {
			t.Fatalf("%q: %v", s, n)
		}
	})
}

// Lengths set by hand are said as a ruler has them, what a dial sets in decimals; portions in quarters of an ounce.
func TestRuled(t *testing.T) {
	for _, c := range []struct {
		mm     float64
		digits int
		want   string
	}{
		{7, Shortest, "9/32 in"}, {6.35, Shortest, "¼ in"}, {12, Shortest, "15/32 in"}, {25, Shortest, "1 in"},
		{30, Shortest, "1 3/16 in"}, {140, 0, "5½ in"}, {1200, 0, "47¼ in"}, {50, 0, "2 in"}, {150, 0, "6 in"},
		{470, 0, "18½ in"}, {3, Shortest, "⅛ in"}, {600, 0, "23⅝ in"}, {100, 0, "4 in"},
		{.85, 2, "0.033 in"}, {1.2, Shortest, "0.047 in"}, {7, 2, "0.276 in"}, {305, 0, "12 in"}, {25.2, 0, "1 in"},
	} {
		if got := Customary.MM(c.mm, c.digits); got != c.want {
			t.Errorf("%g mm is %q, want %q", c.mm, got, c.want)
		}
	}
	if got := Metric.MM(7, Shortest); got != "7 mm" {
		t.Error(got)
	}
	for g, want := range map[float64]string{120: "4¼ oz", 113: "4 oz", 150: "5¼ oz", 20: "¾ oz", 100: "3½ oz"} {
		if got := Customary.Portion(g); got != want {
			t.Errorf("%g g is %q, want %q", g, got, want)
		}
	}
	if got := Metric.Portion(120); got != "120 g" {
		t.Error(got)
	}
}
