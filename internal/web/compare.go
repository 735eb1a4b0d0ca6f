package web

import (
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"

	"hollen/internal/core/plan"
	"hollen/internal/store"
)

// compareView is two plans side by side: two batches, or one batch in two rooms.
type compareView struct {
	A, B         *plan.Plan
	AID          uint64
	Other        string // key of what B is: another batch, or the same in another room
	Batches      []plan.Option
	Others       []plan.Option
	RH, Temp     Control
	Asked        []plan.Change // what was asked differently
	Figures      []comparedRow // what comes out differently
	Same         int           // figures that come out the same
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
	stage plan.Stage
	label string
	why   string
	of    func(*plan.Plan) string
}{
	{plan.AtFormula, "Flour", "formula.flour", func(p *plan.Plan) string { return plan.Grams(p.Formula.FlourG) }},
	{plan.AtFormula, "Eggs", "formula.eggs", func(p *plan.Plan) string { return p.EggWords() }},
	{plan.AtFormula, "Egg mass", "", func(p *plan.Plan) string { return plan.Grams(p.Formula.Pick.EggG) }},
	{plan.AtFormula, "Top-up", "room.water", func(p *plan.Plan) string { return plan.Grams(p.Formula.TopG) + " " + p.TopWord() }},
	{plan.AtFormula, "Goes in besides", "formula.additions", func(p *plan.Plan) string {
		out := []string{}
		for _, a := range p.Formula.Additions {
			out = append(out, plan.Grams(a.MassG)+" "+strings.ToLower(a.Name))
		}
		return orWord(strings.Join(out, ", "), "nothing")
	}},
	{plan.AtFormula, "Working hydration", "formula.hw", func(p *plan.Plan) string { return fmt.Sprintf("%.1f", p.Formula.Dough.Hw) }},
	{plan.AtFormula, "Target", "formula.band", func(p *plan.Plan) string { return fmt.Sprintf("%.1f", p.Formula.Target.Hw) }},
	{plan.AtFormula, "Dough", "formula.dough", func(p *plan.Plan) string { return plan.Grams(p.Formula.Dough.MassG) }},
	{plan.AtFormula, "Fat, of flour", "", func(p *plan.Plan) string { return fmt.Sprintf("%.1f %%", p.Formula.Dough.FatPct) }},
	{plan.AtFormula, "Portions", "formula.yield", func(p *plan.Plan) string { return fmt.Sprintf("%.1f", p.Formula.Portions) }},
	{plan.AtFormula, "Colour", "formula.colour", func(p *plan.Plan) string { return p.Formula.Colour.Words }},
	{plan.AtFormula, "Costs", "", func(p *plan.Plan) string {
		if len(p.Cost.Lines) == 0 {
			return "not priced"
		}
		return fmt.Sprintf("%s %s, %s a portion", p.Cost.Currency, p.Cost.Total.Rounded(), p.Cost.PerPortion.Rounded())
	}},
	{plan.AtRoom, "Flour’s moisture", "room.moisture", func(p *plan.Plan) string { return fmt.Sprintf("%.1f %%", 100*p.Formula.Blend.MoistureWB) }},
	{plan.AtRoom, "Lost on the board", "room.loss", func(p *plan.Plan) string { return plan.Grams(p.Room.BoardLossG) }},
	{plan.AtRoom, "By the board", "room.water", func(p *plan.Plan) string { return fmt.Sprintf("%.0f g", p.Room.KeepG) }},
	{plan.AtRoom, "Comes together at", "room.contact", func(p *plan.Plan) string { return fmt.Sprintf("%.0f °C", p.Room.ContactC) }},
	{plan.AtKnead, "Knead", "knead.min", func(p *plan.Plan) string { return plan.Minutes(p.Knead.Min) }},
	{plan.AtRest, "Rest", "rest.min", func(p *plan.Plan) string { return plan.Minutes(p.Rest.Min) }},
	{plan.AtRest, "Tension left", "rest.min", func(p *plan.Plan) string { return fmt.Sprintf("%.0f %%", 100*p.Rest.T) }},
	{plan.AtRoll, "Last stop", "roll.sheet", func(p *plan.Plan) string { return p.Roll.TargetStop }},
	{plan.AtRoll, "Sheet", "roll.sheet", func(p *plan.Plan) string { return fmt.Sprintf("%.2f mm", p.Roll.SheetMM) }},
	{plan.AtRoll, "Passes", "roll.mode", func(p *plan.Plan) string { return fmt.Sprint(len(p.Roll.Passes)) }},
	{plan.AtRoll, "Pieces", "roll.pieces", func(p *plan.Plan) string {
		return fmt.Sprintf("%d of %s", p.Roll.Pieces, plan.Grams(p.Roll.PieceG))
	}},
	{plan.AtRoll, "At the roller", "roll.time", func(p *plan.Plan) string { return plan.Minutes(p.Roll.MinutesAll) }},
	{plan.AtCut, "Cut", "cut.ribbons", func(p *plan.Plan) string {
		return fmt.Sprintf("%s of %.0f mm", plan.Plural(p.Cut.Count, p.Cut.One(), p.Cut.Many()), p.Cut.LengthMM)
	}},
	{plan.AtCut, "Trimmings", "cut.trim", func(p *plan.Plan) string { return plan.Grams(p.Cut.AllTrimG) }},
	{plan.AtDry, "Cuts cleanly", "dry.window", func(p *plan.Plan) string { return keyFigure(p, plan.AtDry) }},
	{plan.AtDry, "A nest holds", "dry.nest", func(p *plan.Plan) string {
		if !p.Dry.Nest.Will {
			return "not here"
		}
		return fmt.Sprintf("%.0f–%.0f min", p.Dry.Nest.FromMin, p.Dry.Nest.ToMin)
	}},
	{plan.AtDry, "Above 5 °C by then", "dry.warm", func(p *plan.Plan) string { return plan.Minutes(p.Dry.WarmMin) }},
	{plan.AtCook, "In the pot", "cook.time", func(p *plan.Plan) string { return plan.MinSec(p.PotS()) }},
}

