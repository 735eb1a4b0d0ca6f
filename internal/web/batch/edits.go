package batch

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"github.com/coder/websocket"

	"hollen/internal/web/page"
)

// EditsOf answers the changes of one open page over a socket: each message is a number and the
// form, a line each; the answer is that number, the status, and what the same form would be
// answered by POST /batches/:id/work. It saves the half of a change that asking anew takes. A page
// without it asks by POST.
func (s *Room) EditsOf(c *page.Visit) error {
	conn, err := websocket.Accept(c.Writer, c.Request, nil) // refuses pages of another origin
	if err != nil {
		s.Log.Info("edits", "err", err)
		return nil
	}
	defer conn.CloseNow()
	conn.SetReadLimit(page.MaxBody)
	opened := c.Request
	ctx := context.WithoutCancel(opened.Context()) // the request is over for the server; the socket ends with the page
	path := strings.TrimSuffix(opened.URL.Path, "edits") + "work"
	for {
		_, message, err := conn.Read(ctx)
		if err != nil {
			return nil
		}
		number, form, _ := strings.Cut(string(message), "\n")
		r, err := http.NewRequestWithContext(ctx, http.MethodPost, path, strings.NewReader(form))
		if err != nil {
			return nil
		}
		r.Host, r.RemoteAddr = opened.Host, opened.RemoteAddr
		r.Header = http.Header{"Content-Type": {"application/x-www-form-urlencoded"}, page.PartHeader: {"figures"},
			"Cookie":          opened.Header["Cookie"],
			"Accept-Language": opened.Header["Accept-Language"]}
		var w answer
		s.Edits.ServeHTTP(&w, r)
		if err := conn.Write(ctx, websocket.MessageText, fmt.Appendf(nil, "%.20s %d\n%s", number, w.status,
			w.body.String())); err != nil {
			return nil
		}
	}
}

// answer is a response kept in memory.
type answer struct {
	header http.Header
	status int
	body   strings.Builder
}

func (a *answer) Header() http.Header {
	if a.header == nil {
		a.header = http.Header{}
	}
	return a.header
}

func (a *answer) WriteHeader(status int) {
	if a.status == 0 {
		a.status = status
	}
}

func (a *answer) Write(b []byte) (int, error) {
	a.WriteHeader(http.StatusOK)
	return a.body.Write(b)
}
