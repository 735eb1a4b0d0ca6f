// Package recipe answers: what does a recipe in cups, spoons and eggs weigh, and what will
// it be like at the board?
//
// Volumes and eggs have no one weight, so every line becomes a range of grams: a cup of
// flour by how it was filled, an egg by its class. What is not understood is said, never
// guessed: a line with a Problem counts for nothing, one with a Note was read with care.
package recipe

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"hollen/internal/core/addition"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/rules"
)

// Kind is what a line brings into the bowl.
type Kind string

// The kinds of line.
const (
	Flour   Kind = "flour"
	Egg     Kind = "egg"
	Yolk    Kind = "yolk"
	White   Kind = "white"
	Water   Kind = "water"
	Milk    Kind = "milk"
	Oil     Kind = "oil"
	Salt    Kind = "salt"
	Extra   Kind = "addition" // a purée, a powder, ink, herbs
	Nothing Kind = ""         // brings nothing: a remark, or not understood
)

// Fill is how the cook fills a cup with flour.
type Fill string

// The ways of filling a cup; Unsaid gives the range from spooned to packed.
const (
	Unsaid  Fill = ""
	Spooned Fill = "spooned"
	Dipped  Fill = "dipped"
	Packed  Fill = "packed"
)

// Measures is what a recipe leaves unsaid.
type Measures struct {
	CupML    float64 // 236.6 or 250
	Fill     Fill
	EggClass string // key, "" when not known
	US       bool   // egg sizes named by a word alone are of this region
}

// The cups, mL. Source: legal and customary measures.
const (
	CupUS, CupMetric = 236.6, 250.
)

const (
	ounceG, poundG        = 28.35, 453.6
	spoonML, teaML        = 15., 5.
	oilGPerML, milkGPerML = .90, 1.03 // 13.5 g of oil to a tablespoon
	saltTeaG, pinchG      = 6., .4
	eggSpread             = .07 // either side of a class's mean
	spoonSpread           = .1
)

// Line is one line as it was read. Masses in g.
type Line struct {
	Text      string
	Kind      Kind
	FlourKey  string
	ExtraKey  string  // of the addition
	Low, High float64 // count, for eggs, yolks and whites
	LowG      float64
	HighG     float64
	Read      string // what it was taken for
	Note      string // what was assumed
	Problem   string // why it counts for nothing
}

var (
	fractions = strings.NewReplacer("½", " 1/2", "¼", " 1/4", "¾", " 3/4", "⅓", " 1/3", "⅔", " 2/3", "⅛", " 1/8",
		"⅜", " 3/8", "⅝", " 5/8", "⅞", " 7/8",
		"–", "-", "—", "-", "\u00a0", " ", "\t", " ", "⁄", "/", "×", "x")
	words = map[string]float64{"a": 1, "an": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10,
		"eleven": 11, "twelve": 12, "dozen": 12, "half": .5, "couple": 2}
	digitComma = regexp.MustCompile(`(\d),(\d{3})\b`)
	split      = regexp.MustCompile(`\n|;|,|\s\+\s|\bplus\b|\band\b|&`)
	number     = `\d+(?:\.\d+)?(?:\s+\d+/\d+|/\d+)?`
	amount     = regexp.MustCompile(`^(` + number + `)(?:\s*(?:-|to|or)\s*(` + number + `))?\s*x?\s*`)
	leading    = regexp.MustCompile(`^[\s\-*•·.)\]]+|^\d+[.)]\s+`)
	brackets   = regexp.MustCompile(`\(([^)]*)\)?`)
	tokens     = regexp.MustCompile(`[a-zà-ÿ']+|00|0|\d+`)
)

