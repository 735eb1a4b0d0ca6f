package recipetext

import (
	"math"
	"strings"
	"testing"

	"hollen/internal/core/flour"
	"hollen/internal/core/rules"
)

var us = Measures{CupML: CupUS, US: true}

func TestParse(t *testing.T) {
	for _, c := range []struct {
		text      string
		kind      Kind
		flour     string
		low, high float64 // g
		says      string  // part of Note or Problem
	}{
		{"2 cups all-purpose flour", Flour, "plain", 2 * 236.6 * .51, 2 * 236.6 * .68, ""},
		{"2 cups plain", Flour, "plain", 241.3, 321.8, ""},
		{"1½ cups bread flour", Flour, "strong", 1.5 * 236.6 * .53, 1.5 * 236.6 * .69, ""},
		{"1 1/2 c. semola", Flour, "semola-fine", 1.5 * 236.6 * .68, 1.5 * 236.6 * .79, ""},
		{"¾ cup rye flour", Flour, "rye-light", .75 * 236.6 * .48, .75 * 236.6 * .62, ""},
		{"400g tipo 00 flour", Flour, "soft-00", 400, 400, ""},
		{"0.5 kg flour", Flour, "plain", 500, 500, "Which flour is not said"},
		{"1 pound 00 flour", Flour, "soft-00", 453.6, 453.6, ""},
		{"14 oz durum semolina flour", Flour, "semolina-coarse", 396.9, 396.9, ""},
		{"2 cups (250 g) flour, sifted", Flour, "plain", 250, 250, "weight in brackets"},
		{"2-3 cups whole wheat flour", Flour, "wholemeal", 2 * 236.6 * .50, 3 * 236.6 * .65, ""},
		{"2 to 2 1/4 cups 00", Flour, "soft-00", 236.6, 2.25 * 236.6 * .68, ""},
		{"100 g wholegrain spelt flour", Flour, "spelt-whole", 100, 100, ""},
		{"3 eggs", Egg, "", 3 * 44, 3 * 63, "Which size is not said"},
		{"3 large eggs", Egg, "", 150 * .93, 150 * 1.07, "US large"},
		{"two extra-large eggs, beaten", Egg, "", 112 * .93, 112 * 1.07, "US extra large"},
		{"a dozen egg yolks", Yolk, "", 12 * 15, 12 * 20.4, ""},
		{"1 egg white", White, "", 29, 42.6, ""},
		{"165 g eggs", Egg, "", 165, 165, ""},
		{"1 tablespoon olive oil", Oil, "", 13.5 * .9, 13.5 * 1.1, ""},
		{"a spoon of oil", Oil, "", 12.5 * .9 * .75, 12.5 * .9 * 1.25, "Which spoon is not said"},
		{"1 tsp. fine sea salt", Salt, "", 5.4, 6.6, ""},
		{"a pinch of salt", Salt, "", .4, .4, ""},
		{"2 tbsp lukewarm water", Water, "", 27, 33, ""},
		{"60 ml milk", Milk, "", 61.8, 61.8, ""},
		{"• 1,000 g 00 flour", Flour, "soft-00", 1000, 1000, ""},
		{"2 cups blue flour", Flour, "plain", 241.3, 321.8, "“blue” was passed over"},
		{"200 g cooked spinach, squeezed", Extra, "", 200, 200, "cooked, squeezed"},
		{"2 tbsp spinach powder", Extra, "", 30 * .4 * .9, 30 * .6 * 1.1, ""},
		{"1 tbsp squid ink", Extra, "", 15 * .9, 15 * 1.1 * 1.1, ""},
		{"1/4 cup tomato paste", Extra, "", 59.15 * .95, 59.15 * 1.05, ""},
		{"a pinch of saffron", Extra, "", .1, .4, ""},
		{"100 g chestnut flour", Flour, "chestnut", 100, 100, ""},
		{"2 cups (about 250 g) flour", Flour, "plain", 250, 250, "weight in brackets"},
		{"2 cups (125 g each) 00 flour", Flour, "soft-00", 250, 250, "weight in brackets"},
		{"1 cup / 125 g double zero flour", Flour, "soft-00", 125, 125, "weight in brackets"},
		{"100 g fine semolina", Flour, "semola-fine", 100, 100, ""},
		{"a drizzle of olive oil", Oil, "", 2, 6, "weigh it once"},
		{"a splash of water", Water, "", 3, 7, "weigh it once"},
		{"half an eggshell of water", Water, "", 14, 22, "weigh it once"},
		{"2 half eggshells of water", Water, "", 28, 44, ""},
		{"a dash of milk", Milk, "", 1, 5, ""},
		{"a dash of salt", Salt, "", .4, .8, ""},
		{"a handful of flour", Flour, "plain", 35, 60, ""},
		{"a handful of basil", Extra, "", 5, 15, ""},
		{"a knob of butter", Nothing, "", 0, 0, "not known here: butter"},
		{"300 g di farina 00", Flour, "soft-00", 300, 300, ""},
		{"100 g di semola rimacinata di grano duro", Flour, "semola-fine", 100, 100, ""},
		{"4 tuorli d'uovo", Yolk, "", 60, 81.6, ""},
		{"2 cucchiai d’olio extravergine", Oil, "", 27 * .9, 27 * 1.1, ""},
		{"un pizzico di sale fino", Salt, "", .4, .4, ""},
		{"400 g Weizenmehl Type 405", Flour, "soft-00", 400, 400, ""},
		{"3 Eier", Egg, "", 132, 189, ""},
		{"1 EL Olivenöl", Oil, "", 13.5 * .9, 13.5 * 1.1, ""},
		{"1 Prise Salz", Salt, "", .4, .4, ""},
		{"200 g de farine de sarrasin", Flour, "buckwheat", 200, 200, ""},
		{"5 jaunes d’œufs", Yolk, "", 75, 102, ""},
		{"1 cuillère à soupe d’huile d’olive", Oil, "", 13.5 * .9, 13.5 * 1.1, ""},
		{"100 g kuttu ka atta", Flour, "buckwheat", 100, 100, ""},
		{"200 g gehun ka atta", Flour, "wholemeal-flatbread", 200, 200, ""},
		{"1 katori maida", Flour, "plain", 236.6 * .51, 236.6 * .68, ""},
		{"2 ande", Egg, "", 88, 126, ""},
		{"60 ml pani", Water, "", 60, 60, ""},
		// What is not understood is said.
		{"3 bananas", Nothing, "", 0, 0, "not known here: bananas"},
		{"some flour", Nothing, "", 0, 0, "no amount"},
		{"flour", Nothing, "", 0, 0, "no amount"},
		{"2 flour", Nothing, "", 0, 0, "no measure stands with the amount"},
		{"1 cup eggs", Nothing, "", 0, 0, "counted or weighed"},
		{"salt to taste", Nothing, "", 0, 0, "Counted as none"},
		{"mix well", Nothing, "", 0, 0, "not understood"},
		{"1/0 cup flour", Nothing, "", 0, 0, ""},
		{"a pinch of water", Nothing, "", 0, 0, "a pinch of that"},
	} {
		lines := Parse(c.text, us)
		if len(lines) == 0 {
			t.Errorf("%q: nothing", c.text)
			continue
		}
		l := lines[0]
		if l.Kind != c.kind || l.FlourKey != c.flour && c.kind == Flour || math.Abs(l.LowG-c.low) > .1 ||
			math.Abs(l.HighG-c.high) > .1 ||
			!strings.Contains(l.Note+l.Problem, c.says) {
			t.Errorf("%q: %+v", c.text, l)
		}
		if l.Kind == Nothing && l.Problem == "" && l.Note == "" {
			t.Errorf("%q counts for nothing and nothing says so", c.text)
		}
	}
}

