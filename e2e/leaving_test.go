package e2e

import (
	"testing"

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
