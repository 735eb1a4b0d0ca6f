// Package batch is the pages of a batch: the list of them, each with its stations, what is set beside it, and what
// becomes of it.
package batch

import (
	"context"
	"embed"
	"net/http"

	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

//go:embed templates/*.html
var templates embed.FS

// Room answers its addresses.
type Room struct {
	*page.Site
	Edits http.Handler // what answers a change that came over a socket
	// what a day's plan leaves before each of its orders is due, by order, minutes; under nought it is late
	InHand func(ctx context.Context, date string) map[uint64]int
	// which recipe a batch is of and what it has otherwise, as it stands; nil where it is of none
	OfRecipe  func(c *page.Visit, b store.Batch, r request.Request) *page.OfRecipe
	OfRecipes func(c *page.Visit, ids []uint64) map[uint64]*page.OfRecipe // of batches by their numbers, in short
	rowsNow   rowsByNow
}

// New returns the room of a site.
func New(s *page.Site) *Room {
	s.Add("batch", templates, funcs)
	return &Room{Site: s}
}
