// Package store keeps batches in MariaDB. What is kept is the request a maker made, with a
// version number and every earlier version of it; the plan is worked out anew. Nothing
// outside this package knows SQL, and nothing here is kept in memory between calls, so
// several processes may share one database.
package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"math/rand/v2"
	"time"

	"github.com/go-sql-driver/mysql"
	gormmysql "gorm.io/driver/mysql"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
	"gorm.io/gorm/logger"

	"hollen/internal/clock"
	"hollen/internal/core/bench"
	"hollen/internal/core/day"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Batch is one batch as it was last saved.
type Batch struct {
	ID        uint64 `gorm:"primaryKey"`
	Version   int
	Request   Document
	Row       Row // what a list shows of it
	CreatedAt time.Time
	UpdatedAt time.Time
	DeletedAt gorm.DeletedAt
	MadeOn    string  `gorm:"->;-:migration"` // yyyy-mm-dd, as a list reads it
	PartnerID *uint64 // the batch whose dough goes together with this one's, for stripes
	Mended    bool    `gorm:"-"` // its request could not be read, and is that of the version kept beside it
	Once      *string `json:"-"` // the mark of the form it was made with, of which there is one; nil where none came

	RecipeID      *uint64 // the recipe it was made of; nil: it is one by itself
	RecipeVersion *int    // and which version of it
}

type revision struct {
	BatchID uint64 `gorm:"primaryKey"`
	Version int    `gorm:"primaryKey"`
	Request Document
	SavedAt time.Time
	SavedBy string
}

type workshop struct {
	ID      int `gorm:"primaryKey"`
	Name    string
	House   raw
	Version int
}

// Document is a request kept as JSON.
type Document struct {
	request.Request
	bad error // it cannot be read, and why
}

// Scan reads a JSON column. What an older version did not write is as usual; one that cannot be read says so when it
// is asked.
func (d *Document) Scan(v any) error {
	d.Request = request.Default()
	var doc raw
	if d.bad = doc.Scan(v); d.bad == nil {
		d.bad = read(doc, &d.Request)
	}
	if d.bad != nil {
		d.Request = request.Default()
	}
	d.Request.DriesNow()
	return nil
}

// BegunDocument is the request a making was begun with: it keeps how it dried, also where that was not said yet.
type BegunDocument struct{ Document }

// Scan reads a JSON column.
func (d *BegunDocument) Scan(v any) error {
	if err := d.Document.Scan(v); err != nil || d.bad != nil {
		return err
	}
	var doc raw
	_ = doc.Scan(v) // it has been read just now
	d.Request = request.Default()
	_ = read(doc, &d.Request)
	d.Request.DriesAsBefore(doc)
	return nil
}

// Value writes a JSON column.
func (d Document) Value() (driver.Value, error) {
	if d.bad != nil {
		return nil, d.bad
	}
	b, err := json.Marshal(d.Request)
	return string(b), err
}

// GormDataType names the column type.
func (Document) GormDataType() string { return "json" }

// Row is what a list shows of a batch, kept as JSON beside it; of other sums, or none, where it
// was kept by an older version.
type Row struct{ plan.Summary }

// Scan reads a JSON column; what cannot be read is as if it were not there.
func (r *Row) Scan(v any) error {
	r.Summary = plan.Summary{}
	var doc raw
	if err := doc.Scan(v); err != nil || doc == nil {
		return err
	}
	if json.Unmarshal(doc, &r.Summary) != nil {
		r.Summary = plan.Summary{}
	}
	return nil
}

// Value writes a JSON column.
func (r Row) Value() (driver.Value, error) {
	b, err := json.Marshal(r.Summary)
	return string(b), err
}

// GormDataType names the column type.
func (Row) GormDataType() string { return "json" }

// Errors a caller tells apart.
var (
	ErrNotFound = errors.New("there is no such batch")
	ErrDeleted  = errors.New("the batch has been deleted")
	ErrChanged  = errors.New("it was changed meanwhile")
	ErrPaired   = errors.New("the batch has a second dough already")
)

// ConflictError says that a batch was saved by someone else since it was opened. Base is
// what the caller started from, Current what stands now.
type ConflictError struct {
	Base    request.Request
	Current Batch
}

func (e *ConflictError) Error() string {
	return fmt.Sprintf("batch %d has been saved as version %d meanwhile", e.Current.ID, e.Current.Version)
}

