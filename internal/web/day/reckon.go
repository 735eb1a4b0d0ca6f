package day

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/day"
	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// reckoned says how many portions orders come to, made like a recipe or a batch, and notes it beside each; the error
// asks what is not known. What is said in portions alone needs no plan.
func (s *Room) reckoned(ctx context.Context, orders []store.Order, like day.Like, date string) (sum float64,
	err error) {
	var y order.Yield
	if slices.ContainsFunc(orders, func(o store.Order) bool { return o.Said().Unit != order.Portions }) {
		r, of, err := s.source(ctx, like, date)
		if err != nil {
			return 0, err
		}
		p, err := plan.Make(s.RulesOf(ctx, &r), r)
		if err != nil {
			return 0, err
		}
		box := of.Besides.V.BoxG
		if !like.Recipe {
			if b, err := s.Store.Get(ctx, like.ID); err == nil && b.RecipeID != nil {
				if of, err := s.Store.RecipeByID(ctx, *b.RecipeID); err == nil {
					box = of.Besides.V.BoxG
				}
			}
		}
		y = day.YieldOf(p, box)
	}
	for i := range orders {
		n, err := orders[i].Said().Portions(y)
		if err != nil {
			return 0, fmt.Errorf("%s for %s: %w", orders[i].Said().Words(), orders[i].Who, err)
		}
		orders[i].Portions = n
		sum += n
	}
	return sum, nil
}

// addSaid adds orders as they were said, each on its day; elsewhere says on which others they stand, "" on none.
func (s *Room) addSaid(ctx context.Context, all []order.Asked, date, once string) (elsewhere string, err error) {
	message := once
	if message == "" {
		message = fmt.Sprintf("m%x", s.Now().UnixMilli())
	}
	var orders []store.Order
	others := map[string]int{}
	for _, a := range all {
		o := orderOn(a, date)
		if a.Message > 0 {
			o.Message = fmt.Sprintf("%.34s.%d", message, a.Message)
		}
		if o.Day != date {
			others[o.Day]++
		}
		orders = append(orders, o)
	}
	orders = onceMarked(orders, once)
	err = s.Store.Atomically(ctx, func(in *store.Store) error {
		for len(orders) > 0 {
			on := orders[0].Day
			same := func(o store.Order) bool { return o.Day == on }
			var here, rest []store.Order
			for _, o := range orders {
				if same(o) {
					here = append(here, o)
				} else {
					rest = append(rest, o)
				}
			}
			if err := in.AddOrders(ctx, here); err != nil {
				return err
			}
			orders = rest
		}
		return nil
	})
	var said []string
	for on, n := range others {
		said = append(said, fmt.Sprintf("%d on %s", n, measure.DayWords(on)))
	}
	slices.Sort(said)
	if len(said) > 0 {
		elsewhere = ": " + strings.Join(said, ", ")
	}
	return elsewhere, err
}

// notThere parts orders into those to be added and those somebody has ordered for then already, the same or so much
// else of it, which are asked about; what came with the same form is that form's.
func (s *Room) notThere(ctx context.Context, all []order.Asked, date string, double bool, once string) (
	fresh []order.Asked, asked []order.LineError, err error) {
	if double {
		return all, nil, nil
	}
	days := map[string][]store.Order{}
	for _, a := range all {
		o := orderOn(a, date)
		if _, read := days[o.Day]; !read {
			orders, err := s.Store.Orders(ctx, o.Day)
			if err != nil {
				return nil, nil, err
			}
			days[o.Day] = slices.DeleteFunc(orders, func(x store.Order) bool {
				return x.Once != nil && once != "" && strings.HasPrefix(*x.Once, fmt.Sprintf("%.34s", once))
			})
		}
		there := days[o.Day]
		at := slices.IndexFunc(there, func(x store.Order) bool { return sameOrder(x) == sameOrder(o) })
		how := "the same"
		if at < 0 {
			at = slices.IndexFunc(there, func(x store.Order) bool {
				return x.Due == o.Due && order.Fold(x.Who) == order.Fold(o.Who) &&
					order.Fold(x.What) == order.Fold(o.What)
			})
			how = "otherwise"
		}
		if at < 0 {
			fresh = append(fresh, a)
			continue
		}
		was := there[at].Said()
		asked = append(asked, order.LineError{Line: a.Line, Part: "order", Text: fmt.Sprintf(
			"%s of %s for %s is there already for then, said %s. Change that one, or tick below to add this "+
				"besides.",
			was.Words(), there[at].What, there[at].Who, how)})
		days[o.Day] = slices.Delete(slices.Clone(there), at, at+1)
	}
	fresh = slices.DeleteFunc(fresh, func(a order.Asked) bool { // a message is taken whole or not at all
		return slices.ContainsFunc(asked, func(e order.LineError) bool { return e.Line == a.Line })
	})
	return fresh, asked, nil
}

// keptOf is what stays in the box of a text: its own lines, or a list of those orders of a day's document.
func keptOf(text string, all []order.Asked, wrong []order.LineError) string {
	if !isDocument(text) {
		return order.Kept(text, wrong)
	}
	kept := ""
	for _, a := range all {
		if slices.ContainsFunc(wrong, func(e order.LineError) bool { return e.Line == a.Line }) {
			kept += a.Row()
		}
	}
	return kept
}

func isDocument(text string) bool { return strings.HasPrefix(strings.TrimSpace(text), "{") }

// readOrders reads orders as they are said, or those of a day's document; the error says what is wrong with that.
func readOrders(text string, today time.Time) ([]order.Asked, []order.LineError, error) {
	if isDocument(text) {
		all, err := exchange.ReadDayOrders([]byte(text), today)
		return all, nil, err
	}
	all, wrong := order.Read(text, today)
	return all, wrong, nil
}

// tellApart says of several recipes an order may mean what tells them apart, beside their names: their dough, and when
// they were made last.
func (s *Room) tellApart(ctx context.Context, fits []day.Known, rows []likeRow) error {
	var ids []uint64
	for _, k := range fits[:min(len(fits), day.MostCompared)] {
		if k.Recipe {
			ids = append(ids, k.ID)
		}
	}
	of, err := s.Store.RecipesByIDs(ctx, ids)
	if err != nil {
		return err
	}
	made, err := s.Store.RecipesMade(ctx, ids)
	if err != nil {
		return err
	}
	for i := range rows {
		r, ok := of[rows[i].Like.ID]
		if !ok || !rows[i].Like.Recipe {
			continue
		}
		last := "not made yet"
		if m := made[r.ID]; m.N > 0 {
			last = "made " + measure.DayWords(m.At.Local().Format(time.DateOnly))
		}
		rows[i].Name += fmt.Sprintf(": %s, %s", r.Row.Summary.Flours, last)
	}
	return nil
}
