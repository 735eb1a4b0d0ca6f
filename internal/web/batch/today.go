package batch

import (
	"cmp"
	"context"
	"fmt"
	"html/template"
	"maps"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/day"
	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/core/recipe"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/page"
	"hollen/internal/workshop"
)

// todayView is the first page: a question as a sentence, its answer, and what goes on in the kitchen.
type todayView struct {
	newBatchView
	UnderWay []workshop.UnderWay
	Orders   []todayOrder
	Lately   []todayMade
	Most     []todayRecipe
	Date     string // yyyy-mm-dd
	DueOn    string // the day the first of the orders is of
	Asked    string // what was asked for, in short
	Unread   bool   // some of it could not be read just now
}

// todayOrder is one order of today.
type todayOrder struct {
	At, Who, What, Note string
	Hand                string // what is in hand before it is due, "" where no plan says it
	Late                bool
}

// todayMade is one of the newest makings.
type todayMade struct {
	ID         uint64
	Name, Said string
}

// todayRecipe is one of the recipes most made.
type todayRecipe struct {
	ID         uint64
	Name, Said string
}

// todayPart is one part of the answer: what it is, its figure, and a word on it.
type todayPart struct{ Of, Much, Said string }

// askedToday are the fields of the sentence, in its order.
var askedToday = []string{"amount.portions", "cut.shape", "flours.0.flour", "eggs.class", "roll.machine"}

// askedCookie is where a browser keeps what it asked last, and most of it, bytes.
const (
	askedCookie  = "asked"
	mostRemember = 600
	latelyMost   = 4
	ordersMost   = 6
	recipesMost  = 4
	recipesDays  = 60 // that are looked at for what is made most
)

// ShowToday shows the first page. What looks for batches is led to their list.
func (s *Room) ShowToday(c *page.Visit) error {
	asked := c.Request.URL.Query()
	for _, of := range []string{"find", "shape", "sort", "week", "gone", "id", "before", "key", "deleted", "restored"} {
		if asked.Has(of) {
			c.Redirect(http.StatusSeeOther, "/batches?"+c.Request.URL.RawQuery)
			return nil
		}
	}
	start, said := url.Values{}, false
	if asked.Get("part") == "" { // what is typed says all of it
		start = s.remembered(c)
	}
	values := sentence(start)
	for _, k := range append(slices.Clone(askedToday), "step") {
		if asked.Has(k) {
			values.Set(k, asked.Get(k))
			said = true
		}
	}
	f, err := s.newForm(c, values)
	if err != nil {
		return err
	}
	if said && len(f.Errors) == 0 {
		s.remember(c, &f.Page, true)
	}
	v := newView(0, 0, "", f.Request, f.Form)
	if v.Cabinet, err = c.Cabinet(); err != nil {
		return err
	}
	out := todayView{newBatchView: newBatchView{formulaView: &formulaView{batchView: v}}, Date: s.Today(),
		Asked: fmt.Sprintf("%g as %s", f.asked.Portions, f.Plan.Cut.Shape.Name)}
	if asked.Get("part") == "answer" { // while one types
		s.RenderPart(c, http.StatusOK, "today", "told", out)
		return nil
	}
	s.goingOn(c, &out)
	s.Render(c, http.StatusOK, "today", "Today", out)
	return nil
}

// KeepQuestion keeps what is asked as a recipe, and opens it.
func (s *Room) KeepQuestion(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	f, err := s.newForm(c, values)
	if err != nil {
		return err
	}
	if len(f.Errors) > 0 {
		return s.showNew(c, http.StatusUnprocessableEntity, f, values)
	}
	if err := s.call(c, &f); err != nil {
		return err
	}
	r := recipe.Of(f.Request)
	ctx := c.Request.Context()
	p, err := plan.Make(s.RulesOf(ctx, &r), r)
	if err != nil {
		return page.Refuse(http.StatusUnprocessableEntity, "This cannot be kept as a recipe.", err.Error())
	}
	kept, err := s.Store.KeepRecipe(ctx, page.OnceOf(values), p, recipe.Besides{})
	if err != nil {
		return err
	}
	s.remember(c, &f.Page, f.asked.By == request.ByPortions)
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/recipes/%d", kept.ID))
	return nil
}

// remembered is what this browser asked last; nothing where something it names has left the cabinet.
func (s *Room) remembered(c *page.Visit) url.Values {
	start := url.Values{}
	kept, err := c.Cookie(askedCookie)
	if err != nil || len(kept) > mostRemember {
		return start
	}
	was, err := url.ParseQuery(kept)
	if err != nil {
		return start
	}
	for _, k := range askedToday {
		if was.Has(k) {
			start.Set(k, was.Get(k))
		}
	}
	if len(start) == 0 {
		return start
	}
	if f, err := s.newForm(c, sentence(start)); err != nil || len(f.Errors) > 0 {
		return url.Values{}
	}
	return start
}

