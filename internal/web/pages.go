package web

import (
	"bytes"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"html/template"
	"io/fs"
	"net/http"
	"net/url"
	"regexp"
	"strings"

	"github.com/gin-gonic/gin"

	"hollen/internal/account"
	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
)

// pages holds the parsed page templates by name.
type pages map[string]*template.Template

// parsePages parses every page together with the layout, the stations and the pieces. A page is a
// file that defines "body".
func parsePages(database string) pages {
	shared := template.New("").Funcs(template.FuncMap{"asset": func(p string) string { return assetBase + p },
		"db": func() string { return database }, "once": onceField, "station": drawStation(nil)}).
		Funcs(wordFuncs).Funcs(dayFuncs)
	for _, f := range templatesNamed("_*.html") {
		template.Must(shared.Parse(flush(f)))
	}
	out := pages{}
	for _, f := range templatesNamed("[a-z]*.html") {
		t := template.Must(shared.Clone())
		t.Funcs(template.FuncMap{"station": drawStation(t)})
		out[f[len("templates/"):len(f)-len(".html")]] = template.Must(t.Parse(flush(f)))
	}
	return out
}

// templatesNamed are the files of templates whose names match a pattern.
func templatesNamed(pattern string) []string {
	all, err := fs.Glob(templateFiles, "templates/"+pattern)
	if err != nil {
		panic(err) // the patterns are constant
	}
	return all
}

var broken = regexp.MustCompile(`\s*\n\s*`)

// flush reads a template with its lines joined by a space each: where they break is for who reads it, and a page is
// sent
// often.
func flush(name string) string {
	b, err := fs.ReadFile(templateFiles, name)
	if err != nil {
		panic(err) // embedded files are always readable
	}
	return broken.ReplaceAllString(string(b), " ")
}

// onceField is the mark of a form that makes something new, so that sent again it makes one.
func onceField() template.HTML {
	return template.HTML(`<input type="hidden" name="once" value="` + rand.Text() + `">`)
}

// onceOf is the mark of what a form asks for: the same when the same form comes again with the same in it, "" where it
// has none.
func onceOf(values url.Values) string {
	mark := values.Get("once")
	if len(mark) < 8 || len(mark) > 30 || !bench.IsID(mark) {
		return ""
	}
	sum := sha256.Sum256([]byte(values.Encode()))
	return hex.EncodeToString(sum[:])[:40]
}

// drawStation returns what draws the rail or the sheet of the open station by the template of its
// name.
func drawStation(t *template.Template) func(kind string, v *batchView) (template.HTML, error) {
	return func(kind string, v *batchView) (template.HTML, error) {
		var b strings.Builder
		err := t.ExecuteTemplate(&b, kind+"-"+string(v.At), v.station())
		return template.HTML(b.String()), err
	}
}

// frame is what the layout needs of every page.
type frame struct {
	Title string
	Place string       // the workshop's name
	Nav   string       // the current word of the navigation
	Who   string       // who is signed in, "" where nobody does
	May   account.Role // what they may; everything where nobody signs in
	US    bool         // ounces, inches and °F
	Marks marks        // of the reader's language
	Body  any
}

// render writes a page; a template that fails gives an error page, never half a page.
func (s *Server) render(c *gin.Context, status int, page, title string, body any) {
	f := frame{Title: title, Place: s.place(c), Nav: navOf(page), May: account.Keeps,
		US: shownIn(c) == measure.Customary, Marks: marksOf(c), Body: body}
	if a := signedIn(c); a != nil {
		f.Who, f.May = a.Maker, account.Role(a.Role)
	} else if s.access.SignIn {
		f.May, f.Place = "", ""
	}
	s.renderPart(c, status, page, "layout", f)
}

// renderPart writes one template of a page.
func (s *Server) renderPart(c *gin.Context, status int, page, part string, data any) {
	var b bytes.Buffer
	if err := s.pages[page].ExecuteTemplate(&b, part, data); err != nil {
		s.log.Error("render", "page", page, "err", err)
		c.String(http.StatusInternalServerError, "This page could not be drawn. What you saved is safe.\n")
		return
	}
	c.Header("Vary", "Accept-Language")
	c.Data(status, "text/html; charset=utf-8", marksOf(c).page(b.Bytes()))
}

// navOf returns the word of the navigation a page stands under.
func navOf(page string) string {
	switch page {
	case "recipe":
		return "Recipe check"
	case "sign", "goon", "first":
		return ""
	case "cabinet", "thing", "calibrate", "accounts", "account":
		return "Cabinet"
	case "day", "days", "orders", "week", "wall", "phone", "besideday", "ways", "setout":
		return "Days"
	case "rooms":
		return "Rooms"
	case "compare":
		return "Compare"
	case "log", "learned", "logform", "ledger", "besidemade":
		return "Log"
	}
	return "Batches"
}

// fail shows an error page.
func (s *Server) fail(c *gin.Context, status int, head, text string) {
	s.failTo(c, status, head, text)
}

// wayOn is where one can go from a page that says what cannot be.
type wayOn struct{ To, Name string }

// failTo is fail with where one can go on.
func (s *Server) failTo(c *gin.Context, status int, head, text string, ways ...wayOn) {
	s.render(c, status, "error", head, struct {
		Head, Text string
		Ways       []wayOn
	}{head, text, ways})
}
