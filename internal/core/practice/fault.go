package practice

import (
	"cmp"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"

	"hollen/internal/core/measure"
)

// Fault is one thing that went wrong early in a making, planted to be found.
type Fault struct {
	Key     string
	Name    string
	FlourG  float64 // more of it, of 400 g
	EggG    float64 // likewise, of 400 g of flour
	Knead   float64 // min, 0: as usual
	RestMin float64 // 0: as usual
	Open    bool
	Skip    int     // stops left out at a time
	Dry     float64 // min on the rack, 0: as usual
	Bare    bool    // not dusted
	Long    float64 // times the seconds, 0: as usual
}

// Faults are what may have gone wrong; cut from the roller is a fault where the sheet dries before the cut, a heap left
// bare where it does not.
func Faults(b *Base) []Fault {
	early := Fault{Key: "from-roller", Name: "cut straight from the roller", Dry: 1}
	if !b.Before {
		early = Fault{Key: "bare", Name: "cut, and left in a heap undusted", Bare: true, Dry: 1}
	}
	return []Fault{{Key: "cup", Name: "flour by the cup, too much of it", FlourG: 30},
		{Key: "egg-short", Name: "an egg short", EggG: -50}, {Key: "egg-over", Name: "an egg too many", EggG: 50},
		{Key: "knead", Name: "kneaded four minutes", Knead: 4}, {Key: "rest", Name: "rested eight minutes", RestMin: 8},
		{
			Key:  "open",
			Name: "it lay uncovered",
			Open: true,
		}, {Key: "skip", Name: "stops left out at the roller", Skip: 1},
		early, {Key: "rack", Name: "forgotten on the rack", Dry: 45},
		{Key: "pot", Name: "cooked by the clock of dried pasta", Long: 2.1}}
}

// Told is one line of a story: when, what sign, which word.
type Told struct {
	When string
	Sign Sign // "torn" and "ribbons" are facts, not looks
	Word int
}

// The facts of a story that no look is taken at, and their words.
const (
	TornPasses Sign = "torn"
	Ribbons    Sign = "ribbons"
)

var factWords = map[Sign][]string{TornPasses: {"no pass tore it", "one pass tore it", "passes tore it"},
	Ribbons: {"fell apart as they should", "hung together", "snapped"}}

// Line is what a line of a story says: of what, and its word.
func (t Told) Line() (of, word string) {
	if words := factWords[t.Sign]; words != nil {
		return map[Sign]string{TornPasses: "at the rollers", Ribbons: "the ribbons"}[t.Sign], words[t.Word]
	}
	return LookOf(t.Sign).Name, t.Sign.Word(t.Word)
}

// story is a making with a fault in it, as it was seen.
func story(b *Base, f Fault, rng *rand.Rand) (out []Told, d Dough) {
	h := draw(b, rng, 2)
	h.SlipG = 0
	for c := range causes {
		v, _ := h.at(b, c)
		*v *= b.Rules.Practice.StoryShare
	}
	d = New(b, h, 1)
	by := b.FlourG / 400
	d.FlourG += f.FlourG * by
	d.EggG += f.EggG * by
	d.wet()
	see := func(when string, signs ...Sign) {
		for _, s := range signs {
			out = append(out, Told{when, s, d.See(s, rng)})
		}
	}
	d.Knead(cmp.Or(f.Knead, 10))
	see("kneaded", Feel, Surface, Spring, Flex)
	d.Rest(cmp.Or(f.RestMin, b.RestMin), f.Open, false)
	see("rested", Poke, Feel, Skin)
	d.fold(2)
	see("folded", Edges)
	torn := 0
	for i := 1; i <= b.Last; i += 1 + f.Skip {
		if t, _ := d.Pass(i, rng.Float64()); t {
			torn++
		}
	}
	d.Stop = b.Last
	out = append(out, Told{"rolled", TornPasses, min(2, torn)})
	see("rolled", Seen)
	d.Dust = 1
	if f.Bare {
		d.Dust = 0
	}
	usual := 11.
	if !b.Before {
		d.Cut()
		usual = 1
	}
	d.Wait(cmp.Or(f.Dry, usual))
	see("dried", Leather)
	if b.Before {
		d.Cut()
	}
	ribbons := 0
	switch {
	case d.Brittle > .3:
		ribbons = 2
	case d.Weld > .15:
		ribbons = 1
	}
	out = append(out, Told{"cut", Ribbons, ribbons})
	d.Cook(cmp.Or(f.Long, .85) * b.potS(.03))
	see("cooked", Tooth)
	return out, d
}

