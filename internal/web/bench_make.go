package web

import (
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/draw"
	"hollen/internal/store"
)

// beginMaking begins a making of a batch as its form stands, and of its second dough, and goes to the bench.
func (s *Server) beginMaking(c *gin.Context) {
	a, ok := s.askSound(c)
	if !ok {
		return
	}
	ctx, now := c.Request.Context(), time.Now()
	m, err := s.store.Begin(ctx, a.batch, a.view.Plan, now)
	if err == nil && a.batch.PartnerID != nil {
		err = s.beginPartner(c, *a.batch.PartnerID, now)
	}
	if err != nil {
		s.failStore(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", m.ID))
}

func (s *Server) beginPartner(c *gin.Context, id uint64, now time.Time) error {
	b, err := s.store.Get(c.Request.Context(), id)
	if errors.Is(err, store.ErrDeleted) || errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	p, err := plan.MakeIn(shownIn(c), s.rules, b.Request.Request)
	if err != nil {
		return err
	}
	_, err = s.store.Begin(c.Request.Context(), b, p, now)
	return err
}

// benchView is the screen at the bench: the making, and the step that is on, for a page without scripts.
type benchView struct {
	ID    uint64
	Name  string
	Run   bench.Making
	Step  *bench.Step // nil when all is done
	N, Of int
	State template.JS // as a script reads it: JSON, in which nothing can end the element
	Signs template.JS // likewise, what one may see
	Offer template.JS // and what there is to pick from
	Style template.CSS
	Marks marks
	Back  string // the event a tap back takes back
}

// making reads the making of the address; it shows why when it cannot.
func (s *Server) making(c *gin.Context) (store.Making, bench.Making, bool) {
	id, ok := makingID(c)
	if !ok {
		s.fail(c, http.StatusNotFound, "There is no such making.", "It may have been typed wrong.")
		return store.Making{}, bench.Making{}, false
	}
	kept, run, _, err := s.bench.at(c.Request.Context(), id)
	switch {
	case errors.Is(err, store.ErrNotFound):
		s.fail(c, http.StatusNotFound, "There is no such making.", "It may have been typed wrong.")
	case err != nil:
		s.failStore(c, err)
	default:
		return kept, run, true
	}
	return kept, run, false
}

// showBench shows the screen at the bench.
func (s *Server) showBench(c *gin.Context) {
	kept, run, ok := s.making(c)
	if !ok {
		return
	}
	cab, ok := s.cabinet(c)
	if !ok {
		return
	}
	st, err := s.benchStateOf(c.Request.Context(), kept.ID, "")
	if err != nil {
		s.failStore(c, err)
		return
	}
	doc, err := json.Marshal(st)
	if err != nil {
		s.failStore(c, err)
		return
	}
	v := benchView{ID: kept.ID, Name: kept.Request.Name, Run: run, N: min(run.State.Now+1, len(run.Steps)), Of: len(run.Steps), State: template.JS(doc),
		Style: tinted(run.Begun.Formula.Colour), Marks: marksOf(c), Back: run.State.Last()}
	signs, err := json.Marshal(benchSigns(run.Ahead))
	if err != nil {
		s.failStore(c, err)
		return
	}
	v.Signs = template.JS(signs)
	offers, err := json.Marshal(offersOf(&run, cab))
	if err != nil {
		s.failStore(c, err)
		return
	}
	v.Offer = template.JS(offers)
	if run.State.Now < len(run.Steps) {
		v.Step = &run.Steps[run.State.Now]
	}
	s.renderPart(c, http.StatusOK, "bench", "bench-page", v)
}

// tapBench is a tap of a page without scripts: a step done, left out or taken back.
func (s *Server) tapBench(c *gin.Context) {
	kept, _, ok := s.making(c)
	if !ok {
		return
	}
	values, ok := s.posted(c)
	if !ok {
		return
	}
	e := bench.Event{ID: fmt.Sprintf("p%d", time.Now().UnixNano()), At: time.Now(), What: bench.What(values.Get("what")), Step: values.Get("step"),
		Of: values.Get("of"), Text: values.Get("text")}
	events := []bench.Event{e}
	if g := strings.TrimSpace(values.Get("g")); g != "" {
		n, read := measure.ParseMass(g)
		if !read {
			n, read = measure.ParseNumber(g)
		}
		if !read || n < 0 || n > bench.MaxG {
			s.fail(c, http.StatusUnprocessableEntity, "That is no mass.", "A number of grams is read, as in 541. Go back: nothing is lost.")
			return
		}
		events = append([]bench.Event{{ID: e.ID + "w", At: e.At, What: bench.Weighed, Step: e.Step, G: n}}, events...)
	}
	_, refused, err := s.takeEvents(c.Request.Context(), kept.ID, events)
	if err != nil {
		s.failStore(c, err)
		return
	}
	if len(refused) > 0 {
		s.fail(c, http.StatusUnprocessableEntity, "That cannot be.", refused[0].Why+". Go back: nothing is lost.")
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", kept.ID))
}

// madeRow is one making in the list of a batch.
type madeRow struct {
	ID             uint64
	When, How, Out string
	Open           bool
}

// listMakings lists the makings of a batch.
func (s *Server) listMakings(c *gin.Context) {
	b, ok := s.load(c)
	if !ok {
		return
	}
	all, err := s.store.Makings(c.Request.Context(), b.ID)
	if err != nil {
		s.failStore(c, err)
		return
	}
	v := struct {
		ID   uint64
		Name string
		Rows []madeRow
	}{b.ID, b.Request.Name, nil}
	for _, m := range all {
		_, run, _, err := s.bench.at(c.Request.Context(), m.ID)
		if err != nil {
			s.failStore(c, err)
			return
		}
		st := run.State
		row := madeRow{ID: m.ID, When: m.Began.Local().Format("Mon 2 January, 15:04"), Open: m.Ended == nil,
			How: fmt.Sprintf("step %d of %d", min(st.Now+1, len(run.Steps)), len(run.Steps))}
		if m.Ended != nil {
			row.How = measure.Minutes(m.Ended.Sub(m.Began).Minutes())
			if st.Felt != nil {
				row.How += ", felt " + feltWords[*st.Felt+2]
			}
			if st.OutG > 0 {
				row.Out = run.Begun.In().Grams(st.OutG)
			}
		}
		v.Rows = append(v.Rows, row)
	}
	s.render(c, http.StatusOK, "makings", "Makings", v)
}

// feltWords are the five words for how a dough felt.
var feltWords = []string{"too dry", "a little dry", "right", "a little wet", "too wet"}

// madeLine is a step of a making, planned and done.
type madeLine struct {
	Head, Planned, Began, Took, Weighed string
	LeftOut                             bool
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
	Remarks   []string
}

// madeLines are the steps of a making as a table, a line each.
func madeLines(run *bench.Making) (out []madeLine) {
	in := run.Begun.In()
	for _, x := range run.Steps {
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

// showMade shows a making as it went: planned beside done, as a picture in time and as a table.
func (s *Server) showMade(c *gin.Context) {
	kept, run, ok := s.making(c)
	if !ok {
		return
	}
	st := run.State
	v := madeView{ID: kept.ID, Batch: kept.BatchID, Name: kept.Request.Name, When: kept.Began.Local().Format("Mon 2 January 2006, 15:04"), Open: kept.Ended == nil,
		Run: run, Lines: madeLines(&run), Picture: template.HTML(draw.Making(&run, time.Now()))}
	if st.Felt != nil {
		v.Felt = feltWords[*st.Felt+2]
	}
	if st.OutG > 0 {
		v.Out = run.Begun.In().Grams(st.OutG)
	}
	for _, r := range st.Remarks {
		words := r.Text
		switch r.What {
		case bench.Added:
			words = run.Begun.In().Grams(r.G) + " of " + r.Text + " added"
		case bench.Left:
			words = run.Begun.In().Grams(r.G) + " of " + r.Text + " left"
		}
		v.Remarks = append(v.Remarks, r.At.Local().Format("15:04")+" "+words)
	}
	s.render(c, http.StatusOK, "made", "Making: "+kept.Request.Name, v)
}

// madeDoc is a making as a document.
type madeDoc struct {
	Format string        `json:"format"`
	Batch  uint64        `json:"batch"`
	Name   string        `json:"name"`
	Began  time.Time     `json:"began"`
	Ended  *time.Time    `json:"ended"`
	Steps  []bench.Step  `json:"steps"`
	Events []bench.Event `json:"events"`
	State  bench.State   `json:"state"`
}

// downloadMadeJSON hands out a making: what it was begun with, its events, and how it stands.
func (s *Server) downloadMadeJSON(c *gin.Context) {
	kept, run, ok := s.making(c)
	if !ok {
		return
	}
	events, err := s.bench.eventsOf(c.Request.Context(), kept.ID)
	if err != nil {
		s.failStore(c, err)
		return
	}
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="making-%d.json"`, kept.ID))
	c.IndentedJSON(http.StatusOK, madeDoc{"hollen-making/1", kept.BatchID, kept.Request.Name, kept.Began, kept.Ended, run.Steps, events, run.State})
}

// downloadMadeCSV hands out the steps of a making, a line each.
func (s *Server) downloadMadeCSV(c *gin.Context) {
	kept, run, ok := s.making(c)
	if !ok {
		return
	}
	c.Header("Content-Type", "text/csv; charset=utf-8")
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="making-%d.csv"`, kept.ID))
	w := csv.NewWriter(c.Writer)
	w.Write([]string{"key", "station", "step", "status", "planned_min", "began", "over", "took_min", "paused_min", "wanted_g", "weighed_g"})
	number := func(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
	moment := func(t time.Time) string {
		if t.IsZero() {
			return ""
		}
		return t.UTC().Format(time.RFC3339)
	}
	for _, x := range run.Steps {
		p := run.State.Steps[x.Key]
		w.Write([]string{x.Key, string(x.Station), x.Head, string(p.Status), fmt.Sprintf("%.2f", x.PlanMin), moment(p.Began), moment(p.Over),
			fmt.Sprintf("%.2f", p.Took()), fmt.Sprintf("%.2f", p.PausedS/60), number(x.WantG), number(p.G)})
	}
	w.Flush()
}

// underWay is a making that goes on, as the list of batches says it.
type underWay struct {
	ID         uint64
	Name, Step string
}

// underWay lists the makings that go on, the newest first; none where they cannot be read.
func (s *Server) underWay(ctx context.Context) (out []underWay) {
	open, err := s.store.UnderWay(ctx)
	if err != nil {
		s.log.Error("bench", "err", err)
		return nil
	}
	now := time.Now()
	for _, m := range open {
		_, run, _, err := s.bench.at(ctx, m.ID)
		if err != nil {
			s.log.Error("bench", "making", m.ID, "err", err)
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
		out = append(out, underWay{m.ID, m.Request.Name, words})
	}
	return out
}
