// Package addition answers: what does a purée, a powder, ink or a herb bring into the dough:
// water, fat, thirst and colour?
//
//	working water = g·(water − uptake + 0.20·fat)
//
// A powder takes up more water than it brings, so its share of the liquid is negative.
package addition

import (
	"errors"
	"regexp"
	"strings"

	"hollen/internal/core/cost"
	"hollen/internal/core/egg"
	"hollen/internal/core/measure"
)

// Kind is how an addition goes in.
type Kind string

// The kinds of addition.
const (
	Puree  Kind = "puree"  // cooked, drained, cooled, beaten into the eggs
	Powder Kind = "powder" // sifted into the flour
	Herb   Kind = "herb"   // chopped, kneaded in
	Liquid Kind = "liquid" // with the eggs
)

// Addition is one thing beside flour, egg, water, oil and salt. Shares are of its own mass,
// 0–1, except the doses, which are of the flour.
type Addition struct {
	Key          string  `json:"key"`
	Name         string  `json:"name"`
	Kind         Kind    `json:"kind"`
	WaterShare   float64 `json:"water_share"`
	FatShare     float64 `json:"fat_share"`
	ProteinShare float64 `json:"protein_share"`
	AshShare     float64 `json:"ash_share"`
	UptakeGPerG  float64 `json:"uptake_g_per_g"` // water it takes up, g/g, 0–3
	Colour       string  `json:"colour"`         // #rrggbb it draws the dough to
	// how fast: the dough goes 1−e^(−depth·share of dough) of the way, 0–300
	Depth       float64 `json:"depth"`
	ColourWord  string  `json:"colour_word"`        // of the dough
	LowShare    float64 `json:"low_share"`          // usual dose, of flour
	HighShare   float64 `json:"high_share"`         // usual dose, of flour
	Allergen    string  `json:"allergen,omitempty"` // as written on a label
	Advice      string  `json:"advice,omitempty"`   // how to prepare it
	RestMoreMin float64 `json:"rest_more_min"`      // how much longer the dough rests, min
	Salty       bool    `json:"salty,omitempty"`

	PricePerKG cost.Money `json:"price_per_kg,omitempty"` // 0: not known
	Label      string     `json:"label_name,omitempty"`   // as a label lists it, "" where its name serves
}

// LabelName is what a label calls the addition among its ingredients.
func (a *Addition) LabelName() string {
	if a.Label != "" {
		return a.Label
	}
	return strings.ToLower(a.Name)
}

// labels are what labels call the shipped additions.
var labels = map[string]string{
	"spinach": "spinach", "beet": "beetroot", "pumpkin": "pumpkin", "carrot": "carrot", "tomato-paste": "tomato paste",
	"onion":          "onion",
	"ink":            "cuttlefish ink",
	"spinach-powder": "spinach powder", "beet-powder": "beetroot powder", "tomato-powder": "tomato powder",
	"pumpkin-powder": "pumpkin powder",
	"carrot-powder":  "carrot powder", "onion-powder": "onion powder", "mushroom-powder": "dried mushrooms",
	"cocoa": "cocoa", "herbs": "herbs",
	"saffron": "saffron",
	"milk":    "milk", "egg-white": "egg white",
}

// OwnPrefix begins the key of an addition a workshop keeps itself.
const OwnPrefix = "own-"

const (
	coolFirst   = "Cook, squeeze hard, cool and pass through a sieve; beat into the eggs."
	siftIn      = "Sift into the flour."
	powderTakes = 1.2
)

