package web

import (
	"html/template"
	"strings"

	"hollen/internal/core/doctor"
	"hollen/internal/core/dough"
	"hollen/internal/core/plan"
	"hollen/internal/core/roll"
	"hollen/internal/draw"
)

// Pin says whether the sheet is rolled with a pin.
func (v *batchView) Pin() bool { return v.Plan.Roll.Machine.Tool == dough.Pin }

// WidestWords say which end of the dial is the wide one.
func (v *batchView) WidestWords() string {
	if v.Roped() {
		return "not for this shape"
	}
	if v.Pin() {
		return "pin and board"
	}
	return "widest is " + v.Plan.Roll.Machine.Widest()
}

// TargetWords say at which stop the target is met.
func (v *batchView) TargetWords() string {
	if v.Pin() {
		return ""
	}
	return "stop " + v.Plan.Roll.TargetStop
}

// Skips are the stops that could be left out, none of a pin.
func (v *batchView) Skips() []roll.Skip { return v.Plan.Roll.Skips }

// SetUp is what is done before the first pass.
func (v *batchView) SetUp() []string {
	var out []string
	for _, s := range roll.SetUp(v.Plan.Roll.Machine.Motor) {
		out = append(out, strings.ToUpper(s[:1])+s[1:]+".")
	}
	return out
}

// DustWords say how much to dust, with what, at which pass.
func (v *batchView) DustWords() string {
	words := "The least that works, in the flour of the dough: a breath before the folds, then only where it drags."
	switch f := &v.Plan.Formula; {
	case f.Dough.FatPct >= v.Plan.Rules().Roll.CarefulFatPct:
		words = "None at first: so much yolk does not stick. A breath of flour from the middle stops on."
	case f.Target.Outside(f.Dough.Hw) > 0:
		words = "Both faces before every pass: this dough is soft."
	case v.Plan.Roll.Machine.Motor:
		words = "Both faces, thinly, before each pass: a motor does not wait for a dragging sheet."
	}
	return words + " For cut ribbons semola or rice flour, which fall off again; shake them before the pot."
}

// rollSign is a sign at the roller with what to do now.
type rollSign struct {
	doctor.Sign
	Look template.HTML
	Do   string
}

// RollSigns are the signs that show at the roller and hardly elsewhere, with the first thing
// to do about each for this dough.
func (v *batchView) RollSigns() (out []rollSign) {
	patient := v.Plan.Patient()
	for _, s := range doctor.Search(string(plan.AtRoll), "") {
		if s.Stages[0] != string(plan.AtRoll) && s.Key != "snaps-back" {
			continue
		}
		if found := s.Ask(patient, nil); len(found) > 0 {
			out = append(out, rollSign{s, template.HTML(draw.Sign(s.Look)), found[0].Do})
		}
	}
	return out
}

// stripesView is the joining of a second dough to this one.
type stripesView struct {
	Other   *partnerView
	Laid    roll.Stripes
	Joined  roll.Joined
	Error   string
	Picture template.HTML
	WantsG  float64 // of the other dough

	FinalMM float64 // the sheet at the end of the ladder
}

// Further says whether the joined sheet is rolled on.
func (s *stripesView) Further() bool { return s.FinalMM < s.Joined.SheetMM }

// FinalStripeMM is a stripe's width at the end: between two rollers a sheet gets longer as it
// gets thinner, and no wider.
func (s *stripesView) FinalStripeMM() float64 {
	return s.Joined.StripeMM * s.Joined.SheetMM / s.FinalMM
}

// FinalPitchMM is how far apart stripes are at the end.
func (s *stripesView) FinalPitchMM() float64 { return s.Joined.PitchMM * s.Joined.SheetMM / s.FinalMM }

// Stripes is how the other dough of this batch is joined as stripes, nil where there is none
// or a pin rolls.
func (v *batchView) Stripes() *stripesView {
	if v.Partner == nil || v.Pin() {
		return nil
	}
	s := &stripesView{Other: v.Partner, Laid: v.Req.Roll.Stripes, FinalMM: v.Plan.Roll.SheetMM}
	j, err := v.Plan.Join()
	if err != nil {
		s.Error = strings.ToUpper(err.Error()[:1]) + err.Error()[1:] + "."
		return s
	}
	s.Joined, s.WantsG = j, j.StripeG*v.Plan.Formula.Dough.MassG
	s.Picture = template.HTML(draw.StripesAbove(s.Laid, j, v.Partner.Plan.Formula.Colour.Face))
	return s
}
