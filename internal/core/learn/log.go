package learn

import (
	"cmp"
	"math"
	"slices"
	"sync"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/cut"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// Entry is one logged making.
type Entry struct {
	Making uint64
	bench.Summary
}

// Levels are the levels of the hydration offset, in the order of their parts; the season comes after them.
var Levels = []string{"kitchen", "flour", "lot", "maker", "eggs"}

// Log is what makings say, weighed against each other.
type Log struct {
	ru      rules.Learn
	entries []Entry // oldest first
	water   []int   // of them, those that say something of hydration
	doughs  []Sitting
	hw      *Fitted
	timed   []int // and of hands
	hands   *Fitted
	losses  *Fitted
	trims   *Fitted
	shrinks *Fitted

	mu     sync.Mutex
	before *Fitted          // hw without the newest that says something; made when it is first asked for
	dials  map[string]*dial // by machine and the day it was calibrated; nil where nothing was measured
}

// Read weighs the newest makings of a log against each other, whatever their order; left are those not to be counted.
func Read(ru rules.Learn, all []Entry, left map[uint64]bool) *Log {
	return ReadWith(ru, all, left, nil)
}

// Sitting is what three small doughs of a flour said: points over the book, with the variance of the noise in that.
type Sitting struct {
	At    time.Time `json:"at"`
	Flour string    `json:"flour"` // label
	Lot   string    `json:"lot"`   // its name
	Maker string    `json:"maker,omitempty"`
	Eggs  string    `json:"eggs,omitempty"`
	R     float64   `json:"points"`
	V     float64   `json:"variance"`
	Said  []int     `json:"said"`  // the words, the driest dough first
	By    float64   `json:"wants"` // points, with what was known before
	SD    float64   `json:"sd"`
}

// ReadWith is Read with sittings of small doughs.
func ReadWith(ru rules.Learn, all []Entry, left map[uint64]bool, doughs []Sitting) *Log {
	l := &Log{ru: ru, doughs: doughs}
	for _, e := range all {
		if !left[e.Making] {
			l.entries = append(l.entries, e)
		}
	}
	slices.SortFunc(l.entries, func(a, b Entry) int {
		return cmp.Or(a.Began.Compare(b.Began), cmp.Compare(a.Making,
			b.Making))
	})
	l.entries = l.entries[max(0, len(l.entries)-ru.Newest):]
	var water, hands, losses, trims, shrinks []Seen
	for i, e := range l.entries {
		b := &e.Evidence
		if r, ok := Wanted(ru, &e.Summary); ok {
			l.water = append(l.water, i)
			water = append(water, Seen{R: r, V: ru.FeelNoise[*e.Felt+2], Day: day(e.Began),
				Labels: labels(b.Flour, b.Lot, b.Maker, b.Eggs)})
		}
		if b.HandsMin > 0 && b.PlanMin > 0 {
			l.timed = append(l.timed, i)
			hands = append(hands, Seen{R: math.Log(b.HandsMin / b.PlanMin), V: ru.HandsNoise, Day: day(e.Began),
				Labels: []string{"kitchen", b.Maker, b.Shape}})
		}
	}
	for _, d := range doughs {
		water = append(water, Seen{R: d.R, V: d.V, Day: day(d.At), Labels: labels(d.Flour, d.Lot, d.Maker, d.Eggs),
			Small: true})
	}
	for i := range l.entries {
		if b := &l.entries[i].Evidence; b.PlanG > 0 {
			losses = append(losses, Seen{R: math.Log(math.Max(1, b.LossG) / b.PlanG), V: LossNoise(ru, b.PlanG),
				Labels: []string{"kitchen", b.Maker}})
		}
	}
	for i := range l.entries {
		if b := &l.entries[i].Evidence; b.PlanTrim > 0 && b.TrimG > 0 {
			trims = append(trims, Seen{R: math.Log(b.TrimG / b.PlanTrim), V: TrimNoise(ru, b.PlanTrim),
				Labels: []string{"kitchen", b.Shape}})
		}
	}
	for i := range l.entries {
		for _, x := range l.entries[i].Evidence.Shrunk {
			shrinks = append(shrinks, Seen{R: x - ru.ShrinkShare, V: ru.ShrinkNoise, Labels: []string{"kitchen",
				l.entries[i].Evidence.Flour}})
		}
	}
	shrinks = shrinks[max(0, len(shrinks)-ru.Newest):]
	l.shrinks = Fit(ru.Shrink, shrinks)
	l.hw = Fit(ru.Hydration, water)
	l.hands = Fit(ru.Hands, hands)
	l.losses = Fit(ru.Loss, losses)
	l.trims = Fit(ru.Trim, trims)
	return l
}

// Wanted is how much more water than the book one batch wanted, as it was made and felt, points; false where nothing is
// known of
// that.
func Wanted(ru rules.Learn, m *bench.Summary) (points float64, ok bool) {
	if m.Felt == nil || *m.Felt < -2 || *m.Felt > 2 || m.Evidence.Flour == "" {
		return 0, false
	}
	return m.Evidence.HwPoints - ru.FeelPoints[*m.Felt+2], true
}

func day(t time.Time) float64 { return float64(t.Unix()) / 86400 }

func labels(flour, lot, maker, eggs string) []string {
	if lot != "" {
		lot = flour + " / " + lot
	}
	return []string{"kitchen", flour, lot, maker, eggs}
}

// Whose is whose batch is to be planned, as far as that is known.
type Whose struct {
	Maker string
	On    time.Time
}

// For returns what the log says of a request; tool tells what it is kneaded with, and is asked only where that matters.
func (l *Log) For(r *request.Request, tool func() string, w Whose) rules.Learned {
	var out rules.Learned
	if l.Empty() {
		return out
	}
	flour := plan.FlourLabel(r.Flours)
	if len(l.hw.seen) > 0 {
		e := l.hw.For(Next{labels(flour, plan.LotLabel(r.Flours), w.Maker, r.Eggs.Class), day(w.On)})
		m := math.Max(-l.ru.MostPoints, math.Min(l.ru.MostPoints, e.M))
		out.Hw = rules.LearnedPoints{
			N:      e.N,
			Doughs: len(l.doughs),
			Points: m,
			SD:     e.SD,
			Within: e.Within,
			Parts:  append(slices.Clone(e.Parts), e.Drift),
			Last:   l.last(m, Next{labels(flour, plan.LotLabel(r.Flours), w.Maker, r.Eggs.Class), day(w.On)}),
		}
	}
	factor := func(f rules.Factor, s float64, counts func(b *bench.Evidence) bool,
		of func(b *bench.Evidence) []bench.Ratio) rules.LearnedBy {
		var looks []Look
		for i := range l.entries {
			if b := &l.entries[i].Evidence; counts(b) {
				for _, x := range of(b) {
					looks = append(looks, lookOf(x, s))
				}
			}
		}
		return learnedBy(f, looks)
	}
	ru := &l.ru
	out.Cups = l.cups(r)
	if slices.ContainsFunc(l.entries, func(e Entry) bool { return len(e.Evidence.Knead) > 0 }) {
		with := tool()
		out.Knead = factor(ru.Knead, ru.Knead.Spread, func(b *bench.Evidence) bool {
			return b.Tool == with &&
				(w.Maker == "" || b.Maker == w.Maker)
		},
			func(b *bench.Evidence) []bench.Ratio { return b.Knead })
	}
	out.Dry = factor(ru.Dry, ru.Dry.Spread, func(b *bench.Evidence) bool { return b.Place == bench.DryPlace(r) },
		func(b *bench.Evidence) []bench.Ratio { return b.Dry })
	family := string(r.Cut.Kind().Family)
	out.Cook = factor(ru.Cook, ru.Cook.Spread, func(b *bench.Evidence) bool {
		return cut.Family(b.Family) == cut.Family(
			family)
	},
		func(b *bench.Evidence) []bench.Ratio { return b.Cook })
	out.Rest = learnedBy(ru.Rest, l.pokes(flour))
	if len(l.losses.seen) > 0 {
		out.Loss = byOf(l.losses.For(Next{Labels: []string{"kitchen", w.Maker}}))
	}
	if len(l.trims.seen) > 0 {
		out.Trim = byOf(l.trims.For(Next{Labels: []string{"kitchen", r.Cut.Shape}}))
	}
	if len(l.shrinks.seen) > 0 && r.Cut.Kind().Traits().Lengths {
		out.Shrink = l.Shrinks(flour)
	}
	out.Gaps = l.Gaps(r.Roll.Kind(), w.On)
	if len(l.timed) > 0 {
		e := l.hands.For(Next{[]string{"kitchen", w.Maker, r.Cut.Shape}, day(w.On)})
		out.Hands = byOf(e)
	}
	return out.Rounded()
}

// last is what the newest word on a dough has moved a plan by, whose water is moved by so many points with it; nil
// where it hardly counts.
func (l *Log) last(points float64, next Next) *rules.LastWord {
	n := len(l.water)
	if n == 0 || l.hw.W()[n-1] < Doubtful {
		return nil
	}
	without := 0.
	if len(l.hw.seen) > 1 {
		l.mu.Lock()
		if l.before == nil {
			l.before = Fit(l.ru.Hydration, slices.Delete(slices.Clone(l.hw.seen), n-1, n))
		}
		l.mu.Unlock()
		without = math.Max(-l.ru.MostPoints, math.Min(l.ru.MostPoints, l.before.For(next).M))
	}
	e := &l.entries[l.water[n-1]]
	return &rules.LastWord{On: e.Began.Local().Format(time.DateOnly), Felt: *e.Felt, Points: points - without}
}

func learnedBy(f rules.Factor, looks []Look) rules.LearnedBy {
	if len(looks) == 0 {
		return rules.LearnedBy{}
	}
	slices.SortFunc(looks, func(a, b Look) int {
		return cmp.Or(cmp.Compare(a.Lo, b.Lo), cmp.Compare(a.Hi, b.Hi), cmp.Compare(a.S, b.S))
	})
	k := Factor(f, looks)
	return rules.LearnedBy{N: k.N, By: k.K, From: k.From, To: k.To}
}

// byOf is an estimate of a logarithm as a multiplier.
func byOf(e Estimate) rules.LearnedBy {
	return rules.LearnedBy{N: e.N, By: math.Exp(e.M), From: math.Exp(e.M - e.Within), To: math.Exp(e.M + e.Within)}
}

// lookOf is a look as it was logged.
func lookOf(x bench.Ratio, s float64) Look {
	lo, hi := math.Inf(-1), math.Inf(1)
	if x.From > 0 {
		lo = math.Log(x.From)
	}
	if x.To > 0 {
		hi = math.Log(x.To)
	}
	return Look{lo, hi, s}
}

// Residue is what one batch says of hydration, and how much it counts.
type Residue struct {
	Entry
	R, W float64
}

// Entries are all makings it holds, the oldest first.
func (l *Log) Entries() []Entry { return l.entries }

// Residues are the batches that say something of hydration, the newest first.
func (l *Log) Residues() []Residue {
	out := make([]Residue, 0, len(l.water))
	for k, i := range l.water {
		out = append(out, Residue{l.entries[i], l.hw.seen[k].R, l.hw.W()[k]})
	}
	slices.Reverse(out)
	return out
}

// newestCups is how many cups count, cupLeast how far one is off at least, share. Source: house.
const (
	newestCups = 6
	cupLeast   = .03
)

// cups are the cups of the flours of a request, by the newest that were weighed.
func (l *Log) cups(r *request.Request) (out []rules.LearnedCup) {
	for _, x := range r.Flours {
		key := x.Kind().Key
		var g []float64
		for i := len(l.entries) - 1; i >= 0 && len(g) < newestCups; i-- {
			for _, c := range l.entries[i].Evidence.Cups {
				if c.Flour == key {
					g = append(g, c.G)
				}
			}
		}
		if len(g) == 0 {
			continue
		}
		mean, spread := 0., 0.
		for _, v := range g {
			mean += v / float64(len(g))
		}
		for _, v := range g {
			spread += (v - mean) * (v - mean) / float64(len(g))
		}
		out = append(out, rules.LearnedCup{Flour: key, N: len(g), G: math.Round(10*mean) / 10,
			Within: math.Max(cupLeast, 2*math.Sqrt(spread)/mean)})
	}
	return out
}

// Len is how many makings count.
func (l *Log) Len() int { return len(l.entries) }

// Empty says whether it says nothing at all.
func (l *Log) Empty() bool { return len(l.entries) == 0 && len(l.doughs) == 0 }

// Sittings are the sittings of small doughs, in the order they were.
func (l *Log) Sittings() []Sitting { return l.doughs }

// Water returns what the log says of the water of a batch of that flour, lot, maker and eggs; "" is not known.
func (l *Log) Water(flour, lot, maker, eggs string, on time.Time) Estimate {
	return l.hw.For(Next{labels(flour, lot, maker, eggs), day(on)})
}

// Shrinks is the share ribbons of a flour pull in lengthwise once they are cut.
func (l *Log) Shrinks(flour string) rules.LearnedShare {
	e := l.shrinks.For(Next{Labels: []string{"kitchen", flour}})
	return rules.LearnedShare{N: e.N, Share: math.Max(0, l.ru.ShrinkShare+e.M), Within: e.Within}
}

// Saying is one thing the log has learned by looks or times.
type Saying struct {
	What string // knead, rest, dry, cook, hands, loss, trim; shrink, whose By is a share and To how sure that is
	Of   string // whose or of what: a school, a flour's label, a place, a family, a shape
	rules.LearnedBy
	Unseen   int     // makings whose look said nothing, for the plan stood on more minutes than the dough needs
	BelowMin float64 // and below how many minutes nothing was seen, min
}

// hide counts what floors hid of the makings that count: below says how many minutes one stood on, 0 where it hid
// nothing.
func (l *Log) hide(x Saying, counts func(b *bench.Evidence) bool, below func(u *bench.Unseen) float64) Saying {
	for i := range l.entries {
		if b := &l.entries[i].Evidence; b.Under != nil && counts(b) && below(b.Under) > 0 {
			if x.Unseen++; x.BelowMin == 0 || below(b.Under) < x.BelowMin {
				x.BelowMin = below(b.Under)
			}
		}
	}
	return x
}

// Says are the factors the log has learned, in the order of work.
func (l *Log) Says(on time.Time) (out []Saying) {
	// row is a saying of one shape or flour, that says how many makings of it there are: the others move it by what
	// they share.
	row := func(what, of string, by rules.LearnedBy, counts func(b *bench.Evidence) bool) Saying {
		by.N = 0
		for i := range l.entries {
			if counts(&l.entries[i].Evidence) {
				by.N++
			}
		}
		return Saying{What: what, Of: of, LearnedBy: by}
	}
	ru := &l.ru
	restUnder := func(u *bench.Unseen) float64 { return u.RestMin }
	ratios := func(what string, f rules.Factor, of func(b *bench.Evidence) string,
		looks func(b *bench.Evidence) []bench.Ratio) {
		out = append(out, l.ratios(what, f, of, looks)...)
	}
	ratios("knead", ru.Knead, func(b *bench.Evidence) string { return b.Tool },
		func(b *bench.Evidence) []bench.Ratio { return b.Knead })
	rested := func(b *bench.Evidence) (string, bool) {
		return b.Flour, len(b.Rest) > 0 || b.Under != nil && b.Under.RestMin > 0
	}
	for _, k := range l.keys(rested) {
		x := Saying{What: "rest", Of: k, LearnedBy: learnedBy(ru.Rest, l.pokes(k))}
		out = append(out, l.hide(x, func(b *bench.Evidence) bool { return b.Flour == k }, restUnder))
	}
	ratios("dry", ru.Dry, func(b *bench.Evidence) string { return b.Place },
		func(b *bench.Evidence) []bench.Ratio { return b.Dry })
	ratios("cook", ru.Cook, func(b *bench.Evidence) string { return b.Family },
		func(b *bench.Evidence) []bench.Ratio { return b.Cook })
	if len(l.timed) > 0 {
		for _, k := range l.keys(func(b *bench.Evidence) (string, bool) { return b.Shape, b.HandsMin > 0 }) {
			e := l.hands.For(Next{[]string{"kitchen", "", k}, day(on)})
			timed := func(b *bench.Evidence) bool { return b.Shape == k && b.HandsMin > 0 && b.PlanMin > 0 }
			out = append(out, row("hands", k, byOf(e), timed))
		}
	}
	if len(l.losses.seen) > 0 {
		out = append(out, Saying{What: "loss", LearnedBy: byOf(l.losses.For(Next{Labels: []string{"kitchen", ""}}))})
	}
	if len(l.trims.seen) > 0 {
		for _, k := range l.keys(func(b *bench.Evidence) (string, bool) { return b.Shape, b.TrimG > 0 }) {
			weighed := func(b *bench.Evidence) bool { return b.Shape == k && b.TrimG > 0 && b.PlanTrim > 0 }
			out = append(out, row("trim", k, byOf(l.trims.For(Next{Labels: []string{"kitchen", k}})), weighed))
		}
	}
	for _, k := range l.keys(func(b *bench.Evidence) (string, bool) { return b.Flour, len(b.Shrunk) > 0 }) {
		s := l.Shrinks(k)
		measured := func(b *bench.Evidence) bool { return b.Flour == k && len(b.Shrunk) > 0 }
		out = append(out, row("shrink", k, rules.LearnedBy{N: s.N, By: s.Share, To: s.Within}, measured))
	}
	return out
}

// keys are the names makings stand under, each once, in order; of those that say something.
func (l *Log) keys(of func(b *bench.Evidence) (string, bool)) []string {
	var all []string
	for i := range l.entries {
		if k, any := of(&l.entries[i].Evidence); any && !slices.Contains(all, k) {
			all = append(all, k)
		}
	}
	slices.Sort(all)
	return all
}

// ratios are what looks say of a factor, a saying for each name they stand under.
func (l *Log) ratios(what string, f rules.Factor, of func(b *bench.Evidence) string,
	looks func(b *bench.Evidence) []bench.Ratio) (out []Saying) {
	kneadUnder := func(u *bench.Unseen) float64 { return u.KneadMin }
	for _, k := range l.keys(func(b *bench.Evidence) (string, bool) {
		return of(b), len(looks(b)) > 0 || what == "knead" && b.Under != nil && b.Under.KneadMin > 0
	}) {
		var seen []Look
		for i := range l.entries {
			if b := &l.entries[i].Evidence; of(b) == k {
				for _, x := range looks(b) {
					seen = append(seen, lookOf(x, f.Spread))
				}
			}
		}
		x := Saying{What: what, Of: k, LearnedBy: learnedBy(f, seen)}
		if what == "knead" {
			x = l.hide(x, func(b *bench.Evidence) bool { return of(b) == k }, kneadUnder)
		}
		out = append(out, x)
	}
	return out
}

// Flours are the labels of the flours the log says something of, in their order.
func (l *Log) Flours() (out []string) {
	for _, i := range l.water {
		if f := l.entries[i].Evidence.Flour; !slices.Contains(out, f) {
			out = append(out, f)
		}
	}
	slices.Sort(out)
	return out
}

// pokes are the looks timed pokes give of a flour.
func (l *Log) pokes(flour string) (out []Look) {
	for i := range l.entries {
		if b := &l.entries[i].Evidence; b.Flour == flour {
			for _, x := range b.Rest {
				if x.X > 0 && x.T0 > 0 && x.S > 0 {
					out = append(out, RestLook(x.X, x.T0, x.S, l.ru.PokeOpenS))
				}
			}
		}
	}
	return out
}

// Gaps returns what sheets measured since a machine was last calibrated say of each of its stops; none without any.
func (l *Log) Gaps(m roll.Machine, on time.Time) (out []rules.LearnedGap) {
	d := l.dial(m)
	if d == nil {
		return nil
	}
	g := l.ru.Gap
	for _, s := range m.Stops {
		e := d.of(s.Label, s.GapMM, day(on))
		out = append(out, rules.LearnedGap{Stop: s.Label, N: e.N, By: math.Max(g.Low, math.Min(g.High, math.Exp(e.M))),
			Within: e.Within})
	}
	return out
}

// dial weighs the sheets of a machine, once.
func (l *Log) dial(m roll.Machine) *dial {
	l.mu.Lock()
	defer l.mu.Unlock()
	of := m.Key + " " + m.CalibratedOn
	if d, known := l.dials[of]; known {
		return d
	}
	if l.dials == nil {
		l.dials = map[string]*dial{}
	}
	since, err := time.ParseInLocation(time.DateOnly, m.CalibratedOn, time.Local)
	var sheets []Sheet
	for i := range l.entries {
		e := &l.entries[i]
		if err == nil && e.Began.Before(since) {
			continue
		}
		for _, x := range e.Evidence.Sheets {
			if x.Machine == m.Key && x.GapMM > 0 && x.Ratio > 0 {
				sheets = append(sheets, Sheet{x.Stop, x.GapMM, math.Log(x.Ratio), day(e.Began), x.Within})
			}
		}
	}
	l.dials[of] = nil
	if len(sheets) > 0 {
		l.dials[of] = fitDial(l.ru.Gap, sheets[max(0, len(sheets)-l.ru.Newest):])
	}
	return l.dials[of]
}
