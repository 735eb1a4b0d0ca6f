package print

import (
	"context"
	"strconv"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// madePaper is a batch as it was made: paper of it says what came of the plan, not what the same plan would be by now.
type madePaper struct {
	Making uint64
	When   string // it was begun
	Thrown string // why it was thrown away, "" where it was not
	plan   *plan.Plan
}

// paperMade is the making the paper of a batch is of: the last that ended of the batch as it stands, unless the plan is
// asked for; nil where
// there is none, or the form says something else than what was made.
func (s *Room) paperMade(c *page.Visit, b *page.BatchForm) (*madePaper, error) {
	ctx := c.Request.Context()
	want := c.DefaultQuery("made", c.PostForm("made"))
	if want == asPlanned {
		return nil, nil
	}
	all, err := s.Store.Makings(ctx, b.Batch.ID)
	if err != nil {
		return nil, err
	}
	id, _ := strconv.ParseUint(want, 10, 64)
	var last *store.Making
	for i := range all {
		x := &all[i]
		if x.Ended == nil || id != 0 && x.ID != id || last != nil && !x.Ended.After(*last.Ended) {
			continue
		}
		if id != 0 ||
			x.BatchVersion == b.Batch.Version && len(request.Changes(b.Batch.Request.Request, b.Request)) == 0 {
			last = x
		}
	}
	if last == nil {
		return nil, nil
	}
	return s.madePaperOf(ctx, c.Units, last)
}

// asPlanned asks for the paper of the plan, whatever was made.
const asPlanned = "planned"

// madePaperOf makes the plan of a making as it came to be, its keeping by the clock of what happened.
func (s *Room) madePaperOf(ctx context.Context, in measure.System, kept *store.Making) (*madePaper, error) {
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
	m := &madePaper{Making: kept.ID, When: measure.TimeWords(kept.Began.Local()), plan: &p}
	if run.State.Thrown {
		m.Thrown = run.State.Why
	}
	return m, nil
}
