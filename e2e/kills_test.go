package e2e

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// TestKills kills the program, its database, or both, at random moments under load, HOLLEN_KILLS times: what was
// acknowledged is there, whole,
// and the server answers again. ./run kills runs it.
func TestKills(t *testing.T) {
	rounds, err := strconv.Atoi(os.Getenv("HOLLEN_KILLS"))
	if err != nil || rounds < 1 {
		t.Skip("./run kills runs it")
	}
	dir := t.TempDir()
	path, data := filepath.Join(dir, "hollen"), filepath.Join(dir, "data")
	if out, err := exec.Command("go", "build", "-o", path, "../cmd/hollen").CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	k := killing{t: t, path: path, data: data, rng: rand.New(rand.NewPCG(16, uint64(rounds)))}
	k.start()
	defer k.stop()
	for round := range rounds {
		k.round(round)
		if t.Failed() {
			return
		}
	}
	t.Logf("%d rounds: %d saves, %d taps and %d readings acknowledged, none lost; longest until it answered again %v",
		rounds, len(k.saves), len(k.taps),
		k.readings.Load(),
		k.longest)
}

type killing struct {
	t          *testing.T
	path, data string
	rng        *rand.Rand
	cmd        *exec.Cmd
	at         string
	token      string
	longest    time.Duration

	mu       sync.Mutex
	saves    map[string]uint64 // acknowledged: name of a version -> batch
	taps     map[string]string // event -> making's address
	readings atomic.Int64
	n        atomic.Int64
}

// start starts the program and waits until it is ready.
func (k *killing) start() {
	k.t.Helper()
	begun := time.Now()
	cmd := exec.Command(k.path, "demo", "--data", k.data)
	out, err := cmd.StdoutPipe()
	if err != nil {
		k.t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		k.t.Fatal(err)
	}
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		log, _ := os.ReadFile(filepath.Join(k.data, "hollen.log"))
		k.t.Fatalf("it does not start: %v\n%.2000s", err, log)
	}
	at := regexp.MustCompile(`http://[^/]+`).FindString(line)
	if k.at != "" && at != k.at {
		k.t.Errorf("it is at %s now, and was at %s", at, k.at)
	}
	k.cmd, k.at = cmd, at
	k.ready()
	if k.saves == nil {
		k.saves, k.taps = map[string]uint64{}, map[string]string{}
		raw, err := exec.Command(k.path, "device", "add", "load", "--data", k.data).Output()
		if err != nil {
			k.t.Fatal(err)
		}
		k.token = strings.TrimSpace(string(raw))
		return
	}
	k.longest = max(k.longest, time.Since(begun))
}

// ready waits until the database answers.
func (k *killing) ready() {
	k.t.Helper()
	begun := time.Now()
	for {
		if r, err := http.Get(k.at + "/readyz"); err == nil {
			r.Body.Close()
			if r.StatusCode == http.StatusOK {
				k.longest = max(k.longest, time.Since(begun))
				return
			}
		}
		if time.Since(begun) > 30*time.Second {
			k.t.Fatal("it is not ready after 30 s")
		}
		time.Sleep(20 * time.Millisecond)
	}
}

func (k *killing) stop() {
	_ = k.cmd.Process.Signal(os.Interrupt)
	_ = k.cmd.Wait()
}

// database is the process of the private server.
func (k *killing) database() int {
	raw, err := os.ReadFile(filepath.Join(k.data, "server.lock"))
	if err != nil {
		return 0
	}
	pid, _ := strconv.Atoi(strings.TrimSpace(string(raw)))
	return pid
}

// round loads the server, kills at a random moment, starts it again and looks.
func (k *killing) round(n int) {
	ctx, cancel := context.WithCancel(context.Background())
	var wait sync.WaitGroup
	for w := range 6 {
		wait.Go(func() { k.load(ctx, w) })
	}
	time.Sleep(time.Duration(100+k.rng.IntN(900)) * time.Millisecond)
	what := n % 3
	if what != 1 {
		_ = k.cmd.Process.Kill()
	}
	if pid := k.database(); what != 0 && pid > 0 {
		_ = syscall.Kill(pid, syscall.SIGKILL)
	}
	time.Sleep(time.Duration(k.rng.IntN(300)) * time.Millisecond)
	if what != 1 {
		cancel()
		wait.Wait()
		_ = k.cmd.Wait()
		k.start()
	} else { // its database comes back by itself, while they go on
		k.ready()
		time.Sleep(200 * time.Millisecond)
		cancel()
		wait.Wait()
	}
	k.look(n)
}

