package web

import (
	"compress/gzip"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"maps"
	"math"
	"net/http"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"github.com/coder/websocket"

	"hollen/internal/account"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/exchange"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
	"hollen/internal/web/page"
	"hollen/internal/web/static"
)

func TestMain(m *testing.M) {
	account.CheapForTests() // brakes are tried by the hundred; what a hash costs is internal/account's to test
	storetest.Main(m)
}

type site struct {
	testing.TB
	h     http.Handler
	store *store.Store
	log   *strings.Builder
}

// byTheBook has a store's plans take nothing from the log: their figures are the book's.
func byTheBook(t testing.TB, s *store.Store) {
	t.Helper()
	if err := s.ChangeLogSettings(context.Background(), func(l *store.LogSettings) { l.Off = true }); err != nil {
		t.Fatal(err)
	}
}

func newSite(t testing.TB) site {
	t.Helper()
	return siteOn(t, demo.Day)
}

// siteOn is a site whose demo, and with it the age of its flours, is of a day.
func siteOn(t testing.TB, day time.Time) site {
	t.Helper()
	s, _ := demotest.Store(t, day)
	byTheBook(t, s)
	var log strings.Builder
	return site{t, New(s, rules.Default(), slog.New(slog.NewTextHandler(&log, nil)), Access{}), s, &log}
}

// emptySite is a site of a kitchen that has nothing yet.
func emptySite(t testing.TB) site {
	t.Helper()
	s := storetest.Open(t)
	var log strings.Builder
	return site{t, New(s, rules.Default(), slog.New(slog.NewTextHandler(&log, nil)), Access{}), s, &log}
}

func (s site) ask(method, path string, form url.Values, change ...func(*http.Request)) *httptest.ResponseRecorder {
	s.Helper()
	var body io.Reader
	if form != nil {
		body = strings.NewReader(form.Encode())
	}
	r := httptest.NewRequest(method, "http://127.0.0.1"+path, body)
	if form != nil {
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	for _, f := range change {
		f(r)
	}
	w := httptest.NewRecorder()
	s.h.ServeHTTP(w, r)
	return w
}

// typed returns the form a browser would post for a batch, as it is saved.
func (s site) typed(id uint64) url.Values {
	s.Helper()
	b, err := s.store.Get(context.Background(), id)
	if err != nil {
		s.Fatal(err)
	}
	return postOf(b.Version, b.Request.Request)
}

// postOf is what the page of a request posts.
func postOf(version int, r request.Request) url.Values {
	v := url.Values{"version": {fmt.Sprint(version)}, "was_at": {"formula"}}
	for _, f := range request.Fields() {
		if f.Has(&r) {
			v.Set(f.Path, f.Get(&r))
		}
	}
	return v
}

// open is the version a page is opened on.
func (s site) open(path string) string {
	s.Helper()
	return between(s.ask("GET", path, nil).Body.String(), `name="version" value="`, `"`)
}

func (s site) wants(w *httptest.ResponseRecorder, status int, parts ...string) {
	s.Helper()
	if w.Code != status {
		s.Errorf("status %d, want %d: %.300s", w.Code, status, w.Body)
	}
	for _, p := range parts {
		if !strings.Contains(w.Body.String(), p) && !strings.Contains(flat(w.Body.String()), flat(p)) {
			s.Errorf("the answer does not hold %q", p)
		}
	}
}

// flat is a page with its lines joined and nothing between its tags, as a browser lays it out.
func flat(page string) string {
	return strings.ReplaceAll(strings.Join(strings.Fields(page), " "), "> <", "><")
}

func TestEveryStationOfEveryBatch(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/batches", nil), 200, "Bottega Marram", "Tagliatelle for Saturday", "New batch")
	for id := 1; id <= len(demo.Scenario(rules.Default(), demo.Day).Batches); id++ {
		for _, st := range request.Stages() {
			w := s.ask("GET", fmt.Sprintf("/batches/%d?at=%s", id, st), nil)
			s.wants(w, 200, `aria-current="step"`, `name="version" value="1"`, "</html>")
			for _, bad := range []string{"ZgotmplZ", "NaN", "%!", "&lt;no value", "+Inf"} {
				if strings.Contains(w.Body.String(), bad) {
					t.Errorf("batch %d at %s shows %s", id, st, bad)
				}
			}
		}
	}
	s.wants(s.ask("GET", "/batches/99", nil), 404, "There is no such batch")
	s.wants(s.ask("GET", "/batches/x", nil), 404)
	s.wants(s.ask("GET", "/nowhere", nil), 404, "nothing at this address")
	s.wants(s.ask("PUT", batchAt(demo.Supper), nil), 405)
	s.wants(s.ask("GET", batchAt(demo.Supper)+"/work", nil), 303)
}

func TestWorkSavesNothing(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("room.rh", "80")
	w := s.ask("POST", batchAt(demo.Saturday)+"/work", v)
	s.wants(w, 200, "Not saved yet", `value="80"`)
	if b, _ := s.store.Get(context.Background(), demo.Number(demo.Saturday)); b.Version != 1 ||
		b.Request.Room.RH != .44 {
		t.Errorf("worked out and written: %+v", b)
	}
	// Without a script the steppers and "Take" post, too.
	v.Set("step", "room.rh=1")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, `value="81"`)
	v.Set("step", "knead.knead_min=1") // from Hollen's own minutes
	auto, _ := plan.Make(rules.Default(), demo.Batch(demo.Saturday))
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, fmt.Sprintf(`name="knead.knead_min" value="%.0f"`,
		auto.Knead.Min+1))
	v.Del("step")
	v.Set("set", "eggs.fix_whole_eggs=10&eggs.fix_extra_yolks=0")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "10 eggs", "Hollen’s own answer")
}

