package draw

import (
	"fmt"
	"math"

	"hollen/internal/core/measure"
	"hollen/internal/core/roll"
)

// Pattern is a striped sheet from above: as laid, as the joining pass leaves it, and after the last pass.
type Pattern struct {
	Laid    roll.Stripes
	Joined  roll.Joined
	FinalMM float64 // the sheet at the end
	WideMM  float64 // the sheet across
	Colours map[roll.Colour]string
	In      measure.System
}

// SVG draws it to one scale along the rolling direction, two turns of the pattern at least.
func (p Pattern) SVG() string {
	const width, left = 640., 100.
	turn, _ := p.Laid.Covered(roll.BareBase)
	longer := p.Joined.Longer
	further := p.FinalMM < p.Joined.SheetMM-1e-9
	if further {
		longer *= p.Joined.SheetMM / p.FinalMM
	}
	along := p.Laid.Lay == roll.LaidAlong
	turns := math.Max(2, math.Ceil(120/turn))
	k := math.Min(4, (width-left-10)/(turns*turn*longer))
	high := 34.
	if p.Laid.Lay != roll.LaidAcross { // the sheet's whole width is seen
		high = math.Min(110, p.WideMM*math.Max(k, .55))
	}
	step := high + 40
	s := &Scene{W: width}
	row := func(n int, words string, bands []roll.Band, by float64) {
		y := float64(n) * step
		s.Text("q", 0, y+22, words)
		long := turns * turn * by * k
		s.Rect("dough", left, y, long, high)
		across := func(one float64) {
			x := left
			for range int(turns) {
				for _, b := range bands {
					p.strip(s, b.Colour, x, y, b.MM*k*one, high)
					x += b.MM * k * one
				}
			}
		}
		if p.Laid.Lay != roll.LaidAcross { // what runs along keeps its width; the sheet is as wide as it was
			laid := p.Laid.Bands()
			for at, i := 0., 0; at < p.WideMM-1e-9; i++ {
				b := laid[i%len(laid)]
				w := math.Min(b.MM, p.WideMM-at)
				p.strip(s, b.Colour, left, y+at*high/p.WideMM, long, w*high/p.WideMM)
				at += w
			}
		}
		if along {
			s.Text("m", left+long/2, y+high+16, p.In.MM(turns*turn*by, 0))
			return
		}
		across(1)
		first := bands[0].MM * k
		s.Across(left, left+first, y+high+6, "")
		s.Text("m", left+first/2, y+high+20, p.In.Bare(bands[0].MM, measure.MM, 0))
		one := turn * by * k
		s.Across(left+one, left+2*one, y+high+6, "")
		s.Text("m", left+1.5*one, y+high+20, p.In.MM(turn*by, 0))
	}
	row(0, "as laid", p.Laid.Bands(), 1)
	row(1, "joined", p.Joined.Drawn(p.Laid, p.Joined.SheetMM), p.Joined.Longer)
	s.H = 2 * step
	s.Title = fmt.Sprintf("The pattern from above: a turn of %s becomes %s", p.In.MM(turn, 0),
		p.In.MM(turn*p.Joined.Longer, 0))
	if further {
		row(2, "after the last", p.Joined.Drawn(p.Laid, p.FinalMM), longer)
		s.H = 3 * step
		s.Title += fmt.Sprintf(", and at %s %s", p.In.MM(p.FinalMM, 2), p.In.MM(turn*longer, 0))
	}
	return s.SVG()
}

// strip draws one strip; bare base is the dough under it.
func (p Pattern) strip(s *Scene, c roll.Colour, x, y, w, h float64) {
	if c == roll.BareBase {
		return
	}
	fmt.Fprintf(&s.body, `<rect class="stripe" style="fill:%s" x="%s" y="%s" width="%s" height="%s"/>`, p.Colours[c],
		num(x), num(y), num(w), num(h))
}
