package bench

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/request"
)

func find(t *testing.T, m Making, key string) (*Step, *Progress) {
	t.Helper()
	for i := range m.Steps {
		if m.Steps[i].Key == key {
			return &m.Steps[i], m.State.Steps[key]
		}
	}
	t.Fatalf("no step %s", key)
	return nil, nil
}

// upTo are the events of a making gone through as planned up to a step, and its minute.
func upTo(steps []Step, key string) (out []Event, now float64) {
	for _, s := range steps {
		if s.Key == key {
			break
		}
		now += s.PlanMin
		out = append(out, Event{ID: "d" + s.Key, At: at(now), Says: Done{Step: s.Key}})
	}
	return out, now
}

func with(events []Event, more ...Event) []Event { return append(slices.Clone(events), more...) }

// A step put in comes next; what was on waits for it, its clock with it, and goes on after. Taken back it was never
// there.
func TestPutIn(t *testing.T) {
	p := made(t, nil)
	events, now := upTo(Steps(p), "rest.1")
	before := Run(p, began, events)
	put := Event{ID: "k", At: at(now + 10), Says: PutIn{Kind: OwnKnead, Before: "rest.1", Text: "Knead on", Min: 3}}
	m := Run(p, began, with(events, put))
	if s := m.Steps[m.State.Now]; s.Key != "own.k" || s.Min != 3 || !s.Own || !strings.HasPrefix(s.On,
		"Done, on to the rest") {
		t.Fatalf("next is %+v", s)
	}
	if _, r := find(t, m, "rest.1"); r.PausedAt.IsZero() || !r.Held {
		t.Errorf("the rest goes on beside it: %+v", r)
	}
	m = Run(p, began, with(events, put, Event{ID: "e", At: at(now + 14), Says: Done{Step: "own.k"}}))
	rest, r := find(t, m, "rest.1")
	if m.Steps[m.State.Now].Key != "rest.1" || r.Held || !r.PausedAt.IsZero() || r.PausedS != 240 {
		t.Errorf("after it: %+v", r)
	}
	if m.Ahead == p || m.Ahead.Knead.D <= p.Knead.D {
		t.Errorf("four minutes of kneading more: development %.3f, was %.3f", m.Ahead.Knead.D, p.Knead.D)
	}
	if was, _ := find(t, before, "rest.1"); rest.Min == was.Min {
		t.Logf("rest stays %.0f min", rest.Min)
	}
	same(t, "taken back", before.State, Run(p, began, with(events, put, Event{ID: "b", At: at(now +
		11), Says: TakenBack{Of: "k"}})).State)
	last := Run(p, began, with(events, Event{ID: "z", At: at(now), Says: PutIn{Kind: OwnStep, Text: "Sweep"}}))
	if s := last.Steps[len(last.Steps)-1]; s.Key != "own.z" || last.Steps[last.State.Now].Key != "rest.1" {
		t.Errorf("last is %s, on is %s", s.Key, last.Steps[last.State.Now].Key)
	}
}

// A piece ends with the pass it is said to, earlier or finer; said otherwise later, that counts.
func TestLastStop(t *testing.T) {
	p := made(t, nil)
	steps := Steps(p)
	passes := 0
	for _, s := range steps {
		if s.Kind == Pass && s.Piece == 1 {
			passes++
		}
	}
	events, now := upTo(steps, "roll.1.pass.3")
	m := Run(p, began, with(events, Event{ID: "l", At: at(now), Says: LastStop{Step: "roll.1.pass.3"}},
		Event{ID: "d", At: at(now + 1), Says: Done{Step: "roll.1.pass.3"}}))
	if s := m.Steps[m.State.Now]; s.Key != "roll.2.pass.1" {
		t.Errorf("after the last pass of the first piece comes %s", s.Key)
	}
	m = Run(p, began, with(events, Event{ID: "l", At: at(now), Says: LastStop{Step: "roll.1.pass.3"}},
		Event{ID: "d", At: at(now + 1), Says: Done{Step: "roll.1.pass.3"}}, Event{ID: "m", At: at(now + 2),
			Says: LastStop{Step: "roll.1.pass.4"}}))
	if s := m.Steps[m.State.Now]; s.Key != "roll.1.pass.4" {
		t.Errorf("one pass more, and on is %s", s.Key)
	}
	finest := p.Roll.Machine.Stops[len(p.Roll.Machine.Stops)-1].Label
	m = Run(p, began, with(events, Event{ID: "f", At: at(now), Says: PutIn{Kind: OwnPass, Before: "roll.2.pass.1",
		Text: finest, Piece: 1}}))
	s, _ := find(t, m, "own.f")
	if s.Stop != finest || s.SheetMM <= 0 || s.SheetMM >= p.Roll.SheetMM || s.Piece != 1 ||
		m.Steps[m.State.Now].Key != "roll.1.pass.3" {
		t.Errorf("a finer pass: %+v; on is %s", s, m.Steps[m.State.Now].Key)
	}
}