func TestErrorsStandBesideTheirFields(t *testing.T) {
	s := newSite(t)
	for path, typed := range map[string]string{"room.rh": "100", "amount.flour_g": "1e9", "roll.bench_mm": "wide",
		"room.temp_c":                   "",
		"flours.0.measured_moisture_wb": "60",
		"flours.1.share":                "180", "name": strings.Repeat("x", 90), "eggs.fix_whole_eggs": "2.5",
		"cut.min_length_mm": "900",
		"cut.shape":         "<script>"} {
		v := s.typed(demo.Number(demo.Saturday))
		v.Set(path, typed)
		f, _ := request.FieldAt(path)
		v.Set("at", string(f.Stage))
		w := s.ask("POST", batchAt(demo.Saturday)+"/work", v)
		id := "f-" + strings.ReplaceAll(path, ".", "-")
		s.wants(w, 200, `aria-invalid="true"`, "Until it is put right")
		at := regexp.MustCompile(`id="e-` + id + `"[^>]*>([^<]+)<`).FindStringSubmatch(w.Body.String())
		if path == "cut.min_length_mm" {
			at = regexp.MustCompile(`id="e-f-cut-max_length_mm"[^>]*>([^<]+)<`).FindStringSubmatch(w.Body.String())
		}
		if f.Kind != request.Choice && at == nil {
			t.Errorf("%s: no message beside it", path)
		}
		if f.Kind != request.Choice && !strings.Contains(w.Body.String(), `value="`+typed+`"`) {
			t.Errorf("%s: %q is lost", path, typed)
		}
		if w := s.ask("POST", batchAt(demo.Saturday)+"/save", v); w.Code != 422 {
			t.Errorf("%s: saved with status %d", path, w.Code)
		}
	}
	if b, _ := s.store.Get(context.Background(), demo.Number(demo.Saturday)); b.Version != 1 {
		t.Errorf("version %d after refused saves", b.Version)
	}
}

func TestSaveReopenAndConflict(t *testing.T) {
	s := newSite(t)
	one, two := s.typed(demo.Number(demo.Saturday)), s.typed(demo.Number(demo.Saturday))
	one.Set("room.rh", "60")
	one.Set("name", "Tagliatelle, renamed")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", one), 303)
	s.wants(s.ask("GET", batchAt(demo.Saturday), nil), 200, "Tagliatelle, renamed", `value="2"`)
	// The second window changed something else and the humidity, too.
	two.Set("room.rh", "70")
	two.Set("roll.bench_mm", "1500")
	w := s.ask("POST", batchAt(demo.Saturday)+"/save", two)
	s.wants(w, 409, "another window saved version 2", "Humidity", "44 %", "60 %", "70 %, yours", "Tagliatelle, renamed",
		`name="version" value="2"`,
		`value="1500"`)
	// What the page holds now saves, with both sides in it.
	two.Set("version", "2")
	two.Set("name", "Tagliatelle, renamed")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", two), 303)
	b, _ := s.store.Get(context.Background(), demo.Number(demo.Saturday))
	if r := b.Request; b.Version != 3 || r.Room.RH != .7 || r.Roll.BenchMM != 1500 || r.Name != "Tagliatelle, renamed" {
		t.Errorf("%d %+v", b.Version, r)
	}
}

func TestDuplicateDeleteUndo(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("room.rh", "33")
	w := s.ask("POST", batchAt(demo.Saturday)+"/duplicate", v)
	s.wants(w, 303)
	s.wants(s.ask("GET", w.Header().Get("Location"), nil), 200, "Tagliatelle for Saturday, copy")
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"/duplicate", nil), 303)
	if b, err := s.store.Get(context.Background(), 11); err != nil || b.Request.Room.RH != .33 {
		t.Errorf("the copy is not what was typed: %v", err)
	}
	w = s.ask("POST", batchAt(demo.Saturday)+"/delete", url.Values{})
	s.wants(w, 303)
	s.wants(s.ask("GET", w.Header().Get("Location"), nil), 200, "Deleted: <b>Tagliatelle for Saturday</b>", "Undo")
	s.wants(s.ask("GET", batchAt(demo.Saturday), nil), 410)
	// A window still open on it loses nothing.
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 409, "Deleted in another window", `value="33"`)
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/restore", url.Values{}), 303)
	s.wants(s.ask("GET", batchAt(demo.Saturday), nil), 200)
}

func TestNewBatch(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/batches/new", nil), 200, "Portions", "Machine")
	v := url.Values{"name": {"Friday"}, "amount.by": {"dough"}, "amount.portions": {"many"},
		"amount.dough_g": {"2,000"}, "flours.0.flour": {"strong"},
		"eggs.class": {"us-l"}, "cut.shape": {"pappardelle"}, "roll.machine": {"motor-9"}}
	w := s.ask("POST", "/batches", v)
	s.wants(w, 303)
	b, err := s.store.Get(context.Background(), 11)
	if r := b.Request; err != nil || r.Name != "Friday" || r.Amount.DoughG != 2000 || r.Amount.By != "dough" ||
		r.Flours[0].Flour != "strong" ||
		r.Cut.Shape != "pappardelle" || r.Roll.Machine != "motor-9" || r.Eggs.Class != "us-l" {
		t.Errorf("%+v, %v", r, err)
	}
	v.Set("amount.dough_g", "5")
	s.wants(s.ask("POST", "/batches", v), 422, "80 to 60,000 g is allowed", `value="Friday"`)
}

func TestDownloads(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("room.rh", "71")
	w := s.ask("POST", batchAt(demo.Saturday)+"/request.json", v)
	s.wants(w, 200)
	r, err := exchange.ReadRequest(rules.Default(), w.Body)
	if err != nil || r.Room.RH != .71 {
		t.Errorf("%v, %v", r.Room, err)
	}
	w = s.ask("GET", batchAt(demo.Saturday)+"/plan.json", nil)
	s.wants(w, 200)
	var got struct{ Request json.RawMessage }
	if err := json.Unmarshal(w.Body.Bytes(), &got); err != nil {
		t.Fatal(err)
	}
	if r, err = exchange.ReadRequest(rules.Default(), strings.NewReader(string(got.Request))); err != nil ||
		len(request.Changes(r, demo.Batch(demo.Saturday))) != 0 {
		t.Errorf("the plan's request is not the batch: %v", err)
	}
	if d := w.Header().Get("Content-Disposition"); d != `attachment; filename="tagliatelle-for-saturday-plan.json"` {
		t.Error(d)
	}
}

