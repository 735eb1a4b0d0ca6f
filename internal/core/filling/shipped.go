package filling

// Shipped are fillings to start from, each as much as a kitchen makes at once. Source: house, as such fillings are
// commonly made; none is a recipe of anyone's.
func Shipped() []Filling {
	return []Filling{
		{Key: "ricotta-spinach", Name: "ricotta and spinach", Lines: []Line{{Name: "ricotta, drained", G: 500},
			{Name: "spinach, blanched and squeezed", G: 250}, {Name: "parmesan, grated", G: 100}, {Name: "nutmeg",
				G: 1},
			{Name: "salt", G: 6}},
			How: "Drain the ricotta overnight. Squeeze the spinach until nothing drips, chop it fine, then beat " +
				"all of it " +
				"together."},
		{Key: "potato-butter", Name: "potato and butter", MakesG: 1000, Lines: []Line{{Name: "potatoes, peeled",
			G: 850},
			{Name: "butter", G: 80}, {Name: "parmesan, grated", G: 80}, {Name: "egg yolk", G: 36}, {Name: "salt",
				G: 9}},
			How: "Boil the potatoes, dry them over the heat, rice them hot; the butter and the yolks go in while " +
				"they are " +
				"hot, the cheese when they are lukewarm."},
		{Key: "pumpkin-crumbs", Name: "roast pumpkin and crumbs", MakesG: 1000,
			Lines: []Line{{Name: "pumpkin, in pieces",
				G: 1100}, {Name: "parmesan, grated", G: 110}, {Name: "breadcrumbs", G: 90}, {Name: "salt", G: 8},
				{Name: "nutmeg", G: 1}},
			How: "Roast the pumpkin until it is soft and dry, pass it, bind it with crumbs until a spoonful stands."},
		{Key: "pork-raw", Name: "pork and sage", Kind: Meat, Lines: []Line{{Name: "pork, minced", G: 700},
			{Name: "parmesan, grated", G: 150}, {Name: "egg", G: 100}, {Name: "sage, chopped", G: 5}, {Name: "salt",
				G: 9}},
			How: "Cold meat, cold bowl; mix until it clings. It goes in raw: cook it through, and keep it a day at " +
				"most."},
	}
}

// Find returns the shipped filling of that key and whether there is one.
func Find(key string) (Filling, bool) {
	for _, f := range Shipped() {
		if f.Key == key {
			return f, true
		}
	}
	return Filling{}, false
}
