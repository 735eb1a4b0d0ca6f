package practice

import (
	"math/rand/v2"
	"slices"
	"sync"
)

// Shown is a sign and the word that was seen of it.
type Shown struct {
	Sign Sign `json:"sign"`
	Word int  `json:"word"`
}

// Pool is the doughs that could stand at a call: what each option would lose of each, and how likely each shows what.
type Pool struct {
	Call    *CallOf
	Context Context
	Level   int
	Options []Option
	doughs  []Dough
	lost    [][]Lost      // by dough and option
	sums    [][]float64   // of lost
	likely  [][][]float64 // by dough, sign of the call, word
	blind   int           // the option best without a look
}

// Verdict is a call judged by what could be known.
type Verdict struct {
	Chosen    int
	Best      int
	Expected  []Lost    // of each option
	Sums      []float64 // of each option, points lost
	Regret    float64   // points
	Mark      float64   // 0–1
	Either    bool      // what was chosen is as good
	Shares    []float64 // of doughs that show these signs, by what the best answer is about
	about     classes
	Safe      int     // the option that is never a dear mistake; −1: none is
	SafeMost  float64 // what it loses at worst
	OtherMost float64 // what the others lose at worst, the least of them
}

// pool draws the doughs that could stand at a call.
func pool(b *Base, c *CallOf, x Context, level int) *Pool {
	rng := source(hash(string(c.Key), x.Key), uint64(level))
	p := &Pool{Call: c, Context: x, Level: level, Options: c.Options(b)}
	for range b.Rules.Practice.Pool {
		d := New(b, draw(b, rng, level, c.Focus...), b.Rules.Practice.Levels[level-1].Noise)
		x.then(&d, rng)
		lost := p.values(&d, rng)
		sums := make([]float64, len(lost))
		for i, l := range lost {
			sums[i] = l.Sum()
		}
		p.doughs, p.lost, p.sums = append(p.doughs, d), append(p.lost, lost), append(p.sums, sums)
		var all [][]float64
		for _, s := range c.Signs {
			of := make([]float64, len(LookOf(s).Words))
			for i := range of {
				of[i] = d.Likely(s, i)
			}
			all = append(all, of)
		}
		p.likely = append(p.likely, all)
	}
	_, v := p.weigh(nil)
	p.blind = least(v)
	return p
}

// values is what a dough loses by each option, followed by good work.
func (p *Pool) values(d *Dough, rng *rand.Rand) []Lost {
	us := make([]float64, d.b.Rules.Practice.Draws)
	for i := range us {
		us[i] = rng.Float64()
	}
	out := make([]Lost, len(p.Options))
	for o := range p.Options {
		out[o] = tried(d, p.Call.Key, p.Options[o], us)
	}
	return out
}

// tried is what a dough loses by an option, followed by good work: the mean over us.
func tried(d *Dough, c Call, o Option, us []float64) (mean Lost) {
	if c != Step && c != Thin { // the option itself is the same whatever is drawn
		try := *d
		o.act(&try, us[0])
		return finish(&try, c, o.Key == "enough", us...)
	}
	for _, u := range us {
		try := *d
		o.act(&try, u)
		for i, v := range finish(&try, c, o.Key == "enough", u) {
			mean[i] += v / float64(len(us))
		}
	}
	return mean
}

func least(v []float64) int {
	best := 0
	for i := range v {
		if v[i] < v[best] {
			best = i
		}
	}
	return best
}

// weigh returns how likely each dough is by the signs shown, adding up to 1, and what each option is expected to lose.
func (p *Pool) weigh(shown []Shown) (w, expected []float64) {
	w = make([]float64, len(p.doughs))
	sum := 0.
	for j := range w {
		w[j] = 1
		for _, s := range shown {
			if k := slices.Index(p.Call.Signs, s.Sign); k >= 0 && s.Word >= 0 && s.Word < len(p.likely[j][k]) {
				w[j] *= p.likely[j][k][s.Word]
			}
		}
		sum += w[j]
	}
	expected = make([]float64, len(p.Options))
	for j := range w {
		w[j] /= sum
		for o := range expected {
			expected[o] += w[j] * p.sums[j][o]
		}
	}
	return w, expected
}

// sure is how much of the weight the best option suits.
func (p *Pool) sure(w, expected []float64) (sum float64) {
	best := least(expected)
	for j := range w {
		if p.sums[j][best] <= slices.Min(p.sums[j])+p.doughs[j].b.Rules.Practice.EitherPoints {
			sum += w[j]
		}
	}
	return sum
}

