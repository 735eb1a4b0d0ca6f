package recipes

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// listView is the page of recipes.
type listView struct {
	In      measure.System
	Groups  []group
	Words   string
	By      string // kind of dough, or what they become
	Retired []row
	Next    string
	Any     bool
}

// group is recipes alike in dough or in shape.
type group struct {
	Name string
	Rows []row
}

// row is one recipe as a list shows it.
type row struct {
	plan.Summary
	ID    uint64
	In    measure.System
	Names string
	Made  string // when it was made last, how often, how it felt
}

// ListRecipes shows the recipes, found as typed.
func (s *Room) ListRecipes(c *page.Visit) error {
	v := listView{In: c.Units, Words: strings.TrimSpace(strings.ToValidUTF8(c.Query("find"), "")), By: c.Query("by")}
	if r := []rune(v.Words); len(r) > 80 {
		v.Words = string(r[:80])
	}
	var from store.Mark
	if name, id, ok := strings.Cut(c.Query("after"), "|"); ok {
		from.ID, _ = strconv.ParseUint(name, 10, 63)
		from.Key = id
	}
	ctx := c.Request.Context()
	all, next, err := s.Store.Recipes(ctx, v.Words, false, from)
	if err != nil {
		return err
	}
	rows, err := s.rows(c, all)
	if err != nil {
		return err
	}
	v.Groups = grouped(rows, v.By)
	if next != nil {
		v.Next = "/recipes?" + url.Values{"find": {v.Words}, "by": {v.By}, "after": {fmt.Sprintf("%d|%s", next.ID,
			next.Key)}}.Encode()
	}
	gone, _, err := s.Store.Recipes(ctx, "", true, store.Mark{})
	if err != nil {
		return err
	}
	if v.Retired, err = s.rows(c, gone); err != nil {
		return err
	}
	v.Any = len(rows) > 0 || v.Words != ""
	s.Render(c, http.StatusOK, "recipes", "Recipes", v)
	return nil
}

// rows are recipes as a list shows them.
func (s *Room) rows(c *page.Visit, all []store.Recipe) ([]row, error) {
	ids := make([]uint64, len(all))
	for i, r := range all {
		ids[i] = r.ID
	}
	made, err := s.Store.RecipesMade(c.Request.Context(), ids)
	if err != nil {
		return nil, err
	}
	out := make([]row, len(all))
	for i, r := range all {
		out[i] = row{r.Row.Summary, r.ID, c.Units, strings.Join(r.Besides.V.Names, ", "), madeWords(made[r.ID])}
		out[i].Name = r.Name
	}
	return out, nil
}

// madeWords say when a recipe was made last, how often, and how it felt.
func madeWords(m store.RecipeMade) string {
	if m.N == 0 {
		return "not made yet"
	}
	out := "made " + measure.DayWords(m.At.Local().Format(time.DateOnly))
	if m.N > 1 {
		out += fmt.Sprintf(", %d times in all", m.N)
	}
	if m.Felt != nil && *m.Felt >= -2 && *m.Felt <= 2 {
		out += "; felt " + bench.FeltWords[*m.Felt+2]
	}
	return out
}

// grouped parts rows by what they become, or by their dough.
func grouped(rows []row, by string) (out []group) {
	at := map[string]int{}
	for _, r := range rows {
		name := r.Flours
		switch {
		case by == "shape":
			name = r.Shape
		case r.Whole == 0 && r.Yolks == 0 && r.WeighedG == 0:
			name += ", no egg"
		case r.Yolks > 0:
			name += ", with yolks"
		}
		if _, met := at[name]; !met {
			at[name] = len(out)
			out = append(out, group{Name: name})
		}
		g := &out[at[name]]
		g.Rows = append(g.Rows, r)
	}
	return out
}

// AskKeep asks what a batch is to be called as a recipe.
func (s *Room) AskKeep(c *page.Visit) error {
	b, err := s.Load(c)
	if err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "recipekeep", "Keep as a recipe", keepView{ID: b.ID, Batch: b.Request.Name,
		Name: strings.TrimSuffix(b.Request.Name, ", copy"), Errors: map[string]string{}})
	return nil
}

// KeepRecipe keeps a batch, as it is saved, as a recipe, and ties the batch to it.
func (s *Room) KeepRecipe(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	b, err := s.Load(c)
	if err != nil {
		return err
	}
	name := strings.Join(strings.Fields(values.Get("name")), " ")
	r := recipe.Of(b.Request.Request)
	r.Name = name
	names, nameErr := recipe.ReadNames(values.Get("other_names"))
	p, planErr := plan.Make(s.RulesOf(c.Request.Context(), &r), r)
	ctx := c.Request.Context()
	v := keepView{ID: b.ID, Batch: b.Request.Name, Name: name, Names: values.Get("other_names"),
		Errors: map[string]string{}}
	if n, err := s.Store.RecipesNamed(ctx, name); err != nil {
		return err
	} else if n > 0 {
		v.Taken = "There is a recipe of that name already. Both may stand; you will tell them apart by dough and shape."
	}
	if f, is := errors.AsType[measure.Fault](nameErr); is {
		v.Errors["other_names"] = measure.Capital(f.Text) + "."
	}
	if planErr != nil {
		v.Errors["name"] = measure.Capital(planErr.Error()) + "."
	}
	if len(v.Errors) > 0 || v.Taken != "" && values.Get("both") == "" {
		s.Render(c, http.StatusUnprocessableEntity, "recipekeep", "Keep as a recipe", v)
		return nil
	}
	var kept store.Recipe
	err = s.Store.Atomically(ctx, func(in *store.Store) (err error) {
		if kept, err = in.KeepRecipe(ctx, page.OnceOf(values), p, recipe.Besides{Names: names}); err != nil {
			return err
		}
		if b.RecipeID == nil {
			if err := in.TieBatch(ctx, &b, kept.ID, kept.Version); err != nil {
				return err
			}
		}
		return s.keepSecond(ctx, in, b, kept)
	})
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/recipes/%d", kept.ID))
	return nil
}

// keepSecond keeps the second dough of a batch, where there is one, as the recipe that goes together with the one the
// batch was kept as; a dough that is of a recipe already brings that.
func (s *Room) keepSecond(ctx context.Context, in *store.Store, b store.Batch, kept store.Recipe) error {
	if b.PartnerID == nil || kept.PartnerID != nil {
		return nil
	}
	other, err := in.Get(ctx, *b.PartnerID)
	if errors.Is(err, store.ErrDeleted) || errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	if other.RecipeID != nil {
		return in.TieRecipes(ctx, kept.ID, *other.RecipeID)
	}
	r := recipe.Of(other.Request.Request)
	p, err := plan.Make(s.RulesOf(ctx, &r), r)
	if err != nil {
		return err
	}
	second, err := in.KeepRecipe(ctx, "", p, recipe.Besides{})
	if err == nil {
		err = in.TieBatch(ctx, &other, second.ID, second.Version)
	}
	if err != nil {
		return err
	}
	return in.TieRecipes(ctx, kept.ID, second.ID)
}

// keepView asks what a recipe is to be called.
type keepView struct {
	ID     uint64
	Batch  string
	Name   string
	Names  string
	Taken  string
	Errors map[string]string
}
