package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/addition"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

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

// workWords names the kneading of the way.
func (p *Plan) workWords() string {
	if p.Knead.Own {
		return p.ownWords()
	}
	return p.way.School.Traits().Work(&p.rules.Knead, &p.way)
}

// adviseShared says where kneading is shared out and there is nobody to share it with.
func (p *Plan) adviseShared() {
	if p.ask.Own == nil || p.Knead.Shared || !slices.ContainsFunc(p.Request.Knead.Steps,
		func(s request.KneadStep) bool { return s.Hands == request.HandsShared }) {
		return
	}
	if p.Request.Bench.People < 2 {
		p.note(request.AtKnead, "knead.min", Remark, "shared_alone", "Shared out, with one person.",
			"Under Bench stands one pair of hands, so it is planned as one piece. Say how many knead, and each has a "+
				"part.")
	}
}

func (p *Plan) adviseKnead() {
	ru, k := &p.rules, &p.Knead
	p.adviseOwn()
	p.adviseShared()
	p.adviseLoads()
	if k.LimitG == 0 && (p.ask.Own == nil || p.machined()) {
		p.note(request.AtKnead, "knead.min", Remark, "bowl_unknown", "How much does the bowl take?",
			"Say so under Bench, and Hollen splits what is more.")
	}
	machine := p.machined()
	hot, text := ru.Knead.HandHotC, "Hands cannot over-knead it but heat can: pause in the fridge for ten minutes"
	if machine {
		hot, text = ru.Knead.MachineHotC, "A machine warms it fast: stop, ten minutes in the fridge, then go on"
	}
	if k.PeakC > hot {
		if p.peakFromFridgeC() <= hot {
			text += ", or start with eggs from the fridge"
		}
		if machine && p.Room.ContactC > hot {
			text = "It comes together warmer than a machine should leave it: chill the flour and the liquid first, " +
				"or knead by hand"
		}
		p.note(request.AtKnead, "knead.peak", Warning, "hot", "Warm dough.", "It gets to %s. %s.", p.in.C(k.PeakC, 0),
			text)
	}
	if p.ask.Own != nil {
		p.adviseOwnShort()
	} else if k.FoldsMore > p.Roll.Folds {
		longer := ", or knead longer"
		if p.Request.Knead.Min == nil && k.School == knead.Short {
			longer = ", or choose a longer kneading"
		}
		p.note(
			request.AtKnead,
			"knead.folds",
			Warning,
			"folds",
			"Short of kneading.",
			"%s instead of %d will finish it%s.",
			measure.Plural(k.FoldsMore, "folded pass", "folded passes"),
			p.Roll.Folds,
			longer,
		)
	}
	if machine {
		p.note(request.AtKnead, "knead.min", Caution, "machine", "Moving parts.",
			"Hands, spoons, hair and sleeves out of the bowl while it turns; unplug before reaching to hook or blade.")
	}
	for _, s := range p.Rest.Lacks {
		if s.What == "development" && p.ask.Pin && p.ask.Own == nil {
			p.note(request.AtKnead, "knead.min", Warning, "short_for_pin", "Short of kneading for a pin.",
				"It comes to %s, and under a pin nothing is kneaded after it%s.", ofWanted(s), p.kneadMore())
		}
	}
}

// machined says whether a machine does some of the kneading, and so warms the dough fast.
func (p *Plan) machined() bool {
	if p.ask.Own == nil {
		return p.Knead.School.Traits().Machine()
	}
	return p.ask.Own.Machine || slices.ContainsFunc(p.way.Steps, func(s knead.Step) bool {
		return s.By == knead.BySlowHook || s.By == knead.ByHook || s.By == knead.ByProcessor
	})
}

// restMore says how much longer a rest has to be until it serves.
func (p *Plan) restMore(serves func(knead.State) bool) string {
	const most = 240 // min
	track := p.model.Through(p.ask, p.way)
	for more := 5.; more <= most; more += 5 {
		if serves(p.model.RestOn(p.ask, track, more)) {
			return fmt.Sprintf("Rest it %s longer.", measure.Minutes(more))
		}
	}
	return "In this cold it hardly moves: rest it in the room."
}

// peakFromFridgeC is the warmest the dough gets with eggs from the fridge, °C; +Inf where they are from
// there, or there are none.
func (p *Plan) peakFromFridgeC() float64 {
	if p.Request.Eggs.From == request.FromFridge || p.Formula.WholeG+p.Formula.YolkG == 0 {
		return math.Inf(1)
	}
	_, _, w := p.solve(p.Knead.School, func(a *knead.Ask) { a.StartC = p.contactC(p.rules.Knead.FridgeC) })
	return w.PeakC
}

