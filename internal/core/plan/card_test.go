package plan

import (
	"math"
	"slices"
	"strings"
	"testing"

	"hollen/internal/core/addition"
	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// leading reads the number a text begins with, its thousands grouped.
func leading(t *testing.T, s string) float64 {
	t.Helper()
	n, ok := measure.ParseNumber(strings.Fields(s)[0])
	if !ok {
		t.Fatalf("%q begins with no number", s)
	}
	return n
}

// What the sheet tells to weigh adds up to the dough, whatever is in it.
func TestToWeighAddsUp(t *testing.T) {
	for name, change := range map[string]func(*request.Request){
		"whole eggs": func(*request.Request) {},
		"rich":       func(r *request.Request) { r.Eggs.Style = egg.Rich },
		"no egg":     func(r *request.Request) { r.Eggs.Style = egg.NoEgg },
		"everything": func(r *request.Request) {
			r.Flours = []request.FlourPart{{Flour: "soft-00", Share: .7, Kept: flour.PaperBag, ContainsKG: 1},
				{Flour: "semola-fine", Share: .3, Kept: flour.PaperBag, ContainsKG: 1}}
			r.Salt, r.Oil, r.Additions = .01, .02, []request.AdditionPart{{Addition: "spinach", Share: .1}}
			r.Eggs.Also = []request.EggCount{{Class: "eu-m", Count: 2}}
		},
		"the jug": func(r *request.Request) { r.Amount.By = "eggs" },
	} {
		r := request.Default()
		change(&r)
		p := must(t, r)
		f, sum := &p.Formula, 0.
		for _, x := range p.ToWeigh() {
			switch {
			case strings.HasPrefix(x.What, "Eggs,"):
				sum += leading(t, x.Note)
			case x.What == "With them":
				sum += leading(t, x.Note)
			default:
				for _, part := range strings.Split(x.Much, " + ") {
					sum += leading(t, part)
				}
			}
		}
		keepsMore := 0. // in damp air what stands by the board comes on top
		if p.Room.CorrectionG < 0 {
			keepsMore = p.Room.KeepG
		}
		if want := f.Dough.MassG + p.Room.BoardLossG + keepsMore; math.Abs(sum-want) > float64(len(p.ToWeigh())) {
			t.Errorf("%s: %.0f g to weigh for %.0f g of dough: %+v", name, sum, want, p.ToWeigh())
		}
	}
}

// The steps follow one another, their times too, and end in the pot; with a time to roll they go
// by the clock.
func TestCardFollowsTheWork(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*request.Request)
		wants  []string
	}{
		"ribbons": {func(*request.Request) {}, []string{"Mix", "Knead by hand", "Rest in the room", "Roll",
			"Cut", "Cook"}},
		"dried": {func(r *request.Request) {
			r.Dry.Sheet.By, r.Dry.Pieces.By, r.Dry.Pieces.Min = request.DryWorked, request.DrySaid, ptr(20)
		}, []string{"Roll", "To leather", "Cut", "Dry the ribbons", "Cook"}},
		"ravioli": {func(r *request.Request) { r.Cut.Shape, r.Keep.Where = "ravioli", "freezer" }, []string{"Mix",
			"Roll", "Fill and close", "Freeze", "Cook"}},
		"formed": {func(r *request.Request) { r.Cut.Shape = "cavatelli" }, []string{"Mix", "Ropes", "Form", "Cook"}},
		"mixed": {func(r *request.Request) { r.Cut.Also = []request.ShapePart{{Shape: "mezzelune", Portions: 3}} },
			[]string{"Cut", "Fill and close"}},
		"to keep":  {func(r *request.Request) { r.Dry.Keep = true }, []string{"Cut", "Dry", "Cook"}},
		"in fog":   {func(r *request.Request) { r.Room.RH = .98 }, []string{"Roll", "Cut", "Cook"}},
		"by clock": {func(r *request.Request) { r.Clock.RollAt = "2026-11-28T17:30" }, []string{"Roll"}},
	} {
		r := request.Default()
		c.change(&r)
		p := must(t, r)
		steps := p.Card()
		at, now := 0, 0.
		for _, s := range steps {
			if s.Key == FillingStep { // ready and cold before the roller is wanted
				if ready := s.FromMin + s.Min; ready > 0 || ready+30 > p.way.ElapsedMin+1e-9 && name != "in fog" {
					t.Errorf("%s: the filling is made by %v", name, ready)
				}
				continue
			}
			if math.Abs(s.FromMin-now) > 1e-6 {
				t.Errorf("%s: %s begins at %v, not %v", name, s.Head, s.FromMin, now)
			}
			now += s.Min
			if at < len(c.wants) && s.Head == c.wants[at] {
				at++
			}
			if strings.Contains(s.Brief, "%!") || s.Text == "" {
				t.Errorf("%s: %s says %q", name, s.Head, s.Text)
			}
			if name == "by clock" && s.Head == "Roll" && s.At != "17:30" {
				t.Errorf("rolls at %s", s.At)
			}
		}
		if at < len(c.wants) {
			t.Errorf("%s: no %q in %+v", name, c.wants[at], steps)
		}
	}
	if fog := func() request.Request { r := request.Default(); r.Room.RH = .98; return r }(); slices.ContainsFunc(must(
		t, fog).Card(),
		func(s Step) bool { return s.Head == "To leather" }) {
		t.Error("it is told to dry to leather in fog")
	}
}

