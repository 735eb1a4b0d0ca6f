package draw

import (
	"fmt"
	"math"
	"strings"
	"time"

	"hollen/internal/core/sack"
)

// Sack draws the moisture of a sack since it was opened, to scale: where it followed the air as a line, where it was
// measured as a dot, nine in ten of what it holds by now as a bar, what steady air would say as a short line. ""
// where less than half a day is known.
func Sack(m *sack.Moisture, width Width) string {
	const (
		left   = 44.
		top    = 24.
		height = 130.
		least  = 12 * time.Hour
	)
	if len(m.Curve) < 2 || m.Curve[len(m.Curve)-1].At.Sub(m.Curve[0].At) < least {
		return ""
	}
	right := width.units() - 92
	if width.hand() {
		right = width.units() - 60
	}
	within := sack.Within(m.SD)
	lo, hi := min(m.WB-within, m.SteadyWB), max(m.WB+within, m.SteadyWB)
	for _, p := range m.Curve {
		lo = min(lo, p.WB)
		hi = max(hi, p.WB)
	}
	step := grid(100*(hi-lo), 5)
	lo, hi = step*math.Floor(100*lo/step), step*math.Ceil(100*hi/step)
	from, to := m.Curve[0].At, m.Curve[len(m.Curve)-1].At
	x := func(at time.Time) float64 { return left + float64(at.Sub(from))/float64(to.Sub(from))*(right-left) }
	y := func(wb float64) float64 { return top + (hi-100*wb)/(hi-lo)*height }
	s := &Scene{Title: fmt.Sprintf("Moisture of the sack since %s: %.1f %% by now, give or take %.1f",
		from.Local().Format("2 January"), 100*m.WB, 100*within), W: width.units(), H: top + height + 32,
		Class: "scale-down"}
	s.Rect("ground", left, top, right-left, height)
	for v := lo; v <= hi+step/2; v += step {
		s.Path("hair", fmt.Sprintf("M%s %sH%s", num(left), num(y(v/100)), num(right)))
		s.Text("e q", left-6, y(v/100)+4, num(math.Round(100*v)/100))
	}
	s.Text("q", 0, 10, "% moisture")
	var line strings.Builder
	for i, p := range m.Curve {
		line.WriteString(map[bool]string{true: "M", false: "L"}[i == 0] + num(x(p.At)) + " " + num(y(p.WB)))
	}
	s.Path("curve", line.String())
	for _, p := range m.Curve {
		if p.Turn != "" {
			s.Circle("yolk", x(p.At), y(p.WB), 6)
		}
	}
	s.Rect("range", right-4, y(m.WB+within), 8, y(m.WB-within)-y(m.WB+within))
	s.Circle("yolk", right, y(m.WB), 7)
	s.Text("b", right+12, y(m.WB)+5, fmt.Sprintf("%.1f %%", 100*m.WB))
	if at := y(m.SteadyWB); math.Abs(at-y(m.WB)) > 18 {
		s.Path("dim", fmt.Sprintf("M%s %sh16", num(right-8), num(at)))
		s.Text("q", right+12, at+4, "steady")
	}
	for _, t := range months(from, to, marksIn(width)) {
		s.Path("dim", fmt.Sprintf("M%s %sv5", num(x(t)), num(top+height)))
		s.Text("m q", min(max(x(t), left+14), right-4), top+height+20, t.Local().Format("2 Jan"))
	}
	return s.SVG()
}