// Store is a handle on the database, safe for concurrent use.
type Store struct {
	db  *gorm.DB
	sql *sql.DB
	log *slog.Logger

	identity string
	now      clock.Clock
	kept     keptCabinet
	recipes  *keptNames
	within   bool // a transaction that Atomically has begun
}

// Now is the moment by the clock the store was opened with; pages go by the same.
func (s *Store) Now() time.Time { return s.now() }

// Log has what is wrong in the database, and can be passed over, written to l.
func (s *Store) Log(l *slog.Logger) { s.log = l }

// Open connects to the MariaDB server and database named by dsn (user:password@tcp(host:
// port)/database) and brings its tables up to date. Several processes may do so at once.
func Open(ctx context.Context, dsn string, now clock.Clock) (*Store, error) {
	return OpenAfter(ctx, dsn, now, nil)
}

// OpenAfter is Open, and calls before with the version an older database has and the one it gets, before anything in
// it is changed; an error of before leaves it as it is.
func OpenAfter(ctx context.Context, dsn string, now clock.Clock, before func(from, to int64) error) (*Store, error) {
	pool, err := connect(dsn)
	if err != nil {
		return nil, err
	}
	if err := migrate(ctx, pool, before); err != nil {
		pool.Close()
		return nil, err
	}
	identity, err := identify(ctx, pool)
	if err != nil {
		pool.Close()
		return nil, unreached(err)
	}
	db, err := gorm.Open(gormmysql.New(gormmysql.Config{Conn: pool, SkipInitializeWithVersion: true}),
		&gorm.Config{Logger: logger.Discard, NowFunc: func() time.Time {
			return now().UTC().Truncate(
				time.Millisecond)
		}})
	if err != nil {
		pool.Close()
		return nil, err
	}
	return &Store{db: db, sql: pool, log: slog.New(slog.DiscardHandler), identity: identity, now: now,
		recipes: &keptNames{}}, nil
}

// connect returns the connections to a database; none is made yet.
func connect(dsn string) (*sql.DB, error) {
	c, all := &connector{}, addresses(dsn)
	for _, a := range all {
		one, err := settings(a, len(all) == 1)
		if err != nil {
			return nil, err
		}
		c.all = append(c.all, one)
	}
	pool := sql.OpenDB(c)
	pool.SetMaxOpenConns(16)
	pool.SetMaxIdleConns(4)
	pool.SetConnMaxLifetime(5 * time.Minute)
	return pool, nil
}

// Close closes the connections.
func (s *Store) Close() error { return s.sql.Close() }

// Ping says whether the database answers.
func (s *Store) Ping(ctx context.Context) error { return s.sql.PingContext(ctx) }

// Workshop returns the workshop's name, "" when it has none.
func (s *Store) Workshop(ctx context.Context) (string, error) {
	w, err := s.workshop(ctx)
	return w.Name, err
}

func (s *Store) workshop(ctx context.Context) (workshop, error) {
	var w []workshop
	err := s.db.WithContext(ctx).Limit(1).Find(&w).Error
	if len(w) == 0 {
		return workshop{}, err
	}
	return w[0], err
}

// Errors of the server after which the same transaction may well succeed: a deadlock, which
// is also how a cluster refuses the second of two writes to one row, and a lock waited for
// too long.
const (
	deadlock    = 1213
	lockTimeout = 1205
	attempts    = 4
)

// errOvertaken says that a row was changed between being read and written, so that both are done again.
var errOvertaken = errors.New("overtaken by another process")

// transact runs f in a transaction, again when the server gave up on it through no fault of f's. Within Atomically it
// is left to that: what the server gives up is the whole transaction, so no part of it may be tried again by itself.
func (s *Store) transact(ctx context.Context, f func(tx *gorm.DB) error) error {
	if s.within {
		return s.db.WithContext(ctx).Transaction(f)
	}
	return again(func() error { return s.db.WithContext(ctx).Transaction(f) })
}

// again runs f until it succeeds, fails for good, or has been tried attempts times.
func again(f func() error) (err error) {
	for n := range attempts {
		if n > 0 { // those who got in each other’s way do not come back at the same moment
			time.Sleep(time.Duration(n) * (5*time.Millisecond + rand.N(20*time.Millisecond)))
		}
		err = f()
		var my *mysql.MySQLError
		if !errors.Is(err, errOvertaken) && (!errors.As(err, &my) || my.Number != deadlock &&
			my.Number != lockTimeout) {
			return err
		}
	}
	return err
}

// Page is how many batches one list holds.
const Page = 60

