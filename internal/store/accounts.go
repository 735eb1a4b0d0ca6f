package store

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hollen/internal/clock"
	"hollen/internal/core/request"
)

// Account is somebody who may sign in. Password and PIN are hashes.
type Account struct {
	ID       uint64 `gorm:"primaryKey"`
	Name     string // as it is typed to sign in
	MakerID  uint64 // of the cabinet, whose name stands on what the account does
	Role     string // keeps, makes or looks
	Password string
	PIN      string `gorm:"column:pin"`
	Stamp    int    // another whenever sessions from before are to end
	Made     time.Time
	Maker    string `gorm:"->;-:migration"` // the name on the cabinet's shelf
}

// keeps is the role that keeps the workshop: somebody has to have it.
const keeps = "keeps"

// These are the errors of accounts.
var (
	ErrAccountTaken = errors.New("there is an account of that name")
	ErrFirstKeeps   = errors.New(
		"somebody has to keep the workshop first (--role keeps): nobody could make or change the others",
	)
	ErrLastKeeper = errors.New("somebody has to keep the workshop: make another account keep it first")
)

// maker is the name of an account's maker as the cabinet has it, the account's own where it is gone.
const maker = "accounts.*, COALESCE(JSON_VALUE(cabinet.figures, '$.name'), accounts.name) AS maker"

func (s *Store) accounts(ctx context.Context) *gorm.DB {
	return s.db.WithContext(ctx).Model(&Account{}).Select(maker).Joins(
		"LEFT JOIN cabinet ON cabinet.id = accounts.maker_id AND cabinet.kind = ?", MakerKind)
}

// Accounts returns all accounts by name.
func (s *Store) Accounts(ctx context.Context) (out []Account, err error) {
	err = s.accounts(ctx).Order("accounts.name").Limit(500).Find(&out).Error
	return out, err
}

// Account returns the account of that ID; ErrNotFound where there is none.
func (s *Store) Account(ctx context.Context, id uint64) (Account, error) {
	return one(s.accounts(ctx).Where("accounts.id = ?", id))
}

// AccountNamed returns the account of that name, in whatever letters; ErrNotFound where there is none.
func (s *Store) AccountNamed(ctx context.Context, name string) (Account, error) {
	return one(s.accounts(ctx).Where("accounts.name = ?", name))
}

func one(db *gorm.DB) (Account, error) {
	var a []Account
	if err := db.Limit(1).Find(&a).Error; err != nil {
		return Account{}, err
	}
	if len(a) == 0 {
		return Account{}, ErrNotFound
	}
	return a[0], nil
}

// AnyAccount says whether there is an account.
func (s *Store) AnyAccount(ctx context.Context) (bool, error) {
	var n int64
	err := s.db.WithContext(ctx).Model(&Account{}).Limit(1).Count(&n).Error
	return n > 0, err
}

// AddAccount keeps a new account with the hash of its password, tied to the maker of its name, who is put on the shelf
// where there is none.
func (s *Store) AddAccount(ctx context.Context, name, role, hash string) (Account, error) {
	a := Account{Name: name, Role: role, Password: hash, Stamp: 1, Made: s.db.NowFunc()}
	err := s.transact(ctx, func(tx *gorm.DB) error {
		a.ID = 0
		var taken int64
		if err := tx.Model(&Account{}).Where("name = ?", name).Count(&taken).Error; err != nil {
			return err
		}
		if taken > 0 {
			return ErrAccountTaken
		}
		if role != keeps {
			keeping, err := keepers(tx)
			if err != nil {
				return err
			}
			if len(keeping) == 0 {
				return ErrFirstKeeps
			}
		}
		var err error
		if a.MakerID, err = makerNamed(tx, name); err != nil {
			return err
		}
		err = tx.Omit("Maker").Create(&a).Error
		if is(err, duplicateKey) {
			return ErrAccountTaken
		}
		return err
	})
	a.Maker = name
	return a, err
}

// makerNamed returns the maker of that name on the shelf, put there where there is none.
func makerNamed(tx *gorm.DB, name string) (uint64, error) {
	var all []item
	if err := tx.Where("kind = ?", MakerKind).Find(&all).Error; err != nil {
		return 0, err
	}
	for _, i := range all {
		if t, err := i.thing(); err == nil {
			if m, is := t.Value.(request.Maker); is && strings.EqualFold(m.Name, name) {
				return i.ID, nil
			}
		}
	}
	doc, err := json.Marshal(request.Maker{Name: name})
	if err != nil {
		return 0, err
	}
	return keepNew(tx, MakerKind, doc)
}

