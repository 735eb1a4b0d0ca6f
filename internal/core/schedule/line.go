package schedule

import (
	"cmp"
	"slices"
)

// arc says that one task starts no sooner than min after another’s start; from −1: after the clock’s zero.
type arc struct{ from, to, min int }

// line is a day in a fixed order: who follows whom on every pair of hands, on the roller and in every store.
type line struct {
	day   *Day
	slots []Slot
	arcs  []arc
	begun []bool // these stay where they are, whatever binds them; nil: none
}

// inOrder fixes the order in which slots stand; their minutes and people stay. No wait may be longer than given; nil:
// any.
func (d *Day) inOrder(slots []Slot, waits []int) *line {
	l := &line{day: d, slots: slices.Clone(slots)}
	d.Clean(l.slots)
	for _, g := range d.Lags {
		a, b := 0, 0
		if g.A.End {
			a = slots[g.A.Task].Min
		}
		if g.B.End {
			b = slots[g.B.Task].Min
		}
		l.arcs = append(l.arcs, arc{g.A.Task, g.B.Task, g.Min + a - b})
		if g.Max < NoLimit {
			l.arcs = append(l.arcs, arc{g.B.Task, g.A.Task, b - a - g.Max})
		}
	}
	for i, most := range waits {
		w := d.Waits[i]
		l.arcs = append(l.arcs, arc{w.B, w.A, slots[w.B].Min - most})
	}
	follow := func(of []int) {
		for k := 1; k < len(of); k++ {
			i, j := of[k-1], of[k]
			l.arcs = append(l.arcs, arc{i, j, slots[i].Min + l.slots[j].CleanMin})
		}
	}
	follow(d.rollerOrder(slots))
	for p := range d.People {
		var of []int
		for i := range d.Tasks {
			if d.Tasks[i].Hands && slots[i].By == p {
				of = append(of, i)
			}
		}
		slices.SortStableFunc(of, func(a, b int) int { return cmp.Compare(slots[a].Start, slots[b].Start) })
		follow(of)
	}
	for k := range d.Stores {
		l.chain(k)
	}
	return l
}

// chain hands a store's places from task to task: the next task takes the place that was given back first.
func (l *line) chain(store int) {
	type free struct {
		by       Point
		quantity int
	}
	var holds []Hold
	for _, h := range l.day.Holds {
		if h.Store == store && h.Quantity > 0 {
			holds = append(holds, h)
		}
	}
	slices.SortStableFunc(holds, func(a, b Hold) int { return cmp.Compare(a.From.at(l.slots), b.From.at(l.slots)) })
	back := []free{{Point{-1, false}, l.day.Stores[store].Cap}}
	for _, h := range holds {
		slices.SortStableFunc(back, func(a, b free) int {
			at := func(f free) int {
				if f.by.Task < 0 {
					return never
				}
				return f.by.at(l.slots)
			}
			return cmp.Compare(at(a), at(b))
		})
		need := h.Quantity
		for k := 0; need > 0 && k < len(back); k++ {
			take := min(need, back[k].quantity)
			need -= take
			if back[k].quantity -= take; take > 0 && back[k].by.Task >= 0 {
				from, to := 0, 0
				if back[k].by.End {
					from = l.slots[back[k].by.Task].Min
				}
				if h.From.End {
					to = l.slots[h.From.Task].Min
				}
				l.arcs = append(l.arcs, arc{back[k].by.Task, h.From.Task, from - to})
			}
		}
		back = append(back, free{h.To, h.Quantity})
	}
}

// earliest are the least starts no sooner than those given, in this order, none over a break; false when they cannot
// be.
func (l *line) earliest(lo []int) ([]int, bool) {
	at := make([]int, len(l.slots))
	for i := range at {
		at[i] = max(lo[i], l.day.Tasks[i].From)
	}
	for range 8 + 2*len(at) {
		moved := l.pastBreaks(at)
		for _, a := range l.arcs {
			if a.from == a.to || l.begun != nil && l.begun[a.to] {
				continue
			}
			if t := at[a.from] + a.min; t > at[a.to] {
				at[a.to], moved = t, true
			}
		}
		if !moved {
			for i := range at {
				if at[i]+l.slots[i].Min > l.day.Tasks[i].To {
					return at, false
				}
			}
			return at, true
		}
	}
	return at, false
}

