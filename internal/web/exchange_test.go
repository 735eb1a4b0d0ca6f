package web

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"regexp"
	"slices"
	"strings"
	"testing"

	"hollen/internal/core/cut"
	"hollen/internal/core/request"
	"hollen/internal/demo"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// kept is everything that stands in the database, to see that nothing changed.
// sendFile posts a form with a file in it.
func (s site) sendFile(path string, form url.Values, field, name string, raw []byte) *httptest.ResponseRecorder {
	s.Helper()
	var b bytes.Buffer
	m := multipart.NewWriter(&b)
	for k, all := range form {
		for _, v := range all {
			if err := m.WriteField(k, v); err != nil {
				s.Fatal(err)
			}
		}
	}
	f, err := m.CreateFormFile(field, name)
	if err == nil {
		_, err = f.Write(raw)
	}
	if err != nil {
		s.Fatal(err)
	}
	m.Close()
	return s.ask("POST", path, nil, func(r *http.Request) {
		r.Body, r.ContentLength = nopCloser{&b}, int64(b.Len())
		r.Header.Set("Content-Type", m.FormDataContentType())
	})
}

func (s site) kept() string {
	s.Helper()
	things, err := s.store.Things(context.Background(), true)
	if err != nil {
		s.Fatal(err)
	}
	list, _, err := s.store.List(context.Background(), store.Query{})
	if err != nil {
		s.Fatal(err)
	}
	var b strings.Builder
	for _, t := range things {
		doc, err := json.Marshal(t)
		if err != nil {
			s.Fatal(err)
		}
		fmt.Fprintln(&b, string(doc))
	}
	for _, x := range list {
		fmt.Fprintln(&b, x.ID, x.Version, written(x.Request.Request))
	}
	return b.String()
}

var ticks = regexp.MustCompile(`name="take" value="([^"]+)"`)

// boxes are the boxes of a preview, all ticked.
func boxes(page string) (out []string) {
	for _, m := range ticks.FindAllStringSubmatch(page, -1) {
		out = append(out, m[1])
	}
	return out
}

// Every file a batch page hands out is brought in again: the preview knows it for what it is,
// and taking it makes the same batch.
func TestEveryDownloadComesBack(t *testing.T) {
	s := newSite(t)
	for _, id := range []uint64{1, 7, 8, 9, 10} {
		files := []string{"request.json", "plan.json", "recipe.json", "ladder.svg"}
		if id != 10 {
			files = append(files, "cut.svg")
		}
		for _, f := range files {
			w := s.ask("GET", fmt.Sprintf("/batches/%d/%s", id, f), nil)
			s.wants(w, 200)
			if !strings.HasPrefix(w.Header().Get("Content-Disposition"), "attachment") {
				t.Errorf("%s is not handed over as a file", f)
			}
			s.wants(s.ask("POST", "/import", url.Values{"text": {w.Body.String()}}), 200,
				fmt.Sprintf(`the same as <a href="/batches/%d">`, id))
		}
	}
	doc := s.ask("GET", batchAt(demo.Lantern)+"/recipe.json", nil).Body.String()
	take := boxes(s.ask("POST", "/import", url.Values{"text": {doc}}).Body.String())
	w := s.ask("POST", "/import/take", url.Values{"text": {doc}, "take": take})
	s.wants(w, 303)
	if b, err := s.store.Get(context.Background(), 11); err != nil ||
		written(b.Request.Request) != written(s.saved(demo.Number(demo.Lantern))) ||
		w.Header().Get("Location") != made() {
		t.Errorf("%v: %s", err, w.Header().Get("Location"))
	}
	s.wants(s.ask("GET", batchAt(demo.Orecchiette)+"/cut.svg", nil), 404)
	s.wants(s.ask("GET", batchAt(demo.Counter)+"/cut.svg?part=2", nil), 200, "Wrack ribbons")
	s.wants(s.ask("GET", batchAt(demo.Counter)+"/cut.svg?part=7", nil), 404)
}

func (s site) saved(id uint64) request.Request {
	s.Helper()
	b, err := s.store.Get(context.Background(), id)
	if err != nil {
		s.Fatal(err)
	}
	return b.Request.Request
}

