package request

import (
	"reflect"
	"strings"

	"hollen/internal/core/field"
	"hollen/internal/core/measure"
)

// Stage names the eight stations in the order of work.
type Stage string

// The stations.
const (
	AtFormula Stage = "formula"
	AtRoom    Stage = "room"
	AtKnead   Stage = "knead"
	AtRest    Stage = "rest"
	AtRoll    Stage = "roll"
	AtCut     Stage = "cut"
	AtDry     Stage = "dry"
	AtCook    Stage = "cook"
)

// Stages returns the stations in the order of work.
func Stages() []Stage {
	return []Stage{AtFormula, AtRoom, AtKnead, AtRest, AtRoll, AtCut, AtDry, AtCook}
}

// Kind is what a field holds; Option is one value of a choice.
type (
	Kind   = field.Kind
	Option = field.Option
)

// The kinds of field.
const (
	Number = field.Number
	Whole  = field.Whole
	Choice = field.Choice
	Text   = field.Text
	Flag   = field.Flag
	Price  = field.Price
	Date   = field.Date
	Moment = field.Moment
)

// Field describes one thing a maker can say: where it stands in the request, what it is
// called, what is allowed. Binding, checking, drawing and comparing requests all go by it.
type Field struct {
	field.Field
	Stage Stage
	Group string // of fields that come and go together: flours, additions, eggs.also
	Slot  int    // of the group
	Part  string // of the slot: the end of the path
	at    func(*Request) any
	has   func(*Request) bool  // nil: every request has it
	own   func(*Request) owner // nil: holds no thing of the workshop's own
}

// Has says whether r has the field: a blend of two flours has no third share.
func (f Field) Has(r *Request) bool { return f.has == nil || f.has(r) }

// Get returns the value of f in r as a maker would type it; "" when Hollen is to choose or
// r does not have the field.
func (f Field) Get(r *Request) string {
	if !f.Has(r) {
		return ""
	}
	return f.Field.Get(f.at(r))
}

// Copy puts what stands in f of from into f of to, a thing of the workshop's own with it; where both have the field.
func (f Field) Copy(to, from *Request) {
	if !f.Has(to) || !f.Has(from) {
		return
	}
	reflect.ValueOf(f.at(to)).Elem().Set(reflect.ValueOf(f.at(from)).Elem())
	if f.own != nil {
		f.own(to).put(nil)
		if kept := f.own(from).get(); kept != nil {
			f.own(to).put(kept.Value)
		}
	}
}

// Set puts typed text into f of r, in the unit shown. When the text is not allowed it
// returns a FieldError and leaves r as it was.
func (f Field) Set(r *Request, typed string) error {
	if !f.Has(r) {
		return f.Refuse(strings.TrimSpace(typed))
	}
	err := f.Field.Set(f.at(r), typed)
	if err == nil && f.own != nil {
		f.own(r).put(nil)
	}
	return err
}

// Check returns a FieldError when what stands in r for f is not allowed. The error speaks
// in the stored unit.
func (f Field) Check(r *Request) error { return f.Field.Check(f.at(r)) }

// In returns the field as a system shows and reads it. Bounds stay where they are; steps are
// rounded to ones a thumb understands.
func (f Field) In(s measure.System) Field {
	f.Field = f.Field.In(s)
	return f
}
