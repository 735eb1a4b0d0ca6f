package page

import (
	"context"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// Made is a batch as it was made: paper of it says what came of the plan, not what the same plan would be by now.
type Made struct {
	Making uint64
	When   string // it was begun
	Thrown string // why it was thrown away, "" where it was not
	Plan   *plan.Plan
}

// LastMade is the batch as it was made the last time, by the makings that ended and, of those, counts; nil where there
// is none.
func (s *Site) LastMade(ctx context.Context, in measure.System, batch uint64,
	counts func(*store.Making) bool) (*Made, error) {
	all, err := s.Store.Makings(ctx, batch)
	if err != nil {
		return nil, err
	}
	var last *store.Making
	for i := range all {
		if x := &all[i]; x.Ended != nil && counts(x) && (last == nil || x.Ended.After(*last.Ended)) {
			last = x
		}
	}
	if last == nil {
		return nil, nil
	}
	return s.asMade(ctx, in, last)
}

// asMade makes the plan of a making as it came to be, its keeping by the clock of what happened.
func (s *Site) asMade(ctx context.Context, in measure.System, kept *store.Making) (*Made, error) {
	begun, err := plan.MakeIn(in, kept.Rules.Rules, kept.Request.Request)
	if err != nil {
		return nil, err
	}
	events, _, err := s.Store.Events(ctx, kept.ID, 0)
	if err != nil {
		return nil, err
	}
	run := bench.Run(begun, kept.Began, events)
	away := run.PutAway()
	p := *run.Ahead
	p.Request.MadeOn = kept.Began.Local().Format(time.DateOnly)
	if at := run.KeptAt(); p.Dry.ToKeep != nil && !at.IsZero() {
		d := *p.Dry.ToKeep
		d.KeptAt = at.Local().Format(measure.ClockForm)
		p.Dry.ToKeep = &d
	}
	p.Keep = p.KeepAfter(run.Food.OutMin(away), away.Local().Format(measure.ClockForm))
	m := &Made{Making: kept.ID, When: measure.TimeWords(kept.Began.Local()), Plan: &p}
	if run.State.Thrown {
		m.Thrown = run.State.Why
	}
	return m, nil
}
