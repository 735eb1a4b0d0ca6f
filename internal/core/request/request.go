// Package request answers: what did the maker say? A Request is everything said about a batch;
// the field table names every part of it, what is allowed there and how it is typed and shown.
// Binding, checking, comparing and merging requests all go by that table. No sums are done here.
package request

import (
	"bytes"
	"encoding/json"
	"math"
	"slices"
	"time"

	"hollen/internal/core/addition"
	"hollen/internal/core/cook"
	"hollen/internal/core/cost"
	"hollen/internal/core/cut"
	"hollen/internal/core/doctor"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/filling"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/roll"
)

// Format names the version of the document.
const Format = "hollen-request/1"

// Request is everything a maker says about a batch. Optional numbers are nil when Hollen is
// to choose. Shares are 0–1, moisture wet basis.
type Request struct {
	Format    string         `json:"format"`
	Name      string         `json:"name"`
	MadeOn    string         `json:"made_on"`           // yyyy-mm-dd, "" when not said
	MadeBy    string         `json:"made_by,omitempty"` // whose hands, as they are called; "" when not said
	Amount    Amount         `json:"amount"`
	Flours    []FlourPart    `json:"flours"` // 1 to 5, shares adding up to 1
	Eggs      Eggs           `json:"eggs"`
	Salt      float64        `json:"salt_share"` // of flour
	Oil       float64        `json:"oil_share"`  // of flour
	Additions []AdditionPart `json:"additions"`  // up to 3
	Room      Room           `json:"room"`
	Used      Used           `json:"used"`
	Measures  Measures       `json:"measures,omitempty"` // amounts as they were measured out, in cups and spoons
	Knead     Knead          `json:"knead"`
	Rest      Rest           `json:"rest"`
	Roll      Roll           `json:"roll"`
	Cut       Cut            `json:"cut"`
	Dry       Dry            `json:"dry"`
	Keep      Keep           `json:"keep"`
	Cook      Cook           `json:"cook"`
	Prices    Prices         `json:"prices"`
	Bench     Bench          `json:"bench"`
	Clock     Clock          `json:"clock"`
	Acts      []Act          `json:"acts"`        // up to 8, in the order they were done
	ByTheBook bool           `json:"by_the_book"` // nothing the log has learned goes into it
}

// Amount says how much: By names the one of the figures that counts.
type Amount struct {
	By       By       `json:"by"`
	Portions float64  `json:"portions"`
	PortionG *float64 `json:"portion_g"` // raw, nil: as the shape
	DoughG   float64  `json:"dough_g"`
	FlourG   float64  `json:"flour_g"`
	EggG     float64  `json:"egg_g"` // beaten, in the jug
	Eaters   float64  `json:"eaters"`
	EachG    float64  `json:"flour_each_g"` // of flour for each of them
	// made as the maker makes it: flour goes in until the dough takes no more, of FlourG weighed out
	Open bool `json:"flour_open"`
}

// OpenG is the flour weighed out of which the dough takes what it will, g; 0 where all of it goes in.
func (a Amount) OpenG() float64 {
	if a.By == ByOwn && a.Open {
		return a.FlourG
	}
	return 0
}

// OpenLiquidG is the liquid poured out of which the dough takes what it will, g; 0 where all of it goes in.
func (r *Request) OpenLiquidG() float64 {
	if r.Amount.By == ByOwn && r.Eggs.LiquidOpen {
		return Or(r.Eggs.LiquidG, 0)
	}
	return 0
}

// NamedFlourG is the flour the maker names, g: in all, or so much for each of so many; false where it is
// worked out.
func (a Amount) NamedFlourG() (float64, bool) {
	switch a.By {
	case ByFlour, ByOwn:
		return a.FlourG, true
	case ByEaters:
		return a.Eaters * a.EachG, true
	}
	return 0, false
}

// FlourPart is one flour of the blend and how it has been kept.
type FlourPart struct {
	Flour      string        `json:"flour"` // key
	Share      float64       `json:"share"` // of the flour as weighed
	Kept       flour.Keeping `json:"kept"`
	OpenDays   float64       `json:"open_days"`
	ContainsKG float64       `json:"container_kg"`
	MeasuredWB *float64      `json:"measured_moisture_wb"` // nil: estimated
	Own        *flour.Flour  `json:"own_flour,omitempty"`  // the flour itself, when it is not a shipped one
	Lot        string        `json:"lot"`                  // key, "" when none is named
	LotKept    *flour.Lot    `json:"lot_kept,omitempty"`   // the lot itself; how it is kept and its dates count
	PricePerKG *cost.Money   `json:"price_per_kg"`         // nil: as the lot or the flour
}