// units by word. A unit with grams 0 is a volume.
var units = map[string]struct {
	g, ml  float64
	spread float64
	name   string
}{
	"g": {g: 1, name: "g"}, "gr": {g: 1, name: "g"}, "gram": {g: 1, name: "g"}, "grams": {g: 1, name: "g"}, "gramme": {g: 1, name: "g"},
	"grammes": {g: 1, name: "g"},
	"kg":      {g: 1000, name: "kg"}, "kilo": {g: 1000, name: "kg"}, "kilos": {g: 1000, name: "kg"}, "kilogram": {g: 1000, name: "kg"},
	"kilograms": {g: 1000, name: "kg"},
	"oz":        {g: ounceG, name: "oz"}, "ounce": {g: ounceG, name: "oz"}, "ounces": {g: ounceG, name: "oz"},
	"lb": {g: poundG, name: "lb"}, "lbs": {g: poundG, name: "lb"}, "pound": {g: poundG, name: "lb"}, "pounds": {g: poundG, name: "lb"},
	"ml": {ml: 1, name: "mL"}, "millilitre": {ml: 1, name: "mL"}, "millilitres": {ml: 1, name: "mL"}, "cl": {ml: 10, name: "cL"},
	"dl": {ml: 100, name: "dL"}, "l": {ml: 1000, name: "L"}, "litre": {ml: 1000, name: "L"}, "liter": {ml: 1000, name: "L"},
	"cup": {ml: -1, name: "cup"}, "cups": {ml: -1, name: "cup"}, "c": {ml: -1, name: "cup"},
	"tablespoon": {ml: spoonML, spread: spoonSpread, name: "tablespoon"}, "tablespoons": {ml: spoonML, spread: spoonSpread, name: "tablespoon"},
	"tbsp": {ml: spoonML, spread: spoonSpread, name: "tablespoon"}, "tbs": {ml: spoonML, spread: spoonSpread, name: "tablespoon"},
	"tbl":      {ml: spoonML, spread: spoonSpread, name: "tablespoon"},
	"teaspoon": {ml: teaML, spread: spoonSpread, name: "teaspoon"}, "teaspoons": {ml: teaML, spread: spoonSpread, name: "teaspoon"},
	"tsp":   {ml: teaML, spread: spoonSpread, name: "teaspoon"},
	"spoon": {ml: 12.5, spread: .25, name: "spoon"}, "spoons": {ml: 12.5, spread: .25, name: "spoon"}, "spoonful": {ml: 12.5, spread: .25, name: "spoon"},
	"pinch": {ml: -2, name: "pinch"}, "pinches": {ml: -2, name: "pinch"},
}

// flours by the words that name them, the more telling first.
var flours = []struct{ word, key string }{
	{"flatbread", "wholemeal-flatbread"}, {"semola", "semola-fine"}, {"semolina", "semolina-coarse"}, {"durum", "semola-fine"},
	{"spelt", "spelt-white"}, {"emmer", "emmer"}, {"farro", "emmer"}, {"einkorn", "einkorn"}, {"khorasan", "khorasan"},
	{"wholemeal", "wholemeal"}, {"wholewheat", "wholemeal"}, {"whole wheat", "wholemeal"}, {"wholegrain", "wholemeal"}, {"whole grain", "wholemeal"},
	{"rye", "rye-light"}, {"buckwheat", "buckwheat"}, {"chestnut", "chestnut"}, {"chickpea", "chickpea"}, {"sorghum", "sorghum"}, {"millet", "millet"},
	{"rice", "rice"}, {"maize", "maize-fine"}, {"corn", "maize-fine"}, {"strong", "strong"}, {"bread", "strong"}, {"00", "soft-00"}, {"doppio zero", "soft-00"},
	{"all purpose", "plain"}, {"all-purpose", "plain"}, {"allpurpose", "plain"}, {"ap", "plain"}, {"plain", "plain"}, {"soft", "soft-00"}, {"0", "soft-0"},
}

// extras by the words that name them; where a powder is meant it says so.
var extras = []struct{ word, key, powder string }{
	{"spinach", "spinach", "spinach-powder"}, {"beetroot", "beet", "beet-powder"}, {"beet", "beet", "beet-powder"}, {"beets", "beet", "beet-powder"},
	{"pumpkin", "pumpkin", "pumpkin-powder"}, {"squash", "pumpkin", "pumpkin-powder"},
	{"carrot", "carrot", "carrot-powder"}, {"carrots", "carrot", "carrot-powder"}, {"tomato", "tomato-paste", "tomato-powder"},
	{"onion", "onion", "onion-powder"}, {"ink", "ink", "ink"}, {"cocoa", "cocoa", "cocoa"},
	{"mushroom", "mushroom-powder", "mushroom-powder"}, {"porcini", "mushroom-powder", "mushroom-powder"}, {"saffron", "saffron", "saffron"},
	{"herbs", "herbs", "herbs"}, {"basil", "herbs", "herbs"}, {"parsley", "herbs", "herbs"}, {"nettle", "spinach", "spinach-powder"},
	{"nettles", "spinach", "spinach-powder"},
}

