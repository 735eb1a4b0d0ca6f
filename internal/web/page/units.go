package page

import (
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/measure"
)

// unitCookie remembers the choice of units in the browser.
const unitCookie = "units"

// shownIn is the system a browser has chosen.
func shownIn(c *gin.Context) measure.System {
	if v, err := c.Cookie(unitCookie); err == nil && v == string(measure.Customary) {
		return measure.Customary
	}
	return measure.Metric
}

// TypedIn is the system a form was typed in, which a draft kept from before may say differs
// from the one shown.
func TypedIn(c *Visit, v url.Values) measure.System {
	switch u := measure.System(v.Get(unitCookie)); u {
	case measure.Metric, measure.Customary:
		return u
	}
	return c.Units
}

// ChooseUnits remembers the other system and goes back to where the choice was made.
func (s *Site) ChooseUnits(c *Visit) error {
	to := measure.Customary
	if c.Units == measure.Customary {
		to = measure.Metric
	}
	c.SetSameSite(http.SameSiteLaxMode)
	c.SetCookie(unitCookie, string(to), 365*24*3600, "/", "", false, true)
	back := "/"
	if u, err := url.Parse(c.GetHeader("Referer")); err == nil && u.Host == c.Request.Host && strings.HasPrefix(u.Path,
		"/") &&
		!strings.HasPrefix(u.Path, "//") {
		back = u.RequestURI()
	}
	c.Redirect(http.StatusSeeOther, back)
	return nil
}
