package localdb

import (
	"context"
	"database/sql"
	"errors"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-sql-driver/mysql"
)

// The folder keeps its data and its password from one start to the next, and one process
// has it at a time.
func TestStartStopStart(t *testing.T) {
	ctx, dir := context.Background(), filepath.Join(t.TempDir(), "data with a space")
	s, err := Start(ctx, dir)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Stop()
	if !answers(ctx, s.DSN) {
		t.Fatal("does not answer")
	}
	var busy *BusyError
	if _, err := Start(ctx, dir); !errors.As(err, &busy) {
		t.Errorf("second start: %v", err)
	}
	if err := Reset(dir); !errors.As(err, &busy) {
		t.Errorf("reset while in use: %v", err)
	}
	password, _ := os.ReadFile(filepath.Join(dir, "password"))
	s.Stop()
	s.Stop()
	if answers(ctx, s.DSN) {
		t.Error("still answers after Stop")
	}
	again, err := Start(ctx, dir)
	if err != nil {
		t.Fatal(err)
	}
	again.Stop()
	if now, _ := os.ReadFile(filepath.Join(dir, "password")); len(password) != 32 || string(now) != string(password) {
		t.Error("the password has changed")
	}
	if err := Reset(dir); err != nil {
		t.Fatal(err)
	}
	if _, err := os.Stat(filepath.Join(dir, "mariadb")); err == nil {
		t.Error("reset keeps the database files")
	}
}

// Servers that start side by side do not touch each other's temporary files.
func TestStartTogether(t *testing.T) {
	var wg sync.WaitGroup
	for range 3 {
		dir := t.TempDir()
		wg.Go(func() {
			s, err := Start(context.Background(), dir)
			if err != nil {
				t.Error(err)
				return
			}
			s.Stop()
		})
	}
	wg.Wait()
}

