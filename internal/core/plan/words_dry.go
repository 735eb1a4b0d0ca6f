package plan

import (
	"cmp"
	"fmt"
	"strings"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

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

func (p *Plan) adviseDry() {
	d := &p.Dry
	switch {
	case d.Leather.Will:
	case d.Purpose == cut.NoDrying:
		p.note(request.AtDry, "dry.window", Remark, "stays_damp", "It stays damp here.",
			"No matter for this shape; dust the trays with %s or it sticks to them.", cmp.Or(p.Dusting().Name,
				"the dough’s flour"))
	case d.Rate.DeltaGM3 <= p.rules.Dry.LeastGM3:
		p.note(request.AtDry, "dry.window", Warning, "will_not_dry", "It will not dry here.",
			"The air is too damp. Dust it, cut and cook at once, or dry the air.")
	default:
		p.note(
			request.AtDry,
			"dry.window",
			Warning,
			"will_not_dry",
			"It will not dry here in two hours.",
			"The air takes too little. Dust it, cut and cook at once, or %s.",
			map[bool]string{true: "dry the air", false: "let a fan blow over it"}[p.Request.Room.Air == dry.Fan],
		)
	}
	switch {
	case d.ToKeep != nil || !p.Perishable(): // drying to keep has its own note
	case d.OutMin > d.DiscardAt:
		p.note(request.AtDry, "dry.warm", Warning, "discard", "Too long out of the fridge.",
			"%s over all stages; past %s a dough with egg is usually thrown away. Work in smaller batches, or chill "+
				"what waits at every stage.",
			measure.Minutes(d.OutMin), measure.Minutes(d.DiscardAt))
	case d.OutMin > d.CautionAt && p.Rest.OutMin <= d.CautionAt:
		p.note(request.AtDry, "dry.warm", Warning, "warm", "Long out of the fridge.",
			"%s over all stages; past %s take care: chill what waits.", measure.Minutes(d.OutMin),
			measure.Minutes(d.CautionAt))
	}
	if has := p.Request.Bench.RodM; has != nil && p.Request.Dry.On != request.OnBoard && d.RodM > *has+1e-9 {
		p.note(request.AtDry, "dry.space", Warning, "rods", "More than the racks take.",
			"All sheets want %s of rod, there are %s: hang %d at a time, the rest under the bowl.", p.in.M(d.RodM, 1),
			p.in.M(*has, measure.Shortest),
			max(1, int(float64(p.Roll.SheetsAll)**has/d.RodM)))
	}
	if has := p.Request.Bench.Trays; has != nil && float64(d.Trays) > *has {
		p.note(request.AtDry, "dry.space", Warning, "trays", "More than the trays take.",
			"It wants %d trays, there are %g: freeze or cook a load before the next.", d.Trays, *has)
	}
	if k := d.ToKeep; k != nil {
		if p.Cut.Filled() {
			p.note(request.AtDry, "dry.keep", Warning, "keep_filled", "Not filled pasta.",
				"A filling does not dry through: freeze it, or cook it fresh.")
		}
		p.note(request.AtDry, "dry.keep", Warning, "keep_dried", "Drying egg pasta to keep is a risk.",
			"Past the usual advice: it lies for hours between {5 and 60 °C} with raw egg in it, and drying does not "+
				"kill what grows. Some do it. "+
				"Safer: cook it fresh, or freeze it. If you do: thin, in moving air, to the target weight, never a "+
				"piece that smells; your food "+
				"authority’s rules come first.")
		if k.Never {
			p.note(request.AtDry, "dry.keep", Warning, "keep_never", "This air never gets it there.",
				"It stops at %.1f %% moisture where %.1f keeps: dry the air.", 100*p.Formula.Blend.EquilibriumWB,
				100*p.rules.Dry.KeepWB)
		}
	}
	if k := &p.Keep; k.Own && k.Where != "" && k.Days > k.ToDays {
		p.note(request.AtDry, "keep.use_by", Warning, "keep_longer", "Longer than the usual advice.",
			"%s where %s is usual: by your own plan (%s).",
			measure.Days(k.Days), measure.Days(k.ToDays), strings.TrimSuffix(p.Request.Keep.Note, "."))
	}
	some := "; some keep it 3–5 days, but listeria grows in the cold and nothing shows"
	if p.Request.AnyKeepsAsRaw() {
		some = ", for what is raw inside"
	}
	p.note(request.AtDry, "dry.warm", Caution, "keep", "Keeping.",
		"Covered at {5 °C} or less %s%s. Frozen at {−18 °C} one "+
			"to two months, hard on a tray first, then bagged. These are usual advice: your food authority’s rules "+
			"and your own food-safety plan come first.",
		p.FridgeWords(), some)
}
