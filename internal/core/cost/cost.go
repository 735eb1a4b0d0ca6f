// Package cost answers: what does the batch cost, in money that adds up to the last digit?
//
// Money is a whole number of ten-thousandths, so that no sum drifts; masses are taken to the
// milligram.
package cost

import (
	"encoding/json"
	"fmt"
	"math"
	"strconv"
	"strings"
	"unicode"
)

// Money is an amount in ten-thousandths of the currency's unit.
type Money int64

// scale is one unit of the currency; Max is the largest amount read.
const (
	scale       = 10000
	Max   Money = 1e6 * scale
)

// Units is the amount in units of the currency.
func (m Money) Units() float64 { return float64(m) / scale }

// Parse reads a price as people type it: 1.85, 1,85, € 0.3. At most four decimals, 0 to a
// million.
func Parse(s string) (Money, error) {
	s = strings.Map(func(r rune) rune {
		if unicode.Is(unicode.Sc, r) || unicode.IsSpace(r) {
			return -1
		}
		return r
	}, s)
	whole, decimals, _ := strings.Cut(strings.Replace(s, ",", ".", 1), ".")
	if whole == "" {
		whole = "0"
	}
	if s == "" || len(whole) > 7 || len(decimals) > 4 || strings.Trim(whole+decimals, "0123456789") != "" {
		return 0, fmt.Errorf("%q is no price; 0 to 1,000,000 with at most four decimals is allowed", s)
	}
	n, err := strconv.ParseInt(whole+decimals+strings.Repeat("0", 4-len(decimals)), 10, 64)
	if err != nil || Money(n) > Max {
		return 0, fmt.Errorf("%q is no price; 0 to 1,000,000 is allowed", s)
	}
	return Money(n), nil
}

// String returns the amount with two decimals, four when it has them: 1.85, 0.3125.
func (m Money) String() string {
	sign := ""
	if m < 0 {
		sign, m = "-", -m
	}
	s := fmt.Sprintf("%s%d.%04d", sign, m/scale, m%scale)
	if m%100 == 0 {
		return s[:len(s)-2]
	}
	return s
}

// Rounded returns the amount to two decimals, half away from nought.
func (m Money) Rounded() Money {
	if m < 0 {
		return -(-m).Rounded()
	}
	return (m + 50) / 100 * 100
}

// Per returns what massG g cost at m a kilogram.
func (m Money) Per(massG float64) Money { return m.times(int64(math.Round(massG*1000)), 1e6) }

// Times returns m taken n times; n to the thousandth.
func (m Money) Times(n float64) Money { return m.times(int64(math.Round(n*1000)), 1000) }

// times returns m·n/d, half away from nought. Prices reach 1e10 and masses 1e8 mg, so the
// product fits.
func (m Money) times(n, d int64) Money {
	p := int64(m) * n
	if p < 0 {
		return Money((p - d/2) / d)
	}
	return Money((p + d/2) / d)
}

// Over returns m shared out over n, 0 when there is nothing to share it over.
func (m Money) Over(n float64) Money {
	if !(n > 0) {
		return 0
	}
	return Money(math.Round(float64(m) / n))
}

// MarshalJSON writes the amount as a decimal string.
func (m Money) MarshalJSON() ([]byte, error) { return json.Marshal(m.String()) }

// UnmarshalJSON reads a decimal string or a number.
func (m *Money) UnmarshalJSON(b []byte) error {
	v, err := Parse(strings.Trim(string(b), `"`))
	if err == nil {
		*m = v
	}
	return err
}
