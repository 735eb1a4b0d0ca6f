package batch

import (
	"fmt"
	"html/template"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/egg"
	"hollen/internal/core/filling"
	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/web/page"
)

// formulaView is the formula.
type formulaView struct {
	*batchView
	slots []Slot // made once
	adds  []Add
}

// Slot is one line of the blend.
type Slot struct {
	N                            int
	Flour, Share, Lot, Price     Control
	Mass                         Control // of the flour, where it is weighed
	Kept, Days, KG, Wet          Control
	Named, Shown, InLot, HasLots bool
	Name, LotWords               string
	G                            float64
}

// Measured says of the flours that were measured out what they may weigh; "" where all are weighed.
func (v *formulaView) Measured() string {
	var out []string
	for _, s := range v.Page.Measured() {
		if strings.HasPrefix(s.Path, "flours.") || s.Path == "amount.flour_g" {
			out = append(out, s.Text+": "+s.Weighs(v.In))
		}
	}
	if len(out) == 0 {
		return ""
	}
	return measure.Capital(strings.Join(out, "; ")) + "."
}

// Slots returns the lines of the blend: those with a flour, and one more to pick.
func (v *formulaView) Slots() []Slot {
	if v.slots == nil {
		v.slots = v.lineUp()
	}
	return v.slots
}

// Line is the slot as a line on the page; the first flour takes the rest and is typed no share.
func (s Slot) Line() template.HTML {
	l := Line{N: s.N, What: s.Flour, Much: s.Share, Mass: &s.Mass, Show: s.Shown}
	share := template.HTML("")
	if s.N == 0 {
		share = template.HTML(`<output id="rest-share" data-live="text">` + page.Esc(s.Share.Value) + `</output>`)
	}
	return l.slot(fmt.Sprintf("c-slot%d", s.N), "%", share)
}

// noFlour is the choice that empties a slot of the blend, by its number; of the third on as of the
// second.
var noFlour = []template.HTML{"", `<option value="">No second flour</option>`,
	`<option value="">No other flour</option>`}

func (v *formulaView) lineUp() []Slot {
	var out []Slot
	open, used := true, 0
	for i, x := range v.Page.Flours {
		p := fmt.Sprintf("flours.%d.", i)
		s := Slot{N: i, Flour: v.Control(p + "flour"), Share: v.Control(p + "share"), Mass: v.Weighed(p+"share", ""),
			Named: x.Flour != "", Shown: x.Flour != "" || open, InLot: x.LotKept != nil}
		if i > 0 && !v.Lean {
			s.Flour.Options = noFlour[min(i, 2)] + s.Flour.Options
		}
		if s.Named && used < len(v.Plan.Formula.Flours) {
			s.Name, s.G = v.Plan.Formula.Flours[used].Name, v.Plan.Formula.Flours[used].MassG
			used++
		} else {
			open = false
			s.Share.Value = v.Typed[p+"share"]
		}
		s.Lot, s.Price = v.Control(p+"lot"), v.Control(p+"price_per_kg").hinted(s.Name)
		s.HasLots = x.Lot != "" || slices.ContainsFunc(v.Cabinet.Lots,
			func(l flour.Lot) bool { return l.Flour == x.Flour })
		s.Kept = v.Control(p + "kept").hinted(s.Name)
		s.Days = v.Control(p + "open_days")
		s.KG = v.Control(p + "container_kg")
		s.Wet = v.Control(p + "measured_moisture_wb").hinted("%, or 20/17.6")
		for _, c := range []*Control{&s.Kept, &s.Days, &s.KG} {
			c.Hidden = s.InLot && c.Error == ""
		}
		if l := x.LotKept; l != nil {
			s.LotWords = fmt.Sprintf("%s, %s", v.In.KG(l.ContainerKG, measure.Shortest),
				strings.ToLower(page.OptionName(request.Keepings(), string(l.How))))
			if l.OpenedOn != "" {
				s.LotWords += ", open since " + measure.DayWords(l.OpenedOn)
				if v.Page.MadeOn != "" {
					s.LotWords += ": " + measure.Plural(int(x.OpenDays), "day", "days")
				}
			}
			if l.BestBefore != "" {
				s.LotWords += "; best before " + measure.DayWords(l.BestBefore)
			}
		}
		out = append(out, s)
	}
	return out
}

