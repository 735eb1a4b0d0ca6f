package day

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"hollen/internal/core/day"
	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// holds is what a choice of a proposal is made of: its name and what it holds; an error, store.ErrNotFound, where it is
// gone, and no name where nothing is chosen, or a dough of another proposal.
func (s *Room) holds(ctx context.Context, chosen, date string) (name string, h order.Holds, err error) {
	number := strings.TrimPrefix(chosen, "on-")
	like, err := day.ReadLike(number)
	if err != nil {
		return "", h, nil
	}
	r, of, err := s.source(ctx, like, date)
	if err != nil {
		return "", h, err
	}
	p, err := plan.Make(s.RulesOf(ctx, &r), r)
	if err != nil {
		return "", h, err
	}
	if like.Recipe {
		h, err = s.withSecond(ctx, day.HoldsOf(p, of.Besides.V.Label), like, of.PartnerID, date)
		return r.Name, h, err
	}
	b, err := s.Store.Get(ctx, like.ID)
	if err != nil {
		return "", h, err
	}
	h, err = s.batchHolds(ctx, &b, p)
	return r.Name, h, err
}

// batchHolds is what a batch of a plan holds, and the dough that goes together with it.
func (s *Room) batchHolds(ctx context.Context, b *store.Batch, p *plan.Plan) (order.Holds, error) {
	label, err := s.labelOf(ctx, b.ID)
	if err != nil {
		return order.Holds{}, err
	}
	return s.withSecond(ctx, day.HoldsOf(p, label), day.Like{ID: b.ID}, b.PartnerID, p.Request.MadeOn)
}

// withSecond is what something holds, and its second dough, a batch or a recipe as it is; one that is gone has nothing.
func (s *Room) withSecond(ctx context.Context, h order.Holds, of day.Like, second *uint64,
	date string) (order.Holds, error) {
	if second == nil {
		return h, nil
	}
	like := day.Like{ID: *second, Recipe: of.Recipe}
	r, recipe, err := s.source(ctx, like, date)
	if errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrDeleted) {
		return h, nil
	}
	if err != nil {
		return h, err
	}
	p, err := plan.Make(s.RulesOf(ctx, &r), r)
	if err != nil {
		return h, err
	}
	label := recipe.Besides.V.Label
	if !like.Recipe {
		if label, err = s.labelOf(ctx, like.ID); err != nil {
			return h, err
		}
	}
	return h.With(day.HoldsOf(p, label)), nil
}

// labelOf is what the recipe of a batch says of its label.
func (s *Room) labelOf(ctx context.Context, batch uint64) (recipe.Label, error) {
	b, err := s.Store.Get(ctx, batch)
	if err != nil || b.RecipeID == nil {
		return recipe.Label{}, err
	}
	of, err := s.Store.RecipeByID(ctx, *b.RecipeID)
	if errors.Is(err, store.ErrNotFound) {
		err = nil
	}
	return of.Besides.V.Label, err
}

// marksOf are what orders are to be without, all together.
func marksOf(orders []store.Order) (all []order.Mark) {
	var texts []string
	for _, o := range orders {
		texts = append(texts, o.What, o.Noted())
	}
	return order.Marks(texts...)
}

// against says what orders are to be without, and what of a choice goes against that.
func (s *Room) against(ctx context.Context, orders []store.Order, chosen, date string) (string, []string, error) {
	marks := marksOf(orders)
	if len(marks) == 0 {
		return "", nil, nil
	}
	name, h, err := s.holds(ctx, chosen, date)
	if errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrDeleted) {
		err = nil
	}
	if err != nil || name == "" {
		return order.MarksWords(marks), nil, err
	}
	return order.MarksWords(marks), named(name, h.Against(marks)), nil
}

// named are faults of something of that name.
func named(name string, faults []string) (out []string) {
	for _, f := range faults {
		out = append(out, name+": "+f)
	}
	return out
}

