package web

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// listView is the first page.
type listView struct {
	Rows     []listRow
	Deleted  []listRow
	Undo     *listRow // just deleted
	Restored *listRow
	Next     int // skip of the next page, 0 when this is the last
}

type listRow struct {
	ID      uint64
	Plan    *plan.Plan
	Flours  string
	Changed time.Time
}

func row(b store.Batch) (listRow, error) {
	p, err := plan.Make(b.Request.Request)
	if err != nil {
		return listRow{}, fmt.Errorf("batch %d: %w", b.ID, err)
	}
	return listRow{b.ID, p, flourWords(p), b.UpdatedAt}, nil
}

// flourWords names the blend.
func flourWords(p *plan.Plan) string {
	out := ""
	for i, f := range p.Formula.Flours {
		switch {
		case len(p.Formula.Flours) == 1:
			return f.Name
		case i > 0:
			out += " and "
		}
		out += fmt.Sprintf("%.0f %% %s", 100*p.Request.Flours[i].Share, strings.ToLower(f.Name))
	}
	return out
}

func (s *Server) rows(list []store.Batch) []listRow {
	out := []listRow{}
	for _, b := range list {
		r, err := row(b)
		if err != nil {
			s.log.Error("plan", "err", err)
			continue
		}
		out = append(out, r)
	}
	return out
}

// listBatches shows the batches, the one changed last first.
func (s *Server) listBatches(c *gin.Context) {
	ctx, cancel := bounded(c)
	defer cancel()
	skip, err := strconv.Atoi(c.DefaultQuery("skip", "0"))
	if err != nil || skip < 0 || skip > 1e6 {
		skip = 0
	}
	list, more, err := s.store.List(ctx, skip)
	if err != nil {
		s.failStore(c, err)
		return
	}
	gone, err := s.store.Deleted(ctx)
	if err != nil {
		s.failStore(c, err)
		return
	}
	v := listView{Rows: s.rows(list), Deleted: s.rows(gone)}
	if more {
		v.Next = skip + store.Page
	}
	named := func(rows []listRow, key string) *listRow {
		for i := range rows {
			if fmt.Sprint(rows[i].ID) == c.Query(key) {
				return &rows[i]
			}
		}
		return nil
	}
	v.Undo, v.Restored = named(v.Deleted, "deleted"), named(v.Rows, "restored")
	s.render(c, http.StatusOK, "batches", "Batches", v)
}

// newView is the form for a new batch: the few things that cannot be guessed.
type newBatchView struct{ *batchView }

// askedOfNew are the fields a new batch asks for.
var askedOfNew = []string{"name", "amount.by", "amount.portions", "amount.dough_g", "flours.0.flour", "eggs.class", "cut.shape", "roll.machine"}

func blank() plan.Request {
	r := plan.Default()
	r.Name = "New batch"
	return r
}

func (s *Server) newBatch(c *gin.Context) {
	s.showNew(c, http.StatusOK, asSaved(blank(), shownIn(c)))
}

func (s *Server) showNew(c *gin.Context, status int, f form) {
	v, err := newView(0, 0, "", blank(), f)
	if err != nil {
		s.fail(c, http.StatusInternalServerError, "The form cannot be shown.", err.Error())
		return
	}
	v.Cabinet = s.cabinet(c)
	s.render(c, status, "new", "New batch", newBatchView{v})
}

func (s *Server) createBatch(c *gin.Context) {
	values, ok := s.posted(c)
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
	if asked.Get("amount.by") == "dough" {
		other = "amount.portions"
	}
	unasked := asked.Get(other)
	asked.Del(other)
	start := blank()
	start.MadeOn = today()
	s.cabinet(c).House.Start(&start)
	f := bind(start, asked, s.cabinet(c), shownIn(c))
	f.Typed[other] = unasked
	if len(f.Errors) > 0 {
		s.showNew(c, http.StatusUnprocessableEntity, f)
		return
	}
	ctx, cancel := bounded(c)
	defer cancel()
	b, err := s.store.Create(ctx, f.Request)
	if err != nil {
		s.failStore(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d", b.ID))
}
