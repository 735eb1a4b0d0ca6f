package web

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"html"
	"log/slog"
	"math"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	ics "github.com/arran4/golang-ical"

	"hollen/internal/core/day"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
	"hollen/internal/workshop"
)

// onDate is the address of the workshop’s day, under way.
func onDate() string { return "/days/" + demo.Date(storetest.Now()) }

// got is what an address answers.
func (s site) got(method, path string, v url.Values) (int, string) {
	s.Helper()
	w := s.ask(method, path, v)
	return w.Code, w.Body.String()
}

// changed posts a change of a day as it stands.
func (s site) changed(path string, v url.Values) (int, string) {
	s.Helper()
	v.Set("version", s.open(path))
	return s.got(http.MethodPost, path, v)
}

// The day under way is there in every form: page, list, phone, document and calendar, and all say the same.
func TestDayInEveryForm(t *testing.T) {
	s := newSite(t)
	d, err := s.store.Day(context.Background(), demo.Date(storetest.Now()))
	if err != nil || !d.Planned() || len(d.Jobs) != 5 || len(d.Shop.People) != 2 {
		t.Fatalf("%v %+v", err, d.Jobs)
	}
	for _, part := range []string{"", "/orders", "/wall", "/now", "/what-if", "/ways", "/set-out"} {
		if code, body := s.got(http.MethodGet, onDate()+part, nil); code != http.StatusOK || strings.Contains(body,
			"could not be drawn") {
			t.Errorf("%s: %d", part, code)
		}
	}
	_, body := s.got(http.MethodGet, onDate()+"/day.json", nil)
	var doc struct {
		Format string
		Tasks  []struct {
			Start, Minutes int
			By, Key        string
		}
		Orders []struct{ Ready *int }
	}
	if err := json.Unmarshal([]byte(body), &doc); err != nil || doc.Format != "hollen-day/1" ||
		len(doc.Tasks) != len(d.Slots) || len(doc.Orders) != 3 {
		t.Fatalf("%v %+v", err, doc)
	}
	_, body = s.got(http.MethodGet, onDate()+"/day.ics?who=Linde", nil)
	cal, err := ics.ParseCalendar(strings.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	n := 0
	for _, x := range doc.Tasks {
		if x.By == "Linde" {
			n++
		}
	}
	if len(cal.Events()) != n || n == 0 {
		t.Errorf("%d events of Linde’s, want %d", len(cal.Events()), n)
	}
	for _, e := range cal.Events() {
		if at, err := e.GetStartAt(); err != nil || at.IsZero() {
			t.Errorf("%s: %v", e.Id(), err)
		}
	}
}

// Whatever is posted to a day, it answers, and what is not a change changes nothing.
func TestHostileDay(t *testing.T) {
	s := newSite(t)
	path := onDate()
	acts := []string{"plan", "move", "pin", "let_go", "wish", "mark", "kit", "add", "drop", "leave", "part", "cooked",
		"take", "undo", "nonsense", ""}
	for _, act := range acts {
		for _, v := range []url.Values{{}, {"version": {"1"}}, {"version": {"1"}, "task": {"7.roll.1"}, "to": {"99:99"},
			"by": {"nobody"}},
			{"version": {"1"}, "task": {"7.roll.1"}, "to_min": {"-5"}}, {"version": {"1"}, "batch": {"999999"},
				"part": {"all"}},
			{"version": {"999"}, "task": {"x"}}, {"version": {"1"}, "open": {"NaN"}, "p0_name": {strings.Repeat("x",
				300)}, "p0_pace": {"1e9"}},
			{"version": {"1"}, "task": {"7.roll.1"}, "not_before": {"noon"}, "not_by": {"Linde", "Osk"}}} {
			v.Set("act", act)
			if code, _ := s.got(http.MethodPost, path, v); code >= 500 {
				t.Errorf("%s %v: %d", act, v, code)
			}
		}
	}
	for _, act := range []string{"add", "save", "drop", "paste", "make", "x"} {
		for _, v := range []url.Values{{}, {"order": {"99"}, "version": {"1"}}, {"who": {strings.Repeat("é", 500)},
			"portions": {"-1"}, "when": {"24:01"}},
			{"text": {strings.Repeat("a;b;1;9:00\n", 400)}}, {"source": {"999999"}, "orders": {"1,2"}},
			{"source": {"7"}, "orders": {"w9,w8"}}} {
			v.Set("act", act)
			if code, _ := s.got(http.MethodPost, path+"/orders", v); code >= 500 {
				t.Errorf("orders %s %v: %d", act, v, code)
			}
		}
	}
	for _, p := range []string{"/days/yesterday", "/days/2026-02-31", "/days/1999-01-01", "/days/2026-11-28x/orders"} {
		if code, _ := s.got(http.MethodGet, p, nil); code != http.StatusNotFound {
			t.Errorf("%s: %d", p, code)
		}
	}
}

// A task that was moved can be moved again, also once the day was planned around it; what is pinned stays where another
// is moved.
func TestMovedAgain(t *testing.T) {
	s := newSite(t)
	path := "/days/" + storetest.Now().AddDate(0, 1, 6).Format(time.DateOnly)
	post := func(v url.Values) (int, string) { return s.changed(path, v) }
	starts := func() map[string]int {
		t.Helper()
		var doc struct {
			Tasks []struct {
				Key   string
				Start int
			}
		}
		_, body := s.got(http.MethodGet, path+"/day.json", nil)
		if err := json.Unmarshal([]byte(body), &doc); err != nil {
			t.Fatal(err)
		}
		at := map[string]int{}
		for _, x := range doc.Tasks {
			at[x.Key] = x.Start
		}
		return at
	}
	first, second := demo.Number(demo.Saturday), demo.Number(demo.Saltmarsh)
	post(url.Values{"act": {"add"}, "batch": {fmt.Sprint(first)}})
	post(url.Values{"act": {"add"}, "batch": {fmt.Sprint(second)}})
	post(url.Values{"act": {"plan"}})
	roll := fmt.Sprintf("%d.roll.1", first)
	was := starts()[roll] - 90
	if code, body := post(url.Values{"act": {"move"}, "task": {roll}, "to_min": {fmt.Sprint(was +
		115)}}); code != http.StatusUnprocessableEntity ||
		!strings.Contains(body, "would then come after closing.") {
		t.Errorf("past closing: %d, %s", code, between(body, `role="alert">`, "</div>"))
	}
	for _, by := range []int{10, 25, -5} {
		if code, body := post(url.Values{"act": {"move"}, "task": {roll}, "to_min": {fmt.Sprint(was +
			by)}}); code != http.StatusSeeOther ||
			starts()[roll] != was+by {
			t.Fatalf("by %d: %d, %d: %s", by, code, starts()[roll]-was, between(body, `role="alert">`, "</div>"))
		}
		post(url.Values{"act": {"plan"}})
		if got := starts()[roll]; got != was+by {
			t.Fatalf("planned anew, what is pinned starts %d min off", got-was-by)
		}
	}
	at := starts()[roll]
	if code, _ := post(url.Values{"act": {"move"}, "task": {roll}, "later": {"5"}}); code != http.StatusSeeOther ||
		starts()[roll] != at+5 {
		t.Errorf("five minutes later: %d, %d min", code, starts()[roll]-at)
	}
	post(url.Values{"act": {"move"}, "task": {roll}, "later": {"-5"}})
	for later, said := range map[string]string{"999": "at most 240", "x": "whole minutes", "-99999": "at most 240"} {
		code, body := post(url.Values{"act": {"move"}, "task": {roll}, "later": {later}})
		if code != http.StatusUnprocessableEntity || !strings.Contains(body, said) {
			t.Errorf("%s minutes later: %d, %s", later, code, between(body, `role="alert">`, "</div>"))
		}
	}
	if _, body := post(url.Values{"act": {"move"}, "task": {"99.roll.1"}, "later": {"5"}}); !strings.Contains(body,
		"not on the day any more") {
		t.Errorf("a task that is gone: %s", between(body, `role="alert">`, "</div>"))
	}
	knead := fmt.Sprintf("%d.knead.1", second)
	for by := -60; by <= 60; by += 5 {
		if code, _ := post(url.Values{"act": {"move"}, "task": {knead}, "to_min": {fmt.Sprint(starts()[knead] +
			by)}}); code == http.StatusSeeOther &&
			starts()[roll] != was-5 {
			t.Fatalf("what is pinned moves %d min with another", starts()[roll]-was+5)
		}
	}
}

// In feet the rack is shown, read and refused in feet; what is shown rounded and sent back untouched stays what it was.
func TestRackInFeet(t *testing.T) {
	s := newSite(t)
	date := storetest.Now().AddDate(0, 1, 7).Format(time.DateOnly)
	us := func(r *http.Request) { r.AddCookie(&http.Cookie{Name: "units", Value: "us"}) }
	post := func(rack string, status int, parts ...string) {
		t.Helper()
		v := url.Values{"act": {"kit"}, "version": {s.open("/days/" + date)}, "rack": {rack}, "p0_name": {"Ada"},
			"p0_pace": {"100"}}
		s.wants(s.ask(http.MethodPost, "/days/"+date, v, us), status, parts...)
	}
	rack := func() float64 {
		t.Helper()
		d, err := s.store.Day(context.Background(), date)
		if err != nil {
			t.Fatal(err)
		}
		return d.Shop.RackM
	}
	post("45.9", http.StatusSeeOther)
	s.wants(s.ask(http.MethodGet, "/days/"+date, nil, us), http.StatusOK, `value="45.9"`, "ft of rod")
	if was := rack(); math.Abs(was-13.99) > .01 {
		t.Errorf("45.9 ft are %v m", was)
	} else if post("45.9", http.StatusSeeOther); rack() != was {
		t.Errorf("sent back untouched: %v m, not %v", rack(), was)
	}
	post("9999", http.StatusUnprocessableEntity, "0 to 1,640.42 ft is allowed.", `value="9999"`)
}

// All batches orders need are made by one key; what cannot be made is told by its proposal, where the others’ choices
// stay. Whole eggs never leave a batch short of what is ordered of it.
func TestBatchesForOrders(t *testing.T) {
	s := newSite(t)
	path := "/days/" + after(30) + "/orders"
	lines := "Slipway inn; tagliatelle; 18; 11:30\nNet loft; the usual; 12; 14:30\nLantern; ravioli; 8; " +
		"17:00\nKiosk; pappardelle; 3; 15:00"
	s.wants(s.ask(http.MethodPost, path, url.Values{"act": {"paste"}, "text": {lines}}), http.StatusSeeOther)
	_, body := s.got(http.MethodGet, path, nil)
	all := url.Values{"act": {"make"}}
	for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
		all.Add("orders", strings.SplitN(x, `"`, 2)[0])
		if at := strings.Index(x, "selected"); at >= 0 && at < strings.Index(x, "</select>") {
			v := x[:at]
			v = v[strings.LastIndex(v, `value="`)+7:]
			all.Add("source", strings.SplitN(v, `"`, 2)[0])
		} else {
			all.Add("source", "")
		}
	}
	if len(all["orders"]) != 4 || strings.Join(all["source"], " ") != "recipe-7  recipe-4 " ||
		!strings.Contains(body, "What fits is dried or frozen.") {
		t.Fatalf("%v", all)
	}
	all["source"][3] = fmt.Sprint(demo.Number(demo.Lantern)) // frozen: chosen, never taken
	all["source"][2] = fmt.Sprint(demo.Number(demo.Green))
	w := s.ask(http.MethodPost, path, all)
	s.wants(w, http.StatusUnprocessableEntity, "Say what it is made like.", "Tagliatelle for Slipway inn</a>")
	if n := strings.Count(w.Body.String(), `name="orders" value="`); n != 1 {
		t.Errorf("%d proposals are left", n)
	}
	made, err := s.store.BatchesOf(context.Background(), 7, 1)
	if err != nil || len(made) != 1 || made[0].Row.Name != "Tagliatelle for Slipway inn" ||
		made[0].Row.Portions < 18*.98 ||
		made[0].Request.MadeOn == "" {
		t.Errorf("%+v, %v", made, err)
	}
	one := url.Values{"act": {"make"}, "orders": {all["orders"][1]}, "source": {fmt.Sprint(demo.Number(
		demo.Saltmarsh))}, "one": {"0"}}
	s.wants(s.ask(http.MethodPost, path, one), http.StatusSeeOther)
	_, body = s.got(http.MethodGet, path, nil)
	if strings.Contains(body, "are ordered of it") || strings.Contains(body, `name="orders"`) || strings.Count(body,
		"From ") != 4 {
		t.Errorf("%.3000s", body[strings.Index(body, "<main"):])
	}
}

