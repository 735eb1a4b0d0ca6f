// Package dough answers: what is in the bowl once everything is together, how heavy,
// how dense, how wet, what colour, and what an eater should be told?
//
//	hydration = 100·(water in liquids + F − F14)/F14
//	working hydration Hw = hydration + 0.20·fat %
//	ρ = Σm / Σ(m_i/ρ_i) · (1 − air)
package dough

import (
	"math"

	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/rules"
)

// Amounts is what goes in, g.
type Amounts struct {
	WholeEggG float64 // edible whole egg
	YolkG     float64 // extra yolk
	TopG      float64 // top-up liquid
	TopUp     egg.TopUp
	OilG      float64
	SaltG     float64
	LossG     float64 // water the room takes while kneading
	Others    []Other // purées, powders, ink, herbs …
}

// Other is one addition: its mass, the make-up of a gram of it, and the water it takes up
// and so keeps from the flour, g/g.
type Other struct {
	G, UptakeGPerG float64
	Composition    egg.Composition
}

// Densities of the parts at kitchen temperature, g/mL. Source: food engineering tables.
const (
	waterDensity   = 1.00
	proteinDensity = 1.33
	fatDensity     = .92
	carbDensity    = 1.55
	ashDensity     = 2.4
)

// Dough is a mass balance: masses in g, hydration in points (per 100 g of 14 % flour).
type Dough struct {
	MassG         float64 `json:"mass_g"`
	WaterG        float64 `json:"water_g"`
	ProteinG      float64 `json:"protein_g"`
	FatG          float64 `json:"fat_g"`
	CarbG         float64 `json:"carbohydrate_g"`
	AshG          float64 `json:"ash_g"` // salt included
	DensityGPerML float64 `json:"density_g_per_ml"`
	WaterShare    float64 `json:"water_share"` // of mass, 0–1
	Hydration     float64 `json:"hydration_points"`
	FatPct        float64 `json:"fat_pct_of_flour"` // fat of egg, oil, milk and additions over F14, %
	Hw            float64 `json:"hw_points"`
	KcalPer100G   float64 `json:"kcal_per_100_g"`
	KJPer100G     float64 `json:"kj_per_100_g"`
}

// Make adds the parts of b and a together. Flour's protein and ash are taken at the 14 %
// basis, its fat is 1.2 % of that, the rest of its solids carbohydrate.
func Make(r rules.Rules, b flour.Blend, a Amounts) Dough {
	var d Dough
	if b.F14G == 0 {
		return d
	}
	d.WaterG = b.MassG*b.MoistureWB - a.LossG
	d.ProteinG = b.F14G * b.ProteinPct / 100
	d.AshG = b.F14G*b.AshPct/100 + a.SaltG
	d.FatG = b.F14G * r.Dough.FlourFatShare
	d.CarbG = b.MassG*(1-b.MoistureWB) - d.ProteinG - b.F14G*b.AshPct/100 - d.FatG
	liquidWater, liquidFat := -a.LossG, 0.
	liquids := append([]Other{{a.WholeEggG, 0, egg.Whole}, {a.YolkG, 0, egg.Yolk}, {a.TopG, 0, a.TopUp.Composition()},
		{a.OilG, 0, egg.Oil}}, a.Others...)
	for _, p := range liquids {
		c := p.Composition
		d.WaterG += p.G * c.Water
		d.ProteinG += p.G * c.Protein
		d.FatG += p.G * c.Fat
		d.CarbG += p.G * c.Carb
		d.AshG += p.G * c.Ash
		liquidWater += p.G * (c.Water - p.UptakeGPerG)
		liquidFat += p.G * c.Fat
	}
	d.MassG = d.WaterG + d.ProteinG + d.FatG + d.CarbG + d.AshG
	volume := d.WaterG/waterDensity + d.ProteinG/proteinDensity + d.FatG/fatDensity + d.CarbG/carbDensity +
		d.AshG/ashDensity
	d.DensityGPerML = d.MassG / volume * (1 - r.Dough.AirShare)
	d.WaterShare = d.WaterG / d.MassG
	d.Hydration = 100 * (liquidWater + b.MassG - b.F14G) / b.F14G
	d.FatPct = 100 * liquidFat / b.F14G
	d.Hw = d.Hydration + r.Hydration.FatWeight*d.FatPct
	d.KcalPer100G = (4*d.ProteinG + 4*d.CarbG + 9*d.FatG) / d.MassG * 100
	d.KJPer100G = (17*d.ProteinG + 17*d.CarbG + 37*d.FatG) / d.MassG * 100
	return d
}

