package e2e

import (
	"strings"
	"testing"

	"hollen/internal/demo"
)

// One portion wants no whole egg: it is beaten and weighed, the nearest batch of whole eggs is a tap
// away, and an egg weighed for it yields, with a question, to another amount.
func TestSmallBatch(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=formula")
	b.pick("#f-amount-by", "portions")
	b.enter("#f-amount-portions", "1")
	b.until("an egg that is weighed", "document.querySelector('#sheet').textContent.includes('they are beaten and "+
		"weighed: crack 1 egg')")
	b.click(`button[aria-label="Take the nearest batch of whole eggs"]`)
	b.until("one whole egg", "document.querySelector('#spine li .key').textContent.trim() === '1 egg' && "+
		"document.querySelector('#f-amount-by').value === 'flour'")
	b.enter("#f-eggs-cracked_g", "57")
	b.until("its weight", "document.querySelector('.rescale')?.textContent.includes('57 g')")
	b.enter("#f-amount-flour_g", "500")
	b.until("the question", "document.querySelector('.rescale')?.textContent.includes('no longer goes with this "+
		"batch')")
	eval[bool](b, "[...document.querySelectorAll('.rescale button')].find((x) => "+
		"x.textContent.includes('Forget')).click() ?? true")
	b.until("the weight forgotten", "document.querySelector('#f-eggs-cracked_g').value === '' && "+
		"!document.querySelector('.rescale')")
	// Beat and weigh, taken, keeps the flour and is told by the gram.
	eval[bool](b, "document.querySelector('#f-eggs-fix_whole_eggs').value = '', true")
	b.enter("#f-eggs-fix_whole_eggs", "")
	b.click(`button[aria-label="Take beat and weigh"]`)
	b.until("grams of egg", "document.querySelector('#spine li .key').textContent.includes('g egg') && "+
		"document.querySelector('#f-amount-flour_g').value === '500'")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	if e := saved(t, s, demo.Number(demo.Saturday)).Request.Eggs; !e.ByWeight || e.CrackedG != nil ||
		e.FixWhole != nil {
		t.Errorf("%+v", e)
	}
}

// A big dough goes into the fridge pressed flat, in lots; what was done at the board is altered before it
// is recorded.
func TestFridgeAndActs(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=formula")
	b.enter("#f-amount-flour_g", "4000")
	b.visit(batch(demo.Saturday) + "?at=rest")
	b.pick("#f-rest-at", "fridge")
	b.until("how it cools", "document.querySelector(`#sheet [data-fig=\"rest.cooling\"]`)")
	b.pick("#f-rest-wrapped", "flat")
	b.until("how flat", "!document.querySelector('#c-f-rest-flat_mm, [id^=c-][id*=flat]')?.hidden && "+
		"document.querySelector('#f-rest-flat_mm').offsetParent")
	b.enter("#f-rest-flat_mm", "25")
	b.until("pressed", "document.querySelector('.steps').textContent.includes('Press it 25 mm flat')")
	eval[bool](b, "document.querySelector('[name=at][value=doctor]').click() ?? true")
	b.until("the signs", "document.querySelector('.seen')")
	eval[bool](b, "[...document.querySelectorAll('.seen button')].find((x) => x.textContent.includes('Cracks when "+
		"flexed')).click() ?? true")
	b.until("the causes", "document.querySelector('.findings')")
	b.enter(".findings li:nth-child(2) .record input", "11") // the first is to knead on
	eval[bool](b, "document.querySelector('.findings li:nth-child(2) .record button').click() ?? true")
	b.until("what was done", "document.querySelector('#sheet').textContent.includes('11 g of water')")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	r := saved(t, s, demo.Number(demo.Saturday)).Request
	if len(r.Acts) != 1 || r.Acts[0].Amount != 11 || r.Rest.FlatMM == nil || *r.Rest.FlatMM != 25 {
		t.Errorf("%+v, %+v", r.Acts, r.Rest)
	}
	if strings.TrimSpace(b.text(".findings .do")) == "" {
		t.Error("nothing to do is said")
	}
}
