package web

import (
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/draw"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// beginMaking begins a making of a batch as its form stands, and of its second dough, and goes to the bench.
func (s *Server) beginMaking(c *Visit) error {
	a, err := s.askSound(c)
	if err != nil {
		return err
	}
	ctx, now := c.Request.Context(), s.now()
	if id, twice := s.begunJustNow(ctx, a.batch.ID, a.view.Plan, now); twice {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", id))
		return nil
	}
	m, err := s.store.Begin(ctx, a.batch, a.view.Plan, now)
	if err == nil && a.batch.PartnerID != nil {
		err = s.beginPartner(ctx, *a.batch.PartnerID, m, a.view.Plan, now)
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", m.ID))
	return nil
}

// pressedTwice is within what time a making begun again is the same key pressed twice.
const pressedTwice = 2 * time.Second

// begunJustNow says whether the same making was begun a moment ago, and which it is.
func (s *Server) begunJustNow(ctx context.Context, batch uint64, p *plan.Plan, now time.Time) (id uint64, twice bool) {
	all, err := s.store.Makings(ctx, batch)
	if err != nil || len(all) == 0 {
		return 0, false
	}
	last := all[0]
	return last.ID, now.Sub(last.Began) < pressedTwice && last.Seq <= 1 && len(request.Changes(last.Request.Request,
		p.Request)) == 0
}

// beginAgain begins a making as an earlier one was begun, by the rules of today, and goes to the bench.
func (s *Server) beginAgain(c *Visit) error {
	kept, _, err := s.making(c)
	if err != nil {
		return err
	}
	ctx, now := c.Request.Context(), s.now()
	r := kept.Request.Request
	if r.MadeOn != "" {
		r = r.Again(s.today())
	}
	p, err := plan.MakeIn(c.Units, s.rulesOf(ctx, &r), r)
	if err != nil {
		return s.failPlan(c, kept.BatchID, err)
	}
	id, twice := s.begunJustNow(ctx, kept.BatchID, p, now)
	if !twice {
		m, err := s.store.Begin(ctx, store.Batch{ID: kept.BatchID, Version: kept.BatchVersion}, p, now)
		if b, gone := s.store.Get(ctx, kept.BatchID); err == nil && gone == nil && b.PartnerID != nil {
			err = s.beginPartner(ctx, *b.PartnerID, m, p, now)
		}
		if err != nil {
			return err
		}
		id = m.ID
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", id))
	return nil
}

// since says what has become of the batch since a making was begun; "" where it is as it was.
func (s *Server) since(ctx context.Context, kept *store.Making) string {
	b, err := s.store.Get(ctx, kept.BatchID)
	switch {
	case errors.Is(err, store.ErrDeleted) || errors.Is(err, store.ErrNotFound):
		return "Its batch has been deleted since; this making keeps what it was begun with."
	case err == nil && b.Version > kept.BatchVersion && len(request.Changes(kept.Request.Request,
		b.Request.Request)) > 0:
		return "The batch has been changed since; this making keeps what it was begun with."
	}
	return ""
}

// beginPartner begins the second dough of a batch beside it; strips of the smaller are laid on the larger once both are
// rolled.
func (s *Server) beginPartner(ctx context.Context, id uint64, first store.Making, of *plan.Plan, now time.Time) error {
	b, err := s.store.Get(ctx, id)
	if errors.Is(err, store.ErrDeleted) || errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	p, err := plan.MakeIn(of.In(), s.rulesOf(ctx, &b.Request.Request), b.Request.Request)
	if err != nil {
		return err
	}
	second, err := s.store.Begin(ctx, b, p, now)
	if err != nil {
		return err
	}
	base, on := first, of
	if p.Formula.Dough.MassG > of.Formula.Dough.MassG {
		base, on = second, p
	}
	if on.Pinned() || on.Roped() {
		return nil
	}
	_, err = s.store.AddEvents(ctx, base.ID, []bench.Event{bench.LayStrips(bench.Steps(on), base.Began)})
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
	Since string // what has become of its batch
}

// making reads the making of the address; it shows why when it cannot.
func (s *Server) making(c *Visit) (store.Making, bench.Making, error) {
	id, ok := makingID(c)
	if !ok {
		return store.Making{}, bench.Making{}, refuse(http.StatusNotFound, "There is no such making.",
			"It may have been typed wrong.")
	}
	kept, run, _, err := s.bench.at(c.Request.Context(), id)
	switch {
	case errors.Is(err, store.ErrNotFound):
		err = refuse(http.StatusNotFound, "There is no such making.", "It may have been typed wrong.")
	case errors.Is(err, store.ErrUnreadable):
		s.log.Error("bench", "making", id, "err", err)
		err = refuse(
			http.StatusInternalServerError,
			"This making cannot be read.",
			fmt.Sprintf(
				"What it was begun with on %s is damaged, and was left as it is. The log still has what was added up "+
					"of it when it ended.",
				kept.Began.Local().Format("2 January 2006 at 15:04"),
			),
			wayOn{
				fmt.Sprintf("/batches/%d", kept.BatchID),
				"Its batch",
			},
			wayOn{fmt.Sprintf("/batches/%d/makings", kept.BatchID), "All its makings"},
			wayOn{"/log", "The log"},
		)
	}
	return kept, run, err
}

// showBench shows the screen at the bench.
func (s *Server) showBench(c *Visit) error {
	kept, run, err := s.making(c)
	if err != nil {
		return err
	}
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	st, err := s.benchStateOf(c.Request.Context(), kept.ID, "")
	if err != nil {
		return err
	}
	doc, err := json.Marshal(st)
	if err != nil {
		return err
	}
	v := benchView{ID: kept.ID, Name: kept.Request.Name, Run: run, N: min(run.State.Now+1, len(run.Steps)),
		Of: len(run.Steps), State: template.JS(doc),
		Style: tinted(run.Begun.Formula.Colour), Marks: c.Marks, Back: run.State.Last()}
	signs, err := json.Marshal(benchSigns(run.Ahead))
	if err != nil {
		return err
	}
	v.Signs, v.Since = template.JS(signs), s.since(c.Request.Context(), &kept)
	offers, err := json.Marshal(offersOf(&run, cab))
	if err != nil {
		return err
	}
	v.Offer = template.JS(offers)
	if run.State.Now < len(run.Steps) {
		v.Step = &run.Steps[run.State.Now]
	}
	s.renderPart(c, http.StatusOK, "bench", "bench-page", v)
	return nil
}

// tapBench is a tap of a page without scripts: a step done, left out or taken back.
func (s *Server) tapBench(c *Visit) error {
	kept, _, err := s.making(c)
	if err != nil {
		return err
	}
	values, err := s.posted(c)
	if err != nil {
		return err
	}
	e := bench.Event{ID: fmt.Sprintf("p%d", s.now().UnixNano()), At: s.now(), What: bench.What(values.Get("what")),
		Step: values.Get("step"),
		Of:   values.Get("of"), Text: values.Get("text")}
	g := strings.TrimSpace(values.Get("g"))
	events := []bench.Event{e}
	if g != "" {
		n, err := measure.Read(g, measure.G, nil)
		if err != nil || n < 0 || n > bench.MaxG {
			return refuse(http.StatusUnprocessableEntity, "That is no mass.",
				"A number of grams is read, as in 541. Go back: nothing is lost.")
		}
		if e.What == bench.Ended { // what came out, or was thrown away
			if events[0].G = n; e.Of == "" {
				events[0].Of = bench.OutWeighed
			}
		} else {
			events = append([]bench.Event{{ID: e.ID + "w", At: e.At, What: bench.Weighed, Step: e.Step, G: n}},
				events...)
		}
	}
	_, refused, err := s.takeEvents(c.Request.Context(), kept.ID, events)
	if err != nil {
		return err
	}
	if len(refused) > 0 {
		return refuse(http.StatusUnprocessableEntity, "That cannot be.", refused[0].Why+". Go back: nothing is lost.")
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", kept.ID))
	return nil
}

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

// listMakings lists the makings of a batch.
func (s *Server) listMakings(c *Visit) error {
	b, err := s.load(c)
	if err != nil {
		return err
	}
	all, err := s.store.Makings(c.Request.Context(), b.ID)
	if err != nil {
		return err
	}
	ended, err := s.store.MadeOf(c.Request.Context(), b.ID)
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
		row := madeRow{ID: m.ID, When: m.Began.Local().Format("Mon 2 January, 15:04"), Open: m.Ended == nil}
		i := slices.IndexFunc(ended, func(x store.Made) bool { return x.ID == m.ID })
		switch {
		case m.Bad() != nil && i < 0:
			s.log.Error("bench", "err", m.Bad())
			row.How, row.Open = "It cannot be read; it was left as it is.", false
		case m.Ended == nil || i < 0: // it goes on, or what lists read of it is not made yet
			_, run, _, err := s.bench.at(c.Request.Context(), m.ID)
			if err != nil {
				return err
			}
			row.How = fmt.Sprintf("step %d of %d", min(run.State.Now+1, len(run.Steps)), len(run.Steps))
		default:
			row.How, row.Out, row.Next = madeWords(&ended[i].Summary), ended[i].OutWords(in), ended[i].Next
			if v.Last == 0 && !ended[i].Thrown {
				v.Last = m.ID
			}
		}
		v.Rows = append(v.Rows, row)
	}
	if v.Last > 0 {
		v.Else = s.sinceLast(c.Request.Context(), in, v.Last)
	}
	s.render(c, http.StatusOK, "makings", "Makings", v)
	return nil
}

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
	Since     string // what has become of its batch
	Room      string // the air meanwhile
	Pictures  []int
	Full      bool // it has as many pictures as it may have
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
func (s *Server) showMade(c *Visit) error {
	kept, run, err := s.making(c)
	if err != nil {
		return err
	}
	st := run.State
	v := madeView{ID: kept.ID, Batch: kept.BatchID, Name: kept.Request.Name, When: kept.Began.Local().Format(
		"Mon 2 January 2006, 15:04"), Open: kept.Ended == nil,
		Run: run, Lines: madeLines(&run), Picture: template.HTML(draw.Making(&run, s.now()))}
	if st.Felt != nil {
		v.Felt = bench.FeltWords[*st.Felt+2]
	}
	if !v.Open {
		sum := run.Summary(nil)
		v.Out = sum.OutWords(c.Units)
	}
	if v.Pictures, err = s.store.Pictures(c.Request.Context(), kept.ID); err != nil {
		return err
	}
	v.Full = len(v.Pictures) >= store.MostPictures
	v.Since, v.Room = s.since(c.Request.Context(), &kept), s.airOf(c, &kept)
	for _, r := range st.Remarks {
		who := ""
		if r.By != "" && r.What != bench.Named {
			who = r.By + ": "
		}
		v.Remarks = append(v.Remarks, r.At.Local().Format("15:04")+" "+who+saidWords(run.Begun.In(), &r))
	}
	s.render(c, http.StatusOK, "made", "Making: "+kept.Request.Name, v)
	return nil
}

// saidWords is what was said, named, added, left, put by or packed, in words.
func saidWords(in measure.System, e *bench.Event) string {
	many := func(words string) string {
		if e.N > 0 {
			words += ", " + measure.Plural(e.N, "piece", "pieces")
		}
		if e.G > 0 {
			words += ", " + in.Grams(e.G)
		}
		if e.Of != "" {
			words += ", " + map[string]string{"room": "in the room", "fridge": "in the fridge",
				"freezer": "in the freezer"}[e.Of]
		}
		return words
	}
	switch e.What {
	case bench.Added:
		about := ""
		if e.Of != "" {
			about = "about "
		}
		return about + in.Grams(e.G) + " of " + e.Text + " added"
	case bench.Left:
		return in.Grams(e.G) + " of " + e.Text + " left"
	case bench.Named:
		return map[string]string{"lot": "lot", "eggs": "eggs", "hands": "at the bench"}[e.Of] + ": " + e.Text
	case bench.PutBy:
		return many("put by: " + e.Text)
	case bench.Packed:
		return many("packed: " + e.Text)
	}
	return e.Text
}

// airOf is the air of the room while a making went on, by the sensor; "" where none spoke.
func (s *Server) airOf(c *Visit, kept *store.Making) string {
	until := s.now()
	if kept.Ended != nil {
		until = *kept.Ended
	}
	means, err := s.store.RoomMeans(c.Request.Context(), kept.Began, until)
	if err != nil || len(means) == 0 {
		return ""
	}
	t, rh, n := 0., 0., 0.
	low, high := means[0].RH, means[0].RH
	for _, m := range means {
		t, rh, n = t+m.TempC*float64(m.N), rh+m.RH*float64(m.N), n+float64(m.N)
		low, high = min(low, m.RH), max(high, m.RH)
	}
	words := fmt.Sprintf("The room meanwhile, by the sensor: %s and %.0f %%", c.Units.C(t/n, 1), 100*rh/n)
	if high-low >= .02 {
		words += fmt.Sprintf(", between %.0f and %.0f %%", 100*low, 100*high)
	}
	return words + "."
}

// downloadMadeJSON hands out a making: what it was begun with, its events, and how it stands.
func (s *Server) downloadMadeJSON(c *Visit) error {
	kept, run, err := s.making(c)
	if err != nil {
		return err
	}
	events, err := s.bench.eventsOf(c.Request.Context(), kept.ID)
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

// downloadMadeCSV hands out the steps of a making, a line each.
func (s *Server) downloadMadeCSV(c *Visit) error {
	kept, run, err := s.making(c)
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
	now := s.now()
	for _, m := range open {
		_, run, _, err := s.bench.at(ctx, m.ID)
		if err != nil {
			s.log.Error("bench", "making", m.ID, "err", err)
			out = append(
				out,
				underWay{m.ID, "A making begun " + m.Began.Local().Format("Mon 2 January, 15:04"), "it cannot be read"},
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
		out = append(out, underWay{m.ID, m.Request.Name, words})
	}
	return out
}
