package store_test

import (
	"context"
	"errors"
	"sync"
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// Of two that get in each other's way the server gives up one whole: no part of it is done by itself afterwards.
func TestGivenUpWhole(t *testing.T) {
	s, ctx := storetest.Open(t), context.Background()
	planned := func(name string) *plan.Plan {
		r := request.Default()
		r.Name = name
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		return p
	}
	var ids [2]uint64
	for i := range ids {
		b, err := s.Create(ctx, planned("Before"))
		if err != nil {
			t.Fatal(err)
		}
		ids[i] = b.ID
	}
	thoughtBetter := errors.New("thought better of it")
	var met, done sync.WaitGroup
	met.Add(2)
	for i := range 2 {
		done.Go(func() {
			first := true
			err := s.Atomically(ctx, func(tx *store.Store) error {
				if _, err := tx.Save(ctx, ids[i], 1, planned("Mine")); err != nil {
					return err
				}
				if first { // both hold one now, and want the other's
					first = false
					met.Done()
					met.Wait()
				}
				if _, err := tx.Save(ctx, ids[1-i], 1, planned("Mine, too")); err != nil {
					return err
				}
				if _, err := tx.Create(ctx, planned("New")); err != nil {
					return err
				}
				return thoughtBetter
			})
			if !errors.Is(err, thoughtBetter) {
				t.Error(err)
			}
		})
	}
	done.Wait()
	all, err := s.Newest(ctx, -1)
	if err != nil {
		t.Fatal(err)
	}
	for _, b := range all {
		if b.Name != "Before" {
			t.Errorf("%q is left of what was given up", b.Name)
		}
	}
}
