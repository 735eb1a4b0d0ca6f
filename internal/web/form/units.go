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
	p, err := f.plainly(f.whole())
	if err != nil {
		return text
	}
	return strconv.FormatFloat(100*g/(p.Formula.FlourG-p.Formula.Pick.FlourAddG), 'f', 4, 64)
}

// asQuantity reads "2 kg", "1 lb 2 oz", "12 cm" or "half" in the unit of a field; a number, and what is none of
// these, is left as it is.
func asQuantity(field request.Field, text string) string {
	if _, number := measure.ParseNumber(text); number || field.Kind != request.Number && field.Kind != request.Whole {
		return text
	}
	metric, _ := request.FieldAt(field.Path)
	one, _ := field.Stored("1")
	nought, _ := field.Stored("0")
	v, ok := measure.ParseQuantity(text, measure.Unit(metric.Unit), one-nought)
	if !ok {
		return text
	}
	return field.Shown(v)
}

// asMinutes reads "45 s", "1:30" or "12 h" as minutes; other text is left as it is.
func asMinutes(text string) string {
	m, ok := measure.ParseMinutes(text)
	if !ok {
		return text
	}
	return strconv.FormatFloat(m, 'f', -1, 64)
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
