package practice

import (
	"crypto/rand"
	"encoding/binary"
	"errors"
	"fmt"
	"html/template"
	"math"
	"net/http"
	"strconv"

	"hollen/internal/core/measure"
	"hollen/internal/core/practice"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// seed is the seed of a dough: no page ever shows it.
func seed() uint64 {
	var b [8]byte
	_, _ = rand.Read(b[:])
	return binary.LittleEndian.Uint64(b[:])
}

// signRow is one sign as it was seen.
type signRow struct{ Name, Word, When string }

// lookKey looks closer at a sign.
type lookKey struct {
	Sign practice.Sign
	Ask  string
}

// keyView is one of the five keys.
type keyView struct {
	Do                  practice.Do
	N                   string // what it does it with; "" where it has no amount
	Key                 int    // that presses it
	Name, Sub           string
	Value               string // of its amount
	Unit                string
	Low, High, Step     string
	Yolk, Amount, Aside bool
	Err                 string
}

// lessonView is what is said after a call.
type lessonView struct {
	You, Best, Sign, Why, Do, Expect, Stop, Price, Safe string
	Was                                                 bool // you chose the best
}

// roundView is a dough as it stands.
type roundView struct {
	ID       uint64
	Seq      int
	Form     practice.Form
	Name     string // of the batch
	Level    string
	Count    string // of the sitting
	Looking  bool
	Head     string // the question
	Say      string // what was done so far
	Minutes  string // at work
	Food     string
	FoodWarn bool
	Picture  template.HTML
	Style    template.CSS
	Signs    []signRow
	Looks    []lookKey
	Keys     []keyView
	Done     string
	Facts    string // of the dough: flour, egg
	Told     *lessonView
	Calls    []calledView // of the station just left, the dearest first
	Others   string       // how many there are besides that one
	Dear     bool         // it cost something
	Lines    []signRow    // of a story, when and what
	Guess    *guessView
	Over     bool
	Err      string
	Moved    bool // another window went on
	Phase    string
}

// guessView is a number to be guessed.
type guessView struct {
	Unit, Low, High string
	Value           string
	Truth, You, Why string // once it is told
	Inside          bool
}

// ShowRound shows a dough as it stands, or what it was once it is over.
func (s *Room) ShowRound(c *page.Visit) error {
	r, k, err := s.round(c)
	if err != nil {
		return err
	}
	if r.Ended != nil && (r.Form == practice.WholeBatch || r.Points == nil && !r.Looking) {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/practice/%d/opened", r.ID))
		return nil
	}
	v, err := s.view(c, r, k)
	if err != nil {
		return err
	}
	v.Moved = c.Query("moved") != ""
	return s.show(c, http.StatusOK, v)
}

func (s *Room) show(c *page.Visit, status int, v *roundView) error {
	if c.GetHeader(page.PartHeader) != "" {
		s.RenderPart(c, status, "round", "round-part", v)
		return nil
	}
	s.Render(c, status, "round", "Practice: "+v.Head, v)
	return nil
}

// Act does one thing to a dough, answers a call, or goes on. An answer to what another window has gone on from is not
// taken: it was given to other signs.
func (s *Room) Act(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	r, k, err := s.round(c)
	if err != nil {
		return err
	}
	to := fmt.Sprintf("/practice/%d", r.ID)
	if seen, err := strconv.Atoi(values.Get("seq")); err != nil || seen != r.Seq {
		return s.back(c, to+"?moved=1")
	}
	a := practice.Act{Do: practice.Do(values.Get("do")), Sign: practice.Sign(values.Get("sign"))}
	typed := values.Get("n")
	refuse := func(said string) error {
		v, err := s.view(c, r, k)
		if err != nil {
			return err
		}
		v.refused(a.Do, typed, said)
		return s.show(c, http.StatusUnprocessableEntity, v)
	}
	if typed != "" {
		unit := unitOf(a.Do)
		n, err := measure.Read(typed, unit, func(n float64) float64 {
			if _, by, add, turned := c.Units.Turn(unit); turned {
				return (n - add) / by
			}
			return n
		})
		if a.N = n; err != nil { // no number: the dough says what it would take
			a.N = math.NaN()
		}
	}
	marks, err := s.does(&r, k, a)
	if e, is := errors.AsType[practice.ActError](err); is {
		if typed != "" {
			e.Said = typed
		}
		return refuse(c.Units.Prose(e.Error()))
	}
	if err != nil {
		return err
	}
	if err := s.Store.PracticeStep(c.Request.Context(), &r, a, marks); errors.Is(err, store.ErrChanged) {
		return s.back(c, to+"?moved=1")
	} else if err != nil {
		return err
	}
	return s.back(c, to)
}

// back goes on to a page.
func (s *Room) back(c *page.Visit, to string) error {
	c.Redirect(http.StatusSeeOther, to)
	return nil
}

// unitOf is the unit an amount is typed in.
func unitOf(do practice.Do) measure.Unit {
	switch do {
	case practice.DoWater, practice.DoFlour:
		return measure.G
	case practice.DoCook:
		return measure.S
	case practice.DoSay:
		return ""
	case practice.DoChoose, practice.DoFold, practice.DoPass:
		return ""
	}
	return measure.MIN
}

// does folds the round with one act more and says how it then stands: the calls it answers, with their marks.
func (s *Room) does(r *store.PracticeRound, k *practice.Kitchen, a practice.Act) (map[practice.Call]float64, error) {
	marks := map[practice.Call]float64{}
	now := s.Now()
	end := func(points, regret float64) { r.Ended, r.Points, r.Regret = &now, &points, &regret }
	switch r.Form {
	case practice.OneCall:
		sit, err := k.Sit(r.Seed, r.Level, r.Asked.V.Calls, r.Acts.V)
		if err == nil {
			err = sit.Do(k, a)
		}
		if err == nil && a.Do == practice.DoChoose {
			marks[sit.Drill.Call.Key] = sit.Verdict.Mark
		}
		if err == nil && sit.Over {
			sum := 0.
			for _, v := range sit.Before {
				sum += v.Regret / float64(len(sit.Before))
			}
			end(sum, sum)
		}
		return marks, err
	case practice.Guessing:
		sit, err := k.SitGuessing(r.Seed, r.Level, r.Acts.V)
		if err == nil {
			err = sit.Do(k, a)
		}
		if err == nil && sit.Over {
			in := 0.
			for _, g := range sit.All {
				if g.Inside {
					in++
				}
			}
			end(in, 0)
		}
		return marks, err
	case practice.FindFault:
		f := k.Case(r.Seed)
		if err := practice.Choice(a, len(f.Offered)); err != nil {
			return nil, err
		}
		end(f.Mark(int(a.N)), 0)
		return marks, nil
	case practice.FromLog:
		sit, err := practice.SitLog(r.Asked.V.Moments, r.Acts.V)
		if err == nil {
			err = sit.Do(a)
		}
		if err == nil && sit.Over {
			end(float64(sit.Right), 0)
		}
		return marks, err
	}
	return s.doesBatch(r, k, a)
}

// doesBatch is does of a whole batch: its calls count once it is done.
func (s *Room) doesBatch(
	r *store.PracticeRound,
	k *practice.Kitchen,
	a practice.Act,
) (map[practice.Call]float64, error) {
	last := a.Do == practice.DoDrain
	x, err := k.Fold(r.Seed, r.Level, r.Acts.V, last)
	if err == nil {
		err = x.Do(a)
	}
	if err != nil || x.Phase != practice.Over {
		return nil, err
	}
	points, _ := x.Points()
	regret, now := x.Regret(), s.Now()
	r.Ended, r.Points, r.Regret = &now, &points, &regret
	sum, n := map[practice.Call]float64{}, map[practice.Call]float64{}
	for _, m := range x.Made {
		sum[m.Call.Key] += m.Mark
		n[m.Call.Key]++
	}
	for c := range sum {
		sum[c] /= n[c]
	}
	return sum, nil
}

// view is a round as a page shows it.
func (s *Room) view(c *page.Visit, r store.PracticeRound, k *practice.Kitchen) (*roundView, error) {
	v := &roundView{ID: r.ID, Seq: r.Seq, Form: r.Form, Name: r.Name, Level: levelWords(r.Level), Looking: r.Looking,
		Style: page.Tinted(k.Colour), Over: r.Ended != nil,
		Facts: c.Units.Prose(
			fmt.Sprintf("{%.0f g} of flour, {%.0f g} of egg, %s", k.FlourG, k.EggG, measure.Lower(k.Shape)),
		)}
	var err error
	switch r.Form {
	case practice.OneCall:
		err = v.sitting(c.Units, r, k)
	case practice.Guessing:
		err = v.guessing(c.Units, r, k)
	case practice.FindFault:
		v.fault(r, k)
	case practice.FromLog:
		err = v.moment(c.Units, r)
	default:
		err = v.batch(c.Units, r, k)
	}
	return v, err
}

// shown fills in the signs.
func (v *roundView) shown(all []practice.Shown) {
	for _, o := range all {
		v.Signs = append(v.Signs, signRow{Name: practice.LookOf(o.Sign).Name, Word: o.Sign.Word(o.Word)})
	}
}

// choices are the keys of answers.
func (v *roundView) choices(names []string) {
	for i, n := range names {
		v.Keys = append(v.Keys, keyView{Do: practice.DoChoose, N: strconv.Itoa(i), Key: i + 1, Name: n})
	}
}

// lesson is what is said after a call, in the reader's units.
func lesson(in measure.System, options []practice.Option, l practice.Lesson, v practice.Verdict) *lessonView {
	return &lessonView{
		You:    in.Prose(options[v.Chosen].Name),
		Best:   in.Prose(options[v.Best].Name),
		Was:    v.Chosen == v.Best,
		Sign:   in.Prose(l.Sign),
		Why:    in.Prose(l.Act.Why),
		Do:     in.Prose(l.Act.Do),
		Expect: in.Prose(l.Act.Expect),
		Stop:   in.Prose(l.Act.Stop),
		Price:  in.Prose(l.Price),
		Safe:   in.Prose(l.Safe),
	}
}

func (v *roundView) sitting(in measure.System, r store.PracticeRound, k *practice.Kitchen) error {
	sit, err := k.Sit(r.Seed, r.Level, r.Asked.V.Calls, r.Acts.V)
	if err != nil {
		return err
	}
	d := &sit.Drill
	v.Count = fmt.Sprintf("call %d of %d", sit.At+1, len(r.Asked.V.Calls))
	v.Head, v.Say = d.Call.Name, in.Prose(d.Context.Say)
	v.shown(d.Shown)
	v.Picture = picture(in, d.View(), d.Shown)
	if sit.Told {
		v.Told = lesson(in, d.Options, sit.Lesson, sit.Verdict)
		return nil
	}
	var names []string
	for _, o := range d.Options {
		names = append(names, in.Prose(o.Name))
	}
	v.choices(names)
	return nil
}

func (v *roundView) guessing(in measure.System, r store.PracticeRound, k *practice.Kitchen) error {
	sit, err := k.SitGuessing(r.Seed, r.Level, r.Acts.V)
	if err != nil {
		return err
	}
	g := &sit.Guess
	v.Count = fmt.Sprintf("guess %d of %d", sit.At+1, practice.Guesses)
	v.Head, v.Say = g.Ask, in.Prose(g.Say)
	v.shown(g.Shown)
	kind := practice.AsLump
	if g.Unit == "leaves" || g.Unit == "min" {
		kind = practice.AsSheet
	}
	v.Picture = picture(in, practice.View{Kind: kind}, g.Shown)
	write := func(n float64) string {
		if g.Unit == "g" {
			return in.Prose(fmt.Sprintf("{%.0f g}", n))
		}
		return strconv.FormatFloat(math.Round(n*10)/10, 'f', -1, 64) + " " + g.Unit
	}
	unit := g.Unit
	if unit == "g" {
		unit = in.Name(measure.G)
	}
	v.Guess = &guessView{Unit: unit, Low: write(g.Low), High: write(g.High)}
	if sit.Told {
		from, to := practice.Range(&k.Rules.Practice, sit.Last.N, sit.Last.Width)
		v.Guess.Truth, v.Guess.Inside, v.Guess.Why = write(g.Truth), sit.Last.Inside, in.Prose(g.Why)
		v.Guess.You = fmt.Sprintf(
			"%s, %s: from %s to %s",
			write(sit.Last.N),
			sit.Last.Width.Words(),
			write(from),
			write(to),
		)
	}
	return nil
}

func (v *roundView) fault(r store.PracticeRound, k *practice.Kitchen) {
	f := k.Case(r.Seed)
	v.Head, v.Level = "One thing went wrong early. Which?", "a finished making, its signs in the order they were seen"
	when := ""
	for _, l := range f.Lines {
		of, word := l.Line()
		row := signRow{Name: of, Word: word}
		if l.When != when {
			when = l.When
			row.When = when
		}
		v.Lines = append(v.Lines, row)
	}
	if len(r.Acts.V) == 0 {
		var names []string
		for _, o := range f.Offered {
			names = append(names, measure.Capital(o.Name))
		}
		v.choices(names)
		return
	}
	chosen := int(r.Acts.V[0].N)
	t := &lessonView{
		You:  measure.Capital(f.Offered[chosen].Name),
		Best: measure.Capital(f.Offered[f.Planted].Name),
		Was:  chosen == f.Planted,
	}
	t.Sign = f.Words()
	for i, o := range f.Offered {
		if i != f.Planted && f.Likely[i] >= .02 {
			t.Price += fmt.Sprintf("%s: %.0f of a hundred such makings. ", measure.Capital(o.Name), 100*f.Likely[i])
		}
	}
	t.Do = fmt.Sprintf(
		"Of a hundred makings that show these signs, %.0f had this: %s.",
		100*f.Likely[f.Planted],
		f.Offered[f.Planted].Name,
	)
	v.Told = t
}

func (v *roundView) moment(in measure.System, r store.PracticeRound) error {
	sit, err := practice.SitLog(r.Asked.V.Moments, r.Acts.V)
	if err != nil {
		return err
	}
	m := sit.Moments[sit.At]
	row, _ := practice.FindCall(m.Call)
	v.Level, v.Facts = "from the log", ""
	v.Count = fmt.Sprintf("moment %d of %d", sit.At+1, len(sit.Moments))
	v.Head, v.Say = row.Name, in.Prose(m.Say)
	v.shown(m.Shown)
	v.Picture = picture(in, practice.View{Kind: practice.AsLump}, m.Shown)
	if !sit.Told {
		v.choices(m.Answers)
		return nil
	}
	v.Told = &lessonView{You: m.Answers[sit.Chosen], Best: m.Answers[m.Doctor], Was: sit.Chosen == m.Doctor,
		Sign: "By the doctor’s table such a sign says: " + measure.Lower(m.Answers[m.Doctor]) + ".",
		Do:   "What was done that day: " + in.Prose(m.Done) + ".", Price: in.Prose(m.Came)}
	return nil
}

// refused puts what is wrong beside the key that was pressed, with what was typed.
func (v *roundView) refused(do practice.Do, typed, said string) {
	said = measure.Capital(said) + "."
	for i := range v.Keys {
		if v.Keys[i].Do == do && (v.Keys[i].Amount || v.Keys[i].N == typed) {
			v.Keys[i].Err, v.Keys[i].Value = said, typed
			return
		}
	}
	if v.Guess != nil && do == practice.DoSay {
		v.Guess.Value = typed
	}
	v.Err = said
}
