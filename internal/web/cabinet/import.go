package cabinet

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"hollen/internal/account"
	"hollen/internal/clock"
	"hollen/internal/core/roll"
	"hollen/internal/exchange"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// ImportPath is where documents are brought in.
const ImportPath = "/import"

// importView is the page: what was given, what is wrong with it, or what it would do.
type importView struct {
	Text    string
	Errors  []string
	Items   []importItem   // of a cabinet
	Recipes []importRecipe // that a kitchen keeps
	Batch   *importBatch
	Making  *importMaking
	Log     *importLog
	Recipe  *exchange.Recipe
	Stale   bool // something changed since the preview
}

// importItem is one thing of a document beside the cabinet.
type importItem struct {
	N       int
	Shelf   string // its name
	Name    string
	Status  string // new, changed or same
	ID      uint64 // of the thing it would change
	Version int
	Changes []itemChange
	kind    store.Kind
	value   any
}

// itemChange is one figure that differs.
type itemChange struct{ Label, From, To string }

// Set names the boxes of an item that is taken: which it is, and the version it was compared to.
func (i importItem) Set() string { return fmt.Sprintf("%d.%d.%d", i.N, i.ID, i.Version) }

// RecipeText is the recipe's name and its ingredients, a line each.
func (v importView) RecipeText() string {
	return strings.TrimSpace(v.Recipe.Name + "\n" + strings.Join(v.Recipe.Lines, "\n"))
}

// Takes says whether there is anything to take.
func (v importView) Takes() bool {
	return slices.ContainsFunc(v.Recipes, func(r importRecipe) bool { return r.Status != "same" }) ||
		v.Batch != nil || v.Making != nil || v.Log != nil || slices.ContainsFunc(v.Items,
		func(i importItem) bool { return i.Status != "same" })
}

// OpenImport asks for a document.
func (s *Room) OpenImport(c *page.Visit) error {
	s.showImport(c, http.StatusOK, importView{})
	return nil
}

func (s *Room) showImport(c *page.Visit, status int, v importView) {
	s.Render(c, status, "import", "Bring in a file", v)
}

// importText returns the document posted: the file, or what stands in the box.
func (s *Room) importText(c *page.Visit) (string, error) {
	read := c.Request.ParseForm
	multipart := c.ContentType() == "multipart/form-data"
	if multipart {
		read = func() error { return c.Request.ParseMultipartForm(exchange.MaxBytes) }
	}
	shown := func(status int, text string) (string, error) {
		s.showImport(c, status, importView{Errors: []string{text}})
		return "", page.ErrAnswered
	}
	var big *http.MaxBytesError
	switch err := read(); {
	case errors.As(err, &big):
		return shown(http.StatusRequestEntityTooLarge,
			fmt.Sprintf("That is too much at once: a document may have %d kB.", exchange.MaxBytes>>10))
	case err != nil:
		return shown(http.StatusBadRequest, "That form cannot be read.")
	}
	if !multipart {
		return c.PostForm("text"), nil
	}
	defer c.Request.MultipartForm.RemoveAll()
	f, err := c.FormFile("file")
	if err != nil || f.Size == 0 {
		return c.PostForm("text"), nil
	}
	var raw []byte
	in, err := f.Open()
	if err == nil {
		defer in.Close()
		raw, err = io.ReadAll(io.LimitReader(in, exchange.MaxBytes+1))
	}
	if err != nil {
		return shown(http.StatusBadRequest, "That file cannot be read.")
	}
	return string(raw), nil
}

// lookedOver is what the posted document holds.
func (s *Room) lookedOver(c *page.Visit) (v importView, err error) {
	text, err := s.importText(c)
	if err != nil {
		return v, err
	}
	cab, err := s.desk(c)
	if err != nil {
		return v, err
	}
	return s.inspect(c, cab, text)
}

