package day

import (
	"fmt"

	"hollen/internal/core/measure"
	"hollen/internal/core/schedule"
)

// Narrator puts into words what a day does: with the letters and names of its batches.
type Narrator struct {
	Day   *schedule.Day
	Jobs  []Job
	Slots []schedule.Slot
	In    measure.System // of lengths
}

// batch is how a task’s batch is called in a sentence.
func (s *Narrator) batch(task int) string {
	j := s.Jobs[s.Day.Tasks[task].Batch]
	return j.Letter
}

// Task is a task in a sentence: “A, roll”.
func (s *Narrator) Task(task int) string {
	return s.batch(task) + ", " + measure.Lower(s.Day.Tasks[task].Name)
}

// Out says of which doughs with egg the time out of the fridge, from its first touch to the last piece packed, is
// longer
// than it should be; those packed already are not spoken of.
func (s *Narrator) Out(done func(task int) bool) (out []string) {
	for _, w := range s.Day.Waits {
		from, to := s.Slots[w.A].Start, s.Slots[w.B].End()
		if to-from <= w.Limit || done(w.B) {
			continue
		}
		j := s.Jobs[s.Day.Tasks[w.A].Batch]
		out = append(out, fmt.Sprintf("%s, %s: its egg dough is out of the fridge from %s to %s, %s in all, and "+
			"should be packed within %s.",
			j.Letter, j.Name, Time(from), Time(to), Words(to-from), Words(w.Limit)))
	}
	return out
}

// between is what lies between two tasks, in words.
func between(what schedule.LagKind) string {
	switch what {
	case schedule.Resting:
		return "The dough’s rest"
	case schedule.InCold:
		return "The dough’s rest in the fridge"
	case schedule.Drying:
		return "The sheet’s drying"
	case schedule.Cooling:
		return "The filling’s cooling"
	case schedule.Warm:
		return "The dough’s time out of the fridge"
	case schedule.Directly:
		return "What a sheet may wait for what comes next"
	case schedule.Waiting:
		return "The wait for the pot"
	}
	return "What comes before it"
}

// Fault says in a sentence why something cannot be.
func (s *Narrator) Fault(f schedule.Fault) string {
	t := s.Task(f.Task)
	switch f.Why {
	case schedule.OutOfHours:
		return fmt.Sprintf("%s would lie outside the hours said for it, by %s.", t, Words(f.By))
	case schedule.CannotDo:
		return t + ": nobody is there for it who does that."
	case schedule.Closed:
		return fmt.Sprintf("%s would then come after closing.", t)
	case schedule.TooSoon:
		return fmt.Sprintf("%s takes %s more before %s.", between(schedule.LagKind(f.What)), Words(f.By), t)
	case schedule.TooLate:
		return fmt.Sprintf("%s would be %s longer than it may, with %s there.", between(schedule.LagKind(f.What)),
			Words(f.By),
			t)
	case schedule.Busy:
		return fmt.Sprintf("%s is at %s then, %s of it.", f.What, s.Task(f.Other), Words(f.By))
	case schedule.OnBreak:
		return fmt.Sprintf("%s is not there for %s of %s.", f.What, Words(f.By), t)
	case schedule.RollerBusy:
		return fmt.Sprintf("The roller is at %s until %s.", s.Task(f.Other), Time(s.Slots[f.Other].End()))
	case schedule.Unclean:
		return fmt.Sprintf("The roller needs %s of cleaning before %s.", Words(f.By), t)
	case schedule.Full:
		return storeKinds[f.Store].full(s, t, f.By)
	}
	return t + " cannot be there."
}

// Trouble says in two sentences why a day cannot be planned, and the nearest that can.
func (s *Narrator) Trouble(t schedule.Trouble) (why, nearest string) {
	name := ""
	if t.Batch >= 0 {
		name = s.Jobs[t.Batch].Letter + ", " + s.Jobs[t.Batch].Name
	}
	switch t.Why {
	case schedule.NobodyCan:
		return fmt.Sprintf("%s: nobody can do “%s”.", name, measure.Lower(t.Name)),
			"Say who does it, or leave the batch out today."
	case schedule.TooMuch:
		return storeKinds[t.Store].small(s, name, t.Need)
	case schedule.LagTooLong:
		return fmt.Sprintf("%s: %s cannot be kept as short as it should be.", name,
				measure.Lower(between(schedule.LagKind(t.Name)))),
			fmt.Sprintf("%s would do.", measure.Capital(Words(t.Need)))
	case schedule.DayTooLong:
		if t.Need < 0 {
			return fmt.Sprintf("%s cannot be fitted in, however long the day.", name),
				"Look at what is pinned, and at who does what."
		}
		return fmt.Sprintf("%s takes longer than the hours there are.", name),
			fmt.Sprintf("%s more would do, or its dough made the day before and kept in the fridge.",
				measure.Capital(Words(t.Need)))
	}
	if t.Need < 0 {
		return "The batches cannot all be fitted in, however long the day.",
			"Look at what is pinned, and at who does what."
	}
	return "Each batch fits by itself, but not all of them together.",
		fmt.Sprintf("Closing %s later would do, or one batch less, or another pair of hands.", Words(t.Need))
}

// Late says how the orders stand: the greatest lateness, against when they are due.
func (s *Narrator) Late(wants []Want) (late []Want, by []int) {
	for _, w := range wants {
		if end, ok := s.End(w); ok && end > w.Due {
			late, by = append(late, w), append(by, end-w.Due)
		}
	}
	return late, by
}

// End is when an order is ready, min from midnight; false where it has no batch on the day.
func (s *Narrator) End(w Want) (int, bool) {
	end := -1
	for i, t := range s.Day.Tasks {
		for _, id := range w.Jobs {
			if s.Jobs[t.Batch].Batch == id {
				end = max(end, s.Slots[i].End())
			}
		}
	}
	return end, end >= 0
}
