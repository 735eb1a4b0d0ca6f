package cabinet

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"time"

	"hollen/internal/core/dry"
	"hollen/internal/core/flour"
	"hollen/internal/core/learn"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
	"hollen/internal/core/sack"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// doughsView is the page on which a flour is tried by three small doughs.
type doughsView struct {
	ID       uint64
	Lot      flour.Lot
	Flour    string
	In       measure.System
	Doughs   []smallDough
	Each     string // flour of each
	Egg      string // beaten, in each
	KneadMin int
	WrapMin  int
	Wrapped  *ovenView // since when they rest
	Words    []string
	Said     map[string]string
	Err      string
	Sure     string
	Is       *doughsAnswer
	FoodMin  string
	OneDough bool // its water in steps
	Query    string
}

// smallDough is one of them as it is weighed and asked after: lettered, so that the tongue does not follow the water.
type smallDough struct {
	Letter, Water string
	h             float64
}

// doughsAnswer is what a sitting said.
type doughsAnswer struct{ At, When, Wants, Range, Words string }

// boardMin is what a board loss is reckoned for, min.
const boardMin = 10.

// orders are the ways three doughs are lettered, by turns.
var orders = [6][3]int{{2, 0, 1}, {1, 2, 0}, {0, 2, 1}, {2, 1, 0}, {1, 0, 2}, {0, 1, 2}}

// doughsOf sets the doughs out.
func (s *Room) doughsOf(c *page.Visit, t store.Thing, l flour.Lot, cab desk) (*doughsView, request.Request, error) {
	kind := flourOf(cab, l.Flour)
	v := &doughsView{ID: t.ID, Lot: l, Flour: kind.Name, In: cab.In, KneadMin: int(sack.SmallKneadMin),
		Words: []string{"too dry", "a little dry", "right", "a little wet", "too wet"}, Said: map[string]string{}}
	room, err := s.usualRoom(c)
	if err != nil {
		return nil, request.Request{}, err
	}
	now := s.Now()
	r := request.Default()
	bare := l.Bare()
	r.MadeOn = now.Local().Format(time.DateOnly)
	r.Room.TempC, r.Room.RH = math.Round(room.TempC), math.Round(100*room.RH)/100
	r.Flours = []request.FlourPart{{Flour: l.Flour, Share: 1, Lot: l.Key, LotKept: &bare}}
	for i := range cab.Flours {
		if cab.Flours[i].Key == l.Flour {
			r.Flours[0].Own = &cab.Flours[i]
		}
	}
	r.Flours[0].Settle(r.MadeOn)
	ru := s.Rules
	ru.Learned = rules.Learned{Sacks: s.RulesOf(c.Request.Context(), &r).Learned.Sacks}
	p, err := plan.Make(ru, r)
	if err != nil {
		return nil, r, page.Refuse(http.StatusUnprocessableEntity, "No dough can be worked out of this lot.",
			err.Error())
	}
	flourG := sack.SmallFlourG
	if c.Request.FormValue("scale") == "coarse" {
		flourG = sack.CoarseFlourG
	}
	lost := dry.BoardLossG(ru, r.Room.TempC, r.Room.RH, flourG) * sack.SmallKneadMin / boardMin
	v.Each = cab.In.G(flourG, measure.Shortest)
	v.Egg = cab.In.G(sack.SmallEggShare*flourG, measure.Shortest)
	water := func(h float64) string {
		return cab.In.G(math.Max(sack.SmallWaterG(ru, p.Formula.Target.Hw, h, p.Formula.Flours[0].Moisture.NowWB,
			flourG,
			lost), 0), 1)
	}
	v.OneDough = c.Request.FormValue("by") == "steps"
	v.Query = url.Values{"by": c.Request.Form["by"], "scale": c.Request.Form["scale"]}.Encode()
	if v.OneDough {
		for i, h := range sack.Steps {
			v.Doughs = append(v.Doughs, smallDough{strconv.Itoa(i + 1), water(h), h})
		}
	} else {
		for i, place := range orders[(int(now.Unix()/86400)+int(t.ID))%len(orders)] {
			v.Doughs = append(v.Doughs, smallDough{string(rune('A' + i)), water(sack.Places[place]),
				sack.Places[place]})
		}
	}
	v.WrapMin = int(sack.WrapMin(kind.UptakeTauMin))
	v.FoodMin = measure.Minutes(float64(v.WrapMin+3*v.KneadMin) + 15)
	for i := len(l.History) - 1; i >= 0; i-- {
		if e := &l.History[i]; e.Kind == flour.LotDoughs && now.Sub(e.At) < 4*time.Hour {
			v.Wrapped = &ovenView{Since: e.At.Local().Format("15:04"), Minutes: int(now.Sub(e.At).Minutes()),
				At: strconv.FormatInt(e.At.UnixMilli(), 10), DoneAfter: v.WrapMin}
			break
		}
	}
	log, _ := s.Learned(c.Request.Context())
	for _, d := range log.Sittings() {
		if d.Lot == l.Name {
			v.Is = answerOf(cab.In, d)
		}
	}
	return v, r, nil
}

