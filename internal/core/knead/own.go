package knead

import (
	"math"
	"slices"
)

// Do is what is done in one step of a way of the maker's own.
type Do string

// Kinds of steps.
const (
	Mixing    Do = "mix"
	Kneading  Do = "knead"
	Pausing   Do = "pause"  // left alone between two kneadings, under a bowl
	Resting   Do = "rest"   // wrapped, in the room or the fridge
	Tempering Do = "temper" // in the room after the fridge
)

// ByMixing is the tool of flour and liquids brought together, or of something worked in on the way: it
// takes its minutes and kneads nothing.
const ByMixing Tool = "mixing"

// Own is a way of the maker's own: followed literally, nothing added and nothing left out.
type Own struct {
	MixMin  float64 // before the first kneading, min; the model starts when it hangs together
	Machine bool    // mixed in a bowl that turns, load by load
	Steps   []Step
	FoodMin float64 // from the first egg until it hangs together, as the food clock counts it, min
}

// lies is how a resting dough lies, where that makes it cool and warm faster.
type lies struct {
	chillG float64 // mass of each piece it is divided into, g
	flatMM float64 // how flat it is pressed, mm
}

// Lie is a rest of so many minutes: in one, in pieces of chillG (g), or pressed to flatMM (mm).
func Lie(where Tool, minutes, chillG, flatMM float64) Step {
	return Step{By: where, Min: minutes, Spread: chillG > 0 || flatMM > 0, lies: lies{chillG, flatMM}}
}

// Once is a step of work done on all the dough at once, however many loads there are elsewhere.
func (s Step) Once() Step {
	s.once = true
	return s
}

// InTurn says whether the step is done load by load, where there are loads.
func (s Step) InTurn() bool { return !s.once }

// times is how often a step is done, one load after the other.
func (a Ask) times(s Step) float64 {
	if s.once {
		return 1
	}
	return float64(max(a.Turns, 1))
}

// steps is the list with what was kneaded on and rested on at the board, after the last of its kind.
func (o *Own) steps(a Ask) []Step {
	out := slices.Clone(o.Steps)
	if a.MoreKnead > 0 {
		out = slices.Insert(out, o.worked(), Step{By: ByHand, Min: a.MoreKnead})
	}
	if a.MoreRest > 0 {
		more := Step{By: InRoom, Min: a.MoreRest}
		if n := len(out); n > 0 && out[n-1].Rests() {
			more.Spread, more.lies = out[n-1].Spread, out[n-1].lies
		}
		at := len(out)
		if at > 1 && o.tempers() {
			at--
		}
		out = slices.Insert(out, at, more)
	}
	return out
}

// Lying is how the last rest lies: the mass of a piece, g, and how flat it is pressed, mm; 0 in one.
func (o *Own) Lying() (chillG, flatMM float64) {
	s, _ := o.lastRest()
	return s.lies.chillG, s.lies.flatMM
}

// worked is the number of steps up to the last kneading.
func (o *Own) worked() int {
	for i := len(o.Steps); i > 0; i-- {
		if !o.Steps[i-1].Rests() {
			return i
		}
	}
	return 0
}

// tempers says whether the way ends in the room after the fridge.
func (o *Own) tempers() bool {
	n := len(o.Steps)
	return n > 1 && o.Steps[n-1].By == InRoom && o.Steps[n-2].By == InFridge
}

// lastRest is the last rest but tempering after the last kneading; false where there is none.
func (o *Own) lastRest() (Step, bool) {
	n := len(o.Steps)
	if o.tempers() {
		n--
	}
	if n > o.worked() {
		return o.Steps[n-1], true
	}
	return Step{}, false
}

// own is the maker's way followed literally: the dough it leaves, the folded passes that finish it.
func (d *Dough) own(a Ask) Way {
	w := Way{School: a.School, Steps: a.Own.steps(a)}
	var last Tool
	for _, s := range slices.Backward(a.Own.Steps) {
		if s.Rests() || s.By == ByMixing {
			continue
		}
		if last == "" {
			last, w.KneadMin = s.By, s.Min
		}
		if s.By == last {
			w.Turns++
			w.Uneven = w.Uneven || math.Abs(s.Min-w.KneadMin) > 1e-9
		}
	}
	if rest, ok := a.Own.lastRest(); ok {
		w.RestMin = rest.Min
	}
	if w.Folds = d.foldsFor(a, d.Through(a, w)); w.Folds < 0 {
		w.Folds = int(d.usualFolds(a))
		if a.FixFolds != nil && !a.Pin {
			w.Folds = int(*a.FixFolds)
		}
	}
	d.finish(a, &w)
	return w
}
