// Package web serves Hollen's pages. routes.go lists every address; each screen has a file
// of its own. Package form binds a form to a request and has it worked out;
// handlers fill a view model; no sums are done here.
package web

import (
	"context"
	"fmt"
	"html/template"
	"log/slog"
	"maps"
	"net"
	"net/http"
	"runtime/debug"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"

	"hollen/internal/account"
	"hollen/internal/clock"
	"hollen/internal/core/rules"
	"hollen/internal/device"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// Limits of one request.
const (
	maxBody = 256 << 10 // bytes
	// maxDocument is room for a document in a form, every sign of it escaped.
	maxDocument = 3*exchange.MaxBytes + maxBody
	maxHeaders  = 32 << 10 // bytes
	// dbTimeout is how long the database may take over one answer; what hangs longer is told as a page.
	dbTimeout = 8 * time.Second
)

// now is the moment by the store's clock, the only one there is.
func (s *Server) now() time.Time { return s.store.Now() }

// Server answers requests from a store. It keeps nothing of its own between them.
type Server struct {
	store    *store.Store
	rules    rules.Rules // of every plan made here
	log      *slog.Logger
	pages    pages
	edits    http.Handler // what answers a change that came over a socket
	bench    *follower    // the makings screens look at
	devices  device.Hub   // what scale and sensor say
	heard    roomTimes
	learner  learner
	signIn   bool   // accounts are asked for
	backups  string // folder of the nightly backups, "" where there are none
	sessions *scs.SessionManager
	// stillIn says whether the session of a socket that stays open may still do what the socket does.
	stillIn func(*http.Request, account.Role) bool
	rowsNow rowsByNow
	days    dayCache
	drawing chan struct{} // one picture at a time is read
}

// New returns the handler of the whole application, reached as access says.
func New(s *store.Store, ru rules.Rules, log *slog.Logger, access Access) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	s.Log(log)
	srv := &Server{store: s, rules: ru, log: log, pages: pages{}, bench: newFollower(s),
		signIn: access.SignIn, backups: access.Backups, sessions: newSessions(s, access.Secure),
		drawing: make(chan struct{}, 1)}
	srv.stillIn = srv.mayGoOn
	srv.add(templateFiles, func(t *template.Template) template.FuncMap {
		all := funcs(t)
		maps.Copy(all, dayFuncs)
		return all
	})
	e := gin.New()
	e.HandleMethodNotAllowed = true
	e.Use(srv.logged, srv.recovered, timed, asForm, srv.who)
	srv.routes(e)
	h := headed(e)
	h = http.NewCrossOriginProtection().Handler(h)
	h = limited(h)
	srv.edits = h
	h = gzhttp.GzipHandler(h)
	return access.guard(h)
}

// headed answers HEAD wherever GET is answered; the server sends no body for it.
func headed(h http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodHead {
			get := *r
			get.Method = http.MethodGet
			r = &get
		}
		h.ServeHTTP(w, r)
	})
}

// timed bounds how long an answer may take; sockets and the lines of devices stay open, and bound each thing they do.
func timed(c *gin.Context) {
	if !c.IsWebsocket() && !strings.HasPrefix(c.Request.URL.Path, "/devices/") {
		ctx, cancel := context.WithTimeout(c.Request.Context(), dbTimeout)
		defer cancel()
		c.Request = c.Request.WithContext(ctx)
	}
	c.Next()
}

// asForm refuses a body that is no form where one belongs.
func asForm(c *gin.Context) {
	r := c.Request
	if r.Method != http.MethodPost || r.ContentLength == 0 || strings.HasSuffix(r.URL.Path, "/events") ||
		strings.HasSuffix(r.URL.Path, "/readings") ||
		strings.HasSuffix(r.URL.Path, "/pictures") {
		c.Next()
		return
	}
	if t := c.ContentType(); t != gin.MIMEPOSTForm && t != gin.MIMEMultipartPOSTForm {
		c.String(http.StatusUnsupportedMediaType, "A form is wanted here, %s or %s; this came as %.60q.\n",
			gin.MIMEPOSTForm, gin.MIMEMultipartPOSTForm, t)
		c.Abort()
		return
	}
	c.Next()
}

