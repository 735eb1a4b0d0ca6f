package bench

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

var began = time.Date(2026, 11, 28, 9, 0, 0, 0, time.UTC)

func at(minutes float64) time.Time { return began.Add(time.Duration(minutes * float64(time.Minute))) }

func made(t testing.TB, change func(r *request.Request)) *plan.Plan {
	t.Helper()
	r := request.Default()
	if change != nil {
		change(&r)
	}
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

// done are the events of going on through the first n steps, each taking so many minutes.
func done(steps []Step, n int, minutes float64) (out []Event) {
	for i := range n {
		out = append(out, Event{ID: fmt.Sprintf("d%03d", i), At: at(minutes * float64(i+1)),
			Says: Done{Step: steps[i].Key}})
	}
	return out
}

// random are n events of every kind that might have come from any hand, some of them twice, some taken back.
func random(rng *rand.Rand, steps []Step, n int) (out []Event) {
	for i := range n {
		of := "nothing"
		if len(out) > 0 {
			of = out[rng.IntN(len(out))].ID
		}
		doc := map[string]any{"id": fmt.Sprintf("e%d", i), "at": at(rng.Float64() * 200),
			"what": EventKinds[rng.IntN(len(EventKinds))].What, "step": steps[rng.IntN(len(steps))].Key,
			"g": math.Round(rng.Float64() * 900), "min": math.Round(rng.Float64()*30 - 5), "s": 1 + rng.Float64()*8,
			"mm": .3 + rng.Float64(), "n": rng.IntN(5) - 2, "text": "right", "of": of}
		switch rng.IntN(8) {
		case 0, 1:
			doc["what"] = Done{}.what()
		case 2:
			doc["what"] = TakenBack{}.what()
		}
		b, err := json.Marshal(doc)
		if err != nil {
			panic(err)
		}
		var e Event
		if err := json.Unmarshal(b, &e); err != nil {
			panic(err)
		}
		out = append(out, e)
		if rng.IntN(6) == 0 {
			out = append(out, e) // sent twice
		}
	}
	return out
}

func same(t *testing.T, what string, a, b State) {
	t.Helper()
	if !reflect.DeepEqual(a, b) {
		x, _ := json.Marshal(a)
		y, _ := json.Marshal(b)
		t.Fatalf("%s: another state\n%.600s\n%.600s", what, x, y)
	}
}

// Whatever the order of arrival, however often an event comes, and wherever a restart falls between: one state.
func TestFoldIsTheSame(t *testing.T) {
	steps := Steps(made(t, nil))
	rng := rand.New(rand.NewPCG(14, 1))
	for range 400 {
		events := random(rng, steps, 1+rng.IntN(60))
		want := Fold(steps, began, events)
		mixed := append([]Event{}, events...)
		rng.Shuffle(len(mixed), func(i, j int) { mixed[i], mixed[j] = mixed[j], mixed[i] })
		same(t, "in another order", want, Fold(steps, began, mixed))
		same(t, "all twice", want, Fold(steps, began, append(append([]Event{}, mixed...), events...)))
		kept, err := json.Marshal(mixed) // a restart: read again from where they are kept
		if err != nil {
			t.Fatal(err)
		}
		var again []Event
		if err := json.Unmarshal(kept, &again); err != nil {
			t.Fatal(err)
		}
		same(t, "after a restart", want, Fold(steps, began, again))
	}
}

// What is taken back and done again is as if it had been done once; taken back twice by two screens, it is taken back
// once.
func TestTakenBack(t *testing.T) {
	steps := Steps(made(t, nil))
	events := done(steps, 9, 1)
	whole := Fold(steps, began, events)
	last := events[8]
	back := Event{ID: "b1", At: at(9.5), Says: TakenBack{Of: last.ID}}
	other := Event{ID: "b2", At: at(9.6), Says: TakenBack{Of: last.ID}}
	less := Fold(steps, began, events[:8])
	same(t, "taken back", less, Fold(steps, began, append(append([]Event{}, events...), back)))
	same(t, "by two screens", less, Fold(steps, began, append(append([]Event{}, events...), other, back)))
	again := last
	again.ID = "again"
	redone := Fold(steps, began, append(append([]Event{}, events...), back, again))
	redone.Closed = whole.Closed
	same(t, "done again", whole, redone)
	unback := Event{ID: "b3", At: at(9.7), Says: TakenBack{Of: "b1"}}
	same(t, "the taking back taken back", whole, Fold(steps, began, append(append([]Event{}, events...), back, unback)))
}

// Clocks: a pause stops one, minutes move it, it counts on over its end, and one's own run beside it.
func TestClocks(t *testing.T) {
	steps := Steps(made(t, nil))
	knead := -1
	for i, s := range steps {
		if s.Key == "knead.1" {
			knead = i
		}
	}
	events := done(steps, knead, 1)
	start := float64(knead)
	length := steps[knead].Min
	clock := func(more ...Event) *Clock {
		s := Fold(steps, began, append(append([]Event{}, events...), more...))
		for i := range s.Clocks {
			if s.Clocks[i].Step == "knead.1" {
				return &s.Clocks[i]
			}
		}
		t.Fatal("no clock for kneading")
		return nil
	}
	near := func(what string, got, want float64) {
		t.Helper()
		if math.Abs(got-want) > .001 {
			t.Errorf("%s: %.3f s left, want %.3f", what, got, want)
		}
	}
	key := "knead.1"
	near("as it starts", clock().LeftS(at(start)), 60*length)
	near("two minutes on", clock().LeftS(at(start+2)), 60*(length-2))
	near("over", clock().LeftS(at(start+length+2.5)), -150)
	pause := Event{ID: "p", At: at(start + 1), Says: Paused{Step: key}}
	near("paused", clock(pause).LeftS(at(start+5)), 60*(length-1))
	resume := Event{ID: "r", At: at(start + 4), Says: Resumed{Step: key}}
	near("resumed", clock(pause, resume).LeftS(at(start+5)), 60*(length-2))
	near("a minute more", clock(Event{ID: "m", At: at(start + 1), Says: MoreMin{Step: key, Min: 1}}).LeftS(at(start+2)),
		60*(length-1))
	near("no less than nothing", clock(Event{ID: "m", At: at(start +
		1), Says: MoreMin{Step: key, Min: -500}}).LeftS(at(start)), 0)
	s := Fold(steps, began, append(append([]Event{}, events...), Event{ID: "own", At: at(start),
		Says: ClockSet{Name: "sauce", Min: 20}},
		Event{ID: "more", At: at(start + 1), Says: MoreMin{Clock: "own", Min: 5}}))
	if len(s.Clocks) != 2 || s.Clocks[1].Name != "sauce" || s.Clocks[1].LengthS != 1500 {
		t.Errorf("clocks %+v", s.Clocks)
	}
	s = Fold(steps, began, append(append([]Event{}, events...), Event{ID: "own", At: at(start),
		Says: ClockSet{Name: "sauce", Min: 20}},
		Event{ID: "off", At: at(start + 1), Says: ClockPutAway{Clock: "own"}}))
	if len(s.Clocks) != 1 {
		t.Errorf("put away, and still there: %+v", s.Clocks)
	}
}

// Two makers at once: what the one pauses, the other's Done ends; nothing is counted twice.
func TestPausedAndDone(t *testing.T) {
	steps := Steps(made(t, nil))
	key := steps[0].Key
	s := Fold(steps, began, []Event{{ID: "p", At: at(1), Says: Paused{Step: key}}, {ID: "d", At: at(3),
		Says: Done{Step: key}}, {ID: "e", At: at(4), Says: Done{Step: key}}})
	if p := s.Steps[key]; p.Took() != 1 || s.Now != 1 {
		t.Errorf("took %g min, now %d", p.Took(), s.Now)
	}
}

// A dough that came out wetter, kneaded for longer, is worked out again: the rest follows, what is done stays.
func TestRealityLeads(t *testing.T) {
	p := made(t, func(r *request.Request) { r.Amount.FlourG, r.Amount.By = 1000, request.ByFlour })
	m := Run(p, began, nil)
	if m.Change != "" || m.Ahead != p {
		t.Errorf("nothing has happened, and %q", m.Change)
	}
	var events []Event
	now := 0.
	for _, s := range m.Steps {
		if s.Kind == Wait {
			break
		}
		now += max(.2, s.Min)
		if s.Key == "weigh.eggs" {
			events = append(events, Event{ID: "w", At: at(now - .1), Says: Weighed{Step: s.Key, G: s.WantG + 40}})
		}
		if s.Key == "knead.1" {
			now += 14
		}
		events = append(events, Event{ID: "d" + s.Key, At: at(now), Says: Done{Step: s.Key}})
	}
	after := Run(p, began, events)
	if after.Ahead == p || !strings.Contains(after.Change, "wetter") || !strings.Contains(after.Change, "rest") {
		t.Errorf("said %q", after.Change)
	}
	if after.Ahead.Formula.Dough.Hw <= p.Formula.Dough.Hw {
		t.Error("40 g of egg more is no wetter")
	}
	for i, s := range after.Steps {
		if st := after.State.Steps[s.Key].Status; st == WasDone && !reflect.DeepEqual(s, m.Steps[i]) {
			t.Errorf("%s is done, and has changed", s.Key)
		}
	}
	// As planned to the gram and the minute, nothing is otherwise.
	events = nil
	now = 0
	for _, s := range m.Steps {
		if s.Kind == Weigh {
			events = append(events, Event{ID: "w" + s.Key, At: at(now), Says: Weighed{Step: s.Key, G: s.WantG}})
		}
		now += s.PlanMin
		events = append(events, Event{ID: "d" + s.Key, At: at(now), Says: Done{Step: s.Key}})
	}
	if same := Run(p, began, events); same.Change != "" || !same.State.All(same.Steps) {
		t.Errorf("as planned, and %q; at step %d of %d", same.Change, same.State.Now, len(same.Steps))
	}
}

func TestCheckOfEvents(t *testing.T) {
	has := func(s string) bool { return s == "knead.1" }
	ok := Event{ID: "a-1", At: began, Says: Done{Step: "knead.1"}}
	if err := ok.Check(has); err != nil {
		t.Error(err)
	}
	said := func(x Said) func(e *Event) { return func(e *Event) { e.Says = x } }
	long := strings.Repeat("x", 401)
	for field, change := range map[string]func(e *Event){
		"id":      func(e *Event) { e.ID = "" },
		"id ":     func(e *Event) { e.ID = strings.Repeat("x", 41) },
		"id  ":    func(e *Event) { e.ID = "<b>" },
		"at":      func(e *Event) { e.At = time.Time{} },
		"by":      func(e *Event) { e.By = long },
		"step":    said(Done{Step: "knead.9"}),
		"step ":   said(MoreMin{Step: "knead.9", Min: 1}),
		"step  ":  said(PutIn{Before: "knead.9", Kind: OwnStep, Text: "x"}),
		"what":    said(strange{Kind: "danced"}),
		"what ":   said(nil),
		"what  ":  said(Damaged{}),
		"g":       said(Weighed{Step: "knead.1", G: -1}),
		"g ":      said(Weighed{Step: "knead.1", G: math.NaN()}),
		"g  ":     said(Dried{Step: "knead.1", G: 90, RawG: 80}),
		"from_g":  said(Dried{Step: "knead.1", G: 90, RawG: 1e9}),
		"min":     said(MoreMin{Step: "knead.1"}),
		"min ":    said(MoreMin{Step: "knead.1", Min: 1e9}),
		"min  ":   said(ClockSet{Name: "sauce"}),
		"min   ":  said(PutIn{Kind: OwnRest, Text: "x"}),
		"s":       said(Poked{Step: "knead.1"}),
		"s ":      said(Poked{Step: "knead.1", S: 61}),
		"mm":      said(Measured{Step: "knead.1", MM: .1}),
		"mm ":     said(Shrunk{Step: "knead.1", CutMM: 100, MM: 60}),
		"n":       said(Felt{Word: 3}),
		"n ":      said(Made{Step: "knead.1"}),
		"n  ":     said(Shaped{Shape: "ravioli"}),
		"n   ":    said(PutIn{Kind: OwnPass, Text: "3"}),
		"text":    said(Noted{Text: " "}),
		"text ":   said(Noted{Text: long}),
		"text  ":  said(Looked{Step: "knead.1", Look: "lovely"}),
		"text   ": said(Ended{How: ThrownAway}),
		"text\t":  said(Flexed{Step: "knead.1", Bends: "perhaps"}),
		"of":      said(TakenBack{Of: "a-1"}),
		"of ":     said(Named{What: "cat", Name: "Mog"}),
		"of  ":    said(Left{What: "flour", Into: KneadedIn}),
		"of   ":   said(PutBy{What: PutByDough, Place: "cellar"}),
		"of\t":    said(Ended{How: "eaten"}),
		"of\t ":   said(ClockPutAway{}),
	} {
		e := ok
		change(&e)
		if err := e.Check(has); err == nil || !strings.HasPrefix(err.Error(), strings.TrimSpace(field)+": ") {
			t.Errorf("%s: %v", field, err)
		}
	}
}

// Every kind of event is read and written as one flat object, and stands in the documents; one that is not known comes
// back as it was.
func TestKindsOfEvents(t *testing.T) {
	formats, err := os.ReadFile("../../../docs/formats.md")
	if err != nil {
		t.Fatal(err)
	}
	for _, what := range declared(t) {
		if !slices.ContainsFunc(EventKinds, func(k EventKind) bool { return k.What == what }) {
			t.Errorf("%s has a type and no line in EventKinds", what)
		}
	}
	seen := map[What]bool{}
	for _, k := range append(slices.Clone(EventKinds), EventKind{What: "danced"}) {
		if seen[k.What] {
			t.Errorf("%s is two kinds", k.What)
		}
		seen[k.What] = true
		doc := fmt.Sprintf(`{"id":"a","what":%q,"at":"2026-11-28T09:00:00Z","by":"Linde","step":"cut.1","of":"b",`+
			`"g":2,"min":3,"s":4,`+
			`"mm":5,"n":6,"text":"yes","sign":"sticks","from_g":7,"from_mm":8,"scale":true}`, k.What)
		var e, again Event
		if err := json.Unmarshal([]byte(doc), &e); err != nil || e.What() != k.What || e.By != "Linde" {
			t.Errorf("%s: %v, %v", k.What, e, err)
		}
		out, err := json.Marshal(e)
		if err != nil || !strings.HasPrefix(string(out), fmt.Sprintf(`{"id":"a","what":%q,"at":`, k.What)) {
			t.Errorf("%s: %s, %v", k.What, out, err)
		}
		if err := json.Unmarshal(out, &again); err != nil || k.Doc != "" && !reflect.DeepEqual(e, again) {
			t.Errorf("%s: %v, then %v, %v", k.What, e, again, err)
		}
		if line := fmt.Sprintf("| `%s` | %s |\n", k.What, k.Doc); k.Doc != "" && !strings.Contains(string(formats),
			line) {
			t.Errorf("docs/formats.md has no line %s", line)
		}
		if k.Doc == "" && !strings.Contains(string(out), `"sign":"sticks"`) {
			t.Errorf("of a kind that is not known is left: %s", out)
		}
	}
}

// declared are the kinds this package has types for.
func declared(t *testing.T) (out []What) {
	t.Helper()
	files, err := filepath.Glob("kinds_*.go")
	if err != nil || len(files) == 0 {
		t.Fatal(err)
	}
	for _, f := range files {
		text, err := os.ReadFile(f)
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range regexp.MustCompile(`\) what\(\) What +\{ return "(\w+)" \}`).FindAllSubmatch(text, -1) {
			out = append(out, What(m[1]))
		}
	}
	if len(out) < 30 {
		t.Fatalf("%d kinds are found", len(out))
	}
	return out
}

// No event, however strange, breaks a making.
func FuzzRun(f *testing.F) {
	p := made(f, nil)
	steps := Steps(p)
	f.Add([]byte(`[{"id":"a","what":"done","step":"set_out","at":"2026-11-28T09:01:00Z"},{"id":"b","what":"taken_back","of":"a","at":"2026-11-28T09:02:00Z"}]`))
	f.Add([]byte(`[{"id":"a","what":"taken_back","of":"b"},{"id":"b","what":"taken_back","of":"a"}]`))
	f.Add([]byte(`[{"id":"w","what":"weighed","step":"weigh.eggs","g":1e300},{"id":"d","what":"done","step":"weigh.eggs"}]`))
	f.Add([]byte(`[{"id":"w","what":"weighed","step":"weigh.flour.1","g":0.001},{"id":"d","what":"done","step":"weigh.flour.1"},
		{"what":"left","text":"flour","g":99999}]`))
	f.Fuzz(func(t *testing.T, doc []byte) {
		var events []Event
		if json.Unmarshal(doc, &events) != nil || len(events) > 50 {
			return
		}
		m := Run(p, began, events)
		if m.State.Now < 0 || m.State.Now > len(steps) {
			t.Fatalf("at step %d of %d", m.State.Now, len(steps))
		}
		for _, c := range m.State.Clocks {
			if v := c.LeftS(began.Add(time.Hour)); math.IsNaN(v) {
				t.Fatalf("%+v", c)
			}
		}
		if _, err := json.Marshal(m.State); err != nil {
			t.Fatal(err)
		}
	})
}

// A bowl that takes less than the batch is weighed load by load, and what lay on the scale is added up.
func TestWeighedLoadByLoad(t *testing.T) {
	r := request.Default()
	hook := 3000.
	r.Amount.By, r.Amount.FlourG, r.Knead.School, r.Bench.HookG = request.ByFlour, 5520, "hook", &hook
	p, err := plan.Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	n, flour, eggs := p.BowlLoads(), 0., 0.
	var events []Event
	for _, s := range Steps(p) {
		if strings.HasPrefix(s.Key, "weigh.flour.1") {
			flour += s.WantG
			events = append(events, Event{ID: "w" + s.Key, At: began, Says: Weighed{Step: s.Key, G: s.WantG + 50}},
				Event{ID: "d" + s.Key, At: began, Says: Done{Step: s.Key}})
			if s.WantG > hook {
				t.Errorf("%s: %v g into a bowl of %v", s.Head, s.WantG, hook)
			}
		}
		if strings.HasPrefix(s.Key, "weigh.eggs") {
			eggs += s.WantG
		}
	}
	if math.Abs(flour-5520) > float64(n) || math.Abs(eggs-p.Formula.Pick.EggG) > float64(n) {
		t.Errorf("%d loads: %v g of flour, %v g of egg", n, flour, eggs)
	}
	if m := Run(p, began, events); math.Abs(m.Ahead.Formula.FlourG-5520-50*float64(n)) > float64(n) {
		t.Errorf("%v g went in", m.Ahead.Formula.FlourG)
	}
}

// A batch of several shapes has a turn in the pot for each, with its own loads, clock and name, the thinnest last; what
// is raw inside is not
// timed by taste, and what was tasted of it teaches nothing. Its filling is made before anything is weighed for the
// dough.
func TestPotTurnByTurn(t *testing.T) {
	p := made(t, func(r *request.Request) {
		r.Amount.Portions, r.Cut.Shape = 14, "tortellini"
		r.Cut.Filling = request.Filling{Name: "pork", Kind: request.FillingMeat, Allergens: "none"}
		r.Cut.Also = []request.ShapePart{{Shape: "tagliolini", Portions: 4}, {Shape: "orecchiette", Portions: 3}}
	})
	steps := Steps(p)
	var heads []string
	for _, s := range steps {
		if s.Kind != Pot {
			continue
		}
		heads = append(heads, s.Head)
		if raw := s.Part == 0; s.Through != raw || strings.Contains(strings.ToLower(s.Say), "taste") == raw {
			t.Errorf("%s, %v min, raw inside %v: %q", s.Head, s.Min, s.Through, s.Say)
		}
	}
	if got := strings.Join(heads, "; "); !strings.Contains(got, "Tortellini into the pot: load 1 of 2; Tortellini "+
		"into the pot: load 2 of 2") || !strings.HasSuffix(got, "Tagliolini into the pot") {
		t.Errorf("into the pot: %s", got)
	}
	if steps[1].Key != plan.FillingStep || steps[1].Much != p.In().Grams(p.Cut.FillTotalG) || steps[1].Then == nil ||
		steps[2].Kind != Weigh {
		t.Errorf("after washing: %+v", steps[1])
	}

	raw := made(t, func(r *request.Request) {
		r.Cut.Shape, r.Cut.Filling = "ravioli", request.Filling{Name: "pork", Kind: request.FillingMeat,
			Allergens: "none"}
	})
	var events []Event
	now := 0.
	for i, s := range Steps(raw) {
		now++
		if s.Kind == Pot {
			events = append(events, Event{ID: fmt.Sprint("l", i), At: at(now - .5), Says: Looked{Step: s.Key,
				Look: "right"}})
		}
		events = append(events, Event{ID: fmt.Sprint("d", i), At: at(now), Says: Done{Step: s.Key}})
	}
	m := Run(raw, began, append(events, Event{ID: "e", At: at(now + 1), Says: Ended{}}))
	if b := m.Summary(events).Evidence; len(b.Cook) > 0 {
		t.Errorf("a raw filling tasted at half a minute teaches %+v", b.Cook)
	}
}

// An ending says what came out, or nothing of it, or that it was thrown away; endings of before with nothing said were
// not weighed.
func TestEndings(t *testing.T) {
	p := made(t, func(*request.Request) {})
	for _, c := range []struct {
		end  Ended
		says string
	}{{Ended{}, "not weighed, "}, {Ended{G: 470}, "470 g came out"}, {Ended{How: OutWeighed}, "nothing came out"},
		{Ended{How: OutWeighed, G: 30, N: 2}, "30 g came out, 2 pieces"},
		{Ended{How: ThrownAway, Text: "sour", G: 12}, "thrown away, 12 g: sour"}, {Ended{How: ThrownAway, Text: "sour"},
			"thrown away, " + p.In().Grams(p.Cut.AllMadeG) + ": sour"}} {
		end := Event{ID: "e", At: at(60), Says: c.end}
		if err := end.Check(func(string) bool { return true }); err != nil {
			t.Errorf("%+v: %v", end, err)
		}
		m := Run(p, began, []Event{end})
		s := m.Summary([]Event{end})
		if got := s.OutWords(p.In()); !strings.HasPrefix(got, c.says) {
			t.Errorf("%+v: %q, want %q", c.end, got, c.says)
		}
	}
	for _, x := range []Ended{{How: "sold"}, {How: ThrownAway, Text: " "}} {
		bad := Event{ID: "e", At: at(1), Says: x}
		if bad.Check(func(string) bool { return true }) == nil {
			t.Errorf("%+v is taken", bad)
		}
	}
}

// The clock of what is dried to keep stops at the weight it keeps at, and nothing is given up for the hours before.
func TestHungToKeep(t *testing.T) {
	p := made(t, func(r *request.Request) { r.Dry.Keep, r.Room.RH, r.MadeOn = true, .35, "2026-11-28" })
	var events []Event
	key := ""
	for i, s := range Steps(p) {
		if s.Kind == Pack {
			key = s.Key
			break
		}
		events = append(events, Event{ID: fmt.Sprint("d", i), At: at(60), Says: Done{Step: s.Key}})
	}
	k := p.Dry.ToKeep
	if m := Run(p, began, events); !m.Food.Hung || m.Food.Since.IsZero() || !m.KeptAt().IsZero() {
		t.Errorf("hung: %+v", m.Food)
	}
	events = append(events, Event{ID: "a", At: at(300), Says: Dried{Step: key, G: k.TargetG + 100, RawG: k.RawG}},
		Event{ID: "b", At: at(900), Says: Dried{Step: key, G: k.TargetG, RawG: k.RawG}})
	if m := Run(p, began, events); !m.Food.Since.IsZero() || !m.KeptAt().Equal(at(900)) {
		t.Errorf("at its weight: %+v, kept from %v", m.Food, m.KeptAt())
	}
}

// Whatever the moments events name, a making is worked out at once: of what had not begun a look says nothing, and a
// step forgotten for years counts as long as one may be said to take.
func TestStrangeMoments(t *testing.T) {
	p := made(t, nil)
	steps := Steps(p)
	years := began.AddDate(150, 0, 0)
	for _, key := range []string{"knead.1", "rest.1", "roll.1.pass.1", "dry.1", "cook.1.lot.1"} {
		events, now := upTo(steps, key)
		for name, more := range map[string][]Event{
			"looked at before it began": {{ID: "l", At: at(.5), Says: Looked{Step: key, Look: "right"}}},
			"poked before it began":     {{ID: "l", At: at(.5), Says: Poked{Step: key, S: 3}}},
			"looked at years later":     {{ID: "l", At: years, Says: Looked{Step: key, Look: "right"}}},
			"done years later":          {{ID: "l", At: years, Says: Done{Step: key}}},
			"done, then the next years later": {{ID: "l", At: at(now + 1), Says: Done{Step: key}},
				{ID: "m", At: years, Says: Done{Step: steps[min(len(steps)-1, len(events)+1)].Key}}},
		} {
			from := time.Now()
			for _, all := range [][]Event{with(events, more...), more} {
				m := Run(p, began, all)
				for _, r := range m.Summary(all).Evidence.Knead {
					if r.From > 100 || r.To > 100 {
						t.Errorf("%s %s: kneaded %g to %g times as long", key, name, r.From, r.To)
					}
				}
			}
			if took := time.Since(from); took > 20*time.Second {
				t.Errorf("%s %s: %v", key, name, took)
			}
		}
	}
}
