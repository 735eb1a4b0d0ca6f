package plan

import (
	"errors"
	"math"
	"slices"

	"hollen/internal/core/addition"
	"hollen/internal/core/cut"
	"hollen/internal/core/dough"
	"hollen/internal/core/egg"
	"hollen/internal/core/knead"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// room works out what the room asks for, and splits the pouring: measured moisture pours
// all; an estimate pours 60 % of the correction and keeps the rest by the board. In damp
// air the correction is liquid left out, so there the uncertain 40 % of it stands by.
func (p *Plan) room() {
	r := &p.Request
	ru := &p.rules
	f := &p.Formula
	milled := 0.
	for _, x := range p.parts {
		milled += x.MassG * x.Moisture.MilledWB
	}
	// Working water needed is (1+Hw/100)·F14 − F − …, so a point of moisture moves it by
	// (1+Hw/100)/0.86 of the flour.
	p.Room.CorrectionG = (1+f.Target.Hw/100)*f.FlourG*(milled-f.Blend.MoistureWB)/(1-ru.Flour.BasisMoistureWB) +
		p.Room.BoardLossG
	p.Room.Measured = f.Blend.Measured
	keep := 0.
	if !f.Blend.Measured && r.Eggs.TopUp != egg.TopNone && !p.AsMade() {
		keep = (1 - ru.Room.PourShare) * math.Abs(p.Room.CorrectionG)
	}
	h := ru.Learned.Hw
	switch {
	case h.N > 0 && r.Eggs.TopUp != egg.TopNone && !p.AsMade():
		keep = 0
		// What the log may be off stands by the board, and what a sack may have changed since its last batch.
		if sd := math.Hypot(h.SD, p.changedSD()); sd > ru.Learn.SurePoints {
			keep = min(f.TopG, sd*f.Blend.F14G/100)
		}
		p.Room.PourG = f.TopG - keep
	case p.Room.CorrectionG > 0:
		keep = min(keep, f.TopG)
		p.Room.PourG = f.TopG - keep
	default:
		p.Room.PourG = f.TopG
	}
	if f.OpenLiquidG > 0 { // of what is poured out the dough takes what it will
		p.Room.PourG, keep = max(f.TopG, f.OpenLiquidG), 0
	}
	p.Room.KeepG = keep
	p.Room.InWords = worth(ru.Hydration,
		keep*(r.Eggs.TopUp.Composition().Water+ru.Hydration.FatWeight*r.Eggs.TopUp.Composition().Fat))
	top := r.Eggs.TopUp.Composition()
	p.Room.BeforeHw = f.Dough.Hw - 100*f.TopG*(top.Water+ru.Hydration.FatWeight*top.Fat)/f.Blend.F14G
	eggC := r.Room.TempC
	if r.Eggs.From == request.FromFridge {
		eggC = ru.Knead.FridgeC
	}
	p.Room.ContactC = p.contactC(eggC)
}

// changedSD is how sure the change of the flours' moisture since their last batch is, points of working hydration.
// dHw/dm = (100 + Hw)/(100·(1 − m)).
func (p *Plan) changedSD() (sd float64) {
	f := &p.Formula
	for i, x := range f.Flours {
		if s := x.Moisture.Sack; s != nil {
			sd += p.parts[i].MassG * s.ChangeSD * (100 + f.Target.Hw) / (1 - x.Moisture.NowWB)
		}
	}
	return sd
}

// contactC is the dough as it comes together with eggs at eggC, °C.
func (p *Plan) contactC(eggC float64) float64 {
	r, f := &p.Request, &p.Formula
	return knead.ContactC(p.rules.Knead,
		knead.Part{MassG: f.FlourG, HeatJPerGK: knead.FlourHeat, TempC: r.Room.TempC},
		knead.Part{MassG: f.WholeG + f.YolkG, HeatJPerGK: knead.EggHeat, TempC: eggC},
		knead.Part{MassG: f.TopG, HeatJPerGK: knead.WaterHeat, TempC: r.Room.TempC},
		knead.Part{MassG: addedG(f.Additions), HeatJPerGK: knead.WaterHeat, TempC: r.Room.TempC},
		knead.Part{MassG: f.OilG, HeatJPerGK: knead.OilHeat, TempC: r.Room.TempC})
}

// worth returns what g grams of working water are in beaten egg, milk and oil.
func worth(r rules.Hydration, g float64) Worth {
	of := func(c egg.Composition) float64 { return g / (c.Water + r.FatWeight*c.Fat) }
	return Worth{of(egg.Whole), of(egg.Milk), of(egg.Oil)}
}

// roll divides the dough and takes one piece down the stops.
func (p *Plan) roll() {
	r := &p.Request
	ru := &p.rules
	f := &p.Formula
	o := RollPlan{Machine: p.machine, TargetMM: p.targetMM(), Folds: p.Roll.Folds, AsideG: p.asideG()}
	divide := func(pieces float64) {
		o.Pieces = int(max(1, pieces))
		o.PieceG = (p.dividedG() - o.AsideG) / float64(o.Pieces)
		o.RolledG = o.PieceG * (1 + ru.Dough.BoardFlourShare)
	}
	o.Careful = r.Roll.Careful == request.CarefulYes || r.Roll.Careful == request.CarefulAuto &&
		f.Dough.FatPct >= ru.Roll.CarefulFatPct
	l := p.layOf(&o)
	try := func(pieces float64) {
		divide(pieces)
		l.PieceG = o.RolledG
		o.Progression = l.Plan()
		if len(l.Own) > 0 {
			hollens := l
			hollens.Own = nil
			o.Own = !roll.SamePasses(o.Passes, hollens.Plan().Passes)
		}
		p.ended, p.Roll.SheetMM = p.ends(&l, &o), o.SheetMM
	}
	all := (p.dividedG() - o.AsideG) * (1 + ru.Dough.BoardFlourShare)
	left := 1 - o.AsideG/p.dividedG() // of the dough, to be rolled
	usual := max(1, math.Round(left*f.FlourG/p.pieceFlourG()))
	switch {
	case r.Roll.Pieces != nil:
		own := max(1, math.Round(left**r.Roll.Pieces))
		try(own)
		o.Better, o.BetterBy = p.betterPieces(&l, &o, all, own)
	case p.divided > 0:
		try(p.divided)
		o.Suited = p.divided != usual
	case l.RopeMM > 0:
		try(usual)
	case l.Pin: // as few sheets as the board takes, and one at least for each shape
		for n := float64(p.sheeted()); ; n++ {
			if try(n); p.fitsBoard(&o) || n >= 60 {
				usual = n
				break
			}
		}
		if n := p.bestPieces(&l, &o, all, usual); n != usual {
			try(n)
			o.Suited = true
		}
	case r.Roll.Divide == request.DivideByBench:
		try(1)
		try(math.Ceil(roll.LengthMM(all, l.DensityG, p.machine.WidthMM, o.SheetMM)/r.Roll.BenchMM - 1e-9))
	default:
		if try(usual); usual > 0 {
			if n := p.bestPieces(&l, &o, all, usual); n != usual {
				try(n)
				o.Suited = true
			}
		}
	}
	// A sheet too short for one ribbon serves nobody: unless the maker divides, fewer pieces.
	if need := p.leastAlong() + 2*ru.Cut.TrimEndMM; r.Roll.Pieces == nil && !l.Pin && o.Pieces > 1 &&
		o.LengthMM < need {
		wholeNumber := roll.LengthMM(all, l.DensityG, p.machine.WidthMM, o.SheetMM)
		try(math.Floor(wholeNumber / need))
		o.Larger = true
	}
	o.FitsBoard = !l.Pin || p.fitsBoard(&o)
	p.rolled(&o, &l)
	p.lay = l
	p.Roll = o
}

// rolled fills in what follows from how the sheets come out.
func (p *Plan) rolled(o *RollPlan, l *roll.Lay) {
	if l.RopeMM > 0 { // what dries and cooks is the wall of the piece
		o.SheetMM, o.MissMM = p.shape.SheetMM, 0
	}
	if !l.Pin {
		last := lastStop(l)
		o.TargetStop = p.machine.Stops[last].Label
		o.Calibrated, o.Sure = p.sure(last)
	}
	o.SheetsAll = o.Pieces * o.Sheets
	o.MetresAll = float64(o.SheetsAll) * o.LengthMM / 1000
	o.MinutesAll = o.TimeMin * float64(o.Pieces)
}

// lastStop is the stop a way down ends at, the last that is one where a pin comes after it.
func lastStop(l *roll.Lay) int {
	for i := len(l.Own) - 1; i >= 0; i-- {
		if s := l.Own[i].Stop; s != roll.ByPin {
			return s
		}
	}
	return l.TargetStop()
}

// sheetBounds are the sheets the first shape is cut or closed from without a warning, mm: what its cutter takes, and a
// seam that cooks through.
func (p *Plan) sheetBounds() (least, most float64) {
	ru, s := &p.rules.Cut, p.shape
	if s.Traits().Filling {
		return 0, ru.SeamMaxMM * (1 + ru.CutterSlack) / 2
	}
	if _, c, _ := p.toolFor(s, p.Request.Cut.Tool); c != nil {
		return c.FromMM * (1 - ru.CutterSlack), c.ToMM * (1 + ru.CutterSlack)
	}
	return 0, 0
}

// layOf is what the plan of the way down starts from.
func (p *Plan) layOf(o *RollPlan) roll.Lay {
	r := &p.Request
	ru := &p.rules
	f := &p.Formula
	l := roll.Lay{Rules: ru.Roll, Machine: p.machine, TargetMM: o.TargetMM, DensityG: f.Dough.DensityGPerML,
		T: p.way.TRoll, D: p.way.DFolded, ReadyD: ru.Knead.ReadyD, ReadyT: ru.Knead.ReadyT,
		FatFreePct: ru.Knead.FatFree,
		DurumShare: f.Blend.DurumShare, FatPct: f.Dough.FatPct, Gluten: f.Blend.GlutenFactor,
		OutsideBand: f.Target.Outside(f.Dough.Hw),
		Folds:       o.Folds, Fold: r.Roll.Fold, Pin: p.machine.Tool == dough.Pin, Outline: r.Roll.Outline,
		Mode:      r.Roll.Mode,
		Careful:   o.Careful,
		LastTwice: r.Roll.LastTwice, BenchMM: r.Roll.BenchMM, Sheeter: p.machine.Tool == dough.Sheeter}
	l.GapOff, l.StripMM = p.gapOff(), r.Roll.Stripes.StripeMM
	if p.shape.Traits().Rope {
		l.RopeMM = p.shape.RopeMM
	}
	if r.Roll.TargetMM == nil { // where the thickness is Hollen's to choose, what it warns of is no choice
		l.LeastMM, l.MostMM = p.sheetBounds()
	}
	if l.Own = p.ownDown(); len(l.Own) > 0 {
		l.TauRMin = p.model.TauRMin * math.Exp2((22-p.Rest.TempC)/ru.Knead.RelaxDoubling)
		l.LastTwice = false
	}
	return l
}

// sheetsOf returns the sheets so many pieces of all g give, as the last stop or stage leaves them.
func (p *Plan) sheetsOf(l *roll.Lay, o *RollPlan, all, pieces float64) cut.Sheets {
	mass := all / pieces
	if l.Pin {
		across := min(p.machine.WidthMM, p.machine.BoardLengthMM, p.machine.BoardWidthMM)
		s := roll.SheetOf(l.Outline, mass, l.DensityG, o.SheetMM, across)
		return cut.Sheets{Count: int(pieces), LengthMM: s.LengthMM, WidthMM: s.WidthMM, MassG: mass}
	}
	wholeNumber, n := roll.LengthMM(mass, l.DensityG, p.machine.WidthMM, o.SheetMM), 1
	for !o.Own && l.BenchMM > 0 && wholeNumber/float64(n) > l.BenchMM && n < 64 {
		n *= 2
	}
	if o.Own {
		n = o.Sheets // as often halved as is said
	}
	return cut.Sheets{Count: int(pieces) * n, LengthMM: wholeNumber / float64(n), WidthMM: p.machine.WidthMM,
		MassG: mass / float64(n)}
}

// worthMore is by how much more of the dough a division must give in shapes to be preferred to the
// usual one, share.
const worthMore = .03

// bestPieces returns into how many pieces to divide: of those between half and half as many again as
// usual that give within 3 % of the most, the number nearest the usual.
func (p *Plan) bestPieces(l *roll.Lay, o *RollPlan, all, usual float64) float64 {
	lo, hi := max(1, math.Ceil(usual/2)), math.Floor(usual*1.5)+1
	if l.Pin { // no fewer than the board takes
		lo, hi = usual, usual+3
	}
	step := max(1, math.Round((hi-lo)/24))
	best, yields := 0., map[float64]float64{}
	for n := lo; n <= hi; n += step {
		yields[n] = p.laid(p.sheetsOf(l, o, all, n))
		best = max(best, yields[n])
	}
	yields[usual] = p.laid(p.sheetsOf(l, o, all, usual))
	most, at := max(best, yields[usual]), usual
	off := math.Inf(1)
	for n := lo; n <= hi; n++ {
		if y, ok := yields[n]; ok && y >= most-worthMore && most > 0 && math.Abs(math.Log(n/usual)) < off-1e-9 {
			at, off = n, math.Abs(math.Log(n/usual))
		}
	}
	return at
}

// betterPieces returns the division that would give clearly more pasta than the maker's, and by how
// much, share; 0 where there is none.
func (p *Plan) betterPieces(l *roll.Lay, o *RollPlan, all, own float64) (pieces int, by float64) {
	if l.RopeMM > 0 {
		return 0, 0
	}
	n := p.bestPieces(l, o, all, own)
	by = p.laid(p.sheetsOf(l, o, all, n)) - p.laid(p.sheetsOf(l, o, all, own))
	if n == own || by < worthMore {
		return 0, 0
	}
	return int(n), by
}

// fitsBoard says whether the sheet under the pin lies on the board.
func (p *Plan) fitsBoard(o *RollPlan) bool {
	s := roll.PinSheet{ThickMM: o.SheetMM, LengthMM: o.LengthMM, WidthMM: o.WidthMM}
	return s.Fits(p.Request.Roll.Outline, p.machine.BoardLengthMM, p.machine.BoardWidthMM)
}

// gapOff is how far the sheet may be off because nobody measured the gaps, share; 0 where they were, and under a pin.
func (p *Plan) gapOff() float64 {
	if p.machine.Tool == dough.Pin || p.shape.Traits().Rope || len(p.machine.Stops) == 0 {
		return 0
	}
	if measured, within := p.sure(len(p.machine.Stops) - 1); !measured {
		return within
	}
	return 0
}

// sure says whether a stop's gap was measured and how far its sheet may be off, share.
func (p *Plan) sure(stop int) (calibrated bool, within float64) {
	m := p.machine
	if len(m.Calibrated) == 0 {
		return false, m.Within()
	}
	fit, err := roll.Calibrate(m, m.Calibrated, m.SpringThen)
	switch {
	case err != nil:
		return false, m.Within()
	case !slices.Contains(fit.Measured, true): // seen through alone
		return false, fit.Error
	case fit.Measured[stop]:
		return true, roll.MeasuredWithin
	}
	return true, fit.Error
}

// ThirdColour is the base dough with what colours its third, as it looks; how much of that goes to a gram of dough,
// g; false where there is none.
func (p *Plan) ThirdColour() (c dough.Colour, of addition.Addition, shareG float64, ok bool) {
	of, ok = addition.Find(p.Request.Roll.Stripes.Third)
	if !ok {
		return c, of, 0, false
	}
	f := &p.Formula
	g := of.StartShare() * f.FlourG
	stains := append(p.stains(), dough.Stain{Colour: of.Colour, Depth: of.Depth, G: g, Word: of.ColourWord,
		Name: of.Name})
	cl := p.task.Class
	c = dough.Tint(f.Blend, f.YolkG+f.WholeG*cl.YolkG/cl.EdibleG, f.Dough.MassG+g, cl.YolkColour, stains...)
	return c, of, g / f.Dough.MassG, true
}

// Join is the pass that joins stripes of a second dough to a base of this one.
func (p *Plan) Join() (roll.Joined, error) {
	if p.lay.Pin {
		return roll.Joined{}, errors.New("stripes are joined by rollers: pick a machine")
	}
	if x, ok := p.Roll.LaidOn(); ok && p.Roll.Own {
		return p.lay.JoinAt(p.Request.Roll.Stripes, x)
	}
	return p.lay.Join(p.Request.Roll.Stripes)
}

// Roped says whether the dough is formed from a rope and makes no sheet.
func (p *Plan) Roped() bool { return p.lay.RopeMM > 0 }

// Lay is what the way down was worked out from.
func (p *Plan) Lay() roll.Lay { return p.lay }