// Kind returns the flour: the workshop's own as it was when it was picked, or the shipped one.
func (f FlourPart) Kind() flour.Flour {
	if f.Own != nil {
		return *f.Own
	}
	kind, _ := flour.Find(f.Flour)
	return kind
}

// Keeping is how the flour has been kept by the day it is used.
func (f FlourPart) Keeping(on string) flour.Kept {
	k := flour.Kept{How: f.Kept, Days: f.OpenDays, MassKG: f.ContainsKG}
	if f.LotKept != nil {
		k = f.LotKept.Kept(on, f.OpenDays)
	}
	if f.MeasuredWB != nil {
		k.MeasuredWB = f.MeasuredWB
	}
	return k
}

// Settle makes what a part says of its keeping agree with its lot by that day, and forgets a
// lot of another flour.
func (f *FlourPart) Settle(on string) {
	l := f.LotKept
	if l != nil && l.Flour != f.Flour {
		f.Lot, f.LotKept = "", nil
	}
	if f.LotKept == nil {
		return
	}
	bare := l.Bare()
	f.LotKept = &bare
	f.Kept, f.ContainsKG = l.How, l.ContainerKG
	if days, ok := flour.DaysBetween(l.OpenedOn, on); ok {
		f.OpenDays = min(days, 720)
	}
}

// Price returns what a kilogram costs: as typed, as the lot, as the flour; nil when not known.
func (f FlourPart) Price() *cost.Money {
	if f.PricePerKG != nil {
		return f.PricePerKG
	}
	if f.LotKept != nil && f.LotKept.PricePerKG > 0 {
		return &f.LotKept.PricePerKG
	}
	return known(f.Kind().PricePerKG)
}

// known returns nil for a price that was never given.
func known(m cost.Money) *cost.Money {
	if m == 0 {
		return nil
	}
	return &m
}

// AdditionPart is one addition to the dough.
type AdditionPart struct {
	Addition   string             `json:"addition"` // key
	Share      float64            `json:"share"`    // of flour
	Own        *addition.Addition `json:"own_addition,omitempty"`
	PricePerKG *cost.Money        `json:"price_per_kg"`
}

// Kind returns the addition: the workshop's own as it was when it was picked, or the shipped
// one.
func (a AdditionPart) Kind() addition.Addition {
	if a.Own != nil {
		return *a.Own
	}
	kind, _ := addition.Find(a.Addition)
	return kind
}

// Price returns what a kilogram costs: as typed, or as the addition; nil when not known.
func (a AdditionPart) Price() *cost.Money {
	if a.PricePerKG != nil {
		return a.PricePerKG
	}
	return known(a.Kind().PricePerKG)
}

// Used is what was found true at the bench: what was weighed out and is left, and what came
// in besides. Nil: nothing was weighed back.
type Used struct {
	FlourLeftG   *float64 `json:"flour_left_g"`
	LiquidLeftG  *float64 `json:"liquid_left_g"`  // of the top-up weighed out, poured or by the board
	LiquidAddedG *float64 `json:"liquid_added_g"` // beyond it
}

func (u Used) Any() bool { return u.FlourLeftG != nil || u.LiquidLeftG != nil || u.LiquidAddedG != nil }

// Prices is what things cost, apart from flours and additions; nil: not known.
type Prices struct {
	Currency string      `json:"currency"` // the sign written before an amount
	EggEach  *cost.Money `json:"egg_each"`
	OilKG    *cost.Money `json:"oil_per_kg"`
	MilkKG   *cost.Money `json:"milk_per_kg"`
	SaltKG   *cost.Money `json:"salt_per_kg"`
	Filling  *cost.Money `json:"filling"` // for the whole batch
	WageHour *cost.Money `json:"wage_per_hour"`
}

