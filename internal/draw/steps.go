package draw

import (
	"fmt"
	"math"
)

// Step is one part of a sum: positive adds, negative takes away.
type Step struct {
	Name  string
	Delta float64
}

// Steps is a sum drawn part by part, each row starting where the one above ended, down to the
// total in its band. The scale is linear from nought.
type Steps struct {
	Title    string
	Parts    []Step
	Total    string // the last row's name
	Band     [2]float64
	Decimals int
	Width    Width
}

// SVG returns the picture of s.
func (s *Steps) SVG() string {
	const (
		row = 25.
		top = 8.
	)
	left, right := 196., 582.
	ticks, letters := 8, 40
	if s.Width.hand() {
		left, right = 134, s.Width.units()-8
		ticks, letters = 4, 18
	}
	sum := 0.
	lo := 0.
	hi := s.Band[1]
	for _, p := range s.Parts {
		sum += p.Delta
		lo, hi = math.Min(lo, sum), math.Max(hi, sum)
	}
	step := grid(hi-lo, ticks)
	lo, hi = math.Floor(lo/step)*step, math.Ceil(hi/step)*step
	x := func(v float64) float64 { return left + (v-lo)/(hi-lo)*(right-left) }
	sc := &Scene{Title: s.Title, W: right + 8, H: top + row*float64(len(s.Parts)+1) + 30, Class: "scale-down"}
	bottom := top + row*float64(len(s.Parts)+1)
	sc.Rect("ground", left, top, right-left, bottom-top)
	sc.Rect("band", x(s.Band[0]), top, x(s.Band[1])-x(s.Band[0]), bottom-top)
	for v := lo; v <= hi+step/2; v += step {
		sc.Path("hair", fmt.Sprintf("M%s %sV%s", num(x(v)), num(top), num(bottom)))
		sc.Text("m q", x(v), bottom+17, num(v))
	}
	at := 0.
	for i, p := range s.Parts {
		y := top + row*float64(i)
		sc.Text("e", left-8, y+17, clip(p.Name, letters))
		a, b := x(math.Min(at, at+p.Delta)), x(math.Max(at, at+p.Delta))
		class := "dough"
		if p.Delta < 0 {
			class = "less"
		}
		sc.Rect(class, a, y+4, math.Max(b-a, 1.5), row-8)
		at += p.Delta
		sc.Path("dim", fmt.Sprintf("M%s %sV%s", num(x(at)), num(y+4), num(y+row+4)))
		sign := "+"
		if p.Delta < 0 {
			sign = "−"
		}
		text := fmt.Sprintf("%s%.*f", sign, s.Decimals, math.Abs(p.Delta))
		if room := b - a; room > 46 {
			sc.Text(onDough("m b", class), (a+b)/2, y+17, text)
		} else if a-left > 46 {
			sc.Text("e b", a-5, y+17, text)
		} else {
			sc.Text("b", b+6, y+17, text)
		}
	}
	y := top + row*float64(len(s.Parts))
	sc.Text("e b", left-8, y+17, clip(s.Total, letters))
	sc.Rect("total", x(0), y+4, x(at)-x(0), row-8)
	sc.Text("e b", x(at)-7, y+17, fmt.Sprintf("%.*f", s.Decimals, at))
	sc.Rect("frame", left, top, right-left, bottom-top)
	return sc.SVG()
}
