package sack

import (
	"math"

	"hollen/internal/core/egg"
	"hollen/internal/core/rules"
)

// Tried is a small dough: how far it stood over what the book aims at, points of working hydration, and the word said
// of it, −2 too dry to 2 too wet.
type Tried struct {
	H    float64
	Word int
}

// Wanted is what a flour wants more than the book, in this air and by this hand, points of working hydration.
type Wanted struct {
	By, SD float64
	// LookR and LookVar are the sitting as one look into the log, without what was known before: points, and the
	// variance of its noise.
	LookR, LookVar float64
}

// Steps are where one dough stands that gets its water in steps, points over the book's aim, until it is called a
// little wet: the cheaper form, worth about two doughs.
var Steps = [9]float64{-3, -2.2, -1.4, -.6, .2, 1, 1.8, 2.6, 3.4}

// The sums of a small dough. Source: house, three doughs in one sitting.
const (
	SmallFlourG   = 50.  // on a scale of a tenth of a gram
	CoarseFlourG  = 150. // on one of whole grams
	SmallEggShare = .4   // beaten egg, of the flour
	SmallKneadMin = 3.
)

// SmallWaterG returns the water, g, of a small dough of flourG that stands h points over an aim of working hydration,
// of flour at a moisture of wb, share; lostG leaves it at the board. What it needs is (aim + h)·F14/100 − (F − F14),
// less what the egg brings.
func SmallWaterG(ru rules.Rules, aim, h, wb, flourG, lostG float64) float64 {
	f14 := flourG * (1 - wb) / (1 - ru.Flour.BasisMoistureWB)
	brought := SmallEggShare * flourG * (egg.Whole.Water + ru.Hydration.FatWeight*egg.Whole.Fat)
	return (aim+h)*f14/100 - (flourG - f14) - brought + lostG
}

// WrapMin returns how long a small dough rests wrapped, min, until the water its flour has not taken up yet reads as
// nothing any more; uptakeMin is the time constant of that.
func WrapMin(uptakeMin float64) float64 { return max(20, math.Ceil(3*uptakeMin-SmallKneadMin)) }

// WaterG returns how much more water flourG of flour want, g, that are byWB drier, share: dHw/dm·F14/100.
func WaterG(ru rules.Flour, hw, flourG, byWB float64) float64 {
	return byWB * (100 + hw) * flourG / (1 - ru.BasisMoistureWB) / 100
}

// spread is what the words of a sitting have of their own, each fresh, and what all of them share besides what is
// wanted.
func spread(me rules.Measure, oneDough bool) (fresh, shared float64) {
	const kept = .6 // of a word's noise, that the same dough said again brings along
	if oneDough {
		return (1 - kept) * me.DoughWordVar, me.DoughSittingVar + me.DoughBridgeVar + kept*me.DoughWordVar +
			me.DoughWeighVar
	}
	return me.DoughWordVar + me.DoughWeighVar, me.DoughSittingVar + me.DoughBridgeVar
}

// cuts are where one word becomes the next, points over what is wanted.
var cuts = [4]float64{-1.8, -.6, .6, 1.8}

// Places are where three doughs stand, points over the book's aim.
var Places = [3]float64{-1.8, 0, 1.8}

// chance is P(word | d), d points over what is wanted: cuts soft by the person's own step, and a slip now and then.
func chance(me rules.Measure, fresh float64, word int, d float64) float64 {
	below := func(i int) float64 {
		switch {
		case i < 0:
			return 0
		case i > 3:
			return 1
		}
		c := cuts[i]
		return .5 * math.Erfc(-(c-d)/math.Sqrt2/math.Sqrt(fresh+me.DoughStepShare*me.DoughStepShare*c*c))
	}
	return (1-me.DoughSlip)*(below(word+2)-below(word+1)) + me.DoughSlip/5
}

// posterior returns mean and variance of what the doughs share, on a grid, before them normal with mean m0 and variance
// v.
func posterior(me rules.Measure, fresh float64, doughs []Tried, m0, v float64) (mean, variance float64) {
	const from, to, step = -90, 90, .1
	var p, all, sum [to - from + 1]float64
	total := 0.
	for i := range p {
		g := float64(from+i) * step
		l := math.Exp(-(g - m0) * (g - m0) / (2 * v))
		for _, x := range doughs {
			l *= chance(me, fresh, x.Word, x.H-g)
		}
		p[i] = l
		total += l
	}
	for i := range p {
		all[i] = p[i] / total
		sum[i] = all[i] * float64(from+i) * step
		mean += sum[i]
	}
	for i := range p {
		g := float64(from+i)*step - mean
		variance += all[i] * g * g
	}
	return mean, variance
}

// Want returns what the doughs of one sitting say, after m0 with a standard deviation of sd0 was known of it, both in
// points; oneDough where it is one, its water in steps. What the doughs share besides, the sitting and that they are
// small, is the same in all of them.
func Want(me rules.Measure, oneDough bool, doughs []Tried, m0, sd0 float64) Wanted {
	if len(doughs) == 0 {
		return Wanted{By: m0, SD: sd0}
	}
	fresh, shared := spread(me, oneDough)
	known := sd0 * sd0
	mean, v := posterior(me, fresh, doughs, m0, known+shared)
	rho := known / (known + shared)
	w := Wanted{By: m0 + rho*(mean-m0), SD: math.Sqrt(rho*rho*v + known*(1-rho))}
	const flat = 16
	alone, s2 := posterior(me, fresh, doughs, 0, flat)
	own := 1 / (1/s2 - 1./flat)
	w.LookR = alone * own / s2
	w.LookVar = own + shared - me.DoughBridgeVar
	return w
}

// Contradict says whether a drier word was said of a wetter dough.
func Contradict(doughs []Tried) bool {
	for _, a := range doughs {
		for _, b := range doughs {
			if a.H < b.H && a.Word > b.Word {
				return true
			}
		}
	}
	return false
}
