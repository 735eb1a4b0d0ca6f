package recipes

import (
	"errors"
	"fmt"
	"maps"
	"net/http"
	"slices"
	"strconv"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// intoView is what a batch has otherwise than its recipe, to be taken into it.
type intoView struct {
	Batch   uint64
	Name    string
	ID      uint64
	Recipe  string
	Version int
	Rows    []intoRow
	Wrong   string
	Took    []request.Change // of a newer version
	Offered []request.Clash
	Newer   int
}

// intoRow is one difference.
type intoRow struct{ Path, Label, Here, There string }

// loaded is a batch, its recipe now, and the recipe as the batch took it.
func (s *Room) loaded(c *page.Visit) (b store.Batch, now, then store.Recipe, err error) {
	if b, err = s.Load(c); err != nil {
		return b, now, then, err
	}
	if b.RecipeID == nil || b.RecipeVersion == nil {
		return b, now, then, page.Refuse(http.StatusNotFound, "This batch is of no recipe.",
			"Keep it as one, or make one of a recipe.",
			page.WayOn{To: fmt.Sprintf("/batches/%d", b.ID), Name: b.Row.Name})
	}
	ctx := c.Request.Context()
	if now, err = s.Store.RecipeByID(ctx, *b.RecipeID); errors.Is(err, store.ErrNotFound) {
		return b, now, then, none()
	} else if err != nil {
		return b, now, then, err
	}
	then, err = s.Store.RecipeAt(ctx, *b.RecipeID, *b.RecipeVersion)
	if errors.Is(err, store.ErrNotFound) {
		then, err = now, nil
	}
	return b, now, then, err
}

// ShowInto asks which differences of a batch go into its recipe.
func (s *Room) ShowInto(c *page.Visit) error { return s.showInto(c, http.StatusOK, "") }

func (s *Room) showInto(c *page.Visit, status int, wrong string) error {
	b, now, _, err := s.loaded(c)
	if err != nil {
		return err
	}
	v := intoView{Batch: b.ID, Name: b.Row.Name, ID: now.ID, Recipe: now.Name, Version: now.Version, Wrong: wrong}
	for _, d := range recipe.Differences(c.Units, now.Request.Request, b.Request.Request) {
		v.Rows = append(v.Rows, intoRow{d.Field.Path, d.Field.Label, d.ToShown, d.FromShown})
	}
	s.Render(c, status, "recipeinto", "Into the recipe", v)
	return nil
}

// TakeInto takes the ticked differences into the recipe: its next version, which the batch is then of.
func (s *Room) TakeInto(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	b, now, _, err := s.loaded(c)
	if err != nil {
		return err
	}
	paths := values["take"]
	if len(paths) == 0 {
		return s.showInto(c, http.StatusUnprocessableEntity, "Tick at least one of them.")
	}
	next := recipe.Into(now.Request.Request, b.Request.Request, paths)
	ctx := c.Request.Context()
	p, err := plan.Make(s.RulesOf(ctx, &next), next)
	if err != nil {
		return s.showInto(c, http.StatusUnprocessableEntity,
			"With these the recipe cannot be worked out: "+err.Error()+".")
	}
	version, _ := strconv.Atoi(values.Get("version"))
	err = s.Store.Atomically(ctx, func(in *store.Store) error {
		kept, err := in.SaveRecipe(ctx, now.ID, version, p, now.Besides.V)
		if err == nil {
			err = in.TieBatch(ctx, &b, kept.ID, kept.Version)
		}
		return err
	})
	if err != nil {
		return err
	}
	return s.back(c, now.ID)
}

// ShowNewer shows what a recipe's newer version would change in a batch.
func (s *Room) ShowNewer(c *page.Visit) error {
	b, now, then, err := s.loaded(c)
	if err != nil {
		return err
	}
	_, taken := recipe.Newer(c.Units, then.Request.Request, b.Request.Request, now.Request.Request)
	s.Render(c, http.StatusOK, "recipenewer", "The recipe has changed", intoView{Batch: b.ID, Name: b.Row.Name,
		ID:     now.ID,
		Recipe: now.Name, Version: b.Version, Took: taken.Took, Offered: taken.Offered, Newer: now.Version})
	return nil
}

// TakeNewer takes what changed in the recipe into the batch: its next version.
func (s *Room) TakeNewer(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	b, now, then, err := s.loaded(c)
	if err != nil {
		return err
	}
	next, taken := recipe.Newer(c.Units, then.Request.Request, b.Request.Request, now.Request.Request)
	ctx := c.Request.Context()
	p, err := plan.Make(s.RulesOf(ctx, &next), next)
	if err != nil {
		return page.Refuse(http.StatusUnprocessableEntity, "With the recipe’s change this batch cannot be worked out.",
			measure.Capital(err.Error())+".", page.WayOn{To: fmt.Sprintf("/batches/%d", b.ID), Name: b.Row.Name})
	}
	version, _ := strconv.Atoi(values.Get("version"))
	err = s.Store.Atomically(ctx, func(in *store.Store) error {
		if len(taken.Took) > 0 {
			if _, err := in.Save(ctx, b.ID, version, p); err != nil {
				return err
			}
		}
		return in.TieBatch(ctx, &b, now.ID, now.Version)
	})
	if _, clash := errors.AsType[*store.ConflictError](err); clash {
		return store.ErrChanged
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d", b.ID))
	return nil
}

// Line is what stands at the head of a batch of a recipe.
func (s *Room) Line(c *page.Visit, b store.Batch, r request.Request) *page.OfRecipe {
	b.Request.Request = r
	return s.lines(c, []store.Batch{b}, 4)[b.ID]
}

// Lines say of batches, by their numbers, which recipe they are of and what is otherwise, in a list: shorter than at
// the head of one. Those of none are not in it.
func (s *Room) Lines(c *page.Visit, ids []uint64) map[uint64]*page.OfRecipe {
	of, err := s.Store.ByIDs(c.Request.Context(), ids)
	if err != nil {
		s.Log.Warn("recipes of batches", "err", err)
		return nil
	}
	return s.lines(c, slices.Collect(maps.Values(of)), 2)
}

// lines are those of batches, each with at most so many differences.
func (s *Room) lines(c *page.Visit, all []store.Batch, most int) map[uint64]*page.OfRecipe {
	ctx, out := c.Request.Context(), map[uint64]*page.OfRecipe{}
	var ids []uint64
	for _, b := range all {
		if b.RecipeID != nil && b.RecipeVersion != nil {
			ids = append(ids, *b.RecipeID)
		}
	}
	of, err := s.Store.RecipesByIDs(ctx, ids)
	if err != nil {
		s.Log.Warn("recipes of batches", "err", err)
		return out
	}
	then := map[[2]uint64]store.Recipe{} // as they were at a version
	for _, b := range all {
		if b.RecipeID == nil || b.RecipeVersion == nil {
			continue
		}
		now, there := of[*b.RecipeID]
		if !there {
			continue
		}
		key := [2]uint64{now.ID, uint64(*b.RecipeVersion)}
		was, met := then[key]
		if !met {
			if was, err = s.Store.RecipeAt(ctx, now.ID, *b.RecipeVersion); err != nil {
				was = now
			}
			then[key] = was
		}
		o := &page.OfRecipe{ID: now.ID, Name: now.Name, Version: *b.RecipeVersion, Retired: now.RetiredAt != nil}
		if now.Version != *b.RecipeVersion {
			o.Newer = now.Version
		}
		others := recipe.Differences(c.Units, was.Request.Request, b.Request.Request)
		for _, d := range others[:min(most, len(others))] {
			o.Here = append(o.Here, d.Words())
		}
		o.More = len(others) - len(o.Here)
		out[b.ID] = o
	}
	return out
}
