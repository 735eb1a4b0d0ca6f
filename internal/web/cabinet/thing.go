package cabinet

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// shelfView is one shelf of the cabinet.
type shelfView struct {
	Care *careView // of the house
	shelf
	Shelves []shelf
	Own     []thingRow
	Shipped []thingRow
	Powder  *powderView
	In      measure.System
	House   bool // the page of the house is open
	Entries []entry
	Kept    bool // it was just kept
	// KneadWay and RollWay are the keys of the ways new batches go.
	KneadWay, RollWay string
	Begins            begins          // what else new batches start from
	Version           int             // of the house
	Changed           []request.Clash // of the house, by another window
	Damaged           bool            // what was kept of the house cannot be read, and the usual stands here
	Over              bool            // and it is asked whether this is to be kept over it
	Unread            []uint64        // things on the shelf that cannot be read
}

// thingRow is one thing as its shelf lists it.
type thingRow struct {
	ID      uint64
	Like    string // key of a shipped thing
	Name    string
	Cells   []thingCell
	Swatch  string
	Retired bool
}

// thingCell is what a thing says in one column.
type thingCell struct {
	column
	Text string
}

func (s shelf) row(c desk, v any) thingRow {
	cells := s.cells(c, v)
	r := thingRow{Name: cells[0]}
	for i, text := range cells[1:] {
		if col := s.Heads[i]; col.Name == "colour" {
			r.Swatch = text
		} else {
			r.Cells = append(r.Cells, thingCell{col, text})
		}
	}
	return r
}

// Across returns how many columns the shelf’s table has.
func (v shelfView) Across() int { return len(v.Heads) + 2 }

// thingView is the form of one thing.
type thingView struct {
	shelf
	ID        uint64
	Version   int
	Like      string
	Entries   []entry
	Meanwhile []entry // as another window kept them since this one was opened
	Reading   *reading
	There     string // what is there already by that name; kept again, there are two
}

// OpenCabinet goes to the first shelf.
func (s *Room) OpenCabinet(c *page.Visit) error {
	c.Redirect(http.StatusSeeOther, "/cabinet/"+shelves[0].Path)
	return nil
}

// atShelf returns the shelf an address names, or shows that there is none.
func (s *Room) atShelf(c *page.Visit) (shelf, error) {
	sh, ok := shelfAt(c.Param("shelf"))
	if !ok {
		return sh, page.Refuse(http.StatusNotFound, "There is no such shelf.",
			"Flours, lots, eggs, additions, powders and "+
				"machines are in the cabinet.")
	}
	return sh, nil
}

