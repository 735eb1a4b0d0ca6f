package plan

import (
	"fmt"
	"math"

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
}

func (p *Plan) adviseFormula() {
	f, ru := &p.Formula, &p.rules
	w := f.Eggs.Weighed
	out := f.Target.Outside(f.Dough.Hw)
	switch {
	case math.Abs(out) > ru.Hydration.NonsensePoints:
		p.note(request.AtFormula, "formula.hw", Warning, "no_sheet", "This will not make a sheet.",
			"%.1f is %.1f points outside the band. Change eggs or flour.", f.Dough.Hw, math.Abs(out))
	case out < 0:
		p.note(request.AtFormula, "formula.hw", Warning, "firm", "Firm.", "%.1f points under the band: %s. %s more liquid would bring it in.", -out, f.Feel,
			p.in.Grams(-out*f.Blend.F14G/100))
	case out > 0:
		p.note(request.AtFormula, "formula.hw", Warning, "soft", "Soft.", "%.1f points over the band: %s. Work in the flour held back.", out, f.Feel)
	}
	if !f.Eggs.Exact {
		p.note(request.AtFormula, "formula.eggs", Warning, "no_whole_number", "No whole number of eggs meets the target.",
			"Beat and weigh instead: crack %d and weigh %s.", w.Crack, p.in.Grams(w.WholeG))
	}
	b := f.Blend
	switch {
	case b.GlutenFactor < ru.Flour.GlutenNoSheet:
		p.note(request.AtFormula, "formula.flour", Warning, "no_gluten", "No machine sheet without a binder.",
			"Gluten factor %.2f: add strong wheat or egg white, or roll thick with a pin and patch by hand.", b.GlutenFactor)
	case b.GlutenFactor < ru.Flour.GlutenFragile:
		p.note(request.AtFormula, "formula.flour", Warning, "fragile", "Fragile.", "Gluten factor %.2f: roll thicker and take small steps.", b.GlutenFactor)
	case b.DurumShare > .95:
		p.note(request.AtFormula, "formula.flour", Remark, "all_durum", "All durum.", "It sets very hard under the hand; rest it long, or blend in soft wheat.")
	}
	if p.Request.Salt > .01 {
		p.note(request.AtFormula, "formula.salt", Remark, "salt", "Salty dough.", "Over 1 %% it is tasted in the dough; many salt only the water.")
	}
	for i, a := range f.Additions {
		kind := p.Request.Additions[i].Kind()
		switch {
		case a.Share > kind.HighShare+1e-9:
			p.note(request.AtFormula, "formula.additions", Warning, "much_added", "More than usual.",
				"%s is %.1f %% of the flour; %.1f to %.1f %% is usual. It will weaken the sheet, or shout.", a.Name, 100*a.Share, 100*kind.LowShare, 100*kind.HighShare)
		case a.Share < kind.LowShare-1e-9:
			p.note(request.AtFormula, "formula.additions", Remark, "little_added", "Hardly there.", "%s is %.1f %% of the flour; %.1f to %.1f %% is usual.",
				a.Name, 100*a.Share, 100*kind.LowShare, 100*kind.HighShare)
		}
		if kind.Advice != "" {
			p.note(request.AtFormula, "formula.additions", Remark, "prepare", a.Name+".", "%s", kind.Advice)
		}
		if kind.RestMoreMin > 0 {
			p.note(request.AtRest, "rest.min", Remark, "rest_more", "Rest a little longer.",
				"%s: %.0f minutes more than worked out, while it settles with the water.", a.Name, kind.RestMoreMin)
		}
		if kind.Salty && p.Request.Salt > 0 {
			p.note(request.AtFormula, "formula.salt", Warning, "salt_twice", "Salt twice.", "%s is salty by itself: leave the salt out.", a.Name)
		}
	}
	if f.Pick.WhitesG > 0 {
		p.note(request.AtFormula, "formula.eggs", Remark, "whites", "Whites left over.",
			"%s: freeze them flat, or for meringue. They keep two days in the fridge.", p.in.Grams(f.Pick.WhitesG))
	}
	raw := "Raw egg and flour."
	if f.Pick.Whole+f.Pick.Yolks == 0 {
		raw = "Raw flour."
	}
	p.note(request.AtFormula, "formula.eggs", Caution, "raw_egg", raw, "Wash hands, board and tools after; do not taste raw dough. Contains %s.",
		measure.List(f.Allergens))
}

