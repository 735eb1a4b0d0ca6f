package recipe

import (
	"hollen/internal/core/egg"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// Setting is one thing a day says once for all its batches.
type Setting struct {
	Row   string                                          // of the day’s part: room.rh, flours.*.lot
	Flour string                                          // of a lot: the key of the flour it is of
	Put   func(f request.Field, r *request.Request) error // sets it; an error where it is not allowed
}

// DayChange is what a day’s setting would change in a batch.
type DayChange struct {
	request.Change
	Typed bool // it was typed for this batch: it stays unless its maker says otherwise
}

// flourAt is the key of the flour in the slot a lot’s path is of.
func flourAt(path string, r *request.Request) string {
	f, ok := request.FieldAt(path[:len(path)-len(".lot")] + ".flour")
	if !ok {
		return ""
	}
	return f.Get(r)
}

// told is a batch with all of a day’s settings.
func told(r request.Request, settings []Setting) (request.Request, error) {
	out := request.Padded(r)
	for _, f := range request.Fields() {
		for _, s := range settings {
			if Row(f.Path) != s.Row || !f.Has(&out) || s.Flour != "" && flourAt(f.Path, &out) != s.Flour ||
				s.Row == "eggs.class" && r.Eggs.Style == egg.NoEgg {
				continue
			}
			if err := s.Put(f, &out); err != nil {
				return r, err
			}
		}
	}
	return request.Pruned(out), nil
}

// OnDay returns what a day’s settings would change in a batch, said in a system of units. took is what the batch took
// from the house or a day, by path as Get: what is otherwise now was typed. An error where a setting is not allowed.
func OnDay(in measure.System, r request.Request, took map[string]string, settings []Setting) ([]DayChange, error) {
	want, err := told(r, settings)
	if err != nil {
		return nil, err
	}
	var out []DayChange
	for _, c := range request.ChangesIn(in, r, want) {
		if c.From != c.To && PartOf(c.Field) == OfDay {
			out = append(out, DayChange{c, took[c.Field.Path] != c.From})
		}
	}
	return out, nil
}

// TakeDay puts the settings of some paths into a batch; an error where one is not allowed.
func TakeDay(r request.Request, settings []Setting, paths map[string]bool) (request.Request, error) {
	want, err := told(r, settings)
	if err != nil {
		return r, err
	}
	out, from := request.Padded(r), request.Padded(want)
	for _, f := range request.Fields() {
		if paths[f.Path] && PartOf(f) == OfDay {
			f.Copy(&out, &from)
		}
	}
	return request.Pruned(out), nil
}

// Took is what a batch holds of the day’s part, by path as Get.
func Took(r request.Request) map[string]string {
	padded, out := request.Padded(r), map[string]string{}
	for _, f := range request.Fields() {
		if PartOf(f) == OfDay {
			out[f.Path] = f.Get(&padded)
		}
	}
	return out
}
