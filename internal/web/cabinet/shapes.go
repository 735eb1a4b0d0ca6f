package cabinet

import (
	"cmp"
	"fmt"
	"strings"

	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/store"
)

var (
	families = familyOptions()
	outlines = []request.Option{{Key: "", Name: "Ribbon or formed: none"}, {Key: string(cut.Rectangle),
		Name: "Square or rectangle"},
		{Key: string(cut.Round), Name: "Round"}}
	closes = []request.Option{{Key: "", Name: "Not filled"}, {Key: string(cut.TwoSheets), Name: "One sheet on another"},
		{Key: string(cut.FoldedSheet), Name: "Sheet folded over, then cut"}, {Key: string(cut.FoldedPiece),
			Name: "Each piece folded"}}
	tools = []request.Option{{Key: string(cut.Knife), Name: "Knife"}, {Key: string(cut.Cutter),
		Name: "The machine’s cutter"},
		{Key: string(cut.Wheel), Name: "Wheel"}, {Key: string(cut.Ring), Name: "Ring"}, {Key: string(cut.Hand),
			Name: "By hand"}}
	purposes = []request.Option{{Key: cut.HoldShape, Name: "To hold its shape"}, {Key: cut.Handle,
		Name: "To be handled"},
		{Key: cut.ForCutter, Name: "For the cutter"}, {Key: cut.NoDrying, Name: "None needed"}}
)

func familyOptions() (out []request.Option) {
	for _, f := range cut.Families() {
		out = append(out, request.Option{Key: string(f), Name: f.Traits().Name})
	}
	return out
}

var shapeShelf = shelf{Path: "shapes", Name: "Shapes", One: "A shape of your own", Kind: store.ShapeKind,
	Lead: "Names differ by region, so the millimetres always stand beside them. All are raw; cooked is about an " +
		"eighth wider.",
	Heads: []column{
		{"raw, mm", true}, {"sheet", true}, {"cut with", false}, {"cooked", true}, {"suits", false},
		{"for", false},
	},
	shipped: boxed(cut.Shipped()),
	form: func(c desk, v any, like string) ([]entry, func() (any, error), string) {
		s, own := startFrom(v, cut.Find, like, "tagliatelle")
		likeName := s.Name
		if !own {
			s.Name = ""
		}
		mm := func(key, label, hint string, at *float64) entry {
			e := numberEntry(key, label, "mm", 0, 0, 1, at)
			for _, l := range cut.Limits {
				if l.Key == key {
					e.Min, e.Max = l.Min, l.Max
					if l.Zero {
						e = e.optional(hint)
					}
				}
			}
			return e
		}
		piece := mm("piece_g", "One weighs", "of a formed piece", &s.PieceG)
		piece.Unit = "g"
		portion := mm("portion_g", "A portion, raw", "", &s.PortionG)
		portion.Unit = "g"
		entries := []entry{textEntry("name", "Name", "", 1, 60, &s.Name), choiceEntry("family", "It is a",
			(*string)(&s.Family), families...),
			mm("sheet_mm", "Sheet, or wall of a formed piece", "", &s.SheetMM), mm("width_mm",
				"Width, side or diameter", "", &s.WidthMM),
			mm("long_mm", "Long side of a rectangle", "empty: a square", &s.LongMM).ofFamilies(),
			choiceEntry("outline", "Cut as a", (*string)(&s.Outline), outlines...).ofFamilies(),
			choiceEntry("close", "Closed by", (*string)(&s.Close), closes...).ofFamilies(),
			mm("min_length_mm", "Shortest ribbon", "of a ribbon", &s.MinLengthMM).ofFamilies(),
			mm("max_length_mm", "Longest ribbon", "of a ribbon", &s.MaxLengthMM).ofFamilies(),
			mm("width_from_mm", "Called so from", "empty: just this width", &s.FromMM).ofFamilies(),
			mm("width_to_mm", "Called so to", "empty: just this width", &s.ToMM).ofFamilies(),
			mm("rope_mm", "Rope", "of a formed piece", &s.RopeMM).ofFamilies(), piece.ofFamilies(), mm("cooked_mm",
				"Cooked", "empty: 1.12 times raw", &s.CookedMM),
			choiceEntry("tool", "Cut with", (*string)(&s.Tool), tools...), textEntry("tool_stand_in",
				"What will do instead", "", 0, 200, &s.StandIn), portion,
			choiceEntry("dry_purpose", "Dried", &s.Purpose, purposes...), textEntry("sauce", "Sauce", "in a line", 0,
				200, &s.Sauce),
			textEntry("suits_dough", "Suits dough", "in a line", 0, 200, &s.Dough),
			textEntry("how", "After the cut", "in a line", 0, 200, &s.How), textEntry("caution", "Caution", "in a line",
				0, 200, &s.Caution)}
		return entries, func() (any, error) {
			if s.Traits().Lengths && s.MinLengthMM > 0 && s.MaxLengthMM > 0 {
				s.LengthMM = (s.MinLengthMM + s.MaxLengthMM) / 2
			}
			return s, s.Check()
		}, likeName
	},
	cells: func(c desk, v any) []string {
		s := v.(cut.Shape)
		size := fmt.Sprintf("%g", s.WidthMM)
		switch {
		case s.Traits().Rope:
			size = fmt.Sprintf("%g, %s", s.WidthMM, c.In.G(s.PieceG, measure.Shortest))
		case s.Outline == cut.Round:
			size = fmt.Sprintf("%g round", s.WidthMM)
		case s.Outline == cut.Rectangle:
			size = fmt.Sprintf("%g × %g", s.WidthMM, s.Long())
		case s.FromMM > 0:
			size = fmt.Sprintf("%g (%g–%g)", s.WidthMM, s.FromMM, s.ToMM)
		}
		with := string(s.Tool)
		if s.StandIn != "" {
			with += ", or " + s.StandIn
		}
		cooked := cmp.Or(s.CookedMM, s.WidthMM*c.Rules.Cut.CookedGrowth)
		return []string{s.Name, size, fmt.Sprintf("%g", s.SheetMM), with, fmt.Sprintf("%.1f", cooked), s.Dough, s.Sauce}
	}}

// cutterText writes cutters as four numbers each in turn.
func cutterText(cutters []roll.Cutter) string {
	var out []string
	for _, c := range cutters {
		out = append(out, fmt.Sprintf("%g %g %g %g", c.PitchMM, c.WidthMM, c.FromMM, c.ToMM))
	}
	return strings.Join(out, " ")
}

// readCutters reads four numbers to a cutter.
func readCutters(text string) ([]roll.Cutter, error) {
	words := strings.Fields(text)
	if len(words)%4 != 0 {
		return nil, measure.Faultf("cutters", "each line takes four numbers, as in 6.5 140 0.7 1.5: ribbon, width it "+
			"takes, sheet from and to")
	}
	var out []roll.Cutter
	for i := 0; i < len(words); i += 4 {
		var n [4]float64
		for j := range n {
			v, ok := measure.ParseNumber(words[i+j])
			if !ok {
				return nil, measure.Faultf("cutters", "%q is no number of mm", words[i+j])
			}
			n[j] = v
		}
		out = append(out, roll.Cutter{PitchMM: n[0], WidthMM: n[1], FromMM: n[2], ToMM: n[3]})
	}
	return out, nil
}
