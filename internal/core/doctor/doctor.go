// Package doctor answers: what is this dough telling you, what is the likely cause, what is
// the measured act for this batch, what to expect, and when to stop?
//
// Δ points of hydration are Δ·F14/100 g of working water; given as flour instead they are
//
//	flour = F14·Δ/100 / ((1−m)/0.86·(1 + Hw_t/100) − 1)
package doctor

import (
	"fmt"
	"math"
	"slices"
	"strings"
)

// Kind is what an act adds or does.
type Kind string

// The kinds of act. Masses are g, kneading and rest min.
const (
	Nothing Kind = ""
	Water   Kind = "water"
	Egg     Kind = "egg"
	Milk    Kind = "milk"
	Oil     Kind = "oil"
	Flour   Kind = "flour"
	Knead   Kind = "knead"
	Rest    Kind = "rest"
)

// How much of each stands for a gram of water. Source: composition tables, fat at a fifth of
// its weight.
const (
	EggForWater  = 1.28
	MilkForWater = 1.13
	OilForWater  = 5.
)

// Measures of the doctor. Source: house.
const (
	StepPoints = .8  // most added at once, points; a minute's kneading between
	FeelPoints = 1.2 // one step of "too dry" or "too wet", points
)

// Dough is the batch as the acts are measured for it.
type Dough struct {
	F14G       float64 // flour at the 14 % basis, g
	MoistureWB float64 // of the flour as weighed, share
	BasisWB    float64 // 0.14
	Hw         float64 // points
	TargetHw   float64 // points
	OutMin     float64 // minutes out of the fridge by now
	CautionMin float64
	DiscardMin float64
	Lasting    bool // nothing in it spoils in a day: no egg, no milk
	On         On
	// ReserveWaterG and ReserveFlourG stand by the board, or were held back, and are still there, g.
	ReserveWaterG, ReserveFlourG float64
}

// On is what the dough is thinned on; some signs and causes are seen on one of them alone.
type On string

// A dough is thinned on one of these; Anything where it makes no difference.
const (
	Anything On = ""
	Rollers  On = "rollers"
	Pin      On = "pin"
)

// shows says whether what belongs to o is seen on that.
func (o On) shows(on On) bool { return o == Anything || on == Anything || o == on }

// WaterG returns the water that is worth points of hydration, g.
func (d Dough) WaterG(points float64) float64 { return points * d.F14G / 100 }

// FlourG returns the flour that takes points of hydration off, g.
func (d Dough) FlourG(points float64) float64 {
	per := (1-d.MoistureWB)/(1-d.BasisWB)*(1+d.TargetHw/100) - 1
	return d.F14G * points / 100 / per
}

// Answer is one answer to a question.
type Answer struct{ Key, Text string }

// Question narrows the causes down.
type Question struct {
	Key, Text string
	Answers   []Answer // none: a number of minutes is asked for
}

// Cause is one likely cause of a sign, with its remedy.
type Cause struct {
	If      string // "question=answer" that makes it the likelier, "" when none does
	On      On     // where it happens
	Why     string
	Act     Kind
	Points  float64 // of hydration, for masses
	Minutes float64 // for kneading and rest
	Do      string  // in words; {amount} is filled in
	Expect  string
	Stop    string
}

// Sign is something a maker sees.
type Sign struct {
	Key, Name string
	Stages    []string // where it is seen
	Look      string   // key of its drawing
	On        On       // where it is seen
	Questions []Question
	Causes    []Cause // the likeliest first, before any answer
	Words     string  // more words a search may find it by
}

// Finding is one cause with the act measured for a batch.
type Finding struct {
	Cause   int // of the sign, from 0: the same whatever is answered
	Why     string
	Likely  bool // the answers speak for it
	Act     Kind
	Amount  float64 // g or min, 0 for Nothing
	Steps   int     // in so many goes, after what stands ready
	Ready   float64 // of it, what stands by the board or was held back, g
	Do      string
	Instead string // what the water may be given as
	Expect  string
	Stop    string
}

