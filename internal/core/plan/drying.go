package plan

import (
	"math"
	"time"

	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// DryPlan is the windows in which a sheet cuts cleanly, a nest holds, and edges crack.
type DryPlan struct {
	Rate      dry.Rate   `json:"rate"`
	Leather   dry.Window `json:"leather"`
	Nest      dry.Window `json:"nest"`
	Brittle   dry.Window `json:"brittle"`
	Tray      dry.Window `json:"in_nests_on_tray"` // from leather on, nests as they lie
	Covered   dry.Window `json:"covered"`          // until a covered sheet is at leather
	OneFace   dry.Window `json:"one_face"`         // leather on a board, whatever it lies on
	Purpose   string     `json:"purpose"`          // what drying is for, by the shape
	RodM      float64    `json:"rack_rod_m"`       // for all sheets at once
	Trays     int        `json:"trays"`            // for all nests or pieces in one layer
	TrayEach  int        `json:"on_a_tray"`
	OutMin    float64    `json:"out_of_fridge_min"`
	CautionAt float64    `json:"caution_min"`
	DiscardAt float64    `json:"discard_min"`
	ToKeep    *KeepDry   `json:"dried_to_keep"` // nil when it is not
}

// KeepDry is drying to keep.
type KeepDry struct {
	RawG    float64     `json:"raw_g"`
	TargetG float64     `json:"target_g"` // at 12.5 % moisture
	Never   bool        `json:"never"`    // this air stops before
	Now     *dry.Drying `json:"now"`      // by the last check-weighing, nil before the first
	Checks  []DryPoint  `json:"checks"`
	KeptAt  string      `json:"kept_at,omitempty"` // when the bench weighed it at that, yyyy-mm-ddThh:mm
}

// DryPoint is one check-weighing judged.
type DryPoint struct {
	At       string  `json:"at"`
	G        float64 `json:"g"`
	Loss     float64 `json:"loss"`
	Moisture float64 `json:"moisture_wb"`
}

// dry gives the windows for today's air and how long the dough has been warm by then.
func (p *Plan) dry() {
	r, ru := &p.Request, &p.rules
	faces := ru.Dry.RackFaces
	if r.Dry.On == request.OnBoard || p.Roped() { // formed pieces lie on a tray
		faces = ru.Dry.BoardFaces
	}
	of := func(faces float64) dry.Rate { return p.rate(r.Room.Air, faces) }
	rate := of(faces)
	o := DryPlan{Rate: rate, Leather: rate.At(ru.Dry, ru.Dry.CutLoss), Nest: rate.At(ru.Dry, ru.Dry.HoldLoss),
		Brittle: rate.At(ru.Dry, ru.Dry.BrittleLoss), Purpose: p.shape.Purpose}
	o.Tray = of(ru.Dry.NestFaces).At(ru.Dry, ru.Dry.HoldLoss-ru.Dry.CutLoss)
	o.Covered = of(ru.Dry.CoverFaces).At(ru.Dry, ru.Dry.CutLoss)
	o.OneFace = of(ru.Dry.BoardFaces).At(ru.Dry, ru.Dry.CutLoss)
	o.CautionAt, o.DiscardAt = p.cautionAt(), p.discardAt()
	waits := 0. // before the pot or the fridge
	switch {
	case r.Cook.After == request.FirmNests && o.Nest.Will:
		waits = o.Nest.FromMin
	case r.Cook.After == request.FirmNests || o.Purpose != cut.NoDrying:
		// waited for as long as one waits: a little damper is not suddenly no wait
		if waits = o.Leather.FromMin; !o.Leather.Will {
			waits = ru.Dry.MostMin
		}
	}
	o.OutMin = p.Rest.OutMin + p.Roll.MinutesAll + p.Cut.AllMin + waits
	if !p.shape.Traits().Rope {
		o.RodM = float64(p.Roll.SheetsAll) * (p.Roll.WidthMM + ru.Dry.RodGapMM) / 1000
	}
	o.Trays, o.TrayEach = p.trays()
	o.ToKeep = p.toKeep(rate)
	p.Dry = o
}

// rate is how the sheet dries in that air with so many faces open.
func (p *Plan) rate(air dry.Air, faces float64) dry.Rate {
	r, f := &p.Request, &p.Formula
	return dry.Of(p.rules.Dry, dry.Sheet{ThickMM: p.Roll.SheetMM, DensityGPerML: f.Dough.DensityGPerML,
		WaterShare:    f.Dough.WaterShare,
		EquilibriumWB: f.Blend.EquilibriumWB},
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
	onRack := r.Dry.On != request.OnBoard && !p.Roped()
	faces := ru.BoardFaces
	other := ru.RackFaces
	otherWord := "on a rack"
	if onRack {
		faces = ru.RackFaces
		other = ru.BoardFaces
		otherWord = "on a board"
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
		if x.Shape.Traits().Lengths {
			n, size = x.AllNests(), p.NestMM(x)
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
	r := &p.Request
	ru := &p.rules.Dry
	f := &p.Formula
	if !r.Dry.Keep {
		return nil
	}
	o := &KeepDry{RawG: request.Or(r.Dry.RawG, p.Cut.AllDoughG), Checks: []DryPoint{}}
	o.TargetG = dry.KeepG(*ru, o.RawG, f.Dough.WaterShare)
	o.Never = f.Blend.EquilibriumWB >= ru.KeepWB || rate.DeltaGM3 <= ru.LeastGM3
	var log []dry.Weighing
	var first time.Time
	for _, x := range r.Dry.Log {
		at, err := measure.At(x.At)
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
