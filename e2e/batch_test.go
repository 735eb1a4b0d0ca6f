package e2e

import (
	"context"
	"fmt"
	"log/slog"
	"net"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
	"hollen/internal/web"
)

const (
	wide, high   = 1280, 800
	tabletW      = 820
	tabletH      = 1180
	roomFigure   = "#spine li:nth-child(2) .key"
	humidity     = "#f-room-rh"
	humidityErr  = "#e-f-room-rh"
	notSaved     = "unsaved"
	settledState = "(document.querySelector('#state [data-is]')?.dataset.is ?? '')"
)

func saved(t *testing.T, s *store.Store, id uint64) store.Batch {
	t.Helper()
	b, err := s.Get(context.Background(), id)
	if err != nil {
		t.Fatal(err)
	}
	return b
}

// A maker makes a batch, changes the humidity, sees the water change, saves and reopens.
func TestMakeABatch(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit("/batches")
	b.click("a.btn-go")
	b.enter("#f-name", "Tagliatelle for the harbour fair")
	b.enter("#f-much", "12")
	b.click(".asks-go .btn-go")
	b.until("the batch page", "document.querySelector('#spine')")
	if got := eval[string](b, "document.querySelector('#f-name').value"); got != "Tagliatelle for the harbour fair" {
		t.Errorf("opened %q", got)
	}
	want := request.Default()
	want.Amount.Portions = 12
	before, err := plan.Make(rules.Default(), want)
	if err != nil {
		t.Fatal(err)
	}
	if facts := b.text("#facts"); !strings.Contains(facts, measure.Metric.Grams(before.Formula.Dough.MassG)) {
		t.Errorf("facts %q do not hold %s", facts, measure.Metric.Grams(before.Formula.Dough.MassG))
	}
	b.until("all of the page", "document.readyState === 'complete'")
	eval[bool](b, "document.activeElement.blur(); true")
	b.do(chromedp.KeyEvent("2"))
	b.until("the room", "document.querySelector('.station[aria-current] .name').textContent === 'Room' && "+
		"document.querySelector('"+humidity+"')")
	water := b.text(roomFigure)
	asks := b.text("#sheet .stack .num")

	b.enter(humidity, "25")
	want.Room.RH = .25
	after, err := plan.Make(rules.Default(), want)
	if err != nil {
		t.Fatal(err)
	}
	b.until("the drier room", fmt.Sprintf("document.querySelector('#sheet .stack .num').textContent.trim() !== %q",
		asks))
	figure := "+" + measure.Metric.Grams(after.Formula.TopG) + " water"
	if after.Formula.TopG == 0 {
		figure = "no added water"
	}
	b.until("what the plan says, "+figure, fmt.Sprintf("document.querySelector(%q).textContent.trim() === %q",
		roomFigure, figure))
	if figure == water {
		t.Errorf("water %q, as before", water)
	}
	if got := eval[string](b, "document.activeElement.id"); "#"+got != humidity {
		t.Errorf("the focus has gone to %q", got)
	}
	// Out of range: the error beside the field, the last good result as it was.
	b.enter(humidity, "140")
	b.until("the error", "document.querySelector('"+humidityErr+"').textContent !== ''")
	if got := b.text(roomFigure); got != figure {
		t.Errorf("the last good result %q has become %q", figure, got)
	}
	b.enter(humidity, "25")
	b.until("the error to go", "document.querySelector('"+humidityErr+"').textContent === '' && "+
		"!document.querySelector('"+humidity+"').hasAttribute('aria-invalid')")

	b.click("#save")
	b.until("the word saved", settledState+" === 'saved'")
	if got := saved(t, s, made()); got.Version != 2 || got.Request.Room.RH != .25 {
		t.Errorf("saved version %d with %v", got.Version, got.Request.Room)
	}
	b.visit("/batches")
	b.do(chromedp.Click("a.open"))
	b.until("the batch again", "document.querySelector('#spine')")
	if got := b.text(roomFigure); got != figure {
		t.Errorf("reopened with %q, want %q", got, figure)
	}
}