// Eggs says which eggs and which style.
type Eggs struct {
	Class    string    `json:"class"`
	OwnEggG  *float64  `json:"own_egg_g"`  // mean edible egg of this kitchen, nil: the class's
	OwnYolkG *float64  `json:"own_yolk_g"` // mean yolk of this kitchen, nil: the class's
	Style    egg.Style `json:"style"`
	TopUp    egg.TopUp `json:"top_up"`
	From     From      `json:"from"`
	FixWhole *float64  `json:"fix_whole_eggs"`
	FixYolks *float64  `json:"fix_extra_yolks"`
	CrackedG *float64  `json:"cracked_g"` // what the eggs weighed once cracked, nil: as planned
	// of the top-up, where it is made as the maker makes it; nil: none
	LiquidG *float64 `json:"liquid_g"`
	// made as the maker makes it: liquid goes in until it comes together, of LiquidG poured out
	LiquidOpen bool `json:"liquid_open,omitempty"`
	// flour that is named may be moved to suit whole eggs; flour that is worked out always may
	MoveFlour  bool       `json:"move_flour"`
	ByWeight   bool       `json:"by_weight"`           // beat and weigh, not whole numbers
	OwnClass   *egg.Class `json:"own_class,omitempty"` // the class itself, when it is the kitchen's own
	YolkColour *float64   `json:"yolk_colour"`         // on the fan of 1 to 15; nil: as the class
	Also       []EggCount `json:"also"`                // eggs of other classes that go in, up to 2
}

// EggCount is a number of eggs of another class.
type EggCount struct {
	Class string     `json:"class"`
	Count float64    `json:"count"`
	Own   *egg.Class `json:"own_class,omitempty"`
}

// Kind returns the class of the eggs.
func (e EggCount) Kind() egg.Class {
	if e.Own != nil {
		return *e.Own
	}
	c, _ := egg.Find(e.Class)
	return c
}

// UnmarshalJSON reads eggs. lock_flour of older documents is passed over: flour that is named has since
// stayed as it is unless it may move.
func (e *Eggs) UnmarshalJSON(b []byte) error {
	type plain Eggs
	old := struct {
		*plain
		Lock bool `json:"lock_flour"`
	}{plain: (*plain)(e)}
	d := json.NewDecoder(bytes.NewReader(b))
	d.DisallowUnknownFields()
	return d.Decode(&old)
}

// GivenG is the whole egg of the other classes, edible, g.
func (e Eggs) GivenG() float64 {
	if e.Style == egg.NoEgg {
		return 0
	}
	sum := 0.
	for _, x := range e.Also {
		sum += x.Count * x.Kind().EdibleG
	}
	return sum
}

// Kind returns the egg class with this kitchen's own means, where it has any.
func (e Eggs) Kind() egg.Class {
	c, _ := egg.Find(e.Class)
	if e.OwnClass != nil {
		c = *e.OwnClass
	}
	if e.OwnEggG != nil {
		// A bigger egg has a bigger yolk, unless that was weighed, too.
		c.EdibleG, c.YolkG = *e.OwnEggG, c.YolkG**e.OwnEggG/c.EdibleG
	}
	if e.OwnYolkG != nil {
		c.YolkG = *e.OwnYolkG
	}
	if e.YolkColour != nil {
		c.YolkColour = *e.YolkColour
	}
	return c
}

// Room is the air of the workshop.
type Room struct {
	TempC float64 `json:"temp_c"`
	RH    float64 `json:"rh"` // share
	Air   dry.Air `json:"air"`
}

// Knead asks for a school and, if the maker knows better, for minutes; or takes the maker's own steps.
type Knead struct {
	By     KneadBy      `json:"by"` // "": a school works it out; own: the steps below, literally
	School knead.School `json:"school"`
	Min    *float64     `json:"knead_min"` // of one kneading, nil: worked out
	Turns  *float64     `json:"turns"`     // of the school of turns, nil: worked out
	// by several people at once, joined again; where it is more than they take, in lots all the same
	Shared bool        `json:"shared"`
	Mix    Mix         `json:"mix"`
	Steps  []KneadStep `json:"own_steps"` // up to 14, in the order they are done; kept while a school works it out
}

// KneadStep is one step of the maker's own way from mixing to the roller.
type KneadStep struct {
	Do    KneadDo `json:"do"`
	Min   float64 `json:"min"`
	Cover Cover   `json:"cover"` // of a rest, "": as usual
	Hands Hands   `json:"hands"` // of a kneading, "": all of it at once
	// what is added before it, in the maker's words, with its if: "an egg, if it is dry"; "": nothing
	Add string `json:"add,omitempty"`
}

