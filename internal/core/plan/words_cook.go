package plan

import (
	"fmt"
	"math"

	"hollen/internal/core/cook"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

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

// potWords are head, text and sign of what the pasta is cooked in.
func (p *Plan) potWords() (head, text, sign string) {
	k := &p.Cook
	in, salt := "the pot", p.in.Grams(k.InPotG)+" of salt"
	if k.PotsUsed > 1 {
		in = fmt.Sprintf("each of %d pots", k.PotsUsed)
	}
	switch p.Request.Cook.In {
	case request.InBroth:
		if k.InPotG > 0 {
			salt = " " + measure.Capital(salt) + " as you say."
		} else {
			salt = " Taste it before you salt it."
		}
		return "Broth on", fmt.Sprintf("%s of broth, lid on, about %s to the boil, then down to a simmer.%s",
			p.in.L(k.InPotL, 1), measure.Minutes(k.BoilMin), salt), "It simmers before anything goes in."
	case request.InSoup:
		text = "The soup hot, and loose enough to stir; taste it before you salt it."
		if g := p.Cut.AllTrimG; g >= 1 && p.Request.Cut.Scraps == request.Maltagliati {
			text += fmt.Sprintf(" The %s of trimmings go in with the rest, cut small.", p.in.Grams(g))
		}
		return "Soup on", text, "It simmers before anything goes in."
	}
	return "Water on", fmt.Sprintf("%s into %s, lid on, about %s to the boil; %s when it boils.", p.in.L(k.InPotL, 1),
		in,
		measure.Minutes(k.BoilMin), salt), "A rolling boil before anything goes in."
}

// BoilsWords name the clock of what the pasta is cooked in.
func (p *Plan) BoilsWords() string {
	switch p.Request.Cook.In {
	case request.InBroth:
		return "Broth to the boil"
	case request.InSoup:
		return "Soup hot"
	}
	return "Water to the boil"
}

// explainPot gives the reasons of what is in the pot.
func (p *Plan) explainPot() {
	k := &p.Cook
	ru := &p.rules.Cook
	own := &p.Request.Cook
	water := fmt.Sprintf("%s of water to %s of pasta", p.in.L(ru.WaterPerPasta/10, measure.Shortest), p.in.G(100, 0))
	if own.WaterL != nil {
		water = "Your own water, " + p.in.L(*own.WaterL, measure.Shortest) + " in the pot"
	}
	switch {
	case own.In == request.InSoup:
		p.say("cook.pot", "In the soup as it stands: its liquid and its salt are the soup’s.")
	case own.In == request.InBroth && own.WaterL == nil:
		p.say("cook.pot", "About %s to a plate, for %.1f portions; salted by its own taste.",
			p.in.L(ru.BrothL, measure.Shortest), p.Formula.Portions)
	case own.Salt != nil:
		p.say("cook.pot", "%s; your own salt, %.3g %% of the water.", water, 100**own.Salt)
	case own.WaterL != nil:
		p.say("cook.pot", "%s, and %s of salt to %s of it.", water,
			p.in.G(1000*ru.SaltPerPasta/ru.WaterPerPasta, measure.Shortest), p.in.L(1, measure.Shortest))
	default:
		p.say("cook.pot", "%s of water and %s of salt to %s of pasta.", p.in.L(ru.WaterPerPasta/10, measure.Shortest),
			p.in.G(100*ru.SaltPerPasta, measure.Shortest), p.in.G(100, 0))
	}
	p.say("cook.loads", "A pot of %s, %.0f %% full, takes %s at a time.", p.in.L(k.PotL, measure.Shortest),
		100*ru.PotFill, p.in.Grams(k.PotL*ru.PotFill*1000/ru.WaterPerPasta))
	switch {
	case own.In != request.InWater:
		p.say("cook.loads", "All at once: it is served in what it is cooked in.")
	case own.WaterL != nil:
		p.say("cook.loads", "Your water takes %s at a time.", p.in.Grams(*own.WaterL*1000/ru.WaterPerPasta))
	}
}

// explainCook gives the reasons of the pot.
func (p *Plan) explainCook() {
	say := p.say
	k, ru := &p.Cook, &p.rules.Cook
	text := fmt.Sprintf(
		"%s is tender in about %s fresh: taste from %.0f %% before; many cook it softer, to %.0f %% after.",
		p.cooksAs(),
		measure.MinSec(k.Seconds),
		100*ru.Early,
		100*ru.Late,
	)
	switch {
	case p.rawIn(&p.Cut.CutPart):
		text = fmt.Sprintf("%s at the seam, and %s that must cook through: about %s fresh, and no less.",
			p.in.MM(2*p.Roll.SheetMM, 2),
			p.Request.Cut.Filling.Safety().Words(), measure.MinSec(k.Seconds))
	case p.shape.Traits().Filling:
		text = fmt.Sprintf("%s at the seam, and the filling’s own need: about %s fresh, from %.0f %% before to %.0f "+
			"%% after.", p.in.MM(2*p.Roll.SheetMM, 2),
			measure.MinSec(k.Seconds), 100*ru.Early, 100*ru.Late)
	}
	if off := p.gapOff(); off > 0 && !p.rawIn(&p.Cut.CutPart) && !p.shape.Traits().Sheets {
		text += fmt.Sprintf(" Nobody measured the gaps: for a sheet %.0f %% thinner or thicker the range is wider "+
			"by that.",
			100*off)
	}
	if p.shape.Traits().Sheets {
		text = fmt.Sprintf("As a wide piece of %s: what the sheets become may cook sooner; its own time counts.",
			p.in.MM(p.Roll.SheetMM, 2))
	}
	if k.Loss > 0 {
		text += fmt.Sprintf(" Dried by %.0f %% it takes %s.", 100*k.Loss, measure.MinSec(k.DriedS))
	}
	if from, to, said := p.Request.Cook.OwnS(); said {
		own := measure.MinSec(from)
		if to > from {
			own += " to " + measure.MinSec(to)
		}
		text = "Yours, as you say it: " + own + ". Worked out: " + measure.Uncapital(text)
	}
	say("cook.time", "%s", text)
	say("cook.frozen", "%.0f seconds more; straight from the freezer, not thawed.", ru.FrozenMoreS)
	say("cook.pan", "Out of the water after two thirds of the time; the sauce does the rest.")
	if p.rawIn(&p.Cut.CutPart) {
		say("cook.pan", "Not with a raw filling: it cooks through in the water first.")
	}
	p.explainPot()
}

// adviseOwnPot compares the maker's own minutes and salt with what is worked out. They stand as said.
func (p *Plan) adviseOwnPot() {
	own := &p.Request.Cook
	if from, to, said := own.OwnS(); said {
		least, most, mid := p.bookTime(&p.Cut.CutPart, p.goesIn(&p.Cut.CutPart))
		switch {
		case p.rawIn(&p.Cut.CutPart) && to < least:
			p.note(request.AtCook, "cook.time", Warning, "own_raw", "Short for what is raw inside.",
				"Your %s; to the centre it is about %s. %s", measure.MinSec(to), measure.MinSec(least), p.centreWords())
		case to < mid/ownPotOff || from > mid*ownPotOff:
			p.note(request.AtCook, "cook.time", Remark, "own_pot", "Worked out otherwise.",
				"By this sheet it would be tasted from %s to %s. Your minutes stand.", measure.MinSec(least),
				measure.MinSec(most))
		}
	}
	if own.ToMin != nil && own.Min == nil {
		p.note(request.AtCook, "cook.time", Remark, "pot_to_alone", "From when?",
			"An end without a beginning is left aside: say from which minute on.")
	}
	if own.Salt != nil && *own.Salt > saltyShare {
		p.note(request.AtCook, "cook.pot", Remark, "own_salt", "As the sea?",
			"The sea has about 3.5 %%; most who salt their water like it use 1 to 1.5 %%. Your %.3g %% stands.",
			100**own.Salt)
	}
}

// ownPotOff is from how many times the worked-out time on the maker's own is remarked on, and saltyShare from how much
// salt of the water. Source: house.
const (
	ownPotOff  = 1.5
	saltyShare = .02
)

func (p *Plan) adviseCook() {
	p.adviseOwnPot()
	if p.Cook.TasteOnly {
		p.note(request.AtCook, "cook.time", Remark, "taste_only", "Only tasting tells.",
			"At %s no clock serves; start tasting at %s.",
			p.in.MM(p.Cook.TeMM, 1), measure.MinSec(p.Cook.FromS))
	}
	if p.Request.Cook.After == request.Frozen && p.Keep.Where == cook.Fridge {
		p.note(request.AtCook, "cook.time", Remark, "not_frozen", "Kept in the fridge, cooked as frozen.",
			"Choose the freezer under Dry, or another way into the pot.")
	}
	text := "Cook right through; floating proves nothing."
	if p.Request.RawFilling() {
		text = "Cook right through: cut the thickest open, no pink, steaming; " + p.CentreC() +
			" at the centre, by your authority. Floating proves nothing."
	}
	p.note(request.AtCook, "cook.time", Caution, "eaters", "For the pregnant, very young, old or ill.", "%s", text)
}
