package cut

import "slices"

// shipped is the library, made once.
var shipped = library()

// Shipped returns the library: ribbons narrow to wide, then pieces, filled and formed shapes.
// Widths and thicknesses are raw; the tagliatella comes out at 8 mm cooked.
func Shipped() []Shape { return slices.Clone(shipped) }

func library() []Shape {
	const (
		egg    = "egg dough, soft wheat"
		whole  = "whole-egg dough with some durum"
		rich   = "yolk-rich dough"
		semola = "semola and water"
	)
	ribbon := func(key, name string, t, w, from, to float64, tool Tool, portion float64, purpose, dough,
		sauce string) Shape {
		return Shape{Key: key, Name: name, Family: Ribbon, SheetMM: t, WidthMM: w, FromMM: from, ToMM: to,
			MinLengthMM: 200, MaxLengthMM: 450, LengthMM: 300,
			Tool: tool, PortionG: portion, Purpose: purpose, Dough: dough, Sauce: sauce}
	}
	piece := func(key, name string, t, w, long float64, tool Tool, portion float64, purpose, dough, sauce,
		how string) Shape {
		return Shape{Key: key, Name: name, Family: Piece, Outline: Rectangle, SheetMM: t, WidthMM: w, LongMM: long,
			Tool: tool, PortionG: portion,
			Purpose: purpose, Dough: dough, Sauce: sauce, How: how}
	}
	filled := func(key, name string, o Outline, c Close, t, w float64, tool Tool, portion float64, sauce,
		how string) Shape {
		s := Shape{Key: key, Name: name, Family: Filled, Outline: o, Close: c, SheetMM: t, WidthMM: w, Tool: tool,
			PortionG: portion, Purpose: NoDrying,
			Dough: egg + ", soft", Sauce: sauce, How: how}
		if tool == Ring {
			s.StandIn = "a cup or a glass"
		}
		return s
	}
	formed := func(key, name string, wall, size, rope, mass float64, standIn, sauce, how string) Shape {
		return Shape{Key: key, Name: name, Family: Formed, SheetMM: wall, WidthMM: size, RopeMM: rope, PieceG: mass,
			Tool: Hand, StandIn: standIn,
			PortionG: 120, Purpose: Handle, Dough: semola, Sauce: sauce, How: how}
	}
	return []Shape{
		ribbon("angel-hair", "Angel hair", .8, 1, .8, 1.5, Cutter, 70, ForCutter, rich,
			"broth, or butter and little else"),
		ribbon("tagliolini", "Tagliolini", .8, 2.5, 2, 3, Cutter, 110, ForCutter, rich,
			"light: butter, lemon, shellfish"),
		ribbon("square-cut", "Square-cut", 2.4, 2.4, 2.2, 2.5, Cutter, 120, ForCutter, whole,
			"sturdy: tomato, lamb, sheep's cheese"),
		ribbon("cutter-spaghetti", "Cutter spaghetti", 1.5, 2, 1.5, 2.2, Cutter, 120, ForCutter, whole,
			"oil, garlic, tomato"),
		ribbon("linguine", "Linguine", 1.2, 3.5, 3, 4, Cutter, 120, ForCutter, whole, "fish, clams, green herbs"),
		ribbon("fettuccine", "Fettuccine", 1.1, 6, 5, 6.6, Cutter, 120, ForCutter, egg, "cream, butter and cheese"),
		ribbon("tagliatelle", "Tagliatelle", .85, 7, 6.5, 8, Knife, 120, HoldShape, egg, "a long-cooked meat sauce"),
		ribbon("mafalde", "Mafalde", 1.0, 20, 15, 25, Knife, 120, HoldShape, whole, "soft cheese, mushrooms"),
		ribbon("pappardelle", "Pappardelle", .9, 25, 20, 30, Knife, 120, HoldShape, egg,
			"game, wild mushrooms, heavy sauces"),
		piece("lasagne", "Lasagne", .8, 100, 180, Knife, 100, NoDrying, egg, "the tin: sauce, béchamel, cheese",
			"Cut to the tin; straight into it, or blanched half a minute first."),
		piece("maltagliati", "Maltagliati", .9, 10, 0, Knife, 80, NoDrying, egg, "beans, soups",
			"Any way the knife falls; the trimmings do."),
		piece("quadretti", "Quadretti", .9, 9, 0, Knife, 70, NoDrying, egg, "broth, peas",
			"Ribbons first, then across."),
		piece("farfalle", "Farfalle", 1.0, 35, 50, Wheel, 120, Handle, egg, "peas, ham, cream",
			"Pinch the middle hard, twice, or it opens in the pot."),
		piece("garganelli", "Garganelli", .9, 48, 0, Knife, 120, HoldShape, egg, "sausage, peas, cream",
			"Roll corner to corner round a rod on a ridged board; a pencil and a comb will do."),
		filled("ravioli", "Ravioli", Rectangle, TwoSheets, .7, 50, Wheel, 150, "butter, sage; little sauce",
			"Filling in rows on one sheet, the other over it, press from the middle out, cut between."),
		filled("ravioli-round", "Round ravioli", Round, TwoSheets, .7, 60, Ring, 150, "butter, sage; little sauce",
			"Filling, second sheet, press the air out, then the ring."),
		filled("mezzelune", "Mezzelune", Round, FoldedPiece, .7, 80, Ring, 150, "brown butter, poppy seed",
			"Fold each round over its filling to a half-moon."),
		filled("cappelletti", "Cappelletti", Rectangle, FoldedPiece, .7, 48, Knife, 110, "broth",
			"Fold to a triangle, then the two corners round a finger."),
		filled("agnolotti", "Agnolotti", Rectangle, FoldedSheet, .6, 36, Wheel, 130, "roasting juices, butter",
			"Filling in a row, the sheet folded over it, pinch between, cut."),
		filled("tortellini", "Tortellini", Rectangle, FoldedPiece, .6, 36, Knife, 110, "broth, or cream",
			"Fold to a triangle, then round the finger, corner over corner."),
		func() Shape {
			s := filled("yolk-raviolo", "Yolk raviolo", Round, TwoSheets, .7, 90, Ring, 150,
				"butter, cheese, nothing else",
				"A ring of filling, the yolk set into it, the second sheet eased over.")
			s.YolksEach = 1
			s.Caution = "A runny yolk is a raw yolk: not for the pregnant, very young, old or ill; for them cook it " +
				"through."
			return s
		}(),
		{Key: "sheets", Name: "Sheets, cut later", Family: Undecided, SheetMM: 1, WidthMM: 100, Tool: Hand,
			PortionG: 120, Purpose: NoDrying, Dough: egg,
			Sauce: "what they become", How: "Dusted, stacked with paper between, under film: they are cut before " +
				"they dry."},
		formed("orecchiette", "Orecchiette", 2.2, 20, 12, 1.4, "a blunt table knife", "bitter greens, anchovy",
			"Drag each slice under the blade, then turn it over the thumb."),
		formed("cavatelli", "Cavatelli", 2.5, 20, 10, 1.1, "two fingertips", "tomato, beans",
			"Press and roll each slice towards you so that it curls."),
		formed("cavatelli-ridged", "Cavatelli, ridged", 2.5, 25, 12, 1.6, "a fork", "meat sauces, fresh cheese",
			"As cavatelli, along a ridged board or the tines of a fork."),
	}
}