// Orders for two shapes of one dough can come from one batch, the sum of both, each its portions; a filled shape is not
// offered it.
func TestTwoShapesFromOneDough(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	b, err := s.store.Get(ctx, demo.Number(demo.Saturday))
	if err != nil {
		t.Fatal(err)
	}
	r := b.Request.Request
	r.Name, r.Cut.Shape = "House pappardelle", "pappardelle"
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.store.Create(ctx, p); err != nil {
		t.Fatal(err)
	}
	date := after(35)
	path := "/days/" + date + "/orders"
	s.ask(http.MethodPost, path, url.Values{"act": {"paste"},
		"text": {"Lantern; ravioli; 8; 17:00\nSlipway inn; tagliatelle; 10; 11:30\nNet loft; house pappardelle; 6; " +
			"14:30"}})
	_, body := s.got(http.MethodGet, path, nil)
	if strings.Count(body, "from one dough with:") != 1 || !strings.Contains(body, "from one dough with: tagliatelle") {
		t.Fatalf("%.3000s", between(body, "Batches they need", "Many at once"))
	}
	var marks []string
	for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
		marks = append(marks, strings.SplitN(x, `"`, 2)[0])
	}
	var at [3]int // by when they are due
	for i, x := range strings.Split(body, `name="orders" value="`)[1:] {
		at[slices.Index([]string{"tagliatelle", "house pappardelle", "ravioli"}, between(x, `<b translate="no">`,
			"</b>"))] = i
	}
	form := url.Values{"act": {"make"}, "orders": marks, "source": make([]string, 3)}
	form["source"][at[0]], form["source"][at[1]] = fmt.Sprint(b.ID), "with-"+marks[at[0]]
	form["source"][at[2]] = "with-" + marks[at[1]] // by hand: nobody offers it
	w := s.ask(http.MethodPost, path, form)
	s.wants(w, http.StatusUnprocessableEntity, "ravioli cannot be cut from that dough.")
	form["source"][at[2]] = fmt.Sprint(demo.Number(demo.Lantern))
	form.Set("one", fmt.Sprint(at[1]))
	s.wants(s.ask(http.MethodPost, path, form), http.StatusSeeOther)
	d, err := s.store.Day(ctx, date)
	if err != nil || len(d.Jobs) != 1 {
		t.Fatalf("%v, %d batches on the day", err, len(d.Jobs))
	}
	made, err := s.store.Get(ctx, d.Jobs[0].Batch)
	if err != nil {
		t.Fatal(err)
	}
	q := made.Request.Request
	if made.Row.Name != "Tagliatelle and pappardelle for Slipway inn and Net loft" || q.Cut.Shape != "tagliatelle" ||
		len(q.Cut.Also) != 1 ||
		q.Cut.Also[0].Shape != "pappardelle" || q.Cut.Also[0].Portions != 6 ||
		made.Row.Portions < 16*rules.Default().Day.EnoughShare {
		t.Errorf("%s: %+v, %v portions", made.Row.Name, q.Cut.Also, made.Row.Portions)
	}
	orders, err := s.store.Orders(ctx, date)
	if err != nil {
		t.Fatal(err)
	}
	for _, o := range orders {
		if served := o.Batch != nil && *o.Batch == made.ID; served != (o.Who != "Lantern") {
			t.Errorf("%s: served %v", o.Who, served)
		}
	}
}

