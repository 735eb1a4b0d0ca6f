package draw

import (
	"fmt"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
)

// ropeAbove draws a rope from above, to scale, with every slice, and under it its end enlarged; "" of dough that is
// rolled out.
func ropeAbove(p *plan.Plan, across Width) string {
	if !p.Roped() || p.Cut.Rope == nil {
		return ""
	}
	const left, top, foot = 40., 30., 24.
	thick, long := p.Roll.WidthMM, p.Roll.LengthMM
	slice := p.Cut.Rope.SliceMM
	width := across.units()
	k := (width - left - 10) / long
	near := min(6, (width-left-10)/(8*slice)) // eight slices in view at least
	under := top + thick*k + 46
	s := &Scene{Title: fmt.Sprintf("A rope from above, %s thick and %s long, sliced every %s",
		p.In().MM(thick, measure.Shortest), p.In().Long(long), p.In().MM(slice, 0)), W: width,
		H: under + thick*near + foot, Class: "scale-down"}
	s.Across(left, left+long*k, top-10, p.In().Long(long))
	sliced(s, left, top, long*k, thick*k, slice*k)
	shown := min(long, (width-left-10)/near, 12*slice)
	s.Down(left-14, under, under+thick*near)
	s.Text("e", left-20, under+thick*near/2+4, p.In().Bare(thick, measure.MM, measure.Shortest))
	s.Across(left, left+slice*near, under-10, p.In().Bare(slice, measure.MM, 0))
	sliced(s, left, under, shown*near, thick*near, slice*near)
	words := "above the whole rope, to scale; under it its end, enlarged"
	if across.hand() {
		words = "to scale; under it its end, enlarged"
	}
	s.Text("q", left, under+thick*near+18, words)
	return s.SVG()
}

// sliced draws a rope and where it is sliced, in picture units.
func sliced(s *Scene, left, top, long, thick, slice float64) {
	s.Rect("dough", left, top, long, thick)
	var cuts strings.Builder
	for x := slice; x < long-.01; x += slice {
		fmt.Fprintf(&cuts, "M%s %sv%s", num(left+x), num(top), num(thick))
	}
	s.Path(lineClass(slice), cuts.String())
}
