package batch

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// WayRow is a kept way a batch may take.
type WayRow struct {
	Name, Words, Set string
	On               bool
}

// ways are the kept ways of a kind that the batch may take.
func (v *batchView) ways(of request.WayOf) (out []WayRow) {
	for _, w := range v.Cabinet.Ways {
		if w.Of != of || of == request.WayDown && !w.Goes(v.Request.Roll.Kind()) {
			continue
		}
		set := url.Values{}
		for path, typed := range w.Sets() {
			set.Set(path, typed)
		}
		out = append(out, WayRow{w.Name, page.Shortened(w.Words(), 140), set.Encode(), w.TakenIn(&v.Request)})
	}
	return out
}

// KeptWays are the ways of a kind, on the page of a batch.
type KeptWays struct {
	Of   string
	Ways []WayRow
	View *batchView
}

// KeptWays are the kept ways of kneading.
func (v kneadView) KeptWays() KeptWays {
	return KeptWays{string(request.WayOfKneading), v.ways(request.WayOfKneading), v.batchView}
}

// KeptWays are the kept ways down that this machine allows.
func (v rollView) KeptWays() KeptWays {
	return KeptWays{string(request.WayDown), v.ways(request.WayDown), v.batchView}
}

// Keeping is the name typed for a way that is not kept yet.
func (v *batchView) Keeping(of string) string {
	if v.KeptWay != "" {
		return ""
	}
	return v.posted.Get("keep." + of)
}

// Unkept says whether the batch goes a way of the maker's own that the cabinet does not hold.
func (v *batchView) Unkept(of string) bool {
	own := v.Request.Knead.Own()
	if request.WayOf(of) == request.WayDown {
		own = v.Request.Roll.IsOwn() && !v.Plan.Roped()
	}
	return own && !v.IsRecipe && !slices.ContainsFunc(v.ways(request.WayOf(of)), func(w WayRow) bool { return w.On })
}

// machineKind is the kind of machine a way down is made on, in words.
func machineKind(m roll.Machine) string {
	if len(m.Stops) == 0 {
		return "pin and board"
	}
	return fmt.Sprintf("%s, %s from %s to %s", page.Shortened(m.Name, 30), measure.Plural(len(m.Stops), "stop",
		"stops"),
		m.Widest(), m.Finest())
}

// KeepWay keeps the way the batch goes as it stands under the name given; the batch is not saved by it.
func (s *Room) KeepWay(c *page.Visit) error {
	of := request.WayOf(c.Param("of"))
	if !slices.ContainsFunc(request.WayKinds(), func(o request.Option) bool { return o.Key == string(of) }) {
		return page.Refuse(http.StatusNotFound, "There is no such way.",
			"A way of kneading, or down the stops, can be kept.")
	}
	a, err := s.ask(c)
	if err != nil {
		return err
	}
	v := a.view
	v.At = request.AtKnead
	w := request.Way{Name: strings.Join(strings.Fields(a.values.Get("keep."+string(of))), " "), Of: of,
		Steps: v.Request.Knead.Steps}
	if of == request.WayDown {
		v.At = request.AtRoll
		w.Steps = nil
		w.Passes = v.Request.Roll.Steps
		w.Machine = machineKind(v.Request.Roll.Kind())
	}
	said := func(text string) error {
		v.KeepErr = text
		return s.show(c, http.StatusUnprocessableEntity, v)
	}
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	if err := w.Check(); err != nil {
		var faults []string
		for _, f := range measure.Faults(err) {
			faults = append(faults, measure.Capital(f.Text)+".")
		}
		return said(strings.Join(faults, " "))
	}
	const taken = "Another way has that name; change it in the cabinet, or give this one another."
	for _, x := range cab.Ways {
		if x.Of == of && strings.EqualFold(x.Name, w.Name) {
			return said(taken)
		}
	}
	ctx := c.Request.Context()
	id, err := s.Store.KeepNew(ctx, store.WayKind, w)
	if errors.Is(err, store.ErrThingThere) { // another window kept it this moment
		return said(taken)
	} else if err != nil {
		return err
	}
	w.Key = store.Key(id)
	v.KeptWay = w.Name
	c.KeepsWay(w) // it is there from now on
	return s.show(c, http.StatusOK, v)
}
