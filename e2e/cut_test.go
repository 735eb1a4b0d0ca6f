package e2e

import (
	"fmt"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/core/cut"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
)

// From ribbons to ravioli, with another shape beside them: figures, drawing and fields follow,
// and what is saved is what stood there.
func TestCutOtherShapes(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=cut")
	b.enter("#f-cut-width_mm", "8")
	b.until("eight", "document.querySelector('#sheet').textContent.includes('at 8 mm')")
	b.pick("#f-cut-shape", "ravioli")
	b.until("pieces", "document.querySelector(`#sheet [data-fig=\"cut.fill_total\"]`)")
	b.until("their fields", "document.querySelector('#f-cut-filling-name').offsetParent && "+
		"!document.querySelector('#f-cut-min_length_mm').offsetParent && "+
		"document.querySelector('#f-cut-width_mm').value === ''")
	b.enter("#f-cut-filling-name", "marsh samphire and curd")
	b.enter("#f-cut-filling-allergens", "milk")
	b.pick("#f-cut-also-0-shape", "own-9")
	b.until("one portion of it", "document.querySelector('#f-cut-also-0-portions').value === '1'")
	b.enter("#f-cut-also-0-portions", "4")
	b.until("two drawings", "document.querySelectorAll('#sheet .caption h2').length && "+
		"document.querySelector('#sheet').textContent.includes('Wrack ribbons, from above')")
	b.enter("#f-cut-width_mm", "9")
	b.until("the error", "document.querySelector('#e-f-cut-width_mm').textContent.includes('24 mm')")
	b.enter("#f-cut-width_mm", "55")
	b.until("no error", "document.querySelector('#e-f-cut-width_mm').textContent === '' && "+
		"document.querySelector('#sheet').dataset.errors === '0'")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	r := saved(t, s, demo.Number(demo.Saturday)).Request
	if r.Cut.Shape != "ravioli" || *r.Cut.Width != 55 || r.Cut.Filling.Name != "marsh samphire and curd" ||
		len(r.Cut.Also) != 1 ||
		r.Cut.Also[0].Portions != 4 || r.Cut.Also[0].Own == nil {
		t.Errorf("%+v", r.Cut)
	}
	// Drying to keep, weighed twice.
	b.visit(batch(demo.Service) + "?at=dry")
	eval[bool](b, "(() => { document.querySelector('.rail .more').open = true; return true })()")
	b.click("#f-dry-keep")
	b.until("the risk", "document.querySelector('#sheet [data-note=keep_dried]')")
	weigh := func(n int, at, g string) {
		b.do(chromedp.WaitVisible(fmt.Sprintf("#f-dry-checks-%d-at", n)))
		eval[bool](b, fmt.Sprintf("(() => { const f = document.querySelector('#f-dry-checks-%d-at'); f.value = '%s'; "+
			"f.dispatchEvent(new Event('input', {bubbles: true})); f.dispatchEvent(new Event('change', {bubbles: "+
			"true})); return true })()",
			n, at))
		b.until("room for the next", fmt.Sprintf("document.querySelector('#f-dry-checks-%d-at').offsetParent", n+1))
		b.enter(fmt.Sprintf("#f-dry-checks-%d-g", n), g)
	}
	weigh(0, "2026-11-28T18:00", "1150")
	weigh(1, "2026-11-28T21:00", "1010")
	b.until("what it says", "document.querySelector('#sheet').textContent.includes('at the pace of the last two "+
		"weighings')")
}

