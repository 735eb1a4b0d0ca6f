package plan

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/measure"
	"hollen/internal/core/request"

	"hollen/internal/core/cut"
)

// One and Many are what a cut of the part is called.
func (x *CutPart) One() string {
	if x.Shape.Family == cut.Ribbon {
		return "ribbon"
	}
	return "piece"
}

// Many is One, more than one.
func (x *CutPart) Many() string { return x.One() + "s" }

// Crumb says whether the last nest is so short that its ribbons go into the others.
func (x *CutPart) Crumb() bool { return x.Nests > 0 && 5*x.LastNest < x.PerNest }

// AllNests returns the nests, the short one included unless its ribbons go into the others.
func (x *CutPart) AllNests() int {
	if x.LastNest > 0 && !x.Crumb() {
		return x.Nests + 1
	}
	return x.Nests
}

// SharedWords returns the shapes of a mixed batch and their sheets: "tagliatelle 5 sheets, 6.1
// portions; …".
func (p *Plan) SharedWords() string {
	var out []string
	for _, x := range p.Cut.Parts() {
		out = append(out, fmt.Sprintf("%s %s, %.1f portions", strings.ToLower(x.Shape.Name), measure.Plural(x.Sheets, "sheet", "sheets"), x.Portions))
	}
	return strings.Join(out, "; ")
}

// explainCut gives the reasons of the cut.
func (p *Plan) explainCut(say func(key, format string, a ...any)) {
	o, c, ru := &p.Roll, &p.Cut, &p.rules.Cut
	use, sheets := c.SheetWidthMM-2*ru.TrimSideMM, measure.Plural(c.Sheets, "sheet", "sheets")
	switch {
	case c.Shape.Family == cut.Formed:
		say("cut.across", "Slices of %s of a %s rope, %s each.", p.in.MM(c.Rope.SliceMM, 0), p.in.MM(c.Rope.DiameterMM, measure.Shortest), p.in.Grams(c.OneG))
		say("cut.ribbons", "%s of dough at %s; %s of rope in all.", p.in.Grams(c.DoughG), p.in.Grams(c.OneG), p.in.M(c.Rope.LengthM, 1))
		say("cut.trim", "Less than one piece.")
		say("cut.forming", "%g seconds a piece, in practised hands; cover the ropes that wait.", ru.FormedS)
		say("cut.nests", "%.1f portions of %s.", c.Portions, p.in.Grams(c.PortionG))
	case c.Count == 0:
		why := fmt.Sprintf("A sheet of %s has no room for %s.", p.in.Joined(" × ", measure.MM, measure.Shortest, math.Round(c.SheetLengthMM), c.SheetWidthMM), p.in.Joined(" × ", measure.MM, measure.Shortest, c.Shape.WidthMM, max(c.MinMM, c.Shape.Long())))
		for _, k := range []string{"cut.across", "cut.ribbons", "cut.nests", "cut.trim"} {
			say(k, "%s", why)
		}
	case c.Shape.Family == cut.Ribbon:
		say("cut.across", "%s less %s each side leaves %s, room for %d at %s.", p.in.MM(c.SheetWidthMM, measure.Shortest), p.in.MM(ru.TrimSideMM, measure.Shortest), p.in.MM(use, measure.Shortest), c.Across, p.in.MM(c.WidthMM, measure.Shortest))
		if k := c.Cutter; k != nil && k.WidthMM < use {
			say("cut.across", "Of %s the cutter takes %s, room for %d at %s.", p.in.MM(c.SheetWidthMM, measure.Shortest), p.in.MM(k.WidthMM, measure.Shortest), c.Across, p.in.MM(c.WidthMM, measure.Shortest))
		}
		say("cut.ribbons", "%d across, %s, %s. Each weighs %s.", c.Across, measure.Plural(c.Along, "length", "lengths"), sheets, p.in.G(c.OneG, 1))
		short := ": it comes out even."
		if c.LastNest > 0 {
			short = fmt.Sprintf(", and a short one of %d, %s.", c.LastNest, p.in.Grams(float64(c.LastNest)*c.OneG))
			if c.Crumb() {
				short = fmt.Sprintf(", and %d over, for any of them.", c.LastNest)
			}
		}
		say("cut.nests", "%s make a nest of %s: %s%s", measure.Plural(c.PerNest, "ribbon", "ribbons"), p.in.Grams(c.NestG), measure.Plural(c.Nests, "nest", "nests"), short)
		say("cut.trim", "%s off each end and %s off each side: %.1f %% of the sheet.", p.in.MM(c.EndTrimMM, 1), p.in.MM(c.SideTrimMM, 1), 100*c.TrimG/(c.TrimG+c.DoughG))
	default:
		how := "in a grid"
		switch asked := p.Request.Cut.Pattern; {
		case c.Pattern == cut.Staggered && asked == cut.Staggered:
			how = "staggered"
		case c.Pattern == cut.Staggered:
			how = "staggered, which gives more than a grid"
		case asked == cut.Staggered && c.Shape.Outline == cut.Round:
			how = "in a grid, since staggered gives no more here"
		}
		say("cut.across", "%d along, %s across, %s: %d from a sheet.", c.Along, measure.Plural(c.Across, "row", "rows"), how, c.PerSheet)
		if c.Shape.Close == cut.TwoSheets {
			say("cut.across", "%d along, %s across, %s: %d from a pair of sheets.", c.Along, measure.Plural(c.Across, "row", "rows"), how, c.PerSheet)
		}
		say("cut.ribbons", "%d from each of %s; %s of dough in each.", c.PerSheet, sheets, p.in.Grams(c.OneG))
		if c.Shape.Close == cut.TwoSheets {
			odd := ""
			if c.Sheets%2 == 1 {
				odd = fmt.Sprintf(" and %d from the odd one, halved and laid on itself", c.Count-c.PerSheet*(c.Sheets/2))
			}
			say("cut.ribbons", "%d from each of %s%s; %s of dough in each.", c.PerSheet, measure.Plural(c.Sheets/2, "pair", "pairs"), odd, p.in.Grams(c.OneG))
		}
		say("cut.nests", "%.0f to a portion of %s.", math.Round(c.PortionG*float64(c.Count)/c.MadeG), p.in.Grams(c.PortionG))
		say("cut.trim", "What lies between and round the pieces: %.1f %% of the sheets.", 100*c.TrimG/(c.TrimG+c.DoughG))
	}
	if f := c.Filling; f != nil {
		say("cut.filling", "A heap %s high inside a seam of %s; %s in all pieces.", p.in.MM(f.HeightMM, 0), p.in.MM(cut.SeamMM(*ru, c.Shape.WidthMM)/2, 0), p.in.Grams(c.FillG))
		say("cut.fill_total", "%s in the pieces and %.0f %% over for what stays in bag and bowl.", p.in.Grams(c.AllFillG), 100*ru.FillMargin)
		say("cut.seal", "Air left inside grows in the pot and opens the seam.")
		say("cut.seam", "Two sheets of %s; up to %s the edge cooks with the rest.", p.in.MM(o.SheetMM, 2), p.in.MM(ru.SeamMaxMM, 1))
	}
	switch {
	case c.Tool == cut.Knife && c.Shape.Family == cut.Ribbon && c.Count > 0:
		say("cut.tool", "Dust, roll each length up loosely %s wide, %s thick, and make %d cuts; unroll at once.", p.in.MM(c.FoldMM, measure.Shortest), measure.Plural(c.Layers, "layer", "layers"), c.KnifeCuts)
	case c.Cutter != nil:
		say("cut.tool", "Suits sheets of %s; yours is %s. A test strip first: too thick does not separate, too thin mats.", p.in.Joined(" to ", measure.MM, measure.Shortest, c.Cutter.FromMM, c.Cutter.ToMM), p.in.MM(o.SheetMM, 2))
	default:
		say("cut.tool", "%s", strings.TrimSpace(map[cut.Tool]string{cut.Wheel: fmt.Sprintf("A wheel takes %s between pieces.", p.in.MM(ru.WheelGapMM, measure.Shortest)), cut.Ring: "Twist the ring, do not saw.", cut.Hand: "", cut.Knife: "Straight down, the blade dusted."}[c.Tool]+" "+c.Shape.How))
	}
	if len(c.Also) > 0 {
		say("cut.also", "%s. Whole sheets, shared so that no shape falls shorter than it must.", measure.Capital(p.SharedWords()))
	}
	say("cut.scraps", "%s", p.scrapWords())
}

