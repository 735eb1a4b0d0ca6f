package day

import (
	"cmp"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/day"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/schedule"
	"hollen/internal/exchange"
	"hollen/internal/web/page"
)

// daysView is the days to come and the last ones.
type daysView struct {
	Rows           []daysRow
	Today          string
	Earlier, Later string // where the list goes on; Later is "" as it opens
	Asked, Wrong   string // a day asked for that is none, and why
}

// daysListed is how many days the list shows, from another than today.
const daysListed = 14

type daysRow struct {
	Date, Head, Says, Orders string
	Today, Planned           bool
	Letters                  []day.Job
}

// ListDays shows the days from three days ago on, or from another; or opens the day that is asked for.
func (s *Room) ListDays(c *page.Visit) error {
	ctx := c.Request.Context()
	now := s.Now()
	from := now.AddDate(0, 0, -3)
	v := daysView{Today: s.Today(), Asked: strings.TrimSpace(c.Query("date"))}
	if v.Asked != "" {
		if _, err := measure.Day(v.Asked); err == nil {
			c.Redirect(http.StatusSeeOther, "/days/"+v.Asked)
			return nil
		}
		v.Wrong = "It needs a date, as " + v.Today + "."
	}
	if at, err := time.ParseInLocation(time.DateOnly, c.Query("from"), now.Location()); err == nil &&
		at.Year() > 1 && at.Year() < 9999 {
		from, v.Later = at, at.AddDate(0, 0, daysListed).Format(time.DateOnly)
	}
	v.Earlier = from.AddDate(0, 0, -daysListed).Format(time.DateOnly)
	to := from.AddDate(0, 0, daysListed-1)
	kept, err := s.Store.Days(ctx, from.Format(time.DateOnly), to.Format(time.DateOnly))
	if err != nil {
		return err
	}
	counts, week, err := s.Store.OrdersBetween(ctx, from.Format(time.DateOnly), to.Format(time.DateOnly))
	if err != nil {
		return err
	}
	for at := from; !at.After(to); at = at.AddDate(0, 0, 1) {
		r := daysRow{Date: at.Format(time.DateOnly)}
		r.Head, r.Today = dateWords(r.Date), r.Date == v.Today
		n := counts[r.Date]
		for _, w := range week {
			if w.Weekday == int(at.Weekday()) {
				n++
			}
		}
		if n > 0 {
			r.Orders = measure.Plural(n, "order", "orders")
		}
		for _, d := range kept {
			if d.Date != r.Date || len(d.Jobs) == 0 {
				continue
			}
			r.Letters = d.Jobs
			if r.Planned = d.Planned(); r.Planned {
				first, last := schedule.NoLimit, 0
				for _, x := range d.Slots {
					first, last = min(first, x.Start-x.CleanMin), max(last, x.End())
				}
				r.Says = fmt.Sprintf("%s to %s", day.Time(first), day.Time(last))
			} else {
				r.Says = "not planned yet"
			}
		}
		if v.Later == "" && at.Before(now.AddDate(0, 0, -1)) && len(r.Letters) == 0 {
			continue
		}
		v.Rows = append(v.Rows, r)
	}
	s.Render(c, http.StatusOK, "days", "Days", v)
	return nil
}

// listLine is one line of the day by the clock.
type listLine struct {
	At, Until, Who, Letter, Batch, What string
	Face, Edge                          string
	Clean                               string
	Rest                                string
	Done                                bool
}

