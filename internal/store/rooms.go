package store

import (
	"context"
	"errors"

	"github.com/go-sql-driver/mysql"
)

// Room is the air of a day worth naming: winter with the stove on, wet August.
type Room struct {
	ID      uint64 `gorm:"primaryKey"`
	Name    string
	TempC   float64 // °C
	RH      float64 // share 0–1
	Version int     // counts how often it was kept, from 1
}

// MostRooms is how many rooms are kept.
const MostRooms = 200

// ErrTooMany says that as many are kept as are shown: one more would disappear.
var ErrTooMany = errors.New("as many are kept as can be")

// ErrNameTaken says that another room has that name.
var ErrNameTaken = errors.New("another room has that name")

// duplicateKey is MariaDB's error number for a value that must be unique and is not.
const duplicateKey = 1062

// Rooms returns the named rooms, driest first.
func (s *Store) Rooms(ctx context.Context) ([]Room, error) {
	var out []Room
	err := s.db.WithContext(ctx).Order("rh, temp_c, name").Limit(MostRooms).Find(&out).Error
	return out, err
}

// SaveRoom keeps a room: a new one when its ID is 0, otherwise in place of that version of the
// one of that ID, which gives ErrNotFound when there is none and ErrChanged when it was kept anew
// meanwhile. A name in use gives ErrNameTaken.
func (s *Store) SaveRoom(ctx context.Context, r Room) error {
	var err error
	if r.ID == 0 {
		var n int64
		if err := s.db.WithContext(ctx).Model(&Room{}).Count(&n).Error; err != nil {
			return err
		}
		if n >= MostRooms {
			return ErrTooMany
		}
		r.Version = 1
		err = s.db.WithContext(ctx).Create(&r).Error
	} else {
		done := s.db.WithContext(ctx).Model(&Room{}).Where("id = ? AND version = ?", r.ID, r.Version).
			Updates(map[string]any{"name": r.Name, "temp_c": r.TempC, "rh": r.RH, "version": r.Version + 1})
		if err = done.Error; err == nil && done.RowsAffected == 0 {
			if _, err := s.Room(ctx, r.ID); err != nil {
				return err
			}
			return ErrChanged
		}
	}
	var my *mysql.MySQLError
	if errors.As(err, &my) && my.Number == duplicateKey {
		return ErrNameTaken
	}
	return err
}

// Room returns the room of that ID; ErrNotFound when there is none.
func (s *Store) Room(ctx context.Context, id uint64) (Room, error) {
	var r []Room
	if err := s.db.WithContext(ctx).Where("id = ?", id).Find(&r).Error; err != nil {
		return Room{}, err
	}
	if len(r) == 0 {
		return Room{}, ErrNotFound
	}
	return r[0], nil
}

// DeleteRoom forgets a room. Batches keep the figures they were given.
func (s *Store) DeleteRoom(ctx context.Context, id uint64) error {
	return s.db.WithContext(ctx).Delete(&Room{}, id).Error
}