// Two orders of one dough that are of one shape, too, are one batch of that shape alone.
func TestSameShapeFromOneDough(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	b, err := s.store.Get(ctx, demo.Number(demo.Saturday))
	if err != nil {
		t.Fatal(err)
	}
	r := b.Request.Request
	r.Name = "House tagliatelle"
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	house, err := s.store.Create(ctx, p)
	if err != nil {
		t.Fatal(err)
	}
	date := after(35)
	path := "/days/" + date + "/orders"
	s.ask(http.MethodPost, path, url.Values{"act": {"paste"}, "text": {"Slipway inn; tagliatelle; 10; 11:30\nQuay; " +
		"house tagliatelle; 4; 12:00"}})
	_, body := s.got(http.MethodGet, path, nil)
	var marks []string
	for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
		marks = append(marks, strings.SplitN(x, `"`, 2)[0])
	}
	if len(marks) != 2 || !strings.Contains(body, `value="with-`+marks[0]+`"`) {
		t.Fatalf("%v: %.2000s", marks, between(body, "Batches they need", "Many at once"))
	}
	s.wants(s.ask(http.MethodPost, path, url.Values{"act": {"make"}, "orders": marks, "source": {fmt.Sprint(house.ID),
		"with-" + marks[0]}}), http.StatusSeeOther)
	d, err := s.store.Day(ctx, date)
	if err != nil || len(d.Jobs) != 1 {
		t.Fatalf("%v, %d batches on the day", err, len(d.Jobs))
	}
	made, err := s.store.Get(ctx, d.Jobs[0].Batch)
	if err != nil || made.Row.Name != "Tagliatelle for Slipway inn and Quay" || len(made.Request.Cut.Also) > 0 ||
		made.Row.Portions < 13.7 {
		t.Errorf("%v, %s: %+v, %v portions", err, made.Row.Name, made.Request.Cut.Also, made.Row.Portions)
	}
}

// An order before opening is said to be late, a rest longer than the day and work nobody does are said with the nearest
// that can be.
func TestImpossibleDays(t *testing.T) {
	s := newSite(t)
	path := "/days/" + storetest.Now().AddDate(0, 1, 3).Format(time.DateOnly)
	post := func(v url.Values) (int, string) { return s.changed(path, v) }
	kit := func(change ...string) url.Values {
		v := url.Values{"act": {"kit"}, "open": {"8:00"}, "close": {"18:00"}, "breaks": {""}, "rollers": {"1"},
			"mixers": {"0"}, "rack": {"12"}, "trays": {"10"},
			"fridge": {"4"}, "pots": {"1"}, "margin": {"15"}, "roller_from": {"clean"}, "p0_name": {"Ada"},
			"p0_pace": {"100"}}
		for i := 0; i < len(change); i += 2 {
			v.Set(change[i], change[i+1])
		}
		return v
	}
	post(kit())
	post(url.Values{"act": {"add"}, "batch": {fmt.Sprint(demo.Number(demo.Saltmarsh))}})
	if code, _ := post(url.Values{"act": {"plan"}}); code != http.StatusSeeOther {
		t.Fatalf("planned: %d", code)
	}
	for name, c := range map[string]struct{ change, says []string }{
		"nobody kneads": {[]string{"p0_cannot", "knead"}, []string{"nobody can do “mix and knead”",
			"Say who does it"}},
		"a day of half an hour": {[]string{"close", "8:30"}, []string{"takes longer than the hours there are",
			"more would do"}},
		"too little rack": {[]string{"rack", "0.5"}, []string{"m of rack at once", "a smaller batch"}},
	} {
		code, body := post(kit(c.change...))
		if code != http.StatusUnprocessableEntity {
			t.Errorf("%s: %d", name, code)
		}
		for _, say := range c.says {
			if !strings.Contains(body, say) {
				t.Errorf("%s does not say %q", name, say)
			}
		}
		if !strings.Contains(body, "day-lanes") {
			t.Errorf("%s: the plan there was is gone", name)
		}
	}
	ctx := context.Background()
	date := strings.TrimPrefix(path, "/days/")
	id := demo.Number(demo.Saltmarsh)
	if err := s.store.AddOrders(ctx, []store.Order{{Day: date, Who: "Dawn boat", What: "pappardelle", Portions: 4,
		Due: 7 * 60, Batch: &id}}); err != nil {
		t.Fatal(err)
	}
	if code, _ := post(url.Values{"act": {"plan"}}); code != http.StatusSeeOther {
		t.Fatalf("planned: %d", code)
	}
	_, body := s.got(http.MethodGet, path, nil)
	if !strings.Contains(body, "In danger") || !strings.Contains(body, "Dawn boat") {
		t.Error("an order before opening is not in danger")
	}
	if _, body = s.got(http.MethodGet, path+"/ways", nil); !strings.Contains(body, "earlier") {
		t.Errorf("no way out: %s", between(body, "<main", "</main>"))
	}
}

// Two pages of one version: the first to be sent wins, the second is told and loses nothing.
func TestDayInTwoWindows(t *testing.T) {
	s := newSite(t)
	v := s.open(onDate())
	task := url.Values{"act": {"pin"}, "task": {"6.roll.1"}, "version": {v}}
	if code, _ := s.got(http.MethodPost, onDate(), task); code != http.StatusSeeOther {
		t.Fatalf("pinned: %d", code)
	}
	code, body := s.got(http.MethodPost, onDate(), url.Values{"act": {"pin"}, "task": {"8.roll.1"}, "version": {v}})
	if code != http.StatusConflict || !strings.Contains(body, "Another window changed the day meanwhile") {
		t.Errorf("%d", code)
	}
	if code, _ = s.got(http.MethodPost, onDate(), url.Values{"act": {"undo"},
		"version": {s.open(onDate())}}); code != http.StatusSeeOther {
		t.Errorf("taken back: %d", code)
	}
	if code, _ = s.got(http.MethodPost, onDate(), url.Values{"act": {"undo"},
		"version": {s.open(onDate())}}); code != http.StatusConflict {
		t.Errorf("there was nothing more to take back: %d", code)
	}
}

// BenchmarkDayPage shows a planned day of six batches, and of sixty.
func BenchmarkDayPage(b *testing.B) {
	for _, n := range []int{6, 60} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			s := newSite(b)
			date := manyBatches(b, s, n)
			s.ask(http.MethodGet, "/days/"+date, nil) // its template is made ready once
			b.ResetTimer()
			for b.Loop() {
				if code, _ := s.got(http.MethodGet, "/days/"+date, nil); code != http.StatusOK {
					b.Fatal(code)
				}
			}
		})
	}
}

// manyBatches keeps a planned day of so many batches, of the workshop’s own, ten hours long for every twelve of them.
func manyBatches(t testing.TB, s site, n int) string {
	t.Helper()
	ctx := context.Background()
	date := storetest.Now().AddDate(0, 2, 0).Format(time.DateOnly)
	b, err := s.store.Get(ctx, demo.Number(demo.Saturday))
	if err != nil {
		t.Fatal(err)
	}
	srv := newServer(workshop.New(s.store, rules.Default(), slog.New(slog.DiscardHandler)), Access{}).day
	at, _ := time.ParseInLocation(time.DateOnly, date, time.Local)
	d, err := srv.ReadDay(ctx, date, at)
	if err != nil {
		t.Fatal(err)
	}
	d.Shop.OpenAt, d.Shop.CloseAt, d.Shop.RackM = 0, 600*(1+n/12), 40
	r := b.Request.Request
	for i := range n {
		r.Name = fmt.Sprint("Tagliatelle ", i+1)
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		kept, err := s.store.Create(ctx, p)
		if err != nil {
			t.Fatal(err)
		}
		d.Jobs = append(d.Jobs, day.Job{Batch: kept.ID})
		d.Versions[kept.ID] = kept.Version
	}
	if trouble, err := srv.PlanDay(ctx, d); err != nil || len(trouble) > 0 {
		t.Fatal(err, trouble)
	}
	if _, err = s.store.SaveDay(ctx, date, 0, d.Sheet); err != nil {
		t.Fatal(err)
	}
	return date
}