// extraGPerML is the bulk density of additions by kind, g/mL. Source: house.
var extraGPerML = map[addition.Kind][2]float64{addition.Puree: {.95, 1.05}, addition.Powder: {.40, .60}, addition.Herb: {.12, .25}, addition.Liquid: {1, 1.1}}

// sizes are the words that name an egg's class.
var sizes = []struct{ word, eu, us string }{
	{"extra large", "eu-xl", "us-xl"}, {"extra-large", "eu-xl", "us-xl"}, {"xl", "eu-xl", "us-xl"}, {"jumbo", "eu-xl", "us-jumbo"},
	{"large", "eu-l", "us-l"}, {"medium", "eu-m", "us-m"}, {"small", "eu-s", "us-m"},
}

// idle are words that may stand beside an ingredient and change nothing.
var idle = map[string]bool{}

func init() {
	for _, w := range strings.Fields("flour flours of the tipo type fine finely ground extra virgin olive sunflower vegetable neutral sea " +
		"table kosher fresh whole beaten lightly cooked squeezed drained chilled pureed puree purée powder powdered paste chopped dried " +
		"unsweetened cuttlefish squid leaves frozen thawed room temperature at cold warm lukewarm free range organic sifted fine milled remilled " +
		"rimacinata di grano duro heaped heaping level scant generous about approximately approx ca roughly good big hen's hens egg eggs yolk " +
		"yolks white whites water milk oil salt in all purpose for dough pasta from with divided") {
		idle[w] = true
	}
	for _, f := range flours {
		for _, w := range strings.FieldsFunc(f.word, func(r rune) bool { return r == ' ' || r == '-' }) {
			idle[w] = true
		}
	}
	for _, x := range extras {
		idle[x.word] = true
	}
	for _, s := range sizes {
		for _, w := range strings.FieldsFunc(s.word, func(r rune) bool { return r == ' ' || r == '-' }) {
			idle[w] = true
		}
	}
}

// maxLines and maxText bound what is read.
const (
	maxLines = 60
	maxText  = 6000 // bytes
)

// Parse reads a recipe, a line or a comma to an ingredient. It never fails: what cannot be
// read is a Line with a Problem.
func Parse(text string, m Measures) []Line {
	var out []Line
	if len(text) > maxText {
		return []Line{{Text: strings.ToValidUTF8(text[:40], "") + "…",
			Problem: fmt.Sprintf("the recipe is longer than %d letters; give the ingredients alone", maxText)}}
	}
	text = digitComma.ReplaceAllString(text, "$1$2")
	for _, part := range split.Split(text, -1) {
		part = strings.TrimSpace(part)
		if part == "" {
			continue
		}
		if len(out) == maxLines {
			return append(out, Line{Text: part, Problem: fmt.Sprintf("only %d ingredients are read", maxLines)})
		}
		out = append(out, m.line(part))
	}
	return out
}

// quantity reads the amount at the start of s, and returns the rest.
func quantity(s string) (lo, hi float64, rest string, ok bool) {
	if m := amount.FindStringSubmatch(s); m != nil {
		lo = value(m[1])
		hi = lo
		if m[2] != "" {
			hi = value(m[2])
		}
		return min(lo, hi), max(lo, hi), s[len(m[0]):], lo > 0 && !math.IsInf(lo, 0) && hi < 1e6
	}
	f := strings.Fields(s)
	n, taken := 1., 0
	for taken < len(f) && taken < 3 {
		w, known := words[f[taken]]
		if !known {
			break
		}
		n *= w
		taken++
	}
	return n, n, strings.Join(f[taken:], " "), taken > 0
}

// value reads "1", "1.5", "1/2" or "1 1/2".
func value(s string) float64 {
	sum := 0.
	for _, f := range strings.Fields(s) {
		a, b, slash := strings.Cut(f, "/")
		n, err := strconv.ParseFloat(a, 64)
		if err != nil {
			return 0
		}
		if slash {
			d, err := strconv.ParseFloat(b, 64)
			if err != nil || d == 0 {
				return 0
			}
			n /= d
		}
		sum += n
	}
	return sum
}

