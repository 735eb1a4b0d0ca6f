package plan

import (
	"errors"
	"math"
	"strings"
	"testing"

	"hollen/internal/core/cut"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Six portions of tagliatelle and four of pappardelle from one dough: whole sheets, all of them
// shared out, both served, and every gram of the sheets in shapes or trimmings.
func TestMixedCuts(t *testing.T) {
	r := request.Default()
	r.Cut.Also = []request.ShapePart{{Shape: "pappardelle", Portions: 4}}
	p := must(t, r)
	c := &p.Cut
	if len(c.Also) != 1 || c.Sheets+c.Also[0].Sheets != p.Roll.SheetsAll {
		t.Fatalf("%d and %d of %d sheets", c.Sheets, c.Also[0].Sheets, p.Roll.SheetsAll)
	}
	if c.WantsG != 720 || c.Also[0].WantsG != 480 || c.Portions < 5.9 || c.Also[0].Portions < 3.9 {
		t.Errorf("%.0f and %.0f g wanted, %.2f and %.2f portions", c.WantsG, c.Also[0].WantsG, c.Portions,
			c.Also[0].Portions)
	}
	if all := float64(p.Roll.Pieces) * p.Roll.RolledG; math.Abs(c.AllDoughG+c.AllTrimG-all) > 1e-6 ||
		math.Abs(c.ScrapPortions*70-c.AllTrimG) > 1e-6 {
		t.Errorf("%v + %v of %v g", c.AllDoughG, c.AllTrimG, all)
	}
	r.Amount.By, r.Amount.FlourG = "flour", 1200
	if p = must(t, r); p.Cut.Also[0].Portions < 3.9 || p.Cut.Also[0].Portions > 5.5 ||
		p.Cut.Sheets <= p.Cut.Also[0].Sheets {
		t.Errorf("by flour: %+v and %+v sheets", p.Cut.Sheets, p.Cut.Also[0])
	}
	r = request.Default()
	r.Cut.Also = []request.ShapePart{{Shape: "ravioli", Portions: 3}, {Shape: "quadretti", Portions: 2}}
	if k := must(t, r).Cook; len(k.Also) != 2 || k.Also[0].FromS <= k.FromS || k.Also[1].FromS > k.Also[0].FromS {
		t.Errorf("ravioli are done before tagliatelle: %+v", k)
	}
	if p = must(t, r); p.Cut.Also[0].Count == 0 || p.Cut.Also[1].Count == 0 || p.Cut.FillTotalG <= p.Cut.AllFillG {
		t.Errorf("%s", p.SharedWords())
	}
}

func TestFilledByPortions(t *testing.T) {
	r := request.Default()
	r.Cut.Shape, r.Amount.Portions = "ravioli", 10
	r.Cut.Filling = request.Filling{Name: "ricotta and nettle", Allergens: "Milk, egg"}
	p := must(t, r)
	c := &p.Cut
	if math.Abs(c.MadeG-1500) > 80 || math.Abs(c.MadeG-c.DoughG-c.FillG) > 1e-6 || math.Abs(c.FillG/float64(
		c.Count)-6.55) > .01 {
		t.Errorf("%.0f g made of %.0f dough and %.0f filling in %d", c.MadeG, c.DoughG, c.FillG, c.Count)
	}
	if p.Formula.Target.Hw != must(t, request.Default()).Formula.Target.Hw+1 {
		t.Error("a filled shape wants a softer dough")
	}
	if a := strings.Join(p.Formula.Allergens, " "); !strings.Contains(a, "milk") || strings.Count(a, "egg") != 1 {
		t.Errorf("allergens: %s", a)
	}
	cold, raw := p.Cook.Seconds, p.Keep
	r.Cut.Filling.Kind, r.Keep.Where = request.FillingMeat, "fridge"
	if p = must(t, r); p.Cook.Seconds <= cold || p.Keep.ToDays != 1 || raw.Where != "" {
		t.Errorf("raw: %v s, %+v", p.Cook.Seconds, p.Keep)
	}
}

// A formed shape passes through no rollers: a rope, no folded passes, no sheet to hang.
func TestFormedFromRope(t *testing.T) {
	r := request.Default()
	r.Cut.Shape, r.Eggs.Style, r.Flours[0].Flour = "orecchiette", "none", "semola-fine"
	p := must(t, r)
	c := &p.Cut
	if !p.Roped() || p.Roll.Folds != 0 || p.Dry.RodM != 0 || p.Roll.SheetMM != 2.2 {
		t.Errorf("%+v", p.Roll)
	}
	if math.Abs(c.MadeG-float64(c.Count)*1.4) > 1e-6 || math.Abs(c.MadeG-1200) > 40 {
		t.Errorf("%d pieces, %.0f g", c.Count, c.MadeG)
	}
	var fe request.FieldError
	r.Cut.Also = []request.ShapePart{{Shape: "tagliatelle", Portions: 2}}
	if _, err := Make(rules.Default(), r); !errors.As(err, &fe) || fe.Path != "cut.also.0.shape" {
		t.Errorf("%v", err)
	}
}

// Small squares are cut by strokes across the sheet, not one by one; what is pinched or rolled
// takes its time.
func TestHandsAtTheCut(t *testing.T) {
	minutes := map[string]float64{}
	for _, shape := range []string{"quadretti", "farfalle", "ravioli", "orecchiette", "tagliatelle"} {
		r := request.Default()
		r.Cut.Shape = shape
		p := must(t, r)
		if minutes[shape] = p.Cut.AllMin; p.Cut.AllMin < 4 || p.Cut.AllMin > 90 {
			t.Errorf("%s: %v min at the cut for ten portions", shape, p.Cut.AllMin)
		}
	}
	if minutes["farfalle"] < minutes["tagliatelle"] {
		t.Errorf("%v", minutes)
	}
}

// Trims of the maker's own are what is cut off, and no other plan's.
func TestOwnTrims(t *testing.T) {
	r := request.Default()
	r.Amount.By, r.Cut.TrimEnd, r.Cut.TrimSide = "flour", ptr(0), ptr(0)
	bare := must(t, r)
	r.Cut.TrimEnd, r.Cut.TrimSide = nil, nil
	usual := must(t, r)
	if bare.Cut.EndTrimMM > 1e-9 || bare.Cut.AllTrimG >= usual.Cut.AllTrimG || usual.Cut.SideTrimMM < 3 ||
		usual.Rules().Cut.TrimEndMM != 10 {
		t.Errorf("%+v and %+v", bare.Cut.Layout, usual.Cut.Layout)
	}
}

func TestCuttersOfTheMachine(t *testing.T) {
	r := request.Default()
	r.Cut.Shape = "fettuccine"
	p := must(t, r)
	if p.Cut.Cutter == nil || p.Cut.WidthMM != 6.5 || p.Cut.KnifeCuts != 0 || p.Cut.Tool != cut.Cutter {
		t.Errorf("%+v", p.Cut.CutPart)
	}
	r.Roll.Machine = "pin-board"
	if p = must(t, r); p.Cut.Cutter != nil || p.Cut.WidthMM != 6 || p.Cut.KnifeCuts == 0 {
		t.Errorf("with a pin: %+v", p.Cut.CutPart)
	}
}

func TestKeepByTheClock(t *testing.T) {
	r := request.Default()
	r.Keep = request.Keep{Where: "fridge", MadeAt: "2026-11-28T11:30"}
	p := must(t, r)
	if p.Keep.UseBy != "2026-11-30T11:30" || p.Keep.Freezer != "2027-01-27T11:30" || p.Keep.Dough != p.Keep.UseBy {
		t.Errorf("%+v", p.Keep)
	}
	r.Keep, r.MadeOn = request.Keep{Where: "freezer"}, "2026-11-28"
	if p = must(t, r); p.Keep.UseBy != "2027-01-27" {
		t.Errorf("%+v", p.Keep)
	}
	var fe request.FieldError
	r.Keep.Days = ptr(90)
	if _, err := Make(rules.Default(), r); !errors.As(err, &fe) || fe.Path != "keep.note" {
		t.Errorf("longer without a reason: %v", err)
	}
	// A raw filling shortens nothing where nothing is filled; drying to keep has its own days.
	ribbons := request.Default()
	ribbons.Cut.Filling.Kind, ribbons.Keep = request.FillingMeat, request.Keep{Where: "fridge", Days: ptr(2)}
	if _, err := Make(rules.Default(), ribbons); err != nil {
		t.Errorf("two days for ribbons: %v", err)
	}
	ribbons.Cut.Shape = "agnolotti"
	if _, err := Make(rules.Default(), ribbons); !errors.As(err, &fe) || fe.Path != "keep.note" {
		t.Errorf("two days for a raw filling: %v", err)
	}
	shelf := request.Default()
	shelf.Dry.Keep, shelf.Keep.Days = true, ptr(90)
	if _, err := Make(rules.Default(), shelf); !errors.As(err, &fe) || fe.Path != "keep.note" {
		t.Errorf("90 days dried, without a reason: %v", err)
	}
	r.Keep.Note = "blast frozen"
	if p = must(t, r); p.Keep.UseBy != "2027-02-26" || !p.Keep.Own {
		t.Errorf("%+v", p.Keep)
	}
	r.Dry.Keep, r.Dry.RawG = true, ptr(1000)
	r.Dry.Log = []request.DryCheck{{At: "2026-11-28T12:00", G: ptr(980)}, {At: "2026-11-28T15:00", G: ptr(880)}}
	if p = must(t, r); p.Dry.ToKeep.Now == nil || p.Dry.ToKeep.Now.MoreMin <= 0 || len(p.Dry.ToKeep.Checks) != 2 {
		t.Errorf("%+v", p.Dry.ToKeep)
	}
	r.Dry.Log[1].At = "2026-11-28T11:00"
	if _, err := Make(rules.Default(), r); !errors.As(err, &fe) || fe.Path != "dry.checks.1.at" {
		t.Errorf("weighings out of order: %v", err)
	}
}

// The food clock never runs backwards: what dries on to firm nests has been warm for longer, also
// where this air does not firm them in two hours.
func TestNestsWaitNoShorter(t *testing.T) {
	for _, shape := range []string{"tagliatelle", "ravioli", "lasagne"} {
		for rh := .3; rh < .99; rh += .03 {
			r := request.Default()
			r.Cut.Shape, r.Room.RH = shape, rh
			fresh := must(t, r).Dry
			r.Dry.Pieces.By, r.Dry.Pieces.On = request.DryWorked, request.OnRack
			nest := must(t, r).Dry
			firm := len(nest.Moments) == 1 && nest.Moments[0].Right.Will
			if nest.OutMin < fresh.OutMin-1e-9 || firm && nest.OutMin <= fresh.OutMin || nest.Nest.Will && !firm {
				t.Errorf("%s at %.2f: %.0f min to nests, %.0f fresh", shape, rh, nest.OutMin, fresh.OutMin)
			}
		}
	}
}

// In air near its own humidity the dough will not dry, and no minutes are given.
func TestFogDriesNothing(t *testing.T) {
	for _, rh := range []float64{.96, .97, .99} {
		r := request.Default()
		r.Room.RH = rh
		if p := must(t, r); p.Warnings(request.AtDry) != 0 {
			t.Errorf("at %v it is warned of what nobody asked for", rh)
		}
		r.Dry.Sheet.By = request.DryWorked
		p := must(t, r)
		if p.Dry.Leather.Will || p.Dry.Nest.Will || p.Dry.Brittle.Will || p.LossAt(90) != 0 || len(p.Dry.Moments) > 0 {
			t.Errorf("at %v: %+v", rh, p.Dry)
		}
		if p.Warnings(request.AtDry) == 0 {
			t.Errorf("at %v nothing says so", rh)
		}
	}
}
