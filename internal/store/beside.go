package store

import (
	"bytes"
	"cmp"
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/go-sql-driver/mysql"
	"gorm.io/gorm"

	"hollen/internal/clock"
	"hollen/internal/core/bench"
)

// Beside says what of a backup is put beside what is there, and what is there already.
type Beside struct {
	Backup                                 Backup
	Rooms, Things, Batches, Makings        int // put beside
	HadRooms, HadThings, HadBatches, HadMs int // there already, left as they are
}

// Words say it, for people.
func (b Beside) Words() string {
	line := func(n, had int, one string) string {
		return fmt.Sprintf("%d %s to add, %d there already", n, one, had)
	}
	return strings.Join([]string{line(b.Batches, b.HadBatches, "batches"), line(b.Makings, b.HadMs, "makings"), line(b.Things, b.HadThings,
		"things of the cabinet"),
		line(b.Rooms, b.HadRooms, "rooms")}, "; ")
}

// scratchName begins the name of a database a backup is read in to be put beside another.
const scratchName = "hollen_beside_"

// ClearLeft takes away what was left by restores and backups that were killed: databases a backup was read in that nobody reads any more, and
// halves of files in a folder. What cannot be taken away is left for the next time.
func (s *Store) ClearLeft(ctx context.Context, dir string) error {
	halves, _ := filepath.Glob(filepath.Join(dir, "*.zip.part"))
	for _, f := range halves {
		if info, err := os.Stat(f); err == nil && s.now().Sub(info.ModTime()) > time.Hour { // of one that goes on it is newer
			_ = os.Remove(f)
		}
	}
	rows, err := s.sql.QueryContext(ctx, "SELECT schema_name FROM information_schema.schemata WHERE schema_name LIKE ?",
		strings.ReplaceAll(scratchName, "_", `\_`)+"%")
	if err != nil {
		return err
	}
	defer rows.Close()
	var left []string
	for rows.Next() {
		var name string
		if err := rows.Scan(&name); err != nil {
			return err
		}
		left = append(left, name)
	}
	for _, name := range left {
		var free sql.NullBool
		if err := s.sql.QueryRowContext(ctx, "SELECT IS_FREE_LOCK(?)", name).Scan(&free); err != nil {
			return err
		}
		if !free.Bool {
			continue
		}
		if _, err := s.sql.ExecContext(ctx, "DROP DATABASE IF EXISTS "+quoted(name)); err != nil {
			return err
		}
	}
	return rows.Err()
}

// RestoreBeside puts the batches with all their versions, the makings, the cabinet and the rooms of a backup beside what a database holds; what
// is there by the same name and the same figures, or a making begun at the same moment, stays as it is. Accounts, devices and what of the
// log counts are not touched. With preview nothing is written, and what would be is returned.
func RestoreBeside(ctx context.Context, dsn string, now clock.Clock, r io.ReaderAt, size int64, preview bool) (out Beside, err error) {
	cfg, err := mysql.ParseDSN(dsn)
	if err != nil {
		return out, fmt.Errorf("dsn: %w", err)
	}
	scratch := cfg.Clone()
	scratch.DBName = scratchName + strings.ToLower(rand.Text()[:10])
	pool, err := connect(dsn)
	if err != nil {
		return out, err
	}
	defer pool.Close()
	hold, err := pool.Conn(ctx) // as long as it is held, nobody clears it away
	if err != nil {
		return out, err
	}
	defer hold.Close()
	if _, err := hold.ExecContext(ctx, "DO GET_LOCK(?, 0)", scratch.DBName); err != nil {
		return out, err
	}
	if _, err := pool.ExecContext(ctx, "CREATE DATABASE "+scratch.DBName+" CHARACTER SET utf8mb4"); err != nil {
		return out, fmt.Errorf("a database to read the backup in cannot be made: %w", err)
	}
	defer pool.ExecContext(context.WithoutCancel(ctx), "DROP DATABASE "+scratch.DBName)
	if out.Backup, err = Restore(ctx, scratch.FormatDSN(), r, size); err != nil {
		return out, err
	}
	from, err := Open(ctx, scratch.FormatDSN(), now)
	if err != nil {
		return out, err
	}
	defer from.Close()
	if _, err := from.RemakeSummaries(ctx, false); err != nil {
		return out, err
	}
	to, err := Open(ctx, dsn, now)
	if err != nil {
		return out, err
	}
	defer to.Close()
	err = to.transact(ctx, func(tx *gorm.DB) error {
		was := out.Backup
		out = Beside{Backup: was}
		into := &Store{tx, to.sql, to.log, to.identity, now}
		if err := out.put(ctx, from, into); err != nil {
			return err
		}
		if preview {
			return errPreview
		}
		return stampLog(tx)
	})
	if errors.Is(err, errPreview) {
		err = nil
	} else if err == nil {
		err = to.SumUp(ctx)
	}
	return out, err
}