// Atomically does everything f does to the store it is given, or nothing when f fails.
func (s *Store) Atomically(ctx context.Context, f func(*Store) error) error {
	return s.transact(ctx, func(tx *gorm.DB) error {
		return f(&Store{db: tx, sql: s.sql, log: s.log, identity: s.identity, now: s.now, within: true})
	})
}

// KeepRow keeps what a list shows of a batch of that version, made anew.
func (s *Store) KeepRow(ctx context.Context, b Batch, row plan.Summary) error {
	return s.db.WithContext(ctx).Unscoped().Model(&Batch{}).Where("id = ? AND version = ?", b.ID,
		b.Version).UpdateColumn("row", Row{row}).Error
}

// Deleted returns the batches deleted last, at most 20, or all of them up to MostDeleted, and whether there are more.
func (s *Store) Deleted(ctx context.Context, all bool) (b []Batch, more bool, err error) {
	most := 20
	if all {
		most = MostDeleted
	}
	err = s.db.WithContext(ctx).Unscoped().Omit("request").Where("deleted_at IS NOT NULL").Order(
		"deleted_at DESC, id DESC").Limit(most + 1).Find(&b).Error
	if len(b) > most {
		b, more = b[:most], true
	}
	return b, more, err
}

// MostDeleted is how many deleted batches are shown at once; the older ones come back as these are restored.
const MostDeleted = 2000

// Get returns a batch; ErrNotFound, ErrDeleted with the batch as it was, or ErrUnreadable with what can be read of it.
func (s *Store) Get(ctx context.Context, id uint64) (Batch, error) {
	b, err := get(s.db.WithContext(ctx), id)
	if b.Mended {
		s.log.Error("batch", "id", id, "err", "its request cannot be read; the version kept beside it stands in")
	}
	return b, err
}

// GetStamped is Get with the stamp the cabinet has at that moment, in one query.
func (s *Store) GetStamped(ctx context.Context, id uint64) (Batch, CabinetStamp, error) {
	var row struct {
		Batch        `gorm:"embedded"`
		CabinetStamp `gorm:"embedded"`
	}
	db := s.db.WithContext(ctx)
	found := db.Unscoped().Model(&Batch{}).Select("batches.*, "+cabinetStamps).Where("id = ?", id).Limit(1).Scan(&row)
	err := found.Error
	if err == nil && found.RowsAffected == 0 {
		return row.Batch, row.CabinetStamp, ErrNotFound
	} else if err != nil {
		return row.Batch, row.CabinetStamp, err
	}
	b, err := settled(db, row.Batch)
	s.tellMended(&b)
	return b, row.CabinetStamp, err
}

// tellMended tells in the log that the newest version of a batch stands in for what cannot be read.
func (s *Store) tellMended(b *Batch) {
	if b.Mended {
		s.log.Error("batch", "id", b.ID, "err", "its request cannot be read; the version kept beside it stands in")
	}
}

func get(db *gorm.DB, id uint64) (Batch, error) {
	var b Batch
	err := db.Unscoped().First(&b, id).Error
	switch {
	case errors.Is(err, gorm.ErrRecordNotFound):
		return b, ErrNotFound
	case err != nil:
		return b, err
	}
	return settled(db, b)
}

// settled is a batch as it was read, mended where it has to be; ErrDeleted where it is deleted.
func settled(db *gorm.DB, b Batch) (Batch, error) {
	err := mend(db, &b)
	if b.DeletedAt.Valid && (err == nil || errors.Is(err, ErrUnreadable)) {
		return b, ErrDeleted
	}
	return b, err
}

// Create keeps the request of a plan as a new batch.
func (s *Store) Create(ctx context.Context, p *plan.Plan) (Batch, error) {
	return s.CreateAs(ctx, 0, p)
}

// CreateAs is Create, under a number that was reserved; 0: whichever comes next.
func (s *Store) CreateAs(ctx context.Context, id uint64, p *plan.Plan) (Batch, error) {
	b := newBatch(p)
	err := s.transact(ctx, func(tx *gorm.DB) error {
		b.ID = id
		if err := tx.Create(&b).Error; err != nil {
			return err
		}
		return tx.Create(&revision{b.ID, b.Version, b.Request, b.UpdatedAt, by(ctx)}).Error
	})
	return b, err
}