// byClock lists the day by the clock: what is to be done, by whom, and what it then waits for.
func (d *dayNow) byClock() (out []listLine) {
	order := make([]int, len(d.Shown))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(d.Shown[a].Start, d.Shown[b].Start) })
	for _, i := range order {
		t := &d.Sheet.Day.Tasks[i]
		x := d.Shown[i]
		j := d.Jobs[d.Sheet.Day.Tasks[i].Batch]
		l := listLine{At: day.Time(x.Start), Until: day.Time(x.End()), Letter: j.Letter, Batch: j.Name, What: t.Name,
			Face: j.Face, Edge: j.Edge,
			Done: d.Facts[i].Done, Who: "by itself"}
		if x.By >= 0 {
			l.Who = d.Sheet.Day.People[x.By].Name
		}
		if x.CleanMin > 0 {
			l.Clean = fmt.Sprintf("Clean the roller first, from %s.", day.Time(x.Start-x.CleanMin))
		}
		for _, g := range d.Sheet.Day.Lags {
			if g.A.Task != i || !g.A.End && g.What != schedule.Drying {
				continue
			}
			to := d.Shown[g.B.Task].Start
			switch g.What {
			case schedule.Resting:
				l.Rest = "rests until " + day.Time(to)
			case schedule.InCold:
				l.Rest = "in the fridge until " + day.Time(to)
			case schedule.Drying:
				l.Rest = "dries until " + day.Time(to)
				if to < x.End() { // the first sheets are dry before the last is rolled
					then := measure.Lower(d.Sheet.Day.Tasks[g.B.Task].Name)
					l.Rest = "each sheet dries as it comes; " + then + " from " + day.Time(to)
				}
			case schedule.Cooling:
				l.Rest = "cools until " + day.Time(to)
			}
		}
		out = append(out, l)
	}
	return out
}

// wallView is the day’s list for the wall.
type wallView struct {
	Date, Head, Place string
	Facts             []string
	Paper             page.Paper
	Papers            []page.Paper
	Lines             []listLine
	Orders            []wallOrder
	Proof             string
	Out               []string     // whose egg dough is out of the fridge for longer than it should be
	Style             template.CSS // how large it is written, so that a day is a page
}

type wallOrder struct {
	Who, What, When, Ready, Letters, Note string
	Late                                  bool
}

// ShowWall shows the day’s list as it is printed.
func (s *Room) ShowWall(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	v := wallView{Date: d.Date, Head: dateWords(d.Date), Place: s.Place(c), Papers: page.SheetPapers,
		Paper: page.PaperOf(page.SheetPapers, c.Query("paper"))}
	v.Facts = d.view(c.Units, "").Facts
	if d.Planned() {
		v.Lines = d.byClock()
		v.Proof = schedule.Proof(d.Answer())
		v.Out = d.out(d.narrator())
	}
	_, short, err := s.shares(c.Request.Context(), d)
	if err != nil {
		return err
	}
	for i, w := range d.Wants {
		o := wallOrder{Who: w.Who, What: fmt.Sprintf("%s, %s", w.What, w.Asked().Words()), When: day.Time(w.Due),
			Note: noticed(w.Notice(), short[i])}
		if d.Planned() {
			said := d.narrator()
			if end, ok := said.End(w); ok {
				if o.Ready = day.Time(end); end > w.Due {
					o.Late, o.Ready = true, fmt.Sprintf("%s, %s late", o.Ready, day.Words(end-w.Due))
				}
			}
		}
		if w.Lost {
			o.Late, o.Ready = true, "thrown away"
		}
		for _, j := range d.Jobs {
			if slices.Contains(w.Jobs, j.Batch) {
				o.Letters += j.Letter + " "
			}
		}
		v.Orders = append(v.Orders, o)
	}
	// what a page takes at full size, lines: a sheet of letter is lower, and a warning takes two
	takes := 19.
	if v.Paper.Key == "letter" {
		takes = 17.5
	}
	fit := math.Max(.55, math.Min(1, takes/float64(len(v.Lines)+len(v.Orders)+2*len(v.Out)+2)))
	v.Style = template.CSS(fmt.Sprintf("--fit:%.2f", fit))
	s.Render(c, http.StatusOK, "wall", v.Head+", by the clock", v)
	return nil
}

// phoneView is what one person does now, next and then.
type phoneView struct {
	Date, Head, Who string
	People          []string
	Live            bool
	Now             string
	Cards           []phoneCard
	Version         int
	Stamp           string
	Late            []lateRow
	Better          *betterRow
	Lost            []string
	Out             []string // whose egg dough is out of the fridge for longer than it should be
	Due             *dueList
}

type phoneCard struct {
	Word, Key, Letter, Face, Edge, Head, Batch, When, Left, Rest string
	Notes                                                        []string
	Making, BatchID                                              uint64
	Begun                                                        bool
}

