package bench

import (
	"math"
	"slices"
	"strings"
	"testing"

	"hollen/internal/core/egg"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// Two cups of flour are judged over all they may hold; weighed at the bench they are known, and kept for the next time.
func TestCupsAreClosedByTheScale(t *testing.T) {
	three := 3.
	p := made(t, func(r *request.Request) {
		r.Amount.By, r.Amount.FlourG, r.Eggs.FixWhole = request.ByOwn, 295, &three
		r.Measure(request.Said{Path: "flours.0.share", Text: "2 cups", LowG: 250, G: 295, High: 340})
	})
	b := p.Formula.Band
	if b == nil || !(b.LowHw < p.Formula.Dough.Hw && p.Formula.Dough.Hw < b.HighHw) || b.HighHw-b.LowHw < 10 {
		t.Fatalf("the band is %+v about %v", b, p.Formula.Dough.Hw)
	}
	x, _ := find(t, Run(p, began, nil), "weigh.flour.1")
	if !strings.Contains(x.Say, "2 cups (250–340 g, 295 g counted)") &&
		!strings.Contains(x.Say, "2 cups (250–340 g, 295 counted)") {
		t.Errorf("at the scale it says %q", x.Say)
	}
	events, now := upTo(Steps(p), "weigh.flour.1")
	m := Run(p, began, with(events, Event{ID: "w", At: at(now), Says: Weighed{Step: "weigh.flour.1", G: 266}},
		Event{ID: "d", At: at(now), Says: Done{Step: "weigh.flour.1"}}))
	if m.Ahead.Formula.Band != nil || math.Abs(m.Ahead.Formula.FlourG-266) > .1 {
		t.Errorf("weighed, and the band is %+v of %v g", m.Ahead.Formula.Band, m.Ahead.Formula.FlourG)
	}
	if !strings.Contains(m.Change, "weighed: 133 g a cup; kept for this cup and Soft wheat 00") {
		t.Errorf("said %q", m.Change)
	}
	if c := m.Summary(events).Evidence.Cups; len(c) != 1 || c[0] != (Cup{"soft-00", 133}) {
		t.Errorf("kept %+v", c)
	}
}

// What is poured out until it comes together counts as what it is likely to take, until somebody says what was left.
func TestOpenLiquidAtTheBench(t *testing.T) {
	out := 260.
	p := made(t, func(r *request.Request) {
		r.Flours = slices.Clone(r.Flours)
		r.Flours[0].Flour = "semola-fine"
		r.Amount.By, r.Amount.FlourG, r.Eggs.Style = request.ByOwn, 400, egg.NoEgg
		r.Eggs.LiquidG, r.Eggs.LiquidOpen = &out, true
	})
	if f := &p.Formula; f.OpenLiquidG != out || f.TopG >= out-20 || math.Abs(f.Dough.Hw-f.Target.Hw) > 1 {
		t.Fatalf("of %v g it takes %v: %v, aimed at %v", f.OpenLiquidG, f.TopG, f.Dough.Hw, f.Target.Hw)
	}
	if x, _ := find(t, Run(p, began, nil), "weigh.pour"); x.WantG != out {
		t.Errorf("%v g is poured out", x.WantG)
	}
	oil := Event{ID: "o", At: at(10), Says: Added{What: "oil", G: 10}}
	if m := Run(p, began, []Event{oil}); math.Abs(m.Ahead.Formula.TopG-p.Formula.TopG) > .2 ||
		m.Ahead.Formula.OilG < 9 {
		t.Errorf("oil added, and %v g of water, %v of oil", m.Ahead.Formula.TopG, m.Ahead.Formula.OilG)
	}
	left := Event{ID: "l", At: at(11), Says: Left{What: "water", G: 80}}
	if m := Run(p, began, []Event{left}); math.Abs(m.Ahead.Formula.TopG-180) > .2 {
		t.Errorf("80 g left of 260, and %v g went in", m.Ahead.Formula.TopG)
	}
}

// A hand seen through the sheet is a reading of its stop with its own weight; it moves no clock.
func TestHandShowsAtTheBench(t *testing.T) {
	p := made(t, nil)
	steps := Steps(p)
	at4 := slices.IndexFunc(steps, func(s Step) bool { return s.Kind == Pass && s.Piece == 1 && s.Stop == "6" })
	e := Event{ID: "s", At: at(40), Says: Measured{Step: steps[at4].Key, By: roll.ByHand}}
	m := Run(p, began, []Event{e})
	sheets := m.Summary([]Event{e}).Evidence.Sheets
	if len(sheets) != 1 || sheets[0].Stop != "6" || sheets[0].Within != .25 ||
		math.Abs(sheets[0].Ratio-1.2/steps[at4].SheetMM) > .002 {
		t.Errorf("%+v", sheets)
	}
	if was, is := Steps(p), m.Steps; was[len(was)-1].Min != is[len(is)-1].Min {
		t.Error("a look through the sheet moves the pot")
	}
	if (Measured{Step: "x", By: "foot"}).check() == nil {
		t.Error("a foot is seen through it")
	}
}

// Every change is said at a step, which is not the next one once that is done.
func TestChangesAreSaidOnce(t *testing.T) {
	p := made(t, nil)
	events, now := upTo(Steps(p), "rest.1")
	events = append(events, Event{ID: "w", At: at(now + 1), Says: Added{What: "water", G: 25}})
	said := func(m Making) (out []string) {
		for _, c := range m.Changes {
			if strings.Contains(c.Text, "hydration") {
				out = append(out, c.Step)
			}
		}
		return out
	}
	if got := said(Run(p, began, events)); !slices.Equal(got, []string{"rest.1"}) {
		t.Errorf("at the rest it is said at %v", got)
	}
	events = append(events, Event{ID: "d", At: at(now + 30), Says: Done{Step: "rest.1"}})
	if got := said(Run(p, began, events)); !slices.Equal(got, []string{"rest.1"}) {
		t.Errorf("after the rest it is said at %v", got)
	}
}