// line reads one ingredient.
func (m Measures) line(text string) Line {
	l := Line{Text: text}
	s := strings.ToLower(fractions.Replace(text))
	s = leading.ReplaceAllString(s, "")
	inside := ""
	if b := brackets.FindStringSubmatch(s); b != nil {
		inside = strings.TrimSpace(b[1])
		s = brackets.ReplaceAllString(s, " ")
	}
	s = strings.Join(strings.Fields(strings.ReplaceAll(s, ":", " ")), " ")
	lo, hi, rest, counted := quantity(s)
	unit, rest, hasUnit := unitOf(rest)
	// A weight in brackets is worth more than a cup before them.
	if bl, bh, brest, ok := quantity(inside); ok {
		if u, _, has := unitOf(brest); has && units[u].g > 0 {
			lo, hi, unit, hasUnit, counted = bl, bh, u, true, true
			l.Note = "The weight in brackets was taken."
		}
	}
	l.kind(rest, m)
	if l.Kind == Nothing {
		switch {
		case !counted && allIdle(s):
			l.Read, l.Note = "a remark", "It changes nothing here."
		case counted:
			l.Problem = "not known here: " + strings.TrimSpace(rest) + ". Flour, eggs, yolks, whites, water, milk, oil, salt, and what colours a dough are."
		default:
			l.Problem = "not understood; begin with an amount, as in “2 cups flour”."
		}
		return l
	}
	if strange := unknown(rest); strange != "" {
		l.say("“" + strange + "” was passed over.")
	}
	if !counted {
		if l.Kind == Salt {
			l.Read, l.Note = "salt to taste", "Counted as none."
			l.Kind = Nothing
			return l
		}
		l.Problem = "no amount stands before it."
		l.Kind = Nothing
		return l
	}
	m.weigh(&l, lo, hi, unit, hasUnit)
	return l
}

func (l *Line) say(note string) { l.Note = strings.TrimSpace(l.Note + " " + note) }

// unitOf reads a unit at the start of s.
func unitOf(s string) (unit, rest string, ok bool) {
	s = strings.TrimSpace(s)
	for _, idleFirst := range []string{"heaped ", "heaping ", "level ", "scant ", "generous ", "good ", "big ", "large ", "small "} {
		if cut, found := strings.CutPrefix(s, idleFirst); found {
			if u, r, has := unitOf(cut); has {
				return u, r, true
			}
		}
	}
	w := tokens.FindString(s)
	if w == "" || !strings.HasPrefix(s, w) {
		return "", s, false
	}
	if _, ok := units[w]; !ok {
		return "", s, false
	}
	return w, strings.TrimLeft(s[len(w):], ". "), true
}

// kind finds what the words of s name.
func (l *Line) kind(s string, m Measures) {
	has := func(w string) bool { return hasWord(s, w) }
	switch {
	case has("yolk") || has("yolks"):
		l.Kind = Yolk
	case has("white") && (has("egg") || has("of egg")) || has("whites"):
		l.Kind = White
	case has("egg") || has("eggs"):
		l.Kind = Egg
	case has("oil"):
		l.Kind = Oil
	case has("salt"):
		l.Kind = Salt
	case has("milk"):
		l.Kind = Milk
	case has("water"):
		l.Kind = Water
	default:
		for _, x := range extras {
			if has(x.word) && !has("flour") {
				l.Kind, l.ExtraKey = Extra, x.key
				if has("powder") || has("powdered") {
					l.ExtraKey = x.powder
				}
				if a, _ := addition.Find(l.ExtraKey); a.Kind == addition.Puree {
					l.say("Taken as it goes in: cooked, squeezed, weighed after.")
				}
				return
			}
		}
		for _, f := range flours {
			if has(f.word) {
				l.Kind, l.FlourKey = Flour, f.key
				if f.word == "spelt" && (has("whole") || has("wholegrain") || has("wholemeal")) {
					l.FlourKey = "spelt-whole"
				}
				break
			}
		}
		if l.Kind == Nothing && (has("flour") || has("flours")) {
			l.Kind, l.FlourKey = Flour, "plain"
			l.say("Which flour is not said: plain was taken.")
		}
	}
}

