package learn

import (
	"math"
	"math/rand/v2"
	"testing"

	"hollen/internal/core/rules"
)

var ru = rules.Default().Learn

func near(t *testing.T, what string, got, want, within float64) {
	t.Helper()
	if !(math.Abs(got-want) <= within) {
		t.Errorf("%s: %.5f, want %.4f", what, got, want)
	}
}

const digits = .00006

// The worked example of hydration: five batches of two makers, one of them a slip.
func hydrationExample() ([]Seen, Next) {
	seen := func(day float64, flour, lot, maker string, r float64, feel int) Seen {
		return Seen{R: r, V: ru.FeelNoise[feel+2], Day: day, Labels: []string{"kitchen", flour, lot, maker, "eggs"}}
	}
	return []Seen{seen(0, "A", "A1", "Ada", .9, 0), seen(4, "A", "A1", "Ben", 1.6, -1), seen(9, "B", "B1", "Ada", 1, 0),
			seen(12, "A", "A1", "Ada", 5.5, 0), seen(15, "A", "A2", "Ada", .1, 1)},
		Next{Labels: []string{"kitchen", "A", "A2", "Ada", "eggs"}, Day: 18}
}

func TestHydrationExample(t *testing.T) {
	seen, next := hydrationExample()
	e := shared(ru.Hydration, seen, next)
	for i, w := range []float64{.9890, .9841, .9804, .0011, .9827} {
		near(t, "w", e.W[i], w, digits)
	}
	for i, a := range []float64{-.1866, .6809, .1676, .0101, -.4338} {
		near(t, "alpha", e.Alpha[i], a, digits)
	}
	for i, p := range []float64{.5361, .1018, -.2776, -.0708, .0381} {
		near(t, "part", e.Parts[i], p, digits)
	}
	near(t, "season", e.Drift, .0354, digits)
	near(t, "m", e.M, .3630, digits)
	near(t, "scale", e.Scale, .8947, digits)
	near(t, "sd", e.SD, .6008, digits)
	near(t, "within", e.Within, 1.0279, digits)
	one := shared(ru.Hydration, seen[:1], next)
	near(t, "w of one", one.W[0], .9770, digits)
	near(t, "m of one", one.M, .6977, digits)
	near(t, "sd of one", one.SD, 1.2342, digits)
	near(t, "within of one", one.Within, 2.4363, digits)
	near(t, "kitchen of one", one.Parts[0], .3742, digits)
	two := shared(ru.Hydration, seen[:2], next)
	near(t, "m of two", two.M, .9236, digits)
	near(t, "sd of two", two.SD, 1.1693, digits)
	near(t, "within of two", two.Within, 2.1159, digits)
}

func TestFactorExamples(t *testing.T) {
	ln := math.Log
	k := Factor(ru.Knead, []Look{Exactly(ln(1.2), .18), After(0, .18), {ln(1.1), ln(1.3), .18}})
	near(t, "kneading", k.Ln, .1784, digits)
	near(t, "its sd", k.SD, .1140, digits)
	near(t, "from", k.From, .9934, digits)
	near(t, "to", k.To, 1.4440, digits)
	if none := Factor(ru.Knead, nil); none.K != 1 || none.From >= 1 || none.To <= 1 {
		t.Errorf("nothing seen: %+v", none)
	}
	rest := Factor(
		ru.Rest,
		[]Look{
			RestLook(2.5120, .9987, 5, ru.PokeOpenS),
			RestLook(2.5120, .9987, 4, ru.PokeOpenS),
			RestLook(2.5120, .9987, 8, ru.PokeOpenS),
		},
	)
	near(t, "rest", rest.Ln, .2158, digits)
	near(t, "its sd", rest.SD, .1119, digits)
	near(t, "from", rest.From, 1.0359, digits)
	near(t, "to", rest.To, 1.4887, digits)
	dry := Factor(ru.Dry, []Look{After(ln(11./11), .20), {ln(13. / 11), ln(17. / 11), .20}, Before(ln(60./38), .20)})
	near(t, "drying", dry.Ln, .2259, digits)
	near(t, "its sd", dry.SD, .1598, digits)
	near(t, "to", dry.To, 1.6205, digits)
	cook := Factor(ru.Cook, []Look{After(ln(90./102), .12), Exactly(ln(110./102), .12)})
	near(t, "cooking", cook.Ln, .0715, .0005) // its 102.0 s is itself rounded
	near(t, "its sd", cook.SD, .0969, .0002)
	near(t, "to", cook.To, 1.2627, .0006)
}

