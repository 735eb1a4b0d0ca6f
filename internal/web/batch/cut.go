package batch

import (
	"fmt"
	"html/template"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/roll"
)

// cutView is the cut.
type cutView struct{ *batchView }

// IsRibbon says whether the first shape is a ribbon; the others likewise.
func (v cutView) IsRibbon() bool { return v.Plan.Cut.Shape.Traits().Lengths }

// IsFilled says whether any shape of the batch is filled.
func (v cutView) IsFilled() bool { return v.Plan.Cut.Filled() }

// HasFillings says whether the cabinet has fillings to take, or the batch holds one.
func (v cutView) HasFillings() bool { return len(v.Cabinet.Fillings) > 0 || !v.FillingSaid() }

// FillingSaid says whether the filling is said here: it is none of the cabinet.
func (v cutView) FillingSaid() bool { return v.Page.Cut.Filling.Own == nil }

// FillingLine is one thing that goes into the filling.
type FillingLine struct{ Name, Much, Holds string }

// FillingLines are what goes into the filling of the cabinet, for this batch; none where it is only named, or is of an
// earlier day.
func (v cutView) FillingLines() (out []FillingLine) {
	if v.Plan.FillingMade() != "" {
		return nil
	}
	for _, x := range v.Plan.FillingParts() {
		out = append(out, FillingLine{x.Name, v.In.Grams(x.G), strings.Join(x.Allergens, ", ")})
	}
	return out
}

// FillingSide is what the filling comes to: what goes in and what it makes, its energy and price where they are known.
func (v cutView) FillingSide() string {
	f := v.Plan.Request.Cut.Filling.Own
	makes := v.Plan.Cut.FillTotalG
	out := []string{fmt.Sprintf("%s in, %s of %s", v.In.Grams(makes*f.InG()/f.Makes()), v.In.Grams(makes), f.Name)}
	if food, unknown := f.Eaten(); len(unknown) == 0 {
		out = append(out, measure.Thousands(food.Kcal())+" kcal in "+v.In.Prose("{100 g}"))
	}
	if price, unpriced := f.PricePerKG(); len(unpriced) == 0 {
		out = append(out, v.Request.Prices.Currency+" "+price.Rounded().String()+" a kg")
	}
	return strings.Join(out, "; ")
}

// IsRound says whether the first shape is cut as rounds.
func (v cutView) IsRound() bool { return v.Plan.Cut.Shape.Outline == cut.Round }

// IsFlat says whether the first shape is cut as squares or rectangles.
func (v cutView) IsFlat() bool { return v.Plan.Cut.Shape.Outline == cut.Rectangle }

// ShareLine is the line of a further shape.
type ShareLine struct {
	Line
	By, Stop Control
}

// Shares returns the lines of the other shapes.
func (v cutView) Shares() (out []ShareLine) {
	for i, l := range v.lines("cut.also", "portions") {
		p := fmt.Sprintf("cut.also.%d.", i)
		out = append(out, ShareLine{l, v.Control(p + "by"), v.Control(p + "stop")})
	}
	return out
}

// OwnShape is what a further shape may have of its own.
type OwnShape struct {
	N             int
	Path, Name    string
	Named, Any    bool // something stands in its line; something of its own is said
	Ribbon, Sized bool
}

// OwnShapes returns what each further shape may have of its own: its measures, drying after the cut, minutes in the
// pot.
func (v cutView) OwnShapes() (out []OwnShape) {
	for i, l := range v.lines("cut.also", "portions") {
		x := OwnShape{N: i, Path: fmt.Sprintf("cut.also.%d.", i), Named: l.Named}
		if l.Named {
			part := &v.Page.Cut.Also[i]
			t := part.Kind().Traits()
			x.Name = part.Kind().Name
			x.Ribbon = t.Lengths
			x.Sized = !t.Rope && !t.Sheets
			x.Any = part.Width != nil || part.Long != nil || part.Min != nil || part.Max != nil || part.DryMin != nil ||
				part.PotMin != nil
		}
		out = append(out, x)
	}
	return out
}

// Own is When for what a further shape has of its own: its label is what is said of it alone.
func (v cutView) Own(show bool, path, hint string) template.HTML {
	c := v.Control(path)
	if _, what, ok := strings.Cut(c.Label, ", "); ok {
		c.Label = measure.Capital(what)
	}
	c.Hint, c.Hidden = hint, !show && c.Error == ""
	return c.HTML()
}

// StopHint names the stops a shape's pieces may end at.
func (v cutView) StopHint() string {
	if v.Plan.Pinned() {
		return "How many, of what, and how thin in mm where it is not as the rest"
	}
	var stops []string
	for _, s := range v.Plan.Roll.Machine.Stops {
		stops = append(stops, s.Label)
	}
	return "How many, of what, and to which stop where not as the rest: " + strings.Join(stops, " ")
}

