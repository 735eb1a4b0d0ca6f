package store_test

import (
	"context"
	"errors"
	"fmt"
	"math"
	"reflect"
	"sync"
	"testing"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

func begun(t *testing.T) (*store.Store, store.Making) {
	t.Helper()
	s, _ := demotest.Store(t, demo.Day)
	ctx := context.Background()
	b, err := s.Get(ctx, demo.Number(demo.Saturday))
	if err != nil {
		t.Fatal(err)
	}
	m := store.Making{Request: store.BegunDocument{Document: b.Request}}
	m.Rules.Rules = rules.Default()
	p, err := m.Plan()
	if err != nil {
		t.Fatal(err)
	}
	if m, err = s.Begin(ctx, b, p, storetest.Now()); err != nil {
		t.Fatal(err)
	}
	return s, m
}

// Many screens append at once, some of it twice: every event is there once, none lies under a place already passed.
func TestEventsOfManyScreens(t *testing.T) {
	s, m := begun(t)
	ctx := context.Background()
	stop := make(chan struct{})
	var follower sync.WaitGroup
	seen := map[string]int{}
	follower.Go(func() {
		place := uint64(0)
		for done := false; ; {
			select {
			case <-stop:
				done = true
			default:
			}
			events, to, err := s.Events(ctx, m.ID, place)
			if err != nil {
				t.Error(err)
				return
			}
			for _, e := range events {
				seen[e.ID]++
			}
			if place = to; done {
				return
			}
		}
	})
	var all sync.WaitGroup
	for screen := range 8 {
		all.Go(func() {
			for i := range 10 {
				e := bench.Event{ID: fmt.Sprintf("s%d-%d", screen, i), At: storetest.Now(),
					Says: bench.Noted{Text: "x"}}
				shared := bench.Event{ID: fmt.Sprintf("both-%d", i), At: storetest.Now(), Says: bench.Noted{Text: "x"}}
				if _, err := s.AddEvents(ctx, m.ID, []bench.Event{e, shared, e}); err != nil {
					t.Error(err)
				}
			}
		})
	}
	all.Wait()
	close(stop)
	follower.Wait()
	if len(seen) != 90 {
		t.Errorf("%d events followed, 90 sent", len(seen))
	}
	for id, n := range seen {
		if n != 1 {
			t.Errorf("%s came %d times", id, n)
		}
	}
	if places, err := s.Places(ctx, []uint64{m.ID, 99}); err != nil || places[m.ID] != 90 || len(places) != 1 {
		t.Errorf("%v, %v", places, err)
	}
}

// A making keeps what it was begun with, whatever becomes of its batch, and stops taking events at its bound.
func TestMakingStays(t *testing.T) {
	s, m := begun(t)
	ctx := context.Background()
	if err := s.Delete(ctx, m.BatchID); err != nil {
		t.Fatal(err)
	}
	got, err := s.Making(ctx, m.ID)
	if err != nil {
		t.Fatal(err)
	}
	p, err := got.Plan()
	if err != nil || p.Request.Name != demo.Saturday || len(got.Steps) == 0 {
		t.Errorf("%v, %v", p, err)
	}
	if _, err := s.Making(ctx, 99); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("no making: %v", err)
	}
	if _, err := s.AddEvents(ctx, 99, []bench.Event{{ID: "a", Says: bench.Noted{}}}); !errors.Is(err,
		store.ErrNotFound) {
		t.Errorf("an event of no making: %v", err)
	}
	many := make([]bench.Event, 5000)
	for round := range 5 {
		for i := range many {
			many[i] = bench.Event{ID: fmt.Sprintf("r%d-%d", round, i), At: storetest.Now(),
				Says: bench.Noted{Text: "x"}}
		}
		if _, err = s.AddEvents(ctx, m.ID, many); err != nil {
			break
		}
	}
	if !errors.Is(err, store.ErrFull) {
		t.Errorf("a flood ends in %v", err)
	}
	if open, err := s.UnderWay(ctx); err != nil || len(open) != 2 {
		t.Errorf("%d under way, %v", len(open), err)
	}
	now := storetest.Now()
	if err := s.SetEnded(ctx, m.ID, &now); err != nil {
		t.Fatal(err)
	}
	if open, _ := s.UnderWay(ctx); len(open) != 1 {
		t.Error("it has ended, and is under way")
	}
	if all, err := s.Makings(ctx, m.BatchID); err != nil || len(all) != 1 || all[0].Ended == nil {
		t.Errorf("%v, %v", all, err)
	}
}

// What lists read of an ended making can be made anew from its events and comes out the same; a making that goes on has
// none.
func TestSummariesAreRemade(t *testing.T) {
	s, _ := demotest.Store(t, demo.Day)
	ctx := context.Background()
	first, err := s.MadeOf(ctx, demo.Number(demo.Chandler))
	if err != nil || len(first) != 1 || first[0].OutG == 0 || first[0].Next == "" {
		t.Fatalf("%+v, %v", first, err)
	}
	if n, err := s.RemakeSummaries(ctx, false); n != 0 || err != nil {
		t.Errorf("%d of this version are made anew, %v", n, err)
	}
	if n, err := s.RemakeSummaries(ctx, true); n != 1 || err != nil {
		t.Errorf("%d made anew, %v", n, err)
	}
	again, err := s.MadeOf(ctx, demo.Number(demo.Chandler))
	if err != nil || !reflect.DeepEqual(first, again) {
		t.Errorf("another one: %+v, %+v, %v", first, again, err)
	}
	if open, err := s.MadeOf(ctx, demo.Number(demo.Service)); err != nil || len(open) != 0 {
		t.Errorf("what goes on has %v, %v", open, err)
	}
}

// The room is kept as means of ten minutes, by each sensor.
func TestRoomMeans(t *testing.T) {
	s, ctx := storetest.Open(t), context.Background()
	from := time.Date(2026, 11, 28, 9, 1, 0, 0, time.UTC)
	for i := range 12 {
		if err := s.HearRoom(ctx, "wall", 20+float64(i%2), .40+.01*float64(i),
			from.Add(time.Duration(i)*time.Minute)); err != nil {
			t.Fatal(err)
		}
	}
	got, err := s.RoomMeans(ctx, from, from.Add(time.Hour))
	if err != nil || len(got) != 2 || got[0].N != 9 || got[1].N != 3 || math.Abs(got[0].RH-.44) > 1e-9 ||
		math.Abs(got[1].TempC-20.0-2./3) > 1e-9 {
		t.Errorf("%+v, %v", got, err)
	}
	if none, err := s.RoomMeans(ctx, from.Add(-time.Hour), from.Add(-20*time.Minute)); err != nil || len(none) != 0 {
		t.Errorf("before it spoke: %v, %v", none, err)
	}
}
