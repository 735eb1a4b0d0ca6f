package batch

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"unicode/utf8"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// roomRow is one room as the page shows it: as kept, or as typed when it is not allowed.
type roomRow struct {
	ID             uint64
	Version        int
	Name, Temp, RH string
	TempUnit       string
	Errors         map[string]string // name, temp or rh -> what is wrong
	Set            string            // what puts it into a batch
}

// roomsView is the page of named rooms.
type roomsView struct {
	Rows []roomRow
	New  roomRow
}

// maxRoomName is how long a room's name may be, letters.
const maxRoomName = 60

func rowOf(r store.Room, u measure.System) roomRow {
	req := request.Default()
	req.Room.TempC, req.Room.RH = r.TempC, r.RH
	temp, _ := request.FieldAt("room.temp_c")
	rh, _ := request.FieldAt("room.rh")
	row := roomRow{ID: r.ID, Version: r.Version, Name: r.Name, Temp: temp.In(u).Get(&req), RH: rh.Get(&req),
		TempUnit: temp.In(u).Unit}
	row.Set = url.Values{"room.temp_c": {temp.Get(&req)}, "room.rh": {row.RH}}.Encode()
	return row
}

// rooms returns the named rooms, or shows why they cannot be read.
func (s *Room) rooms(c *page.Visit) ([]roomRow, error) {
	ctx := c.Request.Context()
	list, err := s.Store.Rooms(ctx)
	if err != nil {
		return nil, err
	}
	var out []roomRow
	for _, r := range list {
		out = append(out, rowOf(r, c.Units))
	}
	return out, nil
}

// ListRooms shows the rooms under a name.
func (s *Room) ListRooms(c *page.Visit) error {
	return s.showRooms(c, http.StatusOK, roomRow{})
}

// showRooms shows the rooms; typed is a row that was not allowed.
func (s *Room) showRooms(c *page.Visit, status int, typed roomRow) error {
	rows, err := s.rooms(c)
	if err != nil {
		return err
	}
	v := roomsView{Rows: rows, New: rowOf(store.Room{TempC: 22, RH: .45}, c.Units)}
	if len(typed.Errors) > 0 && typed.ID == 0 {
		v.New = typed
	}
	for i := range v.Rows {
		if typed.ID != 0 && v.Rows[i].ID == typed.ID {
			v.Rows[i] = typed
		}
	}
	s.Render(c, status, "rooms", "Rooms", v)
	return nil
}

// readRoom reads a posted room; what is not allowed stands in the row's errors.
func readRoom(v url.Values, u measure.System) (store.Room, roomRow) {
	id, _ := strconv.ParseUint(v.Get("id"), 10, 63)
	version, _ := strconv.Atoi(v.Get("version"))
	row := roomRow{ID: id, Version: version, Name: strings.Join(strings.Fields(v.Get("name")), " "),
		Temp: v.Get("temp"), RH: v.Get("rh"),
		TempUnit: "°C", Errors: map[string]string{}}
	if u == measure.Customary {
		row.TempUnit = "°F"
	}
	req := request.Default()
	for key, path := range map[string]string{"temp": "room.temp_c", "rh": "room.rh"} {
		field, _ := request.FieldAt(path)
		field = field.In(u)
		var fe request.FieldError
		if err := field.Set(&req, v.Get(key)); errors.As(err, &fe) {
			row.Errors[key] = fe.ForPage()
		}
	}
	if n := utf8.RuneCountInString(row.Name); n < 1 || n > maxRoomName || !utf8.ValidString(row.Name) {
		row.Errors["name"] = fmt.Sprintf("1 to %d letters.", maxRoomName)
	}
	return store.Room{ID: id, Version: version, Name: row.Name, TempC: req.Room.TempC, RH: req.Room.RH}, row
}

// SaveRoom keeps one, new or not.
func (s *Room) SaveRoom(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	r, row := readRoom(values, c.Units)
	if db := values.Get("db"); r.ID != 0 && db != "" && db != s.Store.Identity() {
		r.Version = page.NoVersion
	}
	if len(row.Errors) == 0 {
		ctx := c.Request.Context()
		switch err := s.Store.SaveRoom(ctx, r); {
		case err == nil:
			c.Redirect(http.StatusSeeOther, "/rooms")
			return nil
		case errors.Is(err, store.ErrNameTaken):
			row.Errors["name"] = "Another room has that name."
		case errors.Is(err, store.ErrChanged):
			ctx := c.Request.Context()
			now, err := s.Store.Room(ctx, r.ID)
			if err != nil {
				return err
			}
			theirs := rowOf(now, c.Units)
			row.Version = now.Version
			row.Errors["name"] = fmt.Sprintf("Another window kept it meanwhile as %s, %s %s and %s %%. Save again to "+
				"keep yours.", theirs.Name, theirs.Temp,
				theirs.TempUnit, theirs.RH)
		case errors.Is(err, store.ErrNotFound):
			row.ID = 0 // deleted in another window: what was typed goes to the new one
			row.Errors["name"] = "It was deleted meanwhile. Keep it as a new one?"
		case errors.Is(err, store.ErrTooMany):
			row.Errors["name"] = fmt.Sprintf("%d rooms are kept; delete one first.", store.MostRooms)
		default:
			return err
		}
	}
	return s.showRooms(c, http.StatusUnprocessableEntity, row)
}

// DeleteRoom deletes one; batches keep its air.
func (s *Room) DeleteRoom(c *page.Visit) error {
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	if err != nil {
		return page.Refuse(http.StatusNotFound, "There is no such room.", "")
	}
	ctx := c.Request.Context()
	if err := s.Store.DeleteRoom(ctx, id); err != nil {
		return err
	}
	s.Audit(c, "deleted", fmt.Sprintf("room %d", id))
	c.Redirect(http.StatusSeeOther, "/rooms")
	return nil
}
