package store

import (
	"context"
	"database/sql/driver"
	"encoding/json"
	"errors"
	"fmt"

	"gorm.io/gorm"

	"hollen/internal/core/flour"
)

// OwnFlour is a flour of the workshop's own cabinet. One that is retired is offered no more;
// batches keep the figures they were made with.
type OwnFlour struct {
	ID        uint64 `gorm:"primaryKey"`
	Figures   Figures
	RetiredAt gorm.DeletedAt
}

// TableName names the table.
func (OwnFlour) TableName() string { return "flours" }

// Flour returns the flour with its key.
func (f OwnFlour) Flour() flour.Flour {
	out := f.Figures.Flour
	out.Key = fmt.Sprintf("%s%d", flour.OwnPrefix, f.ID)
	return out
}

// Figures is a flour kept as JSON.
type Figures struct{ flour.Flour }

// Scan reads a JSON column.
func (d *Figures) Scan(v any) error {
	switch v := v.(type) {
	case []byte:
		return json.Unmarshal(v, &d.Flour)
	case string:
		return json.Unmarshal([]byte(v), &d.Flour)
	}
	return fmt.Errorf("figures column holds a %T", v)
}

// Value writes a JSON column.
func (d Figures) Value() (driver.Value, error) {
	b, err := json.Marshal(d.Flour)
	return string(b), err
}

// GormDataType names the column type.
func (Figures) GormDataType() string { return "json" }

// Flours returns the workshop's own flours, retired ones last and only when asked for.
func (s *Store) Flours(ctx context.Context, retired bool) ([]OwnFlour, error) {
	db := s.db.WithContext(ctx)
	if retired {
		db = db.Unscoped()
	}
	var out []OwnFlour
	err := db.Order("retired_at IS NOT NULL, id").Limit(200).Find(&out).Error
	return out, err
}

// Flour returns the flour of that id, retired or not; ErrNotFound when there is none.
func (s *Store) Flour(ctx context.Context, id uint64) (OwnFlour, error) {
	var f OwnFlour
	err := s.db.WithContext(ctx).Unscoped().First(&f, id).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		err = ErrNotFound
	}
	return f, err
}

// SaveFlour keeps a flour's figures: a new one when id is 0, otherwise the one of that id,
// retired or not; ErrNotFound when there is none.
func (s *Store) SaveFlour(ctx context.Context, id uint64, f flour.Flour) (OwnFlour, error) {
	f.Key = ""
	own := OwnFlour{ID: id, Figures: Figures{f}}
	if id == 0 {
		return own, s.db.WithContext(ctx).Create(&own).Error
	}
	done := s.db.WithContext(ctx).Unscoped().Model(&OwnFlour{}).Where("id = ?", id).Update("figures", own.Figures)
	if done.Error == nil && done.RowsAffected == 0 {
		return own, ErrNotFound
	}
	return own, done.Error
}

// RetireFlour takes a flour off the list, or puts it back.
func (s *Store) RetireFlour(ctx context.Context, id uint64, retire bool) error {
	db := s.db.WithContext(ctx)
	if retire {
		return db.Delete(&OwnFlour{}, id).Error
	}
	return db.Unscoped().Model(&OwnFlour{}).Where("id = ?", id).UpdateColumn("retired_at", nil).Error
}
