package page

import (
	"slices"
	"time"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/store"
)

// Today is the date where Hollen runs.
func (s *Site) Today() string { return s.Now().Format(time.DateOnly) }

// Place is the workshop's name; none where the database does not answer.
func (s *Site) Place(c *Visit) string {
	name, err := c.Place()
	if err != nil {
		s.Log.Warn("workshop", "err", err)
	}
	return name
}

// Visit is one request to a page: what came, in which units and with which marks it is answered, who asks, and what
// the workshop keeps.
type Visit struct {
	*gin.Context
	Units measure.System // as the browser has chosen
	Marks Marks          // of its language
	Who   *store.Account // who is signed in; nil where nobody signs in

	kept    *store.Store
	cabinet *fetched
}

// fetched is the cabinet of a request, being read.
type fetched struct {
	done chan struct{}
	cab  store.Cabinet
	err  error
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

// FetchCabinet begins to read what the workshop keeps, once a request.
func (c *Visit) FetchCabinet() {
	if c.cabinet != nil {
		return
	}
	f := &fetched{done: make(chan struct{})}
	c.cabinet = f
	ctx, kept := c.Request.Context(), c.kept
	go func() {
		defer close(f.done)
		f.cab, f.err = kept.Cabinet(ctx)
	}()
}

// Cabinet returns what the workshop keeps.
func (c *Visit) Cabinet() (store.Cabinet, error) {
	c.FetchCabinet()
	<-c.cabinet.done
	return c.cabinet.cab, c.cabinet.err
}

// KeepsWay has the cabinet of this request hold a way that was kept just now.
func (c *Visit) KeepsWay(w request.Way) {
	if cab, err := c.Cabinet(); err == nil {
		c.cabinet.cab.Ways = append(slices.Clone(cab.Ways), w)
	}
}

// Place is the workshop's name, "" where the database does not answer.
func (c *Visit) Place() (name string, err error) {
	if c.cabinet != nil {
		<-c.cabinet.done
		return c.cabinet.cab.Workshop, nil
	}
	return c.kept.Workshop(c.Request.Context())
}
