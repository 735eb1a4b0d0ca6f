package practice

import (
	"fmt"
	"math"
	"math/rand/v2"
)

// Call is the key of a judgement call.
type Call string

// The ten calls, in the order of work.
const (
	Shaggy    Call = "shaggy"
	Water     Call = "water"
	Kneaded   Call = "kneaded"
	Rested    Call = "rested"
	SkinFound Call = "skin"
	Folds     Call = "folds"
	Step      Call = "step"
	Thin      Call = "thin"
	Dry       Call = "dry"
	Pot       Call = "pot"
)

// Option is one answer to a call.
type Option struct {
	Key    string
	Name   string  // as on its key
	Points float64 // of water it gives, negative for flour; 0: none
	act    func(d *Dough, u float64)
}

// Context is what a call is met after.
type Context struct {
	Key string
	Say string // what was done so far
	// Kneaded is how long it was kneaded by then, min, where that is all that was done
	Kneaded float64
	then    func(d *Dough, rng *rand.Rand)
}

// CallOf is a call: when it comes up, what may be done, what is looked at, what it is about.
type CallOf struct {
	Key      Call
	Name     string // the question
	Short    string // in a list
	Contexts func(b *Base) []Context
	Options  func(b *Base) []Option
	Signs    []Sign
	Focus    []Cause
	Scale    float64 // points of regret at which a mark is 1/e. Source: house
	Ceiling  float64 // what the doctor's table gets of it at level 2, mark. Source: measured, TestDrills
	classes  classes
}

// classes are what a call is about, told apart by what nobody sees.
type classes struct {
	of    func(d *Dough) int
	words []string // of so many doughs, after a number
}

func waterClass(d *Dough) int {
	switch {
	case d.Dev < -1.2:
		return 0
	case d.Dev > 1.2:
		return 2
	}
	return 1
}

func below(v, a, b float64) int {
	switch {
	case v < a:
		return 0
	case v < b:
		return 1
	}
	return 2
}

var (
	ofWater = classes{waterClass, []string{"too dry", "right", "too wet"}}
	ofKnead = classes{
		func(d *Dough) int { return below(d.D(), .75, .88) },
		[]string{"kneaded too little", "nearly there",
			"kneaded enough"},
	}
	ofRest = classes{func(d *Dough) int { return below(-d.T, -.40, -.25) }, []string{"still tense", "nearly rested",
		"rested"}}
	ofSkin  = classes{func(d *Dough) int { return below(d.Skin, .12, 9) }, []string{"moist enough", "under a skin"}}
	ofSheet = classes{func(d *Dough) int {
		return below(-math.Log(d.MM/d.b.AimMM), -math.Log(1.05/.9), -math.Log(.78/.9))
	}, []string{"too thick", "right", "too thin"}}
	ofDry = classes{func(d *Dough) int { return below(d.X, .024, .085) }, []string{"damp", "at leather", "brittle"}}
	ofPot = classes{func(d *Dough) int { return below(d.Bite, -.15, .20) }, []string{"hard inside", "done", "soft"}}
)

var wetness = []Cause{OffMoisture, OffAbsorption, OffEgg, OffScale}

// work is an option that does the same whatever is drawn.
func work(key, name string, act func(d *Dough)) Option {
	return Option{Key: key, Name: name, act: func(d *Dough, _ float64) { act(d) }}
}

// enough is the option that calls it done.
func enough(name string) Option { return work("enough", name, func(*Dough) {}) }

// puts is an option that gives points of water, or of flour where negative, in two goes.
func puts(b *Base, key string, points float64) Option {
	name := fmt.Sprintf("Water, {%.0f g}", points*b.waterPoint)
	if points < 0 {
		name = fmt.Sprintf("Flour, {%.0f g}", -points*b.flourPoint)
	}
	return Option{Key: key, Name: name, Points: points, act: func(d *Dough, _ float64) { d.worked(points) }}
}

// kneadedFor are the contexts of a dough kneaded for so many minutes and nothing else.
func kneadedFor(minutes ...float64) func(*Base) []Context {
	return func(*Base) (out []Context) {
		for _, n := range minutes {
			say := fmt.Sprintf("kneaded %.0f min", n)
			switch n {
			case .5:
				say = "kneaded half a minute"
			case 1:
				say = "kneaded 1 min"
			}
			out = append(
				out,
				Context{Key: fmt.Sprint(n), Say: say, Kneaded: n, then: func(d *Dough, _ *rand.Rand) { d.Knead(n) }},
			)
		}
		return out
	}
}

// so says what a station's work was that a call comes after.
type so struct {
	knead, rest, dry, seconds float64
	cold, open, bare          bool
	folds, stop               int
	raw                       bool // the water was never put right
}

