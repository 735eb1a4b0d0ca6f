package sign

import (
	"context"
	"errors"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"github.com/alexedwards/scs/v2"
	"github.com/gin-gonic/gin"

	"hollen/internal/account"
	"hollen/internal/clock"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// How long somebody stays signed in: on a tablet that is known, and anywhere else.
const (
	knownFor   = 30 * 24 * time.Hour
	unknownFor = 12 * time.Hour
)

// newSessions returns what keeps track of who has signed in.
func newSessions(s *store.Store, secure bool) *scs.SessionManager {
	m := scs.New()
	m.Store = store.Sessions{Store: s}
	m.Lifetime = knownFor
	m.HashTokenInStore = false // the store hashes it
	name := "session"
	if secure {
		name = "__Host-session" // which no page of another name can set
	}
	m.Cookie.Name = name
	m.Cookie.Secure = secure
	m.Cookie.SameSite = http.SameSiteLaxMode
	m.Cookie.Persist = false
	return m
}

// These are the keys of what a session holds.
const (
	inAccount = "account" // its ID
	inStamp   = "stamp"   // of the account when it began
	inUntil   = "until"   // Unix time, s
	inKnown   = "known"   // the tablet is known
	inLocked  = "locked"
)

// loadSession reads the session a request's cookie names into its context.
func (s *Room) loadSession(c *page.Visit) error {
	token := ""
	if k, err := c.Request.Cookie(s.sessions.Cookie.Name); err == nil {
		token = k.Value
	}
	ctx, err := s.sessions.Load(c.Request.Context(), token)
	if err == nil {
		c.Request = c.Request.WithContext(ctx)
	}
	return err
}

// keepSession keeps what has changed of a session and has the browser remember it.
func (s *Room) keepSession(c *page.Visit) error {
	ctx := c.Request.Context()
	if s.sessions.Status(ctx) == scs.Destroyed {
		s.sessions.WriteSessionCookie(ctx, c.Writer, "", time.Time{})
		return nil
	}
	token, expires, err := s.sessions.Commit(ctx)
	if err != nil {
		return err
	}
	if !s.sessions.GetBool(ctx, inKnown) {
		expires = time.Time{} // as long as the browser is open
	}
	k := &http.Cookie{Name: s.sessions.Cookie.Name, Value: token, Path: "/", HttpOnly: true,
		Secure: s.sessions.Cookie.Secure, SameSite: http.SameSiteLaxMode}
	if !expires.IsZero() {
		k.MaxAge = int(expires.Sub(clock.Deadline(0)).Seconds())
	}
	http.SetCookie(c.Writer, k)
	return nil
}

// whose returns the account a session is, and whether it is locked; ErrNotFound where it is none's any more.
func (s *Room) whose(ctx context.Context) (a store.Account, locked bool, err error) {
	id := uint64(s.sessions.GetInt64(ctx, inAccount))
	if id == 0 || s.Now().Unix() > s.sessions.GetInt64(ctx, inUntil) {
		return a, false, store.ErrNotFound
	}
	if a, err = s.Store.Account(ctx, id); err != nil {
		return a, false, err
	}
	if a.Stamp != s.sessions.GetInt(ctx, inStamp) {
		return a, false, store.ErrNotFound
	}
	return a, s.sessions.GetBool(ctx, inLocked), nil
}

// SignedIn is the account a request is signed in to, and whether it is locked.
func (s *Room) SignedIn(c *page.Visit) (a store.Account, locked bool, err error) {
	if err := s.loadSession(c); err != nil {
		return a, false, err
	}
	return s.whose(c.Request.Context())
}

// mayGoOn says whether the session of a socket that stays open may still do what the socket does.
func (s *Room) mayGoOn(r *http.Request, need account.Role) bool {
	if !s.SignIn {
		return true
	}
	k, err := r.Cookie(s.sessions.Cookie.Name)
	if err != nil {
		return false
	}
	ctx, cancel := context.WithTimeout(context.Background(), page.DBTimeout)
	defer cancel()
	if ctx, err = s.sessions.Load(ctx, k.Value); err != nil {
		return !errors.Is(err, store.ErrNotFound) // the database says nothing: nobody is thrown out for that
	}
	a, locked, err := s.whose(ctx)
	if err != nil {
		return !errors.Is(err, store.ErrNotFound)
	}
	return !locked && account.Role(a.Role).May(need)
}

// carried is one field of a form that waits for its sender to sign in.
type carried struct{ Name, Value string }

// signView is the page that asks who one is, or for the PIN.
type signView struct {
	Locked  bool // a PIN is asked for
	Who     string
	Name    string
	Then    string // where to go on
	Post    bool   // what was posted there waits in Carried
	Carried []carried
	Known   bool
	Err     string
	Lost    string // what could not be carried
	Do      string // where this form goes
}

// mostCarried is how much of a form a page keeps for its sender, bytes.
const mostCarried = page.MaxBody * 3 / 4

// AskSign asks who one is, or for the PIN: a form that was posted waits in the page, so that nothing typed is lost.
func (s *Room) AskSign(c *page.Visit, locked bool) {
	v := signView{Locked: locked, Then: c.Request.URL.RequestURI(), Do: "/sign-in"}
	if locked {
		v.Do, v.Who = "/unlock", c.Who.Maker
	}
	if c.GetHeader(page.PartHeader) != "" || c.IsWebsocket() || strings.HasPrefix(c.ContentType(),
		"application/json") ||
		c.ContentType() == "image/jpeg" {
		c.Header("X-Hollen-Sign-In", "yes")
		c.String(http.StatusUnauthorized, "You are signed out. Sign in in another tab and go on here: what you typed "+
			"is kept.")
		return
	}
	if c.Request.Method == http.MethodGet || c.Request.Method == http.MethodHead {
		c.Redirect(http.StatusSeeOther, v.Do+"?"+url.Values{"then": {v.Then}}.Encode())
		return
	}
	v.Post = true
	size := 0
	if c.ContentType() != gin.MIMEMultipartPOSTForm && c.Request.ParseForm() == nil {
		for name, values := range c.Request.PostForm {
			for _, x := range values {
				v.Carried = append(v.Carried, carried{name, x})
				size += len(name) + len(url.QueryEscape(x))
			}
		}
	}
	if len(v.Carried) == 0 && c.Request.ContentLength > 0 || size > mostCarried { // a file, or a document
		v.Post = false
		v.Then = "/"
		v.Carried = nil
		v.Lost = "What was sent is too much to be kept here: it has to be sent again; go back afterwards, it is " +
			"still there."
	}
	slices.SortStableFunc(v.Carried, func(a, b carried) int { return strings.Compare(a.Name, b.Name) })
	s.Render(c, http.StatusUnauthorized, "sign", "Sign in", v)
}

// OpenSign shows the page that asks who one is.
func (s *Room) OpenSign(c *page.Visit) error {
	if !s.SignIn {
		c.Redirect(http.StatusSeeOther, "/")
		return nil
	}
	s.Render(c, http.StatusOK, "sign", "Sign in", signView{Then: inside(c.Query("then")), Do: "/sign-in", Known: true})
	return nil
}

// inside is an address within this server, "/" for any other.
func inside(to string) string {
	u, err := url.Parse(to)
	if err != nil || u.IsAbs() || u.Host != "" || !strings.HasPrefix(to, "/") || strings.HasPrefix(to, "//") ||
		strings.Contains(to, "\\") {
		return "/"
	}
	return to
}

// signRead is what was typed on the page that asks who one is, with what it carries.
func (s *Room) signRead(c *page.Visit, do string) (v signView, password string, err error) {
	if err := c.Request.ParseForm(); err != nil {
		return v, "", page.Refuse(http.StatusBadRequest, "That form cannot be read.",
			"Go back: what you typed is still there.")
	}
	f := c.Request.PostForm
	v = signView{Name: strings.TrimSpace(f.Get("sign.name")), Then: inside(f.Get("sign.then")),
		Post:  f.Get("sign.post") != "",
		Known: f.Get("sign.known") != "", Do: do}
	for name, values := range f {
		if strings.HasPrefix(name, "sign.") {
			continue
		}
		for _, x := range values {
			v.Carried = append(v.Carried, carried{strings.TrimPrefix(name, "typed."), x})
		}
	}
	slices.SortStableFunc(v.Carried, func(a, b carried) int { return strings.Compare(a.Name, b.Name) })
	return v, f.Get("sign.secret"), nil
}

// goOn leads on to where somebody was going; a form that waited stands there, ready to be sent.
func (s *Room) goOn(c *page.Visit, v signView) {
	if !v.Post {
		c.Redirect(http.StatusSeeOther, v.Then)
		return
	}
	s.Render(c, http.StatusOK, "goon", "Go on", v)
}

// Sign signs somebody in.
func (s *Room) Sign(c *page.Visit) error {
	if !s.SignIn {
		c.Redirect(http.StatusSeeOther, "/")
		return nil
	}
	v, password, err := s.signRead(c, "/sign-in")
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	refuse := func(status int, text string) {
		v.Err = text
		s.Render(c, status, "sign", "Sign in", v)
	}
	v.Name = account.Plain(v.Name)
	a, under, err := s.Store.Tried(ctx, v.Name)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return err
	}
	known, counted, err := s.brake(c, a, under)
	if err != nil {
		return err
	} else if counted == nil {
		s.AuditAs(c, v.Name, "too many tries", "")
		refuse(http.StatusTooManyRequests, "Too many wrong tries: wait a quarter of an hour, or have your password "+
			"changed.")
		return nil
	}
	right, err := account.Verify(ctx, a.Password, password)
	if err != nil { // it has not been looked at
		for _, who := range counted {
			err = errors.Join(err, s.Store.GiveBack(ctx, who))
		}
		c.Header("Retry-After", "5")
		refuse(http.StatusTooManyRequests, "Many sign in just now: try again in a moment.")
		return nil
	}
	if !right || a.ID == 0 {
		s.AuditAs(c, v.Name, "wrong password", "")
		refuse(http.StatusUnauthorized, "That name and password do not go together.")
		return nil
	}
	for i, who := range counted {
		if i == 0 {
			err = errors.Join(err, s.Store.Forget(ctx, who))
		} else {
			err = errors.Join(err, s.Store.GiveBack(ctx, who))
		}
	}
	if err == nil {
		err = s.know(c, a.ID, known)
	}
	if err == nil {
		err = s.begin(c, a, v.Known)
	}
	if err != nil {
		return err
	}
	s.AuditAs(c, a.Name, "signed in", "")
	s.goOn(c, v)
	return nil
}

