package e2e

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"

	"hollen/internal/store/storetest"

	"github.com/coder/websocket"
)

// TestLoad has fifty tablets work for HOLLEN_LOAD minutes beside 5,000 connections that say nothing, clients that send
// a letter at a time, and
// devices that never stop: no answer of 5xx, no update lost, and the others go on. ./run load runs it.
func TestLoad(t *testing.T) {
	minutes, err := strconv.ParseFloat(os.Getenv("HOLLEN_LOAD"), 64)
	if err != nil || minutes <= 0 {
		t.Skip("./run load runs it")
	}
	dir := t.TempDir()
	path := filepath.Join(dir, "hollen")
	if out, err := exec.Command("go", "build", "-o", path, "../cmd/hollen").CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	cmd := exec.Command(path, "demo", "--data", filepath.Join(dir, "data"))
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	defer func() { cmd.Process.Signal(os.Interrupt); cmd.Wait() }()
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		t.Fatal(err)
	}
	l := &load{t: t, at: regexp.MustCompile(`http://[^/]+`).FindString(line), took: map[string][]time.Duration{},
		saves: map[uint64]int{}}
	token, err := exec.Command(path, "device", "add", "flood", "--data", filepath.Join(dir, "data")).Output()
	if err != nil {
		t.Fatal(err)
	}
	ctx, cancel := context.WithTimeout(context.Background(), time.Duration(minutes*float64(time.Minute)))
	defer cancel()
	l.crowd(ctx, strings.TrimSpace(string(token)))
	var wait sync.WaitGroup
	for n := range 50 {
		wait.Go(func() { l.tablet(ctx, n) })
	}
	var most int
	for ctx.Err() == nil {
		most = max(most, memoryMB(cmd.Process.Pid))
		time.Sleep(time.Second)
	}
	wait.Wait()
	for id, version := range l.saves {
		res, err := http.Get(fmt.Sprintf("%s/batches/%d", l.at, id))
		if err != nil {
			t.Fatal(err)
		}
		page, _ := io.ReadAll(res.Body)
		res.Body.Close()
		if !strings.Contains(string(page), fmt.Sprintf(`name="version" value="%d"`, version)) {
			t.Errorf("batch %d is not at version %d", id, version)
		}
	}
	for kind, all := range l.took {
		slices.Sort(all)
		t.Logf("%s: %d, median %v, p95 %v, longest %v", kind, len(all), all[len(all)/2], all[len(all)*95/100],
			all[len(all)-1])
	}
	t.Logf("memory at most %d MB; %d answers of 5xx", most, l.bad)
	if l.bad > 0 {
		t.Error("answers of 5xx")
	}
}

type load struct {
	t     *testing.T
	at    string
	mu    sync.Mutex
	took  map[string][]time.Duration
	saves map[uint64]int // batch -> version that was acknowledged last
	bad   int
}

func memoryMB(pid int) int {
	raw, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", pid))
	n, _ := strconv.Atoi(strings.TrimSpace(regexp.MustCompile(`VmRSS:\s+(\d+)`).FindString(string(raw))[len(
		"VmRSS:"):]))
	return n >> 10
}

// crowd is what is there besides: idle and slow connections, and a flood of readings.
func (l *load) crowd(ctx context.Context, token string) {
	host := strings.TrimPrefix(l.at, "http://")
	go func() {
		var idle []net.Conn
		for range 5000 {
			if c, err := net.Dial("tcp", host); err == nil {
				idle = append(idle, c)
			}
		}
		l.t.Logf("%d connections say nothing", len(idle))
		<-ctx.Done()
		for _, c := range idle {
			c.Close()
		}
	}()
	for range 20 {
		go func() {
			for ctx.Err() == nil {
				c, err := net.Dial("tcp", host)
				if err != nil {
					continue
				}
				for _, b := range []byte("POST /batches HTTP/1.1\r\nHost: " + host +
					"\r\nContent-Length: 90000\r\n\r\n") {
					if _, err := c.Write([]byte{b}); err != nil || ctx.Err() != nil {
						break
					}
					time.Sleep(100 * time.Millisecond)
				}
				c.Close()
			}
		}()
	}
	for range 5 {
		go func() {
			for ctx.Err() == nil {
				r, _ := http.NewRequestWithContext(ctx, http.MethodPost, l.at+"/devices/flood/readings",
					strings.NewReader(strings.Repeat(`{"g": 12.5, "stable": true}`+"\n", 200)))
				r.Header.Set("Authorization", "Bearer "+token)
				if res, err := http.DefaultClient.Do(r); err == nil {
					res.Body.Close()
				}
				time.Sleep(20 * time.Millisecond)
			}
		}()
	}
}

