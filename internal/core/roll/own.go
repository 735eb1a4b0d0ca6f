package roll

import (
	"fmt"
	"math"
)

// First is what is done to the sheet before an entry of the maker's own way down.
type First string

// Things done before a pass.
const (
	JustOn    First = ""
	Halve     First = "halve"
	Quarter   First = "quarter" // cut in four
	TrimFirst First = "trim"    // ends and sides square
	Belt      First = "belt"    // its ends laid over each other: a belt that runs round
	Wait      First = "rest"    // for so many minutes, covered
	LayOn     First = "lay_on"  // strips or leaves laid on
	TurnIt    First = "turn"    // a quarter turn
)

// cutless is f without halving, which Hollen's own passes say otherwise.
func (f First) cutless() First {
	if f == Halve || f == Quarter {
		return JustOn
	}
	return f
}

// OwnStep is one entry of the maker's own way down, taken literally.
type OwnStep struct {
	Stop    int     // index of the machine's stops; ByPin: under a pin, also before or between rollers
	MM      float64 // under a pin: rolled to, mm
	Passes  int
	Layers  int // folded before each pass; 0 and 1: flat
	First   First
	RestMin float64
	Dust    bool
}

// ByPin stands for a stop where the sheet is rolled by hand.
const ByPin = -1

// WidestFolds is how many folded passes there are at the widest stop, which knead.
func WidestFolds(steps []OwnStep) int {
	n := 0
	for _, s := range steps {
		if s.Stop == 0 && s.Layers > 1 {
			n += s.Passes
		}
	}
	return n
}

// Word is one word on a pass: easy, firm, bold or tearing; "" of what has no measure, as a folded pass.
func (l *Lay) Word(x Pass) string {
	const firmFrom = .8 // of what is easy
	switch {
	case x.Easy == 0:
		return ""
	case x.Reduction <= firmFrom*x.Easy:
		return "easy"
	}
	switch v := l.Verdict(x.Reduction, x.Easy); {
	case v == Tearing && !l.SurelyTears(x):
		return Bold
	case v != Safe:
		return v
	}
	return "firm"
}

// SurelyTears says whether a pass tears over all that its gap may be: one that nobody measured may be wider. The gaps
// of one dial are off alike, so of two of them it is half of what either may be off.
func (l *Lay) SurelyTears(x Pass) bool {
	return l.Verdict(1-(1-x.Reduction)*(1+l.GapOff/2), x.Easy) == Tearing
}

// planOwn is the maker's own way down, pass by pass: nothing is added to it. A sheet thinner than the
// gap goes through as it is. Where it is Hollen's own way it is that plan.
func (l *Lay) planOwn() Progression {
	hollens := *l
	hollens.Own = nil
	p := hollens.Plan()
	own := l.ownPasses()
	if SamePasses(own.Passes, p.Passes) {
		return p
	}
	return own
}

// SamePasses says whether two ways down are one, pass by pass.
func SamePasses(a, b []Pass) bool {
	if len(a) != len(b) {
		return false
	}
	for i := range a {
		x, y := a[i], b[i]
		x.First, y.First = x.First.cutless(), y.First.cutless()
		if x != y {
			return false
		}
	}
	return true
}

// ownPasses follows the entries one pass after the other.
func (l *Lay) ownPasses() Progression {
	m, at := l.Machine, *l // its tension falls where it rests on the way
	p := Progression{Layers: 1, Skips: []Skip{}}
	across := min(m.WidthMM, m.BoardLengthMM, m.BoardWidthMM)
	if first := l.Own[0]; l.Pin || first.Stop == ByPin {
		p.PressedMM = first.MM
	} else {
		p.PressedMM = min(l.Rules.PressedGaps*m.Stops[l.Own[0].Stop].TrueMM(), m.FeedMM)
	}
	thick := p.PressedMM
	sheets := 1
	from := -1
	nth := 0
	if l.Pin || l.Own[0].Stop == ByPin {
		thick *= 2
	}
	if !l.Pin {
		p.Spring = l.Spring()
	}
	for _, s := range l.Own {
		if s.First == Wait && l.TauRMin > 0 {
			at.T *= math.Exp(-s.RestMin / l.TauRMin)
		}
		for i := range s.Passes {
			x := Pass{Stop: s.Stop, InMM: thick, Dust: s.Dust}
			if l.Pin {
				x.Stop = len(p.Passes)
			}
			if i == 0 {
				x.First = s.First
				switch s.First {
				case Halve:
					sheets, x.Halved = 2*sheets, true
				case Quarter:
					sheets, x.Halved = 4*sheets, true
				case LayOn: // where they lie: base and strip
					thick += l.StripMM
					x.InMM = thick
				case Wait:
					p.TimeMin += s.RestMin
					x.RestMin = s.RestMin
				}
			}
			if s.Layers > 1 {
				x.Fold, x.PacketMM = s.Layers, float64(s.Layers)*thick
				p.Layers *= float64(s.Layers)
				x.InMM = thick
			}
			if !l.Pin && s.Stop == ByPin {
				at.pinned(&x, s, sheets)
				p.WidthMM = m.WidthMM
			} else if l.Pin {
				at.underPin(&x, s, sheets, across)
				p.WidthMM = SheetOf(l.Outline, l.PieceG/float64(sheets), l.DensityG, x.OutMM, across).WidthMM
			} else {
				if s.Stop != from {
					nth = 0
				}
				nth++
				at.throughStop(&x, s.Stop, from, nth, sheets)
				p.WidthMM = m.WidthMM
				from = s.Stop
			}
			if x.Easy > 0 && x.Reduction > x.Easy+1e-9 {
				p.Over++
			}
			thick = x.OutMM
			p.TimeMin += x.TimeS / 60
			p.Passes = append(p.Passes, x)
		}
	}
	last := p.Passes[len(p.Passes)-1]
	p.SheetMM = last.OutMM
	p.LengthMM = last.LengthMM
	p.Sheets = last.Sheets
	if !l.Pin {
		p.MissMM = p.SheetMM - l.TargetMM
	}
	return p
}

