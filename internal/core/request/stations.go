package request

import (
	"hollen/internal/core/addition"
	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/doctor"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/roll"
)

// formulaFields are what goes into the bowl.
func formulaFields() []Field {
	return []Field{
		{Path: "name", Stage: AtFormula, Label: "Name", Kind: Text, Min: 1, Max: 80,
			at: func(r *Request) any { return &r.Name }},
		choice(AtFormula, "amount.by", "Make it by", func(r *Request) any { return &r.Amount.By },
			Option{string(ByPortions), "Portions"}, Option{string(ByDough), "Dough mass"}, Option{string(ByFlour),
				"Flour"},
			Option{string(ByEggs), "Eggs in the jug"}, Option{string(ByEaters), "The eater"}, Option{string(ByOwn),
				"As I make it"}),
		count(AtFormula, "amount.portions", "Portions", "", 1, 400, 1,
			func(r *Request) any { return &r.Amount.Portions }),
		optional(number(AtFormula, "amount.portion_g", "A portion, raw", "g", 20, 400, 5,
			func(r *Request) any { return &r.Amount.PortionG })),
		number(AtFormula, "amount.dough_g", "Dough in all", "g", 80, 60000, 50,
			func(r *Request) any { return &r.Amount.DoughG }),
		number(AtFormula, "amount.flour_g", "Flour in all", "g", 50, 50000, 50,
			func(r *Request) any { return &r.Amount.FlourG }),
		flag(AtFormula, "amount.flour_open", "Flour until it takes no more",
			func(r *Request) any { return &r.Amount.Open }),
		number(AtFormula, "amount.egg_g", "Beaten egg in the jug", "g", 30, 40000, 10,
			func(r *Request) any { return &r.Amount.EggG }),
		count(AtFormula, "amount.eaters", "People who eat", "", 1, 400, 1,
			func(r *Request) any { return &r.Amount.Eaters }),
		number(AtFormula, "amount.flour_each_g", "Flour for each", "g", 20, 300, 5,
			func(r *Request) any { return &r.Amount.EachG }),
		keeping(choice(AtFormula, "eggs.class", "Eggs", func(r *Request) any { return &r.Eggs.Class },
			classOptions()...),
			func(r *Request) owner { return own(&r.Eggs.OwnClass, keptClass) }),
		optional(number(AtFormula, "eggs.own_egg_g", "Your egg, without shell", "g", 25, 100, .5,
			func(r *Request) any { return &r.Eggs.OwnEggG })),
		optional(number(AtFormula, "eggs.own_yolk_g", "Your yolk", "g", 8, 40, .5,
			func(r *Request) any { return &r.Eggs.OwnYolkG })),
		optional(number(AtFormula, "eggs.yolk_colour", "Yolk colour", "of 15", 1, 15, 1,
			func(r *Request) any { return &r.Eggs.YolkColour })),
		choice(AtFormula, "eggs.style", "Style", func(r *Request) any { return &r.Eggs.Style },
			Option{string(egg.WholeEggs), "Whole eggs"}, Option{string(egg.Rich), "Whole eggs and yolks"},
			Option{string(egg.YolksOnly), "Yolks alone"},
			Option{string(egg.WholeWater), "Eggs and water"}, Option{string(egg.NoEgg), "No egg"}),
		choice(AtFormula, "eggs.top_up", "Top up with", func(r *Request) any { return &r.Eggs.TopUp },
			Option{string(egg.TopWater), "Water"}, Option{string(egg.TopMilk), "Milk"}, Option{string(egg.TopNone),
				"Nothing"}),
		optional(count(AtFormula, "eggs.fix_whole_eggs", "Whole eggs", "", 0, 2000, 1,
			func(r *Request) any { return &r.Eggs.FixWhole })),
		optional(count(AtFormula, "eggs.fix_extra_yolks", "Extra yolks", "", 0, 4000, 1,
			func(r *Request) any { return &r.Eggs.FixYolks })),
		optional(number(AtFormula, "eggs.cracked_g", "Weight once cracked", "g", 15, 40000, 1,
			func(r *Request) any { return &r.Eggs.CrackedG })),
		optional(number(AtFormula, "eggs.liquid_g", "Water or milk", "g", 0, 40000, 5,
			func(r *Request) any { return &r.Eggs.LiquidG })),
		flag(AtFormula, "eggs.move_flour", "Flour may move to suit whole eggs",
			func(r *Request) any { return &r.Eggs.MoveFlour }),
		flag(AtFormula, "eggs.by_weight", "Beat and weigh the eggs", func(r *Request) any { return &r.Eggs.ByWeight }),
		flag(AtFormula, "by_the_book", "By the book: nothing learned", func(r *Request) any { return &r.ByTheBook }),
		flag(AtFormula, "bench.scale_tenths", "The scale shows tenths",
			func(r *Request) any { return &r.Bench.Tenths }),
		share(AtFormula, "salt_share", "Salt, of flour", 0, .025, .001, func(r *Request) any { return &r.Salt }),
		share(AtFormula, "oil_share", "Oil, of flour", 0, .12, .005, func(r *Request) any { return &r.Oil }),
	}
}