func TestGuards(t *testing.T) {
	s := newSite(t)
	foreign := func(r *http.Request) {
		r.Header.Set("Origin", "https://elsewhere.example")
		r.Header.Set("Sec-Fetch-Site", "cross-site")
	}
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/delete", url.Values{}, foreign), 403)
	s.wants(s.ask("GET", "/", nil, func(r *http.Request) { r.Host = "elsewhere.example" }), 421)
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", url.Values{"name": {strings.Repeat("x", page.MaxBody+1)}}),
		413)
	s.wants(s.ask("GET", "/healthz", nil), 200, "ok")
	w := s.ask("GET", batchAt(demo.Saturday), nil, func(r *http.Request) { r.Header.Set("Accept-Encoding", "gzip") })
	if w.Header().Get("Content-Encoding") != "gzip" {
		t.Error("pages are not compressed")
	} else if z, err := gzip.NewReader(w.Body); err != nil {
		t.Error(err)
	} else if page, err := io.ReadAll(z); err != nil || !strings.Contains(string(page), "</html>") {
		t.Error("the compressed page is not whole")
	}
	if csp := w.Header().Get("Content-Security-Policy"); !strings.Contains(csp, "script-src 'self'") ||
		strings.Contains(csp, "unsafe-eval") ||
		w.Header().Get("X-Content-Type-Options") != "nosniff" {
		t.Error("headers:", w.Header())
	}
	asset := regexp.MustCompile(`/static/[0-9a-f]{12}/css/page/page\.css`).FindString(s.ask("GET", "/",
		nil).Body.String())
	w = s.ask("GET", asset, nil)
	s.wants(w, 200, "--yolk")
	if !strings.Contains(w.Header().Get("Cache-Control"), "immutable") {
		t.Error("static files are not kept for good")
	}
	s.wants(s.ask("GET", "/static/000000000000/css/page/page.css", nil), 404)
	s.wants(s.ask("GET", static.Base, nil), 404)
	// A name is text wherever it stands.
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("name", `<img src=x onerror=alert(1)>`)
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
	for _, path := range []string{"/", "/batches", batchAt(demo.Saturday)} {
		if strings.Contains(s.ask("GET", path, nil).Body.String(), "<img src=x") {
			t.Errorf("%s writes a name as markup", path)
		}
	}
	if strings.Contains(s.log.String(), "onerror") || !strings.Contains(s.log.String(),
		"path="+batchAt(demo.Saturday)+"/save status=303") {
		t.Error("the log has bodies or lacks lines:", s.log.String())
	}
}

// When the database is gone pages say so, and readyz; this process is alive all the same.
func TestDatabaseGone(t *testing.T) {
	s := newSite(t)
	s.store.Close()
	s.wants(s.ask("GET", "/healthz", nil), 200)
	s.wants(s.ask("GET", "/readyz", nil), 503, "does not answer")
	s.wants(s.ask("GET", batchAt(demo.Saturday), nil), 503, "The database does not answer")
}

// No template has script or style of its own: the policy would not run it.
func TestTemplatesHaveNoInline(t *testing.T) {
	files, err := filepath.Glob("*/templates/*.html")
	if err != nil || len(files) < 40 {
		t.Fatal(len(files), err)
	}
	for _, f := range files {
		b, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		if m := regexp.MustCompile(`<style|<script>| on[a-z]+="`).Find(b); m != nil {
			t.Errorf("%s: %s", f, m)
		}
	}
}

// Scripts keep to their rooms as the pages do: a room takes in what all pages share and its own.
func TestScriptsKeepToTheirRooms(t *testing.T) {
	files, err := filepath.Glob("static/js/*/*.js")
	if err != nil || len(files) < 15 {
		t.Fatal(len(files), err)
	}
	from := regexp.MustCompile(`from "([^"]+)"`)
	for _, f := range files {
		b, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		room := filepath.Base(filepath.Dir(f))
		for _, m := range from.FindAllSubmatch(b, -1) {
			if to := filepath.Base(filepath.Dir(filepath.Join(filepath.Dir(f), string(m[1])))); to != room &&
				to != "page" {
				t.Errorf("%s takes in %s, of the room %s", f, m[1], to)
			}
		}
	}
}

func BenchmarkBatchPage(b *testing.B) {
	s := newSite(b)
	for _, at := range []string{"formula", "roll", "cut"} {
		b.Run(at, func(b *testing.B) {
			for b.Loop() {
				s.wants(s.ask("GET", batchAt(demo.Saturday)+"?at="+at, nil), 200)
			}
		})
	}
	figures := func(r *http.Request) { r.Header.Set(page.PartHeader, "figures") }
	for _, at := range []string{"formula", "roll", "cut"} {
		b.Run(at+", a change", func(b *testing.B) {
			v := s.typed(demo.Number(demo.Saturday))
			v.Set("was_at", at)
			for b.Loop() {
				s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v, figures), 200)
			}
		})
	}
}

// The room that a batch counts with is said where it is asked for, and where it moves the water.
func TestTheRoomIsSaid(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/batches/new", nil), 200, "The room counts as 22 °C and 45 % until you say yours")
	s.wants(s.ask("GET", "/batches/new?as=own", nil), 200, "The room counts as")
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"?at=formula", nil), 200,
		"For a room of 21 °C and 44 %; yours goes under Room.")
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"?at=dry", nil), 200, "21 °C and 44 %</span> stand under Room")
}

