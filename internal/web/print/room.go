// Package print is the paper of a batch: the sheet for the bench, and the label.
package print

import (
	"embed"

	"hollen/internal/web/page"
)

//go:embed templates/*.html
var templates embed.FS

// Room answers its addresses.
type Room struct {
	*page.Site
	// form is the batch of an address as its form stands; the page of the batch reads it.
	form func(*page.Visit) (*page.BatchForm, error)
}

// New returns the room of a site.
func New(s *page.Site, form func(*page.Visit) (*page.BatchForm, error)) *Room {
	s.Add("print", templates, nil)
	return &Room{Site: s, form: form}
}
