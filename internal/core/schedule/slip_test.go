package schedule

import (
	"math/rand/v2"
	"slices"
	"testing"
	"time"
)

// delayed lets a day run as planned until now, then has the task that runs take so much longer.
func delayed(d *Day, slots []Slot, by int, seed uint64) (facts []Fact, now int, ok bool) {
	r := rand.New(rand.NewPCG(seed, 3))
	late := r.IntN(len(slots))
	now = slots[late].End()
	facts = make([]Fact, len(slots))
	for i, s := range slots {
		f := Fact{Begun: s.Start <= now && s.Start < slots[late].End(), Start: s.Start, End: s.End(), By: s.By}
		f.Done = f.Begun && s.End() <= now && i != late
		if i == late {
			f.Begun, f.End = true, s.End()+by
		}
		facts[i] = f
	}
	return facts, now, true
}

// After a delay of 20 min nothing is broken but what is named, nothing that has begun moves, and another order is only
// offered where it is better.
func TestSlip(t *testing.T) {
	offered, worst := 0, time.Duration(0)
	overs, late, moved := [2]int{}, [2]int{}, [2]int{}
	for seed := range uint64(60) {
		d := random(kind{batches: 6, people: 1, breaks: seed%3 == 0}, seed)
		if seed%2 == 0 {
			d = random(kind{batches: 4, people: 2, breaks: seed%3 == 0}, seed)
		}
		a, err := d.Solve(10_000)
		if err != nil {
			t.Fatal(err)
		}
		facts, now, _ := delayed(d, a.Slots, 20, seed)
		begun := time.Now()
		kept, better, err := d.Slip(a.Slots, facts, now, 2_000)
		worst = max(worst, time.Since(begun))
		if err != nil {
			t.Fatal(err)
		}
		for k, c := range []*Change{kept, better} {
			if c == nil {
				continue
			}
			overs[k], late[k], moved[k] = overs[k]+c.overrun(), late[k]+c.Goals.Late, moved[k]+c.MovedMin
			past := d.after(a.Slots, facts, now)
			named := map[int]int{}
			for _, o := range c.Overruns {
				named[d.Lags[o.Lag].B.Task] += o.By
			}
			for _, f := range past.day.Faults(c.Slots) {
				if (f.Why != TooLate || named[f.Task] == 0) && !(f.Other >= 0 && facts[f.Task].Begun &&
					facts[f.Other].Begun) && !facts[f.Task].Begun {
					t.Errorf("%d %v breaks %+v", seed, c.Reorder, f)
				}
			}
			for i, f := range facts {
				if f.Begun && c.Slots[i].Start != f.Start || !f.Begun && c.Slots[i].Start < now {
					t.Errorf("%d: task %d at %d, was %+v at %d", seed, i, c.Slots[i].Start, f, now)
				}
			}
		}
		if better != nil {
			offered++
		}
	}
	t.Logf("another order offered %d times of 60; the longest took %v; overruns %v late %v moved %v", offered, worst,
		overs, late, moved)
}

// What is brought nearer to where it was breaks nothing, makes no order later, and moves no more than before; begun
// tasks stay.
func TestNearerBreaksNothing(t *testing.T) {
	better := 0
	for seed := range uint64(120) {
		d := random(kind{batches: 3, people: 1 + int(seed%2), breaks: seed%3 == 0, setups: seed%2 == 0, turns: true,
			fillings: true}, seed)
		a, err := d.Solve(400)
		if err != nil {
			continue
		}
		r := rand.New(rand.NewPCG(seed, 11))
		old := make([]int, len(a.Slots))
		was := slices.Clone(a.Slots)
		begun := make([]bool, len(a.Slots))
		for i, s := range a.Slots {
			if old[i] = s.Start + r.IntN(61) - 30; r.IntN(6) == 0 {
				begun[i] = true
			}
			was[i].Start = old[i]
		}
		l := d.inOrder(a.Slots, nil)
		l.begun = begun
		now := l.nearer(old)
		if faults := d.Faults(now); len(faults) > 0 {
			t.Fatalf("day %d: %+v", seed, faults)
		}
		for i := range now {
			if begun[i] && now[i].Start != a.Slots[i].Start {
				t.Errorf("day %d: begun task %d moves", seed, i)
			}
		}
		for o, order := range d.Orders {
			if end := d.OrderEnd(o, now); end > max(order.Due, d.OrderEnd(o, a.Slots)) {
				t.Errorf("day %d: order %d ends at %d", seed, o, end)
			}
		}
		before, after := minutesMoved(was, a.Slots), minutesMoved(was, now)
		if after > before {
			t.Errorf("day %d: %d min moved, %d before", seed, after, before)
		}
		if after < before {
			better++
		}
	}
	if better < 60 {
		t.Errorf("nearer on %d days alone", better)
	}
}
