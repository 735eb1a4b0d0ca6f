// Package demo is the invented scenario Hollen shows itself with: Bottega Marram, a small
// pasta workshop on the quay of a harbour town that is on no map.
package demo

import (
	"time"

	"hollen/internal/core/addition"
	"hollen/internal/core/cook"
	"hollen/internal/core/cost"
	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
	"hollen/internal/store"
)

// Scenario returns the whole workshop as it stands on that day.
func Scenario(ru rules.Rules, day time.Time) store.Scenario {
	w := workshop{day}
	return store.Scenario{
		Name:  "Bottega Marram, the quay workshop",
		House: w.house(),
		Rooms: []store.Room{{Name: "January, stove on", TempC: 20, RH: .34}, {Name: "April morning", TempC: 17,
			RH: .52},
			{Name: "August, doors open", TempC: 27, RH: .74}},
		Things: append([]store.Thing{
			{Kind: store.FlourKind, Value: w.sack()},
			{Kind: store.LotKind, Value: w.springSack()},
			{Kind: store.LotKind, Value: w.semolaTub()},
			{Kind: store.EggKind, Value: w.dikeEggs()},
			{Kind: store.AdditionKind, Value: w.samphire()},
			{Kind: store.YieldKind, Value: addition.Yield{Of: "Spinach leaves", FreshG: 1200, PowderG: 98, Hours: 10,
				DriedOn: w.ago(41)}},
			{Kind: store.YieldKind, Value: addition.Yield{Of: "Beetroot", FreshG: 2000, PowderG: 247, Hours: 12,
				DriedOn: w.ago(23)}},
			{Kind: store.MachineKind, Value: w.crank()},
			{Kind: store.ShapeKind, Value: w.wrack()},
			{Kind: store.WayKind, Value: w.sundayWay()},
			{Kind: store.WayKind, Value: w.quietWay()},
			{Kind: store.MakerKind, Value: request.Maker{Name: "Linde", Note: "mornings; firm hands"}},
			{Kind: store.MakerKind, Value: request.Maker{Name: "Osk", Note: "service"}},
			{Kind: store.MakerKind, Value: request.Maker{Name: "Fenna"}},
		}, w.fillings()...),
		Batches: planned(ru, w.batches()),
		Pairs:   map[int]int{0: 1},
		Recipes: recipes,
		Makings: makings,
		Days:    days,
		Doughs:  practised,
	}
}

// planned works the batches out.
func planned(ru rules.Rules, all []request.Request) []*plan.Plan {
	out := make([]*plan.Plan, len(all))
	for i, r := range all {
		var err error
		if out[i], err = plan.Make(ru, r); err != nil {
			panic(err) // the batches here are constant
		}
	}
	return out
}

// Day is the day of pictures and examples, a Saturday.
var Day = time.Date(2026, time.November, 28, 0, 0, 0, 0, time.UTC)

// Batches returns the batches as they are on Day, the one made last at the end.
func Batches() []request.Request { return workshop{Day}.batches() }

// Number returns the number the batch of that name gets in a database that held none; 0 when there
// is none.
func Number(name string) uint64 {
	for i, r := range Batches() {
		if r.Name == name {
			return uint64(i + 1)
		}
	}
	return 0
}

// Batch returns the batch of that name as it is on Day; the zero request when there is none.
func Batch(name string) request.Request {
	for _, r := range Batches() {
		if r.Name == name {
			return r
		}
	}
	return request.Request{}
}

// The names of the batches. Saturday is opened first.
const (
	Straw       = "Breakwater stripes, straw"
	Green       = "Breakwater stripes, green"
	Supper      = "Lighthouse family supper"
	Saltmarsh   = "Saltmarsh pappardelle"
	Chandler    = "Chandler’s linguine, no egg"
	Service     = "Yolk tagliolini for service"
	Saturday    = "Tagliatelle for Saturday"
	Lantern     = "Lantern night ravioli"
	Counter     = "Counter trays, mixed"
	Orecchiette = "Slipway orecchiette"
)

// workshop is the scenario on one day. Keys of its things go by their place in the cabinet.
type workshop struct{ day time.Time }

func (w workshop) ago(days int) string {
	return w.day.AddDate(0, 0, -days).Format(time.DateOnly)
}