func TestRestLook(t *testing.T) {
	for s, want := range map[float64][2]float64{5: {.2814, .1655}, 4: {.4067, .1798}} {
		x := RestLook(2.5120, .9987, s, ru.PokeOpenS)
		near(t, "y", x.Lo, want[0], .0001)
		near(t, "spread", x.S, want[1], .0001)
	}
	if x := RestLook(2.5120, .9987, 8, ru.PokeOpenS); !math.IsInf(x.Lo, -1) {
		t.Errorf("eight seconds: %+v", x)
	} else {
		near(t, "y", x.Hi, .0600, .0001)
		near(t, "spread", x.S, .2057, .0001)
	}
}

func TestGapExample(t *testing.T) {
	at := []Sheet{{"1.5", 1.5, math.Log(1.06), 0, 0}, {".9", .9, math.Log(1.10), 0, 0}, {"1.2", 1.2, math.Log(1.07), 30,
		0}}
	for _, c := range []struct {
		stop               string
		gap                float64
		ln, k, sd, within_ float64
	}{{".9", .9, .0866, 1.0905, .0209, .0366}, {"1.9", 1.9, .0563, 1.0579, .0297, .0521}} {
		e := gapOf(ru.Gap, at, c.stop, c.gap, 40)
		near(t, c.stop, e.M, c.ln, digits)
		near(t, c.stop+" k", math.Exp(e.M), c.k, digits)
		near(t, c.stop+" sd", e.SD, c.sd, digits)
		near(t, c.stop+" within", e.Within, c.within_, digits)
	}
}

func TestHandsAndLossExamples(t *testing.T) {
	h := func(maker, shape string, took, planned, day float64) Seen {
		return Seen{R: math.Log(took / planned), V: ru.HandsNoise, Labels: []string{"kitchen", maker, shape}, Day: day}
	}
	e := shared(ru.Hands, []Seen{h("Ada", "ravioli", 12, 9, 0), h("Ben", "ravioli", 15, 9, 5), h("Ada", "farfalle", 5,
		4, 8)},
		Next{[]string{"kitchen", "Ada", "ravioli"}, 10})
	near(t, "ln f", e.M, .3122, digits)
	near(t, "f", math.Exp(e.M), 1.3665, digits)
	near(t, "sd", e.SD, .1413, digits)
	l := func(maker string, loss, planned float64) Seen {
		return Seen{R: math.Log(math.Max(1, loss) / planned), V: LossNoise(ru, planned), Labels: []string{"kitchen",
			maker}}
	}
	seen := []Seen{l("Ada", 14, 8), l("Ben", 9, 7.5), l("Ada", 40, 8)}
	near(t, "v", seen[1].V, .2311, digits)
	e = shared(ru.Loss, seen, Next{Labels: []string{"kitchen", "Ada"}})
	near(t, "ln f", e.M, .6433, digits)
	near(t, "f", math.Exp(e.M), 1.9028, digits)
	near(t, "sd", e.SD, .2912, digits)
	for i, w := range []float64{.9741, .9677, .8312} {
		near(t, "w", e.W[i], w, digits)
	}
}

