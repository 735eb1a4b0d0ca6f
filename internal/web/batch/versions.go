package batch

import (
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// versionsView are the versions of a batch, the last first.
type versionsView struct {
	ID   uint64
	Name string
	Rows []versionRow
	More bool // there are older ones
}

// versionRow is one version: when it was saved, and what it changed of the one before.
type versionRow struct {
	Version int
	When    string
	By      string // whoever saved it, where that is known
	Changed string
	Now     bool // it is as the batch stands
	Damaged bool // it cannot be read
}

// versionShown is how many versions the page holds.
const versionsShown = 60

// ListVersions shows every version of a batch that was saved.
func (s *Room) ListVersions(c *page.Visit) error {
	b, err := s.LoadAnyhow(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	list, err := s.Store.Versions(ctx, b.ID)
	if err != nil {
		return err
	}
	v := versionsView{ID: b.ID, Name: b.Request.Name}
	if v.More = len(list) > versionsShown; v.More {
		list = list[:versionsShown]
	}
	in := c.Units
	requests, damaged := make([]request.Request, len(list)), make([]bool, len(list))
	for i, x := range list {
		old, err := s.Store.Version(ctx, b.ID, x.Version)
		if errors.Is(err, store.ErrUnreadable) {
			damaged[i] = true
			continue
		} else if err != nil {
			return err
		}
		requests[i] = old.Request.Request
	}
	for i, x := range list {
		r := versionRow{Version: x.Version, When: savedWhen(x.SavedAt, s.Now()), By: x.SavedBy,
			Now: x.Version == b.Version, Changed: "made"}
		if r.Damaged = damaged[i]; r.Damaged {
			r.Changed = "It cannot be read; it was left as it is."
		} else if i+1 < len(list) && damaged[i+1] {
			r.Changed = ""
		} else if i+1 < len(list) {
			r.Changed = changedWords(in, requests[i+1], requests[i])
		} else if v.More {
			r.Changed = ""
		}
		v.Rows = append(v.Rows, r)
	}
	s.Render(c, http.StatusOK, "versions", "Versions: "+b.Request.Name, v)
	return nil
}

// savedWhen is when a version was saved, as people say it.
func savedWhen(at, now time.Time) string {
	at = at.Local()
	return dayName(at.Format(time.DateOnly), now) + ", " + at.Format("15:04")
}

// changedWords are what one version changed of another, a few of many.
func changedWords(in measure.System, from, to request.Request) string {
	const most = 4
	changes := request.ChangesIn(in, from, to)
	var out []string
	for i, x := range changes {
		if i == most {
			out = append(out, fmt.Sprintf("and %d more", len(changes)-most))
			break
		}
		out = append(out, fmt.Sprintf("%s %s, was %s", strings.ToLower(x.Field.Label), orWord(x.ToShown, "empty"),
			orWord(x.FromShown, "empty")))
	}
	return measure.Capital(strings.Join(out, "; "))
}

// asVersion is the batch of the address as it was saved as version n.
func (s *Room) asVersion(c *page.Visit, b store.Batch, n string) (store.Batch, error) {
	version, err := strconv.Atoi(n)
	if err != nil {
		version = 0 // there is none
	}
	ctx := c.Request.Context()
	old, err := s.Store.Version(ctx, b.ID, version)
	if errors.Is(err, store.ErrNotFound) {
		err = page.Refuse(http.StatusNotFound, "There is no such version.", "The batch has its versions under More.")
	}
	return old, err
}

// OpenVersion shows a batch as it was saved once; saving makes it the newest.
func (s *Room) OpenVersion(c *page.Visit) error {
	b, err := s.LoadAnyhow(c)
	if err != nil {
		return err
	}
	old, err := s.asVersion(c, b, c.Param("version"))
	if err != nil {
		return err
	}
	v, err := s.unchanged(c, b, old.Request.Request)
	if err != nil {
		return err
	}
	v.Opened = old.Version
	return s.show(c, http.StatusOK, v)
}

// TakeBack saves a version once more, as the newest.
func (s *Room) TakeBack(c *page.Visit) error {
	b, err := s.LoadAnyhow(c)
	if err != nil {
		return err
	}
	old, err := s.asVersion(c, b, c.Param("version"))
	if err != nil {
		return err
	}
	p, err := plan.Make(s.RulesOf(c.Request.Context(), &old.Request.Request), old.Request.Request)
	if err != nil {
		return s.FailPlan(c, b.ID, err)
	}
	ctx := c.Request.Context()
	if _, err := s.Store.Save(ctx, b.ID, b.Version, p); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d/versions", b.ID))
	return nil
}
