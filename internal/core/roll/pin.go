package roll

import "math"

// Outline is the form a pin gives the sheet.
type Outline string

// The outlines.
const (
	Disc      Outline = "disc"
	Rectangle Outline = "rectangle"
)

// pinStages are the thicknesses a sheet goes through under the pin, mm, before the target.
// Source: house.
var pinStages = []float64{12, 8, 5, 3, 2, 1.3}

// pinMinutes is how long one stage takes for a 500 g dough, and pinPause the rest the sheet
// gets between two, min. Source: house.
const pinMinutes, pinPause = 1.5, .5

// PinSheet is one sheet under the pin.
type PinSheet struct {
	ThickMM  float64
	LengthMM float64 // of the rectangle, or the disc's diameter
	WidthMM  float64 // of the rectangle, or the disc's mean chord πd/4, so that the area is kept
}

// SheetOf returns the sheet of massG g at tMM mm: a disc of diameter √(4m/(πρt)), or a
// rectangle as wide as across (mm) allows.
func SheetOf(o Outline, massG, densityG, tMM, acrossMM float64) PinSheet {
	area := massG / (densityG * 1e-3 * tMM) // mm²
	if o == Rectangle {
		w := min(acrossMM, math.Sqrt(area))
		return PinSheet{tMM, area / w, w}
	}
	d := math.Sqrt(4 * area / math.Pi)
	return PinSheet{tMM, d, area / d}
}

// Fits says whether the sheet lies on a board.
func (s PinSheet) Fits(o Outline, boardLengthMM, boardWidthMM float64) bool {
	long, short := max(boardLengthMM, boardWidthMM), min(boardLengthMM, boardWidthMM)
	if o == Disc {
		return s.LengthMM <= short
	}
	return s.LengthMM <= long && s.WidthMM <= short || s.LengthMM <= short && s.WidthMM <= long
}

// pinStageS is how long a piece takes from one stage of a pin to the next, s.
func (l *Lay) pinStageS() float64 { return 60 * (pinMinutes*math.Sqrt(l.PieceG/500) + pinPause) }

// planRope returns a piece rolled to a rope under the hands as one pass without a stop: sheet
// and width are its diameter.
func (l *Lay) planRope() Progression {
	d := l.RopeMM
	x := Pass{GapMM: d, Nth: 1, InMM: 2 * d, OutMM: d, Reduction: .5, Sheets: 1,
		LengthMM: l.PieceG / (l.DensityG * 1e-3 * math.Pi * d * d / 4),
		TimeS:    l.pinStageS()}
	return Progression{Layers: 1, Sheets: 1, Passes: []Pass{x}, Skips: []Skip{}, PressedMM: 2 * d, SheetMM: d,
		WidthMM: d, LengthMM: x.LengthMM,
		TimeMin: x.TimeS / 60}
}

// planPin returns the stages of a pin as passes without stops.
func (l *Lay) planPin() Progression {
	if l.RopeMM > 0 {
		return l.planRope()
	}
	p := Progression{Layers: 1, Sheets: 1}
	across := min(l.Machine.WidthMM, min(l.Machine.BoardLengthMM, l.Machine.BoardWidthMM))
	stages := []float64{}
	for _, t := range pinStages {
		if t > l.TargetMM*1.15 {
			stages = append(stages, t)
		}
	}
	stages = append(stages, l.TargetMM)
	p.PressedMM = stages[0]
	in := stages[0] * 2
	for i, t := range stages {
		s := SheetOf(l.Outline, l.PieceG, l.DensityG, t, across)
		x := Pass{Stop: i, Label: "", GapMM: t, Nth: 1, InMM: in, OutMM: t, Reduction: 1 - t/in, LengthMM: s.LengthMM,
			Sheets: 1,
			TimeS:  l.pinStageS()}
		p.TimeMin += x.TimeS / 60
		p.Passes = append(p.Passes, x)
		in = t
		p.WidthMM = s.WidthMM
	}
	last := p.Passes[len(p.Passes)-1]
	p.SheetMM, p.LengthMM = last.OutMM, last.LengthMM
	p.Skips = []Skip{}
	return p
}
