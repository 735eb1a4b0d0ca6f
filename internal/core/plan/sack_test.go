package plan

import (
	"math"
	"strings"
	"testing"

	"hollen/internal/core/flour"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// A plan goes by what its sack holds, and says from what, how sure, and what steady air would say.
func TestSackInAPlan(t *testing.T) {
	r := request.Default()
	r.MadeOn = "2026-11-30"
	lot := &flour.Lot{Key: "own-1", Name: "bag", Flour: r.Flours[0].Flour, How: flour.PaperBag, ContainerKG: 1,
		OpenedOn: "2026-11-16"}
	r.Flours[0].Lot, r.Flours[0].LotKept = lot.Key, lot
	r.Flours[0].Settle(r.MadeOn)
	of := func(s rules.LearnedSack) *Plan {
		t.Helper()
		ru := rules.Default()
		s.Lot = lot.Key
		ru.Learned.Sacks = []rules.LearnedSack{s}
		p, err := Make(ru, r)
		if err != nil {
			t.Fatal(err)
		}
		return p
	}
	steady := of(rules.LearnedSack{WB: .12, SD: .007, From: "air", Since: "2026-11-16", SteadyWB: .114})
	for _, x := range []struct {
		s        rules.LearnedSack
		measured bool
		says     []string
	}{
		{rules.LearnedSack{WB: .128, OffWB: .006, SD: .0067, From: "air", Since: "2026-11-16", SteadyWB: .114,
			ChangeSD: .0011}, false, []string{"It followed its air since it was opened: 12.8 %, give or take 1.1.",
			"would say 11.4 %", "0.6 more than its air alone says", "known better: give or take 0.2"}},
		{rules.LearnedSack{WB: .122, SD: .0025, From: "oven", Since: "2026-11-29", SteadyWB: .12}, true,
			[]string{"Dried in the oven Sun 29 Nov 2026, and the air since then: 12.2 %, give or take 0.4."}},
		{rules.LearnedSack{WB: .105, SD: .01, From: "air", Since: "2026-11-16", SteadyWB: .11, Held: true, Bridged: 14,
			Ahead: "room"}, false, []string{"Opened Mon 16 Nov 2026, in air nobody read", "Beyond 10.5–15.5 %",
			"the air of this batch is assumed"}},
	} {
		p := of(x.s)
		if m := p.Formula.Flours[0].Moisture; m.NowWB != x.s.WB || p.Room.Measured != x.measured {
			t.Errorf("%+v: %g, measured %v", x.s, m.NowWB, p.Room.Measured)
		}
		for _, says := range x.says {
			if !strings.Contains(p.Why["room.moisture"], says) {
				t.Errorf("%q is not in %q", says, p.Why["room.moisture"])
			}
		}
		// Drier flour is poured more; the curve over the room's humidity passes through what is poured.
		if drier := x.s.WB < .12; drier != (p.Formula.TopG > steady.Formula.TopG) {
			t.Errorf("%.1f %%: %.1f g, at 12 %% %.1f g", 100*x.s.WB, p.Formula.TopG, steady.Formula.TopG)
		}
		if at := p.LiquidAt(r.Room.RH); math.Abs(at-p.Formula.TopG) > .5 && p.Formula.TopG > 0 {
			t.Errorf("the curve says %.1f g where %.1f are poured", at, p.Formula.TopG)
		}
	}
}
