package e2e

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	benchroom "hollen/internal/web/bench"
	"hollen/internal/web/static"
)

// A screen without the server says of a making what the core says: from any state the server told last, with any taps
// since, which step is on, what was noted at each, which clocks run and how long, and what is taken back next.
func TestAScreenFoldsAsTheCoreDoes(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, 1280, 800)
	b.visit("/bench/2")
	module := eval[string](b, `document.querySelector('script[type=module]').src.replace(/[^/]*$/, "fold.js")`)
	eval[bool](b, fmt.Sprintf("import(%q).then((m) => { window.fold = m.folded; return true; })", module))
	p, err := plan.Make(rules.Default(), demo.Batch(demo.Saturday))
	if err != nil {
		t.Fatal(err)
	}
	began := time.Date(2026, 11, 28, 9, 0, 0, 0, time.UTC)
	rng := rand.New(rand.NewPCG(29, 4))
	kinds := map[bench.What]int{}
	for n := range 70 {
		all := tapped(rng, p, began, 5+rng.IntN(60), n%2 == 1)
		k := rng.IntN(len(all) + 1)
		was, is := bench.Run(p, began, all[:k]), bench.Run(p, began, all)
		doc, err := json.Marshal(map[string]any{"state": toldOf(&was), "steps": was.Steps, "local": all[k:]})
		if err != nil {
			t.Fatal(err)
		}
		var got screenState
		out := eval[string](b, fmt.Sprintf("JSON.stringify((({ state, steps, local }) => fold(state, steps, "+
			"local))(%s))",
			doc))
		if err := json.Unmarshal([]byte(out), &got); err != nil {
			t.Fatal(err)
		}
		for _, e := range all[k:] {
			kinds[e.What()]++
		}
		if words := got.differs(&is); words != "" {
			t.Fatalf("%d, after %d of %d taps: %s; the last %v", n, k, len(all), words, all[max(0, len(all)-3):])
		}
	}
	for _, what := range []bench.What{"done", "skipped", "taken_back", "paused", "resumed", "minutes", "clock",
		"unclock",
		"put_in", "last_stop", "weighed", "poked", "looked", "flexed", "window", "measured", "made", "dried",
		"shrunk"} {
		if kinds[what] < 5 {
			t.Errorf("%s was tapped %d times: it shows little", what, kinds[what])
		}
	}
}

// screenState is what a screen makes of it.
type screenState struct {
	Steps  []struct{ Key string }
	Done   []benchroom.DoneStep
	Clocks []benchroom.Clock
	Last   string
	At     int
}

// toldOf is a making as the server tells a screen.
func toldOf(m *bench.Making) map[string]any {
	done, clocks := []benchroom.DoneStep{}, []benchroom.Clock{}
	for _, s := range m.Steps {
		done = append(done, benchroom.StepTold(m.State.Steps[s.Key]))
	}
	for _, c := range m.State.Clocks {
		clocks = append(clocks, benchroom.ClockTold(c))
	}
	return map[string]any{"done": done, "clocks": clocks, "went": m.State.Closed, "began": m.State.Began.UnixMilli(),
		"ended": m.State.EndedBy}
}

// differs says where a screen has it otherwise than the core; what was noted of a step nobody has begun is not shown.
func (s *screenState) differs(m *bench.Making) string {
	if s.At != m.State.Now || s.Last != m.State.Last() {
		return fmt.Sprintf("step %d is on, %d in the core; back takes %s, %s in the core", s.At, m.State.Now, s.Last,
			m.State.Last())
	}
	i := 0
	for _, x := range s.Steps {
		if s.Done[i].Status == "unknown" {
			i++
			continue
		}
		want := benchroom.StepTold(m.State.Steps[x.Key])
		got := s.Done[i]
		i++
		if want.Status == "to_do" {
			want.Began = 0
			got.Began = 0
		}
		if got != want && !near(got, want) {
			return fmt.Sprintf("%s: %+v, in the core %+v", x.Key, got, want)
		}
	}
	if len(s.Clocks) != len(m.State.Clocks) {
		return fmt.Sprintf("clocks %+v, in the core %+v", s.Clocks, m.State.Clocks)
	}
	for i, c := range m.State.Clocks {
		got, want := s.Clocks[i], benchroom.ClockTold(c)
		if math.Abs(got.PausedS-want.PausedS) < 1e-6 {
			got.PausedS = want.PausedS
		}
		if math.Abs(got.LengthS-want.LengthS) < 1e-6 || want.Step != "" { // a plan made again moves its minutes
			got.LengthS = want.LengthS
		}
		if got.Name = want.Name; got != want {
			return fmt.Sprintf("clock %+v, in the core %+v", got, want)
		}
	}
	return ""
}

