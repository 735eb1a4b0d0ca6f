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

// Hands are never on a dough for longer than it takes in all, whatever its size and whoever kneads.
func TestHandsAreNoLongerThanAll(t *testing.T) {
	for _, portions := range []float64{1, 4, 10, 20, 40, 80} {
		for _, people := range []float64{1, 2, 3} {
			r := request.Default()
			r.Amount.Portions, r.Bench.People, r.Knead.Shared = portions, people, people > 1
			p, err := Make(rules.Default(), r)
			if err != nil {
				t.Fatal(portions, people, err)
			}
			for _, s := range p.CompareSchools() {
				if s.HandsMin > s.InAllMin+1e-9 {
					t.Errorf("%g portions, %g people, %s: hands on %.1f min, in all %.1f", portions, people, s.School,
						s.HandsMin, s.InAllMin)
				}
			}
		}
	}
}

// The cold of the fridge a quarter of a degree at a time never makes the rest in it jump.
func TestFridgeByQuarters(t *testing.T) {
	for _, flour := range []string{"soft-00", "plain", "semola-fine", "spelt-white"} {
		for _, school := range knead.Schools() {
			was := math.NaN()
			for c := 0.; c <= 8; c += .25 {
				r := request.Default()
				r.Flours[0].Flour, r.Knead.School, r.Rest.At, r.Bench.FridgeC = flour, school, request.InFridge, c
				p, err := Make(rules.Default(), r)
				if err != nil {
					t.Fatal(flour, school, c, err)
				}
				if math.Abs(p.way.RestMin-was) > 10 {
					t.Errorf("%s, %s: rests %.0f min at %.2f °C, %.0f a quarter of a degree before", flour, school,
						p.way.RestMin, c, was)
				}
				was = p.way.RestMin
			}
		}
	}
}
