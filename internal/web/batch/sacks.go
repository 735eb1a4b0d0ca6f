package batch

import (
	"fmt"
	"html/template"

	"hollen/internal/draw"
	"hollen/internal/web/page"
)

// sackCurve is the moisture of a lot in the batch through the air it stood in.
type sackCurve struct {
	Name    string // of the lot
	ID      uint64
	Picture template.HTML
	Words   string
}

// sackCurves are the lots of which something was measured, for the Room; the page does without where they cannot be
// read.
func (s *Room) sackCurves(c *page.Visit, v *batchView) (out []sackCurve) {
	if v.Plan == nil {
		return nil
	}
	for i, x := range v.Plan.Formula.Flours {
		known := x.Moisture.Sack
		if known == nil {
			continue
		}
		f := v.Request.Flours[i]
		lot := v.Cabinet.Lot(f.Lot)
		if lot == nil {
			continue
		}
		m := s.FollowedLot(c.Request.Context(), &v.Request, i)
		if m == nil {
			continue
		}
		curve := sackCurve{Name: lot.Name, Picture: template.HTML(draw.InWidths(func(w draw.Width) string {
			return draw.Sack(m, w)
		}))}
		fmt.Sscanf(lot.Key, "own-%d", &curve.ID)
		curve.Words = fmt.Sprintf("%.1f %%, give or take %.1f; steady air would say %.1f %%", 100*known.WB,
			100*known.Within(), 100*known.SteadyWB)
		out = append(out, curve)
	}
	return out
}
