package web

import (
	"fmt"
	"html/template"
	"math"
	"regexp"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/dough"
	"hollen/internal/core/knead"
	"hollen/internal/core/plan"
	"hollen/internal/draw"
)

// wordFuncs are the words and pictures templates use.
var wordFuncs = template.FuncMap{
	"thousands": plan.Thousands,
	"grams":     plan.Grams,
	"mass":      massHTML,
	"minutes":   plan.Minutes,
	"minsec":    plan.MinSec,
	"plural":    plan.Plural,
	"eggwords":  plan.EggWords,
	"pct":       func(share float64) string { return fmt.Sprintf("%.1f", 100*share) },
	"pct0":      func(share float64) string { return fmt.Sprintf("%.0f", 100*share) },
	"f0":        func(v float64) string { return fmt.Sprintf("%.0f", v) },
	"f1":        func(v float64) string { return fmt.Sprintf("%.1f", v) },
	"f2":        func(v float64) string { return fmt.Sprintf("%.2f", v) },
	"g":         func(v float64) string { return fmt.Sprintf("%g", math.Round(v*100)/100) },
	"add":       func(a, b int) int { return a + b },
	"num":       func(n int) float64 { return float64(n) },
	"div":       func(a, b float64) float64 { return a / b },
	"drying":    func(d *draw.Drying) template.HTML { return template.HTML(d.SVG()) },
	"sub":       func(a, b float64) float64 { return a - b },
	"lower":     strings.ToLower,
	"strip":     func(p *plan.Plan) template.HTML { return template.HTML(draw.Strip(p)) },
	"eggs":      func(p *plan.Plan) template.HTML { return template.HTML(draw.Eggs(p)) },
	"rollside":  func(p *plan.Plan) template.HTML { return template.HTML(draw.RollSide(p)) },
	"sheet":     func(p *plan.Plan, x *plan.CutPart) template.HTML { return template.HTML(draw.SheetAbove(p, x)) },
	"corner":    func(x *plan.CutPart) template.HTML { return template.HTML(draw.Corner(x)) },
	"nests":     func(x *plan.CutPart) template.HTML { return template.HTML(draw.Nests(x)) },
	"rolledup":  func(p *plan.Plan, x *plan.CutPart) template.HTML { return template.HTML(draw.RolledUp(p, x)) },
	"section":   func(p *plan.Plan, x *plan.CutPart) template.HTML { return template.HTML(draw.Section(p, x)) },
	"span": func(lo, hi float64) string {
		a, b := strings.TrimSuffix(plan.Grams(lo), " g"), strings.TrimSuffix(plan.Grams(hi), " g")
		if a == b {
			return a
		}
		return a + "–" + b
	},
	"curve": func(c draw.Curve) template.HTML { return template.HTML(c.SVG()) },
	"clock": func(at string) string {
		t, err := plan.At(at)
		if err != nil {
			return at
		}
		return t.Format("Mon 15:04")
	},
	"school": func(s knead.School) string { return schoolNames[s] },
	"track":  func(t draw.Track) template.HTML { return template.HTML(t.SVG()) },
	"steps":  func(s draw.Steps) template.HTML { return template.HTML(s.SVG()) },
	"ruler":  func(r draw.Ruler) template.HTML { return template.HTML(r.SVG()) },
	"dough":  doughStyle,
	"tint":   func(colour string) template.CSS { return template.CSS("--dough:" + tintOnly.FindString(colour)) },
}

// tintOnly is a colour as the cabinet keeps it.
var tintOnly = regexp.MustCompile(`^#[0-9a-f]{6}$`)

// massHTML returns a mass with its unit set smaller.
func massHTML(g float64) template.HTML {
	n, unit, _ := strings.Cut(plan.Grams(g), " ")
	return template.HTML(n + `<span class="unit">` + unit + `</span>`)
}

// doughStyle returns the custom properties that tint a page in a batch's colour. The
// colours are computed #rrggbb, so they are safe as CSS.
func doughStyle(p *plan.Plan) template.CSS {
	c := p.Formula.Colour
	return template.CSS("--dough:" + c.Face + ";--dough-edge:" + c.Edge + ";--dough-lit:" + c.Lit)
}

// stationNames are the names on the spine.
var stationNames = map[plan.Stage]string{plan.AtFormula: "Formula", plan.AtRoom: "Room", plan.AtKnead: "Knead", plan.AtRest: "Rest",
	plan.AtRoll: "Roll", plan.AtCut: "Cut", plan.AtDry: "Dry", plan.AtCook: "Cook", atDoctor: "Something wrong"}

