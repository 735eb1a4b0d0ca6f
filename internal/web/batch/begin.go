package batch

import (
	"fmt"
	"net/http"

	"hollen/internal/web/page"
)

// BeginMaking begins a making of a batch as its form stands, and of its second dough, and goes to the bench.
func (s *Room) BeginMaking(c *page.Visit) error {
	a, err := s.askSound(c)
	if err != nil {
		return err
	}
	c.Guided("batch")
	ctx, now := c.Request.Context(), s.Now()
	if id, twice := s.BegunJustNow(ctx, a.batch.ID, a.view.Plan, now); twice {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", id))
		return nil
	}
	m, err := s.Store.Begin(ctx, a.batch, a.view.Plan, now)
	if err == nil && a.batch.PartnerID != nil {
		err = s.BeginPartner(ctx, *a.batch.PartnerID, m, a.view.Plan, now)
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", m.ID))
	return nil
}
