package filling

import (
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"hollen/internal/core/measure"
)

func near(a, b, by float64) bool { return math.Abs(a-b) <= by }

// TestLines are lines as makers write them, and what is understood.
func TestLines(t *testing.T) {
	for typed, want := range map[string]Line{
		"500 g ricotta":          {Name: "ricotta", G: 500},
		"ricotta, drained 500 g": {Name: "ricotta, drained", G: 500},
		"1.2 kg of potatoes":     {Name: "potatoes", G: 1200},
		"1 lb 2 oz pumpkin":      {Name: "pumpkin", G: 510.29},
		"half a kg chard":        {Name: "chard", G: 500},
		"80 g hard cheese; milk, egg; 18.50 a kg": {Name: "hard cheese", G: 80, Contains: "milk, egg",
			PricePerKG: 185000},
		"2 g nutmeg; none": {Name: "nutmeg", G: 2, Contains: "none"},
		"7-herb mix 30 g":  {Name: "7-herb mix", G: 30},
		"120 g curd; per 100 g 21 fat, 3 carbohydrate, 14 protein, 1.2 salt": {Name: "curd", G: 120,
			Food: &Food{21, 3, 14, 1.2}},
	} {
		got, err := ReadLines(typed)
		if err != nil || len(got) != 1 {
			t.Errorf("%q: %v, %v", typed, got, err)
			continue
		}
		g := got[0]
		if g.Name != want.Name || !near(g.G, want.G, .01) || g.Contains != want.Contains ||
			g.PricePerKG != want.PricePerKG ||
			(g.Food == nil) != (want.Food == nil) || g.Food != nil && *g.Food != *want.Food {
			t.Errorf("%q: %+v", typed, g)
		}
		again, err := ReadLines(g.Text())
		if err != nil || again[0].Text() != g.Text() {
			t.Errorf("%q: written as %q, read as %v, %v", typed, g.Text(), again, err)
		}
	}
	for typed, says := range map[string]string{
		"ricotta":                       "say how much",
		"two handfuls of chard":         "say how much",
		"500 ricotta":                   "say how much",
		"500 g ricotta\n0 g salt":       "line 2",
		"90 g cheese; 12":               "not understood",
		"90 g cheese; per 100 g 20 fat": "all of fat",
		"90 g cheese; per 100 g 20 fat, 20 fat, 3 protein, 1 salt":   "twice",
		"90 g cheese; per 100 g 60 fat, 60 carbs, 3 protein, 1 salt": "100 is the most",
		strings.Repeat("10 g salt\n", 31):                            "at most 30",
	} {
		if _, err := ReadLines(typed); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v, want %q", typed, err, says)
		}
	}
}

// TestFillingsKeepTheirMass: whatever is made, its lines come to what goes in for it, each in its share.
func TestFillingsKeepTheirMass(t *testing.T) {
	for _, f := range Shipped() {
		if err := f.Check(); err != nil {
			t.Errorf("%s: %v", f.Name, err)
		}
		if _, unpriced := f.PricePerKG(); len(unpriced) != len(f.Lines) {
			t.Errorf("%s: only %v lack a price", f.Name, unpriced)
		}
		for range 200 {
			g := 5 + rand.Float64()*9000
			sum := 0.
			for i, l := range f.For(g) {
				sum += l.G
				if !near(l.G/g, f.Lines[i].G/f.Makes(), 1e-12) {
					t.Fatalf("%s: %s changed its share", f.Name, l.Name)
				}
			}
			if !near(sum, g*f.InG()/f.Makes(), 1e-6*g) {
				t.Fatalf("%s: %g g go in for %g g", f.Name, sum, g)
			}
		}
	}
}