// A batch from another workshop brings its own things along under keys of this one.
func TestBatchFromElsewhere(t *testing.T) {
	s := newSite(t)
	r := demo.Batch("Lantern night ravioli")
	mill, lot := *r.Flours[0].Own, *r.Flours[0].LotKept
	mill.Key, mill.Name = "own-4", "Sandbar mill 0"
	lot.Key, lot.Flour, lot.Name = "own-1", mill.Key, "brown sack"
	shape, _ := cut.Find("ravioli")
	shape.Key, shape.Name = "own-77", "<script>alert(1)</script> & co"
	r.Name = `"><img src=x onerror=alert(1)>`
	r.Flours[0].Flour, r.Flours[0].Own, r.Flours[0].Lot, r.Flours[0].LotKept = mill.Key, &mill, lot.Key, &lot
	r.Cut.Shape, r.Cut.Own = shape.Key, &shape
	doc := written(r)
	before := s.kept()
	w := s.ask("POST", "/import", url.Values{"text": {doc}})
	s.wants(w, 200, "Sandbar mill 0", "brown sack", "added to the cabinet", "From the dike farm", "as in the cabinet")
	if page := w.Body.String(); strings.Contains(page, "<script>alert") || strings.Contains(page, "<img src=x") {
		t.Error("a name is not escaped")
	}
	if s.kept() != before {
		t.Error("a preview changed something")
	}
	take := boxes(w.Body.String())
	// not what was previewed
	s.wants(s.ask("POST", "/import/take", url.Values{"text": {doc}}), 409, "changed meanwhile")
	if s.kept() != before {
		t.Error("what was not previewed is taken")
	}
	s.wants(s.ask("POST", "/import/take", url.Values{"text": {doc}, "take": take}), 303)
	got := s.saved(11)
	if got.Flours[0].Flour != "own-20" || got.Flours[0].Own.Name != "Sandbar mill 0" ||
		got.Flours[0].LotKept.Flour != "own-20" ||
		got.Flours[0].Lot != "own-21" || got.Eggs.Class != "own-4" || got.Cut.Own.Key != "own-19" {
		t.Errorf("%+v %+v %+v", got.Flours[0], got.Eggs, got.Cut)
	}
	s.wants(s.ask("GET", made()+"?at=room", nil), 200, "brown sack")
	page := s.ask("GET", made()+"?at=formula", nil).Body.String()
	if strings.Contains(page, "has newer figures") || strings.Contains(page, "<img src=x") {
		t.Error("what was brought along is not the cabinet's, or a name is not escaped")
	}
	s.wants(s.ask("POST", "/import", url.Values{"text": {doc}}), 200, `the same as <a href="`+made()+`">`)
}

// A cabinet goes out and comes back: the same to this workshop, new to another, and what differs
// is said before it is taken.
func TestCabinetThereAndBack(t *testing.T) {
	s := newSite(t)
	doc := s.ask("GET", "/cabinet/export.json", nil).Body.String()
	w := s.ask("POST", "/import", url.Values{"text": {doc}})
	s.wants(w, 200, "All of it is here already", "The window crank", "Wrack ribbons", "Tidewheel mill 00")
	if n := boxes(w.Body.String()); len(n) != 0 {
		t.Errorf("the same things would be taken: %v", n)
	}
	changed := strings.Replace(strings.Replace(doc, `"protein_pct": 11.2`, `"protein_pct": 12.6`, 1), "Wrack ribbons",
		"Kelp ribbons", 1)
	w = s.ask("POST", "/import", url.Values{"text": {changed}})
	s.wants(w, 200, "Protein: 11.2 → <b>12.6</b>", "Kelp ribbons", "changes yours")
	take := boxes(w.Body.String())
	if len(take) != 2 {
		t.Fatalf("%v", take)
	}
	twice := append(append([]string{}, take...), take...) // a box posted twice counts once
	s.wants(s.ask("POST", "/import/take", url.Values{"text": {changed}, "take": twice}), 303)
	cab, err := s.store.Cabinet(context.Background())
	if err != nil || len(cab.Flours) != 1 || cab.Flours[0].ProteinPct != 12.6 || len(cab.Shapes) != 2 ||
		cab.Shapes[1].Name != "Kelp ribbons" ||
		cab.Shapes[1].Key == cab.Shapes[0].Key {
		t.Fatalf("%v: %+v %+v", err, cab.Flours, cab.Shapes)
	}
	// What was previewed has changed since: nothing is taken, and it is said.
	before := s.kept()
	s.wants(s.ask("POST", "/import/take", url.Values{"text": {doc}, "take": take}), 409, "changed meanwhile")
	if s.kept() != before {
		t.Error("a stale preview changed something")
	}
	// The crank keeps its history when other measurements come in.
	m := strings.Replace(doc, `"sheet_mm": 4.16`, `"sheet_mm": 4.2`, 1)
	w = s.ask("POST", "/import", url.Values{"text": {m}})
	s.wants(w, 200, "What was measured")
	s.wants(s.ask("GET", "/cabinet/shapes/export.json", nil), 200, "hollen-cabinet/1", "Kelp ribbons")
	s.wants(s.ask("GET", "/cabinet/lots/export.json", nil), 404, "nothing of your own")
	s.wants(s.ask("GET", "/cabinet/spoons/export.json", nil), 404)
}

