package roll

import (
	"errors"
	"fmt"
	"math"

	"hollen/internal/core/measure"
)

// Laid is which way strips are laid on a base.
type Laid string

// The ways strips are laid.
const (
	LaidAcross  Laid = ""        // across the sheet, which passes them one after the other
	LaidAlong   Laid = "along"   // along it
	LaidLattice Laid = "lattice" // both ways
)

// Colour is which dough a strip is of.
type Colour string

// The doughs a pattern is of.
const (
	BareBase    Colour = ""
	OtherDough  Colour = "other" // the second dough of the batch
	ThirdColour Colour = "third" // of the base dough, coloured
)

// Strip is one strip of a pattern and the bare base after it, as laid.
type Strip struct {
	Colour  Colour  `json:"colour"`
	WidthMM float64 `json:"width_mm"`
	GapMM   float64 `json:"gap_mm"`
}

// Stripes is a sheet of several colours: strips of one dough, or two, laid on a base of another, joined by
// one pass.
type Stripes struct {
	BaseMM   float64 `json:"base_mm"`   // tb
	StripeMM float64 `json:"stripe_mm"` // ts
	WidthMM  float64 `json:"width_mm"`  // of a strip, where all are alike
	PitchMM  float64 `json:"pitch_mm"`  // from one to the next
	Lay      Laid    `json:"laid"`
	Strips   []Strip `json:"strips"`       // up to 8, repeated along the sheet; none: all alike, of the other dough
	Mirror   bool    `json:"mirrored"`     // forth and back
	Third    string  `json:"third_colour"` // key of the addition that colours it, "" where there is none
}

// Band is a strip of a pattern, or the bare base between two.
type Band struct {
	Colour Colour
	MM     float64
}

// Bands returns one turn of the pattern as laid, in order, bare base included.
func (s Stripes) Bands() (out []Band) {
	if len(s.Strips) == 0 {
		return []Band{{OtherDough, s.WidthMM}, {BareBase, s.PitchMM - s.WidthMM}}
	}
	add := func(c Colour, mm float64) {
		if mm > 0 {
			out = append(out, Band{c, mm})
		}
	}
	for _, x := range s.Strips {
		add(x.Colour, x.WidthMM)
		add(BareBase, x.GapMM)
	}
	if s.Mirror {
		for i := len(s.Strips) - 1; i >= 0; i-- {
			add(s.Strips[i].Colour, s.Strips[i].WidthMM)
			if i > 0 {
				add(BareBase, s.Strips[i-1].GapMM)
			}
		}
		add(BareBase, s.Strips[len(s.Strips)-1].GapMM)
	}
	return out
}

// Covered returns how long one turn of the pattern is, mm, and what share of it a colour covers; of all strips
// where the colour is BareBase.
func (s Stripes) Covered(c Colour) (turnMM, share float64) {
	for _, b := range s.Bands() {
		turnMM += b.MM
		if b.Colour != BareBase && (c == BareBase || b.Colour == c) {
			share += b.MM
		}
	}
	return turnMM, share / turnMM
}

// Joined is what the joining pass leaves.
type Joined struct {
	Phi       float64 `json:"phi"` // share of the base that strips cover, one way
	Stop      int     `json:"stop_index"`
	Label     string  `json:"stop"`
	SheetMM   float64 `json:"sheet_mm"`
	Reduction float64 `json:"reduction"` // of base and strip together
	Easy      float64 `json:"easy"`
	Longer    float64 `json:"longer"`        // length over length before
	Stripe    float64 `json:"stripe_wider"`  // a strip across, after over before
	Base      float64 `json:"base_wider"`    // bare base, after over before
	Smoothed  bool    `json:"base_smoothed"` // the bare base is no thicker than the gap: it is only smoothed
	StripeG   float64 `json:"stripe_share"`  // mass of strips over mass of base, g/g
	StripeMM  float64 `json:"stripe_mm"`     // width of the first strip after the pass
	PitchMM   float64 `json:"pitch_mm"`      // one turn of the pattern, after it
}

// The most that one turn of a pattern may be, mm.
const mostTurnMM = 800

// Check returns an error for measures that make no sheet: base 0.6–6 mm, strip 0.2–3 mm and
// no thicker than the base, width 2–200 mm, pitch wider than the strip; of a pattern of its own at most 800 mm a turn.
func (s Stripes) Check() error {
	var errs []error
	if !(s.BaseMM >= .6 && s.BaseMM <= 6) {
		errs = append(errs, measure.Faultf("base_mm", "%g; 0.6 to 6 mm is allowed", s.BaseMM))
	}
	if !(s.StripeMM >= .2 && s.StripeMM <= min(3, s.BaseMM)) {
		errs = append(errs, measure.Faultf("stripe_mm", "%g; 0.2 to 3 mm, and no thicker than the base, is allowed",
			s.StripeMM))
	}
	if len(s.Strips) > 0 {
		if _, third := s.Covered(ThirdColour); third > 0 && s.Third == "" {
			errs = append(errs, measure.Faultf("third_colour", "a strip is of the third colour: say what colours it"))
		}
		if turn, _ := s.Covered(BareBase); !(turn >= 2 && turn <= mostTurnMM) {
			errs = append(errs, measure.Faultf("strips", "one turn of the pattern is %.0f mm; 2 to %d mm is allowed",
				turn, mostTurnMM))
		}
		return errors.Join(errs...)
	}
	if !(s.WidthMM >= 2 && s.WidthMM <= 200) {
		errs = append(errs, measure.Faultf("width_mm", "%g; 2 to 200 mm is allowed", s.WidthMM))
	}
	if !(s.PitchMM > s.WidthMM && s.PitchMM <= 400) {
		errs = append(errs, measure.Faultf("pitch_mm", "%g; wider than the stripe and up to 400 mm is allowed",
			s.PitchMM))
	}
	return errors.Join(errs...)
}