// Up to five flours, by share or by grams; the first takes the rest.
func TestBlend(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("flours.1.share", "200 g")
	v.Set("flours.2.flour", "strong")
	v.Set("flours.2.share", "")
	v.Set("flours.4.flour", "rye-light")
	v.Set("flours.4.share", "5")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
	b, err := s.store.Get(context.Background(), demo.Number(demo.Saturday))
	if err != nil {
		t.Fatal(err)
	}
	got := ""
	for _, f := range b.Request.Flours {
		got += fmt.Sprintf("%s %.3g; ", f.Flour, f.Share)
	}
	if got != "soft-00 0.55; semola-fine 0.2; strong 0.2; rye-light 0.05; " {
		t.Errorf("kept %s", got)
	}
	// Taking one out of the middle leaves the others where they were typed.
	v = s.typed(demo.Number(demo.Saturday))
	v.Set("flours.1.flour", "")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, `name="flours.2.share" value="20"`,
		`name="flours.3.share" value="5"`,
		`id="rest-share" data-live="text">75<`)
	v.Set("flours.2.share", "96")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "“101 %” won’t do", `value="96"`,
		"Until it is put right")
}

// Whatever a form holds, the batch is worked out from the last good values.
func TestSeveralErrorsAtOnce(t *testing.T) {
	s := newSite(t)
	for _, typed := range []map[string]string{
		{"cut.min_length_mm": "1537", "room.rh": "269"},
		{"cut.max_length_mm": "70", "cut.shape": "sawdust", "amount.flour_g": "NaN"},
		{"flours.1.flour": "663", "flours.0.share": "-4"},
		{"cut.min_length_mm": "500", "cut.max_length_mm": "499", "name": ""},
	} {
		for id := uint64(4); id <= 5; id++ { // one flour, two flours
			v := s.typed(id)
			for path, text := range typed {
				v.Set(path, text)
			}
			s.wants(s.ask("POST", fmt.Sprintf("/batches/%d/work", id), v), 200, "Until it is put right")
		}
	}
}

// The eggs are weighed once cracked: both answers are offered, and one is a tap.
func TestCrackedAndEggFirst(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("eggs.cracked_g", "520")
	v.Set("amount.portions", "many") // does not count, stands in nobody's way
	w := s.ask("POST", batchAt(demo.Saturday)+"/work", v)
	s.wants(w, 200, "They weigh 520 g, not 540 g", "Move the flour", `value="many"`)
	set := regexp.MustCompile(`name="set" value="(amount\.by=eggs[^"]*)"`).FindStringSubmatch(w.Body.String())
	if set == nil {
		t.Fatal("no way to move the flour")
	}
	v.Set("set", strings.ReplaceAll(set[1], "&amp;", "&"))
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "520 g of egg",
		"bring this much flour to its target")
	v.Set("eggs.style", "none")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200,
		"A dough without egg goes by portions, dough or flour",
		"Until it is put right")
}

// The recipe check keeps the recipe's name, offers the workshop's own machines, and ends in one thing to
// do; what it says is what the weighed batch does.
func TestRecipeCheckEndsInANextStep(t *testing.T) {
	s := newSite(t)
	own := regexp.MustCompile(`<option value="(own-\d+)"`).FindStringSubmatch(s.ask("GET", "/recipe",
		nil).Body.String())
	if own == nil {
		t.Fatal("no machine of the workshop's own is offered")
	}
	v := url.Values{"text": {"Lantern ribbons\n2 cups all-purpose flour\n3 large eggs\na pinch of salt"}, "cup": {"us"},
		"eggs": {"us-l"}, "fill": {""},
		"machine": {own[1]}}
	w := s.ask("POST", "/recipe", v)
	s.wants(w, 200, "Lantern ribbons", "It may go either way", "<b>Next.</b> Weigh ")
	says := regexp.MustCompile(`Weigh (\d+) g of flour to 3 eggs`).FindStringSubmatch(w.Body.String())
	if says == nil {
		t.Fatal("no flour to weigh")
	}
	s.wants(s.ask("POST", "/recipe/batch", v), 303)
	b, err := s.store.Get(context.Background(), 11)
	if err != nil {
		t.Fatal(err)
	}
	p, err := plan.Make(rules.Default(), b.Request.Request)
	if r := b.Request; err != nil || r.Name != "Lantern ribbons" || r.Roll.Own == nil || fmt.Sprintf("%.0f",
		r.Amount.FlourG) != says[1] ||
		p.Formula.Target.Outside(p.Formula.Dough.Hw) != 0 || r.Amount.FlourG < 2*236.6*.51 ||
		r.Amount.FlourG > 2*236.6*.68 {
		t.Errorf("%+v, %v", r.Amount, err)
	}
	// Beyond what the cups hold it says what else.
	for text, says := range map[string]string{"2 cups flour\n6 large eggs": "more than the cups hold",
		"500 g 00 flour\n4 large eggs": "of water",
		"300 g flour\n6 large eggs":    "or keep 300 g and take "} {
		v.Set("text", text)
		s.wants(s.ask("POST", "/recipe", v), 200, "<b>Next.</b>", says)
	}
}

