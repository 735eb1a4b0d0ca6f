package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/dough"
	"hollen/internal/core/egg"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// EggWords returns "9 eggs", "2 eggs and 3 yolks", "no egg".
func EggWords(wholeNumber, yolks int) string {
	switch {
	case wholeNumber > 0 && yolks > 0:
		return measure.Plural(wholeNumber, "egg", "eggs") + " and " + measure.Plural(yolks, "yolk", "yolks")
	case yolks > 0:
		return measure.Plural(yolks, "yolk", "yolks")
	case wholeNumber > 0:
		return measure.Plural(wholeNumber, "egg", "eggs")
	}
	return "no egg"
}

// EggWords returns the eggs of the plan: in whole numbers, or in grams when they were
// weighed.
func (p *Plan) EggWords() string {
	f := &p.Formula
	s := Summary{Whole: f.Pick.Whole, Yolks: f.Pick.Yolks, AlsoWords: p.AlsoWords(), OtherEgg: f.WholeG+f.YolkG == 0 &&
		p.HasEgg()}
	if f.Weighed() {
		s.WeighedG = f.Pick.EggG - f.AlsoG
		s.YolkG = f.Pick.YolkG
		s.Beaten = f.Pick.Beaten
	}
	return s.EggWords(p.in)
}

// WeighedWords says how egg is beaten and weighed: what is cracked for it, and what is left of that.
func (p *Plan) WeighedWords(s egg.Solution) string {
	also := 0.
	if p.Formula.AlsoG > 0 {
		also = p.task.GivenG
	}
	one := func(n int, each, many, what string, g, left float64) string {
		text := fmt.Sprintf("crack %s, weigh %s%s", measure.Plural(n, each, many), p.fineGrams(g), what)
		if left >= .5 {
			text += fmt.Sprintf(", %s left", p.in.Grams(left))
		}
		return text
	}
	var out []string
	if g := s.WholeG - also; g > .05 {
		out = append(out, one(s.Whole, "egg", "eggs", " beaten", g, s.LeftG))
	}
	if s.YolkG > .05 {
		out = append(out, one(s.Yolks, "yolk", "yolks", " of yolk", s.YolkG, s.LeftYolkG))
	}
	if s.TopG > .05 {
		out = append(out, p.in.Grams(s.TopG)+" of "+p.TopWord())
	}
	return strings.Join(out, "; ")
}

// tenthsFlourG is the flour under which a tenth of a gram of egg is worth weighing, where the scale
// shows it.
const tenthsFlourG = 150

// fineGrams is a weight of egg as it is weighed: to the gram, to the tenth of a small batch where the
// scale shows it.
func (p *Plan) fineGrams(g float64) string {
	if p.Formula.FlourG < tenthsFlourG && p.Request.Bench.Tenths {
		return p.in.G(g, 1)
	}
	return p.in.Whole(math.Round(g))
}

// roundingCosts says what weighing beaten egg to the gram costs, "" where that is nothing to speak of.
func (p *Plan) roundingCosts() string {
	f := &p.Formula
	if !f.Pick.Beaten || f.FlourG < tenthsFlourG && p.Request.Bench.Tenths {
		return ""
	}
	off := 0.
	for g, c := range map[float64]egg.Composition{f.Pick.WholeG: egg.Whole, f.Pick.YolkG: egg.Yolk} {
		off += math.Abs(math.Round(g)-g) * (c.Water + p.rules.Hydration.FatWeight*c.Fat)
	}
	if points := 100 * off / f.Blend.F14G; points >= .05 {
		return fmt.Sprintf(" Weighed to the gram it is %.1f points off.", points)
	}
	return ""
}

// AlsoWords returns the eggs of other classes: "4 EU medium"; "" when there are none.
func (p *Plan) AlsoWords() string {
	if p.Formula.AlsoG == 0 {
		return ""
	}
	var out []string
	for _, e := range p.Request.Eggs.Also {
		out = append(out, fmt.Sprintf("%.0f %s", e.Count, e.Kind().Name))
	}
	return measure.List(out)
}

// EggClass returns the eggs used: the class's means or the kitchen's own.
func (p *Plan) EggClass() egg.Class { return p.Request.Eggs.Kind() }

