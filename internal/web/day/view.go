package day

import (
	"cmp"
	"fmt"
	"html/template"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/day"
	"hollen/internal/core/measure"
	"hollen/internal/core/schedule"
	"hollen/internal/draw"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// dayView is the page of a day.
type dayView struct {
	Date, Head string
	Facts      []string
	Version    int
	CanUndo    bool
	Planned    bool
	Live       bool
	Stamp      string
	In         measure.System
	Lanes      template.HTML
	Guide      *page.Guide // what is said at the first day
	Rows       []dayRow
	More       int // rows of a long day that are not shown
	Proof      string
	Span       string
	Changed    []string
	Late       []lateRow
	Better     *betterRow
	Trouble    []troubleRow
	Stale      string
	Due        *dueList // of today, or of a day that is past
	Short      []string // orders that get less than was ordered
	Retired    []string // by batch, what it is planned with that the cabinet offers no more
	Wrong      string   // why what was asked cannot be
	Nearest    string   // the nearest that can, as a time
	Sel        *taskView
	Rests      []restRow
	Kit        kitView
	Add        []knownRow
	Waiting    int // orders without a batch
	Orders     int
	Next       string
	Before     string // the days next to it
	After      string
	Unserved   string   // for whom an order’s batch is not on the day
	Out        []string // whose egg dough is out of the fridge for longer than it should be
	Lost       []string // for whom what was made was thrown away, and why
}

// dayRow is a batch of the day in its list.
type dayRow struct {
	Job         day.Job
	Dough       string
	Now, Then   string
	Wanted      string
	InHand      string
	Late        bool
	On          bool
	Making      uint64
	First, Last string
	Gone        bool
	Parts       []partChoice
}

type partChoice struct {
	Value day.Part
	Words string
	On    bool
}

// lateRow is an order in danger.
type lateRow struct{ Who, When, By string }

// betterRow is another order of what is to come, where it is better.
type betterRow struct{ Text string }

// troubleRow says why there is no plan.
type troubleRow struct{ Why, Nearest string }

// restRow says what a rest is used for.
type restRow struct{ Letter, Face, Edge, Head, Text string }

// knownRow is a batch that can be put on the day.
type knownRow struct {
	ID   uint64
	Name string
}

// taskView is the task that is looked at.
type taskView struct {
	Key, Head, Says string
	Letter          string
	Face, Edge      string
	At, By          string
	Pinned          bool
	Hands           bool
	Begun, Done     bool
	People          []personChoice
	NotBefore       string
	NotAfter        string
}

type personChoice struct {
	Name string
	On   bool // does it
	Not  bool // shall not
	Can  bool
}

// dateWords is a date as a head.
func dateWords(date string) string {
	t, err := time.Parse(time.DateOnly, date)
	if err != nil {
		return date
	}
	return t.Format("Monday 2 January")
}

// show puts the day into a view; key is the task looked at.
func (d *dayNow) view(in measure.System, key string) *dayView {
	d.In = in
	v := &dayView{Date: d.Date, Head: dateWords(d.Date), Version: d.Version, CanUndo: d.CanUndo, Planned: d.Planned(),
		Live: d.Live, Stamp: d.Stamp, In: in,
		Kit: kitOf(&d.Shop, d.In), Orders: len(d.Orders)}
	at := d.Midnight
	v.Before, v.After = at.AddDate(0, 0, -1).Format(time.DateOnly), at.AddDate(0, 0, 1).Format(time.DateOnly)
	dough, batches := 0., 0
	for _, j := range d.Jobs {
		if !j.Left {
			batches++
			dough += j.DoughG
		}
	}
	if batches == 0 {
		v.Facts = []string{"Nothing on it yet, " + handsWords(len(d.Shop.People))}
	} else {
		v.Facts = append(v.Facts, fmt.Sprintf("%s, %s of dough, %s", measure.Plural(batches, "batch", "batches"),
			in.KG(dough/1000, 1),
			handsWords(len(d.Shop.People))))
	}
	if told := d.stateTold(); told != "" {
		v.Facts = append(v.Facts, told)
	}
	var unserved []string
	for _, o := range d.Orders {
		if o.Lost != nil {
			v.Lost = append(v.Lost, d.lostWords(o))
		}
		if o.Batch == nil {
			v.Waiting++
		} else if !slices.ContainsFunc(d.Jobs, func(j day.Job) bool { return j.Batch == *o.Batch && !j.Left }) {
			unserved = append(unserved, o.Who)
		}
	}
	v.Unserved = measure.List(unserved)
	if len(d.Stale) > 0 {
		v.Stale = fmt.Sprintf("Saved since the day was planned: %s. Plan again to take it in.", measure.List(d.Stale))
	}
	if !v.Planned {
		for i := range d.Jobs {
			v.Rows = append(v.Rows, d.row(i, in, nil))
		}
		return v
	}
	said := d.narrator()
	v.Proof = schedule.Proof(d.Answer())
	first, last := schedule.NoLimit, 0
	for _, s := range d.Shown {
		first, last = min(first, s.Start-s.CleanMin), max(last, s.End())
	}
	v.Span = fmt.Sprintf("%s from first touch to last, %s to %s", day.Words(last-first), day.Time(first),
		day.Time(last))
	v.Facts = append(v.Facts, v.Span)
	v.Rows, v.More = d.rows(in, said)
	d.dangers(v, said)
	v.Lanes = template.HTML(d.lanes(first, last).SVG())
	v.Rests = d.rests()
	v.Sel = d.selected(key)
	v.Next = d.next(said)
	return v
}

// lostWords say whose order was thrown away, when it is due and why.
func (d *dayNow) lostWords(o store.Order) string {
	words := fmt.Sprintf("what was made for %s, due %s", o.Who, day.Time(o.Due))
	if why := d.Thrown[*o.Lost]; why != "" {
		words += " (" + why + ")"
	}
	return words + ". Nothing serves it yet."
}

// notesOf are the notes of the orders a batch serves, each with whose it is.
func (d *dayNow) notesOf(batch uint64) (out []string) {
	for _, w := range d.Wants {
		if notice := w.Notice(); notice != "" && slices.Contains(w.Jobs, batch) {
			out = append(out, w.Who+": "+notice)
		}
	}
	return out
}

func handsWords(n int) string {
	if n == 1 {
		return "one pair of hands"
	}
	return measure.Plural(n, "pair", "pairs") + " of hands"
}

// dangers says what has moved, which orders are late, and whether another order would do better.
func (d *dayNow) dangers(v *dayView, said *day.Narrator) {
	late, by := said.Late(d.Wants)
	for i, w := range late {
		v.Late = append(v.Late, lateRow{w.Who, day.Time(w.Due), day.Words(by[i])})
	}
	v.Out = d.out(said)
	if d.Kept == nil {
		return
	}
	for _, x := range schedule.Shifts(d.Slots, d.Shown) {
		if !d.Begun[x.Task] && (x.To-x.From > 2 || x.From-x.To > 2) {
			v.Changed = append(v.Changed, fmt.Sprintf("%s: %s, was %s.", said.Task(x.Task), day.Time(x.To),
				day.Time(x.From)))
		}
	}
	for _, o := range d.Kept.Overruns {
		l := d.Sheet.Day.Lags[o.Lag]
		v.Changed = append(v.Changed, said.Fault(schedule.Fault{Task: l.B.Task, Other: l.A.Task, Why: schedule.TooLate,
			By:   o.By,
			What: string(l.What)}))
	}
	if len(v.Changed) > 6 {
		v.Changed = append(v.Changed[:5], fmt.Sprintf("And %d more.", len(v.Changed)-5))
	}
	v.Better = d.better()
}

// out says whose egg dough is out of the fridge for longer than it should be, of what is yet to be packed.
func (d *dayNow) out(said *day.Narrator) []string {
	return said.Out(func(task int) bool { return d.Facts[task].Done })
}

// better says what another order of what is to come would bring; nil where none is better.
func (d *dayNow) better() *betterRow {
	b := d.Better
	if b == nil {
		return nil
	}
	var gains []string
	if saved := d.ready(d.Sheet.Day, d.Kept.Slots) - d.ready(d.Sheet.Day, b.Slots); saved > 0 {
		gains = append(gains, fmt.Sprintf("%s less late over all orders", day.Words(saved)))
	} else if saved := d.Kept.Goals.Late - b.Goals.Late; saved > 0 {
		gains = append(gains, fmt.Sprintf("%s more in hand before orders are due", day.Words(saved)))
	}
	over := func(c *schedule.Change) (n int) {
		for _, o := range c.Overruns {
			n += o.By
		}
		return n
	}
	if saved := over(d.Kept) - over(b); saved > 0 {
		gains = append(gains, fmt.Sprintf("doughs and sheets wait %s less beyond what they allow", day.Words(saved)))
	}
	return &betterRow{"In another order " + measure.List(gains) + fmt.Sprintf("; %s of work moved in all.",
		day.Words(b.MovedMin))}
}

// row is one batch of the list.
func (d *dayNow) row(at int, in measure.System, said *day.Narrator) dayRow {
	j := d.Jobs[at]
	r := dayRow{Job: j, Dough: in.Grams(j.DoughG), Making: d.Making[j.Batch], Gone: slices.Contains(d.Gone, j.Letter)}
	for _, p := range []partChoice{{day.Whole, "all of it", false}, {day.DoughOnly, "the dough, for another day",
		false}, {day.FromCold,
		"from the fridge on", false}} {
		p.On = p.Value == j.Part
		r.Parts = append(r.Parts, p)
	}
	var wanted []string
	hand := schedule.NoLimit
	for _, w := range d.Wants {
		if !slices.Contains(w.Jobs, j.Batch) {
			continue
		}
		to := fmt.Sprintf("%s, %s", w.Who, day.Time(w.Due))
		if notice := w.Notice(); notice != "" {
			to += " (" + notice + ")"
		}
		wanted = append(wanted, to)
		if said != nil {
			if end, ok := said.End(w); ok {
				hand = min(hand, w.Due-end)
			}
		}
	}
	r.Wanted = strings.Join(wanted, "; ")
	switch {
	case said == nil || j.Left || hand == schedule.NoLimit:
	case hand < 0:
		r.InHand, r.Late = day.Words(-hand)+" late", true
	default:
		r.InHand = day.Words(hand)
	}
	if said == nil || j.Left {
		return r
	}
	if why, thrown := d.Thrown[j.Batch]; thrown {
		r.Now = strings.TrimSuffix("thrown away: "+why, ": ")
		r.InHand = ""
		r.Late = true
		return r
	}
	d.doing(&r, at)
	return r
}

// doing says what a batch is at, and what comes then.
func (d *dayNow) doing(r *dayRow, at int) {
	var tasks []int
	for i := range d.Sheet.Day.Tasks {
		if d.Sheet.Day.Tasks[i].Batch == at {
			tasks = append(tasks, i)
		}
	}
	slices.SortStableFunc(tasks, func(a, b int) int { return cmp.Compare(d.Shown[a].Start, d.Shown[b].Start) })
	if len(tasks) == 0 {
		return
	}
	name := func(i int) string { return measure.Lower(d.Sheet.Day.Tasks[i].Name) }
	r.First, r.Last = day.Time(d.Shown[tasks[0]].Start), day.Time(d.Shown[tasks[len(tasks)-1]].End())
	next := -1
	now := -1
	lastDone := -1
	for _, i := range tasks {
		switch f := d.Facts[i]; {
		case f.Done:
			lastDone = i
		case f.Begun:
			now = i
		case next < 0:
			next = i
		}
	}
	switch {
	case now >= 0:
		left := d.Shown[now].End() - d.Now
		r.Now, r.On = fmt.Sprintf("%s, %s left", name(now), day.Words(max(left, 0))), true
		if left <= 0 {
			r.Now = name(now) + ", over its time"
		}
	case lastDone < 0:
		r.Now = "starts " + r.First
	case next < 0:
		r.Now = "done " + day.Time(d.Shown[lastDone].End())
	default:
		r.Now = d.between(lastDone, next)
	}
	if next >= 0 {
		r.Then = fmt.Sprintf("%s at %s", name(next), day.Time(d.Shown[next].Start))
	}
}

// between is what a batch does between two of its tasks.
func (d *dayNow) between(a, b int) string {
	for _, l := range d.Sheet.Day.Lags {
		if l.B.Task != b || l.A.Task != a {
			continue
		}
		switch l.What {
		case schedule.Resting:
			return "resting"
		case schedule.InCold:
			return "resting in the fridge"
		case schedule.Drying:
			return "drying"
		case schedule.Cooling:
			return "filling cools"
		}
	}
	return "waits"
}

// next says what is to be done next, for the head’s key.
func (d *dayNow) next(said *day.Narrator) string {
	if !d.Live {
		return ""
	}
	at := -1
	for i, f := range d.Facts {
		if !f.Begun && d.Sheet.Day.Tasks[i].Hands && (at < 0 || d.Shown[i].Start < d.Shown[at].Start) {
			at = i
		}
	}
	if at < 0 {
		return ""
	}
	return fmt.Sprintf("Next: %s, %s", said.Task(at), day.Time(d.Shown[at].Start))
}

// selected is the task of that key.
func (d *dayNow) selected(key string) *taskView {
	i := d.Task(key)
	if i < 0 {
		return nil
	}
	t := &d.Sheet.Day.Tasks[i]
	s := d.Shown[i]
	j := d.Jobs[d.Sheet.Day.Tasks[i].Batch]
	v := &taskView{Key: key, Head: t.Name, Letter: j.Letter, Face: j.Face, Edge: j.Edge, At: day.Time(s.Start),
		Hands: t.Hands,
		Begun: d.Facts[i].Begun, Done: d.Facts[i].Done}
	v.Says = fmt.Sprintf("%s, %s. %s to %s, %s", j.Letter, j.Name, day.Time(s.Start), day.Time(s.End()),
		day.Words(s.Min))
	if s.By >= 0 {
		v.By = d.Sheet.Day.People[s.By].Name
		v.Says += ", " + v.By
	}
	v.Says += "."
	if s.CleanMin > 0 {
		v.Says += fmt.Sprintf(" The roller is cleaned for %s before it.", day.Words(s.CleanMin))
	}
	var w day.Wish
	for _, x := range d.Wishes {
		if x.Task == key {
			w = x
		}
	}
	v.Pinned = w.Pinned
	if w.NotBefore > 0 {
		v.NotBefore = day.Time(w.NotBefore)
	}
	if w.NotAfter > 0 {
		v.NotAfter = day.Time(w.NotAfter)
	}
	for _, h := range d.Shop.People {
		v.People = append(v.People, personChoice{h.Name, h.Name == v.By, slices.Contains(w.NotBy, h.Name),
			!slices.Contains(h.Cannot, t.Kind)})
	}
	return v
}

// lanes is the picture of the day.
func (d *dayNow) lanes(first, last int) *draw.Day {
	for _, w := range d.Wants {
		if len(w.Jobs) > 0 {
			first, last = min(first, w.Due), max(last, w.Due)
		}
	}
	from, to := (first-15)/30*30, (last+45)/30*30
	if d.Live && d.Now > from-60 {
		from = min(from, d.Now-15)
	}
	p := &draw.Day{Title: fmt.Sprintf("The day, %s to %s", day.Time(from), day.Time(to)), From: float64(from),
		To: float64(to)}
	if d.Live {
		p.Now, p.NowWords = float64(d.Now), day.Time(d.Now)
	}
	for i, h := range d.Shop.People {
		lane := draw.DayLane{Name: h.Name, Small: cannotWords(h), Own: true}
		for _, o := range d.Sheet.Day.People[i].Off {
			if a, b := max(o[0], from), min(o[1], to); b > a {
				lane.Bars = append(lane.Bars, draw.DayBar{From: float64(a), To: float64(b), Class: "off",
					Words: offWords(o, &d.Shop),
					Says:  fmt.Sprintf("%s is off, %s to %s", h.Name, day.Time(a), day.Time(b))})
			}
		}
		lane.Bars = append(lane.Bars, d.bars(func(k int) bool { return d.Shown[k].By == i })...)
		p.Lanes = append(p.Lanes, sorted(lane))
	}
	if bars := d.bars(func(k int) bool { return d.Sheet.Day.Tasks[k].Kind == schedule.Machine }); len(bars) > 0 {
		p.Lanes = append(p.Lanes, sorted(draw.DayLane{Name: "Mixer", Bars: bars}))
	}
	roller := draw.DayLane{Name: "Roller", Small: "cleaning hatched",
		Bars: d.bars(func(task int) bool { return day.OnRoller(d.Sheet.Day, task) })}
	for i := range roller.Bars {
		roller.Bars[i].Task = ""
	}
	if len(roller.Bars) > 0 {
		p.Lanes = append(p.Lanes, sorted(roller))
	}
	if bars := d.restBars(); len(bars) > 0 {
		p.Lanes = append(p.Lanes, sorted(draw.DayLane{Name: "Resting", Small: "minutes", Bars: bars}))
	}
	if bars := d.rackBars(); len(bars) > 0 {
		p.Lanes = append(p.Lanes, sorted(draw.DayLane{Name: "Rack", Small: d.In.M(d.Shop.RackM, 0) + " of rod",
			Bars: bars}))
	}
	wants := slices.Clone(d.Wants)
	slices.SortStableFunc(wants, func(a, b day.Want) int { return cmp.Compare(a.Due, b.Due) })
	said := d.narrator()
	for _, w := range wants {
		letters := ""
		for _, j := range d.Jobs {
			if slices.Contains(w.Jobs, j.Batch) && !j.Left {
				letters += " " + j.Letter
			}
		}
		if letters == "" {
			continue
		}
		end, _ := said.End(w)
		words := day.Time(w.Due) + " " + w.Who + "," + letters
		if end > w.Due {
			words = w.Who + " " + day.Words(end-w.Due) + " late," + letters
		}
		p.Flags = append(p.Flags, draw.DayFlag{At: float64(w.Due), Words: words, Late: end > w.Due})
	}
	return p
}

func sorted(l draw.DayLane) draw.DayLane {
	slices.SortStableFunc(l.Bars, func(a, b draw.DayBar) int { return cmp.Compare(a.From, b.From) })
	return l
}

func offWords(o [2]int, shop *day.Shop) string {
	if o[0] <= 0 || o[1] >= schedule.NoLimit/8 {
		return ""
	}
	return "break"
}

func cannotWords(h day.Hand) string {
	if h.Pace != 100 {
		return fmt.Sprintf("at %d %%", h.Pace)
	}
	return ""
}

// bars are tasks as they stand in a lane.
func (d *dayNow) bars(which func(int) bool) (out []draw.DayBar) {
	late := map[int]bool{}
	said := d.narrator()
	for _, w := range d.Wants {
		if end, ok := said.End(w); ok && end > w.Due {
			for i, t := range d.Sheet.Day.Tasks {
				if slices.Contains(w.Jobs, d.Jobs[t.Batch].Batch) && d.Shown[i].End() > w.Due {
					late[i] = true
				}
			}
		}
	}
	for i := range d.Sheet.Day.Tasks {
		if !which(i) {
			continue
		}
		t := &d.Sheet.Day.Tasks[i]
		s := d.Shown[i]
		j := d.Jobs[d.Sheet.Day.Tasks[i].Batch]
		b := draw.DayBar{From: float64(s.Start), To: float64(s.End()), Letter: j.Letter, Words: measure.Lower(t.Name),
			Face: j.Face, Edge: j.Edge,
			Href: "?task=" + t.Key + "#task", Task: t.Key, CleanBefore: float64(s.CleanMin), Class: "work"}
		b.Says = fmt.Sprintf("%s %s: %s, %s to %s", j.Letter, j.Name, measure.Lower(t.Name), day.Time(s.Start),
			day.Time(s.End()))
		if s.By >= 0 {
			b.Says += ", " + d.Sheet.Day.People[s.By].Name
		}
		switch {
		case d.Facts[i].Done:
			b.Class += " done"
			b.Task = ""
		case d.Facts[i].Begun:
			b.Class += " running"
			b.Task = ""
		case late[i]:
			b.Class += " clash"
		}
		if slices.ContainsFunc(d.Wishes, func(w day.Wish) bool { return w.Task == t.Key && w.Pinned }) {
			b.Class += " pinned"
			b.Says += ", pinned"
		}
		out = append(out, b)
	}
	return out
}

// restBars are what lies between the tasks: the rests, each with its minutes.
func (d *dayNow) restBars() (out []draw.DayBar) {
	seen := map[[2]int]bool{}
	for _, l := range d.Sheet.Day.Lags {
		if l.What != schedule.Resting && l.What != schedule.InCold && l.What != schedule.Cooling {
			continue
		}
		a, b := l.A.Task, l.B.Task
		from, to := d.Shown[a].End(), d.Shown[b].Start
		if seen[[2]int{a, from}] || to <= from {
			continue
		}
		seen[[2]int{a, from}] = true
		j := d.Jobs[d.Sheet.Day.Tasks[a].Batch]
		words := fmt.Sprint(to - from)
		switch l.What {
		case schedule.InCold:
			words += " fridge"
		case schedule.Cooling:
			words += " filling cools"
		}
		bar := draw.DayBar{From: float64(from), To: float64(to), Letter: j.Letter, Words: words, Face: j.Face,
			Edge: j.Edge, Class: "soft",
			Says: fmt.Sprintf("%s %s: %s, %s to %s", j.Letter, j.Name, words, day.Time(from), day.Time(to))}
		if d.Facts[b].Begun {
			bar.Class += " done"
		}
		out = append(out, bar)
	}
	return out
}

// rackBars are the sheets that hang.
func (d *dayNow) rackBars() (out []draw.DayBar) {
	for _, h := range d.Sheet.Day.Holds {
		if h.Store != day.AtRack {
			continue
		}
		from, to := d.Shown[h.From.Task].Start, d.Shown[h.To.Task].Start
		j, rod := d.Jobs[d.Sheet.Day.Tasks[h.From.Task].Batch], d.In.M(float64(h.Quantity)/10, 1)
		bar := draw.DayBar{From: float64(from), To: float64(to), Letter: j.Letter, Words: rod, Face: j.Face,
			Edge:  j.Edge,
			Class: "soft", Says: fmt.Sprintf("%s %s: on the rack, %s of rod, %s to %s", j.Letter, j.Name, rod,
				day.Time(from), day.Time(to))}
		if d.Facts[h.To.Task].Begun {
			bar.Class += " done"
		}
		out = append(out, bar)
	}
	return out
}

// meanwhile is what the other batches are at between two moments, a batch a time: “C roll, cut”.
func (d *dayNow) meanwhile(but, from, to int) (out []string) {
	for at, j := range d.Jobs {
		var what []string
		for i, s := range d.Shown {
			t := &d.Sheet.Day.Tasks[i]
			if t.Batch != at || at == but || !t.Hands || s.Start >= to || s.End() <= from || d.Facts[i].Done {
				continue
			}
			word, _, _ := strings.Cut(measure.Lower(t.Name), ", ")
			if !slices.Contains(what, word) {
				what = append(what, word)
			}
		}
		if len(what) > 0 {
			out = append(out, j.Letter+" "+strings.Join(what, ", "))
		}
	}
	return out
}

// mostShown is how many batches a day’s list shows at once: those that come next.
const mostShown = 12

// rows are the batches of the list: of a long day those whose work comes next, unless all are asked for.
func (d *dayNow) rows(in measure.System, said *day.Narrator) (out []dayRow, more int) {
	next := make([]int, len(d.Jobs)) // when each is next at hand
	for i := range next {
		next[i] = schedule.NoLimit
	}
	for i, t := range d.Sheet.Day.Tasks {
		if !d.Facts[i].Done {
			next[t.Batch] = min(next[t.Batch], d.Shown[i].Start)
		}
	}
	order := make([]int, len(d.Jobs))
	for i := range order {
		order[i] = i
	}
	if len(order) > mostShown && !d.All {
		slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(next[a], next[b]) })
		order, more = order[:mostShown], len(order)-mostShown
	}
	for _, i := range order {
		out = append(out, d.row(i, in, said))
	}
	return out, more
}

