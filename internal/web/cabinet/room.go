// Package cabinet is the pages of what a workshop keeps: the shelves, the house, the calibration of a machine, what is
// brought in, and backups.
package cabinet

import (
	"embed"
	"html/template"

	"hollen/internal/web/page"
)

//go:embed templates/*.html
var templates embed.FS

// Room answers its addresses.
type Room struct {
	*page.Site
	backups string // folder of the nightly backups, "" where there are none
}

// New returns the room of a site.
func New(s *page.Site, backups string) *Room {
	s.Add("cabinet", templates, func(*template.Template) template.FuncMap { return sackFuncs })
	return &Room{Site: s, backups: backups}
}
