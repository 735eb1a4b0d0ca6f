package cabinet

import (
	"bytes"
	"fmt"
	"strings"

	"hollen/internal/core/roll"
	"hollen/internal/exchange"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// inspect reads a document and says what it would do; what is wrong with it stands in Errors.
func (s *Room) inspect(c *page.Visit, cab desk, text string) (importView, error) {
	v := importView{Text: strings.ToValidUTF8(text, "?")}
	found, err := exchange.Read(s.Rules, strings.NewReader(text))
	if err != nil {
		v.Errors = importErrors(err)
		return v, nil
	}
	ctx := c.Request.Context()
	things, err := s.Store.Things(ctx, true)
	if err != nil {
		return v, err
	}
	switch {
	case found.Cabinet != nil:
		for _, x := range found.Cabinet.All() {
			i := matched(cab, things, x)
			i.N = len(v.Items)
			v.Items = append(v.Items, i)
		}
		v.Errors = twice(v.Items)
	case found.Log != nil:
		if v.Log, err = s.logOf(ctx, s.Store, cab, things, found.Log); err != nil {
			return v, err
		}
	case found.Making != nil:
		if v.Making, err = s.makingOf(ctx, s.Store, cab, things, found.Making); err != nil {
			return v, err
		}
	case found.Request != nil:
		v.Batch = s.batchOf(cab, things, *found.Request)
		if v.Batch.Same, err = s.sameBatch(ctx, v.Batch.asHere()); err != nil {
			return v, err
		}
	case found.Recipes != nil:
		if v.Recipes, err = s.recipesOf(ctx, cab, things, found.Recipes); err != nil {
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

// matched sets a thing beside the one of its kind and name in the cabinet; one that is retired
// counts only where there is no other.
func matched(cab desk, things []store.Thing, v any) importItem {
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
		i.ID = t.ID
		i.Version = t.Version
		i.Status = "changed"
		i.Changes = nil
		if written(t.Value) == written(v) {
			i.Status = "same"
			if !t.Retired {
				break
			}
			i.Status, i.Changes = "changed", []itemChange{{"On the shelf", "retired", "back"}}
			continue
		}
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
