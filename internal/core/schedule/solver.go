package schedule

import (
	"cmp"
	"slices"
)

// mode is what a search makes least.
type mode int

const (
	bySpan  mode = iota // late, span, early; everything as late as it may be
	byLate              // late alone
	byEnd               // late, then the end of all; everything as early as it may be
	byMoves             // late, then the minutes moved from an older plan
)

// pool is people who are alike: who of them does it is settled last.
type pool struct {
	members []int
	off     [][2]int
}

// last is a task that ends an order, and what follows it until that order is ended, min; or an order that ends when it
// begins.
type last struct {
	task, extra int
	begin       bool
}

// behind is what lies between the start of the task and the end of the order, min.
func (l last) behind(takes int) int {
	if l.begin {
		return l.extra
	}
	return takes + l.extra
}

// solver searches one day under one goal.
type solver struct {
	day     *Day
	mode    mode
	waits   []int // the longest each wait may be, min; nil: none
	old     []int // byMoves: the starts as they were
	limit   int
	n, f, g int
	pools   []pool
	minutes [][]int // by task and pool
	lasts   [][]last
	tails   []int   // what follows each task until the end of all, besides its own minutes
	touches [][]int // the lags of each task
	roller  []int
	plain   bool     // goes through the ways in their order and no more
	nobody  [][2]int // when everybody is off
	rolled  bool     // nothing is on the roller without hands
	inner   bool     // every machine’s task lies between two of somebody: the day begins and ends with hands
	dues    []int
	orderOf [2][]int

	nodes int
	open  bool
	found bool
	best  key
	slots []Slot
	free  []*node

	late     []int // scratch from here: the least end of each order, or its due
	lo, hi   []int
	jobs     []job
	one, two []int
}

func newSolver(d *Day, m mode, limit int) *solver {
	n := len(d.Tasks)
	s := &solver{day: d, mode: m, limit: limit, n: n, f: n + 1, g: n + 2, tails: make([]int, n), touches: make([][]int,
		n),
		late: make([]int, len(d.Orders)), lo: make([]int, n), hi: make([]int, n), jobs: make([]job, 0, n+8),
		one: make([]int, n+64), two: make([]int, n+64)}
	for p := range d.People {
		at := slices.IndexFunc(s.pools, func(o pool) bool { return s.alike(o.members[0], p) })
		if at < 0 {
			s.pools = append(s.pools, pool{off: d.People[p].Off})
			at = len(s.pools) - 1
		}
		s.pools[at].members = append(s.pools[at].members, p)
	}
	if s.rolled = true; len(s.pools) > 0 {
		s.nobody = s.pools[0].off
		for _, p := range s.pools[1:] {
			s.nobody = common(s.nobody, p.off)
		}
	}
	s.minutes = make([][]int, n)
	for i := range d.Tasks {
		t := &d.Tasks[i]
		for _, p := range s.pools {
			s.minutes[i] = append(s.minutes[i], t.minutes(p.members[0]))
		}
		if !t.Hands {
			s.minutes[i] = t.Minutes[:1]
		}
		if t.Class >= 0 {
			s.roller = append(s.roller, i)
			s.rolled = s.rolled && t.Hands
		}
	}
	for i, l := range d.Lags {
		s.touches[l.A.Task] = append(s.touches[l.A.Task], i)
		if l.B.Task != l.A.Task {
			s.touches[l.B.Task] = append(s.touches[l.B.Task], i)
		}
	}
	for _, o := range d.Orders {
		var ends []last
		for _, t := range o.Last {
			ends = append(ends, last{task: t})
		}
		s.lasts = append(s.lasts, ends)
		s.dues = append(s.dues, o.Due)
	}
	slices.Sort(s.dues)
	s.inner = s.handsAround()
	return s
}

// common are the times in both, each in order.
func common(a, b [][2]int) (both [][2]int) {
	for _, x := range a {
		for _, y := range b {
			if from, to := max(x[0], y[0]), min(x[1], y[1]); from < to {
				both = append(both, [2]int{from, to})
			}
		}
	}
	return both
}

