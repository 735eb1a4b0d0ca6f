package practice

import (
	"fmt"
	"math"
	"slices"

	"hollen/internal/core/measure"
)

// Phase is where a whole batch stands.
type Phase string

// The phases, in the order of work.
const (
	AtBoard Phase = "board"
	AtRest  Phase = "rest"
	AtRolls Phase = "roll"
	AtRack  Phase = "dry"
	InPot   Phase = "pot"
	Over    Phase = "over"
)

// Phases are all of them but the end, in order.
func Phases() []Phase { return []Phase{AtBoard, AtRest, AtRolls, AtRack, InPot} }

// Do is the key of something done.
type Do string

// What may be done.
const (
	DoKnead  Do = "knead"
	DoWater  Do = "water"
	DoFlour  Do = "flour"
	DoCover  Do = "cover" // wrapped at the board for a while, then back to it
	DoWrap   Do = "wrap"  // it is kneaded enough
	DoRest   Do = "rest"
	DoOpen   Do = "open" // rest, uncovered
	DoFridge Do = "fridge"
	DoPare   Do = "pare"
	DoRoll   Do = "roll" // it is rested enough
	DoFold   Do = "fold"
	DoPass   Do = "pass" // N: stops left out
	DoWait   Do = "wait" // the piece covered
	DoDust   Do = "dust"
	DoEnd    Do = "end" // it is thin enough
	DoDry    Do = "dry"
	DoDamp   Do = "damp"
	DoCut    Do = "cut" // it is dry enough
	DoCook   Do = "cook"
	DoDrain  Do = "drain"
	DoLook   Do = "look"
)

// Act is one thing done to a dough: all that is kept of it.
type Act struct {
	Do   Do      `json:"do"`
	N    float64 `json:"n,omitempty"`
	Sign Sign    `json:"sign,omitempty"` // of a look
}

// ActKind is what may be done in a phase, and how much of it.
type ActKind struct {
	Do              Do
	Name            string       // on its key
	Unit            measure.Unit // of its amount; "": it has none
	Low, High, Step float64
	Yolk            bool // it goes on to the next phase
	Aside           bool // it stands beside the five keys
}

const count = measure.Unit("×")

// kinds are what may be done in each phase, in the order of their keys.
var kinds = map[Phase][]ActKind{
	AtBoard: {
		{DoKnead, "Knead on", measure.MIN, .5, 15, 1, false, false},
		{DoWater, "Water", measure.G, 1, 60, 1, false, false},
		{
			DoFlour,
			"Flour",
			measure.G,
			1,
			120,
			1,
			false,
			false,
		},
		{DoCover, "Wrap it, wait", measure.MIN, 5, 60, 5, false, false},
		{DoWrap, "It is enough", "", 0, 0, 0, true, false},
	},
	AtRest: {{DoRest, "Rest on, covered", measure.MIN, 1, 240, 5, false, false},
		{DoFridge, "Rest in the fridge", measure.MIN, 5, 240, 5, false, false},
		{
			DoPare,
			"Pare, damp, wrap",
			"",
			0,
			0,
			0,
			false,
			false,
		}, {DoWater, "Knead in water", measure.G, 1, 60, 1, false, false},
		{
			DoRoll,
			"Roll it",
			"",
			0,
			0,
			0,
			true,
			false,
		}, {DoOpen, "Leave it uncovered", measure.MIN, 1, 120, 5, false, true}},
	AtRolls: {
		{DoFold, "Fold, widest stop", count, 1, 6, 1, false, false},
		{DoPass, "Next stop", "", 0, 0, 0, false, false},
		{DoWait, "Wait, covered", measure.MIN, 5, 60, 5, false, false},
		{DoDust, "Dust it", "", 0, 0, 0, false, false},
		{DoEnd, "Thin enough", "", 0, 0, 0, true, false},
		{DoPass, "Leave stops out", count, 1, 2, 1, false, true},
	},
	AtRack: {
		{DoDry, "Let it dry", measure.MIN, 1, 60, 1, false, false},
		{DoDamp, "Damp cloth", "", 0, 0, 0, false, false},
		{DoDust, "Dust it", "", 0, 0, 0, false, false},
		{DoCut, "Dry enough", "", 0, 0, 0, true, false},
	},
	InPot: {{DoCook, "Cook on", measure.S, 5, 600, 5, false, false}, {DoDrain, "Drain it", "", 0, 0, 0, true, false}},
}

// Kinds are what may be done in a phase, in the order of its keys.
func Kinds(p Phase) []ActKind { return kinds[p] }

