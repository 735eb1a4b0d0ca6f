package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/go-sql-driver/mysql"

	"hollen/internal/clock"
)

// scratchName begins the name of a database a backup is read in to be put beside another.
const scratchName = "hollen_beside_"

// scratch is a database that a backup is read in, on the server of another, until it is dropped.
type scratch struct {
	*Store
	name string
	pool *sql.DB   // of the other
	hold *sql.Conn // has its name locked: as long as it is held, nobody clears it away
}

// readIn reads a backup into a scratch database beside the one of that dsn and brings it to this version.
func readIn(
	ctx context.Context,
	dsn string,
	now clock.Clock,
	r io.ReaderAt,
	size int64,
) (s *scratch, b Backup, err error) {
	if b, err = VerifyBackup(r, size); err != nil {
		return nil, b, err
	}
	cfg, err := mysql.ParseDSN(dsn)
	if err != nil {
		return nil, b, fmt.Errorf("dsn: %w", err)
	}
	s = &scratch{name: scratchName + strings.ToLower(rand.Text()[:10])}
	defer func() {
		if err != nil {
			s.drop()
		}
	}()
	if s.pool, err = connect(dsn); err != nil {
		return s, b, err
	}
	if s.hold, err = s.pool.Conn(ctx); err != nil {
		return s, b, err
	}
	if _, err := s.hold.ExecContext(ctx, "DO GET_LOCK(?, 0)", s.name); err != nil {
		return s, b, err
	}
	if _, err := s.pool.ExecContext(ctx, "CREATE DATABASE "+s.name+" CHARACTER SET utf8mb4"); err != nil {
		return s, b, fmt.Errorf("a database to read the backup in cannot be made: %w", err)
	}
	cfg.DBName = s.name
	own, err := connect(cfg.FormatDSN())
	if err != nil {
		return s, b, err
	}
	err = restoreNew(ctx, own, b, r, size)
	own.Close()
	if err != nil {
		return s, b, err
	}
	s.Store, err = Open(ctx, cfg.FormatDSN(), now)
	return s, b, err
}

// table is the full name of one of its tables.
func (s *scratch) table(name string) string { return quoted(s.name) + "." + quoted(name) }

// drop takes the database away; what cannot be taken away is cleared later.
func (s *scratch) drop() {
	if s.Store != nil {
		_ = s.Close()
	}
	if s.pool == nil {
		return
	}
	if s.hold != nil {
		_, _ = s.hold.ExecContext(context.Background(), "DROP DATABASE IF EXISTS "+s.name)
		_ = s.hold.Close()
	}
	_ = s.pool.Close()
}

// ClearLeft takes away what was left by restores and backups that were killed: databases a backup was read in that
// nobody reads any more, and
// halves of files in a folder. What cannot be taken away is left for the next time.
func (s *Store) ClearLeft(ctx context.Context, dir string) error {
	halves, _ := filepath.Glob(filepath.Join(dir, "*.zip.part"))
	for _, f := range halves {
		if info, err := os.Stat(f); err == nil &&
			s.now().Sub(info.ModTime()) > time.Hour { // of one that goes on it is newer
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