// CreateOnce is Create, of a form that may come twice: what bears the same mark is the same batch, which is returned
// as it stands now, also where it has been deleted since. Without a mark it is Create.
func (s *Store) CreateOnce(ctx context.Context, once string, p *plan.Plan) (Batch, error) {
	if once == "" {
		return s.Create(ctx, p)
	}
	b := newBatch(p)
	b.Once = &once
	err := s.transact(ctx, func(tx *gorm.DB) error {
		b.ID = 0
		if err := tx.Create(&b).Error; is(err, duplicateKey) {
			b = Batch{}
			return tx.Unscoped().Where("once = ?", once).First(&b).Error
		} else if err != nil {
			return err
		}
		return tx.Create(&revision{b.ID, b.Version, b.Request, b.UpdatedAt, by(ctx)}).Error
	})
	return b, err
}

// Reserve returns numbers for so many new batches, that no other will get: by them a day is planned before they are
// kept together with it.
func (s *Store) Reserve(ctx context.Context, p *plan.Plan, n int) (ids []uint64, err error) {
	taken := errors.New("numbers taken")
	err = s.transact(ctx, func(tx *gorm.DB) error {
		ids = nil
		for range n {
			b := newBatch(p)
			if err := tx.Create(&b).Error; err != nil {
				return err
			}
			ids = append(ids, b.ID)
		}
		return taken // the rows go, their numbers do not come again
	})
	if errors.Is(err, taken) {
		err = nil
	}
	return ids, err
}

func newBatch(p *plan.Plan) Batch {
	return Batch{Version: 1, Request: Document{Request: p.Request}, Row: Row{p.Summary()}}
}

// Save keeps the request of p as the next version of a batch that was opened at version. When it has been
// saved since, nothing is written and a ConflictError tells both sides; a request that is
// as it stands makes no new version.
func (s *Store) Save(ctx context.Context, id uint64, version int, p *plan.Plan) (Batch, error) {
	var out Batch
	err := s.transact(ctx, func(tx *gorm.DB) error {
		b, err := get(tx.Clauses(clause.Locking{Strength: "UPDATE"}), id)
		lost := errors.Is(err, ErrUnreadable) // what comes is kept over it, and it has no version of its own any more
		if err != nil && !lost {
			return err
		}
		out = b
		if !lost && len(request.Changes(b.Request.Request, p.Request)) == 0 {
			return nil
		}
		if lost && b.Version != version {
			return ErrChanged
		}
		if b.Version != version {
			var base []revision
			if err := tx.Where("batch_id = ? AND version = ?", id, version).Find(&base).Error; err != nil {
				return err
			}
			c := &ConflictError{Base: b.Request.Request, Current: b}
			if len(base) == 1 && base[0].Request.bad == nil {
				c.Base = base[0].Request.Request
			}
			return c
		}
		out.Version = b.Version + 1
		out.Request = Document{Request: p.Request}
		out.Row = Row{p.Summary()}
		out.UpdatedAt = tx.NowFunc()
		done := tx.Model(&Batch{}).Where("id = ? AND version = ?", id, b.Version).
			Updates(map[string]any{"version": out.Version, "request": out.Request, "row": out.Row,
				"updated_at": out.UpdatedAt})
		if done.Error != nil {
			return done.Error
		}
		if done.RowsAffected == 0 { // a row lock that another node of a cluster did not know of
			return errOvertaken
		}
		return tx.Create(&revision{id, out.Version, out.Request, out.UpdatedAt, by(ctx)}).Error
	})
	return out, err
}

// Delete puts a batch away; Restore brings it back.
func (s *Store) Delete(ctx context.Context, id uint64) error {
	if _, err := s.Get(ctx, id); err != nil && !errors.Is(err, ErrUnreadable) {
		return err
	}
	return s.db.WithContext(ctx).Delete(&Batch{}, id).Error
}

// Restore brings a deleted batch back. A batch that is not deleted stays as it is.
func (s *Store) Restore(ctx context.Context, id uint64) error {
	if _, err := s.Get(ctx, id); err == nil || !errors.Is(err, ErrDeleted) {
		return err
	}
	return s.db.WithContext(ctx).Unscoped().Model(&Batch{}).Where("id = ?", id).UpdateColumn("deleted_at", nil).Error
}