// TopWord returns what the top-up liquid is called.
func (p *Plan) TopWord() string {
	if p.Request.Eggs.TopUp == egg.TopMilk {
		return "milk"
	}
	return "water"
}

// explainFlour gives the reason of the amount of flour.
func (p *Plan) explainFlour() {
	r := &p.Request
	f := &p.Formula
	say := p.say
	switch r.Amount.By {
	case request.ByPortions:
		come := "come"
		if r.Amount.Portions == 1 {
			come = "comes"
		}
		say("formula.flour", "%s of %s raw %s to %s; this flour gives %s after what bowl, board and trims keep.",
			p.portionsAsked(), p.in.Portion(f.PortionG), come, p.in.Grams(r.Amount.Portions*f.PortionG),
			p.in.Grams(p.Cut.AllMadeG))
		switch {
		case len(p.Cut.Also) > 0:
			say("formula.flour", "%s in all: %s.", p.portionsAsked(), p.SharedWords())
		case p.Cut.Filled():
			say("formula.flour", "%s of %s raw, filling included; this flour gives %s of dough in the pieces, and %s "+
				"goes into them.",
				p.portionsAsked(), p.in.Portion(f.PortionG), p.in.Grams(p.Cut.AllDoughG), p.in.Grams(p.Cut.AllFillG))
		}
	case request.ByDough:
		say("formula.flour", "Asked for %s of dough, this flour gives %s: eggs come in whole numbers.",
			p.in.Grams(r.Amount.DoughG), p.in.Grams(f.Dough.MassG))
		if f.Pick.Whole+f.Pick.Yolks == 0 || f.Pick.Beaten {
			say("formula.flour", "Asked for %s of dough, this flour gives %s.", p.in.Grams(r.Amount.DoughG),
				p.in.Grams(f.Dough.MassG))
		}
	case request.ByEggs:
		say("formula.flour", "%s of beaten egg bring this much flour to its target, to the gram.",
			p.in.Grams(f.Pick.EggG))
	case request.ByOwn:
		say("formula.flour", "As you make it: nothing is added, moved or held back.")
		if f.OpenG > 0 {
			say("formula.flour", "%s", p.openWords())
		}
		if f.OpenLiquidG > 0 {
			p.Why["formula.flour"] += " " + p.openLiquidWords()
		}
	case request.ByEaters:
		say("formula.flour", "%s at %s of flour each.", measure.Plural(int(r.Amount.Eaters), "person", "people"),
			p.in.Grams(r.Amount.EachG))
	default:
		say("formula.flour", "As you asked.")
		if f.Pick.FlourAddG > 0 {
			say("formula.flour", "You asked for %s.", p.in.Grams(r.Amount.FlourG))
		}
	}
	if f.Pick.FlourAddG > 0 {
		p.Why["formula.flour"] += fmt.Sprintf(" %s of it came in to suit whole eggs.", p.in.Grams(f.Pick.FlourAddG))
	}
}

// portionsAsked is how many portions were asked for: "10 portions", "1.5 portions".
func (p *Plan) portionsAsked() string {
	n := p.Request.Amount.Portions
	if n == math.Trunc(n) {
		return measure.Plural(int(n), "portion", "portions")
	}
	return measure.Trim(n) + " portions"
}

