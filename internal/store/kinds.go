package store

import (
	"fmt"
	"slices"

	"hollen/internal/core/addition"
	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
	"hollen/internal/core/filling"
	"hollen/internal/core/flour"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// Kind is what a thing of the cabinet is.
type Kind string

// The kinds of thing a workshop keeps.
const (
	FlourKind    Kind = "flour"
	LotKind      Kind = "lot"
	EggKind      Kind = "egg"
	AdditionKind Kind = "addition"
	YieldKind    Kind = "yield"
	MachineKind  Kind = "machine"
	ShapeKind    Kind = "shape"
	FillingKind  Kind = "filling"
	WayKind      Kind = "way"
	MakerKind    Kind = "maker"
)

// kept is all the cabinet has to know of a kind of thing. A kind more is a row of kinds, a list of Cabinet, and its
// shelf among the pages.
type kept struct {
	kind  Kind
	read  func(doc raw) (any, error)
	names func(v any) (key, name string, ok bool)
	keyed func(v any, key string) (any, bool)
	put   func(c *Cabinet, v any) bool
	clone func(c *Cabinet)
}

// keptAs describes a kind whose values are T: where its key stands, nil where it has none, its name, and its list. What
// a list leaves out of a value, less takes away.
func keptAs[T any](kind Kind, key func(*T) *string, name func(*T) string, list func(*Cabinet) *[]T,
	less func(*T)) kept {
	return kept{
		kind: kind,
		read: func(doc raw) (any, error) {
			var v T
			err := read(doc, &v)
			return v, err
		},
		names: func(v any) (string, string, bool) {
			t, ok := v.(T)
			if !ok || key == nil {
				return "", name(&t), ok
			}
			return *key(&t), name(&t), ok
		},
		keyed: func(v any, as string) (any, bool) {
			t, ok := v.(T)
			if ok && key != nil {
				*key(&t) = as
			}
			return t, ok
		},
		put: func(c *Cabinet, v any) bool {
			t, ok := v.(T)
			if ok {
				if less != nil {
					less(&t)
				}
				*list(c) = append(*list(c), t)
			}
			return ok
		},
		clone: func(c *Cabinet) { *list(c) = slices.Clone(*list(c)) },
	}
}

// kinds are the kinds of thing, a row each.
var kinds = []kept{
	keptAs(FlourKind, func(v *flour.Flour) *string { return &v.Key }, func(v *flour.Flour) string { return v.Name },
		func(c *Cabinet) *[]flour.Flour { return &c.Flours }, nil),
	keptAs(LotKind, func(v *flour.Lot) *string { return &v.Key }, func(v *flour.Lot) string { return v.Name },
		func(c *Cabinet) *[]flour.Lot { return &c.Lots }, nil),
	keptAs(EggKind, func(v *egg.Class) *string { return &v.Key }, func(v *egg.Class) string { return v.Name },
		func(c *Cabinet) *[]egg.Class { return &c.Eggs }, nil),
	keptAs(AdditionKind, func(v *addition.Addition) *string { return &v.Key },
		func(v *addition.Addition) string { return v.Name },
		func(c *Cabinet) *[]addition.Addition { return &c.Additions }, nil),
	keptAs(YieldKind, nil, func(v *addition.Yield) string { return v.Of },
		func(c *Cabinet) *[]addition.Yield { return &c.Yields }, nil),
	keptAs(MachineKind, func(v *roll.Machine) *string { return &v.Key }, func(v *roll.Machine) string { return v.Name },
		func(c *Cabinet) *[]roll.Machine { return &c.Machines }, func(v *roll.Machine) { v.History = nil }),
	keptAs(ShapeKind, func(v *cut.Shape) *string { return &v.Key }, func(v *cut.Shape) string { return v.Name },
		func(c *Cabinet) *[]cut.Shape { return &c.Shapes }, nil),
	keptAs(FillingKind, func(v *filling.Filling) *string { return &v.Key },
		func(v *filling.Filling) string { return v.Name },
		func(c *Cabinet) *[]filling.Filling { return &c.Fillings }, nil),
	keptAs(WayKind, func(v *request.Way) *string { return &v.Key }, func(v *request.Way) string { return v.Name },
		func(c *Cabinet) *[]request.Way { return &c.Ways }, nil),
	keptAs(MakerKind, func(v *request.Maker) *string { return &v.Key },
		func(v *request.Maker) string { return v.Name },
		func(c *Cabinet) *[]request.Maker { return &c.Makers }, nil),
}

// Key is what a batch calls the thing.
func Key(id uint64) string { return fmt.Sprintf("%s%d", flour.OwnPrefix, id) }

// Describe returns what kind of thing v is, the key it stands under and its name; no kind for
// what the cabinet does not hold.
func Describe(v any) (kind Kind, key, name string) {
	for _, k := range kinds {
		if key, name, ok := k.names(v); ok {
			return k.kind, key, name
		}
	}
	return "", "", ""
}

// Keyed returns v under that key; what has no key is returned as it is.
func Keyed(v any, key string) any {
	for _, k := range kinds {
		if as, ok := k.keyed(v, key); ok {
			return as
		}
	}
	return v
}

// CabinetOf sorts things by what they are.
func CabinetOf(things []Thing) (c Cabinet) {
	for _, t := range things {
		for _, k := range kinds {
			k.put(&c, t.Value)
		}
	}
	return c
}

// thing reads the row's figures.
func (i item) thing() (Thing, error) {
	t := Thing{ID: i.ID, Version: i.Version, Kind: i.Kind, Retired: i.RetiredAt.Valid}
	at := slices.IndexFunc(kinds, func(k kept) bool { return k.kind == i.Kind })
	if at < 0 {
		return t, fmt.Errorf("kind %q is not known", i.Kind)
	}
	v, err := kinds[at].read(i.Figures)
	if err != nil {
		return t, fmt.Errorf("cabinet %d: %w", i.ID, err)
	}
	t.Value = Keyed(v, Key(i.ID))
	return t, nil
}
