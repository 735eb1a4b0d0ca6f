package e2e

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
)

// relay is a network between a screen and its server that can be pulled out and put back.
type relay struct {
	addr, to string
	mu       sync.Mutex
	l        net.Listener
	open     []net.Conn
}

func newRelay(t *testing.T, to string) *relay {
	r := &relay{addr: "127.0.0.1:0", to: to}
	r.on(t)
	t.Cleanup(r.off)
	return r
}

// on lets connections through.
func (r *relay) on(t *testing.T) {
	t.Helper()
	l, err := net.Listen("tcp", r.addr)
	if err != nil {
		t.Fatal(err)
	}
	r.mu.Lock()
	r.l, r.addr = l, l.Addr().String()
	r.mu.Unlock()
	go func() {
		for {
			in, err := l.Accept()
			if err != nil {
				return
			}
			out, err := net.Dial("tcp", r.to)
			if err != nil {
				in.Close()
				continue
			}
			r.mu.Lock()
			r.open = append(r.open, in, out)
			r.mu.Unlock()
			go func() { io.Copy(in, out); in.Close() }()
			go func() { io.Copy(out, in); out.Close() }()
		}
	}()
}

// off drops what is open and refuses what comes.
func (r *relay) off() {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.l.Close()
	for _, c := range r.open {
		c.Close()
	}
	r.open = nil
}

// The network fails for five taps and comes back: they show at once, are said to be kept, and reach the server in the
// order they
// were made.
func TestNetworkOffForFiveTaps(t *testing.T) {
	t.Parallel() // it waits more than it works
	base, st := serve(t)
	r := newRelay(t, strings.TrimPrefix(base, "http://"))
	b := open(t, browser(t), "http://"+r.addr, tabletW, tabletH)
	b.expect = noServer
	b.toBench(demo.Saturday)
	b.on(1)
	b.until("told", told)
	r.off()
	b.until("word of it", "document.querySelector('#unsent').dataset.is === 'away'")
	b.on(5)
	b.until("on without it", step+".startsWith('step 7 of') && document.querySelector('#unsent').dataset.taps === '5'")
	r.on(t)
	b.until("all told", told+" && document.querySelector('#unsent').hidden")
	events, _, err := st.Events(context.Background(), newMade(), 0)
	if err != nil {
		t.Fatal(err)
	}
	var kept []string
	for i, e := range events {
		kept = append(kept, e.Step())
		if i > 0 && e.At.Before(events[i-1].At) {
			t.Errorf("%s before %s", e.Step(), events[i-1].Step())
		}
	}
	p, err := bench6(st)
	if err != nil {
		t.Fatal(err)
	}
	if got := strings.Join(kept, " "); got != p {
		t.Errorf("kept %s, made %s", got, p)
	}
}

// bench6 are the keys of the first six steps of the making begun in a test.
func bench6(st *store.Store) (string, error) {
	m, err := st.Making(context.Background(), newMade())
	if err != nil {
		return "", err
	}
	p, err := m.Plan()
	if err != nil {
		return "", err
	}
	var keys []string
	for _, s := range bench.Steps(p)[:6] {
		keys = append(keys, s.Key)
	}
	return strings.Join(keys, " "), nil
}

// told says that the server has everything a page has tapped.
const told = "!Object.keys(localStorage).some((k) => /^bench-\\d/.test(k))"

// on goes on so many steps by the yolk key.
func (b *tab) on(times int) {
	b.t.Helper()
	for range times {
		eval[bool](b, again+"document.querySelector('"+onward+"').click(), true))")
	}
}

// program is Hollen as it is installed, a process of its own.
func program(t *testing.T, path, dsn, addr string) (at string, kill func()) {
	t.Helper()
	cmd := exec.Command(path, "serve", "--data", t.TempDir(), "--addr", addr)
	cmd.Env = append(os.Environ(), "HOLLEN_DSN="+dsn)
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	kill = sync.OnceFunc(func() {
		cmd.Process.Kill() // SIGKILL: it has no time to put anything away
		cmd.Wait()
	})
	t.Cleanup(kill)
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		t.Fatal(err)
	}
	_, at, _ = strings.Cut(line, "http://")
	at, _, _ = strings.Cut(at, "/")
	return at, kill
}

// Two processes on one database are in step within a second; one is killed in the middle of a rest while taps go on,
// starts again,
// and the clock is right to the second and no tap lost.
func TestTwoProcessesOneKilled(t *testing.T) {
	t.Parallel() // it waits more than it works
	path := filepath.Join(t.TempDir(), "hollen")
	if out, err := exec.Command("go", "build", "-o", path, "../cmd/hollen").CombinedOutput(); err != nil {
		t.Fatalf("%v: %s", err, out)
	}
	st, dsn := demotest.Store(t, demo.Day)
	first, kill := program(t, path, dsn, "127.0.0.1:0")
	second, _ := program(t, path, dsn, "127.0.0.1:0")
	br := browser(t)
	one, two := open(t, br, "http://"+first, wide, high), open(t, br, "http://"+second, 390, 844)
	one.expect = noServer
	one.toBench(demo.Saturday)
	two.visit(eval[string](one, "location.pathname"))
	for i := 2; i < 5; i++ {
		one.on(1)
		from := time.Now()
		two.until("the other process's tap", fmt.Sprintf(step+".startsWith('step %d of')", i))
		if took := time.Since(from); took > time.Second+100*time.Millisecond { // polled each half second, and drawn
			t.Errorf("step %d is seen after %v", i, took)
		}
	}
	rest := "document.querySelector('#bench').dataset.step === 'rest.1'"
	one.on(8)
	one.until("the rest, and all told", rest+" && "+told)
	ends := eval[float64](one, endsAt)
	kill()
	one.until("word that there is no server", "document.querySelector('#unsent').dataset.is === 'away'")
	one.on(2)
	one.until("dividing", "document.querySelector('#bench').dataset.step === 'divide.2'")
	for range 2 {
		eval[bool](one, again+"document.querySelector('#knuckles .btn').click(), true))")
	}
	one.until("the rest again", rest)
	_, _ = program(t, path, dsn, first)
	one.until("all told", told+" && document.querySelector('#unsent').hidden")
	two.until("told to the other, too", rest)
	for name, b := range map[string]*tab{"the one that was killed": one, "the other": two} {
		if off := eval[float64](b, endsAt) - ends; off < -1.5 || off > 1.5 {
			t.Errorf("%s: the clock is off by %.1f s", name, off)
		}
	}
	events, _, err := st.Events(context.Background(), newMade(), 0)
	if err != nil {
		t.Fatal(err)
	}
	count := map[bench.What]int{}
	for _, e := range events {
		count[e.What()]++
	}
	if count["done"] != 13 || count["taken_back"] != 2 {
		t.Errorf("kept %v, made 13 on and 2 back", count)
	}
}