func (p *Plan) adviseRoom() {
	for i, x := range p.Request.Flours {
		if l := x.LotKept; l != nil && l.BestBefore != "" && p.Request.MadeOn > l.BestBefore {
			p.note(request.AtRoom, "room.moisture", Warning, "past_best", "Past its date.",
				"%s was best before %s: smell it, look for mites, and use it first or not at all.", p.Formula.Flours[i].Name+", "+l.Name, l.BestBefore)
		}
	}
	if u := p.Room.Used; u != nil {
		if out := p.Formula.Target.Outside(u.Hw); out != 0 {
			p.note(request.AtRoom, "room.used", Warning, "used_outside", "It came out otherwise.", "%.1f points outside the band: %s.", math.Abs(out), p.Formula.Feel)
		}
	}
	for _, f := range p.Formula.Flours {
		if f.Moisture.AirClamped && !f.Moisture.Measured {
			p.note(request.AtRoom, "room.moisture", Remark, "air_clamped", "Air at the edge of what is known.",
				"The flour’s moisture is worked out for 10–90 %% humidity and %s; the nearest was taken.", p.in.Joined("–", measure.C, 0, 5, 40))
			break
		}
	}
}

func (p *Plan) adviseKnead() {
	ru, mass, k := &p.rules, p.Formula.Dough.MassG, &p.Knead
	if k.Lots > 1 {
		switch {
		case k.School.Traits().Machine():
			p.note(request.AtKnead, "knead.min", Warning, "bowl", "More than the bowl takes.",
				"%s where %s fits: %d lots of %s, each resting from its own end.", p.in.Grams(mass), p.in.Grams(k.LimitG), k.Lots, p.in.Grams(mass/float64(k.Lots)))
		default:
			p.note(request.AtKnead, "knead.min", Remark, "split", "Much for these hands.",
				"%s: split it in %d lots of %s, each resting from its own end, or let %d people knead a part each.", p.in.Grams(mass), k.Lots,
				p.in.Grams(mass/float64(k.Lots)), k.Lots*int(p.Request.Bench.People))
		}
	}
	if p.takes(k.School) == nil {
		p.note(request.AtKnead, "knead.min", Remark, "bowl_unknown", "How much does the bowl take?", "Say so under Bench, and Hollen splits what is more.")
	}
	hot, text := ru.Knead.HandHotC, "Hands cannot over-knead it but heat can: pause, or start with eggs from the fridge."
	if k.School.Traits().Machine() {
		hot, text = ru.Knead.MachineHotC, "A machine warms it fast: stop and let it cool, or start with eggs from the fridge."
	}
	if k.PeakC > hot {
		p.note(request.AtKnead, "knead.peak", Warning, "hot", "Warm dough.", "It gets to %s. %s", p.in.C(k.PeakC, 0), text)
	}
	if k.FoldsMore > p.Roll.Folds {
		p.note(request.AtKnead, "knead.min", Warning, "folds", "Short of kneading.", "%d folded passes instead of %d will finish it, or knead longer.",
			k.FoldsMore, p.Roll.Folds)
	}
	if k.School.Traits().Machine() {
		p.note(request.AtKnead, "knead.min", Caution, "machine", "Moving parts.",
			"Hands, spoons, hair and sleeves out of the bowl while it turns; unplug before reaching to hook or blade.")
	}
	for _, s := range p.Rest.Lacks {
		if s.What == "development" && p.ask.Pin {
			p.note(request.AtKnead, "knead.min", Warning, "short_for_pin", "Short of kneading for a pin.",
				"%.0f %% where %.0f %% is wanted, and a pin has no folded passes to finish it: knead longer, or in turns.", 100*s.Is, 100*s.Wants)
		}
	}
}

