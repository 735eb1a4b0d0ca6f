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

// Sized returns the i-th shape with what the maker changed of the first.
func (r *Request) Sized(i int) cut.Shape {
	c := &r.Cut
	if i > 0 {
		return c.Also[i-1].Kind()
	}
	s := c.Kind()
	s.MinLengthMM, s.MaxLengthMM = r.Lengths()
	if c.Width != nil { // its name's range no longer counts
		s.FromMM, s.ToMM = 0, 0
	}
	s.WidthMM, s.PieceG = Or(c.Width, s.WidthMM), Or(c.PieceG, s.PieceG)
	s.LongMM = Or(c.Long, s.LongMM)
	return s
}

func Or(v *float64, otherwise float64) float64 {
	if v != nil {
		return *v
	}
	return otherwise
}
