// Package schedule answers who does what when: several batches, few hands, one roller, everything on time.
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
package schedule

import (
	"errors"
	"fmt"
)

// NoLimit stands for a lag without a longest.
const NoLimit = 1 << 24

// Nobody stands where a task has no person: a machine runs, or the day is not yet planned.
const Nobody = -1

// NoRoller is the class of a task that does not need the roller.
const NoRoller = -1

// Day is what has to be done on one day and with what. Minutes count from any one moment, as its maker likes:
// all of them are whole and none is negative.
type Day struct {
	Tasks  []Task   `json:"tasks"`
	Lags   []Lag    `json:"lags"`
	Holds  []Hold   `json:"holds"`
	Waits  []Wait   `json:"waits"`
	Stores []Store  `json:"stores"`
	People []Person `json:"people"`
	Orders []Order  `json:"orders"`
	// Setup is the cleaning of the roller, in min, from a class to a class; First the class it stands from, −1 clean.
	// It keeps the triangle rule: from a to c is never more than over b.
	Setup [][]int `json:"setup"`
	First int     `json:"first"`
	// Needs are what each wait takes when its batch has the shop to itself, min; nil where that was not yet worked out.
	Needs []int `json:"needs,omitempty"`
}

// Task is one thing done in one go. Its minutes are by person, −1 for who cannot do it; a machine’s own are the same
// for all.
type Task struct {
	Key     string   `json:"key"` // stays the same however often the day is planned: 12.roll.1
	Name    string   `json:"name"`
	Kind    Kind     `json:"kind"`
	Keys    []string `json:"steps,omitempty"` // of the batch’s plan, that it is made of
	Pieces  [2]int   `json:"pieces,omitzero"` // the first and the last of them, where a part is meant
	Batch   int      `json:"batch"`
	Hands   bool     `json:"hands"` // somebody does it; else it runs by itself
	Minutes []int    `json:"minutes"`
	Class   int      `json:"class"` // on the roller, NoRoller without
	From    int      `json:"from"`  // it starts no sooner, min
	To      int      `json:"to"`    // and ends no later, min
	// who does it already, from 1; 0: open. It names the person only, see Minutes
	By int `json:"by,omitempty"`
}

// Kind is what a task is, for who can do it.
type Kind string

// The kinds of tasks.
const (
	Knead   Kind = "knead"
	Machine Kind = "machine"
	Filling Kind = "filling"
	Roll    Kind = "roll"
	Cut     Kind = "cut"
	Pot     Kind = "pot"
)

// Point is the start or the end of a task.
type Point struct {
	Task int  `json:"task"`
	End  bool `json:"end,omitempty"`
}

// Lag binds two points: Min ≤ t(B) − t(A) ≤ Max, min.
type Lag struct {
	A    Point   `json:"a"`
	B    Point   `json:"b"`
	Min  int     `json:"min"`
	Max  int     `json:"max"`
	What LagKind `json:"what"`
}

// StartOf is the moment a task begins.
func StartOf(task int) Point { return Point{task, false} }

// EndOf is the moment a task ends.
func EndOf(task int) Point { return Point{task, true} }

// LagKind says what happens meanwhile.
type LagKind string

// Between two tasks one of these happens.
const (
	Resting  LagKind = "rest"
	InCold   LagKind = "cold" // in the fridge
	Drying   LagKind = "dry"
	Cooling  LagKind = "cool" // a filling
	Warm     LagKind = "warm" // out of the fridge, over everything
	Directly LagKind = "directly"
	InOrder  LagKind = "order" // one part after another
	Waiting  LagKind = "wait"  // cut, for the pot
)

// Hold takes up a quantity of a store from one point to another.
type Hold struct {
	From     Point `json:"from"`
	To       Point `json:"to"`
	Store    int   `json:"store"`
	Quantity int   `json:"quantity"`
}

// Wait is what should take no longer: from the start of A to the end of B, min.
type Wait struct {
	A     int `json:"a"`
	B     int `json:"b"`
	Limit int `json:"limit"`
}

// Store is a thing there is only so much of: rack in dm, places in the fridge, the mixer, the pot.
type Store struct {
	Name string `json:"name"`
	Cap  int    `json:"cap"`
}

// Person does one task at a time, and none in their time off.
type Person struct {
	Name string   `json:"name"`
	Off  [][2]int `json:"off"` // from and to, min, in order
}

// Order is due at a minute and ended by its last tasks.
type Order struct {
	Name string `json:"name"`
	Due  int    `json:"due"`
	Last []int  `json:"last"`
}

// Slot is when a task is done and by whom. The roller is cleaned in the CleanMin before it.
type Slot struct {
	Start    int `json:"start"`
	Min      int `json:"min"`
	CleanMin int `json:"clean,omitempty"`
	By       int `json:"by"` // of People, Nobody for a machine
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

// GapMin is how much better the day could at most be, 0 when it is proved best, min: how much less late all orders
// together, or where
// none can be, how much less dough could wait, or where none can, how much shorter it could be.
func (a *Answer) GapMin() int {
	if a.Proved {
		return 0
	}
	if late := a.Goals.Late - a.Bound.Late; late > 0 {
		return late
	}
	if wait := a.Goals.Wait - a.Bound.Wait; wait > 0 {
		return wait
	}
	return max(0, a.Goals.Span-a.Bound.Span)
}

// These are the errors of a day that cannot be planned.
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
