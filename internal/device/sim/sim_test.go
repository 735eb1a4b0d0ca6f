package sim

import (
	"math"
	"testing"
	"time"
)

// The bowl: poured while the key is held, settled within 0.8 s to 5 %, noise of 0.3 g, tared to nought, lifted to
// nothing.
func TestBowl(t *testing.T) {
	b := NewBowl(7)
	run := func(s float64) (last float64) {
		for range int(s * perSecond) {
			last = b.Step(1. / perSecond)
		}
		return last
	}
	b.Do("pour")
	run(4)
	b.Do("stop")
	if g := run(.8); math.Abs(g-4*pourGPerS) > .05*4*pourGPerS {
		t.Errorf("%.1f g are shown of %d poured", g, 4*pourGPerS)
	}
	run(3)
	low, high := math.Inf(1), math.Inf(-1)
	for range 100 {
		g := b.Step(1. / perSecond)
		low, high = math.Min(low, g), math.Max(high, g)
	}
	if high-low > 2*noiseG+.11 || high == low {
		t.Errorf("it wavers by %.1f g", high-low)
	}
	b.Do("tare")
	if g := run(.2); math.Abs(g) > 2*noiseG {
		t.Errorf("tared it shows %.1f g", g)
	}
	b.Do("spoon")
	if g := run(4); math.Abs(g-spoonG) > 2*noiseG {
		t.Errorf("a spoon is %.1f g", g)
	}
	b.Do("empty")
	if g := run(5); math.Abs(g) > 2*noiseG {
		t.Errorf("lifted it shows %.1f g", g)
	}
	if b.Do("juggle") {
		t.Error("a bowl does not juggle")
	}
}

func TestAir(t *testing.T) {
	for h := range 24 * 30 {
		c, rh := Air(time.Date(2026, 11, 1, h%24, 0, 0, 0, time.UTC).AddDate(0, 0, h/24))
		if c < 15 || c > 27 || rh < .3 || rh > .65 {
			t.Errorf("%.1f °C and %.2f", c, rh)
		}
	}
}
