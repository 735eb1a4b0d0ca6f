package page

import (
	"fmt"
	"net/http"
	"regexp"
	"strings"
)

// Send hands a file over to be kept.
func Send(c *Visit, kind, name string, doc []byte) {
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="%s"`, name))
	c.Data(http.StatusOK, kind, doc)
}

var notWord = regexp.MustCompile(`[^a-z0-9]+`)

// Slug returns a name fit for a file.
func Slug(name string) string {
	out := strings.Trim(notWord.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if out == "" {
		return "batch"
	}
	return out[:min(len(out), 60)]
}
