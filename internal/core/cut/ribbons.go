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

// Layout is the ribbons on one sheet and what all sheets give. Lengths in mm, masses in g.
type Layout struct {
	RibbonMM   float64 `json:"ribbon_width_mm"`
	Across     int     `json:"ribbons_across"`
	Along      int     `json:"lengths_along"`
	LengthMM   float64 `json:"ribbon_length_mm"`
	EndTrimMM  float64 `json:"end_trim_mm"`  // each end
	SideTrimMM float64 `json:"side_trim_mm"` // each side
	KnifeCuts  int     `json:"knife_cuts"`   // on each rolled-up length, 0 for a cutter
	Ribbons    int     `json:"ribbons"`      // in all
	RibbonG    float64 `json:"ribbon_g"`
	RibbonsG   float64 `json:"ribbons_g"` // in all
	PerNest    int     `json:"ribbons_per_nest"`
	Nests      int     `json:"nests"`     // whole nests
	LastNest   int     `json:"last_nest"` // ribbons in the short last nest, 0 when none
	NestG      float64 `json:"nest_g"`
	TrimG      float64 `json:"trimmings_g"` // in all
	CookedMM   float64 `json:"cooked_width_mm"`
	CutMin     float64 `json:"minutes"`
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

// Ribbons lays ribbons of widthMM and minMM–maxMM length on the sheets and gathers them in
// nests of about nestG: usable length L−2·10, usable width W−2·3, ⌊W'/pitch⌋ across.
// A sheet too short or too narrow gives no ribbons and is all trimmings.
func Ribbons(r rules.Cut, s Sheets, tool Tool, widthMM, minMM, maxMM, nominalMM, nestG float64) Layout {
	o := Layout{RibbonMM: widthMM, CookedMM: widthMM * r.CookedGrowth}
	total := float64(s.Count) * s.MassG
	o.Across = max(0, int(math.Floor((s.WidthMM-2*r.TrimSideMM)/widthMM+1e-9)))
	o.Along, o.LengthMM = Along(s.LengthMM-2*r.TrimEndMM, minMM, maxMM, min(max(nominalMM, minMM), maxMM))
	o.CutMin = float64(s.Count) * s.LengthMM / 1000 * r.ChargePerM / 60
	if o.Across == 0 || o.Along == 0 {
		o.Across, o.Along, o.LengthMM, o.TrimG = 0, 0, 0, total
		return o
	}
	o.EndTrimMM = (s.LengthMM - float64(o.Along)*o.LengthMM) / 2
	o.SideTrimMM = (s.WidthMM - float64(o.Across)*widthMM) / 2
	if tool == Knife {
		o.KnifeCuts = o.Across + 1
	}
	o.Ribbons = o.Across * o.Along * s.Count
	o.RibbonG = s.MassG * widthMM * o.LengthMM / (s.LengthMM * s.WidthMM)
	o.RibbonsG = float64(o.Ribbons) * o.RibbonG
	o.TrimG = total - o.RibbonsG
	o.PerNest = max(1, int(math.Round(nestG/o.RibbonG)))
	o.Nests, o.LastNest = o.Ribbons/o.PerNest, o.Ribbons%o.PerNest
	o.NestG = float64(o.PerNest) * o.RibbonG
	return o
}
