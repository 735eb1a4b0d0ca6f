package schedule

import (
	"cmp"
	"slices"
)

// Refusal says why a task cannot be moved where it was asked to go.
type Refusal struct {
	Fault   Fault
	Nearest int // a start near it that can be, min; −1: none was found within twelve hours
}

// Move starts a task at another minute, done by another person where by is not Nobody; what follows it moves only as
// far
// as it must, and what has begun stays. A refusal says what stands in the way, and the nearest minute that would do.
func (d *Day) Move(slots []Slot, begun []bool, task, to, by int) ([]Slot, *Refusal) {
	moved, fault := d.try(slots, begun, task, to, by)
	if fault != nil {
		moved = nil
	}
	if other := d.sameOrder(slots, begun, task, to, by); other != nil && (moved == nil || minutesMoved(slots,
		other) < minutesMoved(slots, moved)) {
		moved = other
	}
	if moved != nil {
		return moved, nil
	}
	if other := d.around(slots, begun, task, to, by, moveNodes); other != nil {
		return other, nil
	}
	r := &Refusal{*fault, -1}
	for off, step := 1, 1; off <= 720; off += step {
		if off >= 60 {
			step = 5
		}
		for _, at := range []int{to + off, to - off} {
			if at < 0 {
				continue
			}
			_, bad := d.try(slots, begun, task, at, by)
			if bad == nil || d.sameOrder(slots, begun, task, at, by) != nil ||
				off%15 == 0 && off <= 240 && d.around(slots, begun, task, at, by, nearNodes) != nil {
				r.Nearest = at
				return nil, r
			}
		}
	}
	return nil, r
}

// moveNodes is how far another order of what is around a moved task is looked for, nearNodes for each of the minutes
// near it.
const (
	moveNodes = 3_000
	nearNodes = 400
)

// minutesMoved is by how much all tasks together start otherwise.
func minutesMoved(old, now []Slot) (sum int) {
	for i := range now {
		sum += max(now[i].Start-old[i].Start, old[i].Start-now[i].Start)
	}
	return sum
}

// placed is a task at another minute, by somebody, or as before where by is Nobody; false where that person cannot do
// it.
func (d *Day) placed(slots []Slot, task, to, by int) (Slot, bool) {
	t := &d.Tasks[task]
	if by == Nobody || !t.Hands {
		by = slots[task].By
	}
	if t.Hands && (by < 0 || by >= len(d.People) || t.Minutes[by] < 0) {
		return Slot{}, false
	}
	return Slot{Start: to, Min: t.minutes(max(by, 0)), By: by}, true
}

// sameOrder moves a task and keeps all of them in their order: what it needs before goes earlier with it, what follows
// later; nil where that
// breaks something.
func (d *Day) sameOrder(slots []Slot, begun []bool, task, to, by int) []Slot {
	moved, ok := d.placed(slots, task, to, by)
	if !ok {
		return nil
	}
	next := slices.Clone(slots)
	next[task].By, next[task].Min = moved.By, moved.Min
	l := d.inOrder(next, nil)
	l.begun = slices.Clone(begun)
	l.begun[task] = true
	wanted := make([]int, len(next))
	for i := range wanted {
		wanted[i] = next[i].Start
	}
	wanted[task] = to
	fit := l.earliest
	if to < next[task].Start {
		fit = l.latest
	}
	at, ok := fit(wanted)
	if !ok {
		return nil
	}
	for i := range next {
		if next[i].Start = at[i]; l.begun[i] && at[i] != wanted[i] {
			return nil
		}
	}
	d.Clean(next)
	if len(d.Faults(next)) > 0 {
		return nil
	}
	return next
}

