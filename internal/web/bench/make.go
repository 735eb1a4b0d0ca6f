package bench

import (
	"encoding/json"
	"fmt"
	"html/template"
	"net/http"
	"strings"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// BeginAgain begins a making as an earlier one was begun, by the rules of today, and goes to the bench.
func (s *Room) BeginAgain(c *page.Visit) error {
	kept, _, err := s.Making(c)
	if err != nil {
		return err
	}
	ctx, now := c.Request.Context(), s.Now()
	r := kept.Request.Request
	if r.MadeOn != "" {
		r = r.Again(s.Today())
	}
	p, err := plan.MakeIn(c.Units, s.RulesOf(ctx, &r), r)
	if err != nil {
		return s.FailPlan(c, kept.BatchID, err)
	}
	id, twice := s.BegunJustNow(ctx, kept.BatchID, p, now)
	if !twice {
		m, err := s.Store.Begin(ctx, store.Batch{ID: kept.BatchID, Version: kept.BatchVersion}, p, now)
		if b, gone := s.Store.Get(ctx, kept.BatchID); err == nil && gone == nil && b.PartnerID != nil {
			err = s.BeginPartner(ctx, *b.PartnerID, m, p, now)
		}
		if err != nil {
			return err
		}
		id = m.ID
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", id))
	return nil
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
	Marks page.Marks
	Back  string      // the event a tap back takes back
	Since string      // what has become of its batch
	Guide *page.Guide // what is said at the first making
}

// Changed is what has come to be otherwise, said at the step it concerns.
func (v benchView) Changed() string {
	key := ""
	if v.Step != nil {
		key = v.Step.Key
	}
	var parts []string
	for _, c := range v.Run.Changes {
		if c.Step == key {
			parts = append(parts, c.Text)
		}
	}
	if len(parts) == 0 {
		return ""
	}
	return measure.Capital(strings.Join(parts, "; ")) + "."
}

// ShowBench shows the screen at the bench.
func (s *Room) ShowBench(c *page.Visit) error {
	kept, run, err := s.Making(c)
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
		Style: page.Tinted(run.Begun.Formula.Colour), Marks: c.Marks, Back: run.State.Last()}
	signs, err := json.Marshal(benchSigns(run.Ahead))
	if err != nil {
		return err
	}
	v.Signs, v.Since = template.JS(signs), s.Since(c.Request.Context(), &kept)
	offers, err := json.Marshal(offersOf(&run, cab))
	if err != nil {
		return err
	}
	v.Offer = template.JS(offers)
	if run.State.Now < len(run.Steps) {
		v.Step = &run.Steps[run.State.Now]
	}
	// of a kitchen that has made nothing yet
	if made, err := s.Store.NewestMade(c.Request.Context(), 1); err == nil && len(made) == 0 {
		v.Guide = c.GuideTo("making")
	}
	s.RenderPart(c, http.StatusOK, "bench", "bench-page", v)
	return nil
}

// TapBench is a tap of a page without scripts: a step done, left out or taken back.
func (s *Room) TapBench(c *page.Visit) error {
	kept, _, err := s.Making(c)
	if err != nil {
		return err
	}
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	c.Guided("making")
	g := strings.TrimSpace(values.Get("g"))
	n := 0.
	if g != "" {
		if n, err = measure.Read(g, measure.G, nil); err != nil || n < 0 || n > bench.MaxG {
			return page.Refuse(http.StatusUnprocessableEntity, "That is no mass.",
				"A number of grams is read, as in 541. Go back: nothing is lost.")
		}
	}
	e := bench.Event{ID: fmt.Sprintf("p%d", s.Now().UnixNano()), At: s.Now()}
	events := []bench.Event{}
	switch step, of := values.Get("step"), values.Get("of"); values.Get("what") {
	case "done":
		e.Says = bench.Done{Step: step}
	case "skipped":
		e.Says = bench.Skipped{Step: step}
	case "taken_back":
		e.Says = bench.TakenBack{Of: of}
	case "ended": // what came out, or was thrown away
		if g != "" && of == "" {
			of = bench.OutWeighed
		}
		e.Says = bench.Ended{How: of, G: n, Text: values.Get("text")}
		g = ""
	}
	if g != "" {
		events = append(events, bench.Event{ID: e.ID + "w", At: e.At,
			Says: bench.Weighed{Step: values.Get("step"), G: n}})
	}
	events = append(events, e)
	_, refused, err := s.takeEvents(c.Request.Context(), kept.ID, events)
	if err != nil {
		return err
	}
	if len(refused) > 0 {
		return page.Refuse(http.StatusUnprocessableEntity, "That cannot be.",
			refused[0].Why+". Go back: nothing is lost.")
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d", kept.ID))
	return nil
}
