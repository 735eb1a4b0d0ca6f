// Package cut answers: how is a shape laid on the sheet, how many ribbons or pieces does it
// give, how much filling do they take, and what becomes of the trimmings?
//
//	ribbons   n along with L'/n nearest the length wished for, ⌊W'/pitch⌋ across
//	squares   ⌊(L'+g)/(a+g)⌋ · ⌊(W'+g)/(b+g)⌋
//	rounds    the best of rows in a grid and rows nested, both ways round
//	filling   1.05 · 0.6 · A · h/1000 g, A the area the seam leaves free, mm²
package cut

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"hollen/internal/core/measure"
)

// Outline is what a piece is cut as.
type Outline string

// The outlines.
const (
	Rectangle Outline = "rectangle"
	Round     Outline = "round"
)

// Close is how a filled piece is closed.
type Close string

// The ways of closing.
const (
	TwoSheets   Close = "two_sheets"   // one sheet laid on another
	FoldedSheet Close = "folded_sheet" // the sheet folded over the filling, then cut
	FoldedPiece Close = "folded_piece" // each cut piece folded onto itself
)

// Tool is what cuts a shape.
type Tool string

// The tools.
const (
	Knife  Tool = "knife"
	Cutter Tool = "cutter" // of a machine
	Wheel  Tool = "wheel"  // straight or fluted
	Ring   Tool = "ring"   // round cutter; a cup will do
	Hand   Tool = "hand"
)

// Purposes of drying a shape before it is cooked.
const (
	HoldShape = "hold its shape"
	Handle    = "handle"
	ForCutter = "cutter"
	NoDrying  = "none"
)

// Shape is one way to cut or form the dough. Names differ by region, so the millimetres always
// stand beside it. Lengths mm, raw; masses g.
type Shape struct {
	Key         string  `json:"key"`
	Name        string  `json:"name"`
	Family      Family  `json:"family"`
	Outline     Outline `json:"outline,omitempty"`       // of a piece, filled or not
	Close       Close   `json:"close,omitempty"`         // of a filled one
	SheetMM     float64 `json:"sheet_mm"`                // raw sheet; the wall of a formed piece
	WidthMM     float64 `json:"width_mm"`                // of the ribbon; a piece's side or diameter
	FromMM      float64 `json:"width_from_mm,omitempty"` // of a ribbon: narrowest that is still called so
	ToMM        float64 `json:"width_to_mm,omitempty"`   // and widest
	LongMM      float64 `json:"long_mm,omitempty"`       // a rectangle's other side; 0: as wide
	MinLengthMM float64 `json:"min_length_mm,omitempty"` // shortest ribbon still right
	MaxLengthMM float64 `json:"max_length_mm,omitempty"` // longest ribbon still right
	LengthMM    float64 `json:"length_mm,omitempty"`     // nominal
	RopeMM      float64 `json:"rope_mm,omitempty"`       // diameter of the rope a formed piece is cut from
	PieceG      float64 `json:"piece_g,omitempty"`       // of a formed piece
	YolksEach   float64 `json:"yolks_each,omitempty"`    // whole yolks set into a filled piece
	CookedMM    float64 `json:"cooked_mm,omitempty"`     // 0: 1.12 times raw
	Tool        Tool    `json:"tool"`                    //
	StandIn     string  `json:"tool_stand_in,omitempty"` // what will do instead
	PortionG    float64 `json:"portion_g"`               // raw, with its filling
	Purpose     string  `json:"dry_purpose"`             //
	Sauce       string  `json:"sauce"`                   // in a line
	Dough       string  `json:"suits_dough,omitempty"`   // in a line
	How         string  `json:"how,omitempty"`           // what is done after the cut, in a line
	Caution     string  `json:"caution,omitempty"`       //
}

