package plan_test

import (
	"testing"

	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Eight shapes come from one dough, each at least once, and their dough adds up to what is rolled.
func TestEightShapesFromOneDough(t *testing.T) {
	all := []string{"pappardelle", "fettuccine", "farfalle", "quadretti", "ravioli", "tagliolini", "maltagliati"}
	for _, machine := range []string{"hand-crank-10", "mixer-8", "sheeter-mm", "pin-board"} {
		for portions := 8.; portions <= 40; portions += 8 {
			r := request.Default()
			r.Roll.Machine, r.Amount.Portions = machine, portions
			for _, s := range all {
				r.Cut.Also = append(r.Cut.Also, request.ShapePart{Shape: s, Portions: 1})
			}
			p, err := plan.Make(rules.Default(), r)
			if err != nil {
				t.Errorf("%s, %g portions: %v", machine, portions, err)
				continue
			}
			parts := p.Cut.Parts()
			if len(parts) != request.MaxShapes {
				t.Errorf("%s, %g portions: %d shapes", machine, portions, len(parts))
			}
			made := 0.
			for _, x := range parts {
				if x.MadeG <= 0 {
					t.Errorf("%s, %g portions: no %s", machine, portions, x.Shape.Name)
				}
				made += x.MadeG
			}
			if made < .8*p.Cut.AllMadeG || made > 1.2*p.Cut.AllMadeG {
				t.Errorf("%s, %g portions: %g g in the shapes, %g g in all", machine, portions, made, p.Cut.AllMadeG)
			}
		}
	}
}
