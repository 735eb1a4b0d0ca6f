package request

import (
	"fmt"
	"slices"

	"hollen/internal/core/addition"
	"hollen/internal/core/field"
	"hollen/internal/core/flour"
	"hollen/internal/core/roll"
)

// MaxFlours is the most flours a blend may have.
const MaxFlours = 5

// MaxActs is how many acts a batch records.
const MaxActs = 8

// MaxShapes is how many shapes one dough may give.
const MaxShapes = 8

// MaxSteps is how many steps a way of kneading of the maker's own may have.
const MaxSteps = 14

// MostStepMin is how long a step of a way, or a rest, may be said to take, min.
const MostStepMin = 2880

// MaxPasses is how many lines a way down of the maker's own may have.
const MaxPasses = 24

// MaxStrips is how many strips one turn of a pattern may have.
const MaxStrips = 8

// usualStripMM is how wide a strip starts, and the bare base after it, mm. Source: house.
const usualStripMM = 10

// MaxAdditions is the most additions a dough may have.
const MaxAdditions = 3

// Group is a list within a request whose parts come and go together: the flours of a blend, the
// acts. Its slots, those that hold something and those that may yet, are fields of the table.
type Group struct {
	Name        string // begins the paths of its fields, as the request names it
	Head        string // the part that says what stands in a slot, "" in it empties the slot
	Label       string
	Least, Most int
	Rows        bool   // a list that is built line by line
	TooMany     string // what is said of more than Most, of which the number is a %d
	Missing     string // what is said of a slot in a request that holds nothing

	slot   func(i int, path string) []Field
	length func(*Request) int
	resize func(r *Request, n int)             // to n slots, the new ones empty
	holds  func(r *Request, i int) bool        // something
	empty  func(r *Request, i int)             // what stands in it
	prune  func(r *Request)                    // takes out what holds nothing
	start  func(r *Request, i int, w *Request) // gives what was just picked its usual amount; w is as it was
	copy   func(to, from *Request)
	swap   func(r *Request, i, j int)
	insert func(r *Request, i int) // a copy of slot i after it; the last slot goes
}

// list makes a group of a slice of the request.
func list[T any](g Group, at func(*Request) *[]T, blank func() T, holds func(*T) bool, clear func(*T)) Group {
	g.length = func(r *Request) int { return len(*at(r)) }
	g.resize = func(r *Request, n int) {
		s := slices.Clone(*at(r))
		for len(s) < n {
			s = append(s, blank())
		}
		*at(r) = s[:n]
	}
	g.holds = func(r *Request, i int) bool { return holds(&(*at(r))[i]) }
	g.empty = func(r *Request, i int) { clear(&(*at(r))[i]) }
	g.prune = func(r *Request) {
		*at(r) = slices.DeleteFunc(slices.Clone(*at(r)), func(x T) bool { return !holds(&x) })
	}
	g.copy = func(to, from *Request) { *at(to) = slices.Clone(*at(from)) }
	g.swap = func(r *Request, i, j int) { s := *at(r); s[i], s[j] = s[j], s[i] }
	g.insert = func(r *Request, i int) { s := *at(r); *at(r) = slices.Insert(s, i+1, s[i])[:len(s)] }
	if g.start == nil {
		g.start = func(*Request, int, *Request) {}
	}
	return g
}

// zero empties a slot whose blank is its zero value.
func zero[T any](x *T) { *x = *new(T) }

func nothing[T any]() T { return *new(T) }