// Steppers, sliders, stations, "Take", scroll: nothing jumps and nothing is lost.
func TestAtTheRail(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=roll")
	b.click("#c-f-roll-bench_mm [data-step='1']")
	b.until("a longer bench", "document.querySelector('#sheet').textContent.includes('bench 1,250')")
	b.visit(batch(demo.Saturday) + "?at=room")
	eval[bool](b, "(() => { const s = document.querySelector('.slide[data-for=f-room-rh]'); s.value = 70; "+
		"s.dispatchEvent(new Event('input', {bubbles: true})); return true })()")
	b.until("the slider to move the field",
		"document.querySelector('"+humidity+"').value === '70' && "+settledState+" === '"+notSaved+"'")
	b.click(".presets button:nth-child(1)")
	b.until("January", "document.querySelector('"+humidity+"').value === '34' && "+
		"document.querySelector('#f-room-temp_c').value === '20'")
	b.visit(batch(demo.Saturday) + "?at=formula")
	b.until("the draft", settledState+" === '"+notSaved+"'")
	eval[bool](b, "scrollTo({top: 60, behavior: 'instant'}); true")
	at := eval[float64](b, "scrollY")
	eval[bool](b, "document.querySelector('#sheet button.take').click(); true")
	b.until("the other way there", "document.querySelector('#f-eggs-fix_whole_eggs').value !== ''")
	b.until("Hollen's own answer", "document.querySelector('#sheet').textContent.includes('own answer')")
	if got := eval[float64](b, "scrollY"); got != at {
		t.Errorf("scrolled from %v to %v", at, got)
	}
	// A second flour brings its share.
	b.visit(batch(demo.Service) + "?at=formula")
	eval[bool](b, "(() => { const s = document.querySelector('#f-flours-1-flour'); s.value = 'semola-fine'; "+
		"s.dispatchEvent(new Event('change', {bubbles: true})); return true })()")
	b.until("the second flour's share", "document.querySelector('#f-flours-1-share').value === '20' && "+
		"document.querySelector('#rest-share').textContent === '80'")
	// What was typed at one station is there after a round of the others.
	b.visit(batch(demo.Chandler) + "?at=rest")
	b.enter("#f-rest-rest_min", "55")
	b.until("55 minutes", "document.querySelector('#spine li:nth-child(4) .key').textContent === '55 min'")
	b.click("#spine li:nth-child(6) button")
	b.until("the cut", "document.querySelector('#f-cut-shape')")
	b.click("#spine li:nth-child(4) button")
	b.until("the rest", "document.querySelector('#f-rest-rest_min')?.value === '55'")
}

// A press that begins before the figures are drawn anew still counts when it ends after.
func TestPressAcrossRedraw(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=room")
	at := eval[[]float64](b, "(() => { const r = document.querySelector('#spine li:nth-child(5) "+
		"button').getBoundingClientRect(); return [r.x + 20, r.y + 20] })()")
	b.enter(humidity, "23")
	b.mouse(input.DispatchMouseEventTypeMousePressed, at[0], at[1])
	time.Sleep(200 * time.Millisecond) // longer than an answer takes
	b.mouse(input.DispatchMouseEventTypeMouseReleased, at[0], at[1])
	b.until("the rollers", "document.querySelector('#f-roll-machine')")
}

