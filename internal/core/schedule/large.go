package schedule

import (
	"cmp"
	"slices"
)

// widths are how many batches are looked at together and how many tasks of them are then settled.
var widths = [][2]int{{6, 5}, {5, 3}, {7, 4}, {4, 3}}

// manyTasks is from how many tasks one width has to do.
const manyTasks = 260

const (
	rollingNodes = 300
	stretchMin   = 180
	stretchNodes = 100
	stretchTwice = 2
)

// Large plans a day of many batches: a few at a time by due date, the first of their tasks settled and on to the next;
// then stretch by
// stretch anew, and at last everything as late as it may be. It is planned with the waits held and, as being on time
// comes before them,
// without; the better plan is kept, and where that makes dough wait, a shorter wait is looked for that is no later.
// ErrNoPlan when it finds
// none. Only the bound says how near it is to the best.
func (d *Day) Large() (*Answer, error) {
	if err := d.Check(); err != nil {
		return nil, err
	}
	needs := d.needs(rollingNodes)
	held := d.within(needs, 0)
	try := widths
	if len(d.Tasks) > manyTasks {
		try = widths[:1]
	}
	var best *Answer
	take := func(slots []Slot) {
		if slots == nil {
			return
		}
		if a := (&Answer{Slots: slots, Goals: d.value(slots, needs)}); best == nil || a.Goals.Less(best.Goals) {
			best = a
		}
	}
	for _, w := range try {
		take(d.inParts(w, needs, held))
	}
	least := d.leastLate()
	if best == nil || best.Goals.Late > least {
		for _, w := range try {
			if take(d.inParts(w, needs, nil)); best != nil && best.Goals.Late == least {
				break
			}
		}
	}
	if best == nil {
		return &Answer{}, ErrNoPlan
	}
	best = d.lessWait(best, needs, try[0])
	best.Bound = d.lower(needs, best.Goals)
	best.Proved = best.Goals == best.Bound
	return best, nil
}

// inParts is a plan of a large day with so many batches looked at together and no wait longer than said, nil: of any
// length; nil where it
// finds none that breaks nothing.
func (d *Day) inParts(w [2]int, needs, longest []int) []Slot {
	slots := d.rolling(w[0], w[1], longest)
	if slots == nil {
		return nil
	}
	for range stretchTwice {
		slots = d.improved(slots, needs)
	}
	slots = d.better(slots, d.inOrder(slots, d.longest(slots, needs)).pushed(), needs)
	if len(d.Faults(slots)) > 0 {
		return nil
	}
	return slots
}

// waitTries is how often a shorter wait is looked for.
const waitTries = 6

// lessWait looks for plans that are no later and make dough wait less, by halves of what it waits.
func (d *Day) lessWait(best *Answer, needs []int, w [2]int) *Answer {
	lo := 0
	for range waitTries {
		if best.Goals.Wait <= lo {
			break
		}
		mid := (lo + best.Goals.Wait) / 2
		slots := d.inParts(w, needs, d.within(needs, mid))
		if slots == nil {
			lo = mid + 1
			continue
		}
		if a := (&Answer{Slots: slots, Goals: d.value(slots, needs)}); a.Goals.Less(best.Goals) {
			best = a
		} else {
			lo = mid + 1
		}
	}
	return best
}

// within are the waits so much over their limits, which are raised to what each batch needs alone.
func (d *Day) within(needs []int, over int) []int {
	waits := make([]int, len(d.Waits))
	for i, w := range d.Waits {
		waits[i] = max(w.Limit, needs[i]) + over
	}
	return waits
}

// better is the second where it breaks nothing and is no worse than the first.
func (d *Day) better(a, b []Slot, needs []int) []Slot {
	if b == nil || len(d.Faults(b)) > 0 || d.value(a, needs).Less(d.value(b, needs)) {
		return a
	}
	return b
}