// A recipe in cups is read, set against the band, and weighed in one tap.
func TestRecipeCheck(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/recipe", nil), 200, "Working hydration", "It may go either way", "Which spoon is not said")
	v := url.Values{"text": {"400 g 00 flour\n100 g semola\n5 large eggs\n2 yolks\n3 bananas\n1 tbsp oil"},
		"cup": {"metric"}, "eggs": {""},
		"fill": {"<x>"}, "machine": {"motor-9"}}
	s.wants(s.ask("POST", "/recipe", v), 200, "Left out:", "not known here: bananas", "EU large")
	w := s.ask("POST", "/recipe/batch", v)
	s.wants(w, 303)
	b, err := s.store.Get(context.Background(), 11)
	if r := b.Request; err != nil || r.Amount.FlourG != 500 || len(r.Flours) != 2 || r.Flours[1].Share != .2 ||
		*r.Eggs.FixWhole != 5 ||
		*r.Eggs.FixYolks != 2 || r.Eggs.Style != "rich" || r.Oil != .027 || r.Roll.Machine != "motor-9" {
		t.Errorf("%+v, %v", r, err)
	}
	s.wants(s.ask("GET", w.Header().Get("Location"), nil), 200, "5 eggs and 2 yolks")
	// As written, every egg and spoon stays what it is.
	w = s.ask("POST", "/recipe/written", v)
	s.wants(w, 303)
	b, err = s.store.Get(context.Background(), 12)
	if r := b.Request; err != nil || r.Amount.By != request.ByOwn || r.Amount.FlourG != 500 || len(r.Flours) != 2 ||
		*r.Eggs.FixWhole != 5 ||
		*r.Eggs.FixYolks != 2 || r.Eggs.LiquidG != nil || math.Abs(500*r.Oil-13.5) > .01 {
		t.Errorf("%+v, %v", r, err)
	}
	s.wants(s.ask("GET", w.Header().Get("Location"), nil), 200, "As you make it", "5 eggs and 2 yolks")
	v.Set("text",
		"300 g flour\n150 g beaten egg\n2 splashes of water\n100 ml milk\n150 g spinach puree\n20 g olive oil")
	s.wants(s.ask("POST", "/recipe/written", v), 303)
	b, err = s.store.Get(context.Background(), 13)
	p, errMake := plan.Make(rules.Default(), b.Request.Request)
	if err != nil || errMake != nil || math.Abs(p.Formula.WholeG-150) > .5 || p.Formula.TopG != 10 ||
		len(p.Formula.Additions) != 2 ||
		math.Abs(p.Formula.Additions[0].MassG-103) > .5 || math.Abs(p.Formula.Additions[1].MassG-150) > .5 ||
		math.Abs(p.Formula.OilG-20) > .1 {
		t.Errorf("%+v, %v, %v", p.Formula, err, errMake)
	}
	v.Set("text", "<script>alert(1)</script>, love")
	w = s.ask("POST", "/recipe/batch", v)
	s.wants(w, 422, "No flour was found", "&lt;script&gt;")
	for _, text := range []string{"50 kg flour\n900 eggs", "1 g flour, 1 egg", "3 cups flour",
		"9 cups rye, 2 cups 00, 1 cup semola, 1 cup rice, 1 cup millet, 1 cup corn, 12 yolks"} {
		v.Set("text", text)
		if w := s.ask("POST", "/recipe/batch", v); w.Code != 303 && w.Code != 422 {
			t.Errorf("%q: status %d", text, w.Code)
		}
	}
}

// The same batch in a wet room, and two batches: what differs stands side by side.
func TestCompare(t *testing.T) {
	s := newSite(t)
	w := s.ask("GET", "/compare?a=7", nil)
	dry, _ := plan.Make(rules.Default(), demo.Batch(demo.Saturday))
	r := demo.Batch(demo.Saturday)
	r.Room.TempC, r.Room.RH = 27, .78
	wet, _ := plan.Make(rules.Default(), r)
	s.wants(w, 200, "at 21 °C and 44 %", "at 27 °C and 78 %", measure.Metric.Grams(dry.Formula.TopG)+" water",
		measure.Metric.Grams(wet.Formula.TopG)+" water",
		"figures come out the same")
	if dry.Formula.TopG <= wet.Formula.TopG {
		t.Errorf("wet August asks for %.0f g, dry January for %.0f", wet.Formula.TopG, dry.Formula.TopG)
	}
	yolk, _ := plan.Make(rules.Default(), demo.Batch("Yolk tagliolini for service"))
	s.wants(s.ask("GET", "/compare?a=7&b=6", nil), 200, "Yolk tagliolini for service", yolk.EggWords(), "Style")
	s.wants(s.ask("GET", "/compare?a=7&b=7&room.rh=44&room.temp_c=21", nil), 200, "Every figure comes out the same")
	s.wants(s.ask("GET", "/compare?a=7&b=room&room.rh=140", nil), 422, "5 to 99 % is allowed", `value="140"`)
	s.wants(s.ask("GET", "/compare?a=99&b=<x>", nil), 200)
}

// The label names what is in it in falling order, and what an eater must know stands out.
func TestLabel(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", batchAt(demo.Saltmarsh)+"?at=formula", nil), 200, "<b>wheat flour</b>", "<b>egg</b>",
		"Dusted with <b>durum wheat</b>", " kJ<")
}

// Rooms are named, edited, refused with a reason, and taken by a batch with a tap.
func TestRooms(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("POST", "/rooms", url.Values{"name": {"Wet  August"}, "temp": {"27"}, "rh": {"78,5"}}), 303)
	s.wants(s.ask("GET", "/rooms", nil), 200, "Wet August", `value="78.5"`)
	s.wants(s.ask("POST", "/rooms", url.Values{"name": {"wet august"}, "temp": {"20"}, "rh": {"40"}}), 422,
		"Another room has that name", `value="wet august"`)
	s.wants(s.ask("POST", "/rooms", url.Values{"name": {""}, "temp": {"hot"}, "rh": {"100"}}), 422, "1 to 60 letters",
		"2 to 45 °C is allowed",
		"5 to 99 % is allowed", `value="hot"`)
	s.wants(s.ask("POST", "/rooms", url.Values{"id": {"4"}, "version": {"1"}, "name": {"August"}, "temp": {"26"},
		"rh": {"80"}}), 303)
	// A second window, opened before that, is told, and what was typed in it stays.
	late := url.Values{"id": {"4"}, "version": {"1"}, "name": {"Wet August"}, "temp": {"30"}, "rh": {"70"}}
	s.wants(s.ask("POST", "/rooms", late), 422, "Another window kept it meanwhile as August, 26 °C and 80 %",
		`value="30"`, `name="version" value="2"`)
	page := s.ask("GET", batchAt(demo.Saturday)+"?at=room", nil)
	s.wants(page, 200, ">August</button>")
	set := regexp.MustCompile(`name="set" value="(room\.rh=[^"]*)">August<`).FindStringSubmatch(page.Body.String())
	if set == nil {
		t.Fatal("no button takes the room")
	}
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("at", "room")
	v.Set("set", strings.ReplaceAll(set[1], "&amp;", "&"))
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, `name="room.rh" value="80"`,
		`name="room.temp_c" value="26"`)
	s.wants(s.ask("POST", "/rooms/4/delete", url.Values{}), 303)
	s.wants(s.ask("POST", "/rooms", url.Values{"id": {"4"}, "name": {"August"}, "temp": {"26"}, "rh": {"80"}}), 422,
		"deleted meanwhile", `value="August"`)
}

