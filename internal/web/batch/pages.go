package batch

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/form"
	"hollen/internal/web/page"
)

// asked is a posted batch page: the batch as saved, the form as it stands, worked out.
type asked struct {
	batch  store.Batch
	values url.Values
	view   *batchView
}

// with is what a form of the request is read with; the cabinet is read, once a request.
func (s *Room) with(c *page.Visit, typed measure.System) (form.With, error) {
	cab, err := c.Cabinet()
	return form.With{Rules: s.Rules, Cabinet: cab, Typed: typed, Shown: c.Units,
		Learned: s.LearnedBy(c.Request.Context())}, err
}

// ask reads a posted batch page.
func (s *Room) ask(c *page.Visit) (asked, error) {
	b, err := s.subject(c)
	if err != nil {
		return asked{}, err
	}
	values, err := s.Posted(c)
	if err != nil {
		return asked{}, err
	}
	with, err := s.with(c, page.TypedIn(c, values))
	if err != nil {
		return asked{}, err
	}
	f, err := form.Bind(form.LastGood(b.Request.Request, values, s.Rules), values, with, s.Now())
	if err != nil {
		return asked{}, s.FailPlan(c, b.ID, err)
	}
	version := s.OpenedOn(values, b.Version)
	at := values.Get("at")
	if at == "" {
		at = values.Get("was_at")
	}
	if sign, ok := strings.CutPrefix(at, string(atDoctor)+":"); ok { // straight to a sign
		at = string(atDoctor)
		values.Set("doctor.sign", sign)
		values.Set("doctor.a", "")
	}
	v := newView(b.ID, version, at, b.Request.Request, f)
	v.ofSubject(c, b).posted = values
	v.consult(values)
	return asked{b, values, v}, nil
}

// askSound is ask for what must be free of errors: a form with errors is shown again, turned
// to the first of them, and nothing else is done.
func (s *Room) askSound(c *page.Visit) (asked, error) {
	a, err := s.ask(c)
	if err != nil || len(a.view.Errors) == 0 {
		return a, err
	}
	a.view.Refused = true
	a.view.atError()
	return a, page.Answered(s.show(c, http.StatusUnprocessableEntity, a.view))
}

// OpenForm is a posted batch page for a page beside it, or the batch as it is saved.
func (s *Room) OpenForm(c *page.Visit) (*page.BatchForm, error) {
	a, err := s.askSound(c)
	if err != nil {
		return nil, err
	}
	s.loadPartner(c, a.view)
	out := &page.BatchForm{Form: a.view.Form, Batch: a.batch, Along: s.along(a.view)}
	if p := a.view.Partner; p != nil {
		out.Other = &page.OtherDough{ID: p.ID, Plan: p.Plan}
	}
	return out, nil
}

// fewBatches is how many batches a kitchen has that is still told how they are worked with.
const fewBatches = 2

// show writes a batch page.
func (s *Room) show(c *page.Visit, status int, v *batchView) error {
	var err error
	if v.Cabinet, err = c.Cabinet(); err != nil {
		return err
	}
	s.loadPartner(c, v)
	if c.Request.Method == http.MethodGet && !v.IsRecipe {
		// the page does without
		if last, err := s.Store.LastWord(c.Request.Context(), v.ID, v.Request.Name); err == nil {
			v.Last = last
		}
		// of a kitchen that has hardly begun
		if few, err := s.Store.Newest(c.Request.Context(), fewBatches+1); err == nil && len(few) <= fewBatches {
			v.Guide = c.GuideTo("batch")
		}
	}
	if on := v.Request.MadeOn; on == "" || on >= s.Today() { // what was made is as it was
		v.Retired = form.Retired(v.Cabinet, &v.Request)
	}
	if v.of.RecipeID != nil {
		v.Recipe = s.OfRecipe(c, v.of, v.Request)
	}
	v.Lean = c.GetHeader(page.PartHeader) == "figures"
	v.layer(c, v.posted.Get("layer"))
	if v.At == request.AtRoom {
		if v.Rooms, err = s.rooms(c); err != nil {
			return err
		}
		v.Sensed = s.sensed(v)
		v.Sacks = s.sackCurves(c, v)
	}
	if v.Lean {
		s.RenderPart(c, status, "batch", "figures", v)
		return nil
	}
	s.Render(c, status, "batch", stations[v.At].name+": "+v.Request.Name, v)
	return nil
}

// unchanged is the page of a batch with a request of its own in it, as now or as it was once, and nothing typed yet.
func (s *Room) unchanged(c *page.Visit, b store.Batch, r request.Request) (*batchView, error) {
	with, err := s.with(c, c.Units)
	if err != nil {
		return nil, err
	}
	f, err := form.Saved(r, with)
	if err != nil {
		return nil, s.FailPlan(c, b.ID, err)
	}
	v := newView(b.ID, b.Version, c.Query("at"), b.Request.Request, f)
	return v.ofSubject(c, b), nil
}

