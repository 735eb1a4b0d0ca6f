package day

import (
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
)

// YieldOf is what a plan comes to as it is sold, by which orders of it are reckoned: a portion as it is made, the pieces
// of one where pieces are counted, what drying to keep takes.
func YieldOf(p *plan.Plan, boxG float64) order.Yield {
	y := order.Yield{PortionG: p.Formula.PortionG, BoxG: boxG}
	first := p.Cut.Parts()[0]
	if t := first.Shape.Traits(); !t.Lengths && !t.Sheets && first.Count > 0 && p.Formula.Portions > 0 &&
		len(p.Cut.Also) == 0 {
		y.Pieces = float64(first.Count) / p.Formula.Portions
	}
	if d := p.Dry.ToKeep; d != nil && d.RawG > 0 && d.TargetG < d.RawG {
		y.DryShare = 1 - d.TargetG/d.RawG
	}
	return y
}
