package roll

import (
	"fmt"
	"math"
	"math/rand"
	"slices"
	"testing"

	"hollen/internal/core/dough"
	"hollen/internal/core/rules"
)

func lay(fat float64, mode Mode) Lay {
	r := rules.Default()
	m, _ := Find("hand-crank-10")
	return Lay{Rules: r.Roll, Machine: m, TargetMM: .9, PieceG: 160, DensityG: 1.214, T: .1, D: .93,
		ReadyD: r.Knead.ReadyD, ReadyT: r.Knead.ReadyT, FatFreePct: r.Knead.FatFree, FatPct: fat, Gluten: 1, Folds: 2,
		Fold: Thirds, Mode: mode, BenchMM: 1200}
}

func way(p Progression) []int {
	out := []int{0}
	for _, x := range p.Passes {
		if x.Stop != out[len(out)-1] {
			out = append(out, x.Stop)
		}
	}
	return out
}

func TestReferenceRoutes(t *testing.T) {
	l := lay(7, Fewest)
	if got := way(l.Plan()); !slices.Equal(got, []int{0, 2, 4, 6, 7}) {
		t.Errorf("whole egg: %v", got)
	}
	// A dough this rich in yolk is taken carefully, and that leaves no stop out.
	l = lay(19, Fewest)
	l.Careful = l.FatPct >= l.Rules.CarefulFatPct
	if got := way(l.Plan()); !slices.Equal(got, []int{0, 1, 2, 3, 4, 5, 6, 7}) {
		t.Errorf("yolk: %v", got)
	}
}

// What makers do daily with whole-egg dough is safe or bold, never tearing; four stops in one tear.
func TestDailyWays(t *testing.T) {
	ten, eight := lay(7, EveryStop), lay(7, EveryStop)
	eight.Machine, _ = Find("mixer-8")
	raw := eight
	raw.D, raw.T = .55, .45 // barely kneaded and unrested
	for _, c := range []struct {
		l           *Lay
		from, n, to int
		off         float64
		want        []string
	}{
		{&ten, 0, 2, 3, .46, []string{Safe, Bold}}, {&ten, 3, 2, 6, .48, []string{Safe, Bold}}, {&ten, 0, 1, 4, .57,
			[]string{Tearing}},
		{&eight, 0, 1, 2, .43, []string{Safe, Bold}}, {&eight, 2, 1, 4, .40, []string{Safe, Bold}},
		{&raw, 0, 1, 2, .43, []string{Safe, Bold}}, {&raw, 2, 1, 4, .40, []string{Safe, Bold}},
	} {
		gap := func(i int) float64 { return c.l.Machine.Stops[i].TrueMM() }
		off := 1 - c.l.Sheet(gap(c.to), 1)/c.l.Sheet(gap(c.from), c.n)
		if v := c.l.Verdict(off, c.l.Easy(gap(c.to))); !slices.Contains(c.want, v) || math.Abs(off-c.off) > .03 {
			t.Errorf("%s %d to %d: %.2f off where %.2f is easy, %s", c.l.Machine.Key, c.from, c.to, off,
				c.l.Easy(gap(c.to)), v)
		}
	}
}

// The widest is passed once flat and then as often folded as is said; the fold chosen stays, and a
// packet too thick for the machine is pressed first.
func TestFoldPhase(t *testing.T) {
	for _, m := range Shipped() {
		for _, fold := range []Fold{Thirds, Halves} {
			for n := range 15 {
				l := lay(7, EveryStop)
				if l.Machine, l.Fold, l.Folds = m, fold, n; m.Tool == dough.Pin {
					continue
				}
				p, at := l.Plan(), 0
				for _, x := range p.Passes {
					if x.Stop != 0 {
						continue
					}
					if at++; (at > 1) != (x.Fold == fold.Layers()) || x.Nth != at {
						t.Fatalf("%s %s %d: %+v", m.Key, fold, n, x)
					}
					if tooThick := x.PacketMM > 1.15*m.FeedMM; tooThick != (x.PressMM > 0) || x.PressMM > m.FeedMM {
						t.Errorf("%s %s: packet %.1f, pressed to %.1f", m.Key, fold, x.PacketMM, x.PressMM)
					}
				}
				if at != n+1 || p.Layers != math.Pow(float64(fold.Layers()), float64(n)) {
					t.Errorf("%s %s %d: %d passes at the widest, %g layers", m.Key, fold, n, at, p.Layers)
				}
			}
		}
	}
	// The second pass at the last stop is no skip, and carries no care.
	l := lay(19, Fewest)
	l.Careful, l.LastTwice = true, true
	p := l.Plan()
	if last := p.Passes[len(p.Passes)-1]; last.Nth != 2 || last.Easy != l.Easy(last.GapMM) {
		t.Errorf("second pass: %+v", last)
	}
}

