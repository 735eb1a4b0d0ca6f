package recipe

import (
	"errors"
	"slices"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// Besides is what a recipe says beside its request.
type Besides struct {
	// Names are what it is asked for by besides its own name: "tagl.", "egg ribbons".
	Names []string `json:"other_names,omitempty"`
	Label Label    `json:"label,omitzero"`
	// BoxG is what a box of it holds as it is sold, g; 0: it is not sold by boxes.
	BoxG float64 `json:"box_g,omitempty"`
}

// Label is what a label says of a product beside what follows from the plan.
type Label struct {
	Product    string `json:"product,omitempty"`     // what it is called; "": its shape's name
	MadeBy     string `json:"made_by,omitempty"`     // who makes it, and where; "": as the house says
	MayContain string `json:"may_contain,omitempty"` // allergens that may have come to it
}

// The most letters of a label's lines.
const (
	MostProduct    = 60
	MostMadeBy     = 160
	MostMayContain = 120
)

// Check returns an error for every line that is too long.
func (l *Label) Check() error {
	var errs []error
	for _, x := range []struct {
		field, text string
		most        int
	}{{"product", l.Product, MostProduct}, {"made_by", l.MadeBy, MostMadeBy}, {"may_contain", l.MayContain,
		MostMayContain}} {
		if n := len([]rune(x.text)); n > x.most {
			errs = append(errs, measure.Faultf(x.field, "%d letters; at most %d are allowed", n, x.most))
		}
	}
	return errors.Join(errs...)
}

// Check returns an error where there are too many other names, one is too long or empty, or a line of the label is too
// long.
func (b *Besides) Check() error {
	read, err := ReadNames(strings.Join(b.Names, ","))
	if err == nil && len(read) != len(b.Names) {
		err = measure.Faultf("other_names", "each once, without commas, and none empty")
	}
	var box error
	if g := b.BoxG; g != 0 && !(g >= leastBoxG && g <= mostBoxG) {
		box = measure.Faultf("box_g", "%d to %d g is allowed; empty where it is not sold by boxes", leastBoxG, mostBoxG)
	}
	return errors.Join(err, b.Label.Check(), box)
}

// The least and the most a box holds, g.
const leastBoxG, mostBoxG = 50, 25000

// Differs says in words which parts of two are not the same.
func (b *Besides) Differs(from Besides) (out []string) {
	if !slices.Equal(b.Names, from.Names) {
		out = append(out, "other names")
	}
	if b.Label != from.Label {
		out = append(out, "label")
	}
	if b.BoxG != from.BoxG {
		out = append(out, "what a box holds")
	}
	return out
}

// MostNames is how many other names a recipe may have, MostLetters how long each may be.
const MostNames, MostLetters = 12, 80

// ReadNames reads other names from a line, parted by commas; an error where they are too many or too long.
func ReadNames(text string) ([]string, error) {
	var out []string
	for part := range strings.SplitSeq(text, ",") {
		name := strings.Join(strings.Fields(part), " ")
		if name == "" || slices.Contains(out, name) {
			continue
		}
		if len([]rune(name)) > MostLetters {
			return nil, measure.Faultf("other_names", "at most %d letters each are allowed", MostLetters)
		}
		out = append(out, name)
	}
	if len(out) > MostNames {
		return nil, measure.Faultf("other_names", "at most %d names are allowed", MostNames)
	}
	return out, nil
}

// Of is a request as a recipe has it: the day's fields are as usual, since a recipe holds no day, no room, no lot and
// no maker.
func Of(r request.Request) request.Request {
	out, usual := request.Padded(r), request.Padded(request.Default())
	for _, f := range request.Fields() {
		if PartOf(f) == OfDay && f.Group == "" {
			f.Copy(&out, &usual)
		}
	}
	out = request.Pruned(out)
	for i := range out.Flours {
		x := &out.Flours[i]
		bare := request.NoFlour()
		bare.Flour, bare.Share, bare.Own = x.Flour, x.Share, x.Own
		*x = bare
	}
	for i := range out.Additions {
		out.Additions[i].PricePerKG = nil
	}
	out.Acts, out.Dry.Log = []request.Act{}, []request.DryCheck{}
	return out
}

// On gives a recipe's request the day of another: its room, eggs, hands and prices, which a batch starts from.
func On(r, day request.Request) request.Request {
	out, from := request.Padded(r), request.Padded(day)
	for _, f := range request.Fields() {
		if PartOf(f) == OfDay && f.Group == "" {
			f.Copy(&out, &from)
		}
	}
	return request.Pruned(out)
}
