package web

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"hollen/internal/core/bench"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/exchange"
	benchroom "hollen/internal/web/bench"
	"hollen/internal/workshop"
)

// newMade is the number of the first making begun in a test: the demo has two.
const newMade = 3

func (s site) begin(name string) string {
	s.Helper()
	w := s.ask("POST", batchAt(name)+"/bench", url.Values{"version": {"1"}})
	s.wants(w, 303)
	return w.Header().Get("Location")
}

func (s site) tell(at, doc string) *httptest.ResponseRecorder {
	s.Helper()
	r := httptest.NewRequest("POST", "http://127.0.0.1"+at+"/events", strings.NewReader(doc))
	r.Header.Set("Content-Type", "application/json")
	w := httptest.NewRecorder()
	s.h.ServeHTTP(w, r)
	return w
}

// A making keeps what it was begun with, also what was not saved; it can be gone through without scripts.
func TestMakingWithoutScripts(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("name", "Saturday, larger")
	v.Set("amount.flour_g", "1200")
	w := s.ask("POST", batchAt(demo.Saturday)+"/bench", v)
	s.wants(w, 303)
	at := w.Header().Get("Location")
	s.wants(s.ask("GET", at, nil), 200, "Set out and wash", "Saturday, larger", "step 1 of", "Done, on to the scale",
		"Clocks need scripts")
	s.wants(s.ask("POST", at+"/tap", url.Values{"what": {"done"}, "step": {"set_out"}}), 303)
	s.wants(s.ask("GET", at, nil), 200, "<h1 id=\"head\">Soft wheat 00", "960 g", "Weighed, g")
	s.wants(s.ask("POST", at+"/tap", url.Values{"what": {"done"}, "step": {"weigh.flour.1"}, "g": {"a lot"}}), 422,
		"That is no mass")
	s.wants(s.ask("POST", at+"/tap", url.Values{"what": {"done"}, "step": {"weigh.flour.1"}, "g": {"1,010 g"}}), 303)
	s.wants(s.ask("GET", at, nil), 200, "<h1 id=\"head\">Durum semola, fine", "of dough where", "name=\"of\"")
	m, err := s.store.Making(context.Background(), newMade)
	if err != nil || m.Request.Amount.FlourG != 1200 {
		t.Errorf("%v, %v", m.Request.Amount, err)
	}
	s.wants(s.ask("POST", at+"/tap", url.Values{"what": {"danced"}}), 422, "is no event")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/delete", url.Values{}), 303)
	s.wants(s.ask("GET", at, nil), 200, "Durum semola") // of a batch that is deleted
	s.wants(s.ask("GET", at+"/made", nil), 200, "Still going on", "Step by step", "1,010 g")
}

// Both doughs of a batch for stripes are begun together.
func TestBothDoughsAreBegun(t *testing.T) {
	s := newSite(t)
	s.begin(demo.Straw)
	open, err := s.store.UnderWay(context.Background())
	if err != nil || len(open) != 3 || open[0].Began != open[1].Began {
		t.Errorf("%d under way, %v", len(open), err)
	}
	laid := 0
	for _, m := range open[:2] {
		_, run, _, err := workshop.New(s.store, rules.Default(), slog.New(slog.DiscardHandler)).Makings.At(
			context.Background(), m.ID)
		if err != nil {
			t.Fatal(err)
		}
		for i, x := range run.Steps {
			if x.Head == "Lay the strips" {
				if laid++; run.Steps[i-1].Kind != bench.Pass || run.State.Now != 0 || !strings.Contains(x.Say,
					"Then once through at stop") {
					t.Errorf("%+v after %s, on is step %d", x, run.Steps[i-1].Key, run.State.Now)
				}
			}
		}
	}
	if laid != 1 {
		t.Errorf("strips are laid %d times", laid)
	}
}

