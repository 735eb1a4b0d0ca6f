// Package log is the pages of what was made: each making, the log of them all, the ledger, and what is learned.
package log

import (
	"embed"

	"hollen/internal/web/page"
)

//go:embed templates/*.html
var templates embed.FS

// Room answers its addresses.
type Room struct {
	*page.Site
	drawing chan struct{} // one picture at a time is read
}

// New returns the room of a site.
func New(s *page.Site) *Room {
	s.Add("log", templates, nil)
	return &Room{Site: s, drawing: make(chan struct{}, 1)}
}
