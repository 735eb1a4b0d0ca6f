package web

import (
	"encoding/json"
	"fmt"
	"net/url"
	"strings"
	"testing"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// A filling is kept, picked, changed and retired, and every reader of a batch says what is in it.
func TestAFillingToItsLastReader(t *testing.T) {
	s := newSite(t)
	form := url.Values{"name": {"chard and curd"}, "kind": {""}, "makes_g": {"900"}, "may_contain": {"nuts"}, "lines": {
		"600 g fresh curd; milk; 8.40 a kg; per 100 g 9 fat, 4 carbohydrate, 11 protein, 0.1 salt\n" +
			"380 g chard, blanched; 3 a kg\n20 g breadcrumbs; wheat; 2.80 a kg"}, "how": {"Chop it fine."}}
	for typed, says := range map[string]string{
		"600 curd": "say how much", "": "letters", "600 g curd; 12": "not understood",
		"600 g curd\n-5 g salt": "Line 2", "600 g curd; per 100 g 9 fat": "all of fat",
	} {
		bad := url.Values{}
		for k, v := range form {
			bad[k] = v
		}
		bad.Set("lines", typed)
		s.wants(s.ask("POST", "/cabinet/fillings", bad), 422, `class="err"`, says, typed, "Chop it fine.")
	}
	form.Set("makes_g", "2000")
	s.wants(s.ask("POST", "/cabinet/fillings", form), 422, "what is poured in is a line, too")
	form.Set("makes_g", "900")
	s.wants(s.ask("POST", "/cabinet/fillings", form), 303)
	s.wants(s.ask("GET", "/cabinet/fillings", nil), 200, "chard and curd", "milk, wheat (by name)", "667 g fresh curd")

	cab, err := s.store.Cabinet(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	own := cab.Fillings[len(cab.Fillings)-1]
	shelf := "/cabinet/fillings/" + strings.TrimPrefix(own.Key, "own-")
	s.wants(s.ask("GET", shelf, nil), 200, "As it is read", "hold them against the packs", "€ 6.93")

	at, b := s.planned(func(r *request.Request) {
		r.Name, r.Cut.Shape, r.MadeOn, r.Keep.Where = "Quay cushions", "ravioli", "2026-12-01", "fridge"
	})
	v := s.typed(b.ID)
	v.Set("cut.filling.of", own.Key)
	s.wants(s.ask("POST", at+"/save", v), 303)
	b, _ = s.store.Get(t.Context(), b.ID)
	p, err := plan.Make(rules.Default(), b.Request.Request)
	if err != nil {
		t.Fatal(err)
	}
	curd := p.FillingParts()[0]
	if want := p.Cut.FillTotalG * 600 / 900; curd.G < want-.01 || curd.G > want+.01 {
		t.Errorf("%g g of curd, want %g", curd.G, want)
	}
	much := p.In().Grams(curd.G)
	s.wants(s.ask("GET", at+"?at=cut", nil), 200, "Into the filling", "Fresh curd", much, "Are its allergens right?")
	s.wants(s.ask("GET", at+"/sheet", nil), 200, "Fresh curd", much, "for the filling")
	for _, paper := range []string{"large", "small"} {
		said := words(s.ask("GET", at+"/label?paper="+paper, nil).Body.String())
		for _, part := range []string{"chard and curd filling (fresh curd ( milk ), chard, blanched, breadcrumbs ( " +
			"wheat ))",
			"May contain: nuts", "are the filling’s allergens right?"} {
			if !strings.Contains(said, part) {
				t.Errorf("%s label: no %q in %.900s", paper, part, said)
			}
		}
		if strings.Contains(said, " kcal") != (paper == "large") {
			t.Errorf("%s label: energy: %.900s", paper, said)
		}
	}
	s.wants(s.ask("GET", at+"/label?weight=250", nil), 200, "<dd>250 g</dd>")
	s.wants(s.ask("GET", at+"/label?weight=heavy", nil), 200, `class="err"`, `value="heavy"`, "5–20000 g is allowed")
	s.wants(s.ask("GET", at+"?at=formula", nil), 200, "with the filling, a portion", "Fresh curd")

	var weighed float64
	for _, x := range bench.Steps(p) {
		if strings.HasPrefix(x.Key, "weigh.filling.") {
			weighed += x.WantG
		}
	}
	if want := p.Cut.FillTotalG / .9; weighed < want-2 || weighed > want+2 {
		t.Errorf("%g g weighed at the bench, want %g", weighed, want)
	}
	for _, file := range []string{"/recipe.json", "/request.json"} {
		body := s.ask("GET", at+file, nil).Body.String()
		if !strings.Contains(strings.ToLower(body), "fresh curd") || !json.Valid([]byte(body)) {
			t.Errorf("%s: %.600s", file, body)
		}
	}

	// Made the day before, it is named with its day, and the fridge counts from there.
	v = s.typed(b.ID)
	v.Set("cut.filling.made_on", "2026-12-02")
	s.wants(s.ask("POST", at+"/save", v), 422, "or a day before it is allowed")
	v.Set("cut.filling.made_on", "2026-11-30")
	s.wants(s.ask("POST", at+"/save", v), 303)
	s.wants(s.ask("GET", at+"/sheet", nil), 200, "Filling of Mon 30 Nov 2026", "Use by <b>2 Dec 2026")
	s.wants(s.ask("GET", at+"/label", nil), 200, "Filling made", "<dd>30 Nov 2026</dd>", "<dd>2 Dec 2026")
	v.Set("cut.filling.made_on", "2026-11-25")
	v.Set("version", "3")
	s.wants(s.ask("POST", at+"/save", v), 303)
	s.wants(s.ask("GET", at+"/label", nil), 200, "Not to be kept: its filling is of")

	// A batch keeps the figures it was made with; the cabinet's are offered.
	form.Set("lines", "600 g fresh curd; milk\n400 g nettles")
	form.Set("id", strings.TrimPrefix(own.Key, "own-"))
	form.Set("version", "1")
	form.Set("makes_g", "")
	s.wants(s.ask("POST", "/cabinet/fillings", form), 303)
	s.wants(s.ask("GET", at+"?at=cut", nil), 200, "newest figures")
	s.wants(s.ask("POST", shelf+"/retire", url.Values{}), 303)
	s.wants(s.ask("GET", at+"?at=cut", nil), 200, "chard and curd, retired")

	// It is handed on with the cabinet, and read there.
	file := s.ask("GET", "/cabinet/export.json", nil).Body.String()
	found, err := exchange.Read(rules.Default(), strings.NewReader(file))
	if err != nil || found.Cabinet == nil || len(found.Cabinet.Fillings) != 4 {
		t.Fatalf("%v, %v in %.300s", found, err, file)
	}
	if _, err := s.store.Keep(t.Context(), store.FillingKind, 0, 0, found.Cabinet.Fillings[0]); err != nil {
		t.Error(err)
	}
}

// What is retired is said where it is planned with: at the batch, on a day to come and at the recipe, and not of what
// was
// made.
func TestPlannedWithWhatIsRetired(t *testing.T) {
	s := newSite(t)
	lantern := func(on string) (string, store.Batch) {
		return s.planned(func(r *request.Request) {
			kept, _ := s.store.Get(t.Context(), demo.Number(demo.Lantern))
			*r = kept.Request.Request
			r.MadeOn = on
		})
	}
	date := after(12)
	at, planned := lantern(date)
	past, b := lantern("2026-11-20")
	s.wants(s.ask("POST", "/days/"+date, url.Values{"act": {"add"}, "version": {"0"},
		"batch": {fmt.Sprint(planned.ID)}}), 303)
	const said = "Planned with what is retired"
	for _, page := range []string{at, "/days/" + date} {
		if body := s.ask("GET", page, nil).Body.String(); strings.Contains(body, said) {
			t.Errorf("%s: %s before it is", page, said)
		}
	}
	s.wants(s.ask("POST", "/cabinet/fillings/15/retire", url.Values{}), 303)
	s.wants(s.ask("POST", "/cabinet/lots/2/retire", url.Values{}), 303)
	for _, page := range []string{at, "/days/" + date} {
		s.wants(s.ask("GET", page, nil), 200, said, "nettle and sheep’s cheese (filling of the cabinet)", "(lot)")
	}
	kept, _ := s.store.Get(t.Context(), demo.Number(demo.Lantern))
	s.wants(s.ask("GET", fmt.Sprintf("/recipes/%d", *kept.RecipeID), nil), 200, "Made with what is retired: "+
		`<span translate="no">nettle`)
	if body := s.ask("GET", past, nil).Body.String(); strings.Contains(body, said) {
		t.Errorf("batch %d is past, and says what was retired since", b.ID)
	}
}
