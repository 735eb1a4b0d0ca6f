package web

import (
	"context"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// A new batch asks for one amount, in any of the ways one is said; what cannot be read is said beside it, with what was
// typed.
func TestNewBatchAsksOneAmount(t *testing.T) {
	s := newSite(t)
	ounces := func(r *http.Request) { r.AddCookie(&http.Cookie{Name: "units", Value: string(measure.Customary)}) }
	german := func(r *http.Request) { r.Header.Set("Accept-Language", "de") }
	for _, c := range []struct {
		much, of string
		with     func(*http.Request)
		by       request.By
		g        float64 // portions, people or g, 0 where it is refused
		told     string  // the name, or what is refused
	}{
		{"4", "portions", nil, request.ByPortions, 4, "Tagliatelle for 4"},
		{"6 people", "portions", nil, request.ByEaters, 6, "Tagliatelle for 6"},
		{"1.5 kg", "dough", nil, request.ByDough, 1500, "Tagliatelle, 1.5 kg of dough"},
		{"1 kg of flour", "portions", nil, request.ByFlour, 1000, "Tagliatelle, 1 kg of flour"},
		{"4 eggs", "portions", nil, request.ByFlour, 0, "Tagliatelle, 4 eggs"},
		{"12", "count", nil, request.ByFlour, 0, "Tagliatelle, 12 eggs"},
		{"2 lb", "dough", ounces, request.ByDough, 907, "Tagliatelle, 2 lb of dough"},
		{"32", "dough", ounces, request.ByDough, 907, "Tagliatelle, 32 oz of dough"},
		{"1.250", "flour", german, request.ByFlour, 1250, "Tagliatelle, 1250 g of flour"},
		{"500 g", "portions", nil, "", 0, "of dough or of flour? Pick it beside"},
		{"4.5", "count", nil, "", 0, "whole number of eggs, from 1 to 2,000"},
		{"0 eggs", "portions", nil, "", 0, "whole number of eggs"},
		{"1,900", "count", nil, "", 0, "50 g to 50 kg of flour"},
		{"many", "portions", nil, "", 0, "1 to 400"},
		{"", "dough", nil, "", 0, "80"},
		{"<b>9</b>", "flour", nil, "", 0, "&lt;b&gt;9"},
	} {
		name := fmt.Sprintf("%s, %s", c.much, c.of)
		before := len(batchesOf(t, s))
		with := c.with
		if with == nil {
			with = func(*http.Request) {}
		}
		w := s.ask("POST", "/batches", url.Values{"much": {c.much}, "much_of": {c.of}, "name": {""},
			"flours.0.flour": {"soft-00"}, "eggs.class": {"eu-l"}, "cut.shape": {"tagliatelle"},
			"roll.machine": {"hand-crank-10"}, "figures": {"much"}}, with)
		if c.by == "" {
			s.wants(w, http.StatusUnprocessableEntity, c.told, `aria-describedby="e-f-much"`)
			if !strings.Contains(w.Body.String(), `value="`+strings.NewReplacer("<", "&lt;", ">", "&gt;").Replace(c.much)) {
				t.Errorf("%s: what was typed is lost", name)
			}
			if len(batchesOf(t, s)) != before {
				t.Errorf("%s: a batch was made", name)
			}
			continue
		}
		s.wants(w, http.StatusSeeOther)
		var id uint64
		if _, err := fmt.Sscanf(w.Header().Get("Location"), "/batches/%d", &id); err != nil {
			t.Fatal(name, err)
		}
		b, err := s.store.Get(context.Background(), id)
		if err != nil {
			t.Fatal(name, err)
		}
		a := &b.Request.Request.Amount
		got := map[request.By]float64{request.ByPortions: a.Portions, request.ByEaters: a.Eaters,
			request.ByDough: a.DoughG, request.ByFlour: a.FlourG}[a.By]
		if a.By != c.by || c.g > 0 && math.Abs(got-c.g) > .5 {
			t.Errorf("%s: by %s, %g", name, a.By, got)
		}
		s.wants(s.ask("GET", w.Header().Get("Location"), nil, with), 200, c.told)
	}
	s.wants(s.ask("GET", "/batches/new", nil, ounces), 200, "oz of dough")
	// What was asked by another amount leaves Today’s portions as they were.
	jar := map[string]string{}
	today := s.ask("GET", "/?"+askedFor("7", "tagliatelle").Encode(), nil)
	with := keeping(today.Result(), jar)
	w := s.ask("POST", "/batches", url.Values{"much": {"2 kg"}, "much_of": {"dough"}, "cut.shape": {"pappardelle"}}, with)
	s.wants(w, http.StatusSeeOther)
	s.wants(s.ask("GET", "/", nil, keeping(w.Result(), jar)), 200, `value="7"`, `value="pappardelle" selected`)
}
