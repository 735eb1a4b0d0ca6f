package web

import (
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"hollen/internal/core/request"
)

// keeping has a request bring the cookies an answer has set.
func keeping(w *http.Response, jar map[string]string) func(*http.Request) {
	for _, c := range w.Cookies() {
		jar[c.Name] = c.Value
	}
	return func(r *http.Request) {
		for name, value := range jar {
			r.AddCookie(&http.Cookie{Name: name, Value: value})
		}
	}
}

// The first batch, making and day of a kitchen each bring a few sentences where they concern; they go by their key or
// once it is done, and never come again. A kitchen that has made things is spared them.
func TestGuides(t *testing.T) {
	s := emptySite(t)
	jar := map[string]string{}
	w := s.ask("POST", "/batches", url.Values{"much": {"4"}, "much_of": {"portions"}})
	s.wants(w, http.StatusSeeOther)
	at := w.Header().Get("Location")
	const says = "Change anything on the left"
	s.wants(s.ask("GET", at, nil), 200, says)
	w = s.ask("POST", "/guide", url.Values{"of": {"batch"}, "back": {at}})
	s.wants(w, http.StatusSeeOther)
	if w.Header().Get("Location") != at {
		t.Errorf("put away, it leads to %q", w.Header().Get("Location"))
	}
	if page := s.ask("GET", at, nil, keeping(w.Result(), jar)).Body.String(); strings.Contains(page, says) {
		t.Error("put away, it is there again")
	}
	for _, back := range []string{"//elsewhere.example", "https://elsewhere.example/", "/\\elsewhere.example", ""} {
		w := s.ask("POST", "/guide", url.Values{"of": {"batch"}, "back": {back}})
		if w.Header().Get("Location") != "/" {
			t.Errorf("back to %q leads to %q", back, w.Header().Get("Location"))
		}
	}
	// A day, until one is planned; a making, until a step of one is done.
	day := "/days/" + today()
	s.wants(s.ask("GET", day, nil), 200, "Plan the day finds who does what when.")
	w = s.ask("POST", at+"/bench", s.typed(1))
	s.wants(w, http.StatusSeeOther)
	bench := w.Header().Get("Location")
	page := s.ask("GET", bench, nil)
	s.wants(page, 200, "The yellow key always goes on.")
	step := between(page.Body.String(), `data-step="`, `"`)
	w = s.ask("POST", bench+"/tap", url.Values{"what": {"done"}, "step": {step}})
	again := s.ask("GET", bench, nil, keeping(w.Result(), jar)).Body.String()
	if strings.Contains(again, "The yellow key always") {
		t.Error("a step is done, and it is still told")
	}
	// The demo has made things, and planned days.
	demo := newSite(t)
	for _, path := range []string{"/batches/7", "/bench/3", "/days/" + today()} {
		if strings.Contains(demo.ask("GET", path, nil).Body.String(), `class="guide"`) {
			t.Errorf("%s guides a workshop that knows its way", path)
		}
	}
}

// What explains a page is there for each that has stations or figures, whole and as the part a dialog takes.
func TestHelp(t *testing.T) {
	s := newSite(t)
	for _, st := range request.Stages() {
		w := s.ask("GET", "/help?part=yes&of=batch&at="+string(st), nil)
		s.wants(w, 200, "<h2>", "/glossary#")
		if strings.Contains(w.Body.String(), "<html") || strings.Count(w.Body.String(), "<h2>") != 1 {
			t.Errorf("%s: %.200s", st, w.Body)
		}
	}
	s.wants(s.ask("GET", "/help?of=batch", nil), 200, "<h2>Formula</h2>", "<h2>Cook</h2>")
	s.wants(s.ask("GET", "/help?of=%3Cb%3E", nil), 200, "<h2>Today</h2>")
	if part := s.ask("GET", "/help?part=yes&of=wall", nil).Body.String(); strings.Contains(part, "<h2>") {
		t.Error("a page without words of its own is explained by all others")
	}
	s.wants(s.ask("GET", "/help?part=yes&of=thing", nil), 200, "<h2>The cabinet</h2>")
	glossary := s.ask("GET", "/glossary", nil).Body.String()
	for _, path := range []string{"/", "/days", "/log", "/log/learned", "/cabinet/flours", "/batches", "/recipe"} {
		page := s.ask("GET", path, nil).Body.String()
		of := regexp.MustCompile(`/help\?of=[a-z]+`).FindString(page)
		s.wants(s.ask("GET", of, nil), 200, "<h2>")
	}
	for _, batch := range []string{"/batches/7", "/batches/8?at=cut", "/batches/7?at=dry"} {
		page := s.ask("GET", batch, nil).Body.String()
		for _, m := range regexp.MustCompile(`href="/glossary#([a-z-]+)"`).FindAllStringSubmatch(page, -1) {
			if !strings.Contains(glossary, `id="`+m[1]+`"`) {
				t.Errorf("%s links to %q, which the glossary lacks", batch, m[1])
			}
		}
	}
}
