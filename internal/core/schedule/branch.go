package schedule

import (
	"cmp"
	"slices"
)

// edit settles one thing: S_v − S_u ≥ w, or with u below 0 that task v is done by pool w.
type edit struct{ u, v, w int }

// way is one way out of a conflict.
type way []edit

func (s *solver) apply(x *node, w way) bool {
	for _, e := range w {
		if e.u < 0 {
			if !s.give(x, e.v, e.w) {
				return false
			}
			continue
		}
		if !x.add(e.u, e.v, e.w) {
			return false
		}
	}
	return true
}

// conflict finds what the candidate of a node breaks and the ways out of it, nil when it breaks nothing. The ways
// leave out no day, and none of them holds another’s.
func (s *solver) conflict(x *node) []way {
	if w := s.dayBreak(x); w != nil {
		return w
	}
	ways, when := s.overlap(x)
	if full := s.overFull(x, when); full != nil {
		return full
	}
	if ways != nil {
		return ways
	}
	if w := s.uncleaned(x); w != nil {
		return w
	}
	return s.somebody(x)
}

// dayBreak asks of each break of all whether it lies before, after or inside the day.
func (s *solver) dayBreak(x *node) []way {
	if len(s.pools) != 1 || !s.inner || s.mode != bySpan {
		return nil
	}
	for _, o := range s.pools[0].off {
		after := x.get(0, s.f) >= o[1]
		before := x.get(s.g, 0) > never && -x.get(s.g, 0) <= o[0]
		inside := x.get(0, s.g) > o[0] && x.get(s.f, 0) > never && -x.get(s.f, 0) < o[0]
		if after || before || inside {
			continue
		}
		return []way{{{s.f, 0, 1 - o[0]}, {0, s.g, o[1] + 1}}, {{s.f, 0, 1 - o[0]}, {s.g, 0, -o[0]}}, {{0, s.f, o[1]}}}
	}
	return nil
}

func (s *solver) first(x *node, i, j int) edit {
	return edit{i + 1, j + 1, int(x.dmin[i]) + int(x.clean[j])}
}

// overlap finds, of all pairs that cannot run at the same time and of all tasks over a break, the one with the least
// room: what the larger slack of its two orders leaves.
func (s *solver) overlap(x *node) (ways []way, when int) {
	least := NoLimit
	when = NoLimit
	for i := range s.n {
		from, to := x.at[i]-int(x.clean[i]), x.at[i]+int(x.dmin[i])
		for j := i + 1; j < s.n; j++ {
			if x.at[j]-int(x.clean[j]) >= to || from >= x.at[j]+int(x.dmin[j]) || !s.rivals(x, i, j) {
				continue
			}
			iFirst, jFirst := s.first(x, i, j), s.first(x, j, i)
			if slack := max(-x.get(j+1, i+1)-iFirst.w, -x.get(i+1, j+1)-jFirst.w); slack < least {
				least = slack
				ways = []way{{iFirst}, {jFirst}}
				when = max(from, x.at[j]-int(x.clean[j]))
			}
		}
		if x.pool[i] < 0 {
			continue
		}
		for _, o := range s.pools[x.pool[i]].off {
			if to <= o[0] || from >= o[1] {
				continue
			}
			before := edit{i + 1, 0, int(x.dmin[i]) - o[0]}
			after := edit{0, i + 1, o[1] + int(x.clean[i])}
			slack := max(o[0]-int(x.dmin[i])-x.get(0, i+1), -x.get(i+1, 0)-after.w)
			if slack < least {
				least = slack
				ways = []way{{before}, {after}}
				when = max(from, o[0])
			}
		}
	}
	return ways, when
}

// using is something that takes up a quantity for a while.
type using struct {
	from, to int
	quantity int
	a, b     Point // its ends
	task     int   // of a person’s work, −1 for a hold
}

