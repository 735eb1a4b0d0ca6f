// Package storetest gives tests a real MariaDB server on loopback: one private server a
// test binary, a database of its own each time one is asked for.
package storetest

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"hollen/internal/clock"
	"hollen/internal/store"
	"hollen/internal/store/localdb"
)

// Now is the clock tests go by: the machine's, or the one clock.At asks for.
var Now clock.Clock

var (
	server *localdb.Server
	count  atomic.Int32
)

// Main starts the server, runs the tests and stops it; then are called last. Call it from TestMain.
func Main(m *testing.M, then ...func()) {
	os.Exit(func() int {
		defer func() {
			for _, f := range then {
				f()
			}
		}()
		var err error
		if Now, err = clock.ForTests(); err != nil {
			fmt.Fprintln(os.Stderr, err)
			return 1
		}
		dir, err := os.MkdirTemp(inMemory(), "hollentest")
		if err != nil {
			panic(err)
		}
		defer os.RemoveAll(dir)
		if server, err = localdb.StartScratch(context.Background(), dir); err != nil {
			fmt.Fprintln(os.Stderr, "the tests need a MariaDB server:", err)
			return 1
		}
		defer server.Stop()
		return m.Run()
	}())
}

// inMemory is a folder that stands in memory, with room for what tests write; "" where there is none.
func inMemory() string {
	const shm, room = "/dev/shm", 1 << 30
	var fs syscall.Statfs_t
	if syscall.Statfs(shm, &fs) != nil || uint64(fs.Bavail)*uint64(fs.Bsize) < room || syscall.Access(shm, 2) != nil {
		return ""
	}
	return shm
}

// DSN makes an empty database and returns how to reach it.
func DSN(t testing.TB) string {
	t.Helper()
	db, err := sql.Open("mysql", server.DSN)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	name := fmt.Sprintf("hollen_test_%d", count.Add(1))
	if _, err := db.Exec("CREATE DATABASE " + name + " CHARACTER SET utf8mb4"); err != nil {
		t.Fatal(err)
	}
	return strings.Replace(server.DSN, "/hollen", "/"+name, 1)
}

// Open returns a store on an empty database, closed when the test ends.
func Open(t testing.TB) *store.Store {
	t.Helper()
	s, err := store.Open(context.Background(), DSN(t), Now)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

// template is a database that was filled once, to be copied; it is filled again once it is old, since what the demo has
// under way goes by the clock.
type template struct {
	name   string
	tables []string // by which each is made
	made   time.Time
}

// fresh is how long what was filled is copied.
const fresh = 20 * time.Second

var (
	filling   sync.Mutex
	templates = map[string]*template{}
)

// Filled returns a store on a database as fill leaves an empty one, closed when the test ends, and how to reach it.
// What fill makes is known by its name, and copied while it is fresh.
func Filled(t testing.TB, name string, fill func(*store.Store) error) (*store.Store, string) {
	t.Helper()
	dsn := DSN(t)
	if err := copyFilled(name, dsn, fill); err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(context.Background(), dsn, Now)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s, dsn
}

// copyFilled copies the template of that name into the empty database a dsn reaches, and fills it first where there is
// none that is fresh.
func copyFilled(name, dsn string, fill func(*store.Store) error) error {
	filling.Lock()
	defer filling.Unlock()
	ctx := context.Background()
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		return err
	}
	defer db.Close()
	of := templates[name]
	if of == nil || Now().Sub(of.made) > fresh {
		if of, err = fillTemplate(ctx, db, fill); err != nil {
			return err
		}
		templates[name] = of
	}
	conn, err := db.Conn(ctx) // the switch of keys is one connection's
	if err != nil {
		return err
	}
	defer conn.Close()
	if _, err := conn.ExecContext(ctx, "SET foreign_key_checks = 0"); err != nil {
		return err
	}
	for _, statement := range of.tables {
		if _, err := conn.ExecContext(ctx, statement); err != nil {
			return err
		}
	}
	return nil
}

// fillTemplate fills a database of its own, and notes how each of its tables is made again.
func fillTemplate(ctx context.Context, db *sql.DB, fill func(*store.Store) error) (*template, error) {
	of := &template{name: fmt.Sprintf("hollen_filled_%d", count.Add(1)), made: Now()}
	if _, err := db.ExecContext(ctx, "CREATE DATABASE "+of.name+" CHARACTER SET utf8mb4"); err != nil {
		return nil, err
	}
	s, err := store.Open(ctx, strings.Replace(server.DSN, "/hollen", "/"+of.name, 1), Now)
	if err != nil {
		return nil, err
	}
	defer s.Close()
	if err := fill(s); err != nil {
		return nil, err
	}
	rows, err := db.QueryContext(ctx, "SELECT table_name, GROUP_CONCAT(column_name) FROM information_schema.columns "+
		"WHERE table_schema = ? AND is_generated = 'NEVER' GROUP BY table_name", of.name)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	columns := map[string]string{}
	for rows.Next() {
		var table, names string
		if err := rows.Scan(&table, &names); err != nil {
			return nil, err
		}
		columns[table] = "`" + strings.ReplaceAll(names, ",", "`,`") + "`"
	}
	if err := rows.Err(); err != nil {
		return nil, err
	}
	for table, names := range columns {
		var as string
		show := db.QueryRowContext(ctx, fmt.Sprintf("SHOW CREATE TABLE %s.%s", of.name, table))
		if err := show.Scan(&table, &as); err != nil {
			return nil, err
		}
		of.tables = append(of.tables, as)
		if table != "identity" { // each database has its own
			of.tables = append(of.tables, fmt.Sprintf("INSERT INTO %s (%s) SELECT %s FROM %s.%s", table, names, names,
				of.name, table))
		}
	}
	return of, nil
}
