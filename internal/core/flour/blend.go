package flour

import "hollen/internal/core/rules"

// Part is one flour of a blend as it is weighed.
type Part struct {
	Flour    Flour
	MassG    float64  // g as weighed
	Moisture Moisture // today's
}

// F14G returns the mass of p at the 14 % basis, g.
func (p Part) F14G(r rules.Flour) float64 {
	return p.MassG * (1 - p.Moisture.NowWB) / (1 - r.BasisMoistureWB)
}

// Blend is the mass and the share-weighted figures of the flours in the bowl; shares go
// by mass at the 14 % basis.
type Blend struct {
	MassG            float64    `json:"mass_g"`             // as weighed, g
	F14G             float64    `json:"f14_g"`              // at the 14 % basis, g
	MoistureWB       float64    `json:"moisture_wb"`        // share wet basis, as weighed
	ProteinPct       float64    `json:"protein_pct"`        // %
	AshPct           float64    `json:"ash_pct"`            // %
	AbsorptionPct    float64    `json:"absorption_pct"`     // %
	GlutenFactor     float64    `json:"gluten_factor"`      // 0–1
	GlutenProteinPct float64    `json:"gluten_protein_pct"` // Σ share·protein·gluten, %
	DurumShare       float64    `json:"durum_share"`        // 0–1
	WholegrainShare  float64    `json:"wholegrain_share"`   // 0–1
	Measured         bool       `json:"moisture_measured"`  // every flour measured
	EquilibriumWB    float64    `json:"equilibrium_wb"`     // share wet basis, where the air draws the dough's solids
	Uptakes          []UptakeOf `json:"-"`                  // by flour
}

// UptakeOf is one flour's share and its time constant of water uptake, min.
type UptakeOf struct{ Share, TauMin float64 }

// Mix returns the blend of parts. Parts without mass count for nothing; no parts give the
// zero Blend.
func Mix(r rules.Flour, parts []Part) Blend {
	var b Blend
	for _, p := range parts {
		b.MassG += p.MassG
		b.F14G += p.F14G(r)
	}
	if b.F14G == 0 {
		return b
	}
	b.Measured = true
	b.Uptakes = make([]UptakeOf, 0, len(parts))
	for _, p := range parts {
		if p.MassG == 0 {
			continue
		}
		s, f := p.F14G(r)/b.F14G, p.Flour
		b.MoistureWB += p.MassG / b.MassG * p.Moisture.NowWB
		b.EquilibriumWB += s * p.Moisture.EquilibriumWB
		b.ProteinPct += s * f.ProteinPct
		b.AshPct += s * f.AshPct
		b.AbsorptionPct += s * f.AbsorptionPct
		b.GlutenFactor += s * f.GlutenFactor
		b.GlutenProteinPct += s * f.ProteinPct * f.GlutenFactor
		if f.Durum {
			b.DurumShare += s
		}
		if f.Wholegrain {
			b.WholegrainShare += s
		}
		b.Measured = b.Measured && p.Moisture.Measured
		b.Uptakes = append(b.Uptakes, UptakeOf{s, f.UptakeTauMin})
	}
	return b
}

// Scale returns parts with every mass multiplied by k.
func Scale(parts []Part, k float64) []Part {
	out := make([]Part, len(parts))
	for i, p := range parts {
		p.MassG *= k
		out[i] = p
	}
	return out
}
