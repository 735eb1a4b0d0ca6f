package draw

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/plan"
)

// SheetScale returns the picture units to a millimetre in SheetAbove: as large as fits.
func SheetScale(lengthMM, widthMM float64) float64 { return min(862/lengthMM, 200/widthMM) }

// SheetAbove draws one sheet from above with its ribbons, everything to one scale: the
// hatched part is trimmed off.
func SheetAbove(p *plan.Plan) string {
	c := &p.Cut
	k := SheetScale(c.SheetLengthMM, c.SheetWidthMM)
	const left, top = 44., 40.
	l, w := c.SheetLengthMM*k, c.SheetWidthMM*k
	s := &Scene{Title: fmt.Sprintf("One sheet from above, %.0f by %.0f mm, cut into %d ribbons across and %s", c.SheetLengthMM, c.SheetWidthMM, c.Across, plan.Plural(c.Along, "length", "lengths")),
		Y: 12, W: 926, H: top + w + 34 - 12, Class: "scale-down"}
	s.Rect("trim", left, top, l, w)
	if c.Ribbons > 0 {
		x0, y0 := left+c.EndTrimMM*k, top+c.SideTrimMM*k
		useL, useW := float64(c.Along)*c.LengthMM*k, float64(c.Across)*c.RibbonMM*k
		s.Rect("dough bare", x0, y0, useL, useW)
		var lines strings.Builder
		for i := 0; i <= c.Across; i++ {
			fmt.Fprintf(&lines, "M%s %sh%s", num(x0), num(y0+float64(i)*c.RibbonMM*k), num(useL))
		}
		s.Path("dough-line", lines.String())
		var cuts strings.Builder
		for i := 0; i <= c.Along; i++ {
			fmt.Fprintf(&cuts, "M%s %sv%s", num(x0+float64(i)*c.LengthMM*k), num(top-2), num(w+4))
			if i < c.Along {
				s.Across(x0+float64(i)*c.LengthMM*k, x0+float64(i+1)*c.LengthMM*k, top-10, fmt.Sprintf("%.0f", c.LengthMM))
			}
		}
		s.Path("ink", cuts.String())
	} else {
		s.Text("m s", left+l/2, top+w/2, "no ribbon fits")
	}
	s.Down(left-14, top, top+w)
	s.Upright("m", left-22, top+w/2, fmt.Sprintf("%.0f mm", c.SheetWidthMM))
	s.Path("dim", fmt.Sprintf("M%s %sH%sM%s %sv8M%s %sv8", num(left), num(top+w+14), num(left+l), num(left), num(top+w+10), num(left+l), num(top+w+10)))
	s.Text("m", left+l/2, top+w+30, fmt.Sprintf("%s mm", plan.Thousands(c.SheetLengthMM)))
	return s.SVG()
}

// Corner draws the corner of the sheet five times as large as in SheetAbove at 0.86 units
// to the millimetre: the trims and the first ribbons.
func Corner(p *plan.Plan) string {
	c := &p.Cut
	const k, left, top, w, h = 4.3, 64., 22., 250., 122.
	s := &Scene{Title: "The corner of the sheet, enlarged", W: 316, H: 166, Class: "scale-down"}
	if c.Ribbons == 0 {
		s.Rect("trim", left, top, w, h)
		return s.SVG()
	}
	ex, sy := min(c.EndTrimMM*k, w*.6), min(c.SideTrimMM*k, h*.6)
	s.Rect("trim", left, top, w, h)
	s.Rect("dough bare", left+ex, top+sy, w-ex, h-sy)
	var lines strings.Builder
	n := 0
	for y := top + sy; y <= top+h; y += c.RibbonMM * k {
		fmt.Fprintf(&lines, "M%s %sh%s", num(left+ex), num(y), num(w-ex))
		if y+c.RibbonMM*k <= top+h && n < 3 && c.RibbonMM*k >= 18 {
			s.Down(left-12, y, y+c.RibbonMM*k)
			s.Text("e", left-20, y+c.RibbonMM*k/2+4, fmt.Sprintf("%g", c.RibbonMM))
			n++
			s.Text("s", left+ex+14, y+c.RibbonMM*k/2+5, fmt.Sprintf("ribbon %d", n))
		}
	}
	s.Path("dough-line", lines.String())
	s.Path("ink", fmt.Sprintf("M%s %sV%sM%s %sH%s", num(left+ex), num(top-4), num(top+h), num(left+ex), num(top+sy), num(left+w)))
	s.Across(left, left+ex, top-6, fmt.Sprintf("%.0f", c.EndTrimMM))
	if sy >= 5 {
		s.Down(left-12, top, top+sy)
		s.Text("e b", left-20, top+sy/2+4, fmt.Sprintf("%.1f", c.SideTrimMM))
	}
	s.Text("q", left, top+h+19, "the corner enlarged; hatched is trim")
	return s.SVG()
}

// maxNests is how many nests are drawn one by one.
const maxNests = 15

// Nests draws the nests as they come, the short one last.
func Nests(p *plan.Plan) string {
	c := &p.Cut
	total := c.Nests
	if c.LastNest > 0 {
		total++
	}
	shown := min(total, maxNests)
	rows := (shown + 4) / 5
	s := &Scene{Title: plan.Plural(c.Nests, "nest", "nests"), W: 316, H: float64(rows)*54 + 4, Class: "scale-down"}
	if shown == 0 {
		s.H = 30
		s.Text("s", 4, 20, "none")
	}
	const turns = 3.2
	nest := func(turns float64) {
		d := spiral(30, 28, turns)
		s.Path("nest-edge", d)
		s.Path("nest", d)
	}
	s.body.WriteString(`<defs><g id="nest">`)
	nest(turns)
	s.body.WriteString(`</g></defs>`)
	for i := range shown {
		x, y := float64(i%5)*62, float64(i/5)*54
		if i == total-1 && c.LastNest > 0 {
			fmt.Fprintf(&s.body, `<g transform="translate(%g %g)">`, x, y)
			nest(.5 + (turns-.5)*float64(c.LastNest)/float64(c.PerNest))
			s.body.WriteString("</g>")
			continue
		}
		fmt.Fprintf(&s.body, `<use href="#nest" x="%g" y="%g"/>`, x, y)
	}
	return s.SVG()
}

// spiral is a ribbon wound from outside in.
func spiral(x, y, turns float64) string {
	var b strings.Builder
	const steps = 16
	n := int(turns * steps)
	for i := 0; i <= n; i++ {
		a := 2 * math.Pi * float64(i) / steps
		r := 22 * (1 - .26*float64(i)/steps)
		c := byte('L')
		if i == 0 {
			c = 'M'
		}
		fmt.Fprintf(&b, "%c%s %s", c, num(x+r*math.Cos(a)), num(y+.82*r*math.Sin(a)))
	}
	return b.String()
}