// scrapWords says what becomes of the trimmings.
func (p *Plan) scrapWords() string {
	c := &p.Cut
	switch p.Request.Cut.Scraps {
	case request.SoupBag:
		return fmt.Sprintf("%s into the soup bag, dusted, at {−18 °C} with the date on it.", p.in.Grams(c.AllTrimG))
	case request.WorkedBack:
		b := &c.Back
		return fmt.Sprintf("Up to %.0f %% of each next piece, twice at most, same colour, under film until then: %s goes back and gives about %s more, not counted above; %s stays over.", 100*p.rules.Cut.BackShare, p.in.Grams(b.BackG), p.in.Grams(b.MoreG), p.in.Grams(b.LeftG))
	}
	return fmt.Sprintf("As maltagliati they are %.1f portions in broth.", c.ScrapPortions)
}

// PurposeWords says what drying is for, by the shape.
func (p *Plan) PurposeWords() string {
	hold := "To hold its shape: firm to the touch before it is moved."
	if p.shape.Family == cut.Ribbon {
		hold = "To hold its shape: wind the nests at leather and let them firm up."
	}
	return map[string]string{
		cut.HoldShape: hold,
		cut.Handle:    "To be handled: until the pieces no longer stick to each other.",
		cut.ForCutter: "For the cutter: it mats what is too moist and breaks what is too dry.",
		cut.NoDrying:  "None needed: straight to the pot is fine.",
	}[p.Dry.Purpose]
}

