package plan

import (
	"math"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/dough"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/roll"
)

// ribbonMM returns the ribbon's width, mm.
func (p *Plan) ribbonMM() float64 { return or(p.Request.Cut.Width, p.shape.WidthMM) }

// targetMM returns the sheet wanted, mm.
func (p *Plan) targetMM() float64 { return or(p.Request.Roll.TargetMM, p.shape.SheetMM) }

// ask returns the parts that make flourG g of flour and what the egg solver is asked of them.
func (p *Plan) ask(flourG float64) ([]flour.Part, egg.Task) {
	r, ru := &p.Request, &p.rules
	parts := flour.Scale(p.parts, flourG)
	b := flour.Mix(ru.Flour, parts)
	t := egg.Task{Eggs: ru.Eggs, Hydration: ru.Hydration, BasisWB: ru.Flour.BasisMoistureWB,
		FlourG: flourG, F14G: b.F14G, MoistureWB: b.MoistureWB,
		TargetHw: dough.Aim(ru.Hydration, p.machine.Tool, b.AbsorptionPct, false, p.fine(), 0).Hw,
		LossG:    dry.BoardLossG(*ru, r.Room.TempC, r.Room.RH, flourG), ExtraFat: r.Oil * flourG,
		Class: r.Eggs.class(), Style: r.Eggs.Style, TopUp: r.Eggs.TopUp, LockFlour: r.Eggs.LockFlour,
		FixWhole: whole(r.Eggs.FixWhole), FixYolks: whole(r.Eggs.FixYolks)}
	if r.Eggs.Style == egg.NoEgg {
		t.FixWhole, t.FixYolks = nil, nil
	}
	return parts, t
}

// fine says whether the ribbon is so narrow that a firmer dough is wanted.
func (p *Plan) fine() bool { return p.ribbonMM() < p.rules.Hydration.FineWidthMM }

// answer has the eggs solved: in whole numbers, or as they were weighed in the jug or after
// cracking; then plannedG is what they were to weigh, otherwise 0.
func (p *Plan) answer() (a egg.Answer, plannedG float64) {
	if p.Request.Amount.By == "eggs" {
		w := p.task.Weigh()
		k := p.Request.Amount.EggG / max(w.WholeG+w.YolkG, 1e-9)
		return egg.Answer{Best: p.task.Exactly(w.WholeG*k, w.YolkG*k), Exact: true, Alternatives: []egg.Solution{}, Weighed: w}, 0
	}
	a = p.task.Solve()
	if c := p.Request.Eggs.CrackedG; c != nil && a.Best.EggG > 0 {
		plannedG = a.Best.EggG
		k := *c / plannedG
		a.Best = p.task.Exactly(a.Best.WholeG*k, a.Best.YolkG*k)
	}
	return a, plannedG
}

// mix is the formula: flours, eggs, salt, oil and the dough they make.
func (p *Plan) mix(flourG float64) {
	r, ru := &p.Request, &p.rules
	var parts []flour.Part
	parts, p.task = p.ask(flourG)
	loss, oil, salt := p.task.LossG, p.task.ExtraFat, r.Salt*flourG
	eggs, planned := p.answer()
	pick := eggs.Best
	if pick.FlourAddG > 0 {
		parts = flour.Scale(parts, 1+pick.FlourAddG/flourG)
	}
	b := flour.Mix(ru.Flour, parts)
	f := Formula{FlourG: b.MassG, HeldBackG: ru.Room.HeldBackShare * b.MassG, Blend: b, Eggs: eggs, Pick: pick, PlannedEggG: planned, jug: r.Amount.By == "eggs",
		WholeG: pick.WholeG, YolkG: pick.YolkG, TopG: pick.TopG, SaltG: salt, OilG: oil, PortionG: p.portionG()}
	for _, x := range parts {
		f.Flours = append(f.Flours, Weighed{x.Flour.Key, x.Flour.Name, x.MassG, x.MassG / b.MassG, x.Moisture, x.Flour.Allergen})
	}
	f.Dough = dough.Make(*ru, b, dough.Amounts{WholeEggG: f.WholeG, YolkG: f.YolkG, TopG: f.TopG, TopUp: r.Eggs.TopUp, OilG: oil, SaltG: salt, LossG: loss})
	f.Target = dough.Aim(ru.Hydration, p.machine.Tool, b.AbsorptionPct, false, p.fine(), pick.YolkShare)
	f.Feel = f.Target.Feel(ru.Hydration, f.Dough.Hw)
	f.Colour = dough.Tint(b, f.YolkG+f.WholeG*p.task.Class.YolkG/p.task.Class.EdibleG, f.Dough.MassG)
	f.Allergens = allergens(r, parts, pick)
	p.Formula = f
	p.Room.BoardLossG = loss
}

