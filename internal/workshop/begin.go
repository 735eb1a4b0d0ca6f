package workshop

import (
	"context"
	"errors"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/store"
)

// PressedTwice is within what time a making begun again is the same key pressed twice.
const PressedTwice = 2 * time.Second

// BegunJustNow says whether the same making was begun a moment ago, and which it is.
func (s *Workshop) BegunJustNow(ctx context.Context, batch uint64, p *plan.Plan, now time.Time) (id uint64,
	twice bool) {
	all, err := s.Store.Makings(ctx, batch)
	if err != nil || len(all) == 0 {
		return 0, false
	}
	last := all[0]
	return last.ID, now.Sub(last.Began) < PressedTwice && last.Seq <= 1 && len(request.Changes(last.Request.Request,
		p.Request)) == 0
}

// Since says what has become of the batch since a making was begun; "" where it is as it was.
func (s *Workshop) Since(ctx context.Context, kept *store.Making) string {
	b, err := s.Store.Get(ctx, kept.BatchID)
	switch {
	case errors.Is(err, store.ErrDeleted) || errors.Is(err, store.ErrNotFound):
		return "Its batch has been deleted since; this making keeps what it was begun with."
	case err == nil && b.Version > kept.BatchVersion && len(request.Changes(kept.Request.Request,
		b.Request.Request)) > 0:
		return "The batch has been changed since; this making keeps what it was begun with."
	}
	return ""
}

// BeginPartner begins the second dough of a batch beside it; strips of the smaller are laid on the larger once both are
// rolled.
func (s *Workshop) BeginPartner(ctx context.Context, id uint64, first store.Making, of *plan.Plan,
	now time.Time) error {
	b, err := s.Store.Get(ctx, id)
	if errors.Is(err, store.ErrDeleted) || errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	p, err := plan.MakeIn(of.In(), s.RulesOf(ctx, &b.Request.Request), b.Request.Request)
	if err != nil {
		return err
	}
	second, err := s.Store.Begin(ctx, b, p, now)
	if err != nil {
		return err
	}
	base, on := first, of
	if p.Formula.Dough.MassG > of.Formula.Dough.MassG {
		base, on = second, p
	}
	if on.Pinned() || on.Roped() {
		return nil
	}
	_, err = s.Store.AddEvents(ctx, base.ID, []bench.Event{bench.LayStrips(bench.Steps(on), base.Began)})
	return err
}
