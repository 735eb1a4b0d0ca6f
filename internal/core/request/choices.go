package request

import (
	"hollen/internal/core/filling"
	"hollen/internal/core/knead"
)

// By names the amount that counts.
type By string

// The amounts a batch may be made by.
const (
	ByPortions By = "portions"
	ByDough    By = "dough"
	ByFlour    By = "flour"
	ByEggs     By = "eggs"   // beaten, in the jug
	ByEaters   By = "eaters" // so many people at so much flour each
	ByOwn      By = "own"    // as the maker makes it: flour, eggs and liquid taken at their word
)

// ShareBy is what an amount of a further shape counts.
type ShareBy string

// The amount of a further shape counts one of these.
const (
	ShareByPortions ShareBy = ""
	ShareByGrams    ShareBy = "grams"    // of dough
	ShareByPieces   ShareBy = "pieces"   // of the divided dough
	ShareByHandful  ShareBy = "handfuls" // of dough
)

// From is where the eggs come from.
type From string

// Where eggs come from.
const (
	FromRoom   From = "room"
	FromFridge From = "fridge"
)

// Mix is in what a dough is mixed by hand.
type Mix string

// A dough is mixed in one of these.
const (
	InWell Mix = "well"
	InBowl Mix = "bowl"
)

// KneadBy is who says how a dough is kneaded.
type KneadBy string

// A dough is kneaded by a school, or by the maker's own steps.
const (
	KneadSchool KneadBy = ""
	KneadOwn    KneadBy = "own"
)

// KneadDo is what is done in one step of the maker's own.
type KneadDo string

// The steps a maker may take from mixing to the roller.
const (
	DoMix          KneadDo = "mix"
	DoMixMachine   KneadDo = "mix_mixer"
	DoMixProcessor KneadDo = "mix_processor"
	DoHand         KneadDo = "hand"
	DoSlowHook     KneadDo = "slow_hook"
	DoHook         KneadDo = "hook"
	DoProcessor    KneadDo = "processor"
	DoPause        KneadDo = "pause"
	DoRest         KneadDo = "rest"
	DoFridge       KneadDo = "fridge"
	DoTemper       KneadDo = "temper"
)

// doing is all that is known of what a step of one's own does, a row each.
type doing struct {
	do       KneadDo
	name     string
	usualMin float64 // what it takes when nothing else is said, min. Source: house.
	tool     knead.Tool
	school   knead.School // whose bowl it wants, and whose words tell it; Long where it wants none
	mixes    bool         // flour and liquids are brought together
	rests    bool         // the dough is left alone
}

var doings = []doing{
	{do: DoMix, name: "Mix by hand", usualMin: 5, tool: knead.ByMixing, school: knead.Long, mixes: true},
	{do: DoMixMachine, name: "Mix in the mixer", usualMin: 1, tool: knead.ByMixing, school: knead.Hook, mixes: true},
	{do: DoMixProcessor, name: "Mix in the processor", usualMin: 1, tool: knead.ByMixing, school: knead.Processor,
		mixes: true},
	{do: DoHand, name: "Knead by hand", usualMin: 8, tool: knead.ByHand, school: knead.Long},
	{do: DoSlowHook, name: "Hook, slow", usualMin: 2, tool: knead.BySlowHook, school: knead.Hook},
	{do: DoHook, name: "Hook, second speed", usualMin: 6, tool: knead.ByHook, school: knead.Hook},
	{do: DoProcessor, name: "Processor", usualMin: .75, tool: knead.ByProcessor, school: knead.Processor},
	{do: DoPause, name: "Pause", usualMin: 10, tool: knead.InRoom, school: knead.Long, rests: true},
	{do: DoRest, name: "Rest in the room", usualMin: 30, tool: knead.InRoom, school: knead.Long, rests: true},
	{do: DoFridge, name: "Rest in the fridge", usualMin: 720, tool: knead.InFridge, school: knead.Long, rests: true},
	{do: DoTemper, name: "Out of the fridge", usualMin: 30, tool: knead.InRoom, school: knead.Long, rests: true},
}

func (d KneadDo) row() doing {
	for _, x := range doings {
		if x.do == d {
			return x
		}
	}
	return doing{school: knead.Long}
}

// KneadDoOptions are what may be done in a step of one's own.
func KneadDoOptions() []Option {
	return append([]Option{opt("", "Nothing")},
		options(doings, func(x doing) Option { return opt(string(x.do), x.name) })...)
}

// UsualMin is what a step takes when nothing else is said, min. Source: house.
func (d KneadDo) UsualMin() float64 { return d.row().usualMin }

// Rests says whether the dough is left alone.
func (d KneadDo) Rests() bool { return d.row().rests }

// Mixes says whether flour and liquids are brought together.
func (d KneadDo) Mixes() bool { return d.row().mixes }

// Tool is what works the dough, or where it lies.
func (d KneadDo) Tool() knead.Tool { return d.row().tool }

