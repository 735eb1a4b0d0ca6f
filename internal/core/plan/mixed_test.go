package plan

import (
	"os"
	"testing"

	"hollen/internal/core/cut"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// Of several shapes none comes off short, and no batch makes much more than was asked; where nothing less would do, a
// sentence says so.
// Every pair of shapes is tried in one of six ways, the next pair in the next; in all six where HOLLEN_LONG is set.
func TestMixedMakesWhatWasAsked(t *testing.T) {
	const ways = 6
	long := os.Getenv("HOLLEN_LONG") != ""
	all, over, pair := 0, 0, 0
	for _, a := range cut.Shipped() {
		for _, b := range cut.Shipped() {
			pair++
			way := 0
			for _, portions := range []float64{6, 10} {
				for _, second := range []request.ShapePart{{Shape: b.Key, Portions: 2}, {Shape: b.Key,
					By: request.ShareByHandful, Portions: 2},
					{Shape: b.Key, By: request.ShareByPieces, Portions: 1}} {
					if way++; !long && way%ways != pair%ways {
						continue
					}
					r := request.Default()
					r.Amount.Portions, r.Cut.Shape, r.Cut.Also = portions, a.Key, []request.ShapePart{second}
					p, err := Make(rules.Default(), r)
					if a.Key == b.Key || err != nil {
						continue
					}
					all++
					if p.served() < .97 {
						t.Errorf(
							"%.0f portions of %s with %v %s %s: %.3f of the shape that comes off worst; %s",
							portions,
							a.Key,
							second.Portions,
							second.By,
							b.Key,
							p.served(),
							p.SharedWords(),
						)
					}
					if p.Formula.Portions <= 1.25*portions {
						continue
					}
					over++
					if p.Formula.Portions > 1.5*portions || !noted(p, "much_over") || lessWouldDo(p) {
						t.Errorf(
							"%.0f portions of %s with %v %s %s make %.1f; %s",
							portions,
							a.Key,
							second.Portions,
							second.By,
							b.Key,
							p.Formula.Portions,
							p.SharedWords(),
						)
					}
				}
			}
		}
	}
	if t.Logf("%d of %d over 1.25", over, all); all < 500 || long && all < 3000 || over > 3 {
		t.Errorf("%d batches, %d over", all, over)
	}
}

// lessWouldDo says whether any flour serves every shape with less over.
func lessWouldDo(p *Plan) bool {
	for f := .4 * p.Formula.FlourG; f < p.Formula.FlourG; f *= 1.01 {
		q := *p
		q.mix(f)
		q.roll()
		q.cut()
		if q.served() >= 1-nearEnough && q.Formula.Portions <= 1.25*p.Request.Amount.Portions {
			return true
		}
	}
	return false
}

func noted(p *Plan, code string) bool {
	for _, n := range p.Notes {
		if n.Code == code {
			return true
		}
	}
	return false
}
