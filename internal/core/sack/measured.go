package sack

import (
	"math"

	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
)

// nineInTen is how many standard deviations hold nine in ten of a bell.
const nineInTen = 1.645

// Within is nine in ten of a standard deviation: a figure give or take that.
func Within(sd float64) float64 { return nineInTen * sd }

// ByWeight returns the moisture, share wet basis, of a sack that weighed thenG net at thenWB and weighs nowG by now,
// nothing taken between: what it lost or gained is water. m = 1 − (1 − m₀)·M_then/M_now.
func ByWeight(thenWB, thenG, nowG float64) float64 { return 1 - (1-thenWB)*thenG/nowG }

// ByWeightSD returns the standard deviation of one such difference by a scale of stepG for a sack of massG, share;
// it grows with the root of how many pairs of weighings follow each other.
func ByWeightSD(stepG, massG, wb float64, pairs int) float64 {
	return math.Sqrt2 * stepG / massG * (1 - wb) / nineInTen * math.Sqrt(float64(max(pairs, 0)))
}

// Oven is a sample dried to the end: 130 °C for an hour or more, spread under 5 mm.
type Oven struct {
	TareG, BeforeG, AfterG float64 // of the tin; with the sample in it, before and after
	StepG                  float64 // of the scale
}

// What an oven's answer is believed to be, share wet basis: beyond it something was misread.
const leastOvenWB, mostOvenWB = .08, .16

// Read returns the moisture, share wet basis, with its standard deviation; a measure.Fault says what cannot be.
// m = (before − after)/(before − tare).
func (o Oven) Read(me rules.Measure) (wb, sd float64, err error) {
	sample := o.BeforeG - o.TareG
	switch {
	case !(o.StepG > 0):
		return 0, 0, measure.Faultf("step_g", "the scale's step is asked, in g")
	case !(sample > 0):
		return 0, 0, measure.Faultf("before_g", "with the flour it weighs more than the tin alone, {%.4g g}", o.TareG)
	case sample < LeastSampleG(o.StepG):
		return 0, 0, measure.Faultf("before_g", "{%.3g g} of flour are too little for this scale: the answer would be "+
			"off by "+
			"%.1f points either way; take {%.0f g}", sample, 100*Within(OvenSD(me, o.StepG, sample)), TakeG(o.StepG))
	case !(o.AfterG < o.BeforeG):
		return 0, 0, measure.Faultf("after_g", "dried it weighs less than before, {%.4g g}", o.BeforeG)
	case o.AfterG < o.TareG:
		return 0, 0, measure.Faultf("after_g", "the tin alone weighs {%.4g g}", o.TareG)
	}
	wb = (o.BeforeG - o.AfterG) / sample
	if wb < leastOvenWB || wb > mostOvenWB {
		return wb, 0, measure.Faultf("after_g",
			"that is a moisture of %.1f %%; flour has 8 to 16 %%. Is the tin in all "+
				"weighings, and the flour dry to the end?", 100*wb)
	}
	return wb, OvenSD(me, o.StepG, sample), nil
}

// OvenSD returns the standard deviation of a moisture by the oven from a sample of so many g on a scale of stepG,
// share.
func OvenSD(me rules.Measure, stepG, sampleG float64) float64 {
	return math.Hypot(math.Sqrt2*stepG/(nineInTen*sampleG), me.OvenSD)
}

// LeastSampleG is the least sample a scale of that step can tell anything of, g: half a point either way.
func LeastSampleG(stepG float64) float64 { return math.Sqrt2 * stepG / .005 }

// TakeG is the sample to take on a scale of that step, g: within .3 of a point, from 50 g.
func TakeG(stepG float64) float64 { return max(50, 50*math.Ceil(LeastSampleG(stepG)*1.7/50)) }

// Together weighs two answers to one question by how sure each is; a standard deviation of 0 is certain.
func Together(a, sdA, b, sdB float64) (mean, sd float64) {
	if sdA == 0 {
		return a, 0
	}
	if sdB == 0 {
		return b, 0
	}
	wa := 1 / (sdA * sdA)
	wb := 1 / (sdB * sdB)
	return (a*wa + b*wb) / (wa + wb), 1 / math.Sqrt(wa+wb)
}
