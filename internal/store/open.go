package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"strings"
	"time"

	"github.com/go-sql-driver/mysql"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

// ErrNewer says that a database was made by a newer Hollen than this one.
var ErrNewer = errors.New("this database was made by a newer Hollen: update this one, or restore a backup into an " +
	"empty database")

// migrate brings the tables up to date, one process at a time; before changes what is there before anything is changed.
// Every migration can
// be run again from wherever an earlier try was cut off.
func migrate(ctx context.Context, pool *sql.DB, before func(from, to int64) error) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	if err := startList(ctx, pool); err != nil {
		return unreached(err)
	}
	// A lock that is kept as a row works on a cluster, too; what a process that died has left is taken over after a
	// while.
	locker, err := lock.NewMySQLTableLocker(lock.WithTableName("hollen_lock"), lock.WithTableLeaseDuration(leaseFor),
		lock.WithTableHeartbeatInterval(leaseFor/5),
		lock.WithTableLockTimeout(lockTry, lockTries), lock.WithTableUnlockTimeout(lockTry, 2),
		lock.WithTableRetryPolicy(lockTaken),
		lock.WithTableLogger(slog.New(slog.DiscardHandler)))
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectMySQL, pool, files, goose.WithLocker(locker))
	if err != nil {
		return err
	}
	sources := p.ListSources()
	newest := sources[len(sources)-1].Version
	at, err := versionOf(ctx, pool)
	switch {
	case err != nil:
		return unreached(err)
	case at > newest:
		return fmt.Errorf("%w (it has version %d, this one knows %d)", ErrNewer, at, newest)
	case at == newest:
		return nil
	case at > 0 && before != nil:
		if err := before(at, newest); err != nil {
			return err
		}
	}
	for range lostTries { // what was done holds; what is left, or done by whoever took over, is seen again
		if _, err = p.Up(ctx); err == nil || !lockLost(err) {
			break
		}
	}
	return unreached(err)
}

// startList makes goose's list of versions with its first line in one statement, so that nobody ever finds it made and
// not written to: goose
// does it in two, before it takes the lock. A list left empty by an older Hollen that died between the two gets its
// line. One that has lines is
// only read: whoever opens it may not be allowed to make tables.
func startList(ctx context.Context, pool *sql.DB) error {
	const first = "1 AS id, 0 AS version_id, 1 AS is_applied"
	for {
		var lines int
		err := pool.QueryRowContext(ctx, "SELECT COUNT(*) FROM "+goose.DefaultTablename).Scan(&lines)
		if err == nil && lines > 0 {
			return nil
		} else if err != nil && !is(err, noSuchTable) {
			return err
		}
		_, err = pool.ExecContext(ctx, "CREATE TABLE "+goose.DefaultTablename+` (id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY,
			version_id BIGINT NOT NULL, is_applied BOOLEAN NOT NULL, tstamp DATETIME NULL DEFAULT CURRENT_TIMESTAMP) SELECT `+first)
		if !is(err, tableExists) {
			return err
		}
		_, err = pool.ExecContext(ctx, "INSERT IGNORE INTO "+goose.DefaultTablename+" (id, version_id, is_applied) "+
			"SELECT "+first+
			" FROM DUAL WHERE NOT EXISTS (SELECT 1 FROM "+goose.DefaultTablename+")")
		if !is(err, noSuchTable) && !is(err, deadlock) { // whoever was making it has given up, or two wrote at once
			return err
		}
	}
}

// is says whether an error is this one of the server's.
func is(err error, number uint16) bool {
	var my *mysql.MySQLError
	return errors.As(err, &my) && my.Number == number
}

// versionOf is how far a database is, 0 for an empty one.
func versionOf(ctx context.Context, pool *sql.DB) (v int64, err error) {
	err = pool.QueryRowContext(ctx,
		"SELECT COALESCE(MAX(version_id), 0) FROM "+goose.DefaultTablename+" WHERE is_applied").Scan(&v)
	if is(err, noSuchTable) {
		return 0, nil
	}
	return v, err
}

// A process that died while it changed the tables has held the lock for so long; others try for it for two minutes.
const (
	leaseFor  = 2 * time.Second
	lockTry   = 250 * time.Millisecond
	lockTries = 480
	lostTries = 5
)

// lockLost says whether the lock went to another process while this one was busy for longer than the lease; the library
// has words alone for that.
func lockLost(err error) bool { return strings.Contains(err.Error(), "not held by this instance") }

// lockTaken says whether the lock is not to be had because another process has it, or two have gone for it at once; the
// library has words alone
// for that.
func lockTaken(err error) bool {
	var my *mysql.MySQLError
	return errors.As(err, &my) && (my.Number == deadlock || my.Number == lockTimeout) || strings.Contains(err.Error(),
		"already held")
}

// IsFull says whether an error is that the disk of the database has no room.
func IsFull(err error) bool {
	var my *mysql.MySQLError
	if !errors.As(err, &my) {
		return false
	}
	switch my.Number {
	case 1021, 1041, 1114: // disk full, out of memory, table is full
		return true
	}
	return strings.Contains(my.Message, "No space left on device")
}

// Numbers of the server's errors.
const (
	tableExists = 1050
	noSuchTable = 1146
)

// unreached says of an error at the start that it may be the server that is not there.
func unreached(err error) error {
	var my *mysql.MySQLError
	if err == nil || errors.As(err, &my) || strings.Contains(err.Error(), "SQL migrations") {
		return err
	}
	return fmt.Errorf("database does not answer: %w", err)
}

// identify reads what tells this database from any other, and gives a new one a name.
func identify(ctx context.Context, pool *sql.DB) (name string, err error) {
	if _, err := pool.ExecContext(ctx, "INSERT IGNORE INTO identity (id, name) VALUES (1, ?)",
		rand.Text()[:26]); err != nil {
		return "", err
	}
	err = pool.QueryRowContext(ctx, "SELECT name FROM identity WHERE id = 1").Scan(&name)
	return name, err
}

// Identity tells this database from any other, 26 letters.
func (s *Store) Identity() string { return s.identity }
