package plan

import (
	"hollen/internal/core/cook"
	"hollen/internal/core/dry"
	"hollen/internal/core/request"
)

// CookPlan is the pot.
type CookPlan struct {
	cook.Time
	cook.Pot
	Loss   float64   `json:"loss"` // share of mass lost before the pot
	Frozen bool      `json:"frozen"`
	Ways   []CookWay `json:"ways"`
	Also   []PotTime `json:"also"` // the other shapes of the batch
}

// PotTime is when to taste one shape, s.
type PotTime struct {
	Shape string  `json:"shape"`
	FromS float64 `json:"taste_from_s"`
	ToS   float64 `json:"to_s"`
	Later bool    `json:"cut_later,omitempty"` // by what it becomes
}

// CookWay is one way into the pot with its time, s.
type CookWay struct {
	Name  string  `json:"name"`
	FromS float64 `json:"taste_from_s"`
	ToS   float64 `json:"to_s"`
	Taken bool    `json:"taken"`
}

// cook is the pot.
func (p *Plan) cook() {
	ru, r, c := &p.rules.Cook, &p.Request, &p.Cut
	loss := map[request.After]float64{request.AtLeather: p.rules.Dry.CutLoss, request.FirmNests: p.rules.Dry.HoldLoss}[r.Cook.After]
	dried := 1 - dry.KeepG(p.rules.Dry, 1, p.Formula.Dough.WaterShare)
	if r.Cook.After == request.DriedHard {
		loss = dried
	}
	o := CookPlan{Time: p.timeOf(&c.CutPart, loss), Also: []PotTime{},
		Pot: cook.For(*ru, c.AllMadeG, request.Or(r.Bench.PotL, ru.PotL), int(request.Or(r.Bench.Pots, 1))), Loss: loss, Frozen: r.Cook.After == request.Frozen}
	fresh, raw := o.Seconds, p.rawIn(&c.CutPart)
	way := func(name string, key request.After, s float64) {
		from, to := cook.Range(*ru, s, raw)
		o.Ways = append(o.Ways, CookWay{name, from, to, r.Cook.After == key})
	}
	way("Straight from the cutter", request.Fresh, fresh)
	way("At leather", request.AtLeather, cook.Dried(*ru, fresh, p.rules.Dry.CutLoss))
	way("From firm nests", request.FirmNests, cook.Dried(*ru, fresh, p.rules.Dry.HoldLoss))
	if !p.shape.Traits().Filling {
		way("Dried to keep", request.DriedHard, cook.Dried(*ru, fresh, dried))
	}
	way("Frozen, not thawed", request.Frozen, o.FrozenS)
	if !raw {
		way("Fresh, finished in the pan", "", o.InPanS)
	}
	if o.Frozen {
		o.FromS, o.ToS = cook.Range(*ru, o.FrozenS, raw)
	}
	for i := range c.Also {
		t := p.timeOf(&c.Also[i], loss)
		from, to := t.FromS, t.ToS
		if o.Frozen {
			from, to = cook.Range(*ru, t.FrozenS, p.rawIn(&c.Also[i]))
		}
		o.Also = append(o.Also, PotTime{c.Also[i].Shape.Name, from, to, c.Also[i].Shape.Traits().Sheets})
	}
	p.Cook = o
}

// timeOf returns the time in the pot of a part that has lost that share of its mass.
func (p *Plan) timeOf(x *CutPart, loss float64) cook.Time {
	ru := &p.rules.Cook
	piece := cook.Piece{ThickMM: x.thickMM, WidthMM: x.Shape.WidthMM, Loss: loss}
	switch {
	case x.Cutter != nil:
		piece.WidthMM = x.Cutter.PitchMM
	case x.Shape.Traits().Filling:
		piece.ThickMM, piece.FillS = 2*x.thickMM, ru.FillReadyS
		if piece.Raw = p.rawIn(x); piece.Raw {
			piece.FillS = ru.FillRawS
		}
	}
	return cook.Of(*ru, piece)
}

// rawIn says whether the shape is filled with raw meat or fish.
func (p *Plan) rawIn(x *CutPart) bool { return x.Shape.Traits().Filling && p.Request.RawFilling() }

// PotS is the middle of the time in the pot, as the pasta goes in, s.
func (p *Plan) PotS() float64 {
	if p.Cook.Frozen {
		return p.Cook.FrozenS
	}
	return p.Cook.DriedS
}
