// Package measure answers: how are figures, units and moments written, and how are they read?
// Inside, everything is metric; a System turns a figure into what a page says of it, and the
// same table turns what was typed back.
//
//	shown = metric·by + add
//
// Conversions are the international ones; US quarts and ounces by their legal definitions.
package measure

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// System is a system of units.
type System string

// The systems. The zero value is metric, too.
const (
	Metric    System = "metric"
	Customary System = "us" // ounces, inches, °F
)

// Unit is a metric unit that another system calls otherwise.
type Unit string

// The units that are turned.
const (
	G  Unit = "g"
	KG Unit = "kg"
	MM Unit = "mm"
	M  Unit = "m"
	C  Unit = "°C"
	L  Unit = "L"
)

// The units of time, which no system turns.
const (
	S    Unit = "s"
	MIN  Unit = "min"
	H    Unit = "h"
	DAYS Unit = "days"
)

// conversion is one unit turned into another: shown = metric·by + add.
type conversion struct {
	unit    Unit
	by, add float64
}

// poundsAsOunces is from how many ounces on a mass is told in pounds and ounces.
const poundsAsOunces = 16

// InchMM is an inch, mm.
const InchMM = 25.4

var customary = map[Unit]conversion{
	G: {"oz", 1 / 28.349523125, 0}, KG: {"lb", 1 / .45359237, 0}, MM: {"in", 1 / InchMM, 0}, C: {"°F", 1.8, 32},
	L: {"qt", 1.0567, 0}, M: {"ft", 1 / .3048, 0},
}

// Turn returns how a unit is shown: shown = metric·by + add in the unit named; false where the
// system shows it as it is.
func (s System) Turn(u Unit) (shown Unit, by, add float64, turned bool) {
	k, ok := customary[u]
	if s != Customary || !ok {
		return u, 1, 0, false
	}
	return k.unit, k.by, k.add, true
}

// Name is what a unit is called in s: "oz" of Customary for G.
func (s System) Name(u Unit) string {
	shown, _, _, _ := s.Turn(u)
	return string(shown)
}

// Shortest, as a number of digits, writes as many as the number has, at most two decimals.
const Shortest = -1

// Number returns a figure and its unit apart: digits decimals of a metric one; three figures of
// one that is turned, pounds and ounces from a pound on.
func (s System) Number(v float64, u Unit, digits int) (number, unit string) {
	_, by, add, turned := s.Turn(u)
	switch {
	case !turned:
		return decimals(v, digits), string(u)
	case u == C:
		return fmt.Sprintf("%.0f", math.Round(v*by+add)+0), "°F"
	case u == KG:
		v, u = 1000*v, G
	}
	k := customary[u]
	v *= k.by
	if u == G && v >= poundsAsOunces {
		lb, rest := math.Floor(v/16), math.Round(math.Mod(v, 16)*10)/10
		if rest >= 16 {
			lb, rest = lb+1, 0
		}
		if rest == 0 {
			return fmt.Sprintf("%.0f", lb), "lb"
		}
		return fmt.Sprintf("%.0f lb %s", lb, strconv.FormatFloat(rest, 'f', -1, 64)), "oz"
	}
	switch {
	case u == G:
		return Ounces(v), string(k.unit)
	case u == MM && digits <= 0 && v >= leastRuled:
		return Ruled(v), string(k.unit)
	}
	return threeFigures(v), string(k.unit)
}

// leastRuled is the least length that is set by a ruler, in; what is thinner is set by a dial or a caliper.
const leastRuled = 1. / 16

