package plan

import (
	"fmt"
	"math"
	"strings"
	"time"

	"hollen/internal/core/measure"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/egg"
)

// ToWeigh is one line to weigh out or count, as it stands on the sheet for the bench.
type ToWeigh struct {
	What string
	Much string // "540 g", "9 eggs"
	Note string
}

// ToWeigh returns everything that is weighed out, in the order of work.
func (p *Plan) ToWeigh() []ToWeigh {
	f, r := &p.Formula, &p.Request
	var out []ToWeigh
	add := func(what, much, note string) { out = append(out, ToWeigh{what, much, note}) }
	for i, x := range f.Flours {
		note := ""
		if i == 0 {
			note = fmt.Sprintf("of all flour hold %s back", p.in.Grams(f.HeldBackG))
		}
		add(x.Name, p.in.Grams(x.Share*p.Room.FlourG), note)
	}
	switch {
	case f.Weighed():
		add("Egg, beaten", p.in.Grams(f.Pick.EggG), "about "+EggWords(f.Pick.Whole, f.Pick.Yolks))
	case f.Pick.Whole+f.Pick.Yolks > 0:
		note := ""
		if f.Pick.WhitesG > 0 {
			note = p.in.Grams(f.Pick.WhitesG) + " of white left over"
		}
		add("Eggs, "+p.EggClass().Name, EggWords(f.Pick.Whole, f.Pick.Yolks), strings.TrimSuffix(p.in.Grams(f.Pick.EggG-f.AlsoG)+" beaten; "+note, "; "))
	}
	if also := p.AlsoWords(); also != "" {
		add("With them", also, p.in.Grams(f.AlsoG))
	}
	pour, keep := math.Round(p.Room.PourG), math.Round(p.Room.KeepG)
	if r.Eggs.TopUp != egg.TopNone && pour+keep > 0 {
		note := ""
		switch {
		case pour == 0:
			pour, note = keep, "kept in reach, in case"
		case keep > 0:
			note = fmt.Sprintf("and %s by the board", p.in.Whole(keep))
		}
		add(measure.Capital(p.TopWord()), p.in.Whole(pour), note)
	}
	if f.SaltG > 0 {
		add("Salt", p.in.Grams(f.SaltG), "")
	}
	if f.OilG > 0 {
		add("Oil", p.in.Grams(f.OilG), "")
	}
	for _, a := range f.Additions {
		add(a.Name, p.in.Grams(a.MassG), "")
	}
	if g := p.Cut.FillTotalG; g > 0 {
		what := "Filling"
		if n := r.Cut.Filling.Name; n != "" {
			what = "Filling: " + n
		}
		add(what, p.in.Grams(g), p.in.Grams(p.fillEach())+" in each")
	}
	return out
}

// fillEach is the filling of one piece of the first filled shape, g.
func (p *Plan) fillEach() float64 {
	for _, x := range p.Cut.Parts() {
		if x.Filling != nil {
			return x.Filling.PieceG
		}
	}
	return 0
}

// CardStep is one step of the day on the sheet for the bench.
type CardStep struct {
	Head string
	Text string
	Min  float64
	From float64 // since the flour met the water, min
	At   string  // by the clock where a time to roll is wished for, otherwise hours and minutes since the start
}