// groups are the groups of a request.
var groups = []Group{
	list(Group{Name: "flours", Head: "flour", Label: "Flours", Least: 1, Most: MaxFlours,
		TooMany: "1 to %d flours are allowed",
		Missing: "a flour that is not there is left out of the list", slot: flourSlot},
		func(r *Request) *[]FlourPart { return &r.Flours }, NoFlour, func(x *FlourPart) bool { return x.Flour != "" },
		func(x *FlourPart) { // how it is kept stays for the next one
			x.Flour = ""
			x.Share = 0
			x.Own = nil
			x.Lot = ""
			x.LotKept = nil
			x.PricePerKG = nil
		}),
	list(Group{Name: "additions", Head: "addition", Label: "Additions", Most: MaxAdditions,
		TooMany: "at most %d are allowed",
		Missing: "an addition that is not there is left out of the list", slot: additionSlot,
		start: func(r *Request, i int, was *Request) {
			a, b := &r.Additions[i], was.Additions[i]
			if r.Amount.By == ByOwn { // as the maker makes it: how much is asked, not filled in
				return
			}
			if other := a.Addition != b.Addition; a.Share == 0 || other && a.Share == b.Share {
				a.Share = a.Kind().StartShare()
			}
		}},
		func(r *Request) *[]AdditionPart { return &r.Additions }, nothing,
		func(x *AdditionPart) bool { return x.Addition != "" }, zero),
	list(Group{Name: "eggs.also", Head: "class", Label: "Other eggs", Most: 2,
		TooMany: "at most %d other classes are allowed",
		Missing: "eggs that are not there are left out of the list", slot: otherEggSlot,
		start: func(r *Request, i int, _ *Request) { r.Eggs.Also[i].Count = max(r.Eggs.Also[i].Count, 1) }},
		func(r *Request) *[]EggCount { return &r.Eggs.Also }, nothing, func(x *EggCount) bool { return x.Class != "" },
		zero),
	list(Group{Name: "cut.also", Head: "shape", Label: "Other shapes", Most: MaxShapes - 1,
		TooMany: "at most %d are allowed",
		Missing: "a shape that is not there is left out of the list", slot: otherShapeSlot,
		start: func(r *Request, i int, _ *Request) { r.Cut.Also[i].Portions = max(r.Cut.Also[i].Portions, 1) }},
		func(r *Request) *[]ShapePart { return &r.Cut.Also }, nothing, func(x *ShapePart) bool { return x.Shape != "" },
		zero),
	list(Group{Name: "dry.checks", Head: "at", Label: "Check-weighings", Most: 8, TooMany: "at most %d are allowed",
		slot: checkSlot},
		func(r *Request) *[]DryCheck { return &r.Dry.Log }, nothing, func(x *DryCheck) bool { return x.At != "" },
		zero),
	list(Group{Name: "knead.own_steps", Rows: true, Head: "do", Label: "Own steps", Most: MaxSteps,
		TooMany: "at most %d steps are allowed",
		Missing: "a step that is not there is left out of the list", slot: kneadSlot,
		start: func(r *Request, i int, was *Request) {
			s := &r.Knead.Steps[i]
			if s.Min == 0 {
				s.Min = s.Do.UsualMin()
			}
		}},
		func(r *Request) *[]KneadStep { return &r.Knead.Steps }, nothing, func(x *KneadStep) bool { return x.Do != "" },
		zero),
	list(Group{Name: "roll.own_passes", Rows: true, Head: "stop", Label: "Own way down", Most: MaxPasses,
		TooMany: "at most %d lines are allowed",
		Missing: "a line that is not there is left out of the list", slot: passSlot,
		start: func(r *Request, i int, _ *Request) { r.Roll.Steps[i].Passes = max(r.Roll.Steps[i].Passes, 1) }},
		func(r *Request) *[]RollStep { return &r.Roll.Steps }, nothing, func(x *RollStep) bool { return x.Stop != "" },
		zero),
	list(Group{Name: "roll.stripes.strips", Head: "colour", Label: "Strips", Most: MaxStrips,
		TooMany: "at most %d strips are allowed",
		Missing: "a strip that is not there is left out of the list", slot: stripSlot,
		start: func(r *Request, i int, _ *Request) {
			if s := &r.Roll.Stripes.Strips[i]; s.WidthMM == 0 {
				s.WidthMM, s.GapMM = usualStripMM, usualStripMM
			}
		}},
		func(r *Request) *[]roll.Strip { return &r.Roll.Stripes.Strips }, nothing,
		func(x *roll.Strip) bool { return x.Colour != "" }, zero),
	list(Group{Name: "acts", Head: "kind", Label: "Acts", Most: MaxActs, TooMany: "at most %d are recorded",
		Missing: "an act that is not there is left out of the list", slot: actSlot,
		start: func(r *Request, i int, _ *Request) {
			if r.Acts[i].Stage == "" {
				r.Acts[i].Stage = AtKnead
			}
		}},
		func(r *Request) *[]Act { return &r.Acts }, nothing, func(x *Act) bool { return x.Kind != "" }, zero),
}

// Groups returns the groups of a request. The list is shared and is not to be changed.
func Groups() []Group { return groups }

// GroupOf returns the group a field belongs to, its slot and which part of it the field is;
// false for a field of no group.
func GroupOf(f Field) (g Group, slot int, part string, ok bool) {
	for _, g := range groups {
		if g.Name == f.Group {
			return g, f.Slot, f.Part, true
		}
	}
	return Group{}, 0, "", false
}

// fields returns the fields of every slot.
func (g Group) fields() (all []Field) {
	for i := range g.Most {
		p := fmt.Sprintf("%s.%d.", g.Name, i)
		for _, f := range g.slot(i, p) {
			f.Group = g.Name
			f.Slot = i
			f.Part = f.Path[len(p):]
			f.has = func(r *Request) bool { return i < g.length(r) }
			all = append(all, f)
		}
	}
	return all
}

