package workshop

import (
	"context"
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/measure"
)

// UnderWay is a making that goes on, as the list of batches says it.
type UnderWay struct {
	ID         uint64
	Name, Step string
	Doing      string // the step alone
	Clock      *Left  // of the step, nil: none
}

// Left is what a clock shows.
type Left struct {
	S     float64 // seconds left; under nought what it is over
	Stood bool    // it is paused
}

// Clock is what it shows: minutes and seconds, with a sign where it is over.
func (l Left) Clock() string {
	sign, s := "", int(math.Ceil(l.S))
	if l.S < 0 {
		sign, s = "+", int(-l.S)
	}
	return fmt.Sprintf("%s%d:%02d", sign, s/60, s%60)
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
		if ctx.Err() != nil { // there was no time: that says nothing of the making
			return out
		}
		if err != nil {
			s.Log.Error("bench", "making", m.ID, "err", err)
			out = append(
				out,
				UnderWay{ID: m.ID, Name: "A making begun " + measure.TimeWords(m.Began.Local()),
					Step: "it cannot be read", Doing: "it cannot be read"},
			)
			continue
		}
		words := "all done, to be ended"
		doing := words
		var clock *Left
		if st := run.State; st.Now < len(run.Steps) {
			doing = strings.ToLower(run.Steps[st.Now].Head)
			words = fmt.Sprintf("step %d of %d, %s", st.Now+1, len(run.Steps), doing)
			for _, c := range st.Clocks {
				if c.Step == run.Steps[st.Now].Key {
					clock = &Left{c.LeftS(now), !c.Paused.IsZero()}
					if left := clock.S; left >= 0 {
						words += ", " + measure.Minutes(left/60) + " left"
					} else {
						words += ", " + measure.Minutes(-left/60) + " over"
					}
				}
			}
		}
		out = append(out, UnderWay{m.ID, m.Request.Name, words, doing, clock})
	}
	return out
}
