package draw

import (
	"fmt"
	"math"

	"hollen/internal/core/measure"

	"hollen/internal/core/plan"
	"hollen/internal/core/roll"
)

// PinAbove draws the board from above, to scale, with the sheet at every stage on it: the
// last one in the dough's colour, those before it as outlines.
func PinAbove(p *plan.Plan, across Width) string {
	const high = 300.
	width, left := across.units(), 130.
	if across.hand() {
		left = 0
	}
	m, o := p.Roll.Machine, &p.Roll
	long, short := math.Max(m.BoardLengthMM, m.BoardWidthMM), math.Min(m.BoardLengthMM, m.BoardWidthMM)
	disc := p.Request.Roll.Outline == roll.Disc
	w, h := o.LengthMM, o.WidthMM
	if disc {
		h = o.LengthMM
	}
	k := math.Min((width-2*left)/math.Max(long, w), high/math.Max(short, h))
	cx, cy := left+math.Max(long, w)*k/2, 12+math.Max(short, h)*k/2
	s := &Scene{Title: fmt.Sprintf("The board from above, %s, and a sheet of %s on it", p.In().Joined(" by ",
		measure.MM, 0, long, short),
		p.In().Long(o.LengthMM)),
		W: width, H: math.Max(short, h)*k + 44}
	s.Rect("ground", cx-long*k/2, cy-short*k/2, long*k, short*k)
	s.Rect("frame", cx-long*k/2, cy-short*k/2, long*k, short*k)
	for i := len(o.Passes) - 1; i >= 0; i-- {
		x := o.Passes[i]
		class := "ghost"
		if i == len(o.Passes)-1 {
			class = "dough"
		}
		if disc {
			s.Circle(class, cx, cy, x.LengthMM*k/2)
			continue
		}
		area := o.PieceG / (p.Formula.Dough.DensityGPerML * 1e-3 * x.OutMM)
		width := area / x.LengthMM
		s.Rect(class, cx-x.LengthMM*k/2, cy-width*k/2, x.LengthMM*k, width*k)
	}
	s.Across(cx-o.LengthMM*k/2, cx+o.LengthMM*k/2, cy+math.Max(short, h)*k/2+12, "")
	s.Text("m b", cx, cy+math.Max(short, h)*k/2+29, p.In().Long(o.LengthMM))
	if across.hand() { // its words stand under it
		s.H += 24
		s.Text("q", 0, s.H-4, "board "+p.In().Bare(long, measure.MM, 0)+" × "+p.In().Bare(short, measure.MM,
			0)+", to scale")
		return s.SVG()
	}
	s.Text("q", 0, 24, "board "+p.In().Bare(long, measure.MM, 0)+" × "+p.In().Bare(short, measure.MM, 0))
	s.Text("q", 0, 42, "to scale")
	return s.SVG()
}
