package day

import (
	"strings"

	"hollen/internal/core/filling"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
)

// HoldsOf is what a plan contains, by its flours, eggs, additions, filling, dusting and the third colour laid on it;
// label is what its recipe says may have come to it. A filling whose allergens were never said, or never held against
// the packs, is not known. A second dough is a plan of its own.
func HoldsOf(p *plan.Plan, label recipe.Label) order.Holds {
	h := order.Holds{In: p.Formula.Allergens, May: filling.Listed(label.MayContain)}
	if _, of, _, is := p.ThirdColour(); is && of.Allergen != "" {
		h = h.With(order.Holds{In: []string{of.Allergen}})
	}
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

// PartFor is which of a plan's shapes an order wants, by its words: the first whose name they hold; 0 where none is
// named.
func PartFor(p *plan.Plan, what string) int {
	said := " " + order.Fold(what) + " "
	for i, x := range p.Cut.Parts() {
		if strings.Contains(said, " "+order.Fold(x.Shape.Name)+" ") {
			return i
		}
	}
	return 0
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
