package main

import (
	"bytes"
	"context"
	"crypto/tls"
	"crypto/x509"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"
)

// Beyond this machine nothing is served without accounts, and none by open http unless that is asked for.
func TestReach(t *testing.T) {
	dir := t.TempDir()
	for name, c := range map[string]struct {
		r      reach
		addr   string
		signIn bool
		err    string
		hosts  []string
	}{
		"own machine": {addr: "127.0.0.1:0"}, "by name": {addr: "localhost:8080"}, "six": {addr: "[::1]:0"},
		"open":        {addr: "0.0.0.0:8080", err: "for everyone on it to read"},
		"all":         {addr: ":8080", err: "for everyone on it to read"},
		"open, asked": {addr: "192.0.2.1:8080", r: reach{insecure: true}, signIn: true, hosts: []string{"192.0.2.1"}},
		"own cert": {addr: "192.0.2.1:8443", r: reach{tls: "self", hosts: list{"pasta.example"}}, signIn: true,
			hosts: []string{"pasta.example", "192.0.2.1"}},
		"proxy": {addr: "127.0.0.1:8080", r: reach{proxies: list{"127.0.0.1"}, hosts: list{"pasta.example"}},
			signIn: true, hosts: []string{"pasta.example"}},
		"odd proxy":    {addr: "127.0.0.1:8080", r: reach{proxies: list{"the router"}}, err: "--behind-proxy"},
		"half a cert":  {addr: "127.0.0.1:8080", r: reach{cert: "x"}, err: "go together"},
		"no such cert": {addr: "127.0.0.1:8080", r: reach{cert: "/nowhere", key: "/nowhere"}, err: "no such file"},
		"odd tls":      {addr: "127.0.0.1:8080", r: reach{tls: "yes"}, err: "self"}, "odd address": {addr: "8080",
			err: "HOST:PORT"},
	} {
		a, err := c.r.access(c.addr, dir)
		if (err == nil) != (c.err == "") || err != nil && !strings.Contains(err.Error(), c.err) {
			t.Errorf("%s: %v", name, err)
			continue
		}
		if err == nil && (a.SignIn != c.signIn || len(c.hosts) > 0 && !slices.Equal(a.Hosts, c.hosts)) {
			t.Errorf("%s: %+v", name, a)
		}
	}
}

// serving runs a command that serves, until the test ends; said is what it prints once it contains want.
func serving(t *testing.T, want string, args ...string) (said string) {
	t.Helper()
	ctx, stop := context.WithCancel(context.Background())
	var out, errs lines
	done := make(chan int, 1)
	go func() { done <- run(ctx, args, nil, &out, &errs) }()
	t.Cleanup(func() {
		stop()
		if code := <-done; code != 0 {
			t.Errorf("ended with %d: %s", code, errs.String())
		}
	})
	for !strings.Contains(out.String(), want) {
		select {
		case code := <-done:
			done <- code
			t.Fatalf("ended with %d: %s", code, errs.String())
		case <-time.After(10 * time.Millisecond):
		}
	}
	return out.String()
}

