package request

import (
	"hollen/internal/core/addition"
	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/doctor"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/field"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/roll"
)

// formulaFields are what goes into the bowl.
func formulaFields() []Field {
	return []Field{
		{Field: field.Field{Path: "name", Label: "Name", Kind: Text, Min: 1, Max: 80}, Stage: AtFormula,
			at: func(r *Request) any { return &r.Name }},
		choice(AtFormula, "amount.by", "Make it by", func(r *Request) any { return &r.Amount.By },
			opt(string(ByPortions), "Portions"), opt(string(ByDough), "Dough mass"), opt(string(ByFlour),
				"Flour"),
			opt(string(ByEggs), "Eggs in the jug"), opt(string(ByEaters), "The eater"), opt(string(ByOwn),
				"As I make it")),
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
			opt(string(egg.WholeEggs), "Whole eggs"), opt(string(egg.Rich), "Whole eggs and yolks"),
			opt(string(egg.YolksOnly), "Yolks alone"),
			opt(string(egg.WholeWater), "Eggs and water"), opt(string(egg.NoEgg), "No egg")),
		choice(AtFormula, "eggs.top_up", "Top up with", func(r *Request) any { return &r.Eggs.TopUp },
			opt(string(egg.TopWater), "Water"), opt(string(egg.TopMilk), "Milk"), opt(string(egg.TopNone),
				"Nothing")),
		optional(count(AtFormula, "eggs.fix_whole_eggs", "Whole eggs", "", 0, 2000, 1,
			func(r *Request) any { return &r.Eggs.FixWhole })),
		optional(count(AtFormula, "eggs.fix_extra_yolks", "Extra yolks", "", 0, 4000, 1,
			func(r *Request) any { return &r.Eggs.FixYolks })),
		optional(number(AtFormula, "eggs.cracked_g", "Weight once cracked", "g", 15, 40000, 1,
			func(r *Request) any { return &r.Eggs.CrackedG })),
		optional(number(AtFormula, "eggs.liquid_g", "Water or milk", "g", 0, 40000, 5,
			func(r *Request) any { return &r.Eggs.LiquidG })),
		flag(AtFormula, "eggs.liquid_open", "Liquid until it comes together",
			func(r *Request) any { return &r.Eggs.LiquidOpen }),
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
		{Field: field.Field{Path: "prices.currency", Label: "Currency sign", Kind: Text, Min: 1, Max: 4},
			Stage: AtFormula,
			at:    func(r *Request) any { return &r.Prices.Currency }},
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
		{Field: field.Field{Path: "made_on", Label: "Made on", Kind: Date, Optional: true}, Stage: AtRoom,
			at: func(r *Request) any { return &r.MadeOn }},
		{Field: field.Field{Path: "made_by", Label: "Made by", Kind: Text, Max: 80, Optional: true}, Stage: AtRoom,
			at: func(r *Request) any { return &r.MadeBy }},
		optional(number(AtRoom, "used.flour_left_g", "Flour left over", "g", 0, 50000, 1,
			func(r *Request) any { return &r.Used.FlourLeftG })),
		optional(number(AtRoom, "used.liquid_left_g", "Liquid left over", "g", 0, 40000, 1,
			func(r *Request) any { return &r.Used.LiquidLeftG })),
		optional(number(AtRoom, "used.liquid_added_g", "Liquid added besides", "g", 0, 40000, 1,
			func(r *Request) any { return &r.Used.LiquidAddedG })),
		Field{Field: field.Field{Path: MeasuresPath, Label: "As it was measured out", Kind: Text, Max: MostMeasures},
			Stage: AtFormula, at: func(r *Request) any { return &r.Measures }},
		number(AtRoom, "room.temp_c", "Room", "°C", 2, 45, 1, func(r *Request) any { return &r.Room.TempC }),
		share(AtRoom, "room.rh", "Humidity", .05, .99, .01, func(r *Request) any { return &r.Room.RH }),
		choice(AtRoom, "eggs.from", "Eggs come from", func(r *Request) any { return &r.Eggs.From },
			opt(string(FromRoom), "The room"),
			opt(string(FromFridge), "The fridge")),
	}
}