func TestHostileFilesChangeNothing(t *testing.T) {
	s := newSite(t)
	before := s.kept()
	for name, doc := range map[string]string{
		"deep": strings.Repeat("[", 50000), "huge": strings.Repeat("x", exchange.MaxBytes+10),
		"rubbish": "\x00\xff\xfe<", "empty": "",
		"names twice": `{"format":"hollen-cabinet/1","shapes":[` + shapeDoc("Twin") + "," + shapeDoc("twin") + `]}`,
		"wrong types": `{"format":"hollen-cabinet/1","flours":{"a":1}}`,
		"script":      `{"format":"<script>alert(1)</script>"}`,
	} {
		for _, path := range []string{"/import", "/import/take"} {
			w := s.ask("POST", path, url.Values{"text": {doc}, "take": {"0.0.0"}})
			if w.Code != 422 || strings.Contains(w.Body.String(), "<script>alert") || !strings.Contains(w.Body.String(),
				`aria-invalid="true"`) {
				t.Errorf("%s at %s: %d", name, path, w.Code)
			}
		}
	}
	s.wants(s.ask("POST", "/import", url.Values{"text": {strings.Repeat("x", 4*exchange.MaxBytes)}}), 413)
	s.wants(s.ask("POST", "/import/take", url.Values{"text": {`{"format":"hollen-cabinet/1","shapes":[` +
		shapeDoc("One") + `]}`}, "take": {"9.0.0"}}), 409)
	if s.kept() != before {
		t.Error("something changed")
	}
	// As a file, and with a box that says something else: the file counts.
	w := s.sendFile("/import", url.Values{"text": {"rubbish"}}, "file", "dough.json",
		[]byte(`{"@type":"Recipe","name":"Quay","recipeIngredient":["2 cups flour","3 eggs"]}`))
	s.wants(w, 200, "A recipe: Quay", "3 eggs", "Check this recipe")
}

type nopCloser struct{ *bytes.Buffer }

func (nopCloser) Close() error { return nil }

// written is a thing as documents have it.
func written(v any) string {
	var b strings.Builder
	if err := exchange.Write(&b, v); err != nil {
		return err.Error()
	}
	return b.String()
}

func shapeDoc(name string) string {
	x, _ := cut.Find("tagliatelle")
	x.Name = name
	return written(x)
}

