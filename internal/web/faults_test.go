package web

import (
	"context"
	"database/sql"
	"fmt"
	"log/slog"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"github.com/gin-gonic/gin"
	"github.com/go-sql-driver/mysql"

	"hollen/internal/core/plan"
	"hollen/internal/workshop"

	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
)

// overDatabase is a site and the database under it, to write to behind the store's back.
func overDatabase(t *testing.T) (site, *sql.DB) {
	t.Helper()
	st, dsn := demotest.Store(t, demo.Day)
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
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", theirs), 303)
	for _, at := range []string{"doctor", "doctor:tears"} {
		mine.Set("at", at)
		mine.Set("was_at", "doctor")
		mine.Set("doctor.sign", "tears")
		mine.Set("room.temp_c", "25")
		s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", mine), 409, "another window", "61 %", "</html>")
	}
}

// While the database is away no page shows what a workshop that has said nothing would see: such
// a page, posted later, would write that over what is kept.
func TestNothingIsMadeUpWhileTheDatabaseIsAway(t *testing.T) {
	s, db := overDatabase(t)
	pages := []string{"/", "/batches", "/cabinet/house", "/rooms", "/batches/new", "/cabinet/flours",
		batchAt(demo.Saturday),
		batchAt(demo.Saturday) + "/sheet"}
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

// A row of the cabinet that cannot be read hides itself alone and is told in the log; of a house
// that cannot be read the usual stands there, marked so, and nothing is written over it unasked.
func TestRowsThatCannotBeRead(t *testing.T) {
	s, db := overDatabase(t)
	exec(t, db, `UPDATE cabinet SET figures = '{"name": 7}' WHERE kind = 'flour' ORDER BY id LIMIT 1`)
	for _, path := range []string{"/cabinet/flours", "/cabinet/house", "/batches/new", batchAt(demo.Saturday)} {
		s.wants(s.ask("GET", path, nil), 200)
	}
	if !strings.Contains(s.log.String(), "cannot unmarshal") {
		t.Errorf("nobody is told: %s", s.log)
	}
	const odd = `{"prices": 7}`
	exec(t, db, "UPDATE workshops SET house = ?", odd)
	s.wants(s.ask("GET", "/cabinet/house", nil), 200, "What was kept here cannot be read.")
	s.wants(
		s.ask("POST", "/cabinet/house", url.Values{"version": {"0"}, "prices.currency": {"€"}}),
		409,
		"Keep this over it",
	)
	s.wants(s.ask("GET", "/batches/new", nil), 200)
	var kept string
	if err := db.QueryRow("SELECT house FROM workshops").Scan(&kept); err != nil || kept != odd {
		t.Errorf("the house is %q now: %v", kept, err)
	}
	exec(t, db, `UPDATE batches SET request = '{"room": []}', `+"`row` = NULL WHERE id = ?", demo.Number(demo.Saturday))
	exec(t, db, `UPDATE revisions SET request = '{"room": []}' WHERE batch_id = ?`, demo.Number(demo.Saturday))
	list := s.ask("GET", "/batches", nil)
	s.wants(list, 200, demo.Supper)
	if n := len(demo.Batches()); strings.Count(list.Body.String(), `href="/batches/`) < n-1 ||
		strings.Contains(list.Body.String(), demo.Saturday) {
		t.Errorf("one batch of %d is not the only one left out", n)
	}
	s.wants(s.ask("GET", batchAt(demo.Saturday), nil), 500, "cannot be read")
}

// A save of no window that was open here, of a version there is not yet, or of another database clashes like any other,
// and writes nothing.
func TestSavesOfNoWindow(t *testing.T) {
	s := newSite(t)
	before := s.kept()
	for name, change := range map[string]func(url.Values){
		"none": func(v url.Values) { v.Del("version") }, "too high": func(v url.Values) { v.Set("version", "7") },
		"odd":              func(v url.Values) { v.Set("version", "x") },
		"another database": func(v url.Values) { v.Set("db", "ABCDEFGHIJKLMNOPQRSTUVWXYZ") },
	} {
		v := s.typed(demo.Number(demo.Saturday))
		v.Set("name", "Overwritten")
		change(v)
		s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 409, "Overwritten")
		if s.kept() != before {
			t.Fatalf("%s: it is written", name)
		}
	}
	for _, form := range []url.Values{{"version": {"1"}, "db": {"X"}, "prices.currency": {"£"}},
		{"prices.currency": {"£"}}} {
		s.wants(s.ask("POST", "/cabinet/house", form), 409)
	}
	page := s.ask("GET", "/rooms", nil).Body.String()
	s.wants(s.ask("POST", "/rooms", url.Values{"id": {between(page, `name="id" value="`, `"`)}, "version": {"1"},
		"db": {"X"}, "name": {"Cellar"}, "temp": {"14"},
		"rh": {"70"}}), 422, "Another window kept it")
	if s.kept() != before {
		t.Error("something is written")
	}
}

// What would disappear is refused with the reason beside its field: a weighing without its time, an amount of nothing,
// the room after the last.
func TestNothingDisappears(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("dry.checks.3.g", "412")
	v.Set("acts.2.amount", "15")
	v.Set("acts.3.amount", "0")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 422, "412")
	if got := s.saved(demo.Number(demo.Saturday)); len(got.Dry.Log) != 0 {
		t.Errorf("%+v", got.Dry.Log)
	}
	have, err := s.store.Rooms(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	for i := len(have); i < store.MostRooms; i++ {
		if err := s.store.SaveRoom(context.Background(), store.Room{Name: fmt.Sprint("Room ", i), TempC: 20,
			RH: .5}); err != nil {
			t.Fatal(err)
		}
	}
	s.wants(s.ask("POST", "/rooms", url.Values{"name": {"One more"}, "temp": {"20"}, "rh": {"50"}}), 422,
		"200 rooms are kept; delete one first.", "One more")
	for i := range 23 {
		b, err := s.store.Get(context.Background(), demo.Number(demo.Saturday))
		if err != nil {
			t.Fatal(err)
		}
		r := b.Request.Request
		r.Name = fmt.Sprint("Gone ", i)
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		made, err := s.store.Create(context.Background(), p)
		if err == nil {
			err = s.store.Delete(context.Background(), made.ID)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	s.wants(s.ask("GET", "/batches", nil), 200, "(20, and more)", "All deleted batches", "Gone 22")
	s.wants(s.ask("GET", "/batches?gone=all", nil), 200, "Gone 0<", "Gone 22")
}

// The database’s own reasons are told: a full disk is not a database that is away.
func TestFullDisk(t *testing.T) {
	for err, want := range map[error]int{&mysql.MySQLError{Number: 1114, Message: "The table 'batches' is full"}: 507,
		&mysql.MySQLError{Number: 1030,
			Message: `Got error 28 "No space left on device" from storage engine InnoDB`}: 507,
		&mysql.MySQLError{Number: 1064}: 503, context.DeadlineExceeded: 503, store.ErrTooMany: 409} {
		s := newSite(t)
		w := httptest.NewRecorder()
		c, _ := gin.CreateTestContext(w)
		c.Request = httptest.NewRequest("POST", "/batches/7/save", nil)
		srv := newServer(workshop.New(s.store, rules.Default(), slog.New(slog.DiscardHandler)), Access{})
		srv.Answer(srv.Visit(c), err)
		if w.Code != want || want == 507 && !strings.Contains(w.Body.String(), "The disk is full.") {
			t.Errorf("%v: %d", err, w.Code)
		}
	}
}
