package plan

import (
	"fmt"

	"hollen/internal/core/addition"
	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/doctor"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/roll"
)

// MaxFlours is the most flours a blend may have.
const MaxFlours = 5

// allFields are the fields of a request, in the order of work within each group; fieldAt
// finds them by path.
var allFields, fieldAt = func() ([]Field, map[string]int) {
	all := buildFields()
	at := map[string]int{}
	for i, f := range all {
		at[f.Path] = i
	}
	return all, at
}()

func buildFields() (all []Field) {
	number := func(s Stage, path, label, unit string, lo, hi, step float64, at func(*Request) any) Field {
		return Field{Path: path, Stage: s, Label: label, Unit: unit, Kind: Number, Min: lo, Max: hi, Step: step, at: at}
	}
	count := func(s Stage, path, label, unit string, lo, hi, step float64, at func(*Request) any) Field {
		f := number(s, path, label, unit, lo, hi, step, at)
		f.Kind = Whole
		return f
	}
	share := func(s Stage, path, label string, lo, hi, step float64, at func(*Request) any) Field {
		f := number(s, path, label, "%", lo, hi, step, at)
		f.Show = 100
		return f
	}
	optional := func(f Field) Field { f.Optional = true; return f }
	choice := func(s Stage, path, label string, at func(*Request) any, o ...Option) Field {
		return Field{Path: path, Stage: s, Label: label, Kind: Choice, Options: o, at: at}
	}
	price := func(path, label, unit string, at func(*Request) any) Field {
		return Field{Path: path, Stage: AtFormula, Label: label, Unit: unit, Kind: Price, Optional: true, at: at}
	}
	flag := func(s Stage, path, label string, at func(*Request) any) Field {
		return Field{Path: path, Stage: s, Label: label, Kind: Flag, at: at}
	}
	keeping := func(f Field, own func(*Request) owner) Field { f.own = own; return f }
	classes := options(egg.Classes(), func(c egg.Class) Option { return Option{c.Key, fmt.Sprintf("%s, %g g", c.Name, c.EdibleG)} })
	shapes := options(cut.Shipped(), func(s cut.Shape) Option { return Option{s.Key, s.Sized()} })
	all = []Field{
		{Path: "name", Stage: AtFormula, Label: "Name", Kind: Text, Min: 1, Max: 80, at: func(r *Request) any { return &r.Name }},
		{Path: "made_on", Stage: AtRoom, Label: "Made on", Kind: Date, Optional: true, at: func(r *Request) any { return &r.MadeOn }},
		choice(AtFormula, "amount.by", "Make it by", func(r *Request) any { return &r.Amount.By },
			Option{"portions", "Portions"}, Option{"dough", "Dough mass"}, Option{"flour", "Flour"}, Option{"eggs", "Eggs in the jug"}),
		count(AtFormula, "amount.portions", "Portions", "", 1, 400, 1, func(r *Request) any { return &r.Amount.Portions }),
		optional(number(AtFormula, "amount.portion_g", "A portion, raw", "g", 20, 400, 5, func(r *Request) any { return &r.Amount.PortionG })),
		number(AtFormula, "amount.dough_g", "Dough in all", "g", 80, 60000, 50, func(r *Request) any { return &r.Amount.DoughG }),
		number(AtFormula, "amount.flour_g", "Flour in all", "g", 50, 50000, 50, func(r *Request) any { return &r.Amount.FlourG }),
		number(AtFormula, "amount.egg_g", "Beaten egg in the jug", "g", 30, 40000, 10, func(r *Request) any { return &r.Amount.EggG }),
		keeping(choice(AtFormula, "eggs.class", "Eggs", func(r *Request) any { return &r.Eggs.Class }, classes...),
			func(r *Request) owner { return own(&r.Eggs.OwnClass, keptClass) }),
		optional(number(AtFormula, "eggs.own_egg_g", "Your egg, without shell", "g", 25, 100, .5, func(r *Request) any { return &r.Eggs.OwnEggG })),
		optional(number(AtFormula, "eggs.own_yolk_g", "Your yolk", "g", 8, 40, .5, func(r *Request) any { return &r.Eggs.OwnYolkG })),
		optional(number(AtFormula, "eggs.yolk_colour", "Yolk colour", "of 15", 1, 15, 1, func(r *Request) any { return &r.Eggs.YolkColour })),
		choice(AtFormula, "eggs.style", "Style", func(r *Request) any { return &r.Eggs.Style },
			Option{string(egg.WholeEggs), "Whole eggs"}, Option{string(egg.Rich), "Whole eggs and yolks"}, Option{string(egg.YolksOnly), "Yolks alone"},
			Option{string(egg.WholeWater), "Eggs and water"}, Option{string(egg.NoEgg), "No egg"}),
		choice(AtFormula, "eggs.top_up", "Top up with", func(r *Request) any { return &r.Eggs.TopUp },
			Option{string(egg.TopWater), "Water"}, Option{string(egg.TopMilk), "Milk"}, Option{string(egg.TopNone), "Nothing"}),
		optional(count(AtFormula, "eggs.fix_whole_eggs", "Whole eggs", "", 0, 2000, 1, func(r *Request) any { return &r.Eggs.FixWhole })),
		optional(count(AtFormula, "eggs.fix_extra_yolks", "Extra yolks", "", 0, 4000, 1, func(r *Request) any { return &r.Eggs.FixYolks })),
		optional(number(AtFormula, "eggs.cracked_g", "Weight once cracked", "g", 15, 40000, 1, func(r *Request) any { return &r.Eggs.CrackedG })),
		flag(AtFormula, "eggs.lock_flour", "Keep the flour as it is", func(r *Request) any { return &r.Eggs.LockFlour }),
		share(AtFormula, "salt_share", "Salt, of flour", 0, .025, .001, func(r *Request) any { return &r.Salt }),
		share(AtFormula, "oil_share", "Oil, of flour", 0, .05, .005, func(r *Request) any { return &r.Oil }),

		{Path: "prices.currency", Stage: AtFormula, Label: "Currency sign", Kind: Text, Min: 1, Max: 4, at: func(r *Request) any { return &r.Prices.Currency }},
		price("prices.egg_each", "An egg", "each", func(r *Request) any { return &r.Prices.EggEach }),
		price("prices.oil_per_kg", "Oil", "a kg", func(r *Request) any { return &r.Prices.OilKG }),
		price("prices.milk_per_kg", "Milk", "a kg", func(r *Request) any { return &r.Prices.MilkKG }),
		price("prices.salt_per_kg", "Salt", "a kg", func(r *Request) any { return &r.Prices.SaltKG }),
		price("prices.filling", "Filling and sauce", "in all", func(r *Request) any { return &r.Prices.Filling }),
		price("prices.wage_per_hour", "An hour’s work", "an hour", func(r *Request) any { return &r.Prices.WageHour }),

		optional(number(AtRoom, "used.flour_left_g", "Flour left over", "g", 0, 50000, 1, func(r *Request) any { return &r.Used.FlourLeftG })),
		optional(number(AtRoom, "used.liquid_left_g", "Liquid left over", "g", 0, 40000, 1, func(r *Request) any { return &r.Used.LiquidLeftG })),
		optional(number(AtRoom, "used.liquid_added_g", "Liquid added besides", "g", 0, 40000, 1, func(r *Request) any { return &r.Used.LiquidAddedG })),

		number(AtRoom, "room.temp_c", "Room", "°C", 2, 45, 1, func(r *Request) any { return &r.Room.TempC }),
		share(AtRoom, "room.rh", "Humidity", .05, .99, .01, func(r *Request) any { return &r.Room.RH }),
		choice(AtRoom, "eggs.from", "Eggs come from", func(r *Request) any { return &r.Eggs.From }, Option{"room", "The room"}, Option{"fridge", "The fridge"}),

		choice(AtKnead, "knead.school", "School", func(r *Request) any { return &r.Knead.School }, SchoolOptions()...),
		optional(count(AtKnead, "knead.knead_min", "Kneading", "min", 1, 60, 1, func(r *Request) any { return &r.Knead.Min })),
		optional(count(AtKnead, "knead.turns", "Turns", "", 1, 6, 1, func(r *Request) any { return &r.Knead.Turns })),
		choice(AtKnead, "knead.mix", "Mixed in", func(r *Request) any { return &r.Knead.Mix }, Option{"well", "A well on the board"}, Option{"bowl", "A bowl"}),
		count(AtKnead, "bench.people", "Pairs of hands", "", 1, 8, 1, func(r *Request) any { return &r.Bench.People }),
		optional(number(AtKnead, "bench.hand_limit_g", "One person kneads", "g", 200, 6000, 100, func(r *Request) any { return &r.Bench.HandG })),
		optional(number(AtKnead, "bench.hook_g", "The mixer takes", "g", 200, 50000, 100, func(r *Request) any { return &r.Bench.HookG })),
		optional(number(AtKnead, "bench.processor_g", "The processor takes", "g", 100, 10000, 50, func(r *Request) any { return &r.Bench.ProcessorG })),
		{Path: "clock.roll_at", Stage: AtRest, Label: "I roll at", Kind: Moment, Optional: true, at: func(r *Request) any { return &r.Clock.RollAt }},
		{Path: "clock.from", Stage: AtRest, Label: "I can start at", Kind: Moment, Optional: true, at: func(r *Request) any { return &r.Clock.From }},

		choice(AtRest, "rest.at", "Rests in", func(r *Request) any { return &r.Rest.At }, Option{"room", "The room, wrapped"}, Option{"fridge", "The fridge, wrapped"}),
		optional(count(AtRest, "rest.rest_min", "Rest", "min", 0, 2880, 5, func(r *Request) any { return &r.Rest.Min })),
		count(AtRest, "rest.temper_min", "Then in the room", "min", 0, 240, 5, func(r *Request) any { return &r.Rest.TemperMin }),
		choice(AtRest, "rest.wrapped", "Wrapped", func(r *Request) any { return &r.Rest.Wrapped }, Option{"whole", "In one"}, Option{"pieces", "Divided and flat"}),
		number(AtRest, "bench.fridge_c", "Fridge", "°C", 0, 10, 1, func(r *Request) any { return &r.Bench.FridgeC }),
		optional(number(AtRest, "rest.poke_s", "A poke is half back in", "s", 0, 60, .5, func(r *Request) any { return &r.Rest.PokeS })),

		keeping(choice(AtRoll, "roll.machine", "Machine", func(r *Request) any { return &r.Roll.Machine },
			options(roll.Shipped(), func(m roll.Machine) Option { return Option{m.Key, m.Name} })...), func(r *Request) owner { return own(&r.Roll.Own, keptMachine) }),
		optional(number(AtRoll, "roll.target_mm", "Target sheet", "mm", .4, 6, .05, func(r *Request) any { return &r.Roll.TargetMM })),
		choice(AtRoll, "roll.mode", "Way down", func(r *Request) any { return &r.Roll.Mode },
			Option{string(roll.EveryStop), "Every stop"}, Option{string(roll.Fewest), "Fewest passes"}),
		optional(count(AtRoll, "roll.pieces", "Pieces", "", 1, 600, 1, func(r *Request) any { return &r.Roll.Pieces })),
		number(AtRoll, "roll.bench_mm", "Bench length", "mm", 300, 8000, 50, func(r *Request) any { return &r.Roll.BenchMM }),
		optional(count(AtKnead, "roll.folds", "Folded passes", "", 0, 20, 1, func(r *Request) any { return &r.Roll.Folds })),
		choice(AtRoll, "roll.careful", "Skips", func(r *Request) any { return &r.Roll.Careful },
			Option{"auto", "As the dough allows"}, Option{"yes", "Careful"}, Option{"no", "As far as is easy"}),
		choice(AtRoll, "roll.divide", "Divide by", func(r *Request) any { return &r.Roll.Divide }, Option{"flour", "Flour, about 100 g a piece"}, Option{"bench", "Bench, one sheet its length"}),
		choice(AtRoll, "roll.fold", "Folded in", func(r *Request) any { return &r.Roll.Fold }, Option{string(roll.AutoFold), "Thirds while they go in"}, Option{string(roll.Thirds), "Thirds"}, Option{string(roll.Halves), "Halves"}),
		choice(AtRoll, "roll.outline", "Rolled to a", func(r *Request) any { return &r.Roll.Outline }, Option{string(roll.Rectangle), "Rectangle"}, Option{string(roll.Disc), "Disc"}),
		number(AtRoll, "roll.stripes.base_mm", "Base", "mm", .6, 6, .1, func(r *Request) any { return &r.Roll.Stripes.BaseMM }),
		number(AtRoll, "roll.stripes.stripe_mm", "Stripe", "mm", .2, 3, .1, func(r *Request) any { return &r.Roll.Stripes.StripeMM }),
		number(AtRoll, "roll.stripes.width_mm", "Stripe is wide", "mm", 2, 200, 1, func(r *Request) any { return &r.Roll.Stripes.WidthMM }),
		number(AtRoll, "roll.stripes.pitch_mm", "One every", "mm", 3, 400, 1, func(r *Request) any { return &r.Roll.Stripes.PitchMM }),
		flag(AtRoll, "roll.last_twice", "Last stop twice", func(r *Request) any { return &r.Roll.LastTwice }),

		keeping(choice(AtCut, "cut.shape", "Shape", func(r *Request) any { return &r.Cut.Shape }, shapes...), func(r *Request) owner { return own(&r.Cut.Own, keptShape) }),
		optional(number(AtCut, "cut.width_mm", "Width", "mm", .8, 400, .5, func(r *Request) any { return &r.Cut.Width })),
		optional(number(AtCut, "cut.long_mm", "Long side", "mm", 4, 600, 1, func(r *Request) any { return &r.Cut.Long })),
		optional(number(AtCut, "cut.min_length_mm", "Shortest ribbon", "mm", 60, 2000, 10, func(r *Request) any { return &r.Cut.Min })),
		optional(number(AtCut, "cut.max_length_mm", "Longest ribbon", "mm", 60, 2500, 10, func(r *Request) any { return &r.Cut.Max })),
		optional(number(AtCut, "cut.nest_g", "Nest", "g", 20, 500, 5, func(r *Request) any { return &r.Cut.NestG })),
		optional(number(AtCut, "cut.piece_g", "A piece", "g", .2, 30, .1, func(r *Request) any { return &r.Cut.PieceG })),
		optional(number(AtCut, "cut.trim_end_mm", "Trim, each end", "mm", 0, 60, 1, func(r *Request) any { return &r.Cut.TrimEnd })),
		optional(number(AtCut, "cut.trim_side_mm", "Trim, each side", "mm", 0, 40, .5, func(r *Request) any { return &r.Cut.TrimSide })),
		optional(number(AtCut, "cut.fold_mm", "Rolled up", "mm", 20, 200, 5, func(r *Request) any { return &r.Cut.FoldMM })),
		choice(AtCut, "cut.tool", "Cut with", func(r *Request) any { return &r.Cut.Tool },
			Option{"", "As the shape asks"}, Option{string(cut.Knife), "Knife, rolled up loosely"}, Option{string(cut.Cutter), "The machine’s cutter"}),
		choice(AtCut, "cut.pattern", "Laid", func(r *Request) any { return &r.Cut.Pattern },
			Option{"", "Whichever gives more"}, Option{string(cut.Grid), "In a grid"}, Option{string(cut.Staggered), "Staggered"}),
		choice(AtCut, "cut.trimmings", "Trimmings", func(r *Request) any { return &r.Cut.Scraps },
			Option{"", "Maltagliati"}, Option{"soup", "Soup bag in the freezer"}, Option{"back", "Back into the next piece"}),
		Field{Path: "cut.filling.name", Stage: AtCut, Label: "Filling", Kind: Text, Max: 60, at: func(r *Request) any { return &r.Cut.Filling.Name }},
		choice(AtCut, "cut.filling.kind", "It is", func(r *Request) any { return &r.Cut.Filling.Kind },
			Option{"", "Cooked, or fresh cheese"}, Option{"raw", "Raw meat or fish"}),
		Field{Path: "cut.filling.allergens", Stage: AtCut, Label: "Its allergens", Kind: Text, Max: 80, at: func(r *Request) any { return &r.Cut.Filling.Allergens }},
		optional(number(AtCut, "cut.filling.piece_g", "Filling in each", "g", .2, 60, .1, func(r *Request) any { return &r.Cut.Filling.PieceG })),

		choice(AtDry, "dry.on", "Sheets lie on", func(r *Request) any { return &r.Dry.On }, Option{"rack", "A rack, both faces open"}, Option{"board", "A board or tray, one face open"}),
		choice(AtDry, "room.air", "Air", func(r *Request) any { return &r.Room.Air }, Option{"still", "Still"}, Option{"fan", "A gentle fan"}),
		flag(AtDry, "dry.keep", "Dry it to keep", func(r *Request) any { return &r.Dry.Keep }),
		optional(number(AtDry, "dry.raw_g", "Hung up, raw", "g", 10, 60000, 10, func(r *Request) any { return &r.Dry.RawG })),
		optional(number(AtDry, "bench.rack_rod_m", "Rod on the racks", "m", .2, 100, .5, func(r *Request) any { return &r.Bench.RodM })),
		optional(count(AtDry, "bench.trays", "Trays of 600 × 400", "", 1, 200, 1, func(r *Request) any { return &r.Bench.Trays })),
		choice(AtDry, "keep.where", "Kept", func(r *Request) any { return &r.Keep.Where },
			Option{"", "Cooked the same day"}, Option{string(cook.Fridge), "In the fridge"}, Option{string(cook.Freezer), "In the freezer"}),
		{Path: "keep.made_at", Stage: AtDry, Label: "Made at", Kind: Moment, Optional: true, at: func(r *Request) any { return &r.Keep.MadeAt }},
		optional(number(AtDry, "keep.days", "Keeps, your plan", "days", .5, 365, .5, func(r *Request) any { return &r.Keep.Days })),
		{Path: "keep.note", Stage: AtDry, Label: "Your reason", Kind: Text, Max: 120, at: func(r *Request) any { return &r.Keep.Note }},
		choice(AtCook, "cook.after", "Goes into the pot", func(r *Request) any { return &r.Cook.After },
			Option{"fresh", "Straight from the cutter"}, Option{"leather", "At leather, 3 % lost"}, Option{"nest", "From firm nests, 6 % lost"},
			Option{"dried", "Dried to keep"}, Option{"frozen", "Frozen"}),
		optional(number(AtCook, "bench.pot_l", "Pot", "L", 1, 200, 1, func(r *Request) any { return &r.Bench.PotL })),
		optional(count(AtCook, "bench.pots", "Pots", "", 1, 12, 1, func(r *Request) any { return &r.Bench.Pots })),
	}
	flours := options(flour.Shipped(), func(f flour.Flour) Option { return Option{f.Key, f.Name} })
	for i := range MaxFlours {
		p := fmt.Sprintf("flours.%d.", i)
		label := [MaxFlours]string{"First flour", "Second flour", "Third flour", "Fourth flour", "Fifth flour"}[i]
		part := func(f func(*FlourPart) any) func(*Request) any {
			return func(r *Request) any { return f(&r.Flours[i]) }
		}
		all = append(all, together("flours", func(r *Request) bool { return i < len(r.Flours) },
			keeping(choice(AtFormula, p+"flour", label, part(func(f *FlourPart) any { return &f.Flour }), flours...),
				func(r *Request) owner { return own(&r.Flours[i].Own, keptFlour) }),
			share(AtFormula, p+"share", label+", share", .01, 1, .05, part(func(f *FlourPart) any { return &f.Share })),
			price(p+"price_per_kg", label, "a kg", part(func(f *FlourPart) any { return &f.PricePerKG })),
			keeping(choice(AtRoom, p+"lot", "Lot", part(func(f *FlourPart) any { return &f.Lot }), Option{"", "No lot named"}),
				func(r *Request) owner { return own(&r.Flours[i].LotKept, keptLot) }),
			choice(AtRoom, p+"kept", "Kept in", part(func(f *FlourPart) any { return &f.Kept }), Keepings()...),
			number(AtRoom, p+"open_days", "Open for", "days", 0, 720, 1, part(func(f *FlourPart) any { return &f.OpenDays })),
			number(AtRoom, p+"container_kg", "In the bag", "kg", .05, 1000, .5, part(func(f *FlourPart) any { return &f.ContainsKG })),
			optional(share(AtRoom, p+"measured_moisture_wb", "Moisture, measured", .05, .20, .001, part(func(f *FlourPart) any { return &f.MeasuredWB }))))...)
	}
	additions := append([]Option{{"", "Nothing"}}, options(addition.Shipped(), func(a addition.Addition) Option { return Option{a.Key, a.Name} })...)
	for i := range MaxAdditions {
		p := fmt.Sprintf("additions.%d.", i)
		label := [MaxAdditions]string{"Addition", "Second addition", "Third addition"}[i]
		part := func(f func(*AdditionPart) any) func(*Request) any {
			return func(r *Request) any { return f(&r.Additions[i]) }
		}
		all = append(all, together("additions", func(r *Request) bool { return i < len(r.Additions) },
			keeping(choice(AtFormula, p+"addition", label, part(func(a *AdditionPart) any { return &a.Addition }), additions...),
				func(r *Request) owner { return own(&r.Additions[i].Own, keptAddition) }),
			share(AtFormula, p+"share", label+", of flour", .0005, .5, .005, part(func(a *AdditionPart) any { return &a.Share })),
			price(p+"price_per_kg", label, "a kg", part(func(a *AdditionPart) any { return &a.PricePerKG })))...)
	}
	others := append([]Option{{"", "None besides"}}, classes...)
	for i := range MaxAlso {
		p := fmt.Sprintf("eggs.also.%d.", i)
		label := [MaxAlso]string{"Other eggs", "More other eggs"}[i]
		all = append(all, together("eggs.also", func(r *Request) bool { return i < len(r.Eggs.Also) },
			keeping(choice(AtFormula, p+"class", label, func(r *Request) any { return &r.Eggs.Also[i].Class }, others...),
				func(r *Request) owner { return own(&r.Eggs.Also[i].Own, keptClass) }),
			count(AtFormula, p+"count", label+", how many", "", 1, 2000, 1, func(r *Request) any { return &r.Eggs.Also[i].Count }))...)
	}
	more := append([]Option{{"", "Nothing else"}}, shapes...)
	for i := range MaxShapes {
		p := fmt.Sprintf("cut.also.%d.", i)
		label := [MaxShapes]string{"Another shape", "A third shape", "A fourth shape"}[i]
		all = append(all, together("cut.also", func(r *Request) bool { return i < len(r.Cut.Also) },
			keeping(choice(AtCut, p+"shape", label, func(r *Request) any { return &r.Cut.Also[i].Shape }, more...),
				func(r *Request) owner { return own(&r.Cut.Also[i].Own, keptShape) }),
			count(AtCut, p+"portions", label+", portions", "", 1, 400, 1, func(r *Request) any { return &r.Cut.Also[i].Portions }))...)
	}
	for i := range MaxChecks {
		p := fmt.Sprintf("dry.checks.%d.", i)
		all = append(all, together("dry.checks", func(r *Request) bool { return i < len(r.Dry.Log) },
			Field{Path: p + "at", Stage: AtDry, Label: "Weighed at", Kind: Moment, Optional: true, at: func(r *Request) any { return &r.Dry.Log[i].At }},
			optional(number(AtDry, p+"g", "Weighs", "g", 1, 60000, 1, func(r *Request) any { return &r.Dry.Log[i].G })))...)
	}
	for i := range MaxActs {
		p := fmt.Sprintf("acts.%d.", i)
		act := func(f func(*Act) any) func(*Request) any {
			return func(r *Request) any { return f(&r.Acts[i]) }
		}
		all = append(all, together("acts", func(r *Request) bool { return i < len(r.Acts) },
			choice(AtKnead, p+"kind", "Done", act(func(a *Act) any { return &a.Kind }), ActOptions()...),
			number(AtKnead, p+"amount", "How much", "", 0, 5000, 1, act(func(a *Act) any { return &a.Amount })),
			Field{Path: p + "sign", Stage: AtKnead, Label: "Seen", Kind: Text, Min: 0, Max: 40, at: act(func(a *Act) any { return &a.Sign })},
			choice(AtKnead, p+"stage", "At", act(func(a *Act) any { return &a.Stage }), options(Stages(), func(s Stage) Option { return Option{string(s), string(s)} })...))...)
	}
	return all
}

