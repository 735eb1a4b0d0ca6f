package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/demo"
)

// Leaving with something that is not saved asks, and the changes can be discarded; what is said of a change is a line.
func TestLeavingAndDiscarding(t *testing.T) {
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday))
	b.click("#c-f-amount-flour_g [data-step='1']")
	b.until("said in a line", "!document.querySelector('#said').hidden && document.querySelector('#said').textContent.startsWith('Now: ') && "+
		"document.querySelector('#said').textContent.includes('Room ')")
	b.until("not saved", settledState+" === '"+notSaved+"'")
	b.visit("/rooms")
	b.mu.Lock()
	asked := len(b.asked)
	b.mu.Unlock()
	if asked != 1 {
		t.Errorf("%d questions on leaving", asked)
	}
	b.visit(batch(demo.Saturday))
	b.until("the draft", settledState+" === '"+notSaved+"'")
	b.click(".head .menu summary")
	b.click("#discard")
	b.until("as it was", "document.readyState === 'complete' && document.querySelector('#f-amount-flour_g')?.value === '1000' && "+settledState+" === ''")
	if x := saved(t, s, demo.Number(demo.Saturday)); x.Version != 1 {
		t.Errorf("version %d", x.Version)
	}
}

// What is typed for a new batch or a thing of the cabinet outlives a reload and another page, until it is taken.
func TestFormsKeepWhatIsTyped(t *testing.T) {
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit("/batches/new")
	b.enter("#f-name", "Harvest supper")
	b.enter("#f-amount-portions", "17")
	b.do(chromedp.Reload())
	b.until("still there", "document.readyState === 'complete' && document.querySelector('#f-name').value === 'Harvest supper' && "+
		"document.querySelector('#f-amount-portions').value === '17'")
	b.visit("/rooms")
	b.visit("/batches/new")
	b.until("there again", "document.querySelector('#f-name').value === 'Harvest supper'")
	b.click(".asks-go .btn-go")
	b.until("the batch", "document.querySelector('#spine')")
	b.visit("/batches/new")
	b.until("a new one", "document.querySelector('#f-name').value === 'New batch'")
	b.visit("/cabinet/flours/new")
	b.enter("#w-name", "Quay mill")
	b.do(chromedp.Reload())
	b.until("kept, too", "document.readyState === 'complete' && document.querySelector('#w-name').value === 'Quay mill'")
}