var errPreview = errors.New("nothing is written")

// put copies what is not there.
func (b *Beside) put(ctx context.Context, from, to *Store) error {
	rooms, err := from.Rooms(ctx)
	if err != nil {
		return err
	}
	for _, r := range rooms {
		r.ID = 0
		switch err := to.roomBeside(ctx, r); {
		case err == nil:
			b.Rooms++
		case errors.Is(err, ErrNameTaken), errors.Is(err, ErrTooMany):
			b.HadRooms++
		default:
			return err
		}
	}
	keys, err := b.things(ctx, from, to)
	if err != nil {
		return err
	}
	return b.batches(ctx, from, to, keys)
}

func (s *Store) roomBeside(ctx context.Context, r Room) error {
	all, err := s.Rooms(ctx)
	for _, x := range all {
		if strings.EqualFold(x.Name, r.Name) {
			return ErrNameTaken
		}
	}
	if err != nil {
		return err
	}
	return s.SaveRoom(ctx, r)
}

// things puts things of the cabinet beside, and returns which key each has become.
func (b *Beside) things(ctx context.Context, from, to *Store) (map[string]string, error) {
	theirs, err := from.Things(ctx, true)
	if err != nil {
		return nil, err
	}
	ours, err := to.Things(ctx, true)
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(theirs, func(a, b Thing) int { return cmp.Compare(rank(a.Kind), rank(b.Kind)) })
	keys := map[string]string{}
	for _, t := range theirs {
		_, key, name := Describe(t.Value)
		known := uint64(0)
		for _, o := range ours {
			if _, _, n := Describe(o.Value); o.Kind == t.Kind && strings.EqualFold(n, name) && (known == 0 || !o.Retired) {
				known = o.ID
			}
		}
		if known == 0 && t.Retired {
			continue
		}
		if known > 0 {
			b.HadThings++
			keys[key] = Key(known)
			continue
		}
		doc, err := json.Marshal(t.Value)
		if err != nil {
			return nil, err
		}
		id, err := keepNew(to.db.WithContext(ctx), t.Kind, rekeyed(doc, keys))
		if err != nil {
			return nil, err
		}
		b.Things++
		keys[key] = Key(id)
	}
	return keys, nil
}

// rank has flours come before the lots that name them.
func rank(k Kind) int {
	if k == FlourKind {
		return 0
	}
	return 1
}

// rekeyed is a document with keys of things as they are here; a text that is a key of the workshop's own is nothing else.
func rekeyed(doc []byte, keys map[string]string) []byte {
	var v any
	d := json.NewDecoder(bytes.NewReader(doc))
	d.UseNumber()
	if d.Decode(&v) != nil {
		return doc
	}
	var walk func(v any) any
	walk = func(v any) any {
		switch v := v.(type) {
		case map[string]any:
			for k, x := range v {
				v[k] = walk(x)
			}
		case []any:
			for i, x := range v {
				v[i] = walk(x)
			}
		case string:
			if to, ok := keys[v]; ok && v != "" {
				return to
			}
		}
		return v
	}
	out, err := json.Marshal(walk(v))
	if err != nil {
		return doc
	}
	return out
}