// Free is the signs that stand there without a look in a phase, Closer those that a look is taken at.
func Free(p Phase) []Sign {
	return map[Phase][]Sign{AtBoard: {Feel, Surface}, AtRest: {Skin}, AtRolls: {Edges}, AtRack: {Leather},
		InPot: {Tooth}}[p]
}

// Closer are the signs a look is taken at in a phase, in the order of their keys.
func Closer(p Phase) []Sign {
	return map[Phase][]Sign{AtBoard: {Flex, Stick, Spring, Window}, AtRest: {Poke, Give, Feel, Surface},
		AtRolls: {Leaves, Seen, Stick, Poke}, AtRack: {Stick}}[p]
}

// ActError is an act that is not allowed: what was said, and what is allowed.
type ActError struct{ Said, Allowed string }

// Error says what was said and what is allowed.
func (e ActError) Error() string { return "“" + e.Said + "”; " + e.Allowed }

// check says what is wrong with an act in a phase.
func (x *Batch) check(a Act) error {
	if x.Phase == Over {
		return ActError{string(a.Do), "this dough is done; open it"}
	}
	if len(x.Acts) >= x.k.Rules.Practice.MostActs {
		return ActError{string(a.Do), fmt.Sprintf("a dough takes %d acts; open it", x.k.Rules.Practice.MostActs)}
	}
	if a.Do == DoLook {
		if slices.Contains(Free(x.Phase), a.Sign) || slices.Contains(Closer(x.Phase), a.Sign) {
			if x.Phase == AtRolls && x.Dough.Stop < 0 && a.Sign != Poke && a.Sign != Stick {
				return ActError{string(a.Sign), "there is no sheet yet; fold it first"}
			}
			return nil
		}
		return ActError{string(a.Sign), "that is not to be seen here"}
	}
	i := slices.IndexFunc(kinds[x.Phase], func(k ActKind) bool { return k.Do == a.Do && (k.Low > 0 || a.N == 0) })
	if i < 0 {
		return ActError{string(a.Do), "that is not done here; the keys say what is"}
	}
	k := kinds[x.Phase][i]
	if k.Unit != "" && !(a.N >= k.Low && a.N <= k.High) {
		return ActError{measure.Trim(a.N), fmt.Sprintf("{%g–%g %s} is allowed", k.Low, k.High, k.Unit)}
	}
	if a.Do == DoPass && (x.Dough.Stop < 0 || x.Dough.Stop+1+int(a.N) >= len(x.k.Gaps)) ||
		k.Unit == count && a.N != math.Trunc(a.N) {
		return ActError{string(a.Do), "the machine has no such stop from here"}
	}
	if a.Do == DoEnd && x.Dough.Stop < 1 {
		return ActError{string(a.Do), "there is no sheet yet; fold it and go down"}
	}
	if a.Do == DoDrain && x.PotS == 0 {
		return ActError{string(a.Do), "it is not in the pot yet; cook it first"}
	}
	return nil
}

// Can says whether an act of a kind is allowed as the batch stands.
func (x *Batch) Can(k ActKind) bool { return x.check(Act{Do: k.Do, N: k.Low}) == nil }

// apply does an act to a dough; u decides whether a pass tears.
func (x *Batch) apply(d *Dough, a Act, u float64) (torn, stuck bool) {
	switch a.Do {
	case DoKnead:
		d.Knead(a.N)
	case DoWater:
		d.Add(a.N, 0)
		if x.Phase == AtRest {
			d.Knead(2)
		}
	case DoFlour:
		d.Add(0, a.N)
	case DoCover, DoRest, DoWait:
		d.Rest(a.N, false, false)
	case DoFridge:
		d.Rest(a.N, false, true)
	case DoOpen:
		d.Rest(a.N, true, false)
	case DoPare:
		d.Pare()
	case DoFold:
		d.fold(int(a.N))
	case DoPass:
		return d.Pass(d.Stop+1+int(a.N), u)
	case DoDust:
		d.Dust = 1
	case DoEnd:
		if !x.k.Before {
			d.Cut()
		}
	case DoDry:
		d.Wait(a.N)
	case DoDamp:
		d.Damp()
	case DoCut:
		if x.k.Before {
			d.Cut()
		}
	case DoCook:
		d.Bite = math.Log(max(x.PotS+a.N, 1) / d.NeedS())
		d.cooked = true
		d.clock(a.N/60, true)
	case DoLook:
		d.clock(x.k.LookMin(a.Sign), true)
	}
	return false, false
}

// next is the phase an act leads to.
func (a Act) next(p Phase) Phase {
	switch a.Do {
	case DoWrap:
		return AtRest
	case DoRoll:
		return AtRolls
	case DoEnd:
		return AtRack
	case DoCut:
		return InPot
	case DoDrain:
		return Over
	}
	return p
}