// usual is good work: kneaded ten minutes, rested thirty, folded twice, to the plan's stop, twelve minutes on the rack.
func usual(b *Base) so { return so{knead: 10, rest: b.RestMin, folds: 2, stop: b.Last, dry: 12} }

// upTo works a dough up to a station, as s says: 2 the rest, 3 the first folds, 4 the sheet, 5 the rack, 7 the pot.
func (d *Dough) upTo(station int, rng *rand.Rand, s so) {
	d.Knead(s.knead)
	if math.Abs(d.Dev) > 1.5 && !s.raw { // the water was put right, more or less
		d.give(-(d.Dev + .8*rng.NormFloat64()))
		d.Film = 0
	}
	d.Rest(s.rest, s.open, s.cold)
	if station < 3 {
		return
	}
	if s.open {
		d.Skin *= .5
	}
	for range s.folds {
		d.Fold()
	}
	for i := 1; i <= s.stop; i++ {
		d.Pass(i, .5)
	}
	d.WasteG, d.Holes = 0, false
	if station < 5 {
		return
	}
	if !s.bare {
		d.Dust = 1
	} else {
		d.Dust = 0
	}
	if !d.b.Before {
		d.Cut()
	}
	d.Wait(s.dry)
	if station < 7 {
		return
	}
	if d.b.Before {
		d.Cut()
	}
	d.Bite = math.Log(s.seconds / d.NeedS())
}

// steps is the pass that leaves n stops out, as far as the machine goes.
func steps(d *Dough, n int, u float64) { d.Pass(min(d.Stop+1+n, len(d.b.Gaps)-1), u) }

// calls are the ten calls.
var calls = []CallOf{
	{Key: Shaggy, Name: "It comes together: wait, or add?", Short: "comes together", Contexts: kneadedFor(.5, 1, 2, 4),
		Options: func(b *Base) []Option {
			return []Option{work("knead", "Knead on, 2 min", func(d *Dough) { d.Knead(2) }), puts(b, "water", 2.4),
				puts(
					b,
					"flour",
					-2.4,
				), work("wrap", "Wrap it, wait 10 min", func(d *Dough) { d.Rest(10, false, false) })}
		}, Signs: []Sign{Feel, Stick, Flex}, Focus: wetness, Scale: 2, Ceiling: .75, classes: ofWater},
	{Key: Water, Name: "Too dry, too wet, or right?", Short: "dry or wet", Contexts: kneadedFor(4, 6, 8),
		Options: func(b *Base) []Option {
			return []Option{
				work("leave", "Leave it, knead on", func(d *Dough) { d.Knead(2) }),
				puts(b, "water-step", 1.2),
				puts(b, "water-two", 2.6),
				puts(b, "flour-step", -1.2),
				puts(b, "flour-two", -2.6),
			}
		}, Signs: []Sign{Feel, Stick, Flex}, Focus: wetness, Scale: 2.5, Ceiling: .85, classes: ofWater},
	{Key: Kneaded, Name: "Kneaded enough?", Short: "kneaded enough", Contexts: kneadedFor(3, 5, 8, 11, 15),
		Options: func(b *Base) []Option {
			return []Option{enough("Wrap it now"), work("more", "Knead 2 more", func(d *Dough) { d.Knead(2) }),
				work("five", "Knead 5 more", func(d *Dough) { d.Knead(5) }), puts(b, "water-step", 1.2)}
		}, Signs: []Sign{Surface, Spring, Flex, Window}, Focus: []Cause{OffHand}, Scale: 1.5, Ceiling: .71,
		classes: ofKnead},
	{Key: Rested, Name: "Rested enough?", Short: "rested enough", Contexts: restedFor,
		Options: func(b *Base) []Option {
			return []Option{
				enough("Roll it"),
				work("more", "Wait 10 more", func(d *Dough) { d.Rest(10, false, false) }),
				work("long", "Wait 30 more", func(d *Dough) { d.Rest(30, false, false) }),
				wetAndRest(b),
			}
		}, Signs: []Sign{Poke, Give, Surface}, Focus: []Cause{OffRelax, OffTemp}, Scale: 1.5, Ceiling: .91,
		classes: ofRest},
	{Key: SkinFound, Name: "Is that a skin?", Short: "a skin", Contexts: lidAjar,
		Options: func(b *Base) []Option {
			return []Option{enough("Go on"), work("pare", "Pare, damp, wrap 15 min", (*Dough).Pare), wetAndRest(b),
				work("wrap", "Wrap it, 10 min", func(d *Dough) {
					d.Rest(10, false, false)
					d.Skin *= .7
				})}
		}, Signs: []Sign{Skin, Feel, Poke}, Focus: []Cause{OffRoom}, Scale: 1.5, Ceiling: .99, classes: ofSkin},
	{Key: Folds, Name: "Folded enough?", Short: "first passes", Contexts: foldedOnce,
		Options: func(b *Base) []Option {
			return []Option{enough("Go down"), work("twice", "Fold twice more", func(d *Dough) { d.fold(2) }),
				work("five", "Fold five times", func(d *Dough) { d.fold(5) }),
				{Key: "mist", Name: "Mist it, fold, wait 5 min", Points: .8, act: func(d *Dough, _ float64) {
					d.give(.8)
					d.Fold()
					d.Rest(5, false, false)
				}}}
		}, Signs: []Sign{Edges, Feel}, Focus: []Cause{OffHand}, Scale: 1, Ceiling: .74, classes: ofKnead},
	{Key: Step, Name: "The next stop?", Short: "the next stop", Contexts: atStop,
		Options: func(b *Base) []Option {
			return []Option{{Key: "next", Name: "The next stop", act: func(d *Dough, u float64) { steps(d, 0, u) }},
				{Key: "one", Name: "Leave one out", act: func(d *Dough, u float64) { steps(d, 1, u) }},
				{Key: "two", Name: "Leave two out", act: func(d *Dough, u float64) { steps(d, 2, u) }},
				{Key: "wait", Name: "Wait 10 min first", act: func(d *Dough, u float64) {
					d.Rest(10, false, false)
					steps(d, 0, u)
				}}}
		}, Signs: []Sign{Edges, Poke, Give}, Focus: []Cause{OffRelax, OffGap}, Scale: 2, Ceiling: .84, classes: ofRest},
	{Key: Thin, Name: "Thin enough?", Short: "thin enough", Contexts: nearlyThin,
		Options: func(b *Base) []Option {
			return []Option{enough("End here"), work("finer", "One stop finer", func(d *Dough) { steps(d, 0, .9) }),
				work("two", "Two stops finer", func(d *Dough) {
					steps(d, 0, .9)
					steps(d, 0, .9)
				})}
		}, Signs: []Sign{Seen, Leaves}, Focus: []Cause{OffGap}, Scale: 2.5, Ceiling: .95, classes: ofSheet},
	{Key: Dry, Name: "Dry enough?", Short: "dry enough", Contexts: onRack,
		Options: func(b *Base) []Option {
			name := "Into the pot"
			if b.Before {
				name = "Cut it now"
			}
			return []Option{enough(name), work("more", "5 min more", func(d *Dough) { d.Wait(5) }),
				work("long", "15 min more", func(d *Dough) { d.Wait(15) }),
				work("damp", "Damp cloth, 10 min", (*Dough).Damp)}
		}, Signs: []Sign{Leather}, Focus: []Cause{OffDry, OffRoom}, Scale: 2, Ceiling: 1, classes: ofDry},
	{Key: Pot, Name: "Done in the pot?", Short: "done", Contexts: inPot,
		Options: func(b *Base) []Option {
			return []Option{enough("Drain it"), work("more", "Taste again in 15 s", func(d *Dough) { d.boil(15) }),
				work("long", "Taste again in 45 s", func(d *Dough) { d.boil(45) })}
		}, Signs: []Sign{Tooth}, Focus: []Cause{OffCook}, Scale: 2.5, Ceiling: .99, classes: ofPot},
}