// Scenario is what a new database may start with.
type Scenario struct {
	Name    string
	House   request.House
	Rooms   []Room
	Things  []Thing      // in an empty cabinet the first gets the key own-1
	Batches []*plan.Plan // the last one newest
	Pairs   map[int]int  // doughs of one batch, by their place in Batches
	Recipes []SeedRecipe // kept of them
	// Makings are what was made at the bench by a moment, of the batches; nil: nothing.
	Makings func(now time.Time, batches []*plan.Plan) []SeedMaking
	// Air is what a room sensor has read by a moment; nil: nothing.
	Air func(now time.Time) []RoomMean
	// Days are the days there are at a moment, of batches with those IDs, the orders of them and those of the week;
	// nil: none.
	Days func(now time.Time, ids []uint64, batches []*plan.Plan) ([]day.Sheet, []Order, []Standing)
	// Doughs are what was practised on by a moment, of batches with those IDs; nil: nothing.
	Doughs func(now time.Time, ids []uint64, batches []*plan.Plan) []PracticeRound
}

// SeedMaking is a making of a scenario.
type SeedMaking struct {
	Batch  int // its place in Batches
	Plan   *plan.Plan
	Began  time.Time
	Events []bench.Event
}

// SeedRecipe is a batch of a scenario that is kept as a recipe.
type SeedRecipe struct {
	Batch int // its place in Batches
	Name  string
	Names []string // it is also called
	Label recipe.Label
	BoxG  float64 // what a box of it holds, g
}

// keep writes a recipe of a scenario, and ties its batch to it.
func (x *SeedRecipe) keep(tx *gorm.DB, batch uint64, p *plan.Plan) (id uint64, err error) {
	doc := recipe.Of(p.Request)
	doc.Name = x.Name
	q, err := plan.Make(p.Rules(), doc)
	if err != nil {
		return 0, err
	}
	r := newRecipe(q, recipe.Besides{Names: x.Names, Label: x.Label, BoxG: x.BoxG})
	if err := tx.Create(&r).Error; err != nil {
		return 0, err
	}
	if err := tx.Create(&recipeVersion{r.ID, 1, r.Request, r.Besides, r.UpdatedAt, ""}).Error; err != nil {
		return 0, err
	}
	return r.ID, tx.Model(&Batch{}).Where("id = ?", batch).UpdateColumns(map[string]any{"recipe_id": r.ID,
		"recipe_version": 1}).Error
}

// Seed keeps a scenario if the database holds no batch yet, deleted ones counted. It reports
// whether it did.
func (s *Store) Seed(ctx context.Context, sc Scenario) (seeded bool, err error) {
	err = s.transact(ctx, func(tx *gorm.DB) error {
		seeded = false
		claim := tx.Exec("INSERT IGNORE INTO seeded (id) VALUES (1)") // another process waits here, and finds it done
		if claim.Error != nil || claim.RowsAffected == 0 {
			return claim.Error
		}
		var n int64
		if err := tx.Unscoped().Model(&Batch{}).Count(&n).Error; err != nil || n > 0 {
			return err
		}
		seeded = true
		return sc.keep(tx)
	})
	return seeded && err == nil, err
}

// keepDays writes the days of the scenario.
func (sc Scenario) keepDays(tx *gorm.DB, now time.Time, ids []uint64) error {
	sheets, orders, week := sc.Days(now, ids, sc.Batches)
	for _, sheet := range sheets {
		doc, err := json.Marshal(sheet)
		if err != nil {
			return err
		}
		if err := putDay(tx.Statement.Context, tx, sheet.Date, 0, 0, doc); err != nil {
			return err
		}
	}
	for i := range week {
		week[i].Version = 1
	}
	for i := range orders {
		orders[i].Version = 1
	}
	if err := tx.Create(&week).Error; err != nil {
		return err
	}
	return tx.Create(&orders).Error
}

