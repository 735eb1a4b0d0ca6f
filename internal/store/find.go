package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode"

	"gorm.io/gorm"
)

// Sort is the order of a list of batches.
type Sort string

// The orders of a list.
const (
	ByChange Sort = ""     // the one saved last first
	ByMade   Sort = "made" // by the day it is made on, the last first
	ByName   Sort = "name"
)

// Query says which batches a list shows, and in what order.
type Query struct {
	Words string    // all of them begin a word of its name, shape, flours or machine
	Shape string    // its name, "" any
	Since time.Time // saved since; zero: ever
	Sort  Sort
	From  Mark
}

// Mark is a place in a list: after the batch of that ID, saved at that time, or of that name or day. The zero
// Mark is the top.
type Mark struct {
	At  time.Time
	Key string
	ID  uint64
}

// sorting is how a list is ordered, and read from a mark on.
type sorting struct {
	by, after string
	key       func(m Mark) any
	index     string
}

var orders = map[Sort]sorting{
	ByChange: {"updated_at DESC, id DESC", "updated_at <= @key AND (updated_at < @key OR id < @id)",
		func(m Mark) any { return m.At }, "batches_list"},
	ByMade: {"made_on DESC, id DESC", "made_on <= @key AND (made_on < @key OR id < @id)",
		func(m Mark) any { return m.Key }, "batches_made"},
	ByName: {"name, id", "name >= @key AND (name > @key OR id > @id)", func(m Mark) any { return m.Key },
		"batches_name"},
}

// listed is a batch as it is read for a list.
type listed struct {
	Batch `gorm:"embedded"`
	Name  string
}

// nearest is how many batches from the mark on are looked through word by word before the index of words is
// asked: where nearly every batch holds a word, that is sooner done.
const nearest = 1000

// List returns the batches asked for, from the mark on, at most Page of them, and where the next page begins, nil
// when there is none. An order that is not known is that of changes.
func (s *Store) List(ctx context.Context, q Query) (batches []Batch, next *Mark, err error) {
	o, known := orders[q.Sort]
	if !known {
		o = orders[ByChange]
	}
	words := searched(q.Words)
	var rows []listed
	if len(words) > 0 {
		near := o.narrow(s.db.WithContext(ctx).Table("batches FORCE INDEX ("+o.index+")"),
			q).Select("id").Order(o.by).Limit(nearest)
		db := s.db.WithContext(ctx).Unscoped().Table("batches").Joins("JOIN (?) AS near ON near.id = batches.id", near)
		if rows, err = o.read(begin(db, words)); err != nil {
			return nil, nil, err
		}
	}
	if len(rows) <= Page {
		if rows, err = o.read(o.narrow(s.among(ctx, o, q, words), q)); err != nil {
			return nil, nil, err
		}
	}
	if len(rows) > Page {
		rows = rows[:Page]
		last := rows[Page-1]
		next = &Mark{last.UpdatedAt, map[Sort]string{ByMade: last.MadeOn, ByName: last.Name}[q.Sort], last.ID}
	}
	for _, r := range rows {
		batches = append(batches, r.Batch)
	}
	return batches, next, nil
}

// among is where a list is read from: what holds the words, or the index of its order, which left to itself the
// server passes by, and reads every batch down to the mark.
func (s *Store) among(ctx context.Context, o sorting, q Query, words []string) *gorm.DB {
	db := s.db.WithContext(ctx).Unscoped()
	switch {
	case len(words) > 0:
		known, others := indexed(words)
		if len(known) == 0 {
			return begin(db.Table("batches FORCE INDEX ("+o.index+")"), others)
		}
		return begin(db.Table("batches").Where("MATCH (found) AGAINST (? IN BOOLEAN MODE)", "+"+strings.Join(known,
			"* +")+"*"), others)
	case q.Shape != "":
		return db.Table("batches")
	}
	return db.Table("batches FORCE INDEX (" + o.index + ")")
}

