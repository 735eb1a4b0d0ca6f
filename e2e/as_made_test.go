package e2e

import (
	"context"
	"math"
	"strconv"
	"strings"
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
)

// A new batch is made as its maker makes it: weighed, counted and spooned, all of it taken literally; one flour is
// changed later and nothing else moves.
func TestNewBatchAsIMakeIt(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.expect = append(b.expect, "422")
	b.visit("/batches/new")
	b.enter("#f-name", "Sunday")
	b.click(`.choose[value="own"]`)
	b.until("the other form, the name kept", "document.querySelector('.bowl') && "+
		"document.querySelector('#f-name').value === 'Sunday'")
	b.click(".asks-go .btn-go")
	b.until("how much flour?", "document.querySelector('#e-f-g-flours-0-share')?.textContent.trim()")
	b.enter("#f-g-flours-0-share", "320")
	b.pick("#f-flours-1-flour", "semola-fine")
	b.enter("#f-g-flours-1-share", "80")
	b.click("#c-f-eggs-fix_whole_eggs [data-step='1']")
	if got := eval[string](b, "document.querySelector('#f-eggs-fix_whole_eggs').value"); got != "1" {
		t.Errorf("a tap makes it %q", got)
	}
	b.enter("#f-eggs-fix_whole_eggs", "4")
	b.enter("#f-eggs-liquid_g", "half a shell")
	b.enter("#f-g-oil_share", "1 tbsp")
	b.enter("#f-g-salt_share", "lots")
	b.click(".asks-go .btn-go")
	b.until("salt is refused", "document.querySelector('#e-f-g-salt_share')?.textContent.trim()")
	if got := eval[string](b, "document.querySelector('#f-g-oil_share').value + "+
		"document.querySelector('#f-g-flours-1-share').value"); got != "1 tbsp80" {
		t.Errorf("what was typed is now %q", got)
	}
	b.enter("#f-g-salt_share", "a pinch")
	b.click(".asks-go .btn-go")
	b.until("the batch", "document.querySelector('#sheet .fig')?.textContent.trim()")
	bowl := func() *plan.Plan {
		t.Helper()
		p, err := plan.Make(rules.Default(), saved(t, s, made()).Request.Request)
		if err != nil {
			t.Fatal(err)
		}
		return p
	}
	near := func(what string, got, want float64) {
		t.Helper()
		if math.Abs(got-want) > .05 {
			t.Errorf("%s: %.2f g, not %.2f", what, got, want)
		}
	}
	f := &bowl().Formula
	near("flour", f.FlourG, 400)
	near("semola", f.Flours[1].MassG, 80)
	near("egg", f.WholeG, 240)
	near("water", f.TopG, 18)
	near("oil", f.OilG, 13.5)
	near("salt", f.SaltG, .4)
	// On the page: the first flour alone, and a fraction less oil.
	b.enter("#f-g-flours-0-share", "370")
	b.until("more dough", "document.querySelector('#sheet').textContent.includes('4 eggs and 18 g of water to 450 g "+
		"of flour')")
	b.enter("#f-g-oil_share", "12")
	b.until("less oil", "[...document.querySelectorAll('#sheet .rows.small td')].some((x) => x.textContent === '12 g')")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	f = &bowl().Formula
	near("flour", f.FlourG, 450)
	near("semola", f.Flours[1].MassG, 80)
	near("oil", f.OilG, 12)
	near("salt", f.SaltG, .4)
	near("water", f.TopG, 18)
}

// A batch that was worked out is made the maker's own: the same dough, and from then on literal.
func TestMakeItMine(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday))
	b.click(`button[aria-label="Take these amounts as mine"]`)
	b.until("as I make it", "document.querySelector('#f-amount-by').value === 'own'")
	b.until("weighed", "document.querySelector('#f-g-flours-0-share').offsetParent && "+
		"!document.querySelector('#f-flours-1-share').offsetParent")
	b.enter("#f-g-flours-0-share", "1000")
	b.until("so much", "document.querySelector('#f-amount-flour_g').value === '1200' || "+
		"document.querySelector('#sheet').textContent.includes('to 1,')")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	r := saved(t, s, demo.Number(demo.Saturday)).Request
	if r.Amount.By != request.ByOwn || math.Abs(r.Flours[0].Share*r.Amount.FlourG-1000) > .05 {
		t.Errorf("%+v, %+v", r.Amount, r.Flours)
	}
}

