package demo

import (
	"fmt"
	"math"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// makings are what was made at the bench of the workshop by now: the linguine yesterday, from end to end, and a dough
// for tonight's service that lies in its rest.
func makings(now time.Time, plans []*plan.Plan) []store.SeedMaking {
	of := func(name string) (int, *plan.Plan) {
		n := int(Number(name)) - 1
		return n, plans[n]
	}
	linguine, p := of(Chandler)
	began := now.Add(-26 * time.Hour)
	events, end := madeUpTo(p, began, "", "Linde")
	events = append(events, bench.Event{ID: "demo-note", By: "Linde", At: end.Add(-8 * time.Minute),
		Says: bench.Noted{Text: "The fifth piece tore at the edge: dusted, and on."}},
		bench.Event{ID: "demo-felt", At: end, Says: bench.Felt{Word: -1}},
		bench.Event{ID: "demo-end", At: end.Add(time.Second), Says: bench.Ended{G: math.Round(
			.97 * p.Formula.Dough.MassG), Text: "A little more water, and roll it a stop finer."}})
	out := []store.SeedMaking{{Batch: linguine, Plan: p, Began: began, Events: events}}
	service, p := of(Service)
	_, until := madeUpTo(p, now, "rest.1", "Osk")
	began = now.Add(-until.Sub(now) - 8*time.Minute)
	events, _ = madeUpTo(p, began, "rest.1", "Osk")
	return append(out, store.SeedMaking{Batch: service, Plan: p, Began: began, Events: events})
}

// madeUpTo are the events of a making gone through up to a step, each step in about its minutes, and when that ends.
func madeUpTo(p *plan.Plan, began time.Time, until, by string) (out []bench.Event, end time.Time) {
	end = began
	for i, s := range bench.Steps(p) {
		if s.Key == until {
			break
		}
		minutes := s.PlanMin * (1 + .06*math.Sin(float64(i))) // no hand keeps the minute
		switch s.Kind {
		case bench.SetOut:
			minutes = 3
		case bench.Weigh:
			minutes = .6
			out = append(out, bench.Event{ID: fmt.Sprintf("demo-w%d", i), By: by, At: end.Add(30 * time.Second),
				Says: bench.Weighed{Step: s.Key, G: s.WantG}})
		case bench.Divide:
			minutes = .3
		}
		end = end.Add(time.Duration(minutes * float64(time.Minute)))
		out = append(out, bench.Event{ID: fmt.Sprintf("demo-d%d", i), By: by, At: end, Says: bench.Done{Step: s.Key}})
	}
	return out, end
}