// SetPassword keeps the hash of another password; sessions from before end.
func (s *Store) SetPassword(ctx context.Context, id uint64, hash string) error {
	return s.changeAccount(ctx, id, map[string]any{"password": hash, "stamp": gorm.Expr("stamp + 1")})
}

// SetPIN keeps the hash of the PIN a tablet is unlocked with; "" is none.
func (s *Store) SetPIN(ctx context.Context, id uint64, hash string) error {
	return s.changeAccount(ctx, id, map[string]any{"pin": hash})
}

// EndSessions ends all sessions of an account.
func (s *Store) EndSessions(ctx context.Context, id uint64) error {
	return s.changeAccount(ctx, id, map[string]any{"stamp": gorm.Expr("stamp + 1")})
}

func (s *Store) changeAccount(ctx context.Context, id uint64, to map[string]any) error {
	done := s.db.WithContext(ctx).Model(&Account{}).Where("id = ?", id).Updates(to)
	if done.Error == nil && done.RowsAffected == 0 {
		return ErrNotFound
	}
	return done.Error
}

// SetRole gives an account another role; ErrLastKeeper where nobody would keep the workshop.
func (s *Store) SetRole(ctx context.Context, id uint64, role string) error {
	return s.keeping(ctx, id, role != keeps, func(tx *gorm.DB) *gorm.DB {
		return tx.Model(&Account{}).Where("id = ?", id).Update("role", role)
	})
}

// RemoveAccount takes an account away, and what it has practised; its maker and what stands under that name stay.
func (s *Store) RemoveAccount(ctx context.Context, id uint64) error {
	return s.keeping(ctx, id, true, func(tx *gorm.DB) *gorm.DB {
		who := AccountPractises(id)
		for _, of := range []any{&practiceCall{}, &PracticeRound{}} {
			if done := tx.Where("who = ?", who).Delete(of); done.Error != nil {
				return done
			}
		}
		return tx.Delete(&Account{}, id)
	})
}

// keeping changes an account, and refuses where that takes the last one that keeps the workshop.
func (s *Store) keeping(ctx context.Context, id uint64, less bool, do func(tx *gorm.DB) *gorm.DB) error {
	return s.transact(ctx, func(tx *gorm.DB) error {
		keeping, err := keepers(tx)
		if err != nil {
			return err
		}
		if less && len(keeping) == 1 && keeping[0] == id {
			return ErrLastKeeper
		}
		done := do(tx)
		if done.Error == nil && done.RowsAffected == 0 {
			return ErrNotFound
		}
		return done.Error
	})
}

// keepers are the accounts that keep the workshop, held while they are looked at.
func keepers(tx *gorm.DB) (ids []uint64, err error) {
	err = tx.Clauses(clause.Locking{Strength: "UPDATE"}).
		Model(&Account{}).
		Where("role = ?", keeps).
		Pluck("id", &ids).
		Error
	return ids, err
}

// NobodyKeeps says whether there are accounts, and none of them keeps the workshop: nobody could make or change any.
func (s *Store) NobodyKeeps(ctx context.Context) (bool, error) {
	var all, keeping int64
	err := errors.Join(s.db.WithContext(ctx).Model(&Account{}).Count(&all).Error,
		s.db.WithContext(ctx).Model(&Account{}).Where("role = ?", keeps).Count(&keeping).Error)
	return all > 0 && keeping == 0, err
}

// inviteFor is how long the address for the first account is good.
const inviteFor = 24 * time.Hour

// Invite returns a secret that lets whoever has it make the first account, once.
func (s *Store) Invite(ctx context.Context) (token string, err error) {
	token = rand.Text()
	err = s.db.WithContext(ctx).Exec("INSERT INTO invites (token, expires) VALUES (?, ?)", hashed(token),
		s.db.NowFunc().Add(inviteFor)).Error
	return token, err
}

// Invited says whether a secret is good: there is no account yet, and it has been handed out here.
func (s *Store) Invited(ctx context.Context, token string) (bool, error) {
	if any, err := s.AnyAccount(ctx); err != nil || any {
		return false, err
	}
	var n int64
	err := s.db.WithContext(ctx).Table("invites").Where("token = ? AND expires > ?", hashed(token),
		s.db.NowFunc()).Count(&n).Error
	return n > 0, err
}

