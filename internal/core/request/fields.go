package request

import (
	"fmt"
	"slices"

	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
	"hollen/internal/core/field"
)

// allFields are the fields of a request, in the order of work within each group; fieldAt
// finds them by path.
var allFields, fieldAt = func() ([]Field, map[string]int) {
	all := slices.Concat(formulaFields(), priceFields(), roomFields(), kneadFields(), restFields(), rollFields(),
		cutFields(), dryFields(), cookFields())
	for _, g := range groups {
		all = append(all, g.fields()...)
	}
	at := map[string]int{}
	for i, f := range all {
		at[f.Path] = i
	}
	return all, at
}()

// Fields returns every field a request may have, in the order of work within each group. The
// list is shared and is not to be changed.
func Fields() []Field { return allFields }

// FieldAt returns the field of that path and whether there is one.
func FieldAt(path string) (Field, bool) {
	i, ok := fieldAt[path]
	if !ok {
		return Field{}, false
	}
	return allFields[i], true
}

func number(s Stage, path, label, unit string, lo, hi, step float64, at func(*Request) any) Field {
	return Field{Field: field.Field{Path: path, Label: label, Unit: unit, Kind: Number, Min: lo, Max: hi, Step: step},
		Stage: s, at: at}
}
func count(s Stage, path, label, unit string, lo, hi, step float64, at func(*Request) any) Field {
	f := number(s, path, label, unit, lo, hi, step, at)
	f.Kind = Whole
	return f
}
func share(s Stage, path, label string, lo, hi, step float64, at func(*Request) any) Field {
	f := number(s, path, label, "%", lo, hi, step, at)
	f.Show = 100
	return f
}
func optional(f Field) Field { f.Optional = true; return f }
func choice(s Stage, path, label string, at func(*Request) any, o ...Option) Field {
	return Field{Field: field.Field{Path: path, Label: label, Kind: Choice, Options: o}, Stage: s, at: at}
}
func price(path, label, unit string, at func(*Request) any) Field {
	return Field{Field: field.Field{Path: path, Label: label, Unit: unit, Kind: Price, Optional: true},
		Stage: AtFormula, at: at}
}
func flag(s Stage, path, label string, at func(*Request) any) Field {
	return Field{Field: field.Field{Path: path, Label: label, Kind: Flag}, Stage: s, at: at}
}
func keeping(f Field, own func(*Request) owner) Field { f.own = own; return f }

// opt is an option; wrong is what is said of a value that will not do.
func opt(key, name string) Option { return Option{Key: key, Name: name} }

func wrong(path, label, value, allowed string) FieldError {
	return FieldError{Path: path, Label: label, Value: value, Allowed: allowed}
}

func options[T any](list []T, of func(T) Option) []Option {
	out := make([]Option, len(list))
	for i, v := range list {
		out[i] = of(v)
	}
	return out
}

// classOptions are the shipped classes of eggs, shapeOptions the shipped shapes.
func classOptions() []Option {
	return options(egg.Classes(), func(c egg.Class) Option {
		return opt(c.Key, fmt.Sprintf("%s, {%g g}", c.Name,
			c.EdibleG))
	})
}

func shapeOptions() []Option {
	return options(cut.Shipped(), func(s cut.Shape) Option { return opt(s.Key, s.Set()) })
}
