package web

import (
	"bytes"
	"html/template"
	"io/fs"
	"net/http"

	"github.com/gin-gonic/gin"
)

// pages holds the parsed page templates by name.
type pages map[string]*template.Template

// parsePages parses every page together with the layout and the pieces. A page is a file
// that defines "body".
func parsePages() pages {
	funcs := template.FuncMap{"asset": func(p string) string { return assetBase + p }}
	for name, f := range wordFuncs {
		funcs[name] = f
	}
	shared := template.Must(template.New("").Funcs(funcs).ParseFS(templateFiles, "templates/_*.html"))
	all, err := fs.Glob(templateFiles, "templates/[a-z]*.html")
	if err != nil {
		panic(err) // the pattern is constant
	}
	out := pages{}
	for _, f := range all {
		b, err := fs.ReadFile(templateFiles, f)
		if err != nil {
			panic(err) // embedded files are always readable
		}
		out[f[len("templates/"):len(f)-len(".html")]] = template.Must(template.Must(shared.Clone()).Parse(string(b)))
	}
	return out
}

// frame is what the layout needs of every page.
type frame struct {
	Title string
	Place string // the workshop's name
	Nav   string // the current word of the navigation
	US    bool   // ounces, inches and °F
	Body  any
}

// render writes a page; a template that fails gives an error page, never half a page.
func (s *Server) render(c *gin.Context, status int, page, title string, body any) {
	place := s.place(c)
	units := shownIn(c)
	var b bytes.Buffer
	if err := s.pages[page].ExecuteTemplate(&b, "layout", frame{title, place, navOf(page), units == customary, body}); err != nil {
		s.log.Error("render", "page", page, "err", err)
		c.String(http.StatusInternalServerError, "This page could not be drawn. What you saved is safe.\n")
		return
	}
	doc, err := units.page(b.Bytes())
	if err != nil {
		s.log.Error("units", "page", page, "err", err)
		doc = b.Bytes()
	}
	c.Data(status, "text/html; charset=utf-8", doc)
}

// navOf returns the word of the navigation a page stands under.
func navOf(page string) string {
	switch page {
	case "recipe":
		return "Recipe check"
	case "cabinet", "thing", "calibrate":
		return "Cabinet"
	case "rooms":
		return "Rooms"
	case "compare":
		return "Compare"
	}
	return "Batches"
}

// fail shows an error page.
func (s *Server) fail(c *gin.Context, status int, head, text string) {
	s.render(c, status, "error", head, struct{ Head, Text string }{head, text})
}
