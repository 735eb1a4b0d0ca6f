package batch

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/store"
	"hollen/internal/web/form"
	"hollen/internal/web/page"
)

// compareView is two plans side by side: two batches, or one batch in two rooms.
type compareView struct {
	A, B         *plan.Plan
	AID          uint64
	Find         string // what the lists were narrowed to
	Other        string // key of what B is: another batch, or the same in another room
	Batches      []request.Option
	Others       []request.Option
	RH, Temp     Control
	Asked        []request.Change // what was asked differently
	Figures      []comparedRow    // what comes out differently
	Same         int              // figures that come out the same
	NameA, NameB string
}

// comparedRow is one figure of both plans.
type comparedRow struct {
	Station, Label, A, B, WhyA, WhyB string
	New                              bool // the first row of its station
}

// otherRoom is the key of the choice "the same batch in another room".
const otherRoom = "room"

// comparedFigures are the figures set side by side, in the order of work. A figure's reason
// goes by its key.
var comparedFigures = []struct {
	stage request.Stage
	label string
	why   string
	of    func(*plan.Plan) string
}{
	{request.AtFormula, "Flour", "formula.flour", func(p *plan.Plan) string { return p.In().Grams(p.Formula.FlourG) }},
	{request.AtFormula, "Eggs", "formula.eggs", func(p *plan.Plan) string { return p.EggWords() }},
	{request.AtFormula, "Egg mass", "", func(p *plan.Plan) string { return p.In().Grams(p.Formula.Pick.EggG) }},
	{request.AtFormula, "Top-up", "room.water", func(p *plan.Plan) string {
		return p.In().Grams(p.Formula.TopG) + " " +
			p.TopWord()
	}},
	{request.AtFormula, "Goes in besides", "formula.additions", func(p *plan.Plan) string {
		out := []string{}
		for _, a := range p.Formula.Additions {
			out = append(out, p.In().Grams(a.MassG)+" "+strings.ToLower(a.Name))
		}
		return orWord(strings.Join(out, ", "), "nothing")
	}},
	{request.AtFormula, "Working hydration", "formula.hw", func(p *plan.Plan) string {
		return fmt.Sprintf("%.1f",
			p.Formula.Dough.Hw)
	}},
	{request.AtFormula, "Target", "formula.band", func(p *plan.Plan) string {
		return fmt.Sprintf("%.1f",
			p.Formula.Target.Hw)
	}},
	{request.AtFormula, "Dough", "formula.dough", func(p *plan.Plan) string {
		return p.In().Grams(
			p.Formula.Dough.MassG)
	}},
	{request.AtFormula, "Fat, of flour", "", func(p *plan.Plan) string {
		return fmt.Sprintf("%.1f %%",
			p.Formula.Dough.FatPct)
	}},
	{request.AtFormula, "Portions", "formula.yield", func(p *plan.Plan) string {
		return fmt.Sprintf("%.1f",
			p.Formula.Portions)
	}},
	{request.AtFormula, "Colour", "formula.colour", func(p *plan.Plan) string { return p.Formula.Colour.Words }},
	{request.AtFormula, "Costs", "", func(p *plan.Plan) string {
		if len(p.Cost.Lines) == 0 {
			return "not priced"
		}
		return fmt.Sprintf("%s %s, %s a portion", p.Cost.Currency, p.Cost.Total.Rounded(), p.Cost.PerPortion.Rounded())
	}},
	{request.AtRoom, "Flour’s moisture", "room.moisture", func(p *plan.Plan) string {
		return fmt.Sprintf("%.1f %%",
			100*p.Formula.Blend.MoistureWB)
	}},
	{request.AtRoom, "Lost on the board", "room.loss", func(p *plan.Plan) string {
		return p.In().Grams(
			p.Room.BoardLossG)
	}},
	{request.AtRoom, "By the board", "room.water", func(p *plan.Plan) string { return p.In().Whole(p.Room.KeepG) }},
	{request.AtRoom, "Comes together at", "room.contact", func(p *plan.Plan) string {
		return p.In().C(p.Room.ContactC,
			0)
	}},
	{request.AtKnead, "Knead", "knead.min", kneadKey},
	{request.AtKnead, "From flour to the roller", "knead.school", func(p *plan.Plan) string {
		return measure.Minutes(
			p.Knead.Way.ElapsedMin)
	}},
	{request.AtRest, "Rest", "rest.min", func(p *plan.Plan) string { return measure.Minutes(p.Rest.Min) }},
	{request.AtRest, "Tension left", "rest.min", func(p *plan.Plan) string {
		return fmt.Sprintf("%.0f %%",
			100*p.Rest.T)
	}},
	{request.AtRoll, "Last stop", "roll.sheet", func(p *plan.Plan) string { return p.Roll.TargetStop }},
	{request.AtRoll, "Sheet", "roll.sheet", func(p *plan.Plan) string { return p.In().MM(p.Roll.SheetMM, 2) }},
	{request.AtRoll, "Passes", "roll.mode", func(p *plan.Plan) string { return fmt.Sprint(len(p.Roll.Passes)) }},
	{request.AtRoll, "A piece takes", "", func(p *plan.Plan) string { return measure.MinSec(60 * p.Roll.TimeMin) }},
	{request.AtRoll, "A sheet is long", "", func(p *plan.Plan) string { return p.In().Long(p.Roll.LengthMM) }},
	{request.AtRoll, "Pieces", "roll.pieces", func(p *plan.Plan) string {
		return fmt.Sprintf("%d of %s", p.Roll.Pieces, p.In().Grams(p.Roll.PieceG))
	}},
	{request.AtRoll, "At the roller", "roll.time", func(p *plan.Plan) string {
		return measure.Minutes(
			p.Roll.MinutesAll)
	}},
	{request.AtCut, "Cut", "cut.ribbons", func(p *plan.Plan) string {
		return fmt.Sprintf("%s of %s", measure.Plural(p.Cut.Count, p.Cut.One(), p.Cut.Many()),
			p.In().Long(p.Cut.LengthMM))
	}},
	{request.AtCut, "Trimmings", "cut.trim", func(p *plan.Plan) string { return p.In().Grams(p.Cut.AllTrimG) }},
	{request.AtDry, "Cuts cleanly", "dry.window", dryKey},
	{request.AtDry, "A nest holds", "dry.nest", func(p *plan.Plan) string {
		if !p.Dry.Nest.Will {
			return "not here"
		}
		return fmt.Sprintf("%.0f–%.0f min", p.Dry.Nest.FromMin, p.Dry.Nest.ToMin)
	}},
	{request.AtDry, "Out of the fridge by then", "dry.warm", func(p *plan.Plan) string {
		return measure.Minutes(
			p.Dry.OutMin)
	}},
	{request.AtCook, "In the pot", "cook.time", func(p *plan.Plan) string { return measure.MinSec(p.PotS()) }},
}

