package day

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"sync"
	"time"

	"hollen/internal/core/day"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/schedule"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// dayNow is a day as it stands: what was planned, what has happened, and what is to come because of it.
type dayNow struct {
	store.Day
	Midnight time.Time
	Now      int // min from midnight
	Live     bool
	In       measure.System
	All      bool // of a long day everything is shown
	Orders   []store.Order
	Wants    []day.Want
	Facts    []schedule.Fact
	Begun    []bool
	Shown    []schedule.Slot // as it is to come by now
	Kept     *schedule.Change
	Better   *schedule.Change      // in another order, where that is better
	Stamp    string                // changes when anything of it does
	Stale    []string              // letters of batches that were saved since
	Gone     []string              // and of those that are not there any more
	Versions map[uint64]int        // of its batches that are there
	Making   map[uint64]uint64     // by batch, at the bench on that day
	Thrown   map[uint64]string     // why batches of its orders were thrown away
	New      map[uint64]*plan.Plan // batches that are kept together with it
}

// lived is the day to be changed by its rules.
func (d *dayNow) lived() *day.Lived {
	return &day.Lived{Sheet: &d.Sheet, Shown: d.Shown, Facts: d.Facts, Begun: d.Begun, Now: d.Now, Live: d.Live}
}

// dayCache holds the days last looked at as they were kept, to be read once for each change.
type dayCache struct {
	mu   sync.Mutex
	days map[string]cachedDay
}

type cachedDay struct {
	day store.Day
	at  time.Time
}

// mostDays is how many days are held.
const mostDays = 16

// read is the day as it is kept now.
func (k *dayCache) read(ctx context.Context, s *store.Store, date string) (store.Day, error) {
	version, at, err := s.DayMark(ctx, date)
	if err != nil {
		return store.Day{}, err
	}
	k.mu.Lock()
	held, ok := k.days[date]
	k.mu.Unlock()
	if !ok || held.day.Version != version || !held.at.Equal(at) {
		if held.day, err = s.Day(ctx, date); err != nil {
			return held.day, err
		}
		if held.at = at; held.day.Version == version && version > 0 {
			k.mu.Lock()
			if k.days == nil || len(k.days) >= mostDays {
				k.days = map[string]cachedDay{}
			}
			k.days[date] = held
			k.mu.Unlock()
		}
	}
	out := held.day
	out.Sheet = held.day.Sheet.Copy()
	return out, nil
}

// replanNodes is how many nodes planning anew may take: it must be there at once.
const replanNodes = 2_000

// aDay is the date of the address; an error page where it is none.
func (s *Room) aDay(c *page.Visit) (string, time.Time, error) {
	date := c.Param("date")
	at, err := time.ParseInLocation(time.DateOnly, date, time.Local)
	if err != nil || at.Year() < 2000 || at.Year() > 2100 {
		return "", at, page.Refuse(http.StatusNotFound, "There is no such day.",
			"A day is written as 2026-11-28, from 2000 to 2100.")
	}
	return date, at, nil
}

// dayOf reads a day as it stands; an error page where it cannot be read.
func (s *Room) dayOf(c *page.Visit) (*dayNow, error) { return s.dayAs(c, s.ReadDay) }

func (s *Room) dayAs(c *page.Visit, read func(context.Context, string, time.Time) (*dayNow, error)) (*dayNow,
	error) {
	date, midnight, err := s.aDay(c)
	if err != nil {
		return nil, err
	}
	ctx := c.Request.Context()
	d, err := read(ctx, date, midnight)
	if err != nil {
		return nil, err
	}
	d.In = c.Units
	if d.Damaged && !strings.Contains(c.Request.URL.Path, "/orders") && c.Request.Method == http.MethodGet {
		s.Render(c, http.StatusInternalServerError, "day-damaged", dateWords(date), d)
		return nil, page.ErrAnswered
	}
	return d, nil
}

// ReadDay reads a day and works out what is to come by now.
func (s *Room) ReadDay(ctx context.Context, date string, midnight time.Time) (*dayNow, error) {
	d, err := s.markDay(ctx, date, midnight)
	if err != nil || !d.Live {
		return d, err
	}
	if kept, better, err := d.Sheet.Day.Slip(d.Slots, d.Facts, d.Now, replanNodes); err == nil {
		d.Kept = kept
		d.Better = better
		d.Shown = kept.Slots
	}
	return d, nil
}

