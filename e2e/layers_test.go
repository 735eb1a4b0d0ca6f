package e2e

import (
	"fmt"
	"os"
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/core/request"
	"hollen/internal/demo"
)

// counts are what meets the eye in a window: words, numbers, and what can be pressed or typed into.
type counts struct{ Words, Numbers, Controls float64 }

// seenAtOnce counts what of a page lies in the window: text, what stands in fields, and the lines picked in lists.
const seenAtOnce = `(() => {
	const inside = (r) => r.width > 0 && r.height > 0 && r.top < innerHeight - 4 && r.bottom > 4 && r.left < innerWidth &&
		r.right > 0;
	const shown = (e) => e.checkVisibility({ visibilityProperty: true });
	const texts = [];
	const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
	for (let n; (n = walk.nextNode()); ) {
		const e = n.parentElement;
		if (!n.data.trim() || e.closest("script, style, title, desc, select, .visually-hidden, .skip") || !shown(e)) continue;
		const range = document.createRange();
		range.selectNodeContents(n);
		if ([...range.getClientRects()].some(inside)) texts.push(n.data);
	}
	const fields = [...document.querySelectorAll("input:not([type=hidden]), select, textarea, button, a[href], summary")]
		.filter((e) => shown(e) && !e.matches(".visually-hidden, .skip") && inside(e.getBoundingClientRect()));
	for (const f of fields) {
		if (f.matches("select")) texts.push(f.selectedOptions[0]?.textContent ?? "");
		else if (f.matches("input:not([type=checkbox], [type=radio], [type=range])")) texts.push(f.value || f.placeholder);
	}
	const all = texts.join(" ").split(/\s+/).filter(Boolean);
	const of = (what) => all.filter((w) => what.test(w)).length;
	return { Words: of(/\p{L}/u), Numbers: of(/\d/), Controls: fields.length };
})()`

// seen counts the window of a tab.
func (b *tab) seen() counts {
	b.t.Helper()
	return eval[counts](b, seenAtOnce)
}

// first is the most that the first window of a station may hold at 1280×800.
var first = []struct {
	at      request.Stage
	words   float64
	numbers float64
}{
	{request.AtFormula, 160, 45}, {request.AtRoom, 200, 60}, {request.AtKnead, 250, 60}, {request.AtRest, 270, 65},
	{request.AtRoll, 190, 90}, {request.AtCut, 160, 80}, {request.AtDry, 250, 60}, {request.AtCook, 260, 75},
}

// The first window of every station holds no more than a new user takes in.
func TestFirstLayers(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.plainly()
	for i, r := range demo.Batches() {
		if os.Getenv("HOLLEN_LONG") == "" && r.Name != demo.Saturday && r.Name != demo.Supper && r.Name != demo.Counter {
			continue
		}
		for _, s := range first {
			b.visit(fmt.Sprintf("/batches/%d?at=%s", i+1, s.at))
			got := b.seen()
			t.Logf("%s, %s: %.0f words, %.0f numbers, %.0f controls", r.Name, s.at, got.Words, got.Numbers, got.Controls)
			if got.Words > s.words || got.Numbers > s.numbers {
				t.Errorf("%s, %s: %.0f words and %.0f numbers at first sight, %.0f and %.0f are enough", r.Name, s.at,
					got.Words, got.Numbers, s.words, s.numbers)
			}
		}
	}
}

// One mark shows what stands behind the first layer, for that station and for as long as it is not pressed again; it
// works without scripts, and a field in error is never behind it.
func TestLayers(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.plainly()
	hidden := func(sel string) string { return "!document.querySelector('" + sel + "').checkVisibility()" }
	shown := func(sel string) string { return "document.querySelector('" + sel + "').checkVisibility()" }
	b.visit(batch(demo.Saturday))
	b.until("the first layer", hidden("#f-eggs-cracked_g")+" && "+hidden("table[aria-label^=Nutrition]"))
	b.enter("#f-amount-flour_g", "900")
	b.until("still it", settledState+" === '"+notSaved+"' && "+hidden("#f-eggs-cracked_g"))
	b.click(".rail .layer")
	b.until("all of it", shown("#f-eggs-cracked_g")+" && "+shown("table[aria-label^=Nutrition]"))
	if words := eval[string](b, "document.querySelector('.rail .layer').innerText"); words != "Less" {
		t.Errorf("its mark says %q", words)
	}
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.until("another station as it was", hidden("#f-roll-bench_mm"))
	b.visit(batch(demo.Lantern))
	b.until("another batch’s formula whole", shown("#f-eggs-cracked_g"))
	b.click(".rail .layer")
	b.until("less again", hidden("#f-eggs-cracked_g"))
	// What is wrong shows itself, by hand and from another station.
	b.click(".rail .layer")
	b.enter("#f-eggs-cracked_g", "no")
	b.until("what is wrong", "document.querySelector('#e-f-eggs-cracked_g').textContent")
	b.click("#spine li:nth-child(5) button")
	b.until("the rollers", "document.title.startsWith('Roll')")
	b.plainly()
	b.click("#spine li:nth-child(1) button")
	b.until("the field in error", "document.title.startsWith('Formula') && "+shown("#f-eggs-cracked_g"))
	// What goes wrong behind by a change in front shows itself; the doctor has one layer.
	b.plainly()
	b.visit(batch(demo.Saturday) + "?at=cut")
	b.until("the first layer", hidden("#f-cut-min_length_mm"))
	eval[bool](b, `(() => { const f = document.querySelector("#f-cut-min_length_mm"); f.value = "9999";
		f.dispatchEvent(new Event("input", { bubbles: true })); return true; })()`)
	b.until("what is wrong, shown", shown("#f-cut-min_length_mm")+" && "+
		"document.querySelector('#e-f-cut-min_length_mm').textContent")
	b.visit(batch(demo.Saturday) + "?at=rest")
	b.click("button[data-key=d]")
	b.until("the doctor whole", "document.querySelector('.seen') && "+
		"document.querySelector('#main').dataset.layer === 'full'")
	b.visit(batch(demo.Saturday) + "?at=doctor")
	b.until("opened so, too", "document.querySelector('#main').dataset.layer === 'full'")
	// Without scripts.
	b = open(t, browser(t), base, wide, high)
	b.plainly()
	b.scripts(false)
	b.visit(batch(demo.Saturday) + "?at=knead")
	b.click(".rail .layer")
	b.until("the schools", "document.readyState === 'complete' && "+shown("table.schools")+" && "+
		"document.querySelector('#main').dataset.layer === 'full'")
	b.visit(batch(demo.Saturday) + "?at=knead")
	b.until("remembered", shown("table.schools"))
}

// A making is printed on two pages at most, and what is learned opens a matter at a time.
func TestLongPages(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	for _, path := range []string{"/bench/1/made", "/bench/2/made"} {
		b.visit(path)
		pdf, err := chromedp.Run(b.ctx, chromedp.PrintToPDF(chromedp.PDFPreferCSSPageSize()))
		if err != nil {
			t.Fatal(err)
		}
		if n := len(pdfPage.FindAll(pdf, -1)); n > 2 {
			t.Errorf("%s is %d pages", path, n)
		}
	}
	b.visit("/log/learned")
	if h := eval[float64](b, "document.documentElement.scrollHeight"); h > 2000 {
		t.Errorf("what is learned is %.0f px high", h)
	}
	b.click(".matter:nth-of-type(3) summary")
	b.until("one open", "document.querySelectorAll('.matter[open]').length === 1")
}
