// Package recipetext answers: what does a recipe in cups, spoons and eggs weigh, and what will
// it be like at the board?
//
// Volumes and eggs have no one weight, so every line becomes a range of grams: a cup of
// flour by how it was filled, an egg by its class. What is not understood is said, never
// guessed: a line with a Problem counts for nothing, one with a Note was read with care.
package recipetext

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

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
	// CupG is what a cup of the flour weighs here, by the scale, and CupWithin how far it may be off, share; 0: not
	// known.
	CupG, CupWithin float64
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
	Portions  float64 // it is said to serve, 0: nothing is said
	EggClass  string  // key of the eggs’ class, as written or said; "" where nobody says it
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
	digitComma = regexp.MustCompile(`(\d),(\d{3})\b`)
	split      = regexp.MustCompile(`\n|;|,|\s\+\s|\bplus\b|\band\b|&|\s(?:und|et|aur|e)\s`)
	number     = `\d+(?:\.\d+)?(?:\s+\d+/\d+|/\d+)?`
	amount     = regexp.MustCompile(`^(` + number + `)(?:\s*(?:-|to|or)\s*(` + number + `))?(?:\s*x\b)?\s*`)
	leading    = regexp.MustCompile(`^[\s\-*•·.)\]]+|^\d+[.)]\s+`)
	brackets   = regexp.MustCompile(`\(([^)]*)\)?`)
	tokens     = regexp.MustCompile(`[\p{L}\p{M}'’]+|00|0|\d+`)
	roughly    = regexp.MustCompile(`^(?:about|approximately|approx\.?|ca\.?|circa|roughly|around|or|or about|etwa|environ|~|=)\s*`)
	besides    = regexp.MustCompile(`\s*/\s*(\d+(?:\.\d+)?)\s*(g|gr|grams|kg)\b`) // "1 cup / 125 g flour"
)

// maxLines and maxText bound what is read.
const (
	maxLines = 60
	maxText  = 6000 // bytes
)

