package day

import (
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/schedule"
)

// Format names the version of the document.
const Format = "hollen-day-sheet/1"

// Sheet is a day as it is kept: what there is, what is to be made, what its maker wishes, and the plan.
type Sheet struct {
	Format string          `json:"format"`
	Date   string          `json:"date"` // yyyy-mm-dd
	Shop   Shop            `json:"shop"`
	Jobs   []Job           `json:"batches"`
	Wishes []Wish          `json:"wishes,omitempty"`
	Marks  map[string]Mark `json:"marks,omitempty"` // by task: what somebody said of it on the day’s page
	Day    *schedule.Day   `json:"day,omitempty"`   // nil before it is planned
	Slots  []schedule.Slot `json:"slots,omitempty"`
	Goals  schedule.Goals  `json:"goals"`
	Bound  schedule.Goals  `json:"bound"`
	Proved bool            `json:"proved"`
	Nodes  int             `json:"nodes"`
	By     string          `json:"by,omitempty"` // what was last done, in words
}

// Mark is what somebody said of a task: when it was begun and when it was done, min from midnight.
type Mark struct {
	Began int `json:"began"`
	Done  int `json:"done,omitempty"` // 0: it runs
}

// Planned says whether there is a plan.
func (s *Sheet) Planned() bool {
	return s.Day != nil && len(s.Slots) == len(s.Day.Tasks) && len(s.Slots) > 0
}

// Answer is the plan as it was found.
func (s *Sheet) Answer() *schedule.Answer {
	return &schedule.Answer{Slots: s.Slots, Goals: s.Goals, Bound: s.Bound, Proved: s.Proved, Nodes: s.Nodes}
}

// Take makes an answer the sheet’s plan.
func (s *Sheet) Take(d *schedule.Day, a *schedule.Answer) {
	s.Day = d
	s.Slots = a.Slots
	s.Goals = a.Goals
	s.Bound = a.Bound
	s.Proved = a.Proved
	s.Nodes = a.Nodes
}

// Task is the place of a task by its key, −1 where there is none.
func (s *Sheet) Task(key string) int {
	if s.Day == nil {
		return -1
	}
	return slices.IndexFunc(s.Day.Tasks, func(t schedule.Task) bool { return t.Key == key })
}

// Wish is what is wished of a task, to be changed.
func (s *Sheet) Wish(key string) *Wish {
	for i := range s.Wishes {
		if s.Wishes[i].Task == key {
			return &s.Wishes[i]
		}
	}
	s.Wishes = append(s.Wishes, Wish{Task: key})
	return &s.Wishes[len(s.Wishes)-1]
}

// Renumber gives the batches of a day other numbers, in its tasks, wishes and marks, too.
func (s *Sheet) Renumber(to func(uint64) uint64) {
	key := func(task string) string {
		id, rest, _ := strings.Cut(task, ".")
		if n, err := strconv.ParseUint(id, 10, 64); err == nil {
			return strconv.FormatUint(to(n), 10) + "." + rest
		}
		return task
	}
	for i := range s.Jobs {
		s.Jobs[i].Batch = to(s.Jobs[i].Batch)
	}
	for i := range s.Wishes {
		s.Wishes[i].Task = key(s.Wishes[i].Task)
	}
	marks := map[string]Mark{}
	for task, m := range s.Marks {
		marks[key(task)] = m
	}
	if s.Marks != nil {
		s.Marks = marks
	}
	if s.Day != nil {
		for i := range s.Day.Tasks {
			s.Day.Tasks[i].Key = key(s.Day.Tasks[i].Key)
		}
	}
}

// Tidy drops wishes that wish nothing, and marks of tasks that are gone.
func (s *Sheet) Tidy() {
	s.Wishes = slices.DeleteFunc(s.Wishes, func(w Wish) bool {
		return !w.Pinned && w.By == "" && len(w.NotBy) == 0 && w.NotBefore == 0 && w.NotAfter == 0
	})
}

// Made is a making of one of the day’s batches, as the bench knows it.
type Made struct {
	Steps []bench.Step
	State bench.State
}

// Facts are what has happened by now: by the bench where a batch is made there, else by what was said on the page. Now
// counts in min from midnight, which is when the day begins where the workshop is.
func (s *Sheet) Facts(made map[uint64]Made, midnight time.Time, now int) []schedule.Fact {
	facts := make([]schedule.Fact, len(s.Day.Tasks))
	for i, t := range s.Day.Tasks {
		f := schedule.Fact{By: s.Slots[i].By}
		if m, ok := made[s.Jobs[t.Batch].Batch]; ok {
			f = atBench(&t, m, midnight, now)
			f.By = s.Slots[i].By
		}
		if x, ok := s.Marks[t.Key]; ok && !f.Done {
			f.Begun, f.Start = true, x.Began
			if f.Done = x.Done > 0; f.Done {
				f.End = x.Done
			}
		}
		if f.Begun && !f.Done {
			f.End = max(f.Start+s.Slots[i].Min, now)
		}
		facts[i] = f
	}
	s.settle(facts)
	return facts
}

