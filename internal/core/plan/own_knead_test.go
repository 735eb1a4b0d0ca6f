package plan_test

import (
	"encoding/json"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"hollen/internal/core/knead"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// sameBut returns a plan as its document, without what was asked for.
func sameBut(t *testing.T, p *plan.Plan) string {
	t.Helper()
	x := *p
	x.Request = request.Request{}
	b, err := json.MarshalIndent(x, "", " ")
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// isTheSame holds a plan against the one it is to be, and shows where they first part.
func isTheSame(t *testing.T, what string, want, got *plan.Plan) {
	t.Helper()
	x, y := strings.Split(sameBut(t, want), "\n"), strings.Split(sameBut(t, got), "\n")
	for i := range x {
		if i >= len(y) || x[i] != y[i] {
			t.Fatalf("%s:\n%s\n%s", what, strings.Join(x[max(0, i-3):i+1], "\n"), strings.Join(y[min(len(y), max(0,
				i-3)):min(len(y), i+1)], "\n"))
		}
	}
	if len(y) != len(x) {
		t.Fatalf("%s: %d lines, not %d", what, len(y), len(x))
	}
}

// The maker's own steps that are a school's to the minute give that school's plan, byte for byte, but for what is said
// of kneading
// that is short.
func TestOwnStepsOfASchoolAreThatSchool(t *testing.T) {
	rng := rand.New(rand.NewPCG(12, 1))
	n := 0
	for range 400 {
		r := anyRequest(rng)
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			continue
		}
		own := p.Request
		own.Knead.School, own.Knead.Min, own.Knead.Turns = p.Knead.School, nil, nil
		own.Rest.Min = nil
		// Flour that is worked out is looked for among ways that are not yet the one found.
		own.Amount.By, own.Amount.FlourG = request.ByFlour, p.Formula.FlourG-p.Formula.Pick.FlourAddG
		free, err := plan.Make(rules.Default(), own)
		if err != nil {
			t.Fatal(err)
		}
		own.Knead.By, own.Knead.Steps = request.KneadOwn, free.OwnSteps()
		got, err := plan.Make(rules.Default(), own)
		if err != nil {
			t.Fatal(err)
		}
		// what is short is asked for of a school, and remarked on of one's own
		for _, x := range []*plan.Plan{free, got} {
			x.Notes = slices.DeleteFunc(x.Notes, func(n plan.Note) bool {
				return slices.Contains([]string{"folds", "short_for_pin", "short_own"}, n.Code)
			})
		}
		isTheSame(t, fmt.Sprintf("%+v %+v", own.Knead, own.Roll), free, got)
		n++
	}
	if n < 350 {
		t.Errorf("%d compared", n)
	}
}

// anySteps are steps in any order and number.
func anySteps(rng *rand.Rand) []request.KneadStep {
	do := request.KneadDoOptions()[1:]
	var out []request.KneadStep
	for range 1 + rng.IntN(request.MaxSteps) {
		s := request.KneadStep{Do: request.KneadDo(do[rng.IntN(len(do))].Key), Min: float64(1+rng.IntN(400)) / 10}
		if s.Do.Rests() {
			s.Cover = []request.Cover{"", request.CoverFilm, request.CoverBowl, request.CoverFlat, request.CoverPieces,
				request.CoverNone}[rng.IntN(6)]
		} else if !s.Do.Mixes() {
			s.Hands = []request.Hands{"", "", request.HandsShared, request.HandsTurns}[rng.IntN(4)]
		}
		out = append(out, s)
	}
	return out
}

// doneBy is the tool, or the place, of a step.
func doneBy(do request.KneadDo) knead.Tool {
	switch do {
	case request.DoMix, request.DoMixMachine, request.DoMixProcessor:
		return "mixing"
	case request.DoPause, request.DoRest, request.DoTemper:
		return "room"
	}
	return knead.Tool(do)
}

// Two thousand ways of one's own are followed to the letter: every step in its place with its minutes,
// nothing added, nothing left out, and the minutes of the plan are theirs.
func TestOwnStepsAreTakenLiterally(t *testing.T) {
	rng := rand.New(rand.NewPCG(12, 2))
	for i := range 2000 {
		r := request.Default()
		r.Amount.Portions = float64(1 + rng.IntN(12))
		r.Knead.By, r.Knead.Steps = request.KneadOwn, anySteps(rng)
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		mixed, said := 0., 0.
		var want []knead.Step
		for _, s := range r.Knead.Steps {
			said += s.Min
			if s.Do.Mixes() && len(want) == 0 {
				mixed += s.Min
				continue
			}
			want = append(want, knead.Step{By: doneBy(s.Do), Min: s.Min})
		}
		got := p.Knead.Way.Steps
		if !slices.EqualFunc(got, want, func(a, b knead.Step) bool { return a.By == b.By && a.Min == b.Min }) {
			t.Fatalf("%d: %+v planned as %+v", i, r.Knead.Steps, got)
		}
		if w := p.Knead.Way; math.Abs(w.ElapsedMin-w.WaitMin-said) > 1e-6 {
			t.Fatalf("%d: %.2f min said, %.2f planned", i, said, w.ElapsedMin-w.WaitMin)
		}
		listed, others := 0., 0.
		for _, s := range p.Steps {
			switch {
			case strings.HasPrefix(s.Key, "lots."):
				others += s.Min
			case strings.HasPrefix(s.Key, "mix."), strings.HasPrefix(s.Key, "knead."), strings.HasPrefix(s.Key,
				"rest."):
				listed += s.Min
			}
		}
		if math.Abs(listed+others-p.Knead.Way.ElapsedMin) > .01+1e-6 {
			t.Fatalf("%d: %+v\nthe list takes %.2f + %.2f min, the way %.2f", i, r.Knead.Steps, listed, others,
				p.Knead.Way.ElapsedMin)
		}
		for _, s := range p.Steps { // each run of it stands by itself
			if strings.HasPrefix(s.Key, "mix.") {
				mixed -= s.Min
			}
		}
		if math.Abs(mixed) > 1e-9 {
			t.Fatalf("%d: mixing is %.2f off what is said", i, mixed)
		}
		if d := p.Knead.D; d < 0 || d > 1 || math.IsNaN(d) || p.Rest.T < 0 || p.Rest.T > 1 || p.Rest.U < 0 ||
			p.Rest.U > 1 {
			t.Fatalf("%d: D %v T %v U %v", i, d, p.Rest.T, p.Rest.U)
		}
	}
}

// Unequal rounds, no rest between, a night, a processor: what the model and the words say of them.
func TestOwnStepsReadAsTheyAreDone(t *testing.T) {
	st := func(do request.KneadDo, minutes float64) request.KneadStep {
		return request.KneadStep{Do: do, Min: minutes}
	}
	for _, c := range []struct {
		name  string
		steps []request.KneadStep
		key   string   // the figure
		heads []string // of the steps
		says  string   // somewhere in the plan
	}{
		{"two unequal kneadings without a rest between", []request.KneadStep{st("mix", 4), st("hand", 8), st("hand", 5),
			st("rest", 25)}, "8 + 5",
			[]string{"Mix", "Knead, turn 1", "Knead by hand", "Rest in the room"}, "8 min and 5 min by hand"},
		{"short, rested short, thrice, then a night cold", []request.KneadStep{st("mix", 5), st("hand", 3), st("pause",
			10), st("hand", 3), st("pause", 10),
			st("hand", 3), st("fridge", 720), st("temper", 30)}, "3 × 3",
			[]string{"Mix", "Knead, turn 1", "Rest between turns", "Knead, turn 2", "Rest between turns",
				"Knead by hand", "Rest in the fridge",
				"Out of the fridge"}, "12 h"},
		{"all in a mixer, no rest", []request.KneadStep{st("mix_mixer", 2), st("hook", 5), st("mix_mixer", 1),
			st("hook", 2)}, "5 + 2",
			[]string{"Mix", "Hook, second speed", "Work it in", "Hook, second speed"}, "No rest at all."},
		{"a pause, and kneaded last", []request.KneadStep{st("mix", 5), st("hand", 5), st("pause", 20), st("hand", 2)},
			"5 + 2",
			[]string{"Mix", "Knead, turn 1", "Rest between turns", "Knead by hand"}, "None after the last kneading"},
		{"by processor for a minute", []request.KneadStep{st("mix_processor", .5), st("processor", .5), st("hand", 2),
			{Do: "rest", Min: 40, Cover: "bowl"}},
			"0.5 + 2", []string{"Mix", "Processor", "Knead by hand", "Rest in the room"}, "30 seconds"},
		{"left open", []request.KneadStep{st("mix", 5), st("hand", 10), {Do: "rest", Min: 30, Cover: "none"}}, "10",
			[]string{"Mix", "Knead by hand", "Rest in the room"}, "It lies open."},
		{"no mixing said", []request.KneadStep{st("hand", 9), st("rest", 30)}, "9", []string{"Mix", "Knead by hand",
			"Rest in the room"}, "No mixing in it."},
	} {
		r := request.Default()
		r.Amount.By, r.Amount.FlourG = request.ByFlour, 400
		r.Knead.By, r.Knead.Steps = request.KneadOwn, c.steps
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Errorf("%s: %v", c.name, err)
			continue
		}
		var heads []string
		for _, s := range p.StepsAt(request.AtKnead, request.AtRest) {
			if !strings.HasPrefix(s.Key, "fold.") {
				heads = append(heads, s.Head)
			}
		}
		if p.KneadWords() != c.key || !slices.Equal(heads, c.heads) {
			t.Errorf("%s: %s, %q", c.name, p.KneadWords(), heads)
		}
		if all := sameBut(t, p); !strings.Contains(all, c.says) {
			t.Errorf("%s: nothing says %q: %v %v", c.name, c.says, p.Why["knead.min"], p.Why["knead.school"])
		}
		if strings.Contains(p.Why["knead.school"], "Your own steps") != p.Knead.Own {
			t.Errorf("%s: own %v, %s", c.name, p.Knead.Own, p.Why["knead.school"])
		}
	}
}

