package plan

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"hollen/internal/core/egg"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// held writes a page of docs anew when asked to, and holds it to what the model says.
func held(t *testing.T, name, text string) {
	t.Helper()
	file := "../../../docs/" + name
	if os.Getenv("HOLLEN_WRITE_DOCS") != "" {
		if err := os.WriteFile(file, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	if want, err := os.ReadFile(file); err != nil || string(want) != text {
		t.Errorf("docs/%s is not what the model says (%v); run with HOLLEN_WRITE_DOCS=1", name, err)
	}
}

const writtenBy = "Written by\n`HOLLEN_WRITE_DOCS=1 go test ./internal/core/plan`, and held by that test.\n"

// The table of rolling is what the model says.
func TestRollingTable(t *testing.T) {
	var b strings.Builder
	b.WriteString("# Ways down\n\nWhat the generic machines come to, for 500 g of flour in a room of 22 °C and 45 %, " +
		"rolled for tagliatelle: the stops with " +
		"how much\nthinner each makes the sheet (bold where that is over what is easy), the sheet at the end, what " +
		"is easy at the widest and the finest, and a\n" +
		"piece's length and time. " + writtenBy)
	for _, d := range []struct {
		name   string
		change func(*request.Request)
	}{
		{"whole egg", func(*request.Request) {}},
		{"yolk only, with care", func(r *request.Request) { r.Eggs.Style = egg.YolksOnly }},
		{"half durum", func(r *request.Request) {
			second := r.Flours[0]
			second.Flour, second.Share, r.Flours[0].Share = "semola-fine", .5, .5
			r.Flours = append(r.Flours, second)
		}},
		{"white spelt", func(r *request.Request) { r.Flours[0].Flour = "spelt-white" }},
		{"emmer, little gluten", func(r *request.Request) { r.Flours[0].Flour = "emmer" }},
		{"barely kneaded, not rested", func(r *request.Request) { r.Knead.Min, r.Rest.Min = ptr(2), ptr(0) }},
		{"firm, 36", func(r *request.Request) {
			r.Eggs.FixWhole, r.Eggs.TopUp, r.Eggs.OwnEggG = ptr(4), egg.TopNone,
				ptr(58)
		}},
	} {
		fmt.Fprintf(&b, "\n## %s\n\n| machine | stops | way down | sheet | easy | length | time |\n| --- | --- | --- "+
			"| --- | --- | --- | --- |\n",
			measure.Capital(d.name))
		for _, m := range []string{"hand-crank-10", "mixer-8", "motor-9", "sheeter-mm"} {
			for _, mode := range []roll.Mode{roll.EveryStop, roll.Fewest} {
				r := request.Default()
				r.Amount.By, r.Amount.FlourG, r.Roll.Machine, r.Roll.Mode = request.ByFlour, 500, m, mode
				d.change(&r)
				p := must(t, r)
				var way []string
				for _, x := range p.Roll.Passes {
					if x.Easy == 0 {
						continue
					}
					step := fmt.Sprintf("%s (%.0f %%)", x.Label, 100*x.Reduction)
					if x.Reduction > x.Easy+1e-9 {
						step = "**" + step + "**"
					}
					way = append(way, step)
				}
				widest := fmt.Sprintf("%s × %d", p.machine.Widest(), p.Roll.Folds+1)
				o := p.Roll
				fmt.Fprintf(&b, "| %s | %s | %s, %s | %.2f mm | %.0f–%.0f %% | %.0f mm | %.1f min |\n", m, mode, widest,
					strings.Join(way, ", "), o.SheetMM,
					100*p.lay.Easy(p.machine.Stops[len(p.machine.Stops)-1].TrueMM()),
					100*p.lay.Easy(p.machine.Stops[0].TrueMM()),
					measure.Near(o.LengthMM), o.TimeMin)
			}
		}
	}
	held(t, "rolling.md", b.String())
}

// The table of small batches is what the model says.
func TestSmallBatchesTable(t *testing.T) {
	var b strings.Builder
	b.WriteString("# Small batches\n\nOne to six portions of tagliatelle from soft wheat 00, in a room of 22 °C and " +
		"45 %: the flour, the eggs, what tops " +
		"them up, " +
		"and the working\nhydration they come to. Where no whole number of eggs serves they are beaten and weighed, " +
		"and the nearest batch of whole eggs\n" +
		"stands beside it. " + writtenBy)
	for _, style := range []egg.Style{egg.WholeEggs, egg.Rich, egg.YolksOnly, egg.WholeWater} {
		fmt.Fprintf(&b, "\n## %s\n\n| portions | eggs are | flour | eggs | water | hydration, aim | whites left | in "+
			"whole eggs |\n"+
			"| --- | --- | --- | --- | --- | --- | --- | --- |\n", map[egg.Style]string{egg.WholeEggs: "Whole eggs",
			egg.Rich:      "Rich",
			egg.YolksOnly: "Yolks alone", egg.WholeWater: "Whole eggs and water"}[style])
		for portions := 1.; portions <= 6; portions++ {
			for _, class := range []string{"eu-m", "eu-l", "eu-xl", "us-l"} {
				r := request.Default()
				r.Amount.Portions, r.Eggs.Style, r.Eggs.Class = portions, style, class
				p := must(t, r)
				f := &p.Formula
				wholeNumber := ""
				if s, flourG, ok := p.WholeBatch(); ok && f.Pick.Beaten {
					wholeNumber = fmt.Sprintf("%.2f portions, %.0f g and %s", f.Portions*flourG/f.FlourG, flourG,
						EggWords(s.Whole, s.Yolks))
				}
				fmt.Fprintf(&b, "| %.0f | %s | %.0f g | %s | %.0f g | %.1f, %.1f | %.0f g | %s |\n", portions,
					p.EggClass().Name, f.FlourG, p.EggWords(), f.TopG,
					f.Dough.Hw, f.Target.Hw, f.Pick.WhitesG, wholeNumber)
			}
		}
	}
	held(t, "small-batches.md", b.String())
}
