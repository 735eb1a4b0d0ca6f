package web

import (
	"html"
	"net/url"
	"regexp"
	"testing"

	"hollen/internal/demo"
)

var carriedStood = regexp.MustCompile(`id="stood" name="stood" value="([^"]*)"`)

// A field that cannot be read counts as it was last good, saved or not; everything else goes on being worked out,
// and saving says what it waits for.
func TestOneBadFieldFreezesNothing(t *testing.T) {
	s := newSite(t)
	at := batchAt(demo.Saturday)
	post := func(v url.Values) (body string) {
		t.Helper()
		w := s.ask("POST", at+"/work", v)
		s.wants(w, 200, `id="stood"`)
		body = w.Body.String()
		stood := carriedStood.FindStringSubmatch(body)
		if stood == nil {
			t.Fatal("the page carries nothing")
		}
		v.Set("stood", html.UnescapeString(stood[1]))
		return body
	}
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("was_at", "roll")
	v.Set("roll.target_mm", "1.4") // good, and not saved
	post(v)
	v.Set("roll.target_mm", "thin")
	v.Set("roll.bench_mm", "900")
	body := post(v)
	for _, says := range []string{"Target sheet counts as it was last, 1.4 mm", `value="thin"`, "bench 900",
		`data-errors="1"`} {
		if !regexp.MustCompile(regexp.QuoteMeta(says)).MatchString(body) {
			t.Errorf("the page does not say %q", says)
		}
	}
	v.Set("room.rh", "140")
	w := s.ask("POST", at+"/save", v)
	s.wants(w, 422, "Not saved yet.", `data-waits="room.rh">Humidity at Room: 5 to 99 % is allowed`,
		`data-waits="roll.target_mm">Target sheet at Roll: `, `value="140"`)
	// What a page carries that is not allowed is passed over.
	for _, stood := range []string{"{", `{"format":"x"}`, `[]`, "null"} {
		v.Set("stood", stood)
		s.wants(s.ask("POST", at+"/work", v), 200, "counts as it was last")
	}
	v.Set("room.rh", "45")
	v.Set("roll.target_mm", "1.1")
	s.wants(s.ask("POST", at+"/save", v), 303)
}

// Another machine without the stops of the maker's own way: the lines are marked, the machine stays asked for,
// and the plan goes on as it last went.
func TestAnotherMachineForAnOwnWay(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("was_at", "roll")
	v.Set("roll.by", "own")
	for i, stop := range []string{"0", "3", "6"} {
		v.Set("roll.own_passes."+string(rune('0'+i))+".stop", stop)
		v.Set("roll.own_passes."+string(rune('0'+i))+".passes", "2")
	}
	v.Set("room.temp_c", "20")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "Your own way")
	v.Set("roll.machine", "motor-9")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "A stop of this machine is allowed: 9, 8",
		`<option value="motor-9" selected>`,
		"Line 1, stop counts as it was last, 0", "Your own way")
	v.Set("roll.own_passes.0.stop", "9")
	v.Set("roll.own_passes.1.stop", "6")
	v.Set("roll.own_passes.2.stop", "4")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
}