// The drawings that are handed out measure in a browser what the plan says, in mm.
func TestDrawingsAreTrueToScale(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit("/")
	const mm = 96 / 25.4
	measure := func(path, sel string) [][]float64 {
		return eval[[][]float64](b, fmt.Sprintf(`fetch(%q).then((r) => r.text()).then((text) => {
			document.querySelectorAll("body > svg").forEach((e) => e.remove());
			document.body.append(document.importNode(new DOMParser().parseFromString(text, "image/svg+xml").documentElement, true));
			const zero = document.querySelector("body > svg").getBoundingClientRect();
			return [...document.querySelectorAll("body > svg " + %q)]
				.map((e) => { const r = e.getBoundingClientRect(); return [r.x - zero.x, r.y - zero.y, r.width, r.height] });
		})`, path, sel))
	}
	near := func(what string, got, wantMM float64) {
		t.Helper()
		if math.Abs(got/mm-wantMM) > .02 {
			t.Errorf("%s: %.3f mm on the screen, is %.3f", what, got/mm, wantMM)
		}
	}
	for i, r := range demo.Batches() {
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		if p.Cut.Shape.Family != cut.Formed {
			for n, x := range p.Cut.Parts() {
				path := fmt.Sprintf("/batches/%d/cut.svg?part=%d", i+1, n)
				sheet := measure(path, "#sheet")[0]
				near(r.Name+": the sheet's length", sheet[2], p.Cut.SheetLengthMM)
				near(r.Name+": the sheet's width", sheet[3], p.Cut.SheetWidthMM)
				cuts := measure(path, "#cutouts > *")
				if len(cuts) != x.PerSheet {
					t.Fatalf("%s: %d cut out, %d counted", r.Name, len(cuts), x.PerSheet)
				}
				for j, o := range x.Cutouts() {
					near(r.Name+": left edge", cuts[j][0], o.X)
					near(r.Name+": upper edge", cuts[j][1], o.Y)
					near(r.Name+": a cutout's length", cuts[j][2], o.W)
					near(r.Name+": a cutout's width", cuts[j][3], o.H)
				}
			}
		}
		bars := measure(fmt.Sprintf("/batches/%d/ladder.svg", i+1), "#sheets > rect")
		for j, x := range p.Roll.Passes {
			near(r.Name+": pass "+x.Label, bars[j][3], x.OutMM)
		}
		near("the check", measure(fmt.Sprintf("/batches/%d/ladder.svg", i+1), "#check")[0][2], 50)
	}
}

var (
	pdfPage = regexp.MustCompile(`/Type /Page\b`)
	pdfBox  = regexp.MustCompile(`/MediaBox \[0 0 ([\d.]+) ([\d.]+)\]`)
)

