package bench

import (
	"slices"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
	"hollen/internal/core/roll"
)

// Started says that a step runs.
type Started struct {
	Step string `json:"step"`
}

func (Started) what() What     { return "started" }
func (x Started) step() string { return x.Step }
func (Started) check() error   { return nil }
func (x Started) bear(f *folding, e *Event) {
	if p := f.at(x.Step); p.Status == ToDo {
		p.Status = Running
		p.Began = e.At
	}
}

// Done says that a step is over.
type Done struct {
	Step string `json:"step"`
}

func (Done) what() What                  { return "done" }
func (x Done) step() string              { return x.Step }
func (Done) check() error                { return nil }
func (x Done) bear(f *folding, e *Event) { f.close(x.Step, WasDone, e) }

// Skipped says that a step is left out.
type Skipped struct {
	Step string `json:"step"`
}

func (Skipped) what() What                  { return "skipped" }
func (x Skipped) step() string              { return x.Step }
func (Skipped) check() error                { return nil }
func (x Skipped) bear(f *folding, e *Event) { f.close(x.Step, LeftOut, e) }

// Weighed says what lay on the scale at a step.
type Weighed struct {
	Step  string  `json:"step"`
	G     float64 `json:"g,omitempty"`
	Scale bool    `json:"scale,omitempty"` // a scale said it, nobody typed it
}

func (Weighed) what() What     { return "weighed" }
func (x Weighed) step() string { return x.Step }
func (x Weighed) check() error { return checkG("g", x.G) }
func (x Weighed) bear(f *folding, _ *Event) {
	p := f.at(x.Step)
	p.G = x.G
	p.Scale = x.Scale
}

// LastStop says that a piece ends with a pass.
type LastStop struct {
	Step string `json:"step"` // the pass
}

func (LastStop) what() What                  { return "last_stop" }
func (x LastStop) step() string              { return x.Step }
func (LastStop) check() error                { return nil }
func (x LastStop) bear(f *folding, e *Event) { f.lastStop(x.Step, e.At) }

// Poked says how fast a poke was half back.
type Poked struct {
	Step string  `json:"step"`
	S    float64 `json:"s,omitempty"` // seconds to half recovery
}

func (Poked) what() What     { return "poked" }
func (x Poked) step() string { return x.Step }
func (x Poked) check() error {
	if !(x.S > 0 && x.S <= MaxPokeS) {
		return measure.Faultf("s", "more than 0, to %d seconds is allowed", MaxPokeS)
	}
	return nil
}
func (x Poked) bear(f *folding, _ *Event) { f.at(x.Step).PokeS = x.S }

// Looks are what one may see of a dough, a rack or a pot.
var Looks = []string{"not yet", "right", "past"}

// Looked says how a dough, a rack or a pot looks.
type Looked struct {
	Step string `json:"step"`
	Look string `json:"text,omitempty"` // one of Looks
}

func (Looked) what() What                  { return "looked" }
func (x Looked) step() string              { return x.Step }
func (x Looked) check() error              { return checkOneOf("text", x.Look, Looks) }
func (x Looked) bear(f *folding, _ *Event) { f.at(x.Step).Look = x.Look }

var yesNo = []string{"yes", "no"}

// Flexed says whether what dries bends without cracking.
type Flexed struct {
	Step  string `json:"step"`
	Bends string `json:"text,omitempty"` // yes or no
}

func (Flexed) what() What                  { return "flexed" }
func (x Flexed) step() string              { return x.Step }
func (x Flexed) check() error              { return checkOneOf("text", x.Bends, yesNo) }
func (x Flexed) bear(f *folding, _ *Event) { f.at(x.Step).Flex = x.Bends }

// Stretched says whether light shines through a dough before it tears.
type Stretched struct {
	Step   string `json:"step"`
	Shines string `json:"text,omitempty"` // yes or no
}

func (Stretched) what() What                  { return "window" }
func (x Stretched) step() string              { return x.Step }
func (x Stretched) check() error              { return checkOneOf("text", x.Shines, yesNo) }
func (x Stretched) bear(f *folding, _ *Event) { f.at(x.Step).Window = x.Shines }

// SquareMM is the side of the square of sheet that is weighed to know its thickness, mm.
const SquareMM = 100

// Measured says how thick a sheet is: by a caliper, by leaves of paper as high as it, or by the weight of a square of
// SquareMM.
type Measured struct {
	Step    string  `json:"step"`
	SquareG float64 `json:"g,omitempty"`
	MM      float64 `json:"mm,omitempty"`
	Leaves  int     `json:"n,omitempty"`
	// or what is seen through it, which says it only about
	By roll.Seen `json:"of,omitempty"`
}

func (Measured) what() What     { return "measured" }
func (x Measured) step() string { return x.Step }
func (x Measured) check() error {
	const (
		thin   = .2
		leaves = 2
		light  = 2
	)
	if x.By != "" {
		if slices.Contains(roll.Seens(), x.By) {
			return nil
		}
		return measure.Faultf("of", "%q; one of hand, print", x.By)
	}
	switch {
	case !within(x.MM, 0, MaxSheetMM), !(x.MM >= thin) && !(x.Leaves >= leaves && x.Leaves <= MaxLeaves) &&
		!(x.SquareG >= light):
		return measure.Faultf("mm", "0.2 to %d mm is allowed, or 2 to %d leaves, or the grams of a square", MaxSheetMM,
			MaxLeaves)
	}
	return checkG("g", x.SquareG)
}
func (x Measured) bear(f *folding, _ *Event) {
	p := f.at(x.Step)
	i, known := f.place[x.Step]
	switch {
	case x.By != "":
		p.Seen = x.By
	case x.MM > 0:
		p.MM = x.MM
	case x.Leaves > 0:
		p.MM = roll.FromPaper(float64(x.Leaves))
	case known && f.steps[i].Density > 0:
		p.MM = roll.SquareMM(x.SquareG, f.steps[i].Density, SquareMM, SquareMM)
	}
}

