// Package day is the pages of a day: who does what when, its orders, the wall, the phone, and what is set out.
package day

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
	days dayCache
}

// New returns the room of a site.
func New(s *page.Site) *Room {
	s.Add("day", templates, func(*template.Template) template.FuncMap { return dayFuncs })
	return &Room{Site: s}
}