func TestReferenceLengthAndSquare(t *testing.T) {
	if got := LengthMM(160, 1.214, 140, .9); math.Abs(got-1046) > .5 {
		t.Errorf("length %.1f mm, want 1,046", got)
	}
	if got := SquareMM(10.9, 1.214, 100, 100); math.Abs(got-.90) > .005 {
		t.Errorf("square of 10.9 g: %.3f mm, want 0.90", got)
	}
}

// worth is the cost of a route so far, compared in the order of its fields.
type worth struct {
	passes  int
	largest float64
	squares float64
	steps   []step
}

func (a worth) less(b worth) bool {
	const eps = 1e-12
	switch {
	case a.passes != b.passes:
		return a.passes < b.passes
	case math.Abs(a.largest-b.largest) > eps:
		return a.largest < b.largest
	case math.Abs(a.squares-b.squares) > eps:
		return a.squares < b.squares
	}
	for i := range min(len(a.steps), len(b.steps)) {
		if a.steps[i].stop != b.steps[i].stop {
			return a.steps[i].stop < b.steps[i].stop
		}
	}
	return len(a.steps) < len(b.steps)
}

// then returns w with one pass from a sheet of in mm at stop i to stop j, or a zero worth when
// that pass is barred.
func (w worth) then(l *Lay, i, j int, in float64) worth {
	reduction := 1 - l.Sheet(l.Machine.Stops[j].TrueMM(), 1)/in
	limit := l.limit(i, j)
	if j > i+1 && reduction > limit {
		return worth{}
	}
	ratio := reduction / limit
	return worth{passes: w.passes + 1, largest: max(w.largest, ratio), squares: w.squares + ratio*ratio}
}

// exhaustive tries every route over (stop, 1 or 2 passes).
func exhaustive(l *Lay, target int) worth {
	var best *worth
	var walk func(i, n int, w worth)
	walk = func(i, n int, w worth) {
		if i == target {
			if best == nil || w.less(*best) {
				c := w
				c.steps = slices.Clone(w.steps)
				best = &c
			}
			return
		}
		in := l.Sheet(l.Machine.Stops[i].GapMM, n)
		for j := i + 1; j <= target; j++ {
			x := w.then(l, i, j, in)
			if x.passes == 0 {
				continue
			}
			for passes := 1; passes <= 2; passes++ {
				y := x
				y.passes += passes - 1
				y.steps = append(slices.Clone(w.steps), step{j, passes})
				walk(j, passes, y)
			}
		}
	}
	walk(0, l.startPasses(), worth{})
	return *best
}

func TestFewestEqualsExhaustive(t *testing.T) {
	rnd := rand.New(rand.NewSource(3))
	for i := range 300 {
		l := lay(rnd.Float64()*20, Fewest)
		l.T, l.D, l.Gluten = rnd.Float64()*.4, .8+rnd.Float64()*.2, .6+.4*rnd.Float64()
		l.Careful = rnd.Intn(2) == 0
		l.Machine.Stops = nil
		gap := 3 + rnd.Float64()*5
		for range 2 + rnd.Intn(11) {
			l.Machine.Stops = append(l.Machine.Stops, Stop{Label: "x", GapMM: gap})
			gap *= .55 + rnd.Float64()*.4
		}
		l.TargetMM = gap + rnd.Float64()
		target := l.TargetStop()
		if target == 0 {
			continue
		}
		if got, want := l.fewest(target), exhaustive(&l, target).steps; !slices.Equal(got, want) {
			t.Fatalf("case %d: %v, want %v", i, got, want)
		}
		for n, x := range l.Plan().Passes {
			if x.Skipped > 0 && x.Reduction > x.Easy+1e-9 {
				t.Errorf("case %d pass %d: skips over the limit", i, n+1)
			}
			if g := x.LengthMM * float64(x.Sheets) * l.Machine.WidthMM * x.OutMM * l.DensityG * 1e-3; math.Abs(
				g/l.PieceG-1) > .001 {
				t.Errorf("case %d pass %d: %.2f of %.2f g", i, n+1, g, l.PieceG)
			}
		}
	}
}

