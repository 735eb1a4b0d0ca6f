package store

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"time"

	"github.com/go-sql-driver/mysql"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hollen/internal/core/day"
	"hollen/internal/core/order"
)

// dayRow is a day as its table holds it.
type dayRow struct {
	Day     string `gorm:"primaryKey"`
	Version int
	BackTo  int // the version taking the last change back leads to, 0: none
	Doc     raw
	Updated time.Time
}

func (dayRow) TableName() string { return "days" }

type dayVersion struct {
	Day     string `gorm:"primaryKey"`
	Version int    `gorm:"primaryKey"`
	BackTo  int
	Doc     raw
	SavedAt time.Time
	SavedBy string
}

func (dayVersion) TableName() string { return "day_versions" }

// keptDayVersions is how many versions of a day are kept to go back to.
const keptDayVersions = 100

// Day is a day as it was last kept: its version, 0 when it was never kept, and whether its last change can be taken
// back.
type Day struct {
	day.Sheet
	Version int
	CanUndo bool
	Damaged bool // what was kept of it cannot be read: nothing of it is shown, and nothing written over it unasked
}

// DayMark is what a day’s page stands on: what was kept, and when. It changes with every change.
func (s *Store) DayMark(ctx context.Context, date string) (version int, at time.Time, err error) {
	var rows []dayRow
	err = s.db.WithContext(ctx).Select("version, updated").Where("day = ?", date).Find(&rows).Error
	if err != nil || len(rows) == 0 {
		return 0, time.Time{}, err
	}
	return rows[0].Version, rows[0].Updated, nil
}

// Day returns the day of that date, yyyy-mm-dd; one of version 0 when none was kept.
func (s *Store) Day(ctx context.Context, date string) (Day, error) {
	var rows []dayRow
	if err := s.db.WithContext(ctx).Where("day = ?", date).Find(&rows).Error; err != nil {
		return Day{}, err
	}
	out := Day{Sheet: day.Sheet{Format: day.Format, Date: date}}
	if len(rows) == 0 {
		return out, nil
	}
	out.Version, out.CanUndo = rows[0].Version, rows[0].BackTo > 0
	if err := read(rows[0].Doc, &out.Sheet); err != nil {
		return s.mendDay(ctx, out, err)
	}
	return out, nil
}

// mendDay has a day that cannot be read be what the version of it says that it is, which was kept beside it; one
// without anything on it where that
// cannot be read, either.
func (s *Store) mendDay(ctx context.Context, d Day, why error) (Day, error) {
	s.log.Error("day", "day", d.Date, "err", why)
	date := d.Date
	var kept []dayVersion
	if err := s.db.WithContext(ctx).Where("day = ? AND version = ?", date, d.Version).Find(&kept).Error; err != nil {
		return d, err
	}
	d.Sheet = day.Sheet{Format: day.Format, Date: date}
	if len(kept) == 0 || read(kept[0].Doc, &d.Sheet) != nil {
		d.Sheet, d.Damaged = day.Sheet{Format: day.Format, Date: date}, true
	}
	return d, nil
}

// LastDay returns the newest day before a date that was kept; one of version 0 when there is none.
func (s *Store) LastDay(ctx context.Context, before string) (Day, error) {
	var rows []dayRow
	if err := s.db.WithContext(ctx).Where("day < ?", before).Order("day DESC").Limit(1).Find(&rows).Error; err != nil ||
		len(rows) == 0 {
		return Day{}, err
	}
	var out Day
	if err := read(rows[0].Doc, &out.Sheet); err != nil {
		out.Date, out.Version = rows[0].Day, rows[0].Version
		if len(out.Date) > len(time.DateOnly) {
			out.Date = out.Date[:len(time.DateOnly)]
		}
		return s.mendDay(ctx, out, err)
	}
	return out, nil
}

// SaveDay keeps a day in place of that version of it, 0 for a new one, and returns the version it gets. ErrChanged: it
// was
// kept anew meanwhile.
func (s *Store) SaveDay(ctx context.Context, date string, version int, sheet day.Sheet) (int, error) {
	sheet.Format, sheet.Date = day.Format, date
	sheet.Tidy()
	doc, err := json.Marshal(sheet)
	if err != nil {
		return 0, err
	}
	return version + 1, s.transact(ctx, func(tx *gorm.DB) error { return putDay(ctx, tx, date, version, version, doc) })
}

