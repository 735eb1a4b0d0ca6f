package plan

import (
	"math"
	"strings"
	"testing"

	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// The maker's own minutes and salt stand as said, from the plan to its steps, of the first shape alone; the model
// stands
// beside them, and what is raw inside keeps its caution.
func TestOwnPot(t *testing.T) {
	pot := func(change func(r *request.Request)) *Plan {
		t.Helper()
		r := request.Default()
		change(&r)
		p, err := Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		return p
	}
	noted := func(p *Plan, code string) bool {
		for _, n := range p.Notes {
			if n.Code == code {
				return true
			}
		}
		return false
	}
	last := func(p *Plan) Step { return p.Steps[len(p.Steps)-1] }
	book := pot(func(*request.Request) {})
	for _, c := range []struct {
		from, to *float64
		fromS    float64
		toS      float64
		says     string
		remarked bool
	}{
		{Some(1.5), nil, 90, 90, "1 min 30, by your own clock", false},
		{Some(2), Some(3), 120, 180, "2 min 00 to 3 min 00, by your own clock", false},
		{Some(8), nil, 480, 480, "8 min 00, by your own clock", true},
		{Some(.5), nil, 30, 30, "30 s, by your own clock", true},
	} {
		p := pot(func(r *request.Request) { r.Cook.Min, r.Cook.ToMin = c.from, c.to })
		turn := p.Cook.Turns[0]
		if p.Cook.FromS != c.fromS || p.Cook.ToS != c.toS || turn.FromS != c.fromS || turn.ToS != c.toS || !turn.Own {
			t.Errorf("%s: %v to %v, its turn %+v", c.says, p.Cook.FromS, p.Cook.ToS, turn)
		}
		step := last(p)
		if step.LeastMin != c.fromS/60 || step.MostMin != c.toS/60 ||
			!strings.HasPrefix(strings.ToLower(step.Text), strings.ToLower(c.says)) {
			t.Errorf("the step says %q, %v to %v min", step.Text, step.LeastMin, step.MostMin)
		}
		if noted(p, "own_pot") != c.remarked || !strings.HasPrefix(p.Why["cook.time"], "Yours, as you say it: ") {
			t.Errorf("%s: remarked %v; %s", c.says, noted(p, "own_pot"), p.Why["cook.time"])
		}
		if from, to := p.PotAs(0, 1.4, .1); from != c.fromS || to != c.toS {
			t.Errorf("measured thicker it is %v to %v", from, to)
		}
		if p.PotS() != c.fromS {
			t.Errorf("lists, comparison and recipe say %v s", p.PotS())
		}
		if p.BookPotS(0) != book.BookPotS(0) || p.Roll.SheetMM != book.Roll.SheetMM {
			t.Error("own minutes move what is worked out")
		}
	}
	// Another shape goes by its own sheet; an end alone is left aside, and said to be.
	two := pot(func(r *request.Request) {
		r.Cook.Min = Some(2)
		r.Cut.Also = []request.ShapePart{{Shape: "tagliolini", Portions: 3}}
	})
	for _, x := range two.Cook.Turns {
		if x.Own != (x.Part == 0) || x.Part == 0 && x.FromS != 120 || x.Part == 1 && x.FromS == 120 {
			t.Errorf("%+v", x)
		}
	}
	if p := pot(func(r *request.Request) { r.Cook.ToMin = Some(3) }); !noted(p, "pot_to_alone") ||
		p.Cook.FromS != book.Cook.FromS {
		t.Errorf("an end alone: from %v", p.Cook.FromS)
	}
	// Salt as said; as much as the sea is asked about. None is none.
	for salt, asked := range map[float64]bool{0: false, .007: false, .035: true} {
		p := pot(func(r *request.Request) { r.Cook.Salt = &salt })
		if got, want := p.Cook.InPotG, 1000*salt*p.Cook.InPotL; math.Abs(got-want) > 1e-9 || noted(p,
			"own_salt") != asked {
			t.Errorf("%v of the water: %v g in %v L, asked %v", salt, got, p.Cook.InPotL, noted(p, "own_salt"))
		}
	}
	raw := func(r *request.Request) {
		r.Cut.Shape = "ravioli"
		r.Cut.Filling = request.Filling{Name: "pork", Kind: request.FillingMeat, Allergens: "none"}
	}
	least := pot(raw).Cook.FromS
	short := pot(func(r *request.Request) { raw(r); r.Cook.Min = Some((least - 20) / 60) })
	if long := pot(func(r *request.Request) { raw(r); r.Cook.Min = Some((least + 5) / 60) }); !noted(short,
		"own_raw") ||
		noted(long, "own_raw") {
		t.Error("raw inside and under its time is not warned of, or over it is")
	} else if s := last(short); !strings.Contains(s.Text, "raw meat inside: to the centre") ||
		long.Cook.Turns[0].ThroughS > 0 {
		t.Errorf("the step says %q", s.Text)
	}
}