// Limits are the least and most each measure of a shape may be.
var Limits = []struct {
	Key      string
	Min, Max float64
	Zero     bool // 0 says that there is none
	At       func(*Shape) *float64
}{
	{"sheet_mm", .4, 6, false, func(s *Shape) *float64 { return &s.SheetMM }},
	{"width_mm", .8, 400, false, func(s *Shape) *float64 { return &s.WidthMM }},
	{"width_from_mm", .8, 400, true, func(s *Shape) *float64 { return &s.FromMM }},
	{"width_to_mm", .8, 400, true, func(s *Shape) *float64 { return &s.ToMM }},
	{"long_mm", 4, 600, true, func(s *Shape) *float64 { return &s.LongMM }},
	{"min_length_mm", 60, 2000, true, func(s *Shape) *float64 { return &s.MinLengthMM }},
	{"max_length_mm", 60, 2500, true, func(s *Shape) *float64 { return &s.MaxLengthMM }},
	{"length_mm", 60, 2500, true, func(s *Shape) *float64 { return &s.LengthMM }},
	{"rope_mm", 4, 40, true, func(s *Shape) *float64 { return &s.RopeMM }},
	{"piece_g", .2, 30, true, func(s *Shape) *float64 { return &s.PieceG }},
	{"yolks_each", 1, 2, true, func(s *Shape) *float64 { return &s.YolksEach }},
	{"cooked_mm", .8, 500, true, func(s *Shape) *float64 { return &s.CookedMM }},
	{"portion_g", 20, 400, false, func(s *Shape) *float64 { return &s.PortionG }},
}

// Check returns an error, naming the field, for every part of s that cannot be used.
func (s Shape) Check() error {
	var errs []error
	bad := func(field, format string, a ...any) {
		errs = append(errs, measure.Faultf(field, format, a...))
	}
	if n := utf8.RuneCountInString(s.Name); n < 1 || n > 60 || !oneLine(s.Name) {
		bad("name", "1 to 60 letters on one line are allowed")
	}
	for key, text := range map[string]string{"sauce": s.Sauce, "suits_dough": s.Dough, "how": s.How,
		"caution": s.Caution, "tool_stand_in": s.StandIn} {
		if utf8.RuneCountInString(text) > 200 || !oneLine(text) {
			bad(key, "at most 200 letters on one line are allowed")
		}
	}
	for _, l := range Limits {
		if v := *l.At(&s); !(v >= l.Min && v <= l.Max) && !(l.Zero && v == 0) {
			bad(l.Key, "%g; %g to %g is allowed", v, l.Min, l.Max)
		}
	}
	if !slices.Contains([]string{HoldShape, Handle, ForCutter, NoDrying}, s.Purpose) {
		bad("dry_purpose", "%q; one of hold its shape, handle, cutter, none", s.Purpose)
	}
	if !slices.Contains([]Tool{Knife, Cutter, Wheel, Ring, Hand}, s.Tool) {
		bad("tool", "%q; one of knife, cutter, wheel, ring, hand", s.Tool)
	}
	checkFamily(s, bad)
	return errors.Join(errs...)
}

// Sized is s with its millimetres, as a maker reads it: "Ravioli, 50 × 50 × 0.7 mm".
func (s Shape) Sized(in measure.System) string { return in.Prose(s.Set()) }

// Set is Sized with its figures set in braces, to be said in any system of units.
func (s Shape) Set() string {
	switch {
	case s.Traits().Sheets:
		return fmt.Sprintf("%s, {%g mm}", s.Name, s.SheetMM)
	case s.Traits().Rope:
		return fmt.Sprintf("%s, {%g mm}, {%g g}", s.Name, s.WidthMM, s.PieceG)
	case s.Traits().Lengths || s.Outline == Round:
		return fmt.Sprintf("%s, {%g × %g mm}", s.Name, s.WidthMM, s.SheetMM)
	}
	return fmt.Sprintf("%s, {%g × %g × %g mm}", s.Name, s.WidthMM, cmp.Or(s.LongMM, s.WidthMM), s.SheetMM)
}

// Counted is so many of it, in its singular or plural where the two differ: "8 yolk ravioli", "1 round raviolo".
func (s Shape) Counted(n int) string {
	name := strings.ToLower(s.Name)
	if of, ok := strings.CutSuffix(name, "raviolo"); ok && n != 1 {
		name = of + "ravioli"
	} else if of, ok := strings.CutSuffix(name, "ravioli"); ok && n == 1 {
		name = of + "raviolo"
	}
	return measure.Thousands(float64(n)) + " " + name
}

// Long returns a rectangle's other side, mm.
func (s Shape) Long() float64 { return cmp.Or(s.LongMM, s.WidthMM) }

// Find returns the shipped shape of that key and whether there is one.
func Find(key string) (Shape, bool) {
	for _, s := range shipped {
		if s.Key == key {
			return s, true
		}
	}
	return Shape{}, false
}

func oneLine(s string) bool {
	return utf8.ValidString(s) && !strings.ContainsFunc(s, func(c rune) bool { return c < ' ' })
}