// batches puts batches with their versions and makings beside.
func (b *Beside) batches(ctx context.Context, from, to *Store, keys map[string]string) error {
	var all []Batch
	if err := from.db.WithContext(ctx).Order("id").Find(&all).Error; err != nil {
		return err
	}
	ids := map[uint64]uint64{}
	for _, x := range all {
		var versions []struct {
			Version int
			Request raw
			SavedAt time.Time
			SavedBy string
		}
		if err := from.db.WithContext(ctx).Table("revisions").Where("batch_id = ?", x.ID).Order("version").Find(&versions).Error; err != nil {
			return err
		}
		plain, err := json.Marshal(x.Request.Request)
		if err != nil {
			return err
		}
		doc := rekeyed(plain, keys)
		var known uint64
		err = to.db.WithContext(ctx).Raw("SELECT id FROM batches WHERE deleted_at IS NULL AND name = ? AND JSON_EQUALS(request, ?) ORDER BY id LIMIT 1",
			x.Request.Name,
			string(doc)).Scan(&known).Error
		if err != nil {
			return err
		}
		if known > 0 {
			ids[x.ID] = known
			b.HadBatches++
		} else {
			n := x
			n.ID, n.PartnerID = 0, nil
			if err := n.Request.Scan(doc); err != nil {
				return err
			}
			if err := to.db.WithContext(ctx).Create(&n).Error; err != nil {
				return err
			}
			for _, v := range versions {
				if err := to.db.WithContext(ctx).Exec("INSERT INTO revisions (batch_id, version, request, saved_at, saved_by) VALUES (?, ?, ?, ?, ?)", n.ID, v.Version,
					raw(rekeyed(v.Request, keys)), v.SavedAt, v.SavedBy).Error; err != nil {
					return err
				}
			}
			ids[x.ID] = n.ID
			b.Batches++
		}
		if err := b.makings(ctx, from, to, keys, x.ID, ids[x.ID]); err != nil {
			return err
		}
	}
	for _, x := range all { // doughs that go together still do
		if x.PartnerID != nil && ids[*x.PartnerID] > 0 {
			if err := to.db.WithContext(ctx).Model(&Batch{}).Where("id = ? AND partner_id IS NULL", ids[x.ID]).UpdateColumn("partner_id",
				ids[*x.PartnerID]).Error; err != nil {
				return err
			}
		}
	}
	return nil
}

// makings puts the makings of one batch beside.
func (b *Beside) makings(ctx context.Context, from, to *Store, keys map[string]string, of, here uint64) error {
	var all []Making
	if err := from.db.WithContext(ctx).Where("batch_id = ?", of).Order("id").Find(&all).Error; err != nil {
		return err
	}
	for _, m := range all {
		var n int64
		if err := to.db.WithContext(ctx).Model(&Making{}).Where("batch_id = ? AND began = ?", here, m.Began).Count(&n).Error; err != nil {
			return err
		}
		if n > 0 {
			b.HadMs++
			continue
		}
		events, _, err := from.Events(ctx, m.ID, 0)
		if err != nil {
			return err
		}
		plain, err := json.Marshal(m.Request.Request)
		if err != nil {
			return err
		}
		was := m.ID
		m.ID, m.BatchID, m.Seq, m.Once = 0, here, 0, nil
		if err := m.Request.Scan(rekeyed(plain, keys)); err != nil {
			return err
		}
		if err := to.db.WithContext(ctx).Create(&m).Error; err != nil {
			return err
		}
		if len(events) > 0 {
			if err := appendEvents(to.db.WithContext(ctx), m.ID, &m.Seq, events); err != nil {
				return err
			}
		}
		pictures, err := from.Pictures(ctx, was)
		if err != nil {
			return err
		}
		for _, p := range pictures {
			jpeg, err := from.Picture(ctx, was, p)
			if err != nil {
				return err
			}
			if err := to.db.WithContext(ctx).Exec("INSERT INTO making_pictures (making_id, n, kept, jpeg) VALUES (?, ?, ?, ?)", m.ID, p, to.db.NowFunc(),
				jpeg).Error; err != nil {
				return err
			}
		}
		b.Makings++
		if m.Ended == nil {
			continue
		}
		p, err := m.Plan()
		if err != nil {
			to.log.Warn("beside", "making", was, "err", err)
			continue
		}
		run := bench.Run(p, m.Began, events)
		row, err := summaryOf(m, &run, events)
		if err != nil {
			return err
		}
		if err := to.db.WithContext(ctx).Create(&row).Error; err != nil {
			return err
		}
	}
	return nil
}