// longest is how long each wait may be where none may be worse than the worst of these.
func (d *Day) longest(slots []Slot, needs []int) []int {
	return d.within(needs, d.value(slots, needs).Wait)
}

// everyoneAlike says whether all people do everything in the same time at the same times.
func (d *Day) everyoneAlike() bool {
	s := solver{day: d}
	for p := 1; p < len(d.People); p++ {
		if !s.alike(0, p) {
			return false
		}
	}
	return true
}

// queue are the batches by when their order is due, then by how dark their dough is.
func (d *Day) queue() []int {
	due, class := map[int]int{}, map[int]int{}
	for _, t := range d.Tasks {
		if _, seen := due[t.Batch]; !seen {
			due[t.Batch] = NoLimit
		}
		class[t.Batch] = max(class[t.Batch], t.Class)
	}
	for _, o := range d.Orders {
		for _, t := range o.Last {
			due[d.Tasks[t].Batch] = min(due[d.Tasks[t].Batch], o.Due)
		}
	}
	var all []int
	for b := range due {
		all = append(all, b)
	}
	slices.SortFunc(all, func(a, b int) int {
		return cmp.Or(cmp.Compare(due[a], due[b]), cmp.Compare(class[a], class[b]), cmp.Compare(a, b))
	})
	return all
}

// rolling is the first plan of a large day, no wait longer than said where that can be; nil when a part of it cannot be
// planned.
func (d *Day) rolling(width, settle int, longest []int) []Slot {
	slots := make([]Slot, len(d.Tasks))
	fixed := make([]bool, len(d.Tasks))
	left := map[int][]int{}
	for i := range d.Tasks {
		left[d.Tasks[i].Batch] = append(left[d.Tasks[i].Batch], i)
	}
	queue := d.queue()
	from, alike := 0, d.everyoneAlike()
	for len(queue) > 0 {
		var free []int
		for _, b := range queue[:min(width, len(queue))] {
			free = append(free, left[b]...)
		}
		w := d.window(slots, fixed, free, from, alike, longest)
		got := w.solve(rollingNodes)
		if got == nil {
			got = w.solve(20 * rollingNodes)
		}
		if got == nil {
			return nil
		}
		order := slices.Clone(free)
		for i, at := range w.of {
			if !fixed[at] {
				slots[at] = got[i]
			}
		}
		slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(slots[a].Start, slots[b].Start) })
		if len(queue) > width {
			order = order[:min(settle, len(order))]
		}
		for _, i := range order {
			fixed[i] = true
			b := d.Tasks[i].Batch
			left[b] = slices.DeleteFunc(left[b], func(x int) bool { return x == i })
			from = max(from, slots[i].Start)
		}
		queue = slices.DeleteFunc(queue, func(b int) bool { return len(left[b]) == 0 })
	}
	d.Clean(slots)
	return slots
}

// window is a part of a day: some tasks free, those around them as they stand.
type window struct {
	sub   *Day
	of    []int
	tails []int
	extra [][]last
	waits []int
}

// window takes the free tasks out, none before from, with the fixed ones that reach in.
func (d *Day) window(slots []Slot, fixed []bool, free []int, from int, alike bool, longest []int) *window {
	in := make([]bool, len(d.Tasks))
	for _, i := range free {
		in[i] = true
	}
	keep := slices.Clone(in)
	bind := func(a, b int) {
		if in[a] && fixed[b] {
			keep[b] = true
		} else if in[b] && fixed[a] {
			keep[a] = true
		}
	}
	for _, l := range d.Lags {
		bind(l.A.Task, l.B.Task)
	}
	for i := range d.Tasks {
		keep[i] = keep[i] || fixed[i] && slots[i].End() > from
	}
	for _, h := range d.Holds {
		a, b := h.From.Task, h.To.Task
		bind(a, b)
		if fixed[a] && fixed[b] && h.To.at(slots) > from {
			keep[a], keep[b] = true, true
		}
	}
	for _, w := range d.Waits {
		bind(w.A, w.B)
	}
	w := &window{}
	class, when := d.First, -1
	for i := range d.Tasks {
		if keep[i] {
			w.of = append(w.of, i)
		} else if d.Tasks[i].Class >= 0 && fixed[i] && slots[i].Start > when {
			class, when = d.Tasks[i].Class, slots[i].Start
		}
	}
	w.sub = d.part(w.of)
	w.sub.First = class
	w.bound(d, slots, fixed, from, alike, longest)
	return w
}

