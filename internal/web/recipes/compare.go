package recipes

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// compareView is a recipe beside another, or beside itself as it was, made at one amount.
type compareView struct {
	ID          uint64
	Name, Other string
	With        string // what it is held against: a recipe’s number, or "v" and a version’s
	Choices     []choice
	Figures     []pairRow // what comes out at the amount of the first
	Said        []pairRow // what they say otherwise
	Amount      string
}

// choice is what a recipe may be held against.
type choice struct {
	Key, Name string
	Chosen    bool
}

// pairRow is one line of two.
type pairRow struct {
	Label, Here, There string
	Differs            bool
}

// mostChoices is how many other recipes are offered to be held against, those made last first.
const mostChoices = 200

// CompareRecipe shows a recipe beside another, or beside a version of before.
func (s *Room) CompareRecipe(c *page.Visit) error {
	r, err := s.recipe(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	v := compareView{ID: r.ID, Name: r.Name, With: c.Query("with")}
	versions, _, err := s.Store.RecipeVersions(ctx, r.ID)
	if err != nil {
		return err
	}
	for _, x := range versions {
		if x.Version != r.Version {
			v.Choices = append(v.Choices, choice{Key: fmt.Sprintf("v%d", x.Version),
				Name: fmt.Sprintf("itself, version %d", x.Version)})
		}
	}
	others, _, err := s.Store.Recipes(ctx, "", false, store.Mark{})
	if err != nil {
		return err
	}
	for _, x := range others[:min(len(others), mostChoices)] {
		if x.ID != r.ID {
			v.Choices = append(v.Choices, choice{Key: fmt.Sprint(x.ID), Name: x.Name})
		}
	}
	if v.With == "" && len(v.Choices) > 0 {
		v.With = v.Choices[0].Key
	}
	for i := range v.Choices {
		v.Choices[i].Chosen = v.Choices[i].Key == v.With
	}
	if v.With != "" {
		other, err := s.against(c, r, v.With)
		if err != nil {
			return err
		}
		if err := s.compare(c, &v, r, other); err != nil {
			return err
		}
	}
	s.Render(c, http.StatusOK, "recipecompare", "Compare: "+r.Name, v)
	return nil
}

// against is the recipe, or the version of it, that a key names.
func (s *Room) against(c *page.Visit, r store.Recipe, key string) (other store.Recipe, err error) {
	ctx := c.Request.Context()
	if len(key) > 1 && key[0] == 'v' {
		n, _ := strconv.Atoi(key[1:])
		other, err = s.Store.RecipeAt(ctx, r.ID, n)
		other.Name = fmt.Sprintf("%s, version %d", other.Name, n)
	} else {
		n, _ := strconv.ParseUint(key, 10, 63)
		other, err = s.Store.RecipeByID(ctx, n)
	}
	if errors.Is(err, store.ErrNotFound) {
		return other, none()
	}
	return other, err
}

// compare fills in what the two come to and what they say, the second made as much as the first.
func (s *Room) compare(c *page.Visit, v *compareView, a, b store.Recipe) error {
	v.Other = b.Name
	p, _, err := s.planned(c, a.Request.Request)
	if err != nil {
		return err
	}
	as, of, err := s.planned(c, b.Request.Request)
	if err != nil {
		return err
	}
	scaled, _, err := recipe.Scale(of, as, recipe.Want{Portions: p.Formula.Portions})
	if err != nil {
		return err
	}
	q, err := plan.MakeIn(c.Units, s.RulesOf(c.Request.Context(), &scaled), scaled)
	if err != nil {
		q = as
	}
	v.Amount = fmt.Sprintf("for %.1f portions", p.Formula.Portions)
	here, there := figuresOf(p), figuresOf(q)
	for i, x := range here {
		if x.Value != "" || there[i].Value != "" {
			v.Figures = append(v.Figures, pairRow{x.Label, x.Value, there[i].Value, x.Value != there[i].Value})
		}
	}
	for _, d := range recipe.Differences(c.Units, a.Request.Request, scaled) {
		v.Said = append(v.Said, pairRow{d.Field.Label, d.FromShown, d.ToShown, true})
	}
	return nil
}

// figuresOf are what a recipe comes to, the same lines of each.
func figuresOf(p *plan.Plan) []figure {
	in, f := p.In(), &p.Formula
	out := []figure{{"Flour", in.Grams(f.FlourG)}, {"Eggs", ""}, {"Beside the eggs", ""},
		{"Dough", in.Grams(f.Dough.MassG) + ", " + in.Grams(f.PortionG) + " a portion"}, {"Working hydration",
			fmt.Sprintf("%.1f", f.Dough.Hw)},
		{"Kneading", measure.Minutes(p.Knead.Min)}, {"Rest", measure.Minutes(p.Rest.Min)}, {"Sheet", ""},
		{"Cut as", p.Cut.Shape.Name}, {"In the pot", ""}, {"A portion costs", ""}}
	if f.Pick.EggG > 0 {
		out[1].Value = p.EggWords()
	}
	if p.Room.LiquidG > .5 {
		out[2].Value = in.Whole(p.Room.LiquidG) + " " + p.TopWord()
	}
	if !p.Roped() {
		out[7].Value = in.MM(p.Roll.SheetMM, 2)
	}
	if p.Cook.Seconds > 0 {
		out[9].Value = measure.MinSec(p.Cook.Seconds)
	}
	if len(p.Cost.Lines) > 0 {
		out[10].Value = p.Cost.Currency + " " + p.Cost.PerPortion.Rounded().String()
		if len(p.Cost.Unpriced) > 0 {
			out[10].Value += ", without " + measure.List(p.Cost.Unpriced)
		}
	}
	return out
}
