package practice

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"time"

	"hollen/internal/account"
	"hollen/internal/core/measure"
	"hollen/internal/core/practice"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// listView is the page of forms, calls and the last doughs.
type listView struct {
	In        measure.System
	Doughs    []doughOption
	Dough     string // chosen
	Level     int
	AtOnce    bool
	Calls     []callRow
	Next      string // the calls that come up next, in words
	Rounds    []roundRow
	Errors    map[string]string
	Moments   int  // of the log
	Wanted    int  // of them
	Everyones bool // everybody's makings may be practised on
	Keeps     bool
	Accounts  bool
	Any       bool             // something has been practised
	Call      *practice.CallOf // what was come for
	Times     int
	Refused   string // why the dough that was come with is not practised on
	Levels    []int
}

// doughOption is a dough to practise on.
type doughOption struct{ Key, Name string }

// callRow is how somebody stands at a call.
type callRow struct {
	Key        practice.Call
	Name, Says string
	Last       string
	N          int
}

// roundRow is one of the last doughs.
type roundRow struct {
	ID               uint64
	Form, Name, Went string
	When             string
	Open             bool
}

// formNames are what the forms are called.
var formNames = map[practice.Form]string{practice.OneCall: "six calls", practice.WholeBatch: "a whole batch",
	practice.FindFault: "find the fault", practice.Guessing: "ten guesses", practice.FromLog: "from our log"}

// usualDough is the key of the dough that is no batch of the workshop.
const usualDough = "usual"

// recent is how many batches are offered to practise on, tried how many of them are looked at for one that can be.
const recent, tried = 20, 8

// practised says whether a batch can be practised on.
func (s *Room) practised(c *page.Visit, key string) bool {
	r, _, err := s.doughOf(c, key)
	if err != nil {
		return false
	}
	_, err = s.kitchen(r, s.RulesOf(c.Request.Context(), &r))
	return err == nil
}

// OpenPractice shows the forms.
func (s *Room) OpenPractice(c *page.Visit) error {
	v := listView{Dough: c.Query("dough"), AtOnce: true, Times: practice.Drills}
	v.Call, _ = practice.FindCall(practice.Call(c.Query("call")))
	if c.Query("times") == "4" {
		v.Times = 4
	}
	if v.Dough != "" && v.Dough != usualDough {
		if r, _, err := s.doughOf(c, v.Dough); err != nil {
			v.Dough = ""
		} else if _, err := s.kitchen(r, s.RulesOf(c.Request.Context(), &r)); err != nil {
			v.Refused, v.Dough = fmt.Sprintf("“%s”: %s.", r.Name, err), ""
		}
	}
	return s.list(c, http.StatusOK, v)
}

// list shows the page of forms, with what is wrong where something is.
func (s *Room) list(c *page.Visit, status int, v listView) error {
	ctx := c.Request.Context()
	v.In, v.Accounts, v.Levels = c.Units, s.SignIn, []int{1, 2, 3}
	v.Keeps = c.Who == nil || account.Role(c.Who.Role) == account.Keeps
	batches, _, err := s.Store.List(ctx, store.Query{})
	if err != nil {
		return err
	}
	for i, b := range batches[:min(recent, len(batches))] {
		key := strconv.FormatUint(b.ID, 10)
		if v.Dough == "" && i < tried && s.practised(c, key) {
			v.Dough = key
		}
		v.Doughs = append(v.Doughs, doughOption{key, b.Row.Name})
	}
	v.Doughs = append(v.Doughs, doughOption{usualDough, "a usual egg dough, tagliatelle"})
	if v.Dough == "" {
		v.Dough = usualDough
	}
	of := map[practice.Call]practice.Standing{}
	if w := s.who(c); w != "" {
		if of, err = s.Store.Standings(ctx, w); err != nil {
			return err
		}
		rounds, err := s.Store.PracticeRounds(ctx, w, 12)
		if err != nil {
			return err
		}
		v.rounds(rounds)
	}
	v.Any = len(of) > 0 || len(v.Rounds) > 0
	if v.Level == 0 {
		v.Level = 1
		if len(v.Rounds) > 0 {
			v.Level = s.lastLevel(c)
		}
	}
	v.calls(s, of)
	all, set, err := s.moments(c)
	if err != nil {
		return err
	}
	v.Moments, v.Wanted, v.Everyones = len(all), s.Rules.Practice.LogMoments, set.Practised
	s.Render(c, status, "practice", "Practice", v)
	return nil
}

// lastLevel is the level of the newest round.
func (s *Room) lastLevel(c *page.Visit) int {
	rounds, err := s.Store.PracticeRounds(c.Request.Context(), s.who(c), 1)
	if err != nil || len(rounds) == 0 {
		return 1
	}
	return rounds[0].Level
}

