package practice

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
)

// Drills: the doctor's table, chance and a constant answer, by regret and mark; what is believed of a cause is so as
// often as it is said.
func TestDrills(t *testing.T) {
	for _, before := range []bool{true, false} {
		k := NewKitchen(book(t, before))
		n := min(many(40), 400)
		for level := 1; level <= 3; level++ {
			var all [6]float64
			var bins [10][3]float64
			for i := range calls {
				c := &calls[i]
				var doctor, chance, doctorMark, chanceMark float64
				var each, eachMark []float64
				for j := range n {
					d := k.Drill(uint64(j), c.Key, level)
					is := slices.IndexFunc(
						d.Options,
						func(o Option) bool { return o.Key == table(k.Base, c.Key, d.Context, d.Shown) },
					)
					if is < 0 {
						t.Fatalf("%s: the table has no answer to %v", c.Key, d.Shown)
					}
					if each == nil {
						each, eachMark = make([]float64, len(d.Options)), make([]float64, len(d.Options))
					}
					v := d.Judge(is)
					doctor += v.Regret / float64(n)
					doctorMark += v.Mark / float64(n)
					for o := range d.Options {
						r := v.Sums[o] - slices.Min(v.Sums)
						each[o] += r / float64(n)
						eachMark[o] += c.Mark(r) / float64(n)
						chance += r / float64(n*len(d.Options))
						chanceMark += c.Mark(r) / float64(n*len(d.Options))
					}
					class := v.about.of(&d.dough)
					for o, s := range v.Shares {
						b := &bins[min(9, int(10*s))]
						b[0] += s
						b[2]++
						if o == class {
							b[1]++
						}
					}
				}
				if many(0) > 0 {
					fmt.Printf(
						"before %v level %d %-8s regret %.2f %.2f %.2f mark %.2f %.2f %.2f\n",
						before,
						level,
						c.Key,
						doctor,
						chance,
						slices.Min(each),
						doctorMark,
						chanceMark,
						slices.Max(eachMark),
					)
				}
				for i, v := range []float64{doctor, chance, slices.Min(each), doctorMark, chanceMark,
					slices.Max(eachMark)} {
					all[i] += v / float64(len(calls))
				}
			}
			if many(0) > 0 {
				fmt.Printf(
					"before %v level %d all: regret %.2f %.2f %.2f mark %.3f %.3f %.3f\n",
					before,
					level,
					all[0],
					all[1],
					all[2],
					all[3],
					all[4],
					all[5],
				)
			}
			constant := .75
			if n < 400 {
				constant = .79
			}
			if all[3] < .8 || all[4] > .55 || all[5] > constant {
				t.Errorf(
					"before %v level %d: marks of the doctor %.2f, of chance %.2f, of a constant %.2f",
					before,
					level,
					all[3],
					all[4],
					all[5],
				)
			}
			for _, b := range bins {
				if b[2] >= 60 && math.Abs(b[0]-b[1])/b[2] > .08 && level == 2 && (many(0) > 0 || b[2] > 150) {
					t.Errorf(
						"before %v level %d: said %.2f, was %.2f (%.0f)",
						before,
						level,
						b[0]/b[2],
						b[1]/b[2],
						b[2],
					)
				}
			}
		}
	}
}

// Whole batches by decision: regret tells the doctor from the novice, and goes with the points lost.
func TestBatchesByDecision(t *testing.T) {
	k := NewKitchen(book(t, true))
	n := min(many(12), 50)
	regret, lost := map[string]float64{}, map[string]float64{}
	var rs, ls []float64
	for _, who := range []string{"doctor", "recipe", "novice", "chance"} {
		for seed := range n {
			x, _ := k.Fold(uint64(seed), 2, nil, true)
			policies[who](&hands{x, theDoctors}, source(uint64(seed), hash(who)))
			points, _ := x.Points()
			regret[who] += x.Regret() / float64(n)
			lost[who] += (100 - points) / float64(n)
			rs, ls = append(rs, x.Regret()), append(ls, 100-points)
		}
	}
	rank := func(v []float64) []float64 {
		out := make([]float64, len(v))
		for i := range v {
			for j := range v {
				if v[j] < v[i] || v[j] == v[i] && j < i {
					out[i]++
				}
			}
		}
		return out
	}
	a, b, m := rank(rs), rank(ls), float64(len(rs)-1)/2
	var ab, aa float64
	for i := range a {
		ab += (a[i] - m) * (b[i] - m)
		aa += (a[i] - m) * (a[i] - m)
	}
	t.Logf("regret %v, lost %v, rank correlation %.2f", regret, lost, ab/aa)
	if many(0) > 0 {
		fmt.Printf("batches: regret %v lost %v rank correlation %.2f\n", regret, lost, ab/aa)
	}
	ordered := regret["doctor"] < regret["recipe"] && regret["recipe"] < min(regret["novice"], regret["chance"])
	if !ordered ||
		ab/aa < .6 {
		t.Errorf("regret %v, rank correlation %.2f", regret, ab/aa)
	}
}

