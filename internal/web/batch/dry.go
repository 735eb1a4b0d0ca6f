package batch

import (
	"fmt"
	"html/template"
	"strings"
	"time"

	"hollen/internal/core/cook"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
)

// dryView is drying and keeping.
type dryView struct{ *batchView }

// Checks returns the lines of the check-weighings.
func (v dryView) Checks() []Line { return v.lines("dry.checks", "g") }

// CoveredFigure is how long a covered sheet waits, and CoveredUnit its unit.
func (v dryView) CoveredFigure() string {
	if w := v.Plan.Dry.Covered; w.Will {
		return fmt.Sprintf("%.0f", w.FromMin)
	}
	return "over 2"
}

// CoveredUnit is the unit of CoveredFigure.
func (v dryView) CoveredUnit() string {
	if v.Plan.Dry.Covered.Will {
		return "min"
	}
	return "h"
}

// KeepRow is one way to keep the batch.
type KeepRow struct {
	Name, Span, Until, How string
	On                     bool
}

// KeepRows returns the ways to keep it and until when.
func (v dryView) KeepRows() []KeepRow {
	k, ru := &v.Plan.Keep, v.Plan.Rules().Safety
	how := "Dusted, covered, in one layer or loose nests. Some keep it 3–5 days: listeria grows in the cold and " +
		"nothing shows."
	if v.Plan.Request.AnyKeepsAsRaw() {
		how = "Dusted, covered, in one layer, cold at once: it is raw inside."
	}
	return []KeepRow{
		{"Fridge", v.In.Prose("≤ {5 °C}, ") + v.Plan.FridgeWords(), v.until(k.Fridge), how, k.Where == cook.Fridge},
		{"Freezer", v.In.Prose("{−18 °C}, ") + measure.DaysWords(ru.FreezeLowDays, ru.FreezeDays), v.until(k.Freezer),
			"On a tray until hard, then the bag, air out, weight and dates on it.", k.Where == cook.Freezer},
		{"Dough, wrapped", v.In.Prose("≤ {5 °C}, at most 48 hours"), v.until(k.Dough),
			"Film twice; it greys after a day.", false},
	}
}

// UseBy is the date that counts, "" when the day it is made is not said.
func (v dryView) UseBy() string { return v.until(v.Plan.Keep.UseBy) }

// KeepHint says what is usual where it is kept.
func (v dryView) KeepHint() string {
	return "usual: " + measure.DaysWords(v.Plan.Keep.FromDays, v.Plan.Keep.ToDays)
}

// until returns a day or a moment as a maker reads it: of a moment the year only where it is not
// the one it is made in.
func (v dryView) until(at string) string {
	if t, err := measure.At(at); err == nil {
		if made := v.Plan.Keep.MadeAt; len(made) >= 4 && made[:4] == t.Format("2006") {
			return t.Format("Mon 2 Jan 15:04")
		}
		return t.Format("Mon 2 Jan 2006")
	}
	if t, err := time.Parse(time.DateOnly, at); err == nil {
		return t.Format("Mon 2 Jan 2006")
	}
	return ""
}

// Moments are the figures of what dries when.
func (v dryView) Moments() (out []template.HTML) {
	said := map[plan.Moment]bool{}
	for i := range v.Plan.Dry.Moments {
		d := &v.Plan.Dry.Moments[i]
		label := map[plan.Moment]string{plan.SheetDries: "The sheet, before the cut",
			plan.PiecesDry: "The pieces, after it", plan.BeforePacked: "Before it is packed"}[d.When]
		if said[d.When] { // of several shapes: its reason stands with the first
			label = measure.Capital(v.Plan.DriedNames(d))
		}
		said[d.When] = true
		n, unit, _ := strings.Cut(d.Span(), " ")
		if d.Own && d.ToMin > d.Min || d.Min >= 120 {
			n, unit = d.Span(), ""
		}
		out = append(out, v.Fig(label, n, unit, "dry."+string(d.When)))
	}
	return out
}

// RackAndTrays is the room all of it takes.
func (v dryView) RackAndTrays() template.HTML {
	d := &v.Plan.Dry
	n, unit := v.In.Number(d.RodM, measure.M, 1)
	return v.Fig("Rack and trays", n, unit+", "+measure.Plural(d.Trays, "tray", "trays"), "dry.space")
}

func dryKey(p *plan.Plan) string { return p.DryWords() }
