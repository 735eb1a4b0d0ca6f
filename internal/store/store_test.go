package store_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"reflect"
	"strings"
	"sync"
	"testing"
	"time"

	"hollen/internal/core/cut"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

func TestMain(m *testing.M) { storetest.Main(m) }

var ctx = context.Background()

func named(name string) request.Request {
	r := request.Default()
	r.Name = name
	return r
}

// planned works a request out, to be kept.
func planned(t testing.TB, r request.Request) *plan.Plan {
	t.Helper()
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

func TestSaveAndConflict(t *testing.T) {
	s := storetest.Open(t)
	b, err := s.Create(ctx, planned(t, named("Señora’s tagliatelle 🍝")))
	if err != nil {
		t.Fatal(err)
	}
	if got, err := s.Get(ctx, b.ID); err != nil || got.Request.Name != "Señora’s tagliatelle 🍝" || got.Version != 1 {
		t.Fatalf("%+v, %v", got, err)
	}
	first := b.Request.Request
	first.Room.RH = .7
	b, err = s.Save(ctx, b.ID, 1, planned(t, first))
	if err != nil || b.Version != 2 {
		t.Fatalf("first save: version %d, %v", b.Version, err)
	}
	// The second window still has version 1.
	second := named("Renamed")
	_, err = s.Save(ctx, b.ID, 1, planned(t, second))
	var c *store.ConflictError
	if !errors.As(err, &c) || c.Current.Version != 2 || c.Base.Room.RH != .45 || c.Current.Request.Room.RH != .7 {
		t.Fatalf("second save: %v %+v", err, c)
	}
	if got, _ := s.Get(ctx, b.ID); got.Version != 2 || got.Request.Name == "Renamed" {
		t.Errorf("a refused save has written: %+v", got)
	}
	// Saving what already stands is no conflict and no new version.
	if b, err = s.Save(ctx, b.ID, 1, planned(t, first)); err != nil || b.Version != 2 {
		t.Errorf("same again: version %d, %v", b.Version, err)
	}
}

// Of many savers at once exactly one wins each version.
func TestConcurrentSaves(t *testing.T) {
	dsn := storetest.DSN(t)
	var stores []*store.Store
	for range 2 { // as two processes would
		s, err := store.Open(ctx, dsn, storetest.Now)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { s.Close() })
		stores = append(stores, s)
	}
	b, err := stores[0].Create(ctx, planned(t, named("Shared")))
	if err != nil {
		t.Fatal(err)
	}
	var wg sync.WaitGroup
	var mu sync.Mutex
	won, lost := 0, 0
	for i := range 12 {
		wg.Go(func() {
			r := named("Shared")
			r.Amount.Portions = float64(20 + i)
			_, err := stores[i%2].Save(ctx, b.ID, 1, planned(t, r))
			mu.Lock()
			defer mu.Unlock()
			var c *store.ConflictError
			switch {
			case err == nil:
				won++
			case errors.As(err, &c):
				lost++
			default:
				t.Error(err)
			}
		})
	}
	wg.Wait()
	if won != 1 || lost != 11 {
		t.Errorf("%d won, %d lost", won, lost)
	}
}

func TestDeleteAndRestore(t *testing.T) {
	s := storetest.Open(t)
	b, _ := s.Create(ctx, planned(t, named("Gone")))
	if err := s.Delete(ctx, b.ID); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Get(ctx, b.ID); !errors.Is(err, store.ErrDeleted) {
		t.Errorf("get: %v", err)
	}
	if _, err := s.Save(ctx, b.ID, 1, planned(t, named("Back"))); !errors.Is(err, store.ErrDeleted) {
		t.Errorf("save: %v", err)
	}
	if err := s.Delete(ctx, b.ID); !errors.Is(err, store.ErrDeleted) {
		t.Errorf("delete again: %v", err)
	}
	if list, _, _ := s.List(ctx, store.Query{}); len(list) != 0 {
		t.Errorf("still listed: %d", len(list))
	}
	if gone, _, _ := s.Deleted(ctx, false); len(gone) != 1 {
		t.Errorf("deleted list: %d", len(gone))
	}
	if err := errors.Join(s.Restore(ctx, b.ID), s.Restore(ctx, b.ID)); err != nil {
		t.Errorf("restore twice: %v", err)
	}
	if got, err := s.Get(ctx, b.ID); err != nil || got.Request.Name != "Gone" {
		t.Errorf("%+v, %v", got, err)
	}
	if err := s.Restore(ctx, 9999); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("restore of none: %v", err)
	}
}

