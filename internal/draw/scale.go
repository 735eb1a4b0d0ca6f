package draw

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// Band is a stretch of a scale that is right for something.
type Band struct {
	From, To float64
	Class    string // dough, or soft for a paler one
	Words    string // written in it when there is room
}

// Mark points at a value of a scale.
type Mark struct {
	At   float64
	Text string
	Open bool // an outline: a value that is not the one that counts
}

// Ruler is a scale with bands and marks, linear from Min to Max.
type Ruler struct {
	Title    string
	Min, Max float64
	Step     float64 // of the numbers; ticks stand at half of it
	Digits   int
	Left     string // words in the ground left of the first band
	Right    string // words in the ground right of the last band
	Bands    []Band
	Marks    []Mark
	Edges    bool // write the bands' bounds over them
	Foot     string
	Spans    []Band // ranges drawn as a bar through the scale
	Widest   Width  // 0: 590
	Spare    bool   // the numbers of the scale and the foot are of the second layer
	Width    Width  // of the column; a hand’s has half the numbers and no foot
}

const rulerPad = 8.

// x returns where a value stands, picture units; values off the scale stand at its end.
func (r *Ruler) x(v float64) float64 {
	v = min(max(v, r.Min), r.Max)
	return rulerPad + (v-r.Min)/(r.Max-r.Min)*(r.width()-2*rulerPad)
}

func (r *Ruler) width() float64 {
	widest := r.Widest
	if widest == 0 {
		widest = 590
	}
	return min(float64(widest), r.Width.units())
}

// onDough is the class of words on a ground of that class: on dough, which keeps its colour in the dark, they keep
// theirs.
func onDough(class, ground string) string {
	if strings.HasPrefix(ground, "dough") {
		return class + " on-dough"
	}
	return class
}

// edges writes the bounds of the bands over them, where no mark stands in the way.
func (r *Ruler) edges(s *Scene, top float64) {
	edge := "m b"
	if r.Spare {
		edge = "m b " + deep
	}
	for _, b := range r.Bands {
		for _, v := range []float64{b.From, b.To} {
			if v <= r.Min || v >= r.Max {
				continue
			}
			s.Path("ink", fmt.Sprintf("M%s %gv40", num(r.x(v)), top-6))
			if !slices.ContainsFunc(r.Marks, func(m Mark) bool { return !m.Open && math.Abs(r.x(v)-r.x(m.At)) <= 34 }) {
				s.Text(edge, r.x(v), top-9, fmt.Sprintf("%.1f", v))
			}
		}
	}
}

// mark points at the value of m, its text over it and within the picture.
func (r *Ruler) mark(s *Scene, m Mark, top float64) {
	x := r.x(m.At)
	if m.Open {
		s.Path("open", fmt.Sprintf("M%s %gl-5 -8v-18h10v18z", num(x), top+31))
		if m.Text != "" {
			s.Text("m q", x, top-9, m.Text)
		}
		return
	}
	s.Path("yolk", fmt.Sprintf("M%s %gl-9 -13v-28h18v28z", num(x), top+31))
	at, class := x, "big m"
	if x < 40 {
		at, class = r.x(r.Min), "big"
	} else if x > r.width()-40 {
		at, class = r.x(r.Max), "big e"
	}
	s.Text(class, at, top-18, m.Text)
}

// SVG returns the picture of r.
func (r *Ruler) SVG() string {
	const top, height = 46., 34.
	numbers, foot := "m", "q"
	if r.Width.hand() {
		r.Step, r.Foot = 2*r.Step, ""
	}
	if r.Spare {
		numbers, foot = "m "+deep, "q "+deep
	}
	s := &Scene{Title: r.Title, Y: 8, W: r.width(), H: 102, Class: "scale-down"}
	if r.Foot != "" {
		s.H = 124
	}
	lo, hi := r.x(r.Min), r.x(r.Max)
	s.Rect("ground", lo, top, hi-lo, height)
	for _, b := range r.Bands {
		x1, x2 := r.x(b.From), r.x(b.To)
		s.Rect(b.Class, x1, top, x2-x1, height)
		if room := x2 - x1; b.Words != "" && room > 6.6*float64(len([]rune(b.Words))) {
			s.Text(onDough("m s", b.Class), (x1+x2)/2, top+22, b.Words)
		}
	}
	s.Rect("frame", lo, top, hi-lo, height)
	if n := len(r.Bands); n > 0 {
		words := func(text string, a, b float64) {
			if text != "" && b-a > 7*float64(len([]rune(text))) {
				s.Text("m s", (a+b)/2, top+22, text)
			}
		}
		words(r.Left, lo, r.x(r.Bands[0].From))
		words(r.Right, r.x(r.Bands[n-1].To), hi)
	}
	for _, b := range r.Spans {
		s.Rect("reach", r.x(b.From), top+height-8, max(r.x(b.To)-r.x(b.From), 2), 7)
	}
	ticks := ""
	for i := 0; ; i++ {
		v := r.Min + float64(i)*r.Step/2
		if v > r.Max+1e-9 {
			break
		}
		long := 5
		if i%2 == 0 {
			long = 9
			number := fmt.Sprintf("%.*f", r.Digits, v)
			half := 4.5 * float64(len(number)) // of its width: the last one stays within the picture
			s.Text(numbers, min(max(r.x(v), half), r.width()-half), top+58, number)
		}
		ticks += fmt.Sprintf("M%s %gv%d", num(r.x(v)), top+height, long)
	}
	s.Path("dim", ticks)
	if r.Edges {
		r.edges(s, top)
	}
	for _, m := range r.Marks {
		r.mark(s, m, top)
	}
	if r.Foot != "" {
		s.Text(foot, lo, top+80, r.Foot)
	}
	return s.SVG()
}
