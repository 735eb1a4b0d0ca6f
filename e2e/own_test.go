package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"hollen/internal/core/request"
	"hollen/internal/demo"
)

const heads = "[...document.querySelectorAll('.own-step:not([hidden]) > select')].map((x) => x.value).join(' ')"

// A worked-out kneading is taken over and one step of it changed by taps; then steps are added, moved,
// repeated and taken out by keys alone; what was typed, in seconds too, is what is saved.
func TestKneadingInOnesOwnSteps(t *testing.T) {
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=knead")
	b.pick("#f-knead-by", "own")
	b.until("what was worked out", heads+" === 'mix hand rest'")
	b.click(`button[value="knead.own_steps:add:pause"]`)
	b.until("a pause", heads+" === 'mix hand rest pause'")
	b.click(`button[value="knead.own_steps:up:3"]`)
	b.until("the pause before the rest", heads+" === 'mix hand pause rest'")
	b.click(`button[value="knead.own_steps:again:1"]`)
	b.until("kneaded twice", heads+" === 'mix hand hand pause rest'")
	b.until("the figure", "document.querySelector('#sheet .fig .num').textContent.startsWith('2 × 8')")
	b.enter("#f-knead-own_steps-2-min", "5")
	b.until("unequal", "document.querySelector('#sheet .fig .num').textContent.startsWith('8 + 5')")

	press := func(sel, key string) {
		t.Helper()
		eval[bool](b, "document.querySelector('"+sel+"').focus() ?? true")
		b.do(chromedp.KeyEvent(key))
	}
	press(`button[value="knead.own_steps:down:2"]`, " ")
	b.until("a pause between", heads+" === 'mix hand pause hand rest'")
	if at := eval[string](b, "document.activeElement.value"); at != "knead.own_steps:down:3" {
		t.Errorf("the focus is on %q, and the step below", at)
	}
	press(`button[value="knead.own_steps:add:mix"]`, kb.Enter)
	b.until("mixed in at the end", heads+" === 'mix hand pause hand rest mix'")
	press(`button[value="knead.own_steps:out:5"]`, kb.Enter)
	b.until("taken out", heads+" === 'mix hand pause hand rest'")
	b.enter("#f-knead-own_steps-2-min", "3000")
	b.until("what is allowed", "document.querySelector('#e-f-knead-own_steps-2-min').textContent.includes('2,880')")
	if got := eval[string](b, "document.querySelector('#f-knead-own_steps-2-min').value"); got != "3000" {
		t.Errorf("what was typed is now %q", got)
	}
	b.enter("#f-knead-own_steps-2-min", "45 s")
	b.until("seconds", "document.querySelector('#e-f-knead-own_steps-2-min').textContent === '' && document.querySelector('.steps').textContent.includes('45 s')")
	b.click("#save")
	b.until("saved", settledState+" === 'Saved'")
	k := saved(t, s, demo.Number(demo.Saturday)).Request.Knead
	var got []string
	for _, x := range k.Steps {
		got = append(got, string(x.Do))
	}
	if k.By != request.KneadOwn || strings.Join(got, " ") != "mix hand pause hand rest" || k.Steps[2].Min != .75 || k.Steps[3].Min != 5 {
		t.Errorf("%+v", k)
	}
	b.visit(batch(demo.Saturday) + "?at=rest")
	b.until("the rest station follows", "document.querySelector('#c-rests').hidden && document.querySelector('#c-own-rests').offsetParent")
	b.visit(batch(demo.Saturday) + "?at=knead")
	b.click(`button[aria-label="Take In turns, then hours in the cold"]`)
	b.until("a school again", "document.querySelector('#c-own-steps').hidden && document.querySelector('#f-knead-by').value === ''")
	b.pick("#f-knead-by", "own")
	b.until("the own steps kept", heads+" === 'mix hand pause hand rest'")
}