// After returns how a sheet of tOut mm stretches, all over before: what a strip across it lies on, the bare
// base, and the length as the two share it. Where strips run along the sheet, all of it stretches alike:
//
//	across   strip (tb+ts)/t, base max(1, tb/t), length φ·strip + (1−φ)·base
//	along    (tb+φts)/t, widths unchanged
//	lattice  across with tb+φts for tb
func (s Stripes) After(tOut float64) (longer, stripe, base float64) {
	_, phi := s.Covered(BareBase)
	tb := s.BaseMM
	if s.Lay != LaidAcross {
		tb += phi * s.StripeMM // what runs along lies everywhere
	}
	if base = max(1, tb/tOut); s.Lay == LaidAlong {
		return base, base, base
	}
	stripe = max(1, (tb+s.StripeMM)/tOut)
	return phi*stripe + (1-phi)*base, stripe, base
}

// ThickMM is the sheet at its thickest before the joining: base and strip, of a lattice two where they cross.
func (s Stripes) ThickMM() float64 {
	if s.Lay == LaidLattice {
		return s.BaseMM + 2*s.StripeMM
	}
	return s.BaseMM + s.StripeMM
}

// Drawn returns one turn of the pattern after a pass that leaves the joined sheet, and rolled on to finalMM:
// each band by its own stretch, then all alike. Strips along the sheet keep their widths.
func (j Joined) Drawn(s Stripes, finalMM float64) (out []Band) {
	on := max(1, j.SheetMM/finalMM)
	for _, b := range s.Bands() {
		switch {
		case s.Lay == LaidAlong:
		case b.Colour == BareBase:
			b.MM *= j.Base * on
		default:
			b.MM *= j.Stripe * on
		}
		out = append(out, b)
	}
	return out
}

// Stripes as thick as base may leave a thicker sheet. Source: house.
const (
	joinOver, joinOverThick = .25, .40 // of the stripe's thickness over the base
	thickStripe             = .9       // of the base: from there on
	joinMore                = .08      // over what is easy: the pass presses as it thins, share
)

// Join finds the widest stop that joins the strips in one pass: its sheet t no thicker than
// tb + .25 ts (tb + .4 ts for strips nearly as thick as the base), and base and strip together
// thinned by no more than is easy for the dough and .08.
func (l *Lay) Join(s Stripes) (Joined, error) {
	if err := s.Check(); err != nil {
		return Joined{}, err
	}
	over := joinOver
	if s.StripeMM >= thickStripe*s.BaseMM {
		over = joinOverThick
	}
	for i, st := range l.Machine.Stops {
		t := l.Sheet(st.TrueMM(), 1)
		if t > s.BaseMM+over*s.StripeMM+1e-9 {
			continue
		}
		j := l.joined(s, i, t)
		if j.Reduction > j.Easy+1e-9 {
			return j, fmt.Errorf("stop %s takes %.1f %% off base and stripe where %.1f %% is easy: a thicker base, "+
				"or a thinner stripe", st.Label,
				100*j.Reduction, 100*j.Easy)
		}
		return j, nil
	}
	return Joined{}, errors.New("no stop of this machine is finer than the base: a thicker base")
}

// JoinAt joins the strips at the pass of an own way before which they are laid on: at its stop, on the sheet there is.
func (l *Lay) JoinAt(s Stripes, x Pass) (Joined, error) {
	s.BaseMM = x.InMM - s.StripeMM
	if err := s.Check(); err != nil {
		return Joined{}, err
	}
	return l.joined(s, x.Stop, x.OutMM), nil
}

// joined is what a pass at a stop that leaves t mm makes of base and strips.
func (l *Lay) joined(s Stripes, stop int, t float64) Joined {
	st, both := l.Machine.Stops[stop], s.ThickMM()
	turn, phi := s.Covered(BareBase)
	j := Joined{Phi: phi, Stop: stop, Label: st.Label, SheetMM: t, Easy: l.Easy(st.TrueMM()) + joinMore,
		Reduction: (both - t) / both, Smoothed: t >= s.BaseMM && s.Lay != LaidAlong}
	j.Longer, j.Stripe, j.Base = s.After(t)
	j.StripeG = phi * s.StripeMM / s.BaseMM
	if s.Lay == LaidLattice {
		j.StripeG *= 2
	}
	j.PitchMM, j.StripeMM = turn*j.Longer, s.Bands()[0].MM*j.Stripe
	if s.Lay == LaidAlong {
		j.PitchMM, j.StripeMM = turn, s.Bands()[0].MM
	}
	return j
}

// MassG is how much dough a colour of the strips takes on baseG g of base, g.
func (s Stripes) MassG(c Colour, baseG float64) float64 {
	_, share := s.Covered(c)
	times := 1.
	if s.Lay == LaidLattice {
		times = 2
	}
	return math.Max(0, times*share*s.StripeMM/s.BaseMM*baseG)
}
