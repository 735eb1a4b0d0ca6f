package plan

import (
	"math"

	"hollen/internal/core/doctor"
	"hollen/internal/core/egg"
	"hollen/internal/core/request"
)

// AsItCame is the request with the amounts that truly went in as the maker's own, g to a tenth: what a
// batch made like the last one starts from. It reports false where nothing was weighed back, and where
// egg or milk was worked in besides, which own amounts cannot tell from what was planned, or more oil than may be asked
// for.
func (p *Plan) AsItCame() (request.Request, bool) {
	r, f := p.Request, &p.Formula
	if p.Room.Used == nil || r.Acted(doctor.Egg)+r.Acted(doctor.Milk) > 0 {
		return r, false
	}
	p.AmountsInto(&r)
	r.Amount.By, r.Amount.Open = request.ByOwn, false
	r.Eggs.LiquidG = Some(Tenth(p.Room.Used.LiquidG))
	if r.Eggs.TopUp == egg.TopNone && r.Eggs.LiquidG != nil {
		r.Eggs.TopUp = egg.TopWater
	}
	r.Oil, r.Salt = f.OilG/r.Amount.FlourG, f.SaltG/r.Amount.FlourG
	r.Additions = append([]request.AdditionPart{}, r.Additions...)
	for i := range r.Additions {
		r.Additions[i].Share = f.Additions[i].MassG / r.Amount.FlourG
	}
	r.Used, r.Acts = request.Used{}, []request.Act{}
	return r, r.Check(p.rules) == nil
}

// AmountsInto writes flour, eggs and top-up of the plan into a request as a maker's own amounts, g to a tenth.
func (p *Plan) AmountsInto(r *request.Request) {
	e, f := &r.Eggs, &p.Formula
	r.Amount.FlourG = Tenth(f.FlourG)
	e.FixWhole = Some(float64(f.Pick.Whole))
	e.FixYolks = Some(float64(f.Pick.Yolks))
	e.CrackedG = nil
	e.LiquidG = Some(Tenth(f.TopG))
	if f.Weighed() {
		e.CrackedG = Some(Tenth(f.Pick.EggG))
	}
	e.ByWeight = false
}

// Tenth is a mass as a kitchen scale shows it, g.
func Tenth(g float64) float64 { return math.Round(10*g) / 10 }

// Some is v, nil for nothing of it.
func Some(v float64) *float64 {
	if v == 0 {
		return nil
	}
	return &v
}