// What is no event is refused with the reason, what is sound beside it is kept; nothing is answered by a 500.
func TestEventsThatCannotBe(t *testing.T) {
	s := newSite(t)
	at := s.begin(demo.Saturday)
	for _, bad := range []string{"", "x", "[]", `{"events":7}`, `{"events":[{"at":"yesterday"}]}`} {
		if w := s.tell(at, bad); w.Code != http.StatusBadRequest {
			t.Errorf("%q: %d %.100s", bad, w.Code, w.Body)
		}
	}
	w := s.tell(at, `{"events":[{"id":"a","what":"done","step":"set_out","at":"2026-11-28T09:00:00Z"},
		{"id":"b","what":"done","step":"nowhere","at":"2026-11-28T09:00:00Z"},
		{"id":"c","what":"weighed","step":"weigh.eggs","g":-5,"at":"2026-11-28T09:00:00Z"},{"id":"<","what":"note","text":"x","at":"2199-01-01T00:00:00Z"}]}`)
	var st benchroom.State
	if err := json.Unmarshal(w.Body.Bytes(), &st); err != nil || w.Code != 200 || len(st.Got) != 1 ||
		len(st.Refused) != 3 || st.At != 1 {
		t.Errorf("%d, %v: got %v, refused %v, at %d", w.Code, err, st.Got, st.Refused, st.At)
	}
	// Out of the making's span it is brought into it: 2026 may lie before or after now, a far year never counts.
	w = s.tell(at, `{"events":[{"id":"far","what":"note","text":"x","at":"2199-01-01T00:00:00Z"}]}`)
	if json.Unmarshal(w.Body.Bytes(), &st); len(st.Remarks) != 1 || st.Remarks[0].At.Year() > 2100 {
		t.Errorf("%+v", st.Remarks)
	}
	s.wants(s.tell("/bench/99", `{"events":[]}`), 404)
	s.wants(s.tell("/bench/x", `{"events":[]}`), 404)
	s.wants(s.ask("GET", "/bench/99", nil), 404, "no such making")
	s.wants(s.ask("GET", "/bench/99/made", nil), 404)
	s.wants(s.ask("GET", "/bench/99/made.csv", nil), 404)
	var flood []string
	for i := range benchroom.MostAtOnce + 40 {
		flood = append(flood, fmt.Sprintf(`{"id":"f%d","what":"note","text":"x","at":"2026-11-28T09:00:00Z"}`, i))
	}
	w = s.tell(at, `{"events":[`+strings.Join(flood, ",")+`]}`)
	if json.Unmarshal(w.Body.Bytes(), &st); len(st.Got) != benchroom.MostAtOnce {
		t.Errorf("%d taken at once", len(st.Got))
	}
}

// Whatever may be told of a making can be tapped at the bench: each kind of event has its key.
func TestEveryKindHasAKey(t *testing.T) {
	var scripts strings.Builder
	files, err := filepath.Glob("static/js/bench/*.js")
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range files {
		text, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		scripts.Write(text)
	}
	for _, k := range bench.EventKinds {
		switch k.What {
		case "started", "damaged": // of the log’s form, and of no hand
			continue
		}
		if !regexp.MustCompile(`(tap|words|yes|amount)\([^\n]*"` + string(k.What) + `"`).MatchString(scripts.String()) {
			t.Errorf("nothing at the bench says %s", k.What)
		}
	}
}

// A making leaves as JSON and CSV; the JSON folds to the same state.
func TestMakingLeaves(t *testing.T) {
	s := newSite(t)
	w := s.ask("GET", "/bench/1/made.json", nil)
	s.wants(w, 200, "hollen-making/1")
	var doc exchange.Making
	if err := json.Unmarshal(w.Body.Bytes(), &doc); err != nil {
		t.Fatal(err)
	}
	again, _ := json.Marshal(bench.Fold(doc.Steps, doc.Began, doc.Events))
	state, _ := json.Marshal(doc.State)
	if string(again) != string(state) || doc.Ended == nil {
		t.Errorf("another state:\n%.300s\n%.300s", again, state)
	}
	s.wants(s.ask("GET", "/bench/1/made.csv", nil), 200, "key,station,step,status,planned_min", "knead.1,knead,")
	s.wants(s.ask("GET", "/bench/1/made", nil), 200, "a little dry", "roll it a stop finer", "The fifth piece tore")
	s.wants(s.ask("GET", batchAt(demo.Chandler)+"/makings", nil), 200, "felt a little dry", "/bench/1/made")
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"/makings", nil), 200, "Not made at the bench yet")
}

