package plan

import (
	"cmp"
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/filling"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// Roped says whether the dough is formed from a rope and makes no sheet.
func (p *Plan) Roped() bool { return p.lay.RopeMM > 0 }

func (p *Plan) adviseCut() {
	p.adviseOver()
	c := &p.Cut
	knife := false
	for i, x := range c.Parts() {
		field, name := "cut.across", ""
		if i > 0 {
			field, name = "cut.also", x.Shape.Name+": "
		}
		p.advisePart(x, field, name)
		knife = knife || x.Tool == cut.Knife || x.Tool == cut.Wheel
		if x.Shape.Caution != "" {
			p.note(request.AtCut, field, Caution, "shape", x.Shape.Name+".", "%s", x.Shape.Caution)
		}
	}
	p.adviseSheets()
	if all := c.AllTrimG + c.AllDoughG; c.Count > 0 && c.AllTrimG > .15*all && !p.Roped() {
		p.note(request.AtCut, "cut.trim", Remark, "trimmings", "Many trimmings.",
			"%s. Cut them as maltagliati, or knead up to %.0f %% into the next piece.", p.in.Grams(c.AllTrimG),
			100*p.rules.Cut.BackShare)
	}
	if o := &p.Roll; o.Better > 0 {
		p.note(request.AtRoll, "roll.pieces", Remark, "pieces_gain", "Divided otherwise it gives more.",
			"%s give %s more pasta of the same dough than %s.",
			measure.Capital(measure.Plural(o.Better, "piece", "pieces")),
			p.in.Grams(o.BetterBy*(c.AllDoughG+c.AllTrimG)), measure.Plural(o.Pieces, "piece", "pieces"))
	}
	if c.Filled() {
		p.adviseFilling()
	}
	if knife {
		p.note(request.AtCut, "cut.across", Caution, "knife", "The knife.",
			"Knuckles lead, tips tucked; board on a damp cloth.")
	}
	if c.Cutter != nil {
		p.note(request.AtCut, "cut.across", Caution, "cutter", "The cutter.",
			"Fingers, hair and sleeves clear of it; unplug or take the crank off before fitting or cleaning.")
	}
}

// advisePart is the advice on one shape.
func (p *Plan) advisePart(x *CutPart, field, name string) {
	c := &p.Cut
	ru := &p.rules.Cut
	sheet := x.thickMM
	s := x.Shape
	head := func(text string) string { return measure.Capital(name + text) }
	switch {
	case x.Sheets == 0 && !s.Traits().Rope:
		p.note(request.AtCut, field, Warning, "no_sheet_left", head("no sheet is left for it."),
			"Divide the dough into more pieces, or make more of it.")
	case x.Count == 0:
		p.note(request.AtCut, field, Warning, "no_ribbons", head("none fits this sheet."), "%s.",
			measure.Capital(p.wouldFit()))
	case x.asDough && x.Got() < .95*x.WantsG:
		p.note(request.AtCut, field, Warning, "short", head("short."),
			"%s of dough where %s were wanted: there is no more of it, or whole sheets do not come "+
				"out closer.", p.in.Grams(x.Got()), p.in.Grams(x.WantsG))
	case x.WantsG > 0 && len(c.Also) > 0 && x.Got() < .95*x.WantsG:
		p.note(request.AtCut, field, Warning, "short", head("short."),
			"%.1f portions where %.0f were wanted: whole sheets do not come out closer. Divide into more pieces, or "+
				"make a little more.", x.Portions,
			math.Round(x.WantsG/x.PortionG))
	}
	if x.Short {
		p.note(request.AtCut, field, Remark, "short_ribbons", head("short ribbons."),
			"The sheet is %s long within its trims: the ribbons are as long as that, where %s is usual.",
			p.in.Long(x.LengthMM), p.in.MM(s.MinLengthMM, measure.Shortest))
	}
	if e := x.Ends; e != nil && e.Word == roll.Tearing {
		p.note(request.AtCut, field, Warning, "end_tears", head("its last passes tear."),
			"From %s to %s is more than this dough gives: let it rest first, or "+
				"end nearer the others.", p.in.MM(p.Roll.SheetMM, 2), p.in.MM(e.SheetMM, 2))
	}
	if s.Traits().Lengths && x.WidthMM > 2*sheet && sheet > ru.FlatRibbonMaxMM {
		p.note(request.AtCut, field, Warning, "thick_ribbon", head("thick for a flat ribbon."),
			"%s cooks unevenly; under %s is usual.", p.in.MM(sheet, 1),
			p.in.MM(ru.FlatRibbonMaxMM, 1))
	}
	if asked := p.Request.Cut.Tool == cut.Cutter; x.noCutter && (asked || len(p.machine.Cutters) > 0) {
		level := Remark // the knife is Hollen's own choice, and serves
		if asked {
			level = Warning
		}
		p.note(request.AtCut, field, level, "no_cutter", head("this machine has no such cutter."),
			"%s Cut by knife, rolled up; or keep your cutter with your machine in the cabinet.", p.cutterWords())
	}
	if k := x.Cutter; k != nil {
		switch {
		case sheet > k.ToMM*(1+ru.CutterSlack):
			p.note(request.AtCut, field, Warning, "cutter_thick", head("it may not separate."),
				"%s of sheet in a cutter for %s: %slet it dry to leather. A test strip first.", p.in.MM(sheet, 2),
				p.in.Joined(" to ", measure.MM, measure.Shortest, k.FromMM, k.ToMM), p.stopFor(k.FromMM, k.ToMM))
		case sheet < k.FromMM*(1-ru.CutterSlack):
			p.note(request.AtCut, field, Warning, "cutter_thin", head("it may mat."),
				"%s of sheet in a cutter for %s: %sdry it further and dust. A test strip first.", p.in.MM(sheet, 2),
				p.in.Joined(" to ", measure.MM, measure.Shortest, k.FromMM, k.ToMM), p.stopFor(k.FromMM, k.ToMM))
		}
		if math.Abs(k.PitchMM-s.WidthMM) > .05 {
			p.note(request.AtCut, field, Remark, "cutter_width", head("the cutter’s width."),
				"It cuts %s where %s is meant; the knife would cut that.",
				p.in.MM(k.PitchMM, measure.Shortest), p.in.MM(s.WidthMM, measure.Shortest))
		}
	}
}

// adviseSheets says which further shapes are mostly cut from another sheet than they are here.
func (p *Plan) adviseSheets() {
	var other []string
	for i, x := range p.Cut.Parts() {
		s, t := x.Shape, x.Shape.Traits()
		if i > 0 && !t.Rope && !t.Sheets && math.Abs(x.thickMM/s.SheetMM-1) > p.rules.Cut.OtherSheetOff {
			other = append(other, fmt.Sprintf("%s (%s)", strings.ToLower(s.Name), p.in.MM(s.SheetMM, measure.Shortest)))
		}
	}
	if len(other) > 0 {
		p.note(request.AtCut, "cut.also", Remark, "other_sheet", "Another sheet is usual.",
			"For %s; here it is %s. Pieces may end at a stop of their own.", measure.List(other),
			p.in.MM(p.Roll.SheetMM, 2))
	}
}

// stopFor names the stop that leaves a sheet between two thicknesses, the nearest to the one there is, to
// stand before another remedy; "" where there is none, or a pin.
func (p *Plan) stopFor(fromMM, toMM float64) string {
	if p.Pinned() {
		return "roll it to suit, or "
	}
	at, off := -1, math.Inf(1)
	for i, s := range p.machine.Stops {
		t := p.lay.Sheet(s.TrueMM(), 1)
		if d := math.Abs(t - p.Roll.SheetMM); t >= fromMM && t <= toMM && d < off {
			at, off = i, d
		}
	}
	if at < 0 {
		return ""
	}
	return fmt.Sprintf("end at stop %s, or ", p.machine.Stops[at].Label)
}

// wouldFit names what makes room for the shapes: another division, a longer bench, or another shape.
func (p *Plan) wouldFit() string {
	all := p.Roll.RolledG * float64(p.Roll.Pieces)
	l := p.lay
	divide := func() int {
		for n := p.Roll.Pieces; n >= 1; n-- {
			if p.laid(p.sheetsOf(&l, &p.Roll, all, float64(n))) > 0 {
				return n
			}
		}
		return 0
	}
	if n := divide(); n > 0 {
		return fmt.Sprintf("divide it into %s, or cut a smaller or shorter shape", measure.Plural(n, "piece", "pieces"))
	}
	if l.BenchMM = 0; divide() > 0 {
		return fmt.Sprintf("a bench of %s has it halved: a longer one, or a shorter shape",
			p.in.MM(p.Request.Roll.BenchMM, measure.Shortest))
	}
	return "cut a smaller or shorter shape"
}

// adviseOver says that several shapes come to much more than was asked, where nothing less would do.
func (p *Plan) adviseOver() {
	asked := p.Request.Amount.Portions
	if p.Request.Amount.By != request.ByPortions || len(p.Cut.Also) == 0 || p.Formula.Portions <= (1+muchOver)*asked {
		return
	}
	most, name := 0., ""
	for _, x := range p.Cut.Parts() {
		if over := x.Got() / max(x.WantsG, 1e-9); x.WantsG > 0 && over > most {
			most, name = over, strings.ToLower(x.Shape.Name)
		}
	}
	p.note(request.AtCut, "cut.also", Remark, "much_over", "More than was asked.",
		"%.1f portions where %s were asked: one sheet less of %s, or one piece less, would be too little of "+
			"something. What is over keeps, or take it in dough.",
		p.Formula.Portions, measure.Trim(asked), name)
}

// cutterWords lists the cutters of the machine.
func (p *Plan) cutterWords() string {
	if len(p.machine.Cutters) == 0 {
		return "It has none."
	}
	var out []string
	for _, k := range p.machine.Cutters {
		out = append(out, p.in.MM(k.PitchMM, measure.Shortest))
	}
	return "It cuts " + measure.List(out) + "."
}

// adviseFilling is the advice on seams and fillings.
func (p *Plan) adviseFilling() {
	r := &p.Request.Cut
	for _, x := range p.Cut.Parts() {
		f := x.Filling
		if f == nil {
			continue
		}
		if f.Thick {
			p.note(request.AtCut, "cut.seam", Warning, "seam", "A thick seam.",
				"%s where the sheets meet; over %s the edge is raw when the middle is done: %spinch it thin.",
				p.in.MM(f.SeamMM, 2),
				p.in.MM(p.rules.Cut.SeamMaxMM, 1), p.stopFor(0, p.rules.Cut.SeamMaxMM*(1+p.rules.Cut.CutterSlack)/2))
		}
		if f.PieceG > 1.2*f.FitsG {
			p.note(request.AtCut, "cut.filling", Warning, "overfilled", "More than fits.",
				"%s in each where %s leaves a seam that holds: it bursts.",
				p.in.Grams(f.PieceG), p.in.Grams(f.FitsG))
		}
	}
	p.note(request.AtCut, "cut.seal", Remark, "weeps", "A wet filling weeps.",
		"Drain it, or bind it with cheese or crumb; fill and close before the sheet dries%s.", p.fillBefore())
	if p.Request.RawFilling() {
		p.note(request.AtCut, "cut.filling", Caution, "raw_filling", measure.Capital(r.Filling.Kind.Words())+".",
			"Keep it cold until it is needed, work it in small loads, cook through, and keep it %s, or frozen; your "+
				"food authority’s rules come first.",
			p.FridgeWords())
	}
	if unsaid := filling.Unsaid(r.Filling.Name, r.Filling.Allergens); len(unsaid) > 0 {
		p.note(request.AtCut, "cut.fill_total", Warning, "filling_allergens", "Allergens of the filling?",
			"%s: that speaks of %s, which its allergens leave out.", r.Filling.Name, measure.List(unsaid))
	}
	if !r.Filling.Kind.Raw() && filling.SoundsRaw(r.Filling.Name) {
		p.note(request.AtCut, "cut.filling", Warning, "filling_sounds_raw", "Does it go in raw?",
			"%s is marked cooked, or fresh cheese, and so tasted early and kept longer. Where it goes in raw, say so.",
			r.Filling.Name)
	}
	if r.Filling.Name == "" && r.Filling.Allergens == "" {
		p.note(request.AtCut, "cut.fill_total", Remark, "name_filling", "What is in it?",
			"Name the filling and its allergens: sheet and label carry them.")
	}
}

// fillBefore says how long a sheet on the board can still be closed.
func (p *Plan) fillBefore() string {
	if w := p.Dry.OneFace; w.Will {
		return fmt.Sprintf(", within %s here", measure.Minutes(w.FromMin))
	}
	return ""
}

func (p *Plan) adviseDry() {
	d := &p.Dry
	switch {
	case d.Leather.Will:
	case d.Purpose == cut.NoDrying:
		p.note(request.AtDry, "dry.window", Remark, "stays_damp", "It stays damp here.",
			"No matter for this shape; dust the trays with %s or it sticks to them.", cmp.Or(p.Dusting().Name,
				"the dough’s flour"))
	case d.Rate.DeltaGM3 <= p.rules.Dry.LeastGM3:
		p.note(request.AtDry, "dry.window", Warning, "will_not_dry", "It will not dry here.",
			"The air is too damp. Dust it, cut and cook at once, or dry the air.")
	default:
		p.note(
			request.AtDry,
			"dry.window",
			Warning,
			"will_not_dry",
			"It will not dry here in two hours.",
			"The air takes too little. Dust it, cut and cook at once, or %s.",
			map[bool]string{true: "dry the air", false: "let a fan blow over it"}[p.Request.Room.Air == dry.Fan],
		)
	}
	switch {
	case d.ToKeep != nil || !p.Perishable(): // drying to keep has its own note
	case d.OutMin > d.DiscardAt:
		p.note(request.AtDry, "dry.warm", Warning, "discard", "Too long out of the fridge.",
			"%s over all stages; past %s a dough with egg is usually thrown away. Work in smaller batches, or chill "+
				"what waits at every stage.",
			measure.Minutes(d.OutMin), measure.Minutes(d.DiscardAt))
	case d.OutMin > d.CautionAt && p.Rest.OutMin <= d.CautionAt:
		p.note(request.AtDry, "dry.warm", Warning, "warm", "Long out of the fridge.",
			"%s over all stages; past %s take care: chill what waits.", measure.Minutes(d.OutMin),
			measure.Minutes(d.CautionAt))
	}
	if has := p.Request.Bench.RodM; has != nil && p.Request.Dry.On != request.OnBoard && d.RodM > *has+1e-9 {
		p.note(request.AtDry, "dry.space", Warning, "rods", "More than the racks take.",
			"All sheets want %s of rod, there are %s: hang %d at a time, the rest under the bowl.", p.in.M(d.RodM, 1),
			p.in.M(*has, measure.Shortest),
			max(1, int(float64(p.Roll.SheetsAll)**has/d.RodM)))
	}
	if has := p.Request.Bench.Trays; has != nil && float64(d.Trays) > *has {
		p.note(request.AtDry, "dry.space", Warning, "trays", "More than the trays take.",
			"It wants %d trays, there are %g: freeze or cook a load before the next.", d.Trays, *has)
	}
	if k := d.ToKeep; k != nil {
		if p.Cut.Filled() {
			p.note(request.AtDry, "dry.keep", Warning, "keep_filled", "Not filled pasta.",
				"A filling does not dry through: freeze it, or cook it fresh.")
		}
		p.note(request.AtDry, "dry.keep", Warning, "keep_dried", "Drying egg pasta to keep is a risk.",
			"Past the usual advice: it lies for hours between {5 and 60 °C} with raw egg in it, and drying does not "+
				"kill what grows. Some do it. "+
				"Safer: cook it fresh, or freeze it. If you do: thin, in moving air, to the target weight, never a "+
				"piece that smells; your food "+
				"authority’s rules come first.")
		if k.Never {
			p.note(request.AtDry, "dry.keep", Warning, "keep_never", "This air never gets it there.",
				"It stops at %.1f %% moisture where %.1f keeps: dry the air.", 100*p.Formula.Blend.EquilibriumWB,
				100*p.rules.Dry.KeepWB)
		}
	}
	if k := &p.Keep; k.Own && k.Where != "" && k.Days > k.ToDays {
		p.note(request.AtDry, "keep.use_by", Warning, "keep_longer", "Longer than the usual advice.",
			"%s where %s is usual: by your own plan (%s).",
			measure.Days(k.Days), measure.Days(k.ToDays), strings.TrimSuffix(p.Request.Keep.Note, "."))
	}
	some := "; some keep it 3–5 days, but listeria grows in the cold and nothing shows"
	if p.Request.AnyKeepsAsRaw() {
		some = ", for what is raw inside"
	}
	p.note(request.AtDry, "dry.warm", Caution, "keep", "Keeping.",
		"Covered at {5 °C} or less %s%s. Frozen at {−18 °C} one "+
			"to two months, hard on a tray first, then bagged. These are usual advice: your food authority’s rules "+
			"and your own food-safety plan come first.",
		p.FridgeWords(), some)
}

func (p *Plan) adviseCook() {
	if p.Cook.TasteOnly {
		p.note(request.AtCook, "cook.time", Remark, "taste_only", "Only tasting tells.",
			"At %s no clock serves; start tasting at %s.",
			p.in.MM(p.Cook.TeMM, 1), measure.MinSec(p.Cook.FromS))
	}
	if p.Request.Cook.After == request.Frozen && p.Keep.Where == cook.Fridge {
		p.note(request.AtCook, "cook.time", Remark, "not_frozen", "Kept in the fridge, cooked as frozen.",
			"Choose the freezer under Dry, or another way into the pot.")
	}
	text := "Cook right through; floating proves nothing."
	if p.Request.RawFilling() {
		text = "Cook right through: cut the thickest open, no pink, steaming; " + p.CentreC() +
			" at the centre, by your authority. Floating proves nothing."
	}
	p.note(request.AtCook, "cook.time", Caution, "eaters", "For the pregnant, very young, old or ill.", "%s", text)
}
