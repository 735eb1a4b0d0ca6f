// Package practice is the pages on which judgement calls are practised, on a dough nobody can see into. What is done
// goes to its own shelf of the store: never to a batch, the log, or what is learned.
package practice

import (
	"crypto/rand"
	"crypto/sha256"
	"embed"
	"encoding/json"
	"errors"
	"html/template"
	"net/http"
	"sync"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/practice"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/draw"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

//go:embed templates/*.html
var templates embed.FS

// Room answers its addresses.
type Room struct {
	*page.Site
	mu       sync.Mutex
	kitchens map[[32]byte]*practice.Kitchen
	made     []madeMoments // of the log as it was at that stamp
	madeAt   int
}

// mostKitchens is how many plans are kept worked out for practice.
const mostKitchens = 12

// New returns the room of a site.
func New(s *page.Site) *Room {
	s.Add("practice", templates, func(*template.Template) template.FuncMap {
		return template.FuncMap{"levelWords": levelWords, "keyOf": func(v *roundView, k keyView) keyOf {
			return keyOf{v.ID, v.Seq, k}
		}}
	})
	return &Room{Site: s, kitchens: map[[32]byte]*practice.Kitchen{}}
}

// keyOf is a key with the dough it is of.
type keyOf struct {
	ID  uint64
	Seq int
	K   keyView
}

// levels name the levels.
var levels = []string{"", "one thing off", "a usual day", "a hard day"}

func levelWords(n int) string { return levels[min(max(n, 0), 3)] }

// browserCookie says which browser it is, where nobody signs in.
const browserCookie = "practises"

// who is somebody who practises: the account, or this browser; "" where a browser has none yet.
func (s *Room) who(c *page.Visit) string {
	if c.Who != nil {
		return store.AccountPractises(c.Who.ID)
	}
	if v, err := c.Cookie(browserCookie); err == nil && len(v) >= 20 && len(v) <= 40 && isWord(v) {
		return "b" + v
	}
	if !s.SignIn && s.Store.DemoDoughs(c.Request.Context()) {
		return store.DemoPractises
	}
	return ""
}

func isWord(s string) bool {
	for _, r := range s {
		if !(r >= '0' && r <= '9' || r >= 'A' && r <= 'Z' || r >= 'a' && r <= 'z') {
			return false
		}
	}
	return true
}

// knownWho is who, a browser given a name where it has none.
func (s *Room) knownWho(c *page.Visit) string {
	if w := s.who(c); w != "" {
		return w
	}
	name := rand.Text()
	http.SetCookie(
		c.Writer,
		&http.Cookie{Name: browserCookie, Value: name, Path: "/", MaxAge: 10 * 365 * 24 * 3600, HttpOnly: true,
			SameSite: http.SameSiteLaxMode},
	)
	return "b" + name
}

// kitchen is the kitchen of a request by rules, worked out once; practice.ErrRefused where it is not practised on.
func (s *Room) kitchen(r request.Request, ru rules.Rules) (*practice.Kitchen, error) {
	doc, err := json.Marshal([]any{r, ru, ru.Practice})
	if err != nil {
		return nil, err
	}
	key := sha256.Sum256(doc)
	s.mu.Lock()
	k := s.kitchens[key]
	s.mu.Unlock()
	if k != nil {
		return k, nil
	}
	p, err := plan.MakeIn(measure.Metric, ru, r)
	if err != nil {
		return nil, err
	}
	b, err := practice.Of(p)
	if err != nil {
		return nil, err
	}
	k = practice.NewKitchen(b)
	s.mu.Lock()
	defer s.mu.Unlock()
	if len(s.kitchens) >= mostKitchens {
		clear(s.kitchens)
	}
	s.kitchens[key] = k
	return k, nil
}

// round is a round of who asks, with its kitchen.
func (s *Room) round(c *page.Visit) (store.PracticeRound, *practice.Kitchen, error) {
	none := page.Refuse(
		http.StatusNotFound,
		"There is no such dough.",
		"It may have been deleted, or be somebody else’s.",
		page.WayOn{To: "/practice", Name: "Practice"},
	)
	id, ok := page.MakingID(c)
	if !ok || s.who(c) == "" {
		return store.PracticeRound{}, nil, none
	}
	r, err := s.Store.PracticeRoundOf(c.Request.Context(), s.who(c), id)
	if errors.Is(err, store.ErrNotFound) {
		return r, nil, none
	}
	if err != nil {
		return r, nil, err
	}
	if err := r.Request.Bad(); err != nil {
		return r, nil, err
	}
	k, err := s.kitchen(r.Request.Request, r.Rules.Rules)
	if err != nil {
		return r, nil, page.Refuse(
			http.StatusUnprocessableEntity,
			"This dough cannot be worked out any more.",
			err.Error(),
			page.WayOn{To: "/practice", Name: "Practice"},
		)
	}
	return r, k, nil
}

// picture is what a dough shows, in the widths of a page.
func picture(in measure.System, v practice.View, shown []practice.Shown) template.HTML {
	return template.HTML(draw.InWidths(func(w draw.Width) string { return draw.PracticeDough(in, v, shown, w) }))
}