// putDay writes the next version of a day; taking it back leads to undo.
func putDay(ctx context.Context, tx *gorm.DB, date string, version, undo int, doc raw) error {
	now := tx.NowFunc()
	row := dayRow{Day: date, Version: version + 1, BackTo: undo, Doc: doc, Updated: now}
	if version == 0 {
		var my *mysql.MySQLError
		if err := tx.Create(&row).Error; errors.As(err, &my) && my.Number == duplicateKey {
			return ErrChanged
		} else if err != nil {
			return err
		}
	} else {
		done := tx.Model(&dayRow{}).Where("day = ? AND version = ?", date, version).
			Updates(map[string]any{"version": version + 1, "back_to": undo, "doc": doc, "updated": now})
		if done.Error == nil && done.RowsAffected == 0 {
			return ErrChanged
		}
		if done.Error != nil {
			return done.Error
		}
	}
	if err := tx.Create(&dayVersion{Day: date, Version: version + 1, BackTo: undo, Doc: doc, SavedAt: now,
		SavedBy: by(ctx)}).Error; err != nil {
		return err
	}
	return tx.Where("day = ? AND version <= ?", date, version+1-keptDayVersions).Delete(&dayVersion{}).Error
}

// UndoDay takes the last change of that version of a day back: what was before it becomes the newest version.
// ErrNotFound:
// there is nothing to take back.
func (s *Store) UndoDay(ctx context.Context, date string, version int) error {
	return s.transact(ctx, func(tx *gorm.DB) error {
		var rows []dayRow
		if err := tx.Where("day = ?", date).Find(&rows).Error; err != nil {
			return err
		}
		switch {
		case len(rows) == 0:
			return ErrNotFound
		case rows[0].Version != version:
			return ErrChanged
		}
		var old []dayVersion
		if err := tx.Where("day = ? AND version = ?", date, rows[0].BackTo).Find(&old).Error; err != nil {
			return err
		}
		if len(old) == 0 {
			return ErrNotFound
		}
		return putDay(ctx, tx, date, version, old[0].BackTo, old[0].Doc)
	})
}

// Days returns the days kept between two dates, both counted, the first first.
func (s *Store) Days(ctx context.Context, from, to string) (out []Day, err error) {
	var rows []dayRow
	if err := s.db.WithContext(ctx).Where("day BETWEEN ? AND ?", from, to).Order("day").Limit(400).Find(
		&rows).Error; err != nil {
		return nil, err
	}
	for _, r := range rows {
		d := Day{Version: r.Version, CanUndo: r.BackTo > 0}
		if err := read(r.Doc, &d.Sheet); err != nil {
			s.log.Warn("a day cannot be read", "day", r.Day, "error", err)
			continue
		}
		out = append(out, d)
	}
	return out, nil
}

// Order is what somebody ordered for a day.
type Order struct {
	ID       uint64  `gorm:"primaryKey"`
	Day      string  `gorm:"->;<-:create"`
	Who      string  // for
	What     string  // a batch or a shape, as it was said
	Portions float64 // 0 where it was said otherwise and is not known yet
	Amount   *float64
	Unit     order.Unit
	Message  string // of those that came in one message; "": it came alone
	Due      int    // min from midnight
	Note     string
	// Agreed is what was agreed with the customer where what serves it goes against what it is to be without; by whom
	// it
	// was said, and when.
	Agreed   string
	AgreedBy string
	AgreedAt *time.Time
	State    OrderState
	StateAt  *time.Time // it was ticked so
	Standing *uint64    // of the week’s, when it comes from there
	Batch    *uint64    // made for it
	Gone     bool
	Version  int
	Once     *string // the mark of the form it came with, of which there is one; nil where none came
	Lost     *uint64 `gorm:"-"` // the batch that was made for it and thrown away
	Always   string  `gorm:"-"` // what goes with every order of its customer
}

// Noted is the note of an order with what goes with all of its customer's.
func (o *Order) Noted() string {
	switch {
	case o.Always == "":
		return o.Note
	case o.Note == "":
		return o.Always
	}
	return o.Note + "; " + o.Always
}

