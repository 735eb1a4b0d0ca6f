package log

import (
	"context"
	"fmt"
	"math"

	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
)

// otherwise is one figure that is another than last time, and why.
type otherwise struct{ Name, Was, Is, Why string }

// sinceLast are the figures of a making begun as an earlier one that are others by now: what has been learned since,
// and how the
// flour has been kept; none where the making cannot be read.
func (s *Room) sinceLast(ctx context.Context, in measure.System, id uint64) []otherwise {
	kept, err := s.Store.Making(ctx, id)
	if err != nil {
		return nil
	}
	r := kept.Request.Request
	was, err := plan.MakeIn(in, kept.Rules.Rules, r)
	if err != nil {
		return nil
	}
	if r.MadeOn != "" {
		r = r.Again(s.Today())
	}
	is, err := plan.MakeIn(in, s.RulesOf(ctx, &r), r)
	if err != nil {
		return nil
	}
	return otherwiseOf(in, was, is)
}

// otherwiseOf are the figures two plans differ in, each with the reason the newer one gives.
func otherwiseOf(in measure.System, was, is *plan.Plan) (out []otherwise) {
	add := func(name, a, b, code, field string) {
		if a == b {
			return
		}
		o := otherwise{Name: name, Was: a, Is: b, Why: is.Why[field]}
		for _, n := range is.Notes {
			if n.Code == code {
				o.Why = n.Head + " " + n.Text
			}
		}
		out = append(out, o)
	}
	points := func(v float64) string { return fmt.Sprintf("%.1f", v) }
	minutes := func(v float64) string { return measure.Minutes(math.Round(v)) }
	add("Hydration aimed at", points(was.Formula.Target.Hw), points(is.Formula.Target.Hw), "learned_hw", "formula.hw")
	add("Flour", in.Grams(was.Room.FlourG), in.Grams(is.Room.FlourG), "", "formula.flour")
	add("Eggs", was.EggWords(), is.EggWords(), "learned_hw", "formula.eggs")
	add(measure.Capital(is.TopWord())+" to pour", in.Grams(was.Room.PourG), in.Grams(is.Room.PourG), "learned_hw",
		"room.water")
	add(measure.Capital(is.TopWord())+" by the board", in.Grams(was.Room.KeepG), in.Grams(is.Room.KeepG), "learned_hw",
		"room.water")
	add("Kneading", minutes(was.Knead.Min), minutes(is.Knead.Min), "learned_knead", "knead.min")
	add("Rest", minutes(was.Rest.Min), minutes(is.Rest.Min), "learned_rest", "rest.min")
	add("Sheet", in.MM(was.Roll.SheetMM, 2), in.MM(is.Roll.SheetMM, 2), "learned_gap", "roll.sheet")
	add("Dried", was.DryWords(), is.DryWords(), "learned_dry", "dry.window")
	add("Taste from", measure.MinSec(math.Round(was.Cook.FromS)), measure.MinSec(math.Round(is.Cook.FromS)),
		"learned_cook", "cook.time")
	return out
}