// PreviewImport says what a document would do, and does nothing.
func (s *Room) PreviewImport(c *page.Visit) error {
	v, err := s.lookedOver(c)
	if err != nil {
		return err
	}
	status := http.StatusOK
	if len(v.Errors) > 0 {
		status = http.StatusUnprocessableEntity
	}
	s.showImport(c, status, v)
	return nil
}

// importFor is how long taking a document may take: a log brings hundreds of makings.
const importFor = time.Minute

// TakeImport does what the preview said, all of it or nothing. What changed since the preview is
// shown anew.
func (s *Room) TakeImport(c *page.Visit) error {
	v, err := s.lookedOver(c)
	if err != nil {
		return err
	}
	if len(v.Errors) > 0 || v.Recipe != nil {
		s.showImport(c, http.StatusUnprocessableEntity, v)
		return nil
	}
	if len(v.Items) > 0 { // the cabinet is the workshop's
		if err := s.May(c, account.Keeps); err != nil {
			return err
		}
	}
	cab, err := s.desk(c)
	if err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(context.WithoutCancel(c.Request.Context()), importFor)
	defer cancel()
	_ = http.NewResponseController(c.Writer).SetWriteDeadline(clock.Deadline(importFor + page.DBTimeout))
	to := ""
	err = s.Store.Atomically(ctx, func(tx *store.Store) (err error) {
		take := c.PostFormArray("take")
		if v.Log != nil {
			if !slices.Equal(take, []string{v.Log.Set()}) {
				return store.ErrChanged
			}
			to, err = s.takeLog(ctx, tx, cab, v.Log.docs())
			return err
		}
		if v.Making != nil {
			if !slices.Equal(take, []string{v.Making.Set()}) {
				return store.ErrChanged
			}
			to, err = takeMaking(ctx, s.Rules, tx, v.Making)
			return err
		}
		if v.Recipes != nil {
			to, err = takeRecipes(ctx, s.Rules, tx, v.Recipes, take)
			return err
		}
		if v.Batch == nil {
			to, err = takeThings(ctx, tx, v.Items, take)
			return err
		}
		if !slices.Equal(take, []string{v.Batch.Set()}) {
			return store.ErrChanged
		}
		to, err = takeBatch(ctx, s.Rules, tx, v.Batch)
		return err
	})
	switch {
	case errors.Is(err, store.ErrChanged):
		v.Stale = true
		s.showImport(c, http.StatusConflict, v)
	case err != nil:
		return err
	default:
		s.LogChanged()
		c.Redirect(http.StatusSeeOther, to)
	}
	return nil
}

// takeThings keeps the things whose boxes are ticked, and returns the shelf of the first.
func takeThings(ctx context.Context, tx *store.Store, items []importItem, take []string) (string, error) {
	to := ImportPath
	slices.Sort(take)
	for _, set := range slices.Compact(take) { // a box counts once
		n, err := strconv.Atoi(strings.SplitN(set, ".", 2)[0])
		if err != nil || n < 0 || n >= len(items) {
			return "", store.ErrChanged
		}
		i := items[n]
		if i.Status == "same" {
			continue
		}
		if i.Set() != set {
			return "", store.ErrChanged
		}
		v := i.value
		if m, ok := v.(roll.Machine); ok && i.ID != 0 { // the machine's own history goes on
			was, err := tx.Thing(ctx, i.kind, i.ID)
			if err != nil {
				return "", err
			}
			if old, ok := was.Value.(roll.Machine); ok {
				m.History = old.History
				v = m
			}
		}
		id, err := tx.Keep(ctx, i.kind, i.ID, i.Version, v)
		if err != nil {
			return "", err
		}
		if i.ID != 0 {
			if err := tx.Retire(ctx, i.kind, id, false); err != nil {
				return "", err
			}
		}
		if to == ImportPath {
			for _, sh := range shelves {
				if sh.Kind == i.kind {
					to = "/cabinet/" + sh.Path
				}
			}
		}
	}
	return to, nil
}
