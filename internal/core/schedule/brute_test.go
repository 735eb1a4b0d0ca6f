package schedule

import (
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"
)

// brute tries every start on a grid and every person, and returns the best goals. It shares nothing with the search
// but the words for a day.
type brute struct {
	d     *Day
	grid  int
	slots []Slot
	lags  [][]Lag // by the later of their tasks
	best  Goals
	found bool
	judge func([]Slot) Goals
}

func (b *brute) fits(k int) bool {
	s, t := &b.slots[k], &b.d.Tasks[k]
	for o := range b.slots[:k] {
		u, v := &b.slots[o], &b.d.Tasks[o]
		if s.Start < u.Start+u.Min && u.Start < s.Start+s.Min && (t.Hands && v.Hands && u.By == s.By || t.Class >= 0 &&
			v.Class >= 0) {
			return false
		}
	}
	for _, l := range b.lags[k] {
		if lag := l.B.at(b.slots) - l.A.at(b.slots); lag < l.Min || lag > l.Max {
			return false
		}
	}
	return true
}

func (b *brute) late(k int) int {
	late := 0
	for _, o := range b.d.Orders {
		end := 0
		for _, t := range o.Last {
			if t <= k {
				end = max(end, b.slots[t].End())
			}
		}
		late += max(0, end-o.Due)
	}
	return late
}

func (b *brute) try(k int) {
	if k == len(b.slots) {
		slots := slices.Clone(b.slots)
		b.d.Clean(slots)
		if len(b.d.Faults(slots)) > 0 {
			return
		}
		if g := b.judge(slots); !b.found || g.Less(b.best) {
			b.best, b.found = g, true
		}
		return
	}
	t := &b.d.Tasks[k]
	people := len(b.d.People)
	if !t.Hands {
		people = 1
	}
	for p := range people {
		m := t.Minutes[p]
		if m < 0 {
			continue
		}
		for at := t.From; at+m <= t.To; at += b.grid {
			b.slots[k] = Slot{Start: at, Min: m, By: p}
			if b.fits(k) && (!b.found || b.late(k) <= b.best.Late) {
				b.try(k + 1)
			}
		}
	}
}

func bruteForce(d *Day, grid int) (Goals, bool) {
	needs := make([]int, len(d.Waits))
	for i, w := range d.Waits {
		sub, of := d.batch(d.Tasks[w.A].Batch)
		from, to := slices.Index(of, w.A), slices.Index(of, w.B)
		b := newBrute(sub, grid)
		b.judge = func(s []Slot) Goals { return Goals{Wait: s[to].End() - s[from].Start} }
		b.try(0)
		needs[i] = b.best.Wait
	}
	b := newBrute(d, grid)
	b.judge = func(s []Slot) Goals { // written out again: what is judged is what was promised
		var g Goals
		first, last := NoLimit, 0
		for _, x := range s {
			first, last = min(first, x.Start-x.CleanMin), max(last, x.End())
		}
		for _, o := range d.Orders {
			end := 0
			for _, t := range o.Last {
				end = max(end, s[t].End())
			}
			g.Late, g.Early = g.Late+max(0, end-o.Due), g.Early+max(0, o.Due-end)
		}
		for i, w := range d.Waits {
			g.Wait = max(g.Wait, s[w.B].End()-s[w.A].Start-max(w.Limit, needs[i]))
		}
		g.Span = last - first
		return g
	}
	b.try(0)
	return b.best, b.found
}

func newBrute(d *Day, grid int) *brute {
	b := &brute{d: d, grid: grid, slots: make([]Slot, len(d.Tasks)), lags: make([][]Lag, len(d.Tasks))}
	for _, l := range d.Lags {
		later := max(l.A.Task, l.B.Task)
		b.lags[later] = append(b.lags[later], l)
	}
	return b
}

