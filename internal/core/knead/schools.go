package knead

import (
	"fmt"

	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
)

// School is a way of working a dough.
type School string

// The schools, and the choice to leave it to Hollen. A school is added here, as a constant and a
// row of the table below, and nowhere else.
const (
	Auto      School = "auto"
	Long      School = "long"      // one kneading by hand, one rest
	Turns     School = "turns"     // short kneadings with rests between, then hours in the cold
	Short     School = "short"     // barely kneaded, then finished in folded passes
	Hook      School = "hook"      // by mixer
	Processor School = "processor" // seconds in the bowl, minutes by hand
)

// Bowl is what bounds how much dough a school works at once.
type Bowl string

// Dough is worked in one of these.
const (
	Hands        Bowl = "hands"
	MixerBowl    Bowl = "mixer"
	ProcessorJar Bowl = "processor"
)

// Words are a step of kneading in words: what it is called, what is done, what to look for and how
// to try it.
type Words struct{ Head, Text, Feel, Test string }

// Traits is everything that sets one school apart from the others.
type Traits struct {
	School School
	Name   string // in a list to choose from
	Short  string // in a word or two
	Buys   string // what it buys
	Costs  string // what it costs
	Bowl   Bowl
	Cold   bool // its last rest is always in the fridge

	// Mix is how flour and liquids come together: of flour, liquids and the flour held back, in
	// words; "" for a well or a bowl, as the maker says.
	Mix      string
	WarmedBy string // what warms the dough
	// Hand is a kneading by hand in words, the n-th of so many.
	Hand func(n, of int) Words
	// Work is all kneading of a way in words.
	Work func(r *rules.Knead, w *Way) string

	method   func(*rules.Knead) rules.Method              // of what warms the dough
	outlines func(a Ask, r *rules.Knead) []outline        // what may be done before the last rest, least work first
	rests    func(a Ask, r *rules.Knead) (lo, hi float64) // the last rest, min
	folds    func(r *rules.Knead) (lo, hi float64)        // folded passes at the widest stop
	// what is done before the last rest where nothing within the school is ready
	usual func(a Ask, r *rules.Knead) outline
}

// byHand is how a dough is kneaded by hand until it is done.
var byHand = Words{"Knead by hand", "Board clean, dry crumbs scraped off and sieved for later. Heel of the hand, " +
	"fold, quarter turn.",
	"Smooth and silky; it gets harder, then glides.",
	"Poke it: it springs back. Flex it: it bends without cracking. Stretch a bit thin: it makes a window."}

func usualHand(int, int) Words { return byHand }

func usualWork(_ *rules.Knead, w *Way) string { return measure.Minutes(w.KneadMin) }

func usualRests(a Ask, r *rules.Knead) (lo, hi float64) { return a.MinRest, r.RestMaxMin }

func usualFolds(r *rules.Knead) (lo, hi float64) { return r.LongFolds, r.LongFolds }

func handWarms(r *rules.Knead) rules.Method { return r.Hand }

// usually is one kneading of the school's usual minutes, or the maker's.
func usually(by Tool, minutes func(r *rules.Knead) float64, first func(r *rules.Knead) []Step) func(a Ask,
	r *rules.Knead) outline {
	return func(a Ask, r *rules.Knead) outline {
		m := minutes(r)
		return oneKneading(by, a.minutes(m, m), first(r)...)[0]
	}
}

func nothingFirst(*rules.Knead) []Step { return nil }

// oneKneading are outlines of one kneading after what is done first.
func oneKneading(by Tool, minutes []float64, first ...Step) (out []outline) {
	for _, m := range minutes {
		out = append(out, outline{append(first[:len(first):len(first)], Step{By: by, Min: m}), m, 1})
	}
	return out
}

