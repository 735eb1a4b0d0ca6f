package web

import (
	"context"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// listView is the first page.
type listView struct {
	Rows     []listRow
	Deleted  []listRow
	Undo     *listRow // just deleted
	Restored *listRow
	Next     string // address of the next page, "" when this is the last
	In       measure.System
}

// listRow is one batch as the list shows it.
type listRow struct {
	plan.Summary
	ID uint64
	In measure.System
}

// EggWords names the eggs in the units shown.
func (r listRow) EggWords() string { return r.Summary.EggWords(r.In) }

// FlourHTML is the flour with its unit.
func (r listRow) FlourHTML() template.HTML {
	n, unit := r.In.Mass(r.FlourG)
	return unitHTML(n, unit+" flour")
}

// rows returns what the list shows of batches. What was kept of older sums is made anew, and kept;
// a batch that cannot be worked out is logged and left out.
func (s *Server) rows(ctx context.Context, in measure.System, list []store.Batch) []listRow {
	out := []listRow{}
	for _, b := range list {
		row := b.Row.Summary
		if row.Sums != plan.Sums {
			var err error
			if row, err = s.remadeRow(ctx, b); err != nil {
				s.log.Error("row", "batch", b.ID, "err", err)
				continue
			}
		}
		out = append(out, listRow{row, b.ID, in})
	}
	return out
}

// remadeRow makes what the list shows of a batch anew and keeps it.
func (s *Server) remadeRow(ctx context.Context, b store.Batch) (plan.Summary, error) {
	whole, err := s.store.Get(ctx, b.ID)
	if err != nil && !errors.Is(err, store.ErrDeleted) {
		return plan.Summary{}, err
	}
	p, err := plan.Make(s.rules, whole.Request.Request)
	if err != nil {
		return plan.Summary{}, err
	}
	if err := s.store.KeepRow(ctx, whole, p.Summary()); err != nil {
		s.log.Warn("row", "batch", b.ID, "err", err)
	}
	return p.Summary(), nil
}

// markOf reads where a page of the list begins; the top when it says nothing that can be read.
func markOf(q url.Values) store.Mark {
	at, errAt := time.Parse(time.RFC3339Nano, q.Get("before"))
	id, errID := strconv.ParseUint(q.Get("id"), 10, 63)
	if errAt != nil || errID != nil {
		return store.Mark{}
	}
	return store.Mark{At: at, ID: id}
}

// listBatches shows the batches, the one changed last first.
func (s *Server) listBatches(c *gin.Context) {
	ctx, cancel := bounded(c)
	defer cancel()
	list, next, err := s.store.List(ctx, markOf(c.Request.URL.Query()))
	if err != nil {
		s.failStore(c, err)
		return
	}
	gone, err := s.store.Deleted(ctx)
	if err != nil {
		s.failStore(c, err)
		return
	}
	in := shownIn(c)
	v := listView{Rows: s.rows(ctx, in, list), Deleted: s.rows(ctx, in, gone), In: in}
	if next != nil {
		v.Next = "/?" + url.Values{"before": {next.At.Format(time.RFC3339Nano)}, "id": {fmt.Sprint(next.ID)}}.Encode()
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