// brake counts a try to sign in as an account, before it is made, and returns what it is counted under; none where it
// may not be made. A device
// the account has signed in on is counted by itself, wherever it is; any other by its address, for this account and
// for all, and with all others there are.
func (s *Room) brake(c *page.Visit, a store.Account, under string) (device string, counted []string, err error) {
	ctx := c.Request.Context()
	if k, err := c.Request.Cookie(s.deviceCookie()); err == nil {
		device = k.Value
	}
	known, err := s.Store.KnownDevice(ctx, a.ID, device)
	if err != nil {
		return device, nil, err
	}
	here := under + " from " + page.Addressed(c.Request)
	if known {
		here = under + " on " + device
	}
	address := "any from " + page.Addressed(c.Request)
	if !known {
		if may, _, err := s.Store.Take(ctx, store.FromAddress, address); err != nil || !may {
			return device, nil, err
		}
	}
	may, _, err := s.Store.Take(ctx, store.FromOnePlace, here)
	if err != nil || !may {
		return device, nil, err
	}
	counted = []string{here}
	if !known {
		counted = append(counted, address)
		all := under + " from anywhere"
		if may, _, err = s.Store.Take(ctx, store.FromAnywhere, all); err != nil || !may {
			return device, nil, err
		}
		counted = append(counted, all)
	}
	return device, counted, nil
}