// Own says whether the maker's own steps count.
func (k *Knead) Own() bool { return k.By == KneadOwn && len(k.Steps) > 0 }

// Rest says where the dough rests and, if the maker knows better, how long.
type Rest struct {
	At        Place    `json:"at"`
	Min       *float64 `json:"rest_min"`   // nil: worked out; 0: none
	TemperMin float64  `json:"temper_min"` // in the room after the fridge
	Wrapped   Wrapped  `json:"wrapped"`
	FlatMM    *float64 `json:"flat_mm"` // where it is pressed flat, nil: 30 mm
	PokeS     *float64 `json:"poke_s"`  // seconds a poke took to half recover, nil: not tried
}

// Bench is what the kitchen kneads with.
type Bench struct {
	People     float64  `json:"people"`
	HandG      *float64 `json:"hand_limit_g"` // dough one person kneads at once, nil: 1.2 kg
	HookG      *float64 `json:"hook_g"`       // most dough the mixer takes, nil: there is none
	ProcessorG *float64 `json:"processor_g"`  // most the processor takes, nil: there is none
	FridgeC    float64  `json:"fridge_c"`
	Tenths     bool     `json:"scale_tenths"` // the scale shows tenths of a gram
	RodM       *float64 `json:"rack_rod_m"`   // of rack to hang sheets on, nil: not known
	Trays      *float64 `json:"trays"`        // of 600 × 400 mm, nil: not known
	PotL       *float64 `json:"pot_l"`        // nil: 8 L
	Pots       *float64 `json:"pots"`         // nil: one
	BoilMin    *float64 `json:"boil_min"`     // until a pot of water boils, nil: 15 min
}

// Clock is when the maker wants to roll and how early the work may start, as
// yyyy-mm-ddThh:mm of the kitchen's clock, "" when not said.
type Clock struct {
	RollAt string `json:"roll_at"`
	From   string `json:"from"`
}

// Act is one thing done at the board to put the dough right.
type Act struct {
	Kind   doctor.Kind `json:"kind"`
	Amount float64     `json:"amount"` // g, or minutes of kneading or rest
	Sign   string      `json:"sign"`   // what was seen, a key of doctor.Signs
	Stage  Stage       `json:"stage"`  // where
}

// Acted returns the sum of the acts of a kind, g or min.
func (r *Request) Acted(k doctor.Kind) float64 {
	sum := 0.
	for _, a := range r.Acts {
		if a.Kind == k {
			sum += a.Amount
		}
	}
	return sum
}

// Changed says whether any act added to the dough.
func (r *Request) Changed() bool {
	for _, a := range r.Acts {
		if a.Kind != doctor.Knead && a.Kind != doctor.Rest {
			return true
		}
	}
	return false
}

// Again is the same batch for another day: nothing has been done to it yet.
// All dates move with the day of the batch. Where the batch names no day, they move so that the last of them falls on
// the new day.
func (r Request) Again(on string) Request {
	was := r.MadeOn
	for _, moment := range []string{r.Clock.From, r.Clock.RollAt} {
		if r.MadeOn == "" && len(moment) > len(time.DateOnly) {
			was = moment[:len(time.DateOnly)]
		}
	}
	from, errFrom := time.Parse(time.DateOnly, was)
	to, errTo := time.Parse(time.DateOnly, on)
	if errFrom == nil && errTo == nil {
		days := math.Round(to.Sub(from).Hours() / 24)
		r.Clock.RollAt, r.Clock.From = measure.Later(r.Clock.RollAt, days), measure.Later(r.Clock.From, days)
	}
	r.MadeOn = on
	r.Used = Used{}
	r.Acts = []Act{}
	r.Dry.Log = []DryCheck{}
	r.Keep.MadeAt = ""
	r.Flours = slices.Clone(r.Flours)
	for i := range r.Flours { // a lot has been open for as long by that day
		r.Flours[i].Settle(on)
	}
	return r
}

// House is what a workshop's new batches start from.
type House struct {
	Prices Prices       `json:"prices"`
	Bench  Bench        `json:"bench"`
	School knead.School `json:"school"`
	Mix    Mix          `json:"mix"`
	// KneadWay and RollWay are the keys of the kept ways new batches go, "" where they are worked out.
	KneadWay string `json:"knead_way,omitempty"`
	RollWay  string `json:"roll_way,omitempty"`
	// Flour, Eggs and Machine are the keys of what new batches are made of and on, "" as usual.
	Flour   string `json:"flour,omitempty"`
	Eggs    string `json:"eggs,omitempty"`
	Machine string `json:"machine,omitempty"`
	// MadeBy is who makes it, and where, as labels have it; "": the workshop's name.
	MadeBy string `json:"made_by,omitempty"`
	// Room is the air new batches start in; nil: none was said.
	Room *HouseRoom `json:"room,omitempty"`
}

