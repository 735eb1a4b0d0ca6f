// Package page is what the pages of every room share: how one is drawn and answered, in which units and with which
// marks, what came with a request, and the words and pieces they are written with.
package page

import (
	"net/http"

	"hollen/internal/account"
	"hollen/internal/device"
	"hollen/internal/workshop"
)

// Site is the pages of a workshop. Rooms add theirs to it before it is asked for any.
type Site struct {
	*workshop.Workshop
	Devices device.Hub // what scale and sensor say
	SignIn  bool       // accounts are asked for
	// StillIn says whether the session of a socket that stays open may still do what the socket does; where accounts
	// are asked for, the room they sign in at says so.
	StillIn func(*http.Request, account.Role) bool

	pages pages
}

// New returns the site of a workshop, without any pages.
func New(w *workshop.Workshop, signIn bool) *Site {
	s := &Site{Workshop: w, SignIn: signIn, pages: pages{},
		StillIn: func(*http.Request, account.Role) bool { return !signIn }}
	s.Add("", templates, nil)
	return s
}
