package store

import (
	"context"

	"gorm.io/gorm"
)

// A recipe of two doughs is two recipes tied, as two batches are: made, retired and handed on together.

// TieRecipes ties two recipes as the doughs of one, and parts what either was tied to before.
func (s *Store) TieRecipes(ctx context.Context, a, b uint64) error {
	return s.transact(ctx, func(tx *gorm.DB) error { return tieRecipes(tx, a, b) })
}

func tieRecipes(tx *gorm.DB, a, b uint64) error {
	both := []uint64{a, b}
	if err := tx.Model(&Recipe{}).Where("partner_id IN ?", both).UpdateColumn("partner_id", nil).Error; err != nil {
		return err
	}
	for from, to := range map[uint64]uint64{a: b, b: a} {
		if err := tx.Model(&Recipe{}).Where("id = ?", from).UpdateColumn("partner_id", to).Error; err != nil {
			return err
		}
	}
	return nil
}

// TieBatches ties two batches as the doughs of one.
func (s *Store) TieBatches(ctx context.Context, a, b uint64) error {
	return s.transact(ctx, func(tx *gorm.DB) error { return pair(tx, a, b) })
}