// Shipped returns the additions that come with Hollen. Water and fat are from food
// composition tables, rounded; uptake, colour, depth and doses are house values.
func Shipped() []Addition {
	all := []Addition{
		{"spinach", "Spinach, cooked and squeezed", Puree, .90, .004, .030, .019, 0, "#7aa468", 12, "green", .08, .20,
			"", coolFirst, 10, false, 0, ""},
		{"beet", "Beetroot purée", Puree, .88, .002, .017, .011, 0, "#ca66b1", 12, "rose", .08, .20, "",
			coolFirst + " Much of the colour goes into the pot.", 10, false, 0, ""},
		{"pumpkin", "Pumpkin purée", Puree, .91, .002, .012, .008, 0, "#e89a2e", 8, "orange", .10, .25, "", coolFirst,
			10, false, 0, ""},
		{"carrot", "Carrot purée", Puree, .89, .002, .009, .007, 0, "#e8892e", 9, "orange", .10, .20, "", coolFirst, 10,
			false, 0, ""},
		{"tomato-paste", "Tomato paste", Puree, .74, .005, .043, .027, 0, "#d2553a", 14, "red", .04, .10, "",
			"Beat into the eggs. Its acid tightens the dough.", 10, false, 0, ""},
		{"onion", "Onion, cooked to a purée", Puree, .87, .002, .014, .006, 0, "#d9c79a", 5, "cream", .08, .15, "",
			coolFirst, 10, false, 0, ""},
		{"ink", "Cuttlefish ink", Liquid, .80, .010, .120, .050, 0, "#22262b", 180, "black", .01, .04, "molluscs",
			"Gloves and a board of its own; it stains.", 0, true, 0, ""},
		{"spinach-powder", "Spinach powder", Powder, .05, .040, .280, .170, powderTakes, "#7aa468", 48, "green", .02,
			.05, "", siftIn, 10, false, 0, ""},
		{"beet-powder", "Beetroot powder", Powder, .05, .010, .100, .070, powderTakes, "#ca66b1", 48, "rose", .02, .05,
			"", siftIn, 10, false, 0, ""},
		{"tomato-powder", "Tomato powder", Powder, .05, .005, .130, .090, powderTakes, "#d2553a", 48, "red", .02, .05,
			"", siftIn, 10, false, 0, ""},
		{"pumpkin-powder", "Pumpkin powder", Powder, .05, .010, .100, .070, powderTakes, "#e89a2e", 40, "orange", .02,
			.05, "", siftIn, 10, false, 0, ""},
		{"carrot-powder", "Carrot powder", Powder, .05, .015, .080, .060, powderTakes, "#e8892e", 40, "orange", .02,
			.05, "", siftIn, 10, false, 0, ""},
		{"onion-powder", "Onion powder", Powder, .05, .010, .100, .040, powderTakes, "#d9c79a", 20, "cream", .02, .05,
			"", siftIn, 10, false, 0, ""},
		{"mushroom-powder", "Dried mushroom powder", Powder, .05, .030, .290, .070, powderTakes, "#8a6a48", 40, "brown",
			.02, .05, "", siftIn, 10, false, 0, ""},
		{"cocoa", "Cocoa", Powder, .05, .120, .200, .060, 1.0, "#4a2c1a", 33, "brown", .03, .08, "", siftIn +
			" Bitter on its own: for game and cream.", 10,
			false, 0, ""},
		{"herbs", "Herbs, chopped", Herb, .85, .006, .030, .020, 0, "#5f7d3a", 8, "flecked green", .01, .05, "",
			"Dry the leaves well and chop them fine: a stalk tears the sheet under 1 mm.", 0, false, 0, ""},
		{"saffron", "Saffron in a spoon of water", Liquid, .99, 0, 0, 0, 0, "#f0a818", 45, "saffron yellow", .01, .02,
			"",
			"Steep half an hour in warm water; the threads may go in.", 0, false, 0, ""},
		{"milk", "Milk", Liquid, .875, .036, .034, .007, 0, "#f4ead0", 2, "pale", .03, .20, "milk",
			"Softer and paler than water, and browns sooner in the pan.", 0, false, 0, ""},
		{"egg-white", "Egg white", Liquid, .8757, .0017, .1090, .0063, 0, "#f4ead0", 2, "pale", .05, .20, "egg",
			"Binds flour that has little gluten; the sheet is firmer in the bite.", 0, false, 0, ""},
	}
	for i := range all {
		all[i].Label = labels[all[i].Key]
	}
	return all
}

// Find returns the shipped addition of that key and whether there is one.
func Find(key string) (Addition, bool) {
	for _, a := range Shipped() {
		if a.Key == key {
			return a, true
		}
	}
	return Addition{}, false
}

