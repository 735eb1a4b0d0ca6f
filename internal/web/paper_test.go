package web

import (
	"context"
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// planned creates a batch of the usual request, changed, and returns its address.
func (s site) planned(change func(*request.Request)) (string, store.Batch) {
	s.Helper()
	r := request.Default()
	r.Name, r.MadeOn = "Kept", storetest.Now().Format(time.DateOnly)
	change(&r)
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		s.Fatal(err)
	}
	b, err := s.store.Create(context.Background(), p)
	if err != nil {
		s.Fatal(err)
	}
	return fmt.Sprintf("/batches/%d", b.ID), b
}

// made begins and ends a making of a batch that took so long from mixing to the fridge.
func (s site) made(b store.Batch, out time.Duration, how bench.Ended) store.Making {
	s.Helper()
	ctx := context.Background()
	p, err := plan.Make(rules.Default(), b.Request.Request)
	if err != nil {
		s.Fatal(err)
	}
	now := storetest.Now()
	m, err := s.store.Begin(ctx, b, p, now.Add(-out-time.Hour))
	if err != nil {
		s.Fatal(err)
	}
	var events []bench.Event
	for i, x := range bench.Steps(p) {
		at := now.Add(-out - time.Hour)
		if x.Kind == bench.Pack || x.Kind == bench.Pot {
			at = now.Add(-time.Hour)
		}
		if x.Key == "weigh.flour.1" {
			events = append(events, bench.Event{ID: "w", At: at, Says: bench.Weighed{Step: x.Key, G: x.WantG + 60}})
		}
		events = append(events, bench.Event{ID: fmt.Sprint("d", i), At: at, Says: bench.Done{Step: x.Key}})
	}
	end := bench.Event{ID: "end", At: now.Add(-30 * time.Minute), Says: how}
	if _, err := s.store.AddEvents(ctx, m.ID, append(events, end)); err != nil {
		s.Fatal(err)
	}
	all, _, _ := s.store.Events(ctx, m.ID, 0)
	run := bench.Run(p, m.Began, all)
	if err := s.store.SetEnded(ctx, m.ID, &end.At); err != nil {
		s.Fatal(err)
	}
	if err := s.store.KeepSummary(ctx, m, &run, all); err != nil {
		s.Fatal(err)
	}
	return m
}

// words are what a page says, without its marks.
func words(body string) string {
	text := regexp.MustCompile(`<[^>]*>`).ReplaceAllString(body, " ")
	return strings.Join(strings.Fields(text), " ")
}

// Paper says what may be kept: no date on what is not to be kept but the reason, the time in the pot by how it is sold,
// every warning.
func TestPaperFollowsWhatIsSafe(t *testing.T) {
	s := newSite(t)
	dried, _ := s.planned(func(r *request.Request) {
		r.Cut.Shape, r.Cut.Filling, r.Dry.Keep = "ravioli", request.Filling{
			Name:      "pork",
			Kind:      request.FillingMeat,
			Allergens: "none",
		}, true
	})
	for _, page := range []string{"/label", "/label?paper=small", "/sheet"} {
		_, body := s.got(http.MethodGet, dried+page, nil)
		if said := words(body); !strings.Contains(said, "Not to be kept: a filling does not dry through") ||
			regexp.MustCompile(`Use by \d`).MatchString(said) ||
			strings.Contains(said, "Keep dry") {
			t.Errorf("%s: %.1500s", page, said)
		}
	}
	s.wants(
		s.ask("GET", dried+"/sheet", nil),
		200,
		"Not filled pasta.",
		"Drying egg pasta to keep is a risk.",
		"p-warn",
	)

	frozen, b := s.planned(func(r *request.Request) {
		r.Cut.Shape, r.Keep.Where, r.Cut.Filling = "ravioli", "freezer", request.Filling{
			Name:      "chard",
			Allergens: "none",
		}
	})
	p, _ := plan.Make(rules.Default(), b.Request.Request)
	from, _ := p.SoldTime(&p.Cut.CutPart)
	said := words(s.ask("GET", frozen+"/label", nil).Body.String())
	if !strings.Contains(said, "Boil from frozen") || !strings.Contains(said, p.CookLabel(0)) ||
		from <= p.Cook.Seconds*.6 {
		t.Errorf("frozen: %s", said)
	}

	// The names of fillings are asked about before anything is printed.
	named, _ := s.planned(func(r *request.Request) {
		r.Cut.Shape, r.Cut.Filling = "ravioli", request.Filling{Name: "ricotta and egg yolk"}
	})
	for _, page := range []string{"/label", "/sheet"} {
		s.wants(
			s.ask("GET", named+page, nil),
			200,
			"is-warn off-paper",
			"is there milk and egg in “ricotta and egg yolk”?",
		)
	}
	raw, _ := s.planned(func(r *request.Request) {
		r.Cut.Shape, r.Cut.Filling = "ravioli", request.Filling{Name: "raw mince", Allergens: "none"}
	})
	s.wants(s.ask("GET", raw+"/label", nil), 200, "does “raw mince” go in raw?")

	rice, _ := s.planned(func(r *request.Request) {
		r.Flours = []request.FlourPart{{Flour: "rice", Share: 1, Kept: "paper_bag", ContainsKG: 1}}
	})
	if said := words(s.ask("GET", rice+"/label", nil).Body.String()); strings.Contains(said, "wheat") ||
		!strings.Contains(said, "rice flour for dusting") {
		t.Errorf("rice: %s", said)
	}
	s.wants(s.ask("GET", named+"?at=formula", nil), 200, "of the dough, a portion")
}

