package batch

import (
	"cmp"
	"fmt"
	"html/template"
	"math"
	"net/url"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/web/form"
)

// A new batch is asked for by one figure and what it is of. Both are fields of its form alone.
const (
	muchField = "much"
	ofField   = "much_of"
)

// ofEggs is an amount said in eggs as they are cracked: the flour that suits them is worked out.
const ofEggs = "count"

// amountOf is a thing an amount may be of.
type amountOf struct {
	Key  string
	By   request.By
	Path string   // its field in the request, "" for eggs
	said []string // how it may be said behind the figure
}

// amountsOf are the ways to say how much a new batch is.
var amountsOf = []amountOf{
	{"portions", request.ByPortions, "amount.portions", []string{"portions", "portion", "servings", "serving"}},
	{"dough", request.ByDough, "amount.dough_g", []string{"of dough", "dough"}},
	{"flour", request.ByFlour, "amount.flour_g", []string{"of flour", "flour"}},
	{ofEggs, request.ByFlour, "", []string{"eggs", "egg"}},
	{"eaters", request.ByEaters, "amount.eaters", []string{"people", "eaters", "guests"}},
}

// amountAt returns the way of that key, portions for an unknown one.
func amountAt(key string) amountOf {
	for _, a := range amountsOf {
		if a.Key == key {
			return a
		}
	}
	return amountsOf[0]
}

// saidOf reads what stands behind a figure: "4 eggs" are eggs, whatever is picked beside them. Grams of who knows what
// are asked about.
func saidOf(text string, of amountOf) (figure string, is amountOf, ask string) {
	text = strings.ToLower(strings.TrimSpace(text))
	for _, a := range amountsOf {
		for _, word := range a.said {
			if rest, has := strings.CutSuffix(text, word); has && strings.TrimSpace(rest) != "" {
				return strings.TrimSpace(rest), a, ""
			}
		}
	}
	counted := of.Path == "" || of.By == request.ByPortions || of.By == request.ByEaters
	if _, weighed := measure.ParseMass(text); weighed && counted {
		return text, of, fmt.Sprintf("“%s” of dough or of flour? Pick it beside", text)
	}
	return text, of, ""
}

// much is the amount of a new batch as it stands in the form.
type much struct {
	Value, Of, Error string
	figure           string // of Value without what it is of
}

// takeMuch turns the figure of a new batch into the field of the request it stands for, in asked. eggs is how many
// were said, 0 where it is none; wrong is what is not allowed.
func takeMuch(values, asked url.Values) (m much, eggs int, wrong *request.FieldError) {
	m = much{Value: values.Get(muchField), Of: amountAt(values.Get(ofField)).Key}
	text, of, ask := saidOf(m.Value, amountAt(m.Of))
	m.Of = of.Key
	m.figure = text
	refuse := func(allowed string) *request.FieldError {
		return &request.FieldError{Path: muchField, Label: "How much", Value: m.Value, Allowed: allowed}
	}
	for _, a := range amountsOf {
		asked.Del(cmp.Or(a.Path, ofEggs))
	}
	asked.Set("amount.by", string(of.By))
	switch {
	case ask != "":
		return m, 0, refuse(ask)
	case of.Path != "":
		asked.Set(of.Path, text)
		return m, 0, nil
	}
	n, ok := measure.ParseNumber(text)
	if field, _ := request.FieldAt("eggs.fix_whole_eggs"); !ok || n != math.Trunc(n) || n < 1 || n > field.Max {
		return m, 0, refuse(fmt.Sprintf("a whole number of eggs, from 1 to %s", measure.Thousands(field.Max)))
	}
	return m, int(n), nil
}

// muchOf is how a request says its amount; of another way than a new batch asks by, portions.
func muchOf(r *request.Request, in measure.System) much {
	for _, a := range amountsOf {
		if a.By == r.Amount.By && a.Path != "" {
			field, _ := request.FieldAt(a.Path)
			return much{Value: field.In(in).Get(r), Of: a.Key}
		}
	}
	return much{Value: "4", Of: amountsOf[0].Key}
}

// muchWay is a line of what an amount may be of.
type muchWay struct {
	Key, Name string
	Picked    bool
}

// Ways are the things the amount may be of, in the units of the page.
func (v newBatchView) Ways() (out []muchWay) {
	mass := form.AnyMass().In(v.In).Unit
	names := map[string]string{"portions": "portions", "dough": mass + " of dough", "flour": mass + " of flour",
		ofEggs: "eggs", "eaters": "people, " + v.In.Grams(v.Request.Amount.EachG) + " of flour each"}
	for _, a := range amountsOf {
		out = append(out, muchWay{a.Key, names[a.Key], a.Key == v.Much.Of})
	}
	return out
}

// Called is the field of the name, which may stay empty: the batch is then called after what it is.
func (v newBatchView) Called() template.HTML {
	c := v.Control("name")
	if c.Value == unnamed {
		c.Value = ""
	}
	c.Auto = v.Call
	return c.HTML()
}

// calledAfter is what a batch is called that nobody gave a name: what it becomes, and how much of it was asked for.
func (f *newForm) calledAfter() string {
	name := f.Plan.Cut.Shape.Name
	if f.Much.Error != "" {
		return ""
	}
	if f.Plan.Cut.Shape.Family == cut.Undecided {
		name = "Fresh pasta"
	}
	switch a := &f.asked; {
	case f.eggs > 0:
		return fmt.Sprintf("%s, %s", name, measure.Plural(f.eggs, "egg", "eggs"))
	case a.By == request.ByPortions:
		return fmt.Sprintf("%s for %g", name, a.Portions)
	case a.By == request.ByEaters:
		return fmt.Sprintf("%s for %g", name, a.Eaters)
	case a.By == request.ByDough:
		return fmt.Sprintf("%s, %s of dough", name, f.massAsSaid(a.DoughG))
	case a.By == request.ByFlour:
		return fmt.Sprintf("%s, %s of flour", name, f.massAsSaid(a.FlourG))
	}
	return name + ", as I make it"
}

// massAsSaid is the mass of the amount as it was typed, with its unit: a name is written in no other marks than its
// maker's.
func (f *newForm) massAsSaid(g float64) string {
	switch said := f.Much.figure; {
	case said == "":
		return f.In.Grams(g)
	case strings.Trim(said, "0123456789.,' ") != "": // with its unit
		return said
	default:
		return said + " " + form.AnyMass().In(f.In).Unit
	}
}