// Holds says whether something stands in a slot of r.
func (g Group) Holds(r *Request, slot int) bool {
	return slot >= 0 && slot < g.length(r) && g.holds(r, slot)
}

// Empty takes out what stands in a slot of r, which stays.
func (g Group) Empty(r *Request, slot int) { g.empty(r, slot) }

// Filled is how many slots of r hold something, from the first to the last that does.
func (g Group) Filled(r *Request) int {
	n := g.length(r)
	for n > 0 && !g.holds(r, n-1) {
		n--
	}
	return n
}

// Up moves what stands in a slot of r before what stands before it.
func (g Group) Up(r *Request, slot int) {
	if slot > 0 && slot < g.length(r) {
		g.swap(r, slot-1, slot)
	}
}

// Again puts what stands in a slot of r once more after it; false where there is no room.
func (g Group) Again(r *Request, slot int) bool {
	if g.Filled(r) >= g.Most || !g.Holds(r, slot) {
		return false
	}
	g.insert(r, slot)
	return true
}

// Out takes out what stands in a slot of r; what comes after moves up.
func (g Group) Out(r *Request, slot int) {
	g.empty(r, slot)
	for i := slot + 1; i < g.length(r); i++ {
		g.swap(r, i-1, i)
	}
}

// GroupNamed returns the group of that name.
func GroupNamed(name string) (Group, bool) {
	for _, g := range groups {
		if g.Name == name {
			return g, true
		}
	}
	return Group{}, false
}

// Path is the path of a part of a slot.
func (g Group) Path(slot int, part string) string { return fmt.Sprintf("%s.%d.%s", g.Name, slot, part) }

// Padded returns r with every slot there may be, as a form shows it.
func Padded(r Request) Request {
	for _, g := range groups {
		g.resize(&r, max(g.Most, g.length(&r)))
	}
	return r
}

// Pruned returns r without the slots that hold nothing.
func Pruned(r Request) Request {
	for _, g := range groups {
		g.prune(&r)
	}
	return r
}

// Start gives what was picked since was its usual amount, and flours the keeping of their lots.
// Both have every slot.
func Start(r, was *Request) {
	for i := range r.Flours {
		r.Flours[i].Settle(r.MadeOn)
	}
	for _, g := range groups {
		for i := range g.length(r) {
			if g.holds(r, i) {
				g.start(r, i, was)
			}
		}
	}
}

// NoFlour is a slot of the blend that holds no flour: kept as usual, not named.
func NoFlour() FlourPart { return FlourPart{Kept: flour.PaperBag, OpenDays: 7, ContainsKG: 1} }

func flourSlot(i int, p string) []Field {
	label := [MaxFlours]string{"First flour", "Second flour", "Third flour", "Fourth flour", "Fifth flour"}[i]
	part := func(f func(*FlourPart) any) func(*Request) any {
		return func(r *Request) any { return f(&r.Flours[i]) }
	}
	flours := options(flour.Shipped(), func(f flour.Flour) Option { return opt(f.Key, f.Name) })
	return []Field{
		keeping(choice(AtFormula, p+"flour", label, part(func(f *FlourPart) any { return &f.Flour }), flours...),
			func(r *Request) owner { return own(&r.Flours[i].Own, keptFlour) }),
		share(AtFormula, p+"share", label+", share", .01, 1, .05, part(func(f *FlourPart) any { return &f.Share })),
		price(p+"price_per_kg", label, "a kg", part(func(f *FlourPart) any { return &f.PricePerKG })),
		keeping(choice(AtRoom, p+"lot", "Lot", part(func(f *FlourPart) any { return &f.Lot }), opt("",
			"No lot named")),
			func(r *Request) owner { return own(&r.Flours[i].LotKept, keptLot) }),
		choice(AtRoom, p+"kept", "Kept in", part(func(f *FlourPart) any { return &f.Kept }), Keepings()...),
		number(AtRoom, p+"open_days", "Open for", "days", 0, 720, 1,
			part(func(f *FlourPart) any { return &f.OpenDays })),
		number(AtRoom, p+"container_kg", "In the bag", "kg", .05, 1000, .5,
			part(func(f *FlourPart) any { return &f.ContainsKG })),
		optional(share(AtRoom, p+"measured_moisture_wb", "Moisture, measured", .05, .20, .001,
			part(func(f *FlourPart) any { return &f.MeasuredWB }))),
	}
}