// LiquidAt returns the top-up, g, that would bring this flour and these eggs to the target
// had the room stood at humidity rh (0–1) since the bag was opened; negative when flour would
// have to come in instead. It never grows with rh.
func (p *Plan) LiquidAt(rh float64) float64 {
	r, ru, f := &p.Request, &p.rules, &p.Formula
	f14 := 0.
	for i, x := range p.parts {
		x.MassG *= f.FlourG
		x.Moisture = x.Flour.Now(ru.Flour, r.Flours[i].keeping(), r.Room.TempC, rh)
		f14 += x.F14G(ru.Flour)
	}
	worth := func(c egg.Composition) float64 { return c.Water + ru.Hydration.FatWeight*c.Fat }
	have := f.FlourG + f.WholeG*worth(egg.Whole) + f.YolkG*worth(egg.Yolk) + f.OilG*worth(egg.Oil)
	need := (1+f.Target.Hw/100)*f14 - have + dry.BoardLossG(*ru, r.Room.TempC, rh, p.task.FlourG)
	if top := worth(r.Eggs.TopUp.Composition()); top > 0 {
		return need / top
	}
	return need
}

func whole(v *float64) *int {
	if v == nil {
		return nil
	}
	n := int(*v)
	return &n
}

// allergens returns what a label must name, in the order of weight.
func allergens(r *Request, parts []flour.Part, s egg.Solution) []string {
	var out []string
	add := func(a string) {
		for _, x := range out {
			if x == a {
				return
			}
		}
		if a != "" {
			out = append(out, a)
		}
	}
	for _, x := range parts {
		add(x.Flour.Allergen)
	}
	if s.Whole+s.Yolks > 0 {
		add("egg")
	}
	if r.Eggs.TopUp == egg.TopMilk && s.TopG > 0 {
		add("milk")
	}
	add("durum wheat") // the dusting semola counts
	return out
}

// room works out what the room asks for, and splits the pouring: measured moisture pours
// all; an estimate pours 60 % of the correction and keeps the rest by the board. In damp
// air the correction is liquid left out, so there the uncertain 40 % of it stands by.
func (p *Plan) room() {
	r, ru, f := &p.Request, &p.rules, &p.Formula
	milled := 0.
	for _, x := range p.parts {
		milled += x.MassG * x.Moisture.MilledWB
	}
	// Working water needed is (1+Hw/100)·F14 − F − …, so a point of moisture moves it by
	// (1+Hw/100)/0.86 of the flour.
	p.Room.CorrectionG = (1+f.Target.Hw/100)*f.FlourG*(milled-f.Blend.MoistureWB)/(1-ru.Flour.BasisMoistureWB) + p.Room.BoardLossG
	p.Room.Measured = f.Blend.Measured
	keep := 0.
	if !f.Blend.Measured && r.Eggs.TopUp != egg.TopNone {
		keep = (1 - ru.Room.PourShare) * math.Abs(p.Room.CorrectionG)
	}
	if p.Room.CorrectionG > 0 {
		keep = min(keep, f.TopG)
		p.Room.PourG = f.TopG - keep
	} else {
		p.Room.PourG = f.TopG
	}
	p.Room.KeepG = keep
	worth := r.Eggs.TopUp.Composition()
	p.Room.BeforeHw = f.Dough.Hw - 100*f.TopG*(worth.Water+ru.Hydration.FatWeight*worth.Fat)/f.Blend.F14G
	eggC := r.Room.TempC
	if r.Eggs.From == "fridge" {
		eggC = ru.Knead.FridgeC
	}
	p.Room.ContactC = knead.ContactC(ru.Knead,
		knead.Part{MassG: f.FlourG, HeatJPerGK: knead.FlourHeat, TempC: r.Room.TempC},
		knead.Part{MassG: f.WholeG + f.YolkG, HeatJPerGK: knead.EggHeat, TempC: eggC},
		knead.Part{MassG: f.TopG, HeatJPerGK: knead.WaterHeat, TempC: r.Room.TempC},
		knead.Part{MassG: f.OilG, HeatJPerGK: knead.OilHeat, TempC: r.Room.TempC})
}

