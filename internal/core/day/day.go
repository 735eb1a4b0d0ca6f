// Package day answers who does what when: several batches, few hands, one roller, everything on time.
//
// A day is tasks bound by lags (how long after one thing another may begin), the people, the one roller and
// the stores they take up, and orders that are due. Solve starts every task at a whole minute, so that
//
//	late = Σ max(0, end − due), then wait, then span = last end − first touch, then early = Σ max(0, due − end)
//
// are least, one after another. It is a branch and bound on difference constraints S_j − S_i ≥ D[i][j], closed
// under longest paths, tightened by disjunctions and by edge finding (Carlier and Pinson 1989; the O(n²) form of
// Baptiste and Le Pape), bounded by Jackson’s preemptive schedule. It stops at a count of nodes and never by a
// clock: the same day always gives the same plan.
package day

import (
	"errors"
	"fmt"
)

// NoLimit stands for a longest lag that is none.
const NoLimit = 1 << 24

// Nobody stands where a task has no person: a machine runs, or the day is not yet planned.
const Nobody = -1

// NoRoller is the class of a task that does not need the roller.
const NoRoller = -1

// Day is what has to be done on one day and with what. Minutes count from any one moment, as its maker likes:
// all of them are whole and none is negative.
type Day struct {
	Tasks  []Task
	Lags   []Lag
	Holds  []Hold
	Waits  []Wait
	Stores []Store
	People []Person
	Orders []Order
	// Setup is the cleaning of the roller, in min, from a class to a class; First the class it stands from, −1 clean.
	// It keeps the triangle rule: from a to c is never more than over b.
	Setup [][]int
	First int
}

// Task is one thing done in one go. Its minutes are by person, −1 for who cannot do it; a machine’s own are the same for all.
type Task struct {
	Name     string
	Batch    int
	Hands    bool // somebody does it; else it runs by itself
	Minutes  []int
	Class    int // on the roller, NoRoller without
	From, To int // it starts no sooner and ends no later, min
	By       int // who does it already, from 1; 0: open. It names the person only, see Minutes
}

// Point is the start or the end of a task.
type Point struct {
	Task int
	End  bool
}

// Lag binds two points: Min ≤ t(B) − t(A) ≤ Max, min.
type Lag struct {
	A, B     Point
	Min, Max int
	What     string // in a maker’s words: "rest"
}

// Hold takes up a quantity of a store from one point to another.
type Hold struct {
	From, To Point
	Store    int
	Quantity int
}

// Wait is what should take no longer: from the start of A to the end of B, min.
type Wait struct {
	A, B  int
	Limit int
}

// Store is a thing there is only so much of: rack in dm, places in the fridge, the mixer, the pot.
type Store struct {
	Name string
	Cap  int
}

// Person does one task at a time, and none in their time off.
type Person struct {
	Name string
	Off  [][2]int // from and to, min, in order
}

// Order is due at a minute and ended by its last tasks.
type Order struct {
	Name string
	Due  int
	Last []int
}

// Slot is when a task is done and by whom. The roller is cleaned in the CleanMin before it.
type Slot struct {
	Start, Min, CleanMin int
	By                   int // of People, Nobody for a machine
}

// End is when it ends.
func (s Slot) End() int { return s.Start + s.Min }

// Goals are what is made least, one after another, all in min.
type Goals struct {
	Late  int `json:"late"`
	Wait  int `json:"wait"`
	Span  int `json:"span"`
	Early int `json:"early"`
}

// Less says whether these goals are better reached than others.
func (g Goals) Less(o Goals) bool {
	switch {
	case g.Late != o.Late:
		return g.Late < o.Late
	case g.Wait != o.Wait:
		return g.Wait < o.Wait
	case g.Span != o.Span:
		return g.Span < o.Span
	}
	return g.Early < o.Early
}

// Answer is a planned day.
type Answer struct {
	Slots  []Slot
	Goals  Goals
	Bound  Goals // nobody can do better than this, in its first part that differs from Goals
	Proved bool  // the whole tree was closed: no better day exists
	Nodes  int
}

// GapMin is how much shorter the day could at most be, 0 when it is proved best, min.
func (a *Answer) GapMin() int {
	if a.Proved {
		return 0
	}
	return max(0, a.Goals.Span-a.Bound.Span) + max(0, a.Goals.Late-a.Bound.Late)
}

// What is wrong with a day that cannot be computed with.
var (
	ErrDay    = errors.New("day")
	ErrNoPlan = errors.New("no plan keeps everything")
)

// Check says what is wrong with the day as it is put, for whoever made it; nil when it can be planned.
func (d *Day) Check() error {
	var errs []error
	wrong := func(format string, args ...any) {
		errs = append(errs, fmt.Errorf("%w: "+format, append([]any{ErrDay}, args...)...))
	}
	point := func(p Point) bool { return p.Task >= 0 && p.Task < len(d.Tasks) }
	for _, t := range d.Tasks {
		if t.Hands && len(t.Minutes) != len(d.People) || len(t.Minutes) == 0 {
			wrong("%s: minutes for %d people, not %d", t.Name, len(t.Minutes), len(d.People))
		}
		for _, m := range t.Minutes {
			if m == 0 || m < -1 || m > NoLimit/16 {
				wrong("%s: %d min", t.Name, m)
			}
		}
		if t.Class >= len(d.Setup) && t.Class > 0 || t.Class < NoRoller {
			wrong("%s: class %d on the roller, of %d", t.Name, t.Class, len(d.Setup))
		}
		if t.From < 0 || t.To > NoLimit {
			wrong("%s: from %d to %d", t.Name, t.From, t.To)
		}
	}
	for _, l := range d.Lags {
		if !point(l.A) || !point(l.B) || l.Min > l.Max {
			wrong("lag %+v", l)
		}
	}
	for _, h := range d.Holds {
		if !point(h.From) || !point(h.To) || h.Store < 0 || h.Store >= len(d.Stores) || h.Quantity < 0 {
			wrong("hold %+v", h)
		}
	}
	for _, o := range d.Orders {
		for _, t := range o.Last {
			if t < 0 || t >= len(d.Tasks) {
				wrong("order %s ends with task %d", o.Name, t)
			}
		}
	}
	return errors.Join(errs...)
}

// minutes of a task that runs by itself, or of the person.
func (t *Task) minutes(by int) int {
	if !t.Hands {
		return t.Minutes[0]
	}
	return t.Minutes[by]
}

// setup is the cleaning from one class to another, min.
func (d *Day) setup(from, to int) int {
	if from < 0 || to < 0 || len(d.Setup) == 0 {
		return 0
	}
	return d.Setup[from][to]
}