// explainFormula gives the reasons of eggs, water and dough.
func (p *Plan) explainFormula() {
	f := &p.Formula
	ru := &p.rules
	say := p.say
	p.explainEggs()
	liquid, drinks := (f.Dough.Hydration+100)*f.Blend.F14G/100-f.FlourG, f.Blend.F14G-f.FlourG
	verb := "less " + p.in.Grams(drinks) + " the dry flour drinks"
	if drinks < 0 {
		verb = "and " + p.in.Grams(-drinks) + " the moist flour brings"
	}
	has := p.in.Grams(liquid) + " of water in the liquids"
	if liquid < 0 { // what is stirred into the flour drinks more than there is
		has = p.in.Grams(-liquid) + " of water short of what is stirred in"
	}
	say("formula.hw", "%s, %s, to %s of flour at 14 %%: %s.", has, verb, p.in.Grams(f.Blend.F14G),
		points(f.Dough.Hydration))
	if fat := f.Dough.Hw - f.Dough.Hydration; fat >= .05 {
		p.Why["formula.hw"] += fmt.Sprintf(" The fat feels like %.1f more.", fat)
	}
	if f.HeldBackG > 0 {
		p.Why["formula.hw"] += p.in.Prose(fmt.Sprintf(" Before the %s held back go in it is %.1f.",
			p.in.Whole(math.Round(f.HeldBackG)), f.HwBefore))
	}
	say("formula.band", "Aim %.1f: for flour that takes up %.1f %%, thinned on a %s%s.", f.Target.Hw,
		f.Blend.AbsorptionPct,
		map[string]string{"roller": "roller machine", "sheeter": "powered sheeter", "pin": "board by hand"}[string(
			p.machine.Tool)],
		yolkClause(-ru.Hydration.YolkShift*f.Pick.YolkShare))
	p.Why["formula.blend"] = p.blendWords()
	say("formula.one_egg", "%s", p.oneEggWords())
	if len(f.Additions) > 0 {
		var said []string
		for _, a := range f.Additions {
			one, many := "brings", "bring"
			if a.LiquidG < 0 {
				one, many = "takes up", "take up"
			}
			name, _, _ := strings.Cut(a.Name, ",")
			said = append(
				said,
				measure.Does(
					[]string{strings.ToLower(name)},
					one,
					many,
				)+" "+p.in.Grams(
					math.Abs(a.LiquidG),
				)+" of water",
			)
		}
		say("formula.additions", "%s; eggs and liquid answer to that.", measure.Capital(measure.List(said)))
	}
	say("formula.dough", "%.2f g/mL with %.0f %% of air in it; %.1f %% of it is water.", f.Dough.DensityGPerML,
		100*ru.Dough.AirShare, 100*f.Dough.WaterShare)
	say("formula.colour", "%s.", measure.Capital(f.Colour.Words))
	say("formula.yield", "%s raw at %s a portion.", p.in.Grams(p.Cut.AllMadeG), p.in.Portion(f.PortionG))
	say("formula.held_back", "%.0f %% of the flour stays out of the well and is worked in only if the dough asks: %s "+
		"without it, %s with all of it.",
		100*ru.Room.HeldBackShare, points(f.HwBefore), points(f.Dough.Hw))
}

// explainEggs says why so many eggs.
func (p *Plan) explainEggs() {
	f := &p.Formula
	say := p.say
	with := []string{p.EggWords()}
	if f.TopG > 0 {
		with = append(with, p.in.Whole(f.TopG)+" of "+p.TopWord())
	}
	and := " and "
	if strings.Contains(with[0], and) {
		and = ", and "
	}
	say("formula.eggs", "%s to %s of flour, the least that meets the target without leaving much over.",
		strings.Join(with, and), p.in.Grams(f.FlourG))
	switch {
	case p.AsMade():
		if f.Pick.EggG == 0 && len(f.Additions) > 0 {
			for _, a := range f.Additions {
				with = append(with, p.in.Grams(a.MassG)+" of "+lowName(a.Name))
			}
			and = ", "
		}
		say("formula.eggs", "As you make it: %s to %s of flour.", strings.Join(with, and), p.in.Grams(f.FlourG))
	case f.WholeG+f.YolkG == 0:
		say("formula.eggs", "%s of %s brings %s of flour to its target.", p.in.Grams(f.TopG), p.TopWord(),
			p.in.Grams(f.FlourG))
	case f.Pick.Beaten && p.Request.Eggs.ByWeight:
		say("formula.eggs", "Beaten and weighed, as you like it: %s.%s", p.WeighedWords(f.Pick), p.roundingCosts())
	case f.Pick.Beaten:
		say("formula.eggs", "No whole number of eggs meets the target for so much flour, so they are beaten and "+
			"weighed: %s.%s", p.WeighedWords(f.Pick),
			p.roundingCosts())
	case f.Weighed():
		say("formula.eggs", "As they weigh; liquid and flour follow.")
	case p.task.FixWhole != nil || p.task.FixYolks != nil:
		say("formula.eggs", "You named the eggs; liquid and flour follow.")
	}
}

