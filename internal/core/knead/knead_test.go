package knead

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"math"
	"reflect"
	"strings"
	"testing"

	"hollen/internal/core/flour"
	"hollen/internal/core/rules"
)

var by = rules.Default().Knead

// reference is the dough of the published reference points: gluten protein 10.5 %, fat
// 6.9 %, working hydration 42 or more, 600 g, start and room 22 °C.
func reference() Dough {
	b := flour.Blend{GlutenProteinPct: 10.5, GlutenFactor: 1, Uptakes: []flour.UptakeOf{{Share: 1, TauMin: 6}}}
	return Of(rules.Default(), b, 6.9, 46, 600)
}

func near(t *testing.T, what string, got, want, tol float64) {
	t.Helper()
	if math.Abs(got-want) > tol {
		t.Errorf("%s: got %.4f, want %.4f ± %g", what, got, want, tol)
	}
}

func TestReferencePoints(t *testing.T) {
	d := reference()
	start := d.Start(22)
	ten := d.Knead(start, by.Hand, 10, 22)

	s := d.Rest(ten, 30, 22)
	near(t, "10 hand + 30: D", d.D(s), .946, .0006)
	near(t, "10 hand + 30: T", s.T, .081, .0006)

	s = d.Folds(d.Rest(d.Knead(start, by.Hand, 2, 22), 25, 22), 13)
	near(t, "2 + 25 + 13 folds: D", d.D(s), .914, .0006)
	near(t, "2 + 25 + 13 folds: T", s.T, .248, .0006)

	s = d.Rest(ten, 30, 4)
	near(t, "10 + 30 at 4 °C: T", s.T, .126, .0006)
	near(t, "10 + 30 at 4 °C: temperature", s.TempC, 17.8, .06)

	s = d.Rest(d.Knead(d.Knead(start, by.Processor, .75, 22), by.Hand, 2, 22), 30, 22)
	near(t, "45 s processor + 2 + 30: D", d.D(s), .916, .0006)

	s = d.Rest(d.Knead(start, by.Hand, 1, 22), 12*60, 4)
	near(t, "1 + 12 h at 4 °C: D", d.D(s), .53, .006)
}

// Taking the same minutes in halves changes nothing at the shown precision.
func TestStepDoesNotMatter(t *testing.T) {
	d := reference()
	a := d.Rest(d.Knead(d.Start(26), by.Hand, 10, 20), 40, 4)
	b := d.Start(26)
	for range 200 {
		b = d.Knead(b, by.Hand, .05, 20)
	}
	for range 800 {
		b = d.Rest(b, .05, 4)
	}
	near(t, "D", d.D(a), d.D(b), .0005)
	near(t, "T", a.T, b.T, .0005)
	near(t, "temperature", a.TempC, b.TempC, .05)
}

func TestProperties(t *testing.T) {
	d := reference()
	last := d.Knead(d.Start(22), by.Hand, 8, 22)
	for range 60 {
		s := d.Rest(last, 2, 18)
		if s.T > last.T || d.U(s) < d.U(last) || d.D(s) < d.D(last) || s.T < 0 || d.D(s) > 1 || d.U(s) > 1 {
			t.Fatalf("rest makes it worse: %+v after %+v", s, last)
		}
		if cold := d.Rest(last, 2, 4); cold.T < s.T {
			t.Fatal("relaxes faster in the cold")
		}
		last = s
	}
	for m := 1.; m < 20; m++ {
		if d.D(d.Knead(d.Start(22), by.Hand, m+1, 22)) <= d.D(d.Knead(d.Start(22), by.Hand, m, 22)) {
			t.Fatal("more work, less development")
		}
	}
}

func ask(r rules.Rules, school School) Ask {
	return Ask{School: school, StartC: 22, RoomC: 22, FridgeC: 4, MinRest: r.Knead.RestMinMin,
		GlutenBar: r.Flour.GlutenNoSheet, FoldMin: .2}
}

