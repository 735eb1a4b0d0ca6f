package page

import (
	"net/http"
	"net/url"
	"slices"
	"strings"
)

// The first of a thing is met with at most three sentences at the place they concern. They go when it is done or they
// are put away, and never come again: which are done, the browser keeps.
const guidedCookie = "guided"

// Guide is what is said at the first of a thing.
type Guide struct {
	Of   string // what it is of
	Back string // the page it stands on
	Says []string
}

// guides are what is said, by what it is of.
var guides = map[string][]string{
	"batch": {"Change anything on the left and the rest follows; nothing is kept until you save.",
		"The eight tabs are the order of work, each with its one figure. More shows the reasons.",
		"To the bench takes it step by step, saved or not."},
	"making": {"The yellow key always goes on.", "Back takes back the last tap: none is ever lost.",
		"Clocks run on when you leave, and when the network does."},
	"day": {"Put batches on the day, or type the orders: they say which batches they need.",
		"Plan the day finds who does what when.", "Then a tap on a bar moves it, and the rest as little as can be."},
}

// guided are the guides this browser is done with.
func (c *Visit) guided() []string {
	kept, err := c.Cookie(guidedCookie)
	if err != nil {
		return nil
	}
	return strings.FieldsFunc(kept, func(r rune) bool { return r == '.' })
}

// GuideTo is the guide of a thing, nil where this browser is done with it.
func (c *Visit) GuideTo(of string) *Guide {
	if slices.Contains(c.guided(), of) {
		return nil
	}
	return &Guide{Of: of, Back: c.Request.URL.RequestURI(), Says: guides[of]}
}

// Guided says that the guide of a thing is done with, once it has been done.
func (c *Visit) Guided(of string) {
	done := slices.DeleteFunc(c.guided(), func(k string) bool { _, is := guides[k]; return !is || k == of })
	http.SetCookie(c.Writer, &http.Cookie{Name: guidedCookie, Value: strings.Join(append(done, of), "."), Path: "/",
		MaxAge: 10 * 365 * 24 * 3600, SameSite: http.SameSiteLaxMode})
}

// PutGuideAway answers its key, and goes back to where it stood.
func (s *Site) PutGuideAway(c *Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	if _, is := guides[values.Get("of")]; is {
		c.Guided(values.Get("of"))
	}
	back := values.Get("back")
	if u, err := url.Parse(back); err != nil || u.Host != "" || u.Scheme != "" || !strings.HasPrefix(back, "/") ||
		strings.HasPrefix(back, "//") || strings.HasPrefix(back, "/\\") {
		back = "/"
	}
	c.Redirect(http.StatusSeeOther, back)
	return nil
}
