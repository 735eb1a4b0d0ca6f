package plan

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"hollen/internal/core/cook"
	"hollen/internal/core/cut"
	"hollen/internal/core/dry"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// CookPlan is the pot. Its own time is the first shape's; every shape has its turn.
type CookPlan struct {
	cook.Time
	cook.Pot           // for all at once
	Loss     float64   `json:"loss"` // share of mass lost before the pot
	Frozen   bool      `json:"frozen"`
	Ways     []CookWay `json:"ways"`
	Also     []PotTime `json:"also"` // the other shapes of the batch
	Turns    []PotTurn `json:"turns"`
	InPotL   float64   `json:"in_pot_l"` // water in each pot: for the largest load of any shape
	InPotG   float64   `json:"in_pot_salt_g"`
	PotsUsed int       `json:"pots_used"`
	BoilMin  float64   `json:"boil_min"` // until that boils
}

// PotTurn is one shape's turn in the pot: its loads one after the other, its clock and its sign. Turns stand in the
// order they go in,
// the thinnest last; they may share the water.
type PotTurn struct {
	Key   string  `json:"key"`  // of its step
	Part  int     `json:"part"` // its place among the shapes
	Shape string  `json:"shape"`
	Loads int     `json:"loads"`
	LoadG float64 `json:"load_g"` // over all pots
	FillL float64 `json:"pot_fill"`
	DoseG float64 `json:"pot_salt_g"`
	FromS float64 `json:"from_s"` // tasted from; of what is raw inside, cooked at least so long
	ToS   float64 `json:"to_s"`
	MidS  float64 `json:"middle_s"`
	Raw   string  `json:"raw,omitempty"` // what is raw in its filling
	Own   bool    `json:"own,omitempty"` // from_s and to_s are the maker's own
	// ThroughS is how long what is raw inside takes to the centre where the maker's own minutes are fewer, s; 0: they
	// are not.
	ThroughS float64 `json:"through_s,omitempty"`
}

// PotTime is when to taste one shape, s.
type PotTime struct {
	Shape string  `json:"shape"`
	FromS float64 `json:"taste_from_s"`
	ToS   float64 `json:"to_s"`
	Later bool    `json:"cut_later,omitempty"` // by what it becomes
}

// CookWay is one way into the pot with its time, s.
type CookWay struct {
	Name  string  `json:"name"`
	FromS float64 `json:"taste_from_s"`
	ToS   float64 `json:"to_s"`
	Taken bool    `json:"taken"`
}

// into is how a shape goes into the pot: with so much of its mass lost, or frozen.
type into struct {
	loss   float64
	frozen bool
}

// goesIn is how a part goes into the pot, as what is said of drying leaves it.
func (p *Plan) goesIn(x *CutPart) into {
	switch after := p.Request.Cook.After; {
	case after == request.Frozen:
		return into{frozen: true}
	case after != request.AsDried: // a making begun before drying was said
		return into{loss: map[request.After]float64{request.AtLeather: p.rules.Dry.CutLoss,
			request.FirmNests: p.rules.Dry.HoldLoss, request.DriedHard: p.driedLoss()}[after]}
	case p.Dry.ToKeep != nil && !x.Shape.Traits().Filling:
		return into{loss: p.driedLoss()}
	}
	part := slices.Index(p.Cut.Parts(), x)
	return into{loss: p.DriedLoss(max(part, 0), asPlanned)}
}

// PotLoss is the share of its mass the i-th shape has lost when it goes into the pot.
func (p *Plan) PotLoss(part int) float64 { return p.goesIn(p.PotPart(part)).loss }

// driedLoss is the share of its mass lost by what is dried to keep.
func (p *Plan) driedLoss() float64 { return 1 - dry.KeepG(p.rules.Dry, 1, p.Formula.Dough.WaterShare) }

