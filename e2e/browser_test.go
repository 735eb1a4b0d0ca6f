// Package e2e drives the real interface in headless Chromium against the real server and a
// real MariaDB.
package e2e

import (
	"context"
	"fmt"
	"log/slog"
	"net/http/httptest"
	"os"
	"os/exec"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/network"
	cdppage "github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"

	"hollen/internal/clock"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
	"hollen/internal/web"
)

func TestMain(m *testing.M) {
	storetest.Main(m, func() {
		for _, end := range atTheEnd {
			end()
		}
	})
}

// atTheEnd is what is to be stopped once all tests have run.
var (
	ending   sync.Mutex
	atTheEnd []func()
)

// serve starts the application on the demo data and returns its address and store.
func serve(t *testing.T) (string, *store.Store) {
	t.Helper()
	s, _ := demotest.Store(t, demo.Day)
	byTheBook(t, s)
	return served(t, s), s
}

// logged starts the application on the demo with its log and returns its address.
func logged(t *testing.T) string {
	t.Helper()
	return served(t, demotest.Logged(t))
}

// serving starts the application on a scenario.
func serving(t *testing.T, sc store.Scenario) (string, *store.Store) {
	t.Helper()
	s := storetest.Open(t)
	if _, err := s.Seed(context.Background(), sc); err != nil {
		t.Fatal(err)
	}
	return served(t, s), s
}

// served serves a store.
func served(t *testing.T, s *store.Store) string {
	t.Helper()
	srv := httptest.NewServer(web.New(s, rules.Default(), slog.New(slog.DiscardHandler), web.Access{}))
	t.Cleanup(srv.Close)
	return srv.URL
}

// byTheBook has a store's plans take nothing from the log: their figures are the book's.
func byTheBook(t *testing.T, s *store.Store) {
	t.Helper()
	if err := s.ChangeLogSettings(context.Background(), func(l *store.LogSettings) { l.Off = true }); err != nil {
		t.Fatal(err)
	}
}

// tab is one browser tab; steps that fail end the test.
type tab struct {
	t    *testing.T
	ctx  context.Context
	base string
	mu   sync.Mutex
	bad  []string // console errors and exceptions
	// asked are the dialogs that came up; each was accepted.
	asked []string
	// expect lists parts of console messages that the test provokes.
	expect []string
}

// chromium is the one browser of this package, started when it is first asked for.
var chromium = sync.OnceValues(func() (context.Context, error) { return launch(nil) })

// launch starts a browser with a folder of its own in memory or among the temporary files.
func launch(more []chromedp.ExecAllocatorOption) (context.Context, error) {
	dir, err := os.MkdirTemp("", "hollenbrowser")
	if err != nil {
		return nil, err
	}
	opts := append(append(chromedp.DefaultExecAllocatorOptions[:], more...), chromedp.DisableGPU,
		chromedp.Flag("disable-background-networking", true), chromedp.Flag("disable-component-update", true),
		chromedp.UserDataDir(dir))
	if os.Geteuid() == 0 {
		opts = append(opts, chromedp.NoSandbox)
	}
	if shell, err := exec.LookPath("chromium-headless-shell"); err == nil { // no windows: half the processor
		opts = append(opts, chromedp.ExecPath(shell))
	}
	ctx, stop := chromedp.NewExecAllocator(context.Background(), opts...)
	ctx, cancel := chromedp.NewContext(ctx)
	ending.Lock()
	defer ending.Unlock()
	atTheEnd = append(atTheEnd, func() { cancel(); stop(); os.RemoveAll(dir) })
	return ctx, chromedp.Do(ctx)
}

// browser returns a profile of its own in the browser all tests share: nothing kept by one test is seen by another.
// With options more it is a browser of its own.
func browser(t *testing.T, more ...chromedp.ExecAllocatorOption) context.Context {
	t.Helper()
	shared, err := chromium()
	if len(more) > 0 {
		shared, err = launch(more)
	}
	if err != nil {
		t.Fatal(err)
	}
	ctx, cancel := chromedp.NewContext(shared, chromedp.WithNewBrowserContext())
	t.Cleanup(cancel)
	if err := chromedp.Do(ctx); err != nil {
		t.Fatal(err)
	}
	return ctx
}

