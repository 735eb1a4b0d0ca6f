package batch

import (
	"context"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"runtime"
	"strconv"
	"strings"
	"sync"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/store"
	"hollen/internal/web/page"
	"hollen/internal/workshop"
)

// listView is the first page.
type listView struct {
	UnderWay []workshop.UnderWay // makings at the bench
	Rows     []listRow
	Days     []listDay // the same, by day
	Query    listQuery
	Shapes   []string
	Deleted  []listRow
	AllGone  bool     // all deleted ones are asked for
	MoreGone bool     // there are more deleted ones
	Undo     *listRow // just deleted
	Restored *listRow
	Next     string // address of the next page, "" when this is the last
	In       measure.System
}

// listRow is one batch as the list shows it.
type listRow struct {
	plan.Summary
	ID      uint64
	In      measure.System
	SavedAt time.Time
	MadeOn  string
	Recipe  *page.OfRecipe // it is of; nil where it is of none
	now     bool           // made with what the log has learned by now
}

// listDay is a day of the list with its batches; of a list by name there is one, without a heading.
type listDay struct {
	Name string
	Rows []listRow
}

// listQuery is what of the list is asked for, as it stands in the address.
type listQuery struct {
	Words, Shape, Sort string
	Week               bool
}

// Filtered says that more than words is looked for, or in another order.
func (q listQuery) Filtered() bool { return q.Shape != "" || q.Week || q.Sort != "" }

// Any says whether anything is looked for.
func (q listQuery) Any() bool { return q.Words != "" || q.Shape != "" || q.Week }

// Values are the query as an address has it.
func (q listQuery) Values() url.Values {
	v := url.Values{}
	for key, text := range map[string]string{"find": q.Words, "shape": q.Shape, "sort": q.Sort} {
		if text != "" {
			v.Set(key, text)
		}
	}
	if q.Week {
		v.Set("week", "yes")
	}
	return v
}

// queryOf reads what of the list is asked for; what cannot be read asks for nothing.
func queryOf(v url.Values) listQuery {
	const most = 80 // letters
	cut := func(s string) string {
		if r := []rune(strings.ToValidUTF8(strings.TrimSpace(s), "")); len(r) > most {
			return string(r[:most])
		}
		return strings.ToValidUTF8(strings.TrimSpace(s), "")
	}
	q := listQuery{Words: cut(v.Get("find")), Shape: cut(v.Get("shape")), Week: v.Get("week") != ""}
	if sort := store.Sort(v.Get("sort")); sort == store.ByMade || sort == store.ByName {
		q.Sort = string(sort)
	}
	return q
}

// days parts a list by the day a batch was saved on, or is made on.
func days(rows []listRow, sort string, today time.Time) (out []listDay) {
	for _, r := range rows {
		name := ""
		switch store.Sort(sort) {
		case store.ByName:
		case store.ByMade:
			name = dayName(r.MadeOn, today)
		default:
			name = dayName(r.SavedAt.Local().Format(time.DateOnly), today)
		}
		if len(out) == 0 || out[len(out)-1].Name != name {
			out = append(out, listDay{Name: name})
		}
		at := &out[len(out)-1]
		at.Rows = append(at.Rows, r)
	}
	return out
}

// dayName is a day as people say it, from today on; the date with its weekday beyond.
func dayName(date string, today time.Time) string {
	day, err := time.Parse(time.DateOnly, date)
	if err != nil {
		return "No day named"
	}
	this, _ := time.Parse(time.DateOnly, today.Format(time.DateOnly))
	switch int(day.Sub(this).Hours() / 24) {
	case 0:
		return "Today"
	case -1:
		return "Yesterday"
	case 1:
		return "Tomorrow"
	}
	return day.Format("Monday 2 January 2006")
}

// EggWords names the eggs in the units shown.
func (r listRow) EggWords() string { return r.Summary.EggWords(r.In) }

// FlourHTML is the flour with its unit.
func (r listRow) FlourHTML() template.HTML {
	n, unit := r.In.Mass(r.FlourG)
	return page.UnitHTML(n, unit+" flour")
}

// rows returns what the list shows of batches. What was kept of older sums is made anew, and kept;
// a batch that cannot be worked out is logged and left out.
func (s *Room) rows(ctx context.Context, in measure.System, list []store.Batch) []listRow {
	out := []listRow{}
	for _, b := range list {
		row := b.Row.Summary
		if row.Sums != plan.Sums {
			var err error
			if row, err = s.remadeRow(ctx, b); err != nil {
				s.Log.Error("row", "batch", b.ID, "err", err)
				continue
			}
		}
		out = append(out, listRow{Summary: row, ID: b.ID, In: in, SavedAt: b.UpdatedAt, MadeOn: b.MadeOn})
	}
	s.byNow(ctx, list, out)
	return out
}

// rowsByNow are what a list shows of batches with what the log has learned of them, by batch, until the log, the batch
// or the day is another.
type rowsByNow struct {
	mu   sync.Mutex
	kept map[uint64]rowByNow
}

type rowByNow struct {
	version, stamp int
	day            string
	row            plan.Summary
}

// mostRows is how many such rows are remembered.
const mostRows = 2000