// cook is the pot.
func (p *Plan) cook() {
	r, c := &p.Request, &p.Cut
	first := p.goesIn(&c.CutPart)
	potL, pots := request.Or(r.Bench.PotL, p.rules.Cook.PotL), int(request.Or(r.Bench.Pots, 1))
	o := CookPlan{Time: p.timeOf(&c.CutPart, first.loss), Also: []PotTime{}, Loss: first.loss, Frozen: first.frozen,
		Pot: p.potFor(c.AllMadeG, p.Formula.Portions, potL, pots)}
	o.DoseG = p.saltG(o.FillL, o.DoseG)
	o.SaltG = p.saltG(o.WaterL, o.SaltG)
	o.Ways = p.cookWays(&o, first)
	o.FromS, o.ToS, _ = p.potTime(&c.CutPart, first)
	for i := range c.Also {
		from, to, _ := p.potTime(&c.Also[i], p.goesIn(&c.Also[i]))
		o.Also = append(o.Also, PotTime{c.Also[i].Shape.Name, from, to, c.Also[i].Shape.Traits().Sheets})
	}
	o.Turns = p.turns(potL, pots)
	for _, t := range o.Turns {
		if t.FillL > o.InPotL {
			o.InPotL, o.InPotG = t.FillL, t.DoseG
		}
		if t.LoadG > 0 && t.FillL > 0 && r.Cook.In == request.InWater {
			o.PotsUsed = max(o.PotsUsed, int(t.LoadG*p.rules.Cook.WaterPerPasta/1000/t.FillL+.5))
		}
	}
	b := &p.rules.Bench
	o.BoilMin = request.Or(r.Bench.BoilMin, math.Round(b.BoilLeastMin+(b.BoilMin-b.BoilLeastMin)*o.InPotL/b.BoilL))
	p.Cook = o
}

// cookWays are the ways into the pot, with the one that is taken; where it has dried otherwise than by any of them,
// that is a way of its own.
func (p *Plan) cookWays(o *CookPlan, first into) (out []CookWay) {
	ru, raw := p.cookRules(&p.Cut.CutPart), p.rawIn(&p.Cut.CutPart)
	taken := false
	way := func(name string, s float64, is bool) {
		from, to := p.potRange(&p.Cut.CutPart, s)
		taken = taken || is
		out = append(out, CookWay{name, from, to, is})
	}
	lost := func(name string, loss float64) {
		s := cook.Dried(ru, o.Seconds, loss)
		if first.loss < loss-sameLoss && !taken && !first.frozen {
			way(fmt.Sprintf("As it dries here, %.0f %% lost", 100*first.loss), o.DriedS, true)
		}
		way(name, s, !first.frozen && math.Abs(first.loss-loss) <= sameLoss)
	}
	lost("Straight from the cutter", 0)
	lost("At leather", p.rules.Dry.CutLoss)
	lost("From firm nests", p.rules.Dry.HoldLoss)
	if !p.shape.Traits().Filling {
		lost("Dried to keep", p.driedLoss())
	}
	if !taken && !first.frozen {
		way(fmt.Sprintf("As it dries here, %.0f %% lost", 100*first.loss), o.DriedS, true)
	}
	way("Frozen, not thawed", o.FrozenS, first.frozen)
	if !raw && p.Request.Cook.In == request.InWater {
		way("Fresh, finished in the pan", o.InPanS, false)
	}
	return out
}

// sameLoss is how far two losses may be apart and count as one, share.
const sameLoss = .004

// potFor is the pot for so much pasta on so many plates: in water as the pots take it, or in as much of it as the maker
// says; in broth all at once, by the plate; in a soup, which is there already, in nothing that is counted.
func (p *Plan) potFor(pastaG, plates, potL float64, pots int) cook.Pot {
	ru, own := p.rules.Cook, &p.Request.Cook
	switch {
	case own.In == request.InSoup:
		return cook.Pot{PotL: potL, Loads: 1, LoadG: pastaG}
	case own.In == request.InBroth:
		l := request.Or(own.WaterL, plates*ru.BrothL)
		return cook.Pot{WaterL: l, PotL: potL, Loads: 1, LoadG: pastaG, FillL: l}
	case own.WaterL != nil:
		o := cook.For(ru, pastaG, *own.WaterL/ru.PotFill, pots)
		o.PotL, o.FillL = potL, *own.WaterL
		o.DoseG = 1000 * o.FillL * ru.SaltPerPasta / ru.WaterPerPasta
		return o
	}
	return cook.For(ru, pastaG, potL, pots)
}