// Dried says what of what dries weighs now.
type Dried struct {
	Step string  `json:"step"`
	G    float64 `json:"g,omitempty"`
	RawG float64 `json:"from_g,omitempty"` // the same before it dried
}

func (Dried) what() What     { return "dried" }
func (x Dried) step() string { return x.Step }
func (x Dried) check() error {
	if err := firstWrong(checkG("from_g", x.RawG), checkG("g", x.G)); err != nil {
		return err
	}
	if !(x.G > 0 && x.G <= x.RawG) {
		return measure.Faultf("g", "what it weighs now, no more than it weighed raw")
	}
	return nil
}
func (x Dried) bear(f *folding, e *Event) {
	p := f.at(x.Step)
	p.Loss = min(.9, 1-x.G/max(x.RawG, x.G))
	p.LossAt = e.At
}

// Shrunk says how long a ribbon is now that was cut CutMM long.
type Shrunk struct {
	Step  string  `json:"step"`
	MM    float64 `json:"mm,omitempty"`
	CutMM float64 `json:"from_mm,omitempty"`
}

func (Shrunk) what() What     { return "shrunk" }
func (x Shrunk) step() string { return x.Step }
func (x Shrunk) check() error {
	if !within(x.CutMM, 50, MaxRibbonMM) || !within(x.MM, .7*x.CutMM, 1.1*x.CutMM) {
		return measure.Faultf("mm", "a ribbon cut 50 to %s mm long, and from seven tenths of that to a tenth over",
			measure.Thousands(MaxRibbonMM))
	}
	return nil
}
func (x Shrunk) bear(f *folding, _ *Event) { f.at(x.Step).Shrunk = 1 - x.MM/x.CutMM }

// Made says that so many nests, pieces or handfuls more are there, or fewer, and what those weigh.
type Made struct {
	Step string  `json:"step"`
	G    float64 `json:"g,omitempty"` // 0: not weighed
	N    int     `json:"n,omitempty"`
}

func (Made) what() What     { return "made" }
func (x Made) step() string { return x.Step }
func (x Made) check() error {
	if x.N == 0 {
		return measure.Faultf("n", "how many more, or fewer?")
	}
	return firstWrong(checkN(x.N), checkG("g", x.G))
}
func (x Made) bear(f *folding, _ *Event) {
	p := f.at(x.Step)
	p.Made = max(0, p.Made+x.N)
	if x.G > 0 && x.N > 0 {
		p.MadeG += x.G
		p.MadeN += x.N
	}
}

// The kinds of step of one's own.
const (
	OwnStep   = "step"
	OwnKnead  = "knead"
	OwnRest   = "rest"
	OwnFridge = "fridge"
	OwnPass   = "pass"
	OwnLay    = "lay" // strips of a second dough laid on, both rolled
)

// OwnKinds are what a step of one’s own may be.
var OwnKinds = []string{OwnStep, OwnKnead, OwnRest, OwnFridge, OwnPass, OwnLay}

// PutIn is a step of one's own.
type PutIn struct {
	Before string  `json:"step,omitempty"` // the step it comes before; "": it comes last
	Kind   string  `json:"of,omitempty"`   // one of OwnKinds
	Min    float64 `json:"min,omitempty"`
	Piece  int     `json:"n,omitempty"` // of a pass
	Text   string  `json:"text,omitempty"`
}

func (PutIn) what() What     { return "put_in" }
func (x PutIn) near() string { return x.Before }
func (x PutIn) check() error {
	if err := firstWrong(checkOneOf("of", x.Kind, OwnKinds), checkWords("text", x.Text, "what is done?"),
		checkMin(x.Min), checkN(x.Piece)); err != nil {
		return err
	}
	switch {
	case x.Min < 0:
		return measure.Faultf("min", "0 to %d minutes is allowed", MaxMin)
	case x.Kind == OwnPass && x.Piece < 1:
		return measure.Faultf("n", "of which piece?")
	case x.Kind != OwnPass && x.Kind != OwnStep && x.Min == 0:
		return measure.Faultf("min", "how many minutes?")
	}
	return nil
}
func (x PutIn) bear(f *folding, e *Event) { f.putIn(ownKey(e.ID), e.At) }

// OwnShape is a shape of the workshop's own.
type OwnShape = cut.Shape

// Shaped says what a piece becomes, as it is decided on the way.
type Shaped struct {
	Piece int    `json:"n,omitempty"`
	Shape string `json:"text,omitempty"`
	// Own is the workshop’s own shape it becomes, as it was when that was decided; nil for one that ships.
	Own *OwnShape `json:"own_shape,omitempty"`
}

func (Shaped) what() What { return "shape" }
func (x Shaped) check() error {
	if x.Piece < 1 || strings.TrimSpace(x.Shape) == "" {
		return measure.Faultf("n", "which piece, and what does it become?")
	}
	return firstWrong(checkN(x.Piece), checkText(x.Shape))
}
func (x Shaped) bear(f *folding, e *Event) { f.Shapes[x.Piece] = *e }
