package draw

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
)

// Pictures are the pictures of a whole plan by name, drawn in a width.
var Pictures = map[string]func(*plan.Plan, Width) string{
	"eggs": eggsOf, "rollside": RollSide, "wet-ruler": wetRuler, "wet-steps": wetSteps, "damp-curve": dampCurve,
	"dry-chart": dryChart, "pot-ruler": potRuler, "track": trackOf, "rope": ropeAbove,
}

// wetRuler is the hydration scale with its band.
func wetRuler(p *plan.Plan, width Width) string {
	f := &p.Formula
	t, hw := f.Target, f.Dough.Hw
	lo := 2 * math.Floor(math.Min(t.Low-5, math.Max(hw-1, t.Low-14))/2)
	hi := 2 * math.Ceil(math.Max(t.High+5, math.Min(hw+1, t.High+14))/2)
	r := Ruler{Title: fmt.Sprintf("Working hydration %.1f in a band from %.1f to %.1f", hw, t.Low, t.High), Min: lo,
		Max: hi, Step: 2,
		Left: "firm, crumbles", Right: "soft, clings", Spare: true, Bands: []Band{{From: t.Low, To: t.High,
			Class: "dough"}},
		Edges: true,
		Marks: []Mark{{At: hw, Text: fmt.Sprintf("%.1f", hw)}}}
	if f.TopG > 0 && p.Room.BeforeHw >= lo {
		r.Marks = append([]Mark{{At: p.Room.BeforeHw, Open: true}}, r.Marks...)
		r.Foot = fmt.Sprintf("Open marker: %.1f, before %s of %s. The scale is working water in %% of the flour.",
			p.Room.BeforeHw, p.In().Grams(f.TopG),
			p.TopWord())
	} else {
		r.Foot = "The scale is working water in % of the flour at 14 % moisture."
	}
	r.Width = width
	return r.SVG()
}

// wetSteps is the working hydration part by part.
func wetSteps(p *plan.Plan, width Width) string {
	f := &p.Formula
	s := Steps{Title: fmt.Sprintf("What makes up the working hydration of %.1f", f.Dough.Hw),
		Total: "working hydration",
		Band:  [2]float64{f.Target.Low, f.Target.High}, Decimals: 1}
	for _, x := range f.Parts {
		s.Parts = append(s.Parts, Step{Name: x.Part, Delta: x.Points})
	}
	s.Width = width
	return s.SVG()
}

// dampCurve is the top-up over the room's humidity, for this flour and these eggs.
func dampCurve(p *plan.Plan, width Width) string {
	const from, to = 20, 90 // % of humidity
	today := 100 * p.Request.Room.RH
	_, by, _, _ := p.In().Turn(measure.G)
	c := Curve{Title: fmt.Sprintf("%s to weigh against humidity, falling from %s at %d %% to %s at %d %%", p.TopWord(),
		p.In().Grams(p.LiquidAt(.2)),
		from, p.In().Grams(p.LiquidAt(.9)), to),
		XUnit: "humidity of the room, %", YUnit: p.In().Name(measure.G) + " of " + p.TopWord(),
		Below: "here flour comes in instead",
		Today: Point{X: min(max(today, from), to), Y: by * p.LiquidAt(min(max(today, from), to)/100)}}
	c.Words = fmt.Sprintf("%s at %.0f %%", strings.Replace(p.In().Whole(p.LiquidAt(c.Today.X/100)), "-", "−", 1),
		c.Today.X)
	for rh := from; rh <= to; rh += 2 {
		c.Points = append(c.Points, Point{X: float64(rh), Y: by * p.LiquidAt(float64(rh)/100)})
	}
	c.Width = width
	return c.SVG()
}

// DampRuler is the first flour's moisture between mill, today and the room.
func DampRuler(m flour.Moisture, width Width) string {
	r := Ruler{Title: fmt.Sprintf("Flour moisture %.1f %%, milled at %.1f %%, the room draws it to %.1f %%",
		100*m.NowWB, 100*m.MilledWB, 100*m.EquilibriumWB),
		Min: 6, Max: 18, Step: 2, Left: "dry", Right: "damp",
		Bands: []Band{{From: 100 * min(m.MilledWB, m.EquilibriumWB), To: 100 * max(m.MilledWB, m.EquilibriumWB),
			Class: "dough"}},
		Marks: []Mark{{At: 100 * m.MilledWB, Text: "milled", Open: true}, {At: 100 * m.EquilibriumWB, Text: "room",
			Open: true},
			{At: 100 * m.NowWB, Text: fmt.Sprintf("%.1f %%", 100*m.NowWB)}}}
	if m.Measured {
		r.Bands, r.Marks = nil, r.Marks[2:]
	}
	// The open markers' words make way for the figure.
	for i := range r.Marks {
		if r.Marks[i].Open && math.Abs(r.Marks[i].At-100*m.NowWB) < .9 {
			r.Marks[i].Text = ""
		}
	}
	r.Width = width
	return r.SVG()
}

