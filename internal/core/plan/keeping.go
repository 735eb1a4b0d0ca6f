package plan

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/cook"
	"hollen/internal/core/egg"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
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

// Perishable says whether the food clock counts: for egg, milk and fillings.
func (p *Plan) Perishable() bool {
	f := &p.Formula
	return f.WholeG+f.YolkG > 0 || f.TopG > 0 && p.Request.Eggs.TopUp == egg.TopMilk || p.Request.Filled()
}

// Unrested says whether the maker wants no rest at all. Then one note says what that does, and no
// other scolds for it.
func (p *Plan) Unrested() bool {
	if p.ask.Own != nil {
		return p.restsMin() == 0
	}
	return p.Request.Rest.Min != nil && *p.Request.Rest.Min == 0
}

// adviseCooling is the advice on a dough that takes more than four hours in the fridge to read 7 °C:
// a remark, for it is done every night, with what would be quicker.
func (p *Plan) adviseCooling() {
	s, a := &p.rules.Safety, p.ask
	if cool := p.Rest.CoolMin; cool >= 0 && cool <= s.DiscardMin || cool < 0 && p.Rest.Min <= s.DiscardMin {
		return
	}
	if p.Rest.CoolMin < 0 {
		p.note(request.AtRest, "rest.cooling", Remark, "warm_fridge", "A warm fridge.",
			"At %s it never gets to %s: set it colder, or keep it no longer than four hours.",
			p.in.C(a.FridgeC, 0), p.in.C(s.CoolC, 0))
		return
	}
	start := p.beforeFridgeC()
	at4h := a.FridgeC + (start-a.FridgeC)*math.Exp(-s.DiscardMin/p.model.Lying(a))
	var ways []string
	way := func(what string, change func(*knead.Ask)) {
		b := a
		b.ChillG, b.FlatMM = 0, 0
		change(&b)
		if m := knead.CoolingMin(start, b.FridgeC, s.CoolC, p.model.Lying(b)); m < .9*p.Rest.CoolMin {
			ways = append(ways, fmt.Sprintf("%s it takes %s", what, measure.Minutes(m)))
		}
	}
	flat, pieces := p.rules.Knead.FlatMM, max(2, math.Round(p.Formula.FlourG/p.rules.Roll.PieceFlourG))
	way(fmt.Sprintf("pressed %s flat", p.in.MM(flat, 0)), func(b *knead.Ask) { b.FlatMM = flat })
	way(fmt.Sprintf("in %.0f pieces", pieces), func(b *knead.Ask) { b.ChillG = p.Formula.Dough.MassG / pieces })
	text := fmt.Sprintf("%s after %s in the fridge, %s after %s", p.in.C(at4h, 0), measure.Minutes(s.DiscardMin), p.in.C(s.CoolC, 0),
		measure.Minutes(p.Rest.CoolMin))
	if len(ways) > 0 {
		text += "; " + strings.Join(ways, ", ")
	}
	p.note(request.AtRest, "rest.cooling", Remark, "slow_to_cool", "It cools slowly.", "%s. Who sells: many food plans ask for %s within four hours.", text,
		p.in.C(s.SellC, 0))
}

// beforeFridgeC is how warm the dough is when it goes into the fridge, °C.
func (p *Plan) beforeFridgeC() float64 {
	before := p.way
	for i, st := range p.way.Steps {
		if st.By == knead.InFridge {
			before.Steps = p.way.Steps[:i]
		}
	}
	track := p.model.Follow(p.ask, before, 1)
	return track[len(track)-1].TempC
}
