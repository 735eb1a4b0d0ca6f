package practice

import (
	"math"
	"math/rand/v2"
	"slices"
)

// Batch is a whole batch made of a hidden dough: its acts, folded.
type Batch struct {
	k     *Kitchen
	seed  uint64
	Level int
	Acts  []Act
	Dough Dough
	Phase Phase
	Shown []Shown // since the last act: what stands there, and what was looked at
	Torn  bool    // the last pass tore it
	Stuck bool    // or it stuck
	PotS  float64 // s in the pot so far
	Made  []Made  // the calls, in order; judged ones alone
	Line  []Moment

	kneaded float64 // min, of acts
	judged  bool
	beside  []Dough
	told    map[Sign][]float64 // what a sign has told of each of them, logarithms
	asked   map[Sign][]float64 // of it, its newest word
}

// Moment is the dough as it really was after an act, for when it is opened.
type Moment struct {
	Act          int // of the acts, −1: as it began
	Phase        Phase
	Min          float64
	Dev, D, T, X float64
	Shown        []Shown
}

// Made is a call of a batch.
type Made struct {
	Act     int
	Call    *CallOf
	Options []Option
	Phase   Phase
	Min     float64
	After   float64 // minutes kneaded by then, where it lies at the board
	Shown   []Shown
	Verdict
}

// Fold makes the batch of a seed again from what was done. judged says whether its calls are weighed. An act that is
// not allowed gives an ActError and the batch up to it.
func (k *Kitchen) Fold(seed uint64, level int, acts []Act, judged bool) (*Batch, error) {
	x := &Batch{k: k, seed: seed, Level: level, Phase: AtBoard, judged: judged, asked: map[Sign][]float64{},
		Dough: New(k.Base, Draw(k.Base, seed, level), k.Rules.Practice.Levels[level-1].Noise)}
	if judged {
		x.beside = slices.Clone(k.besides(level))
		x.told = map[Sign][]float64{}
		for _, l := range looks {
			x.told[l.Key] = make([]float64, len(x.beside))
		}
	}
	x.see()
	x.note(-1)
	for _, a := range acts {
		if err := x.Do(a); err != nil {
			return x, err
		}
	}
	return x, nil
}

// besides are the doughs that go along with every batch of a level: just mixed, always the same.
func (k *Kitchen) besides(level int) []Dough {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.beside == nil {
		k.beside = map[int][]Dough{}
	}
	if k.beside[level] == nil {
		rng := source(hash("beside"), uint64(level))
		for range k.Rules.Practice.Beside {
			k.beside[level] = append(
				k.beside[level],
				New(k.Base, draw(k.Base, rng, level), k.Rules.Practice.Levels[level-1].Noise),
			)
		}
	}
	return k.beside[level]
}

// Do does an act; ActError where it is not allowed, and nothing is done.
func (x *Batch) Do(a Act) error {
	if err := x.check(a); err != nil {
		return err
	}
	n := len(x.Acts)
	if a.Do == DoLook {
		x.Acts = append(x.Acts, a)
		x.both(a, 0)
		x.look(a.Sign, n+1)
		x.Line[len(x.Line)-1].Shown = slices.Clone(x.Shown)
		return nil
	}
	if x.judged {
		x.judge(a)
	}
	x.Acts = append(x.Acts, a)
	u := source(x.seed, hash("tear"), uint64(n)).Float64()
	x.Torn, x.Stuck = x.both(a, u)
	switch a.Do {
	case DoKnead:
		x.kneaded += a.N
	case DoCook:
		x.PotS += a.N
	}
	x.Phase = a.next(x.Phase)
	x.see()
	x.note(n)
	return nil
}

// both does an act to the dough and to those that go along.
func (x *Batch) both(a Act, u float64) (torn, stuck bool) {
	torn, stuck = x.apply(&x.Dough, a, u)
	for i := range x.beside {
		x.apply(&x.beside[i], a, .5)
		x.beside[i].Holes = x.Dough.Holes // a hole is seen
	}
	return torn, stuck
}

