package print

import (
	"fmt"
	"math"
	"net/http"

	"hollen/internal/core/bench"
	"hollen/internal/core/learn"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/web/page"
)

// foretoldLine is one thing to measure: what the book says, what this kitchen is foretold nine times in ten.
type foretoldLine struct{ What, How, Book, Range, Unit string }

// foretoldView is the sheet a batch is tried by.
type foretoldView struct {
	sheetView
	Lines []foretoldLine
	Looks int // so many are in the log already
}

// ShowForetold shows the sheet a batch is tried by: each figure with its range, and room for what it was.
func (s *Room) ShowForetold(c *page.Visit) error {
	b, err := s.sheetOf(c, page.SheetPapers)
	if err != nil {
		return err
	}
	v := foretoldView{sheetView: b}
	book, err := plan.MakeIn(v.In, s.Rules, v.Request)
	if err != nil {
		return err
	}
	log, _ := s.Learned(c.Request.Context())
	for _, t := range log.Tried() {
		v.Looks += len(t.Looks)
	}
	v.Lines = foretold(log, book)
	s.Render(c, http.StatusOK, "foretold", "To try it by: "+v.Request.Name, v)
	return nil
}

// foretold are the lines of a plan by the book.
func foretold(log *learn.Log, p *plan.Plan) (out []foretoldLine) {
	in := p.In()
	if !p.Roped() && !p.Pinned() {
		mm := p.Roll.SheetMM
		from, to := log.Range(learn.LawSheet, p.Roll.Machine.Key, mm)
		last := p.Roll.Passes[len(p.Roll.Passes)-1]
		out = append(out, foretoldLine{"Sheet at stop " + last.Label,
			"by caliper, a hand from the edge, rested a minute",
			in.MM(mm, 2), span(in.Bare(from, measure.MM, 2), in.Bare(to, measure.MM, 2)), in.Name(measure.MM)})
		long := p.Roll.LengthMM
		out = append(out, foretoldLine{"Length of that sheet", "flat on the board", in.Long(long),
			span(in.Bare(measure.Near(long*mm/to), measure.MM, 0), in.Bare(measure.Near(long*mm/from), measure.MM, 0)),
			in.Name(measure.MM)})
	}
	if d := p.Dry.Leather; d.Will {
		from, to := log.Range(learn.LawLeather, bench.DryPlace(&p.Request), d.FromMin)
		out = append(out, foretoldLine{"Minutes to leather", "from the rack: it bends, and does not stick to itself",
			fmt.Sprintf("%.0f min", d.FromMin), span(fmt.Sprintf("%.0f", from), fmt.Sprintf("%.0f", to)), "min"})
	}
	middle := p.BookPotS(0) // what a look is held against
	from, to := log.Range(learn.LawPot, string(p.Request.Cut.Kind().Family), middle)
	out = append(out, foretoldLine{"In the pot, to your tooth", "from when the water boils again",
		measure.MinSec(middle),
		span(measure.MinSec(5*math.Round(from/5)), measure.MinSec(5*math.Round(to/5))), "min"})
	out = append(out, foretoldLine{"A poke, half back", "at the end of the rest", "3 s", "", "s"})
	return out
}

func span(from, to string) string { return from + " – " + to }
