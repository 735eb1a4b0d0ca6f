package filling

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"hollen/internal/core/cost"
	"hollen/internal/core/measure"
)

// Kind is what a filling is, as far as safety goes.
type Kind string

// The kinds of filling.
const (
	Cooked  Kind = "" // or fresh cheese
	Meat    Kind = "raw_meat"
	Seafood Kind = "raw_fish"
	RawEgg  Kind = "raw_egg" // beaten into it
)

// UnmarshalText reads a kind; "raw", as raw meat and fish were written before the two were told apart, is read as raw
// meat.
func (k *Kind) UnmarshalText(text []byte) error {
	if *k = Kind(text); *k == "raw" {
		*k = Meat
	}
	return nil
}

// Raw says whether the filling must be cooked through.
func (k Kind) Raw() bool { return k != Cooked }

// Words name what is raw in it: "raw meat"; "" where nothing is.
func (k Kind) Words() string {
	return map[Kind]string{Meat: "raw meat", Seafood: "raw fish", RawEgg: "raw egg"}[k]
}

// Line is one thing that goes into a filling.
type Line struct {
	Name string  `json:"name"`
	G    float64 `json:"g"` // for as much as the lines make, .1–100,000
	// Contains are its allergens as the maker says them, "none" where it has none; "": as its name says.
	Contains   string     `json:"contains,omitempty"`
	PricePerKG cost.Money `json:"price_per_kg,omitempty"` // 0: not known
	Food       *Food      `json:"food,omitempty"`         // nil: as tables have what its name says
}

// Allergens are those of the line: as they are said, else those its name speaks of.
func (l Line) Allergens() []string {
	if l.Contains != "" {
		return Listed(l.Contains)
	}
	return Allergens(l.Name)
}

// Free says whether the line is plain water, which has no price.
func (l Line) Free() bool { return water(l.Name) }

// Eaten is what the line is made of, in 100 g: as it is said, else as tables have it; false where neither is known.
func (l Line) Eaten() (Food, bool) {
	if l.Food != nil {
		return *l.Food, true
	}
	return FoodOf(l.Name)
}

// Filling is a filling a workshop makes: what goes in, and for how much.
type Filling struct {
	Key   string `json:"key"`
	Name  string `json:"name"`  // as on a label
	Kind  Kind   `json:"kind"`  // whether it must be cooked through
	Lines []Line `json:"lines"` // 1 to MostLines
	// MakesG is how much the lines come to when it is ready, g: less where it cooks down. 0: what they weigh.
	MakesG float64 `json:"makes_g,omitempty"`
	// Contains are allergens beyond those of its lines, MayContain what may have come to it, as on a label.
	Contains   string `json:"contains,omitempty"`
	MayContain string `json:"may_contain,omitempty"`
	// Read says that its allergens were held against the packs of what goes in.
	Read bool   `json:"read,omitempty"`
	How  string `json:"how,omitempty"` // how it is made, a few sentences
}

// MostLines is how many lines a filling may have.
const MostLines = 30

// The bounds of a filling. Source: house.
const (
	leastLineG, mostLineG = .1, 1e5
	// leastLeft is the least share that stays of what goes in, and mostMore the most: water is weighed in with the
	// rest.
	leastLeft, mostMore = .25, 1.02
)

// InG is what its lines weigh, g.
func (f *Filling) InG() (g float64) {
	for _, l := range f.Lines {
		g += l.G
	}
	return g
}

// Makes is how much of it its lines make, g.
func (f *Filling) Makes() float64 { return cmp.Or(f.MakesG, f.InG()) }

// For are its lines for so much of it, g: nothing is rounded.
func (f *Filling) For(g float64) []Line {
	out := slices.Clone(f.Lines)
	for i := range out {
		out[i].G *= g / f.Makes()
	}
	return out
}

// PerKG are its lines for a kilo of it.
func (f *Filling) PerKG() []Line { return f.For(1000) }

// Holds lists what it contains, each once: what its lines do, and what is said beside them.
func (f *Filling) Holds() (out []string) {
	add := func(all []string) {
		for _, a := range all {
			if !slices.Contains(out, a) {
				out = append(out, a)
			}
		}
	}
	for _, l := range f.Lines {
		add(l.Allergens())
	}
	add(Listed(f.Contains))
	return out
}

