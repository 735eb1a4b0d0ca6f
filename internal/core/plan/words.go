package plan

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"hollen/internal/core/dough"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
)

// Grams returns a mass as a maker reads it off a scale: "1,592 g", "4.6 g" under ten.
func Grams(g float64) string {
	if g > 0 && g < 9.95 {
		return fmt.Sprintf("%.1f g", g)
	}
	return Thousands(g) + " g"
}

// Thousands returns a number rounded to the whole with its thousands grouped.
func Thousands(v float64) string {
	n := int64(math.Round(v))
	s := fmt.Sprint(n)
	for i := len(s) - 3; i > 0 && s[i-1] != '-'; i -= 3 {
		s = s[:i] + "," + s[i:]
	}
	return s
}

// Trim returns a thickness to hundredths without needless noughts: "0.9", "0.78".
func Trim(mm float64) string { return strconv.FormatFloat(math.Round(100*mm)/100, 'f', -1, 64) }

// MinSec returns seconds as "1 min 40", to the nearest five seconds.
func MinSec(s float64) string {
	n := int(math.Round(s/5)) * 5
	if n < 60 {
		return fmt.Sprintf("%d s", n)
	}
	return fmt.Sprintf("%d min %02d", n/60, n%60)
}

// Plural returns "1 egg", "3 eggs".
func Plural(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return Thousands(float64(n)) + " " + many
}

// Minutes returns whole minutes, hours and minutes over two hours.
func Minutes(m float64) string {
	n := int(math.Round(m))
	if n >= 120 {
		return fmt.Sprintf("%d h %02d", n/60, n%60)
	}
	return fmt.Sprintf("%d min", n)
}

// EggWords returns "9 eggs", "2 eggs and 3 yolks", "no egg".
func EggWords(whole, yolks int) string {
	switch {
	case whole > 0 && yolks > 0:
		return Plural(whole, "egg", "eggs") + " and " + Plural(yolks, "yolk", "yolks")
	case yolks > 0:
		return Plural(yolks, "yolk", "yolks")
	case whole > 0:
		return Plural(whole, "egg", "eggs")
	}
	return "no egg"
}

// EggWords returns the eggs of the plan: in whole numbers, or in grams when they were
// weighed.
func (p *Plan) EggWords() string {
	f := &p.Formula
	if f.Weighed() {
		return Grams(f.Pick.EggG) + " of egg, about " + EggWords(f.Pick.Whole, f.Pick.Yolks)
	}
	if also := p.AlsoWords(); also != "" {
		if f.Pick.Whole+f.Pick.Yolks == 0 {
			return also
		}
		return EggWords(f.Pick.Whole, f.Pick.Yolks) + " with " + also
	}
	return EggWords(f.Pick.Whole, f.Pick.Yolks)
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
	return list(out)
}

// EggClass returns the eggs used: the class's means or the kitchen's own.
func (p *Plan) EggClass() egg.Class { return p.Request.Eggs.class() }

// TopWord returns what the top-up liquid is called.
func (p *Plan) TopWord() string {
	if p.Request.Eggs.TopUp == egg.TopMilk {
		return "milk"
	}
	return "water"
}

// keptWords returns how a flour is kept, to stand after "in".
func keptWords(k flour.Keeping) string {
	return map[flour.Keeping]string{flour.SealedTub: "a sealed tub", flour.PaperBag: "a folded paper bag", flour.OpenBin: "an open bin", flour.Sifted: "a sifted heap"}[k]
}