// bound puts what is fixed where it stands, and the orders and waits in the window’s own numbers.
func (w *window) bound(d *Day, slots []Slot, fixed []bool, from int, alike bool, longest []int) {
	at := map[int]int{}
	first := -1
	for k, i := range w.of {
		at[i] = k
		t := &w.sub.Tasks[k]
		if !fixed[i] {
			t.From = max(t.From, from)
			continue
		}
		t.From, t.To = slots[i].Start, slots[i].End()
		t.Minutes = slices.Repeat([]int{slots[i].Min}, max(1, len(d.People)))
		t.By = slots[i].By + 1
		if t.Hands && t.To <= from { // done before: nobody is needed for it any more
			t.Hands, t.By = false, 0
		}
		if !alike && t.Hands {
			for p := range t.Minutes {
				if p != slots[i].By {
					t.Minutes[p] = -1
				}
			}
		}
		if t.Class >= 0 && (first < 0 || slots[i].Start < slots[w.of[first]].Start) {
			first = k
		}
	}
	if first >= 0 {
		w.sub.First = w.sub.Tasks[first].Class // its cleaning lies behind
	}
	for _, o := range d.Orders {
		var ends []int
		for _, t := range o.Last {
			if k, ok := at[t]; ok {
				ends = append(ends, k)
			}
		}
		if len(ends) > 0 {
			w.sub.Orders = append(w.sub.Orders, Order{o.Name, o.Due, ends})
		}
	}
	for i, x := range d.Waits {
		a, ok := at[x.A]
		b, too := at[x.B]
		if ok && too {
			w.sub.Waits = append(w.sub.Waits, Wait{a, b, x.Limit})
			if longest != nil {
				w.waits = append(w.waits, longest[i])
			}
		}
	}
}

// solve plans the window to end soon; nil when it cannot.
func (w *window) solve(nodes int) []Slot {
	for _, waits := range [][]int{w.waits, nil} {
		s := newSolver(w.sub, byEnd, nodes)
		s.plain = nodes == stretchNodes
		s.waits = waits
		if w.tails != nil {
			s.tails = w.tails
		}
		for o, more := range w.extra {
			s.lasts[o] = append(s.lasts[o], more...)
		}
		if s.run(); s.found {
			return s.named()
		}
		if s = newSolver(w.sub, byLate, nodes); true { // the first plan found, whatever its end
			s.waits = waits
			if s.run(); s.found {
				return s.named()
			}
		}
	}
	return nil
}

// improved plans the day anew stretch by stretch: what is before it stays, what follows keeps its order and shows as
// what each free task still has behind it.
func (d *Day) improved(slots []Slot, needs []int) []Slot {
	waits := d.longest(slots, needs)
	left := func(s []Slot) []Slot {
		l := d.inOrder(s, waits)
		at, ok := l.earliest(make([]int, len(s)))
		if !ok {
			return nil
		}
		out := slices.Clone(l.slots)
		for i := range out {
			out[i].Start = at[i]
		}
		return out
	}
	now := d.better(slots, left(slots), needs)
	alike := d.everyoneAlike()
	end := 0
	for _, s := range now {
		end = max(end, s.End())
	}
	for from := 0; from < end; from += stretchMin / 2 {
		var free []int
		fixed := make([]bool, len(now))
		for i, s := range now {
			if fixed[i] = s.Start < from; !fixed[i] && s.Start < from+stretchMin {
				free = append(free, i)
			}
		}
		if len(free) < 2 {
			continue
		}
		w := d.window(now, fixed, free, from, alike, waits)
		w.tail(d, now, from+stretchMin)
		got := w.solve(stretchNodes)
		if got == nil {
			continue
		}
		next := slices.Clone(now)
		for i := range next {
			if next[i].Start >= from+stretchMin {
				next[i].Start += NoLimit / 16 // keeps its order behind the stretch
			}
		}
		for k, i := range w.of {
			if !fixed[i] {
				next[i] = got[k]
			}
		}
		if moved := left(next); moved != nil {
			now = d.sooner(now, moved, waits, needs)
		}
	}
	return now
}

