package recipe

import (
	"math"
	"strconv"
	"strings"
	"unicode"

	"hollen/internal/core/cost"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// roundMoney is an amount of money times k.
func roundMoney(m cost.Money, k float64) cost.Money { return cost.Money(math.Round(float64(m) * k)) }

// amountOf is the number an amount begins with, as people say it, and what stands behind it; false where there is none
// of either.
func amountOf(text string) (n float64, unit string, ok bool) {
	at := strings.IndexFunc(text, unicode.IsLetter)
	if at < 0 {
		return 0, "", false
	}
	n, err := measure.Read(strings.TrimSpace(text[:at]), "", nil)
	return n, strings.TrimSpace(text[at:]), err == nil && n > 0
}

// signs are none to three quarters.
var signs = []string{"", "¼", "½", "¾"}

// quarters writes an amount in quarters with its unit.
func quarters(n float64, unit string) string {
	whole, part := math.Modf(n)
	text := signs[int(math.Round(4*part))%4]
	if whole > 0 {
		text = strconv.FormatFloat(whole, 'f', 0, 64) + text
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
