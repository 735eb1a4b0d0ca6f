// Package order answers: what was ordered, how much of it, for whom and for when, as it was said; and how much of a
// recipe does that come to?
//
//	need, g as sold = portions · g of a portion + g + pieces · g of a piece; before drying ÷ (1 − what drying takes)
//
// Nothing is guessed from a number alone: what cannot be read is asked back.
package order

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
)

// Unit is what an amount is said in.
type Unit string

// The units of an order.
const (
	Portions Unit = ""
	Grams    Unit = "g"
	Pieces   Unit = "pieces"
	Boxes    Unit = "boxes" // of a recipe that says what a box holds
)

// Amount is how much is ordered, as it was said.
type Amount struct {
	N    float64 `json:"n"`
	Unit Unit    `json:"unit,omitempty"`
}

// The most of each unit, and the least, that one order may ask for.
const (
	MostPortions = 2000
	leastG       = 20
	mostG        = 100000
	mostPieces   = 20000
	mostBoxes    = 500
)

// words are how units are said.
var unitWords = map[string]Unit{"portion": Portions, "portions": Portions, "serving": Portions, "servings": Portions,
	"port": Portions, "porz": Portions, "porzioni": Portions, "porzione": Portions, "portionen": Portions,
	"raciones": Portions, "racion": Portions,
	"ración": Portions, "pièce": Pieces, "pièces": Pieces, "pieza": Pieces, "piezas": Pieces, "pezzo": Pieces,
	"piece": Pieces, "pz": Pieces, "stk": Pieces, "stck": Pieces, "pces": Pieces, "pzas": Pieces, "pieces": Pieces,
	"pcs": Pieces, "pc": Pieces,
	"pezzi": Pieces, "stuck": Pieces, "stück": Pieces, "box": Boxes, "boxes": Boxes}

// elsewhere are words that measure, but nobody here can say what.
var elsewhere = regexp.MustCompile(`(?i)^(?:trays?|nests?|bags?|packs?|packets?|litres?|liters?|l|crates?|cases?|` +
	`tubs?|` +
	`handfuls?|sheets?|bowls?|plates?|kisten?|schalen?|bleche?|vassoi[oi]?|teglie?|nidi?|plateaux?|barquettes?|` +
	`caisses?|` +
	`bandejas?|cajas?|bolsas?)\b`)

var figure = regexp.MustCompile(`(?i)^([0-9]+ dozen|(?:a|two|three|half a) dozen|[0-9]+ ?[½¼¾]|` +
	`(?:[0-9]+ )?[13]/[24]|[0-9]+(?:[.,’' ][0-9]+)*|½|¼|¾|half a|a half|` +
	`ein halbes|mezzo|medio|(?:` + strings.Join(numberWords(), "|") + `)\b)\s*(?:x |× ?)?\s*(.*)$`)

// spokenNumbers are small numbers as people say them, from one on, in the languages orders come in.
var spokenNumbers = []string{"a an one un una uno une ein eine einen", "two due zwei deux dos",
	"three tre drei trois tres",
	"four quattro vier quatre cuatro", "five cinque fünf cinq cinco", "six sei sechs seis",
	"seven sette sieben sept siete",
	"eight otto acht huit ocho", "nine nove neun neuf nueve", "ten dieci zehn dix diez", "eleven undici elf onze once",
	"twelve dodici zwölf douze doce"}

func numberWords() (out []string) {
	for _, words := range spokenNumbers {
		out = append(out, strings.Fields(words)...)
	}
	slices.SortFunc(out, func(a, b string) int { return len(b) - len(a) }) // the longest that fits
	return out
}

var inWords = func() map[string]float64 {
	m := map[string]float64{"half a": .5, "a half": .5, "ein halbes": .5, "mezzo": .5,
		"medio": .5, "a dozen": 12, "two dozen": 24, "three dozen": 36, "half a dozen": 6}
	for i, words := range spokenNumbers {
		for _, w := range strings.Fields(words) {
			m[w] = float64(i + 1)
		}
	}
	return m
}()

var broken = regexp.MustCompile(`^([0-9]+)? ?(½|¼|¾|1/2|1/4|3/4)$`)

// fraction reads a half or quarters, after a whole number or by themselves: ½, 1/2, 1 ½.
func fraction(text string) (float64, bool) {
	m := broken.FindStringSubmatch(text)
	if m == nil {
		return 0, false
	}
	n, _ := strconv.ParseFloat("0"+m[1], 64)
	return n + map[string]float64{"½": .5, "1/2": .5, "¼": .25, "1/4": .25, "¾": .75, "3/4": .75}[m[2]], true
}

