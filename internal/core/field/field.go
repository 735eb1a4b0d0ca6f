// Package field answers, of anything that can be typed: what is it called, in what unit does it stand, what is allowed,
// how is it shown, and what does this text make of it? A table of fields over a struct binds, checks and shows it; a
// batch, a thing of the cabinet, a day's kit and the log all go by such tables. A field describes; where its value
// stands is handed to it as a pointer.
package field

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
	"hollen/internal/core/measure"
)

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

// Field describes one thing that can be said. Min, Max and Step are in the stored unit; a page shows the stored value
// times Show, plus Offset. The place of its value is a *float64, *int, *bool, *cost.Money, a pointer to a string of
// whatever type, or a pointer to a pointer to one of the first and fourth: nil where nothing is said. A plain number
// or price of an Optional field is 0 where nothing is said.
type Field struct {
	Path     string
	Label    string
	Hint     string
	Unit     string // as shown
	Kind     Kind
	Min, Max float64 // of a text: letters
	Step     float64 // of the stepper
	Show     float64 // shown = stored × Show + Offset; 0 counts as 1
	Offset   float64
	Rounded  bool // shown to Digits decimals, not as typed
	Digits   int
	Optional bool // may be empty
	Lines    bool // a text of several lines
	Options  []Option
	// Gone are options of documents from before: they are read and named, and no longer offered; chosen once more they
	// are the first of Options.
	Gone []Option

	kept measure.Unit // it is stored in, "" where that is Unit
}

// Error is text a field does not allow.
type Error struct {
	Path, Label, Value, Allowed string
}

func (e Error) Error() string {
	return fmt.Sprintf("%s: %s is not allowed here; %s", e.Path, measure.Quote(e.Value), e.Allowed)
}

// ForPage returns the message to show beside the field, in the unit shown.
func (e Error) ForPage() string {
	what := measure.Quote(e.Value) + " won’t do. "
	if e.Value == "" {
		what = "Empty. "
	}
	return what + measure.Capital(e.Allowed) + "."
}

// Refusal is what stands beside a field of what was refused, "" where nothing was.
func Refusal(err error) string {
	if wrong, is := errors.AsType[Error](err); is {
		return wrong.ForPage()
	}
	return ""
}

// scale returns how a stored number is shown.
func (f Field) scale() float64 {
	if f.Show == 0 {
		return 1
	}
	return f.Show
}

// Shown returns a stored number as f shows it.
func (f Field) Shown(v float64) string {
	to := 1e6
	if f.Rounded {
		to = math.Pow10(f.Digits)
	}
	switch { // as finely as it is told anywhere: a hundredth, and of what is under an inch a thousandth
	case f.kept != "" && v*f.scale() >= 1:
		to = min(to, 100)
	case f.kept == measure.MM:
		to = min(to, 1000)
	}
	return strconv.FormatFloat(math.Round((v*f.scale()+f.Offset)*to)/to, 'f', -1, 64)
}

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
	if strings.HasPrefix(f.Unit, "%") { // said with its sign or without
		typed = strings.TrimSuffix(strings.TrimSpace(typed), "%")
	}
	return measure.Read(typed, kept, func(n float64) float64 { return (n - f.Offset) / f.scale() })
}

