package cut

import (
	"math"

	"hollen/internal/core/rules"
)

// Rope is what formed pieces are cut from.
type Rope struct {
	DiameterMM float64 `json:"diameter_mm"`
	SliceMM    float64 `json:"slice_mm"` // of rope for one piece
	LengthM    float64 `json:"length_m"` // in all
}

// FormPieces divides doughG g of dough into formed pieces of pieceG g cut from a rope of ropeMM
// mm; what is over is less than a piece.
func FormPieces(r rules.Cut, doughG, densityG, pieceG, ropeMM, sizeMM float64) Layout {
	perMM := densityG * 1e-3 * math.Pi * ropeMM * ropeMM / 4 // g a mm
	n := int(math.Floor(doughG/pieceG + 1e-9))
	o := Layout{Family: Formed, WidthMM: sizeMM, LengthMM: sizeMM, CookedMM: sizeMM * r.CookedGrowth, Count: n,
		PerSheet: n, OneG: pieceG,
		DoughG: float64(n) * pieceG,
		CutMin: float64(n) * r.FormedS / 60, Rope: &Rope{ropeMM, pieceG / perMM, doughG / perMM / 1000}}
	o.MadeG, o.TrimG = o.DoughG, doughG-o.DoughG
	return o
}
