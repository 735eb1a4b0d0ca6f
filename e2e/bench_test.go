package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"runtime/debug"
	"sort"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/coder/websocket"

	corebench "hollen/internal/core/bench"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/demo/demotest"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
	"hollen/internal/web"
)

// How long a change takes on the page, beside the floor: a bare page on the same server that asks
// for one byte and writes it into one text node. Both take turns, in the same tab size, so that
// what else the machine does hits both alike. ./run bench prints it.
func TestBenchChanges(t *testing.T) {
	if os.Getenv("HOLLEN_BENCH") == "" {
		t.Skip("for ./run bench: times are no test")
	}
	s, _ := demotest.Store(t, demo.Day)
	srv := httptest.NewServer(withFloor(web.New(s, rules.Default(), slog.New(slog.DiscardHandler), web.Access{})))
	t.Cleanup(srv.Close)
	br := browser(t)
	debug.SetGCPercent(web.GCPercent) // as served
	floor := open(t, br, srv.URL, wide, high)
	floor.visit("/floor")
	fmt.Printf("%-10s %9s %9s %12s %9s %7s %9s %8s\n", "a change", "median", "p95", "floor", "p95", "ratio", "answer",
		"fields")
	for _, c := range []struct{ at, field string }{{"today", "amount-portions"},
		{"formula", "amount-flour_g"}, {"room", "room-rh"}, {"knead",
			"knead-knead_min"},
		{"rest", "rest-rest_min"}, {"roll", "roll-target_mm"}, {"cut", "cut-nest_g"}, {"cook", "bench-pot_l"}} {
		b := open(t, br, srv.URL, wide, high)
		if c.at == "today" {
			b.visit("/")
		} else {
			b.visit(batch(demo.Saturday) + "?at=" + c.at)
		}
		cost := eval[[]float64](b, fmt.Sprintf(costRun, c.field)) // the first change is asked by request
		var page, bare []float64
		for range 10 {
			bare = append(bare, eval[[]float64](floor, floorRun)...)
			page = append(page, eval[[]float64](b, fmt.Sprintf(changeRun, c.field))...)
		}
		sort.Float64s(page)
		sort.Float64s(bare)
		fmt.Printf("%-10s %6.0f ms %6.0f ms %9.0f ms %6.0f ms %7.2f %6.0f kB %8.0f\n", c.at, page[50], page[95],
			bare[50], bare[95], page[95]/bare[95],
			cost[0]/1000, cost[1])
	}
}

// pause waits a while that has nothing to do with frames, as a hand does between two taps.
const pause = `const pause = () => new Promise((done) => setTimeout(done, 40 + 40 * Math.random()));`

// drawn calls back when the frame that comes next has been drawn, with the time.
const drawn = `const drawn = (done) => requestAnimationFrame(() => {
		const after = new MessageChannel();
		after.port1.onmessage = () => done(performance.now());
		after.port2.postMessage(0);
	});`

// changeRun steps a field to and fro ten times and returns the times until the sheet has changed
// and been drawn, ms.
const changeRun = `(async () => {
	` + drawn + pause + `
	const field = document.getElementById("f-%s"), out = [];
	const sheet = document.getElementById("sheet") ?? document.getElementById("answer");
	for (let i = 0; i < 10; i++) {
		await pause();
		const changed = new Promise((done) => new MutationObserver((_, o) => { o.disconnect(); drawn(done); })
			.observe(sheet, { childList: true, characterData: true, subtree: true, attributes: true }));
		const from = performance.now();
		field.parentElement.parentElement.querySelector("[data-step='" + (i %% 2 ? -1 : 1) + "']").click();
		out.push((await changed) - from);
	}
	return out;
})()`

// costRun steps a field once and returns what the answer to that takes, bytes, and how many fields
// of the form had their values written.
const costRun = `(async () => {
	const field = document.getElementById("f-%s"), { fetch } = window, out = [0, 0];
	const value = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, "value");
	const asked = new Promise((done) => window.fetch = async (...about) => {
		const answer = await fetch(...about), { text } = { text: answer.text.bind(answer) };
		answer.text = async () => {
			const body = await text();
			out[0] = body.length;
			setTimeout(done, 100);
			return body;
		};
		return answer;
	});
	field.parentElement.parentElement.querySelector("[data-step='1']").click();
	Object.defineProperty(HTMLInputElement.prototype, "value", { ...value, set(v) { out[1]++; value.set.call(this, v); } });
	await asked;
	Object.defineProperty(HTMLInputElement.prototype, "value", value);
	window.fetch = fetch;
	return out;
})()`

// floorRun asks for one byte ten times, writes it, and returns the times until that is drawn, ms.
const floorRun = `(async () => {
	` + drawn + pause + `
	const node = document.getElementById("one").firstChild, out = [];
	for (let i = 0; i < 10; i++) {
		await pause();
		const changed = new Promise((done) => new MutationObserver((_, o) => { o.disconnect(); drawn(done); })
			.observe(node, { characterData: true }));
		const from = performance.now();
		node.data = (await (await fetch("/floor", { method: "POST", body: "x" })).text()) + i;
		out.push((await changed) - from);
	}
	return out;
})()`