// InHand is what a day's plan leaves before each of its orders is due, by order, minutes; under nought it is late. None
// for a day without a plan, or one that cannot be read.
func (s *Room) InHand(ctx context.Context, date string) map[uint64]int {
	midnight, err := time.ParseInLocation(time.DateOnly, date, time.Local)
	if err != nil {
		return nil
	}
	d, err := s.ReadDay(ctx, date, midnight)
	if err != nil || d.Damaged {
		s.Log.Warn("today", "day", date, "err", err)
		return nil
	}
	if !d.Planned() {
		return nil
	}
	said, out := d.narrator(), map[uint64]int{}
	for _, w := range d.Wants {
		if end, ok := said.End(w); ok {
			out[w.ID] = w.Due - end
		}
	}
	return out
}

// markDay reads a day and what has happened.
func (s *Room) markDay(ctx context.Context, date string, midnight time.Time) (*dayNow, error) {
	kept, err := s.days.read(ctx, s.Store, date)
	if err != nil {
		return nil, err
	}
	d := &dayNow{Day: kept, Midnight: midnight, Now: day.MinuteOf(midnight, s.Now()), Making: map[uint64]uint64{}}
	if d.Version == 0 || d.Damaged {
		if err := s.startDay(ctx, d); err != nil {
			return nil, err
		}
	}
	if d.Orders, err = s.Store.Orders(ctx, date); err != nil {
		return nil, err
	}
	if err = s.lose(ctx, d.Orders); err != nil {
		return nil, err
	}
	d.Wants = wantsOf(d.Orders)
	var ids []uint64
	for _, j := range d.Jobs {
		ids = append(ids, j.Batch)
	}
	if d.Versions, err = s.Store.VersionsOf(ctx, ids); err != nil {
		return nil, err
	}
	for _, j := range d.Jobs {
		switch version, there := d.Versions[j.Batch]; {
		case !there:
			d.Gone = append(d.Gone, j.Letter)
		case d.Planned() && version != j.Version && !j.Left:
			d.Stale = append(d.Stale, j.Letter)
		}
	}
	if d.Thrown, err = s.Store.Thrown(ctx, slices.Concat(ids, lostOf(d.Orders))); err != nil {
		return nil, err
	}
	d.Stamp = fmt.Sprint(d.Version, ".", len(d.Orders), ".", len(d.Thrown))
	if d.Planned() {
		return d, s.liven(ctx, d, ids)
	}
	return d, nil
}

// startDay gives a day that was never kept what the last one had: the hours, the people and the kit.
func (s *Room) startDay(ctx context.Context, d *dayNow) error {
	last, err := s.Store.LastDay(ctx, d.Date)
	if err != nil {
		return err
	}
	if d.Shop = last.Shop; len(d.Shop.People) == 0 {
		d.Shop = day.DefaultShop(s.Rules.Day)
	}
	for i := range d.Shop.People { // what was said of one day only
		d.Shop.People[i].From = 0
		d.Shop.People[i].To = 0
		d.Shop.People[i].Breaks = nil
	}
	return nil
}

// lose has orders whose batch was thrown away be without one again: it serves nobody, until another does.
func (s *Room) lose(ctx context.Context, orders []store.Order) error {
	var ids []uint64
	for _, o := range orders {
		if o.Batch != nil {
			ids = append(ids, *o.Batch)
		}
	}
	thrown, err := s.Store.Thrown(ctx, ids)
	if err != nil {
		return err
	}
	for i := range orders {
		if o := &orders[i]; o.Batch != nil {
			if _, gone := thrown[*o.Batch]; gone {
				o.Lost, o.Batch = o.Batch, nil
			}
		}
	}
	return nil
}

// lostOf are the batches that were thrown away.
func lostOf(orders []store.Order) (out []uint64) {
	for _, o := range orders {
		if o.Lost != nil {
			out = append(out, *o.Lost)
		}
	}
	return out
}