// OpenShelf shows a shelf.
func (s *Room) OpenShelf(c *page.Visit) error {
	sh, err := s.atShelf(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	things, err := s.Store.Things(ctx, true)
	if err != nil {
		return err
	}
	cab, err := s.desk(c)
	if err != nil {
		return err
	}
	v := shelfView{shelf: sh, Shelves: shelves, In: cab.In}
	for _, t := range things {
		if t.Kind == sh.Kind {
			r := sh.row(cab, t.Value)
			r.ID, r.Retired = t.ID, t.Retired
			v.Own = append(v.Own, r)
		}
	}
	if v.Unread, err = s.Store.DamagedThings(ctx, sh.Kind); err != nil {
		return err
	}
	for _, x := range sh.shipped {
		r := sh.row(cab, x)
		_, r.Like, _ = store.Describe(x)
		v.Shipped = append(v.Shipped, r)
	}
	if sh.Kind == store.YieldKind {
		v.Powder = readPowder(cab.In, cab.Yields, c.Request.URL.Query())
	}
	s.Render(c, http.StatusOK, "cabinet", sh.Name, v)
	return nil
}

// deskAtShelf is the shelf of the address with what its page needs.
func (s *Room) deskAtShelf(c *page.Visit) (sh shelf, cab desk, err error) {
	if sh, err = s.atShelf(c); err == nil {
		cab, err = s.desk(c)
	}
	return sh, cab, err
}

// NewThing asks for a new thing of a shelf.
func (s *Room) NewThing(c *page.Visit) error {
	sh, cab, err := s.deskAtShelf(c)
	if err != nil {
		return err
	}
	entries, _, like := sh.form(cab, nil, c.Query("like"))
	s.showThing(c, http.StatusOK, thingView{shelf: sh, Like: like, Entries: filled(entries)})
	return nil
}

func filled(entries []entry) []entry {
	for i := range entries {
		entries[i].fill()
	}
	return entries
}

func (s *Room) showThing(c *page.Visit, status int, v thingView) {
	s.Render(c, status, "thing", v.One, v)
}

// thing returns the thing an address names, or shows why there is none.
func (s *Room) thing(c *page.Visit, sh shelf, id string) (store.Thing, error) {
	n, err := strconv.ParseUint(id, 10, 63)
	if err != nil {
		n = 0 // no thing has it
	}
	ctx := c.Request.Context()
	t, err := s.Store.Thing(ctx, sh.Kind, n)
	if errors.Is(err, store.ErrNotFound) {
		err = page.Refuse(http.StatusNotFound, "There is no such thing on this shelf.",
			"It may be in another database.")
	}
	return t, err
}

// EditThing shows a thing to be changed.
func (s *Room) EditThing(c *page.Visit) error {
	sh, cab, err := s.deskAtShelf(c)
	if err != nil {
		return err
	}
	t, err := s.thing(c, sh, c.Param("id"))
	if err != nil {
		return err
	}
	entries, _, _ := sh.form(cab, t.Value, "")
	v := thingView{shelf: sh, ID: t.ID, Version: t.Version, Entries: filled(entries)}
	if sh.read != nil {
		read := sh.read(cab, t.Value)
		v.Reading = &read
	}
	s.showThing(c, http.StatusOK, v)
	return nil
}

// SaveThing keeps a thing, new or not. What is not allowed is shown beside its line, and
// everything typed stays.
func (s *Room) SaveThing(c *page.Visit) error {
	sh, err := s.atShelf(c)
	if err != nil {
		return err
	}
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	cab, err := s.desk(c)
	if err != nil {
		return err
	}
	id, _ := strconv.ParseUint(values.Get("id"), 10, 63)
	var was store.Thing
	if id != 0 {
		if was, err = s.thing(c, sh, values.Get("id")); err != nil {
			return err
		}
	}
	version := s.OpenedOn(values, was.Version) // of what this window was opened on
	entries, finish, _ := sh.form(cab, was.Value, values.Get("like"))
	sound := readAll(entries, values)
	var v any
	if sound {
		var err error
		if v, err = finish(); err != nil {
			blame(entries, err)
			sound = false
		}
	}
	if !sound {
		s.showThing(c, http.StatusUnprocessableEntity, thingView{shelf: sh, ID: id, Version: version, Entries: entries})
		return nil
	}
	ctx := c.Request.Context()
	keep := func() (err error) {
		if id == 0 && values.Get("even") == "" {
			_, err = s.Store.KeepNew(ctx, sh.Kind, v)
		} else {
			_, err = s.Store.Keep(ctx, sh.Kind, id, version, v)
		}
		return err
	}
	switch err := keep(); {
	case errors.Is(err, store.ErrThingThere):
		_, _, name := store.Describe(v)
		s.showThing(c, http.StatusConflict, thingView{shelf: sh, Version: version, Entries: entries, There: name})
	case errors.Is(err, store.ErrChanged):
		now, err := s.thing(c, sh, values.Get("id"))
		if err != nil {
			return err
		}
		theirs, _, _ := sh.form(cab, now.Value, "")
		s.showThing(c, http.StatusConflict, thingView{shelf: sh, ID: id, Version: now.Version, Entries: entries,
			Meanwhile: differing(filled(theirs), entries)})
	case err != nil:
		return err
	default:
		s.LotsChanged()
		c.Redirect(http.StatusSeeOther, "/cabinet/"+sh.Path)
	}
	return nil
}

// differing returns the entries that hold something else than those typed.
func differing(theirs, typed []entry) (out []entry) {
	for i, e := range theirs {
		if e.Value != typed[i].Value {
			out = append(out, e)
		}
	}
	return out
}

// RetireThing has a thing be offered no more.
func (s *Room) RetireThing(c *page.Visit) error { return s.shelve(c, true) }

// RestoreThing has a retired thing be offered again.
func (s *Room) RestoreThing(c *page.Visit) error { return s.shelve(c, false) }

// shelve takes a thing off the list or puts it back.
func (s *Room) shelve(c *page.Visit, retire bool) error {
	sh, err := s.atShelf(c)
	if err != nil {
		return err
	}
	t, err := s.thing(c, sh, c.Param("id"))
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	if err := s.Store.Retire(ctx, sh.Kind, t.ID, retire); err != nil {
		return err
	}
	s.LotsChanged()
	s.Audit(c, map[bool]string{true: "retired", false: "restored"}[retire], fmt.Sprintf("%s %d", sh.Kind, t.ID))
	c.Redirect(http.StatusSeeOther, "/cabinet/"+sh.Path)
	return nil
}

// HandsOn says whether anything of the workshop's own on the shelf can be handed to another.
func (v shelfView) HandsOn() bool {
	if v.Kind == store.LotKind || v.Kind == store.YieldKind {
		return false
	}
	return slices.ContainsFunc(v.Own, func(r thingRow) bool { return !r.Retired })
}

// NewOf is where a new thing like a shipped one is made.
func (v shelfView) NewOf(like string) string {
	return fmt.Sprintf("/cabinet/%s/new?%s", v.Path, url.Values{"like": {like}}.Encode())
}
