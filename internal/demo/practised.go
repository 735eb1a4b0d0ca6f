package demo

import (
	"time"

	"hollen/internal/core/plan"
	"hollen/internal/core/practice"
	"hollen/internal/store"
)

// practised are a few doughs somebody of the workshop has practised on by a moment: two sittings, a whole batch, a
// fault, and a dough that still lies at the board.
func practised(now time.Time, ids []uint64, batches []*plan.Plan) (out []store.PracticeRound) {
	var p *plan.Plan
	var k *practice.Kitchen
	var id uint64
	for i, q := range batches {
		if b, err := practice.Of(q); err == nil && k == nil || err == nil && q.Request.Name == Saturday {
			p, k, id = q, practice.NewKitchen(b), ids[i]
		}
	}
	if k == nil {
		return nil
	}
	add := func(form practice.Form, level int, seed uint64, ago time.Duration, calls []practice.Call,
		acts []practice.Act,
		points, regret float64) {
		r := store.NewPractice(store.DemoPractises, form, p.Request, p.Rules(), store.PracticeAsked{Calls: calls})
		ended := now.Add(-ago + 6*time.Minute)
		r.Level, r.Seed, r.AtOnce, r.Name, r.Began, r.Ended = level, seed, true, p.Request.Name, now.Add(-ago), &ended
		r.BatchID = &id
		r.Acts.V, r.Seq, r.Points, r.Regret = acts, len(acts), &points, &regret
		out = append(out, r)
	}
	const day = 24 * time.Hour
	early := []practice.Call{
		practice.Shaggy,
		practice.Water,
		practice.Kneaded,
		practice.Rested,
		practice.SkinFound,
		practice.Folds,
	}
	later := []practice.Call{practice.Step, practice.Thin, practice.Dry, practice.Pot, practice.Water, practice.Kneaded}
	for i, calls := range [][]practice.Call{early, later} {
		seed := uint64(11 + i)
		sit, _ := k.Sit(seed, 1+i, calls, nil)
		for !sit.Over {
			_ = sit.Do(k, practice.Act{Do: practice.DoChoose, N: float64((sit.At + 2*i) % 3)})
			if !sit.Over {
				_ = sit.Do(k, practice.Act{Do: practice.DoOn})
			}
		}
		regret := 0.
		for _, v := range sit.Before {
			regret += v.Regret / float64(len(sit.Before))
		}
		add(practice.OneCall, 1+i, seed, time.Duration(9-4*i)*day, calls, sit.Acts, regret, regret)
	}
	x, _ := k.Fold(21, 2, nil, true)
	for _, a := range []practice.Act{{Do: practice.DoKnead, N: 3}, {Do: practice.DoLook, Sign: practice.Flex},
		{Do: practice.DoWater, N: 10}, {Do: practice.DoKnead, N: 5}, {Do: practice.DoWrap}, {Do: practice.DoRest,
			N: 15},
		{Do: practice.DoLook, Sign: practice.Poke}, {Do: practice.DoRoll}, {Do: practice.DoFold, N: 2},
		{Do: practice.DoDust}} {
		_ = x.Do(a)
	}
	for x.Dough.Stop < k.Last {
		_ = x.Do(practice.Act{Do: practice.DoPass})
	}
	for _, a := range []practice.Act{{Do: practice.DoLook, Sign: practice.Leaves}, {Do: practice.DoDust},
		{Do: practice.DoEnd},
		{Do: practice.DoCut}, {Do: practice.DoCook, N: 90}, {Do: practice.DoCook, N: 15}, {Do: practice.DoDrain}} {
		_ = x.Do(a)
	}
	points, _ := x.Points()
	add(practice.WholeBatch, 2, 21, 3*day, nil, x.Acts, points, x.Regret())
	f := k.Case(31)
	add(practice.FindFault, 1, 31, 2*day, nil, []practice.Act{{Do: practice.DoChoose, N: float64(f.Planted)}}, 1, 0)
	add(practice.WholeBatch, 2, 41, time.Hour, nil, []practice.Act{{Do: practice.DoKnead, N: 4},
		{Do: practice.DoLook, Sign: practice.Flex}, {Do: practice.DoLook, Sign: practice.Spring}}, 0, 0)
	open := &out[len(out)-1] // it lies at the board
	open.Ended, open.Points, open.Regret = nil, nil, nil
	return out
}
