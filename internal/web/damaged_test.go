package web

import (
	"context"
	"database/sql"
	"fmt"
	"log/slog"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// ofAll are addresses of everything the demo holds, for reading.
func ofAll(t *testing.T, s *store.Store) (out []string) {
	t.Helper()
	ctx := context.Background()
	out = []string{
		"/", "/batches",
		"/log",
		"/log.json",
		"/log.csv",
		"/log/ledger",
		"/log/learned",
		"/cabinet/flours",
		"/cabinet/lots",
		"/cabinet/house",
		"/cabinet/flours/new",
		"/cabinet/export.json",
		"/rooms",
		"/recipe",
		"/import",
		"/compare",
		"/batches/new",
		"/batches/new?as=own",
		"/days",
		"/orders/week",
	}
	for _, path := range []string{"", "/versions", "/again", "/request.json", "/sheet", "/label", "/makings", "/log"} {
		out = append(out, batchAt(demo.Saturday)+path)
	}
	for id := 1; id <= 2; id++ {
		for _, path := range []string{"", "/made", "/screens", "/beside", "/log", "/made.json", "/made.csv"} {
			out = append(out, fmt.Sprintf("/bench/%d%s", id, path))
		}
	}
	days, err := s.Days(ctx, "2000-01-01", "2100-01-01")
	if err != nil || len(days) < 2 {
		t.Fatalf("%d days, %v", len(days), err)
	}
	for _, d := range days[:1] {
		for _, path := range []string{"", "/orders", "/orders.csv", "/now", "/set-out", "/stamp", "/day.json"} {
			out = append(out, "/days/"+d.Date+path)
		}
	}
	return out
}

// damagedSite is a site of the demo, with its database to be damaged.
func damagedSite(t *testing.T) (*site, func(table, column, where string) (mend func())) {
	t.Helper()
	st, dsn := demotest.Store(t, demo.Day)
	byTheBook(t, st)
	pool, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { pool.Close() })
	var log strings.Builder
	s := &site{t, New(st, rules.Default(), slog.New(slog.NewTextHandler(&log, nil)), Access{}), st, &log}
	return s, func(table, column, where string) (mend func()) {
		t.Helper()
		var was string
		if err := pool.QueryRow("SELECT " + column + " FROM " + table + " WHERE " + where).Scan(&was); err != nil {
			t.Fatal(table, err)
		}
		set := func(doc string) {
			if _, err := pool.Exec("UPDATE "+table+" SET "+column+" = ? WHERE "+where, doc); err != nil {
				t.Fatal(table, err)
			}
			// What is held in memory is of before.
			s.h = New(st, rules.Default(), slog.New(slog.NewTextHandler(&log, nil)), Access{})
		}
		set("[]")
		return func() { set(was) }
	}
}

// Whatever one row is damaged, what does not stand on it goes on; what does says that it is damaged, and nothing says
// that the database does not
// answer.
func TestOneDamagedRow(t *testing.T) {
	s, damage := damagedSite(t)
	all := ofAll(t, s.store)
	bench := func(path string) bool { return strings.HasPrefix(path, "/bench/1") } // what stands on making 1
	none := func(string) bool { return false }
	for _, c := range []struct {
		table, column, key string
		fails              func(path string) bool
		page, says         string // where it would stand, and what is said there
	}{
		{"making_events", "doc", "making_id = 1 AND seq = 3", none, "/bench/1/made",
			"What was kept here cannot be read, and is left out."},
		{"makings", "request", "id = 1", bench, "/bench/1", "This making cannot be read."},
		{"makings", "rules", "id = 2", func(path string) bool { return strings.HasPrefix(path, "/bench/2") },
			"/batches", "it cannot be read"},
		{"makings", "steps", "id = 1", none, "", ""},
		{"making_summaries", "doc", "making_id = 1", none, "/log", "/bench/1/made"}, // made again from its events
		{"workshops", "house", "id = 1", none, "/cabinet/house", "What was kept here cannot be read."},
		{"cabinet", "figures", "id = 1", none, "/cabinet/flours", "Number 1 on this shelf cannot be read."},
		{"batches", "request", "id = 7", none, "/batches/7", "<form"}, // as its version has it
		{"batches", "`row`", "id = 7", none, "", ""},
		{"revisions", "request", "batch_id = 7", none, "/batches/7/versions",
			"It cannot be read; it was left as it is."},
		{"days", "doc", "day > '2000-01-01' ORDER BY day LIMIT 1", none, "", ""}, // as its version has it
		{"log_settings", "doc", "id = 1", none, "/log/learned", "What of the log counts cannot be read"},
	} {
		mend := damage(c.table, c.column, c.key)
		for _, path := range all {
			if code := s.ask(http.MethodGet, path, nil).Code; (code >= 500) != c.fails(path) {
				t.Errorf("%s.%s: %s is %d: %s", c.table, c.column, path, code, lastLines(s.log.String(), 6))
			}
		}
		if c.page != "" {
			if page := s.ask(http.MethodGet, c.page, nil).Body.String(); !strings.Contains(page, c.says) ||
				strings.Contains(page, "does not answer") {
				t.Errorf(
					"%s.%s: %s does not say %q: %.2000s",
					c.table,
					c.column,
					c.page,
					c.says,
					between(page, "<main", "</main>"),
				)
			}
		}
		mend()
	}
}

