package web

import (
	"net"
	"net/http"
	"net/netip"
	"slices"
	"strings"

	"hollen/internal/account"
	"hollen/internal/web/cabinet"
	"hollen/internal/web/page"
)

// Access says how a server may be reached. Its zero value is one person's own machine: requests that name it alone,
// nobody signs in.
type Access struct {
	SignIn bool     // accounts are asked for
	Hosts  []string // names and addresses it answers to, without port; none: this machine's own alone
	// proxies whose word on who asks counts; none: a request that says it comes through one is refused
	Proxies []netip.Prefix
	Secure  bool   // browsers reach it by https
	Backups string // folder of the nightly backups, "" where there are none
}

// guard refuses what does not come as it should, and says on every answer what a page may do.
func (a Access) guard(h http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		headers(w.Header(), a.Secure)
		if why := a.through(r); why != "" {
			http.Error(w, why, http.StatusForbidden)
			return
		}
		if !a.named(r.Host) {
			words := "This Hollen answers on its own machine only."
			if len(a.Hosts) > 0 {
				words = "This Hollen does not answer to that name; those it answers to are given with --host."
			}
			http.Error(w, words, http.StatusMisdirectedRequest)
			return
		}
		h.ServeHTTP(w, r)
	})
}

var forwardings = []string{"Forwarded", "X-Forwarded-For", "X-Forwarded-Host", "X-Forwarded-Proto", "X-Real-Ip"}

// through says why a request is refused that a proxy passes on, or that says so; "" where it is right. Who asks, by a
// proxy's word, takes the place of the proxy's own address.
func (a Access) through(r *http.Request) string {
	passed := slices.ContainsFunc(forwardings, func(k string) bool {
		return strings.Join(r.Header.Values(k),
			"") != ""
	})
	peer := page.AddressOf(r)
	if len(a.Proxies) == 0 {
		if passed {
			return "This request comes through a proxy, and Hollen was not started with --behind-proxy."
		}
		return ""
	}
	if !slices.ContainsFunc(a.Proxies, func(p netip.Prefix) bool { return p.Contains(peer) }) {
		return "This Hollen answers through its proxy only."
	}
	hops := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",") // however many lines there are
	// the last one the proxy itself has written
	if who, err := netip.ParseAddr(strings.TrimSpace(hops[len(hops)-1])); err == nil {
		r.RemoteAddr = net.JoinHostPort(who.String(), "0")
	}
	return ""
}

// named says whether a request names a host this server answers to.
func (a Access) named(host string) bool {
	if name, _, err := net.SplitHostPort(host); err == nil {
		host = name
	}
	host = strings.ToLower(strings.Trim(host, "[]"))
	if ip := net.ParseIP(host); host == "localhost" || ip != nil && ip.IsLoopback() {
		return true
	}
	return slices.Contains(a.Hosts, host)
}

// policy allows what Hollen ships and nothing else. Style attributes carry the dough's
// colour and the drawings' measures.
const policy = "default-src 'none'; script-src 'self'; style-src 'self'; style-src-attr 'unsafe-inline'; img-src " +
	"'self' data:; " +
	"font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"

// headers are on every answer. What a page shows is the workshop's own: no cache keeps it; what ships says otherwise
// for itself.
func headers(h http.Header, secure bool) {
	h.Set("Content-Security-Policy", policy)
	h.Set("X-Content-Type-Options", "nosniff")
	h.Set("Referrer-Policy", "same-origin")
	h.Set("Cross-Origin-Opener-Policy", "same-origin")
	h.Set("Cross-Origin-Resource-Policy", "same-origin")
	h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
	h.Set("Cache-Control", "no-store")
	if secure {
		h.Set("Strict-Transport-Security", "max-age=31536000")
	}
}

// open are the addresses that ask nobody to sign in; a device shows its own token.
func open(path string) bool {
	return path == "/healthz" || path == "/readyz" || path == "/sign-in" || strings.HasPrefix(path, "/static/") ||
		strings.HasPrefix(path, "/first/") ||
		strings.HasPrefix(path, "/devices/")
}

