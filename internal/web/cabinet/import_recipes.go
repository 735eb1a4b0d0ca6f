package cabinet

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// importRecipe is one recipe of a document beside those that are here.
type importRecipe struct {
	N       int
	Name    string
	Status  string // new, changed or same
	ID      uint64 // of the recipe it would change
	Version int
	Changes []itemChange
	Brings  []string // things of the cabinet it brings along
	batch   *importBatch
	besides recipe.Besides
	with    *int // the place of the recipe whose dough goes together with this one's
}

// Set names the boxes of a recipe that is taken: which it is, and the version it was compared to.
func (r importRecipe) Set() string { return fmt.Sprintf("recipe.%d.%d.%d", r.N, r.ID, r.Version) }

// recipesOf sets the recipes of a document beside those of their names.
func (s *Room) recipesOf(ctx context.Context, cab desk, things []store.Thing,
	all []exchange.KeptRecipe) (out []importRecipe,
	err error) {
	for n, k := range all {
		r := importRecipe{N: n, Name: k.Request.Name, Status: "new", batch: s.batchOf(cab, things, k.Request),
			besides: k.Besides, with: k.GoesWith}
		for _, own := range r.batch.Own {
			if own.Status == "new" {
				r.Brings = append(r.Brings, own.Name)
			}
		}
		here, found, err := s.Store.RecipeCalled(ctx, r.Name)
		if err != nil {
			return nil, err
		}
		if found {
			r.ID, r.Version, r.Status = here.ID, here.Version, "same"
			for _, c := range request.ChangesIn(cab.In, here.Request.Request, r.batch.asHere()) {
				if c.From != c.To {
					r.Changes = append(r.Changes, itemChange{c.Field.Label, c.FromShown, c.ToShown})
				}
			}
			if was, now := here.Besides.V.Names, k.Names; !slices.Equal(was, now) {
				r.Changes = append(r.Changes, itemChange{"Also called", strings.Join(was, ", "), strings.Join(now,
					", ")})
			}
			for _, l := range []struct{ name, was, now string }{
				{"Called on the label", here.Besides.V.Label.Product, k.Label.Product},
				{"Who makes it", here.Besides.V.Label.MadeBy, k.Label.MadeBy},
				{"May contain", here.Besides.V.Label.MayContain, k.Label.MayContain}} {
				if l.was != l.now {
					r.Changes = append(r.Changes, itemChange{l.name, l.was, l.now})
				}
			}
			if len(r.Changes) > 0 {
				r.Status = "changed"
			}
		}
		out = append(out, r)
	}
	return out, nil
}

// takeRecipes keeps the recipes whose boxes are ticked, and first what they bring along.
func takeRecipes(ctx context.Context, ru rules.Rules, tx *store.Store, all []importRecipe, take []string) (string,
	error) {
	to, made := ImportPath, map[string]string{}
	kept := map[int]uint64{} // by their place in the document; what is here and says the same counts
	for _, r := range all {
		kept[r.N] = r.ID
	}
	slices.Sort(take)
	for _, set := range slices.Compact(take) {
		at := slices.IndexFunc(all, func(r importRecipe) bool { return r.Set() == set })
		if at < 0 {
			return "", store.ErrChanged
		}
		r := all[at]
		asked, err := bringAlong(ctx, tx, r.batch, made)
		if err != nil {
			return "", err
		}
		p, err := plan.Make(ru, asked)
		if err != nil {
			return "", err
		}
		switch r.Status {
		case "new":
			var now store.Recipe
			now, err = tx.KeepRecipe(ctx, "", p, r.besides)
			kept[r.N] = now.ID
		case "changed":
			_, err = tx.SaveRecipe(ctx, r.ID, r.Version, p, r.besides)
		}
		if err != nil {
			return "", err
		}
		to = "/recipes"
	}
	if to == ImportPath {
		return to, nil
	}
	for _, r := range all {
		if r.with != nil && kept[r.N] != 0 && kept[*r.with] != 0 {
			if err := tx.TieRecipes(ctx, kept[r.N], kept[*r.with]); err != nil {
				return "", err
			}
		}
	}
	return to, nil
}
