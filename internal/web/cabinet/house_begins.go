package cabinet

import (
	"errors"
	"net/url"
	"strings"

	"hollen/internal/core/egg"
	"hollen/internal/core/field"
	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/store"
)

// begins are what new batches start from besides ways: as the form has it.
type begins struct {
	Flour, Eggs, Machine string // keys
	Temp, RH             string // as typed, "" where none is said
	TempErr, RHErr       string
	MadeBy, MadeByErr    string // who makes it, on labels
}

// the names of its boxes.
const (
	beginFlour, beginEggs, beginMachine = "begin.flour", "begin.eggs", "begin.machine"
	beginTemp, beginRH                  = "begin.temp_c", "begin.rh"
	madeBy                              = "made_by"
)

// beginsOf is what a house says of them, in the units shown.
func beginsOf(in measure.System, h request.House) begins {
	b := begins{Flour: h.Flour, Eggs: h.Eggs, Machine: h.Machine, MadeBy: h.MadeBy}
	if h.Room != nil {
		r := request.Default()
		h.Start(&r)
		for path, at := range map[string]*string{"room.temp_c": &b.Temp, "room.rh": &b.RH} {
			f, _ := request.FieldAt(path)
			*at = f.In(in).Get(&r)
		}
	}
	return b
}

// read takes what was posted and puts it into a house; false where something of it is not allowed. What has left the
// cabinet is dropped.
func (b *begins) read(in measure.System, cab store.Cabinet, values url.Values, h *request.House) bool {
	for name, x := range map[string]struct {
		path string
		at   *string
	}{beginFlour: {"flours.0.flour", &b.Flour}, beginEggs: {"eggs.class", &b.Eggs}, beginMachine: {"roll.machine",
		&b.Machine}} {
		if !values.Has(name) {
			continue
		}
		*x.at = values.Get(name)
		f, _ := request.FieldAt(x.path)
		r := request.Default()
		if *x.at != "" && !cab.Take(f, &r, *x.at) {
			*x.at = ""
		}
	}
	h.Flour, h.Eggs, h.Machine = b.Flour, b.Eggs, b.Machine
	if values.Has(madeBy) {
		b.MadeBy = strings.Join(strings.Fields(values.Get(madeBy)), " ")
		for _, f := range measure.Faults((&recipe.Label{MadeBy: b.MadeBy}).Check()) {
			b.MadeByErr = measure.Capital(f.Text) + "."
		}
	}
	h.MadeBy = b.MadeBy
	if !values.Has(beginTemp) {
		return b.MadeByErr == ""
	}
	b.Temp, b.RH = strings.TrimSpace(values.Get(beginTemp)), strings.TrimSpace(values.Get(beginRH))
	if h.Room = nil; b.Temp == "" && b.RH == "" {
		return b.MadeByErr == ""
	}
	r := request.Default()
	for _, x := range []struct {
		path, typed string
		at          *string
	}{{"room.temp_c", b.Temp, &b.TempErr}, {"room.rh", b.RH, &b.RHErr}} {
		f, _ := request.FieldAt(x.path)
		if err := f.In(in).Set(&r, x.typed); err != nil {
			*x.at = measure.Capital(err.Error()) + "."
			if e, is := errors.AsType[request.FieldError](err); is {
				*x.at = e.ForPage()
			}
		}
	}
	h.Room = &request.HouseRoom{TempC: r.Room.TempC, RH: r.Room.RH}
	return b.TempErr == "" && b.RHErr == "" && b.MadeByErr == ""
}

// entries are its lines of the form.
func (b *begins) entries(in measure.System, cab store.Cabinet) []entry {
	flours, eggs, machines := field.Option{Name: "as usual"}, field.Option{Name: "as usual"},
		field.Option{Name: "as usual"}
	from, of, on := []field.Option{flours}, []field.Option{eggs}, []field.Option{machines}
	for _, x := range cab.Flours {
		from = append(from, field.Option{Key: x.Key, Name: x.Name})
	}
	for _, x := range flour.Shipped() {
		from = append(from, field.Option{Key: x.Key, Name: x.Name})
	}
	for _, x := range append(append([]egg.Class{}, cab.Eggs...), egg.Classes()...) {
		of = append(of, field.Option{Key: x.Key, Name: x.Name})
	}
	for _, x := range append(append([]roll.Machine{}, cab.Machines...), roll.Shipped()...) {
		on = append(on, field.Option{Key: x.Key, Name: x.Name})
	}
	out := []entry{choiceEntry(beginFlour, "New batches are of", &b.Flour, from...),
		choiceEntry(beginEggs, "New batches have the eggs", &b.Eggs, of...),
		choiceEntry(beginMachine, "New batches are rolled on", &b.Machine, on...)}
	for i := range out {
		out[i].fill()
	}
	for _, x := range []struct{ path, name, label, value, err string }{
		{"room.temp_c", beginTemp, "The room new batches start in", b.Temp, b.TempErr},
		{"room.rh", beginRH, "Its humidity", b.RH, b.RHErr}} {
		f, _ := request.FieldAt(x.path)
		f = f.In(in)
		e := entry{Field: f.Field, Value: x.value, Error: x.err}
		e.Path, e.Label = x.name, x.label
		out = append(out, e.optional("empty: as usual"))
	}
	by := textEntry(madeBy, "Who makes it, and where, on labels", "empty: the workshop’s name", 0, recipe.MostMadeBy,
		&b.MadeBy)
	by.fill()
	by.Error = b.MadeByErr
	return append(out, by)
}
