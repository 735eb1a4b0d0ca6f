package schedule

import "slices"

// Fact is what has really happened to a task: begun at Start, and ended at End or, while it runs, believed to.
type Fact struct {
	Begun, Done bool
	Start, End  int
	By          int // of People, Nobody when it is not known
}

// Overrun is a longest lag that can no longer be kept, and by how much it is passed, min.
type Overrun struct {
	Lag int // of Day.Lags
	By  int
}

// Change is a day planned anew after something slipped.
type Change struct {
	Slots    []Slot
	Goals    Goals
	Overruns []Overrun
	MovedMin int  // Σ |start − as it was| over what is to come
	Reorder  bool // some of it comes in another order
	Proved   bool // no less late plan of what is to come exists
	Nodes    int
}

func (c *Change) overrun() int {
	total := 0
	for _, o := range c.Overruns {
		total += o.By
	}
	return total
}

// Slip plans what is to come after the facts, from now on. Kept keeps the order of everything; better, where it is less
// late or keeps more of the lags, is another order that moves as little as it can, else nil. There is always a plan:
// what can no longer be kept is named as an overrun. Both are late only where they must be.
func (d *Day) Slip(old []Slot, facts []Fact, now, limit int) (kept, better *Change, err error) {
	if err := d.Check(); err != nil {
		return nil, nil, err
	}
	after := d.after(old, facts, now)
	kept = after.keep()
	if !d.exact() {
		return kept, nil, nil
	}
	found := after.reorder(kept, min(limit, d.nodes()/5)) // it must be there at once
	if found == nil || !d.gains(found, kept) {
		return kept, nil, nil
	}
	return kept, found, nil
}

// gains says whether a change is less late or keeps more than another.
func (d *Day) gains(a, b *Change) bool {
	x, y := a.overrun(), b.overrun()
	return x < y && a.Goals.Late <= b.Goals.Late || a.Goals.Late < b.Goals.Late && x <= y ||
		x+a.Goals.Late < y+b.Goals.Late
}

// slipped is what is left of a day.
type slipped struct {
	day   *Day // with the facts in it
	plain *Day // as it was wished
	now   int
	// wished are the slots as they were planned, old the same with what really happened, nothing else before now.
	wished, old []Slot
	begun       []bool
	needs       []int
}

// after puts the facts into the day: what is done lies fixed and needs nobody, what runs has its minutes, and nothing
// else starts before now. A break that a running task enters begins when that ends, and is as long.
func (d *Day) after(old []Slot, facts []Fact, now int) *slipped {
	next := *d
	next.Tasks, next.People = slices.Clone(d.Tasks), slices.Clone(d.People)
	s := &slipped{day: &next, plain: d, now: now, wished: old, old: slices.Clone(old), begun: make([]bool, len(facts)),
		needs: d.needs(rollingNodes)}
	class, when := d.First, -1
	runs := make([]int, len(d.People)) // what each person is at, from 1
	for i, f := range facts {
		t := &next.Tasks[i]
		t.To = NoLimit
		if !f.Begun {
			if t.From = max(t.From, now); old[i].Start < t.From {
				s.old[i].Start = t.From
			}
			continue
		}
		s.begun[i] = true
		by := f.By
		if by < 0 {
			by = old[i].By
		}
		end := max(f.End, f.Start+1)
		if !f.Done {
			end = max(end, now)
		}
		s.old[i] = Slot{Start: f.Start, Min: end - f.Start, By: by}
		t.From, t.To = f.Start, end
		t.Minutes = slices.Repeat([]int{end - f.Start}, len(t.Minutes))
		if t.Class >= 0 && f.Start > when {
			class, when = t.Class, f.Start
		}
		if t.Hands && (f.Done || by < 0 || runs[by] > 0 && next.Tasks[runs[by]-1].To >= end) {
			t.Hands, t.By = false, 0
		} else if t.Hands {
			if runs[by] > 0 {
				o := &next.Tasks[runs[by]-1]
				o.Hands, o.By = false, 0
			}
			runs[by], t.By = i+1, by+1
		}
		if f.Done {
			t.Class = NoRoller
		}
	}
	next.Lags = nil // between things that have begun nothing is left to keep
	for _, l := range d.Lags {
		if !s.begun[l.B.Task] {
			next.Lags = append(next.Lags, l)
		}
	}
	next.Holds = nil
	for _, h := range d.Holds {
		if !s.begun[h.From.Task] || !s.begun[h.To.Task] || h.To.at(s.old) > now {
			next.Holds = append(next.Holds, h)
		}
	}
	next.First = class
	for p, i := range runs {
		if i == 0 {
			continue
		}
		t := &next.Tasks[i-1]
		for q := range t.Minutes {
			if q != p {
				t.Minutes[q] = -1
			}
		}
		next.People[p].Off = slices.Clone(next.People[p].Off)
		for k, o := range next.People[p].Off {
			if o[0] < t.To && o[1] > t.From {
				next.People[p].Off[k] = [2]int{t.To, max(o[1], t.To+o[1]-o[0])}
			}
		}
	}
	s.oneRoller()
	next.overtime()
	return s
}

// overtimeMin is how long after closing what has slipped may still be done.
const overtimeMin = 360

