package plan

import (
	"encoding/json"
	"reflect"
	"slices"
	"strings"
	"testing"

	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// bases are batches that between them use all that may be chosen.
func bases() []request.Request {
	base := func(change func(*request.Request)) request.Request {
		r := request.Default()
		r.Amount.By = request.ByFlour
		change(&r)
		return r
	}
	return []request.Request{
		base(func(*request.Request) {}),
		base(func(r *request.Request) {
			r.Cut.Shape, r.Cut.Filling.Name, r.Keep.Where = "ravioli-round", "ricotta", "fridge"
		}),
		base(func(r *request.Request) {
			r.Roll.Machine, r.Rest.At, r.Bench.HookG = "pin-board", request.InFridge, ptr(1200)
		}),
		base(func(r *request.Request) {
			r.Cut.Shape, r.Knead.School, r.Bench.ProcessorG = "cavatelli", knead.Processor, ptr(600)
		}),
		base(func(r *request.Request) {
			r.Amount.By, r.Knead.Mix, r.Dry.Keep, r.Room.RH, r.Room.TempC = request.ByPortions, request.InBowl, true,
				.4, 31
			r.Roll.Machine = "sheeter-mm"
		}),
		base(func(r *request.Request) {
			r.Flours = []request.FlourPart{{Flour: "rice", Share: 1, Kept: "paper_bag", ContainsKG: 1}}
		}),
		base(func(r *request.Request) { // eggs fixed, so that there is something to top up with
			r.Eggs.FixWhole, r.Amount.FlourG, r.Additions = ptr(7), 1000, []request.AdditionPart{{Addition: "spinach",
				Share: .1}}
		}),
		base(func(r *request.Request) { // thick at the widest, much fat, rounds that gain by staggering
			r.Roll.Machine, r.Roll.Folds, r.Eggs.Style, r.Cut.Shape, r.Cut.Width = "sheeter-mm", ptr(2), egg.YolksOnly,
				"ravioli-round", ptr(45)
		}),
		base(func(r *request.Request) {
			r.Cut.Shape, r.Roll.Machine, r.Roll.Folds = "cutter-spaghetti", "mixer-8", ptr(4)
		}),
		base(func(r *request.Request) { // more than one pair of hands kneads at once, and two pairs to share it
			r.Amount.FlourG, r.Bench.People = 1300, 2
		}),
		base(func(r *request.Request) { r.Amount.FlourG = 90 }), // no whole number serves
		base(func(r *request.Request) { // own steps, more than one pair of hands kneads at once
			r.Amount.FlourG, r.Bench.People, r.Knead.By = 1700, 3, request.KneadOwn
			r.Knead.Steps = []request.KneadStep{{Do: request.DoHand, Min: 6}, {Do: request.DoRest, Min: 25}}
		}),
		base(func(r *request.Request) {
			r.Knead.By, r.Knead.Steps = request.KneadOwn, []request.KneadStep{{Do: request.DoRest, Min: 40}}
		}),
		base(func(r *request.Request) {
			r.Roll.By, r.Roll.Steps = request.WayOwn, []request.RollStep{{Stop: "0", Passes: 2}, {Stop: "3", Passes: 1}}
		}),
		base(func(r *request.Request) { // a rope among the shapes
			r.Cut.Also = []request.ShapePart{{Shape: "orecchiette", Portions: 3}}
		}),
		base(func(r *request.Request) { // a pattern of its own
			r.Roll.Stripes.Strips = []roll.Strip{{Colour: roll.OtherDough, WidthMM: 12, GapMM: 6},
				{Colour: roll.OtherDough, WidthMM: 5, GapMM: 9}}
		}),
		base(func(r *request.Request) { // as it is made, with flour to spare
			r.Amount.By, r.Amount.FlourG, r.Eggs.FixWhole = request.ByOwn, 700, ptr(5)
		}),
		base(func(r *request.Request) { // dried at all three moments, by minutes that wait to be said
			for _, d := range []*request.Drying{&r.Dry.Sheet, &r.Dry.Pieces.Drying, &r.Dry.Packing.Drying} {
				d.By, d.Min = request.DrySaid, ptr(12)
			}
			r.Eggs.LiquidG, r.Room.Air, r.Amount.FlourG = ptr(60), dry.Fan, 600
		}),
		base(func(r *request.Request) { // as it is made, with more liquid by than it takes
			r.Amount.By, r.Amount.FlourG, r.Eggs.FixWhole, r.Eggs.LiquidG = request.ByOwn, 600, ptr(4), ptr(200)
			for _, d := range []*request.Drying{&r.Dry.Sheet, &r.Dry.Pieces.Drying, &r.Dry.Packing.Drying} {
				d.By, d.Min = request.DrySaid, ptr(12)
			}
		}),
		base(func(r *request.Request) { // a second pass at the last stop, sheets of small pieces
			r.Roll.Pieces, r.Roll.BenchMM, r.Roll.TargetMM, r.Cut.Width, r.Cut.Tool = ptr(7), 700, ptr(.8), ptr(2),
				cut.Cutter
		}),
	}
}

// figures is everything a plan says beside what was asked of it.
func figures(t *testing.T, r request.Request) string {
	t.Helper()
	p := must(t, r)
	joined, _ := p.Join()
	third, of, share, _ := p.ThirdColour()
	laid := p.Request.Roll.Stripes
	b, err := json.Marshal([]any{joined, third, of.Key, share, laid.Bands(), laid.MassG(roll.OtherDough, 1),
		laid.MassG(roll.ThirdColour, 1),
		p.Formula, p.Room, p.Knead, p.Rest, p.Roll, p.Cut, p.Dry, p.Keep, p.Cook, p.Cost, p.Why, p.Notes, p.Steps,
		p.Ingredients(&p.Cut.CutPart), p.Formula.Allergens})
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// Each thing that may be chosen counts: no two choices of a field give the same plan of every
// batch, so none is planned as another.
func TestEveryChoiceCounts(t *testing.T) {
	all := bases()
	for _, f := range request.Fields() {
		options := []request.Option{{Key: ""}, {Key: "yes"}}
		switch {
		case f.Slot > 0 || f.Group == "acts" || f.Part == "lot" || f.Path == "by_the_book":
			// what the first slot takes, the others do; acts, loads and what is learned have tests of their own
			continue
		case f.Kind == request.Choice:
			options = f.Options
		case f.Kind != request.Flag:
			continue
		}
		plans := make([]string, len(options))
		for _, base := range all {
			if f.Group != "" {
				base = request.Padded(base)
			}
			for i, o := range options {
				r := base
				if f.Group != "" {
					r = request.Padded(base) // lists of its own
				}
				if err := f.Set(&r, o.Key); err != nil {
					t.Fatalf("%s %s: %v", f.Path, o.Key, err)
				}
				if f.Group != "" {
					request.Start(&r, &base)
					r = request.Pruned(r)
				}
				if r.Check(rules.Default()) == nil {
					plans[i] += figures(t, r)
				}
			}
		}
		for i := range options {
			for k := range i {
				if plans[i] == plans[k] && plans[i] != "" {
					t.Errorf("%s: %q is planned as %q", f.Path, options[i].Key, options[k].Key)
				}
			}
		}
	}
}

// Every family of shapes has its row, every part of it, and every way to dust its flour.
func TestTablesAreComplete(t *testing.T) {
	for _, f := range cut.Families() {
		row := reflect.ValueOf(families[f])
		for i := range row.NumField() {
			if row.Field(i).IsZero() {
				t.Errorf("%s has no %s", f, row.Type().Field(i).Name)
			}
		}
	}
	if len(families) != len(cut.Families()) {
		t.Errorf("%d rows for %d families", len(families), len(cut.Families()))
	}
	f, _ := request.FieldAt("roll.dusted_with")
	for _, o := range f.Options {
		if _, ok := dusts[request.Dust(o.Key)]; !ok && request.Dust(o.Key) != request.DustOwn &&
			request.Dust(o.Key) != request.DustAuto {
			t.Errorf("nobody knows what %s is made of", o.Key)
		}
	}
}

// A key is one step's, names its kind, and stays while the way does; the steps of one pair of
// hands follow one another.
func TestStepsHaveKeys(t *testing.T) {
	for _, r := range bases() {
		p := must(t, r)
		seen, now := map[string]bool{}, p.Steps[0].FromMin // a filling is made before
		for i, s := range append(p.Steps, p.Passes(1)...) {
			kind, number, ok := strings.Cut(s.Key, ".")
			switch {
			case seen[s.Key] || !ok || kind == "" || number == "":
				t.Errorf("%s: a key of its own is wanted", s.Key)
			case s.Head == "" || s.Text == "" && !strings.Contains(s.Key, "pass") || s.Station == "":
				t.Errorf("%s says nothing: %+v", s.Key, s)
			case s.Min > 0 && (s.LeastMin > s.Min+1e-9 || s.MostMin < s.Min-1e-9):
				t.Errorf("%s: %v of %v to %v min", s.Key, s.Min, s.LeastMin, s.MostMin)
			case i < len(p.Steps) && s.FromMin < now-1e-9:
				t.Errorf("%s begins at %v, before %v", s.Key, s.FromMin, now)
			}
			if seen[s.Key] = true; i < len(p.Steps) {
				now = s.FromMin
			}
		}
		r.Room.RH, r.Amount.FlourG = r.Room.RH+.01, r.Amount.FlourG*1.01
		// the water goes on at the border nearest its minutes
		was, is := keysBut(p, "water.1"), keysBut(must(t, r), "water.1")
		if !slices.Equal(was, is) {
			t.Errorf("a hair damper, and %v is %v", was, is)
		}
	}
}

// What a batch was made with is kept as its request and the rules of that day: read back they
// give the same plan, to the letter, whatever the rules have become.
func TestPlanOfKeptRules(t *testing.T) {
	old := rules.Default()
	old.Room.HeldBackShare, old.Knead.ReadyT, old.Roll.PieceFlourG = .11, .4, 133
	for _, r := range bases() {
		for _, in := range []measure.System{measure.Metric, measure.Customary} {
			then, err := MakeIn(in, old, r)
			if err != nil {
				t.Fatal(err)
			}
			kept, err := json.Marshal(struct {
				Request request.Request
				Rules   rules.Rules
			}{then.Request, then.Rules()})
			if err != nil {
				t.Fatal(err)
			}
			var read struct {
				Request request.Request
				Rules   rules.Rules
			}
			if err := json.Unmarshal(kept, &read); err != nil {
				t.Fatal(err)
			}
			again, err := MakeIn(in, read.Rules, read.Request)
			if err != nil {
				t.Fatal(err)
			}
			a, _ := json.Marshal(then)
			b, _ := json.Marshal(again)
			if string(a) != string(b) {
				t.Errorf("%s: another plan of what was kept:\n%s\n%s", in, a, b)
			}
			if !reflect.DeepEqual(then.Rules(), old) {
				t.Error("the rules kept are not those it was made by")
			}
			if now, _ := json.Marshal(must(t, r)); string(now) == string(a) {
				t.Error("the rules of that day made no difference")
			}
		}
	}
}

// A plan that was only read is refused: it carries no rules to go on by.
func TestPlanReadIsRefused(t *testing.T) {
	b, err := json.Marshal(must(t, request.Default()))
	if err != nil {
		t.Fatal(err)
	}
	var p Plan
	if err := json.Unmarshal(b, &p); err == nil || !strings.Contains(err.Error(), "request") {
		t.Errorf("read as a plan: %v", err)
	}
}

// keysBut are the keys of a plan's steps, in order, but one, which must be among them.
func keysBut(p *Plan, but string) (out []string) {
	found := false
	for _, s := range p.Steps {
		if found = found || s.Key == but; s.Key != but {
			out = append(out, s.Key)
		}
	}
	if !found {
		return nil
	}
	return out
}
