package store

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"hollen/internal/core/learn"
	"hollen/internal/core/rules"
)

// keptLearned is the one row of what was learned.
type keptLearned struct {
	ID    uint64 `gorm:"primaryKey"`
	Stamp int
	Made  time.Time
	Doc   raw
}

// TableName names the table.
func (keptLearned) TableName() string { return "learned" }

// Learned returns the log as it is weighed by these rules, what of it counts, and its stamp: as it was kept where
// nothing has changed
// since, otherwise weighed anew and kept.
func (s *Store) Learned(ctx context.Context, ru rules.Learn) (*learn.Log, LogSettings, int, error) {
	set, stamp, err := s.LogSettings(ctx)
	if err != nil {
		return nil, set, 0, err
	}
	var rows []keptLearned
	if err := s.db.WithContext(ctx).Where("id = 1 AND stamp = ?", stamp).Find(&rows).Error; err != nil {
		return nil, set, 0, err
	}
	if len(rows) > 0 {
		if l, err := learn.Recall(ru, rows[0].Doc); err == nil {
			return l, set, stamp, nil
		}
	}
	l, err := s.weigh(ctx, ru, set)
	if err != nil {
		return nil, set, 0, err
	}
	if _, err := s.keepLearned(ctx, l, stamp); err != nil { // the next one weighs it again
		s.log.Warn("learned", "err", err)
	}
	return l, set, stamp, nil
}

// weigh weighs the newest makings.
func (s *Store) weigh(ctx context.Context, ru rules.Learn, set LogSettings) (*learn.Log, error) {
	made, err := s.NewestMade(ctx, ru.Newest)
	if err != nil {
		return nil, err
	}
	var entries []learn.Entry
	left := map[uint64]bool{}
	for _, m := range made {
		entries = append(entries, learn.Entry{Making: m.ID, Summary: m.Summary})
		left[m.ID] = m.Began.Before(set.Since) || slices.Contains(set.Left, m.ID)
	}
	doughs := slices.DeleteFunc(slices.Clone(set.Doughs), func(d learn.Sitting) bool { return d.At.Before(set.Since) })
	return learn.ReadWith(ru, entries, left, doughs), nil
}

// keepLearned keeps what was learned, unless something newer is kept; it returns the document.
func (s *Store) keepLearned(ctx context.Context, l *learn.Log, stamp int) ([]byte, error) {
	doc, err := json.Marshal(l)
	if err != nil {
		return nil, err
	}
	return doc, again(func() error {
		return s.db.WithContext(ctx).Exec(`INSERT INTO learned (id, stamp, made, doc) VALUES (1, ?, ?, ?) ON DUPLICATE KEY UPDATE
			doc = IF(VALUES(stamp) >= stamp, VALUES(doc), doc), made = IF(VALUES(stamp) >= stamp, VALUES(made), made), stamp = GREATEST(stamp, VALUES(stamp))`,
			stamp, s.now().UTC(), raw(doc)).Error
	})
}

// Refit weighs the log anew from nothing, its makings' events first, and keeps it. It returns how many makings it
// stands on, and whether
// what was kept before says the same to the last digit; was is false where nothing was.
func (s *Store) Refit(ctx context.Context, ru rules.Learn) (n int, was, same bool, err error) {
	var rows []keptLearned
	if err := s.db.WithContext(ctx).Where("id = 1").Find(&rows).Error; err != nil {
		return 0, false, false, err
	}
	if _, err := s.RemakeSummaries(ctx, true); err != nil {
		return 0, false, false, err
	}
	set, stamp, err := s.LogSettings(ctx)
	if err != nil {
		return 0, false, false, err
	}
	l, err := s.weigh(ctx, ru, set)
	if err != nil {
		return 0, false, false, err
	}
	doc, err := s.keepLearned(ctx, l, stamp)
	return l.Len(), len(rows) > 0, len(rows) > 0 && string(rows[0].Doc) == string(doc), err
}
