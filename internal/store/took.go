package store

import (
	"context"
	"encoding/json"

	"gorm.io/gorm"

	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
)

// Took is what a batch took from the house or a day, by path: as it was made, and what days have set since.
func (s *Store) Took(ctx context.Context, b Batch) (map[string]string, error) {
	var first []revision
	if err := s.db.WithContext(ctx).Where("batch_id = ? AND version = 1", b.ID).Find(&first).Error; err != nil {
		return nil, err
	}
	out := recipe.Took(b.Request.Request)
	if len(first) == 1 && first[0].Request.bad == nil {
		out = recipe.Took(first[0].Request.Request)
	}
	set, err := s.setByDays(ctx, b.ID)
	for path, v := range set {
		out[path] = v
	}
	return out, err
}

// setByDays is what days have set in a batch.
func (s *Store) setByDays(ctx context.Context, id uint64) (map[string]string, error) {
	var rows []struct{ Took raw }
	if err := s.db.WithContext(ctx).Table("batches").Select("took").Where("id = ?", id).Scan(&rows).Error; err != nil {
		return nil, err
	}
	out := map[string]string{}
	if len(rows) == 1 && rows[0].Took != nil && json.Unmarshal(rows[0].Took, &out) != nil {
		out = map[string]string{} // as if nothing had been set: it counts as typed then, and stays
	}
	return out, nil
}

// SaveFromDay keeps the request of p as the next version of a batch that was opened at version, and that a day has set
// these paths of it. Its errors are those of Save.
func (s *Store) SaveFromDay(ctx context.Context, id uint64, version int, p *plan.Plan, paths map[string]bool) error {
	return s.Atomically(ctx, func(in *Store) error {
		b, err := in.Save(ctx, id, version, p)
		if err != nil {
			return err
		}
		set, err := in.setByDays(ctx, id)
		if err != nil {
			return err
		}
		now := recipe.Took(b.Request.Request)
		for path := range paths {
			set[path] = now[path]
		}
		doc, err := json.Marshal(set)
		if err != nil {
			return err
		}
		return in.db.WithContext(ctx).Model(&Batch{}).Where("id = ?", id).
			UpdateColumn("took", gorm.Expr("?", string(doc))).Error
	})
}