// crank is the workshop's own hand crank, measured at three stops.
func (w workshop) crank() roll.Machine {
	m, _ := roll.Find("hand-crank-10")
	m.Key = store.Key(8)
	m.Name = "The window crank"
	m.SetSpeed = "a turn a second"
	const spring = .08
	sheets := []roll.Measure{{Stop: "1", SheetMM: 4.16}, {Stop: "4", SheetMM: 2.14}, {Stop: "7", SheetMM: 1.03}}
	fit, err := roll.Calibrate(m, sheets, spring)
	if err != nil {
		panic(err) // the sheets here are constant
	}
	return m.Apply(fit, sheets, spring, w.ago(20))
}

func price(s string) cost.Money {
	m, err := cost.Parse(s)
	if err != nil {
		panic(err) // prices here are constant
	}
	return m
}

// house is what the workshop's batches start from: a mixer for the large ones.
func (w workshop) house() request.House {
	h := request.DefaultHouse()
	hook, processor := 4000., 700.
	h.Prices = w.prices()
	h.Bench.HookG = &hook
	h.Bench.ProcessorG = &processor
	h.Bench.People = 2
	h.MadeBy = "Bottega Marram, the quay workshop, 3 Netloft Stairs"
	return h
}

func (w workshop) prices() request.Prices {
	each := price("0.29")
	oil := price("9.80")
	milk := price("1.30")
	salt := price("0.55")
	wage := price("19")
	return request.Prices{Currency: "€", EggEach: &each, OilKG: &oil, MilkKG: &milk, SaltKG: &salt, WageHour: &wage}
}

// sundayWay is how the dough is kneaded when there is time: three short kneadings and a night in the cold.
func (w workshop) sundayWay() request.Way {
	return request.Way{Name: "The Sunday way", Of: request.WayOfKneading, Steps: []request.KneadStep{{Do: request.DoMix,
		Min: 5}, {Do: request.DoHand, Min: 3},
		{Do: request.DoPause, Min: 8}, {Do: request.DoHand, Min: 3}, {Do: request.DoPause, Min: 8}, {Do: request.DoHand,
			Min: 3},
		{Do: request.DoFridge, Min: 660, Cover: request.CoverFilm}, {Do: request.DoTemper, Min: 35}}}
}

// quietWay is the way down with two stops left out each time and several passes at those used.
func (w workshop) quietWay() request.Way {
	return request.Way{Name: "Every third stop", Of: request.WayDown, Machine: "The window crank, 10 stops from 0 to 9",
		Passes: []request.RollStep{
			{Stop: "0", Passes: 1}, {Stop: "0", Passes: 2, Fold: request.FoldThree}, {Stop: "3", Passes: 3}, {Stop: "6",
				Passes: 2}}}
}

// sack is the flour the workshop buys by the sack and has a sheet of.
func (w workshop) sack() flour.Flour {
	f, _ := flour.Find("soft-00")
	f.Key = store.Key(1)
	f.Name = "Tidewheel mill 00"
	f.Label = "wheat flour"
	f.ProteinPct = 11.2
	f.AshPct = .48
	f.AbsorptionPct = 57.5
	f.MilledMoistureWB = .139
	return f
}

func (w workshop) springSack() flour.Lot {
	return flour.Lot{Key: store.Key(2), Name: "spring sack", Flour: store.Key(1), How: flour.PaperBag, ContainerKG: 25,
		OpenedOn:   w.ago(12),
		BestBefore: w.ago(-140), PricePerKG: price("1.15")}
}

// shelfBag is a small bag that has stood open for two weeks and was weighed between two takings.
func (w workshop) shelfBag() flour.Lot {
	at := func(ago, hour int) time.Time {
		return time.Date(w.day.Year(), w.day.Month(), w.day.Day()-ago, hour, 0, 0, 0, time.Local)
	}
	return flour.Lot{Key: store.Key(15), Name: "bag on the shelf", Flour: "soft-00", How: flour.PaperBag,
		ContainerKG: 1,
		OpenedOn:    w.ago(14), BestBefore: w.ago(-200), PricePerKG: price("1.40"), History: []flour.LotEvent{
			{At: at(11, 9), Kind: flour.LotTaken, G: 982, StepG: 1, By: "Linde"},
			{At: at(6, 10), Kind: flour.LotWeighed, G: 975, StepG: 1, By: "Linde"},
			{At: at(6, 10).Add(5 * time.Minute), Kind: flour.LotTaken, G: 740, StepG: 1, By: "Linde"}}}
}

