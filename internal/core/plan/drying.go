package plan

import (
	"cmp"
	"fmt"
	"math"
	"slices"
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
	Moments   []Drying   `json:"moments"`       // what dries when, in order
}

// Moment is when it dries.
type Moment string

// The three moments.
const (
	SheetDries   Moment = "sheet"   // before the cut
	PiecesDry    Moment = "pieces"  // after it
	BeforePacked Moment = "packing" // before it is packed
)

// Drying is one moment at which it dries: as the maker says, or as it is worked out.
type Drying struct {
	Key   string       `json:"key"` // of its step
	When  Moment       `json:"when"`
	Parts []int        `json:"parts"` // the shapes, by their place
	On    request.Lies `json:"on"`
	Air   dry.Air      `json:"air"`
	Own   bool         `json:"own"` // the maker's minutes, whatever is worked out
	Min   float64      `json:"min"`
	ToMin float64      `json:"to_min"`
	// Right is when it cuts cleanly or is firm, counted from here on; Brittle when its edges crack.
	Right   dry.Window `json:"right"`
	Brittle dry.Window `json:"brittle"`
	Loss    float64    `json:"loss"` // share of the mass gone after it, of the first of its shapes

	gone float64 // before it
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
	of := func(faces float64) dry.Rate { return p.rate(r.Room.Air, faces) }
	rate := of(p.faces(p.sheetOn()))
	o := DryPlan{Rate: rate, Leather: rate.At(ru.Dry, ru.Dry.CutLoss), Nest: rate.At(ru.Dry, ru.Dry.HoldLoss),
		Brittle: rate.At(ru.Dry, ru.Dry.BrittleLoss), Purpose: p.shape.Purpose}
	o.Tray = of(ru.Dry.NestFaces).At(ru.Dry, ru.Dry.HoldLoss-ru.Dry.CutLoss)
	o.Covered = of(ru.Dry.CoverFaces).At(ru.Dry, ru.Dry.CutLoss)
	o.OneFace = of(ru.Dry.BoardFaces).At(ru.Dry, ru.Dry.CutLoss)
	o.CautionAt, o.DiscardAt = p.cautionAt(), p.discardAt()
	o.Moments = p.moments()
	o.OutMin = p.Rest.OutMin + p.Roll.MinutesAll + p.Cut.AllMin + o.AllMin()
	if !p.shape.Traits().Rope {
		o.RodM = float64(p.Roll.SheetsAll) * (p.Roll.WidthMM + ru.Dry.RodGapMM) / 1000
	}
	o.Trays, o.TrayEach = p.trays()
	o.ToKeep = p.toKeep(rate)
	p.Dry = o
}

// sheetOn is what the sheets lie on; formed pieces, which have none, lie on a tray.
func (p *Plan) sheetOn() request.Lies {
	if p.Request.Dry.On == request.OnBoard || p.Roped() {
		return request.OnBoard
	}
	return request.OnRack
}

// faces are the faces open to the air of what lies there.
func (p *Plan) faces(on request.Lies) float64 {
	switch on {
	case request.OnRack:
		return p.rules.Dry.RackFaces
	case request.OnNests:
		return p.rules.Dry.NestFaces
	}
	return p.rules.Dry.BoardFaces
}

// moments are what dries when. A sheet dries before the cut where it is cut into ribbons or pieces and anybody says so;
// of several shapes each dries after the cut as is said of it.
func (p *Plan) moments() (out []Drying) {
	r, ru := &p.Request, &p.rules.Dry
	parts := p.Cut.Parts()
	gone := make([]float64, len(parts)) // of the mass of each shape
	p.neverDry = nil
	add := func(d Drying, said request.Drying, lossTo float64) {
		d.Air = cmp.Or(said.Air, r.Room.Air)
		first := d.Parts[0]
		d.gone = gone[first]
		rate := p.rateOf(parts[first].thickMM, d.Air, p.faces(d.On))
		d.Right, d.Brittle = rate.From(*ru, gone[first], lossTo), rate.From(*ru, gone[first], ru.BrittleLoss)
		if d.Min, d.ToMin, d.Own = said.OwnMin(); !d.Own {
			if d.Min, d.ToMin = d.Right.FromMin, d.Right.ToMin; !d.Right.Will {
				p.neverDry = append(p.neverDry, d.When)
			}
			if d.Min <= 0 { // it never is, or it is so already
				return
			}
		}
		for _, i := range d.Parts {
			gone[i] = p.rateOf(parts[i].thickMM, d.Air, p.faces(d.On)).After(*ru, gone[i], d.Min)
		}
		d.Loss = gone[first]
		out = append(out, d)
	}
	firm := ru.CutLoss // no longer sticks
	if p.shape.Purpose == cut.HoldShape || p.shape.Purpose == cut.ForCutter {
		firm = ru.HoldLoss
	}
	if sheet := p.cutDry(); len(sheet) > 0 && r.Dry.Sheet.Said() {
		add(Drying{Key: "dry.1", When: SheetDries, Parts: sheet, On: p.sheetOn()}, r.Dry.Sheet, ru.CutLoss)
	}
	for n, of := range p.driedAlike() {
		add(Drying{Key: fmt.Sprintf("pieces.%d", n+1), When: PiecesDry, Parts: of.parts, On: r.Dry.Pieces.On}, of.said,
			firm)
	}
	if r.Dry.Packing.Said() {
		all := make([]int, len(parts))
		for i := range all {
			all[i] = i
		}
		add(Drying{Key: "packing.1", When: BeforePacked, Parts: all, On: r.Dry.Packing.On}, r.Dry.Packing.Drying,
			ru.HoldLoss)
	}
	return out
}

