package draw

import (
	"fmt"
	"math"
	"strings"
)

// Point is a value of a curve.
type Point struct{ X, Y float64 }

// Curve is one line over a linear grid, with the point that holds today.
type Curve struct {
	Title  string
	XUnit  string
	YUnit  string
	Points []Point // in rising X, at least two
	Today  Point
	Words  string // at today's point
	Below  string // what a value under nought means
	Width  Width
}

// grid returns a step of 1, 2 or 5 times a power of ten that divides span in at most n.
func grid(span float64, n int) float64 {
	step := math.Pow(10, math.Floor(math.Log10(max(span, 1e-9)/float64(n))))
	for _, k := range []float64{1, 2, 5, 10} {
		if span/(step*k) <= float64(n) {
			return step * k
		}
	}
	return step * 10
}

// SVG returns the picture of c, both axes linear.
func (c *Curve) SVG() string {
	const (
		left   = 52.
		top    = 22.
		height = 150.
	)
	width, every := 530., 10.
	if c.Width.hand() {
		width, every = c.Width.units()-left-8, 20
	}
	first, last := c.Points[0], c.Points[len(c.Points)-1]
	lo, hi := min(0, c.Today.Y), max(0, c.Today.Y)
	for _, p := range c.Points {
		lo, hi = min(lo, p.Y), max(hi, p.Y)
	}
	step := grid(hi-lo, 5)
	lo, hi = math.Floor(lo/step)*step, math.Ceil(hi/step)*step
	if hi == lo {
		hi = lo + step
	}
	x := func(v float64) float64 { return left + (v-first.X)/(last.X-first.X)*width }
	y := func(v float64) float64 { return top + (hi-v)/(hi-lo)*height }
	s := &Scene{Title: c.Title, W: left + width + 8, H: top + height + 34, Class: "scale-down"}
	s.Rect("ground", left, top, width, height)
	if lo < 0 {
		s.Rect("dough-soft bare", left, y(0), width, y(lo)-y(0))
		if y(lo)-y(0) > 18 && width > 7*float64(len([]rune(c.Below))) {
			s.Text("s on-dough", left+10, y(lo)-7, c.Below)
		}
	}
	for v := lo; v <= hi+step/2; v += step {
		s.Path("hair", fmt.Sprintf("M%s %sh%s", num(left), num(y(v)), num(width)))
		s.Text("e", left-7, y(v)+4, num(v))
	}
	s.Text("q", 0, 9, c.YUnit)
	for v := math.Ceil(first.X/every) * every; v <= last.X+1e-9; v += every {
		s.Path("dim", fmt.Sprintf("M%s %sv5", num(x(v)), num(top+height)))
		s.Text("m", x(v), top+height+19, num(v))
	}
	s.Text("e q", left+width, top+height+33, c.XUnit)
	var d strings.Builder
	for i, p := range c.Points {
		op := "L"
		if i == 0 {
			op = "M"
		}
		d.WriteString(op + num(x(p.X)) + " " + num(y(p.Y)))
	}
	s.Rect("frame", left, top, width, height)
	s.Path("curve", d.String())
	s.Path("ink", fmt.Sprintf("M%s %sV%s", num(x(c.Today.X)), num(y(c.Today.Y)), num(top+height)))
	s.Circle("yolk", x(c.Today.X), y(c.Today.Y), 7)
	at, class := x(c.Today.X)+12, "b"
	if at > left+width-120 {
		at, class = x(c.Today.X)-12, "b e"
	}
	s.Text(class, at, max(y(c.Today.Y)-8, top+14), c.Words)
	return s.SVG()
}