// School is the school whose bowl it wants, and whose words tell it; Long where it wants none.
func (d KneadDo) School() knead.School { return d.row().school }

// Cover is how a resting dough lies.
type Cover string

// How a resting dough lies.
const (
	CoverUsual  Cover = ""
	CoverFilm   Cover = "film"
	CoverBowl   Cover = "bowl"
	CoverFlat   Cover = "flat"   // in film, pressed flat
	CoverPieces Cover = "pieces" // divided and flat, in film
	CoverNone   Cover = "none"
)

// Hands is who does a step, where one pair of hands or a bowl takes only so much.
type Hands string

// A step is done by one of these.
const (
	HandsAll    Hands = ""       // all the dough at once
	HandsShared Hands = "shared" // everybody a part, at the same time
	HandsTurns  Hands = "turns"  // lot by lot
)

// WayBy is who says how a sheet is rolled down.
type WayBy string

// A sheet is rolled down as worked out, or the maker's own way.
const (
	WayWorked WayBy = ""
	WayOwn    WayBy = "own"
)

// OwnFold is how a sheet is folded before a pass of the maker's own.
type OwnFold string

// How a sheet is folded before a pass.
const (
	NoFold    OwnFold = ""
	FoldHalf  OwnFold = "half"
	FoldThree OwnFold = "thirds"
	FoldBook  OwnFold = "book" // ends to the middle, then closed
)

// Layers is how many layers the fold lays.
func (f OwnFold) Layers() int {
	switch f {
	case FoldHalf:
		return 2
	case FoldThree:
		return 3
	case FoldBook:
		return 4
	}
	return 1
}

// Place is where a dough rests.
type Place string

// Where a dough rests.
const (
	InRoom   Place = "room"
	InFridge Place = "fridge"
)

// Wrapped is how a dough is wrapped for the fridge.
type Wrapped string

// How a dough is wrapped.
const (
	InOne       Wrapped = "whole"
	InPieces    Wrapped = "pieces" // divided and flat
	PressedFlat Wrapped = "flat"   // in one, as flat as is said
)

// Careful says whether stops are left out with care.
type Careful string

// How far stops are left out.
const (
	CarefulAuto Careful = "auto" // as the dough allows
	CarefulYes  Careful = "yes"
	CarefulNo   Careful = "no"
)

// Divide says by what a dough is divided.
type Divide string

// A dough is divided by one of these.
const (
	DivideByFlour Divide = "flour" // about 100 g of it a piece
	DivideByBench Divide = "bench" // sheets as long as the bench
)

// Dust is what sheets and what is cut are dusted with.
type Dust string

// Board and sheet are dusted with one of these.
const (
	DustAuto   Dust = "" // semola, rice flour for a dough without gluten
	DustSemola Dust = "semola"
	DustRice   Dust = "rice"
	DustOwn    Dust = "own" // the flour of the dough
)

// Scraps is what becomes of the trimmings.
type Scraps string

// The trimmings become one of these.
const (
	Maltagliati Scraps = ""
	SoupBag     Scraps = "soup" // in the freezer
	WorkedBack  Scraps = "back" // into the next piece
	// a shape more: maltagliati, cooked with the rest
	ScrapsCooked Scraps = "cooked"
)

// FillingKind is what a filling is, as far as safety goes.
type FillingKind = filling.Kind

// The kinds of filling.
const (
	FillingCooked = filling.Cooked
	FillingMeat   = filling.Meat
	FillingFish   = filling.Seafood
	FillingEgg    = filling.RawEgg
)

// Lies is what pasta dries on.
type Lies string

// Pasta dries on one of these.
const (
	OnRack  Lies = "rack"  // both faces open
	OnBoard Lies = "board" // one face open
	OnNests Lies = "nest"  // wound up, on a tray
)

// Words are how one says it: "on a rack".
func (l Lies) Words() string {
	switch l {
	case OnRack:
		return "on a rack"
	case OnNests:
		return "in nests on a tray"
	}
	return "on a floured board"
}

// DryBy is how a drying is said.
type DryBy string

// How a drying is said.
const (
	NotDried  DryBy = ""           // none
	DrySaid   DryBy = "said"       // so many minutes
	DryWorked DryBy = "worked_out" // until it is right, in this air
)

// CookIn is what the pasta is cooked in.
type CookIn string

// Pasta is cooked in one of these.
const (
	InWater CookIn = ""
	InBroth CookIn = "broth" // and served in it
	InSoup  CookIn = "soup"  // at its end, the trimmings with it
)

// After is how the pasta goes into the pot.
type After string

// How pasta goes into the pot.
const (
	AsDried After = "" // as it is by then: what dries, and how long, is said there
	Frozen  After = "frozen"
	// In documents from before drying was said, and in makings begun with them.
	Fresh     After = "fresh"
	AtLeather After = "leather"
	FirmNests After = "nest"
	DriedHard After = "dried"
)
