package web

import (
	"context"
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/doctor"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/draw"
	"hollen/internal/store/storetest"
)

// Every sign is reached from the page, has its drawing, and says what to do; hostile words
// do no harm.
func TestDoctorKnowsEverySign(t *testing.T) {
	s := newSite(t)
	all := s.ask("GET", batchAt(demo.Saturday)+"?at=doctor", nil)
	s.wants(all, 200, "What do you see?", fmt.Sprintf("%d signs", len(doctor.Signs())))
	for _, sign := range doctor.Signs() {
		set := url.Values{"doctor.sign": {sign.Key}, "doctor.a": {""}}.Encode()
		if !strings.Contains(all.Body.String(), strings.ReplaceAll(set, "&", "&amp;")) {
			t.Errorf("%s cannot be picked", sign.Key)
		}
		if draw.Sign(sign.Look) == "" {
			t.Errorf("%s has no drawing %q", sign.Key, sign.Look)
		}
		s.wants(s.ask("GET", batchAt(demo.Saturday)+"?at=doctor&doctor.sign="+sign.Key, nil), 200, sign.Name,
			`class="do"`)
	}
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("at", "doctor")
	v.Set("was_at", "cut")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, `<option value="cut" selected>`, "cutter mats")
	v.Set("doctor.stage", "")
	v.Set("doctor.q", "<b>zzz</b>")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "Nothing by that word", "&lt;b&gt;zzz")
	v.Set("doctor.q", "")
	v.Set("doctor.stage", "cook")
	w := s.ask("POST", batchAt(demo.Saturday)+"/work", v)
	s.wants(w, 200, "bursts")
	if strings.Contains(w.Body.String(), "The well broke") {
		t.Error("the well breaks in the pot")
	}
	v.Set("set", "doctor.sign=interrupted&doctor.a=lay:wrapped")
	v.Set("doctor.minutes", "50")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, " minutes out of the fridge by now", "wake it")
	v.Set("doctor.minutes", "all day")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "1 to 2,880 min is allowed", `value="all day"`)
	v.Set("set", "doctor.sign=nonsense&doctor.a=a:b,c")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "What do you see")
}

// The signs of the roller stand on its page with what to do now, and lead to their causes.
func TestSignsAtTheRoller(t *testing.T) {
	s := newSite(t)
	page := s.ask("GET", batchAt(demo.Saturday)+"?at=roll", nil)
	for _, key := range []string{"snaps-back", "first-pass", "tears", "ragged", "tapers", "wraps"} {
		s.wants(page, 200, `value="doctor:`+key+`"`)
	}
	s.wants(page, 200, "go on with the next", "past 1", "a hand shows", "print shows")
	// 20 mm of stripe are 26.4 at 1.74 mm; rolled on to 0.82 mm they are 26.4·1.74/0.82.
	s.wants(s.ask("GET", batchAt(demo.Straw)+"?at=roll", nil), 200, "come out 26 mm wide, one every 57 mm",
		"the stripes are 56 mm wide, one every 122 mm")
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("was_at", "roll")
	v.Set("at", "doctor:tapers")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "Fed askew",
		`<input type="hidden" name="doctor.sign" value="tapers">`)
	v.Set("at", "doctor:nonsense")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "What do you see")
}