// Every flour on the shelf is read by its names in five languages.
func TestFloursByTheirNames(t *testing.T) {
	for key, names := range map[string]string{
		"soft-00": "double zero flour|farina doppio zero|Weizenmehl Type 405|farine t45",
		"soft-0":  "farina tipo 0|farine t55",
		"plain":   "all-purpose flour|Weizenmehl|maida|मैदा", "strong": "strong bread flour|farina " +
			"forte|Brotmehl|farine de force",
		"semola-fine":         "semola|semola rimacinata|Hartweizenmehl|semoule fine",
		"semolina-coarse":     "semolina|Hartweizengrieß|semoule|sooji|rava|सूजी",
		"wholemeal":           "whole wheat flour|farina integrale|Weizenvollkornmehl|farine complète",
		"wholemeal-flatbread": "atta|chapati flour|roti flour|आटा",
		"wholemeal-durum":     "wholegrain durum|semola integrale|Hartweizenvollkornmehl|semoule complète",
		"spelt-white":         "spelt flour|farina di spelta|Dinkelmehl|farine d’épeautre",
		"spelt-whole": "wholegrain spelt|farina di spelta integrale|Dinkelvollkornmehl|farine d'épeautre " +
			"complète",
		"emmer":      "emmer|farro dicocco|Zweikorn|amidonnier|khapli",
		"einkorn":    "einkorn flour|monococco|Einkornmehl|petit épeautre",
		"khorasan":   "khorasan flour|grano khorasan|Khorasanweizen",
		"rye-light":  "rye flour|farina di segale|Roggenmehl|farine de seigle",
		"buckwheat":  "buckwheat|grano saraceno|Buchweizenmehl|farine de blé noir|kuttu|कुट्टू",
		"sorghum":    "sorghum flour|farina di sorgo|Sorghumhirse|farine de sorgho|jowar|ज्वार",
		"millet":     "millet flour|farina di miglio|Hirsemehl|farine de millet|bajra|बाजरा",
		"chestnut":   "chestnut flour|farina di castagne|Kastanienmehl|farine de châtaigne",
		"chickpea":   "chickpea flour|farina di ceci|Kichererbsenmehl|farine de pois chiches|besan|बेसन",
		"rice":       "rice flour|farina di riso|Reismehl|farine de riz|chawal ka atta|चावल",
		"maize-fine": "maize flour|farina di mais|Maismehl|farine de maïs|makki ka atta|मक्का",
	} {
		for name := range strings.SplitSeq(names, "|") {
			if l := Parse("100 g "+name, us)[0]; l.Kind != Flour || l.FlourKey != key || l.LowG != 100 ||
				strings.Contains(l.Note, "passed over") {
				t.Errorf("%s is read as %s: %+v", name, key, l)
			}
		}
	}
	for _, f := range flour.Shipped() {
		if l := Parse("100 g "+f.LabelName(), us)[0]; l.FlourKey == "" || l.Kind != Flour {
			t.Errorf("%s: %+v", f.LabelName(), l)
		}
	}
}