// knead is kneading and resting by the long school.
func (p *Plan) knead() {
	r, ru, f := &p.Request, &p.rules, &p.Formula
	p.model = knead.Of(*ru, f.Blend, f.Dough.FatPct, f.Dough.Hw, f.Dough.MassG)
	a := knead.Ask{Method: ru.Knead.Hand, StartC: p.Room.ContactC, RoomC: r.Room.TempC, RestC: r.Room.TempC,
		Folds: int(or(r.Roll.Folds, ru.Knead.LongFolds)), MinRest: ru.Knead.RestMinMin,
		FixKnead: or(r.Knead.Min, 0), FixRest: or(r.Rest.Min, 0), GlutenBar: ru.Flour.GlutenNoSheet, ColdBarC: ru.Safety.ColdC}
	if r.Eggs.Style == egg.YolksOnly || f.Blend.DurumShare > .3 {
		a.MinRest = ru.Knead.RestMinRichMin
	}
	if r.Rest.At == "fridge" {
		a.RestC = ru.Knead.FridgeC
	}
	w := p.model.Long(a)
	p.way = w
	p.Knead = KneadPlan{Min: w.KneadMin, Asked: r.Knead.Min != nil, PeakC: w.PeakC, D: w.DFolded,
		W63Min: p.model.W63Min, TauRMin: p.model.TauRMin, FoldsMore: w.MinFoldsFor}
	p.Rest = RestPlan{Min: w.RestMin, Asked: r.Rest.Min != nil, Ready: w.Ready, Short: w.Short, D: w.D, T: w.T, U: w.U, TempC: w.TempC,
		TemperMin: p.model.TemperMin(ru.Knead, w.TempC, r.Room.TempC)}
	if p.Rest.Short == nil {
		p.Rest.Short = []knead.Short{}
	}
	p.Roll.Folds = a.Folds
}

// roll divides the dough and takes one piece down the stops.
func (p *Plan) roll() {
	r, ru, f := &p.Request, &p.rules, &p.Formula
	o := RollPlan{Machine: p.machine, TargetMM: p.targetMM(), Folds: p.Roll.Folds}
	divide := func(pieces float64) {
		o.Pieces = int(max(1, pieces))
		o.PieceG = f.Dough.MassG * (1 - ru.Dough.BowlLossShare) / float64(o.Pieces)
		o.RolledG = o.PieceG * (1 + ru.Dough.BoardFlourShare)
	}
	divide(or(r.Roll.Pieces, math.Round(f.FlourG/ru.Roll.PieceFlourG)))
	o.Careful = r.Roll.Careful == "yes" || r.Roll.Careful == "auto" && f.Dough.FatPct >= ru.Roll.CarefulFatPct
	l := roll.Lay{Rules: ru.Roll, Machine: p.machine, TargetMM: o.TargetMM, PieceG: o.RolledG, DensityG: f.Dough.DensityGPerML,
		T: p.way.TRoll, D: p.way.DFolded, ReadyD: ru.Knead.ReadyD, ReadyT: ru.Knead.ReadyT, FatFreePct: ru.Knead.FatFree,
		DurumShare: f.Blend.DurumShare, FatPct: f.Dough.FatPct, Gluten: f.Blend.GlutenFactor, OutsideBand: f.Target.Outside(f.Dough.Hw),
		Folds: o.Folds, Mode: r.Roll.Mode, Careful: o.Careful, LastTwice: r.Roll.LastTwice, BenchMM: r.Roll.BenchMM, Sheeter: p.machine.Tool == dough.Sheeter}
	o.Progression = l.Plan()
	// A sheet too short for one ribbon serves nobody: unless the maker divides, fewer pieces.
	ribbon, _ := r.lengths()
	if need := ribbon + 2*ru.Cut.TrimEndMM; r.Roll.Pieces == nil && o.Pieces > 1 && o.LengthMM < need {
		whole := roll.LengthMM(o.RolledG*float64(o.Pieces), l.DensityG, p.machine.WidthMM, o.SheetMM)
		divide(math.Floor(whole / need))
		o.Larger, l.PieceG = true, o.RolledG
		o.Progression = l.Plan()
	}
	o.TargetStop = p.machine.Stops[l.TargetStop()].Label
	o.SheetsAll = o.Pieces * o.Sheets
	o.MetresAll = float64(o.SheetsAll) * o.LengthMM / 1000
	o.MinutesAll = o.TimeMin * float64(o.Pieces)
	p.Roll = o
}

