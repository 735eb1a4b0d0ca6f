package web

import (
	"fmt"
	"math"
	"strings"
	"time"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
	"hollen/internal/core/roll"
	"hollen/internal/draw"
)

// WetRuler is the hydration scale with its band.
func (v *batchView) WetRuler() draw.Ruler {
	f := &v.Plan.Formula
	t, hw := f.Target, f.Dough.Hw
	lo := 2 * math.Floor(math.Min(t.Low-5, math.Max(hw-1, t.Low-14))/2)
	hi := 2 * math.Ceil(math.Max(t.High+5, math.Min(hw+1, t.High+14))/2)
	r := draw.Ruler{Title: fmt.Sprintf("Working hydration %.1f in a band from %.1f to %.1f", hw, t.Low, t.High), Min: lo, Max: hi, Step: 2,
		Left: "firm, crumbles", Right: "soft, clings", Bands: []draw.Band{{From: t.Low, To: t.High, Class: "dough"}}, Edges: true,
		Marks: []draw.Mark{{At: hw, Text: fmt.Sprintf("%.1f", hw)}}}
	if f.TopG > 0 && v.Plan.Room.BeforeHw >= lo {
		r.Marks = append([]draw.Mark{{At: v.Plan.Room.BeforeHw, Open: true}}, r.Marks...)
		r.Foot = fmt.Sprintf("Open marker: %.1f, before %s of %s. The scale is working water to 100 g of flour.", v.Plan.Room.BeforeHw, plan.Grams(f.TopG), v.Plan.TopWord())
	} else {
		r.Foot = "The scale is working water to 100 g of flour at 14 % moisture."
	}
	return r
}

// WetSteps is the working hydration part by part.
func (v *batchView) WetSteps() draw.Steps {
	f := &v.Plan.Formula
	s := draw.Steps{Title: fmt.Sprintf("What makes up the working hydration of %.1f", f.Dough.Hw), Total: "working hydration", Band: [2]float64{f.Target.Low, f.Target.High}, Decimals: 1}
	for _, p := range f.Parts {
		s.Parts = append(s.Parts, draw.Step{Name: p.Part, Delta: p.Points})
	}
	return s
}

// DampCurve is the top-up over the room's humidity, for this flour and these eggs.
func (v *batchView) DampCurve() draw.Curve {
	const from, to = 20, 90 // % of humidity
	p := v.Plan
	today := 100 * v.Req.Room.RH
	c := draw.Curve{Title: fmt.Sprintf("%s to weigh against humidity, falling from %s at %d %% to %s at %d %%", p.TopWord(), plan.Grams(p.LiquidAt(.2)), from, plan.Grams(p.LiquidAt(.9)), to),
		XUnit: "humidity of the room, %", YUnit: "g of " + p.TopWord(), Below: "here flour comes in instead",
		Today: draw.Point{X: min(max(today, from), to), Y: p.LiquidAt(min(max(today, from), to) / 100)}}
	c.Words = fmt.Sprintf("%.0f g at %.0f %%", c.Today.Y, c.Today.X)
	for rh := from; rh <= to; rh += 2 {
		c.Points = append(c.Points, draw.Point{X: float64(rh), Y: p.LiquidAt(float64(rh) / 100)})
	}
	return c
}

// DampRuler is the first flour's moisture between mill, today and the room.
func (v *batchView) DampRuler(m flour.Moisture) draw.Ruler {
	r := draw.Ruler{Title: fmt.Sprintf("Flour moisture %.1f %%, milled at %.1f %%, the room draws it to %.1f %%", 100*m.NowWB, 100*m.MilledWB, 100*m.EquilibriumWB),
		Min: 6, Max: 18, Step: 2, Left: "dry", Right: "damp",
		Bands: []draw.Band{{From: 100 * min(m.MilledWB, m.EquilibriumWB), To: 100 * max(m.MilledWB, m.EquilibriumWB), Class: "dough"}},
		Marks: []draw.Mark{{At: 100 * m.MilledWB, Text: "milled", Open: true}, {At: 100 * m.EquilibriumWB, Text: "room", Open: true}, {At: 100 * m.NowWB, Text: fmt.Sprintf("%.1f %%", 100*m.NowWB)}}}
	if m.Measured {
		r.Bands, r.Marks = nil, r.Marks[2:]
	}
	// The open markers' words make way for the figure.
	for i := range r.Marks {
		if r.Marks[i].Open && math.Abs(r.Marks[i].At-100*m.NowWB) < .9 {
			r.Marks[i].Text = ""
		}
	}
	return r
}