// Ask returns the findings for a sign with the answers given (question key to answer key),
// likeliest first. What stands ready for it is used first: water by the board, flour held back.
func (s Sign) Ask(d Dough, answers map[string]string) []Finding {
	var out []Finding
	for i, c := range s.Causes {
		f := Finding{Cause: i, Why: c.Why, Act: c.Act, Expect: c.Expect, Stop: c.Stop, Steps: 1}
		key, want, conditional := strings.Cut(c.If, "=")
		given := answers[key]
		f.Likely = conditional && given == want
		if conditional && given != "" && given != want || !c.On.shows(d.On) {
			continue // the answer speaks against it, or it cannot be
		}
		amount := ""
		give := func(g float64, what, ready string, reserve float64) { // more in steps of at most StepPoints
			f.Amount = g
			if f.Ready = min(g, reserve); f.Ready < 1 {
				f.Ready = 0
			}
			more := g - f.Ready
			f.Steps = int(math.Ceil(c.Points*more/g/StepPoints - 1e-9))
			amount = grams(more) + " of " + what
			if f.Steps > 1 {
				amount = fmt.Sprintf("%d times %s of %s", f.Steps, grams(more/float64(f.Steps)), what)
			}
			switch {
			case f.Ready > 0 && more < 1:
				f.Steps, amount = 1, fmt.Sprintf("%.0f g of the %s %s", f.Ready, what, ready)
			case f.Ready > 0: // all of it, as it was weighed out
				amount = fmt.Sprintf("the %.0f g of %s %s, then %s", f.Ready, what, ready, amount)
			}
		}
		switch c.Act {
		case Water:
			give(d.WaterG(c.Points), "water", "by the board", d.ReserveWaterG)
			f.Instead = fmt.Sprintf("%s of beaten egg or %s of milk do the same; oil is a poor fix (%s).",
				grams(f.Amount*EggForWater),
				grams(f.Amount*MilkForWater), grams(f.Amount*OilForWater))
		case Flour:
			give(d.FlourG(c.Points), "flour", "held back", d.ReserveFlourG)
		case Knead, Rest:
			f.Amount = c.Minutes
			amount = fmt.Sprintf("%.0f minutes", c.Minutes)
		}
		f.Do = strings.ReplaceAll(c.Do, "{amount}", amount)
		out = append(out, f)
	}
	slices.SortStableFunc(out, func(a, b Finding) int {
		switch {
		case a.Likely && !b.Likely:
			return -1
		case b.Likely && !a.Likely:
			return 1
		}
		return 0
	})
	return out
}

func grams(g float64) string {
	if g < 9.95 {
		return fmt.Sprintf("%.1f g", g)
	}
	return fmt.Sprintf("%.0f g", g)
}

// Waited says what a wait of that many minutes means for the egg in it: by the food clock of
// the batch, counted from mixing. inCold is true when it lay in the fridge. What is to be thrown
// away has no other act.
func (d Dough) Waited(minutes float64, inCold bool) (words string, discard bool) {
	out := d.OutMin
	if !inCold {
		out += minutes
	}
	if d.Lasting {
		return "No egg and no milk in it: a wait dries it, and does no other harm in a day.", false
	}
	text := fmt.Sprintf("%.0f minutes out of the fridge by now. ", out)
	fine, soon, past := WaitWords(d.CautionMin, d.DiscardMin)
	switch {
	case out > d.DiscardMin:
		return text + past, true
	case out > d.CautionMin:
		return text + soon, false
	}
	return text + fine, false
}

// Interrupted is the key of the sign of a dough that waited.
const Interrupted = "interrupted"

// WaitWords say what to do with an egg dough that is out of the fridge for fewer minutes than caution, between it and
// discard, and for
// more.
func WaitWords(cautionMin, discardMin float64) (fine, soon, past string) {
	return fmt.Sprintf("Under %.0f: use it now, or put it into the fridge at once.", cautionMin),
		fmt.Sprintf("Past %.0f: use it now.", cautionMin),
		fmt.Sprintf("Past %.0f minutes usual advice is to throw it away, and nothing else. Your food authority’s "+
			"rules come first.", discardMin)
}

// Find returns the sign of that key and whether there is one.
func Find(key string) (Sign, bool) {
	for _, s := range Signs() {
		if s.Key == key {
			return s, true
		}
	}
	return Sign{}, false
}

// Search returns the signs seen at a stage ("" for all), on what the dough is thinned on, that hold
// every word of the text in their name, words or causes; those whose name holds them come first.
func Search(stage, text string, on On) []Sign {
	words := strings.Fields(strings.ToLower(text))
	var named, other []Sign
	for _, s := range Signs() {
		if stage != "" && !slices.Contains(s.Stages, stage) || !s.On.shows(on) {
			continue
		}
		name := strings.ToLower(s.Name)
		all := name + " " + strings.ToLower(s.Words)
		for _, c := range s.Causes {
			all += " " + strings.ToLower(c.Why)
		}
		inName, inAll := true, true
		for _, w := range words {
			inName, inAll = inName && strings.Contains(name, w), inAll && strings.Contains(all, w)
		}
		switch {
		case inName:
			named = append(named, s)
		case inAll:
			other = append(other, s)
		}
	}
	return append(named, other...)
}