// wantsOf are the orders as a day sees them.
func wantsOf(orders []store.Order) (out []day.Want) {
	for _, o := range orders {
		w := day.Want{ID: o.ID, Who: o.Who, What: o.What, Due: o.Due, Count: o.Portions, Said: o.Said(),
			Note: o.Noted(),
			Lost: o.Lost != nil}
		if o.Batch != nil {
			w.Jobs = []uint64{*o.Batch}
		}
		out = append(out, w)
	}
	return out
}

// liven puts what has happened into a planned day. It is lived from two hours before its first touch until what is made
// of
// it is over, while somebody can still do something about it.
func (s *Room) liven(ctx context.Context, d *dayNow, ids []uint64) error {
	d.Shown, d.Begun = d.Slots, make([]bool, len(d.Slots))
	first, last := d.Shop.OpenAt, d.Shop.CloseAt
	for _, x := range d.Slots {
		first, last = min(first, x.Start), max(last, x.End())
	}
	if d.Now < first-120 || d.Now > last+180 {
		d.Facts = make([]schedule.Fact, len(d.Slots))
		return nil
	}
	d.Live = true
	from := day.At(d.Midnight, first-180)
	makings, err := s.Store.MadeOn(ctx, ids, from, d.Midnight.Add(36*time.Hour))
	if err != nil {
		return err
	}
	made := map[uint64]day.Made{}
	for _, j := range d.Jobs {
		m, ok := makings[j.Batch]
		if !ok {
			continue
		}
		_, run, place, err := s.Makings.At(ctx, m.ID)
		if errors.Is(err, store.ErrUnreadable) { // the day goes on without knowing how far it is
			s.Log.Error("day", "making", m.ID, "err", err)
			d.Making[j.Batch] = m.ID
			continue
		} else if err != nil {
			return err
		}
		made[j.Batch] = day.Made{Steps: run.Steps, State: run.State}
		d.Making[j.Batch] = m.ID
		d.Stamp += fmt.Sprint("-", m.ID, ".", place)
	}
	d.Facts = d.Sheet.Facts(made, d.Midnight, d.Now)
	d.Begun = day.Begun(d.Facts)
	return nil
}

// narrator puts what is shown into words.
func (d *dayNow) narrator() *day.Narrator {
	return &day.Narrator{Day: d.Sheet.Day, Jobs: d.Jobs, Slots: d.Shown, In: d.In}
}

// work makes the plans of a day’s batches again, and leaves out those that are not there.
func (s *Room) work(ctx context.Context, d *dayNow) ([]*plan.Plan, error) {
	var plans []*plan.Plan
	var jobs []day.Job
	var ids []uint64
	for _, j := range d.Jobs {
		ids = append(ids, j.Batch)
	}
	batches, err := s.Store.ByIDs(ctx, ids)
	if err != nil {
		return nil, err
	}
	for _, j := range d.Jobs {
		if p := d.New[j.Batch]; p != nil {
			plans, jobs = append(plans, p), append(jobs, j)
			continue
		}
		b, there := batches[j.Batch]
		if !there {
			continue
		}
		p, err := plan.Make(s.RulesOf(ctx, &b.Request.Request), b.Request.Request)
		if err != nil {
			return nil, fmt.Errorf("%s cannot be worked out: %w", b.Row.Name, err)
		}
		j.Version = b.Version
		plans, jobs = append(plans, p), append(jobs, j)
	}
	d.Jobs = jobs
	return plans, nil
}

// PlanDay puts the day together anew and plans it; what cannot be planned is said as troubles, and the sheet then keeps
// its day without a plan.
func (s *Room) PlanDay(ctx context.Context, d *dayNow) ([]schedule.Trouble, error) {
	plans, err := s.work(ctx, d)
	if err != nil {
		return nil, err
	}
	put := day.Put(s.Rules.Day, d.Shop, d.Jobs, plans, d.Wishes, d.Wants)
	if len(put.Tasks) == 0 {
		d.Sheet.Day, d.Slots = nil, nil
		return nil, nil
	}
	a, err := put.Plan()
	if err != nil {
		d.Sheet.Day, d.Slots = put, nil
		return put.Explain(500, func(_ *schedule.Day, more int) *schedule.Day {
			shop := d.Shop
			shop.CloseAt += more
			return day.Put(s.Rules.Day, shop, slices.Clone(d.Jobs), plans, d.Wishes, d.Wants)
		}), nil
	}
	d.Take(put, a)
	return nil, nil
}
