package store

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"gorm.io/gorm"

	"hollen/internal/clock"
)

// Beside says what of a backup is put beside what is there, kind by kind, and what is said otherwise here.
type Beside struct {
	Backup  Backup
	Kinds   []BesideKind
	Clashes []Clash
}

// BesideKind is what becomes of the things of one kind.
type BesideKind struct {
	Name   string // in the plural
	Added  int
	Had    int      // there already, left as they are
	Others []string // there under the same name with something else; those here stay
	Left   int      // left out
	Why    string   // they are left out
}

// Clash is something of which both sides say something else.
type Clash struct {
	Key     string // names it: day 2026-11-28
	Words   string
	Settled bool // somebody has said which it is to be
	Backup  bool // the backup’s takes the place of the one here
}

// BesideOptions say how a backup is put beside.
type BesideOptions struct {
	Preview bool // nothing is written, and what would be is returned
	// Decide says which side a clash is settled for, and whether it is; nil: none is.
	Decide func(Clash) (backup, settled bool)
}

// ErrClashes says that a backup says something else of what is there, and nobody has said which it is to be.
var ErrClashes = errors.New("the backup and what is there say something else")

// The kinds, in the order they are told.
const (
	batchKind    = "batches"
	deletedKind  = "deleted batches"
	versionKind  = "versions of batches"
	makingKind   = "makings"
	eventKind    = "events of makings"
	pictureKind  = "pictures"
	thingKind    = "things of the cabinet"
	roomKind     = "rooms"
	dayKind      = "days"
	orderKind    = "orders"
	standingKind = "orders of the week"
	houseKind    = "House"
	countsKind   = "settings of the log"
	deviceKind   = "devices"
	airKind      = "means of the room’s air"
	practiceKind = "doughs practised on"
	recipeKind   = "recipes"
	customerKind = "customers"
	closedKind   = "days the house is closed"
	accountKind  = "accounts"
	trailKind    = "lines of the trail"
)

var besideKinds = []string{
	recipeKind,
	customerKind,
	closedKind,
	batchKind,
	deletedKind,
	versionKind,
	makingKind,
	eventKind,
	pictureKind,
	thingKind,
	roomKind,
	dayKind,
	orderKind,
	standingKind,
	houseKind,
	countsKind,
	deviceKind,
	airKind,
	practiceKind,
	accountKind,
	trailKind,
}

// Kind is what becomes of the things of that kind.
func (b *Beside) Kind(name string) *BesideKind {
	if len(b.Kinds) == 0 {
		for _, n := range besideKinds {
			b.Kinds = append(b.Kinds, BesideKind{Name: n})
		}
	}
	return &b.Kinds[slices.IndexFunc(b.Kinds, func(k BesideKind) bool { return k.Name == name })]
}

// Words say it, for people: a line for each kind of which the backup has something. would: nothing has been written.
func (b *Beside) Words(would bool) string {
	var out []string
	add := "added"
	if would {
		add = "to add"
	}
	for _, k := range b.Kinds {
		var parts []string
		say := func(n int, what string) {
			if n > 0 {
				parts = append(parts, strconv.Itoa(n)+" "+what)
			}
		}
		say(k.Added, add)
		say(k.Had, "there already")
		say(len(k.Others), "there with something else, and left so ("+firstOf(k.Others)+")")
		say(k.Left, "left out: "+k.Why)
		if len(parts) > 0 {
			out = append(out, k.Name+": "+strings.Join(parts, "; "))
		}
	}
	for _, c := range b.Clashes {
		switch {
		case c.Backup:
			out = append(out, c.Words+": said otherwise; the backup’s is taken")
		case c.Settled:
			out = append(out, c.Words+": said otherwise; left as it is here")
		default:
			out = append(out, c.Words+": said otherwise; you are asked, or --clashes says which")
		}
	}
	if len(out) == 0 {
		return "nothing to add"
	}
	return strings.Join(out, "\n")
}

// firstOf names some of many.
func firstOf(all []string) string {
	const most = 5
	if more := len(all) - most; more > 0 {
		return strings.Join(all[:most], ", ") + " and " + strconv.Itoa(more) + " more"
	}
	return strings.Join(all, ", ")
}