func additionSlot(i int, p string) []Field {
	label := []string{"Addition", "Second addition", "Third addition"}[i]
	part := func(f func(*AdditionPart) any) func(*Request) any {
		return func(r *Request) any { return f(&r.Additions[i]) }
	}
	all := options(addition.Shipped(), func(a addition.Addition) Option { return opt(a.Key, a.Name) })
	return []Field{
		keeping(choice(AtFormula, p+"addition", label, part(func(a *AdditionPart) any { return &a.Addition }),
			append([]Option{opt("", "Nothing")}, all...)...),
			func(r *Request) owner { return own(&r.Additions[i].Own, keptAddition) }),
		share(AtFormula, p+"share", label+", of flour", .0005, .8, .005,
			part(func(a *AdditionPart) any { return &a.Share })),
		price(p+"price_per_kg", label, "a kg", part(func(a *AdditionPart) any { return &a.PricePerKG })),
	}
}

func otherEggSlot(i int, p string) []Field {
	label := []string{"Other eggs", "More other eggs"}[i]
	return []Field{
		keeping(choice(AtFormula, p+"class", label, func(r *Request) any { return &r.Eggs.Also[i].Class },
			append([]Option{opt("", "None besides")}, classOptions()...)...),
			func(r *Request) owner { return own(&r.Eggs.Also[i].Own, keptClass) }),
		count(AtFormula, p+"count", label+", how many", "", 1, 2000, 1,
			func(r *Request) any { return &r.Eggs.Also[i].Count }),
	}
}

func otherShapeSlot(i int, p string) []Field {
	label := []string{"Another shape", "A third shape", "A fourth shape", "A fifth shape", "A sixth shape",
		"A seventh shape", "An eighth shape"}[i]
	measured := func(path, what, unit string, lo, hi, step float64, at func(*ShapePart) any) Field {
		return optional(number(AtCut, p+path, label+", "+what, unit, lo, hi, step,
			func(r *Request) any { return at(&r.Cut.Also[i]) }))
	}
	return []Field{
		keeping(choice(AtCut, p+"shape", label, func(r *Request) any { return &r.Cut.Also[i].Shape },
			append([]Option{opt("", "Nothing else")}, shapeOptions()...)...),
			func(r *Request) owner { return own(&r.Cut.Also[i].Own, keptShape) }),
		number(AtCut, p+"portions", label+", how much", "", .5, 60000, 1,
			func(r *Request) any { return &r.Cut.Also[i].Portions }),
		choice(AtCut, p+"by", label+", counted in", func(r *Request) any { return &r.Cut.Also[i].By }, opt("",
			"portions"),
			opt(string(ShareByGrams), "g of dough"), opt(string(ShareByPieces), "pieces of dough"),
			opt(string(ShareByHandful), "handfuls")),
		{Field: field.Field{Path: p + "stop", Label: label + ", ends at", Kind: Text, Max: 12}, Stage: AtCut,
			at: func(r *Request) any { return &r.Cut.Also[i].Stop }},
		measured("width_mm", "width", "mm", .8, 400, .5, func(x *ShapePart) any { return &x.Width }),
		measured("long_mm", "long side", "mm", 4, 600, 1, func(x *ShapePart) any { return &x.Long }),
		measured("min_length_mm", "shortest ribbon", "mm", 60, 2000, 10, func(x *ShapePart) any { return &x.Min }),
		measured("max_length_mm", "longest ribbon", "mm", 60, 2500, 10, func(x *ShapePart) any { return &x.Max }),
		measured("dry_min", "dried after the cut", "min", 0, MostStepMin, 5,
			func(x *ShapePart) any { return &x.DryMin }),
		measured("cook_min", "in the pot", "min", .1, 120, .5, func(x *ShapePart) any { return &x.PotMin }),
		measured("cook_to_min", "in the pot, to", "min", .1, 120, .5, func(x *ShapePart) any { return &x.PotToMin }),
	}
}

func kneadSlot(i int, p string) []Field {
	step := func(f func(*KneadStep) any) func(*Request) any {
		return func(r *Request) any { return f(&r.Knead.Steps[i]) }
	}
	label := fmt.Sprintf("Step %d", i+1)
	return []Field{
		choice(AtKnead, p+"do", label, step(func(s *KneadStep) any { return &s.Do }), KneadDoOptions()...),
		number(AtKnead, p+"min", label+", how long", "min", .05, MostStepMin, 1,
			step(func(s *KneadStep) any { return &s.Min })),
		choice(AtKnead, p+"cover", label+", covered", step(func(s *KneadStep) any { return &s.Cover }), opt("",
			"As usual"),
			opt(string(CoverFilm), "In film"), opt(string(CoverBowl), "Under a bowl"), opt(string(CoverFlat),
				"In film, pressed flat"),
			opt(string(CoverPieces), "Divided, in film"), opt(string(CoverNone), "Open")),
		choice(AtKnead, p+"hands", label+", hands", step(func(s *KneadStep) any { return &s.Hands }), opt("",
			"All at once"),
			opt(string(HandsShared), "Shared out"), opt(string(HandsTurns), "Lot by lot")),
		{Field: field.Field{Path: p + "add", Label: label + ", added before it", Kind: Text, Max: 60}, Stage: AtKnead,
			at: step(func(s *KneadStep) any { return &s.Add })},
	}
}

