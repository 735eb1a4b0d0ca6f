package page

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strconv"
)

// Posted reads the posted form; a form too large or broken gives an error page.
func (s *Site) Posted(c *Visit) (url.Values, error) {
	if err := c.Request.ParseForm(); err != nil {
		var big *http.MaxBytesError
		if errors.As(err, &big) {
			return nil, Refuse(http.StatusRequestEntityTooLarge, "That is too much at once.",
				fmt.Sprintf("A form may have %d kB.", MaxBody>>10))
		}
		return nil, Refuse(http.StatusBadRequest, "That form cannot be read.", "")
	}
	c.Marks.read(c.Request.PostForm)
	return c.Request.PostForm, nil
}

// OpenedOn is the version a page was opened on; none of this database's, or one there is not yet, is noVersion, which
// clashes with whatever
// stands.
func (s *Site) OpenedOn(values url.Values, newest int) int {
	n, err := strconv.Atoi(values.Get("version"))
	if db := values.Get("db"); err != nil || n < 1 || n > newest || db != "" && db != s.Store.Identity() {
		return NoVersion
	}
	return n
}

// NoVersion is the version of no page: whatever is saved on it clashes.
const NoVersion = -1
