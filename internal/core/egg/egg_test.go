package egg

import (
	"fmt"
	"math"
	"math/rand"
	"testing"

	"hollen/internal/core/rules"
)

func task(flourG, moisture, target float64, class string, style Style) Task {
	r := rules.Default()
	c, ok := Find(class)
	if !ok {
		panic(class)
	}
	return Task{Eggs: r.Eggs, Hydration: r.Hydration, BasisWB: r.Flour.BasisMoistureWB,
		FlourG: flourG, F14G: flourG * (1 - moisture) / .86, MoistureWB: moisture,
		TargetHw: target, Class: c, Style: style, TopUp: TopWater}
}

// Soft wheat 00 at 14 %, absorption 55, on a roller machine: 42.5 + .25·(55−56).
const soft00 = 42.25

func TestSolveReference(t *testing.T) {
	for _, c := range []struct {
		flour          float64
		class          string
		style          Style
		whole, yolks   int
		topG, flourAdd float64
	}{
		{1000, "eu-l", WholeEggs, 9, 0, 0, 0},
		{500, "eu-m", WholeEggs, 5, 0, 12, 0},
		{100, "eu-l", WholeEggs, 1, 0, 0, 11},
		{300, "eu-l", Rich, 2, 3, 0, 0},
		{1000, "us-l", Rich, 8, 11, 0, 0},
	} {
		k := task(c.flour, .14, soft00, c.class, c.style)
		s := k.Solve().Best
		if s.Whole != c.whole || s.Yolks != c.yolks || math.Abs(s.TopG-c.topG) > .5 ||
			math.Abs(s.FlourAddG-c.flourAdd) > .5 {
			t.Errorf("%v g %s %s: got %d + %d, %.1f g liquid, %.1f g flour; want %d + %d, %v g, %v g",
				c.flour, c.class, c.style, s.Whole, s.Yolks, s.TopG, s.FlourAddG, c.whole, c.yolks, c.topG, c.flourAdd)
		}
	}
}

// One egg to 100 g of flour spans this much working hydration.
func TestOneEggSpan(t *testing.T) {
	for class, want := range map[string]float64{"eu-s": 33.6, "eu-xl": 53.1, "us-l": 39.0} {
		k := task(100, .14, 0, class, WholeEggs)
		k.TopUp, k.LockFlour = TopNone, true
		if got := k.Try(1, 0).Hw; math.Abs(got-want) > .05 {
			t.Errorf("%s: %.2f, want %.1f", class, got, want)
		}
	}
}

// brute is the solver's objective over every pair, without a bound of any kind.
func brute(k Task) (best Solution, found bool) {
	e := int(k.FlourG/k.Class.EdibleG) + 3
	y := int(1.4*k.FlourG/k.Class.YolkG) + 4
	all := []Solution{}
	least := math.Inf(1)
	for i := 0; i <= e; i++ {
		for j := 0; j <= y; j++ {
			if !k.allowed(i, j) {
				continue
			}
			if s := k.Try(i, j); s.Meets() {
				all = append(all, s)
				least = min(least, s.Cost)
			}
		}
	}
	for _, s := range all {
		if s.Cost <= least+tie && (!found || fewer(s, best)) {
			best, found = s, true
		}
	}
	return best, found
}

func TestSolveEqualsBruteForce(t *testing.T) {
	rnd := rand.New(rand.NewSource(7))
	classes := Classes()
	for i := range 20000 {
		flour := 40 + rnd.Float64()*760
		if i%100 == 0 {
			flour *= 8
		}
		k := task(flour, .10+rnd.Float64()*.06, 36+rnd.Float64()*14, classes[rnd.Intn(len(classes))].Key,
			[]Style{WholeEggs, Rich, YolksOnly}[rnd.Intn(3)])
		k.LossG = rnd.Float64() * 2
		if rnd.Intn(5) == 0 { // eggs of another class, an oil, a purée, a thirsty powder
			k.GivenG = float64(rnd.Intn(4)) * 51
			k.ExtraFat, k.ExtraWater = rnd.Float64()*.05*flour, (rnd.Float64()*.16-.06)*flour
		}
		k.LockFlour = rnd.Intn(3) == 0
		k.TopUp = []TopUp{TopWater, TopMilk, TopNone}[rnd.Intn(3)]
		want, found := brute(k)
		got := k.Solve()
		if got.Exact != found || found && (got.Best.Whole != want.Whole || got.Best.Yolks != want.Yolks) {
			t.Fatalf("case %d %+v:\n got %v %+v\nwant %v %+v", i, k, got.Exact, got.Best, found, want)
		}
		if got.Weighed.Crack+got.Weighed.Separate == 0 && k.GivenG == 0 {
			t.Fatalf("case %d: no weighed row", i)
		}
		if len(got.Alternatives) > 4 {
			t.Fatalf("case %d: %d alternatives", i, len(got.Alternatives))
		}
		if !got.Best.Meets() && k.GivenG == 0 && k.ExtraWater <= 0 {
			t.Fatalf("case %d %+v: the pick misses: %+v", i, k, got.Best)
		}
		if !found && !got.Best.Beaten && k.GivenG == 0 && k.ExtraWater <= 0 {
			t.Fatalf("case %d: no whole number serves, and it is not beaten: %+v", i, got.Best)
		}
		for _, alt := range got.Alternatives {
			same := alt.Whole == got.Best.Whole && alt.Yolks == got.Best.Yolks && !got.Best.Beaten
			if same || !alt.Meets() || found && alt.FlourAddG == 0 && alt.Cost < got.Best.Cost-tie {
				t.Fatalf("case %d: %+v is no alternative to %+v", i, alt, got.Best)
			}
		}
	}
}

