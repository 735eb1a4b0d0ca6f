package plan

import (
	"encoding/json"
	"math"
	"math/rand"
	"strings"
	"testing"

	"hollen/internal/core/addition"
	"hollen/internal/core/cost"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// kitchen returns a random request from what a kitchen may hold.
func kitchen(rnd *rand.Rand) request.Request {
	r := request.Default()
	flours, adds, classes := flour.Shipped(), addition.Shipped(), egg.Classes()
	r.Amount.By, r.Amount.FlourG = "flour", 200+math.Round(rnd.Float64()*4000)
	r.Flours[0].Flour = flours[rnd.Intn(8)].Key
	if rnd.Intn(2) == 0 {
		second := r.Flours[0]
		second.Flour, second.Share = flours[rnd.Intn(len(flours))].Key, .05+.4*rnd.Float64()
		r.Flours[0].Share = 1 - second.Share
		r.Flours = append(r.Flours, second)
	}
	for range rnd.Intn(3) {
		a := adds[rnd.Intn(len(adds))]
		r.Additions = append(r.Additions, request.AdditionPart{Addition: a.Key, Share: a.LowShare +
			rnd.Float64()*(a.HighShare-a.LowShare)})
	}
	if rnd.Intn(3) == 0 {
		r.Eggs.Also = append(r.Eggs.Also, request.EggCount{Class: classes[rnd.Intn(len(classes))].Key,
			Count: float64(1 + rnd.Intn(4))})
	}
	r.Eggs.Class = classes[rnd.Intn(len(classes))].Key
	r.Eggs.Style = []egg.Style{egg.WholeEggs, egg.Rich, egg.YolksOnly, egg.WholeWater, egg.NoEgg}[rnd.Intn(5)]
	r.Room.RH, r.Room.TempC = .2+.7*rnd.Float64(), 12+rnd.Float64()*20
	r.Salt, r.Oil = rnd.Float64()*.01, rnd.Float64()*.03
	return r
}

// Whatever goes in: masses add up, the parts add up to the hydration, the solver's figure is
// the dough's, and nothing reads as no number.
func TestFormulaAddsUp(t *testing.T) {
	rnd := rand.New(rand.NewSource(3))
	for i := range 400 {
		r := kitchen(rnd)
		p := must(t, r)
		f := p.Formula
		in := f.FlourG + f.WholeG + f.YolkG + f.TopG + f.OilG + f.SaltG + addedG(f.Additions) - p.Room.BoardLossG
		if math.Abs(in-f.Dough.MassG) > .1*max(1, in/2000) { // published egg compositions add up to 0.9999
			t.Errorf("%d: %.2f g in, %.2f g of dough", i, in, f.Dough.MassG)
		}
		sum := 0.
		for _, x := range f.Parts {
			sum += x.Points
		}
		if math.Abs(sum-f.Dough.Hw) > 1e-6 || math.Abs(f.Pick.Hw-f.Dough.Hw) > 1e-6 {
			t.Errorf("%d: parts %.4f, solver %.4f, dough %.4f: %+v", i, sum, f.Pick.Hw, f.Dough.Hw, r)
		}
		doc, err := json.Marshal(p)
		if err != nil || strings.Contains(string(doc), "%!") || strings.Contains(string(doc), "NaN") {
			t.Errorf("%d: %v", i, err)
		}
	}
}

// A damper room never asks for more liquid, whatever is in the dough; the chart says so and
// goes through today's point.
func TestDamperNeverAsksForMore(t *testing.T) {
	rnd := rand.New(rand.NewSource(4))
	for range 60 {
		p := must(t, kitchen(rnd))
		last := math.Inf(1)
		for rh := .20; rh <= .91; rh += .02 {
			g := p.LiquidAt(rh)
			if g > last+1e-9 {
				t.Fatalf("rises at %.0f %%: %+v", 100*rh, p.Request)
			}
			last = g
		}
	}
}

// Scaling by k scales every mass by k, as long as the eggs scale, too.
func TestScaling(t *testing.T) {
	for _, k := range []float64{2, 3, 7} {
		r := at14(600)
		r.Eggs.FixWhole, r.Additions, r.Salt, r.Oil = ptr(4), []request.AdditionPart{{Addition: "beet", Share: .1},
			{Addition: "cocoa", Share: .02}}, .004, .01
		a := must(t, r)
		r.Amount.FlourG, r.Eggs.FixWhole = 600*k, ptr(4*k)
		b := must(t, r)
		for what, x := range map[string][2]float64{"flour": {a.Formula.FlourG, b.Formula.FlourG},
			"egg":    {a.Formula.WholeG, b.Formula.WholeG},
			"liquid": {a.Formula.TopG, b.Formula.TopG},
			"salt":   {a.Formula.SaltG, b.Formula.SaltG}, "oil": {a.Formula.OilG, b.Formula.OilG},
			"beet":  {a.Formula.Additions[0].MassG, b.Formula.Additions[0].MassG},
			"cocoa": {a.Formula.Additions[1].MassG, b.Formula.Additions[1].MassG},
			"dough": {a.Formula.Dough.MassG, b.Formula.Dough.MassG}, "held back": {a.Formula.HeldBackG,
				b.Formula.HeldBackG}} {
			if math.Abs(x[1]-k*x[0]) > 1e-6*k*x[0] {
				t.Errorf("× %v: %s %.4f, then %.4f", k, what, x[0], x[1])
			}
		}
	}
}

// Moving the flour to the eggs that were cracked gives the same hydration.
func TestRescaleKeepsHydration(t *testing.T) {
	rnd := rand.New(rand.NewSource(5))
	for range 40 {
		r := kitchen(rnd)
		r.Eggs.Style, r.Eggs.Also = egg.WholeEggs, []request.EggCount{}
		p := must(t, r)
		if p.Formula.Pick.EggG == 0 {
			continue
		}
		r.Amount.By, r.Amount.EggG = "eggs", math.Round(p.Formula.Pick.EggG*(.93+.14*rnd.Float64()))
		if q := must(t, r); math.Abs(q.Formula.Dough.Hw-q.Formula.Target.Hw) > .02 {
			t.Errorf("%.2f where %.2f is aimed at: %+v", q.Formula.Dough.Hw, q.Formula.Target.Hw, r)
		}
	}
}

// Purée brings water and asks for fewer eggs; powder drinks and asks for more.
func TestAdditionsMoveTheEggs(t *testing.T) {
	plain := must(t, at14(1000)).Formula
	for key, way := range map[string]float64{"spinach": -1, "spinach-powder": 1} {
		r := at14(1000)
		a, _ := addition.Find(key)
		r.Additions = []request.AdditionPart{{Addition: key, Share: a.StartShare()}}
		p := must(t, r)
		if f := p.Formula; (f.Pick.EggG+f.TopG-plain.Pick.EggG-plain.TopG)*way <= 0 ||
			math.Abs(f.Dough.Hw-f.Target.Hw) > 1.9 ||
			!strings.Contains(f.Colour.Words, "green from") {
			t.Errorf("%s: %.0f g of egg and %.0f g of liquid; %s", key, f.Pick.EggG, f.TopG, f.Colour.Words)
		}
		if !strings.Contains(p.Why["formula.additions"], "of water") {
			t.Errorf("%q", p.Why["formula.additions"])
		}
	}
	r := at14(1000)
	r.Additions, r.Salt = []request.AdditionPart{{Addition: "ink", Share: .09}}, .01
	p := must(t, r)
	codes := map[string]bool{}
	for _, n := range p.Notes {
		codes[n.Code] = true
	}
	if !codes["much_added"] || !codes["salt_twice"] || !codes["prepare"] || !strings.Contains(strings.Join(
		p.Formula.Allergens, " "), "molluscs") {
		t.Errorf("%v, %v", codes, p.Formula.Allergens)
	}
}

// What is left in the bowl makes the used amounts true, and every station follows.
func TestUsed(t *testing.T) {
	r := request.Default()
	r.Amount.By = "flour"
	r.Eggs.FixWhole = ptr(8)
	p := must(t, r)
	r.Used = request.Used{FlourLeftG: ptr(60), LiquidLeftG: ptr(5), LiquidAddedG: ptr(2)}
	q := must(t, r)
	f, g := p.Formula, q.Formula
	if g.FlourG != f.FlourG-60 || math.Abs(g.TopG-(f.TopG-3)) > 1e-9 ||
		math.Abs(g.Dough.MassG-(f.Dough.MassG-63)) > 1e-6 {
		t.Errorf("%.1f g of flour, %.1f g of liquid, %.1f g of dough", g.FlourG, g.TopG, g.Dough.MassG)
	}
	if u := q.Room.Used; u == nil || u.PlannedHw != f.Dough.Hw || u.Hw != g.Dough.Hw || u.Hw <= u.PlannedHw ||
		q.Room.FlourG != f.FlourG ||
		math.Abs(q.Roll.PieceG*float64(q.Roll.Pieces)-.99*g.Dough.MassG) > 1e-6 {
		t.Errorf("%+v", q.Room)
	}
	// By portions the flour does not grow to make up for what is left.
	r.Amount.By = "portions"
	r.Eggs.FixWhole, r.Used = nil, request.Used{}
	planned := must(t, r).Formula.FlourG
	r.Used = request.Used{FlourLeftG: ptr(40)}
	if got := must(t, r).Formula.FlourG; got != planned-40 {
		t.Errorf("%v g planned, 40 g left, %v g used", planned, got)
	}
}

// A lot says how it was kept and since when; its price and date count.
func TestLotOfABatch(t *testing.T) {
	r := request.Default()
	r.MadeOn = "2026-11-24"
	price, _ := cost.Parse("1.20")
	r.Flours[0].Lot, r.Flours[0].LotKept = "own-7", &flour.Lot{Key: "own-7", Name: "spring sack", Flour: "soft-00",
		How: flour.OpenBin, ContainerKG: 1,
		OpenedOn: "2026-11-20", BestBefore: "2026-11-23", PricePerKG: price}
	p := must(t, r)
	if m := p.Formula.Flours[0].Moisture; math.Abs(m.TauDays-2) > 1e-9 || math.Abs(m.NowWB-(m.EquilibriumWB+(m.MilledWB-m.EquilibriumWB)*math.Exp(-2))) > 1e-9 {
		t.Errorf("%+v", m)
	}
	if n := p.At(request.AtRoom); len(n) == 0 || n[0].Code != "past_best" {
		t.Errorf("%+v", n)
	}
	if l := p.Cost.Lines; len(l) != 1 || l[0].Cost != price.Per(p.Formula.FlourG) {
		t.Errorf("%+v", l)
	}
	r.Flours[0].Lot = "own-8"
	if _, err := Make(rules.Default(), r); err == nil {
		t.Error("a lot under another key is accepted")
	}
}

// The cost adds up to the last digit and says what has no price.
func TestCost(t *testing.T) {
	r := request.Default()
	money := func(s string) *cost.Money { m, _ := cost.Parse(s); return &m }
	r.Eggs.Also, r.Oil, r.Salt = []request.EggCount{{Class: "eu-m", Count: 2}}, .01, .005
	r.Additions = []request.AdditionPart{{Addition: "saffron", Share: .01, PricePerKG: money("40")}}
	r.Flours[0].PricePerKG, r.Prices = money("1.85"), request.Prices{Currency: "€", EggEach: money("0.32"),
		OilKG: money("9.5"), Filling: money("12"),
		WageHour: money("24")}
	p := must(t, r)
	c := p.Cost
	sum := cost.Money(0)
	for _, l := range c.Lines {
		sum += l.Cost
	}
	eggs := money("0.32").Times(float64(p.Formula.Pick.Whole)) + money("0.64").Times(1)
	want := money("1.85").Per(p.Formula.FlourG) + eggs + money("9.5").Per(p.Formula.OilG) +
		money("40").Per(p.Formula.Additions[0].MassG) +
		*money("12") + money("24").Times(math.Round(c.HandsMin)/60)
	if c.Total != sum || sum != want || strings.Join(c.Unpriced, " ") != "Salt" {
		t.Errorf("%v, lines %v, want %v; without a price: %v", c.Total, sum, want, c.Unpriced)
	}
	if c.PerPortion != c.Total.Over(p.Formula.Portions) || math.Abs(c.Yield*p.Formula.FlourG-p.Cut.AllMadeG) > 1e-6 ||
		c.Yield < 1.3 || c.Yield > 1.7 {
		t.Errorf("%+v", c)
	}
}

// Own classes, fields and groups: refused where they cannot be right, kept whole where they
// can.
func TestOwnThings(t *testing.T) {
	r := request.Default()
	r.Eggs.Class, r.Eggs.OwnClass = "own-3", &egg.Class{Key: "own-3", Name: "From the hens on the dike", EdibleG: 55,
		YolkG: 17, YolkColour: 13}
	p := must(t, r)
	if p.EggClass().EdibleG != 55 || math.Mod(p.Formula.WholeG, 55) > 1e-9 {
		t.Errorf("%+v", p.Formula.Pick)
	}
	b := r
	c := *r.Eggs.OwnClass
	c.EdibleG = 57
	b.Eggs.OwnClass = &c
	if d := request.Changes(r, b); len(d) != 1 || !strings.Contains(d[0].ToShown, "newer figures") {
		t.Errorf("%+v", d)
	}
	c.EdibleG = 570
	if _, err := Make(rules.Default(), b); err == nil || !strings.Contains(err.Error(), "eggs.class") {
		t.Errorf("an egg of 570 g: %v", err)
	}
	r = request.Default()
	r.Additions = make([]request.AdditionPart, request.MaxAdditions+1)
	r.MadeOn = "soon"
	if _, err := Make(rules.Default(), r); err == nil || !strings.Contains(err.Error(), "at most 3") ||
		!strings.Contains(err.Error(), "made_on") {
		t.Errorf("%v", err)
	}
}

// By the eater: so many people at so much flour each, and not a gram otherwise.
func TestByTheEater(t *testing.T) {
	r := request.Default()
	r.Amount.By, r.Amount.Eaters, r.Amount.EachG = request.ByEaters, 6, 110
	p, err := Make(rules.Default(), r)
	if err != nil {
		t.Fatal(err)
	}
	if p.Formula.FlourG != 660 || p.Why["formula.flour"] != "6 people at 110 g of flour each." {
		t.Errorf("%v g: %s", p.Formula.FlourG, p.Why["formula.flour"])
	}
	r.Amount.Eaters, r.Amount.EachG = 1, 40
	_, err = Make(rules.Default(), r)
	if e := request.Errors(err); len(e) != 1 || e[0].Path != "amount.flour_each_g" {
		t.Errorf("40 g of flour: %v", err)
	}
}
