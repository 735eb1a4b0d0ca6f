package request

import (
	"errors"

	"hollen/internal/core/field"
)

// FieldError says which field is wrong, how it was given and what is allowed.
type FieldError = field.Error

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