// cut lays the ribbons on the sheets.
func (p *Plan) cut() {
	r, o := &p.Request, CutPlan{Shape: p.shape, Tool: p.Request.Cut.Tool}
	if o.Tool == "" {
		o.Tool = p.shape.Tool
	}
	o.MinMM, o.MaxMM = r.lengths()
	o.SheetLengthMM, o.SheetWidthMM, o.SheetG = p.Roll.LengthMM, p.machine.WidthMM, p.Roll.RolledG/float64(p.Roll.Sheets)
	o.Layout = cut.Ribbons(p.rules.Cut, cut.Sheets{Count: p.Roll.SheetsAll, LengthMM: o.SheetLengthMM, WidthMM: o.SheetWidthMM, MassG: o.SheetG},
		o.Tool, p.ribbonMM(), o.MinMM, o.MaxMM, (o.MinMM+o.MaxMM)/2, or(r.Cut.NestG, p.portionG()))
	p.Cut = o
	p.Formula.Portions = o.RibbonsG / p.portionG()
}

// dry gives the windows for today's air and how long the dough has been warm by then.
func (p *Plan) dry() {
	r, ru, f := &p.Request, &p.rules, &p.Formula
	faces := ru.Dry.RackFaces
	if r.Dry.On == "board" {
		faces = ru.Dry.BoardFaces
	}
	s := dry.Sheet{ThickMM: p.Roll.SheetMM, DensityGPerML: f.Dough.DensityGPerML, WaterShare: f.Dough.WaterShare, EquilibriumWB: f.Blend.EquilibriumWB}
	air := dry.Room{TempC: r.Room.TempC, RH: r.Room.RH, Air: r.Room.Air}
	rate := dry.Of(ru.Dry, s, air, faces)
	o := DryPlan{Rate: rate, Leather: rate.At(ru.Dry, ru.Dry.CutLoss), Nest: rate.At(ru.Dry, ru.Dry.HoldLoss), Brittle: rate.At(ru.Dry, ru.Dry.BrittleLoss)}
	o.Tray = dry.Of(ru.Dry, s, air, ru.Dry.NestFaces).At(ru.Dry, ru.Dry.HoldLoss-ru.Dry.CutLoss)
	o.CautionAt, o.DiscardAt = ru.Safety.CautionMin, ru.Safety.DiscardMin
	if r.Room.TempC > ru.Safety.HotC {
		o.CautionAt, o.DiscardAt = ru.Safety.HotCautionMin, ru.Safety.HotDiscardMin
	}
	warmRest := p.way.RestMin
	if p.way.ColdFromMin >= 0 {
		warmRest = min(warmRest, p.way.ColdFromMin)
	}
	o.WarmMin = ru.Safety.MixMin + p.way.KneadMin + warmRest + p.Roll.MinutesAll + o.Leather.FromMin + p.Cut.CutMin
	if r.Cook.After == "nest" {
		o.WarmMin += o.Nest.FromMin - o.Leather.FromMin
	}
	p.Dry = o
}

// cook is the pot.
func (p *Plan) cook() {
	loss := map[string]float64{"leather": p.rules.Dry.CutLoss, "nest": p.rules.Dry.HoldLoss}[p.Request.Cook.After]
	p.Cook = CookPlan{Time: cook.Fresh(p.rules.Cook, p.Roll.SheetMM, p.ribbonMM(), loss), Pot: cook.For(p.rules.Cook, p.Cut.RibbonsG), Loss: loss}
}
