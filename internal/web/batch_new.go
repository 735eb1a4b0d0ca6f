package web

import (
	"fmt"
	"net/http"
	"net/url"
	"time"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/form"
)

// newBatchView is the form for a new batch: the few things that cannot be guessed.
type newBatchView struct{ *batchView }

// askedOfNew are the fields a new batch asks for.
var askedOfNew = []string{"name", "amount.by", "amount.portions", "amount.dough_g", "flours.0.flour", "eggs.class", "cut.shape", "roll.machine"}

// blank is what a new batch starts from, in that house.
func blank(h store.House) request.Request {
	r := request.Default()
	r.Name = "New batch"
	h.Start(&r)
	return r
}

func (s *Server) newBatch(c *gin.Context) {
	with, okWith := s.with(c, shownIn(c))
	if !okWith {
		return
	}
	house, ok := s.house(c)
	if !ok {
		return
	}
	f, err := form.Saved(blank(house), with)
	if err != nil {
		s.fail(c, http.StatusInternalServerError, "The form cannot be shown.", err.Error())
		return
	}
	s.showNew(c, http.StatusOK, f)
}

func (s *Server) showNew(c *gin.Context, status int, f form.Form) {
	v := newView(0, 0, "", f.Request, f)
	var ok bool
	if v.Cabinet, ok = s.cabinet(c); ok {
		s.render(c, status, "new", "New batch", newBatchView{v})
	}
}

func (s *Server) createBatch(c *gin.Context) {
	values, ok := s.posted(c)
	if !ok {
		return
	}
	with, ok := s.with(c, shownIn(c))
	if !ok {
		return
	}
	house, ok := s.house(c)
	if !ok {
		return
	}
	asked := url.Values{}
	for _, k := range askedOfNew {
		if v, ok := values[k]; ok {
			asked[k] = v
		}
	}
	// Only the amount that counts has to be right.
	other := "amount.dough_g"
	if asked.Get("amount.by") == string(request.ByDough) {
		other = "amount.portions"
	}
	unasked := asked.Get(other)
	asked.Del(other)
	start := blank(house)
	start.MadeOn = today()
	f, err := form.Bind(start, asked, with, time.Now())
	if err != nil {
		s.fail(c, http.StatusInternalServerError, "The form cannot be shown.", err.Error())
		return
	}
	f.Typed[other] = unasked
	if len(f.Errors) > 0 {
		s.showNew(c, http.StatusUnprocessableEntity, f)
		return
	}
	ctx, cancel := bounded(c)
	defer cancel()
	b, err := s.store.Create(ctx, f.Plan)
	if err != nil {
		s.failStore(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d", b.ID))
}