// mostRests is how many rests a day’s list shows.
const mostRests = 8

// rests says of the rests that come next what fits into them.
func (d *dayNow) rests() (out []restRow) {
	seen := map[int]bool{}
	lags := slices.Clone(d.Sheet.Day.Lags)
	slices.SortStableFunc(lags, func(a, b schedule.Lag) int {
		return cmp.Compare(d.Shown[a.A.Task].Start,
			d.Shown[b.A.Task].Start)
	})
	for _, l := range lags {
		if len(out) == mostRests {
			break
		}
		a, b := l.A.Task, l.B.Task
		if l.What != schedule.Resting && l.What != schedule.InCold || seen[a] || d.Facts[b].Begun {
			continue
		}
		seen[a] = true
		from, to := d.Shown[a].End(), d.Shown[b].Start
		if d.Live {
			from = max(from, d.Now)
		}
		if to-from < 2 {
			continue
		}
		j := d.Jobs[d.Sheet.Day.Tasks[a].Batch]
		r := restRow{Letter: j.Letter, Face: j.Face, Edge: j.Edge, Head: fmt.Sprintf("%s to %s, %s", day.Time(from),
			day.Time(to), day.Words(to-from))}
		fits := d.meanwhile(d.Sheet.Day.Tasks[a].Batch, from, to)
		var free []string
		for p, h := range d.Shop.People {
			for _, g := range d.Sheet.Day.Gaps(p, from, to, d.Shown) {
				if g[1]-g[0] >= 8 {
					free = append(free, fmt.Sprintf("%s free %s from %s", h.Name, day.Words(g[1]-g[0]), day.Time(g[0])))
				}
			}
		}
		r.Text = "Meanwhile " + strings.Join(fits, "; ") + "."
		if len(fits) == 0 {
			r.Text = "Nothing else is at hand meanwhile."
		}
		if len(free) > 0 {
			r.Text += " " + measure.Capital(measure.List(free[:min(len(free), 3)])) + ": sauce, clearing, weighing out."
		}
		out = append(out, r)
	}
	slices.SortStableFunc(out, func(a, b restRow) int { return cmp.Compare(a.Letter, b.Letter) })
	return out
}