// DryChart is the mass lost over the minutes: as it lies, and how it would otherwise.
func (v *batchView) DryChart() *draw.Drying {
	p := v.Plan
	d, ru := &p.Dry, p.Rules().Dry
	if !d.Leather.Will && d.Rate.DeltaGM3 <= ru.LeastGM3 {
		return nil
	}
	c := &draw.Drying{Title: "Mass lost over the minutes in this air", MaxLoss: .14, Minutes: 30}
	for _, w := range []dry.Window{d.Leather, d.Nest, d.Brittle} {
		if w.Will {
			c.Minutes = max(c.Minutes, w.FromMin*1.25)
		}
	}
	c.Minutes = min(10*math.Ceil(c.Minutes/10), ru.MostMin)
	for _, l := range []struct {
		loss  float64
		words string
		class string
	}{{ru.CutLoss, "cuts cleanly", ""}, {ru.HoldLoss, "holds a nest", ""}, {ru.BrittleLoss, "edges crack", "red-line"}} {
		c.Levels = append(c.Levels, draw.Level{Loss: l.loss, Words: l.words, Class: l.class})
	}
	for _, w := range p.DryLines(c.Minutes) {
		l := draw.Line{Name: w.Name}
		for i, loss := range w.Loss {
			l.Points = append(l.Points, draw.Point{X: float64(i) * w.StepMin, Y: loss})
		}
		c.Lines = append(c.Lines, l)
	}
	if d.Leather.Will && d.Purpose != cut.NoDrying {
		c.From, c.To, c.Window = d.Leather.FromMin, min(d.Leather.ToMin, c.Minutes), fmt.Sprintf("%.0f–%.0f min", d.Leather.FromMin, d.Leather.ToMin)
	}
	return c
}

// CoveredFigure is how long a covered sheet waits, and CoveredUnit its unit.
func (v *batchView) CoveredFigure() string {
	if w := v.Plan.Dry.Covered; w.Will {
		return fmt.Sprintf("%.0f", w.FromMin)
	}
	return "over 2"
}

// CoveredUnit is the unit of CoveredFigure.
func (v *batchView) CoveredUnit() string {
	if v.Plan.Dry.Covered.Will {
		return "min"
	}
	return "h"
}

// LotG is one lot over all pots, g.
func (v *batchView) LotG() float64 { return v.Plan.Cut.AllMadeG / float64(v.Plan.Cook.Lots) }

// KeepRow is one way to keep the batch.
type KeepRow struct {
	Name, Span, Until, How string
	On                     bool
}

// KeepRows returns the ways to keep it and until when.
func (v *batchView) KeepRows() []KeepRow {
	k, ru := &v.Plan.Keep, v.Plan.Rules().Safety
	low, high := cook.Days(ru, cook.Fridge, v.Plan.Request.RawFilling())
	return []KeepRow{
		{"Fridge", "≤ 5 °C, " + plan.DaysWords(low, high), v.until(k.Fridge), "Dusted, covered, in one layer or loose nests. Some keep it 3–5 days: listeria grows in the cold and nothing shows.", k.Where == cook.Fridge},
		{"Freezer", "−18 °C, " + plan.DaysWords(ru.FreezeLowDays, ru.FreezeDays), v.until(k.Freezer), "On a tray until hard, then the bag, air out, weight and dates on it.", k.Where == cook.Freezer},
		{"Dough, wrapped", "≤ 5 °C, at most 48 hours", v.until(k.Dough), "Film twice; it greys after a day.", false},
	}
}

// UseBy is the date that counts, "" when the day it is made is not said.
func (v *batchView) UseBy() string { return v.until(v.Plan.Keep.UseBy) }

// KeepHint says what is usual where it is kept.
func (v *batchView) KeepHint() string {
	return "usual: " + plan.DaysWords(v.Plan.Keep.FromDays, v.Plan.Keep.ToDays)
}