// Get returns the value at a place as one would type it, "" where nothing is said.
func (f Field) Get(at any) string {
	switch v := at.(type) {
	case *float64:
		if *v == 0 && f.Optional {
			return ""
		}
		return f.Shown(*v)
	case **float64:
		if *v == nil {
			return ""
		}
		return f.Shown(**v)
	case *int:
		return strconv.Itoa(*v)
	case *cost.Money:
		if *v == 0 {
			return ""
		}
		return v.String()
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
	return text(at).String()
}

// text is the string at a place, of whatever named type.
func text(at any) reflect.Value { return reflect.ValueOf(at).Elem() }

// Set puts typed text to a place, in the unit shown. When the text is not allowed it returns an Error and leaves the
// place as it was. What was rounded to be shown and comes back as it was shown stays what it is.
func (f Field) Set(at any, typed string) error {
	typed = strings.TrimSpace(typed)
	switch v := at.(type) {
	case *bool:
		*v = typed != ""
		return nil
	case *cost.Money, **cost.Money:
		return f.setMoney(at, typed)
	case *float64, **float64, *int:
		return f.setNumber(at, typed)
	}
	if !f.allowsText(typed) {
		return f.Refuse(typed)
	}
	if slices.ContainsFunc(f.Gone, func(o Option) bool { return o.Key == typed }) {
		typed = f.Options[0].Key
	}
	text(at).SetString(typed)
	return nil
}

func (f Field) setMoney(at any, typed string) error {
	m, err := cost.Money(0), error(nil)
	if typed != "" {
		if m, err = cost.Parse(typed); err != nil {
			return f.Refuse(typed)
		}
	}
	switch v := at.(type) {
	case *cost.Money:
		*v = m
	case **cost.Money:
		if *v = &m; typed == "" {
			*v = nil
		}
	}
	return nil
}

func (f Field) setNumber(at any, typed string) error {
	if typed == "" {
		switch v := at.(type) {
		case **float64:
			*v = nil
			return nil
		case *float64:
			if f.Optional {
				*v = 0
				return nil
			}
		}
	}
	n, err := f.read(typed)
	if ask, unclear := errors.AsType[measure.Unclear](err); unclear {
		return Error{f.Path, f.Label, typed, ask.Ask}
	}
	if err != nil || !f.allows(n) {
		return f.Refuse(typed)
	}
	if f.Rounded && typed == f.Get(at) {
		return nil
	}
	switch v := at.(type) {
	case **float64:
		*v = &n
	case *float64:
		*v = n
	case *int:
		*v = int(n)
	}
	return nil
}

// Check returns an Error when what stands at a place is not allowed. The error speaks in the stored unit.
func (f Field) Check(at any) error {
	var n float64
	switch v := at.(type) {
	case *bool, *cost.Money, **cost.Money: // money reads no price that is not one
		return nil
	case *float64:
		n = *v
	case *int:
		n = float64(*v)
	case **float64:
		if *v == nil {
			return nil
		}
		n = **v
	default:
		if s := text(at).String(); !f.allowsText(s) {
			return f.Refuse(s)
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
	return stored.Refuse(strconv.FormatFloat(n, 'g', -1, 64))
}

func (f Field) allows(n float64) bool {
	const eps = 1e-9
	return !math.IsNaN(n) && n >= f.Min-eps && n <= f.Max+eps && (f.Kind != Whole || n == math.Trunc(n))
}

func (f Field) allowsText(s string) bool {
	switch f.Kind {
	case Date:
		_, err := measure.Day(s)
		return s == "" || err == nil
	case Moment:
		_, err := measure.At(s)
		return s == "" || err == nil
	case Text:
		n := utf8.RuneCountInString(strings.TrimSpace(s))
		return n >= int(f.Min) && n <= int(f.Max) && utf8.ValidString(s) && !strings.ContainsFunc(s,
			func(c rune) bool { return c < ' ' && !(f.Lines && c == '\n') })
	}
	is := func(o Option) bool { return o.Key == s }
	return slices.ContainsFunc(f.Options, is) || slices.ContainsFunc(f.Gone, is)
}

// Range returns what a field takes, in short and in the unit shown.
func (f Field) Range() string {
	switch f.Kind {
	case Text:
		s := fmt.Sprintf("%g to %g letters", f.Min, f.Max)
		if f.Min == 0 {
			s = fmt.Sprintf("at most %g letters", f.Max)
		}
		if !f.Lines {
			s += " on one line"
		}
		return s
	case Price:
		return "0 to 1,000,000 with at most four decimals, or empty,"
	case Moment:
		return "a day and a time, as 2026-11-28T17:30, or empty,"
	case Date:
		return "a date from 2000 to 2100, as 2026-11-24, or empty,"
	case Choice:
		names := make([]string, len(f.Options))
		for i, o := range f.Options {
			if names[i] = o.Key; o.Key == "" {
				names[i] = "empty"
			}
		}
		return "one of " + strings.Join(names, ", ")
	}
	s := f.Shown(f.Min) + " to " + measure.Grouped(f.Shown(f.Max))
	if f.Unit != "" {
		s += " " + f.Unit
	}
	if f.Kind == Whole {
		s += ", whole"
	}
	if f.Optional {
		s += ", or empty"
	}
	return s
}

// Allowed returns what f takes, as the end of a sentence.
func (f Field) Allowed() string {
	if f.Kind == Text || f.Kind == Choice {
		return f.Range()
	}
	return f.Range() + " is allowed"
}

// Refuse is the Error of a value that is not allowed.
func (f Field) Refuse(value string) Error {
	return Error{f.Path, f.Label, value, f.Allowed()}
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
	return f.Shown(min(max((next*grid-f.Offset)/f.scale(), f.Min), f.Max)), true
}

// ShownBounds returns Min, Max and Step in the unit shown.
func (f Field) ShownBounds() (lo, hi, step string) {
	bare := f
	bare.Offset = 0
	bare.kept = ""
	bare.Digits++
	return f.Shown(f.Min), f.Shown(f.Max), bare.Shown(f.Step)
}

// In returns the field as a system shows and reads it. Bounds stay where they are; steps are
// rounded to ones a thumb understands.
func (f Field) In(s measure.System) Field {
	unit, by, add, turned := s.Turn(measure.Unit(f.Unit))
	if !turned || f.Show != 0 {
		return f
	}
	f.kept = measure.Unit(f.Unit)
	f.Unit = string(unit)
	f.Show = by
	f.Offset = add
	f.Rounded = true
	step := f.Step * by
	if step == 0 {
		step = (f.Max - f.Min) * by / 1000
	}
	grid := math.Pow(10, math.Floor(math.Log10(step)))
	for _, n := range []float64{1, 2, 5, 10} {
		if n*grid >= step*.7 {
			step = n * grid
			break
		}
	}
	if f.Step != 0 {
		f.Step = step / by
	}
	f.Digits = max(0, int(math.Ceil(-math.Log10(step)-1e-9))) + 1
	if f.Unit != "in" { // exact enough to turn back into whole grams and degrees
		f.Digits++
	}
	if add != 0 {
		f.Digits = 1
	}
	return f
}
