package bench

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/measure"
)

// Event is one thing that happened. Events are never changed; one takes another back.
type Event struct {
	ID   string // made by the screen that sent it: sent twice, it counts once
	At   time.Time
	By   string // the maker; "" where nobody is named
	Says Said
}

// Said is what an event says has happened: a type for each kind of event, with what that kind carries and nothing else.
// An event more is a type more, a line in EventKinds, a key in the bench's panels and a line of docs/formats.md.
type Said interface {
	// what is the name of its kind in documents and on screens.
	what() What
	// check returns what is wrong with what is said; a measure.Fault, nil where it can be.
	check() error
	// bear brings it to bear on a making as it stands.
	bear(f *folding, e *Event)
}

// These names stand for the kinds of events in documents and on screens.
type What string

// EventKind is a kind of event: how it is called, and what it carries as docs/formats.md has it.
type EventKind struct {
	What What
	Doc  string
	read func(doc []byte) (Said, error)
}

func kindOf[T Said](doc string) EventKind {
	var none T
	return EventKind{none.what(), doc, func(doc []byte) (Said, error) {
		var said T
		err := json.Unmarshal(doc, &said)
		return said, err
	}}
}

// Remark is what was said of a making in words: it stands in the list of what happened.
type Remark interface {
	Said
	// Words are it as the log has it, masses in a system of units.
	Words(in measure.System) string
	// Found is what it is found by: the words somebody said.
	Found() string
}

// atStep is what happens at a step of the making.
type atStep interface{ step() string }

// nearStep is what may say which step was on: it need not.
type nearStep interface{ near() string }

// What returns the name of an event's kind; "" for an event without content.
func (e *Event) What() What {
	if e.Says == nil {
		return ""
	}
	return e.Says.what()
}

// Step is the step an event is of, or stands near; "" where it is of none.
func (e *Event) Step() string {
	switch x := e.Says.(type) {
	case atStep:
		return x.step()
	case nearStep:
		return x.near()
	}
	return ""
}

// head is what every event has.
type head struct {
	ID   string    `json:"id"`
	What What      `json:"what"`
	At   time.Time `json:"at"`
	By   string    `json:"by,omitempty"`
}

// MarshalJSON writes an event as one flat object: what every event has, then what its kind carries.
func (e Event) MarshalJSON() ([]byte, error) {
	out, err := json.Marshal(head{e.ID, e.What(), e.At, e.By})
	if err != nil || e.Says == nil {
		return out, err
	}
	body, err := json.Marshal(e.Says)
	if err != nil || len(body) <= len("{}") {
		return out, err
	}
	return append(append(out[:len(out)-1], ','), body[1:]...), nil
}

// UnmarshalJSON reads an event; one of a kind that is not known is kept as it is, and says nothing.
func (e *Event) UnmarshalJSON(doc []byte) error {
	if bytes.Equal(doc, []byte("null")) {
		return nil
	}
	var h head
	if err := json.Unmarshal(doc, &h); err != nil {
		return err
	}
	*e = Event{ID: h.ID, At: h.At, By: h.By, Says: strange{Kind: h.What, doc: bytes.Clone(doc)}}
	for _, k := range EventKinds {
		if k.What == h.What {
			said, err := k.read(doc)
			if err != nil {
				return err
			}
			e.Says = said
		}
	}
	return nil
}

// strange is an event of a kind that is not known here: of a newer version, or of nobody.
type strange struct {
	Kind What
	doc  []byte
}

func (s strange) what() What            { return s.Kind }
func (s strange) bear(*folding, *Event) {}
func (s strange) check() error          { return measure.Faultf("what", "%.40q is no event", s.Kind) }

// MarshalJSON gives back what it carries.
func (s strange) MarshalJSON() ([]byte, error) {
	var all map[string]json.RawMessage
	if err := json.Unmarshal(s.doc, &all); err != nil {
		return nil, err
	}
	for _, k := range []string{"id", "what", "at", "by"} {
		delete(all, k)
	}
	return json.Marshal(all)
}