func (w workshop) semolaTub() flour.Lot {
	return flour.Lot{Key: store.Key(3), Name: "tub by the window", Flour: "semola-fine", How: flour.SealedTub,
		ContainerKG: 5, OpenedOn: w.ago(30),
		BestBefore: w.ago(-60), MeasuredWB: .128, MeasuredOn: w.ago(9), PricePerKG: price("1.62")}
}

func (w workshop) dikeEggs() egg.Class {
	return egg.Class{Key: store.Key(4), Name: "From the dike farm", Weighed: egg.Weighing{Count: 10, EggsG: 556,
		YolksG: 172}, YolkColour: 13,
		PriceEach: price("0.34")}.Means(rules.Default().Measure)
}

// samphire is a powder the workshop makes of what grows on the saltmarsh.
func (w workshop) samphire() addition.Addition {
	a, _ := addition.Find("spinach-powder")
	a.Key = store.Key(5)
	a.Name = "Samphire powder"
	a.ProteinShare = .11
	a.FatShare = .02
	a.AshShare = .30
	a.Salty = true
	a.Colour = "#8fa267"
	a.Depth = 40
	a.HighShare = .04
	a.PricePerKG = price("64")
	return a
}

// wrack is the workshop's own shape, a ribbon between two names.
func (w workshop) wrack() cut.Shape {
	s, _ := cut.Find("tagliatelle")
	s.Key = store.Key(9)
	s.Name = "Wrack ribbons"
	s.SheetMM = .9
	s.WidthMM = 12
	s.FromMM = 11
	s.ToMM = 13
	s.Sauce, s.How = "mussels and parsley", "Wound in threes round the hand."
	return s
}