// HouseRoom is the air of the room new batches start in.
type HouseRoom struct {
	TempC float64 `json:"temp_c"` // °C
	RH    float64 `json:"rh"`     // share 0–1
}

// DefaultHouse is the house of a workshop that has said nothing.
func DefaultHouse() House {
	r := Default()
	return HouseOf(r)
}

// Start puts the house into a request.
func (h House) Start(r *Request) {
	r.Prices = h.Prices
	r.Bench = h.Bench
	r.Knead.School = h.School
	r.Knead.Mix = h.Mix
	if h.Room != nil {
		r.Room.TempC, r.Room.RH = h.Room.TempC, h.Room.RH
	}
}

// HouseOf takes the house out of a request.
func HouseOf(r Request) House {
	return House{Prices: r.Prices, Bench: r.Bench, School: r.Knead.School, Mix: r.Knead.Mix}
}

// Roll says on which machine and how.
type Roll struct {
	Machine   string        `json:"machine"`
	Own       *roll.Machine `json:"own_machine,omitempty"` // the machine itself, when it is not a shipped one
	TargetMM  *float64      `json:"target_mm"`             // nil: as the shape
	Mode      roll.Mode     `json:"mode"`
	Pieces    *float64      `json:"pieces"` // nil: about 100 g of flour each
	BenchMM   float64       `json:"bench_mm"`
	Folds     *float64      `json:"folds"` // nil: as the school
	Careful   Careful       `json:"careful"`
	LastTwice bool          `json:"last_twice"` // second pass at the last stop
	Fold      roll.Fold     `json:"fold"`       // thirds or halves
	Divide    Divide        `json:"divide"`     // where Pieces does not say
	Outline   roll.Outline  `json:"outline"`    // of a pin's sheet: disc or rectangle
	Stripes   roll.Stripes  `json:"stripes"`    // of a second dough, where there is one
	Dust      Dust          `json:"dusted_with"`
	By        WayBy         `json:"by"`         // "": worked out by the mode; own: the entries below, literally
	Steps     []RollStep    `json:"own_passes"` // up to 24, in the order they are done; kept while it is worked out
}

// RollStep is one entry of the maker's own way down.
type RollStep struct {
	Stop    string     `json:"stop"`   // its label on the machine; under a pin what it is rolled to, mm
	Passes  float64    `json:"passes"` // there, on end
	Fold    OwnFold    `json:"fold"`   // before each of them
	First   roll.First `json:"first"`  // what is done to the sheet before the first of them
	RestMin float64    `json:"rest_min"`
	Dust    bool       `json:"dust"`
}

// IsOwn says whether the maker's own way down counts.
func (r *Roll) IsOwn() bool { return r.By == WayOwn && len(r.Steps) > 0 }

// Kind returns the machine: the workshop's own as it was when it was picked, or the shipped
// one.
func (r Roll) Kind() roll.Machine {
	if r.Own != nil {
		return *r.Own
	}
	m, _ := roll.Find(r.Machine)
	return m
}

// Cut says which shape, and what of it to change.
type Cut struct {
	Shape    string      `json:"shape"`
	Own      *cut.Shape  `json:"own_shape,omitempty"` // the shape itself, when it is the workshop's own
	Width    *float64    `json:"width_mm"`            // nil: as the shape
	Long     *float64    `json:"long_mm"`             // a rectangle's other side, nil: as the shape
	Min      *float64    `json:"min_length_mm"`       // nil: as the shape
	Max      *float64    `json:"max_length_mm"`       // nil: as the shape
	NestG    *float64    `json:"nest_g"`              // nil: a portion
	PieceG   *float64    `json:"piece_g"`             // of a formed piece, nil: as the shape
	TrimEnd  *float64    `json:"trim_end_mm"`         // off each end of a sheet, nil: 10 mm
	TrimSide *float64    `json:"trim_side_mm"`        // off each side, nil: 3 mm
	FoldMM   *float64    `json:"fold_mm"`             // width a length is rolled up to, nil: 60 mm
	Tool     cut.Tool    `json:"tool"`                // "": as the shape
	Pattern  cut.Pattern `json:"pattern"`             // of rounds, "": whichever gives more
	Scraps   Scraps      `json:"trimmings"`
	Filling  Filling     `json:"filling"`
	Also     []ShapePart `json:"also"` // other shapes from the same dough, up to 7
}