// dryChart is the mass lost over the minutes: as it lies, and how it would otherwise; "" where
// the air takes nothing.
func dryChart(p *plan.Plan, width Width) string {
	d, ru := &p.Dry, p.Rules().Dry
	if !d.Leather.Will && d.Rate.DeltaGM3 <= ru.LeastGM3 {
		return ""
	}
	c := &Drying{Title: "Mass lost over the minutes in this air", MaxLoss: .14, Minutes: 30}
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
	}{{ru.CutLoss, "cuts cleanly", ""}, {ru.HoldLoss, "holds a nest", ""}, {ru.BrittleLoss, "edges crack",
		"red-line"}} {
		c.Levels = append(c.Levels, Level{Loss: l.loss, Words: l.words, Class: l.class})
	}
	for _, w := range p.DryLines(c.Minutes) {
		l := Line{Name: w.Name}
		for i, loss := range w.Loss {
			l.Points = append(l.Points, Point{X: float64(i) * w.StepMin, Y: loss})
		}
		c.Lines = append(c.Lines, l)
	}
	if d.Leather.Will && d.Purpose != cut.NoDrying && (len(d.Moments) == 0 || d.Moments[0].When == plan.SheetDries) {
		c.From = d.Leather.FromMin
		c.To = min(d.Leather.ToMin, c.Minutes)
		c.Window = fmt.Sprintf("%.0f–%.0f min",
			d.Leather.FromMin, d.Leather.ToMin)
	}
	c.Width = width
	return c.SVG()
}

// potRuler is the cooking time with its range.
func potRuler(p *plan.Plan, width Width) string {
	from, to := p.WorkedOutPot()
	title := "Taste between " + measure.MinSec(from) + " and " + measure.MinSec(to)
	at := p.PotS()
	word := measure.MinSec(at)
	if _, _, said := p.Request.Cook.OwnS(); said {
		title = "By your own clock " + word + "; worked out between " + measure.MinSec(from) + " and " +
			measure.MinSec(to)
		word = "yours: " + word
	}
	r := Ruler{Title: title, Widest: Desk, Step: 30, Left: "raw at heart", Right: "soft",
		Bands: []Band{{From: from, To: to, Class: "dough"}}, Marks: []Mark{{At: at, Text: word}},
		Foot: "Seconds from when the water boils again."}
	for _, step := range []float64{15, 30, 60, 120} {
		r.Step, r.Max = step, math.Ceil(max(to, at)*1.35/step)*step
		if r.Max/step <= 12 {
			break
		}
	}
	r.Width = width
	return r.SVG()
}

// trackOf is the dough along its way: development, tension, uptake, temperature, the window in
// which it rolls, and the food clock.
func trackOf(p *plan.Plan, width Width) string {
	moments := p.Follow()
	end := moments[len(moments)-1]
	t := Track{Title: fmt.Sprintf("Development %.0f %%, tension %.0f %%, water taken up %.0f %%, %s at the end",
		100*end.D, 100*end.T, 100*end.U,
		p.In().C(end.TempC, 0)), Minutes: math.Max(end.Min, 1)}
	t.Lines = []Line{{Class: "t-dev", Name: fmt.Sprintf("development %.0f %%", 100*end.D), Max: 1},
		{Class: "t-tense", Name: fmt.Sprintf("tension %.0f %%", 100*end.T), Max: 1},
		{Class: "t-water", Name: fmt.Sprintf("water in %.0f %%", 100*end.U), Max: 1}, {Class: "t-temp",
			Name: p.In().C(end.TempC, 0), Max: 40}}
	for _, m := range moments {
		for i, y := range []float64{m.D, m.T, m.U, m.TempC} {
			t.Lines[i].Points = append(t.Lines[i].Points, Point{X: m.Min, Y: y})
		}
	}
	at := 0.
	for _, s := range p.Knead.Way.Steps {
		x := Stretch{From: at, To: at + s.Min, Class: "dough", Words: "knead"}
		switch s.By {
		case knead.InRoom:
			x.Class, x.Words = "dough-soft", "rest, room"
		case knead.InFridge:
			x.Class, x.Words = "cold", "rest, fridge"
		case knead.ByHook, knead.BySlowHook:
			x.Words = "hook"
		case knead.ByProcessor:
			x.Words = "processor"
		case knead.ByMixing:
			x.Class, x.Words = "dough-soft", "work in"
		}
		x.Words += " " + measure.Exactly(s.Min)
		t.Steps = append(t.Steps, x)
		at += s.Min
	}
	if r := p.Rest.ReadyAtMin - p.Knead.Way.WaitMin; p.Rest.ReadyAtMin >= 0 {
		t.From = r
		t.To = math.Max(end.Min, r+1e-6)
		t.Window = "rollable from " + measure.Minutes(r)
		if p.Roll.Folds > 0 {
			t.Window += ", counting the folds"
		}
	}
	mixed := p.Rest.OutMin - end.OutMin // before flour met water, and while other loads had their turn
	for _, l := range []struct {
		minutes float64
		words   string
	}{{p.Dry.CautionAt, "take care"}, {p.Dry.DiscardAt, "throw away"}} {
		for _, m := range moments {
			if m.OutMin+mixed >= l.minutes {
				t.Limits = append(t.Limits, Limit{At: m.Min, Class: "red-line",
					Words: fmt.Sprintf("%s out of the fridge: %s", measure.Minutes(l.minutes), l.words)})
				break
			}
		}
	}
	t.Width = width
	return t.SVG()
}