// Any order, all labels unknown, the same twice, a wild one among ten, nothing at all.
func TestAnyBatches(t *testing.T) {
	rng := rand.New(rand.NewPCG(15, 1))
	labels := []string{"", "A", "B", "C"}
	for range 200 {
		var seen []Seen
		for range 1 + rng.IntN(40) {
			s := Seen{R: 6 * rng.NormFloat64(), V: .5 + rng.Float64(), Day: 400 * rng.Float64(),
				Labels: []string{"kitchen"}}
			for range 4 {
				s.Labels = append(s.Labels, labels[rng.IntN(len(labels))])
			}
			seen = append(seen, s)
		}
		next := Next{Labels: []string{"kitchen", "A", "A", "A", "A"}, Day: 400}
		want := shared(ru.Hydration, seen, next)
		rng.Shuffle(len(seen), func(i, j int) { seen[i], seen[j] = seen[j], seen[i] })
		got := shared(ru.Hydration, seen, next)
		near(t, "in another order", got.M, want.M, 1e-9)
		near(t, "its sd", got.SD, want.SD, 1e-9)
		sum := got.Drift
		for _, p := range got.Parts {
			sum += p
		}
		near(t, "the parts add up", sum, got.M, 1e-9)
		if math.IsNaN(got.M+got.SD+got.Within) || got.SD <= 0 {
			t.Fatalf("%+v", got)
		}
		unknown := shared(ru.Hydration, seen, Next{Labels: []string{"", "", "", "", ""}, Day: 1e6})
		near(t, "of nobody known", unknown.M, 0, 1e-9)
	}
	var ten []Seen
	for range 10 {
		ten = append(ten, Seen{R: 1 + .2*rng.NormFloat64(), V: .5, Labels: []string{"kitchen", "A", "A1", "Ada",
			"eggs"}})
	}
	next := Next{Labels: ten[0].Labels}
	calm := shared(ru.Hydration, ten, next)
	wild := shared(ru.Hydration, append(ten, Seen{R: 9, V: .5, Labels: ten[0].Labels}), next)
	if math.Abs(wild.M-calm.M) > .2 || wild.W[10] >= Doubtful {
		t.Errorf("a wild one moves it from %.2f to %.2f, weighs %.3f", calm.M, wild.M, wild.W[10])
	}
	none := shared(ru.Hydration, nil, next)
	if none.M != 0 || none.N != 0 || math.Abs(none.Within-1.645*math.Sqrt(4.9)) > 1e-9 {
		t.Errorf("nothing logged: %+v", none)
	}
	once, twice := shared(ru.Hydration, ten[:1], next), shared(ru.Hydration, []Seen{ten[0], ten[0]}, next)
	if math.Abs(twice.M) <= math.Abs(once.M) {
		t.Errorf("the same twice counts once: %.3f, %.3f", once.M, twice.M)
	}
}

func BenchmarkShared(b *testing.B) {
	rng := rand.New(rand.NewPCG(15, 2))
	var seen []Seen
	for i := range 200 {
		seen = append(seen, Seen{R: rng.NormFloat64(), V: .5, Day: float64(i), Labels: []string{"kitchen",
			string(rune('A' + i%3)), string(rune('a' + i%20)),
			"Ada", "eggs"}})
	}
	for b.Loop() {
		shared(ru.Hydration, seen, Next{Labels: seen[0].Labels, Day: 200})
	}
}

// shared is the estimate from batches that share causes.
func shared(c rules.Causes, seen []Seen, next Next) Estimate { return Fit(c, seen).For(next) }

// gapOf is the logarithm of what sheets of a stop are over what its gap says.
func gapOf(g rules.Gap, sheets []Sheet, stop string, gapMM, day float64) Estimate {
	return fitDial(g, sheets).of(stop, gapMM, day)
}

// A sitting of small doughs is one look: what tells small doughs from big ones only sittings share.
func TestSittingInTheLog(t *testing.T) {
	c := rules.Default().Learn.Hydration
	at := func(day float64, labels ...string) Next { return Next{labels, day} }
	mine := []string{"k", "C", "C1", "Ada", "e"}
	sitting := func(day float64) Seen { return Seen{R: 1.5744, V: .3673, Labels: mine, Day: day, Small: true} }
	others := []Seen{{R: .9, V: .5, Labels: []string{"k", "A", "A1", "Ada", "e"}},
		{R: 1.6, V: .6, Labels: []string{"k", "A", "A1", "Ben", "e"}, Day: 4},
		{R: 1.0, V: .5, Labels: []string{"k", "B", "B1", "Ada", "e"}, Day: 9},
		{R: 5.5, V: .5, Labels: []string{"k", "A", "A1", "Ada", "e"}, Day: 12},
		{R: .1, V: .6, Labels: []string{"k", "A", "A2", "Ada", "e"}, Day: 15}}
	for _, x := range []struct {
		name          string
		seen          []Seen
		next          Next
		m, sd, within float64
	}{
		{"alone", []Seen{sitting(0)}, at(1, mine...), 1.3946, .7320, 1.4449},
		{"then a batch", []Seen{sitting(0), {R: .9, V: .5, Labels: mine, Day: 1}}, at(4, mine...), 1.1327, .5091,
			.9212},
		{"after five of others", append(others, sitting(20)), at(21, mine...), 1.3916, .6342, 0},
		{"five of others alone", others, at(21, mine...), .5371, 1.5353, 0},
	} {
		e := Fit(c, x.seen).For(x.next)
		if math.Abs(e.M-x.m) > 2e-4 || math.Abs(e.SD-x.sd) > 2e-4 || x.within > 0 &&
			math.Abs(e.Within-x.within) > 2e-4 {
			t.Errorf("%s: %.4f ± %.4f (%.4f), want %.4f ± %.4f (%.4f)", x.name, e.M, e.SD, e.Within, x.m, x.sd,
				x.within)
		}
	}
}
