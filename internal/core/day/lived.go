package day

import (
	"fmt"
	"slices"

	"hollen/internal/core/schedule"
)

// Lived is a sheet on its day: what is shown of it by now, what has happened, and the minute it is. Its rules are those
// of changing a day by hand: what has begun stays, what is pinned stays where it is shown, and the rest gives way.
type Lived struct {
	*Sheet
	Shown []schedule.Slot // as it is to come by now
	Facts []schedule.Fact
	Begun []bool
	Now   int  // min from midnight
	Live  bool // it is this day, and its work may be told of
}

// Refused says why a change of a day cannot be, in words, and what could be instead; "" where nothing near could.
type Refused struct{ Why, Nearest string }

func (r *Refused) Error() string { return r.Why }

func refusal(format string, args ...any) *Refused { return &Refused{Why: fmt.Sprintf(format, args...)} }

// stay are the tasks that stay when one is moved by hand: what has begun, and what is pinned where it stands.
func (l *Lived) stay(moved int) []bool {
	stay := slices.Clone(l.Begun)
	for i := range stay {
		pinned := slices.ContainsFunc(l.Wishes, func(w Wish) bool {
			return w.Task == l.Day.Tasks[i].Key && w.Pinned && w.At == l.Shown[i].Start
		})
		stay[i] = stay[i] || pinned && i != moved
	}
	return stay
}

// settle values the slots as they stand: moved by hand, they are proved no more.
func (l *Lived) settle() {
	l.Goals = l.Day.Value(l.Slots)
	l.Proved = false
}

// Move starts a task at another minute, done by that person where one is named; put puts the day together for other
// wishes. It is pinned there.
func (l *Lived) Move(said *Narrator, task string, to int, by string, put func([]Wish) (*schedule.Day, error)) error {
	i := l.Task(task)
	switch {
	case i < 0 || !l.Planned():
		return refusal("That task is not on the day any more.")
	case l.Begun[i]:
		return refusal("%s has begun: what is begun stays.", said.Task(i))
	case l.Live && to < l.Now:
		return &Refused{Why: fmt.Sprintf("%s is past.", Time(to)), Nearest: Time(l.Now)}
	}
	if err := l.unpin(i, put); err != nil {
		return err
	}
	person := slices.IndexFunc(l.Day.People, func(p schedule.Person) bool { return p.Name == by })
	slots, no := l.Day.Move(l.Shown, l.stay(i), i, to, person)
	if no != nil {
		r := &Refused{Why: said.Fault(no.Fault)}
		if no.Nearest >= 0 {
			r.Nearest = Time(no.Nearest)
		}
		return r
	}
	l.Slots = slots
	w := l.Wish(task)
	w.Pinned = true
	w.At = to
	if l.Day.Tasks[i].Hands {
		w.By = l.Day.People[slots[i].By].Name
	}
	l.settle()
	return nil
}

// unpin lifts what a pin says of a task that is now moved: its window, and who does it.
func (l *Lived) unpin(i int, put func([]Wish) (*schedule.Day, error)) error {
	t := &l.Day.Tasks[i]
	free := slices.Clone(l.Wishes)
	at := slices.IndexFunc(free, func(w Wish) bool { return w.Task == t.Key })
	if at < 0 || !free[at].Pinned {
		return nil
	}
	free[at].letGo()
	other, err := put(free)
	if err != nil {
		return err
	}
	k := slices.IndexFunc(other.Tasks, func(o schedule.Task) bool { return o.Key == t.Key })
	if k >= 0 && len(other.Tasks[k].Minutes) == len(t.Minutes) {
		t.From = other.Tasks[k].From
		t.To = other.Tasks[k].To
		t.Minutes = other.Tasks[k].Minutes
	}
	return nil
}

// letGo lifts a pin, and who it was pinned to.
func (w *Wish) letGo() {
	w.Pinned = false
	w.At = 0
	w.By = ""
}

// LetGo lets a task go that was pinned.
func (l *Lived) LetGo(task string) { l.Wish(task).letGo() }

// Pin holds a task where it is shown, by whom it is shown.
func (l *Lived) Pin(task string) {
	i := l.Task(task)
	if i < 0 {
		return
	}
	w := l.Wish(task)
	w.Pinned = true
	w.At = l.Shown[i].Start
	if by := l.Shown[i].By; by >= 0 {
		w.By = l.Day.People[by].Name
	}
}