// hasWord says whether w stands in s as a word of its own.
func hasWord(s, w string) bool {
	letter := func(i int) bool {
		return i >= 0 && i < len(s) && (s[i] >= 'a' && s[i] <= 'z' || s[i] >= '0' && s[i] <= '9')
	}
	for from := 0; ; {
		i := strings.Index(s[from:], w)
		if i < 0 {
			return false
		}
		i += from
		if !letter(i-1) && !letter(i+len(w)) {
			return true
		}
		from = i + 1
	}
}

func allIdle(s string) bool { return unknown(s) == "" }

// unknown returns the words of s that mean nothing here.
func unknown(s string) string {
	var out []string
	for _, w := range tokens.FindAllString(s, -1) {
		if _, n := words[w]; !idle[w] && !n && (w[0] < '0' || w[0] > '9') {
			if _, u := units[w]; !u {
				out = append(out, w)
			}
		}
	}
	return strings.Join(out, " ")
}

// weigh turns an amount into grams.
func (m Measures) weigh(l *Line, lo, hi float64, unit string, hasUnit bool) {
	u := units[unit]
	switch {
	case hasUnit && u.g > 0:
		l.LowG, l.HighG = lo*u.g, hi*u.g
	case l.Kind == Egg || l.Kind == Yolk || l.Kind == White:
		if hasUnit {
			l.Kind, l.Problem = Nothing, "eggs are counted or weighed, not measured in a "+u.name+"."
			return
		}
		m.eggs(l, lo, hi)
	case hasUnit && u.ml == -2:
		if l.Kind == Extra {
			l.LowG, l.HighG = lo*.1, hi*pinchG
			break
		}
		if l.Kind != Salt {
			l.Kind, l.Problem = Nothing, "a pinch of that is not known here."
			return
		}
		l.LowG, l.HighG = lo*pinchG, hi*pinchG
	case hasUnit:
		ml := u.ml
		if ml == -1 {
			ml = m.CupML
		}
		a, b := m.density(l)
		l.LowG, l.HighG = lo*ml*a*(1-u.spread), hi*ml*b*(1+u.spread)
		if u.name == "spoon" {
			l.say("Which spoon is not said: 10 to 15 mL.")
		}
	default:
		l.Kind, l.Problem = Nothing, "no measure stands with the amount: grams, cups, spoons, ounces?"
		return
	}
	l.Read = l.words(m)
}

// density returns g/mL of what l measures, as a range.
func (m Measures) density(l *Line) (lo, hi float64) {
	switch l.Kind {
	case Flour:
		f, _ := flour.Find(l.FlourKey)
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
		a, _ := addition.Find(l.ExtraKey)
		d := extraGPerML[a.Kind]
		return d[0], d[1]
	}
	return 1, 1
}

// eggs weighs counted eggs, yolks or whites by their class, or over all classes when it is
// not known.
func (m Measures) eggs(l *Line, lo, hi float64) {
	l.Low, l.High = lo, hi
	key, text := m.EggClass, strings.ToLower(l.Text)
	for _, s := range sizes {
		if strings.Contains(text, s.word) {
			key = s.eu
			if m.US {
				key = s.us
			}
			break
		}
	}
	if l.Kind == White {
		l.say("It goes in as egg white.")
	}
	of := func(c egg.Class) float64 {
		switch l.Kind {
		case Yolk:
			return c.YolkG
		case White:
			return c.EdibleG - c.YolkG
		}
		return c.EdibleG
	}
	if c, ok := egg.Find(key); ok {
		l.LowG, l.HighG = lo*of(c)*(1-eggSpread), hi*of(c)*(1+eggSpread)
		l.say(c.Name + ".")
		return
	}
	small, big := "eu-s", "eu-xl"
	if m.US {
		small, big = "us-m", "us-jumbo"
	}
	a, _ := egg.Find(small)
	b, _ := egg.Find(big)
	l.LowG, l.HighG = lo*of(a), hi*of(b)
	l.say("Which size is not said: small to extra large.")
}

