package practice

import (
	"fmt"
	"html/template"
	"net/http"

	"hollen/internal/core/measure"
	"hollen/internal/core/practice"
	"hollen/internal/draw"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// calledView is one call of an opened dough.
type calledView struct {
	N      int
	At     string // when, or after what
	Call   string
	Went   string
	Lesson *lessonView
	regret float64
}

// openedView is a dough once it is opened.
type openedView struct {
	ID      uint64
	Form    practice.Form
	Name    string
	Level   int
	Looking bool
	Done    bool // it was worked to the plate
	Seed    string
	Points  string
	Lost    []string
	Off     []string
	Strip   template.HTML
	Calls   []calledView
	Doctor  string // what its way keeps of the same dough
	DLost   []string
	DStrip  template.HTML
	Style   template.CSS
	Says    []string // of a sitting
	Batch   *uint64
	Dough   string
	AtOnce  bool
}

// Open opens a dough before it is done: nothing of it counts.
func (s *Room) Open(c *page.Visit) error {
	r, _, err := s.round(c)
	if err != nil {
		return err
	}
	if err := s.Store.EndPractice(c.Request.Context(), &r); err != nil {
		return err
	}
	return s.back(c, fmt.Sprintf("/practice/%d/opened", r.ID))
}

// ShowOpened shows a dough as it really was, once it is over.
func (s *Room) ShowOpened(c *page.Visit) error {
	r, k, err := s.round(c)
	if err != nil {
		return err
	}
	if r.Ended == nil {
		return s.back(c, fmt.Sprintf("/practice/%d", r.ID))
	}
	v := openedView{ID: r.ID, Form: r.Form, Name: r.Name, Level: r.Level, Looking: r.Looking, Done: r.Points != nil,
		Seed: practice.SeedName(
			r.Seed,
		), Style: page.Tinted(k.Colour), Batch: r.BatchID, AtOnce: r.AtOnce, Dough: usualDough}
	if r.BatchID != nil {
		v.Dough = fmt.Sprint(*r.BatchID)
	}
	switch r.Form {
	case practice.WholeBatch:
		err = v.batch(c.Units, r, k)
	case practice.OneCall:
		err = v.sitting(c.Units, r, k)
	case practice.Guessing:
		err = v.guesses(c.Units, r, k)
	case practice.FromLog:
		err = v.moments(c.Units, r)
	default:
		return s.back(c, fmt.Sprintf("/practice/%d", r.ID))
	}
	if err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "opened", "Practice: opened", v)
	return nil
}

func strip(k *practice.Kitchen, x *practice.Batch) template.HTML {
	return template.HTML(draw.InWidths(func(w draw.Width) string {
		return draw.Opened(x.Line, x.Made, k.Rules.Learn.FeelPoints, w)
	}))
}

func prose(in measure.System, all []string) (out []string) {
	for _, s := range all {
		out = append(out, in.Prose(s))
	}
	return out
}

func (v *openedView) batch(in measure.System, r store.PracticeRound, k *practice.Kitchen) error {
	x, err := k.Fold(r.Seed, r.Level, r.Acts.V, true)
	if err != nil {
		return err
	}
	if v.Done {
		points, _ := x.Points()
		v.Points = fmt.Sprintf("%.0f", points)
		v.Lost = prose(in, x.LostWords())
	}
	v.Off = prose(in, x.Off())
	v.Strip = strip(k, x)
	for i := range x.Made {
		m := &x.Made[i]
		v.Calls = append(
			v.Calls,
			calledView{N: i + 1, At: fmt.Sprintf("%.0f min", m.Min), Call: m.Call.Short, Went: went(m.Verdict),
				Lesson: lesson(in, m.Options, k.Lesson(m.Call, m.Options, m.After, m.Verdict), m.Verdict)},
		)
	}
	d := k.DoctorsWay(r.Seed, r.Level)
	points, _ := d.Points()
	v.Doctor, v.DLost, v.DStrip = fmt.Sprintf("%.0f", points), prose(in, d.LostWords()), strip(k, d)
	v.Says = []string{doneWords(in, k, d)}
	return nil
}

// went says how a call went, without praise.
func went(v practice.Verdict) string {
	switch {
	case v.Chosen == v.Best:
		return "the best by these signs"
	case v.Either:
		return "either was right"
	case v.Regret < .95:
		return "less than a point more than the best"
	}
	return measure.Plural(int(v.Regret+.5), "point", "points") + " more than the best"
}

