package e2e

import (
	"context"
	"fmt"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store/storetest"
)

// onward is the key that goes on to the next step.
const onward = "#knuckles .btn-go"

// again waits as long as the same key is taken for one press, and then does what follows.
const again = "new Promise((done) => setTimeout(done, 410)).then(() => ("

// step is where a screen is: its count and its head.
const step = "document.querySelector('#count').textContent + ', ' + document.querySelector('#head').textContent"

// endsAt is when the clock on the screen ends, s since 1970.
const endsAt = "(() => { const [m, s] = document.querySelector('#face').textContent.split(':').map(Number); return " +
	"Date.now() / 1000 + 60 * m + s })()"

// newMade is the number of the first making begun in a test: the demo has two.
func newMade() uint64 { return 3 }

// toBench begins a making of a batch from its page.
func (b *tab) toBench(name string) {
	b.t.Helper()
	b.visit(batch(name))
	if key := "button[data-key=b]"; eval[bool](b, "document.querySelector('"+key+"').checkVisibility()") {
		b.click(key)
	} else { // on a phone it is under More
		b.click(".head .menu summary")
		b.click(".head .in-menu[formaction$='/bench']")
	}
	b.until("the bench", "document.querySelector('"+onward+"')")
}

// A whole making by taps alone: from washing to the pot, every step, then how it felt and what came out.
func TestMakingByTaps(t *testing.T) {
	t.Parallel()
	for name, size := range map[string][2]int64{"screen": {wide, high}, "tablet": {tabletW, tabletH}, "phone": {390,
		844}, "twice as large": {wide / 2,
		high / 2}} {
		t.Run(name, func(t *testing.T) {
			t.Parallel() // it waits more than it works
			makingByTaps(t, size[0], size[1])
		})
	}
}

func makingByTaps(t *testing.T, width, height int64) {
	base, s := serve(t)
	b := open(t, browser(t), base, width, height)
	b.toBench(demo.Supper)
	b.until("the first step", step+".startsWith('step 1 of') && "+step+".endsWith('Set out and wash')")
	n := eval[int](b, "Number(document.querySelector('#count').textContent.match(/of (\\d+)/)[1])")
	least := 88
	if height < 30*16 { // a phone lying down, or twice the size: two columns, and lower keys
		least = 56
	}
	for i := 1; i <= n; i++ {
		b.until(fmt.Sprintf("step %d", i),
			fmt.Sprintf("document.querySelector('#count').textContent === 'step %d of %d'", i, n))
		if small := eval[[]string](b, fmt.Sprintf(`[...document.querySelectorAll(".knuckles:not([hidden]) .btn")]
			.filter((x) => x.offsetParent && x.offsetHeight < %d).map((x) => x.textContent + " " + x.offsetHeight)`,
			least)); len(small) > 0 {
			t.Errorf("step %d: keys under %d px: %v", i, least, small)
		}
		if over := eval[float64](b, "document.documentElement.scrollWidth - innerWidth"); over > 0 {
			t.Errorf("step %d is %.0f px wider than the screen", i, over)
		}
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	}
	b.until("all done", "document.querySelector('#bench').dataset.step === ''")
	eval[bool](b, "([...document.querySelectorAll('#knuckles .btn')].find((x) => x.textContent === 'A little "+
		"wet').click(), true)")
	b.until("felt", "[...document.querySelectorAll('#knuckles .btn')].some((x) => x.textContent === 'A little wet ✓')")
	b.click(onward)
	b.enter("#ask-text", "1480")
	b.enter("#ask-minutes", "11")
	b.click("#ask-yes")
	b.enter("#ask-text", "roll a stop finer")
	b.click("#ask-yes")
	b.until("how it went", "location.pathname.endsWith('/made') && document.body.textContent.includes('roll a stop "+
		"finer')")
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
		if _, ok := e.Says.(bench.Done); ok {
			done++
		}
	}
	if done != n {
		t.Errorf("%d taps kept of %d", done, n)
	}
}