// A batch that is deleted while it is on a day is said, breaks no page, and the day can be planned without it.
func TestDeletedFromADay(t *testing.T) {
	s := newSite(t)
	if err := s.store.Delete(context.Background(), demo.Number(demo.Service)); err != nil {
		t.Fatal(err)
	}
	for _, part := range []string{"", "/orders", "/wall", "/now", "/what-if", "/ways", "/set-out", "/day.json",
		"/day.ics"} {
		if code, _ := s.got(http.MethodGet, onDate()+part, nil); code != http.StatusOK {
			t.Errorf("%s: %d", part, code)
		}
	}
	if code, _ := s.got(http.MethodPost, onDate(), url.Values{"act": {"plan"},
		"version": {s.open(onDate())}}); code >= 500 {
		t.Errorf("planned: %d", code)
	}
	if code, body := s.got(http.MethodGet, onDate(), nil); code != http.StatusOK || !strings.Contains(body,
		"What was ordered is not on the day") {
		t.Errorf("%d", code)
	}
}

// after is the day so many after the one under way, which lasts past midnight: what recurs in the demo stands on its
// days of the week.
func after(days int) string {
	day, err := time.Parse(time.DateOnly, demo.Date(storetest.Now()))
	if err != nil {
		panic(err)
	}
	return day.AddDate(0, 0, days).Format(time.DateOnly)
}

// Dough that is out of the fridge for longer than it should be is spoken of wherever the day is looked at: on its page,
// the list for the wall and the phone; where it is in time nothing is said.
func TestLongOutOfTheFridgeOnEveryScreen(t *testing.T) {
	s := newSite(t)
	ctx, date := context.Background(), demo.Date(storetest.Now())
	d, err := s.store.Day(ctx, date)
	if err != nil || len(d.Sheet.Day.Waits) == 0 {
		t.Fatal(err, d.Sheet.Day.Waits)
	}
	said := regexp.MustCompile(`its egg dough is out of the fridge from [0-9:]+ to [0-9:]+, ` +
		`[^<]* in all, and should be packed`)
	for _, limit := range []int{24 * 60, 1} {
		for i := range d.Sheet.Day.Waits {
			d.Sheet.Day.Waits[i].Limit = limit
		}
		if d.Version, err = s.store.SaveDay(ctx, date, d.Version, d.Sheet); err != nil {
			t.Fatal(err)
		}
		for _, part := range []string{"", "/wall", "/now"} {
			_, body := s.got(http.MethodGet, "/days/"+date+part, nil)
			if said.MatchString(body) != (limit == 1) {
				t.Errorf("%s, with a limit of %d min: said %v", part, limit, said.MatchString(body))
			}
		}
	}
}

// Orders come as they are said: in portions, kilos, pieces and boxes, several in one message, for another day, after
// midnight; what is not known is asked at its line, and nothing is guessed.
func TestOrdersAsTheyAreSaid(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := after(12)
	at := "/days/" + date + "/orders"
	next := s.store.Now().AddDate(0, 0, 1).Format(time.DateOnly)
	text := "6 tagliatelle and 5 kg pappardelle for the Pharos at noon (in nests)\n" +
		"Quay inn: 40 pieces of lantern ravioli, half past ten\n8 tagliatelle for Dawn boat tomorrow 9\n" +
		"Late bar; tagliatelle; 4; 24:01\n3 trays of lasagne for Mole at 11\n2 boxes of orecchiette for Hotel at 12"
	w := s.ask("POST", at, url.Values{"act": {"paste"}, "text": {text}, "once": {"abcdefgh23456789"}})
	s.wants(w, 422, "6 orders added: 1 on", "Line 5", "said in trays", "3 trays of lasagne for Mole at 11")
	w = s.ask("POST", at, url.Values{"act": {"paste"}, "text": {text}, "once": {"abcdefgh23456789"}})
	s.wants(w, 422)
	all, err := s.store.Orders(ctx, date)
	if err != nil || len(all) != 5 {
		t.Fatalf("%d orders, %v: %+v", len(all), err, all)
	}
	find := func(who, what string) store.Order {
		all, _ := s.store.Orders(ctx, date)
		for _, o := range all {
			if strings.Contains(o.Who, who) && strings.Contains(o.What, what) {
				return o
			}
		}
		t.Fatalf("no order of %s for %s", what, who)
		return store.Order{}
	}
	one, two := find("Pharos", "tagl"), find("Pharos", "papp")
	if one.Message == "" || one.Message != two.Message || two.Said().N != 5000 || two.Note != "in nests" {
		t.Errorf("%+v %+v", one, two)
	}
	if o := find("Late", ""); o.Due != 1441 {
		t.Errorf("%+v", o)
	}
	if tomorrow, _ := s.store.Orders(ctx, next); len(tomorrow) < 1 {
		t.Errorf("%+v on %s", tomorrow, next)
	}
	s.wants(s.ask("GET", at, nil), 200, `value="5 kg"`, `value="40 pieces"`, `value="24:01"`,
		"2 boxes for Hotel: its recipe says nothing of boxes", "40 pieces for Quay inn")

	// There and back it is the same.
	csv := s.ask("GET", at+".csv", nil).Body.String()
	if !strings.HasPrefix(csv, "\ufeff") || !strings.Contains(csv, "24:01\r\n") && !strings.Contains(csv, "24:01,") {
		t.Errorf("%q", csv)
	}
	other := after(19)
	back := "/days/" + other + "/orders"
	s.wants(s.ask("POST", back, url.Values{"act": {"paste"}, "text": {csv}}), 303)
	again, _ := s.store.Orders(ctx, other)
	for i, o := range again {
		if was := all[i]; o.Who != was.Who || o.Said() != was.Said() || o.Due != was.Due || o.Note != was.Note {
			t.Errorf("%+v came back as %+v", was, o)
		}
	}

	// A box is said at the recipe, and then reckoned; what is made serves what was said.
	s.wants(s.ask("POST", "/recipes/9", url.Values{"version": {"1"}, "name": {"Orecchiette"}, "other_names": {""},
		"box_g": {"lots"}}), 422, `value="lots"`, "A weight as 500 g")
	s.wants(s.ask("POST", "/recipes/9", url.Values{"version": {"1"}, "name": {"Orecchiette"}, "other_names": {""},
		"box_g": {"500 g"}}), 303)
	_, body := s.got("GET", at, nil)
	if strings.Contains(body, "says nothing of boxes") {
		t.Error("boxes are still asked about")
	}
	form := url.Values{"act": {"make"}}
	for _, block := range strings.Split(body, `name="orders" value="`)[1:] {
		form.Add("orders", block[:strings.Index(block, `"`)])
		choice := block[strings.Index(block, "<select"):]
		source := ""
		if i := strings.Index(choice[:strings.Index(choice, "</select>")], "selected"); i > 0 {
			v := choice[:i]
			v = v[strings.LastIndex(v, `value="`)+7:]
			source = v[:strings.Index(v, `"`)]
		}
		if strings.Contains(block[:strings.Index(block, "</li>")], "lantern") {
			source = "recipe-8"
		}
		if source == "" {
			source = "recipe-4"
		}
		form.Add("source", source)
	}
	if w := s.ask("POST", at, form); w.Code != 303 {
		t.Fatalf("%.2500s", words(w.Body.String()))
	}
	papp := find("Pharos", "papp")
	b, err := s.store.Get(ctx, *papp.Batch)
	if err != nil {
		t.Fatal(err)
	}
	p, err := plan.Make(rules.Default(), b.Request.Request)
	if made := p.Formula.Portions * p.Formula.PortionG; err != nil || made < 4900 || math.Abs(
		papp.Portions*p.Formula.PortionG-5000) > 1 {
		t.Errorf("%.0f g of dough for 5 kg, reckoned as %.1f portions", made, papp.Portions)
	}
	if o := find("Hotel", ""); o.Portions <= 0 || o.Said().Words() != "2 boxes" {
		t.Errorf("%+v", o)
	}
	s.wants(s.ask("GET", "/days/"+date+"/wall", nil), 200, "5 kg", "40 pieces", "2 boxes")
}

