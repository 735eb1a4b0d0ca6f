package recipes

import (
	"bytes"
	"errors"
	"fmt"
	"net/http"

	"hollen/internal/exchange"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// DownloadRecipe writes one recipe as a document another kitchen reads.
func (s *Room) DownloadRecipe(c *page.Visit) error {
	r, err := s.recipe(c)
	if err != nil {
		return err
	}
	all := []store.Recipe{r}
	if r.PartnerID != nil {
		with, err := s.Store.RecipeByID(c.Request.Context(), *r.PartnerID)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			return err
		} else if err == nil {
			all = append(all, with)
		}
	}
	return s.download(c, fmt.Sprintf("recipe-%d.json", r.ID), all)
}

// DownloadRecipes writes all recipes in use in one document.
func (s *Room) DownloadRecipes(c *page.Visit) error {
	all, err := s.Store.AllRecipes(c.Request.Context())
	if err != nil {
		return err
	}
	return s.download(c, "recipes.json", all)
}

func (s *Room) download(c *page.Visit, name string, all []store.Recipe) error {
	kept := make([]exchange.KeptRecipe, len(all))
	place := map[uint64]int{}
	for i, r := range all {
		place[r.ID] = i
	}
	for i, r := range all {
		kept[i] = exchange.KeptRecipe{Request: r.Request.Request, Besides: r.Besides.V}
		if r.PartnerID != nil {
			if at, there := place[*r.PartnerID]; there {
				kept[i].GoesWith = &at
			}
		}
	}
	var b bytes.Buffer
	if err := exchange.Write(&b, exchange.NewRecipes(kept)); err != nil {
		return page.Refuse(http.StatusInternalServerError, "These recipes cannot be written.", "")
	}
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="%s"`, name))
	c.Data(http.StatusOK, "application/json", b.Bytes())
	return nil
}