// A workshop’s first start: a certificate is made, its fingerprint printed, and the address of the first account; the
// account signs in over
// TLS. The next start has the same certificate and port, and prints no such address. Accounts can be made by command
// while it runs.
func TestFirstStart(t *testing.T) {
	dir := t.TempDir()
	var port, print string
	if !t.Run("first", func(t *testing.T) {
		said := serving(t, "within a day", "serve", "--data", dir, "--addr", "127.0.0.1:0", "--tls", "self",
			"--behind-proxy", "127.0.0.1", "--log",
			filepath.Join(dir, "log"))
		first := regexp.MustCompile(`https://127\.0\.0\.1:(\d+)/first/\w+`).FindStringSubmatch(said)
		print = regexp.MustCompile(`([0-9A-F]{2}:){31}[0-9A-F]{2}`).FindString(said)
		if first == nil || print == "" {
			t.Fatal(said)
		}
		port = first[1]
		pem, err := os.ReadFile(filepath.Join(dir, "tls.crt"))
		if err != nil {
			t.Fatal(err)
		}
		if info, err := os.Stat(filepath.Join(dir, "tls.key")); err != nil || info.Mode().Perm() != 0o600 {
			t.Errorf("the key can be read: %v, %v", info.Mode(), err)
		}
		roots := x509.NewCertPool()
		roots.AppendCertsFromPEM(pem)
		jar, _ := cookiejar.New(nil)
		client := &http.Client{Jar: jar, Transport: &http.Transport{TLSClientConfig: &tls.Config{RootCAs: roots}}}
		ask := func(method, at string, form url.Values) (int, string) {
			r, _ := http.NewRequest(method, at, strings.NewReader(form.Encode()))
			r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
			res, err := client.Do(r)
			if err != nil {
				t.Fatal(err)
			}
			defer res.Body.Close()
			b, _ := io.ReadAll(res.Body)
			return res.StatusCode, string(b)
		}
		const secret = "three otters and a gull"
		if code, page := ask("POST", first[0], url.Values{"name": {"Linde"}, "password": {secret},
			"again": {secret}}); code != 200 ||
			!strings.Contains(page, "Linde (you)") {
			t.Errorf("%d %.500s", code, page)
		}
		t.Setenv("HOLLEN_PASSWORD", secret+" too")
		if code, _, errs := call("", "user", "add", "Osk", "--role", "looks", "--data", dir); code != 0 {
			t.Errorf("%d %s", code, errs)
		}
		t.Setenv("HOLLEN_PASSWORD", "")
		if code, _, errs := call("short\n", "user", "password", "Osk", "--data", dir); code != exitUsage ||
			!strings.Contains(errs, "12 letters") {
			t.Errorf("%d %s", code, errs)
		}
		if code, out, _ := call("", "user", "list", "--data", dir); code != 0 || !strings.Contains(out,
			"Linde\tkeeps") || !strings.Contains(out, "Osk\tlooks") {
			t.Errorf("%s", out)
		}
		if code, _, errs := call("", "user", "role", "Osk", "--data", dir); code != exitUsage ||
			!strings.Contains(errs, "--role keeps") {
			t.Errorf("%d %s", code, errs)
		}
		for _, role := range []string{"makes", "looks"} {
			if code, _, errs := call("", "user", "role", "Osk", "--role", role, "--data", dir); code != 0 {
				t.Errorf("%d %s", code, errs)
			}
		}
		if code, _, errs := call("", "user", "role", "Linde", "--role", "makes", "--data", dir); code != exitFailed ||
			!strings.Contains(errs, "somebody has to keep") {
			t.Errorf("%d %s", code, errs)
		}
		if code, _, errs := call("", "user", "remove", "Linde", "--data", dir); code != exitFailed ||
			!strings.Contains(errs, "somebody has to keep the workshop") {
			t.Errorf("%d %s", code, errs)
		}
		if _, page := ask("GET", "https://127.0.0.1:"+port+"/accounts", nil); !strings.Contains(page,
			"the command line") || !strings.Contains(page, "made Osk") {
			t.Error("the trail does not say what the command did")
		}
		zip := filepath.Join(dir, "all.zip")
		if code, out, errs := call("", "backup", zip, "--data", dir, "--secrets"); code != 0 || !strings.Contains(out,
			"2 accounts") {
			t.Errorf("%d %s %s", code, out, errs)
		}
	}) {
		return
	}
	t.Run("second", func(t *testing.T) {
		said := serving(t, print, "serve", "--data", dir, "--addr", "127.0.0.1:0", "--tls", "self", "--behind-proxy",
			"127.0.0.1", "--log", filepath.Join(dir, "log"))
		if !strings.Contains(said, "https://127.0.0.1:"+port+"/") || strings.Contains(said, "/first/") {
			t.Errorf("it was at %s: %s", port, said)
		}
		if code, _, errs := call("", "serve", "--data", dir, "--addr", "127.0.0.1:"+port); code != exitFailed ||
			!strings.Contains(errs,
				"a Hollen of this folder serves at") {
			t.Errorf("%d %s", code, errs)
		}
	})
	if log, _ := os.ReadFile(filepath.Join(dir, "log")); !bytes.Contains(log, []byte("/first/…")) ||
		regexp.MustCompile(`/first/\w`).Match(log) {
		t.Error("the secret of the first account stands in the log")
	}
	// What a program that was killed has left of itself leads nowhere, and holds nobody up.
	if err := os.WriteFile(filepath.Join(dir, dsnFile), []byte("hollen:x@tcp(127.0.0.1:1)/hollen"), 0o600); err != nil {
		t.Fatal(err)
	}
	if code, out, errs := call("", "user", "list", "--data", dir); code != 0 || !strings.Contains(out, "Linde") {
		t.Errorf("%d %s %s", code, out, errs)
	}
	other := t.TempDir()
	if code, out, errs := call("", "restore", filepath.Join(dir, "all.zip"), "--data", other); code != 0 ||
		!strings.Contains(out, "restored") {
		t.Errorf("%d %s %s", code, out, errs)
	}
	if code, out, _ := call("", "user", "list", "--data", other); code != 0 || !strings.Contains(out, "Linde\tkeeps") {
		t.Errorf("restored: %s", out)
	}
	if code, _, errs := call("", "restore", filepath.Join(dir, "all.zip"), "--data", other); code != exitFailed ||
		!strings.Contains(errs, "--beside") {
		t.Errorf("%d %s", code, errs)
	}
	if code, out, errs := call("", "restore", "--preview", "--beside", filepath.Join(dir, "all.zip"), "--data",
		other); code != 0 ||
		!strings.Contains(out, "accounts: 2 left out") ||
		!strings.Contains(out, "things of the cabinet: 2 there already") {
		t.Errorf("%d %s %s", code, out, errs)
	}
}

