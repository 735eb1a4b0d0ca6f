package store_test

import (
	"context"
	"database/sql"
	"errors"
	"io/fs"
	"net"
	"os"
	"strings"
	"sync/atomic"
	"testing"

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
// new one, and one with things from before the cabinet.
func TestMigrationsCutOffAnywhere(t *testing.T) {
	if err := mysql.SetLogger(&mysql.NopLogger{}); err != nil { // it tells of every cut
		t.Fatal(err)
	}
	var left atomic.Int32
	mysql.RegisterDialContext("severed", func(ctx context.Context, addr string) (net.Conn, error) {
		c, err := (&net.Dialer{}).DialContext(ctx, "tcp", addr)
		return severed{c, &left}, err
	})
	for name, from := range map[string]int64{"new": 0, "old": 3} {
		t.Run(name, func(t *testing.T) {
			finished := false
			for cut := int32(1); !finished && cut < 400; cut += 2 {
				dsn := storetest.DSN(t)
				older(t, dsn, from)
				left.Store(cut)
				s, err := store.Open(ctx, strings.Replace(dsn, "@tcp(", "@severed(", 1))
				if finished = err == nil; finished {
					s.Close()
				}
				if s, err = store.Open(ctx, dsn); err != nil {
					t.Fatalf("cut off after %d packets it never opens again: %v", cut, err)
				}
				if c, err := s.Cabinet(ctx); err != nil || from > 0 && (len(c.Flours) != 1 || c.Flours[0].Name != "Old sack") {
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
