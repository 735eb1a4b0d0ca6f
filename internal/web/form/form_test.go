package form

import (
	"net/url"
	"testing"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
	"hollen/internal/store"
)

// demoCabinet is the demo's cabinet as the store would give it.
func demoCabinet() store.Cabinet {
	return store.CabinetOf(demo.Scenario(rules.Default(), demo.Day).Things)
}

// Of two windows each keeps what it alone changed; where both changed a thing, ours stands
// and the other is told.
func TestMerge(t *testing.T) {
	base := demo.Batch(demo.Saturday)
	change := func(f func(*request.Request)) request.Request {
		r := base
		r.Flours = append([]request.FlourPart{}, base.Flours...)
		f(&r)
		return r
	}
	mine := change(func(r *request.Request) { r.Room.RH, r.Roll.BenchMM, r.Eggs.MoveFlour = .7, 1500, true })
	theirs := change(func(r *request.Request) { r.Room.RH, r.Name, r.Roll.Mode = .6, "Renamed", "every" })
	merged, told := request.Merge(measure.Metric, base, mine, theirs)
	if merged.Room.RH != .7 || merged.Roll.BenchMM != 1500 || !merged.Eggs.MoveFlour || merged.Name != "Renamed" ||
		merged.Roll.Mode != "every" {
		t.Errorf("%+v", merged)
	}
	want := map[string]string{"Humidity": "70 %", "Name": "", "Way down": ""}
	for _, c := range told {
		if mine, ok := want[c.Label]; !ok || mine != c.Mine {
			t.Errorf("told %+v", c)
		}
		delete(want, c.Label)
	}
	if len(want) > 0 {
		t.Errorf("not told: %v", want)
	}
	// A blend is one thing: whoever changed it last here keeps it whole.
	mine = change(func(r *request.Request) { r.Flours = r.Flours[:1]; r.Flours[0].Share = 1 })
	theirs = change(func(r *request.Request) { r.Flours[0].Share, r.Flours[1].Share = .5, .5 })
	merged, told = request.Merge(measure.Metric, base, mine, theirs)
	if err := merged.Check(rules.Default()); err != nil || len(merged.Flours) != 1 || len(told) != 2 {
		t.Errorf("%v: %+v, told %+v", err, merged.Flours, told)
	}
}

func TestBind(t *testing.T) {
	base := demo.Batch(demo.Saturday)
	for _, c := range []struct {
		form  string
		path  string
		want  string
		wrong string // path in error
	}{
		{"room.rh=61", "room.rh", "61", ""},
		{"room.rh=61&set=room.rh%3D33", "room.rh", "33", ""},
		{"room.rh=61&step=room.rh%3D1", "room.rh", "62", ""},
		{"step=room.rh%3D7", "room.rh", "44", ""},
		{"step=nowhere%3D1", "room.rh", "44", ""},
		{"room.rh=damp", "room.rh", "44", "room.rh"},
		{"room.rh=damp&step=room.rh%3D-1", "room.rh", "43", ""},
		{"step=roll.target_mm%3D1", "roll.target_mm", "0.9", ""}, // from the shape's own 0.85
		{"eggs.move_flour=&eggs.move_flour=yes", "eggs.move_flour", "yes", ""},
		{"eggs.move_flour=", "eggs.move_flour", "", ""},
		{"flours.1.share=300+g", "flours.1.share", "30", ""},
		{"flours.1.share=30", "flours.0.share", "70", ""},
		{"flours.1.flour=", "flours.0.share", "100", ""},
		{"flours.2.flour=rye-light", "flours.0.share", "60", ""},
		{"flours.1.share=100", "flours.1.share", "20", "flours.0.share"},
		{"cut.min_length_mm=900", "cut.min_length_mm", "", "cut.max_length_mm"},
		{"unheard.of=1", "room.rh", "44", ""},
		{"additions.0.addition=spinach", "additions.0.share", "12", ""}, // what is usual
		{"additions.0.addition=spinach&additions.0.share=15", "additions.0.share", "15", ""},
		{"additions.1.addition=ink&additions.1.share=2", "additions.0.addition", "ink", ""}, // an empty line before it
		{"additions.0.addition=spinach&additions.0.share=90", "additions.0.share", "12", "additions.0.share"},
		{"additions.0.addition=own-5", "additions.0.addition", "own-5", ""},
		{"additions.0.addition=own-1", "additions.0.addition", "", "additions.0.addition"}, // a flour is no addition
		{"additions.0.share=3", "additions.0.share", "", ""},
		{"eggs.also.0.class=eu-m", "eggs.also.0.count", "1", ""},
		{"eggs.also.0.class=own-4&eggs.also.0.count=3", "eggs.also.0.count", "3", ""},
		{"eggs.class=own-4", "eggs.class", "own-4", ""},
		{"eggs.class=own-99", "eggs.class", "eu-l", "eggs.class"},
		{"flours.1.lot=", "flours.1.lot", "", ""},
		{"flours.1.flour=plain", "flours.1.lot", "", ""},           // the lot was of another flour
		{"flours.0.lot=own-2", "flours.0.lot", "", "flours.0.lot"}, // likewise
		{"flours.1.open_days=3", "flours.1.open_days", "30", ""},   // the lot's dates count
		{"made_on=2026-12-08", "flours.1.open_days", "40", ""},
		{"made_on=soon", "made_on", "2026-11-28", "made_on"},
		{"flours.0.measured_moisture_wb=20/17.5", "flours.0.measured_moisture_wb", "12.5", ""},
		{"flours.0.measured_moisture_wb=20/27.5", "flours.0.measured_moisture_wb", "", "flours.0.measured_moisture_wb"},
		{"flours.0.price_per_kg=2,40", "flours.0.price_per_kg", "2.40", ""},
		{"prices.egg_each=dear", "prices.egg_each", "0.29", "prices.egg_each"},
		{"prices.egg_each=", "prices.egg_each", "", ""},
		{"acts.3.kind=rest&acts.3.amount=5&acts.3.stage=", "acts.0.stage", "knead", ""},
		{"acts.0.kind=prayer", "acts.0.kind", "", "acts.0.kind"},
		{"used.flour_left_g=-3", "used.flour_left_g", "", "used.flour_left_g"},
	} {
		v, err := url.ParseQuery(c.form)
		if err != nil {
			t.Fatal(err)
		}
		f, err := Bind(base, v, With{Rules: rules.Default(), Cabinet: demoCabinet()}, demo.Day)
		if err != nil {
			t.Errorf("%s: %v", c.form, err)
			continue
		}
		field, _ := request.FieldAt(c.path)
		if got := field.Get(&f.Request); got != c.want {
			t.Errorf("%s: %s is %q, want %q", c.form, c.path, got, c.want)
		}
		if _, bad := f.Errors[c.wrong]; bad != (c.wrong != "") || c.wrong == "" && len(f.Errors) > 0 {
			t.Errorf("%s: errors %v", c.form, f.Errors)
		}
		if err := f.Request.Check(rules.Default()); err != nil {
			t.Errorf("%s: the request is not sound: %v", c.form, err)
		}
	}
	if len(base.Flours) != 2 || base.Flours[0].Share != .8 {
		t.Errorf("binding has changed what it was given: %+v", base.Flours)
	}
}
