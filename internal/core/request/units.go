package request

import (
	"math"

	"hollen/internal/core/measure"
)

// In returns the field as a system shows and reads it. Bounds stay where they are; steps are
// rounded to ones a thumb understands.
func (f Field) In(s measure.System) Field {
	unit, by, add, turned := s.Turn(measure.Unit(f.Unit))
	if !turned || f.Show != 0 {
		return f
	}
	f.kept = measure.Unit(f.Unit)
	f.Unit, f.Show, f.Offset, f.Rounded = string(unit), by, add, true
	step := f.Step * by
	grid := math.Pow(10, math.Floor(math.Log10(step)))
	for _, n := range []float64{1, 2, 5, 10} {
		if n*grid >= step*.7 {
			step = n * grid
			break
		}
	}
	f.Step = step / by
	f.Digits = max(0, int(math.Ceil(-math.Log10(step)-1e-9))) + 1
	if f.Unit != "in" { // exact enough to turn back into whole grams and degrees
		f.Digits++
	}
	if add != 0 {
		f.Digits = 1
	}
	return f
}