func dough(key string, hw, massG float64) Dough {
	r := rules.Default()
	f, _ := flour.Find(key)
	b := flour.Mix(r.Flour, []flour.Part{{Flour: f, MassG: 400, Moisture: flour.Moisture{NowWB: .135}}})
	return Of(r, b, 6, hw, massG)
}

// No way within the school that is ready weighs less (elapsed, twice the hands-on kneading, a folded
// pass as half a minute of it), or as much with less kneading. Every whole minute, five-minute rest
// and fold is tried, of one load and of three.
func TestSolvedMinutesAreMinimal(t *testing.T) {
	r := rules.Default()
	for _, school := range Schools() {
		ready := 0
		for _, key := range []string{"soft-00", "strong", "semola-fine", "wholemeal", "spelt-white"} {
			for _, hw := range []float64{37, 44} {
				for _, roomC := range []float64{16, 29} {
					for _, cold := range []bool{false, true} {
						d := dough(key, hw, 600)
						a := ask(r, school)
						if a.Turns = 1; hw > 40 {
							a.Turns = 3
						}
						a.RoomC, a.Cold = roomC, cold
						got := d.Solve(a)
						if got.Ready {
							ready++
						}
						lo, hi := a.rests(&r.Knead)
						hi = min(hi, lo+120)
						fLo, fHi := a.folds(&r.Knead)
						for _, o := range a.outlines(&r.Knead) {
							s, work := d.Start(22), 0.
							hands, rests, run := 0., 0., 0.
							for _, st := range o.steps {
								s, work = d.take(s, st, a), work+st.Min
								if run += st.Min; st.Rests() {
									rests, run = rests+st.Min, 0
								}
								if st.By == ByHand {
									hands += 2 * st.Min * float64(a.Turns)
								}
							}
							kneading := work - rests
							work += float64(a.Turns-1) * run
							for rest := lo; rest <= hi; rest += 5 {
								end := d.take(s, Step{By: a.last(), Min: rest}, a)
								for n := fLo; n <= fHi; n++ {
									if !d.readyWith(a, end, n) {
										continue
									}
									was, now := weighs(r, got, a), work+rest+hands+float64(n)
									if !got.Ready || now < was-1e-9 || math.Abs(now-was) < 1e-9 &&
										kneading < got.WorkMin-1e-9 {
										t.Fatalf("%s %s Hw %v room %v cold %v: %v + %v with %d folds is ready, got %+v",
											school, key, hw, roomC, cold, o.steps, rest, n, got)
									}
								}
							}
						}
					}
				}
			}
		}
		if ready < 10 {
			t.Errorf("%s: only %d doughs are ever ready", school, ready)
		}
	}
}

func mixed(r rules.Rules, s School) float64 {
	if s.Traits().Machine() {
		return r.Knead.MixMachineMin
	}
	return r.Knead.MixHandMin
}

// weighs is what a solved way counts: elapsed without mixing, twice the kneading by hand, its folds.
func weighs(r rules.Rules, w Way, a Ask) float64 {
	sum := w.ElapsedMin - mixed(r, w.School)
	if w.School.Traits().Machine() { // every load is mixed in the bowl
		sum -= float64(a.Turns-1) * r.Knead.MixMachineMin
	}
	for _, st := range w.Steps {
		if st.By == ByHand {
			sum += 2 * st.Min * float64(a.Turns)
		}
	}
	return sum + float64(w.Folds)
}

