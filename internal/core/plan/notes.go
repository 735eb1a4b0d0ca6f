package plan

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/dough"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// Level says how a note is meant.
type Level string

// The levels: a Warning asks for a change or a decision, a Remark is worth knowing, a
// Caution is about safety.
const (
	Warning Level = "warning"
	Remark  Level = "remark"
	Caution Level = "caution"
)

// Note is a piece of advice beside the figure it concerns. Advice never forbids.
type Note struct {
	Stage request.Stage `json:"stage"`
	Field string        `json:"field"` // the figure, as the keys of Why
	Level Level         `json:"level"`
	Code  string        `json:"code"`
	Head  string        `json:"head"`
	Text  string        `json:"text"`
}

// At returns the notes of a stage, warnings first, then remarks, then cautions.
func (p *Plan) At(s request.Stage) []Note {
	var out []Note
	for _, l := range []Level{Warning, Remark, Caution} {
		for _, n := range p.Notes {
			if n.Stage == s && n.Level == l {
				out = append(out, n)
			}
		}
	}
	return out
}

// Warnings returns how many warnings stand at a stage.
func (p *Plan) Warnings(s request.Stage) int {
	n := 0
	for _, x := range p.Notes {
		if x.Stage == s && x.Level == Warning {
			n++
		}
	}
	return n
}

func (p *Plan) note(s request.Stage, field string, l Level, code, head, format string, a ...any) {
	p.Notes = append(p.Notes, Note{s, field, l, code, head, p.in.Prose(fmt.Sprintf(format, a...))})
}

