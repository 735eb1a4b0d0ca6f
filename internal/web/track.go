package web

import (
	"fmt"
	"math"

	"hollen/internal/core/knead"
	"hollen/internal/core/plan"
	"hollen/internal/draw"
)

// Track is the dough along its way: development, tension, uptake, temperature, the window in
// which it rolls, and the food clock.
func (v *batchView) Track() draw.Track {
	p := v.Plan
	moments := p.Follow()
	end := moments[len(moments)-1]
	t := draw.Track{Title: fmt.Sprintf("Development %.0f %%, tension %.0f %%, water taken up %.0f %%, %.0f °C at the end", 100*end.D, 100*end.T, 100*end.U, end.TempC), Minutes: math.Max(end.Min, 1)}
	t.Lines = []draw.Line{{Class: "t-dev", Name: fmt.Sprintf("development %.0f %%", 100*end.D), Max: 1}, {Class: "t-tense", Name: fmt.Sprintf("tension %.0f %%", 100*end.T), Max: 1},
		{Class: "t-water", Name: fmt.Sprintf("water in %.0f %%", 100*end.U), Max: 1}, {Class: "t-temp", Name: fmt.Sprintf("%.0f °C", end.TempC), Max: 40}}
	for _, m := range moments {
		for i, y := range []float64{m.D, m.T, m.U, m.TempC} {
			t.Lines[i].Points = append(t.Lines[i].Points, draw.Point{X: m.Min, Y: y})
		}
	}
	at := 0.
	for _, s := range p.Knead.Way.Steps {
		x := draw.Stretch{From: at, To: at + s.Min, Class: "dough", Words: "knead"}
		switch s.By {
		case knead.InRoom:
			x.Class, x.Words = "dough-soft", "rest, room"
		case knead.InFridge:
			x.Class, x.Words = "cold", "rest, fridge"
		case knead.ByHook, knead.BySlowHook:
			x.Words = "hook"
		case knead.ByProcessor:
			x.Words = "processor"
		}
		x.Words += " " + plan.Minutes(s.Min)
		t.Steps = append(t.Steps, x)
		at += s.Min
	}
	if r := p.Rest.ReadyAtMin; r >= 0 {
		t.From, t.To, t.Window = r, math.Max(end.Min, r+1e-6), "rollable from "+plan.Minutes(r)
		if p.Roll.Folds > 0 {
			t.Window += ", counting the folds"
		}
	}
	mixed := p.Rest.WarmMin - end.WarmMin // before flour met water
	for _, l := range []struct {
		min   float64
		words string
	}{{p.Dry.CautionAt, "take care"}, {p.Dry.DiscardAt, "throw away"}} {
		for _, m := range moments {
			if m.WarmMin+mixed >= l.min {
				t.Limits = append(t.Limits, draw.Limit{At: m.Min, Class: "red-line", Words: fmt.Sprintf("%s above 5 °C: %s", plan.Minutes(l.min), l.words)})
				break
			}
		}
	}
	return t
}