// potParts are what is cooked: the shapes, and the trimmings as maltagliati where they are cooked with them.
func (p *Plan) potParts() []*CutPart {
	out := p.Cut.Parts()
	if g := p.Cut.AllTrimG; p.Request.Cut.Scraps == request.ScrapsCooked && g >= 1 && !p.Roped() {
		s, _ := cut.Find("maltagliati")
		s.Name = "Maltagliati, from the trimmings"
		x := CutPart{Shape: s, thickMM: p.Roll.SheetMM, PortionG: s.PortionG, Portions: g / s.PortionG}
		x.MadeG, x.DoughG = g, g
		out = append(out, &x)
	}
	return out
}

// PotPart is the i-th of what is cooked, by the place of its turn.
func (p *Plan) PotPart(i int) *CutPart {
	all := p.potParts()
	return all[max(0, min(i, len(all)-1))]
}

// saltG is the salt to so many litres: the maker's own, or as worked out, g.
func (p *Plan) saltG(waterL, bookG float64) float64 {
	if own := p.Request.Cook.Salt; own != nil {
		return 1000 * waterL * *own
	}
	return bookG
}

// turns gives every shape that is cooked its turn, the one that takes longest first.
func (p *Plan) turns(potL float64, pots int) (out []PotTurn) {
	for i, x := range p.potParts() {
		if x.MadeG <= 0 || x.Shape.Traits().Sheets && len(p.Cut.Also) > 0 { // sheets wait for what they become
			continue
		}
		pot := p.potFor(x.MadeG, x.Portions, potL, pots)
		t := PotTurn{Part: i, Shape: x.Shape.Name, Loads: pot.Loads, LoadG: x.MadeG / float64(pot.Loads),
			FillL: pot.FillL, DoseG: p.saltG(pot.FillL, pot.DoseG)}
		if p.rawIn(x) {
			t.Raw = p.Request.Cut.Filling.Safety().Words()
		}
		t.FromS, t.ToS, t.MidS = p.potTime(x, p.goesIn(x))
		_, _, t.Own = p.ownPotS(x)
		if least, _, _ := p.bookTime(x, p.goesIn(x)); t.Own && t.Raw != "" && t.ToS < least {
			t.ThroughS = least
		}
		out = append(out, t)
	}
	slices.SortStableFunc(out, func(a, b PotTurn) int { return cmp.Compare(b.MidS, a.MidS) })
	for i := range out {
		out[i].Key = fmt.Sprintf("cook.%d", i+1)
	}
	return out
}

// ownPotS is the maker's own time in the pot, s: said for each shape by itself, as it goes in.
func (p *Plan) ownPotS(x *CutPart) (from, to float64, said bool) {
	switch part := slices.Index(p.Cut.Parts(), x); {
	case part > 0:
		return p.Request.Cut.Also[part-1].OwnPotS()
	case part == 0:
		return p.Request.Cook.OwnS()
	}
	return 0, 0, false // trimmings
}

// potTime is when a part is tasted, from and to, and the middle of it, as it goes into the pot, s: by the maker's own
// minutes where they are said.
func (p *Plan) potTime(x *CutPart, in into) (from, to, mid float64) {
	from, to, mid = p.bookTime(x, in)
	if f, t, said := p.ownPotS(x); said && in == p.goesIn(x) {
		from, to = f, t
	}
	return from, to, mid
}

// WorkedOutPot is when the first shape would be tasted, s from and to, whatever its maker says.
func (p *Plan) WorkedOutPot() (from, to float64) {
	from, to, _ = p.bookTime(&p.Cut.CutPart, p.goesIn(&p.Cut.CutPart))
	return from, to
}

// bookTime is potTime as it is worked out.
func (p *Plan) bookTime(x *CutPart, in into) (from, to, mid float64) {
	t := p.timeOf(x, in.loss)
	if mid = t.DriedS; in.frozen {
		mid = t.FrozenS
	}
	from, to = p.potRange(x, mid)
	return from, to, mid
}

// potRange is when a part is tasted, from and to, that is tender in the middle after so many seconds: wider where
// nobody measured the gaps, and what is raw inside never sooner than its thickest sheet asks.
func (p *Plan) potRange(x *CutPart, mid float64) (from, to float64) {
	ru, raw := p.cookRules(x), p.rawIn(x)
	thin, thick := p.overGap(x)
	if raw {
		thin = thick
	}
	from, _ = cook.Range(ru, mid*thin, raw)
	_, to = cook.Range(ru, mid*thick, raw)
	return from, to
}

