package plan

import (
	"errors"
	"fmt"
	"math"
	"reflect"
	"strconv"
	"strings"
	"unicode/utf8"

	"hollen/internal/core/addition"
	"hollen/internal/core/cost"
	"hollen/internal/core/cut"
	"hollen/internal/core/doctor"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/roll"
)

// Stage names the eight stations in the order of work.
type Stage string

// The stations.
const (
	AtFormula Stage = "formula"
	AtRoom    Stage = "room"
	AtKnead   Stage = "knead"
	AtRest    Stage = "rest"
	AtRoll    Stage = "roll"
	AtCut     Stage = "cut"
	AtDry     Stage = "dry"
	AtCook    Stage = "cook"
)

// Stages returns the stations in the order of work.
func Stages() []Stage {
	return []Stage{AtFormula, AtRoom, AtKnead, AtRest, AtRoll, AtCut, AtDry, AtCook}
}

// Kind is what a field holds.
type Kind int

// The kinds of field.
const (
	Number Kind = iota
	Whole       // a whole number
	Choice
	Text
	Flag
	Price  // money, or empty
	Date   // yyyy-mm-dd, or empty
	Moment // yyyy-mm-ddThh:mm, or empty
)

// Option is one value of a choice.
type Option struct{ Key, Name string }

// Field describes one thing a maker can say: where it stands in the request, what it is
// called, what is allowed. Binding, checking, drawing and comparing requests all go by it.
// Min, Max and Step are in the stored unit; a page shows the stored value times Show.
type Field struct {
	Path     string
	Stage    Stage
	Label    string
	Unit     string // as shown
	Kind     Kind
	Min, Max float64
	Step     float64 // of the stepper
	Show     float64 // shown = stored × Show + Offset; 0 counts as 1
	Offset   float64
	Rounded  bool // shown to Digits decimals, not as typed
	Digits   int
	Optional bool // may be empty: Hollen chooses
	Options  []Option
	Group    string // of fields that come and go together: flours, additions, eggs.also
	at       func(*Request) any
	has      func(*Request) bool  // nil: every request has it
	own      func(*Request) owner // nil: holds no thing of the workshop's own
}

// owner is where a request keeps a thing of the workshop's own: get returns it, nil when
// there is none; put takes a flour.Flour and so on, or nil.
type owner struct {
	get func() *Kept
	put func(any)
}

// Kept is a thing of the workshop's own that a request carries whole, as it was when it was
// picked: a flour, a lot, a class of eggs, an addition.
type Kept struct {
	Key, Name string
	Value     any
	check     func() error
}

// ownPrefix begins the key of everything a workshop keeps itself.
const ownPrefix = flour.OwnPrefix

// Has says whether r has the field: a blend of two flours has no third share.
func (f Field) Has(r *Request) bool { return f.has == nil || f.has(r) }

// KeptBy returns the workshop's own thing that stands in the field, nil when there is none.
func (f Field) KeptBy(r *Request) *Kept {
	if f.own == nil || !f.Has(r) {
		return nil
	}
	return f.own(r).get()
}

// Pick puts a thing of the workshop's own into the field, as it is now: a flour.Flour, a
// flour.Lot, an egg.Class or an addition.Addition under its own key. It reports false when r
// does not have the field or the field takes no such thing.
func (f Field) Pick(r *Request, key string, thing any) bool {
	if f.own == nil || !f.Has(r) || !strings.HasPrefix(key, ownPrefix) {
		return false
	}
	f.own(r).put(thing)
	*f.text(r) = key
	return true
}

// FieldError says which field is wrong, how it was given and what is allowed.
type FieldError struct {
	Path, Label, Value, Allowed string
}

func (e FieldError) Error() string {
	return fmt.Sprintf("%s: %s is not allowed here; %s", e.Path, quote(e.Value), e.Allowed)
}

// ForPage returns the message to show beside the field, in the unit shown.
func (e FieldError) ForPage() string {
	what := quote(e.Value) + " won’t do. "
	if e.Value == "" {
		what = "Empty. "
	}
	return what + capital(e.Allowed) + "."
}

func quote(s string) string {
	if utf8.RuneCountInString(s) > 24 {
		s = string([]rune(s)[:24]) + "…"
	}
	return "“" + s + "”"
}