// mass is a unit of mass at the beginning of a text.
var mass = regexp.MustCompile(`(?i)^(kg|kilos?|kilogram(?:me?|m)?s?|kilogramos?|chil[oi]|chilogramm[oi]|` +
	`grams?|gramm(?:es?|[oi])?|gramos?|gr|g|ett[oi]|pfund|lbs?|pounds?|oz|ounces?)\b\.?\s*(.*)$`)

// massNames are how units of mass are called elsewhere, and how many g they are.
var massNames = []struct {
	begins string
	g      float64
}{{"chil", 1000}, {"kilo", 1000}, {"ett", 100}, {"pfund", 500}, {"gr", 1}}

// inGrams is how many of a unit of mass weigh, g.
func inGrams(n float64, unit string) (g float64, ok bool) {
	for _, m := range massNames {
		if strings.HasPrefix(unit, m.begins) {
			return n * m.g, true
		}
	}
	return measure.ParseMass(strconv.FormatFloat(n, 'f', -1, 64) + " " + unit)
}

var poundsAnd = regexp.MustCompile(`(?i)^([0-9.,]+ ?(?:lbs?|pounds?) [0-9.,]+ ?(?:oz|ounces?))\b\.?\s*(.+)$`)

// readFigure reads how much a text begins with, and returns what comes after it; ask is what to ask where it measures
// by something unknown.
func readFigure(text string) (a Amount, rest, ask string, ok bool) {
	text = strings.Join(strings.Fields(text), " ")
	at := figure.FindStringSubmatchIndex(text)
	if at == nil {
		return a, text, "", false
	}
	said := strings.ToLower(text[at[2]:at[3]])
	rest = strings.TrimSpace(text[at[4]:at[5]])
	dozen := false
	if n, is := fraction(said); is {
		a.N = n
	} else if n, is := inWords[said]; is {
		a.N, dozen = n, strings.HasSuffix(said, "dozen")
	} else {
		number := said
		if before, is := strings.CutSuffix(number, " dozen"); is {
			number, dozen = before, true
		}
		n, read := measure.ParseNumber(number)
		if !read {
			return a, text, "", false
		}
		if a.N = n; dozen {
			a.N = 12 * n
		}
	}
	if dozen {
		a.Unit = Pieces
	}
	if m := poundsAnd.FindStringSubmatch(text); m != nil && !dozen { // 1 lb 2 oz of it
		if g, read := measure.ParseMass(strings.ToLower(m[1])); read {
			return Amount{math.Round(g*100) / 100, Grams}, of(m[2]), "", true
		}
	}
	if w := mass.FindStringSubmatch(rest); w != nil && !dozen {
		g, read := inGrams(a.N, strings.ToLower(w[1]))
		if !read {
			return a, text, "", false
		}
		return Amount{math.Round(g*100) / 100, Grams}, of(w[2]), "", true
	}
	first, after, _ := strings.Cut(rest, " ")
	if unit, is := unitWords[strings.ToLower(strings.TrimRight(first, ".,"))]; is {
		return Amount{a.N, unit}, of(after), "", true
	}
	if word := elsewhere.FindString(rest); word != "" {
		return a, rest, fmt.Sprintf("it is said in %s: how many portions, kg or pieces is that?",
			strings.ToLower(word)), true
	}
	if word := massWord.FindString(rest); word != "" { // "un demi-kilo de …": half of it was not understood
		return a, rest, fmt.Sprintf("“%s” is not wholly understood: how many g or portions is that?",
			strings.ToLower(word)), true
	}
	if what, unit, ask := unitIn(rest); ask != "" {
		return a, rest, ask, true
	} else if what != "" && !dozen { // 100 ravioli pieces
		return Amount{a.N, unit}, of(what), "", true
	}
	return a, of(rest), "", true
}

// unitIn takes a unit that stands behind what it is of out of it: "ravioli pieces", "ravioli pieces, frozen"; what is
// "" where there is none. ask is what to ask of one that stands elsewhere.
func unitIn(text string) (what string, unit Unit, ask string) {
	words := strings.Fields(text)
	for i, w := range words {
		unit, is := unitWords[strings.ToLower(strings.TrimRight(w, ".,"))]
		if i == 0 || !is {
			continue
		}
		if comma := strings.HasSuffix(w, ","); comma || i == len(words)-1 {
			if comma {
				words[i-1] += ","
			}
			return strings.Join(slices.Delete(words, i, i+1), " "), unit, ""
		}
		return "", "", fmt.Sprintf("“%s” stands behind what it is of: portions, pieces or boxes of what?", w)
	}
	return "", "", ""
}

// massWord is a word of weight where none is expected any more.
var massWord = regexp.MustCompile(`(?i)\b(?:[a-zé]*-?kilos?|kg|chil[oi]|grammi?|grams?|gramm|gramos?|livres?|` +
	`libras?)\b`)