// faultTable is how often each fault shows each word: by fault and line of the story.
type faultTable struct {
	faults []Fault
	counts [][][]float64
	n      float64
}

// faultTable works the table out once.
func (k *Kitchen) faultTable() *faultTable {
	k.mu.Lock()
	t := k.faults
	k.mu.Unlock()
	if t != nil {
		return t
	}
	t = &faultTable{faults: Faults(k.Base), n: float64(k.Rules.Practice.Stories)}
	for _, f := range t.faults {
		rng := source(hash("stories", f.Key))
		var rows [][]float64
		for range k.Rules.Practice.Stories {
			lines, _ := story(k.Base, f, rng)
			if rows == nil {
				rows = make([][]float64, len(lines))
				for i := range rows {
					rows[i] = make([]float64, leafMost)
				}
			}
			for i, l := range lines {
				rows[i][l.Word]++
			}
		}
		t.counts = append(t.counts, rows)
	}
	k.mu.Lock()
	k.faults = t
	k.mu.Unlock()
	return t
}

// likely is how likely each fault is by the lines of a story, adding up to 1.
func (t *faultTable) likely(lines []Told) []float64 {
	out, sum := make([]float64, len(t.faults)), 0.
	for f := range out {
		out[f] = 1
		for i, l := range lines {
			out[f] *= (t.counts[f][i][l.Word] + .5) / (t.n + 2)
		}
		sum += out[f]
	}
	for f := range out {
		out[f] /= sum
	}
	return out
}

// Case is a making with a fault to be found: its lines, five that it may have been, and which it was.
type Case struct {
	Lines   []Told
	Offered []Fault // in the order of the work
	Planted int     // of Offered
	Likely  []float64
	Speaks  []float64 // by line: how many times likelier it is under the planted fault than under the rest
}

// Case is the case of a seed: always the same. Its signs make what was planted rules.Practice.AskAt likely.
func (k *Kitchen) Case(seed uint64) Case {
	t := k.faultTable()
	rng := source(seed, hash("case"))
	for range 200 {
		planted := rng.IntN(len(t.faults))
		lines, _ := story(k.Base, t.faults[planted], rng)
		likely := t.likely(lines)
		if likely[planted] < k.Rules.Practice.AskAt {
			continue
		}
		return t.ask(lines, likely, planted)
	}
	lines, _ := story(k.Base, t.faults[0], rng)
	return t.ask(lines, t.likely(lines), 0)
}

// ask offers what was planted and the four next likeliest.
func (t *faultTable) ask(lines []Told, likely []float64, planted int) Case {
	order := make([]int, 0, len(likely))
	for f := range likely {
		if f != planted {
			order = append(order, f)
		}
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(likely[b], likely[a]) })
	order = append(order[:4:4], planted)
	slices.Sort(order)
	c := Case{Lines: lines}
	for i, f := range order {
		c.Offered, c.Likely = append(c.Offered, t.faults[f]), append(c.Likely, likely[f])
		if f == planted {
			c.Planted = i
		}
	}
	for i, l := range lines {
		rest := 0.
		for f := range t.faults {
			if f != planted {
				rest += t.counts[f][i][l.Word] / float64(len(t.faults)-1)
			}
		}
		c.Speaks = append(c.Speaks, (t.counts[planted][i][l.Word]+.5)/(rest+.5))
	}
	return c
}

// Tells are the lines of a story that speak for what was planted, the loudest first, at most n.
func (c Case) Tells(n int) (out []Told) {
	order := make([]int, len(c.Lines))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(c.Speaks[b], c.Speaks[a]) })
	for _, i := range order[:min(n, len(order))] {
		if c.Speaks[i] > 1.5 {
			out = append(out, c.Lines[i])
		}
	}
	return out
}

// Words say which lines of a story told what it was.
func (c Case) Words() string {
	var of []string
	for _, t := range c.Tells(3) {
		name, word := t.Line()
		of = append(of, fmt.Sprintf("%s, %s %s", t.When, name, word))
	}
	if len(of) == 0 {
		return "No one sign told it; all of them together did."
	}
	return measure.Capital("what told it: " + strings.Join(of, "; ") + ".")
}

// Mark is that of an answer: 1 for what was planted, else how likely the answer was beside it.
func (c Case) Mark(answer int) float64 {
	if answer == c.Planted {
		return 1
	}
	return math.Min(1, c.Likely[answer]/c.Likely[c.Planted])
}