// explain writes the one plain sentence behind every figure.
func (p *Plan) explain() {
	r, f, ru := &p.Request, &p.Formula, &p.rules
	w := map[string]string{}
	say := func(key, format string, a ...any) { w[key] = fmt.Sprintf(format, a...) }

	switch r.Amount.By {
	case "portions":
		say("formula.flour", "%s of %s raw come to %s; this flour gives %s after what bowl, board and trims keep.",
			Plural(int(r.Amount.Portions), "portion", "portions"), Grams(f.PortionG), Grams(r.Amount.Portions*f.PortionG), Grams(p.Cut.AllMadeG))
		switch {
		case len(p.Cut.Also) > 0:
			say("formula.flour", "%s in all: %s.", Plural(int(r.Amount.Portions), "portion", "portions"), p.SharedWords())
		case p.Cut.Filled():
			say("formula.flour", "%s of %s raw, filling included; this flour gives %s of dough in the pieces, and %s goes into them.", Plural(int(r.Amount.Portions), "portion", "portions"), Grams(f.PortionG), Grams(p.Cut.AllDoughG), Grams(p.Cut.AllFillG))
		}
	case "dough":
		say("formula.flour", "Asked for %s of dough, this flour gives %s: eggs come in whole numbers.", Grams(r.Amount.DoughG), Grams(f.Dough.MassG))
		if f.Pick.Whole+f.Pick.Yolks == 0 {
			say("formula.flour", "Asked for %s of dough, this flour gives %s.", Grams(r.Amount.DoughG), Grams(f.Dough.MassG))
		}
	case "eggs":
		say("formula.flour", "%s of beaten egg bring this much flour to its target, to the gram.", Grams(f.Pick.EggG))
	default:
		say("formula.flour", "As you asked.")
	}
	if f.Pick.FlourAddG > 0 {
		w["formula.flour"] += fmt.Sprintf(" %s of it came in to suit whole eggs.", Grams(f.Pick.FlourAddG))
	}
	top := ""
	if f.TopG > 0 {
		top = " and " + Grams(f.TopG) + " of " + p.TopWord()
	}
	say("formula.eggs", "%s%s to %s of flour, the least that meets the target without leaving much over.", p.EggWords(), top, Grams(f.FlourG))
	switch {
	case f.Weighed():
		say("formula.eggs", "As they weigh; liquid and flour follow.")
	case f.Pick.Whole+f.Pick.Yolks == 0:
		say("formula.eggs", "%s of %s brings %s of flour to its target.", Grams(f.TopG), p.TopWord(), Grams(f.FlourG))
	case p.task.FixWhole != nil || p.task.FixYolks != nil:
		say("formula.eggs", "You named the eggs; liquid and flour follow.")
	}
	liquid, drinks := (f.Dough.Hydration+100)*f.Blend.F14G/100-f.FlourG, f.Blend.F14G-f.FlourG
	verb := "less " + Grams(drinks) + " the dry flour drinks"
	if drinks < 0 {
		verb = "and " + Grams(-drinks) + " the moist flour brings"
	}
	say("formula.hw", "%s of water in the liquids, %s, to %s of flour at 14 %%: %.1f.", Grams(liquid), verb, Grams(f.Blend.F14G), f.Dough.Hydration)
	if fat := f.Dough.Hw - f.Dough.Hydration; fat >= .05 {
		w["formula.hw"] += fmt.Sprintf(" The fat feels like %.1f more.", fat)
	}
	say("formula.band", "Aim %.1f: for flour that takes up %.1f %%, thinned on a %s%s.", f.Target.Hw, f.Blend.AbsorptionPct,
		map[string]string{"roller": "roller machine", "sheeter": "powered sheeter", "pin": "board by hand"}[string(p.machine.Tool)], yolkClause(-ru.Hydration.YolkShift*f.Pick.YolkShare))
	w["formula.blend"] = p.blendWords()
	w["formula.one_egg"] = p.oneEggWords()
	if len(f.Additions) > 0 {
		var said []string
		for _, a := range f.Additions {
			verb := "brings"
			if a.LiquidG < 0 {
				verb = "takes up"
			}
			name, _, _ := strings.Cut(a.Name, ",")
			said = append(said, fmt.Sprintf("%s %s %s of water", strings.ToLower(name), verb, Grams(math.Abs(a.LiquidG))))
		}
		say("formula.additions", "%s; eggs and liquid answer to that.", capital(list(said)))
	}
	say("formula.dough", "%.3f g/mL with %.0f %% of air in it; %.1f %% of it is water.", f.Dough.DensityGPerML, 100*ru.Dough.AirShare, 100*f.Dough.WaterShare)
	say("formula.colour", "%s.", capital(f.Colour.Words))
	say("formula.yield", "%s raw at %s a portion.", Grams(p.Cut.AllMadeG), Grams(f.PortionG))
	say("formula.held_back", "%.0f %% of the flour stays out of the well and is worked in only if the dough asks.", 100*ru.Room.HeldBackShare)

	part := f.Flours[0]
	k := r.Flours[0]
	if part.Moisture.Measured {
		say("room.moisture", "Measured, so it stands.")
	} else {
		say("room.moisture", "Milled at %.1f %%; this air draws it to %.1f %%. %s in %s of %g kg (63 %% of the way in %.0f days) leaves it here.",
			100*part.Moisture.MilledWB, 100*part.Moisture.EquilibriumWB, capital(Plural(int(k.OpenDays), "day", "days")), keptWords(k.Kept), k.ContainsKG, math.Max(1, part.Moisture.TauDays))
		if part.Moisture.Bounded {
			w["room.moisture"] += fmt.Sprintf(" Beyond %.1f–%.1f %% it is not believed without measuring.", 100*ru.Flour.EstimateLowWB, 100*ru.Flour.EstimateHighWB)
		}
	}
	switch c := p.Room.CorrectionG; {
	case c >= .5:
		say("room.water", "Flour this dry, and what the board loses, ask for %s more than flour fresh from the mill.", Grams(c))
	case c <= -.5:
		say("room.water", "Flour this moist asks for %s less than flour fresh from the mill.", Grams(-c))
	default:
		say("room.water", "The flour is as moist as it was milled: the room asks for nothing.")
	}
	switch {
	case p.Room.Measured:
		w["room.water"] += " The moisture is measured, so pour it all."
	case f.TopG == 0 && p.Room.CorrectionG > 0:
		w["room.water"] += " The eggs bring it."
	case p.Room.KeepG > 0 && p.Room.CorrectionG > 0:
		w["room.water"] += " It is an estimate: pour what is sure, keep the rest in reach."
	case p.Room.KeepG > 0:
		w["room.water"] += " It is an estimate: keep a little in reach in case the dough stays dry."
	}
	if p.Room.KeepG > 0 {
		o := p.Room.InWords
		whole := func(g float64) string { return fmt.Sprintf("%.0f g", g) }
		say("room.worth", "Worth the same to the dough: %s of beaten egg, or %s of milk. Oil is a poor stand-in: %s.", whole(o.EggG), whole(o.MilkG), whole(o.OilG))
	}
	if u := p.Room.Used; u != nil {
		say("room.used", "%s of flour and %s of %s are in it: %.1f where %.1f was planned. Every station follows.", Grams(u.FlourG), Grams(u.LiquidG), p.TopWord(), u.Hw, u.PlannedHw)
	}
	say("room.loss", "Vapour leaves the dough's face for %.0f minutes of kneading at %.0f °C and %.0f %%.", ru.Room.BoardSeconds/60, r.Room.TempC, 100*r.Room.RH)
	say("room.contact", "Flour at %.0f °C and eggs from the %s, and %g °C from the hands.", r.Room.TempC, r.Eggs.From, ru.Knead.ContactRiseC)

	say("knead.min", "This dough develops to 63 %% in %.1f minutes of work by hand; %s, the rest and %s bring it to %.0f %%.",
		p.Knead.W63Min, p.workWords(), Plural(p.Roll.Folds, "folded pass", "folded passes"), 100*p.Knead.D)
	say("knead.school", "%s", p.Knead.SchoolWhy)
	if p.Knead.SchoolWhy == "" {
		say("knead.school", "Your choice. It buys: %s.", p.Knead.School.Buys())
	}
	say("knead.hands", "Mixing, hands on the dough, and the folded passes; %s from flour to roller.", Minutes(p.way.ElapsedMin))
	if p.Knead.Asked {
		w["knead.min"] = "Your minutes. " + w["knead.min"]
	}
	where := "the room"
	if p.Rest.Cold {
		where = "the fridge"
	}
	say("rest.min", "Tension halves every %.0f minutes at 22 °C; after %s in %s it is down to %.0f %% and the flour has taken up %.0f %% of its water.",
		p.Knead.TauRMin*math.Ln2, Minutes(p.Rest.Min), where, 100*p.Rest.T, 100*p.Rest.U)
	if p.Rest.Asked {
		w["rest.min"] = "Your minutes. " + w["rest.min"]
	}

	warms, tool := ru.Knead.Hand, "from the hands"
	switch p.Knead.School {
	case knead.Hook:
		warms, tool = ru.Knead.Hook, "from the hook"
	case knead.Processor:
		warms, tool = ru.Knead.Processor, "in the processor"
	}
	say("knead.peak", "From %.0f °C when it comes together, and %g °C a minute %s.", p.Room.ContactC, warms.HeatC, tool)
	say("knead.folds", "Each is worth %g min of kneading and lays the sheet straight.", ru.Knead.FoldWork)
	say("rest.temp", "It moves towards %s by 63 %% in %.0f minutes.", where, p.tauRest())
	say("rest.warm", "Mixing, kneading and the warm part of the rest. Past %s take care, past %s throw it away: the usual advice for egg.", Minutes(p.cautionAt()), Minutes(p.discardAt()))
	if c := p.Clock; c != nil {
		say("rest.clock", "Counted back from the roller: %s from flour to roller.", Minutes(p.way.ElapsedMin))
	}
	say("rest.ready", "Development, tension and water uptake all pass, %s after flour met water.", Minutes(max(0, p.Rest.ReadyAtMin)))
	if p.Rest.ReadyAtMin < 0 {
		say("rest.ready", "Not by this plan: the notes say of what it falls short.")
	}

	p.explainRoll(say)
	p.explainCut(say)
	p.explainDry(say)
	p.explainCook(say)
	p.Why = w
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
	return fmt.Sprintf("It %s. Protein %.1f %%, absorption %.1f %%, gluten factor %.2f.", list(out), b.ProteinPct, b.AbsorptionPct, b.GlutenFactor)
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
		t.Class, t.FlourG, t.F14G, t.GivenG, t.ExtraWater, t.ExtraFat, t.LossG, t.TopUp, t.LockFlour = c, 100, 100*t.F14G/t.FlourG, 0, 0, 0, 0, egg.TopNone, true
		return t.Try(1, 0).Hw
	}
	return fmt.Sprintf("One egg to 100 g, as recipes say, would come to %.1f with an egg of %g g; to %.1f with small ones and %.1f with the biggest.", of(c), math.Round(10*c.EdibleG)/10, of(small), of(big))
}

