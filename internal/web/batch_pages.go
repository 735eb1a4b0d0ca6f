package web

import (
	"cmp"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/form"
)

// load returns the batch an address names, or shows why there is none.
func (s *Server) load(c *Visit) (b store.Batch, err error) {
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	if err != nil {
		return b, refuse(http.StatusNotFound, "There is no such batch.", "Batches are numbered; this is no number.")
	}
	ctx := c.Request.Context()
	b, err = s.store.Get(ctx, id)
	if errors.Is(err, store.ErrUnreadable) {
		s.log.Error("store", "err", err)
		return b, refuse(http.StatusInternalServerError, "This batch cannot be read as it was last saved.", fmt.Sprintf(
			"It was left as it is: %s, version %d. An earlier version that can be read brings it back.",
			cmp.Or(b.Row.Name, "a batch"),
			b.Version,
		), wayOn{
			fmt.Sprintf("/batches/%d/versions", id),
			"Its versions",
		}, wayOn{fmt.Sprintf("/batches/%d/makings", id), "Its makings"})
	}
	if err != nil && !(errors.Is(err, store.ErrDeleted) && c.Request.Method == http.MethodPost) {
		return b, err
	}
	return b, nil
}

// loadAnyhow is load of a batch whose newest version may be one that cannot be read.
func (s *Server) loadAnyhow(c *Visit) (b store.Batch, err error) {
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	if err != nil {
		return s.load(c)
	}
	ctx := c.Request.Context()
	if b, err = s.store.Get(ctx, id); errors.Is(err, store.ErrUnreadable) {
		b.Request.Name = cmp.Or(b.Row.Name, "a batch")
		return b, nil
	}
	return s.load(c)
}

// diskFull is what is said where the database's disk has no room.
const diskFull = "The disk is full."

// posted reads the posted form; a form too large or broken gives an error page.
func (s *Server) posted(c *Visit) (url.Values, error) {
	if err := c.Request.ParseForm(); err != nil {
		var big *http.MaxBytesError
		if errors.As(err, &big) {
			return nil, refuse(http.StatusRequestEntityTooLarge, "That is too much at once.",
				fmt.Sprintf("A form may have %d kB.", maxBody>>10))
		}
		return nil, refuse(http.StatusBadRequest, "That form cannot be read.", "")
	}
	c.Marks.read(c.Request.PostForm)
	return c.Request.PostForm, nil
}

// asked is a posted batch page: the batch as saved, the form as it stands, worked out.
type asked struct {
	batch  store.Batch
	values url.Values
	view   *batchView
}

// with is what a form of the request is read with; the cabinet is read, once a request.
func (s *Server) with(c *Visit, typed measure.System) (form.With, error) {
	cab, err := c.Cabinet()
	return form.With{Rules: s.rules, Cabinet: cab, Typed: typed, Shown: c.Units,
		Learned: s.learnedBy(c.Request.Context())}, err
}

// ask reads a posted batch page.
func (s *Server) ask(c *Visit) (asked, error) {
	c.FetchCabinet() // while the batch is read
	b, err := s.load(c)
	if err != nil {
		return asked{}, err
	}
	values, err := s.posted(c)
	if err != nil {
		return asked{}, err
	}
	with, err := s.with(c, typedIn(c, values))
	if err != nil {
		return asked{}, err
	}
	f, err := form.Bind(form.LastGood(b.Request.Request, values, s.rules), values, with, s.now())
	if err != nil {
		return asked{}, s.failPlan(c, b.ID, err)
	}
	version := s.openedOn(values, b.Version)
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
	v.PartnerID, v.posted = b.PartnerID, values
	v.consult(values)
	return asked{b, values, v}, nil
}

// openedOn is the version a page was opened on; none of this database's, or one there is not yet, is noVersion, which
// clashes with whatever
// stands.
func (s *Server) openedOn(values url.Values, newest int) int {
	n, err := strconv.Atoi(values.Get("version"))
	if db := values.Get("db"); err != nil || n < 1 || n > newest || db != "" && db != s.store.Identity() {
		return noVersion
	}
	return n
}

const noVersion = -1

// askSound is ask for what must be free of errors: a form with errors is shown again, turned
// to the first of them, and nothing else is done.
func (s *Server) askSound(c *Visit) (asked, error) {
	a, err := s.ask(c)
	if err != nil || len(a.view.Errors) == 0 {
		return a, err
	}
	a.view.Refused = true
	a.view.atError()
	return a, answered(s.show(c, http.StatusUnprocessableEntity, a.view))
}

// openForm is a posted batch page for a page beside it, or the batch as it is saved.
func (s *Server) openForm(c *Visit) (*batchForm, error) {
	a, err := s.askSound(c)
	if err != nil {
		return nil, err
	}
	s.loadPartner(c, a.view)
	out := &batchForm{Form: a.view.Form, Batch: a.batch, Along: s.along(a.view)}
	if p := a.view.Partner; p != nil {
		out.Other = &otherDough{p.ID, p.Plan}
	}
	return out, nil
}

