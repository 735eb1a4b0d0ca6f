package plan

import (
	"fmt"
	"math"
	"strings"
	"time"

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
			note = fmt.Sprintf("of all flour hold %s back", Grams(f.HeldBackG))
		}
		add(x.Name, Grams(x.Share*p.Room.FlourG), note)
	}
	switch {
	case f.Weighed():
		add("Egg, beaten", Grams(f.Pick.EggG), "about "+EggWords(f.Pick.Whole, f.Pick.Yolks))
	case f.Pick.Whole+f.Pick.Yolks > 0:
		note := ""
		if f.Pick.WhitesG > 0 {
			note = Grams(f.Pick.WhitesG) + " of white left over"
		}
		add("Eggs, "+p.EggClass().Name, EggWords(f.Pick.Whole, f.Pick.Yolks), strings.TrimSuffix(Grams(f.Pick.EggG-f.AlsoG)+" beaten; "+note, "; "))
	}
	if also := p.AlsoWords(); also != "" {
		add("With them", also, Grams(f.AlsoG))
	}
	pour, keep := math.Round(p.Room.PourG), math.Round(p.Room.KeepG)
	if r.Eggs.TopUp != egg.TopNone && pour+keep > 0 {
		note := ""
		switch {
		case pour == 0:
			pour, note = keep, "kept in reach, in case"
		case keep > 0:
			note = fmt.Sprintf("and %s g by the board", Thousands(keep))
		}
		add(capital(p.TopWord()), Thousands(pour)+" g", note)
	}
	if f.SaltG > 0 {
		add("Salt", Grams(f.SaltG), "")
	}
	if f.OilG > 0 {
		add("Oil", Grams(f.OilG), "")
	}
	for _, a := range f.Additions {
		add(a.Name, Grams(a.MassG), "")
	}
	if g := p.Cut.FillTotalG; g > 0 {
		what := "Filling"
		if n := r.Cut.Filling.Name; n != "" {
			what = "Filling: " + n
		}
		add(what, Grams(g), Grams(p.fillEach())+" in each")
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
		if start, err = At(p.Clock.StartAt); err != nil {
			clocked = false
		}
	}
	add := func(head, text string, minutes float64) {
		at := fmt.Sprintf("%d:%02d", int(now+.5)/60, int(now+.5)%60)
		if clocked {
			at = ClockWords(start.Add(time.Duration(math.Round(now))*time.Minute), start)
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
		add("Ropes", fmt.Sprintf("%s of %s, ropes of %g mm.", Plural(p.Roll.Pieces, "piece", "pieces"), Grams(p.Roll.PieceG), p.Roll.WidthMM), p.Roll.MinutesAll)
	default:
		text := fmt.Sprintf("%s of %s, to %.2f mm, %.0f mm long.", Plural(p.Roll.Pieces, "piece", "pieces"), Grams(p.Roll.PieceG), p.Roll.SheetMM, p.Roll.LengthMM)
		if p.Roll.Folds > 0 {
			text = fmt.Sprintf("%s First %s at the widest.", text, Plural(p.Roll.Folds, "folded pass", "folded passes"))
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
		add("Keep", "Covered at 5 °C or less.", 0)
	case k.Where == cook.Freezer:
		add("Freeze", "On the tray until hard, then bagged, air out, dated.", 0)
	case k.Where == cook.Shelf:
		add("Dry", fmt.Sprintf("In moving air to %s, weighed every hour or two.", Grams(p.Dry.ToKeep.TargetG)), 0)
	}
	from := "Taste from " + MinSec(p.Cook.FromS)
	for _, x := range p.Cook.Also {
		from += fmt.Sprintf(", %s %s", strings.ToLower(x.Shape), MinSec(x.FromS))
	}
	add("Cook", fmt.Sprintf("%s. %.1f L and %s of salt for all, %s.", from, p.Cook.WaterL, Grams(p.Cook.SaltG), Plural(p.Cook.Lots, "lot", "lots")), 0)
	return out
}

// cutCard is the cut of a part in a line.
func (p *Plan) cutCard(x *CutPart) string {
	name := strings.ToLower(x.Shape.Name)
	switch {
	case x.Count == 0:
		return "None fits: " + name + "."
	case x.Shape.Family == cut.Ribbon:
		how := fmt.Sprintf("rolled up %g mm wide, %d knife cuts", x.FoldMM, x.KnifeCuts)
		if x.Cutter != nil {
			how = "cutter, test strip first"
		}
		return fmt.Sprintf("%s: %s of %.0f mm, %s; %d across, %d to a nest.", capital(name), Plural(x.Along, "length", "lengths"), x.LengthMM, how, x.Across, x.PerNest)
	case x.Shape.Family == cut.Formed:
		return fmt.Sprintf("%s: slices of %.0f mm, %s.", capital(name), x.Rope.SliceMM, Plural(x.Count, "piece", "pieces"))
	case x.Shape.Close == cut.TwoSheets:
		return fmt.Sprintf("%s of %g mm: %d from a pair of sheets, %d in all, %s in each.", capital(name), x.Shape.WidthMM, x.PerSheet, x.Count, Grams(x.Filling.PieceG))
	case x.Filling != nil:
		return fmt.Sprintf("%s of %g mm: %d from a sheet, %d in all, %s in each.", capital(name), x.Shape.WidthMM, x.PerSheet, x.Count, Grams(x.Filling.PieceG))
	}
	return fmt.Sprintf("%s of %g × %g mm: %d from a sheet, %d in all.", capital(name), x.Shape.WidthMM, x.Shape.Long(), x.PerSheet, x.Count)
}

// Code is the batch code that stands on sheet and label: the day it is made and the number of
// the batch, "281126-7"; only the number where the day is not said.
func (p *Plan) Code(id uint64) string {
	if t, err := time.Parse(time.DateOnly, p.Request.MadeOn); err == nil {
		return fmt.Sprintf("%s-%d", t.Format("020106"), id)
	}
	return fmt.Sprint(id)
}