// SchoolOptions are the schools of kneading, and the choice to leave it to Hollen.
func SchoolOptions() []Option {
	return []Option{{"auto", "As tool and shape ask"}, {string(knead.Long), "Long: one kneading, one rest"}, {string(knead.Turns), "In turns, then hours in the cold"}, {string(knead.Short), "Short, then folded passes"}, {string(knead.Hook), "Mixer with a hook"}, {string(knead.Processor), "Processor, then by hand"}}
}

// ActOptions are the kinds of act.
func ActOptions() []Option {
	return []Option{{"", "Nothing"}, {string(doctor.Water), "Water"}, {string(doctor.Egg), "Beaten egg"}, {string(doctor.Milk), "Milk"}, {string(doctor.Oil), "Oil"}, {string(doctor.Flour), "Flour"}, {string(doctor.Knead), "Kneaded on"}, {string(doctor.Rest), "Rested on"}}
}

// Keepings are the ways of keeping a flour, by the key of flour.Keeping.
func Keepings() []Option {
	return []Option{{string(flour.SealedTub), "Sealed tub"}, {string(flour.PaperBag), "Paper bag, folded"}, {string(flour.OpenBin), "Open bin"}, {string(flour.Sifted), "Sifted, spread"}}
}

// together makes fields one group that a request may lack.
func together(name string, has func(*Request) bool, fields ...Field) []Field {
	for i := range fields {
		fields[i].Group, fields[i].has = name, has
	}
	return fields
}