// A list is read as spreadsheets write it: in any order of its heads, in Windows letters or UTF-16.
func TestOrderFiles(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := after(13)
	at := "/days/" + date + "/orders"
	list := "Menge;Was;Wann;Kunde;Bemerkung\r\n5 kg;Tagliatelle;11:30;Hotel Düne;ohne Ei\r\n"
	latin := strings.Replace(list, "ü", "\xfc", 1)
	var wide []byte
	wide = append(wide, 0xff, 0xfe)
	for _, r := range strings.Replace(list, "Düne", "Höhe", 1) {
		wide = append(wide, byte(r), byte(r>>8))
	}
	before, _ := s.store.Orders(ctx, date)
	for _, raw := range [][]byte{[]byte(latin), wide} {
		if w := s.sendFile(at, url.Values{"act": {"paste"}}, "file", "orders.csv", raw); w.Code != 303 {
			t.Errorf("%d %.900s", w.Code, words(w.Body.String()))
		}
	}
	all, _ := s.store.Orders(ctx, date)
	var who []string
	for _, o := range all {
		who = append(who, o.Who)
	}
	if said := strings.Join(who, ","); len(all) != len(before)+2 || !strings.Contains(said, "Hotel Düne") ||
		!strings.Contains(said, "Hotel Höhe") {
		t.Errorf("%v", who)
	}
	w := s.sendFile(at, url.Values{"act": {"paste"}, "text": {"typed; x; 1; 9"}}, "file", "x.csv", []byte("a\x00b"))
	s.wants(w, 422, "save it as CSV", "typed; x; 1; 9")
}

// Of several recipes that an order may mean it is asked with what tells them apart.
func TestSeveralRecipesToldApart(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("POST", batchAt(demo.Counter)+"/recipe", url.Values{"name": {"Trays"},
		"other_names": {"egg ribbons"}}), 303)
	at := "/days/" + after(12) + "/orders"
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {"Net loft; Egg Ribbons; 6; 12:00"}}), 303)
	s.wants(s.ask("GET", at, nil), 200, "Several fit, and differ.", "recipe: Tagliatelle: ", "recipe: Trays: ",
		"made yet")
}

// What a customer took for the same words before is proposed and shown as such; nothing is taken by itself.
func TestTakenBefore(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	first, then := after(12), after(19)
	line := url.Values{"act": {"paste"}, "text": {"Net loft; the house ribbons; 6; 12:00"}}
	s.wants(s.ask("POST", "/days/"+first+"/orders", line), 303)
	_, body := s.got("GET", "/days/"+first+"/orders", nil)
	if !strings.Contains(body, "Nothing here is called that.") || strings.Contains(body, " took ") {
		t.Error("it is not asked what the house ribbons are")
	}
	form := url.Values{"act": {"make"}, "source": {"recipe-4"}}
	for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
		form.Add("orders", x[:strings.Index(x, `"`)])
	}
	s.wants(s.ask("POST", "/days/"+first+"/orders", form), 303)
	s.wants(s.ask("POST", "/days/"+then+"/orders", line), 303)
	s.wants(s.ask("GET", "/days/"+then+"/orders", nil), 200, "Net loft took Pappardelle for it on",
		`<option value="recipe-4" selected`)
	if all, _ := s.store.Orders(ctx, then); len(all) != 1 || all[0].Batch != nil {
		t.Errorf("%+v", all)
	}
}

// What an order is to be without stands in red wherever it stands; what goes against it is made only where it is said
// what was agreed, and nothing is ever called safe.
func TestOrdersWithout(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := after(12)
	at := "/days/" + date + "/orders"
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"},
		"text": {"Net loft; tagliatelle; 6; 12:00; egg allergy!\nQuay inn; lantern ravioli, frozen; 4; 13:00; ohne " +
			"Milch"}}), 303)
	_, body := s.got("GET", at, nil)
	for _, part := range []string{"allergy: egg", "no milk", "Agreed with the customer"} {
		if !strings.Contains(body, part) {
			t.Errorf("no %q", part)
		}
	}
	marks := func(what string) string {
		_, body := s.got("GET", at, nil)
		for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
			if strings.Contains(strings.ToLower(x[:strings.Index(x, "</b>")]), what) {
				return x[:strings.Index(x, `"`)]
			}
		}
		t.Fatalf("no proposal of %s", what)
		return ""
	}
	form := func(agreed string) url.Values {
		return url.Values{"act": {"make"}, "orders": {marks("tagliatelle")}, "source": {"recipe-7"}, "agreed": {agreed}}
	}
	w := s.ask("POST", at, form(""))
	s.wants(w, 422, "Tagliatelle: allergy: egg, and it contains egg", "say below what was agreed with Net loft")
	if all, _ := s.store.Orders(ctx, date); all[0].Batch != nil {
		t.Error("it is made all the same")
	}
	s.wants(s.ask("POST", at, form("Anna takes it for her guests without the allergy")), 303)
	all, _ := s.store.Orders(ctx, date)
	if all[0].Batch == nil || all[0].Agreed == "" || all[0].AgreedAt == nil {
		t.Fatalf("%+v", all[0])
	}
	page := words(s.ask("GET", at, nil).Body.String())
	for _, part := range []string{"Allergy: egg.", "it contains egg", "Agreed: “Anna takes it",
		"It contains wheat", "A kitchen with flour and eggs leaves traces."} {
		if !strings.Contains(page, part) {
			t.Errorf("the orders: no %q", part)
		}
	}
	if strings.Contains(strings.ToLower(page), " safe") {
		t.Error("something is called safe")
	}
	s.wants(s.ask("POST", "/days/"+date, url.Values{"act": {"plan"}, "version": {"1"}}), 303)
	for _, reader := range []string{"", "/wall", "/now", "/set-out", "/day.ics"} {
		text := strings.ReplaceAll(s.ask("GET", "/days/"+date+reader, nil).Body.String(), "\r\n ", "")
		if !strings.Contains(text, "ALLERGY: egg") {
			t.Errorf("%s passes the allergy over", cmp.Or(reader, "the day"))
		}
	}
	// A filling nobody has held against the packs counts as containing.
	s.wants(s.ask("POST", at, url.Values{"act": {"make"}, "orders": {marks("lantern")}, "source": {"recipe-8"},
		"agreed": {""}}), 422, "no milk, and it contains milk")
	o := all[0]
	s.wants(s.ask("POST", at, url.Values{"act": {"save"}, "order": {fmt.Sprint(o.ID)}, "id": {fmt.Sprint(o.ID)},
		"version": {fmt.Sprint(o.Version)}, "who": {o.Who}, "what": {o.What}, "portions": {"6"}, "when": {"12:00"},
		"note": {"nut allergy"}}), 303)
	if now, _ := s.store.Orders(ctx, date); now[0].Agreed != "" {
		t.Error("what was agreed of egg stands for nuts")
	}
}