// lastLines are the last n lines of a log.
func lastLines(log string, n int) string {
	lines := strings.Split(strings.TrimSpace(log), "\n")
	return strings.Join(lines[max(0, len(lines)-n):], "\n")
}

// A way on is left where both copies of a batch or a day are damaged, and what cannot be read is written over only by
// who has said so.
func TestWaysOutOfDamage(t *testing.T) {
	s, damage := damagedSite(t)
	ctx := context.Background()
	saturday, date := demo.Number(demo.Saturday), demo.Date(storetest.Now())

	form := s.typed(saturday)
	form.Set("name", "Saturday, again")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", form), 303)
	damage("batches", "request", fmt.Sprint("id = ", saturday))
	damage("revisions", "request", fmt.Sprint("version = 2 AND batch_id = ", saturday))
	s.wants(
		s.ask("GET", batchAt(demo.Saturday), nil),
		500,
		"cannot be read as it was last saved",
		"version 2",
		batchAt(demo.Saturday)+"/versions",
	)
	s.wants(
		s.ask("GET", batchAt(demo.Saturday)+"/versions", nil),
		200,
		"It cannot be read; it was left as it is.",
		"/versions/1/take",
	)
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/versions/1/take", url.Values{}), 303)
	if b, err := s.store.Get(ctx, saturday); err != nil || b.Version != 3 || b.Request.Name != demo.Saturday {
		t.Errorf("%d %q, %v", b.Version, b.Request.Name, err)
	}

	day, err := s.store.Day(ctx, date)
	if err != nil || day.Version == 0 {
		t.Fatalf("%d, %v", day.Version, err)
	}
	damage("days", "doc", "day = '"+date+"'")
	damage("day_versions", "doc", fmt.Sprintf("day = '%s' AND version = %d", date, day.Version))
	s.wants(s.ask("GET", "/days/"+date, nil), 500, "This day cannot be read.", `value="anew"`)
	s.wants(s.ask("GET", "/days/"+date+"/orders", nil), 200, "tagliatelle")
	change := url.Values{"version": {fmt.Sprint(day.Version)}, "act": {"add"}, "batch": {fmt.Sprint(saturday)}}
	s.wants(s.ask("POST", "/days/"+date, change), 409, "This day cannot be read.")
	change.Set("act", "anew")
	s.wants(s.ask("POST", "/days/"+date, change), 303)
	s.wants(s.ask("GET", "/days/"+date, nil), 200)

	damage("workshops", "house", "id = 1")
	house := url.Values{"version": {s.open("/cabinet/house")}, "bench.place": {"tray"}}
	s.wants(s.ask("POST", "/cabinet/house", house), 409, "Keep this over it", `name="over"`)
	house.Set("over", "yes")
	s.wants(s.ask("POST", "/cabinet/house", house), 303)
	if h, err := s.store.House(ctx); err != nil || h.Damaged {
		t.Errorf("%+v, %v", h, err)
	}

	damage("log_settings", "doc", "id = 1")
	s.wants(s.ask("POST", "/log/learned", url.Values{"do": {"leave"}, "making": {"1"}}), 500)
	s.wants(s.ask("POST", "/log/learned", url.Values{"do": {"on"}}), 303)
	if set, _, err := s.store.LogSettings(ctx); err != nil || set.Damaged || set.Off {
		t.Errorf("%+v, %v", set, err)
	}
}
