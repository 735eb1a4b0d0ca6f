package form

import (
	"fmt"
	"math"
	"math/rand/v2"
	"net/url"
	"testing"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// weighedForm is the form of a batch made as its maker makes it, as a page posts it.
func weighedForm(base request.Request, in measure.System) url.Values {
	v, page := url.Values{}, request.Padded(base)
	for _, f := range request.Fields() {
		v.Set(f.Path, f.In(in).Get(&page))
		if f.Group != "" && !f.Has(&base) && f.Part == "share" {
			v.Set(f.Path, "") // as a page shows an empty slot
		}
	}
	v.Set("was_amount", string(base.Amount.By))
	for _, f := range weighed() {
		v.Set(WeightPrefix+f.Path, AnyMass().In(in).Shown(ShareG(f, &page, base.Amount.FlourG)))
		if f.Group != "" && !f.Has(&base) {
			v.Set(WeightPrefix+f.Path, "")
		}
	}
	return v
}

func rebind(t *testing.T, base request.Request, in measure.System, typed map[string]string) Form {
	t.Helper()
	v := weighedForm(base, in)
	for path, text := range typed {
		v.Set(path, text)
	}
	f, err := Bind(base, v, With{Rules: rules.Default(), Typed: in, Shown: in}, time.Now())
	if err != nil {
		t.Fatal(err)
	}
	return f
}

// asWeighed are the masses of a request: flours, oil, salt, additions.
func asWeighed(r *request.Request) (g []float64) {
	for _, x := range r.Flours {
		g = append(g, x.Share*r.Amount.FlourG)
	}
	g = append(g, r.Oil*r.Amount.FlourG, r.Salt*r.Amount.FlourG)
	for _, x := range r.Additions {
		g = append(g, x.Share*r.Amount.FlourG)
	}
	return g
}

// What is weighed stays weighed: a flour that is changed moves itself alone.
func TestOwnWeightsAreLiteral(t *testing.T) {
	r := request.Default()
	r.Amount.By, r.Amount.FlourG, r.Oil, r.Salt = request.ByOwn, 500, .03, .004
	r.Flours = append(r.Flours, request.FlourPart{Flour: "semola-fine", Share: .2, Kept: r.Flours[0].Kept, OpenDays: 7,
		ContainsKG: 1})
	r.Flours[0].Share = .8
	r.Additions = []request.AdditionPart{{Addition: "spinach", Share: .1}}
	for _, in := range []measure.System{measure.Metric, measure.Customary} {
		for _, c := range []struct {
			name  string
			typed map[string]string
			want  []float64 // flours, oil, salt, addition
		}{
			{"nothing", nil, []float64{400, 100, 15, 2, 50}},
			{"the first flour", map[string]string{"g.flours.0.share": "470 g"}, []float64{470, 100, 15, 2, 50}},
			{"the second flour", map[string]string{"g.flours.1.share": "37 g"}, []float64{400, 37, 15, 2, 50}},
			{"oil by the spoon", map[string]string{"g.oil_share": "2 tbsp"}, []float64{400, 100, 27, 2, 50}},
			{"no salt", map[string]string{"g.salt_share": ""}, []float64{400, 100, 15, 0, 50}},
			{"a third flour", map[string]string{"flours.2.flour": "plain", "g.flours.2.share": "60 g"}, []float64{400,
				100, 60, 15, 2, 50}},
			{"a third flour, as much as is usual", map[string]string{"flours.2.flour": "plain"}, []float64{400, 100,
				100, 15, 2, 50}},
			{"no second flour", map[string]string{"flours.1.flour": ""}, []float64{400, 15, 2, 50}},
			{"more of the addition", map[string]string{"g.additions.0.share": "120 g"}, []float64{400, 100, 15, 2,
				120}},
			{"the flour in all, by a button", map[string]string{"set": "amount.flour_g=600"}, []float64{480, 120, 15, 2,
				50}},
			{"by share", map[string]string{"g.flours.1.share": "25 %", "g.oil_share": "2 %", "g.salt_share": "1 %"},
				[]float64{400, 133.333, 10.667, 5.333, 50}},
			{"all at once", map[string]string{"g.flours.0.share": "300 g", "g.flours.1.share": "300 g",
				"g.oil_share": "12 g", "g.salt_share": "a pinch",
				"g.additions.0.share": "60 g"}, []float64{300, 300, 12, .4, 60}},
		} {
			f := rebind(t, r, in, c.typed)
			got := asWeighed(&f.Request)
			if len(f.Errors) > 0 || len(got) != len(c.want) {
				t.Errorf("%v, %s: %v, %v", in, c.name, got, f.Errors)
				continue
			}
			for i := range got {
				if math.Abs(got[i]-c.want[i]) > .011 {
					t.Errorf("%v, %s: %v, not %v", in, c.name, got, c.want)
				}
			}
		}
	}
}

// Two thousand random bowls weigh what is typed into the form.
func TestRandomBowls(t *testing.T) {
	rnd := rand.New(rand.NewPCG(12, 1))
	flours := []string{"soft-00", "semola-fine", "plain", "wholemeal", "buckwheat"}
	for range 2000 {
		base := request.Default()
		base.Amount.By = request.ByOwn
		typed, sum := map[string]string{}, 0.
		n := 1 + rnd.IntN(5)
		want := make([]float64, n)
		for i := range n {
			want[i] = float64(60 + rnd.IntN(900))
			sum += want[i]
			typed[fmt.Sprintf("flours.%d.flour", i)], typed[fmt.Sprintf("g.flours.%d.share", i)] = flours[i],
				fmt.Sprint(want[i])
		}
		oil, salt := math.Round(10*sum*.1*rnd.Float64())/10, math.Round(10*sum*.02*rnd.Float64())/10
		typed["g.oil_share"], typed["g.salt_share"] = fmt.Sprint(oil), fmt.Sprint(salt)
		eggs, liquid := rnd.IntN(9), float64(rnd.IntN(60))
		typed["eggs.fix_whole_eggs"], typed["eggs.liquid_g"] = fmt.Sprint(eggs), fmt.Sprint(liquid)
		f := rebind(t, base, measure.Metric, typed)
		p := f.Plan
		if len(f.Errors) > 0 {
			t.Fatalf("%v: %v", typed, f.Errors)
		}
		for i, x := range p.Formula.Flours {
			if math.Abs(x.MassG-want[i]) > .005 {
				t.Fatalf("%v: %g g of %s", typed, x.MassG, x.Name)
			}
		}
		c := p.EggClass()
		if o := &p.Formula; math.Abs(o.OilG-oil) > .005 || math.Abs(o.SaltG-salt) > .005 ||
			math.Abs(o.FlourG-sum) > .005 ||
			math.Abs(o.WholeG-float64(eggs)*c.EdibleG) > .005 || o.TopG != liquid {
			t.Fatalf("%v: %+v", typed, *o)
		}
	}
}

// What cannot be weighed is refused beside its field, with what is allowed; the last good weight counts.
func TestOwnWeightsRefused(t *testing.T) {
	r := request.Default()
	r.Amount.By, r.Amount.FlourG = request.ByOwn, 500
	for path, text := range map[string]string{"g.flours.0.share": "lots", "g.oil_share": "70", "g.salt_share": "-1",
		"g.additions.0.share": "9000"} {
		typed := map[string]string{path: text}
		if path == "g.additions.0.share" {
			typed["additions.0.addition"] = "spinach"
		}
		f := rebind(t, r, measure.Metric, typed)
		e, refused := f.Errors[path]
		if !refused || f.Typed[path] != text || e.Allowed == "" || len(f.Errors) != 1 {
			t.Errorf("%s=%s: %v, %v", path, text, f.Errors, f.Typed)
		}
		if f.Plan.Formula.FlourG != 500 {
			t.Errorf("%s=%s: %g g of flour", path, text, f.Plan.Formula.FlourG)
		}
	}
	if f := rebind(t, r, measure.Metric,
		map[string]string{"g.flours.0.share": "30"}); f.Errors["g.flours.0.share"].Allowed == "" {
		t.Errorf("30 g of flour in all: %v", f.Errors)
	}
}

// A batch that was worked out is taken over as it is: the same dough, now at the maker's word.
func TestMakeItMine(t *testing.T) {
	for _, change := range []func(*request.Request){
		func(*request.Request) {},
		func(r *request.Request) { r.Eggs.Style = "rich" },
		func(r *request.Request) { r.Eggs.Style, r.Amount.Portions = "yolk", 3 },
		func(r *request.Request) { r.Eggs.ByWeight = true },
		func(r *request.Request) { r.Eggs.Style = "none" },
		func(r *request.Request) { r.Amount.By, r.Amount.EggG = request.ByEggs, 333 },
		func(r *request.Request) { r.Amount.By, r.Amount.FlourG, r.Oil = request.ByFlour, 720, .02 },
	} {
		r := request.Default()
		change(&r)
		was := rebind(t, r, measure.Metric, nil).Plan
		f := rebind(t, r, measure.Metric, map[string]string{"set": "amount.by=own"})
		if len(f.Errors) > 0 || !f.Plan.AsMade() {
			t.Errorf("%v", f.Errors)
			continue
		}
		if a, b := was.Formula.Dough, f.Plan.Formula.Dough; math.Abs(a.MassG-b.MassG) > .005*a.MassG ||
			math.Abs(a.Hw-b.Hw) > .35 {
			t.Errorf("%+v: %.1f g at %.2f becomes %.1f g at %.2f", r.Eggs, a.MassG, a.Hw, b.MassG, b.Hw)
		}
	}
}
