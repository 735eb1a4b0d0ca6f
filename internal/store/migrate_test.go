package store_test

import (
	"context"
	"database/sql"
	"errors"
	"io/fs"
	"net"
	"os"
	"strings"
	"sync"
	"sync/atomic"
	"testing"

	"hollen/internal/core/rules"
	"hollen/internal/demo"

	"github.com/go-sql-driver/mysql"
	"github.com/pressly/goose/v3"

	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// severed is a connection of a process that dies after so many more packets have been sent.
type severed struct {
	net.Conn
	left *atomic.Int32
}

var errDead = errors.New("the process is dead")

func (c severed) Write(b []byte) (int, error) {
	if c.left.Add(-1) < 0 {
		_ = c.Conn.Close()
		return 0, errDead
	}
	return c.Conn.Write(b)
}

// A process that dies at any point of a migration leaves a database the next one can open: a
// new one, and one with things from before the cabinet. Every seventh packet is tried, every second where HOLLEN_LONG
// is
// set.
func TestMigrationsCutOffAnywhere(t *testing.T) {
	if err := mysql.SetLogger(&mysql.NopLogger{}); err != nil { // it tells of every cut
		t.Fatal(err)
	}
	var left atomic.Int32
	mysql.RegisterDialContext("severed", func(ctx context.Context, addr string) (net.Conn, error) {
		c, err := (&net.Dialer{}).DialContext(ctx, "tcp", addr)
		return severed{c, &left}, err
	})
	step := int32(7)
	if os.Getenv("HOLLEN_LONG") != "" {
		step = 2
	}
	for name, from := range map[string]int64{"new": 0, "old": 3} {
		t.Run(name, func(t *testing.T) {
			finished := false
			for cut := int32(1); !finished && cut < 400; cut += step {
				dsn := storetest.DSN(t)
				older(t, dsn, from)
				left.Store(cut)
				s, err := store.Open(ctx, strings.Replace(dsn, "@tcp(", "@severed(", 1), storetest.Now)
				if finished = err == nil; finished {
					s.Close()
				}
				free(t, dsn) // what the dead one holds is taken over by itself, after a while
				if s, err = store.Open(ctx, dsn, storetest.Now); err != nil {
					t.Fatalf("cut off after %d packets it never opens again: %v", cut, err)
				}
				if c, err := s.Cabinet(ctx); err != nil || from > 0 && (len(c.Flours) != 1 ||
					c.Flours[0].Name != "Old sack") {
					t.Errorf("cut off after %d packets: flours %+v, %v", cut, c.Flours, err)
				}
				if _, err := s.Create(ctx, planned(t, named("after"))); err != nil {
					t.Errorf("cut off after %d packets: %v", cut, err)
				}
				s.Close()
			}
			if !finished {
				t.Error("no number of packets was enough")
			}
		})
	}
}

// free takes the lock of a process that is dead away.
func free(t *testing.T, dsn string) {
	t.Helper()
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	_, _ = db.Exec("DELETE FROM hollen_lock") // there may be none yet
}

// Several processes that start at once bring a new database up to date once, and fill it once; what one has left locked
// that is dead is
// taken over; a database of a newer version is refused, and stays as it is.
func TestStartedAtOnce(t *testing.T) {
	dsn := storetest.DSN(t)
	var wait sync.WaitGroup
	var seeded atomic.Int32
	for range 6 {
		wait.Go(func() {
			s, err := store.Open(ctx, dsn, storetest.Now)
			if err != nil {
				t.Error(err)
				return
			}
			defer s.Close()
			if did, err := s.Seed(ctx, demo.Scenario(rules.Default(), demo.Day)); err != nil {
				t.Error(err)
			} else if did {
				seeded.Add(1)
			}
			if list, _, err := s.List(ctx, store.Query{}); err != nil || len(list) != len(demo.Batches()) {
				t.Errorf("%d batches, %v", len(list), err)
			}
		})
	}
	if wait.Wait(); seeded.Load() != 1 {
		t.Errorf("filled %d times", seeded.Load())
	}
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	do := func(sql string) {
		t.Helper()
		if _, err := db.Exec(sql); err != nil {
			t.Fatal(err)
		}
	}
	do("UPDATE hollen_lock SET locked = TRUE, locked_by = 'the dead', lease_expires_at = NOW(6) + INTERVAL 1 SECOND")
	do("DELETE FROM " + goose.DefaultTablename + " ORDER BY version_id DESC LIMIT 1")
	s, err := store.Open(ctx, dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	first := s.Identity()
	s.Close()
	if s, err = store.Open(ctx, dsn, storetest.Now); err != nil || s.Identity() != first || len(first) != 26 {
		t.Errorf("%q, then %q, %v", first, s.Identity(), err)
	}
	s.Close()
	do("INSERT INTO " + goose.DefaultTablename + " (version_id, is_applied) VALUES (900, 1)")
	if _, err := store.Open(ctx, dsn, storetest.Now); !errors.Is(err, store.ErrNewer) || !strings.Contains(err.Error(),
		"900") {
		t.Errorf("a newer database is opened: %v", err)
	}
	asked := false
	do("DELETE FROM " + goose.DefaultTablename + " WHERE version_id >= 15")
	if _, err = store.OpenAfter(ctx, dsn, storetest.Now, func(from, to int64) error {
		asked = true
		return errors.New(
			"no room for a backup")
	}); err == nil || !asked {
		t.Errorf("an older database is changed before it is backed up: %v", err)
	}
}

// A database that is up to date is opened without making a table: whoever opens it may not be allowed to.
func TestOpenedWithoutMakingTables(t *testing.T) {
	dsn := storetest.DSN(t)
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	made := func() (name string, n int) {
		t.Helper()
		if err := db.QueryRow("SHOW GLOBAL STATUS LIKE 'Com_create_table'").Scan(&name, &n); err != nil {
			t.Fatal(err)
		}
		return name, n
	}
	open := func() {
		t.Helper()
		s, err := store.Open(ctx, dsn, storetest.Now)
		if err != nil {
			t.Fatal(err)
		}
		s.Close()
	}
	_, none := made()
	open()
	_, first := made()
	open()
	if _, second := made(); first == none || second != first {
		t.Errorf("%d tables made at first, %d when it is there", first-none, second-first)
	}
}

// A list of versions that an older Hollen made and, killed, never wrote to is begun by whoever comes next, however many
// they are.
func TestListLeftEmpty(t *testing.T) {
	dsn := storetest.DSN(t)
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	if _, err := db.Exec("CREATE TABLE " + goose.DefaultTablename + ` (id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version_id BIGINT NOT NULL,
		is_applied BOOLEAN NOT NULL, tstamp DATETIME NULL DEFAULT CURRENT_TIMESTAMP)`); err != nil {
		t.Fatal(err)
	}
	var wait sync.WaitGroup
	for range 4 {
		wait.Go(func() {
			s, err := store.Open(ctx, dsn, storetest.Now)
			if err != nil {
				t.Error(err)
				return
			}
			s.Close()
		})
	}
	wait.Wait()
	var zeros int
	if err := db.QueryRow("SELECT COUNT(*) FROM " + goose.DefaultTablename + " WHERE version_id = 0").Scan(
		&zeros); err != nil || zeros != 1 {
		t.Errorf("%d first lines, %v", zeros, err)
	}
}

// older brings a database to an earlier version, with a flour in it.
func older(t *testing.T, dsn string, version int64) {
	if version == 0 {
		return
	}
	t.Helper()
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	files, err := fs.Sub(os.DirFS("."), "migrations")
	if err != nil {
		t.Fatal(err)
	}
	p, err := goose.NewProvider(goose.DialectMySQL, db, files)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := p.UpTo(ctx, version); err != nil {
		t.Fatal(err)
	}
	if _, err := db.Exec(`INSERT INTO flours (figures) VALUES ('{"key":"own-1","name":"Old sack"}')`); err != nil {
		t.Fatal(err)
	}
}