// Two processes that start at once migrate and seed one database once.
func TestOpenAndSeedTogether(t *testing.T) {
	dsn := storetest.DSN(t)
	var wg sync.WaitGroup
	var mu sync.Mutex
	seeded := 0
	for range 4 {
		wg.Go(func() {
			s, err := store.Open(ctx, dsn, storetest.Now)
			if err != nil {
				t.Error(err)
				return
			}
			defer s.Close()
			did, err := s.Seed(ctx, demo.Scenario(rules.Default(), demo.Day))
			if err != nil {
				t.Error(err)
			}
			mu.Lock()
			defer mu.Unlock()
			if did {
				seeded++
			}
		})
	}
	wg.Wait()
	s, err := store.Open(ctx, dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	list, next, err := s.List(ctx, store.Query{})
	if err != nil || seeded != 1 || len(list) != len(demo.Scenario(rules.Default(), demo.Day).Batches) || next != nil {
		t.Errorf("seeded %d times, %d batches, %v", seeded, len(list), err)
	}
	if name, _ := s.Workshop(ctx); !strings.HasPrefix(name, "Bottega Marram") {
		t.Errorf("workshop %q", name)
	}
	for _, b := range list {
		whole, err := s.Get(ctx, b.ID)
		if err != nil {
			t.Fatal(err)
		}
		if p := planned(t, whole.Request.Request); !reflect.DeepEqual(p.Summary(), b.Row.Summary) {
			t.Errorf("%s: the row holds %+v", whole.Request.Name, b.Row)
		}
	}
}

// Page by page every batch comes once, the one saved last first, whatever is saved meanwhile.
func TestListByPages(t *testing.T) {
	s := storetest.Open(t)
	const n = 2*store.Page + 3
	for i := range n {
		if _, err := s.Create(ctx, planned(t, named(fmt.Sprint("Batch ", i)))); err != nil {
			t.Fatal(err)
		}
	}
	seen, pages, last := map[uint64]bool{}, 0, store.Mark{}
	for from := (&store.Mark{}); from != nil; pages++ {
		list, next, err := s.List(ctx, store.Query{From: *from})
		if err != nil {
			t.Fatal(err)
		}
		for _, b := range list {
			if seen[b.ID] || last.ID != 0 && (b.UpdatedAt.After(last.At) || b.UpdatedAt.Equal(last.At) &&
				b.ID > last.ID) {
				t.Errorf("%d comes again, or out of order", b.ID)
			}
			seen[b.ID], last = true, store.Mark{At: b.UpdatedAt, ID: b.ID}
		}
		from = next
		if _, err := s.Create(ctx, planned(t, named("Saved meanwhile"))); err != nil {
			t.Fatal(err)
		}
	}
	if len(seen) != n || pages != 3 {
		t.Errorf("%d of %d on %d pages", len(seen), n, pages)
	}
}

func TestOpenSaysWhatIsWrong(t *testing.T) {
	for dsn, want := range map[string]string{
		"nonsense": "expected user:password@tcp", "u:p@tcp(127.0.0.1:1)/": "names no database",
		"u:p@tcp(127.0.0.1:1)/x": "does not answer",
	} {
		if _, err := store.Open(ctx, dsn, storetest.Now); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", dsn, err)
		}
	}
}

