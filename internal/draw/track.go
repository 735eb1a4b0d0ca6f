package draw

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"
)

// Line is one quantity along a way.
type Line struct {
	Class  string
	Name   string // at its end
	Points []Point
	Min    float64 // of its scale
	Max    float64
}

// Stretch is a step of the way, under the plot.
type Stretch struct {
	From, To float64
	Class    string // dough for work, dough-soft for rest
	Words    string
}

// Limit is a moment that counts, an upright line.
type Limit struct {
	At    float64
	Class string
	Words string
}

// Track is a dough along its way: quantities over the minutes, each on its own scale of full
// height, the steps under them, the window in which it is right shaded.
type Track struct {
	Title    string
	Minutes  float64
	Lines    []Line
	Steps    []Stretch
	From, To float64 // the shaded window; none when To is not after From
	Window   string  // its words
	Limits   []Limit
	Width    Width
}

// lineEnd is where the name of a line stands.
type lineEnd struct {
	y           float64
	name, class string
}

// spread moves names apart where they would meet, none of them below bottom.
func spread(ends []lineEnd, bottom float64) {
	slices.SortStableFunc(ends, func(a, b lineEnd) int { return cmp.Compare(a.y, b.y) })
	last := math.Inf(-1)
	for i := range ends {
		ends[i].y = math.Max(ends[i].y, last+17)
		last = ends[i].y
	}
	if last <= bottom {
		return
	}
	for i := len(ends) - 1; i >= 0; i-- {
		ends[i].y = math.Min(ends[i].y, bottom-17*float64(len(ends)-1-i))
	}
}

// trackHigh is how high the plot is, trackLine a line of what stands under it, trackLeft where it begins, picture
// units.
const trackHigh, trackLine, trackLeft = 190., 19., 52.

// lines draws the quantities, their names at their ends; for a hand under the plot, from y on.
func (t *Track) lines(s *Scene, x func(float64) float64, right, bottom, under float64) {
	var ends []lineEnd
	for _, l := range t.Lines {
		var d strings.Builder
		y := 0.
		for i, p := range l.Points {
			op := "L"
			if i == 0 {
				op = "M"
			}
			y = bottom - min(max((p.Y-l.Min)/(l.Max-l.Min), 0), 1)*trackHigh
			d.WriteString(op + num(x(p.X)) + " " + num(y))
		}
		s.Path("track "+l.Class, d.String())
		ends = append(ends, lineEnd{y, l.Name, l.Class})
	}
	if t.Width.hand() {
		for i, e := range ends {
			y := under + trackLine*float64(i)
			s.Path("track "+e.class, fmt.Sprintf("M%s %sh22", num(trackLeft), num(y)))
			s.Text("", trackLeft+32, y+4, e.name)
		}
		ends = nil
	}
	spread(ends, bottom)
	for _, e := range ends {
		s.Path("track "+e.class, fmt.Sprintf("M%s %sh14", num(right+6), num(e.y)))
		s.Text("", right+25, e.y+4, e.name)
	}
}

// SVG returns the picture of t.
func (t *Track) SVG() string {
	const (
		left   = trackLeft
		top    = 24.
		height = trackHigh
		steps  = 30.
		line   = trackLine
	)
	wide := t.Width.units()
	right, under := wide-162, 0.
	ticks := 9
	if t.Width.hand() {
		right, under = wide-8, line*float64(len(t.Lines))+8
		ticks = 4
	}
	s := &Scene{Title: t.Title, W: wide, H: top + height + steps + 34 + under}
	bottom := top + height
	x := func(m float64) float64 {
		return left + min(max(m/math.Max(t.Minutes, 1e-9), 0), 1)*(right-left)
	}
	s.Rect("ground", left, top, right-left, height)
	if t.To > t.From {
		s.Rect("band", x(t.From), top, x(t.To)-x(t.From), height)
		s.Path("ink", fmt.Sprintf("M%s %sV%s", num(x(t.From)), num(top-6), num(bottom)))
		at, class := x(t.From)+6, "b"
		if x(t.From) > right-190 {
			at, class = x(t.From)-6, "b e"
		}
		if t.Width.hand() {
			at, class = right, "b e"
		}
		s.Text(class, at, top-9, t.Window)
	}
	for _, share := range []float64{0, .25, .5, .75, 1} {
		y := bottom - share*height
		s.Path("hair", fmt.Sprintf("M%s %sH%s", num(left), num(y), num(right)))
		s.Text("e q", left-6, y+4, fmt.Sprintf("%.0f %%", 100*share))
	}
	t.lines(s, x, right, bottom, bottom+steps+34)
	for _, l := range t.Limits {
		if l.At > t.Minutes {
			continue
		}
		s.Path(l.Class, fmt.Sprintf("M%s %sV%s", num(x(l.At)), num(top), num(bottom)))
		if !t.Width.hand() || x(l.At)-left > 7*float64(len([]rune(l.Words))) {
			s.Text("e "+l.Class+"-text", x(l.At)-5, top+15, l.Words)
		}
	}
	for _, st := range t.Steps {
		w := x(st.To) - x(st.From)
		s.Rect(st.Class, x(st.From), bottom+5, w, steps-8)
		if w > 7*float64(len([]rune(st.Words))) {
			s.Text(onDough("m", st.Class), x(st.From)+w/2, bottom+20, st.Words)
		}
	}
	s.Rect("frame", left, top, right-left, height)
	unit, per := "min", 1.
	if t.Minutes > 180 {
		unit, per = "h", 60.
	}
	step := grid(t.Minutes/per, ticks)
	for v := 0.; v <= t.Minutes/per+1e-9; v += step {
		s.Text("m q", x(v*per), bottom+steps+14, num(v))
	}
	if t.Width.hand() {
		s.Text("q", 0, top-9, unit)
	} else {
		s.Text("q", right+6, bottom+steps+14, unit+" after flour meets water")
	}
	return s.SVG()
}
