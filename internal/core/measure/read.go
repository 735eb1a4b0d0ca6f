package measure

import (
	"math"
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

// ParseMass reads "200 g", "7 oz" or "1.2 kg" as grams; false when no unit stands there.
func ParseMass(s string) (g float64, ok bool) {
	s = strings.TrimSpace(s)
	for _, u := range []struct {
		name string
		g    float64
	}{{"kg", 1000}, {"g", 1}, {"oz", 1 / customary[G].by}, {"lb", 1000 / customary[KG].by}} {
		if n, has := strings.CutSuffix(s, u.name); has {
			v, ok := ParseNumber(n)
			return v * u.g, ok
		}
	}
	return 0, false
}

// ParseMinutes reads "45 s", "1:30", "12 h" or "8" as minutes; false for anything else.
func ParseMinutes(text string) (min float64, ok bool) {
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
	n, ok := ParseNumber(whole)
	if colon {
		s, okS := ParseNumber(part)
		n, ok = n+s/60, ok && okS && s < 60
	}
	return n * by, ok
}

// quantities are the units a figure may be typed in, by what they measure: in the unit of the list's name.
var quantities = map[Unit][]struct {
	name string
	by   float64
}{
	G:  {{"kg", 1000}, {"g", 1}, {"lb", 1000 / customary[KG].by}, {"oz", 1 / customary[G].by}},
	KG: {{"kg", 1}, {"g", .001}, {"lb", 1 / customary[KG].by}, {"oz", .001 / customary[G].by}},
	MM: {{"mm", 1}, {"cm", 10}, {"m", 1000}, {"in", InchMM}, {"\"", InchMM}},
}

// ParseQuantity reads "2 kg", "1 lb 2 oz", "12 cm", "half" or "1 1/2" as a figure in that metric unit; a number alone
// is in the unit it is typed in, which by turns to it. It reports false for anything else.
func ParseQuantity(text string, unit Unit, by float64) (v float64, ok bool) {
	s := strings.ToLower(strings.TrimSpace(text))
	for _, f := range []struct{ sign, text string }{{"½", " 1/2"}, {"¼", " 1/4"}, {"¾", " 3/4"}, {"half a ", "1/2 "}, {"half", "1/2"}, {"quarter", "1/4"}} {
		s = strings.ReplaceAll(s, f.sign, f.text)
	}
	sum, read := 0., false
	for s = strings.TrimSpace(s); s != ""; s = strings.TrimSpace(s) {
		end := strings.IndexFunc(s, func(r rune) bool { return !strings.ContainsRune("0123456789.,/ \u00a0", r) })
		number, rest := s, ""
		if end >= 0 {
			number, rest = s[:end], s[end:]
		}
		n, ok := parseFraction(strings.TrimSpace(number))
		if !ok {
			return 0, false
		}
		factor := by
		if rest != "" {
			found := false
			for _, u := range quantities[unit] {
				if after, is := strings.CutPrefix(rest, u.name); is && (after == "" || after[0] == ' ' || after[0] >= '0' && after[0] <= '9') {
					factor, rest, found = u.by, after, true
					break
				}
			}
			if !found {
				return 0, false
			}
		}
		sum, read, s = sum+n*factor, true, rest
	}
	return sum, read
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
