package cabinet

import (
	"errors"
	"net/url"
	"slices"
	"strings"

	"hollen/internal/core/cost"
	"hollen/internal/core/cut"
	"hollen/internal/core/field"
	"hollen/internal/core/measure"
)

// entry is one line of the form of a thing of the cabinet: its field, and where it stands.
type entry struct {
	field.Field
	Type    string // of the input, "" for text
	Across  int    // words to a line of a text area, 0: two
	asTyped bool   // a text area whose lines are kept as they are
	For     string // families of shape it belongs to, "" all
	Wide    bool   // as wide as the form
	Rows    int    // of a text area, 0: eight

	at any

	Value, Error string
}

// fill puts what stands in the thing into Value.
func (e *entry) fill() {
	if e.Value = e.Get(e.at); e.Type == "textarea" && !e.asTyped {
		e.Value = onLines(e.Value, max(e.Across, 2))
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
	if typed = strings.Join(strings.Fields(typed), " "); e.asTyped {
		typed = strings.TrimSpace(strings.Join(lines, "\n"))
	}
	err := e.Set(e.at, typed)
	if wrong, is := errors.AsType[field.Error](err); is && e.Kind == field.Choice { // the page lists them
		wrong.Allowed = "one of those listed is allowed"
		err = wrong
	}
	e.Error = field.Refusal(err)
}

// readAll reads a posted form into the entries and reports whether all of it is allowed.
func readAll(entries []entry, v url.Values) bool {
	sound := true
	for i := range entries {
		entries[i].read(v.Get(entries[i].Path))
		sound = sound && entries[i].Error == ""
	}
	return sound
}

// blame puts what a check found beside the entry each fault names; beside the first when it
// names none.
func blame(entries []entry, err error) {
	for _, f := range measure.Faults(err) {
		at := slices.IndexFunc(entries, func(e entry) bool { return e.Path == f.Field })
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
	return entry{Field: field.Field{Path: key, Label: label, Hint: hint, Kind: field.Text, Min: least, Max: most},
		at: at}
}

// areaEntry is a text of several lines.
func areaEntry(key, label, hint string, least, most float64, at *string) entry {
	e := textEntry(key, label, hint, least, most, at)
	e.Type, e.Lines = "textarea", true
	return e
}

// numberEntry is a number between lo and hi as it is shown: as it is kept, times show.
func numberEntry(key, label, unit string, lo, hi, show float64, at *float64) entry {
	const digits = 4
	return entry{Field: field.Field{Path: key, Label: label, Unit: unit, Kind: field.Number, Min: lo / show,
		Max: hi / show, Show: show, Rounded: true, Digits: digits}, at: at}
}

func priceEntry(key, label, unit string, at *cost.Money) entry {
	return entry{Field: field.Field{Path: key, Label: label, Unit: unit, Kind: field.Price, Optional: true}, at: at}
}

func dateEntry(key, label string, at *string) entry {
	return entry{Field: field.Field{Path: key, Label: label, Kind: field.Date, Optional: true}, Type: "date", at: at}
}

func choiceEntry(key, label string, at *string, options ...field.Option) entry {
	return entry{Field: field.Field{Path: key, Label: label, Kind: field.Choice, Options: options}, at: at}
}

func flagEntry(key, label string, at *bool) entry {
	return entry{Field: field.Field{Path: key, Label: label, Kind: field.Flag}, at: at}
}

// optional lets an entry be empty; 0 stands for it.
func (e entry) optional(hint string) entry {
	e.Optional, e.Hint = true, hint
	return e
}

// written has a text area keep its lines as they are typed, and take the width of the form.
func (e entry) written() entry {
	e.asTyped, e.Wide = true, true
	return e
}

// ofFamilies shows an entry only for the families of shape it says something of.
func (e entry) ofFamilies() entry {
	e.For = cut.ReadBy(e.Path)
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