func TestStartGivesUp(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := Start(ctx, t.TempDir()); err == nil {
		t.Error("starts although it was called off")
	}
	file := filepath.Join(t.TempDir(), "file")
	if err := os.WriteFile(file, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := Start(context.Background(), file); err == nil {
		t.Error("starts in a file")
	}
}

// Only the generated account comes in, also to a folder an older Hollen has made.
func TestOneAccountComesIn(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	s, err := Start(ctx, dir)
	if err != nil {
		t.Fatal(err)
	}
	query(t, s.DSN, "CREATE USER 'root'@'127.0.0.1'", "CREATE USER 'root'@'localhost'", "CREATE USER ''@'localhost'",
		"CREATE USER 'x'@'%'")
	s.Stop()
	if s, err = Start(ctx, dir); err != nil {
		t.Fatal(err)
	}
	defer s.Stop()
	cfg, err := mysql.ParseDSN(s.DSN)
	if err != nil {
		t.Fatal(err)
	}
	names := query(t, s.DSN, "SELECT CONCAT(User, '@', Host) FROM mysql.global_priv")
	if slices.Sort(names); !slices.Equal(names, []string{"hollen@127.0.0.1", "mariadb.sys@localhost"}) {
		t.Errorf("accounts: %v", names)
	}
	_, port, _ := net.SplitHostPort(cfg.Addr)
	socket := filepath.Join(s.tmp, "db.sock")
	for _, user := range []string{"root", "", "x", "mysql", "mariadb.sys", "hollen"} {
		for _, at := range [][2]string{{"tcp", "127.0.0.1:" + port}, {"tcp", "[::1]:" + port}, {"tcp", "localhost:" +
			port}, {"unix", socket}} {
			for _, password := range []string{"", "root", user} {
				c := cfg.Clone()
				c.User, c.Passwd, c.Net, c.Addr, c.DBName = user, password, at[0], at[1], ""
				if answers(ctx, c.FormatDSN()) {
					t.Errorf("%q comes in by %v with the password %q", user, at, password)
				}
			}
		}
	}
}

// query runs statements; the rows of the last come back, a column each.
func query(t *testing.T, dsn string, statements ...string) (out []string) {
	t.Helper()
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	for _, q := range statements {
		rows, err := db.Query(q)
		if err != nil {
			t.Fatalf("%s: %v", q, err)
		}
		for rows.Next() {
			var s string
			if err := rows.Scan(&s); err != nil {
				t.Fatal(err)
			}
			out = append(out, s)
		}
		rows.Close()
	}
	return out
}

// A folder that holds tables is opened or refused, never emptied.
func TestDataIsNeverRemoved(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	data := filepath.Join(dir, dataName)
	s, err := Start(ctx, dir)
	if err != nil {
		t.Fatal(err)
	}
	query(t, s.DSN, "CREATE TABLE kept (n INT)", "INSERT INTO kept VALUES (7)")
	s.Stop()
	if err := os.Remove(filepath.Join(data, markName)); err != nil {
		t.Fatal(err)
	}
	if s, err = Start(ctx, dir); err != nil {
		t.Fatal(err)
	}
	if got := query(t, s.DSN, "SELECT n FROM kept"); !slices.Equal(got, []string{"7"}) {
		t.Errorf("without its mark the folder holds %v", got)
	}
	s.Stop()
	for _, mark := range []bool{true, false} {
		if !mark {
			_ = os.Remove(filepath.Join(data, markName))
		}
		if err := os.Rename(filepath.Join(data, "ibdata1"), filepath.Join(dir, "away")); err != nil {
			t.Fatal(err)
		}
		if _, err := Start(ctx, dir); err == nil || !strings.Contains(err.Error(), "--data") {
			t.Errorf("opens half a database (marked: %v): %v", mark, err)
		}
		if err := os.Rename(filepath.Join(dir, "away"), filepath.Join(data, "ibdata1")); err != nil {
			t.Fatal(err)
		}
	}
	if s, err = Start(ctx, dir); err != nil {
		t.Fatal(err)
	}
	defer s.Stop()
	if got := query(t, s.DSN, "SELECT n FROM kept"); !slices.Equal(got, []string{"7"}) {
		t.Errorf("after two refusals the folder holds %v", got)
	}
}

// killed, in the environment, names the folder a helper process starts a server on.
const killed = "HOLLEN_TEST_START"

// A very first start killed at any moment leaves a folder the next one starts on.
func TestKilledFirstStart(t *testing.T) {
	if dir := os.Getenv(killed); dir != "" {
		if _, err := Start(context.Background(), dir); err != nil {
			t.Fatal(err)
		}
		select {} // until it is killed
	}
	const tries = 8
	for i := range tries {
		dir := t.TempDir()
		cmd := exec.Command(os.Args[0], "-test.run=^TestKilledFirstStart$")
		cmd.Env = append(os.Environ(), killed+"="+dir)
		if err := cmd.Start(); err != nil {
			t.Fatal(err)
		}
		wait := time.Duration(i) * 1600 / tries * time.Millisecond
		time.Sleep(wait)
		_ = cmd.Process.Kill()
		_ = cmd.Wait()
		s, err := Start(context.Background(), dir)
		if err != nil {
			t.Errorf("killed after %v: %v", wait, err)
			continue
		}
		s.Stop()
	}
}

// A server that is killed answers again within five seconds at the same address, time and again; one that is stopped
// stays so.
func TestComesBack(t *testing.T) {
	s, err := Start(context.Background(), t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer s.Stop()
	for range 3 {
		cmd, _ := s.process()
		if err := cmd.Process.Kill(); err != nil {
			t.Fatal(err)
		}
		killed := time.Now()
		for !answers(context.Background(), s.DSN) {
			if time.Since(killed) > 5*time.Second {
				t.Fatal("it does not come back")
			}
			time.Sleep(20 * time.Millisecond)
		}
	}
	s.Stop()
	time.Sleep(700 * time.Millisecond)
	if answers(context.Background(), s.DSN) {
		t.Error("stopped, it is started again")
	}
	select {
	case <-s.Done():
		t.Error("stopped, it is given up")
	default:
	}
}

// What a start that was killed has left is cleared by the next; a folder others could read is closed; a disk without
// room is told at once.
func TestLeftAndFull(t *testing.T) {
	dir, left := t.TempDir(), filepath.Join(os.TempDir(), tempName+"left")
	if err := errors.Join(os.MkdirAll(left, 0o700), os.WriteFile(filepath.Join(dir, "tmp"), []byte(left), 0o600),
		os.Chmod(dir, 0o755)); err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(left)
	s, err := Start(context.Background(), dir)
	if err != nil {
		t.Fatal(err)
	}
	s.Stop()
	if _, err := os.Stat(left); err == nil {
		t.Error("what was left is still there")
	}
	if info, err := os.Stat(dir); err != nil || info.Mode().Perm() != 0o700 {
		t.Errorf("%v, %v", info.Mode(), err)
	}
	was := leastRoom
	leastRoom = 1 << 62
	defer func() { leastRoom = was }()
	begun := time.Now()
	if _, err := Start(context.Background(), dir); !errors.Is(err, ErrFull) || time.Since(begun) > 10*time.Second {
		t.Errorf("without room: %v after %v", err, time.Since(begun))
	}
}
