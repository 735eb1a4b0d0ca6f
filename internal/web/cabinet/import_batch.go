package cabinet

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"maps"
	"strconv"
	"strings"

	"hollen/internal/core/flour"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// importBatch is a request in a document.
type importBatch struct {
	Name, Words string
	Same        uint64 // the batch that is the same already, 0 when there is none
	Own         []importItem
	request     request.Request
	keys        map[string]string // key in the document -> key here, "" to be made
}

// Set is what the preview said it would bring along and what it was compared to.
func (b *importBatch) Set() string {
	sets := []string{"batch"}
	for _, i := range b.Own {
		sets = append(sets, i.Set())
	}
	return strings.Join(sets, " ")
}

// batchOf is a request of a document with what it would bring along.
func (s *Room) batchOf(cab desk, things []store.Thing, r request.Request) *importBatch {
	b := &importBatch{Name: r.Name, request: r, keys: map[string]string{}}
	if p, err := plan.MakeIn(cab.In, s.Rules, r); err == nil {
		b.Words = fmt.Sprintf("%s; %s of dough, %.1f portions; %s", p.Cut.Shape.Sized(p.In()),
			cab.In.Grams(p.Formula.Dough.MassG), p.Formula.Portions,
			p.EggWords())
	}
	_ = b.each(func(key string, v any) error {
		i := matched(cab, things, v)
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
	for _, field := range request.Fields() {
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
func keyIn(own *request.Kept) string {
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
func (b *importBatch) asHere() request.Request {
	r := request.Pruned(b.request) // lists of its own
	for _, field := range request.Fields() {
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
func (s *Room) sameBatch(ctx context.Context, r request.Request) (uint64, error) {
	list, _, err := s.Store.List(ctx, store.Query{})
	if err != nil {
		return 0, err
	}
	want := writtenRequest(r)
	for _, b := range list {
		if b.Row.Sums != 0 && b.Row.Name != r.Name {
			continue
		}
		whole, err := s.Store.Get(ctx, b.ID)
		switch {
		case errors.Is(err, store.ErrNotFound), errors.Is(err, store.ErrDeleted): // meanwhile
		case err != nil:
			return 0, err
		case writtenRequest(whole.Request.Request) == want:
			return b.ID, nil
		}
	}
	return 0, nil
}

func writtenRequest(r request.Request) string {
	var b bytes.Buffer
	if err := exchange.Write(&b, r); err != nil {
		return err.Error() // not a number somewhere: like nothing else
	}
	return b.String()
}

// bringAlong keeps what a request brings along and is not in the cabinet, and returns the request as it is here. What
// was kept for others of the same document stands in made, by kind and name, and is not kept twice.
func bringAlong(ctx context.Context, tx *store.Store, b *importBatch, made map[string]string) (request.Request, error) {
	again := *b // a transaction may be tried again, and then begins anew
	again.keys = maps.Clone(b.keys)
	err := again.each(func(key string, v any) error {
		if again.keys[key] != "" {
			return nil
		}
		kind, _, name := store.Describe(v)
		as := string(kind) + "/" + strings.ToLower(name)
		if made[as] == "" {
			id, err := tx.Keep(ctx, kind, 0, 0, v)
			if err != nil {
				return err
			}
			made[as] = store.Key(id)
		}
		again.keys[key] = made[as]
		return nil
	})
	return again.asHere(), err
}

// takeBatch makes the batch, and keeps first what it brings along and is not in the cabinet.
func takeBatch(ctx context.Context, ru rules.Rules, tx *store.Store, b *importBatch) (string, error) {
	asked, err := bringAlong(ctx, tx, b, map[string]string{})
	if err != nil {
		return "", err
	}
	p, err := plan.Make(ru, asked)
	if err != nil {
		return "", err
	}
	n, err := tx.Create(ctx, p)
	if err != nil {
		return "", err
	}
	return "/batches/" + strconv.FormatUint(n.ID, 10), nil
}