// PricePerKG is what a kilo of it costs; the names of the lines whose price is not known, where there are any, and then
// no price.
func (f *Filling) PricePerKG() (price cost.Money, unpriced []string) {
	for _, l := range f.PerKG() {
		if l.PricePerKG == 0 && !l.Free() {
			unpriced = append(unpriced, l.Name)
		}
		price += l.PricePerKG.Per(l.G)
	}
	if len(unpriced) > 0 {
		return 0, unpriced
	}
	return price, nil
}

// Eaten is what 100 g of it are made of: what cooks away is water. The names of the lines of which that is not known,
// where there are any, and then no figure counts.
func (f *Filling) Eaten() (sum Food, unknown []string) {
	for _, l := range f.For(1) {
		food, known := l.Eaten()
		if !known {
			unknown = append(unknown, l.Name)
		}
		sum = sum.And(food, l.G)
	}
	if len(unknown) > 0 {
		return Food{}, unknown
	}
	return sum, nil
}

// Check returns an error for everything in f that cannot be right.
func (f *Filling) Check() error {
	var errs []error
	if n := len([]rune(f.Name)); n < 1 || n > 60 {
		errs = append(errs, measure.Faultf("name", "%d letters; 1 to 60 are allowed", n))
	}
	if k := f.Kind; k.Raw() && k.Words() == "" {
		errs = append(errs, measure.Faultf("kind", "%q; cooked, raw meat, raw fish or raw egg is allowed", k))
	}
	if n := len(f.Lines); n < 1 || n > MostLines {
		errs = append(errs, measure.Faultf("lines", "%d lines; 1 to %d are allowed", n, MostLines))
	}
	for i, l := range f.Lines {
		if err := l.check(); err != nil {
			errs = append(errs, measure.Faultf("lines", "line %d, %v", i+1, err))
		}
	}
	in := f.InG()
	if m := f.MakesG; len(errs) == 0 && m != 0 && !(m >= leastLeft*in && m <= mostMore*in) {
		errs = append(errs, measure.Faultf("makes_g", "%.5g g of %.5g g that go in; %.5g to %.5g is allowed: what is "+
			"poured in is a line, too", m, in, math.Ceil(leastLeft*in), math.Floor(mostMore*in)))
	}
	for _, x := range []struct{ field, text string }{{"contains", f.Contains}, {"may_contain", f.MayContain}} {
		if len([]rune(x.text)) > 120 {
			errs = append(errs, measure.Faultf(x.field, "at most 120 letters are allowed"))
		}
	}
	if len([]rune(f.How)) > 600 {
		errs = append(errs, measure.Faultf("how", "at most 600 letters are allowed"))
	}
	return errors.Join(errs...)
}

func (l Line) check() error {
	switch n := len([]rune(l.Name)); {
	case n < 1 || n > 60:
		return fmt.Errorf("its name: %d letters; 1 to 60 are allowed", n)
	case !(l.G >= leastLineG && l.G <= mostLineG):
		return fmt.Errorf("%s: %.4g g; %.1f to %.0f g is allowed", l.Name, l.G, leastLineG, mostLineG)
	case len([]rune(l.Contains)) > 80:
		return fmt.Errorf("%s: its allergens: at most 80 letters are allowed", l.Name)
	case l.PricePerKG < 0 || l.PricePerKG > cost.Max:
		return fmt.Errorf("%s: its price: 0 to 1,000,000 is allowed", l.Name)
	case strings.ContainsAny(l.Name, ";\n"):
		return fmt.Errorf("%s: a name holds no semicolon", l.Name)
	}
	if l.Food != nil {
		return l.Food.check()
	}
	return nil
}

// Listed reads a list of allergens as it is typed; none where it says so: "none".
func Listed(text string) (out []string) {
	for _, a := range strings.Split(text, ",") {
		a = strings.TrimSuffix(strings.TrimSpace(a), ".")
		if a != "" && !strings.EqualFold(a, "none") && !slices.Contains(out, strings.ToLower(a)) {
			out = append(out, strings.ToLower(a))
		}
	}
	return out
}

// Falling are lines in falling order of mass, those of one name together, as a label lists them.
func Falling(lines []Line) (out []Line) {
	for _, l := range lines {
		same := func(x Line) bool { return strings.EqualFold(x.Name, l.Name) && x.Contains == l.Contains }
		if i := slices.IndexFunc(out, same); i >= 0 {
			out[i].G += l.G
		} else {
			out = append(out, l)
		}
	}
	slices.SortStableFunc(out, func(a, b Line) int { return cmp.Compare(b.G, a.G) })
	return out
}
