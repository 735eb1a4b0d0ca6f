package plan

import (
	"fmt"
	"math"

	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// family is how a plan treats the shapes of one family: how long a sheet they need, how they are
// laid, and how that is told. What they are stands in package cut.
type family struct {
	leastMM func(s cut.Shape) float64                           // of sheet, within its trims, to give anything
	lay     func(p *Plan, i int, sheets cut.Sheets, o *CutPart) // the i-th shape of the batch on sheets
	card    func(p *Plan, x *CutPart) string                    // its cut in a line, after its name
	explain func(p *Plan)                                       // the first shape's reasons
}

// families are all of them; a test holds the table complete.
var families = map[cut.Family]family{
	cut.Ribbon: {func(s cut.Shape) float64 { return s.MinLengthMM }, (*Plan).layRibbons, (*Plan).ribbonCard,
		(*Plan).explainRibbons},
	cut.Piece:  {leastSide, (*Plan).layPieces, (*Plan).pieceCard, (*Plan).explainPieces},
	cut.Filled: {leastSide, (*Plan).layFilled, (*Plan).filledCard, (*Plan).explainPieces},
	cut.Formed: {func(cut.Shape) float64 { return 0 }, (*Plan).layFormed, (*Plan).formedCard, (*Plan).explainFormed},
	cut.Undecided: {func(cut.Shape) float64 { return 0 }, (*Plan).leaveSheets, (*Plan).sheetCard,
		(*Plan).explainSheets},
}

func leastSide(s cut.Shape) float64 { return min(s.WidthMM, s.Long()) }

func (p *Plan) layRibbons(i int, sheets cut.Sheets, o *CutPart) {
	s, r := o.Shape, &p.Request
	c := cut.RibbonCut{Tool: o.Tool, WidthMM: s.WidthMM, MinMM: s.MinLengthMM, MaxMM: s.MaxLengthMM, NestG: o.PortionG,
		FreeMin: i > 0 || r.Cut.Min == nil, FreeMax: i > 0 || r.Cut.Max == nil,
		FoldMM: request.Or(r.Cut.FoldMM, p.rules.Cut.FoldMM)}
	if i == 0 {
		c.NestG = request.Or(r.Cut.NestG, c.NestG)
	}
	if i > 0 || r.Cut.Min == nil && r.Cut.Max == nil {
		c.UsualMM = s.LengthMM
	}
	if o.Cutter != nil {
		c.WidthMM, c.CutterMM = o.Cutter.PitchMM, o.Cutter.WidthMM
	}
	o.Layout = cut.Ribbons(p.rules.Cut, sheets, c)
}

// pieceCut is what a flat piece, filled or not, is cut as.
func (p *Plan) pieceCut(o *CutPart) cut.PieceCut {
	s := o.Shape
	return cut.PieceCut{Outline: s.Outline, Close: s.Close, Tool: o.Tool, WidthMM: s.WidthMM, LongMM: s.Long(),
		Pattern: p.Request.Cut.Pattern}
}

func (p *Plan) layPieces(_ int, sheets cut.Sheets, o *CutPart) {
	o.Layout = cut.Pieces(p.rules.Cut, sheets, p.pieceCut(o))
	if purpose := o.Shape.Purpose; purpose == cut.Handle || purpose == cut.HoldShape { // pinched or rolled after
		o.CutMin += float64(o.Count) * p.rules.Cut.FormedS / 60
	}
}

func (p *Plan) layFilled(_ int, sheets cut.Sheets, o *CutPart) {
	c := p.pieceCut(o)
	o.Layout = cut.Pieces(p.rules.Cut, sheets, c)
	o.Fill(p.rules.Cut, c, o.thickMM, p.Request.Cut.Filling.PieceG, o.Shape.YolksEach, p.Request.Eggs.Kind().YolkG)
}

func (p *Plan) layFormed(_ int, sheets cut.Sheets, o *CutPart) {
	s := o.Shape
	o.Layout = cut.FormPieces(p.rules.Cut, float64(sheets.Count)*sheets.MassG, p.Formula.Dough.DensityGPerML, s.PieceG,
		s.RopeMM, s.WidthMM)
}

func (p *Plan) leaveSheets(_ int, sheets cut.Sheets, o *CutPart) { o.Layout = cut.LeaveSheets(sheets) }

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
	p.say("cut.nests", "%.1f portions of %s.", c.Portions, p.in.Grams(c.PortionG))
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
	say("cut.forming", "%g seconds a piece, in practised hands; cover the ropes that wait.", ru.FormedS)
	say("cut.nests", "%.1f portions of %s.", c.Portions, p.in.Grams(c.PortionG))
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
		p.in.Grams(c.PortionG))
	say("cut.trim", "What lies between and round the pieces: %.0f %% of the sheets.", 100*c.TrimG/(c.TrimG+c.DoughG))
}
