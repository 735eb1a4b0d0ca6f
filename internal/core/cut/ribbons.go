package cut

import (
	"math"

	"hollen/internal/core/rules"
)

// Sheets is what there is to cut.
type Sheets struct {
	Count    int     // sheets alike
	LengthMM float64 // each
	WidthMM  float64 // each
	MassG    float64 // each
}

// usable returns what the trims leave of a sheet, mm.
func (s Sheets) usable(r rules.Cut) (lengthMM, widthMM float64) {
	return s.LengthMM - 2*r.TrimEndMM, s.WidthMM - 2*r.TrimSideMM
}

// gPerMM2 is the mass of a square millimetre, g.
func (s Sheets) gPerMM2() float64 { return s.MassG / (s.LengthMM * s.WidthMM) }

// Layout is a shape on one sheet and what all its sheets give. Lengths mm, masses g.
type Layout struct {
	Family     Family  `json:"family"`
	WidthMM    float64 `json:"width_mm"`  // of a ribbon; a piece's extent across the sheet
	LengthMM   float64 `json:"length_mm"` // of a ribbon; a piece's extent along the sheet
	Across     int     `json:"across"`    // ribbons, or pieces in a straight row, side by side
	Along      int     `json:"along"`     // lengths, or pieces, one after the other
	EndTrimMM  float64 `json:"end_trim_mm"`
	SideTrimMM float64 `json:"side_trim_mm"`
	PerSheet   int     `json:"per_sheet"`
	Count      int     `json:"count"`   // ribbons or pieces in all
	OneG       float64 `json:"one_g"`   // dough of one
	DoughG     float64 `json:"dough_g"` // in all of them
	FillG      float64 `json:"fill_g"`  // filling in all of them, without the margin
	MadeG      float64 `json:"made_g"`  // dough and filling
	TrimG      float64 `json:"trimmings_g"`
	CookedMM   float64 `json:"cooked_width_mm"`
	CutMin     float64 `json:"minutes"`
	// the sheet is shorter than the ribbon usually is, and gives its own length
	Short bool `json:"short_ribbons"`

	KnifeCuts int     `json:"knife_cuts"`        // on each rolled-up length, 0 without a knife
	FoldMM    float64 `json:"fold_mm"`           // width of the rolled-up length
	Layers    int     `json:"layers"`            // under the knife
	Strokes   int     `json:"knife_cuts_in_all"` // over all lengths and sheets

	PerNest  int     `json:"ribbons_per_nest"`
	Nests    int     `json:"nests"`     // whole nests
	LastNest int     `json:"last_nest"` // ribbons in the short last nest, 0 when none
	NestG    float64 `json:"nest_g"`

	Pattern Pattern  `json:"pattern,omitempty"` // of pieces
	Filling *Filling `json:"filling,omitempty"`
	Rope    *Rope    `json:"rope,omitempty"`

	rows    []row
	outline Outline
	turned  bool
}

// Along divides usable length useMM into ribbons of a to b mm, nominally c: with
// hi = ⌊L'/a⌋ and lo = ⌈L'/b⌉, hi = 0 gives none; when lo ≤ hi the count n whose L'/n is
// nearest c (ties to fewer), nothing wasted; otherwise n = hi of length b.
func Along(useMM, a, b, c float64) (n int, lengthMM float64) {
	hi, lo := int(math.Floor(useMM/a+1e-9)), int(math.Ceil(useMM/b-1e-9))
	if hi < 1 {
		return 0, 0
	}
	if lo > hi {
		return hi, b
	}
	best := math.Inf(1)
	for k := max(lo, 1); k <= hi; k++ {
		if d := math.Abs(useMM/float64(k) - c); d < best-1e-9 {
			best, n = d, k
		}
	}
	return n, useMM / float64(n)
}

// RibbonCut is how ribbons are wanted.
type RibbonCut struct {
	Tool         Tool
	WidthMM      float64 // of a ribbon, the cutter's pitch
	CutterMM     float64 // widest sheet the cutter takes, 0: any
	MinMM, MaxMM float64 // shortest and longest, mm
	UsualMM      float64 // the length aimed at, mm; 0: halfway
	FreeMin      bool    // a sheet too short gives ribbons of its own length
	FreeMax      bool    // the knife may cut longer, so that nothing is left over
	NestG        float64
	FoldMM       float64 // width of the rolled-up length
}