// A slider is followed while it is dragged: the figures change under the hand, not when it lets go.
func TestSliderIsFollowed(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=room")
	at := eval[[]float64](b, "(() => { const r = "+
		"document.querySelector('.slide[data-for=f-room-rh]').getBoundingClientRect(); return [r.x + 12, r.y + "+
		"r.height / 2, r.width - 24] })()")
	eval[bool](b, "(() => { window.shown = new Set(); const see = () => "+
		"shown.add(document.querySelector('#sheet').textContent); new "+
		"MutationObserver(see).observe(document.querySelector('#sheet'), {childList: true, characterData: true, "+
		"subtree: true, attributes: true}); return true })()")
	const moves = 40
	b.mouse(input.DispatchMouseEventTypeMousePressed, at[0], at[1])
	from := time.Now()
	for i := range moves {
		b.mouse(input.DispatchMouseEventTypeMouseMoved, at[0]+at[2]*float64(i+1)/moves, at[1])
		time.Sleep(max(0, time.Until(from.Add(time.Duration(i+1)*2*time.Second/moves))))
	}
	if n := eval[int](b, "shown.size"); n < 20 {
		t.Errorf("%d updates while it was dragged for %v", n, time.Since(from))
	}
	b.mouse(input.DispatchMouseEventTypeMouseReleased, at[0]+at[2], at[1])
	b.until("where it was let go",
		"Number(document.querySelector('"+humidity+"').value) > 95 && "+settledState+" === '"+notSaved+"'")
}

// A field with the focus never goes, whatever is typed in it.
func TestFieldWithFocusStays(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday) + "?at=dry")
	eval[bool](b, "(() => { const s = document.querySelector('#f-keep-where'); s.value = 'fridge'; "+
		"s.dispatchEvent(new Event('change', {bubbles: true})); return true })()")
	b.until("how many days", "document.querySelector('#f-keep-days')?.offsetParent")
	for _, days := range []string{"3", "30", ""} {
		b.enter("#f-keep-days", days)
		time.Sleep(300 * time.Millisecond) // longer than an answer takes
		if got := eval[string](b, "document.activeElement.id + ' ' + document.activeElement.value + ' ' + "+
			"!!document.activeElement.offsetParent"); got !=
			"f-keep-days "+days+" true" {
			t.Errorf("%q days typed, the focus is at %q", days, got)
		}
	}
}

// Two windows on one batch: the second save is told what changed, and both sides are kept.
func TestTwoWindows(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	br := browser(t)
	one, two := open(t, br, base, wide, high), open(t, br, base, wide, high)
	two.expect = []string{"409"}
	one.visit(batch(demo.Saturday) + "?at=room")
	two.visit(batch(demo.Saturday) + "?at=room")
	one.enter(humidity, "61")
	one.until("61", settledState+" === '"+notSaved+"'")
	one.click("#save")
	one.until("saved", settledState+" === 'saved'")
	two.enter("#f-room-temp_c", "27")
	two.until("27", settledState+" === '"+notSaved+"'")
	two.click("#save")
	two.until("the clash", "document.querySelector('.clash')")
	if told := two.text(".clash"); !strings.Contains(told, "Humidity") || !strings.Contains(told, "61 %") {
		t.Errorf("told %q", told)
	}
	// A reload here loses nothing either.
	two.do(chromedp.Reload())
	two.until("what was typed", "document.querySelector('#f-room-temp_c').value === '27'")
	two.until("what the other saved", "document.querySelector('"+humidity+"').value === '61'")
	two.click("#save")
	two.until("saved", settledState+" === 'saved'")
	if b := saved(t, s, demo.Number(demo.Saturday)); b.Version != 3 || b.Request.Room.RH != .61 ||
		b.Request.Room.TempC != 27 {
		t.Errorf("version %d, %+v", b.Version, b.Request.Room)
	}
}

// dropping is a listener whose connections can all be dropped, as when a process dies.
type dropping struct {
	net.Listener
	mu   sync.Mutex
	open []net.Conn
}

func (d *dropping) Accept() (net.Conn, error) {
	c, err := d.Listener.Accept()
	if err == nil {
		d.mu.Lock()
		defer d.mu.Unlock()
		d.open = append(d.open, c)
	}
	return c, err
}

func (d *dropping) drop() {
	d.mu.Lock()
	defer d.mu.Unlock()
	for _, c := range d.open {
		c.Close()
	}
}