// advise gathers the notes of every stage.
func (p *Plan) advise() {
	p.Notes = []Note{}
	p.adviseFormula()
	p.adviseRoom()
	p.adviseKnead()
	p.adviseRest()
	p.adviseRoll()
	p.adviseCut()
	p.adviseDry()
	p.adviseCook()
	p.adviseLearned()
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
		case a.Share > kind.HighShare+1e-9:
			p.note(request.AtFormula, "formula.additions", Warning, "much_added", "More than usual.",
				"%s is %.1f %% of the flour; %.1f to %.1f %% is usual. It will weaken the sheet, or shout.", a.Name,
				100*a.Share, 100*kind.LowShare, 100*kind.HighShare)
		case a.Share < kind.LowShare-1e-9:
			p.note(request.AtFormula, "formula.additions", Remark, "little_added", "Hardly there.",
				"%s is %.1f %% of the flour; %.1f to %.1f %% is usual.",
				a.Name, 100*a.Share, 100*kind.LowShare, 100*kind.HighShare)
		}
		if kind.Advice != "" {
			p.note(request.AtFormula, "formula.additions", Remark, "prepare", a.Name+".", "%s", kind.Advice)
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
	if math.Abs(out) < .05 {
		return // no finer than it is shown
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

func (p *Plan) adviseRoom() {
	p.adviseDates()
	for i, x := range p.Request.Flours {
		if l := x.LotKept; l != nil && l.BestBefore != "" && p.Request.MadeOn > l.BestBefore {
			p.note(request.AtRoom, "room.moisture", Warning, "past_best", "Past its date.",
				"%s was best before %s: smell it, look for mites, and use it first or not at all.",
				p.Formula.Flours[i].Name+", "+l.Name, l.BestBefore)
		}
	}
	if p.Room.Used != nil {
		p.adviseFeel(request.AtRoom, "room.used")
	}
	for _, f := range p.Formula.Flours {
		if f.Moisture.AirClamped && !f.Moisture.Measured {
			p.note(request.AtRoom, "room.moisture", Remark, "air_clamped", "Air at the edge of what is known.",
				"The flour’s moisture is worked out for 10–90 %% humidity and %s; the nearest was taken.",
				p.in.Joined("–", measure.C, 0, 5, 40))
			break
		}
	}
}

func (p *Plan) adviseKnead() {
	ru, k := &p.rules, &p.Knead
	p.adviseOwn()
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
	if k.FoldsMore > p.Roll.Folds {
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
		if s.What == "development" && p.ask.Pin {
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

// adviseRest is the advice on the rest and on the dough's hours out of the fridge.
func (p *Plan) adviseRest() {
	ru := &p.rules
	switch {
	case p.Unrested():
		p.note(request.AtRest, "rest.min", Warning, "no_rest", "No rest at all.",
			"It can be done: it pulls back at every stop and wants twice the passes. Twenty minutes under a bowl "+
				"save more than they cost.")
	default:
		for _, s := range p.Rest.Lacks {
			switch s.What {
			case "tension":
				p.note(request.AtRest, "rest.min", Warning, "tension", "Still tense.",
					"Tension is %s: it snaps back and may tear. %s", ofWanted(s),
					p.restMore(func(x knead.State) bool { return x.T <= ru.Knead.ReadyT }))
			case "uptake":
				p.note(request.AtRest, "rest.min", Warning, "uptake", "Not all the water is in yet.",
					"%s: coarse flour stays sandy so. %s",
					measure.Capital(ofWanted(s)), p.restMore(func(x knead.State) bool {
						return p.model.U(
							x) >= ru.Knead.ReadyU
					}))
			}
		}
	}
	if p.Rest.TempC < ru.Knead.ColdC-.5 {
		text := "The room is too cold to warm it; roll it as it is, slowly."
		if p.Rest.TemperMin > 0 {
			divided := ""
			if p.Rest.TemperMin > 1.2*ru.Knead.TemperPieceMin && p.ask.ChillG == 0 {
				divided = fmt.Sprintf(", %.0f minutes if divided", ru.Knead.TemperPieceMin)
			}
			text = fmt.Sprintf("Leave it wrapped in the room for about %s%s, before rolling.",
				measure.Minutes(p.Rest.TemperMin), divided)
		}
		p.note(request.AtRest, "rest.temp", Remark, "cold", "Stiff with cold.", "It comes out at %s. %s",
			p.in.C(p.Rest.TempC, 0), text)
	}
	if p.Rest.Cold && p.Rest.Min > ru.Knead.GreyMin-1 {
		p.note(request.AtRest, "rest.min", Remark, "grey", "Greys past a day.",
			"Harmless, but it shows. Wrapped dough keeps at most 48 hours in the fridge.")
	}
	p.adviseCooling()
	if out := p.Rest.OutMin; out > p.cautionAt() && p.Perishable() {
		way := "Rest it in the fridge."
		if p.Rest.Cold {
			way = "Take it out later, or roll what is out first."
			if p.Knead.LoadTurns > 1 {
				way = "Put each load into the fridge as it is done."
			}
		}
		p.note(request.AtRest, "rest.warm", Warning, "warm_rest", "Long out of the fridge.",
			"%s by the time it is rolled; past %s take care. %s",
			measure.Minutes(out), measure.Minutes(p.cautionAt()), way)
	}
	if c := p.Clock; c != nil && !c.Fits {
		nearest := ""
		for _, w := range c.Ways {
			nearest += " " + w.Why
		}
		p.note(request.AtRest, "rest.clock", Warning, "too_late", "As it stands it would have to start earlier.",
			"It would start before you can.%s", nearest)
	}
	if a := p.Request.Rest.PokeS; a != nil {
		if k := p.ReadPoke(); !k.Ready {
			p.note(request.AtRest, "rest.min", Remark, "poke", k.Head, "%s", k.Words)
		}
	}
	if more, of := p.restsMore(); more > 0 && !p.Rest.Asked && p.ask.Own == nil && p.Rest.Min > 0 {
		p.note(
			request.AtRest,
			"rest.min",
			Remark,
			"rest_more",
			"Rests a little longer.",
			"%s with the water: %.0f minutes at least, counted in.",
			measure.Does(of, "settles", "settle"),
			more,
		)
	}
	if p.Unrested() {
		return
	}
	p.note(request.AtRest, "rest.min", Caution, "wrap", "Airtight.",
		"Film twice, an upturned bowl or a lidded tub: no skin, no hard edge. Date what goes into the fridge; your "+
			"food authority’s rules come first.")
}

// everyPiece is after how many pieces something is done, in words.
func everyPiece(n int) string {
	if n <= 1 {
		return "each piece"
	}
	return fmt.Sprintf("every %d pieces", n)
}

func (p *Plan) adviseRoll() {
	o := &p.Roll
	p.adviseOwnDown()
	switch {
	case p.Roped():
	case p.lay.Pin:
		p.advisePin()
	default:
		p.adviseStops()
	}
	if d := p.Dry.Leather; d.Will && !p.Roped() {
		// A sheet that waits on the board dries on one face: twice as long as on the rack.
		open := d.ToMin
		if p.Request.Dry.On != request.OnBoard {
			open *= 2
		}
		if wait := o.MinutesAll - o.TimeMin; o.Pieces > 1 && wait > open {
			p.note(
				request.AtRoll,
				"roll.time",
				Warning,
				"skin",
				"The first sheet skins over.",
				"It would wait %s on the board and stays right for %s. Cut after %s, or cover what waits.",
				measure.Minutes(wait),
				measure.Minutes(open),
				everyPiece(int(open/o.TimeMin)),
			)
		}
	}
	if p.lay.Pin {
		head, them := "Board and pin.", "them"
		if p.Roped() {
			head, them = "The board.", "it"
		}
		p.note(request.AtRoll, "roll.sheet", Caution, "board", head,
			"Scrape and wash %s hot after raw dough, dry %s standing; wood needs no oil that spoils.", them, them)
		return
	}
	p.note(request.AtRoll, "roll.sheet", Caution, "rollers", "Fingers, hair, sleeves, rings.",
		"Keep them from the rollers; unplug or take the crank off before fitting or cleaning. No water on rollers "+
			"unless the maker says so.")
}

// adviseStops is the advice on the way down a machine.
func (p *Plan) adviseStops() {
	o := &p.Roll
	for _, x := range o.Passes {
		if !o.Own && x.Easy > 0 && x.Reduction > x.Easy+1e-9 {
			p.overEasy(x)
			break
		}
	}
	stops := o.Machine.Stops
	first, last := stops[0].TrueMM(), stops[len(stops)-1].TrueMM()
	mm := func(v float64) string { n, _ := p.in.Number(v, measure.MM, 2); return n }
	side := "thicker"
	if o.MissMM < 0 {
		side = "thinner"
	}
	switch miss := math.Abs(o.MissMM); {
	case o.Own: // said among the comments on the own way
	case o.TargetMM < last*(1+o.Spring) && miss > .1*o.TargetMM:
		p.note(request.AtRoll, "roll.sheet", Warning, "too_fine", "Finer than this machine goes.",
			"Its last stop leaves %s; %s is wanted.",
			p.in.MM(o.SheetMM, 2), mm(o.TargetMM))
	case o.TargetMM > first*(1+o.Spring) && miss > .1*o.TargetMM:
		p.note(request.AtRoll, "roll.sheet", Warning, "too_thick", "Thicker than this machine’s widest stop.",
			"It leaves %s; roll it with a pin instead.", p.in.MM(o.SheetMM, 2))
	case miss > .12*o.TargetMM:
		way := fmt.Sprintf("a second pass at stop %s takes a little more off", o.TargetStop)
		if last := o.Passes[len(o.Passes)-1]; o.MissMM < 0 && last.Stop > 0 {
			before := stops[last.Stop-1]
			way = fmt.Sprintf("stop %s would leave %s", before.Label, mm(before.TrueMM()*(1+o.Spring)))
		}
		p.note(
			request.AtRoll,
			"roll.sheet",
			Remark,
			"between_stops",
			"Between two stops.",
			"%s is %s %s than the %s wanted; %s.",
			p.in.MM(o.SheetMM, 2),
			mm(math.Abs(o.MissMM)),
			side,
			mm(o.TargetMM),
			way,
		)
	}
	if p.Formula.feel.Grade <= -3 {
		p.note(request.AtRoll, "roll.sheet", Warning, "too_stiff", "Too stiff for this machine.",
			"So dry it strains crank and motor: Formula says what brings it in. Else pin it thinner first, and feed "+
				"smaller pieces.")
	} else if p.Rest.T > 2*p.rules.Knead.ReadyT && !p.Unrested() {
		p.note(request.AtRoll, "roll.sheet", Warning, "too_stiff", "Too tense for this machine.",
			"It strains crank and motor: Rest says how much longer it wants. Else pin it thinner first, and feed "+
				"smaller pieces.")
	}
	if !o.Calibrated && p.Request.Roll.Own == nil {
		p.note(request.AtRoll, "roll.sheet", Remark, "generic", "A generic machine.",
			"Your own may be off by %.0f %%. Keep it in the cabinet and measure a sheet or two: three leaves of "+
				"office paper are {0.3 mm}, a {100 by "+
				"100 mm} square of %s is %s.",
			100*roll.Unmeasured, p.in.G(o.SheetMM*p.Formula.Dough.DensityGPerML*10, 1), p.in.MM(o.SheetMM, 2))
	} else if !o.Calibrated && p.machine.GapsGuessed {
		p.note(request.AtRoll, "roll.sheet", Remark, "guessed", "The gaps are guessed.",
			"Only the dial is known, so the sheet may be off by %.0f %%: go by a hand or print seen through it, and "+
				"measure three sheets when there is time.",
			100*o.Sure)
	} else if !o.Calibrated {
		p.note(request.AtRoll, "roll.sheet", Remark, "unmeasured", "Not measured yet.",
			"The gaps are as given. Measure a sheet or two in the cabinet; until then the sheet may be off by %.0f %%.",
			100*roll.Unmeasured)
	}
}

// easier names what makes a pass easy: the stop before it twice, a rest, or finer stops, whichever does.
func (p *Plan) easier(x roll.Pass) string {
	var ways []string
	l := p.lay
	if i := x.Stop - x.Skipped - 1; i >= 0 && l.Verdict(1-x.OutMM/l.Sheet(l.Machine.Stops[i].TrueMM(), 2),
		x.Easy) == roll.Safe {
		ways = append(ways, fmt.Sprintf("take stop %s twice", l.Machine.Stops[i].Label))
	}
	if l.T = min(l.T, l.ReadyT); l.Verdict(x.Reduction, l.Easy(x.GapMM)) == roll.Safe {
		ways = append(ways, "rest the sheet ten minutes")
	}
	if x.Skipped > 0 {
		ways = append(ways, "leave no stop out")
	}
	return strings.Join(append(ways, "use a machine with finer stops"), ", or ")
}

// overEasy is the advice on a pass that takes more than is easy: a bold one is worth knowing, a
// tearing one asks for a change.
func (p *Plan) overEasy(x roll.Pass) {
	level, head := Remark, fmt.Sprintf("Stop %s is a bold step.", x.Label)
	if p.lay.Verdict(x.Reduction, x.Easy) == roll.Tearing {
		level, head = Warning, fmt.Sprintf("Stop %s may tear it.", x.Label)
	}
	p.note(request.AtRoll, "roll.sheet", level, "over", head,
		"%.0f %% off where %.0f %% is easy. %s.", 100*x.Reduction, 100*x.Easy, measure.Capital(p.easier(x)))
}

// advisePin is the advice on a sheet under the pin.
func (p *Plan) advisePin() {
	o, m := &p.Roll, p.machine
	mm := func(v float64) string { n, _ := p.in.Number(v, measure.MM, measure.Shortest); return n }
	if !o.FitsBoard {
		p.note(request.AtRoll, "roll.sheet", Warning, "board_small", "The board is too small.",
			"A sheet of %s where the board has %s by %s: divide it, or let the edge hang over and roll it in halves; "+
				"the overhang lets its weight help.",
			p.in.Long(o.LengthMM), mm(m.BoardLengthMM), mm(m.BoardWidthMM))
	}
	if across := min(o.WidthMM, o.LengthMM); across > m.WidthMM+1 {
		p.note(request.AtRoll, "roll.sheet", Remark, "pin_short", "Wider than the pin.",
			"%s of sheet under a pin of %s: roll from the middle outwards, turning it a little each time.",
			p.in.Long(across), mm(m.WidthMM))
	}
}
