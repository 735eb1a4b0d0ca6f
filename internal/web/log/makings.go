package log

import (
	"fmt"
	"net/http"
	"slices"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// madeRow is one making in the list of a batch.
type madeRow struct {
	ID             uint64
	When, How, Out string
	Next           string // what to do otherwise
	Open           bool
}

// madeWords is how an ended making went, in a line.
func madeWords(m *bench.Summary) string {
	words := measure.Minutes(m.Min)
	if m.Felt != nil {
		words += ", felt " + bench.FeltWords[*m.Felt+2]
	}
	if len(m.Makers) > 0 {
		words += ", by " + measure.List(m.Makers)
	}
	return words
}

// ListMakings lists the makings of a batch.
func (s *Room) ListMakings(c *page.Visit) error {
	b, err := s.Load(c)
	if err != nil {
		return err
	}
	all, err := s.Store.Makings(c.Request.Context(), b.ID)
	if err != nil {
		return err
	}
	ended, err := s.Store.MadeOf(c.Request.Context(), b.ID)
	if err != nil {
		return err
	}
	v := struct {
		ID   uint64
		Name string
		Rows []madeRow
		Last uint64 // that ended
		Else []otherwise
	}{b.ID, b.Request.Name, nil, 0, nil}
	in := c.Units
	for _, m := range all {
		row := madeRow{ID: m.ID, When: measure.TimeWords(m.Began.Local()), Open: m.Ended == nil}
		i := slices.IndexFunc(ended, func(x store.Made) bool { return x.ID == m.ID })
		switch {
		case m.Bad() != nil && i < 0:
			s.Log.Error("bench", "err", m.Bad())
			row.How, row.Open = "It cannot be read; it was left as it is.", false
		case m.Ended == nil || i < 0: // it goes on, or what lists read of it is not made yet
			_, run, _, err := s.Makings.At(c.Request.Context(), m.ID)
			if err != nil {
				return err
			}
			row.How = fmt.Sprintf("step %d of %d", min(run.State.Now+1, len(run.Steps)), len(run.Steps))
		default:
			row.How = madeWords(&ended[i].Summary)
			row.Out = ended[i].OutWords(in)
			row.Next = ended[i].Next
			if v.Last == 0 && !ended[i].Thrown {
				v.Last = m.ID
			}
		}
		v.Rows = append(v.Rows, row)
	}
	if v.Last > 0 {
		v.Else = s.sinceLast(c.Request.Context(), in, v.Last)
	}
	s.Render(c, http.StatusOK, "makings", "Makings", v)
	return nil
}