// kneadMore says what finishes a dough under a pin: more minutes, or turns, whichever does.
func (p *Plan) kneadMore() string {
	const most = 30. // min
	var ways []string
	if p.Knead.Own {
		if longer := p.longerLast(most); longer != "" {
			return ": " + longer
		}
		return ""
	}
	for m := math.Ceil(p.Knead.Min) + 1; m <= most; m++ {
		if _, _, w := p.solveBy(p.Knead.School, p.loadsBy(p.Knead.School),
			func(a *knead.Ask) { a.FixKnead = &m }); w.DFolded >= p.rules.Knead.ReadyD {
			ways = append(ways, "knead it "+measure.Minutes(m))
			break
		}
	}
	if p.Knead.School != knead.Turns {
		if _, _, w := p.solveBy(knead.Turns, p.loadsBy(knead.Turns), func(a *knead.Ask) {
			a.FixKnead = nil
			a.FixTurns = nil
			a.FixRest = nil
		}); w.Ready {
			ways = append(ways, "work it in turns, with hours in the cold")
		}
	}
	if len(ways) == 0 {
		return ""
	}
	return ": " + strings.Join(ways, ", or ")
}

// adviseLoads says what is kneaded at once, and how the loads follow each other.
func (p *Plan) adviseLoads() {
	k, people := &p.Knead, p.Request.Bench.People
	mass := p.in.Grams(p.Formula.Dough.MassG)
	wait := ""
	if p.way.WaitMin > 0 {
		wait = fmt.Sprintf("; the first waits %s for the last, covered", measure.Minutes(p.way.WaitMin))
	}
	loads := fmt.Sprintf("%s of %s", measure.Plural(k.Loads, "load", "loads"), p.in.Grams(k.LoadG))
	switch {
	case p.ask.Own != nil && k.Loads == 1:
	case p.ask.Own == nil && p.Request.Knead.Shared && !k.Shared && people > 1 && !k.School.Traits().Machine():
		p.note(request.AtKnead, "knead.min", Remark, "split", "Too few to share it.",
			"%s wants %d pairs of hands at once: kneaded in %s%s.", mass, k.Loads,
			loads, wait)
	case k.Loads > 1 && p.machined():
		p.note(request.AtKnead, "knead.min", Remark, "bowl", "More than the bowl takes.",
			"%s where %s fits: %s, one after the other%s.", mass,
			p.in.Grams(k.LimitG), loads, wait)
	case k.LoadTurns > 1:
		p.note(request.AtKnead, "knead.min", Remark, "split", "Much for these hands.",
			"%s in %s%s. With %d pairs of hands they are kneaded side by side.", mass, loads, wait, k.Loads)
	}
}

// ofWanted says a criterion that is not met: "87 % of the 90 % wanted"; a figure that reads as the one
// wanted is told as just short of it.
func ofWanted(s knead.Lack) string {
	is, wants := fmt.Sprintf("%.0f", 100*s.Is), fmt.Sprintf("%.0f", 100*s.Wants)
	if is == wants {
		if s.Is < s.Wants {
			return "just short of the " + wants + " % wanted"
		}
		return "just over the " + wants + " % wanted"
	}
	return is + " % where " + wants + " % is wanted"
}

// ownWords is the kneading of the maker's own way in words: "8 min and 5 min by hand".
func (p *Plan) ownWords() string {
	said := map[knead.Tool]string{knead.ByHand: "by hand", knead.BySlowHook: "on the hook, slow",
		knead.ByHook:      "on the hook",
		knead.ByProcessor: "in the processor"}
	var order []knead.Tool
	minutes := map[knead.Tool][]string{}
	for _, x := range p.way.Steps {
		if _, worked := said[x.By]; worked {
			if minutes[x.By] == nil {
				order = append(order, x.By)
			}
			minutes[x.By] = append(minutes[x.By], measure.Exactly(x.Min))
		}
	}
	var out []string
	for _, by := range order {
		text := measure.List(minutes[by])
		if n := len(minutes[by]); n > 1 && len(slices.Compact(slices.Clone(minutes[by]))) == 1 {
			text = measure.Plural(n, "time", "times") + " " + minutes[by][0]
		}
		out = append(out, text+" "+said[by])
	}
	if len(out) == 0 {
		return "No kneading"
	}
	return measure.List(out)
}

// explainOwn gives the reasons of a way of the maker's own, and what the school would do.
func (p *Plan) explainOwn() {
	w := p.hollens()
	theirs := p.Knead.School.Traits().Work(&p.rules.Knead, w)
	rest := "no rest"
	if w.RestMin > 0 {
		rest = measure.Minutes(w.RestMin) + " of rest"
	}
	say := fmt.Sprintf("Your own steps, as you say them: %s from flour to the %s. %s would be %s and %s: %s.",
		measure.Minutes(p.way.ElapsedMin), p.toWhat(),
		p.Knead.School.Traits().Short, theirs, rest, measure.Minutes(w.ElapsedMin))
	p.say("knead.school", "%s", say)
	hot := knead.Long.Traits()
	for _, s := range p.way.Steps {
		switch s.By {
		case knead.ByProcessor:
			hot = knead.Processor.Traits()
		case knead.ByHook:
			if hot.School != knead.Processor {
				hot = knead.Hook.Traits()
			}
		}
	}
	p.say("knead.peak", "From %s when it comes together, and %s a minute %s.", p.in.C(p.Room.ContactC, 0),
		p.in.RiseC(hot.HeatC(&p.rules.Knead)), hot.WarmedBy)
}