// calls fills in how somebody stands.
func (v *listView) calls(s *Room, of map[practice.Call]practice.Standing) {
	r, day := &s.Rules.Practice, s.Store.PracticeDay()
	for i := range practice.Calls() {
		c := &practice.Calls()[i]
		row := callRow{Key: c.Key, Name: c.Name, N: of[c.Key].N}
		if row.N > 0 {
			row.Says = of[c.Key].Words(r, c, day)
			row.Last = measure.DayWords(time.UnixMilli(int64(of[c.Key].Day * 86400e3)).Local().Format(time.DateOnly))
		}
		v.Calls = append(v.Calls, row)
	}
	var names []string
	for _, c := range practice.Next(r, of, day, practice.Drills) {
		row, _ := practice.FindCall(c)
		names = append(names, row.Short)
	}
	v.Next = measure.List(names)
}

// rounds fills in the last doughs.
func (v *listView) rounds(all []store.PracticeRound) {
	for _, r := range all {
		row := roundRow{
			ID:   r.ID,
			Form: formNames[r.Form],
			Name: r.Name,
			When: measure.TimeWords(r.Began.Local()),
			Open: r.Ended == nil,
		}
		switch {
		case r.Ended == nil:
			row.Went = "still open"
		case r.Looking:
			row.Went = "for looking at"
		case r.Form == practice.WholeBatch && r.Points != nil:
			row.Went = fmt.Sprintf("%.0f of a hundred kept", *r.Points)
		case r.Points == nil:
			row.Went = "opened before it was done"
		case r.Form == practice.Guessing:
			row.Went = fmt.Sprintf("%.0f of %d inside", *r.Points, practice.Guesses)
		case r.Form == practice.OneCall && r.Regret != nil:
			row.Went = fmt.Sprintf("%.1f points lost a call", *r.Regret)
		case r.Form == practice.FindFault:
			row.Went = map[bool]string{true: "found", false: "taken for another"}[*r.Points >= 1]
		default:
			row.Went = fmt.Sprintf("%.0f as the doctor says", *r.Points)
		}
		v.Rounds = append(v.Rounds, row)
	}
}

// BeginPractice begins a dough or a sitting.
func (s *Room) BeginPractice(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	v := listView{Dough: values.Get("dough"), AtOnce: values.Get("told") != "life", Errors: map[string]string{}}
	if v.Level, err = strconv.Atoi(values.Get("level")); err != nil || v.Level < 1 || v.Level > 3 {
		v.Level = 1
		v.Errors["level"] = "One thing off, a usual day or a hard day is allowed."
	}
	form := practice.Form(values.Get("form"))
	if formNames[form] == "" {
		v.Errors["form"] = "One of the forms below is allowed."
	}
	if len(v.Errors) > 0 {
		return s.list(c, http.StatusUnprocessableEntity, v)
	}
	ctx := c.Request.Context()
	if id, err := strconv.ParseUint(values.Get("again"), 10, 63); err == nil { // the same dough, for looking at
		return s.again(c, id)
	}
	r, batch, err := s.doughOf(c, v.Dough)
	if err != nil {
		v.Errors["dough"] = measure.Capital(err.Error()) + "."
		return s.list(c, http.StatusUnprocessableEntity, v)
	}
	ru := s.RulesOf(ctx, &r)
	if _, err := s.kitchen(r, ru); err != nil {
		if !errors.Is(err, practice.ErrRefused) {
			s.Log.Warn("practice", "err", err)
		}
		v.Errors["dough"] = measure.Capital(err.Error()) + "."
		return s.list(c, http.StatusUnprocessableEntity, v)
	}
	w := s.knownWho(c)
	asked, said, err := s.asked(c, w, form, practice.Call(values.Get("call")), values.Get("times") == "4")
	if err != nil {
		return err
	}
	if said != "" {
		v.Errors["form"] = said
		return s.list(c, http.StatusUnprocessableEntity, v)
	}
	o := store.NewPractice(w, form, r, ru, asked)
	o.Level, o.Seed, o.AtOnce, o.BatchID, o.Name = v.Level, seed(), v.AtOnce, batch, r.Name
	return s.begin(c, o)
}