// Bounds of what an event may say.
const (
	MaxID       = 40
	MaxText     = 400
	MaxBy       = 80
	MaxG        = 200_000 // g
	MaxMin      = 24 * 60 // min, also fewer
	MaxPokeS    = 60      // s
	MaxSheetMM  = 60      // mm
	MaxRibbonMM = 3000    // mm
	MaxPieces   = 100_000
	MaxLeaves   = 600
)

// IsID says whether s may be the id of an event.
func IsID(s string) bool {
	return s != "" && len(s) <= MaxID && strings.Trim(s,
		"abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_.") == ""
}

// Check returns what is wrong with an event of a making that has these steps; a measure.Fault.
func (e *Event) Check(has func(step string) bool) error {
	noStep := func(step string) error {
		return measure.Faultf("step", "%.40q is no step of this making", step)
	}
	switch {
	case !IsID(e.ID):
		return measure.Faultf("id", "an event has an id of 1 to %d letters, figures, - and _", MaxID)
	case e.At.IsZero() || e.At.Year() < 2000 || e.At.Year() > 2200:
		return measure.Faultf("at", "an event has a time")
	case len(e.By) > MaxBy:
		return measure.Faultf("by", "%d letters at most", MaxBy)
	case e.Says == nil:
		return measure.Faultf("what", "that is no event")
	}
	switch x := e.Says.(type) {
	case atStep:
		if !has(x.step()) {
			return noStep(x.step())
		}
	case PutIn:
		if x.Before != "" && !has(x.Before) {
			return noStep(x.Before)
		}
	case MoreMin:
		if !has(x.Step) && !IsID(x.Clock) {
			return noStep(x.Step)
		}
	case TakenBack:
		if x.Of == e.ID {
			return measure.Faultf("of", "which event?")
		}
	}
	return e.Says.check()
}

// firstWrong is the first of these that is wrong; nil where none is.
func firstWrong(all ...error) error {
	for _, err := range all {
		if err != nil {
			return err
		}
	}
	return nil
}

func within(v, least, most float64) bool { return v >= least && v <= most }

func checkG(field string, g float64) error {
	if !within(g, 0, MaxG) {
		return measure.Faultf(field, "0 to %s g is allowed", measure.Thousands(MaxG))
	}
	return nil
}

func checkMin(minutes float64) error {
	if !within(minutes, -MaxMin, MaxMin) {
		return measure.Faultf("min", "%d minutes at most", MaxMin)
	}
	return nil
}

func checkN(n int) error {
	if n < -MaxPieces || n > MaxPieces {
		return measure.Faultf("n", "%d at most", MaxPieces)
	}
	return nil
}

func checkText(text string) error {
	if len(text) > MaxText {
		return measure.Faultf("text", "%d letters at most", MaxText)
	}
	return nil
}

// checkWords wants a text that says something; ask is what to ask for otherwise.
func checkWords(field, text, ask string) error {
	if err := checkText(text); err != nil {
		return err
	}
	if strings.TrimSpace(text) == "" {
		return measure.Faultf(field, "%s", ask)
	}
	return nil
}

func checkOneOf(field, v string, all []string) error {
	if !slices.Contains(all, v) {
		return measure.Faultf(field, "%s is allowed", measure.List(all))
	}
	return nil
}

// Ordered returns the events that count, by their time at the bench, then their id: each once, and
// none that was taken back. Whether one that takes back counts goes by the same rule.
func Ordered(events []Event) []Event {
	out := slices.Clone(events)
	slices.SortStableFunc(out, func(a, b Event) int {
		if c := a.At.Compare(b.At); c != 0 {
			return c
		}
		return strings.Compare(a.ID, b.ID)
	})
	seen := make(map[string]bool, len(out))
	out = slices.DeleteFunc(out, func(e Event) bool {
		if seen[e.ID] {
			return true
		}
		seen[e.ID] = true
		return false
	})
	// Events that take others back are applied from the last one on, so that taking back a taking back works.
	void := map[string]bool{}
	for i := len(out) - 1; i >= 0; i-- {
		if t, ok := out[i].Says.(TakenBack); ok && !void[out[i].ID] {
			void[t.Of] = true
		}
	}
	return slices.DeleteFunc(out, func(e Event) bool { return void[e.ID] })
}

// String is an event as a failing test shows it.
func (e Event) String() string { return fmt.Sprintf("%s %s %+v", e.ID, e.What(), e.Says) }
