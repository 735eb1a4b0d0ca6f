package store

import (
	"archive/zip"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"slices"
	"strings"

	"github.com/pressly/goose/v3"
	"gorm.io/gorm"

	"hollen/internal/clock"
)

// ErrNotEmpty says that a database holds something already.
var ErrNotEmpty = errors.New("the database is not empty")

// mostAtATime is how many rows are put in with one statement.
const mostAtATime = 50

// Restored says what a restore has put in.
type Restored struct {
	Backup
	Kept string // the first account that was there and stays, with its password and role; "" where there was none
}

// Restore puts a backup into a database that holds nothing, or nothing but its first account, which stays. A new one is
// brought to the version of the backup first and to this one's afterwards. ErrNotEmpty where it holds more; nothing is
// changed then, and with any other error.
func Restore(ctx context.Context, dsn string, now clock.Clock, r io.ReaderAt, size int64) (out Restored, err error) {
	if out.Backup, err = VerifyBackup(r, size); err != nil {
		return out, err
	}
	pool, err := connect(dsn)
	if err != nil {
		return out, err
	}
	defer pool.Close()
	switch at, err := versionOf(ctx, pool); {
	case err != nil:
		return out, unreached(err)
	case at > 0: // somebody has opened it
		out.Kept, err = restoreInto(ctx, dsn, now, r, size)
		return out, err
	}
	return out, restoreNew(ctx, pool, out.Backup, r, size)
}

// restoreNew puts a backup that has been found whole into a database nobody has opened.
func restoreNew(ctx context.Context, pool *sql.DB, b Backup, r io.ReaderAt, size int64) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectMySQL, pool, files)
	if err != nil {
		return err
	}
	if _, err := p.UpTo(ctx, b.Version); err != nil {
		return err
	}
	c, err := pool.Conn(ctx)
	if err != nil {
		return err
	}
	defer c.Close()
	tables, err := columnsOf(ctx, c)
	if err != nil {
		return err
	}
	z, err := zip.NewReader(r, size)
	if err != nil {
		return fmt.Errorf("%w: %w", ErrBackup, err)
	}
	tx, err := c.BeginTx(ctx, nil) // all of it or nothing
	if err != nil {
		return err
	}
	defer tx.Rollback()
	if _, err := tx.ExecContext(ctx, "SET FOREIGN_KEY_CHECKS = 0"); err != nil {
		return err
	}
	for _, t := range tables {
		if slices.Contains(passed, t.name) {
			continue
		}
		f, err := z.Open(t.name + ".jsonl")
		if errors.Is(err, fs.ErrNotExist) {
			continue
		} else if err != nil {
			return fmt.Errorf("%w: %w", ErrBackup, err)
		}
		n, err := t.load(ctx, tx, f)
		f.Close()
		if err == nil && n != b.Rows[t.name] {
			err = fmt.Errorf("%w: %d rows are there, and it says %d", ErrBackup, n, b.Rows[t.name])
		}
		if err != nil {
			return fmt.Errorf("%s: %w", t.name, err)
		}
	}
	if len(b.Identity) > 0 {
		if _, err := tx.ExecContext(ctx, "INSERT IGNORE INTO identity (id, name) VALUES (1, ?)",
			b.Identity); err != nil &&
			!is(err, noSuchTable) {
			return err
		}
	}
	if _, err := tx.ExecContext(ctx, "INSERT IGNORE INTO seeded (id) VALUES (1)"); err != nil && !is(err, noSuchTable) {
		return err
	}
	if err := tx.Commit(); err != nil {
		return err
	}
	_, err = p.Up(ctx)
	return err
}

// restoreInto puts a backup into a database that has been opened: read in beside it, brought to this version, and
// copied over in one go. It
// returns the name of the first account, which stays.
func restoreInto(ctx context.Context, dsn string, now clock.Clock, r io.ReaderAt, size int64) (kept string, err error) {
	to, err := Open(ctx, dsn, now)
	if err != nil {
		return "", err
	}
	defer to.Close()
	if _, err := to.firstAlone(ctx); err != nil { // said before the work, too
		return "", err
	}
	from, _, err := readIn(ctx, dsn, now, r, size)
	if err != nil {
		return "", err
	}
	defer from.drop()
	tables, err := to.tables(ctx)
	if err != nil {
		return "", err
	}
	err = to.Atomically(ctx, func(into *Store) error {
		first, err := into.firstAlone(ctx)
		if err != nil {
			return err
		}
		tx := into.db.WithContext(ctx)
		var trail []Audit
		if err := tx.Order("id").Find(&trail).Error; err != nil {
			return err
		}
		if err := tx.Exec("SET FOREIGN_KEY_CHECKS = 0").Error; err != nil {
			return err
		}
		defer tx.Exec("SET FOREIGN_KEY_CHECKS = 1")
		for _, t := range tables {
			if slices.Contains(passed, t.name) && t.name != "sessions" && t.name != "learned" &&
				t.name != "sign_devices" {
				continue
			}
			if err := tx.Exec("DELETE FROM " + quoted(t.name)).Error; err != nil {
				return err
			}
			if slices.Contains(passed, t.name) {
				continue
			}
			if err := tx.Exec("INSERT INTO " + quoted(t.name) + " (" + t.list() + ") SELECT " + t.list() + " FROM " +
				from.table(t.name)).Error; err != nil {
				return fmt.Errorf("%s: %w", t.name, err)
			}
		}
		for _, a := range trail {
			a.ID = 0
			if err := tx.Create(&a).Error; err != nil {
				return err
			}
		}
		if err := tx.Exec("INSERT IGNORE INTO seeded (id) VALUES (1)").Error; err != nil || first == nil {
			return err
		}
		kept = first.Name
		return keepFirst(tx, *first)
	})
	return kept, err
}