// kneadFields are kneading, and what it is done with.
func kneadFields() []Field {
	return []Field{
		choice(AtKnead, "knead.by", "Kneaded", func(r *Request) any { return &r.Knead.By }, opt("",
			"As a school works it out"),
			opt(string(KneadOwn), "As I do it")),
		choice(AtKnead, "knead.school", "School", func(r *Request) any { return &r.Knead.School }, SchoolOptions()...),
		optional(count(AtKnead, "knead.knead_min", "Kneading", "min", 1, 60, 1,
			func(r *Request) any { return &r.Knead.Min })),
		optional(count(AtKnead, "knead.turns", "Turns", "", 1, 6, 1, func(r *Request) any { return &r.Knead.Turns })),
		choice(AtKnead, "knead.mix", "Mixed in", func(r *Request) any { return &r.Knead.Mix }, opt(string(InWell),
			"A well on the board"),
			opt(string(InBowl), "A bowl")),
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
		{Field: field.Field{Path: "clock.roll_at", Label: "I roll at", Kind: Moment, Optional: true}, Stage: AtRest,
			at: func(r *Request) any { return &r.Clock.RollAt }},
		{Field: field.Field{Path: "clock.from", Label: "I can start at", Kind: Moment, Optional: true}, Stage: AtRest,
			at: func(r *Request) any { return &r.Clock.From }},
		choice(AtRest, "rest.at", "Rests in", func(r *Request) any { return &r.Rest.At }, opt(string(InRoom),
			"The room, wrapped"),
			opt(string(InFridge), "The fridge, wrapped")),
		optional(count(AtRest, "rest.rest_min", "Rest", "min", 0, MostStepMin, 5,
			func(r *Request) any { return &r.Rest.Min })),
		count(AtRest, "rest.temper_min", "Then in the room", "min", 0, 240, 5,
			func(r *Request) any { return &r.Rest.TemperMin }),
		choice(AtRest, "rest.wrapped", "Wrapped", func(r *Request) any { return &r.Rest.Wrapped }, opt(string(InOne),
			"In one"),
			opt(string(PressedFlat), "In one, pressed flat"), opt(string(InPieces), "Divided and flat")),
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
			options(roll.Shipped(), func(m roll.Machine) Option { return opt(m.Key, m.Name) })...),
			func(r *Request) owner { return own(&r.Roll.Own, keptMachine) }),
		optional(number(AtRoll, "roll.target_mm", "Target sheet", "mm", .4, 6, .05,
			func(r *Request) any { return &r.Roll.TargetMM })),
		choice(AtRoll, "roll.by", "The way down", func(r *Request) any { return &r.Roll.By }, opt("", "Worked out"),
			opt(string(WayOwn), "As I do it")),
		choice(AtRoll, "roll.mode", "Way down", func(r *Request) any { return &r.Roll.Mode },
			opt(string(roll.EveryStop), "Every stop"), opt(string(roll.Fewest), "Fewest passes")),
		optional(count(AtRoll, "roll.pieces", "Pieces", "", 1, 600, 1, func(r *Request) any { return &r.Roll.Pieces })),
		number(AtRoll, "roll.bench_mm", "Bench length", "mm", 300, 8000, 50,
			func(r *Request) any { return &r.Roll.BenchMM }),
		choice(AtRoll, "roll.careful", "Skips", func(r *Request) any { return &r.Roll.Careful },
			opt(string(CarefulAuto), "As the dough allows"), opt(string(CarefulYes), "Careful"),
			opt(string(CarefulNo), "As far as is easy")),
		choice(AtRoll, "roll.divide", "Divide by", func(r *Request) any { return &r.Roll.Divide },
			opt(string(DivideByFlour), "Flour, {100 g} a piece"), opt(string(DivideByBench),
				"Bench, one sheet its length")),
		choice(AtRoll, "roll.fold", "Folded in", func(r *Request) any { return &r.Roll.Fold },
			opt(string(roll.Thirds), "Thirds, like a letter"),
			opt(string(roll.Halves), "In half, like a book")),
		choice(AtRoll, "roll.outline", "Rolled to a", func(r *Request) any { return &r.Roll.Outline },
			opt(string(roll.Rectangle), "Rectangle"),
			opt(string(roll.Disc), "Disc")),
		number(AtRoll, "roll.stripes.base_mm", "Base", "mm", .6, 6, .1,
			func(r *Request) any { return &r.Roll.Stripes.BaseMM }),
		number(AtRoll, "roll.stripes.stripe_mm", "Stripe", "mm", .2, 3, .1,
			func(r *Request) any { return &r.Roll.Stripes.StripeMM }),
		choice(AtRoll, "roll.stripes.laid", "Laid", func(r *Request) any { return &r.Roll.Stripes.Lay }, opt("",
			"Across the sheet"),
			opt(string(roll.LaidAlong), "Along the sheet"), opt(string(roll.LaidLattice),
				"Both ways, a lattice")),
		choice(AtRoll, "roll.stripes.third_colour", "A third colour",
			func(r *Request) any { return &r.Roll.Stripes.Third }, append([]Option{opt("", "None")},
				options(addition.Shipped(), func(a addition.Addition) Option { return opt(a.Key, a.Name) })...)...),
		flag(AtRoll, "roll.stripes.mirrored", "Mirrored, forth and back",
			func(r *Request) any { return &r.Roll.Stripes.Mirror }),
		number(AtRoll, "roll.stripes.width_mm", "Stripe is wide", "mm", 2, 200, 1,
			func(r *Request) any { return &r.Roll.Stripes.WidthMM }),
		number(AtRoll, "roll.stripes.pitch_mm", "One every", "mm", 3, 400, 1,
			func(r *Request) any { return &r.Roll.Stripes.PitchMM }),
		choice(AtRoll, "roll.dusted_with", "Dusted with", func(r *Request) any { return &r.Roll.Dust },
			opt(string(DustAuto), "Semola; without gluten, rice"), opt(string(DustSemola), "Durum semola"),
			opt(string(DustRice), "Rice flour"), opt(string(DustOwn), "The flour of the dough")),
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
			opt("", "As the shape asks"), opt(string(cut.Knife), "Knife, rolled up loosely"),
			opt(string(cut.Cutter), "The machine’s cutter")),
		choice(AtCut, "cut.pattern", "Laid", func(r *Request) any { return &r.Cut.Pattern },
			opt("", "Whichever gives more"), opt(string(cut.Grid), "In a grid"), opt(string(cut.Staggered),
				"Staggered")),
		choice(AtCut, "cut.trimmings", "Trimmings", func(r *Request) any { return &r.Cut.Scraps },
			opt(string(Maltagliati), "Maltagliati"), opt(string(ScrapsCooked), "Maltagliati, cooked with the rest"),
			opt(string(SoupBag), "Soup bag in the freezer"),
			opt(string(WorkedBack), "Back into the next piece")),
		keeping(choice(AtCut, "cut.filling.of", "Filling of the cabinet",
			func(r *Request) any { return &r.Cut.Filling.Of }, opt("", "None: said here")),
			func(r *Request) owner { return own(&r.Cut.Filling.Own, keptFilling) }),
		Field{Field: field.Field{Path: "cut.filling.made_on", Label: "Filling made on", Kind: Date, Optional: true},
			Stage: AtCut, at: func(r *Request) any { return &r.Cut.Filling.MadeOn }},
		Field{Field: field.Field{Path: "cut.filling.name", Label: "Filling", Kind: Text, Max: 60}, Stage: AtCut,
			at: func(r *Request) any { return &r.Cut.Filling.Name }},
		choice(AtCut, "cut.filling.kind", "It is", func(r *Request) any { return &r.Cut.Filling.Kind },
			opt(string(FillingCooked), "Cooked, or fresh cheese"), opt(string(FillingMeat), "Raw meat"),
			opt(string(FillingFish), "Raw fish"),
			opt(string(FillingEgg), "With raw egg")),
		Field{Field: field.Field{Path: "cut.filling.allergens", Label: "Its allergens", Kind: Text, Max: 80},
			Stage: AtCut,
			at:    func(r *Request) any { return &r.Cut.Filling.Allergens }},
		optional(number(AtCut, "cut.filling.piece_g", "Filling in each", "g", .2, 60, .1,
			func(r *Request) any { return &r.Cut.Filling.PieceG })),
	}
}

