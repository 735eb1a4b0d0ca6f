// Package localdb runs a private MariaDB server: its own data folder, a free port on
// 127.0.0.1, a generated password, for one process and as long as that process wants it.
package localdb

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/go-sql-driver/mysql"
)

// ErrMissing says that the MariaDB server is not installed.
var ErrMissing = errors.New("the MariaDB server is not installed: install the packages mariadb-server-core and " +
	"mariadb-client-core (Debian, " +
	"Ubuntu) and start again")

// BusyError says that another process uses the data folder.
type BusyError struct{ Dir, Holder string }

func (e *BusyError) Error() string {
	return fmt.Sprintf("the data folder %s is in use by another Hollen%s; use that one, stop it, or name another "+
		"folder with --data", e.Dir, e.Holder)
}

// Server is a running private server.
type Server struct {
	DSN  string   // with database and password
	lock *os.File // this process has the folder
	held *os.File // the server has it, while it runs
	tmp  string
	more []string // arguments of the server's
	once sync.Once

	again func() error // starts the same server once more, at the same port

	mu       sync.Mutex // guards what follows: the process as it is now
	cmd      *exec.Cmd
	done     chan struct{}
	stopping bool
	gone     chan struct{} // closed when it is given up
}

// find returns the path of a program, also where Debian keeps servers.
func find(name string) (string, error) {
	if p, err := exec.LookPath(name); err == nil {
		return p, nil
	}
	for _, dir := range []string{"/usr/sbin", "/usr/local/sbin", "/sbin"} {
		if p := filepath.Join(dir, name); isFile(p) {
			return p, nil
		}
	}
	return "", ErrMissing
}

func isFile(p string) bool {
	s, err := os.Stat(p)
	return err == nil && s.Mode().IsRegular()
}

// Start starts the server on dir, which it makes and fills when it is new, waits until it
// answers and returns it. The caller stops it with Stop. A folder in use gives a BusyError; one
// that holds tables is opened or refused, never emptied.
func Start(ctx context.Context, dir string) (*Server, error) { return start(ctx, dir) }

// StartScratch is Start for what may be lost: nothing is waited for until it is on the disk, so that a machine that
// goes
// down takes it along. For tests.
func StartScratch(ctx context.Context, dir string) (*Server, error) {
	return start(ctx, dir, "--innodb-flush-log-at-trx-commit=0", "--innodb-doublewrite=OFF",
		"--innodb-flush-method=nosync",
		"--innodb-buffer-pool-size=128M")
}

func start(ctx context.Context, dir string, more ...string) (*Server, error) {
	mariadbd, err := find("mariadbd")
	if err != nil {
		return nil, err
	}
	dir, err = filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("data folder: %w", err)
	}
	_ = os.Chmod(dir, 0o700) // what stands in it is nobody else's
	if err := room(dir); err != nil {
		return nil, err
	}
	s := &Server{done: make(chan struct{}), gone: make(chan struct{}), more: more}
	if s.lock, err = lock(dir); err != nil {
		return nil, err
	}
	ok := false
	defer func() {
		if !ok {
			s.cleanUp()
		}
	}()
	if s.held, err = outlive(ctx, dir); err != nil {
		return nil, err
	}
	// A socket's path is limited to about 100 bytes, so it lives in a short folder; and a
	// server clears its temporary folder when it starts, so that must be its own.
	clearTemp(dir)
	if s.tmp, err = os.MkdirTemp("", tempName); err != nil {
		return nil, err
	}
	_ = os.WriteFile(filepath.Join(dir, "tmp"), []byte(s.tmp), 0o600) // for whoever starts after this one was killed
	data := filepath.Join(dir, dataName)
	if err := install(ctx, data, s.tmp, s.held); err != nil {
		return nil, err
	}
	password, err := secret(filepath.Join(dir, "password"))
	if err != nil {
		return nil, err
	}
	init := filepath.Join(s.tmp, "init.sql")
	if err := os.WriteFile(init, []byte(fmt.Sprintf(accounts, password)), 0o600); err != nil {
		return nil, err
	}
	var last error
	for range 3 { // a port may be taken between the look and the start
		port, err := freePort()
		if err != nil {
			return nil, err
		}
		if last = s.run(ctx, mariadbd, dir, data, init, port, password); last == nil {
			ok = true
			s.again = func() error { return s.run(context.Background(), mariadbd, dir, data, "", port, password) }
			go s.watch()
			return s, nil
		}
		if ctx.Err() != nil {
			break
		}
	}
	return nil, last
}

