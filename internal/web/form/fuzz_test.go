package form

import (
	"net/url"
	"testing"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/demo"
)

// Whatever a form says, what is bound of it is allowed, can be planned, and what cannot be read stands beside its field
// as it was typed.
func FuzzBind(f *testing.F) {
	base := demo.Batch(demo.Saturday)
	cab := demoCabinet()
	for _, s := range []string{"amount.flour_g=1+kg&room.rh=61", "flours.0.share=half&flours.3.flour=own-1",
		"list=knead.own_steps:add:hand&knead.by=own",
		"set=room.rh%3D44%26room.temp_c%3D21", "cut.also.0.shape=ravioli&cut.also.0.portions=4",
		"step=amount.portions=1&at=doctor:tears", "dry.checks.3.g=412",
		"roll.by=own&list=roll.own_passes:tap:4",
		"amount.by=own&amount.flour_open=yes&eggs.also.0.class=us-l&acts.0.kind=water&acts.0.amount=1e9",
		"made_on=0000-99-99&clock.roll_at=x"} {
		f.Add(s, false)
		f.Add(s, true)
	}
	f.Fuzz(func(t *testing.T, query string, customary bool) {
		v, err := url.ParseQuery(query)
		if err != nil || len(query) > 4000 {
			return
		}
		w := With{Rules: rules.Default(), Cabinet: cab, Typed: measure.Metric, Shown: measure.Metric}
		if customary {
			w.Typed, w.Shown = measure.Customary, measure.Customary
		}
		out, err := Bind(LastGood(base, v, w.Rules), v, w, time.Date(2026, 11, 28, 9, 0, 0, 0, time.UTC))
		if err != nil {
			return // it cannot be worked out, and is said to
		}
		if err := out.Request.Check(w.Rules); err != nil {
			t.Errorf("%q is bound, and not allowed: %v", query, err)
		}
		for path, e := range out.Errors {
			if _, known := request.FieldAt(path); !known || e.Allowed == "" {
				t.Errorf("%q: %s: %+v", query, path, e)
			}
		}
	})
}
