package plan

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// One and Many are what a cut of the part is called.
func (x *CutPart) One() string { return x.Shape.Traits().One }

// Many is One, more than one.
func (x *CutPart) Many() string { return x.Shape.Traits().Many }

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
		from := measure.Plural(x.Sheets, "sheet", "sheets")
		if x.Shape.Traits().Rope {
			from = p.in.Grams(x.DoughG+x.TrimG) + " of dough"
		}
		if out = append(out, fmt.Sprintf("%s %s, %.1f portions", strings.ToLower(x.Shape.Name), from,
			x.Portions)); x.Shape.Traits().Sheets {
			out[len(out)-1] = "left as sheets " + from
		}
	}
	return strings.Join(out, "; ")
}

// explainCut gives the reasons of the cut.
func (p *Plan) explainCut() {
	say := p.say
	o := &p.Roll
	c := &p.Cut
	ru := &p.rules.Cut
	if c.Count == 0 && !c.Shape.Traits().Rope {
		why := fmt.Sprintf("A sheet of %s has no room for %s.", p.in.Joined(" × ", measure.MM, measure.Shortest,
			measure.Near(c.SheetLengthMM),
			math.Round(c.SheetWidthMM)),
			p.in.Joined(" × ", measure.MM, measure.Shortest, c.Shape.WidthMM, max(c.MinMM, c.Shape.Long())))
		for _, k := range []string{"cut.across", "cut.ribbons", "cut.nests", "cut.trim"} {
			say(k, "%s", why)
		}
	} else {
		families[c.Shape.Family].explain(p)
	}
	if f := c.Filling; f != nil {
		say("cut.filling", "A heap %s high inside a seam of %s; %s in all pieces.", p.in.MM(f.HeightMM, 0),
			p.in.MM(cut.SeamMM(*ru, c.Shape.WidthMM)/2, 0),
			p.in.Grams(c.FillG))
		say("cut.fill_total", "%s in the pieces and %.0f %% over for what stays in bag and bowl.",
			p.in.Grams(c.AllFillG), 100*ru.FillMargin)
		if f.Yolks > 0 {
			say("cut.yolks", "One to each piece, whole: %s of it, beside the filling. Separate one or two over.",
				p.in.Grams(f.YolksG))
		}
		say("cut.seal", "Air left inside grows in the pot and opens the seam.")
		say("cut.seam", "Two sheets of %s; up to %s the edge cooks with the rest.", p.in.MM(o.SheetMM, 2),
			p.in.MM(ru.SeamMaxMM, 1))
	}
	switch {
	case c.Tool == cut.Knife && c.Shape.Traits().Lengths && c.Count > 0:
		say("cut.tool", "Dust, roll each length up loosely %s wide, %s thick, and make %d cuts; unroll at once.",
			p.in.MM(c.FoldMM, measure.Shortest),
			measure.Plural(c.Layers, "layer", "layers"), c.KnifeCuts)
	case c.Cutter != nil:
		say("cut.tool",
			"Suits sheets of %s; yours is %s. A test strip first: too thick does not separate, too thin mats.",
			p.in.Joined(" to ", measure.MM, measure.Shortest, c.Cutter.FromMM, c.Cutter.ToMM), p.in.MM(o.SheetMM, 2))
	default:
		say("cut.tool", "%s", strings.TrimSpace(map[cut.Tool]string{cut.Wheel: fmt.Sprintf(
			"A wheel takes %s between pieces.",
			p.in.MM(ru.WheelGapMM, measure.Shortest)), cut.Ring: "Twist the ring, do not saw.", cut.Hand: "",
			cut.Knife: "Straight down, the blade dusted."}[c.Tool]+" "+c.Shape.How))
	}
	if len(c.Also) > 0 {
		say("cut.also", "%s. Whole sheets, shared so that no shape falls shorter than it must.",
			measure.Capital(p.SharedWords()))
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
		return fmt.Sprintf("Up to %.0f %% of each next piece, twice at most, same colour, under film until then: %s "+
			"goes back and gives about %s "+
			"more, not counted above; %s stays over.", 100*p.rules.Cut.BackShare, p.in.Grams(b.BackG),
			p.in.Grams(b.MoreG), p.in.Grams(b.LeftG))
	}
	return fmt.Sprintf("As maltagliati they are %.1f portions in broth.", c.ScrapPortions)
}

