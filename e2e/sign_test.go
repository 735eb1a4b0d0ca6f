package e2e

import (
	"context"
	"fmt"
	"log/slog"
	"net/http/httptest"
	"testing"

	"hollen/internal/account"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
	"hollen/internal/web"
)

const otters = "three otters and a gull"

// signIn signs a tab in, wherever it was going.
func (b *tab) signIn(name string) {
	b.t.Helper()
	b.enter("#s-name", name)
	b.enter("#s-secret", otters)
	b.click(".sign-form .btn-go")
}

// The first account is made at the address that is printed, and makes the others. A session that ends in the middle of
// typing, of saving or at
// the bench loses nothing; a locked tablet opens by its PIN; who only looks is offered nothing else.
func TestAccounts(t *testing.T) {
	t.Parallel()
	ctx := context.Background()
	st, _ := demotest.Store(t, demo.Day)
	byTheBook(t, st)
	srv := httptest.NewServer(web.New(st, rules.Default(), slog.New(slog.DiscardHandler), web.Access{SignIn: true}))
	t.Cleanup(srv.Close)
	token, err := st.Invite(ctx)
	if err != nil {
		t.Fatal(err)
	}

	keeper := open(t, browser(t), srv.URL, wide, high)
	keeper.expect = []string{"422"}
	keeper.visit("/")
	keeper.until("the page that asks who one is", "location.pathname === '/sign-in'")
	keeper.visit("/first/" + token)
	keeper.enter("#a-name", "Linde")
	keeper.enter("#a-password", "short")
	keeper.enter("#a-again", "short")
	keeper.click(".sign-form .btn-go")
	keeper.until("what is wrong, by its field",
		"document.querySelector('#e-password')?.textContent.includes('12 letters') && "+
			"document.querySelector('#a-name').value === 'Linde'")
	keeper.enter("#a-password", otters)
	keeper.enter("#a-again", otters)
	keeper.click(".sign-form .btn-go")
	keeper.until("the accounts", "location.pathname === '/accounts' && document.body.textContent.includes('Linde "+
		"(you)')")
	for _, x := range []struct {
		name string
		role account.Role
	}{{"Osk", account.Makes}, {"Fenna", account.Looks}} {
		keeper.enter("#a-name", x.name)
		keeper.pick("#a-role", string(x.role))
		keeper.enter("#a-password", otters)
		keeper.click("button[name=do][value=add]")
		keeper.until(x.name, fmt.Sprintf("[...document.querySelectorAll('main th')].some((th) => "+
			"th.textContent.startsWith('%s'))", x.name))
	}

	osk, err := st.AccountNamed(ctx, "Osk")
	if err != nil {
		t.Fatal(err)
	}
	out := func() {
		if err := st.EndSessions(ctx, osk.ID); err != nil {
			t.Fatal(err)
		}
	}
	br := browser(t)
	b, beside := open(t, br, srv.URL, tabletW, tabletH), open(t, br, srv.URL, tabletW, tabletH)
	b.expect, beside.expect = []string{"401", "HTTP Authentication"}, []string{"401"}
	b.visit(batch(demo.Saturday) + "?at=room")
	b.signIn("Osk")
	b.until("the batch it was going to", "location.pathname === '"+batch(
		demo.Saturday)+"' && document.querySelector('.nav-top .who')?.textContent === 'Osk'")
	// While it is typed.
	out()
	b.enter("#f-room-rh", "61")
	b.until("word that it is signed out", "document.querySelector('#state [data-is=signed-out]') && "+
		"document.querySelector('#state a')")
	beside.visit("/sign-in")
	beside.signIn("Osk")
	beside.until("being in", "location.pathname === '/'")
	b.until("the figures, by themselves", "document.querySelector('#state [data-is]')?.dataset.is !== 'signed-out' "+
		"&& document.querySelector('#f-room-rh').value === '61'")
	// While it is saved.
	out()
	b.click("#save")
	b.until("the form that waits", "document.querySelector('.sign-form textarea[name=\"typed.room.rh\"]')")
	b.signIn("Osk")
	b.until("the key to send it", "document.title.startsWith('Go on') && document.readyState === 'complete' && "+
		"document.querySelector('.sign-form .btn-go')")
	b.click(".sign-form .btn-go")
	b.until("saved", settledState+" === 'saved' && document.querySelector('#f-room-rh').value === '61'")
	if got, err := st.Get(ctx, demo.Number(demo.Saturday)); err != nil || got.Request.Room.RH != .61 {
		t.Errorf("saved %v, %v", got.Request.Room.RH, err)
	}
	b.visit(batch(demo.Saturday) + "/versions")
	b.until("who saved it", "document.querySelector('main').textContent.includes('Osk')")
	// At the bench.
	b.toBench(demo.Saturday)
	b.on(1)
	out()
	b.on(1)
	b.until("word that it is signed out, the tap kept",
		"document.querySelector('#unsent').dataset.is === 'signed-out'")
	beside.visit("/sign-in")
	beside.signIn("Osk")
	beside.until("being in", "location.pathname === '/'")
	b.until("the tap told", "document.querySelector('#unsent').hidden || "+
		"!document.querySelector('#unsent').textContent")
	// Locked, and opened by the PIN.
	beside.visit("/account")
	beside.enter("#o-pin_now", otters)
	beside.enter("#o-pin", "7294")
	beside.click("button[name=do][value=pin]")
	beside.until("the PIN kept", "location.search.includes('done=pin')")
	beside.button("header", "Lock this tablet")
	beside.until("locked", "document.querySelector('#s-secret') && !document.querySelector('#s-name')")
	beside.visit(batch(demo.Saturday))
	beside.enter("#s-secret", "0000")
	beside.click(".sign-form .btn-go")
	beside.until("another PIN", "document.querySelector('#s-err')?.textContent.trim()")
	beside.enter("#s-secret", "7294")
	beside.click(".sign-form .btn-go")
	beside.until("the batch", "location.pathname === '"+batch(demo.Saturday)+"'")

	looks := open(t, browser(t), srv.URL, wide, high)
	looks.expect = []string{"401", "403"}
	looks.visit(batch(demo.Saturday))
	looks.signIn("Fenna")
	looks.until("the batch", "document.querySelector('#save')")
	if eval[bool](looks, "document.querySelector('#save').checkVisibility()") {
		t.Error("who only looks is offered to save")
	}
	looks.enter("#f-amount-flour_g", "1100")
	looks.until("the figures", "document.querySelector('.facts')?.textContent.trim()")
	if status := eval[int](looks, "fetch(location.pathname + '/delete', { method: 'POST', body: new "+
		"URLSearchParams({}) }).then((r) => r.status)"); status != 403 {
		t.Errorf("who only looks may delete: %d", status)
	}
	if _, err := st.Get(ctx, demo.Number(demo.Saturday)); err != nil {
		t.Error(err)
	}
	var trail []store.Audit
	if trail, err = st.Audits(ctx, 0, 100); err != nil || len(trail) < 9 {
		t.Errorf("%d lines of the trail, %v", len(trail), err)
	}
}