// remember has the browser keep what was asked; portions says that it was asked by them, otherwise those of before
// stay.
func (s *Room) remember(c *page.Visit, r *request.Request, portions bool) {
	keep := url.Values{}
	for _, k := range askedToday {
		field, _ := request.FieldAt(k)
		keep.Set(k, field.In(c.Units).Get(r))
	}
	if !portions {
		if was := s.remembered(c).Get(askedToday[0]); was != "" {
			keep.Set(askedToday[0], was)
		} else {
			keep.Del(askedToday[0])
		}
	}
	if text := keep.Encode(); len(text) <= mostRemember {
		c.SetCookie(askedCookie, text, 365*24*3600, "/", "", false, true)
	}
}

// sentence is what was asked, with what the sentence says besides: so many portions, and whole eggs first.
func sentence(asked url.Values) url.Values {
	out := maps.Clone(asked)
	if !out.Has("amount.portions") {
		out.Set("amount.portions", "3")
	}
	out.Set("amount.by", string(request.ByPortions))
	out.Set("whole", "first")
	return out
}

// goingOn fills in what is at the bench, what is due today, and what was made lately. The answer does not wait for it
// longer than for half of the time a page has: what could not be read by then is said to be missing.
func (s *Room) goingOn(c *page.Visit, v *todayView) {
	ctx, cancel := context.WithTimeout(c.Request.Context(), page.DBTimeout/2)
	defer cancel()
	v.UnderWay = s.UnderWay(ctx)
	errOrders := s.due(ctx, v)
	made, errMade := s.Store.NewestMade(ctx, latelyMost)
	for _, m := range made {
		v.Lately = append(v.Lately, todayMade{m.ID, m.Name, madeWords(&m, s.Now())})
	}
	most, errMost := s.Store.MostMade(ctx, s.Now().AddDate(0, 0, -recipesDays), recipesMost)
	for _, r := range most {
		said := "made on "
		if r.N > 1 {
			said = fmt.Sprintf("made %d times in %d days, last on ", r.N, recipesDays)
		}
		v.Most = append(v.Most, todayRecipe{r.ID, r.Name, said +
			measure.DayWords(r.Began.Local().Format(time.DateOnly))})
	}
	if err := cmp.Or(errOrders, errMade, errMost, ctx.Err()); err != nil {
		s.Log.Error("today", "err", err)
		v.Unread = true
	}
}

// due fills in what is due today: of the day before what is due after midnight, then the orders of today.
func (s *Room) due(ctx context.Context, v *todayView) error {
	v.DueOn = v.Date
	const night = 24 * 60
	for _, date := range []string{s.Now().AddDate(0, 0, -1).Format(time.DateOnly), v.Date} {
		orders, err := s.Store.Orders(ctx, date)
		if err != nil {
			return err
		}
		orders = slices.DeleteFunc(orders, func(o store.Order) bool {
			return o.Gone || date != v.Date &&
				o.Due < night
		})
		if len(orders) == 0 {
			continue
		}
		if len(v.Orders) == 0 {
			v.DueOn = date
		}
		hand := s.InHand(ctx, date)
		for _, o := range orders[:min(len(orders), ordersMost-len(v.Orders))] {
			v.Orders = append(v.Orders, orderRow(&o, hand))
		}
	}
	return nil
}

// orderRow is an order with what is in hand of it, where the day's plan says that.
func orderRow(o *store.Order, hand map[uint64]int) todayOrder {
	row := todayOrder{At: day.Time(o.Due), Who: o.Who, Note: order.Notice(o.What, o.Noted()),
		What: o.Said().Words() + " of " + o.What}
	switch min, planned := hand[o.ID]; {
	case planned && min < 0:
		row.Hand, row.Late = day.Words(-min)+" late", true
	case planned:
		row.Hand = day.Words(min) + " in hand"
	}
	return row
}

// madeWords say when something was made and how it felt.
func madeWords(m *store.Made, now time.Time) string {
	day := now.Format(time.DateOnly)
	began := m.Began.Local()
	words := "made on " + began.Format("Monday 2 January")
	switch date := began.Format(time.DateOnly); {
	case date == day:
		words = "made today"
	case date == now.AddDate(0, 0, -1).Format(time.DateOnly):
		words = "made yesterday"
	}
	if m.Thrown {
		return words + ", thrown away"
	}
	if m.Felt != nil {
		if i := *m.Felt + 2; i >= 0 && i < len(bench.FeltWords) {
			words += ", " + bench.FeltWords[i]
		}
	}
	return words
}

// Blank is the control of one blank of the sentence.
func (v todayView) Blank(path, label string) template.HTML {
	c := v.Control(path)
	c.Hint = ""
	return c.Field(label)
}

