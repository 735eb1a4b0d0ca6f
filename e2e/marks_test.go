package e2e

import (
	"testing"

	"hollen/internal/demo"
)

// A browser in a language with a comma before decimals: its figures are written and read so on the whole page, a
// slider and a stepper write so, and what is saved is the same number.
func TestFiguresInTheReadersWay(t *testing.T) {
	base, s := serve(t)
	b := open(t, browser(t), base, 1280, 800)
	b.speaks("de-DE")
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.until("the way down with commas", "/0,\\d/.test(document.querySelector('#sheet').innerText)")
	if left := eval[[]string](b, `[...document.querySelectorAll("#sheet, .spine, .head")]
		.flatMap((e) => e.innerText.match(/(?<!stop )\b\d+\.\d{1,2}\b/g) ?? [])`); len(left) > 0 {
		t.Errorf("figures with a point: %v", left)
	}
	eval[bool](b, `(() => { const s = document.querySelector(".slide[data-for=f-roll-target_mm]"); s.value = 1.25;
		s.dispatchEvent(new Event("input", { bubbles: true })); return true })()`)
	b.until("the slider to write a comma", "document.querySelector('#f-roll-target_mm').value === '1,25'")
	b.until("the plan to follow", "document.querySelector('#state').textContent.includes('Not saved')")
	b.click("#c-f-roll-target_mm [data-step='1']")
	b.until("the stepper to write a comma", "document.querySelector('#f-roll-target_mm').value === '1,3'")
	b.enter("#f-roll-target_mm", "1,125")
	b.until("the figures in one's own way", "document.querySelector('#said').textContent.includes('mm') || "+
		"document.querySelector('#facts').textContent.includes(',')")
	b.click("#save")
	b.until("it to be saved", "location.search.includes('at=roll') && document.querySelector('#state').textContent.includes('Saved')")
	if mm := saved(t, s, demo.Number(demo.Saturday)).Request.Roll.TargetMM; mm == nil || *mm != 1.125 {
		t.Errorf("1,125 mm is saved as %v", mm)
	}
	b.visit(batch(demo.Saturday) + "/sheet")
	if !eval[bool](b, `/\d,\d/.test(document.body.innerText) && !/(?<!stop )\b\d+\.\d{1,2}\b/.test(document.body.innerText)`) {
		t.Errorf("the sheet does not write figures in the reader's way: %s", b.text(".sheet-page, body"))
	}
}