// set fills the rows from both plans.
func (v *compareView) set() {
	v.Asked = request.ChangesIn(v.A.In(), v.A.Request, v.B.Request)
	station := request.Stage("")
	for _, f := range comparedFigures {
		a, b := f.of(v.A), f.of(v.B)
		if a == b {
			v.Same++
			continue
		}
		r := comparedRow{Station: stations[f.stage].name, Label: v.A.In().Prose(f.label), A: a, B: b,
			WhyA: v.A.Why[f.why], WhyB: v.B.Why[f.why],
			New: f.stage != station}
		if r.WhyA == r.WhyB {
			r.WhyB = ""
		}
		station = f.stage
		v.Figures = append(v.Figures, r)
	}
}

// compared is the batch of a key: "7", or "7v2" for batch 7 as version 2; otherwise where there is none.
func (s *Room) compared(ctx context.Context, key string, otherwise store.Batch) (store.Batch, error) {
	number, version, once := strings.Cut(key, "v")
	id, err := strconv.ParseUint(number, 10, 63)
	if err != nil {
		return s.Store.Get(ctx, otherwise.ID)
	}
	b, err := s.Store.Get(ctx, id)
	if n, errN := strconv.Atoi(version); once && errN == nil && err == nil {
		b, err = s.Store.Version(ctx, id, n)
	}
	if errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrDeleted) {
		return s.Store.Get(ctx, otherwise.ID)
	}
	return b, err
}