// Filling is what goes into a filled shape: one the workshop keeps, or what is said of it here.
type Filling struct {
	Of        string           `json:"of,omitempty"`          // key of one the workshop keeps; "": as said here
	Own       *filling.Filling `json:"own_filling,omitempty"` // that itself, as it was when it was picked
	Name      string           `json:"name"`                  // as on the label
	Allergens string           `json:"allergens"`             // beyond the dough's, as on the label
	Kind      FillingKind      `json:"kind"`
	PieceG    *float64         `json:"piece_g"`           // nil: as it fits
	MadeOn    string           `json:"made_on,omitempty"` // yyyy-mm-dd, "": with the batch
}

// Called is its name, as on a label; "" where none is said.
func (f Filling) Called() string {
	if f.Own != nil {
		return f.Own.Name
	}
	return f.Name
}

// Safety is what it is, as far as safety goes.
func (f Filling) Safety() FillingKind {
	if f.Own != nil {
		return f.Own.Kind
	}
	return f.Kind
}

// Holds lists the allergens of the filling; none where it has none, also where that is said: "none".
func (f Filling) Holds() []string {
	if f.Own != nil {
		return f.Own.Holds()
	}
	return filling.Listed(f.Allergens)
}

// AgeDays is how many days before the batch it is made; 0 where it is made with it, or no day is known.
func (f Filling) AgeDays(madeOn string) int {
	made, err := measure.Day(f.MadeOn)
	day, wrong := measure.Day(madeOn)
	if err != nil || wrong != nil {
		return 0
	}
	return int(math.Round(day.Sub(made).Hours() / 24))
}

// RawFilling says whether any shape is filled, and that with what must be cooked through.
func (r *Request) RawFilling() bool { return r.Cut.Filling.Safety().Raw() && r.Filled() }

// KeepsAsRaw says whether what a shape is filled with keeps no longer than raw food does: a raw filling, or a yolk set
// in whole.
func (r *Request) KeepsAsRaw(s cut.Shape) bool {
	return s.Traits().Filling && (r.Cut.Filling.Safety().Raw() || s.YolksEach > 0)
}

// AnyKeepsAsRaw says whether any shape of the batch does.
func (r *Request) AnyKeepsAsRaw() bool { return slices.ContainsFunc(r.Shapes(), r.KeepsAsRaw) }

// Filled says whether any shape is filled.
func (r *Request) Filled() bool {
	return slices.ContainsFunc(r.Shapes(), func(s cut.Shape) bool { return s.Traits().Filling })
}

// KeptIn is where the batch is kept: what is dried to keep and not chilled, on the shelf.
func (r *Request) KeptIn() cook.Place {
	if r.Keep.Where == "" && r.Dry.Keep {
		return cook.Shelf
	}
	return r.Keep.Where
}

// ShapePart is another shape cut from the same dough.
type ShapePart struct {
	Shape    string  `json:"shape"`
	By       ShareBy `json:"by"`
	Portions float64 `json:"portions"` // how many of what By counts
	// its pieces end there: a label of the machine, or mm under a pin; "": where the others do
	Stop string     `json:"stop"`
	Own  *cut.Shape `json:"own_shape,omitempty"`
	// Its own measures, drying after the cut and minutes in the pot; nil: as the shape, and as worked out.
	Width    *float64 `json:"width_mm,omitempty"`
	Long     *float64 `json:"long_mm,omitempty"`
	Min      *float64 `json:"min_length_mm,omitempty"`
	Max      *float64 `json:"max_length_mm,omitempty"`
	DryMin   *float64 `json:"dry_min,omitempty"` // 0: not dried, whatever the others do
	PotMin   *float64 `json:"cook_min,omitempty"`
	PotToMin *float64 `json:"cook_to_min,omitempty"`
}

// Kind returns the shape: the workshop's own as it was when it was picked, or the shipped one.
func (s ShapePart) Kind() cut.Shape {
	if s.Own != nil {
		return *s.Own
	}
	x, _ := cut.Find(s.Shape)
	return x
}

