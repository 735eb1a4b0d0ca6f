// Package web serves Hollen's pages: routes.go lists every address, access.go says who may what, and each matter has
// a room of its own (batch, bench, day, help, log, cabinet, practice, recipes, sign, print, recipetext) that looks at
// package page, which all share, and at package form, which binds what is typed. Handlers fill a view model; no sums
// are done here.
package web

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"runtime/debug"
	"strings"
	"time"

	"github.com/gin-gonic/gin"
	"github.com/klauspost/compress/gzhttp"

	"hollen/internal/account"
	"hollen/internal/clock"
	"hollen/internal/core/rules"
	"hollen/internal/exchange"
	"hollen/internal/store"
	"hollen/internal/web/batch"
	"hollen/internal/web/bench"
	"hollen/internal/web/cabinet"
	"hollen/internal/web/day"
	"hollen/internal/web/help"
	"hollen/internal/web/log"
	"hollen/internal/web/page"
	"hollen/internal/web/practice"
	"hollen/internal/web/print"
	"hollen/internal/web/recipes"
	"hollen/internal/web/recipetext"
	"hollen/internal/web/sign"
	"hollen/internal/workshop"
)

// maxDocument is room for a document in a form, every sign of it escaped.
const maxDocument = 3*exchange.MaxBytes + page.MaxBody

const maxHeaders = 32 << 10 // bytes

// Server answers requests from a store, a room a matter. It keeps nothing of its own between them.
type Server struct {
	*page.Site
	batch      *batch.Room
	bench      *bench.Room
	cabinet    *cabinet.Room
	day        *day.Room
	help       *help.Room
	log        *log.Room
	practice   *practice.Room
	print      *print.Room
	recipes    *recipes.Room
	recipetext *recipetext.Room
	sign       *sign.Room
}

// newServer returns the rooms of a workshop; where one needs another, it is told here.
func newServer(w *workshop.Workshop, access Access) *Server {
	site := page.New(w, access.SignIn)
	s := &Server{Site: site, batch: batch.New(site), bench: bench.New(site), day: day.New(site),
		help: help.New(site), log: log.New(site), practice: practice.New(site), recipes: recipes.New(site),
		cabinet: cabinet.New(site, access.Backups), recipetext: recipetext.New(site), sign: sign.New(site,
			access.Secure)}
	s.batch.InHand, s.batch.OfRecipe, s.batch.OfRecipes = s.day.InHand, s.recipes.Line, s.recipes.Lines
	s.print = print.New(site, s.batch.OpenForm)
	return s
}

// New returns the handler of the whole application, reached as access says.
func New(st *store.Store, ru rules.Rules, logger *slog.Logger, access Access) http.Handler {
	gin.SetMode(gin.ReleaseMode)
	s := newServer(workshop.New(st, ru, logger), access)
	e := gin.New()
	e.HandleMethodNotAllowed = true
	e.Use(s.logged, s.recovered, timed, asForm, s.who)
	s.routes(e)
	h := headed(e)
	h = http.NewCrossOriginProtection().Handler(h)
	h = limited(h)
	s.batch.Edits = h
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
		ctx, cancel := context.WithTimeout(c.Request.Context(), page.DBTimeout)
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
	(&Server{Site: &page.Site{}}).routes(e)
	for _, r := range e.Routes() {
		if r.Method == http.MethodGet {
			out = append(out, r.Path)
		}
	}
	return out
}

// limited bounds what a request may send: a form, or a document to bring in.
func limited(h http.Handler) http.Handler {
	form, document := http.MaxBytesHandler(h, page.MaxBody), http.MaxBytesHandler(h, maxDocument)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		switch {
		case strings.HasPrefix(r.URL.Path, cabinet.ImportPath), strings.HasPrefix(r.URL.Path, "/bench/") &&
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

// who lets through who may: everybody on one's own machine, otherwise accounts, each as far as its role goes.
func (s *Server) who(c *gin.Context) {
	path := c.Request.URL.Path
	if !s.SignIn || open(path) && path != "/sign-in" {
		c.Next()
		return
	}
	v := s.Visit(c)
	a, locked, err := s.sign.SignedIn(v)
	need := needs(c.Request.Method, c.FullPath())
	if err == nil {
		v.Who = &a
	}
	switch {
	case path == "/sign-in":
	case err != nil && !errors.Is(err, store.ErrNotFound):
		s.FailStore(v, err)
		c.Abort()
	case err != nil || locked && path != "/unlock" && path != "/sign-out":
		s.sign.AskSign(v, err == nil)
		c.Abort()
	case !account.Role(a.Role).May(need):
		s.Answer(v, s.May(v, need))
		c.Abort()
	default:
		c.Set(page.AccountKey, &a)
		c.Request = c.Request.WithContext(store.By(c.Request.Context(), a.Maker))
	}
	c.Next()
}

// logged writes one line a request, without bodies.
func (s *Server) logged(c *gin.Context) {
	begun := clock.Start()
	c.Next()
	level := slog.LevelInfo
	if c.Writer.Status() >= 500 {
		level = slog.LevelError
	}
	s.Log.Log(c, level, "request", "method", c.Request.Method, "path", loggable(c.Request),
		"status", c.Writer.Status(), "bytes", c.Writer.Size(), "ms", float64(begun.Taken().Microseconds())/1000)
}

// recovered turns a panic into an error page and a log line.
func (s *Server) recovered(c *gin.Context) {
	defer func() {
		if v := recover(); v != nil {
			s.Log.Error("panic", "path", loggable(c.Request), "value", fmt.Sprint(v), "stack", string(debug.Stack()))
			if !c.Writer.Written() {
				s.Fail(s.Visit(c), http.StatusInternalServerError, "Something went wrong here.",
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
	if err := s.Store.Ping(ctx); err != nil {
		s.Log.Warn("ready", "err", err)
		c.String(http.StatusServiceUnavailable, "database: does not answer\n")
		return
	}
	c.String(http.StatusOK, "ok\n")
}
