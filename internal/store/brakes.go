package store

import (
	"context"
	"crypto/rand"
	"strconv"
	"strings"
	"time"

	"gorm.io/gorm"
)

// Brake is how often something may be tried: so many times from the first of them on, for so long.
type Brake struct {
	Most int
	Over time.Duration
}

// The brakes on what is guessed: a password for an account from one address or known device, the same from anywhere
// but its known devices, for any
// account from one address, and the PIN of one locked tablet.
var (
	FromAddress  = Brake{100, 15 * time.Minute}
	FromOnePlace = Brake{10, 15 * time.Minute}
	FromAnywhere = Brake{60, time.Hour}
	PINTries     = Brake{5, 30 * 24 * time.Hour}
)

// knownDevice is how long a device is known that an account has signed in on.
const knownDevice = 400 * 24 * time.Hour

// Take counts one more try of what is named and says whether it may be made. It is one statement, before the try: of
// those made at the same
// time each counts.
func (s *Store) Take(ctx context.Context, b Brake, who string) (may bool, n int, err error) {
	now := s.db.NowFunc()
	if err := s.db.WithContext(ctx).Exec("DELETE FROM sign_counts WHERE until < ? LIMIT 1000", now).Error; err != nil {
		return false, 0, err
	}
	done, err := s.sql.ExecContext(
		ctx,
		"INSERT INTO sign_counts (who, n, until) VALUES (?, 1, ?) ON DUPLICATE KEY UPDATE "+
			"n = LAST_INSERT_ID(IF(until <= ?, 1, n + 1)), until = IF(until <= ?, VALUES(until), until)",
		hashed(who),
		now.Add(b.Over),
		now,
		now,
	)
	if err != nil {
		return false, 0, err
	}
	n = 1
	if rows, err := done.RowsAffected(); err != nil {
		return false, 0, err
	} else if rows > 1 { // there was one already
		id, err := done.LastInsertId()
		if err != nil {
			return false, 0, err
		}
		n = int(id)
	}
	return n <= b.Most, n, nil
}

// GiveBack takes back a try that was not made, or was right.
func (s *Store) GiveBack(ctx context.Context, who string) error {
	return s.db.WithContext(ctx).Exec("UPDATE sign_counts SET n = n - 1 WHERE who = ? AND n > 0", hashed(who)).Error
}

// Forget begins to count anew.
func (s *Store) Forget(ctx context.Context, who string) error {
	return s.db.WithContext(ctx).Exec("DELETE FROM sign_counts WHERE who = ?", hashed(who)).Error
}

// Tried returns the account of a name, and what its tries are counted under: the account, however its name is spelt;
// where there is none, the
// name as the database compares names.
func (s *Store) Tried(ctx context.Context, name string) (a Account, under string, err error) {
	if a, err = s.AccountNamed(ctx, name); err == nil {
		return a, "account " + strconv.FormatUint(a.ID, 10), nil
	}
	var folded string
	if e := s.db.WithContext(ctx).Raw("SELECT HEX(WEIGHT_STRING(CONVERT(? USING utf8mb4) COLLATE utf8mb4_unicode_ci))",
		name).Scan(&folded).Error; e != nil {
		return a, "", e
	}
	return a, "name " + folded, err
}

// KnownDevice says whether an account has signed in on the device that has a token.
func (s *Store) KnownDevice(ctx context.Context, account uint64, token string) (bool, error) {
	if token == "" || account == 0 {
		return false, nil
	}
	var n int64
	err := s.db.WithContext(ctx).
		Table("sign_devices").
		Where("account_id = ? AND token = ? AND seen > ?", account, hashed(token),
			s.db.NowFunc().Add(-knownDevice)).
		Count(&n).
		Error
	return n > 0, err
}

// Know notes that an account has signed in on the device that has a token, and returns it; a device without one gets
// one.
func (s *Store) Know(ctx context.Context, account uint64, token string) (string, error) {
	if strings.Trim(token, "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567") != "" || len(token) != len(rand.Text()) { // none of ours
		token = rand.Text()
	}
	now := s.db.NowFunc()
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if err := tx.Exec("DELETE FROM sign_devices WHERE seen < ? LIMIT 1000",
			now.Add(-knownDevice)).Error; err != nil {
			return err
		}
		return tx.Exec(
			"INSERT INTO sign_devices (account_id, token, seen) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE seen = "+
				"VALUES(seen)",
			account,
			hashed(token),
			now,
		).Error
	})
	return token, err
}