// name calls the two sides what tells them apart, and lists what else may be put there.
func (v *compareView) name(a, b store.Batch, rows []listRow) {
	v.NameA, v.NameB = a.Request.Name, b.Request.Name
	switch {
	case v.Other == otherRoom:
		v.NameA, v.NameB = roomWords(v.A), roomWords(v.B)
	case b.ID == a.ID:
		v.NameA, v.NameB = "Now", fmt.Sprintf("Version %d", b.Version)
		v.Others = append(v.Others, request.Option{Key: v.Other, Name: fmt.Sprintf("%s, version %d", b.Request.Name,
			b.Version)})
	}
	v.Others = append(v.Others, request.Option{Key: otherRoom, Name: "The same batch in another room"})
	for _, x := range rows {
		o := request.Option{Key: fmt.Sprint(x.ID), Name: x.Name}
		v.Batches, v.Others = append(v.Batches, o), append(v.Others, o)
	}
	if known := fmt.Sprint(b.ID); b.ID != a.ID && !slices.ContainsFunc(v.Others,
		func(o request.Option) bool { return o.Key == known }) {
		v.Others = append(v.Others, request.Option{Key: known, Name: b.Request.Name})
	}
	if known := fmt.Sprint(a.ID); !slices.ContainsFunc(v.Batches,
		func(o request.Option) bool { return o.Key == known }) {
		v.Batches = append(v.Batches, request.Option{Key: known, Name: a.Request.Name})
	}
}

// Compare shows two batches side by side, or one batch in its room and in another.
func (s *Room) Compare(c *page.Visit) error {
	ctx := c.Request.Context()
	words := queryOf(c.Request.URL.Query()).Words
	list, _, err := s.Store.List(ctx, store.Query{Words: words})
	if err == nil && len(list) == 0 && words != "" { // of what is not found, all
		list, _, err = s.Store.List(ctx, store.Query{})
	}
	if err != nil {
		return err
	}
	if len(list) == 0 {
		return page.Refuse(http.StatusNotFound, "There is nothing to compare yet.", "Make a batch first.")
	}
	a, err := s.compared(ctx, c.Query("a"), list[0])
	if err != nil {
		return err
	}
	b := a
	v := compareView{AID: a.ID, Find: words, Other: c.DefaultQuery("b", otherRoom)}
	if v.Other != otherRoom {
		if b, err = s.compared(ctx, v.Other, a); err != nil {
			return err
		}
		if b.Version == a.Version || b.ID != a.ID {
			v.Other = fmt.Sprint(b.ID)
		}
	}
	if b.ID == a.ID && b.Version == a.Version {
		v.Other = otherRoom
	}
	with, err := s.with(c, c.Units)
	if err != nil {
		return err
	}
	f, err := form.Saved(b.Request.Request, with)
	if v.Other == otherRoom {
		f, err = s.anotherRoom(b.Request.Request, c.Request.URL.Query(), with)
	}
	if err != nil {
		return s.FailPlan(c, b.ID, err)
	}
	view := newView(a.ID, a.Version, "", a.Request.Request, f)
	v.B = view.Plan
	v.RH = view.Control("room.rh").hinted("of the other room")
	v.Temp = view.Control("room.temp_c").hinted("of the other room")
	if v.A, err = plan.MakeIn(with.Shown, with.RulesOf(&a.Request.Request), a.Request.Request); err != nil {
		return s.FailPlan(c, a.ID, err)
	}
	v.name(a, b, s.rows(ctx, with.Shown, list))
	v.set()
	status := http.StatusOK
	if len(f.Errors) > 0 {
		status = http.StatusUnprocessableEntity
	}
	s.Render(c, status, "compare", "Compare", v)
	return nil
}

// anotherRoom is base in the room that was asked for, or in wet August when none was.
func (s *Room) anotherRoom(base request.Request, q url.Values, w form.With) (form.Form, error) {
	asked, usual := url.Values{}, url.Values{"room.rh": {"78"}, "room.temp_c": {"27"}}
	for path := range usual {
		if q.Has(path) {
			asked[path] = q[path]
			usual.Del(path)
		}
	}
	asked.Set("set", usual.Encode())
	return form.Bind(base, asked, w, s.Now())
}

// orWord returns s, or a word when it is empty.
func orWord(s, word string) string {
	if s == "" {
		return word
	}
	return s
}

func roomWords(p *plan.Plan) string {
	r := &p.Request
	return fmt.Sprintf("%s at %s and %.0f %%", r.Name, p.In().C(r.Room.TempC, 0), 100*r.Room.RH)
}