// priceFields are what things cost.
func priceFields() []Field {
	return []Field{
		{Path: "prices.currency", Stage: AtFormula, Label: "Currency sign", Kind: Text, Min: 1, Max: 4,
			at: func(r *Request) any { return &r.Prices.Currency }},
		price("prices.egg_each", "An egg", "each", func(r *Request) any { return &r.Prices.EggEach }),
		price("prices.oil_per_kg", "Oil", "a kg", func(r *Request) any { return &r.Prices.OilKG }),
		price("prices.milk_per_kg", "Milk", "a kg", func(r *Request) any { return &r.Prices.MilkKG }),
		price("prices.salt_per_kg", "Salt", "a kg", func(r *Request) any { return &r.Prices.SaltKG }),
		price("prices.filling", "Filling and sauce", "in all", func(r *Request) any { return &r.Prices.Filling }),
		price("prices.wage_per_hour", "An hour’s work", "an hour", func(r *Request) any { return &r.Prices.WageHour }),
	}
}

// roomFields are the air, and what was found at the bench.
func roomFields() []Field {
	return []Field{
		{Path: "made_on", Stage: AtRoom, Label: "Made on", Kind: Date, Optional: true,
			at: func(r *Request) any { return &r.MadeOn }},
		{Path: "made_by", Stage: AtRoom, Label: "Made by", Kind: Text, Max: 80, Optional: true,
			at: func(r *Request) any { return &r.MadeBy }},
		optional(number(AtRoom, "used.flour_left_g", "Flour left over", "g", 0, 50000, 1,
			func(r *Request) any { return &r.Used.FlourLeftG })),
		optional(number(AtRoom, "used.liquid_left_g", "Liquid left over", "g", 0, 40000, 1,
			func(r *Request) any { return &r.Used.LiquidLeftG })),
		optional(number(AtRoom, "used.liquid_added_g", "Liquid added besides", "g", 0, 40000, 1,
			func(r *Request) any { return &r.Used.LiquidAddedG })),
		number(AtRoom, "room.temp_c", "Room", "°C", 2, 45, 1, func(r *Request) any { return &r.Room.TempC }),
		share(AtRoom, "room.rh", "Humidity", .05, .99, .01, func(r *Request) any { return &r.Room.RH }),
		choice(AtRoom, "eggs.from", "Eggs come from", func(r *Request) any { return &r.Eggs.From },
			Option{string(FromRoom), "The room"},
			Option{string(FromFridge), "The fridge"}),
	}
}