// alike says whether two people do everything in the same time and are off at the same times.
func (s *solver) alike(a, b int) bool {
	if !slices.Equal(s.day.People[a].Off, s.day.People[b].Off) {
		return false
	}
	for i := range s.day.Tasks {
		if t := &s.day.Tasks[i]; t.Hands && t.Minutes[a] != t.Minutes[b] {
			return false
		}
	}
	return true
}

// handsAround says whether every machine’s task follows one of somebody and is followed by one.
func (s *solver) handsAround() bool {
	for i := range s.day.Tasks {
		if s.day.Tasks[i].Hands {
			continue
		}
		before, after := false, false
		for _, l := range s.touches[i] {
			lag := s.day.Lags[l]
			before = before || lag.B.Task == i && s.day.Tasks[lag.A.Task].Hands && lag.Min >= 0
			after = after || lag.A == Point{i, true} && s.day.Tasks[lag.B.Task].Hands && lag.Min >= 0
		}
		if !before || !after {
			return false
		}
	}
	return true
}

// take is a node to work in, from those given back.
func (s *solver) take() *node {
	if n := len(s.free); n > 0 {
		x := s.free[n-1]
		s.free = s.free[:n-1]
		return x
	}
	return &node{}
}

// root is the day before anything is settled; nil when it cannot be.
func (s *solver) root() *node {
	size := s.n + 3
	x := &node{size: size, d: make([]int32, size*size), pool: make([]int8, s.n), dmin: make([]int32, s.n),
		dmax:  make([]int32, s.n),
		clean: make([]int32, s.n), at: make([]int, s.n)}
	for i := range x.d {
		x.d[i] = never
	}
	for i := range size {
		x.d[i*size+i] = 0
	}
	ok := x.add(0, s.f, 0) && x.add(s.f, s.g, 0)
	for i := range s.n {
		x.dmin[i] = NoLimit
		x.dmax[i] = 0
		x.pool[i] = openPool
		can := 0
		for p, m := range s.minutes[i] {
			if m > 0 {
				x.dmin[i], x.dmax[i] = min(x.dmin[i], int32(m)), max(x.dmax[i], int32(m))
				x.pool[i] = int8(p)
				can++
			}
		}
		switch {
		case can == 0:
			return nil
		case !s.day.Tasks[i].Hands:
			x.pool[i] = machinePool
		case can > 1:
			x.pool[i] = openPool
		}
		t := &s.day.Tasks[i]
		ok = ok && x.add(0, i+1, t.From) && x.add(s.f, i+1, 0) && s.emit(x, i)
	}
	if !ok {
		return nil
	}
	return x
}

// off is what a point lies after its task’s start: its minutes for an end.
func off(p Point, minutes []int32) int {
	if p.End {
		return int(minutes[p.Task])
	}
	return 0
}

// emit settles everything that hangs on how long a task takes, as weak as its people leave it.
func (s *solver) emit(x *node, i int) bool {
	for _, at := range s.touches[i] {
		l := &s.day.Lags[at]
		a, b := l.A.Task+1, l.B.Task+1
		if !x.add(a, b, l.Min+off(l.A, x.dmin)-off(l.B, x.dmax)) {
			return false
		}
		if l.Max < NoLimit && !x.add(b, a, off(l.B, x.dmin)-off(l.A, x.dmax)-l.Max) {
			return false
		}
	}
	for at, most := range s.waits {
		if w := s.day.Waits[at]; (w.A == i || w.B == i) && !x.add(w.B+1, w.A+1, int(x.dmin[w.B])-most) {
			return false
		}
	}
	return x.add(i+1, s.g, int(x.dmin[i])+s.tails[i]) && x.add(i+1, 0, int(x.dmin[i])-s.day.Tasks[i].To)
}

// give settles who does a task.
func (s *solver) give(x *node, i, p int) bool {
	x.pool[i] = int8(p)
	x.dmin[i], x.dmax[i] = int32(s.minutes[i][p]), int32(s.minutes[i][p])
	return s.emit(x, i)
}

