package plan

import (
	"fmt"
	"math"

	"hollen/internal/core/doctor"
	"hollen/internal/core/dough"
	"hollen/internal/core/egg"
	"hollen/internal/core/knead"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
)

// school returns the school to work by and, when it was left to Hollen, why that one.
func (p *Plan) school() (knead.School, string) {
	r := &p.Request
	if s := r.Knead.School; r.Knead.School != knead.Auto {
		return s, ""
	}
	mass := p.Formula.Dough.MassG
	hands := p.handLimit() * r.Bench.People
	switch {
	case p.shape.Traits().Rope:
		return knead.Long, "For ropes you feel it come right under the hand; half an hour’s rest and it lengthens by " +
			"itself."
	case p.machine.Tool == dough.Pin:
		return knead.Long, "Under a pin nothing is kneaded after it: kneaded through, then half an hour on the " +
			"counter. In turns and a night cold is softer still."
	case p.machine.Tool == dough.Sheeter:
		return knead.Short, "A powered sheeter finishes the kneading in its folded passes."
	case r.Bench.HookG != nil && mass > hands:
		return knead.Hook, fmt.Sprintf("%s is more than the hands here knead at once, and there is a mixer.",
			p.in.Grams(mass))
	case p.Formula.Blend.DurumShare > .8 && r.Bench.ProcessorG != nil && mass <= *r.Bench.ProcessorG:
		return knead.Processor, "Durum sets hard under the hand; the processor brings it together."
	}
	return knead.Long, "By hand for rollers: you feel it come right, and it is ready tonight."
}

// handLimit is the dough one pair of hands kneads at once, g.
func (p *Plan) handLimit() float64 {
	return request.Or(p.Request.Bench.HandG, p.rules.Knead.OnePersonG)
}

// loads is how a batch is divided for kneading.
type loads struct {
	n      int     // of equal mass
	turns  int     // one after the other
	limitG float64 // most dough at once, 0: not known
	shared bool    // each of the people kneads a part at the same time; it is joined again
}

// loadsBy returns the loads of a school: what one pair of hands or the bowl takes at once. Hands work
// side by side; a bowl takes one load after the other.
func (p *Plan) loadsBy(school knead.School) loads {
	return p.loadsShared(school, p.Request.Knead.Shared)
}

// loadsShared is loadsBy, with the dough shared out where that is wanted and the people suffice.
func (p *Plan) loadsShared(school knead.School, share bool) loads {
	r, mass := &p.Request, p.Formula.Dough.MassG
	limit, people := (*float64)(nil), 1.
	switch school.Traits().Bowl {
	case knead.MixerBowl:
		limit = r.Bench.HookG
	case knead.ProcessorJar:
		limit = r.Bench.ProcessorG
	default:
		hands := p.handLimit()
		limit, people = &hands, r.Bench.People
	}
	if limit == nil {
		return loads{n: 1, turns: 1}
	}
	n := max(1, math.Ceil(mass / *limit - 1e-9))
	if people > 1 && people >= n && share {
		return loads{n: 1, turns: 1, limitG: *limit, shared: true}
	}
	return loads{n: int(n), turns: int(math.Ceil(n / people)), limitG: *limit}
}

// solve works the dough by the maker's own steps, or else by a school: the model of a load of it, what is
// asked, and the way.
func (p *Plan) solve(school knead.School, change func(*knead.Ask)) (knead.Dough, knead.Ask, knead.Way) {
	own := p.ownWay()
	if own == nil {
		return p.solveBy(school, p.loadsBy(school), change)
	}
	return p.solveBy(school, p.ownLoads(), func(a *knead.Ask) {
		a.Own = own
		a.FixKnead = nil
		a.FixTurns = nil
		a.FixRest = nil
		a.TemperMin = 0
		a.ChillG, a.FlatMM = own.Lying()
		if change != nil {
			change(a)
		}
	})
}

// solveBy works the dough by a school in those loads.
func (p *Plan) solveBy(school knead.School, loads loads, change func(*knead.Ask)) (knead.Dough, knead.Ask, knead.Way) {
	f := &p.Formula
	d := knead.Of(p.rules, f.Blend, f.Dough.FatPct, f.Dough.Hw, f.Dough.MassG/float64(loads.n))
	a := p.askOf(school, loads)
	if change != nil {
		change(&a)
	}
	return d, a, d.Solve(a)
}

