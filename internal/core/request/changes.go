package request

import (
	"cmp"
	"slices"
	"strings"

	"hollen/internal/core/measure"
)

// Change is one difference between two requests, as a maker would read it.
type Change struct {
	Field     Field
	From, To  string // as Get
	FromShown string // with unit or the option's name
	ToShown   string
}

// Changes returns what differs from a to b, in the order of work, said in metric.
func Changes(a, b Request) []Change { return ChangesIn(measure.Metric, a, b) }

// ChangesIn is Changes said in another system of units.
func ChangesIn(in measure.System, a, b Request) []Change {
	var out []Change
	for _, f := range Fields() {
		x, y := f.Get(&a), f.Get(&b)
		if x != y {
			out = append(out, Change{f, x, y, a.say(in, f), b.say(in, f)})
		} else if was, is := f.KeptBy(&a), f.KeptBy(&b); was != nil && is != nil && !Same(*was, *is) {
			out = append(out, Change{f, x, y, was.Name, is.Name + ", newer figures"})
		}
	}
	return out
}

// say is Field.Say, which does not know the names of the workshop's own things.
func (r *Request) say(in measure.System, f Field) string {
	if own := f.KeptBy(r); own != nil {
		return own.Name
	}
	if !f.Has(r) {
		return "none"
	}
	if f.Path == MeasuresPath {
		return cmp.Or(r.Measures.Words(in), "none")
	}
	f = f.In(in)
	return in.Prose(f.Say(f.Get(r)))
}

// Say returns a value got by Get with its unit or its name.
func (f Field) Say(v string) string {
	switch f.Kind {
	case Choice:
		for _, o := range slices.Concat(f.Options, f.Gone) {
			if o.Key == v {
				return o.Name
			}
		}
		if v == "" {
			return "none"
		}
	case Flag:
		if v == "" {
			return "no"
		}
	case Date, Moment:
		if v == "" {
			return "not said"
		}
		return measure.MomentWords(v)
	case Price:
		if v == "" {
			return "not said"
		}
		return strings.TrimSpace(v + " " + f.Unit)
	case Number, Whole:
		if v == "" {
			return "as Hollen works out"
		}
		v = measure.Grouped(v)
		return strings.TrimSpace(v + " " + f.Unit)
	}
	return v
}
