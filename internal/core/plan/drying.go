package plan

import (
	"math"
	"time"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
)

// dry gives the windows for today's air and how long the dough has been warm by then.
func (p *Plan) dry() {
	r, ru := &p.Request, &p.rules
	faces := ru.Dry.RackFaces
	if r.Dry.On == "board" {
		faces = ru.Dry.BoardFaces
	}
	if p.Roped() { // pieces lie on a tray
		faces = ru.Dry.BoardFaces
	}
	of := func(faces float64) dry.Rate { return p.rate(r.Room.Air, faces) }
	rate := of(faces)
	o := DryPlan{Rate: rate, Leather: rate.At(ru.Dry, ru.Dry.CutLoss), Nest: rate.At(ru.Dry, ru.Dry.HoldLoss), Brittle: rate.At(ru.Dry, ru.Dry.BrittleLoss), Purpose: p.shape.Purpose}
	o.Tray = of(ru.Dry.NestFaces).At(ru.Dry, ru.Dry.HoldLoss-ru.Dry.CutLoss)
	o.Covered = of(ru.Dry.CoverFaces).At(ru.Dry, ru.Dry.CutLoss)
	o.OneFace = of(ru.Dry.BoardFaces).At(ru.Dry, ru.Dry.CutLoss)
	o.CautionAt, o.DiscardAt = p.cautionAt(), p.discardAt()
	o.WarmMin = p.Rest.WarmMin + p.Roll.MinutesAll + p.Cut.AllMin
	if o.Purpose != cut.NoDrying {
		o.WarmMin += o.Leather.FromMin
	}
	if r.Cook.After == "nest" {
		o.WarmMin += o.Nest.FromMin - o.Leather.FromMin
	}
	if p.shape.Family != cut.Formed {
		o.RodM = float64(p.Roll.SheetsAll) * (p.Roll.WidthMM + ru.Dry.RodGapMM) / 1000
	}
	o.Trays, o.TrayEach = p.trays()
	o.ToKeep = p.toKeep(rate)
	p.Dry = o
}

// rate is how the sheet dries in that air with so many faces open.
func (p *Plan) rate(air dry.Air, faces float64) dry.Rate {
	r, f := &p.Request, &p.Formula
	return dry.Of(p.rules.Dry, dry.Sheet{ThickMM: p.Roll.SheetMM, DensityGPerML: f.Dough.DensityGPerML, WaterShare: f.Dough.WaterShare, EquilibriumWB: f.Blend.EquilibriumWB},
		dry.Room{TempC: r.Room.TempC, RH: r.Room.RH, Air: air}, faces)
}

// DryLine is the mass lost over the minutes one way, share, a value every StepMin minutes from
// nought.
type DryLine struct {
	Name    string
	StepMin float64
	Loss    []float64
}

// DryLines returns how it dries as it lies, and with the air, or the faces, otherwise.
func (p *Plan) DryLines(minutes float64) []DryLine {
	ru, r := &p.rules.Dry, &p.Request
	const points = 60
	line := func(name string, rate dry.Rate) DryLine {
		l := DryLine{Name: name, StepMin: minutes / points}
		for i := range points + 1 {
			l.Loss = append(l.Loss, rate.LossAt(*ru, float64(i)*l.StepMin))
		}
		return l
	}
	out := []DryLine{line("", p.Dry.Rate)}
	air, word := dry.Fan, "with a fan"
	if r.Room.Air == dry.Fan {
		air, word = dry.Still, "in still air"
	}
	onRack := r.Dry.On != "board" && !p.Roped()
	faces, other, otherWord := ru.BoardFaces, ru.RackFaces, "on a rack"
	if onRack {
		faces, other, otherWord = ru.RackFaces, ru.BoardFaces, "on a board"
	}
	out = append(out, line(word, p.rate(air, faces)))
	if !p.Roped() {
		out = append(out, line(otherWord, p.rate(r.Room.Air, other)))
	}
	return append(out, line("covered", p.rate(r.Room.Air, ru.CoverFaces)))
}

// trays returns the trays all nests or pieces fill in one layer, and how many of the first
// shape go on one.
func (p *Plan) trays() (trays, each int) {
	ru := &p.rules.Dry
	for i, x := range p.Cut.Parts() {
		n, size := x.Count, max(x.Shape.WidthMM, x.Shape.Long())
		if x.Shape.Family == cut.Ribbon {
			n = x.Nests
			if x.LastNest > 0 {
				n++
			}
			size = p.NestMM(x)
		}
		t, e := dry.Trays(*ru, n, size)
		if trays += t; i == 0 {
			each = e
		}
	}
	return trays, each
}

// NestMM returns how wide a nest of a part lies, mm.
func (p *Plan) NestMM(x *CutPart) float64 {
	ru := &p.rules.Dry
	return ru.NestMM * math.Sqrt(x.NestG/ru.NestRefG)
}

// toKeep is drying to keep and how far it has come, nil when it is not wished for.
func (p *Plan) toKeep(rate dry.Rate) *KeepDry {
	r, ru, f := &p.Request, &p.rules.Dry, &p.Formula
	if !r.Dry.Keep {
		return nil
	}
	o := &KeepDry{RawG: or(r.Dry.RawG, p.Cut.AllDoughG), Checks: []DryPoint{}}
	o.TargetG = dry.KeepG(*ru, o.RawG, f.Dough.WaterShare)
	o.Never = f.Blend.EquilibriumWB >= ru.KeepWB || rate.DeltaGM3 <= ru.LeastGM3
	var log []dry.Weighing
	var first time.Time
	for _, x := range r.Dry.Log {
		at, err := At(x.At)
		if err != nil || x.G == nil {
			continue
		}
		if len(log) == 0 {
			first = at
		}
		w := dry.Weighing{Min: at.Sub(first).Minutes(), G: *x.G}
		log = append(log, w)
		d, _ := dry.Follow(*ru, o.RawG, f.Dough.WaterShare, rate.EndLoss, []dry.Weighing{w})
		o.Checks = append(o.Checks, DryPoint{x.At, w.G, d.Loss, d.Moisture})
	}
	if now, ok := dry.Follow(*ru, o.RawG, f.Dough.WaterShare, rate.EndLoss, log); ok {
		o.Now = &now
	}
	return o
}

