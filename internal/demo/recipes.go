package demo

import (
	"hollen/internal/core/recipe"
	"hollen/internal/store"
)

// recipes are what the workshop makes, apart from the day: kept of its batches, by their place.
var recipes = []store.SeedRecipe{
	{Batch: 0, Name: "Stripes, the straw dough"}, {Batch: 1, Name: "Stripes, the green dough"},
	{Batch: 2, Name: "Family supper, by the pin"}, {Batch: 3, Name: "Pappardelle", Names: []string{"wide ribbons",
		"papp."}},
	{Batch: 4, Name: "Linguine, no egg"}, {Batch: 5, Name: "Yolk tagliolini"},
	{Batch: 6, Name: "Tagliatelle", Names: []string{"tagl.", "egg ribbons"}, BoxG: 500}, {Batch: 7,
		Name:  "Lantern ravioli",
		Label: recipe.Label{Product: "Lantern ravioli with nettle and sheep’s cheese", MayContain: "nuts, celery"}},
	{Batch: 9, Name: "Orecchiette"},
}