// Add is one addition: what it is, how much, and what of it is usual.
type Add struct {
	Line
	Price Control
	G     float64
	Usual string
}

// Adds returns the lines of the additions: those that hold one, and one more to pick.
func (v *formulaView) Adds() []Add {
	if v.adds != nil {
		return v.adds
	}
	used := 0
	for i, l := range v.lines("additions", "share") {
		mass := v.Weighed(fmt.Sprintf("additions.%d.share", i), "")
		l.Mass = &mass
		a := Add{Line: l, Price: v.Control(fmt.Sprintf("additions.%d.price_per_kg", i))}
		if l.Named {
			kind := v.Page.Additions[i].Kind()
			a.Usual = fmt.Sprintf("usual %.3g–%.3g %%", 100*kind.LowShare, 100*kind.HighShare)
			a.Price.Label = kind.Name
			if used < len(v.Plan.Formula.Additions) {
				a.G = v.Plan.Formula.Additions[used].MassG
				used++
			}
		}
		v.adds = append(v.adds, a)
	}
	return v.adds
}

// Alsos returns the lines of other eggs.
func (v *formulaView) Alsos() []Line { return v.lines("eggs.also", "count") }

// Way is one row of the ways there.
type Way struct {
	Words, Apart string // the eggs; what sets it apart
	EggPct, TopG float64
	YolkPct      float64 // extra yolk in the egg, %
	WhitesG      float64 // left over
	Hw           float64
	Colour       string
	Set          string // what takes it
	On           bool
}

// Ways returns the answer taken and the alternatives.
func (v *formulaView) Ways() []Way {
	f := &v.Plan.Formula
	free := f.FlourG - f.Pick.FlourAddG
	picks := append([]egg.Solution{f.Pick}, f.Eggs.Alternatives...)
	var out []Way
	for i, s := range picks {
		w := Way{Words: wayWords(v.Plan, s, i == 0), EggPct: 100 * s.EggG / (free + s.FlourAddG), TopG: s.TopG,
			YolkPct: 100 * s.YolkShare, WhitesG: s.WhitesG,
			Hw: s.Hw, Colour: v.Plan.TintOf(s).Face, On: i == 0, Apart: v.Plan.FeelOf(s),
			Set: fmt.Sprintf("eggs.fix_whole_eggs=%d&eggs.fix_extra_yolks=%d&eggs.cracked_g=&eggs.by_weight=", s.Whole,
				s.Yolks)}
		switch {
		case s.Name == egg.OwnAnswer:
			w.Set, w.Apart = "eggs.fix_whole_eggs=&eggs.fix_extra_yolks=&eggs.cracked_g=&eggs.by_weight=",
				"Hollen’s own answer"
			if v.Plan.AsMade() {
				w.Set += fmt.Sprintf("&amount.by=flour&amount.flour_g=%.0f", free)
			}
		case s.FlourAddG > 0:
			w.Apart = "flour +" + v.In.Grams(s.FlourAddG) + " to suit the eggs"
			if i > 0 {
				w.Set += fmt.Sprintf("&amount.by=flour&amount.flour_g=%.0f&eggs.move_flour=", free+s.FlourAddG)
			}
		case s.Name != "" && s.MissPts == 0:
			w.Apart = s.Name
		case s.Name != "":
			w.Apart = s.Name + ", " + w.Apart
		}
		// what tells them apart stands in their name
		if slices.ContainsFunc(out, func(x Way) bool { return x.Words == w.Words }) {
			w.Words += ", " + v.In.Grams(free+s.FlourAddG) + " of flour"
			if s.FlourAddG == f.Pick.FlourAddG || s.Name == egg.OwnAnswer {
				w.Words = wayWords(v.Plan, s, false) + ", worked out"
			}
		}
		out = append(out, w)
	}
	return out
}

// FlourToEggs is the other answer to a top-up: the eggs stay, and the flour is what they bring
// to its target by themselves.
type FlourToEggs struct {
	Flour, Less string
	EggPct      float64
	Set         string
}

