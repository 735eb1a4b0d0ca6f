// Package dry answers: how many minutes until the sheet cuts cleanly, until a nest holds,
// and until the edges crack, in the air of this room?
//
//	flux  = h·max(0, ρv(t, aw) − ρv(t, RH))           g/(m²·s)
//	ρv    = RH·p_sat·0.018015/(8.314·T_K)             kg/m³
//	p_sat = 611.2·e^(17.62t/(243.12+t))               Pa
package dry

import (
	"math"

	"hollen/internal/core/rules"
)

// VapourGM3 returns the water vapour in air of tempC °C at relative humidity rh (0–1),
// g/m³. Magnus formula and the ideal gas law; good to 0.5 % between 0 and 50 °C.
func VapourGM3(tempC, rh float64) float64 {
	sat := 611.2 * math.Exp(17.62*tempC/(243.12+tempC))
	return rh * sat * .018015 / (8.314 * (tempC + 273.15)) * 1000
}

// Flux returns how much water a surface of activity aw (0–1) gives to air of tempC °C and
// humidity rh (0–1) with mass transfer coefficient ms (m/s), g/(m²·s). Never negative.
func Flux(tempC, rh, aw, ms float64) float64 {
	return ms * max(0, VapourGM3(tempC, aw)-VapourGM3(tempC, rh))
}

// BoardLossG returns the water a dough of flourG g flour loses while it is kneaded on the
// board, g: flux at the dough's activity, over 0.045 m² at 500 g of dough, for 10 minutes.
func BoardLossG(r rules.Rules, tempC, rh, flourG float64) float64 {
	area := r.Room.BoardAreaM2 * math.Pow(r.Room.BoardDoughPerFlour*flourG/r.Room.BoardRefMassG, 2./3)
	return Flux(tempC, rh, r.Dry.BoardActivity, r.Dry.StillMS) * area * r.Room.BoardSeconds
}

// Air is the air round the sheet.
type Air string

// Still air, or a gentle fan.
const (
	Still Air = "still"
	Fan   Air = "fan"
)

// Sheet is what dries.
type Sheet struct {
	ThickMM       float64
	DensityGPerML float64
	WaterShare    float64 // of mass, 0–1
	EquilibriumWB float64 // moisture its solids reach in this air, share wet basis
}

// Room is the air it dries in.
type Room struct {
	TempC, RH float64
	Air       Air
}

// Rate is how a sheet dries: the constant rate at first and the loss at which it would
// stop.
type Rate struct {
	PerMin   float64 `json:"share_per_min"`     // share of mass a minute, while the surface is wet
	EndLoss  float64 `json:"loss_at_end"`       // share of mass lost at equilibrium
	DeltaGM3 float64 `json:"vapour_delta_g_m3"` // what drives it
}

// Of returns the drying rate of s in air a with faces of it open (2 rack, 1 board, 0.3
// nest).
func Of(r rules.Dry, s Sheet, a Room, faces float64) Rate {
	ms := r.StillMS
	if a.Air == Fan {
		ms = r.FanMS
	}
	var o Rate
	o.DeltaGM3 = VapourGM3(a.TempC, r.SurfaceActivity) - VapourGM3(a.TempC, a.RH)
	o.PerMin = faces * Flux(a.TempC, a.RH, r.SurfaceActivity, ms) / (s.ThickMM * s.DensityGPerML * 1000) * 60
	o.EndLoss = 1 - (1-s.WaterShare)/(1-s.EquilibriumWB)
	return o
}

// Minutes returns the minutes until the share loss of the mass is gone: constant rate to
// 6 %, beyond it rate·(xe−x)/(xe−.06). ok is false when the air is too damp, the loss is
// not reached, or it would take over two hours: then no number is given.
func (o Rate) Minutes(r rules.Dry, loss float64) (minutes float64, ok bool) {
	if o.DeltaGM3 <= r.LeastGM3 || loss >= o.EndLoss {
		return 0, false
	}
	minutes = min(loss, r.ConstantLoss) / o.PerMin
	if loss > r.ConstantLoss {
		reach := o.EndLoss - r.ConstantLoss
		minutes += reach / o.PerMin * math.Log(reach/(o.EndLoss-loss))
	}
	return minutes, minutes <= r.MostMin
}

// Window is when a sheet or nest is right and when it is past it, min. Will is false when
// it will not dry here.
type Window struct {
	Loss    float64 `json:"loss"` // share of mass
	FromMin float64 `json:"from_min"`
	ToMin   float64 `json:"to_min"`
	Will    bool    `json:"will_dry"`
}

