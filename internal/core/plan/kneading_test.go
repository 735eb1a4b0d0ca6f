package plan

import (
	"fmt"
	"math"
	"os"
	"strings"
	"testing"

	"hollen/internal/core/doctor"
	"hollen/internal/core/egg"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// waysOfWorking are the doughs and places every school is tried on.
var waysOfWorking = []struct {
	name   string
	change func(*request.Request)
}{
	{"whole egg, room 22 °C", func(r *request.Request) {}},
	{"whole egg, cold kitchen 15 °C", func(r *request.Request) { r.Room.TempC = 15 }},
	{"whole egg, hot kitchen 31 °C", func(r *request.Request) { r.Room.TempC = 31 }},
	{"whole egg, fridge", func(r *request.Request) { r.Rest.At = "fridge" }},
	{"whole egg, fridge in flat pieces", func(r *request.Request) { r.Rest.At, r.Rest.Wrapped = "fridge", "pieces" }},
	{"yolk only", func(r *request.Request) { r.Eggs.Style = egg.YolksOnly }},
	{"half durum", func(r *request.Request) {
		second := r.Flours[0]
		second.Flour, second.Share = "semola-fine", .5
		r.Flours[0].Share = .5
		r.Flours = append(r.Flours, second)
	}},
	{"all durum, no egg", func(r *request.Request) { r.Flours[0].Flour, r.Eggs.Style = "semola-fine", egg.NoEgg }},
	{"wholemeal", func(r *request.Request) { r.Flours[0].Flour = "wholemeal" }},
	{"white spelt", func(r *request.Request) { r.Flours[0].Flour = "spelt-white" }},
	{"strong bread wheat", func(r *request.Request) { r.Flours[0].Flour = "strong" }},
	{"buckwheat, no gluten", func(r *request.Request) { r.Flours[0].Flour = "buckwheat" }},
}

// kneadingTable writes every school's way for every dough.
func kneadingTable(t *testing.T) string {
	var b strings.Builder
	b.WriteString("# Ways of working\n\nWhat each school comes to, for 500 g of flour at 45 % humidity: minutes of " +
		"work, the last rest, folded " +
		"passes, minutes from\nflour to roller, and what the dough has come to: development with the folds, tension, " +
		"water taken up, temperature. " +
		"Written by\n`HOLLEN_WRITE_DOCS=1 go test ./internal/core/plan`, and held by that test.\n")
	for _, w := range waysOfWorking {
		r := request.Default()
		r.Amount.By, r.Amount.FlourG = "flour", 500
		w.change(&r)
		fmt.Fprintf(&b, "\n## %s\n\n| school | work | last rest | folds | in all | D | T | U | dough | |\n| --- | "+
			"--- | --- | --- | --- | --- | "+
			"--- | --- | --- | --- |\n", measure.Capital(w.name))
		p := must(t, r)
		for _, row := range p.CompareSchools() {
			q := r
			q.Knead.School = row.School
			work := must(t, q).workWords()
			lacks := "ready"
			if !row.Ready {
				var parts []string
				for _, l := range row.Lacks {
					parts = append(parts, l.What)
				}
				lacks = "short of " + measure.List(parts)
			}
			fmt.Fprintf(&b, "| %s | %s | %s | %d | %s | %.0f %% | %.0f %% | %.0f %% | %.0f °C | %s |\n", row.School,
				work, measure.Minutes(row.RestMin),
				row.Folds, measure.Minutes(row.ElapsedMin), 100*row.DFolded, 100*row.T, 100*row.U, row.TempC, lacks)
		}
	}
	return b.String()
}

// The table in docs is what the model says, and every school gives a plan for every dough.
func TestWaysOfWorking(t *testing.T) {
	const file = "../../../docs/kneading.md"
	got := kneadingTable(t)
	if os.Getenv("HOLLEN_WRITE_DOCS") != "" {
		if err := os.WriteFile(file, []byte(got), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	want, err := os.ReadFile(file)
	if err != nil || string(want) != got {
		t.Errorf("docs/kneading.md is not what the model says (%v); run with HOLLEN_WRITE_DOCS=1", err)
	}
	for _, w := range waysOfWorking {
		r := request.Default()
		w.change(&r)
		rows := must(t, r).CompareSchools()
		ready := 0
		for _, row := range rows {
			if row.Ready {
				ready++
			}
			if row.Buys == "" || row.Costs == "" || row.ElapsedMin < row.RestMin || row.HandsMin <= 0 ||
				row.Folds < 2 || row.School == knead.Short &&
				row.WorkMin > 2 || row.School == knead.Turns && row.RestMin < 120 {
				t.Errorf("%s: %+v", w.name, row)
			}
		}
		if len(rows) != len(knead.Schools()) || ready == 0 {
			t.Errorf("%s: %d schools, %d of them ready", w.name, len(rows), ready)
		}
	}
}

// Left to Hollen the school follows tool, hands and bowls, with its reason; a school that
// does not finish the dough gives way to a long kneading.
func TestSchoolIsPicked(t *testing.T) {
	for _, c := range []struct {
		change func(*request.Request)
		want   knead.School
	}{
		{func(r *request.Request) {}, knead.Long},
		{func(r *request.Request) { r.Roll.Machine = "sheeter-mm" }, knead.Short},
		{func(r *request.Request) { r.Roll.Machine, r.Eggs.Style = "sheeter-mm", egg.YolksOnly }, knead.Long},
		{func(r *request.Request) { r.Amount.Portions, r.Bench.HookG = 60, ptr(9000) }, knead.Hook},
		{func(r *request.Request) { r.Amount.Portions, r.Bench.HookG, r.Bench.People = 12, ptr(9000), 2 }, knead.Long},
		{func(r *request.Request) {
			r.Flours[0].Flour, r.Bench.ProcessorG, r.Amount.Portions = "semola-fine", ptr(900), 4
		}, knead.Processor},
		{func(r *request.Request) { r.Knead.School = "turns" }, knead.Turns},
	} {
		r := request.Default()
		c.change(&r)
		p := must(t, r)
		if k := p.Knead; k.School != c.want || (k.SchoolWhy == "") != (r.Knead.School != "auto") ||
			p.Why["knead.school"] == "" {
			t.Errorf("%s, want %s: %q", k.School, c.want, k.SchoolWhy)
		}
	}
	// Bowls that are too small split the batch.
	r := request.Default()
	r.Knead.School, r.Bench.ProcessorG = "processor", ptr(500)
	if p := must(t, r); p.Knead.Loads < 3 || !strings.Contains(p.Steps[0].Text, fmt.Sprintf("The first of %d loads",
		p.Knead.Loads)) {
		t.Errorf("%d loads, %+v", p.Knead.Loads, p.Steps[0])
	}
}

// The clock: from the room as late as can be, from the fridge over the time there is, and
// where neither fits the nearest there is, with why.
func TestClock(t *testing.T) {
	r := request.Default()
	r.Clock = request.Clock{RollAt: "2026-11-28T17:30"}
	p := must(t, r)
	room := p.Clock.Ways[0]
	start, _ := measure.At(room.StartAt)
	roll, _ := measure.At(room.RollAt)
	if room.Place != "room" || !room.Fits || roll.Sub(start).Minutes() != math.Round(p.way.ElapsedMin) ||
		!p.Clock.Fits || p.Clock.StartAt != room.StartAt {
		t.Errorf("%+v", p.Clock)
	}
	if s := p.Steps; s[0].At != start.Format("15:04") || s[1].At == s[0].At {
		t.Errorf("%+v", s)
	}
	// Tomorrow at nine, started tonight: the fridge, tempered before.
	r.Clock = request.Clock{RollAt: "2026-11-29T09:00", From: "2026-11-28T20:00"}
	cold := must(t, r).Clock.Ways[1]
	if start, _ := measure.At(cold.StartAt); cold.Place != "fridge" || !cold.Fits || cold.TemperMin < 15 ||
		cold.RestMin < 600 ||
		start.Format("15:04") < "20:00" || start.Format("15:04") > "20:10" {
		t.Errorf("%+v", cold)
	}
	// Taken, the plan is that plan.
	r.Rest.At, r.Rest.Min, r.Rest.TemperMin = cold.Place, ptr(cold.RestMin), cold.TemperMin
	if q := must(t, r); q.Clock.StartAt != cold.StartAt || !q.Clock.Fits || q.Rest.TempC < 11.5 {
		t.Errorf("%+v, comes out at %.1f °C", q.Clock, q.Rest.TempC)
	}
	// In ten minutes: impossible, and when it is possible.
	r = request.Default()
	r.Clock = request.Clock{RollAt: "2026-11-28T14:10", From: "2026-11-28T14:00"}
	p = must(t, r)
	if w := p.Clock.Ways[0]; w.Fits || p.Clock.Fits || w.StartAt != r.Clock.From || w.RollAt != "2026-11-28T14:35" &&
		w.RollAt <= r.Clock.RollAt ||
		!strings.Contains(w.Why, "Not before 14:") {
		t.Errorf("%+v", w)
	}
	if n := p.At(request.AtRest); n[0].Code != "too_late" {
		t.Errorf("%+v", n[0])
	}
	r.Clock.RollAt = "2026-11-28T13:00"
	if _, err := Make(rules.Default(), r); err == nil || !strings.Contains(err.Error(), "must be after the start") {
		t.Errorf("rolled before it is started: %v", err)
	}
}

// What was done at the board counts: water moves the hydration exactly, flour and egg as they
// weigh, kneading and rest the model.
func TestActs(t *testing.T) {
	r := request.Default()
	r.Amount.By = "flour"
	p := must(t, r)
	f := p.Formula
	with := func(k doctor.Kind, amount float64) *Plan {
		q := r
		q.Acts = []request.Act{{Kind: k, Amount: amount, Sign: "cracks", Stage: request.AtKnead}}
		return must(t, q)
	}
	// What stands by the board and what is held back are counted already.
	keep, held := p.Room.KeepG, f.HeldBackG
	if g := with(doctor.Water, keep).Formula; keep == 0 || g.Dough.Hw != f.Dough.Hw {
		t.Errorf("the %.1f g by the board count twice: %.4f, %.4f", keep, f.Dough.Hw, g.Dough.Hw)
	}
	if g := with(doctor.Water, keep+8).Formula; math.Abs(g.Dough.Hw-f.Dough.Hw-800/f.Blend.F14G) > 1e-9 ||
		math.Abs(g.Dough.MassG-f.Dough.MassG-8) > 1e-9 {
		t.Errorf("8 g of water: from %.4f to %.4f", f.Dough.Hw, g.Dough.Hw)
	}
	for kind, worth := range map[doctor.Kind]float64{doctor.Egg: doctor.EggForWater, doctor.Milk: doctor.MilkForWater,
		doctor.Oil: doctor.OilForWater} {
		if g := with(kind, 8*worth).Formula; math.Abs(g.Dough.Hw-f.Dough.Hw-800/f.Blend.F14G) > .02 {
			t.Errorf("%s in its place: %+.3f points", kind, g.Dough.Hw-f.Dough.Hw)
		}
	}
	// The doctor's flour takes off the points it is measured for.
	d := p.Patient()
	d.TargetHw = d.Hw - 1.2
	if g := with(doctor.Flour, held).Formula; g.Dough.Hw != f.Dough.Hw {
		t.Errorf("the flour held back counts twice: %.4f, %.4f", f.Dough.Hw, g.Dough.Hw)
	}
	if g := with(doctor.Flour, held+d.FlourG(1.2)).Formula; math.Abs(f.Dough.Hw-g.Dough.Hw-1.2) > .02 {
		t.Errorf("flour for 1.2 points takes %.3f off", f.Dough.Hw-g.Dough.Hw)
	}
	if q := with(doctor.Knead, 3); q.Rest.D <= p.Rest.D || q.way.WorkMin != p.way.WorkMin+3 &&
		q.way.ElapsedMin == p.way.ElapsedMin {
		t.Errorf("3 min more: D %.3f after %.3f, %+v", q.Rest.D, p.Rest.D, q.way)
	}
	if q := with(doctor.Rest, 10); q.Rest.T > p.Rest.T {
		t.Errorf("10 min more: T %.3f after %.3f", q.Rest.T, p.Rest.T)
	}
}

func TestPokeAndFree(t *testing.T) {
	r := request.Default()
	if must(t, r).ReadPoke() != nil {
		t.Error("a poke nobody tried")
	}
	for s, ready := range map[float64]bool{.8: false, 2: false, 4: true} {
		r.Rest.PokeS = ptr(s)
		if k := must(t, r).ReadPoke(); k.Ready != ready {
			t.Errorf("%v s: %+v", s, k)
		}
	}
	r.Rest.Min = ptr(25)
	p := must(t, r)
	together, instead := p.Free()
	sum := 0.
	for _, task := range together {
		sum += task.Min
	}
	if sum > 25 || len(together) < 3 || p.FreeMin() != 25 || len(instead) == 0 || !strings.Contains(p.FreeWords(),
		"Or instead:") {
		t.Errorf("%v, or %v in %v min: %s", together, instead, p.FreeMin(), p.FreeWords())
	}
	for _, task := range instead {
		if task.Min > 25 {
			t.Errorf("%s does not fit into 25 minutes", task.Name)
		}
	}
}

func BenchmarkCompareSchools(b *testing.B) {
	p := must(b, request.Default())
	for b.Loop() {
		p.CompareSchools()
	}
}
