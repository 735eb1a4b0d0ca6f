package web

import (
	"fmt"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/plan"
	"hollen/internal/core/roll"
)

// Roped says whether the dough is formed from a rope.
func (v *batchView) Roped() bool { return v.Plan.Roped() }

// IsRibbon says whether the first shape is a ribbon; the others likewise.
func (v *batchView) IsRibbon() bool { return v.Plan.Cut.Shape.Family == cut.Ribbon }

// IsFilled says whether any shape of the batch is filled.
func (v *batchView) IsFilled() bool { return v.Plan.Cut.Filled() }

// IsRound says whether the first shape is cut as rounds.
func (v *batchView) IsRound() bool { return v.Plan.Cut.Shape.Outline == cut.Round }

// IsFlat says whether the first shape is cut as squares or rectangles.
func (v *batchView) IsFlat() bool { return v.Plan.Cut.Shape.Outline == cut.Rectangle }

// Shares returns the lines of the other shapes.
func (v *batchView) Shares() []Line {
	return v.lines("cut.also", "shape", "portions", len(v.page.Cut.Also), func(i int) bool { return v.page.Cut.Also[i].Shape != "" })
}

// Checks returns the lines of the check-weighings.
func (v *batchView) Checks() []Line {
	return v.lines("dry.checks", "at", "g", len(v.page.Dry.Log), func(i int) bool { return v.page.Dry.Log[i].At != "" })
}

// SheetWords say how many sheets a part is cut from, for its caption.
func (v *batchView) SheetWords(x *plan.CutPart) string {
	if v.Pin() && v.Req.Roll.Outline == roll.Disc {
		return fmt.Sprintf("to scale; the disc as a rectangle of its area, %.2f mm thick", v.Plan.Roll.SheetMM)
	}
	if len(v.Plan.Cut.Also) == 0 {
		return fmt.Sprintf("to scale; %s alike, %.2f mm thick, %.1f m in all", plan.Plural(x.Sheets, "sheet", "sheets"), v.Plan.Roll.SheetMM, v.Plan.Roll.MetresAll)
	}
	return fmt.Sprintf("to scale; %d of %s", x.Sheets, plan.Plural(v.Plan.Roll.SheetsAll, "sheet", "sheets"))
}

// CutterHint lists the cutters of the machine.
func (v *batchView) CutterHint() string {
	if n := len(v.Plan.Roll.Machine.Cutters); n > 0 {
		var out []string
		for _, k := range v.Plan.Roll.Machine.Cutters {
			out = append(out, fmt.Sprintf("%g mm", k.PitchMM))
		}
		return "cutters: " + strings.Join(out, ", ")
	}
	return "no cutter here"
}

// PartWords are the figures of a part beside the first.
func (v *batchView) PartWords(x *plan.CutPart) string {
	s := plan.Plural(x.Count, x.One(), x.Many())
	if x.Shape.Family == cut.Ribbon && x.Count > 0 {
		s += fmt.Sprintf(" of %.0f mm, %d across; %s of %s", x.LengthMM, x.Across, plan.Plural(x.Nests, "nest", "nests"), plan.Grams(x.NestG))
		if x.LastNest > 0 && !x.Crumb() {
			s += fmt.Sprintf(" and a short one of %d", x.LastNest)
		}
	}
	if x.FillG > 0 {
		s += fmt.Sprintf(", %s of filling in each", plan.Grams(x.Filling.PieceG))
	}
	return fmt.Sprintf("%s; %s, %.1f portions of %s; %s of trimmings.", s, plan.Grams(x.MadeG), x.Portions, plan.Grams(x.PortionG), plan.Grams(x.TrimG))
}

// sealSteps are how a filled piece is closed, in the order of the hands.
var sealSteps = map[cut.Close]string{
	cut.TwoSheets:   "Lay the second sheet over, pattern side out; press round each heap from the middle outwards until no air is left.",
	cut.FoldedSheet: "Fold the sheet over the row, pattern side out; press between the heaps, then along the edge, the air out ahead of the finger.",
	cut.FoldedPiece: "Fold each over its filling, pattern side out; press from the filling outwards, no air left in it.",
}

// Seal returns how a filled piece is closed.
func (v *batchView) Seal() []string {
	c := &v.Plan.Cut
	for _, x := range c.Parts() {
		if x.Shape.Family == cut.Filled {
			return []string{"Brush the seam with water, a film of it and no more: egg dough that is still soft needs none.", sealSteps[x.Shape.Close],
				"Press the seam to one thickness: where it is thick it stays raw.", "On a dusted tray, not touching, turned once."}
		}
	}
	return nil
}