// open opens a tab of that size, its stations whole. Whatever it writes to the console as an error fails the
// test.
func open(t *testing.T, br context.Context, base string, width, height int64) *tab {
	t.Helper()
	ctx, cancel := chromedp.NewContext(br)
	most := 4 * time.Minute
	if os.Getenv("HOLLEN_BENCH") != "" {
		most = time.Hour
	}
	ctx, stop := context.WithTimeout(ctx, most)
	b := &tab{t: t, ctx: ctx, base: base}
	if err := chromedp.Do(ctx, chromedp.EmulateViewport(width, height)); err != nil {
		t.Fatal(err)
	}
	b.leaves(ctx)
	b.keepsTime()
	b.cookie("layers", "formula.room.knead.rest.roll.cut.dry.cook")
	messages := chromedp.Console(ctx)
	go func() {
		for m, err := range messages {
			if err != nil {
				return
			}
			if m.Type == chromedp.ConsoleError || m.IsException() || m.Type == chromedp.ConsoleWarning {
				b.mu.Lock()
				b.bad = append(b.bad, m.String())
				b.mu.Unlock()
			}
		}
	}()
	t.Cleanup(func() {
		b.mu.Lock()
		defer b.mu.Unlock()
		for _, m := range b.bad {
			known := strings.Contains(m, "'beforeunload'") // nothing was typed: it is not asked
			for _, e := range b.expect {
				known = known || strings.Contains(m, e)
			}
			if !known {
				t.Errorf("console: %s", m)
			}
		}
		stop()
		cancel()
	})
	return b
}

func (b *tab) do(steps ...chromedp.Action[chromedp.Void]) {
	b.t.Helper()
	if err := chromedp.Do(b.ctx, steps...); err != nil {
		b.t.Fatal(err)
	}
}

// visit opens an address and waits until it is there: a page left while it was still loading
// may be heard of after it.
func (b *tab) visit(path string) {
	b.t.Helper()
	chromedp.Run(b.ctx, chromedp.Evaluate[bool]("window.left = true")) // not when it is just going
	b.do(chromedp.Navigate(b.base + path))
	b.until("the page "+path, "!window.left && document.readyState === 'complete'")
}

// click presses what is there; what is drawn anew between being found and pressed is looked for again, as an eye would.
func (b *tab) click(sel string) {
	b.t.Helper()
	for try := 0; ; try++ {
		err := chromedp.Do(b.ctx, chromedp.WaitVisible(sel), chromedp.Click(sel))
		if err == nil {
			return
		}
		if try == 3 || !strings.Contains(err.Error(), "Could not find node") {
			b.t.Fatal(err)
		}
	}
}

// mouse presses, moves or lets go the left button.
func (b *tab) mouse(kind input.DispatchMouseEventType, x, y float64) {
	b.t.Helper()
	b.do(func(ctx context.Context, tg *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, tg, input.DispatchMouseEvent, input.DispatchMouseEventParams{Type: kind, X: x, Y: y,
			Button:  input.MouseButtonLeft,
			Buttons: 1, ClickCount: 1})
		return chromedp.Void{}, err
	})
}

// leaves lets a page go that asks whether to leave it.
func (b *tab) leaves(ctx context.Context) {
	opening := chromedp.Events(ctx, cdppage.JavascriptDialogOpening)
	go func() {
		for e, err := range opening {
			if err != nil {
				return
			}
			b.mu.Lock()
			b.asked = append(b.asked, string(e.Type))
			b.mu.Unlock()
			go chromedp.Do(ctx, chromedp.Func(func(ctx context.Context, tg *chromedp.Target) error {
				_, err := cdp.Call(ctx, tg, cdppage.HandleJavaScriptDialog, cdppage.HandleJavaScriptDialogParams{
					Accept: true})
				return err
			}))
		}
	}()
}

// keepsTime has pages go by the clock the server goes by, where the tests run at another date than today's.
func (b *tab) keepsTime() {
	b.t.Helper()
	if off := time.Until(storetest.Now()).Milliseconds(); os.Getenv(clock.At) != "" {
		b.before(fmt.Sprintf(`{ const Real = Date; Date = class extends Real {
			constructor(...at) { at.length ? super(...at) : super(Real.now() + %[1]d); } static now() { return Real.now() + %[1]d; } }; }`, off))
	}
}

