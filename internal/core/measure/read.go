package measure

import (
	"math"
	"strconv"
	"strings"
)

// ParseNumber reads a number as people type it: 1,000 and 1 000 are a thousand, 0,9 and
// 0.9 are nine tenths. It reports false for anything else, for infinities and hexadecimals.
func ParseNumber(s string) (float64, bool) {
	s = strings.NewReplacer(" ", "", "\u00a0", "", "\u202f", "", "\u2212", "-").Replace(s)
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