// until returns a day or a moment as a maker reads it: of a moment the year only where it is not
// the one it is made in.
func (v *batchView) until(at string) string {
	if t, err := plan.At(at); err == nil {
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

// PotRuler is the cooking time with its range.
func (v *batchView) PotRuler() draw.Ruler {
	c := &v.Plan.Cook
	r := draw.Ruler{Title: "Taste between " + plan.MinSec(c.FromS) + " and " + plan.MinSec(c.ToS), WidthUnits: 926, Step: 30, Left: "raw at heart", Right: "soft",
		Bands: []draw.Band{{From: c.FromS, To: c.ToS, Class: "dough"}}, Marks: []draw.Mark{{At: v.Plan.PotS(), Text: plan.MinSec(v.Plan.PotS())}}, Foot: "Seconds from when the water boils again."}
	for _, step := range []float64{15, 30, 60, 120} {
		r.Step, r.Max = step, math.Ceil(c.ToS*1.35/step)*step
		if r.Max/step <= 12 {
			break
		}
	}
	return r
}

// Rung is one pass of the ladder.
type Rung struct {
	N, Label, Gap, Sheet, Thinner, Length, Time string
	Note                                        string
	MM                                          float64
	Over, Last                                  bool
}

// Rungs returns the ladder, pass by pass.
func (v *batchView) Rungs() []Rung {
	var out []Rung
	passes := v.Plan.Roll.Passes
	for i, x := range passes {
		r := Rung{N: fmt.Sprint(i + 1), Label: x.Label, Gap: fmt.Sprintf("%.2g", x.GapMM), Sheet: fmt.Sprintf("%.2f", x.OutMM), MM: x.LengthMM, Last: i == len(passes)-1}
		r.Length, r.Time = plan.Thousands(x.LengthMM), fmt.Sprintf("%.0f s", x.TimeS)
		if x.Sheets > 1 {
			r.Length = fmt.Sprintf("%d × %s", x.Sheets, r.Length)
		}
		if v.Pin() {
			r.Thinner = fmt.Sprintf("%.0f %%", 100*x.Reduction)
		}
		if x.Easy > 0 {
			r.Thinner, r.Over = fmt.Sprintf("%.0f %%", 100*x.Reduction), x.Reduction > x.Easy+1e-9
		}
		var notes []string
		switch {
		case x.Fold == 3:
			notes = append(notes, "fold in three")
		case x.Fold == 2:
			notes = append(notes, "fold in half")
		case v.Pin() && i == 0:
			notes = append(notes, "from the middle")
		case v.Pin() && i == len(passes)-1:
			notes = append(notes, "as thin as wanted")
		case v.Pin():
			notes = append(notes, "quarter turn, pause")
		case i == 0:
			notes = append(notes, "as pressed")
		case x.Easy == 0 && x.Nth == 2:
			notes = append(notes, "flat, full width")
		case x.Easy == 0:
			notes = append(notes, "flat")
		case x.Nth == 2:
			notes = append(notes, "again")
		}
		if x.Halved {
			notes = append(notes, "halve first")
		}
		for _, s := range v.Plan.Roll.Skips {
			if s.Stop == x.Stop && x.Nth == 1 && s.Verdict != "tearing" && v.Req.Roll.Mode == roll.EveryStop {
				notes = append(notes, map[string]string{"safe": "may be skipped", "bold": "bold to skip"}[s.Verdict])
			}
		}
		if x.Skipped > 0 {
			var past []string
			for _, s := range v.Plan.Roll.Machine.Stops[x.Stop-x.Skipped : x.Stop] {
				past = append(past, s.Label)
			}
			notes = append(notes, "past "+strings.Join(past, ", "))
		}
		if x.Easy > 0 {
			ru := v.Plan.Rules().Roll
			if x.OutMM <= ru.PrintMM && x.InMM > ru.PrintMM {
				notes = append(notes, "print shows")
			} else if x.OutMM <= ru.HandMM && x.InMM > ru.HandMM {
				notes = append(notes, "a hand shows")
			}
		}
		if r.Over {
			notes = append(notes, fmt.Sprintf("easy: %.0f %%", 100*x.Easy))
		}
		r.Note = strings.Join(notes, "; ")
		out = append(out, r)
	}
	return out
}

// BenchTicks returns the numbers over the ladder's last column, as per cent of its width.
func (v *batchView) BenchTicks() (out []struct{ At, MM float64 }) {
	span := v.BenchSpan()
	step := math.Pow(10, math.Floor(math.Log10(span/2)))
	for span/step > 5 {
		step *= 2
	}
	for mm := 0.; mm < v.BenchMM()*.86; mm += step {
		out = append(out, struct{ At, MM float64 }{100 * mm / span, mm})
	}
	return out
}

// BenchSpan is the length the ladder's last column stands for, mm.
func (v *batchView) BenchSpan() float64 { return v.BenchMM() * 7 / 6 }

// BenchMM is the length of the bench, or of a pin's board, mm.
func (v *batchView) BenchMM() float64 {
	if v.Pin() {
		return max(v.Plan.Roll.Machine.BoardLengthMM, v.Plan.Roll.Machine.BoardWidthMM)
	}
	return v.Req.Roll.BenchMM
}

// BenchAt is where the bench ends in that column, per cent.
func (v *batchView) BenchAt() float64 { return 100 * 6. / 7 }
