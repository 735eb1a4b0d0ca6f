package store

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/hex"
	"errors"
	"fmt"
	"strings"
	"time"

	"gorm.io/gorm/clause"
)

// Device is a scale or a sensor that may send readings. Its token is kept hashed.
type Device struct {
	Name  string `gorm:"primaryKey"`
	Kind  string // scale or room
	Token string // SHA-256 of it, hexadecimal
	Made  time.Time
}

// ErrDevice says that a device cannot be kept under that name or kind.
var ErrDevice = errors.New("a device has a name of 1 to 40 small letters a to z, figures and -, and is a scale or a room")

const deviceLetters = "abcdefghijklmnopqrstuvwxyz0123456789-"

// AddDevice keeps a device and returns its token, which is told this once; one of that name gets a new token.
func (s *Store) AddDevice(ctx context.Context, name, kind string) (token string, err error) {
	if name == "" || len(name) > 40 || strings.Trim(name, deviceLetters) != "" || kind != "scale" && kind != "room" {
		return "", fmt.Errorf("%q, %q: %w", name, kind, ErrDevice)
	}
	secret := make([]byte, 24)
	if _, err := rand.Read(secret); err != nil {
		return "", err
	}
	token = hex.EncodeToString(secret)
	d := Device{name, kind, hashed(token), s.db.NowFunc()}
	return token, s.db.WithContext(ctx).Clauses(clause.OnConflict{UpdateAll: true}).Create(&d).Error
}

func hashed(token string) string {
	sum := sha256.Sum256([]byte(token))
	return hex.EncodeToString(sum[:])
}

// Devices returns the devices by name.
func (s *Store) Devices(ctx context.Context) (out []Device, err error) {
	err = s.db.WithContext(ctx).Order("name").Limit(200).Find(&out).Error
	return out, err
}

// RemoveDevice forgets a device; ErrNotFound when there is none.
func (s *Store) RemoveDevice(ctx context.Context, name string) error {
	done := s.db.WithContext(ctx).Where("name = ?", name).Delete(&Device{})
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return done.Error
}

// DeviceWith returns the device of that name if the token is its own; ErrNotFound otherwise, whichever is wrong.
func (s *Store) DeviceWith(ctx context.Context, name, token string) (Device, error) {
	var d []Device
	if err := s.db.WithContext(ctx).Where("name = ?", name).Find(&d).Error; err != nil {
		return Device{}, err
	}
	if len(d) == 0 {
		d = []Device{{Token: hashed("")}}
		token = "no such device"
	}
	if subtle.ConstantTimeCompare([]byte(hashed(token)), []byte(d[0].Token)) != 1 {
		return Device{}, ErrNotFound
	}
	return d[0], nil
}