// The signs of a whole batch that bear on each call. What tells nothing of a call is left out: a hundred doughs are too
// few to be sorted by everything at once.
var bears = map[Call][]Sign{Rested: {Poke, Give, Skin, Feel}, SkinFound: {Poke, Give, Skin, Feel}, Folds: {Edges, Poke},
	Step: {Edges, Poke, Give}, Thin: {Leaves, Seen}, Dry: {Leather, Stick}, Pot: {Tooth}}

// fold folds it n times.
func (d *Dough) fold(n int) {
	for range n {
		d.Fold()
	}
}

// wetAndRest kneads a step of water in and rests it again.
func wetAndRest(b *Base) Option {
	o := puts(b, "water-step", 1.2)
	o.Name = fmt.Sprintf("Knead in {%.0f g} of water", 1.2*b.waterPoint)
	o.act = func(d *Dough, _ float64) {
		d.worked(1.2)
		d.Rest(d.b.Rules.Practice.GoodRestMin, false, false)
	}
	return o
}

// Calls are the ten calls, in the order of work.
func Calls() []CallOf { return calls }

// FindCall is the row of a call and whether there is one.
func FindCall(c Call) (*CallOf, bool) {
	for i := range calls {
		if calls[i].Key == c {
			return &calls[i], true
		}
	}
	return nil, false
}