// What was made is what paper of it says, by the clock of what happened; the plan is one tap away.
func TestPaperAsMade(t *testing.T) {
	s := newSite(t)
	at, b := s.planned(
		func(r *request.Request) { r.Amount.By, r.Amount.FlourG, r.Keep.Where = request.ByFlour, 1000, "fridge" },
	)
	before := words(s.ask("GET", at+"/sheet", nil).Body.String())
	s.made(b, 317*time.Minute, bench.Ended{})
	sheet, label := words(
		s.ask("GET", at+"/sheet", nil).Body.String(),
	), words(
		s.ask("GET", at+"/label", nil).Body.String(),
	)
	for page, said := range map[string]string{"sheet": sheet, "label": label} {
		if !strings.Contains(said, "Not to be kept: 5 h 17") || !strings.Contains(said, "As it was made, begun") ||
			regexp.MustCompile(`Use by \d`).MatchString(said) {
			t.Errorf("%s after 5 h 17: %.1200s", page, said)
		}
	}
	if dough := regexp.MustCompile(`portions; ([\d,]+) g of dough`); dough.FindString(
		sheet,
	) == dough.FindString(
		before,
	) {
		t.Errorf("60 g more went in, and the sheet says %s", dough.FindString(sheet))
	}
	if again := words(s.ask("GET", at+"/sheet?made=planned", nil).Body.String()); strings.Contains(
		again,
		"As it was made",
	) ||
		!strings.Contains(again, "Use by") {
		t.Errorf("as planned: %.600s", again)
	}

	soon, b := s.planned(func(r *request.Request) { r.Keep.Where = "fridge" })
	s.made(b, 80*time.Minute, bench.Ended{How: bench.OutWeighed, G: 900})
	if said := words(s.ask("GET", soon+"/label", nil).Body.String()); !strings.Contains(
		said,
		"Use by "+storetest.Now().Add(-time.Hour).AddDate(0, 0, 2).Format("2 Jan 2006"),
	) {
		t.Errorf("after 80 min: %s", said)
	}
}

// Thrown away is an ending: it serves no order, costs what it used, stands in log and ledger, and the order is red
// until another serves it.
// Nothing typed is not weighed, nought is nothing.
func TestEndings(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	at, b := s.planned(func(r *request.Request) { r.Name = "Dropped tagliatelle" })
	date := storetest.Now().AddDate(0, 0, 20).Format(time.DateOnly)
	if err := s.store.AddOrders(ctx, []store.Order{{Day: date, Who: "Mole café", What: "tagliatelle", Portions: 4,
		Due: 700, Batch: &b.ID, Note: "no salt"}}); err != nil {
		t.Fatal(err)
	}
	s.made(b, 60*time.Minute, bench.Ended{How: bench.ThrownAway, Text: "fell on the floor", G: 400})
	s.wants(s.ask("GET", "/days/"+date+"/orders", nil), 200, "thrown away: fell on the floor", "Batches they need")
	s.wants(s.ask("GET", "/days/"+date, nil), 200, "<b>Thrown away:</b>", "Mole café")
	s.wants(s.ask("GET", "/days/"+date+"/wall", nil), 200, "thrown away", "no salt")
	s.wants(s.ask("GET", at+"/makings", nil), 200, "thrown away, 400 g: fell on the floor")
	s.wants(s.ask("GET", at+"/label", nil), 200, "Thrown away: fell on the floor")
	s.wants(s.ask("GET", "/log", nil), 200, "thrown away")
	s.wants(s.ask("GET", "/log/ledger?by=shape", nil), 200, "1, 0.4 kg")

	// Another batch serves it, or the same made once more.
	if _, err := s.store.Begin(ctx, b, mustPlan(t, b.Request.Request), storetest.Now()); err != nil {
		t.Fatal(err)
	}
	if body := s.ask("GET", "/days/"+date, nil).Body.String(); strings.Contains(body, "<b>Thrown away:</b>") {
		t.Error("it is made again, and still said to be thrown away")
	}

	for _, c := range []struct {
		end  bench.Ended
		says string
	}{{bench.Ended{}, "not weighed, "}, {bench.Ended{How: bench.OutWeighed}, "nothing came out"}, {bench.Ended{G: 470},
		"470 g came out"}} {
		at, b := s.planned(func(*request.Request) {})
		s.made(b, 60*time.Minute, c.end)
		s.wants(s.ask("GET", at+"/makings", nil), 200, c.says)
	}
	if w := s.tell("/bench/1",
		`{"events":[{"id":"x","what":"ended","of":"thrown_away","at":"`+storetest.Now().UTC().Format(
			time.RFC3339)+`"}]}`); !strings.Contains(
		w.Body.String(),
		"why was it thrown away?",
	) {
		t.Errorf("without a reason: %s", w.Body)
	}
}