func capital(s string) string {
	if s == "" {
		return s
	}
	return strings.ToUpper(s[:1]) + s[1:]
}

func options[T any](list []T, of func(T) Option) []Option {
	out := make([]Option, len(list))
	for i, v := range list {
		out[i] = of(v)
	}
	return out
}

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

		choice(AtCut, "cut.shape", "Shape", func(r *Request) any { return &r.Cut.Shape },
			options(cut.Shipped(), func(s cut.Shape) Option {
				return Option{s.Key, fmt.Sprintf("%s, %g × %g mm", s.Name, s.WidthMM, s.SheetMM)}
			})...),
		optional(number(AtCut, "cut.width_mm", "Ribbon width", "mm", .8, 120, .5, func(r *Request) any { return &r.Cut.Width })),
		optional(number(AtCut, "cut.min_length_mm", "Shortest ribbon", "mm", 60, 2000, 10, func(r *Request) any { return &r.Cut.Min })),
		optional(number(AtCut, "cut.max_length_mm", "Longest ribbon", "mm", 60, 2500, 10, func(r *Request) any { return &r.Cut.Max })),
		optional(number(AtCut, "cut.nest_g", "Nest", "g", 20, 500, 5, func(r *Request) any { return &r.Cut.NestG })),
		choice(AtCut, "cut.tool", "Cut with", func(r *Request) any { return &r.Cut.Tool },
			Option{"", "As the shape asks"}, Option{string(cut.Knife), "Knife, rolled up loosely"}, Option{string(cut.Cutter), "Cutter"}),

		choice(AtDry, "dry.on", "Sheets lie on", func(r *Request) any { return &r.Dry.On }, Option{"rack", "A rack, both faces open"}, Option{"board", "A board, one face open"}),
		choice(AtDry, "room.air", "Air", func(r *Request) any { return &r.Room.Air }, Option{"still", "Still"}, Option{"fan", "A gentle fan"}),
		choice(AtCook, "cook.after", "Goes into the pot", func(r *Request) any { return &r.Cook.After },
			Option{"fresh", "Straight from the cutter"}, Option{"leather", "At leather, 3 % lost"}, Option{"nest", "From firm nests, 6 % lost"}),
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

// scale returns how a stored number is shown.
func (f Field) scale() float64 {
	if f.Show == 0 {
		return 1
	}
	return f.Show
}

// Shown returns a stored number as f shows it.
func (f Field) Shown(v float64) string { return f.shown(v) }

// Stored reads a number as f shows it; false when it is none.
func (f Field) Stored(shown string) (float64, bool) {
	n, ok := ParseNumber(shown)
	return (n - f.Offset) / f.scale(), ok
}

// Get returns the value of f in r as a maker would type it; "" when Hollen is to choose or
// r does not have the field.
func (f Field) Get(r *Request) string {
	if !f.Has(r) {
		return ""
	}
	switch v := f.at(r).(type) {
	case *float64:
		return f.shown(*v)
	case **float64:
		if *v == nil {
			return ""
		}
		return f.shown(**v)
	case **cost.Money:
		if *v == nil {
			return ""
		}
		return (*v).String()
	case *bool:
		if *v {
			return "yes"
		}
		return ""
	}
	return *f.text(r)
}

func (f Field) shown(v float64) string {
	to := 1e6
	if f.Rounded {
		to = math.Pow10(f.Digits)
	}
	return strconv.FormatFloat(math.Round((v*f.scale()+f.Offset)*to)/to, 'f', -1, 64)
}

// text returns the string a Choice or Text field stands in, nil for the other kinds.
func (f Field) text(r *Request) *string {
	switch v := f.at(r).(type) {
	case *string:
		return v
	case *egg.Style:
		return (*string)(v)
	case *egg.TopUp:
		return (*string)(v)
	case *flour.Keeping:
		return (*string)(v)
	case *roll.Mode:
		return (*string)(v)
	case *cut.Tool:
		return (*string)(v)
	case *dry.Air:
		return (*string)(v)
	case *doctor.Kind:
		return (*string)(v)
	case *roll.Fold:
		return (*string)(v)
	case *roll.Outline:
		return (*string)(v)
	case *Stage:
		return (*string)(v)
	}
	return nil
}

