package web

import (
	"fmt"
	"sort"
	"strings"

	"hollen/internal/core/plan"
)

// Ingredient is one line of a label.
type Ingredient struct {
	Name     string
	Allergen bool
	G, Share float64 // share of the dough
}

// Ingredients returns what went into the dough in falling order of mass.
func (v *batchView) Ingredients() []Ingredient {
	f := &v.Plan.Formula
	var out []Ingredient
	add := func(name string, allergen bool, g float64) {
		if g > 0 {
			out = append(out, Ingredient{name, allergen, g, 0})
		}
	}
	for _, x := range f.Flours {
		name := strings.ToLower(x.Name)
		if !strings.Contains(name, "flour") && !strings.Contains(name, "semol") {
			name += " flour"
		}
		if x.Allergen != "" && !strings.Contains(name, x.Allergen) {
			name += " (" + x.Allergen + ")"
		}
		add(name, x.Allergen != "", x.MassG)
	}
	add("egg", true, f.WholeG)
	add("egg yolk", true, f.YolkG)
	add(v.Plan.TopWord(), v.Plan.TopWord() == "milk", f.TopG)
	add("salt", false, f.SaltG)
	add("oil", false, f.OilG)
	for _, a := range f.Additions {
		name := strings.ToLower(a.Name)
		if a.Allergen != "" && !strings.Contains(name, strings.TrimSuffix(a.Allergen, "s")) {
			name += " (" + a.Allergen + ")"
		}
		add(name, a.Allergen != "", a.MassG)
	}
	sort.SliceStable(out, func(i, j int) bool { return out[i].G > out[j].G })
	for i := range out {
		out[i].Share = out[i].G / f.Dough.MassG
	}
	return out
}

// Nutrient is one row of the nutrition table.
type Nutrient struct{ Name, Per100, PerPortion string }

// Nutrition returns the raw dough's energy, fat, carbohydrate, protein and added salt.
func (v *batchView) Nutrition() []Nutrient {
	d, portion := v.Plan.Formula.Dough, v.Plan.Formula.PortionG/100
	gram := func(name string, g float64) Nutrient {
		per := 100 * g / d.MassG
		return Nutrient{name, fmt.Sprintf("%.1f g", per), fmt.Sprintf("%.1f g", per*portion)}
	}
	return []Nutrient{
		{"Energy", plan.Thousands(d.KJPer100G) + " kJ", plan.Thousands(d.KJPer100G*portion) + " kJ"},
		{"", plan.Thousands(d.KcalPer100G) + " kcal", plan.Thousands(d.KcalPer100G*portion) + " kcal"},
		gram("Fat", d.FatG), gram("Carbohydrate", d.CarbG), gram("Protein", d.ProteinG), gram("Added salt", v.Plan.Formula.SaltG),
	}
}
