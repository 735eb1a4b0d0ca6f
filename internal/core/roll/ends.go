package roll

// EndAt returns the way down of a piece that ends at another stop than a planned one, or under a pin at mm, and
// its minutes: as planned as far as that goes, then one pass at each stop down to it.
func (l *Lay) EndAt(p *Progression, stop int, mm float64) (passes []Pass, minutes float64) {
	at := mm
	if !l.Pin {
		at = l.Machine.Stops[stop].TrueMM()
	}
	n := 0
	for i, x := range p.Passes {
		if x.GapMM >= at-1e-9 {
			n = i + 1
		}
	}
	passes = append(passes, p.Passes[:n]...)
	last, sheets := Pass{Stop: -1, OutMM: p.PressedMM}, 1
	if n > 0 {
		last, sheets = passes[n-1], max(1, passes[n-1].Sheets)
	}
	add := func(x Pass) {
		x.InMM = last.OutMM
		x.Nth = 1
		x.Sheets = sheets
		x.Reduction, x.Easy = 1-x.OutMM/x.InMM, l.Easy(x.GapMM)
		last = x
		passes = append(passes, x)
	}
	switch {
	case last.GapMM == at:
	case l.Pin:
		across := min(l.Machine.WidthMM, l.Machine.BoardLengthMM, l.Machine.BoardWidthMM)
		s := SheetOf(l.Outline, l.PieceG/float64(sheets), l.DensityG, mm, across)
		stage := Pass{GapMM: mm, OutMM: mm, LengthMM: s.LengthMM, TimeS: l.pinStageS()}
		add(stage)
	default:
		for i := last.Stop + 1; i <= stop; i++ {
			gap := l.Machine.Stops[i].TrueMM()
			x := Pass{Stop: i, Label: l.Machine.Stops[i].Label, GapMM: gap, OutMM: l.Sheet(gap, 1)}
			whole := LengthMM(l.PieceG, l.DensityG, l.Machine.WidthMM, x.OutMM)
			for l.BenchMM > 0 && whole/float64(sheets) > l.BenchMM && sheets < 64 {
				sheets *= 2
				x.Halved = true
			}
			x.LengthMM = whole / float64(sheets)
			x.TimeS = float64(sheets) * (x.LengthMM/l.Machine.SpeedMMPerS + l.Rules.HandlingS)
			add(x)
		}
	}
	for _, x := range passes {
		minutes += x.TimeS / 60
	}
	return passes, minutes
}