// near says whether two steps are alike but for the last digits.
func near(a, b benchroom.DoneStep) bool {
	for _, v := range [][2]*float64{{&a.PausedS, &b.PausedS}, {&a.MM, &b.MM}, {&a.Loss, &b.Loss}, {&a.Shrunk,
		&b.Shrunk},
		{&a.MadeG, &b.MadeG}} {
		if math.Abs(*v[0]-*v[1]) < 1e-6 {
			*v[0] = *v[1]
		}
	}
	return a == b
}

// tapped are so many taps as hands make them: on and back, clocks, tries, steps put in, in the order of time.
// Rolling begins them where the dough is ready to be rolled.
func tapped(rng *rand.Rand, p *plan.Plan, began time.Time, n int, rolling bool) []bench.Event {
	var out []bench.Event
	at := began
	for i, s := range bench.Steps(p) {
		if !rolling || s.Kind == bench.Pass {
			break
		}
		at = at.Add(time.Minute)
		out = append(out, bench.Event{ID: fmt.Sprintf("b%03d", i), At: at, Says: bench.Done{Step: s.Key}})
	}
	for i := range n {
		at = at.Add(time.Duration(1+rng.IntN(240_000)) * time.Millisecond).Truncate(time.Millisecond)
		m := bench.Run(p, began, out)
		if m.State.Now >= len(m.Steps) {
			break
		}
		e := bench.Event{ID: fmt.Sprintf("t%03d", i), At: at, Says: tap(rng, &m)}
		if e.Says != nil {
			out = append(out, e)
		}
	}
	return out
}

// tap is one of them, nil where there is nothing to tap.
func tap(rng *rand.Rand, m *bench.Making) bench.Said {
	on := m.Steps[m.State.Now]
	var own []bench.Clock
	for _, c := range m.State.Clocks {
		if c.Step == "" {
			own = append(own, c)
		}
	}
	pick := func() string { return own[rng.IntN(len(own))].ID }
	switch rng.IntN(26) {
	case 0:
		return bench.Skipped{Step: on.Key}
	case 1, 2:
		// whether a step was paused as it was closed the core alone knows
		if w := m.State.Closed; len(w) > 0 && m.State.Steps[w[len(w)-1].Step].PausedS == 0 {
			return bench.TakenBack{Of: w[len(w)-1].ID}
		}
	case 3:
		return bench.Paused{Step: on.Key}
	case 4:
		return bench.Resumed{Step: on.Key}
	case 5:
		return bench.MoreMin{Step: on.Key, Min: []float64{-2, 1, 5}[rng.IntN(3)]}
	case 6:
		return bench.ClockSet{Name: "Sauce", Min: float64(1 + rng.IntN(40))}
	case 7:
		if len(own) > 0 {
			return bench.ClockPutAway{Clock: pick()}
		}
	case 8:
		if len(own) > 0 {
			return bench.MoreMin{Clock: pick(), Min: -2}
		}
	case 9:
		return bench.PutIn{Before: on.Key, Kind: bench.OwnKnead, Text: "Knead on", Min: 3}
	case 10:
		if on.Kind == bench.Pass && on.Pass < on.Passes {
			return bench.LastStop{Step: on.Key}
		}
	case 11:
		return bench.Weighed{Step: on.Key, G: float64(rng.IntN(900)), Scale: true}
	case 12:
		return bench.Poked{Step: on.Key, S: 3.5}
	case 13:
		return bench.Looked{Step: on.Key, Look: bench.Looks[rng.IntN(3)]}
	case 14:
		return bench.Flexed{Step: on.Key, Bends: "yes"}
	case 15:
		return bench.Stretched{Step: on.Key, Shines: "no"}
	case 16:
		return []bench.Said{bench.Measured{Step: on.Key, MM: 1.2}, bench.Measured{Step: on.Key, Leaves: 14},
			bench.Measured{Step: on.Key, SquareG: 11}}[rng.IntN(3)]
	case 17:
		return bench.Made{Step: on.Key, N: 1 + rng.IntN(3), G: 120}
	case 18:
		return bench.Dried{Step: on.Key, G: 90, RawG: 100}
	case 19:
		return bench.Shrunk{Step: on.Key, MM: 290, CutMM: 300}
	}
	return bench.Done{Step: on.Key}
}

// The bench tells ounces as every page does.
func TestOuncesAtTheBench(t *testing.T) {
	t.Parallel()
	base, _ := serve(t)
	b := open(t, browser(t), base, wide, high)
	b.visit("/")
	module := base + static.Base + "js/bench/quantity.js"
	eval[bool](b, fmt.Sprintf("import(%q).then((m) => { window.inOunces = m.inOunces; return true; })", module))
	for _, g := range []float64{0, .5, 3, 9.9, 10, 28.35, 200, 282.7, 283, 452, 453.5, 453.592,
		500, 906, 907.2, 1250, 9071.8} {
		want := measure.Customary.Grams(g)
		if got := eval[string](b, fmt.Sprintf("window.inOunces(%g).join(' ')", g)); got != want {
			t.Errorf("%g g is %q at the bench, %q elsewhere", g, got, want)
		}
	}
}