// alone says whether the pool is one person.
func (s *solver) alone(p int8) bool { return p >= 0 && len(s.pools[p].members) == 1 }

// rivals says whether two tasks can never run at the same time.
func (s *solver) rivals(x *node, i, j int) bool {
	return s.day.Tasks[i].Class >= 0 && s.day.Tasks[j].Class >= 0 || x.pool[i] == x.pool[j] && s.alone(x.pool[i])
}

// lateness is Σ max(0, end − due) at the least, and leaves in s.late what each order’s end may then be.
func (s *solver) lateness(x *node) int {
	total := 0
	for o := range s.day.Orders {
		due := s.day.Orders[o].Due
		s.late[o] = due
		for _, l := range s.lasts[o] {
			s.late[o] = max(s.late[o], x.get(0, l.task+1)+l.behind(int(x.dmin[l.task])))
		}
		total += s.late[o] - due
	}
	return total
}

// lateWork is how late the orders are at the least for the work they take on one pair of hands and on the roller.
func (s *solver) lateWork(x *node) int {
	if len(s.day.Orders) == 0 || s.old != nil {
		return 0
	}
	bound := 0
	if len(s.pools) == 1 && s.alone(0) {
		bound = s.lateOn(x, 0, func(i int) bool { return s.day.Tasks[i].Hands })
	}
	if len(s.roller) > 0 {
		bound = max(bound, s.lateOn(x, 1, func(i int) bool { return s.day.Tasks[i].Class >= 0 }))
	}
	return bound
}

func (s *solver) lateOn(x *node, kind int, on func(int) bool) int {
	if s.orderOf[kind] == nil {
		s.orderOf[kind] = s.share(x, on)
	}
	jobs := s.jobs[:0]
	for range s.day.Orders {
		jobs = append(jobs, job{head: NoLimit})
	}
	for i, o := range s.orderOf[kind] {
		if o >= 0 {
			jobs[o].work += int(x.dmin[i]) + int(x.clean[i])
			jobs[o].head = min(jobs[o].head, x.get(0, i+1)-int(x.clean[i]))
		}
	}
	for _, j := range jobs {
		if j.work == 0 {
			return 0
		}
	}
	var breaks [][2]int
	if kind == 0 || s.rolled {
		breaks = s.nobody
	}
	return shortestFirst(jobs, s.dues, breaks, s.one)
}

// share gives every task to one of the orders it must come before, the first due.
func (s *solver) share(x *node, on func(int) bool) []int {
	of := make([]int, s.n)
	for i := range of {
		of[i] = -1
		if !on(i) {
			continue
		}
		for o := range s.day.Orders {
			for _, l := range s.lasts[o] {
				if (l.task == i || x.get(i+1, l.task+1) >= 0 && l.extra == 0) && (of[i] < 0 ||
					s.day.Orders[o].Due < s.day.Orders[of[i]].Due) {
					of[i] = o
				}
			}
		}
	}
	return of
}

// run searches the whole tree, as far as its nodes reach.
//
// A search that does not close in half its nodes may have taken a wrong way near the top, and stays below it: half as
// many more look at
// what lies near the first ways, other ways taken at a few turns alone; with the best of these the whole is gone
// through again.
func (s *solver) run() {
	x := s.root()
	if x == nil || !s.tighten(x) {
		return
	}
	s.bound(x)
	if s.plain {
		s.dfs(x, s.limit)
		return
	}
	whole := s.limit
	s.limit = whole / 2
	if s.dfs(x, whole); !s.open {
		s.limit = whole
		return
	}
	for turns := 1; turns <= fewTurns; turns++ {
		s.open, s.limit = false, s.nodes+whole/2/fewTurns
		s.dfs(x, turns)
	}
	s.open, s.limit = false, s.nodes+whole
	s.dfs(x, whole)
	s.limit = whole
}

// fewTurns is at how many turns another way than the first is tried before all are.
const fewTurns = 3

