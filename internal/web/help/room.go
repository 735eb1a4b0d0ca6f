// Package help is the pages that explain the others: what a page is for, its words, where its figures come from, and
// the glossary of the craft.
package help

import (
	"embed"
	"net/http"
	"strings"

	"hollen/internal/web/page"
)

//go:embed templates/*.html
var templates embed.FS

// Room answers its addresses.
type Room struct {
	*page.Site
}

// New returns the room of a site.
func New(s *page.Site) *Room {
	s.Add("help", templates, nil)
	return &Room{Site: s}
}

// helpView is what explains one page, or all.
type helpView struct{ Pages []explained }

// explained is what explains one page, with its words.
type explained struct {
	about
	Terms []Term
}

// ShowHelp explains the page that is asked for: of is its name, at the station of a batch. Of an unknown one it
// explains all.
func (s *Room) ShowHelp(c *page.Visit) error {
	of, at := c.Query("of"), c.Query("at")
	if as, is := explainedAs[of]; is {
		of = as
	}
	v := helpView{}
	for _, a := range explanations {
		if a.Of == of || at != "" && a.Of == of+"."+at || at == "" && strings.HasPrefix(a.Of, of+".") {
			v.Pages = append(v.Pages, explain(a))
		}
	}
	if len(v.Pages) == 0 && c.Query("part") == "" {
		for _, a := range explanations {
			v.Pages = append(v.Pages, explain(a))
		}
	}
	if c.Query("part") != "" {
		s.RenderPart(c, http.StatusOK, "help", "explained", v)
		return nil
	}
	s.Render(c, http.StatusOK, "help", "What is on this page", v)
	return nil
}

// explain looks the words of a page up.
func explain(a about) explained {
	out := explained{about: a}
	for _, key := range a.Words {
		if t, ok := termOf(key); ok {
			out.Terms = append(out.Terms, t)
		}
	}
	return out
}

// ShowGlossary lists the words of the craft.
func (s *Room) ShowGlossary(c *page.Visit) error {
	s.Render(c, http.StatusOK, "glossary", "Words of the craft", Glossary())
	return nil
}
