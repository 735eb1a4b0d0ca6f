package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"hollen/internal/core/bench"
	"hollen/internal/demo"
)

// onward is the key that goes on to the next step.
const onward = "#knuckles .btn-go"

// again waits as long as the same key is taken for one press, and then does what follows.
const again = "new Promise((done) => setTimeout(done, 410)).then(() => ("

// step is where a screen is: its count and its head.
const step = "document.querySelector('#count').textContent + ', ' + document.querySelector('#head').textContent"

// newMade is the number of the first making begun in a test: the demo has two.
func newMade() uint64 { return 3 }

// toBench begins a making of a batch from its page.
func (b *tab) toBench(name string) {
	b.t.Helper()
	b.visit(batch(name))
	b.click("button[data-key=b]")
	b.until("the bench", "document.querySelector('"+onward+"')")
}

// A whole making by taps alone: from washing to the pot, every step, then how it felt and what came out.
func TestMakingByTaps(t *testing.T) {
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.toBench(demo.Saturday)
	b.until("the first step", step+" === 'step 1 of 108, Set out and wash'")
	n := eval[int](b, "Number(document.querySelector('#count').textContent.match(/of (\\d+)/)[1])")
	for i := 1; i <= n; i++ {
		b.until(fmt.Sprintf("step %d", i), fmt.Sprintf("document.querySelector('#count').textContent === 'step %d of %d'", i, n))
		if small := eval[[]string](b, `[...document.querySelectorAll(".knuckles:not([hidden]) .btn")].filter((x) => x.offsetParent && x.offsetHeight < 88)
			.map((x) => x.textContent + " " + x.offsetHeight)`); len(small) > 0 {
			t.Errorf("step %d: keys under 88 px: %v", i, small)
		}
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	}
	b.until("all done", "document.querySelector('#head').textContent === 'All is done'")
	eval[bool](b, "([...document.querySelectorAll('#knuckles .btn')].find((x) => x.textContent === 'A little wet').click(), true)")
	b.until("felt", "[...document.querySelectorAll('#knuckles .btn')].some((x) => x.textContent === 'A little wet ✓')")
	b.click(onward)
	b.enter("#ask-text", "1480")
	b.click("#ask-yes")
	b.enter("#ask-text", "roll a stop finer")
	b.click("#ask-yes")
	b.until("how it went", "location.pathname.endsWith('/made') && document.body.textContent.includes('roll a stop finer')")
	if text := b.text("main"); !strings.Contains(text, "Knead by hand") {
		t.Error("the table of steps is not there")
	}
	m, err := s.Making(context.Background(), newMade())
	if err != nil || m.Ended == nil {
		t.Errorf("%+v, %v", m.Ended, err)
	}
	events, _, err := s.Events(context.Background(), newMade(), 0)
	if err != nil {
		t.Fatal(err)
	}
	done := 0
	for _, e := range events {
		if e.What == bench.Done {
			done++
		}
	}
	if done != n {
		t.Errorf("%d taps kept of %d", done, n)
	}
}

// The space bar and a pedal that turns pages, and nothing else: on, and back; held down they count once.
func TestMakingByKeys(t *testing.T) {
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.toBench(demo.Saturday)
	press := func(key string, times int) {
		for range times {
			eval[bool](b, again+`document.activeElement.dispatchEvent(new KeyboardEvent("keydown", { key: "`+key+`", bubbles: true, cancelable: true })), true))`)
		}
	}
	press("PageDown", 3)
	b.until("three on", step+".startsWith('step 4 of')")
	press("PageUp", 1)
	b.until("one back", step+".startsWith('step 3 of')")
	press(" ", 2)
	b.until("two on", step+".startsWith('step 5 of')")
	eval[bool](b, `(document.querySelector("#knuckles .btn").focus(), true)`)
	press(" ", 1)
	b.until("on once, whatever has the focus", step+".startsWith('step 6 of')")
	eval[bool](b, `([1, 2, 3, 4, 5].forEach((i) => document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "PageDown", repeat: i > 1, bubbles: true }))), true)`)
	b.until("held down, once", step+".startsWith('step 6 of') || "+step+".startsWith('step 7 of')")
	eval[bool](b, again+"true))")
	if at := eval[string](b, step); !strings.HasPrefix(at, "step 7") && !strings.HasPrefix(at, "step 6") {
		t.Errorf("held down it goes to %s", at)
	}
}

