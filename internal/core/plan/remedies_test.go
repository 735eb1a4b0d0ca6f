package plan

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"hollen/internal/core/cut"
	"hollen/internal/core/doctor"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// named reads the n-th number of a note, minutes as minutes.
func named(t *testing.T, text string, pattern string) float64 {
	t.Helper()
	m := regexp.MustCompile(pattern).FindStringSubmatch(text)
	if m == nil {
		t.Fatalf("%q does not name %s", text, pattern)
	}
	v, err := strconv.ParseFloat(strings.ReplaceAll(m[1], ",", ""), 64)
	if err != nil {
		t.Fatal(err)
	}
	if len(m) > 2 && m[2] != "" { // hours and minutes
		rest, _ := strconv.ParseFloat(m[2], 64)
		v = 60*v + rest
	}
	return v
}

// Advice names a remedy that works: what every note that names one says is done, and the note goes.
func TestRemediesWork(t *testing.T) {
	act := func(r *request.Request, k doctor.Kind, g float64) {
		r.Acts = append(r.Acts, request.Act{Kind: k, Amount: math.Ceil(10*g) / 10, Sign: "cracks",
			Stage: request.AtKnead})
	}
	water := func(t *testing.T, p *Plan, n Note, r *request.Request) {
		act(r, doctor.Water, p.Room.KeepG+named(t, n.Text, `([\d.,]+) g more water`))
	}
	mixIn := func(share float64) func(*testing.T, *Plan, Note, *request.Request) {
		return func(_ *testing.T, _ *Plan, _ Note, r *request.Request) {
			r.Flours = []request.FlourPart{{Flour: r.Flours[0].Flour, Share: 1 - share, Kept: flour.PaperBag,
				ContainsKG: 1},
				{Flour: "strong", Share: share, Kept: flour.PaperBag, ContainsKG: 1}}
		}
	}
	restOn := func(t *testing.T, p *Plan, n Note, r *request.Request) {
		r.Rest.Min = ptr(p.Rest.Min + named(t, n.Text, `Rest it (\d+)(?: h (\d+)| min) longer`))
	}
	atStop := func(t *testing.T, p *Plan, n Note, r *request.Request) {
		label := regexp.MustCompile(`end at stop (\S+),`).FindStringSubmatch(n.Text)
		if label == nil {
			t.Fatal(n.Text)
		}
		i := slices.IndexFunc(p.machine.Stops, func(s roll.Stop) bool { return s.Label == label[1] })
		r.Roll.TargetMM = ptr(p.lay.Sheet(p.machine.Stops[i].TrueMM(), 1))
	}
	for _, c := range []struct {
		code   string
		change func(*request.Request)
		remedy func(t *testing.T, p *Plan, n Note, r *request.Request)
	}{
		{"soft", func(r *request.Request) { r.Eggs.FixWhole = ptr(11) }, func(t *testing.T, p *Plan, n Note,
			r *request.Request) {
			act(r, doctor.Flour, p.Formula.HeldBackG+named(t, n.Text, `([\d.,]+) g more flour`))
		}},
		{"firm", func(r *request.Request) { r.Eggs.FixWhole, r.Eggs.TopUp = ptr(8), egg.TopNone }, func(t *testing.T,
			p *Plan, n Note, r *request.Request) {
			r.Eggs.TopUp = egg.TopWater
		}},
		{"firm", func(r *request.Request) { r.Eggs.FixWhole, r.Eggs.TopUp = ptr(8), egg.TopNone }, water},
		{"no_gluten", func(r *request.Request) { r.Flours[0].Flour = "buckwheat" }, mixIn(.6)},
		{"fragile", func(r *request.Request) { r.Flours[0].Flour = "emmer" }, mixIn(.4)},
		{"all_durum", func(r *request.Request) { r.Flours[0].Flour = "semola-fine" }, mixIn(.2)},
		{"firm", func(r *request.Request) { r.Eggs.FixWhole, r.Eggs.TopUp = ptr(8), egg.TopNone }, func(t *testing.T,
			p *Plan, n Note, r *request.Request) {
			r.Amount.FlourG = named(t, n.Text, `eggs, ([\d.,]+) g of flour would be right`)
		}},
		{"pin_yields", func(r *request.Request) { r.Eggs.CrackedG, r.Amount.FlourG = ptr(540), 400 }, func(_ *testing.T,
			p *Plan, _ Note, r *request.Request) {
			r.Amount.By, r.Amount.EggG, r.Eggs.CrackedG = request.ByEggs, 540, nil
		}},
		{"split", func(r *request.Request) { r.Amount.FlourG = 3000 }, func(t *testing.T, p *Plan, n Note,
			r *request.Request) {
			r.Bench.People = named(t, n.Text, `With (\d+) pairs of hands`)
		}},
		{"hot", func(r *request.Request) { r.Room.TempC = 31 }, func(t *testing.T, p *Plan, n Note,
			r *request.Request) {
			if strings.Contains(n.Text, "eggs from the fridge") {
				r.Eggs.From = request.FromFridge
			} else {
				t.Errorf("no remedy: %s", n.Text)
			}
		}},
		{"folds", func(r *request.Request) { r.Knead.Min, r.Roll.Folds = ptr(2), ptr(0) }, func(t *testing.T, p *Plan,
			n Note, r *request.Request) {
			r.Roll.Folds = ptr(named(t, n.Text, `^(\d+) folded passes`))
		}},
		{"short_for_pin", func(r *request.Request) {
			r.Roll.Machine, r.Knead.School, r.Knead.Min = "pin-board", "long",
				ptr(3)
		},
			func(t *testing.T, p *Plan, n Note, r *request.Request) {
				r.Knead.Min = ptr(named(t, n.Text, `knead it (\d+) min`))
			}},
		{"short_for_pin", func(r *request.Request) { r.Roll.Machine, r.Knead.School = "pin-board", "short" },
			func(t *testing.T, p *Plan, n Note, r *request.Request) {
				if !strings.Contains(n.Text, "in turns") {
					t.Errorf("%s", n.Text)
				}
				r.Knead.School = "turns"
			}},
		{"tension", func(r *request.Request) { r.Rest.Min = ptr(5) }, restOn},
		{"tension", func(r *request.Request) { r.Rest.Min, r.Rest.At, r.Room.TempC = ptr(5), request.InFridge, 14 },
			restOn},
		{"uptake", func(r *request.Request) { r.Flours[0].Flour, r.Rest.Min = "semolina-coarse", ptr(20) }, restOn},
		{"no_rest", func(r *request.Request) { r.Rest.Min = ptr(0) }, func(_ *testing.T, _ *Plan, _ Note,
			r *request.Request) {
			r.Rest.Min = ptr(20)
		}},
		{"cold", func(r *request.Request) { r.Rest.At, r.Rest.Min = request.InFridge, ptr(600) }, func(t *testing.T,
			p *Plan, n Note, r *request.Request) {
			r.Rest.TemperMin = 5 * math.Ceil(named(t, n.Text, `about (\d+)(?: h (\d+)| min)`)/5)
		}},
		{"slow_to_cool", func(r *request.Request) {
			r.Amount.FlourG, r.Bench.HandG, r.Rest.At, r.Rest.Min = 3000, ptr(6000), request.InFridge, ptr(720)
		}, func(t *testing.T, p *Plan, n Note, r *request.Request) {
			r.Rest.Wrapped, r.Rest.FlatMM = request.PressedFlat, ptr(named(t, n.Text, `pressed (\d+) mm flat`))
		}},
		{"warm_rest", func(r *request.Request) { r.Rest.Min = ptr(150) }, func(t *testing.T, p *Plan, n Note,
			r *request.Request) {
			r.Rest.At = request.InFridge
		}},
		{"over", func(r *request.Request) { r.Flours[0].Flour, r.Rest.Min, r.Roll.TargetMM = "emmer", ptr(5), ptr(.5) },
			func(t *testing.T, p *Plan, n Note, r *request.Request) {
				if strings.Contains(n.Text, "rest the sheet") {
					r.Rest.Min = ptr(40)
				} else {
					r.Roll.Machine = "sheeter-mm"
				}
			}},
		{"too_fine", func(r *request.Request) { r.Roll.TargetMM = ptr(.4) }, func(t *testing.T, p *Plan, n Note,
			r *request.Request) {
			r.Roll.TargetMM = ptr(named(t, n.Text, `leaves ([\d.]+) mm`))
		}},
		{"too_thick", func(r *request.Request) { r.Roll.TargetMM = ptr(6) },
			func(_ *testing.T, _ *Plan, _ Note, r *request.Request) { r.Roll.Machine = "pin-board" }},
		{"between_stops", func(r *request.Request) { r.Roll.Machine, r.Roll.TargetMM = "motor-9", ptr(1.21) },
			func(t *testing.T, p *Plan, n Note, r *request.Request) {
				if strings.Contains(n.Text, "second pass") {
					r.Roll.LastTwice = true
				} else {
					r.Roll.TargetMM = ptr(named(t, n.Text, `would leave ([\d.]+\d)`))
				}
			}},
		{"no_ribbons", func(r *request.Request) { r.Roll.Pieces, r.Cut.Min, r.Cut.Max = ptr(20), ptr(900), ptr(1200) },
			func(t *testing.T, _ *Plan, n Note, r *request.Request) {
				r.Roll.Pieces = ptr(named(t, n.Text, `into (\d+) pieces`))
			}},
		{"no_ribbons", func(r *request.Request) { r.Cut.Min, r.Cut.Max, r.Roll.BenchMM = ptr(900), ptr(1200), 900 },
			func(t *testing.T, _ *Plan, n Note, r *request.Request) {
				if !strings.Contains(n.Text, "a longer one") {
					t.Error(n.Text)
				}
				r.Roll.BenchMM = 2000
			}},
		{"pieces_gain", func(r *request.Request) {
			r.Cut.Shape, r.Roll.Machine, r.Roll.Pieces = "lasagne", "sheeter-mm", ptr(11)
		}, func(t *testing.T, p *Plan, n Note, r *request.Request) {
			r.Roll.Pieces = ptr(named(t, n.Text, `^(\d+) pieces? give`))
		}},
		{"short_ribbons", func(r *request.Request) { r.Roll.Machine, r.Roll.Pieces = "sheeter-mm", ptr(30) },
			func(_ *testing.T, _ *Plan, _ Note, r *request.Request) {
				r.Roll.Pieces = nil
			}},
		{"cutter_thick", func(r *request.Request) {
			r.Cut.Tool, r.Cut.Width, r.Roll.TargetMM = cut.Cutter, ptr(2),
				ptr(2)
		}, atStop},
		{"cutter_thin", func(r *request.Request) {
			r.Cut.Tool, r.Cut.Width, r.Roll.TargetMM = cut.Cutter, ptr(2),
				ptr(.55)
		}, atStop},
		{"no_cutter", func(r *request.Request) { r.Cut.Tool, r.Cut.Width = cut.Cutter, ptr(14) },
			func(_ *testing.T, _ *Plan, _ Note, r *request.Request) { r.Cut.Tool = cut.Knife }},
		{"cutter_width", func(r *request.Request) { r.Cut.Tool = cut.Cutter }, func(_ *testing.T, _ *Plan, _ Note,
			r *request.Request) {
			r.Cut.Tool = cut.Knife
		}},
		{"seam", func(r *request.Request) { r.Cut.Shape, r.Roll.TargetMM = "ravioli", ptr(1.0) }, atStop},
		{"overfilled", func(r *request.Request) { r.Cut.Shape, r.Cut.Filling.PieceG = "ravioli", ptr(14) },
			func(t *testing.T, p *Plan, n Note, r *request.Request) {
				r.Cut.Filling.PieceG = ptr(named(t, n.Text, `where ([\d.]+) g`))
			}},
		{"no_sheet_left", func(r *request.Request) {
			r.Roll.Pieces, r.Roll.BenchMM, r.Cut.Also = ptr(1), 8000, []request.ShapePart{{Shape: "pappardelle",
				Portions: 1}}
			r.Amount.FlourG = 300
		}, func(_ *testing.T, _ *Plan, _ Note, r *request.Request) { r.Roll.Pieces = ptr(3) }},
		{"keep_filled", func(r *request.Request) { r.Dry.Keep, r.Cut.Shape = true, "ravioli" }, func(_ *testing.T,
			_ *Plan, _ Note, r *request.Request) {
			r.Dry.Keep, r.Keep.Where = false, "freezer"
		}},
		{"will_not_dry", func(r *request.Request) { r.Room.RH, r.Dry.Sheet.By = .93, request.DryWorked },
			func(t *testing.T, p *Plan, n Note,
				r *request.Request) {
				r.Room.Air = "fan"
			}},
		{"discard", func(r *request.Request) { r.Rest.Min, r.Amount.FlourG = ptr(60), 5000 }, func(t *testing.T,
			p *Plan, n Note, r *request.Request) {
			r.Amount.FlourG /= 4 // smaller batches
		}},
		{"salt_twice", func(r *request.Request) {
			r.Salt, r.Additions = .01, []request.AdditionPart{{Addition: "ink", Share: .02}}
		},
			func(_ *testing.T, _ *Plan, _ Note, r *request.Request) { r.Salt = 0 }},
	} {
		t.Run(c.code, func(t *testing.T) {
			r := request.Default()
			r.Amount.By = request.ByFlour
			c.change(&r)
			p := must(t, r)
			is := func(n Note) bool { return n.Code == c.code }
			i := slices.IndexFunc(p.Notes, is)
			if i < 0 {
				var said []string
				for _, n := range p.Notes {
					said = append(said, n.Code)
				}
				t.Fatalf("not said, but %v", said)
			}
			c.remedy(t, p, p.Notes[i], &r)
			q := must(t, r)
			if j := slices.IndexFunc(q.Notes, is); j >= 0 {
				t.Errorf("%s\nand after that: %s", p.Notes[i].Text, q.Notes[j].Text)
			}
		})
	}
}
