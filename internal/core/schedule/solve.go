package schedule

import "slices"

// Solve plans a day of few batches and proves it where the tree closes; limit is a number of nodes, of which a search
// takes twice as many
// at most. ErrNoPlan: no plan keeps every lag, store and hour, or none was found; Answer.Proved then says whether there
// is none.
func (d *Day) Solve(limit int) (*Answer, error) {
	if err := d.Check(); err != nil {
		return nil, err
	}
	needs := d.needs(limit)
	a := &Answer{Proved: true}
	search := func(m mode, w int) *solver {
		s := newSolver(d, m, limit)
		if w >= 0 {
			s.waits = make([]int, len(d.Waits))
			for i := range s.waits {
				s.waits[i] = max(d.Waits[i].Limit, needs[i]) + w
			}
		}
		s.run()
		a.Nodes += s.nodes
		a.Proved = a.Proved && !s.open
		return s
	}
	r := search(bySpan, 0)
	w := 0
	if !r.found || r.best[0] > 0 {
		loose := search(byLate, -1)
		if !loose.found {
			return a, ErrNoPlan
		}
		least := loose.best[0]
		if !r.found || r.best[0] > least {
			hi := d.value(loose.named(), needs).Wait
			lo := 0
			for lo < hi {
				mid := (lo + hi) / 2
				if t := search(byLate, mid); t.found && t.best[0] <= least {
					hi = mid
				} else {
					lo = mid + 1
				}
			}
			w = hi
			r = search(bySpan, w)
			if !r.found {
				r = loose
			}
		}
	}
	a.Slots = r.named()
	a.Goals = d.value(a.Slots, needs)
	a.Bound = a.Goals
	if !a.Proved {
		a.Bound = d.lower(needs, a.Goals)
	}
	return a, nil
}

// tightTasks is up to how many tasks a day’s bound is tightened: it takes the cube of them.
const tightTasks = 300

// lower bounds every goal of a day that has a plan of these goals, the later ones left free: no plan is less late; none
// that is no later
// makes dough wait less; and none that is neither later nor makes it wait longer is shorter.
func (d *Day) lower(needs []int, g Goals) Goals {
	low := Goals{Late: min(g.Late, d.leastLate())}
	lo, hi := 0, g.Wait // the least wait that is not ruled out
	for lo < hi {
		mid := (lo + hi) / 2
		if d.start(d.within(needs, mid), g.Late) != nil {
			hi = mid
		} else {
			lo = mid + 1
		}
	}
	low.Wait = lo
	if s := d.start(d.within(needs, g.Wait), g.Late); s != nil {
		low.Span = min(g.Span, s.leastSpan(g.Late))
	}
	return low
}

// leastLate is what all orders together are late at the least, whatever waits.
func (d *Day) leastLate() int {
	s := newSolver(d, byLate, 1)
	x := s.root()
	if x == nil || len(d.Tasks) <= tightTasks && !s.tighten(x) {
		return 0
	}
	return max(s.lateness(x), s.lateWork(x))
}

// begun is a day before anything is settled, with what follows from how long it may wait and how late it may be.
type begun struct {
	*solver
	at *node
}

// start settles what follows from waits no longer than these and orders no later in all than that; nil where nothing
// can be.
func (d *Day) start(waits []int, late int) *begun {
	s := newSolver(d, bySpan, 1)
	s.waits = waits
	s.found, s.best = true, key{late, NoLimit}
	x := s.root()
	if x == nil || len(d.Tasks) <= tightTasks && !s.tighten(x) || max(s.lateness(x), s.lateWork(x)) > late {
		return nil
	}
	return &begun{s, x}
}

// leastSpan is from first touch to last at the least, orders no later in all than that.
func (b *begun) leastSpan(late int) int {
	s, x := b.solver, b.at
	s.allow(late - s.lateness(x))
	s.latest(x)
	return s.spanOf(x, s.firstTouch(x))
}

// allow lets each order end so much later than at its least: which of them is late is open.
func (s *solver) allow(more int) {
	for o := range s.late {
		s.late[o] += more
	}
}

// KeepNeeds works out what each wait takes when its batch has the shop to itself, and keeps it with the day.
func (d *Day) KeepNeeds() {
	d.Needs = nil
	d.Needs = d.needs(rollingNodes)
}

// needs are what each wait takes when its batch has the shop to itself, min.
func (d *Day) needs(limit int) []int {
	if d.Needs != nil {
		return d.Needs
	}
	needs := make([]int, len(d.Waits))
	for i, w := range d.Waits {
		sub, of := d.batch(d.Tasks[w.A].Batch)
		a, b := slices.Index(of, w.A), slices.Index(of, w.B)
		sub.Waits = []Wait{{A: a, B: b, Limit: 0}}
		s := newSolver(sub, byLate, limit)
		x := s.root()
		if x == nil || !s.tighten(x) {
			continue
		}
		needs[i] = x.get(a+1, b+1) + int(x.dmin[b])
		for lo, hi := needs[i], NoLimit/16; lo < hi; {
			mid := lo
			if hi < NoLimit/16 {
				mid = (lo + hi) / 2
			}
			t := newSolver(sub, byLate, limit)
			t.waits = []int{mid}
			if t.run(); t.found {
				hi = mid
				needs[i] = mid
			} else if lo = mid + 1; hi == NoLimit/16 {
				t = newSolver(sub, byLate, limit)
				if t.run(); !t.found {
					break
				}
				slots := t.named()
				hi = max(lo, slots[b].End()-slots[a].Start)
				needs[i] = hi
			}
		}
	}
	return needs
}

// batch is the day of one batch that has the shop to itself, without orders, and which of the tasks are in it.
func (d *Day) batch(b int) (*Day, []int) {
	var of []int
	for i := range d.Tasks {
		if d.Tasks[i].Batch == b {
			of = append(of, i)
		}
	}
	return d.part(of), of
}

// part is the day of some tasks alone, with what binds them among themselves.
func (d *Day) part(of []int) *Day {
	at := make(map[int]int, len(of))
	sub := &Day{Stores: d.Stores, People: d.People, Setup: d.Setup, First: d.First}
	for k, i := range of {
		at[i] = k
		sub.Tasks = append(sub.Tasks, d.Tasks[i])
	}
	both := func(a, b Point) (Point, Point, bool) {
		i, ok := at[a.Task]
		j, too := at[b.Task]
		return Point{i, a.End}, Point{j, b.End}, ok && too
	}
	for _, l := range d.Lags {
		if a, b, ok := both(l.A, l.B); ok {
			l.A, l.B = a, b
			sub.Lags = append(sub.Lags, l)
		}
	}
	for _, h := range d.Holds {
		if a, b, ok := both(h.From, h.To); ok {
			h.From, h.To = a, b
			sub.Holds = append(sub.Holds, h)
		}
	}
	return sub
}