// BringIn is what brings a dough made as the maker makes it to its sweet spot, and takes it.
type BringIn struct{ Words, Set string }

// BringIn returns that; nil where it is there, or the way is worked out.
func (v *formulaView) BringIn() *BringIn {
	p, f := v.Plan, &v.Plan.Formula
	need := (f.Target.Hw - f.Dough.Hw) * f.Blend.F14G / 100
	if !p.AsMade() || math.Abs(f.Target.Outside(f.Dough.Hw)) < .05 {
		return nil
	}
	if need > 0 {
		g := math.Round(f.TopG + need)
		return &BringIn{fmt.Sprintf("%s of %s in all, not %s, brings it to %.1f.", v.In.Grams(g), p.TopWord(),
			v.In.Grams(f.TopG), f.Target.Hw),
			fmt.Sprintf("eggs.liquid_g=%.0f", g)}
	}
	if g := math.Round(p.FlourFor(f.WholeG, f.YolkG)); f.TopG == 0 && g <= 50000 {
		return &BringIn{fmt.Sprintf("%s of flour in all brings it to %.1f.", v.In.Grams(g), f.Target.Hw),
			fmt.Sprintf("amount.flour_g=%.0f", g)}
	}
	if g := math.Round(f.TopG + need); g >= 0 {
		return &BringIn{fmt.Sprintf("%s of %s in all, not %s, brings it to %.1f.", v.In.Grams(g), p.TopWord(),
			v.In.Grams(f.TopG), f.Target.Hw),
			fmt.Sprintf("eggs.liquid_g=%.0f", g)}
	}
	return nil
}

// FlourToEggs returns that answer, nil where no liquid goes in or the style lives by it.
func (v *formulaView) FlourToEggs() *FlourToEggs {
	f := &v.Plan.Formula
	if style := v.Request.Eggs.Style; v.Plan.AsMade() || f.TopG == 0 && f.Pick.Meets() ||
		f.Weighed() || f.Pick.EggG == 0 || style == egg.WholeWater || style == egg.NoEgg {
		return nil
	}
	g := math.Round(v.Plan.FlourFor(f.WholeG, f.YolkG))
	if g < 50 {
		return nil
	}
	return &FlourToEggs{Flour: v.In.Grams(g), Less: v.In.Grams(f.FlourG - g), EggPct: 100 * f.Pick.EggG / g,
		Set: fmt.Sprintf("amount.by=flour&amount.flour_g=%.0f&eggs.fix_whole_eggs=%d&eggs.fix_extra_yolks=%d", g,
			f.Pick.Whole, f.Pick.Yolks)}
}

// WithYolks says whether any way there takes extra yolks, and so leaves whites.
func (v *formulaView) WithYolks() bool {
	f := &v.Plan.Formula
	return f.Pick.WhitesG > 0 || slices.ContainsFunc(f.Eggs.Alternatives,
		func(s egg.Solution) bool { return s.WhitesG > 0 })
}

// BeatAndWeigh is the row of eggs by weight, of the flour shown.
type BeatAndWeigh struct{ Words, Set string }

// BeatAndWeigh returns that row; nil where it is taken, or there is no egg.
func (v *formulaView) BeatAndWeigh() *BeatAndWeigh {
	f := &v.Plan.Formula
	w := f.Eggs.Weighed
	if f.Weighed() || w.WholeG+w.YolkG == 0 {
		return nil
	}
	flour := math.Round(10*f.FlourG) / 10
	return &BeatAndWeigh{fmt.Sprintf("to %s of flour %s: %.1f exactly", v.In.Grams(f.FlourG),
		v.Plan.WeighedWords(v.Plan.Beaten()), w.Hw),
		fmt.Sprintf("amount.by=flour&amount.flour_g=%g&eggs.by_weight=yes&eggs.fix_whole_eggs=&eggs.fix_extra_yolks=&eggs.cracked_g=&eggs.move_flour=", flour)}
}

// HaveFree says that no number of eggs is fixed.
func (v *formulaView) HaveFree() bool {
	e := &v.Page.Eggs
	return e.FixWhole == nil && e.FixYolks == nil && !v.Plan.AsMade()
}