// Nests are counted, weighed nests give their mean; pieces put by are not rolled; a shape decided late is cut, too.
func TestCountedAndDecided(t *testing.T) {
	p := made(t, nil)
	events, now := upTo(Steps(p), "roll.1.pass.1")
	m := Run(p, began, with(events, Event{ID: "n", At: at(now), Says: Made{Step: "cut.1", N: 3, G: 360}}, Event{ID: "o",
		At: at(now), Says: Made{Step: "cut.1", N: 2}}, Event{ID: "q", At: at(now), Says: Made{Step: "cut.1", N: -1}}))
	if s, c := find(t, m, "cut.1"); c.Made != 4 || c.MadeG != 360 || c.MadeN != 3 || s.Count < 1 || s.CountName == "" {
		t.Errorf("%d %s of %d, %g g of %d", c.Made, s.CountName, s.Count, c.MadeG, c.MadeN)
	}
	pieces := p.Roll.Pieces
	m = Run(p, began, with(events, Event{ID: "b", At: at(now), Says: PutBy{What: "dough", N: 2, G: 300,
		Place: "fridge"}}))
	if _, x := find(t, m, "roll.1.pass.1"); x.Status != Running || m.State.PutBy != min(2, pieces-1) ||
		!strings.Contains(m.Change, "put by") {
		t.Errorf("%+v, %d put by, %q", x, m.State.PutBy, m.Change)
	}
	m = Run(p, began, with(events, Event{ID: "s", At: at(now), Says: Shaped{Piece: 1, Shape: "maltagliati"}}))
	if len(m.Ahead.Cut.Parts()) != 2 || !strings.Contains(m.Change, "hapes decided") || m.Ahead.Roll.Pieces != pieces {
		t.Errorf("%d shapes in %d pieces of %d, %q", len(m.Ahead.Cut.Parts()), m.Ahead.Roll.Pieces, pieces, m.Change)
	}
	if s, _ := find(t, m, "cut.2"); s.Kind != Cut {
		t.Errorf("%+v", s)
	}
	if g, was := m.Ahead.Formula.Dough.MassG, p.Formula.Dough.MassG; math.Abs(g-was) > .01*was {
		t.Errorf("%.0f g of dough, was %.0f", g, was)
	}
	var all []Event
	for i := range pieces {
		all = append(all, Event{ID: "s" + string(rune('a'+i)), At: at(now), Says: Shaped{Piece: i +
			1, Shape: "maltagliati"}})
	}
	if m = Run(p, began, with(events, all...)); m.Ahead.Cut.Shape.Key != "maltagliati" ||
		len(m.Ahead.Cut.Parts()) != 1 {
		t.Errorf("all decided: %s, %d shapes", m.Ahead.Cut.Shape.Key, len(m.Ahead.Cut.Parts()))
	}
}

