package batch

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// What stands at the stations is a batch or a recipe. A recipe is shown with the house's room, eggs and hands, which
// are
// no part of it: what is a day's cannot be said there, and is not kept.

// isRecipe says whether an address is of a recipe at its stations.
func isRecipe(c *page.Visit) bool { return strings.HasPrefix(c.FullPath(), "/recipes/") }

// subject is what the address names, as a batch: a recipe has the house's day.
func (s *Room) subject(c *page.Visit) (store.Batch, error) {
	if !isRecipe(c) {
		return s.Load(c)
	}
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	if err != nil {
		return store.Batch{}, noRecipe()
	}
	r, err := s.Store.RecipeByID(c.Request.Context(), id)
	if errors.Is(err, store.ErrNotFound) {
		return store.Batch{}, noRecipe()
	}
	if err != nil {
		return store.Batch{}, err
	}
	return s.asBatch(c.Request.Context(), r)
}

func noRecipe() error {
	return page.Refuse(http.StatusNotFound, "There is no such recipe.", "It may be in another database.",
		page.WayOn{To: "/recipes", Name: "Recipes"})
}

// asBatch is a recipe as its stations show it.
func (s *Room) asBatch(ctx context.Context, r store.Recipe) (store.Batch, error) {
	day, err := s.Starts(ctx)
	if err != nil {
		return store.Batch{}, err
	}
	b := store.Batch{ID: r.ID, Version: r.Version}
	b.Request.Request = recipe.On(r.Request.Request, day)
	return b, nil
}

// of tells the view what it is of.
func (v *batchView) ofSubject(c *page.Visit, b store.Batch) *batchView {
	v.PartnerID, v.of, v.Base = b.PartnerID, b, fmt.Sprintf("/batches/%d", b.ID)
	if v.IsRecipe = isRecipe(c); v.IsRecipe {
		v.Base = fmt.Sprintf("/recipes/%d/stations", b.ID)
		if v.At == atDoctor { // nothing goes wrong with what is not made
			v.At = request.AtFormula
		}
	}
	return v
}

// theDays says whether a field of what is shown is a day's, and so none of a recipe's.
func (v *batchView) theDays(f request.Field) bool {
	return v.IsRecipe && recipe.PartOf(f) == recipe.OfDay
}

// saveRecipe keeps the form as the next version of the recipe it is of.
func (s *Room) saveRecipe(ctx context.Context, a asked) error {
	p, err := plan.Make(a.view.Plan.Rules(), recipe.Of(a.view.Request))
	if err != nil {
		return page.Refuse(http.StatusUnprocessableEntity, "This recipe cannot be worked out.", err.Error())
	}
	was, err := s.Store.RecipeByID(ctx, a.batch.ID)
	if err != nil {
		return err
	}
	_, err = s.Store.SaveRecipe(ctx, a.batch.ID, a.view.Version, p, was.Besides.V)
	if !errors.Is(err, store.ErrChanged) {
		return err
	}
	now, err := s.Store.RecipeByID(ctx, a.batch.ID)
	if err != nil {
		return err
	}
	base, err := s.Store.RecipeAt(ctx, a.batch.ID, a.view.Version)
	if err != nil {
		base = now
	}
	clash := store.ConflictError{}
	if clash.Current, err = s.asBatch(ctx, now); err != nil {
		return err
	}
	old, err := s.asBatch(ctx, base)
	clash.Base = old.Request.Request
	return errors.Join(err, &clash)
}