// overtime lets those who are there until closing stay on; who leaves before leaves.
func (d *Day) overtime() {
	closes := 0
	for _, p := range d.People {
		if n := len(p.Off); n > 0 && p.Off[n-1][1] >= NoLimit/8 {
			closes = max(closes, p.Off[n-1][0])
		}
	}
	for i := range d.People {
		if n := len(d.People[i].Off); n > 0 && d.People[i].Off[n-1][1] >= NoLimit/8 &&
			d.People[i].Off[n-1][0] == closes {
			d.People[i].Off = slices.Clone(d.People[i].Off)
			d.People[i].Off[n-1][0] += overtimeMin
		}
	}
}

// oneRoller leaves, of several tasks that stand as running on the roller, the one that ends last.
func (s *slipped) oneRoller() {
	last := -1
	for i := range s.day.Tasks {
		t := &s.day.Tasks[i]
		if !s.begun[i] || t.Class < 0 {
			continue
		}
		if last >= 0 {
			if t.To <= s.day.Tasks[last].To {
				t.Class = NoRoller
				continue
			}
			s.day.Tasks[last].Class = NoRoller
		}
		last = i
	}
}

// change is what slots of what is left come to.
func (s *slipped) change(slots []Slot) *Change {
	c := &Change{Slots: slots, Goals: s.day.value(slots, s.needs)}
	for i, l := range s.plain.Lags {
		if over := l.B.at(slots) - l.A.at(slots) - l.Max; l.Max < NoLimit && over > 0 && !s.begun[l.B.Task] {
			c.Overruns = append(c.Overruns, Overrun{i, over})
		}
	}
	for i := range slots {
		if !s.begun[i] {
			c.MovedMin += max(slots[i].Start-s.old[i].Start, s.old[i].Start-slots[i].Start)
		}
	}
	return c
}

// keep moves everything back as little as the old order, the lags and the breaks ask.
func (s *slipped) keep() *Change {
	order := slices.Clone(s.old) // what has begun comes first, the rest in its old order
	for i := range order {
		if !s.begun[i] {
			order[i].Start = s.now + 1 + s.wished[i].Start
		}
	}
	l := s.day.inOrder(order, nil)
	l.begun = s.begun
	lo := make([]int, len(s.old))
	for i := range lo {
		lo[i] = s.old[i].Start
	}
	at, _ := l.earliest(lo)
	slots := slices.Clone(l.slots)
	for i := range slots {
		slots[i].Start = at[i]
	}
	return s.change(slots)
}

// reorder finds the least late plan that keeps as many of the lags as can be, and of those one that moves little.
func (s *slipped) reorder(kept *Change, limit int) *Change {
	day := *s.day
	day.Lags, day.Orders = slices.Clone(s.day.Lags), nil
	var due []int // the lags in question
	var lasts [][]last
	for i, l := range day.Lags {
		if l.Max == NoLimit || !s.begun[l.A.Task] || s.begun[l.B.Task] {
			continue
		}
		due = append(due, i)
		day.Orders = append(day.Orders, Order{Due: l.A.at(s.old) + l.Max})
		lasts = append(lasts, []last{{task: l.B.Task, begin: !l.B.End}})
		day.Lags[i].Max = NoLimit
	}
	nodes, proved := 0, true
	if len(due) > 0 {
		f := newSolver(&day, byLate, limit)
		f.lasts = lasts
		f.run()
		nodes, proved = f.nodes, !f.open
		if !f.found {
			return nil
		}
		for _, i := range due {
			l := s.day.Lags[i]
			day.Lags[i].Max = max(l.Max, l.B.at(f.slots)-l.A.at(f.slots))
		}
	}
	day.Orders = s.day.Orders
	f := newSolver(&day, byMoves, limit)
	f.waits = make([]int, len(day.Waits))
	for i, w := range day.Waits {
		f.waits[i] = max(w.Limit, s.needs[i], kept.Slots[w.B].End()-kept.Slots[w.A].Start)
	}
	f.old = make([]int, len(s.old))
	for i := range f.old {
		f.old[i] = s.old[i].Start
	}
	f.run()
	if !f.found {
		return nil
	}
	found := f.named()
	l := day.inOrder(found, f.waits)
	l.begun = s.begun
	if nearer := l.nearer(f.old); len(day.Faults(nearer)) <= len(day.Faults(found)) {
		found = nearer
	}
	c := s.change(found)
	c.Nodes = nodes + f.nodes
	c.Proved = proved && !f.open
	c.Reorder = true
	return c
}

// From plans what is left of a day after the facts when something else has changed than time: its people, its hours,
// what is
// wished. Old are the starts it moves as little as it can from. nil when no plan keeps what is left.
func (d *Day) From(old []Slot, facts []Fact, now, limit int) *Change {
	if d.Check() != nil {
		return nil
	}
	after := d.after(old, facts, now)
	kept := after.keep()
	if d.exact() {
		if found := after.reorder(kept, min(limit, d.nodes()/5)); found != nil {
			return found
		}
	}
	for _, f := range after.day.Faults(kept.Slots) {
		if !after.begun[f.Task] && f.Why != TooLate {
			return nil
		}
	}
	return kept
}
