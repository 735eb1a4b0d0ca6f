package bench

import (
	"math"
	"strings"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
)

// timed are the steps that make the way of kneading and resting, in order; those of one's own up to the roller among
// them.
func timed(steps []Step) (out []Step) {
	for _, s := range steps {
		if s.Kind == Pass {
			break
		}
		switch kind, _, _ := strings.Cut(s.Key, "."); kind {
		case "mix", "knead", "rest", "own", "lots":
			out = append(out, s)
		}
	}
	return out
}

// spent puts how long mixing, kneading and resting took in place of what was planned, and what was put in between;
// false where it is the same. What is planned to be rolled at a time goes on being rolled then, where the dough is
// ready.
func (m *Making) spent(r *request.Request) bool {
	way, ru := m.Begun.OwnSteps(), m.Begun.Rules().Bench
	var planned []Step
	for _, s := range timed(m.Steps) {
		if !s.Own && !strings.HasPrefix(s.Key, "lots.") {
			planned = append(planned, s)
		}
	}
	if len(way) != len(planned) {
		return false
	}
	off := false
	var out []request.KneadStep
	for _, s := range timed(m.Steps) {
		x := m.State.Steps[s.Key]
		closed := x.Status == WasDone || x.Status == LeftOut
		took := x.counts()
		if x.Status == LeftOut {
			took = 0
		}
		if s.Own {
			if o, ok := ownKneading(&s, took, closed); ok {
				out, off = append(out, o), true
			}
			continue
		}
		if strings.HasPrefix(s.Key, "lots.") { // longer than planned, what is done rests on
			if more := took - s.PlanMin; closed && more > math.Max(ru.OtherwiseMin, ru.Otherwise*s.PlanMin) {
				out, off = append(out, request.KneadStep{Do: request.DoPause, Min: tenthMin(more)}), true
			}
			continue
		}
		o := way[0]
		way = way[1:]
		if closed && math.Abs(took-s.PlanMin) > math.Max(ru.OtherwiseMin, ru.Otherwise*s.PlanMin) {
			o.Min, off = tenthMin(took), true
		}
		if o.Min < leastMin && len(out) > 0 {
			continue // left out, or as good as
		}
		o.Min = max(o.Min, leastMin)
		out = append(out, o)
	}
	if wait := m.waited(); wait > ru.WaitedMin && len(out) > 0 {
		last := &out[len(out)-1]
		if last.Do != request.DoRest && last.Do != request.DoFridge && last.Do != request.DoTemper {
			out = append(out, request.KneadStep{Do: request.DoRest})
			last = &out[len(out)-1]
		}
		last.Min, off = min(tenthMin(last.Min+wait), request.MostStepMin), true
	}
	if !off || len(out) > request.MaxSteps {
		return false
	}
	r.Knead.By = request.KneadOwn
	r.Knead.Steps = out
	r.Clock = request.Clock{}
	return true
}

// leastMin is the shortest step a way has, min.
const leastMin = .05

func tenthMin(v float64) float64 { return math.Round(10*v) / 10 }

// ownKneading is what a step of the maker's own is to the dough; false where it is nothing to it, or left out.
func ownKneading(s *Step, took float64, closed bool) (request.KneadStep, bool) {
	o := request.KneadStep{Do: request.DoHand, Min: s.Min}
	switch {
	case s.Cold:
		o.Do = request.DoFridge
	case s.Kind == Wait:
		o.Do = request.DoRest
	case s.Station != request.AtKnead:
		return o, false
	}
	if closed {
		o.Min = tenthMin(took)
	}
	return o, o.Min > 0
}

// waited is how much longer than planned it took from the end of the rest until the first piece was through, min.
func (m *Making) waited() float64 {
	var rested time.Time
	planned := 0.
	for _, s := range m.Steps {
		x := m.State.Steps[s.Key]
		switch {
		case s.Kind == Divide || s.Kind == Pass:
			if x.Status != WasDone || rested.IsZero() {
				return 0
			}
			planned += math.Max(s.PlanMin, .5)
			if s.Kind == Pass {
				return x.Over.Sub(rested).Minutes() - x.PausedS/60 - planned
			}
		case s.Station == request.AtRest || s.Station == request.AtKnead:
			rested, planned = x.Over, 0
		}
	}
	return 0
}

// rested gives the rest that is to come the minutes the dough wants by now, and as many as are left until the time it
// was
// planned to be rolled at, where one was.
func (m *Making) rested(p *plan.Plan) *plan.Plan {
	steps := timed(m.Steps)
	last := len(steps) - 1
	clocked := m.Begun.Clock != nil
	if last < 0 || steps[last].Kind != Wait || p.Rest.ReadyAtMin < 0 || !clocked && (m.Begun.Rest.Asked ||
		m.Begun.Request.Knead.Own()) {
		return p // what its maker asked for stays
	}
	if x := m.State.Steps[steps[last].Key]; x.Status == WasDone || x.Status == LeftOut {
		return p
	}
	way := p.OwnSteps()
	if len(way) == 0 {
		return p
	}
	before := 0.
	for _, s := range way[:len(way)-1] {
		before += s.Min
	}
	minutes := p.Rest.ReadyAtMin - before
	if clocked {
		minutes = max(minutes, steps[last].PlanMin-m.late()-m.overrun(&steps[last]))
	}
	way[len(way)-1].Min = math.Ceil(math.Max(0, minutes))
	r := p.Request
	r.Knead.By = request.KneadOwn
	r.Knead.Steps = way
	r.Clock = request.Clock{}
	if again, err := plan.MakeIn(p.In(), p.Rules(), r); err == nil {
		return again
	}
	return p
}

// overrun is by how much what was done from mixing up to a step took longer than planned, min.
func (m *Making) overrun(until *Step) (minutes float64) {
	for _, s := range m.Steps {
		if s.Key == until.Key {
			break
		}
		x := m.State.Steps[s.Key]
		if (s.Station == request.AtKnead || s.Station == request.AtRest) && x.Status == WasDone {
			minutes += x.Took() - s.PlanMin
		}
	}
	return minutes
}

// late is how many minutes after the moment it was planned for mixing began, where a time to roll was wished for;
// nought otherwise.
func (m *Making) late() float64 {
	if m.Begun.Clock == nil {
		return 0
	}
	start, err := measure.At(m.Begun.Clock.StartAt)
	if err != nil {
		return 0
	}
	for _, s := range m.Steps {
		if x := m.State.Steps[s.Key]; strings.HasPrefix(s.Key, "mix.") && !x.Began.IsZero() {
			began := x.Began.Local()
			wall := time.Date(began.Year(), began.Month(), began.Day(), began.Hour(), began.Minute(), began.Second(), 0,
				time.UTC)
			if off := wall.Sub(start).Minutes(); math.Abs(off) < MostLateMin {
				return off
			}
		}
	}
	return 0
}

// MostLateMin is how far from the planned day a making may be begun and still keep to its time to roll, min.
const MostLateMin = 12 * 60
