package cabinet

import (
	"cmp"
	"fmt"
	"strings"

	"hollen/internal/core/filling"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// fillingKinds are what a filling may be, as far as safety goes.
var fillingKinds = func() []request.Option {
	f, _ := request.FieldAt("cut.filling.kind")
	return f.Options
}()

var fillingShelf = shelf{Path: "fillings", Name: "Fillings", One: "A filling of your own", Kind: store.FillingKind,
	Lead: "What goes in, as you make it. A batch takes so much of it as its pieces hold: the lines are weighed at " +
		"the " +
		"bench, and stand on sheet and label with what they contain.",
	Heads: []column{
		{"it is", false}, {"to a kilo", false}, {"holds", false}, {"in 100 g", true}, {"a kg", true},
	},
	shipped: boxed(filling.Shipped()),
	form: func(c desk, v any, like string) ([]entry, func() (any, error), string) {
		f, own := startFrom(v, filling.Find, like, "")
		likeName := f.Name
		if !own {
			f.Name = ""
		}
		text := f.Text()
		lines := areaEntry("lines", "What goes in", "one to a line: “500 g ricotta”; after a semicolon what it "+
			"contains or “none”, “7.80 a kg”, “per 100 g 11 fat, 3.5 carbohydrate, 9 protein, 0.3 salt”", 1, 4000,
			&text).written()
		contains := textEntry("contains", "Contains, beyond its lines", "milk, fish, …", 0, 120, &f.Contains)
		may := textEntry("may_contain", "May contain", "what may have come to it, as the packs say", 0, 120,
			&f.MayContain)
		how := areaEntry("how", "How it is made", "a few sentences, for the bench", 0, 600, &f.How).written()
		how.Rows = 3
		return []entry{textEntry("name", "Name, as on the label", "without “filling”", 1, 60, &f.Name),
				choiceEntry("kind", "It is", (*string)(&f.Kind), fillingKinds...),
				numberEntry("makes_g", "Ready, that makes", "g", 1, 1e6, 1,
					&f.MakesG).optional("empty: as much as goes in"), lines,
				contains, may, flagEntry("read", "Its allergens were held against the packs", &f.Read),
				how},
			func() (any, error) {
				read, err := filling.ReadLines(text)
				if err != nil {
					return f, measure.Faultf("lines", "%v", err)
				}
				f.Lines = read
				return f, f.Check()
			}, likeName
	},
	cells: func(c desk, v any) []string {
		f := v.(filling.Filling)
		var lines []string
		for _, l := range f.PerKG() {
			lines = append(lines, strings.TrimSpace(c.In.Grams(l.G)+" "+l.Name))
		}
		holds := strings.Join(f.Holds(), ", ")
		if !f.Read {
			holds = strings.TrimSpace(holds + " (by name)")
		}
		energy := ""
		if food, unknown := f.Eaten(); len(unknown) == 0 {
			energy = fmt.Sprintf("%s kcal", measure.Thousands(food.Kcal()))
		}
		price, _ := f.PricePerKG()
		return []string{f.Name, page.OptionName(fillingKinds, string(f.Kind)), page.Shortened(strings.Join(lines,
			", "), 160), holds, energy, money(c, price.Rounded())}
	},
	read: func(c desk, v any) reading {
		f := v.(filling.Filling)
		out := reading{Name: "As it is read", Heads: []column{{"for a kilo of it", false}, {"", true}, {"holds", false},
			{"a kg", true}, {"in 100 g: kcal", true}, {"fat", true}, {"carbohydrate", true}, {"protein", true},
			{"salt", true}}}
		for _, l := range f.PerKG() {
			row := []string{l.Name, c.In.Grams(l.G), cmp.Or(strings.Join(l.Allergens(), ", "), "nothing named"),
				money(c, l.PricePerKG)}
			if food, known := l.Eaten(); known {
				row = append(row, figures(food)...)
			} else {
				row = append(row, "not known", "", "", "", "")
			}
			out.Rows = append(out.Rows, row)
		}
		sum := []string{"in all", c.In.Grams(f.InG() / f.Makes() * 1000), cmp.Or(strings.Join(f.Holds(), ", "),
			"nothing"),
			"", "not known", "", "", "", ""}
		price, unpriced := f.PricePerKG()
		if len(unpriced) == 0 {
			sum[3] = money(c, price.Rounded())
		}
		food, unknown := f.Eaten()
		if len(unknown) == 0 {
			copy(sum[4:], figures(food))
		}
		out.Rows = append(out.Rows, sum)
		var say []string
		if len(unknown) > 0 {
			say = append(say, "what 100 g hold is not known of "+measure.List(unknown))
		}
		if n := len(unpriced); n > 0 && n < len(f.Lines) {
			say = append(say, "no price of "+measure.List(unpriced))
		}
		if !f.Read {
			say = append(say, "allergens by name: hold them against the packs")
		}
		out.Side = strings.Join(say, "; ")
		return out
	}}

// figures are what 100 g hold, as a row has it.
func figures(f filling.Food) []string {
	gram := func(g float64) string { return measure.Metric.G(g, 1) }
	return []string{measure.Thousands(f.Kcal()), gram(f.Fat), gram(f.Carb), gram(f.Protein), gram(f.Salt)}
}
