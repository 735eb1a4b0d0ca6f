package page

import (
	"context"

	"hollen/internal/core/request"
	"hollen/internal/store"
)

// Starts is the day a new batch of a recipe starts from here: the house’s hands and prices, the room and the eggs of
// the newest batch, as a maker would take them up.
func (s *Site) Starts(ctx context.Context) (request.Request, error) {
	day := request.Default()
	h, err := s.Store.House(ctx)
	if err != nil {
		return day, err
	}
	h.Start(&day)
	last, _, err := s.Store.List(ctx, store.Query{})
	if err != nil || len(last) == 0 {
		return day, err
	}
	if b, err := s.Store.Get(ctx, last[0].ID); err == nil {
		day.Room = b.Request.Room
		was := &b.Request.Eggs
		day.Eggs.Class, day.Eggs.OwnClass, day.Eggs.From = was.Class, was.OwnClass, was.From
	}
	return day, nil
}
