// Package cook answers: how long in the pot, how much water and salt, and how long may it
// be kept first?
//
//	te² = t²w²/(t²+w²),  seconds = 25 + 95·te²
package cook

import (
	"math"

	"hollen/internal/core/rules"
)

// Time is the minutes in the pot: the middle and the range to taste in, s. TasteOnly is
// true for pieces so thick that no number helps.
type Time struct {
	Seconds   float64 `json:"seconds"`
	FromS     float64 `json:"taste_from_s"`
	ToS       float64 `json:"to_s"`
	FrozenS   float64 `json:"from_frozen_s"`   // straight from the freezer
	InPanS    float64 `json:"finish_in_pan_s"` // in the water when it is finished in the pan
	DriedS    float64 `json:"dried_s"`         // after the loss given
	TasteOnly bool    `json:"taste_only"`
	TeMM      float64 `json:"effective_mm"`
}

// Effective returns the thickness that cooks, mm: te² = t²w²/(t²+w²).
func Effective(sheetMM, widthMM float64) float64 {
	t2, w2 := sheetMM*sheetMM, widthMM*widthMM
	return math.Sqrt(t2 * w2 / (t2 + w2))
}

// Fresh returns the time for a ribbon of sheetMM by widthMM which has lost the share loss
// of its mass in drying. House rule, ±25 %.
func Fresh(r rules.Cook, sheetMM, widthMM, loss float64) Time {
	te := Effective(sheetMM, widthMM)
	s := r.BaseS + r.PerMM2S*te*te
	o := Time{Seconds: s, TeMM: te, TasteOnly: te > r.TasteOnlyMM}
	o.DriedS = s * (1 + r.DryGain*loss/r.DryPer)
	o.FromS, o.ToS = s*(1-r.Spread), o.DriedS*(1+r.Spread)
	o.FrozenS = s + r.FrozenMoreS
	o.InPanS = max(s-r.PanLessS, r.BaseS)
	return o
}

// Pot is water and salt for a mass of pasta.
type Pot struct {
	WaterL float64 `json:"water_l"`
	SaltG  float64 `json:"salt_g"`
}

// For returns the pot for pastaG g: 1 L of water and 10 g of salt to 100 g.
func For(r rules.Cook, pastaG float64) Pot {
	return Pot{pastaG * r.WaterPerPasta / 1000, pastaG * r.SaltPerPasta}
}