// kneadFields are kneading, and what it is done with.
func kneadFields() []Field {
	return []Field{
		choice(AtKnead, "knead.by", "Kneaded", func(r *Request) any { return &r.Knead.By }, Option{"",
			"As a school works it out"},
			Option{string(KneadOwn), "As I do it"}),
		choice(AtKnead, "knead.school", "School", func(r *Request) any { return &r.Knead.School }, SchoolOptions()...),
		optional(count(AtKnead, "knead.knead_min", "Kneading", "min", 1, 60, 1,
			func(r *Request) any { return &r.Knead.Min })),
		optional(count(AtKnead, "knead.turns", "Turns", "", 1, 6, 1, func(r *Request) any { return &r.Knead.Turns })),
		choice(AtKnead, "knead.mix", "Mixed in", func(r *Request) any { return &r.Knead.Mix }, Option{string(InWell),
			"A well on the board"},
			Option{string(InBowl), "A bowl"}),
		flag(AtKnead, "knead.shared", "Share one kneading", func(r *Request) any { return &r.Knead.Shared }),
		count(AtKnead, "bench.people", "Pairs of hands", "", 1, 8, 1, func(r *Request) any { return &r.Bench.People }),
		optional(number(AtKnead, "bench.hand_limit_g", "One person kneads", "g", 200, 6000, 100,
			func(r *Request) any { return &r.Bench.HandG })),
		optional(number(AtKnead, "bench.hook_g", "The mixer takes", "g", 200, 50000, 100,
			func(r *Request) any { return &r.Bench.HookG })),
		optional(number(AtKnead, "bench.processor_g", "The processor takes", "g", 100, 10000, 50,
			func(r *Request) any { return &r.Bench.ProcessorG })),
		optional(count(AtKnead, "roll.folds", "Folded passes", "", 0, 20, 1,
			func(r *Request) any { return &r.Roll.Folds })),
	}
}

// restFields are resting and the clock.
func restFields() []Field {
	return []Field{
		{Path: "clock.roll_at", Stage: AtRest, Label: "I roll at", Kind: Moment, Optional: true,
			at: func(r *Request) any { return &r.Clock.RollAt }},
		{Path: "clock.from", Stage: AtRest, Label: "I can start at", Kind: Moment, Optional: true,
			at: func(r *Request) any { return &r.Clock.From }},
		choice(AtRest, "rest.at", "Rests in", func(r *Request) any { return &r.Rest.At }, Option{string(InRoom),
			"The room, wrapped"},
			Option{string(InFridge), "The fridge, wrapped"}),
		optional(count(AtRest, "rest.rest_min", "Rest", "min", 0, 2880, 5,
			func(r *Request) any { return &r.Rest.Min })),
		count(AtRest, "rest.temper_min", "Then in the room", "min", 0, 240, 5,
			func(r *Request) any { return &r.Rest.TemperMin }),
		choice(AtRest, "rest.wrapped", "Wrapped", func(r *Request) any { return &r.Rest.Wrapped }, Option{string(InOne),
			"In one"},
			Option{string(PressedFlat), "In one, pressed flat"}, Option{string(InPieces), "Divided and flat"}),
		optional(number(AtRest, "rest.flat_mm", "Pressed to", "mm", 10, 100, 5,
			func(r *Request) any { return &r.Rest.FlatMM })),
		number(AtRest, "bench.fridge_c", "Fridge", "°C", 0, 10, 1, func(r *Request) any { return &r.Bench.FridgeC }),
		optional(number(AtRest, "rest.poke_s", "A poke is half back in", "s", 0, 60, .5,
			func(r *Request) any { return &r.Rest.PokeS })),
	}
}