func passSlot(i int, p string) []Field {
	step := func(f func(*RollStep) any) func(*Request) any {
		return func(r *Request) any { return f(&r.Roll.Steps[i]) }
	}
	label := fmt.Sprintf("Line %d", i+1)
	return []Field{
		{Field: field.Field{Path: p + "stop", Label: label + ", stop", Kind: Text, Max: 12}, Stage: AtRoll,
			at: step(func(s *RollStep) any { return &s.Stop })},
		optional(count(AtRoll, p+"passes", label+", passes", "", 1, 20, 1,
			step(func(s *RollStep) any { return &s.Passes }))),
		choice(AtRoll, p+"fold", label+", folded", step(func(s *RollStep) any { return &s.Fold }), opt("", "Flat"),
			opt(string(FoldHalf), "Folded in half"),
			opt(string(FoldThree), "Folded in three"), opt(string(FoldBook), "Ends to the middle, closed")),
		choice(AtRoll, p+"first", label+", before it", step(func(s *RollStep) any { return &s.First }), opt("",
			"Straight on"),
			opt(string(roll.Halve), "Halve it first"), opt(string(roll.Quarter), "Cut it in four first"),
			opt(string(roll.TrimFirst), "Trim it square first"),
			opt(string(roll.TurnIt), "Quarter turn first"), opt(string(roll.Belt), "Join it to a belt first"),
			opt(string(roll.LayOn), "Lay strips on first"), opt(string(roll.Wait), "Rest it first")),
		number(AtRoll, p+"rest_min", label+", rest", "min", 0, 240, 5,
			step(func(s *RollStep) any { return &s.RestMin })),
		flag(AtRoll, p+"dust", label+", dusted", step(func(s *RollStep) any { return &s.Dust })),
	}
}

func stripSlot(i int, p string) []Field {
	strip := func(f func(*roll.Strip) any) func(*Request) any {
		return func(r *Request) any { return f(&r.Roll.Stripes.Strips[i]) }
	}
	label := fmt.Sprintf("Strip %d", i+1)
	return []Field{
		choice(AtRoll, p+"colour", label, strip(func(s *roll.Strip) any { return &s.Colour }), opt("", "No strip"),
			opt(string(roll.OtherDough), "The other dough"), opt(string(roll.ThirdColour), "The third colour")),
		number(AtRoll, p+"width_mm", label+", wide", "mm", 1, 200, 1,
			strip(func(s *roll.Strip) any { return &s.WidthMM })),
		number(AtRoll, p+"gap_mm", label+", bare after it", "mm", 0, 400, 1,
			strip(func(s *roll.Strip) any { return &s.GapMM })),
	}
}

func checkSlot(i int, p string) []Field {
	return []Field{
		{Field: field.Field{Path: p + "at", Label: "Weighed at", Kind: Moment, Optional: true}, Stage: AtDry,
			at: func(r *Request) any { return &r.Dry.Log[i].At }},
		optional(number(AtDry, p+"g", "Weighs", "g", 1, 60000, 1, func(r *Request) any { return &r.Dry.Log[i].G })),
	}
}

func actSlot(i int, p string) []Field {
	act := func(f func(*Act) any) func(*Request) any {
		return func(r *Request) any { return f(&r.Acts[i]) }
	}
	return []Field{
		choice(AtKnead, p+"kind", "Done", act(func(a *Act) any { return &a.Kind }), ActOptions()...),
		number(AtKnead, p+"amount", "How much", "", 0, 5000, 1, act(func(a *Act) any { return &a.Amount })),
		{Field: field.Field{Path: p + "sign", Label: "Seen", Kind: Text, Max: 40}, Stage: AtKnead,
			at: act(func(a *Act) any { return &a.Sign })},
		choice(AtKnead, p+"stage", "At", act(func(a *Act) any { return &a.Stage }),
			options(Stages(), func(s Stage) Option { return opt(string(s), string(s)) })...),
	}
}
