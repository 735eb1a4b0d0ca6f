// Package egg answers: how many eggs, yolks and grams of top-up bring this flour to its
// target, and what is left over?
package egg

// Composition is the make-up of one gram of a liquid, g/g.
type Composition struct{ Water, Protein, Fat, Carb, Ash float64 }

// Composition of the edible egg and of the other liquids a dough takes.
// Source: published food composition tables.
var (
	Whole = Composition{.7615, .1256, .0951, .0072, .0106}
	Yolk  = Composition{.5231, .1586, .2654, .0359, .0170}
	White = Composition{.8757, .1090, .0017, .0073, .0063}
	Milk  = Composition{.875, .034, .036, .048, .007}
	Water = Composition{Water: 1}
	Oil   = Composition{Fat: 1}
)

// Class is an egg size: mean edible and yolk mass, and the band in the shell.
type Class struct {
	Key     string
	Name    string
	EdibleG float64 // g without shell
	YolkG   float64 // g
	ShellG  string  // the published band in the shell, for the page
}

// Classes returns the egg classes in the order a list shows them. Bands are published
// marketing standards; means are house values until a kitchen weighs its own.
func Classes() []Class {
	return []Class{
		{"eu-s", "EU small", 43, 14.5, "under 53 g in the shell"},
		{"eu-m", "EU medium", 51, 16.3, "53 to 63 g in the shell"},
		{"eu-l", "EU large", 60, 18.3, "63 to 73 g in the shell"},
		{"eu-xl", "EU extra large", 68, 19.9, "73 g and over in the shell"},
		{"us-m", "US medium", 44, 15, "about 50 g in the shell"},
		{"us-l", "US large", 50, 17, "about 57 g in the shell"},
		{"us-xl", "US extra large", 56, 18.6, "about 64 g in the shell"},
		{"us-jumbo", "US jumbo", 63, 20.4, "about 71 g in the shell"},
	}
}

// Find returns the class of that key and whether there is one.
func Find(key string) (Class, bool) {
	for _, c := range Classes() {
		if c.Key == key {
			return c, true
		}
	}
	return Class{}, false
}

// Style is the school of liquid a dough is made by.
type Style string

// The styles, with what each buys.
const (
	WholeEggs  Style = "whole"       // whole eggs: everyday, supple, keeps its whites
	Rich       Style = "rich"        // whole eggs and yolks: deeper colour, shorter bite
	YolksOnly  Style = "yolk"        // yolks alone: deepest colour, tender, tears young
	WholeWater Style = "whole_water" // fewer eggs and water: lighter, cheaper, chewier
	NoEgg      Style = "none"        // liquid alone: for hard wheat and for those who eat no egg
)

// TopUp is the liquid that makes up what whole eggs leave short.
type TopUp string

// The top-up liquids.
const (
	TopWater TopUp = "water"
	TopMilk  TopUp = "milk"
	TopNone  TopUp = "nothing"
)

// Composition returns the make-up of the top-up liquid; TopNone has none.
func (t TopUp) Composition() Composition {
	switch t {
	case TopWater:
		return Water
	case TopMilk:
		return Milk
	}
	return Composition{}
}