// OpenBatch shows a batch, or a recipe at its stations, as saved.
func (s *Room) OpenBatch(c *page.Visit) error {
	b, err := s.subject(c)
	if err != nil {
		return err
	}
	v, err := s.unchanged(c, b, b.Request.Request)
	if err != nil {
		return err
	}
	v.Saved = c.Query("saved") != ""
	v.consult(c.Request.URL.Query())
	return s.show(c, http.StatusOK, v)
}

// BackToBatch answers a reload of a page that came from a form.
func (s *Room) BackToBatch(c *page.Visit) error {
	to := "/batches/" + url.PathEscape(c.Param("id"))
	if isRecipe(c) {
		to = "/recipes/" + url.PathEscape(c.Param("id")) + "/stations"
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

// WorkBatch works the form out and saves nothing.
func (s *Room) WorkBatch(c *page.Visit) error {
	a, err := s.ask(c)
	if err != nil {
		return err
	}
	a.view.Gone = a.batch.DeletedAt.Valid
	return s.show(c, http.StatusOK, a.view)

}

// atError turns a view to the station of its first error.
func (v *batchView) atError() {
	if waits := v.Waiting(); len(waits) > 0 {
		v.At = waits[0].Stage
	}
}

// SaveBatch saves the form as the next version. Errors save nothing; neither does a version
// saved meanwhile, whose changes are told and merged under what was typed.
func (s *Room) SaveBatch(c *page.Visit) error {
	a, err := s.askSound(c)
	if err != nil {
		return err
	}
	c.Guided("batch")
	ctx := c.Request.Context()
	if a.view.IsRecipe {
		err = s.saveRecipe(ctx, a)
	} else {
		_, err = s.Store.Save(ctx, a.batch.ID, a.view.Version, a.view.Plan)
	}
	var clash *store.ConflictError
	switch {
	case errors.As(err, &clash):
		return s.showConflict(c, a, clash)
	case errors.Is(err, store.ErrDeleted):
		a.view.Gone = true
		return s.show(c, http.StatusConflict, a.view)
	case err != nil:
		return err
	default:
		at := a.view.Base
		if mark := a.values.Get("page"); pageMark(mark) {
			http.SetCookie(c.Writer, &http.Cookie{Name: "saved", Value: mark, Path: at,
				MaxAge: int((7 * 24 * time.Hour).Seconds()), SameSite: http.SameSiteStrictMode})
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("%s?at=%s&saved=1", at, a.view.At))
	}
	return nil
}

// pageMark says whether that is the mark of a page, by which its drafts are known once it is saved.
func pageMark(mark string) bool {
	const most = 20
	return mark != "" && len(mark) <= most && strings.Trim(mark, "0123456789abcdefghijklmnopqrstuvwxyz") == ""
}

// showConflict shows the form with the other window's changes under it.
func (s *Room) showConflict(c *page.Visit, a asked, clash *store.ConflictError) error {
	with, err := s.with(c, c.Units)
	if err != nil {
		return err
	}
	now := clash.Current.Request.Request
	merged, meanwhile := request.Merge(with.Shown, clash.Base, a.view.Request, now)
	f, err := form.Saved(merged, with)
	if err != nil { // the two do not go together: ours stands whole
		if f, err = form.Saved(a.view.Request, with); err != nil {
			return s.FailPlan(c, a.batch.ID, err)
		}
	}
	w := newView(a.batch.ID, clash.Current.Version, string(a.view.At), now, f)
	w.Conflict = meanwhile
	w.Newer = clash.Current.Version
	w.ofSubject(c, clash.Current)
	w.consult(a.values)
	return s.show(c, http.StatusConflict, w)
}

// create works a request out and keeps it as a new batch, of the recipe another is of, of one mark one, or shows why it
// cannot.
func (s *Room) create(c *page.Visit, r request.Request, of store.Batch, once string) (store.Batch, error) {
	p, err := plan.Make(s.RulesOf(c.Request.Context(), &r), r)
	if err != nil {
		return store.Batch{}, page.Refuse(http.StatusUnprocessableEntity, "This batch cannot be worked out.",
			err.Error())
	}
	ctx := c.Request.Context()
	if of.RecipeID != nil && of.RecipeVersion != nil {
		return s.Store.CreateOf(ctx, once, p, *of.RecipeID, *of.RecipeVersion)
	}
	return s.Store.CreateOnce(ctx, once, p)
}

// DeleteBatch takes a batch out of the list; it can be brought back.
func (s *Room) DeleteBatch(c *page.Visit) error {
	b, err := s.Load(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	if err := s.Store.Delete(ctx, b.ID); err != nil && !errors.Is(err, store.ErrDeleted) {
		return err
	}
	s.Audit(c, "deleted", "batch "+b.Request.Name)
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches?deleted=%d", b.ID))
	return nil
}

// RestoreBatch brings a deleted batch back.
func (s *Room) RestoreBatch(c *page.Visit) error {
	b, err := s.Load(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	if err := s.Store.Restore(ctx, b.ID); err != nil {
		return err
	}
	s.Audit(c, "restored", "batch "+b.Request.Name)
	if c.Query("stay") != "" {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d", b.ID))
		return nil
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches?restored=%d", b.ID))
	return nil
}
