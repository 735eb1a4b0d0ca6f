package practice

import (
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
)

// A call judged against the time of a plan, in one run: the first time, and with its pool at hand.
func BenchmarkCall(b *testing.B) {
	base, r := book(b, false), planned(b).Request
	row, _ := FindCall(Water)
	x := row.Contexts(base)[0]
	planNS := 1.
	inPlans := func(b *testing.B) {
		b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/planNS, "plans")
	}
	b.Run("plan", func(b *testing.B) {
		for b.Loop() {
			if _, err := plan.Make(rules.Default(), r); err != nil {
				b.Fatal(err)
			}
		}
		planNS = float64(b.Elapsed().Nanoseconds()) / float64(b.N)
	})
	b.Run("first", func(b *testing.B) {
		for b.Loop() {
			p := pool(base, row, x, 2)
			p.Judge([]Shown{{Feel, 1}, {Flex, 1}}, 0)
		}
		inPlans(b)
	})
	k := NewKitchen(base)
	p := k.pool(row, x, 2)
	b.Run("after", func(b *testing.B) {
		for b.Loop() {
			p.Judge([]Shown{{Feel, 1}, {Flex, 1}}, 0)
		}
		inPlans(b)
	})
	b.Run("drill", func(b *testing.B) {
		seed := uint64(0)
		for b.Loop() {
			k.Drill(seed, Water, 2)
			seed++
		}
	})
}