// toWhat names where the dough goes after its rest.
func (p *Plan) toWhat() string {
	if p.Pinned() {
		return "board"
	}
	return "roller"
}

// adviseOwn comments on the steps of the maker's own way; none of it changes them.
func (p *Plan) adviseOwn() {
	k := &p.Request.Knead
	if k.By == request.KneadOwn && len(k.Steps) == 0 {
		p.note(request.AtKnead, "knead.school", Remark, "no_steps", "No step of your own yet.",
			"Until there is one, the school works it out.")
	}
	if p.ask.Own == nil {
		return
	}
	if mixesFirst(k.Steps) == 0 {
		p.note(request.AtKnead, "knead.school", Remark, "no_mix", "No mixing in it.",
			"Flour and egg take some minutes to hang together: as a step they count in the hours and in the day.")
	}
	limit := p.Knead.LimitG
	if mass := p.Formula.Dough.MassG; p.Knead.Loads == 1 && !p.Knead.Shared && limit > 0 && mass > limit+.5 {
		p.note(request.AtKnead, "knead.min", Remark, "own_much", "Much at once.",
			"%s where %s is usual here: the minutes of work reach less of it. Lot by lot, "+
				"or shared out, can be said at each step.", p.in.Grams(mass), p.in.Grams(limit))
	}
	for _, s := range p.way.Steps {
		if s.Rests() && s.Lies == string(request.CoverNone) && s.Min > openMin {
			p.note(request.AtRest, "rest.min", Remark, "open", "It lies open.",
				"In %s a skin forms that rolls into flakes; a damp cloth or a bowl keeps it off.",
				measure.Minutes(s.Min))
			break
		}
	}
}

// adviseOwnShort remarks on a way of one's own that kneads little: makers do, and folds, a night or the pin finish it.
// Where a pass tears because of it, that is said at the pass.
func (p *Plan) adviseOwnShort() {
	ru := &p.rules.Knead
	d := p.way.D
	if p.ask.Pin { // long rolling works it on
		d = 1 - (1-d)*math.Exp(-ru.PinWork*p.Roll.TimeMin/p.model.W63Min)
	}
	night := p.Rest.Min >= ru.NightMin // in the cold it goes on
	switch {
	case p.Formula.Blend.GlutenFactor < p.ask.GlutenBar, d >= ru.ReadyD, p.Knead.D >= ru.ReadyD,
		d >= ru.EnoughD && (p.way.Folds > 0 || night || p.ask.Pin):
		return
	}
	ways := "Folds at the widest stop, longer kneading or a night in the fridge bring it there; where a pass would " +
		"tear for it, that is said at the pass."
	if p.ask.Pin {
		ways = "The pin is counted in it; longer kneading or a night in the fridge bring it there."
	}
	p.note(request.AtKnead, "knead.min", Remark, "short_own", "Kneaded little.",
		"It comes to %.0f %%; from %.0f %% on a sheet is smooth and elastic. %s", 100*d, 100*ru.ReadyD, ways)
}

// openMin is how long a dough may lie open before it skins, min. Source: house.
const openMin = 5

// longerLast says how long the last kneading of the maker's own way would have to be until it serves; ""
// where no minutes within reason do.
func (p *Plan) longerLast(most float64) string {
	own := p.ask.Own
	last := -1
	for i, s := range own.Steps {
		if !s.Rests() && s.By != knead.ByMixing {
			last = i
		}
	}
	if last < 0 {
		return ""
	}
	longer := *own
	longer.Steps = slices.Clone(own.Steps)
	for m := math.Ceil(longer.Steps[last].Min) + 1; m <= most; m++ {
		longer.Steps[last].Min = m
		a := p.ask
		a.Own = &longer
		if w := p.model.Solve(a); w.DFolded >= p.rules.Knead.ReadyD {
			return "make the last kneading " + measure.Minutes(m)
		}
	}
	return ""
}

// handWords is the n-th kneading by hand of the maker's own way, of so many, after what was done before.
func (p *Plan) handWords(s knead.Step, n int, before knead.Tool) knead.Words {
	hands := 0
	for _, x := range p.way.Steps {
		if x.By == knead.ByHand {
			hands++
		}
	}
	switch {
	case before == knead.ByProcessor:
		return knead.Processor.Traits().Hand(n, hands)
	case hands > 1:
		return knead.Turns.Traits().Hand(n, hands)
	case s.Min <= p.rules.Knead.ShortMaxMin:
		return knead.Short.Traits().Hand(1, 1)
	}
	return knead.Long.Traits().Hand(1, 1)
}

