package web

import (
	"context"
	"math"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/demo"
)

func TestSayInOunces(t *testing.T) {
	for text, want := range map[string]string{
		"9 eggs and 27 g of water to 1,000 g of flour.": "9 eggs and 0.952 oz of water to 2 lb 3.3 oz of flour.",
		"Milled at 13.5 %; 22 °C, 5 kg.":                "Milled at 13.5 %; 72 °F, 11 lb 0.4 oz.",
		"7 × 0.85 mm; 250–350 mm; 2.5 m":                "0.276 × 0.033 in; 9.84–13.8 in; 8.2 ft",
		"1.214 g/mL, 4.6 g/m³, 1.2 g/g, 30 min, 12 mg":  "1.214 g/mL, 4.6 g/m³, 1.2 g/g, 30 min, 12 mg",
		"above 5 °C by then, 1–2 °C":                    "above 41 °F by then, 34–36 °F",
		"Ravioli, 50 × 50 × 0.7 mm; 8 L":                "Ravioli, 1.97 × 1.97 × 0.028 in; 8.45 qt",
		"cutters: 2 mm, 6.5 mm":                         "cutters: 0.079 in, 0.256 in",
		"no measure here":                               "no measure here",
	} {
		if got := customary.say(text); got != want {
			t.Errorf("%q\n got %q\nwant %q", text, got, want)
		}
		if metric.say(text) != text {
			t.Errorf("metric changes %q", text)
		}
	}
}

// A batch shown in ounces and saved untouched is the same batch; what is typed in ounces is
// read as ounces; what a button sets stays metric.
func TestOuncesOnAPage(t *testing.T) {
	s := newSite(t)
	w := s.ask("POST", "/units", url.Values{}, func(r *http.Request) { r.Header.Set("Referer", "http://127.0.0.1/batches/7?at=room") })
	s.wants(w, 303)
	if w.Header().Get("Location") != "/batches/7?at=room" {
		t.Errorf("goes to %q", w.Header().Get("Location"))
	}
	us := func(r *http.Request) { r.AddCookie(&http.Cookie{Name: "units", Value: "us"}) }
	page := s.ask("GET", "/batches/7?at=formula", nil, us)
	s.wants(page, 200, `value="35.27"`, "<small>oz</small>", "Pictures, and columns", `3 lb 7.4<span class="unit">oz</span>`)
	if strings.Contains(page.Body.String(), "1,571 g of dough") {
		t.Error("grams are left over")
	}
	before, _ := s.store.Get(context.Background(), 7)
	v := url.Values{"version": {"1"}, "was_at": {"formula"}, "units": {"us"}}
	for _, f := range plan.Fields() {
		if r := before.Request.Request; f.Has(&r) {
			v.Set(f.Path, customary.in(f).Get(&r))
		}
	}
	s.wants(s.ask("POST", "/batches/7/save", v, us), 303)
	if b, _ := s.store.Get(context.Background(), 7); b.Version != 1 {
		t.Errorf("untouched, but saved: %+v", plan.Changes(before.Request.Request, b.Request.Request))
	}
	v.Set("amount.flour_g", "32")
	v.Set("room.temp_c", "68")
	v.Set("set", "room.rh=50&roll.bench_mm=1000")
	s.wants(s.ask("POST", "/batches/7/save", v, us), 303)
	b, _ := s.store.Get(context.Background(), 7)
	if r := b.Request; math.Abs(r.Amount.FlourG-907.18) > .01 || r.Room.TempC != 20 || r.Room.RH != .5 || r.Roll.BenchMM != 1000 {
		t.Errorf("%+v, %+v, %v", r.Amount, r.Room, r.Roll.BenchMM)
	}
	v.Set("room.temp_c", "200")
	v.Set("at", "room")
	s.wants(s.ask("POST", "/batches/7/work", v, us), 200, "35.6 to 113 °F is allowed")
	// A draft typed in grams, shown in ounces.
	v = s.typed(7)
	v.Set("units", "metric")
	v.Set("amount.flour_g", "1000")
	s.wants(s.ask("POST", "/batches/7/work", v, us), 200, `value="35.27"`)
}

func TestStepsInOunces(t *testing.T) {
	r := demo.Batch(demo.Saturday)
	for path, want := range map[string]string{"amount.flour_g": "36", "room.temp_c": "70", "roll.bench_mm": "48"} {
		f, _ := plan.FieldAt(path)
		f = customary.in(f)
		next, ok := f.Stepped(f.Get(&r), 1)
		if !ok || next != want {
			t.Errorf("%s: from %s to %s, want %s", path, f.Get(&r), next, want)
		}
	}
}
