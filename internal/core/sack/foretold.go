package sack

import (
	"math"

	"gonum.org/v1/gonum/stat/distuv"
)

// Foretold is a law of this kitchen before its looks: the log of a factor, normal round 0 with a standard deviation of SD,
// each look off by Look.
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

// Sheet is what a validation sheet comes to.
type Sheet struct {
	Looks  []Judged
	Held   int
	LnK    float64 // the kitchen's factor, its log, and how sure
	LnKSD  float64
	SumZ2  float64
	Spread float64 // what each look is off by, as the looks have it
	Is     Verdict
}

// Judge takes looks, logs of what was measured over the book, one after another: each by what those before it taught.
func (f Foretold) Judge(ys []float64) Sheet {
	s := Sheet{Spread: f.Look, Is: NotKnown}
	sure := 1 / (f.SD * f.SD)
	for _, y := range ys {
		sd := math.Sqrt(1/sure + f.Look*f.Look)
		j := Judged{Mean: s.LnK, SD: sd, Y: y, Z: (y - s.LnK) / sd}
		j.Held = math.Abs(j.Z) <= nineInTen
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
	case s.SumZ2 < chi.Quantile(.05) && len(ys) >= knowable:
		s.Is = Wide
	case len(ys) >= knowable:
		s.Is = Holds
	}
	return s
}

// knowable is how many looks a law needs before anything but a plain failure is said of it.
const knowable = 15

// NarrowAt returns how many of k ranges, or fewer, hold with a chance of at most one in twenty where nine in ten should;
// −1 where even none would prove nothing.
func NarrowAt(k int) int {
	b := distuv.Binomial{N: float64(k), P: .9}
	most := -1
	for held := 0; held <= k && b.CDF(float64(held)) <= .05; held++ {
		most = held
	}
	return most
}

// HouseShift returns how much of the mean of several kitchens' ln κ a house rule moves by, 0 under three kitchens.
func HouseShift(lnK []float64, f Foretold, looks int) float64 {
	if len(lnK) < 3 || looks < 1 {
		return 0
	}
	sum := 0.
	for _, k := range lnK {
		sum += k
	}
	n := float64(len(lnK))
	const shift = .04 // variance of what a house rule may be off by
	return shift / (shift + (f.SD*f.SD+f.Look*f.Look/float64(looks))/n) * sum / n
}

// Dish reads equilibrium and time constant of flour spread on the scale from three moistures, share wet basis, the same
// hours apart: the one test that measures the drift itself. NaN where the three do not settle.
func Dish(m0, m1, m2, hours float64) (eqWB, tauHours float64) {
	eqWB = (m0*m2 - m1*m1) / (m0 + m2 - 2*m1)
	tauHours = hours / math.Log((m0-m1)/(m1-m2))
	return eqWB, tauHours
}