// A flour of one's own: by the miller's sheet, picked, kept as it was picked, retired.
func TestOwnFlours(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/cabinet/flours/new?like=strong", nil), 200, "Filled in as Strong bread wheat", `value="62"`)
	sheet := url.Values{"name": {"Mill by the lock"}, "allergen": {"wheat"}, "sorption": {"soft"},
		"protein_pct": {"11,8"}, "ash_pct": {"0.5"},
		"milled_moisture_wb": {"14.2"}, "absorption_pct": {"60"},
		"gluten_factor": {"1"}, "uptake_tau_min": {"7"}, "spooned_g_per_ml": {"0.5"}, "dipped_g_per_ml": {"0.58"},
		"packed_g_per_ml": {"0.68"},
		"price_per_kg":    {"1,10"}}
	s.wants(s.ask("POST", "/cabinet/flours", sheet), 303)
	bad := maps.Clone(sheet)
	bad.Set("protein_pct", "118")
	bad.Set("name", "")
	s.wants(s.ask("POST", "/cabinet/flours", bad), 422, "3 to 25 % is allowed", `value="118"`, "1 to 60 letters")
	const key, at = "own-19", "/cabinet/flours/19" // after the demo’s eighteen things
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("flours.0.flour", key)
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
	b, _ := s.store.Get(context.Background(), demo.Number(demo.Saturday))
	if own := b.Request.Flours[0].Own; own == nil || own.ProteinPct != 11.8 ||
		math.Abs(own.MilledMoistureWB-.142) > 1e-9 || own.PricePerKG.String() != "1.10" {
		t.Fatalf("%+v", b.Request.Flours[0])
	}
	p, err := plan.Make(rules.Default(), b.Request.Request)
	if err != nil || math.Abs(p.Formula.Blend.AbsorptionPct-(.8*60+.2*62)) > .02 {
		t.Errorf("absorption %.2f, %v", p.Formula.Blend.AbsorptionPct, err)
	}
	// The sheet changes: the batch keeps what it was made with until it asks for the newest.
	sheet.Set("id", "19")
	s.wants(s.ask("POST", "/cabinet/flours", sheet), 409) // of no window
	sheet.Set("version", s.open("/cabinet/flours/19"))
	sheet.Set("absorption_pct", "64")
	s.wants(s.ask("POST", "/cabinet/flours", sheet), 303)
	v = s.typed(demo.Number(demo.Saturday))
	w := s.ask("POST", batchAt(demo.Saturday)+"/work", v)
	s.wants(w, 200, "Mill by the lock</option>", "has newer figures", "newest figures")
	v.Set("flours.0.flour", key+"@now")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, `value="own-19@now" selected`)
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
	if b, _ = s.store.Get(context.Background(),
		demo.Number(demo.Saturday)); b.Request.Flours[0].Own.AbsorptionPct != 64 || b.Request.Flours[0].Flour != key {
		t.Errorf("%+v", b.Request.Flours[0])
	}
	// Retired, it is offered no more; the batch still has it, and so has its request.
	s.wants(s.ask("POST", at+"/retire", url.Values{}), 303)
	s.wants(s.ask("GET", "/cabinet/flours", nil), 200, "Put back")
	s.wants(s.ask("GET", batchAt(demo.Saturday), nil), 200, "Mill by the lock, retired")
	w = s.ask("GET", batchAt(demo.Saturday)+"/request.json", nil)
	if r, err := exchange.ReadRequest(rules.Default(), w.Body); err != nil || r.Flours[0].Own == nil {
		t.Errorf("the request does not read back: %v", err)
	}
	other := s.typed(demo.Number(demo.Service))
	other.Set("flours.0.flour", key)
	s.wants(s.ask("POST", batchAt(demo.Service)+"/save", other), 422, "not in the cabinet any more")
	s.wants(s.ask("POST", at+"/restore", url.Values{}), 303)
	s.wants(s.ask("POST", batchAt(demo.Service)+"/save", other), 303)
	s.wants(s.ask("GET", "/cabinet/flours/99", nil), 404)
	s.wants(s.ask("GET", "/cabinet/eggs/10", nil), 404) // a flour is no egg
	s.wants(s.ask("GET", "/cabinet/jam", nil), 404)
	// Back to a shipped flour, the own one is forgotten.
	v = s.typed(demo.Number(demo.Saturday))
	v.Set("flours.0.flour", "plain")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
	if b, _ = s.store.Get(context.Background(), demo.Number(demo.Saturday)); b.Request.Flours[0].Own != nil {
		t.Errorf("%+v", b.Request.Flours[0])
	}
}

