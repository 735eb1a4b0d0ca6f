package measure

import (
	"errors"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// numberSpacing takes the spaces out of a number and makes its minus a plain one.
var numberSpacing = strings.NewReplacer(" ", "", "\u00a0", "", "\u202f", "", "’", "", "'", "", "\u2212", "-")

// ParseNumber reads a number as people type it: 1,000 and 1 000 are a thousand, 0,9 and
// 0.9 are nine tenths. It reports false for anything else, for infinities and hexadecimals.
func ParseNumber(s string) (float64, bool) {
	s = numberSpacing.Replace(s)
	if s == "" || len(s) > 24 || strings.Trim(s, "0123456789.,-+eE") != "" {
		return 0, false
	}
	if i := strings.LastIndexByte(s, ','); i >= 0 {
		switch dot := strings.LastIndexByte(s, '.'); {
		case dot > i, dot < 0 && grouped(s):
			s = strings.ReplaceAll(s, ",", "")
		default:
			s = strings.ReplaceAll(s[:i], ".", "") + "." + s[i+1:]
		}
	}
	n, err := strconv.ParseFloat(s, 64)
	return n, err == nil && !math.IsInf(n, 0) && !math.IsNaN(n)
}

// grouped says whether the commas of s group its digits by three.
func grouped(s string) bool {
	parts := strings.Split(strings.TrimLeft(s, "+-"), ",")
	if n := len(parts[0]); n < 1 || n > 3 || parts[0] == "0" {
		return false
	}
	for _, p := range parts[1:] {
		if len(p) != 3 {
			return false
		}
	}
	return true
}

// ErrNoFigure is what Read returns for what is no figure of that unit.
var ErrNoFigure = errors.New("that is no figure")

// Unclear is a figure that may be meant in two ways: its text asks which.
type Unclear struct{ Ask string }

func (e Unclear) Error() string { return e.Ask }

// named is a unit as people write it: a figure in it is By times, and Add more, in the unit that is kept. Then is what
// a
// number without a unit after it counts in, as in 1 h 30.
type named struct {
	Name string  `json:"name"`
	By   float64 `json:"by"`
	Add  float64 `json:"add,omitempty"`
	Then float64 `json:"then,omitempty"`
}

// written are the units a figure may be written in, by the unit it is kept in; longer names stand before what they
// begin with.
var written = map[Unit][]named{
	G: {{"kg", 1000, 0, 1}, {"kilo", 1000, 0, 1}, {"gram", 1, 0, 0}, {"g", 1, 0, 0}, {"lb", gLB, 0, gOZ}, {"pound",
		gLB, 0, gOZ}, {"oz", gOZ, 0, 0}, {"ounce", gOZ, 0, 0}},
	KG: {{"kg", 1, 0, .001}, {"kilo", 1, 0, .001}, {"gram", .001, 0, 0}, {"g", .001, 0, 0}, {"lb", gLB / 1000, 0,
		gOZ / 1000}, {"pound", gLB / 1000, 0, gOZ / 1000}, {"oz", gOZ / 1000, 0, 0}, {"ounce", gOZ / 1000, 0, 0}},
	MM: {{"mm", 1, 0, 0}, {"cm", 10, 0, 1}, {"m", 1000, 0, 10}, {"inch", InchMM, 0, 0}, {"in", InchMM, 0, 0}, {"\"",
		InchMM, 0, 0}, {"ft", 12 * InchMM, 0, InchMM}},
	M: {{"mm", .001, 0, 0}, {"cm", .01, 0, .001}, {"m", 1, 0, .01}, {"inch", InchMM / 1000, 0, 0}, {"in",
		InchMM / 1000, 0, 0}, {"ft", .012 * InchMM, 0, InchMM / 1000}},
	L: {{"ml", .001, 0, 0}, {"dl", .1, 0, 0}, {"cl", .01, 0, 0}, {"litre", 1, 0, 0}, {"liter", 1, 0, 0}, {"l", 1, 0,
		0}, {"qt", 1 / 1.0567, 0, 0}, {"quart", 1 / 1.0567, 0, 0}},
	C: {{"°c", 1, 0, 0}, {"c", 1, 0, 0}, {"°f", 1 / 1.8, -32 / 1.8, 0}, {"f", 1 / 1.8, -32 / 1.8, 0}},
	S: {{"hour", 3600, 0, 60}, {"h", 3600, 0, 60}, {"min", 60, 0, 1}, {"m", 60, 0, 1}, {"sec", 1, 0, 0}, {"s", 1, 0,
		0}},
	MIN: {{"hour", 60, 0, 1}, {"h", 60, 0, 1}, {"min", 1, 0, 1. / 60}, {"m", 1, 0, 1. / 60}, {"sec", 1. / 60, 0, 0},
		{"s", 1. / 60, 0, 0}, {"day", 1440, 0, 60}},
	H: {{"hour", 1, 0, 1. / 60}, {"h", 1, 0, 1. / 60}, {"min", 1. / 60, 0, 0}, {"m", 1. / 60, 0, 0}, {"day", 24, 0,
		1}},
	DAYS: {{"week", 7, 0, 1}, {"day", 1, 0, 0}, {"d", 1, 0, 0}, {"hour", 1. / 24, 0, 0}, {"h", 1. / 24, 0, 0}},
}

const (
	gLB = 453.59237 // g in a pound
	gOZ = gLB / 16  // g in an ounce
)

// endings are what may follow the name of a unit: "2 kilos", "3 inches", "10 minutes".
var endings = []string{"utes", "onds", "es", "s", "."}

// unclear are the questions a part of nothing named is answered with, by the unit that is kept.
var unclear = map[Unit]string{
	G:   "half of what? Say it with its unit, as in half a kg",
	MM:  "half of what? Say it with its unit, as in half a cm",
	MIN: "half of what? Say it with its unit, as in half an hour",
	S:   "half of what? Say it with its unit, as in half a minute",
	C:   "half of what? Say the degrees",
}

// inWords are figures said in words, each before how it is written.
var inWords = []string{"½", " 1/2", "¼", " 1/4", "¾", " 3/4", "⅓", " 1/3", "⅔", " 2/3", "a half", "1/2",
	"three quarters of an ", "3/4 ",
	"three quarters of a ", "3/4 ", "three quarters", "3/4", "a quarter of an ", "1/4 ", "a quarter of a ", "1/4 ",
	"quarter of an ", "1/4 ",
	"quarter of a ", "1/4 ", "a quarter", "1/4", "quarter", "1/4", "half an ", "1/2 ", "half a ", "1/2 ", "half", "1/2"}

var spoken = strings.NewReplacer(inWords...)

// byClock is what 1:30 says where a unit of time is kept.
var byClock = map[Unit]named{S: {By: 60, Then: 1}, MIN: {By: 1, Then: 1. / 60}, H: {By: 1, Then: 1. / 60}}

// Table is all a script needs to read figures as Read does.
type Table struct {
	Units   map[Unit][]named `json:"units"`
	Endings []string         `json:"endings"`
	Spoken  []string         `json:"spoken"`
	Clock   map[Unit]named   `json:"clock"`
	Unclear map[Unit]string  `json:"unclear"`
}

// Reading is that table.
func Reading() Table { return Table{written, endings, inWords, byClock, unclear} }

var (
	more   = regexp.MustCompile(`^(\d+)\s*([a-zà-ÿ]*)\s+and an? (half|quarter)$`) // 2 and a half, 1 hour and a half
	partly = regexp.MustCompile(`^(?:half|quarter)`)
)

// Read reads a figure as people type it, in the metric unit it is kept in: "2 kg", "1 lb 2 oz", "1 kg 200", "12 cm",
// "half an hour", "1 1/2", "1:30" (minutes and seconds; of hours, hours and minutes), "90 s", "70 °F". alone turns a
// number
// without a unit, which is in the unit its field shows, into that unit; nil: it is in it already. It returns
// ErrNoFigure
// for anything else and Unclear for a part of nothing named, where nobody can tell what of.
func Read(text string, unit Unit, alone func(float64) float64) (float64, error) {
	if alone == nil {
		alone = func(n float64) float64 { return n }
	}
	if n, ok := ParseNumber(text); ok {
		return alone(n), nil
	}
	s := strings.ToLower(strings.TrimSpace(text))
	for _, one := range []string{"a ", "an "} {
		if after, is := strings.CutPrefix(s, one); is && !partly.MatchString(after) {
			s = "1 " + after
		}
	}
	s = strings.TrimSpace(spoken.Replace(more.ReplaceAllString(s, "$1 $3 $2")))
	if strings.Contains(s, ":") {
		return readClock(s, unit, alone)
	}
	if unclear[unit] != "" && strings.Contains(s, "/") && !strings.Contains(s, " ") {
		if _, ok := parseFraction(s); ok {
			return 0, Unclear{unclear[unit]}
		}
	}
	sum, then := 0., 0. // then: what a number without a unit counts in after one that has one
	for first := true; s != "" || first; first = false {
		end := strings.IndexFunc(s, func(r rune) bool { return !strings.ContainsRune("0123456789.,/ \u00a0-−", r) })
		number, rest := s, ""
		if end >= 0 {
			number, rest = s[:end], s[end:]
		}
		n, ok := parseFraction(strings.TrimSpace(number))
		u, after, known := unitAt(rest, unit)
		switch {
		case !ok || n < 0 && !first:
			return 0, ErrNoFigure
		case rest == "" && first:
			sum = alone(n)
		case rest == "" && then > 0:
			sum += n * then
		case !known:
			return 0, ErrNoFigure
		default:
			sum += n*u.By + u.Add
		}
		then, s = u.Then, strings.TrimSpace(after)
	}
	return sum, nil
}

// ParseMass reads a mass that names its unit, g; false for a bare number and for any other text.
func ParseMass(text string) (g float64, ok bool) {
	g, err := Read(text, G, func(float64) float64 { return math.NaN() })
	return g, err == nil && !math.IsNaN(g)
}

// unitAt finds the unit a text begins with, and returns what comes after it.
func unitAt(text string, unit Unit) (u named, after string, ok bool) {
	known := written[unit]
	if known == nil && unit != "" { // by its own name alone: 54 %, 1.2 g/mL
		known = []named{{strings.ToLower(string(unit)), 1, 0, 0}}
	}
	for _, u := range known {
		rest, is := strings.CutPrefix(text, u.Name)
		if !is {
			continue
		}
		for _, e := range append([]string{""}, endings...) {
			if after, is := strings.CutPrefix(rest, e); is && (after == "" || after[0] == ' ' || after[0] >= '0' &&
				after[0] <= '9') {
				return u, after, true
			}
		}
	}
	return named{}, "", false
}

// readClock reads 1:30: minutes and seconds, where hours are kept or written hours and minutes.
func readClock(s string, unit Unit, alone func(float64) float64) (float64, error) {
	whole, rest, _ := strings.Cut(s, ":")
	end := strings.IndexFunc(rest, func(r rune) bool { return r < '0' || r > '9' })
	if end < 0 {
		end = len(rest)
	}
	name := strings.TrimSpace(rest[end:])
	a, okA := ParseNumber(whole)
	b, okB := ParseNumber(rest[:end])
	u, after, known := unitAt(name, unit)
	if name == "" {
		u, known = byClock[unit], true
	}
	if !okA || !okB || a < 0 || b >= 60 || !known || after != "" || u.Then == 0 {
		return 0, ErrNoFigure
	}
	return a*u.By + b*u.Then, nil
}

// parseFraction reads "2", "1,5", "1/2" or "1 1/2".
func parseFraction(s string) (float64, bool) {
	if !strings.Contains(s, "/") {
		return ParseNumber(s)
	}
	sum := 0.
	for _, part := range strings.Fields(s) {
		a, b, slash := strings.Cut(part, "/")
		n, ok := ParseNumber(a)
		if slash {
			d, okD := ParseNumber(b)
			if !okD || d == 0 {
				return 0, false
			}
			n /= d
		}
		if !ok {
			return 0, false
		}
		sum += n
	}
	return sum, true
}
