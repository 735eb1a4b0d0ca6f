package plan

import (
	"math"
	"testing"

	"hollen/internal/core/knead"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// A rest that is typed minute by minute never throws the kneading about: what the rest leaves out is not bought by
// kneading on.
func TestTypedRestMinuteByMinute(t *testing.T) {
	for _, flour := range []string{"soft-00", "soft-0", "plain", "strong", "spelt-white"} {
		was := math.NaN()
		for minutes := 8.; minutes <= 40; minutes++ {
			r := request.Default()
			r.Flours[0].Flour, r.Knead.School = flour, knead.Long
			r.Rest.Min = ptr(minutes)
			p, err := Make(rules.Default(), r)
			if err != nil {
				t.Fatal(flour, minutes, err)
			}
			if math.Abs(p.Knead.Min-was) > 2 {
				t.Errorf(
					"%s: a rest of %g min asks for %g min of kneading, one of %g for %g",
					flour,
					minutes,
					p.Knead.Min,
					minutes-1,
					was,
				)
			}
			if p.Knead.Min > 10 && minutes < 30 {
				t.Errorf("%s: a rest of %g min is made up for by %g min of kneading", flour, minutes, p.Knead.Min)
			}
			was = p.Knead.Min
		}
	}
}
