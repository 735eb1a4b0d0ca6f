package web

import (
	"bytes"
	"context"
	"encoding/base64"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/request"
	"hollen/internal/store/storetest"
	"hollen/internal/web/page"

	"github.com/gin-gonic/gin"

	"hollen/internal/account"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
)

const heron = "a heron on the quay wall"

// tablet is a browser that keeps its cookie, at a site where accounts are asked for.
type tablet struct {
	site
	from   string // its address
	cookie *string
}

// signedSite is a site with accounts: Linde keeps it, Osk makes, Fenna looks.
func signedSite(t *testing.T, change ...func(*Access)) (*store.Store, func() tablet) {
	s := newSite(t)
	for i, name := range []string{"Linde", "Osk", "Fenna"} {
		hash, err := account.Hash(t.Context(), heron+" "+name)
		if err == nil {
			_, err = s.store.AddAccount(t.Context(), name, string([]account.Role{account.Keeps, account.Makes,
				account.Looks}[i]), hash)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	a := Access{SignIn: true, Hosts: []string{"hollen.example"}}
	for _, f := range change {
		f(&a)
	}
	h := New(s.store, rules.Default(), slog.New(slog.DiscardHandler), a)
	return s.store, func() tablet { return tablet{site{t, h, s.store, s.log}, "192.0.2.7:4000", new(string)} }
}

func (b tablet) ask(method, path string, form url.Values, change ...func(*http.Request)) *httptest.ResponseRecorder {
	w := b.site.ask(method, path, form, append([]func(*http.Request){func(r *http.Request) {
		r.Host, r.RemoteAddr = "hollen.example", b.from
		if *b.cookie != "" {
			r.Header.Set("Cookie", "session="+*b.cookie)
		}
	}}, change...)...)
	for _, k := range w.Result().Cookies() {
		if k.Name == "session" {
			*b.cookie = k.Value
		}
	}
	return w
}

func (b tablet) in(name string) tablet {
	b.Helper()
	b.wants(b.ask("POST", "/sign-in", url.Values{"sign.name": {name}, "sign.secret": {heron + " " + name},
		"sign.known": {"yes"}}), 303)
	return b
}

// Nothing is shown to who has not signed in, and what was on the way goes on afterwards; a form that was sent waits.
func TestSignIn(t *testing.T) {
	st, browser := signedSite(t)
	b := browser()
	w := b.ask("GET", batchAt(demo.Saturday)+"?at=room", nil)
	if b.wants(w, 303); w.Header().Get("Location") != "/sign-in?then=%2Fbatches%2F7%3Fat%3Droom" {
		t.Errorf("it leads to %s", w.Header().Get("Location"))
	}
	for _, path := range []string{"/", "/log.json", "/cabinet/export.json", "/bench/1/made.json",
		"/batches/7/plan.json", "/accounts"} {
		if w := b.ask("GET", path, nil); w.Code != 303 || strings.Contains(w.Body.String(), "Saturday") {
			t.Errorf("%s: %d", path, w.Code)
		}
	}
	b.wants(b.ask("GET", "/healthz", nil), 200)
	asked := b.ask("GET", "/sign-in?then=/batches/7", nil)
	if b.wants(asked, 200, "Sign in"); strings.Contains(asked.Body.String(), "Bottega Marram") ||
		strings.Contains(asked.Body.String(), `href="/cabinet"`) {
		t.Error("the page that asks who one is shows the workshop")
	}
	one := b.ask("POST", "/sign-in", url.Values{"sign.name": {"Linde"}, "sign.secret": {"wrong"}})
	two := b.ask("POST", "/sign-in", url.Values{"sign.name": {"Nobody"}, "sign.secret": {"wrong"}})
	if a, c := one.Body.String(), strings.Replace(two.Body.String(), "Nobody", "Linde", 1); one.Code != 401 ||
		two.Code != 401 || a != c {
		t.Error("the answer tells names that are known from others")
	}
	if w := b.ask("POST", "/sign-in", url.Values{"sign.name": {"linde"}, "sign.secret": {heron + " Linde"},
		"sign.then": {"//elsewhere.example/"}}); w.Header().Get("Location") != "/" {
		t.Errorf("it leads away: %s", w.Header().Get("Location"))
	}
	k := b.ask("POST", "/sign-in", url.Values{"sign.name": {"Linde"}, "sign.secret": {heron + " Linde"},
		"sign.known": {"yes"}, "sign.then": {"/batches/7"}})
	cookie := k.Result().Cookies()[0]
	if k.Header().Get("Location") != "/batches/7" || !cookie.HttpOnly || cookie.SameSite != http.SameSiteLaxMode ||
		cookie.MaxAge < 29*24*3600 {
		t.Errorf("%s, %+v", k.Header().Get("Location"), cookie)
	}
	b.wants(b.ask("GET", "/batches/7", nil), 200, demo.Saturday, `href="/account"`)
	// Saved by Linde; a form sent after the session has ended waits for its sender.
	form := b.typed(demo.Number(demo.Saturday))
	form.Set("name", "Tagliatelle, two <trays>\nand a line")
	form.Set("name", "Tagliatelle for two trays")
	form.Set("keep.note", "\nfirst line empty")
	b.wants(b.ask("POST", "/sign-out", url.Values{}), 303)
	b.wants(b.ask("GET", "/batches/7", nil), 303)
	w = b.ask("POST", "/batches/7/save", form)
	b.wants(w, 401, "what you sent is kept here")
	waits := formOf(t, w.Body.String())
	waits.Set("sign.name", "Linde")
	waits.Set("sign.secret", heron+" Linde")
	w = b.ask("POST", "/sign-in", waits)
	b.wants(w, 200, "Send it now", `action="/batches/7/save"`)
	b.wants(b.ask("POST", "/batches/7/save", formOf(t, w.Body.String())), 303)
	b.wants(b.ask("GET", "/batches/7/versions", nil), 200, "Linde")
	if got, err := st.Get(context.Background(), 7); err != nil || got.Request.Name != "Tagliatelle for two trays" {
		t.Errorf("%q, %v", got.Request.Name, err)
	}
	big := browser().ask("POST", "/import", url.Values{"text": {strings.Repeat("x", page.MaxBody)}})
	b.wants(big, 401, "has to be sent again")
	if big.Body.Len() > page.MaxBody/2 {
		t.Error("a document is carried all the same")
	}
	for _, kind := range []string{"application/json", "image/jpeg"} {
		out := browser()
		w := out.ask("POST", "/bench/1/events", url.Values{}, func(r *http.Request) {
			r.Header.Set("Content-Type",
				kind)
		})
		if w.Code != 401 || w.Header().Get("X-Hollen-Sign-In") == "" {
			t.Errorf("%s: %d", kind, w.Code)
		}
	}
}

// Ten wrong tries in a quarter of an hour are enough, for that name from that address; others go on.
func TestTooManyTries(t *testing.T) {
	_, browser := signedSite(t)
	b := browser()
	for range store.FromOnePlace.Most {
		b.wants(b.ask("POST", "/sign-in", url.Values{"sign.name": {"Osk"}, "sign.secret": {"guess"}}), 401)
	}
	b.wants(b.ask("POST", "/sign-in", url.Values{"sign.name": {"OSK"}, "sign.secret": {heron + " Osk"}}), 429,
		"wait a quarter of an hour")
	other := browser()
	other.from = "192.0.2.8:1"
	other.in("Osk")
	browser().in("Linde")
}

// A tablet that is locked opens by its PIN; five wrong ones, and one has to sign in. What was sent meanwhile waits.
func TestPIN(t *testing.T) {
	_, browser := signedSite(t)
	b := browser().in("Osk")
	b.wants(b.ask("POST", "/account", url.Values{"do": {"pin"}, "now": {"wrong"}, "pin": {"7294"}}), 422,
		"not the password")
	b.wants(b.ask("POST", "/account", url.Values{"do": {"pin"}, "now": {heron + " Osk"}, "pin": {"1234"}}), 422,
		"not all alike and not in a row")
	b.wants(b.ask("POST", "/account", url.Values{"do": {"pin"}, "now": {heron + " Osk"}, "pin": {"7294"}}), 303)
	b.wants(b.ask("POST", "/lock", url.Values{}), 303)
	if w := b.ask("GET", "/batches/7", nil); w.Header().Get("Location") != "/unlock?then=%2Fbatches%2F7" {
		t.Errorf("locked, it shows %d, %s", w.Code, w.Header().Get("Location"))
	}
	b.wants(b.ask("POST", "/bench/1/tap", url.Values{"x": {"y"}}), 401, "PIN of Osk", `name="typed.x"`)
	b.wants(b.ask("POST", "/unlock", url.Values{"sign.secret": {"0000"}, "sign.then": {"/log"}}), 401, "Another PIN.")
	if w := b.ask("POST", "/unlock", url.Values{"sign.secret": {"7294"}, "sign.then": {"/log"}}); w.Header().Get(
		"Location") != "/log" {
		t.Errorf("unlocked, it leads to %s", w.Header().Get("Location"))
	}
	b.wants(b.ask("GET", "/batches/7", nil), 200)
	b.wants(b.ask("POST", "/lock", url.Values{}), 303)
	for range store.PINTries.Most - 1 {
		b.wants(b.ask("POST", "/unlock", url.Values{"sign.secret": {"9999"}}), 401, "Another PIN.")
	}
	b.wants(b.ask("POST", "/unlock", url.Values{"sign.secret": {"9999"}}), 401, "sign in with your password")
	b.wants(b.ask("GET", "/batches/7", nil), 303)
	b.wants(b.ask("POST", "/unlock", url.Values{"sign.secret": {"7294"}}), 401, "You were signed out")
}

// Each role goes as far as it goes: who looks changes nothing, who makes not the workshop. Every address a form is sent
// to says whom it is for.
func TestRoles(t *testing.T) {
	st, browser := signedSite(t)
	looks, makes, keeps := browser().in("Fenna"), browser().in("Osk"), browser().in("Linde")
	before := keeps.kept()
	e := gin.New()
	(&Server{Site: &page.Site{}}).routes(e)
	for _, r := range e.Routes() {
		if r.Method != http.MethodPost {
			continue
		}
		role, known := postNeeds[r.Path]
		if !known {
			t.Errorf("%s does not say whom it is for", r.Path)
		}
		path := strings.NewReplacer(":id", "1", ":version", "1", ":shelf", "flours", ":of", "knead", ":what", "worked",
			":n", "1", ":name", "x", ":token",
			"x").Replace(r.Path)
		form := url.Values{"x": {"y"}}
		refused := func(b tablet) bool {
			return strings.Contains(b.ask("POST", path, form).Body.String(), "That is not for this account.")
		}
		if open(path) || slices.Contains([]string{"/sign-out", "/lock", "/unlock"}, path) {
			continue
		}
		if refused(looks) != (role != account.Looks) {
			t.Errorf("%s: who looks is refused: %v", path, !(role != account.Looks))
		}
		if role == account.Keeps && !refused(makes) {
			t.Errorf("%s: who makes is let in", path)
		}
	}
	doc := strings.Replace(keeps.ask("GET", "/cabinet/export.json", nil).Body.String(), `"protein_pct": 11.2`,
		`"protein_pct": 12.6`, 1)
	take := boxes(makes.ask("POST", "/import", url.Values{"text": {doc}}).Body.String())
	makes.wants(makes.ask("POST", "/import/take", url.Values{"text": {doc}, "take": take}), 403, "keeps the workshop")
	if now := keeps.kept(); now != before {
		t.Error("who may not changed something")
	}
	looks.wants(looks.ask("GET", "/accounts", nil), 403, "whoever keeps the workshop")
	looks.wants(looks.ask("GET", "/batches/7", nil), 200, `data-may="looks"`)
	// A role, a password and an account that is taken away count at once.
	osk, err := st.AccountNamed(context.Background(), "Osk")
	if err != nil {
		t.Fatal(err)
	}
	id := url.Values{"id": {itoa(osk.ID)}}
	change := func(k ...string) *httptest.ResponseRecorder {
		v := url.Values{"id": id["id"]}
		for i := 0; i < len(k); i += 2 {
			v.Set(k[i], k[i+1])
		}
		return keeps.ask("POST", "/accounts", v)
	}
	keeps.wants(change("do", "role", "role", "looks"), 303)
	makes.wants(makes.ask("POST", "/batches/7/duplicate", url.Values{"version": {"1"}}), 403)
	keeps.wants(change("do", "password", "password", "short"), 422, "12 letters at least")
	keeps.wants(change("do", "password", "password", "three otters and a gull"), 303)
	makes.wants(makes.ask("GET", "/batches/7", nil), 303)
	keeps.wants(change("do", "remove"), 303)
	makes.wants(makes.ask("POST", "/sign-in", url.Values{"sign.name": {"Osk"},
		"sign.secret": {"three otters and a gull"}}), 401)
	linde, _ := st.AccountNamed(context.Background(), "Linde")
	keeps.wants(keeps.ask("POST", "/accounts", url.Values{"id": {itoa(linde.ID)}, "do": {"remove"}}), 422,
		"Somebody has to keep the workshop")
	keeps.wants(keeps.ask("POST", "/accounts", url.Values{"do": {"add"}, "name": {"linde"}, "role": {"looks"},
		"password": {heron}}), 422,
		"There is an account of that name")
	keeps.wants(keeps.ask("GET", "/accounts", nil), 200, "another for Osk", "Osk now looks", "removed Osk", "192.0.2.7",
		"signed in")
	// Another password of one's own signs out elsewhere, not here.
	second := browser().in("Linde")
	keeps.wants(keeps.ask("POST", "/account", url.Values{"do": {"password"}, "now": {heron + " Linde"},
		"password": {"brine lantern otter"},
		"again":    {"brine lantern otter"}}), 303)
	keeps.wants(keeps.ask("GET", "/", nil), 200)
	second.wants(second.ask("GET", "/", nil), 303)
}

func itoa(n uint64) string { return strconv.FormatUint(n, 10) }

// The address that is printed makes the first account, once; with one there it is good for nothing.
func TestFirstAccount(t *testing.T) {
	s := newSite(t)
	h := New(s.store, rules.Default(), slog.New(slog.DiscardHandler), Access{SignIn: true,
		Hosts: []string{"hollen.example"}})
	b := tablet{site{t, h, s.store, s.log}, "192.0.2.7:4000", new(string)}
	token, err := s.store.Invite(context.Background())
	if err != nil {
		t.Fatal(err)
	}
	b.wants(b.ask("GET", "/first/elsewhere", nil), 404)
	b.wants(b.ask("GET", "/first/"+token, nil), 200, "The first account")
	b.wants(b.ask("POST", "/first/"+token, url.Values{"name": {"Linde"}, "password": {"password1234"}, "again": {"x"}}),
		422,
		"among the first that are tried", `value="Linde"`)
	b.wants(b.ask("POST", "/first/"+token, url.Values{"name": {"Linde"}, "password": {heron}, "again": {heron}}), 303)
	b.wants(b.ask("GET", "/accounts", nil), 200, "Linde (you)", "made the first one")
	b.wants(b.ask("GET", "/first/"+token, nil), 404)
	b.wants(b.ask("POST", "/first/"+token, url.Values{"name": {"Mallory"}, "password": {heron}, "again": {heron}}), 404)
	cab, err := s.store.Cabinet(context.Background())
	if err != nil || !slices.ContainsFunc(cab.Makers, func(m request.Maker) bool { return m.Name == "Linde" }) ||
		len(cab.Makers) != 3 {
		t.Errorf("an account’s maker stands twice, or not at all: %v, %v", cab.Makers, err)
	}
}

// A server that is not behind a proxy believes nobody who says so; one that is believes its proxy alone, and counts
// tries by who is behind it.
func TestReached(t *testing.T) {
	s := newSite(t)
	s.wants(s.ask("GET", "/", nil, func(r *http.Request) { r.Header.Set("X-Forwarded-For", "192.0.2.1") }), 403,
		"--behind-proxy")
	s.wants(s.ask("GET", "/", nil, func(r *http.Request) { r.Header.Set("Forwarded", "for=192.0.2.1") }), 403)
	w := s.ask("GET", "/", nil, func(r *http.Request) { r.Host = "rebound.example" })
	if s.wants(w, 421); w.Header().Get("Content-Security-Policy") == "" ||
		w.Header().Get("X-Content-Type-Options") != "nosniff" {
		t.Error("a refusal lacks the headers of every answer")
	}
	if w := s.ask("GET", "/", nil); w.Header().Get("Cache-Control") != "no-store" {
		t.Errorf("a page may be kept: %s", w.Header().Get("Cache-Control"))
	}
	_, browser := signedSite(t, func(a *Access) {
		a.Proxies, a.Secure = []netip.Prefix{netip.MustParsePrefix(
			"10.0.0.0/24")}, true
	})
	b := browser()
	b.wants(b.ask("GET", "/healthz", nil), 403, "through its proxy only")
	b.from = "10.0.0.5:9"
	by := func(ip string) func(*http.Request) {
		return func(r *http.Request) { r.Header.Set("X-Forwarded-For", "203.0.113.9, "+ip) }
	}
	for range store.FromOnePlace.Most {
		b.wants(b.ask("POST", "/sign-in", url.Values{"sign.name": {"Osk"}, "sign.secret": {"guess"}}, by("192.0.2.1")),
			401)
	}
	b.wants(b.ask("POST", "/sign-in", url.Values{"sign.name": {"Osk"}, "sign.secret": {heron + " Osk"}},
		by("192.0.2.1")), 429)
	w = b.ask("POST", "/sign-in", url.Values{"sign.name": {"Osk"}, "sign.secret": {heron + " Osk"}}, by("192.0.2.2"))
	if b.wants(w, 303); !w.Result().Cookies()[0].Secure || w.Header().Get("Strict-Transport-Security") == "" {
		t.Error("the cookie goes over the network open")
	}
	b.wants(b.ask("GET", "/", nil, func(r *http.Request) { r.Host = "other.example" }), 421, "--host")
}

// A body that is no form is not read as an empty one, and HEAD is answered wherever GET is.
func TestFormsAndHeads(t *testing.T) {
	s := newSite(t)
	before := s.kept()
	for _, kind := range []string{"application/json", "text/plain", ""} {
		for _, path := range []string{batchAt(demo.Saturday) + "/save", "/rooms", "/cabinet/house", "/batches",
			"/batches/7/delete", "/units"} {
			w := s.ask("POST", path, nil, func(r *http.Request) {
				r.Body, r.ContentLength = http.NoBody, 9
				r.Header.Del("Content-Type")
				if kind != "" {
					r.Header.Set("Content-Type", kind)
				}
			})
			if w.Code != http.StatusUnsupportedMediaType {
				t.Errorf("%q to %s: %d", kind, path, w.Code)
			}
		}
	}
	if s.kept() != before {
		t.Error("something was kept of what is no form")
	}
	for _, path := range []string{"/", "/batches/7", "/log.csv", "/healthz", "/nowhere"} {
		get, head := s.ask("GET", path, nil), s.ask("HEAD", path, nil)
		if get.Code != head.Code || get.Header().Get("Content-Type") != head.Header().Get("Content-Type") {
			t.Errorf("%s: GET %d, HEAD %d", path, get.Code, head.Code)
		}
	}
}

// A device’s token opens nothing else.
func TestDeviceToken(t *testing.T) {
	st, browser := signedSite(t)
	token, err := st.AddDevice(context.Background(), "bench", "scale")
	if err != nil {
		t.Fatal(err)
	}
	b := browser()
	for _, auth := range []string{"Bearer " + token, "Basic " + base64.StdEncoding.EncodeToString([]byte(
		"bench:"+token))} {
		for _, path := range []string{"/", "/log.json", "/bench/1", "/accounts"} {
			if w := b.ask("GET", path, nil, func(r *http.Request) {
				r.Header.Set("Authorization",
					auth)
			}); w.Code != 303 {
				t.Errorf("%s by a device: %d", path, w.Code)
			}
		}
	}
	b.wants(b.ask("POST", "/devices/bench/readings", nil, func(r *http.Request) {
		r.Header.Set("Authorization",
			"Bearer "+token)
	}), 200, "taken")
	b.wants(b.ask("POST", "/devices/bench/readings", nil), 401)
}

// The house says how its data is kept: how old the last backup is, that a night was missed, what room there is;
// everything is handed out as one
// file, to whoever keeps the workshop.
func TestKeptSafe(t *testing.T) {
	dir := t.TempDir()
	_, browser := signedSite(t, func(a *Access) { a.Backups = dir })
	keeps, makes := browser().in("Linde"), browser().in("Osk")
	keeps.wants(keeps.ask("GET", "/cabinet/house", nil), 200, "There is no backup yet.", "are\nfree")
	keeps.wants(keeps.ask("POST", "/backup", url.Values{}), 303)
	keeps.wants(keeps.ask("GET", "/cabinet/house?backup=1", nil), 200, "A backup has been made.",
		"made just now; the last 1 are kept")
	made := store.Backups(dir)
	if len(made) != 1 {
		t.Fatalf("%v", made)
	}
	old := storetest.Now().Add(-store.MissedAfter - time.Hour).UTC().Format("2006-01-02T15-04-05Z")
	if err := os.Rename(filepath.Join(dir, made[0]), filepath.Join(dir, "hollen-"+old+".zip")); err != nil {
		t.Fatal(err)
	}
	keeps.wants(keeps.ask("GET", "/cabinet/house", nil), 200,
		"A night was missed: the last backup was made 31 hours ago.")
	good, err := os.ReadFile(filepath.Join(dir, "hollen-"+old+".zip"))
	if err != nil {
		t.Fatal(err)
	}
	stamped := func(ago time.Duration) string {
		return "hollen-" + storetest.Now().Add(-ago).UTC().Format("2006-01-02T15-04-05Z") + ".zip"
	}
	write := func(name string, raw []byte) {
		if err := os.WriteFile(filepath.Join(dir, name), raw, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	// One that is none, or is dated after now, is said and does not count.
	broken, ahead := stamped(time.Hour), "hollen-2096-01-01T03-00-00Z.zip"
	write(broken, append(slices.Clone(good[:len(good)/2]), good[len(good)/2+1:]...))
	write(ahead, []byte("x"))
	keeps.wants(keeps.ask("GET", "/cabinet/house", nil), 200,
		"A night was missed: the last backup was made 31 hours ago.", broken, "Dated after now", ahead)
	for i := range store.KeptBackups + 3 {
		write(stamped(time.Hour*time.Duration(i+40)), good)
	}
	keeps.wants(keeps.ask("POST", "/backup", url.Values{}), 303)
	if k := store.LookedAt(dir, storetest.Now()); k.Whole != store.KeptBackups || len(k.Damaged) != 1 ||
		len(k.Ahead) != 1 {
		t.Errorf("%+v is kept", k)
	}
	w := keeps.ask("GET", "/backup", nil)
	keeps.wants(w, 200)
	b, err := store.ReadBackup(bytes.NewReader(w.Body.Bytes()), int64(w.Body.Len()))
	if err != nil || b.Rows["batches"] != 10 || b.Secrets || bytes.Contains(w.Body.Bytes(), []byte("argon2id")) {
		t.Errorf("%+v, %v", b, err)
	}
	makes.wants(makes.ask("GET", "/backup", nil), 403)
	makes.wants(makes.ask("POST", "/backup", url.Values{}), 403)
}
