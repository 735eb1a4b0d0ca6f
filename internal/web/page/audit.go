package page

import (
	"context"
	"net/http"
	"net/netip"

	"hollen/internal/store"
)

// AddressOf is where a request comes from; none where it does not say.
func AddressOf(r *http.Request) netip.Addr {
	at, err := netip.ParseAddrPort(r.RemoteAddr)
	if err != nil {
		return netip.Addr{}
	}
	return at.Addr().Unmap()
}

// Addressed is where a request comes from, for the trail and for counting tries.
func Addressed(r *http.Request) string { return AddressOf(r).String() }

// Audit notes what was done, by whoever is signed in; what cannot be noted is in the log.
func (s *Site) Audit(c *Visit, what, detail string) {
	who := ""
	if a := c.Who; a != nil {
		who = a.Name
	}
	s.AuditAs(c, who, what, detail)
}

// AuditAs is Audit under a name: who signs in is not signed in yet.
func (s *Site) AuditAs(c *Visit, who, what, detail string) {
	line := store.Audit{Who: who, What: what, Detail: detail, Address: Addressed(c.Request)}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(c.Request.Context()), DBTimeout)
	defer cancel()
	if err := s.Store.Audited(ctx, line); err != nil {
		s.Log.Error("audit", "who", who, "what", what, "detail", detail, "err", err)
	}
}
