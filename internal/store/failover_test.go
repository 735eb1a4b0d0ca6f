package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// one is a server of a pair.
type one struct {
	cmd  *exec.Cmd
	port int
	db   *sql.DB
}

// pair starts a server of a pair on a folder of its own.
func pair(t *testing.T, id int, args ...string) *one {
	t.Helper()
	find := func(name string) string {
		if p, err := exec.LookPath(name); err == nil {
			return p
		}
		return "/usr/sbin/" + name
	}
	dir, err := os.MkdirTemp("", "pair") // a socket’s path may not be long
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { os.RemoveAll(dir) })
	root := []string{}
	if os.Geteuid() == 0 {
		root = []string{"--user=root"}
	}
	install := exec.Command(find("mariadb-install-db"), append([]string{"--no-defaults", "--datadir=" +
		dir, "--auth-root-authentication-method=normal",
		"--skip-test-db"}, root...)...)
	if out, err := install.CombinedOutput(); err != nil {
		t.Fatalf("%v: %.500s", err, out)
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	port := l.Addr().(*net.TCPAddr).Port
	l.Close()
	init := filepath.Join(dir, "init.sql")
	if err := os.WriteFile(init,
		[]byte("SET sql_log_bin = 0;\nCREATE OR REPLACE USER hollen@127.0.0.1 IDENTIFIED BY 'p';\n"+
			"GRANT ALL ON *.* TO hollen@127.0.0.1;\n"+
			"REVOKE READ ONLY ADMIN ON *.* FROM hollen@127.0.0.1;\nREVOKE SUPER ON *.* FROM hollen@127.0.0.1;\n"+
			"CREATE OR REPLACE USER boss@127.0.0.1 IDENTIFIED BY 'p';\n"+
			"GRANT ALL ON *.* TO boss@127.0.0.1;\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command(find("mariadbd"), append(append([]string{"--no-defaults", "--datadir=" + dir, "--socket=" +
		filepath.Join(dir, "s"),
		"--bind-address=127.0.0.1",
		fmt.Sprint("--port=", port), fmt.Sprint("--server-id=", id), "--log-bin=bin", "--skip-name-resolve",
		"--init-file=" + init, "--innodb-buffer-pool-size=32M",
		"--gtid-domain-id=1", "--log-slave-updates"}, args...), root...)...)
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { cmd.Process.Kill(); cmd.Wait() })
	db, err := sql.Open("mysql", fmt.Sprintf("boss:p@tcp(127.0.0.1:%d)/", port))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { db.Close() })
	for end := time.Now().Add(30 * time.Second); db.Ping() != nil; time.Sleep(50 * time.Millisecond) {
		if time.Now().After(end) {
			t.Fatal("a server of the pair does not answer")
		}
	}
	return &one{cmd, port, db}
}

func (o *one) do(t *testing.T, queries ...string) {
	t.Helper()
	for _, q := range queries {
		if _, err := o.db.Exec(q); err != nil {
			t.Fatalf("%s: %v", q, err)
		}
	}
}

// says waits until a status of a server is so.
func (o *one) says(t *testing.T, name, want string) {
	t.Helper()
	got := ""
	for end := time.Now().Add(20 * time.Second); time.Now().Before(end); time.Sleep(30 * time.Millisecond) {
		if o.db.QueryRow("SHOW STATUS LIKE '"+name+"'").Scan(&name, &got) == nil && got == want {
			return
		}
	}
	t.Fatalf("%s is %s", name, got)
}