// adviseRest is the advice on the rest and on the dough's warm hours.
func (p *Plan) adviseRest() {
	ru := &p.rules
	for _, s := range p.Rest.Lacks {
		switch s.What {
		case "tension":
			p.note(request.AtRest, "rest.min", Warning, "tension", "Still tense.",
				"%.0f %% where %.0f %% rolls easily: it will snap back and may tear. Rest it longer.", 100*s.Is, 100*s.Wants)
		case "uptake":
			p.note(request.AtRest, "rest.min", Warning, "uptake", "Not all the water is in yet.",
				"%.0f %% of %.0f %%: coarse flour needs longer, or it stays sandy.", 100*s.Is, 100*s.Wants)
		}
	}
	if p.Rest.Min == 0 {
		p.note(request.AtRest, "rest.min", Warning, "no_rest", "No rest at all.",
			"It can be done: it pulls back at every stop and wants twice the passes. Twenty minutes under a bowl save more than they cost.")
	}
	if p.Rest.TempC < ru.Knead.ColdC {
		text := "The room is too cold to warm it; roll it as it is, slowly."
		if p.Rest.TemperMin > 0 {
			text = fmt.Sprintf("Leave it wrapped in the room for about %s, %.0f minutes if divided, before rolling.", measure.Minutes(p.Rest.TemperMin),
				ru.Knead.TemperPieceMin)
		}
		p.note(request.AtRest, "rest.temp", Remark, "cold", "Stiff with cold.", "It comes out at %s. %s", p.in.C(p.Rest.TempC, 0), text)
	}
	if p.Rest.Cold && p.Rest.Min > ru.Knead.GreyMin-1 {
		p.note(request.AtRest, "rest.min", Remark, "grey", "Greys past a day.", "Harmless, but it shows. Wrapped dough keeps at most 48 hours in the fridge.")
	}
	switch warm := p.Rest.WarmMin; {
	case p.Rest.Cold && p.ask.ChillG == 0 && warm > p.cautionAt():
		p.note(request.AtRest, "rest.warm", Warning, "slow_to_cool", "A lump this size cools slowly.",
			"%s above %s before it is rolled. Divided and pressed flat it cools in a third of the time: choose that under Wrapped.", measure.Minutes(warm),
			p.in.C(p.rules.Safety.ColdC, 0))
	case warm > p.cautionAt():
		p.note(request.AtRest, "rest.warm", Warning, "warm_rest", fmt.Sprintf("Long above %s.", p.in.C(p.rules.Safety.ColdC, 0)),
			"%s by the time it is rolled; past %s take care. Rest it in the fridge, divided and flat.", measure.Minutes(warm), measure.Minutes(p.cautionAt()))
	}
	if c := p.Clock; c != nil && !c.Fits {
		nearest := ""
		for _, w := range c.Ways {
			nearest += " " + w.Why
		}
		p.note(request.AtRest, "rest.clock", Warning, "too_late", "As it stands it would have to start earlier.", "It would start before you can.%s", nearest)
	}
	if a := p.Request.Rest.PokeS; a != nil {
		if k := p.ReadPoke(); !k.Ready {
			p.note(request.AtRest, "rest.min", Remark, "poke", k.Head, "%s", k.Words)
		}
	}
	p.note(request.AtRest, "rest.min", Caution, "wrap", "Airtight.",
		"Film twice, an upturned bowl or a lidded tub: no skin, no hard edge. Date what goes into the fridge; your food authority’s rules come first.")
}

func (p *Plan) adviseRoll() {
	o := &p.Roll
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
			p.note(request.AtRoll, "roll.time", Warning, "skin", "The first sheet skins over.",
				"It would wait %s on the board and stays right for %s. Cut after every %s, or cover what waits.", measure.Minutes(wait), measure.Minutes(open),
				measure.Plural(max(1, int(open/o.TimeMin)), "piece", "pieces"))
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
		"Keep them from the rollers; unplug or take the crank off before fitting or cleaning. No water on rollers unless the maker says so.")
}

