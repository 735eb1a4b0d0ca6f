package draw

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
)

// What SheetAbove needs beside the sheet and above and under it, picture units, and how high a sheet is at most.
const SheetBeside, SheetAround, sheetHigh = 64., 62., 200.

// SheetScale returns the picture units to a millimetre in a SheetAbove of that width: as large as fits.
func SheetScale(lengthMM, widthMM float64, wide Width) float64 {
	return min((wide.units()-SheetBeside)/lengthMM, sheetHigh/widthMM)
}

// SheetAbove draws one sheet of a part of the batch from above with what is cut from it,
// everything to one scale, so many picture units wide in all: the hatched part is trimmed off.
func SheetAbove(p *plan.Plan, x *plan.CutPart, across Width) string {
	long, wide := x.SheetMM()
	k := SheetScale(long, wide, across)
	const left, top = 44., 40.
	l, w := long*k, wide*k
	s := &Scene{Title: sheetTitle(p, x), Y: 12, W: across.units(), H: top + w + SheetAround - top, Class: "scale-down"}
	s.Rect("trim", left, top, l, w)
	switch {
	case x.Shape.Traits().Sheets:
		s.Rect("dough", left, top, l, w)
	case len(x.Cutouts()) == 0:
		s.Text("m s", left+l/2, top+w/2, "none fits")
	case x.Shape.Traits().Lengths:
		ribbonsAbove(s, p.In(), x, k, left, top, w)
	case x.Shape.Outline == cut.Rectangle && x.PerSheet > mostOutlines:
		gridAbove(s, x, k, left, top)
	default:
		s.Path("dough", cutoutPath(x.Cutouts(), k, left, top))
		if a := x.Cutouts()[0]; a.W*k > 12 {
			s.Across(left+a.X*k, left+(a.X+a.W)*k, top-10, p.In().Bare(a.W, measure.MM, 0))
		}
	}
	s.Down(left-14, top, top+w)
	s.Upright("m", left-22, top+w/2, p.In().MM(wide, 0))
	s.Path("dim", fmt.Sprintf("M%s %sH%sM%s %sv8M%s %sv8", num(left), num(top+w+14), num(left+l), num(left),
		num(top+w+10), num(left+l), num(top+w+10)))
	s.Text("m", left+l/2, top+w+30, p.In().Long(long))
	return s.SVG()
}

func sheetTitle(p *plan.Plan, x *plan.CutPart) string {
	long, wide := x.SheetMM()
	size := fmt.Sprintf("One sheet from above, %s, ", p.In().Joined(" by ", measure.MM, 0, measure.Near(long), wide))
	if x.Shape.Traits().Sheets {
		return size + "not cut yet"
	}
	if x.Shape.Traits().Lengths {
		return size + fmt.Sprintf("cut into %d ribbons across and %s", x.Across, measure.Plural(x.Along, "length",
			"lengths"))
	}
	return size + measure.Plural(x.PerSheet, "piece", "pieces") + " of " + strings.ToLower(x.Shape.Name)
}

// ribbonsAbove draws the ribbons: their edges, the cuts across and the lengths.
func ribbonsAbove(s *Scene, in measure.System, x *plan.CutPart, k, left, top, w float64) {
	x0, y0 := left+x.EndTrimMM*k, top+x.SideTrimMM*k
	useL, useW := float64(x.Along)*x.LengthMM*k, float64(x.Across)*x.WidthMM*k
	s.Rect("dough bare", x0, y0, useL, useW)
	var lines, cuts strings.Builder
	for i := 0; i <= x.Across; i++ {
		fmt.Fprintf(&lines, "M%s %sh%s", num(x0), num(y0+float64(i)*x.WidthMM*k), num(useL))
	}
	s.Path(lineClass(x.WidthMM*k), lines.String())
	for i := 0; i <= x.Along; i++ {
		fmt.Fprintf(&cuts, "M%s %sv%s", num(x0+float64(i)*x.LengthMM*k), num(top-2), num(w+4))
		if i < x.Along && (i == 0 || x.LengthMM*k > 30) { // narrower, one stands for all
			s.Across(x0+float64(i)*x.LengthMM*k, x0+float64(i+1)*x.LengthMM*k, top-10, in.Bare(measure.Near(x.LengthMM),
				measure.MM, 0))
		}
	}
	s.Path("ink", cuts.String())
}

