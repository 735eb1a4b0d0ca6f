package web

import (
	"fmt"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"net/url"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"hollen/internal/account"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// try signs in as somebody with a wrong password.
func (b tablet) try(name string, change ...func(*http.Request)) int {
	return b.ask("POST", "/sign-in", url.Values{"sign.name": {name}, "sign.secret": {"guess"}}, change...).Code
}

// However a name is spelt that the database takes for an account’s, its tries are the account’s; those of a name nobody
// has are counted alike.
func TestSpellingsCountAsOne(t *testing.T) {
	_, browser := signedSite(t)
	for _, of := range []string{"Fenna", "Nobody"} {
		b := browser()
		spellings := []string{
			of,
			strings.ToUpper(of),
			of + "\u200b",
			"\u202e" + of,
			of + "\x00",
			strings.ReplaceAll(of, "n", "ñ"),
			of + "\u200b ",
			"\u2060" + of + "\u200d\u200d",
			"  " + of,
			strings.ReplaceAll(of, "e", "é"),
		}
		if of == "Fenna" { // full width
			spellings = append(spellings, "Ｆｅｎｎａ")
		}
		verified := 0
		for i := range 3 * store.FromOnePlace.Most {
			switch code := b.try(spellings[i%len(spellings)] + strings.Repeat("\u200b", i)); code {
			case 401:
				verified++
			case 429:
			default:
				t.Errorf("%s, try %d: %d", of, i, code)
			}
		}
		if verified != store.FromOnePlace.Most {
			t.Errorf("%s: %d tries were looked at, %d are allowed", of, verified, store.FromOnePlace.Most)
		}
	}
	browser().in("Linde")
}

// Tries made at the same time count each.
func TestTriesAtOnce(t *testing.T) {
	_, browser := signedSite(t)
	b := browser()
	b.cookie = nil
	counted := func(ask func() int) map[int]int {
		var mu sync.Mutex
		var wg sync.WaitGroup
		out := map[int]int{}
		for range 45 {
			wg.Go(func() {
				code := ask()
				mu.Lock()
				out[code]++
				mu.Unlock()
			})
		}
		wg.Wait()
		return out
	}
	fresh := func() tablet { x := b; x.cookie = new(string); return x }
	if got := counted(func() int { return fresh().try("Osk") }); got[401] > store.FromOnePlace.Most ||
		got[401]+got[429] != 45 {
		t.Errorf("passwords: %v", got)
	}
	// The PIN of a locked tablet: five are looked at, then it is signed out.
	locked := browser().in("Linde")
	locked.wants(
		locked.ask("POST", "/account", url.Values{"do": {"pin"}, "now": {heron + " Linde"}, "pin": {"7294"}}),
		303,
	)
	locked.wants(locked.ask("POST", "/lock", url.Values{}), 303)
	held := *locked.cookie
	var another atomic.Int32
	counted(func() int {
		x := locked
		cookie := held
		x.cookie = &cookie
		w := x.ask("POST", "/unlock", url.Values{"sign.secret": {"9999"}})
		if strings.Contains(w.Body.String(), "Another PIN.") {
			another.Add(1)
		}
		return w.Code
	})
	if n := int(another.Load()); n >= store.PINTries.Most {
		t.Errorf("%d wrong PINs went on", n)
	}
	*locked.cookie = held
	if w := locked.ask("POST", "/unlock", url.Values{"sign.secret": {"7294"}}); w.Code == 303 {
		t.Error("after more than five wrong PINs the right one opens it")
	}
}

// Guessing from many addresses is counted for the account, and shuts nobody out of a tablet that has signed in before.
func TestGuessedFromAnywhere(t *testing.T) {
	st, browser := signedSite(t)
	own := browser()
	w := own.ask("POST", "/sign-in", url.Values{"sign.name": {"Linde"}, "sign.secret": {heron + " Linde"}})
	device := ""
	for _, k := range w.Result().Cookies() {
		if k.Name == "device" && k.HttpOnly {
			device = k.Value
		}
	}
	if device == "" {
		t.Fatal("a browser that signs in is not known afterwards")
	}
	b, verified := browser(), 0
	for i := range 70 {
		b.from = fmt.Sprintf("198.51.100.%d:1", i)
		if code := b.try("linde"); code == 401 {
			verified++
		} else if code != 429 {
			t.Errorf("try %d: %d", i, code)
		}
	}
	if verified != store.FromAnywhere.Most {
		t.Errorf("%d tries were looked at, %d are allowed", verified, store.FromAnywhere.Most)
	}
	showing := func(token string) func(*http.Request) {
		return func(r *http.Request) { r.Header.Set("Cookie", "device="+token) }
	}
	right := url.Values{"sign.name": {"Linde"}, "sign.secret": {heron + " Linde"}}
	b.wants(b.ask("POST", "/sign-in", right), 429)
	b.wants(b.ask("POST", "/sign-in", right, showing(strings.Repeat("A", len(device)))), 429)
	b.wants(b.ask("POST", "/sign-in", right, showing(device)), 303)
	// Known for this account alone, and held by its own ten.
	if known, err := st.KnownDevice(t.Context(), 2, device); known || err != nil {
		t.Errorf("known for another: %v %v", known, err)
	}
	verified = 0
	for range 2 * store.FromOnePlace.Most {
		if b.try("Linde", showing(device)) == 401 {
			verified++
		}
	}
	if verified != store.FromOnePlace.Most {
		t.Errorf("on a known device %d tries were looked at", verified)
	}
}

// Guessing one password at many names from one address is counted for the address; a device that has signed in there
// goes on.
func TestManyNamesFromOneAddress(t *testing.T) {
	_, browser := signedSite(t)
	own := browser().in("Linde")
	b, verified := browser(), 0
	for i := range store.FromAddress.Most + 20 {
		if b.try(fmt.Sprint("somebody ", i)) == 401 {
			verified++
		}
	}
	if verified > store.FromAddress.Most ||
		verified < store.FromAddress.Most-5 { // those who signed in there have tried, too
		t.Errorf("%d names were looked at, %d are allowed", verified, store.FromAddress.Most)
	}
	right := url.Values{"sign.name": {"Osk"}, "sign.secret": {heron + " Osk"}}
	b.wants(b.ask("POST", "/sign-in", right), 429)
	own.wants(own.ask("GET", "/", nil), 200)
	elsewhere := browser()
	elsewhere.from = "198.51.100.7:1"
	elsewhere.wants(elsewhere.ask("POST", "/sign-in", right), 303)
}

// An address nobody was given is no work; who asks is the last hop the proxy wrote, on however many lines.
func TestNobodyHoldsUpSignIn(t *testing.T) {
	_, browser := signedSite(t)
	b := browser()
	form := url.Values{
		"name":     {"Mallow"},
		"password": {"three otters and a gull"},
		"again":    {"three otters and a gull"},
	}
	var wg sync.WaitGroup
	for range 2 * (account.MostWaiting + account.AtOnce) { // more than could wait for their hash
		wg.Go(func() {
			if w := b.ask("POST", "/first/AAAA", form); w.Code != 404 {
				t.Errorf("%d, not 404: it is worked on before its address is looked at", w.Code)
			}
		})
	}
	wg.Wait()
	a := Access{Proxies: []netip.Prefix{netip.MustParsePrefix("127.0.0.1/32")}}
	for want, lines := range map[string][]string{"192.0.2.7": {"192.0.2.7"}, "192.0.2.8": {"203.0.113.1", "192.0.2.8"},
		"192.0.2.9": {"203.0.113.1, 203.0.113.2", "203.0.113.3, 192.0.2.9"}} {
		r := httptest.NewRequest("GET", "/", nil)
		r.RemoteAddr = "127.0.0.1:5"
		for _, l := range lines {
			r.Header.Add("X-Forwarded-For", l)
		}
		if why := a.through(r); why != "" || page.Addressed(r) != want {
			t.Errorf("%v: %q %s", lines, why, page.Addressed(r))
		}
	}
	r := httptest.NewRequest("GET", "/", nil)
	r.Header["X-Forwarded-For"] = []string{"", "192.0.2.1"}
	if (Access{}).through(r) == "" {
		t.Error("a proxy nobody was told of passes")
	}
}
