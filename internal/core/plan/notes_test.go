package plan

import (
	"slices"
	"strings"
	"testing"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/egg"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Each piece of advice stands where it belongs when, and only when, its cause is there.
func TestAdvice(t *testing.T) {
	for _, c := range []struct {
		code   string
		stage  request.Stage
		level  Level
		change func(*request.Request)
		says   string
	}{
		{"soft", request.AtFormula, Remark, func(r *request.Request) { r.Eggs.FixWhole = ptr(11) },
			"points over the sweet spot"},
		{"firm", request.AtFormula, Remark, func(r *request.Request) {
			r.Eggs.FixWhole, r.Eggs.TopUp = ptr(8),
				egg.TopNone
		}, "more water brings it in"},
		{"firm", request.AtFormula, Warning, func(r *request.Request) {
			r.Eggs.FixWhole, r.Eggs.OwnEggG,
				r.Eggs.TopUp = ptr(8), ptr(52), egg.TopNone
		},
			"by hand it crumbles"},
		{"no_sheet", request.AtFormula, Warning, func(r *request.Request) { r.Eggs.FixWhole = ptr(20) },
			"Too wet to roll"},
		{"egg_left", request.AtFormula, Remark, func(r *request.Request) { r.Amount.FlourG = 100 }, "by the board"},
		{"firm", request.AtFormula, Remark, func(r *request.Request) {
			r.Eggs.FixWhole, r.Eggs.TopUp = ptr(8),
				egg.TopNone
		},
			"With just 8 eggs, 815 g of flour would be right"},
		{"pin_yields", request.AtFormula, Remark, func(r *request.Request) {
			r.Eggs.CrackedG,
				r.Amount.FlourG = ptr(540), 400
		}, "540 g of egg was weighed"},
		{"no_gluten", request.AtFormula, Warning, func(r *request.Request) { r.Flours[0].Flour = "buckwheat" },
			"Gluten factor 0.00"},
		{"fragile", request.AtFormula, Warning, func(r *request.Request) { r.Flours[0].Flour = "emmer" },
			"roll thicker"},
		{"all_durum", request.AtFormula, Remark, func(r *request.Request) { r.Flours[0].Flour = "semola-fine" },
			"very hard"},
		{"salt", request.AtFormula, Remark, func(r *request.Request) { r.Salt = .015 }, "Over 1 %"},
		{"whites", request.AtFormula, Remark, func(r *request.Request) { r.Eggs.Style = egg.YolksOnly },
			"freeze them flat"},
		{"dates_apart", request.AtRest, Remark, func(r *request.Request) {
			r.MadeOn, r.Clock.RollAt = "2026-11-24",
				"2026-11-26T17:30"
		},
			"made on Tue 24 Nov, here it is Thu 26 Nov 17:30"},
		{"dates_apart", request.AtDry, Remark, func(r *request.Request) {
			r.MadeOn, r.Keep.MadeAt, r.Keep.Where = "2026-11-24", "2026-11-22T09:00", cook.Fridge
		},
			"made on Tue 24 Nov, here it is Sun 22 Nov 09:00"},
		{"air_clamped", request.AtRoom, Remark, func(r *request.Request) { r.Room.RH = .95 }, "10–90 %"},
		{"split", request.AtKnead, Remark, func(r *request.Request) { r.Amount.FlourG = 3000 }, "loads of"},
		{"hot", request.AtKnead, Warning, func(r *request.Request) { r.Room.TempC = 33 }, "eggs from the fridge"},
		{"folds", request.AtKnead, Warning, func(r *request.Request) { r.Knead.Min, r.Roll.Folds = ptr(2), ptr(0) },
			"folded passes instead of 0"},
		{"tension", request.AtRest, Warning, func(r *request.Request) { r.Rest.Min = ptr(5) }, "snaps back"},
		{"uptake", request.AtRest, Warning, func(r *request.Request) {
			r.Flours[0].Flour,
				r.Rest.Min = "semolina-coarse", ptr(20)
		}, "sandy"},
		{"no_rest", request.AtRest, Warning, func(r *request.Request) { r.Rest.Min = ptr(0) }, "can be done"},
		{"slow_to_cool", request.AtRest, Remark, func(r *request.Request) {
			r.Amount.FlourG, r.Bench.HandG, r.Rest.At, r.Rest.Min = 3000, ptr(6000), "fridge", ptr(720)
		}, "30 mm flat it takes"},
		{"warm_fridge", request.AtRest, Remark, func(r *request.Request) {
			r.Rest.At, r.Rest.Min,
				r.Bench.FridgeC = "fridge", ptr(720), 9
		}, "set it colder"},
		{"bowl", request.AtKnead, Remark, func(r *request.Request) { r.Knead.School, r.Bench.HookG = "hook", ptr(600) },
			"one after the other"},
		{"cold", request.AtRest, Remark, func(r *request.Request) { r.Rest.At, r.Rest.Min = "fridge", ptr(600) },
			"before rolling"},
		{"grey", request.AtRest, Remark, func(r *request.Request) { r.Rest.At, r.Rest.Min = "fridge", ptr(1440) },
			"48 hours"},
		{"over", request.AtRoll, Remark, func(r *request.Request) {
			r.Flours[0].Flour, r.Rest.Min,
				r.Roll.TargetMM = "emmer", ptr(5), ptr(.5)
		}, "is easy"},
		{"too_fine", request.AtRoll, Warning, func(r *request.Request) { r.Roll.TargetMM = ptr(.4) },
			"last stop leaves"},
		{"too_thick", request.AtRoll, Warning, func(r *request.Request) { r.Roll.TargetMM = ptr(6) }, "with a pin"},
		{"skin", request.AtRoll, Warning, func(r *request.Request) {
			r.Amount.FlourG, r.Room.RH, r.Room.Air = 4000, .2,
				dry.Fan
		}, "Cut after every"},
		{"no_ribbons", request.AtCut, Warning, func(r *request.Request) { r.Cut.Min, r.Cut.Max = ptr(2000), ptr(2000) },
			"a shorter shape"},
		{"thick_ribbon", request.AtCut, Warning, func(r *request.Request) { r.Roll.TargetMM = ptr(2.1) },
			"cooks unevenly"},
		{"cutter_thick", request.AtCut, Warning, func(r *request.Request) {
			r.Cut.Tool, r.Cut.Width,
				r.Roll.TargetMM = cut.Cutter, ptr(2), ptr(2)
		},
			"end at stop 6"},
		{"cutter_thin", request.AtCut, Warning, func(r *request.Request) {
			r.Cut.Tool, r.Cut.Width,
				r.Roll.TargetMM = cut.Cutter, ptr(2), ptr(.55)
		},
			"end at stop 7"},
		{"no_cutter", request.AtCut, Warning, func(r *request.Request) {
			r.Cut.Tool, r.Cut.Width = cut.Cutter,
				ptr(14)
		}, "It cuts 2 mm and 6.5 mm"},
		{"cutter_width", request.AtCut, Remark, func(r *request.Request) { r.Cut.Tool = cut.Cutter },
			"6.5 mm where 7 mm"},
		{"seam", request.AtCut, Warning, func(r *request.Request) {
			r.Cut.Shape, r.Roll.TargetMM = "ravioli",
				ptr(1.2)
		}, "end at stop 8"},
		{"overfilled", request.AtCut, Warning, func(r *request.Request) {
			r.Cut.Shape, r.Cut.Filling.PieceG = "ravioli",
				ptr(14)
		}, "bursts"},
		{"raw_filling", request.AtCut, Caution, func(r *request.Request) {
			r.Cut.Shape,
				r.Cut.Filling.Kind = "agnolotti", request.FillingFish
		}, "cook through"},
		{"shape", request.AtCut, Caution, func(r *request.Request) { r.Cut.Shape = "yolk-raviolo" },
			"not for the pregnant"},
		{"no_sheet_left", request.AtCut, Warning, func(r *request.Request) {
			r.Amount.By, r.Amount.FlourG = "flour", 300
			r.Roll.Pieces, r.Roll.BenchMM, r.Cut.Also = ptr(1), 8000, []request.ShapePart{{Shape: "pappardelle",
				Portions: 4}}
		}, "more pieces"},
		{"other_sheet", request.AtCut, Remark, func(r *request.Request) {
			r.Cut.Also = []request.ShapePart{{
				Shape: "cutter-spaghetti", Portions: 4}}
		},
			"at a stop of their own"},
		{"rods", request.AtDry, Warning, func(r *request.Request) { r.Bench.RodM = ptr(.5) }, "at a time"},
		{"trays", request.AtDry, Warning, func(r *request.Request) { r.Bench.Trays, r.Cut.Shape = ptr(1), "ravioli" },
			"before the next"},
		{"dry_how_long", request.AtDry, Remark, func(r *request.Request) { r.Dry.Pieces.By = request.DrySaid },
			"nothing dries"},
		{"dry_no_sheet", request.AtDry, Remark, func(r *request.Request) {
			r.Cut.Shape, r.Dry.Sheet.By = "cavatelli", request.DryWorked
		}, "the pieces"},
		{"dry_not_worked", request.AtDry, Remark, func(r *request.Request) {
			r.Cut.Shape, r.Dry.Sheet.By = "ravioli", request.DryWorked
		}, "all the same"},
		{"own_dry", request.AtDry, Remark, func(r *request.Request) {
			r.Dry.Pieces.By, r.Dry.Pieces.On, r.Dry.Pieces.Min = request.DrySaid, request.OnRack, ptr(60)
		}, "your 60 min stands"},
		{"dried_long", request.AtDry, Caution, func(r *request.Request) {
			r.Dry.Pieces.By, r.Dry.Pieces.Min = request.DrySaid, ptr(600)
		}, "overnight"},
		{"may_stick", request.AtCut, Remark, func(r *request.Request) {
			r.Amount.By, r.Amount.FlourG, r.Eggs.FixWhole = request.ByOwn, 400, ptr(5)
		}, "let the sheet dry first"},
		{"keep_dried", request.AtDry, Warning, func(r *request.Request) { r.Dry.Keep = true }, "raw egg"},
		{"keep_never", request.AtDry, Warning, func(r *request.Request) { r.Dry.Keep, r.Room.RH = true, .8 },
			"dry the air"},
		{"keep_filled", request.AtDry, Warning, func(r *request.Request) { r.Dry.Keep, r.Cut.Shape = true, "ravioli" },
			"freeze it"},
		{"keep_longer", request.AtDry, Warning, func(r *request.Request) {
			r.Keep.Where, r.Keep.Days,
				r.Keep.Note = "fridge", ptr(4), "vacuum, 2 °C"
		}, "vacuum"},
		{"trimmings", request.AtCut, Remark, func(r *request.Request) {
			r.Roll.Pieces, r.Cut.Min, r.Cut.Max = ptr(14),
				ptr(500), ptr(520)
		}, "maltagliati"},
		{"will_not_dry", request.AtDry, Warning, func(r *request.Request) {
			r.Room.RH, r.Dry.Sheet.By = .96, request.DryWorked
		}, "too damp"},
		{"warm", request.AtDry, Warning, func(r *request.Request) { r.Rest.Min = ptr(90) }, "take care"},
		{"discard", request.AtDry, Warning, func(r *request.Request) { r.Rest.Min = ptr(240) }, "thrown away"},
		{"taste_only", request.AtCook, Remark, func(r *request.Request) {
			r.Cut.Shape, r.Roll.TargetMM,
				r.Cut.Width = "pappardelle", ptr(4.8), ptr(25)
		},
			"tasting"},
	} {
		r := request.Default()
		r.Amount.By = "flour"
		quiet := must(t, r)
		c.change(&r)
		p := must(t, r)
		is := func(n Note) bool { return n.Code == c.code }
		if slices.ContainsFunc(quiet.Notes, is) && c.code != "split" {
			t.Errorf("%s is said of the plainest batch", c.code)
		}
		i := slices.IndexFunc(p.Notes, is)
		if i < 0 {
			t.Errorf("%s is not said: %+v", c.code, p.Notes)
			continue
		}
		n := p.Notes[i]
		if n.Stage != c.stage || n.Level != c.level || !strings.Contains(n.Text, c.says) {
			t.Errorf("%s: %+v", c.code, n)
		}
		if n.Level == Warning && p.Warnings(c.stage) == 0 {
			t.Errorf("%s is not counted at its station", c.code)
		}
		if p.Why[n.Field] == "" && n.Field != "formula.salt" {
			t.Errorf("%s stands at %s, which no figure has", c.code, n.Field)
		}
	}
	// The cautions stand on every batch.
	for _, s := range []request.Stage{request.AtFormula, request.AtRest, request.AtRoll, request.AtCut, request.AtDry,
		request.AtCook} {
		if notes := must(t, request.Default()).At(s); len(notes) == 0 || notes[len(notes)-1].Level != Caution {
			t.Errorf("no caution at %s", s)
		}
	}
}

func TestWords(t *testing.T) {
	for got, want := range map[string]string{
		measure.Metric.Grams(0): "0 g", measure.Metric.Grams(9.94): "9.9 g", measure.Metric.Grams(9.96): "10 g",
		measure.Metric.Grams(1592.4): "1,592 g", measure.Metric.Grams(1234567): "1,234,567 g",
		measure.MinSec(57): "55 s", measure.MinSec(100): "1 min 40", measure.MinSec(58): "1 min 00",
		measure.Minutes(119.4):           "119 min",
		measure.Minutes(125):             "2 h 05",
		measure.Plural(1, "egg", "eggs"): "1 egg", measure.Plural(1200, "egg", "eggs"): "1,200 eggs",
		EggWords(0, 0): "no egg", EggWords(1, 2): "1 egg and 2 yolks", EggWords(0, 1): "1 yolk",
	} {
		if got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// Where there is no egg nothing is beaten into the eggs, and a purée that is all the liquid is not much of it.
func TestAdditionsWithoutEgg(t *testing.T) {
	r := request.Default()
	r.Eggs.Style, r.Eggs.TopUp = egg.NoEgg, egg.TopWater
	r.Additions = []request.AdditionPart{{Addition: "spinach", Share: .10}}
	p, err := Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	for _, n := range p.Notes {
		if strings.Contains(n.Text, "into the eggs") {
			t.Errorf("%s %s", n.Head, n.Text)
		}
	}
	r.Amount.By, r.Amount.FlourG = request.ByOwn, 400
	r.Eggs.LiquidG = nil
	r.Additions[0].Share = .55
	if p, err = Make(rules.Default(), r); err != nil {
		t.Fatal(err)
	}
	for _, n := range p.Notes {
		if n.Code == "much_added" {
			t.Errorf("%g g of liquid beside it: %s", p.Formula.TopG, n.Text)
		}
	}
}