// of takes the word between an amount and what it is of away.
func of(text string) string {
	text = strings.TrimSpace(text)
	for _, word := range []string{"of ", "di ", "von ", "de ", "d'", "d’"} {
		if len(text) > len(word) && strings.EqualFold(text[:len(word)], word) {
			return strings.TrimSpace(text[len(word):])
		}
	}
	return text
}

// ReadAmount reads an amount by itself: 24, 24 portions, 5 kg, 1 lb 2 oz, 40 pieces, 2 boxes. The error says what is
// allowed, or asks back.
func ReadAmount(text string) (Amount, error) {
	if g, ok := measure.ParseMass(text); ok {
		a := Amount{math.Round(g*100) / 100, Grams}
		return a, a.check()
	}
	a, rest, ask, ok := readFigure(text)
	switch {
	case ask != "":
		return a, fmt.Errorf("%s", ask)
	case !ok || rest != "":
		return a, fmt.Errorf("a number of portions, or 5 kg, 40 pieces, 2 boxes")
	}
	return a, a.check()
}

func (a Amount) check() error {
	in := func(lo, hi float64) bool { return a.N >= lo && a.N <= hi }
	switch a.Unit {
	case Portions:
		if !(a.N > 0 && a.N <= MostPortions) {
			return fmt.Errorf("above 0 to %s portions is allowed", measure.Thousands(MostPortions))
		}
	case Grams:
		if !in(leastG, mostG) {
			return fmt.Errorf("%d g to %d kg is allowed; more than that is several orders", leastG, mostG/1000)
		}
	case Pieces:
		if !in(1, mostPieces) || a.N != math.Trunc(a.N) {
			return fmt.Errorf("whole pieces, 1 to %s, are allowed", measure.Thousands(mostPieces))
		}
	case Boxes:
		if !in(.5, mostBoxes) {
			return fmt.Errorf("½ to %d boxes is allowed", mostBoxes)
		}
	default:
		return fmt.Errorf("portions, g, pieces or boxes is allowed")
	}
	return nil
}

// Text is the amount as ReadAmount reads it in any units, and as a field shows it: bare, of portions.
func (a Amount) Text() string {
	n := strconv.FormatFloat(a.N, 'f', -1, 64)
	switch a.Unit {
	case Portions:
		return n
	case Grams:
		if a.N >= 1000 {
			return strconv.FormatFloat(a.N/1000, 'f', -1, 64) + " kg"
		}
		return n + " g"
	}
	return n + " " + string(a.Unit)
}

// Words say the amount: "24 portions", "5 kg", "1 piece".
func (a Amount) Words() string {
	n := strconv.FormatFloat(math.Round(100*a.N)/100, 'f', -1, 64)
	one := map[Unit]string{Portions: "portion", Pieces: "piece", Boxes: "box"}[a.Unit]
	many := map[Unit]string{Portions: "portions", Pieces: "pieces", Boxes: "boxes"}[a.Unit]
	switch {
	case a.Unit == Grams:
		return a.Text()
	case a.N == 1:
		return n + " " + one
	}
	return n + " " + many
}

// Yield is what a recipe comes to as it is sold, by which amounts are reckoned into its portions.
type Yield struct {
	PortionG float64 // as it is made, before drying to keep
	Pieces   float64 // in a portion; 0: it is not sold by pieces
	// DryShare is what drying to keep takes of it, 0–1; g and boxes are said of what is sold.
	DryShare float64
	BoxG     float64 // as sold; 0: no box is said
}

// Portions is how many portions of a recipe an amount comes to; the error asks what is not known.
func (a Amount) Portions(y Yield) (float64, error) {
	g := a.N
	switch a.Unit {
	case Portions:
		return a.N, nil
	case Pieces:
		if y.Pieces <= 0 {
			return 0, fmt.Errorf("it is not made in pieces that are counted: how many portions or kg is that?")
		}
		return a.N / y.Pieces, nil
	case Boxes:
		if y.BoxG <= 0 {
			return 0, fmt.Errorf("its recipe says nothing of boxes: how many portions or kg is that?")
		}
		g = a.N * y.BoxG
	}
	if y.PortionG <= 0 {
		return 0, fmt.Errorf("its portion is not known: how many portions is that?")
	}
	return g / (1 - y.DryShare) / y.PortionG, nil
}

// Sum says amounts together, by unit: "14 portions and 5 kg".
func Sum(all []Amount) string {
	var out []string
	for _, u := range []Unit{Portions, Grams, Pieces, Boxes} {
		sum := 0.
		for _, a := range all {
			if a.Unit == u {
				sum += a.N
			}
		}
		if sum > 0 {
			out = append(out, Amount{sum, u}.Words())
		}
	}
	return measure.List(out)
}
