package web

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/demo"
	"hollen/internal/store/storetest"
)

// A copy asks for its day, moves what is dated with it, and starts from what truly went in, where that is known.
func TestAgain(t *testing.T) {
	s := siteOn(t, storetest.Now())
	v := s.typed(demo.Number(demo.Saturday))
	day := func(in int, at string) string { return storetest.Now().AddDate(0, 0, in).Format(time.DateOnly) + at }
	told := func(in int) string { return storetest.Now().AddDate(0, 0, in).Format("Mon 2 Jan") }
	v.Set("made_on", day(1, ""))
	v.Set("clock.from", day(0, "T18:00"))
	v.Set("clock.roll_at", day(1, "T17:30"))
	v.Set("used.flour_left_g", "40")
	v.Set("used.liquid_added_g", "6")
	v.Set("name", "Typed, not saved")
	asks := batchAt(demo.Saturday) + "/again"
	s.wants(s.ask("POST", asks, v), 200, "Typed, not saved", "For which day?",
		"Moves with it: start "+told(0)+" 18:00, roll "+told(1)+" 17:30",
		"As it came out last time: 960 g of flour, 9 eggs, 35 g of water", `value="`+today()+`"`)
	s.wants(s.ask("GET", asks, nil), 200, "Tagliatelle for Saturday, once more", "For which day?")

	copied := batchAt(demo.Saturday) + "/duplicate"
	for _, bad := range []string{"", "soon", "2026-02-30", "1999-12-31"} {
		v.Set("for", bad)
		s.wants(s.ask("POST", copied, v), 422, "This needs a day", `value="`+bad+`"`,
			`name="clock.roll_at" value="`+day(1, "T17:30")+`"`)
	}
	v.Set("for", day(8, ""))
	v.Set("from", "used")
	s.wants(s.ask("POST", copied, v), 303)
	b, err := s.store.Get(context.Background(), 11)
	if r := b.Request; err != nil || r.MadeOn != day(8, "") || r.Clock.From != day(7, "T18:00") ||
		r.Clock.RollAt != day(8, "T17:30") ||
		r.Amount.By != request.ByOwn || r.Amount.FlourG != 960 || r.Used.Any() {
		t.Errorf("%v: %s, %+v, %+v", err, r.MadeOn, r.Clock, r.Amount)
	}
	v.Set("from", "plan")
	s.wants(s.ask("POST", copied, v), 303)
	b, err = s.store.Get(context.Background(), 12)
	if r := b.Request; err != nil || r.Amount.By != request.ByFlour || r.Amount.FlourG != 1000 || r.Used.Any() {
		t.Errorf("%v: %+v", err, r.Amount)
	}
}

// A copy that is opened and sent back untouched has nothing unsaved: also where a lot has been open for longer by its
// day.
func TestUntouchedCopies(t *testing.T) {
	s := newSite(t)
	for _, b := range demo.Batches() {
		w := s.ask("POST", batchAt(b.Name)+"/duplicate", url.Values{"for": {"2026-12-05"}, "version": {"1"}})
		s.wants(w, 303)
		at, _, _ := strings.Cut(w.Header().Get("Location"), "?")
		if body := s.ask("POST", at+"/work", formOf(t, s.ask("GET", at,
			nil).Body.String())).Body.String(); strings.Contains(body, notSavedYet) {
			t.Errorf("%s: its copy is not saved as soon as it is opened", b.Name)
		}
	}
}

const notSavedYet = "Not saved yet"

// A house says what its new batches start from, in the units it is read in: flour, eggs, machine and room; a batch
// still says its own, and what has left the cabinet is as usual.
func TestTheHouseBeginsBatches(t *testing.T) {
	s := newSite(t)
	ctx := context.Background()
	h, err := s.store.House(ctx)
	if err != nil {
		t.Fatal(err)
	}
	form := url.Values{"version": {fmt.Sprint(h.Version)}, "begin.flour": {"own-1"}, "begin.eggs": {"eu-m"},
		"begin.machine": {"motor-9"}, "begin.temp_c": {"240"}, "begin.rh": {"66"}}
	s.wants(s.ask("POST", "/cabinet/house", form), 422, `value="240"`, `value="eu-m" selected`)
	form.Set("begin.temp_c", "75.2")
	us := func(r *http.Request) { r.AddCookie(&http.Cookie{Name: "units", Value: string(measure.Customary)}) }
	s.wants(s.ask("POST", "/cabinet/house", form, us), 303)
	s.wants(s.ask("GET", "/cabinet/house", nil), 200, `value="24"`, `value="66"`, `value="own-1" selected`,
		`value="motor-9" selected`)
	s.wants(s.ask("GET", "/", nil), 200, `value="own-1" selected`, `value="eu-m" selected`, `value="motor-9" selected`)
	w := s.ask("POST", "/batches", url.Values{"amount.by": {"portions"}, "amount.portions": {"4"},
		"eggs.class": {"eu-l"},
		"cut.shape":  {"tagliatelle"}})
	var id uint64
	if _, err := fmt.Sscanf(w.Header().Get("Location"), "/batches/%d", &id); err != nil {
		t.Fatal(w.Code, err)
	}
	b, err := s.store.Get(ctx, id)
	if r := b.Request.Request; err != nil || r.Flours[0].Flour != "own-1" || r.Flours[0].Own == nil ||
		r.Eggs.Class != "eu-l" ||
		r.Roll.Machine != "motor-9" || math.Abs(r.Room.TempC-24) > 1e-6 || r.Room.RH != .66 {
		t.Errorf("%+v %+v %+v, %v", r.Flours, r.Roll.Machine, r.Room, err)
	}
	s.wants(s.ask("POST", "/recipes/7/make", url.Values{"much": {"8"}, "unit": {"portions"}}), 303)
	all, err := s.store.BatchesOf(ctx, 7, 1)
	if r := all[0].Request; err != nil || r.Eggs.Class != "eu-m" || r.Room.RH != .66 || r.Flours[0].Flour != "soft-00" {
		t.Errorf("of a recipe: %+v %+v, %v", r.Eggs.Class, r.Room, err)
	}
	h, _ = s.store.House(ctx)
	form = url.Values{"version": {fmt.Sprint(h.Version)}, "begin.flour": {"own-999"}, "begin.temp_c": {""},
		"begin.rh": {""}}
	s.wants(s.ask("POST", "/cabinet/house", form), 303)
	if h, err := s.store.House(ctx); err != nil || h.Flour != "" || h.Room != nil || h.Eggs != "eu-m" {
		t.Errorf("%+v, %v", h.House, err)
	}
}