// Judge judges what was chosen by the signs shown.
func (p *Pool) Judge(shown []Shown, chosen int) Verdict {
	w, sums := p.weigh(shown)
	v := judged(p.Call, sums, chosen, p.doughs[0].b.Rules.Practice.EitherPoints)
	v.Expected = make([]Lost, len(sums))
	v.about = p.Call.classes
	if p.Options[v.Best].Points != 0 { // it is about the water
		v.about = ofWater
	}
	v.Shares = make([]float64, len(v.about.words))
	for j := range w {
		for o := range sums {
			for i := range parts {
				v.Expected[o][i] += w[j] * p.lost[j][o][i]
			}
		}
		v.Shares[v.about.of(&p.doughs[j])] += w[j]
	}
	v.safeSide(p, w)
	return v
}

// judged is a verdict on what each option is expected to lose.
func judged(c *CallOf, sums []float64, chosen int, either float64) Verdict {
	v := Verdict{Chosen: chosen, Best: least(sums), Sums: sums, Safe: -1}
	v.Regret = sums[chosen] - sums[v.Best]
	v.Mark = c.Mark(v.Regret)
	v.Either = v.Regret < either
	return v
}

// safeSide finds the option that is a cheap mistake whatever the dough is: its dearest class costs less than half of
// what the others' dearest do.
func (v *Verdict) safeSide(p *Pool, w []float64) {
	most := make([]float64, len(p.Options))
	for class := range p.Call.classes.words {
		weight, cost := 0., make([]float64, len(p.Options))
		for j := range w {
			if p.Call.classes.of(&p.doughs[j]) != class {
				continue
			}
			weight += w[j]
			for o := range cost {
				cost[o] += w[j] * p.sums[j][o]
			}
		}
		if weight < .05 { // it cannot be one of these
			continue
		}
		for o := range cost {
			most[o] = max(most[o], (cost[o]-slices.Min(cost))/weight)
		}
	}
	safe := least(most)
	others := slices.Delete(slices.Clone(most), safe, safe+1)
	if next := slices.Min(others); next > 1 && most[safe] < next/2 {
		v.Safe, v.SafeMost, v.OtherMost = safe, most[safe], next
	}
}

// Drill is a call met once: what was done, what is shown, and a dough behind it.
type Drill struct {
	Call    *CallOf
	Context Context
	Level   int
	Options []Option
	Shown   []Shown
	dough   Dough
	pool    *Pool
}

// Kitchen keeps the pools of a base while they are wanted: each is the same whoever asks first. Safe for use at once.
type Kitchen struct {
	*Base
	mu     sync.Mutex
	pools  map[string]*Pool
	beside map[int][]Dough
	faults *faultTable
}

// NewKitchen is a kitchen of b.
func NewKitchen(b *Base) *Kitchen { return &Kitchen{Base: b, pools: map[string]*Pool{}} }

// pool is the pool of a call's x-th context at a level.
func (k *Kitchen) pool(c *CallOf, x Context, level int) *Pool {
	key := string(c.Key) + " " + x.Key + " " + string(rune('0'+level))
	k.mu.Lock()
	p := k.pools[key]
	k.mu.Unlock()
	if p == nil {
		p = pool(k.Base, c, x, level)
		k.mu.Lock()
		k.pools[key] = p
		k.mu.Unlock()
	}
	return p
}

// drill draws a dough at a call, and what it shows.
func (k *Kitchen) drill(rng *rand.Rand, p *Pool) Drill {
	b := k.Base
	d := New(b, draw(b, rng, p.Level, p.Call.Focus...), b.Rules.Practice.Levels[p.Level-1].Noise)
	p.Context.then(&d, rng)
	o := Drill{Call: p.Call, Context: p.Context, Level: p.Level, Options: p.Options, dough: d, pool: p}
	for _, s := range p.Call.Signs {
		o.Shown = append(o.Shown, Shown{s, d.See(s, rng)})
	}
	return o
}

// Drill is the drill of a seed: always the same. Every other one is one where the signs speak against what is best
// without a look, and its best answer is as sure as the level asks for.
func (k *Kitchen) Drill(seed uint64, c Call, level int) Drill {
	row, _ := FindCall(c)
	r := &k.Rules.Practice
	rng := source(seed, hash("drill", string(c)), uint64(level))
	against := rng.Float64() < .5
	contexts := row.Contexts(k.Base)
	var last, kept *Drill
	for range r.FairDraws {
		p := k.pool(row, contexts[rng.IntN(len(contexts))], level)
		d := k.drill(rng, p)
		last = &d
		w, expected := p.weigh(d.Shown)
		if p.sure(w, expected) < r.Levels[level-1].Sure {
			continue
		}
		if expected[p.blind]-slices.Min(expected) > r.AgainstPoints == against {
			return d
		}
		kept = &d
	}
	if kept != nil {
		return *kept
	}
	return *last
}

// Judge judges an answer to a drill.
func (d *Drill) Judge(chosen int) Verdict { return d.pool.Judge(d.Shown, chosen) }