func keptMachine(m *roll.Machine) Kept { return Kept{m.Key, m.Name, *m, m.Check} }

// own is the owner of a thing that stands at at.
func own[T any](at **T, kept func(*T) Kept) owner {
	return owner{
		get: func() *Kept {
			if *at == nil {
				return nil
			}
			k := kept(*at)
			return &k
		},
		put: func(v any) {
			*at = nil
			if thing, ok := v.(T); ok {
				*at = &thing
			}
		},
	}
}

func keptShape(s *cut.Shape) Kept            { return Kept{s.Key, s.Name, *s, s.Check} }
func keptFlour(f *flour.Flour) Kept          { return Kept{f.Key, f.Name, *f, f.Check} }
func keptLot(l *flour.Lot) Kept              { return Kept{l.Key, l.Name, *l, l.Check} }
func keptClass(c *egg.Class) Kept            { return Kept{c.Key, c.Name, *c, c.Check} }
func keptAddition(a *addition.Addition) Kept { return Kept{a.Key, a.Name, *a, a.Check} }

// Fields returns every field a request may have, in the order of work within each group. The
// list is shared and is not to be changed.
func Fields() []Field { return allFields }

// FieldAt returns the field of that path and whether there is one.
func FieldAt(path string) (Field, bool) {
	i, ok := fieldAt[path]
	if !ok {
		return Field{}, false
	}
	return allFields[i], true
}