// The address of a making is drawn to point a camera at; on loopback the page says that no other device reaches it.
func TestOnAnotherScreen(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/bench/2/screens", nil), 200, "http://127.0.0.1/bench/2", "no other device reaches it",
		`class="qr"`)
	s.wants(s.ask("GET", "/bench/99/screens", nil), 404)
}

// What goes on at the bench stands over the list of batches; a screen knows what may be seen at each station.
func TestWhatGoesOn(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/batches", nil), 200, "At the bench", demo.Service, "rest in the fridge, 27 min left",
		`href="/bench/2"`)
	if body := s.ask("GET", "/batches?find=ravioli", nil).Body.String(); strings.Contains(body, "At the bench") {
		t.Error("it stands over what is looked for, too")
	}
	s.wants(s.ask("GET", "/bench/2", nil), 200, `"station":"roll"`, `"name":"Sticks to hand and board"`)
}

// Once more as last time is one tap, pressed twice is once; a making says that its batch has changed since, or is gone,
// and what the
// air was.
func TestAsLastTime(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", batchAt(demo.Chandler)+"/makings", nil), 200, `action="/bench/1/again"`,
		"next time: A little more water", "by Linde")
	w := s.ask("POST", "/bench/1/again", url.Values{})
	s.wants(w, 303)
	if twice := s.ask("POST", "/bench/1/again", url.Values{}); twice.Header().Get("Location") != w.Header().Get(
		"Location") {
		t.Errorf("pressed twice it is begun twice: %s", twice.Header().Get("Location"))
	}
	at := w.Header().Get("Location")
	s.wants(s.ask("GET", at, nil), 200, demo.Chandler, "step 1 of")
	was, _ := s.store.Making(context.Background(), 1)
	now, err := s.store.Making(context.Background(), newMade)
	if err != nil || now.BatchID != was.BatchID || len(now.Request.Acts) != 0 {
		t.Errorf("%+v, %v", now, err)
	}
	v := s.typed(demo.Number(demo.Chandler))
	v.Set("room.rh", "61")
	s.wants(s.ask("POST", batchAt(demo.Chandler)+"/save", v), 303)
	s.wants(s.ask("GET", "/bench/1/made", nil), 200, "has been changed since")
	if err := s.store.HearRoom(context.Background(), "wall", 21.4, .46, now.Began); err != nil {
		t.Fatal(err)
	}
	s.wants(s.ask("GET", at+"/made", nil), 200, "The room meanwhile, by the sensor: 21.4 °C and 46 %.",
		"has been changed since")
	s.wants(s.ask("POST", batchAt(demo.Chandler)+"/delete", url.Values{}), 303)
	s.wants(s.ask("GET", at, nil), 200, "has been deleted since")
	s.wants(s.ask("POST", "/bench/99/again", url.Values{}), 404)
}

// A shape decided at the bench is one there is, shipped or the workshop's own; what a screen says of a shape of its own
// is not believed.
func TestShapesDecidedLate(t *testing.T) {
	s := newSite(t)
	at := s.begin(demo.Saturday)
	s.wants(s.ask("GET", at, nil), 200, `"makers":["Linde","Osk","Fenna"]`, "Wrack ribbons, 12 mm", "tub by the window",
		"A splash of water")
	w := s.tell(at, `{"events":[{"id":"a","what":"shape","n":1,"text":"own-9","own_shape":{"name":"x","family":"soup"},"at":"2026-11-28T09:00:00Z"},
		{"id":"b","what":"shape","n":2,"text":"own-77","at":"2026-11-28T09:00:00Z"},
		{"id":"c","what":"shape","n":0,"text":"pappardelle","at":"2026-11-28T09:00:00Z"}]}`)
	var st benchroom.State
	if err := json.Unmarshal(w.Body.Bytes(), &st); err != nil || len(st.Got) != 1 || len(st.Refused) != 2 ||
		st.Shapes[1] != "own-9" ||
		!strings.Contains(fmt.Sprint(st.Changes), "wrack ribbons") {
		t.Errorf("%v: %+v", err, st)
	}
	events, _, err := s.store.Events(context.Background(), newMade, 0)
	var into bench.Shaped
	if len(events) == 1 {
		into, _ = events[0].Says.(bench.Shaped)
	}
	if err != nil || into.Own == nil || into.Own.Name != "Wrack ribbons" {
		t.Errorf("%+v, %v", events, err)
	}
}