// fractionSigns are the fractions of an inch or an ounce that have a sign, in eighths.
var fractionSigns = []string{"", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞"}

// ruledWithin and ruledMost are how far off a length may be said for a plainer fraction: of it, and in.
const (
	ruledWithin = .017
	ruledMost   = .1
)

// Ruled writes a length in inches as a ruler has it, by the plainest fraction that is near enough, a 32nd where none
// is: "9/32", "1 3/16", "5½".
func Ruled(in float64) string {
	parts, off := 1, min(ruledWithin*in, ruledMost)
	for parts < 32 && math.Abs(math.Round(in*float64(parts))/float64(parts)-in) > off {
		parts *= 2
	}
	n := int(math.Round(in * float64(parts)))
	whole, rest := n/parts, n%parts
	for rest > 0 && rest%2 == 0 {
		rest, parts = rest/2, parts/2
	}
	fraction := ""
	switch {
	case rest > 0 && parts <= 8:
		fraction = fractionSigns[rest*8/parts]
	case rest > 0:
		fraction = fmt.Sprintf("%d/%d", rest, parts)
	}
	switch {
	case fraction == "":
		return fmt.Sprint(whole)
	case whole == 0:
		return fraction
	case parts > 8:
		return fmt.Sprintf("%d %s", whole, fraction)
	}
	return fmt.Sprint(whole) + fraction
}

// Portion writes the mass of a portion: "120 g", and in ounces to a quarter, "4¼ oz".
func (s System) Portion(g float64) string {
	if _, by, _, turned := s.Turn(G); turned && g*by < poundsAsOunces {
		n := int(math.Round(4 * g * by))
		whole, sign := "", fractionSigns[n%4*2]
		if n >= 4 || sign == "" {
			whole = fmt.Sprint(n / 4)
		}
		return whole + sign + " " + s.Name(G)
	}
	return s.Grams(g)
}

// Lengths names the unit that thicknesses and lengths are written in: "mm", "inches".
func (s System) Lengths() string {
	if _, _, _, turned := s.Turn(MM); turned {
		return "inches"
	}
	return string(MM)
}

// Bare is a figure whose unit stands elsewhere.
func (s System) Bare(v float64, u Unit, digits int) string {
	n, _ := s.Number(v, u, digits)
	return n
}

// Steps a kitchen scale shows, oz: a twentieth, about a gram; a tenth from ten ounces on, a hundredth under ten grams.
const (
	scaleOZ      = .05
	coarseOZ     = .1
	coarseFromOZ = 9.975
	fineOZ       = .01
	fineUnderOZ  = .35
)

// Ounces writes a mass in ounces no finer than a kitchen scale shows it.
func Ounces(oz float64) string {
	step := scaleOZ
	switch size := math.Abs(oz); {
	case size < fineUnderOZ:
		step = fineOZ
	case size >= coarseFromOZ:
		step = coarseOZ
	}
	return strconv.FormatFloat(math.Round(100*math.Round(oz/step)*step)/100+0, 'f', -1, 64)
}

func decimals(v float64, digits int) string {
	if digits == Shortest {
		return strconv.FormatFloat(math.Round(100*v)/100+0, 'f', -1, 64)
	}
	return strconv.FormatFloat(v, 'f', digits, 64)
}

// threeFigures writes three figures, at most three of them decimals, without needless noughts.
func threeFigures(v float64) string {
	digits := 2 - int(math.Floor(math.Log10(max(math.Abs(v), .01))))
	s := strconv.FormatFloat(v, 'f', min(max(digits, 0), 3), 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	return s
}

// Of returns a figure with its unit.
func (s System) Of(v float64, u Unit, digits int) string {
	n, unit := s.Number(v, u, digits)
	return n + " " + unit
}

// MM, M, C, L, KG and G are Of for one unit.
func (s System) MM(v float64, digits int) string { return s.Of(v, MM, digits) }

// Long is a length that is worked out, of a sheet or what is cut from it: no finer than it is known,
// tens of millimetres from 100 mm on.
func (s System) Long(mm float64) string {
	if _, _, _, turned := s.Turn(MM); turned {
		return s.MM(mm, 0)
	}
	return Thousands(Near(mm)) + " mm"
}

// Near is a worked-out length no finer than it is known: tens of millimetres from 100 mm on.
func Near(mm float64) float64 {
	if mm < 100 {
		return math.Round(mm)
	}
	return 10 * math.Round(mm/10)
}

// M is Of for metres.
func (s System) M(v float64, digits int) string { return s.Of(v, M, digits) }

// C is Of for °C.
func (s System) C(v float64, digits int) string { return s.Of(v, C, digits) }

// RiseC is a difference of temperatures: "1 °C".
func (s System) RiseC(v float64) string {
	if unit, by, _, turned := s.Turn(C); turned {
		return decimals(math.Round(10*v*by)/10, Shortest) + " " + string(unit)
	}
	return decimals(v, Shortest) + " " + string(C)
}

// L is Of for litres.
func (s System) L(v float64, digits int) string { return s.Of(v, L, digits) }

// KG is Of for kilograms.
func (s System) KG(v float64, digits int) string { return s.Of(v, KG, digits) }

// G is Of for grams, from a hundred on whole ones; Grams writes them as a scale does.
func (s System) G(v float64, digits int) string {
	if digits > 0 && v >= 100 {
		digits = 0
	}
	return s.Of(v, G, digits)
}

// Joined returns several figures of one unit, that unit once where it is the same: "50 × 50 mm".
func (s System) Joined(by string, u Unit, digits int, vs ...float64) string {
	numbers, units := make([]string, len(vs)), make([]string, len(vs))
	same := true
	for i, v := range vs {
		numbers[i], units[i] = s.Number(v, u, digits)
		same = same && units[i] == units[0]
	}
	var b strings.Builder
	for i := range vs {
		if i > 0 {
			b.WriteString(by)
		}
		b.WriteString(numbers[i])
		if !same || i == len(vs)-1 {
			b.WriteString(" " + units[i])
		}
	}
	return b.String()
}

// Mass returns a mass as a maker reads it off a scale, number and unit apart: whole grams, tenths
// under ten.
func (s System) Mass(g float64) (number, unit string) {
	if _, _, _, turned := s.Turn(G); turned {
		return s.Number(g, G, 0)
	}
	if g > 0 && g < 9.95 {
		return fmt.Sprintf("%.1f", g), "g"
	}
	return Thousands(g), "g"
}

// Grams is Mass in one: "1,592 g", "4.6 g" under ten.
func (s System) Grams(g float64) string {
	n, unit := s.Mass(g)
	return n + " " + unit
}

// Whole returns whole grams, also under ten.
func (s System) Whole(g float64) string {
	if _, _, _, turned := s.Turn(G); turned {
		return s.Grams(g)
	}
	return Thousands(g) + " g"
}

// set is a figure set in braces within a text: "under {5 °C}", "{8–10 mm}".
var (
	set   = regexp.MustCompile(`\{([^{}]+?) (g|kg|mm|m|°C|L)\}`)
	inSet = regexp.MustCompile(`[−-]?[0-9][0-9.]*`)
)

// Prose returns a text with the figures that are set in braces in it as s says them.
func (s System) Prose(text string) string {
	if !strings.Contains(text, "{") {
		return text
	}
	return set.ReplaceAllStringFunc(text, func(m string) string {
		p := set.FindStringSubmatch(m)
		if _, _, _, turned := s.Turn(Unit(p[2])); !turned {
			return p[1] + " " + p[2]
		}
		last := s.Name(Unit(p[2]))
		return inSet.ReplaceAllStringFunc(p[1], func(n string) string {
			v, _ := ParseNumber(n)
			n, last = s.Number(v, Unit(p[2]), 0)
			return n
		}) + " " + last
	})
}

// Thousands returns a number rounded to the whole with its thousands grouped.
func Thousands(v float64) string { return Grouped(fmt.Sprint(int64(math.Round(v)))) }

// Grouped groups the thousands of a number.
func Grouped(s string) string {
	whole, part, has := strings.Cut(s, ".")
	for i := len(whole) - 3; i > 0 && whole[i-1] != '-'; i -= 3 {
		whole = whole[:i] + "," + whole[i:]
	}
	if has {
		whole += "." + part
	}
	return whole
}

// Trim returns a thickness to hundredths without needless noughts: "0.9", "0.78".
func Trim(mm float64) string { return strconv.FormatFloat(math.Round(100*mm)/100, 'f', -1, 64) }