// keyFigure returns the number a station shows on the spine.
func keyFigure(p *plan.Plan, s plan.Stage) string {
	f := &p.Formula
	switch s {
	case plan.AtFormula:
		switch {
		case f.Weighed():
			return plan.Grams(f.Pick.EggG) + " egg"
		case f.Pick.Whole > 0 && f.Pick.Yolks > 0:
			return fmt.Sprintf("%d + %d yolks", f.Pick.Whole, f.Pick.Yolks)
		case f.Pick.Whole+f.Pick.Yolks == 0:
			return plan.Grams(f.TopG) + " " + p.TopWord()
		}
		return plan.EggWords(f.Pick.Whole, f.Pick.Yolks)
	case plan.AtRoom:
		if f.TopG == 0 {
			return "no added " + p.TopWord()
		}
		return "+" + plan.Grams(f.TopG) + " " + p.TopWord()
	case plan.AtKnead:
		if w := p.Knead.Way; w.Turns > 1 {
			return fmt.Sprintf("%d × %.0f min", w.Turns, w.KneadMin)
		}
		return plan.Minutes(p.Knead.Way.WorkMin)
	case plan.AtRest:
		return plan.Minutes(p.Rest.Min)
	case plan.AtRoll:
		stops := p.Roll.Machine.Stops
		if p.Roped() {
			return fmt.Sprintf("rope of %g mm", p.Roll.WidthMM)
		}
		if len(stops) == 0 {
			return fmt.Sprintf("%.2g mm · %s", p.Roll.SheetMM, plan.Plural(len(p.Roll.Passes), "stage", "stages"))
		}
		return fmt.Sprintf("%s to %s · %d passes", stops[0].Label, p.Roll.TargetStop, len(p.Roll.Passes))
	case plan.AtCut:
		if p.Cut.Shape.Family != cut.Ribbon {
			return plan.Plural(p.Cut.Count, "piece", "pieces")
		}
		return fmt.Sprintf("%g mm · %d wide", p.Cut.WidthMM, p.Cut.Across)
	case plan.AtDry:
		if p.Dry.Purpose == cut.NoDrying {
			return "none needed"
		}
		if !p.Dry.Leather.Will {
			return "will not dry"
		}
		return fmt.Sprintf("%.0f–%.0f min", p.Dry.Leather.FromMin, p.Dry.Leather.ToMin)
	}
	return plan.MinSec(p.PotS())
}

// eggsPlanned is what the eggs of the plan weigh before they are cracked, g.
func eggsPlanned(p *plan.Plan) float64 {
	if p.Formula.PlannedEggG > 0 {
		return p.Formula.PlannedEggG
	}
	return p.Formula.Pick.EggG
}

// or returns v, or otherwise when it is nought.
func or(v, otherwise float64) float64 {
	if v == 0 {
		return otherwise
	}
	return v
}

// automatic returns, for every field Hollen may choose, what it chose, as it would be typed.
func automatic(p *plan.Plan) map[string]string {
	n := func(v float64, digits int) string {
		s := fmt.Sprintf("%.*f", digits, v)
		if strings.Contains(s, ".") {
			s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
		}
		return s
	}
	out := map[string]string{
		"amount.portion_g":     n(p.Formula.PortionG, 0),
		"eggs.cracked_g":       n(eggsPlanned(p), 0),
		"eggs.own_egg_g":       n(p.EggClass().EdibleG, 1),
		"eggs.own_yolk_g":      n(p.EggClass().YolkG, 1),
		"eggs.yolk_colour":     n(or(p.EggClass().YolkColour, dough.UsualYolk), 0),
		"used.flour_left_g":    "0",
		"used.liquid_left_g":   "0",
		"used.liquid_added_g":  "0",
		"eggs.fix_whole_eggs":  n(float64(p.Formula.Pick.Whole), 0),
		"eggs.fix_extra_yolks": n(float64(p.Formula.Pick.Yolks), 0),
		"knead.knead_min":      n(p.Knead.Min, 0),
		"knead.turns":          n(float64(p.Knead.Way.Turns), 0),
		"bench.hand_limit_g":   n(p.Rules().Knead.OnePersonG, 0),
		"rest.rest_min":        n(p.Rest.Min, 0),
		"roll.target_mm":       n(p.Roll.TargetMM, 2),
		"roll.pieces":          n(float64(p.Roll.Pieces), 0),
		"roll.folds":           n(float64(p.Roll.Folds), 0),
		"cut.width_mm":         n(p.Cut.Shape.WidthMM, 2),
		"cut.long_mm":          n(p.Cut.Shape.Long(), 2),
		"cut.piece_g":          n(p.Cut.Shape.PieceG, 1),
		"cut.trim_end_mm":      n(p.Rules().Cut.TrimEndMM, 1),
		"cut.trim_side_mm":     n(p.Rules().Cut.TrimSideMM, 1),
		"cut.fold_mm":          n(p.Rules().Cut.FoldMM, 0),
		"dry.raw_g":            n(p.Cut.AllDoughG, 0),
		"bench.pot_l":          n(p.Rules().Cook.PotL, 0),
		"bench.pots":           "1",
		"keep.days":            n(p.Keep.ToDays, 1),
		"cut.min_length_mm":    n(p.Cut.MinMM, 0),
		"cut.max_length_mm":    n(p.Cut.MaxMM, 0),
		"cut.nest_g":           n(p.Cut.NestG, 0),
	}
	if f := p.Cut.Filling; f != nil {
		out["cut.filling.piece_g"] = n(f.FitsG, 1)
	}
	for i, a := range p.Request.Additions {
		if m := a.Price(); m != nil {
			out[fmt.Sprintf("additions.%d.price_per_kg", i)] = m.String()
		}
	}
	if each := p.EggClass().PriceEach; each > 0 {
		out["prices.egg_each"] = each.String()
	}
	for i, f := range p.Formula.Flours {
		if m := p.Request.Flours[i].Price(); m != nil {
			out[fmt.Sprintf("flours.%d.price_per_kg", i)] = m.String()
		}
		out[fmt.Sprintf("flours.%d.measured_moisture_wb", i)] = fmt.Sprintf("%.1f", 100*f.Moisture.NowWB)
	}
	return out
}