// An act is recorded by its button, counts in the figures, and is undone.
func TestActsAreRecorded(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("at", "doctor")
	v.Set("set", "doctor.sign=cracks&doctor.a=kneaded:enough,dry:little")
	page := s.ask("POST", batchAt(demo.Saturday)+"/work", v)
	button := regexp.MustCompile(`name="set" value="\s*(acts[^"]*)">Done, record it`).FindStringSubmatch(
		page.Body.String())
	if button == nil {
		t.Fatalf("nothing records the water: %.600s", page.Body)
	}
	v.Set("set", strings.ReplaceAll(button[1], "&amp;", "&"))
	v.Set("doctor.amount.cracks.1", "lots") // altered before it is recorded, first to nonsense
	v.Set("doctor.sign", "cracks")
	v.Set("doctor.a", "kneaded:enough,dry:little")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, `value="lots"`, "is allowed")
	v.Set("doctor.amount.cracks.1", "14")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "Done so far",
		"14 g of water</th><td>Cracks when flexed")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
	b, _ := s.store.Get(context.Background(), demo.Number(demo.Saturday))
	if a := b.Request.Acts; len(a) != 1 || a[0].Kind != doctor.Water || a[0].Sign != "cracks" ||
		a[0].Stage != request.AtKnead {
		t.Fatalf("%+v", a)
	}
	before, _ := plan.Make(rules.Default(), demo.Batch(demo.Saturday))
	after, _ := plan.Make(rules.Default(), b.Request.Request)
	if got, want := after.Formula.Dough.Hw-before.Formula.Dough.Hw,
		100*(14-before.Room.KeepG)/before.Formula.Blend.F14G; got < want-1e-9 || got > want+1e-9 {
		t.Errorf("%.4f points, want %.4f", got, want)
	}
	v = s.typed(demo.Number(demo.Saturday))
	v.Set("set", "acts.0.kind=")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
	if b, _ = s.store.Get(context.Background(), demo.Number(demo.Saturday)); len(b.Request.Acts) != 0 {
		t.Errorf("not undone: %+v", b.Request.Acts)
	}
	// Eight are recorded; for the ninth there is no button.
	v = s.typed(demo.Number(demo.Saturday))
	for i := range request.MaxActs {
		v.Set(fmt.Sprintf("acts.%d.kind", i), "oil")
		v.Set(fmt.Sprintf("acts.%d.amount", i), "1")
		v.Set(fmt.Sprintf("acts.%d.stage", i), "knead")
	}
	v.Set("at", "doctor")
	v.Set("doctor.sign", "cracks")
	if body := s.ask("POST", batchAt(demo.Saturday)+"/work", v).Body.String(); strings.Contains(body,
		">Done, record it") ||
		strings.Count(body, ">Undo<") != request.MaxActs {
		t.Errorf("%d acts", strings.Count(body, ">Undo<"))
	}
}

// What cannot be is refused beside its field: no kneading or ten hours of it, a warm fridge,
// a time that is over.
func TestKneadingIsRefused(t *testing.T) {
	s := newSite(t)
	for field, c := range map[string][3]string{
		"knead.knead_min":    {"0", "knead", "1 to 60 min, whole, or empty is allowed"},
		"knead.turns":        {"40", "knead", "1 to 6, whole"},
		"rest.rest_min":      {"9999", "rest", "0 to 2,880 min"},
		"bench.fridge_c":     {"30", "rest", "0 to 10 °C is allowed"},
		"bench.hook_g":       {"-5", "knead", "200 to 50,000 g"},
		"rest.poke_s":        {"fast", "rest", "0 to 60 s"},
		"clock.roll_at":      {"2020-01-01T10:00", "rest", "It is past"},
		"clock.from":         {"noon", "rest", "A day and a time"},
		"knead.school":       {"roman", "knead", "One of auto"},
		"bench.hand_limit_g": {"1e9", "knead", "200 to 6,000 g"},
		"acts.0.amount":      {"x", "knead", ""}, // beside no act it counts for nothing
		"bench.people":       {"1.5", "knead", "1 to 8, whole"},
		"rest.temper_min":    {"600", "rest", "0 to 240 min"},
		"bench.processor_g":  {"heaps", "knead", "100 to 10,000 g"},
	} {
		v := s.typed(demo.Number(demo.Saturday))
		v.Set(field, c[0])
		v.Set("at", c[1])
		w := s.ask("POST", batchAt(demo.Saturday)+"/work", v)
		if c[2] == "" {
			s.wants(w, 200)
			continue
		}
		s.wants(w, 200, c[2])
		if field != "knead.school" && !strings.Contains(w.Body.String(), `value="`+c[0]+`"`) {
			t.Errorf("%s: what was typed is lost", field)
		}
	}
	// A time to come is taken, and one that was kept stays when it is over.
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("clock.roll_at", storetest.Now().Add(48*time.Hour).Format("2006-01-02T15:04"))
	v.Set("at", "rest")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "By the clock", "as it stands, start at")
}