// atBench finds when a task was begun and done among the steps of a making.
func atBench(t *schedule.Task, m Made, midnight time.Time, now int) schedule.Fact {
	var f schedule.Fact
	minute := func(at time.Time) int { return MinuteOf(midnight, at) }
	all, any := true, false
	f.End = -schedule.NoLimit
	for i := range m.Steps {
		step := &m.Steps[i]
		if !slices.Contains(t.Keys, step.Of) && !slices.Contains(t.Keys, step.Key) ||
			t.Pieces[1] > 0 && step.Piece > 0 && (step.Piece < t.Pieces[0] || step.Piece > t.Pieces[1]) {
			continue
		}
		p := m.State.Steps[step.Key]
		if p == nil || p.Status == bench.LeftOut {
			continue
		}
		any = true
		all = all && p.Status == bench.WasDone
		if !p.Began.IsZero() {
			if at := minute(p.Began); !f.Begun || at < f.Start {
				f.Begun, f.Start = true, at
			}
		}
		if !p.Over.IsZero() {
			f.End = max(f.End, minute(p.Over))
		}
	}
	f.Done = any && all && f.Begun || !m.State.Ended.IsZero()
	if f.Done && !f.Begun {
		f.Begun = true
		f.Start = minute(m.State.Ended) - 1
		f.End = minute(m.State.Ended)
	}
	if f.End <= f.Start && f.Done {
		f.End = f.Start + 1
	}
	if !f.Begun || f.Start > now {
		return schedule.Fact{}
	}
	return f
}

// settle marks what nobody saw as done where something after it has been begun.
func (s *Sheet) settle(facts []schedule.Fact) {
	for range facts {
		changed := false
		for _, l := range s.Day.Lags {
			a, b := l.A.Task, l.B.Task
			if l.Min < 0 || !l.A.End || !facts[b].Begun || facts[a].Done {
				continue
			}
			end := min(facts[b].Start, s.Slots[a].End())
			if !facts[a].Begun {
				facts[a].Start = end - s.Slots[a].Min
			}
			facts[a].Begun = true
			facts[a].Done = true
			changed = true
			facts[a].End = max(facts[a].Start+1, end)
		}
		if !changed {
			return
		}
	}
}

// Begun says of each task whether it has begun.
func Begun(facts []schedule.Fact) []bool {
	out := make([]bool, len(facts))
	for i, f := range facts {
		out[i] = f.Begun
	}
	return out
}

// Copy is the sheet with nothing shared.
func (s *Sheet) Copy() Sheet {
	c := *s
	c.Jobs = slices.Clone(s.Jobs)
	c.Wishes = slices.Clone(s.Wishes)
	c.Slots = slices.Clone(s.Slots)
	c.Marks = maps.Clone(s.Marks)
	c.Shop.People, c.Shop.Breaks = slices.Clone(s.Shop.People), slices.Clone(s.Shop.Breaks)
	if s.Day != nil {
		d := *s.Day
		d.Tasks = slices.Clone(d.Tasks)
		d.People = slices.Clone(d.People)
		d.Orders = slices.Clone(d.Orders)
		for i := range d.People {
			d.People[i].Off = slices.Clone(d.People[i].Off)
		}
		c.Day = &d
	}
	return c
}

// Shift moves everything by so many min.
func (s *Sheet) Shift(by int) {
	move := func(all ...*int) {
		for _, x := range all {
			if *x > 0 && *x < schedule.NoLimit/16 {
				*x += by
			}
		}
	}
	move(&s.Shop.OpenAt, &s.Shop.CloseAt)
	for i := range s.Shop.Breaks {
		move(&s.Shop.Breaks[i].From, &s.Shop.Breaks[i].To)
	}
	for i := range s.Shop.People {
		move(&s.Shop.People[i].From, &s.Shop.People[i].To)
	}
	for i := range s.Wishes {
		move(&s.Wishes[i].At, &s.Wishes[i].NotBefore, &s.Wishes[i].NotAfter)
	}
	for k, m := range s.Marks {
		move(&m.Began, &m.Done)
		s.Marks[k] = m
	}
	for i := range s.Slots {
		move(&s.Slots[i].Start)
	}
	if s.Day == nil {
		return
	}
	for i := range s.Day.Tasks {
		move(&s.Day.Tasks[i].From, &s.Day.Tasks[i].To)
	}
	for i := range s.Day.Orders {
		move(&s.Day.Orders[i].Due)
	}
	for i := range s.Day.People {
		for k := range s.Day.People[i].Off {
			move(&s.Day.People[i].Off[k][0], &s.Day.People[i].Off[k][1])
		}
	}
}

// TasksOf are the places of a batch’s tasks.
func (s *Sheet) TasksOf(batch uint64) (out []int) {
	if s.Day == nil {
		return nil
	}
	for i, t := range s.Day.Tasks {
		if s.Jobs[t.Batch].Batch == batch {
			out = append(out, i)
		}
	}
	return out
}

// MinuteOf is a moment as min from a midnight, by the clock on the wall there: past the next midnight it goes on, and
// on a day on
// which the clock is put forward or back it is what the clock says.
func MinuteOf(midnight, at time.Time) int {
	local := at.In(midnight.Location())
	day := func(t time.Time) time.Time { return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC) }
	return int(day(local).Sub(day(midnight)).Hours())*60 + local.Hour()*60 + local.Minute()
}

// At is the moment of a minute from a midnight, by the clock on the wall there.
func At(midnight time.Time, minutes int) time.Time {
	return time.Date(midnight.Year(), midnight.Month(), midnight.Day(), 0, minutes, 0, 0, midnight.Location())
}
