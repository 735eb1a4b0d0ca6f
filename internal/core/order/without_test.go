package order

import "testing"

// TestMarks reads what orders rule out, in six languages; an allergy is no wish.
func TestMarks(t *testing.T) {
	for text, want := range map[string]string{
		"no egg": "no egg", "linguine, no egg": "no egg", "without egg or milk": "no egg; no milk",
		"egg-free":           "no egg",
		"senza uova e latte": "no egg; no milk", "ohne Ei": "no egg", "eifrei": "no egg", "sans œufs": "no egg",
		"sin huevo": "no egg", "बिना अंडा": "no egg", "gluten free please": "no wheat", "glutenfrei": "no wheat",
		"nut allergy": "allergy: nuts", "allergic to nuts and sesame": "allergy: nuts; allergy: sesame",
		"Nussallergie": "allergy: nuts", "allergia alle noci": "allergy: nuts", "allergie aux noix": "allergy: nuts",
		"coeliac": "allergy: wheat", "lactose intolerant": "allergy: milk", "dairy free": "no milk",
		"vegan!":     "no egg; no milk; no fish; no crustaceans; no molluscs",
		"vegetarian": "no fish; no crustaceans; no molluscs", "no egg, milk allergy": "allergy: milk; no egg",
		"no egg, cream sauce": "no egg", "no egg, milk, nuts": "no egg; no milk; no nuts",
		"in nests of 90 g": "", "no nests": "", "not before noon": "", "no rush": "", "two bags": "",
		"extra cheese":    "",
		"call when ready": "", "egg ribbons": "", "with egg": "",
	} {
		if got := MarksWords(Marks(text)); got != want {
			t.Errorf("%q: %q, want %q", text, got, want)
		}
	}
	if got := Marks("linguine, no egg", "egg allergy"); len(got) != 1 || !got[0].Allergy {
		t.Errorf("%+v", got)
	}
}

func TestAgainst(t *testing.T) {
	marks := Marks("no egg, nut allergy")
	for _, c := range []struct {
		h Holds
		n int
	}{{Holds{In: []string{"wheat", "egg"}}, 1}, {Holds{In: []string{"durum wheat"}}, 0},
		{Holds{In: []string{"wheat"}, May: []string{"nuts"}}, 1}, {Holds{Unknown: true}, 2},
		{Holds{In: []string{"egg yolk", "walnuts"}}, 2}} {
		if got := c.h.Against(marks); len(got) != c.n {
			t.Errorf("%+v: %v", c.h, got)
		}
	}
	if got := (Holds{In: []string{"durum wheat"}}).Against(Marks("gluten free")); len(got) != 1 {
		t.Errorf("durum holds gluten: %v", got)
	}
}
