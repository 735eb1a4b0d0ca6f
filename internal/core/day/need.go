package day

import (
	"hollen/internal/core/filling"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
)

// HoldsOf is what a plan contains, by its flours, eggs, additions, filling and dusting; label is what its recipe says
// may have come to it. A filling whose allergens were never said, or never held against the packs, is not known.
func HoldsOf(p *plan.Plan, label recipe.Label) order.Holds {
	h := order.Holds{In: p.Formula.Allergens, May: filling.Listed(label.MayContain)}
	if f := p.Request.Cut.Filling; p.Request.Filled() {
		if f.Own == nil {
			h.Unknown = f.Allergens == ""
		} else {
			h.May = append(h.May, filling.Listed(f.Own.MayContain)...)
			h.Unknown = !f.Own.Read
		}
	}
	return h
}

// YieldOf is what a plan comes to as it is sold, by which orders of it are reckoned: a portion as it is made, the
// pieces
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
