package plan

import (
	"hollen/internal/core/cook"
	"hollen/internal/core/measure"
)

// KeepPlan is where it is kept and until when, by the kitchen's clock.
type KeepPlan struct {
	Where    cook.Place `json:"where"` // "" when it is cooked the same day
	MadeAt   string     `json:"made_at"`
	FromDays float64    `json:"from_days"` // usual advice
	ToDays   float64    `json:"to_days"`
	Days     float64    `json:"days"`   // that counts
	UseBy    string     `json:"use_by"` // as MadeAt; "" when the day it was made is not known
	Fridge   string     `json:"fridge_use_by"`
	Freezer  string     `json:"freezer_use_by"`
	Dough    string     `json:"dough_use_by"`
	Own      bool       `json:"own"` // by the maker's own plan
}

// keep works out until when it keeps, by the kitchen's clock.
func (p *Plan) keep() {
	r, ru := &p.Request, &p.rules.Safety
	o := KeepPlan{Where: r.KeptIn(), MadeAt: r.Keep.MadeAt}
	if o.MadeAt == "" {
		o.MadeAt = r.MadeOn
	}
	raw := r.RawFilling()
	o.FromDays, o.ToDays = cook.Days(*ru, o.Where, raw)
	o.Days = o.ToDays
	if r.Keep.Days != nil {
		o.Days, o.Own = *r.Keep.Days, true
	}
	by := func(days float64) string { return measure.Later(o.MadeAt, days) }
	if o.Where != "" {
		o.UseBy = by(o.Days)
	}
	_, fridge := cook.Days(*ru, cook.Fridge, raw)
	_, freezer := cook.Days(*ru, cook.Freezer, raw)
	o.Fridge, o.Freezer = by(fridge), by(freezer)
	o.Dough = by(p.rules.Knead.KeepMin / 60 / 24)
	p.Keep = o
}
