package request

import (
	"errors"
	"fmt"
	"math"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"hollen/internal/core/cost"
	"hollen/internal/core/flour"
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

// Kind is what a field holds.
type Kind string

// The kinds of field.
const (
	Number Kind = "number"
	Whole  Kind = "whole" // a whole number
	Choice Kind = "choice"
	Text   Kind = "text"
	Flag   Kind = "flag"
	Price  Kind = "price"  // money, or empty
	Date   Kind = "date"   // yyyy-mm-dd, or empty
	Moment Kind = "moment" // yyyy-mm-ddThh:mm, or empty
)

// Option is one value of a choice.
type Option struct{ Key, Name string }

// Field describes one thing a maker can say: where it stands in the request, what it is
// called, what is allowed. Binding, checking, drawing and comparing requests all go by it.
// Min, Max and Step are in the stored unit; a page shows the stored value times Show.
type Field struct {
	Path     string
	Stage    Stage
	Label    string
	Unit     string // as shown
	Kind     Kind
	Min, Max float64
	Step     float64 // of the stepper
	Show     float64 // shown = stored × Show + Offset; 0 counts as 1
	Offset   float64
	Rounded  bool // shown to Digits decimals, not as typed
	Digits   int
	Optional bool // may be empty: Hollen chooses
	Options  []Option
	Group    string       // of fields that come and go together: flours, additions, eggs.also
	Slot     int          // of the group
	Part     string       // of the slot: the end of the path
	kept     measure.Unit // it is stored in, "" where that is Unit
	at       func(*Request) any
	has      func(*Request) bool  // nil: every request has it
	own      func(*Request) owner // nil: holds no thing of the workshop's own
}

// Has says whether r has the field: a blend of two flours has no third share.
func (f Field) Has(r *Request) bool { return f.has == nil || f.has(r) }

// scale returns how a stored number is shown.
func (f Field) scale() float64 {
	if f.Show == 0 {
		return 1
	}
	return f.Show
}

// Shown returns a stored number as f shows it.
func (f Field) Shown(v float64) string { return f.shown(v) }

// Stored reads a number as f shows it; false when it is none.
func (f Field) Stored(shown string) (float64, bool) {
	n, err := f.read(shown)
	return n, err == nil
}

// read reads what is typed into f: a number alone is in the unit f shows, any other names its own.
func (f Field) read(typed string) (float64, error) {
	kept := f.kept
	if kept == "" {
		kept = measure.Unit(f.Unit)
	}
	return measure.Read(typed, kept, func(n float64) float64 { return (n - f.Offset) / f.scale() })
}

// Get returns the value of f in r as a maker would type it; "" when Hollen is to choose or
// r does not have the field.
func (f Field) Get(r *Request) string {
	if !f.Has(r) {
		return ""
	}
	switch v := f.at(r).(type) {
	case *float64:
		return f.shown(*v)
	case **float64:
		if *v == nil {
			return ""
		}
		return f.shown(**v)
	case **cost.Money:
		if *v == nil {
			return ""
		}
		return (*v).String()
	case *bool:
		if *v {
			return "yes"
		}
		return ""
	}
	return f.text(r).String()
}

func (f Field) shown(v float64) string {
	to := 1e6
	if f.Rounded {
		to = math.Pow10(f.Digits)
	}
	return strconv.FormatFloat(math.Round((v*f.scale()+f.Offset)*to)/to, 'f', -1, 64)
}

// text is the string a Choice or Text field stands in, of whatever named type.
func (f Field) text(r *Request) reflect.Value { return reflect.ValueOf(f.at(r)).Elem() }

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
	typed = strings.TrimSpace(typed)
	if !f.Has(r) {
		return f.refuse(typed)
	}
	switch v := f.at(r).(type) {
	case *bool:
		*v = typed != ""
		return nil
	case **cost.Money:
		if typed == "" {
			*v = nil
			return nil
		}
		m, err := cost.Parse(typed)
		if err != nil {
			return f.refuse(typed)
		}
		*v = &m
		return nil
	case *float64, **float64:
		opt, isOpt := v.(**float64)
		if isOpt && typed == "" {
			*opt = nil
			return nil
		}
		n, err := f.read(typed)
		if ask, unclear := errors.AsType[measure.Unclear](err); unclear {
			return FieldError{f.Path, f.Label, typed, ask.Ask}
		}
		if err != nil || !f.allows(n) {
			return f.refuse(typed)
		}
		if isOpt {
			*opt = &n
		} else {
			*v.(*float64) = n
		}
		return nil
	}
	if !f.allowsText(typed) {
		return f.refuse(typed)
	}
	f.text(r).SetString(typed)
	if f.own != nil {
		f.own(r).put(nil)
	}
	return nil
}