// dryFields are drying and keeping.
func dryFields() []Field {
	return []Field{
		dryBy("dry.sheet", "The sheet, before the cut", "Cut as it comes", "Until it cuts cleanly",
			func(r *Request) *Drying { return &r.Dry.Sheet }),
		dryMin("dry.sheet", "Sheet, how long", func(r *Request) *Drying { return &r.Dry.Sheet }),
		dryToMin("dry.sheet", "Sheet, to", func(r *Request) *Drying { return &r.Dry.Sheet }),
		dryAir("dry.sheet", "Sheet, in", func(r *Request) *Drying { return &r.Dry.Sheet }),
		choice(AtDry, "dry.on", "Sheets lie on", func(r *Request) any { return &r.Dry.On }, opt(string(OnRack),
			"A rack, both faces open"),
			opt(string(OnBoard), "A board or tray, one face open")),
		dryBy("dry.pieces", "The pieces, after the cut", "Not dried", "Until they are firm",
			func(r *Request) *Drying { return &r.Dry.Pieces.Drying }),
		dryMin("dry.pieces", "Pieces, how long", func(r *Request) *Drying { return &r.Dry.Pieces.Drying }),
		dryToMin("dry.pieces", "Pieces, to", func(r *Request) *Drying { return &r.Dry.Pieces.Drying }),
		dryOn("dry.pieces", "Pieces, on", func(r *Request) *OnDrying { return &r.Dry.Pieces }),
		dryAir("dry.pieces", "Pieces, in", func(r *Request) *Drying { return &r.Dry.Pieces.Drying }),
		dryBy("dry.packing", "Before it is packed", "Not dried", "Until it is firm",
			func(r *Request) *Drying { return &r.Dry.Packing.Drying }),
		dryMin("dry.packing", "Packing, how long", func(r *Request) *Drying { return &r.Dry.Packing.Drying }),
		dryToMin("dry.packing", "Packing, to", func(r *Request) *Drying { return &r.Dry.Packing.Drying }),
		dryOn("dry.packing", "Packing, on", func(r *Request) *OnDrying { return &r.Dry.Packing }),
		dryAir("dry.packing", "Packing, in", func(r *Request) *Drying { return &r.Dry.Packing.Drying }),
		choice(AtDry, "room.air", "Air", func(r *Request) any { return &r.Room.Air }, opt(string(dry.Still),
			"Still"), opt(string(dry.Fan), "A gentle fan")),
		flag(AtDry, "dry.keep", "Dry it to keep", func(r *Request) any { return &r.Dry.Keep }),
		optional(number(AtDry, "dry.raw_g", "Hung up, raw", "g", 10, 60000, 10,
			func(r *Request) any { return &r.Dry.RawG })),
		optional(number(AtDry, "bench.rack_rod_m", "Rod on the racks", "m", .2, 100, .5,
			func(r *Request) any { return &r.Bench.RodM })),
		optional(count(AtDry, "bench.trays", "Trays of 600 × 400", "", 1, 200, 1,
			func(r *Request) any { return &r.Bench.Trays })),
		choice(AtDry, "keep.where", "Kept", func(r *Request) any { return &r.Keep.Where },
			opt("", "Cooked the same day"), opt(string(cook.Fridge), "In the fridge"),
			opt(string(cook.Freezer), "In the freezer")),
		{Field: field.Field{Path: "keep.made_at", Label: "Made at", Kind: Moment, Optional: true}, Stage: AtDry,
			at: func(r *Request) any { return &r.Keep.MadeAt }},
		optional(number(AtDry, "keep.days", "Keeps, your plan", "days", .5, 365, .5,
			func(r *Request) any { return &r.Keep.Days })),
		{Field: field.Field{Path: "keep.note", Label: "Your reason", Kind: Text, Max: 120}, Stage: AtDry,
			at: func(r *Request) any { return &r.Keep.Note }},
	}
}

