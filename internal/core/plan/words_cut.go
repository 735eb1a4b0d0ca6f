package plan

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/filling"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// One and Many are what a cut of the part is called.
func (x *CutPart) One() string { return x.Shape.Traits().One }

// Many is One, more than one.
func (x *CutPart) Many() string { return x.Shape.Traits().Many }

// Crumb says whether the last nest is so short that its ribbons go into the others.
func (x *CutPart) Crumb() bool { return x.Nests > 0 && 5*x.LastNest < x.PerNest }

// AllNests returns the nests, the short one included unless its ribbons go into the others.
func (x *CutPart) AllNests() int {
	if x.LastNest > 0 && !x.Crumb() {
		return x.Nests + 1
	}
	return x.Nests
}

// SharedWords returns the shapes of a mixed batch and their sheets: "tagliatelle 5 sheets, 6.1
// portions; …".
func (p *Plan) SharedWords() string {
	var out []string
	for _, x := range p.Cut.Parts() {
		from := measure.Plural(x.Sheets, "sheet", "sheets")
		if x.Shape.Traits().Rope {
			from = p.in.Grams(x.DoughG+x.TrimG) + " of dough"
		}
		if out = append(out, fmt.Sprintf("%s %s, %.1f portions", strings.ToLower(x.Shape.Name), from,
			x.Portions)); x.Shape.Traits().Sheets {
			out[len(out)-1] = "left as sheets " + from
		}
	}
	return strings.Join(out, "; ")
}

// explainCut gives the reasons of the cut.
func (p *Plan) explainCut() {
	say := p.say
	o := &p.Roll
	c := &p.Cut
	ru := &p.rules.Cut
	if c.Count == 0 && !c.Shape.Traits().Rope {
		why := fmt.Sprintf("A sheet of %s has no room for %s.", p.in.Joined(" × ", measure.MM, measure.Shortest,
			measure.Near(c.SheetLengthMM),
			math.Round(c.SheetWidthMM)),
			p.in.Joined(" × ", measure.MM, measure.Shortest, c.Shape.WidthMM, max(c.MinMM, c.Shape.Long())))
		for _, k := range []string{"cut.across", "cut.ribbons", "cut.nests", "cut.trim"} {
			say(k, "%s", why)
		}
	} else {
		families[c.Shape.Family].explain(p)
	}
	if f := c.Filling; f != nil {
		say("cut.filling", "A heap %s high inside a seam of %s; %s in all pieces.", p.in.MM(f.HeightMM, 0),
			p.in.MM(cut.SeamMM(*ru, c.Shape.WidthMM)/2, 0),
			p.in.Grams(c.FillG))
		say("cut.fill_total", "%s in the pieces and %.0f %% over for what stays in bag and bowl.",
			p.in.Grams(c.AllFillG), 100*ru.FillMargin)
		if f.Yolks > 0 {
			say("cut.yolks", "One to each piece, whole: %s of it, beside the filling. Separate one or two over.",
				p.in.Grams(f.YolksG))
		}
		say("cut.seal", "Air left inside grows in the pot and opens the seam.")
		say("cut.seam", "Two sheets of %s; up to %s the edge cooks with the rest.", p.in.MM(o.SheetMM, 2),
			p.in.MM(ru.SeamMaxMM, 1))
	}
	switch {
	case c.Tool == cut.Knife && c.Shape.Traits().Lengths && c.Count > 0:
		say("cut.tool", "Dust, roll each length up loosely %s wide, %s thick, and make %d cuts; unroll at once.",
			p.in.MM(c.FoldMM, measure.Shortest),
			measure.Plural(c.Layers, "layer", "layers"), c.KnifeCuts)
	case c.Cutter != nil:
		say("cut.tool",
			"Suits sheets of %s; yours is %s. A test strip first: too thick does not separate, too thin mats.",
			p.in.Joined(" to ", measure.MM, measure.Shortest, c.Cutter.FromMM, c.Cutter.ToMM), p.in.MM(o.SheetMM, 2))
	default:
		say("cut.tool", "%s", strings.TrimSpace(map[cut.Tool]string{cut.Wheel: fmt.Sprintf(
			"A wheel takes %s between pieces.",
			p.in.MM(ru.WheelGapMM, measure.Shortest)), cut.Ring: "Twist the ring, do not saw.", cut.Hand: "",
			cut.Knife: "Straight down, the blade dusted."}[c.Tool]+" "+c.Shape.How))
	}
	if len(c.Also) > 0 {
		say("cut.also", "%s. Whole sheets, shared so that no shape falls shorter than it must.",
			measure.Capital(p.SharedWords()))
	}
	say("cut.scraps", "%s", p.scrapWords())
}

