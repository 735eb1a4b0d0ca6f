package filling

import (
	"slices"
	"testing"
)

func TestAllergensByName(t *testing.T) {
	for name, want := range map[string][]string{
		"ricotta and egg yolk":               {Milk, Egg},
		"Ricotta e spinaci":                  {Milk},
		"zucca e amaretti":                   {Nuts},
		"Kürbis, Butter und Semmelbrösel":    {Milk, Wheat},
		"Hühnerhack":                         nil,
		"fromage de chèvre et noix":          {Milk, Nuts},
		"œufs et crème":                      {Milk, Egg},
		"requesón y nueces":                  {Milk, Nuts},
		"gambas al ajillo":                   {Crustaceans},
		"पनीर और काजू":                       {Milk, Nuts},
		"smoked salmon and crème fraîche":    {Milk, Fish},
		"Lachs mit Senf":                     {Fish, Mustard},
		"pumpkin and sage":                   nil,
		"vegan ricotta of almonds":           {Nuts},
		"mushrooms, celery and white wine":   {Celery, Sulphites},
		"eggplant":                           nil,
		"butternut squash":                   nil,
		"Tintenfisch":                        {Fish, Molluscs},
		"":                                   nil,
		"nettle and fresh sheep’s cheese":    {Milk},
		"slow-cooked onions, curd and bread": {Milk, Wheat},
	} {
		if got := Allergens(name); !slices.Equal(got, want) {
			t.Errorf("%q: %v, want %v", name, got, want)
		}
	}
}

func TestUnsaid(t *testing.T) {
	for _, c := range []struct {
		name, list string
		want       []string
	}{
		{"ricotta and egg yolk", "", []string{Milk, Egg}}, {"ricotta and egg yolk", "milk", []string{Egg}},
		{"ricotta and egg yolk", "Milch, Ei", nil}, {"ricotta e tuorli", "latte, uova", nil}, {"ricotta", "none",
			[]string{Milk}},
		{"spinach", "none", nil}, {"noix", "Fruits à coque: noix", nil},
	} {
		if got := Unsaid(c.name, c.list); !slices.Equal(got, c.want) {
			t.Errorf("%q with %q leaves out %v, want %v", c.name, c.list, got, c.want)
		}
	}
}

func TestSoundsRaw(t *testing.T) {
	for name, want := range map[string]bool{"raw mince": true, "minced pork and sage": true,
		"salsiccia e finocchio": true, "Rinderhack": true, "viande hachée": true,
		"carne picada": true, "कीमा": true, "tonno crudo": true, "braised beef": false, "brasato": false,
		"roast pork, minced": false, "ricotta": false,
		"slow-cooked minced beef": false, "crumbs and butter": false, "Hackfleisch, gekocht": false} {
		if got := SoundsRaw(name); got != want {
			t.Errorf("%q sounds raw: %v", name, got)
		}
	}
}
