package web

import (
	"fmt"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/demo"
	"hollen/internal/store"

	"golang.org/x/net/html"
)

// stray is a figure with more decimals than anything here is known to: three only under an inch.
var (
	stray = regexp.MustCompile(`\d\.\d{3,}|\d{5,}\.\d`)
	fine  = regexp.MustCompile(`^0\.\d{3}$`)
)

// figuresOf are the texts of a page that somebody reads: between tags, and in fields, names and titles.
func figuresOf(page string) (out []string) {
	z := html.NewTokenizer(strings.NewReader(page))
	skip := ""
	for {
		switch z.Next() {
		case html.ErrorToken:
			return out
		case html.TextToken:
			if skip == "" {
				out = append(out, string(z.Text()))
			}
		case html.StartTagToken, html.SelfClosingTagToken:
			t := z.Token()
			if t.Data == "script" || t.Data == "style" {
				skip = t.Data
			}
			hidden := false
			for _, a := range t.Attr {
				hidden = hidden || a.Key == "type" && a.Val == "hidden"
			}
			for _, a := range t.Attr {
				if !hidden && t.Data == "input" && (a.Key == "value" || a.Key == "placeholder") || a.Key == "aria-label" ||
					a.Key == "title" || a.Key == "alt" {
					out = append(out, a.Val)
				}
			}
		case html.EndTagToken:
			if t := z.Token(); t.Data == skip {
				skip = ""
			}
		}
	}
}

// No page shows a figure with digits nobody would bet on: every batch and day of the demo, with and without what the
// log has learned, in both systems.
func TestNoStrayDigits(t *testing.T) {
	s := newSite(t)
	var paths []string
	for id := 1; id <= len(demo.Batches()); id++ {
		for _, st := range request.Stages() {
			paths = append(paths, fmt.Sprintf("/batches/%d?at=%s", id, st))
		}
		paths = append(paths, fmt.Sprintf("/batches/%d/sheet", id), fmt.Sprintf("/batches/%d/label", id))
	}
	paths = append(paths, "/", "/batches", "/log", "/log/learned", "/log/ledger", "/cabinet/house", "/rooms",
		"/days/"+today(), "/days/"+today()+"/set-out", "/days/"+today()+"/wall", "/bench/1/made", "/bench/2/made",
		"/compare?a=7&b=4", "/batches/7/makings", "/bench/1/log")
	for _, shelf := range []string{"flours", "lots", "eggs", "additions", "powders", "machines", "shapes", "ways"} {
		paths = append(paths, "/cabinet/"+shelf)
	}
	us := func(r *http.Request) { r.AddCookie(&http.Cookie{Name: "units", Value: string(measure.Customary)}) }
	for _, learned := range []bool{true, false} {
		if err := s.store.ChangeLogSettings(t.Context(), func(l *store.LogSettings) { l.Off = !learned }); err != nil {
			t.Fatal(err)
		}
		for _, path := range paths {
			for name, with := range map[string]func(*http.Request){"g": func(*http.Request) {}, "oz": us} {
				w := s.ask("GET", path, nil, with)
				if w.Code != http.StatusOK {
					t.Fatalf("%s: %d", path, w.Code)
				}
				told := 0
				for _, text := range figuresOf(w.Body.String()) {
					for _, at := range stray.FindAllStringIndex(text, -1) {
						from, to := at[0], at[1]
						for from > 0 && strings.ContainsRune("0123456789.,", rune(text[from-1])) {
							from--
						}
						for to < len(text) && text[to] >= '0' && text[to] <= '9' {
							to++
						}
						if figure := text[from:to]; !(name == "oz" && fine.MatchString(figure)) && told < 3 {
							told++
							t.Errorf("%s in %s, learned %v: %s in %.80q", path, name, learned, figure, strings.TrimSpace(text))
						}
					}
				}
			}
		}
	}
}
