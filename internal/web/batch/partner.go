package batch

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// partnerView is the other dough of a batch, as stripes are made of: two formulas, linked.
type partnerView struct {
	ID      uint64
	Plan    *plan.Plan
	TotalG  float64 // both doughs
	Differs string  // how its room differs, "" when it does not
	Set     string  // what takes its room
}

// stripeShare is the dough a second colour starts with, share of the first: 2 of 5 of the
// length striped, 0.6 mm on a base of 1.6 mm. Source: house.
const stripeShare = .4 * .6 / 1.6

// loadPartner fills in the other dough of v, if it has one that is not deleted.
func (s *Room) loadPartner(c *page.Visit, v *batchView) {
	if v.PartnerID == nil {
		return
	}
	ctx := c.Request.Context()
	b, err := s.Store.Get(ctx, *v.PartnerID)
	if err != nil {
		if !errors.Is(err, store.ErrDeleted) && !errors.Is(err, store.ErrNotFound) {
			s.Log.Warn("partner", "err", err)
		}
		return
	}
	p, err := plan.MakeIn(v.In, s.RulesOf(c.Request.Context(), &b.Request.Request), b.Request.Request)
	if err != nil {
		s.Log.Warn("partner", "batch", b.ID, "err", err)
		return
	}
	v.Partner = &partnerView{ID: b.ID, Plan: p, TotalG: p.Formula.Dough.MassG + v.Plan.Formula.Dough.MassG}
	if mine, other := v.Request.Room, p.Request.Room; mine.TempC != other.TempC || mine.RH != other.RH {
		v.Partner.Differs = fmt.Sprintf("%s and %.3g %%", v.In.C(other.TempC, measure.Shortest), 100*other.RH)
		v.Partner.Set = url.Values{"room.temp_c": {fmt.Sprint(other.TempC)}, "room.rh": {fmt.Sprintf("%.6g",
			100*other.RH)}}.Encode()
	}
}

// PartnerBatch makes a second dough for this one, from the form as it stands: the same eggs,
// room and machine, plain where the first is coloured and green where it is plain.
func (s *Room) PartnerBatch(c *page.Visit) error {
	a, err := s.askSound(c)
	if err != nil {
		return err
	}
	r := a.view.Request.Again(a.view.Request.MadeOn)
	r.Keep.MadeAt = a.view.Request.Keep.MadeAt
	r.Name = page.Suffixed(r.Name, ", second dough")
	r.Amount.By, r.Amount.DoughG = "dough", max(80, stripeShare*a.view.Plan.Formula.Dough.MassG)
	r.Eggs.FixWhole = nil
	r.Eggs.FixYolks = nil
	r.Eggs.CrackedG = nil
	r.Eggs.Also = []request.EggCount{}
	r.Cut.Also = []request.ShapePart{}
	if len(r.Additions) > 0 {
		r.Additions = []request.AdditionPart{}
	} else {
		spinach := request.AdditionPart{Addition: "spinach"}
		spinach.Share = spinach.Kind().StartShare()
		r.Additions = []request.AdditionPart{spinach}
	}
	p, err := plan.Make(s.RulesOf(c.Request.Context(), &r), r)
	if err != nil {
		return s.FailPlan(c, a.batch.ID, err)
	}
	ctx := c.Request.Context()
	b, err := s.Store.CreatePartner(ctx, a.batch.ID, p)
	switch {
	case errors.Is(err, store.ErrPaired):
		return page.Refuse(http.StatusConflict, "This batch has a second dough already.",
			"Go back, and open it from the head of the page; or part the two first.")
	case err != nil:
		return err
	default:
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d", b.ID))
	}
	return nil
}

// PartBatch ends the link between two doughs; both stay.
func (s *Room) PartBatch(c *page.Visit) error {
	b, err := s.Load(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	if err := s.Store.Part(ctx, b.ID); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d", b.ID))
	return nil
}
