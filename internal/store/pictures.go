package store

import (
	"context"
	"errors"
	"time"

	"gorm.io/gorm"
)

// MostPictures is how many pictures a making has, and MaxPicture how many bytes one may be.
const (
	MostPictures = 6
	MaxPicture   = 500 << 10
)

// ErrPictures says that a making has as many pictures as it may have.
var ErrPictures = errors.New("a making has as many pictures as it may have")

type makingPicture struct {
	MakingID uint64 `gorm:"primaryKey"`
	N        int    `gorm:"primaryKey"`
	Kept     time.Time
	JPEG     []byte `gorm:"column:jpeg"`
}

// AddPicture keeps a picture of a making, a JPEG, and returns its number.
func (s *Store) AddPicture(ctx context.Context, making uint64, jpeg []byte) (n int, err error) {
	err = s.transact(ctx, func(tx *gorm.DB) error {
		known, err := pictures(tx, making)
		if err != nil {
			return err
		}
		if len(known) >= MostPictures {
			return ErrPictures
		}
		n = 1
		if len(known) > 0 {
			n = known[len(known)-1] + 1
		}
		return tx.Create(&makingPicture{making, n, tx.NowFunc(), jpeg}).Error
	})
	return n, err
}

// pictures are the numbers of the pictures of a making, in order.
func pictures(tx *gorm.DB, making uint64) (out []int, err error) {
	err = tx.Model(&makingPicture{}).Where("making_id = ?", making).Order("n").Pluck("n", &out).Error
	return out, err
}

// Pictures are the numbers of the pictures of a making, in order.
func (s *Store) Pictures(ctx context.Context, making uint64) ([]int, error) {
	return pictures(s.db.WithContext(ctx), making)
}

// Picture returns one picture of a making; ErrNotFound where there is none.
func (s *Store) Picture(ctx context.Context, making uint64, n int) ([]byte, error) {
	var rows []makingPicture
	if err := s.db.WithContext(ctx).Where("making_id = ? AND n = ?", making, n).Find(&rows).Error; err != nil {
		return nil, err
	}
	if len(rows) == 0 {
		return nil, ErrNotFound
	}
	return rows[0].JPEG, nil
}

// RemovePicture takes a picture away.
func (s *Store) RemovePicture(ctx context.Context, making uint64, n int) error {
	return s.db.WithContext(ctx).Where("making_id = ? AND n = ?", making, n).Delete(&makingPicture{}).Error
}
