package sack

import (
	"math"

	"hollen/internal/core/rules"
)

// Help is something a kitchen may do to know its flour better.
type Help string

// What helps, in the order it is worth asking.
const (
	AskMiller Help = "miller" // the absorption of the miller's sheet
	DryASmall Help = "oven"   // 50 g in the oven, once a sack
	WeighSack Help = "weigh"  // when flour is taken and before it is taken again
	SayWord   Help = "word"   // how the dough of every batch felt
	// SmallDoughs are worth about one batch: where the first must not fail, and where the hand is not known yet.
	SmallDoughs Help = "doughs"
)

// Gain is what one of them would bring here: how far the aim lies from what the flour truly wants, on the mean, points
// of working hydration, before and after.
type Gain struct {
	Help             Help
	HandsMin, AllMin float64
	FlourG           float64
	From, To         float64
}

// Known is what is known of a flour and its sack by now.
type Known struct {
	WB, SD      float64 // moisture, share, and its standard deviation
	StartSD     float64 // of where it was last measured, or when it was opened
	KG          float64 // in it
	StepG       float64 // of the scale there is
	Hw          float64 // the aim, points
	FromSheet   bool    // its absorption is the miller's
	MayBeTaught bool    // no batch of it has had a word yet
}

// meanOf is the mean distance of a bell of that standard deviation.
func meanOf(sd float64) float64 { return math.Sqrt(2/math.Pi) * sd }

// aimSD is how far the aim is off, points: moisture by dHw/dm, absorption by what a per cent of it is worth.
func (k *Known) aimSD(me rules.Measure, perPct, moistureSD, absorptionPct float64) float64 {
	return math.Hypot((100+k.Hw)/(1-k.WB)*moistureSD, perPct*absorptionPct)
}

// Gains returns what would help here, in the order it is worth asking, each with what it would bring alone; perPct is
// what a per cent of absorption moves the aim by, points.
func Gains(ru rules.Flour, me rules.Measure, k Known, perPct float64) (out []Gain) {
	absorption := me.AbsorptionSDPct
	if k.FromSheet {
		absorption = me.SheetSDPct
	}
	now := k.aimSD(me, perPct, k.SD, absorption)
	add := func(h Help, hands, all, flourG, sd float64) {
		if sd < now-1e-9 {
			out = append(out, Gain{h, hands, all, flourG, meanOf(now), meanOf(sd)})
		}
	}
	if !k.FromSheet {
		add(AskMiller, 0, 0, 0, k.aimSD(me, perPct, k.SD, me.SheetSDPct))
	}
	take := TakeG(k.StepG)
	_, oven := Together(0, k.SD, 0, OvenSD(me, k.StepG, take))
	if alone := OvenSD(me, k.StepG, take); alone <= ru.MeasuredSD {
		oven = alone
	}
	add(DryASmall, 6, 100, take, k.aimSD(me, perPct, oven, absorption))
	const takings = 4
	weighed := math.Hypot(k.StartSD, ByWeightSD(k.StepG, 1000*max(k.KG, .05), k.WB, takings))
	add(WeighSack, 1, 1, 0, k.aimSD(me, perPct, weighed, absorption))
	if k.MayBeTaught {
		add(SayWord, 0, 0, 0, 1/math.Sqrt(1/(now*now)+1/me.BatchWordVar))
		add(SmallDoughs, 24, 44, 150, 1/math.Sqrt(1/(now*now)+1/me.SittingVar))
	}
	return out
}
