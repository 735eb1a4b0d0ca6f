package knead

import (
	"math"
	"testing"

	"hollen/internal/core/flour"
	"hollen/internal/core/rules"
)

var by = rules.Default().Knead

// reference is the dough of the published reference points: gluten protein 10.5 %, fat
// 6.9 %, working hydration 42 or more, 600 g, start and room 22 °C.
func reference() Dough {
	b := flour.Blend{GlutenProteinPct: 10.5, GlutenFactor: 1, Uptakes: []flour.UptakeOf{{Share: 1, TauMin: 6}}}
	return Of(rules.Default(), b, 6.9, 46, 600)
}

func near(t *testing.T, what string, got, want, tol float64) {
	t.Helper()
	if math.Abs(got-want) > tol {
		t.Errorf("%s: got %.4f, want %.4f ± %g", what, got, want, tol)
	}
}

func TestReferencePoints(t *testing.T) {
	d := reference()
	start := d.Start(22)
	ten := d.Knead(start, by.Hand, 10, 22)

	s := d.Rest(ten, 30, 22)
	near(t, "10 hand + 30: D", d.D(s), .946, .0006)
	near(t, "10 hand + 30: T", s.T, .081, .0006)

	s = d.Folds(d.Rest(d.Knead(start, by.Hand, 2, 22), 25, 22), 13)
	near(t, "2 + 25 + 13 folds: D", d.D(s), .914, .0006)
	near(t, "2 + 25 + 13 folds: T", s.T, .248, .0006)

	s = d.Rest(ten, 30, 4)
	near(t, "10 + 30 at 4 °C: T", s.T, .126, .0006)
	near(t, "10 + 30 at 4 °C: temperature", s.TempC, 17.8, .06)

	s = d.Rest(d.Knead(d.Knead(start, by.Processor, .75, 22), by.Hand, 2, 22), 30, 22)
	near(t, "45 s processor + 2 + 30: D", d.D(s), .916, .0006)

	s = d.Rest(d.Knead(start, by.Hand, 1, 22), 12*60, 4)
	near(t, "1 + 12 h at 4 °C: D", d.D(s), .53, .006)
}

// Taking the same minutes in halves changes nothing at the shown precision.
func TestStepDoesNotMatter(t *testing.T) {
	d := reference()
	a := d.Rest(d.Knead(d.Start(26), by.Hand, 10, 20), 40, 4)
	b := d.Start(26)
	for range 200 {
		b = d.Knead(b, by.Hand, .05, 20)
	}
	for range 800 {
		b = d.Rest(b, .05, 4)
	}
	near(t, "D", d.D(a), d.D(b), .0005)
	near(t, "T", a.T, b.T, .0005)
	near(t, "temperature", a.TempC, b.TempC, .05)
}

func TestProperties(t *testing.T) {
	d := reference()
	last := d.Knead(d.Start(22), by.Hand, 8, 22)
	for range 60 {
		s := d.Rest(last, 2, 18)
		if s.T > last.T || d.U(s) < d.U(last) || d.D(s) < d.D(last) || s.T < 0 || d.D(s) > 1 || d.U(s) > 1 {
			t.Fatalf("rest makes it worse: %+v after %+v", s, last)
		}
		if cold := d.Rest(last, 2, 4); cold.T < s.T {
			t.Fatal("relaxes faster in the cold")
		}
		last = s
	}
	for m := 1.; m < 20; m++ {
		if d.D(d.Knead(d.Start(22), by.Hand, m+1, 22)) <= d.D(d.Knead(d.Start(22), by.Hand, m, 22)) {
			t.Fatal("more work, less development")
		}
	}
}

func ask(r rules.Rules) Ask {
	return Ask{Method: by.Hand, StartC: 22, RoomC: 22, RestC: 22, Folds: 3, MinRest: r.Knead.RestMinMin,
		GlutenBar: r.Flour.GlutenNoSheet, ColdBarC: r.Safety.ColdC}
}

// No way within the school that is ready takes less time, or as long with less kneading.
func TestLongIsMinimal(t *testing.T) {
	r := rules.Default()
	for _, key := range []string{"soft-00", "strong", "semola-fine", "semolina-coarse", "wholemeal", "spelt-white"} {
		f, _ := flour.Find(key)
		b := flour.Mix(r.Flour, []flour.Part{{Flour: f, MassG: 400, Moisture: flour.Moisture{NowWB: .135}}})
		for _, hw := range []float64{36, 39, 42, 46} {
			for _, restC := range []float64{4, 16, 22, 32} {
				d := Of(r, b, 6, hw, 600)
				a := ask(r)
				a.RestC = restC
				got := d.Long(a)
				for m := 8.; m <= 15; m++ {
					for rest := a.MinRest; rest <= r.Knead.RestMaxMin; rest += 5 {
						earlier := m+rest < got.KneadMin+got.RestMin || m+rest == got.KneadMin+got.RestMin && m < got.KneadMin
						if (earlier || !got.Ready) && d.ready(a, d.Rest(d.Knead(d.Start(22), by.Hand, m, 22), rest, restC)) {
							t.Fatalf("%s Hw %v rest at %v: %v + %v is ready, got %+v", key, hw, restC, m, rest, got)
						}
					}
				}
			}
		}
	}
}

func TestLongSaysWhatIsShort(t *testing.T) {
	r := rules.Default()
	d := reference()
	a := ask(r)
	a.FixKnead, a.FixRest, a.Folds = 2, 5, 0
	w := d.Long(a)
	if w.Ready || len(w.Short) != 3 || w.KneadMin != 2 || w.RestMin != 5 {
		t.Errorf("2 + 5 min without folds: %+v", w)
	}
	if w.MinFoldsFor < 5 {
		t.Errorf("folds to finish it: %d", w.MinFoldsFor)
	}
	d.Gluten = .2
	a.FixRest = 60
	if w := d.Long(a); !w.Ready {
		t.Errorf("without gluten only uptake counts: %+v", w)
	}
}

func TestTemper(t *testing.T) {
	d := reference()
	near(t, "4 °C dough in a 22 °C room", d.TemperMin(rules.Default().Knead, 4, 22), 75*math.Sqrt(1.2)*math.Log(18./10), .01)
}

func TestContact(t *testing.T) {
	r := rules.Default().Knead
	near(t, "fridge eggs", ContactC(r, Part{500, FlourHeat, 22}, Part{300, EggHeat, 4}), (500*1.75*22+300*3.4*4)/(500*1.75+300*3.4)+1, 1e-9)
}

func BenchmarkLong(b *testing.B) {
	r := rules.Default()
	d := reference()
	a := ask(r)
	for b.Loop() {
		d.Long(a)
	}
}