// A recipe begins with its name, where it has one.
func TestTitle(t *testing.T) {
	for text, want := range map[string]string{
		"Aunt’s green ribbons\n2 cups flour\n3 eggs": "Aunt’s green ribbons",
		"Tagliatelle:\n400 g 00\n4 eggs":             "Tagliatelle",
		"2 cups flour\n3 eggs":                       "", "flour\n3 eggs": "", "Ingredients\n2 cups flour": "",
		"a pinch of salt\n2 cups flour": "", "Egg pasta": "",
		"Pasta with eggs\n2 cups flour":             "Pasta with eggs",
		"three-quarters of a cup of semola\n2 eggs": "", "half a cup of flour\n1 egg": "",
		"a couple of eggs\n200 g flour": "", "due etti di farina\n2 uova": "",
	} {
		if got := Title(text); got != want {
			t.Errorf("%q: %q, want %q", text, got, want)
		}
	}
	lines := Parse("Sunday ribbons\n300 g 00 flour\n3 eggs", us)
	if len(lines) != 3 || lines[0].Read != "its name" || lines[1].Kind != Flour {
		t.Errorf("%+v", lines)
	}
}

// The classic line, all in one.
func TestWholeRecipe(t *testing.T) {
	lines := Parse("2 cups plain, 3 eggs, a spoon of oil and a pinch of salt", Measures{CupML: CupUS, Fill: Dipped,
		EggClass: "us-l", US: true})
	if len(lines) != 4 {
		t.Fatalf("%d lines: %+v", len(lines), lines)
	}
	s := Add(rules.Default(), true, lines)
	if math.Abs(s.FlourLowG-2*236.6*.59) > .1 || s.FlourLowG != s.FlourHighG || s.Wholes != 3 {
		t.Errorf("%+v", s)
	}
	if !(s.LowHw < s.MiddleHw && s.MiddleHw < s.HighHw) || s.MiddleHw < 35 || s.MiddleHw > 55 {
		t.Errorf("hydration %.1f, %.1f, %.1f", s.LowHw, s.MiddleHw, s.HighHw)
	}
	// Not saying how the cup was filled widens the range.
	wide := Add(rules.Default(), true, Parse("2 cups plain, 3 eggs", us))
	if wide.HighHw-wide.LowHw <= s.HighHw-s.LowHw {
		t.Errorf("%.1f–%.1f is no wider", wide.LowHw, wide.HighHw)
	}
	// A purée wets, a powder drinks.
	base := Add(rules.Default(), true, Parse("1 kg 00 flour\n540 g eggs", us)).MiddleHw
	if wet, dry := Add(rules.Default(), true, Parse("1 kg 00 flour\n540 g eggs\n100 g beetroot purée", us)),
		Add(rules.Default(), true, Parse("1 kg 00 flour\n540 g eggs\n30 g beetroot powder",
			us)); wet.MiddleHw <= base || dry.MiddleHw >= base ||
		len(dry.Extras) != 1 {
		t.Errorf("%.1f plain, %.1f with purée, %.1f with powder", base, wet.MiddleHw, dry.MiddleHw)
	}
	// Weights have no range: (540·(.7615+.2·.0951) + 1000 − F14)/F14, F14 = 1000·.875/.86.
	kg := Add(rules.Default(), true, Parse("1 kg 00 flour\n540 g eggs", us))
	if math.Abs(kg.LowHw-kg.HighHw) > 1e-9 || math.Abs(kg.MiddleHw-39.71) > .01 {
		t.Errorf("weighed: %.2f–%.2f", kg.LowHw, kg.HighHw)
	}
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"2 cups plain, 3 eggs", "½ cup", "1/0 cup flour", "(((", "1-2-3 eggs",
		"9999999999999999999 kg flour",
		"a a a dozen dozen eggs", "0 eggs", "\xff"} {
		f.Add(s)
	}
	r := rules.Default()
	f.Fuzz(func(t *testing.T, text string) {
		lines := Parse(text, us)
		for _, l := range lines {
			if math.IsNaN(l.LowG) || math.IsInf(l.HighG, 0) || l.LowG > l.HighG+1e-9 || l.LowG < 0 {
				t.Fatalf("%q: %+v", text, l)
			}
			if l.Kind == Nothing && l.Problem == "" && l.Note == "" {
				t.Fatalf("%q counts for nothing and nothing says so", l.Text)
			}
		}
		if s := Add(r, true, lines); math.IsNaN(s.LowHw) || s.LowHw > s.HighHw+1e-9 {
			t.Fatalf("%q: %+v", text, s)
		}
	})
}

