package practice

import (
	"fmt"
	"math"
	"math/rand/v2"

	"hollen/internal/core/rules"
)

// Sign is the key of something a dough shows.
type Sign string

// The signs, in the order of work.
const (
	Feel    Sign = "feel"
	Surface Sign = "surface"
	Spring  Sign = "spring"
	Flex    Sign = "flex"
	Stick   Sign = "stick"
	Window  Sign = "window"
	Poke    Sign = "poke"
	Give    Sign = "give"
	Skin    Sign = "skin"
	Edges   Sign = "edges"
	Leaves  Sign = "leaves"
	Seen    Sign = "seen"
	Leather Sign = "leather"
	Tooth   Sign = "tooth"
)

// Look is what is known of a sign: how it is named, its words from the least value up, and its value of a dough.
type Look struct {
	Key   Sign
	Name  string // what is done to see it, to stand before its word
	Ask   string // on the key that looks
	Words []string
	rule  func(*rules.Practice) *rules.PracticeSign
	value func(d *Dough, s *rules.PracticeSign) float64
}

// leafMost is the thickest sheet told by leaves of paper, leaves.
const leafLeast, leafMost = 4, 21

// feelWords are those of the log.
var feelWords = []string{"much too dry", "a little dry", "right", "a little wet", "much too wet"}

// looks are the signs, each one function of the dough.
var looks = []Look{
	{
		Feel,
		"in the hand",
		"How does it feel?",
		feelWords,
		func(r *rules.Practice) *rules.PracticeSign { return &r.Feel },
		func(d *Dough, s *rules.PracticeSign) float64 {
			return d.Dev - s.By[0]*math.Exp(-(d.Work+d.Credit)) + s.By[1]*(1-d.U()) + s.By[2]*d.Film - s.By[3]*d.Skin +
				s.By[4]*max(0, d.State.TempC-s.By[5])
		},
	},
	{Surface, "surface", "Look at its surface", []string{"rough", "even", "smooth, silky"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Surface },
		func(d *Dough, s *rules.PracticeSign) float64 {
			return math.Log(max(.05, d.Work+d.Credit)/d.know.W63Min) - s.By[0]*max(0, -d.Dev-s.By[1])
		}},
	{Spring, "dented", "Press a thumb in", []string{"the dent stays", "comes back slowly", "springs back"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Spring },
		func(d *Dough, s *rules.PracticeSign) float64 { return d.D() - s.By[0]*(1-d.T) }},
	{Flex, "flexed", "Flex it", []string{"bends", "cracks at the edge"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Flex },
		func(d *Dough, s *rules.PracticeSign) float64 {
			return -d.Dev - s.By[0] + s.By[1]*max(0, s.By[2]-d.D()) + s.By[3]*d.Skin
		}},
	{Stick, "on the board", "Does it stick?", []string{"lets go", "clings to the hand", "smears on the board"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Stick },
		func(d *Dough, s *rules.PracticeSign) float64 {
			return d.Dev + s.By[0]*(1-d.U()) + s.By[1]*d.Film + s.By[2]*max(0, d.State.TempC-s.By[3])
		}},
	{Window, "drawn thin", "Draw a window", []string{"tears at once", "light shines through"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Window },
		func(d *Dough, s *rules.PracticeSign) float64 {
			return (d.D()-s.By[0])/s.By[1] - s.By[2]*max(0, -d.Dev-s.By[3])
		}},
	{Poke, "poked", "Poke it", []string{"under 1 s", "1 s", "1.5 s", "2 s", "3 s", "4 s", "6 s", "8 s or more"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Poke },
		func(d *Dough, s *rules.PracticeSign) float64 {
			return math.Log(s.By[0]/max(d.T, s.By[3])) + s.By[1]*max(0, s.By[2]-d.D())
		}},
	{Give, "pressed", "Press it", []string{"gives like an earlobe", "firm", "hard"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Give },
		func(d *Dough, s *rules.PracticeSign) float64 {
			return -d.Dev + s.By[0]*d.T + s.By[1]*max(0, s.By[2]-d.State.TempC)
		}},
	{Skin, "outside", "Feel its outside", []string{"moist", "dry to the touch", "a crust"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Skin },
		func(d *Dough, s *rules.PracticeSign) float64 { return d.Skin }},
	{Edges, "edges", "Look at its edges", []string{"straight", "ragged", "in shreds"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Edges },
		func(d *Dough, s *rules.PracticeSign) float64 {
			return s.By[0]*max(0, s.By[1]-d.D()) + s.By[2]*max(0, -d.Dev-s.By[3]) + s.By[4]*d.Skin -
				s.By[5]*max(0, float64(d.Folds-1))
		}},
	{Leaves, "beside paper", "Lay it beside paper", leafWords(),
		func(r *rules.Practice) *rules.PracticeSign { return &r.Leaves },
		func(d *Dough, s *rules.PracticeSign) float64 { return math.Log(d.MM) }},
	{
		Seen,
		"held up",
		"Hold it up",
		[]string{"print can be read through it", "a hand shows through", "nothing shows through"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Seen },
		func(d *Dough, s *rules.PracticeSign) float64 { return math.Log(d.MM) },
	},
	{
		Leather,
		"touched",
		"Touch and bend it",
		[]string{"damp, layers cling", "leather: dry, bends", "edge cracks when bent"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Leather },
		func(d *Dough, s *rules.PracticeSign) float64 { return math.Log(max(d.X, s.By[0])) },
	},
	{Tooth, "bitten", "Bite one", []string{"a hard line inside", "tender, with a bite", "soft"},
		func(r *rules.Practice) *rules.PracticeSign { return &r.Tooth },
		func(d *Dough, s *rules.PracticeSign) float64 { return d.Bite }},
}