func mustPlan(t *testing.T, r request.Request) *plan.Plan {
	t.Helper()
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// A making is ended without scripts: what came out, or that it was thrown away and why.
func TestEndedWithoutScripts(t *testing.T) {
	s := newSite(t)
	for _, c := range []struct {
		form url.Values
		says string
	}{{url.Values{"what": {"ended"}, "g": {"0"}}, "nothing came out"}, {url.Values{"what": {"ended"}}, "not weighed"},
		{url.Values{"what": {"ended"}, "of": {"thrown_away"}, "text": {"sour"}}, "sour"}} {
		w := s.ask("POST", batchAt(demo.Saturday)+"/bench", s.typed(demo.Number(demo.Saturday)))
		at := w.Header().Get("Location")
		s.wants(s.ask("POST", at+"/tap", c.form), 303)
		s.wants(s.ask("GET", at+"/made", nil), 200, c.says)
		time.Sleep(time.Second) // pressed twice it is begun once
	}
}

// The note of an order stands wherever the order does.
func TestNotesEverywhere(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := after(21)
	path := "/days/" + date
	s.wants(
		s.ask(
			"POST",
			path+"/orders",
			url.Values{
				"act":  {"paste"},
				"text": {"Pharos; tagliatelle; 6.5; 12:30; vegan! no egg\nMole; tagliatelle; 4; 13:00"},
			},
		),
		303,
	)
	body := s.ask("GET", path+"/orders", nil).Body.String()
	if n := strings.Count(body, `name="orders" value="`); n != 2 ||
		!strings.Contains(between(body, "Batches they need", "Many at once"), "vegan! no egg") {
		t.Fatalf("%d proposals: %.2000s", n, between(body, "Batches they need", "Many at once"))
	}
	orders, err := s.store.Orders(ctx, date)
	if err != nil {
		t.Fatal(err)
	}
	var mark string
	for _, o := range orders {
		if o.Note != "" {
			mark = fmt.Sprintf("%d.%d", o.ID, o.Version)
		}
	}
	s.wants(
		s.ask("POST", path+"/orders", url.Values{"act": {"make"}, "orders": {mark}, "source": {""}, "one": {"0"}}),
		422,
		"Say what it is made like.",
	)
	s.wants(
		s.ask(
			"POST",
			path+"/orders",
			url.Values{
				"act":    {"make"},
				"orders": {mark},
				"source": {fmt.Sprint(demo.Number(demo.Chandler))},
				"one":    {"0"},
			},
		),
		303,
	)
	s.changed(path, url.Values{"act": {"plan"}})
	for _, page := range []string{"", "/orders", "/wall", "/now", "/set-out", "/day.json", "/day.ics", "/orders.csv"} {
		s.wants(s.ask("GET", path+page, nil), 200, "vegan! no egg")
	}
}

// What if sets the day as it stands beside the other: one plan, one figure.
func TestWhatIfTellsOneFigure(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := storetest.Now().AddDate(0, 0, 22).Format(time.DateOnly)
	path, id := "/days/"+date, demo.Number(demo.Saturday)
	if err := s.store.AddOrders(ctx, []store.Order{{Day: date, Who: "Early", What: "tagliatelle", Portions: 4,
		Due: 8 * 60, Batch: &id}}); err != nil {
		t.Fatal(err)
	}
	s.changed(path, url.Values{"act": {"add"}, "batch": {fmt.Sprint(id)}})
	s.changed(path, url.Values{"act": {"plan"}})
	late := between(
		between(s.ask("GET", path, nil).Body.String(), "In danger", "Ways out"),
		`<div class="num">`,
		"<span",
	)
	if late == "" {
		t.Fatal("the day is on time")
	}
	body := s.ask("GET", path+"/what-if?with=mixer", nil).Body.String()
	if row := words(between(body, "Late, over all orders", "</tr>")); !strings.HasPrefix(row, late+" ") {
		t.Errorf("the day says %q late, what if %q", late, row)
	}
}