// Small and awkward batches: where no whole number serves it is beaten and weighed, and the nearest
// batch of whole eggs is one that they bring to its target by themselves.
func TestSmallBatches(t *testing.T) {
	for flour := 60.; flour < 400; flour += 7 {
		for _, class := range Classes() {
			for _, style := range []Style{WholeEggs, Rich, YolksOnly, WholeWater} {
				for _, top := range []TopUp{TopWater, TopMilk, TopNone} {
					k := task(flour, .135, soft00, class.Key, style)
					k.TopUp, k.LockFlour = top, true
					a := k.Solve()
					if !a.Best.Meets() || a.Best.Beaten == a.Exact || math.Abs(a.Best.Hw-a.Best.TargetHw) > .3+1e-9 {
						t.Fatalf("%v g %s %s %s: %+v", flour, class.Key, style, top, a.Best)
					}
					if b := a.Best; b.Beaten && (math.Abs(b.Hw-b.TargetHw) > 1e-9 || b.LeftG < -1e-9 ||
						b.LeftG > class.EdibleG || b.LeftYolkG > class.YolkG) {
						t.Fatalf("%v g %s %s: %+v", flour, class.Key, style, b)
					}
					s, by, ok := k.WholeBatch()
					if !ok {
						t.Fatalf("%v g %s %s: no batch of whole eggs", flour, class.Key, style)
					}
					near := k.Moved((by - 1) * flour)
					if x := near.Try(s.Whole, s.Yolks); style != WholeWater && (x.TopG > 1e-9 ||
						math.Abs(x.Hw-x.TargetHw) > 1e-6) {
						t.Fatalf("%v g %s %s: %+v at %.3f: %+v", flour, class.Key, style, s, by, x)
					}
				}
			}
		}
	}
	// By the reference: one large egg to 100 g where the flour stays.
	k := task(100, .14, soft00, "eu-l", WholeEggs)
	k.LockFlour = true
	if b := k.Solve().Best; !b.Beaten || math.Abs(b.EggG-54.1) > .1 || b.Whole != 1 || math.Abs(b.LeftG-5.9) > .1 {
		t.Errorf("%+v", b)
	}
}

func TestWeighMeetsTarget(t *testing.T) {
	for _, style := range []Style{WholeEggs, Rich, YolksOnly, WholeWater, NoEgg} {
		k := task(730, .12, 42, "eu-m", style)
		w := k.Weigh()
		got := k.dry() + 100*(w.WholeG*k.worth(Whole)+w.YolkG*k.worth(Yolk)+w.LiquidG)/k.F14G
		if want := k.target(k.nominal()); math.Abs(got-want) > 1e-9 {
			t.Errorf("%s: %v, want %v", style, got, want)
		}
	}
}

func TestFixedNumbersAreKept(t *testing.T) {
	eleven, none := 11, 0
	k := task(1000, .14, soft00, "eu-l", WholeEggs)
	k.FixWhole = &eleven
	if s := k.Solve().Best; s.Whole != 11 || s.FlourAddG == 0 {
		t.Errorf("11 eggs asked: %+v", s)
	}
	k = task(1000, .14, soft00, "eu-l", Rich)
	k.FixYolks = &none
	if s := k.Solve().Best; s.Yolks != 0 || s.Whole != 9 {
		t.Errorf("no yolks: %+v", s)
	}
}

// Eggs of another class count in full; the class makes up the rest.
func TestMixedClasses(t *testing.T) {
	k := task(1000, .14, soft00, "eu-l", WholeEggs)
	k.GivenG = 4 * 51
	s := k.Solve().Best
	if s.Whole != 5 || math.Abs(s.EggG-(5*60+4*51)) > 1e-9 || math.Abs(s.Hw-s.TargetHw) > .31 {
		t.Errorf("four of 51 g and large ones: %+v", s)
	}
	if w := k.Weigh(); math.Abs(k.start()+100*w.WholeG*k.worth(Whole)/k.F14G-soft00) > 1e-9 {
		t.Errorf("weighed beside them: %+v", w)
	}
	k.GivenG = 12 * 51
	if s := k.Solve().Best; s.Whole != 0 || s.FlourAddG == 0 {
		t.Errorf("twelve are more than enough: %+v", s)
	}
	if c := (Class{Name: "Ten of ours", Weighed: Weighing{10, 548,
		171}}).Means(rules.Default().Measure); c.Check() != nil ||
		c.EdibleG != 54.8 || c.YolkG != 17.1 {
		t.Errorf("%+v", c)
	}
	if c := (Class{Weighed: Weighing{10, 5480, 171}}).Means(rules.Default().Measure); c.Check() == nil {
		t.Error("an egg of 548 g is accepted")
	}
}

func BenchmarkSolveRich(b *testing.B) {
	for _, kg := range []float64{1, 10, 50} {
		k := task(kg*1000, .13, soft00, "eu-l", Rich)
		b.Run(fmt.Sprintf("%.0fkg", kg), func(b *testing.B) {
			for b.Loop() {
				k.Solve()
			}
		})
	}
}
