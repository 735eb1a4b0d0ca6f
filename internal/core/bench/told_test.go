package bench

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// What is told of a batch that was made without the bench folds to just that, and told once more it says nothing new.
func TestToldAfterwards(t *testing.T) {
	p, err := plan.Make(rules.Default(), request.Default())
	if err != nil {
		t.Fatal(err)
	}
	began := time.Date(2026, 11, 28, 9, 0, 0, 0, time.UTC)
	got := map[string]float64{"knead_min": 12, "rest_min": 41, "poke_s": 3, "sheet_mm": .83, "flour_left": 12,
		"water_added": 6, "trim_g": 40, "trim_back_g": 25, "out_g": 900}
	told := func() *Afterwards {
		all := map[string]float64{}
		for k, v := range got {
			all[k] = v
		}
		return &Afterwards{Mark: "mark1234", By: "Linde", Felt: "1", Next: "finer", Now: began.Add(3 * time.Hour),
			Got: all}
	}
	events := told().Events(p, began, nil)
	steps := Steps(p)
	has := func(key string) bool { return slices.ContainsFunc(steps, func(s Step) bool { return s.Key == key }) }
	for _, e := range events {
		if err := e.Check(has); err != nil || e.By != "Linde" {
			t.Errorf("%+v: %v", e, err)
		}
	}
	run := Run(p, began, events)
	kneaded := 0.
	for _, s := range steps {
		if strings.HasPrefix(s.Key, "knead.") {
			kneaded += run.State.Steps[s.Key].Took()
		}
	}
	if st := run.State; math.Abs(kneaded-12) > .01 || *st.Felt != 1 || st.OutG != 900 || st.Next != "finer" {
		t.Errorf("kneaded %.2f min, felt %v, %g g out, next %q", kneaded, *st.Felt, st.OutG, st.Next)
	}
	known := KnownOf(&run)
	for _, line := range []string{"poke_s", "sheet_mm", "flour_left", "water_added", "trim_g", "trim_back_g", "out_g"} {
		if math.Abs(known[line]-got[line]) > 1e-9 {
			t.Errorf("%s: %g is known, %g was told", line, known[line], got[line])
		}
	}
	// The same form sent of the making there is now: minutes were told then, and say nothing beside a state.
	again := told()
	for _, line := range []string{"knead_min", "rest_min"} {
		delete(again.Got, line)
	}
	again.Forget(&run, nil)
	if len(again.Got) > 0 || again.Felt != "" || again.Next != "" {
		t.Errorf("told twice: %+v", again)
	}
	if more := again.Events(p, began, &run.State); len(more) > 0 {
		t.Errorf("told twice it says %+v", more)
	}
	// One line told otherwise takes back what stood there; both trimmings go together.
	other := told()
	other.Mark = "mark5678" // another form
	other.Got = map[string]float64{"trim_g": 50, "trim_back_g": 25}
	other.Forget(&run, nil)
	next := Run(p, began, append(slices.Clone(events), other.Events(p, began, &run.State)...))
	if known := KnownOf(&next); known["trim_g"] != 50 || known["trim_back_g"] != 25 || known["flour_left"] != 12 {
		t.Errorf("%v", known)
	}
}
