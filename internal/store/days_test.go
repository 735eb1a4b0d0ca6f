package store_test

import (
	"context"
	"errors"
	"testing"

	"hollen/internal/core/day"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// A day is kept with its versions: what was changed is taken back one by one, and who comes late is told.
func TestDayVersions(t *testing.T) {
	s, ctx := storetest.Open(t), context.Background()
	const date = "2026-12-24"
	d, err := s.Day(ctx, date)
	if err != nil || d.Version != 0 {
		t.Fatal(d, err)
	}
	shop := day.DefaultShop(rules.Default().Day)
	for i, trays := range []int{3, 4, 5} {
		shop.Trays = trays
		if v, err := s.SaveDay(ctx, date, i, day.Sheet{Shop: shop}); err != nil || v != i+1 {
			t.Fatal(v, err)
		}
	}
	if _, err := s.SaveDay(ctx, date, 1, day.Sheet{}); !errors.Is(err, store.ErrChanged) {
		t.Errorf("an old version: %v", err)
	}
	if _, err := s.SaveDay(ctx, date, 0, day.Sheet{}); !errors.Is(err, store.ErrChanged) {
		t.Errorf("as if it were new: %v", err)
	}
	for i, trays := range []int{4, 3} {
		if err := s.UndoDay(ctx, date, 3+i); err != nil {
			t.Fatal(err)
		}
		if d, err = s.Day(ctx, date); err != nil || d.Shop.Trays != trays || d.Version != 4+i ||
			d.CanUndo != (trays == 4) {
			t.Errorf("taken back %d times: %+v, %v", i+1, d, err)
		}
	}
	if err := s.UndoDay(ctx, date, 5); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("nothing is left to take back: %v", err)
	}
	if err := s.UndoDay(ctx, date, 4); !errors.Is(err, store.ErrChanged) {
		t.Errorf("of an old version: %v", err)
	}
	if all, err := s.Days(ctx, "2026-12-01", "2026-12-31"); err != nil || len(all) != 1 || all[0].Date != date {
		t.Errorf("%+v, %v", all, err)
	}
	if last, err := s.LastDay(ctx, "2026-12-25"); err != nil || last.Shop.Trays != 3 {
		t.Errorf("the last day: %+v, %v", last, err)
	}
}

// Orders of the week stand on their day until they are taken over; taken over twice at once, they are there once.
func TestOrdersOfTheWeek(t *testing.T) {
	s, ctx := storetest.Open(t), context.Background()
	const thursday = "2026-12-24"
	for _, o := range []store.Standing{{Weekday: 4, Who: "A", What: "tagliatelle", Portions: 8, Due: 700}, {Weekday: 5,
		Who: "B", What: "ravioli",
		Portions: 2, Due: 600}} {
		if err := s.SaveStanding(ctx, o); err != nil {
			t.Fatal(err)
		}
	}
	read := func() []store.Order {
		t.Helper()
		all, err := s.Orders(ctx, thursday)
		if err != nil {
			t.Fatal(err)
		}
		return all
	}
	if all := read(); len(all) != 1 || all[0].ID != 0 || all[0].Who != "A" {
		t.Fatalf("%+v", all)
	}
	own := read()[0]
	own.Portions = 9
	mark := "a form sent twice"
	other := store.Order{Day: thursday, Who: "C", What: "gnocchi", Portions: 1, Due: 650, Once: &mark}
	if err := s.AddOrders(ctx, []store.Order{own, other}); err != nil {
		t.Fatal(err)
	}
	if err := s.AddOrders(ctx, []store.Order{own, other}); !errors.Is(err, store.ErrChanged) {
		t.Errorf("taken over twice: %v", err)
	}
	if err := s.AddOrders(ctx, []store.Order{other, {Day: thursday, Who: "D", What: "gnocchi", Portions: 1,
		Due: 655}}); err != nil {
		t.Fatal(err)
	}
	all := read()
	if len(all) != 3 || all[2].Who != "A" || all[2].Portions != 9 || all[2].ID == 0 {
		t.Fatalf("%+v", all)
	}
	gone := all[2]
	gone.Gone = true
	if err := s.SaveOrder(ctx, gone); err != nil {
		t.Fatal(err)
	}
	if err := s.SaveOrder(ctx, gone); !errors.Is(err, store.ErrChanged) {
		t.Errorf("kept meanwhile: %v", err)
	}
	if err := s.SaveOrder(ctx, store.Order{ID: 99, Version: 1}); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("none: %v", err)
	}
	if all = read(); len(all) != 2 {
		t.Errorf("dropped for once it is back: %+v", all)
	}
	if err := s.ServeOrders(ctx, all[:1], 7); err != nil || *read()[0].Batch != 7 {
		t.Errorf("%v", err)
	}
	counts, week, err := s.OrdersBetween(ctx, "2026-12-20", "2026-12-30")
	if err != nil || counts[thursday] != 2 || len(week) != 2 {
		t.Errorf("%v %v %v", counts, week, err)
	}
	many := make([]store.Order, store.MostOrders)
	for i := range many {
		many[i] = store.Order{Day: thursday, Who: "x", What: "y", Portions: 1, Due: 1}
	}
	if err := s.AddOrders(ctx, many); !errors.Is(err, store.ErrTooMany) {
		t.Errorf("too many: %v", err)
	}
}

// The workshop’s own day is kept with the scenario.
func TestScenarioHasADay(t *testing.T) {
	s, _ := demotest.Store(t, demo.Day)
	ctx := context.Background()
	days, err := s.Days(ctx, "2000-01-01", "2099-12-31")
	if err != nil || len(days) != 2 || days[1].Planned() || days[1].Shop.OpenAt != 7*60 || !days[0].Planned() ||
		len(days[0].Sheet.Day.Faults(days[0].Slots)) > 0 {
		t.Fatalf("%+v, %v", days, err)
	}
	orders, err := s.Orders(ctx, days[0].Date)
	if err != nil || len(orders) != 3 {
		t.Errorf("%+v, %v", orders, err)
	}
	for _, o := range orders {
		if _, err := s.Get(ctx, *o.Batch); err != nil {
			t.Errorf("%s: %v", o.Who, err)
		}
	}
}