// Parse reads a recipe, a line or a comma to an ingredient. It never fails: what cannot be
// read is a Line with a Problem.
func Parse(text string, m Measures) (all []Line) {
	var out []Line
	if len(text) > maxText {
		return []Line{{Text: strings.ToValidUTF8(text[:40], "") + "…",
			Problem: fmt.Sprintf("the recipe is longer than %d letters; give the ingredients alone", maxText)}}
	}
	text = digitComma.ReplaceAllString(text, "$1$2")
	if title := Title(text); title != "" {
		_, text, _ = strings.Cut(strings.TrimSpace(text), "\n")
		out = append(out, Line{Text: title, Read: "its name", Note: "The batch is called so."})
	}
	text, serves, method := apart(text)
	if serves.Portions > 0 {
		out = append(out, serves)
	}
	defer func() {
		if method {
			all = append(
				all,
				Line{
					Text: "The method",
					Read: "not read: the method",
					Note: "What is done with it is on the stations of the batch.",
				},
			)
		}
	}()
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

// maxTitle is the longest a recipe's name is kept, letters.
const maxTitle = 80

// Title returns the name a recipe begins with: a first line that holds no amount, and no ingredient after
// one; "" where there is none.
func Title(text string) string {
	first, rest, more := strings.Cut(strings.TrimSpace(text), "\n")
	first = strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(first), ":"))
	if !more || strings.TrimSpace(rest) == "" || first == "" || strings.ContainsAny(first, "0123456789½¼¾⅓⅔,;") ||
		utf8.RuneCountInString(first) > maxTitle {
		return ""
	}
	low := phrases.Replace(strings.ToLower(first))
	if _, _, after, counted := quantity(low); counted {
		if _, _, unit := unitOf(after); unit {
			return ""
		}
		var l Line
		if l.kind(after, Measures{}); l.Kind != Nothing {
			return ""
		}
	}
	if words := strings.Fields(low); len(words) == 1 {
		var l Line
		if l.kind(low, Measures{}); l.Kind != Nothing {
			return "" // "flour", without an amount
		}
	}
	for _, heading := range []string{"ingredients", "for the dough", "for the pasta", "dough", "zutaten", "ingredienti",
		"ingrédients", "mix well"} {
		if low == heading {
			return ""
		}
	}
	return first
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
		w, known := numbers[f[taken]]
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
	s := phrases.Replace(strings.ToLower(strings.ReplaceAll(fractions.Replace(text), "’", "'")))
	s = leading.ReplaceAllString(s, "")
	inside := ""
	if b := brackets.FindStringSubmatch(s); b != nil {
		inside = roughly.ReplaceAllString(strings.TrimSpace(b[1]), "")
		s = brackets.ReplaceAllString(s, " ")
	} else if b := besides.FindStringSubmatch(s); b != nil {
		inside = b[1] + " " + b[2]
		s = besides.ReplaceAllString(s, "")
	}
	s = strings.Join(strings.Fields(strings.ReplaceAll(s, ":", " ")), " ")
	lo, hi, rest, counted := quantity(s)
	unit, rest, hasUnit := unitOf(rest)
	// A weight in brackets is worth more than a cup before them.
	if bl, bh, brest, ok := quantity(inside); ok {
		if u, after, has := unitOf(brest); has && units[u].g > 0 {
			if hasWord(after, "each") {
				bl, bh = bl*lo, bh*hi
			}
			lo = bl
			hi = bh
			unit = u
			hasUnit = true
			counted = true
			l.Note = "The weight in brackets was taken."
		}
	}
	l.kind(rest, m)
	if l.Kind == Nothing {
		switch {
		case !counted && allIdle(s):
			l.Read, l.Note = "a remark", "It changes nothing here."
		case counted:
			l.Problem = "not known here: " + strings.TrimPrefix(strings.TrimSpace(rest), "of ") +
				". Flour, eggs, yolks, whites, water, milk, oil, salt, and what colours a dough are."
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
	if hasUnit && units[unit].ml > 0 || hasUnit && units[unit].ml == cupful {
		if (l.Kind == Flour || l.Kind == Salt || l.Kind == Extra) && hasAny(s, heaped) {
			l.LowG, l.HighG = l.LowG*heapedLow, l.HighG*heapedHigh
			l.say("Heaped: a little to much more than level.")
		}
	}
	return l
}

// A heaped measure holds so many times a level one. Source: house.
const heapedLow, heapedHigh = 1.15, 1.6

var heaped = []string{
	"heaped",
	"heaping",
	"rounded",
	"gehäuft",
	"gehäufte",
	"gehäufter",
	"colmo",
	"colmi",
	"bombé",
	"bombée",
}

var (
	servesLine = regexp.MustCompile(
		`^(?:serves|serving|servings|makes|yields|feeds|portions|per|für|pour|dosi per)\s*:?\s*(?:about\s+)?(` +
			number + `|\p{L}+)(?:\s*(?:-|to|or)\s*(` + number +
			`))?\s*(?:people|persons|portions|servings|persone|personen|personnes)?\.?$`,
	)
	peopleLine = regexp.MustCompile(
		`^(?:for\s+)?(` + number + `|\p{L}+)(?:\s*(?:-|to|or)\s*(` + number +
			`))?\s*(?:people|persons|portions|servings|persone|personen|personnes)\.?$`,
	)
	stepNumber = regexp.MustCompile(`^(?:step\s*)?\d+\s*[.):]\s+\p{L}`)
	methodHead = regexp.MustCompile(
		`^(?:the\s+)?(?:method|directions|instructions|preparation|procedure|how to|procedimento|preparazione|zubereitung|préparation|steps)\b[\s:.]*$`,
	)
)

// verbs are what method lines are told by.
var verbs = []string{
	"mix",
	"knead",
	"rest",
	"roll",
	"cut",
	"cook",
	"boil",
	"make",
	"crack",
	"beat",
	"wrap",
	"combine",
	"form",
	"bring",
	"let",
	"serve",
	"dust",
	"fold",
	"work",
	"cover",
	"add",
	"place",
	"pour",
	"put",
	"divide",
	"feed",
	"run",
	"stir",
	"whisk",
	"chill",
	"set",
	"turn",
	"flatten",
	"drain",
	"toss",
	"mound",
	"sift",
	"pulse",
	"blend",
}

// apart takes what a recipe says besides its ingredients out of its text: whom it serves, and how it is made.
func apart(text string) (left string, serves Line, method bool) {
	var kept []string
	under := false // a heading that says that the method follows
	for _, line := range strings.Split(text, "\n") {
		low := strings.ToLower(strings.TrimSpace(fractions.Replace(line)))
		m := servesLine.FindStringSubmatch(low)
		if m == nil {
			m = peopleLine.FindStringSubmatch(low)
		}
		if m != nil {
			lo, hi := numberOf(m[1]), numberOf(m[2])
			if lo > 0 && lo <= 1000 {
				serves = Line{
					Text:     strings.TrimSpace(line),
					Portions: (lo + max(lo, hi)) / 2,
					Read:     "portions",
					Note:     "It is divided into so many.",
				}
				continue
			}
		}
		if under = under || methodHead.MatchString(low); under || tellsHow(low) {
			method = method || low != ""
			continue
		}
		kept = append(kept, line)
	}
	return strings.Join(kept, "\n"), serves, method
}

// numberOf is a number in figures or words, 0 for none.
func numberOf(s string) float64 {
	if v := value(s); v > 0 {
		return v
	}
	return numbers[s]
}

// tellsHow says whether a line tells how something is done: a numbered step, or a sentence of some length that begins
// with what to do.
func tellsHow(low string) bool {
	words := strings.Fields(low)
	if len(words) < 4 {
		return false
	}
	step := stepNumber.MatchString(low)
	if step {
		words = words[1:]
	}
	first := strings.Trim(words[0], ".,:;")
	verb := slices.Contains(verbs, first)
	for _, w := range words[:min(3, len(words))] { // "On a board, make a well …"
		verb = verb || len(words) > 6 && slices.Contains(verbs, strings.Trim(w, ".,:;"))
	}
	if !verb {
		return false
	}
	_, _, _, counted := quantity(low)
	return step || !counted
}

func (l *Line) say(note string) { l.Note = strings.TrimSpace(l.Note + " " + note) }

// unitOf reads a unit at the start of s.
func unitOf(s string) (unit, rest string, ok bool) {
	s = strings.TrimSpace(s)
	for _, idleFirst := range []string{"heaped ", "heaping ", "level ", "scant ", "generous ", "good ", "big ",
		"large ", "small "} {
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
	key, word := find(flours, s)
	for _, k := range kinds {
		if hasAny(s, k.words) && !(key != "" && k.kind != Yolk && hasAny(s, justFlour)) {
			l.Kind = k.kind
			return
		}
	}
	for _, x := range extras {
		if hasAny(s, x.words) && !hasAny(s, justFlour) {
			l.Kind, l.ExtraKey = Extra, x.key
			if hasAny(s, powders) {
				l.ExtraKey = x.powder
			}
			if a, _ := addition.Find(l.ExtraKey); a.Kind == addition.Puree {
				l.say("Taken as it goes in: cooked, squeezed, weighed after.")
			}
			return
		}
	}
	switch {
	case key != "":
		l.Kind, l.FlourKey = Flour, key
		if key == "spelt-white" && hasAny(s, []string{"whole", "wholegrain", "wholemeal", "integrale", "vollkorn",
			"complet", "complète"}) {
			l.FlourKey = "spelt-whole"
		}
		if key == "semolina-coarse" && word == "semolina" && hasAny(s, []string{"fine", "finely"}) {
			l.FlourKey = "semola-fine"
		}
	case hasAny(s, justFlour):
		l.Kind, l.FlourKey = Flour, "plain"
		l.say("Which flour is not said: plain was taken.")
	}
}

func allIdle(s string) bool { return unknown(s) == "" }

// unknown returns the words of s that mean nothing here.
func unknown(s string) string {
	var out []string
	for _, w := range tokens.FindAllString(s, -1) {
		w = strings.Trim(strings.ReplaceAll(w, "’", "'"), "'")
		w = strings.TrimPrefix(strings.TrimPrefix(w, "d'"), "l'")
		if _, n := numbers[w]; w != "" && !idle[w] && !n && (w[0] < '0' || w[0] > '9') {
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
	case hasUnit && u.high > 0:
		l.LowG, l.HighG = lo*u.lowG, hi*u.high
		l.say("A " + u.name + " is a guess: weigh it once.")
	case hasUnit && (u.ml == pinchful || u.ml == dashful || u.ml == fistful):
		a, b := littles(l.of(), u.ml)
		if b == 0 {
			l.Kind, l.Problem = Nothing, "a "+u.name+" of that is not known here."
			return
		}
		l.LowG, l.HighG = lo*a, hi*b
	case hasUnit:
		l.LowG, l.HighG = m.volume(l.of(), u, lo, hi)
		if u.name == "spoon" {
			l.say("Which spoon is not said: 10 to 15 mL.")
		}
	default:
		l.Kind, l.Problem = Nothing, "no measure stands with the amount: grams, cups, spoons, ounces?"
		return
	}
	l.Read = l.words(m)
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
		l.EggClass = key
		l.LowG, l.HighG = lo*of(c)*(1-eggSpread), hi*of(c)*(1+eggSpread)
		l.say(c.Name + ".")
		return
	}
	small := "eu-s"
	big := "eu-xl"
	between := "small to extra large"
	if m.US {
		small = "us-m"
		big = "us-jumbo"
		between = "medium to jumbo"
	}
	a, _ := egg.Find(small)
	b, _ := egg.Find(big)
	l.LowG, l.HighG = lo*of(a), hi*of(b)
	l.say("Which size is not said: " + between + ".")
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
	Portions                float64 // it is said to serve, 0: not said
	Wholes, Yolks           float64 // middle count
	EggClass                string  // of most of them, "" where nobody says it
	Others                  []Eggs  // whole eggs of another class, middle count; among the wholes, too
	WholeG, YolkG, WaterG   float64 // middle mass
	MilkG, WhiteG           float64 // middle mass
	Extras                  []Part  // additions
	LowHw, HighHw, MiddleHw float64 // points; 0 without flour
}

// Eggs are so many whole eggs of a class.
type Eggs struct {
	Class string
	N     float64
}

// classed sorts whole eggs by their class, those of most first.
func (s *Sum) classed(lines []Line) {
	var of []Eggs
	for _, l := range lines {
		if l.Kind != Egg && l.Kind != Yolk || l.EggClass == "" {
			continue
		}
		i := slices.IndexFunc(of, func(e Eggs) bool { return e.Class == l.EggClass })
		if i < 0 {
			of, i = append(of, Eggs{Class: l.EggClass}), len(of)
		}
		if l.Kind == Egg {
			of[i].N += (l.Low + l.High) / 2
		}
	}
	slices.SortStableFunc(of, func(a, b Eggs) int { return cmp.Compare(b.N, a.N) })
	if len(of) > 0 {
		s.EggClass, s.Others = of[0].Class, slices.DeleteFunc(of[1:], func(e Eggs) bool { return e.N == 0 })
	}
}

// Part is one flour or addition, middle mass in g.
type Part struct {
	Key  string
	G    float64
	LowG float64
	High float64
}

// Add adds lines up. Flour is taken as milled, where the eggs are sold.
func Add(r rules.Rules, us bool, lines []Line) Sum {
	milled := r.Flour.MilledMoistureWB
	if us {
		milled = r.Flour.MilledUSMoistureWB
	}
	var s Sum
	for _, l := range lines {
		s.Portions = max(s.Portions, l.Portions)
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
	s.classed(lines)
	if s.FlourLowG > 0 {
		s.LowHw = hydration(r, milled, lines, func(l Line) float64 { return l.LowG },
			func(l Line) float64 { return l.HighG })
		s.HighHw = hydration(r, milled, lines, func(l Line) float64 { return l.HighG },
			func(l Line) float64 { return l.LowG })
		mid := func(l Line) float64 { return (l.LowG + l.HighG) / 2 }
		s.MiddleHw = hydration(r, milled, lines, mid, mid)
	}
	return s
}

// hydration is the working hydration with liquids and flour each at one end of its range.
func hydration(r rules.Rules, milled float64, lines []Line, liquid, dry func(Line) float64) float64 {
	comp := map[Kind]egg.Composition{Egg: egg.Whole, Yolk: egg.Yolk, White: egg.White, Water: egg.Water, Milk: egg.Milk,
		Oil: egg.Oil}
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
	f14 := f * (1 - milled) / (1 - r.Flour.BasisMoistureWB)
	return 100 * (worth + f - f14) / f14
}
