package cut

import (
	"cmp"
	"slices"

	"hollen/internal/core/measure"
)

// Family is what kind of thing a shape is.
type Family string

// The families. One is added here, as a constant and a row of the table below; how the plan lays
// and tells it stands in package plan, how it is drawn in package draw, each in a table by family
// that a test holds complete.
const (
	Ribbon Family = "ribbon" // cut to a width
	Piece  Family = "piece"  // flat pieces of sheet, some of them pinched or rolled after
	Filled Family = "filled" // sheet round a filling
	Formed Family = "formed" // by hand from a rope, by count and mass
	// Undecided is what is left as sheets, to be cut later.
	Undecided Family = "sheet"
)

// Traits is everything that sets one family apart from the others.
type Traits struct {
	Family    Family
	Name      string // in a list to choose from
	One, Many string // what a cut of it is called
	CutHead   string // what cutting it is called
	Lengths   bool   // cut to lengths, and wound to nests
	Filling   bool   // takes a filling, and so has a seam
	Rope      bool   // formed from a rope: there is no sheet
	Sheets    bool   // not cut yet
	// Reads are the measures that say something of it, by the keys of Limits, beside those all have.
	Reads []string

	check func(s Shape, bad func(field, format string, a ...any)) // what is wrong with a shape of it
}

// families are the families in the order a list shows them.
var families = []Traits{
	{Family: Ribbon, Name: "Ribbon", One: "ribbon", Many: "ribbons", CutHead: "Cut", Lengths: true,
		Reads: []string{"min_length_mm", "max_length_mm", "width_from_mm", "width_to_mm"}, check: checkRibbon},
	{Family: Piece, Name: "Flat piece", One: "piece", Many: "pieces", CutHead: "Cut", Reads: []string{"long_mm",
		"outline"}, check: checkPiece},
	{Family: Filled, Name: "Filled", One: "piece", Many: "pieces", CutHead: "Fill and close", Filling: true,
		Reads: []string{"long_mm", "outline", "close", "yolks_each"}, check: checkFilled},
	{Family: Formed, Name: "Formed from a rope", One: "piece", Many: "pieces", CutHead: "Form", Rope: true,
		Reads: []string{"rope_mm", "piece_g"},
		check: checkFormed},
	{Family: Undecided, Name: "Left as sheets", One: "sheet", Many: "sheets", CutHead: "Set aside", Sheets: true,
		check: checkSheets},
}

// Families returns the families in the order a list shows them.
func Families() []Family {
	out := make([]Family, len(families))
	for i, t := range families {
		out[i] = t.Family
	}
	return out
}

// none is what no family has: a shape of it is refused by Check.
var none Traits

// Traits returns what sets f apart; traits of nothing for what is no family.
func (f Family) Traits() *Traits {
	for i := range families {
		if families[i].Family == f {
			return &families[i]
		}
	}
	return &none
}

// Traits returns the traits of the shape's family.
func (s Shape) Traits() *Traits { return s.Family.Traits() }

// Reads says whether a measure, or another part of a shape's form, says something of the family.
func (f Family) Reads(key string) bool { return slices.Contains(f.Traits().Reads, key) }

// ReadBy returns the families of which a measure says something, a word each; "" of all.
func ReadBy(key string) string {
	out := ""
	for _, f := range Families() {
		if f.Reads(key) {
			if out != "" {
				out += " "
			}
			out += string(f)
		}
	}
	return out
}

type blame = func(field, format string, a ...any)

func checkRibbon(s Shape, bad blame) {
	if s.MinLengthMM == 0 || s.MaxLengthMM < s.MinLengthMM {
		bad("max_length_mm", "a ribbon has a shortest length and a longest that is no shorter")
	}
	if s.Tool != Knife && s.Tool != Cutter {
		bad("tool", "a ribbon is cut with a knife or a cutter")
	}
	if s.FromMM > s.WidthMM || s.ToMM != 0 && s.ToMM < s.WidthMM {
		bad("width_mm", "it lies between the narrowest and the widest")
	}
}

func checkPiece(s Shape, bad blame) {
	if s.Outline != Rectangle && s.Outline != Round {
		bad("outline", "%q; rectangle or round", s.Outline)
	}
	if s.WidthMM < 4 {
		bad("width_mm", "%g; a piece is at least 4 mm wide", s.WidthMM)
	}
	if (s.Tool == Ring) != (s.Outline == Round) || s.Tool == Cutter || s.Tool == Hand {
		bad("tool", "rounds are cut with a ring, other pieces with a knife or a wheel")
	}
}

func checkFilled(s Shape, bad blame) {
	checkPiece(s, bad)
	if !slices.Contains([]Close{TwoSheets, FoldedSheet, FoldedPiece}, s.Close) || s.Close == FoldedSheet &&
		s.Outline == Round {
		bad("close", "two_sheets, folded_piece, or folded_sheet unless round")
	}
	if min(s.WidthMM, cmp.Or(s.LongMM, s.WidthMM)) < 24 {
		bad("width_mm", "a filled piece needs 24 mm for seam and filling")
	}
}

func checkFormed(s Shape, bad blame) {
	if s.PieceG == 0 || s.RopeMM == 0 {
		bad("piece_g", "a formed piece has a mass and a rope it is cut from")
	}
	if s.Tool != Hand {
		bad("tool", "formed by hand")
	}
}

func checkSheets(s Shape, bad blame) {
	if s.Tool != Hand {
		bad("tool", "what is left as sheets is set aside by hand")
	}
}

// checkFamily returns what is wrong with a shape of its family.
func checkFamily(s Shape, bad blame) {
	if t := s.Traits(); t.check != nil {
		t.check(s, bad)
		return
	}
	names := make([]string, len(families))
	for i, t := range families {
		names[i] = string(t.Family)
	}
	bad("family", "%q; one of %s", s.Family, measure.List(names))
}