// An order is ticked packed, delivered or not taken on the day and on the phone, over a reload and by two windows;
// slips
// say what each customer gets.
func TestOrdersGone(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := onDate()[len("/days/"):]
	at := "/days/" + date + "/orders"
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {"Net loft; tagliatelle; 6; 12:00; egg allergy"}}),
		303)
	all, _ := s.store.Orders(ctx, date)
	mark := ""
	served := store.Order{}
	for _, o := range all {
		if o.Who == "Net loft" {
			mark = fmt.Sprint(o.ID)
		} else if o.Batch != nil {
			served = o
		}
	}
	s.wants(s.ask("POST", at, url.Values{"act": {"tick"}, "order": {mark}, "state": {"eaten"}}), 400)
	s.wants(s.ask("POST", at, url.Values{"act": {"tick"}, "order": {"w999"}, "state": {"packed"}}), 409)
	s.wants(s.ask("POST", at, url.Values{"act": {"tick"}, "order": {mark}, "state": {"packed"}}), 303)
	s.wants(s.ask("GET", "/days/"+date, nil), 200,
		`aria-pressed="true" aria-label="Packed, Net loft, 6 portions of tagliatelle"`)
	s.wants(s.ask("GET", at, nil), 200, "Packed, ")
	w := s.ask("POST", at, url.Values{"act": {"tick"}, "order": {mark}, "state": {"delivered"}, "back": {"now"},
		"who": {"Ada"}})
	if to := w.Header().Get("Location"); w.Code != 303 || to != "/days/"+date+"/now?who=Ada#due" {
		t.Errorf("%d to %q", w.Code, to)
	}
	s.wants(s.ask("GET", "/days/"+date+"/now", nil), 200, `aria-pressed="true" aria-label="Delivered, Net loft`,
		"1 delivered",
		"ALLERGY: egg")
	s.wants(s.ask("GET", "/days/"+date, nil), 200, "1 delivered")
	s.wants(s.ask("POST", at, url.Values{"act": {"tick"}, "order": {mark}, "state": {""}}), 303)
	if now, _ := s.store.Orders(ctx, date); slices.ContainsFunc(now,
		func(o store.Order) bool { return o.State != "" }) {
		t.Error("a tick taken back stands")
	}
	page := words(s.ask("GET", "/days/"+date+"/slips", nil).Body.String())
	for _, part := range []string{"Net loft", "6 portions tagliatelle , 12:00", "ALLERGY: egg",
		"Nothing serves it yet."} {
		if !strings.Contains(page, part) {
			t.Errorf("the slips: no %q", part)
		}
	}
	if served.Batch != nil && (!strings.Contains(page, "batch ") || !strings.Contains(page, "Contains ")) {
		t.Errorf("the slip of %s: %.900s", served.Who, page)
	}
}

// A slip says of every batch until when it keeps, and its code, as the label of it does: by what was made, where it was.
func TestSlipsSayWhatLabelsSay(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := after(40)
	var orders []store.Order
	var batches []uint64
	for id := uint64(1); id < 20; id++ {
		b, err := s.store.Get(ctx, id)
		if err != nil {
			continue
		}
		batches = append(batches, id)
		orders = append(orders, store.Order{Day: date, Who: fmt.Sprintf("House %d", id), What: b.Row.Shape, Portions: 2,
			Due: 700 + int(id), Batch: &id, Version: 1})
	}
	if err := s.store.AddOrders(ctx, orders); err != nil || len(batches) < 8 {
		t.Fatal(len(batches), err)
	}
	slips := words(s.ask("GET", "/days/"+date+"/slips", nil).Body.String())
	made := 0
	for i, id := range batches {
		label := s.ask("GET", fmt.Sprintf("/batches/%d/label", id), nil).Body.String()
		if strings.Contains(label, "As it was made") {
			made++
		}
		slip := slips[strings.Index(slips, orders[i].Who+" "):]
		slip, _, _ = strings.Cut(slip[1:], "House ")
		dd := func(of string) string {
			_, after, _ := strings.Cut(label, "<dt>"+of+"</dt>")
			_, after, _ = strings.Cut(after, "<dd>")
			said, _, _ := strings.Cut(after, "</dd>")
			return said
		}
		if code := dd("Batch"); code == "" || !strings.Contains(slip, "batch "+code) {
			t.Errorf("batch %d: the label's code is %q, the slip: %s", id, code, slip)
		}
		if by := dd("Use by"); by != "—" && !strings.Contains(slip, "Use by "+by) {
			t.Errorf("batch %d: the label says use by %q, the slip: %s", id, by, slip)
		}
	}
	if made == 0 {
		t.Error("none of them was made")
	}
}

// What is in the second dough counts for who must not have it, though the first is free of it: when it is made for
// them, on the orders and on the slip.
func TestSecondDoughCounts(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	green, err := s.store.RecipeByID(ctx, 2)
	if err != nil {
		t.Fatal(err)
	}
	r := green.Request.Request
	r.Additions = []request.AdditionPart{{Addition: "ink", Share: .02}}
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.store.SaveRecipe(ctx, 2, green.Version, p, green.Besides.V); err != nil {
		t.Fatal(err)
	}
	date := after(12)
	at := "/days/" + date + "/orders"
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"},
		"text": {"Quay inn; stripes, the straw dough; 6; 12:00; allergy: molluscs"}}), 303)
	_, body := s.got("GET", at, nil)
	form := url.Values{"act": {"make"}, "source": {"recipe-1"}}
	for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
		form.Add("orders", x[:strings.Index(x, `"`)])
	}
	s.wants(s.ask("POST", at, form), 422, "and it contains molluscs", "what was agreed with Quay inn")
	form.Set("agreed", "the plain half only, in a pot of its own")
	s.wants(s.ask("POST", at, form), 303)
	s.wants(s.ask("GET", at, nil), 200, "and it contains molluscs")
	s.wants(s.ask("GET", "/days/"+date+"/slips", nil), 200, "molluscs", "the plain half only")
	all, _ := s.store.Orders(ctx, date)
	label := fmt.Sprintf("/batches/%d/label", *all[0].Batch)
	s.wants(s.ask("GET", fmt.Sprintf("%s?order=%d", label, all[0].ID), nil), 200, "Quay inn: 6 portions</b>. <b",
		"Allergy: molluscs")
	s.wants(s.ask("GET", label+"?order=999", nil), 200, "nobody in particular")
	if page := s.ask("GET", label, nil).Body.String(); strings.Contains(page, `class="l-for"`) {
		t.Error("a label for nobody says whom it is for")
	}
}

