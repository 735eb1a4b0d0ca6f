package web

import (
	"context"
	"database/sql"
	"log/slog"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// answered are the figures of the first page's answer, by what they are of.
func answered(page string) map[string]string {
	out := map[string]string{}
	for _, m := range regexp.MustCompile(`<li><small>([^<]*)</small><b>([^<]*)</b><span>([^<]*)</span></li>`).
		FindAllStringSubmatch(flat(page), -1) {
		out[m[1]] = m[2]
		out[m[1]+", said"] = m[3]
	}
	return out
}

func askedFor(portions, shape string) url.Values {
	return url.Values{"amount.portions": {portions}, "cut.shape": {shape}, "flours.0.flour": {"soft-00"},
		"eggs.class": {"eu-l"}, "roll.machine": {"hand-crank-10"}}
}

// The first page answers what it is asked as the batch that is opened from it does; asking saves nothing.
func TestTodayAnswers(t *testing.T) {
	s := newSite(t)
	before := len(batchesOf(t, s))
	for _, shape := range []string{"tagliatelle", "pappardelle", "lasagne", "ravioli", "tagliolini"} {
		for _, n := range []string{"1", "2", "3", "4", "7", "12", "40"} {
			q := askedFor(n, shape)
			w := s.ask("GET", "/?part=answer&"+q.Encode(), nil)
			s.wants(w, 200, "Nothing is saved until you open it")
			said := answered(w.Body.String())
			if len(said) != 16 {
				t.Fatalf("%s for %s: %v", shape, n, said)
			}
			if strings.Contains(said["eggs"], "g") {
				t.Errorf("%s for %s: %s of egg, where whole eggs come first", shape, n, said["eggs"])
			}
			if len(batchesOf(t, s)) != before {
				t.Fatalf("asking for %s saved a batch", shape)
			}
		}
	}
	q := askedFor("3", "tagliatelle")
	said := answered(s.ask("GET", "/?"+q.Encode(), nil).Body.String())
	q.Set("whole", "first")
	q.Set("amount.by", "portions")
	q.Set("name", "Asked for")
	w := s.ask("POST", "/batches", q)
	s.wants(w, 303)
	at := w.Header().Get("Location")
	page := s.ask("GET", at+"?at=formula", nil)
	s.wants(page, 200, said["flour"], said["eggs"]+" eggs")
	s.wants(s.ask("GET", at+"?at=cook", nil), 200, strings.TrimPrefix(said["cook"], "from "))
}

// Three presses lead from an empty sentence to the kneading: to the bench, and its keys.
func TestTodayToTheBench(t *testing.T) {
	s := newSite(t)
	q := askedFor("2", "tagliatelle")
	q.Set("whole", "first")
	q.Set("amount.by", "portions")
	q.Set("name", "Straight away")
	q.Set("then", "bench")
	w := s.ask("POST", "/batches", q)
	s.wants(w, 303)
	at := w.Header().Get("Location")
	if !regexp.MustCompile(`^/bench/\d+$`).MatchString(at) {
		t.Fatalf("led to %q", at)
	}
	s.wants(s.ask("GET", at, nil), 200, "Straight away")
	s.wants(s.ask("GET", "/", nil), 200, "Straight away", "At the bench")
}

// What cannot be read is said beside the sentence, nothing typed is lost, and the last answer's figures are not shown
// as if they were asked for.
func TestTodayRefuses(t *testing.T) {
	s := newSite(t)
	for _, bad := range []string{"0", "-3", "many", "1e9", "", "<b>3</b>", "3000"} {
		q := askedFor(bad, "tagliatelle")
		w := s.ask("GET", "/?"+q.Encode(), nil)
		s.wants(w, 200, `class="err"`, "Portions:")
		if strings.Contains(w.Body.String(), "<b>3</b>") && bad == "<b>3</b>" {
			t.Error("typed markup came through")
		}
		if said := answered(w.Body.String()); len(said) > 0 {
			t.Errorf("%q is answered with %v", bad, said)
		}
		q.Set("then", "bench")
		q.Set("amount.by", "portions")
		if w := s.ask("POST", "/batches", q); w.Code == http.StatusSeeOther {
			t.Errorf("%q made a batch", bad)
		}
	}
	q := askedFor("3", "no-such-shape")
	s.wants(s.ask("GET", "/?"+q.Encode(), nil), 200, `class="err"`, "Shape:")
}

// A browser is asked once, and told the same the next time; another one is not.
func TestTodayRemembers(t *testing.T) {
	s := newSite(t)
	w := s.ask("GET", "/?"+askedFor("7", "pappardelle").Encode(), nil)
	var kept *http.Cookie
	for _, c := range w.Result().Cookies() {
		if c.Name == "asked" {
			kept = c
		}
	}
	if kept == nil {
		t.Fatal("nothing is kept")
	}
	seven := regexp.MustCompile(`name="amount.portions"[^>]*value="7"|value="7"[^>]*name="amount.portions"`)
	with := func(r *http.Request) { r.AddCookie(kept) }
	if page := s.ask("GET", "/", nil, with).Body.String(); !seven.MatchString(page) {
		t.Error("what was asked last is not there")
	}
	if page := s.ask("GET", "/", nil).Body.String(); seven.MatchString(page) {
		t.Error("another browser is asked the same")
	}
	for _, bad := range []string{"%", "amount.portions=x", strings.Repeat("a", 5000), "cut.shape=gone"} {
		s.wants(s.ask("GET", "/", nil, func(r *http.Request) {
			r.AddCookie(&http.Cookie{Name: "asked", Value: url.QueryEscape(bad)})
		}), 200, "Fresh pasta for")
	}
}

// What looks for batches is led to their list; a key of the sentence steps without scripts.
func TestTodayLeadsOn(t *testing.T) {
	s := newSite(t)
	w := s.ask("GET", "/?find=raviol&sort=name", nil)
	s.wants(w, 303)
	if at := w.Header().Get("Location"); at != "/batches?find=raviol&sort=name" {
		t.Errorf("led to %q", at)
	}
	q := askedFor("3", "tagliatelle")
	q.Set("step", "amount.portions=1")
	s.wants(s.ask("GET", "/?"+q.Encode(), nil), 200, `value="4"`)
}

// The first page says what goes on in the kitchen: at the bench, due today, made lately.
func TestTodayBelow(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/", nil), 200, demo.Service, "At the bench", "rest in the fridge", `data-left="`, "Due today",
		"Pilot house kitchen", "in hand", "Made lately", "Make it again")
}

// What goes on in the kitchen and cannot be read keeps the answer from nobody, and is said to be missing.
func TestTodayAnswersWithoutItsLists(t *testing.T) {
	dsn := storetest.DSN(t)
	st, err := store.Open(context.Background(), dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { st.Close() })
	pool, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { pool.Close() })
	var log strings.Builder
	s := site{t, New(st, rules.Default(), slog.New(slog.NewTextHandler(&log, nil)), Access{}), st, &log}
	const missing = "could be read just now"
	if page := s.ask("GET", "/", nil).Body.String(); strings.Contains(page, missing) {
		t.Error("missing where all is there")
	}
	if _, err := pool.Exec("RENAME TABLE orders TO orders_away"); err != nil {
		t.Fatal(err)
	}
	w := s.ask("GET", "/", nil)
	s.wants(w, 200, missing)
	if said := answered(w.Body.String()); len(said) != 16 {
		t.Errorf("without its lists it answers %v", said)
	}
}

func batchesOf(t *testing.T, s site) []uint64 {
	t.Helper()
	rows, _, err := s.store.List(context.Background(), store.Query{})
	if err != nil {
		t.Fatal(err)
	}
	var ids []uint64
	for _, r := range rows {
		ids = append(ids, r.ID)
	}
	return ids
}
