package plan

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"hollen/internal/core/cost"
	"hollen/internal/core/cut"
	"hollen/internal/core/doctor"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/request"
)

// Ingredient is one ingredient as a label lists it, and what is an allergen in it, "" when
// nothing is.
type Ingredient struct {
	Name, Allergen string
	G              float64
	Of             []Ingredient // what it is made of itself, in falling order; none where it is one thing
}

// WithAllergen is the name with its allergen, where the name does not say it.
func (x Ingredient) WithAllergen() string {
	if x.Allergen == "" || strings.Contains(strings.ToLower(x.Name), strings.TrimSuffix(strings.ToLower(x.Allergen),
		"s")) {
		return x.Name
	}
	return x.Name + " (" + x.Allergen + ")"
}

// DoughPart is one thing that goes into the dough.
type DoughPart struct {
	Key      string       // flour.1, eggs, top, addition.1, salt, oil; water, milk and egg worked in
	Name     string       // as a list has it
	Word     string       // within a sentence
	G        float64      // in all, g
	How      string       // what is done with it on the scale; "" of flour, eggs and liquid
	WorkedIn bool         // at the board, beyond what was planned
	Labels   []Ingredient // as a label calls what it is made of
	Price    *cost.Money  // of a kg; nil where none is said, or it has none
	Free     bool         // water: it has no price
}

// DoughParts returns what goes into the dough, in the order it is weighed, what is worked in at the board last. It is
// the one list of them: the page, the card, the bench, the label, the costs and what a day sets out walk it.
func (p *Plan) DoughParts() []DoughPart {
	f, r := &p.Formula, &p.Request
	var out []DoughPart
	add := func(x DoughPart) {
		if x.G > 0 {
			out = append(out, x)
		}
	}
	plain := func(key, name, label, allergen string, g float64, price *cost.Money) DoughPart {
		return DoughPart{Key: key, Name: name, Word: strings.ToLower(name), G: g,
			Labels: []Ingredient{{Name: label, Allergen: allergen, G: g}}, Price: price}
	}
	for i, x := range f.Flours {
		kind := r.Flours[i].Kind()
		part := plain(fmt.Sprintf("flour.%d", i+1), x.Name, kind.LabelName(), x.Allergen, x.MassG, r.Flours[i].Price())
		part.Word = x.Name
		add(part)
	}
	workedIn := 0. // of egg: what was said to be worked in is in the formula's
	if p.Room.Used != nil {
		workedIn = r.Acted(doctor.Egg)
	}
	words := p.EggWords()
	add(DoughPart{Key: "eggs", Name: words, Word: words, G: f.WholeG + f.YolkG - workedIn,
		Labels: []Ingredient{{Name: "egg", Allergen: "egg", G: f.WholeG - workedIn},
			{Name: "egg yolk", Allergen: "egg", G: f.YolkG}}})
	water := func(key string, g float64) DoughPart {
		part := plain(key, "Water", "water", "", g, nil)
		part.Free = true
		return part
	}
	milk := func(key string, g float64) DoughPart { return plain(key, "Milk", "milk", "milk", g, r.Prices.MilkKG) }
	if r.Eggs.TopUp == egg.TopMilk {
		add(milk("top", f.TopG))
	} else {
		add(water("top", f.TopG))
	}
	for i, a := range f.Additions {
		kind := r.Additions[i].Kind()
		part := plain(fmt.Sprintf("addition.%d", i+1), a.Name, kind.LabelName(), a.Allergen, a.MassG,
			r.Additions[i].Price())
		part.How = "Beside the bowl."
		add(part)
	}
	salt, oil := plain("salt", "Salt", "salt", "", f.SaltG, r.Prices.SaltKG),
		plain("oil", "Oil", "oil", "", f.OilG, r.Prices.OilKG)
	salt.How, oil.How = "Fine, into the flour.", "Into the jug."
	add(salt)
	add(oil)
	for _, x := range []DoughPart{water("water", p.waterG), milk("milk", p.milkG),
		plain("egg", "Egg", "egg", "egg", workedIn, nil)} {
		x.WorkedIn = true
		x.Word += " worked in"
		add(x)
	}
	return out
}