// NotBy says who does not do a task, and between what minutes of the day it lies, 0 where that is open. A pin to one of
// them goes.
func (l *Lived) NotBy(task string, who []string, notBefore, notAfter int) {
	w := l.Wish(task)
	w.NotBy = who
	w.NotBefore = notBefore
	w.NotAfter = notAfter
	if w.Pinned && slices.Contains(w.NotBy, w.By) {
		w.letGo()
	}
}

// Forget lets go what was wished of people who are not there any more.
func (s *Sheet) Forget() {
	for i := range s.Wishes {
		w := &s.Wishes[i]
		there := slices.ContainsFunc(s.Shop.People, func(h Hand) bool { return h.Name == w.By })
		if w.By != "" && !there {
			w.letGo()
		}
	}
}

// Mark says of a task that it was begun or done by now, or that it was not: what is begun, done or not.
func (l *Lived) Mark(task, what string) error {
	i := l.Task(task)
	if i < 0 || !l.Live {
		return refusal("That can be said on the day itself.")
	}
	if l.Marks == nil {
		l.Marks = map[string]Mark{}
	}
	m := l.Marks[task]
	switch what {
	case "begun":
		m = Mark{Began: l.Now}
	case "done":
		if !l.Begun[i] {
			m.Began = max(min(l.Shown[i].Start, l.Now-1), l.Now-l.Shown[i].Min)
		} else if m.Began == 0 {
			m.Began = l.Facts[i].Start
		}
		m.Done = max(l.Now, m.Began+1)
	case "not":
		delete(l.Marks, task)
		return nil
	default:
		return refusal("Begun, done, or not yet.")
	}
	l.Marks[task] = m
	return nil
}

// Again takes a day that was put together anew, its wishes or its kit another, in place of the one under way: what has
// begun stays as it is, whatever is now said of it, and the rest is planned from now on in so many nodes.
func (l *Lived) Again(put *schedule.Day, nodes int) error {
	slots, facts := l.Carried(put)
	found := put.From(slots, facts, l.Now, nodes)
	if found == nil {
		return refusal("There is no plan for what is left that keeps this as well.")
	}
	l.Sheet.Day = put
	l.Slots = found.Slots
	l.settle()
	l.Bound = schedule.Goals{} // of another day: other hands, other batches
	return nil
}

// TakeOrder makes another order of the same day the plan; nothing is proved of it.
func (l *Lived) TakeOrder(slots []schedule.Slot) {
	l.Slots = slots
	l.Proved = false
	l.Bound = schedule.Goals{}
}

// Replanned are the slots of a day that was put together otherwise: what has begun stays, the rest is planned; nil
// where
// that cannot be.
func (l *Lived) Replanned(put *schedule.Day, nodes int) []schedule.Slot {
	if !slices.Contains(l.Begun, true) {
		a, err := put.Plan()
		if err != nil {
			return nil
		}
		return a.Slots
	}
	slots, facts := l.Carried(put)
	c := put.From(slots, facts, l.Now, nodes)
	if c == nil {
		return nil
	}
	return c.Slots
}

// Carried are the slots and the facts of the day as it stands, in the order of another’s tasks.
func (l *Lived) Carried(put *schedule.Day) (slots []schedule.Slot, facts []schedule.Fact) {
	for _, t := range put.Tasks {
		at := l.Task(t.Key)
		if at < 0 {
			slots = append(slots, schedule.Slot{Start: l.Now, Min: slices.Max(t.Minutes)})
			facts = append(facts, schedule.Fact{By: schedule.Nobody})
			continue
		}
		slot, fact := l.Shown[at], l.Facts[at]
		slot.By = person(l.Day, put, slot.By)
		fact.By = person(l.Day, put, fact.By)
		if !fact.Begun && slot.By >= 0 && t.Hands && t.Minutes[slot.By] > 0 {
			slot.Min = t.Minutes[slot.By]
		}
		slots = append(slots, slot)
		facts = append(facts, fact)
	}
	return slots, facts
}

// person is who that is among the people of another plan of the day; who is not there any more leaves it to the first.
func person(was, is *schedule.Day, by int) int {
	if by < 0 || by >= len(was.People) {
		return schedule.Nobody
	}
	return max(0, slices.IndexFunc(is.People, func(p schedule.Person) bool { return p.Name == was.People[by].Name }))
}