// rollFields are the way down.
func rollFields() []Field {
	return []Field{
		keeping(choice(AtRoll, "roll.machine", "Machine", func(r *Request) any { return &r.Roll.Machine },
			options(roll.Shipped(), func(m roll.Machine) Option { return Option{m.Key, m.Name} })...),
			func(r *Request) owner { return own(&r.Roll.Own, keptMachine) }),
		optional(number(AtRoll, "roll.target_mm", "Target sheet", "mm", .4, 6, .05,
			func(r *Request) any { return &r.Roll.TargetMM })),
		choice(AtRoll, "roll.by", "The way down", func(r *Request) any { return &r.Roll.By }, Option{"", "Worked out"},
			Option{string(WayOwn), "As I do it"}),
		choice(AtRoll, "roll.mode", "Way down", func(r *Request) any { return &r.Roll.Mode },
			Option{string(roll.EveryStop), "Every stop"}, Option{string(roll.Fewest), "Fewest passes"}),
		optional(count(AtRoll, "roll.pieces", "Pieces", "", 1, 600, 1, func(r *Request) any { return &r.Roll.Pieces })),
		number(AtRoll, "roll.bench_mm", "Bench length", "mm", 300, 8000, 50,
			func(r *Request) any { return &r.Roll.BenchMM }),
		choice(AtRoll, "roll.careful", "Skips", func(r *Request) any { return &r.Roll.Careful },
			Option{string(CarefulAuto), "As the dough allows"}, Option{string(CarefulYes), "Careful"},
			Option{string(CarefulNo), "As far as is easy"}),
		choice(AtRoll, "roll.divide", "Divide by", func(r *Request) any { return &r.Roll.Divide },
			Option{string(DivideByFlour), "Flour, {100 g} a piece"}, Option{string(DivideByBench),
				"Bench, one sheet its length"}),
		choice(AtRoll, "roll.fold", "Folded in", func(r *Request) any { return &r.Roll.Fold },
			Option{string(roll.Thirds), "Thirds, like a letter"},
			Option{string(roll.Halves), "In half, like a book"}),
		choice(AtRoll, "roll.outline", "Rolled to a", func(r *Request) any { return &r.Roll.Outline },
			Option{string(roll.Rectangle), "Rectangle"},
			Option{string(roll.Disc), "Disc"}),
		number(AtRoll, "roll.stripes.base_mm", "Base", "mm", .6, 6, .1,
			func(r *Request) any { return &r.Roll.Stripes.BaseMM }),
		number(AtRoll, "roll.stripes.stripe_mm", "Stripe", "mm", .2, 3, .1,
			func(r *Request) any { return &r.Roll.Stripes.StripeMM }),
		choice(AtRoll, "roll.stripes.laid", "Laid", func(r *Request) any { return &r.Roll.Stripes.Lay }, Option{"",
			"Across the sheet"},
			Option{string(roll.LaidAlong), "Along the sheet"}, Option{string(roll.LaidLattice),
				"Both ways, a lattice"}),
		choice(AtRoll, "roll.stripes.third_colour", "A third colour",
			func(r *Request) any { return &r.Roll.Stripes.Third }, append([]Option{{"", "None"}},
				options(addition.Shipped(), func(a addition.Addition) Option { return Option{a.Key, a.Name} })...)...),
		flag(AtRoll, "roll.stripes.mirrored", "Mirrored, forth and back",
			func(r *Request) any { return &r.Roll.Stripes.Mirror }),
		number(AtRoll, "roll.stripes.width_mm", "Stripe is wide", "mm", 2, 200, 1,
			func(r *Request) any { return &r.Roll.Stripes.WidthMM }),
		number(AtRoll, "roll.stripes.pitch_mm", "One every", "mm", 3, 400, 1,
			func(r *Request) any { return &r.Roll.Stripes.PitchMM }),
		choice(AtRoll, "roll.dusted_with", "Dusted with", func(r *Request) any { return &r.Roll.Dust },
			Option{string(DustAuto), "Semola; without gluten, rice"}, Option{string(DustSemola), "Durum semola"},
			Option{string(DustRice), "Rice flour"}, Option{string(DustOwn), "The flour of the dough"}),
		flag(AtRoll, "roll.last_twice", "Last stop twice", func(r *Request) any { return &r.Roll.LastTwice }),
	}
}

