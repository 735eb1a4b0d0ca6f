package schedule

import (
	"cmp"
	"slices"
)

// Trouble is a reason why a day cannot be planned.
type Trouble struct {
	Why   TroubleKind
	Batch int // −1: no single one
	Task  int // −1: no single one
	Lag   int // of Day.Lags, −1: none
	Need  int // the lag that would do, or how many min longer the day would have to be; of a store how much is needed
	Name  string
	Store int // of a store that is too small: its place
}

// TroubleKind names why.
type TroubleKind string

// Why a day cannot be planned.
const (
	NobodyCan  TroubleKind = "nobody" // no person can do the task
	TooMuch    TroubleKind = "store"  // one thing alone needs more than there is
	LagTooLong TroubleKind = "lag"    // a batch by itself cannot keep its longest lag
	DayTooLong TroubleKind = "long"   // a batch by itself takes longer than the day
	Together   TroubleKind = "together"
)

// longer are the minutes a day is lengthened by while looking for the nearest that is possible.
var longer = []int{15, 30, 45, 60, 90, 120, 180, 240, 360, 480, 720, 1440, 2880}

// Explain says why no plan keeps everything, each reason with the nearest that would; nil where a plan is found within
// so
// many nodes. Stretch returns the day with so many more minutes before it closes.
func (d *Day) Explain(limit int, stretch func(*Day, int) *Day) []Trouble {
	var out []Trouble
	for i := range d.Tasks {
		t := &d.Tasks[i]
		if t.Hands && !slices.ContainsFunc(t.Minutes, func(m int) bool { return m > 0 }) {
			out = append(out, Trouble{Why: NobodyCan, Batch: t.Batch, Task: i, Lag: -1, Name: t.Name})
		}
	}
	for _, h := range d.Holds {
		if s := d.Stores[h.Store]; h.Quantity > s.Cap {
			out = append(out, Trouble{Why: TooMuch, Batch: d.Tasks[h.From.Task].Batch,
				Task: h.From.Task, Lag: -1, Need: h.Quantity, Name: s.Name, Store: h.Store})
		}
	}
	if len(out) > 0 {
		return out
	}
	for _, b := range d.queue() {
		if t, bad := d.alone(b, limit, stretch); bad {
			out = append(out, t)
		}
	}
	if len(out) > 0 || d.possible(limit) {
		return out
	}
	need := -1
	for _, more := range longer {
		if stretch(d, more).possible(limit) {
			need = more
			break
		}
	}
	return []Trouble{{Why: Together, Batch: -1, Task: -1, Lag: -1, Need: need}}
}

// possible says whether any plan is found.
func (d *Day) possible(limit int) bool {
	s := newSolver(d, byLate, limit)
	s.run()
	return s.found
}

// alone says what stands in the way of a batch that has the shop to itself.
func (d *Day) alone(b, limit int, stretch func(*Day, int) *Day) (Trouble, bool) {
	sub, _ := d.batch(b)
	if sub.possible(limit) {
		return Trouble{}, false
	}
	for _, more := range longer {
		if part, _ := stretch(d, more).batch(b); part.possible(limit) {
			return Trouble{Why: DayTooLong, Batch: b, Task: -1, Lag: -1, Need: more}, true
		}
	}
	for i, l := range d.Lags {
		if d.Tasks[l.A.Task].Batch != b || l.Max == NoLimit {
			continue
		}
		loose := *d
		loose.Lags = slices.Clone(d.Lags)
		loose.Lags[i].Max = NoLimit
		if part, _ := loose.batch(b); !part.possible(limit) {
			continue
		}
		lo, hi := l.Max+1, 4*1440
		for lo < hi {
			mid := (lo + hi) / 2
			loose.Lags[i].Max = mid
			if part, _ := loose.batch(b); part.possible(limit) {
				hi = mid
			} else {
				lo = mid + 1
			}
		}
		return Trouble{Why: LagTooLong, Batch: b, Task: l.B.Task, Lag: i, Need: lo, Name: string(l.What)}, true
	}
	return Trouble{Why: DayTooLong, Batch: b, Task: -1, Lag: -1, Need: -1}, true
}

// Exact is up to how many batches a day is searched whole, and exactTasks up to how many tasks: a larger one is planned
// part by part.
const (
	Exact      = 8
	exactTasks = 56
)

// Nodes is how many nodes a search of a day of up to fewTasks tasks may take; larger ones may take fewer, as each takes
// longer.
const (
	Nodes    = 10_000
	fewTasks = 26
)

// nodes is how many nodes a search of this day may take: by its size alone, never by a clock.
func (d *Day) nodes() int {
	n := max(len(d.Tasks), fewTasks)
	return Nodes * fewTasks * fewTasks * fewTasks / (n * n * n)
}

// exact says whether the day is small enough to be searched whole.
func (d *Day) exact() bool { return len(d.queue()) <= Exact && len(d.Tasks) <= exactTasks }

// Plan is the best plan of a day, small or large: proved where the tree closes, else with its distance from what nobody
// can do better than. ErrNoPlan when none is found; Explain says why.
func (d *Day) Plan() (*Answer, error) {
	if !d.exact() {
		return d.Large()
	}
	a, err := d.Solve(d.nodes())
	if err == nil && a.Proved {
		return a, nil
	}
	if b, bad := d.Large(); bad == nil && (err != nil || b.Goals.Less(a.Goals)) {
		if a != nil {
			b.Nodes += a.Nodes
		}
		return b, nil
	}
	return a, err
}

// Gaps are the free minutes of one person, by start: what lies between their tasks, within the hours they are there.
func (d *Day) Gaps(person, from, to int, slots []Slot) [][2]int {
	var busy [][2]int
	busy = append(busy, d.People[person].Off...)
	for i, s := range slots {
		if d.Tasks[i].Hands && s.By == person {
			busy = append(busy, [2]int{s.Start - s.CleanMin, s.End()})
		}
	}
	slices.SortFunc(busy, func(a, b [2]int) int { return cmp.Compare(a[0], b[0]) })
	var out [][2]int
	at := from
	for _, b := range busy {
		if b[0] > at && at < to {
			out = append(out, [2]int{at, min(b[0], to)})
		}
		at = max(at, b[1])
	}
	if at < to {
		out = append(out, [2]int{at, to})
	}
	return out
}