// A server that dies is started again, at once and then after longer and longer; after so many tries without one that
// stays it is given up.
const (
	tries     = 8
	staysFrom = time.Minute
	longest   = 5 * time.Second
)

// watch starts the server again when it dies, until it is stopped or given up.
func (s *Server) watch() {
	failed := 0
	for {
		s.mu.Lock()
		done, stopping := s.done, s.stopping
		s.mu.Unlock()
		if stopping {
			return
		}
		since := time.Now()
		<-done
		for {
			if time.Since(since) > staysFrom {
				failed = 0
			}
			s.mu.Lock()
			stopping = s.stopping
			s.mu.Unlock()
			if stopping {
				return
			}
			if failed++; failed > tries {
				close(s.gone)
				return
			}
			time.Sleep(min(time.Duration(failed-1)*500*time.Millisecond, longest))
			if s.again() == nil {
				break
			}
		}
	}
}

// tempName begins the name of a server's short folder.
const tempName = "hollen"

// clearTemp removes the short folder of a start that was killed.
func clearTemp(dir string) {
	left, err := os.ReadFile(filepath.Join(dir, "tmp"))
	if tmp := string(left); err == nil && strings.HasPrefix(filepath.Base(tmp), tempName) &&
		filepath.Dir(tmp) == filepath.Clean(os.TempDir()) {
		_ = os.RemoveAll(tmp)
	}
}

// leastRoom is how much a disk has to have for the server to start: its log files alone take some tens of it.
var leastRoom uint64 = 64 << 20

// ErrFull says that the disk of the data folder has no room for the server to start.
var ErrFull = errors.New("the disk is full")

// room says whether there is room to start: a server without any waits for it, for ever.
func room(dir string) error {
	var fs syscall.Statfs_t
	if err := syscall.Statfs(dir, &fs); err != nil {
		return nil // not known
	}
	if free := uint64(fs.Bavail) * uint64(fs.Bsize); free < leastRoom {
		return fmt.Errorf("%w: %d MB are free where %s is, and %d are needed; make room, then start again", ErrFull,
			free>>20, dir, leastRoom>>20)
	}
	return nil
}

// accounts is what the server runs before it lets anybody in: one account, with the password
// of the folder, and no other. That of the system's own views is kept; it is locked.
const accounts = `CREATE DATABASE IF NOT EXISTS hollen CHARACTER SET utf8mb4;
DELETE FROM mysql.global_priv WHERE NOT (User = 'hollen' AND Host = '127.0.0.1') AND User <> 'mariadb.sys';
DELETE FROM mysql.db;
FLUSH PRIVILEGES;
CREATE USER IF NOT EXISTS 'hollen'@'127.0.0.1';
ALTER USER 'hollen'@'127.0.0.1' IDENTIFIED BY '%s';
GRANT ALL ON *.* TO 'hollen'@'127.0.0.1';
`

// Holds says whether a folder holds a database, whole or in part: Start opens it or refuses it, and makes none.
func Holds(dir string) bool {
	data := filepath.Join(dir, dataName)
	return isFile(filepath.Join(data, markName)) || holdsTables(data)
}

// Reset empties dir of everything Start makes there, so that the next Start begins anew. A
// folder in use gives a BusyError, and nothing else in the folder is touched.
func Reset(dir string) error {
	if _, err := os.Stat(dir); errors.Is(err, os.ErrNotExist) {
		return nil
	}
	l, err := lock(dir)
	if err != nil {
		return err
	}
	defer l.Close()
	held, err := outlive(context.Background(), dir)
	if err != nil {
		return err
	}
	defer held.Close()
	clearHalfMade(dir)
	return errors.Join(os.RemoveAll(filepath.Join(dir, dataName)), os.RemoveAll(filepath.Join(dir, "password")),
		os.RemoveAll(filepath.Join(dir, "mariadb.log")))
}

