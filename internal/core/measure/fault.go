package measure

import (
	"errors"
	"fmt"
)

// Fault says what is wrong with one field of a thing: which, and what is allowed there. It is
// kept as it is from the rule that found it to the page that shows it.
type Fault struct {
	Field string // as the thing's document names it
	Text  string
}

func (f Fault) Error() string { return f.Field + ": " + f.Text }

// Faultf returns the Fault of a field.
func Faultf(field, format string, a ...any) error { return Fault{field, fmt.Sprintf(format, a...)} }

// Faults returns the Faults joined in err; any other error becomes a Fault without a field.
func Faults(err error) (out []Fault) {
	var one Fault
	switch joined, ok := err.(interface{ Unwrap() []error }); {
	case err == nil:
	case ok:
		for _, e := range joined.Unwrap() {
			out = append(out, Faults(e)...)
		}
	case errors.As(err, &one):
		out = append(out, one)
	default:
		out = append(out, Fault{Text: err.Error()})
	}
	return out
}
