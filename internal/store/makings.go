package store

import (
	"context"
	"database/sql/driver"
	"encoding/json"
	"errors"
	"slices"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
)

// Making is one run through a batch: what it was begun with, which never changes, and how far its list of
// events has come.
type Making struct {
	ID           uint64 `gorm:"primaryKey"`
	BatchID      uint64
	BatchVersion int
	Request      BegunDocument
	Rules        ruleBook
	Units        measure.System
	Steps        raw    // as they were shown when it was begun; for reading alone
	Seq          uint64 // of its last event
	Began        time.Time
	Ended        *time.Time
	Once         *string `json:"-"` // the mark of the form it was logged with, of which there is one; nil at the bench
}

// Plan makes the plan of a making again, from what it was begun with; ErrUnreadable where that cannot be read.
func (m *Making) Plan() (*plan.Plan, error) {
	if err := m.Bad(); err != nil {
		return nil, err
	}
	return plan.MakeIn(m.Units, m.Rules.Rules, m.Request.Request)
}

// ruleBook is the rules a making was begun with, kept as JSON.
type ruleBook struct {
	rules.Rules
	bad error // they cannot be read, and why
}

// Scan reads a JSON column. What an older version did not write is as usual.
func (r *ruleBook) Scan(v any) error {
	r.Rules = rules.Default()
	var doc raw
	if r.bad = doc.Scan(v); r.bad == nil {
		r.bad = read(doc, &r.Rules)
	}
	return nil
}

// Value writes a JSON column.
func (r ruleBook) Value() (driver.Value, error) {
	if r.bad != nil {
		return nil, r.bad
	}
	b, err := json.Marshal(r.Rules)
	return string(b), err
}

// GormDataType names the column type.
func (ruleBook) GormDataType() string { return "json" }

type makingEvent struct {
	MakingID uint64 `gorm:"primaryKey"`
	Seq      uint64 `gorm:"primaryKey"`
	ID       string
	At       time.Time
	Arrived  time.Time
	Doc      raw
}

// MostEvents is how many events one making may have: some 30 times what a long one needs.
const MostEvents = 20_000

// ErrFull says that a making has as many events as it may have.
var ErrFull = errors.New("this making has as many events as it may have")

// Begin keeps a new making of a batch, as p stands.
func (s *Store) Begin(ctx context.Context, b Batch, p *plan.Plan, began time.Time) (Making, error) {
	m, err := newMaking(b, p, began)
	if err != nil {
		return m, err
	}
	return m, s.db.WithContext(ctx).Create(&m).Error
}

// BeginOnce is Begin, of a form that may come twice: what bears the same mark is the same making, which is returned.
func (s *Store) BeginOnce(ctx context.Context, b Batch, p *plan.Plan, began time.Time, once string) (Making, error) {
	m, err := newMaking(b, p, began)
	if err != nil {
		return m, err
	}
	m.Once = &once
	err = s.transact(ctx, func(tx *gorm.DB) error {
		m.ID = 0
		return tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&m).Error
	})
	if err != nil {
		return m, err
	}
	var kept Making
	return kept, s.db.WithContext(ctx).Where("once = ?", once).First(&kept).Error
}

func newMaking(b Batch, p *plan.Plan, began time.Time) (Making, error) {
	steps, err := json.Marshal(bench.Steps(p))
	return Making{
		BatchID:      b.ID,
		BatchVersion: b.Version,
		Request:      BegunDocument{Document{Request: p.Request}},
		Rules:        ruleBook{Rules: p.Rules()},
		Units:        p.In(),
		Steps:        steps,
		Began:        began.UTC().Truncate(time.Millisecond),
	}, err
}

// Making returns the making of that ID, damaged ones, too; ErrNotFound when there is none.
func (s *Store) Making(ctx context.Context, id uint64) (Making, error) {
	var m []Making
	if err := s.db.WithContext(ctx).Where("id = ?", id).Find(&m).Error; err != nil {
		return Making{}, err
	}
	if len(m) == 0 {
		return Making{}, ErrNotFound
	}
	return m[0], nil
}

