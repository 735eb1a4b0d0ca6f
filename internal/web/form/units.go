package form

import (
	"strconv"
	"strings"

	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
)

// shownAs turns what Hollen chose for a field, as metric, into what the field shows of it.
func shownAs(f request.Field, chosen string) string {
	if !f.Rounded {
		return chosen
	}
	n, ok := measure.ParseNumber(chosen)
	if !ok {
		return chosen
	}
	return f.Shown(n)
}

// Auto returns what Hollen chose for a field, as the field shows it; "" where it chooses nothing.
func (f *Form) Auto(field request.Field) string { return shownAs(field, Chosen(f.Plan, field)) }

// gramsAsShare reads "200 g" or "7 oz" as a share, in %, of the flour in all; other text is left
// as it is.
func (f *Form) gramsAsShare(text string) string {
	g, ok := measure.ParseMass(text)
	if !ok {
		return text
	}
	p, err := plan.Make(f.with.Rules, f.whole())
	if err != nil {
		return text
	}
	return strconv.FormatFloat(100*g/(p.Formula.FlourG-p.Formula.Pick.FlourAddG), 'f', 4, 64)
}

// spoons are what makers measure small things in, mL of it or g at once. Source: house; a drizzle of oil,
// a splash, half an egg shell of water, a pinch of salt.
var spoons = []struct {
	name  string
	ml, g float64
}{{"tbsp", 15, 0}, {"tablespoons", 15, 0}, {"tablespoon", 15, 0}, {"spoons", 15, 0}, {"spoon", 15, 0}, {"tsp", 5, 0}, {"teaspoons", 5, 0}, {"teaspoon", 5, 0},
	{"cups", 240, 0}, {"cup", 240, 0}, {"ml", 1, 0}, {"dl", 100, 0}, {"cl", 10, 0}, {"drizzles", 0, 4}, {"drizzle", 0, 4}, {"splashes", 0, 5},
	{"splash", 0, 5}, {"shells", 0, 18}, {"shell", 0, 18}, {"pinches", 0, .4}, {"pinch", 0, .4}, {"l", 1000, 0}}

// spooned reads "2 tbsp", "30 ml", "a splash" or "half a shell" as grams of what weighs gPerML; false for
// what is none of these.
func spooned(text string, gPerML float64) (g float64, ok bool) {
	text = strings.ToLower(strings.TrimSpace(text))
	for _, u := range spoons {
		number, found := strings.CutSuffix(text, u.name)
		if !found {
			continue
		}
		n := 1.
		if number = strings.TrimSpace(number); number != "" {
			words := map[string]float64{"a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "half a": .5, "half": .5, "½": .5, "¼": .25, "¾": .75}
			if n, ok = words[number]; !ok {
				if n, ok = measure.ParseNumber(number); !ok {
					return 0, false
				}
			}
		}
		return n * (u.ml*gPerML + u.g), true
	}
	return 0, false
}

// Densities of what is spooned, g/mL. Source: food tables.
const waterGPerML, milkGPerML, oilGPerML, saltGPerML = 1, 1.03, .915, 1.2

// asSpooned reads what is spooned into a field in its unit: grams of liquid, oil and salt in % of the flour;
// other text is left as it is.
func (f *Form) asSpooned(field request.Field, text string) string {
	path := field.Path
	density := map[string]float64{"eggs.liquid_g": waterGPerML, "oil_share": oilGPerML, "salt_share": saltGPerML}[path]
	if density == 0 {
		return text
	}
	if path == "eggs.liquid_g" && f.Page.Eggs.TopUp == egg.TopMilk {
		density = milkGPerML
	}
	g, ok := spooned(text, density)
	switch {
	case !ok && path == "eggs.liquid_g":
		return text
	case !ok:
		return f.gramsAsShare(text)
	case path == "eggs.liquid_g":
		return field.Shown(g)
	}
	return f.gramsAsShare(strconv.FormatFloat(g, 'f', 3, 64) + " g")
}

// asMinutes reads "45 s", "1:30" or "12 h" as minutes; other text is left as it is.
func asMinutes(text string) string {
	number, by := strings.TrimSpace(text), 1.
	for _, u := range []struct {
		name string
		min  float64
	}{{"hours", 60}, {"hour", 60}, {"h", 60}, {"minutes", 1}, {"min", 1}, {"m", 1}, {"seconds", 1. / 60}, {"sec", 1. / 60}, {"s", 1. / 60}} {
		if n, cut := strings.CutSuffix(number, u.name); cut {
			number, by = strings.TrimSpace(n), u.min
			break
		}
	}
	whole, part, colon := strings.Cut(number, ":")
	n, ok := measure.ParseNumber(whole)
	if colon {
		s, okS := measure.ParseNumber(part)
		n, ok = n+s/60, ok && okS && s < 60
	}
	if !ok {
		return text
	}
	return strconv.FormatFloat(n*by, 'f', -1, 64)
}

// dryingAsMoisture reads "20/17.6", a sample before and after drying, as its moisture in %;
// other text is left as it is.
func dryingAsMoisture(text string) string {
	before, after, ok := strings.Cut(text, "/")
	a, okA := measure.ParseNumber(before)
	b, okB := measure.ParseNumber(after)
	m, err := flour.LossOnDrying(a, b)
	if !ok || !okA || !okB || err != nil {
		return text
	}
	return strconv.FormatFloat(100*m, 'f', 2, 64)
}