// lock takes the folder for this process.
func lock(dir string) (*os.File, error) {
	f, err := os.OpenFile(filepath.Join(dir, "lock"), os.O_RDWR|os.O_CREATE, 0o600)
	if err != nil {
		return nil, fmt.Errorf("data folder: %w", err)
	}
	if err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		holder := make([]byte, 200)
		n, _ := f.ReadAt(holder, 0)
		f.Close()
		return nil, &BusyError{dir, strings.TrimRight(string(holder[:n]), "\n")}
	}
	_ = f.Truncate(0)
	_, _ = f.WriteAt(fmt.Appendf(nil, " (process %d)", os.Getpid()), 0)
	return f, nil
}

// A server whose Hollen has died is told to end by the system. One told so while it starts may
// wait for ever: after graceFor it is killed, which its files are made for.
const (
	graceFor    = 3 * time.Second
	outlivesMax = 20 * time.Second
)

// outlive waits for the server an earlier Hollen left behind in dir, and takes its place. A
// server holds the file it returns as long as it runs, whatever becomes of its Hollen.
func outlive(ctx context.Context, dir string) (*os.File, error) {
	f, err := os.OpenFile(filepath.Join(dir, "server.lock"), os.O_RDWR|os.O_CREATE, 0o600)
	if err != nil {
		return nil, fmt.Errorf("data folder: %w", err)
	}
	for start := time.Now(); ; time.Sleep(20 * time.Millisecond) {
		err := syscall.Flock(int(f.Fd()), syscall.LOCK_EX|syscall.LOCK_NB)
		switch waited := time.Since(start); {
		case err == nil:
			return f, nil
		case ctx.Err() != nil:
			f.Close()
			return nil, ctx.Err()
		case waited > outlivesMax:
			f.Close()
			return nil,
				fmt.Errorf("a database server started earlier still uses %s; end that process, then start again", dir)
		case waited > graceFor:
			killLeft(f, dir)
		}
	}
}

// killLeft ends the server whose process stands in f, if it is one of dir.
func killLeft(f *os.File, dir string) {
	b := make([]byte, 20)
	n, _ := f.ReadAt(b, 0)
	pid, err := strconv.Atoi(string(b[:n]))
	if err != nil {
		return
	}
	line, err := os.ReadFile(fmt.Sprintf("/proc/%d/cmdline", pid))
	if err != nil {
		return
	}
	if ours := string(line); strings.Contains(ours, "--datadir="+filepath.Join(dir, dataName)) || strings.Contains(ours,
		"--datadir=./"+halfMade) {
		_ = syscall.Kill(-pid, syscall.SIGKILL) // it leads a group: what it has started goes with it
		_ = syscall.Kill(pid, syscall.SIGKILL)
	}
}

// Names within the data folder: the database's files, the same while they are being made, and
// the file that says they are complete.
const (
	dataName = "mariadb"
	halfMade = "mariadb.new-"
	markName = "hollen-installed"
)

// install makes the system tables when there are none: in a folder beside, which takes its
// name only when it is complete. What holds tables is left as it is.
func install(ctx context.Context, data, tmp string, held *os.File) error {
	clearHalfMade(filepath.Dir(data))
	ready, err := inspect(data)
	if err != nil || ready {
		return err
	}
	tool, err := find("mariadb-install-db")
	if err != nil {
		return err
	}
	if _, err := find("my_print_defaults"); err != nil { // the tool calls it
		return err
	}
	fresh, err := os.MkdirTemp(filepath.Dir(data), halfMade)
	if err != nil {
		return fmt.Errorf("data folder: %w", err)
	}
	// The tool does not take folders with a space in their path, so it is told a relative one.
	args := []string{"--no-defaults", "--datadir=./" + filepath.Base(fresh), "--auth-root-authentication-method=normal",
		"--skip-test-db", "--skip-name-resolve"}
	cmd := exec.CommandContext(ctx, tool, append(args, asRoot()...)...)
	cmd.Dir, cmd.Env = filepath.Dir(data), append(os.Environ(), "TMPDIR="+tmp)
	// What it starts holds the file as the server does, so that the next start waits for it, or ends it, when this one
	// is killed.
	cmd.ExtraFiles, cmd.SysProcAttr = []*os.File{held}, childAttr()
	var said bytes.Buffer
	cmd.Stdout, cmd.Stderr = &said, &said
	runtime.LockOSThread() // the tool gets its signal when the thread that started it dies
	err = cmd.Start()
	if err == nil {
		_ = held.Truncate(0)
		_, _ = held.WriteAt([]byte(strconv.Itoa(cmd.Process.Pid)), 0)
		err = cmd.Wait()
	}
	runtime.UnlockOSThread()
	if out := said.Bytes(); err != nil {
		_ = os.RemoveAll(fresh)
		return fmt.Errorf("making the database files: %w\n%s", err, tail(out))
	}
	if err := os.WriteFile(filepath.Join(fresh, markName), []byte("complete\n"), 0o600); err != nil {
		return err
	}
	if err := os.RemoveAll(data); err != nil { // holds no table: inspect has looked
		return err
	}
	return os.Rename(fresh, data)
}