// What the maker fixed is kept, what falls short is said, and no rest at all is a plan.
func TestFixedAndShort(t *testing.T) {
	r := rules.Default()
	d := reference()
	fix := func(v float64) *float64 { return &v }
	a := ask(r, Long)
	a.FixKnead, a.FixRest, a.FixFolds = fix(2), fix(5), fix(0)
	w := d.Solve(a)
	if w.Ready || len(w.Lacks) != 3 || w.KneadMin != 2 || w.RestMin != 5 || w.ReadyAtMin != -1 {
		t.Errorf("2 + 5 min without folds: %+v", w)
	}
	if w.MinFoldsFor < 5 {
		t.Errorf("folds to finish it: %d", w.MinFoldsFor)
	}
	a.FixRest = fix(0)
	if w := d.Solve(a); w.Ready || len(w.Steps) != 1 || w.T < .7 {
		t.Errorf("no rest: %+v", w)
	}
	d.Gluten = .2
	a.FixRest = fix(60)
	if w := d.Solve(a); !w.Ready {
		t.Errorf("without gluten only uptake counts: %+v", w)
	}
	// With a pin there are no folds to count, so the short school cannot finish.
	d = reference()
	a = ask(r, Short)
	a.Pin = true
	if w := d.Solve(a); w.Ready || w.Folds != 0 || w.Lacks[0].What != "development" {
		t.Errorf("short with a pin: %+v", w)
	}
	// An hour more in the fridge is tempered, and what was kneaded on counts.
	a = ask(r, Long)
	a.Cold, a.TemperMin = true, 30
	cold := d.Solve(a)
	a.MoreKnead, a.MoreRest = 3, 10
	more := d.Solve(a)
	if n := len(cold.Steps); cold.Steps[n-1] != (Step{By: InRoom, Min: 30}) || cold.TempC < 16 || more.D <= cold.D ||
		more.Steps[1] != (Step{By: ByHand, Min: 3}) {
		t.Errorf("%+v, then %+v", cold, more)
	}
}

// Along the way D and U never fall, a rest never raises tension, all stay within 0–1, and the
// dough is rollable from the moment it is said to be.
func TestFollow(t *testing.T) {
	r := rules.Default()
	for _, school := range Schools() {
		d := dough("soft-00", 42, 800)
		a := ask(r, school)
		rest := 600.
		a.FixRest, a.Cold = &rest, true
		w := d.Solve(a)
		track := d.Follow(a, w, 1)
		end := track[len(track)-1]
		if math.Abs(end.D-w.D) > 2e-4 || math.Abs(end.T-w.T) > 2e-4 || math.Abs(end.TempC-w.TempC) > .02 ||
			math.Abs(end.OutMin-w.OutMin) > 1e-6 ||
			math.Abs(w.OutMin-(w.ElapsedMin-600-mixed(r, school))) > 1e-6 {
			t.Errorf("%s ends at %+v, solved %+v", school, end, w)
		}
		for i, m := range track[1:] {
			was := track[i]
			if m.D < was.D-1e-12 || m.U < was.U-1e-12 || m.D < 0 || m.D > 1 || m.T < 0 || m.T > 1 || m.U > 1 {
				t.Fatalf("%s: %+v after %+v", school, m, was)
			}
		}
		// Divided, or pressed flat, it cools sooner, and the minutes are the model's.
		lump := w.CoolMin
		a.FlatMM = 30
		flat := d.Solve(a).CoolMin
		a.FlatMM, a.ChillG = 0, 100
		pieces := d.Solve(a).CoolMin
		if !(pieces < flat && flat < lump) || math.Abs(flat/lump-75/d.TauDMin) > 1e-9 {
			t.Errorf("%s: cool after %.0f min, flat %.0f, in pieces %.0f", school, lump, flat, pieces)
		}
		if w.ReadyAtMin < 0 || w.ReadyAtMin > 200 {
			t.Errorf("%s: rollable after %v min", school, w.ReadyAtMin)
		}
	}
}

