// Package cook answers: how long in the pot, how much water and salt in how many loads, and how
// long may it be kept first?
//
//	te = t·w/√(t²+w²),  seconds = (40 + 70·te^1.5 + what a filling needs)·(1 + .04x + .0015x²), x % of mass lost
package cook

import (
	"math"

	"hollen/internal/core/rules"
)

// Piece is what goes into the pot.
type Piece struct {
	ThickMM float64 // the sheet, twice that at a seam, or the wall of a formed piece
	WidthMM float64
	Loss    float64 // of mass before the pot, share
	FillS   float64 // what its filling needs beyond the dough, s
	Raw     bool    // the filling is raw meat or fish: no early end
}

// Time is the minutes in the pot: the middle and the range to taste in, s. TasteOnly is
// true for pieces so thick that no number helps.
type Time struct {
	Seconds   float64 `json:"seconds"` // fresh
	FromS     float64 `json:"taste_from_s"`
	ToS       float64 `json:"to_s"`
	FrozenS   float64 `json:"from_frozen_s"`   // straight from the freezer
	InPanS    float64 `json:"finish_in_pan_s"` // in the water when it is finished in the pan: two thirds of the time
	DriedS    float64 `json:"dried_s"`         // after the loss given
	TasteOnly bool    `json:"taste_only"`
	TeMM      float64 `json:"effective_mm"`
}

// Effective returns the thickness that cooks, mm: te = t·w/√(t²+w²).
func Effective(thickMM, widthMM float64) float64 {
	t2, w2 := thickMM*thickMM, widthMM*widthMM
	return math.Sqrt(t2 * w2 / (t2 + w2))
}

// Dried returns how long what takes s fresh takes after losing the share loss of its mass, s:
// s·(1 + .04x + .0015x²), x in %. House rule; what is dried to keep takes over three times as long.
func Dried(r rules.Cook, s, loss float64) float64 {
	x := 100 * loss
	return s * (1 + r.DryLinear*x + r.DrySquare*x*x)
}

// Range returns when to taste what takes about s, s: from 40 % before to 25 % after. What is filled
// raw has no early end.
func Range(r rules.Cook, s float64, raw bool) (from, to float64) {
	if raw {
		return s, s * (1 + r.Late)
	}
	return s * (1 - r.Early), s * (1 + r.Late)
}

// Of returns the time for a piece. House rule, −40/+25 %.
func Of(r rules.Cook, p Piece) Time {
	te := Effective(p.ThickMM, p.WidthMM)
	s := r.BaseS + r.PerMMS*math.Pow(te, r.Power) + p.FillS
	o := Time{Seconds: s, TeMM: te, TasteOnly: te > r.TasteOnlyMM}
	o.DriedS = Dried(r, s, p.Loss)
	o.FromS, o.ToS = Range(r, o.DriedS, p.Raw)
	o.FrozenS = s + r.FrozenMoreS
	o.InPanS = s * r.PanShare
	return o
}

// Pot is water and salt for a mass of pasta, and the loads it goes in.
type Pot struct {
	WaterL float64 `json:"water_l"` // for all at once
	SaltG  float64 `json:"salt_g"`
	PotL   float64 `json:"pot_l"`    // the pot there is
	Loads  int     `json:"lots"`     // one after the other
	LoadG  float64 `json:"lot_g"`    // of pasta
	FillL  float64 `json:"pot_fill"` // water in the pot, L
	DoseG  float64 `json:"pot_salt_g"`
}

// For returns the pot for pastaG g: 1 L of water and 10 g of salt to 100 g, in as many loads as
// pots of potL litres, filled four fifths, take.
func For(r rules.Cook, pastaG, potL float64, pots int) Pot {
	o := Pot{WaterL: pastaG * r.WaterPerPasta / 1000, SaltG: pastaG * r.SaltPerPasta, PotL: potL}
	most := potL * r.PotFill * float64(pots)
	o.Loads = max(1, int(math.Ceil(o.WaterL/most-1e-9)))
	each := float64(o.Loads * pots)
	if o.Loads == 1 { // no more pots than it takes
		each = max(1, math.Ceil(o.WaterL/(potL*r.PotFill)-1e-9))
	}
	o.LoadG = pastaG / each
	o.FillL = o.LoadG * r.WaterPerPasta / 1000
	o.DoseG = o.LoadG * r.SaltPerPasta
	return o
}

// Place is where pasta is kept.
type Place string

// The places.
const (
	Fridge  Place = "fridge"
	Freezer Place = "freezer"
	Shelf   Place = "shelf" // dried to keep
)

// Days returns how long pasta keeps there by the usual cautious advice, days: from and to.
// Local food rules come first.
func Days(r rules.Safety, at Place, rawFilling bool) (from, to float64) {
	switch {
	case at == Freezer:
		return r.FreezeLowDays, r.FreezeDays
	case at == Shelf:
		return r.DriedDays, r.DriedDays
	case rawFilling:
		return r.RawFillDays, r.RawFillDays
	}
	return r.FridgeLowDays, r.FridgeDays
}
