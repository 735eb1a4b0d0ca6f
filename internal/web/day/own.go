package day

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/day"
	"hollen/internal/core/egg"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// ownView is the page of what a day says once for all its batches that are not begun.
type ownView struct {
	Date, Head string
	Temp, RH   ownField
	Hands      ownField
	Rooms      []ownChoice
	Eggs       []ownChoice
	Lots       []ownLots
	Looked     bool // what it changes is listed
	Changes    bool // and that is something
	Rows       []ownRow
	Begun      []string
	Wrong      string
	Nothing    bool
}

// ownField is a box, ownChoice one of a list.
type ownField struct{ Path, Label, Value, Unit, Error string }
type ownChoice struct {
	Key, Name string
	Chosen    bool
}

// ownLots are the lots of one flour.
type ownLots struct {
	Flour, Name string
	Lots        []ownChoice
}

// ownRow is one batch and what is set in it.
type ownRow struct {
	Letter, Face, Edge, Name string
	Changes                  []ownChange
}

// ownChange is one change, with the box that takes it.
type ownChange struct {
	Box, Label, From, To string
	Typed, Taken         bool
}

// ownBatch is a batch of the day that is not begun.
type ownBatch struct {
	job day.Job
	b   store.Batch
}

// notBegun are the batches of a day that are not begun, and the names of those that are.
func (s *Room) notBegun(ctx context.Context, d *dayNow) (out []ownBatch, begun []string, err error) {
	var ids []uint64
	for _, j := range d.Jobs {
		ids = append(ids, j.Batch)
	}
	of, err := s.Store.ByIDs(ctx, ids)
	if err != nil {
		return nil, nil, err
	}
	for _, j := range d.Jobs {
		b, there := of[j.Batch]
		if !there {
			continue
		}
		under := d.Making[j.Batch] != 0 || d.Planned() && slices.ContainsFunc(d.Sheet.TasksOf(j.Batch),
			func(i int) bool {
				return i < len(d.Begun) && d.Begun[i]
			})
		if under {
			begun = append(begun, j.Letter+", "+b.Row.Name)
			continue
		}
		out = append(out, ownBatch{j, b})
	}
	return out, begun, nil
}

// ownForm fills in the page from what was typed, and returns what it sets.
func (s *Room) ownForm(c *page.Visit, v *ownView, typed url.Values, batches []ownBatch) ([]recipe.Setting, error) {
	rooms, err := s.Store.Rooms(c.Request.Context())
	if err != nil {
		return nil, err
	}
	cab, err := c.Cabinet()
	if err != nil {
		return nil, err
	}
	for _, r := range rooms {
		id := strconv.FormatUint(r.ID, 10)
		chosen := typed.Get("room") == id
		v.Rooms = append(v.Rooms, ownChoice{id, r.Name, chosen})
		if chosen && strings.TrimSpace(typed.Get("room.temp_c")+typed.Get("room.rh")) == "" {
			air := request.Default()
			air.Room.TempC, air.Room.RH = r.TempC, r.RH
			for _, path := range []string{"room.temp_c", "room.rh"} {
				f, _ := request.FieldAt(path)
				typed.Set(path, f.In(c.Units).Get(&air))
			}
		}
	}
	var out []recipe.Setting
	for path, at := range map[string]*ownField{"room.temp_c": &v.Temp, "room.rh": &v.RH, "bench.people": &v.Hands} {
		f, _ := request.FieldAt(path)
		f = f.In(c.Units)
		at.Path, at.Label, at.Unit, at.Value = path, f.Label, f.Unit, strings.TrimSpace(typed.Get(path))
		if at.Value == "" {
			continue
		}
		try := request.Default()
		if err := f.Set(&try, at.Value); err != nil {
			if e, is := errors.AsType[request.FieldError](err); is {
				at.Error = e.ForPage()
			} else {
				at.Error = measure.Capital(err.Error()) + "."
			}
			v.Wrong = "Something typed is not allowed; nothing was changed."
			continue
		}
		out = append(out, recipe.Setting{Row: path, Put: copied(try)})
	}
	if strings.TrimSpace(v.Temp.Value+v.RH.Value) != "" { // typed air, whatever a sensor says
		try := request.Default()
		out = append(out, recipe.Setting{Row: "room.air", Put: copied(try)})
	}
	for _, e := range slices.Concat(cab.Eggs, egg.Classes()) {
		v.Eggs = append(v.Eggs, ownChoice{e.Key, e.Name, typed.Get("eggs.class") == e.Key})
		if typed.Get("eggs.class") == e.Key {
			out = append(out, recipe.Setting{Row: "eggs.class", Put: picked(e.Key, e)})
		}
	}
	seen := map[string]bool{}
	for _, b := range batches {
		for _, fl := range b.b.Request.Flours {
			if fl.Flour == "" || seen[fl.Flour] {
				continue
			}
			seen[fl.Flour] = true
			lots := ownLots{Flour: fl.Flour, Name: fl.Kind().Name}
			for _, l := range cab.Lots {
				if l.Flour != fl.Flour {
					continue
				}
				chosen := typed.Get("lot."+fl.Flour) == l.Key
				lots.Lots = append(lots.Lots, ownChoice{l.Key, l.Name, chosen})
				if chosen {
					out = append(out, recipe.Setting{Row: "flours.*.lot", Flour: fl.Flour, Put: picked(l.Key, l)})
				}
			}
			if len(lots.Lots) > 0 {
				v.Lots = append(v.Lots, lots)
			}
		}
	}
	return out, nil
}