// LossAt returns the share of the mass gone after so many minutes as the sheet lies.
func (p *Plan) LossAt(minutes float64) float64 { return p.Dry.Rate.LossAt(p.rules.Dry, minutes) }

// keep works out until when it keeps, by the kitchen's clock.
func (p *Plan) keep() {
	r, ru := &p.Request, &p.rules.Safety
	o := KeepPlan{Where: r.Keep.Where, MadeAt: r.Keep.MadeAt}
	if o.MadeAt == "" {
		o.MadeAt = r.MadeOn
	}
	if r.Dry.Keep && o.Where == "" {
		o.Where = cook.Shelf
	}
	raw := p.Cut.Filled() && r.Cut.Filling.Kind == "raw"
	o.FromDays, o.ToDays = cook.Days(*ru, o.Where, raw)
	o.Days = o.ToDays
	if r.Keep.Days != nil {
		o.Days, o.Own = *r.Keep.Days, true
	}
	by := func(days float64) string { return later(o.MadeAt, days) }
	if o.Where != "" {
		o.UseBy = by(o.Days)
	}
	_, fridge := cook.Days(*ru, cook.Fridge, raw)
	_, freezer := cook.Days(*ru, cook.Freezer, raw)
	o.Fridge, o.Freezer = by(fridge), by(freezer)
	o.Dough = by(p.rules.Knead.KeepMin / 60 / 24)
	p.Keep = o
}

// later returns the time so many days after a day or a moment of the kitchen's clock, in the
// same form; "" when that is not said. Of a day half a day counts for nothing.
func later(at string, days float64) string {
	if t, err := At(at); err == nil {
		return t.Add(time.Duration(days * 24 * float64(time.Hour))).Format(clockForm)
	}
	t, err := time.Parse(time.DateOnly, at)
	if err != nil {
		return ""
	}
	return t.AddDate(0, 0, int(days)).Format(time.DateOnly)
}

// cook is the pot.
func (p *Plan) cook() {
	ru, r, c := &p.rules.Cook, &p.Request, &p.Cut
	loss := map[string]float64{"leather": p.rules.Dry.CutLoss, "nest": p.rules.Dry.HoldLoss}[r.Cook.After]
	dried := 1 - dry.KeepG(p.rules.Dry, 1, p.Formula.Dough.WaterShare)
	if r.Cook.After == "dried" {
		loss = dried
	}
	o := CookPlan{Time: p.timeOf(&c.CutPart, loss), Also: []PotTime{}, Pot: cook.For(*ru, c.AllMadeG, or(r.Bench.PotL, ru.PotL), int(or(r.Bench.Pots, 1))), Loss: loss, Frozen: r.Cook.After == "frozen"}
	fresh := o.Seconds
	way := func(name, key string, s float64) {
		o.Ways = append(o.Ways, CookWay{name, max(s*(1-ru.Spread), ru.BaseS), s * (1 + ru.Spread), r.Cook.After == key})
	}
	way("Straight from the cutter", "fresh", fresh)
	way("At leather", "leather", cook.Dried(*ru, fresh, p.rules.Dry.CutLoss))
	way("From firm nests", "nest", cook.Dried(*ru, fresh, p.rules.Dry.HoldLoss))
	if p.shape.Family != cut.Filled {
		way("Dried to keep", "dried", cook.Dried(*ru, fresh, dried))
	}
	way("Frozen, not thawed", "frozen", o.FrozenS)
	way("Fresh, finished in the pan", "", o.InPanS)
	if o.Frozen {
		o.FromS, o.ToS = o.FrozenS*(1-ru.Spread), o.FrozenS*(1+ru.Spread)
	}
	for i := range c.Also {
		t := p.timeOf(&c.Also[i], loss)
		from, to := t.FromS, t.ToS
		if o.Frozen {
			from, to = t.FrozenS*(1-ru.Spread), t.FrozenS*(1+ru.Spread)
		}
		o.Also = append(o.Also, PotTime{c.Also[i].Shape.Name, from, to})
	}
	p.Cook = o
}

// timeOf returns the time in the pot of a part that has lost that share of its mass.
func (p *Plan) timeOf(x *CutPart, loss float64) cook.Time {
	ru := &p.rules.Cook
	piece := cook.Piece{ThickMM: p.Roll.SheetMM, WidthMM: x.Shape.WidthMM, Loss: loss}
	switch {
	case x.Cutter != nil:
		piece.WidthMM = x.Cutter.PitchMM
	case x.Shape.Family == cut.Filled:
		piece.ThickMM, piece.FillS = 2*p.Roll.SheetMM, ru.FillReadyS
		if p.Request.Cut.Filling.Kind == "raw" {
			piece.FillS = ru.FillRawS
		}
	}
	return cook.Of(*ru, piece)
}

// PotS is the middle of the time in the pot, as the pasta goes in, s.
func (p *Plan) PotS() float64 {
	if p.Cook.Frozen {
		return p.Cook.FrozenS
	}
	return p.Cook.DriedS
}
