package recipetext

import (
	"regexp"
	"slices"
	"strings"

	"hollen/internal/core/addition"
	"hollen/internal/core/flour"
)

// Stuff is what an amount is of; a flour or an addition says how densely it lies.
type Stuff struct {
	Kind     Kind
	Flour    flour.Flour
	Addition addition.Addition
}

// of is what a line measures.
func (l *Line) of() Stuff {
	s := Stuff{Kind: l.Kind}
	s.Flour, _ = flour.Find(l.FlourKey)
	s.Addition, _ = addition.Find(l.ExtraKey)
	return s
}

var decimalComma = regexp.MustCompile(`(\d),(\d{1,2})\b`)

// orTwo is "a pinch or two": from one of a measure to two.
var orTwo = regexp.MustCompile(`^(?:an?|one)\s+(\p{L}+)\s+or\s+(?:two|2)\b`)

// filled is how full a measure is by the word before it, times a level one: from, to. Source: house.
var filled = map[string][2]float64{"heaped": {heapedLow, heapedHigh}, "heaping": {heapedLow, heapedHigh},
	"rounded": {1.1, heapedLow}, "generous": {1.05, 1.25}, "good": {1.05, 1.25}, "scant": {.8, .95}, "level": {1, 1}}

// howFull takes the word for how full a measure is out of an amount; what is poured does not heap.
func howFull(s string, of Stuff) (rest string, from, to float64) {
	words := strings.Fields(s)
	for i, w := range words {
		by, ok := filled[w]
		if !ok {
			continue
		}
		rest = strings.Join(slices.Delete(words, i, i+1), " ")
		if poured := of.Kind == Oil || of.Kind == Water || of.Kind == Milk; poured && by[0] >= 1.1 {
			by = [2]float64{1, 1}
		}
		return rest, by[0], by[1]
	}
	return s, 1, 1
}

// fills are the words for how a cup was filled.
var fills = map[string]Fill{"spooned": Spooned, "dipped": Dipped, "packed": Packed}

// Weigh reads an amount alone, as "2 tbsp", "half a cup", "a pinch", "1 cup dipped" or "12 oz", of what it
// is of as grams; false for what is no amount, or no measure for that.
func Weigh(text string, of Stuff, m Measures) (lowG, highG float64, ok bool) {
	s := phrases.Replace(strings.ToLower(strings.ReplaceAll(fractions.Replace(text), "’", "'")))
	s = decimalComma.ReplaceAllString(digitComma.ReplaceAllString(s, "$1$2"), "$1.$2")
	s = roughly.ReplaceAllString(strings.Join(strings.Fields(s), " "), "")
	s = orTwo.ReplaceAllString(s, "1-2 $1")
	s, from, to := howFull(s, of)
	defer func() { lowG, highG = lowG*from, highG*to }()
	lo, hi, rest, counted := quantity(s)
	if !counted { // "pinch" is one
		lo = 1
		hi = 1
		rest = s
	}
	unit, rest, known := unitOf(rest)
	if !known {
		return 0, 0, false
	}
	words := strings.Fields(rest)
	for _, w := range words {
		if fill, how := fills[w]; how {
			m.Fill = fill
		} else if !slices.Contains([]string{"of", "in", "a", "an"}, w) {
			return 0, 0, false
		}
	}
	u := units[unit]
	switch {
	case u.g > 0:
		lowG, highG = lo*u.g, hi*u.g
	case u.high > 0:
		lowG, highG = lo*u.lowG, hi*u.high
	case u.ml == pinchful || u.ml == dashful || u.ml == fistful:
		a, b := littles(of, u.ml)
		lowG, highG = lo*a, hi*b
	default:
		lowG, highG = m.volume(of, u, lo, hi)
	}
	return lowG, highG, highG > 0
}

// Cups reads how many cups an amount is, as "2 cups" or "half a cup"; false for any other measure, and a range of them.
func Cups(text string) (n float64, ok bool) {
	s := phrases.Replace(strings.ToLower(strings.ReplaceAll(fractions.Replace(text), "’", "'")))
	s = decimalComma.ReplaceAllString(digitComma.ReplaceAllString(s, "$1$2"), "$1.$2")
	lo, hi, rest, counted := quantity(strings.Join(strings.Fields(s), " "))
	if !counted {
		lo = 1
		hi = 1
		rest = s
	}
	unit, _, known := unitOf(rest)
	return lo, known && lo == hi && lo > 0 && units[unit].ml == cupful
}

// volume weighs so many of a measure of volume, g.
func (m Measures) volume(of Stuff, u unit, lo, hi float64) (lowG, highG float64) {
	ml := u.ml
	if ml == cupful && of.Kind == Flour && m.CupG > 0 && m.Fill == Unsaid {
		return lo * m.CupG * (1 - m.CupWithin), hi * m.CupG * (1 + m.CupWithin)
	}
	if ml == cupful {
		ml = m.CupML
	}
	a, b := m.density(of)
	return lo * ml * a * (1 - u.spread), hi * ml * b * (1 + u.spread)
}

// littles returns what a pinch, a dash or a handful of something weighs, g; 0 where nobody would measure it
// so. Source: house.
func littles(of Stuff, measure float64) (lo, hi float64) {
	switch {
	case of.Kind == Salt && measure == pinchful:
		return pinchG, pinchG
	case of.Kind == Salt && measure == dashful:
		return pinchG, .8
	case measure == pinchful && of.Kind == Extra:
		return .1, pinchG
	case measure == dashful && (of.Kind == Oil || of.Kind == Water || of.Kind == Milk || of.Kind == Extra):
		return 1, 5
	case measure == fistful && of.Kind == Flour:
		return 35, 60
	case measure == fistful && of.Kind == Extra:
		if of.Addition.Kind == addition.Herb {
			return 5, 15
		}
		return 20, 60
	}
	return 0, 0
}

// density returns how densely something lies, g/mL, as a range. A flour of which that is not known lies as
// plain flour does.
func (m Measures) density(of Stuff) (lo, hi float64) {
	switch of.Kind {
	case Flour:
		f := of.Flour
		if f.PackedGPerML == 0 {
			f, _ = flour.Find("plain")
		}
		switch m.Fill {
		case Spooned:
			return f.SpoonedGPerML, f.SpoonedGPerML
		case Dipped:
			return f.DippedGPerML, f.DippedGPerML
		case Packed:
			return f.PackedGPerML, f.PackedGPerML
		}
		return f.SpoonedGPerML, f.PackedGPerML
	case Oil:
		return oilGPerML, oilGPerML
	case Milk:
		return milkGPerML, milkGPerML
	case Salt:
		return saltTeaG / teaML, saltTeaG / teaML
	case Extra:
		d := extraGPerML[of.Addition.Kind]
		return d[0], d[1]
	}
	return 1, 1
}
