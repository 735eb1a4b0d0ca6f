package day

import (
	"cmp"
	"context"
	"fmt"
	"net/http"
	"slices"

	"hollen/internal/core/cut"
	"hollen/internal/core/day"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/schedule"
	"hollen/internal/web/page"
)

// waysView is the ways out of a day with orders in danger.
type waysView struct {
	Date, Head string
	Late       []lateRow
	Now        string // as it stands
	Rows       []wayRow
	Better     *betterRow
	Version    int
	Failed     string
}

// wayRow is one way out: what it would come to, and what it asks.
type wayRow struct {
	What, Comes, Asks string
	late, cost        int
}

// ShowWays shows what would help the orders in danger, the cheapest that helps most first.
func (s *Room) ShowWays(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	v := waysView{Date: d.Date, Head: dateWords(d.Date), Version: d.Version, Better: d.better()}
	ctx := c.Request.Context()
	if !d.Planned() {
		v.Failed = "The day is not planned yet."
	} else if len(d.Gone) > 0 {
		v.Failed = fmt.Sprintf("Deleted since the day was planned: %s. Plan again first.", measure.List(d.Gone))
	} else if err := s.ways(ctx, d, &v); err != nil {
		v.Failed = err.Error()
	}
	s.Render(c, http.StatusOK, "ways", "Ways out", v)
	return nil
}

// ready is how late the orders are against when they are due, min over all, of slots of a day.
func (d *dayNow) ready(on *schedule.Day, slots []schedule.Slot) int {
	said := day.Narrator{Day: on, Jobs: d.Jobs, Slots: slots, In: d.In}
	total := 0
	for _, w := range d.Wants {
		if end, ok := said.End(w); ok {
			total += max(0, end-w.Due)
		}
	}
	return total
}

// ways tries each way out on the day as it stands: from now on when it has begun, else from the beginning.
func (s *Room) ways(ctx context.Context, d *dayNow, v *waysView) error {
	late, by := d.narrator().Late(d.Wants)
	for i, w := range late {
		v.Late = append(v.Late, lateRow{w.Who, day.Time(w.Due), day.Words(by[i])})
	}
	stands := d.ready(d.Sheet.Day, d.Shown)
	v.Now = day.Words(stands)
	plans, err := s.work(ctx, d)
	if err != nil {
		return err
	}
	add := func(what, asks string, cost int, put *schedule.Day) {
		slots := d.lived().Replanned(put, replanNodes)
		if slots == nil {
			return
		}
		left := d.ready(put, slots)
		r := wayRow{What: what, Asks: asks, late: left, cost: cost}
		switch {
		case left == 0:
			r.Comes = "every order in time"
		case left < stands:
			r.Comes = fmt.Sprintf("%s late over all orders", day.Words(left))
		default:
			return // it does not help
		}
		v.Rows = append(v.Rows, r)
	}
	if !slices.Contains(d.Begun, true) {
		for _, minutes := range []int{15, 30, 60, 90} {
			shop := d.Shop
			if shop.OpenAt -= minutes; shop.OpenAt < 0 {
				break
			}
			before := len(v.Rows)
			if add(fmt.Sprintf("Start %s earlier", day.Words(minutes)), "open at "+day.Time(shop.OpenAt), 10+minutes/15,
				s.putAs(d, shop, plans)); len(v.Rows) > before &&
				v.Rows[len(v.Rows)-1].late == 0 {
				break
			}
		}
	}
	shop := d.Shop
	shop.People = append(slices.Clone(shop.People), day.Hand{Name: "Another", Pace: 100, From: max(0, d.Now)})
	if !d.Live {
		shop.People[len(shop.People)-1].From = 0
	}
	add("A second pair of hands", "somebody who does everything, from "+day.Time(max(d.Now, shop.OpenAt)), 30,
		s.putAs(d, shop, plans))
	shop = d.Shop
	shop.Rollers++
	add("A second roller", "one more machine", 40, s.putAs(d, shop, plans))
	put := s.putAs(d, d.Shop, plans)
	day.Chill(put, s.Rules.Day)
	add("The fridge, not the counter", "doughs not yet rested rest cold, for hours if need be", 12, put)
	s.otherShapes(d, plans, add)
	s.leaveOut(d, plans, add)
	slices.SortStableFunc(v.Rows, func(a, b wayRow) int {
		return cmp.Or(cmp.Compare(a.late, b.late), cmp.Compare(a.cost,
			b.cost))
	})
	return nil
}

// putAs puts the day together with another shop.
func (s *Room) putAs(d *dayNow, shop day.Shop, plans []*plan.Plan) *schedule.Day {
	return day.Put(s.Rules.Day, shop, slices.Clone(d.Jobs), plans, d.Wishes, d.Wants)
}

// otherShapes tries, for each late order’s batch that is not rolled yet, the ribbon of its dough that is made the
// soonest.
func (s *Room) otherShapes(d *dayNow, plans []*plan.Plan, add func(string, string, int, *schedule.Day)) {
	late, _ := d.narrator().Late(d.Wants)
	for at, j := range d.Jobs {
		if j.Left || !slices.ContainsFunc(late, func(w day.Want) bool { return slices.Contains(w.Jobs, j.Batch) }) ||
			d.rolledYet(at) {
			continue
		}
		best, takes := (*plan.Plan)(nil), plans[at].Roll.MinutesAll+plans[at].Cut.AllMin+plans[at].Dry.AllMin()
		for _, key := range []string{"pappardelle", "maltagliati", "tagliatelle", "lasagne"} {
			shape, ok := cut.Find(key)
			if !ok || shape.Name == j.Shape || plans[at].Cut.FillTotalG > 0 {
				continue
			}
			r := plans[at].Request
			r.Cut.Shape = key
			r.Cut.Own, r.Cut.Width = nil, nil
			if p, err := plan.Make(plans[at].Rules(), r); err == nil {
				if t := p.Roll.MinutesAll + p.Cut.AllMin + p.Dry.AllMin(); t < takes-1 {
					best, takes = p, t
				}
			}
		}
		if best == nil {
			continue
		}
		others := slices.Clone(plans)
		others[at] = best
		add(fmt.Sprintf("%s as %s", j.Letter, measure.Lower(best.Cut.Shape.Name)),
			"another shape from the same dough; ask who ordered it", 20, s.putAs(d,
				d.Shop, others))
	}
}

// rolledYet says whether the rolling of a job has begun.
func (d *dayNow) rolledYet(at int) bool {
	for i, t := range d.Sheet.Day.Tasks {
		if t.Batch == at && t.Kind == schedule.Roll && d.Begun[i] {
			return true
		}
	}
	return false
}

// leaveOut tries the day without one batch that no order waits for and that is not begun.
func (s *Room) leaveOut(d *dayNow, plans []*plan.Plan, add func(string, string, int, *schedule.Day)) {
	for at, j := range d.Jobs {
		if j.Left || slices.ContainsFunc(d.Wants, func(w day.Want) bool { return slices.Contains(w.Jobs, j.Batch) }) ||
			slices.ContainsFunc(d.Sheet.TasksOf(j.Batch), func(i int) bool { return d.Begun[i] }) {
			continue
		}
		jobs := slices.Clone(d.Jobs)
		jobs[at].Left = true
		add(fmt.Sprintf("Without %s today", j.Letter), "no order waits for it", 15, day.Put(s.Rules.Day, d.Shop, jobs,
			plans, d.Wishes, d.Wants))
	}
}