// overFull finds the first moment before a time at which a store or a pool of several people is over-used, and one way
// out for every two of a smallest over-full set, the first ended before the second begins.
func (s *solver) overFull(x *node, before int) []way {
	at := before
	var full []using
	look := func(all []using, limit int) {
		slices.SortStableFunc(all, func(a, b using) int { return cmp.Compare(a.from, b.from) })
		for i, u := range all {
			if u.from >= at {
				return
			}
			used := 0
			var now []using
			for _, o := range all[:i+1] {
				if o.to > u.from {
					used += o.quantity
					now = append(now, o)
				}
			}
			if used > limit {
				at, full = u.from, smallest(now, limit)
				return
			}
		}
	}
	for k := range s.day.Stores {
		var all []using
		for _, h := range s.day.Holds {
			if h.Store != k {
				continue
			}
			u := using{from: x.at[h.From.Task] + off(h.From, x.dmin), to: x.at[h.To.Task] + off(h.To, x.dmin),
				quantity: h.Quantity,
				a:        h.From, b: h.To, task: -1}
			if u.to > u.from && u.quantity > 0 {
				all = append(all, u)
			}
		}
		look(all, s.day.Stores[k].Cap)
	}
	for p := range s.pools {
		if len(s.pools[p].members) < 2 {
			continue
		}
		var all []using
		for i := range s.n {
			if x.pool[i] == int8(p) {
				all = append(all, using{from: x.at[i] - int(x.clean[i]), to: x.at[i] + int(x.dmin[i]), quantity: 1,
					task: i})
			}
		}
		look(all, len(s.pools[p].members))
	}
	if full == nil {
		return nil
	}
	return s.apart(x, full)
}

// smallest is a smallest set of those that is over the limit, the largest first.
func smallest(now []using, limit int) []using {
	slices.SortStableFunc(now, func(a, b using) int { return cmp.Compare(b.quantity, a.quantity) })
	used := 0
	for i, u := range now {
		if used += u.quantity; used > limit {
			return now[:i+1]
		}
	}
	return now
}

// apart has one of a set end before another begins, in every way there is; each way leaves out those before it.
func (s *solver) apart(x *node, set []using) []way {
	for _, u := range set { // who does it comes first: a quantity held to an end must know the end
		for _, p := range []Point{u.a, u.b} {
			if u.task < 0 && p.End && x.pool[p.Task] == openPool {
				return s.givers(p.Task)
			}
		}
	}
	ways := []way{}
	var not way
	for i, a := range set {
		for j, b := range set {
			if i == j {
				continue
			}
			var e edit
			if a.task >= 0 {
				e = s.first(x, a.task, b.task)
			} else {
				e = edit{a.b.Task + 1, b.a.Task + 1, off(a.b, x.dmin) - off(b.a, x.dmin)}
			}
			if e.u == e.v {
				continue // what hangs on one task never changes
			}
			ways = append(ways, append(slices.Clone(not), e))
			not = append(not, edit{e.v, e.u, 1 - e.w})
		}
	}
	return ways
}

// uncleaned finds a roller task whose cleaning is longer than counted, and an order around it that is still open.
func (s *solver) uncleaned(x *node) []way {
	if len(s.day.Setup) == 0 {
		return nil
	}
	on := slices.Clone(s.roller)
	slices.SortStableFunc(on, func(a, b int) int { return cmp.Compare(x.at[a], x.at[b]) })
	class, last := s.day.First, -1
	for _, j := range on {
		if s.day.setup(class, s.day.Tasks[j].Class) > int(x.clean[j]) {
			if w := s.openOrder(x, on, last, j); w != nil {
				return w
			}
		}
		class, last = s.day.Tasks[j].Class, j
	}
	return nil
}

func (s *solver) openOrder(x *node, on []int, i, j int) []way {
	settled := func(a, b int) bool { return s.before(x, a, b) || s.before(x, b, a) }
	orders := func(a, b int) []way { return []way{{s.first(x, a, b)}, {s.first(x, b, a)}} }
	if i >= 0 && !settled(i, j) {
		return orders(i, j)
	}
	for _, k := range on {
		if k != i && k != j {
			if !settled(k, j) {
				return orders(k, j)
			}
			if i >= 0 && !settled(k, i) {
				return orders(k, i)
			}
		}
	}
	for a := range on {
		for b := range on[:a] {
			if !settled(on[a], on[b]) {
				return orders(on[b], on[a])
			}
		}
	}
	return nil
}

// somebody asks who does the earliest task that is still open.
func (s *solver) somebody(x *node) []way {
	first := -1
	for i := range s.n {
		if x.pool[i] == openPool && (first < 0 || x.at[i] < x.at[first]) {
			first = i
		}
	}
	if first < 0 {
		return nil
	}
	return s.givers(first)
}

func (s *solver) givers(i int) []way {
	var ways []way
	for p, m := range s.minutes[i] {
		if m > 0 {
			ways = append(ways, way{{-1, i, p}})
		}
	}
	return ways
}