// firstAlone returns the first account where it is all a database holds, nil where that holds nothing; ErrNotEmpty
// otherwise.
func (s *Store) firstAlone(ctx context.Context) (*Account, error) {
	tables, err := s.tables(ctx)
	if err != nil {
		return nil, err
	}
	makers, most := 0, map[string]int{"accounts": 1, "workshops": 1, "log_settings": 1}
	for _, t := range tables {
		var n int
		if slices.Contains(passed, t.name) || t.name == "audits" {
			continue
		}
		if err := s.db.WithContext(ctx).Raw("SELECT COUNT(*) FROM " + quoted(t.name)).Scan(&n).Error; err != nil {
			return nil, err
		}
		if t.name == "cabinet" {
			if err := s.db.WithContext(ctx).Raw("SELECT COUNT(*) FROM cabinet WHERE kind = ?",
				MakerKind).Scan(&makers).Error; err != nil {
				return nil, err
			}
			n -= min(makers, 1)
		}
		if n > most[t.name] {
			return nil, fmt.Errorf("%w: there is something in %s", ErrNotEmpty, t.name)
		}
	}
	w, err := s.workshop(ctx)
	if err != nil || w.House != nil {
		return nil, errors.Join(err, fmt.Errorf("%w: it says what new batches start from", ErrNotEmpty))
	}
	var all []Account
	if err := s.accounts(ctx).Find(&all).Error; err != nil || len(all) == 0 {
		return nil, err
	}
	return &all[0], nil
}

// keepFirst puts the first account back among those of a backup: in place of the one of its name, or beside them.
func keepFirst(tx *gorm.DB, a Account) error {
	var same []Account
	if err := tx.Where("name = ?", a.Name).Omit("Maker").Find(&same).Error; err != nil {
		return err
	}
	if len(same) > 0 {
		return tx.Model(&Account{}).Where("id = ?", same[0].ID).
			Updates(map[string]any{"role": a.Role, "password": a.Password, "pin": a.PIN, "stamp": same[0].Stamp + 1}).
			Error
	}
	var err error
	if a.MakerID, err = makerNamed(tx, a.Name); err != nil {
		return err
	}
	a.ID = 0
	return tx.Omit("Maker").Create(&a).Error
}

// load puts the rows of a document into a table.
func (t *table) load(ctx context.Context, tx *sql.Tx, r io.Reader) (n int, err error) {
	lines := rowsOf(r)
	one := "(" + strings.TrimSuffix(strings.Repeat("?,", len(t.columns)), ",") + ")"
	var args []any
	flush := func(rows int) error {
		if rows == 0 {
			return nil
		}
		_, err := tx.ExecContext(
			ctx,
			"INSERT INTO "+quoted(
				t.name,
			)+" ("+t.list()+") VALUES "+strings.TrimSuffix(
				strings.Repeat(one+",", rows),
				",",
			),
			args...)
		args = args[:0]
		return err
	}
	size, waiting := 0, 0
	for {
		var row map[string]json.RawMessage
		if !lines.Scan() {
			if err := lines.Err(); err != nil {
				return n, fmt.Errorf("%w: row %d: %w", ErrBackup, n+1, err)
			}
			return n, flush(waiting)
		}
		if err := json.Unmarshal(lines.Bytes(), &row); err != nil {
			return n, fmt.Errorf("%w: row %d: %w", ErrBackup, n+1, err)
		}
		for _, c := range t.columns {
			v, err := c.read(row[c.name])
			if err != nil {
				return n, fmt.Errorf("%w: row %d, %s: %w", ErrBackup, n+1, c.name, err)
			}
			args = append(args, v)
			size += len(row[c.name])
		}
		n, waiting = n+1, waiting+1
		const mostBytes = 1 << 20
		if waiting == mostAtATime || size > mostBytes {
			if err := flush(waiting); err != nil {
				return n, fmt.Errorf("row %d: %w", n, err)
			}
			size, waiting = 0, 0
		}
	}
}