// At returns the window for a loss: from the minute it is reached to 1.6 times that.
func (o Rate) At(r rules.Dry, loss float64) Window {
	m, ok := o.Minutes(r, loss)
	if !ok {
		return Window{Loss: loss}
	}
	return Window{loss, m, m * r.WindowFactor, true}
}

// LossAt returns the share of the mass that is gone after so many minutes: Minutes the other
// way round, without its limit of two hours.
func (o Rate) LossAt(r rules.Dry, minutes float64) float64 {
	if o.DeltaGM3 <= r.LeastGM3 || minutes <= 0 {
		return 0
	}
	first := min(r.ConstantLoss, max(0, o.EndLoss))
	at := first / o.PerMin
	if minutes <= at {
		return minutes * o.PerMin
	}
	reach := o.EndLoss - first
	if reach <= 0 {
		return first
	}
	return first + reach*(1-math.Exp(-(minutes-at)*o.PerMin/reach))
}

// After returns the share of the mass that is gone after so many minutes where a share of it is gone already.
func (o Rate) After(r rules.Dry, gone, minutes float64) float64 {
	if gone >= o.EndLoss {
		return gone
	}
	return max(gone, o.LossAt(r, o.reaches(r, gone)+minutes))
}

// From is At where a share of the mass is gone already: no minutes where that is as much.
func (o Rate) From(r rules.Dry, gone, loss float64) Window {
	if gone <= 0 {
		return o.At(r, loss)
	}
	if loss <= gone {
		return Window{Loss: loss, Will: true}
	}
	m := o.reaches(r, loss) - o.reaches(r, gone)
	if o.DeltaGM3 <= r.LeastGM3 || loss >= o.EndLoss || m > r.MostMin {
		return Window{Loss: loss}
	}
	return Window{loss, m, m * r.WindowFactor, true}
}

// reaches is how many minutes a loss below that at equilibrium takes, however many they are; 0 where the air takes
// nothing.
func (o Rate) reaches(r rules.Dry, loss float64) float64 {
	if o.DeltaGM3 <= r.LeastGM3 {
		return 0
	}
	m, _ := o.Minutes(r, loss)
	return m
}

// KeepG returns what rawG g of pasta weigh when they are dry enough to keep, g:
// raw·(1−water)/(1−.125). waterShare is of the raw pasta, 0–1.
func KeepG(r rules.Dry, rawG, waterShare float64) float64 {
	return rawG * (1 - waterShare) / (1 - r.KeepWB)
}

// Weighing is one check-weigh: minutes since the first, and g.
type Weighing struct{ Min, G float64 }

// Drying is where a lot that dries to keep stands, by its last weighing.
type Drying struct {
	Loss     float64 `json:"loss"`        // share of the raw mass
	Moisture float64 `json:"moisture_wb"` // share wet basis
	MoreG    float64 `json:"more_g"`      // still to lose
	Done     bool    `json:"done"`
	MoreMin  float64 `json:"more_min"` // at the pace of the last two weighings; 0: not known
	Stalled  bool    `json:"stalled"`  // this air, or this pace, never gets there
}

// Follow judges the weighings of rawG g of pasta with that share of water, in air that stops at
// the loss endLoss. The pace is that of the last two, slowing towards the end.
func Follow(r rules.Dry, rawG, waterShare, endLoss float64, log []Weighing) (d Drying, ok bool) {
	if len(log) == 0 || rawG <= 0 {
		return d, false
	}
	last, target := log[len(log)-1], KeepG(r, rawG, waterShare)
	d.Loss = 1 - last.G/rawG
	d.Moisture = max(0, 1-rawG*(1-waterShare)/last.G)
	d.MoreG = max(0, last.G-target)
	if d.Done = last.G <= target+1e-9; d.Done || len(log) < 2 {
		return d, true
	}
	before, end := log[len(log)-2], rawG*(1-endLoss)
	if end >= target || before.G <= last.G || last.G <= end {
		d.Stalled = true
		return d, true
	}
	pace := math.Log((before.G-end)/(last.G-end)) / (last.Min - before.Min)
	d.MoreMin = math.Log((last.G-end)/(target-end)) / pace
	return d, true
}

// Trays returns how many trays n nests or pieces of sizeMM mm fill in one layer, and how many
// go on one; 0 where none fits.
func Trays(r rules.Dry, n int, sizeMM float64) (trays, each int) {
	step := sizeMM + r.TrayGapMM
	each = int((r.TrayLongMM+r.TrayGapMM)/step) * int((r.TrayWideMM+r.TrayGapMM)/step)
	if each == 0 || n == 0 {
		return 0, each
	}
	return (n + each - 1) / each, each
}
