package workshop

import (
	"context"
	"slices"
	"sync"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// Follower keeps the makings that are looked at as they stand, and tells screens when one moves. What it
// holds can be read anew at any time: the database alone knows.
type Follower struct {
	store *store.Store

	mu      sync.Mutex
	makings map[uint64]*followed
	screens map[*screen]uint64 // and the making each shows
	also    []alsoClock        // what runs in all makings under way
	running bool
	turns   map[uint64]*turn // of those who write to a making
}

// turn is whose turn it is to write to one making.
type turn struct {
	free    chan struct{} // holds one thing while nobody writes
	waiting int           // who holds or waits for it
}

// take waits until nobody else of this process writes to a making, no longer than ctx; over lets the next one. Rows
// locked by many at once make the
// database give up on some of them.
func (f *Follower) take(ctx context.Context, id uint64) (over func(), err error) {
	f.mu.Lock()
	t := f.turns[id]
	if t == nil {
		t = &turn{free: make(chan struct{}, 1)}
		t.free <- struct{}{}
		f.turns[id] = t
	}
	t.waiting++
	f.mu.Unlock()
	gone := func() {
		f.mu.Lock()
		defer f.mu.Unlock()
		if t.waiting--; t.waiting == 0 {
			delete(f.turns, id)
		}
	}
	select {
	case <-t.free:
		return func() { t.free <- struct{}{}; gone() }, nil
	case <-ctx.Done():
		gone()
		return nil, ctx.Err()
	}
}

// followed is a making as far as its events have been read.
type followed struct {
	mu     sync.Mutex
	kept   store.Making
	plan   *plan.Plan
	events []bench.Event
	place  uint64
	run    bench.Making
}

// screen is one window that shows a making; news is written to when it moves.
type screen struct{ News chan struct{} }

// alsoClock is a clock of a making, as it is seen from another.
type alsoClock struct {
	Making uint64
	Name   string // of the batch
	Clock  bench.Clock
}

const (
	benchPoll    = 500 * time.Millisecond // how often other processes' events are looked for
	mostFollowed = 200                    // makings held at once
)

func newFollower(s *store.Store) *Follower {
	return &Follower{
		store:   s,
		makings: map[uint64]*followed{},
		screens: map[*screen]uint64{},
		turns:   map[uint64]*turn{},
	}
}

// At returns a making as it stands and the place its events have come to.
func (f *Follower) At(ctx context.Context, id uint64) (store.Making, bench.Making, uint64, error) {
	f.mu.Lock()
	m := f.makings[id]
	f.mu.Unlock()
	if m == nil {
		kept, err := f.store.Making(ctx, id)
		if err != nil {
			return kept, bench.Making{}, 0, err
		}
		p, err := kept.Plan()
		if err != nil {
			return kept, bench.Making{}, 0, err
		}
		m = &followed{kept: kept, plan: p, run: bench.Run(p, kept.Began, nil)}
		f.mu.Lock()
		if len(f.makings) >= mostFollowed {
			clear(f.makings)
		}
		f.makings[id] = m
		f.mu.Unlock()
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	events, place, err := f.store.Events(ctx, id, m.place)
	if err != nil {
		return m.kept, bench.Making{}, 0, err
	}
	if len(events) > 0 {
		m.events, m.place = append(slices.Clip(m.events), events...), place
		m.run = bench.Run(m.plan, m.kept.Began, m.events)
	}
	return m.kept, m.run, m.place, nil
}

// EventsOf returns the events of a making as they arrived.
func (f *Follower) EventsOf(ctx context.Context, id uint64) ([]bench.Event, error) {
	events, _, err := f.store.Events(ctx, id, 0)
	return events, err
}

// Watch has a screen told of a making until it leaves.
func (f *Follower) Watch(id uint64) (sc *screen, leave func()) {
	sc = &screen{make(chan struct{}, 1)}
	f.mu.Lock()
	defer f.mu.Unlock()
	f.screens[sc] = id
	if !f.running {
		f.running = true
		go f.poll()
	}
	return sc, func() {
		f.mu.Lock()
		defer f.mu.Unlock()
		delete(f.screens, sc)
	}
}

// tell has every screen of a making look again; of all where id is 0.
func (f *Follower) tell(id uint64) {
	f.mu.Lock()
	defer f.mu.Unlock()
	for sc, shows := range f.screens {
		if id == 0 || shows == id {
			select {
			case sc.News <- struct{}{}:
			default: // told already, and has not looked yet
			}
		}
	}
}

// poll looks for what other processes have written, while somebody listens.
func (f *Follower) poll() {
	known := map[uint64]uint64{}
	for {
		f.mu.Lock()
		if len(f.screens) == 0 {
			f.running = false
			f.mu.Unlock()
			return
		}
		var shown []uint64
		for _, id := range f.screens {
			if !slices.Contains(shown, id) {
				shown = append(shown, id)
			}
		}
		f.mu.Unlock()
		ctx, cancel := context.WithTimeout(context.Background(), 5*time.Second)
		if places, err := f.store.Places(ctx, shown); err == nil {
			for id, place := range places {
				if was, seen := known[id]; seen && was != place {
					f.tell(id)
				}
				known[id] = place
			}
		}
		f.others(ctx)
		cancel()
		time.Sleep(benchPoll)
	}
}

// others brings the clocks of all makings under way up to date, and tells every screen when there are other ones.
func (f *Follower) others(ctx context.Context) {
	open, err := f.store.UnderWay(ctx)
	if err != nil {
		return
	}
	var also []alsoClock
	for _, m := range open {
		_, run, _, err := f.At(ctx, m.ID)
		if err != nil {
			continue
		}
		for _, c := range run.State.Clocks {
			also = append(also, alsoClock{m.ID, m.Request.Name, c})
		}
	}
	f.mu.Lock()
	same := slices.Equal(f.also, also)
	f.also = also
	f.mu.Unlock()
	if !same {
		f.tell(0)
	}
}

// OtherClocks are the clocks of other makings.
func (f *Follower) OtherClocks(id uint64) (out []alsoClock) {
	f.mu.Lock()
	defer f.mu.Unlock()
	for _, c := range f.also {
		if c.Making != id {
			out = append(out, c)
		}
	}
	return out
}

// ended notes that a making has ended, or goes on.
func (f *Follower) ended(id uint64, at *time.Time) {
	f.mu.Lock()
	m := f.makings[id]
	f.mu.Unlock()
	if m != nil {
		m.mu.Lock()
		m.kept.Ended = at
		m.mu.Unlock()
	}
}

// KeepEvents keeps events of a making, one writer at a time, and whether it has ended by them.
func (s *Workshop) KeepEvents(ctx context.Context, id uint64, events []bench.Event) error {
	over, err := s.Makings.take(ctx, id)
	if err != nil {
		return err
	}
	defer over()
	if _, err := s.Store.AddEvents(ctx, id, events); err != nil {
		return err
	}
	if err := s.settleEnd(ctx, id); err != nil {
		return err
	}
	if slices.ContainsFunc(events, weighsSack) {
		if err := s.noteSacks(ctx, id); err != nil {
			s.Log.Warn("sack", "making", id, "err", err) // the making has it; its lot has it with the next one
		}
	}
	return nil
}

// settleEnd keeps whether a making has ended, and has its screens look again.
func (s *Workshop) settleEnd(ctx context.Context, id uint64) error {
	kept, run, _, err := s.Makings.At(ctx, id)
	if err != nil {
		return err
	}
	ended := run.State.Ended
	if run.State.Damaged > 0 && ended.IsZero() &&
		kept.Ended != nil { // it has ended, and what said so may be what cannot be read
		s.Makings.tell(id)
		return nil
	}
	if ended.IsZero() != (kept.Ended == nil) {
		var at *time.Time
		if !ended.IsZero() {
			at = &ended
		}
		if err := s.Store.SetEnded(ctx, id, at); err != nil {
			return err
		}
		s.Makings.ended(id, at)
	}
	if !ended.IsZero() || kept.Ended != nil { // what is said of it later counts, too
		events, err := s.Makings.EventsOf(ctx, id)
		if err == nil {
			err = s.Store.KeepSummary(ctx, kept, &run, events)
			s.LogChanged()
		}
		if err != nil {
			return err
		}
	}
	s.Makings.tell(id)
	return nil
}
