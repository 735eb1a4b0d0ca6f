package day

import (
	"context"
	"errors"
	"slices"

	"hollen/internal/core/day"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/store"
)

// withSeconds puts behind what is to be made the second doughs of recipes of two: each by the factor of its first.
func (s *Room) withSeconds(ctx context.Context, date string, all []toMake) ([]toMake, error) {
	for i := range len(all) {
		x := all[i]
		if x.plan == nil || x.of.PartnerID == nil || slices.ContainsFunc(all, func(y toMake) bool {
			return y.plan != nil && y.of.ID == *x.of.PartnerID // it is made for orders of its own
		}) {
			continue
		}
		first, _, err := s.source(ctx, day.Like{ID: x.of.ID, Recipe: true}, date)
		if err != nil {
			return nil, err
		}
		was, err := plan.Make(s.RulesOf(ctx, &first), first)
		if err != nil {
			return nil, err
		}
		r, of, err := s.source(ctx, day.Like{ID: *x.of.PartnerID, Recipe: true}, date)
		if errors.Is(err, store.ErrNotFound) {
			continue
		}
		if err != nil {
			return nil, err
		}
		p, err := plan.Make(s.RulesOf(ctx, &r), r)
		if err != nil {
			return nil, err
		}
		to, _, err := recipe.Scale(r, p, recipe.Want{Times: x.plan.Formula.FlourG / was.Formula.FlourG})
		if err != nil {
			return nil, err
		}
		second, err := plan.Make(s.RulesOf(ctx, &to), to)
		if err != nil {
			return nil, err
		}
		all = append(all, toMake{plan: second, of: of, second: true, first: i})
	}
	return all, nil
}