// explainDry gives the reasons of drying and keeping.
func (p *Plan) explainDry(say func(key, format string, a ...any)) {
	d, ru := &p.Dry, &p.rules.Dry
	if d.Leather.Will {
		say("dry.window", "%.1f g/m³ between dough and air takes %.2f %% of the sheet a minute; %.0f %% off and it cuts without sticking.", d.Rate.DeltaGM3, 100*d.Rate.PerMin, 100*d.Leather.Loss)
	} else {
		say("dry.window", "Only %.1f g/m³ between dough and air: it will not dry here in two hours.", max(0, d.Rate.DeltaGM3))
	}
	say("dry.close", "On the board, one face open: with %.0f %% gone the seam no longer takes; damp it, or cover what waits.", 100*ru.CutLoss)
	if d.Nest.Will {
		say("dry.nest", "%.0f %% of the mass gone: a wound nest keeps its form.", 100*d.Nest.Loss)
	} else {
		say("dry.nest", "%.0f %% of the mass would have to go; this air does not take it in two hours.", 100*d.Nest.Loss)
	}
	say("dry.brittle", "From %.0f %% of the mass gone the edges no longer bend.", 100*d.Brittle.Loss)
	say("dry.warm", "Mixing, kneading, the warm part of the rest, rolling, drying and cutting, one after the other.")
	if d.Covered.Will {
		say("dry.covered", "Under a damp cloth or film: then it is at leather all the same.")
	} else {
		say("dry.covered", "Under a damp cloth or film it loses %.0f %% of what it would on a rack.", 100*ru.CoverFaces/ru.RackFaces)
	}
	say("dry.space", "Sheets hung side by side, %s of rod. In one layer, not touching: %s of %s.", p.in.M(d.RodM, 1), measure.Plural(d.Trays, "tray", "trays"), p.in.Joined(" × ", measure.MM, measure.Shortest, ru.TrayLongMM, ru.TrayWideMM))
	if d.TrayEach == 0 && !p.Roped() {
		say("dry.space", "Sheets hung side by side, %s of rod. Too large for a tray of %s.", p.in.M(d.RodM, 1), p.in.Joined(" × ", measure.MM, measure.Shortest, ru.TrayLongMM, ru.TrayWideMM))
	} else if p.Roped() {
		say("dry.space", "In one layer, not touching: %s of %s, dusted.", measure.Plural(d.Trays, "tray", "trays"), p.in.Joined(" × ", measure.MM, measure.Shortest, ru.TrayLongMM, ru.TrayWideMM))
	}
	if k := d.ToKeep; k != nil {
		say("dry.keep", "%s raw with %.1f %% of water weigh this at %.1f %% moisture: raw · (1 − water) / %.3f.", p.in.Grams(k.RawG), 100*p.Formula.Dough.WaterShare, 100*ru.KeepWB, 1-ru.KeepWB)
	}
	k := &p.Keep
	switch {
	case k.Where == "":
		say("keep.use_by", "Cooked the same day.")
	case k.UseBy == "":
		say("keep.use_by", "%s; say when it is made and the date follows.", measure.DaysWords(k.FromDays, k.ToDays))
	case k.Own:
		say("keep.use_by", "%s by your own plan; %s is usual.", measure.Capital(measure.Days(k.Days)), measure.DaysWords(k.FromDays, k.ToDays))
	default:
		say("keep.use_by", "%s is usual, the later end counted; by this kitchen’s clock.", measure.Capital(measure.DaysWords(k.FromDays, k.ToDays)))
	}
}

// explainCook gives the reasons of the pot.
func (p *Plan) explainCook(say func(key, format string, a ...any)) {
	k, ru := &p.Cook, &p.rules.Cook
	text := fmt.Sprintf("%s cooks in about %s fresh, give or take %.0f %%. Taste from the early end.", p.in.MM(k.TeMM, 2), measure.MinSec(k.Seconds), 100*ru.Spread)
	if p.shape.Family == cut.Filled {
		text = fmt.Sprintf("%s at the seam, and the filling’s own need: about %s fresh, give or take %.0f %%.", p.in.MM(2*p.Roll.SheetMM, 2), measure.MinSec(k.Seconds), 100*ru.Spread)
	}
	if k.Loss > 0 {
		text += fmt.Sprintf(" Dried by %.0f %% it takes %s.", 100*k.Loss, measure.MinSec(k.DriedS))
	}
	say("cook.time", "%s", text)
	say("cook.frozen", "%.0f seconds more; straight from the freezer, not thawed.", ru.FrozenMoreS)
	say("cook.pan", "%.0f seconds less in the water, never under %s; the sauce does the rest.", ru.PanLessS, measure.MinSec(ru.BaseS))
	say("cook.pot", "%s of water and %s of salt to %s of pasta.", p.in.L(ru.WaterPerPasta/10, measure.Shortest), p.in.G(100*ru.SaltPerPasta, measure.Shortest), p.in.G(100, 0))
	say("cook.lots", "A pot of %s, %.0f %% full, takes %s at a time.", p.in.L(k.PotL, measure.Shortest), 100*ru.PotFill, p.in.Grams(k.PotL*ru.PotFill*1000/ru.WaterPerPasta))
}
