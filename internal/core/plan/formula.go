package plan

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/doctor"
	"hollen/internal/core/dough"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/request"
)

// eggTask returns the parts that make flourG g of flour and what the egg solver is asked of them.
func (p *Plan) eggTask(flourG float64) ([]flour.Part, egg.Task) {
	r, ru := &p.Request, &p.rules
	_, named := r.Amount.NamedFlourG()
	of := p.sharesOf(flourG)
	parts := flour.Scale(p.parts, flourG)
	b := flour.Mix(ru.Flour, parts)
	p.absorption = b.AbsorptionPct
	t := egg.Task{Eggs: ru.Eggs, Hydration: ru.Hydration, BasisWB: ru.Flour.BasisMoistureWB,
		FlourG: flourG, F14G: b.F14G, MoistureWB: b.MoistureWB,
		TargetHw: p.aim(0).Hw,
		LossG:    dry.BoardLossG(*ru, r.Room.TempC, r.Room.RH, flourG), ExtraFat: r.Oil * of, GivenG: r.Eggs.GivenG(),
		Class: r.Eggs.Kind(), Style: r.Eggs.Style, TopUp: r.Eggs.TopUp, ByWeight: r.Eggs.ByWeight || p.sizing ||
			p.weighs,
		LockFlour: named && !r.Eggs.MoveFlour,
		FixWhole:  wholeNumber(r.Eggs.FixWhole), FixYolks: wholeNumber(r.Eggs.FixYolks)}
	for _, a := range r.Additions {
		kind, g := a.Kind(), a.Share*of
		t.ExtraWater += kind.LiquidG(g)
		t.ExtraFat += g * kind.FatShare
	}
	if r.Eggs.Style == egg.NoEgg || p.sizing { // pinned eggs do not say how much flour there is to be
		t.FixWhole, t.FixYolks = nil, nil
	}
	return parts, t
}

// fine says whether the ribbon is so narrow that a firmer dough is wanted.
func (p *Plan) fine() bool {
	return p.shape.Traits().Lengths && p.ribbonMM() < p.rules.Hydration.FineWidthMM
}

// filled says whether the first shape is filled, and so wants a softer dough.
func (p *Plan) filled() bool { return p.shape.Traits().Filling }

// answer has the eggs solved: in whole numbers or by weight, or as they were weighed in the jug or
// after cracking; then plannedG is what they were to weigh, otherwise 0. A weight once cracked
// that no longer goes with the batch yields to it, and is said to: yieldedG, otherwise 0.
func (p *Plan) answer() (a egg.Answer, plannedG, yieldedG float64) {
	if p.AsMade() {
		return p.literally()
	}
	if p.Request.Amount.By == request.ByEggs {
		p.task.GivenG = 0 // all the egg is in the jug
		w := p.task.Weigh()
		k := p.Request.Amount.EggG / max(w.WholeG+w.YolkG, 1e-9)
		return egg.Answer{Best: p.task.Exactly(w.WholeG*k, w.YolkG*k), Exact: true, Alternatives: []egg.Solution{},
			Weighed: w}, 0, 0
	}
	a = p.task.Solve()
	if c := p.Request.Eggs.CrackedG; c != nil && a.Best.EggG > 0 && !p.sizing {
		k := *c / a.Best.EggG
		as := p.task.Exactly(a.Best.WholeG*k, a.Best.YolkG*k)
		if t := p.aim(as.YolkShare); t.Feel(p.rules.Hydration, as.Hw).Odd() && !t.Feel(p.rules.Hydration,
			a.Best.Hw).Odd() {
			return a, 0, *c
		}
		plannedG = a.Best.EggG
		a.Best = as
	}
	return a, plannedG, 0
}

// AsMade says whether flour, eggs and liquid are taken at the maker's word.
func (p *Plan) AsMade() bool { return p.Request.Amount.By == request.ByOwn }

