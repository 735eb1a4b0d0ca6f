package store_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"testing"

	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// openedAt is the store of a database as one process has it.
func openedAt(t *testing.T, dsn string) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

// The cabinet is read once and then kept, until anything of it is kept anew, retired or brought back, by this process
// or
// by another; what a caller does to its lists is its own.
func TestCabinetIsReadOnce(t *testing.T) {
	ctx, dsn := context.Background(), storetest.DSN(t)
	here, there := openedAt(t, dsn), openedAt(t, dsn)
	names := func(s *store.Store) (out []string) {
		t.Helper()
		cab, err := s.Cabinet(ctx)
		if err != nil {
			t.Fatal(err)
		}
		for i := range cab.Flours {
			out = append(out, cab.Flours[i].Name)
			cab.Flours[i].Name = "scribbled over"
		}
		return out
	}
	holds := func(when string, want ...string) {
		t.Helper()
		for who, s := range map[string]*store.Store{"here": here, "there": there} {
			if got := names(s); fmt.Sprint(got) != fmt.Sprint(want) {
				t.Errorf("%s, %s: %q, want %q", when, who, got, want)
			}
		}
	}
	keep := func(s *store.Store, id uint64, version int, name string) uint64 {
		t.Helper()
		id, err := s.Keep(ctx, store.FlourKind, id, version, flour.Flour{Name: name})
		if err != nil {
			t.Fatal(err)
		}
		return id
	}
	holds("empty")
	id := keep(here, 0, 0, "Mill")
	holds("one kept", "Mill")
	keep(there, id, 1, "Mill 00")
	holds("kept anew by the other", "Mill 00")
	second := keep(there, 0, 0, "Strong")
	holds("another", "Mill 00", "Strong")
	for _, retire := range []bool{true, false} {
		if err := there.Retire(ctx, store.FlourKind, second, retire); err != nil {
			t.Fatal(err)
		}
		if retire {
			holds("retired", "Mill 00")
		}
	}
	holds("brought back", "Mill 00", "Strong")

	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	run := func(q string, args ...any) {
		t.Helper()
		if _, err := db.Exec(q, args...); err != nil {
			t.Fatal(err)
		}
	}
	run("UPDATE cabinet SET figures = JSON_SET(figures, '$.name', 'Behind its back') WHERE id = ?", id)
	holds("nothing says it has changed, so it is not read", "Mill 00", "Strong")
	run("UPDATE cabinet SET version = version + 1 WHERE id = ?", id)
	holds("now it does", "Behind its back", "Strong")
}

// With a batch comes the stamp of the cabinet: another process's change is seen by it, and what is unchanged is not
// asked for again.
func TestStampComesWithTheBatch(t *testing.T) {
	ctx, dsn := context.Background(), storetest.DSN(t)
	here, there := openedAt(t, dsn), openedAt(t, dsn)
	p, err := plan.Make(rules.Default(), request.Default())
	if err != nil {
		t.Fatal(err)
	}
	b, err := here.Create(ctx, p)
	if err != nil {
		t.Fatal(err)
	}
	read := func() store.CabinetStamp {
		t.Helper()
		got, stamp, err := here.GetStamped(ctx, b.ID)
		if err != nil || got.ID != b.ID || got.Version != 1 || len(request.Changes(got.Request.Request,
			p.Request)) > 0 {
			t.Fatalf("%+v, %v", got, err)
		}
		return stamp
	}
	flours := func(ctx context.Context, stamp store.CabinetStamp) int {
		t.Helper()
		cab, err := here.CabinetAt(ctx, stamp)
		if err != nil {
			t.Fatal(err)
		}
		return len(cab.Flours)
	}
	if n := flours(ctx, read()); n != 0 {
		t.Errorf("%d flours", n)
	}
	if _, err := there.Keep(ctx, store.FlourKind, 0, 0, flour.Flour{Name: "Mill"}); err != nil {
		t.Fatal(err)
	}
	stamp := read()
	if n := flours(ctx, stamp); n != 1 {
		t.Errorf("%d flours, another process has kept one", n)
	}
	gone, end := context.WithCancel(ctx)
	end() // no question can be asked any more, and none has to be
	if n := flours(gone, stamp); n != 1 {
		t.Errorf("%d flours of a cabinet that is kept", n)
	}
	if _, _, err := here.GetStamped(ctx, 99); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("no such batch: %v", err)
	}
	if err := here.Delete(ctx, b.ID); err != nil {
		t.Fatal(err)
	}
	if got, _, err := here.GetStamped(ctx, b.ID); !errors.Is(err, store.ErrDeleted) || got.ID != b.ID {
		t.Errorf("deleted: %+v, %v", got.ID, err)
	}
}

// Pages of a large cabinet ask whether it has changed and read nothing.
func BenchmarkCabinet(b *testing.B) {
	ctx := context.Background()
	s := storetest.Open(b)
	for i := range 500 {
		if _, err := s.Keep(ctx, store.FlourKind, 0, 0, flour.Flour{Name: fmt.Sprint("Flour ", i)}); err != nil {
			b.Fatal(err)
		}
	}
	b.Run("kept", func(b *testing.B) {
		for b.Loop() {
			if _, err := s.Cabinet(ctx); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("read", func(b *testing.B) {
		for b.Loop() {
			if _, err := s.Things(ctx, false); err != nil {
				b.Fatal(err)
			}
		}
	})
}
