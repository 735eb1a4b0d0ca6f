// Package recipes is the pages of what a kitchen makes, apart from the day it makes it: found, kept from a batch, made
// at an amount, and what a batch of one has otherwise.
package recipes

import (
	"embed"
	"errors"
	"html/template"
	"net/http"
	"strconv"

	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

//go:embed templates/*.html
var templates embed.FS

// Room answers its addresses.
type Room struct {
	*page.Site
}

// New returns the room of a site.
func New(s *page.Site) *Room {
	s.Add("recipes", templates, func(*template.Template) template.FuncMap { return nil })
	return &Room{Site: s}
}

// none is the answer where there is no such recipe.
func none() error {
	return page.Refuse(http.StatusNotFound, "There is no such recipe.", "It may be in another database.",
		page.WayOn{To: "/recipes", Name: "Recipes"})
}

// recipe is the recipe an address names.
func (s *Room) recipe(c *page.Visit) (store.Recipe, error) {
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	if err != nil {
		return store.Recipe{}, none()
	}
	r, err := s.Store.RecipeByID(c.Request.Context(), id)
	if errors.Is(err, store.ErrNotFound) {
		return r, none()
	}
	return r, err
}

// planned is the plan of a recipe, with the day of today's house: how it is shown and scaled.
func (s *Room) planned(c *page.Visit, r request.Request) (*plan.Plan, request.Request, error) {
	day, err := s.Starts(c.Request.Context())
	if err != nil {
		return nil, r, err
	}
	r = recipe.On(r, day)
	p, err := plan.MakeIn(c.Units, s.RulesOf(c.Request.Context(), &r), r)
	if err != nil {
		return nil, r, page.Refuse(http.StatusUnprocessableEntity, "This recipe cannot be worked out.", err.Error(),
			page.WayOn{To: "/recipes", Name: "Recipes"})
	}
	return p, r, nil
}
