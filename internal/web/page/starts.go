package page

import (
	"context"

	"hollen/internal/core/request"
	"hollen/internal/store"
)

// Starts is the day a new batch of a recipe starts from here: the house’s hands, prices, eggs and room; where it says
// no eggs or no room, those of the newest batch, as a maker would take them up.
func (s *Site) Starts(ctx context.Context) (request.Request, error) {
	day := request.Default()
	h, err := s.Store.House(ctx)
	if err != nil {
		return day, err
	}
	h.Start(&day)
	if h.Eggs != "" {
		cab, err := s.Store.Cabinet(ctx)
		if err != nil {
			return day, err
		}
		cab.Begin(request.House{Eggs: h.Eggs}, &day)
	}
	if h.Eggs != "" && h.Room != nil {
		return day, nil
	}
	last, _, err := s.Store.List(ctx, store.Query{})
	if err != nil || len(last) == 0 {
		return day, err
	}
	if b, err := s.Store.Get(ctx, last[0].ID); err == nil {
		if h.Room == nil {
			day.Room = b.Request.Room
		}
		if was := &b.Request.Eggs; h.Eggs == "" {
			day.Eggs.Class, day.Eggs.OwnClass, day.Eggs.From = was.Class, was.OwnClass, was.From
		}
	}
	return day, nil
}