// sharesOf is the flour that oil, salt and additions are shares of, g: what is in the bowl, or where flour
// goes in until it takes no more, what was weighed out, so that they stay as they were weighed.
func (p *Plan) sharesOf(flourG float64) float64 {
	if open := p.Request.Amount.OpenG(); open > 0 {
		return open
	}
	return flourG
}

// shareIn is a share, as it was weighed, of the flour that goes in.
func (p *Plan) shareIn(share, flourG float64) float64 { return share * p.sharesOf(flourG) / flourG }

// takesFlour is how much of the flour weighed out the dough is likely to take before it is where it wants to
// be, whole g: all of it where it stays soft with all. No less than half is thought of.
func (p *Plan) takesFlour() float64 {
	open := p.Request.Amount.OpenG()
	dry := func(flourG float64) bool {
		_, p.task = p.eggTask(flourG)
		s, _ := p.bowl()
		return s.Hw < s.TargetHw
	}
	if !dry(open) {
		return open
	}
	not, _ := turnsAt(math.Ceil(open/2), open, dry)
	return max(not, 50)
}

// turnsAt narrows down, to a whole g, where something begins to be so: it is not at the first figure it returns, and is
// at the second. At lo it is taken not to be, at hi to be.
func turnsAt(lo, hi float64, is func(g float64) bool) (not, so float64) {
	for hi-lo > 1 {
		if mid := math.Round((lo + hi) / 2); is(mid) {
			hi = mid
		} else {
			lo = mid
		}
	}
	return lo, hi
}

// openWords say what of the flour weighed out is likely to go in.
func (p *Plan) openWords() string {
	f := &p.Formula
	out, takes := p.in.Grams(f.OpenG), p.in.Grams(f.FlourG)
	switch left := p.Request.Used.FlourLeftG; {
	case left != nil:
		return fmt.Sprintf("Of the %s weighed out %s came back: %s went in.", out, p.in.Grams(*left), takes)
	case f.FlourG >= f.OpenG:
		return fmt.Sprintf("It is likely to take all %s, and may ask for more: have some by you, and weigh what is left.", out)
	}
	return fmt.Sprintf("Of the %s weighed out it is likely to take about %s. Stop when it takes no more, and weigh "+
		"what is left.", out, takes)
}

// literally is what the maker puts in, and beside it what would be worked out for the same flour.
func (p *Plan) literally() (a egg.Answer, plannedG, yieldedG float64) {
	free := p.task
	free.FixWhole, free.FixYolks = nil, nil
	a = free.Solve()
	worked := a.Best
	worked.Name = egg.OwnAnswer
	a.Best, plannedG = p.bowl()
	a.Alternatives, a.Exact = []egg.Solution{worked}, true
	return a, plannedG, 0
}

// bowl is what the maker puts in; plannedG is what eggs that were weighed were to weigh, otherwise 0.
func (p *Plan) bowl() (s egg.Solution, plannedG float64) {
	r := &p.Request.Eggs
	wholeNumber := request.Or(r.FixWhole, 0)
	yolks := request.Or(r.FixYolks, 0)
	cracked := r.CrackedG
	if r.Style == egg.NoEgg { // no egg is none, whatever number stood there before
		wholeNumber = 0
		yolks = 0
		cracked = nil
	}
	wholeG, yolkG := wholeNumber*p.task.Class.EdibleG+p.task.GivenG, yolks*p.task.Class.YolkG
	if c := cracked; c != nil {
		plannedG = wholeG + yolkG
		if plannedG == 0 { // beaten egg, not counted
			wholeG, plannedG = *c, *c
			wholeNumber = math.Round(*c / p.task.Class.EdibleG)
		}
		k := *c / plannedG
		if wholeG+yolkG > 0 && plannedG == wholeG+yolkG {
			wholeG, yolkG = k*wholeG, k*yolkG
		}
	}
	liquid := request.Or(r.LiquidG, 0)
	if open := p.Request.OpenLiquidG(); open > 0 {
		liquid = p.takesLiquid(open, func(g float64) egg.Solution {
			return p.task.Literal(int(wholeNumber), int(yolks), wholeG, yolkG, g)
		})
	}
	return p.task.Literal(int(wholeNumber), int(yolks), wholeG, yolkG, liquid), plannedG
}

