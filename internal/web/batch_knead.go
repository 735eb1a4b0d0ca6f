package web

import (
	"fmt"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
)

// kneadView is kneading and resting.
type kneadView struct{ *batchView }

// WorkFigure is the kneading of the way, in as few words as a figure has.
func (v kneadView) WorkFigure() string {
	if w := v.Plan.Knead.Way; w.Turns > 1 {
		return fmt.Sprintf("%d × %.0f", w.Turns, w.KneadMin)
	}
	return fmt.Sprintf("%.3g", v.Plan.Knead.Way.WorkMin)
}

// CoolFigure is how long the dough takes in the fridge until it reads 7 °C.
func (v kneadView) CoolFigure() string {
	if v.Plan.Rest.CoolMin < 0 {
		return "never"
	}
	return measure.Minutes(v.Plan.Rest.CoolMin)
}

// RestFigure is the last rest: minutes, or hours and minutes.
func (v kneadView) RestFigure() string {
	if m := v.Plan.Rest.Min; m < 120 {
		return fmt.Sprintf("%.0f", m)
	}
	return measure.Minutes(v.Plan.Rest.Min)
}

// RestUnit is the unit of RestFigure.
func (v kneadView) RestUnit() string {
	if v.Plan.Rest.Min < 120 {
		return "min"
	}
	return ""
}

// SchoolName names the school the batch is kneaded by.
func (v kneadView) SchoolName() string { return v.Plan.Knead.School.Traits().Short }

func kneadKey(p *plan.Plan) string {
	if w := p.Knead.Way; w.Turns > 1 {
		return fmt.Sprintf("%d × %.0f min", w.Turns, w.KneadMin)
	}
	return measure.Minutes(p.Knead.Way.WorkMin)
}

func restKey(p *plan.Plan) string { return measure.Minutes(p.Rest.Min) }
