package web

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"maps"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
	"hollen/internal/core/roll"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// importPath is where documents are brought in.
const importPath = "/import"

// importView is the page: what was given, what is wrong with it, or what it would do.
type importView struct {
	Text   string
	Errors []string
	Items  []importItem // of a cabinet
	Batch  *importBatch
	Recipe *exchange.Recipe
	Stale  bool // something changed since the preview
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

// importBatch is a request in a document.
type importBatch struct {
	Name, Words string
	Same        uint64 // the batch that is the same already, 0 when there is none
	Own         []importItem
	request     plan.Request
	keys        map[string]string // key in the document -> key here, "" to be made
}

// RecipeText is the recipe's ingredients, a line each.
func (v importView) RecipeText() string { return strings.Join(v.Recipe.Lines, "\n") }

// Takes says whether there is anything to take.
func (v importView) Takes() bool {
	return v.Batch != nil || slices.ContainsFunc(v.Items, func(i importItem) bool { return i.Status != "same" })
}

func (s *Server) openImport(c *gin.Context) { s.showImport(c, http.StatusOK, importView{}) }

func (s *Server) showImport(c *gin.Context, status int, v importView) {
	s.render(c, status, "import", "Bring in a file", v)
}

// importText returns the document posted: the file, or what stands in the box.
func (s *Server) importText(c *gin.Context) (string, bool) {
	read := c.Request.ParseForm
	multipart := c.ContentType() == "multipart/form-data"
	if multipart {
		read = func() error { return c.Request.ParseMultipartForm(exchange.MaxBytes) }
	}
	var big *http.MaxBytesError
	switch err := read(); {
	case errors.As(err, &big):
		s.showImport(c, http.StatusRequestEntityTooLarge, importView{Errors: []string{fmt.Sprintf("That is too much at once: a document may have %d kB.", exchange.MaxBytes>>10)}})
		return "", false
	case err != nil:
		s.showImport(c, http.StatusBadRequest, importView{Errors: []string{"That form cannot be read."}})
		return "", false
	}
	if !multipart {
		return c.PostForm("text"), true
	}
	defer c.Request.MultipartForm.RemoveAll()
	f, err := c.FormFile("file")
	if err != nil || f.Size == 0 {
		return c.PostForm("text"), true
	}
	in, err := f.Open()
	if err != nil {
		s.showImport(c, http.StatusBadRequest, importView{Errors: []string{"That file cannot be read."}})
		return "", false
	}
	defer in.Close()
	raw, err := io.ReadAll(io.LimitReader(in, exchange.MaxBytes+1))
	if err != nil {
		s.showImport(c, http.StatusBadRequest, importView{Errors: []string{"That file cannot be read."}})
		return "", false
	}
	return string(raw), true
}

func (s *Server) previewImport(c *gin.Context) {
	text, ok := s.importText(c)
	if !ok {
		return
	}
	v, err := s.inspect(c, text)
	if err != nil {
		s.failStore(c, err)
		return
	}
	status := http.StatusOK
	if len(v.Errors) > 0 {
		status = http.StatusUnprocessableEntity
	}
	s.showImport(c, status, v)
}

// inspect reads a document and says what it would do; what is wrong with it stands in Errors.
func (s *Server) inspect(c *gin.Context, text string) (importView, error) {
	v := importView{Text: strings.ToValidUTF8(text, "?")}
	found, err := exchange.Read(strings.NewReader(text))
	if err != nil {
		v.Errors = importErrors(err)
		return v, nil
	}
	ctx, cancel := bounded(c)
	defer cancel()
	things, err := s.store.Things(ctx, true)
	if err != nil {
		return v, err
	}
	switch {
	case found.Cabinet != nil:
		for _, x := range found.Cabinet.All() {
			i := s.beside(c, things, x)
			i.N = len(v.Items)
			v.Items = append(v.Items, i)
		}
		v.Errors = twice(v.Items)
	case found.Request != nil:
		v.Batch = s.batchOf(c, things, *found.Request)
		if v.Batch.Same, err = s.sameBatch(ctx, v.Batch.asHere()); err != nil {
			return v, err
		}
	default:
		v.Recipe = found.Recipe
	}
	return v, nil
}

// importErrors says what is wrong with a document, at most a screenful.
func importErrors(err error) (out []string) {
	const most = 12
	for _, e := range strings.Split(err.Error(), "\n") {
		if e == "" {
			continue
		}
		if len(out) == most {
			return append(out, "and more.")
		}
		if r := []rune(e); len(r) > 300 {
			e = string(r[:300]) + "…"
		}
		out = append(out, strings.ToUpper(e[:1])+e[1:]+".")
	}
	return out
}

// twice refuses two things of a kind and name: which of them would count?
func twice(items []importItem) (out []string) {
	seen := map[string]bool{}
	for _, i := range items {
		key := string(i.kind) + "/" + strings.ToLower(i.Name)
		if seen[key] {
			out = append(out, fmt.Sprintf("%s: two are called “%s”; each needs a name of its own.", i.Shelf, i.Name))
		}
		seen[key] = true
	}
	return out
}

// written is a thing as it would be written to a document, which is all that counts of it.
func written(v any) string {
	var b bytes.Buffer
	bare := store.Keyed(v, "")
	if m, ok := bare.(roll.Machine); ok { // its history stays in the cabinet
		m.History = nil
		bare = m
	}
	if err := exchange.Write(&b, bare); err != nil {
		return err.Error() // not a number somewhere: like nothing else
	}
	return b.String()
}

// beside sets a thing beside the one of its kind and name in the cabinet; one that is retired
// counts only where there is no other.
func (s *Server) beside(c *gin.Context, things []store.Thing, v any) importItem {
	v = store.Keyed(v, "")
	kind, _, name := store.Describe(v)
	i := importItem{Name: name, Status: "new", kind: kind, value: v}
	var sh shelf
	for _, x := range shelves {
		if x.Kind == kind {
			sh, i.Shelf = x, x.Name
		}
	}
	for _, t := range things {
		if _, _, n := store.Describe(t.Value); t.Kind != kind || !strings.EqualFold(n, name) || t.Retired && i.ID != 0 {
			continue
		}
		i.ID, i.Version, i.Status, i.Changes = t.ID, t.Version, "changed", nil
		if written(t.Value) == written(v) {
			i.Status = "same"
			if !t.Retired {
				break
			}
			i.Status, i.Changes = "changed", []itemChange{{"On the shelf", "retired", "back"}}
			continue
		}
		cab := s.cabinet(c)
		was, _, _ := sh.form(cab, t.Value, "")
		now, _, _ := sh.form(cab, v, "")
		was, now = filled(was), filled(now)
		for j := range now {
			if now[j].Value != was[j].Value {
				i.Changes = append(i.Changes, itemChange{now[j].Label, was[j].Shown(), now[j].Shown()})
			}
		}
		if len(i.Changes) == 0 {
			i.Changes = []itemChange{{"What was measured", "here", "other figures"}}
		}
		if !t.Retired {
			break
		}
	}
	return i
}

// batchOf is a request of a document with what it would bring along.
func (s *Server) batchOf(c *gin.Context, things []store.Thing, r plan.Request) *importBatch {
	b := &importBatch{Name: r.Name, request: r, keys: map[string]string{}}
	if p, err := plan.Make(r); err == nil {
		b.Words = fmt.Sprintf("%s; %s of dough, %.1f portions; %s", p.Cut.Shape.Sized(), plan.Grams(p.Formula.Dough.MassG), p.Formula.Portions, p.EggWords())
	}
	_ = b.each(func(key string, v any) error {
		i := s.beside(c, things, v)
		i.N, b.keys[key] = len(b.Own), ""
		if i.ID != 0 {
			b.keys[key] = store.Key(i.ID)
		}
		b.Own = append(b.Own, i)
		return nil // it only looks
	})
	return b
}

// each calls f once with every thing of the workshop's own that the request carries, flours before
// their lots, and the key it has in keys. Lots name their flour as it is called here.
func (b *importBatch) each(f func(key string, v any) error) error {
	seen := map[string]bool{}
	for _, field := range plan.Fields() {
		own := field.KeptBy(&b.request)
		if own == nil {
			continue
		}
		key := keyIn(own)
		if !seen[key] {
			seen[key] = true
			if err := f(key, b.here(own.Value)); err != nil {
				return err
			}
		}
	}
	return nil
}

// keyIn is the key of a thing of the document, apart by kind.
func keyIn(own *plan.Kept) string {
	kind, _, _ := store.Describe(own.Value)
	return string(kind) + "/" + own.Key
}

// here returns a thing with the flour it names under its key here.
func (b *importBatch) here(v any) any {
	if l, ok := v.(flour.Lot); ok {
		if key := b.keys[string(store.FlourKind)+"/"+l.Flour]; key != "" {
			l.Flour = key
		}
		return l
	}
	return v
}

// asHere returns the request with everything it carries under its key here, where it has one.
func (b *importBatch) asHere() plan.Request {
	r := b.request
	r.Flours, r.Additions, r.Eggs.Also, r.Cut.Also = slices.Clone(r.Flours), slices.Clone(r.Additions), slices.Clone(r.Eggs.Also), slices.Clone(r.Cut.Also)
	for _, field := range plan.Fields() {
		own := field.KeptBy(&b.request)
		if own == nil {
			continue
		}
		if key := b.keys[keyIn(own)]; key != "" {
			field.Pick(&r, key, store.Keyed(b.here(own.Value), key))
		}
	}
	return r
}

// sameBatch returns the batch that holds just this request, 0 when there is none among the
// newest.
func (s *Server) sameBatch(ctx context.Context, r plan.Request) (uint64, error) {
	list, _, err := s.store.List(ctx, 0)
	if err != nil {
		return 0, err
	}
	want := writtenRequest(r)
	for _, b := range list {
		if b.Request.Request.Name == r.Name && writtenRequest(b.Request.Request) == want {
			return b.ID, nil
		}
	}
	return 0, nil
}

func writtenRequest(r plan.Request) string {
	var b bytes.Buffer
	if err := exchange.Write(&b, r); err != nil {
		return err.Error() // not a number somewhere: like nothing else
	}
	return b.String()
}

// takeImport does what the preview said, all of it or nothing. What changed since the preview is
// shown anew.
func (s *Server) takeImport(c *gin.Context) {
	text, ok := s.importText(c)
	if !ok {
		return
	}
	v, err := s.inspect(c, text)
	if err != nil {
		s.failStore(c, err)
		return
	}
	if len(v.Errors) > 0 || v.Recipe != nil {
		s.showImport(c, http.StatusUnprocessableEntity, v)
		return
	}
	ctx, cancel := bounded(c)
	defer cancel()
	to := ""
	err = s.store.Together(ctx, func(tx *store.Store) error {
		if v.Batch != nil {
			to, err = takeBatch(ctx, tx, v.Batch)
			return err
		}
		to, err = takeThings(ctx, tx, v.Items, c.PostFormArray("take"))
		return err
	})
	switch {
	case errors.Is(err, store.ErrChanged):
		v.Stale = true
		s.showImport(c, http.StatusConflict, v)
	case err != nil:
		s.failStore(c, err)
	default:
		c.Redirect(http.StatusSeeOther, to)
	}
}

// takeThings keeps the things whose boxes are ticked, and returns the shelf of the first.
func takeThings(ctx context.Context, tx *store.Store, items []importItem, take []string) (string, error) {
	to := importPath
	for _, set := range take {
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
		if to == importPath {
			for _, sh := range shelves {
				if sh.Kind == i.kind {
					to = "/cabinet/" + sh.Path
				}
			}
		}
	}
	return to, nil
}

// takeBatch makes the batch, and keeps first what it brings along and is not in the cabinet.
func takeBatch(ctx context.Context, tx *store.Store, b *importBatch) (string, error) {
	again := *b // a transaction may be tried again, and then begins anew
	again.keys = maps.Clone(b.keys)
	b = &again
	err := b.each(func(key string, v any) error {
		if b.keys[key] != "" {
			return nil
		}
		kind, _, _ := store.Describe(v)
		id, err := tx.Keep(ctx, kind, 0, 0, v)
		b.keys[key] = store.Key(id)
		return err
	})
	if err != nil {
		return "", err
	}
	n, err := tx.Create(ctx, b.asHere())
	if err != nil {
		return "", err
	}
	return "/batches/" + strconv.FormatUint(n.ID, 10), nil
}
