// Package egg answers: how many eggs, yolks and grams of top-up bring this flour to its
// target, and what is left over?
package egg

import (
	"errors"
	"strings"

	"hollen/internal/core/cost"
	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
)

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
	Key        string     `json:"key"`
	Name       string     `json:"name"`
	EdibleG    float64    `json:"edible_g"`              // g without shell
	YolkG      float64    `json:"yolk_g"`                // g
	ShellG     string     `json:"-"`                     // the published band in the shell, for the page
	YolkColour float64    `json:"yolk_colour,omitempty"` // on the fan of 1 to 15, 0: not said
	Weighed    Weighing   `json:"weighed,omitzero"`      // what the means come from
	Of         string     `json:"of,omitempty"`          // the market’s class they were bought as, "": not said
	PriceEach  cost.Money `json:"price_each,omitempty"`  // 0: not known
}

// OwnPrefix begins the key of a class a kitchen has weighed itself.
const OwnPrefix = "own-"

// Bounds of a class's means, g.
const (
	MinEdibleG, MaxEdibleG = 25., 100.
	MaxYolkShare           = .7
)

// Check returns an error for everything in c that cannot be right.
func (c *Class) Check() error {
	var errs []error
	if n := len([]rune(c.Name)); n < 1 || n > 60 {
		errs = append(errs, measure.Faultf("name", "%d letters; 1 to 60 are allowed", n))
	}
	if !(c.EdibleG >= MinEdibleG && c.EdibleG <= MaxEdibleG) {
		errs = append(errs, measure.Faultf("edible_g", "%g; %g to %g g is allowed", c.EdibleG, MinEdibleG, MaxEdibleG))
	}
	if !(c.YolkG >= 8 && c.YolkG <= MaxYolkShare*c.EdibleG) {
		errs = append(errs, measure.Faultf("yolk_g", "%g; 8 g to 70 %% of the egg is allowed", c.YolkG))
	}
	if c.YolkColour != 0 && !(c.YolkColour >= 1 && c.YolkColour <= 15) {
		errs = append(errs, measure.Faultf("yolk_colour", "%g; 1 to 15 is allowed", c.YolkColour))
	}
	return errors.Join(errs...)
}

// Weighing is a number of eggs, usually ten, and what they and their yolks weighed without
// shells, g.
type Weighing struct {
	Count  float64 `json:"count"`
	EggsG  float64 `json:"eggs_g"`
	YolksG float64 `json:"yolks_g"`
}

// US says whether the class is one of the US market.
func (c *Class) US() bool { return strings.HasPrefix(c.Key, "us-") }

// Means returns c with the means of its weighing. Of eggs of a market’s class a few say little of their tray: the mean
// is drawn to the class’s by how far trays differ.
func (c Class) Means(me rules.Measure) Class {
	c.EdibleG, c.YolkG = c.Weighed.EggsG/c.Weighed.Count, c.Weighed.YolksG/c.Weighed.Count
	if of, ok := Find(c.Of); ok && c.EdibleG > 0 {
		share := c.YolkG / c.EdibleG
		c.EdibleG, _ = TrayMean(me, of.EdibleG, int(c.Weighed.Count), c.Weighed.EggsG)
		c.YolkG = share * c.EdibleG
	}
	return c
}

// Classes returns the egg classes in the order a list shows them. Bands are published
// marketing standards; means are house values until a kitchen weighs its own.
func Classes() []Class {
	return []Class{
		{Key: "eu-s", Name: "EU small", EdibleG: 43, YolkG: 14.5, ShellG: "under 53 g in the shell"},
		{Key: "eu-m", Name: "EU medium", EdibleG: 51, YolkG: 16.3, ShellG: "53 to 63 g in the shell"},
		{Key: "eu-l", Name: "EU large", EdibleG: 60, YolkG: 18.3, ShellG: "63 to 73 g in the shell"},
		{Key: "eu-xl", Name: "EU extra large", EdibleG: 68, YolkG: 19.9, ShellG: "73 g and over in the shell"},
		{Key: "us-s", Name: "US small", EdibleG: 38, YolkG: 13, ShellG: "about 43 g in the shell"},
		{Key: "us-m", Name: "US medium", EdibleG: 44, YolkG: 15, ShellG: "about 50 g in the shell"},
		{Key: "us-l", Name: "US large", EdibleG: 50, YolkG: 17, ShellG: "about 57 g in the shell"},
		{Key: "us-xl", Name: "US extra large", EdibleG: 56, YolkG: 18.6, ShellG: "about 64 g in the shell"},
		{Key: "us-jumbo", Name: "US jumbo", EdibleG: 63, YolkG: 20.4, ShellG: "about 71 g in the shell"},
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
