package practice

import (
	"fmt"
	"math"
)

// Width is how sure a guess is said to be.
type Width int

// The widths, narrowest first.
const (
	Close Width = iota
	Fair
	Rough
)

var widthWords = []string{"close", "fair", "rough"}

// Words name a width.
func (w Width) Words() string { return widthWords[w] }

// Guess is a number to be guessed of a dough: what is shown, what is asked, and what it really is.
type Guess struct {
	Ask   string // the question
	Unit  string // g, s, leaves or min
	Say   string // what was done so far
	Shown []Shown
	Truth float64
	Low   float64 // what may be typed
	High  float64
	Why   string // how it is reckoned, once it is told; figures with units in braces
}

// guesses are what is guessed, in turn.
var guesses = []func(k *Kitchen, seed uint64, level int) Guess{guessWater, guessPoke, guessLeaves, guessLeather}

// Guess is the n-th guess of a sitting: always the same.
func (k *Kitchen) Guess(seed uint64, n, level int) Guess {
	return guesses[n%len(guesses)](k, seed+uint64(n)*0x9e3779b97f4a7c15, level)
}

// guessWater asks for the grams a dough that is too dry wants.
func guessWater(k *Kitchen, seed uint64, level int) Guess {
	rng := source(seed, hash("guess water"))
	var d Dough
	for range 100 {
		d = New(k.Base, draw(k.Base, rng, level, wetness...), k.Rules.Practice.Levels[level-1].Noise)
		d.Knead(6)
		if d.Dev < -1 {
			break
		}
	}
	g := Guess{Ask: "How much water does it want?", Unit: "g", Say: "kneaded 6 min", Low: 1, High: 200,
		Truth: max(1, -d.Dev*k.waterPoint)}
	for _, s := range []Sign{Feel, Flex, Stick} {
		g.Shown = append(g.Shown, Shown{s, d.See(s, rng)})
	}
	g.Why = fmt.Sprintf(
		"It is %.1f points under what this flour wants, and a point is {%.1f g} of water in this dough.",
		-d.Dev,
		k.waterPoint,
	)
	return g
}

// guessPoke asks for the seconds a poke takes after so long a rest.
func guessPoke(k *Kitchen, seed uint64, level int) Guess {
	rng := source(seed, hash("guess poke"))
	d := New(k.Base, draw(k.Base, rng, level, OffRelax, OffTemp), k.Rules.Practice.Levels[level-1].Noise)
	rest := []float64{10, 15, 20, 30}[rng.IntN(4)]
	d.Knead(10)
	d.Rest(rest, false, false)
	v, _ := d.value(Poke)
	g := Guess{Ask: "How long does a dent take to close half?", Unit: "s", Low: .3, High: 60, Truth: math.Exp(v),
		Say: fmt.Sprintf("kneaded 10 min, rested %.0f min covered at {%.0f °C}", rest, d.tempC)}
	for _, s := range []Sign{Surface, Give} {
		g.Shown = append(g.Shown, Shown{s, d.See(s, rng)})
	}
	g.Why = fmt.Sprintf(
		"Of its tension %.0f in a hundred are left; this dough lets go of two thirds in %.0f minutes at "+
			"{22 °C}.",
		100*d.T,
		d.know.TauRMin*1.1,
	)
	return g
}

// guessLeaves asks for the leaves of paper a sheet is thick.
func guessLeaves(k *Kitchen, seed uint64, level int) Guess {
	rng := source(seed, hash("guess leaves"))
	d := New(k.Base, draw(k.Base, rng, level, OffGap), k.Rules.Practice.Levels[level-1].Noise)
	s := usual(k.Base)
	s.stop = max(2, k.Last-2+rng.IntN(4))
	s.stop = min(s.stop, len(k.Gaps)-1)
	d.upTo(3, rng, s)
	g := Guess{Ask: "How many leaves of paper is it thick?", Unit: "leaves", Low: 1, High: 60, Truth: d.MM / paperMM,
		Say: fmt.Sprintf("rolled to stop %s, whose gap is {%.1f mm} by its dial; a leaf is {0.1 mm}", k.Labels[s.stop],
			k.Gaps[s.stop])}
	for _, s := range []Sign{Seen, Edges} {
		g.Shown = append(g.Shown, Shown{s, d.See(s, rng)})
	}
	g.Why = fmt.Sprintf("The gap was really {%.2f mm}, and the sheet swelled by %.0f in a hundred behind it.",
		k.Gaps[s.stop]*d.kg, 100*(d.MM/(k.Gaps[s.stop]*d.kg)-1))
	return g
}

// guessLeather asks for the minutes to leather in this air.
func guessLeather(k *Kitchen, seed uint64, level int) Guess {
	rng := source(seed, hash("guess leather"))
	at := k.Rules.Practice.Leather.Cuts[0]
	var d Dough
	minutes := 0.
	for range 50 {
		d = New(k.Base, draw(k.Base, rng, level, OffDry, OffRoom, OffTemp), k.Rules.Practice.Levels[level-1].Noise)
		d.upTo(3, rng, usual(k.Base))
		d.Dust = 1
		var ok bool
		if minutes, ok = d.rate().Minutes(k.Rules.Dry, at); ok {
			break
		}
	}
	return Guess{Ask: "How many minutes to leather?", Unit: "min", Low: 1, High: 240, Truth: max(1, minutes*d.kd),
		Say: fmt.Sprintf(
			"a sheet by plan {%.1f mm} thick, hung up; the room {%.0f °C}, %.0f %% humid, the air still",
			k.AimMM,
			d.tempC,
			100*d.rh,
		),
		Shown: []Shown{{Seen, d.See(Seen, rng)}},
		Why: fmt.Sprintf(
			"It was {%.2f mm} thick and lost %.1f in a thousand of its mass a minute; leather is %.0f in a "+
				"thousand.",
			d.MM,
			1000*d.rate().PerMin/d.kd,
			1000*at,
		)}
}

// Score is the interval score of a guess in logarithms, smaller is better: as wide as it was said, and ten times what
// it misses by. It pays to know how well one knows.
func Score(r [3]float64, share, guess, truth float64, w Width) (score float64, inside bool) {
	half, miss := r[w], math.Abs(math.Log(guess/truth))
	out := max(0, miss-half)
	return 2*half + 2/(1-share)*out, out == 0
}

// Guessed is one guess of a sitting, told.
type Guessed struct {
	N      float64
	Width  Width
	Inside bool
	Score  float64
	Miss   float64 // |ln|
}

// Advice says after a sitting how well somebody knows how well he knows; "" where too little was said.
func Advice(r [3]float64, share float64, all []Guessed) (out []string) {
	for w := Close; w <= Rough; w++ {
		n, in := 0, 0
		for _, g := range all {
			if g.Width == w {
				n++
				if g.Inside {
					in++
				}
			}
		}
		if n < 3 {
			continue
		}
		line := fmt.Sprintf(
			"Of %d you called %s, %d were inside; %.0f would be right",
			n,
			w.Words(),
			in,
			share*float64(n),
		)
		switch {
		case float64(in) < (share-.2)*float64(n) && w < Rough:
			line += ": say " + (w + 1).Words() + "."
		case in == n && w > Close:
			line += ": you know it better than you say."
		default:
			line += "."
		}
		out = append(out, line)
	}
	return out
}
