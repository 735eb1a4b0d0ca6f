package day

import (
	"cmp"
	"context"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/day"
	"hollen/internal/core/filling"
	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// stateRow is what an order may be ticked, and whether it is.
type stateRow struct {
	Key  store.OrderState
	Name string
	On   bool
}

// states are what an order may be ticked.
var states = []stateRow{{store.Packed, "Packed", false}, {store.Delivered, "Delivered", false},
	{store.NotTaken, "Not taken", false}}

// statesOf are the ticks of an order.
func statesOf(o *store.Order) (out []stateRow) {
	out = slices.Clone(states)
	for i := range out {
		out[i].On = out[i].Key == o.State
	}
	return out
}

// stateWords say how an order stands, with when: "packed at 11:20".
func stateWords(o *store.Order) string {
	for _, x := range states {
		if x.Key == o.State && o.StateAt != nil {
			return strings.ToLower(x.Name) + ", " + o.StateAt.Local().Format("15:04")
		}
	}
	return ""
}

// tick has an order be packed, delivered or not taken, or none of that any more.
func (s *Room) tick(ctx context.Context, d *dayNow, values url.Values) error {
	at := slices.IndexFunc(d.Orders, func(o store.Order) bool { return orderMark(o) == values.Get("order") })
	if at < 0 {
		return store.ErrNotFound
	}
	o := d.Orders[at]
	state := store.OrderState(values.Get("state"))
	if state != "" && !slices.ContainsFunc(states, func(x stateRow) bool { return x.Key == state }) {
		return page.Refuse(http.StatusBadRequest, "An order is packed, delivered or not taken.", "")
	}
	now := s.Now().UTC()
	if o.StateAt = &now; state == "" {
		o.StateAt = nil
	}
	o.State = state
	if o.ID == 0 {
		return s.Store.AddOrders(ctx, []store.Order{o})
	}
	return s.Store.SaveOrder(ctx, o)
}

// dueRow is an order as the phone lists it, to be ticked.
type dueRow struct {
	Mark, Who, What, When, Notice, State string
	States                               []stateRow
}

// noticed is a notice with what an order comes short of.
func noticed(notice, short string) string {
	if short == "" {
		return notice
	}
	return strings.TrimPrefix(notice+"; "+short, "; ")
}

// dueList is the orders of a day to be ticked, and where a tick leads back to.
type dueList struct {
	Date, Back, Who, Told string
	Due                   []dueRow
}

// dueList is the list of a day that has orders; nil of one that has none.
func (d *dayNow) dueList(back, who string, short map[int]string) *dueList {
	if len(d.Orders) == 0 {
		return nil
	}
	return &dueList{Date: d.Date, Back: back, Who: who, Told: d.stateTold(), Due: d.due(short)}
}

// due are the orders of a day, those that are gone last.
func (d *dayNow) due(short map[int]string) (out []dueRow) {
	var gone []dueRow
	for i, o := range d.Orders {
		w := &d.Wants[i]
		r := dueRow{Mark: orderMark(o), Who: o.Who, What: w.Asked().Words() + " of " + o.What, When: day.Time(o.Due),
			Notice: noticed(w.Notice(), short[i]), State: stateWords(&o), States: statesOf(&o)}
		if o.State == store.Delivered || o.State == store.NotTaken {
			gone = append(gone, r)
		} else {
			out = append(out, r)
		}
	}
	return append(out, gone...)
}

// slipsView is the page of slips: one for each customer of a day.
type slipsView struct {
	Date, Head string
	Slips      []slip
}

// slip goes with what a customer gets.
type slip struct {
	Who, Day, By string
	Lines        []slipLine
}

// slipLine is one thing they get.
type slipLine struct {
	Much, What, When, Notice, Code, Contains, May, Keep, UseBy, Agreed string
	Allergy                                                            bool
}

// ShowSlips shows the slips of a day, to print: what, how much, batch code, allergens, keep by.
func (s *Room) ShowSlips(c *page.Visit) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	h, err := s.House(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	var ids []uint64
	for _, o := range d.Orders {
		if o.Batch != nil {
			ids = append(ids, *o.Batch)
		}
	}
	batches, err := s.Store.ByIDs(ctx, ids)
	if err != nil {
		return err
	}
	v := slipsView{Date: d.Date, Head: dateWords(d.Date)}
	for _, o := range d.Orders {
		who := order.Fold(o.Who)
		at := slices.IndexFunc(v.Slips, func(x slip) bool { return order.Fold(x.Who) == who })
		if at < 0 {
			at = len(v.Slips)
			v.Slips = append(v.Slips, slip{Who: o.Who, Day: dateWords(d.Date), By: cmp.Or(h.MadeBy, s.Place(c))})
		}
		l, err := s.slipLine(ctx, c.Units, o, batches)
		if err != nil {
			return err
		}
		v.Slips[at].Lines = append(v.Slips[at].Lines, l)
	}
	s.Render(c, http.StatusOK, "slips", "Slips, "+v.Head, v)
	return nil
}

// slipLine is what an order gets, of the batch that serves it.
func (s *Room) slipLine(ctx context.Context, in measure.System, o store.Order,
	batches map[uint64]store.Batch) (slipLine, error) {
	said := o.Said()
	l := slipLine{Much: said.Words(), What: o.What, When: day.Time(o.Due), Notice: order.Notice(o.What, o.Noted()),
		Agreed: o.Agreed}
	l.Allergy = slices.ContainsFunc(order.Marks(o.What, o.Noted()), func(m order.Mark) bool { return m.Allergy })
	if o.Batch == nil {
		return l, nil
	}
	b, ok := batches[*o.Batch]
	if !ok {
		return l, nil
	}
	p, err := plan.MakeIn(in, s.RulesOf(ctx, &b.Request.Request), b.Request.Request)
	if err != nil {
		return l, err
	}
	made, err := s.LastMade(ctx, in, b.ID, func(m *store.Making) bool { return m.BatchVersion == b.Version })
	if err != nil {
		return l, err
	}
	if made != nil {
		p = made.Plan
	}
	holds, err := s.batchHolds(ctx, &b, p)
	if err != nil {
		return l, err
	}
	l.Code, l.Contains = p.Code(b.ID), strings.Join(holds.In, ", ")
	if holds.Unknown {
		l.Contains = strings.TrimPrefix(l.Contains+"; its filling was never held against the packs", "; ")
	}
	l.May = strings.Join(filling.Listed(strings.Join(holds.May, ",")), ", ")
	keep, by, counts := p.KeepLabel(day.PartFor(p, o.What))
	l.Keep, l.UseBy = keep, counts
	if t, err := measure.At(by); err == nil {
		l.UseBy = t.Format("2 Jan 2006, 15:04")
	} else if t, err := time.Parse(time.DateOnly, by); err == nil {
		l.UseBy = t.Format("2 Jan 2006")
	}
	return l, nil
}

// stateTold says how many of a day's orders are packed and gone: "3 of 5 packed, 1 delivered"; "" before the first.
func (d *dayNow) stateTold() string {
	n := map[store.OrderState]int{}
	for _, o := range d.Orders {
		n[o.State]++
	}
	if len(d.Orders) == 0 || n[""] == len(d.Orders) {
		return ""
	}
	var out []string
	for _, x := range states {
		if n[x.Key] > 0 {
			out = append(out, fmt.Sprintf("%d %s", n[x.Key], strings.ToLower(x.Name)))
		}
	}
	return fmt.Sprintf("of %s %s", measure.Plural(len(d.Orders), "order", "orders"), strings.Join(out, ", "))
}
