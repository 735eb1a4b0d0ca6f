package plan

import (
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"hollen/internal/core/cook"
	"hollen/internal/core/knead"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// asked is a plan of the usual request, changed.
func asked(t *testing.T, change func(*request.Request)) *Plan {
	t.Helper()
	r := request.Default()
	r.MadeOn = "2026-11-28"
	change(&r)
	return must(t, r)
}

// filledWith is a batch of that shape filled with that.
func filledWith(shape string, kind request.FillingKind) func(*request.Request) {
	return func(r *request.Request) {
		r.Cut.Shape, r.Cut.Filling = shape, request.Filling{Name: "pork", Kind: kind, Allergens: "none"}
	}
}

// What must not be kept gets no date but the reason: a filling dried, a dough too long out of the fridge. What is dried
// to keep counts from
// the weight it keeps at.
func TestKeptOnlyWhatMayBe(t *testing.T) {
	dried := asked(t, func(r *request.Request) {
		filledWith("ravioli", request.FillingMeat)(r)
		r.Dry.Keep = true
	})
	if keep, by, _ := dried.KeepLabel(0); by != "" ||
		!strings.Contains(keep, "A filling does not dry through") && !strings.Contains(keep, "a filling does not") ||
		dried.Keep.UseBy != "" {
		t.Errorf("dried ravioli: %q, use by %q and %q", keep, by, dried.Keep.UseBy)
	}
	if i := slices.IndexFunc(dried.Steps, func(s Step) bool { return s.Key == "keep.1" }); i < 0 ||
		dried.Steps[i].Head != "Not to be kept" {
		t.Errorf("the bench is told to keep them: %+v", dried.Steps)
	}

	late := asked(t, func(r *request.Request) { r.Keep.Where = cook.Fridge })
	for _, where := range []cook.Place{cook.Fridge, cook.Freezer, ""} {
		late.Request.Keep.Where = where
		late.Keep = late.KeepAfter(317, "2026-11-28T14:00")
		if keep, by, _ := late.KeepLabel(0); by != "" || !strings.Contains(keep, "5 h 17") ||
			late.Keep.Fridge+late.Keep.Freezer+late.Keep.Dough != "" {
			t.Errorf("%q after 5 h 17: %q, use by %q, %+v", where, keep, by, late.Keep)
		}
	}
	if soon := late.KeepAfter(100, "2026-11-28T14:00"); soon.Parts[0].UseBy != "2026-11-30T14:00" {
		t.Errorf("after 100 min: %+v", soon)
	}

	keeps := func(log ...request.DryCheck) *Plan {
		return asked(t, func(r *request.Request) {
			r.Dry.Keep, r.Room.RH, r.Dry.Log = true, .35, log
		})
	}
	p := keeps()
	if _, by, counts := p.KeepLabel(0); by != "" || !strings.HasPrefix(counts, "30 days from the day it weighs") {
		t.Errorf("before it is dry: %q, %q", by, counts)
	}
	target := p.Dry.ToKeep.TargetG
	p = keeps(
		request.DryCheck{At: "2026-11-28T20:00", G: ptr(target + 80)},
		request.DryCheck{At: "2026-11-29T09:00", G: ptr(target)},
	)
	if _, by, counts := p.KeepLabel(0); !strings.HasPrefix(by, "2026-12-29") || counts != "" {
		t.Errorf("dry on the 29th: %q, %q", by, counts)
	}
	if after := p.KeepAfter(900, ""); after.Parts[0].No != "" {
		t.Errorf("hung for hours: %q", after.Parts[0].No)
	}
}

// A label cooks by how it is sold.
func TestLabelsCookAsSold(t *testing.T) {
	for where, want := range map[cook.Place]func(*Plan) float64{
		cook.Fridge:  func(p *Plan) float64 { return .6 * p.Cook.DriedS },
		cook.Freezer: func(p *Plan) float64 { return .6 * p.Cook.FrozenS },
	} {
		for _, shape := range []string{"tagliatelle", "ravioli"} {
			p := asked(t, func(r *request.Request) {
				r.Cut.Shape, r.Keep.Where, r.Cut.Filling = shape, where, request.Filling{
					Name:      "chard",
					Allergens: "none",
				}
				r.Roll.Machine, r.Roll.Own = "own-1", measuredMachine() // of gaps nobody measured the range is wider
			})
			if from, _ := p.SoldTime(&p.Cut.CutPart); math.Abs(from-want(p)) > .01 {
				t.Errorf("%s in the %s: from %.0f s, want %.0f", shape, where, from, want(p))
			}
			if frozen := strings.Contains(p.CookLabel(0), "from frozen"); frozen != (where == cook.Freezer) {
				t.Errorf("%s in the %s: %s", shape, where, p.CookLabel(0))
			}
		}
	}
}

// What is raw inside is cooked through: no early end, no taste, at no word of the log shorter than the book.
func TestRawIsCookedThrough(t *testing.T) {
	for _, kind := range []request.FillingKind{request.FillingMeat, request.FillingFish, request.FillingEgg} {
		p := asked(t, filledWith("tortellini", kind))
		turn := p.Cook.Turns[0]
		if turn.FromS < p.Cook.Seconds-1e-9 || turn.Raw != kind.Words() || strings.Contains(p.CookLabel(0), "taste") ||
			!strings.Contains(p.CookLabel(0), "71") {
			t.Errorf("%s: %+v, %q", kind, turn, p.CookLabel(0))
		}
		for _, s := range p.Steps {
			if s.Station == request.AtCook && s.Key != "water.1" &&
				(strings.Contains(s.Text, "aste from") || !strings.Contains(s.Test, "no pink, steaming")) {
				t.Errorf("%s: %q, %q", kind, s.Text, s.Test)
			}
		}
		if p.Keep.ToDays != 1 || !strings.Contains(p.FridgeWords(), "no longer than 1 day") {
			t.Errorf("%s keeps %v days, %q", kind, p.Keep.ToDays, p.FridgeWords())
		}
	}
	book := asked(t, filledWith("tortellini", request.FillingMeat)).Cook.Seconds
	cheese := asked(t, filledWith("tortellini", request.FillingCooked)).Cook.Seconds
	for k, want := range map[float64][2]float64{.8: {book, .8 * cheese}, 1.2: {1.2 * book, 1.2 * cheese}} {
		ru := rules.Default()
		ru.Learned.Cook = rules.LearnedBy{N: 5, By: k}
		for i, kind := range []request.FillingKind{request.FillingMeat, request.FillingCooked} {
			r := request.Default()
			filledWith("tortellini", kind)(&r)
			p, err := Make(ru, r)
			if err != nil {
				t.Fatal(err)
			}
			if math.Abs(p.Cook.Seconds-want[i]) > .01 {
				t.Errorf("learned %v, %q: %.1f s, want %.1f", k, kind, p.Cook.Seconds, want[i])
			}
			if got, book := p.BookPotS(0), asked(t, filledWith("tortellini", kind)).PotS(); math.Abs(got-book) > .01 {
				t.Errorf("the book says %.1f s, learned or not, not %.1f", book, got)
			}
		}
	}
}

// The old word for what is raw is read as the more careful of the new ones.
func TestRawOfBefore(t *testing.T) {
	var k request.FillingKind
	if err := k.UnmarshalText([]byte("raw")); err != nil || k != request.FillingMeat {
		t.Errorf("%q, %v", k, err)
	}
}

// Every shape has its turn in the pot: loads, clock, name; the thinnest last. The water is what the pot gets, and boils
// by its litres.
func TestPotShapeByShape(t *testing.T) {
	p := asked(t, func(r *request.Request) {
		filledWith("tortellini", request.FillingMeat)(r)
		r.Amount.Portions = 14
		r.Cut.Also = []request.ShapePart{{Shape: "tagliolini", Portions: 4}, {Shape: "orecchiette", Portions: 3}}
	})
	turns := p.Cook.Turns
	if len(turns) != 3 || turns[2].Shape != p.Cut.Also[0].Shape.Name {
		t.Fatalf("%+v", turns)
	}
	for i, x := range turns {
		part := p.Cut.Parts()[x.Part]
		if i > 0 && x.MidS > turns[i-1].MidS || math.Abs(x.LoadG*float64(x.Loads)-part.MadeG) > 1e-6 ||
			x.FillL > 8*.8+1e-9 ||
			(x.Raw != "") != (x.Part == 0) {
			t.Errorf("%+v of %.0f g", x, part.MadeG)
		}
		j := slices.IndexFunc(p.Steps, func(s Step) bool { return s.Key == x.Key })
		if j < 0 || !strings.Contains(p.Steps[j].Head, strings.ToLower(x.Shape)) {
			t.Errorf("no step for %s", x.Shape)
		}
	}

	eight := asked(t, func(r *request.Request) { r.Amount.Portions, r.Bench.PotL = 9, ptr(8) })
	water := eight.Steps[slices.IndexFunc(eight.Steps, func(s Step) bool { return s.Key == "water.1" })]
	k := &eight.Cook
	if k.Turns[0].Loads != 2 || math.Abs(k.InPotL-k.WaterL/2) > .01 ||
		!strings.Contains(water.Text, eight.in.L(k.InPotL, 1)+" into the pot") ||
		strings.Contains(water.Text, eight.in.L(k.WaterL, 1)) {
		t.Errorf("%s; %+v", water.Text, k)
	}
	small := asked(t, func(r *request.Request) { r.Amount.Portions = 2 })
	if small.Cook.BoilMin >= k.BoilMin || math.Abs(k.BoilMin-math.Round(3+2*k.InPotL)) > 1e-9 {
		t.Errorf("%v L boil in %v min, %v L in %v", k.InPotL, k.BoilMin, small.Cook.InPotL, small.Cook.BoilMin)
	}
}

// A filled batch makes its filling before the sheet wants it, once, and everybody reads the same grams.
func TestFillingIsMade(t *testing.T) {
	p := asked(t, func(r *request.Request) {
		filledWith("tortellini", request.FillingMeat)(r)
		r.Amount.Portions = 40
	})
	s := p.Steps[0]
	if s.Key != FillingStep || s.Amounts[0].Much != p.in.Grams(p.Cut.FillTotalG) ||
		math.Abs(s.Min-(8+6*p.Cut.FillTotalG/1000)) > 1e-9 ||
		s.FromMin+s.Min+30 > p.Steps[slices.IndexFunc(p.Steps,
			func(s Step) bool { return s.Key == "roll.1" })].FromMin+1e-9 {
		t.Errorf("%+v", s)
	}
	if s := asked(t, func(*request.Request) {}).Steps[0]; s.Key == FillingStep {
		t.Error("ribbons are filled")
	}
	for _, c := range []struct {
		shape string
		most  float64 // of filling to dough
	}{{"cappelletti", 1.6}, {"tortellini", 1.4}} {
		x := asked(t, filledWith(c.shape, request.FillingCooked)).Cut.CutPart
		if x.FillG/x.DoughG > c.most || x.Filling.FitsG < .8 {
			t.Errorf("%s holds %.1f g, %.2f of its dough", c.shape, x.Filling.FitsG, x.FillG/x.DoughG)
		}
	}
}

// A dough without gluten is not dusted with wheat unless that is said.
func TestDustWithoutGluten(t *testing.T) {
	rice := func(r *request.Request) {
		r.Flours = []request.FlourPart{
			{Flour: "rice", Share: .6, Kept: "paper_bag", ContainsKG: 1},
			{Flour: "buckwheat", Share: .4, Kept: "paper_bag", ContainsKG: 1},
		}
	}
	p := asked(t, rice)
	for _, a := range p.Formula.Allergens {
		if strings.Contains(a, "wheat") && a != "buckwheat" {
			t.Errorf("rice and buckwheat contain %s", a)
		}
	}
	said := asked(t, func(r *request.Request) { rice(r); r.Roll.Dust = request.DustSemola })
	if !slices.ContainsFunc(said.Notes, func(n Note) bool { return n.Code == "dusted_wheat" }) ||
		!slices.Contains(said.Formula.Allergens, "durum wheat") {
		t.Errorf("semola on rice: %v", said.Formula.Allergens)
	}
	if d := asked(t, func(*request.Request) {}).Dusting(); d.Allergen != "durum wheat" {
		t.Errorf("wheat is dusted with %+v", d)
	}
}

// The name of a filling is held against its allergens.
func TestFillingNameAsks(t *testing.T) {
	has := func(f request.Filling, code string) bool {
		p := asked(t, func(r *request.Request) { r.Cut.Shape, r.Cut.Filling = "ravioli", f })
		return slices.ContainsFunc(p.Notes, func(n Note) bool { return n.Code == code && n.Level == Warning })
	}
	if !has(request.Filling{Name: "ricotta and egg yolk"}, "filling_allergens") ||
		has(request.Filling{Name: "ricotta", Allergens: "milk"}, "filling_allergens") {
		t.Error("the allergens of ricotta")
	}
	if !has(request.Filling{Name: "raw mince"}, "filling_sounds_raw") ||
		has(request.Filling{Name: "raw mince", Kind: request.FillingMeat}, "filling_sounds_raw") {
		t.Error("raw mince")
	}
}

// Whatever is asked, nothing is kept that may not be, and days, seconds, litres and grams are one figure wherever they
// stand.
func TestOneFigureEverywhere(t *testing.T) {
	shapes := []string{
		"tagliatelle",
		"ravioli",
		"tortellini",
		"mezzelune",
		"orecchiette",
		"tagliolini",
		"cappelletti",
		"pappardelle",
	}
	kinds := []request.FillingKind{request.FillingCooked, request.FillingMeat, request.FillingFish, request.FillingEgg}
	wheres := []cook.Place{"", cook.Fridge, cook.Freezer}
	afters := []request.After{request.Fresh, request.AtLeather, request.FirmNests, request.DriedHard, request.Frozen}
	n := 2000
	if testing.Short() {
		n = 200
	}
	rnd := rand.New(rand.NewPCG(25, 1))
	for i := range n {
		r := request.Default()
		r.MadeOn = "2026-11-28"
		r.Amount.Portions = float64(2 + rnd.IntN(40))
		r.Cut.Shape = shapes[rnd.IntN(len(shapes))]
		r.Cut.Filling = request.Filling{Name: "it", Allergens: "none", Kind: kinds[rnd.IntN(len(kinds))]}
		for rnd.IntN(3) == 0 && len(r.Cut.Also) < 3 {
			r.Cut.Also = append(
				r.Cut.Also,
				request.ShapePart{Shape: shapes[rnd.IntN(len(shapes))], Portions: float64(1 + rnd.IntN(3))},
			)
		}
		r.Keep.Where, r.Dry.Keep, r.Cook.After = wheres[rnd.IntN(3)], rnd.IntN(4) == 0, afters[rnd.IntN(len(afters))]
		r.Room.RH, r.Room.TempC = .3+.5*rnd.Float64(), 16+18*rnd.Float64()
		if rnd.IntN(3) == 0 {
			r.Bench.PotL, r.Bench.Pots = ptr(4+20*rnd.Float64()), ptr(float64(1+rnd.IntN(3)))
		}
		p, err := Make(rules.Default(), r)
		if err != nil {
			continue
		}
		if i%2 == 0 {
			p.Keep = p.KeepAfter(500*rnd.Float64(), "2026-11-28T15:00")
		}
		sameFigures(t, i, p)
	}
}

// sameFigures holds the readers of a plan to its figures.
func sameFigures(t *testing.T, i int, p *Plan) {
	t.Helper()
	step := func(key string) *Step {
		if j := slices.IndexFunc(p.Steps, func(s Step) bool { return s.Key == key }); j >= 0 {
			return &p.Steps[j]
		}
		return &Step{}
	}
	for part, x := range p.Cut.Parts() {
		keep, by, counts := p.KeepLabel(part)
		k := p.Keep.Parts[part]
		filled := x.Shape.Traits().Filling
		switch {
		case filled && k.Where == cook.Shelf && (by != "" || counts != "" || k.No == ""):
			t.Errorf("%d: %s is kept on the shelf: %q %q %q", i, x.Shape.Name, keep, by, counts)
		case k.No != "" && (by != "" || counts != ""):
			t.Errorf("%d: %s is not to be kept, and keeps until %s%s", i, x.Shape.Name, by, counts)
		case by != k.UseBy:
			t.Errorf("%d: label %s, plan %s", i, by, k.UseBy)
		case by != "" && (k.Where == cook.Fridge || k.Where == "") && p.Request.KeepsAsRaw(x.Shape) && k.Days > 1:
			t.Errorf("%d: %s is raw inside and keeps %v days", i, x.Shape.Name, k.Days)
		}
	}
	water := step("water.1")
	if c := &p.Cook; len(c.Turns) > 0 &&
		(!strings.Contains(water.Text, p.in.L(c.InPotL, 1)) || !strings.Contains(water.Text, p.in.Grams(c.InPotG)) ||
			water.LeastMin != c.BoilMin || c.InPotL > c.PotL*p.rules.Cook.PotFill+1e-9) {
		t.Errorf("%d: %q for %v L, %v g, %v min in a pot of %v", i, water.Text, c.InPotL, c.InPotG, c.BoilMin, c.PotL)
	}
	sum := 0.
	for _, x := range p.Cook.Turns {
		s := step(x.Key)
		sum += x.LoadG * float64(x.Loads)
		if s.LeastMin != x.FromS/60 || s.MostMin != x.ToS/60 ||
			!strings.Contains(s.Text, p.in.Grams(x.LoadG*float64(x.Loads))) ||
			x.Raw != "" && x.FromS < x.MidS-1e-9 {
			t.Errorf("%d: %q of %v to %v min for %+v", i, s.Text, s.LeastMin, s.MostMin, x)
		}
	}
	if waits := slices.ContainsFunc(p.Cut.Parts(), func(x *CutPart) bool { return x.Shape.Traits().Sheets }); !waits &&
		math.Abs(sum-p.Cut.AllMadeG) > 1e-6 {
		t.Errorf("%d: %v g into the pot of %v", i, sum, p.Cut.AllMadeG)
	}
	if f := step(FillingStep); p.Cut.FillTotalG > 0 &&
		(f.Amounts[0].Much != p.in.Grams(p.Cut.FillTotalG) || f.Min != p.Cut.FillMin) {
		t.Errorf("%d: filling %+v for %v g", i, f, p.Cut.FillTotalG)
	}
}

// A bowl is filled with what it takes: loads begin at the weighing. A wide machine gets pieces it can get hold of.
func TestBowlAndPieces(t *testing.T) {
	for _, c := range []struct {
		school knead.School
		change func(*request.Request)
		most   float64
	}{
		{knead.Hook, func(r *request.Request) { r.Bench.HookG = ptr(3000) }, 3000}, {knead.Processor,
			func(r *request.Request) { r.Bench.ProcessorG = ptr(700) }, 700},
	} {
		p := asked(t, func(r *request.Request) {
			r.Amount.By, r.Amount.FlourG, r.Knead.School = request.ByFlour, 5520, c.school
			c.change(r)
		})
		mix := p.Steps[slices.IndexFunc(p.Steps, func(s Step) bool { return s.Key == "mix.1" })]
		n := p.BowlLoads()
		if n != p.Knead.Loads || n < 2 || strings.Contains(mix.Text, "5,520 g") ||
			!strings.Contains(mix.Text, p.in.Grams(p.Room.FlourG/float64(n))+" of flour") {
			t.Errorf("%s: %d loads, %q", c.school, n, mix.Text)
		}
		if slices.ContainsFunc(p.Steps, func(s Step) bool { return s.Key == "split.1" }) {
			t.Errorf("%s: mixed whole and split then", c.school)
		}
	}
	for _, machine := range []string{"hand-crank-10", "motor-9", "sheeter-mm"} {
		p := asked(t, func(r *request.Request) {
			r.Amount.By, r.Amount.FlourG, r.Roll.Machine = request.ByFlour, 2000, machine
		})
		if long := p.Roll.PieceG * 1000 / (p.Formula.Dough.DensityGPerML * p.machine.WidthMM * 15); long < 45 {
			t.Errorf("%s: pieces of %.0f g, %.0f mm long pressed to 15", machine, p.Roll.PieceG, long)
		}
	}
}

// measuredMachine is the ten-stop machine with its gaps measured as they are given.
func measuredMachine() *roll.Machine {
	m, _ := roll.Find("hand-crank-10")
	m.Key = "own-1"
	const spring = .08
	var points []roll.Measure
	for _, s := range m.Stops {
		points = append(points, roll.Measure{Stop: s.Label, SheetMM: s.GapMM * (1 + spring)})
	}
	fit, err := roll.Calibrate(m, points, spring)
	if err != nil {
		panic(err)
	}
	m = m.Apply(fit, points, spring, "2026-11-01")
	return &m
}