// mostOutlines is how many pieces are drawn one by one; of more only the cuts are.
const mostOutlines = 400

// gridAbove draws many small pieces by the cuts between them.
func gridAbove(s *Scene, x *plan.CutPart, k, left, top float64) {
	all := x.Cutouts()
	first, last := all[0], all[len(all)-1]
	x0 := left + first.X*k
	y0 := top + first.Y*k
	l := (last.X + last.W - first.X) * k
	w := (last.Y + last.H - first.Y) * k
	s.Rect("dough bare", x0, y0, l, w)
	var lines strings.Builder
	for i := 0; i <= x.Along; i++ {
		fmt.Fprintf(&lines, "M%s %sv%s", num(x0+l*float64(i)/float64(x.Along)), num(y0), num(w))
	}
	for i := 0; i <= x.Across; i++ {
		fmt.Fprintf(&lines, "M%s %sh%s", num(x0), num(y0+w*float64(i)/float64(x.Across)), num(l))
	}
	s.Path(lineClass(first.W*k), lines.String())
}

// lineClass is the line between ribbons or pieces so many units apart: a fine one where a full one
// would hide them.
func lineClass(apart float64) string {
	if apart < 4 {
		return "dough-line fine"
	}
	return "dough-line"
}

// cutoutPath is all cutouts as one path, k units to a mm.
func cutoutPath(all []cut.Cutout, k, left, top float64) string {
	var b strings.Builder
	for _, c := range all {
		x := left + c.X*k
		y := top + c.Y*k
		w := c.W * k
		h := c.H * k
		if c.Round {
			fmt.Fprintf(&b, "M%s %sa%s %s 0 1 0 %s 0a%s %s 0 1 0 %s 0z", num(x), num(y+h/2), num(w/2), num(w/2), num(w),
				num(w/2), num(w/2), num(-w))
		} else {
			fmt.Fprintf(&b, "M%s %sh%sv%sh%sz", num(x), num(y), num(w), num(h), num(-w))
		}
	}
	return b.String()
}

// Corner draws the corner of the sheet five times as large as in SheetAbove at 0.86 units
// to the millimetre: the trims and the first ribbons.
func Corner(p *plan.Plan, x *plan.CutPart) string {
	const (
		k    = 4.3
		left = 64.
		top  = 22.
		w    = 250.
		h    = 122.
	)
	s := &Scene{Title: "The corner of the sheet, enlarged", W: 316, H: 166, Class: "scale-down"}
	s.Rect("trim", left, top, w, h)
	if x.Count == 0 || !x.Shape.Traits().Lengths {
		return s.SVG()
	}
	ex, sy := min(x.EndTrimMM*k, w*.6), min(x.SideTrimMM*k, h*.6)
	s.Rect("dough bare", left+ex, top+sy, w-ex, h-sy)
	var lines strings.Builder
	n := 0
	for y := top + sy; y <= top+h; y += x.WidthMM * k {
		fmt.Fprintf(&lines, "M%s %sh%s", num(left+ex), num(y), num(w-ex))
		if y+x.WidthMM*k <= top+h && n < 3 && x.WidthMM*k >= 18 {
			s.Down(left-12, y, y+x.WidthMM*k)
			s.Text("e", left-20, y+x.WidthMM*k/2+4, p.In().Bare(x.WidthMM, measure.MM, measure.Shortest))
			n++
			s.Text("s on-dough", left+ex+14, y+x.WidthMM*k/2+5, fmt.Sprintf("ribbon %d", n))
		}
	}
	s.Path("dough-line", lines.String())
	s.Path("ink", fmt.Sprintf("M%s %sV%sM%s %sH%s", num(left+ex), num(top-4), num(top+h), num(left+ex), num(top+sy),
		num(left+w)))
	s.Across(left, left+ex, top-6, p.In().Bare(x.EndTrimMM, measure.MM, 0))
	if sy >= 5 {
		s.Down(left-12, top, top+sy)
		s.Text("e b", left-20, top+sy/2+4, p.In().Bare(x.SideTrimMM, measure.MM, 1))
	}
	s.Text("q", left, top+h+19, "the corner enlarged; hatched is trim")
	return s.SVG()
}