// load sends one thing after the other, and remembers what was acknowledged.
func (k *killing) load(ctx context.Context, w int) {
	client := &http.Client{Timeout: 12 * time.Second, CheckRedirect: func(*http.Request,
		[]*http.Request) error {
		return http.ErrUseLastResponse
	}}
	post := func(path, kind, body string) (*http.Response, error) {
		r, err := http.NewRequestWithContext(ctx, http.MethodPost, k.at+path, strings.NewReader(body))
		if err != nil {
			return nil, err
		}
		r.Header.Set("Content-Type", kind)
		if strings.HasPrefix(path, "/devices/") {
			r.Header.Set("Authorization", "Bearer "+k.token)
		}
		res, err := client.Do(r)
		if err == nil {
			io.Copy(io.Discard, res.Body)
			res.Body.Close()
		}
		return res, err
	}
	making := ""
	for ctx.Err() == nil {
		n := k.n.Add(1)
		switch w % 3 {
		case 0: // a new batch, then versions of it
			name := fmt.Sprintf("Load %d", n)
			res, err := post("/batches", "application/x-www-form-urlencoded", url.Values{"name": {name},
				"amount.by": {"flour"}, "amount.flour_g": {"500"}}.Encode())
			if err != nil || res.StatusCode != http.StatusSeeOther {
				time.Sleep(30 * time.Millisecond)
				continue
			}
			id, err := strconv.ParseUint(regexp.MustCompile(`\d+`).FindString(res.Header.Get("Location")), 10, 64)
			if err != nil {
				continue
			}
			k.keep(name, id)
			for v := 1; v < 6 && ctx.Err() == nil; v++ {
				next := fmt.Sprintf("%s v%d", name, v+1)
				form := url.Values{"version": {fmt.Sprint(v)}, "was_at": {"formula"}, "name": {next}}
				if res, err := post(fmt.Sprintf("/batches/%d/save", id), "application/x-www-form-urlencoded",
					form.Encode()); err != nil ||
					res.StatusCode != http.StatusSeeOther {
					break
				}
				k.keep(next, id)
			}
		case 1: // taps at a making
			if making == "" {
				res, err := post("/batches/7/bench", "application/x-www-form-urlencoded", "")
				if err != nil || res.StatusCode != http.StatusSeeOther {
					time.Sleep(30 * time.Millisecond)
					continue
				}
				making = res.Header.Get("Location")
			}
			id := fmt.Sprintf("t%d", n)
			doc, _ := json.Marshal(map[string]any{"events": []map[string]any{{"id": id, "what": "note", "text": id,
				"at": time.Now().UTC()}}})
			if res, err := post(making+"/events", "application/json", string(doc)); err == nil &&
				res.StatusCode == http.StatusOK {
				k.mu.Lock()
				k.taps[id] = making
				k.mu.Unlock()
			}
		default:
			if res, err := post("/devices/load/readings", "application/json",
				`{"g": 12.5, "stable": true}`); err == nil && res.StatusCode == http.StatusOK {
				k.readings.Add(1)
			}
			time.Sleep(5 * time.Millisecond)
		}
	}
}

func (k *killing) keep(name string, batch uint64) {
	k.mu.Lock()
	k.saves[name] = batch
	k.mu.Unlock()
}

// look makes sure that everything acknowledged is there, and nothing is half there.
func (k *killing) look(round int) {
	k.t.Helper()
	dsn, err := os.ReadFile(filepath.Join(k.data, "dsn"))
	if err != nil {
		k.t.Fatal(err)
	}
	s, err := store.Open(context.Background(), string(dsn), storetest.Now)
	if err != nil {
		k.t.Fatalf("round %d: %v", round, err)
	}
	defer s.Close()
	ctx := context.Background()
	names := map[string]bool{}
	seen := map[uint64]bool{}
	for _, id := range k.saves {
		if seen[id] {
			continue
		}
		seen[id] = true
		b, err := s.Get(ctx, id)
		if err != nil {
			k.t.Errorf("round %d: batch %d: %v", round, id, err)
			continue
		}
		versions, err := s.Versions(ctx, id)
		if err != nil || len(versions) != b.Version {
			k.t.Errorf("round %d: batch %d is at version %d and has %d, %v", round, id, b.Version, len(versions), err)
		}
		for _, v := range versions {
			old, err := s.Version(ctx, id, v.Version)
			if err != nil {
				k.t.Errorf("round %d: version %d of %d: %v", round, v.Version, id, err)
			}
			names[old.Request.Name] = true
		}
	}
	for name := range k.saves {
		if !names[name] {
			k.t.Errorf("round %d: %q was acknowledged and is lost", round, name)
		}
	}
	events := map[string]map[string]bool{}
	for id, making := range k.taps {
		if events[making] == nil {
			n, err := strconv.ParseUint(strings.TrimPrefix(making, "/bench/"), 10, 64)
			if err != nil {
				k.t.Fatal(err)
			}
			all, last, err := s.Events(ctx, n, 0)
			if err != nil || int(last) != len(all) {
				k.t.Errorf("round %d: %d events up to %d, %v", round, len(all), last, err)
			}
			events[making] = map[string]bool{}
			for _, e := range all {
				events[making][e.ID] = true
			}
		}
		if !events[making][id] {
			k.t.Errorf("round %d: tap %s was acknowledged and is lost", round, id)
		}
	}
}