// cutFields are the shape and how it is cut.
func cutFields() []Field {
	return []Field{
		keeping(choice(AtCut, "cut.shape", "Shape", func(r *Request) any { return &r.Cut.Shape }, shapeOptions()...),
			func(r *Request) owner { return own(&r.Cut.Own, keptShape) }),
		optional(number(AtCut, "cut.width_mm", "Width", "mm", .8, 400, .5,
			func(r *Request) any { return &r.Cut.Width })),
		optional(number(AtCut, "cut.long_mm", "Long side", "mm", 4, 600, 1,
			func(r *Request) any { return &r.Cut.Long })),
		optional(number(AtCut, "cut.min_length_mm", "Shortest ribbon", "mm", 60, 2000, 10,
			func(r *Request) any { return &r.Cut.Min })),
		optional(number(AtCut, "cut.max_length_mm", "Longest ribbon", "mm", 60, 2500, 10,
			func(r *Request) any { return &r.Cut.Max })),
		optional(number(AtCut, "cut.nest_g", "Nest", "g", 20, 500, 5, func(r *Request) any { return &r.Cut.NestG })),
		optional(number(AtCut, "cut.piece_g", "A piece", "g", .2, 30, .1,
			func(r *Request) any { return &r.Cut.PieceG })),
		optional(number(AtCut, "cut.trim_end_mm", "Trim, each end", "mm", 0, 60, 1,
			func(r *Request) any { return &r.Cut.TrimEnd })),
		optional(number(AtCut, "cut.trim_side_mm", "Trim, each side", "mm", 0, 40, .5,
			func(r *Request) any { return &r.Cut.TrimSide })),
		optional(number(AtCut, "cut.fold_mm", "Rolled up", "mm", 20, 200, 5,
			func(r *Request) any { return &r.Cut.FoldMM })),
		choice(AtCut, "cut.tool", "Cut with", func(r *Request) any { return &r.Cut.Tool },
			Option{"", "As the shape asks"}, Option{string(cut.Knife), "Knife, rolled up loosely"},
			Option{string(cut.Cutter), "The machine’s cutter"}),
		choice(AtCut, "cut.pattern", "Laid", func(r *Request) any { return &r.Cut.Pattern },
			Option{"", "Whichever gives more"}, Option{string(cut.Grid), "In a grid"}, Option{string(cut.Staggered),
				"Staggered"}),
		choice(AtCut, "cut.trimmings", "Trimmings", func(r *Request) any { return &r.Cut.Scraps },
			Option{string(Maltagliati), "Maltagliati"}, Option{string(SoupBag), "Soup bag in the freezer"},
			Option{string(WorkedBack), "Back into the next piece"}),
		Field{Path: "cut.filling.name", Stage: AtCut, Label: "Filling", Kind: Text, Max: 60,
			at: func(r *Request) any { return &r.Cut.Filling.Name }},
		choice(AtCut, "cut.filling.kind", "It is", func(r *Request) any { return &r.Cut.Filling.Kind },
			Option{string(FillingCooked), "Cooked, or fresh cheese"}, Option{string(FillingMeat), "Raw meat"},
			Option{string(FillingFish), "Raw fish"},
			Option{string(FillingEgg), "With raw egg"}),
		Field{Path: "cut.filling.allergens", Stage: AtCut, Label: "Its allergens", Kind: Text, Max: 80,
			at: func(r *Request) any { return &r.Cut.Filling.Allergens }},
		optional(number(AtCut, "cut.filling.piece_g", "Filling in each", "g", .2, 60, .1,
			func(r *Request) any { return &r.Cut.Filling.PieceG })),
	}
}