// Set puts typed text into f of r, in the unit shown. When the text is not allowed it
// returns a FieldError and leaves r as it was.
func (f Field) Set(r *Request, typed string) error {
	typed = strings.TrimSpace(typed)
	if !f.Has(r) {
		return f.refuse(typed)
	}
	switch v := f.at(r).(type) {
	case *bool:
		*v = typed != ""
		return nil
	case **cost.Money:
		if typed == "" {
			*v = nil
			return nil
		}
		m, err := cost.Parse(typed)
		if err != nil {
			return f.refuse(typed)
		}
		*v = &m
		return nil
	case *float64, **float64:
		opt, isOpt := v.(**float64)
		if isOpt && typed == "" {
			*opt = nil
			return nil
		}
		n, ok := ParseNumber(typed)
		n = (n - f.Offset) / f.scale()
		if !ok || !f.allows(n) {
			return f.refuse(typed)
		}
		if isOpt {
			*opt = &n
		} else {
			*v.(*float64) = n
		}
		return nil
	}
	if !f.allowsText(typed) {
		return f.refuse(typed)
	}
	*f.text(r) = typed
	if f.own != nil {
		f.own(r).put(nil)
	}
	return nil
}

// Check returns a FieldError when what stands in r for f is not allowed. The error speaks
// in the stored unit.
func (f Field) Check(r *Request) error {
	var n float64
	switch v := f.at(r).(type) {
	case *bool, **cost.Money: // money reads no price that is not one
		return nil
	case *float64:
		n = *v
	case **float64:
		if *v == nil {
			return nil
		}
		n = **v
	default:
		if s := *f.text(r); !f.allowsText(s) {
			return f.refuse(s)
		}
		return nil
	}
	if f.allows(n) {
		return nil
	}
	stored := f
	stored.Show = 1
	if f.Show == 100 {
		stored.Unit = "(a share)"
	}
	return stored.refuse(strconv.FormatFloat(n, 'g', -1, 64))
}

func (f Field) allows(n float64) bool {
	const eps = 1e-9
	return !math.IsNaN(n) && n >= f.Min-eps && n <= f.Max+eps && (f.Kind != Whole || n == math.Trunc(n))
}

func (f Field) allowsText(s string) bool {
	if f.Kind == Date {
		_, err := flour.Day(s)
		return s == "" || err == nil
	}
	if f.Kind == Moment {
		_, err := At(s)
		return s == "" || err == nil
	}
	if f.Kind == Text {
		n := utf8.RuneCountInString(strings.TrimSpace(s))
		return n >= int(f.Min) && n <= int(f.Max) && utf8.ValidString(s) && !strings.ContainsFunc(s, func(c rune) bool { return c < ' ' })
	}
	for _, o := range f.Options {
		if o.Key == s {
			return true
		}
	}
	return false
}

// Allowed returns what f takes, in words and in the unit shown.
func (f Field) Allowed() string {
	switch f.Kind {
	case Text:
		return fmt.Sprintf("%g to %g letters on one line", f.Min, f.Max)
	case Price:
		return "0 to 1,000,000 with at most four decimals, or empty, is allowed"
	case Moment:
		return "a day and a time, as 2026-11-28T17:30, or empty, is allowed"
	case Date:
		return "a date from 2000 to 2100, as 2026-11-24, or empty, is allowed"
	case Choice:
		keys := options(f.Options, func(o Option) Option { return o })
		names := make([]string, len(keys))
		for i, k := range keys {
			names[i] = k.Key
			if k.Key == "" {
				names[i] = "empty"
			}
		}
		return "one of " + strings.Join(names, ", ")
	}
	s := f.shown(f.Min) + " to " + group(f.shown(f.Max))
	if f.Unit != "" {
		s += " " + f.Unit
	}
	if f.Kind == Whole {
		s += ", whole"
	}
	if f.Optional {
		s += ", or empty"
	}
	return s + " is allowed"
}

func group(s string) string {
	if len(s) > 3 && !strings.Contains(s, ".") {
		return s[:len(s)-3] + "," + s[len(s)-3:]
	}
	return s
}

func (f Field) refuse(value string) FieldError {
	return FieldError{f.Path, f.Label, value, f.Allowed()}
}

