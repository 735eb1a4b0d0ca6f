package store_test

import (
	"context"
	"fmt"
	"os"
	"slices"
	"testing"
	"time"

	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
)

// grown is a workshop with n recipes and m batches of them, put in at once.
func grown(t *testing.T, s *store.Store, n, m int) {
	t.Helper()
	ctx := context.Background()
	words := `ELT(1 + MOD(s.seq, 7), 'Egg', 'Green', 'Yolk', 'Harbour', 'Sunday', 'Striped', 'Lantern'), ' ', ` +
		`ELT(1 + MOD(s.seq, 5), 'tagliatelle', 'pappardelle', 'ravioli', 'linguine', 'tortelli')`
	var all []string
	const at = 2500 // at once, so that none takes longer than a statement may
	for from := 1; from <= n; from += at {
		all = append(all, fmt.Sprintf("INSERT INTO recipes (version, name, request, `row`, besides, created_at, "+
			"updated_at) "+
			"SELECT 1, CONCAT(%s, ' ', s.seq), r.request, r.`row`, r.besides, NOW(3), NOW(3) "+
			"FROM seq_%d_to_%d s JOIN recipes r ON r.id = 1 + MOD(s.seq, 9)", words, from, min(n, from+at-1)))
	}
	all = append(all, "INSERT INTO recipe_versions (recipe_id, version, request, besides, saved_at) "+
		"SELECT id, 1, request, besides, NOW(3) FROM recipes WHERE id NOT IN (SELECT recipe_id FROM recipe_versions)")
	for from := 1; from <= m; from += at {
		all = append(all, fmt.Sprintf("INSERT INTO batches (version, request, `row`, created_at, updated_at, "+
			"recipe_id, recipe_version) "+
			"SELECT 1, JSON_SET(b.request, '$.name', CONCAT(%s, ' for the week ', s.seq)), b.`row`, NOW(3), "+
			"NOW(3) - INTERVAL s.seq MINUTE, 1 + MOD(s.seq, %d), 1 FROM seq_%d_to_%d s JOIN batches b ON b.id = 1 "+
			"+ MOD(s.seq, 9)",
			words, n, from, min(m, from+at-1)))
	}
	for from := 1; from <= m; from += at { // orders: ten a day on the day that is looked at, the others over the years
		all = append(all, fmt.Sprintf("INSERT INTO orders (day, who, what, portions, due, batch) SELECT "+
			"DATE('2010-01-01') + INTERVAL MOD(s.seq, 5000) DAY, CONCAT('Customer ', MOD(s.seq, 400)), ELT(1 + "+
			"MOD(s.seq, 5), "+
			"'tagliatelle', 'pappardelle', 'ravioli', 'linguine', 'tortelli'), 8, 700, 1 + MOD(s.seq, 9) "+
			"FROM seq_%d_to_%d s", from, min(m, from+at-1)))
	}
	for _, q := range append(all, "ANALYZE TABLE recipes, batches, orders") {
		if err := s.Raw(ctx, q); err != nil {
			t.Fatal(err)
		}
	}
}

// Ten thousand recipes, fifty thousand batches and as many orders cost a list, a search, a picker and a day's orders no
// more than twice what a hundred cost. Slow to grow: HOLLEN_BULK asks for it.
func TestManyRecipes(t *testing.T) {
	if os.Getenv("HOLLEN_BULK") == "" {
		t.Skip("HOLLEN_BULK is not set")
	}
	s, _ := demotest.Store(t, demo.Day)
	ctx := context.Background()
	looks := []struct {
		name string
		do   func() error
	}{
		{"list", func() error { _, _, err := s.Recipes(ctx, "", false, store.Mark{}); return err }},
		{"search", func() error { _, _, err := s.Recipes(ctx, "lantern ravi", false, store.Mark{}); return err }},
		{"batches", func() error { _, _, err := s.List(ctx, store.Query{}); return err }},
		{"find batches", func() error { _, _, err := s.List(ctx, store.Query{Words: "harbour"}); return err }},
		{"most made", func() error { _, err := s.MostMade(ctx, time.Now().AddDate(0, 0, -60), 4); return err }},
		{"batches of one", func() error { _, err := s.BatchesOf(ctx, 5, 12); return err }},
		{"picker", func() error {
			_, err := s.NamedRecipes(ctx, "tagliatelle for sunday", "lantern ravioli", "tortelloni")
			return err
		}},
	}
	const busy = "2026-12-24"
	var today []store.Order
	for i := range 10 {
		today = append(today, store.Order{Day: busy, Who: fmt.Sprintf("Customer %d", i), What: "tagliatelle",
			Portions: 8,
			Due:      700})
	}
	if err := s.AddOrders(ctx, today); err != nil {
		t.Fatal(err)
	}
	looks = append(looks, []struct {
		name string
		do   func() error
	}{
		{"orders of a day", func() error { _, err := s.Orders(ctx, busy); return err }},
		{"taken before", func() error { _, err := s.TakenBefore(ctx, today, busy); return err }},
	}...)
	cost := func() (out []time.Duration) {
		for _, l := range looks {
			var all []time.Duration
			for range 15 {
				began := time.Now()
				if err := l.do(); err != nil {
					t.Fatal(l.name, err)
				}
				all = append(all, time.Since(began))
			}
			slices.Sort(all)
			out = append(out, all[len(all)/2])
		}
		return out
	}
	grown(t, s, 100, 1200)
	few := cost()
	grown(t, s, 10_000, 50_000)
	for i, many := range cost() {
		t.Logf("%s: %v at a hundred, %v then, %.1f times", looks[i].name, few[i], many, float64(many)/float64(few[i]))
		if many > 2*few[i] {
			t.Errorf("%s: more than twice", looks[i].name)
		}
	}
}
