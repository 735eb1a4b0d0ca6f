package page

import (
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/store"
)

// Visit is one request to a page: what came, in which units and with which marks it is answered, who asks, and what
// the workshop keeps.
type Visit struct {
	*gin.Context
	Units measure.System // as the browser has chosen
	Marks Marks          // of its language
	Who   *store.Account // who is signed in; nil where nobody signs in

	kept    *store.Store
	stamp   *store.CabinetStamp // of the cabinet, where it came with something else
	cabinet *store.Cabinet      // once it was asked for
}

// AccountKey is under what a request holds who is signed in.
const AccountKey = "account"

// Visit is the request of a context as pages have it.
func (s *Site) Visit(c *gin.Context) *Visit {
	v := &Visit{Context: c, Units: shownIn(c), Marks: marksOf(c), kept: s.Store}
	if a, ok := c.Get(AccountKey); ok {
		v.Who = a.(*store.Account)
	}
	return v
}

// Stamped has the cabinet be the one of a stamp that came with what was read.
func (c *Visit) Stamped(stamp store.CabinetStamp) { c.stamp = &stamp }

// Cabinet returns what the workshop keeps, read once a request.
func (c *Visit) Cabinet() (store.Cabinet, error) {
	if c.cabinet != nil {
		return *c.cabinet, nil
	}
	ctx := c.Request.Context()
	var cab store.Cabinet
	var err error
	if c.stamp != nil {
		cab, err = c.kept.CabinetAt(ctx, *c.stamp)
	} else {
		cab, err = c.kept.Cabinet(ctx)
	}
	if err == nil {
		c.cabinet = &cab
	}
	return cab, err
}

// KeepsWay has the cabinet of this request hold a way that was kept just now.
func (c *Visit) KeepsWay(w request.Way) {
	if c.cabinet != nil {
		c.cabinet.Ways = append(slices.Clone(c.cabinet.Ways), w)
	}
}

// Place is the workshop's name.
func (c *Visit) Place() (name string, err error) {
	switch {
	case c.cabinet != nil:
		return c.cabinet.Workshop, nil
	case c.stamp != nil:
		return c.stamp.Workshop, nil
	}
	return c.kept.Workshop(c.Request.Context())
}

// Place is the workshop's name; none where the database does not answer.
func (s *Site) Place(c *Visit) string {
	name, err := c.Place()
	if err != nil {
		s.Log.Warn("workshop", "err", err)
	}
	return name
}

// Today is the date where Hollen runs.
func (s *Site) Today() string { return s.Now().Format(time.DateOnly) }