// The fields of one moment of drying: whether, how long, on what, in what air.
func dryBy(path, label, none, until string, at func(*Request) *Drying) Field {
	return choice(AtDry, path+".by", label, func(r *Request) any { return &at(r).By }, opt("", none),
		opt(string(DrySaid), "So many minutes"), opt(string(DryWorked), until))
}
func dryMin(path, label string, at func(*Request) *Drying) Field {
	return optional(number(AtDry, path+".min", label, "min", .5, MostStepMin, 5,
		func(r *Request) any { return &at(r).Min }))
}
func dryToMin(path, label string, at func(*Request) *Drying) Field {
	return optional(number(AtDry, path+".to_min", label, "min", .5, MostStepMin, 5,
		func(r *Request) any { return &at(r).ToMin }))
}
func dryOn(path, label string, at func(*Request) *OnDrying) Field {
	return choice(AtDry, path+".on", label, func(r *Request) any { return &at(r).On },
		opt(string(OnBoard), "A floured board or tray"), opt(string(OnRack), "A rack"),
		opt(string(OnNests), "In nests on a tray"))
}
func dryAir(path, label string, at func(*Request) *Drying) Field {
	return choice(AtDry, path+".air", label, func(r *Request) any { return &at(r).Air }, opt("", "The room’s air"),
		opt(string(dry.Still), "Still air"), opt(string(dry.Fan), "Moving air, a gentle fan"))
}

