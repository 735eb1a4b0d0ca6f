package practice

import "math"

// Part is where points are lost.
type Part int

// The parts, in the order of work.
const (
	LostWater Part = iota
	LostKnead
	LostSheet
	LostHoles
	LostFlakes
	LostTense
	LostCut
	LostBite
	LostWaste
	LostMinutes
	LostHands
	LostSafety
	parts
)

// partWords are where the points went, as a sentence goes on.
var partWords = [parts]string{"in the water", "in the kneading", "at the sheet", "in holes", "in hard flakes",
	"in ribbons that pull in", "at the cut", "in the pot", "in dough thrown away", "in minutes",
	"in the hands’ minutes",
	"by the food clock"}

// Words say where, to stand after a number of points.
func (p Part) Words() string { return partWords[p] }

// Lost is what is lost of a hundred points, by part.
type Lost [parts]float64

// Sum is all of it, at most 100.
func (l Lost) Sum() float64 {
	sum := 0.
	for _, v := range l {
		sum += v
	}
	return min(100, sum)
}

// limits are the minutes out of the fridge at which the dough is to be used and thrown away.
func (d *Dough) limits() (caution, discard float64) {
	s := &d.b.Rules.Safety
	if d.tempC > s.HotC {
		return s.HotCautionMin, s.HotDiscardMin
	}
	return s.CautionMin, s.DiscardMin
}

// Lost says what the dough as it is now has lost.
func (d *Dough) Lost() Lost {
	r := &d.b.Rules.Practice.Lost
	var l Lost
	l[LostWater] = min(r.WaterMost, r.Water*math.Pow(max(0, math.Abs(d.Dev)-r.WaterFree), r.WaterPower))
	l[LostKnead] = min(r.KneadMost, r.Knead*max(0, r.KneadD-d.D()))
	l[LostSheet] = min(r.SheetMost, r.Sheet*max(0, math.Abs(math.Log(d.MM/d.b.AimMM))-r.SheetFree))
	if d.Holes {
		l[LostHoles] = r.Hole
	}
	l[LostFlakes] = min(r.FlakesMost, r.Flakes*max(0, d.Flakes-r.FlakesFree))
	l[LostTense] = r.Tense * d.Tense
	l[LostCut] = r.Weld*d.Weld + r.Brittle*d.Brittle
	l[LostBite] = min(r.BiteMost, r.Bite*max(0, -d.Bite-r.HardFree, d.Bite-r.SoftFree))
	l[LostWaste] = min(r.GramsMost, r.Gram*d.WasteG)
	l[LostMinutes] = r.Minute * max(0, d.Min-d.b.PlanMin)
	l[LostHands] = r.Hand * max(0, d.Hands-d.b.PlanHandsMin)
	caution, discard := d.limits()
	switch {
	case d.Out > discard:
		l[LostSafety] = r.Discard
	case d.Out > caution:
		l[LostSafety] = r.Caution
	}
	return l
}