// Half a degree more or less never moves kneading by more than two minutes, and a rest not by more
// than ten: from a cold to a hot room, by every school.
func TestNoJumps(t *testing.T) {
	r := rules.Default()
	for _, school := range Schools() {
		for _, key := range []string{"soft-00", "strong", "semola-fine", "wholemeal"} {
			for _, hw := range []float64{38, 42.5} {
				d := dough(key, hw, 600)
				var was Way
				for c := 12.; c <= 32; c += .5 {
					a := ask(r, school)
					a.RoomC, a.StartC = c, c+1
					w := d.Solve(a)
					if c > 12 && w.Ready == was.Ready && (math.Abs(w.WorkMin-was.WorkMin) > 2 ||
						math.Abs(w.RestMin-was.RestMin) > 10) {
						t.Errorf("%s %s Hw %v at %v °C: %v + %v after %v + %v", school, key, hw, c, w.WorkMin,
							w.RestMin, was.WorkMin, was.RestMin)
					}
					was = w
				}
			}
		}
	}
}

// A school whose bars cannot be met keeps its usual minutes: no rest, or a rest too short.
func TestUsualMinutesWhereNothingServes(t *testing.T) {
	r := rules.Default()
	d := reference()
	none := 0.
	for school, work := range map[School]float64{Long: 10, Short: 2, Hook: 9, Processor: 2.75, Turns: 8} {
		a := ask(r, school)
		a.FixRest = &none
		if w := d.Solve(a); school != Turns && (w.Ready || w.WorkMin != work) || w.WorkMin > work {
			t.Errorf("%s without a rest: %v min of work", school, w.WorkMin)
		}
	}
	// Seven loads by one pair of hands take seven turns; by seven, one.
	d = dough("soft-00", 42, 1140)
	a := ask(r, Long)
	a.Turns = 7
	seven := d.Solve(a)
	a.Turns = 1
	one := d.Solve(a)
	if seven.KneadMin != one.KneadMin || seven.WaitMin != 6*one.KneadMin ||
		seven.ElapsedMin != one.ElapsedMin+seven.WaitMin ||
		seven.OutMin != one.OutMin+seven.WaitMin || seven.ReadyAtMin != one.ReadyAtMin+seven.WaitMin {
		t.Errorf("seven loads %+v, one %+v", seven, one)
	}
}

func TestTemper(t *testing.T) {
	d := reference()
	near(t, "4 °C dough in a 22 °C room", d.TemperFor(4, 22), 75*math.Sqrt(1.2)*math.Log(18./10), .01)
}

func TestContact(t *testing.T) {
	r := rules.Default().Knead
	near(t, "fridge eggs", ContactC(r, Part{500, FlourHeat, 22}, Part{300, EggHeat, 4}),
		(500*1.75*22+300*3.4*4)/(500*1.75+300*3.4)+1, 1e-9)
}

func BenchmarkFiveSchools(b *testing.B) {
	r := rules.Default()
	d := dough("semola-fine", 38, 1600)
	for b.Loop() {
		for _, s := range Schools() {
			d.Solve(ask(r, s))
		}
	}
}

// Every school has its row and every part of it that all schools have.
func TestEverySchoolHasItsRow(t *testing.T) {
	file, err := parser.ParseFile(token.NewFileSet(), "schools.go", nil, 0)
	if err != nil {
		t.Fatal(err)
	}
	named := map[string]bool{}
	ast.Inspect(file, func(n ast.Node) bool {
		if c, ok := n.(*ast.ValueSpec); ok && c.Type != nil && fmt.Sprint(c.Type) == "School" {
			named[strings.Trim(c.Values[0].(*ast.BasicLit).Value, `"`)] = true
		}
		return true
	})
	delete(named, string(Auto))
	if len(named) != len(schools) || len(named) < 5 {
		t.Errorf("%d schools, %d rows", len(named), len(schools))
	}
	for _, row := range schools {
		if !named[string(row.School)] || row.School.Traits().Name != row.Name {
			t.Errorf("%s is not a school", row.School)
		}
		v := reflect.ValueOf(row)
		for i := range v.NumField() {
			if name := v.Type().Field(i).Name; v.Field(i).IsZero() && name != "Cold" && name != "Mix" {
				t.Errorf("%s has no %s", row.School, name)
			}
		}
	}
}
