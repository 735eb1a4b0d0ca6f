package cabinet

import (
	"errors"
	"net/http"
	"strconv"
	"strings"

	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// houseFields are what a workshop keeps for its new batches, as fields of a batch.
func houseFields() (out []request.Field) {
	for _, f := range request.Fields() {
		switch group, _, _ := strings.Cut(f.Path, "."); {
		case f.Path == "prices.filling": // belongs to one batch
		case group == "prices", group == "bench", f.Path == "knead.school", f.Path == "knead.mix":
			out = append(out, f)
		}
	}
	return out
}

// OpenHouse shows what new batches start from.
func (s *Room) OpenHouse(c *page.Visit) error {
	h, err := s.House(c)
	if err != nil {
		return err
	}
	r := request.Default()
	h.Start(&r)
	return s.showHouse(
		c,
		http.StatusOK,
		shelfView{
			Version:  h.Version,
			Damaged:  h.Damaged,
			Kept:     c.Query("kept") != "",
			KneadWay: h.KneadWay,
			RollWay:  h.RollWay,
			Begins:   beginsOf(c.Units, h.House),
		},
		&r,
		nil,
	)

}

// showHouse shows the house of r, with what was typed where it was not allowed.
func (s *Room) showHouse(c *page.Visit, status int, v shelfView, r *request.Request,
	errs map[string]request.FieldError) error {
	v.Shelves = shelves
	v.House = true
	v.In = c.Units
	for _, f := range houseFields() {
		f = f.In(v.In)
		e := entry{Field: f.Field, Value: f.Get(r)}
		if bad, ok := errs[f.Path]; ok {
			e.Value, e.Error = bad.Value, bad.ForPage()
		}
		v.Entries = append(v.Entries, e)
	}
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	knead := choiceEntry("knead_way", "New batches are kneaded", &v.KneadWay, wayOptions(cab, request.WayOfKneading,
		"By the school")...)
	roll := choiceEntry("roll_way", "New batches are rolled", &v.RollWay, wayOptions(cab, request.WayDown,
		"As worked out")...)
	for _, e := range []entry{knead, roll} {
		e.fill()
		v.Entries = append(v.Entries, e)
	}
	v.Entries = append(v.Begins.entries(c.Units, cab), v.Entries...)
	v.Care = s.care(c.Request.Context(), c.Query("backup") != "")
	s.Render(c, status, "cabinet", "House", v)
	return nil
}

// SaveHouse keeps the house. What another window changed since this one was opened is told, and
// what was typed here stays.
func (s *Room) SaveHouse(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	h, err := s.House(c)
	if err != nil {
		return err
	}
	now := request.Default()
	h.Start(&now)
	r := now
	errs := map[string]request.FieldError{}
	for _, f := range houseFields() {
		if !values.Has(f.Path) {
			continue
		}
		shown, typed := f.In(c.Units), values.Get(f.Path)
		var fe request.FieldError
		if err := shown.Set(&r, typed); errors.As(err, &fe) {
			fe.Value = typed
			errs[f.Path] = fe
		}
	}
	version := page.NoVersion
	if n, err := strconv.Atoi(values.Get("version")); err == nil && (values.Get("db") == "" ||
		values.Get("db") == s.Store.Identity()) {
		version = n
	}
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	v := shelfView{Version: version, In: c.Units, KneadWay: h.KneadWay, RollWay: h.RollWay,
		Begins: beginsOf(c.Units, h.House)}
	for key, at := range map[string]*string{"knead_way": &v.KneadWay, "roll_way": &v.RollWay} {
		// A thing that has left the cabinet is dropped.
		if values.Has(key) {
			if *at = ""; cab.Way(values.Get(key)) != nil {
				*at = values.Get(key)
			}
		}
	}
	house := request.HouseOf(r)
	house.KneadWay, house.RollWay = v.KneadWay, v.RollWay
	house.Room = h.Room
	if sound := v.Begins.read(c.Units, cab, values, &house); !sound || len(errs) > 0 {
		return s.showHouse(c, http.StatusUnprocessableEntity, v, &r, errs)
	}
	ctx := c.Request.Context()
	switch err := s.Store.SaveHouse(ctx, house, version, values.Get("over") != ""); {
	case errors.Is(err, store.ErrHouseDamaged):
		v.Damaged, v.Over = true, true
		return s.showHouse(c, http.StatusConflict, v, &r, nil)
	case errors.Is(err, store.ErrChanged):
		v.Version = h.Version
		for _, x := range request.ChangesIn(v.In, r, now) {
			v.Changed = append(v.Changed, request.Clash{Label: x.Field.Label, Theirs: x.ToShown, Mine: x.FromShown})
		}
		return s.showHouse(c, http.StatusConflict, v, &r, nil)
	case err != nil:
		return err
	default:
		c.Redirect(http.StatusSeeOther, "/cabinet/house?kept=1")
	}
	return nil
}
