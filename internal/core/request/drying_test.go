package request

import (
	"encoding/json"
	"testing"

	"hollen/internal/core/rules"
)

// written is a request as it was written before drying could be said.
func written(t *testing.T, after After) []byte {
	t.Helper()
	doc, err := json.Marshal(Default())
	if err != nil {
		t.Fatal(err)
	}
	var all map[string]any
	if err := json.Unmarshal(doc, &all); err != nil {
		t.Fatal(err)
	}
	dry := all["dry"].(map[string]any)
	for _, later := range []string{"sheet", "pieces", "packing"} {
		delete(dry, later)
	}
	all["cook"].(map[string]any)["after"] = after
	if doc, err = json.Marshal(all); err != nil {
		t.Fatal(err)
	}
	return doc
}

// A request from before drying was said dries nothing nobody asked for; one a making was begun with keeps what it was.
func TestRequestsFromBefore(t *testing.T) {
	for after, want := range map[After]struct {
		pieces DryBy
		keep   bool
		after  After
	}{Fresh: {}, AtLeather: {}, FirmNests: {pieces: DryWorked}, DriedHard: {keep: true}, Frozen: {after: Frozen}} {
		doc := written(t, after)
		now, begun := Default(), Default()
		for _, r := range []*Request{&now, &begun} {
			if err := json.Unmarshal(doc, r); err != nil {
				t.Fatal(err)
			}
		}
		now.DriesNow()
		if now.Dry.Sheet.Said() || now.Dry.Pieces.By != want.pieces || now.Dry.Keep != want.keep ||
			now.Cook.After != want.after || now.Check(rules.Default()) != nil {
			t.Errorf("%s is read as %+v, %+v: %v", after, now.Dry, now.Cook, now.Check(rules.Default()))
		}
		begun.DriesAsBefore(doc)
		if begun.Dry.Sheet.By != DryWorked || begun.Cook.After != after || begun.Check(rules.Default()) != nil {
			t.Errorf("begun with %s: %+v, %+v: %v", after, begun.Dry, begun.Cook, begun.Check(rules.Default()))
		}
	}
	later, err := json.Marshal(Default())
	if err != nil {
		t.Fatal(err)
	}
	r := Default()
	if r.DriesAsBefore(later); r.Dry.Sheet.Said() {
		t.Error("what says that nothing dries is taken for older")
	}
	// A form that still has the old choice is read as the new one.
	f, _ := FieldAt("cook.after")
	if err := f.Set(&r, "leather"); err != nil || r.Cook.After != AsDried {
		t.Errorf("leather is set as %q: %v", r.Cook.After, err)
	}
}

// What is measured out counts as long as its field weighs what it was counted as, and survives being carried.
func TestMeasures(t *testing.T) {
	r := Default()
	r.Amount.By, r.Amount.FlourG = ByOwn, 300
	r.Measure(Said{"flours.0.share", "2 cups", 250, 300, 340})
	r.Measure(Said{"oil_share", "a generous | tablespoon; good", 13, 3, 19}) // more than it is counted as
	if got := r.Measured(); len(got) != 1 || got[0].Text != "2 cups" || r.Check(rules.Default()) != nil {
		t.Errorf("%+v: %v", got, r.Check(rules.Default()))
	}
	r.Measures = ""
	r.Oil = .05
	r.Measure(Said{"flours.0.share", "2 cups", 250, 300, 340})
	r.Measure(Said{"oil_share", "a generous | tablespoon; good", 13, 15, 19})
	if got := r.Measured(); len(got) != 2 || r.Check(rules.Default()) != nil {
		t.Errorf("%q: %+v, %v", r.Measures, got, r.Check(rules.Default()))
	}
	soft := r.WithMasses(map[string]float64{"flours.0.share": 250, "oil_share": 19})
	if soft.Amount.FlourG != 250 || soft.Oil != 19./250 || soft.Measures != "" || soft.Salt != r.Salt*300/250 {
		t.Errorf("%+v, oil %v", soft.Amount, soft.Oil)
	}
	r.Amount.FlourG = 310 // weighed since
	if got := r.Measured(); len(got) != 0 {
		t.Errorf("weighed, and still measured out: %+v", got)
	}
	for _, bad := range []Measures{"x", "flours.0.share = 2 cups | 1 | 2", "oil_share = a | 3 | 2 | 1",
		"oil_share = | 1 | 2 | 3"} {
		r.Measures = bad
		if r.Check(rules.Default()) == nil {
			t.Errorf("%q is allowed", bad)
		}
	}
}

// A range that ends before it begins is refused beside its end.
func TestRangesRunOn(t *testing.T) {
	thirty, ten := 30., 10.
	for path, change := range map[string]func(r *Request){
		"dry.sheet.to_min":       func(r *Request) { r.Dry.Sheet.Min, r.Dry.Sheet.ToMin = &thirty, &ten },
		"dry.pieces.to_min":      func(r *Request) { r.Dry.Pieces.Min, r.Dry.Pieces.ToMin = &thirty, &ten },
		"dry.packing.to_min":     func(r *Request) { r.Dry.Packing.Min, r.Dry.Packing.ToMin = &thirty, &ten },
		"cook.to_min":            func(r *Request) { r.Cook.Min, r.Cook.ToMin = &thirty, &ten },
		"cut.also.0.cook_to_min": func(r *Request) { r.Cut.Also[0].PotMin, r.Cut.Also[0].PotToMin = &thirty, &ten },
	} {
		r := Default()
		r.Cut.Also = []ShapePart{{Shape: "pappardelle", Portions: 3}}
		change(&r)
		if all := Errors(r.Check(rules.Default())); len(all) != 1 || all[0].Path != path {
			t.Errorf("%s: %v", path, all)
		}
	}
}
