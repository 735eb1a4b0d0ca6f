package day

import (
	"math/rand/v2"
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
				if (f.Why != TooLate || named[f.Task] == 0) && !(f.Other >= 0 && facts[f.Task].Begun && facts[f.Other].Begun) && !facts[f.Task].Begun {
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
	t.Logf("another order offered %d times of 60; the longest took %v; overruns %v late %v moved %v", offered, worst, overs, late, moved)
}