// WholeBatch is the nearest batch of whole eggs, where this one is weighed because none serves.
type WholeBatch struct{ Words, Set string }

// WholeBatch returns that batch; nil where it is not wanted.
func (v *formulaView) WholeBatch() *WholeBatch {
	p := v.Plan
	s, flour, ok := p.WholeBatch()
	if f := &p.Formula; !ok || !f.Pick.Beaten || p.Request.Eggs.ByWeight {
		return nil
	}
	much := ""
	if p.Formula.Portions > 0 {
		much = fmt.Sprintf("%.2f portions, ", p.Formula.Portions*flour/p.Formula.FlourG)
	}
	return &WholeBatch{fmt.Sprintf("%s%s of flour and %s", much, v.In.Grams(flour), plan.EggWords(s.Whole, s.Yolks)),
		fmt.Sprintf("amount.by=flour&amount.flour_g=%.0f&eggs.fix_whole_eggs=&eggs.fix_extra_yolks=&eggs.cracked_g=&eggs.by_weight=", flour)}
}

// wayWords names one of the solver's answers; the one taken may be in grams.
func wayWords(p *plan.Plan, s egg.Solution, taken bool) string {
	if taken && p.Formula.Weighed() {
		return p.EggWords()
	}
	return plan.EggWords(s.Whole, s.Yolks)
}

// Composition is a share of the dough's mass for the bar.
type Composition struct {
	Class, Name string
	G, Share    float64
}

// MadeOf returns what the dough is made of, in falling order of mass.
func (v *formulaView) MadeOf() []Composition {
	d := v.Plan.Formula.Dough
	return []Composition{
		{"c-carb", "Starch and fibre", d.CarbG, d.CarbG / d.MassG}, {"c-water", "Water", d.WaterG, d.WaterShare},
		{"c-protein", "Protein", d.ProteinG, d.ProteinG / d.MassG}, {"c-fat", "Fat", d.FatG, d.FatG / d.MassG},
		{"c-ash", "Ash", d.AshG, d.AshG / d.MassG},
	}
}

// EggG is the edible egg of the pick, g.
func (v *formulaView) EggG() float64 { return v.Plan.Formula.WholeG + v.Plan.Formula.YolkG }

// EggPct is egg to flour, %.
func (v *formulaView) EggPct() float64 { return 100 * v.EggG() / v.Plan.Formula.FlourG }

// Rescale is what to do about eggs that weigh otherwise than planned.
type Rescale struct{ Weighed, Planned, Now, Flour, Set, Forget string }

// Rescale returns the two answers to the eggs' true weight, nil when it is as planned.
func (v *formulaView) Rescale() *Rescale {
	f := &v.Plan.Formula
	if g := f.YieldedEggG; g > 0 {
		return &Rescale{Weighed: v.In.Grams(g), Planned: v.In.Grams(f.Pick.EggG),
			Now:   "So much no longer goes with this batch; it is worked out afresh.",
			Flour: v.In.Grams(v.Plan.FlourForEggs(g)),
			Set:   fmt.Sprintf("amount.by=eggs&amount.egg_g=%.1f&eggs.cracked_g=", g), Forget: "eggs.cracked_g="}
	}
	if f.PlannedEggG == 0 || math.Abs(f.PlannedEggG-f.Pick.EggG) < .5 {
		return nil
	}
	r := &Rescale{Weighed: v.In.Grams(f.Pick.EggG), Planned: v.In.Grams(f.PlannedEggG),
		Flour: v.In.Grams(v.Plan.FlourForEggs(f.Pick.EggG)),
		Now:   "The flour stays: nothing to add.", Set: fmt.Sprintf("amount.by=eggs&amount.egg_g=%.1f&eggs.cracked_g=",
			f.Pick.EggG)}
	switch {
	case f.TopG > 0:
		r.Now = "The flour stays: " + v.In.Grams(f.TopG) + " of " + v.Plan.TopWord() + " in all makes it up."
	case f.Pick.FlourAddG > 0:
		r.Now = "The eggs stay: " + v.In.Grams(f.Pick.FlourAddG) + " more flour takes them up."
	}
	return r
}

