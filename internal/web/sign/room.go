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

// New returns the room of a site, which asks it from then on who is still signed in; secure where browsers reach it by
// https.
func New(s *page.Site, secure bool) *Room {
	s.Add("sign", templates, nil)
	r := &Room{Site: s, sessions: newSessions(s.Store, secure)}
	s.StillIn = r.mayGoOn
	return r
}
