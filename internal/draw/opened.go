package draw

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/practice"
)

// openedLane is one quantity of an opened dough over its time.
type openedLane struct {
	name     string
	low, top float64 // of its scale
	from, to float64 // where it is right
	value    func(m *practice.Moment) float64
	felt     practice.Sign // the sign that is felt of it
	at       func(word int) float64
}

// openedLanes are the quantities, in the order of work.
func openedLanes(feel [5]float64) []openedLane {
	return []openedLane{
		{"water, points off", -6, 6, -.8, .8, func(m *practice.Moment) float64 { return m.Dev }, practice.Feel,
			func(word int) float64 { return feel[word] }},
		{"worked", 0, 1, .9, 1, func(m *practice.Moment) float64 { return m.D }, practice.Surface,
			func(word int) float64 { return []float64{.5, .78, .92}[word] }},
		{"tension", 0, 1, 0, .25, func(m *practice.Moment) float64 { return m.T }, practice.Poke,
			func(word int) float64 { return min(1, .75/[]float64{.75, 1, 1.5, 2, 3, 4, 6, 9}[word]) }},
		{"dried away, %", 0, 12, 2, 8.5, func(m *practice.Moment) float64 { return 100 * m.X }, practice.Leather,
			func(word int) float64 { return []float64{1.2, 4.5, 10}[word] }},
	}
}

// Opened draws a dough once it is opened, over its minutes: how wet, how worked, how tense and how dry it really was as
// a line, what was felt of it as dots, the calls as numbered ticks. feel is how far off each of the five words is,
// points.
func Opened(line []practice.Moment, made []practice.Made, feel [5]float64, w Width) string {
	if len(line) < 2 {
		return ""
	}
	lanes := openedLanes(feel)
	dried := false
	for i := range line {
		dried = dried || line[i].X > 0
	}
	if !dried {
		lanes = lanes[:3]
	}
	left, each, top := 118., 64., 26.
	if w.hand() {
		left, each = 8, 74
	}
	right := w.units() - 16
	s := &Scene{Title: openedTitle(line, made), W: w.units(), H: top + each*float64(len(lanes)) + 44}
	end := line[len(line)-1].Min
	x := func(min float64) float64 { return left + (right-left)*min/end }
	for i := range lanes {
		l := &lanes[i]
		y0 := top + each*float64(i)
		high := each - 14
		if w.hand() {
			y0 += 12
			high -= 12
		}
		y := func(v float64) float64 { return y0 + high*(l.top-min(max(v, l.low), l.top))/(l.top-l.low) }
		s.Rect("ground", left, y0, right-left, high)
		s.Rect("well-right", left, y(l.to), right-left, y(l.from)-y(l.to))
		if w.hand() {
			s.Text("q", left, y0-4, l.name)
		} else {
			s.Text("e q", left-8, y0+high/2+4, l.name)
		}
		var d strings.Builder
		for j := range line {
			fmt.Fprintf(
				&d,
				"%s%s %s",
				map[bool]string{true: "M", false: "L"}[j == 0],
				num(x(line[j].Min)),
				num(y(l.value(&line[j]))),
			)
		}
		s.Path("curve", d.String())
		for j := range line {
			if word := wordOf(line[j].Shown, l.felt, -1); word >= 0 {
				s.Circle("felt", x(line[j].Min), y(l.at(word)), 4)
			}
		}
	}
	foot := top + each*float64(len(lanes)) - 8
	last := -99.
	for i := range made {
		at := x(made[i].Min)
		s.Path("tick", fmt.Sprintf("M%s %sV%s", num(at), num(top-6), num(foot)))
		if at-last > 15 {
			s.Text("m", at, top-10, fmt.Sprint(i+1))
			last = at
		}
	}
	step := 10.
	for (right-left)*step/end < 46 {
		step *= 2
	}
	for v := 0.; v <= end; v += step {
		s.Text("m q", min(max(x(v), left+12), right-12), foot+18, fmt.Sprintf("%.0f", v))
	}
	s.Text("e q", right, foot+34, "minutes")
	return s.SVG()
}

// openedTitle says in words what the lines show.
func openedTitle(line []practice.Moment, made []practice.Made) string {
	end := line[len(line)-1]
	word := "right"
	switch {
	case end.Dev < -.8:
		word = "too dry"
	case end.Dev > .8:
		word = "too wet"
	}
	return fmt.Sprintf(
		"The dough over its %.0f minutes, %d calls: %s in the end, worked to %.0f of a hundred",
		end.Min,
		len(made),
		word,
		math.Round(100*end.D),
	)
}