// OrderState is how an order stands at the counter.
type OrderState string

// An order is open, or one of these.
const (
	Packed    OrderState = "packed"
	Delivered OrderState = "delivered"
	NotTaken  OrderState = "not_taken"
)

// Standing is an order of every week.
type Standing struct {
	ID       uint64 `gorm:"primaryKey"`
	Weekday  int    // 0 Sunday to 6 Saturday
	Who      string
	What     string
	Portions float64
	Amount   *float64
	Unit     order.Unit
	Due      int // min from midnight
	Note     string
	FromDay  string // the first day it stands on, yyyy-mm-dd; "": always has
	UntilDay string // the last
	Version  int
	Once     *string // the mark of the form it came with
}

// Stands says whether an order of the week stands on a day of it.
func (o *Standing) Stands(date string) bool {
	return (o.FromDay == "" || date >= o.FromDay) && (o.UntilDay == "" || date <= o.UntilDay)
}

// Said is how much was ordered, as it was said; what is from before units is portions.
func (o *Order) Said() order.Amount { return saidOf(o.Amount, o.Unit, o.Portions) }

// Say has so much be ordered.
func (o *Order) Say(a order.Amount) { o.Amount, o.Unit, o.Portions = parted(a) }

// Said is how much is ordered, as it was said.
func (o *Standing) Said() order.Amount { return saidOf(o.Amount, o.Unit, o.Portions) }

// Say has so much be ordered.
func (o *Standing) Say(a order.Amount) { o.Amount, o.Unit, o.Portions = parted(a) }

func saidOf(amount *float64, unit order.Unit, portions float64) order.Amount {
	if amount == nil || unit == order.Portions {
		return order.Amount{N: portions}
	}
	return order.Amount{N: *amount, Unit: unit}
}

func parted(a order.Amount) (amount *float64, unit order.Unit, portions float64) {
	if a.Unit == order.Portions {
		return nil, a.Unit, a.N
	}
	return &a.N, a.Unit, 0
}

func (Standing) TableName() string { return "standing_orders" }

// MostOrders is how many orders a day may have, and MostStanding how many a week.
const (
	MostOrders   = 300
	MostStanding = 300
)

// Orders returns the orders of a day by when they are due: those of its own, and those of the week that it has not
// taken
// over yet, which have no ID and the version the week’s have.
func (s *Store) Orders(ctx context.Context, date string) ([]Order, error) {
	var out []Order
	if err := s.db.WithContext(ctx).Where("day = ?", date).Order("due, id").Limit(2 * MostOrders).Find(
		&out).Error; err != nil {
		return nil, err
	}
	at, err := time.Parse(time.DateOnly, date)
	if err != nil {
		return nil, err
	}
	var week []Standing
	if err := s.db.WithContext(ctx).Where("weekday = ?", int(at.Weekday())).Order("due, id").Limit(MostStanding).Find(
		&week).Error; err != nil {
		return nil, err
	}
	_, closed, err := s.ClosedOn(ctx, date)
	if err != nil {
		return nil, err
	}
	cards, err := s.Customers(ctx)
	if err != nil {
		return nil, err
	}
	card := map[string]*Customer{}
	for i := range cards {
		card[cards[i].Fold] = &cards[i]
	}
	for _, w := range week {
		if c := card[order.Fold(w.Who)]; closed || !w.Stands(date) || c != nil && c.Pauses(date) {
			continue
		}
		if !slices.ContainsFunc(out, func(o Order) bool { return o.Standing != nil && *o.Standing == w.ID }) {
			out = append(
				out,
				Order{
					Day:      date,
					Who:      w.Who,
					What:     w.What,
					Portions: w.Portions,
					Amount:   w.Amount,
					Unit:     w.Unit,
					Due:      w.Due,
					Note:     w.Note,
					Standing: &w.ID,
					Version:  w.Version,
				},
			)
		}
	}
	out = slices.DeleteFunc(out, func(o Order) bool { return o.Gone })
	for i := range out {
		out[i].Day = date
		if len(cards) > 0 {
			if c := card[order.Fold(out[i].Who)]; c != nil {
				out[i].Always = c.Always
			}
		}
	}
	slices.SortStableFunc(out, func(a, b Order) int { return a.Due - b.Due })
	return out, nil
}