// byNow puts what the log has learned into rows, where it has learned anything; a row that cannot be made stays as it
// was kept.
func (s *Room) byNow(ctx context.Context, list []store.Batch, rows []listRow) {
	l, set := s.Learned(ctx)
	if l.Len() == 0 || set.Off {
		return
	}
	want := rowByNow{stamp: s.LogStamp(), day: s.Today()}
	versions := map[uint64]int{}
	for _, b := range list {
		versions[b.ID] = b.Version
	}
	var todo []*listRow
	s.rowsNow.mu.Lock()
	for i := range rows {
		r := &rows[i]
		if k := s.rowsNow.kept[r.ID]; k.version == versions[r.ID] && k.stamp == want.stamp && k.day == want.day {
			r.Summary = k.row
		} else {
			todo = append(todo, r)
		}
	}
	s.rowsNow.mu.Unlock()
	var wait sync.WaitGroup
	next := make(chan *listRow, len(todo))
	for _, r := range todo {
		next <- r
	}
	close(next)
	for range min(runtime.GOMAXPROCS(0), len(todo)) {
		wait.Go(func() {
			for r := range next {
				whole, err := s.Store.Get(ctx, r.ID)
				if err != nil {
					continue // deleted: as it was kept
				}
				p, err := plan.Make(s.RulesOf(ctx, &whole.Request.Request), whole.Request.Request)
				if err != nil {
					continue
				}
				r.Summary, r.now = p.Summary(), true
			}
		})
	}
	wait.Wait()
	s.rowsNow.mu.Lock()
	defer s.rowsNow.mu.Unlock()
	if s.rowsNow.kept == nil || len(s.rowsNow.kept) > mostRows {
		s.rowsNow.kept = map[uint64]rowByNow{}
	}
	for _, r := range todo {
		if !r.now { // tried again at the next list
			continue
		}
		k := want
		k.version, k.row = versions[r.ID], r.Summary
		s.rowsNow.kept[r.ID] = k
	}
}

// remadeRow makes what the list shows of a batch anew and keeps it.
func (s *Room) remadeRow(ctx context.Context, b store.Batch) (plan.Summary, error) {
	whole, err := s.Store.Get(ctx, b.ID)
	if err != nil && !errors.Is(err, store.ErrDeleted) {
		return plan.Summary{}, err
	}
	p, err := plan.Make(s.Rules, whole.Request.Request)
	if err != nil {
		return plan.Summary{}, err
	}
	if err := s.Store.KeepRow(ctx, whole, p.Summary()); err != nil {
		s.Log.Warn("row", "batch", b.ID, "err", err)
	}
	return p.Summary(), nil
}

// markOf reads where a page of the list begins; the top when it says nothing that can be read.
func markOf(q url.Values) store.Mark {
	id, err := strconv.ParseUint(q.Get("id"), 10, 63)
	if err != nil {
		return store.Mark{}
	}
	m := store.Mark{ID: id, Key: strings.ToValidUTF8(q.Get("key"), "")}
	if q.Has("before") {
		if m.At, err = time.Parse(time.RFC3339Nano, q.Get("before")); err != nil {
			return store.Mark{}
		}
	}
	return m
}

// thisWeek is since when a batch was saved this week.
const thisWeek = 7 * 24 * time.Hour

// ListBatches shows the batches, the one changed last first, or those that are looked for.
func (s *Room) ListBatches(c *page.Visit) error {
	ctx := c.Request.Context()
	asked := queryOf(c.Request.URL.Query())
	q := store.Query{Words: asked.Words, Shape: asked.Shape, Sort: store.Sort(asked.Sort),
		From: markOf(c.Request.URL.Query())}
	if asked.Week {
		q.Since = s.Now().Add(-thisWeek)
	}
	list, next, err := s.Store.List(ctx, q)
	if err != nil {
		return err
	}
	shapes, err := s.Store.Shapes(ctx)
	if err != nil {
		return err
	}
	gone, more, err := s.Store.Deleted(ctx, c.Query("gone") == "all")
	if err != nil {
		return err
	}
	in := c.Units
	v := listView{Rows: s.rows(ctx, in, list), Deleted: s.rows(ctx, in, gone), AllGone: c.Query("gone") == "all",
		MoreGone: more, In: in, Query: asked,
		Shapes: shapes}
	ids := make([]uint64, len(v.Rows))
	for i, r := range v.Rows {
		ids[i] = r.ID
	}
	of := s.OfRecipes(c, ids)
	for i := range v.Rows {
		v.Rows[i].Recipe = of[v.Rows[i].ID]
	}
	v.Days = days(v.Rows, asked.Sort, s.Now())
	if !asked.Any() && c.Query("id") == "" {
		v.UnderWay = s.UnderWay(ctx)
	}
	if next != nil {
		page := asked.Values()
		page.Set("id", fmt.Sprint(next.ID))
		if asked.Sort == "" {
			page.Set("before", next.At.Format(time.RFC3339Nano))
		} else {
			page.Set("key", next.Key)
		}
		v.Next = "/batches?" + page.Encode()
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
	s.Render(c, http.StatusOK, "batches", "Batches", v)
	return nil
}
