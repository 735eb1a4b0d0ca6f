// Package demo is the invented scenario Hollen shows itself with: Bottega Marram, a small
// pasta workshop on the quay of a harbour town that is on no map.
package demo

import (
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
	"hollen/internal/core/roll"
)

// Workshop is the name shown on every page.
const Workshop = "Bottega Marram, the quay workshop"

// Room is a named room of the demo.
type Room struct {
	Name  string
	TempC float64 // °C
	RH    float64 // share
}

// Rooms returns the days the workshop on the quay tells apart.
func Rooms() []Room {
	return []Room{{"January, stove on", 20, .34}, {"April morning", 17, .52}, {"August, doors open", 27, .74}}
}

// Flours returns the flour the workshop buys by the sack and has a sheet of. Kept in an empty
// cabinet it is the first, which the batches go by.
func Flours() []flour.Flour {
	f, _ := flour.Find("soft-00")
	f.Key, f.Name = flour.OwnPrefix+"1", "Tidewheel mill 00, spring sack"
	f.ProteinPct, f.AshPct, f.AbsorptionPct, f.MilledMoistureWB = 11.2, .48, 57.5, .139
	return []flour.Flour{f}
}

// Batches returns the demo batches, the one to open first last.
func Batches() []plan.Request {
	sack := Flours()[0]
	return []plan.Request{
		batch("Lighthouse family supper", func(r *plan.Request) {
			r.Amount = plan.Amount{By: "flour", FlourG: 400, Portions: 4, DoughG: 650, EggG: 240}
			r.Eggs.Style = egg.Rich
			r.Flours[0] = plan.FlourPart{Flour: "soft-0", Share: 1, Kept: flour.SealedTub, OpenDays: 20, ContainsKG: 1}
			r.Eggs.Class, r.Eggs.From = "eu-m", "fridge"
			r.Cut.Shape = "fettuccine"
			r.Room.RH = .55
		}),
		batch("Saltmarsh pappardelle", func(r *plan.Request) {
			r.Amount.Portions = 16
			r.Flours = []plan.FlourPart{
				{Flour: sack.Key, Own: &sack, Share: .7, Kept: flour.PaperBag, OpenDays: 12, ContainsKG: 25},
				{Flour: "wholemeal", Share: .3, Kept: flour.PaperBag, OpenDays: 12, ContainsKG: 5},
			}
			r.Eggs.Class = "eu-xl"
			r.Cut.Shape = "pappardelle"
			r.Roll.Machine = "motor-9"
			r.Room = plan.Room{TempC: 24, RH: .68, Air: dry.Fan}
		}),
		batch("Chandler’s linguine, no egg", func(r *plan.Request) {
			r.Amount.Portions = 12
			r.Flours[0] = plan.FlourPart{Flour: "semola-fine", Share: 1, Kept: flour.OpenBin, OpenDays: 5, ContainsKG: 10}
			r.Eggs.Style = egg.NoEgg
			r.Cut.Shape = "linguine"
			r.Roll.Machine = "sheeter-mm"
		}),
		batch("Yolk tagliolini for service", func(r *plan.Request) {
			r.Amount = plan.Amount{By: "dough", DoughG: 1250, Portions: 11, FlourG: 800, EggG: 580}
			r.Eggs.Style, r.Eggs.From = egg.YolksOnly, "fridge"
			r.Cut.Shape = "tagliolini"
			r.Roll.Machine, r.Roll.Mode = "mixer-8", roll.Fewest
			r.Rest.At = "fridge"
			r.Room.RH = .5
		}),
		batch("Tagliatelle for Saturday", func(r *plan.Request) {
			r.Amount = plan.Amount{By: "flour", FlourG: 1000, Portions: 12, DoughG: 1600, EggG: 540}
			r.Flours = []plan.FlourPart{
				{Flour: "soft-00", Share: .8, Kept: flour.PaperBag, OpenDays: 9, ContainsKG: 5},
				{Flour: "semola-fine", Share: .2, Kept: flour.SealedTub, OpenDays: 30, ContainsKG: 5},
			}
			r.Salt = .003
			r.Room.TempC, r.Room.RH = 21, .44
			r.Roll.Mode = roll.Fewest
		}),
	}
}

func batch(name string, change func(*plan.Request)) plan.Request {
	r := plan.Default()
	r.Name = name
	change(&r)
	return r
}