// Every shelf: a thing is made, shown, refused with a reason beside its line, edited.
func TestCabinet(t *testing.T) {
	s := newSite(t)
	for _, c := range []struct {
		path            string
		good, bad, want url.Values // want: field -> part of its error
	}{
		{"lots", url.Values{"name": {"autumn sack"}, "flour": {"own-1"}, "kept": {"open_bin"}, "container_kg": {"10"},
			"opened_on":       {"2026-11-20"},
			"sample_before_g": {"20"}, "sample_after_g": {"17.5"}, "price_per_kg": {"1.2"}},
			url.Values{"name": {" "}, "flour": {"own-77"}, "kept": {"pocket"}, "container_kg": {"1e9"},
				"opened_on":            {"20.11."},
				"measured_moisture_wb": {"60"}, "price_per_kg": {"-2"}},
			url.Values{"name": {"1 to 60 letters"}, "flour": {"One of those listed"},
				"container_kg": {"0.05 to 1,000 kg"}, "opened_on": {"A date from 2000"},
				"measured_moisture_wb": {"5 to 20 %"}, "price_per_kg": {"0 to 1,000,000"}}},
		{"eggs", url.Values{"name": {"Hens on the dike"}, "count": {"10"}, "eggs_g": {"548"}, "yolks_g": {"171"},
			"yolk_colour": {"12"}, "price_each": {"0.3125"}},
			url.Values{"name": {"x"}, "count": {"10"}, "eggs_g": {"5480"}, "yolks_g": {"171"}},
			url.Values{"eggs_g": {"An egg of 548"}}},
		{"additions", url.Values{"name": {"Nettle"}, "kind": {"puree"}, "colour": {"#557733"}, "colour_word": {"green"},
			"water_share": {"89"},
			"fat_share":   {"0.3"}, "protein_share": {"3"}, "ash_share": {"2"}, "uptake_g_per_g": {"0"},
			"depth":         {"12"},
			"rest_more_min": {"10"},
			"low_share":     {"8"}, "high_share": {"20"}},
			url.Values{"name": {"Jam"}, "kind": {"puree"}, "colour": {"#557733"}, "water_share": {"89"},
				"fat_share": {"30"}, "protein_share": {"3"},
				"ash_share": {"2"}, "uptake_g_per_g": {"0"}, "depth": {"12"}, "rest_more_min": {"10"},
				"low_share": {"8"}, "high_share": {"2"}},
			url.Values{"water_share": {"come to 124 %"}, "high_share": {"under the lowest dose"}}},
		{"powders", url.Values{"of": {"Nettle tops"}, "fresh_g": {"900"}, "powder_g": {"104"}, "hours": {"10"}},
			url.Values{"of": {"Nettle"}, "fresh_g": {"90"}, "powder_g": {"104"}, "hours": {"10"}},
			url.Values{"powder_g": {"under the fresh"}}},
	} {
		s.wants(s.ask("GET", "/cabinet/"+c.path+"/new", nil), 200, "Keep it")
		s.wants(s.ask("POST", "/cabinet/"+c.path, c.good), 303)
		s.wants(s.ask("GET", "/cabinet/"+c.path, nil), 200, c.good.Get("name")+c.good.Get("of"))
		w := s.ask("POST", "/cabinet/"+c.path, c.bad)
		s.wants(w, 422)
		for field, part := range c.want {
			if m := regexp.MustCompile(`id="e-` + field + `" role="alert">([^<]*)`).FindStringSubmatch(
				w.Body.String()); m == nil || !strings.Contains(m[1], part[0]) {
				t.Errorf("%s: %s is told %q, want %q", c.path, field, m, part[0])
			}
		}
		for field := range c.bad {
			if field == "flour" || field == "kept" {
				continue // a choice that is not offered cannot be shown
			}
			if v := c.bad.Get(field); !strings.Contains(w.Body.String(), `value="`+v+`"`) {
				t.Errorf("%s: what was typed as %s is lost", c.path, field)
			}
		}
	}
	cab, err := s.store.Cabinet(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	if l := cab.Lots[len(cab.Lots)-1]; l.MeasuredWB != .125 || l.Key != "own-19" {
		t.Errorf("%+v", l)
	}
	if e := cab.Eggs[len(cab.Eggs)-1]; e.EdibleG != 54.8 || e.YolkG != 17.1 || e.PriceEach.String() != "0.3125" {
		t.Errorf("%+v", e)
	}
	// 100·.95/.123, 100·900/104
	s.wants(s.ask("GET", "/cabinet/powders?of=nettle&want=100", nil), 200, "772<span", "865<span")
	s.wants(s.ask("GET", "/cabinet/powders?of=nettle&want=lots&water=100", nil), 200, "1 to 20,000 g is allowed",
		"50 to 98 %", `value="lots"`)
	// Prices: new batches start from them, old ones keep theirs.
	s.wants(s.ask("POST", "/cabinet/house", url.Values{"prices.currency": {"£"}, "prices.egg_each": {"0.40"},
		"version": {"1"}}), 303)
	// A second window, opened before that, is told, and what was typed in it stays.
	late := url.Values{"prices.currency": {"$"}, "prices.oil_per_kg": {"9.9"}, "version": {"1"}}
	s.wants(s.ask("POST", "/cabinet/house", late), 409, "another window kept this meanwhile", "Currency sign: £",
		`value="$"`, `name="version" value="2"`)
	s.wants(s.ask("POST", "/cabinet/house", url.Values{"prices.currency": {"£"}, "prices.egg_each": {"a few pence"},
		"version": {"2"}}), 422,
		"0 to 1,000,000", `value="a few pence"`)
	s.wants(s.ask("POST", "/batches", url.Values{"name": {"New"}, "amount.by": {"portions"}, "amount.portions": {"4"},
		"flours.0.flour": {"plain"},
		"eggs.class":     {"own-4"}, "cut.shape": {"fettuccine"}, "roll.machine": {"mixer-8"}}), 303)
	b, _ := s.store.Get(context.Background(), 11)
	if r := b.Request; r.Prices.Currency != "£" || r.Prices.EggEach.String() != "0.40" || r.Eggs.OwnClass == nil ||
		r.MadeOn != today() {
		t.Errorf("%+v", r)
	}
	if name, _ := s.store.Workshop(context.Background()); !strings.HasPrefix(name, "Bottega Marram") {
		t.Errorf("prices have taken the workshop's name: %q", name)
	}
}

// The second dough of a batch: made from the first, linked both ways, parted again.
func TestSecondDough(t *testing.T) {
	s := newSite(t)
	w := s.ask("POST", batchAt(demo.Saturday)+"/partner", s.typed(demo.Number(demo.Saturday)))
	s.wants(w, 303)
	s.wants(s.ask("GET", w.Header().Get("Location"), nil), 200, "Tagliatelle for Saturday, second dough",
		`<a href="`+batchAt(demo.Saturday)+`">Tagliatelle for Saturday</a>`, "spinach, cooked and squeezed")
	s.wants(s.ask("GET", batchAt(demo.Saturday), nil), 200, `<a href="`+made()+`">`, "Part the two doughs")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/partner", s.typed(demo.Number(demo.Saturday))), 409,
		"a second dough already")
	// Another room for one of them is told at the other.
	v := s.typed(11)
	v.Set("room.rh", "61")
	s.wants(s.ask("POST", made()+"/save", v), 303)
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"?at=room", nil), 200, "stands elsewhere", "21 °C and 61 %")
	// Deleted, it is no partner; and it can be made anew.
	s.wants(s.ask("POST", made()+"/delete", url.Values{}), 303)
	if strings.Contains(s.ask("GET", batchAt(demo.Saturday), nil).Body.String(), "second dough</a>") {
		t.Error("a deleted dough still stands at the head")
	}
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/partner", s.typed(demo.Number(demo.Saturday))), 303)
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/part", url.Values{}), 303)
	for _, id := range []uint64{demo.Number(demo.Saturday), demo.Number(demo.Counter)} {
		if b, err := s.store.Get(context.Background(), id); err != nil || b.PartnerID != nil {
			t.Errorf("%d: %+v, %v", id, b.PartnerID, err)
		}
	}
}

