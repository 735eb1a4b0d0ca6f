package learn

import (
	"math"
	"testing"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/rules"
)

// A validation sheet: each range foretold after the last look was in.
func TestForetold(t *testing.T) {
	f := Foretold{SD: .40, Look: .20}
	s := f.Judge([]float64{.35, .22, .41, .10, .30})
	for i, z := range []float64{.7826, -.2236, .6518, -.8812, .2064} {
		isNear(t, "z", s.Looks[i].Z, z, 1e-4)
	}
	isNear(t, "ln κ", s.LnK, .2629, 1e-4)
	isNear(t, "κ", math.Exp(s.LnK), 1.3006, 1e-4)
	isNear(t, "Σz²", s.SumZ2, 1.9064, 1e-4)
	isNear(t, "spread", s.Spread, .1782, 1e-4)
	if s.Held != 5 || s.Is != NotKnown {
		t.Errorf("held %d, %s", s.Held, s.Is)
	}
	s = f.Judge([]float64{.9, -.5, .2, -.7, .6})
	isNear(t, "Σz² of a wild one", s.SumZ2, 47.56, .01)
	isNear(t, "its spread", s.Spread, .3918, 1e-4)
	if s.Held != 1 || s.Is != Narrow {
		t.Errorf("held %d, %s", s.Held, s.Is)
	}
	want := map[int]int{1: -1, 5: 2, 10: 6, 15: 10, 20: 15, 25: 19, 30: 23, 35: 27, 40: 32, 60: 49}
	for k, most := range want {
		if got := NarrowAt(k); got != most {
			t.Errorf("of %d ranges %d or fewer are too few, want %d", k, got, most)
		}
	}
	if none := f.Judge(nil); len(none.Looks) > 0 || none.Is != NotKnown {
		t.Error("looks of none")
	}
}

func isNear(t *testing.T, what string, got, want, within float64) {
	t.Helper()
	if !(math.Abs(got-want) <= within) {
		t.Errorf("%s is %.5f, want %.5f", what, got, want)
	}
}

// The laws of the book are tried by what makings measured, one after another; what is only known to be more or less,
// and what was left out, tries nothing.
func TestTried(t *testing.T) {
	ru := rules.Default().Learn
	var all []Entry
	for i, took := range []float64{.35, .22, .41, .10, .30} {
		e := Entry{Making: uint64(i + 1)}
		e.Began = time.Date(2026, 9, 1+i, 9, 0, 0, 0, time.UTC)
		e.Evidence.Dry = []bench.Ratio{{From: math.Exp(took), To: math.Exp(took)}, {From: 1}}
		all = append(all, e)
	}
	laws := Read(ru, all, nil).Tried()
	if len(laws) != 1 || laws[0].Key != LawLeather {
		t.Fatalf("%+v", laws)
	}
	isNear(t, "κ", math.Exp(laws[0].LnK), 1.3006, 1e-4)
	if laws[0].Held != 5 || laws[0].Is != NotKnown {
		t.Errorf("%d held, %s", laws[0].Held, laws[0].Is)
	}
	log := Read(ru, all, nil)
	from, to := log.Range(LawLeather, "", 20)
	if !(from < 20*1.3 && 20*1.3 < to) || to/from > 2.2 {
		t.Errorf("twenty minutes are foretold as %.1f to %.1f", from, to)
	}
	if from, to := log.Range(LawPot, "ribbon", 100); !(from < 80 && to > 120) {
		t.Errorf("of a pot nobody tried, %.0f to %.0f", from, to)
	}
	if laws := Read(ru, all, map[uint64]bool{1: true}).Tried(); len(laws[0].Looks) != 4 {
		t.Error("what was left out counts")
	}
}