// clearHalfMade removes what starts that were killed have left half made.
func clearHalfMade(dir string) {
	left, _ := filepath.Glob(filepath.Join(dir, halfMade+"*"))
	for _, f := range left {
		_ = os.RemoveAll(f) // one more try at the next start
	}
}

// inspect says whether data can be opened as it is. It is an error when it holds tables but
// not what is needed to read them; then nothing is touched. A folder that is not ready holds
// nobody's tables.
func inspect(data string) (ready bool, err error) {
	mark := filepath.Join(data, markName)
	whole := isFile(filepath.Join(data, "ibdata1")) && isDir(filepath.Join(data, "mysql"))
	switch {
	case !isFile(mark) && !holdsTables(data):
		return false, nil
	case !whole:
		return false, fmt.Errorf("the data folder %s holds tables but lacks a part of the database (ibdata1 and "+
			"mysql/): copy the folder whole, "+
			"with the database stopped, or name another with --data; nothing has been changed", data)
	case !isFile(mark): // a copy may have lost it
		return true, os.WriteFile(mark, []byte("complete\n"), 0o600)
	}
	return true, nil
}

// holdsTables says whether there is a table in data that is not the server's own.
func holdsTables(data string) bool {
	all, _ := os.ReadDir(data)
	for _, d := range all {
		if n := d.Name(); !d.IsDir() || n == "mysql" || n == "performance_schema" || n == "sys" {
			continue
		}
		files, err := os.ReadDir(filepath.Join(data, d.Name()))
		for _, f := range files {
			if f.Name() != "db.opt" {
				return true
			}
		}
		if err != nil {
			return true // what cannot be looked into is left alone
		}
	}
	return false
}

func isDir(p string) bool {
	s, err := os.Stat(p)
	return err == nil && s.IsDir()
}

// asRoot lets the server run for root, which it refuses without a word.
func asRoot() []string {
	if os.Geteuid() == 0 {
		return []string{"--user=root"}
	}
	return nil
}