// batches returns the batches, the oldest first.
func (w workshop) batches() []request.Request {
	sack := w.sack()
	spring := w.springSack()
	tub := w.semolaTub()
	dike := w.dikeEggs()
	crank := w.crank()
	tagliatelle := price("1.35")
	all := []request.Request{
		batch(Straw, func(r *request.Request) {
			r.Amount.Portions = 8
			r.Flours[0] = request.FlourPart{Flour: sack.Key, Own: &sack, Lot: spring.Key, LotKept: &spring, Share: 1}
			r.Eggs.Class, r.Eggs.OwnClass = dike.Key, &dike
			r.Cut.Shape = "pappardelle"
			r.Roll.Machine, r.Roll.Own = crank.Key, &crank
			r.Room.RH = .48
		}),
		batch(Green, func(r *request.Request) {
			r.Amount = request.Amount{By: "dough", DoughG: 200, Portions: 2, FlourG: 125, EggG: 70}
			r.Flours[0] = request.FlourPart{Flour: sack.Key, Own: &sack, Lot: spring.Key, LotKept: &spring, Share: 1}
			r.Additions = []request.AdditionPart{{Addition: "spinach", Share: .12}}
			r.Eggs.Class, r.Eggs.OwnClass = dike.Key, &dike
			r.Cut.Shape = "pappardelle"
			r.Roll.Machine, r.Roll.Own = crank.Key, &crank
			r.Room.RH = .48
		}),
		batch(Supper, func(r *request.Request) {
			r.Amount = request.Amount{By: "flour", FlourG: 400, Portions: 4, DoughG: 650, EggG: 240}
			r.Eggs.Style = egg.Rich
			r.Flours[0] = request.FlourPart{Flour: "soft-0", Share: 1, Kept: flour.SealedTub, OpenDays: 20,
				ContainsKG: 1}
			r.Eggs.Class, r.Eggs.From = "eu-m", "fridge"
			r.Cut.Shape = "fettuccine"
			r.Roll.Machine, r.Roll.Outline = "pin-board", roll.Disc
			twenty := 20.
			r.Dry.Pieces = request.OnDrying{Drying: request.Drying{By: request.DrySaid, Min: &twenty},
				On: request.OnBoard}
			r.Room.RH = .55
		}),
		batch(Saltmarsh, func(r *request.Request) {
			r.Amount.Portions = 16
			r.Flours = []request.FlourPart{
				{Flour: sack.Key, Own: &sack, Lot: spring.Key, LotKept: &spring, Share: .7},
				{Flour: "wholemeal", Share: .3, Kept: flour.PaperBag, OpenDays: 12, ContainsKG: 5},
			}
			r.Eggs.Class = "eu-xl"
			r.Cut.Shape = "pappardelle"
			r.Roll.Machine = "motor-9"
			r.Room = request.Room{TempC: 24, RH: .68, Air: dry.Fan}
			r.Dry.Sheet.By = request.DryWorked
		}),
		batch(Chandler, func(r *request.Request) {
			r.Amount.Portions = 12
			r.Flours[0] = request.FlourPart{Flour: "semola-fine", Share: 1, Kept: flour.OpenBin, OpenDays: 5,
				ContainsKG: 10}
			r.Eggs.Style = egg.NoEgg
			r.Cut.Shape = "linguine"
			r.Roll.Machine = "sheeter-mm"
			r.Dry.Sheet.By = request.DryWorked // before the cutter
		}),
		batch(Service, func(r *request.Request) {
			r.Amount = request.Amount{By: "dough", DoughG: 1250, Portions: 11, FlourG: 800, EggG: 580}
			r.Eggs.Style, r.Eggs.From = egg.YolksOnly, "fridge"
			r.Cut.Shape = "tagliolini"
			r.Roll.Machine, r.Roll.Mode = "mixer-8", roll.Fewest
			r.Rest.At, r.Rest.Wrapped = "fridge", "pieces"
			r.Clock = request.Clock{RollAt: w.ago(0) + "T17:30", From: w.ago(0) + "T13:00"}
			r.Room.RH = .5
		}),
		batch(Saturday, func(r *request.Request) {
			r.Amount = request.Amount{By: "flour", FlourG: 1000, Portions: 12, DoughG: 1600, EggG: 540}
			r.Flours = []request.FlourPart{
				{Flour: "soft-00", Share: .8, Kept: flour.PaperBag, OpenDays: 9, ContainsKG: 5,
					PricePerKG: &tagliatelle},
				{Flour: "semola-fine", Share: .2, Lot: tub.Key, LotKept: &tub},
			}
			r.Salt = .003
			r.Room.TempC, r.Room.RH = 21, .44
			r.Roll.Mode = roll.Fewest
		}),
	}
	wrack := w.wrack()
	all = append(all,
		batch(Lantern, func(r *request.Request) {
			r.Amount.Portions = 12
			r.Flours[0] = request.FlourPart{Flour: sack.Key, Own: &sack, Lot: spring.Key, LotKept: &spring, Share: 1}
			r.Eggs.Class, r.Eggs.OwnClass = dike.Key, &dike
			r.Roll.Machine = "motor-9"
			nettle := w.nettle()
			r.Cut.Shape, r.Cut.Filling = "ravioli-round", request.Filling{Of: nettle.Key, Own: &nettle}
			r.Keep = request.Keep{Where: cook.Freezer, MadeAt: w.ago(0) + "T11:00"}
			r.Cook.After = "frozen"
			r.Room.RH = .5
		}),
		batch(Counter, func(r *request.Request) {
			r.Amount.Portions = 14
			r.Flours[0] = request.FlourPart{Flour: sack.Key, Own: &sack, Lot: spring.Key, LotKept: &spring, Share: 1}
			r.Eggs.Class, r.Eggs.OwnClass = dike.Key, &dike
			r.Roll.Machine, r.Roll.Own = crank.Key, &crank
			r.Cut.Also = []request.ShapePart{{Shape: "pappardelle", Portions: 4}, {Shape: wrack.Key, Own: &wrack,
				Portions: 3}}
			r.Keep = request.Keep{Where: cook.Fridge, MadeAt: w.ago(0) + "T09:30"}
			r.Room.RH = .48
		}),
		batch(Orecchiette, func(r *request.Request) {
			r.Amount.Portions = 8
			r.Flours[0] = request.FlourPart{Flour: "semola-fine", Share: 1, Lot: tub.Key, LotKept: &tub}
			r.Eggs.Style = egg.NoEgg
			r.Cut.Shape = "orecchiette"
			r.Room.RH = .46
		}))
	for i := range all {
		all[i].MadeOn = w.ago(0)
		all[i].Prices = w.prices()
		all[i].Bench = w.house().Bench
		for j := range all[i].Flours {
			all[i].Flours[j].Settle(all[i].MadeOn)
		}
	}
	return all
}

func batch(name string, change func(*request.Request)) request.Request {
	r := request.Default()
	r.Name = name
	change(&r)
	return r
}
