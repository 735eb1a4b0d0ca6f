package practice

import (
	"math"

	"hollen/internal/core/rules"
)

// Standing is what is known of somebody at one call: a Beta of marks, older ones counting less. Its zero value is that
// nothing is known.
type Standing struct {
	A, B float64 // marks and what they lack, beyond the 1 each begins with
	Day  float64 // days, when it was last met
	N    int     // how often it was met
}

// aged is what is left of a standing on a day.
func (s Standing) aged(r *rules.Practice, day float64) Standing {
	f := math.Exp2(-max(0, day-s.Day) / r.HalfDays)
	s.A *= f
	s.B *= f
	s.Day = max(s.Day, day)
	return s
}

// Seen is the standing after a mark, 0–1, on a day.
func (s Standing) Seen(r *rules.Practice, mark, day float64) Standing {
	s = s.aged(r, day)
	s.A += mark
	s.B += 1 - mark
	s.N++
	return s
}

// At is the standing on a day, 0–1, and how much it stands on.
func (s Standing) At(r *rules.Practice, day float64) (share, seen float64) {
	s = s.aged(r, day)
	return (1 + s.A) / (2 + s.A + s.B), 2 + s.A + s.B
}

// Words say how somebody stands: not yet known, coming, sure.
func (s Standing) Words(r *rules.Practice, c *CallOf, day float64) string {
	share, seen := s.At(r, day)
	switch {
	case seen < r.KnownAt:
		return "not yet known"
	case seen >= r.SureAt && share >= r.SureShare*c.Ceiling:
		return "sure"
	}
	return "coming"
}

// Next is the calls of a sitting of n, in order: the call longest not practised first, ties by how weak it is.
func Next(r *rules.Practice, of map[Call]Standing, day float64, n int) (out []Call) {
	at := map[Call]Standing{}
	for c, s := range of {
		at[c] = s
	}
	for len(out) < n {
		best := -1
		for i := range calls {
			if best < 0 || sooner(r, at[calls[i].Key], at[calls[best].Key], day) {
				best = i
			}
		}
		c := calls[best].Key
		out = append(out, c)
		s := at[c]
		s.Day = day + float64(len(out))*1e-3
		s.N++
		at[c] = s
	}
	return out
}

// sooner says whether a comes before b: longer not met, or as long and weaker.
func sooner(r *rules.Practice, a, b Standing, day float64) bool {
	if a.N == 0 || b.N == 0 {
		if (a.N == 0) != (b.N == 0) {
			return a.N == 0
		}
		return false
	}
	if a.Day != b.Day {
		return a.Day < b.Day
	}
	x, _ := a.At(r, day)
	y, _ := b.At(r, day)
	return x < y
}
