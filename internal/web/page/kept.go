package page

import (
	"cmp"
	"errors"
	"fmt"
	"net/http"
	"strconv"

	"hollen/internal/core/bench"
	"hollen/internal/store"
)

// Load returns the batch an address names, or shows why there is none.
func (s *Site) Load(c *Visit) (b store.Batch, err error) {
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	if err != nil {
		return b, Refuse(http.StatusNotFound, "There is no such batch.", "Batches are numbered; this is no number.")
	}
	ctx := c.Request.Context()
	b, stamp, err := s.Store.GetStamped(ctx, id)
	if err == nil {
		c.Stamped(stamp)
	}
	if errors.Is(err, store.ErrUnreadable) {
		s.Log.Error("store", "err", err)
		return b, Refuse(http.StatusInternalServerError, "This batch cannot be read as it was last saved.", fmt.Sprintf(
			"It was left as it is: %s, version %d. An earlier version that can be read brings it back.",
			cmp.Or(b.Row.Name, "a batch"),
			b.Version,
		), WayOn{
			fmt.Sprintf("/batches/%d/versions", id),
			"Its versions",
		}, WayOn{fmt.Sprintf("/batches/%d/makings", id), "Its makings"})
	}
	if err != nil && !(errors.Is(err, store.ErrDeleted) && c.Request.Method == http.MethodPost) {
		return b, err
	}
	return b, nil
}

// LoadAnyhow is load of a batch whose newest version may be one that cannot be read.
func (s *Site) LoadAnyhow(c *Visit) (b store.Batch, err error) {
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	if err != nil {
		return s.Load(c)
	}
	ctx := c.Request.Context()
	if b, err = s.Store.Get(ctx, id); errors.Is(err, store.ErrUnreadable) {
		b.Request.Name = cmp.Or(b.Row.Name, "a batch")
		return b, nil
	}
	return s.Load(c)
}

// MakingID is the number of the making an address names; false where it is none.
func MakingID(c *Visit) (uint64, bool) {
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	return id, err == nil && id > 0
}

// Making reads the making of the address; it shows why when it cannot.
func (s *Site) Making(c *Visit) (store.Making, bench.Making, error) {
	id, ok := MakingID(c)
	if !ok {
		return store.Making{}, bench.Making{}, Refuse(http.StatusNotFound, "There is no such making.",
			"It may have been typed wrong.")
	}
	kept, run, _, err := s.Makings.At(c.Request.Context(), id)
	switch {
	case errors.Is(err, store.ErrNotFound):
		err = Refuse(http.StatusNotFound, "There is no such making.", "It may have been typed wrong.")
	case errors.Is(err, store.ErrUnreadable):
		s.Log.Error("bench", "making", id, "err", err)
		err = Refuse(
			http.StatusInternalServerError,
			"This making cannot be read.",
			fmt.Sprintf(
				"What it was begun with on %s is damaged, and was left as it is. The log still has what was added up "+
					"of it when it ended.",
				kept.Began.Local().Format("2 January 2006 at 15:04"),
			),
			WayOn{
				fmt.Sprintf("/batches/%d", kept.BatchID),
				"Its batch",
			},
			WayOn{fmt.Sprintf("/batches/%d/makings", kept.BatchID), "All its makings"},
			WayOn{"/log", "The log"},
		)
	}
	return kept, run, err
}

// House returns what new batches start from, or shows why it cannot be read.
func (s *Site) House(c *Visit) (store.House, error) {
	ctx := c.Request.Context()
	return s.Store.House(ctx)
}