// The sheet and the label hold what a maker and an eater need.
func TestSheetAndLabel(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"/sheet", nil), 200, `class="paper a4"`, "800 g", "9 eggs", "28NOV26-7",
		"Knead by hand", "The way down",
		"Contains wheat, durum wheat, egg", "flour left")
	s.wants(s.ask("GET", batchAt(demo.Straw)+"/sheet", nil), 200, "Stripes of Breakwater stripes, green (batch "+
		"28NOV26-2)", "Join with one pass at stop")
	s.wants(s.ask("GET", batchAt(demo.Straw)+"/label", nil), 200, "; stripes: ", "spinach")
	s.wants(s.ask("GET", batchAt(demo.Lantern)+"/sheet?paper=letter", nil), 200, `class="paper letter"`,
		"for the filling, nettle", "Contains wheat, egg, durum wheat, milk", "Keep frozen", "27 Jan 2027")
	s.wants(s.ask("GET", batchAt(demo.Lantern)+"/label", nil), 200, `class="label large"`, "<b>milk</b>", "<b>egg</b>",
		"28 Nov 2026", "27 Jan 2027", "28NOV26-8")
	s.wants(s.ask("GET", batchAt(demo.Counter)+"/label?paper=small", nil), 200, `class="label small"`,
		"<h1>Tagliatelle</h1>", "30 Nov 2026, 09:30")
	s.wants(s.ask("GET", batchAt(demo.Counter)+"/label?part=2", nil), 200, "<h1>Wrack ribbons</h1>",
		`aria-pressed="true">Wrack ribbons`)
	s.wants(s.ask("GET", batchAt(demo.Counter)+"/label?part=9", nil), 200, "<h1>Tagliatelle</h1>")
	// What is missing is said before it is printed, and only then.
	m := s.typed(demo.Number(demo.Lantern))
	for _, page := range []string{"/sheet", "/label"} {
		if w := s.ask("POST", batchAt(demo.Lantern)+page, m); strings.Contains(w.Body.String(), "Before you print") {
			t.Errorf("%s: nothing is missing", page)
		}
	}
	m.Set("made_on", "")
	m.Set("keep.made_at", "")
	m.Set("cut.filling.of", "")
	m.Set("cut.filling.name", "")
	m.Set("cut.filling.allergens", "")
	for _, page := range []string{"/sheet", "/label"} {
		s.wants(s.ask("POST", batchAt(demo.Lantern)+page, m), 200, "Before you print", "the day it is made",
			"what the filling is", "the filling’s allergens")
	}
	m.Set("cut.filling.name", "potato")
	m.Set("cut.filling.allergens", "None")
	if w := s.ask("POST", batchAt(demo.Lantern)+"/label", m); strings.Contains(w.Body.String(), "the filling’s") ||
		!strings.Contains(w.Body.String(), "potato filling,") {
		t.Error("a filling without allergens")
	}
	if w := s.ask("POST", batchAt(demo.Saturday)+"/label", s.typed(demo.Number(demo.Saturday))); strings.Contains(
		w.Body.String(), "what the filling is") {
		t.Error("ribbons have no filling to name")
	}
	// As the form stands, unsaved; and back again with every field.
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("name", "Unsaved <b>one</b>")
	v.Set("eggs.fix_whole_eggs", "8")
	v.Set("paper", "letter")
	w := s.ask("POST", batchAt(demo.Saturday)+"/sheet", v)
	s.wants(w, 200, "8 eggs", "Unsaved &lt;b&gt;one", `class="paper letter"`, `name="eggs.fix_whole_eggs" value="8"`)
	v.Set("roll.bench_mm", "much")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/sheet", v), 422, "won’t do")
	if p := s.saved(demo.Number(demo.Saturday)); p.Name != demo.Saturday {
		t.Error("looking at the sheet saved the batch")
	}
}

// Shapes at the cut: another family brings other fields, forgets what was typed for the former
// shape, and refuses what cannot be, beside its field.
func TestShapesAtTheCut(t *testing.T) {
	s := newSite(t)
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("was_at", "cut")
	v.Set("cut.width_mm", "8")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
	v = s.typed(demo.Number(demo.Saturday))
	v.Set("was_at", "cut")
	v.Set("was_shape", "tagliatelle")
	v.Set("cut.shape", "ravioli")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "From a pair of sheets", "Filling to make",
		"Closing them", "What is in it?")
	v.Set("was_shape", "ravioli")
	v.Set("cut.width_mm", "12")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "A filled piece needs 24 mm")
	v = s.typed(demo.Number(demo.Saturday))
	v.Set("was_at", "cut")
	v.Set("cut.also.0.shape", "own-9")
	v.Set("cut.also.0.portions", "3")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "Wrack ribbons, from above",
		"The first takes the rest.")
	v.Set("cut.also.0.shape", "cavatelli")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "Cavatelli, by hand", "cavatelli 361 g of dough")
	v.Set("cut.also.0.by", "handfuls")
	v.Set("cut.also.0.stop", "99")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "A stop of this machine is allowed")
	v.Set("cut.also.0.stop", "")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "3 handfuls")
	v = s.typed(demo.Number(demo.Saturday))
	v.Set("was_at", "dry")
	v.Set("keep.where", "fridge")
	v.Set("keep.days", "4")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "needs your own reason")
	v.Set("keep.note", "cold room at 1 °C")
	v.Set("dry.keep", "yes")
	v.Set("dry.checks.0.at", "2026-11-28T10:00")
	v.Set("dry.checks.0.g", "1400")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", v), 303)
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"?at=dry", nil), 200, "Longer than the usual advice",
		"Drying egg pasta to keep is a risk", "Sat 10:00",
		"% moisture")
	things, err := s.store.Things(context.Background(), false)
	if err != nil || !slices.ContainsFunc(things, func(x store.Thing) bool { return x.Kind == store.ShapeKind }) {
		t.Errorf("%v", err)
	}
}