// Sheet and loss as measured lead rack and pot: thicker dries and cooks for longer, drier cooks for longer.
func TestAsMeasured(t *testing.T) {
	p := made(t, func(r *request.Request) { r.Keep.Where, r.Dry.Sheet.By = "", request.DryWorked })
	steps := Steps(p)
	last := ""
	for _, s := range steps {
		if s.Kind == Pass && s.Piece == 1 {
			last = s.Key
		}
	}
	events, now := upTo(steps, last)
	plain := Run(p, began, events)
	pot, _ := find(t, plain, "cook.1.lot.1")
	rack, _ := find(t, plain, "dry.1")
	for name, x := range map[string]Measured{"mm": {MM: 1.4 * p.Roll.SheetMM},
		"leaves": {Leaves: int(math.Round(14 * p.Roll.SheetMM))},
		"square": {SquareG: 14 * p.Roll.SheetMM * p.Formula.Dough.DensityGPerML}} {
		x.Step = last
		m := Run(p, began, with(events, Event{ID: "m", At: at(now), Says: x}))
		thick, _ := find(t, m, "cook.1.lot.1")
		slow, _ := find(t, m, "dry.1")
		if thick.Min <= pot.Min*1.05 || math.Abs(slow.Min/rack.Min-1.4) > .08 {
			t.Errorf("%s: taste from %.2f min, was %.2f; leather at %.1f, was %.1f", name, thick.Min, pot.Min, slow.Min,
				rack.Min)
		}
	}
	events, now = upTo(steps, "cook.1.lot.1")
	m := Run(p, began, with(events, Event{ID: "w", At: at(now), Says: Dried{Step: "dry.1", G: 90, RawG: 100}}))
	if dry, _ := find(t, m, "cook.1.lot.1"); dry.Min <= pot.Min*1.2 || !strings.Contains(m.Change, "aste from") {
		t.Errorf("ten per cent lost: taste from %.2f min, was %.2f; %q", dry.Min, pot.Min, m.Change)
	}
}

// The food clock counts from mixing by what happened, stands still in the fridge, and ends with the pot.
func TestFoodClock(t *testing.T) {
	p := made(t, nil)
	steps := Steps(p)
	events, now := upTo(steps, "roll.1.pass.1")
	mix := 0.
	for _, s := range steps {
		if strings.HasPrefix(s.Key, "mix.") {
			break
		}
		mix += s.PlanMin
	}
	m := Run(p, began, events)
	if got := m.Food.OutMin(at(now + 30)); math.Abs(got-(now+30-mix)) > .01 || m.Food.CautionMin != 120 {
		t.Errorf("out for %.2f min, want %.2f; caution at %g", got, now+30-mix, m.Food.CautionMin)
	}
	cold := with(events, Event{ID: "c", At: at(now + 5), Says: PutIn{Kind: OwnFridge, Before: "roll.1.pass.1",
		Text: "Into the fridge", Min: 20}})
	m = Run(p, began, cold)
	if got := m.Food.OutMin(at(now + 65)); math.Abs(got-(now+5-mix)) > .01 || !m.Food.Since.IsZero() {
		t.Errorf("in the fridge it counts on: %.2f", got)
	}
	m = Run(p, began, with(cold, Event{ID: "o", At: at(now + 25), Says: Done{Step: "own.c"}}))
	if got := m.Food.OutMin(at(now + 35)); math.Abs(got-(now+15-mix)) > .01 {
		t.Errorf("out again: %.2f, want %.2f", got, now+15-mix)
	}
	whole, end := upTo(steps, "")
	if m = Run(p, began, whole); !m.Food.Since.IsZero() || m.Food.OutMin(at(end+500)) > end-mix+.01 {
		t.Errorf("it runs on after the pot: %+v", m.Food)
	}
}