// Hands: much at once is said, shared out and in turns count as they do of a school.
func TestOwnHands(t *testing.T) {
	r := request.Default()
	r.Amount.By, r.Amount.FlourG, r.Bench.People = request.ByFlour, 2000, 3
	steps := func(h request.Hands) []request.KneadStep {
		return []request.KneadStep{{Do: "mix", Min: 5}, {Do: "hand", Min: 10, Hands: h}, {Do: "rest", Min: 30}}
	}
	at := map[request.Hands]*plan.Plan{}
	for _, h := range []request.Hands{"", request.HandsShared, request.HandsTurns} {
		r.Knead.By, r.Knead.Steps = request.KneadOwn, steps(h)
		if h == request.HandsTurns {
			r.Bench.People = 1
		}
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		at[h] = p
	}
	if p := at[""]; p.Knead.Loads != 1 || p.Knead.Way.ElapsedMin != 45 || !strings.Contains(sameBut(t, p),
		"Much at once.") {
		t.Errorf("at once: %d loads, %v min", p.Knead.Loads, p.Knead.Way.ElapsedMin)
	}
	if p := at[request.HandsShared]; !p.Knead.Shared || p.Knead.Way.ElapsedMin != 45 {
		t.Errorf("shared: %+v", p.Knead)
	}
	if p := at[request.HandsTurns]; p.Knead.Loads != 3 || p.Knead.Way.ElapsedMin != 65 {
		t.Errorf("in turns: %d loads, %v min", p.Knead.Loads, p.Knead.Way.ElapsedMin)
	}
}