func (v *openedView) sitting(in measure.System, r store.PracticeRound, k *practice.Kitchen) error {
	sit, err := k.Sit(r.Seed, r.Level, r.Asked.V.Calls, nil)
	if err != nil {
		return err
	}
	for _, a := range r.Acts.V {
		if err := sit.Do(k, a); err != nil {
			return err
		}
		if a.Do != practice.DoChoose {
			continue
		}
		d := &sit.Drill
		v.Calls = append(
			v.Calls,
			calledView{N: sit.At + 1, At: in.Prose(d.Context.Say), Call: d.Call.Short, Went: went(sit.Verdict),
				Lesson: lesson(in, d.Options, sit.Lesson, sit.Verdict)},
		)
	}
	return nil
}

func (v *openedView) guesses(in measure.System, r store.PracticeRound, k *practice.Kitchen) error {
	sit, err := k.SitGuessing(r.Seed, r.Level, nil)
	if err != nil {
		return err
	}
	for _, a := range r.Acts.V {
		if err := sit.Do(k, a); err != nil {
			return err
		}
		if a.Do != practice.DoSay {
			continue
		}
		g := &sit.Guess
		write := func(n float64) string {
			if g.Unit == "g" {
				return in.Prose(fmt.Sprintf("{%.0f g}", n))
			}
			return fmt.Sprintf("%.1f %s", n, g.Unit)
		}
		inside := "outside"
		if sit.Last.Inside {
			inside = "inside"
		}
		v.Calls = append(v.Calls, calledView{N: sit.At + 1, At: in.Prose(g.Say), Call: g.Ask,
			Went: fmt.Sprintf(
				"%s, %s: it was %s, %s",
				write(sit.Last.N),
				sit.Last.Width.Words(),
				write(g.Truth),
				inside,
			),
			Lesson: &lessonView{Why: in.Prose(g.Why)}})
	}
	v.Says = practice.Advice(k.Rules.Practice.Guess, k.Rules.Practice.GuessShare, sit.All)
	return nil
}

func (v *openedView) moments(in measure.System, r store.PracticeRound) error {
	sit, err := practice.SitLog(r.Asked.V.Moments, nil)
	if err != nil {
		return err
	}
	for _, a := range r.Acts.V {
		at := sit.At
		if err := sit.Do(a); err != nil {
			return err
		}
		if a.Do != practice.DoChoose {
			continue
		}
		m := sit.Moments[at]
		row, _ := practice.FindCall(m.Call)
		word := "as the doctor says"
		if sit.Chosen != m.Doctor {
			word = "the doctor says: " + measure.Lower(m.Answers[m.Doctor])
		}
		v.Calls = append(
			v.Calls,
			calledView{N: at + 1, At: in.Prose(m.Say), Call: row.Short, Went: m.Answers[sit.Chosen] + "; " + word,
				Lesson: &lessonView{Why: "What was done that day: " + in.Prose(m.Done) + ".", Price: in.Prose(m.Came)}},
		)
	}
	return nil
}

// lumpsView is the sheet of three lumps.
type lumpsView struct {
	Name  string
	Flour string
	Egg   string
	Lumps []lumpRow
	Words []string
	Back  string
}

type lumpRow struct{ Letter, Water, Is string }

// ShowLumps shows the sheet of three lumps to knead: the only form that teaches touch.
func (s *Room) ShowLumps(c *page.Visit) error {
	r, _, err := s.doughOf(c, c.Query("dough"))
	if err != nil {
		return page.Refuse(http.StatusNotFound, "There is no such batch.", measure.Capital(err.Error())+".",
			page.WayOn{To: "/practice", Name: "Practice"})
	}
	k, err := s.kitchen(r, s.RulesOf(c.Request.Context(), &r))
	if err != nil {
		return page.Refuse(
			http.StatusUnprocessableEntity,
			"No lumps can be weighed for this dough.",
			measure.Capital(err.Error())+".",
			page.WayOn{To: "/practice", Name: "Practice"},
		)
	}
	lumps, flourG, eggG := k.Lumps()
	v := lumpsView{Name: r.Name, Flour: c.Units.G(flourG, 0), Egg: c.Units.G(eggG, 0),
		Words: []string{"much too dry", "a little dry", "right", "a little wet", "much too wet"}}
	for i, l := range lumps {
		is := "right, by the book"
		switch {
		case l.Points < 0:
			is = fmt.Sprintf("%.0f points too dry", -l.Points)
		case l.Points > 0:
			is = fmt.Sprintf("%.0f points too wet", l.Points)
		}
		v.Lumps = append(v.Lumps, lumpRow{string(rune('A' + i)), c.Units.G(l.WaterG, 1), is})
	}
	s.Render(c, http.StatusOK, "lumps", "Three lumps", v)
	return nil
}