// FirstAccount makes the first account with a secret, which is used up; ErrNotFound where it is not good.
func (s *Store) FirstAccount(ctx context.Context, token, name, hash string) (Account, error) {
	if good, err := s.Invited(ctx, token); err != nil || !good {
		return Account{}, errors.Join(err, ErrNotFound)
	}
	done := s.db.WithContext(ctx).Exec("DELETE FROM invites WHERE token = ?", hashed(token))
	if done.Error != nil || done.RowsAffected == 0 {
		return Account{}, errors.Join(done.Error, ErrNotFound)
	}
	return s.AddAccount(ctx, name, keeps, hash)
}

// Sessions keeps sessions by the hash of their token, as the session manager asks for them.
type Sessions struct{ *Store }

// Find returns a session's data; false where there is none, or it has expired.
func (s Sessions) FindCtx(ctx context.Context, token string) ([]byte, bool, error) {
	var rows []struct{ Data []byte }
	err := s.db.WithContext(ctx).Table("sessions").Where("token = ? AND expires > ?", hashed(token),
		s.db.NowFunc()).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return nil, false, err
	}
	return rows[0].Data, true, nil
}

// CommitCtx keeps a session until a moment, and forgets those that have expired.
func (s Sessions) CommitCtx(ctx context.Context, token string, b []byte, expires time.Time) error {
	expires = s.db.NowFunc().Add(expires.Sub(clock.Deadline(0))) // the session manager goes by the machine’s clock
	return again(func() error {
		if err := s.db.WithContext(ctx).Exec("DELETE FROM sessions WHERE expires < ? LIMIT 1000",
			s.db.NowFunc()).Error; err != nil {
			return err
		}
		return s.db.WithContext(ctx).Exec("INSERT INTO sessions (token, data, expires) VALUES (?, ?, ?) ON DUPLICATE "+
			"KEY UPDATE data = VALUES(data), "+
			"expires = VALUES(expires)", hashed(token), b, expires.UTC()).Error
	})
}

// DeleteCtx ends a session.
func (s Sessions) DeleteCtx(ctx context.Context, token string) error {
	return s.db.WithContext(ctx).Exec("DELETE FROM sessions WHERE token = ?", hashed(token)).Error
}

// Find is FindCtx without a context.
func (s Sessions) Find(token string) ([]byte, bool, error) {
	return s.FindCtx(context.Background(), token)
}

// Commit is CommitCtx without a context.
func (s Sessions) Commit(token string, b []byte, expires time.Time) error {
	return s.CommitCtx(context.Background(), token, b, expires)
}

// Delete is DeleteCtx without a context.
func (s Sessions) Delete(token string) error { return s.DeleteCtx(context.Background(), token) }

// Audit is one line of who did what that others may ask about.
type Audit struct {
	ID      uint64 `gorm:"primaryKey"`
	At      time.Time
	Who     string // "" where nobody signs in
	What    string // signed in, signed out, wrong password, account, role, deleted, restored, backup …
	Detail  string
	Address string
}

// auditKept is how long the trail is kept.
const auditKept = 400 * 24 * time.Hour

// Audited notes what was done.
func (s *Store) Audited(ctx context.Context, a Audit) error {
	a.At = s.db.NowFunc()
	a.Who = cut80(a.Who)
	a.Detail = string([]rune(a.Detail)[:min(len([]rune(a.Detail)), 200)])
	a.Address = a.Address[:min(len(a.Address), 60)]
	if err := s.db.WithContext(ctx).Create(&a).Error; err != nil {
		return err
	}
	return s.db.WithContext(ctx).Exec("DELETE FROM audits WHERE at < ? LIMIT 100", a.At.Add(-auditKept)).Error
}

// Audits returns the trail, the newest first, before a line of it, 0: from the end; at most n.
func (s *Store) Audits(ctx context.Context, before uint64, n int) (out []Audit, err error) {
	db := s.db.WithContext(ctx).Order("id DESC").Limit(n)
	if before > 0 {
		db = db.Where("id < ?", before)
	}
	err = db.Find(&out).Error
	return out, err
}

type byKey struct{}

// By returns a context whose writes are somebody's: their name stands on the versions they save.
func By(ctx context.Context, name string) context.Context {
	return context.WithValue(ctx, byKey{}, name)
}

// ByWhom is whose a context's writes are, "" where that is not known.
func ByWhom(ctx context.Context) string { return by(ctx) }

// by is whose writes a context's are, "" where that is not known.
func by(ctx context.Context) string {
	name, _ := ctx.Value(byKey{}).(string)
	return cut80(name)
}