// RolledUp draws a length rolled up for the knife from above, to scale: as wide as it is rolled,
// as long as the sheet is wide, and every cut.
func RolledUp(p *plan.Plan, x *plan.CutPart) string {
	const left, top = 10., 8.
	_, wide := x.SheetMM()
	k := min(150/wide, 1.5, 90/x.FoldMM)
	w, h := wide*k, x.FoldMM*k
	s := &Scene{Title: fmt.Sprintf("A length rolled up %s wide from above, %d cuts", p.In().MM(x.FoldMM,
		measure.Shortest), x.KnifeCuts), W: left + w +
		56, H: top + h + 28,
		Class: "scale-down"}
	s.Rect("trim", left, top, w, h)
	side := x.SideTrimMM * k
	s.Rect("dough bare", left+side, top, w-2*side, h)
	var cuts strings.Builder
	for i := 0; i <= x.Across; i++ {
		fmt.Fprintf(&cuts, "M%s %sv%s", num(left+side+float64(i)*x.WidthMM*k), num(top-3), num(h+6))
	}
	s.Path("ink thin", cuts.String())
	s.Down(left+w+10, top, top+h)
	s.Text("", left+w+18, top+h/2+4, p.In().Bare(x.FoldMM, measure.MM, measure.Shortest))
	s.Text("q", left, top+h+20, fmt.Sprintf("from above, to scale; %s", measure.Plural(x.Layers, "layer", "layers")))
	return s.SVG()
}

// SectionScale is the picture units to a millimetre in Section.
const SectionScale = 3.4

// Section draws a filled piece from the side, to scale: sheets, filling and seams.
func Section(p *plan.Plan, x *plan.CutPart) string {
	const (
		k    = SectionScale
		left = 12.
		top  = 14.
	)
	size := x.Shape.WidthMM * k
	t := x.ThickMM() * k
	high := x.Filling.HeightMM * k
	s := &Scene{Title: fmt.Sprintf("A piece from the side, %s, filling %s high", p.In().MM(x.Shape.WidthMM,
		measure.Shortest), p.In().MM(x.Filling.HeightMM, 0)),
		W: left + size + 60, H: top + high + 2*t + 44, Class: "scale-down"}
	seam := math.Max(0, (size-(x.Shape.WidthMM-cut.SeamMM(p.Rules().Cut, x.Shape.WidthMM))*k)/2)
	base := top + high + 2*t
	inner := size - 2*seam
	dome := func(y, rise float64) string {
		return fmt.Sprintf("Q%s %s %s %s", num(left+seam+inner/2), num(y-2*rise), num(left+seam), num(y))
	}
	s.Path("dough", fmt.Sprintf("M%s %sH%sV%sH%s%sH%sz", num(left), num(base), num(left+size), num(base-2*t),
		num(left+size-seam), dome(base-2*t, high),
		num(left)))
	s.Path("filling", fmt.Sprintf("M%s %s%sz", num(left+size-seam), num(base-t), dome(base-t, high-t/2)))
	s.Across(left, left+size, base+14, "")
	s.Text("m", left+size/2, base+32, p.In().MM(x.Shape.WidthMM, measure.Shortest))
	s.Down(left+size+12, base-high-2*t, base)
	s.Text("", left+size+20, base-high/2, p.In().Bare(x.Filling.HeightMM+2*x.ThickMM(), measure.MM, 0))
	return s.SVG()
}

// maxNests is how many nests are drawn one by one.
const maxNests = 15

// Nests draws the nests as they come, the short one last.
func Nests(x *plan.CutPart) string {
	total := x.AllNests()
	shown := min(total, maxNests)
	rows := (shown + 4) / 5
	s := &Scene{Title: measure.Plural(x.Nests, "nest", "nests"), W: 316, H: float64(rows)*54 + 4, Class: "scale-down"}
	if shown == 0 {
		s.H = 30
		s.Text("s", 4, 20, "none")
	}
	for i := range shown {
		turns := 3.2
		if i == total-1 && total > x.Nests {
			turns = .5 + (turns-.5)*float64(x.LastNest)/float64(x.PerNest)
		}
		d := spiral(30+float64(i%5)*62, 28+float64(i/5)*54, turns)
		s.Path("nest-edge", d)
		s.Path("nest", d)
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
