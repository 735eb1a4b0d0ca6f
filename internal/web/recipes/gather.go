package recipes

import (
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// mostGathered is how many of the newest batches of no recipe are looked through.
const mostGathered = 1000

// gatherView is the page that keeps what was made before there were recipes.
type gatherView struct {
	Rows []gatherRow
	Of   int // batches looked through
	More bool
	Told string
}

// gatherRow is batches that are the same thing made again.
type gatherRow struct {
	row
	Batch  uint64 // the newest of them, by which the row is known
	Called string // as typed, else as the newest is called
	Also   string // what else they are called
	N      int
	Ticked bool
	Error  string
	all    []store.Batch
}

// gathered are the batches of no recipe, those that are the same thing together, the most made first.
func (s *Room) gathered(c *page.Visit) (v gatherView, err error) {
	all, err := s.Store.BatchesOfNone(c.Request.Context(), mostGathered+1)
	if err != nil {
		return v, err
	}
	if v.More = len(all) > mostGathered; v.More {
		all = all[:mostGathered]
	}
	v.Of = len(all)
	requests := make([]request.Request, len(all))
	for i, b := range all {
		requests[i] = b.Request.Request
	}
	for _, places := range recipe.Alike(requests) {
		newest := all[places[0]]
		r := gatherRow{row: row{Summary: newest.Row.Summary, In: c.Units}, Batch: newest.ID, N: len(places),
			Called: recipe.Called(newest.Row.Name)}
		var names []string
		for _, i := range places {
			r.all = append(r.all, all[i])
			name := recipe.Called(all[i].Row.Name)
			if name != r.Called && !slices.Contains(names, name) {
				names = append(names, name)
			}
		}
		const most = 3
		if more := len(names) - most; more > 0 {
			names = append(names[:most], fmt.Sprintf("%d more", more))
		}
		r.Also = measure.List(names)
		v.Rows = append(v.Rows, r)
	}
	slices.SortStableFunc(v.Rows, func(a, b gatherRow) int { return b.N - a.N })
	return v, nil
}

// AskGather shows what was made before there were recipes, to be ticked: nothing is guessed.
func (s *Room) AskGather(c *page.Visit) error {
	v, err := s.gathered(c)
	if err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "recipegather", "Keep what you make", v)
	return nil
}

// Gather keeps the ticked ones as recipes and ties their batches to them: all of it or nothing.
func (s *Room) Gather(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	v, err := s.gathered(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	plans := map[int]*plan.Plan{}
	bad := false
	for i := range v.Rows {
		r := &v.Rows[i]
		id := strconv.FormatUint(r.Batch, 10)
		if values.Has("name." + id) {
			r.Called = strings.Join(strings.Fields(values.Get("name."+id)), " ")
		}
		if r.Ticked = slices.Contains(values["keep"], id); !r.Ticked {
			continue
		}
		of := recipe.Of(r.all[0].Request.Request)
		of.Name = r.Called
		p, err := plan.Make(s.RulesOf(ctx, &of), of)
		if err != nil {
			r.Error, bad = measure.Capital(err.Error())+".", true
			continue
		}
		plans[i] = p
	}
	switch {
	case bad:
		v.Told = "Nothing was kept yet: see the fields in red."
	case len(plans) == 0 && len(values["keep"]) > 0:
		v.Told = "What you ticked has been kept or changed meanwhile; this is how it stands."
	case len(plans) == 0:
		v.Told = "Tick at least one of them."
	}
	if v.Told != "" {
		s.Render(c, http.StatusUnprocessableEntity, "recipegather", "Keep what you make", v)
		return nil
	}
	err = s.Store.Atomically(ctx, func(in *store.Store) error {
		for i, r := range v.Rows {
			if plans[i] == nil {
				continue
			}
			kept, err := in.KeepRecipe(ctx, "", plans[i], recipe.Besides{})
			if err != nil {
				return err
			}
			for _, b := range r.all {
				if err := in.TieBatch(ctx, &b, kept.ID, kept.Version); err != nil {
					return err
				}
			}
		}
		return nil
	})
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/recipes")
	return nil
}
