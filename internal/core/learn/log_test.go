package learn

import (
	"encoding/json"
	"errors"
	"math"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// made is a making that ended, n days in: it wanted more or less water, as it felt.
func made(n uint64, felt int, hw float64, change func(b *bench.Evidence)) Entry {
	began := time.Date(2026, 9, 1, 9, 0, 0, 0, time.UTC).AddDate(0, 0, int(n))
	b := bench.Evidence{Flour: "soft-00", Eggs: "eu-l", Shape: "tagliatelle", Family: "ribbon", Tool: "long",
		Place: "rack, still", HwPoints: hw}
	if change != nil {
		change(&b)
	}
	return Entry{Making: n, Summary: bench.Summary{Name: "Quay", Began: began, Ended: began.Add(time.Hour), Felt: &felt,
		Evidence: b}}
}

func whose() Whose { return Whose{On: time.Date(2026, 9, 20, 9, 0, 0, 0, time.UTC)} }

func long() string { return "long" }

// With nothing logged every plan is byte for byte what it was; with something it moves, and says so beside the number.
func TestPlansReadTheLog(t *testing.T) {
	r := request.Default()
	r.Roll.Machine = "hand-crank-10"
	doc := func(ru rules.Rules) string {
		p, err := plan.Make(ru, r)
		if err != nil {
			t.Fatal(err)
		}
		out, err := json.Marshal(p)
		if err != nil {
			t.Fatal(err)
		}
		return string(out)
	}
	ru := rules.Default()
	book := doc(ru)
	ru.Learned = Read(ru.Learn, nil, nil).For(&r, long, whose())
	if doc(ru) != book {
		t.Error("nothing is logged, and it is another plan")
	}
	log := Read(ru.Learn, []Entry{made(1, -1, .3, func(b *bench.Evidence) {
		b.Knead, b.Dry, b.Cook = []bench.Ratio{{From: 1.2, To: 1.2}}, []bench.Ratio{{From: 1.1, To: 1.5}},
			[]bench.Ratio{{To: .9}}
		b.LossG, b.PlanG, b.TrimG, b.PlanTrim, b.Shrunk = 20, 8, 240, 100, []float64{.09, .08}
		b.Rest, b.HandsMin, b.PlanMin = []bench.Poke{{S: 2, X: 2.2, T0: .99}}, 14, 10
		b.Sheets = []bench.AtStop{{Machine: "hand-crank-10", Stop: "7", GapMM: .9, Ratio: 1.1}}
	})}, nil)
	l := log.For(&r, long, whose())
	if l.Hw.N != 1 || l.Hw.Points < .5 || l.Knead.By <= 1 || l.Rest.By <= 1 || l.Dry.By <= 1 || l.Cook.By >= 1 ||
		l.Hands.By <= 1 || l.Gap("7") <= 1 {
		t.Errorf("%+v", l)
	}
	ru.Learned = l
	p, err := plan.Make(ru, r)
	if err != nil {
		t.Fatal(err)
	}
	was, _ := plan.Make(rules.Default(), r)
	if p.Formula.Target.Hw <= was.Formula.Target.Hw || p.Knead.W63Min <= was.Knead.W63Min ||
		p.Dry.Leather.FromMin <= was.Dry.Leather.FromMin ||
		p.Cook.FromS >= was.Cook.FromS || ru.With(l).Cut.StrokeS <= ru.Cut.StrokeS ||
		p.Roll.SheetMM == was.Roll.SheetMM {
		t.Errorf("target %.1f→%.1f, W63 %.2f→%.2f, leather %.1f→%.1f, pot %.0f→%.0f, sheet %.3f→%.3f",
			was.Formula.Target.Hw, p.Formula.Target.Hw,
			was.Knead.W63Min, p.Knead.W63Min, was.Dry.Leather.FromMin, p.Dry.Leather.FromMin, was.Cook.FromS,
			p.Cook.FromS,
			was.Roll.SheetMM, p.Roll.SheetMM)
	}
	said := map[string]bool{}
	for _, n := range p.Notes {
		said[n.Code] = true
		if p.Why[n.Field] == "" {
			t.Errorf("%s stands by %s, of which nothing is said", n.Code, n.Field)
		}
	}
	for _, code := range []string{"learned_hw", "learned_knead", "learned_rest", "learned_dry", "learned_cook",
		"learned_hands", "learned_loss", "learned_trim",
		"learned_shrink"} {
		if !said[code] {
			t.Errorf("%s is not said", code)
		}
	}
	off := r
	off.ByTheBook = true
	p, err = plan.Make(ru, off)
	if err != nil || p.Formula.Target != was.Formula.Target {
		t.Errorf("by the book: %v, %v", p.Formula.Target, err)
	}
}

// The order of the log is nothing; the newest count; what is left out does not; read anew from what is kept it gives
// the same digits.
func TestLogIsTheSame(t *testing.T) {
	rng := rand.New(rand.NewPCG(15, 9))
	r := request.Default()
	var all []Entry
	for n := range uint64(260) {
		all = append(all, made(n, rng.IntN(5)-2, rng.NormFloat64(), func(b *bench.Evidence) {
			b.Maker, b.Lot = []string{"", "Ada", "Ben"}[rng.IntN(3)], []string{"", "A", "B"}[rng.IntN(3)]
			b.Dry = []bench.Ratio{{From: .5 + rng.Float64()}}
			b.Sheets = []bench.AtStop{{Machine: r.Roll.Machine, Stop: "4", GapMM: 1.9, Ratio: 1 +
				.05*rng.NormFloat64()}}
		}))
	}
	want := Read(ru, all, nil)
	says := want.For(&r, long, whose())
	mixed := append([]Entry{}, all...)
	rng.Shuffle(len(mixed), func(i, j int) { mixed[i], mixed[j] = mixed[j], mixed[i] })
	if got := Read(ru, mixed, nil).For(&r, long, whose()); !reflect.DeepEqual(got, says) {
		t.Errorf("in another order %+v, was %+v", got, says)
	}
	if got := Read(ru, all[60:], nil).For(&r, long, whose()); want.Len() != 200 || !reflect.DeepEqual(got, says) {
		t.Errorf("%d count; without those that are too old %+v", want.Len(), got)
	}
	kept, err := json.Marshal(all)
	if err != nil {
		t.Fatal(err)
	}
	var again []Entry
	if err := json.Unmarshal(kept, &again); err != nil {
		t.Fatal(err)
	}
	if got := Read(ru, again, nil).For(&r, long, whose()); !reflect.DeepEqual(got, says) {
		t.Errorf("read again %+v", got)
	}
	doc, err := json.Marshal(want)
	if err != nil {
		t.Fatal(err)
	}
	recalled, err := Recall(ru, doc)
	if err != nil {
		t.Fatal(err)
	}
	if got := recalled.For(&r, long, whose()); !reflect.DeepEqual(got, says) ||
		!reflect.DeepEqual(recalled.Says(whose().On), want.Says(whose().On)) ||
		!reflect.DeepEqual(recalled.Residues(), want.Residues()) ||
		!reflect.DeepEqual(recalled.Gaps(r.Roll.Kind(), whose().On), want.Gaps(r.Roll.Kind(), whose().On)) {
		t.Errorf("recalled %+v", got)
	}
	if twice, err := json.Marshal(recalled); err != nil || string(twice) != string(doc) {
		t.Error("recalled and kept again it is another")
	}
	other := ru
	other.FeelNoise[2] *= 2
	for _, bad := range []func() (*Log, error){func() (*Log, error) { return Recall(other, doc) }, func() (*Log,
		error) {
		return Recall(ru, doc[:len(doc)/2])
	},
		func() (*Log, error) {
			return Recall(ru, []byte(strings.Replace(string(doc), `"water":[0,`, `"water":[900,`, 1)))
		}} {
		if _, err := bad(); !errors.Is(err, ErrOther) {
			t.Errorf("what was weighed otherwise is recalled: %v", err)
		}
	}
	left := map[uint64]bool{}
	for _, e := range all[5:] {
		left[e.Making] = true
	}
	if got := Read(ru, all, left); got.Len() != 5 || len(got.Residues()) != 5 || got.Residues()[0].Making != 4 {
		t.Errorf("%d count of five", got.Len())
	}
	if math.IsNaN(says.Hw.Points) || says.Hw.Within <= 0 || len(want.Flours()) != 1 || len(want.Says(whose().On)) == 0 {
		t.Errorf("%+v", says)
	}
}

// Asked is what pays: the moisture of a flour whose last two batches felt off the same way, the sheets of a machine
// that drifts.
func TestQuestions(t *testing.T) {
	dry := []Entry{made(1, 0, 0, nil), made(2, -1, 0, nil), made(3, -2, 0, nil)}
	if q := Read(ru, dry, nil).Questions(); len(q) != 1 || q[0] != (Question{AskMoisture, "soft-00"}) {
		t.Errorf("%v", q)
	}
	if q := Read(ru, append(dry, made(4, 0, 0, nil)), nil).Questions(); len(q) != 0 {
		t.Errorf("right again, and it asks %v", q)
	}
	egg := func(n uint64, ratio float64) Entry {
		return made(n, 0, 0, func(b *bench.Evidence) { b.EggRatio = ratio })
	}
	if q := Read(ru, []Entry{egg(1, .95), egg(2, .96)}, nil).Questions(); len(q) != 1 || q[0] != (Question{AskEggs,
		"eu-l"}) {
		t.Errorf("%v", q)
	}
	off := func(n uint64, ratio float64) Entry {
		return made(n, 0, 0, func(b *bench.Evidence) {
			b.Sheets = []bench.AtStop{{Machine: "m", Stop: "1", GapMM: 2,
				Ratio: ratio}}
		})
	}
	if q := Read(ru, []Entry{off(1, 1.1), off(2, 1.12)}, nil).Questions(); len(q) != 1 || q[0] != (Question{AskSheets,
		"m"}) {
		t.Errorf("%v", q)
	}
}

func BenchmarkRead(b *testing.B) {
	rng := rand.New(rand.NewPCG(15, 9))
	var all []Entry
	for n := range uint64(200) {
		all = append(all, made(n, rng.IntN(5)-2, rng.NormFloat64(), nil))
	}
	for b.Loop() {
		Read(ru, all, nil)
	}
}