// restartable starts the application on the demo data; start starts it again at an address after it was stopped.
func restartable(t *testing.T) (st *store.Store, start func(addr string) (string, func())) {
	st, _ = demotest.Store(t, demo.Day)
	byTheBook(t, st)
	return st, func(addr string) (string, func()) {
		l, err := net.Listen("tcp", addr)
		if err != nil {
			t.Fatal(err)
		}
		log := slog.New(slog.DiscardHandler)
		srv := web.NewHTTP(web.New(st, rules.Default(), log, web.Access{}), log)
		all := &dropping{Listener: l}
		go srv.Serve(all)
		return l.Addr().String(), func() { srv.Close(); all.drop() }
	}
}

// noServer are the console's words when there is none.
var noServer = []string{"ERR_CONNECTION_REFUSED", "ERR_CONNECTION_RESET", "ERR_EMPTY_RESPONSE"}

// A batch and a flour are asked for while the server is gone: the page says so, keeps what was typed, and both are made
// once it is there again.
func TestMakingWithoutAServer(t *testing.T) {
	t.Parallel() // it waits more than it works
	st, start := restartable(t)
	addr, stop := start("127.0.0.1:0")
	b := open(t, browser(t), "http://"+addr, wide, high)
	b.expect = noServer
	for _, x := range []struct{ page, field, typed, then string }{
		{"/batches/new", "input[name=name]", "Night boat", "/batches/"}, {"/cabinet/flours/new", "input[name=name]",
			"Night mill", "/cabinet/flours"},
	} {
		b.visit(x.page)
		b.enter(x.field, x.typed)
		stop()
		b.click("form.asks .btn-go")
		b.until("word that nothing answers", "document.querySelector('.unsent')?.textContent")
		if got := eval[string](b,
			"location.pathname + ' ' + document.querySelector('"+x.field+"').value"); got != x.page+" "+x.typed {
			t.Errorf("meanwhile the page is %s", got)
		}
		_, stop = start(addr)
		b.until("it to be made", "location.pathname.startsWith('"+x.then+"') && location.pathname !== '"+x.page+"'")
	}
	defer stop()
	if got := saved(t, st, made()); got.Request.Name != "Night boat" {
		t.Errorf("made %q", got.Request.Name)
	}
	b.until("the flour on its shelf", "document.querySelector('main')?.textContent.includes('Night mill')")
}

// A reload, and a server that is gone for a while, lose nothing that was typed.
func TestReloadAndRestart(t *testing.T) {
	t.Parallel()
	st, start := restartable(t)
	addr, stop := start("127.0.0.1:0")
	b := open(t, browser(t), "http://"+addr, wide, high)
	b.expect = noServer
	b.visit(batch(demo.Saturday) + "?at=room")
	b.enter(humidity, "52")
	b.until("52", settledState+" === '"+notSaved+"'")
	b.do(chromedp.Reload())
	b.until("52 after the reload",
		"document.querySelector('"+humidity+"').value === '52' && "+settledState+" === '"+notSaved+"'")
	stop()
	b.enter(humidity, "53")
	b.until("word that the server is gone", settledState+" === 'unanswered'")
	b.click("#save")
	b.until("word that saving is tried again", settledState+" === 'unkept'")
	_, stop = start(addr)
	b.until("saved once it is there again", settledState+" === 'saved'")
	defer stop()
	b.enter("#f-room-temp_c", "23")
	b.until("the figures again", "document.querySelector('#sheet').textContent.includes('Flour at 23 °C')")
	b.click("#save")
	b.until("saved", settledState+" === 'saved'")
	if got := saved(t, st, demo.Number(demo.Saturday)); got.Request.Room.RH != .53 || got.Request.Room.TempC != 23 {
		t.Errorf("%+v", got.Request.Room)
	}
}