func (l *Line) words(m Measures) string {
	switch l.Kind {
	case Flour:
		f, _ := flour.Find(l.FlourKey)
		return f.Name
	case Egg:
		return "whole egg"
	case White:
		return "egg white"
	case Extra:
		a, _ := addition.Find(l.ExtraKey)
		return a.Name
	}
	return string(l.Kind)
}

// Sum is a recipe in grams. Low and High bound the working hydration: the most flour with
// the least liquid, and the other way round.
type Sum struct {
	Flours                  []Part
	FlourLowG, FlourHighG   float64
	EggLowG, EggHighG       float64
	OilG, SaltG             float64 // middle
	Wholes, Yolks           float64 // middle count
	WholeG, YolkG, WaterG   float64 // middle mass
	MilkG, WhiteG           float64 // middle mass
	Extras                  []Part  // additions
	LowHw, HighHw, MiddleHw float64 // points; 0 without flour
}

// Part is one flour or addition, middle mass in g.
type Part struct {
	Key  string
	G    float64
	LowG float64
	High float64
}

// Add adds lines up. Flour is taken as milled.
func Add(r rules.Rules, lines []Line) Sum {
	var s Sum
	for _, l := range lines {
		if l.Kind == Nothing {
			continue
		}
		mid := (l.LowG + l.HighG) / 2
		switch l.Kind {
		case Flour:
			s.FlourLowG, s.FlourHighG = s.FlourLowG+l.LowG, s.FlourHighG+l.HighG
			at := -1
			for i := range s.Flours {
				if s.Flours[i].Key == l.FlourKey {
					at = i
				}
			}
			if at < 0 {
				s.Flours, at = append(s.Flours, Part{Key: l.FlourKey}), len(s.Flours)
			}
			s.Flours[at].G += mid
			s.Flours[at].LowG += l.LowG
			s.Flours[at].High += l.HighG
		case Egg, Yolk, White:
			s.EggLowG, s.EggHighG = s.EggLowG+l.LowG, s.EggHighG+l.HighG
			n := (l.Low + l.High) / 2
			switch l.Kind {
			case Egg:
				s.Wholes, s.WholeG = s.Wholes+n, s.WholeG+mid
			case Yolk:
				s.Yolks, s.YolkG = s.Yolks+n, s.YolkG+mid
			case White:
				s.WhiteG += mid
			}
		case Extra:
			s.Extras = append(s.Extras, Part{l.ExtraKey, mid, l.LowG, l.HighG})
		case Water:
			s.WaterG += mid
		case Milk:
			s.MilkG += mid
		case Oil:
			s.OilG += mid
		case Salt:
			s.SaltG += mid
		}
	}
	if s.FlourLowG > 0 {
		s.LowHw = hydration(r, lines, func(l Line) float64 { return l.LowG }, func(l Line) float64 { return l.HighG })
		s.HighHw = hydration(r, lines, func(l Line) float64 { return l.HighG }, func(l Line) float64 { return l.LowG })
		mid := func(l Line) float64 { return (l.LowG + l.HighG) / 2 }
		s.MiddleHw = hydration(r, lines, mid, mid)
	}
	return s
}

// hydration is the working hydration with liquids and flour each at one end of its range.
func hydration(r rules.Rules, lines []Line, liquid, dry func(Line) float64) float64 {
	comp := map[Kind]egg.Composition{Egg: egg.Whole, Yolk: egg.Yolk, White: egg.White, Water: egg.Water, Milk: egg.Milk, Oil: egg.Oil}
	var f, worth float64
	for _, l := range lines {
		if l.Kind == Flour {
			f += dry(l)
		}
		c, uptake := comp[l.Kind], 0.
		if l.Kind == Extra {
			a, _ := addition.Find(l.ExtraKey)
			c, uptake = a.Composition(), a.UptakeGPerG
		}
		g := liquid(l)
		if uptake > c.Water { // what drinks makes the dough driest where there is most of it
			g = dry(l)
		}
		worth += g * (c.Water - uptake + r.Hydration.FatWeight*c.Fat)
	}
	f14 := f * (1 - r.Flour.MilledMoistureWB) / (1 - r.Flour.BasisMoistureWB)
	return 100 * (worth + f - f14) / f14
}
