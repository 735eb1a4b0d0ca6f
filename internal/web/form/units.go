package form

import (
	"strconv"
	"strings"

	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// shownAs turns what Hollen chose for a field, as metric, into what the field shows of it.
func shownAs(f request.Field, chosen string) string {
	if !f.Rounded {
		return chosen
	}
	n, ok := measure.ParseNumber(chosen)
	if !ok {
		return chosen
	}
	if f.Unit == measure.Customary.Name(measure.G) { // no finer than figures in sentences
		return measure.Ounces(n * f.Show)
	}
	return f.Shown(n)
}

// Auto returns what Hollen chose for a field, as the field shows it; "" where it chooses nothing.
func (f *Form) Auto(field request.Field) string { return shownAs(field, Chosen(f.Plan, field)) }

// gramsAsShare reads "200 g" or "7 oz" as a share, in %, of the flour in all; other text is left
// as it is.
func (f *Form) gramsAsShare(text string) string {
	g, ok := measure.ParseMass(text)
	if !ok {
		return text
	}
	p, err := f.plainly(f.withoutEmpty())
	if err != nil {
		return text
	}
	return strconv.FormatFloat(100*g/(p.Formula.FlourG-p.Formula.Pick.FlourAddG), 'f', 4, 64)
}

// dryingAsMoisture reads "20/17.6", a sample before and after drying, as its moisture in %;
// other text is left as it is.
func dryingAsMoisture(text string) string {
	before, after, ok := strings.Cut(text, "/")
	a, okA := measure.ParseNumber(before)
	b, okB := measure.ParseNumber(after)
	m, err := flour.LossOnDrying(a, b)
	if !ok || !okA || !okB || err != nil {
		return text
	}
	return strconv.FormatFloat(100*m, 'f', 2, 64)
}