// takesLiquid is how much of the liquid poured out the dough is likely to take before it is where it wants to be, whole
// g: all of it where it stays dry with all.
func (p *Plan) takesLiquid(open float64, with func(g float64) egg.Solution) float64 {
	soft := func(g float64) bool { s := with(g); return s.Hw >= s.TargetHw }
	if !soft(open) {
		return open
	}
	_, enough := turnsAt(0, math.Ceil(open), soft)
	return min(enough, open)
}

// openLiquidWords say what of the liquid poured out is likely to go in.
func (p *Plan) openLiquidWords() string {
	f := &p.Formula
	out, takes := p.in.Grams(f.OpenLiquidG), p.in.Grams(f.TopG)
	switch left := p.Request.Used.LiquidLeftG; {
	case left != nil:
		return fmt.Sprintf("Of the %s of %s poured out %s came back: %s went in.", out, p.TopWord(), p.in.Grams(*left),
			takes)
	case f.TopG >= f.OpenLiquidG:
		return fmt.Sprintf("It is likely to take all %s of %s, and may ask for more: have some by you, and weigh what "+
			"is left.", out, p.TopWord())
	}
	return fmt.Sprintf("Of the %s of %s poured out it is likely to take about %s, a little at a time. Stop when it "+
		"comes together, and weigh what is left.", out, p.TopWord(), takes)
}

// aim is the target of the batch at a yolk share.
func (p *Plan) aim(yolkShare float64) dough.Target {
	t := dough.Aim(p.rules.Hydration, p.machine.Tool, p.absorption, p.filled(), p.fine(), yolkShare)
	if h := p.rules.Learned.Hw; h.N > 0 {
		most := p.rules.Learn.MostPoints
		t = t.Moved(max(-most, min(most, h.Points)))
	}
	return t
}

// mix is the formula: flours, eggs, salt, oil and the dough they make. What is given as a share of the
// flour is so of the flour really weighed.
func (p *Plan) mix(flourG float64) {
	r, ru := &p.Request, &p.rules
	var parts []flour.Part
	parts, p.task = p.eggTask(flourG)
	eggs, planned, yielded := p.answer()
	pick := eggs.Best
	if pick.FlourAddG > 0 {
		parts = flour.Scale(parts, 1+pick.FlourAddG/flourG)
		p.task = *p.task.Moved(pick.FlourAddG)
	}
	b := flour.Mix(ru.Flour, parts)
	held, of := ru.Room.HeldBackShare, p.sharesOf(b.MassG)
	if p.AsMade() {
		held = 0 // all of it goes in, as is said
	}
	f := Formula{FlourG: b.MassG, HeldBackG: held * b.MassG, Blend: b, Eggs: eggs, Pick: pick, PlannedEggG: planned,
		YieldedEggG: yielded,
		jug:         r.Amount.By == request.ByEggs,
		WholeG:      pick.WholeG, YolkG: pick.YolkG, TopG: pick.TopG, SaltG: r.Salt * of, OilG: r.Oil * of,
		OpenG: r.Amount.OpenG(), OpenLiquidG: r.OpenLiquidG(), PortionG: p.portionG(), Additions: []Added{}}
	if planned == 0 && !f.jug {
		f.AlsoG = p.task.GivenG
	}
	for _, a := range r.Additions {
		kind, g := a.Kind(), a.Share*of
		f.Additions = append(f.Additions, Added{kind.Key, kind.Name, kind.Kind, g, p.shareIn(a.Share, b.MassG),
			kind.LiquidG(g), 0, kind.Allergen})
	}
	f.Target = p.aim(pick.YolkShare)
	p.Formula = f
	p.Room.BoardLossG = p.task.LossG
	p.Room.Used = nil
	p.milkG = 0
	p.waterG = 0
	p.doughOf(parts, b)
}

