// Package demotest gives tests the demo workshop in a database of their own.
package demotest

import (
	"context"
	"testing"
	"time"

	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// Store returns a store with the demo of a day, closed when the test ends, and how to reach its database.
func Store(t testing.TB, day time.Time) (*store.Store, string) {
	t.Helper()
	return Seeded(t, "demo "+day.Format(time.DateOnly), func() store.Scenario {
		return demo.Scenario(rules.Default(), day)
	})
}

// Logged is Store with the log of three months.
func Logged(t testing.TB) *store.Store {
	t.Helper()
	s, _ := Seeded(t, "demo with its log", func() store.Scenario { return demo.WithLog(rules.Default(), demo.Day) })
	return s
}

// Seeded is Store of another scenario, known by its name.
func Seeded(t testing.TB, name string, of func() store.Scenario) (*store.Store, string) {
	t.Helper()
	return storetest.Filled(t, name, func(s *store.Store) error {
		_, err := s.Seed(context.Background(), of())
		return err
	})
}