// begin keeps a round and goes to it.
func (s *Room) begin(c *page.Visit, o store.PracticeRound) error {
	o, err := s.Store.BeginPractice(c.Request.Context(), o)
	if err != nil {
		return err
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/practice/%d", o.ID))
	return nil
}

// again begins an opened dough once more: for looking at, nothing of it counts.
func (s *Room) again(c *page.Visit, id uint64) error {
	r, err := s.Store.PracticeRoundOf(c.Request.Context(), s.knownWho(c), id)
	if err != nil || r.Ended == nil {
		return page.Refuse(
			http.StatusNotFound,
			"There is no such dough.",
			"Only one that has been opened can be looked at again.",
			page.WayOn{To: "/practice", Name: "Practice"},
		)
	}
	o := store.NewPractice(r.Who, r.Form, r.Request.Request, r.Rules.Rules, r.Asked.V)
	o.Level, o.Seed, o.AtOnce, o.BatchID, o.Name, o.Looking = r.Level, r.Seed, true, r.BatchID, r.Name, true
	return s.begin(c, o)
}

// doughOf is the request a dough is made of, and its batch; an error says why there is none.
func (s *Room) doughOf(c *page.Visit, key string) (request.Request, *uint64, error) {
	if key == usualDough || key == "" {
		r := practice.Default()
		h, err := s.House(c)
		if err != nil {
			return r, nil, errors.New("the database does not answer; try again in a moment")
		}
		h.Start(&r)
		return r, nil, nil
	}
	id, err := strconv.ParseUint(key, 10, 63)
	if err != nil {
		return request.Request{}, nil, errors.New("that is no batch; choose one of the list")
	}
	b, err := s.Store.Get(c.Request.Context(), id)
	if err != nil {
		return request.Request{}, nil, errors.New("there is no such batch any more; choose another")
	}
	return b.Request.Request, &id, nil
}

// asked is what a sitting asks; said says why it cannot be begun.
func (s *Room) asked(c *page.Visit, w string, form practice.Form, call practice.Call, four bool) (a store.PracticeAsked,
	said string, err error) {
	switch form {
	case practice.OneCall:
		if _, known := practice.FindCall(call); known {
			n := practice.Drills
			if four {
				n = 4
			}
			for range n {
				a.Calls = append(a.Calls, call)
			}
			return a, "", nil
		}
		of, err := s.Store.Standings(c.Request.Context(), w)
		a.Calls = practice.Next(&s.Rules.Practice, of, s.Store.PracticeDay(), practice.Drills)
		return a, "", err
	case practice.FromLog:
		all, _, err := s.moments(c)
		if err != nil {
			return a, "", err
		}
		if want := s.Rules.Practice.LogMoments; len(all) < want {
			return a, fmt.Sprintf(
				"There are %d such moments in the log; %d are wanted. A poke, a flex, a window or how it felt, "+
					"said at the bench, and how it went in the end, make one.",
				len(all),
				want,
			), nil
		}
		a.Moments = practice.PickMoments(all, seed(), practice.Drills)
	}
	return a, "", nil
}

// ForgetPractice deletes all that somebody has practised.
func (s *Room) ForgetPractice(c *page.Visit) error {
	if w := s.who(c); w != "" {
		if err := s.Store.ForgetPractice(c.Request.Context(), w); err != nil {
			return err
		}
	}
	c.Redirect(http.StatusSeeOther, "/practice")
	return nil
}

// OpenLogToAll says whether everybody may practise on everybody's makings.
func (s *Room) OpenLogToAll(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	to := values.Get("everyones") != ""
	if err := s.Store.ChangeLogSettings(c.Request.Context(),
		func(set *store.LogSettings) { set.Practised = to }); err != nil {
		return err
	}
	s.LogChanged()
	c.Redirect(http.StatusSeeOther, "/practice#log")
	return nil
}

// mostMakings is how many of the newest makings are looked through for moments.
const mostMakings = 40

// madeMoments are the moments of one making, and who made it.
type madeMoments struct {
	makers  []string
	moments []practice.LogMoment
}

// moments are those of the log somebody may practise on: of the own makings, of everybody's where the keeper has said
// so.
func (s *Room) moments(c *page.Visit) (out []practice.LogMoment, set store.LogSettings, err error) {
	ctx := c.Request.Context()
	if set, _, err = s.Store.LogSettings(ctx); err != nil {
		return nil, set, err
	}
	all, err := s.madeMoments(ctx)
	for _, m := range all {
		if c.Who == nil || set.Practised || slices.Contains(m.makers, c.Who.Maker) {
			out = append(out, m.moments...)
		}
	}
	return out, set, err
}

// madeMoments are the moments of the newest makings: looked through once as long as the log stays as it is.
func (s *Room) madeMoments(ctx context.Context) ([]madeMoments, error) {
	stamp, err := s.Store.LogStamp(ctx)
	if err != nil {
		return nil, err
	}
	s.mu.Lock()
	kept, at := s.made, s.madeAt
	s.mu.Unlock()
	if kept != nil && at == stamp {
		return kept, nil
	}
	made, err := s.Store.NewestMade(ctx, mostMakings)
	if err != nil {
		return nil, err
	}
	all := []madeMoments{}
	for i := range made {
		m, err := s.Store.Making(ctx, made[i].ID)
		if err != nil {
			continue
		}
		events, _, err := s.Store.Events(ctx, m.ID, 0)
		if err != nil || !practice.Tells(events) {
			continue
		}
		if p, err := m.Plan(); err == nil {
			all = append(all, madeMoments{made[i].Makers, practice.Moments(p, events)})
		}
	}
	s.mu.Lock()
	s.made, s.madeAt = all, stamp
	s.mu.Unlock()
	return all, nil
}
