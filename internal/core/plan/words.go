package plan

import (
	"cmp"
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/dough"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// EggWords returns "9 eggs", "2 eggs and 3 yolks", "no egg".
func EggWords(whole, yolks int) string {
	switch {
	case whole > 0 && yolks > 0:
		return measure.Plural(whole, "egg", "eggs") + " and " + measure.Plural(yolks, "yolk", "yolks")
	case yolks > 0:
		return measure.Plural(yolks, "yolk", "yolks")
	case whole > 0:
		return measure.Plural(whole, "egg", "eggs")
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

// keptWords returns how a flour is kept, to stand after "in".
func keptWords(k flour.Keeping) string {
	return map[flour.Keeping]string{flour.SealedTub: "a sealed tub", flour.PaperBag: "a folded paper bag",
		flour.OpenBin: "an open bin",
		flour.Sifted:  "a sifted heap"}[k]
}

// explain writes the one plain sentence behind every figure.
func (p *Plan) explain() {
	p.Why = map[string]string{}
	p.explainFlour()
	p.explainFormula()
	p.explainRoom()
	p.explainKnead()
	p.explainRest()
	p.explainRoll()
	if also := p.endWords(); also != "" {
		p.Why["roll.pieces"] += " " + also
	}
	p.explainCut()
	p.explainDry()
	p.explainCook()
}

// say sets the sentence behind a figure.
func (p *Plan) say(key, format string, a ...any) { p.Why[key] = p.in.Prose(fmt.Sprintf(format, a...)) }

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
			p.portionsAsked(), p.in.Grams(f.PortionG), come, p.in.Grams(r.Amount.Portions*f.PortionG),
			p.in.Grams(p.Cut.AllMadeG))
		switch {
		case len(p.Cut.Also) > 0:
			say("formula.flour", "%s in all: %s.", p.portionsAsked(), p.SharedWords())
		case p.Cut.Filled():
			say("formula.flour", "%s of %s raw, filling included; this flour gives %s of dough in the pieces, and %s "+
				"goes into them.",
				p.portionsAsked(), p.in.Grams(f.PortionG), p.in.Grams(p.Cut.AllDoughG), p.in.Grams(p.Cut.AllFillG))
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
	say("formula.yield", "%s raw at %s a portion.", p.in.Grams(p.Cut.AllMadeG), p.in.Grams(f.PortionG))
	say("formula.held_back", "%.0f %% of the flour stays out of the well and is worked in only if the dough asks: %s "+
		"without it, %s with all of it.",
		100*ru.Room.HeldBackShare, points(f.HwBefore), points(f.Dough.Hw))
}

// points are points of hydration, with a minus where they are short of none.
func points(v float64) string {
	return strings.Replace(fmt.Sprintf("%.1f", math.Round(10*v)/10+0), "-", "−", 1)
}

// explainRoom gives the reasons of what the air does to flour and dough.
func (p *Plan) explainRoom() {
	r := &p.Request
	f := &p.Formula
	ru := &p.rules
	say := p.say
	part := f.Flours[0]
	k := r.Flours[0]
	if part.Moisture.Measured {
		say("room.moisture", "Measured, so it stands.")
	} else {
		say("room.moisture", "Milled at %.1f %%; this air draws it to %.1f %%. %s in %s of %s (two thirds of the way "+
			"in %s) leaves it here.",
			100*part.Moisture.MilledWB, 100*part.Moisture.EquilibriumWB, measure.Capital(measure.Plural(int(k.OpenDays),
				"day", "days")), keptWords(k.Kept),
			p.in.KG(k.ContainsKG, measure.Shortest), measure.Plural(int(math.Max(1, math.Round(part.Moisture.TauDays))),
				"day", "days"))
		if part.Moisture.Bounded {
			p.Why["room.moisture"] += fmt.Sprintf(" Beyond %.1f–%.1f %% it is not believed without measuring.",
				100*ru.Flour.EstimateLowWB, 100*ru.Flour.EstimateHighWB)
		}
	}
	switch c := p.Room.CorrectionG; {
	case c >= .5:
		say("room.water", "Flour this dry, and what the board loses, ask for %s more than flour fresh from the mill.",
			p.in.Grams(c))
	case c <= -.5:
		say("room.water", "Flour this moist asks for %s less than flour fresh from the mill.", p.in.Grams(-c))
	default:
		say("room.water", "The flour is as moist as it was milled: the room asks for nothing.")
	}
	switch {
	case p.Room.Measured:
		p.Why["room.water"] += " The moisture is measured, so pour it all."
	case f.TopG == 0 && p.Room.CorrectionG > 0:
		p.Why["room.water"] += " The eggs bring it."
	case p.Room.KeepG > 0 && p.Room.CorrectionG > 0:
		p.Why["room.water"] += " It is an estimate: pour what is sure, keep the rest in reach."
	case p.Room.KeepG > 0:
		p.Why["room.water"] += " It is an estimate: keep a little in reach in case the dough stays dry."
	}
	if p.Room.KeepG > 0 {
		o := p.Room.InWords
		whole := func(g float64) string { return p.in.G(g, 0) }
		if min(o.EggG, o.MilkG, o.OilG) >= .5 { // less than that nobody weighs
			say("room.worth",
				"Worth the same to the dough: %s of beaten egg, or %s of milk. Oil is a poor stand-in: %s.",
				whole(o.EggG), whole(o.MilkG), whole(o.OilG))
		}
	}
	if u := p.Room.Used; u != nil {
		say("room.used", "%s of flour and %s of %s are in it: %.1f where %.1f was planned. Every station follows.",
			p.in.Grams(u.FlourG),
			p.in.Grams(u.LiquidG), p.TopWord(), u.Hw, u.PlannedHw)
	}
	say("room.loss", "Vapour leaves the dough’s face for %.0f minutes of kneading at %s and %.0f %%.",
		ru.Room.BoardSeconds/60, p.in.C(r.Room.TempC, 0),
		100*r.Room.RH)
	say("room.contact", "%s, and %s from the %s.", p.startsFrom(), p.in.RiseC(ru.Knead.ContactRiseC), p.warmsIt())
}

// startsFrom is what a dough is mixed from, and how warm that is.
func (p *Plan) startsFrom() string {
	text := "Flour at " + p.in.C(p.Request.Room.TempC, 0)
	if f := &p.Formula; f.WholeG+f.YolkG > 0 {
		where := map[string]string{"room": "eggs as warm as the room", "fridge": "eggs from the fridge"}[string(
			p.Request.Eggs.From)]
		text += " and " + cmp.Or(where, "eggs from the "+string(p.Request.Eggs.From))
	}
	return text
}

// warmsIt is what warms a dough as it is mixed: hands, or a machine.
func (p *Plan) warmsIt() string {
	if p.machined() {
		return "mixing"
	}
	return "hands"
}

// explainKnead gives the reasons of minutes and warmth at the board or in the bowl.
func (p *Plan) explainKnead() {
	ru, say := &p.rules, p.say
	work := p.workWords()
	if p.Knead.Loads > 1 {
		work += " a load"
	}
	and := " and the rest"
	if p.Roll.Folds > 0 {
		and = ", the rest and " + measure.Plural(p.Roll.Folds, "folded pass", "folded passes")
	}
	if p.Unrested() {
		and = strings.Replace(strings.Replace(and, ", the rest and", " and", 1), " and the rest", "", 1)
	}
	if p.model.Gluten < ru.Flour.GlutenNoSheet {
		say(
			"knead.min",
			"There is too little gluten in it to develop: %s make it one smooth mass, and more does no more.",
			work,
		)
	} else {
		say("knead.min", "%s%s develop this dough to %.0f %%; it is ready to be rolled from %.0f %% on, and stiffer "+
			"flours take longer.", measure.Capital(work), and,
			100*p.Knead.D, 100*ru.Knead.ReadyD)
	}
	say("knead.school", "%s", p.Knead.SchoolWhy)
	if p.Knead.SchoolWhy == "" {
		say("knead.school", "Your choice. It buys: %s.", p.Knead.School.Traits().Buys)
		if p.Pinned() && p.Knead.School == knead.Short {
			say("knead.school", "Your choice: hardly any kneading, and under a pin nothing is kneaded after it.")
		}
	}
	to := p.toWhat()
	say("knead.hands", "Mixing and hands on the dough; %s from flour to %s.", measure.Minutes(p.way.ElapsedMin), to)
	if p.Roll.Folds > 0 {
		say("knead.hands", "Mixing, hands on the dough, and %s of folded passes; %s from flour to %s before those.",
			measure.Minutes(max(1, float64(p.Roll.Folds)*p.ask.FoldMin)), measure.Minutes(p.way.ElapsedMin), to)
	}
	if p.Knead.Asked {
		p.Why["knead.min"] = "Your minutes. " + p.Why["knead.min"]
	}
	school := p.Knead.School.Traits()
	say("knead.peak", "From %s when it comes together, and %s a minute %s.", p.in.C(p.Room.ContactC, 0),
		p.in.RiseC(school.HeatC(&ru.Knead)), school.WarmedBy)
	say("knead.folds", "Each is worth %g min of kneading and lays the sheet straight.", ru.Knead.FoldWork)
	if p.Knead.Own {
		p.explainOwn()
	}
}

// explainRest gives the reasons of the rest.
func (p *Plan) explainRest() {
	say := p.say
	where := "the room"
	if p.Rest.Cold {
		where = "the fridge"
	}
	say("rest.min", "Tension halves every %.0f minutes at %s; after %s in %s it is down to %.0f %% and the flour has "+
		"taken up %.0f %% of its water.",
		p.Knead.TauRMin*math.Ln2, p.in.C(22, 0), measure.Minutes(p.Rest.Min), where, 100*p.Rest.T, 100*p.Rest.U)
	if p.Unrested() {
		say("rest.min", "None, as you say: all the tension of kneading is still in it, and the flour has taken up "+
			"%.0f %% of its water.", 100*p.Rest.U)
	} else if p.way.RestMin == 0 { // of the maker's own steps, the last is a kneading
		say("rest.min",
			"None after the last kneading: tension is %.0f %%, and the flour has taken up %.0f %% of its water.",
			100*p.Rest.T, 100*p.Rest.U)
	} else if p.Rest.Asked {
		p.Why["rest.min"] = "Your minutes. " + p.Why["rest.min"]
	}
	say("rest.temp", "In %[2]s it goes two thirds of the way to %[1]s.", where, measure.Minutes(p.tauRest()))
	say("rest.warm", "Mixing, kneading and what rest is out of the fridge. Past %s take care, past %s throw it away: "+
		"the usual advice for egg.",
		measure.Minutes(p.cautionAt()), measure.Minutes(p.discardAt()))
	if p.Rest.Cold {
		say(
			"rest.cooling",
			"Counted from the fridge’s door, at %s there. Many food plans of those who sell ask that it reads %s "+
				"within four hours.",
			p.in.C(p.ask.FridgeC, 0),
			p.in.C(p.rules.Safety.SellC, 0),
		)
	}
	if c := p.Clock; c != nil {
		say("rest.clock", "Counted back from the roller: %s from flour to roller.", measure.Minutes(p.way.ElapsedMin))
	}
	say("rest.ready", "Development, tension and water uptake all pass, %s after flour met water.",
		measure.Minutes(max(0, p.Rest.ReadyAtMin)))
	if p.Rest.ReadyAtMin < 0 {
		say("rest.ready", "Not by this plan: the notes say of what it falls short.")
	}
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

// explainRoll gives the reasons of the way down.
func (p *Plan) explainRoll() {
	o := &p.Roll
	ru := &p.rules
	say := p.say
	if p.Roped() {
		say("roll.sheet", "The wall of the formed piece; it is what dries and cooks.")
		say("roll.pieces", "%s a rope of %s, %s long.", p.in.Grams(o.RolledG), p.in.MM(p.lay.RopeMM, measure.Shortest),
			p.in.Long(o.LengthMM))
		say("roll.time", "%s rolled to ropes%s.", measure.Plural(o.Pieces, "piece", "pieces"), inTurn(o.Pieces,
			"; cover what waits"))
		say("roll.mode", "No sheet: cut ropes under the palms, from the middle outwards.")
		return
	}
	how := fmt.Sprintf("About %s of flour each", p.in.G(p.aPiece(), 0))
	switch {
	case p.Request.Roll.Pieces != nil:
		how = "As you divide it"
	case o.Suited:
		how = fmt.Sprintf("%d, not the usual one to %s of flour, so that more of the dough becomes pasta", o.Pieces,
			p.in.G(p.aPiece(), 0))
		if p.lay.Pin {
			how = "More than the board asks for, so that more of the dough becomes pasta"
		}
	case o.Larger:
		how = fmt.Sprintf("Larger than usual, so that %s fits", p.in.MM(p.leastAlong(), measure.Shortest))
	case p.lay.Pin:
		how = fmt.Sprintf("As few as a board of %s takes", p.in.Joined(" by ", measure.MM, measure.Shortest,
			p.machine.BoardLengthMM, p.machine.BoardWidthMM))
	case p.Request.Roll.Divide == request.DivideByBench:
		how = fmt.Sprintf("So that one sheet is no longer than the bench, %s", p.in.MM(p.Request.Roll.BenchMM,
			measure.Shortest))
	}
	if p.lay.Pin {
		say("roll.sheet", "As thin as the pin is taken: see your hand through it, then print.")
		say("roll.pieces", "%s; %s is a sheet of about %s.", how, p.in.Grams(o.RolledG), p.in.Long(o.LengthMM))
		say("roll.time", "%s of rolling and a short pause after each, %s%s.", measure.Plural(len(o.Passes), "stage",
			"stages"),
			measure.Plural(o.Pieces, "sheet", "sheets"), inTurn(o.Pieces, ""))
		say("roll.mode", "From the middle outwards, a quarter turn between; it rests half a minute when it pulls "+
			"back. A straight bottle will do for a pin.")
		if o.Own {
			say("roll.mode", "%s", p.ownDownWords())
		}
		return
	}
	sure := fmt.Sprintf("generic gaps, so within %.0f %%", 100*o.Sure)
	if p.machine.GapsGuessed {
		sure = fmt.Sprintf("guessed from the dial, so within %.0f %%", 100*o.Sure)
	}
	if o.Calibrated {
		sure = fmt.Sprintf("measured, within %.0f %%", 100*o.Sure)
	}
	say("roll.sheet", "Stop %s leaves %s (%s): this dough springs back %.0f %% of the gap. %s is wanted.", o.TargetStop,
		p.in.MM(o.SheetMM, 2), sure,
		100*o.Spring, p.in.MM(o.TargetMM, 2))
	say("roll.pieces", "%s; %s covers about %s of a sheet %s wide.", how, p.in.Grams(o.RolledG),
		p.in.Long(o.LengthMM*float64(o.Sheets)),
		p.in.MM(o.Machine.WidthMM, 0))
	say("roll.time", "%s at %s/s and %.0f seconds of handling a pass, %s%s.", measure.Plural(len(o.Passes), "pass",
		"passes"),
		p.in.MM(o.Machine.SpeedMMPerS, 0), ru.Roll.HandlingS, measure.Plural(o.Pieces, "piece", "pieces"),
		inTurn(o.Pieces, ""))
	if o.WaitMin >= 1 {
		say("roll.wait", "The last piece waits %s under the bowl; past ten minutes a piece relaxes further and rolls "+
			"the easier.", measure.Minutes(o.WaitMin))
	}
	say("roll.mode", "%s", p.modeWords())
}

// inTurn follows a number of pieces: several come one after the other, and what else is said of those that wait.
func inTurn(pieces int, waiting string) string {
	if pieces < 2 {
		return ""
	}
	return ", one after the other" + waiting
}

// tauRest is the time constant of the dough as it rests, min.
func (p *Plan) tauRest() float64 {
	for _, s := range p.way.Steps {
		if s.Spread {
			return p.model.Lying(p.ask)
		}
	}
	return p.model.TauDMin
}

// workWords names the kneading of the way.
func (p *Plan) workWords() string {
	if p.Knead.Own {
		return p.ownWords()
	}
	return p.way.School.Traits().Work(&p.rules.Knead, &p.way)
}

func yolkClause(points float64) string {
	if points == 0 {
		return ""
	}
	return fmt.Sprintf(", %.1f lower for its yolk", points)
}

// modeWords says how the stops are taken.
func (p *Plan) modeWords() string {
	if p.Roll.Own {
		return p.ownDownWords()
	}
	var skipped []string
	used := map[int]bool{}
	last := 0
	for _, x := range p.Roll.Passes {
		used[x.Stop], last = true, x.Stop
	}
	for i := range last {
		if !used[i] {
			skipped = append(skipped, p.Roll.Machine.Stops[i].Label)
		}
	}
	if len(skipped) == 0 {
		return fmt.Sprintf("Every stop to %s, none left out.", p.Roll.TargetStop)
	}
	verb := "are"
	if len(skipped) == 1 {
		verb = "is"
	}
	return fmt.Sprintf("Left out: %s, which %s easy for this dough.", strings.Join(skipped, ", "), verb)
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
	return t.Feel(p.rules.Hydration, s.Hw).Words
}

// EggPlannedG is what the eggs of the plan weigh before they are cracked, g.
func (p *Plan) EggPlannedG() float64 {
	if p.Formula.PlannedEggG > 0 {
		return p.Formula.PlannedEggG
	}
	return p.Formula.Pick.EggG
}