// A dough that is kneaded in loads, or shared out, says so at its kneading on the sheet.
func TestCardSaysLoads(t *testing.T) {
	for share, says := range map[bool]string{false: "In 2 loads of ", true: " to each of 2, then joined by ten folds. "} {
		r := request.Default()
		r.Amount.Portions, r.Bench.People, r.Knead.Shared = 14, 2, share
		steps := must(t, r).Card()
		at := slices.IndexFunc(steps, func(s Step) bool { return s.Head == "Knead by hand" })
		if at < 0 || !strings.Contains(steps[at].Brief, says) || !strings.HasSuffix(steps[at].Brief, "springs back.") {
			t.Errorf("shared %v: %+v", share, steps)
		}
	}
}

// A label calls things what they are, not what a shelf does, and durum stands on it only where durum
// is mixed or dusted.
func TestLabelNames(t *testing.T) {
	r := request.Default()
	r.Flours = []request.FlourPart{{Flour: "soft-00", Share: .6, Kept: "paper_bag"}, {Flour: "maize-fine", Share: .2,
		Kept: "paper_bag"},
		{Flour: "plain", Share: .2, Kept: "paper_bag"}}
	r.Flours[0].ContainsKG, r.Flours[1].ContainsKG, r.Flours[2].ContainsKG = 1, 1, 1
	r.Additions = []request.AdditionPart{{Addition: "spinach", Share: .1}}
	names := func(p *Plan) (out []string) {
		for _, x := range p.Ingredients(&p.Cut.CutPart) {
			out = append(out, x.WithAllergen())
		}
		return out
	}
	got := strings.Join(names(must(t, r)), "; ")
	if want := "wheat flour; egg; maize flour; spinach; "; !strings.HasPrefix(got, want) || !strings.Contains(got,
		"semola for dusting (durum wheat)") {
		t.Errorf("%s", got)
	}
	for _, dust := range []request.Dust{request.DustRice, request.DustOwn} {
		r.Roll.Dust = dust
		p := must(t, r)
		if got := strings.Join(names(p), "; "); strings.Contains(got, "durum") || slices.Contains(p.Formula.Allergens,
			"durum wheat") ||
			strings.Contains(got, "rice flour") != (dust == request.DustRice) {
			t.Errorf("dusted with %s: %s; contains %v", dust, got, p.Formula.Allergens)
		}
	}
	r.Flours[2].Flour = "semola-fine"
	if p := must(t, r); !slices.Contains(p.Formula.Allergens, "durum wheat") {
		t.Errorf("semola in it: contains %v", p.Formula.Allergens)
	}
	for _, f := range flour.Shipped() {
		if f.Label == "" {
			t.Errorf("%s has no label name", f.Key)
		}
	}
	for _, a := range addition.Shipped() {
		if a.Label == "" {
			t.Errorf("%s has no label name", a.Key)
		}
	}
}