// points are points of hydration, with a minus where they are short of none.
func points(v float64) string {
	return strings.Replace(fmt.Sprintf("%.1f", math.Round(10*v)/10+0), "-", "−", 1)
}

// blendWords says what the flours will do.
func (p *Plan) blendWords() string {
	b := &p.Formula.Blend
	var out []string
	switch {
	case b.AbsorptionPct < 55.5:
		out = append(out, "takes up little")
	case b.AbsorptionPct > 61:
		out = append(out, "drinks a lot, slowly")
	default:
		out = append(out, "takes up as much as most")
	}
	switch pg := b.GlutenProteinPct; {
	case b.GlutenFactor < p.rules.Flour.GlutenNoSheet:
		out = append(out, "binds hardly at all")
	case b.GlutenFactor < p.rules.Flour.GlutenFragile:
		out = append(out, "tears young")
	case pg > 12:
		out = append(out, "pulls back, wants a long rest, and bites firm")
	case pg < 9.5:
		out = append(out, "rolls easily and bites soft")
	default:
		out = append(out, "stretches well and holds its bite")
	}
	switch {
	case b.DurumShare > .95:
		out = append(out, "sets very hard by hand")
	case b.DurumShare > .15:
		out = append(out, "is rougher, yellower and firmer for its durum")
	}
	if b.WholegrainShare > .1 {
		out = append(out, "has bran that cuts a thin sheet")
	}
	return fmt.Sprintf("It %s. Protein %.1f %%, absorption %.1f %%, gluten factor %.2f.", strings.Join(out, "; it "),
		b.ProteinPct, b.AbsorptionPct, b.GlutenFactor)
}

// oneEggWords says why "one egg to 100 g" is no recipe: what it comes to with these eggs and
// with the smallest and the biggest of a market.
func (p *Plan) oneEggWords() string {
	if p.Request.Eggs.Style == egg.NoEgg {
		return ""
	}
	small, _ := egg.Find("eu-s")
	big, _ := egg.Find("eu-xl")
	c := p.task.Class
	of := func(c egg.Class) float64 {
		t := p.task
		t.Class = c
		t.F14G *= 100 / t.FlourG
		t.FlourG = 100
		t.GivenG = 0
		t.ExtraWater = 0
		t.ExtraFat = 0
		t.LossG = 0
		t.TopUp = egg.TopNone
		t.LockFlour = true
		return t.Try(1, 0).Hw
	}
	hundred := "100 g" // the recipes' own figure
	if p.in != measure.Metric {
		hundred += " (3½ oz)"
	}
	return fmt.Sprintf("One egg to "+hundred+", as recipes say, would come to %.1f with an egg of %s; to %.1f with "+
		"small ones and %.1f with the biggest.",
		of(c), p.in.G(math.Round(10*c.EdibleG)/10, measure.Shortest), of(small), of(big))
}

func yolkClause(points float64) string {
	if points == 0 {
		return ""
	}
	return fmt.Sprintf(", %.1f lower for its yolk", points)
}

// TintOf returns the colour of the dough made by another of the solver's answers.
func (p *Plan) TintOf(s egg.Solution) dough.Colour {
	return p.tint(s.WholeG, s.YolkG, p.task.FlourG-p.Formula.Pick.FlourAddG+s.FlourAddG+s.EggG+s.TopG+addedG(
		p.Formula.Additions))
}

// FeelOf returns how the dough of another of the solver's answers behaves, in words.
func (p *Plan) FeelOf(s egg.Solution) string {
	t := p.Formula.Target
	shift := s.TargetHw - t.Hw
	t.Hw = t.Hw + shift
	t.Low = t.Low + shift
	t.High = t.High + shift
	return t.OfYolk(s.YolkShare).Feel(p.rules.Hydration, s.Hw).Words
}

// EggPlannedG is what the eggs of the plan weigh before they are cracked, g.
func (p *Plan) EggPlannedG() float64 {
	if p.Formula.PlannedEggG > 0 {
		return p.Formula.PlannedEggG
	}
	return p.Formula.Pick.EggG
}

