package bench

import (
	"math"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
)

// What is what an event says has happened.
type What string

// The events of a making.
const (
	Weighed  What = "weighed"  // Step, G; by a scale where Scale is set
	Started  What = "started"  // Step
	Done     What = "done"     // Step
	Skipped  What = "skipped"  // Step
	Paused   What = "paused"   // Step
	Resumed  What = "resumed"  // Step
	Minutes  What = "minutes"  // Step or a clock's id in Of: Min more, or fewer
	Clocked  What = "clock"    // a clock of one's own: Text, Min; its id is the event's
	Unclock  What = "unclock"  // Of: a clock is put away
	Poked    What = "poked"    // Step, S: seconds to half recovery
	Looked   What = "looked"   // Step, Text: not yet, right, past
	Measured What = "measured" // Step, MM; or N leaves of paper; or G of a square of SquareMM
	Added    What = "added"    // Text what, G; Of how, where it is a house estimate
	// Text what, G: weighed back from bowl or jug; trimmings, which Of kneaded in went into the next piece
	Left   What = "left"
	Seen   What = "seen"   // Text: the sign and what was done about it; Sign its key, Of what went in, G
	Noted  What = "note"   // Text
	Felt   What = "felt"   // N: -2 too dry … 2 too wet
	Packed What = "packed" // Text what, G, N pieces, Of fridge or freezer
	Named  What = "named"  // Of lot, eggs or hands; Text which
	// a step of one's own before Step, last where that is empty: Of its kind, Text, Min; of a pass N the piece
	PutIn    What = "put_in"
	LastStop What = "last_stop" // Step: the pass its piece ends with
	Flexed   What = "flexed"    // Step, Text yes or no: it bends without cracking
	Windowed What = "window"    // Step, Text yes or no: it stretches until light shines through
	Dried    What = "dried"     // Step, G now of what weighed FromG raw
	Made     What = "made"      // Step, N nests, pieces or handfuls more; G what those weigh, 0: not weighed
	Shrunk   What = "shrunk"    // Step, MM long now of a ribbon that was cut FromMM long
	Shaped   What = "shape"     // N the piece, Text the shape it becomes
	PutBy    What = "put_by"    // Text dough or sheets, G, N pieces, Of where
	// Of how: "" as planned, or weighed where G says so; OutWeighed, G out, also nought; ThrownAway, G, Text why. N
	// pieces, Text what to do otherwise
	Ended   What = "ended"
	Damaged What = "damaged"    // it was kept and cannot be read; no screen says this
	Took    What = "taken_back" // Of: the event that is taken back
)

// Event is one thing that happened. Events are never changed; one takes another back.
type Event struct {
	ID     string    `json:"id"` // made by the screen that sent it: sent twice, it counts once
	What   What      `json:"what"`
	At     time.Time `json:"at"` // at the bench
	By     string    `json:"by,omitempty"`
	Step   string    `json:"step,omitempty"`
	Of     string    `json:"of,omitempty"`
	G      float64   `json:"g,omitempty"`
	Min    float64   `json:"min,omitempty"`
	S      float64   `json:"s,omitempty"`
	MM     float64   `json:"mm,omitempty"`
	N      int       `json:"n,omitempty"`
	Text   string    `json:"text,omitempty"`
	Sign   string    `json:"sign,omitempty"`
	FromG  float64   `json:"from_g,omitempty"`
	FromMM float64   `json:"from_mm,omitempty"`
	Scale  bool      `json:"scale,omitempty"`
	// Shape is the workshop’s own shape a piece becomes, as it was when that was decided; nil for one that ships.
	Shape *OwnShape `json:"own_shape,omitempty"`
}

// OwnShape is a shape of the workshop's own.
type OwnShape = cut.Shape

// SquareMM is the side of the square of sheet that is weighed to know its thickness, mm.
const SquareMM = 100

// Bounds of what an event may say.
const (
	MaxID       = 40
	MaxText     = 400
	MaxG        = 200_000 // g
	MaxMin      = 24 * 60 // min, also fewer
	MaxPokeS    = 60      // s
	MaxSheetMM  = 60      // mm
	MaxRibbonMM = 3000    // mm
	MaxPieces   = 100_000
)