// ParseNumber reads a number as people type it: 1,000 and 1 000 are a thousand, 0,9 and
// 0.9 are nine tenths. It reports false for anything else, for infinities and hexadecimals.
func ParseNumber(s string) (float64, bool) {
	s = strings.NewReplacer(" ", "", "\u00a0", "", "\u202f", "", "\u2212", "-").Replace(s)
	if s == "" || len(s) > 24 || strings.Trim(s, "0123456789.,-+eE") != "" {
		return 0, false
	}
	if i := strings.LastIndexByte(s, ','); i >= 0 {
		switch dot := strings.LastIndexByte(s, '.'); {
		case dot > i, dot < 0 && thousands(s):
			s = strings.ReplaceAll(s, ",", "")
		default:
			s = strings.ReplaceAll(s[:i], ".", "") + "." + s[i+1:]
		}
	}
	n, err := strconv.ParseFloat(s, 64)
	return n, err == nil && !math.IsInf(n, 0) && !math.IsNaN(n)
}

// thousands says whether the commas of s group its digits by three.
func thousands(s string) bool {
	parts := strings.Split(strings.TrimLeft(s, "+-"), ",")
	if n := len(parts[0]); n < 1 || n > 3 || parts[0] == "0" {
		return false
	}
	for _, p := range parts[1:] {
		if len(p) != 3 {
			return false
		}
	}
	return true
}

// Counts says whether the field of that path counts: of the amounts only the one By names
// does, every other field always.
func (a Amount) Counts(path string) bool {
	by, ok := map[string]string{"amount.portions": "portions", "amount.dough_g": "dough", "amount.flour_g": "flour", "amount.egg_g": "eggs"}[path]
	return !ok || by == a.By
}

// Check returns a joined FieldError for everything in r that is not allowed.
func (r *Request) Check() error {
	var errs []error
	if r.Format != RequestFormat {
		errs = append(errs, FieldError{"format", "Format", r.Format, "only " + RequestFormat + " is"})
	}
	if n := len(r.Flours); n < 1 || n > MaxFlours {
		return errors.Join(append(errs, FieldError{"flours", "Flours", fmt.Sprint(n), "1 to 5 flours are allowed"})...)
	}
	sum := 0.
	for _, f := range r.Flours {
		sum += f.Share
	}
	if n := len(r.Additions); n > MaxAdditions {
		errs = append(errs, FieldError{"additions", "Additions", fmt.Sprint(n), fmt.Sprintf("at most %d are allowed", MaxAdditions)})
	}
	if n := len(r.Acts); n > MaxActs {
		errs = append(errs, FieldError{"acts", "Acts", fmt.Sprint(n), fmt.Sprintf("at most %d are recorded", MaxActs)})
	}
	for i, a := range r.Acts {
		if a.Kind == "" {
			errs = append(errs, FieldError{fmt.Sprintf("acts.%d.kind", i), "Done", "", "an act that is not there is left out of the list"})
		}
	}
	if n := len(r.Eggs.Also); n > MaxAlso {
		errs = append(errs, FieldError{"eggs.also", "Other eggs", fmt.Sprint(n), fmt.Sprintf("at most %d other classes are allowed", MaxAlso)})
	}
	for _, f := range Fields() {
		if !f.Has(r) || !r.Amount.Counts(f.Path) {
			continue // a figure that does not count may be anything
		}
		if own := f.KeptBy(r); own != nil {
			if err := own.sound(f.Get(r)); err != nil {
				errs = append(errs, FieldError{f.Path, f.Label, f.Get(r), err.Error()})
			}
		} else if err := f.Check(r); err != nil {
			errs = append(errs, err)
		}
	}
	for i, a := range r.Additions {
		if a.Addition == "" {
			errs = append(errs, FieldError{fmt.Sprintf("additions.%d.addition", i), "Addition", "", "an addition that is not there is left out of the list"})
		}
	}
	for i, e := range r.Eggs.Also {
		if e.Class == "" {
			errs = append(errs, FieldError{fmt.Sprintf("eggs.also.%d.class", i), "Other eggs", "", "eggs that are not there are left out of the list"})
		}
	}
	if len(errs) == 0 {
		if math.Abs(sum-1) > .001 {
			errs = append(errs, FieldError{"flours", "Flours", fmt.Sprintf("%.4g", sum), "the shares must add up to 1"})
		}
		if c := r.Eggs.class(); c.YolkG > .7*c.EdibleG {
			errs = append(errs, FieldError{"eggs.own_yolk_g", "Your yolk", fmt.Sprintf("%g", c.YolkG), fmt.Sprintf("at most 70 %% of the egg, %g g, is yolk", c.EdibleG)})
		}
		if r.Amount.By == "eggs" && r.Eggs.Style == egg.NoEgg {
			errs = append(errs, FieldError{"amount.by", "Make it by", r.Amount.By, "a dough without egg goes by portions, dough or flour"})
		}
		if from, errF := At(r.Clock.From); errF == nil {
			if to, errT := At(r.Clock.RollAt); errT == nil && !to.After(from) {
				errs = append(errs, FieldError{"clock.roll_at", "I roll at", r.Clock.RollAt, "it must be after the start, " + r.Clock.From})
			}
		}
		if lo, hi := r.lengths(); lo > hi {
			errs = append(errs, FieldError{"cut.max_length_mm", "Longest ribbon", fmt.Sprintf("%g", hi), fmt.Sprintf("it cannot be under the shortest ribbon, %g mm", lo)})
		}
	}
	return errors.Join(errs...)
}