// A taken port is told before a database is made.
func TestTakenPort(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer l.Close()
	dir := filepath.Join(t.TempDir(), "new")
	begun := time.Now()
	if code, _, errs := call("", "serve", "--data", dir, "--addr", l.Addr().String()); code != exitFailed ||
		!strings.Contains(errs, "address already in use") {
		t.Errorf("%d %s", code, errs)
	}
	if all, _ := filepath.Glob(filepath.Join(dir, "mariadb*")); len(all) > 0 || time.Since(begun) > time.Second {
		t.Errorf("a database is made first: %v, %v", all, time.Since(begun))
	}
}

// A database that hangs does not keep the program from ending: its server is killed, and opens again with all that was
// kept.
func TestEndsWhileDatabaseHangs(t *testing.T) {
	dir := t.TempDir()
	pid := 0
	var begun time.Time
	t.Run("hangs", func(t *testing.T) {
		t.Cleanup(func() { t.Logf("ended after %v", time.Since(begun)) })
		serving(t, "http://", "demo", "--data", dir, "--log", filepath.Join(dir, "log"))
		raw, _ := os.ReadFile(filepath.Join(dir, "server.lock"))
		pid, _ = strconv.Atoi(string(bytes.TrimSpace(raw)))
		if err := syscall.Kill(pid, syscall.SIGSTOP); err != nil {
			t.Fatal(err)
		}
		begun = time.Now()
	})
	// 1 s for what goes on and 3.5 for the server, with room for a busy machine; it was 20
	if took := time.Since(begun); took > 8*time.Second {
		t.Errorf("it ends after %v", took)
	}
	if err := syscall.Kill(pid, 0); err == nil {
		t.Errorf("the server %d is left", pid)
	}
	if code, out, errs := call("", "backup", filepath.Join(dir, "all.zip"), "--data", dir); code != 0 ||
		!strings.Contains(out, "10 batches") {
		t.Errorf("afterwards: %d %s %s", code, out, errs)
	}
}

// A database that hangs gives a page within ten seconds and readyz says so; one that is killed is there again within
// five, and the page tries
// again by itself.
func TestDatabaseHangsAndDies(t *testing.T) {
	dir := t.TempDir()
	said := serving(t, "http://", "demo", "--data", dir, "--log", filepath.Join(dir, "log"))
	at := regexp.MustCompile(`http://127\.0\.0\.1:\d+`).FindString(said)
	pid := func() int {
		raw, _ := os.ReadFile(filepath.Join(dir, "server.lock"))
		n, _ := strconv.Atoi(string(bytes.TrimSpace(raw)))
		return n
	}
	ask := func(path string) (int, string, time.Duration) {
		begun := time.Now()
		r, err := http.Get(at + path)
		if err != nil {
			return 0, err.Error(), time.Since(begun)
		}
		defer r.Body.Close()
		b, _ := io.ReadAll(r.Body)
		return r.StatusCode, r.Header.Get("Refresh") + string(b), time.Since(begun)
	}
	if err := syscall.Kill(pid(), syscall.SIGSTOP); err != nil {
		t.Fatal(err)
	}
	for range 200 { // every thread of it stands still a moment later
		stats, _ := filepath.Glob(fmt.Sprintf("/proc/%d/task/*/stat", pid()))
		if !slices.ContainsFunc(stats, func(f string) bool {
			b, _ := os.ReadFile(f)
			return !bytes.Contains(b,
				[]byte(") T "))
		}) {
			break
		}
		time.Sleep(5 * time.Millisecond)
	}
	for path, most := range map[string]time.Duration{"/readyz": 4 * time.Second, "/": 10 * time.Second,
		"/batches/7": 10 * time.Second} {
		if code, page, took := ask(path); code != 503 || took > most || path != "/readyz" && !strings.Contains(page,
			"One moment.") {
			t.Errorf("%s while it hangs: %d after %v: %.200s", path, code, took, page)
		}
	}
	if code, _, took := ask("/healthz"); code != 200 || took > time.Second {
		t.Errorf("the program itself: %d after %v", code, took)
	}
	if err := syscall.Kill(pid(), syscall.SIGCONT); err != nil {
		t.Fatal(err)
	}
	back := func(what string, most time.Duration) {
		t.Helper()
		begun, tries := time.Now(), 0
		for {
			code, page, took := ask("/")
			if tries++; code == 200 {
				break
			}
			if time.Since(begun) > most {
				log, _ := os.ReadFile(filepath.Join(dir, "mariadb.log"))
				t.Fatalf("%s: not back after %v and %d tries, the last %d after %v: %.300s\n%s", what,
					time.Since(begun), tries, code, took, page, log[max(0, len(log)-3000):])
			}
			time.Sleep(30 * time.Millisecond)
		}
		t.Logf("%s: back after %v and %d tries", what, time.Since(begun), tries)
	}
	back("going on", 10*time.Second)
	for i := range 2 {
		if err := syscall.Kill(pid(), syscall.SIGKILL); err != nil {
			t.Fatal(err)
		}
		back(fmt.Sprintf("killed, %d", i+1), 5*time.Second)
	}
}