// Card returns the steps from mixing to the pot, in as few words as hands at work read, with their
// times one after the other.
func (p *Plan) Card() []CardStep {
	var out []CardStep
	now := 0.
	start, err := time.Time{}, error(nil)
	clocked := p.Clock != nil
	if clocked {
		if start, err = measure.At(p.Clock.StartAt); err != nil {
			clocked = false
		}
	}
	add := func(head, text string, minutes float64) {
		at := fmt.Sprintf("%d:%02d", int(now+.5)/60, int(now+.5)%60)
		if clocked {
			at = measure.ClockWords(start.Add(time.Duration(math.Round(now))*time.Minute), start)
		}
		out = append(out, CardStep{head, text, minutes, now, at})
		now += minutes
	}
	for _, x := range p.Knead.Steps {
		if x.Min == 0 {
			continue // folded passes belong to rolling
		}
		text, _, more := strings.Cut(x.Test, ". ") // one test is enough for a glance
		if more {
			text += "."
		}
		if x.Rest {
			text = "Airtight. " + text
		}
		add(x.Head, strings.TrimSpace(text), x.Min)
	}
	c := &p.Cut
	switch {
	case p.Roped():
		add("Ropes", fmt.Sprintf("%s of %s, ropes of %s.", measure.Plural(p.Roll.Pieces, "piece", "pieces"), p.in.Grams(p.Roll.PieceG), p.in.MM(p.Roll.WidthMM, measure.Shortest)), p.Roll.MinutesAll)
	default:
		text := fmt.Sprintf("%s of %s, to %s, %s long.", measure.Plural(p.Roll.Pieces, "piece", "pieces"), p.in.Grams(p.Roll.PieceG), p.in.MM(p.Roll.SheetMM, 2), p.in.MM(p.Roll.LengthMM, 0))
		if p.Roll.Folds > 0 {
			text = fmt.Sprintf("%s First %s at the widest.", text, measure.Plural(p.Roll.Folds, "folded pass", "folded passes"))
		}
		add("Roll", text, p.Roll.MinutesAll)
	}
	if p.Dry.Purpose != cut.NoDrying && p.Dry.Leather.Will && c.Shape.Family == cut.Ribbon {
		add("To leather", fmt.Sprintf("Right from %.0f to %.0f min: bends, does not stick.", p.Dry.Leather.FromMin, p.Dry.Leather.ToMin), p.Dry.Leather.FromMin)
	}
	for _, x := range c.Parts() {
		add(map[cut.Family]string{cut.Ribbon: "Cut", cut.Piece: "Cut", cut.Filled: "Fill and close", cut.Formed: "Form"}[x.Shape.Family], p.cutCard(x), x.CutMin)
	}
	switch k := &p.Keep; {
	case k.Where == cook.Fridge:
		add("Keep", fmt.Sprintf("Covered at %s or less.", p.in.C(5, 0)), 0)
	case k.Where == cook.Freezer:
		add("Freeze", "On the tray until hard, then bagged, air out, dated.", 0)
	case k.Where == cook.Shelf:
		add("Dry", fmt.Sprintf("In moving air to %s, weighed every hour or two.", p.in.Grams(p.Dry.ToKeep.TargetG)), 0)
	}
	from := "Taste from " + measure.MinSec(p.Cook.FromS)
	for _, x := range p.Cook.Also {
		from += fmt.Sprintf(", %s %s", strings.ToLower(x.Shape), measure.MinSec(x.FromS))
	}
	add("Cook", fmt.Sprintf("%s. %s and %s of salt for all, %s.", from, p.in.L(p.Cook.WaterL, 1), p.in.Grams(p.Cook.SaltG), measure.Plural(p.Cook.Lots, "lot", "lots")), 0)
	return out
}

// cutCard is the cut of a part in a line.
func (p *Plan) cutCard(x *CutPart) string {
	name := strings.ToLower(x.Shape.Name)
	switch {
	case x.Count == 0:
		return "None fits: " + name + "."
	case x.Shape.Family == cut.Ribbon:
		how := fmt.Sprintf("rolled up %s wide, %d knife cuts", p.in.MM(x.FoldMM, measure.Shortest), x.KnifeCuts)
		if x.Cutter != nil {
			how = "cutter, test strip first"
		}
		return fmt.Sprintf("%s: %s of %s, %s; %d across, %d to a nest.", measure.Capital(name), measure.Plural(x.Along, "length", "lengths"), p.in.MM(x.LengthMM, 0), how, x.Across, x.PerNest)
	case x.Shape.Family == cut.Formed:
		return fmt.Sprintf("%s: slices of %s, %s.", measure.Capital(name), p.in.MM(x.Rope.SliceMM, 0), measure.Plural(x.Count, "piece", "pieces"))
	case x.Shape.Close == cut.TwoSheets:
		return fmt.Sprintf("%s of %s: %d from a pair of sheets, %d in all, %s in each.", measure.Capital(name), p.in.MM(x.Shape.WidthMM, measure.Shortest), x.PerSheet, x.Count, p.in.Grams(x.Filling.PieceG))
	case x.Filling != nil:
		return fmt.Sprintf("%s of %s: %d from a sheet, %d in all, %s in each.", measure.Capital(name), p.in.MM(x.Shape.WidthMM, measure.Shortest), x.PerSheet, x.Count, p.in.Grams(x.Filling.PieceG))
	}
	return fmt.Sprintf("%s of %s: %d from a sheet, %d in all.", measure.Capital(name), p.in.Joined(" × ", measure.MM, measure.Shortest, x.Shape.WidthMM, x.Shape.Long()), x.PerSheet, x.Count)
}

// Code is the batch code that stands on sheet and label: the day it is made and the number of
// the batch, "281126-7"; only the number where the day is not said.
func (p *Plan) Code(id uint64) string {
	if t, err := time.Parse(time.DateOnly, p.Request.MadeOn); err == nil {
		return fmt.Sprintf("%s-%d", t.Format("020106"), id)
	}
	return fmt.Sprint(id)
}
