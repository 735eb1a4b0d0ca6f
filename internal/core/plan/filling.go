package plan

import (
	"fmt"
	"strings"

	"hollen/internal/core/cost"
	"hollen/internal/core/egg"
	"hollen/internal/core/filling"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// FillingPart is one thing that goes into the filling, for as much of it as is made.
type FillingPart struct {
	Key       string // filling.1 and on
	Name      string
	G         float64
	Allergens []string
	Price     *cost.Money // of a kg; nil where none is said, or it has none
	Free      bool        // water
}

// FillingParts returns what goes into the filling, in the order it is written down; none where the filling is only
// named, or none is made. It is the one list of them: bench, sheet, set-out, costs and label walk it.
func (p *Plan) FillingParts() (out []FillingPart) {
	f := p.Request.Cut.Filling.Own
	if f == nil || p.Cut.FillTotalG <= 0 {
		return nil
	}
	for i, l := range f.For(p.Cut.FillTotalG) {
		x := FillingPart{Key: fmt.Sprintf("filling.%d", i+1), Name: measure.Capital(l.Name), G: l.G,
			Allergens: l.Allergens(), Free: l.Free()}
		if price := l.PricePerKG; price > 0 {
			x.Price = &price
		}
		out = append(out, x)
	}
	return out
}

// fillingAge is how many days before the batch its filling is made; 0 where it is made with it.
func (p *Plan) fillingAge() int {
	if p.Cut.FillTotalG <= 0 {
		return 0
	}
	return max(0, p.Request.Cut.Filling.AgeDays(p.Request.MadeOn))
}

// FillingMade is the day a filling that is made before the batch is made, yyyy-mm-dd; "" where it is made with it.
func (p *Plan) FillingMade() string {
	if p.fillingAge() == 0 {
		return ""
	}
	return p.Request.Cut.Filling.MadeOn
}

// fillingDays is how long a filling keeps in the fridge before it is cooked, days.
func (p *Plan) fillingDays() float64 {
	if p.Request.Cut.Filling.Safety().Raw() {
		return p.rules.Safety.RawFillDays
	}
	return p.rules.Safety.FridgeDays
}

// fillingBy is until when what holds a filling of an earlier day keeps, whatever else it is of; "" where it is made
// with the batch.
func (p *Plan) fillingBy() string {
	made := p.FillingMade()
	if made == "" {
		return ""
	}
	return measure.Later(made, p.fillingDays())
}

// fillingPast says that the filling has been kept too long by the day of the batch; "" where it has not.
func (p *Plan) fillingPast() string {
	if by := p.fillingBy(); by == "" || by >= p.Request.MadeOn {
		return ""
	}
	return fmt.Sprintf("Its filling is of %s; past %s usual advice is not to use it.",
		measure.DayWords(p.FillingMade()), measure.Days(p.fillingDays()))
}

// fillingOnLabel is the filling as a label lists it: what it is made of after its name.
func (p *Plan) fillingOnLabel(g float64) Ingredient {
	said := p.Request.Cut.Filling
	out := Ingredient{Name: "filling", Allergen: strings.Join(said.Holds(), ", "), G: g}
	if n := said.Called(); n != "" {
		out.Name = n + " filling"
	}
	if said.Own == nil {
		return out
	}
	named := map[string]bool{}
	for _, l := range filling.Falling(said.Own.For(g)) {
		for _, a := range l.Allergens() {
			named[a] = true
		}
		out.Of = append(out.Of, Ingredient{Name: measure.Uncapital(l.Name), Allergen: strings.Join(l.Allergens(), ", "),
			G: l.G})
	}
	var more []string // said of the whole
	for _, a := range filling.Listed(said.Own.Contains) {
		if !named[a] {
			more = append(more, a)
		}
	}
	out.Allergen = strings.Join(more, ", ")
	return out
}

// Eaten is what 100 g of a shape hold, raw: its dough, its filling and yolks set in, in the shares they have of it. The
// names of what is not known, where there is any, and then no figure counts.
func (p *Plan) Eaten(x *CutPart) (sum filling.Food, unknown []string) {
	d := &p.Formula.Dough
	dough := filling.Food{Fat: d.FatG, Carb: d.CarbG, Protein: d.ProteinG, Salt: p.Formula.SaltG}
	made := x.DoughG
	sum = sum.And(dough, x.DoughG/d.MassG)
	if f := x.Filling; f != nil {
		made += x.FillG + f.YolksG
		yolk := egg.Yolk
		sum = sum.And(filling.Food{Fat: yolk.Fat, Carb: yolk.Carb, Protein: yolk.Protein}, f.YolksG)
		own := p.Request.Cut.Filling.Own
		if own == nil {
			return filling.Food{}, []string{"the filling"}
		}
		food, unknown := own.Eaten()
		if len(unknown) > 0 {
			return filling.Food{}, unknown
		}
		sum = sum.And(food, x.FillG/100)
	}
	if made <= 0 {
		return filling.Food{}, nil
	}
	return filling.Food{}.And(sum, 100/made), nil
}

// EnergyWords is what 100 g of a shape hold in energy, raw: "1,046 kJ, 250 kcal"; "" where that is not known.
func (p *Plan) EnergyWords(x *CutPart) string {
	food, unknown := p.Eaten(x)
	if len(unknown) > 0 || food.Kcal() <= 0 {
		return ""
	}
	return fmt.Sprintf("%s kJ, %s kcal", measure.Thousands(food.KJ()), measure.Thousands(food.Kcal()))
}

// adviseOwnFilling is what is said of a filling of the cabinet, or of an earlier day.
func (p *Plan) adviseOwnFilling() {
	f := p.Request.Cut.Filling
	if past := p.fillingPast(); past != "" {
		head, rest, _ := strings.Cut(past, "; ")
		p.note(request.AtCut, "cut.filling.made_on", Caution, "filling_old", head+".", "%s", measure.Capital(rest))
	}
	if own := f.Own; own != nil && !own.Read {
		holds := "nothing"
		if all := own.Holds(); len(all) > 0 {
			holds = measure.List(all)
		}
		p.note(request.AtCut, "cut.filling.of", Warning, "filling_unread", "Are its allergens right?",
			"By the names of what goes in it holds %s. Hold that against the packs, and tick it at the filling in the "+
				"cabinet.", holds)
	}
}