// nearer brings tasks back towards their old starts, in this order, as long as that moves fewer minutes than it makes
// others move: what holds
// a task where it is goes with it. No order becomes later, nothing changes its side of a break, and what begun says
// stays.
func (l *line) nearer(old []int) []Slot {
	n := len(l.slots)
	at := make([]int, n)
	lo := make([]int, n)
	hi := make([]int, n)
	for i, s := range l.slots {
		t := &l.day.Tasks[i]
		at[i] = s.Start
		lo[i] = t.From
		hi[i] = t.To - s.Min
		if t.Hands && s.By >= 0 {
			for _, o := range l.day.People[s.By].Off {
				if s.End() <= o[0] {
					hi[i] = min(hi[i], o[0]-s.Min)
				} else {
					lo[i] = max(lo[i], o[1]+s.CleanMin)
				}
			}
		}
		if l.begun != nil && l.begun[i] {
			lo[i], hi[i] = at[i], at[i]
		}
	}
	for o, order := range l.day.Orders {
		end := max(order.Due, l.day.OrderEnd(o, l.slots))
		for _, t := range order.Last {
			hi[t] = min(hi[t], end-l.slots[t].Min)
		}
	}
	for again := true; again; {
		again = false
		for i := range n {
			for at[i] != old[i] {
				sign := 1
				if at[i] > old[i] {
					sign = -1
				}
				step := l.shiftHeld(i, sign, at, old, lo, hi)
				if step == nil {
					break
				}
				at, again = step, true
			}
		}
	}
	out := slices.Clone(l.slots)
	for i := range out {
		out[i].Start = at[i]
	}
	return out
}

// shiftHeld shifts a task and all that is held to it later, sign 1, or earlier, −1, as far as that holds; nil where it
// does not pay.
func (l *line) shiftHeld(i, sign int, at, old, lo, hi []int) []int {
	in := make([]bool, len(at))
	in[i] = true
	for grown := true; grown; {
		grown = false
		for _, a := range l.arcs {
			lead, drawn := a.to, a.from
			if sign > 0 {
				lead, drawn = a.from, a.to
			}
			if in[lead] && !in[drawn] && at[a.to]-at[a.from] <= a.min {
				in[drawn], grown = true, true
			}
		}
	}
	gain, room := 0, NoLimit
	for j := range at {
		if !in[j] {
			continue
		}
		if to := sign * (old[j] - at[j]); to > 0 {
			gain, room = gain+1, min(room, to)
		} else {
			gain--
		}
		if sign > 0 {
			room = min(room, hi[j]-at[j])
		} else {
			room = min(room, at[j]-lo[j])
		}
	}
	for _, a := range l.arcs {
		if in[a.to] != in[a.from] && in[a.to] == (sign < 0) {
			room = min(room, at[a.to]-at[a.from]-a.min)
		}
	}
	if gain <= 0 || room <= 0 {
		return nil
	}
	next := slices.Clone(at)
	for j := range next {
		if in[j] {
			next[j] += sign * room
		}
	}
	return next
}

func (l *line) pastBreaks(at []int) bool {
	moved := false
	for i, s := range l.slots {
		if !l.day.Tasks[i].Hands || s.By < 0 || l.begun != nil && l.begun[i] {
			continue
		}
		for _, o := range l.day.People[s.By].Off {
			if at[i]-s.CleanMin < o[1] && at[i]+s.Min > o[0] {
				at[i], moved = o[1]+s.CleanMin, true
			}
		}
	}
	return moved
}

// latest are the greatest starts no later than those given, in this order, every task on its side of every break.
func (l *line) latest(hi []int) ([]int, bool) {
	at := make([]int, len(l.slots))
	for i, s := range l.slots {
		at[i] = min(hi[i], l.day.Tasks[i].To-s.Min)
		if !l.day.Tasks[i].Hands || s.By < 0 {
			continue
		}
		for _, o := range l.day.People[s.By].Off {
			if s.End() <= o[0] {
				at[i] = min(at[i], o[0]-s.Min)
			}
		}
	}
	for range 8 + 2*len(at) {
		moved := false
		for _, a := range l.arcs {
			if a.from == a.to {
				continue
			}
			if t := at[a.to] - a.min; t < at[a.from] {
				at[a.from], moved = t, true
			}
		}
		if !moved {
			return at, true
		}
	}
	return at, false
}

// pushed puts everything as late as it may be, in this order, with the orders no later and the day no longer.
func (l *line) pushed() []Slot {
	zero := make([]int, len(l.slots))
	early, ok := l.earliest(zero)
	if !ok {
		return l.slots
	}
	sided := slices.Clone(l.slots)
	for i := range sided {
		sided[i].Start = early[i]
	}
	l = &line{day: l.day, slots: sided, arcs: l.arcs}
	hi := make([]int, len(early))
	for i := range hi {
		hi[i] = NoLimit
	}
	for o := range l.day.Orders {
		end := max(l.day.Orders[o].Due, l.day.OrderEnd(o, sided))
		for _, t := range l.day.Orders[o].Last {
			hi[t] = min(hi[t], end-sided[t].Min)
		}
	}
	late, ok := l.latest(hi)
	if !ok {
		return sided
	}
	first := NoLimit
	for i, s := range sided {
		first = min(first, late[i]-s.CleanMin)
	}
	for i, s := range sided {
		zero[i] = first + s.CleanMin
	}
	soon, ok := l.earliest(zero)
	if !ok {
		return sided
	}
	end := 0
	for i, s := range sided {
		end = max(end, soon[i]+s.Min)
	}
	for i, s := range sided {
		hi[i] = min(hi[i], end-s.Min)
	}
	if late, ok = l.latest(hi); !ok {
		return sided
	}
	out := slices.Clone(sided)
	for i := range out {
		out[i].Start = late[i]
	}
	if len(l.day.Faults(out)) > 0 {
		return sided
	}
	return out
}
