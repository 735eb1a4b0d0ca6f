package store_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"reflect"
	"testing"
	"time"

	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// logged is a store with the demo's three months of makings.
func logged(t *testing.T) *store.Store {
	t.Helper()
	return demotest.Logged(t)
}

// What is learned is kept with what it stands on; weighed anew from nothing, the events of the makings first, it is the
// same to the last
// digit. A change of the log has it weighed again.
func TestLearnedIsKept(t *testing.T) {
	s, ctx, ru := logged(t), context.Background(), rules.Default().Learn
	if _, was, _, err := s.Refit(ctx, ru); err != nil || was {
		t.Fatalf("something is kept before anything was learned: %v, %v", was, err)
	}
	first, _, stamp, err := s.Learned(ctx, ru)
	if err != nil || first.Len() < 100 {
		t.Fatalf("%d count, %v", first.Len(), err)
	}
	r := demo.Scenario(rules.Default(), demo.Day).Batches[0]
	says := func(l interface{ Len() int }) string { return fmt.Sprintf("%+v", l) }
	again, _, at, err := s.Learned(ctx, ru)
	if err != nil || at != stamp || !reflect.DeepEqual(first.Residues(), again.Residues()) || says(first) == "" {
		t.Errorf("read again it is another: %v, stamps %d and %d", err, stamp, at)
	}
	_ = r
	n, was, same, err := s.Refit(ctx, ru)
	if err != nil || !was || !same || n != first.Len() {
		t.Errorf("weighed anew %d, kept %v, the same %v, %v", n, was, same, err)
	}
	if err := s.ChangeLogSettings(ctx, func(l *store.LogSettings) {
		l.Left = append(l.Left,
			first.Residues()[0].Making)
	}); err != nil {
		t.Fatal(err)
	}
	if l, set, _, err := s.Learned(ctx, ru); err != nil || l.Len() != first.Len()-1 || len(set.Left) != 1 {
		t.Errorf("one left out, %d count, %v", l.Len(), err)
	}
	other := ru
	other.MostPoints = 3
	if l, _, _, err := s.Learned(ctx, other); err != nil || l.Len() != first.Len()-1 {
		t.Errorf("by other rules: %v", err)
	}
}

// The ledger by week, month and shape is the sum of its makings, whatever days it goes from and to, and made anew it is
// the same.
func TestLedgerAddsUp(t *testing.T) {
	s, ctx, rng := logged(t), context.Background(), rand.New(rand.NewPCG(15, 4))
	all, err := s.NewestMade(ctx, 1000)
	if err != nil {
		t.Fatal(err)
	}
	by := map[store.LedgerBy]func(m *store.Made, day time.Time) string{
		store.ByWeek: func(_ *store.Made, d time.Time) string {
			return d.AddDate(0, 0, -(int(d.Weekday())+6)%7).Format(time.DateOnly)
		},
		store.ByMonth: func(_ *store.Made, d time.Time) string {
			return d.AddDate(0, 0,
				1-d.Day()).Format(time.DateOnly)
		},
		store.ByShape: func(m *store.Made, _ time.Time) string { return m.Shape }}
	last, _ := time.Parse(time.DateOnly, demo.Day.Format(time.DateOnly))
	check := func() {
		for range 60 {
			from := last.AddDate(0, 0, -rng.IntN(110))
			to := from.AddDate(0, 0, rng.IntN(100))
			for k, of := range by {
				want := map[string]store.LedgerLine{}
				for i := range all {
					m := &all[i]
					day, _ := time.Parse(time.DateOnly, m.Began.Local().Format(time.DateOnly))
					if day.Before(from) || day.After(to) {
						continue
					}
					l := want[of(m, day)]
					if l.N++; m.OutG > 0 {
						l.Weighed, l.InG, l.OutG, l.TrimG = l.Weighed+1, l.InG+m.InG, l.OutG+m.OutG, l.TrimG+m.TrimG
					}
					want[of(m, day)] = l
				}
				got, err := s.Ledger(ctx, k, from, to)
				if err != nil || len(got) != len(want) {
					t.Fatalf("%s %v–%v: %d lines, %d wanted, %v", k, from, to, len(got), len(want), err)
				}
				for _, l := range got {
					w := want[l.Of]
					if l.N != w.N || l.Weighed != w.Weighed || fmt.Sprintf("%.3f %.3f %.3f", l.InG, l.OutG,
						l.TrimG) != fmt.Sprintf("%.3f %.3f %.3f", w.InG, w.OutG, w.TrimG) {
						t.Fatalf("%s %v–%v, %s: %+v, %+v wanted", k, from, to, l.Of, l, w)
					}
				}
			}
		}
	}
	check()
	if err := s.SumUp(ctx); err != nil {
		t.Fatal(err)
	}
	check()
}

// A form that comes twice is one making.
func TestBegunOnce(t *testing.T) {
	s, m := begun(t)
	ctx := context.Background()
	b, err := s.Get(ctx, m.BatchID)
	if err != nil {
		t.Fatal(err)
	}
	p, err := plan.Make(rules.Default(), b.Request.Request)
	if err != nil {
		t.Fatal(err)
	}
	one, err1 := s.BeginOnce(ctx, b, p, storetest.Now(), "form-1")
	two, err2 := s.BeginOnce(ctx, b, p, storetest.Now(), "form-1")
	other, err3 := s.BeginOnce(ctx, b, p, storetest.Now(), "form-2")
	if err1 != nil || err2 != nil || err3 != nil || one.ID == 0 || one.ID != two.ID || other.ID == one.ID {
		t.Errorf("%d %d %d, %v %v %v", one.ID, two.ID, other.ID, err1, err2, err3)
	}
}