// ShowPhone shows now, next and then, of one person or of all.
func (s *Room) ShowPhone(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	v := phoneView{Date: d.Date, Head: dateWords(d.Date), Who: c.Query("who"), Live: d.Live, Now: day.Time(max(d.Now,
		0)), Version: d.Version, Stamp: d.Stamp}
	for _, h := range d.Shop.People {
		v.People = append(v.People, h.Name)
	}
	_, short, err := s.shares(c.Request.Context(), d)
	if err != nil {
		return err
	}
	v.Due = d.dueList("now", v.Who, short)
	if d.Planned() {
		full := d.view(c.Units, "")
		v.Late = full.Late
		v.Better = full.Better
		v.Cards = d.cards(v.Who)
		v.Lost, v.Out = full.Lost, full.Out
	}
	s.Render(c, http.StatusOK, "phone", "Now, next, then", v)
	return nil
}

// cards are what is at hand, what comes next, and what comes then.
func (d *dayNow) cards(who string) (out []phoneCard) {
	var order []int
	for i, t := range d.Sheet.Day.Tasks {
		by := d.Shown[i].By
		if t.Hands && !d.Facts[i].Done && (who == "" || by >= 0 && d.Sheet.Day.People[by].Name == who) {
			order = append(order, i)
		}
	}
	slices.SortStableFunc(order, func(a, b int) int {
		return cmp.Or(cmp.Compare(b2(d.Facts[b].Begun), b2(d.Facts[a].Begun)), cmp.Compare(d.Shown[a].Start,
			d.Shown[b].Start))
	})
	words := []string{"Next", "Then", "Then"}
	for _, i := range order {
		t := &d.Sheet.Day.Tasks[i]
		x := d.Shown[i]
		j := d.Jobs[d.Sheet.Day.Tasks[i].Batch]
		p := phoneCard{Key: t.Key, Letter: j.Letter, Face: j.Face, Edge: j.Edge, Head: t.Name, Batch: j.Name,
			Making: d.Making[j.Batch], BatchID: j.Batch,
			Notes: d.notesOf(j.Batch), Begun: d.Facts[i].Begun, When: day.Time(x.Start)}
		if x.By >= 0 && who == "" {
			p.When += ", " + d.Sheet.Day.People[x.By].Name
		}
		if p.Begun {
			p.Word, p.Left = "Now", day.Words(max(0, x.End()-d.Now))+" left"
			if x.End() <= d.Now {
				p.Left = "over its time"
			}
		} else {
			if len(words) == 0 {
				break
			}
			p.Word, words = words[0], words[1:]
			if in := x.Start - d.Now; d.Live && in > 0 {
				p.Left = "in " + day.Words(in)
			} else if d.Live {
				p.Left = "now"
			}
		}
		if x.CleanMin > 0 {
			p.Rest = fmt.Sprintf("Clean the roller first, %s.", day.Words(x.CleanMin))
		}
		out = append(out, p)
	}
	return out
}

func b2(b bool) int {
	if b {
		return 1
	}
	return 0
}

// besideView is the same day with something more, beside this one.
type besideDayView struct {
	Date, Head string
	What       string
	Kinds      [][2]string
	Rows       [][3]string
	Here, With string
	Lanes      [2]template.HTML
	Failed     string
}

// tries are what a day may be looked at with, by their names.
var tries = [][2]string{{"roller", "a second roller"}, {"mixer", "a mixer more"}, {"hands", "another pair of hands"},
	{"fridge",
		"doughs in the fridge, not on the counter"},
	{"earlier", "an hour earlier"}}