// failPlan shows that a saved batch cannot be worked out.
func (s *Server) failPlan(c *Visit, id uint64, err error) error {
	s.log.Error("plan", "batch", id, "err", err)
	return refuse(http.StatusInternalServerError, "This batch cannot be worked out.", err.Error())
}

// show writes a batch page.
func (s *Server) show(c *Visit, status int, v *batchView) error {
	var err error
	if v.Cabinet, err = c.Cabinet(); err != nil {
		return err
	}
	s.loadPartner(c, v)
	if c.Request.Method == http.MethodGet {
		// the page does without
		if last, err := s.store.LastWord(c.Request.Context(), v.ID, v.Request.Name); err == nil {
			v.Last = last
		}
	}
	v.Lean = c.GetHeader(partHeader) == "figures"
	if v.At == request.AtRoom {
		if v.Rooms, err = s.rooms(c); err != nil {
			return err
		}
		v.Sensed = s.sensed(v)
	}
	if v.Lean {
		s.renderPart(c, status, "batch", "figures", v)
		return nil
	}
	s.render(c, status, "batch", stations[v.At].name+": "+v.Request.Name, v)
	return nil
}

// unchanged is the page of a batch with a request of its own in it, as now or as it was once, and nothing typed yet.
func (s *Server) unchanged(c *Visit, b store.Batch, r request.Request) (*batchView, error) {
	with, err := s.with(c, c.Units)
	if err != nil {
		return nil, err
	}
	f, err := form.Saved(r, with)
	if err != nil {
		return nil, s.failPlan(c, b.ID, err)
	}
	v := newView(b.ID, b.Version, c.Query("at"), b.Request.Request, f)
	v.PartnerID = b.PartnerID
	return v, nil
}

// openBatch shows a batch as saved.
func (s *Server) openBatch(c *Visit) error {
	c.FetchCabinet()
	b, err := s.load(c)
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

// backToBatch answers a reload of a page that came from a form.
func (s *Server) backToBatch(c *Visit) error {
	c.Redirect(http.StatusSeeOther, "/batches/"+url.PathEscape(c.Param("id")))
	return nil
}

// workBatch works the form out and saves nothing.
func (s *Server) workBatch(c *Visit) error {
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

// saveBatch saves the form as the next version. Errors save nothing; neither does a version
// saved meanwhile, whose changes are told and merged under what was typed.
func (s *Server) saveBatch(c *Visit) error {
	a, err := s.askSound(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	_, err = s.store.Save(ctx, a.batch.ID, a.view.Version, a.view.Plan)
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
		at := fmt.Sprintf("/batches/%d", a.batch.ID)
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
func (s *Server) showConflict(c *Visit, a asked, clash *store.ConflictError) error {
	with, err := s.with(c, c.Units)
	if err != nil {
		return err
	}
	now := clash.Current.Request.Request
	merged, meanwhile := request.Merge(with.Shown, clash.Base, a.view.Request, now)
	f, err := form.Saved(merged, with)
	if err != nil { // the two do not go together: ours stands whole
		if f, err = form.Saved(a.view.Request, with); err != nil {
			return s.failPlan(c, a.batch.ID, err)
		}
	}
	w := newView(a.batch.ID, clash.Current.Version, string(a.view.At), now, f)
	w.Conflict, w.Newer, w.PartnerID = meanwhile, clash.Current.Version, clash.Current.PartnerID
	w.consult(a.values)
	return s.show(c, http.StatusConflict, w)
}

// create works a request out and keeps it as a new batch, of one mark one, or shows why it cannot.
func (s *Server) create(c *Visit, r request.Request, once string) (store.Batch, error) {
	p, err := plan.Make(s.rulesOf(c.Request.Context(), &r), r)
	if err != nil {
		return store.Batch{}, refuse(http.StatusUnprocessableEntity, "This batch cannot be worked out.", err.Error())
	}
	ctx := c.Request.Context()
	return s.store.CreateOnce(ctx, once, p)
}

// today is the date where Hollen runs.
func (s *Server) today() string { return s.now().Format(time.DateOnly) }

func (s *Server) deleteBatch(c *Visit) error {
	b, err := s.load(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	if err := s.store.Delete(ctx, b.ID); err != nil && !errors.Is(err, store.ErrDeleted) {
		return err
	}
	s.audit(c, "deleted", "batch "+b.Request.Name)
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/?deleted=%d", b.ID))
	return nil
}

func (s *Server) restoreBatch(c *Visit) error {
	b, err := s.load(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	if err := s.store.Restore(ctx, b.ID); err != nil {
		return err
	}
	s.audit(c, "restored", "batch "+b.Request.Name)
	if c.Query("stay") != "" {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d", b.ID))
		return nil
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/?restored=%d", b.ID))
	return nil
}
