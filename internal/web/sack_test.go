package web

import (
	"cmp"
	"context"
	"log/slog"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// lotNow is the lot of that number as it is kept.
func (s site) lotNow(id uint64) flour.Lot {
	s.Helper()
	t, err := s.store.Thing(context.Background(), store.LotKind, id)
	if err != nil {
		s.Fatal(err)
	}
	return t.Value.(flour.Lot)
}

// A lot’s page says what it holds and what would help; its weight and a dried sample are kept, what cannot be is asked
// back beside its field with what was typed.
func TestWhatASackHolds(t *testing.T) {
	s := siteOn(t, storetest.Now())
	const at = "/cabinet/lots/2/measure"
	post := func(status int, says string, pairs ...string) {
		t.Helper()
		form := url.Values{}
		for i := 0; i < len(pairs); i += 2 {
			form.Set(pairs[i], pairs[i+1])
		}
		s.wants(s.ask("POST", at, form), status, says)
	}
	s.wants(s.ask("GET", "/cabinet/lots", nil), 200, `href="/cabinet/lots/2/measure"`)
	s.wants(s.ask("GET", at, nil), 200, "spring sack", "Tidewheel mill 00", "Flour’s moisture today", "Give or take",
		"in air nobody read", "Dry a sample in the oven, once a sack", "The week ahead",
		"Say how the dough of a batch felt")
	if strings.Contains(s.ask("GET", at, nil).Body.String(), "Ask the miller") {
		t.Error("a flour by the miller’s sheet is to be asked for")
	}
	s.wants(s.ask("GET", "/cabinet/lots/3/measure", nil), 200, "Ask the miller for its absorption")
	s.wants(s.ask("GET", "/cabinet/lots/99/measure", nil), 404)
	s.wants(s.ask("GET", "/cabinet/flours/2/measure", nil), 404)
	inOunces := s.ask("GET", at, nil, func(r *http.Request) { r.AddCookie(&http.Cookie{Name: "units", Value: "us"}) })
	s.wants(inOunces, 200, "With 1.75 oz of flour in it", "266 °F", "1.75 oz of flour", "on 1 lb 1.6 oz of flour")
	for _, x := range []struct {
		do, says string
		more     []string
	}{
		{"taken", "What is in it: 50 g to 1,000,000 g is allowed.", []string{"g", "much", "step_g", "1"}},
		{"taken", "0.001 to 100 g.", []string{"g", "4876", "step_g", "0"}},
		{"oven", "are too little for this scale", []string{"step_g", "0.1", "tare_g", "30", "before_g", "45"}},
		{"oven", "take 500 g", []string{"step_g", "1", "tare_g", "30", "before_g", "80"}},
		{"oven", "With the flour it weighs more than the tin alone", []string{"step_g", "0.1", "tare_g", "80",
			"before_g", "30"}},
		{"dried", "Nothing of it is in the oven.", []string{"after_g", "70"}},
		{"nonsense", "Nothing was asked.", nil},
	} {
		post(422, x.says, append([]string{"do", x.do}, x.more...)...)
	}
	post(422, `value="much"`, "do", "taken", "g", "much", "step_g", "1")
	post(303, "", "do", "taken", "g", "22400", "step_g", "5")
	s.wants(s.ask("GET", at, nil), 200, "Flour was taken: 22,400 g are left")
	// Two kilograms gone at once is no water.
	post(422, "was flour taken or spilt and not said?", "do", "weighed", "g", "20400", "step_g", "5")
	if n := len(s.lotNow(2).History); n != 1 {
		t.Errorf("%d events", n)
	}
	post(303, "", "do", "weighed", "g", "20400", "step_g", "5", "sure", "20400")
	last := s.lotNow(2).History[1]
	post(303, "", "do", "remove", "at", last.At.Format(time.RFC3339Nano), "kind", "weighed")
	post(404, "", "do", "remove", "at", last.At.Format(time.RFC3339Nano), "kind", "weighed")
	// Into the oven, over a restart, and out again.
	post(303, "", "do", "oven", "step_g", "0.1", "tare_g", "30", "before_g", "80")
	s.wants(s.ask("GET", at, nil), 200, "50 g are in the oven since", `name="after_g"`)
	post(422, "That is a moisture of", "do", "dried", "after_g", "79")
	post(303, "", "do", "dried", "after_g", "73.9")
	s.wants(s.ask("GET", at, nil), 200, "50 g lost 6.1 g in the oven: 12.2 %", `data-fig="sack">12.2`, "dried on")
	// A plan goes by it, and says so; what is typed at the batch stands all the same.
	s.wants(s.ask("GET", batchAt(demo.Lantern)+"?at=room", nil), 200, "Dried in the oven", "12.2",
		"What the sack holds")
	if strings.Contains(s.ask("GET", batchAt(demo.Lantern)+"?at=room", nil).Body.String(), "newest figures") {
		t.Error("what was measured of a lot is taken for other figures of it")
	}
	form := s.typed(demo.Number(demo.Lantern))
	form.Set("at", "room")
	form.Set("flours.0.measured_moisture_wb", "14")
	s.wants(s.ask("POST", batchAt(demo.Lantern)+"/work", form), 200, "Measured, so it stands.")
	// The lot changed by its form keeps its history.
	edit := url.Values{"id": {"2"}, "version": {"6"}, "name": {"spring sack"}, "flour": {store.Key(1)},
		"kept":         {"paper_bag"},
		"container_kg": {"25"}, "opened_on": {s.lotNow(2).OpenedOn}}
	s.wants(s.ask("POST", "/cabinet/lots", edit), 303)
	if n := len(s.lotNow(2).History); n != 3 {
		t.Errorf("%d events after it was edited", n)
	}
}

// A room that was read moves what a sack holds; without readings nothing is other than it was.
func TestAirMovesASack(t *testing.T) {
	s := siteOn(t, storetest.Now())
	page := batchAt(demo.Lantern) + "?at=room"
	before := s.ask("GET", page, nil).Body.String()
	if strings.Contains(before, "What the sack holds") {
		t.Error("nothing was measured, and a curve is drawn")
	}
	// Days of dry air since it was opened.
	for at := s.store.Now().Add(-11 * 24 * time.Hour); at.Before(s.store.Now()); at = at.Add(10 * time.Minute) {
		if err := s.store.HearRoom(context.Background(), "room", 22, .25, at); err != nil {
			t.Fatal(err)
		}
	}
	other := site{t, New(s.store, rules.Default(), slog.New(slog.DiscardHandler), Access{}), s.store, s.log}
	other.wants(other.ask("GET", page, nil), 200, "What the sack holds", "It followed its air since it was opened")
	other.wants(other.ask("GET", "/cabinet/lots/2/measure", nil), 200, "it followed the air since it was opened on")
}

// Twenty-five batches from one sack in moving air, each planned by what changed since the one before: what its plans
// take it to hold is still what it holds.
func TestASackOverManyBatches(t *testing.T) {
	s := siteOn(t, storetest.Now()).counting()
	now := s.store.Now()
	for at := now.Add(-11 * 24 * time.Hour); at.Before(now); at = at.Add(10 * time.Minute) {
		rh := .5 + .2*math.Sin(now.Sub(at).Hours()/30)
		if err := s.store.HearRoom(context.Background(), "room", 22, rh, at); err != nil {
			t.Fatal(err)
		}
	}
	at := batchAt(demo.Lantern)
	for i := range 25 {
		when := now.Add(-time.Duration(26-i) * 8 * time.Hour).Local().Format(measure.ClockForm)
		s.wants(s.ask("POST", at+"/log", url.Values{"when": {when}, "felt": {strconv.Itoa(i%3 - 1)}, "out_g": {"900"}}),
			303)
	}
	s.logAgain()
	figure := func(page, of string) float64 {
		_, rest, _ := strings.Cut(page, of)
		v, err := strconv.ParseFloat(rest[:strings.IndexByte(rest, '<')], 64)
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
	room := s.ask("GET", at+"?at=room", nil)
	s.wants(room, 200, "What has changed since its last batch is known better")
	_, moist, _ := strings.Cut(room.Body.String(), "Flour’s moisture today")
	planned := figure(moist, `<div class="num">`)
	holds := figure(s.ask("GET", "/cabinet/lots/2/measure", nil).Body.String(), `data-fig="sack">`)
	if math.Abs(planned-holds) > .11 {
		t.Errorf("after 25 batches the plan takes it for %.1f %%, it holds %.1f %%", planned, holds)
	}
}

// What the bench says of a sack stands in its lot’s history, once, and goes when it is taken back.
func TestSackAtTheBench(t *testing.T) {
	s := newSite(t)
	at := s.begin(demo.Lantern)
	send := func(events string) {
		t.Helper()
		s.wants(s.tell(at, `{"events":[`+events+`]}`), 200)
	}
	now := s.store.Now().UTC().Format(time.RFC3339)
	send(`{"id":"a","at":"` + now + `","what":"sack","of":"taken","text":"spring sack","g":22400}`)
	send(`{"id":"a","at":"` + now + `","what":"sack","of":"taken","text":"spring sack","g":22400}`)
	h := s.lotNow(2).History
	if len(h) != 1 || h[0].Kind != flour.LotTaken || h[0].G != 22400 || h[0].Making != newMade {
		t.Fatalf("%+v", h)
	}
	send(`{"id":"b","at":"` + now + `","what":"taken_back","of":"a"}`)
	if h := s.lotNow(2).History; len(h) != 0 {
		t.Errorf("taken back, and still there: %+v", h)
	}
}

// The sheet a batch is tried by foretells each figure, tighter once this kitchen has looked; what was typed back is
// judged.
func TestForetoldSheet(t *testing.T) {
	s := newSite(t).counting()
	s.logAgain()
	at := batchAt(demo.Saturday)
	w := s.ask("GET", at+"/foretold?paper=letter", nil)
	middle := func() string {
		p, err := plan.Make(rules.Default(), demo.Batch(demo.Saturday))
		if err != nil {
			t.Fatal(err)
		}
		return measure.MinSec(p.BookPotS(0))
	}()
	s.wants(w, 200, `<td class="r">`+middle+`</td>`, "To try it by", "Sheet at stop 8", "Length of that sheet",
		"In the pot, to your tooth",
		"A poke, half back",
		`class="paper letter"`)
	range_ := func(page string) string {
		_, rest, _ := strings.Cut(page, "In the pot, to your tooth")
		_, rest, _ = strings.Cut(rest, `<td class="r"><b>`)
		out, _, _ := strings.Cut(rest, "</b>")
		return out
	}
	before := range_(w.Body.String())
	begun := storetest.Now().Add(-3 * time.Hour).Format(measure.ClockForm)
	for range 2 {
		w = s.ask("POST", at+"/log", url.Values{"when": {begun}, "felt": {"0"}, "pot_s": {"80"}, "out_g": {"1,480"}})
		s.wants(w, 303)
	}
	s.logAgain()
	after := range_(s.ask("GET", at+"/foretold", nil).Body.String())
	if before == "" || after == before {
		t.Errorf("the pot is foretold as %q, after two looks as %q", before, after)
	}
	s.wants(s.ask("GET", "/log/learned?open=tried", nil), 200, "Does it hold?", "Seconds in the pot", "of 2 held",
		"Not yet known: 15 looks would tell")
}

// Three small doughs: set out, they rest over a reload, their words are asked out of order; what contradicts itself is
// asked once; what they say goes into the log as points of this sack, and into the next plan.
func TestThreeSmallDoughs(t *testing.T) {
	s := siteOn(t, storetest.Now()).counting()
	const at = "/cabinet/lots/2/doughs"
	s.wants(s.ask("GET", "/cabinet/lots/2/measure", nil), 200, `href="/cabinet/lots/2/doughs"`)
	w := s.ask("GET", at, nil)
	s.wants(w, 200, "Three small doughs", "50 g of flour and 20 g of the same beaten egg each", "All three are wrapped")
	s.wants(s.ask("GET", at+"?scale=coarse", nil), 200, "150 g of flour and 60 g")
	s.wants(s.ask("POST", at, url.Values{"do": {"wrapped"}}), 303)
	w = s.ask("GET", at, nil)
	s.wants(w, 200, "They rest", "of 20", "Raw dough is not tasted", `name="said.A"`)
	// Which letter stands where follows from its water.
	grams := map[string]float64{}
	for _, letter := range []string{"A", "B", "C"} {
		_, row, _ := strings.Cut(w.Body.String(), `<th scope="row" class="val">`+letter+`</th>`)
		_, row, _ = strings.Cut(row, "<b>")
		text, _, _ := strings.Cut(row, " g")
		grams[letter], _ = strconv.ParseFloat(text, 64)
	}
	order := []string{"A", "B", "C"}
	slices.SortFunc(order, func(a, b string) int { return cmp.Compare(grams[a], grams[b]) })
	if d := grams[order[2]] - grams[order[0]]; math.Abs(d-3.6*.5*1.005) > .15 {
		t.Errorf("the wettest has %.1f g more than the driest", d)
	}
	said := func(words ...string) url.Values {
		v := url.Values{"do": {"said"}}
		for i, letter := range order {
			v.Set("said."+letter, words[i])
		}
		return v
	}
	s.wants(s.ask("POST", at, url.Values{"do": {"said"}, "said.A": {"0"}}), 422, "Each of the three has a word.",
		"checked")
	w = s.ask("POST", at, said("1", "0", "-1"))
	s.wants(w, 422, "A wetter one was called drier")
	if !strings.Contains(w.Body.String(), `name="sure" value="`) {
		t.Error("there is no way to say it again")
	}
	s.wants(s.ask("POST", at, said("-2", "-1", "0")), 303)
	s.wants(s.ask("GET", at, nil), 200, "This sack wants", "more than the book", "as good as one batch")
	s.logAgain()
	s.wants(s.ask("GET", batchAt(demo.Lantern), nil), 200, "small doughs wanted")
	// One dough in steps: words from the first on until it is a little wet.
	const steps = at + "?by=steps"
	s.wants(s.ask("GET", steps, nil), 200, "One dough in steps", "water in all")
	s.wants(s.ask("POST", steps, url.Values{"do": {"wrapped"}}), 303)
	s.wants(s.ask("POST", steps, url.Values{"do": {"said"}, "said.1": {"-2"}, "said.3": {"1"}}), 422,
		"A word for each step")
	s.wants(s.ask("POST", steps, url.Values{"do": {"said"}, "said.1": {"-2"}, "said.2": {"-1"}, "said.3": {"0"},
		"said.4": {"1"}}), 303)
	s.wants(s.ask("GET", at, nil), 200, "This sack wants")
	// Sent twice it counts once, and it can be left out.
	w = s.ask("POST", steps, url.Values{"do": {"said"}, "said.1": {"-2"}, "said.2": {"1"}})
	s.wants(w, 422, "No doughs are resting")
	_, set, _ := strings.Cut(s.ask("GET", at, nil).Body.String(), `name="at" value="`)
	when, _, _ := strings.Cut(set, `"`)
	sittings := func() int {
		kept, _, err := s.store.LogSettings(context.Background())
		if err != nil {
			t.Fatal(err)
		}
		return len(kept.Doughs)
	}
	if n := sittings(); n != 2 {
		t.Errorf("%d sittings", n)
	}
	s.wants(s.ask("POST", at, url.Values{"do": {"forget"}, "at": {when}}), 303)
	if n := sittings(); n != 1 {
		t.Errorf("%d sittings after one was left out", n)
	}
	if f := s.lotNow(2); f.MeasuredWB != 0 || len(f.History) != 0 {
		t.Errorf("a sitting was written as moisture: %+v", f)
	}
}
