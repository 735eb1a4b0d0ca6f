package store

import (
	"context"
	"database/sql/driver"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"sync"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hollen/internal/core/addition"
	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
	"hollen/internal/core/filling"
	"hollen/internal/core/flour"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// Thing is one thing of the workshop's own: a flour.Flour, flour.Lot, egg.Class, addition.Addition, addition.Yield,
// roll.Machine, cut.Shape, filling.Filling, request.Way or request.Maker. One that is retired is offered no more;
// batches keep the
// figures they were made with.
type Thing struct {
	ID      uint64
	Version int // counts how often it was kept, from 1
	Kind    Kind
	Value   any
	Retired bool
}

// Cabinet is everything a workshop keeps, oldest first. Keys are filled in.
type Cabinet struct {
	Flours    []flour.Flour
	Lots      []flour.Lot
	Eggs      []egg.Class
	Additions []addition.Addition
	Yields    []addition.Yield
	Machines  []roll.Machine // without their history
	Shapes    []cut.Shape
	Fillings  []filling.Filling
	Ways      []request.Way
	Makers    []request.Maker
	Workshop  string // its name
}

// Lot is the lot of that key; nil where there is none.
func (c *Cabinet) Lot(key string) *flour.Lot {
	for i := range c.Lots {
		if key != "" && c.Lots[i].Key == key {
			return &c.Lots[i]
		}
	}
	return nil
}

// Way is the kept way of that key; nil where there is none.
func (c *Cabinet) Way(key string) *request.Way {
	for i := range c.Ways {
		if key != "" && c.Ways[i].Key == key {
			return &c.Ways[i]
		}
	}
	return nil
}

// Begin has a new batch start as the house says: from its flour and eggs, on its machine. What has left the cabinet is
// as usual.
func (c *Cabinet) Begin(h request.House, r *request.Request) {
	for path, key := range map[string]string{"flours.0.flour": h.Flour, "eggs.class": h.Eggs,
		"roll.machine": h.Machine} {
		if f, ok := request.FieldAt(path); ok && key != "" {
			c.Take(f, r, key)
		}
	}
}

// Take puts what a key names into a field: a thing of the cabinet, or one that ships; false where it names neither.
func (c *Cabinet) Take(f request.Field, r *request.Request, key string) bool {
	for _, own := range c.keyed(key) {
		if f.Pick(r, key, own) {
			return true
		}
	}
	return f.Set(r, key) == nil
}

// keyed are the flours, eggs and machines of a key: one, or none.
func (c *Cabinet) keyed(key string) (out []any) {
	for _, x := range c.Flours {
		if x.Key == key {
			out = append(out, x)
		}
	}
	for _, x := range c.Eggs {
		if x.Key == key {
			out = append(out, x)
		}
	}
	for _, x := range c.Machines {
		if x.Key == key {
			out = append(out, x)
		}
	}
	return out
}

// item is a row of the cabinet.
type item struct {
	ID        uint64 `gorm:"primaryKey"`
	Kind      Kind
	Version   int
	Figures   raw
	RetiredAt gorm.DeletedAt
}

// TableName names the table.
func (item) TableName() string { return "cabinet" }

// raw is a JSON column as it stands.
type raw []byte

// Scan reads a JSON column.
func (r *raw) Scan(v any) error {
	switch v := v.(type) {
	case []byte:
		*r = append(raw{}, v...)
	case string:
		*r = raw(v)
	case nil:
		*r = nil
	default:
		return fmt.Errorf("a JSON column holds a %T", v)
	}
	return nil
}

// Value writes a JSON column.
func (r raw) Value() (driver.Value, error) {
	if r == nil {
		return nil, nil
	}
	return string(r), nil
}

// GormDataType names the column type.
func (raw) GormDataType() string { return "json" }

// maxThings is the most of the cabinet that is read at once.
const maxThings = 2000

// Things returns what the workshop keeps, oldest first, retired things last and only when
// asked for.
func (s *Store) Things(ctx context.Context, retired bool) ([]Thing, error) {
	db := s.db.WithContext(ctx)
	if retired {
		db = db.Unscoped()
	}
	var items []item
	if err := db.Order("retired_at IS NOT NULL, id").Limit(maxThings).Find(&items).Error; err != nil {
		return nil, err
	}
	out := make([]Thing, 0, len(items))
	for _, i := range items {
		t, err := i.thing()
		if err != nil { // one row that cannot be read hides itself, and nothing else
			s.log.Error("cabinet", "id", i.ID, "err", err)
			continue
		}
		out = append(out, t)
	}
	return out, nil
}

// keptCabinet is the cabinet as it was last read, with what told it from any other. Reading its documents is most of
// the work of a page; asking whether they have changed is little.
type keptCabinet struct {
	mu    sync.Mutex
	stamp string // "" where nothing is kept
	cab   Cabinet
}

// Cabinet returns what the workshop keeps and has not retired, and its name. It is read anew once anything of it has
// changed, by whichever process; the caller may change the lists of what it gets.
func (s *Store) Cabinet(ctx context.Context) (Cabinet, error) {
	stamp, err := s.cabinetStamp(ctx)
	if err != nil {
		return Cabinet{}, err
	}
	return s.CabinetAt(ctx, stamp)
}

// CabinetAt is Cabinet for a stamp that was read just now: what has that stamp is not asked for again.
func (s *Store) CabinetAt(ctx context.Context, stamp CabinetStamp) (Cabinet, error) {
	k := &s.kept
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.stamp == stamp.Things {
		return k.cab.named(stamp.Workshop), nil
	}
	things, err := s.Things(ctx, false)
	if err != nil {
		return Cabinet{}, err
	}
	cab := CabinetOf(things)
	after, err := s.cabinetStamp(ctx)
	if err != nil {
		return Cabinet{}, err
	}
	if k.stamp = ""; after.Things == stamp.Things { // nothing was kept while it was read
		k.stamp, k.cab = stamp.Things, cab
	}
	return cab.named(after.Workshop), nil
}

// CabinetStamp says which cabinet it is: Things is another whenever a thing was kept, retired or brought back.
type CabinetStamp struct {
	Things   string `gorm:"column:cabinet_things"`
	Workshop string `gorm:"column:cabinet_workshop"` // its name
}

// cabinetStamps are the columns of a CabinetStamp.
const cabinetStamps = "(SELECT CONCAT(COUNT(*), ':', COALESCE(BIT_XOR(CRC32(CONCAT_WS(':', id, version, " +
	"COALESCE(retired_at, '')))), 0)) FROM cabinet) AS cabinet_things, " +
	"COALESCE((SELECT name FROM workshops LIMIT 1), '') AS cabinet_workshop"

func (s *Store) cabinetStamp(ctx context.Context) (stamp CabinetStamp, err error) {
	err = s.db.WithContext(ctx).Raw("SELECT " + cabinetStamps).Scan(&stamp).Error
	return stamp, err
}

// named is c of that workshop, its lists its own.
func (c Cabinet) named(workshop string) Cabinet {
	for _, k := range kinds {
		k.clone(&c)
	}
	c.Workshop = workshop
	return c
}

// Thing returns the thing of that id and kind, retired or not; ErrNotFound when there is
// none.
func (s *Store) Thing(ctx context.Context, kind Kind, id uint64) (Thing, error) {
	var i item
	err := s.db.WithContext(ctx).Unscoped().Where("kind = ?", kind).First(&i, id).Error
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return Thing{}, ErrNotFound
	} else if err != nil {
		return Thing{}, err
	}
	return i.thing()
}

