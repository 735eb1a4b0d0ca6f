package web

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// roomRow is one room as the page shows it: as kept, or as typed when it is not allowed.
type roomRow struct {
	ID             uint64
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

func rowOf(r store.Room, u system) roomRow {
	req := plan.Default()
	req.Room.TempC, req.Room.RH = r.TempC, r.RH
	temp, _ := plan.FieldAt("room.temp_c")
	rh, _ := plan.FieldAt("room.rh")
	row := roomRow{ID: r.ID, Name: r.Name, Temp: u.in(temp).Get(&req), RH: rh.Get(&req), TempUnit: u.in(temp).Unit}
	row.Set = url.Values{"room.temp_c": {temp.Get(&req)}, "room.rh": {row.RH}}.Encode()
	return row
}

// rooms returns the named rooms for the batch page; an error is logged and gives none.
func (s *Server) rooms(c *gin.Context) []roomRow {
	ctx, cancel := bounded(c)
	defer cancel()
	list, err := s.store.Rooms(ctx)
	if err != nil {
		s.log.Warn("rooms", "err", err)
	}
	var out []roomRow
	for _, r := range list {
		out = append(out, rowOf(r, shownIn(c)))
	}
	return out
}

func (s *Server) listRooms(c *gin.Context) {
	s.showRooms(c, http.StatusOK, roomRow{})
}

// showRooms shows the rooms; typed is a row that was not allowed.
func (s *Server) showRooms(c *gin.Context, status int, typed roomRow) {
	v := roomsView{Rows: s.rooms(c), New: rowOf(store.Room{TempC: 22, RH: .45}, shownIn(c))}
	if len(typed.Errors) > 0 && typed.ID == 0 {
		v.New = typed
	}
	for i := range v.Rows {
		if typed.ID != 0 && v.Rows[i].ID == typed.ID {
			v.Rows[i] = typed
		}
	}
	s.render(c, status, "rooms", "Rooms", v)
}

// readRoom reads a posted room; what is not allowed stands in the row's errors.
func readRoom(v url.Values, u system) (store.Room, roomRow) {
	id, _ := strconv.ParseUint(v.Get("id"), 10, 63)
	row := roomRow{ID: id, Name: strings.Join(strings.Fields(v.Get("name")), " "), Temp: v.Get("temp"), RH: v.Get("rh"), TempUnit: "°C", Errors: map[string]string{}}
	if u == customary {
		row.TempUnit = "°F"
	}
	req := plan.Default()
	for key, path := range map[string]string{"temp": "room.temp_c", "rh": "room.rh"} {
		field, _ := plan.FieldAt(path)
		field = u.in(field)
		var fe plan.FieldError
		if err := field.Set(&req, v.Get(key)); errors.As(err, &fe) {
			row.Errors[key] = fe.ForPage()
		}
	}
	if n := utf8.RuneCountInString(row.Name); n < 1 || n > maxRoomName || !utf8.ValidString(row.Name) {
		row.Errors["name"] = fmt.Sprintf("1 to %d letters.", maxRoomName)
	}
	return store.Room{ID: id, Name: row.Name, TempC: req.Room.TempC, RH: req.Room.RH}, row
}

func (s *Server) saveRoom(c *gin.Context) {
	values, ok := s.posted(c)
	if !ok {
		return
	}
	r, row := readRoom(values, shownIn(c))
	if len(row.Errors) == 0 {
		ctx, cancel := bounded(c)
		defer cancel()
		switch err := s.store.SaveRoom(ctx, r); {
		case err == nil:
			c.Redirect(http.StatusSeeOther, "/rooms")
			return
		case errors.Is(err, store.ErrNameTaken):
			row.Errors["name"] = "Another room has that name."
		case errors.Is(err, store.ErrNotFound):
			row.ID = 0 // deleted in another window: what was typed goes to the new one
			row.Errors["name"] = "It was deleted meanwhile. Keep it as a new one?"
		default:
			s.failStore(c, err)
			return
		}
	}
	s.showRooms(c, http.StatusUnprocessableEntity, row)
}

func (s *Server) deleteRoom(c *gin.Context) {
	id, err := strconv.ParseUint(c.Param("id"), 10, 63)
	if err != nil {
		s.fail(c, http.StatusNotFound, "There is no such room.", "")
		return
	}
	ctx, cancel := bounded(c)
	defer cancel()
	if err := s.store.DeleteRoom(ctx, id); err != nil {
		s.failStore(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/rooms")
}
