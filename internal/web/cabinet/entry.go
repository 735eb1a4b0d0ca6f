package cabinet

import (
	"errors"
	"fmt"
	"math"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"hollen/internal/core/cost"
	"hollen/internal/core/cut"
	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// entry is one line of the form of a thing of the cabinet: what it is called, what is
// allowed, and where it stands. One of num, text, flag and money is set.
type entry struct {
	Key, Label, Hint, Unit string
	Kind                   request.Kind
	Type                   string // of the input, "" for text
	Across                 int    // words to a line of a text area, 0: two
	Lines                  bool   // of a text area: its lines are kept as they are
	For                    string // families of shape it belongs to, "" all
	Options                []request.Option
	Min, Max, Show         float64 // of a number, in the unit shown
	Optional               bool

	num   *float64
	text  *string
	flag  *bool
	money *cost.Money

	Value, Error string
}

// Longest is the most letters a text may have.
func (e entry) Longest() int { return int(e.Max) }

// Allowed says what a number or a date may be.
func (e entry) Allowed() string {
	s := ""
	switch e.Kind {
	case request.Number, request.Whole:
		s = strings.TrimSpace(fmt.Sprintf("%g to %g %s", e.Min, e.Max, e.Unit))
	case request.Text:
		s = fmt.Sprintf("%g to %g letters", e.Min, e.Max)
		if e.Min == 0 {
			s = fmt.Sprintf("at most %g letters", e.Max)
		}
	case request.Price:
		return "0 to 1,000,000, or empty"
	case request.Date:
		return "a date from 2000 to 2100, or empty"
	case request.Choice:
		return "one of those listed"
	}
	if e.Optional {
		s += ", or empty"
	}
	return s
}

// fill puts what stands in the thing into Value.
func (e *entry) fill() {
	switch {
	case e.num != nil && *e.num == 0 && e.Optional, e.money != nil && *e.money == 0:
		e.Value = ""
	case e.num != nil:
		e.Value = strconv.FormatFloat(math.Round(*e.num*e.Show*1e4)/1e4, 'f', -1, 64)
	case e.money != nil:
		e.Value = e.money.String()
	case e.flag != nil:
		e.Value = map[bool]string{true: "yes"}[*e.flag]
	default:
		e.Value = *e.text
		if e.Type == "textarea" && !e.Lines {
			e.Value = onLines(e.Value, max(e.Across, 2))
		}
	}
}

// read takes what was typed into the thing; what is not allowed stands in Error and leaves
// the thing as it was.
func (e *entry) read(typed string) {
	e.Value = typed
	var lines []string
	for line := range strings.Lines(typed) {
		lines = append(lines, strings.Join(strings.Fields(line), " "))
	}
	if typed = strings.Join(strings.Fields(typed), " "); e.Lines {
		typed = strings.TrimSpace(strings.Join(lines, "\n"))
	}
	ok := true
	switch {
	case e.flag != nil:
		*e.flag = typed != ""
	case e.money != nil:
		*e.money = 0
		if typed != "" {
			m, err := cost.Parse(typed)
			ok = err == nil
			*e.money = m
		}
	case e.num != nil:
		if typed == "" && e.Optional {
			*e.num = 0
			return
		}
		n, err := measure.Read(typed, measure.Unit(e.Unit), nil)
		if ask, unclear := errors.AsType[measure.Unclear](err); unclear {
			e.Error = request.FieldError{Value: typed, Allowed: ask.Ask}.ForPage()
			return
		}
		ok = err == nil && n >= e.Min && n <= e.Max && (e.Kind != request.Whole || n == math.Trunc(n))
		if ok {
			*e.num = n / e.Show
		}
	case e.Kind == request.Choice:
		ok = slices.ContainsFunc(e.Options, func(o request.Option) bool { return o.Key == typed })
		if ok {
			*e.text = typed
		}
	case e.Kind == request.Date:
		_, err := flour.Day(typed)
		if ok = typed == "" || err == nil; ok {
			*e.text = typed
		}
	default:
		n := utf8.RuneCountInString(typed)
		if ok = utf8.ValidString(typed) && n >= int(e.Min) && n <= int(e.Max); ok {
			*e.text = typed
		}
	}
	if !ok {
		e.Error = request.FieldError{Value: typed, Allowed: e.Allowed() + " is allowed"}.ForPage()
	}
}

// readAll reads a posted form into the entries and reports whether all of it is allowed.
func readAll(entries []entry, v url.Values) bool {
	sound := true
	for i := range entries {
		entries[i].read(v.Get(entries[i].Key))
		sound = sound && entries[i].Error == ""
	}
	return sound
}

// blame puts what a check found beside the entry each fault names; beside the first when it
// names none.
func blame(entries []entry, err error) {
	for _, f := range measure.Faults(err) {
		at := slices.IndexFunc(entries, func(e entry) bool { return e.Key == f.Field })
		if at < 0 {
			at = 0
			if f.Field != "" {
				f.Text = f.Error()
			}
		}
		entries[at].Error = measure.Capital(f.Text) + "."
	}
}

// onLines writes words so many to a line: "a 1 b 2" as a pair to a line.
func onLines(s string, across int) string {
	words := strings.Fields(s)
	var b strings.Builder
	for i, w := range words {
		b.WriteString(w)
		if i%across == across-1 {
			b.WriteByte('\n')
		} else {
			b.WriteByte(' ')
		}
	}
	return strings.TrimSpace(b.String())
}

func textEntry(key, label, hint string, least, most float64, at *string) entry {
	return entry{Key: key, Label: label, Hint: hint, Kind: request.Text, Min: least, Max: most, text: at}
}

func numberEntry(key, label, unit string, lo, hi, show float64, at *float64) entry {
	return entry{Key: key, Label: label, Unit: unit, Kind: request.Number, Min: lo, Max: hi, Show: show, num: at}
}

func priceEntry(key, label, unit string, at *cost.Money) entry {
	return entry{Key: key, Label: label, Unit: unit, Kind: request.Price, Optional: true, money: at}
}

func dateEntry(key, label string, at *string) entry {
	return entry{Key: key, Label: label, Kind: request.Date, Type: "date", Optional: true, text: at}
}

func choiceEntry(key, label string, at *string, options ...request.Option) entry {
	return entry{Key: key, Label: label, Kind: request.Choice, Options: options, text: at}
}

func flagEntry(key, label string, at *bool) entry {
	return entry{Key: key, Label: label, Kind: request.Flag, flag: at}
}

// optional lets an entry be empty; 0 stands for it.
func (e entry) optional(hint string) entry {
	e.Optional, e.Hint = true, hint
	return e
}

// ofFamilies shows an entry only for the families of shape it says something of.
func (e entry) ofFamilies() entry {
	e.For = cut.ReadBy(e.Key)
	return e
}

// Shown is the value as its form shows it: of a choice its name.
func (e entry) Shown() string {
	for _, o := range e.Options {
		if o.Key == e.Value {
			return o.Name
		}
	}
	return e.Value
}