// StartShare returns the dose an addition starts with: a third of the way up its usual range,
// share of flour.
func (a Addition) StartShare() float64 {
	s := a.LowShare + (a.HighShare-a.LowShare)/3
	return float64(int(s*1000+.5)) / 1000
}

// Composition returns the make-up of one gram; what is not named is carbohydrate.
func (a Addition) Composition() egg.Composition {
	c := egg.Composition{Water: a.WaterShare, Protein: a.ProteinShare, Fat: a.FatShare, Ash: a.AshShare}
	c.Carb = max(0, 1-c.Water-c.Protein-c.Fat-c.Ash)
	return c
}

// LiquidG returns the water that massG g of a adds to the liquids, g: negative when it takes
// up more than it brings.
func (a Addition) LiquidG(massG float64) float64 { return massG * (a.WaterShare - a.UptakeGPerG) }

// Figures returns the numbers of an addition.
func Figures() []measure.Figure[Addition] {
	return []measure.Figure[Addition]{
		measure.FigureOf("water_share", "Water", "%", 0, 100, 100, func(a *Addition) *float64 { return &a.WaterShare }),
		measure.FigureOf("fat_share", "Fat", "%", 0, 100, 100, func(a *Addition) *float64 { return &a.FatShare }),
		measure.FigureOf("protein_share", "Protein", "%", 0, 100, 100,
			func(a *Addition) *float64 { return &a.ProteinShare }),
		measure.FigureOf("ash_share", "Salt and ash", "%", 0, 40, 100,
			func(a *Addition) *float64 { return &a.AshShare }),
		measure.FigureOf("uptake_g_per_g", "Takes up water", "g/g", 0, 3, 1,
			func(a *Addition) *float64 { return &a.UptakeGPerG }),
		measure.FigureOf("depth", "Colours the dough", "", 0, 300, 1, func(a *Addition) *float64 { return &a.Depth }),
		measure.FigureOf("rest_more_min", "Rests longer by", "min", 0, 60, 1,
			func(a *Addition) *float64 { return &a.RestMoreMin }),
		measure.FigureOf("low_share", "Usual dose, from", "%", .01, 50, 100,
			func(a *Addition) *float64 { return &a.LowShare }),
		measure.FigureOf("high_share", "Usual dose, to", "%", .01, 50, 100,
			func(a *Addition) *float64 { return &a.HighShare }),
	}
}

var hexColour = regexp.MustCompile(`^#[0-9a-f]{6}$`)

// Check returns an error for everything in a that cannot be right.
func (a *Addition) Check() error {
	var errs []error
	if n := len([]rune(a.Name)); n < 1 || n > 60 {
		errs = append(errs, measure.Faultf("name", "%d letters; 1 to 60 are allowed", n))
	}
	switch a.Kind {
	case Puree, Powder, Herb, Liquid:
	default:
		errs = append(errs, measure.Faultf("kind", "%q; puree, powder, herb or liquid is allowed", a.Kind))
	}
	errs = append(errs, measure.Allowed(Figures(), a)...)
	if sum := a.WaterShare + a.FatShare + a.ProteinShare + a.AshShare; !(sum <= 1+1e-9) {
		errs = append(errs, measure.Faultf("water_share", "water, fat, protein and ash come to %.0f %%; 100 %% is "+
			"the most", 100*sum))
	}
	if a.HighShare < a.LowShare {
		errs = append(errs, measure.Faultf("high_share", "%g %%; it cannot be under the lowest dose, %g %%",
			100*a.HighShare, 100*a.LowShare))
	}
	if !hexColour.MatchString(a.Colour) {
		errs = append(errs, measure.Faultf("colour", "%q; a colour is #rrggbb", a.Colour))
	}
	if len(a.ColourWord) > 40 || len(a.Allergen) > 60 || len(a.Advice) > 300 {
		errs = append(errs, measure.Faultf("advice", "texts of at most 40, 60 and 300 letters"))
	}
	return errors.Join(errs...)
}