// know has a browser show, when somebody signs in on it the next time, that the account has done so before.
func (s *Room) know(c *page.Visit, account uint64, device string) error {
	token, err := s.Store.Know(c.Request.Context(), account, device)
	if err == nil {
		http.SetCookie(c.Writer, &http.Cookie{Name: s.deviceCookie(), Value: token, Path: "/", HttpOnly: true,
			Secure:   s.sessions.Cookie.Secure,
			SameSite: http.SameSiteLaxMode, MaxAge: int((400 * 24 * time.Hour).Seconds())})
	}
	return err
}

// deviceCookie is the name of what a browser is known by.
func (s *Room) deviceCookie() string {
	return strings.TrimSuffix(s.sessions.Cookie.Name, "session") + "device"
}

// begin has a session be an account's, under a new token.
func (s *Room) begin(c *page.Visit, a store.Account, known bool) error {
	if s.sessions.Status(c.Request.Context()) == scs.Destroyed {
		return errors.New("session ended")
	}
	ctx := c.Request.Context()
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	long := unknownFor
	if known {
		long = knownFor
	}
	for k, x := range map[string]any{inAccount: int64(a.ID), inStamp: a.Stamp, inUntil: s.Now().Add(long).Unix(),
		inKnown: known, inLocked: false} {
		s.sessions.Put(ctx, k, x)
	}
	return s.keepSession(c)
}

