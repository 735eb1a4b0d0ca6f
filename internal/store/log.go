package store

import (
	"context"
	"encoding/json"
	"slices"
	"strings"
	"time"
	"unicode"

	"hollen/internal/core/learn"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// LogSettings is what of the log counts.
type LogSettings struct {
	Off    bool      `json:"off"`            // nothing learned goes into any plan
	Flours []string  `json:"flours_off"`     // labels of flours for which nothing does
	Left   []uint64  `json:"left_out"`       // makings that do not count
	Since  time.Time `json:"since,omitzero"` // reset: makings begun before do not count
	Ticked []uint64  `json:"ticked"`         // makings whose word for next time has been seen to
	Away   []string  `json:"away"`           // questions sent away for good
	// Doughs are the sittings of small doughs, the oldest first.
	Doughs []learn.Sitting `json:"small_doughs,omitempty"`
	// Practised says that everybody may practise on moments of everybody's makings.
	Practised bool `json:"practised,omitempty"`

	Damaged bool `json:"-"` // what was kept of this cannot be read: nothing counts until somebody lets it
}

// logSettings is the one row they are kept in.
type logSettings struct {
	ID      uint64 `gorm:"primaryKey"`
	Version int
	Doc     raw
}

// LogSettings returns what of the log counts; all of it in a workshop that has said nothing.
func (s *Store) LogSettings(ctx context.Context) (set LogSettings, version int, err error) {
	var rows []logSettings
	if err := s.db.WithContext(ctx).Where("id = 1").Find(&rows).Error; err != nil || len(rows) == 0 {
		return set, 0, err
	}
	if err := read(rows[0].Doc, &set); err != nil {
		s.log.Error("log settings", "err", err)
		set = LogSettings{Off: true, Damaged: true}
	}
	return set, rows[0].Version, nil
}

// ChangeLogSettings changes what of the log counts, one process at a time. Where that cannot be read, a change that
// leaves it Damaged is refused:
// ErrUnreadable.
func (s *Store) ChangeLogSettings(ctx context.Context, change func(*LogSettings)) error {
	return s.transact(ctx, func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&logSettings{ID: 1,
			Doc: raw("{}")}).Error; err != nil {
			return err
		}
		var row logSettings
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).First(&row, 1).Error; err != nil {
			return err
		}
		var set LogSettings
		bad := read(row.Doc, &set)
		if bad != nil {
			set = LogSettings{Off: true, Damaged: true}
		}
		if change(&set); set.Damaged {
			return bad
		}
		slices.Sort(set.Left)
		set.Left = slices.Compact(set.Left)
		doc, err := json.Marshal(set)
		if err != nil {
			return err
		}
		return tx.Model(&logSettings{}).Where("id = 1").Updates(map[string]any{"doc": raw(doc), "version": row.Version +
			1}).Error
	})
}

// LogStamp is another number whenever what may be learned is another: a making has ended, goes on again or was said
// more of, or settings
// have changed.
func (s *Store) LogStamp(ctx context.Context) (n int, err error) {
	err = s.db.WithContext(ctx).Model(&logSettings{}).Select("COALESCE(MAX(version), 0)").Where("id = 1").Scan(&n).Error
	return n, err
}

// stampLog says that the log is another.
func stampLog(tx *gorm.DB) error {
	return tx.Exec("INSERT INTO log_settings (id, version, doc) VALUES (1, 1, '{}') ON DUPLICATE KEY UPDATE version " +
		"= version + 1").Error
}

// NewestMade returns the newest ended makings, the newest first.
func (s *Store) NewestMade(ctx context.Context, n int) ([]Made, error) {
	return s.made(
		ctx,
		s.db.WithContext(ctx).
			Table("making_summaries FORCE INDEX (summaries_began)").
			Order("began DESC, making_id DESC").
			Limit(n),
	)
}

// MadeQuery says which ended makings a page of the log shows.
type MadeQuery struct {
	Words string // all of them stand in its name, shape, flours, lots, makers or words
	Felt  *int   // −2 … 2
	From  time.Time
	To    time.Time
	After Mark // a place in the list
	Most  int  // how many at most, 0: LogPage
}

// LogPage is how many makings a page of the log shows.
const LogPage = 40