// cookie has the browser keep a cookie of the application; "" forgets it.
func (b *tab) cookie(name, value string) {
	b.t.Helper()
	b.do(func(ctx context.Context, tg *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, tg, network.SetCookie, network.SetCookieParams{Name: name, Value: value, URL: b.base})
		return chromedp.Void{}, err
	})
}

// scripts says whether the pages of the tab run scripts.
func (b *tab) scripts(on bool) {
	b.t.Helper()
	b.do(func(ctx context.Context, tg *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, tg, emulation.SetScriptExecutionDisabled, emulation.SetScriptExecutionDisabledParams{
			Value: !on})
		return chromedp.Void{}, err
	})
}

// plainly has the stations show their first layer, as to somebody who has never opened another.
func (b *tab) plainly() { b.cookie("layers", "") }

// before runs a script in every page before its own.
func (b *tab) before(script string) {
	b.t.Helper()
	b.do(func(ctx context.Context, tg *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, tg, cdppage.AddScriptToEvaluateOnNewDocument,
			cdppage.AddScriptToEvaluateOnNewDocumentParams{Source: script})
		return chromedp.Void{}, err
	})
}

// media has the page see a feature of its medium, as a dark room or forced colours; nothing moves on the way there.
func (b *tab) media(feature, value string) {
	b.t.Helper()
	b.do(func(ctx context.Context, tg *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, tg, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{
			Features: []*emulation.MediaFeature{{Name: feature, Value: value},
				{Name: "prefers-reduced-motion", Value: "reduce"}}})
		return chromedp.Void{}, err
	})
}

// speaks has the browser ask for pages in a language.
func (b *tab) speaks(lang string) {
	b.t.Helper()
	b.do(func(ctx context.Context, tg *chromedp.Target) (chromedp.Void, error) {
		_, err := cdp.Call(ctx, tg, emulation.SetUserAgentOverride, emulation.SetUserAgentOverrideParams{
			UserAgent: "a browser", AcceptLanguage: lang})
		return chromedp.Void{}, err
	})
}

// text returns what an element says.
func (b *tab) text(sel string) string {
	b.t.Helper()
	return eval[string](b, fmt.Sprintf("document.querySelector(%q)?.textContent.trim() ?? 'no such element'", sel))
}

// enter replaces what stands in a field, as typing would.
func (b *tab) enter(sel, typed string) {
	b.t.Helper()
	b.do(chromedp.WaitVisible(sel))
	eval[bool](b, fmt.Sprintf("(() => { const f = document.querySelector(%q); f.focus(); f.select(); return true })()",
		sel))
	if typed == "" {
		b.do(chromedp.KeyEvent("\b"))
		return
	}
	b.do(chromedp.KeyEvent(typed))
}

// until waits for a JavaScript condition, and asks less often the longer it takes: asking takes what the page needs.
func (b *tab) until(what, condition string) {
	b.t.Helper()
	deadline := time.Now().Add(45 * time.Second)
	for pause := 10 * time.Millisecond; time.Now().Before(deadline); pause = min(pause*3/2, 60*time.Millisecond) {
		ok, err := chromedp.Run(b.ctx, chromedp.Evaluate[bool]("!!("+condition+")"))
		if err == nil && ok {
			return
		}
		time.Sleep(pause)
	}
	b.t.Fatalf("waited for %s; the page says: %.400s", what, eval[string](b, "document.body.innerText"))
}

func eval[T any](b *tab, js string) T {
	b.t.Helper()
	v, err := chromedp.Run(b.ctx, chromedp.Evaluate[T](js, chromedp.EvalAwaitPromise))
	if err != nil {
		b.t.Fatalf("%s: %v", js, err)
	}
	return v
}

// batch is the address of a batch of the demo.
func batch(name string) string { return fmt.Sprintf("/batches/%d", demo.Number(name)) }

// made is the number of the first batch made in a test.
func made() uint64 { return uint64(len(demo.Batches()) + 1) }
