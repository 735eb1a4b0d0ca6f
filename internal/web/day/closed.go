package day

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// closedRow is when the house is closed, as the page of every week shows it.
type closedRow struct {
	ID   uint64
	Text string
}

// spanForm is a span of days as it was typed, and what is wrong with it.
type spanForm struct{ From, Until, Why, Error string }

// renderWeek shows every week's orders with when the house is closed.
func (s *Room) renderWeek(c *page.Visit, status int, v weekView) error {
	closed, err := s.Store.ClosedDays(c.Request.Context())
	if err != nil {
		return err
	}
	for _, x := range closed {
		text := measure.DayWords(x.FromDay)
		if x.UntilDay != x.FromDay {
			text += " to " + measure.DayWords(x.UntilDay)
		}
		if x.Why != "" {
			text += ", " + x.Why
		}
		v.Closed = append(v.Closed, closedRow{x.ID, text})
	}
	s.Render(c, status, "week", "Every week", v)
	return nil
}

// changeHouse closes the house for a span of days, opens it again, or copies a week's orders to another.
func (s *Room) changeHouse(c *page.Visit, values url.Values) error {
	ctx := c.Request.Context()
	f := spanForm{From: strings.TrimSpace(values.Get("from_day")), Until: strings.TrimSpace(values.Get("until_day")),
		Why: strings.Join(strings.Fields(values.Get("why")), " ")}
	from, fromErr := measure.Day(f.From)
	until, untilErr := measure.Day(f.Until)
	refused := func(v weekView) error {
		all, err := s.weekRows(ctx, orderRow{Weekday: 6})
		if err != nil {
			return err
		}
		all.Close, all.Copy, all.Told = v.Close, v.Copy, v.Told
		return s.renderWeek(c, http.StatusUnprocessableEntity, all)
	}
	switch values.Get("act") {
	case "open":
		id, _ := strconv.ParseUint(values.Get("id"), 10, 63)
		if err := s.Store.OpenDays(ctx, id); err != nil {
			return err
		}
	case "close":
		if f.Until == "" {
			f.Until, until, untilErr = f.From, from, fromErr
		}
		switch {
		case fromErr != nil || untilErr != nil:
			f.Error = "Both are days, as 2026-12-24; the second may be empty."
		case until.Before(from):
			f.Error = "It cannot end before it begins."
		case utf8.RuneCountInString(f.Why) > 120:
			f.Error = "Why: up to 120 letters."
		}
		if f.Error != "" {
			return refused(weekView{Close: f})
		}
		if err := s.Store.CloseDays(ctx, store.Closed{FromDay: f.From, UntilDay: f.Until, Why: f.Why}); err != nil {
			return err
		}
	case "copy":
		if fromErr != nil || untilErr != nil {
			f.Error = "A day of each of the two weeks, as 2026-12-24."
			return refused(weekView{Copy: f})
		}
		monday := func(t time.Time) time.Time { return t.AddDate(0, 0, -(int(t.Weekday())+6)%7) }
		a, b := monday(from), monday(until)
		if a.Equal(b) {
			f.Error = "That is the same week."
			return refused(weekView{Copy: f})
		}
		n, err := s.copyDays(ctx, a, b, 7)
		if err != nil {
			f.Error = copyWhy(err)
			return refused(weekView{Copy: f})
		}
		return s.told(c, fmt.Sprintf("%s copied to the week of %s; what comes every week stands there by itself.",
			measure.Plural(n, "order", "orders"), measure.DayWords(b.Format(time.DateOnly))))
	}
	c.Redirect(http.StatusSeeOther, "/orders/week#closed")
	return nil
}

func copyWhy(err error) string {
	if errors.Is(err, store.ErrTooMany) {
		return fmt.Sprintf("A day has up to %d orders; nothing was copied.", store.MostOrders)
	}
	return measure.Capital(err.Error()) + "."
}

// told shows every week's orders with something that was just done.
func (s *Room) told(c *page.Visit, text string) error {
	v, err := s.weekRows(c.Request.Context(), orderRow{Weekday: 6})
	if err != nil {
		return err
	}
	v.Told = text
	return s.renderWeek(c, http.StatusOK, v)
}

// copyDays copies the orders of so many days to others, with what was said, and none of what became of them. What comes
// every week is left where it comes by itself; what is there already, said the same, is not added twice.
func (s *Room) copyDays(ctx context.Context, from, to time.Time, days int) (n int, err error) {
	err = s.Store.Atomically(ctx, func(in *store.Store) error {
		n = 0
		for i := range days {
			a, b := from.AddDate(0, 0, i), to.AddDate(0, 0, i)
			orders, err := in.Orders(ctx, a.Format(time.DateOnly))
			if err != nil {
				return err
			}
			there, err := in.Orders(ctx, b.Format(time.DateOnly))
			if err != nil {
				return err
			}
			had := map[string]bool{}
			for _, o := range there {
				had[sameOrder(o)] = true
			}
			var out []store.Order
			for _, o := range orders {
				if o.Standing != nil && a.Weekday() == b.Weekday() || had[sameOrder(o)] {
					continue
				}
				x := store.Order{Day: b.Format(time.DateOnly), Who: o.Who, What: o.What, Due: o.Due, Note: o.Note}
				x.Say(o.Said())
				out = append(out, x)
			}
			if len(out) == 0 {
				continue
			}
			if err := in.AddOrders(ctx, out); err != nil {
				return err
			}
			n += len(out)
		}
		return nil
	})
	return n, err
}

// sameOrder tells orders apart by what they say.
func sameOrder(o store.Order) string {
	said := o.Said()
	return fmt.Sprintf("%s|%s|%s|%d|%s", order.Fold(o.Who), order.Fold(o.What), said.Text(), o.Due, o.Note)
}

// copyDay copies a day's orders to another.
func (s *Room) copyDay(c *page.Visit, d *dayNow, values url.Values) error {
	to := strings.TrimSpace(values.Get("to"))
	at, err := measure.Day(to)
	if err != nil || to == d.Date {
		return s.showOrders(c, http.StatusUnprocessableEntity, d, ordersView{CopyTo: to,
			CopyErr: "Another day, as 2026-12-24, is allowed."})
	}
	from, err := measure.Day(d.Date)
	if err != nil {
		return err
	}
	if _, err := s.copyDays(c.Request.Context(), from, at, 1); err != nil {
		return s.showOrders(c, http.StatusUnprocessableEntity, d, ordersView{CopyTo: to, CopyErr: copyWhy(err)})
	}
	c.Redirect(http.StatusSeeOther, "/days/"+to+"/orders")
	return nil
}
