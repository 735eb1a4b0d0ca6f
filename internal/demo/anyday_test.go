package demo

import (
	"testing"
	"time"

	"hollen/internal/core/day"
	"hollen/internal/core/rules"
)

// The demo is right on whatever day, and at whatever hour, it is started: a leap day, the Sundays clocks change, new
// year, past midnight.
func TestDemoOnAnyDay(t *testing.T) {
	zone, err := time.LoadLocation("Europe/Berlin")
	if err != nil {
		t.Skip("no time zones here")
	}
	local := time.Local
	time.Local = zone
	defer func() { time.Local = local }()
	for _, at := range []string{"2026-11-29T10:00", "2027-01-08T00:10", "2027-03-28T01:59", "2027-03-28T09:30",
		"2027-10-31T02:30", "2028-02-29T23:50",
		"2027-12-31T23:59", "2028-03-01T03:59", "2028-03-01T04:01"} {
		now, err := time.ParseInLocation("2006-01-02T15:04", at, zone)
		if err != nil {
			t.Fatal(err)
		}
		sc := WithLog(rules.Default(), now)
		date := Date(now)
		ids := make([]uint64, len(sc.Batches))
		for i, p := range sc.Batches {
			if ids[i] = uint64(i + 1); p.Request.MadeOn != date {
				t.Errorf(
					"%s: %s is made on %s, and the day under way is %s",
					at,
					p.Request.Name,
					p.Request.MadeOn,
					date,
				)
			}
		}
		made := sc.Makings(now, sc.Batches)
		if len(made) < 90 {
			t.Errorf("%s: %d makings", at, len(made))
		}
		for _, m := range made {
			for _, e := range m.Events {
				if e.At.After(now.Add(time.Minute)) || e.At.Before(m.Began) {
					t.Errorf("%s: %s of a making begun %v is at %v", at, e.What(), m.Began, e.At)
					break
				}
			}
		}
		sheets, orders, _ := sc.Days(now, ids, sc.Batches)
		if sheets[0].Date != date || !sheets[0].Planned() || sheets[1].Date <= date {
			t.Errorf("%s: days %s and %s", at, sheets[0].Date, sheets[1].Date)
		}
		midnight, _ := dayOf(now)
		minute, ahead := day.MinuteOf(midnight, now), 0
		for i, x := range sheets[0].Slots {
			if _, begun := sheets[0].Marks[sheets[0].Day.Tasks[i].Key]; begun && x.Start > minute {
				t.Errorf("%s: %s has begun at %d, and it is %d", at, sheets[0].Day.Tasks[i].Key, x.Start, minute)
			}
			if x.End() > minute {
				ahead++
			}
		}
		for _, o := range orders {
			if o.Day < date || o.Day == date && o.Due <= minute {
				t.Errorf("%s: the order of %s is due at %d of %s, and it is %d", at, o.Who, o.Due, o.Day, minute)
			}
		}
		if ahead == 0 {
			t.Errorf("%s: nothing is left to do", at)
		}
	}
}