// Kind returns the first shape.
func (c Cut) Kind() cut.Shape { return ShapePart{Shape: c.Shape, Own: c.Own}.Kind() }

// Dry says what dries at which of the three moments, on what the sheets lie, and whether the batch is dried to keep.
type Dry struct {
	On      Lies       `json:"on"`      // the sheets: rack or board
	Sheet   Drying     `json:"sheet"`   // before the cut
	Pieces  OnDrying   `json:"pieces"`  // after it
	Packing OnDrying   `json:"packing"` // before it is packed
	Keep    bool       `json:"keep"`    // dried to keep
	RawG    *float64   `json:"raw_g"`   // what was hung up, g; nil: all of it
	Log     []DryCheck `json:"checks"`  // check-weighings, up to 8
}

// DryCheck is one check-weighing of what dries to keep.
type DryCheck struct {
	At string   `json:"at"` // yyyy-mm-ddThh:mm
	G  *float64 `json:"g"`
}

// Keep says where what is not cooked at once is kept.
type Keep struct {
	Where  cook.Place `json:"where"`   // "" not kept, fridge or freezer
	MadeAt string     `json:"made_at"` // yyyy-mm-ddThh:mm, "": the day it is made on
	Days   *float64   `json:"days"`    // the maker's own, nil: the usual advice
	Note   string     `json:"note"`    // why longer than usual
}

// Cook says how the pasta goes into the pot.
type Cook struct {
	After After  `json:"after"`
	In    CookIn `json:"in"`
	// The maker's own: minutes of the first shape in the pot as it goes in, a time or a range, water in each pot, L,
	// and salt, share of it; nil: as worked out.
	Min    *float64 `json:"min"`
	ToMin  *float64 `json:"to_min"`
	WaterL *float64 `json:"water_l"`
	Salt   *float64 `json:"salt_share"`
}

// OwnS is the maker's own time in the pot, s; false where none is said.
func (c *Cook) OwnS() (from, to float64, said bool) {
	if c.Min == nil {
		return 0, 0, false
	}
	from = 60 * *c.Min
	return from, max(from, 60*Or(c.ToMin, *c.Min)), true
}

// OwnPotS is the maker's own time of this shape in the pot, s; false where none is said.
func (s *ShapePart) OwnPotS() (from, to float64, said bool) {
	return (&Cook{Min: s.PotMin, ToMin: s.PotToMin}).OwnS()
}

// Default returns a complete request to start from: ten portions of tagliatelle on a hand
// crank in a room of 22 °C and 45 %.
func Default() Request {
	return Request{
		Format: Format, Name: "Tagliatelle",
		Amount:    Amount{By: ByPortions, Portions: 10, DoughG: 1500, FlourG: 1000, EggG: 540, Eaters: 4, EachG: 100},
		Flours:    []FlourPart{{Flour: "soft-00", Share: 1, Kept: flour.PaperBag, OpenDays: 7, ContainsKG: 1}},
		Eggs:      Eggs{Class: "eu-l", Style: egg.WholeEggs, TopUp: egg.TopWater, From: FromRoom, Also: []EggCount{}},
		Additions: []AdditionPart{},
		Room:      Room{TempC: 22, RH: .45, Air: dry.Still},
		Knead:     Knead{School: knead.Auto, Mix: InWell, Steps: []KneadStep{}},
		Rest:      Rest{At: InRoom, Wrapped: InOne},
		Roll: Roll{Machine: "hand-crank-10", Mode: roll.EveryStop, BenchMM: 1200, Careful: CarefulAuto,
			Fold: roll.Thirds, Divide: DivideByFlour,
			Outline: roll.Rectangle, Stripes: roll.Stripes{BaseMM: 1.8, StripeMM: .5, WidthMM: 20, PitchMM: 50,
				Strips: []roll.Strip{}},
			Steps: []RollStep{}},
		Cut: Cut{Shape: "tagliatelle", Also: []ShapePart{}},
		Dry: Dry{On: OnRack, Pieces: OnDrying{On: OnBoard}, Packing: OnDrying{On: OnBoard},
			Log: []DryCheck{}},
		Prices: Prices{Currency: "€"},
		Bench:  Bench{People: 1, FridgeC: 4}, Acts: []Act{},
	}
}