// Wrong are the errors of the sentence.
func (v todayView) Wrong() (out []string) {
	for _, path := range askedToday {
		if e, bad := v.Errors[path]; bad {
			out = append(out, e.Label+": "+e.ForPage())
		}
	}
	return out
}

// Strip is the dough from bowl to pot.
func (v todayView) Strip() plan.Strip { return v.Plan.Summary().Strip }

// Parts are the answer, in the order of work.
func (v todayView) Parts() []todayPart {
	p, in := v.Plan, v.In
	f, r := &p.Formula, &p.Room
	held, eggs, water := "", in.Grams(f.Pick.EggG)+" beaten", "none"
	if g := math.Round(f.HeldBackG); g > 0 {
		held = in.Whole(g) + " of it held back"
	}
	if f.Pick.EggG == 0 {
		eggs = ""
	}
	if g := math.Round(r.PourG); g > 0 {
		water = in.Whole(g)
	}
	stand := ""
	if g := math.Round(r.KeepG); g > 0 {
		stand = in.Whole(g) + " by the board"
	}
	rest := "wrapped"
	if p.Request.Rest.At == request.InFridge {
		rest = "in the fridge"
	}
	count := strings.TrimSuffix(strings.TrimSuffix(p.EggWords(), " eggs"), " egg")
	if f.Pick.Beaten {
		count, eggs = in.Grams(f.Pick.EggG), "beaten and weighed"
	}
	return []todayPart{
		{"flour", in.Grams(r.FlourG), held},
		{"eggs", count, eggs},
		{strings.ToLower(p.TopWord()), water, stand},
		{"knead", measure.Minutes(p.Knead.Min), v.kneaded()},
		{"rest", measure.Minutes(p.Rest.Min), rest},
		v.rolled(),
		v.cutPart(),
		{"cook", "from " + measure.MinSec(p.Cook.FromS), fmt.Sprintf("%s, %s of salt", in.L(p.Cook.InPotL, 1),
			in.Grams(p.Cook.InPotG))},
	}
}

// kneaded is how the dough tells that it is kneaded.
func (v todayView) kneaded() (words string) {
	for _, s := range v.Plan.Steps {
		if strings.HasPrefix(s.Key, "knead.") && s.Test != "" {
			words = strings.TrimSuffix(s.Brief, ".")
		}
	}
	return words
}

// rolled is the part of the roller, or of the pin, or of ropes.
func (v todayView) rolled() todayPart {
	p := v.Plan
	switch {
	case p.Roped():
		return todayPart{"ropes", v.In.MM(p.Roll.WidthMM, measure.Shortest), measure.Plural(p.Roll.Pieces, "piece",
			"pieces")}
	case p.Pinned():
		return todayPart{"roll", v.In.MM(p.Roll.SheetMM, 2), "under the pin"}
	}
	said := fmt.Sprintf("to %s, %s", v.In.MM(p.Roll.SheetMM, 2), measure.Plural(p.Roll.Pieces, "piece", "pieces"))
	return todayPart{"roll", plan.StopWords(p.Roll.Passes), said}
}

// cutPart is the part of the cut.
func (v todayView) cutPart() todayPart {
	c := &v.Plan.Cut
	traits := c.Shape.Traits()
	switch {
	case traits.Lengths:
		return todayPart{"cut", v.In.MM(c.WidthMM, measure.Shortest), fmt.Sprintf("%s, %s",
			measure.Plural(c.Count, "ribbon", "ribbons"), measure.Plural(c.AllNests(), "nest", "nests"))}
	case traits.Sheets:
		return todayPart{"cut", measure.Plural(c.Count, "sheet", "sheets"), "cut later"}
	case c.Filling != nil:
		return todayPart{"fill", measure.Thousands(float64(c.Count)), v.In.Grams(v.Plan.Cut.FillTotalG) + " of filling"}
	}
	return todayPart{"cut", measure.Thousands(float64(c.Count)), "pieces"}
}

// Takes says how long it takes, of hands and in all.
func (v todayView) Takes() string {
	words := ""
	f, asked := &v.Plan.Formula, v.Plan.Request.Amount.Portions
	if math.Abs(f.Portions-asked) > .05*asked {
		words = fmt.Sprintf("Enough for %.1f portions, so that the eggs go in whole. ", f.Portions)
	}
	return words + fmt.Sprintf("About %s of hands, %s in all. Nothing is saved until you open it.",
		measure.Minutes(v.Plan.HandsMin()), measure.Minutes(v.Plan.SpanMin()))
}

// Warned are the warnings of the answer, in short.
func (v todayView) Warned() (out []string) {
	for _, n := range v.Plan.Notes {
		if n.Level == plan.Warning {
			out = append(out, n.Head)
		}
	}
	return out
}