// nearMade is how many makings are looked through for words before the index of words is asked, in two goes: what is
// common is among the
// newest, and the index is slow where it finds thousands.
var nearMade = []int{600, 4000}

// FindMade returns ended makings by what is looked for, the newest first, at most LogPage, and where the next page
// begins, nil at the
// end.
func (s *Store) FindMade(ctx context.Context, q MadeQuery) ([]Made, *Mark, error) {
	most := q.Most
	if most == 0 {
		most = LogPage
	}
	const newest = "began DESC, making_id DESC"
	narrow := func(from string) *gorm.DB {
		db := s.db.WithContext(ctx).Table(from)
		if q.Felt != nil {
			db = db.Where("felt = ?", *q.Felt)
		}
		if !q.From.IsZero() {
			db = db.Where("began >= ?", q.From.UTC())
		}
		if !q.To.IsZero() {
			db = db.Where("began < ?", q.To.UTC())
		}
		if q.After.ID > 0 {
			db = db.Where("began <= ? AND (began < ? OR making_id < ?)", q.After.At.UTC(), q.After.At.UTC(), q.After.ID)
		}
		return db
	}
	byTime := "making_summaries FORCE INDEX (summaries_began)"
	if q.Felt != nil {
		byTime = "making_summaries FORCE INDEX (summaries_felt)"
	}
	page := func(db *gorm.DB) ([]Made, *Mark, error) {
		out, err := s.made(ctx, db.Order(newest).Limit(most+1))
		if err != nil || len(out) <= most {
			return out, nil, err
		}
		out = out[:most]
		last := out[most-1]
		return out, &Mark{At: last.Began, ID: last.ID}, nil
	}
	words := wordsOf(q.Words)
	if len(words) == 0 {
		return page(narrow(byTime))
	}
	beginning := func(db *gorm.DB, words []string) *gorm.DB {
		for _, w := range words {
			db = db.Where("words LIKE ?", "% "+w+"%")
		}
		return db
	}
	for _, n := range nearMade {
		var edge []time.Time
		if err := narrow(byTime).Select("began").Order(newest).Offset(n).Limit(1).Scan(&edge).Error; err != nil {
			return nil, nil, err
		}
		near := beginning(narrow(byTime), words)
		if len(edge) == 0 { // that is all there is
			return page(near)
		}
		out, next, err := page(near.Where("began > ?", edge[0]))
		if err != nil || next != nil {
			return out, next, err
		}
		if n == nearMade[len(nearMade)-1] && len(out) > n/200 { // common enough to be met on the way back
			return page(beginning(narrow(byTime), words))
		}
	}
	known, others := indexed(words)
	if len(known) == 0 {
		return page(beginning(narrow(byTime), others))
	}
	return page(beginning(narrow("making_summaries"), others).Where("MATCH (words) AGAINST (? IN BOOLEAN MODE)",
		"+"+strings.Join(known, "* +")+"*"))
}

// wordsOf are the words of a text in small letters, as they are kept to be found.
func wordsOf(text string) []string {
	return strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return !unicode.IsLetter(r) &&
			!unicode.IsDigit(r)
	})
}

// MadeByID returns ended makings by their IDs, the newest first.
func (s *Store) MadeByID(ctx context.Context, ids []uint64) ([]Made, error) {
	return s.made(
		ctx,
		s.db.WithContext(ctx).Where("making_id IN ?", ids).Order("began DESC, making_id DESC").Limit(LogPage*5),
	)
}

// LastWord returns the newest ended making of a batch, or of one of its name, with its word for next time; nil where
// there is none, it says
// nothing, or that has been seen to.
func (s *Store) LastWord(ctx context.Context, batch uint64, name string) (*Made, error) {
	set, _, err := s.LogSettings(ctx)
	if err != nil {
		return nil, err
	}
	for _, of := range []*gorm.DB{s.db.WithContext(ctx).Where("batch_id = ?", batch),
		s.db.WithContext(ctx).Where("name = ?", name)} {
		made, err := s.made(ctx, of.Order("began DESC, making_id DESC").Limit(1))
		if err != nil {
			return nil, err
		}
		if len(made) == 0 {
			continue
		}
		if m := made[0]; m.Next != "" && !slices.Contains(set.Ticked, m.ID) {
			return &m, nil
		}
		return nil, nil
	}
	return nil, nil
}