// try is the shop, and the day made of it, with that more.
func (s *Room) try(d *dayNow, what string, plans []*plan.Plan) *schedule.Day {
	shop := d.Shop
	shop.People = slices.Clone(shop.People)
	switch what {
	case "roller":
		shop.Rollers++
	case "mixer":
		shop.Mixers++
	case "hands":
		shop.People = append(shop.People, day.Hand{Name: "Another", Pace: 100})
	case "earlier":
		shop.OpenAt = max(0, shop.OpenAt-60)
	}
	wishes := slices.Clone(d.Wishes)
	for i := range wishes { // what is pinned belongs to the day as it is
		wishes[i].Pinned = false
		wishes[i].At = 0
		wishes[i].By = ""
	}
	put := day.Put(s.Rules.Day, shop, slices.Clone(d.Jobs), plans, wishes, d.Wants)
	if what == "fridge" {
		day.Chill(put, s.Rules.Day)
	}
	return put
}

// BesideDay shows the day with something more, planned from the beginning, beside the day as it stands.
func (s *Room) BesideDay(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	v := besideDayView{Date: d.Date, Head: dateWords(d.Date), What: c.Query("with"), Kinds: tries}
	at := slices.IndexFunc(tries, func(t [2]string) bool { return t[0] == v.What })
	if at < 0 {
		at, v.What = 0, tries[0][0]
	}
	v.With = tries[at][1]
	d.In = c.Units
	ctx := c.Request.Context()
	stood := slices.Clone(d.Jobs)
	plans, err := s.work(ctx, d)
	if err != nil {
		v.Failed = err.Error()
		s.Render(c, http.StatusOK, "besideday", "What if", v)
		return nil
	}
	var answers [2]*schedule.Answer
	var late [2]int
	var drawn [2]*dayNow
	first, last := schedule.NoLimit, 0 // of both: the pictures stand on one scale of time
	for i, what := range []string{"", v.What} {
		put := s.try(d, what, plans)
		if len(put.Tasks) == 0 {
			v.Failed = "There is nothing on the day yet."
			break
		}
		var a *schedule.Answer
		jobs := d.Jobs
		if i == 0 && d.Planned() { // one plan, one figure: the day as its page shows it
			put = d.Sheet.Day
			a = d.Answer()
			jobs = stood
			if a.Slots = d.Shown; d.Kept != nil { // it has moved since it was found
				a.Bound, a.Proved = schedule.Goals{}, false
			}
		} else if a, err = put.Plan(); err != nil {
			continue
		}
		answers[i] = a
		_, by := (&day.Narrator{Day: put, Jobs: jobs, Slots: a.Slots}).Late(d.Wants)
		for _, minutes := range by {
			late[i] += minutes
		}
		other := *d
		other.Sheet = d.Sheet.Copy()
		other.Take(put, a)
		other.Jobs, other.Wishes = jobs, nil
		if i == 1 && v.What == "hands" {
			other.Shop.People = append(slices.Clone(d.Shop.People), day.Hand{Name: "Another", Pace: 100})
		}
		other.Shown = a.Slots
		other.Facts = make([]schedule.Fact, len(a.Slots))
		other.Begun = make([]bool, len(a.Slots))
		other.Live = false
		drawn[i] = &other
		for _, x := range a.Slots {
			first, last = min(first, x.Start-x.CleanMin), max(last, x.End())
		}
		if i == 0 {
			v.Here = schedule.Proof(a)
		}
	}
	for i, d := range drawn {
		if d != nil {
			v.Lanes[i] = template.HTML(d.lanes(first, last).SVG())
		}
	}
	v.compare(answers, late)
	s.Render(c, http.StatusOK, "besideday", "What if", v)
	return nil
}

