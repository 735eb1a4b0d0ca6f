package schedule

import (
	"fmt"
	"math/rand/v2"
)

// kind says what a random day has.
type kind struct {
	batches, people                               int
	breaks, setups, turns, fillings, skill, tight bool
	small                                         bool // all in fives and short, so that every start can be tried
}

// house is the cleaning between egg-free, pale and dark dough, min.
var house = [][]int{{0, 0, 2}, {15, 0, 2}, {15, 10, 0}}

// random makes up a day of that kind, the same for the same seed.
func random(k kind, seed uint64) *Day {
	r := rand.New(rand.NewPCG(seed, 7))
	unit, horizon := 1, 720+60*k.batches*max(1, 8/k.people)/2
	if k.small {
		unit, horizon = 5, 130+25*k.batches
	}
	between := func(lo, hi int) int { return (lo + r.IntN(hi-lo+1) + unit - 1) / unit * unit }
	d := &Day{First: -1, Stores: []Store{{"rack", 300}, {"fridge", 2}, {"mixer", 1}}, Setup: [][]int{{0}}}
	if k.setups {
		d.Setup, d.First = house, r.IntN(4)-1
		if k.small {
			d.Setup = [][]int{{0, 0, 5}, {15, 0, 5}, {15, 10, 0}}
		}
	}
	for p := range k.people {
		person := Person{Name: string(rune('A' + p))}
		if k.breaks {
			from := horizon/3/unit*unit + between(0, 30)
			if !k.skill {
				from = horizon / 3 / unit * unit
			}
			person.Off = [][2]int{{from, from + between(15, 30)}}
			if !k.skill {
				person.Off[0][1] = from + 30
			}
		}
		d.People = append(d.People, person)
	}
	task := func(name string, batch, minutes, class int, hands bool) int {
		t := Task{Name: fmt.Sprintf("%s %d", name, batch), Batch: batch, Hands: hands, Class: class, To: horizon}
		for p := range k.people {
			m := minutes
			if k.skill && hands && p > 0 {
				if m += unit * r.IntN(3); r.IntN(4) == 0 {
					m = -1
				}
			}
			t.Minutes = append(t.Minutes, m)
		}
		d.Tasks = append(d.Tasks, t)
		return len(d.Tasks) - 1
	}
	lag := func(a, b Point, lo, hi int) { d.Lags = append(d.Lags, Lag{A: a, B: b, Min: lo, Max: hi}) }
	var ends []int
	for b := range k.batches {
		class := 0
		if k.setups {
			class = r.IntN(3)
		}
		knead := between(12, 20)
		pieces, each := 3+r.IntN(5), 4+r.IntN(4)
		if k.small {
			knead, pieces, each = between(5, 15), 1+r.IntN(3), 5
		}
		var doughed Point
		if r.IntN(4) == 0 {
			first := task("mix", b, max(unit, 4), NoRoller, true)
			turning := task("mixer", b, between(8, 12), NoRoller, false)
			lag(Point{first, true}, Point{turning, false}, 0, 0)
			d.Holds = append(d.Holds, Hold{Point{first, false}, Point{turning, true}, 2, 1})
			doughed = Point{turning, true}
			d.Waits = append(d.Waits, Wait{A: first, Limit: 120})
		} else {
			first := task("knead", b, knead, NoRoller, true)
			doughed = Point{first, true}
			d.Waits = append(d.Waits, Wait{A: first, Limit: 120})
			if k.turns && r.IntN(2) == 0 {
				turn := task("turn", b, max(unit, 3), NoRoller, true)
				lag(doughed, Point{turn, false}, 15, 30)
				doughed = Point{turn, true}
			}
		}
		roll := task("roll", b, pieces*each, class, true)
		rest := between(60, 100)
		lo := 30
		if k.small {
			lo, rest = between(10, 25), between(30, 45)
			d.Waits[len(d.Waits)-1].Limit = between(45, 90)
		}
		lag(doughed, Point{roll, false}, lo, rest)
		if k.fillings && r.IntN(3) == 0 {
			fill := task("filling", b, between(10, 20), NoRoller, true)
			lag(Point{fill, true}, Point{roll, false}, 30, 240)
			d.Holds = append(d.Holds, Hold{Point{fill, true}, Point{roll, false}, 1, 1})
		}
		packing := pieces * 2
		if k.small {
			packing = 5
		}
		pack := task("pack", b, packing, NoRoller, true)
		lag(Point{roll, true}, Point{pack, false}, 10, 25)
		d.Holds = append(d.Holds, Hold{Point{roll, false}, Point{pack, false}, 0, 100 + r.IntN(51)})
		d.Waits[len(d.Waits)-1].B = pack
		ends = append(ends, pack)
	}
	for len(ends) > 0 {
		n := min(len(ends), 1+r.IntN(3))
		due := horizon/2 + between(0, horizon/2)
		if k.tight || k.small && r.IntN(2) == 0 {
			due = between(horizon/4, horizon/2)
		}
		d.Orders = append(d.Orders, Order{Name: fmt.Sprint(len(d.Orders)), Due: due, Last: ends[:n]})
		ends = ends[n:]
	}
	return d
}