// Routes are the addresses that answer GET, as they are routed.
func Routes() (out []string) {
	gin.SetMode(gin.ReleaseMode)
	e := gin.New()
	(&Server{}).routes(e)
	for _, r := range e.Routes() {
		if r.Method == http.MethodGet {
			out = append(out, r.Path)
		}
	}
	return out
}

// limited bounds what a request may send: a form, or a document to bring in.
func limited(h http.Handler) http.Handler {
	form, document := http.MaxBytesHandler(h, maxBody), http.MaxBytesHandler(h, maxDocument)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch {
		case strings.HasPrefix(r.URL.Path, importPath), strings.HasPrefix(r.URL.Path, "/bench/") &&
			strings.HasSuffix(r.URL.Path, "/pictures"):
			document.ServeHTTP(w, r)
			return
		case strings.HasPrefix(r.URL.Path, "/devices/"): // a line kept open; each reading is bounded
			h.ServeHTTP(w, r)
			return
		}
		form.ServeHTTP(w, r)
	})
}

// GCPercent is how much the heap may grow before garbage is collected: little lives from one
// change to the next, and collecting less often takes a fifth off the answer to one.
const GCPercent = 400

// MemoryLimit is from how much memory on garbage is collected more often after all, bytes: a small computer has to do.
const MemoryLimit = 384 << 20

// NewHTTP returns an http.Server with this application's timeouts round h.
func NewHTTP(h http.Handler, log *slog.Logger) *http.Server {
	base, cancel := context.WithCancel(context.Background())
	srv := &http.Server{Handler: h, BaseContext: func(net.Listener) context.Context { return base },
		ReadHeaderTimeout: 5 * time.Second,
		ReadTimeout:       15 * time.Second, WriteTimeout: 40 * time.Second,
		IdleTimeout: 2 * time.Minute, MaxHeaderBytes: maxHeaders, ErrorLog: slog.NewLogLogger(log.Handler(),
			slog.LevelWarn)}
	srv.RegisterOnShutdown(cancel) // what is kept open, as the line of a device, is let go of
	return srv
}

// loggable is the path of a request as it may be written down: without the secret of an address.
func loggable(r *http.Request) string {
	const secret = "/first/"
	if at := strings.Index(strings.ToLower(r.URL.Path), secret); at >= 0 {
		return r.URL.Path[:at+len(secret)] + "…"
	}
	return r.URL.Path
}

// logged writes one line a request, without bodies.
func (s *Server) logged(c *gin.Context) {
	begun := clock.Start()
	c.Next()
	level := slog.LevelInfo
	if c.Writer.Status() >= 500 {
		level = slog.LevelError
	}
	s.log.Log(c, level, "request", "method", c.Request.Method, "path", loggable(c.Request),
		"status", c.Writer.Status(), "bytes", c.Writer.Size(), "ms", float64(begun.Taken().Microseconds())/1000)
}

// recovered turns a panic into an error page and a log line.
func (s *Server) recovered(c *gin.Context) {
	defer func() {
		if v := recover(); v != nil {
			s.log.Error("panic", "path", loggable(c.Request), "value", fmt.Sprint(v), "stack", string(debug.Stack()))
			if !c.Writer.Written() {
				s.fail(s.visit(c), http.StatusInternalServerError, "Something went wrong here.",
					"It is written in the log. What you saved is safe.")
			}
			c.Abort()
		}
	}()
	c.Next()
}

// alive says that this process answers, whatever its database does.
func (s *Server) alive(c *gin.Context) { c.String(http.StatusOK, "ok\n") }

// ready says whether the database answers: whether something sent now would be kept.
func (s *Server) ready(c *gin.Context) {
	ctx, cancel := context.WithTimeout(c.Request.Context(), 2*time.Second)
	defer cancel()
	if err := s.store.Ping(ctx); err != nil {
		s.log.Warn("ready", "err", err)
		c.String(http.StatusServiceUnavailable, "database: does not answer\n")
		return
	}
	c.String(http.StatusOK, "ok\n")
}