// secret returns the password kept in file, made when there is none.
func secret(file string) (string, error) {
	if b, err := os.ReadFile(file); err == nil && len(b) == 32 {
		return string(b), nil
	}
	b := make([]byte, 16)
	if _, err := rand.Read(b); err != nil {
		return "", err
	}
	s := hex.EncodeToString(b)
	return s, os.WriteFile(file, []byte(s), 0o600)
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

// run starts the server process and waits until it answers.
func (s *Server) run(ctx context.Context, mariadbd, dir, data, init string, port int, password string) error {
	logFile := filepath.Join(dir, "mariadb.log")
	how := os.O_TRUNC
	if init == "" {
		how = os.O_APPEND // it goes on
	}
	log, err := os.OpenFile(logFile, os.O_WRONLY|os.O_CREATE|how, 0o600)
	if err != nil {
		return err
	}
	defer log.Close()
	cmd := s.command(mariadbd, data, init, port)
	cmd.Stdout = log
	cmd.Stderr = log
	cmd.ExtraFiles = []*os.File{s.held}
	// Its own group: Ctrl-C reaches Hollen alone, which then stops the server in order.
	cmd.SysProcAttr = childAttr()
	started, ended := make(chan error), make(chan struct{})
	go func() {
		// The server gets its signal when the thread that started it dies: keep the thread.
		runtime.LockOSThread()
		defer runtime.UnlockOSThread()
		err := cmd.Start()
		if err == nil {
			_ = s.held.Truncate(0)
			_, _ = s.held.WriteAt([]byte(strconv.Itoa(cmd.Process.Pid)), 0)
		}
		started <- err
		if err == nil {
			_ = cmd.Wait()
			close(ended)
		}
	}()
	if err := <-started; err != nil {
		return err
	}
	s.mu.Lock()
	s.cmd, s.done = cmd, ended
	stopping := s.stopping
	s.mu.Unlock()
	if stopping { // meanwhile
		s.kill()
		return errors.New("it is being stopped")
	}
	dsn := dsnAt(port, password)
	if init != "" {
		s.DSN = dsn
	}
	deadline := time.Now().Add(40 * time.Second)
	for {
		select {
		case <-ended:
			out, _ := os.ReadFile(logFile)
			return fmt.Errorf("the database server stopped at once; its log %s ends:\n%s", logFile, tail(out))
		case <-ctx.Done():
			s.kill()
			return ctx.Err()
		case <-time.After(25 * time.Millisecond):
		}
		if answers(ctx, dsn) {
			_ = os.Remove(init)
			return nil
		}
		if time.Now().After(deadline) {
			s.kill()
			return fmt.Errorf("the database server does not answer after 40 s; see %s", logFile)
		}
	}
}

// command is the server's, with all it is told.
func (s *Server) command(mariadbd, data, init string, port int) *exec.Cmd {
	args := []string{"--no-defaults", "--datadir=" + data, "--tmpdir=" + s.tmp, "--socket=" + filepath.Join(s.tmp,
		"db.sock"),
		"--pid-file=" + filepath.Join(s.tmp, "db.pid"),
		"--secure-file-priv=" + s.tmp, "--local-infile=OFF",
		"--bind-address=127.0.0.1", "--port=" + strconv.Itoa(port), "--skip-name-resolve",
		"--innodb-buffer-pool-size=32M", "--innodb-log-file-size=16M", "--key-buffer-size=1M",
		"--aria-pagecache-buffer-size=8M",
		"--max-connections=60", "--performance-schema=OFF", "--skip-log-bin", "--character-set-server=utf8mb4",
		"--collation-server=utf8mb4_unicode_ci"}
	if init != "" {
		args = append(args, "--init-file="+init)
	}
	args = append(args, s.more...)
	return exec.Command(mariadbd, append(args, asRoot()...)...)
}

// dsnAt is how to reach a server on this machine.
func dsnAt(port int, password string) string {
	cfg := mysql.NewConfig()
	cfg.User = "hollen"
	cfg.Passwd = password
	cfg.Net = "tcp"
	cfg.Addr = net.JoinHostPort("127.0.0.1", strconv.Itoa(port))
	cfg.DBName = "hollen"
	return cfg.FormatDSN()
}

func answers(ctx context.Context, dsn string) bool {
	ctx, cancel := context.WithTimeout(ctx, time.Second)
	defer cancel()
	cfg, err := mysql.ParseDSN(dsn)
	if err != nil {
		return false
	}
	cfg.Logger = &mysql.NopLogger{}
	c, err := mysql.NewConnector(cfg)
	if err != nil {
		return false
	}
	conn, err := c.Connect(ctx)
	if err != nil {
		return false
	}
	_ = conn.Close()
	return true
}

func tail(b []byte) string {
	if len(b) > 1500 {
		b = b[len(b)-1500:]
	}
	return strings.TrimSpace(string(b))
}

// haltFor is how long a server may take to end; one that hangs is killed then, which its files are made for.
const haltFor = 3500 * time.Millisecond

// halt ends the server process and waits for it, no longer than haltFor before it is killed.
func (s *Server) halt() {
	cmd, done := s.process()
	_ = cmd.Process.Signal(syscall.SIGTERM)
	select {
	case <-done:
	case <-time.After(haltFor):
		s.kill()
	}
}

// kill ends a server that does not end by itself, or that nobody has used yet.
func (s *Server) kill() {
	cmd, done := s.process()
	_ = cmd.Process.Kill()
	<-done
}

func (s *Server) process() (*exec.Cmd, chan struct{}) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.cmd, s.done
}

func (s *Server) cleanUp() {
	if s.tmp != "" {
		_ = os.RemoveAll(s.tmp)
	}
	for _, f := range []*os.File{s.held, s.lock} {
		if f != nil {
			_ = f.Close()
		}
	}
}

// Done is closed when the server is given up: it has died again and again.
func (s *Server) Done() <-chan struct{} { return s.gone }

// Stop stops the server and lets the folder go. It may be called more than once.
func (s *Server) Stop() {
	s.once.Do(func() {
		s.mu.Lock()
		s.stopping = true
		s.mu.Unlock()
		s.halt()
		s.cleanUp()
	})
}
