package main

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
)

func call(in string, args ...string) (code int, out, errs string) {
	var o, e bytes.Buffer
	code = run(context.Background(), args, strings.NewReader(in), &o, &e)
	return code, o.String(), e.String()
}

func TestPlanCommand(t *testing.T) {
	code, example, _ := call("", "plan", "--example")
	if code != 0 {
		t.Fatal(code)
	}
	file := filepath.Join(t.TempDir(), "batch.json")
	if err := os.WriteFile(file, []byte(example), 0o600); err != nil {
		t.Fatal(err)
	}
	_, fromFile, _ := call("", "plan", file)
	code, fromInput, errs := call(example, "plan", "-")
	if code != 0 || errs != "" || fromFile != fromInput {
		t.Errorf("code %d, %s", code, errs)
	}
	var p struct {
		Formula struct {
			FlourG float64 `json:"flour_g"`
		}
		Cut struct{ Count int }
	}
	if err := json.Unmarshal([]byte(fromInput), &p); err != nil || p.Formula.FlourG < 100 || p.Cut.Count == 0 {
		t.Errorf("%v: %+v", err, p)
	}
	if err := json.Unmarshal([]byte(fromInput), new(plan.Plan)); err == nil {
		t.Error("a document passes for a plan")
	}
}

func TestBadCalls(t *testing.T) {
	for _, c := range []struct {
		in   string
		args []string
		want string
	}{
		{"{", []string{"plan", "-"}, "standard input: line 1, column 2: the document ends in the middle"},
		{"{\"room\": {\"rh\": 7}}", []string{"plan", "-"}, "room.rh: “7” is not allowed here"},
		{"", []string{"plan", "nowhere.json"}, "nowhere.json"},
		{"", []string{"plan"}, "name one file"},
		{"", []string{"bake"}, `there is no "bake"`},
		{"", nil, "hollen plan"},
		{"", []string{"serve", "--port", "1"}, "flag provided but not defined"},
		{"", []string{"serve", "now"}, `"now" is not understood`},
	} {
		code, out, errs := call(c.in, c.args...)
		if code != exitUsage || out != "" || !strings.Contains(errs, c.want) {
			t.Errorf("%v: code %d, %q, want %q", c.args, code, errs, c.want)
		}
	}
	if code, _, errs := call("", "serve", "--data", t.TempDir(), "--dsn", "u@tcp(127.0.0.1:1)/x"); code != exitFailed ||
		!strings.Contains(errs,
			"does not answer") {
		t.Errorf("no server there: %d %s", code, errs)
	}
}

// lines collects what a command prints while it runs.
type lines struct {
	mu sync.Mutex
	b  bytes.Buffer
}

func (l *lines) Write(p []byte) (int, error) { l.mu.Lock(); defer l.mu.Unlock(); return l.b.Write(p) }
func (l *lines) String() string              { l.mu.Lock(); defer l.mu.Unlock(); return l.b.String() }

// demoRun starts the demo on dir, calls f with its address, and stops it.
func demoRun(t *testing.T, dir string, f func(url string), args ...string) (started time.Duration) {
	t.Helper()
	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	var out, errs lines
	done := make(chan int, 1)
	begin := time.Now()
	go func() { done <- run(ctx, append([]string{"demo", "--data", dir}, args...), nil, &out, &errs) }()
	address := regexp.MustCompile(`http://127\.0\.0\.1:\d+/`)
	for address.FindString(out.String()) == "" {
		select {
		case code := <-done:
			t.Fatalf("ended with %d: %s", code, errs.String())
		case <-time.After(10 * time.Millisecond):
		}
	}
	started = time.Since(begin)
	if n := strings.Count(out.String(), "\n"); n != 1 {
		t.Errorf("prints %d lines: %s", n, out.String())
	}
	f(address.FindString(out.String()))
	stop()
	if code := <-done; code != 0 || errs.String() != "" {
		t.Errorf("stopped with %d: %s", code, errs.String())
	}
	return started
}

func get(t *testing.T, url string) string {
	t.Helper()
	r, err := http.Get(url)
	if err != nil {
		t.Fatal(err)
	}
	defer r.Body.Close()
	b, err := io.ReadAll(r.Body)
	if err != nil || r.StatusCode != http.StatusOK {
		t.Fatalf("%s: %d %v", url, r.StatusCode, err)
	}
	return string(b)
}

func TestDemoKeepsAndForgets(t *testing.T) {
	dir, all := filepath.Join(t.TempDir(), "demo"), len(demo.Scenario(rules.Default(), demo.Day).Batches)
	demoRun(t, dir, func(url string) {
		if page := get(t, url+"batches"); !strings.Contains(page, "Bottega Marram") || !strings.Contains(page,
			"Tagliatelle for Saturday") {
			t.Error("the first page does not show the demo")
		}
		if get(t, url+"healthz") != "ok\n" {
			t.Error("healthz")
		}
		if _, err := http.Post(url+"batches/1/delete", "application/x-www-form-urlencoded", nil); err != nil {
			t.Error(err)
		}
	})
	again := demoRun(t, dir, func(url string) {
		if strings.Count(get(t, url+"batches"), `aria-label="Delete `) != all-1 {
			t.Error("the second start does not keep what was done")
		}
	})
	t.Logf("second start: %v", again)
	demoRun(t, dir, func(url string) {
		if strings.Count(get(t, url+"batches"), `aria-label="Delete `) != all {
			t.Error("--fresh does not start over")
		}
	}, "--fresh")
}
