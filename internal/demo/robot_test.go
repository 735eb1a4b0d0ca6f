package demo

import (
	"math"
	"testing"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
)

// A robot makes every batch of the demo at the bench, each step in its minutes: plan and bench agree to 1 % of the
// minutes in all, no step has another's key, and nothing is otherwise at the end.
func TestRobotMakesEveryBatch(t *testing.T) {
	began := time.Date(2026, 11, 28, 6, 0, 0, 0, time.UTC)
	for _, r := range Batches() {
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		steps := bench.Steps(p)
		keys := map[string]bool{}
		now := 0.
		var events []bench.Event
		for _, s := range steps {
			if keys[s.Key] {
				t.Errorf("%s: two steps %s", r.Name, s.Key)
			}
			keys[s.Key] = true
			if s.Head == "" || s.Say == "" || s.On == "" {
				t.Errorf("%s: %s says %q, %q, %q", r.Name, s.Key, s.Head, s.Say, s.On)
			}
			at := func(minutes float64) time.Time { return began.Add(time.Duration(minutes * float64(time.Minute))) }
			if s.WantG > 0 {
				events = append(events, bench.Event{ID: "w" + s.Key, At: at(now), Says: bench.Weighed{Step: s.Key,
					G: s.WantG}})
			}
			now += s.PlanMin
			events = append(events, bench.Event{ID: "d" + s.Key, At: at(now), Says: bench.Done{Step: s.Key}})
		}
		m := bench.Run(p, began, events)
		total := p.SpanMin()
		if math.Abs(now-total) > .01*total {
			t.Errorf("%s: %.1f min at the bench, %.1f by the plan", r.Name, now, total)
		}
		if !m.State.All(m.Steps) || m.Change != "" {
			t.Errorf("%s: ends at step %d of %d: %s", r.Name, m.State.Now, len(m.Steps), m.Change)
		}
	}
}