// The search agrees with trying everything on days small enough for that: on two thousand of them where HOLLEN_LONG is
// set.
func TestAgainstTryingEverything(t *testing.T) {
	days, none := 24, 0
	claims := claims{said: map[string]int{}, wrong: map[string]int{}}
	if os.Getenv("HOLLEN_LONG") != "" {
		days = 2_000
	}
	for seed := range uint64(days) {
		k := kind{batches: 2, people: 1 + int(seed/2)%2, small: true, breaks: seed%3 == 0, setups: seed%4 < 2,
			turns:    seed%5 == 0 && seed%4 < 2,
			fillings: seed%7 == 0 && seed%4 < 2, skill: seed%4 > 1}
		d := random(k, seed)
		want, can := bruteForce(d, 5)
		a, err := d.Solve(20_000)
		switch {
		case !can:
			none++
			if err == nil {
				t.Errorf("%d %+v: a plan %+v where there is none: %v", seed, k, a.Goals, d.Faults(a.Slots))
			}
		case err != nil:
			t.Errorf("%d %+v: no plan, want %+v", seed, k, want)
		case !a.Proved || a.Goals != want || len(d.Faults(a.Slots)) > 0:
			t.Errorf("%d %+v: %+v proved %v, want %+v; breaks %+v", seed, k, a.Goals, a.Proved, want, d.Faults(a.Slots))
		}
		if can {
			cut, err := d.Solve(2 + int(seed%5))
			claims.hold(t, fmt.Sprintf("%d cut short", seed), cut, err, want, d.Faults)
			large, all := embedded(d)
			want.Span, want.Early = all, 0
			a, err := large.Large()
			claims.hold(t, fmt.Sprintf("%d embedded", seed), a, err, want, large.Faults)
		}
	}
	t.Logf("claims by the sentence: %v; false: %v", claims.said, claims.wrong)
	t.Logf("%d days, %d without a plan", days, none)
	if none > days/3 {
		t.Errorf("%d of %d days have no plan: they show little", none, days)
	}
}

// claims counts what plans claim of themselves against the best there is.
type claims struct{ said, wrong map[string]int }

// hold holds a plan’s bounds under the best goals and its sentence to them.
func (c claims) hold(t *testing.T, what string, a *Answer, err error, best Goals, faults func([]Slot) []Fault) {
	t.Helper()
	if err != nil {
		return // it finds none, and claims nothing
	}
	if f := faults(a.Slots); len(f) > 0 {
		t.Errorf("%s: breaks %+v", what, f)
	}
	b, g := a.Bound, a.Goals
	switch {
	case b.Late > best.Late, g.Late == best.Late && b.Wait > best.Wait, g.Late == best.Late && g.Wait == best.Wait &&
		b.Span > best.Span:
		t.Errorf("%s: bound %+v over the best %+v; plan %+v", what, b, best, g)
	}
	text := Proof(a)
	gap := a.GapMin()
	says := func(key string, holds bool) {
		c.said[key]++
		if !holds {
			c.wrong[key]++
			t.Errorf("%s: %q of %+v where %+v is the best", what, text, g, best)
		}
	}
	onTop := g.Late == best.Late && g.Wait == best.Wait
	switch {
	case strings.HasPrefix(text, "Proved best"):
		says("proved best", onTop && g.Span == best.Span)
	case strings.HasPrefix(text, "A plan may be there that is less late"):
		says("at most so much less late", g.Late-best.Late <= gap)
	case strings.Contains(text, "in which the doughs wait less"):
		says("no less late, so much less waiting", g.Late == best.Late && g.Wait-best.Wait <= gap)
	case strings.HasPrefix(text, "No plan is less late, and then none"), strings.HasPrefix(text, "As short as"):
		says("none shorter", onTop && g.Span == best.Span)
	case strings.HasPrefix(text, "No plan is less late; the day"), strings.HasPrefix(text, "At most"):
		says("so much shorter at most", onTop && g.Span-best.Span <= gap)
	default:
		t.Errorf("%s: %q is no claim", what, text)
	}
}

// embedded is a day among easy batches before and after it, which stand where they must: its span is theirs, its
// lateness and waits are its
// own.
func embedded(core *Day) (*Day, int) {
	const shift, easy = 300, 10
	d := &Day{Stores: slices.Clone(core.Stores), Setup: core.Setup, First: core.First}
	end := 0
	for _, p := range core.People {
		q := Person{Name: p.Name}
		for _, o := range p.Off {
			q.Off = append(q.Off, [2]int{o[0] + shift, o[1] + shift})
		}
		d.People = append(d.People, q)
	}
	batches := 0
	for _, t := range core.Tasks {
		t.From, t.To = t.From+shift, t.To+shift
		end, batches = max(end, t.To), max(batches, t.Batch+1)
		d.Tasks = append(d.Tasks, t)
	}
	d.Lags, d.Holds, d.Waits = slices.Clone(core.Lags), slices.Clone(core.Holds), slices.Clone(core.Waits)
	for _, o := range core.Orders {
		o.Due += shift
		d.Orders = append(d.Orders, o)
	}
	for k := range 10 {
		at := 20 + 25*k
		if k >= 5 {
			at = end + 25*(k-4)
		}
		t := Task{Name: fmt.Sprint("easy ", k), Batch: batches + k, Hands: true, Class: NoRoller, From: at, To: at +
			easy}
		for range d.People {
			t.Minutes = append(t.Minutes, easy)
		}
		d.Tasks = append(d.Tasks, t)
		d.Orders = append(d.Orders, Order{Name: t.Name, Due: at + 60, Last: []int{len(d.Tasks) - 1}})
	}
	return d, end + 125 + easy - 20
}