// FillingListed is what the filling is made of, as a label lists it; "" where that is not known.
func (v *formulaView) FillingListed() template.HTML {
	for _, x := range v.Plan.Cut.Parts() {
		if x.Filling == nil {
			continue
		}
		for _, i := range v.Plan.Ingredients(x) {
			if len(i.Of) > 0 {
				return page.Listed(i.Of)
			}
		}
	}
	return ""
}

// Ingredient is one line of a label.
type Ingredient struct {
	Name     string
	Allergen bool
	G, Share float64 // share of the dough
}

// Ingredients returns what went into the dough in falling order of mass.
func (v *formulaView) Ingredients() (out []Ingredient) {
	for _, x := range v.Plan.DoughIngredients() {
		out = append(out, Ingredient{x.WithAllergen(), x.Allergen != "", x.G, x.G / v.Plan.Formula.Dough.MassG})
	}
	return out
}

// Nutrient is one row of the nutrition table.
type Nutrient struct{ Name, Per100, PerPortion string }

// DoughPortionG is the dough in a portion of the first shape, g: all of it but a filling.
func (v *formulaView) DoughPortionG() float64 {
	c := &v.Plan.Cut
	if c.MadeG > 0 && c.Shape.Traits().Filling {
		return v.Plan.Formula.PortionG * c.DoughG / c.MadeG
	}
	return v.Plan.Formula.PortionG
}

// eaten is what 100 g hold, raw: of the first shape with its filling where that is known, of the dough alone where it
// is not.
func (v *formulaView) eaten() (food filling.Food, whole bool) {
	if first := v.Plan.Cut.Parts()[0]; first.Filling != nil {
		if food, unknown := v.Plan.Eaten(first); len(unknown) == 0 {
			return food, true
		}
	}
	d := &v.Plan.Formula.Dough
	return filling.Food{}.And(filling.Food{Fat: d.FatG, Carb: d.CarbG, Protein: d.ProteinG, Salt: v.Plan.Formula.SaltG},
		100/d.MassG), false
}

// NutritionOf says of what the nutrition is; "" where there is nothing but dough.
func (v *formulaView) NutritionOf() string {
	if !v.Plan.Cut.Filled() {
		return ""
	}
	if _, whole := v.eaten(); whole {
		return "with the filling"
	}
	return "of the dough"
}

// NutritionG is the portion the nutrition is given for, g.
func (v *formulaView) NutritionG() float64 {
	if _, whole := v.eaten(); whole {
		return v.Plan.Formula.PortionG
	}
	return v.DoughPortionG()
}

// Nutrition returns energy, fat, carbohydrate, protein and added salt, raw: in 100 g, as labels give it, and in a
// portion, always in grams, for an ounce is too coarse for them.
func (v *formulaView) Nutrition() []Nutrient {
	food, _ := v.eaten()
	portion := v.NutritionG() / 100
	gram := func(name string, per float64) Nutrient {
		return Nutrient{name, measure.Metric.G(per, 1), measure.Metric.G(per*portion, 1)}
	}
	return []Nutrient{
		{"Energy", measure.Thousands(food.KJ()) + " kJ", measure.Thousands(food.KJ()*portion) + " kJ"},
		{"", measure.Thousands(food.Kcal()) + " kcal", measure.Thousands(food.Kcal()*portion) + " kcal"},
		gram("Fat", food.Fat), gram("Carbohydrate", food.Carb), gram("Protein", food.Protein), gram("Added salt",
			food.Salt),
	}
}

func formulaKey(p *plan.Plan) string {
	f := &p.Formula
	switch {
	case f.Weighed():
		return p.In().Grams(f.Pick.EggG) + " egg"
	case f.Pick.Whole > 0 && f.Pick.Yolks > 0:
		return fmt.Sprintf("%d + %d yolks", f.Pick.Whole, f.Pick.Yolks)
	case f.Pick.Whole+f.Pick.Yolks == 0:
		return p.In().Grams(f.TopG) + " " + p.TopWord()
	}
	return plan.EggWords(f.Pick.Whole, f.Pick.Yolks)
}
