package plan

import (
	"math"
	"slices"

	"hollen/internal/core/cut"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// CutPart is one shape and the sheets it is cut from.
type CutPart struct {
	Shape  cut.Shape    `json:"shape"`
	Tool   cut.Tool     `json:"tool"`
	Cutter *roll.Cutter `json:"cutter"` // of the machine, nil without one
	Sheets int          `json:"sheets"`
	cut.Layout
	MinMM    float64 `json:"shortest_mm"` // of a ribbon
	MaxMM    float64 `json:"longest_mm"`
	PortionG float64 `json:"portion_g"` // raw, with its filling
	WantsG   float64 `json:"wanted_g"`  // 0: whatever there is
	Portions float64 `json:"portions"`  // it makes
	Ends     *EndsAt `json:"ends_at,omitempty"`

	noCutter  bool // one was asked for and the machine has none that suits
	asDough   bool // what is asked of it is dough, not what it makes
	on        cut.Sheets
	thickMM   float64
	laidTrimG float64 // by the layout alone
}

// ThickMM is the sheet a part is cut from, or of a rope the wall, mm.
func (x *CutPart) ThickMM() float64 { return x.thickMM }

// SheetMM is how long and wide each of its sheets is, mm.
func (x *CutPart) SheetMM() (length, width float64) { return x.on.LengthMM, x.on.WidthMM }

// CutPlan is the shapes: the first, and others from the same dough.
type CutPlan struct {
	CutPart
	Also          []CutPart `json:"also"`
	SheetLengthMM float64   `json:"sheet_length_mm"`
	SheetWidthMM  float64   `json:"sheet_width_mm"`
	SheetG        float64   `json:"sheet_g"`
	AllDoughG     float64   `json:"all_dough_g"` // in every shape
	AllFillG      float64   `json:"all_fill_g"`
	AllMadeG      float64   `json:"all_made_g"`
	AllTrimG      float64   `json:"all_trimmings_g"`
	AllMin        float64   `json:"all_minutes"`
	FillTotalG    float64   `json:"filling_to_make_g"`   // with the margin
	FillMin       float64   `json:"filling_to_make_min"` // of making it
	Yolks         int       `json:"yolks_set_in"`        // whole, one by one, beside the filling
	YolksG        float64   `json:"yolks_set_in_g"`
	ScrapPortions float64   `json:"maltagliati_portions"`
	Back          cut.Back  `json:"worked_back"`

	laidTrimG float64 // by the layout alone
}

// LaidTrimG is what trimmings the layout alone gives, without what is learned of them, g.
func (c *CutPlan) LaidTrimG() float64 { return c.laidTrimG }

// Parts returns every shape of the batch, the first first.
func (c *CutPlan) Parts() []*CutPart {
	out := []*CutPart{&c.CutPart}
	for i := range c.Also {
		out = append(out, &c.Also[i])
	}
	return out
}

// Ribboned says whether the first shape is a ribbon.
func (c *CutPlan) Ribboned() bool { return c.Shape.Traits().Lengths }

// Filled says whether any shape of the batch is filled.
func (c *CutPlan) Filled() bool {
	return slices.ContainsFunc(c.Parts(), func(x *CutPart) bool { return x.Shape.Traits().Filling })
}

// ribbonMM returns the first shape's width as it is cut, mm.
func (p *Plan) ribbonMM() float64 {
	s := p.Request.Sized(0)
	if _, c, _ := p.toolFor(s, p.Request.Cut.Tool); c != nil {
		return c.PitchMM
	}
	return s.WidthMM
}

// targetMM returns the sheet wanted, mm.
func (p *Plan) targetMM() float64 { return request.Or(p.Request.Roll.TargetMM, p.shape.SheetMM) }

// toolFor returns what cuts a shape: where a cutter is meant and the machine has one of that
// width, and for such sheets, the nearest of them, otherwise the knife.
func (p *Plan) toolFor(s cut.Shape, asked cut.Tool) (tool cut.Tool, c *roll.Cutter, none bool) {
	if tool = s.Tool; asked != "" && s.Traits().Lengths {
		tool = asked
	}
	if tool != cut.Cutter {
		return tool, nil, false
	}
	off := p.rules.Cut.CutterOff
	lo, hi := s.WidthMM*(1-off), s.WidthMM*(1+off)
	if s.FromMM > 0 && s.ToMM > 0 && s.WidthMM >= s.FromMM && s.WidthMM <= s.ToMM {
		lo, hi = s.FromMM, s.ToMM
	}
	for i, x := range p.machine.Cutters {
		if x.PitchMM >= lo-1e-9 && x.PitchMM <= hi+1e-9 && (c == nil || math.Abs(x.PitchMM-s.WidthMM) < math.Abs(
			c.PitchMM-s.WidthMM)-1e-9) {
			c = &p.machine.Cutters[i]
		}
	}
	if c == nil {
		return cut.Knife, nil, true
	}
	slack := p.rules.Cut.CutterSlack
	if asked == "" && s.SheetMM > 0 && (s.SheetMM > c.ToMM*(1+slack) || s.SheetMM < c.FromMM*(1-slack)) {
		return cut.Knife, nil, true // its sheet is none for that cutter
	}
	return tool, c, false
}

// leastAlong returns how long a sheet must at least be, within its trims, to give anything of
// every shape, mm.
func (p *Plan) leastAlong() (mm float64) {
	for i := range p.Request.Shapes() {
		s := p.Request.Sized(i)
		if p.endOf(i) != nil {
			continue // its sheets are of another length
		}
		mm = max(mm, families[s.Family].leastMM(s))
	}
	return mm
}

// portionOf returns a raw portion of the i-th shape, g.
func (p *Plan) portionOf(i int) float64 {
	if i == 0 {
		return p.portionG()
	}
	return p.Request.Cut.Also[i-1].Kind().PortionG
}

// usualDough is about how much dough a gram of flour makes, g.
const usualDough = 1.55

// wants returns what the batch is to give of each shape, g: of the others their portions, of
// the first what is left of all portions; 0 where the amount is not said in portions.
func (p *Plan) wants() []float64 {
	r := &p.Request
	piece := p.Roll.RolledG
	if piece == 0 { // not divided yet
		piece = usualDough * p.pieceFlourG()
	}
	out, rest := []float64{0}, r.Amount.Portions
	for i, x := range r.Cut.Also {
		g := p.askedG(x, piece)
		if p.ropeAfter(i+1) && p.Roll.RolledG > 0 { // set aside before the rest picks up flour
			g = p.askedG(x, p.dividedG()/p.usualPieces())
		}
		out = append(out, g)
		rest -= p.portionsOf(i+1, g)
	}
	if r.Amount.By == request.ByPortions {
		out[0] = max(rest, 1) * p.portionG()
	}
	return out
}

// portionsOf returns the portions that g grams asked of the i-th shape make: of dough asked for, with the filling that
// goes into it.
func (p *Plan) portionsOf(i int, g float64) float64 {
	if i < len(p.swells) && p.swells[i] > 0 && p.Request.Cut.Also[i-1].By != request.ShareByPortions {
		g *= p.swells[i]
	}
	return g / p.portionOf(i)
}

// served returns how what is wanted is served: what is made of the shape that comes off worst, over what is wanted of
// it; where
// none comes off noticeably short, all that is made over all that is wanted. What is formed from dough set aside is
// served exactly, and would hide
// what is made too much of the others.
func (p *Plan) served() float64 {
	least := math.Inf(1)
	made := 0.
	wanted := 0.
	for _, x := range p.Cut.Parts() {
		if x.WantsG > 0 {
			least = min(least, x.Got()/x.WantsG)
			made, wanted = made+x.Got(), wanted+x.WantsG
		}
	}
	if least < 1-nearEnough || wanted == 0 {
		return least
	}
	return made / wanted
}

// layOn lays the i-th shape on sheets.
func (p *Plan) layOn(i int, sheets cut.Sheets) CutPart {
	r := &p.Request
	s := r.Sized(i)
	asked := r.Cut.Tool
	if i > 0 {
		asked = ""
	}
	sheets = p.sheetsFor(i, sheets)
	o := CutPart{Shape: s, Sheets: sheets.Count, on: sheets, thickMM: p.Roll.SheetMM, Ends: p.endOf(i),
		asDough: i > 0 && r.Cut.Also[i-1].By != request.ShareByPortions, MinMM: s.MinLengthMM, MaxMM: s.MaxLengthMM,
		PortionG: p.portionOf(i)}
	if s.Traits().Rope {
		o.thickMM = s.SheetMM
	} else if o.Ends != nil {
		o.thickMM = o.Ends.SheetMM
	}
	o.Tool, o.Cutter, o.noCutter = p.toolFor(s, asked)
	families[s.Family].lay(p, i, sheets, &o)
	o.laidTrimG = o.TrimG
	p.asTrimmed(&o)
	if s.CookedMM > 0 && r.Cut.Width == nil {
		o.CookedMM = s.CookedMM
	}
	o.Portions = o.MadeG / o.PortionG
	return o
}

// laid returns the share of the dough that a division into sheets gives in shapes, 0 where a wanted
// shape does not fit. Of several shapes it is the mean.
func (p *Plan) laid(sheets cut.Sheets) float64 {
	shapes, n := p.Request.Shapes(), p.sheeted()
	if sheets.Count < n {
		return 0
	}
	sum := 0.
	for i := range shapes {
		if p.ropeAfter(i) {
			continue
		}
		on := sheets
		if n > 1 { // on a pair of them, whichever it gets
			on.Count = 2
		}
		o := p.layOn(i, on)
		if o.Count == 0 || o.Short {
			return 0
		}
		sum += o.DoughG / (float64(on.Count) * on.MassG)
	}
	return sum / float64(n)
}

// cut shares the sheets among the shapes and lays each on its own.
func (p *Plan) cut() {
	ru := &p.rules.Cut
	n := p.Roll.SheetsAll
	p.Cut = CutPlan{SheetLengthMM: p.Roll.LengthMM, SheetWidthMM: p.Roll.WidthMM, SheetG: p.Roll.RolledG / float64(
		p.Roll.Sheets), Also: []CutPart{}}
	on := func(n int) cut.Sheets {
		return cut.Sheets{Count: n, LengthMM: p.Cut.SheetLengthMM, WidthMM: p.Cut.SheetWidthMM, MassG: p.Cut.SheetG}
	}
	wants, aside := p.wants(), p.setAside()
	share := p.shareSheets(n, wants, on)
	for i, m := range share {
		x := p.layOn(i, on(m))
		if p.ropeAfter(i) {
			x = p.layOn(i, cut.Sheets{Count: 1, MassG: aside[i]})
			x.Sheets = 0
		}
		if e := x.Ends; e != nil {
			e.LengthMM, e.WidthMM = x.SheetMM()
			p.Roll.MinutesAll += float64(m) / float64(p.Roll.Sheets) * (e.MinEach - p.Roll.TimeMin)
		}
		x.WantsG = wants[i]
		if i == 0 {
			p.Cut.CutPart = x
		} else {
			p.Cut.Also = append(p.Cut.Also, x)
		}
	}
	p.Roll.WaitMin = max(0, p.Roll.MinutesAll-p.Roll.TimeMin)
	o := &p.Cut
	p.Formula.Portions = 0
	for _, x := range o.Parts() {
		o.AllDoughG += x.DoughG
		o.AllFillG += x.FillG
		o.AllMadeG += x.MadeG
		o.AllTrimG += x.TrimG
		o.laidTrimG += x.laidTrimG
		o.AllMin += x.CutMin
		if x.Filling != nil {
			o.Yolks += x.Filling.Yolks
			o.YolksG += x.Filling.YolksG
		}
		p.Formula.Portions += x.Portions
	}
	p.swells = nil
	for _, x := range o.Parts() {
		p.swells = append(p.swells, x.MadeG/max(x.DoughG, 1e-9))
	}
	o.FillTotalG = o.AllFillG * (1 + ru.FillMargin)
	if p.FillingMade() == "" {
		o.FillMin = cut.FillMin(*ru, o.FillTotalG)
	}
	o.ScrapPortions = o.AllTrimG / ru.BrothG
	if all := o.AllDoughG + o.AllTrimG; all > 0 && !p.shape.Traits().Rope {
		o.Back = cut.WorkBack(*ru, p.Roll.Pieces, p.Roll.RolledG, o.AllTrimG/all)
	}
}

// shareSheets shares n sheets among the shapes that are cut from them.
func (p *Plan) shareSheets(n int, wants []float64, on func(int) cut.Sheets) []int {
	var of []int // the shapes that take part
	for i := range wants {
		if !p.ropeAfter(i) {
			of = append(of, i)
		}
	}
	share := make([]int, len(wants))
	if share[0] = n; len(of) == 1 {
		return share
	}
	made, want := make([][]float64, len(of)), make([]float64, len(of))
	for k, i := range of {
		made[k], want[k] = make([]float64, n+1), wants[i]
		one, two := p.layOn(i, on(1)), p.layOn(i, on(2))
		for m := range made[k] { // sheets alike: pairs of them, and one over
			made[k][m] = float64(m/2)*two.Got() + float64(m%2)*one.Got()
		}
	}
	for k, m := range cut.Share(n, p.fair(want, made), func(k, m int) float64 { return made[k][m] }) {
		share[of[k]] = m
	}
	return share
}

// fair returns what to share by: where the first shape takes what there is, that is what the
// others leave of the sheets.
func (p *Plan) fair(wants []float64, made [][]float64) []float64 {
	if wants[0] > 0 {
		return wants
	}
	out := append([]float64{}, wants...)
	n := len(made[0]) - 1
	rest := 1.
	for i := 1; i < len(wants); i++ {
		if all := made[i][n]; all > 0 {
			rest -= wants[i] / all
		}
	}
	out[0] = made[0][n] * max(rest, 0)
	return out
}
