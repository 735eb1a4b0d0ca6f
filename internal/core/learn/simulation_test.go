//go:build simulation

package learn

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"
)

// spreads are how kitchens truly differ from the book, points.
type spreads struct{ kitchen, flour, lot, maker float64 }

// One kitchen made up: its batches one after the other, each planned with what those before it taught. It returns how
// far each plan
// lay from what its batch truly wanted, and whether that was inside what was stated.
func kitchen(rng *rand.Rand, s spreads, batches int) (off []float64, inside []bool) {
	flours := make([]float64, 1+rng.IntN(3))
	for i := range flours {
		flours[i] = s.flour * rng.NormFloat64()
	}
	makers := 1
	if rng.Float64() < .4 {
		makers = 2
	}
	step, taste := make([]float64, makers), make([]float64, makers)
	for i := range makers {
		step[i], taste[i] = 1.2*math.Exp(.25*rng.NormFloat64()), s.maker*rng.NormFloat64()
	}
	own := s.kitchen * rng.NormFloat64()
	lots, lotNo := make([]float64, len(flours)), make([]int, len(flours))
	for i := range lots {
		lots[i] = s.lot * rng.NormFloat64()
	}
	var seen []Seen
	for i := range batches {
		f, m, day := rng.IntN(len(flours)), rng.IntN(makers), 3.5*float64(i)
		if i > 0 && rng.IntN(7) == 0 { // a lot lasts seven batches
			lots[f], lotNo[f] = s.lot*rng.NormFloat64(), lotNo[f]+1
		}
		wants := own + flours[f] + lots[f] + taste[m]
		labels := []string{"kitchen", fmt.Sprint("f", f), fmt.Sprint("f", f, "l", lotNo[f]), fmt.Sprint("m", m), "eggs"}
		e := shared(ru.Hydration, seen, Next{labels, day})
		off, inside = append(off, math.Abs(e.M-wants)), append(inside, math.Abs(e.M-wants) <= e.Within)
		made := e.M + rng.NormFloat64() // eggs come whole, and hands pour
		word := func() int {
			return int(math.Max(-2, math.Min(2, math.Round((made-wants+.6*rng.NormFloat64())/step[m]))))
		}
		w := word()
		if w != 0 && rng.Float64() < .6 { // put right at the board
			made -= float64(w) * 1.2
			w = word()
		}
		if rng.Float64() < .05 {
			if rng.IntN(2) == 0 {
				made += (3 + 5*rng.Float64()) * float64(1-2*rng.IntN(2))
			} else {
				w = rng.IntN(5) - 2
			}
		}
		seen = append(seen, Seen{R: made - ru.FeelPoints[w+2], V: ru.FeelNoise[w+2], Labels: labels, Day: day})
	}
	return off, inside
}

// The table of what is gained: mean distance of the next plan from what its batch truly wanted after so many batches,
// and how often that
// is inside what is stated. go test -tags simulation -run TestSimulation ./internal/core/learn
func TestSimulation(t *testing.T) {
	at := []int{0, 1, 2, 3, 5, 10, 30}
	for _, c := range []struct {
		name string
		s    spreads
		want []float64 // by at; 0: not given
		n    int
	}{
		{"usual", spreads{1.5, 1.2, .8, .3}, []float64{1.66, 1.09, .89, .74, .59, .49, .41}, 3000},
		{"nothing to learn", spreads{}, []float64{0, .47, 0, .41, 0, .32, .28}, 3000},
	} {
		sum, in := make([]float64, len(at)), make([]float64, len(at))
		rng := rand.New(rand.NewPCG(300, 1))
		from := time.Now()
		for range c.n {
			off, inside := kitchen(rng, c.s, at[len(at)-1]+1)
			for k, n := range at {
				sum[k] += off[n] / float64(c.n)
				if inside[n] {
					in[k] += 100 / float64(c.n)
				}
			}
		}
		for k, n := range at {
			t.Logf("%s, after %d: %.2f off (%.2f given), %.0f %% inside", c.name, n, sum[k], c.want[k], in[k])
			if w := c.want[k]; w > 0 && math.Abs(sum[k]/w-1) > .1 {
				t.Errorf("%s, after %d: %.2f, want %.2f within a tenth", c.name, n, sum[k], w)
			}
		}
		t.Logf("%v", time.Since(from))
	}
}
