package web

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	"hollen/internal/account"
	"hollen/internal/store"
)

// page answers an address. An error is answered in its stead: a refusal as it says, any other as what the store says of
// it.
type page func(c *Visit) error

// refusal is why something cannot be, and where one can go on.
type refusal struct {
	status     int
	head, text string
	ways       []wayOn
}

func (r *refusal) Error() string { return r.head }

// refuse is the error of a page that says why something cannot be.
func refuse(status int, head, text string, ways ...wayOn) error {
	return &refusal{status, head, text, ways}
}

// errAnswered says that a page has been written already, and that what asked for it is to stop.
var errAnswered = errors.New("answered already")

// answered is errAnswered where a page was written, the error where it was not.
func answered(err error) error {
	if err == nil {
		return errAnswered
	}
	return err
}

// answers serves a page.
func (s *Server) answers(p page) gin.HandlerFunc {
	return func(c *gin.Context) {
		v := s.visit(c)
		if err := p(v); err != nil && !errors.Is(err, errAnswered) {
			s.answer(v, err)
		}
	}
}

// answer shows an error.
func (s *Server) answer(c *Visit, err error) {
	if r, is := errors.AsType[*refusal](err); is {
		s.failTo(c, r.status, r.head, r.text, r.ways...)
		return
	}
	s.failStore(c, err)
}

// failStore shows an error of the store.
func (s *Server) failStore(c *Visit, err error) {
	switch {
	case errors.Is(err, store.ErrNotFound):
		s.fail(c, http.StatusNotFound, "There is no such batch.", "It may be in another database.")
	case errors.Is(err, store.ErrDeleted):
		s.fail(c, http.StatusGone, "This batch has been deleted.", "The list of batches has it under deleted "+
			"batches, from where it can be brought back.")
	case errors.Is(err, store.ErrChanged):
		s.fail(c, http.StatusConflict, "Another window changed this meanwhile.",
			"Go back: what you typed is still there. Reload to see what changed, or keep yours.")
	case errors.Is(err, store.ErrUnreadable):
		s.log.Error("store", "err", err)
		s.fail(c, http.StatusInternalServerError, "What is kept of this cannot be read.",
			"It was left as it is. A file exported earlier brings it back; the log says what is wrong with it.")
	case errors.Is(err, account.ErrBusy):
		c.Header("Retry-After", "5")
		s.fail(c, http.StatusTooManyRequests, "One moment.", "Too many passwords are being looked at just now. Go "+
			"back: try again in a moment.")
	case errors.Is(err, store.ErrTooMany):
		s.fail(c, http.StatusConflict, "There is no room for more.",
			"As many are kept as can be shown. Take one away that is not needed, then go back: what you typed "+
				"is still there.")
	case store.IsFull(err):
		s.log.Error("store", "err", err)
		s.fail(c, http.StatusInsufficientStorage, diskFull, "Nothing was changed. Go back: what you typed is still "+
			"there; make room on the disk of "+
			"the database, then try again.")
	default:
		s.log.Error("store", "err", err)
		if c.Request.Method == http.MethodGet {
			c.Header("Refresh", "3")
			s.fail(c, http.StatusServiceUnavailable, "One moment.", "The database does not answer. This page tries "+
				"again by itself.")
			return
		}
		s.fail(c, http.StatusServiceUnavailable, "The database does not answer.",
			"Go back: what you typed is still there. Try again in a moment.")
	}
}