// The script asks for the figures alone: controls come as values and words, no more, and
// every one the page has is there.
func TestLeanAnswer(t *testing.T) {
	s := newSite(t)
	ids := regexp.MustCompile(`<(?:input|select|output)[^>]* id="(f-[^"]+|rest-share)"|id="([che]-[^"]+)"[^>]* data-live="(?:hidden"|text"[^>]*>[^<])`)
	for _, at := range request.Stages() {
		v := s.typed(demo.Number(demo.Saltmarsh))
		v.Set("at", string(at))
		whole := s.ask("POST", batchAt(demo.Saltmarsh)+"/work", v).Body.String()
		lean := s.ask("POST", batchAt(demo.Saltmarsh)+"/work", v, func(r *http.Request) {
			r.Header.Set(page.PartHeader,
				"figures")
		}).Body.String()
		for _, m := range ids.FindAllStringSubmatch(whole, -1) {
			if id := `id="` + m[1] + m[2] + `"`; !strings.Contains(lean, id) {
				t.Errorf("%s: the lean answer lacks %s", at, id)
			}
		}
		if strings.Contains(lean, `value="rye-light"`) || len(lean) >= len(whole) {
			t.Errorf("%s: %d of %d bytes", at, len(lean), len(whole))
		}
	}
}

// batch is the address of a batch of the demo.
func batchAt(name string) string { return fmt.Sprintf("/batches/%d", demo.Number(name)) }

// made is the address of the first batch made in a test.
func made() string { return fmt.Sprintf("/batches/%d", len(demo.Batches())+1) }

// A change that comes over the socket is answered as one that is posted; other pages' sockets are
// refused, and what no form may be ends the socket, not the server.
func TestEditsOverASocket(t *testing.T) {
	s := newSite(t)
	srv := httptest.NewServer(s.h)
	defer srv.Close()
	address := "ws" + strings.TrimPrefix(srv.URL, "http") + batchAt(demo.Saturday) + "/edits"
	ctx, cancel := context.WithTimeout(context.Background(), 30*time.Second)
	defer cancel()
	if _, answer, err := websocket.Dial(ctx, address, &websocket.DialOptions{HTTPHeader: http.Header{"Origin": {
		"http://elsewhere.example"}}}); err == nil ||
		answer.StatusCode != 403 {
		t.Errorf("another origin is let in: %v", err)
	}
	conn, _, err := websocket.Dial(ctx, address, &websocket.DialOptions{HTTPHeader: http.Header{"Cookie": {
		"units=us"}}})
	if err != nil {
		t.Fatal(err)
	}
	defer conn.CloseNow()
	conn.SetReadLimit(1 << 20)
	say := func(message string) string {
		t.Helper()
		if err := conn.Write(ctx, websocket.MessageText, []byte(message)); err != nil {
			t.Fatal(err)
		}
		_, b, err := conn.Read(ctx)
		if err != nil {
			t.Fatal(err)
		}
		return string(b)
	}
	v := s.typed(demo.Number(demo.Saturday))
	for i, rh := range []string{"70", "30", "soaking"} {
		v.Set("room.rh", rh)
		posted := s.ask("POST", batchAt(demo.Saturday)+"/work", v, func(r *http.Request) {
			r.Header.Set(page.PartHeader, "figures")
			r.Header.Set("Cookie", "units=us")
		})
		if got, want := say(fmt.Sprintf("%d\n%s", i, v.Encode())), fmt.Sprintf("%d %d\n%s", i, posted.Code,
			posted.Body); got != want {
			t.Errorf("over the socket %.300s\nposted %.300s", got, want)
		}
	}
	if got := say("7"); !strings.HasPrefix(got, "7 200\n") { // an empty form changes nothing
		t.Errorf("%.200s", got)
	}
	if err := conn.Write(ctx, websocket.MessageText, make([]byte, page.MaxBody+1)); err == nil {
		_, _, err = conn.Read(ctx)
		if websocket.CloseStatus(err) != websocket.StatusMessageTooBig {
			t.Errorf("too much is answered: %v", err)
		}
	}
	s.wants(s.ask("GET", batchAt(demo.Saturday), nil), 200)
}