// withFloor serves the bare page beside h.
func withFloor(h http.Handler) http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /floor", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		fmt.Fprint(w, `<!doctype html><title>Floor</title><link rel="icon" href="data:,"><p id="one">1</p>`)
	})
	mux.HandleFunc("POST /floor", func(w http.ResponseWriter, _ *http.Request) { fmt.Fprint(w, "1") })
	mux.Handle("/", h)
	return mux
}

// How long a tap at the bench takes until the next step is drawn, and what twenty screens on ten makings cost the
// server while
// each taps once in five seconds. ./run bench prints it.
func TestBenchTaps(t *testing.T) {
	if os.Getenv("HOLLEN_BENCH") == "" {
		t.Skip("for ./run bench: times are no test")
	}
	base, s := serve(t)
	debug.SetGCPercent(web.GCPercent)
	b := open(t, browser(t), base, wide, high)
	b.toBench(demo.Saturday)
	times := eval[[]float64](b, `(async () => {
		`+drawn+`
		const out = [];
		for (let i = 0; i < 60; i++) {
			await new Promise((done) => setTimeout(done, 420 + 60 * Math.random()));
			const changed = new Promise((done) => new MutationObserver((_, o) => { o.disconnect(); drawn(done); }).observe(document.getElementById("count"),
				{ childList: true, characterData: true, subtree: true }));
			const from = performance.now();
			document.querySelector("`+onward+`").click();
			out.push((await changed) - from);
		}
		return out;
	})()`)
	sort.Float64s(times)
	fmt.Printf("tap to next step  median %.0f ms, p95 %.0f ms\n", times[30], times[57])

	ctx, stop := context.WithCancel(context.Background())
	defer stop()
	bt, err := s.Get(ctx, demo.Number(demo.Saturday))
	if err != nil {
		t.Fatal(err)
	}
	m := store.Making{Request: store.BegunDocument{Document: bt.Request}}
	m.Rules.Rules = rules.Default()
	p, err := m.Plan()
	if err != nil {
		t.Fatal(err)
	}
	steps := corebench.Steps(p)
	for range 10 {
		m, err := s.Begin(ctx, bt, p, storetest.Now())
		if err != nil {
			t.Fatal(err)
		}
		for screen := range 2 {
			conn, _, err := websocket.Dial(ctx, strings.Replace(base, "http", "ws", 1)+fmt.Sprintf("/bench/%d/line",
				m.ID), nil)
			if err != nil {
				t.Fatal(err)
			}
			conn.SetReadLimit(1 << 20)
			go func() {
				for {
					if _, _, err := conn.Read(ctx); err != nil {
						return
					}
				}
			}()
			go func() {
				for i := range steps {
					e := corebench.Event{ID: fmt.Sprintf("s%d-%d", screen, i), At: storetest.Now(),
						Says: corebench.Done{Step: steps[i].Key}}
					doc, _ := json.Marshal(map[string]any{"events": []corebench.Event{e}})
					if conn.Write(ctx, websocket.MessageText, doc) != nil {
						return
					}
					time.Sleep(5 * time.Second)
				}
			}()
		}
	}
	time.Sleep(2 * time.Second)
	used := func() time.Duration {
		var u syscall.Rusage
		if err := syscall.Getrusage(syscall.RUSAGE_SELF, &u); err != nil {
			t.Fatal(err)
		}
		return time.Duration(u.Utime.Nano() + u.Stime.Nano())
	}
	before, from := used(), time.Now()
	time.Sleep(20 * time.Second)
	fmt.Printf("20 screens on 10 makings  %.1f %% of a core\n", 100*(used()-before).Seconds()/time.Since(
		from).Seconds())
}

// How far a clock on the screen is from the server's after half an hour, or as many minutes as HOLLEN_DRIFT_MIN says:
// by the moments at
// which a second goes, seen from outside the browser. ./run bench prints it.
func TestBenchDrift(t *testing.T) {
	if os.Getenv("HOLLEN_BENCH") == "" {
		t.Skip("for ./run bench: it takes half an hour")
	}
	minutes := 30.
	if v, err := strconv.ParseFloat(os.Getenv("HOLLEN_DRIFT_MIN"), 64); err == nil {
		minutes = v
	}
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.expect = []string{"navigator.vibrate"} // nobody has tapped
	b.visit("/bench/2")
	b.until("the clock", "/^\\d+:\\d\\d$/.test(document.querySelector('#face')?.textContent)")
	time.Sleep(5 * time.Second) // its offset from the server's clock is measured
	goes := func() (shown float64, at time.Time) {
		for was := b.text("#face"); b.text("#face") == was; {
		}
		at = time.Now()
		var m, s float64
		fmt.Sscanf(b.text("#face"), "%f:%f", &m, &s)
		shown = 60*m + s
		if eval[bool](b, "document.querySelector('#face').classList.contains('over')") {
			shown = -shown
		}
		return shown, at
	}
	first, from := goes()
	time.Sleep(time.Duration(minutes * float64(time.Minute)))
	last, to := goes()
	fmt.Printf("drift of a clock over %.0f min  %+.2f s\n", to.Sub(from).Minutes(), (first-last)-to.Sub(from).Seconds())
}
