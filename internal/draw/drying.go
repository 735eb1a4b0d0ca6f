package draw

import (
	"fmt"
	"strings"
)

// Drying is the mass lost over the minutes: the line of how it lies and others to compare, and
// the losses that count.
type Drying struct {
	Title   string
	Minutes float64 // of the chart
	MaxLoss float64 // share
	Lines   []Line  // the first as it lies; X minutes, Y share lost
	Levels  []Level
	From    float64 // the window shaded; none when To is not after From
	To      float64
	Window  string
	Width   Width
}

// Level is a loss that counts, and what it means.
type Level struct {
	Loss  float64
	Words string
	Class string
}

// SVG returns the picture of d, both axes linear from nought.
func (d *Drying) SVG() string {
	const (
		left   = 52.
		top    = 22.
		height = 210.
	)
	wide := d.Width.units()
	right, ticks := wide-162, 12
	if d.Width.hand() {
		right, ticks = wide-8, 5
	}
	s := &Scene{Title: d.Title, W: wide, H: top + height + 40, Class: "scale-down"}
	x := func(m float64) float64 { return left + min(m/d.Minutes, 1)*(right-left) }
	y := func(loss float64) float64 { return top + height - min(loss/d.MaxLoss, 1)*height }
	s.Rect("ground", left, top, right-left, height)
	if d.To > d.From {
		s.Rect("band", x(d.From), top, x(d.To)-x(d.From), height)
		// over the lines, crossed by none
		s.Text("m s", min(max((x(d.From)+x(d.To))/2, left+40), right-40), top-7, d.Window)
	}
	step := grid(d.MaxLoss*100, 6) / 100
	for v := 0.; v <= d.MaxLoss+1e-9; v += step {
		s.Path("hair", fmt.Sprintf("M%s %sh%s", num(left), num(y(v)), num(right-left)))
		s.Text("e", left-7, y(v)+4, num(100*v))
	}
	s.Text("q", 0, 9, "% of the mass lost")
	for _, l := range d.Levels {
		class := "ink thin"
		if l.Class != "" {
			class = l.Class
		}
		s.Path(class, fmt.Sprintf("M%s %sH%s", num(left), num(y(l.Loss)), num(right)))
		text := "b"
		if l.Class != "" {
			text += " " + l.Class + "-text"
		}
		if d.Width.hand() {
			s.Text(text+" s", left+6, y(l.Loss)-5, l.Words)
		} else {
			s.Text(text, right+8, y(l.Loss)+5, l.Words)
		}
	}
	for m := 0.; m <= d.Minutes+1e-9; m += grid(d.Minutes, ticks) {
		s.Path("dim", fmt.Sprintf("M%s %sv5", num(x(m)), num(top+height)))
		s.Text("m", x(m), top+height+19, num(m))
	}
	s.Text("e q", right, top+height+37, "minutes in this air")
	for i := len(d.Lines) - 1; i >= 0; i-- {
		l := d.Lines[i]
		var path strings.Builder
		for j, p := range l.Points {
			if p.X > d.Minutes+1e-9 || p.Y > d.MaxLoss+1e-9 {
				break
			}
			op := "L"
			if j == 0 {
				op = "M"
			}
			path.WriteString(op + num(x(p.X)) + " " + num(y(p.Y)))
		}
		class := "track t-other"
		if i == 0 {
			class = "track t-dev"
		}
		s.Path(class, path.String())
		if end := l.end(d); l.Name != "" && !d.Width.hand() {
			ex, ey := x(end.X), y(end.Y)
			if ex > right-90 {
				s.Text("e s", right-6, ey-6, l.Name)
			} else {
				s.Text("s", ex+5, ey+14, l.Name)
			}
		}
	}
	s.Rect("frame", left, top, right-left, height)
	return s.SVG()
}

// end returns the last point of l within the chart.
func (l *Line) end(d *Drying) (at Point) {
	for _, p := range l.Points {
		if p.X <= d.Minutes+1e-9 && p.Y <= d.MaxLoss+1e-9 {
			at = p
		}
	}
	return at
}
