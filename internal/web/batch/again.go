package batch

import (
	"fmt"
	"html/template"
	"net/http"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/web/page"
)

// againView asks for which day a batch is made once more, and from what.
type againView struct {
	*batchView
	Along    template.HTML
	For      string // the day as typed, or today
	Wrong    string // what is wrong with it
	Moves    string // what else is dated
	Came     string // what truly went in last time, "" where nothing was weighed back
	FromUsed bool
}

// AskAgain shows the page that asks for the day; GET asks for the batch as it is saved.
func (s *Room) AskAgain(c *page.Visit) error {
	a, err := s.askSound(c)
	if err != nil {
		return err
	}
	s.showAgain(c, http.StatusOK, a, s.Today(), "")
	return nil
}

func (s *Room) showAgain(c *page.Visit, status int, a asked, on, wrong string) {
	s.loadPartner(c, a.view)
	v := againView{a.view, s.along(a.view), on, wrong, movedWords(&a.view.Request), cameWords(a.view.Plan),
		a.values.Get("from") != "plan"}
	s.Render(c, status, "again", a.view.Request.Name+", once more", v)
}

// DuplicateBatch keeps the form as it stands, or the saved batch when no form came, as a new batch for the
// day asked for; where none was asked for the day stays.
func (s *Room) DuplicateBatch(c *page.Visit) error {
	a, err := s.askSound(c)
	if err != nil {
		return err
	}
	r, on := a.view.Request, a.view.Request.MadeOn
	if a.values.Has("for") {
		on = strings.TrimSpace(a.values.Get("for"))
		if _, err := measure.Day(on); err != nil {
			s.showAgain(c, http.StatusUnprocessableEntity, a, on, "This needs a day, from 2000 to 2100, as 2026-11-28.")
			return nil
		}
	}
	if came, ok := a.view.Plan.AsItCame(); ok && a.values.Get("from") == "used" {
		r = came
	}
	r = r.Again(on)
	r.Name = copyName(r.Name)
	n, err := s.create(c, r, a.batch, page.OnceOf(a.values))
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/batches/%d?at=%s", n.ID, a.view.At))
	return nil
}

// movedWords names the moments that move with the day.
func movedWords(r *request.Request) string {
	var out []string
	for _, x := range []struct{ what, at string }{{"start", r.Clock.From}, {"roll", r.Clock.RollAt}} {
		if t, err := measure.At(x.at); err == nil {
			out = append(out, x.what+" "+t.Format("Mon 2 Jan 15:04"))
		}
	}
	return strings.Join(out, ", ")
}

// cameWords are the amounts that truly went in, "" where they are not known.
func cameWords(p *plan.Plan) string {
	r, ok := p.AsItCame()
	if !ok {
		return ""
	}
	liquid, in := request.Or(r.Eggs.LiquidG, 0), p.In()
	words := in.Grams(r.Amount.FlourG) + " of flour, " + p.EggWords()
	if liquid > 0 {
		words += fmt.Sprintf(", %s of %s", in.Grams(liquid), p.TopWord())
	}
	return words
}

// copyName names a copy.
func copyName(name string) string { return page.Suffixed(name, ", copy") }