// Weighed are the parts that are weighed as they are: all but flour, eggs, liquid and what is worked in.
func (p *Plan) Weighed() []DoughPart {
	return slices.DeleteFunc(p.DoughParts(), func(x DoughPart) bool { return x.How == "" })
}

// DoughIngredients returns what went into the dough, in falling order of mass.
func (p *Plan) DoughIngredients() []Ingredient {
	var out []Ingredient
	for _, x := range p.DoughParts() {
		for _, l := range x.Labels {
			if l.G > 0 {
				out = append(out, l)
			}
		}
	}
	return falling(out)
}

// Ingredients returns what the label of a shape must list, in falling order of mass as they went
// in: the dough's, its filling in the share it has of what is sold, and the dusting.
func (p *Plan) Ingredients(x *CutPart) []Ingredient {
	out := p.DoughIngredients()
	scale := p.Formula.Dough.MassG / max(x.DoughG, 1e-9)
	if f := x.Filling; f != nil && f.Yolks > 0 {
		out = append(out, Ingredient{Name: "egg yolk", Allergen: "egg", G: f.YolksG * scale})
	}
	if x.FillG > 0 {
		out = append(out, p.fillingOnLabel(x.FillG*scale))
	}
	if d := p.Dusting(); d.Name != "" {
		out = append(out, Ingredient{Name: d.Name + " for dusting", Allergen: d.Allergen,
			G: p.rules.Dough.BoardFlourShare * p.Formula.Dough.MassG})
	}
	return falling(out)
}

// falling puts a list in falling order of mass. What a label calls by one name stands once.
func falling(list []Ingredient) (out []Ingredient) {
	for _, x := range list {
		if i := slices.IndexFunc(out, func(y Ingredient) bool {
			return y.Name == x.Name &&
				y.Allergen == x.Allergen
		}); i >= 0 {
			out[i].G += x.G
		} else {
			out = append(out, x)
		}
	}
	slices.SortStableFunc(out, func(a, b Ingredient) int { return cmp.Compare(b.G, a.G) })
	return out
}

// dusts are what a sheet may be dusted with, as a label lists it; no name where it is the dough's
// own flour.
var dusts = map[request.Dust]Ingredient{
	request.DustSemola: {Name: "semola", Allergen: "durum wheat"}, request.DustRice: {Name: "rice flour"},
	request.DustOwn: {},
}

// Dusting is what the sheets are dusted with; no name where it is the dough's own flour. Where nothing is said no wheat
// comes onto a dough
// that holds none.
func (p *Plan) Dusting() Ingredient {
	d := p.Request.Roll.Dust
	if d == request.DustAuto {
		d = request.DustSemola
		if !p.holdsGluten() {
			d = request.DustRice
		}
	}
	return dusts[d]
}

// holdsGluten says whether any flour of the dough is of a cereal with gluten.
func (p *Plan) holdsGluten() bool {
	return slices.ContainsFunc(p.parts, func(x flour.Part) bool {
		return x.Flour.Allergen != "" ||
			x.Flour.GlutenFactor > 0
	})
}

// allergens returns what a label must name, in the order of work: of all that went in, worked in or not.
func (p *Plan) allergens() []string {
	r := &p.Request
	var out []string
	add := func(a string) {
		if a != "" && !slices.Contains(out, a) {
			out = append(out, a)
		}
	}
	for _, x := range p.DoughParts() {
		for _, l := range x.Labels {
			if l.G > 0 {
				add(l.Allergen)
			}
		}
	}
	add(p.Dusting().Allergen)
	if r.Filled() {
		p.doughAllergens = len(out) // what follows is the filling's alone
		if slices.ContainsFunc(r.Shapes(), func(s cut.Shape) bool { return s.YolksEach > 0 }) {
			add("egg")
		}
		for _, a := range r.Cut.Filling.Holds() {
			add(strings.ToLower(a))
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
