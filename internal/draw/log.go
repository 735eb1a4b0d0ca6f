package draw

import (
	"fmt"
	"hollen/internal/core/measure"
	"math"
	"strings"
	"time"
)

// Dot is one making on a chart of the log.
type Dot struct {
	At     time.Time
	X      float64 // what it is drawn over, where that is not time
	Y      float64
	Letter string // which flour, or shape
	Hollow bool   // it hardly counts
}

// Log draws one figure of the log over time, to scale: makings as letters in circles, the plan's expectation as a thin
// line at
// want, what is learned by now as a short bracket from low to high at the right; none where they are the same. Empty
// for no dots.
func Log(title, unit string, dots []Dot, want float64, wantWord string, low, high float64) string {
	if len(dots) == 0 {
		return ""
	}
	from, to := dots[0].At, dots[0].At
	for _, d := range dots {
		if d.At.Before(from) {
			from = d.At
		}
		if d.At.After(to) {
			to = d.At
		}
	}
	over := ruled{from: 0, to: math.Max(to.Sub(from).Hours(), 24), of: func(d *Dot) float64 {
		return d.At.Sub(
			from).Hours()
	}}
	for _, t := range months(from, to) {
		over.marks = append(over.marks, mark{t.Sub(from).Hours(), t.Format("2 Jan")})
	}
	return chart(title, unit, dots, over, want, wantWord, low, high)
}

// LogOver draws the same over another figure of each making, X.
func LogOver(title, unit string, dots []Dot, xUnit string, want float64, wantWord string) string {
	if len(dots) == 0 {
		return ""
	}
	over := ruled{from: math.Inf(1), to: math.Inf(-1), of: func(d *Dot) float64 { return d.X }, name: xUnit}
	for _, d := range dots {
		over.from, over.to = math.Min(over.from, d.X), math.Max(over.to, d.X)
	}
	step := niceStep(math.Max(over.to-over.from, 1e-6), 6)
	over.from, over.to = step*math.Floor(over.from/step), step*math.Ceil(over.to/step+1e-9)
	if over.to <= over.from {
		over.to = over.from + step
	}
	for v := over.from; v <= over.to+1e-9; v += step {
		over.marks = append(over.marks, mark{v, axis(v)})
	}
	return chart(title, unit, dots, over, want, wantWord, want, want)
}

// mark is a value written under a chart.
type mark struct {
	v     float64
	words string
}

// ruled is what a chart runs over.
type ruled struct {
	from, to float64
	of       func(d *Dot) float64
	marks    []mark
	name     string
}

func chart(title, unit string, dots []Dot, over ruled, want float64, wantWord string, low, high float64) string {
	const (
		left   = 60.
		right  = 880.
		top    = 18.
		bottom = 190.
		r      = 11.
	)
	least, most := math.Min(want, low), math.Max(want, high)
	for _, d := range dots {
		least, most = math.Min(least, d.Y), math.Max(most, d.Y)
	}
	step := niceStep(most-least, 5)
	least, most = step*math.Floor(least/step-.2), step*math.Ceil(most/step+.2)
	x := func(v float64) float64 { return left + 20 + (v-over.from)/(over.to-over.from)*(right-left-50) }
	y := func(v float64) float64 { return bottom - (v-least)/(most-least)*(bottom-top) }
	s := &Scene{
		Title: title + ": " + measure.Plural(len(dots), "making", "makings"),
		W:     926,
		H:     bottom + 52,
		Class: "scale-down",
	}
	for v := least; v <= most+1e-9; v += step {
		s.Path("hair", fmt.Sprintf("M%s %sH%s", num(left), num(y(v)), num(right)))
		s.Text("e q", left-8, y(v)+4, axis(v))
	}
	s.Path("ink", fmt.Sprintf("M%s %sH%s", num(left), num(y(want)), num(right)))
	s.Text("e q", right+46, y(want)+4, wantWord)
	for i := range dots {
		d := &dots[i]
		class := "dough"
		letter := "m coin"
		if d.Hollow {
			class, letter = "ghost", "m"
		}
		s.Circle(class, x(over.of(d)), y(d.Y), r)
		s.Text(letter, x(over.of(d)), y(d.Y)+4, d.Letter)
	}
	if high > low {
		at := right - 8
		s.Path("ink", fmt.Sprintf("M%s %sh8V%sh-8", num(at), num(y(high)), num(y(low))))
	}
	for _, m := range over.marks {
		s.Path("ink", fmt.Sprintf("M%s %sv6", num(x(m.v)), num(bottom)))
		s.Text("m q", x(m.v), bottom+22, m.words)
	}
	s.Text("q", 0, bottom+40, unit)
	if over.name != "" {
		s.Text("e q", right, bottom+40, over.name)
	}
	return s.SVG()
}

// axis is a value of an axis, no finer than it is.
func axis(v float64) string {
	if math.Abs(v) < 1e-9 {
		return "0"
	}
	return strings.Replace(num(v), "-", "−", 1)
}

// niceStep is a step of 1, 2 or 5 times a power of ten that divides a span about n times.
func niceStep(span float64, n float64) float64 {
	raw := math.Max(span, 1e-6) / n
	ten := math.Pow(10, math.Floor(math.Log10(raw)))
	for _, m := range []float64{1, 2, 5} {
		if m*ten >= raw {
			return m * ten
		}
	}
	return 10 * ten
}

// months are days to write under a chart: about six, evenly.
func months(from, to time.Time) (out []time.Time) {
	days := to.Sub(from).Hours() / 24
	if days < 1 {
		return []time.Time{from}
	}
	n := int(math.Min(6, math.Max(1, math.Floor(days))))
	for i := range n + 1 {
		out = append(out, from.Add(time.Duration(float64(i)*days*24/float64(n))*time.Hour))
	}
	return out
}
