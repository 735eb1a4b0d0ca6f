package practice

import (
	"encoding/json"
	"errors"
	"math"
	"reflect"
	"testing"

	"hollen/internal/core/egg"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Standings and guesses, with the published numbers.
func TestStandingsAndGuesses(t *testing.T) {
	r := rules.Default().Practice
	row, _ := FindCall(Water)
	s := Standing{}.Seen(&r, .8, 0)
	share, _ := s.At(&r, 0)
	near(t, ".8 on day 0", share, .6, 5e-5)
	s = s.Seen(&r, .3, 3)
	near(t, "a", s.A+1, 2.0246, 5e-5)
	near(t, "b", s.B+1, 1.8811, 5e-5)
	share, _ = s.At(&r, 3)
	near(t, "day 3", share, .5184, 5e-5)
	share, _ = s.At(&r, 24)
	near(t, "day 24", share, .5121, 5e-5)
	if w := s.Words(&r, row, 3); w != "not yet known" {
		t.Errorf("after two: %s", w)
	}
	for range 20 {
		s = s.Seen(&r, .9, 4)
	}
	if w := s.Words(&r, row, 4); w != "sure" {
		t.Errorf("after twenty good ones: %s", w)
	}
	if w := s.Words(&r, row, 200); w != "not yet known" {
		t.Errorf("half a year on: %s", w)
	}
	score := func(guess, truth float64, w Width) float64 {
		s, _ := Score(r.Guess, r.GuessShare, guess, truth, w)
		return s
	}
	near(t, "fair, 22", score(20, 22, Fair), .5, 5e-5)
	near(t, "fair, 30", score(20, 30, Fair), 2.0547, 5e-5)
	near(t, "close, 24", score(20, 24, Close), 1.0232, 5e-5)
}

// The calls of a sitting: what was never met first, then what was met longest ago.
func TestNext(t *testing.T) {
	r := rules.Default().Practice
	of := map[Call]Standing{}
	got := Next(&r, of, 0, 6)
	if !reflect.DeepEqual(got, []Call{Shaggy, Water, Kneaded, Rested, SkinFound, Folds}) {
		t.Errorf("at first: %v", got)
	}
	for i, c := range Calls() {
		of[c.Key] = Standing{}.Seen(&r, .9, float64(20-i))
	}
	of[Folds] = Standing{}.Seen(&r, .1, 11) // as long ago as the last, and weaker
	of[Pot] = Standing{}.Seen(&r, .9, 11)
	if got = Next(&r, of, 30, 12); got[0] != Folds || got[1] != Pot || got[2] != Dry || got[10] != Folds {
		t.Errorf("later: %v", got)
	}
}

// The same seed gives the same bytes, however the acts are split, and what is off is never shown by the words alone.
func TestFoldsAlike(t *testing.T) {
	k := NewKitchen(book(t, false))
	for seed := range uint64(12) {
		whole := k.DoctorsWay(seed, 1+int(seed%3))
		for cut := 0; cut <= len(whole.Acts); cut += 5 {
			x, err := NewKitchen(k.Base).Fold(seed, whole.Level, whole.Acts[:cut], seed%2 == 0)
			if err != nil {
				t.Fatal(err)
			}
			for _, a := range whole.Acts[cut:] {
				if err := x.Do(a); err != nil {
					t.Fatal(err)
				}
			}
			a, _ := json.Marshal([]any{x.Line, x.Shown, x.Dough.Lost()})
			b, _ := json.Marshal([]any{whole.Line, whole.Shown, whole.Dough.Lost()})
			if string(a) != string(b) {
				t.Fatalf("seed %d cut at %d differs", seed, cut)
			}
		}
	}
	for level := 1; level <= 3; level++ {
		a, b := k.Drill(7, Water, level), NewKitchen(k.Base).Drill(7, Water, level)
		if !reflect.DeepEqual(a.Shown, b.Shown) || !reflect.DeepEqual(a.Judge(0).Expected, b.Judge(0).Expected) {
			t.Errorf("level %d: a drill is not the same again", level)
		}
	}
}

// Every dough that is given can be brought over what is promised by good work.
func TestNoHopelessDough(t *testing.T) {
	b := book(t, false)
	for seed := range uint64(400) {
		d := New(b, Draw(b, seed, 3), 0)
		if l := finish(&d, Shaggy, false, .5); 100-l.Sum() < b.Rules.Practice.LeastPoints {
			t.Errorf("seed %d keeps %.0f at best", seed, 100-l.Sum())
		}
	}
}

// Acts out of order, absurd or not numbers are refused by name, and nothing comes of them.
func TestActsRefused(t *testing.T) {
	k := NewKitchen(book(t, true))
	x, _ := k.Fold(1, 2, nil, true)
	before := x.Dough
	for _, a := range []Act{{Do: DoKnead, N: -3}, {Do: DoWater, N: math.NaN()}, {Do: DoWater, N: 1e9},
		{Do: DoDrain}, {Do: "bake", N: 3},
		{Do: DoPass}, {Do: DoLook, Sign: Tooth}, {Do: DoLook, Sign: "x"}, {Do: DoCut}, {Do: DoFold, N: 1.5},
		{Do: DoKnead, N: math.Inf(1)}} {
		var e ActError
		if err := x.Do(a); !errors.As(err, &e) || e.Allowed == "" {
			t.Errorf("%v: %v", a, err)
		}
	}
	if !reflect.DeepEqual(before, x.Dough) || len(x.Acts) > 0 {
		t.Error("a refused act changed the dough")
	}
	for range 400 {
		if err := x.Do(Act{Do: DoLook, Sign: Flex}); err != nil {
			t.Fatal(err)
		}
	}
	if err := x.Do(Act{Do: DoLook, Sign: Flex}); err == nil {
		t.Error("more acts than a dough takes")
	}
}

// FuzzActs does whatever is thought of: never a number that is none.
func FuzzActs(f *testing.F) {
	b := book(f, false)
	k := NewKitchen(b)
	f.Add(uint64(1), []byte{0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 40, 41, 42, 43})
	f.Fuzz(func(t *testing.T, seed uint64, what []byte) {
		x, _ := k.Fold(seed, 1+int(seed%3), nil, false)
		for _, w := range what[:min(len(what), 200)] {
			kinds := Kinds(x.Phase)
			if len(kinds) == 0 {
				break
			}
			kind := kinds[int(w)%len(kinds)]
			n := kind.Low + float64(w/8)*kind.Step
			_ = x.Do(Act{Do: kind.Do, N: min(n, kind.High)})
			if l := x.Dough.Lost().Sum(); math.IsNaN(l) || l < 0 || l > 100 {
				t.Fatalf("lost %v after %v", l, x.Acts)
			}
		}
	})
}

// What practice does not have the laws of is refused by name.
func TestRefused(t *testing.T) {
	for what, change := range map[string]func(r *request.Request){
		"pin":      func(r *request.Request) { r.Roll.Machine = "pin-board" },
		"filled":   func(r *request.Request) { r.Cut.Shape = "ravioli" },
		"yolks":    func(r *request.Request) { r.Eggs.Style = egg.YolksOnly },
		"no egg":   func(r *request.Request) { r.Eggs.Style = egg.NoEgg },
		"by hand":  func(r *request.Request) { r.Cut.Shape = "orecchiette" },
		"gluten":   func(r *request.Request) { r.Flours[0].Flour = "buckwheat" },
		"coloured": func(r *request.Request) { r.Additions = []request.AdditionPart{{Addition: "spinach", Share: .2}} },
	} {
		r := Default()
		change(&r)
		p, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Errorf("%s: %v", what, err)
			continue
		}
		if _, err := Of(p); !errors.Is(err, ErrRefused) {
			t.Errorf("%s: %v", what, err)
		}
	}
	large := Default()
	large.Amount.FlourG = 5000
	p, err := plan.Make(rules.Default(), large)
	if err != nil {
		t.Fatal(err)
	}
	b, err := Of(p)
	if err != nil || b.FlourG != 400 || math.Abs(b.EggG/b.FlourG-p.Formula.WholeG/p.Formula.FlourG) > 1e-9 {
		t.Errorf("five kilos: %v, %+v", err, b)
	}
}