// keep writes the scenario.
func (sc Scenario) keep(tx *gorm.DB) error {
	house, err := json.Marshal(sc.House)
	if err != nil {
		return err
	}
	if err := tx.Save(&workshop{1, sc.Name, house, 1}).Error; err != nil {
		return err
	}
	for i := range sc.Rooms {
		sc.Rooms[i].Version = 1
	}
	if len(sc.Rooms) > 0 {
		if err := tx.Create(&sc.Rooms).Error; err != nil {
			return err
		}
	}
	for _, t := range sc.Things {
		doc, err := json.Marshal(t.Value)
		if err != nil {
			return err
		}
		if _, err := keepNew(tx, t.Kind, doc); err != nil {
			return err
		}
	}
	now := tx.NowFunc()
	ids := make([]uint64, len(sc.Batches))
	for i, p := range sc.Batches {
		at := now.Add(time.Duration(i-len(sc.Batches)) * time.Second)
		b := newBatch(p)
		b.CreatedAt, b.UpdatedAt = at, at
		if err := tx.Create(&b).Error; err != nil {
			return err
		}
		if err := tx.Create(&revision{b.ID, 1, b.Request, at, ""}).Error; err != nil {
			return err
		}
		ids[i] = b.ID
	}
	kept := map[int]uint64{} // recipes, by the place of their batch
	for _, r := range sc.Recipes {
		id, err := r.keep(tx, ids[r.Batch], sc.Batches[r.Batch])
		if err != nil {
			return err
		}
		kept[r.Batch] = id
	}
	for a, b := range sc.Pairs {
		if err := pair(tx, ids[a], ids[b]); err != nil {
			return err
		}
		if kept[a] != 0 && kept[b] != 0 {
			if err := tieRecipes(tx, kept[a], kept[b]); err != nil {
				return err
			}
		}
	}
	if sc.Days != nil {
		if err := sc.keepDays(tx, now, ids); err != nil {
			return err
		}
	}
	if sc.Air != nil {
		if err := tx.CreateInBatches(sc.Air(now), 500).Error; err != nil {
			return err
		}
	}
	if sc.Doughs != nil {
		if err := keepPractised(tx, sc.Doughs(now, ids, sc.Batches)); err != nil {
			return err
		}
	}
	if sc.Makings == nil {
		return nil
	}
	for _, x := range sc.Makings(now, sc.Batches) {
		if err := x.keep(tx, ids[x.Batch]); err != nil {
			return err
		}
	}
	return nil
}

// keep writes a making of a scenario.
func (x *SeedMaking) keep(tx *gorm.DB, batch uint64) error {
	m, err := newMaking(Batch{ID: batch, Version: 1}, x.Plan, x.Began)
	if err != nil {
		return err
	}
	if state := bench.Run(x.Plan, m.Began, x.Events).State; !state.Ended.IsZero() {
		m.Ended = &state.Ended
	}
	if err := tx.Create(&m).Error; err != nil {
		return err
	}
	for i := range x.Events {
		x.Events[i].At = x.Events[i].At.UTC().Truncate(time.Millisecond)
	}
	if err := appendEvents(tx, m.ID, &m.Seq, x.Events); err != nil || m.Ended == nil {
		return err
	}
	run := bench.Run(x.Plan, m.Began, x.Events)
	row, err := summaryOf(m, &run, x.Events)
	if err != nil {
		return err
	}
	if err := tx.Create(&row).Error; err != nil {
		return err
	}
	if err := addUp(tx, row.Day); err != nil {
		return err
	}
	return stampLog(tx)
}

// pair links two batches as the doughs of one.
func pair(tx *gorm.DB, a, b uint64) error {
	for from, to := range map[uint64]uint64{a: b, b: a} {
		if err := tx.Model(&Batch{}).Where("id = ?", from).UpdateColumn("partner_id", to).Error; err != nil {
			return err
		}
	}
	return nil
}

// CreatePartner keeps the request of p as a second dough of the batch of that id. A batch that has one
// already, and it is not deleted, gives ErrPaired.
func (s *Store) CreatePartner(ctx context.Context, id uint64, p *plan.Plan) (Batch, error) {
	b := newBatch(p)
	b.PartnerID = &id
	err := s.transact(ctx, func(tx *gorm.DB) error {
		first, err := get(tx.Clauses(clause.Locking{Strength: "UPDATE"}), id)
		if err != nil {
			return err
		}
		if first.PartnerID != nil {
			if _, err := get(tx, *first.PartnerID); err == nil {
				return ErrPaired
			} else if !errors.Is(err, ErrDeleted) && !errors.Is(err, ErrNotFound) {
				return err
			}
		}
		b.ID = 0
		if err := tx.Create(&b).Error; err != nil {
			return err
		}
		if err := tx.Create(&revision{b.ID, b.Version, b.Request, b.UpdatedAt, by(ctx)}).Error; err != nil {
			return err
		}
		return pair(tx, id, b.ID)
	})
	return b, err
}

// Part ends the link between a batch and its second dough; both stay.
func (s *Store) Part(ctx context.Context, id uint64) error {
	return s.transact(ctx, func(tx *gorm.DB) error {
		return tx.Unscoped().Model(&Batch{}).Where("id = ? OR partner_id = ?", id, id).UpdateColumn("partner_id",
			nil).Error
	})
}
