package log

import (
	"crypto/rand"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/field"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// logField is one line of the short form; all are optional.
type logField struct {
	field.Field
	Value, Err string
}

// logFields are the lines of the form, in the order of work.
func logFields(in measure.System, r *request.Request) []logField {
	line := func(key, label, hint string, unit measure.Unit, least, most float64) field.Field {
		return field.Field{Path: key, Label: label, Hint: hint, Unit: string(unit), Kind: field.Number, Min: least,
			Max: most, Rounded: true, Digits: 2, Optional: true}
	}
	mass := func(key, label, hint string) field.Field {
		f := line(key, label, hint, measure.G, 0, bench.MaxG)
		f.Digits = 0
		return f.In(in)
	}
	all := []field.Field{
		mass("flour_left", "Flour left in the bowl", ""),
		mass("water_added", "Water added beyond the plan", ""),
		line("knead_min", "Kneaded", "in all", measure.MIN, .1, 240),
		line("rest_min", "Rested", "before the roller", measure.MIN, 0, 2880),
		line("poke_s", "A poke was half back in", "", measure.S, .1, bench.MaxPokeS),
		line("sheet_mm", "Sheet at the last stop", "", measure.MM, .2, 10), // a gauge is metric everywhere
		line("dry_min", "On the rack", "when that was felt", measure.MIN, .1, 600),
		line("pot_s", "In the pot, to your taste", "", measure.S, 5, 3600),
		mass("trim_g", "Trimmings", ""),
		mass("trim_back_g", "Of them, kneaded into the next piece", ""),
	}
	if r.Cut.Kind().Traits().Lengths {
		all = append(all,
			line("cut_mm", "A ribbon, as it was cut", "", measure.MM, 50, bench.MaxRibbonMM).In(in),
			line("settled_mm", "The same, once it had pulled in", "", measure.MM, 35, bench.MaxRibbonMM).In(in))
	}
	all = append(all,
		mass("thrown_g", "Thrown away", "empty: all of it, where a reason stands below"),
		mass("out_g", "Came out", "0: nothing; empty: not weighed"))
	out := make([]logField, len(all))
	for i, f := range all {
		out[i] = logField{Field: f}
	}
	return out
}

// logForm is the short form of a batch that was made.
type logForm struct {
	readAt time.Time // when it is read
	Why    string    // it was thrown away
	WhyEr  string
	To     string // where it is posted
	Name   string
	Back   string
	Once   string // marks this form: sent twice, it counts once
	When   string // yyyy-mm-ddThh:mm it was begun, "" of a making that has its own
	WhenOf bool   // it asks when
	WhenEr string
	Felt   string
	Touch  string
	Maker  string
	Next   string
	NextEr string
	Fields []logField
	Feels  []string
	Makers []string
}

// OpenLog shows the form of a batch made without the bench.
func (s *Room) OpenLog(c *page.Visit) error {
	b, err := s.Load(c)
	if err != nil {
		return err
	}
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	when := s.Now().Add(-2 * time.Hour).Format(measure.ClockForm)
	s.Render(c, http.StatusOK, "logform", "Log: "+b.Request.Name, newLogForm(c, fmt.Sprintf("/batches/%d/log", b.ID),
		&b.Request.Request,
		fmt.Sprintf("/batches/%d/makings", b.ID), when, cab))
	return nil
}

func newLogForm(c *page.Visit, to string, r *request.Request, back, when string, cab store.Cabinet) logForm {
	f := logForm{To: to, Name: r.Name, Back: back, When: when, WhenOf: when != "", Fields: logFields(c.Units, r),
		Feels: bench.FeltWords, Maker: r.MadeBy,
		Once: rand.Text()}
	for _, m := range cab.Makers {
		f.Makers = append(f.Makers, m.Name)
	}
	return f
}

// OpenMadeLog shows the form of a making, filled with what the bench knows.
func (s *Room) OpenMadeLog(c *page.Visit) error {
	kept, run, err := s.Making(c)
	if err != nil {
		return err
	}
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	at := fmt.Sprintf("/bench/%d/", kept.ID)
	f := newLogForm(c, at+"log", &kept.Request.Request, at+"made", "", cab)
	st := run.State
	if st.Felt != nil {
		f.Felt = fmt.Sprint(*st.Felt)
	}
	f.Next = st.Next
	known := bench.KnownOf(&run)
	for i := range f.Fields {
		x := &f.Fields[i]
		if v := known[x.Path]; v > 0 {
			x.Value = x.Shown(v)
		}
	}
	s.Render(c, http.StatusOK, "logform", "Log: "+kept.Request.Name, f)
	return nil
}

// read takes what was typed; false where something is not allowed, which stands by its line.
func (f *logForm) read(v url.Values) (got map[string]float64, ok bool) {
	got, ok = map[string]float64{}, true
	f.Felt = v.Get("felt")
	f.Touch = v.Get("touch")
	f.Maker = strings.TrimSpace(v.Get("maker"))
	f.Next = strings.TrimSpace(v.Get("next"))
	if f.Why = strings.TrimSpace(v.Get("why")); len([]rune(f.Why)) > bench.MaxText*3/4 {
		f.WhyEr, ok = fmt.Sprintf("%d letters at most.", bench.MaxText*3/4), false
	}
	if len([]rune(f.Next)) > bench.MaxText*3/4 {
		f.NextEr, ok = fmt.Sprintf("%d letters at most.", bench.MaxText*3/4), false
	}
	if f.WhenOf {
		f.When = v.Get("when")
		if t, err := time.ParseInLocation(measure.ClockForm, f.When, time.Local); err != nil ||
			t.After(f.readAt.Add(time.Minute)) || t.Year() < 2000 {
			f.WhenEr, ok = "A moment that has passed, as 2026-11-28T09:30.", false
		}
	}
	for i := range f.Fields {
		x := &f.Fields[i]
		x.Value = strings.TrimSpace(v.Get(x.Path))
		var n *float64
		if wrong, is := errors.AsType[field.Error](x.Set(&n, x.Value)); is {
			x.Err, ok = wrong.ForPage(), false
		} else if n != nil {
			got[x.Path] = *n
		}
	}
	cut, settled := got["cut_mm"], got["settled_mm"]
	for i := range f.Fields {
		x := &f.Fields[i]
		switch {
		case x.Err != "":
		case x.Path == "settled_mm" && cut > 0 && settled == 0, x.Path == "cut_mm" && settled > 0 && cut == 0:
			x.Err, ok = "Both lengths, or neither.", false
		case x.Path == "settled_mm" && cut > 0 && (settled < .7*cut || settled > 1.1*cut):
			x.Err, ok = "From seven tenths of what was cut to a tenth over.", false
		case x.Path == "trim_back_g" && got["trim_g"] > 0 && got["trim_back_g"] > got["trim_g"]:
			x.Err, ok = "No more than the trimmings there were.", false
		}
	}
	return got, ok
}

// readLog reads the form as it was posted, or shows what is not allowed.
func (s *Room) readLog(c *page.Visit, to string, r *request.Request, back string, when bool) (f logForm,
	got map[string]float64, err error) {
	values, err := s.Posted(c)
	if err != nil {
		return f, nil, err
	}
	cab, err := c.Cabinet()
	if err != nil {
		return f, nil, err
	}
	f = newLogForm(c, to, r, back, "", cab)
	f.readAt = s.Now()
	if mark := values.Get("once"); len(mark) >= 8 && len(mark) <= 30 && bench.IsID(mark) {
		f.Once = mark
	}
	f.WhenOf = when
	got, sound := f.read(values)
	if !sound {
		s.Render(c, http.StatusUnprocessableEntity, "logform", "Log: "+r.Name, f)
		return f, got, page.ErrAnswered
	}
	return f, got, nil
}

// SaveLog logs a batch that was made without the bench: a making of its own, begun when it is said to have been.
func (s *Room) SaveLog(c *page.Visit) error {
	b, err := s.Load(c)
	if err != nil {
		return err
	}
	at := fmt.Sprintf("/batches/%d/", b.ID)
	f, got, err := s.readLog(c, at+"log", &b.Request.Request, at+"makings", true)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	r := b.Request.Request
	p, err := plan.MakeIn(c.Units, s.RulesOf(ctx, &r), r)
	if err != nil {
		return s.FailPlan(c, b.ID, err)
	}
	began, _ := time.ParseInLocation(measure.ClockForm, f.When, time.Local)
	m, err := s.Store.BeginOnce(ctx, b, p, began, f.Once)
	if err == nil {
		err = s.KeepEvents(ctx, m.ID, f.afterwards(got).Events(p, m.Began, nil))
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/bench/%d/made", m.ID))
	return nil
}

// SaveMadeLog logs more of a making.
func (s *Room) SaveMadeLog(c *page.Visit) error {
	kept, run, err := s.Making(c)
	if err != nil {
		return err
	}
	at := fmt.Sprintf("/bench/%d/", kept.ID)
	f, got, err := s.readLog(c, at+"log", &kept.Request.Request, at+"made", false)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	told := f.afterwards(got)
	told.Forget(&run, f.same(&run))
	events, err := told.Events(run.Begun, kept.Began, &run.State), error(nil)
	if len(events) > 0 {
		err = s.KeepEvents(ctx, kept.ID, events)
	}
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, at+"made")
	return nil
}

// afterwards is what the form says of a making.
func (f *logForm) afterwards(got map[string]float64) *bench.Afterwards {
	return &bench.Afterwards{Mark: f.Once, By: f.Maker, Felt: f.Felt, Touch: f.Touch, Next: f.Next, Why: f.Why,
		Now: f.readAt,
		Got: got}
}

// same are the lines that say what the form showed of a making already.
func (f *logForm) same(run *bench.Making) (out []string) {
	known := bench.KnownOf(run)
	for i := range f.Fields {
		if x := &f.Fields[i]; known[x.Path] > 0 && x.Shown(known[x.Path]) == x.Value {
			out = append(out, x.Path)
		}
	}
	return out
}
