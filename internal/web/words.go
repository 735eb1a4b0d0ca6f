package web

import (
	"fmt"
	"html/template"
	"math"
	"regexp"
	"strings"

	"hollen/internal/account"
	"hollen/internal/core/dough"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/draw"
)

// wordFuncs are the words and pictures templates use.
var wordFuncs = template.FuncMap{
	"roleWords": func(r account.Role) string {
		return map[account.Role]string{account.Looks: "looks: changes nothing",
			account.Makes: "makes: batches, bench and log",
			account.Keeps: "keeps the workshop: everything"}[r]
	},
	"ownLine": func(id, name, label, auto, err string) map[string]string {
		return map[string]string{"ID": id, "Name": name, "Label": label, "Auto": auto, "Err": err}
	},
	"thousands": measure.Thousands,
	"mass":      massHTML,
	"size":      sizeHTML,
	"minutes":   measure.Minutes,
	"feltValue": func(i int) string { return fmt.Sprint(i - 2) },
	"ledgerBys": func() []string { return []string{"week", "month", "shape"} },
	// touchWords are how what dries may feel, in its order.
	"touchWords": func() []string { return []string{"not yet", "leather", "brittle"} },
	"minsec":     measure.MinSec,
	"plural":     measure.Plural,
	"pct":        func(share float64) string { return fmt.Sprintf("%.1f", 100*share) },
	"pct0":       func(share float64) string { return fmt.Sprintf("%.0f", 100*share) },
	"f0":         func(v float64) string { return fmt.Sprintf("%.0f", v) },
	"f1":         func(v float64) string { return fmt.Sprintf("%.1f", v) },
	"f2":         func(v float64) string { return fmt.Sprintf("%.2f", v) },
	"g":          func(v float64) string { return fmt.Sprintf("%g", math.Round(v*100)/100) },
	"round":      func(v float64) float64 { return math.Round(v*100) / 100 },
	"num":        func(n int) float64 { return float64(n) },
	"div":        func(a, b float64) float64 { return a / b },
	"lower":      strings.ToLower,
	"clock": func(at string) string {
		t, err := measure.At(at)
		if err != nil {
			return at
		}
		return t.Format("Mon 15:04")
	},
	"school": func(s knead.School) string { return s.Traits().Short },
	"dough":  func(p *plan.Plan) template.CSS { return tinted(p.Formula.Colour) },
	"tinted": tinted,
	"batchTint": func(face, edge string) template.CSS {
		return template.CSS(
			"--dough:" + tintOnly.FindString(
				face,
			) + ";--dough-edge:" + tintOnly.FindString(
				edge,
			) + ";--on-dough:" + draw.OnDough(
				face,
			),
		)
	},
	"tint":      func(colour string) template.CSS { return template.CSS("--dough:" + tintOnly.FindString(colour)) },
	"draw":      drawn,
	"strip":     func(s plan.Strip) template.HTML { return template.HTML(draw.Strip(&s)) },
	"dampruler": func(m flour.Moisture) template.HTML { return template.HTML(draw.DampRuler(m)) },
	"ruler":     func(r draw.Ruler) template.HTML { return template.HTML(r.SVG()) },
	"sheet":     func(p *plan.Plan, x *plan.CutPart) template.HTML { return template.HTML(draw.SheetAbove(p, x)) },
	"corner":    func(p *plan.Plan, x *plan.CutPart) template.HTML { return template.HTML(draw.Corner(p, x)) },
	"nests":     func(x *plan.CutPart) template.HTML { return template.HTML(draw.Nests(x)) },
	"rolledup":  func(p *plan.Plan, x *plan.CutPart) template.HTML { return template.HTML(draw.RolledUp(p, x)) },
	"section":   func(p *plan.Plan, x *plan.CutPart) template.HTML { return template.HTML(draw.Section(p, x)) },
}

// drawings are the pictures of a whole plan by name.
var drawings = map[string]func(*plan.Plan) string{
	"eggs": draw.Eggs, "rollside": draw.RollSide, "wet-ruler": draw.WetRuler, "wet-steps": draw.WetSteps,
	"damp-curve": draw.DampCurve,
	"dry-chart":  draw.DryChart, "pot-ruler": draw.PotRuler, "track": draw.TrackOf,
}

// drawn is a picture of a plan; a name that is not known is an error of the template.
func drawn(name string, p *plan.Plan) (template.HTML, error) {
	of, ok := drawings[name]
	if !ok {
		return "", fmt.Errorf("no drawing %q", name)
	}
	return template.HTML(of(p)), nil
}

// tintOnly is a colour as the cabinet keeps it.
var tintOnly = regexp.MustCompile(`^#[0-9a-f]{6}$`)

// tinted returns the custom properties that tint a part of a page in a batch's colour. The
// colours are computed #rrggbb, so they are safe as CSS.
func tinted(c dough.Colour) template.CSS {
	return template.CSS(
		"--dough:" + c.Face + ";--dough-edge:" + c.Edge + ";--dough-lit:" + c.Lit + ";--on-dough:" + draw.OnDough(
			c.Face,
		),
	)
}
