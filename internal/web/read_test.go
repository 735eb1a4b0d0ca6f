package web

import (
	"net/http"
	"net/url"
	"regexp"
	"testing"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/demo"
	"hollen/internal/store/storetest"
)

// What is said with its unit is read wherever a figure is typed, as on the page of a batch: in the log, the cabinet,
// the
// kit of a day and the house; a half of nothing named is asked for.
func TestFiguresAreReadEverywhere(t *testing.T) {
	s := newSite(t)
	log := batchAt(demo.Saturday) + "/log"
	send := func(v url.Values) string {
		v.Set("when", storetest.Now().Add(-4*time.Hour).Format(measure.ClockForm))
		w := s.ask("POST", log, v)
		if w.Code == http.StatusSeeOther {
			return ""
		}
		return w.Body.String()
	}
	for field, typed := range map[string]string{"flour_left": "half a kilo", "knead_min": "1:30", "rest_min": "1 h",
		"poke_s": "9 s", "dry_min": "1/2 h",
		"out_g": "1 kg 200 g", "water_added": "1 lb 2 oz"} {
		if page := send(url.Values{field: {typed}}); page != "" {
			t.Errorf("%s of %q is refused: %s", field, typed, regexp.MustCompile(`class="err"[^>]*>[^<]+`).FindString(
				page))
		}
	}
	if page := send(url.Values{"out_g": {"half"}}); !regexp.MustCompile(`Half of what\?`).MatchString(page) {
		t.Error("half of nothing named is not asked for")
	}
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", url.Values{"amount.by": {"flour"}, "amount.flour_g": {
		"half"}}),
		200, "Half of what?")
	house := formOf(t, s.ask("GET", "/cabinet/house", nil).Body.String())
	for field, typed := range map[string]string{"bench.hand_limit_g": "1.5 kg", "bench.boil_min": "1/4 h",
		"bench.rack_rod_m": "350 cm"} {
		house.Set(field, typed)
	}
	s.wants(s.ask("POST", "/cabinet/house", house), 303)
	s.wants(s.ask("GET", "/cabinet/house", nil), 200, `value="1500"`, `value="15"`, `value="3.5"`)
	for typed, want := range map[string]string{"500 g": `value="0.5"`, "25 kg": `value="25"`} {
		lot := formOf(t, s.ask("GET", "/cabinet/lots/2", nil).Body.String())
		lot.Set("container_kg", typed)
		s.wants(s.ask("POST", "/cabinet/lots", lot), 303)
		s.wants(s.ask("GET", "/cabinet/lots/2", nil), 200, want)
	}
	day := "/days/2026-12-04"
	s.wants(s.ask("POST", day, url.Values{"act": {"add"}, "batch": {"7"}, "version": {"0"}}), 303)
	kit := formOf(t, s.ask("GET", day, nil).Body.String())
	kit.Set("act", "kit")
	kit.Set("rack", "350 cm")
	kit.Set("margin", "1 h")
	s.wants(s.ask("POST", day, kit), 303)
	s.wants(s.ask("GET", day, nil), 200, `value="3.5"`, `value="60"`)
}