// Every batch sheet prints on one page of its paper, every label on one of its size, the fullest
// batch too.
func TestPrintsOnOnePage(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	r := demo.Batch("Counter trays, mixed")
	r.Name = strings.Repeat("A long name for a batch, ", 3)[:70]
	r.Flours = append(r.Flours, r.Flours[0], r.Flours[0], r.Flours[0], r.Flours[0])
	for i, f := range []string{"", "semola-fine", "wholemeal-flatbread", "khorasan", "spelt-white"} {
		if r.Flours[i].Share = .2; i > 0 {
			r.Flours[i] = request.FlourPart{Flour: f, Share: .2, Kept: "paper_bag", OpenDays: 3, ContainsKG: 1}
		}
	}
	r.Additions = []request.AdditionPart{{Addition: "spinach", Share: .1}, {Addition: "mushroom-powder", Share: .02},
		{Addition: "saffron", Share: .005}}
	r.Salt, r.Oil, r.Eggs.Style = .01, .02, "rich"
	r.Cut.Also = append(r.Cut.Also, request.ShapePart{Shape: "ravioli", Portions: 2})
	r.Cut.Filling = request.Filling{Name: "slow-cooked onions with smoked curd and bread",
		Allergens: "milk, wheat, sulphites", Kind: request.FillingMeat}
	r.Knead.School, r.Amount.Portions = "turns", 60
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	full, err := s.Create(t.Context(), p)
	if err != nil {
		t.Fatal(err)
	}
	b := open(t, browser(t), base, wide, high)
	for id := uint64(1); id <= full.ID; id++ {
		for _, x := range []struct {
			path string
			w, h float64 // mm
		}{{"sheet?paper=a4", 210, 297}, {"sheet?paper=letter", 215.9, 279.4}, {"label?paper=large", 100, 70},
			{"label?paper=small", 62, 40}} {
			b.visit(fmt.Sprintf("/batches/%d/%s", id, x.path))
			pdf, err := chromedp.Run(b.ctx, chromedp.PrintToPDF(chromedp.PDFPreferCSSPageSize(),
				chromedp.PDFPrintBackground()))
			if err != nil {
				t.Fatal(err)
			}
			if n := len(pdfPage.FindAll(pdf, -1)); n != 1 {
				t.Errorf("batch %d, %s: %d pages", id, x.path, n)
			}
			m := pdfBox.FindSubmatch(pdf)
			w, _ := strconv.ParseFloat(string(m[1]), 64)
			h, _ := strconv.ParseFloat(string(m[2]), 64)
			if math.Abs(w*25.4/72-x.w) > 1 || math.Abs(h*25.4/72-x.h) > 1 {
				t.Errorf("batch %d, %s: %.1f × %.1f mm", id, x.path, w*25.4/72, h*25.4/72)
			}
			// Nothing of a label is cut off.
			if over := eval[float64](b, "(() => { const e = document.querySelector('.label'); return e ? "+
				"Math.max(e.scrollHeight - e.clientHeight, e.scrollWidth - e.clientWidth) : 0 })()"); over > 1 {
				t.Errorf("batch %d, %s: %.0f units of the label are cut off", id, x.path, over)
			}
		}
	}
	// In ounces and inches it is one page, too.
	b.visit("/")
	b.click(".units button")
	b.until("ounces", "document.querySelector('.units b')?.textContent === 'oz °F'")
	for _, id := range []uint64{7, 9, full.ID} {
		b.visit(fmt.Sprintf("/batches/%d/sheet?paper=letter", id))
		pdf, err := chromedp.Run(b.ctx, chromedp.PrintToPDF(chromedp.PDFPreferCSSPageSize()))
		if err != nil {
			t.Fatal(err)
		}
		if n := len(pdfPage.FindAll(pdf, -1)); n != 1 || !strings.Contains(b.text(".p-weigh"), "oz") {
			t.Errorf("batch %d in ounces: %d pages", id, n)
		}
	}
	b.click(".units button")
	b.until("grams", "document.querySelector('.units b')?.textContent === 'g °C'")
	b.visit(batch(demo.Saturday) + "?at=cut")
	b.do(chromedp.KeyEvent("p"))
	b.until("the sheet by its key", "location.pathname === '"+batch(
		demo.Saturday)+"/sheet' && document.querySelector('.paper')")
	if small := eval[float64](b, "Math.min(...[...document.querySelectorAll('.p-weigh b')].map((e) => "+
		"parseFloat(getComputedStyle(e).fontSize))) * 72 / 96"); small < 16 {
		t.Errorf("amounts of %.0f points are not read at a metre", small)
	}
}

// A cabinet goes out of the page and a changed one comes in: the preview says what changes, one
// box is taken off, the rest is taken.
func TestBringInAFile(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.expect = []string{"422"}
	b.visit("/cabinet/shapes")
	doc := eval[string](b, "fetch('/cabinet/export.json').then((r) => r.text())")
	doc = strings.Replace(strings.Replace(doc, `"protein_pct": 11.2`, `"protein_pct": 12.6`, 1), "Wrack ribbons",
		"Kelp ribbons", 1)
	file := filepath.Join(t.TempDir(), "cabinet.json")
	if err := os.WriteFile(file, []byte(doc), 0o600); err != nil {
		t.Fatal(err)
	}
	b.click(".head .menu summary")
	b.click(".head .menu a")
	b.until("the page", "document.querySelector('#f-file')")
	b.do(chromedp.SetUploadFiles("#f-file", []string{file}))
	b.click(".asks-file .btn")
	b.until("the preview", "document.querySelector('.found')?.textContent.includes('11.2 → 12.6')")
	b.click(".found input[name=take]")
	b.click(".found .btn-go")
	b.until("the shelf", "document.querySelector('.things')?.textContent.includes('Kelp ribbons')")
	c, err := s.Cabinet(t.Context())
	if err != nil || c.Flours[0].ProteinPct != 11.2 || len(c.Shapes) != 2 {
		t.Errorf("%v %+v", err, c.Flours[0])
	}
	b.visit("/import")
	eval[bool](b, "(() => { document.querySelector('#f-text').value = '{\"format\": 7'; return true })()")
	b.click(".asks-file .btn")
	b.until("the error", "document.querySelector('#e-text')?.textContent.trim()")
	if got := eval[string](b, "document.querySelector('#f-text').value"); got != `{"format": 7` {
		t.Errorf("what was typed is lost: %q", got)
	}
}
