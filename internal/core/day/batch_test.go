package day_test

import (
	"testing"

	"hollen/internal/core/day"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
)

func TestZZ(t *testing.T) {
	ru := rules.Default()
	var jobs []day.Job
	var plans []*plan.Plan
	var wants []day.Want
	for i, r := range demo.Batches() {
		if i == 1 || i == 2 || i == 9 || i == 0 || i == 3 {
			continue
		}
		p, err := plan.Make(ru, r)
		if err != nil {
			t.Fatal(err)
		}
		jobs, plans = append(jobs, day.Job{Batch: uint64(i + 1)}), append(plans, p)
		wants = append(wants, day.Want{Who: r.Name, Due: 13*60 + 30*i, Jobs: []uint64{uint64(i + 1)}})
	}
	shop := day.DefaultShop(ru.Day)
	shop.People = []day.Hand{{Name: "Linde", Pace: 100}, {Name: "Osk", Pace: 110, From: 600}}
	shop.Breaks = []day.Span{{From: 750, To: 780}}
	shop.Mixers = 1
	d := day.Put(ru.Day, shop, jobs, plans, nil, wants)
	for i, x := range d.Tasks {
		t.Log(i, jobs[x.Batch].Letter, x.Key, x.Name, x.Minutes, x.Class, x.Keys)
	}
	for _, l := range d.Lags {
		t.Log(l.What, d.Tasks[l.A.Task].Key, l.A.End, d.Tasks[l.B.Task].Key, l.B.End, l.Min, l.Max)
	}
	a, err := d.Plan()
	if err != nil {
		t.Fatal(err, d.Explain(500, func(d *day.Day, more int) *day.Day { return d }))
	}
	t.Logf("%+v bound %+v proved %v nodes %d", a.Goals, a.Bound, a.Proved, a.Nodes)
	for i, s := range a.Slots {
		by := ""
		if s.By >= 0 {
			by = d.People[s.By].Name
		}
		t.Log(jobs[d.Tasks[i].Batch].Letter, d.Tasks[i].Name, day.Time(s.Start), day.Time(s.End()), by, s.CleanMin)
	}
}