// around moves a task where the order of the others does not allow it: they are put into another order, moved as little
// as
// can be; nil when there is none.
func (d *Day) around(slots []Slot, begun []bool, task, to, by, nodes int) []Slot {
	if !d.exact() {
		return nil
	}
	next := *d
	next.Tasks = slices.Clone(d.Tasks)
	old := make([]int, len(slots))
	for i, x := range slots {
		t := &next.Tasks[i]
		old[i] = x.Start
		if i != task && !begun[i] {
			continue
		}
		if i == task {
			if by == Nobody || !t.Hands {
				by = x.By
			}
			x = Slot{Start: to, Min: t.minutes(max(by, 0)), By: by}
			if old[i] = to; x.Min < 0 {
				return nil
			}
		}
		t.From = x.Start
		t.To = x.End()
		t.Minutes = slices.Clone(t.Minutes)
		for p := range t.Minutes {
			if t.Minutes[p] = -1; p == x.By || !t.Hands {
				t.Minutes[p] = x.Min
			}
		}
	}
	needs := d.needs(rollingNodes)
	s := newSolver(&next, byMoves, nodes)
	s.plain = nodes == nearNodes
	s.old, s.waits = old, make([]int, len(d.Waits))
	for i, w := range d.Waits {
		s.waits[i] = max(w.Limit, needs[i], slots[w.B].End()-slots[w.A].Start)
	}
	if s.run(); !s.found {
		return nil
	}
	out := s.named()
	if len(d.Faults(out)) > 0 {
		return nil
	}
	l := d.inOrder(out, s.waits)
	l.begun = slices.Clone(begun)
	l.begun[task] = true
	if nearer := l.nearer(old); len(d.Faults(nearer)) == 0 {
		return nearer
	}
	return out
}

// try is Move without looking for the nearest.
func (d *Day) try(slots []Slot, begun []bool, task, to, by int) ([]Slot, *Fault) {
	t := &d.Tasks[task]
	moved, ok := d.placed(slots, task, to, by)
	if !ok {
		return nil, &Fault{Task: task, Other: -1, Why: CannotDo}
	}
	next := slices.Clone(slots)
	next[task], by = moved, moved.By
	// the moved task comes before whatever it would run into, unless that has begun or belongs before it
	order := slices.Clone(next)
	for i := range order {
		s := order[i]
		rival := d.Tasks[i].Hands && t.Hands && s.By == by || d.Tasks[i].Class >= 0 && t.Class >= 0
		if i != task && rival && !begun[i] && s.Start < to && s.End() > to && !d.follows(i, task) {
			order[i].Start = to + 1
		}
	}
	l := d.inOrder(order, nil)
	l.begun = slices.Clone(begun)
	l.begun[task] = true
	lo := make([]int, len(next))
	for i := range lo {
		lo[i] = next[i].Start
	}
	at, _ := l.earliest(lo)
	last := -1
	for i := range next {
		if next[i].Start = at[i]; at[i] >= NoLimit/16 && (last < 0 || slots[i].Start < slots[last].Start) {
			last = i
		}
	}
	if last >= 0 {
		return nil, &Fault{Task: last, Other: -1, Why: Closed}
	}
	d.Clean(next)
	var first *Fault
	for _, f := range d.Faults(next) {
		if begun[f.Task] && (f.Other < 0 || begun[f.Other]) {
			continue
		}
		if first == nil || f.Task == task && first.Task != task {
			first = &f
		}
	}
	return next, first
}

// follows says whether b can only come after a, over any number of lags.
func (d *Day) follows(a, b int) bool {
	seen := make([]bool, len(d.Tasks))
	var walk func(int) bool
	walk = func(i int) bool {
		if i == b {
			return true
		}
		if seen[i] {
			return false
		}
		seen[i] = true
		for _, l := range d.Lags {
			if l.A.Task == i && l.Min >= 0 && walk(l.B.Task) {
				return true
			}
		}
		return false
	}
	return walk(a)
}

// Shift is what differs between two plans of the same tasks.
type Shift struct {
	Task     int
	From, To int // starts, min
	By, Was  int // people
}

// Shifts lists what starts at another minute, or is done by somebody else, the earliest first.
func Shifts(old, now []Slot) (out []Shift) {
	for i := range now {
		if i < len(old) && (old[i].Start != now[i].Start || old[i].By != now[i].By) {
			out = append(out, Shift{i, old[i].Start, now[i].Start, now[i].By, old[i].By})
		}
	}
	slices.SortStableFunc(out, func(a, b Shift) int { return cmp.Compare(a.To, b.To) })
	return out
}
