package recipe

import (
	"math"
	"regexp"
	"strconv"
	"strings"

	"hollen/internal/core/cost"
	"hollen/internal/core/request"
)

// roundMoney is an amount of money times k.
func roundMoney(m cost.Money, k float64) cost.Money { return cost.Money(math.Round(float64(m) * k)) }

// spoken is an amount as it was measured out: a number, a fraction beside it or alone, and the rest.
var spoken = regexp.MustCompile(`^\s*(\d+(?:[.,]\d+)?)?\s*([¼½¾]|\d/\d)?\s*(\pL.*)$`)

var signs = map[string]float64{"¼": .25, "½": .5, "¾": .75}

// amountOf is the number an amount begins with; false where it begins with none.
func amountOf(text string) (n float64, unit string, ok bool) {
	m := spoken.FindStringSubmatch(text)
	if m == nil || m[1] == "" && m[2] == "" {
		return 0, "", false
	}
	n, _ = strconv.ParseFloat(strings.Replace(m[1], ",", ".", 1), 64)
	switch {
	case m[2] == "":
	case signs[m[2]] > 0:
		n += signs[m[2]]
	default:
		over, under, _ := strings.Cut(m[2], "/")
		a, _ := strconv.ParseFloat(over, 64)
		b, _ := strconv.ParseFloat(under, 64)
		if b == 0 {
			return 0, "", false
		}
		n += a / b
	}
	return n, strings.TrimSpace(m[3]), n > 0
}

// quarters writes an amount in quarters with its unit.
func quarters(n float64, unit string) string {
	whole, part := math.Modf(n)
	text := ""
	if whole > 0 {
		text = strconv.FormatFloat(whole, 'f', 0, 64)
	}
	for sign, v := range signs {
		if v == part {
			text += sign
		}
	}
	for _, u := range []string{"cup", "tablespoon", "teaspoon", "pinch"} {
		switch {
		case n > 1 && unit == u && u == "pinch":
			unit = "pinches"
		case n > 1 && unit == u:
			unit = u + "s"
		case n <= 1 && (unit == u+"s" || unit == u+"es"):
			unit = u
		}
	}
	return text + " " + unit
}

// scaleMeasures takes cups and spoons of r by a factor, to quarters, and what they weigh with them. r is scaled
// already; was is as it was. What does not begin with a number is a figure from then on.
func scaleMeasures(r, was *request.Request, k float64) {
	r.Measures = ""
	masses := map[string]float64{}
	var all []request.Said
	for _, s := range was.Measured() {
		n, unit, ok := amountOf(s.Text)
		if !ok {
			continue
		}
		to := max(.25, math.Round(4*n*k)/4)
		by := to / n
		masses[s.Path] = s.G * by
		all = append(all, request.Said{Path: s.Path, Text: quarters(to, unit), LowG: s.LowG * by, G: s.G * by,
			High: s.High * by})
	}
	if len(all) == 0 {
		return
	}
	*r = r.WithMasses(masses)
	for _, s := range all {
		r.Measure(s)
	}
}