// set fills the rows from both plans.
func (v *compareView) set() {
	v.Asked = plan.Changes(v.A.Request, v.B.Request)
	station := plan.Stage("")
	for _, f := range comparedFigures {
		a, b := f.of(v.A), f.of(v.B)
		if a == b {
			v.Same++
			continue
		}
		r := comparedRow{Station: stationNames[f.stage], Label: f.label, A: a, B: b, WhyA: v.A.Why[f.why], WhyB: v.B.Why[f.why], New: f.stage != station}
		if r.WhyA == r.WhyB {
			r.WhyB = ""
		}
		station = f.stage
		v.Figures = append(v.Figures, r)
	}
}

// compare shows two batches side by side, or one batch in its room and in another.
func (s *Server) compare(c *gin.Context) {
	ctx, cancel := bounded(c)
	defer cancel()
	list, _, err := s.store.List(ctx, 0)
	if err != nil {
		s.failStore(c, err)
		return
	}
	if len(list) == 0 {
		s.fail(c, http.StatusNotFound, "There is nothing to compare yet.", "Make a batch first.")
		return
	}
	find := func(key string, otherwise store.Batch) (store.Batch, error) {
		id, err := strconv.ParseUint(key, 10, 63)
		if err != nil {
			return otherwise, nil
		}
		b, err := s.store.Get(ctx, id)
		if errors.Is(err, store.ErrNotFound) || errors.Is(err, store.ErrDeleted) {
			return otherwise, nil
		}
		return b, err
	}
	a, err := find(c.Query("a"), list[0])
	if err != nil {
		s.failStore(c, err)
		return
	}
	b := a
	v := compareView{AID: a.ID, Other: c.DefaultQuery("b", otherRoom)}
	if v.Other != otherRoom {
		if b, err = find(v.Other, a); err != nil {
			s.failStore(c, err)
			return
		}
		v.Other = fmt.Sprint(b.ID)
	}
	if b.ID == a.ID {
		v.Other = otherRoom
	}
	f := asSaved(b.Request.Request, shownIn(c))
	if v.Other == otherRoom {
		f = anotherRoom(b.Request.Request, c.Request.URL.Query(), s.cabinet(c), shownIn(c))
	}
	view, err := newView(a.ID, a.Version, "", a.Request.Request, f)
	if err != nil {
		s.failPlan(c, b.ID, err)
		return
	}
	v.B, v.RH, v.Temp = view.Plan, view.Ctl("room.rh", "of the other room"), view.Ctl("room.temp_c", "of the other room")
	if v.A, err = plan.Make(a.Request.Request); err != nil {
		s.failPlan(c, a.ID, err)
		return
	}
	v.NameA, v.NameB = a.Request.Name, b.Request.Name
	if v.Other == otherRoom {
		v.NameA, v.NameB = roomWords(v.A.Request), roomWords(v.B.Request)
	}
	v.Others = append(v.Others, plan.Option{Key: otherRoom, Name: "The same batch in another room"})
	for _, x := range list {
		o := plan.Option{Key: fmt.Sprint(x.ID), Name: x.Request.Name}
		v.Batches, v.Others = append(v.Batches, o), append(v.Others, o)
	}
	if known := fmt.Sprint(a.ID); !slices.ContainsFunc(v.Batches, func(o plan.Option) bool { return o.Key == known }) {
		v.Batches = append(v.Batches, plan.Option{Key: known, Name: a.Request.Name})
	}
	v.set()
	status := http.StatusOK
	if len(f.Errors) > 0 {
		status = http.StatusUnprocessableEntity
	}
	s.render(c, status, "compare", "Compare", v)
}

// anotherRoom is base in the room that was asked for, or in wet August when none was.
func anotherRoom(base plan.Request, q url.Values, cab store.Cabinet, u system) form {
	asked, usual := url.Values{}, url.Values{"room.rh": {"78"}, "room.temp_c": {"27"}}
	for path := range usual {
		if q.Has(path) {
			asked[path] = q[path]
			usual.Del(path)
		}
	}
	asked.Set("set", usual.Encode())
	return bind(base, asked, cab, u)
}

// orWord returns s, or a word when it is empty.
func orWord(s, word string) string {
	if s == "" {
		return word
	}
	return s
}

func roomWords(r plan.Request) string {
	return strings.TrimSpace(fmt.Sprintf("%s at %.0f °C and %.0f %%", r.Name, r.Room.TempC, 100*r.Room.RH))
}