// ask sends one request and keeps how long it took.
func (l *load) ask(client *http.Client, kind, method, path string, form url.Values) *http.Response {
	r, _ := http.NewRequest(method, l.at+path, strings.NewReader(form.Encode()))
	if method == http.MethodPost {
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	}
	begun := time.Now()
	res, err := client.Do(r)
	if err != nil {
		l.t.Errorf("%s: %v", kind, err)
		return &http.Response{}
	}
	io.Copy(io.Discard, res.Body)
	res.Body.Close()
	l.note(kind, time.Since(begun), res.StatusCode >= 500)
	return res
}

func (l *load) note(kind string, took time.Duration, bad bool) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.took[kind] = append(l.took[kind], took)
	if bad {
		l.bad++
	}
}

// tablet is one of the fifty: at its batch, or at a making.
func (l *load) tablet(ctx context.Context, n int) {
	client := &http.Client{Timeout: 15 * time.Second, Transport: &http.Transport{MaxIdleConns: 4},
		CheckRedirect: func(*http.Request,
			[]*http.Request) error {
			return http.ErrUseLastResponse
		}}
	pause := func(ms int) {
		select {
		case <-ctx.Done():
		case <-time.After(time.Duration(ms+n*7%300) * time.Millisecond):
		}
	}
	if n%5 == 0 {
		l.bench(ctx, client, pause)
		return
	}
	res := l.ask(client, "new batch", "POST", "/batches", url.Values{"name": {fmt.Sprint("Tablet ", n)},
		"amount.by": {"flour"}, "amount.flour_g": {"500"}})
	id, err := strconv.ParseUint(regexp.MustCompile(`\d+`).FindString(res.Header.Get("Location")), 10, 64)
	if err != nil {
		l.t.Errorf("a new batch leads to %q", res.Header.Get("Location"))
		return
	}
	form := url.Values{"was_at": {"formula"}}
	for i, version := 0, 1; ctx.Err() == nil; i++ {
		form.Set("version", fmt.Sprint(version))
		form.Set("amount.flour_g", fmt.Sprint(400+(i*37)%900))
		l.ask(client, "change", "POST", fmt.Sprintf("/batches/%d/work", id), form)
		pause(1200)
		if i%6 == 5 {
			if res := l.ask(client, "save", "POST", fmt.Sprintf("/batches/%d/save", id),
				form); res.StatusCode == http.StatusSeeOther {
				version++
				l.mu.Lock()
				l.saves[id] = version
				l.mu.Unlock()
			} else {
				l.t.Errorf("a save is answered by %d", res.StatusCode)
			}
		}
		if i%9 == 8 {
			l.ask(client, "list", "GET", "/batches", nil)
			l.ask(client, "log", "GET", "/log", nil)
		}
	}
}

// bench is a tablet at a making: its line stays open, and a tap is answered by the state that has it.
func (l *load) bench(ctx context.Context, client *http.Client, pause func(int)) {
	at := l.ask(client, "begin", "POST", "/batches/7/bench", nil).Header.Get("Location")
	conn, _, err := websocket.Dial(ctx, strings.Replace(l.at, "http", "ws", 1)+at+"/line", nil)
	if err != nil {
		l.t.Error(err)
		return
	}
	defer conn.CloseNow()
	conn.SetReadLimit(8 << 20)
	for i := 0; ctx.Err() == nil; i++ {
		id := fmt.Sprintf("tap-%d", i)
		doc, _ := json.Marshal(map[string]any{"events": []map[string]any{{"id": id, "what": "note", "text": "x",
			"at": storetest.Now().UTC()}}})
		begun := time.Now()
		if conn.Write(ctx, websocket.MessageText, doc) != nil {
			break
		}
		for {
			_, m, err := conn.Read(ctx)
			if err != nil {
				if ctx.Err() == nil {
					l.t.Errorf("the line of a making broke: %v", err)
				}
				return
			}
			if strings.Contains(string(m), `"`+id+`"`) {
				break
			}
		}
		l.note("tap", time.Since(begun), false)
		pause(1500)
	}
}