// copied sets a field as it stands in another request.
func copied(from request.Request) func(request.Field, *request.Request) error {
	return func(f request.Field, r *request.Request) error {
		f.Copy(r, &from)
		return nil
	}
}

// picked sets a field to a thing of the workshop’s own, or to one that ships.
func picked(key string, thing any) func(request.Field, *request.Request) error {
	return func(f request.Field, r *request.Request) error {
		if f.Pick(r, key, thing) {
			return nil
		}
		return f.Set(r, key)
	}
}

// OpenOwn asks what a day says for all its batches, and lists what that would change and what stays.
func (s *Room) OpenOwn(c *page.Visit) error {
	return s.showOwn(c, http.StatusOK, c.Request.URL.Query(), "", nil)
}

func (s *Room) showOwn(c *page.Visit, status int, typed url.Values, wrong string, taken []string) error {
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	v := ownView{Date: d.Date, Head: dateWords(d.Date)}
	batches, begun, err := s.notBegun(c.Request.Context(), d)
	if err != nil {
		return err
	}
	v.Begun = begun
	v.Nothing = len(batches) == 0
	if v.Nothing {
		s.Render(c, status, "dayown", "The day’s own, "+v.Head, v)
		return nil
	}
	settings, err := s.ownForm(c, &v, typed, batches)
	if err != nil {
		return err
	}
	if v.Looked = len(settings) > 0 && v.Wrong == ""; v.Looked {
		if v.Rows, err = s.ownRows(c, batches, settings, taken); err != nil {
			return err
		}
		v.Changes = slices.ContainsFunc(v.Rows, func(r ownRow) bool { return len(r.Changes) > 0 })
	}
	if v.Wrong == "" {
		v.Wrong = wrong
	} else {
		status = http.StatusUnprocessableEntity
	}
	s.Render(c, status, "dayown", "The day’s own, "+v.Head, v)
	return nil
}

// ownRows are what the settings would change, batch by batch. What was typed for a batch stays unless it is ticked.
func (s *Room) ownRows(c *page.Visit, batches []ownBatch, settings []recipe.Setting, taken []string) (out []ownRow,
	err error) {
	for _, b := range batches {
		took, err := s.Store.Took(c.Request.Context(), b.b)
		if err != nil {
			return nil, err
		}
		changes, err := recipe.OnDay(c.Units, b.b.Request.Request, took, settings)
		if err != nil {
			return nil, err
		}
		row := ownRow{Letter: b.job.Letter, Face: b.job.Face, Edge: b.job.Edge, Name: b.b.Row.Name}
		for _, ch := range changes {
			x := ownChange{Box: ownBox(b.b, ch.Field.Path), Label: ch.Field.Label, From: ch.FromShown, To: ch.ToShown,
				Typed: ch.Typed, Taken: !ch.Typed}
			if taken != nil {
				x.Taken = slices.Contains(taken, x.Box)
			}
			row.Changes = append(row.Changes, x)
		}
		out = append(out, row)
	}
	return out, nil
}

// ownBox names a change of a batch as it was looked at.
func ownBox(b store.Batch, path string) string { return fmt.Sprintf("%d %d %s", b.ID, b.Version, path) }

// SetOwn sets what is ticked in all batches: all of it or nothing.
func (s *Room) SetOwn(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	d, err := s.dayOf(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	batches, _, err := s.notBegun(ctx, d)
	if err != nil {
		return err
	}
	v := ownView{}
	settings, err := s.ownForm(c, &v, values, batches)
	if err != nil {
		return err
	}
	taken := values["take"]
	if v.Wrong != "" || len(taken) == 0 {
		return s.showOwn(c, http.StatusUnprocessableEntity, values, "Tick what is to change.", taken)
	}
	left := map[string]bool{}
	for _, box := range taken {
		left[box] = true
	}
	err = s.Store.Atomically(ctx, func(in *store.Store) error {
		for _, b := range batches {
			paths := map[string]bool{}
			for _, f := range request.Fields() {
				if box := ownBox(b.b, f.Path); left[box] {
					paths[f.Path] = true
				}
			}
			if len(paths) == 0 {
				continue
			}
			r, err := recipe.TakeDay(b.b.Request.Request, settings, paths)
			if err != nil {
				return err
			}
			p, err := plan.Make(s.RulesOf(ctx, &r), r)
			if err != nil {
				return &notMade{fmt.Sprintf("%s cannot be worked out so: %s. Nothing was changed.", b.b.Row.Name, err)}
			}
			if err := in.SaveFromDay(ctx, b.b.ID, b.b.Version, p, paths); err != nil {
				return err
			}
			for path := range paths {
				delete(left, ownBox(b.b, path))
			}
		}
		if len(left) > 0 { // looked at before something was saved, begun or taken off the day
			return store.ErrChanged
		}
		return nil
	})
	_, clash := errors.AsType[*store.ConflictError](err)
	switch no, is := errors.AsType[*notMade](err); {
	case clash, errors.Is(err, store.ErrChanged):
		return s.showOwn(c, http.StatusConflict, values,
			"A batch was changed or begun meanwhile; this is how it stands now.", nil)
	case is:
		return s.showOwn(c, http.StatusUnprocessableEntity, values, no.Error(), taken)
	case err != nil:
		return err
	}
	c.Redirect(http.StatusSeeOther, "/days/"+d.Date)
	return nil
}