func TestProgressionProperties(t *testing.T) {
	for _, mode := range []Mode{EveryStop, Fewest} {
		for _, m := range Shipped() {
			if err := m.Check(); err != nil {
				t.Errorf("%s: %v", m.Key, err)
			}
			if m.Tool == dough.Pin {
				continue // has no stops
			}
			l := lay(7, mode)
			l.Machine, l.BenchMM = m, 900
			p := l.Plan()
			for i, x := range p.Passes {
				volume := x.LengthMM * float64(x.Sheets) * m.WidthMM * x.OutMM * l.DensityG * 1e-3
				if math.Abs(volume/l.PieceG-1) > .001 {
					t.Errorf("%s pass %d: %.2f g of 160", m.Key, i+1, volume)
				}
				if x.LengthMM > l.BenchMM {
					t.Errorf("%s pass %d: %.0f mm on a %.0f mm bench", m.Key, i+1, x.LengthMM, l.BenchMM)
				}
				if x.Skipped > 0 && x.Reduction > x.Easy+1e-9 {
					t.Errorf("%s pass %d: skips over the limit", m.Key, i+1)
				}
				if x.Fold > 0 && x.PressMM == 0 && x.PacketMM > 1.15*m.FeedMM || x.PressMM > m.FeedMM || x.Fold > 0 &&
					x.PacketMM != float64(x.Fold)*x.InMM {
					t.Errorf("%s pass %d: packet of %.1f mm", m.Key, i+1, x.PacketMM)
				}
				if mode == EveryStop && x.Skipped != 0 {
					t.Errorf("%s pass %d: every stop skips %d", m.Key, i+1, x.Skipped)
				}
			}
		}
	}
}

func TestTargetStop(t *testing.T) {
	l := lay(7, EveryStop)
	for target, want := range map[float64]int{.9: 7, .6: 9, .1: 9, 40: 0, 2.0: 4} {
		l.TargetMM = target
		if got := l.TargetStop(); got != want {
			t.Errorf("%v mm: stop %d, want %d", target, got, want)
		}
	}
}

func TestCheckRefuses(t *testing.T) {
	m, _ := Find("hand-crank-10")
	m.Stops = []Stop{{Label: "0", GapMM: 3}, {Label: "1", GapMM: 3.5}}
	if m.Check() == nil {
		t.Error("gaps that widen are accepted")
	}
	m.Stops = nil
	if m.Check() == nil {
		t.Error("a machine without stops is accepted")
	}
}

// What leaving out a stop would do is said with its numbers, and agrees with the limits.
func TestSkips(t *testing.T) {
	l := lay(19, EveryStop)
	l.D = .8
	p := l.Plan()
	seen := map[string]int{}
	for _, s := range p.Skips {
		seen[s.Verdict]++
		safe := s.Reduction <= s.Easy+1e-9
		if safe != (s.Verdict == "safe") || s.Reduction <= 0 || s.Reduction >= 1 ||
			l.Machine.Stops[s.Stop].Label != s.Left {
			t.Errorf("%+v", s)
		}
	}
	if seen[Safe] == 0 || seen[Bold] == 0 {
		t.Errorf("verdicts: %v", seen)
	}
	// Care never makes a skip safer.
	l.Careful = true
	for i, s := range l.Plan().Skips {
		if s.Easy > p.Skips[i].Easy {
			t.Errorf("care allows more at %s", s.Left)
		}
	}
}

// A second pass at the last stop takes spring-back off; a duller dough takes smaller steps.
func TestLastTwiceAndEasy(t *testing.T) {
	l := lay(7, EveryStop)
	once := l.Plan()
	l.LastTwice = true
	twice := l.Plan()
	if len(twice.Passes) != len(once.Passes)+1 || twice.SheetMM >= once.SheetMM || math.Abs(twice.SheetMM-.9*(1+l.Spring()/2)) > 1e-9 {
		t.Errorf("once %.3f, twice %.3f", once.SheetMM, twice.SheetMM)
	}
	sound := l.Easy(2)
	for what, change := range map[string]func(*Lay){
		"short of kneading": func(l *Lay) { l.D = .8 }, "tense": func(l *Lay) { l.T = .5 },
		"rich": func(l *Lay) { l.FatPct = 19 },
		"weak": func(l *Lay) { l.Gluten = .6 }, "out of the band": func(l *Lay) { l.OutsideBand = -3 },
	} {
		k := lay(7, EveryStop)
		change(&k)
		if k.Easy(2) >= sound || k.Easy(2) < k.Rules.ReduceLow {
			t.Errorf("%s: easy %.3f, sound %.3f", what, k.Easy(2), sound)
		}
	}
	if l.Easy(.9) >= l.Easy(1.2) {
		t.Error("a thin gap takes as much as a thick one")
	}
}

func BenchmarkFewest(b *testing.B) {
	for _, n := range []int{10, 20, 40} {
		l := lay(7, Fewest)
		l.Machine.Stops = nil
		for i := range n {
			l.Machine.Stops = append(l.Machine.Stops, Stop{Label: fmt.Sprint(i), GapMM: 8 * math.Pow(.3/8,
				float64(i)/float64(n-1))})
		}
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				l.fewest(n - 1)
			}
		})
	}
}