// overGap are the times of the thinnest and of the thickest sheet the gaps may give, over that of the planned one; 1
// where they were measured.
func (p *Plan) overGap(x *CutPart) (thin, thick float64) {
	off := p.gapOff()
	if off == 0 || x.Shape.Traits().Rope {
		return 1, 1
	}
	at := func(times float64) float64 {
		y := *x
		y.thickMM *= times
		return p.timeOf(&y, 0).Seconds
	}
	is := at(1)
	return at(1-off) / is, at(1+off) / is
}

// SoldTime is when a part is done by how it is sold, s: frozen, dried to keep, or fresh.
func (p *Plan) SoldTime(x *CutPart) (from, to float64) {
	in := p.goesIn(x)
	switch where := p.Keep.Where; {
	case where == cook.Freezer:
		in = into{frozen: true}
	case where == cook.Shelf && !x.Shape.Traits().Filling:
		in = into{loss: p.driedLoss()}
	case in.frozen || p.Request.Cook.After == request.DriedHard:
		in = into{}
	}
	from, to, _ = p.potTime(x, in)
	return from, to
}

// cookRules are the rules of the pot for a part: what is raw inside is never cooked shorter than the book because of
// what was tasted.
func (p *Plan) cookRules(x *CutPart) rules.Cook {
	if p.rawIn(x) && p.rules.Learned.Cook.K() < 1 {
		return p.made.Cook
	}
	return p.rules.Cook
}

// timeOf returns the time in the pot of a part that has lost that share of its mass.
func (p *Plan) timeOf(x *CutPart, loss float64) cook.Time {
	ru := p.cookRules(x)
	piece := cook.Piece{ThickMM: x.thickMM, WidthMM: x.Shape.WidthMM, Loss: loss}
	switch {
	case x.Cutter != nil:
		piece.WidthMM = x.Cutter.PitchMM
	case x.Shape.Traits().Filling:
		piece.ThickMM, piece.FillS = 2*x.thickMM, ru.FillReadyS
		if piece.Raw = p.rawIn(x); piece.Raw {
			piece.FillS = ru.FillRawS
		}
	}
	return cook.Of(ru, piece)
}

// rawIn says whether the shape is filled with what must be cooked through.
func (p *Plan) rawIn(x *CutPart) bool { return x.Shape.Traits().Filling && p.Request.RawFilling() }

// RawIn says whether a part is filled with what must be cooked through.
func (p *Plan) RawIn(x *CutPart) bool { return p.rawIn(x) }

// PotS is the time in the pot of the first shape, as it goes in, s: from when the maker takes it out where that is
// said, else the middle of what is worked out.
func (p *Plan) PotS() float64 {
	if from, _, said := p.Request.Cook.OwnS(); said {
		return from
	}
	if p.Cook.Frozen {
		return p.Cook.FrozenS
	}
	return p.Cook.DriedS
}

// BookPotS is the middle of the time in the pot of a part without what is learned, s.
func (p *Plan) BookPotS(part int) float64 {
	q := *p
	q.rules.Cook, q.rules.Learned.Cook = p.made.Cook, rules.LearnedBy{}
	x := p.PotPart(part)
	_, _, mid := q.bookTime(x, p.goesIn(x))
	return mid
}

// centreWords say when what is raw inside is done.
func (p *Plan) centreWords() string {
	return fmt.Sprintf("Cut one of the thickest open: no pink, steaming. %s at the centre, by your authority.",
		p.CentreC())
}

// CentreC is what the centre of a raw filling should read, in words.
func (p *Plan) CentreC() string {
	return p.in.C(p.rules.Cook.CentreLowC, 0) + " to " + p.in.C(p.rules.Cook.CentreHighC, 0)
}

// doneWords say when a turn is done: tasted from so long on, or cooked so long through.
func (t *PotTurn) doneWords() string {
	switch {
	case t.Own && t.FromS == t.ToS:
		return measure.Capital(measure.MinSec(t.FromS)) + ", by your own clock"
	case t.Own:
		return fmt.Sprintf("%s to %s, by your own clock", measure.MinSec(t.FromS), measure.MinSec(t.ToS))
	case t.Raw != "":
		return fmt.Sprintf("%s to %s, to the centre", measure.MinSec(t.FromS), measure.MinSec(t.ToS))
	}
	return "Taste from " + measure.MinSec(t.FromS)
}
