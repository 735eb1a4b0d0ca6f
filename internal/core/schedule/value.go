package schedule

import (
	"cmp"
	"slices"
)

// Fault is a rule a planned day breaks: the tasks concerned and what is wrong, in words.
type Fault struct {
	Task, Other int // Other −1 where there is none
	Why         FaultKind
	By          int // how far it is off, min, or how much a store is over
	What        string
	Store       int // of a store that is full: its place
}

// FaultKind names a kind of fault.
type FaultKind string

// The kinds of faults.
const (
	OutOfHours FaultKind = "hours"  // the task’s own window
	Closed     FaultKind = "closed" // pushed on, it comes after closing
	CannotDo   FaultKind = "cannot" // its person cannot do it
	TooSoon    FaultKind = "soon"   // a shortest lag
	TooLate    FaultKind = "late"   // a longest lag
	Busy       FaultKind = "busy"   // the person does something else
	OnBreak    FaultKind = "break"  // the person is off
	RollerBusy FaultKind = "roller"
	Unclean    FaultKind = "clean"
	Full       FaultKind = "full" // of a store
)

func (p Point) at(slots []Slot) int {
	if p.End {
		return slots[p.Task].End()
	}
	return slots[p.Task].Start
}

// rollerOrder are the roller’s tasks by start.
func (d *Day) rollerOrder(slots []Slot) []int {
	var on []int
	for i := range d.Tasks {
		if d.Tasks[i].Class >= 0 {
			on = append(on, i)
		}
	}
	slices.SortStableFunc(on, func(a, b int) int { return cmp.Compare(slots[a].Start, slots[b].Start) })
	return on
}

// Clean puts the cleaning of the roller before each of its tasks, by the order they stand in.
func (d *Day) Clean(slots []Slot) {
	last := d.First
	for _, i := range d.rollerOrder(slots) {
		slots[i].CleanMin = d.setup(last, d.Tasks[i].Class)
		last = d.Tasks[i].Class
	}
}

// Faults lists every rule that those slots break; none of them is left out because of another.
func (d *Day) Faults(slots []Slot) []Fault {
	var out []Fault
	add := func(task, other int, why FaultKind, by int, what string) {
		out = append(out, Fault{Task: task, Other: other, Why: why, By: by, What: what})
	}
	for i, s := range slots {
		t := &d.Tasks[i]
		if s.Start < t.From {
			add(i, -1, OutOfHours, t.From-s.Start, "")
		}
		if s.End() > t.To {
			add(i, -1, OutOfHours, s.End()-t.To, "")
		}
		if !t.Hands {
			if s.Min != t.Minutes[0] {
				add(i, -1, CannotDo, 0, "")
			}
			continue
		}
		if s.By < 0 || s.By >= len(d.People) || t.Minutes[s.By] != s.Min {
			add(i, -1, CannotDo, 0, "")
			continue
		}
		for _, off := range d.People[s.By].Off {
			if s.Start-s.CleanMin < off[1] && s.End() > off[0] {
				add(i, -1, OnBreak, min(s.End(), off[1])-max(s.Start-s.CleanMin, off[0]), d.People[s.By].Name)
			}
		}
		for j := range i {
			o := slots[j]
			if d.Tasks[j].Hands && o.By == s.By && s.Start-s.CleanMin < o.End() && o.Start-o.CleanMin < s.End() {
				add(i, j, Busy, min(s.End(), o.End())-max(s.Start-s.CleanMin, o.Start-o.CleanMin), d.People[s.By].Name)
			}
		}
	}
	for _, l := range d.Lags {
		lag := l.B.at(slots) - l.A.at(slots)
		if lag < l.Min {
			add(l.B.Task, l.A.Task, TooSoon, l.Min-lag, string(l.What))
		}
		if l.Max < NoLimit && lag > l.Max {
			add(l.B.Task, l.A.Task, TooLate, lag-l.Max, string(l.What))
		}
	}
	last := -1
	for _, i := range d.rollerOrder(slots) {
		class := d.First
		if last >= 0 {
			class = d.Tasks[last].Class
			if over := slots[last].End() - (slots[i].Start - slots[i].CleanMin); over > 0 {
				add(i, last, RollerBusy, over, "")
			}
		}
		if need := d.setup(class, d.Tasks[i].Class); slots[i].CleanMin < need {
			add(i, last, Unclean, need-slots[i].CleanMin, "")
		}
		last = i
	}
	for k := range d.Stores {
		if over, task := d.overFull(k, slots); over > 0 {
			out = append(out, Fault{Task: task, Other: -1, Why: Full, By: over, What: d.Stores[k].Name, Store: k})
		}
	}
	return out
}

// overFull is how much more a store holds than it can, when it first does, and the task that brings it there.
func (d *Day) overFull(store int, slots []Slot) (over, task int) {
	at := NoLimit
	for _, h := range d.Holds {
		if h.Store != store {
			continue
		}
		t, used := h.From.at(slots), 0
		for _, o := range d.Holds {
			if o.Store == store && o.From.at(slots) <= t && o.To.at(slots) > t {
				used += o.Quantity
			}
		}
		if used > d.Stores[store].Cap && t < at {
			at = t
			over = used - d.Stores[store].Cap
			task = h.From.Task
		}
	}
	return over, task
}

// value is how well slots that break nothing reach the goals; the needs are what each wait takes alone.
func (d *Day) value(slots []Slot, needs []int) Goals {
	var g Goals
	first, last := NoLimit, 0
	for _, s := range slots {
		first, last = min(first, s.Start-s.CleanMin), max(last, s.End())
	}
	if len(slots) > 0 {
		g.Span = max(0, last-first)
	}
	for o := range d.Orders {
		end := d.OrderEnd(o, slots)
		g.Late += max(0, end-d.Orders[o].Due)
		g.Early += max(0, d.Orders[o].Due-end)
	}
	for i, w := range d.Waits {
		g.Wait = max(g.Wait, slots[w.B].End()-slots[w.A].Start-max(w.Limit, needs[i]))
	}
	return g
}

// OrderEnd is when the last task of the order ends, min.
func (d *Day) OrderEnd(o int, slots []Slot) int {
	end := 0
	for _, t := range d.Orders[o].Last {
		end = max(end, slots[t].End())
	}
	return end
}

// Value is how well slots that break nothing reach the goals.
func (d *Day) Value(slots []Slot) Goals { return d.value(slots, d.needs(rollingNodes)) }