// dfs goes through everything below a node, taking another way than the first so many times at most.
func (s *solver) dfs(x *node, turns int) {
	if s.nodes++; s.nodes > s.limit {
		s.open = true
		return
	}
	if s.found && !x.key.less(s.best) {
		return
	}
	ways := s.conflict(x)
	if ways == nil {
		s.record(x)
		return
	}
	var children []*node
	for _, w := range ways {
		y := s.take()
		y.copyOf(x)
		if s.apply(y, w) && s.tighten(y) {
			if s.bound(y); !s.found || y.key.less(s.best) {
				children = append(children, y)
				continue
			}
		}
		s.free = append(s.free, y)
	}
	slices.SortStableFunc(children, func(a, b *node) int {
		for i := range a.key {
			if c := cmp.Compare(a.key[i], b.key[i]); c != 0 {
				return c
			}
		}
		return 0
	})
	for k, y := range children {
		if !s.open && k <= turns {
			s.dfs(y, turns-k)
		}
		s.free = append(s.free, y)
	}
}

// record takes the candidate of a node as the best so far, where it is.
func (s *solver) record(x *node) {
	slots := make([]Slot, s.n)
	for i := range slots {
		slots[i] = Slot{Start: x.at[i], Min: int(x.dmin[i]), By: int(x.pool[i])}
	}
	s.day.Clean(slots)
	k := s.worth(slots)
	if s.found && !k.less(s.best) {
		return
	}
	s.found = true
	s.best = k
	s.slots = slots
}

// worth is the key of slots.
func (s *solver) worth(slots []Slot) key {
	late := 0
	early := 0
	first := NoLimit
	end := 0
	moved := 0
	for o, lasts := range s.lasts {
		done := 0
		for _, l := range lasts {
			done = max(done, slots[l.task].Start+l.behind(slots[l.task].Min))
		}
		late += max(0, done-s.day.Orders[o].Due)
		early += max(0, s.day.Orders[o].Due-done)
	}
	for i, t := range slots {
		first, end = min(first, t.Start-t.CleanMin), max(end, t.End()+s.tails[i])
		if s.old != nil {
			moved += max(t.Start-s.old[i], s.old[i]-t.Start)
		}
	}
	switch s.mode {
	case byLate:
		return key{late}
	case byEnd:
		return key{late, end}
	case byMoves:
		return key{late, moved}
	}
	return key{late, end - first, early}
}

// named puts people in the place of their pools, by the time they start; who has begun stays.
func (s *solver) named() []Slot {
	slots := slices.Clone(s.slots)
	at := make([]int, 0, s.n)
	for i := range slots {
		if slots[i].By >= 0 {
			at = append(at, i)
		} else {
			slots[i].By = Nobody
		}
	}
	slices.SortStableFunc(at, func(a, b int) int {
		return cmp.Or(cmp.Compare(b2i(s.day.Tasks[b].By > 0), b2i(s.day.Tasks[a].By > 0)),
			cmp.Compare(slots[a].Start-slots[a].CleanMin, slots[b].Start-slots[b].CleanMin))
	})
	free := make([]int, len(s.day.People))
	batch := make([]int, len(s.day.People))
	for i := range batch {
		batch[i] = -1
	}
	for _, i := range at {
		members := s.pools[slots[i].By].members
		pick := -1
		for _, p := range members {
			idle := free[p] <= slots[i].Start-slots[i].CleanMin
			switch {
			case s.day.Tasks[i].By == p+1:
				pick = p
			case s.day.Tasks[i].By > 0 || !idle || pick >= 0 && s.day.Tasks[i].By == pick+1:
			case pick < 0, batch[p] == s.day.Tasks[i].Batch && batch[pick] != s.day.Tasks[i].Batch:
				pick = p
			}
		}
		if pick < 0 {
			pick = members[0]
		}
		slots[i].By = pick
		free[pick], batch[pick] = slots[i].End(), s.day.Tasks[i].Batch
	}
	return slots
}

func b2i(b bool) int {
	if b {
		return 1
	}
	return 0
}
