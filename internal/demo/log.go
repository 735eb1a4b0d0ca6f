package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/dry"
	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/device/sim"
	"hollen/internal/store"
)

// logDays is how far back the log of the workshop goes.
const logDays = 92

// WithLog is the workshop with three months of makings behind it, and four weeks of its air.
func WithLog(ru rules.Rules, now time.Time) store.Scenario {
	day, _ := dayOf(now) // of one with the day under way
	sc := Scenario(ru, day)
	sc.Things = append(sc.Things, store.Thing{Kind: store.LotKind, Value: workshop{day}.shelfBag()})
	sc.Air = air
	sc.Makings = func(now time.Time, plans []*plan.Plan) []store.SeedMaking {
		return append(makings(now, plans), workshop{day}.log(ru, now)...)
	}
	return sc
}

// log is three months at the bench: a dry spell with the stove on in the middle, a new sack of flour after it, two
// makers who
// do not call the same dough right. What its batches truly wanted is kept here, and what was said of them follows from
// that.
func (w workshop) log(ru rules.Rules, now time.Time) []store.SeedMaking {
	rng := rand.New(rand.NewPCG(1892, 7))
	batches := w.batches()
	week := map[time.Weekday][]string{time.Tuesday: {Counter}, time.Wednesday: {Service}, time.Thursday: {Orecchiette,
		Service}, time.Friday: {Lantern, Service},
		time.Saturday: {Saturday, Saltmarsh}}
	var out []store.SeedMaking
	for back := logDays; back >= 2; back-- {
		day := now.AddDate(0, 0, -back)
		for n, name := range week[day.Weekday()] {
			i := int(Number(name)) - 1
			r := batches[i].Again(day.Format(time.DateOnly))
			r.Clock = request.Clock{}
			out = append(out, w.logged(ru, rng, i, r, day, back, n))
		}
	}
	return out
}

// wants is how much more water than the book a batch of the workshop truly takes, points.
func wants(r *request.Request, lot string, back int) float64 {
	by := map[string]float64{"winter sack": -.3, "spring sack": .5}[lot]
	if r.Flours[0].Flour == store.Key(1) {
		by += .6
	}
	return .5 + by + .25*math.Sin(float64(back)/18)
}

// logged is one making of the log.
func (w workshop) logged(ru rules.Rules, rng *rand.Rand, batch int, r request.Request, day time.Time, back,
	n int) store.SeedMaking {
	r.Room.RH += .03 * rng.NormFloat64()
	if back < 60 && back > 44 { // the stove on, and no rain
		r.Room.RH = .29 + .02*rng.Float64()
	}
	r.Room.RH = math.Round(100*math.Max(.25, math.Min(.8, r.Room.RH))) / 100
	if back < airDays { // by the sensor
		c, rh := sim.Air(time.Date(day.Year(), day.Month(), day.Day(), 8+3*n, 30, 0, 0, time.Local))
		r.Room.TempC, r.Room.RH = math.Round(c), math.Round(100*rh)/100
	}
	lot := ""
	if r.Flours[0].LotKept != nil {
		l := *r.Flours[0].LotKept
		if lot = l.Name; lot == "spring sack" && back > 40 { // the sack before it
			lot = "winter sack"
			l.Name = "winter sack"
			l.OpenedOn = w.ago(logDays + 20)
		}
		l.MeasuredWB, l.MeasuredOn = 0, ""
		r.Flours = append([]request.FlourPart{}, r.Flours...)
		r.Flours[0].LotKept = &l
		r.Flours[0].Settle(r.MadeOn)
	}
	r.Flours[0].Kept = orKept(r.Flours[0].Kept)
	p, err := plan.Make(ru, r)
	if err != nil {
		panic(err) // the batches here are constant
	}
	maker := []string{"Linde", "Osk"}[(back/3+n)%2]
	began := time.Date(day.Year(), day.Month(), day.Day(), 8+3*n, rng.IntN(40), 0, 0, time.Local)
	events, end := madeUpTo(p, began, "", maker)
	k := 0
	say := func(e bench.Event) {
		k++
		e.ID, e.By = fmt.Sprintf("log-%d-%d-%d", back, n, k), maker
		if e.At.IsZero() {
			e.At = end
		}
		events = append(events, e)
	}
	off := p.Formula.Target.Hw + wants(&r, lot, back) - p.Formula.Dough.Hw // points it lacks
	if off > .8 && rng.Float64() < .5 {                                    // put right at the board
		g := math.Round(off * p.Formula.Blend.F14G / 100)
		say(bench.Event{At: began.Add(15 * time.Minute), Says: bench.Added{What: "water", G: g}})
		off = 0
	}
	if maker == "Osk" { // who calls a dough right a little later
		off -= .2
	}
	felt := int(math.Max(-2, math.Min(2, math.Round(-off/1.2+.35*rng.NormFloat64()))))
	say(bench.Event{Says: bench.Felt{Word: felt}})
	if k%5 == 0 || rng.IntN(3) == 0 {
		say(bench.Event{Says: bench.Named{What: "eggs", Name: map[bool]string{true: "From the dike farm",
			false: "market"}[r.Eggs.OwnClass != nil]}})
	}
	w.tried(p, rng, events, say)
	trimmed(p, rand.New(rand.NewPCG(uint64(back), uint64(n))), say)
	next := ""
	if rng.IntN(4) == 0 {
		next = []string{"roll a stop finer", "hold less flour back", "start half an hour earlier",
			"dust with semola, not flour", "divide it larger"}[rng.IntN(5)]
	}
	out := (.96 + .02*rng.Float64()) * p.Formula.Dough.MassG * .97
	if p.Cut.AllMadeG > p.Formula.Dough.MassG { // filled
		out = (.95 + .03*rng.Float64()) * p.Cut.AllMadeG
	}
	say(bench.Event{At: end.Add(2 * time.Minute), Says: bench.Ended{G: math.Round(out), Text: next}})
	return store.SeedMaking{Batch: batch, Plan: p, Began: began, Events: events}
}