// needs is what role an address asks for, by its method and route. What changes nothing is open to who looks; what a
// post changes has its line here, and without one is for who keeps the workshop.
func needs(method, route string) account.Role {
	if method == http.MethodGet || method == http.MethodHead {
		if slices.Contains(keepersPages, route) {
			return account.Keeps
		}
		return account.Looks
	}
	if role, known := postNeeds[route]; known {
		return role
	}
	return account.Keeps
}

var keepersPages = []string{"/accounts", "/backup"}

var postNeeds = map[string]account.Role{
	// Working something out, and one's own account.
	"/units": account.Looks, "/recipe": account.Looks, cabinet.ImportPath: account.Looks,
	"/batches/:id/work":         account.Looks,
	"/batches/:id/again":        account.Looks,
	"/batches/:id/request.json": account.Looks, "/batches/:id/sheet": account.Looks,
	"/batches/:id/label": account.Looks, "/batches/:id/cut.svg": account.Looks,
	"/batches/:id/beside/:what": account.Looks, "/batches/:id/ladder.svg": account.Looks,
	"/batches/:id/recipe.json": account.Looks,
	"/batches/:id/plan.json":   account.Looks, "/batches/:id/foretold": account.Looks,
	"/cabinet/:shelf/:id/calibrate": account.Keeps,
	"/cabinet/:shelf/:id/measure":   account.Makes, "/cabinet/:shelf/:id/doughs": account.Makes,
	"/sign-in": account.Looks, "/sign-out": account.Looks, "/lock": account.Looks, "/unlock": account.Looks,
	"/account": account.Looks, "/guide": account.Looks,
	"/recipes": account.Makes, "/recipes/gather": account.Makes, "/recipes/:id": account.Makes,
	"/recipes/:id/make":                   account.Makes,
	"/recipes/:id/stations/work":          account.Looks,
	"/recipes/:id/stations/save":          account.Makes,
	"/recipes/:id/versions/:version/take": account.Makes,
	"/recipes/:id/retire":                 account.Keeps, "/recipes/:id/restore": account.Keeps,
	"/batches/:id/recipe": account.Makes,
	"/batches/:id/into":   account.Makes, "/batches/:id/newer": account.Makes,
	"/practice": account.Looks, "/practice/forget": account.Looks, "/practice/:id/act": account.Looks,
	"/practice/:id/open": account.Looks, "/practice/log": account.Keeps,
	// Batches, makings and the log.
	"/recipe/batch": account.Makes, "/recipe/written": account.Makes, cabinet.ImportPath + "/take": account.Makes,
	"/batches":              account.Makes,
	"/batches/:id/keep/:of": account.Makes, "/batches/:id/save": account.Makes,
	"/batches/:id/versions/:version/take": account.Makes,
	"/batches/:id/duplicate":              account.Makes, "/batches/:id/partner": account.Makes,
	"/batches/:id/part":    account.Makes,
	"/batches/:id/delete":  account.Makes,
	"/batches/:id/restore": account.Makes, "/batches/:id/bench": account.Makes, "/bench/:id/events": account.Makes,
	"/bench/:id/tap":   account.Makes,
	"/bench/:id/again": account.Makes, "/batches/:id/log": account.Makes, "/bench/:id/pictures": account.Makes,
	"/bench/:id/pictures/:n/remove": account.Makes,
	"/bench/:id/log":                account.Makes, "/log/learned": account.Makes,
	"/days/:date": account.Makes, "/days/:date/own": account.Makes, "/days/:date/orders": account.Makes,
	"/orders/week": account.Makes, "/customers/card": account.Makes, "/customers/forget": account.Keeps,
	// The workshop.
	"/cabinet/house": account.Keeps, "/cabinet/:shelf": account.Keeps, "/cabinet/:shelf/:id/retire": account.Keeps,
	"/cabinet/:shelf/:id/restore": account.Keeps, "/rooms": account.Keeps, "/rooms/:id/delete": account.Keeps,
	"/accounts":     account.Keeps,
	"/backup":       account.Keeps,
	"/first/:token": account.Looks, "/devices/:name/readings": account.Looks,
}