// Without scripts the same form works by submit.
func TestWithoutScripts(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.scripts(false)
	b.visit(batch(demo.Saturday) + "?at=room")
	if got, err := chromedp.Run(b.ctx, chromedp.Value(humidity)); err != nil || got != "44" {
		t.Fatalf("%q, %v", got, err)
	}
	b.do(chromedp.Click("#c-f-room-rh [data-step='1']"), chromedp.WaitReady("#spine"))
	b.do(chromedp.WaitVisible(humidity + "[value='45']"))
	b.do(chromedp.Click("#spine li:nth-child(5) button"), chromedp.WaitVisible("#f-roll-machine"))
	b.do(chromedp.Click("#save"))
	// The page before looks just like the page after: only the store tells when it is saved.
	got := saved(t, s, demo.Number(demo.Saturday))
	for deadline := time.Now().Add(45 * time.Second); got.Version == 1 && time.Now().Before(deadline); got = saved(t, s,
		demo.Number(demo.Saturday)) {
		time.Sleep(20 * time.Millisecond)
	}
	if got.Version != 2 || got.Request.Room.RH != .45 {
		t.Errorf("version %d, %v", got.Version, got.Request.Room)
	}
	b.do(chromedp.WaitVisible("#f-roll-machine"))
}

// From a recipe in cups to a weighed batch, and from there to another day beside it.
func TestRecipeToBatch(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit("/recipe")
	eval[bool](b, "(() => { const f = document.querySelector('#r-text'); f.value = '300 g 00 flour\\n3 large "+
		"eggs\\n2 bananas'; return true })()")
	b.click(".recipe .btn-line")
	b.until("the reading", "document.querySelector('.lines .bad')?.textContent.includes('bananas')")
	b.click(".recipe .btn-go")
	b.until("the batch", "document.querySelector('#spine')")
	if got := saved(t, s, made()); got.Request.Amount.FlourG != 300 || *got.Request.Eggs.FixWhole != 3 {
		t.Errorf("%+v", got.Request)
	}
	b.visit(fmt.Sprint("/compare?a=", made()))
	b.until("both days", "document.querySelectorAll('.compared .newstage').length > 1")
	if text := b.text(".compared"); !strings.Contains(text, "From a recipe at 27 °C and 78 %") {
		t.Errorf("%.300s", text)
	}
	// Keys reach every page.
	for key, path := range map[string]string{"b": "/batches", "n": "/batches/new", "c": "/compare", "r": "/recipe"} {
		b.visit("/rooms")
		b.do(chromedp.KeyEvent(key))
		b.until(path, "location.pathname === '"+path+"' && document.readyState === 'complete'")
	}
	b.do(chromedp.KeyEvent("?"))
	b.until("the list of keys", "document.querySelector('#keys').open")
}

// Every station opens from every other one, and nothing is said of a server that does not answer.
func TestEveryStationFromEachOther(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, 1280, 800)
	b.visit(batch(demo.Saturday))
	stations := eval[[]string](b, "[...new Set([...document.querySelectorAll('#batch button[name=at]')].map((x) => "+
		"x.value))]")
	if len(stations) < 9 {
		t.Fatalf("stations: %v", stations)
	}
	opened := 0
	to := func(at string) {
		eval[bool](b, fmt.Sprintf("(document.querySelector(`#batch button[name=at][value=%s]`).click(), true)", at))
		b.until(at+" or a fault", fmt.Sprintf("document.documentElement.dataset.fault || "+
			"document.querySelector('#state [data-is=unanswered], #state [data-is=fault]') || "+
			"document.querySelector('#batch').elements.was_at.value === '%s' && document.querySelector('#sheet [id], "+
			"#sheet .caption') && (document.querySelector('#spine [aria-current]')?.value ?? 'doctor') === '%s'", at,
			at))
		if is := eval[string](b, settledState); is == "unanswered" || is == "fault" {
			t.Errorf("%s: %s", at, b.text("#state"))
		}
		opened++
	}
	to(stations[0])
	for i, from := range stations {
		for _, other := range stations[i+1:] {
			to(other)
			to(from)
		}
		if i+1 < len(stations) {
			to(stations[i+1])
		}
	}
	if opened < 72 {
		t.Errorf("only %d were opened", opened)
	}
}
