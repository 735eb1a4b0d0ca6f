package batch

import (
	"fmt"
	"html/template"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
)

// cookView is the pot.
type cookView struct{ *batchView }

// InThePot are the water and the salt that one pot gets, for the largest load.
func (v cookView) InThePot() template.HTML {
	n, unit := v.In.Number(v.Plan.Cook.InPotL, measure.L, 1)
	label := "Water and salt, in the pot"
	switch in := v.Plan.Request.Cook.In; {
	case in == request.InSoup:
		return v.Fig("In the soup", "as it stands", "", "cook.pot")
	case in == request.InBroth:
		return v.Fig("Broth", n, unit, "cook.pot")
	case v.Plan.Cook.PotsUsed > 1:
		label = fmt.Sprintf("Water and salt, in each of %d pots", v.Plan.Cook.PotsUsed)
	}
	return v.Fig(label, n, unit+" and "+v.In.Grams(v.Plan.Cook.InPotG), "cook.pot")
}

// Loads is how many loads go in, one after the other.
func (v cookView) Loads() template.HTML {
	n, all := 0, 0.
	for _, t := range v.Plan.Cook.Turns {
		n, all = n+t.Loads, all+t.LoadG*float64(t.Loads)
	}
	if n < 2 {
		return v.Fig("In one load", v.In.Grams(all), "", "cook.loads")
	}
	if turns := v.Plan.Cook.Turns; len(turns) == 1 {
		return v.Fig("Loads, one after the other", fmt.Sprint(n), "of "+v.In.Grams(turns[0].LoadG), "cook.loads")
	}
	return v.Fig("Loads, one after the other", fmt.Sprint(n), "shape by shape", "cook.loads")
}

// TurnRow is one shape in the pot, as a line of the table.
type TurnRow struct{ Shape, Loads, From, To, How string }

// Turns are the shapes in the order they go in.
func (v cookView) Turns() (out []TurnRow) {
	for _, t := range v.Plan.Cook.Turns {
		r := TurnRow{Shape: t.Shape, Loads: v.In.Grams(t.LoadG), From: measure.MinSec(t.FromS),
			To: measure.MinSec(t.ToS)}
		if t.Loads > 1 {
			r.Loads = fmt.Sprintf("%d × %s", t.Loads, r.Loads)
		}
		if t.Raw != "" {
			r.How = measure.Capital(t.Raw) + " inside: cooked through, not by taste."
		}
		out = append(out, r)
	}
	return out
}

// Raw says what is raw in what is cooked; "" where nothing is.
func (v cookView) Raw() string {
	for _, t := range v.Plan.Cook.Turns {
		if t.Raw != "" {
			return t.Raw
		}
	}
	return ""
}

// Time is the first shape's time in the pot: the maker's own, or from when it is tasted; what is raw inside is cooked
// through.
func (v cookView) Time() template.HTML {
	k := &v.Plan.Cook
	from := measure.MinSec(k.FromS)
	switch {
	case v.own() && k.ToS > k.FromS:
		return v.Fig("In the pot, by your own clock", from+" to "+measure.MinSec(k.ToS), "", "cook.time")
	case v.own():
		return v.Fig("In the pot, by your own clock", from, "", "cook.time")
	case v.Plan.RawIn(&v.Plan.Cut.CutPart):
		return v.Fig("To the centre, at least", from, "", "cook.time")
	}
	return v.Fig("Taste from", from, "", "cook.time")
}

func (v cookView) own() bool {
	_, _, said := v.Plan.Request.Cook.OwnS()
	return said
}

func cookKey(p *plan.Plan) string { return measure.MinSec(p.PotS()) }