// Cutters are typed four numbers to a line, and what is wrong is said beside them.
func TestCuttersOfAnOwnMachine(t *testing.T) {
	s := newSite(t)
	form := func(cutters string) url.Values {
		v := formOf(t, s.ask("GET", "/cabinet/machines/8", nil).Body.String())
		if cutters != "" {
			v.Set("cutters", cutters)
		}
		return v
	}
	if got := form("").Get("cutters"); got != "2 140 0.8 1.6\n6.5 140 0.7 1.5" {
		t.Errorf("%q", got)
	}
	for typed, says := range map[string]string{"2 140 0.8": "four numbers", "2 140 thin 1.6": "is no number",
		"2 140 1.6 0.8":   "thin to thick",
		"0.1 140 0.8 1.6": "0.8 to 120 mm"} {
		s.wants(s.ask("POST", "/cabinet/machines", form(typed)), 422, says)
	}
	sound := form("2 140 0,8 1,6\n12 140 0.7 1.5")
	sound.Set("version", s.open("/cabinet/machines/8"))
	s.wants(s.ask("POST", "/cabinet/machines", sound), 303)
	cab, err := s.store.Cabinet(context.Background())
	if err != nil || len(cab.Machines[0].Cutters) != 2 || cab.Machines[0].Cutters[1].PitchMM != 12 ||
		len(cab.Machines[0].Calibrated) != 3 {
		t.Fatalf("%v %+v", err, cab.Machines[0])
	}
	// A batch on that machine cuts wrack ribbons with it.
	v := s.typed(demo.Number(demo.Saturday))
	v.Set("was_at", "cut")
	v.Set("roll.machine", "own-8")
	v.Set("cut.shape", "own-9")
	v.Set("cut.tool", "cutter")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/work", v), 200, "cutters: 2 mm, 12 mm",
		"Suits sheets of 0.7 to 1.5 mm")
}

// What a form says of a shape of another family rests, and is refused where it cannot be.
func TestOwnShape(t *testing.T) {
	s := newSite(t)
	v := formOf(t, s.ask("GET", "/cabinet/shapes/new?like=ravioli", nil).Body.String())
	v.Set("name", "")
	s.wants(s.ask("POST", "/cabinet/shapes", v), 422, "1 to 60 letters")
	v.Set("name", "Lock gates")
	v.Set("width_mm", "20")
	s.wants(s.ask("POST", "/cabinet/shapes", v), 422, "24 mm for seam and filling", `value="Lock gates"`)
	v.Set("width_mm", "44")
	v.Set("tool", "ring")
	s.wants(s.ask("POST", "/cabinet/shapes", v), 422, "Rounds are cut with a ring")
	v.Set("tool", "knife")
	s.wants(s.ask("POST", "/cabinet/shapes", v), 303)
	s.wants(s.ask("GET", "/cabinet/shapes", nil), 200, "Lock gates", "44 × 44")
	b := s.typed(demo.Number(demo.Saturday))
	b.Set("cut.shape", "own-19")
	s.wants(s.ask("POST", batchAt(demo.Saturday)+"/save", b), 303)
	if c := s.saved(demo.Number(demo.Saturday)).Cut; c.Own == nil || c.Own.WidthMM != 44 ||
		c.Own.Close != cut.TwoSheets {
		t.Errorf("%+v", c)
	}
	s.wants(s.ask("POST", "/cabinet/shapes/19/retire", url.Values{}), 303)
	s.wants(s.ask("GET", batchAt(demo.Saturday)+"?at=cut", nil), 200, "Lock gates", "retired")
}