// trimmed is what is weighed of trimmings, a little more than the layout’s, and how ribbons pull in, now and then.
func trimmed(p *plan.Plan, rng *rand.Rand, say func(bench.Event)) {
	if laid := p.Cut.LaidTrimG(); laid > 5 && rng.IntN(2) == 0 {
		g := laid * (1.15 + .08*rng.NormFloat64())
		back := math.Round(g * .4)
		if rng.IntN(3) == 0 {
			back = 0
		} else {
			say(bench.Event{Says: bench.Left{What: bench.Trimmings, Into: bench.KneadedIn, G: back}})
		}
		say(bench.Event{Says: bench.Left{What: bench.Trimmings, G: math.Round(g - back)}})
	}
	for _, s := range bench.Steps(p) {
		if long := math.Round(p.Cut.LengthMM); s.Kind == bench.Cut && p.Cut.Shape.Traits().Lengths && long >= 100 &&
			rng.IntN(4) == 0 {
			say(bench.Event{Says: bench.Shrunk{Step: s.Key, CutMM: long, MM: math.Round(long * (.945 +
				.01*rng.NormFloat64()))}})
		}
	}
}

func orKept(k flour.Keeping) flour.Keeping {
	if k == "" {
		return flour.PaperBag
	}
	return k
}

// tried is what was tried and looked at on the way, by hands that need a little longer than the book and a rack that
// dries
// more slowly.
func (w workshop) tried(p *plan.Plan, rng *rand.Rand, events []bench.Event, say func(bench.Event)) {
	ends := map[string]time.Time{}
	for _, e := range events {
		if _, ok := e.Says.(bench.Done); ok {
			ends[e.Step()] = e.At
		}
	}
	for _, s := range bench.Steps(p) {
		end := ends[s.Key]
		switch {
		case s.Kind == bench.Wait && s.Station == request.AtRest && s.Min > 15 && s.Min < 300 && rng.IntN(2) == 0:
			say(bench.Event{At: end.Add(-time.Second), Says: bench.Poked{Step: s.Key,
				S: math.Round(10*(3.4+.8*rng.NormFloat64())) / 10}})
		case s.Kind == bench.Wait && s.Station == request.AtDry && p.Request.Room.Air == dry.Still && rng.IntN(2) == 0:
			word := "not yet"
			if rng.IntN(3) == 0 {
				word = "right"
			}
			say(bench.Event{At: end.Add(-time.Second), Says: bench.Looked{Step: s.Key, Look: word}})
		case s.Kind == bench.Pass && s.Piece == 2 && s.Pass == s.Passes && s.SheetMM > 0 && rng.IntN(3) == 0:
			mm := math.Round(100*s.SheetMM*(1.05+.02*rng.NormFloat64())) / 100
			say(bench.Event{At: end, Says: bench.Measured{Step: s.Key, MM: mm}})
		}
	}
}
