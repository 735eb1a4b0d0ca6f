package draw

import (
	"fmt"
	"math"
	"time"

	"hollen/internal/core/bench"
)

// block is a stretch of a making: of the plan, or as it went.
type block struct {
	from, to float64 // min
	words    string
	class    string
}

// Making draws a making in time, the plan above, what was done below, both from its beginning and to one scale;
// what is still going on ends at now.
func Making(m *bench.Making, now time.Time, width Width) string {
	left, right := 84., width.units()-10
	const (
		top  = 30.
		high = 34.
		gap  = 18.
	)
	planned, done := stretches(m, now)
	end := 10.
	for _, b := range append(append([]block{}, planned...), done...) {
		end = math.Max(end, b.to)
	}
	x := func(minutes float64) float64 { return left + minutes/end*(right-left) }
	s := &Scene{Title: fmt.Sprintf("The making in time: %s", spanWords(planned, done)), W: width.units(), H: top +
		2*high + gap +
		44, Class: "scale-down"}
	for i, row := range [][]block{planned, done} {
		y := top + float64(i)*(high+gap)
		s.Text("q", 0, y+high/2+5, []string{"planned", "done"}[i])
		for _, b := range row {
			w := math.Max(x(b.to)-x(b.from), .8)
			s.Rect(b.class, x(b.from), y, w, high)
			if w > 7.2*float64(len([]rune(b.words))) {
				s.Text(onDough("m", b.class), x(b.from)+w/2, y+high/2+5, b.words)
			}
		}
	}
	floor := top + 2*high + gap
	s.Path("ink", fmt.Sprintf("M%s %sH%s", num(left), num(floor+6), num(right)))
	step := grid(end, int(width/90))
	for minutes := 0.; minutes <= end+1e-9; minutes += step {
		s.Path("ink", fmt.Sprintf("M%s %sv6", num(x(minutes)), num(floor+6)))
		s.Text("m q", x(minutes), floor+28, num(minutes))
	}
	s.Text("e q", right, floor+42, "minutes from its beginning")
	return s.SVG()
}

func spanWords(planned, done []block) string {
	long := func(all []block) (end float64) {
		for _, b := range all {
			end = math.Max(end, b.to)
		}
		return end
	}
	return fmt.Sprintf("%.0f minutes planned, %.0f done", long(planned), long(done))
}

// stretches are the blocks of both rows; what belongs to one step of the plan, or one piece, is one.
func stretches(m *bench.Making, now time.Time) (planned, done []block) {
	begin := m.Begun.BeginMin()
	for _, p := range m.Begun.Steps {
		if p.Min > 0 {
			planned = append(planned, block{p.FromMin - begin, p.FromMin + p.Min - begin, p.Head,
				classOf(p.Unattended)})
		}
	}
	since := func(t time.Time) float64 { return t.Sub(m.State.Began).Minutes() }
	last := ""
	for _, x := range m.Steps {
		p := m.State.Steps[x.Key]
		if p.Began.IsZero() || p.Status == bench.LeftOut {
			continue
		}
		over := p.Over
		if over.IsZero() {
			over = now
		}
		of, words := x.Of, x.Head
		switch x.Kind {
		case bench.Weigh:
			of, words = "weigh", "Weigh"
		case bench.Divide:
			of, words = "divide", "Divide"
		case bench.Pass:
			of, words = "roll", "Roll"
		}
		if of != "" && of == last {
			done[len(done)-1].to = since(over)
			continue
		}
		last = of
		done = append(done, block{since(p.Began), since(over), words, classOf(x.Unattended)})
	}
	return planned, done
}

// classOf is how a stretch is drawn: what lies by itself is paler.
func classOf(unattended bool) string {
	if unattended {
		return "dough-soft"
	}
	return "dough"
}
