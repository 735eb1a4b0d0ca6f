// Package cut answers: how many ribbons does a sheet give, how long are they, how many make
// a nest, and what is left as trimmings?
package cut

// Tool is what cuts a ribbon.
type Tool string

// The two tools of this package.
const (
	Knife  Tool = "knife"
	Cutter Tool = "cutter"
)

// Shape is a ribbon. Names differ by region, so the millimetres always stand beside it.
type Shape struct {
	Key         string  `json:"key"`
	Name        string  `json:"name"`
	SheetMM     float64 `json:"sheet_mm"`      // raw sheet
	WidthMM     float64 `json:"width_mm"`      // raw ribbon
	MinLengthMM float64 `json:"min_length_mm"` // shortest ribbon still right
	MaxLengthMM float64 `json:"max_length_mm"` // longest ribbon still right
	LengthMM    float64 `json:"length_mm"`     // nominal
	Tool        Tool    `json:"tool"`
	PortionG    float64 `json:"portion_g"` // raw, a main course or in broth
	Purpose     string  `json:"dry_purpose"`
	Sauce       string  `json:"sauce"`
}

// Shipped returns the ribbons, narrow to wide. Widths and thicknesses are raw; the wide
// tagliatella comes out at 8 mm cooked.
func Shipped() []Shape {
	ribbon := func(key, name string, t, w float64, tool Tool, portion float64, purpose, sauce string) Shape {
		return Shape{key, name, t, w, 250, 350, 300, tool, portion, purpose, sauce}
	}
	return []Shape{
		ribbon("angel-hair", "Angel hair", .8, 1, Cutter, 70, "cutter", "broth, or butter and little else"),
		ribbon("tagliolini", "Tagliolini", .8, 2.5, Cutter, 110, "cutter", "light: butter, lemon, shellfish"),
		ribbon("square-cut", "Square-cut", 2.4, 2.4, Cutter, 120, "cutter", "sturdy: tomato, lamb, sheep's cheese"),
		ribbon("cutter-spaghetti", "Cutter spaghetti", 1.5, 2, Cutter, 120, "cutter", "oil, garlic, tomato"),
		ribbon("linguine", "Linguine", 1.2, 3.5, Cutter, 120, "cutter", "fish, clams, green herbs"),
		ribbon("fettuccine", "Fettuccine", 1.1, 6, Cutter, 120, "cutter", "cream, butter and cheese"),
		ribbon("tagliatelle", "Tagliatelle", .85, 7, Knife, 120, "hold its shape", "a long-cooked meat sauce"),
		ribbon("mafalde", "Mafalde", 1.0, 20, Knife, 120, "hold its shape", "soft cheese, mushrooms"),
		ribbon("pappardelle", "Pappardelle", .9, 25, Knife, 120, "hold its shape", "game, wild mushrooms, heavy sauces"),
	}
}

// Find returns the shipped shape of that key and whether there is one.
func Find(key string) (Shape, bool) {
	for _, s := range Shipped() {
		if s.Key == key {
			return s, true
		}
	}
	return Shape{}, false
}