// knead is kneading and resting by the school.
func (p *Plan) knead() {
	r, f := &p.Request, &p.Formula
	school, why := p.school()
	d, a, w := p.solve(school, nil)
	if why != "" && !w.Ready && school != knead.Long && a.Own == nil {
		if ld, la, lw := p.solve(knead.Long, nil); lw.Ready {
			why = fmt.Sprintf("%s does not quite finish this dough; a long kneading does.", school.Traits().Name)
			school = knead.Long
			d = ld
			a = la
			w = lw
		}
	}
	p.model = d
	p.ask = a
	p.way = w
	loads := p.loadsBy(school)
	if a.Own != nil {
		loads = p.ownLoads()
	}
	p.Knead = KneadPlan{School: school, SchoolWhy: why, Way: w, Min: w.KneadMin, Asked: r.Knead.Min != nil &&
		a.Own == nil, PeakC: w.PeakC, D: w.DFolded,
		W63Min: p.model.W63Min, TauRMin: p.model.TauRMin, FoldsMore: w.MinFoldsFor, Loads: loads.n,
		LoadTurns: loads.turns,
		LoadG:     f.Dough.MassG / float64(loads.n), Shared: loads.shared, LimitG: loads.limitG}
	p.Knead.Own = a.Own != nil && !p.sameWay()
	p.Rest = RestPlan{Min: w.RestMin, Asked: r.Rest.Min != nil && a.Own == nil, Ready: w.Ready, Lacks: w.Lacks, D: w.D,
		T: w.T, U: w.U, TempC: w.TempC,
		TemperMin: p.model.TemperFor(w.TempC, r.Room.TempC), Cold: a.Fridge(), OutMin: p.mixMin() + w.OutMin,
		CoolMin: w.CoolMin, ReadyAtMin: w.ReadyAtMin}
	if p.Rest.Lacks == nil {
		p.Rest.Lacks = []knead.Lack{}
	}
	p.Roll.Folds = w.Folds
	p.clock()
}

// mixMin is the time from the first egg to the first kneading, min.
func (p *Plan) mixMin() float64 {
	if own := p.ask.Own; own != nil {
		return own.FoodMin
	}
	return p.rules.Safety.MixMin
}

// durumWeighed is how much of the flour is durum, as it is weighed, share: the weather does not change it.
func (p *Plan) durumWeighed() float64 {
	durum, all := 0., 0.
	for _, x := range p.parts {
		all += x.MassG
		if x.Flour.Durum {
			durum += x.MassG
		}
	}
	if all == 0 {
		return 0
	}
	return durum/all - 1e-9 // 30 % as typed is not more
}

// restsMore is how much longer than its dough a batch rests at least for what is in it, min, and what that is.
func (p *Plan) restsMore() (more float64, of []string) {
	for _, x := range p.Request.Additions {
		kind := x.Kind()
		if kind.RestMoreMin <= 0 {
			continue
		}
		more = max(more, kind.RestMoreMin)
		of = append(of, kind.Name)
	}
	return more, of
}

// askOf is what the model is asked for a school, with what the maker fixed.
func (p *Plan) askOf(school knead.School, loads loads) knead.Ask {
	r := &p.Request
	ru := &p.rules
	f := &p.Formula
	a := knead.Ask{School: school, StartC: p.Room.ContactC, RoomC: r.Room.TempC, FridgeC: r.Bench.FridgeC,
		Cold: r.Rest.At == request.InFridge,
		Pin:  p.machine.Tool == dough.Pin, MinRest: ru.Knead.RestMinMin, FixKnead: r.Knead.Min, FixTurns: r.Knead.Turns,
		FixRest: r.Rest.Min, FixFolds: r.Roll.Folds,
		TemperMin: r.Rest.TemperMin, MoreKnead: r.Acted(doctor.Knead), MoreRest: r.Acted(doctor.Rest),
		GlutenBar: ru.Flour.GlutenNoSheet, Turns: loads.turns}
	if down := p.ownDown(); len(down) > 0 && !a.Pin { // what is folded at the widest kneads
		folds := float64(roll.WidestFolds(down))
		a.FixFolds = &folds
	}
	if r.Eggs.Style == egg.YolksOnly || p.durumWeighed() > .3 {
		a.MinRest = ru.Knead.RestMinRichMin
	}
	if a.Pin {
		a.MinRest = max(a.MinRest, ru.Knead.RestMinPinMin)
	}
	const step = 5. // min by which rests are planned
	if more, _ := p.restsMore(); more > 0 {
		a.MinRest += step * math.Ceil(more/step)
	}
	pieces := max(1, request.Or(r.Roll.Pieces, math.Round(f.FlourG/p.pieceFlourG())))
	switch r.Rest.Wrapped {
	case request.InPieces:
		a.ChillG = f.Dough.MassG / pieces
	case request.PressedFlat:
		a.FlatMM = request.Or(r.Rest.FlatMM, ru.Knead.FlatMM)
	}
	if !a.Pin {
		const folded = 250. // mm of sheet to a folded pass
		a.FoldMin = pieces * (ru.Roll.HandlingS + folded/p.machine.SpeedMMPerS) / 60
	}
	return a
}

// SchoolRow is one school set beside the others for this dough.
type SchoolRow struct {
	Name  string
	Takes string // hands and machine, in words
	Buys  string
	Costs string
	Loads int
	Taken bool
	// InAllMin is from flour to the roller and through the folded passes, min: never less than the hands are on it.
	InAllMin float64
	knead.Way
}