// RestoreBeside puts what is in a backup beside what a database holds: recipes, batches with all their versions and
// makings, deleted ones, too; the cabinet, rooms, days, orders, those of the week, House, what of the log counts,
// devices and the room’s air, and what browsers have practised. Everything is known by what it is and not by its
// number: what is there stays as it is. Of a day, an order, the House or the log’s settings that are said otherwise
// here, options decide; ErrClashes, and nothing written, where they do not. Accounts and the trail are left out.
func RestoreBeside(
	ctx context.Context,
	dsn string,
	now clock.Clock,
	r io.ReaderAt,
	size int64,
	options BesideOptions,
) (out Beside, err error) {
	from, backup, err := readIn(ctx, dsn, now, r, size)
	out.Backup = backup
	if err != nil {
		return out, err
	}
	defer from.drop()
	if _, err := from.RemakeSummaries(ctx, false); err != nil {
		return out, err
	}
	to, err := Open(ctx, dsn, now)
	if err != nil {
		return out, err
	}
	defer to.Close()
	tables, err := to.tables(ctx)
	if err != nil {
		return out, err
	}
	err = to.Atomically(ctx, func(into *Store) error {
		out = Beside{Backup: backup}
		c := &besides{
			ctx:      ctx,
			from:     from,
			into:     into,
			db:       into.db.WithContext(ctx),
			tables:   tables,
			out:      &out,
			options:  options,
			keys:     map[string]string{},
			batch:    map[uint64]uint64{},
			making:   map[uint64]uint64{},
			standing: map[uint64]uint64{},
			recipe:   map[uint64]uint64{},
		}
		if err := c.all(); err != nil {
			return err
		}
		switch {
		case options.Preview:
			return errPreview
		case c.open > 0:
			return ErrClashes
		}
		return stampLog(c.db)
	})
	if errors.Is(err, errPreview) {
		err = nil
	} else if err == nil {
		err = to.SumUp(ctx)
	}
	return out, err
}

var errPreview = errors.New("nothing is written")

// besides puts a backup that has been read in beside what is there: by which key and number each thing of it goes here.
type besides struct {
	ctx                     context.Context
	from                    *scratch
	into                    *Store
	db                      *gorm.DB // of into, one transaction
	tables                  []table
	out                     *Beside
	options                 BesideOptions
	open                    int // clashes nobody has settled
	keys                    map[string]string
	batch, making, standing map[uint64]uint64
	recipe                  map[uint64]uint64
}

func (c *besides) all() error {
	for _, put := range []func() error{c.rooms, c.things, c.recipes, c.recipePartners, c.batches, c.partners,
		c.weekOrders, c.orders, c.customers,
		c.days,
		c.house, c.counts, c.devices, c.air, c.practised} {
		if err := put(); err != nil {
			return err
		}
	}
	for name, left := range map[string][2]string{accountKind: {"accounts", "who signs in, and how, is said here"},
		trailKind: {"audits", "the trail is of one database"}} {
		k := c.out.Kind(name)
		k.Left, k.Why = c.out.Backup.Rows[left[0]], left[1]
	}
	return nil
}

// kind is what becomes of the things of that kind.
func (c *besides) kind(name string) *BesideKind { return c.out.Kind(name) }

// settled notes that both sides say something else of what a key names, and returns whether the backup’s is to be
// taken.
func (c *besides) settled(key, words string) bool {
	x := Clash{Key: key, Words: words}
	if c.options.Decide != nil {
		x.Backup, x.Settled = c.options.Decide(x)
	}
	if !x.Settled {
		c.open++
	}
	c.out.Clashes = append(c.out.Clashes, x)
	return x.Backup
}

// line is a row of a table, column by column, as the database has it: []byte, a number, a moment or nil.
type line map[string]any

func (l line) id(column string) uint64 {
	n, _ := strconv.ParseUint(l.text(column), 10, 64)
	return n
}

func (l line) text(column string) string {
	switch v := l[column].(type) {
	case nil:
		return ""
	case []byte:
		return string(v)
	default:
		return fmt.Sprint(v)
	}
}

// as is the line with other values in some columns; what is added later to a table comes along by itself.
func (l line) as(values map[string]any) line {
	out := line{}
	for k, v := range l {
		out[k] = v
	}
	for k, v := range values {
		out[k] = v
	}
	return out
}

