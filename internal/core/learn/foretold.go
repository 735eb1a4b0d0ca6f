package learn

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"

	"hollen/internal/core/bench"
	"hollen/internal/core/rules"
)

// Foretold is a law of this kitchen before its looks: the log of a factor, normal round 0 with a standard deviation of
// SD, each look off by Look.
type Foretold struct{ SD, Look float64 }

// Judged is one look against what was foretold of it by those before it.
type Judged struct {
	Mean, SD float64 // foretold, logs
	Y        float64
	Z        float64
	Held     bool // within nine in ten
}

// Verdict is what looks say of the ranges that were foretold.
type Verdict string

// The verdicts: too few looks to know, as foretold, ranges that were too narrow or too wide.
const (
	NotKnown Verdict = "not yet known"
	Holds    Verdict = "holds"
	Narrow   Verdict = "too narrow"
	Wide     Verdict = "too wide"
)

// Trial is what looks at a law come to.
type Trial struct {
	Looks  []Judged
	Held   int
	LnK    float64 // the kitchen's factor, its log, and how sure
	LnKSD  float64
	SumZ2  float64
	Spread float64 // what each look is off by, as the looks have it
	Is     Verdict
}

// Within is nine in ten of what a look is off by.
func (t *Trial) Within() float64 { return ninety * t.Spread }

// Judge takes looks, logs of what was measured over the book, one after another: each by what those before it taught.
func (f Foretold) Judge(ys []float64) Trial {
	s := Trial{Spread: f.Look, Is: NotKnown}
	sure := 1 / (f.SD * f.SD)
	for _, y := range ys {
		sd := math.Sqrt(1/sure + f.Look*f.Look)
		j := Judged{Mean: s.LnK, SD: sd, Y: y, Z: (y - s.LnK) / sd}
		j.Held = math.Abs(j.Z) <= ninety
		if j.Held {
			s.Held++
		}
		s.SumZ2 += j.Z * j.Z
		s.Looks = append(s.Looks, j)
		more := sure + 1/(f.Look*f.Look)
		s.LnK = (sure*s.LnK + y/(f.Look*f.Look)) / more
		sure = more
	}
	s.LnKSD = 1 / math.Sqrt(sure)
	k := float64(len(ys))
	const believed = 10 // looks that the spread foretold is worth
	s.Spread = f.Look * min(max(math.Sqrt((believed+s.SumZ2)/(believed+k)), .5), 2)
	if k == 0 {
		return s
	}
	chi := distuv.ChiSquared{K: k}
	switch {
	case s.SumZ2 > chi.Quantile(.95) || s.Held <= NarrowAt(len(ys)):
		s.Is = Narrow
	case s.SumZ2 < chi.Quantile(.05) && len(ys) >= Knowable:
		s.Is = Wide
	case len(ys) >= Knowable:
		s.Is = Holds
	}
	return s
}

// Knowable is how many looks a law needs before anything but a plain failure is said of it.
const Knowable = 15

// NarrowAt returns how many of k ranges, or fewer, hold with a chance of at most one in twenty where nine in ten
// should; −1 where even none would prove nothing.
func NarrowAt(k int) int {
	b := distuv.Binomial{N: float64(k), P: .9}
	most := -1
	for held := 0; held <= k && b.CDF(float64(held)) <= .05; held++ {
		most = held
	}
	return most
}

// The laws that makings try.
const (
	LawLeather = "leather" // minutes on the rack, by where it dries
	LawPot     = "pot"     // seconds in the pot, by the family of the shape
	LawSheet   = "sheet"   // the sheet at a stop, by the machine
)

// Tried is a law of the book with what the makings of this kitchen say of it.
type Tried struct {
	Key, Of string
	Foretold
	Trial
}

// law is how one is tried: how far it may be off, how far a look, and of what a making looked at it, logs.
type law struct {
	key   string
	by    func(ru *rules.Learn) Foretold
	looks func(b *bench.Evidence) (of string, ys []float64)
}

// exact are the logs of ratios that were measured, not only bounded.
func exact(all []bench.Ratio) (out []float64) {
	for _, x := range all {
		if x.From > 0 && x.From == x.To {
			out = append(out, math.Log(x.From))
		}
	}
	return out
}

var laws = []law{
	{LawLeather, func(ru *rules.Learn) Foretold { return Foretold{ru.Dry.Prior, ru.Dry.Spread} },
		func(b *bench.Evidence) (string, []float64) { return b.Place, exact(b.Dry) }},
	{LawPot, func(ru *rules.Learn) Foretold { return Foretold{ru.Cook.Prior, ru.Cook.Spread} },
		func(b *bench.Evidence) (string, []float64) { return b.Family, exact(b.Cook) }},
	{LawSheet, func(ru *rules.Learn) Foretold {
		return Foretold{math.Sqrt(ru.Gap.Share + ru.Gap.Stop), math.Sqrt(ru.Gap.Noise)}
	}, func(b *bench.Evidence) (of string, ys []float64) {
		for _, x := range b.Sheets {
			if x.Within == 0 && x.Ratio > 0 && (of == "" || of == x.Machine) {
				of = x.Machine
				ys = append(ys, math.Log(x.Ratio))
			}
		}
		return of, ys
	}},
}

// Tried returns the laws that makings have tried, each look judged by what those before it taught.
func (l *Log) Tried() (out []Tried) {
	for _, x := range laws {
		ys := map[string][]float64{}
		var order []string
		for i := range l.entries {
			of, more := x.looks(&l.entries[i].Evidence)
			if len(more) > 0 && ys[of] == nil {
				order = append(order, of)
			}
			ys[of] = append(ys[of], more...)
		}
		f := x.by(&l.ru)
		for _, of := range order {
			out = append(out, Tried{x.key, of, f, f.Judge(ys[of])})
		}
	}
	return out
}

// Range is what a law foretells of a figure of the book, nine in ten, by what the makings so far say of it.
func (l *Log) Range(key, of string, book float64) (from, to float64) {
	for _, x := range laws {
		if x.key != key {
			continue
		}
		f := x.by(&l.ru)
		mean, sd := 0., math.Hypot(f.SD, f.Look)
		for _, t := range l.Tried() {
			if t.Key == key && t.Of == of {
				mean, sd = t.LnK, math.Hypot(t.LnKSD, t.Spread)
			}
		}
		return book * math.Exp(mean-ninety*sd), book * math.Exp(mean+ninety*sd)
	}
	return book, book
}
