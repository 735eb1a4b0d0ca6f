package e2e

import (
	"fmt"
	"math"
	"testing"

	"hollen/internal/demo"
)

// pick chooses an option as a maker would.
func (b *tab) pick(sel, value string) {
	b.t.Helper()
	b.until(sel, fmt.Sprintf("document.querySelector(%q)", sel))
	eval[bool](b, fmt.Sprintf("(() => { const s = document.querySelector(%q); s.focus(); s.value = %q; "+
		"s.dispatchEvent(new Event('change', {bubbles: true})); return s.value === %q })()", sel, value, value))
}

// From the cabinet into a batch: a lot is kept and named, spinach colours the strip, what is
// left in the bowl moves the hydration, and all of it is saved.
func TestFromTheCabinet(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit("/cabinet/lots/new?like=soft-00")
	b.enter("#w-name", "bag on the shelf")
	b.pick("#w-kept", "open_bin")
	eval[bool](b, "document.querySelector('#w-opened_on').value = '2026-11-20'; true")
	b.enter("#w-price_per_kg", "1.40")
	b.click(".asks-go .btn-go")
	b.until("the shelf", "document.querySelector('.things')?.textContent.includes('bag on the shelf')")

	b.visit(batch(demo.Saturday) + "?at=room")
	moist := "document.querySelectorAll('#sheet .stack .num')[1].textContent"
	before := eval[string](b, moist)
	b.pick("#f-flours-0-lot", "own-19")
	b.until("the lot's own moisture",
		moist+" !== '"+before+"' && document.querySelector('#h-lot0').textContent.includes('Fri 20 Nov 2026')")
	b.until("its keeping put away", "document.querySelector('#c-f-flours-0-kept').hidden")

	b.visit(batch(demo.Saturday) + "?at=formula")
	colour := "getComputedStyle(document.querySelector('#sheet')).getPropertyValue('--dough')"
	straw := eval[string](b, colour)
	b.pick("#f-additions-0-addition", "spinach")
	b.until("its usual share", "document.querySelector('#f-additions-0-share').value === '12'")
	b.until("a line for another", "!document.querySelector('#c-add1').hidden")
	b.until("the strip green",
		colour+" !== '"+straw+"' && document.querySelector('#sheet').textContent.includes('Green from spinach')")
	b.visit(batch(demo.Saturday) + "?at=room")
	b.until("the draft", "document.querySelector('#sheet').textContent.includes('spinach')")
	eval[bool](b, "document.querySelector('#f-used-flour_left_g').closest('details').open = true")
	b.enter("#f-used-flour_left_g", "60")
	b.until("what it came out at", "document.querySelector(`#sheet [data-fig=\"room.used\"]`)")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	r := saved(t, s, demo.Number(demo.Saturday)).Request
	if r.Flours[0].LotKept == nil || r.Flours[0].Lot != "own-19" || len(r.Additions) != 1 ||
		r.Additions[0].Share != .12 || r.Used.FlourLeftG == nil ||
		*r.Used.FlourLeftG != 60 {
		t.Errorf("%+v, %+v, %+v", r.Flours[0], r.Additions, r.Used)
	}
}

// Ounces: the choice is remembered, what is typed and not saved comes along, buttons that set
// grams set grams.
func TestOunces(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=formula")
	b.enter("#f-amount-flour_g", "1250")
	b.until("1,250", settledState+" === '"+notSaved+"'")
	b.click(".units button")
	b.until("ounces, the draft among them",
		"document.querySelector('#f-amount-flour_g')?.value === '44.09' && "+settledState+" === '"+notSaved+"'")
	b.until("the words, too", "document.querySelector('#facts').textContent.includes(' lb ')")
	b.enter("#f-amount-flour_g", "32")
	b.until("32 oz of flour in the dough", "document.querySelector('#facts').textContent.includes('3 lb 2')")
	b.click("#spine li:nth-child(2) button")
	b.click(".presets button:nth-child(3)")
	b.until("August in °F", "document.querySelector('#f-room-temp_c').value === '80.6' && "+
		"document.querySelector('#f-room-rh').value === '74'")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	if r := saved(t, s, demo.Number(demo.Saturday)).Request; fmt.Sprintf("%.0f", r.Amount.FlourG) != "907" ||
		math.Abs(r.Room.TempC-27) > 1e-6 {
		t.Errorf("%v g at %v °C", r.Amount.FlourG, r.Room.TempC)
	}
}
