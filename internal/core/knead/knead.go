// Package knead answers: how long to knead, how long to rest, and is the dough ready?
//
// A dough is followed from the first contact of flour and water by its work W, the credit
// R that rest earns, its tension T, each flour's water uptake U and its temperature:
//
//	D = 1 − e^(−(W+R)/W63)        development
//	T rises with work, T *= e^(−dt/τr) at rest
//	U += (1−U)(1 − e^(−dt/τh))
//
// House model, checked against its reference points; steps of at most 0.1 min, exact
// exponentials within a step.
package knead

import (
	"math"

	"hollen/internal/core/flour"
	"hollen/internal/core/rules"
)

// Dough is what the model needs to know of the dough, with the constants that follow.
type Dough struct {
	r       rules.Knead
	coolC   float64 // what it must read in the fridge, °C
	W63Min  float64 // work to 63 % development, min of hand kneading
	TauRMin float64 // relaxation time at 22 °C, min
	TauDMin float64 // time constant to the surroundings, min
	Gluten  float64 // gluten factor 0–1; under 0.45 only uptake counts
	LongMin float64 // longest step where many doughs are only compared, min; 0: StepMin
	uptakes []flour.UptakeOf
}

// Of returns the model's constants for blend b at fat fatPct (% of flour), working
// hydration hw (points) and mass massG (g):
//
//	W63 = 4.0(1+.25durum+.20wholegrain)(1+.04(Pg−11))(1+.03max(0,42−Hw))(1+.010max(0,fat−5))
//	τr  = 14(1+.06(Pg−11))(1+.3durum)(1+.03max(0,42−Hw))(1−.01clamp(fat−5,0,25))
//	τd  = 75(mass/500)^½
func Of(r rules.Rules, b flour.Blend, fatPct, hw, massG float64) Dough {
	k := r.Knead
	protein := b.GlutenProteinPct - r.Flour.ProteinBasePct
	dry := 1 + k.W63Dry*max(0, k.DryHw-hw)
	fat := max(0, fatPct-k.FatFree)
	return Dough{r: k, coolC: r.Safety.CoolC,
		W63Min: k.W63Min * (1 + k.W63Durum*b.DurumShare + k.W63Whole*b.WholegrainShare) * max(.2,
			1+k.W63Protein*protein) * dry * (1 + k.W63Fat*fat),
		TauRMin: k.TauRelaxMin * max(
			.2,
			1+k.RelaxProtein*protein,
		) * (1 + k.RelaxDurum*b.DurumShare) * dry * (1 - k.RelaxFat*min(fat, k.RelaxFatMax)),
		TauDMin: k.CoolTauMin * math.Sqrt(massG/500),
		Gluten:  b.GlutenFactor, uptakes: b.Uptakes}
}

// maxUptakes is how many flours a blend may have.
const maxUptakes = 5

// State is a dough at one moment.
type State struct {
	Work, Credit float64 // min of hand kneading
	T            float64 // tension 0–1
	TempC        float64
	OutMin       float64 // minutes out of the fridge so far
	u            [maxUptakes]float64
}

// Start returns a dough just come together at tempC.
func (d *Dough) Start(tempC float64) State { return State{TempC: tempC} }

// D returns the development of s, 0–1.
func (d *Dough) D(s State) float64 { return d.dAt(s.Work + s.Credit) }

func (d *Dough) dAt(work float64) float64 { return 1 - math.Exp(-work/d.W63Min) }

// U returns the water uptake of s over all flours, 0–1.
func (d *Dough) U(s State) float64 {
	sum := 0.
	for i, u := range d.uptakes {
		sum += u.Share * s.u[i]
	}
	return sum
}

// StepMin is the longest step of the simulation, min.
const StepMin = .1

// stretch is a time cut into equal steps, with what stays the same over all of them.
type stretch struct {
	steps   int
	dt      float64 // min
	aroundC float64
	cool    float64 // part of the difference to the surroundings left after a step
}

func (d *Dough) stretch(minutes, aroundC float64) stretch {
	step := StepMin
	if d.LongMin > 0 {
		step = d.LongMin
	}
	n := int(math.Ceil(minutes/step - 1e-9))
	dt := minutes / float64(max(n, 1))
	return stretch{n, dt, aroundC, math.Exp(-dt / d.TauDMin)}
}

// pace returns how much faster than at 22 °C a dough at tempC takes up water and relaxes.
func (d *Dough) pace(tempC float64) (uptake, relax float64) {
	uptake = math.Exp2((tempC - 22) / d.r.UptakeDoubling)
	if d.r.UptakeDoubling == 2*d.r.RelaxDoubling {
		return uptake, uptake * uptake
	}
	return uptake, math.Exp2((tempC - 22) / d.r.RelaxDoubling)
}

// ambient moves temperature and uptake over one step; pace is the uptake's.
func (d *Dough) ambient(s *State, x stretch, pace float64) {
	for i, u := range d.uptakes {
		s.u[i] += (1 - s.u[i]) * -math.Expm1(-x.dt/u.TauMin*pace)
	}
	s.OutMin += x.dt
	s.TempC = x.aroundC + (s.TempC-x.aroundC)*x.cool
}

// Knead works s for min minutes by m in a room of roomC.
func (d *Dough) Knead(s State, m rules.Method, minutes, roomC float64) State {
	x := d.stretch(minutes, roomC)
	gain := -math.Expm1(-m.Work * x.dt / d.r.TensionMin)
	for range x.steps {
		s.Work += m.Work * x.dt
		s.T += (1 - s.T) * gain
		uptake, _ := d.pace(s.TempC)
		d.ambient(&s, x, uptake)
		s.TempC += m.HeatC * x.dt
	}
	return s
}

// Rest leaves s wrapped for minutes in surroundings of aroundC.
func (d *Dough) Rest(s State, minutes, aroundC float64) State {
	x := d.stretch(minutes, aroundC)
	for range x.steps {
		uptake, relax := d.pace(s.TempC)
		s.Credit = min(s.Credit+d.r.CreditPerMin*relax*x.dt, max(d.r.CreditMax, s.Credit))
		s.T *= math.Exp(-x.dt / d.TauRMin * relax)
		d.ambient(&s, x, uptake)
	}
	return s
}

// Folds gives s n folded passes at the widest stop.
func (d *Dough) Folds(s State, n int) State {
	for range n {
		s.Work += d.r.FoldWork
		s.T += max(0, d.r.FoldTension-s.T) * -math.Expm1(-d.r.FoldWork/d.r.TensionMin)
	}
	return s
}

// Part is one mass with its heat capacity and temperature.
type Part struct{ MassG, HeatJPerGK, TempC float64 }

// Heat capacities, J/(g·K). Source: food engineering tables.
const (
	FlourHeat = 1.75
	EggHeat   = 3.4
	WaterHeat = 4.2
	OilHeat   = 2.0
)

// ContactC returns the temperature of the dough as it comes together, °C: Σmct/Σmc plus the
// warmth of mixing by hand.
func ContactC(r rules.Knead, parts ...Part) float64 {
	var sum, mass float64
	for _, p := range parts {
		sum += p.MassG * p.HeatJPerGK * p.TempC
		mass += p.MassG * p.HeatJPerGK
	}
	if mass == 0 {
		return 0
	}
	return sum/mass + r.ContactRiseC
}
