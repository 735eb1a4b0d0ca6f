package plan

import (
	"errors"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Of one dough: ropes from dough set aside, a handful, pieces and grams of it, and what is undecided.
func TestShapesInEveryMeasure(t *testing.T) {
	r := request.Default()
	r.Amount.By, r.Amount.FlourG = request.ByFlour, 1000
	r.Cut.Also = []request.ShapePart{{Shape: "orecchiette", By: request.ShareByGrams, Portions: 300},
		{Shape: "cavatelli", By: request.ShareByHandful, Portions: 2}, {Shape: "pappardelle", By: request.ShareByPieces,
			Portions: 2},
		{Shape: "sheets", By: request.ShareByGrams, Portions: 250}}
	p := must(t, r)
	c := &p.Cut
	rope, handful, ribbons, sheets := c.Also[0], c.Also[1], c.Also[2], c.Also[3]
	if g := rope.Got(); g < 300 || g > 301.4+1e-9 || rope.Sheets != 0 || rope.Rope == nil {
		t.Errorf("%.1f g of dough for orecchiette, %d sheets", g, rope.Sheets)
	}
	if g := handful.Got(); g < 120 || g > 121.2 {
		t.Errorf("two handfuls are %.1f g", g)
	}
	if p.Roll.AsideG != rope.Got()+handful.Got() {
		t.Errorf("%.1f g aside, %.1f and %.1f g in ropes", p.Roll.AsideG, rope.Got(), handful.Got())
	}
	if g := ribbons.Got(); math.Abs(g/p.Roll.RolledG-2) > .51 {
		t.Errorf("%.2f pieces for pappardelle", g/p.Roll.RolledG)
	}
	if sheets.TrimG != 0 || sheets.Count != sheets.Sheets || math.Abs(sheets.Got()-250) > .7*p.Cut.SheetG {
		t.Errorf("%d sheets of %.0f g stay", sheets.Count, p.Cut.SheetG)
	}
	all := p.dividedG()
	if got := p.Roll.AsideG + float64(p.Roll.Pieces)*p.Roll.PieceG; math.Abs(got-all) > 1e-6 {
		t.Errorf("%.3f g divided of %.3f", got, all)
	}
	for _, says := range []string{"Set 301 g aside, covered, for orecchiette", "orecchiette 301 g of dough",
		"left as sheets"} {
		if said := p.Why["roll.pieces"] + p.SharedWords(); !strings.Contains(said, says) {
			t.Errorf("%q is not said: %s", says, said)
		}
	}
}

// Over random requests every gram is somewhere: in ropes, in shapes, in trimmings; what is asked for in dough
// is got within a sheet.
func TestEveryGramOfManyShapes(t *testing.T) {
	rnd := rand.New(rand.NewPCG(12, 5))
	shapes := []string{"orecchiette", "cavatelli", "pappardelle", "farfalle", "ravioli", "sheets", "quadretti",
		"fettuccine"}
	by := []request.ShareBy{"", request.ShareByGrams, request.ShareByPieces, request.ShareByHandful}
	for range 250 {
		r := request.Default()
		r.Amount.By, r.Amount.FlourG = request.ByFlour, float64(500+rnd.IntN(2500))
		r.Roll.Machine = []string{"hand-crank-10", "mixer-8", "sheeter-mm", "pin-board", "motor-9"}[rnd.IntN(5)]
		for range 1 + rnd.IntN(6) {
			x := request.ShapePart{Shape: shapes[rnd.IntN(len(shapes))], By: by[rnd.IntN(4)], Portions: 1}
			switch x.By {
			case request.ShareByGrams:
				x.Portions = float64(50 + rnd.IntN(300))
			case request.ShareByHandful:
				x.Portions = float64(1 + rnd.IntN(3))
			}
			if stops := r.Roll.Kind().Stops; len(stops) > 0 && rnd.IntN(3) == 0 {
				x.Stop = stops[2+rnd.IntN(len(stops)-3)].Label
			} else if len(stops) == 0 && rnd.IntN(3) == 0 {
				x.Stop = "1.2"
			}
			r.Cut.Also = append(r.Cut.Also, x)
		}
		p := must(t, r)
		rolled := float64(p.Roll.Pieces) * p.Roll.RolledG
		if got := p.Cut.AllDoughG + p.Cut.AllTrimG; math.Abs(got-rolled-p.Roll.AsideG) > 1e-6*got {
			t.Fatalf("%+v: %.2f g in shapes and trimmings, %.2f rolled, %.2f aside", r.Cut.Also, got, rolled,
				p.Roll.AsideG)
		}
		for i, x := range p.Cut.Parts() {
			if math.IsNaN(x.Portions+x.CutMin) || x.MadeG < 0 || p.Cook.FromS <= 0 {
				t.Fatalf("%+v: %+v", r.Cut.Also, x)
			}
			if e := x.Ends; e != nil && (e.MinEach <= 0 || e.SheetMM <= 0 || e.LengthMM <= 0) {
				t.Fatalf("shape %d of %+v ends %+v", i, r.Cut.Also, e)
			}
		}
	}
}

// The pieces of one shape end at a stop of their own: thicker and shorter, or thinner and longer, of the same
// dough; minutes follow.
func TestPiecesEndWhereTheyLike(t *testing.T) {
	r := request.Default()
	r.Cut.Also = []request.ShapePart{{Shape: "fettuccine", Portions: 3}}
	same := must(t, r)
	last := same.Roll.Passes[len(same.Roll.Passes)-1]
	for _, stop := range []string{"5", "6", last.Label, "8", "9"} {
		r.Cut.Also[0].Stop = stop
		p := must(t, r)
		x := &p.Cut.Also[0]
		e := x.Ends
		if e == nil || e.Stop != stop || x.ThickMM() != e.SheetMM {
			t.Fatalf("stop %s: %+v", stop, e)
		}
		volume := e.SheetMM * e.LengthMM * e.WidthMM * p.Formula.Dough.DensityGPerML / 1000
		if one := (x.DoughG + x.TrimG) / float64(x.Sheets); math.Abs(volume/one-1) > .001 {
			t.Errorf("stop %s: %.1f g by its size, %.1f g", stop, volume, one)
		}
		base := p.Roll.SheetMM
		switch {
		case stop < last.Label && (e.SheetMM <= base || !e.Earlier || p.Roll.MinutesAll >= same.Roll.MinutesAll*float64(
			p.Roll.Pieces)/float64(same.Roll.Pieces)):
			t.Errorf("stop %s: %+v, %.1f min", stop, e, p.Roll.MinutesAll)
		case stop > last.Label && (e.SheetMM >= base || e.Earlier || e.Word == ""):
			t.Errorf("stop %s: %+v", stop, e)
		case stop == last.Label && math.Abs(e.SheetMM-base) > 1e-9:
			t.Errorf("stop %s: %+v where all end at %.3f", stop, e, base)
		}
		if !strings.Contains(p.Why["roll.pieces"], "For fettuccine stop at "+stop) {
			t.Error(p.Why["roll.pieces"])
		}
	}
	// What cannot be is refused beside its field.
	for path, change := range map[string]func(*request.ShapePart){
		"cut.also.0.stop":     func(x *request.ShapePart) { x.Stop = "17" },
		"cut.also.0.portions": func(x *request.ShapePart) { x.By, x.Portions = request.ShareByPieces, 61 },
	} {
		bad := r
		bad.Cut.Also = []request.ShapePart{{Shape: "fettuccine", Portions: 3}}
		change(&bad.Cut.Also[0])
		var fe request.FieldError
		if _, err := Make(rules.Default(), bad); !errors.As(err, &fe) || fe.Path != path {
			t.Errorf("%s: %v", path, err)
		}
	}
}

// Ropes alone share the dough, too; a rope before a sheet is asked to come after it.
func TestRopesAlone(t *testing.T) {
	r := request.Default()
	r.Cut.Shape, r.Eggs.Style, r.Flours[0].Flour = "orecchiette", "none", "semola-fine"
	r.Cut.Also = []request.ShapePart{{Shape: "cavatelli", Portions: 4}}
	p := must(t, r)
	if a, b := p.Cut.Portions, p.Cut.Also[0].Portions; !p.Roped() || a < 5.5 || b < 3.8 || p.Roll.AsideG != 0 {
		t.Errorf("%.1f and %.1f portions, %.0f g aside", a, b, p.Roll.AsideG)
	}
}