// see shows what stands there without a look.
func (x *Batch) see() {
	x.Shown = nil
	for _, s := range Free(x.Phase) {
		if s == Edges && x.Dough.Stop < 0 || s == Tooth && x.PotS == 0 {
			continue
		}
		x.look(s, len(x.Acts))
	}
}

// look shows a sign after so many acts, in place of an earlier look at it, and weighs it.
func (x *Batch) look(s Sign, n int) {
	word := x.Dough.See(s, source(x.seed, hash("look", string(s)), uint64(n)))
	if i := slices.IndexFunc(x.Shown, func(o Shown) bool { return o.Sign == s }); i >= 0 {
		x.Shown[i].Word = word
	} else {
		x.Shown = append(x.Shown, Shown{s, word})
	}
	if !x.judged {
		return
	}
	// asked again it tells less: the newest look counts whole, earlier ones in part
	before, told := x.asked[s], x.told[s]
	now := make([]float64, len(x.beside))
	for i := range now {
		now[i] = math.Log(x.beside[i].Likely(s, word))
		told[i] += now[i]
		if before != nil {
			told[i] += (x.k.Rules.Practice.Again - 1) * before[i]
		}
	}
	x.asked[s] = now
}

// weigh is how likely each dough beside is by what the signs that bear on a call have shown, adding up to 1.
func (x *Batch) weigh(c *CallOf) []float64 {
	w, most := make([]float64, len(x.beside)), math.Inf(-1)
	signs := bears[c.Key]
	if signs == nil { // at the board
		signs = append(Free(AtBoard), Closer(AtBoard)...)
	}
	for _, s := range signs {
		for i, v := range x.told[s] {
			w[i] += v
		}
	}
	for _, v := range w {
		most = max(most, v)
	}
	sum := 0.
	for i := range w {
		w[i] = math.Exp(w[i] - most)
		sum += w[i]
	}
	for i := range w {
		w[i] /= sum
	}
	return w
}

// note keeps how the dough really is after an act.
func (x *Batch) note(act int) {
	d := &x.Dough
	x.Line = append(x.Line, Moment{act, x.Phase, d.Min, d.Dev, d.D(), d.T, d.X, slices.Clone(x.Shown)})
}

// Word is which word of a sign stands there now; −1: it was not looked at.
func (x *Batch) Word(s Sign) int {
	for _, o := range x.Shown {
		if o.Sign == s {
			return o.Word
		}
	}
	return -1
}

// callOf says which call an act answers here; nil: none.
func (x *Batch) callOf(a Act) *CallOf {
	c := Call("")
	stop := x.Dough.Stop
	switch {
	case x.Phase == AtBoard:
		switch {
		case x.kneaded < 2.5 && a.Do != DoWrap:
			c = Shaggy
		case a.Do == DoWater || a.Do == DoFlour || x.kneaded < 8.5 && a.Do == DoKnead:
			c = Water
		default:
			c = Kneaded
		}
	case x.Phase == AtRest && x.Dough.Credit == 0 && a.Do != DoRoll: // it has not lain yet
	case x.Phase == AtRest && (a.Do == DoPare || a.Do == DoRoll && x.Word(Skin) > 0):
		c = SkinFound
	case x.Phase == AtRest:
		c = Rested
	case x.Phase == AtRolls && (a.Do == DoDust || stop < 0):
	case x.Phase == AtRolls && (a.Do == DoEnd || a.Do == DoPass && stop >= x.k.Last-1):
		c = Thin
	case x.Phase == AtRolls && (a.Do == DoFold || stop == 0):
		c = Folds
	case x.Phase == AtRolls:
		c = Step
	case x.Phase == AtRack && a.Do != DoDust:
		c = Dry
	case x.Phase == InPot && x.PotS > 0:
		c = Pot
	}
	if c == "" {
		return nil
	}
	row, _ := FindCall(c)
	return row
}

