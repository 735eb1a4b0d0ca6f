// Package practice answers: what would you do with this dough, and what comes of it?
//
// A dough nobody can see into is made of a real plan, with what a real day gets wrong drawn at random. It shows signs
// as a dough does: late, noisy, and with more than one cause. Nothing but what was done is kept: the dough is made
// again from its seed and folded over the acts. A call is judged by what could be known, not by how it ended:
//
//	regret = E[points lost | option] − the least of all options,  over doughs that could be this one
//	their weights ∝ Π P(word | dough) over the signs shown
//
// Laws are those of knead, roll, dry and cook; every spread and weight stands in rules.Practice.
package practice

import (
	"math"
	"math/rand/v2"

	"hollen/internal/core/cook"
	"hollen/internal/core/doctor"
	"hollen/internal/core/dough"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// phi is the normal distribution.
func phi(z float64) float64 { return .5 * math.Erfc(-z/math.Sqrt2) }

// clamp holds v between a and b.
func clamp(v, a, b float64) float64 { return min(max(v, a), b) }

// Hidden is what is off with a dough, and nobody sees.
type Hidden struct {
	Moisture, Absorption   float64 // share wet basis, %
	Egg, Scale             float64 // shares
	RH, TempC              float64
	Hand, Relax, Dry, Cook float64 // logarithms of their multipliers
	Gap                    float64 // likewise
	SlipG                  float64 // egg miscounted, g
	slips                  bool
	run                    float64 // decides a tear of a pass, 0–1
	seed                   uint64  // of the part of each sign's spread that stays
}

// Cause names a deviation.
type Cause int

// The deviations, in the order they are drawn.
const (
	OffMoisture Cause = iota
	OffAbsorption
	OffEgg
	OffScale
	OffRoom
	OffTemp
	OffHand
	OffRelax
	OffDry
	OffCook
	OffGap
	causes
)

// at returns where a deviation stands and its spread.
func (h *Hidden) at(b *Base, c Cause) (v *float64, sd float64) {
	r := &b.Rules.Practice
	switch c {
	case OffMoisture:
		return &h.Moisture, r.MoistureSD
	case OffAbsorption:
		return &h.Absorption, r.AbsorptionSD
	case OffEgg:
		if b.EggWeighed {
			return &h.Egg, r.EggSD
		}
		return &h.Egg, r.EggCountedSD
	case OffScale:
		return &h.Scale, r.ScaleSD
	case OffRoom:
		return &h.RH, r.RoomRH
	case OffTemp:
		return &h.TempC, r.RoomC
	case OffHand:
		return &h.Hand, r.HandSD
	case OffRelax:
		return &h.Relax, r.RelaxSD
	case OffDry:
		return &h.Dry, r.DrySD
	case OffCook:
		return &h.Cook, r.CookSD
	}
	return &h.Gap, r.GapSD
}

// source is a stream of chance of its own for a seed and what it is for.
func source(seed uint64, what ...uint64) *rand.Rand {
	h := uint64(14695981039346656037)
	for _, w := range what {
		h = (h ^ w) * 1099511628211
	}
	return rand.New(rand.NewPCG(seed, h))
}

// hash is a number of a word, for a stream of its own.
func hash(words ...string) uint64 {
	h := uint64(14695981039346656037)
	for _, w := range words {
		for _, c := range []byte(w) {
			h = (h ^ uint64(c)) * 1099511628211
		}
		h = (h ^ 255) * 1099511628211
	}
	return h
}

// contains says whether a drill is about c.
func contains(focus []Cause, c Cause) bool {
	for _, f := range focus {
		if f == c {
			return true
		}
	}
	return false
}

// draw draws what is off at a level, 1 to 3. What a drill is about is drawn wider; at level 1 one thing is off.
func draw(b *Base, rng *rand.Rand, level int, focus ...Cause) Hidden {
	r := &b.Rules.Practice
	l := r.Levels[level-1]
	var z [causes]float64
	for c := range z {
		z[c] = rng.NormFloat64() * l.Spread
		if contains(focus, Cause(c)) {
			z[c] *= r.Focus
		}
	}
	h := Hidden{run: .5}
	h.slips = rng.Float64() < l.Slip && !contains(focus, OffHand) && !contains(focus, OffCook)
	slip := r.SlipLow + (r.SlipHigh-r.SlipLow)*rng.Float64()
	if rng.IntN(2) == 0 {
		slip = -slip
	}
	if l.One {
		one := Cause(rng.IntN(int(causes)))
		if len(focus) > 0 {
			one = focus[rng.IntN(len(focus))]
		}
		by := r.OneLow + (r.OneHigh-r.OneLow)*rng.Float64()
		for c := range z {
			z[c] *= r.OneRest
		}
		z[one] = math.Copysign(by, z[one])
	}
	for c := range z {
		v, sd := h.at(b, Cause(c))
		*v = z[c] * sd
	}
	if h.slips {
		h.SlipG = slip * b.F14G / 100 / b.eggWater
	}
	h.run = rng.Float64()
	h.seed = rng.Uint64()
	return h
}

// Draw returns what is off with the dough of a seed: always the same, and none that good work cannot bring over
// rules.Practice.LeastPoints.
func Draw(b *Base, seed uint64, level int) Hidden {
	var h Hidden
	for n := range uint64(50) {
		h = draw(b, source(seed, hash("dough"), uint64(level), n), level)
		d := New(b, h, 0)
		lost := finish(&d, Shaggy, false, .5)
		if 100-lost.Sum() >= b.Rules.Practice.LeastPoints {
			return h
		}
	}
	return h
}

// Dough is a practice dough at one moment.
type Dough struct {
	b    *Base
	hid  Hidden
	know knead.Dough // with the constants as it now is
	knead.State
	FlourG, EggG, WaterG float64
	Hw, FatPct, Dev      float64 // Dev: points of working hydration off what this flour wants
	Film                 float64 // points of water, or of flour where negative, not yet worked in
	Skin                 float64 // 0–1
	Tired                float64 // min
	MM                   float64 // of the sheet
	Stop, Folds          int     // Stop −1: no sheet yet
	Holes                bool
	Dust, Flakes, Tense  float64
	X                    float64 // share of the mass dried away
	RackMin              float64
	Weld, Brittle, Bite  float64
	WasteG               float64
	Min, Hands, Out      float64 // clocks: all, of the hands, out of the fridge

	moisture, tempC, rh      float64
	cut, cooked              bool
	hands, relax, kd, kc, kg float64
	noise                    float64
	long                     float64 // longest step of the laws, min; 0: theirs
	density, water           float64 // of made; 0: not worked out
}

// New is a dough of b just mixed, with that off; noise is that of its signs, times their spread.
func New(b *Base, h Hidden, noise float64) Dough {
	r := &b.Rules
	d := Dough{b: b, hid: h, noise: noise, Stop: -1, MM: r.Practice.LumpMM,
		moisture: clamp(b.MoistureWB+h.Moisture, .08, .17), FlourG: b.FlourG * (1 + h.Scale),
		EggG: max(b.EggG*.27, b.EggG*(1+h.Egg)+h.SlipG), rh: clamp(b.RH+h.RH, .1, .9), tempC: b.TempC + h.TempC,
		hands: math.Exp(h.Hand), relax: math.Exp(h.Relax), kd: math.Exp(h.Dry), kc: math.Exp(h.Cook),
		kg: math.Exp(h.Gap)}
	d.State.TempC = d.tempC + r.Knead.ContactRiseC
	d.clock(r.Practice.MixMin, true)
	d.wet()
	return d
}

// wet works the water out anew.
func (d *Dough) wet() {
	b, r := d.b, &d.b.Rules
	f14 := d.FlourG * (1 - d.moisture) / (1 - r.Flour.BasisMoistureWB)
	d.FatPct = 100 * (d.EggG*egg.Whole.Fat + b.otherFatG) / f14
	water := d.EggG*egg.Whole.Water + b.otherWaterG + d.WaterG
	d.Hw = 100*(water+d.FlourG-f14)/f14 + r.Hydration.FatWeight*d.FatPct
	d.Dev = d.Hw - b.AimHw - r.Hydration.AbsorptionWeight*d.hid.Absorption
	d.know = knead.Of(*r, b.blend, d.FatPct, d.Hw, d.FlourG+d.EggG+d.WaterG+b.otherG)
	d.know.TauRMin *= d.relax
	d.know.LongMin = d.long
	d.density = 0
}

// made is the density of the dough as it is, g/mL, and its share of water.
func (d *Dough) made() (density, water float64) {
	if d.density == 0 {
		b := d.b
		flours, a := b.blend, b.other
		flours.MassG, flours.MoistureWB = d.FlourG, d.moisture
		flours.F14G = d.FlourG * (1 - d.moisture) / (1 - b.Rules.Flour.BasisMoistureWB)
		a.WholeEggG, a.LossG = d.EggG, -d.WaterG
		m := dough.Make(b.Rules, flours, a)
		d.density, d.water = m.DensityGPerML, m.WaterShare
	}
	return d.density, d.water
}

// D is the development, 0–1.
func (d *Dough) D() float64 { return d.know.D(d.State) }

// U is the water taken up, 0–1.
func (d *Dough) U() float64 { return d.know.U(d.State) }

// clock lets minutes pass.
func (d *Dough) clock(minutes float64, hands bool) {
	d.Min += minutes
	d.Out += minutes
	if hands {
		d.Hands += minutes
	}
}

// Knead kneads it by hand for minutes, which tire.
func (d *Dough) Knead(minutes float64) {
	p := &d.b.Rules.Practice
	for minutes > 1e-9 {
		dt := min(1, minutes)
		minutes -= dt
		work := d.hands * math.Exp(-max(0, d.Tired-p.TiredMin)/p.TiredMin)
		hand := d.b.Rules.Knead.Hand
		d.State = d.know.Knead(d.State, rules.Method{Work: hand.Work * work, HeatC: hand.HeatC}, dt, d.tempC)
		d.Film *= math.Exp(-work * dt / p.FilmMin)
		d.Tired += dt
		d.WaterG -= dry.BoardLossG(d.b.Rules, d.tempC, d.rh, d.FlourG) * dt * 60 / d.b.Rules.Room.BoardSeconds
		d.Skin *= math.Exp(-dt / p.SkinMin)
		d.clock(dt, true)
		d.wet()
	}
}

// Rest lets it lie for minutes, covered or not, in the room or in the fridge.
func (d *Dough) Rest(minutes float64, open, cold bool) {
	r := &d.b.Rules
	if open {
		g := dry.Flux(d.tempC, d.rh, r.Dry.BoardActivity, r.Dry.StillMS) * minutes * 60 // g/m²
		d.Skin += (1 - d.Skin) * -math.Expm1(-g/r.Practice.SkinGM2)
		d.WaterG -= g * r.Room.BoardAreaM2 * math.Pow(r.Room.BoardDoughPerFlour*d.FlourG/r.Room.BoardRefMassG, 2./3)
	}
	around := d.tempC
	if cold {
		around = d.b.FridgeC
	}
	d.State = d.know.Rest(d.State, minutes, around)
	d.Tired = max(0, d.Tired-r.Practice.TiredBack*minutes)
	d.Min += minutes
	if !cold {
		d.Out += minutes
	}
	d.wet()
}

// Add puts water or flour to it, g; neither is worked in yet.
func (d *Dough) Add(waterG, flourG float64) {
	d.WaterG += waterG
	d.FlourG += flourG
	d.Film += waterG/d.b.waterPoint - flourG/d.b.flourPoint
	d.clock(d.b.Rules.Practice.AddMin, true)
	d.wet()
}

// worked gives points of water, or of flour where negative, in two goes, each kneaded in.
func (d *Dough) worked(points float64) {
	for range 2 {
		d.give(points / 2)
		d.Knead(1)
	}
}

// give gives points of water, or of flour where negative.
func (d *Dough) give(points float64) {
	if points >= 0 {
		d.Add(points*d.b.waterPoint, 0)
		return
	}
	d.Add(0, -points*d.b.flourPoint)
}

// Pare pares off a skin, rubs the rest with wet hands, and wraps it.
func (d *Dough) Pare() {
	p := &d.b.Rules.Practice
	d.WasteG += p.ParedG * d.Skin
	d.Skin *= p.ParedLeft
	d.clock(p.ParedMin, true)
	d.Rest(p.ParedRestMin, false, false)
}

// Fold folds it and passes it at the widest stop, which closes holes.
func (d *Dough) Fold() {
	p := &d.b.Rules.Practice
	d.State = d.know.Folds(d.State, 1)
	d.Flakes = max(d.Flakes, d.Skin)
	d.Folds++
	d.Stop = 0
	d.Holes = false
	l := d.lay()
	d.MM = l.Sheet(d.b.Gaps[0]*d.kg, 2)
	d.Skin *= p.FoldSkin
	d.clock(p.FoldMin, true)
}

// lay is the dough as the rollers meet it.
func (d *Dough) lay() roll.Lay {
	l := d.b.lay
	l.D, l.T, l.FatPct = d.D(), d.T, d.FatPct
	l.OutsideBand = min(0, d.Dev+d.b.under) + max(0, d.Dev-d.b.over)
	return l
}

// over is how much more than easy a pass at gap takes, share of the sheet, with what a skin adds.
func (d *Dough) over(gap, out float64) float64 {
	p, l := &d.b.Rules.Practice, d.lay()
	return 1 - out/d.MM - l.Easy(gap) + p.SkinTears*max(0, d.Skin-p.SkinFree)
}

// tears is how likely a pass so far over easy tears.
func (b *Base) tears(over float64) float64 {
	return phi((over - b.Rules.Practice.TearAt) / b.Rules.Practice.TearSD)
}

// sticks is how likely the sheet sticks at the rollers.
func (d *Dough) sticks() float64 {
	p := &d.b.Rules.Practice
	return phi((d.Dev - p.StickAt - p.StickDust*d.Dust + p.StickWarm*max(0, d.State.TempC-p.StickC)) / p.StickSD)
}

// Pass passes it through stop i; u, 0–1, decides whether it tears.
func (d *Dough) Pass(i int, u float64) (torn, stuck bool) {
	p, l := &d.b.Rules.Practice, d.lay()
	gap, nth := d.b.Gaps[i]*d.kg, 1
	if i == d.Stop {
		nth = 2
	}
	out := min(d.MM, l.Sheet(gap, nth))
	torn = u < d.b.tears(d.over(gap, out))
	stick := d.sticks()
	d.WasteG += p.StickG * stick
	if torn {
		d.Holes = true
		d.WasteG += p.TearG
	}
	d.MM, d.Stop = out, i
	d.Dust = max(0, d.Dust-p.DustPass)
	d.clock(p.PassMin+p.StickMin*stick, true)
	return torn, stick > .5
}

// rate is how it dries.
func (d *Dough) rate() dry.Rate {
	b := d.b
	wb, _ := flour.Equilibrium(b.sorption, d.tempC, d.rh)
	density, water := d.made()
	s := dry.Sheet{ThickMM: d.MM, DensityGPerML: density, WaterShare: water, EquilibriumWB: wb}
	return dry.Of(b.Rules.Dry, s, dry.Room{TempC: d.tempC, RH: d.rh, Air: dry.Still}, b.Rules.Dry.RackFaces)
}

// Wait lets it dry for minutes.
func (d *Dough) Wait(minutes float64) {
	d.RackMin += minutes
	d.X = d.rate().LossAt(d.b.Rules.Dry, d.RackMin/d.kd)
	d.clock(minutes, false)
	d.settle()
}

// Damp lays a damp cloth over it.
func (d *Dough) Damp() {
	p := &d.b.Rules.Practice
	d.X = max(0, d.X-p.DampShare)
	d.clock(p.DampMin, false)
	d.settle()
}

// settle works out what welds and what snaps. A sheet welds and snaps as it is cut; what dries after the cut does as it
// lies, and only what is softer than its band or undusted welds.
func (d *Dough) settle() {
	if d.b.Before || !d.cut {
		return
	}
	d.part()
}

func (d *Dough) part() {
	p := &d.b.Rules.Practice
	d.Weld = phi((p.WeldAt - d.X + p.WeldDev*d.Dev) / p.WeldSD)
	if d.Dust > 0 {
		d.Weld *= p.WeldDust
		if !d.b.Before && d.Dev <= d.b.over {
			d.Weld = 0
		}
	}
	d.Brittle = phi((d.X - d.b.Rules.Dry.BrittleLoss) / p.BrittleSD)
}

// Cut cuts it; a tense sheet pulls in and gets thicker.
func (d *Dough) Cut() {
	p := &d.b.Rules.Practice
	d.Tense = max(0, d.T-p.PullAt)
	d.MM *= 1 + p.Pull*d.Tense
	d.cut = true
	d.part()
	d.clock(p.CutMin, true)
}

// NeedS is how long it needs in the pot, s.
func (d *Dough) NeedS() float64 {
	return d.kc * cook.Of(d.b.Rules.Cook, cook.Piece{ThickMM: d.MM, WidthMM: d.b.WideMM, Loss: d.X}).DriedS
}

// Cook cooks it for s seconds.
func (d *Dough) Cook(s float64) {
	d.Bite = math.Log(max(s, 1) / d.NeedS())
	d.cooked = true
	d.clock(s/60, true)
}

// boil leaves it in the pot for so many seconds more.
func (d *Dough) boil(more float64) {
	d.Bite = math.Log(math.Exp(d.Bite) + more/d.NeedS())
	d.clock(.1, true)
}

// Patient is the dough as the doctor measures acts for it, by the plan.
func (b *Base) Patient() doctor.Dough {
	r := &b.Rules
	return doctor.Dough{F14G: b.F14G, MoistureWB: b.MoistureWB, BasisWB: r.Flour.BasisMoistureWB, Hw: b.AimHw,
		TargetHw: b.AimHw, CautionMin: r.Safety.CautionMin, DiscardMin: r.Safety.DiscardMin, On: doctor.Rollers}
}