// A field that cannot be read keeps nobody waiting: what is changed beside it counts, and saving says what it
// waits for.
func TestOneBadFieldFreezesNothing(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.enter("#f-roll-target_mm", "1.4")
	b.until("thicker", "document.querySelector('#sheet .stack .num').textContent.startsWith('1.3')")
	thick := b.text("#sheet .stack .num")
	b.enter("#f-roll-target_mm", "thin")
	b.until("refused", "document.querySelector('#e-f-roll-target_mm').textContent !== ''")
	b.enter("#f-roll-bench_mm", "900")
	b.until("another bench all the same", "document.querySelector('#sheet').textContent.includes('bench 900')")
	if got := b.text("#sheet .stack .num"); got != thick {
		t.Errorf("the sheet was %s as last good, is %s", thick, got)
	}
	b.until("what it counts as", "document.querySelector('.lastgood')?.textContent.includes('1.4 mm')")
	if got := eval[string](b, "document.querySelector('#f-roll-target_mm').value"); got != "thin" {
		t.Errorf("what was typed is now %q", got)
	}
	b.expect = append(b.expect, "422")
	b.click("#save")
	b.until("it waits", "document.querySelector('#messages [data-waits=\"roll.target_mm\"]')")
	b.enter("#f-roll-target_mm", "1.1")
	b.until("put right", "!document.querySelector('.lastgood')")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	if r := saved(t, s, demo.Number(demo.Saturday)).Request.Roll; *r.TargetMM != 1.1 || r.BenchMM != 900 {
		t.Errorf("%+v", r)
	}
}

// A kept way is taken by a tap, changed, and kept under another name; shapes are shared out by the handful, to
// stops of their own.
func TestWaysAndShapesByTaps(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=knead")
	b.click(`button[aria-label="Take The Sunday way"]`)
	b.until("the Sunday way", heads+" === 'mix hand pause hand pause hand fridge temper'")
	b.click(`button[value="knead.own_steps:out:4"]`)
	b.until("changed", heads+" === 'mix hand pause hand hand fridge temper'")
	b.enter("#keep-knead", "The short Sunday way")
	b.click(`.keep-way .btn`)
	b.until("kept",
		"document.querySelector('#sheet [data-kept]')?.dataset.kept === 'The short Sunday way' && "+
			settledState+" === '"+notSaved+"'")
	b.click("#spine li:nth-child(6) button")
	b.until("at the cut", "document.querySelector('#f-cut-also-0-shape')?.offsetParent")
	b.pick("#f-cut-also-0-shape", "orecchiette")
	b.until("how much", "document.querySelector('#f-cut-also-0-by').offsetParent")
	b.pick("#f-cut-also-0-by", "handfuls")
	b.enter("#f-cut-also-0-portions", "2")
	b.until("two handfuls", "document.querySelector('#sheet').textContent.includes('2 handfuls')")
	b.pick("#f-cut-also-1-shape", "pappardelle")
	b.until("another", "document.querySelector('#f-cut-also-1-stop').offsetParent")
	b.enter("#f-cut-also-1-stop", "5")
	b.until("to stop 5", "document.querySelector('#sheet').textContent.includes('mm thick') && "+
		"document.querySelector('#f-cut-also-1-stop').value === '5'")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	r := saved(t, s, demo.Number(demo.Saturday)).Request
	if k := r.Knead; !k.Own() || len(k.Steps) != 7 {
		t.Errorf("%+v", k)
	}
	if c := r.Cut.Also; len(c) != 2 || c[0].By != request.ShareByHandful || c[0].Portions != 2 || c[1].Stop != "5" {
		t.Errorf("%+v", c)
	}
	cab, err := s.Cabinet(context.Background())
	if err != nil || len(cab.Ways) != 3 || !strings.Contains(cab.Ways[2].Words(),
		"Pause, 8 min; Knead by hand, 3 min; Knead by hand, 3 min") {
		t.Errorf("%+v, %v", cab.Ways, err)
	}
}

// A draft of what was saved is known for what it is, even where nothing ran on the page after the saving.
func TestDraftOfWhatWasSaved(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.enter("#f-roll-bench_mm", "900")
	b.until("changed", settledState+" === '"+notSaved+"' && sessionStorage.getItem('draft-"+strconv.FormatUint(
		demo.Number(demo.Saturday), 10)+"')")
	if code := eval[float64](b, "fetch(document.querySelector('#save').formAction, {method: 'POST', redirect: "+
		"'manual', body: new URLSearchParams(new "+
		// of a redirect nothing is told
		"FormData(document.querySelector('#batch')))}).then((r) => r.status)"); code != 0 {
		t.Fatalf("saving answers %.0f", code)
	}
	b.visit(batch(demo.Saturday) + "?at=formula")
	b.until("as saved", "document.querySelector('[name=version]').value === '2' && "+settledState+" === ''")
	b.enter("#f-amount-flour_g", "1100")
	b.until("changed again", settledState+" === '"+notSaved+"'")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	if x := saved(t, s, demo.Number(demo.Saturday)); x.Version != 3 || x.Request.Roll.BenchMM != 900 ||
		x.Request.Amount.FlourG != 1100 {
		t.Errorf("version %d, %+v", x.Version, x.Request.Amount)
	}
	// What is typed and not saved is still there after a reload.
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.enter("#f-roll-bench_mm", "700")
	b.until("changed",
		settledState+" === '"+notSaved+"' && document.querySelector('#sheet').textContent.includes('bench 700')")
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.until("the draft",
		settledState+" === '"+notSaved+"' && document.querySelector('#f-roll-bench_mm').value === '700'")
}