// Tool is how the dough will be thinned; it sets the hydration band.
type Tool string

// The three tools.
const (
	Roller  Tool = "roller"
	Pin     Tool = "pin"
	Sheeter Tool = "sheeter"
)

// Target is the working hydration to aim at and the band that still feels right, points.
type Target struct {
	Hw   float64 `json:"hw_points"`
	Low  float64 `json:"low_points"`
	High float64 `json:"high_points"`

	tool Tool
	yolk float64 // share of the egg
}

// Aim returns the target for the tool, blend and shape, at yolk share yolkShare of the egg:
// base + .25(abs−56) + 1.0 if filled − .5 if fine − 1.5·yolkShare.
func Aim(r rules.Hydration, tool Tool, absorptionPct float64, filled, fine bool, yolkShare float64) Target {
	b := band(r, tool)
	hw := b.Base + r.AbsorptionWeight*(absorptionPct-r.AbsorptionBasePct) + r.YolkShift*yolkShare
	if filled {
		hw += r.FilledShift
	}
	if fine {
		hw += r.FineShift
	}
	return Target{hw, hw - b.Under, hw + b.Over, tool, yolkShare}
}

// Moved is the target with its band moved by so many points.
func (t Target) Moved(points float64) Target {
	t.Hw = t.Hw + points
	t.Low = t.Low + points
	t.High = t.High + points
	return t
}

// Outside returns how many points hw lies outside the band: negative below it, positive
// above it, 0 inside.
func (t Target) Outside(hw float64) float64 {
	switch {
	case hw < t.Low:
		return hw - t.Low
	case hw > t.High:
		return hw - t.High
	}
	return 0
}

// band is what the tool asks for.
func band(r rules.Hydration, tool Tool) *rules.Band {
	switch tool {
	case Pin:
		return &r.Pin
	case Sheeter:
		return &r.Sheeter
	}
	return &r.Roller
}

// Feel is how a dough behaves at the bench. Grade counts words away from the band: 0 inside, −1 firm
// to −4 no sheet, +1 soft to +4 no sheet. Makers work daily at one and two.
type Feel struct {
	Grade int
	Words string
}

// Odd says whether a change is asked for: from the third word on.
func (f Feel) Odd() bool { return f.Grade <= -3 || f.Grade >= 3 }

// NoSheet says whether nothing can be rolled from it.
func (f Feel) NoSheet() bool { return f.Grade <= -4 || f.Grade >= 4 }

// firm and soft are the words either side of the band, the nearest first.
var (
	firm = [4]string{"firm", "very firm: knead longer or in turns, rest longer",
		"stiff: for a powered sheeter; by hand it crumbles",
		"will not make a sheet"}
	soft = [4]string{"soft, dust", "very soft, dust much", "clings: more flour", "will not make a sheet"}
)

// OfYolk is the target for a dough of another share of yolk in the egg, read for its word.
func (t Target) OfYolk(share float64) Target {
	t.yolk = share
	return t
}

// Feel returns how a dough of working hydration hw behaves at the bench. The word counts the yolk, which sets firm: it
// is
// read so many points lower.
func (t Target) Feel(r rules.Hydration, hw float64) Feel {
	b, out := band(r, t.tool), t.Outside(hw-r.YolkWord*t.yolk)
	if out == 0 {
		return Feel{0, "supple, holds an edge"}
	}
	words := soft
	reach := b.Soft
	sign := 1
	if out < 0 {
		words = firm
		reach = b.Firm
		sign = -1
		if t.tool == Sheeter {
			words[2] = "stiff: crumbs first, fold more"
		}
	}
	i := 0
	for i < len(reach) && math.Abs(out) > reach[i] {
		i++
	}
	return Feel{sign * (i + 1), words[i]}
}