// Two windows at one making are in step within a second; two makings see each other's clocks.
func TestTwoAtOneBench(t *testing.T) {
	base, _ := serve(t)
	br := browser(t)
	one, two := open(t, br, base, wide, high), open(t, br, base, tabletW, tabletH)
	one.toBench(demo.Saturday)
	two.visit(eval[string](one, "location.pathname"))
	two.until("the same step", step+".startsWith('step 1 of')")
	for i := 2; i < 6; i++ {
		eval[bool](one, again+"document.querySelector('"+onward+"').click(), true))")
		from := time.Now()
		two.until("the other's tap", fmt.Sprintf(step+".startsWith('step %d of')", i))
		if took := time.Since(from); took > time.Second {
			t.Errorf("step %d is seen after %v", i, took)
		}
	}
	// Both tap Back at once: one step is taken back.
	eval[bool](one, "(document.querySelector('#knuckles .btn').click(), true)")
	two.until("one back", step+".startsWith('step 4 of')")
	// A clock of one's own in another making is seen here.
	two.toBench(demo.Lantern)
	eval[bool](two, "([...document.querySelectorAll('#knuckles .btn')].find((x) => x.textContent === 'More').click(), true)")
	eval[bool](two, "([...document.querySelectorAll('#more-keys .btn')].find((x) => x.textContent === 'A clock of my own').click(), true)")
	two.enter("#ask-text", "Ragù")
	two.enter("#ask-minutes", "20")
	two.click("#ask-yes")
	two.until("the clock", "document.querySelector('#clocks').textContent.startsWith('Ragù 19:5') || document.querySelector('#clocks').textContent.startsWith('Ragù 20:00')")
	one.until("seen from the other", "!document.querySelector('#also').hidden && document.querySelector('#also').textContent.includes('Ragù')")
}

// The server dies in the middle of a rest, taps go on, and it comes back: the clock is right to the second and no tap is lost.
func TestBenchOutlivesTheServer(t *testing.T) {
	st, start := restartable(t)
	addr, stop := start("127.0.0.1:0")
	b := open(t, browser(t), "http://"+addr, wide, high)
	b.expect = noServer
	b.toBench(demo.Saturday)
	rest := "document.querySelector('#head').textContent === 'Rest in the room'"
	for range 11 {
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	}
	b.until("the rest, and all told", rest+" && !Object.keys(localStorage).some((k) => /^bench-\\d/.test(k))")
	began := eval[float64](b, "(() => { const [m, s] = document.querySelector('#face').textContent.split(':').map(Number); return Date.now() / 1000 + 60 * m + s })()")
	stop()
	b.until("word that there is no server", "document.querySelector('#unsent').textContent.includes('No server')")
	for range 5 { // on to dividing, and four pieces of it, without it
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	}
	b.until("on without it", "document.querySelector('#head').textContent === 'Divide: piece 5 of 10' && document.querySelector('#unsent').textContent.includes('5 taps kept')")
	for range 5 {
		eval[bool](b, again+"document.querySelector('#knuckles .btn').click(), true))")
	}
	b.until("back at the rest", rest)
	end := eval[float64](b, "(() => { const [m, s] = document.querySelector('#face').textContent.split(':').map(Number); return Date.now() / 1000 + 60 * m + s })()")
	if off := end - began; off < -1.5 || off > 1.5 {
		t.Errorf("the clock is off by %.1f s after the server died", off)
	}
	_, stop = start(addr)
	defer stop()
	b.until("everything told", "document.querySelector('#unsent').hidden && !Object.keys(localStorage).some((k) => /^bench-\\d/.test(k))")
	b.do(chromedp.Reload())
	b.until("the rest, after a reload", rest)
	end = eval[float64](b, "(() => { const [m, s] = document.querySelector('#face').textContent.split(':').map(Number); return Date.now() / 1000 + 60 * m + s })()")
	if off := end - began; off < -1.5 || off > 1.5 {
		t.Errorf("the clock is off by %.1f s after a restart", off)
	}
	events, _, err := st.Events(context.Background(), newMade(), 0)
	if err != nil {
		t.Fatal(err)
	}
	done, back := 0, 0
	for _, e := range events {
		switch e.What {
		case bench.Done:
			done++
		case bench.Took:
			back++
		}
	}
	if done != 16 || back != 5 {
		t.Errorf("kept %d taps on and %d back, made 16 and 5", done, back)
	}
}