// scrapWords says what becomes of the trimmings.
func (p *Plan) scrapWords() string {
	c := &p.Cut
	switch p.Request.Cut.Scraps {
	case request.ScrapsCooked:
		return fmt.Sprintf("%s as maltagliati into the pot with the rest, %.1f portions, with a turn of their own.",
			p.in.Grams(c.AllTrimG), c.ScrapPortions)
	case request.SoupBag:
		return fmt.Sprintf("%s into the soup bag, dusted, at {−18 °C} with the date on it.", p.in.Grams(c.AllTrimG))
	case request.WorkedBack:
		b := &c.Back
		return fmt.Sprintf("Up to %.0f %% of each next piece, twice at most, same colour, under film until then: %s "+
			"goes back and gives about %s "+
			"more, not counted above; %s stays over.", 100*p.rules.Cut.BackShare, p.in.Grams(b.BackG),
			p.in.Grams(b.MoreG), p.in.Grams(b.LeftG))
	}
	return fmt.Sprintf("As maltagliati they are %.1f portions in broth.", c.ScrapPortions)
}

func (p *Plan) adviseCut() {
	p.adviseOver()
	c := &p.Cut
	knife := false
	for i, x := range c.Parts() {
		field, name := "cut.across", ""
		if len(c.Also) > 0 { // what is said of one of several names it
			name = x.Shape.Name + ": "
		}
		if i > 0 {
			field = "cut.also"
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
	sheet, off := x.thickMM, p.gapOff() // thick, and thin, only where it is over all that the gaps may be
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
	if s.Traits().Lengths && x.WidthMM > 2*sheet && sheet*(1-off) > ru.FlatRibbonMaxMM {
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
		case sheet*(1-off) > k.ToMM*(1+ru.CutterSlack):
			p.note(request.AtCut, field, Warning, "cutter_thick", head("it may not separate."),
				"%s of sheet in a cutter for %s: %slet it dry to leather. A test strip first.", p.in.MM(sheet, 2),
				p.in.Joined(" to ", measure.MM, measure.Shortest, k.FromMM, k.ToMM), p.stopFor(k.FromMM, k.ToMM))
		case sheet*(1+off) < k.FromMM*(1-ru.CutterSlack):
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
		of := ""
		if len(p.Cut.Also) > 0 {
			of = x.Shape.Name + ": "
		}
		if f.Thick && f.SeamMM*(1-p.gapOff()) > p.rules.Cut.SeamMaxMM*(1+p.rules.Cut.CutterSlack) {
			p.note(request.AtCut, "cut.seam", Warning, "seam", measure.Capital(of+"a thick seam."),
				"%s where the sheets meet; over %s the edge is raw when the middle is done: %spinch it thin.",
				p.in.MM(f.SeamMM, 2),
				p.in.MM(p.rules.Cut.SeamMaxMM, 1), p.stopFor(0, p.rules.Cut.SeamMaxMM*(1+p.rules.Cut.CutterSlack)/2))
		}
		if f.PieceG > 1.2*f.FitsG {
			p.note(request.AtCut, "cut.filling", Warning, "overfilled", measure.Capital(of+"more than fits."),
				"%s in each where %s leaves a seam that holds: it bursts.",
				p.in.Grams(f.PieceG), p.in.Grams(f.FitsG))
		}
	}
	p.note(request.AtCut, "cut.seal", Remark, "weeps", "A wet filling weeps.",
		"Drain it, or bind it with cheese or crumb; fill and close before the sheet dries%s.", p.fillBefore())
	if p.Request.RawFilling() {
		p.note(request.AtCut, "cut.filling", Caution, "raw_filling", measure.Capital(r.Filling.Safety().Words())+".",
			"Keep it cold until it is needed, work it in small loads, cook through, and keep it %s, or frozen; your "+
				"food authority’s rules come first.",
			p.FridgeWords())
	}
	p.adviseOwnFilling()
	if unsaid := filling.Unsaid(r.Filling.Called(), strings.Join(r.Filling.Holds(), ", ")); len(unsaid) > 0 {
		p.note(request.AtCut, "cut.fill_total", Warning, "filling_allergens", "Allergens of the filling?",
			"%s: that speaks of %s, which its allergens leave out.", r.Filling.Called(), measure.List(unsaid))
	}
	if !r.Filling.Safety().Raw() && filling.SoundsRaw(r.Filling.Called()) {
		p.note(request.AtCut, "cut.filling", Warning, "filling_sounds_raw", "Does it go in raw?",
			"%s is marked cooked, or fresh cheese, and so tasted early and kept longer. Where it goes in raw, say so.",
			r.Filling.Called())
	}
	if r.Filling.Called() == "" && r.Filling.Allergens == "" {
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

func (p *Plan) sheetCard(x *CutPart) string {
	return fmt.Sprintf(": %s of %s, dusted and stacked under film.", measure.Plural(x.Count, "sheet", "sheets"),
		p.in.Joined(" × ", measure.MM, measure.Shortest, measure.Near(x.LengthMM), math.Round(x.WidthMM)))
}

func (p *Plan) explainSheets() {
	c := &p.Cut
	p.say("cut.across", "As it comes off the rollers, %s.", p.in.Joined(" × ", measure.MM, measure.Shortest,
		measure.Near(c.LengthMM), math.Round(c.WidthMM)))
	p.say("cut.ribbons", "%s each. What they become is said when they are cut: put the shapes in then, and the rest "+
		"is worked out.", p.in.Grams(c.OneG))
	p.say("cut.nests", "%.1f portions of %s.", c.Portions, p.in.Portion(c.PortionG))
	p.say("cut.trim", "None before they are cut.")
}

func (p *Plan) ribbonCard(x *CutPart) string {
	how := fmt.Sprintf("rolled up %s wide, %d knife cuts", p.in.MM(x.FoldMM, measure.Shortest), x.KnifeCuts)
	if x.Cutter != nil {
		how = "cutter, test strip first"
	}
	return fmt.Sprintf(": %s of about %s, %s; %d across, %d to a nest.", measure.Plural(x.Along, "length", "lengths"),
		p.in.Long(x.LengthMM), how, x.Across,
		x.PerNest)
}

func (p *Plan) pieceCard(x *CutPart) string {
	size := p.in.Joined(" × ", measure.MM, measure.Shortest, x.Shape.WidthMM, x.Shape.Long())
	return fmt.Sprintf(" of %s: %s.", size, fromSheets(x.PerSheet, x.Count, "a sheet"))
}

func (p *Plan) filledCard(x *CutPart) string {
	from := "a sheet"
	if x.Shape.Close == cut.TwoSheets {
		from = "a pair of sheets"
	}
	return fmt.Sprintf(
		" of %s: %s, %s of filling in each.",
		p.in.MM(x.Shape.WidthMM, measure.Shortest),
		fromSheets(x.PerSheet, x.Count, from),
		p.in.Grams(x.Filling.PieceG),
	)
}

// fromSheets says how many pieces a sheet, or a pair, gives and how many are cut.
func fromSheets(perSheet, count int, from string) string {
	if count < perSheet {
		return fmt.Sprintf("%s in all, from part of %s", measure.Thousands(float64(count)), from)
	}
	return fmt.Sprintf(
		"%s from %s, %s in all",
		measure.Thousands(float64(perSheet)),
		from,
		measure.Thousands(float64(count)),
	)
}

func (p *Plan) formedCard(x *CutPart) string {
	return fmt.Sprintf(": slices of %s, %s.", p.in.MM(x.Rope.SliceMM, 0), measure.Plural(x.Count, "piece", "pieces"))
}

func (p *Plan) explainFormed() {
	say := p.say
	c, ru := &p.Cut, &p.rules.Cut
	say("cut.across", "Slices of %s of a %s rope, %s each.", p.in.MM(c.Rope.SliceMM, 0), p.in.MM(c.Rope.DiameterMM,
		measure.Shortest), p.in.Grams(c.OneG))
	say("cut.ribbons", "%s of dough at %s; %s of rope in all.", p.in.Grams(c.DoughG), p.in.Grams(c.OneG),
		p.in.M(c.Rope.LengthM, 1))
	say("cut.trim", "Less than one piece.")
	say("cut.forming", "%.1f seconds a piece, in practised hands; cover the ropes that wait.", ru.FormedS)
	say("cut.nests", "%.1f portions of %s.", c.Portions, p.in.Portion(c.PortionG))
}

func (p *Plan) explainRibbons() {
	say := p.say
	c, ru := &p.Cut, &p.rules.Cut
	wide := math.Round(c.SheetWidthMM)
	use, sheets := wide-2*ru.TrimSideMM, measure.Plural(c.Sheets, "sheet", "sheets")
	say("cut.across", "%s less %s each side leaves %s, room for %d at %s.", p.in.MM(wide, measure.Shortest),
		p.in.MM(ru.TrimSideMM, measure.Shortest), p.in.MM(use, measure.Shortest), c.Across, p.in.MM(c.WidthMM,
			measure.Shortest))
	if k := c.Cutter; k != nil && k.WidthMM < use {
		say("cut.across", "Of %s the cutter takes %s, room for %d at %s.", p.in.MM(wide, measure.Shortest),
			p.in.MM(k.WidthMM, measure.Shortest),
			c.Across, p.in.MM(c.WidthMM, measure.Shortest))
	}
	say("cut.ribbons", "%d across, %s, %s. Each weighs %s.", c.Across, measure.Plural(c.Along, "length", "lengths"),
		sheets, p.in.G(c.OneG, 1))
	short := ", and it comes out even."
	if c.LastNest > 0 {
		short = fmt.Sprintf(", and a short one of %d, %s.", c.LastNest, p.in.Grams(float64(c.LastNest)*c.OneG))
		if c.Crumb() {
			short = fmt.Sprintf(", and %d over, for any of them.", c.LastNest)
		}
	}
	say("cut.nests", "%s make a nest of %s: %s%s", measure.Plural(c.PerNest, "ribbon", "ribbons"), p.in.Grams(c.NestG),
		measure.Plural(c.Nests, "nest", "nests"), short)
	half := func(mm float64) string { return p.in.MM(math.Round(2*mm)/2, measure.Shortest) }
	said := half(c.SideTrimMM)
	if said != half(ru.TrimSideMM) { // whole ribbons leave more than is trimmed
		said += ", with what is too narrow for one more,"
	}
	say(
		"cut.trim",
		"%s off each end and %s off each side: %.0f %% of the sheet.",
		half(c.EndTrimMM),
		said,
		100*c.TrimG/(c.TrimG+c.DoughG),
	)
}

func (p *Plan) explainPieces() {
	say := p.say
	c := &p.Cut
	sheets := measure.Plural(c.Sheets, "sheet", "sheets")
	how := "in a grid"
	switch asked := p.Request.Cut.Pattern; {
	case c.Pattern == cut.Staggered && asked == cut.Staggered:
		how = "staggered"
	case c.Pattern == cut.Staggered:
		how = "staggered, which gives more than a grid"
	case asked == cut.Staggered && c.Shape.Outline == cut.Round:
		how = "in a grid, since staggered gives no more here"
	}
	each := measure.Thousands(float64(c.PerSheet))
	say(
		"cut.across",
		"%d along, %s across, %s: %s from a sheet.",
		c.Along,
		measure.Plural(c.Across, "row", "rows"),
		how,
		each,
	)
	if c.Shape.Close == cut.TwoSheets {
		say(
			"cut.across",
			"%d along, %s across, %s: %s from a pair of sheets.",
			c.Along,
			measure.Plural(c.Across, "row", "rows"),
			how,
			each,
		)
	}
	say("cut.ribbons", "%s from each of %s; %s of dough in each.", each, sheets, p.in.Grams(c.OneG))
	if c.Count < c.PerSheet {
		say(
			"cut.ribbons",
			"%s of the %s there is room for; %s of dough in each.",
			measure.Thousands(float64(c.Count)),
			each,
			p.in.Grams(c.OneG),
		)
	} else if c.Shape.Close == cut.TwoSheets {
		odd := ""
		if c.Sheets%2 == 1 {
			odd = fmt.Sprintf(" and %d from the odd one, halved and laid on itself", c.Count-c.PerSheet*(c.Sheets/2))
		}
		say("cut.ribbons", "%s from each of %s%s; %s of dough in each.", each, measure.Plural(c.Sheets/2, "pair",
			"pairs"), odd, p.in.Grams(c.OneG))
	}
	say("cut.nests", "%.0f to a portion of %s.", math.Round(c.PortionG*float64(c.Count)/c.MadeG),
		p.in.Portion(c.PortionG))
	say("cut.trim", "What lies between and round the pieces: %.0f %% of the sheets.", 100*c.TrimG/(c.TrimG+c.DoughG))
}
