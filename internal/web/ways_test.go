package web

import (
	"context"
	"html"
	"net/url"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/exchange"
	"hollen/internal/web/cabinet"
)

// A way is kept from a batch, offered to the next, set as what new batches start with, changed in the cabinet
// and handed on.
func TestWaysKept(t *testing.T) {
	s := newSite(t)
	at := batchAt(demo.Saturday)
	s.wants(s.ask("GET", at+"?at=knead", nil), 200, "Ways kept", "The Sunday way", "Take The Sunday way")
	s.wants(s.ask("GET", at+"?at=roll", nil), 200, "Every third stop")
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("was_at", "knead")
	v.Set("knead.by", "own")
	v.Set("knead.own_steps.0.do", "mix")
	v.Set("knead.own_steps.0.min", "6")
	v.Set("knead.own_steps.1.do", "hand")
	v.Set("knead.own_steps.1.min", "7")
	s.wants(s.ask("POST", at+"/work", v), 200, "Keep this way as")
	for _, name := range []string{"", strings.Repeat("long ", 20), "the sunday way"} {
		v.Set("keep.knead", name)
		s.wants(s.ask("POST", at+"/keep/knead", v), 422, `aria-invalid="true"`, `value="`+name)
	}
	v.Set("keep.knead", "Quay way")
	s.wants(s.ask("POST", at+"/keep/knead", v), 200, "Kept as “Quay way”", "Not saved yet")
	s.wants(s.ask("POST", at+"/keep/dance", v), 404)
	s.wants(s.ask("GET", "/cabinet/ways", nil), 200, "Quay way", "Mix by hand, 6 min; Knead by hand, 7 min")

	// Taken by another batch it is followed literally.
	set := regexp.MustCompile(`name="set" value="([^"]*)" aria-label="Take Quay way"`).FindStringSubmatch(
		s.ask("GET", batchAt(demo.Chandler)+"?at=knead", nil).Body.String())
	v = s.typed(demo.Number(demo.Chandler))
	if set == nil {
		t.Fatal("the way is not offered")
	}
	v.Set("set", html.UnescapeString(set[1]))
	s.wants(s.ask("POST", batchAt(demo.Chandler)+"/save", v), 303)
	b, err := s.store.Get(context.Background(), demo.Number(demo.Chandler))
	if k := b.Request.Knead; err != nil || !k.Own() || len(k.Steps) != 2 || k.Steps[0].Min != 6 || k.Steps[1].Min != 7 {
		t.Errorf("%+v, %v", k, err)
	}

	s.changesAndGoes(t)

	// Handed on and brought in again it is the same.
	doc := s.ask("GET", "/cabinet/ways/export.json", nil)
	s.wants(doc, 200, `"ways"`, `"The Sunday way"`)
	found, err := exchange.Read(rules.Default(), strings.NewReader(doc.Body.String()))
	if err != nil || found.Cabinet == nil || len(found.Cabinet.Ways) != 2 {
		t.Fatalf("%+v, %v", found, err)
	}
	s.wants(s.ask("POST", cabinet.ImportPath, url.Values{"text": {doc.Body.String()}}), 200, "The Sunday way", "same")
	other := strings.ReplaceAll(doc.Body.String(), "The Sunday way", "The Monday way")
	s.wants(s.ask("POST", cabinet.ImportPath, url.Values{"text": {other}}), 200, "The Monday way", "new")
	bad := strings.Replace(doc.Body.String(), `"min": 660`, `"min": 6600`, 1)
	s.wants(s.ask("POST", cabinet.ImportPath, url.Values{"text": {bad}}), 422, "line 7")
}

// changesAndGoes changes the way that was kept, line by line, and has the house go it.
func (s site) changesAndGoes(t *testing.T) {
	t.Helper()
	// In the cabinet it is changed line by line.
	way := url.Values{"id": {"19"}, "version": {"1"}, "name": {"Quay way"}, "of": {"knead"},
		"lines": {"mix, 6\nknead by hand, 9\nrest, soon"}}
	s.wants(s.ask("POST", "/cabinet/ways", way), 422, "Line 3", "Step by step", "rest, soon")
	way.Set("lines", "mix, 6\nknead by hand, 9\nrest, 25 min, under a bowl")
	s.wants(s.ask("POST", "/cabinet/ways", way), 303)
	s.wants(s.ask("GET", "/cabinet/ways/19", nil), 200, "Rest in the room, 25 min, under a bowl")

	// The house goes it from now on; where a way down does not go on a machine, that is worked out.
	s.wants(s.ask("GET", "/cabinet/house", nil), 200, "New batches are kneaded", "Quay way")
	h, err := s.store.House(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	s.wants(s.ask("POST", "/cabinet/house", url.Values{"version": {strconv.Itoa(h.Version)}, "knead_way": {"own-19"},
		"roll_way": {"own-11"}}), 303)
	for machine, own := range map[string]bool{"hand-crank-10": true, "own-8": true, "pin-board": false,
		"motor-9": false} {
		w := s.ask("POST", "/batches", url.Values{"name": {"Next"}, "amount.by": {"portions"}, "amount.portions": {"6"},
			"flours.0.flour": {"soft-00"},
			"eggs.class":     {"eu-l"}, "cut.shape": {"tagliatelle"}, "roll.machine": {machine}})
		s.wants(w, 303)
		page := s.ask("GET", w.Header().Get("Location")+"?at=knead", nil)
		s.wants(page, 200, `<option value="own" selected>`)
		rolled := s.ask("GET", w.Header().Get("Location")+"?at=roll", nil).Body.String()
		if got := strings.Contains(rolled, "Tap + for a pass"); got != own {
			t.Errorf("%s: own way down %v", machine, got)
		}
	}
	// A way that is retired is gone the next time.
	s.wants(s.ask("POST", "/cabinet/ways/19/retire", nil), 303)
	w := s.ask("POST", "/batches", url.Values{"name": {"Next"}, "amount.by": {"portions"}, "amount.portions": {"6"},
		"flours.0.flour": {"soft-00"},
		"eggs.class":     {"eu-l"}, "cut.shape": {"tagliatelle"}, "roll.machine": {"pin-board"}})
	s.wants(w, 303)
	if body := s.ask("GET", w.Header().Get("Location")+"?at=knead", nil).Body.String(); strings.Contains(body,
		`<option value="own" selected>`) {
		t.Error("a retired way is gone by")
	}
}

// The ways of the demo are planned as they are said.
func TestDemoWays(t *testing.T) {
	things := demo.Scenario(rules.Default(), demo.Day).Things
	n := 0
	for _, x := range things {
		if w, ok := x.Value.(request.Way); ok {
			r := request.Default()
			w.Take(&r)
			if p, err := plan.Make(rules.Default(), r); err != nil || w.Check() != nil || !w.TakenIn(&p.Request) {
				t.Errorf("%s: %v", w.Name, err)
			}
			n++
		}
	}
	if n != 2 {
		t.Errorf("%d ways", n)
	}
}