func restedFor(b *Base) (out []Context) {
	for _, x := range []struct {
		min  float64
		cold bool
	}{{5, false}, {12, false}, {20, false}, {35, false}, {30, true}} {
		where := "covered"
		if x.cold {
			where = "in the fridge"
		}
		s := usual(b)
		s.rest, s.cold = x.min, x.cold
		out = append(out, Context{Key: fmt.Sprintf("%.0f %s", x.min, where),
			Say:  fmt.Sprintf("kneaded 10 min, rested %.0f min %s", x.min, where),
			then: func(d *Dough, rng *rand.Rand) { d.upTo(2, rng, s) }})
	}
	return out
}

func lidAjar(b *Base) (out []Context) {
	for _, n := range []float64{20, 30, 45} {
		s := usual(b)
		s.rest = n
		out = append(
			out,
			Context{
				Key: fmt.Sprint(n),
				Say: fmt.Sprintf("kneaded 10 min, %.0f min at rest; the lid may have stood ajar", n),
				then: func(d *Dough, rng *rand.Rand) {
					lay := s
					lay.open = rng.Float64() >= .45
					d.upTo(2, rng, lay)
				},
			},
		)
	}
	return out
}

func foldedOnce(b *Base) (out []Context) {
	for _, n := range []float64{3, 5, 10} {
		s := usual(b)
		s.knead, s.folds, s.stop = n, 1, 0
		out = append(
			out,
			Context{Key: fmt.Sprint(n), Say: fmt.Sprintf("kneaded %.0f min, rested %.0f, folded once", n, s.rest),
				then: func(d *Dough, rng *rand.Rand) { d.upTo(3, rng, s) }},
		)
	}
	return out
}

func atStop(b *Base) (out []Context) {
	n := len(b.Gaps)
	for _, well := range []bool{true, false} {
		for _, i := range []int{max(1, n*2/10), max(2, n*5/10)} {
			s := usual(b)
			s.stop, s.knead, s.rest = i, 4, 8
			word := "barely rested"
			if well {
				s.knead, s.rest, word = 11, b.RestMin*4/3, "well rested"
			}
			out = append(out, Context{Key: fmt.Sprintf("%v %d", well, i),
				Say: fmt.Sprintf(
					"kneaded %.0f min, rested %.0f, %s; through stop %s, the %s of %d",
					s.knead,
					s.rest,
					word,
					b.Labels[i],
					ordinal(i+1),
					n,
				),
				then: func(d *Dough, rng *rand.Rand) { d.upTo(3, rng, s) }})
		}
	}
	return out
}

func nearlyThin(b *Base) (out []Context) {
	for _, i := range []int{b.Last - 1, b.Last} {
		s := usual(b)
		s.stop = i
		out = append(out, Context{Key: fmt.Sprint(i),
			Say: fmt.Sprintf(
				"rolled to stop %s, the %s of %d; wanted: {%.1f mm}",
				b.Labels[i],
				ordinal(i+1),
				len(b.Gaps),
				b.AimMM,
			),
			then: func(d *Dough, rng *rand.Rand) { d.upTo(3, rng, s) }})
	}
	return out
}

func onRack(b *Base) (out []Context) {
	add := func(n float64, bare bool) {
		s := usual(b)
		s.dry, s.bare = n, bare
		say := fmt.Sprintf("the sheet dusted, %.0f min on the rack", n)
		key := fmt.Sprint(n)
		if !b.Before {
			say = fmt.Sprintf("cut, dusted, %.0f min on the rack", n)
			key += " dusted"
			if bare {
				say = fmt.Sprintf("cut, not dusted, %.0f min on the rack", n)
				key = fmt.Sprint(n) + " bare"
			}
		}
		out = append(out, Context{Key: key, Say: say, then: func(d *Dough, rng *rand.Rand) { d.upTo(5, rng, s) }})
	}
	if b.Before {
		for _, n := range []float64{3, 7, 12, 25, 50} {
			add(n, false)
		}
		return out
	}
	for _, n := range []float64{3, 7, 12, 25} {
		add(n, true)
	}
	add(25, false)
	add(50, false)
	return out
}

func inPot(b *Base) (out []Context) {
	need := b.potS(.03)
	for _, share := range []float64{.55, .8, 1.05, 1.4} { // of what the plan says
		n := 10 * math.Round(share*need/10)
		s := usual(b)
		s.seconds = n
		out = append(
			out,
			Context{Key: fmt.Sprint(n), Say: fmt.Sprintf("{%.1f mm} by plan, %.0f s in the pot", b.AimMM, n),
				then: func(d *Dough, rng *rand.Rand) { d.upTo(7, rng, s) }},
		)
	}
	return out
}

// ordinal writes a small number as a place.
func ordinal(n int) string {
	words := []string{"", "first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth"}
	if n < len(words) {
		return words[n]
	}
	return fmt.Sprintf("%dth", n)
}

// Mark is a regret as a share, 0–1: e^(−regret/scale of the call).
func (c *CallOf) Mark(regret float64) float64 { return math.Exp(-regret / c.Scale) }
