package practice

import (
	"errors"
	"fmt"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/dough"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// Base is a plan as it is practised on: so much of it as one pair of hands kneads.
type Base struct {
	Name         string
	Rules        rules.Rules // with what the log has learned
	FlourG       float64
	F14G         float64 // at the 14 % basis
	MoistureWB   float64
	EggG         float64 // whole egg
	EggWeighed   bool    // beaten and weighed, not counted
	AimHw        float64 // points
	TempC, RH    float64
	FridgeC      float64
	Gaps         []float64 // of the machine, mm, as measured or learned
	Labels       []string
	Last         int     // stop the plan ends at
	AimMM        float64 // sheet wanted
	WideMM       float64 // ribbon or piece
	Shape        string
	KneadMin     float64
	RestMin      float64
	PlanMin      float64 // from the first contact to the plate
	PlanHandsMin float64
	Before       bool    // the sheet dries before it is cut; else what is cut dries
	Scaled       float64 // of the batch, share; 1: all of it
	Colour       dough.Colour

	eggWater, waterPoint, flourPoint float64
	other                            dough.Amounts // what goes in beside flour and whole egg
	otherG, otherWaterG, otherFatG   float64
	under, over                      float64 // band, points
	blend                            flour.Blend
	sorption                         flour.Sorption
	lay                              roll.Lay
	parted                           map[Sign][]float64 // where the words of each sign part
}

// ErrRefused is a dough that is not practised on yet; its text says which, and what is.
var ErrRefused = errors.New("not practised on yet")

// refusals are what stands against practising on a plan, in the words that say so.
func refusals(p *plan.Plan) string {
	r, f := &p.Request, &p.Formula
	kind := r.Cut.Kind()
	switch {
	case p.Pinned():
		return "a sheet rolled with a pin"
	case kind.Family == cut.Filled:
		return "filled pasta"
	case kind.Family == cut.Formed || p.Roped():
		return "pasta formed by hand"
	case len(f.Additions) > 0:
		return "a coloured or seasoned dough"
	case f.WholeG < .12*f.FlourG:
		return "a dough of little or no egg"
	case f.YolkG > .10*f.WholeG:
		return "a dough of many yolks"
	case p.Formula.Blend.GlutenFactor < p.Rules().Flour.GlutenFragile:
		return "a flour of little gluten"
	case len(p.Roll.Machine.Stops) < 4:
		return "a machine of fewer than four stops"
	}
	return ""
}

// Of takes a plan up. ErrRefused where its dough is not practised on: a pin, a filling, a colour, many yolks.
func Of(p *plan.Plan) (*Base, error) {
	if what := refusals(p); what != "" {
		return nil, fmt.Errorf(
			"%w: %s. Practice has the laws of an egg dough from the rollers, cut flat; what it cannot "+
				"foretell it does not pretend to",
			ErrRefused,
			what,
		)
	}
	f, ru := &p.Formula, p.Rules().With(p.Rules().Learned)
	b := &Base{
		Name:       p.Request.Name,
		Rules:      ru,
		Scaled:     1,
		FlourG:     f.FlourG,
		MoistureWB: f.Blend.MoistureWB,
		EggG:       f.WholeG,
		EggWeighed: f.Weighed(),
		AimHw:      f.Target.Hw,
		TempC:      p.Request.Room.TempC,
		RH:         p.Request.Room.RH,
		FridgeC:    p.Request.Bench.FridgeC,
		AimMM:      p.Roll.TargetMM,
		Shape:      p.Request.Cut.Kind().Name,
		WideMM:     p.Request.Cut.Kind().WidthMM,
		KneadMin:   p.Knead.Min,
		RestMin:    p.Rest.Min,
		Colour:     f.Colour,
		blend:      f.Blend,
		sorption:   p.Request.Flours[0].Kind().Sorption,
	}
	if p.AsMade() { // what was said is what is wanted
		b.AimHw = f.Dough.Hw
	}
	if b.FlourG > ru.Practice.HandFlourG {
		b.Scaled = ru.Practice.ScaledFlourG / b.FlourG
	}
	b.FlourG *= b.Scaled
	b.EggG *= b.Scaled
	b.other = dough.Amounts{YolkG: f.YolkG * b.Scaled, TopG: f.TopG * b.Scaled, TopUp: p.Request.Eggs.TopUp,
		OilG: f.OilG * b.Scaled, SaltG: f.SaltG * b.Scaled}
	b.under, b.over = f.Target.Hw-f.Target.Low, f.Target.High-f.Target.Hw
	for _, s := range p.Roll.Machine.Stops {
		b.Gaps = append(b.Gaps, s.TrueMM())
		b.Labels = append(b.Labels, s.Label)
	}
	for _, m := range p.Dry.Moments {
		b.Before = b.Before || m.When == plan.SheetDries
	}
	b.lay = p.Lay()
	b.settle()
	return b, nil
}

// settle works out what follows from the figures.
func (b *Base) settle() {
	ru := &b.Rules
	b.F14G = b.FlourG * (1 - b.MoistureWB) / (1 - ru.Flour.BasisMoistureWB)
	if b.RestMin == 0 {
		b.RestMin = ru.Practice.GoodRestMin
	}
	a, top := &b.other, b.other.TopUp.Composition()
	b.otherWaterG = a.TopG*top.Water + a.YolkG*egg.Yolk.Water
	b.otherFatG = a.TopG*top.Fat + a.YolkG*egg.Yolk.Fat + a.OilG
	b.otherG = a.TopG + a.YolkG + a.OilG + a.SaltG
	b.eggWater = egg.Whole.Water + ru.Hydration.FatWeight*egg.Whole.Fat
	patient := b.Patient()
	b.waterPoint, b.flourPoint = patient.WaterG(1), patient.FlourG(1)
	b.lay.TargetMM, b.lay.LastTwice = b.AimMM, false
	b.Last = clampInt(b.lay.TargetStop(), 2, len(b.Gaps)-1)
	b.PlanMin = ru.Practice.OtherMin + b.KneadMin + b.RestMin
	b.PlanHandsMin = ru.Practice.OtherHandsMin + b.KneadMin
	b.part()
}

func clampInt(v, a, b int) int { return min(max(v, a), b) }

// WaterG and FlourG are what a point of hydration is worth in this dough, g.
func (b *Base) WaterG() float64 { return b.waterPoint }

// FlourPointG is the flour that takes a point off, g.
func (b *Base) FlourPointG() float64 { return b.flourPoint }

// Default says what a maker without a batch practises on: the shipped request, of 400 g of flour.
func Default() request.Request {
	r := request.Default()
	r.Amount.By, r.Amount.FlourG = request.ByFlour, 400
	r.Name = "Tagliatelle"
	return r
}

// potS is how long the plan's sheet takes in the pot after the share x of its mass has dried away, s.
func (b *Base) potS(x float64) float64 {
	return cook.Of(b.Rules.Cook, cook.Piece{ThickMM: b.AimMM, WidthMM: b.WideMM, Loss: x}).DriedS
}