// Keep keeps v, a value of the kind: as a new thing when id is 0, otherwise in place of that
// version of the one of that id, retired or not; ErrChanged when it was kept anew meanwhile,
// ErrNotFound when there is none.
func (s *Store) Keep(ctx context.Context, kind Kind, id uint64, version int, v any) (uint64, error) {
	doc, err := json.Marshal(v)
	if err != nil {
		return 0, err
	}
	if id == 0 {
		return keepNew(s.db.WithContext(ctx), kind, doc)
	}
	done := s.db.WithContext(ctx).Unscoped().Model(&item{}).Where("id = ? AND kind = ? AND version = ?", id, kind,
		version).
		Updates(map[string]any{"figures": raw(doc), "version": version + 1})
	if done.Error != nil || done.RowsAffected > 0 {
		return id, done.Error
	}
	if _, err := s.Thing(ctx, kind, id); err != nil {
		return id, err
	}
	return id, ErrChanged
}

// ErrThingThere says that a thing of that kind has that name, of lots one of the same flour.
var ErrThingThere = errors.New("there is one of that name already")

// KeepNew is Keep of a new thing, and refuses one whose name one in use has: ErrThingThere. Of two at once the second
// is refused.
func (s *Store) KeepNew(ctx context.Context, kind Kind, v any) (id uint64, err error) {
	doc, err := json.Marshal(v)
	if err != nil {
		return 0, err
	}
	err = s.transact(ctx, func(tx *gorm.DB) error {
		var all []item
		if err := tx.Unscoped().Clauses(clause.Locking{Strength: "UPDATE"}).Where("kind = ?",
			kind).Order("id").Find(&all).Error; err != nil {
			return err
		}
		for _, i := range all {
			t, err := i.thing()
			if err == nil && !t.Retired && sameThing(t.Value, v) {
				return ErrThingThere
			}
		}
		id, err = keepNew(tx, kind, doc)
		return err
	})
	return id, err
}