// Makings returns the makings of a batch, damaged ones, too, the newest first, at most 100.
func (s *Store) Makings(ctx context.Context, batch uint64) (out []Making, err error) {
	err = s.db.WithContext(ctx).Where("batch_id = ?", batch).Order("began DESC, id DESC").Limit(100).Find(&out).Error
	return out, err
}

// UnderWay returns the makings that have not ended, damaged ones, too, the newest first, at most 20.
func (s *Store) UnderWay(ctx context.Context) (out []Making, err error) {
	err = s.db.WithContext(ctx).Where("ended IS NULL").Order("began DESC, id DESC").Limit(20).Find(&out).Error
	return out, err
}

// Events returns the events of a making after a place in its list, in the order they arrived, and the place
// of the last of them. One that cannot be read is a bench.Damaged.
func (s *Store) Events(ctx context.Context, making, after uint64) ([]bench.Event, uint64, error) {
	var rows []makingEvent
	if err := s.db.WithContext(ctx).Where("making_id = ? AND seq > ?", making,
		after).Order("seq").Find(&rows).Error; err != nil {
		return nil, after, err
	}
	out := make([]bench.Event, len(rows))
	for i, r := range rows {
		out[i], after = s.event(r), r.Seq
	}
	return out, after, nil
}

// AddEvents appends events to a making's list, those it has already left out, and returns the place of the last.
// It takes them one process at a time, so that nobody who follows the list misses one.
func (s *Store) AddEvents(ctx context.Context, making uint64, events []bench.Event) (seq uint64, err error) {
	err = s.transact(ctx, func(tx *gorm.DB) error {
		var m []Making
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Select("id", "seq").Where("id = ?",
			making).Find(&m).Error; err != nil {
			return err
		}
		if len(m) == 0 {
			return ErrNotFound
		}
		seq = m[0].Seq
		return appendEvents(tx, making, &seq, events)
	})
	return seq, err
}

func appendEvents(tx *gorm.DB, making uint64, seq *uint64, events []bench.Event) error {
	ids := make([]string, len(events))
	for i, e := range events {
		ids[i] = e.ID
	}
	var known []string
	if err := tx.Model(&makingEvent{}).Where("making_id = ? AND id IN ?", making, ids).Pluck("id",
		&known).Error; err != nil {
		return err
	}
	now, from := tx.NowFunc(), *seq
	var rows []makingEvent
	for _, e := range events {
		if slices.Contains(known, e.ID) {
			continue
		}
		known = append(known, e.ID)
		doc, err := json.Marshal(e)
		if err != nil {
			return err
		}
		*seq++
		rows = append(rows, makingEvent{making, *seq, e.ID, e.At, now, doc})
	}
	if len(rows) == 0 {
		return nil
	}
	if *seq > MostEvents {
		*seq = from
		return ErrFull
	}
	if err := tx.Create(&rows).Error; err != nil {
		return err
	}
	return tx.Model(&Making{}).Where("id = ?", making).UpdateColumn("seq", *seq).Error
}

// SetEnded keeps when a making ended, nil while it goes on.
func (s *Store) SetEnded(ctx context.Context, making uint64, at *time.Time) error {
	return s.db.WithContext(ctx).Model(&Making{}).Where("id = ?", making).UpdateColumn("ended", at).Error
}

// Places returns how far the lists of those makings have come, those there are.
func (s *Store) Places(ctx context.Context, makings []uint64) (map[uint64]uint64, error) {
	var rows []Making
	if err := s.db.WithContext(ctx).Select("id", "seq").Where("id IN ?", makings).Find(&rows).Error; err != nil {
		return nil, err
	}
	out := map[uint64]uint64{}
	for _, r := range rows {
		out[r.ID] = r.Seq
	}
	return out, nil
}