// SignOut ends a session.
func (s *Room) SignOut(c *page.Visit) error {
	if s.SignIn {
		if err := s.sessions.Destroy(c.Request.Context()); err != nil {
			return err
		}
		_ = s.keepSession(c)
		s.Audit(c, "signed out", "")
	}
	c.Redirect(http.StatusSeeOther, "/sign-in")
	return nil
}

// Lock locks a tablet until its PIN is typed; without a PIN one signs out.
func (s *Room) Lock(c *page.Visit) error {
	if a := c.Who; a == nil || a.PIN == "" {
		c.Redirect(http.StatusSeeOther, "/account")
		return nil
	}
	s.sessions.Put(c.Request.Context(), inLocked, true)
	if err := s.keepSession(c); err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, "/unlock")
	return nil
}

// OpenUnlock asks for the PIN.
func (s *Room) OpenUnlock(c *page.Visit) error {
	a := c.Who
	if a == nil || !s.sessions.GetBool(c.Request.Context(), inLocked) {
		c.Redirect(http.StatusSeeOther, inside(c.Query("then")))
		return nil
	}
	s.Render(c, http.StatusOK, "sign", "Locked", signView{Locked: true, Who: a.Maker, Then: inside(c.Query("then")),
		Do: "/unlock"})
	return nil
}

// Unlock opens a locked tablet by its PIN; after five wrong ones one has to sign in.
func (s *Room) Unlock(c *page.Visit) error {
	a := c.Who
	if a == nil {
		c.Redirect(http.StatusSeeOther, "/")
		return nil
	}
	v, pin, err := s.signRead(c, "/unlock")
	if err != nil {
		return err
	}
	v.Locked, v.Who = true, a.Maker
	ctx := c.Request.Context()
	under := "PIN of " + s.sessions.Token(ctx)
	may, n, err := s.Store.Take(ctx, store.PINTries, under)
	if err != nil {
		return err
	}
	right := false
	if may {
		if right, err = account.Verify(ctx, a.PIN, pin); err != nil { // it has not been looked at
			return errors.Join(err, s.Store.GiveBack(ctx, under))
		}
	}
	if right && a.PIN != "" {
		if err := s.Store.Forget(ctx, under); err != nil {
			return err
		}
		s.sessions.Put(ctx, inLocked, false)
		if err := s.keepSession(c); err != nil {
			return err
		}
		s.goOn(c, v)
		return nil
	}
	if n >= store.PINTries.Most {
		if err := s.sessions.Destroy(ctx); err != nil {
			return err
		}
		_ = s.keepSession(c)
		s.Audit(c, "wrong PIN", "five times: signed out")
		v.Locked = false
		v.Do = "/sign-in"
		v.Err = "Five wrong PINs: sign in with your password."
		v.Known = true
		s.Render(c, http.StatusUnauthorized, "sign", "Sign in", v)
		return nil
	}
	v.Err = "Another PIN."
	s.Render(c, http.StatusUnauthorized, "sign", "Locked", v)
	return nil
}
