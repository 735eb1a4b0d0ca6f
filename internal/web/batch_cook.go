package web

import (
	"html/template"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
)

// cookView is the pot.
type cookView struct{ *batchView }

// LotG is one lot over all pots, g.
func (v cookView) LotG() float64 { return v.Plan.Cut.AllMadeG / float64(v.Plan.Cook.Lots) }

// WaterAndSalt are the figures of all pots.
func (v cookView) WaterAndSalt() template.HTML {
	n, unit := v.In.Number(v.Plan.Cook.WaterL, measure.L, 1)
	return v.Fig("Water and salt, for all", n, unit+" and "+v.In.Grams(v.Plan.Cook.SaltG), "cook.pot")
}

// EachPot is what one pot takes.
func (v cookView) EachPot() template.HTML {
	n, unit := v.In.Number(v.Plan.Cook.FillL, measure.L, 1)
	return unitHTML(n, unit+", "+v.In.Grams(v.Plan.Cook.DoseG)+" salt")
}

func cookKey(p *plan.Plan) string { return measure.MinSec(p.PotS()) }
