package learn

import (
	"math"

	"hollen/internal/core/rules"
)

// Poke marks. Source: house: 3 s to half recovery is a tension of 0.25, 1.5 s one of 0.5.
const (
	pokeTension = .75 // tension is this over the seconds, s
	pokeFirm    = .25 // under this much relaxation a poke says only "not yet", no unit
)

// RestLook is what a timed poke after a rest says of how quickly a dough relaxes, as ln κ of its time constant: x is
// how far the
// model has it relax over that rest, ln(T0/Tend), t0 the tension it began with, s the seconds to half recovery, open
// from how many
// seconds on that says only "slower".
func RestLook(x, t0, s, open float64) Look {
	if s >= open {
		xo := math.Log(t0 * open / pokeTension)
		return Before(math.Log(x/xo), .25/xo+.1)
	}
	xo := math.Log(t0 * s / pokeTension)
	if xo < pokeFirm {
		return After(math.Log(x/pokeFirm), .35)
	}
	return Exactly(math.Log(x/xo), math.Sqrt(.0625/(xo*xo)+.01))
}

// LossNoise is the variance of one loss on bowl and board, of which so many grams were planned.
func LossNoise(l rules.Learn, plannedG float64) float64 {
	return l.LossNoise + l.LossScaleG*l.LossScaleG/(plannedG*plannedG)
}

// TrimNoise is the same of trimmings.
func TrimNoise(l rules.Learn, plannedG float64) float64 {
	return l.TrimNoise + l.TrimScaleG*l.TrimScaleG/(plannedG*plannedG)
}

// Sheet is one sheet measured at a stop: its logarithm over what gap and spring-back say, and the day.
type Sheet struct {
	Stop  string
	GapMM float64
	R     float64
	Day   float64
	// Within is how far the reading itself may be off, share; 0: as a measured sheet is.
	Within float64
}

// dial is what sheets of one machine say, before it is asked of which stop.
type dial struct {
	g      rules.Gap
	sheets []Sheet
	solved solved
}

func fitDial(g rules.Gap, sheets []Sheet) *dial {
	d := &dial{g: g, sheets: sheets}
	r, v := make([]float64, len(sheets)), make([]float64, len(sheets))
	for i, x := range sheets {
		r[i], v[i] = x.R, g.Noise+g.NoiseMM/(x.GapMM*x.GapMM)+x.Within*x.Within/4 // that is two deviations
	}
	d.solved = solve(r, v, g.Slip, func(i, j int) float64 { return d.shares(sheets[i], sheets[j]) })
	return d
}

func (d *dial) shares(a, b Sheet) float64 {
	c := d.g.Share + (d.g.Zero+d.g.Wander*math.Exp(-math.Abs(a.Day-b.Day)/d.g.WanderDays))/(a.GapMM*b.GapMM)
	if a.Stop == b.Stop {
		c += d.g.Stop
	}
	return c
}

func (d *dial) of(stop string, gapMM, day float64) Estimate {
	next := Sheet{Stop: stop, GapMM: gapMM, Day: day}
	return d.solved.estimate(d.shares(next, next), func(i int) float64 { return d.shares(d.sheets[i], next) })
}