// explainRoll gives the reasons of the way down.
func (p *Plan) explainRoll(say func(key, format string, a ...any)) {
	o, ru := &p.Roll, &p.rules
	if p.Roped() {
		say("roll.sheet", "The wall of the formed piece; it is what dries and cooks.")
		say("roll.pieces", "%s a rope of %g mm, %.0f mm long.", Grams(o.RolledG), p.lay.RopeMM, o.LengthMM)
		say("roll.time", "%s rolled to ropes, one after the other; cover what waits.", Plural(o.Pieces, "piece", "pieces"))
		say("roll.mode", "No sheet: cut ropes under the palms, from the middle outwards.")
		return
	}
	how := fmt.Sprintf("About %.0f g of flour each", ru.Roll.PieceFlourG)
	switch {
	case p.Request.Roll.Pieces != nil:
		how = "As you divide it"
	case o.Larger:
		how = fmt.Sprintf("Larger than usual, so that %g mm fits", p.leastAlong())
	case p.lay.Pin:
		how = fmt.Sprintf("As few as a board of %g by %g mm takes", p.machine.BoardLengthMM, p.machine.BoardWidthMM)
	case p.Request.Roll.Divide == "bench":
		how = fmt.Sprintf("So that one sheet is no longer than the bench, %g mm", p.Request.Roll.BenchMM)
	}
	if p.lay.Pin {
		say("roll.sheet", "As thin as the pin is taken: see your hand through it, then print.")
		say("roll.pieces", "%s; %s is a sheet of %.0f mm.", how, Grams(o.RolledG), o.LengthMM)
		say("roll.time", "%s of rolling and a short pause after each, %s one after the other.", Plural(len(o.Passes), "stage", "stages"), Plural(o.Pieces, "sheet", "sheets"))
		say("roll.mode", "From the middle outwards, a quarter turn between; it rests half a minute when it pulls back. A straight bottle will do for a pin.")
		return
	}
	sure := fmt.Sprintf("generic gaps, so within %.0f %%", 100*o.Sure)
	if o.Calibrated {
		sure = fmt.Sprintf("measured, within %.0f %%", 100*o.Sure)
	}
	say("roll.sheet", "Stop %s leaves %.2f mm (%s): this dough springs back %.0f %% of the gap. %.2f mm is wanted.", o.TargetStop, o.SheetMM, sure, 100*o.Spring, o.TargetMM)
	say("roll.pieces", "%s; %s covers %.0f mm of a %.0f mm sheet.", how, Grams(o.RolledG), o.LengthMM*float64(o.Sheets), o.Machine.WidthMM)
	say("roll.time", "%s at %.0f mm/s and %.0f seconds of handling a pass, %s one after the other.", Plural(len(o.Passes), "pass", "passes"), o.Machine.SpeedMMPerS, ru.Roll.HandlingS, Plural(o.Pieces, "piece", "pieces"))
	if o.WaitMin >= 1 {
		say("roll.wait", "The last piece waits %s under the bowl; past ten minutes a piece relaxes further and rolls the easier.", Minutes(o.WaitMin))
	}
	say("roll.mode", "%s", p.modeWords())
}

