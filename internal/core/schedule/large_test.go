package schedule

import "testing"

var sizes = []struct {
	name string
	kind kind
}{
	{"4-batches-1", kind{batches: 4, people: 1}},
	{"6-1", kind{batches: 6, people: 1}},
	{"6-1-break", kind{batches: 6, people: 1, breaks: true}},
	{"6-1-tight", kind{batches: 6, people: 1, tight: true}},
	{"6-1-setups", kind{batches: 6, people: 1, setups: true}},
	{"6-1-turns", kind{batches: 6, people: 1, turns: true, fillings: true}},
	{"7-1", kind{batches: 7, people: 1}},
	{"8-1", kind{batches: 8, people: 1}},
	{"4-2", kind{batches: 4, people: 2}},
	{"4-2-turns-setups-break", kind{batches: 4, people: 2, turns: true, setups: true, breaks: true}},
	{"6-2", kind{batches: 6, people: 2}},
	{"4-2-skill", kind{batches: 4, people: 2, skill: true, breaks: true}},
}

// BenchmarkSizes plans 30 random days of each size: the share proved best and the nodes it took.
func BenchmarkSizes(b *testing.B) {
	for _, k := range sizes {
		b.Run(k.name, func(b *testing.B) {
			closed, nodes, days := 0, 0, 0
			for b.Loop() {
				a, err := random(k.kind, uint64(days%30)).Solve(Nodes)
				if err != nil {
					b.Fatal(err)
				}
				days++
				if nodes += a.Nodes; a.Proved {
					closed++
				}
			}
			b.ReportMetric(100*float64(closed)/float64(days), "%proved")
			b.ReportMetric(float64(nodes)/float64(days), "nodes/day")
		})
	}
}

// BenchmarkLarge plans large days: how far the span lies over its bound.
func BenchmarkLarge(b *testing.B) {
	for _, k := range []struct {
		name string
		kind kind
	}{{"20-1", kind{batches: 20, people: 1}}, {"20-1-breaks", kind{batches: 20, people: 1, breaks: true}}, {"20-2",
		kind{batches: 20, people: 2}},
		{"20-2-all", kind{batches: 20, people: 2, breaks: true, turns: true, setups: true}}, {"60-1", kind{batches: 60,
			people: 1}}, {"60-1-fillings",
			kind{batches: 60, people: 1, fillings: true}},
		{"60-2", kind{batches: 60, people: 2}}, {"60-2-all", kind{batches: 60, people: 2, breaks: true, turns: true,
			setups: true}}} {
		b.Run(k.name, func(b *testing.B) {
			over, days := 0., 0
			for b.Loop() {
				a, err := random(k.kind, uint64(days%6)).Large()
				if days++; err != nil {
					b.Fatal(err)
				}
				over += 100 * float64(a.Goals.Span-a.Bound.Span) / float64(a.Bound.Span)
			}
			b.ReportMetric(over/float64(days), "%over")
		})
	}
}

// BenchmarkSlip plans anew after a delay of 20 min.
func BenchmarkSlip(b *testing.B) {
	for _, k := range []struct {
		name string
		kind kind
	}{{"6-1", kind{batches: 6, people: 1}}, {"4-2", kind{batches: 4, people: 2}}} {
		b.Run(k.name, func(b *testing.B) {
			n := 0
			for b.Loop() {
				b.StopTimer()
				d := random(k.kind, uint64(n%30))
				a, err := d.Solve(Nodes)
				if err != nil {
					b.Fatal(err)
				}
				facts, now, _ := delayed(d, a.Slots, 20, uint64(n))
				n++
				b.StartTimer()
				if _, _, err := d.Slip(a.Slots, facts, now, 2_000); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
