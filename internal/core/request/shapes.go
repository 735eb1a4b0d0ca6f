package request

import "hollen/internal/core/cut"

// Shapes returns the shapes of the batch, the first first.
func (r *Request) Shapes() []cut.Shape {
	out := []cut.Shape{r.Cut.Kind()}
	for _, x := range r.Cut.Also {
		out = append(out, x.Kind())
	}
	return out
}

// Lengths returns the shortest and longest ribbon of the first shape asked for, mm.
func (r *Request) Lengths() (lo, hi float64) {
	s := r.Cut.Kind()
	return Or(r.Cut.Min, s.MinLengthMM), Or(r.Cut.Max, s.MaxLengthMM)
}

// Sized returns the i-th shape with what the maker changed of it.
func (r *Request) Sized(i int) cut.Shape {
	c := &r.Cut
	s := c.Kind()
	width := c.Width
	long := c.Long
	least := c.Min
	most := c.Max
	if i > 0 {
		x := &c.Also[i-1]
		s = x.Kind()
		width = x.Width
		long = x.Long
		least = x.Min
		most = x.Max
	} else {
		s.PieceG = Or(c.PieceG, s.PieceG)
	}
	if width != nil { // its name's range no longer counts
		s.FromMM, s.ToMM = 0, 0
	}
	s.WidthMM, s.LongMM = Or(width, s.WidthMM), Or(long, s.LongMM)
	s.MinLengthMM, s.MaxLengthMM = Or(least, s.MinLengthMM), Or(most, s.MaxLengthMM)
	return s
}

func Or(v *float64, otherwise float64) float64 {
	if v != nil {
		return *v
	}
	return otherwise
}