func (p *Plan) adviseFormula() {
	f, ru := &p.Formula, &p.rules
	if p.Room.Used == nil {
		p.adviseFeel(request.AtFormula, "formula.hw")
	}
	b := f.Blend
	switch {
	case b.GlutenFactor < ru.Flour.GlutenNoSheet:
		p.note(request.AtFormula, "formula.flour", Warning, "no_gluten", "No machine sheet without a binder.",
			"Gluten factor %.2f: add strong wheat or egg white, or roll thick with a pin and patch by hand.",
			b.GlutenFactor)
	case b.GlutenFactor < ru.Flour.GlutenFragile:
		p.note(request.AtFormula, "formula.flour", Warning, "fragile", "Fragile.",
			"Gluten factor %.2f: roll thicker and take small steps.", b.GlutenFactor)
	case b.DurumShare > .95:
		p.note(request.AtFormula, "formula.flour", Remark, "all_durum", "All durum.",
			"It sets very hard under the hand; rest it long, or blend in soft wheat.")
	}
	if !p.holdsGluten() {
		if d := p.Dusting(); d.Allergen != "" {
			p.note(request.AtFormula, "formula.flour", Warning, "dusted_wheat", "Dusted with wheat.",
				"The flours hold no gluten, and %s is %s: dust with rice flour, or sell it as what it is.", d.Name,
				d.Allergen)
		}
	}
	if p.Request.Salt > .01 {
		p.note(request.AtFormula, "formula.salt", Remark, "salt", "Salty dough.",
			"Over 1 %% it is tasted in the dough; many salt only the water.")
	}
	for i, a := range f.Additions {
		kind := p.Request.Additions[i].Kind()
		switch {
		case a.Share > kind.HighShare+1e-9 && f.WholeG+f.YolkG+f.TopG == 0: // it is the liquid
		case a.Share > kind.HighShare+1e-9:
			p.note(request.AtFormula, "formula.additions", Warning, "much_added", "More than usual.",
				"%s is %.1f %% of the flour; %.1f to %.1f %% is usual. It will weaken the sheet, or shout.", a.Name,
				100*a.Share, 100*kind.LowShare, 100*kind.HighShare)
		case a.Share < kind.LowShare-1e-9:
			p.note(request.AtFormula, "formula.additions", Remark, "little_added", "Hardly there.",
				"%s is %.1f %% of the flour; %.1f to %.1f %% is usual.",
				a.Name, 100*a.Share, 100*kind.LowShare, 100*kind.HighShare)
		}
		if advice := kind.Advice; advice != "" {
			if f.WholeG+f.YolkG == 0 {
				advice = strings.ReplaceAll(advice, "into the eggs", "into the liquid")
			}
			p.note(request.AtFormula, "formula.additions", Remark, "prepare", a.Name+".", "%s", advice)
		}
		if kind.Salty && p.Request.Salt > 0 {
			p.note(request.AtFormula, "formula.salt", Warning, "salt_twice", "Salt twice.",
				"%s is salty by itself: leave the salt out.", a.Name)
		}
	}
	p.adviseEggs()
	if whites := f.Pick.WhitesG + float64(p.Cut.Yolks)*(p.EggClass().EdibleG-p.EggClass().YolkG); whites > 0 {
		p.note(request.AtFormula, "formula.eggs", Remark, "whites", "Whites left over.",
			"%s: freeze them flat, or for meringue. They keep two days in the fridge.", p.in.Grams(whites))
	}
	raw := "Raw flour."
	if slices.ContainsFunc(f.Allergens, isEgg) {
		raw = "Raw egg and flour."
	}
	contains := ""
	if len(f.Allergens) > 0 {
		contains = " Contains " + measure.List(f.Allergens) + "."
	}
	p.note(request.AtFormula, "formula.eggs", Caution, "raw_egg", raw,
		"Wash hands, board and tools after; do not taste raw dough.%s", contains)
}