// compare puts the figures of the two days side by side.
func (v *besideDayView) compare(a [2]*schedule.Answer, late [2]int) {
	if v.Failed != "" {
		return
	}
	cell := func(i int, f func(*schedule.Answer) string) string {
		if a[i] == nil {
			return "no plan keeps everything"
		}
		return f(a[i])
	}
	row := func(name string, f func(*schedule.Answer) string) {
		v.Rows = append(v.Rows, [3]string{name, cell(0, f), cell(1, f)})
	}
	v.Rows = append(v.Rows, [3]string{"Late, over all orders", cell(0, func(*schedule.Answer) string {
		return day.Words(
			late[0])
	}),
		cell(1, func(*schedule.Answer) string { return day.Words(late[1]) })})
	row("First touch to last", func(x *schedule.Answer) string {
		first, last := schedule.NoLimit, 0
		for _, s := range x.Slots {
			first, last = min(first, s.Start-s.CleanMin), max(last, s.End())
		}
		return day.Words(last - first)
	})
	row("First touch", func(x *schedule.Answer) string {
		first := schedule.NoLimit
		for _, s := range x.Slots {
			first = min(first, s.Start-s.CleanMin)
		}
		return day.Time(first)
	})
	row("Last touch", func(x *schedule.Answer) string {
		last := 0
		for _, s := range x.Slots {
			last = max(last, s.End())
		}
		return day.Time(last)
	})
	row("Hands at work", func(x *schedule.Answer) string {
		n := 0
		for _, s := range x.Slots {
			if s.By >= 0 {
				n += s.Min + s.CleanMin
			}
		}
		return day.Words(n)
	})
	row("How near the best", schedule.Proof)
}

// outView is what to set out and buy for the day.
type outView struct {
	Date, Head string
	Flours     []outRow
	Eggs       []outRow
	Else       []outRow
	Batches    []outBatch
	Failed     string
}

type outRow struct {
	Name, Much, Note string
	Short            bool
}

type outBatch struct {
	Letter, Face, Edge, Name string
	Notes                    []string
	Lines                    []outRow
}

// SetOut lists what the day needs: flour by kind and lot, eggs by class, the rest, and each batch’s lines to set out.
func (s *Room) SetOut(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	v := outView{Date: d.Date, Head: dateWords(d.Date)}
	plans, err := s.work(ctx, d)
	if err != nil {
		v.Failed = err.Error()
	}
	in := c.Units
	var made []*plan.Plan
	for i, p := range plans {
		j := d.Jobs[i]
		if j.Left || j.Part == day.FromCold {
			continue
		}
		made = append(made, p)
		b := outBatch{Letter: j.Letter, Face: j.Face, Edge: j.Edge, Name: p.Request.Name, Notes: d.notesOf(j.Batch)}
		if in != p.In() { // in words of the units asked for
			if told, err := plan.MakeIn(in, p.Rules(), p.Request); err == nil {
				p = told
			}
		}
		for _, a := range p.ToWeigh() {
			b.Lines = append(b.Lines, outRow{a.What, a.Now(), a.Note, false})
		}
		v.Batches = append(v.Batches, b)
	}
	for _, n := range day.SetOut(made, d.Date) {
		r := outRow{Name: n.Name, Much: in.Grams(n.MassG), Note: n.Note, Short: n.Short}
		if n.Lot != "" {
			r.Name += ", " + n.Lot
		}
		switch n.Kind {
		case day.NeedFlour:
			v.Flours = append(v.Flours, r)
		case day.NeedEggs:
			r.Much = plan.EggWords(n.Whole, n.Yolks)
			v.Eggs = append(v.Eggs, r)
		default:
			v.Else = append(v.Else, r)
		}
	}
	s.Render(c, http.StatusOK, "setout", "Set out, "+v.Head, v)
	return nil
}

// DownloadDay writes the day as JSON, or as a calendar.
func (s *Room) DownloadDay(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	doc := exchange.DayDocument(d.Sheet, d.Wants, d.Shown)
	b, err := exchange.WriteDay(doc)
	if err != nil {
		return page.Refuse(http.StatusInternalServerError, "This day cannot be written.", "")
	}
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="day-%s.json"`, d.Date))
	c.Data(http.StatusOK, "application/json; charset=utf-8", b)
	return nil
}

// DownloadCalendar hands the day out for a calendar.
func (s *Room) DownloadCalendar(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	if !d.Planned() {
		return page.Refuse(http.StatusNotFound, "This day is not planned yet.", "A calendar is made of a plan.")
	}
	who := strings.TrimSpace(c.Query("who"))
	text := exchange.Calendar(exchange.DayDocument(d.Sheet, d.Wants, d.Shown), d.Midnight, who, s.Store.Identity())
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="day-%s.ics"`, d.Date))
	c.Data(http.StatusOK, "text/calendar; charset=utf-8", []byte(text))
	return nil
}
