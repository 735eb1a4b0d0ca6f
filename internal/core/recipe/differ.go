package recipe

import (
	"fmt"
	"math"
	"slices"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// Difference is what a batch has otherwise than the recipe it is of.
type Difference struct {
	request.Change
	Ratio bool // of an own recipe: what it holds to the flour
}

// ratios are the amounts of an own recipe that are held against its flour.
var ratios = []string{"eggs.fix_whole_eggs", "eggs.fix_extra_yolks", "eggs.liquid_g"}

// Differences returns what a batch has otherwise than its recipe, in the recipe's part alone, in the order of work:
// names apart, which a batch may have of its own, and never newer figures of the same flour, machine or lot. Of what is
// made at the maker's word also what is held to its flour, once one is scaled to the other.
func Differences(in measure.System, recipe, batch request.Request) (out []Difference) {
	for _, c := range request.ChangesIn(in, recipe, batch) {
		if c.From == c.To || PartOf(c.Field) != OfRecipe || c.Field.Path == "name" {
			continue
		}
		out = append(out, Difference{Change: c})
	}
	if recipe.Amount.By != request.ByOwn || batch.Amount.By != request.ByOwn || recipe.Amount.FlourG <= 0 {
		return out
	}
	k := batch.Amount.FlourG / recipe.Amount.FlourG
	for _, path := range ratios {
		f, _ := request.FieldAt(path)
		was, is := value(f, &recipe), value(f, &batch)
		want := was * k
		counted := path != "eggs.liquid_g"
		off := math.Abs(is-want) > math.Max(1, .02*want)
		if counted {
			off = math.Abs(is-want) > .5
		}
		if off {
			c := request.Change{Field: f, From: fmt.Sprint(want), To: f.Get(&batch)}
			c.FromShown, c.ToShown = shown(in, f, want), shown(in, f, is)
			out = append(out, Difference{Change: c, Ratio: true})
		}
	}
	slices.SortStableFunc(out, func(a, b Difference) int { return place(a.Field.Path) - place(b.Field.Path) })
	return out
}

// place is where a field stands in the order of work.
func place(path string) int {
	return slices.IndexFunc(request.Fields(), func(f request.Field) bool { return f.Path == path })
}

// value is a number a field holds, 0 where it holds none.
func value(f request.Field, r *request.Request) float64 {
	n, _ := measure.ParseNumber(f.Get(r))
	return n
}

func shown(in measure.System, f request.Field, v float64) string {
	if f.Unit == "g" {
		return in.Grams(v)
	}
	return measure.Trim(v)
}

// Words say a difference in one: "rest 16 h, not 30 min".
func (d Difference) Words() string {
	return fmt.Sprintf("%s: %s, not %s", d.Field.Label, d.ToShown, d.FromShown)
}

// scaledTo is a recipe at a batch's amount: only what is held to the flour of an own recipe moves.
func scaledTo(recipe, batch request.Request) request.Request {
	out := request.Pruned(request.Padded(recipe))
	if recipe.Amount.By == request.ByOwn && batch.Amount.By == request.ByOwn && recipe.Amount.FlourG > 0 {
		s := Scaled{Factor: batch.Amount.FlourG / recipe.Amount.FlourG}
		own(&out, &s)
		out.Amount.FlourG = batch.Amount.FlourG
	}
	return out
}

// Into takes chosen differences of a batch into its recipe, by their paths: the recipe's next version. A ratio is taken
// at the recipe's own amount.
func Into(recipe, batch request.Request, paths []string) request.Request {
	out, from := request.Padded(recipe), request.Padded(batch)
	for _, f := range request.Fields() {
		if !slices.Contains(paths, f.Path) {
			continue
		}
		if slices.Contains(ratios, f.Path) && recipe.Amount.By == request.ByOwn && batch.Amount.FlourG > 0 {
			v := value(f, &batch) * recipe.Amount.FlourG / batch.Amount.FlourG
			if f.Path != "eggs.liquid_g" {
				v = math.Round(v)
			}
			_ = f.Set(&out, measure.Trim(v))
			continue
		}
		if PartOf(f) == OfRecipe {
			f.Copy(&out, &from)
		}
	}
	return request.Pruned(out)
}

// Taken is what became of a recipe's newer version in a batch of an earlier one.
type Taken struct {
	Took    []request.Change // the recipe's change, taken
	Offered []request.Clash  // the batch had changed it, too: its own stands
}

// Newer takes what changed in a recipe since a batch was made of it: base is the version it was taken at, now the
// newest. What the batch has changed itself stays, and the recipe's is offered beside it.
func Newer(in measure.System, base, batch, now request.Request) (request.Request, Taken) {
	var t Taken
	was, is := scaledTo(base, batch), scaledTo(now, batch)
	out, from := request.Padded(batch), request.Padded(is)
	for _, c := range request.ChangesIn(in, was, is) {
		if c.From == c.To || c.Field.Path == "name" || PartOf(c.Field) != OfRecipe && !slices.Contains(ratios,
			c.Field.Path) {
			continue
		}
		padded := request.Padded(batch)
		mine := c.Field.Get(&padded)
		switch {
		case mine == c.To:
		case mine == c.From:
			c.Field.Copy(&out, &from)
			t.Took = append(t.Took, c)
		default:
			show := request.ChangesIn(in, is, batch)
			own := mine
			for _, x := range show {
				if x.Field.Path == c.Field.Path {
					own = x.ToShown
				}
			}
			t.Offered = append(t.Offered, request.Clash{Label: c.Field.Label, Was: c.FromShown, Theirs: c.ToShown,
				Mine: own})
		}
	}
	return request.Pruned(out), t
}
