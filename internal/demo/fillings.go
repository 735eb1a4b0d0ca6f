package demo

import (
	"hollen/internal/core/filling"
	"hollen/internal/store"
)

// nettle is the filling of the lantern ravioli.
func (w workshop) nettle() filling.Filling {
	return filling.Filling{Key: store.Key(15), Name: "nettle and sheep’s cheese", Read: true,
		Lines: []filling.Line{
			{Name: "fresh sheep’s cheese, drained", G: 560, PricePerKG: price("11.20"),
				Food: &filling.Food{Fat: 14, Carb: 3.5, Protein: 9.5, Salt: .6}},
			{Name: "nettles, blanched and squeezed", G: 260, PricePerKG: price("4")},
			{Name: "hard cheese, grated", G: 120, PricePerKG: price("16.50"),
				Food: &filling.Food{Fat: 29, Protein: 32, Salt: 1.7}},
			{Name: "breadcrumbs", G: 54, Contains: "wheat", PricePerKG: price("3.20")},
			{Name: "salt", G: 5, PricePerKG: price("0.90")},
			{Name: "nutmeg", G: 1, PricePerKG: price("38")}},
		MayContain: "nuts",
		How: "Gloves until the nettles are blanched. Squeeze until nothing drips, chop fine; everything together, " +
			"crumbs last."}
}

// fillings are what the workshop fills its pieces with.
func (w workshop) fillings() []store.Thing {
	onions := filling.Filling{Name: "slow-cooked onions and smoked curd", Read: true, MakesG: 1000,
		Lines: []filling.Line{
			{Name: "onions, sliced", G: 1100, PricePerKG: price("1.40")},
			{Name: "butter", G: 60, PricePerKG: price("9.80")},
			{Name: "smoked curd", G: 380, PricePerKG: price("12.40"),
				Food: &filling.Food{Fat: 17, Carb: 3, Protein: 14, Salt: 1.1}},
			{Name: "breadcrumbs", G: 70, Contains: "wheat", PricePerKG: price("3.20")},
			{Name: "salt", G: 4, PricePerKG: price("0.90")}},
		How: "Onions in the butter, lid on, an hour, then open until they are dry and brown; cool, fold in the curd."}
	crab := filling.Filling{Name: "brown crab and lemon", Read: true, MayContain: "molluscs, fish",
		Lines: []filling.Line{
			{Name: "crab, picked", G: 620, PricePerKG: price("46")},
			{Name: "potatoes, riced", G: 300, PricePerKG: price("1.10")},
			{Name: "butter", G: 60, PricePerKG: price("9.80")},
			{Name: "lemon zest", G: 8, PricePerKG: price("6")},
			{Name: "chives, cut", G: 12, PricePerKG: price("24")}},
		How: "Pick it over twice for shell. The potato goes in lukewarm, the crab cold, the butter last."}
	pork := filling.Filling{Name: "pork, fennel and orange", Kind: filling.Meat,
		Lines: []filling.Line{
			{Name: "pork, minced", G: 720, PricePerKG: price("9.60")},
			{Name: "hard cheese, grated", G: 140, PricePerKG: price("16.50")},
			{Name: "egg", G: 110, PricePerKG: price("5.20")},
			{Name: "fennel seed", G: 3, PricePerKG: price("22")},
			{Name: "orange zest", G: 6},
			{Name: "salt", G: 10, PricePerKG: price("0.90")}},
		How: "Cold meat, cold bowl; mix until it clings. It goes in raw."}
	var out []store.Thing
	for _, f := range []filling.Filling{w.nettle(), onions, crab, pork} {
		out = append(out, store.Thing{Kind: store.FillingKind, Value: f})
	}
	return out
}
