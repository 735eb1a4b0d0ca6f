package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/core/doctor"
	"hollen/internal/demo"
)

// A cook with a question: a key opens the doctor, a word finds the sign, an answer brings the
// act, one press records it, and the station shows what it did.
func TestDoctor(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=formula")
	before := b.text("#sheet .stack .num")
	b.do(chromedp.KeyEvent("d"))
	b.until("the signs", "document.querySelectorAll('.seen button').length > 15")
	b.enter("#f-doctor-q", "flex")
	b.until("the one that fits", "document.querySelectorAll('.seen button').length === 1")
	b.click(".seen button")
	b.until("its causes", "document.querySelectorAll('.findings li').length > 1")
	eval[bool](b, "document.querySelectorAll('.question')[1].querySelector('button').click() ?? true")
	b.until("the likely one", "document.querySelector('.findings .likely .do')?.textContent.trim()")
	b.click(".findings .likely .btn")
	b.until("the act", "document.querySelector('#sheet table button.take[name=set]')")
	b.click("#spine li:nth-child(1) button")
	b.until("more water",
		"document.querySelector('#sheet .stack .num')?.textContent.trim() !== '"+before+"' && "+
			"document.querySelector('.station[aria-current] .name')?.textContent === 'Formula'")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	if a := saved(t, s, demo.Number(demo.Saturday)).Request.Acts; len(a) != 1 || a[0].Kind != doctor.Water {
		t.Errorf("%+v", a)
	}
}

// Kneading and rest: another school is taken, a slider is dragged, a poke is timed.
func TestKneadAndRest(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=knead")
	if rows := eval[float64](b, "document.querySelectorAll('.schools tbody tr').length"); rows != 5 {
		t.Errorf("%v schools", rows)
	}
	b.click(".schools button[aria-label^='Take Mixer']")
	b.until("the hook", "document.querySelector('#f-knead-school').value === 'hook' && "+
		"document.querySelector('.steps').textContent.includes('second speed')")
	b.visit(batch(demo.Saturday) + "?at=rest")
	eval[bool](b, "(() => { const s = document.querySelector('.slide[data-for=f-rest-rest_min]'); s.value = 45; "+
		"s.dispatchEvent(new Event('input', {bubbles: true})); return true })()")
	b.until("45 minutes", "document.querySelector('#f-rest-rest_min').value === '45' && "+
		"document.querySelector('#spine li:nth-child(4) .key').textContent === '45 min'")
	b.click(".poke")
	b.until("the watch runs", "document.querySelector('.poke').textContent === "+
		"document.querySelector('.poke').dataset.run")
	b.click(".poke")
	b.until("what it says", "document.querySelector(`#sheet [data-fig=\"rest.poke\"]`)")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	r := saved(t, s, demo.Number(demo.Saturday)).Request
	if r.Knead.School != "hook" || *r.Rest.Min != 45 || r.Rest.PokeS == nil || *r.Rest.PokeS > 20 {
		t.Errorf("%+v %+v", r.Knead, r.Rest)
	}
	// The demo's yolk dough is planned by the clock.
	b.visit(batch(demo.Service) + "?at=rest")
	b.until("the clock", "document.querySelector('.clockways')?.textContent.includes('Fridge')")
}
