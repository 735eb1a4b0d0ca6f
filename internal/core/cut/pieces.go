package cut

import (
	"math"
	"slices"

	"hollen/internal/core/rules"
)

// Pattern is how pieces lie on the sheet.
type Pattern string

// The patterns; Auto takes the one that gives more.
const (
	Auto      Pattern = ""
	Grid      Pattern = "grid"
	Staggered Pattern = "staggered"
)

// row is a row of pieces in its own direction: n of them, the first at at, y across, mm.
type row struct {
	n           int
	at, y, step float64
}

// gap returns what a tool takes between two pieces, mm: a knife nothing.
func (t Tool) gap(r rules.Cut) float64 {
	switch t {
	case Wheel:
		return r.WheelGapMM
	case Ring:
		return r.RingGapMM
	}
	return 0
}

// fit returns how many pieces of size with gap between them stand in a length, mm.
func fit(length, size, gap float64) int {
	return max(0, int(math.Floor((length+gap)/(size+gap)+1e-9)))
}

// squares lays rectangles of along × across mm in a grid.
func squares(useL, useW, along, across, gap float64) (rows []row) {
	n := fit(useL, along, gap)
	for j := range fit(useW, across, gap) {
		rows = append(rows, row{n, 0, float64(j) * (across + gap), along + gap})
	}
	return rows
}

// rounds lays rounds of diameter d in rows along useL: with p = d+g, h = p√3/2,
// n0 = ⌊(L'−d)/p⌋+1, n1 = ⌊(L'−d−p/2)/p⌋+1, v nested gaps and u = ⌊(W'−d−vh)/p⌋ straight
// ones, N = (u+v+1)n0 − ⌈v/2⌉(n0−n1) at the best v. Without nest v is 0: a grid.
func rounds(useL, useW, d, gap float64, nest bool) (rows []row) {
	const eps = 1e-9
	if useL < d-eps || useW < d-eps {
		return nil
	}
	p := d + gap
	h := p * math.Sqrt(3) / 2
	n0 := int(math.Floor((useL-d)/p+eps)) + 1
	n1 := max(0, int(math.Floor((useL-d-p/2)/p+eps))+1)
	var best, bestV, bestU int
	for v := 0; v == 0 || nest && d+float64(v)*h <= useW+eps; v++ {
		u := int(math.Floor((useW-d-float64(v)*h)/p + eps))
		if n := (u+v+1)*n0 - (v+1)/2*(n0-n1); n > best {
			best = n
			bestV = v
			bestU = u
		}
	}
	y := 0.
	for i := range bestU + bestV + 1 {
		r := row{n0, 0, y, p}
		if i > bestU && (i-bestU)%2 == 1 {
			r.n, r.at = n1, p/2
		}
		rows = append(rows, r)
		if y += p; i >= bestU {
			y += h - p
		}
	}
	return rows
}

func countOf(rows []row) (n int) {
	for _, r := range rows {
		n += r.n
	}
	return n
}

// PieceCut is how pieces are wanted.
type PieceCut struct {
	Outline Outline
	Close   Close // "": not filled
	Tool    Tool
	WidthMM float64 // side or diameter
	LongMM  float64 // the other side of a rectangle
	Pattern Pattern
}

// opened returns the outline that is cut, mm: of a folded sheet twice the width.
func (c PieceCut) opened() (along, across float64) {
	switch {
	case c.Outline == Round:
		return c.WidthMM, c.WidthMM
	case c.Close == FoldedSheet:
		return c.LongMM, 2 * c.WidthMM
	}
	return c.LongMM, c.WidthMM
}

// area returns the dough of one piece, mm² of sheet.
func (c PieceCut) area() float64 {
	along, across := c.opened()
	a := along * across
	if c.Outline == Round {
		a = math.Pi * along * along / 4
	}
	if c.Close == TwoSheets {
		a *= 2
	}
	return a
}