// sameAs says which option of a call an act is, −1: none of them.
func (x *Batch) sameAs(c *CallOf, a Act, options []Option) int {
	is := map[Do]string{DoWrap: "enough", DoRoll: "enough", DoEnd: "enough", DoCut: "enough", DoDrain: "enough",
		DoPare: "pare",
		DoDamp: "damp"}[a.Do]
	switch {
	case c.Key == Kneaded && a.Do == DoKnead && (a.N == 2 || a.N == 5):
		is = map[float64]string{2: "more", 5: "five"}[a.N]
	case c.Key == Shaggy && a.Do == DoKnead && a.N == 2:
		is = "knead"
	case c.Key == Water && a.Do == DoKnead && a.N == 2:
		is = "leave"
	case c.Key == Rested && a.Do == DoRest && (a.N == 10 || a.N == 30):
		is = map[float64]string{10: "more", 30: "long"}[a.N]
	case c.Key == Folds && a.Do == DoPass && a.N == 0:
		is = "enough"
	case c.Key == Folds && a.Do == DoFold && (a.N == 2 || a.N == 5):
		is = map[float64]string{2: "twice", 5: "five"}[a.N]
	case c.Key == Step && a.Do == DoPass:
		is = []string{"next", "one", "two"}[int(a.N)]
	case c.Key == Thin && a.Do == DoPass && a.N == 0:
		is = "finer"
	case c.Key == Dry && a.Do == DoDry && (a.N == 5 || a.N == 15):
		is = map[float64]string{5: "more", 15: "long"}[a.N]
	case c.Key == Pot && a.Do == DoCook && (a.N == 15 || a.N == 45):
		is = map[float64]string{15: "more", 45: "long"}[a.N]
	}
	return slices.IndexFunc(options, func(o Option) bool { return o.Key == is })
}

// own is an act as an option beside those of its call.
func (x *Batch) own(c *CallOf, a Act) Option {
	o := Option{Key: "own", Name: x.k.Words(a)}
	if c.Key == Folds && a.Do == DoPass {
		o.Key = "enough"
	}
	at := *x
	o.act = func(d *Dough, u float64) {
		at.apply(d, a, u)
		if a.Do == DoWater || a.Do == DoFlour { // given as the call gives it: kneaded in
			d.Knead(2)
		}
	}
	return o
}

// judge weighs an act by the doughs that could be this one.
func (x *Batch) judge(a Act) {
	c := x.callOf(a)
	if c == nil {
		return
	}
	options := c.Options(x.k.Base)
	chosen := x.sameAs(c, a, options)
	if chosen < 0 {
		options = append(options, x.own(c, a))
		chosen = len(options) - 1
	}
	m := Made{
		Act:     len(x.Acts),
		Call:    c,
		Options: options,
		Phase:   x.Phase,
		Min:     x.Dough.Min,
		Shown:   slices.Clone(x.Shown),
	}
	if x.Phase == AtBoard {
		m.After = x.kneaded
	}
	m.Verdict = x.verdict(c, options, chosen, source(x.seed, hash("tried"), uint64(len(x.Acts))))
	x.Made = append(x.Made, m)
}

// verdict tries each option on doughs drawn by how likely they are.
func (x *Batch) verdict(c *CallOf, options []Option, chosen int, rng *rand.Rand) Verdict {
	r := &x.k.Rules.Practice
	p, weights := &Pool{Call: c, Options: options}, x.weigh(c)
	after := c.Key
	if after == Water { // there is time to look again, so a small step is no fault
		after = Shaggy
	}
	for range r.Tried {
		d := &x.beside[pick(weights, rng.Float64())]
		p.doughs = append(p.doughs, *d)
		lost, sums := make([]Lost, len(options)), make([]float64, len(options))
		for o := range options {
			lost[o] = tried(d, after, options[o], []float64{.5})
			sums[o] = lost[o].Sum()
		}
		p.lost, p.sums = append(p.lost, lost), append(p.sums, sums)
	}
	return p.Judge(nil, chosen)
}

// pick is the dough at a share of the weights.
func pick(weights []float64, at float64) int {
	sum := 0.
	for i, w := range weights {
		if sum += w; at < sum {
			return i
		}
	}
	return len(weights) - 1
}

// Regret is the regret of all calls, points.
func (x *Batch) Regret() (sum float64) {
	for _, m := range x.Made {
		sum += m.Regret
	}
	return sum
}

// Points are what the dough has kept of a hundred, with its parts lost.
func (x *Batch) Points() (float64, Lost) {
	l := x.Dough.Lost()
	return 100 - l.Sum(), l
}
