package plan

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/addition"
	"hollen/internal/core/dough"
	"hollen/internal/core/measure"
	"hollen/internal/core/roll"
)

// Striped is how strips of another dough are laid on a base of this one, joined to it by one pass, and rolled on.
type Striped struct {
	Laid    roll.Stripes
	Joined  roll.Joined
	WantsG  float64 // of the other dough, g
	Third   *ThirdColour
	FinalMM float64 // the sheet at the end of the way down, mm

	in measure.System
}

// ThirdColour is what colours a piece of the base dough for strips of a third colour.
type ThirdColour struct {
	Of      addition.Addition
	Colour  dough.Colour
	DoughG  float64 // of the base dough, g
	ColourG float64 // of what goes into it, g
}

// Name is what colours it, within a sentence.
func (t *ThirdColour) Name() string { return strings.ToLower(t.Of.Name) }

// Striped returns how strips are laid on this dough as the request says; joined Faults say why they cannot be.
func (p *Plan) Striped() (*Striped, error) {
	j, err := p.Join()
	if err != nil {
		return nil, err
	}
	s := &Striped{Laid: p.Request.Roll.Stripes, Joined: j, FinalMM: p.Roll.SheetMM, in: p.in}
	if x, ok := p.Roll.LaidOn(); ok && p.Roll.Own { // on the sheet there is by then
		s.Laid.BaseMM = x.InMM - s.Laid.StripeMM
	}
	base := p.Formula.Dough.MassG
	s.WantsG = s.Laid.MassG(roll.OtherDough, base)
	if c, of, share, ok := p.ThirdColour(); ok {
		if g := s.Laid.MassG(roll.ThirdColour, base); g > 0 {
			s.Third = &ThirdColour{of, c, g, g * share}
		}
	}
	return s, nil
}

// Further says whether the joined sheet is rolled on.
func (s *Striped) Further() bool { return s.FinalMM < s.Joined.SheetMM }

// FinalStripeMM is a stripe's width at the end, mm: between two rollers a sheet gets longer as it
// gets thinner, and no wider.
func (s *Striped) FinalStripeMM() float64 { return s.Joined.StripeMM * s.Joined.SheetMM / s.FinalMM }

// FinalPitchMM is how far apart stripes are at the end, mm.
func (s *Striped) FinalPitchMM() float64 { return s.Joined.PitchMM * s.Joined.SheetMM / s.FinalMM }

// Words are the strips in short, as the batch sheet has them; name is what the other dough is called.
func (s *Striped) Words(name string) string {
	return fmt.Sprintf("Stripes of %s: base to %s, stripes to %s. %s. Join with one pass at stop %s.", name,
		s.in.MM(s.Laid.BaseMM, 2), s.in.MM(s.Laid.StripeMM, 2), s.LaidWords(), s.Joined.Label)
}

// LaidWords say how the strips are laid: where and how far apart, or strip by strip.
func (s *Striped) LaidWords() string {
	mm := func(v float64) string { return s.in.MM(v, measure.Shortest) }
	how := map[roll.Laid]string{roll.LaidAcross: "across the base", roll.LaidAlong: "along the base",
		roll.LaidLattice: "across the base and along it"}[s.Laid.Lay]
	if len(s.Laid.Strips) == 0 {
		return fmt.Sprintf("Lay one of %s every %s %s", mm(math.Round(s.Laid.WidthMM)), mm(math.Round(s.Laid.PitchMM)),
			how)
	}
	var out []string
	for _, b := range s.Laid.Bands() {
		switch b.Colour {
		case roll.OtherDough:
			out = append(out, mm(b.MM)+" of the other dough")
		case roll.ThirdColour:
			out = append(out, mm(b.MM)+" of the third colour")
		default:
			out = append(out, mm(b.MM)+" bare")
		}
	}
	turn, _ := s.Laid.Covered(roll.BareBase)
	return fmt.Sprintf("Lay in turn, %s: %s; then again, every %s", how, strings.Join(out, ", "), mm(turn))
}

// Comes says how the pattern comes out of the joining pass.
func (s *Striped) Comes() string {
	if s.Laid.Lay == roll.LaidAlong {
		return "All of it stretches alike; strips along the sheet keep their width."
	}
	if len(s.Laid.Strips) == 0 {
		return fmt.Sprintf("Stripes come out %s wide, one every %s.", s.in.MM(s.Joined.StripeMM, 0),
			s.in.MM(s.Joined.PitchMM, 0))
	}
	return fmt.Sprintf("Strips come out %.2f times as wide, %s the first, a turn of the pattern every %s.",
		s.Joined.Stripe, s.in.MM(s.Joined.StripeMM, 0), s.in.MM(s.Joined.PitchMM, 0))
}

// AtLast says how the pattern is at the end of the way down.
func (s *Striped) AtLast() string {
	switch {
	case s.Laid.Lay == roll.LaidAlong:
		return "the strips are as wide as they were"
	case len(s.Laid.Strips) == 0:
		return fmt.Sprintf("the stripes are %s wide, one every %s", s.in.MM(s.FinalStripeMM(), 0),
			s.in.MM(s.FinalPitchMM(), 0))
	}
	return fmt.Sprintf("the first strip is %s wide, a turn of the pattern %s long", s.in.MM(s.FinalStripeMM(), 0),
		s.in.MM(s.FinalPitchMM(), 0))
}