// doughOf puts the flours and everything else of the formula into one dough.
func (p *Plan) doughOf(parts []flour.Part, b flour.Blend) {
	r := &p.Request
	ru := &p.rules
	f := &p.Formula
	f.FlourG = b.MassG
	f.Blend = b
	f.Flours = f.Flours[:0]
	for _, x := range parts {
		f.Flours = append(f.Flours, Weighed{x.Flour.Key, x.Flour.Name, x.MassG, x.MassG / b.MassG, x.Moisture,
			x.Flour.Allergen})
	}
	others := make([]dough.Other, len(f.Additions))
	for i, a := range r.Additions {
		kind := a.Kind()
		others[i] = dough.Other{G: f.Additions[i].MassG, UptakeGPerG: kind.UptakeGPerG, Composition: kind.Composition()}
	}
	others = append(others, dough.Other{G: p.milkG, Composition: egg.Milk}, dough.Other{G: p.waterG,
		Composition: egg.Water})
	f.Dough = dough.Make(*ru, b, dough.Amounts{WholeEggG: f.WholeG, YolkG: f.YolkG, TopG: f.TopG, TopUp: r.Eggs.TopUp,
		OilG: f.OilG, SaltG: f.SaltG,
		LossG: p.Room.BoardLossG, Others: others})
	f.feel = f.Target.Feel(ru.Hydration, f.Dough.Hw)
	f.Feel = f.feel.Words
	f.Colour = p.tint(f.WholeG, f.YolkG, f.Dough.MassG)
	for i, s := range p.stains() {
		f.Additions[i].ColourWay = 1 - math.Exp(-s.Depth*s.G/f.Dough.MassG)
	}
	f.Parts = p.points()
	// Without the flour held back there is as much liquid to less flour.
	left := 1 - f.HeldBackG/f.FlourG
	f.HwBefore = 100 * ((1+f.Dough.Hw/100)*f.Blend.F14G - f.HeldBackG - left*f.Blend.F14G) / (left * f.Blend.F14G)
}

// stains are the additions as they colour the dough.
func (p *Plan) stains() []dough.Stain {
	out := make([]dough.Stain, len(p.Formula.Additions))
	for i, a := range p.Request.Additions {
		kind := a.Kind()
		out[i] = dough.Stain{Colour: kind.Colour, Depth: kind.Depth, G: p.Formula.Additions[i].MassG,
			Word: kind.ColourWord, Name: kind.Name}
	}
	return out
}

// tint is the colour of massG g of this dough with wholeG g of whole egg and yolkG g of yolk.
func (p *Plan) tint(wholeG, yolkG, massG float64) dough.Colour {
	c := p.task.Class
	return dough.Tint(p.Formula.Blend, yolkG+wholeG*c.YolkG/c.EdibleG, massG, c.YolkColour, p.stains()...)
}

// points takes the working hydration apart. The parts add up to it.
func (p *Plan) points() []Points {
	r, f := &p.Request, &p.Formula
	out := []Points{}
	add := func(part string, g float64) {
		if math.Abs(g) > 1e-9 {
			out = append(out, Points{part, 100 * g / f.Blend.F14G})
		}
	}
	add("the flour’s own", f.FlourG-f.Blend.F14G)
	add("water of the eggs", f.WholeG*egg.Whole.Water)
	add("water of the yolks", f.YolkG*egg.Yolk.Water)
	for i, a := range r.Additions {
		add(strings.ToLower(a.Kind().Name), f.Additions[i].LiquidG)
	}
	add(p.TopWord(), f.TopG*r.Eggs.TopUp.Composition().Water)
	add("milk worked in", p.milkG*egg.Milk.Water)
	add("water worked in", p.waterG)
	add("lost on the board", -p.Room.BoardLossG)
	add("the fat, as felt", p.rules.Hydration.FatWeight*f.Dough.FatPct/100*f.Blend.F14G)
	return out
}