// The first server of a semi-synchronous pair dies under load: once the second is promoted, writes go on there, and
// nothing acknowledged is lost.
func TestSecondAddress(t *testing.T) {
	a := pair(t, 1, "--rpl-semi-sync-master-enabled=ON", "--rpl-semi-sync-master-wait-point=AFTER_SYNC",
		"--rpl-semi-sync-master-timeout=20000")
	b := pair(t, 2, "--rpl-semi-sync-slave-enabled=ON", "--read-only=ON")
	b.do(t, fmt.Sprintf("CHANGE MASTER TO master_host = '127.0.0.1', master_port = %d, master_user = 'boss', "+
		"master_password = 'p', master_use_gtid = slave_pos", a.port), "START SLAVE")
	a.says(t, "Rpl_semi_sync_master_status", "ON")
	a.says(t, "Rpl_semi_sync_master_clients", "1")
	a.do(t, "CREATE DATABASE hollen CHARACTER SET utf8mb4")
	ctx := context.Background()
	// the one that follows is passed over
	dsn := fmt.Sprintf("hollen:p@tcp(127.0.0.1:%d,127.0.0.1:%d)/hollen", b.port, a.port)
	s, err := store.Open(ctx, dsn, storetest.Now)
	if err != nil {
		t.Fatal(err)
	}
	defer s.Close()
	if _, err := s.Seed(ctx, demo.Scenario(rules.Default(), demo.Day)); err != nil {
		t.Fatal(err)
	}
	var mu sync.Mutex
	kept := map[uint64]string{}
	var promoted, went time.Time
	stop := make(chan struct{})
	var wait sync.WaitGroup
	for w := range 4 {
		wait.Go(func() {
			for i := 0; ; i++ {
				select {
				case <-stop:
					return
				default:
				}
				name := fmt.Sprintf("Load %d %d", w, i)
				once, cancel := context.WithTimeout(ctx, 8*time.Second)
				made, err := s.Create(once, planned(t, named(name)))
				cancel()
				if err != nil {
					time.Sleep(20 * time.Millisecond)
					continue
				}
				mu.Lock()
				kept[made.ID] = name
				if !promoted.IsZero() && went.IsZero() {
					went = time.Now()
				}
				mu.Unlock()
			}
		})
	}
	// until enough is kept to be lost
	for end := time.Now().Add(30 * time.Second); ; time.Sleep(20 * time.Millisecond) {
		mu.Lock()
		enough := len(kept) >= 60
		mu.Unlock()
		if enough || time.Now().After(end) {
			break
		}
	}
	_ = a.cmd.Process.Kill()
	_ = a.cmd.Wait()
	b.do(t, "STOP SLAVE IO_THREAD")
	for end := time.Now().Add(20 * time.Second); ; time.Sleep(20 * time.Millisecond) { // all it has got is applied
		var got, done string
		if err := b.db.QueryRow("SELECT @@gtid_current_pos, COALESCE(@@gtid_slave_pos, '')").Scan(&got,
			&done); err == nil && got == done {
			var state string
			if b.db.QueryRow("SELECT COALESCE(MAX(STATE), '') FROM information_schema.processlist WHERE COMMAND = "+
				"'Slave_SQL'").Scan(&state) == nil &&
				state == "Slave has read all relay log; waiting for more updates" {
				break
			}
		}
		if time.Now().After(end) {
			t.Fatal("it does not come to the end of what it got")
		}
	}
	b.do(t, "STOP SLAVE", "RESET SLAVE ALL", "SET GLOBAL read_only = OFF")
	mu.Lock()
	promoted = time.Now()
	before := len(kept)
	mu.Unlock()
	time.Sleep(6 * time.Second)
	close(stop)
	wait.Wait()
	if went.IsZero() || went.Sub(promoted) > 10*time.Second || len(kept) <= before || before < 20 {
		t.Errorf("writes went on after %v; %d were kept before and %d in all", went.Sub(promoted), before, len(kept))
	}
	lost := 0
	for id, name := range kept {
		if got, err := s.Get(ctx, id); err != nil || got.Request.Name != name {
			lost++
		}
	}
	if lost > 0 {
		t.Errorf("%d of %d acknowledged are lost", lost, len(kept))
	}
	t.Logf("%d before, %d in all; writes went on %v after it was promoted", before, len(kept), went.Sub(promoted))
}