// sound returns what is wrong with a thing of the workshop's own that stands under that key.
func (k Kept) sound(key string) error {
	if k.Key != key || !strings.HasPrefix(key, ownPrefix) {
		return fmt.Errorf("its key must be %q, as the field's, and begin with %s", key, ownPrefix)
	}
	return k.check()
}

// Same says whether two kept things have the same figures.
func Same(a, b Kept) bool { return reflect.DeepEqual(a.Value, b.Value) }

// Change is one difference between two requests, as a maker would read it.
type Change struct {
	Field     Field
	From, To  string // as Get
	FromShown string // with unit or the option's name
	ToShown   string
}

// Changes returns what differs from a to b, in the order of work.
func Changes(a, b Request) []Change {
	var out []Change
	for _, f := range Fields() {
		x, y := f.Get(&a), f.Get(&b)
		if x != y {
			out = append(out, Change{f, x, y, a.say(f, x), b.say(f, y)})
		} else if was, is := f.KeptBy(&a), f.KeptBy(&b); was != nil && is != nil && !Same(*was, *is) {
			out = append(out, Change{f, x, y, was.Name, is.Name + ", newer figures"})
		}
	}
	return out
}

// say is Field.Say, which does not know the names of the workshop's own things.
func (r *Request) say(f Field, v string) string {
	if own := f.KeptBy(r); own != nil {
		return own.Name
	}
	if !f.Has(r) {
		return "none"
	}
	return f.Say(v)
}

// Say returns a value got by Get with its unit or its name.
func (f Field) Say(v string) string {
	switch f.Kind {
	case Choice:
		for _, o := range f.Options {
			if o.Key == v {
				return o.Name
			}
		}
		if v == "" {
			return "none"
		}
	case Flag:
		if v == "" {
			return "no"
		}
	case Price, Date, Moment:
		if v == "" {
			return "not said"
		}
		return strings.TrimSpace(v + " " + f.Unit)
	case Number, Whole:
		if v == "" {
			return "as Hollen works out"
		}
		return strings.TrimSpace(v + " " + f.Unit)
	}
	return v
}

// Stepped returns the shown value n steps from the shown value from, on the step's grid and
// within what is allowed; false when from is no number.
func (f Field) Stepped(from string, n int) (string, bool) {
	v, ok := ParseNumber(from)
	if !ok || f.Step == 0 {
		return "", false
	}
	grid := f.Step * f.scale()
	k := v / grid
	next := math.Floor(k+1e-6) + float64(n)
	if n < 0 {
		next = math.Ceil(k-1e-6) + float64(n)
	}
	return f.shown(min(max((next*grid-f.Offset)/f.scale(), f.Min), f.Max)), true
}

// ShownBounds returns Min, Max and Step in the unit shown.
func (f Field) ShownBounds() (lo, hi, step string) {
	bare := f
	bare.Offset = 0
	bare.Digits++
	return f.shown(f.Min), f.shown(f.Max), bare.shown(f.Step)
}
