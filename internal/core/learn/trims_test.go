package learn

import (
	"math"
	"testing"

	"hollen/internal/core/bench"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Trimmings that come to more than the layout's make the dough for so many portions larger, so that they come out; none
// of its mass is lost.
func TestPlannedWithTrimmings(t *testing.T) {
	for _, shape := range []string{"tagliatelle", "ravioli", "farfalle"} {
		r := request.Default()
		r.Cut.Shape, r.Amount.By, r.Amount.Portions = shape, request.ByPortions, 8
		was, err := plan.Make(rules.Default(), r)
		if err != nil {
			t.Fatal(err)
		}
		log := Read(ru, []Entry{
			made(1, 0, 0, func(b *bench.Evidence) { b.Shape, b.TrimG, b.PlanTrim = shape, 260, 100 }),
			made(2, 0, 0, func(b *bench.Evidence) { b.Shape, b.TrimG, b.PlanTrim = shape, 240, 100 })}, nil)
		with := rules.Default()
		with.Learned.Trim = log.For(&r, long, whose()).Trim
		k := with.Learned.Trim.K()
		if k < 1.3 || k > 2.5 {
			t.Fatalf("%g", k)
		}
		p, err := plan.Make(with, r)
		if err != nil {
			t.Fatal(err)
		}
		if p.Formula.Dough.MassG <= was.Formula.Dough.MassG {
			t.Errorf("%s: %.0f g of dough, %.0f without", shape, p.Formula.Dough.MassG, was.Formula.Dough.MassG)
		}
		if got := p.Formula.Portions; got < 8*.98 {
			t.Errorf("%s: %.2f portions", shape, got)
		}
		c := &p.Cut
		if want := math.Min(c.LaidTrimG()*k, c.LaidTrimG()+with.Learn.MostTrimOff*(c.AllDoughG+c.AllTrimG-c.LaidTrimG())); math.Abs(c.AllTrimG-want) > .5 {
			t.Errorf("%s: %.1f g of trimmings, the layout’s %.1f times %.3f wanted", shape, c.AllTrimG, c.LaidTrimG(),
				k)
		}
		if sheets := float64(p.Roll.SheetsAll) * c.SheetG; math.Abs(c.AllDoughG+c.AllTrimG-sheets) > .5 {
			t.Errorf("%s: %.1f g of shapes and trimmings from %.1f g of sheets", shape, c.AllDoughG+c.AllTrimG, sheets)
		}
	}
}

// What ribbons pull in, by hand: one look of 9 % where 4 are usual, σ² .0004 and .0001, v .0001: m = .05·.0005/.0006.
func TestShrinkage(t *testing.T) {
	one := Read(ru, []Entry{made(1, 0, 0, func(b *bench.Evidence) { b.Shrunk = []float64{.09} })}, nil)
	if got := one.Shrinks("soft-00"); got.N != 1 || math.Abs(got.Share-(.04+.05*.0005/.0006)) > .002 {
		t.Errorf("%+v", got)
	}
	if got := one.Shrinks("semola"); math.Abs(got.Share-(.04+.05*.0004/.0006)) > .002 {
		t.Errorf("of another flour %+v", got)
	}
	r := request.Default()
	r.Cut.Shape = "ravioli"
	if got := one.For(&r, long, whose()).Shrink; got.N != 0 {
		t.Errorf("of what is no ribbon %+v", got)
	}
}
