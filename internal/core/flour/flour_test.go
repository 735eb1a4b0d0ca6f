package flour

import (
	"math"
	"testing"

	"hollen/internal/core/rules"
)

func TestEquilibriumReference(t *testing.T) {
	for _, c := range []struct {
		s    Sorption
		want float64
	}{{Soft, 10.65}, {Durum, 10.86}} {
		m, clamped := Equilibrium(c.s, 22, .45)
		if math.Abs(100*m-c.want) > .01 || clamped {
			t.Errorf("%s at 22 °C and 45 %%: %.3f %%, clamped %v, want %.2f", c.s, 100*m, clamped, c.want)
		}
	}
	if _, clamped := Equilibrium(Soft, 22, .95); !clamped {
		t.Error("95 % humidity is outside the equation and must say so")
	}
}

// More humid air never dries flour; warmer air never moistens it.
func TestEquilibriumMonotone(t *testing.T) {
	for s := range henderson {
		for temp := 5.; temp <= 40; temp += 5 {
			last := 0.
			for rh := .05; rh <= .96; rh += .01 {
				m, _ := Equilibrium(s, temp, rh)
				if m < last {
					t.Fatalf("%s %v °C: falls at %v", s, temp, rh)
				}
				if w, _ := Equilibrium(s, temp+1, rh); w > m+1e-12 {
					t.Fatalf("%s: rises with warmth at %v °C, %v", s, temp, rh)
				}
				last = m
			}
		}
	}
}

func TestMoistureNow(t *testing.T) {
	r := rules.Default().Flour
	f, _ := Find("soft-00")
	fresh := f.Now(r, Kept{How: PaperBag, Days: 0, MassKG: 1}, 22, .45)
	if math.Abs(fresh.NowWB-.135) > 1e-12 {
		t.Errorf("just opened: %v", fresh.NowWB)
	}
	// After one time constant 1/e of the way is left.
	one := f.Now(r, Kept{How: PaperBag, Days: 8, MassKG: 1}, 22, .45)
	if want := .1065 + (.135-.1065)/math.E; math.Abs(one.NowWB-want) > 1e-4 {
		t.Errorf("after 8 days: %.4f, want %.4f", one.NowWB, want)
	}
	if tub := f.Now(r, Kept{How: SealedTub, Days: 8, MassKG: 1}, 22, .45); tub.NowWB < one.NowWB {
		t.Error("a sealed tub dries faster than a paper bag")
	}
	if big := PaperBag.TauDays(r, 25) / PaperBag.TauDays(r, 1); math.Abs(big-math.Pow(25, 2./3)) > 1e-9 {
		t.Errorf("25 kg lasts %v times as long", big)
	}
	dry := f.Now(r, Kept{How: Sifted, Days: 30, MassKG: 1}, 35, .10)
	if !dry.Bounded || dry.NowWB != r.EstimateLowWB {
		t.Errorf("an estimate beyond belief is kept: %+v", dry)
	}
	m := .098
	if got := f.Now(r, Kept{MeasuredWB: &m, MassKG: 1}, 22, .45); got.NowWB != m || !got.Measured {
		t.Errorf("measured: %+v", got)
	}
}

func TestMix(t *testing.T) {
	r := rules.Default().Flour
	soft, _ := Find("soft-00")
	semola, _ := Find("semola-fine")
	b := Mix(r, []Part{{soft, 800, Moisture{NowWB: .14}}, {semola, 200, Moisture{NowWB: .14}}})
	for _, c := range []struct {
		what      string
		got, want float64
	}{{"F14", b.F14G, 1000}, {"absorption", b.AbsorptionPct, 56.4}, {"protein", b.ProteinPct, 10.9},
		{"gluten protein", b.GlutenProteinPct, .8*10.5 + .2*12.5*.9}, {"durum", b.DurumShare, .2}} {
		if math.Abs(c.got-c.want) > 1e-9 {
			t.Errorf("%s: %v, want %v", c.what, c.got, c.want)
		}
	}
	// Drier flour holds more flour of the basis.
	if dry := Mix(r, []Part{{soft, 1000, Moisture{NowWB: .106}}}); math.Abs(dry.F14G-1000*.894/.86) > 1e-9 {
		t.Errorf("F14 of dry flour: %v", dry.F14G)
	}
	if e := Mix(r, nil); e.F14G != 0 {
		t.Errorf("no flour: %+v", e)
	}
}

func TestShippedFloursAreWhole(t *testing.T) {
	keys := map[string]bool{}
	for _, f := range Shipped() {
		if f.Key == "" || keys[f.Key] || f.Name == "" || f.ProteinPct < 5 || f.AbsorptionPct < 45 ||
			f.UptakeTauMin <= 0 ||
			!(f.SpoonedGPerML < f.DippedGPerML && f.DippedGPerML < f.PackedGPerML) {
			t.Errorf("%+v", f)
		}
		keys[f.Key] = true
	}
}

// A lot's dates give its days; a measurement counts as such for two days and is drifted from
// after that.
func TestLot(t *testing.T) {
	l := Lot{Name: "spring sack", Flour: "soft-00", How: PaperBag, ContainerKG: 25, OpenedOn: "2026-11-15",
		MeasuredOn: "2026-11-20", MeasuredWB: .128}
	if err := l.Check(); err != nil {
		t.Fatal(err)
	}
	if k := l.Kept("2026-11-22", 3); k.Days != 7 || k.MeasuredWB == nil || *k.MeasuredWB != .128 {
		t.Errorf("two days after measuring: %+v", k)
	}
	if k := l.Kept("2026-11-25", 3); k.Days != 5 || k.MeasuredWB != nil || k.StartWB != .128 {
		t.Errorf("five days after: %+v", k)
	}
	r := rules.Default().Flour
	f, _ := Find("soft-00")
	m := f.Now(r, l.Kept("2026-11-25", 3), 22, .45)
	if want := m.EquilibriumWB + (.128-m.EquilibriumWB)*math.Exp(-5/m.TauDays); math.Abs(m.NowWB-want) > 1e-12 ||
		m.Measured {
		t.Errorf("drifts to %.4f, want %.4f", m.NowWB, want)
	}
	if k := l.Kept("", 3); k.Days != 3 || k.MeasuredWB == nil {
		t.Errorf("no day given: %+v", k)
	}
	for _, bad := range []Lot{{Name: "x", How: PaperBag, ContainerKG: 25, OpenedOn: "yesterday"}, {Name: "x",
		How: "pocket", ContainerKG: 1},
		{Name: "x", How: PaperBag, ContainerKG: 1, MeasuredWB: .6}, {How: PaperBag, ContainerKG: 1}} {
		if bad.Check() == nil {
			t.Errorf("%+v is accepted", bad)
		}
	}
	if m, err := LossOnDrying(20, 17.5); err != nil || m != .125 {
		t.Errorf("%v, %v", m, err)
	}
	for _, c := range [][2]float64{{20, 21}, {0, 0}, {20, 0}, {math.NaN(), 1}} {
		if _, err := LossOnDrying(c[0], c[1]); err == nil {
			t.Errorf("%v is accepted", c)
		}
	}
}