// leastRibbonMM is the shortest a sheet's own length may be to be called ribbons, mm. Source: house.
const leastRibbonMM = 60

// along divides the usable length.
func (c RibbonCut) along(useMM float64) (n int, lengthMM float64, short bool) {
	usual := c.UsualMM
	if usual == 0 {
		usual = (c.MinMM + c.MaxMM) / 2
	}
	n, lengthMM = Along(useMM, c.MinMM, c.MaxMM, usual)
	switch {
	case n == 0 && c.FreeMin && useMM >= leastRibbonMM:
		return 1, useMM, true
	case n > 0 && c.FreeMax && c.Tool == Knife:
		return n, useMM / float64(n), false
	}
	return n, lengthMM, false
}

// Ribbons lays ribbons on the sheets and gathers them in nests: usable length L−2·10, usable
// width the lesser of W−2·3 and the cutter's, ⌊W'/pitch⌋ across. A knife cuts each length
// rolled up loosely, ⌈length/fold⌉ layers thick, in one cut more than there are ribbons. A
// sheet too narrow, or too short for lengths that are the maker's own, gives none and is all trimmings.
func Ribbons(r rules.Cut, s Sheets, c RibbonCut) Layout {
	o := Layout{Family: Ribbon, WidthMM: c.WidthMM, CookedMM: c.WidthMM * r.CookedGrowth}
	total := float64(s.Count) * s.MassG
	useL, useW := s.usable(r)
	if c.CutterMM > 0 {
		useW = min(useW, c.CutterMM)
	}
	o.Across = max(0, int(math.Floor(useW/c.WidthMM+1e-9)))
	o.Along, o.LengthMM, o.Short = c.along(useL)
	o.CutMin = float64(s.Count) * s.LengthMM / 1000 * r.ChargePerM / 60
	if o.Across == 0 || o.Along == 0 || s.Count == 0 {
		o.Across = 0
		o.Along = 0
		o.LengthMM = 0
		o.TrimG = total
		o.Short = false
		return o
	}
	o.EndTrimMM = (s.LengthMM - float64(o.Along)*o.LengthMM) / 2
	o.SideTrimMM = (s.WidthMM - float64(o.Across)*c.WidthMM) / 2
	o.PerSheet = o.Across * o.Along
	o.Count = o.PerSheet * s.Count
	if c.Tool == Knife {
		o.KnifeCuts, o.FoldMM = o.Across+1, c.FoldMM
		o.Layers = int(math.Ceil(o.LengthMM/c.FoldMM - 1e-9))
		o.Strokes = o.KnifeCuts * o.Along * s.Count
		o.CutMin += float64(o.Strokes) * r.KnifeS / 60
	}
	o.OneG = s.gPerMM2() * c.WidthMM * o.LengthMM
	o.DoughG = float64(o.Count) * o.OneG
	o.MadeG, o.TrimG = o.DoughG, total-o.DoughG
	o.PerNest = max(1, int(math.Round(c.NestG/o.OneG)))
	o.Nests, o.LastNest = o.Count/o.PerNest, o.Count%o.PerNest
	o.NestG = float64(o.PerNest) * o.OneG
	return o
}

// Cutout is one ribbon or piece as it lies on the sheet: its box, from the sheet's corner, mm.
type Cutout struct {
	Round      bool
	X, Y, W, H float64
}

// Area returns what the cutout takes of the sheet, mm².
func (c Cutout) Area() float64 {
	if c.Round {
		return math.Pi * c.W * c.W / 4
	}
	return c.W * c.H
}

// Cutouts returns everything cut from one sheet, row by row.
func (o *Layout) Cutouts() []Cutout {
	out := make([]Cutout, 0, o.PerSheet)
	if o.Family == Ribbon {
		for i := range o.Along {
			for j := range o.Across {
				out = append(out, Cutout{X: o.EndTrimMM + float64(i)*o.LengthMM, Y: o.SideTrimMM + float64(j)*o.WidthMM,
					W: o.LengthMM, H: o.WidthMM})
			}
		}
		return out
	}
	for _, r := range o.rows {
		for i := range r.n {
			c := Cutout{Round: o.outline == Round, X: r.at + float64(i)*r.step, Y: r.y, W: o.LengthMM, H: o.WidthMM}
			if o.turned {
				c.X, c.Y = c.Y, c.X
			}
			c.X, c.Y = c.X+o.EndTrimMM, c.Y+o.SideTrimMM
			out = append(out, c)
		}
	}
	return out
}