// dryFields are drying and keeping.
func dryFields() []Field {
	return []Field{
		choice(AtDry, "dry.on", "Sheets lie on", func(r *Request) any { return &r.Dry.On }, Option{string(OnRack),
			"A rack, both faces open"},
			Option{string(OnBoard), "A board or tray, one face open"}),
		choice(AtDry, "room.air", "Air", func(r *Request) any { return &r.Room.Air }, Option{string(dry.Still),
			"Still"}, Option{string(dry.Fan), "A gentle fan"}),
		flag(AtDry, "dry.keep", "Dry it to keep", func(r *Request) any { return &r.Dry.Keep }),
		optional(number(AtDry, "dry.raw_g", "Hung up, raw", "g", 10, 60000, 10,
			func(r *Request) any { return &r.Dry.RawG })),
		optional(number(AtDry, "bench.rack_rod_m", "Rod on the racks", "m", .2, 100, .5,
			func(r *Request) any { return &r.Bench.RodM })),
		optional(count(AtDry, "bench.trays", "Trays of 600 × 400", "", 1, 200, 1,
			func(r *Request) any { return &r.Bench.Trays })),
		choice(AtDry, "keep.where", "Kept", func(r *Request) any { return &r.Keep.Where },
			Option{"", "Cooked the same day"}, Option{string(cook.Fridge), "In the fridge"},
			Option{string(cook.Freezer), "In the freezer"}),
		{Path: "keep.made_at", Stage: AtDry, Label: "Made at", Kind: Moment, Optional: true,
			at: func(r *Request) any { return &r.Keep.MadeAt }},
		optional(number(AtDry, "keep.days", "Keeps, your plan", "days", .5, 365, .5,
			func(r *Request) any { return &r.Keep.Days })),
		{Path: "keep.note", Stage: AtDry, Label: "Your reason", Kind: Text, Max: 120,
			at: func(r *Request) any { return &r.Keep.Note }},
	}
}

// cookFields are the pot.
func cookFields() []Field {
	return []Field{
		choice(AtCook, "cook.after", "Goes into the pot", func(r *Request) any { return &r.Cook.After },
			Option{string(Fresh), "Straight from the cutter"}, Option{string(AtLeather), "At leather, 3 % lost"},
			Option{string(FirmNests), "From firm nests, 6 % lost"},
			Option{string(DriedHard), "Dried to keep"}, Option{string(Frozen), "Frozen"}),
		optional(number(AtCook, "bench.pot_l", "Pot", "L", 1, 200, 1, func(r *Request) any { return &r.Bench.PotL })),
		optional(count(AtCook, "bench.pots", "Pots", "", 1, 12, 1, func(r *Request) any { return &r.Bench.Pots })),
		optional(number(AtCook, "bench.boil_min", "Water boils in", "min", 1, 120, 1,
			func(r *Request) any { return &r.Bench.BoilMin })),
	}
}

// SchoolOptions are the schools of kneading, and the choice to leave it to Hollen.
func SchoolOptions() []Option {
	return append([]Option{{string(knead.Auto), "As tool and shape ask"}},
		options(knead.Schools(), func(s knead.School) Option { return Option{string(s), s.Traits().Name} })...)
}

// KneadDoOptions are what may be done in a step of one's own.
func KneadDoOptions() []Option {
	return []Option{{"", "Nothing"}, {string(DoMix), "Mix by hand"}, {string(DoMixMachine), "Mix in the mixer"},
		{string(DoMixProcessor), "Mix in the processor"}, {string(DoHand), "Knead by hand"}, {string(DoSlowHook),
			"Hook, slow"},
		{string(DoHook), "Hook, second speed"}, {string(DoProcessor), "Processor"}, {string(DoPause), "Pause"},
		{string(DoRest), "Rest in the room"},
		{string(DoFridge), "Rest in the fridge"}, {string(DoTemper), "Out of the fridge"}}
}

// ActOptions are the kinds of act.
func ActOptions() []Option {
	return []Option{{"", "Nothing"}, {string(doctor.Water), "Water"}, {string(doctor.Egg), "Beaten egg"},
		{string(doctor.Milk), "Milk"},
		{string(doctor.Oil), "Oil"}, {string(doctor.Flour), "Flour"}, {string(doctor.Knead), "Kneaded on"},
		{string(doctor.Rest), "Rested on"}}
}

// Keepings are the ways of keeping a flour, by the key of flour.Keeping.
func Keepings() []Option {
	return []Option{{string(flour.SealedTub), "Sealed tub"}, {string(flour.PaperBag), "Paper bag, folded"},
		{string(flour.OpenBin), "Open bin"},
		{string(flour.Sifted), "Sifted, spread"}}
}
