package web

import (
	"context"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"hollen/internal/demo"
	"hollen/internal/store"
)

// atOnce sends a form so many times at the same moment and returns how often each answer came.
func (s site) atOnce(n int, path string, form url.Values) map[int]int {
	out, wait, lock := map[int]int{}, sync.WaitGroup{}, sync.Mutex{}
	for range n {
		wait.Go(func() {
			code := s.ask(http.MethodPost, path, form).Code
			lock.Lock()
			defer lock.Unlock()
			out[code]++
		})
	}
	wait.Wait()
	return out
}

func weekdayOf(t *testing.T, date string) int {
	day, err := time.Parse(time.DateOnly, date)
	if err != nil {
		t.Fatal(err)
	}
	return int(day.Weekday())
}

// proposed is the form that makes all batches the orders of a page need.
func proposed(body string) url.Values {
	all := url.Values{"act": {"make"}}
	for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
		all.Add("orders", strings.SplitN(x, `"`, 2)[0])
		all.Add("source", fmt.Sprint(demo.Number(demo.Saturday)))
	}
	return all
}

// Made in several windows at once, the batches of a day are made once: the day names those that serve the orders, and
// no others are there.
func TestMadeInTwoWindows(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	batches := func() int {
		all, err := s.store.Newest(ctx, -1)
		if err != nil {
			t.Fatal(err)
		}
		return len(all)
	}
	for round := range 4 {
		date := after(40 + round)
		path := "/days/" + date + "/orders"
		s.wants(
			s.ask(
				http.MethodPost,
				path,
				url.Values{
					"act": {"paste"},
					"text": {
						"Slipway inn; tagliatelle; 18; 11:30\nLantern; ravioli; 8; 17:00\nQuay; stringy; 4; 12:00",
					},
				},
			),
			http.StatusSeeOther,
		)
		if round == 3 { // one is of the week
			if err := s.store.SaveStanding(ctx, store.Standing{Weekday: weekdayOf(t, date), Who: "Week",
				What: "tagliatelle", Portions: 3, Due: 700}); err != nil {
				t.Fatal(err)
			}
		}
		was := batches()
		_, body := s.got(http.MethodGet, path, nil)
		all := proposed(body)
		codes := s.atOnce(4, path, all)
		if codes[http.StatusSeeOther] != 1 ||
			codes[http.StatusSeeOther]+codes[http.StatusConflict]+codes[http.StatusUnprocessableEntity] != 4 {
			t.Errorf("%v", codes)
		}
		if n := batches() - was; n != len(all["orders"]) {
			t.Errorf("%d batches for %d that were needed", n, len(all["orders"]))
		}
		d, err := s.store.Day(ctx, date)
		if err != nil {
			t.Fatal(err)
		}
		orders, err := s.store.Orders(ctx, date)
		if err != nil {
			t.Fatal(err)
		}
		var jobs, serve []uint64
		for _, j := range d.Jobs {
			jobs = append(jobs, j.Batch)
		}
		for _, o := range orders {
			if o.Batch == nil {
				t.Fatalf("%s is served by none", o.Who)
			}
			serve = append(serve, *o.Batch)
		}
		slices.Sort(jobs)
		slices.Sort(serve)
		if serve = slices.Compact(serve); !slices.Equal(jobs, serve) {
			t.Errorf("the day has batches %v, its orders %v", jobs, serve)
		}
	}
}

// An order that is another than when the page was made is not made for what it was.
func TestOrderChangedMeanwhile(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := after(52)
	path := "/days/" + date + "/orders"
	s.wants(
		s.ask(
			http.MethodPost,
			path,
			url.Values{"act": {"add"}, "who": {"Quay"}, "what": {"tagliatelle"}, "portions": {"6"}, "when": {"12:00"}},
		),
		http.StatusSeeOther,
	)
	_, body := s.got(http.MethodGet, path, nil)
	all := proposed(body)
	orders, err := s.store.Orders(ctx, date)
	if err != nil {
		t.Fatal(err)
	}
	o := orders[slices.IndexFunc(orders, func(o store.Order) bool { return o.Who == "Quay" })]
	o.Portions = 60
	if err := s.store.SaveOrder(ctx, o); err != nil {
		t.Fatal(err)
	}
	s.wants(
		s.ask(http.MethodPost, path, all),
		http.StatusUnprocessableEntity,
		"The orders have changed meanwhile",
		`value="60"`,
	)
	orders, err = s.store.Orders(ctx, date)
	if o := orders[slices.IndexFunc(orders, func(o store.Order) bool { return o.Who == "Quay" })]; err != nil ||
		o.Batch != nil {
		t.Errorf("served by %d, %v", *o.Batch, err)
	}
}

// An order of the week that another window has kept anew is not dropped, nor taken over as it was.
func TestWeekOrderHasAVersion(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := after(60)
	if err := s.store.SaveStanding(ctx, store.Standing{Weekday: weekdayOf(t, date), Who: "Lock house",
		What: "tagliatelle", Portions: 3, Due: 700}); err != nil {
		t.Fatal(err)
	}
	find := func() store.Standing {
		week, err := s.store.Week(ctx)
		if err != nil {
			t.Fatal(err)
		}
		return week[slices.IndexFunc(week, func(o store.Standing) bool { return o.Who == "Lock house" })]
	}
	was := find()
	more := was
	more.Portions = 9
	if err := s.store.SaveStanding(ctx, more); err != nil {
		t.Fatal(err)
	}
	form := url.Values{"act": {"drop"}, "id": {fmt.Sprint(was.ID)}, "version": {fmt.Sprint(was.Version)}}
	s.wants(
		s.ask(http.MethodPost, "/orders/week", form),
		http.StatusConflict,
		"Another window changed that order meanwhile",
	)
	day := url.Values{
		"act":      {"save"},
		"order":    {fmt.Sprint("w", was.ID)},
		"version":  {fmt.Sprint(was.Version)},
		"who":      {"Lock house"},
		"what":     {"tagliatelle"},
		"portions": {"4"},
		"when":     {"12:00"},
	}
	s.wants(
		s.ask(http.MethodPost, "/days/"+date+"/orders", day),
		http.StatusConflict,
		"Another window changed that order meanwhile",
		`value="9"`,
	)
	form.Set("version", fmt.Sprint(find().Version))
	s.wants(s.ask(http.MethodPost, "/orders/week", form), http.StatusSeeOther)
}