// CompareSchools works this dough by all five schools. What the maker fixed in minutes
// belongs to the school taken; the others are free.
func (p *Plan) CompareSchools() []SchoolRow {
	var out []SchoolRow
	for _, s := range knead.Schools() {
		t := s.Traits()
		row := SchoolRow{Name: t.Name, Buys: t.Buys, Costs: t.Costs, Taken: s == p.Knead.School && p.ask.Own == nil,
			Loads: p.loadsBy(s).n}
		_, _, row.Way = p.solveBy(s, p.loadsBy(s), func(a *knead.Ask) {
			if !row.Taken {
				a.FixKnead = nil
				a.FixTurns = nil
				a.FixRest = nil
				a.FixFolds = nil
			}
		})
		row.InAllMin = row.Way.ElapsedMin + float64(row.Way.Folds)*p.ask.FoldMin
		out = append(out, row)
	}
	return out
}

// Follow returns a load of the dough along its way, for drawing; at most some hundreds of moments.
func (p *Plan) Follow() []knead.Moment {
	return p.model.Follow(p.ask, p.way, max(.5, (p.way.ElapsedMin-p.way.WaitMin)/300))
}

// cautionAt and discardAt are the limits of the food clock in this room, min.
func (p *Plan) cautionAt() float64 {
	if p.Request.Room.TempC > p.rules.Safety.HotC {
		return p.rules.Safety.HotCautionMin
	}
	return p.rules.Safety.CautionMin
}

func (p *Plan) discardAt() float64 {
	if p.Request.Room.TempC > p.rules.Safety.HotC {
		return p.rules.Safety.HotDiscardMin
	}
	return p.rules.Safety.DiscardMin
}

// Poke is what a timed poke says.
type Poke struct {
	S           float64
	Head, Words string
	Ready       bool
}

// ReadPoke returns what the poke that was tried says, nil when none was.
func (p *Plan) ReadPoke() *Poke {
	s := p.Request.Rest.PokeS
	if s == nil {
		return nil
	}
	k := &p.rules.Knead
	switch {
	case *s < k.PokeTenseS:
		return &Poke{*s, "Springs back at once.", "Right after kneading, too tense for rolling: rest it another " +
			"quarter of an hour and poke again.", false}
	case *s < k.PokeReadyS:
		return &Poke{*s, "Nearly there.", "Thick stops will go; rest it five to ten minutes more before the thin ones.",
			false}
	case *s < k.PokeSureS:
		return &Poke{
			*s,
			"On the edge.",
			"As many doughs that take this long are ready as are not: it rolls; five minutes " +
				"more do no harm.",
			true,
		}
	}
	return &Poke{*s, "Relaxed.", "It rolls now. If the mark does not come back at all it is very soft: dust more.",
		true}
}

// FreeTask is something that fits into the minutes a dough rests.
type FreeTask struct {
	Name string
	Min  float64
}

// freeTasks are what makers do meanwhile, the quickest first. Source: house.
var freeTasks = []FreeTask{{"scrape the board and sieve the crumbs", 5}, {"set up the roller", 5},
	{"lay out semola, trays and cloths", 5}, {"clear up", 15},
	{"mix and knead the next dough", 20}, {"cook and cool a filling", 25}, {"make a butter or tomato sauce", 30},
	{"start a meat sauce", 90}}

// FreeMin is how long the longest rest leaves the hands free, min.
func (p *Plan) FreeMin() float64 {
	longest := 0.
	for _, s := range p.way.Steps {
		if s.Rests() {
			longest = max(longest, s.Min)
		}
	}
	return longest
}

// Free returns what fits into the longest rest: what can be done one after the other, the quickest
// first, and what would take its place.
func (p *Plan) Free() (together, instead []FreeTask) {
	left := p.FreeMin()
	for _, t := range freeTasks {
		if t.Name == "set up the roller" && p.Pinned() {
			t.Name = "wipe down the board and the pin"
		}
		switch {
		case t.Min <= left:
			together, left = append(together, t), left-t.Min
		case t.Min <= p.FreeMin():
			instead = append(instead, t)
		}
	}
	return together, instead
}

// Patient is the batch as the doctor measures acts for it.
func (p *Plan) Patient() doctor.Dough {
	f := &p.Formula
	on := doctor.Rollers
	if p.Pinned() {
		on = doctor.Pin
	}
	return doctor.Dough{On: on, ReserveWaterG: max(0, p.Room.KeepG-p.Request.Acted(doctor.Water)),
		ReserveFlourG: max(0, f.HeldBackG-p.Request.Acted(doctor.Flour)), F14G: f.Blend.F14G,
		MoistureWB: f.Blend.MoistureWB,
		BasisWB:    p.rules.Flour.BasisMoistureWB, Hw: f.Dough.Hw, TargetHw: f.Target.Hw,
		OutMin: p.Rest.OutMin, CautionMin: p.cautionAt(), DiscardMin: p.discardAt(), Lasting: !p.Perishable()}
}

// BowlLoads is in how many loads a bowl is filled, each weighed by itself; 1 where all goes into it at once, or hands
// share a dough that is
// mixed whole.
func (p *Plan) BowlLoads() int {
	machine := p.Knead.School.Traits().Machine()
	if own := p.ask.Own; own != nil {
		machine = own.Machine
	}
	if !machine || p.Knead.Loads < 2 {
		return 1
	}
	return p.Knead.Loads
}
