package egg

import (
	"math"
	"testing"

	"hollen/internal/core/rules"
)

// Ten eggs into a jug say what the tray's eggs hold.
func TestTrayMean(t *testing.T) {
	me := rules.Default().Measure
	if mean, sd := TrayMean(me, 51, 10, 528); math.Abs(mean-52.3472) > 1e-4 || math.Abs(sd-.6019) > 1e-4 {
		t.Errorf("ten of 528 g: %.4f ± %.4f", mean, sd)
	}
	for n, want := range map[int]float64{0: 1.2, 1: 1.05, 3: .87, 6: .72, 30: .38} {
		if _, sd := TrayMean(me, 51, n, 51*float64(n)); math.Abs(sd-want) > .006 {
			t.Errorf("%d eggs: ± %.3f, want %.2f", n, sd, want)
		}
	}
}
