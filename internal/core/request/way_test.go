package request

import (
	"math"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"

	"hollen/internal/core/measure"
	"hollen/internal/core/roll"
)

// Every way is written in lines and read back as it is, whatever its steps.
func TestWaysAsLines(t *testing.T) {
	rnd := rand.New(rand.NewPCG(12, 4))
	pick := func(o []Option) string { return o[rnd.IntN(len(o))].Key }
	for range 2000 {
		w := Way{Name: "a way", Of: WayOfKneading}
		if rnd.IntN(2) == 0 {
			w.Of = WayDown
			for range 1 + rnd.IntN(MaxPasses) {
				s := RollStep{Stop: []string{"0", "9", "1.2", "12", "fine"}[rnd.IntN(5)], Passes: float64(1 +
					rnd.IntN(20)),
					Fold:    OwnFold(pick(slotOptions("roll.own_passes", "fold"))),
					First:   roll.First(pick(slotOptions("roll.own_passes", "first"))),
					RestMin: float64(rnd.IntN(3) * rnd.IntN(60)), Dust: rnd.IntN(2) == 0}
				w.Passes = append(w.Passes, s)
			}
		} else {
			for range 1 + rnd.IntN(MaxSteps) {
				do := KneadDo(pick(KneadDoOptions()[1:]))
				s := KneadStep{Do: do, Min: []float64{.5, .75, 1, 1.5, 8, 25, 90, 150, 720}[rnd.IntN(9)],
					Cover: Cover(pick(slotOptions("knead.own_steps", "cover"))),
					Hands: Hands(pick(slotOptions("knead.own_steps", "hands")))}
				w.Steps = append(w.Steps, s)
			}
		}
		if err := w.Check(); err != nil {
			t.Fatalf("%+v: %v", w, err)
		}
		read := Way{Name: w.Name, Of: w.Of}
		if err := read.ReadLines(w.Lines()); err != nil {
			t.Fatalf("%s: %v", w.Lines(), err)
		}
		if !reflect.DeepEqual(read, w) {
			t.Fatalf("%s\nis read as\n%s", w.Lines(), read.Lines())
		}
		r := Default()
		if w.Take(&r); !w.TakenIn(&r) {
			t.Fatalf("%s is not taken", w.Lines())
		}
	}
}

// Lines are read as people write them; what cannot be read is told by its line.
func TestLinesAsTyped(t *testing.T) {
	w := Way{Name: "Sunday", Of: WayOfKneading}
	if err := w.ReadLines("mix, 5\nKNEAD BY HAND, 3:30\n\nrest, 12 h, under a bowl; knead, 45 s, lot by lot"); err != nil {
		t.Fatal(err)
	}
	want := []KneadStep{{Do: DoMix, Min: 5}, {Do: DoHand, Min: 3.5}, {Do: DoRest, Min: 720, Cover: CoverBowl},
		{Do: DoHand, Min: .75, Hands: HandsTurns}}
	if !reflect.DeepEqual(w.Steps, want) {
		t.Errorf("%+v", w.Steps)
	}
	w.Of = WayDown
	if err := w.ReadLines("stop 0\n0, 3 passes, folded in half\n4, 1 pass, halve, rest 10 min, dusted\n1.2 mm"); err != nil {
		t.Fatal(err)
	}
	down := []RollStep{{Stop: "0", Passes: 1}, {Stop: "0", Passes: 3, Fold: FoldHalf}, {Stop: "4", Passes: 1,
		First: roll.Halve, RestMin: 10, Dust: true},
		{Stop: "1.2 mm", Passes: 1}}
	if !reflect.DeepEqual(w.Passes, down) || len(w.Steps) != 0 {
		t.Errorf("%+v", w.Passes)
	}
	for of, texts := range map[WayOf][]string{
		WayOfKneading: {"dance, 5 min", "hand, soon", "hand, -3 min", "hand, 99 h", strings.Repeat("hand, 1 min\n", 15),
			""},
		WayDown: {"0, 3 rolls", "0, 21 passes", "a label that is far too long", "0, 0 passes",
			strings.Repeat("0\n", 25), ""},
	} {
		for _, text := range texts {
			w := Way{Name: "x", Of: of}
			err := w.ReadLines(text)
			if err == nil {
				err = w.Check()
			}
			faults := measure.Faults(err)
			if len(faults) == 0 || faults[0].Field != "lines" || faults[0].Text == "" {
				t.Errorf("%s %q: %v", of, text, err)
			}
		}
	}
	if err := (&Way{Name: "", Of: "dance"}).Check(); len(measure.Faults(err)) != 2 {
		t.Errorf("%v", err)
	}
}

// A way down goes on a machine that has its stops, or under a pin by its millimetres.
func TestWhereAWayGoes(t *testing.T) {
	crank, _ := roll.Find("hand-crank-10")
	motor, _ := roll.Find("motor-9")
	pin, _ := roll.Find("pin-board")
	down := Way{Of: WayDown, Passes: []RollStep{{Stop: "0", Passes: 1}, {Stop: "9", Passes: 1}}}
	thin := Way{Of: WayDown, Passes: []RollStep{{Stop: "10", Passes: 1}, {Stop: "0.8", Passes: 1}}}
	if !down.Goes(crank) || down.Goes(motor) || down.Goes(pin) || !thin.Goes(pin) || thin.Goes(crank) {
		t.Error("a way goes where it does not, or does not where it goes")
	}
	r := Default()
	down.Take(&r)
	for path, typed := range down.Sets() {
		if f, ok := FieldAt(path); !ok || f.Get(&r) != typed && typed != "" {
			t.Errorf("%s=%q", path, typed)
		}
	}
	if math.Abs(float64(len(down.Sets())-1-MaxPasses-2*5)) > 0 {
		t.Errorf("%d fields", len(down.Sets()))
	}
}
