// Package sign is the pages where one signs in, and of accounts.
package sign

import (
	"embed"

	"github.com/alexedwards/scs/v2"

	"hollen/internal/web/page"
)

//go:embed templates/*.html
var templates embed.FS

// Room answers its addresses.
type Room struct {
	*page.Site
	sessions *scs.SessionManager
}

// New returns the room of a site.
func New(s *page.Site, secure bool) *Room {
	s.Add("sign", templates, nil)
	return &Room{Site: s, sessions: newSessions(s.Store, secure)}
}