// OrdersServed returns the orders a batch serves by when they are due, with what goes with every order of their
// customers.
func (s *Store) OrdersServed(ctx context.Context, batch uint64) ([]Order, error) {
	var out []Order
	err := s.db.WithContext(ctx).Where("batch = ? AND NOT gone", batch).Order("day, due, id").Limit(MostOrders).
		Find(&out).Error
	if err != nil || len(out) == 0 {
		return nil, err
	}
	cards, err := s.Customers(ctx)
	if err != nil {
		return nil, err
	}
	for i := range out {
		for _, c := range cards {
			if c.Fold == order.Fold(out[i].Who) {
				out[i].Always = c.Always
			}
		}
	}
	return out, nil
}

// OrdersBetween counts the orders of each day between two dates, both counted, those of the week apart.
func (s *Store) OrdersBetween(ctx context.Context, from, to string) (map[string]int, []Standing, error) {
	var rows []struct {
		Day string
		N   int
	}
	err := s.db.WithContext(ctx).Model(&Order{}).Select("DATE_FORMAT(day, '%Y-%m-%d') AS day, COUNT(*) AS n").
		Where("day BETWEEN ? AND ? AND NOT gone AND standing IS NULL", from, to).Group("day").Scan(&rows).Error
	if err != nil {
		return nil, nil, err
	}
	out := map[string]int{}
	for _, r := range rows {
		out[r.Day] = r.N
	}
	week, err := s.Week(ctx)
	return out, week, err
}

// Week returns the orders of every week, by day and when they are due.
func (s *Store) Week(ctx context.Context) (out []Standing, err error) {
	err = s.db.WithContext(ctx).Order("(weekday + 6) % 7, due, id").Limit(MostStanding).Find(&out).Error
	return out, err
}

// AddOrders keeps new orders of a day, all of them or none; ErrTooMany when the day would have more than it may. What
// bears a mark that has
// come already is there. An order of the week is taken over once only: ErrChanged when it was meanwhile, or is another
// now.
func (s *Store) AddOrders(ctx context.Context, orders []Order) error {
	if len(orders) == 0 {
		return nil
	}
	return s.transact(ctx, func(tx *gorm.DB) error {
		var own []Order
		for _, o := range orders {
			if o.Standing == nil {
				o.ID, o.Version = 0, 1
				own = append(own, o)
			} else if err := takeOver(tx, o); err != nil {
				return err
			}
		}
		if len(own) > 0 {
			if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&own).Error; err != nil {
				return err
			}
		}
		var n int64
		if err := tx.Model(&Order{}).Where("day = ? AND NOT gone", orders[0].Day).Count(&n).Error; err != nil {
			return err
		}
		if n > MostOrders {
			return ErrTooMany
		}
		return nil
	})
}

// takeOver has an order of the week, in that version of it, be its day’s own.
func takeOver(tx *gorm.DB, o Order) error {
	var w []Standing
	if err := tx.Where("id = ?", *o.Standing).Find(&w).Error; err != nil {
		return err
	}
	if len(w) == 0 || w[0].Version != o.Version {
		return ErrChanged
	}
	o.ID, o.Version = 0, 1
	err := tx.Create(&o).Error
	if is(err, duplicateKey) {
		return ErrChanged
	}
	return err
}

// SaveOrder keeps an order in place of that version of it; ErrChanged when it was kept anew meanwhile, ErrNotFound when
// there is none.
func (s *Store) SaveOrder(ctx context.Context, o Order) error {
	done := s.db.WithContext(ctx).Model(&Order{}).Where("id = ? AND version = ?", o.ID, o.Version).
		Updates(map[string]any{"who": o.Who, "what": o.What, "portions": o.Portions, "amount": o.Amount, "unit": o.Unit,
			"due": o.Due, "note": o.Note,
			"agreed": o.Agreed, "agreed_by": o.AgreedBy, "agreed_at": o.AgreedAt,
			"state": o.State, "state_at": o.StateAt, "batch": o.Batch, "gone": o.Gone,
			"version": o.Version + 1})
	return s.changed(ctx, done, &Order{}, o.ID)
}

