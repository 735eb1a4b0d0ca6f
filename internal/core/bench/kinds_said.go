package bench

import (
	"strings"

	"hollen/internal/core/measure"
)

// Added says what went in besides what was weighed.
type Added struct {
	How  string  `json:"of,omitempty"` // of a house estimate: which
	G    float64 `json:"g,omitempty"`
	What string  `json:"text,omitempty"`
}

func (Added) what() What            { return "added" }
func (x Added) check() error        { return firstWrong(checkText(x.What), checkG("g", x.G), checkKey(x.How)) }
func (Added) bear(*folding, *Event) {}

// Words say what went in.
func (x Added) Words(in measure.System) string {
	about := ""
	if x.How != "" {
		about = "about "
	}
	return about + in.Grams(x.G) + " of " + x.What + " added"
}

// Found is what it is found by.
func (x Added) Found() string { return x.What }

// Trimmings is what is weighed of them called, where they are left, and KneadedIn what is said of those that went into
// the next piece.
const (
	Trimmings = "trimmings"
	KneadedIn = "kneaded in"
)

// Left says what was weighed back from bowl or jug, or of trimmings.
type Left struct {
	Into string  `json:"of,omitempty"` // of trimmings: KneadedIn, or ""
	G    float64 `json:"g,omitempty"`
	What string  `json:"text,omitempty"`
}

func (Left) what() What { return "left" }
func (x Left) check() error {
	if x.Into != "" && (x.Into != KneadedIn || x.What != Trimmings) {
		return measure.Faultf("of", "trimmings may be %s, nothing else", KneadedIn)
	}
	return firstWrong(checkText(x.What), checkG("g", x.G))
}
func (Left) bear(*folding, *Event) {}

// Words say what is left.
func (x Left) Words(in measure.System) string { return in.Grams(x.G) + " of " + x.What + " left" }

// Found is what it is found by.
func (x Left) Found() string { return x.What }

// Seen says what was wrong, and what was done about it.
type Seen struct {
	Step string  `json:"step,omitempty"`
	Act  string  `json:"of,omitempty"` // what went in: a doctor.Kind; "" where nothing did
	G    float64 `json:"g,omitempty"`
	Text string  `json:"text,omitempty"`
	Sign string  `json:"sign,omitempty"` // its key
}

func (Seen) what() What     { return "seen" }
func (x Seen) near() string { return x.Step }
func (x Seen) check() error {
	return firstWrong(checkWords("text", x.Text, "what is it?"), checkG("g", x.G), checkKey(x.Act), checkKey(x.Sign))
}
func (Seen) bear(*folding, *Event) {}

// Words are it as it was said.
func (x Seen) Words(measure.System) string { return x.Text }

// Found is what it is found by.
func (x Seen) Found() string { return x.Text }

// Noted is a note.
type Noted struct {
	Text string `json:"text,omitempty"`
}

func (Noted) what() What                    { return "note" }
func (x Noted) check() error                { return checkWords("text", x.Text, "what is it?") }
func (Noted) bear(*folding, *Event)         {}
func (x Noted) Words(measure.System) string { return x.Text }

// Found is what it is found by.
func (x Noted) Found() string { return x.Text }

// Felt says how the dough feels; the last word counts.
type Felt struct {
	Word int `json:"n,omitempty"` // -2 too dry … 2 too wet
}

func (Felt) what() What { return "felt" }
func (x Felt) check() error {
	if x.Word < -2 || x.Word > 2 {
		return measure.Faultf("n", "-2 (too dry) to 2 (too wet) is allowed")
	}
	return nil
}
func (x Felt) bear(f *folding, _ *Event) { f.Felt = &x.Word }

// A maker may name one of these.
const (
	NamedLot   = "lot"
	NamedEggs  = "eggs"
	NamedHands = "hands"
)

// Names are what may be named.
var Names = []string{NamedLot, NamedEggs, NamedHands}

// Named names the lot of a flour, the eggs, or who is at the bench.
type Named struct {
	What string `json:"of,omitempty"` // one of Names
	Name string `json:"text,omitempty"`
}

func (Named) what() What { return "named" }
func (x Named) check() error {
	if err := checkOneOf("of", x.What, Names); err != nil || strings.TrimSpace(x.Name) == "" {
		return measure.Faultf("of", "%s is named, in words", measure.List(Names))
	}
	return checkText(x.Name)
}
func (Named) bear(*folding, *Event) {}

// Words are what was named.
func (x Named) Words(measure.System) string {
	if x.What == NamedHands {
		return "at the bench: " + x.Name
	}
	return x.What + ": " + x.Name
}

// Found is what it is found by.
func (x Named) Found() string { return x.Name }

// When a sack is weighed: before flour is taken, or once it was.
const (
	SackBefore = "before"
	SackTaken  = "taken"
)

// SackWeighed says what a lot's sack holds, on the scale: what it loses between two takings is water.
type SackWeighed struct {
	When string  `json:"of,omitempty"` // SackBefore or SackTaken
	Lot  string  `json:"text,omitempty"`
	G    float64 `json:"g,omitempty"` // net
}