var onStep = []What{Weighed, Started, Done, Skipped, Paused, Resumed, Poked, Looked, Measured, LastStop, Flexed,
	Windowed, Dried, Made, Shrunk}

// What a step of one’s own may be, what may be named, where a thing is put, and what has been added or left.
var (
	OwnKinds = []string{OwnStep, OwnKnead, OwnRest, OwnFridge, OwnPass, OwnLay}
	Names    = []string{"lot", "eggs", "hands"}
	Endings  = []string{"", OutWeighed, ThrownAway}
	Places   = []string{"room", "fridge", "freezer"}
	yesNo    = []string{"yes", "no"}
)

// How a making ends.
const (
	OutWeighed = "weighed"     // what came out is said, also where it is nothing
	ThrownAway = "thrown_away" // it serves nobody
)

// The kinds of step of one’s own.
const (
	OwnStep   = "step"
	OwnKnead  = "knead"
	OwnRest   = "rest"
	OwnFridge = "fridge"
	OwnPass   = "pass"
	OwnLay    = "lay" // strips of a second dough laid on, both rolled
)

// Looks are what one may see of a dough, a rack or a pot.
var Looks = []string{"not yet", "right", "past"}

// IsID says whether s may be the id of an event.
func IsID(s string) bool {
	return s != "" && len(s) <= MaxID && strings.Trim(s,
		"abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_.") == ""
}

// Check returns what is wrong with an event of a making that has these steps; a measure.Fault.
func (e *Event) Check(has func(step string) bool) error {
	within := func(v, least, most float64) bool { return v >= least && v <= most }
	switch {
	case !IsID(e.ID):
		return measure.Faultf("id", "an event has an id of 1 to %d letters, figures, - and _", MaxID)
	case e.At.IsZero() || e.At.Year() < 2000 || e.At.Year() > 2200:
		return measure.Faultf("at", "an event has a time")
	case slices.Contains(onStep, e.What) && !has(e.Step), e.What == Minutes && !has(e.Step) && !IsID(e.Of):
		return measure.Faultf("step", "%.40q is no step of this making", e.Step)
	case len(e.Text) > MaxText || len(e.By) > 80:
		return measure.Faultf("text", "%d letters at most", MaxText)
	case e.What == PutIn && e.Step != "" && !has(e.Step):
		return measure.Faultf("step", "%.40q is no step of this making", e.Step)
	case !within(e.FromG, 0, MaxG):
		return measure.Faultf("from_g", "0 to %s g is allowed", measure.Thousands(MaxG))
	case len(e.Sign) > MaxID || len(e.Of) > MaxID:
		return measure.Faultf("of", "%d letters at most", MaxID)
	case !within(e.G, 0, MaxG):
		return measure.Faultf("g", "0 to %s g is allowed", measure.Thousands(MaxG))
	case !within(e.Min, -MaxMin, MaxMin):
		return measure.Faultf("min", "%d minutes at most", MaxMin)
	case !within(e.S, 0, MaxPokeS):
		return measure.Faultf("s", "0 to %d seconds is allowed", MaxPokeS)
	case e.What == Shrunk && (!within(e.FromMM, 50, MaxRibbonMM) || !within(e.MM, .7*e.FromMM, 1.1*e.FromMM)):
		return measure.Faultf("mm", "a ribbon cut 50 to %s mm long, and from seven tenths of that to a tenth over",
			measure.Thousands(MaxRibbonMM))
	case e.What != Shrunk && !within(e.MM, 0, MaxSheetMM):
		return measure.Faultf("mm", "0 to %d mm is allowed", MaxSheetMM)
	case e.N < -MaxPieces || e.N > MaxPieces:
		return measure.Faultf("n", "%d at most", MaxPieces)
	}
	return e.checkKind()
}

