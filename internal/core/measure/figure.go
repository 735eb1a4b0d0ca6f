package measure

// Figure is one number of a thing a workshop may give, as on a miller's sheet: what it is called, its unit, what is
// allowed, and where it stands.
type Figure[T any] struct {
	Key, Label, Unit string
	Min, Max         float64 // in the unit shown
	Show             float64 // shown = stored × Show
	At               func(*T) *float64
}

// Allowed returns a Fault for every figure of a thing that is outside its bounds, nil where none is.
func Allowed[T any](figures []Figure[T], of *T) (errs []error) {
	const eps = 1e-9
	for _, x := range figures {
		if v := *x.At(of) * x.Show; !(v >= x.Min-eps && v <= x.Max+eps) {
			errs = append(errs, Faultf(x.Key, "%g; %g to %g %s is allowed", v, x.Min, x.Max, x.Unit))
		}
	}
	return errs
}

// FigureOf is a row of a table of figures.
func FigureOf[T any](key, label, unit string, least, most, show float64, at func(*T) *float64) Figure[T] {
	return Figure[T]{key, label, unit, least, most, show, at}
}
