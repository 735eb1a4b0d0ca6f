package exchange

import (
	"encoding/json"
	"fmt"

	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// RecipesFormat names the version of the document of recipes a kitchen keeps.
const RecipesFormat = "hollen-recipe/1"

// Recipes are recipes a kitchen keeps, to hand to another: one, or all of them in one file.
type Recipes struct {
	Format  string       `json:"format"`
	Recipes []KeptRecipe `json:"recipes"`
}

// KeptRecipe is one recipe: its request, which holds no day, no room and no lot, and what it says beside it.
type KeptRecipe struct {
	Request request.Request `json:"request"`
	recipe.Besides
	// GoesWith is the place in the document, from 0, of the recipe whose dough goes together with this one's.
	GoesWith *int `json:"goes_with,omitempty"`
}

// NewRecipes is the document of recipes.
func NewRecipes(all []KeptRecipe) Recipes {
	if all == nil {
		all = []KeptRecipe{}
	}
	return Recipes{RecipesFormat, all}
}

// readRecipes reads recipes; errors say which of them they are of. What a request says of a day is left out.
func readRecipes(ru rules.Rules, raw []byte) ([]KeptRecipe, error) {
	var doc struct {
		Format  string            `json:"format"`
		Recipes []json.RawMessage `json:"recipes"`
	}
	if err := decode(raw, &doc); err != nil {
		return nil, err
	}
	switch n := len(doc.Recipes); {
	case n == 0:
		return nil, PlaceError{Text: "the document holds no recipe"}
	case n > MaxThings:
		return nil, PlaceError{Text: fmt.Sprintf("recipes: %d given; at most %d are allowed", n, MaxThings)}
	}
	out := make([]KeptRecipe, len(doc.Recipes))
	for i, one := range doc.Recipes {
		var r struct {
			Request json.RawMessage `json:"request"`
			recipe.Besides
			GoesWith *int `json:"goes_with"`
		}
		if err := decode(one, &r); err != nil {
			return nil, fmt.Errorf("recipe %d: %w", i+1, err)
		}
		if len(r.Request) == 0 {
			return nil, fmt.Errorf("recipe %d: it holds no request", i+1)
		}
		asked, err := readRequest(ru, r.Request)
		if err == nil {
			err = r.Besides.Check()
		}
		if err != nil {
			return nil, fmt.Errorf("recipe %d: %w", i+1, err)
		}
		if w := r.GoesWith; w != nil && (*w < 0 || *w >= len(doc.Recipes) || *w == i) {
			return nil, fmt.Errorf("recipe %d: goes_with: %d; the place of another recipe in the document is "+
				"allowed, from 0 to %d",
				i+1, *w, len(doc.Recipes)-1)
		}
		out[i] = KeptRecipe{recipe.Of(asked), r.Besides, r.GoesWith}
	}
	return out, nil
}