// adviseStops is the advice on the way down a machine.
func (p *Plan) adviseStops() {
	o := &p.Roll
	for _, x := range o.Passes {
		if x.Easy > 0 && x.Reduction > x.Easy+1e-9 {
			p.note(request.AtRoll, "roll.sheet", Warning, "over", fmt.Sprintf("Stop %s is a large step.", x.Label),
				"%.0f %% off where %.0f %% is easy. Take the stop before it twice, or rest the sheet ten minutes, or use a machine with finer stops.",
				100*x.Reduction, 100*x.Easy)
			break
		}
	}
	stops := o.Machine.Stops
	first, last := stops[0].TrueMM(), stops[len(stops)-1].TrueMM()
	mm := func(v float64) string { n, _ := p.in.Number(v, measure.MM, 2); return n }
	sign := "+"
	if o.MissMM < 0 {
		sign = "-"
	}
	switch miss := math.Abs(o.MissMM); {
	case o.TargetMM < last*(1+o.Spring) && miss > .1*o.TargetMM:
		p.note(request.AtRoll, "roll.sheet", Warning, "too_fine", "Finer than this machine goes.", "Its last stop leaves %s; %s is wanted.",
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
		p.note(request.AtRoll, "roll.sheet", Remark, "between_stops", "Between two stops.", "%s is %s off the %s wanted; %s.", p.in.MM(o.SheetMM, 2),
			sign+mm(math.Abs(o.MissMM)), mm(o.TargetMM), way)
	}
	if out := p.Formula.Target.Outside(p.Formula.Dough.Hw); out < -p.rules.Hydration.NearPoints || p.Rest.T > 2*p.rules.Knead.ReadyT {
		why := "so dry"
		if out >= -p.rules.Hydration.NearPoints {
			why = "so tense"
		}
		p.note(request.AtRoll, "roll.sheet", Warning, "too_stiff", "Too stiff for this machine.",
			"A dough %s strains crank and motor. Rest it longer, roll it thinner with a pin first, feed smaller pieces, or knead a little water in.", why)
	}
	if !o.Calibrated && p.Request.Roll.Own == nil {
		p.note(request.AtRoll, "roll.sheet", Remark, "generic", "A generic machine.",
			"Your own may be off by %.0f %%. Keep it in the cabinet and measure a sheet or two: three leaves of office paper are {0.3 mm}, a {100 by "+
				"100 mm} square of %s is %s.",
			100*roll.Unmeasured, p.in.G(o.SheetMM*p.Formula.Dough.DensityGPerML*10, 1), p.in.MM(o.SheetMM, 2))
	} else if !o.Calibrated {
		p.note(request.AtRoll, "roll.sheet", Remark, "unmeasured", "Not measured yet.",
			"The gaps are as given. Measure a sheet or two in the cabinet; until then the sheet may be off by %.0f %%.", 100*roll.Unmeasured)
	}
}

// advisePin is the advice on a sheet under the pin.
func (p *Plan) advisePin() {
	o, m := &p.Roll, p.machine
	mm := func(v float64) string { n, _ := p.in.Number(v, measure.MM, measure.Shortest); return n }
	if !o.FitsBoard {
		p.note(request.AtRoll, "roll.sheet", Warning, "board_small", "The board is too small.",
			"A sheet of %s where the board has %s by %s: divide it, or let the edge hang over and roll it in halves; the overhang lets its weight help.",
			p.in.MM(o.LengthMM, 0), mm(m.BoardLengthMM), mm(m.BoardWidthMM))
	}
	if across := min(o.WidthMM, o.LengthMM); across > m.WidthMM+1 {
		p.note(request.AtRoll, "roll.sheet", Remark, "pin_short", "Wider than the pin.",
			"%s of sheet under a pin of %s: roll from the middle outwards, turning it a little each time.", p.in.MM(across, 0), mm(m.WidthMM))
	}
}