// A form that comes again because its answer was lost makes one order, list, order of the week, batch or recipe’s
// batch; the same typed anew makes
// another.
func TestSentTwiceMakesOne(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := after(70)
	orders := "/days/" + date + "/orders"
	count := func(path string) int {
		switch path {
		case orders:
			all, err := s.store.Orders(ctx, date)
			if err != nil {
				t.Fatal(err)
			}
			return len(all)
		case "/orders/week":
			all, err := s.store.Week(ctx)
			if err != nil {
				t.Fatal(err)
			}
			return len(all)
		}
		all, err := s.store.Newest(ctx, -1)
		if err != nil {
			t.Fatal(err)
		}
		return len(all)
	}
	again := fmt.Sprintf("/batches/%d/duplicate", demo.Number(demo.Saturday))
	for _, c := range []struct {
		page, path string
		form       url.Values
		makes      int
	}{
		{orders, orders, url.Values{"act": {"add"}, "who": {"Quay"}, "what": {"tagliatelle"}, "portions": {"6"},
			"when": {"12:00"}}, 1},
		{orders, orders, url.Values{"act": {"paste"}, "double": {"yes"},
			"text": {"A; tagliatelle; 18; 11:30\nB; ravioli; 8; 17:00"}}, 2},
		{"/orders/week", "/orders/week", url.Values{"weekday": {"6"}, "who": {"Quay"}, "what": {"tagliatelle"},
			"portions": {"6"}, "when": {"12:00"}}, 1},
		{"/batches/new", "/batches", url.Values{"name": {"Twice"}, "amount.by": {"dough"}, "amount.dough_g": {"900"},
			"flours.0.flour": {"strong"}}, 1},
		{strings.Replace(again, "duplicate", "again", 1), again, url.Values{"for": {date}}, 1},
		{"/recipe", "/recipe/batch", url.Values{"text": {"400 g flour\n4 eggs"}, "egg": {"eu-m"}}, 1},
	} {
		for range 2 {
			_, body := s.got(http.MethodGet, c.page, nil)
			once := between(body, `name="once" value="`, `"`)
			if len(once) < 8 {
				t.Errorf("%s has no mark", c.page)
				continue
			}
			c.form.Set("once", once)
			was := count(c.path)
			for code, n := range s.atOnce(3, c.path, c.form) {
				if code != http.StatusSeeOther {
					t.Errorf(
						"%s: %d, %d times: %.600s",
						c.path,
						code,
						n,
						s.log.String()[max(0, len(s.log.String())-600):],
					)
				}
			}
			if n := count(c.path) - was; n != c.makes {
				t.Errorf("%s %v makes %d", c.path, c.form, n)
			}
		}
	}
}

// Of a thing kept in two windows at once under one name the second is asked; said again, there are two. Not so of a
// delivery of another flour.
func TestThingOfTheSameName(t *testing.T) {
	s := newSite(t)
	form := url.Values{"id": {"0"}, "name": {"Widgeon"}}
	codes := s.atOnce(4, "/cabinet/makers", form)
	if codes[http.StatusSeeOther] != 1 || codes[http.StatusConflict] != 3 {
		t.Errorf("%v", codes)
	}
	s.wants(
		s.ask(http.MethodPost, "/cabinet/makers", form),
		http.StatusConflict,
		"Widgeon</span> is on this shelf already",
		`name="even"`,
		`value="Widgeon"`,
	)
	form.Set("even", "yes")
	s.wants(s.ask(http.MethodPost, "/cabinet/makers", form), http.StatusSeeOther)
	cab, err := s.store.Cabinet(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	n := 0
	for _, m := range cab.Makers {
		if m.Name == "Widgeon" {
			n++
		}
	}
	if n != 2 {
		t.Errorf("%d", n)
	}
}

// Many screens that say something of one making at the same time queue for it, also when it has ended: nobody is told
// to come again, and nothing is lost.
func TestManyTapAtOnce(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	at := s.begin(demo.Saturday)
	const screens, taps = 32, 4
	for _, ended := range []bool{false, true} {
		if ended {
			s.tell(at, fmt.Sprintf(`{"events":[{"id":"the-end","what":"ended","at":%q}]}`, s.now()))
		}
		_, was, err := s.store.Events(ctx, newMade, 0)
		if err != nil {
			t.Fatal(err)
		}
		var wait sync.WaitGroup
		for k := range screens {
			wait.Go(func() {
				for i := range taps {
					doc := fmt.Sprintf(
						`{"events":[{"id":"tap-%v-%d-%d","what":"note","text":"x","at":%q}]}`,
						ended,
						k,
						i,
						s.now(),
					)
					if w := s.tell(at, doc); w.Code != http.StatusOK {
						t.Errorf("%d %s", w.Code, w.Body)
					}
				}
			})
		}
		wait.Wait()
		if _, place, err := s.store.Events(ctx, newMade, 0); err != nil || place != was+screens*taps {
			t.Errorf("%d events of %d, %v", place-was, screens*taps, err)
		}
	}
}

// now is the moment as an event has it.
func (s site) now() string { return s.store.Now().UTC().Format(time.RFC3339Nano) }
