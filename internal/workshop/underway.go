package workshop

import (
	"context"
	"fmt"
	"strings"

	"hollen/internal/core/measure"
)

// UnderWay is a making that goes on, as the list of batches says it.
type UnderWay struct {
	ID         uint64
	Name, Step string
}

// UnderWay lists the makings that go on, the newest first; none where they cannot be read.
func (s *Workshop) UnderWay(ctx context.Context) (out []UnderWay) {
	open, err := s.Store.UnderWay(ctx)
	if err != nil {
		s.Log.Error("bench", "err", err)
		return nil
	}
	now := s.Now()
	for _, m := range open {
		_, run, _, err := s.Makings.At(ctx, m.ID)
		if err != nil {
			s.Log.Error("bench", "making", m.ID, "err", err)
			out = append(
				out,
				UnderWay{m.ID, "A making begun " + m.Began.Local().Format("Mon 2 January, 15:04"), "it cannot be read"},
			)
			continue
		}
		words := "all done, to be ended"
		if st := run.State; st.Now < len(run.Steps) {
			words = fmt.Sprintf("step %d of %d, %s", st.Now+1, len(run.Steps), strings.ToLower(run.Steps[st.Now].Head))
			for _, c := range st.Clocks {
				if c.Step == run.Steps[st.Now].Key {
					if left := c.LeftS(now); left >= 0 {
						words += ", " + measure.Minutes(left/60) + " left"
					} else {
						words += ", " + measure.Minutes(-left/60) + " over"
					}
				}
			}
		}
		out = append(out, UnderWay{m.ID, m.Request.Name, words})
	}
	return out
}