// What comes short is said per order, in red on day, wall and phone; a batch that is not begun is made for what is
// ordered by a tap; a dropped order says that its batch stays.
func TestOrdersShared(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date := after(12)
	at := "/days/" + date + "/orders"
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {"Net loft; tagliatelle; 6; 12:00"}}), 303)
	_, body := s.got("GET", at, nil)
	form := url.Values{"act": {"make"}, "source": {"recipe-7"}}
	for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
		form.Add("orders", x[:strings.Index(x, `"`)])
	}
	s.wants(s.ask("POST", at, form), 303)
	first, _ := s.store.Orders(ctx, date)
	batch := *first[0].Batch
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {"Quay inn; tagliatelle; 2 kg; 13:00"}}), 303)
	_, body = s.got("GET", at, nil)
	form = url.Values{"act": {"make"}, "source": {fmt.Sprintf("on-%d", batch)}}
	for _, x := range strings.Split(body, `name="orders" value="`)[1:] {
		form.Add("orders", x[:strings.Index(x, `"`)])
	}
	s.wants(s.ask("POST", at, form), 303)
	page := s.ask("GET", at, nil)
	s.wants(page, 200, "What serves them", "ordered of it", "Make it for", "kg short")
	if strings.Contains(words(page.Body.String()), "Net loft tagliatelle: gets") {
		t.Error("who is due first comes short")
	}
	for _, reader := range []string{"", "/wall", "/now"} {
		s.wants(s.ask("GET", "/days/"+date+reader, nil), 200, "kg short")
	}
	b, _ := s.store.Get(ctx, batch)
	tap := url.Values{"act": {"rescale"}, "batch": {fmt.Sprint(batch)}, "version": {fmt.Sprint(b.Version)}}
	s.wants(s.ask("POST", at, tap), 303)
	s.wants(s.ask("POST", at, tap), 409) // from another window
	for _, reader := range []string{"/orders", "", "/wall", "/now"} {
		if strings.Contains(s.ask("GET", "/days/"+date+reader, nil).Body.String(), "kg short") {
			t.Errorf("%s still comes short", cmp.Or(reader, "the day"))
		}
	}
	all, _ := s.store.Orders(ctx, date)
	drop := func(o store.Order) string {
		w := s.ask("POST", at, url.Values{"act": {"drop"}, "order": {fmt.Sprint(o.ID)},
			"version": {fmt.Sprint(o.Version)}})
		return w.Header().Get("Location")
	}
	if to := drop(all[1]); to != at {
		t.Errorf("one of two dropped: %q", to)
	}
	s.wants(s.ask("GET", at, nil), 200, "Make it for 6")
	to := drop(all[0])
	s.wants(s.ask("GET", to, nil), 200, "Its batch stays on the day", "Take it off the day", "Make it smaller")
}

// What comes every week stands from its first day to its last, not while its customer pauses or the house is closed; a
// day's and a week's orders are copied; a customer's card goes with all their orders, and their name is taken out at
// their wish. Lived through three weeks.
func TestWeeksOfOrders(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	monday, _ := time.Parse(time.DateOnly, after(0))
	for monday.Weekday() != time.Monday || monday.Format(time.DateOnly) <= after(7) {
		monday = monday.AddDate(0, 0, 1)
	}
	day := func(week, weekday int) string { return monday.AddDate(0, 0, 7*week+weekday).Format(time.DateOnly) }
	// the demo's own of every week fall on any weekday
	usual := []string{"The counter", "Mole café", "Pilot house kitchen"}
	who := func(date string) (out []string) {
		all, err := s.store.Orders(ctx, date)
		if err != nil {
			t.Fatal(err)
		}
		for _, o := range all {
			if !slices.Contains(usual, o.Who) {
				out = append(out, o.Who)
			}
		}
		return out
	}
	add := url.Values{"act": {"add"}, "weekday": {"1"}, "who": {"Net loft"}, "what": {"tagliatelle"},
		"portions": {"2 kg"},
		"when":     {"11:00"}, "note": {""}, "from": {day(1, 0)}, "until": {day(0, 0)}}
	s.wants(s.ask("POST", "/orders/week", add), 422, "Not before it begins.", `value="2 kg"`)
	add.Set("from", day(0, 0))
	add.Set("until", day(2, 0))
	s.wants(s.ask("POST", "/orders/week", add), 303)
	add.Set("who", "Quay inn")
	add.Set("until", "")
	s.wants(s.ask("POST", "/orders/week", add), 303)
	for week, want := range []int{2, 2, 2, 1} {
		if got := who(day(week, 0)); len(got) != want {
			t.Errorf("week %d: %v", week, got)
		}
	}
	if got := who(day(-1, 0)); slices.Contains(got, "Net loft") {
		t.Errorf("before it begins: %v", got)
	}

	card := url.Values{"act": {"save"}, "name": {"NET LOFTS"}, "version": {"0"}, "always": {"nut allergy"},
		"paused_from": {day(1, 0)}, "paused_until": {day(0, 0)}}
	s.wants(s.ask("POST", "/customers/card", card), 422, "Not before it begins.", `value="nut allergy"`)
	card.Set("paused_until", day(1, 6))
	s.wants(s.ask("POST", "/customers/card", card), 303)
	s.wants(s.ask("POST", "/customers/card", card), 409, "another window kept this card")
	if got := who(day(1, 0)); len(got) != 1 || got[0] != "Quay inn" {
		t.Errorf("paused: %v", got)
	}
	s.wants(s.ask("GET", "/days/"+day(0, 0)+"/orders", nil), 200, "Allergy: nuts", "With all of theirs")
	s.wants(s.ask("GET", "/days/"+day(0, 0)+"/now", nil), 200, "ALLERGY: nuts")
	s.wants(s.ask("GET", "/customers?find=loft", nil), 200, "NET LOFTS", "nut allergy", "pauses")
	s.wants(s.ask("GET", "/customers/card?name=net+loft", nil), 200, "Monday: 2 kg of tagliatelle, 11:00")

	closing := url.Values{"act": {"close"}, "from_day": {day(2, 0)}, "until_day": {"never"}, "why": {"the fair"}}
	s.wants(s.ask("POST", "/orders/week", closing), 422, `value="the fair"`, "Both are days")
	closing.Set("until_day", day(2, 2))
	s.wants(s.ask("POST", "/orders/week", closing), 303)
	if got, err := s.store.Orders(ctx, day(2, 0)); err != nil || len(got) != 0 {
		t.Errorf("closed: %v, %v", got, err)
	}
	s.wants(s.ask("GET", "/days/"+day(2, 0)+"/orders", nil), 200, "The house is closed that day", "the fair")

	s.wants(s.ask("POST", "/days/"+day(0, 1)+"/orders", url.Values{"act": {"paste"},
		"text": {"Mole; linguine, no egg; 40 pieces; 24:01; call first"}}), 303)
	before, _ := s.store.Orders(ctx, day(0, 1))
	copyWeek := url.Values{"act": {"copy"}, "from_day": {day(0, 3)}, "until_day": {day(0, 5)}}
	s.wants(s.ask("POST", "/orders/week", copyWeek), 422, "same week")
	copyWeek.Set("until_day", day(3, 2))
	for range 2 { // twice it is once
		s.wants(s.ask("POST", "/orders/week", copyWeek), 200, "copied to the week of")
	}
	all, _ := s.store.Orders(ctx, day(3, 1))
	if len(all) != len(before) || all[len(all)-1].Due != 1441 || all[len(all)-1].Note != "call first" {
		t.Errorf("%v copied as %+v", before, all)
	}
	s.wants(s.ask("POST", "/days/"+day(0, 0)+"/orders", url.Values{"act": {"copy"}, "to": {day(0, 0)}}), 422,
		"Another day")
	s.wants(s.ask("POST", "/days/"+day(0, 0)+"/orders", url.Values{"act": {"copy"}, "to": {day(4, 3)}}), 303)
	if got := who(day(4, 3)); !slices.Contains(got, "Net loft") || !slices.Contains(got, "Quay inn") {
		t.Errorf("copied to a Thursday: %v", got)
	}

	forget := url.Values{"name": {"Net loft"}}
	w := s.ask("POST", "/customers/forget", forget)
	s.wants(s.ask("GET", w.Header().Get("Location"), nil), 200, "for good")
	if got := who(day(0, 0)); !slices.Contains(got, "Net loft") {
		t.Error("the name is gone unasked")
	}
	forget.Set("sure", "yes")
	s.wants(s.ask("POST", "/customers/forget", forget), 303)
	for _, date := range []string{day(0, 0), day(4, 3)} {
		got, _ := s.store.Orders(ctx, date)
		for _, o := range got {
			if strings.Contains(strings.ToLower(o.Who), "loft") {
				t.Errorf("%s still names %s", date, o.Who)
			}
		}
		if !slices.ContainsFunc(got, func(o store.Order) bool {
			return o.Who == store.Forgotten &&
				o.Said().N == 2000
		}) {
			t.Errorf("%s: what was ordered is gone with the name: %+v", date, got)
		}
	}
	if page := s.ask("GET", "/customers", nil).Body.String(); strings.Contains(strings.ToLower(page), "net loft") {
		t.Error("the customers still name them")
	}
}