// PurposeWords says what drying is for, by the shape.
func (p *Plan) PurposeWords() string {
	hold := "To hold its shape: firm to the touch before it is moved."
	if p.shape.Traits().Lengths {
		hold = "To hold its shape: wind the nests at leather and let them firm up."
	}
	return map[string]string{
		cut.HoldShape: hold,
		cut.Handle:    "To be handled: until the pieces no longer stick to each other.",
		cut.ForCutter: "For the cutter: it mats what is too moist and breaks what is too dry.",
		cut.NoDrying:  p.noDryingWords(),
	}[p.Dry.Purpose]
}

// noDryingWords say that a shape needs no drying, and what of it is planned all the same.
func (p *Plan) noDryingWords() string {
	if loss := p.Cook.Loss; loss > 0 {
		return fmt.Sprintf(
			"The shape needs none: straight to the pot is fine. As you cook it, it has lost %.0f %%.",
			100*loss,
		)
	}
	return "None needed: straight to the pot is fine."
}

// explainDry gives the reasons of drying and keeping.
func (p *Plan) explainDry() {
	say := p.say
	d, ru := &p.Dry, &p.rules.Dry
	if d.Leather.Will {
		say("dry.window", "%.1f g/m³ between dough and air takes %.2f %% of the sheet a minute; %.0f %% off and it "+
			"cuts without sticking.",
			d.Rate.DeltaGM3, 100*d.Rate.PerMin, 100*d.Leather.Loss)
	} else {
		say("dry.window", "Only %.1f g/m³ between dough and air: it will not dry here in two hours.", max(0,
			d.Rate.DeltaGM3))
	}
	say("dry.close", "On the board, one face open: with %.0f %% gone the seam no longer takes; damp it, or cover "+
		"what waits.", 100*ru.CutLoss)
	if d.Nest.Will {
		say("dry.nest", "%.0f %% of the mass gone: a wound nest keeps its form.", 100*d.Nest.Loss)
	} else {
		say("dry.nest", "%.0f %% of the mass would have to go; this air does not take it in two hours.",
			100*d.Nest.Loss)
	}
	say("dry.brittle", "From %.0f %% of the mass gone the edges no longer bend.", 100*d.Brittle.Loss)
	say("dry.warm",
		"Mixing, kneading, what rest is out of the fridge, rolling, drying and cutting, one after the other.")
	if d.Covered.Will {
		say("dry.covered", "Under a damp cloth or film: then it is at leather all the same.")
	} else {
		say("dry.covered", "Under a damp cloth or film it loses %.0f %% of what it would on a rack.",
			100*ru.CoverFaces/ru.RackFaces)
	}
	say("dry.space", "Sheets hung side by side, %s of rod. In one layer, not touching: %s of %s.", p.in.M(d.RodM, 1),
		measure.Plural(d.Trays, "tray", "trays"), p.in.Joined(" × ", measure.MM, measure.Shortest, ru.TrayLongMM,
			ru.TrayWideMM))
	if d.TrayEach == 0 && !p.Roped() {
		say("dry.space", "Sheets hung side by side, %s of rod. Too large for a tray of %s.", p.in.M(d.RodM, 1),
			p.in.Joined(" × ", measure.MM, measure.Shortest, ru.TrayLongMM, ru.TrayWideMM))
	} else if p.Roped() {
		say("dry.space", "In one layer, not touching: %s of %s, dusted.", measure.Plural(d.Trays, "tray", "trays"),
			p.in.Joined(" × ", measure.MM, measure.Shortest, ru.TrayLongMM, ru.TrayWideMM))
	}
	if k := d.ToKeep; k != nil {
		say("dry.keep", "%s raw, of which %.0f %% is water, weigh this when only %.1f %% is.", p.in.Grams(k.RawG),
			100*p.Formula.Dough.WaterShare,
			100*ru.KeepWB)
	}
	k := &p.Keep
	switch {
	case k.Where == "":
		say("keep.use_by", "Cooked the same day.")
	case len(p.keptNot()) > 0:
		say("keep.use_by", "%s", strings.Join(p.keptNot(), " "))
	case k.Where == cook.Shelf && k.UseBy == "":
		say("keep.use_by", "%s from %s.", measure.Capital(measure.Days(k.Days)), k.Parts[0].Since)
	case k.UseBy == "":
		say("keep.use_by", "%s; say when it is made and the date follows.", measure.DaysWords(k.FromDays, k.ToDays))
	case k.Own:
		say("keep.use_by", "%s by your own plan; %s is usual.", measure.Capital(measure.Days(k.Days)),
			measure.DaysWords(k.FromDays, k.ToDays))
	default:
		text := "%s is usual, the later end counted; by this kitchen’s clock."
		if k.Where == cook.Fridge && p.Request.AnyKeepsAsRaw() {
			text = "No longer than %s, for what is raw inside; by this kitchen’s clock."
		}
		say("keep.use_by", text, measure.Capital(measure.DaysWords(k.FromDays, k.ToDays)))
	}
}