// narrow is what of the batches a query lets through, but for its words.
func (o sorting) narrow(db *gorm.DB, q Query) *gorm.DB {
	db = db.Where("deleted_at IS NULL")
	if q.Shape != "" {
		db = db.Where("shape = ?", q.Shape)
	}
	if !q.Since.IsZero() {
		db = db.Where("updated_at >= ?", q.Since)
	}
	if q.From.ID != 0 {
		db = db.Where(o.after, map[string]any{"key": o.key(q.From), "id": q.From.ID})
	}
	return db
}

// read reads a page, and one more to know of another.
func (o sorting) read(db *gorm.DB) (rows []listed, err error) {
	err = db.Select("batches.id, version, `row`, created_at, updated_at, deleted_at, partner_id, name, made_on").Order(
		o.by).Limit(Page + 1).Find(&rows).Error
	return rows, err
}

// shortest is the shortest word that is looked for, letters: what the server indexes.
const shortest = 3

// unindexed are the words the server's index of words leaves out.
var unindexed = strings.Fields("a about an are as at be by com de en for from how i in is it la of on or that the " +
	"this to was what when where who " +
	"will with und www")

// indexed parts words into those the index of words knows and the others.
func indexed(words []string) (known, others []string) {
	for _, w := range words {
		if len([]rune(w)) >= shortest && !slices.Contains(unindexed, w) {
			known = append(known, w)
		} else {
			others = append(others, w)
		}
	}
	return known, others
}

// begin lets those batches through that hold words, or words that begin so.
func begin(db *gorm.DB, words []string) *gorm.DB {
	for _, w := range words {
		db = db.Where("found REGEXP ?", `(^|[^\p{L}\p{N}])`+w)
	}
	return db
}

// searched are the words that are looked for, or their beginnings. Shorter words are passed over.
func searched(text string) (out []string) {
	for _, w := range strings.FieldsFunc(strings.ToLower(text), func(r rune) bool {
		return !unicode.IsLetter(r) &&
			!unicode.IsDigit(r)
	}) {
		if len([]rune(w)) >= shortest && len(out) < 8 {
			out = append(out, w)
		}
	}
	return out
}

// Shapes returns the names of the shapes there are batches of, at most 60.
func (s *Store) Shapes(ctx context.Context) (out []string, err error) {
	err = s.db.WithContext(ctx).Raw("SELECT DISTINCT shape FROM batches WHERE deleted_at IS NULL AND shape <> '' " +
		"ORDER BY shape LIMIT 60").Scan(&out).Error
	return out, err
}

// Version returns a batch as it was saved as that version; ErrNotFound when there is none.
func (s *Store) Version(ctx context.Context, id uint64, version int) (Batch, error) {
	b, err := s.Get(ctx, id)
	if err != nil && !errors.Is(err, ErrUnreadable) { // another version of it may be read
		return b, err
	}
	var r []revision
	if err := s.db.WithContext(ctx).Where("batch_id = ? AND version = ?", id, version).Find(&r).Error; err != nil {
		return b, err
	}
	if len(r) == 0 {
		return b, ErrNotFound
	}
	if bad := r[0].Request.bad; bad != nil {
		return b, fmt.Errorf("batch %d, version %d: %w", id, version, bad)
	}
	b.Version = r[0].Version
	b.Request = r[0].Request
	b.UpdatedAt = r[0].SavedAt
	return b, nil
}

// SavedVersion is one version of a batch: which, and when it was saved.
type SavedVersion struct {
	Version int
	SavedAt time.Time
	SavedBy string
}

// Versions returns the versions of a batch, the last first, at most 200.
func (s *Store) Versions(ctx context.Context, id uint64) (out []SavedVersion, err error) {
	err = s.db.WithContext(ctx).Model(&revision{}).Select("version, saved_at, saved_by").Where("batch_id = ?",
		id).Order("version DESC").Limit(200).Scan(&out).Error
	return out, err
}