// sooner is the second where it breaks nothing and is no worse once both are as late as they may be.
func (d *Day) sooner(a, b []Slot, waits, needs []int) []Slot {
	if len(d.Faults(b)) > 0 {
		return a
	}
	value := func(s []Slot) Goals { return d.value(d.better(s, d.inOrder(s, waits).pushed(), needs), needs) }
	va, vb := value(a), value(b)
	if va.Less(vb) {
		return a
	}
	return b
}

// tail is what follows each free task behind the stretch, to the end of all and to the end of each order.
func (w *window) tail(d *Day, slots []Slot, to int) {
	after := func(i int) bool { return slots[i].Start >= to }
	n := len(slots)
	line := d.inOrder(slots, nil)
	longest := func(seed []int) []int {
		path := seed
		for range 8 + n {
			moved := false
			for _, a := range line.arcs {
				if a.from != a.to && after(a.to) && path[a.to] > never && path[a.to]+a.min > path[a.from] {
					path[a.from], moved = path[a.to]+a.min, true
				}
			}
			if !moved {
				break
			}
		}
		return path
	}
	// whatever is free on the roller or on one’s hands comes before the first that follows there
	spread := func(path []int) {
		for _, i := range w.of {
			if after(i) {
				continue
			}
			for j := range slots {
				same := d.Tasks[i].Class >= 0 && d.Tasks[j].Class >= 0 || d.Tasks[i].Hands && d.Tasks[j].Hands &&
					len(d.People) == 1
				if after(j) && same && path[j] > never {
					path[i] = max(path[i], path[j]+slots[i].Min+line.slots[j].CleanMin)
				}
			}
		}
	}
	seed := make([]int, n)
	for i := range seed {
		seed[i] = never
		if after(i) {
			seed[i] = slots[i].Min
		}
	}
	path := longest(seed)
	spread(path)
	w.tails = make([]int, len(w.of))
	for k, i := range w.of {
		w.tails[k] = max(0, path[i]-slots[i].Min)
	}
	w.extra = make([][]last, len(w.sub.Orders))
	for _, o := range d.Orders {
		seed := make([]int, n)
		any := false
		for i := range seed {
			seed[i] = never
		}
		for _, t := range o.Last {
			if after(t) {
				seed[t], any = slots[t].Min, true
			}
		}
		if !any {
			continue
		}
		path := longest(seed)
		spread(path)
		var more []last
		for k, i := range w.of {
			if !after(i) && path[i] > never {
				more = append(more, last{task: k, extra: max(0, path[i]-slots[i].Min)})
			}
		}
		w.join(o, more)
	}
}

// join adds what follows to the order’s own ends in the window, or the order itself where it has none there.
func (w *window) join(o Order, more []last) {
	if len(more) == 0 {
		return
	}
	for k := range w.sub.Orders {
		if w.sub.Orders[k].Name == o.Name && w.sub.Orders[k].Due == o.Due {
			w.extra[k] = append(w.extra[k], more...)
			return
		}
	}
	w.sub.Orders = append(w.sub.Orders, Order{Name: o.Name, Due: o.Due})
	w.extra = append(w.extra, more)
}
