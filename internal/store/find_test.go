package store_test

import (
	"context"
	"slices"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// Batches are found by the beginning of any word of name, shape, flour or machine, by shape and by when they were
// saved, and come in the order asked for, page by page.
func TestFind(t *testing.T) {
	s := storetest.Open(t)
	make := func(name, shape, flour, machine, day string) {
		t.Helper()
		r := request.Default()
		r.Name, r.Cut.Shape, r.Flours[0].Flour, r.Roll.Machine, r.MadeOn = name, shape, flour, machine, day
		if _, err := s.Create(ctx, planned(t, r)); err != nil {
			t.Fatal(err)
		}
	}
	make("Saturday, the big one", "tagliatelle", "soft-00", "hand-crank-10", "2026-11-28")
	make("Lanterns", "ravioli", "semola-fine", "motor-9", "2026-11-30")
	make("Breakfast", "tagliatelle", "wholemeal", "pin-board", "")
	for q, want := range map[store.Query]string{
		{}: "Breakfast Lanterns Saturday", {Sort: store.ByName}: "Breakfast Lanterns Saturday",
		{Sort: store.ByMade}: "Lanterns Saturday Breakfast",
		{Sort: "weight"}:     "Breakfast Lanterns Saturday", {Words: "satur"}: "Saturday",
		{Words: "RAVIOLI"}: "Lanterns",
		{Words: "semola"}:  "Lanterns",
		{Words: "crank"}:   "Saturday", {Words: "pin bread"}: "", {Words: "tagliat whole"}: "Breakfast",
		{Words: "a of"}:           "Breakfast Lanterns Saturday",
		{Words: `"+-*()~<>@ %_'`}: "Breakfast Lanterns Saturday", {Shape: "Tagliatelle",
			Sort: store.ByName}: "Breakfast Saturday", {Shape: "Sand"}: "",
		{Since: storetest.Now().Add(-time.Hour)}: "Breakfast Lanterns Saturday",
		{Since: storetest.Now().Add(time.Hour)}:  "",
	} {
		list, next, err := s.List(ctx, q)
		if err != nil || next != nil {
			t.Fatalf("%+v: %v", q, err)
		}
		var got []string
		for _, b := range list {
			got = append(got, strings.Trim(strings.Fields(b.Row.Name)[0], ","))
		}
		if strings.Join(got, " ") != want {
			t.Errorf("%+v: %q, not %q", q, got, want)
		}
	}
	if shapes, err := s.Shapes(ctx); err != nil || strings.Join(shapes, " ") != "Ravioli Tagliatelle" {
		t.Errorf("%v, %v", shapes, err)
	}
	// Page by page every one comes once, in every order.
	for i := range store.Page + 7 {
		make("Batch "+strings.Repeat("x", i%5), "tagliatelle", "soft-00", "hand-crank-10", []string{"", "2026-11-28",
			"2026-12-01"}[i%3])
	}
	for _, sort := range []store.Sort{store.ByChange, store.ByMade, store.ByName} {
		seen, q := map[uint64]bool{}, store.Query{Sort: sort}
		for pages := 0; pages < 5; pages++ {
			list, next, err := s.List(ctx, q)
			if err != nil {
				t.Fatal(err)
			}
			for _, b := range list {
				if seen[b.ID] {
					t.Errorf("by %q %d comes again", sort, b.ID)
				}
				seen[b.ID] = true
			}
			if next == nil {
				break
			}
			q.From = *next
		}
		if len(seen) != store.Page+10 {
			t.Errorf("by %q %d of %d", sort, len(seen), store.Page+10)
		}
	}
}

// Words the index of words leaves out are looked for all the same.
func TestFindCommonWords(t *testing.T) {
	s, m := begun(t)
	ctx := context.Background()
	for words, want := range map[string]bool{"tagliatelle for": true, "for": true, "tagliatelle with": false,
		"the saturday": false, "for sat": true} {
		list, _, err := s.List(ctx, store.Query{Words: words})
		if err != nil || slices.ContainsFunc(list, func(b store.Batch) bool { return b.ID == m.BatchID }) != want {
			t.Errorf("%q: %d found, %v", words, len(list), err)
		}
	}
}

// Every version of a batch is kept as it was saved.
func TestVersions(t *testing.T) {
	s := storetest.Open(t)
	r := named("One")
	b, err := s.Create(ctx, planned(t, r))
	if err != nil {
		t.Fatal(err)
	}
	r.Amount.Portions = 12
	if b, err = s.Save(ctx, b.ID, 1, planned(t, r)); err != nil || b.Version != 2 {
		t.Fatal(b.Version, err)
	}
	list, err := s.Versions(ctx, b.ID)
	if err != nil || len(list) != 2 || list[0].Version != 2 || list[1].Version != 1 ||
		list[0].SavedAt.Before(list[1].SavedAt) {
		t.Errorf("%+v, %v", list, err)
	}
	if old, err := s.Version(ctx, b.ID, 1); err != nil || old.Version != 1 || old.Request.Amount.Portions != 10 {
		t.Errorf("%+v, %v", old.Request.Amount, err)
	}
	if _, err := s.Version(ctx, b.ID, 3); err != store.ErrNotFound {
		t.Errorf("%v", err)
	}
}
