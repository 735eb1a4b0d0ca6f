package e2e

import (
	"strconv"
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
	t.Parallel()
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
	b.until("seconds", "document.querySelector('#e-f-knead-own_steps-2-min').textContent === '' && "+
		"document.querySelector('.steps').textContent.includes('45 s')")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	k := saved(t, s, demo.Number(demo.Saturday)).Request.Knead
	var got []string
	for _, x := range k.Steps {
		got = append(got, string(x.Do))
	}
	if k.By != request.KneadOwn || strings.Join(got, " ") != "mix hand pause hand rest" || k.Steps[2].Min != .75 ||
		k.Steps[3].Min != 5 {
		t.Errorf("%+v", k)
	}
	b.visit(batch(demo.Saturday) + "?at=rest")
	b.until("the rest station follows", "document.querySelector('#c-rests').hidden && "+
		"document.querySelector('#c-own-rests').offsetParent")
	b.visit(batch(demo.Saturday) + "?at=knead")
	b.click(`button[aria-label="Take In turns, then hours in the cold"]`)
	b.until("a school again", "document.querySelector('#c-own-steps').hidden && "+
		"document.querySelector('#f-knead-by').value === ''")
	b.pick("#f-knead-by", "own")
	b.until("the own steps kept", heads+" === 'mix hand pause hand rest'")
}

const passes = "[...document.querySelectorAll('.own-step:not([hidden]) .pass-at > input')].map((x) => " +
	"x.value).join(' ')"

// A way down that leaves stops out, with several passes at those used, is built by taps alone, then by keys
// alone; a worked-out way is taken over and one pass of it folded.
func TestTheWayDownInOnesOwnSteps(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.pick("#f-roll-by", "own")
	b.until("what was worked out", passes+".startsWith('0 0 ')")
	clear := func() {
		t.Helper()
		b.until("all of the page", "document.readyState === 'complete'")
		for eval[bool](b, passes+" !== ''") {
			before := eval[string](b, passes)
			eval[bool](b,
				"(document.querySelector('button[name=list][value=\"roll.own_passes:out:0\"]').click(), true)")
			b.until("a line less", passes+" !== "+strconv.Quote(before))
		}
	}
	clear()
	b.until("it is worked out until there is a pass", "document.querySelector('#sheet [data-note=no_passes]')")
	tap := func(stop string) { b.click(`button[value="roll.own_passes:tap:` + stop + `"]`) }
	said := ""
	for _, stop := range strings.Fields("0 0 0 3 3 6 6") {
		tap(stop)
		said = strings.TrimSpace(said + " " + stop)
		b.until("a pass at "+stop, passes+" === "+strconv.Quote(said))
	}
	b.until("the figure of the station", "document.querySelector('#spine').textContent.includes('0 3 6 · 7 passes')")
	tap("3") // where it belongs, not at the end
	b.until("a third pass at 3", passes+" === '0 0 0 3 3 3 6 6'")
	b.click(`.tap-stop .chip[value="roll.own_passes:fold:1"]`)
	b.until("folded in half", "document.querySelector('#f-roll-own_passes-1-fold').value === 'half'")
	b.click(`.tap-stop .chip[value="roll.own_passes:fold:1"]`)
	b.until("folded in three", "document.querySelector('.ladder').textContent.includes('fold in three')")
	b.until("what each feels", "document.querySelector('.ladder').textContent.includes('bold')")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	var got []string
	r := saved(t, s, demo.Number(demo.Saturday)).Request.Roll
	for _, x := range r.Steps {
		got = append(got, x.Stop)
	}
	if strings.Join(got, " ") != "0 0 0 3 3 3 6 6" || r.Steps[1].Fold != request.FoldThree || r.By != request.WayOwn {
		t.Errorf("%+v", r)
	}

	clear()
	press := func(sel, key string) {
		t.Helper()
		eval[bool](b, "(document.querySelector('"+sel+"').focus(), true)")
		b.do(chromedp.KeyEvent(key))
	}
	press(`button[value="roll.own_passes:tap:0"]`, kb.Enter)
	b.until("the widest", passes+" === '0'")
	press(`button[value="roll.own_passes:tap:5"]`, " ")
	b.until("and 5", passes+" === '0 5'")
	press(`button[value="roll.own_passes:again:1"]`, kb.Enter)
	b.until("and again", passes+" === '0 5 5'")
	b.enter("#f-roll-own_passes-2-stop", "77")
	b.until("which stops there are",
		"document.querySelector('#e-f-roll-own_passes-2-stop').textContent.includes('0, 1, 2')")
	b.enter("#f-roll-own_passes-2-stop", "7")
	b.until("and 7, which tears", "document.querySelector('#sheet [data-note=own_tears]')")
	b.enter("#f-roll-own_passes-0-passes", "3")
	b.until("thrice at the widest", "document.querySelector('#spine').textContent.includes('0 5 7 · 5 passes')")
	press(`button[value="roll.own_passes:up:2"]`, kb.Enter)
	b.until("7 before 5", passes+" === '0 7 5'")
	b.until("5 presses nothing", "document.querySelector('#sheet [data-note=untouched]')")
	b.visit(batch(demo.Saturday) + "?at=room") // what is not saved is not lost, whatever station is opened
	b.until("the way as it was built", "document.querySelector('#spine').textContent.includes('0 7 5 · 5 passes')")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	if steps := saved(t, s, demo.Number(demo.Saturday)).Request.Roll.Steps; len(steps) != 3 || steps[0].Passes != 3 ||
		steps[1].Stop != "7" {
		t.Errorf("%+v", steps)
	}
}

// Without scripts the same keys post the form: a way down that leaves stops out, and own kneading steps.
func TestOnesOwnWayWithoutScripts(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.scripts(false)
	b.visit(batch(demo.Saturday) + "?at=roll")
	post := func(button string) {
		t.Helper()
		mark := eval[bool](b, "(document.body.dataset.old = 'yes', true)")
		eval[bool](b, "(document.querySelector('"+button+"').click(), true)")
		b.until("a page anew",
			"document.readyState === 'complete' && document.body && !document.body.dataset.old && "+strconv.FormatBool(
				mark))
	}
	eval[bool](b, "(document.querySelector('#f-roll-by').value = 'own', true)")
	post("#batch > button[name=at]")
	b.until("what was worked out", passes+".startsWith('0 0 ')")
	for eval[bool](b, passes+" !== ''") {
		post(`button[name=list][value="roll.own_passes:out:0"]`)
	}
	for _, stop := range strings.Fields("0 3 3 6") {
		post(`button[name=list][value="roll.own_passes:tap:` + stop + `"]`)
	}
	post(`button[name=list][value="roll.own_passes:fold:0"]`)
	if got := eval[string](b, passes); got != "0 3 3 6" {
		t.Errorf("built as %q", got)
	}
	post("#save")
	r := saved(t, s, demo.Number(demo.Saturday)).Request.Roll
	if len(r.Steps) != 4 || r.Steps[0].Fold != request.FoldHalf || r.Steps[3].Stop != "6" {
		t.Errorf("%+v", r.Steps)
	}
}