// asUsed takes what was weighed back at the bench for the truth; everything after it follows.
func (p *Plan) asUsed() {
	r, f := &p.Request, &p.Formula
	p.Room.FlourG, p.Room.LiquidG = max(f.FlourG, f.OpenG), p.Room.PourG+p.Room.KeepG
	u := r.Used
	if p.sizing || !u.Any() && !r.Changed() {
		return
	}
	a := &Actual{PlannedHw: f.Dough.Hw}
	a.FlourG = f.FlourG
	if u.FlourLeftG != nil {
		a.FlourG = max(p.Room.FlourG-*u.FlourLeftG, .5*f.FlourG)
	}
	a.LiquidG = f.TopG
	if u.LiquidLeftG != nil {
		a.LiquidG = max(0, p.Room.LiquidG-*u.LiquidLeftG)
	}
	// Liquid by the board and flour held back are counted already, and are used first.
	water, held := r.Acted(doctor.Water), f.HeldBackG
	if p.Room.CorrectionG > 0 {
		water = max(0, water-p.Room.KeepG)
	}
	if added := request.Or(u.LiquidAddedG, 0); r.Eggs.TopUp == egg.TopNone {
		water += added
	} else {
		a.LiquidG += added
	}
	p.waterG = water
	a.FlourG += max(0, r.Acted(doctor.Flour)-held)
	f.TopG = a.LiquidG
	f.WholeG += r.Acted(doctor.Egg)
	f.OilG += r.Acted(doctor.Oil)
	p.milkG = r.Acted(doctor.Milk)
	parts := make([]flour.Part, len(p.parts))
	for i, x := range f.Flours {
		parts[i] = p.parts[i]
		parts[i].MassG = x.MassG * a.FlourG / f.FlourG
	}
	p.doughOf(parts, flour.Mix(p.rules.Flour, parts))
	a.Hw = f.Dough.Hw
	a.LiquidG += water
	p.Room.Used = a
}

// LiquidAt returns the top-up, g, that would bring this flour and these eggs to the target
// had the room stood at humidity rh (0–1) since the bag was opened; negative when flour would
// have to come in instead. It never grows with rh.
func (p *Plan) LiquidAt(rh float64) float64 {
	r := &p.Request
	ru := &p.rules
	f := &p.Formula
	f14 := 0.
	for i, x := range p.parts {
		x.MassG *= f.FlourG
		x.Moisture = p.moisture(x.Flour, r.Flours[i], rh)
		f14 += x.F14G(ru.Flour)
	}
	worth := func(c egg.Composition) float64 { return c.Water + ru.Hydration.FatWeight*c.Fat }
	have := f.FlourG + f.WholeG*worth(egg.Whole) + f.YolkG*worth(egg.Yolk) + f.OilG*worth(egg.Oil)
	for i, a := range f.Additions {
		have += a.LiquidG + ru.Hydration.FatWeight*r.Additions[i].Kind().FatShare*a.MassG
	}
	need := (1+f.Target.Hw/100)*f14 - have + dry.BoardLossG(*ru, r.Room.TempC, rh, p.task.FlourG)
	if top := worth(r.Eggs.TopUp.Composition()); top > 0 {
		return need / top
	}
	return need
}

func wholeNumber(v *float64) *int {
	if v == nil {
		return nil
	}
	n := int(*v)
	return &n
}

// addedG is the mass of all additions, g.
func addedG(all []Added) float64 {
	sum := 0.
	for _, a := range all {
		sum += a.MassG
	}
	return sum
}

// Beaten returns beat and weigh for the flour of the plan.
func (p *Plan) Beaten() egg.Solution { return p.task.Beaten() }

// WholeBatch returns the whole numbers of eggs whose own flour is nearest this one, and that flour, g.
func (p *Plan) WholeBatch() (s egg.Solution, flourG float64, ok bool) {
	s, by, ok := p.task.WholeBatch()
	if flourG = by * p.Formula.FlourG; ok && p.Request.Eggs.Style != egg.WholeWater {
		flourG = p.FlourFor(s.WholeG, s.YolkG)
	}
	return s, math.Round(flourG), ok
}
