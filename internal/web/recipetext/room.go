// Package recipetext is the page that reads a recipe from text, checks it, and makes a batch of it.
package recipetext

import (
	"embed"

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
	s.Add("recipetext", templates, nil)
	return &Room{Site: s}
}
