package plan

import (
	"fmt"
	"math"
	"strings"

	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// explainRest gives the reasons of the rest.
func (p *Plan) explainRest() {
	say := p.say
	where := "the room"
	if p.Rest.Cold {
		where = "the fridge"
	}
	say("rest.min", "Tension halves every %.0f minutes at %s; after %s in %s it is down to %.0f %% and the flour has "+
		"taken up %.0f %% of its water.",
		p.Knead.TauRMin*math.Ln2, p.in.C(22, 0), measure.Minutes(p.Rest.Min), where, 100*p.Rest.T, 100*p.Rest.U)
	if p.Unrested() {
		say("rest.min", "None, as you say: all the tension of kneading is still in it, and the flour has taken up "+
			"%.0f %% of its water.", 100*p.Rest.U)
	} else if p.way.RestMin == 0 { // of the maker's own steps, the last is a kneading
		say("rest.min",
			"None after the last kneading: tension is %.0f %%, and the flour has taken up %.0f %% of its water.",
			100*p.Rest.T, 100*p.Rest.U)
	} else if p.Rest.Asked {
		p.Why["rest.min"] = "Your minutes. " + p.Why["rest.min"]
	}
	say("rest.temp", "In %[2]s it goes two thirds of the way to %[1]s.", where, measure.Minutes(p.tauRest()))
	say("rest.warm", "Mixing, kneading and what rest is out of the fridge. Past %s take care, past %s throw it away: "+
		"the usual advice for egg.",
		measure.Minutes(p.cautionAt()), measure.Minutes(p.discardAt()))
	if p.Rest.Cold {
		say(
			"rest.cooling",
			"Counted from the fridge’s door, at %s there. Many food plans of those who sell ask that it reads %s "+
				"within four hours.",
			p.in.C(p.ask.FridgeC, 0),
			p.in.C(p.rules.Safety.SellC, 0),
		)
	}
	if c := p.Clock; c != nil {
		say("rest.clock", "Counted back from the roller: %s from flour to roller.", measure.Minutes(p.way.ElapsedMin))
	}
	say("rest.ready", "Development, tension and water uptake all pass, %s after flour met water.",
		measure.Minutes(max(0, p.Rest.ReadyAtMin)))
	if p.Rest.ReadyAtMin < 0 {
		say("rest.ready", "Not by this plan: the notes say of what it falls short.")
	}
}

// tauRest is the time constant of the dough as it rests, min.
func (p *Plan) tauRest() float64 {
	for _, s := range p.way.Steps {
		if s.Spread {
			return p.model.Lying(p.ask)
		}
	}
	return p.model.TauDMin
}

// adviseRest is the advice on the rest and on the dough's hours out of the fridge.
func (p *Plan) adviseRest() {
	ru := &p.rules
	p.adviseLacks()
	if p.Rest.TempC < ru.Knead.ColdC-.5 {
		text := "The room is too cold to warm it; roll it as it is, slowly."
		if p.Rest.TemperMin > 0 {
			divided := ""
			if p.Rest.TemperMin > 1.2*ru.Knead.TemperPieceMin && p.ask.ChillG == 0 {
				divided = fmt.Sprintf(", %.0f minutes if divided", ru.Knead.TemperPieceMin)
			}
			text = fmt.Sprintf("Leave it wrapped in the room for about %s%s, before rolling.",
				measure.Minutes(p.Rest.TemperMin), divided)
		}
		p.note(request.AtRest, "rest.temp", Remark, "cold", "Stiff with cold.", "It comes out at %s. %s",
			p.in.C(p.Rest.TempC, 0), text)
	}
	if p.Rest.Cold && p.Rest.Min > ru.Knead.GreyMin-1 {
		p.note(request.AtRest, "rest.min", Remark, "grey", "Greys past a day.",
			"Harmless, but it shows. Wrapped dough keeps at most 48 hours in the fridge.")
	}
	p.adviseCooling()
	if out := p.Rest.OutMin; out > p.cautionAt() && p.Perishable() {
		way := "Rest it in the fridge."
		if p.Rest.Cold {
			way = "Take it out later, or roll what is out first."
			if p.Knead.LoadTurns > 1 {
				way = "Put each load into the fridge as it is done."
			}
		}
		p.note(request.AtRest, "rest.warm", Warning, "warm_rest", "Long out of the fridge.",
			"%s by the time it is rolled; past %s take care. %s",
			measure.Minutes(out), measure.Minutes(p.cautionAt()), way)
	}
	if c := p.Clock; c != nil && !c.Fits {
		nearest := ""
		for _, w := range c.Ways {
			nearest += " " + w.Why
		}
		p.note(request.AtRest, "rest.clock", Warning, "too_late", "As it stands it would have to start earlier.",
			"It would start before you can.%s", nearest)
	}
	if a := p.Request.Rest.PokeS; a != nil {
		if k := p.ReadPoke(); !k.Ready {
			p.note(request.AtRest, "rest.min", Remark, "poke", k.Head, "%s", k.Words)
		}
	}
	if more, of := p.restsMore(); more > 0 && !p.Rest.Asked && p.ask.Own == nil && p.Rest.Min > 0 {
		p.note(
			request.AtRest,
			"rest.min",
			Remark,
			"rest_more",
			"Rests a little longer.",
			"%s with the water: %.0f minutes at least, counted in.",
			measure.Does(of, "settles", "settle"),
			more,
		)
	}
	if p.Unrested() {
		return
	}
	p.note(request.AtRest, "rest.min", Caution, "wrap", "Airtight.",
		"Film twice, an upturned bowl or a lidded tub: no skin, no hard edge. Date what goes into the fridge; your "+
			"food authority’s rules come first.")
}

// adviseLacks says what the rest leaves the dough short of.
func (p *Plan) adviseLacks() {
	ru := &p.rules
	switch {
	case p.Unrested():
		p.note(request.AtRest, "rest.min", Warning, "no_rest", "No rest at all.",
			"It can be done: it pulls back at every stop and wants twice the passes. Twenty minutes under a bowl "+
				"save more than they cost.")
	default:
		for _, s := range p.Rest.Lacks {
			switch s.What {
			case "tension":
				p.note(request.AtRest, "rest.min", Warning, "tension", "Still tense.",
					"Tension is %s: it snaps back and may tear. %s", ofWanted(s),
					p.restMore(func(x knead.State) bool { return x.T <= ru.Knead.ReadyT }))
			case "uptake":
				p.note(request.AtRest, "rest.min", Warning, "uptake", "Not all the water is in yet.",
					"%s: coarse flour stays sandy so. %s",
					measure.Capital(ofWanted(s)), p.restMore(func(x knead.State) bool {
						return p.model.U(
							x) >= ru.Knead.ReadyU
					}))
			}
		}
	}
}

// everyPiece is after how many pieces something is done, in words.
func everyPiece(n int) string {
	if n <= 1 {
		return "each piece"
	}
	return fmt.Sprintf("every %d pieces", n)
}

// ownRest is how the dough lies in a rest of the maker's own, in words; "" as usual.
func (p *Plan) ownRest(s knead.Step) string {
	switch request.Cover(s.Lies) {
	case request.CoverFilm:
		return "In film, airtight."
	case request.CoverBowl:
		return "Under the upturned bowl. It softens by itself."
	case request.CoverNone:
		return "Open on the board."
	case request.CoverPieces:
		return "Divide it, press each piece flat, and film each: airtight, and it cools and warms through sooner."
	case request.CoverFlat:
		return fmt.Sprintf("Press it %s flat and film it: airtight, and it cools and warms through sooner.",
			p.in.MM(request.Or(p.Request.Rest.FlatMM, p.rules.Knead.FlatMM), 0))
	}
	return ""
}

// adviseCooling is the advice on a dough that takes more than four hours in the fridge to read 7 °C:
// a remark, for it is done every night, with what would be quicker.
func (p *Plan) adviseCooling() {
	s, a := &p.rules.Safety, p.ask
	if cool := p.Rest.CoolMin; cool >= 0 && cool <= s.DiscardMin || cool < 0 && p.Rest.Min <= s.DiscardMin {
		return
	}
	if p.Rest.CoolMin < 0 {
		p.note(request.AtRest, "rest.cooling", Remark, "warm_fridge", "A warm fridge.",
			"At %s it never gets to %s: set it colder, or keep it no longer than four hours.",
			p.in.C(a.FridgeC, 0), p.in.C(s.CoolC, 0))
		return
	}
	start := p.beforeFridgeC()
	at4h := a.FridgeC + (start-a.FridgeC)*math.Exp(-s.DiscardMin/p.model.Lying(a))
	var ways []string
	way := func(what string, change func(*knead.Ask)) {
		b := a
		b.ChillG, b.FlatMM = 0, 0
		change(&b)
		if m := knead.CoolingMin(start, b.FridgeC, s.CoolC, p.model.Lying(b)); m < .9*p.Rest.CoolMin {
			ways = append(ways, fmt.Sprintf("%s it takes %s", what, measure.Minutes(m)))
		}
	}
	flat, pieces := p.rules.Knead.FlatMM, max(2, math.Round(p.Formula.FlourG/p.pieceFlourG()))
	way(fmt.Sprintf("pressed %s flat", p.in.MM(flat, 0)), func(b *knead.Ask) { b.FlatMM = flat })
	way(fmt.Sprintf("in %.0f pieces", pieces), func(b *knead.Ask) { b.ChillG = p.Formula.Dough.MassG / pieces })
	cool := p.in.C(s.CoolC, 0)
	text := fmt.Sprintf("%s only after %s in the fridge", cool, measure.Minutes(p.Rest.CoolMin))
	if warm := p.in.C(at4h, 0); warm != cool {
		text = fmt.Sprintf("%s after %s in the fridge, %s after %s", warm, measure.Minutes(s.DiscardMin), cool,
			measure.Minutes(p.Rest.CoolMin))
	}
	if len(ways) > 0 {
		text += "; " + strings.Join(ways, ", ")
	}
	p.note(request.AtRest, "rest.cooling", Remark, "slow_to_cool", "It cools slowly.",
		"%s. Who sells: many food plans ask for %s within four hours.", text,
		p.in.C(s.SellC, 0))
}