// Check returns a FieldError when what stands in r for f is not allowed. The error speaks
// in the stored unit.
func (f Field) Check(r *Request) error {
	var n float64
	switch v := f.at(r).(type) {
	case *bool, **cost.Money: // money reads no price that is not one
		return nil
	case *float64:
		n = *v
	case **float64:
		if *v == nil {
			return nil
		}
		n = **v
	default:
		if s := f.text(r).String(); !f.allowsText(s) {
			return f.refuse(s)
		}
		return nil
	}
	if f.allows(n) {
		return nil
	}
	stored := f
	stored.Show = 1
	if f.Show == 100 {
		stored.Unit = "(a share)"
	}
	return stored.refuse(strconv.FormatFloat(n, 'g', -1, 64))
}

func (f Field) allows(n float64) bool {
	const eps = 1e-9
	return !math.IsNaN(n) && n >= f.Min-eps && n <= f.Max+eps && (f.Kind != Whole || n == math.Trunc(n))
}

func (f Field) allowsText(s string) bool {
	if f.Kind == Date {
		_, err := flour.Day(s)
		return s == "" || err == nil
	}
	if f.Kind == Moment {
		_, err := measure.At(s)
		return s == "" || err == nil
	}
	if f.Kind == Text {
		n := utf8.RuneCountInString(strings.TrimSpace(s))
		return n >= int(f.Min) && n <= int(f.Max) && utf8.ValidString(s) && !strings.ContainsFunc(s,
			func(c rune) bool { return c < ' ' })
	}
	return slices.ContainsFunc(f.Options, func(o Option) bool { return o.Key == s })
}

// Allowed returns what f takes, in words and in the unit shown.
func (f Field) Allowed() string {
	switch f.Kind {
	case Text:
		return fmt.Sprintf("%g to %g letters on one line", f.Min, f.Max)
	case Price:
		return "0 to 1,000,000 with at most four decimals, or empty, is allowed"
	case Moment:
		return "a day and a time, as 2026-11-28T17:30, or empty, is allowed"
	case Date:
		return "a date from 2000 to 2100, as 2026-11-24, or empty, is allowed"
	case Choice:
		keys := options(f.Options, func(o Option) Option { return o })
		names := make([]string, len(keys))
		for i, k := range keys {
			names[i] = k.Key
			if k.Key == "" {
				names[i] = "empty"
			}
		}
		return "one of " + strings.Join(names, ", ")
	}
	s := f.shown(f.Min) + " to " + measure.Grouped(f.shown(f.Max))
	if f.Unit != "" {
		s += " " + f.Unit
	}
	if f.Kind == Whole {
		s += ", whole"
	}
	if f.Optional {
		s += ", or empty"
	}
	return s + " is allowed"
}

func (f Field) refuse(value string) FieldError {
	return FieldError{f.Path, f.Label, value, f.Allowed()}
}

// Stepped returns the shown value n steps from the shown value from, on the step's grid and
// within what is allowed; false when from is no number.
func (f Field) Stepped(from string, n int) (string, bool) {
	v, ok := measure.ParseNumber(from)
	if !ok || f.Step == 0 {
		return "", false
	}
	grid := f.Step * f.scale()
	k := v / grid
	next := math.Floor(k+1e-6) + float64(n)
	if n < 0 {
		next = math.Ceil(k-1e-6) + float64(n)
	}
	return f.shown(min(max((next*grid-f.Offset)/f.scale(), f.Min), f.Max)), true
}

// ShownBounds returns Min, Max and Step in the unit shown.
func (f Field) ShownBounds() (lo, hi, step string) {
	bare := f
	bare.Offset = 0
	bare.Digits++
	return f.shown(f.Min), f.shown(f.Max), bare.shown(f.Step)
}
