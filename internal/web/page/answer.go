package page

import (
	"errors"
	"net/http"

	"github.com/gin-gonic/gin"

	"hollen/internal/account"
	"hollen/internal/store"
)

// Page answers an address. An error is answered in its stead: a refusal as it says, any other as what the store says of
// it.
type Page func(c *Visit) error

// refusal is why something cannot be, and where one can go on.
type refusal struct {
	status     int
	head, text string
	ways       []WayOn
}

func (r *refusal) Error() string { return r.head }

// Refuse is the error of a page that says why something cannot be.
func Refuse(status int, head, text string, ways ...WayOn) error {
	return &refusal{status, head, text, ways}
}

// ErrAnswered says that a page has been written already, and that what asked for it is to stop.
var ErrAnswered = errors.New("answered already")

// Answered is ErrAnswered where a page was written, the error where it was not.
func Answered(err error) error {
	if err == nil {
		return ErrAnswered
	}
	return err
}

// Answers serves a page.
func (s *Site) Answers(p Page) gin.HandlerFunc {
	return func(c *gin.Context) {
		v := s.Visit(c)
		if err := p(v); err != nil && !errors.Is(err, ErrAnswered) {
			s.Answer(v, err)
		}
	}
}

// Answer shows an error.
func (s *Site) Answer(c *Visit, err error) {
	if r, is := errors.AsType[*refusal](err); is {
		s.failTo(c, r.status, r.head, r.text, r.ways...)
		return
	}
	s.FailStore(c, err)
}

// FailStore shows an error of the store.
func (s *Site) FailStore(c *Visit, err error) {
	switch {
	case errors.Is(err, store.ErrNotFound):
		s.Fail(c, http.StatusNotFound, "There is no such batch.", "It may be in another database.")
	case errors.Is(err, store.ErrDeleted):
		s.Fail(c, http.StatusGone, "This batch has been deleted.", "The list of batches has it under deleted "+
			"batches, from where it can be brought back.")
	case errors.Is(err, store.ErrChanged):
		s.Fail(c, http.StatusConflict, "Another window changed this meanwhile.",
			"Go back: what you typed is still there. Reload to see what changed, or keep yours.")
	case errors.Is(err, store.ErrUnreadable):
		s.Log.Error("store", "err", err)
		s.Fail(c, http.StatusInternalServerError, "What is kept of this cannot be read.",
			"It was left as it is. A file exported earlier brings it back; the log says what is wrong with it.")
	case errors.Is(err, account.ErrBusy):
		c.Header("Retry-After", "5")
		s.Fail(c, http.StatusTooManyRequests, "One moment.", "Too many passwords are being looked at just now. Go "+
			"back: try again in a moment.")
	case errors.Is(err, store.ErrTooMany):
		s.Fail(c, http.StatusConflict, "There is no room for more.",
			"As many are kept as can be shown. Take one away that is not needed, then go back: what you typed "+
				"is still there.")
	case store.IsFull(err):
		s.Log.Error("store", "err", err)
		s.Fail(c, http.StatusInsufficientStorage, DiskFull, "Nothing was changed. Go back: what you typed is still "+
			"there; make room on the disk of "+
			"the database, then try again.")
	default:
		s.Log.Error("store", "err", err)
		if c.Request.Method == http.MethodGet {
			c.Header("Refresh", "3")
			s.Fail(c, http.StatusServiceUnavailable, "One moment.", "The database does not answer. This page tries "+
				"again by itself.")
			return
		}
		s.Fail(c, http.StatusServiceUnavailable, "The database does not answer.",
			"Go back: what you typed is still there. Try again in a moment.")
	}
}

// DiskFull is what is said where the database's disk has no room.
const DiskFull = "The disk is full."

// FailPlan shows that a saved batch cannot be worked out.
func (s *Site) FailPlan(c *Visit, id uint64, err error) error {
	s.Log.Error("plan", "batch", id, "err", err)
	return Refuse(http.StatusInternalServerError, "This batch cannot be worked out.", err.Error())
}

// May reports whether the account that is signed in has a role; without sign-in everybody has it. If not, it shows why.
func (s *Site) May(c *Visit, need account.Role) error {
	a := c.Who
	if a == nil || account.Role(a.Role).May(need) {
		return nil
	}
	return Refuse(http.StatusForbidden, "That is not for this account.", "It is for whoever "+map[account.Role]string{
		account.Makes: "makes batches",
		account.Keeps: "keeps the workshop"}[need]+"; "+a.Maker+" "+a.Role+". Go back: what you typed is still there.")
}