// The space bar and a pedal that turns pages, and nothing else: on, and back; held down they count once.
func TestMakingByKeys(t *testing.T) {
	t.Parallel() // it waits more than it works
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.toBench(demo.Saturday)
	press := func(key string, times int) {
		for range times {
			eval[bool](b,
				again+`document.activeElement.dispatchEvent(new KeyboardEvent("keydown",
					{ key: "`+key+`", bubbles: true, cancelable: true })), true))`)
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
	eval[bool](b, `([1, 2, 3, 4, 5].forEach((i) => document.body.dispatchEvent(
		new KeyboardEvent("keydown", { key: "PageDown", repeat: i > 1, bubbles: true }))), true)`)
	b.until("held down, once", step+".startsWith('step 6 of') || "+step+".startsWith('step 7 of')")
	eval[bool](b, again+"true))")
	if at := eval[string](b, step); !strings.HasPrefix(at, "step 7") && !strings.HasPrefix(at, "step 6") {
		t.Errorf("held down it goes to %s", at)
	}
}

// Two windows at one making are in step within a second; two makings see each other's clocks.
func TestTwoAtOneBench(t *testing.T) {
	t.Parallel()
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
	eval[bool](two, "([...document.querySelectorAll('#knuckles .btn')].find((x) => x.textContent === "+
		"'More').click(), true)")
	eval[bool](two, "([...document.querySelectorAll('#more-keys .btn')].find((x) => x.textContent === 'A clock of my "+
		"own').click(), true)")
	two.enter("#ask-text", "Ragù")
	two.enter("#ask-minutes", "20")
	two.click("#ask-yes")
	two.until("the clock", "/^Ragù (19:5|20:00)/.test(document.querySelector('#clocks').textContent)")
	one.until("seen from the other", "!document.querySelector('#also').hidden && "+
		"document.querySelector('#also').textContent.includes('Ragù')")
}

// The server dies in the middle of a rest, taps go on, and it comes back: the clock is right to the second and no tap
// is lost.
func TestBenchOutlivesTheServer(t *testing.T) {
	t.Parallel() // it waits more than it works
	st, start := restartable(t)
	addr, stop := start("127.0.0.1:0")
	b := open(t, browser(t), "http://"+addr, wide, high)
	b.expect = noServer
	b.toBench(demo.Saturday)
	rest := "document.querySelector('#bench').dataset.step === 'rest.1'"
	for range 11 {
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	}
	b.until("the rest, and all told", rest+" && !Object.keys(localStorage).some((k) => /^bench-\\d/.test(k))")
	began := eval[float64](b, endsAt)
	stop()
	b.until("word that there is no server", "document.querySelector('#unsent').dataset.is === 'away'")
	for range 5 { // on to dividing, and four pieces of it, without it
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	}
	b.until("on without it", "document.querySelector('#bench').dataset.step === 'divide.5' && "+
		"document.querySelector('#unsent').dataset.taps === '5'")
	for range 5 {
		eval[bool](b, again+"document.querySelector('#knuckles .btn').click(), true))")
	}
	b.until("back at the rest", rest)
	end := eval[float64](b, endsAt)
	if off := end - began; off < -1.5 || off > 1.5 {
		t.Errorf("the clock is off by %.1f s after the server died", off)
	}
	_, stop = start(addr)
	defer stop()
	b.until("everything told", "document.querySelector('#unsent').hidden && !Object.keys(localStorage).some((k) => "+
		"/^bench-\\d/.test(k))")
	b.do(chromedp.Reload())
	b.until("the rest, after a reload", rest)
	end = eval[float64](b, endsAt)
	if off := end - began; off < -1.5 || off > 1.5 {
		t.Errorf("the clock is off by %.1f s after a restart", off)
	}
	events, _, err := st.Events(context.Background(), newMade(), 0)
	if err != nil {
		t.Fatal(err)
	}
	done, back := 0, 0
	for _, e := range events {
		switch e.Says.(type) {
		case bench.Done:
			done++
		case bench.TakenBack:
			back++
		}
	}
	if done != 16 || back != 5 {
		t.Errorf("kept %d taps on and %d back, made 16 and 5", done, back)
	}
}

// A scale that sends ten readings a second is shown at five a second or more; a steady reading that is right is taken
// by itself and
// goes on, one that is counted only by a tap; a scale that falls silent is shown as silent.
func TestWeighingOnAScale(t *testing.T) {
	t.Parallel() // it waits more than it works
	base, st := serve(t)
	token, err := st.AddDevice(context.Background(), "scale-1", "scale")
	if err != nil {
		t.Fatal(err)
	}
	b := open(t, browser(t), base, wide, high)
	b.toBench(demo.Saturday)
	eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	b.until("the flour", "document.querySelector('#bench').dataset.step === 'weigh.flour.1'")
	eval[bool](b,
		`(window.shown = 0, new MutationObserver(() => window.shown++)
			.observe(document.getElementById("face"), { childList: true }), true)`)
	r, w := io.Pipe()
	req, err := http.NewRequest("POST", base+"/devices/scale-1/readings", r)
	if err != nil {
		t.Fatal(err)
	}
	req.Header.Set("Authorization", "Bearer "+token)
	go http.DefaultClient.Do(req)
	weigh := func(g float64, times int, rise float64) {
		for i := range times {
			fmt.Fprintf(w, `{"g":%.1f}`+"\n", g+rise*float64(i))
			time.Sleep(100 * time.Millisecond)
		}
	}
	from := time.Now()
	weigh(0, 20, 37)
	if n := eval[float64](b, "window.shown") / time.Since(from).Seconds(); n < 5 {
		t.Errorf("%.1f readings a second are shown", n)
	}
	if at := b.text("#beside"); !strings.HasPrefix(at, "add ") {
		t.Errorf("beside it says %q", at)
	}
	weigh(800.4, 22, 0)
	b.until("taken by itself", "document.querySelector('#bench').dataset.step === 'weigh.flour.2'")
	weigh(800.4, 3, 0)
	b.until("from there on", "document.querySelector('#face').textContent === '0g'")
	weigh(1000.2, 22, 0)
	b.until("taken, too", "document.querySelector('#bench').dataset.step === 'weigh.held'")
	eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	b.until("eggs", "document.querySelector('#head').textContent === '9 eggs'")
	eval[bool](b,
		"([...document.querySelectorAll('#knuckles .btn')].find((x) => x.textContent === 'Zero').click(), true)")
	weigh(1540.2, 25, 0)
	if at := b.text("#head"); at != "9 eggs" {
		t.Errorf("what is counted is taken by itself: now %s", at)
	}
	eval[bool](b, again+"[...document.querySelectorAll('#knuckles .btn')].find((x) => x.textContent === 'Keep 540 "+
		"g').click(), true))")
	b.until("kept by a tap", "document.querySelector('#bench').dataset.step === 'weigh.pour'")
	b.until("silence, told as silence", "document.querySelector('#beside').textContent === 'the scale is silent'")
	w.Close()
	events, _, err := st.Events(context.Background(), newMade(), 0)
	if err != nil {
		t.Fatal(err)
	}
	var kept []string
	for _, e := range events {
		if x, ok := e.Says.(bench.Weighed); ok {
			kept = append(kept, fmt.Sprintf("%s %.1f %v", x.Step, x.G, x.Scale))
		}
	}
	if got := strings.Join(kept,
		"; "); got != "weigh.flour.1 800.4 true; weigh.flour.2 199.8 true; weigh.eggs 540.0 true" {
		t.Errorf("kept %s", got)
	}
}

// recorders stand in for what a page asks of its tablet, before it loads.
const recorders = `window.asked = [];
	const note = (what) => window.asked.push(what);
	Object.defineProperty(navigator, "wakeLock", { value: { request: async (x) => { note("awake " +
		x); if (window.refuse) throw new Error("no"); return { release: async () => note("asleep"), addEventListener() {} } } } });
	navigator.vibrate = (x) => { note("shake " + x); return true };
	window.AudioContext = class { constructor() { note("sound unlocked"); this.currentTime = 0 } resume() {}
		createOscillator() { note("tone"); return { frequency: {}, connect: (x) => x, start() {}, stop() {} } }
		createGain() { return { gain: { setValueAtTime() {}, exponentialRampToValueAtTime() {} }, connect: (x) => x } } };
	window.SpeechSynthesisUtterance = class { constructor(words) { this.words = words } };
	Object.defineProperty(window, "speechSynthesis", { value: { cancel() {}, speak: (u) => note("said " + u.words) } });`

// The screen is kept awake in attended steps, a tap unlocks the sound, a clock's end sounds, shakes and stands in the
// title, steps are read
// aloud when asked for; and a tablet that refuses all of it is a tablet to work with.
func TestWhatThePageAsksOfTheTablet(t *testing.T) {
	t.Parallel() // it waits more than it works
	base, _ := serve(t)
	br := browser(t)
	for _, refuse := range []bool{false, true} {
		b := open(t, br, base, wide, high)
		script := recorders
		if refuse {
			script = "window.refuse = true;" + recorders + `navigator.vibrate = () => { throw new Error("no") };
				window.AudioContext = class { constructor() { throw new Error("no") } };`
		}
		b.before(script)
		b.toBench(demo.Saturday)
		asked := "window.asked.join('|')"
		b.until("kept awake", asked+".includes('awake screen')")
		b.button("#knuckles", "More")
		b.button("#more-keys", "Read aloud")
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
		b.until("read aloud", asked+".includes('said Soft wheat 00. 800 g')")
		b.button("#knuckles", "More")
		b.button("#more-keys", "A clock of my own")
		b.enter("#ask-text", "Sauce")
		b.enter("#ask-minutes", "0.03")
		b.click("#ask-yes")
		b.until("it is over, and says so", "document.querySelector('#told').textContent.includes('Sauce') && "+
			"document.title.includes('Sauce') && document.querySelector('#clocks').textContent.includes('Sauce') && "+
			"document.querySelector('#clocks').textContent.includes('over')")
		if got := eval[string](b, asked); !refuse && (!strings.Contains(got, "sound unlocked") || strings.Count(got,
			"tone") != 3 || !strings.Contains(got,
			"shake 300")) {
			t.Errorf("asked for %s", got)
		}
		b.until("the next step all the same", step+".startsWith('step 2 of')")
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
		b.until("on", step+".startsWith('step 3 of')")
	}
}

// button taps a key by what it says.
func (b *tab) button(in, words string) {
	b.t.Helper()
	find := fmt.Sprintf("[...document.querySelectorAll('%s .btn')].find((x) => x.textContent === %q)", in, words)
	b.until("the key "+words, find)
	eval[bool](b, "("+find+".click(), true)")
}

// Seven windows at one making in one browser: a tap in the first is seen in all within a second, and the last can tap,
// too.
func TestSevenWindows(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	br := browser(t)
	var all []*tab
	for range 7 {
		b := open(t, br, base, 640, 700)
		if all == nil {
			b.toBench(demo.Saturday)
		} else {
			b.visit(eval[string](all[0], "location.pathname"))
		}
		b.until("the first step", step+".startsWith('step 1 of')")
		all = append(all, b)
	}
	for n, from := range []int{0, 6, 3} {
		eval[bool](all[from], again+"document.querySelector('"+onward+"').click(), true))")
		tapped := time.Now()
		for i, b := range all {
			b.until(fmt.Sprintf("window %d", i+1), fmt.Sprintf(step+".startsWith('step %d of')", n+2))
		}
		if took := time.Since(tapped); took > time.Second {
			t.Errorf("all seven are in step after %v", took)
		}
	}
}

// A reload at every step of the first twenty comes back to that step, with its clock.
func TestReloadAtEveryStep(t *testing.T) {
	t.Parallel() // it waits more than it works
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.toBench(demo.Lantern)
	for i := 2; i <= 21; i++ {
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
		b.until("the next step", fmt.Sprintf(step+".startsWith('step %d of')", i))
		was := eval[string](b, step)
		b.do(chromedp.Reload())
		// The page may have been asked for before the tap was in it; the line tells of it.
		b.until("the same step", fmt.Sprintf("document.readyState === 'complete' && document.querySelector('%s') && "+
			"%s === %q", onward, step, was))
	}
}

// What is wrong at a step is one tap away, with what to do about it for this dough; done, it is part of the making.
func TestSomethingWrongAtTheBench(t *testing.T) {
	t.Parallel()
	base, st := serve(t)
	b := open(t, browser(t), base, tabletW, tabletH)
	b.visit("/")
	b.click(".under-way a")
	b.until("the rest", "document.querySelector('#bench')?.dataset.step === 'rest.1'")
	b.button("#knuckles", "Something wrong?")
	b.until("signs, large enough", "document.querySelectorAll('#more-keys .btn').length > 3 && "+
		"[...document.querySelectorAll('#more-keys .btn')].every((x) => x.offsetHeight >= 88)")
	const sign = "Cracks when flexed"
	b.button("#more-keys", sign)
	b.until("the first question", "document.querySelector('#more-say').textContent === 'How long has it been kneaded?'")
	b.button("#more-keys", "five or more")
	b.until("the question", "document.querySelector('#more-say').textContent === 'How dry is it?'")
	b.button("#more-keys", "a little: cracks at the edge")
	b.until("what to do", "document.querySelector('#more-head').textContent === "+fmt.Sprintf("%q",
		sign)+" && document.querySelector('#more-say').textContent.includes('Wet your hands')")
	b.button("#more-keys", "Done so")
	b.until("what comes of it", "document.querySelector('#change').textContent.includes('wetter to the hand')")
	b.until("told", "!Object.keys(localStorage).some((k) => /^bench-\\d/.test(k))")
	var seen string
	for deadline := time.Now().Add(10 * time.Second); seen == "" && time.Now().Before(deadline); time.Sleep(
		50 * time.Millisecond) {
		events, _, err := st.Events(context.Background(), 2, 0)
		if err != nil {
			t.Fatal(err)
		}
		for _, e := range events {
			if x, ok := e.Says.(bench.Seen); ok && x.G > 0 && x.Act == "water" {
				seen = x.Text
			}
		}
	}
	if !strings.HasPrefix(seen, sign+": ") {
		t.Errorf("kept %q", seen)
	}
}

// What happens otherwise than planned is told by taps, and counts: who is at it, a kneading put in, water by wet hands,
// a poke, where
// a piece ends, how thick it is, a shape decided late, nests, what has dried, what is put by; other steps are looked at
// without doing
// anything, and the making can be ended early and gone on with.
func TestAsItHappens(t *testing.T) {
	t.Parallel() // it waits more than it works
	base, st := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.toBench(demo.Saturday)
	b.button("#knuckles", "Osk")
	b.until("the name", "document.querySelector('#maker').textContent === 'Osk'")
	more := func(keys ...string) {
		b.button("#knuckles", "More")
		for _, k := range keys {
			b.button("#more-keys", k)
		}
	}
	b.on(1)
	more("Name lot and eggs", "Eggs: From the dike farm")
	to := func(head string) {
		for range 40 {
			if b.text("#head") == head {
				return
			}
			b.on(1)
		}
		t.Fatalf("no step %s", head)
	}
	to("Rest in the room")
	more("Look at other steps")
	b.button("#knuckles", "Later")
	b.until("another step", "document.querySelector('#count').textContent.startsWith('looking at step 13')")
	b.on(1)
	b.until("back at what is on", step+".endsWith('Rest in the room')")
	more("Put a step in", "Knead on")
	b.enter("#ask-minutes", "2")
	b.click("#ask-yes")
	b.until("the kneading put in", step+".endsWith('Knead on') && "+
		"/^(2:00|1:5)/.test(document.querySelector('#face').textContent)")
	more("Into the bowl, left over", "Wet hands, about 2 g, give or take 1 g")
	b.on(1)
	b.until("the rest again", step+".endsWith('Rest in the room')")
	b.button("#knuckles", "Try it")
	b.button("#more-keys", "Poke it, then tap")
	time.Sleep(600 * time.Millisecond)
	b.on(1) // the pedal measures only while the poke is open
	b.until("the poke",
		"document.querySelector('#signs').textContent.includes('half back in') && "+
			step+".endsWith('Rest in the room')")
	b.button("#knuckles", "It feels …")
	b.button("#more-keys", "A little dry")
	to("Divide: piece 1 of 10")
	b.button("#knuckles", "All divided")
	b.until("the first piece", step+".endsWith('Piece 1 of 10')")
	more("Put by")
	b.enter("#ask-minutes", "155")
	b.click("#ask-yes")
	b.button("#more-keys", "In the fridge")
	b.until("put by", "document.querySelector('#change').textContent.includes('1 piece put by')")
	b.on(4)
	more("Piece ends elsewhere")
	b.button("#more-keys", "At 6")
	b.on(2)
	b.until("the next piece", step+".endsWith('Piece 2 of 10')")
	b.on(4)
	b.button("#knuckles", "Thickness")
	b.button("#more-keys", "Beside leaves of paper")
	b.enter("#ask-text", "21")
	b.click("#ask-yes")
	b.until("measured", "document.querySelector('#signs').textContent.includes('Measured: 2.1 mm')")
	more("Which shape?", "Pappardelle, 25 mm")
	b.until("decided", "document.querySelector('#change').textContent.includes('pappardelle')")
	for range 60 {
		if b.text("#head") == "Cut" {
			break
		}
		eval[bool](b, again+"([...document.querySelectorAll('#knuckles .btn')].find((x) => x.textContent === 'Piece "+
			"done') ?? document.querySelector('"+
			onward+"')).click(), true))")
	}
	b.button("#knuckles", "+5")
	b.button("#knuckles", "+1 nest")
	b.until("six nests", "document.querySelector('#face').textContent.startsWith('6of ')")
	more("A load on the rack")
	b.until("its clock", "document.querySelector('#clocks').textContent.includes('Rack, a load')")
	more("End it here")
	b.enter("#ask-text", "900")
	b.click("#ask-yes")
	b.enter("#ask-text", "start earlier")
	b.click("#ask-no") // nothing to say: what was typed stays
	b.until("how it went", "location.pathname.endsWith('/made') && document.body.textContent.includes('start "+
		"earlier') && document.body.textContent.includes('put by: dough, 1 piece, 155 g, in the fridge')")
	m, err := st.MadeOf(context.Background(), demo.Number(demo.Saturday))
	if err != nil || len(m) != 1 || m[0].OutG != 900 || len(m[0].Makers) != 1 || m[0].Makers[0] != "Osk" ||
		m[0].EggSource != "From the dike farm" ||
		m[0].Made != 6 ||
		m[0].PokeS < .5 {
		t.Errorf("%+v, %v", m, err)
	}
	b.visit(fmt.Sprintf("/bench/%d", newMade()))
	b.button("#knuckles", "Go on with it")
	b.until("it goes on", step+".endsWith('Cut')")
}

// A making ends without a word, with what was typed before left as it is; thrown away, it says why. What waited past
// the clock of the egg is
// thrown away, and nothing else is said of it.
func TestEndedWithoutWords(t *testing.T) {
	t.Parallel()
	base, st := serve(t)
	b := open(t, browser(t), base, wide, high)
	ended := func(batch uint64) bench.Summary {
		t.Helper()
		b.until("how it went", "location.pathname.endsWith('/made') && document.readyState === 'complete'")
		m, err := st.MadeOf(context.Background(), batch)
		if err != nil || len(m) == 0 {
			t.Fatalf("%v, %d made", err, len(m))
		}
		return m[0].Summary
	}
	more := func(keys ...string) {
		b.button("#knuckles", "More")
		for _, k := range keys {
			b.button("#more-keys", k)
		}
	}
	b.toBench(demo.Saturday)
	more("End it here")
	b.enter("#ask-text", "470")
	b.click("#ask-yes")
	b.until("the second question", "document.querySelector('#ask-head').textContent === 'Next time'")
	b.click("#ask-no")
	if m := ended(demo.Number(demo.Saturday)); m.OutG != 470 || !m.OutSaid {
		t.Errorf("470 g typed: %+v", m)
	}
	b.toBench(demo.Counter)
	more("End it here")
	b.click("#ask-no")
	b.until("the second question", "document.querySelector('#ask-head').textContent === 'Next time'")
	b.click("#ask-no")
	if m := ended(demo.Number(demo.Counter)); m.OutSaid || m.Thrown {
		t.Errorf("nothing said: %+v", m)
	}
	b.toBench(demo.Saltmarsh)
	more("Throw it away")
	b.click("#ask-yes")
	b.until("a word is asked for", "document.querySelector('#ask-err')?.textContent.trim()")
	b.enter("#ask-text", "dropped")
	b.enter("#ask-minutes", "300")
	b.click("#ask-yes")
	if m := ended(demo.Number(demo.Saltmarsh)); !m.Thrown || m.Why != "dropped" || m.ThrownG != 300 {
		t.Errorf("thrown away: %+v", m)
	}

	// Begun five hours ago, it lies at the knead.
	p, err := plan.Make(rules.Default(), demo.Batch(demo.Supper))
	if err != nil {
		t.Fatal(err)
	}
	kept, err := st.Get(context.Background(), demo.Number(demo.Supper))
	if err != nil {
		t.Fatal(err)
	}
	long := storetest.Now().Add(-5 * time.Hour)
	m, err := st.Begin(context.Background(), kept, p, long)
	if err != nil {
		t.Fatal(err)
	}
	var events []bench.Event
	for i, x := range bench.Steps(p) {
		if strings.HasPrefix(x.Key, "knead.") {
			break
		}
		events = append(events, bench.Event{ID: fmt.Sprint("d", i), At: long.Add(time.Minute),
			Says: bench.Done{Step: x.Key}})
	}
	if _, err := st.AddEvents(context.Background(), m.ID, events); err != nil {
		t.Fatal(err)
	}
	b.visit(fmt.Sprintf("/bench/%d", m.ID))
	b.until("the clock of the egg", "document.querySelector('#food.over')")
	b.button("#knuckles", "Something wrong?")
	b.button("#more-keys", "Interrupted: it waited")
	b.until("thrown away alone", "document.querySelector('#more-say')?.textContent.trim() && "+
		"document.querySelectorAll('#more-keys .btn').length === 2")
	b.button("#more-keys", "Throw it away")
	b.click("#ask-yes")
	if m := ended(demo.Number(demo.Supper)); !m.Thrown || m.Why != "Too long out of the fridge" {
		t.Errorf("past the clock: %+v", m)
	}
}
