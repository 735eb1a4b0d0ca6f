package page

import (
	"bytes"
	"crypto/rand"
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"html/template"
	"io/fs"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"time"

	"hollen/internal/account"
	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/web/static"
)

//go:embed templates/*.html
var templates embed.FS

// PartHeader asks for the parts of a page that follow the figures: "figures".
const PartHeader = "X-Hollen-Part"

// pages holds the parsed page templates by name.
type pages map[string]shown

// shown is one page, with the style sheet and the script of its room, "" where there is none.
type shown struct {
	*template.Template
	style, script string
}

// funcsOf are what the templates of a room are put together with; t is the page they stand in.
type funcsOf func(t *template.Template) template.FuncMap

// Add has the pages of a room be shown: each file of its templates defines "body", those whose names begin with _ are
// pieces of them. Its styles stand in css/room/room.css, its script begins in js/room/main.js. Funcs may be nil.
func (s *Site) Add(room string, files fs.FS, funcs funcsOf) {
	style, script := static.Has("css/"+room+"/"+room+".css"), static.Has("js/"+room+"/main.js")
	shared := template.New("").Funcs(wordFuncs).Funcs(template.FuncMap{"once": onceField, "db": s.Store.Identity,
		"asset": func(p string) string { return static.Base + p }})
	if funcs != nil {
		shared.Funcs(funcs(shared))
	}
	for _, of := range []fs.FS{templates, files} {
		for _, piece := range templatesNamed(of, "_*.html") {
			template.Must(shared.Parse(flush(of, piece)))
		}
	}
	for _, f := range templatesNamed(files, "[a-z]*.html") {
		t := template.Must(shared.Clone())
		if funcs != nil {
			t.Funcs(funcs(t))
		}
		s.pages[f[len("templates/"):len(f)-len(".html")]] = shown{template.Must(t.Parse(flush(files, f))), style,
			script}
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

// OnceOf is the mark of what a form asks for: the same when the same form comes again with the same in it, "" where it
// has none.
func OnceOf(values url.Values) string {
	mark := values.Get("once")
	if len(mark) < 8 || len(mark) > 30 || !bench.IsID(mark) {
		return ""
	}
	sum := sha256.Sum256([]byte(values.Encode()))
	return hex.EncodeToString(sum[:])[:40]
}

// frame is what the layout needs of every page.
type frame struct {
	Title  string
	Place  string       // the workshop's name
	Of     string       // the page, as the help knows it
	Nav    string       // the current word of the navigation
	Style  string       // the style sheet of its room, "" where there is none
	Script string       // likewise
	Who    string       // who is signed in, "" where nobody does
	May    account.Role // what they may; everything where nobody signs in
	US     bool         // ounces, inches and °F
	Marks  Marks        // of the reader's language
	Body   any
}

// Keeps says whether they keep the workshop.
func (f frame) Keeps() bool { return f.May == account.Keeps }

// Render writes a page; a template that fails gives an error page, never half a page.
func (s *Site) Render(c *Visit, status int, page, title string, body any) {
	f := frame{Title: title, Place: s.Place(c), Of: page, Nav: navOf(page, c.Request.URL.Path),
		Style:  s.pages[page].style,
		Script: s.pages[page].script, May: account.Keeps,
		US: c.Units == measure.Customary, Marks: c.Marks, Body: body}
	if a := c.Who; a != nil {
		f.Who, f.May = a.Maker, account.Role(a.Role)
	} else if s.SignIn {
		f.May, f.Place = "", ""
	}
	s.RenderPart(c, status, page, "layout", f)
}

// RenderPart writes one template of a page.
func (s *Site) RenderPart(c *Visit, status int, page, part string, data any) {
	var b bytes.Buffer
	if err := s.pages[page].ExecuteTemplate(&b, part, data); err != nil {
		s.Log.Error("render", "page", page, "err", err)
		c.String(http.StatusInternalServerError, "This page could not be drawn. What you saved is safe.\n")
		return
	}
	c.Header("Vary", "Accept-Language")
	c.Data(status, "text/html; charset=utf-8", c.Marks.page(b.Bytes()))
}

// navOf returns the word of the navigation a page stands under.
func navOf(page, path string) string {
	switch page {
	case "today", "recipe":
		return "Today"
	case "sign", "goon", "first", "help", "glossary", "import", "accounts": // the last two stand at the workshop's name
		return ""
	case "cabinet", "rooms", "thing", "calibrate", "sack", "doughs", "account":
		return "Cabinet"
	case "day", "days", "orders", "week", "wall", "phone", "dayown", "besideday", "ways", "setout", "slips",
		"customers", "customer":
		return "Days"
	case "recipes", "recipepage", "recipekeep", "recipeinto", "recipenewer", "recipegather", "recipecompare":
		return "Recipes"
	case "practice", "round", "opened", "lumps":
		return "Practice"
	case "log", "learned", "logform", "ledger", "besidemade":
		return "Log"
	}
	if strings.HasPrefix(path, "/recipes/") { // at its stations
		return "Recipes"
	}
	return "Batches"
}

// Fail shows an error page.
func (s *Site) Fail(c *Visit, status int, head, text string) {
	s.failTo(c, status, head, text)
}

// WayOn is where one can go from a page that says what cannot be.
type WayOn struct{ To, Name string }

// failTo is fail with where one can go on.
func (s *Site) failTo(c *Visit, status int, head, text string, ways ...WayOn) {
	s.Render(c, status, "error", head, struct {
		Head, Text string
		Ways       []WayOn
	}{head, text, ways})
}

const MaxBody = 256 << 10 // bytes

// DBTimeout is how long the database may take over one answer; what hangs longer is told as a page.
const DBTimeout = 8 * time.Second