// changed says what a change of one row that hit none means.
func (s *Store) changed(ctx context.Context, done *gorm.DB, of any, id uint64) error {
	if done.Error != nil || done.RowsAffected > 0 {
		return done.Error
	}
	var n int64
	if err := s.db.WithContext(ctx).Model(of).Where("id = ?", id).Count(&n).Error; err != nil {
		return err
	}
	if n == 0 {
		return ErrNotFound
	}
	return ErrChanged
}

// ServeOrders says by which batch orders are served, all of them or none; those of the week become the day’s own by
// that. ErrChanged when one of
// them is not in that version any more, or was served meanwhile.
func (s *Store) ServeOrders(ctx context.Context, orders []Order, batch uint64) error {
	return s.transact(ctx, func(tx *gorm.DB) error {
		for _, o := range orders {
			if o.ID == 0 {
				o.Batch = &batch
				if err := takeOver(tx, o); err != nil {
					return err
				}
				continue
			}
			done := tx.Model(&Order{}).Where("id = ? AND version = ? AND NOT gone", o.ID, o.Version).
				Updates(map[string]any{"batch": batch, "portions": o.Portions, "agreed": o.Agreed,
					"agreed_by": o.AgreedBy,
					"agreed_at": o.AgreedAt, "version": gorm.Expr("version + 1")})
			if done.Error != nil {
				return done.Error
			}
			if done.RowsAffected == 0 {
				return ErrChanged
			}
		}
		return nil
	})
}

// SaveStanding keeps an order of the week: a new one when its ID is 0, otherwise in place of that version.
func (s *Store) SaveStanding(ctx context.Context, o Standing) error {
	if o.ID == 0 {
		var n int64
		if err := s.db.WithContext(ctx).Model(&Standing{}).Count(&n).Error; err != nil {
			return err
		}
		if n >= MostStanding {
			return ErrTooMany
		}
		o.Version = 1
		return s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&o).Error // by its mark
	}
	done := s.db.WithContext(ctx).Model(&Standing{}).Where("id = ? AND version = ?", o.ID, o.Version).
		Updates(map[string]any{"weekday": o.Weekday, "who": o.Who, "what": o.What, "portions": o.Portions,
			"amount": o.Amount, "unit": o.Unit, "from_day": o.FromDay, "until_day": o.UntilDay, "due": o.Due,
			"note":    o.Note,
			"version": o.Version + 1})
	return s.changed(ctx, done, &Standing{}, o.ID)
}

// DropStanding ends that version of an order of the week; ErrChanged when it was kept anew meanwhile, ErrNotFound when
// there is none. What days
// have taken over stays.
func (s *Store) DropStanding(ctx context.Context, id uint64, version int) error {
	done := s.db.WithContext(ctx).Where("id = ? AND version = ?", id, version).Delete(&Standing{})
	return s.changed(ctx, done, &Standing{}, id)
}

// MadeOn returns the newest making of each of those batches that was begun between two moments.
func (s *Store) MadeOn(ctx context.Context, batches []uint64, from, to time.Time) (map[uint64]Making, error) {
	out := map[uint64]Making{}
	if len(batches) == 0 {
		return out, nil
	}
	var rows []Making
	err := s.db.WithContext(ctx).Where("batch_id IN ? AND began >= ? AND began < ?", batches, from,
		to).Order("began, id").Find(&rows).Error
	for _, m := range rows {
		out[m.BatchID] = m
	}
	return out, err
}

// ByIDs returns the batches of those IDs that are not deleted and can be read.
func (s *Store) ByIDs(ctx context.Context, ids []uint64) (map[uint64]Batch, error) {
	out := map[uint64]Batch{}
	if len(ids) == 0 {
		return out, nil
	}
	var rows []Batch
	err := s.db.WithContext(ctx).Where("id IN ?", ids).Find(&rows).Error
	if err == nil {
		rows, err = s.readable(ctx, rows)
	}
	for _, b := range rows {
		out[b.ID] = b
	}
	return out, err
}

// Named is a batch as orders name it.
type Named struct {
	ID          uint64
	Name, Shape string
	Kept        string // where it is kept, "" where it is cooked the same day; shelf: dried to keep
}

// Newest returns the batches made last, the newest first, at most so many; -1: all that are not deleted. How they are
// kept is not read.
func (s *Store) Newest(ctx context.Context, most int) (out []Named, err error) {
	err = s.db.WithContext(ctx).Model(&Batch{}).Select("id, name, shape").Order("id DESC").Limit(most).Scan(&out).Error
	return out, err
}

