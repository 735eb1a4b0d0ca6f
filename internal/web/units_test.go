package web

import (
	"context"
	"math"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/demo"
)

// A batch shown in ounces and saved untouched is the same batch; what is typed in ounces is
// read as ounces; what a button sets stays metric.
func TestOuncesOnAPage(t *testing.T) {
	s := newSite(t)
	w := s.ask("POST", "/units", url.Values{}, func(r *http.Request) {
		r.Header.Set("Referer", "http://127.0.0.1"+batchAt(
			demo.Saturday)+"?at=room")
	})
	s.wants(w, 303)
	if w.Header().Get("Location") != batchAt(demo.Saturday)+"?at=room" {
		t.Errorf("goes to %q", w.Header().Get("Location"))
	}
	us := func(r *http.Request) { r.AddCookie(&http.Cookie{Name: "units", Value: "us"}) }
	page := s.ask("GET", batchAt(demo.Saturday)+"?at=formula", nil, us)
	s.wants(page, 200, `value="35.27"`, "<small>oz</small>", `3 lb 7.4<span class="unit">oz</span>`)
	if strings.Contains(page.Body.String(), "1,571 g of dough") {
		t.Error("grams are left over")
	}
	before, _ := s.store.Get(context.Background(), demo.Number(demo.Saturday))
	v := url.Values{"version": {"1"}, "was_at": {"formula"}, "units": {"us"}}
	for _, f := range request.Fields() {
		if r := before.Request.Request; f.Has(&r) {
			v.Set(f.Path, f.In(measure.Customary).Get(&r))
		}
	}
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v, us), 303)
	if b, _ := s.store.Get(context.Background(), demo.Number(demo.Saturday)); b.Version != 1 {
		t.Errorf("untouched, but saved: %+v", request.Changes(before.Request.Request, b.Request.Request))
	}
	v.Set("amount.flour_g", "32")
	v.Set("room.temp_c", "68")
	v.Set("set", "room.rh=50&roll.bench_mm=1000")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v, us), 303)
	b, _ := s.store.Get(context.Background(), demo.Number(demo.Saturday))
	if r := b.Request; math.Abs(r.Amount.FlourG-907.18) > .01 || r.Room.TempC != 20 || r.Room.RH != .5 ||
		r.Roll.BenchMM != 1000 {
		t.Errorf("%+v, %+v, %v", r.Amount, r.Room, r.Roll.BenchMM)
	}
	v.Set("room.temp_c", "200")
	v.Set("at", "room")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v, us), 200, "35.6 to 113 °F is allowed")
	// A draft typed in grams, shown in ounces.
	v = s.typed(demo.Number(demo.Saturday))
	v.Set("units", "metric")
	v.Set("amount.flour_g", "1000")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v, us), 200, `value="35.27"`)
}

// metric is a figure in a unit that ounces, inches and °F take the place of. What a thing is called, papers and
// drawings
// in mm, and densities are not turned; what is in 100 g stays in grams, as labels give it, and recipes’ own 100 g.
var (
	metric = regexp.MustCompile(`[0-9][0-9.,]* ?(mm|cm|g|kg|L|mL|°C)\b[^/³]|°C|\b(millimetres?|grams?|litres?)\b`)
	kept   = regexp.MustCompile(`(?s)<(script|style|textarea|select)\b.*?</(script|style|textarea|select)>|<title>.*?</title>|` +
		`<form[^>]*class="units".*?</form>|[0-9.]+ g/m(L|³)|dial in mm|(card|drawing) in mm|kJ in 100 g raw|` +
		`100 g \(3½ oz\)|<table aria-label="Nutrition, raw".*?</table>|[0-9]+ × [0-9]+ mm`)
	inlined = regexp.MustCompile(`</?(b|i|small|span|em|strong|tspan)\b[^>]*>`)
	tagged  = regexp.MustCompile(`<[^>]+>`)
)

// With ounces and inches chosen, no page of a batch says grams, millimetres or °C: prose, notes, tables and pictures.
func TestNothingMetricIsLeft(t *testing.T) {
	s := newSite(t)
	us := func(r *http.Request) { r.AddCookie(&http.Cookie{Name: "units", Value: "us"}) }
	for _, b := range demo.Batches() {
		for _, at := range []string{"?at=formula", "?at=room", "?at=knead", "?at=rest", "?at=roll", "?at=cut",
			"?at=dry", "?at=cook", "/sheet"} {
			w := s.ask("GET", batchAt(b.Name)+at, nil, us)
			s.wants(w, 200)
			text := kept.ReplaceAllString(inlined.ReplaceAllString(w.Body.String(), ""), "")
			for _, part := range tagged.Split(text, -1) {
				if m := metric.FindString(part + " "); m != "" {
					t.Errorf("%s %s says %q in %q", b.Name, at, m, strings.TrimSpace(part))
				}
			}
		}
	}
}

func TestStepsInOunces(t *testing.T) {
	r := demo.Batch(demo.Saturday)
	for path, want := range map[string]string{"amount.flour_g": "36", "room.temp_c": "70", "roll.bench_mm": "48"} {
		f, _ := request.FieldAt(path)
		f = f.In(measure.Customary)
		next, ok := f.Stepped(f.Get(&r), 1)
		if !ok || next != want {
			t.Errorf("%s: from %s to %s, want %s", path, f.Get(&r), next, want)
		}
	}
}
