package plan

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// sentences are all words a plan says, each with where it stands.
func sentences(p *Plan) map[string]string {
	out := map[string]string{}
	for i, s := range p.Steps {
		for k, text := range []string{s.Head, s.Text, s.Sign, s.Test, s.Brief, s.Caution} {
			out[fmt.Sprintf("step %d %s.%d", i, s.Key, k)] = text
		}
	}
	for i, n := range p.Notes {
		out[fmt.Sprintf("note %d %s", i, n.Code)] = n.Head + " " + n.Text
	}
	for k, text := range p.Why {
		out["why "+k] = text
	}
	for i, w := range p.ToWeigh() {
		out[fmt.Sprintf("weigh %d", i)] = w.What + ": " + w.Much + " " + w.Note
	}
	return out
}

// wrong is what no sentence holds: one of many, a hyphen for a minus, thousands run together, a figure that is none,
// words run together, a second
// space, a sentence that begins small.
var wrong = map[string]*regexp.Regexp{
	"one of many": regexp.MustCompile(
		`(?:^|[^\d.,:–/×½¼¾-])1 (?:turns|passes|pieces|eggs|yolks|signs|minutes|batches|sheets|nests|ribbons|loads|trays|folds|` +
			`folded passes|portions|rows|lengths|stops|cuts|layers)\b`,
	),
	"every one":        regexp.MustCompile(`\bevery 1\b`),
	"a hyphen":         regexp.MustCompile(`(?:^|[\s(])-\d`),
	"thousands":        regexp.MustCompile(`\b[1-9]\d{3,}\b`),
	"no figure":        regexp.MustCompile(`%!|NaN|Inf|\{|\}`),
	"two spaces":       regexp.MustCompile(`\S  \S`),
	"two stops":        regexp.MustCompile(`\.\.(?:[^.]|$)|,,|;;|\. \.|\s[,;.](?:\s|$)`),
	"a before a vowel": regexp.MustCompile(`\ba (?:egg|array|object|ounce|inch|hour)\b`),
	"a small egg":      regexp.MustCompile(`\b(?:eu|us) (?:small|medium|large|extra)`),
}

// Three hundred very different plans are read sentence by sentence, in both systems of units: nothing in them is said
// as nobody would, and the
// figures a sentence repeats are those of the plan.
func TestReadAloud(t *testing.T) {
	shapes := cut.Shipped()
	machine, _ := request.FieldAt("roll.machine")
	flours, _ := request.FieldAt("flours.0.flour")
	styles := []egg.Style{egg.WholeEggs, egg.Rich, egg.YolksOnly, egg.NoEgg}
	for i := range 300 {
		r := request.Default()
		r.Flours = slices.Clone(r.Flours)
		r.Flours[0].Flour = flours.Options[i%len(flours.Options)].Key
		r.Cut.Shape = shapes[(i*7)%len(shapes)].Key
		r.Roll.Machine = machine.Options[(i*5)%len(machine.Options)].Key
		r.Eggs.Style = styles[i%len(styles)]
		r.Knead.School = knead.Schools()[i%len(knead.Schools())]
		r.Amount.By, r.Amount.Portions = request.ByPortions, float64(1+(i*i)%40)
		r.Room.TempC, r.Room.RH = float64(14+i%18), .3+.015*float64(i%40)
		in := measure.Metric
		if i%2 == 1 {
			in = measure.Customary
		}
		p, err := MakeIn(in, rules.Default(), r)
		if err != nil {
			continue
		}
		what := fmt.Sprintf("%d: %s %s %s %s", i, r.Flours[0].Flour, r.Eggs.Style, r.Roll.Machine, r.Cut.Shape)
		for at, text := range sentences(p) {
			for name, bad := range wrong {
				if m := bad.FindString(text); m != "" {
					t.Errorf("%s, %s: %s: %q in %q", what, at, name, m, text)
				}
			}
		}
		p.holds(t, what)
	}
}

// holds compares figures that stand in sentences with those of the plan, to what they are rounded to.
func (p *Plan) holds(t *testing.T, what string) {
	t.Helper()
	first := func(key, pattern string) (float64, bool) {
		m := regexp.MustCompile(pattern).FindStringSubmatch(p.Why[key])
		if m == nil {
			return 0, false
		}
		v, err := strconv.ParseFloat(strings.ReplaceAll(m[1], ",", ""), 64)
		return v, err == nil
	}
	for _, c := range []struct {
		key, pattern string
		want, off    float64
	}{
		{"knead.min", `to (\d+) %;`, 100 * p.Knead.D, .51},
		{"knead.min", `from (\d+) % on`, 100 * p.rules.Knead.ReadyD, .51},
		{"cut.trim", `: (\d+) % of the sheet`, 100 * p.Cut.TrimG / (p.Cut.TrimG + p.Cut.DoughG), .51},
		{"formula.hw", `: ([\d.]+)\. `, p.Formula.Dough.Hydration, .051},
		{"formula.band", `Aim ([\d.]+):`, p.Formula.Target.Hw, .051},
		{"formula.dough", `; ([\d.]+) % of it is water`, 100 * p.Formula.Dough.WaterShare, .051},
		{"dry.window", `takes ([\d.]+) % of the sheet`, 100 * p.Dry.Rate.PerMin, .0051},
	} {
		if got, said := first(c.key, c.pattern); said && math.Abs(got-c.want) > c.off {
			t.Errorf("%s: %s says %g where it is %g: %s", what, c.key, got, c.want, p.Why[c.key])
		}
	}
}
