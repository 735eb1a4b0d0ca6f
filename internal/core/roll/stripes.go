package roll

import (
	"errors"
	"fmt"

	"hollen/internal/core/measure"
)

// Stripes is a two-coloured sheet: ribbons of one dough laid on a base of another, joined by
// one pass.
type Stripes struct {
	BaseMM   float64 `json:"base_mm"`   // tb
	StripeMM float64 `json:"stripe_mm"` // ts
	WidthMM  float64 `json:"width_mm"`  // of a stripe, along the rolling direction
	PitchMM  float64 `json:"pitch_mm"`
}

// Joined is what the joining pass leaves.
type Joined struct {
	Phi       float64 `json:"phi"` // w/p
	Stop      int     `json:"stop_index"`
	Label     string  `json:"stop"`
	SheetMM   float64 `json:"sheet_mm"`
	Reduction float64 `json:"reduction"` // of base and stripe together
	Easy      float64 `json:"easy"`
	Longer    float64 `json:"longer"`        // length over length before
	Stripe    float64 `json:"stripe_wider"`  // a stripe, after over before
	Base      float64 `json:"base_wider"`    // bare base, after over before
	Smoothed  bool    `json:"base_smoothed"` // the bare base is no thicker than the gap: it is only smoothed
	StripeG   float64 `json:"stripe_share"`  // mass of stripes over mass of base, g/g
	StripeMM  float64 `json:"stripe_mm"`     // width of a stripe after the pass
	PitchMM   float64 `json:"pitch_mm"`      // one every, after it
}

// Check returns an error for measures that make no sheet: base 0.6–6 mm, stripe 0.2–3 mm and
// no thicker than the base, width 2–200 mm, pitch wider than the stripe.
func (s Stripes) Check() error {
	var errs []error
	if !(s.BaseMM >= .6 && s.BaseMM <= 6) {
		errs = append(errs, measure.Faultf("base_mm", "%g; 0.6 to 6 mm is allowed", s.BaseMM))
	}
	if !(s.StripeMM >= .2 && s.StripeMM <= min(3, s.BaseMM)) {
		errs = append(errs, measure.Faultf("stripe_mm", "%g; 0.2 to 3 mm, and no thicker than the base, is allowed", s.StripeMM))
	}
	if !(s.WidthMM >= 2 && s.WidthMM <= 200) {
		errs = append(errs, measure.Faultf("width_mm", "%g; 2 to 200 mm is allowed", s.WidthMM))
	}
	if !(s.PitchMM > s.WidthMM && s.PitchMM <= 400) {
		errs = append(errs, measure.Faultf("pitch_mm", "%g; wider than the stripe and up to 400 mm is allowed", s.PitchMM))
	}
	return errors.Join(errs...)
}

// After returns how a sheet of tOut mm stretches, all over before: the stripe by (tb+ts)/t, the bare
// base by the larger of 1 and tb/t, where it is thinner it is only smoothed; the length as the two
// share it.
func (s Stripes) After(tOut float64) (longer, stripe, base float64) {
	phi := s.WidthMM / s.PitchMM
	stripe, base = (s.BaseMM+s.StripeMM)/tOut, max(1, s.BaseMM/tOut)
	return phi*stripe + (1-phi)*base, stripe, base
}

// Stripes as thick as base may leave a thicker sheet. Source: house.
const (
	joinOver, joinOverThick = .25, .40 // of the stripe's thickness over the base
	thickStripe             = .9       // of the base: from there on
	joinMore                = .08      // over what is easy: the pass presses as it thins, share
)

// Join finds the widest stop that joins the stripes in one pass: its sheet t no thicker than
// tb + .25 ts (tb + .4 ts for stripes nearly as thick as the base), and base and stripe together
// thinned by no more than is easy for the dough and .08.
func (l *Lay) Join(s Stripes) (Joined, error) {
	if err := s.Check(); err != nil {
		return Joined{}, err
	}
	both, over := s.BaseMM+s.StripeMM, joinOver
	if s.StripeMM >= thickStripe*s.BaseMM {
		over = joinOverThick
	}
	for i, st := range l.Machine.Stops {
		t := l.Sheet(st.TrueMM(), 1)
		if t > s.BaseMM+over*s.StripeMM+1e-9 {
			continue
		}
		j := Joined{Phi: s.WidthMM / s.PitchMM, Stop: i, Label: st.Label, SheetMM: t, Easy: l.Easy(st.TrueMM()) + joinMore, Reduction: (both - t) / both,
			Smoothed: t >= s.BaseMM}
		if j.Reduction > j.Easy+1e-9 {
			return j, fmt.Errorf("stop %s takes %.1f %% off base and stripe where %.1f %% is easy: a thicker base, or a thinner stripe", st.Label,
				100*j.Reduction, 100*j.Easy)
		}
		j.Longer, j.Stripe, j.Base = s.After(t)
		j.StripeG = j.Phi * s.StripeMM / s.BaseMM
		j.PitchMM, j.StripeMM = s.PitchMM*j.Longer, s.WidthMM*j.Stripe
		return j, nil
	}
	return Joined{}, errors.New("no stop of this machine is finer than the base: a thicker base")
}
