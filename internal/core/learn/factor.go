package learn

import (
	"math"

	"hollen/internal/core/rules"
)

// Look is one thing seen of a factor: ln κ lay from Lo to Hi, exactly where they are the same; an open end is infinite.
// S is the spread of such a look.
type Look struct{ Lo, Hi, S float64 }

// Exactly is a look that saw it; After and Before saw only that it is more, or less.
func Exactly(y, s float64) Look { return Look{y, y, s} }

// After is a look that saw it is not reached at y.
func After(y, s float64) Look { return Look{y, math.Inf(1), s} }

// Before is a look that saw it is passed at y.
func Before(y, s float64) Look { return Look{math.Inf(-1), y, s} }

// Kappa is what looks say of a factor.
type Kappa struct {
	Ln, SD   float64
	K        float64 // e^Ln
	From, To float64 // nine in ten lie between
	N        int
}

// grid is the ln κ that are weighed.
const (
	gridLow  = -1.2
	gridHigh = 1.2
	gridN    = 241
)

// AskAgain is how far from nought a look may lie before it is asked again whether it is meant.
const AskAgain = 1.6

// Factor returns what looks say, from a prior around 1. Source: Bayes on a grid, one look in twenty a slip.
func Factor(f rules.Factor, looks []Look) Kappa {
	var p [gridN]float64
	step := (gridHigh - gridLow) / (gridN - 1)
	most := math.Inf(-1)
	for i := range p {
		t := gridLow + float64(i)*step
		l := -(t / f.Prior) * (t / f.Prior) / 2
		for _, x := range looks {
			l += math.Log((1-slips)*x.likely(t) + slips/2)
		}
		p[i] = l
		most = math.Max(most, l)
	}
	sum := 0.
	for i := range p {
		p[i] = math.Exp(p[i] - most)
		sum += p[i]
	}
	o := Kappa{N: len(looks)}
	for i := range p {
		p[i] /= sum
		o.Ln += p[i] * (gridLow + float64(i)*step)
	}
	for i := range p {
		d := gridLow + float64(i)*step - o.Ln
		o.SD += p[i] * d * d
	}
	o.SD, o.K = math.Sqrt(o.SD), math.Exp(o.Ln)
	if len(looks) == 0 { // the grid is even, its mean is not a hair off
		o.Ln, o.K = 0, 1
	}
	at := func(share float64) float64 { // linear inside a cell centred on its point
		below := 0.
		for i := range p {
			if below+p[i] >= share {
				return gridLow + (float64(i)-.5+(share-below)/p[i])*step
			}
			below += p[i]
		}
		return gridHigh
	}
	o.From, o.To = math.Exp(at(.05)), math.Exp(at(.95))
	return o
}

// likely is how likely the look is where ln κ is t.
func (x Look) likely(t float64) float64 {
	if x.Lo == x.Hi {
		z := (x.Lo - t) / x.S
		return math.Exp(-z*z/2) / math.Sqrt(2*math.Pi) / x.S
	}
	return math.Max(0, normal((x.Hi-t)/x.S)-normal((x.Lo-t)/x.S))
}

func normal(z float64) float64 { return .5 * math.Erfc(-z/math.Sqrt2) }