// Together does all or nothing.
func TestTogether(t *testing.T) {
	s := storetest.Open(t)
	shape, _ := cut.Find("pappardelle")
	fail := errors.New("the second does not go")
	err := s.Atomically(ctx, func(tx *store.Store) error {
		if _, err := tx.Keep(ctx, store.ShapeKind, 0, 0, shape); err != nil {
			return err
		}
		if _, err := tx.Create(ctx, planned(t, named("Half done"))); err != nil {
			return err
		}
		return fail
	})
	if !errors.Is(err, fail) {
		t.Errorf("%v", err)
	}
	things, _ := s.Things(ctx, true)
	if list, _, _ := s.List(ctx, store.Query{}); len(things) != 0 || len(list) != 0 {
		t.Errorf("%d things and %d batches of what failed", len(things), len(list))
	}
	err = s.Atomically(ctx, func(tx *store.Store) error {
		id, err := tx.Keep(ctx, store.ShapeKind, 0, 0, shape)
		if err != nil {
			return err
		}
		return tx.Retire(ctx, store.ShapeKind, id, true)
	})
	if things, _ = s.Things(ctx, true); err != nil || len(things) != 1 || !things[0].Retired {
		t.Errorf("%v, %+v", err, things)
	}
}

// Everything the cabinet holds comes back as it was kept, under its own key.
func TestEveryKindComesBack(t *testing.T) {
	s := storetest.Open(t)
	for _, x := range demo.Scenario(rules.Default(), demo.Day).Things {
		id, err := s.Keep(ctx, x.Kind, 0, 0, store.Keyed(x.Value, "own-999"))
		if err != nil {
			t.Fatal(err)
		}
		got, err := s.Thing(ctx, x.Kind, id)
		if err != nil || !reflect.DeepEqual(got.Value, store.Keyed(x.Value, store.Key(id))) {
			t.Errorf("%v: %+v is not %+v", err, got.Value, x.Value)
		}
		kind, key, name := store.Describe(got.Value)
		if kind != x.Kind || name == "" || kind != store.YieldKind && key != store.Key(id) {
			t.Errorf("%s %q %q", kind, key, name)
		}
	}
	if kind, _, _ := store.Describe(7); kind != "" || store.Keyed(7, "own-1") != 7 {
		t.Error("a number is a thing of the cabinet")
	}
}

// Among 100,000 batches: the first page of the list, one far down, and what goes by the partner.
func BenchmarkManyBatches(b *testing.B) {
	dsn := storetest.DSN(b)
	s, err := store.Open(ctx, dsn, storetest.Now)
	if err != nil {
		b.Fatal(err)
	}
	defer s.Close()
	first, err := s.Create(ctx, planned(b, named("One of many")))
	if err != nil {
		b.Fatal(err)
	}
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		b.Fatal(err)
	}
	defer db.Close()
	many := func(seq string) {
		if _, err := db.Exec("INSERT INTO batches (version, request, `row`, created_at, updated_at) SELECT 1, "+
			"request, `row`, created_at, "+
			"updated_at - INTERVAL seq SECOND FROM batches, "+seq+" WHERE id = ?", first.ID); err != nil {
			b.Fatal(err)
		}
	}
	many("seq_1_to_100")
	b.Run("first page of 100", func(b *testing.B) {
		for b.Loop() {
			if list, _, err := s.List(ctx, store.Query{}); err != nil || len(list) != store.Page {
				b.Fatal(len(list), err)
			}
		}
	})
	many("seq_101_to_100000")
	for name, q := range map[string]store.Query{"by name": {Sort: store.ByName}, "by day": {Sort: store.ByMade},
		"this week": {Since: first.UpdatedAt.Add(-time.Hour)},
		"one shape": {Shape: "Tagliatelle"}, "words": {Words: "one many taglia"}} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if list, _, err := s.List(ctx, q); err != nil || len(list) != store.Page {
					b.Fatal(len(list), err)
				}
			}
		})
	}
	deep := store.Mark{At: first.UpdatedAt.Add(-80000 * time.Second), ID: 1 << 62}
	for name, from := range map[string]store.Mark{"first page": {}, "page 1,600": deep} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if list, _, err := s.List(ctx, store.Query{From: from}); err != nil || len(list) != store.Page {
					b.Fatal(len(list), err)
				}
			}
		})
	}
	b.Run("partner", func(b *testing.B) {
		for b.Loop() {
			if err := s.Part(ctx, first.ID); err != nil {
				b.Fatal(err)
			}
		}
	})
}