// tauRest is the time constant of the dough as it rests, min.
func (p *Plan) tauRest() float64 {
	if p.ask.ChillG > 0 {
		return p.rules.Knead.CoolTauMin * math.Sqrt(p.ask.ChillG/500)
	}
	return p.model.TauDMin
}

// workWords names the kneading of the way.
func (p *Plan) workWords() string {
	w := &p.way
	switch w.School {
	case knead.Turns:
		return Plural(w.Turns, "turn", "turns") + " of " + Minutes(w.KneadMin)
	case knead.Hook:
		return fmt.Sprintf("%g minutes slow and %s on the hook", p.rules.Knead.HookSlowMin, Minutes(w.KneadMin))
	case knead.Processor:
		return fmt.Sprintf("%.0f seconds in the processor and %s by hand", 60*w.Steps[0].Min, Minutes(w.KneadMin))
	}
	return Minutes(w.KneadMin)
}

func yolkClause(points float64) string {
	if points == 0 {
		return ""
	}
	return fmt.Sprintf(", %.1f lower for its yolk", points)
}

// modeWords says how the stops are taken.
func (p *Plan) modeWords() string {
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
	return p.tint(s.WholeG, s.YolkG, p.task.FlourG+s.FlourAddG+s.EggG+s.TopG+addedG(p.Formula.Additions))
}

// FeelOf returns how the dough of another of the solver's answers behaves, in words.
func (p *Plan) FeelOf(s egg.Solution) string {
	t := p.Formula.Target
	shift := s.TargetHw - t.Hw
	t.Hw, t.Low, t.High = t.Hw+shift, t.Low+shift, t.High+shift
	return t.Feel(p.rules.Hydration, s.Hw)
}