// LaidOn is the pass of an own way before which strips are laid on; false where there is none at a stop.
func (p *Progression) LaidOn() (Pass, bool) {
	for _, x := range p.Passes {
		if x.First == LayOn && x.Stop >= 0 {
			return x, true
		}
	}
	return Pass{}, false
}

// throughStop fills in the n-th pass on end at a stop, after the stop from (-1: the first).
func (l *Lay) throughStop(x *Pass, stop, from, nth, sheets int) {
	m := l.Machine
	x.Label = m.Stops[stop].Label
	x.GapMM = m.Stops[stop].TrueMM()
	x.Nth = nth
	in := x.InMM
	if x.Fold > 1 {
		if in = x.PacketMM; x.PacketMM > l.Rules.PacketGives*m.FeedMM+1e-9 {
			x.PressMM, in = m.FeedMM, m.FeedMM
		}
	}
	x.OutMM = min(in, l.Sheet(x.GapMM, min(nth, 2)))
	whole := LengthMM(l.PieceG, l.DensityG, m.WidthMM, x.OutMM)
	x.LengthMM, x.Sheets = whole/float64(sheets), sheets
	x.TimeS = float64(sheets) * (x.LengthMM/m.SpeedMMPerS + l.Rules.HandlingS)
	if x.Fold > 1 || from < 0 || stop == 0 && from == 0 {
		return // what is easy is not asked of folds, nor of the first pass of all, nor of those at the widest
	}
	if x.Easy = l.Easy(x.GapMM); nth == 1 {
		x.Easy, x.Skipped = l.limit(from, stop), max(0, stop-from-1)
	}
	x.Reduction = 1 - x.OutMM/x.InMM
}

// pinned fills in one stage under a pin before or between rollers: as wide as they are.
func (l *Lay) pinned(x *Pass, s OwnStep, sheets int) {
	in := x.InMM
	if x.Fold > 1 {
		in = x.PacketMM
	}
	x.Label = fmt.Sprintf("%g mm", s.MM)
	x.GapMM = s.MM
	x.Nth = 1
	x.OutMM = min(in, s.MM)
	x.Sheets = sheets
	x.LengthMM = LengthMM(l.PieceG, l.DensityG, l.Machine.WidthMM, x.OutMM) / float64(sheets)
	x.Reduction = 1 - x.OutMM/in
	x.TimeS = 60 * float64(sheets) * (pinMinutes*math.Sqrt(l.PieceG/float64(sheets)/500) + pinPause)
}

// underPin fills in one stage under the pin: rolled to what is said.
func (l *Lay) underPin(x *Pass, s OwnStep, sheets int, across float64) {
	in := x.InMM
	if x.Fold > 1 {
		in = x.PacketMM
	}
	sheet := SheetOf(l.Outline, l.PieceG/float64(sheets), l.DensityG, s.MM, across)
	x.GapMM = s.MM
	x.Nth = 1
	x.OutMM = s.MM
	x.LengthMM = sheet.LengthMM
	x.Sheets = sheets
	x.Reduction = 1 - x.OutMM/in
	x.TimeS = 60 * float64(sheets) * (pinMinutes*math.Sqrt(l.PieceG/float64(sheets)/500) + pinPause)
}
