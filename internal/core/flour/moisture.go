package flour

import (
	"math"

	"hollen/internal/core/rules"
)

// henderson holds the modified Henderson coefficients for wheat.
// Source: published desorption equilibria of wheat classes, standard error about 1 point.
var henderson = map[Sorption]struct{ a, b, c float64 }{
	Soft:  {1.2299e-5, 2.5558, 64.346},
	Hard:  {2.3007e-5, 2.2857, 55.815},
	Durum: {2.5738e-5, 2.2110, 70.318},
}

// Limits of the equilibrium equation. Air outside them is clamped.
const (
	MinRH, MaxRH       = .10, .90 // share
	MinTempC, MaxTempC = 5., 40.  // °C
)

// Equilibrium returns the moisture, share wet basis, that flour of class s reaches in air
// of tempC °C and relative humidity rh (share 0–1), and whether the air had to be clamped
// to 5–40 °C and 10–90 %. Modified Henderson, M = (−ln(1−RH)/(A(t+C)))^(1/B) in % dry
// basis; ±1 point. An unknown class counts as soft.
func Equilibrium(s Sorption, tempC, rh float64) (moistureWB float64, clamped bool) {
	k, ok := henderson[s]
	if !ok {
		k = henderson[Soft]
	}
	t, h := min(max(tempC, MinTempC), MaxTempC), min(max(rh, MinRH), MaxRH)
	dry := math.Pow(-math.Log(1-h)/(k.a*(t+k.c)), 1/k.b)
	return dry / (100 + dry), t != tempC || h != rh
}

// Keeping says how a flour has been kept since it was opened.
type Keeping string

// The ways of keeping flour, from the tightest to the most open.
const (
	SealedTub Keeping = "sealed_tub"
	PaperBag  Keeping = "paper_bag"
	OpenBin   Keeping = "open_bin"
	Sifted    Keeping = "sifted"
)

// known says whether it is one of the ways there are.
func (k Keeping) known() bool {
	switch k {
	case SealedTub, PaperBag, OpenBin, Sifted:
		return true
	}
	return false
}

// TauDays returns the time constant, days, with which massKG of flour kept that way
// approaches equilibrium; mass counts between 0.25 and 25 kg.
func (k Keeping) TauDays(r rules.Flour, massKG float64) float64 {
	tau := r.DriftBagDays
	switch k {
	case SealedTub:
		tau = r.DriftTubDays
	case OpenBin:
		tau = r.DriftBinDays
	case Sifted:
		tau = r.DriftSiftedDays
	}
	return tau * math.Pow(min(max(massKG, .25), 25), r.DriftMassPower)
}

// Moisture is a flour's moisture today and where the figure comes from.
type Moisture struct {
	NowWB         float64 `json:"now_wb"`         // share wet basis
	MilledWB      float64 `json:"milled_wb"`      // share wet basis, when the bag was opened
	EquilibriumWB float64 `json:"equilibrium_wb"` // share wet basis, where the room draws it
	TauDays       float64 `json:"tau_days"`       // time constant of the drift, days
	Measured      bool    `json:"measured"`       // true when NowWB was measured
	AirClamped    bool    `json:"air_clamped"`    // true when the air was outside the equation's range
	Bounded       bool    `json:"bounded"`        // true when the estimate was held to the house bounds
	// Sack is what the history of its sack says; nil where nothing was measured of it.
	Sack *rules.LearnedSack `json:"-"`
}

// Kept is how long and in what a flour has been kept, and a measurement if there is one.
type Kept struct {
	How        Keeping
	Days       float64  // days since opening, ≥ 0
	MassKG     float64  // kg in the container
	MeasuredWB *float64 // share wet basis, nil when not measured
	StartWB    float64  // share wet basis, when it was opened or last measured; 0: as milled
	// Sack is what the history of its sack says, nil where nothing was measured of it.
	Sack *rules.LearnedSack
}

// Now returns the moisture of f today: m = m_eq + (m_0 − m_eq)·e^(−days/τ), held to the
// house bounds while it is only an estimate, or the measurement as it stands.
func (f Flour) Now(r rules.Flour, k Kept, tempC, rh float64) Moisture {
	m := Moisture{MilledWB: f.MilledMoistureWB, TauDays: k.How.TauDays(r, k.MassKG)}
	if m.MilledWB == 0 {
		m.MilledWB = r.MilledMoistureWB
	}
	if k.StartWB > 0 {
		m.MilledWB = k.StartWB
	}
	m.EquilibriumWB, m.AirClamped = Equilibrium(f.Sorption, tempC, rh)
	if k.MeasuredWB != nil {
		m.NowWB, m.Measured = *k.MeasuredWB, true
		return m
	}
	if s := k.Sack; s != nil {
		m.NowWB = s.WB
		m.Sack, m.Bounded = s, s.Held
		m.Measured = s.SD <= r.MeasuredSD
		return m
	}
	est := m.EquilibriumWB + (m.MilledWB-m.EquilibriumWB)*math.Exp(-k.Days/m.TauDays)
	m.NowWB = min(max(est, r.EstimateLowWB), r.EstimateHighWB)
	m.Bounded = m.NowWB != est
	return m
}
