package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
	"hollen/internal/store"
)

// Three ways of makers of their own through the bench to the pot: what they said stands at its step, with its clock;
// from the second piece on a piece is one card, its passes in a row, one key for all of them, and taken back as one.
func TestOwnWaysAtTheBench(t *testing.T) {
	t.Parallel() // it waits more than it works
	base, st := serve(t)
	some := func(v float64) *float64 { return &v }
	ways := []wayAtBench{
		{"Ribbons on the board", func(r *request.Request) {
			r.Dry.Pieces = request.OnDrying{Drying: request.Drying{By: request.DrySaid, Min: some(25)},
				On: request.OnBoard}
			r.Cook.Min, r.Cook.ToMin = some(2), some(3)
			r.Roll.By = request.WayOwn
			for _, stop := range []string{"0", "2", "4", "6", "7"} {
				r.Roll.Steps = append(r.Roll.Steps, request.RollStep{Stop: stop, Passes: 1})
			}
			r.Roll.Steps[0].Passes, r.Roll.Steps[0].Fold = 3, request.FoldThree
			r.Roll.Steps[3].First, r.Roll.Steps[3].RestMin = roll.Wait, 10
		}, map[string]string{"pieces.1": "25 min, as you say, on a floured board",
			"roll.1.pass.6.rest": "before stop 6"},
			map[string]string{"pieces.1": "left of 25 min", "cook.1.lot.1": "left of 2 min",
				"roll.1.pass.6.rest": "left of 10 min"},
			"dry.1"},
		{"The sheet first, in broth", func(r *request.Request) {
			r.Dry.Sheet = request.Drying{By: request.DrySaid, Min: some(12)}
			r.Cut.Shape, r.Cook.In = "quadretti", request.InBroth
		}, map[string]string{"dry.1": "12 min, as you say", "water.1": "of broth"},
			map[string]string{"dry.1": "left of 12 min"}, "pieces.1"},
		{"The mixer twice", func(r *request.Request) {
			r.Bench.HookG, r.Knead.By = some(3000), request.KneadOwn
			r.Knead.Steps = []request.KneadStep{{Do: request.DoMixMachine, Min: 2},
				{Do: request.DoMixMachine, Min: 3, Add: "an egg, if it is dry"}, {Do: request.DoHook, Min: 6},
				{Do: request.DoRest, Min: 30}}
		}, map[string]string{"mix.2": "Add an egg, if it is dry"}, map[string]string{"mix.2": "left of 3 min",
			"rest.1": "left of 30 min"}, "dry.1"},
	}
	for _, w := range ways {
		t.Run(w.name, func(t *testing.T) {
			t.Parallel()
			ownWayAtTheBench(t, base, st, w)
		})
	}
}

// wayAtBench is a way, and what of it stands at the bench.
type wayAtBench struct {
	name   string
	change func(*request.Request)
	says   map[string]string // what the page says at a step
	clocks map[string]string // "left of …" beside its clock
	not    string            // a step there is none of
}

func ownWayAtTheBench(t *testing.T, base string, st *store.Store, w wayAtBench) {
	r := request.Default()
	r.Name, r.Amount.By, r.Amount.FlourG, r.Keep.Where = w.name, request.ByFlour, 300, ""
	w.change(&r)
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	made, err := st.Create(context.Background(), p)
	if err != nil {
		t.Fatal(err)
	}
	b := open(t, browser(t), base, wide, high)
	b.visit(fmt.Sprint("/batches/", made.ID))
	b.click("button[data-key=b]")
	b.until("the bench", "document.querySelector('"+onward+"')")
	at := func() string { return eval[string](b, "document.querySelector('#bench').dataset.step") }
	seen, carded := map[string]bool{}, false
	for range 400 {
		key := at()
		if key == "" {
			break
		}
		seen[key] = true
		if want := w.says[key]; want != "" && !strings.Contains(b.text("#say"), want) {
			t.Errorf("%s: at %s it says %q, not %q", w.name, key, b.text("#say"), want)
		}
		if want := w.clocks[key]; want != "" {
			b.until("the clock of "+key, fmt.Sprintf("document.querySelector('#beside').textContent.includes(%q)",
				want))
		}
		if card := eval[int](b, "document.querySelectorAll('#passes:not([hidden]) li').length"); card > 0 {
			if n := len(p.Roll.Passes); card != n || !strings.HasPrefix(key, "roll.") || strings.HasPrefix(key,
				"roll.1.") {
				t.Errorf("%s: %d passes of %d on the card of %s", w.name, card, n, key)
			}
			if !carded { // one pass by a tap on the row, the piece by its key, and taken back as one
				b.click("#passes")
				b.until("a pass done", "document.querySelector('#bench').dataset.step !== '"+key+"'")
				b.button("#knuckles", "Piece done")
				b.until("the piece done", "!document.querySelector('#bench').dataset.step.startsWith('roll.2.')")
				b.button("#knuckles", "Back")
				b.until("taken back as one",
					"document.querySelector('#bench').dataset.step.startsWith('roll.2.pass.2')")
			}
			carded = true
		}
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
		b.until("the next step", "document.querySelector('#bench').dataset.step !== '"+key+"'")
	}
	for key := range w.says {
		if !seen[key] {
			t.Errorf("%s: the bench has no %s", w.name, key)
		}
	}
	if seen[w.not] || !seen["cook.1.lot.1"] || p.Roll.Pieces > 1 && !carded {
		t.Errorf("%s: %v, carded %v", w.name, seen, carded)
	}
}