func (e *Event) checkKind() error {
	switch e.What {
	case Weighed, Started, Done, Skipped, Paused, Resumed, Added, LastStop, Shrunk:
	case Ended:
		switch {
		case !slices.Contains(Endings, e.Of):
			return measure.Faultf("of", "an ending is said with nothing, %s or %s", OutWeighed, ThrownAway)
		case e.Of == ThrownAway && strings.TrimSpace(e.Text) == "":
			return measure.Faultf("text", "why was it thrown away?")
		}
	case Left:
		if e.Of != "" && (e.Of != KneadedIn || e.Text != Trimmings) {
			return measure.Faultf("of", "trimmings may be %s, nothing else", KneadedIn)
		}
	case Packed, PutBy:
		if e.Of != "" && !slices.Contains(Places, e.Of) {
			return measure.Faultf("of", "%s is allowed", measure.List(Places))
		}
	case Named:
		if !slices.Contains(Names, e.Of) || strings.TrimSpace(e.Text) == "" {
			return measure.Faultf("of", "%s is named, in words", measure.List(Names))
		}
	case PutIn:
		return e.checkOwn()
	case Flexed, Windowed:
		if !slices.Contains(yesNo, e.Text) {
			return measure.Faultf("text", "%s is allowed", measure.List(yesNo))
		}
	case Dried:
		if !(e.G > 0 && e.G <= e.FromG) {
			return measure.Faultf("g", "what it weighs now, no more than it weighed raw")
		}
	case Made:
		if e.N == 0 {
			return measure.Faultf("n", "how many more, or fewer?")
		}
	case Shaped:
		if e.N < 1 || strings.TrimSpace(e.Text) == "" {
			return measure.Faultf("n", "which piece, and what does it become?")
		}
	case Minutes:
		if e.Min == 0 {
			return measure.Faultf("min", "how many minutes more or fewer?")
		}
	case Clocked:
		if !(e.Min > 0) || strings.TrimSpace(e.Text) == "" {
			return measure.Faultf("min", "a clock of one’s own has a name, and minutes over nought")
		}
	case Unclock, Took:
		if !IsID(e.Of) || e.Of == e.ID {
			return measure.Faultf("of", "which event?")
		}
	case Poked:
		if !(e.S > 0) {
			return measure.Faultf("s", "how many seconds?")
		}
	case Measured:
		if !(e.MM >= .2) && !(e.N >= 2 && e.N <= 600) && !(e.G >= 2) {
			return measure.Faultf("mm", "0.2 to %d mm is allowed, or 2 to 600 leaves, or the grams of a square",
				MaxSheetMM)
		}
	case Looked:
		if !slices.Contains(Looks, e.Text) {
			return measure.Faultf("text", "%s is allowed", measure.List(Looks))
		}
	case Seen, Noted:
		if strings.TrimSpace(e.Text) == "" {
			return measure.Faultf("text", "what is it?")
		}
	case Felt:
		if e.N < -2 || e.N > 2 {
			return measure.Faultf("n", "-2 (too dry) to 2 (too wet) is allowed")
		}
	default:
		return measure.Faultf("what", "%.40q is no event", e.What)
	}
	return nil
}

// checkOwn returns what is wrong with a step of one's own.
func (e *Event) checkOwn() error {
	switch {
	case !slices.Contains(OwnKinds, e.Of):
		return measure.Faultf("of", "%s is allowed", measure.List(OwnKinds))
	case strings.TrimSpace(e.Text) == "":
		return measure.Faultf("text", "what is done?")
	case e.Min < 0:
		return measure.Faultf("min", "0 to %d minutes is allowed", MaxMin)
	case e.Of == OwnPass && e.N < 1:
		return measure.Faultf("n", "of which piece?")
	case e.Of != OwnPass && e.Of != OwnStep && e.Min == 0:
		return measure.Faultf("min", "how many minutes?")
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
		if seen[e.ID] || math.IsNaN(e.G+e.Min+e.S+e.MM+e.FromG+e.FromMM) {
			return true
		}
		seen[e.ID] = true
		return false
	})
	// What takes back is weighed from the last one: a later word on an earlier one stands.
	void := map[string]bool{}
	for i := len(out) - 1; i >= 0; i-- {
		if e := &out[i]; e.What == Took && !void[e.ID] {
			void[e.Of] = true
		}
	}
	return slices.DeleteFunc(out, func(e Event) bool { return void[e.ID] })
}
