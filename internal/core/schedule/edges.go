package schedule

import (
	"cmp"
	"slices"
)

// job is one thing on a machine that does one at a time: it may begin at head, must end by dead, takes work, min.
type job struct {
	head, dead, work, tail int
	task                   int // −1 for a break
}

// edgeFinding raises the heads of jobs that must come after all of some others (Baptiste, Le Pape and Nuijten 2001,
// the O(n²) form of Carlier and Pinson’s rule), and says whether they can all be done.
func edgeFinding(jobs []job, byDead, after []int) bool {
	slices.SortStableFunc(jobs, func(a, b job) int { return cmp.Compare(a.head, b.head) })
	n := len(jobs)
	raised, last := byDead[:n], after[:n]
	for i := range jobs {
		raised[i] = jobs[i].head
	}
	for k := range jobs {
		dead := jobs[k].dead
		if k > 0 && slices.ContainsFunc(jobs[:k], func(j job) bool { return j.dead == dead }) {
			continue
		}
		work, end := 0, never
		for i := n - 1; i >= 0; i-- {
			if jobs[i].dead <= dead {
				work += jobs[i].work
				if end = max(end, jobs[i].head+work); end > dead {
					return false
				}
			}
			last[i] = end
		}
		most := never
		for i := range jobs {
			if jobs[i].dead <= dead {
				most = max(most, jobs[i].head+work)
				work -= jobs[i].work
				continue
			}
			if work > 0 && jobs[i].head+work+jobs[i].work > dead {
				raised[i] = max(raised[i], last[i])
			}
			if most > never && most+jobs[i].work > dead {
				raised[i] = max(raised[i], end)
			}
		}
	}
	for i := range jobs {
		jobs[i].head = raised[i]
		if jobs[i].head+jobs[i].work > jobs[i].dead {
			return false
		}
	}
	return true
}

// mirrored turns time round: the end of the day becomes its beginning.
func mirrored(jobs []job) {
	for i, j := range jobs {
		jobs[i].head, jobs[i].dead = -j.dead, -j.head
	}
}

// jackson is the least end over all jobs, each with its tail, when the work may be interrupted: the one with the
// longest tail first (Jackson 1955). It sorts the jobs by head.
func jackson(jobs []job, left []int) int {
	slices.SortStableFunc(jobs, func(a, b job) int { return cmp.Compare(a.head, b.head) })
	n := len(jobs)
	left = left[:n]
	for i := range jobs {
		left[i] = jobs[i].work
	}
	end := never
	undone := n
	now := never
	for next := 0; undone > 0; {
		pick := -1
		for i := range next {
			if left[i] > 0 && (pick < 0 || jobs[i].tail > jobs[pick].tail) {
				pick = i
			}
		}
		if pick < 0 {
			now = max(now, jobs[next].head)
			for next < n && jobs[next].head <= now {
				if left[next] == 0 {
					undone--
				}
				next++
			}
			continue
		}
		run := left[pick]
		if next < n {
			run = min(run, jobs[next].head-now)
		}
		now += run
		if left[pick] -= run; left[pick] == 0 {
			undone--
			end = max(end, now+jobs[pick].tail)
		}
		for next < n && jobs[next].head <= now {
			next++
		}
	}
	return end
}

// spread is the least time from the first touch to the end of so much work, begun between lo and hi, with nothing
// done in the time off.
func spread(lo, hi, work int, off [][2]int) int {
	if work <= 0 {
		return 0
	}
	least := NoLimit
	try := func(at int) {
		if at < lo || at > hi {
			return
		}
		from, left := at, work
		for _, o := range off {
			if o[1] <= from {
				continue
			}
			if open := o[0] - from; open >= left {
				break
			} else {
				left -= max(0, open)
			}
			from = max(from, o[1])
		}
		least = min(least, max(from, at)+left-at)
	}
	try(lo)
	try(hi)
	for _, o := range off {
		try(o[1])
		try(max(lo, min(hi, o[0]-work)))
	}
	// an end right before a break: as much as fits between the breaks before it
	for i := range off {
		at, left := off[i][0], work
		for k := i - 1; k >= -1; k-- {
			free := at
			if k >= 0 {
				free = at - off[k][1]
			}
			if free >= left {
				try(at - left)
				break
			}
			if left -= max(0, free); k >= 0 {
				at = off[k][0]
			}
		}
	}
	return least
}

// shortestFirst is the least Σ max(0, end − due) of orders of so much work each, with ends and dues both in order, when
// the work may be interrupted: the shortest remaining first.
func shortestFirst(jobs []job, dues []int, off [][2]int, left []int) int {
	slices.SortStableFunc(jobs, func(a, b job) int { return cmp.Compare(a.head, b.head) })
	n := len(jobs)
	left = left[:n]
	for i := range jobs {
		left[i] = jobs[i].work
	}
	late := 0
	done := 0
	now := never
	for done < n {
		pick, next := -1, NoLimit
		for i := range jobs {
			switch {
			case left[i] == 0:
			case jobs[i].head > now:
				next = min(next, jobs[i].head)
			case pick < 0 || left[i] < left[pick]:
				pick = i
			}
		}
		if pick < 0 {
			now = next
		}
		until := next
		for _, o := range off {
			if now >= o[0] && now < o[1] {
				now = o[1]
				pick = -1
			} else if now < o[0] {
				until = min(until, o[0])
			}
		}
		if pick < 0 {
			continue
		}
		run := min(left[pick], until-now)
		now += run
		if left[pick] -= run; left[pick] == 0 {
			late += max(0, now-dues[done])
			done++
		}
	}
	return late
}
