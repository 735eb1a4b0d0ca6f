package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
)

// seq waits until a dough stands after so many acts.
func (b *tab) seq(n int) {
	b.t.Helper()
	b.until(fmt.Sprintf("act %d", n), fmt.Sprintf("document.getElementById('round')?.dataset.seq === '%d'", n))
}

// key presses a key of the keyboard.
func (b *tab) key(k string) {
	b.t.Helper()
	b.do(chromedp.KeyEvent(k))
}

// A sitting of six by keys alone: what the signs were is told after each, and the sitting opened at its end.
func TestASittingByKeys(t *testing.T) {
	t.Parallel()
	base := logged(t)
	br := browser(t)
	b := open(t, br, base, 1280, 800)
	b.visit("/practice")
	b.click("button[value=call]")
	b.until("the first call", "document.readyState === 'complete' && document.querySelectorAll('.signs dd').length > 0")
	for n := range 6 {
		if says := b.text(".round-head .facts"); !strings.Contains(says, fmt.Sprintf("call %d of 6", n+1)) {
			t.Errorf("call %d: %s", n+1, says)
		}
		b.key("1")
		b.seq(2*n + 1)
		if lines := eval[int](b, "document.querySelectorAll('.lesson p').length"); lines < 3 {
			t.Errorf("call %d is told in %d lines", n+1, lines)
		}
		if n < 5 {
			b.key(" ")
			b.seq(2*n + 2)
		}
	}
	b.key(" ")
	b.until("the sitting opened", "location.pathname.endsWith('/opened') && document.querySelectorAll('.calls-made > li').length === 6")
	// another window at one dough: both follow
	b.visit("/practice")
	b.click("button[value=batch]")
	b.until("a dough", "document.readyState === 'complete' && document.querySelector('.signs dd')")
	at := eval[string](b, "location.pathname")
	other := open(t, br, base, 1280, 800)
	other.visit(at)
	b.key("1")
	b.seq(1)
	other.until("the other window follows", "document.getElementById('round').dataset.seq === '1'")
}

// A whole batch by taps on a phone, its amount altered by a key, and opened at the end.
func TestABatchOnAPhone(t *testing.T) {
	t.Parallel()
	base := logged(t)
	b := open(t, browser(t), base, 390, 844)
	b.visit("/practice?dough=usual")
	b.click("button[value=batch]")
	b.until("the dough", "document.querySelector('.key-amount .more') && !document.querySelector('.key-amount .more').hidden")
	n := 0
	press := func(do string) {
		t.Helper()
		n++
		b.click(`.key-form:has([name=do][value="` + do + `"]) .key`)
		b.seq(n)
	}
	for range 6 {
		b.click(`.key-form:has([name=do][value="knead"]) .more`)
	}
	b.until("eight minutes", `document.querySelector('.key-form:has([value="knead"]) [name=n]').value === "8"`)
	press("knead")
	if got := b.text(".signs .done"); !strings.Contains(got, "kneaded 8 min") {
		t.Errorf("done: %s", got)
	}
	n++
	b.click(".looks button")
	b.seq(n)
	if over := eval[float64](b, "document.documentElement.scrollWidth - innerWidth"); over > 0 {
		t.Errorf("%.0f units wider than the phone", over)
	}
	for _, do := range []string{"wrap", "rest", "roll", "fold", "fold"} {
		press(do)
	}
	for range 8 {
		press("pass")
	}
	for _, do := range []string{"dust", "end", "cut", "cook"} {
		press(do)
	}
	b.click(`.key-form:has([name=do][value="drain"]) .key`)
	b.until("the dough opened", "location.pathname.endsWith('/opened') && document.querySelector('.kept .much')")
	if strips := eval[int](b, "document.querySelectorAll('svg.draw').length"); strips < 2 {
		t.Errorf("%d strips of time", strips)
	}
}

// Without scripts every key is a button that posts, an amount is typed, and what cannot be is said beside its key.
func TestPracticeWithoutScripts(t *testing.T) {
	t.Parallel()
	base := logged(t)
	b := open(t, browser(t), base, 1280, 800)
	b.scripts(false)
	b.do(chromedp.Navigate(base + "/practice?dough=usual"))
	b.do(chromedp.WaitVisible("button[value=batch]"), chromedp.Click("button[value=batch]"))
	b.do(chromedp.WaitVisible(".signs"))
	knead := `.key-form:has([name=do][value="knead"]) `
	b.do(chromedp.Clear(knead+"[name=n]"), chromedp.SendKeys(knead+"[name=n]", "99"), chromedp.Click(knead+".key"))
	b.expect = append(b.expect, "422")
	b.do(chromedp.WaitVisible(knead + ".err"))
	b.do(chromedp.Clear(knead+"[name=n]"), chromedp.SendKeys(knead+"[name=n]", "7"), chromedp.Click(knead+".key"))
	b.do(chromedp.WaitVisible(`#round[data-seq="1"]`))
	b.do(chromedp.Click(`.key-form:has([name=do][value="wrap"]) .key`), chromedp.WaitVisible(`#round[data-seq="2"]`))
	b.do(chromedp.WaitVisible(".lesson summary"))
}