// Undecided says whether the first shape is left as sheets.
func (v cutView) Undecided() bool { return v.Plan.Cut.Shape.Traits().Sheets }

// SheetWords say how many sheets a part is cut from, for its caption.
func (v cutView) SheetWords(x *plan.CutPart) string {
	if v.Plan.Pinned() && v.Request.Roll.Outline == roll.Disc {
		return fmt.Sprintf("to scale; the disc as a rectangle of its area, %s thick", v.In.MM(v.Plan.Roll.SheetMM, 2))
	}
	if len(v.Plan.Cut.Also) == 0 {
		return fmt.Sprintf("to scale; %s alike, %s thick, %s in all", measure.Plural(x.Sheets, "sheet", "sheets"),
			v.In.MM(v.Plan.Roll.SheetMM, 2),
			v.In.M(v.Plan.Roll.MetresAll, 1))
	}
	if x.Ends != nil {
		return fmt.Sprintf("to scale; %s, %s thick", measure.Plural(x.Sheets, "sheet", "sheets"), v.In.MM(x.ThickMM(),
			2))
	}
	return fmt.Sprintf("to scale; %d of %s", x.Sheets, measure.Plural(v.Plan.Roll.SheetsAll, "sheet", "sheets"))
}

// CutterHint lists the cutters of the machine.
func (v cutView) CutterHint() string {
	if n := len(v.Plan.Roll.Machine.Cutters); n > 0 {
		var out []string
		for _, k := range v.Plan.Roll.Machine.Cutters {
			out = append(out, v.In.MM(k.PitchMM, measure.Shortest))
		}
		return "cutters: " + strings.Join(out, ", ")
	}
	return "no cutter here"
}

// PartWords are the figures of a part beside the first.
func (v cutView) PartWords(x *plan.CutPart) string {
	s := measure.Plural(x.Count, x.One(), x.Many())
	if x.Shape.Traits().Lengths && x.Count > 0 {
		s += fmt.Sprintf(" of %s, %d across; %s of %s", v.In.Long(x.LengthMM), x.Across, measure.Plural(x.Nests, "nest",
			"nests"), v.In.Grams(x.NestG))
		if x.LastNest > 0 && !x.Crumb() {
			s += fmt.Sprintf(" and a short one of %d", x.LastNest)
		}
	}
	if x.FillG > 0 {
		s += fmt.Sprintf(", %s of filling in each", v.In.Grams(x.Filling.PieceG))
	}
	s = fmt.Sprintf("%s; %s, %.1f portions of %s", s, v.In.Grams(x.MadeG), x.Portions, v.In.Portion(x.PortionG))
	if x.TrimG >= .5 {
		s += fmt.Sprintf("; %s of trimmings", v.In.Grams(x.TrimG))
	}
	return s + "."
}

// sealSteps are how a filled piece is closed, in the order of the hands.
var sealSteps = map[cut.Close]string{
	cut.TwoSheets: "Lay the second sheet over, pattern side out; press round each heap from the middle outwards " +
		"until no air is left.",
	cut.FoldedSheet: "Fold the sheet over the row, pattern side out; press between the heaps, then along the edge, " +
		"the air out ahead of the finger.",
	cut.FoldedPiece: "Fold each over its filling, pattern side out; press from the filling outwards, no air left in it.",
}

// Seal returns how a filled piece is closed.
func (v cutView) Seal() []string {
	c := &v.Plan.Cut
	for _, x := range c.Parts() {
		if x.Shape.Traits().Filling {
			return []string{"Brush the seam with water, a film of it and no more: egg dough that is still soft needs none.", sealSteps[x.Shape.Close],
				"Press the seam to one thickness: where it is thick it stays raw.",
				"On a dusted tray, not touching, turned once."}
		}
	}
	return nil
}

// Slice is how long a slice of the rope is.
func (v cutView) Slice() template.HTML {
	n, unit := v.In.Number(v.Plan.Cut.Rope.SliceMM, measure.MM, 0)
	return v.Fig("A slice", n, unit+" of rope", "cut.across")
}

func cutKey(p *plan.Plan) string {
	switch t := p.Cut.Shape.Traits(); {
	case t.Sheets:
		return measure.Plural(p.Cut.Count, "sheet", "sheets")
	case !t.Lengths:
		return measure.Plural(p.Cut.Count, "piece", "pieces")
	}
	return fmt.Sprintf("%s · %d wide", p.In().MM(p.Cut.WidthMM, measure.Shortest), p.Cut.Across)
}