// answerOf is a sitting in words: grams on 500 g of flour, whole, with their range.
func answerOf(in measure.System, d learn.Sitting) *doughsAnswer {
	g := func(points float64) float64 { return math.Round(points * usualFlourG / 100) }
	within := sack.Within(d.SD)
	a := &doughsAnswer{At: d.At.Format(time.RFC3339Nano), When: measure.TimeWords(d.At.Local()),
		Range: fmt.Sprintf("between %s and %s",
			signedG(in, g(d.By-within)), signedG(in, g(d.By+within)))}
	if a.Words = "Three doughs of " + a.When + ", as good as one batch"; len(d.Said) != len(sack.Places) {
		a.Words = fmt.Sprintf("One dough in %d steps, %s", len(d.Said), a.When)
	}
	switch w := g(d.By); {
	case w > 0:
		a.Wants = "about " + in.G(w, 0) + " more than the book"
	case w < 0:
		a.Wants = "about " + in.G(-w, 0) + " less than the book"
	default:
		a.Wants = "what the book says"
	}
	return a
}

func signedG(in measure.System, g float64) string {
	if g < 0 {
		return "−" + in.G(-g, 0)
	}
	return in.G(g, 0)
}

// OpenDoughs shows how three small doughs are set out, and asks for their words once they have rested.
func (s *Room) OpenDoughs(c *page.Visit) error {
	t, l, cab, err := s.lotAt(c)
	if err != nil {
		return err
	}
	v, _, err := s.doughsOf(c, t, l, cab)
	if err != nil {
		return err
	}
	s.Render(c, http.StatusOK, "doughs", "Three small doughs", v)
	return nil
}

// SayDoughs keeps that they rest, or what was said of them.
func (s *Room) SayDoughs(c *page.Visit) error {
	values, t, l, cab, err := s.postedOfLot(c)
	if err != nil {
		return err
	}
	here := fmt.Sprintf("/cabinet/lots/%d/doughs?%s", t.ID, url.Values{"by": values["by"],
		"scale": values["scale"]}.Encode())
	if values.Get("do") == "wrapped" {
		l.Add(flour.LotEvent{At: s.Now().UTC().Truncate(time.Millisecond), Kind: flour.LotDoughs})
		if _, err := s.Store.Keep(c.Request.Context(), store.LotKind, t.ID, t.Version, l); err != nil && !errors.Is(err,
			store.ErrChanged) {
			return err
		}
		s.LotsChanged()
		c.Redirect(http.StatusSeeOther, here)
		return nil
	}
	if values.Get("do") == "forget" {
		err := s.Store.ChangeLogSettings(c.Request.Context(), func(set *store.LogSettings) {
			set.Doughs = slices.DeleteFunc(set.Doughs, func(d learn.Sitting) bool {
				return d.Lot == l.Name && d.At.Format(time.RFC3339Nano) == values.Get("at")
			})
		})
		if err != nil {
			return err
		}
		s.LogChanged()
		c.Redirect(http.StatusSeeOther, here)
		return nil
	}
	v, r, err := s.doughsOf(c, t, l, cab)
	if err != nil {
		return err
	}
	tried, said, wrong := v.read(values)
	if v.Wrapped == nil {
		wrong = "No doughs are resting: their words were kept already, or it is more than four hours since they were " +
			"wrapped."
	}
	if wrong != "" {
		v.Err = wrong
		s.Render(c, http.StatusUnprocessableEntity, "doughs", "Three small doughs", v)
		return nil
	}
	if err := s.keepSitting(c, l, &r, v.OneDough, tried, said); err != nil {
		return err
	}
	l.History = withoutDoughs(l.History)
	if _, err := s.Store.Keep(c.Request.Context(), store.LotKind, t.ID, t.Version, l); err != nil && !errors.Is(err,
		store.ErrChanged) {
		return err
	}
	c.Redirect(http.StatusSeeOther, here)
	return nil
}