// TestWhatAFillingHolds: allergens by name and by word, price, and energy by tables, worked by hand. What is not
// known has no figure.
func TestWhatAFillingHolds(t *testing.T) {
	f := Filling{Name: "ricotta and egg", Lines: []Line{{Name: "ricotta", G: 800, PricePerKG: 78000},
		{Name: "egg yolk", G: 100, PricePerKG: 90000}, {Name: "water", G: 100}}, MakesG: 900, Contains: "Celery."}
	if got := f.Holds(); !slices.Equal(got, []string{Milk, Egg, "celery"}) {
		t.Error(got)
	}
	// 800 g at 7.80 and 100 g at 9.00 are 7.14, for .9 kg
	if price, unpriced := f.PricePerKG(); unpriced != nil || price.Rounded().String() != "7.93" {
		t.Error(price, unpriced)
	}
	// ricotta 88.9 g: fat 9.78; yolk 11.1 g: fat 2.94
	if food, unknown := f.Eaten(); unknown != nil || !near(food.Fat, 12.72, .02) || !near(food.Kcal(), 169, 1.5) {
		t.Errorf("%+v %v, %.0f kcal", food, unknown, food.Kcal())
	}
	f.Lines = append(f.Lines, Line{Name: "sea purslane", G: 20})
	if food, unknown := f.Eaten(); len(unknown) != 1 || food != (Food{}) {
		t.Errorf("%+v %v", food, unknown)
	}
	if _, unpriced := f.PricePerKG(); !slices.Equal(unpriced, []string{"sea purslane"}) {
		t.Error(unpriced)
	}
	f.Lines[0].Contains = "none"
	if got := f.Holds(); !slices.Equal(got, []string{Egg, "celery"}) {
		t.Error(got)
	}
}

// TestFoodByName: a name that says another food than its row's has no figure.
func TestFoodByName(t *testing.T) {
	for name, known := range map[string]bool{"ricotta, drained": true, "Butter": true, "egg yolk": true, "eggs": true,
		"spinach, blanched and squeezed": true, "black pepper": true, "bread crumbs": true, "lemon zest": true,
		"Kürbis": true, "uova": true, "white onions": true, "smoked ricotta": false, "cream cheese": false,
		"salted butter": false, "peanut butter": false, "sheep’s ricotta": false, "bell pepper": false,
		"sweet potatoes": false, "egg white": false, "sausage": false, "pork mince": false, "fresh breadcrumbs": false,
		"butter beans": false, "tomato paste": false, "almond milk": false, "": false} {
		if _, got := FoodOf(name); got != known {
			t.Errorf("%q: known is %v", name, got)
		}
	}
	for _, row := range foods {
		if err := row.check(); err != nil {
			t.Errorf("%s: %v", row.words, err)
		}
	}
}

func TestAFillingIsChecked(t *testing.T) {
	sound := func() Filling { return Filling{Name: "curd", Lines: []Line{{Name: "curd", G: 500}}} }
	for field, spoil := range map[string]func(*Filling){
		"name": func(f *Filling) { f.Name = "" }, "kind": func(f *Filling) { f.Kind = "odd" },
		"lines": func(f *Filling) { f.Lines = nil }, "makes_g": func(f *Filling) { f.MakesG = 600 },
		"contains": func(f *Filling) { f.Contains = strings.Repeat("x", 121) },
		"how":      func(f *Filling) { f.How = strings.Repeat("x", 601) },
	} {
		f := sound()
		if err := f.Check(); err != nil {
			t.Fatal(err)
		}
		spoil(&f)
		if all := measure.Faults(f.Check()); len(all) != 1 || all[0].Field != field {
			t.Errorf("%s: %v", field, all)
		}
	}
}

func FuzzLines(f *testing.F) {
	for _, x := range Shipped() {
		f.Add(x.Text())
	}
	f.Fuzz(func(t *testing.T, text string) {
		lines, err := ReadLines(text)
		if err != nil {
			return
		}
		x := Filling{Name: "x", Lines: lines}
		again, err := ReadLines(x.Text())
		if err != nil || len(again) != len(lines) {
			t.Errorf("%q: written as %q: %v", text, x.Text(), err)
		}
	})
}
