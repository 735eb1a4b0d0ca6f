package request

import (
	"errors"
	"fmt"

	"hollen/internal/core/measure"
)

// FieldError says which field is wrong, how it was given and what is allowed.
type FieldError struct {
	Path, Label, Value, Allowed string
}

func (e FieldError) Error() string {
	return fmt.Sprintf("%s: %s is not allowed here; %s", e.Path, measure.Quote(e.Value), e.Allowed)
}

// ForPage returns the message to show beside the field, in the unit shown.
func (e FieldError) ForPage() string {
	what := measure.Quote(e.Value) + " won’t do. "
	if e.Value == "" {
		what = "Empty. "
	}
	return what + measure.Capital(e.Allowed) + "."
}

// Errors returns the FieldErrors joined in err.
func Errors(err error) (out []FieldError) {
	var one FieldError
	if joined, ok := err.(interface{ Unwrap() []error }); ok {
		for _, e := range joined.Unwrap() {
			out = append(out, Errors(e)...)
		}
	} else if errors.As(err, &one) {
		out = append(out, one)
	}
	return out
}