// Kept says where batches of those IDs are kept, of those that are kept at all: fridge, freezer, or shelf for what is
// dried to keep.
func (s *Store) Kept(ctx context.Context, ids []uint64) (map[uint64]string, error) {
	out := map[uint64]string{}
	if len(ids) == 0 {
		return out, nil
	}
	var rows []struct {
		ID           uint64
		Place, Dried string
	}
	err := s.db.WithContext(ctx).Model(&Batch{}).Select(`id, COALESCE(JSON_VALUE(request, '$.keep.where'), '') AS place,
		COALESCE(JSON_VALUE(request, '$.dry.keep'), '') AS dried`).Where("id IN ?", ids).Scan(&rows).Error
	for _, r := range rows {
		if where := keptWhere(r.Place, isTrue(r.Dried)); where != "" {
			out[r.ID] = where
		}
	}
	return out, err
}

// keptWhere is where what is made is kept: where a request says, or the shelf where it is dried to keep.
func keptWhere(place string, dried bool) string {
	if place == "" && dried {
		return "shelf"
	}
	return place
}

// isTrue says whether a flag of a JSON document is set, as the server writes it.
func isTrue(flag string) bool { return flag == "1" || flag == "true" }

// NewestOfNone is Newest of batches that are of no recipe.
func (s *Store) NewestOfNone(ctx context.Context) (out []Named, err error) {
	err = s.db.WithContext(ctx).Model(&Batch{}).Select("id, name, shape").Where("recipe_id IS NULL").Order("id DESC").
		Scan(&out).Error
	return out, err
}

// Thrown returns of batches those whose last making ended thrown away and was not begun again, and why.
func (s *Store) Thrown(ctx context.Context, batches []uint64) (map[uint64]string, error) {
	out := map[uint64]string{}
	if len(batches) == 0 {
		return out, nil
	}
	var rows []makingSummary
	err := s.db.WithContext(ctx).Where(`batch_id IN ? AND thrown AND NOT EXISTS (SELECT 1 FROM makings m WHERE m.batch_id = making_summaries.batch_id
		AND m.began > making_summaries.began)`, batches).Find(&rows).Error
	made, bad := s.madeOf(ctx, rows)
	for _, m := range made {
		out[m.Batch] = m.Why
	}
	return out, errors.Join(err, bad)
}

// BegunOf returns which of those batches were ever begun at the bench.
func (s *Store) BegunOf(ctx context.Context, batches []uint64) (map[uint64]bool, error) {
	out := map[uint64]bool{}
	if len(batches) == 0 {
		return out, nil
	}
	var ids []uint64
	err := s.db.WithContext(ctx).Table("makings").Where("batch_id IN ?", batches).Distinct().Pluck("batch_id",
		&ids).Error
	for _, id := range ids {
		out[id] = true
	}
	return out, err
}

// CameOut returns what came out of the last making of batches, g, where that was weighed and not thrown away.
func (s *Store) CameOut(ctx context.Context, batches []uint64) (map[uint64]float64, error) {
	out := map[uint64]float64{}
	if len(batches) == 0 {
		return out, nil
	}
	var rows []struct {
		BatchID uint64
		OutG    float64
	}
	err := s.db.WithContext(ctx).Table("making_summaries").Select("batch_id, out_g").
		Where("batch_id IN ? AND out_said AND NOT thrown", batches).Order("began, making_id").Scan(&rows).Error
	for _, r := range rows {
		out[r.BatchID] = r.OutG
	}
	return out, err
}

// VersionsOf returns the versions batches of those IDs are at; those deleted are not among them.
func (s *Store) VersionsOf(ctx context.Context, ids []uint64) (map[uint64]int, error) {
	out := map[uint64]int{}
	if len(ids) == 0 {
		return out, nil
	}
	var rows []struct {
		ID      uint64
		Version int
	}
	err := s.db.WithContext(ctx).Model(&Batch{}).Select("id, version").Where("id IN ?", ids).Scan(&rows).Error
	for _, r := range rows {
		out[r.ID] = r.Version
	}
	return out, err
}
