package plan

import (
	"math"

	"hollen/internal/core/doctor"
	"hollen/internal/core/egg"
	"hollen/internal/core/request"
)

// AsItCame is the request with the amounts that truly went in as the maker's own, g to a tenth: what a
// batch made like the last one starts from. It reports false where nothing was weighed back, and where
// egg or milk was worked in besides, which own amounts cannot tell from what was planned.
func (p *Plan) AsItCame() (request.Request, bool) {
	r, f := p.Request, &p.Formula
	if p.Room.Used == nil || r.Acted(doctor.Egg)+r.Acted(doctor.Milk) > 0 {
		return r, false
	}
	tenth := func(g float64) float64 { return math.Round(10*g) / 10 }
	some := func(v float64) *float64 {
		if v == 0 {
			return nil
		}
		return &v
	}
	r.Amount.By, r.Amount.Open, r.Amount.FlourG = request.ByOwn, false, tenth(f.FlourG)
	e := &r.Eggs
	e.FixWhole, e.FixYolks, e.CrackedG, e.ByWeight = some(float64(f.Pick.Whole)), some(float64(f.Pick.Yolks)), nil, false
	if f.Weighed() {
		e.CrackedG = some(tenth(f.Pick.EggG))
	}
	e.LiquidG = some(tenth(p.Room.Used.LiquidG))
	if e.TopUp == egg.TopNone && e.LiquidG != nil {
		e.TopUp = egg.TopWater
	}
	r.Oil, r.Salt = f.OilG/r.Amount.FlourG, f.SaltG/r.Amount.FlourG
	r.Additions = append([]request.AdditionPart{}, r.Additions...)
	for i := range r.Additions {
		r.Additions[i].Share = f.Additions[i].MassG / r.Amount.FlourG
	}
	r.Used, r.Acts = request.Used{}, []request.Act{}
	return r, true
}
