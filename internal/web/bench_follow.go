package web

import (
	"context"
	"slices"
	"sync"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// follower keeps the makings that are looked at as they stand, and tells screens when one moves. What it
// holds can be read anew at any time: the database alone knows.
type follower struct {
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
func (f *follower) take(ctx context.Context, id uint64) (over func(), err error) {
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
type screen struct{ news chan struct{} }

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

func newFollower(s *store.Store) *follower {
	return &follower{
		store:   s,
		makings: map[uint64]*followed{},
		screens: map[*screen]uint64{},
		turns:   map[uint64]*turn{},
	}
}

// at returns a making as it stands and the place its events have come to.
func (f *follower) at(ctx context.Context, id uint64) (store.Making, bench.Making, uint64, error) {
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

// eventsOf returns the events of a making as they arrived.
func (f *follower) eventsOf(ctx context.Context, id uint64) ([]bench.Event, error) {
	events, _, err := f.store.Events(ctx, id, 0)
	return events, err
}

// watch has a screen told of a making until it leaves.
func (f *follower) watch(id uint64) (sc *screen, leave func()) {
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
func (f *follower) tell(id uint64) {
	f.mu.Lock()
	defer f.mu.Unlock()
	for sc, shows := range f.screens {
		if id == 0 || shows == id {
			select {
			case sc.news <- struct{}{}:
			default: // told already, and has not looked yet
			}
		}
	}
}

// poll looks for what other processes have written, while somebody listens.
func (f *follower) poll() {
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
func (f *follower) others(ctx context.Context) {
	open, err := f.store.UnderWay(ctx)
	if err != nil {
		return
	}
	var also []alsoClock
	for _, m := range open {
		_, run, _, err := f.at(ctx, m.ID)
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

// beside are the clocks of other makings.
func (f *follower) beside(id uint64) (out []alsoClock) {
	f.mu.Lock()
	defer f.mu.Unlock()
	for _, c := range f.also {
		if c.Making != id {
			out = append(out, c)
		}
	}
	return out
}