func (c *besides) table(name string) *table {
	return &c.tables[slices.IndexFunc(c.tables, func(t table) bool { return t.name == name })]
}

// theirs reads rows of the backup, ours those there are here.
func (c *besides) theirs(name, where string, args ...any) ([]line, error) {
	return c.lines(c.from.table(name), name, where, args...)
}

func (c *besides) ours(name, where string, args ...any) ([]line, error) {
	return c.lines(quoted(name), name, where, args...)
}

func (c *besides) lines(full, name, where string, args ...any) ([]line, error) {
	t := c.table(name)
	rows, err := c.db.Raw("SELECT "+t.list()+" FROM "+full+" "+where, args...).Rows()
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []line
	values, into := make([]any, len(t.columns)), make([]any, len(t.columns))
	for i := range values {
		into[i] = &values[i]
	}
	for rows.Next() {
		if err := rows.Scan(into...); err != nil {
			return nil, err
		}
		l := line{}
		for i, col := range t.columns {
			if b, is := values[i].([]byte); is && col.kind != "bytes" {
				l[col.name] = string(b)
			} else {
				l[col.name] = values[i]
			}
		}
		out = append(out, l)
	}
	return out, rows.Err()
}

// put keeps a line as a new row and returns its number; one with a column id gets a number of its own here.
func (c *besides) put(name string, l line) (id uint64, err error) {
	t := c.table(name)
	var columns, marks []string
	var args []any
	numbered := false
	for _, col := range t.columns {
		if col.name == "id" && col.kind == "number" {
			numbered = true
			continue
		}
		columns = append(columns, quoted(col.name))
		marks = append(marks, "?")
		args = append(args, l[col.name])
	}
	if err := c.db.Exec("INSERT INTO "+quoted(name)+" ("+strings.Join(columns, ", ")+") VALUES ("+strings.Join(marks,
		", ")+")", args...).Error; err != nil {
		return 0, fmt.Errorf("%s: %w", name, err)
	}
	if numbered {
		err = c.db.Raw("SELECT LAST_INSERT_ID()").Scan(&id).Error
	}
	return id, err
}

// copied copies rows of a table that name something by its number, which is another here, without reading them; it
// returns how many.
func (c *besides) copied(name, column string, was, is uint64) (int, error) {
	t := c.table(name)
	var columns, values []string
	for _, col := range t.columns {
		columns = append(columns, quoted(col.name))
		if col.name == column {
			values = append(values, strconv.FormatUint(is, 10))
		} else {
			values = append(values, quoted(col.name))
		}
	}
	done := c.db.Exec(
		"INSERT INTO "+quoted(
			name,
		)+" ("+strings.Join(
			columns,
			", ",
		)+") SELECT "+strings.Join(
			values,
			", ",
		)+" FROM "+c.from.table(
			name,
		)+
			" WHERE "+quoted(
			column,
		)+" = ?",
		was,
	)
	return int(done.RowsAffected), done.Error
}

// ownKey is a key of a thing of the workshop’s own, as a document has it.
var (
	ownKey  = regexp.MustCompile(`"own-[0-9]+"`)
	bareKey = regexp.MustCompile(`\bown-[0-9]+\b`)
)

// rekeyed is a document with keys of things as they are here, and otherwise to the letter as it was.
func rekeyed(doc string, keys map[string]string) string {
	return ownKey.ReplaceAllStringFunc(doc, func(quoted string) string {
		if to, ok := keys[quoted[1:len(quoted)-1]]; ok {
			return `"` + to + `"`
		}
		return quoted
	})
}

// sameJSON says whether two documents say the same.
func sameJSON(a, b string) bool {
	plain := func(doc string) []byte {
		var v any
		d := json.NewDecoder(strings.NewReader(doc))
		d.UseNumber()
		if d.Decode(&v) != nil {
			return []byte(doc)
		}
		out, _ := json.Marshal(v) // what was decoded
		return out
	}
	return a == b || bytes.Equal(plain(a), plain(b))
}

// tables are the tables there are, with their columns.
func (s *Store) tables(ctx context.Context) ([]table, error) {
	c, err := s.sql.Conn(ctx)
	if err != nil {
		return nil, err
	}
	defer c.Close()
	return columnsOf(ctx, c)
}