// agree lets orders be served by what goes against what they are to be without only where it is said what was agreed
// with their customers; that is kept beside them, with who said it and when. Its error is a *notMade.
func (s *Room) agree(ctx context.Context, c *page.Visit, d *dayNow, x *toMake, chosen string, of []string,
	agreed map[string]string) error {
	if len(marksOf(x.orders)) == 0 {
		return nil
	}
	name, h, err := s.holds(ctx, chosen, d.Date)
	if err != nil {
		return err
	}
	if x.plan != nil { // with the shapes that are cut from it, too
		h = h.With(day.HoldsOf(x.plan, x.of.Besides.V.Label))
	}
	said := ""
	for _, marks := range of {
		if text := agreed[marks]; text != "" {
			said = text
		}
	}
	if n := len([]rune(said)); n > order.LongestNote {
		return &notMade{fmt.Sprintf("What was agreed: up to %d letters.", order.LongestNote)}
	}
	now := s.Now().UTC()
	for i := range x.orders {
		o := &x.orders[i]
		faults := named(name, h.Against(order.Marks(o.What, o.Noted())))
		if len(faults) == 0 {
			continue
		}
		if said == "" {
			return &notMade{fmt.Sprintf("%s: %s. Choose another, or say below what was agreed with %s.", o.Who,
				strings.Join(faults, "; "), o.Who)}
		}
		o.Agreed, o.AgreedAt, o.AgreedBy = said, &now, ""
		if c.Who != nil {
			o.AgreedBy = c.Who.Maker
		}
	}
	return nil
}

// withHolds says of orders that are to be without something what their batch holds of it, and of an allergy what else
// is made that day. Nothing is ever called safe.
func (s *Room) withHolds(ctx context.Context, d *dayNow, batches map[uint64]store.Batch, rows []orderRow) {
	var day0 []string
	said := false
	for i := range rows {
		r := &rows[i]
		b, ok := batches[r.Batch]
		if r.Marks == "" || !ok {
			continue
		}
		p, err := plan.Make(s.RulesOf(ctx, &b.Request.Request), b.Request.Request)
		if err != nil {
			r.Against = "what it is made of cannot be worked out"
			continue
		}
		h, err := s.batchHolds(ctx, &b, p)
		if err != nil {
			s.Log.Warn("orders", "holds", b.ID, "err", err)
			r.Against = "what it is made of cannot be worked out"
			continue
		}
		r.Against = strings.Join(h.Against(order.Marks(r.What, r.Note, r.Always)), "; ")
		if !r.Allergy {
			continue
		}
		if !said {
			day0, said = s.madeBeside(ctx, d), true
		}
		r.Beside = "It contains " + listed(h.In) + "."
		if len(h.May) > 0 {
			r.Beside += " It may contain " + listed(h.May) + "."
		}
		if len(day0) > 0 {
			r.Beside += " Made that day, too: " + measure.List(day0) + "."
		}
		r.Beside += " A kitchen with flour and eggs leaves traces."
	}
}

func listed(all []string) string {
	if len(all) == 0 {
		return "no allergen that is known"
	}
	return measure.List(all)
}

// madeBeside are the allergens of all that a day makes.
func (s *Room) madeBeside(ctx context.Context, d *dayNow) (out []string) {
	var ids []uint64
	for _, j := range d.Jobs {
		if !j.Left {
			ids = append(ids, j.Batch)
		}
	}
	of, err := s.Store.ByIDs(ctx, ids)
	if err != nil {
		s.Log.Warn("orders", "beside", d.Date, "err", err)
		return nil
	}
	for _, id := range ids {
		b, ok := of[id]
		if !ok {
			continue
		}
		p, err := plan.Make(s.RulesOf(ctx, &b.Request.Request), b.Request.Request)
		if err != nil {
			continue
		}
		for _, a := range p.Formula.Allergens {
			if !slices.Contains(out, a) {
				out = append(out, a)
			}
		}
	}
	return out
}