// sameThing says whether two values of one kind are called the same; what was measured may be measured again.
func sameThing(a, b any) bool {
	_, _, one := Describe(a)
	kind, _, other := Describe(b)
	if x, is := a.(flour.Lot); is {
		if y, is := b.(flour.Lot); is && x.Flour != y.Flour {
			return false
		}
	}
	if x, is := a.(request.Way); is {
		if y, is := b.(request.Way); is && x.Of != y.Of {
			return false
		}
	}
	return kind != YieldKind && strings.EqualFold(strings.TrimSpace(one), strings.TrimSpace(other))
}

// keepNew keeps a new thing; ErrTooMany where the cabinet is full, retired things counted.
func keepNew(db *gorm.DB, kind Kind, doc []byte) (uint64, error) {
	var n int64
	if err := db.Unscoped().Model(&item{}).Count(&n).Error; err != nil {
		return 0, err
	}
	if n >= maxThings {
		return 0, ErrTooMany
	}
	i := item{Kind: kind, Version: 1, Figures: doc}
	err := db.Create(&i).Error
	return i.ID, err
}

// Retire takes a thing off the list, or puts it back. Nothing is destroyed.
func (s *Store) Retire(ctx context.Context, kind Kind, id uint64, retire bool) error {
	db := s.db.WithContext(ctx)
	if retire {
		return db.Where("kind = ?", kind).Delete(&item{}, id).Error
	}
	return db.Unscoped().Model(&item{}).Where("id = ? AND kind = ?", id, kind).UpdateColumn("retired_at", nil).Error
}

// House is what new batches start from, and how often it was kept.
type House struct {
	request.House
	Version int
	Damaged bool // what was kept cannot be read, and the usual stands here
}

// ErrHouseDamaged says that what new batches start from cannot be read, and nobody has said that it is to be kept anew.
var ErrHouseDamaged = fmt.Errorf("what new batches start from: %w", ErrUnreadable)

// House returns what new batches start from; the usual in a new workshop, and, marked so, where what was kept cannot
// be read.
func (s *Store) House(ctx context.Context) (House, error) {
	h := House{House: request.DefaultHouse()}
	w, err := s.workshop(ctx)
	if err != nil || w.House == nil {
		h.Version = w.Version
		return h, err
	}
	h.Version = w.Version
	if err := read(w.House, &h.House); err != nil {
		s.log.Error("house", "err", err)
		h.House, h.Damaged = request.DefaultHouse(), true
	}
	return h, nil
}

// SaveHouse keeps what new batches start from in place of that version of it; ErrChanged when it
// was kept anew meanwhile, ErrHouseDamaged where what is there cannot be read, unless it may be kept over that.
func (s *Store) SaveHouse(ctx context.Context, h request.House, version int, over bool) error {
	if was, err := s.House(ctx); err != nil {
		return err
	} else if was.Damaged && !over {
		return ErrHouseDamaged
	}
	doc, err := json.Marshal(h)
	if err != nil {
		return err
	}
	return s.transact(ctx, func(tx *gorm.DB) error {
		if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&workshop{ID: 1}).Error; err != nil {
			return err
		}
		done := tx.Model(&workshop{}).Where("id = 1 AND version = ?", version).Updates(map[string]any{"house": raw(doc),
			"version": version + 1})
		if done.Error == nil && done.RowsAffected == 0 {
			return ErrChanged
		}
		return done.Error
	})
}
