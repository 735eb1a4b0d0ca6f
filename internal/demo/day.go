package demo

import (
	"sync"
	"time"

	"hollen/internal/core/day"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
	"hollen/internal/store"
)

// ofToday are the batches of the day, in their order.
var ofToday = []string{Service, Saturday, Counter, Lantern, Chandler}

// canonical is the minute that stands for now while the day is worked out; it is then moved to the clock.
const canonical = 11 * 60

// days are the day of the workshop, under way: the dough for tonight’s service lies in its rest, Linde and Osk are at
// the others, and three orders are due.
//
// The day after it has the workshop's usual hours, which the one under way, moved to the clock, has not.
func days(now time.Time, ids []uint64, plans []*plan.Plan) ([]day.Sheet, []store.Order, []store.Standing) {
	midnight, at := dayOf(now)
	sheet := planToday(plans)
	sheet.Shift(at - canonical)
	sheet.Date = midnight.Format(time.DateOnly)
	usual := day.Sheet{Format: day.Format, Date: midnight.AddDate(0, 0, 1).Format(time.DateOnly), Shop: sheet.Shop,
		By: "Hours, people and kit"}
	usual.Shop.OpenAt = 7 * 60
	usual.Shop.CloseAt = 17 * 60
	usual.Shop.Breaks = []day.Span{{From: 12*60 + 30, To: 13 * 60}}
	batch := func(name string) *uint64 { id := ids[Number(name)-1]; return &id }
	due := func(minutes int) int { return minutes + at - canonical }
	weekday := int(midnight.Weekday())
	orders := []store.Order{
		{Who: "The counter", What: Saturday, Portions: 10, Due: due(13*60 + 15), Batch: batch(Saturday)},
		{Who: "Pilot house kitchen", What: Service, Portions: 8, Due: due(14 * 60), Batch: batch(Service)},
		{Who: "Lantern supper", What: Lantern, Portions: 6, Due: due(15 * 60), Note: "frozen is fine",
			Batch: batch(Lantern)},
	}
	for i := range orders {
		orders[i].Day = sheet.Date
	}
	orders = append(orders, everyKind(midnight.AddDate(0, 0, 2).Format(time.DateOnly))...)
	return []day.Sheet{sheet, usual}, orders, []store.Standing{
		{Weekday: (weekday + 1) % 7, Who: "The counter", What: "tagliatelle", Portions: 12, Due: 11*60 + 30},
		{Weekday: (weekday + 1) % 7, Who: "Mole café", What: "tagliatelle", Portions: 6, Due: 12 * 60,
			Note: "in nests of 90 g"},
		{Weekday: (weekday + 3) % 7, Who: "Pilot house kitchen", What: "pappardelle", Portions: 14, Due: 17 * 60},
	}
}

// everyKind are orders as they come: portions, kilos, pieces and boxes, two in one message, a wish, an allergy, frozen,
// and one after midnight.
func everyKind(date string) (out []store.Order) {
	for _, x := range []struct {
		who, what string
		much      order.Amount
		due       int
		note      string
		message   string
	}{{"Mole café", "tagliatelle", order.Amount{N: 24}, 12 * 60, "", "mole"},
		{"Mole café", "pappardelle", order.Amount{N: 2000, Unit: order.Grams}, 12 * 60, "", "mole"},
		{"Harbour school", "linguine, no egg", order.Amount{N: 16}, 11*60 + 30, "egg allergy, class of six", ""},
		{"Pilot house kitchen", "tagl.", order.Amount{N: 3, Unit: order.Boxes}, 16 * 60, "", ""},
		{"Lantern supper", "lantern ravioli, frozen", order.Amount{N: 60, Unit: order.Pieces}, 17 * 60, "", ""},
		{"Night ferry", "orecchiette", order.Amount{N: 8}, 24*60 + 30, "no cheese on top", ""}} {
		o := store.Order{Day: date, Who: x.who, What: x.what, Due: x.due, Note: x.note, Message: x.message}
		o.Say(x.much)
		out = append(out, o)
	}
	return out
}

// dayOf is the midnight the day under way began with, and the minute of it that is now.
func dayOf(now time.Time) (midnight time.Time, at int) {
	local := now.Local()
	midnight = time.Date(local.Year(), local.Month(), local.Day(), 0, 0, 0, 0, local.Location())
	if at = day.MinuteOf(midnight, local); at < 4*60 { // it began before midnight
		midnight = midnight.AddDate(0, 0, -1)
		at += 24 * 60
	}
	return midnight, at
}

// Date is the date of the day that is under way, yyyy-mm-dd.
func Date(now time.Time) string {
	midnight, _ := dayOf(now)
	return midnight.Format(time.DateOnly)
}

var onceToday sync.Once
var workedOut day.Sheet

// planToday works the day out once; its batches go by their numbers in a database that held none.
func planToday(plans []*plan.Plan) day.Sheet {
	onceToday.Do(func() {
		ru := rules.Default().Day
		shop := day.DefaultShop(ru)
		shop.OpenAt, shop.CloseAt = canonical-75, canonical+6*60
		shop.People = []day.Hand{{Name: "Linde", Pace: 100}, {Name: "Osk", Pace: 110}}
		shop.Breaks = []day.Span{{From: canonical + 105, To: canonical + 135}}
		shop.Mixers = 1
		shop.RackM = 14
		shop.RollerFrom = "pale"
		s := day.Sheet{Format: day.Format, Shop: shop, By: "Planned"}
		var all []*plan.Plan
		for _, name := range ofToday {
			n := Number(name)
			s.Jobs = append(s.Jobs, day.Job{Batch: n, Version: 1})
			all = append(all, plans[n-1])
		}
		wants := []day.Want{{Who: "The counter", Due: canonical + 135, Jobs: []uint64{Number(Saturday)}},
			{Who: "Pilot house kitchen", Due: canonical + 180, Jobs: []uint64{Number(Service)}},
			{Who: "Lantern supper", Due: canonical + 240, Jobs: []uint64{Number(Lantern)}}}
		d := day.Put(ru, shop, s.Jobs, all, nil, wants)
		kneads := d.Tasks[0].Minutes[1]
		s.Wishes = []day.Wish{{Task: d.Tasks[0].Key, Pinned: true, At: canonical - 8 - kneads, By: "Osk"}}
		d = day.Put(ru, shop, s.Jobs, all, s.Wishes, wants)
		a, err := d.Solve(2_000)
		if err != nil {
			panic(err) // the day here is constant
		}
		s.Take(d, a)
		s.Marks = map[string]day.Mark{}
		for i, x := range a.Slots {
			if x.Start <= canonical && s.Jobs[d.Tasks[i].Batch].Batch != Number(Service) {
				m := day.Mark{Began: x.Start}
				if x.End() <= canonical {
					m.Done = x.End()
				}
				s.Marks[d.Tasks[i].Key] = m
			}
		}
		workedOut = s
	})
	return workedOut.Copy()
}