// adviseEggs is the advice on eggs that were pinned, or are left over.
func (p *Plan) adviseEggs() {
	f := &p.Formula
	if f.YieldedEggG > 0 {
		p.note(request.AtFormula, "formula.eggs", Remark, "pin_yields", "Cracked for another amount?",
			"%s of egg was weighed, and this batch wants %s. It is worked out afresh; keep what you cracked and the "+
				"flour follows it, or forget it.",
			p.in.Grams(f.YieldedEggG), p.in.Grams(f.Pick.EggG))
	}
	if left := f.Pick.LeftG + f.Pick.LeftYolkG; f.Pick.Beaten && left >= .5 {
		p.note(request.AtFormula, "formula.eggs", Remark, "egg_left", "A little egg left over.",
			"%s: by the board for a dough that stays dry, to seal a seam, or scrambled today.", p.in.Grams(left))
	}
}

// feelHeads are the words either side of the band as a note begins with them.
var feelHeads = map[int]string{-4: "This will not make a sheet.", -3: "Stiff.", -2: "Very firm.", -1: "Firm.",
	1: "Soft.", 2: "Very soft.", 3: "It clings.", 4: "This will not make a sheet."}

// adviseFeel says how far from the sweet spot the dough is, and what would bring it in. What makers
// work with daily is a remark; from the third word on a change is asked for.
func (p *Plan) adviseFeel(at request.Stage, field string) {
	f := &p.Formula
	out := f.Target.Outside(f.Dough.Hw)
	if math.Abs(out) < .05 || f.feel.Grade == 0 {
		return // no finer than it is shown; to the hand it is right
	}
	level, code := Remark, "firm"
	if f.feel.Odd() {
		level = Warning
	}
	where := fmt.Sprintf("%.1f points under the sweet spot", -out)
	// To the edge of the sweet spot, in whole grams.
	more := fmt.Sprintf("%s more water brings it in", p.in.Whole(math.Ceil(-out*f.Blend.F14G/100)))
	if out > 0 {
		code, where = "soft", fmt.Sprintf("%.1f points over the sweet spot, all the flour counted", out)
		more = fmt.Sprintf("%s more flour brings it in", p.in.Whole(math.Ceil(p.Patient().FlourG(out))))
	}
	if f.feel.NoSheet() {
		code = "no_sheet"
	}
	say := map[int]string{-4: "Too dry to come together.", -3: "One for a powered sheeter; by hand it crumbles.",
		-2: "Makers do work it: knead it longer or in turns, and rest it longer.", -1: "Rolled like this every day.",
		1: "Dust a little more.", 2: "Dust it much.", 3: "It sticks to board and rollers.",
		4: "Too wet to roll."}[f.feel.Grade]
	if f.feel.Grade == -3 && p.machine.Tool == dough.Sheeter {
		say = "Crumbs first: press them together and fold more."
	}
	pinned := ""
	if (p.task.FixWhole != nil || p.task.FixYolks != nil) && !f.Pick.Meets() && !f.Weighed() && p.Room.Used == nil {
		pinned = fmt.Sprintf(" With just %s, %s of flour would be right.", EggWords(f.Pick.Whole, f.Pick.Yolks),
			p.in.Grams(math.Round(p.FlourFor(f.WholeG, f.YolkG))))
	}
	p.note(at, field, level, code, feelHeads[f.feel.Grade], "%s. %s %s.%s", measure.Capital(where), say, more, pinned)
}

// adviseDates points out what is dated to another day than the batch is: more than a night away, or than its rest
// takes.
func (p *Plan) adviseDates() {
	r := &p.Request
	made, err := time.Parse(time.DateOnly, r.MadeOn)
	if err != nil {
		return
	}
	night := max(1, math.Ceil(p.Rest.Min/(24*60)))
	for _, x := range []struct {
		at, field string
		stage     request.Stage
	}{{r.Clock.From, "rest.clock", request.AtRest}, {r.Clock.RollAt, "rest.clock", request.AtRest}, {r.Keep.MadeAt,
		"keep.use_by", request.AtDry}} {
		t, err := measure.At(x.at)
		if err != nil || math.Abs(math.Floor(t.Sub(made).Hours()/24)) <= night || x.stage == request.AtDry &&
			r.Keep.Where == "" {
			continue
		}
		p.note(x.stage, x.field, Remark, "dates_apart", "Two dates that disagree.",
			"Room says made on %s, here it is %s: one of them is of another day.",
			made.Format("Mon 2 Jan"), t.Format("Mon 2 Jan 15:04"))
		return
	}
}