// cookFields are the pot.
func cookFields() []Field {
	after := choice(AtCook, "cook.after", "Goes into the pot", func(r *Request) any { return &r.Cook.After },
		opt("", "As it is by then"), opt(string(Frozen), "Frozen"))
	after.Gone = []Option{opt(string(Fresh), "Straight from the cutter"), opt(string(AtLeather),
		"At leather, 3 % lost"),
		opt(string(FirmNests), "From firm nests, 6 % lost"), opt(string(DriedHard), "Dried to keep")}
	return []Field{
		after,
		optional(number(AtCook, "cook.min", "My minutes in the pot", "min", .1, 120, .5,
			func(r *Request) any { return &r.Cook.Min })),
		optional(number(AtCook, "cook.to_min", "To", "min", .1, 120, .5,
			func(r *Request) any { return &r.Cook.ToMin })),
		choice(AtCook, "cook.in", "Cooked in", func(r *Request) any { return &r.Cook.In }, opt("", "Water"),
			opt(string(InBroth), "Broth, served in it"), opt(string(InSoup), "A soup, trimmings and all")),
		optional(number(AtCook, "cook.water_l", "My water in the pot", "L", .3, 200, .5,
			func(r *Request) any { return &r.Cook.WaterL })),
		optional(share(AtCook, "cook.salt_share", "My salt, of the water", 0, .06, .001,
			func(r *Request) any { return &r.Cook.Salt })),
		optional(number(AtCook, "bench.pot_l", "Pot", "L", 1, 200, 1, func(r *Request) any { return &r.Bench.PotL })),
		optional(count(AtCook, "bench.pots", "Pots", "", 1, 12, 1, func(r *Request) any { return &r.Bench.Pots })),
		optional(number(AtCook, "bench.boil_min", "Water boils in", "min", 1, 120, 1,
			func(r *Request) any { return &r.Bench.BoilMin })),
	}
}

// SchoolOptions are the schools of kneading, and the choice to leave it to Hollen.
func SchoolOptions() []Option {
	return append([]Option{opt(string(knead.Auto), "As tool and shape ask")},
		options(knead.Schools(), func(s knead.School) Option { return opt(string(s), s.Traits().Name) })...)
}

// ActOptions are the kinds of act.
func ActOptions() []Option {
	return []Option{opt("", "Nothing"), opt(string(doctor.Water), "Water"), opt(string(doctor.Egg), "Beaten egg"),
		opt(string(doctor.Milk), "Milk"),
		opt(string(doctor.Oil), "Oil"), opt(string(doctor.Flour), "Flour"), opt(string(doctor.Knead), "Kneaded on"),
		opt(string(doctor.Rest), "Rested on")}
}

// Keepings are the ways of keeping a flour, by the key of flour.Keeping.
func Keepings() []Option {
	return []Option{opt(string(flour.SealedTub), "Sealed tub"), opt(string(flour.PaperBag), "Paper bag, folded"),
		opt(string(flour.OpenBin), "Open bin"),
		opt(string(flour.Sifted), "Sifted, spread")}
}
