package log

import (
	"encoding/csv"
	"fmt"
	"html/template"
	"net/http"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/practice"
	"hollen/internal/draw"
	"hollen/internal/exchange"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// madeLine is a step of a making, planned and done.
type madeLine struct {
	Head, Planned, Began, Took, Weighed string
	LeftOut                             bool
	Of                                  []madeLine // the passes and the cut of a piece, which it adds up
}

type madeView struct {
	ID, Batch uint64
	Name      string
	When      string
	Open      bool
	Run       bench.Making
	Lines     []madeLine
	Picture   template.HTML
	Felt      string
	Out       string
	Since     string // what has become of its batch
	Room      string // the air meanwhile
	Pictures  []int
	Full      bool // it has as many pictures as it may have
	Remarks   []string
	Practise  practice.Call // what went wrong can be practised as; "": nothing did
}

// PieceWords say how long a piece took to roll, "" where none was.
func (v madeView) PieceWords() string {
	at := v.Run.PieceMin()
	if at == 0 {
		return ""
	}
	return fmt.Sprintf("%s to roll a piece; %s was planned.", measure.MinSec(60*at),
		measure.MinSec(60*v.Run.Ahead.Roll.TimeMin))
}

// madeLines are the steps of a making as a table, a line each; what is done to one piece at the rollers and after is
// one.
func madeLines(run *bench.Making, in measure.System) (out []madeLine) {
	for i := 0; i < len(run.Steps); {
		n := 1
		for i+n < len(run.Steps) && alike(&run.Steps[i], &run.Steps[i+n]) {
			n++
		}
		if lines := stepLines(run, in, run.Steps[i:i+n]); n > 1 {
			out = append(out, pieceLine(run, run.Steps[i:i+n], lines))
		} else {
			out = append(out, lines...)
		}
		i += n
	}
	return out
}

// alike says whether two steps are told in one line: those of one piece, and the dividing of all.
func alike(a, b *bench.Step) bool {
	if a.Kind == bench.Divide || b.Kind == bench.Divide {
		return a.Kind == b.Kind
	}
	return a.Piece > 0 && a.Piece == b.Piece
}

// pieceLine adds up the steps of one piece, or the dividing.
func pieceLine(run *bench.Making, steps []bench.Step, lines []madeLine) madeLine {
	planned, took := 0., 0.
	var passes, done, left int
	for _, x := range steps {
		if x.Kind == bench.Pass {
			passes++
		}
		planned += x.PlanMin
		switch p := run.State.Steps[x.Key]; p.Status {
		case bench.WasDone:
			took += p.Took()
			done++
		case bench.LeftOut:
			left++
		}
	}
	out := madeLine{Head: fmt.Sprintf("Piece %d, %s", steps[0].Piece, measure.Plural(passes, "pass", "passes")),
		Began: lines[0].Began, Of: lines, LeftOut: left == len(steps)}
	if planned > .01 {
		out.Planned = measure.MinSec(60 * planned)
	}
	if steps[0].Kind == bench.Divide {
		out.Head = "Divide, " + measure.Plural(len(steps), "piece", "pieces")
		if out.Planned = lines[0].Planned; len(lines) > 1 && lines[1].Planned == out.Planned {
			out.Planned += " each"
		}
	}
	if done > 0 {
		out.Took = measure.MinSec(60 * took)
	}
	return out
}

// stepLines are steps, a line each.
func stepLines(run *bench.Making, in measure.System, steps []bench.Step) (out []madeLine) {
	for _, x := range steps {
		p := run.State.Steps[x.Key]
		l := madeLine{Head: x.Head, LeftOut: p.Status == bench.LeftOut}
		if x.Kind == bench.Pass && x.Pass > 0 {
			l.Head = fmt.Sprintf("Piece %d, %s", x.Piece, strings.ToLower(x.Name))
		}
		if x.PlanMin > .01 {
			l.Planned = measure.MinSec(60 * x.PlanMin)
		}
		if !p.Began.IsZero() {
			l.Began = p.Began.Local().Format("15:04")
		}
		if p.Status == bench.WasDone {
			l.Took = measure.MinSec(60 * p.Took())
		}
		if x.WantG > 0 {
			l.Planned = in.Grams(x.WantG)
			if p.G > 0 {
				l.Weighed = in.Grams(p.G)
			}
		}
		out = append(out, l)
	}
	return out
}

// Pieces are the passes and cuts that pieces add up, a line each.
func (v madeView) Pieces() (out []madeLine) {
	for _, l := range v.Lines {
		out = append(out, l.Of...)
	}
	return out
}

// ShowMade shows a making as it went: planned beside done, as a picture in time and as a table.
func (s *Room) ShowMade(c *page.Visit) error {
	kept, run, err := s.Making(c)
	if err != nil {
		return err
	}
	st := run.State
	v := madeView{ID: kept.ID, Batch: kept.BatchID, Name: kept.Request.Name, When: measure.TimeWords(
		kept.Began.Local()), Open: kept.Ended == nil,
		Run: run, Lines: madeLines(&run, c.Units), Picture: template.HTML(draw.InWidths(func(w draw.Width) string {
			return draw.Making(&run, s.Now(), w)
		}))}
	if st.Felt != nil {
		v.Felt = bench.FeltWords[*st.Felt+2]
	}
	if !v.Open {
		sum := run.Summary(nil)
		v.Out = sum.OutWords(c.Units)
	}
	if v.Pictures, err = s.Store.Pictures(c.Request.Context(), kept.ID); err != nil {
		return err
	}
	v.Full = len(v.Pictures) >= store.MostPictures
	v.Since, v.Room = s.Since(c.Request.Context(), &kept), s.airOf(c, &kept)
	if st.Felt != nil && *st.Felt != 0 {
		v.Practise = practice.Water
	}
	for _, r := range st.Remarks {
		if seen, is := r.Says.(bench.Seen); is && practice.OfSign(seen.Sign) != "" {
			v.Practise = practice.OfSign(seen.Sign)
		}
		said, _ := r.Says.(bench.Remark)
		who := ""
		if _, named := r.Says.(bench.Named); r.By != "" && !named {
			who = r.By + ": "
		}
		v.Remarks = append(v.Remarks, r.At.Local().Format("15:04")+" "+who+said.Words(c.Units))
	}
	s.Render(c, http.StatusOK, "made", "Making: "+kept.Request.Name, v)
	return nil
}

// airOf is the air of the room while a making went on, by the sensor; "" where none spoke.
func (s *Room) airOf(c *page.Visit, kept *store.Making) string {
	until := s.Now()
	if kept.Ended != nil {
		until = *kept.Ended
	}
	means, err := s.Store.RoomMeans(c.Request.Context(), kept.Began, until)
	if err != nil || len(means) == 0 {
		return ""
	}
	var t, rh, n float64
	low, high := means[0].RH, means[0].RH
	for _, m := range means {
		t = t + m.TempC*float64(m.N)
		rh = rh + m.RH*float64(m.N)
		n = n + float64(m.N)
		low, high = min(low, m.RH), max(high, m.RH)
	}
	words := fmt.Sprintf("The room meanwhile, by the sensor: %s and %.0f %%", c.Units.C(t/n, 1), 100*rh/n)
	if high-low >= .02 {
		words += fmt.Sprintf(", between %.0f and %.0f %%", 100*low, 100*high)
	}
	return words + "."
}

// DownloadMadeJSON hands out a making: what it was begun with, its events, and how it stands.
func (s *Room) DownloadMadeJSON(c *page.Visit) error {
	kept, run, err := s.Making(c)
	if err != nil {
		return err
	}
	events, err := s.Makings.EventsOf(c.Request.Context(), kept.ID)
	if err != nil {
		return err
	}
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="making-%d.json"`, kept.ID))
	c.IndentedJSON(http.StatusOK, exchange.Making{Format: exchange.MakingFormat, Batch: kept.BatchID,
		Name: kept.Request.Name, Began: kept.Began,
		Ended: kept.Ended,
		Units: kept.Units, Request: kept.Request.Request, Learned: kept.Rules.Learned, Steps: run.Steps, Events: events,
		State: run.State})
	return nil
}

// DownloadMadeCSV hands out the steps of a making, a line each.
func (s *Room) DownloadMadeCSV(c *page.Visit) error {
	kept, run, err := s.Making(c)
	if err != nil {
		return err
	}
	c.Header("Content-Type", "text/csv; charset=utf-8")
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="making-%d.csv"`, kept.ID))
	w := csv.NewWriter(c.Writer)
	w.Write([]string{"key", "station", "step", "status", "planned_min", "began", "over", "took_min", "paused_min",
		"wanted_g", "weighed_g"})
	number := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	moment := func(t time.Time) string {
		if t.IsZero() {
			return ""
		}
		return t.UTC().Format(time.RFC3339)
	}
	for _, x := range run.Steps {
		p := run.State.Steps[x.Key]
		w.Write(measure.Cells([]string{x.Key, string(x.Station), x.Head, string(p.Status), fmt.Sprintf("%.2f",
			x.PlanMin), moment(p.Began), moment(p.Over),
			fmt.Sprintf("%.2f", p.Took()), fmt.Sprintf("%.2f", p.PausedS/60), number(x.WantG), number(p.G)}))
	}
	w.Flush()
	return nil
}