// KneadWords is all kneading in as few words as a figure has: "8 + 5", "2 × 5", "10".
func (p *Plan) KneadWords() string {
	w := &p.Knead.Way
	switch {
	case !w.Uneven && w.Turns > 1 && p.ask.Own == nil:
		return fmt.Sprintf("%d × %.0f", w.Turns, w.KneadMin)
	case p.ask.Own == nil:
		return fmt.Sprintf("%.3g", w.WorkMin)
	}
	var out []string
	same := true
	for _, s := range w.Steps {
		if !s.Rests() && s.By != knead.ByMixing {
			out = append(out, fmt.Sprintf("%.3g", s.Min))
			same = same && out[0] == out[len(out)-1]
		}
	}
	switch n := len(out); {
	case n == 0:
		return "0"
	case same && n > 1:
		return fmt.Sprintf("%d × %s", n, out[0])
	case n > 3:
		return fmt.Sprintf("%.3g", w.WorkMin)
	}
	return strings.Join(out, " + ")
}

// flourIn names the flour that goes in first, with what is sifted or stirred into it.
func (p *Plan) flourIn() string {
	f := &p.Formula
	text := p.in.Whole(math.Round(p.Room.FlourG)-math.Round(f.HeldBackG)) + " of flour"
	if said := p.asSaid("flour.1"); said != "" && len(f.Flours) == 1 && f.HeldBackG == 0 {
		text = said + " of flour"
	}
	var dry []string
	if f.SaltG > 0 {
		dry = append(dry, "the salt")
	}
	for i, a := range f.Additions {
		if p.Request.Additions[i].Kind().Kind == addition.Powder {
			dry = append(dry, lowName(a.Name))
		}
	}
	if len(dry) > 0 {
		text += " sifted with " + measure.List(dry)
	}
	return text
}

// lowName is what an addition is called within a sentence: its name up to the first comma.
func lowName(name string) string {
	name, _, _ = strings.Cut(name, ",")
	return strings.ToLower(name)
}

// liquidWords names what is poured, together.
func (p *Plan) liquidWords() string {
	f := &p.Formula
	var out []string
	switch {
	case f.Weighed() || f.AlsoG > 0:
		if f.WholeG+f.YolkG > 0 {
			out = append(out, p.EggWords())
		}
	default:
		if f.Pick.Whole > 0 {
			out = append(out, measure.Plural(f.Pick.Whole, "egg", "eggs"))
		}
		if f.Pick.Yolks > 0 {
			out = append(out, measure.Plural(f.Pick.Yolks, "yolk", "yolks"))
		}
	}
	if pour := math.Round(p.Room.PourG); pour > 0 {
		much := p.in.Whole(pour)
		if said := p.asSaid("top"); said != "" {
			much = said
		}
		out = append(out, fmt.Sprintf("%s of %s", much, p.TopWord()))
	}
	for i, a := range f.Additions {
		if p.Request.Additions[i].Kind().Kind != addition.Powder {
			out = append(out, lowName(a.Name))
		}
	}
	if f.OilG > 0 {
		out = append(out, "the oil")
	}
	if len(out) == 0 {
		return "the liquid (none is said yet)"
	}
	return measure.List(out)
}

// loadWords say what one load of the bowl is made of: "1,380 g of flour, 735 g of beaten egg, 12 g of water".
func (p *Plan) loadWords() string {
	f, n := &p.Formula, float64(p.BowlLoads())
	var out []string
	add := func(g float64, of string) {
		if g > .05 {
			out = append(out, p.in.Grams(g/n)+" of "+of)
		}
	}
	add(p.Room.FlourG, "flour")
	add(f.Pick.EggG, "beaten egg")
	add(p.Room.PourG, p.TopWord())
	add(f.SaltG, "salt")
	add(f.OilG, "oil")
	for _, a := range f.Additions {
		add(a.MassG, lowName(a.Name))
	}
	return measure.List(out)
}

// FreeWords says what fits into the longest rest; "" where nothing does.
func (p *Plan) FreeWords() string {
	together, instead := p.Free()
	names := func(list []FreeTask) (out []string) {
		for _, t := range list {
			out = append(out, fmt.Sprintf("%s (%s)", t.Name, measure.Minutes(t.Min)))
		}
		return out
	}
	if len(together) == 0 {
		return ""
	}
	text := "Time to " + measure.List(names(together)) + "."
	if len(instead) > 0 {
		text += " Or instead: " + strings.Join(names(instead), "; or ") + "."
	}
	return text
}