// cutDry are the shapes whose sheet may dry before the cut, by their place: not what is formed, nor, unless the maker's
// own minutes say so, what is filled or needs no drying.
func (p *Plan) cutDry() (out []int) {
	_, _, own := p.Request.Dry.Sheet.OwnMin()
	for i, x := range p.Cut.Parts() {
		switch t := x.Shape.Traits(); {
		case t.Rope:
		case own, t.Lengths && x.Shape.Purpose != cut.NoDrying:
			out = append(out, i)
		}
	}
	return out
}

// driedSo are shapes that dry alike after the cut.
type driedSo struct {
	parts []int
	said  request.Drying
}

// driedAlike gathers the shapes by how they dry after the cut: as is said for all, or by minutes of their own.
func (p *Plan) driedAlike() (out []driedSo) {
	r := &p.Request
	for i := range p.Cut.Parts() {
		said := r.Dry.Pieces.Drying
		if i > 0 {
			if own := r.Cut.Also[i-1].DryMin; own != nil {
				said.By = request.DrySaid
				said.Min = own
				said.ToMin = nil
				if *own == 0 {
					said.By = request.NotDried
				}
			}
		}
		if !said.Said() {
			continue
		}
		from, to, _ := said.OwnMin()
		at := slices.IndexFunc(out, func(x driedSo) bool {
			f, t, _ := x.said.OwnMin()
			return x.said.By == said.By && f == from && t == to
		})
		if at < 0 {
			out = append(out, driedSo{said: said})
			at = len(out) - 1
		}
		out[at].parts = append(out[at].parts, i)
	}
	return out
}

// AllMin is how long all of it dries, one moment after the other, min: of shapes that dry at the same moment the
// longest.
func (d *DryPlan) AllMin() (minutes float64) {
	for _, when := range []Moment{SheetDries, PiecesDry, BeforePacked} {
		longest := 0.
		for _, x := range d.Moments {
			if x.When == when {
				longest = max(longest, x.Min)
			}
		}
		minutes += longest
	}
	return minutes
}

// Moment is the drying whose step has that key, nil where there is none.
func (d *DryPlan) Moment(key string) *Drying {
	for i := range d.Moments {
		if d.Moments[i].Key == key {
			return &d.Moments[i]
		}
	}
	return nil
}

// DriedLoss is the share of its mass the i-th shape has lost when everything it dries for is over; took says, where it
// is known, how long a drying really was, min.
func (p *Plan) DriedLoss(part int, took func(key string) (minutes float64, known bool)) (loss float64) {
	x := p.Cut.Parts()[part]
	for i := range p.Dry.Moments {
		d := &p.Dry.Moments[i]
		if !slices.Contains(d.Parts, part) {
			continue
		}
		minutes := d.Min
		if is, known := took(d.Key); known {
			minutes = is
		}
		loss = p.rateOf(x.thickMM, d.Air, p.faces(d.On)).After(p.rules.Dry, loss, minutes)
	}
	return loss
}

// asPlanned is a DriedLoss of which nothing is known yet.
func asPlanned(string) (float64, bool) { return 0, false }

// rate is how the sheet dries in that air with so many faces open.
func (p *Plan) rate(air dry.Air, faces float64) dry.Rate { return p.rateOf(p.Roll.SheetMM, air, faces) }

// rateOf is rate of a sheet or wall so thick.
func (p *Plan) rateOf(thickMM float64, air dry.Air, faces float64) dry.Rate {
	r, f := &p.Request, &p.Formula
	return dry.Of(p.rules.Dry, dry.Sheet{ThickMM: thickMM, DensityGPerML: f.Dough.DensityGPerML,
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
	onRack := p.sheetOn() == request.OnRack
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
