package form

import (
	"strconv"

	"hollen/internal/core/dough"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
)

// chosen is, for the fields Hollen may choose, what it chose: a number in the stored unit, so
// many decimals at most.
var chosen = map[string]struct {
	digits int
	of     func(*plan.Plan) float64
}{
	"amount.portion_g":     {0, func(p *plan.Plan) float64 { return p.Formula.PortionG }},
	"eggs.cracked_g":       {0, func(p *plan.Plan) float64 { return p.EggPlannedG() }},
	"eggs.own_egg_g":       {1, func(p *plan.Plan) float64 { return p.EggClass().EdibleG }},
	"eggs.own_yolk_g":      {1, func(p *plan.Plan) float64 { return p.EggClass().YolkG }},
	"eggs.yolk_colour":     {0, yolkColour},
	"used.flour_left_g":    {0, nought},
	"used.liquid_left_g":   {0, nought},
	"used.liquid_added_g":  {0, nought},
	"eggs.fix_whole_eggs":  {0, func(p *plan.Plan) float64 { return float64(p.Formula.Pick.Whole) }},
	"eggs.fix_extra_yolks": {0, func(p *plan.Plan) float64 { return float64(p.Formula.Pick.Yolks) }},
	"knead.knead_min":      {0, func(p *plan.Plan) float64 { return p.Knead.Min }},
	"knead.turns":          {0, func(p *plan.Plan) float64 { return float64(p.Knead.Way.Turns) }},
	"bench.hand_limit_g":   {0, func(p *plan.Plan) float64 { return p.Rules().Knead.OnePersonG }},
	"rest.rest_min":        {0, func(p *plan.Plan) float64 { return p.Rest.Min }},
	"roll.target_mm":       {2, func(p *plan.Plan) float64 { return p.Roll.TargetMM }},
	"roll.pieces":          {0, func(p *plan.Plan) float64 { return float64(p.Roll.Pieces) }},
	"roll.folds":           {0, func(p *plan.Plan) float64 { return float64(p.Roll.Folds) }},
	"cut.width_mm":         {2, func(p *plan.Plan) float64 { return p.Cut.Shape.WidthMM }},
	"cut.long_mm":          {2, func(p *plan.Plan) float64 { return p.Cut.Shape.Long() }},
	"cut.piece_g":          {1, func(p *plan.Plan) float64 { return p.Cut.Shape.PieceG }},
	"cut.trim_end_mm":      {1, func(p *plan.Plan) float64 { return p.Rules().Cut.TrimEndMM }},
	"cut.trim_side_mm":     {1, func(p *plan.Plan) float64 { return p.Rules().Cut.TrimSideMM }},
	"cut.fold_mm":          {0, func(p *plan.Plan) float64 { return p.Rules().Cut.FoldMM }},
	"dry.raw_g":            {0, func(p *plan.Plan) float64 { return p.Cut.AllDoughG }},
	"bench.pot_l":          {0, func(p *plan.Plan) float64 { return p.Rules().Cook.PotL }},
	"bench.pots":           {0, func(*plan.Plan) float64 { return 1 }},
	"bench.boil_min":       {0, func(p *plan.Plan) float64 { return p.Cook.BoilMin }},
	"cook.salt_share": {1,
		func(p *plan.Plan) float64 { return 100 * p.Rules().Cook.SaltPerPasta / p.Rules().Cook.WaterPerPasta }},
	"keep.days":         {1, func(p *plan.Plan) float64 { return p.Keep.ToDays }},
	"cut.min_length_mm": {0, func(p *plan.Plan) float64 { return p.Cut.MinMM }},
	"cut.max_length_mm": {0, func(p *plan.Plan) float64 { return p.Cut.MaxMM }},
	"cut.nest_g":        {0, func(p *plan.Plan) float64 { return p.Cut.NestG }},
}

func nought(*plan.Plan) float64 { return 0 }

func yolkColour(p *plan.Plan) float64 {
	if c := p.EggClass().YolkColour; c != 0 {
		return c
	}
	return dough.UsualYolk
}

// Chosen returns what Hollen chose for a field that may be left to it, as it would be typed in
// metric; "" where it chooses nothing.
func Chosen(p *plan.Plan, f request.Field) string {
	if c, ok := chosen[f.Path]; ok {
		s := strconv.FormatFloat(c.of(p), 'f', c.digits, 64)
		v, _ := strconv.ParseFloat(s, 64)
		return strconv.FormatFloat(v, 'f', -1, 64)
	}
	r := &p.Request
	switch {
	case f.Path == "cut.filling.piece_g" && p.Cut.Filling != nil:
		return strconv.FormatFloat(p.Cut.Filling.FitsG, 'f', 1, 64)
	case f.Path == "prices.egg_each" && p.EggClass().PriceEach > 0:
		return p.EggClass().PriceEach.String()
	case f.Group == "additions" && f.Part == "price_per_kg" && f.Slot < len(r.Additions):
		if m := r.Additions[f.Slot].Price(); m != nil {
			return m.String()
		}
	case f.Group == "flours" && f.Slot < len(r.Flours) && f.Part == "price_per_kg":
		if m := r.Flours[f.Slot].Price(); m != nil {
			return m.String()
		}
	case f.Group == "flours" && f.Slot < len(r.Flours) && f.Part == "measured_moisture_wb":
		return strconv.FormatFloat(100*p.Formula.Flours[f.Slot].Moisture.NowWB, 'f', 1, 64)
	}
	return ""
}
