// Package bench is the screen at the bench: a making under way, its taps and news, the scale, and what a screen picks
// from.
package bench

import (
	"embed"

	"hollen/internal/web/page"
)

//go:embed templates/*.html
var templates embed.FS

// Room answers its addresses.
type Room struct {
	*page.Site
	heard roomTimes
}

// New returns the room of a site.
func New(s *page.Site) *Room {
	s.Add("bench", templates, nil)
	return &Room{Site: s}
}
