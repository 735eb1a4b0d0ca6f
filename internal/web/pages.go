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

	"hollen/internal/account"
	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
)

// pages holds the parsed page templates by name.
type pages map[string]*template.Template

// funcsOf are what the templates of a room are put together with; t is the page they stand in.
type funcsOf func(t *template.Template) template.FuncMap

// add has the pages of a room be shown: each file of its templates defines "body", those whose names begin with _ are
// pieces of them. Funcs may be nil.
func (s *Server) add(files fs.FS, funcs funcsOf) {
	for _, f := range templatesNamed(files, "[a-z]*.html") {
		t := template.New("").Funcs(wordFuncs).Funcs(template.FuncMap{"once": onceField,
			"asset": func(p string) string { return assetBase + p }, "db": s.store.Identity})
		if funcs != nil {
			t.Funcs(funcs(t))
		}
		for _, piece := range templatesNamed(templateFiles, "_*.html") {
			template.Must(t.Parse(flush(templateFiles, piece)))
		}
		for _, piece := range templatesNamed(files, "_*.html") {
			template.Must(t.Parse(flush(files, piece)))
		}
		s.pages[f[len("templates/"):len(f)-len(".html")]] = template.Must(t.Parse(flush(files, f)))
	}
}

// templatesNamed are the files of templates whose names match a pattern.
func templatesNamed(files fs.FS, pattern string) []string {
	all, err := fs.Glob(files, "templates/"+pattern)
	if err != nil {
		panic(err) // the patterns are constant
	}
	return all
}

var broken = regexp.MustCompile(`\s*\n\s*`)

// flush reads a template with its lines joined by a space each: where they break is for who reads it, and a page is
// sent often.
func flush(files fs.FS, name string) string {
	b, err := fs.ReadFile(files, name)
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
func (s *Server) render(c *Visit, status int, page, title string, body any) {
	f := frame{Title: title, Place: s.place(c), Nav: navOf(page), May: account.Keeps,
		US: c.Units == measure.Customary, Marks: c.Marks, Body: body}
	if a := c.Who; a != nil {
		f.Who, f.May = a.Maker, account.Role(a.Role)
	} else if s.signIn {
		f.May, f.Place = "", ""
	}
	s.renderPart(c, status, page, "layout", f)
}

// renderPart writes one template of a page.
func (s *Server) renderPart(c *Visit, status int, page, part string, data any) {
	var b bytes.Buffer
	if err := s.pages[page].ExecuteTemplate(&b, part, data); err != nil {
		s.log.Error("render", "page", page, "err", err)
		c.String(http.StatusInternalServerError, "This page could not be drawn. What you saved is safe.\n")
		return
	}
	c.Header("Vary", "Accept-Language")
	c.Data(status, "text/html; charset=utf-8", c.Marks.page(b.Bytes()))
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
func (s *Server) fail(c *Visit, status int, head, text string) {
	s.failTo(c, status, head, text)
}

// wayOn is where one can go from a page that says what cannot be.
type wayOn struct{ To, Name string }

// failTo is fail with where one can go on.
func (s *Server) failTo(c *Visit, status int, head, text string, ways ...wayOn) {
	s.render(c, status, "error", head, struct {
		Head, Text string
		Ways       []wayOn
	}{head, text, ways})
}