func leafWords() (w []string) {
	for n := leafLeast; n <= leafMost; n++ {
		w = append(w, fmt.Sprintf("%d leaves", n))
	}
	return w
}

// Looks are all signs, in the order of work.
func Looks() []Look { return looks }

// LookOf is the row of a sign.
func LookOf(s Sign) *Look {
	for i := range looks {
		if looks[i].Key == s {
			return &looks[i]
		}
	}
	return nil
}

// Word is what the i-th word of a sign says; "" where there is none.
func (s Sign) Word(i int) string {
	l := LookOf(s)
	if l == nil || i < 0 || i >= len(l.Words) {
		return ""
	}
	return l.Words[i]
}

// cuts are where a sign's words part, of its value.
func (b *Base) cuts(s Sign) []float64 { return b.parted[s] }

// part works the cuts of every sign out once.
func (b *Base) part() {
	r := &b.Rules.Practice
	b.parted = map[Sign][]float64{}
	for i := range looks {
		l := &looks[i]
		cuts := append([]float64{}, l.rule(r).Cuts...)
		switch l.Key {
		case Poke, Leather:
			for i := range cuts {
				cuts[i] = math.Log(cuts[i])
			}
		case Leaves: // every half leaf
			for n := leafLeast; n < leafMost; n++ {
				cuts = append(cuts, math.Log(float64(n)*paperMM+paperMM/2))
			}
		case Seen:
			cuts = []float64{math.Log(b.Rules.Roll.PrintMM), math.Log(b.Rules.Roll.HandMM)}
		}
		b.parted[l.Key] = cuts
	}
}

// paperMM is a leaf of paper, mm.
const paperMM = .1

// value is where a sign stands on its own line, and its spread for this dough's noise.
func (d *Dough) value(s Sign) (v, sd float64) {
	l := LookOf(s)
	r := l.rule(&d.b.Rules.Practice)
	return l.value(d, r), r.SD * d.noise
}

// See looks at a sign: which of its words. fresh is the chance of this one look; what stays with the dough comes from
// itself.
func (d *Dough) See(s Sign, fresh *rand.Rand) int {
	v, sd := d.value(s)
	stays := d.b.Rules.Practice.Persist
	e := math.Sqrt(stays)*source(d.hid.seed, hash(string(s))).NormFloat64() + math.Sqrt(1-stays)*fresh.NormFloat64()
	return wordAt(d.b.cuts(s), v+sd*e)
}

func wordAt(cuts []float64, v float64) int {
	i := 0
	for i < len(cuts) && v > cuts[i] {
		i++
	}
	return i
}

// LookMin is how long a look takes, min.
func (b *Base) LookMin(s Sign) float64 {
	if s == Window {
		return b.Rules.Practice.WindowMin
	}
	return b.Rules.Practice.LookMin
}

// Likely is how likely this dough shows the i-th word of a sign.
func (d *Dough) Likely(s Sign, i int) float64 {
	v, sd := d.value(s)
	cuts := d.b.cuts(s)
	upto := func(i int) float64 {
		switch {
		case i < 0:
			return 0
		case i >= len(cuts):
			return 1
		case sd == 0:
			if v > cuts[i] {
				return 0
			}
			return 1
		}
		return phi((cuts[i] - v) / sd)
	}
	return max(1e-6, upto(i)-upto(i-1))
}