// The label lists everything in falling order, and every allergen that is said to be in it
// stands by an ingredient.
func TestIngredientsForTheLabel(t *testing.T) {
	r := request.Default()
	r.Eggs.TopUp, r.Room.RH = egg.TopMilk, .3
	r.Additions = []request.AdditionPart{{Addition: "ink", Share: .02}}
	r.Cut.Shape, r.Cut.Filling = "ravioli", request.Filling{Name: "crab", Allergens: "crustaceans, celery"}
	p := must(t, r)
	list, all := p.Ingredients(&p.Cut.CutPart), ""
	for i, x := range list {
		if i > 0 && x.G > list[i-1].G {
			t.Errorf("%s stands after %s", x.Name, list[i-1].Name)
		}
		all += x.Name + " " + strings.ToLower(x.Allergen) + ";"
	}
	for _, a := range p.Formula.Allergens {
		if !strings.Contains(all, a) {
			t.Errorf("%s is in it, and no ingredient says so: %s", a, all)
		}
	}
	if !strings.Contains(all, "crab filling") || !slices.Contains(p.Formula.Allergens, "celery") {
		t.Errorf("%s %v", all, p.Formula.Allergens)
	}
	r.Cut.Also = []request.ShapePart{{Shape: "tagliatelle", Portions: 3}}
	q := must(t, r)
	in, beside := q.AllergensOf(&q.Cut.Also[0])
	if slices.Contains(in, "celery") || !slices.Equal(beside, []string{"crustaceans", "celery"}) ||
		slices.ContainsFunc(q.Ingredients(&q.Cut.Also[0]),
			func(x Ingredient) bool { return strings.Contains(x.Name, "filling") }) {
		t.Errorf("the ribbons beside the ravioli: %v, beside %v", in, beside)
	}
	if c := p.Code(7); c != "7" {
		t.Errorf("no day, code %s", c)
	}
	r.MadeOn = "2026-11-28"
	if c := must(t, r).Code(7); c != "28NOV26-7" {
		t.Errorf("code %s", c)
	}
}

// What a maker changes of a shape is what is cut, and where it can no more be so called the
// cutter goes by the width.
func TestChangedShape(t *testing.T) {
	r := request.Default()
	r.Cut.Shape, r.Cut.Width = "farfalle", ptr(30)
	if c := must(t, r).Cut; c.Shape.WidthMM != 30 || c.Shape.Long() != 50 || c.Count == 0 {
		t.Errorf("%+v", c.Shape)
	}
	r.Cut.Shape, r.Cut.Width = "quadretti", ptr(12)
	if c := must(t, r).Cut; c.LengthMM != 12 || c.WidthMM != 12 {
		t.Errorf("a square no more: %v × %v", c.LengthMM, c.WidthMM)
	}
	r.Cut.Shape, r.Cut.Width = "tagliatelle", ptr(6.2)
	r.Cut.Tool = cut.Cutter
	if c := must(t, r).Cut; c.Cutter == nil || c.WidthMM != 6.5 {
		t.Errorf("%+v", c.Cutter)
	}
	// staggering gains nothing on the first
	for machine, width := range map[string]float64{"hand-crank-10": 60, "sheeter-mm": 45} {
		r = request.Default()
		r.Amount.By, r.Roll.Machine, r.Cut.Shape, r.Cut.Width, r.Cut.Pattern = "flour", machine, "ravioli-round",
			ptr(width), cut.Staggered
		q := must(t, r)
		stagger, why := q.Cut, q.Why["cut.across"]
		r.Cut.Pattern = cut.Grid
		grid := must(t, r).Cut
		r.Cut.Pattern = cut.Auto
		best := must(t, r).Cut
		gains := stagger.PerSheet > grid.PerSheet
		if gains != (machine == "sheeter-mm") || best.PerSheet != max(stagger.PerSheet, grid.PerSheet) ||
			grid.Pattern != cut.Grid ||
			gains != (stagger.Pattern == cut.Staggered) || gains != (best.Pattern == cut.Staggered) ||
			gains == strings.Contains(why, "gives no more here") {
			t.Errorf("%s: %d by itself, %d staggered, %d in a grid: %s", machine, best.PerSheet, stagger.PerSheet,
				grid.PerSheet, why)
		}
	}
	r.Cut.Scraps = "back"
	p := must(t, r)
	if b := p.Cut.Back; b.BackG <= 0 || b.BackG > p.Cut.AllTrimG || !strings.Contains(p.Why["cut.scraps"],
		measure.Metric.Grams(b.BackG)) {
		t.Errorf("%+v of %v: %s", b, p.Cut.AllTrimG, p.Why["cut.scraps"])
	}
}