// cooksAs is how thick what is cooked is, as the pot has it: a narrow ribbon is reached from its sides, too.
func (p *Plan) cooksAs() string {
	sheet, as := p.Roll.SheetMM, p.Cook.TeMM
	if p.Roped() || math.Abs(sheet-as) < .015 {
		return p.in.MM(as, 2)
	}
	return fmt.Sprintf(
		"The water reaches a ribbon of %s from its sides, too: it cooks like %s, which",
		p.in.MM(sheet, 2),
		p.in.MM(as, 2),
	)
}

// explainCook gives the reasons of the pot.
func (p *Plan) explainCook() {
	say := p.say
	k, ru := &p.Cook, &p.rules.Cook
	text := fmt.Sprintf(
		"%s cooks in about %s fresh: taste from %.0f %% before, and it is done by %.0f %% after.",
		p.cooksAs(),
		measure.MinSec(k.Seconds),
		100*ru.Early,
		100*ru.Late,
	)
	switch {
	case p.rawIn(&p.Cut.CutPart):
		text = fmt.Sprintf("%s at the seam, and %s that must cook through: about %s fresh, and no less.",
			p.in.MM(2*p.Roll.SheetMM, 2),
			p.Request.Cut.Filling.Kind.Words(), measure.MinSec(k.Seconds))
	case p.shape.Traits().Filling:
		text = fmt.Sprintf("%s at the seam, and the filling’s own need: about %s fresh, from %.0f %% before to %.0f "+
			"%% after.", p.in.MM(2*p.Roll.SheetMM, 2),
			measure.MinSec(k.Seconds), 100*ru.Early, 100*ru.Late)
	}
	if p.shape.Traits().Sheets {
		text = fmt.Sprintf("As a wide piece of %s: what the sheets become may cook sooner; its own time counts.",
			p.in.MM(p.Roll.SheetMM, 2))
	}
	if k.Loss > 0 {
		text += fmt.Sprintf(" Dried by %.0f %% it takes %s.", 100*k.Loss, measure.MinSec(k.DriedS))
	}
	say("cook.time", "%s", text)
	say("cook.frozen", "%.0f seconds more; straight from the freezer, not thawed.", ru.FrozenMoreS)
	say("cook.pan", "Out of the water after two thirds of the time; the sauce does the rest.")
	if p.rawIn(&p.Cut.CutPart) {
		say("cook.pan", "Not with a raw filling: it cooks through in the water first.")
	}
	say("cook.pot", "%s of water and %s of salt to %s of pasta.", p.in.L(ru.WaterPerPasta/10, measure.Shortest),
		p.in.G(100*ru.SaltPerPasta, measure.Shortest), p.in.G(100, 0))
	say("cook.loads", "A pot of %s, %.0f %% full, takes %s at a time.", p.in.L(k.PotL, measure.Shortest),
		100*ru.PotFill,
		p.in.Grams(k.PotL*ru.PotFill*1000/ru.WaterPerPasta))
}