// lay lays the pieces on a sheet of that usable size: the pattern asked for, or the better of
// grid and staggered; each the better way round, the first where both give as many.
func (c PieceCut) lay(r rules.Cut, useL, useW float64) (rows []row, turned bool, pattern Pattern) {
	gap := c.Tool.gap(r)
	along, across := c.opened()
	try := func(p Pattern, lay func(l, w float64) []row, swapped func(l, w float64) []row) {
		if c.Pattern != Auto && c.Pattern != p && c.Outline == Round {
			return
		}
		if x := lay(useL, useW); countOf(x) > countOf(rows) {
			rows = x
			turned = false
			pattern = p
		}
		if x := swapped(useW, useL); countOf(x) > countOf(rows) {
			rows = x
			turned = true
			pattern = p
		}
	}
	if c.Outline == Round {
		for _, p := range []Pattern{Grid, Staggered} {
			lay := func(l, w float64) []row { return rounds(l, w, along, gap, p == Staggered) }
			try(p, lay, lay)
		}
		if !slices.ContainsFunc(rows, func(x row) bool { return x.at > 0 }) {
			pattern = Grid // nesting rows gives no more, so none is nested
		}
		return rows, turned, pattern
	}
	try(Grid, func(l, w float64) []row { return squares(l, w, along, across, gap) },
		// Rows run along the sheet still; the piece lies the other way round.
		func(w, l float64) []row { return squares(l, w, across, along, gap) })
	return rows, turned, pattern
}

// PerSheet returns how many pieces a sheet of lengthMM by widthMM gives when one sheet is
// enough for a piece.
func (c PieceCut) PerSheet(r rules.Cut, lengthMM, widthMM float64) int {
	useL, useW := Sheets{LengthMM: lengthMM, WidthMM: widthMM}.usable(r)
	rows, _, _ := c.lay(r, useL, useW)
	return countOf(rows)
}

// Pieces lays pieces on the sheets. Two sheets to a piece go in pairs; an odd last sheet is cut
// in half and laid on itself.
func Pieces(r rules.Cut, s Sheets, c PieceCut) Layout {
	o := Layout{Family: Piece, outline: c.Outline}
	useL, useW := s.usable(r)
	var rows []row
	rows, o.turned, o.Pattern = c.lay(r, useL, useW)
	o.rows, o.PerSheet = rows, countOf(rows)
	o.LengthMM, o.WidthMM = c.opened()
	if o.turned && c.Outline != Round {
		o.LengthMM, o.WidthMM = o.WidthMM, o.LengthMM
		o.turned = false // the rows run along all the same
	}
	o.Count = o.PerSheet * s.Count
	if c.Close == TwoSheets {
		o.Count = o.PerSheet * (s.Count / 2)
		if s.Count%2 == 1 {
			o.Count += c.PerSheet(r, s.LengthMM/2, s.WidthMM)
		}
	}
	total := float64(s.Count) * s.MassG
	o.CookedMM = c.WidthMM * r.CookedGrowth
	if o.Count == 0 {
		o.rows = nil
		o.PerSheet = 0
		o.TrimG = total
		return o
	}
	var takenL, takenW float64
	takenL, o.Along = o.reach()
	o.Across, takenW = len(o.rows), o.rows[len(o.rows)-1].y+o.WidthMM
	if o.turned {
		o.Along, o.Across = o.Across, o.Along
		takenL, takenW = takenW, takenL
	}
	o.EndTrimMM, o.SideTrimMM = (s.LengthMM-takenL)/2, (s.WidthMM-takenW)/2
	o.OneG = s.gPerMM2() * c.area()
	o.DoughG = float64(o.Count) * o.OneG
	o.MadeG, o.TrimG = o.DoughG, total-o.DoughG
	if o.CutMin = float64(o.Count) * r.RingS / 60; c.Outline != Round {
		o.CutMin = float64(s.Count*(o.Along+o.Across+2)) * r.StrokeS / 60
	}
	return o
}

// reach returns how far the longest row reaches, mm, and how many pieces it has.
func (o *Layout) reach() (reach float64, n int) {
	for _, r := range o.rows {
		if r.n > 0 {
			reach = max(reach, r.at+float64(r.n-1)*r.step+o.LengthMM)
			n = max(n, r.n)
		}
	}
	return reach, n
}