// What is pasted twice is asked about, and a day's document is read as it was written.
func TestOrdersDoubled(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	date, other := after(12), after(26)
	at := "/days/" + date + "/orders"
	text := "Net loft; tagliatelle; 2 kg; 24:01; call first\nQuay inn; ravioli; 40 pieces; 12:00"
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {text}}), 303)
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {text + "\nMole; lasagne; 6; 9"}}), 422,
		"1 order added",
		"2 kg of tagliatelle for Net loft is there already", "said the same", "Line 2", `name="double"`)
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {"NET LOFT; Tagliatelle; 9; 24:01"}}), 422,
		"2 kg of tagliatelle for Net loft is there already for then, said otherwise", "0 orders added")
	if all, _ := s.store.Orders(ctx, date); len(all) != 3 {
		t.Errorf("%d orders", len(all))
	}
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {text}, "double": {"yes"}}), 303)
	if all, _ := s.store.Orders(ctx, date); len(all) != 5 {
		t.Errorf("%d orders", len(all))
	}
	// A message of which one thing is asked about waits whole; what stays in the box stands under its head.
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {"6 lasagne and 2 kg linguine for Mole at 9"}}), 422,
		"0 orders added", "6 lasagne and 2 kg linguine for Mole at 9\n</textarea>")
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {"when;who;what;much\n9;Mole;lasagne;6"}}), 422,
		"when;who;what;much\n9;Mole;lasagne;6\n</textarea>")
	doc := s.ask("GET", "/days/"+date+"/day.json", nil).Body.String()
	s.wants(s.ask("POST", at, url.Values{"act": {"paste"}, "text": {doc}}), 422, "0 orders added",
		"\nNet loft;tagliatelle;2 kg;24:01;call first\n")
	to := "/days/" + other + "/orders"
	s.wants(s.ask("POST", to, url.Values{"act": {"paste"}, "text": {doc}, "double": {"yes"}}), 303)
	was, _ := s.store.Orders(ctx, date)
	is, _ := s.store.Orders(ctx, other)
	for i := range was {
		if len(is) != len(was) || is[i].Who != was[i].Who || is[i].Said() != was[i].Said() || is[i].Due != was[i].Due ||
			is[i].Note != was[i].Note {
			t.Fatalf("%+v came back as %+v", was, is)
		}
	}
	for bad, says := range map[string]string{"{": "no day’s document",
		`{"format":"hollen-request/1"}`: "a day’s, is read here",
		`{"format":"hollen-day/1","orders":[{"who":"A","what":"b","due":99999,"portions":2}]}`: "Order 1, when"} {
		s.wants(s.ask("POST", to, url.Values{"act": {"paste"}, "text": {bad}}), 422, says)
	}
}

// Three weeks of twenty-one orders of every week and nine recipes are turned into batches day by day: no wrong recipe,
// no note lost, and what is made of a recipe is what is ordered of it.
func TestThreeWeeksOfOrders(t *testing.T) {
	s, ctx := newSite(t), context.Background()
	if old, err := s.store.Week(ctx); err != nil {
		t.Fatal(err)
	} else {
		for _, w := range old {
			if err := s.store.DropStanding(ctx, w.ID, w.Version); err != nil {
				t.Fatal(err)
			}
		}
	}
	// What is ordered, by the recipe it means; a recipe that is frozen, or spoken of otherwise, is chosen by the maker.
	kinds := []struct {
		what   string
		recipe uint64
		much   order.Amount
		note   string
	}{{"tagl.", 7, order.Amount{N: 8}, ""}, {"Egg ribbons", 7, order.Amount{N: 1500, Unit: order.Grams}, ""},
		{"pappardelle", 4, order.Amount{N: 6}, ""}, {"wide ribbon", 4, order.Amount{N: 2000, Unit: order.Grams},
			"in nests"},
		{"Linguine, no egg", 5, order.Amount{N: 5}, ""}, {"yolk tagliolini", 6, order.Amount{N: 4}, "call first"},
		{"orecchiette", 9, order.Amount{N: 6}, ""}, {"Lantern ravioli, frozen", 8, order.Amount{N: 40,
			Unit: order.Pieces}, ""},
		{"stripes, the straw dough", 1, order.Amount{N: 6}, ""}}
	for i := range 21 {
		k := kinds[i%len(kinds)]
		w := store.Standing{Weekday: i % 7, Who: fmt.Sprintf("House %d", i), What: k.what, Due: 660 + 10*i,
			Note: k.note}
		w.Say(k.much)
		if err := s.store.SaveStanding(ctx, w); err != nil {
			t.Fatal(err)
		}
	}
	means := func(what string) uint64 {
		for _, k := range kinds {
			if strings.EqualFold(k.what, what) {
				return k.recipe
			}
		}
		t.Fatalf("nothing is called %q", what)
		return 0
	}
	served, asked := 0, 0
	for n := range 21 {
		date := after(30 + n)
		at := "/days/" + date + "/orders"
		_, body := s.got("GET", at, nil)
		form := url.Values{"act": {"make"}}
		for _, block := range strings.Split(body, `name="orders" value="`)[1:] {
			block = block[:strings.Index(block, "</li>")]
			what := html.UnescapeString(between(block, `<b translate="no">`, `</b>`))
			form.Add("orders", block[:strings.Index(block, `"`)])
			choices := block[strings.Index(block, "<select"):strings.Index(block, "</select>")]
			source := ""
			if i := strings.Index(choices, "selected"); i > 0 {
				source = choices[:i]
				source = between(source[strings.LastIndex(source, `value="`):], `value="`, `"`)
			} else {
				asked++
			}
			want := fmt.Sprintf("recipe-%d", means(what))
			if source != "" && source != want {
				t.Errorf("%s: %s is taken for %s", date, source, what)
			}
			form.Add("source", want)
			form.Add("agreed", "")
		}
		if w := s.ask("POST", at, form); w.Code != 303 {
			t.Fatalf("%s: %.1500s", date, words(w.Body.String()))
		}
		all, _ := s.store.Orders(ctx, date)
		wall := html.UnescapeString(s.ask("GET", "/days/"+date+"/wall", nil).Body.String())
		ordered := map[uint64]float64{}
		for _, o := range all {
			if o.Batch == nil {
				t.Fatalf("%s: nothing serves %+v", date, o)
			}
			served++
			b, err := s.store.Get(ctx, *o.Batch)
			if err != nil || b.RecipeID == nil || *b.RecipeID != means(o.What) {
				t.Errorf("%s: %s is made of recipe %v, %v", date, o.What, b.RecipeID, err)
			}
			if o.Note != "" && !strings.Contains(wall, o.Note) {
				t.Errorf("%s: the wall loses %q", date, o.Note)
			}
			p, err := plan.Make(rules.Default(), b.Request.Request)
			if err != nil {
				t.Fatal(err)
			}
			n, err := o.Said().Portions(day.YieldOf(p, 0))
			if err != nil || math.Abs(n-o.Portions) > .02*n {
				t.Errorf("%s: %s is reckoned as %.2f portions, not %.2f, %v", date, o.Said().Words(), o.Portions, n,
					err)
			}
			ordered[*o.Batch] += o.Portions
		}
		for id, sum := range ordered {
			b, _ := s.store.Get(ctx, id)
			if made := b.Row.Portions; made < sum*.98 || made > sum*1.6+1.5 {
				t.Errorf("%s: %s makes %.1f portions of %.1f ordered", date, b.Row.Name, made, sum)
			}
		}
	}
	if served != 63 {
		t.Errorf("%d orders served", served)
	}
	t.Logf("%d of the proposals asked", asked)
}
