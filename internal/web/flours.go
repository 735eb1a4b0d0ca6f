package web

import (
	"errors"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// cabinetView is the list of flours.
type cabinetView struct {
	Own     []ownRow
	Shipped []flour.Flour
}

type ownRow struct {
	ID      uint64
	Flour   flour.Flour
	Retired bool
}

// flourView is the form of one flour.
type flourView struct {
	ID                       uint64
	Name, Allergen, Sorption string
	Durum, Wholegrain        bool
	Figures                  []figureRow
	Errors                   map[string]string
	Like                     string
}

// figureRow is one figure as it is typed.
type figureRow struct{ Key, Label, Unit, Value, Allowed, Error string }

// ownFlours returns the cabinet's flours, asked for once a request; an error is logged and
// gives none.
func (s *Server) ownFlours(c *gin.Context) []flour.Flour {
	const key = "own flours"
	if known, ok := c.Get(key); ok {
		return known.([]flour.Flour)
	}
	ctx, cancel := bounded(c)
	defer cancel()
	list, err := s.store.Flours(ctx, false)
	if err != nil {
		s.log.Warn("flours", "err", err)
	}
	var out []flour.Flour
	for _, f := range list {
		out = append(out, f.Flour())
	}
	c.Set(key, out)
	return out
}

func (s *Server) listFlours(c *gin.Context) {
	ctx, cancel := bounded(c)
	defer cancel()
	list, err := s.store.Flours(ctx, true)
	if err != nil {
		s.failStore(c, err)
		return
	}
	v := cabinetView{Shipped: flour.Shipped()}
	for _, f := range list {
		v.Own = append(v.Own, ownRow{f.ID, f.Flour(), f.RetiredAt.Valid})
	}
	s.render(c, http.StatusOK, "flours", "Flours", v)
}

// viewOf is the form of f.
func viewOf(id uint64, f flour.Flour) flourView {
	if f.MilledMoistureWB == 0 {
		f.MilledMoistureWB = .135
	}
	v := flourView{ID: id, Name: f.Name, Allergen: f.Allergen, Sorption: string(f.Sorption), Durum: f.Durum, Wholegrain: f.Wholegrain, Errors: map[string]string{}}
	for _, x := range flour.Figures() {
		v.Figures = append(v.Figures, figureRow{Key: x.Key, Label: x.Label, Unit: x.Unit,
			Value: strconv.FormatFloat(math.Round(*x.At(&f)*x.Show*1e4)/1e4, 'f', -1, 64), Allowed: strings.TrimSpace(fmt.Sprintf("%g to %g %s", x.Min, x.Max, x.Unit))})
	}
	return v
}

// newFlour shows an empty form, filled in from a shipped flour that is alike.
func (s *Server) newFlour(c *gin.Context) {
	like, ok := flour.Find(c.Query("like"))
	if !ok {
		like, _ = flour.Find("soft-00")
	}
	v := viewOf(0, like)
	v.Like, v.Name = like.Name, ""
	s.render(c, http.StatusOK, "flour", "A flour of your own", v)
}

// editFlour shows a flour of the cabinet.
func (s *Server) editFlour(c *gin.Context) {
	ctx, cancel := bounded(c)
	defer cancel()
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	if err != nil {
		id = 0 // no flour has it
	}
	f, err := s.store.Flour(ctx, id)
	switch {
	case errors.Is(err, store.ErrNotFound):
		s.fail(c, http.StatusNotFound, "There is no such flour.", "")
	case err != nil:
		s.failStore(c, err)
	default:
		s.render(c, http.StatusOK, "flour", f.Figures.Name, viewOf(f.ID, f.Flour()))
	}
}

// readFlour reads a posted flour; what is not allowed stands in the view's errors, and
// everything typed stays.
func readFlour(p url.Values) (flour.Flour, flourView) {
	id, _ := strconv.ParseUint(p.Get("id"), 10, 63)
	f := flour.Flour{Name: strings.Join(strings.Fields(p.Get("name")), " "), Allergen: strings.Join(strings.Fields(p.Get("allergen")), " "),
		Sorption: flour.Sorption(p.Get("sorption")), Durum: p.Get("durum") != "", Wholegrain: p.Get("wholegrain") != ""}
	v := viewOf(id, f)
	v.Name, v.Allergen = p.Get("name"), p.Get("allergen")
	for i, x := range flour.Figures() {
		row := &v.Figures[i]
		row.Value = p.Get(x.Key)
		n, ok := plan.ParseNumber(row.Value)
		if !ok || n < x.Min || n > x.Max {
			row.Error = plan.FieldError{Value: row.Value, Allowed: row.Allowed + " is allowed"}.ForPage()
			v.Errors[x.Key] = row.Error
			continue
		}
		*x.At(&f) = n / x.Show
	}
	if n := utf8.RuneCountInString(f.Name); n < 1 || n > 60 || !utf8.ValidString(f.Name) {
		v.Errors["name"] = "1 to 60 letters."
	}
	if len(f.Allergen) > 60 || !utf8.ValidString(f.Allergen) {
		v.Errors["allergen"] = "At most 60 letters."
	}
	if len(v.Errors) == 0 {
		if err := f.Check(); err != nil {
			v.Errors["name"] = err.Error()
		}
	}
	return f, v
}

func (s *Server) saveFlour(c *gin.Context) {
	values, ok := s.posted(c)
	if !ok {
		return
	}
	f, v := readFlour(values)
	if len(v.Errors) > 0 {
		s.render(c, http.StatusUnprocessableEntity, "flour", "A flour of your own", v)
		return
	}
	ctx, cancel := bounded(c)
	defer cancel()
	_, err := s.store.SaveFlour(ctx, v.ID, f)
	switch {
	case errors.Is(err, store.ErrNotFound):
		s.fail(c, http.StatusNotFound, "There is no such flour.", "")
	case err != nil:
		s.failStore(c, err)
	default:
		c.Redirect(http.StatusSeeOther, "/flours")
	}
}

func (s *Server) retireFlour(c *gin.Context)  { s.shelve(c, true) }
func (s *Server) restoreFlour(c *gin.Context) { s.shelve(c, false) }

// shelve takes a flour off the list or puts it back.
func (s *Server) shelve(c *gin.Context, retire bool) {
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	if err != nil {
		s.fail(c, http.StatusNotFound, "There is no such flour.", "")
		return
	}
	ctx, cancel := bounded(c)
	defer cancel()
	if err := s.store.RetireFlour(ctx, id, retire); err != nil {
		s.failStore(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/flours")
}