// The pot's ways: the longer dried the longer in it, from the freezer longer than fresh, and
// what is taken is what the card says.
func TestWaysIntoThePot(t *testing.T) {
	for _, after := range []request.After{request.Fresh, request.AtLeather, request.FirmNests, request.DriedHard,
		request.Frozen} {
		r := request.Default()
		r.Cook.After, r.Bench.PotL, r.Bench.Pots = after, ptr(6), ptr(2)
		p := must(t, r)
		k, last, taken := &p.Cook, 0., 0
		for _, w := range k.Ways {
			if w.Taken {
				taken++
				if math.Abs(w.FromS-k.FromS) > 1e-6 || math.Abs(w.ToS-k.ToS) > 1e-6 {
					t.Errorf("%s: the card says %v–%v, the list %v–%v", after, k.FromS, k.ToS, w.FromS, w.ToS)
				}
			}
			if w.Name != "Frozen, not thawed" && w.Name != "Fresh, finished in the pan" {
				if w.FromS < last {
					t.Errorf("%s is sooner done than what is less dry", w.Name)
				}
				last = w.FromS
			}
		}
		if taken != 1 || float64(k.Loads*2)*k.LoadG < p.Cut.AllMadeG-1e-6 || k.FillL > .8*6+1e-9 {
			t.Errorf("%s: %d ways taken; %d loads of %v g", after, taken, k.Loads, k.LoadG)
		}
	}
}

func TestRacksAndTrays(t *testing.T) {
	p := must(t, request.Default())
	if want := float64(p.Roll.SheetsAll) * (140 + 20) / 1000; math.Abs(p.Dry.RodM-want) > 1e-9 {
		t.Errorf("%v m of rod, want %v", p.Dry.RodM, want)
	}
	nests := p.Cut.Nests
	if p.Cut.LastNest > 0 {
		nests++
	}
	if p.Dry.TrayEach != 24 || p.Dry.Trays != (nests+23)/24 {
		t.Errorf("%d nests on %d trays of %d", nests, p.Dry.Trays, p.Dry.TrayEach)
	}
	// The chart's lines begin at nought, never fall, and pass the windows where the figures say.
	for i, l := range p.DryLines(60) {
		for j, loss := range l.Loss {
			if j == 0 && loss != 0 || j > 0 && loss < l.Loss[j-1] {
				t.Errorf("line %d at %d: %v", i, j, loss)
			}
		}
	}
	if got := p.LossAt(p.Dry.Leather.FromMin); math.Abs(got-.03) > 1e-9 {
		t.Errorf("at leather %v is gone", got)
	}
}
