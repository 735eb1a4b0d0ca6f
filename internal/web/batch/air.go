package batch

import (
	"fmt"
	"math"
	"net/url"
	"strings"

	"hollen/internal/core/addition"
	"hollen/internal/core/plan"
	"hollen/internal/core/sack"
)

// roomView is the room; the blend is the formula's.
type roomView struct{ formulaView }

// hand is a maker of the cabinet, and what puts them into a batch.
type hand struct{ Name, Set string }

// Hands are the makers of the cabinet.
func (v *roomView) Hands() (out []hand) {
	for _, m := range v.Cabinet.Makers {
		out = append(out, hand{m.Name, url.Values{"made_by": {m.Name}}.Encode()})
	}
	return out
}

// estimatedSD is how far a moisture by one reading of the air may be off, share. Source: house, by simulation.
const estimatedSD = .007

// WouldHelp says what measuring the first flour would bring, where nothing of it is measured or followed; "" where
// something is.
func (v *roomView) WouldHelp() string {
	m := &v.Plan.Formula.Flours[0].Moisture
	if m.Measured || m.Sack != nil || v.Request.Flours[0].Lot != "" {
		return ""
	}
	ru := v.Plan.Rules()
	for _, g := range sack.Gains(ru.Flour, ru.Measure, sack.Known{WB: m.NowWB, SD: estimatedSD,
		StartSD: ru.Measure.StartSD,
		KG:      v.Request.Flours[0].ContainsKG, StepG: .1, Hw: v.Plan.Formula.Target.Hw,
		FromSheet: v.Request.Flours[0].Own != nil}, ru.Hydration.AbsorptionWeight) {
		if g.Help == sack.DryASmall {
			return fmt.Sprintf("right within %.1f of a point on the mean, where it is %.1f now", g.To, g.From)
		}
	}
	return ""
}

// CardFlourG is the flour that goes into the well, g, by the bench card: what was left over
// does not change the card.
func (v *roomView) CardFlourG() float64 { return v.Plan.Room.FlourG - v.Plan.Formula.HeldBackG }

// CardFlours is how the flours of the card are weighed.
func (v *roomView) CardFlours() string {
	var out []string
	for _, x := range v.Plan.Formula.Flours {
		out = append(out, v.In.Grams(x.Share*v.Plan.Room.FlourG)+" "+strings.ToLower(x.Name))
	}
	return strings.Join(out, ", ")
}

// howItGoesIn says at which hand's turn an addition goes in.
var howItGoesIn = map[addition.Kind]string{addition.Puree: "cooled, beaten into the eggs",
	addition.Powder: "sifted into the flour",
	addition.Herb:   "chopped fine, kneaded in", addition.Liquid: "with the eggs"}

// How says how an addition goes in.
func (v *roomView) How(k addition.Kind) string { return howItGoesIn[k] }

// Correction is what the room asks for, g, with its sign.
func (v *roomView) Correction() string {
	c := v.Plan.Room.CorrectionG
	switch {
	case c >= .05:
		return "+" + strings.TrimSuffix(v.In.Grams(c), " g")
	case c <= -.05:
		return "−" + strings.TrimSuffix(v.In.Grams(-c), " g")
	}
	return "0"
}

// PourNow is what is poured at once, whole g: an estimate is not weighed in tenths. Where
// part of the top-up is kept by the board the two add up to it; in damp air all of it is
// poured and what is kept comes on top.
func (v *roomView) PourNow() float64 {
	r := &v.Plan.Room
	if r.KeepG == 0 || r.CorrectionG <= 0 {
		return math.Round(r.PourG)
	}
	return math.Round(r.LiquidG) - v.KeepBy()
}

// KeepBy is what stands by the board, whole g.
func (v *roomView) KeepBy() float64 { return math.Round(v.Plan.Room.KeepG) }

func roomKey(p *plan.Plan) string {
	if p.Formula.TopG == 0 {
		return "no added " + p.TopWord()
	}
	if p.Formula.Pick.EggG == 0 { // it is all the liquid there is, not what the room adds
		return p.In().Grams(p.Formula.TopG) + " " + p.TopWord()
	}
	return "+" + p.In().Grams(p.Formula.TopG) + " " + p.TopWord()
}

// RoomWords are the room a batch is worked out for: "22 °C and 45 %".
func (v *batchView) RoomWords() string {
	return fmt.Sprintf("%s and %.0f %%", v.In.C(v.Request.Room.TempC, 0), 100*v.Request.Room.RH)
}
