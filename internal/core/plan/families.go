package plan

import (
	"hollen/internal/core/cut"
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