// What recipes say in other words: sizes as written, counts in words, heaped measures, whom it serves, and a method
// that is told apart and not
// read.
func TestAsRecipesSayIt(t *testing.T) {
	for text, want := range map[string][2]float64{"3 medium eggs": {3 * 51 * .93, 3 * 51 * 1.07},
		"3 XL eggs":    {3 * 68 * .93, 3 * 68 * 1.07},
		"6 small eggs": {6 * 43 * .93, 6 * 43 * 1.07}, "4 etti di farina": {400, 400}, "1 etto flour": {100, 100},
		"a couple of eggs":                 {2 * 43, 2 * 68},
		"three-quarters of a cup of water": {177.45, 177.45}, "a few drops of oil": {.12, .3}, "a bit of water": {2,
			10}, "2x large eggs": {2 * 60 * .93, 2 * 60 * 1.07}} {
		lines := Parse(text, Measures{CupML: CupUS})
		if len(lines) != 1 || math.Abs(lines[0].LowG-want[0]) > .05 || math.Abs(lines[0].HighG-want[1]) > .05 {
			t.Errorf("%s: %+v, want %v", text, lines, want)
		}
	}
	level, heaped := Parse("1 tablespoon flour", Measures{CupML: CupUS})[0], Parse("1 heaped tablespoon flour",
		Measures{CupML: CupUS})[0]
	if heaped.LowG <= level.LowG || heaped.HighG < 1.5*level.HighG {
		t.Errorf("level %g to %g, heaped %g to %g", level.LowG, level.HighG, heaped.LowG, heaped.HighG)
	}
	lines := Parse(
		"Sunday pasta\nServes 4\n2 cups flour\n3 jumbo eggs\n1 small egg\n1. Mound the flour on a board, make a well "+
			"and crack in the eggs.\n2. Knead for 10 minutes, then wrap and rest.\n"+
			"Roll out, cut and cook in plenty of salted water.\nMethod:\nLet it stand.",
		Measures{CupML: CupUS, US: true},
	)
	s := Add(rules.Default(), true, lines)
	if s.Portions != 4 || s.EggClass != "us-jumbo" || len(s.Others) != 1 || s.Others[0] != (Eggs{"us-s", 1}) ||
		s.Wholes != 4 {
		t.Errorf("%+v", s)
	}
	method := 0
	for _, l := range lines {
		if l.Problem != "" {
			t.Errorf("%q: %s", l.Text, l.Problem)
		}
		if l.Read == "not read: the method" {
			method++
		}
	}
	if method != 1 || len(lines) != 6 {
		t.Errorf("%d lines, the method %d times: %+v", len(lines), method, lines)
	}
}
