package web

import (
	"fmt"

	"hollen/internal/core/plan"
)

// Ingredient is one line of a label.
type Ingredient struct {
	Name     string
	Allergen bool
	G, Share float64 // share of the dough
}

// Ingredients returns what went into the dough in falling order of mass.
func (v *batchView) Ingredients() (out []Ingredient) {
	for _, x := range v.Plan.DoughIngredients() {
		out = append(out, Ingredient{x.Said(), x.Allergen != "", x.G, x.G / v.Plan.Formula.Dough.MassG})
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
