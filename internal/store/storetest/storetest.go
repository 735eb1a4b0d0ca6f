// Package storetest gives tests a real MariaDB server on loopback: one private server a
// test binary, a database of its own each time one is asked for.
package storetest

import (
	"context"
	"database/sql"
	"fmt"
	"os"
	"strings"
	"sync/atomic"
	"syscall"
	"testing"

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