func (SackWeighed) what() What { return "sack" }
func (x SackWeighed) check() error {
	if err := checkOneOf("of", x.When, []string{SackBefore, SackTaken}); err != nil {
		return err
	}
	if !(x.G >= 50) {
		return measure.Faultf("g", "what is in it, 50 g and more")
	}
	return firstWrong(checkWords("text", x.Lot, "which lot?"), checkG("g", x.G))
}
func (SackWeighed) bear(*folding, *Event) {}

// Words say what it weighed.
func (x SackWeighed) Words(in measure.System) string {
	when := "before flour was taken"
	if x.When == SackTaken {
		when = "after flour was taken"
	}
	return x.Lot + " holds " + in.Grams(x.G) + ", " + when
}

// Found is what it is found by.
func (x SackWeighed) Found() string { return x.Lot }

// Places are where a thing is put.
var Places = []string{"room", "fridge", "freezer"}

// placed says what was put where, how much of it, in how many pieces.
func placed(words, place string, n int, g float64, in measure.System) string {
	if n > 0 {
		words += ", " + measure.Plural(n, "piece", "pieces")
	}
	if g > 0 {
		words += ", " + in.Grams(g)
	}
	if place != "" {
		words += ", in the " + place
	}
	return words
}

func checkPlaced(text, place string, n int, g float64) error {
	if place != "" {
		if err := checkOneOf("of", place, Places); err != nil {
			return err
		}
	}
	return firstWrong(checkText(text), checkN(n), checkG("g", g))
}

// PutByDough is what is put by that is rolled later.
const PutByDough = "dough"

// PutBy says that pieces of dough, or sheets, go no further today.
type PutBy struct {
	Place string  `json:"of,omitempty"` // one of Places, or ""
	G     float64 `json:"g,omitempty"`
	N     int     `json:"n,omitempty"` // pieces
	What  string  `json:"text,omitempty"`
}

func (PutBy) what() What     { return "put_by" }
func (x PutBy) check() error { return checkPlaced(x.What, x.Place, x.N, x.G) }
func (x PutBy) bear(f *folding, e *Event) {
	if x.What == PutByDough {
		f.putBy(x.N, e.At)
	}
}

// Words say what was put by.
func (x PutBy) Words(in measure.System) string {
	return placed("put by: "+x.What, x.Place, x.N, x.G, in)
}

// Found is what it is found by.
func (x PutBy) Found() string { return x.What }

// Packed says what was packed.
type Packed struct {
	Place string  `json:"of,omitempty"` // one of Places, or ""
	G     float64 `json:"g,omitempty"`
	N     int     `json:"n,omitempty"` // pieces
	What  string  `json:"text,omitempty"`
}

func (Packed) what() What            { return "packed" }
func (x Packed) check() error        { return checkPlaced(x.What, x.Place, x.N, x.G) }
func (Packed) bear(*folding, *Event) {}

// Words say what was packed.
func (x Packed) Words(in measure.System) string {
	return placed("packed: "+x.What, x.Place, x.N, x.G, in)
}

// Found is what it is found by.
func (x Packed) Found() string { return x.What }

// How a making ends.
const (
	OutWeighed = "weighed"     // what came out is said, also where it is nothing
	ThrownAway = "thrown_away" // it serves nobody
)

// Endings are how a making may end.
var Endings = []string{"", OutWeighed, ThrownAway}

// Ended ends a making.
type Ended struct {
	How  string  `json:"of,omitempty"` // one of Endings; "": as planned, or weighed where G says so
	G    float64 `json:"g,omitempty"`  // what came out, or was thrown away: 0 is all of it
	N    int     `json:"n,omitempty"`  // pieces
	Text string  `json:"text,omitempty"`
}

func (Ended) what() What { return "ended" }
func (x Ended) check() error {
	if err := checkOneOf("of", x.How, Endings); err != nil {
		return measure.Faultf("of", "an ending is said with nothing, %s or %s", OutWeighed, ThrownAway)
	}
	if x.How == ThrownAway && strings.TrimSpace(x.Text) == "" {
		return measure.Faultf("text", "why was it thrown away?")
	}
	return firstWrong(checkText(x.Text), checkG("g", x.G), checkN(x.N))
}
func (x Ended) bear(f *folding, e *Event) { f.end(x, e) }

// TakenBack takes an event back.
type TakenBack struct {
	Of string `json:"of,omitempty"`
}

func (TakenBack) what() What { return "taken_back" }
func (x TakenBack) check() error {
	if !IsID(x.Of) {
		return measure.Faultf("of", "which event?")
	}
	return nil
}
func (TakenBack) bear(*folding, *Event) {} // Ordered leaves out what it takes back

// Damaged stands where an event was kept that cannot be read.
type Damaged struct {
	Text string `json:"text,omitempty"`
}

func (Damaged) what() What                    { return "damaged" }
func (Damaged) check() error                  { return measure.Faultf("what", "no screen says this") }
func (Damaged) bear(f *folding, _ *Event)     { f.Damaged++ }
func (x Damaged) Words(measure.System) string { return x.Text }

// Found is what it is found by.
func (x Damaged) Found() string { return x.Text }

// checkKey wants a short name of something.
func checkKey(key string) error {
	if len(key) > MaxID {
		return measure.Faultf("of", "%d letters at most", MaxID)
	}
	return nil
}
