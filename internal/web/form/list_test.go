package form

import (
	"net/url"
	"strconv"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// posted is a request as the plain form posts it.
func posted(r request.Request) url.Values {
	v, page := url.Values{}, request.Padded(r)
	for _, f := range request.Fields() {
		v.Set(f.Path, f.Get(&page))
	}
	return v
}

func said(f Form) string {
	var out []string
	for _, s := range f.Request.Knead.Steps {
		out = append(out, string(s.Do)+" "+strconv.FormatFloat(s.Min, 'f', -1, 64))
	}
	return strings.Join(out, ", ")
}

// The keys of a list post, too: lines are added, moved, repeated and taken out, with what is wrong in them.
func TestLinesAreRearranged(t *testing.T) {
	base := request.Default()
	bind := func(change func(url.Values)) Form {
		t.Helper()
		v := posted(base)
		change(v)
		f, err := Bind(base, v, With{Rules: rules.Default()}, time.Now())
		if err != nil {
			t.Fatal(err)
		}
		return f
	}
	f := bind(func(v url.Values) { v.Set("knead.by", "own"); v.Set("was_by", "") })
	if !strings.HasPrefix(said(f), "mix 5, hand ") || len(f.Request.Knead.Steps) != 3 {
		t.Fatalf("taken over as %q", said(f))
	}
	if f := bind(func(v url.Values) {
		v.Set("knead.by", "own")
		v.Set("was_by",
			"own")
	}); len(f.Request.Knead.Steps) != 0 {
		t.Errorf("a list that was emptied is filled again: %q", said(f))
	}
	base = f.Request
	base.Knead.Steps = []request.KneadStep{{Do: "mix", Min: 4}, {Do: "hand", Min: 8}, {Do: "rest", Min: 25}}
	for list, want := range map[string]string{
		"knead.own_steps:up:2": "mix 4, rest 25, hand 8", "knead.own_steps:down:0": "hand 8, mix 4, rest 25",
		"knead.own_steps:up:0": "mix 4, hand 8, rest 25", "knead.own_steps:down:2": "mix 4, hand 8, rest 25",
		"knead.own_steps:again:1": "mix 4, hand 8, hand 8, rest 25", "knead.own_steps:out:0": "hand 8, rest 25",
		"knead.own_steps:add:fridge": "mix 4, hand 8, rest 25, fridge 720",
		"knead.own_steps:add:fly":    "mix 4, hand 8, rest 25",
		"knead.own_steps:out:99":     "mix 4, hand 8, rest 25", "nothing:up:1": "mix 4, hand 8, rest 25",
		"x":                        "mix 4, hand 8, rest 25",
		"knead.own_steps:again:-1": "mix 4, hand 8, rest 25",
	} {
		if f := bind(func(v url.Values) { v.Set("list", list) }); said(f) != want || len(f.Errors) > 0 {
			t.Errorf("%s: %q, not %q; %v", list, said(f), want, f.Errors)
		}
	}
	// What is wrong goes where its line goes.
	f = bind(func(v url.Values) { v.Set("knead.own_steps.1.min", "a while"); v.Set("list", "knead.own_steps:up:1") })
	if e, ok := f.Errors["knead.own_steps.0.min"]; !ok || f.Typed["knead.own_steps.0.min"] != "a while" ||
		!strings.Contains(e.Allowed, "2,880") {
		t.Errorf("%v %v", f.Errors, f.Typed)
	}
	f = bind(func(v url.Values) { v.Set("knead.own_steps.1.min", "a while"); v.Set("list", "knead.own_steps:out:1") })
	if len(f.Errors) > 0 {
		t.Errorf("what is wrong stays behind: %v", f.Errors)
	}
	for len(base.Knead.Steps) < request.MaxSteps {
		base.Knead.Steps = append(base.Knead.Steps, request.KneadStep{Do: "pause", Min: 1})
	}
	for _, list := range []string{"knead.own_steps:add:rest", "knead.own_steps:again:1"} {
		f = bind(func(v url.Values) { v.Set("list", list) })
		if len(f.Request.Knead.Steps) != request.MaxSteps || len(f.Errors) != 1 {
			t.Errorf("%s to a full list: %q, %v", list, said(f), f.Errors)
		}
	}
}

// A tap on a stop puts a pass where it belongs, and a tap on a pass folds it.
func TestStopsAreTapped(t *testing.T) {
	base := request.Default()
	base.Roll.By = request.WayOwn
	base.Roll.Steps = []request.RollStep{{Stop: "0", Passes: 2}, {Stop: "3", Passes: 1}, {Stop: "6", Passes: 1}}
	for list, want := range map[string]string{"roll.own_passes:tap:3": "0 3 3 6", "roll.own_passes:tap:8": "0 3 6 8",
		"roll.own_passes:tap:1": "0 1 3 6",
		"roll.own_passes:tap:0": "0 0 3 6", "roll.own_passes:tap:99": "0 3 6", "knead.own_steps:tap:3": "0 3 6",
		"roll.own_passes:fold:7": "0 3 6",
		"roll.own_passes:fold:1": "0 3half 6",
		"flours:out:0":           "0 3 6", "flours:add:rye": "0 3 6", "roll.own_passes:add:8 mm": "8 mm 0 3 6"} {
		v := posted(base)
		v.Set("list", list)
		f, err := Bind(base, v, With{Rules: rules.Default()}, time.Now())
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, s := range f.Request.Roll.Steps {
			got = append(got, s.Stop+string(s.Fold))
		}
		if strings.Join(got, " ") != want {
			t.Errorf("%s: %q, not %q", list, got, want)
		}
	}
}