// What is planned to be rolled at a time is: a longer kneading takes it off the rest, until the dough would not be
// ready.
func TestRolledAtItsTime(t *testing.T) {
	began := time.Date(2026, 11, 28, 11, 9, 0, 0, time.Local)
	at := func(minutes float64) time.Time { return began.Add(time.Duration(minutes * float64(time.Minute))) }
	p := made(t, func(r *request.Request) {
		r.Clock.RollAt, r.Clock.From = "2026-11-28T13:00", "2026-11-28T09:00"
		long := 90.
		r.Rest.Min = &long
	})
	if p.Clock == nil {
		t.Fatal("no clock")
	}
	steps := Steps(p)
	planned := 0.
	for _, s := range steps {
		if s.Kind == Divide || s.Kind == Pass {
			planned = s.FromMin
			break
		}
	}
	events, now := upTo(steps, "rest.1")
	for i := range events { // by this day's clock
		events[i].At = began.Add(events[i].At.Sub(time.Date(2026, 11, 28, 9, 0, 0, 0, time.UTC)))
	}
	late := slices.Clone(events)
	late[len(late)-1].At = at(now + 25) // kneaded for so much longer
	m := Run(p, began, late)
	rest, r := find(t, m, "rest.1")
	mixed := 0.
	for _, s := range steps {
		if strings.HasPrefix(s.Key, "mix.") {
			break
		}
		mixed += s.PlanMin
	}
	if got := r.Began.Sub(began).Minutes() - mixed + rest.Min; rest.Min >= 90 || math.Abs(got-planned) > 2 {
		t.Errorf("rolled at minute %.1f, planned %.1f, after a rest of %.0f", got, planned, rest.Min)
	}
}

// A rest that is left out, or kneaded for no time at all, does not stop the rest from being worked out again.
func TestLeftOut(t *testing.T) {
	p := made(t, nil)
	events, now := upTo(Steps(p), "knead.1")
	m := Run(p, began, with(events, Event{ID: "k", At: at(now), Says: Skipped{Step: "knead.1"}}))
	if m.Ahead == p || m.Ahead.Knead.D >= p.Knead.D {
		t.Errorf("not kneaded: development %.2f, was %.2f", m.Ahead.Knead.D, p.Knead.D)
	}
	events, now = upTo(Steps(p), "rest.1")
	m = Run(p, began, with(events, Event{ID: "r", At: at(now), Says: Skipped{Step: "rest.1"}},
		Event{ID: "w", At: at(now), Says: Added{What: "water", G: 20}}))
	if m.Ahead == p || m.Ahead.Rest.T <= p.Rest.T || !strings.Contains(m.Change, "wetter") {
		t.Errorf("not rested: tension %.2f, was %.2f; %q", m.Ahead.Rest.T, p.Rest.T, m.Change)
	}
}

// What went in because of something seen counts like anything weighed; by the house's reckoning, too.
func TestActs(t *testing.T) {
	p := made(t, nil)
	events, now := upTo(Steps(p), "rest.1")
	m := Run(p, began, with(events, Event{ID: "s", At: at(now), Says: Seen{Step: "knead.1", Sign: "cracks",
		Act: "water", G: 6, Text: "Cracks"}}))
	if got := m.Ahead.Formula.Dough.Hw - p.Formula.Dough.Hw; got < .3 || len(m.Ahead.Request.Acts) != 1 {
		t.Errorf("6 g of water: %.2f points more, acts %v", got, m.Ahead.Request.Acts)
	}
	m = Run(p, began, with(events, Event{ID: "l", At: at(now), Says: Left{What: "water", G: 6}}))
	if got := m.Ahead.Formula.Dough.Hw - p.Formula.Dough.Hw; p.Formula.TopG > 6 && got > -.3 {
		t.Errorf("6 g left in the jug: %.2f points", got)
	}
}

// What lists read of a making says how it went.
func TestSummary(t *testing.T) {
	p := made(t, nil)
	events, now := upTo(Steps(p), "")
	events = with(events, Event{ID: "f", At: at(now), Says: Felt{Word: 1}}, Event{ID: "n", By: "Linde", At: at(now),
		Says: Named{What: "lot", Name: "spring sack"}},
		Event{ID: "e", At: at(now + 5), Says: Ended{G: 1400, N: 12, Text: "finer"}})
	m := Run(p, began, events)
	s := m.Summary(events)
	if s.OutG != 1400 || s.Pieces != 12 || *s.Felt != 1 || s.Next != "finer" || s.Lots[0] != "spring sack" ||
		s.Makers[0] != "Linde" ||
		math.Abs(s.Min-now-5) > .01 || s.HandsMin <= 0 || s.HandsMin >= s.Min || s.Hw != s.PlanHw ||
		len(s.Flours) == 0 {
		t.Errorf("%+v", s)
	}
}
