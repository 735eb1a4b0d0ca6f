package e2e

import (
	"context"
	"fmt"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"sync/atomic"
	"testing"

	"github.com/chromedp/chromedp"

	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/web"
)

// Leaving with something that is not saved asks, and the changes can be discarded; what is said of a change is a line.
func TestLeavingAndDiscarding(t *testing.T) {
	t.Parallel()
	base, s := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit(batch(demo.Saturday))
	b.click("#c-f-amount-flour_g [data-step='1']")
	b.until("said in a line", "!document.querySelector('#said').hidden && "+
		"document.querySelector('#said').textContent.startsWith('Now: ') && "+
		"document.querySelector('#said').textContent.includes('Room ')")
	b.until("not saved", settledState+" === '"+notSaved+"'")
	b.visit("/rooms")
	b.mu.Lock()
	asked := len(b.asked)
	b.mu.Unlock()
	if asked != 1 {
		t.Errorf("%d questions on leaving", asked)
	}
	b.visit(batch(demo.Saturday))
	b.until("the draft", settledState+" === '"+notSaved+"'")
	b.click(".head .menu summary")
	b.click("#discard")
	b.until("as it was", "document.readyState === 'complete' && document.querySelector('#f-amount-flour_g')?.value "+
		"=== '1000' && "+settledState+" === ''")
	if x := saved(t, s, demo.Number(demo.Saturday)); x.Version != 1 {
		t.Errorf("version %d", x.Version)
	}
}

// What is typed for a new batch or a thing of the cabinet outlives a reload and another page, until it is taken.
func TestFormsKeepWhatIsTyped(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit("/batches/new")
	b.enter("#f-name", "Harvest supper")
	b.enter("#f-much", "17")
	b.do(chromedp.Reload())
	b.until("still there", "document.readyState === 'complete' && document.querySelector('#f-name').value === "+
		"'Harvest supper' && "+
		"document.querySelector('#f-much').value === '17'")
	b.visit("/rooms")
	b.visit("/batches/new")
	b.until("there again", "document.querySelector('#f-name').value === 'Harvest supper'")
	b.click(".asks-go .btn-go")
	b.until("the batch", "document.querySelector('#spine')")
	b.visit("/batches/new")
	b.until("a new one", "document.querySelector('#f-name').value === ''")
	b.visit("/cabinet/flours/new")
	b.enter("#w-name", "Quay mill")
	b.do(chromedp.Reload())
	b.until("kept, too",
		"document.readyState === 'complete' && document.querySelector('#w-name').value === 'Quay mill'")
}

// What was typed into the house or a room is still there when the database did not take it and one goes back, as the
// page says; taken, it does not
// come up again.
func TestGoBackToWhatWasTyped(t *testing.T) {
	t.Parallel()
	st, _ := demotest.Store(t, demo.Day)
	var away atomic.Bool
	h := web.New(st, rules.Default(), slog.New(slog.DiscardHandler), web.Access{})
	srv := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if away.Load() && r.Method == http.MethodPost {
			ctx, cancel := context.WithCancel(r.Context())
			cancel()
			r = r.WithContext(ctx)
		}
		h.ServeHTTP(w, r)
	}))
	t.Cleanup(srv.Close)
	b := open(t, browser(t), srv.URL, wide, high)
	b.expect = []string{"503"}
	for _, x := range []struct{ path, field, typed, key string }{
		{"/cabinet/house", "input[name='prices.wage_per_hour']", "27", ".asks .btn-go"},
		{"/rooms", ".new-room input[name=name]", "Cellar in May", ".new-room .btn"},
		{"/rooms", ".rooms li:first-child input[name=name]", "January, two stoves",
			".rooms li:first-child .room-form .btn"},
	} {
		b.visit(x.path)
		b.enter(x.field, x.typed)
		away.Store(true)
		b.click(x.key)
		b.until("word that it is not kept", "document.querySelector('h1').textContent.includes('does not answer')")
		away.Store(false)
		eval[bool](b, "(setTimeout(() => history.back()), true)")
		b.until("what was typed", fmt.Sprintf("document.querySelector(%q)?.value === %q", x.field, x.typed))
	}
	b.enter(".new-room input[name=temp]", "14")
	b.enter(".new-room input[name=rh]", "71")
	b.enter(".new-room input[name=name]", "Cellar in May")
	b.click(".new-room .btn")
	b.until("the room, and an empty line for the next",
		"[...document.querySelectorAll('.room-form input[name=name]')].some((f) => f.value === 'Cellar in May') &&"+
			" document.querySelector('.new-room input[name=name]').value === ''")
}
