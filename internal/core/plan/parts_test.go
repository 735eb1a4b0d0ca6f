package plan

import (
	"math"
	"slices"
	"strings"
	"testing"

	"hollen/internal/core/cost"
	"hollen/internal/core/doctor"
	"hollen/internal/core/egg"
	"hollen/internal/core/request"
)

// What goes into the dough makes the whole of it, whatever is worked in; the label lists all of it, and what has a
// price is priced.
func TestPartsMakeTheDough(t *testing.T) {
	price := cost.Money(1_0000)
	for name, change := range map[string]func(*request.Request){
		"as planned": func(*request.Request) {},
		"milk": func(r *request.Request) {
			r.Eggs.Style, r.Eggs.TopUp = egg.WholeWater, egg.TopMilk
		},
		"water and milk worked in": func(r *request.Request) {
			r.Acts = []request.Act{
				{Kind: doctor.Water, Amount: 30, Stage: request.AtKnead},
				{Kind: doctor.Milk, Amount: 19, Stage: request.AtKnead}}
		},
		"no egg, and then egg": func(r *request.Request) {
			r.Eggs.Style = egg.NoEgg
			r.Acts = []request.Act{{Kind: doctor.Egg, Amount: 49, Stage: request.AtKnead}}
		},
		"milk on milk": func(r *request.Request) {
			r.Eggs.Style, r.Eggs.TopUp = egg.WholeWater, egg.TopMilk
			r.Acts = []request.Act{
				{Kind: doctor.Milk, Amount: 19, Stage: request.AtKnead}}
		},
		"spinach, oil and salt": func(r *request.Request) {
			r.Additions = []request.AdditionPart{{Addition: "spinach", Share: .2}}
			r.Oil, r.Salt = .03, .01
		},
	} {
		r := request.Default()
		change(&r)
		r.Prices.MilkKG = &price
		p := must(t, r)
		sum, labels, worked := 0., 0., 0.
		for _, x := range p.DoughParts() {
			sum += x.G
			if x.WorkedIn {
				worked += x.G
			}
		}
		for _, x := range p.DoughIngredients() {
			labels += x.G
		}
		want := p.Formula.Dough.MassG + p.Room.BoardLossG
		if math.Abs(sum-want) > .05 || math.Abs(labels-want) > .05 {
			t.Errorf("%s: the parts make %.2f g, the label lists %.2f, the dough is %.2f", name, sum, labels, want)
		}
		for _, x := range p.DoughIngredients() { // what was worked in is an allergen like any other
			if in, _ := p.AllergensOf(&p.Cut.CutPart); x.Allergen != "" && !slices.Contains(in, x.Allergen) {
				t.Errorf("%s: %s goes in, and the label names %v", name, x.Name, in)
			}
		}
		priced := 0.
		for _, l := range p.Cost.Lines {
			if strings.HasPrefix(l.Name, "Milk") {
				priced += float64(l.Cost) / float64(price) * 1000
			}
		}
		milk := 0.
		for _, x := range p.DoughIngredients() {
			if x.Name == "milk" {
				milk = x.G
			}
		}
		if math.Abs(priced-milk) > .1 {
			t.Errorf("%s: %.2f g of milk go in, %.2f are priced", name, milk, priced)
		}
		if strings.Contains(name, "worked in") && math.Abs(worked-49) > 1 {
			t.Errorf("%.2f g are worked in", worked)
		}
	}
}
