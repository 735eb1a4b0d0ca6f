package web

import (
	"context"
	"database/sql"
	"log/slog"
	"net/url"
	"strings"
	"testing"

	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// overDatabase is a site and the database under it, to write to behind the store's back.
func overDatabase(t *testing.T) (site, *sql.DB) {
	t.Helper()
	dsn := storetest.DSN(t)
	st, err := store.Open(context.Background(), dsn)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { st.Close() })
	if _, err := st.Seed(context.Background(), demo.Scenario(rules.Default(), demo.Day)); err != nil {
		t.Fatal(err)
	}
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { db.Close() })
	var log strings.Builder
	l := slog.New(slog.NewTextHandler(&log, nil))
	st.Log(l)
	return site{t, New(st, rules.Default(), l, Access{}), st, &log}, db
}

func exec(t *testing.T, db *sql.DB, query string, args ...any) {
	t.Helper()
	res, err := db.Exec(query, args...)
	if err != nil {
		t.Fatal(err)
	}
	if n, _ := res.RowsAffected(); n == 0 {
		t.Fatalf("%s: no row", query)
	}
}

// A save from the page of signs while another window saved tells what happened there, as at any
// station.
func TestClashAtTheDoctor(t *testing.T) {
	s := newSite(t)
	mine, theirs := s.typed(demo.Number(demo.Saturday)), s.typed(demo.Number(demo.Saturday))
	theirs.Set("room.rh", "61")
	s.wants(s.ask("POST", batch(demo.Saturday)+"/save", theirs), 303)
	for _, at := range []string{"doctor", "doctor:tears"} {
		mine.Set("at", at)
		mine.Set("was_at", "doctor")
		mine.Set("doctor.sign", "tears")
		mine.Set("room.temp_c", "25")
		s.wants(s.ask("POST", batch(demo.Saturday)+"/save", mine), 409, "another window", "61 %", "</html>")
	}
}

// While the database is away no page shows what a workshop that has said nothing would see: such
// a page, posted later, would write that over what is kept.
func TestNothingIsMadeUpWhileTheDatabaseIsAway(t *testing.T) {
	s, db := overDatabase(t)
	pages := []string{"/", "/cabinet/house", "/rooms", "/batches/new", "/cabinet/flours", batch(demo.Saturday), batch(demo.Saturday) + "/sheet"}
	for _, path := range pages {
		s.wants(s.ask("GET", path, nil), 200)
	}
	var was string
	if err := db.QueryRow("SELECT house FROM workshops").Scan(&was); err != nil {
		t.Fatal(err)
	}
	s.store.Close()
	for _, path := range pages {
		s.wants(s.ask("GET", path, nil), 503, "The database does not answer")
	}
	s.wants(s.ask("POST", "/cabinet/house", url.Values{"version": {"0"}}), 503)
	s.wants(s.ask("POST", "/batches", url.Values{}), 503)
	var kept string
	if err := db.QueryRow("SELECT house FROM workshops").Scan(&kept); err != nil || kept != was {
		t.Errorf("the house is %q now: %v", kept, err)
	}
}

// A row of the cabinet that cannot be read hides itself alone and is told in the log; a house
// that cannot be read shows no page, and nothing is written over it.
func TestRowsThatCannotBeRead(t *testing.T) {
	s, db := overDatabase(t)
	exec(t, db, `UPDATE cabinet SET figures = '{"name": 7}' WHERE kind = 'flour' ORDER BY id LIMIT 1`)
	for _, path := range []string{"/cabinet/flours", "/cabinet/house", "/batches/new", batch(demo.Saturday)} {
		s.wants(s.ask("GET", path, nil), 200)
	}
	if !strings.Contains(s.log.String(), "cannot unmarshal") {
		t.Errorf("nobody is told: %s", s.log)
	}
	const odd = `{"prices": 7}`
	exec(t, db, "UPDATE workshops SET house = ?", odd)
	s.wants(s.ask("GET", "/cabinet/house", nil), 500)
	s.wants(s.ask("POST", "/cabinet/house", url.Values{"version": {"0"}, "prices.currency": {"€"}}), 500)
	s.wants(s.ask("POST", "/batches", url.Values{}), 500)
	var kept string
	if err := db.QueryRow("SELECT house FROM workshops").Scan(&kept); err != nil || kept != odd {
		t.Errorf("the house is %q now: %v", kept, err)
	}
	exec(t, db, `UPDATE batches SET request = '{"room": []}', `+"`row` = NULL WHERE id = ?", demo.Number(demo.Saturday))
	list := s.ask("GET", "/", nil)
	s.wants(list, 200, demo.Supper)
	if n := len(demo.Batches()); strings.Count(list.Body.String(), `href="/batches/`) < n-1 || strings.Contains(list.Body.String(), demo.Saturday) {
		t.Errorf("one batch of %d is not the only one left out", n)
	}
	s.wants(s.ask("GET", batch(demo.Saturday), nil), 500, "cannot be read")
}
