package plan

import (
	"cmp"
	"slices"
	"strings"

	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
)

// Ingredient is one ingredient as a label lists it, and what is an allergen in it, "" when
// nothing is.
type Ingredient struct {
	Name, Allergen string
	G              float64
}

// Said is the name with its allergen, where the name does not say it.
func (x Ingredient) Said() string {
	if x.Allergen == "" || strings.Contains(strings.ToLower(x.Name), strings.TrimSuffix(strings.ToLower(x.Allergen), "s")) {
		return x.Name
	}
	return x.Name + " (" + x.Allergen + ")"
}

// DoughIngredients returns what went into the dough, in falling order of mass.
func (p *Plan) DoughIngredients() []Ingredient {
	f := &p.Formula
	var out []Ingredient
	add := func(name, allergen string, g float64) {
		if g > 0 {
			out = append(out, Ingredient{name, allergen, g})
		}
	}
	for _, x := range f.Flours {
		name := strings.ToLower(x.Name)
		if !strings.Contains(name, "flour") && !strings.Contains(name, "semol") {
			name += " flour"
		}
		add(name, x.Allergen, x.MassG)
	}
	add("egg", "egg", f.WholeG)
	add("egg yolk", "egg", f.YolkG)
	if p.Request.Eggs.TopUp == egg.TopMilk {
		add("milk", "milk", f.TopG+p.milkG)
	} else {
		add("water", "", f.TopG)
		add("milk", "milk", p.milkG)
	}
	add("salt", "", f.SaltG)
	add("oil", "", f.OilG)
	for _, a := range f.Additions {
		add(strings.ToLower(a.Name), a.Allergen, a.MassG)
	}
	falling(out)
	return out
}

// Ingredients returns what the label of a shape must list, in falling order of mass as they went
// in: the dough's, its filling in the share it has of what is sold, and the dusting.
func (p *Plan) Ingredients(x *CutPart) []Ingredient {
	out := p.DoughIngredients()
	if x.FillG > 0 {
		name := "filling"
		if n := p.Request.Cut.Filling.Name; n != "" {
			name = n + " filling"
		}
		out = append(out, Ingredient{name, p.Request.Cut.Filling.Allergens, x.FillG * p.Formula.Dough.MassG / x.DoughG})
	}
	out = append(out, Ingredient{"semola for dusting", "durum wheat", p.rules.Dough.BoardFlourShare * p.Formula.Dough.MassG})
	falling(out)
	return out
}

func falling(list []Ingredient) {
	slices.SortStableFunc(list, func(a, b Ingredient) int { return cmp.Compare(b.G, a.G) })
}

// allergens returns what a label must name, in the order of work.
func (p *Plan) allergens(parts []flour.Part) []string {
	r, f := &p.Request, &p.Formula
	var out []string
	add := func(a string) {
		for _, x := range out {
			if x == a {
				return
			}
		}
		if a != "" {
			out = append(out, a)
		}
	}
	for _, x := range parts {
		add(x.Flour.Allergen)
	}
	if f.WholeG+f.YolkG > 0 {
		add("egg")
	}
	if r.Eggs.TopUp == egg.TopMilk && f.TopG > 0 {
		add("milk")
	}
	for _, a := range f.Additions {
		add(a.Allergen)
	}
	add("durum wheat") // the dusting semola counts
	if r.Filled() {
		p.doughAllergens = len(out) // what follows is the filling's alone
		for _, a := range strings.Split(r.Cut.Filling.Allergens, ",") {
			add(strings.ToLower(strings.TrimSpace(a)))
		}
		return out
	}
	p.doughAllergens = len(out)
	return out
}

// AllergensOf returns what a shape of the batch holds, and what is handled beside it: the
// filling of another shape.
func (p *Plan) AllergensOf(x *CutPart) (in, beside []string) {
	all := p.Formula.Allergens
	if x.Shape.Traits().Filling {
		return all, nil
	}
	return all[:p.doughAllergens], all[p.doughAllergens:]
}
