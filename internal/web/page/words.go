package page

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
	"hollen/internal/core/request"
	"hollen/internal/draw"
)

// Suffixed ends a name with suffix, once, within the length a name may have.
func Suffixed(name, suffix string) string {
	letters := []rune(strings.TrimSuffix(name, suffix))
	return string(letters[:min(len(letters), 80-len(suffix))]) + suffix
}

// OptionName is what an option of that key is called.
func OptionName(options []request.Option, key string) string {
	for _, o := range options {
		if o.Key == key {
			return o.Name
		}
	}
	return "a retired flour"
}

// Shortened cuts a text to so many letters, at a word.
func Shortened(text string, letters int) string {
	r := []rune(text)
	if len(r) <= letters {
		return text
	}
	cut := string(r[:letters])
	if i := strings.LastIndexByte(cut, ' '); i > 0 {
		cut = cut[:i]
	}
	return strings.TrimRight(cut, " ,;") + " …"
}

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
	"capital":    measure.Capital,
	"clock": func(at string) string {
		t, err := measure.At(at)
		if err != nil {
			return at
		}
		return t.Format("Mon 15:04")
	},
	"school": func(s knead.School) string { return s.Traits().Short },
	"dough":  func(p *plan.Plan) template.CSS { return Tinted(p.Formula.Colour) },
	"tinted": Tinted,
	"batchTint": func(face, edge string) template.CSS {
		return template.CSS(
			"--dough:" + TintOnly.FindString(
				face,
			) + ";--dough-edge:" + TintOnly.FindString(
				edge,
			) + ";--on-dough:" + draw.OnDough(
				face,
			),
		)
	},
	"tint":  func(colour string) template.CSS { return template.CSS("--dough:" + TintOnly.FindString(colour)) },
	"draw":  drawn,
	"strip": func(s plan.Strip) template.HTML { return template.HTML(draw.Strip(&s)) },
	"dampruler": func(m flour.Moisture) template.HTML {
		return sizes(func(w draw.Width) string { return draw.DampRuler(m, w) })
	},
	"ruler": func(r draw.Ruler) template.HTML {
		return sizes(func(w draw.Width) string {
			r.Width = w
			return r.SVG()
		})
	},
	"sheet": func(p *plan.Plan, x *plan.CutPart) template.HTML {
		return sizes(func(w draw.Width) string { return draw.SheetAbove(p, x, w) })
	},
	"papersheet": func(p *plan.Plan, x *plan.CutPart, mm float64) template.HTML {
		return template.HTML(draw.SheetAbove(p, x, draw.Width(mm*draw.PaperUnits)))
	},
	"corner":   func(p *plan.Plan, x *plan.CutPart) template.HTML { return template.HTML(draw.Corner(p, x)) },
	"nests":    func(x *plan.CutPart) template.HTML { return template.HTML(draw.Nests(x)) },
	"rolledup": func(p *plan.Plan, x *plan.CutPart) template.HTML { return template.HTML(draw.RolledUp(p, x)) },
	"section":  func(p *plan.Plan, x *plan.CutPart) template.HTML { return template.HTML(draw.Section(p, x)) },
}

// drawn is a picture of a plan; a name that is not known is an error of the template.
func drawn(name string, p *plan.Plan) (template.HTML, error) {
	of, ok := draw.Pictures[name]
	if !ok {
		return "", fmt.Errorf("no drawing %q", name)
	}
	return sizes(func(w draw.Width) string { return of(p, w) }), nil
}

// sizes is a picture in the widths there are; the style sheet shows the one that fits.
func sizes(of func(draw.Width) string) template.HTML { return template.HTML(draw.InWidths(of)) }

// TintOnly is a colour as the cabinet keeps it.
var TintOnly = regexp.MustCompile(`^#[0-9a-f]{6}$`)

// Tinted returns the custom properties that tint a part of a page in a batch's colour. The
// colours are computed #rrggbb, so they are safe as CSS.
func Tinted(c dough.Colour) template.CSS {
	return template.CSS(
		"--dough:" + c.Face + ";--dough-edge:" + c.Edge + ";--dough-lit:" + c.Lit + ";--on-dough:" + draw.OnDough(
			c.Face,
		),
	)
}
