package request

import (
	"fmt"
	"reflect"
	"strings"

	"hollen/internal/core/addition"
	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
	"hollen/internal/core/filling"
	"hollen/internal/core/flour"
	"hollen/internal/core/roll"
)

// owner is where a request keeps a thing of the workshop's own: get returns it, nil when
// there is none; put takes a flour.Flour and so on, or nil.
type owner struct {
	get func() *Kept
	put func(any)
}

// Kept is a thing of the workshop's own that a request carries whole, as it was when it was
// picked: a flour, a lot, a class of eggs, an addition.
type Kept struct {
	Key, Name string
	Value     any
	check     func() error
}

// ownPrefix begins the key of everything a workshop keeps itself.
const ownPrefix = flour.OwnPrefix

// KeptBy returns the workshop's own thing that stands in the field, nil when there is none.
func (f Field) KeptBy(r *Request) *Kept {
	if f.own == nil || !f.Has(r) {
		return nil
	}
	return f.own(r).get()
}

// Pick puts a thing of the workshop's own into the field, as it is now: a flour.Flour, a
// flour.Lot, an egg.Class, an addition.Addition or a filling.Filling under its own key. It reports false when r
// does not have the field or the field takes no such thing.
func (f Field) Pick(r *Request, key string, thing any) bool {
	if f.own == nil || !f.Has(r) || !strings.HasPrefix(key, ownPrefix) {
		return false
	}
	f.own(r).put(thing)
	reflect.ValueOf(f.at(r)).Elem().SetString(key)
	return true
}

// sound returns what is wrong with a thing of the workshop's own that stands under that key.
func (k Kept) sound(key string) error {
	if k.Key != key || !strings.HasPrefix(key, ownPrefix) {
		return fmt.Errorf("its key must be %q, as the field's, and begin with %s", key, ownPrefix)
	}
	return k.check()
}

// Same says whether two kept things have the same figures.
func Same(a, b Kept) bool { return reflect.DeepEqual(a.Value, b.Value) }

// own is the owner of a thing that stands at at.
func own[T any](at **T, kept func(*T) Kept) owner {
	return owner{
		get: func() *Kept {
			if *at == nil {
				return nil
			}
			k := kept(*at)
			return &k
		},
		put: func(v any) {
			*at = nil
			if thing, ok := v.(T); ok {
				*at = &thing
			}
		},
	}
}

func keptMachine(m *roll.Machine) Kept { return Kept{m.Key, m.Name, *m, m.Check} }

func keptShape(s *cut.Shape) Kept            { return Kept{s.Key, s.Name, *s, s.Check} }
func keptFlour(f *flour.Flour) Kept          { return Kept{f.Key, f.Name, *f, f.Check} }
func keptLot(l *flour.Lot) Kept              { return Kept{l.Key, l.Name, *l, l.Check} }
func keptClass(c *egg.Class) Kept            { return Kept{c.Key, c.Name, *c, c.Check} }
func keptFilling(f *filling.Filling) Kept    { return Kept{f.Key, f.Name, *f, f.Check} }
func keptAddition(a *addition.Addition) Kept { return Kept{a.Key, a.Name, *a, a.Check} }