// learnt moves a learner's marks by what the opened dough showed.
func learnt(w way, x *Batch, rate float64, rng *rand.Rand) way {
	by := func(v float64) float64 { return rate * v * math.Exp(.3*rng.NormFloat64()) }
	d := &x.Dough
	w.bias += by(clamp(d.Dev, -2.5, 2.5))
	if w.first < 2.5 {
		w.first += by(1.2)
	}
	w.dose += by(clamp(1-w.dose, -.6, .6))
	if d.D() < .89 {
		w.smooth = min(4, w.smooth+1)
		w.arms += by(6)
		w.edges = max(0, w.edges-1)
	}
	relaxed := x.Line[len(x.Line)-1].T
	for _, m := range x.Line {
		if m.Phase == AtRolls {
			relaxed = m.T
			break
		}
	}
	if relaxed > .27 {
		w.poke = min(4, w.poke+1)
		w.rest += by(12. / 30)
	}
	if relaxed < .05 {
		w.rest -= by(8. / 30)
	}
	w.thin += by(1.2 * clamp(math.Log(d.MM/.9), -.4, .4))
	if w.skip > 0 && d.WasteG > 6 {
		w.skip--
	}
	if d.Weld > .15 {
		w.leather = 1
		w.dry += by(5)
	}
	if d.Brittle > .15 {
		w.dry = max(0, w.dry-by(5))
	}
	if math.Abs(d.Bite) > .12 {
		w.late += by(-60 * clamp(d.Bite, -.5, .5))
	}
	if w.late < 25 {
		w.tooth = 1
	}
	w.late = max(0, w.late)
	return w
}

// A made-up learner told of the dough it worked gets better; not told, or told of another's, it does not.
func TestLearner(t *testing.T) {
	k := NewKitchen(book(t, true))
	n := min(many(40), 150)
	curve := func(told, another bool) (out [12]float64) {
		for j := range n {
			rng := source(uint64(j), hash("learner"))
			w := theNovices
			w.bias *= .6 + .8*rng.Float64()
			w.late *= .6 + .8*rng.Float64()
			for i := range out {
				x, _ := k.Fold(uint64(1000*j+i), 2, nil, false)
				x.work(w)
				points, _ := x.Points()
				out[i] += points / float64(n)
				if another {
					x, _ = k.Fold(uint64(1000*j+i+500), 2, nil, false)
					policies["chance"](&hands{x, w}, rng)
				}
				if told || another {
					w = learnt(w, x, .45, rng)
				}
			}
		}
		return out
	}
	told, not, other := curve(true, false), curve(false, false), curve(false, true)
	t.Logf("told %.0f\nnot told %.0f\nof another's %.0f", told, not, other)
	if many(0) > 0 {
		fmt.Printf("told %.0f\nnot told %.0f\nof another's %.0f\n", told, not, other)
	}
	if told[5] < 80 || not[11] > 55 || other[11] > not[11]+12 {
		t.Errorf("told %.0f by the sixth; not told %.0f, of another's %.0f by the twelfth", told[5], not[11], other[11])
	}
}

// What was planted can be asked of most stories, and is the likeliest of nearly all.
func TestFaults(t *testing.T) {
	for _, before := range []bool{true, false} {
		k := NewKitchen(book(t, before))
		table := k.faultTable()
		n := min(many(40), 200)
		ok, named := 0., 0.
		for f := range table.faults {
			asked := 0.
			for j := range n {
				lines, _ := story(k.Base, table.faults[f], source(uint64(j), hash("told", table.faults[f].Key)))
				p := table.likely(lines)
				if p[f] >= k.Rules.Practice.AskAt {
					asked += 1 / float64(n)
				}
				if slices.Index(p, slices.Max(p)) == f {
					named += 1 / float64(n*len(table.faults))
				}
			}
			ok += asked / float64(len(table.faults))
			if many(0) > 0 {
				fmt.Printf("before %v fault %-12s askable %.2f\n", before, table.faults[f].Key, asked)
			}
			if asked < .4 {
				t.Errorf("before %v: %s can be asked of %.2f", before, table.faults[f].Name, asked)
			}
		}
		t.Logf("before %v: asked %.2f, named %.2f", before, ok, named)
		if ok < .8 || named < .85 {
			t.Errorf("before %v: asked %.2f, named %.2f", before, ok, named)
		}
		for seed := range uint64(30) {
			c := k.Case(seed)
			if len(c.Offered) != 5 || c.Likely[c.Planted] < .6 || c.Mark(c.Planted) != 1 {
				t.Fatalf("case %d: %+v", seed, c)
			}
		}
	}
}