// schools are the schools in the order a list shows them.
var schools = []Traits{
	{School: Long, Name: "Long: one kneading, one rest", Short: "Long",
		Buys:  "you feel the dough come right; even, supple, ready tonight",
		Costs: "a quarter of an hour of arms, and one pair of hands kneads only so much",
		Bowl:  Hands, WarmedBy: "from the hands", Hand: usualHand, Work: usualWork, method: handWarms,
		rests: usualRests, folds: usualFolds,
		outlines: func(a Ask, r *rules.Knead) []outline {
			return oneKneading(ByHand, a.minutes(r.LongMinMin, r.LongMaxMin))
		},
		usual: usually(ByHand, func(r *rules.Knead) float64 { return r.LongUsualMin }, nothingFirst)},
	{School: Turns, Name: "In turns, then hours in the cold", Short: "In turns",
		Buys:  "little labour at a time, the softest dough, the best for the pin",
		Costs: "a place in the fridge, a day’s thinking ahead, and it comes out stiff",
		Bowl:  Hands, Cold: true, WarmedBy: "from the hands", method: handWarms, folds: usualFolds,
		Hand: func(n, of int) Words {
			w := byHand
			if n < of {
				w.Head = fmt.Sprintf("Knead, turn %d", n)
				w.Feel = "Better each turn: rough, then even."
				w.Test = "It stops sticking to the board."
			}
			return w
		},
		Work: func(_ *rules.Knead, w *Way) string {
			return measure.Plural(w.Turns, "turn", "turns") + " of " + measure.Minutes(w.KneadMin)
		},
		rests:    func(_ Ask, r *rules.Knead) (lo, hi float64) { return r.TurnsColdMinMin, r.TurnsColdMaxMin },
		outlines: inTurns,
		usual: func(a Ask, r *rules.Knead) outline {
			n := int(r.TurnsMin)
			if a.FixTurns != nil {
				n = int(*a.FixTurns)
			}
			return a.turns(r, n, a.minutes(r.TurnUsualMin, r.TurnUsualMin)[0])
		}},
	{School: Short, Name: "Short, then folded passes", Short: "Short",
		Buys:  "hardly any kneading; the rollers do it while they lay the sheet straight",
		Costs: "many folded passes a piece; a pin cannot finish it",
		Bowl:  Hands, WarmedBy: "from the hands", Work: usualWork, method: handWarms,
		Hand: func(int, int) Words {
			w := byHand
			w.Feel, w.Test = "Together, still rough as bark.", "It flexes once without falling apart; the rollers do "+
				"the rest."
			return w
		},
		rests: func(a Ask, r *rules.Knead) (lo, hi float64) {
			return max(a.MinRest, r.ShortRestMinMin), max(a.MinRest, r.ShortRestMaxMin)
		},
		folds: func(r *rules.Knead) (lo, hi float64) { return r.ShortFoldsMin, r.ShortFoldsMax },
		outlines: func(a Ask, r *rules.Knead) []outline {
			return oneKneading(ByHand, a.minutes(r.ShortMinMin, r.ShortMaxMin))
		},
		usual: usually(ByHand, func(r *rules.Knead) float64 { return r.ShortMaxMin }, nothingFirst)},
	{School: Hook, Name: "Mixer with a hook", Short: "Hook",
		Buys:  "hands free, the same every time, batches past what arms can do",
		Costs: "a machine to clean, and it warms the dough",
		Bowl:  MixerBowl, WarmedBy: "from the hook", Hand: usualHand, rests: usualRests, folds: usualFolds,
		Mix: "%s into the bowl of the mixer, then %s. %s of flour stays out for later.",
		Work: func(r *rules.Knead, w *Way) string {
			return fmt.Sprintf("%g minutes slow and %s on the hook", r.HookSlowMin, measure.Minutes(w.KneadMin))
		},
		method: func(r *rules.Knead) rules.Method { return r.Hook },
		outlines: func(a Ask, r *rules.Knead) []outline {
			return oneKneading(ByHook, a.minutes(r.HookMinMin, r.HookMaxMin), Step{By: BySlowHook, Min: r.HookSlowMin})
		},
		usual: usually(ByHook, func(r *rules.Knead) float64 { return r.HookUsualMin },
			func(r *rules.Knead) []Step { return []Step{{By: BySlowHook, Min: r.HookSlowMin}} })},
	{School: Processor, Name: "Processor, then by hand", Short: "Processor",
		Buys:  "a minute of noise; brings stiff and coarse doughs together",
		Costs: "small bowls, quick heat: past a minute it cooks the dough",
		Bowl:  ProcessorJar, WarmedBy: "in the processor", rests: usualRests, folds: usualFolds,
		Mix: "%s into the processor; pour %s in while it runs. %s of flour stays out.",
		Hand: func(int, int) Words {
			w := byHand
			w.Text = "Turn the sand out, press it into one mass, and knead."
			return w
		},
		Work: func(_ *rules.Knead, w *Way) string {
			return fmt.Sprintf("%.0f seconds in the processor and %s by hand", 60*w.Steps[0].Min,
				measure.Minutes(w.KneadMin))
		},
		method: func(r *rules.Knead) rules.Method { return r.Processor },
		outlines: func(a Ask, r *rules.Knead) (out []outline) {
			for _, s := range []float64{r.ProcessorMinMin, r.ProcessorMaxMin} {
				out = append(out, oneKneading(ByHand, a.minutes(r.ProcessorHandMinMin, r.ProcessorHandMaxMin),
					Step{By: ByProcessor, Min: s})...)
			}
			return out
		},
		usual: usually(ByHand, func(r *rules.Knead) float64 { return r.ProcessorHandMinMin },
			func(r *rules.Knead) []Step { return []Step{{By: ByProcessor, Min: r.ProcessorMinMin}} })},
}

// inTurns are short kneadings with rests between.
func inTurns(a Ask, r *rules.Knead) (out []outline) {
	lo, hi := int(r.TurnsMin), int(r.TurnsMax)
	if a.FixTurns != nil {
		lo, hi = int(*a.FixTurns), int(*a.FixTurns)
	}
	for n := lo; n <= hi; n++ {
		for _, m := range a.minutes(r.TurnMinMin, r.TurnMaxMin) {
			out = append(out, a.turns(r, n, m))
		}
	}
	return out
}

// turns is n kneadings of m minutes with rests between; of several loads each rests at least until
// the others have had their turn.
func (a Ask) turns(r *rules.Knead, n int, m float64) outline {
	steps := []Step{{By: ByHand, Min: m}}
	for range n - 1 {
		steps = append(steps, Step{By: InRoom, Min: max(r.TurnRestMin, a.waits(m))}, Step{By: ByHand, Min: m})
	}
	return outline{steps, m, n}
}

// Schools returns the schools in the order a list shows them.
func Schools() []School {
	out := make([]School, len(schools))
	for i, t := range schools {
		out[i] = t.School
	}
	return out
}

// Traits returns what sets s apart; nil for what is no school, which no request may ask for.
func (s School) Traits() *Traits {
	for i := range schools {
		if schools[i].School == s {
			return &schools[i]
		}
	}
	return nil
}

// Machine says whether a machine does the kneading, and so warms the dough fast.
func (t *Traits) Machine() bool { return t.Bowl != Hands }

// HeatC is what warms the dough most, °C a minute.
func (t *Traits) HeatC(r *rules.Knead) float64 { return t.method(r).HeatC }
