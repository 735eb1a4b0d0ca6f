package plan

import (
	"cmp"
	"fmt"
	"math"

	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// keptWords returns how a flour is kept, to stand after "in".
func keptWords(k flour.Keeping) string {
	return map[flour.Keeping]string{flour.SealedTub: "a sealed tub", flour.PaperBag: "a folded paper bag",
		flour.OpenBin: "an open bin",
		flour.Sifted:  "a sifted heap"}[k]
}

// explainRoom gives the reasons of what the air does to flour and dough.
func (p *Plan) explainRoom() {
	r := &p.Request
	f := &p.Formula
	ru := &p.rules
	say := p.say
	part := f.Flours[0]
	k := r.Flours[0]
	switch s := part.Moisture.Sack; {
	case s != nil:
		say("room.moisture", "%s", p.sackWords(s))
	case part.Moisture.Measured:
		say("room.moisture", "Measured, so it stands.")
	default:
		say("room.moisture", "Milled at %.1f %%; this air draws it to %.1f %%. %s in %s of %s (two thirds of the way "+
			"in %s) leaves it here.",
			100*part.Moisture.MilledWB, 100*part.Moisture.EquilibriumWB, measure.Capital(measure.Plural(int(k.OpenDays),
				"day", "days")), keptWords(k.Kept),
			p.in.KG(k.ContainsKG, measure.Shortest), measure.Plural(int(math.Max(1, math.Round(part.Moisture.TauDays))),
				"day", "days"))
		if part.Moisture.Bounded {
			p.Why["room.moisture"] += fmt.Sprintf(" Beyond %.1f–%.1f %% it is not believed without measuring.",
				100*ru.Flour.EstimateLowWB, 100*ru.Flour.EstimateHighWB)
		}
	}
	switch c := p.Room.CorrectionG; {
	case c >= .5:
		say("room.water", "Flour this dry, and what the board loses, ask for %s more than flour fresh from the mill.",
			p.in.Grams(c))
	case c <= -.5:
		say("room.water", "Flour this moist asks for %s less than flour fresh from the mill.", p.in.Grams(-c))
	default:
		say("room.water", "The flour is as moist as it was milled: the room asks for nothing.")
	}
	switch {
	case p.Room.Measured:
		p.Why["room.water"] += " The moisture is measured, so pour it all."
	case f.TopG == 0 && p.Room.CorrectionG > 0:
		p.Why["room.water"] += " The eggs bring it."
	case p.Room.KeepG > 0 && p.Room.CorrectionG > 0:
		p.Why["room.water"] += " It is an estimate: pour what is sure, keep the rest in reach."
	case p.Room.KeepG > 0:
		p.Why["room.water"] += " It is an estimate: keep a little in reach in case the dough stays dry."
	}
	if p.Room.KeepG > 0 {
		o := p.Room.InWords
		wholeNumber := func(g float64) string { return p.in.G(g, 0) }
		if min(o.EggG, o.MilkG, o.OilG) >= .5 { // less than that nobody weighs
			say("room.worth",
				"Worth the same to the dough: %s of beaten egg, or %s of milk. Oil is a poor stand-in: %s.",
				wholeNumber(o.EggG), wholeNumber(o.MilkG), wholeNumber(o.OilG))
		}
	}
	if u := p.Room.Used; u != nil {
		say("room.used", "%s of flour and %s of %s are in it: %.1f where %.1f was planned. Every station follows.",
			p.in.Grams(u.FlourG),
			p.in.Grams(u.LiquidG), p.TopWord(), u.Hw, u.PlannedHw)
	}
	say("room.loss", "Vapour leaves the dough’s face for %.0f minutes of kneading at %s and %.0f %%.",
		ru.Room.BoardSeconds/60, p.in.C(r.Room.TempC, 0),
		100*r.Room.RH)
	say("room.contact", "%s, and %s from the %s.", p.startsFrom(), p.in.RiseC(ru.Knead.ContactRiseC), p.warmsIt())
}

// mostlyUnread is the share of a sack's days without a reading from which on its air counts as one nobody read.
const mostlyUnread = .9

// sackWords say what the moisture of a sack comes from and how sure it is.
func (p *Plan) sackWords(s *rules.LearnedSack) string {
	within := fmt.Sprintf("give or take %.1f", 100*s.Within())
	unread := "Opened " + measure.DayWords(s.Since) + ", in air nobody read"
	if days, ok := flour.DaysBetween(s.Since, p.Request.MadeOn); !ok || s.Bridged < mostlyUnread*days {
		unread = ""
	}
	from := map[string]string{"air": "It followed its air since it was opened", "weight": "By its own weight",
		"oven": "Dried in the oven", "said": "Measured"}[s.From]
	if s.From == "air" && unread != "" {
		from = unread
	}
	if s.From != "air" {
		from += " " + measure.DayWords(s.Since) + ", and the air since then"
	}
	out := fmt.Sprintf("%s: %.1f %%, %s. Steady air of %s and %.0f %% would say %.1f %%.", from, 100*s.WB, within,
		p.in.C(p.Request.Room.TempC, 0), 100*p.Request.Room.RH, 100*s.SteadyWB)
	if s.Held {
		out += fmt.Sprintf(" Beyond %.1f–%.1f %% it is not believed without measuring.",
			100*p.rules.Flour.EstimateLowWB, 100*p.rules.Flour.EstimateHighWB)
	}
	if off := 100 * s.OffWB; math.Abs(off) >= .05 {
		out += fmt.Sprintf(
			" That is %.1f %s than its air alone says, as it was reckoned for its last batch: the log has "+
				"taken that up.",
			math.Abs(off),
			map[bool]string{true: "more", false: "less"}[off > 0],
		)
	}
	if s.ChangeSD > 0 {
		out += fmt.Sprintf(" What has changed since its last batch is known better: give or take %.1f.",
			100*s.ChangeWithin())
	}
	if s.Bridged >= 1 && unread == "" {
		out += fmt.Sprintf(" For %s of that nobody read the air.", measure.Days(math.Round(s.Bridged)))
	}
	switch s.Ahead {
	case "week":
		out += " From today on the air of the last week is assumed."
	case "room":
		out += " From today on the air of this batch is assumed."
	}
	return out
}

// startsFrom is what a dough is mixed from, and how warm that is.
func (p *Plan) startsFrom() string {
	text := "Flour at " + p.in.C(p.Request.Room.TempC, 0)
	if f := &p.Formula; f.WholeG+f.YolkG > 0 {
		where := map[string]string{"room": "eggs as warm as the room", "fridge": "eggs from the fridge"}[string(
			p.Request.Eggs.From)]
		text += " and " + cmp.Or(where, "eggs from the "+string(p.Request.Eggs.From))
	}
	return text
}

// warmsIt is what warms a dough as it is mixed: hands, or a machine.
func (p *Plan) warmsIt() string {
	if p.machined() {
		return "mixing"
	}
	return "hands"
}

func (p *Plan) adviseRoom() {
	p.adviseDates()
	for i, x := range p.Request.Flours {
		if l := x.LotKept; l != nil && l.BestBefore != "" && p.Request.MadeOn > l.BestBefore {
			p.note(request.AtRoom, "room.moisture", Warning, "past_best", "Past its date.",
				"%s was best before %s: smell it, look for mites, and use it first or not at all.",
				p.Formula.Flours[i].Name+", "+l.Name, l.BestBefore)
		}
	}
	if p.Room.Used != nil {
		p.adviseFeel(request.AtRoom, "room.used")
	}
	for _, f := range p.Formula.Flours {
		if f.Moisture.AirClamped && !f.Moisture.Measured {
			p.note(request.AtRoom, "room.moisture", Remark, "air_clamped", "Air at the edge of what is known.",
				"The flour’s moisture is worked out for 10–90 %% humidity and %s; the nearest was taken.",
				p.in.Joined("–", measure.C, 0, 5, 40))
			break
		}
	}
}