// read reads the words said of the doughs, the driest first in said. What contradicts itself is asked once. Of one
// dough in steps the first words without a gap count, up to the one that is a little wet.
func (v *doughsView) read(values url.Values) (tried []sack.Tried, said []int, wrong string) {
	key, gap := "", false
	for _, d := range v.Doughs {
		text := values.Get("said." + d.Letter)
		v.Said[d.Letter] = text
		word, err := strconv.Atoi(text)
		if gap = gap || err != nil || word < -2 || word > 2; !gap {
			key += text
			tried = append(tried, sack.Tried{H: d.h, Word: word})
		}
	}
	slices.SortFunc(tried, func(a, b sack.Tried) int { return cmp.Compare(a.H, b.H) })
	for _, x := range tried {
		said = append(said, x.Word)
	}
	switch {
	case v.OneDough && (len(said) < 2 || said[len(said)-1] < 1 && len(said) < len(v.Doughs)):
		return nil, nil, "A word for each step, from the first on, until it is a little wet."
	case !v.OneDough && gap:
		return nil, nil, "Each of the three has a word."
	case !v.OneDough && sack.Contradict(tried) && values.Get("sure") != key:
		v.Sure = key
		return nil, nil, "A wetter one was called drier than a drier one: press those two once more. Said again, it " +
			"stands " +
			"as it is."
	}
	return tried, said, ""
}

func withoutDoughs(all []flour.LotEvent) (out []flour.LotEvent) {
	for _, e := range all {
		if e.Kind != flour.LotDoughs {
			out = append(out, e)
		}
	}
	return out
}

// keepSitting keeps what a sitting said as one look of the log: points of this sack, never its absorption.
func (s *Room) keepSitting(c *page.Visit, l flour.Lot, r *request.Request, oneDough bool,
	tried []sack.Tried, said []int) error {
	ctx := c.Request.Context()
	log, _ := s.Learned(ctx)
	maker := ""
	if c.Who != nil {
		maker = c.Who.Maker
	}
	label := plan.FlourLabel(r.Flours)
	known := log.Water(label, l.Name, maker, r.Eggs.Class, s.Now())
	m0, sd0 := known.M, known.SD
	if known.N == 0 {
		m0, sd0 = 0, newKitchenSD
	}
	me := s.Rules.Measure
	w := sack.Want(me, oneDough, tried, m0, sd0)
	err := s.Store.ChangeLogSettings(ctx, func(set *store.LogSettings) {
		set.Doughs = append(set.Doughs, learn.Sitting{At: s.Now().UTC(), Flour: label, Lot: l.Name, Maker: maker,
			Eggs: r.Eggs.Class, R: w.LookR, V: w.LookVar, Said: said, By: w.By, SD: w.SD})
		set.Doughs = set.Doughs[max(0, len(set.Doughs)-mostSittings):]
	})
	s.LogChanged()
	return err
}

// newKitchenSD is how far a flour in a kitchen that has logged nothing may be off, points; mostSittings are kept.
// Source: house.
const newKitchenSD, mostSittings = 2.1, 200
