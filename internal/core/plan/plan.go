// Package plan is the one way through: plan.Make(request.Request) gives the whole Plan of a
// batch, stage by stage in the order of work. It does no sums of its own beyond carrying masses
// from one stage to the next; each stage's sums live in the package of its name.
package plan

import (
	"errors"
	"math"

	"hollen/internal/core/addition"
	"hollen/internal/core/cost"
	"hollen/internal/core/cut"
	"hollen/internal/core/dough"
	"hollen/internal/core/egg"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
	"hollen/internal/core/roll"
	"hollen/internal/core/rules"
)

// Format names the version of the document.
const Format = "hollen-plan/4"

// Plan is a whole batch worked out. Masses g, lengths mm, temperatures °C, shares 0–1,
// hydration in points, as the field names say.
type Plan struct {
	Format  string            `json:"format"`
	Request request.Request   `json:"request"`
	Formula Formula           `json:"formula"`
	Room    RoomPlan          `json:"room"`
	Knead   KneadPlan         `json:"knead"`
	Rest    RestPlan          `json:"rest"`
	Roll    RollPlan          `json:"roll"`
	Cut     CutPlan           `json:"cut"`
	Dry     DryPlan           `json:"dry"`
	Keep    KeepPlan          `json:"keep"`
	Cook    CookPlan          `json:"cook"`
	Cost    CostPlan          `json:"cost"`
	Clock   *ClockPlan        `json:"clock"` // nil when no time to roll is wished for
	Steps   []Step            `json:"steps"`
	Notes   []Note            `json:"notes"`
	Why     map[string]string `json:"why"` // the reason of each figure, one plain sentence

	Learned *rules.LearnedDoc `json:"learned,omitempty"` // by the log, and counted in; nil: nothing

	made           rules.Rules    // as given
	rules          rules.Rules    // with the maker's own trims
	in             measure.System // of the words
	task           egg.Task
	absorption     float64 // of the blend, %
	way            knead.Way
	model          knead.Dough
	ask            knead.Ask
	lay            roll.Lay
	machine        roll.Machine
	shape          cut.Shape
	ended          []*EndsAt // by shape: where its pieces end otherwise than the others, nil where they do not
	parts          []flour.Part
	milkG, waterG  float64 // worked in at the board
	doughAllergens int     // of Formula.Allergens, the first so many are the dough's
	sizing         bool    // looking for the flour: what was used at the bench does not count yet
	// into so many pieces, where another number than usual serves several shapes better; 0: as usual
	divided float64
	swells  []float64 // what a shape makes of its dough, g/g, as it was last laid
	weighs  bool      // whole eggs would make much more or less than was asked
}

// Weighed is one flour of the batch.
type Weighed struct {
	Key      string         `json:"flour"`
	Name     string         `json:"name"`
	MassG    float64        `json:"mass_g"`
	Share    float64        `json:"share"`
	Moisture flour.Moisture `json:"moisture"`
	Allergen string         `json:"allergen"`
}

// Added is one addition as it goes into the batch.
type Added struct {
	Key   string        `json:"addition"`
	Name  string        `json:"name"`
	Kind  addition.Kind `json:"kind"`
	MassG float64       `json:"mass_g"`
	Share float64       `json:"share"` // of flour
	// of water it adds to the liquids; negative: it takes up more than it brings
	LiquidG   float64 `json:"liquid_g"`
	ColourWay float64 `json:"colour_way"` // how far it draws the colour, 0–1
	Allergen  string  `json:"allergen"`
}

// Points is what one part contributes to the working hydration.
type Points struct {
	Part   string  `json:"part"`
	Points float64 `json:"points"`
}

// Formula is what goes into the bowl.
type Formula struct {
	FlourG float64 `json:"flour_g"`
	// where flour goes in until it takes no more; 0: all that is weighed out goes in
	OpenG     float64 `json:"flour_weighed_out_g,omitempty"`
	HeldBackG float64 `json:"held_back_g"` // of the flour, worked in only if the dough asks
	// with none of it worked in; the dough's own counts all of it
	HwBefore float64      `json:"hw_before_held_back_points"`
	Flours   []Weighed    `json:"flours"`
	Blend    flour.Blend  `json:"blend"`
	Eggs     egg.Answer   `json:"eggs"`
	Pick     egg.Solution `json:"pick"`
	// PlannedEggG is what the eggs were planned to weigh when they were weighed otherwise, 0 when they were not.
	PlannedEggG float64 `json:"planned_egg_g"`
	// YieldedEggG is what was cracked for another amount, and no longer goes with this one; 0: nothing.
	YieldedEggG float64 `json:"yielded_egg_g"`
	jug         bool
	WholeG      float64      `json:"whole_egg_g"`
	YolkG       float64      `json:"yolk_g"`
	TopG        float64      `json:"top_up_g"`
	SaltG       float64      `json:"salt_g"`
	OilG        float64      `json:"oil_g"`
	Additions   []Added      `json:"additions"`
	AlsoG       float64      `json:"other_eggs_g"` // of the whole egg, eggs of other classes
	Parts       []Points     `json:"hw_parts"`     // what makes up the working hydration, in the order of pouring
	Target      dough.Target `json:"target"`
	Feel        string       `json:"feel"`
	feel        dough.Feel
	Dough       dough.Dough  `json:"dough"`
	Colour      dough.Colour `json:"colour"`
	Portions    float64      `json:"portions_made"`
	PortionG    float64      `json:"portion_g"`
	Allergens   []string     `json:"allergens"`
}

// Weighed says whether the egg stands as it was weighed, not in whole numbers.
func (f *Formula) Weighed() bool { return f.PlannedEggG > 0 || f.jug || f.Pick.Beaten }

// RoomPlan is what the air does to flour and dough, and how to pour.
type RoomPlan struct {
	BoardLossG  float64 `json:"board_loss_g"`     // water lost while kneading
	CorrectionG float64 `json:"correction_g"`     // working water the room asks for; negative: less
	PourG       float64 `json:"pour_now_g"`       // of the top-up liquid
	KeepG       float64 `json:"keep_by_board_g"`  // of the top-up liquid
	BeforeHw    float64 `json:"hw_before_points"` // working hydration before any top-up
	ContactC    float64 `json:"dough_c"`          // as it comes together
	Measured    bool    `json:"moisture_measured"`
	FlourG      float64 `json:"weigh_flour_g"`  // to weigh out, also when less was used
	LiquidG     float64 `json:"weigh_liquid_g"` // top-up liquid, likewise
	InWords     Worth   `json:"keep_by_board_as"`
	Used        *Actual `json:"used"` // nil when nothing was weighed back
}

// Worth is what the liquid by the board may be given as instead, g.
type Worth struct {
	EggG  float64 `json:"beaten_egg_g"`
	MilkG float64 `json:"milk_g"`
	OilG  float64 `json:"oil_g"`
}

// Actual is the dough as it was found to be made.
type Actual struct {
	FlourG    float64 `json:"flour_g"`
	LiquidG   float64 `json:"liquid_g"`
	Hw        float64 `json:"hw_points"`
	PlannedHw float64 `json:"planned_hw_points"`
}

// CostPlan is what the batch costs and yields.
type CostPlan struct {
	Currency   string     `json:"currency"`
	Lines      []CostLine `json:"lines"`
	Unpriced   []string   `json:"unpriced"` // what has no price yet
	Total      cost.Money `json:"total"`
	PerPortion cost.Money `json:"per_portion"`
	PerKG      cost.Money `json:"per_kg"` // of sellable pasta
	HandsMin   float64    `json:"hands_on_min"`
	InG        float64    `json:"in_g"`       // everything weighed in
	SellableG  float64    `json:"sellable_g"` // cut, raw
	Yield      float64    `json:"yield"`      // sellable over flour, g/g
}

// CostLine is one thing paid for.
type CostLine struct {
	Name  string     `json:"name"`
	Much  string     `json:"amount"`
	Price cost.Money `json:"price"`
	Unit  string     `json:"unit"` // what the price is for
	Cost  cost.Money `json:"cost"`
}

// KneadPlan is kneading and resting by a school.
type KneadPlan struct {
	School    knead.School `json:"school"`
	SchoolWhy string       `json:"school_why"`    // why that one, when it was left to Hollen
	Own       bool         `json:"own,omitempty"` // the maker's own steps, other than the school's
	Way       knead.Way    `json:"way"`
	Loads     int          `json:"lots"`      // of equal mass
	LoadTurns int          `json:"lot_turns"` // one after the other, by so many people at once
	LoadG     float64      `json:"lot_g"`
	Shared    bool         `json:"shared"`  // each kneads a part of it at the same time, joined again
	LimitG    float64      `json:"limit_g"` // most dough kneaded at once, 0: not known
	Min       float64      `json:"knead_min"`
	Asked     bool         `json:"minutes_asked"` // the maker fixed them
	PeakC     float64      `json:"peak_c"`
	D         float64      `json:"development"` // 0–1, after kneading, rest and the folds planned
	W63Min    float64      `json:"w63_min"`
	TauRMin   float64      `json:"relaxation_tau_min"`
	FoldsMore int          `json:"folds_needed"`
}

// RestPlan is the rest and the dough that comes out of it.
type RestPlan struct {
	Min       float64      `json:"rest_min"`
	Asked     bool         `json:"minutes_asked"`
	Ready     bool         `json:"ready"`
	Lacks     []knead.Lack `json:"short_of"`
	D         float64      `json:"development"`
	T         float64      `json:"tension"`
	U         float64      `json:"water_uptake"`
	TempC     float64      `json:"dough_c"`
	TemperMin float64      `json:"temper_min"` // in the room, until no longer stiff; -1: the room is too cold
	Cold      bool         `json:"in_fridge"`
	OutMin    float64      `json:"out_of_fridge_min"` // mixing to the roller
	// in the fridge, until it reads 7 °C; 0: it rests elsewhere; -1: never
	CoolMin    float64 `json:"cooling_min"`
	ReadyAtMin float64 `json:"ready_at_min"` // from first contact, -1: never
}

// RollPlan is the way from lump to sheet.
type RollPlan struct {
	Machine roll.Machine `json:"machine"`
	roll.Progression
	TargetMM   float64 `json:"target_mm"`
	TargetStop string  `json:"target_stop"`
	Own        bool    `json:"own,omitempty"` // the maker's own way down, other than Hollen's
	Pieces     int     `json:"pieces"`
	Larger     bool    `json:"larger_pieces"` // than usual, so that a ribbon fits the sheet
	Suited     bool    `json:"suited_pieces"` // another number than usual, so that more of the dough becomes pasta
	Better     int     `json:"better_pieces"` // would give more than the maker's own number, 0: none would
	BetterBy   float64 `json:"better_by"`     // share of the dough
	PieceG     float64 `json:"piece_g"`       // as divided
	RolledG    float64 `json:"rolled_g"`      // with the board flour it picks up
	Folds      int     `json:"folded_passes"` // at the widest stop
	SheetsAll  int     `json:"sheets"`
	MetresAll  float64 `json:"metres"`
	MinutesAll float64 `json:"minutes"` // at the roller, one after the other
	Careful    bool    `json:"careful"`
	Calibrated bool    `json:"calibrated"`  // the gaps were measured
	Sure       float64 `json:"sure_within"` // how far the sheet may be off, share
	WaitMin    float64 `json:"last_piece_waits_min"`
	FitsBoard  bool    `json:"fits_board"`            // of a pin's sheet
	AsideG     float64 `json:"set_aside_g,omitempty"` // of the dough, for what is formed from ropes
}

// rounds is the most times the flour is corrected towards portions or dough mass, and
// scanSteps how many steps of scanStep the search looks over, at least, when that does not settle.
const (
	rounds    = 5
	scanSteps = 150
	scanStep  = 1.005
	beside    = 4 // steps tried either side of where it settles
)

// scanFrom is where that search starts, share of the nearest so far; mostFlour times the least
// flour is never passed, however much a round wastes of a narrow sheet.
const (
	scanFrom  = .75
	mostFlour = 6
)

// mostDough is more dough than a gram of flour ever makes (all yolk, strong flour), g.
const mostDough = 1.95

// nearEnough is how far from what was asked an answer settles the search, share. Being short
// counts shortWeighs times.
const (
	nearEnough  = .02
	shortWeighs = 3
	mixedShort  = 10
)

// Make works r out by the house rules ru, its words in metric. A request that is not allowed
// gives joined FieldErrors and no plan.
func Make(ru rules.Rules, r request.Request) (*Plan, error) {
	return MakeIn(measure.Metric, ru, r)
}

// MakeIn is Make with the words in another system of units; figures stay metric.
func MakeIn(in measure.System, ru rules.Rules, r request.Request) (*Plan, error) {
	if err := r.Check(ru); err != nil {
		return nil, err
	}
	if r.ByTheBook {
		ru.Learned = rules.Learned{}
	}
	p := &Plan{Format: Format, Request: r, made: ru, rules: ru.With(ru.Learned), in: in, Learned: ru.Learned.Doc()}
	p.rules.Cut.TrimEndMM, p.rules.Cut.TrimSideMM = request.Or(r.Cut.TrimEnd, ru.Cut.TrimEndMM),
		request.Or(r.Cut.TrimSide, ru.Cut.TrimSideMM)
	if c := r.Eggs.Kind(); c.US() { // the flour is bought where the eggs are
		p.rules.Flour.MilledMoistureWB = ru.Flour.MilledUSMoistureWB
	}
	p.shape = r.Cut.Kind()
	if p.machine = p.asLearned(r.Roll.Kind()); p.shape.Traits().Rope {
		p.machine = roll.Hands()
	}
	p.parts = make([]flour.Part, len(r.Flours))
	for i, f := range r.Flours {
		kind := f.Kind()
		p.parts[i] = flour.Part{Flour: kind, MassG: f.Share, Moisture: kind.Now(p.rules.Flour, f.Keeping(r.MadeOn),
			r.Room.TempC, r.Room.RH)}
	}
	switch r.Amount.By {
	case request.ByFlour, request.ByEaters, request.ByOwn:
		flour, _ := r.Amount.NamedFlourG()
		if r.Amount.OpenG() > 0 {
			flour = p.takesFlour()
		}
		p.work(flour)
	case request.ByEggs:
		p.work(p.FlourForEggs(r.Amount.EggG))
	default:
		p.workTo(r)
	}
	p.explain()
	p.advise()
	p.steps()
	return p, nil
}

// Rules returns the house rules the plan was made by: with its request they make it again.
func (p *Plan) Rules() rules.Rules { return p.made }

// workTo finds the flour that gives the portions or the dough asked for with eggs by weight, and then
// the one near it that suits whole eggs. Sheets and ribbons come in whole numbers, so what a flour
// gives moves in jumps: it corrects the flour by what was got, and where that does not settle halves the flours half a
// per cent apart down
// to where short turns into enough, and takes the nearest there. Of several shapes the one
// served worst counts. Kneading hardly answers to such changes and is left as it was, unless
// that turns out to decide a jump.
func (p *Plan) workTo(r request.Request) {
	want := r.Amount.DoughG
	got := func() float64 { return p.Formula.Dough.MassG }
	if r.Amount.By == request.ByPortions {
		want = 0
		for _, g := range p.wants() {
			want += g
		}
	}
	p.sizing = true
	p.work(roundFlour(want / 1.5))
	if r.Amount.By == request.ByPortions {
		if c := &p.Cut; c.AllMadeG > 0 { // a filling is not made of flour
			want *= c.AllDoughG / c.AllMadeG
		}
		got = func() float64 { return want * p.served() }
	}
	best, off := p.search(want, got, p.size)
	if off > lookOver {
		best = p.dividedOtherwise(want, got, best, off)
	}
	p.sizing = false
	p.work(p.suited(best))
	enough := func() bool { made := got() / want; return made >= 1-nearEnough && made <= 1+p.rules.Eggs.MaxOver }
	if enough() {
		return
	}
	// Whole eggs, or sheets divided otherwise, give less or much more: the least flour that gives enough.
	for f := best; f <= (1+p.rules.Eggs.MaxOver)*best; f += weighStep(best) {
		if p.size(f); enough() {
			p.work(f)
			return
		}
	}
	p.weighs = true
	if len(r.Cut.Also) > 0 { // weighed eggs make a little more or less dough than the search went by
		for f := best; f <= (1+p.rules.Eggs.MaxOver)*best; f += weighStep(best) {
			if p.size(f); got()/want >= 1-nearEnough {
				best = f
				break
			}
		}
	}
	p.work(best)
}

// muchOver is from how much more than was asked on of several shapes it is said, and lookOver from how much on another
// division is looked for,
// share.
const (
	muchOver = .25
	lookOver = .12
)

// dividedOtherwise looks for a division into more or fewer pieces that serves several shapes with less over, and
// returns its flour; best where
// there is none. Sheets come whole, and one sheet more of a shape may be much more than was asked.
func (p *Plan) dividedOtherwise(want float64, got func() float64, best, off float64) float64 {
	p.size(best)
	usual := float64(p.Roll.Pieces)
	if p.Request.Roll.Pieces != nil || p.Pinned() || p.Roped() {
		return best
	}
	chosen := 0.
	for _, by := range []float64{-1, 1, -2, 2, 3} {
		if p.divided = usual + by; p.divided < 1 || p.divided > 2*usual {
			continue
		}
		p.size(best)
		if f, o := p.search(want, got, p.size); o < off-1e-9 {
			best = f
			off = o
			chosen = p.divided
		}
	}
	p.divided = chosen
	for f := best; off >= mixedShort && f < mostFlour*best; f *= scanStep { // short by every division: more flour
		if p.size(f); p.missed(got(), want) < off {
			best, off = f, p.missed(got(), want)
		}
	}
	return best
}

// suited returns the flour, among those no more than 15 % over what is needed, that suits whole eggs best:
// the least of the cost of its eggs and 0.3 for each % over, moved flour included; needed itself where no
// whole number serves, or weight is wished for.
func (p *Plan) suited(needed float64) float64 {
	ru := &p.rules.Eggs
	best, least := needed, math.Inf(1)
	for f := needed; f <= (1+ru.MaxOver)*needed+1e-9; f += weighStep(needed) {
		if ru.OverCost*100*(f/needed-1) >= least {
			break
		}
		_, t := p.eggTask(f)
		if t.ByWeight {
			return needed
		}
		s, ok := t.WholeNumbers()
		over := (f+s.FlourAddG)/needed - 1
		if !ok || over > ru.MaxOver+1e-9 {
			continue
		}
		if cost := s.Cost + ru.OverCost*100*over; cost < least-1e-9 {
			best, least = f, cost
		}
	}
	return best
}

// missed is how far got is from want, share; being short counts more, and where several shapes are asked for, more than
// anything made too
// much: who ordered the second shape is not helped by more of the first.
func (p *Plan) missed(got, want float64) float64 {
	o := got/want - 1
	if o >= 0 {
		return o
	}
	if o < -nearEnough && len(p.Cut.Also) > 0 {
		return mixedShort - o
	}
	return -shortWeighs * o
}

// search returns the flour after which got is nearest want, and by how much it misses; take
// works one flour out.
func (p *Plan) search(want float64, got func() float64, take func(flourG float64)) (best, off float64) {
	least := want / mostDough
	f := p.task.FlourG
	best, off = f, math.Inf(1)
	made := want // by the best
	if g := got(); g > 0 {
		made = g
	}
	try := func(f float64) (settled bool) {
		take(f)
		if o := p.missed(got(), want); o < off && got() > 0 {
			best = f
			off = o
			made = got()
		}
		return off <= nearEnough
	}
	settled := false
	for i := 0; i < rounds && !settled && got() > 0; i++ {
		next := roundFlour(min(max(f*want/got(), least), mostFlour*least))
		if next == f && i > 0 {
			break
		}
		f = next
		settled = try(f)
	}
	if settled {
		return best, off
	}
	// What a flour gives rises with it, in jumps, so what is wanted lies where short turns into
	// enough; a few flours either side of there see the jumps.
	from := max(least, scanFrom*best*min(1, want/made))
	tried := map[int]bool{}
	at := func(step int) (enough bool) {
		if !tried[step] {
			tried[step] = true
			try(roundFlour(from * math.Pow(scanStep, float64(step))))
		}
		return got() >= want
	}
	lo, hi := 0, max(scanSteps, int(math.Log(1.2*best/from)/math.Log(scanStep)))
	for lo+1 < hi {
		if mid := (lo + hi) / 2; at(mid) {
			hi = mid
		} else {
			lo = mid
		}
	}
	for step := lo - beside; step <= hi+beside; step++ {
		at(step)
	}
	return best, off
}

// FlourForEggs returns the flour that eggG g of beaten egg brings to its target, g. What the
// room takes grows a little slower than the flour, so it is found by correcting.
func (p *Plan) FlourForEggs(eggG float64) float64 {
	f := eggG / .56
	for range 12 {
		_, t := p.eggTask(f)
		w := t.Weigh()
		if w.WholeG+w.YolkG <= 0 {
			return f
		}
		f *= eggG / (w.WholeG + w.YolkG)
	}
	return f
}

// FlourFor returns the flour that exactly these grams of whole egg and yolk bring to its
// target with no other liquid, g.
func (p *Plan) FlourFor(wholeG, yolkG float64) float64 {
	f := p.Formula.FlourG
	for range 12 {
		_, t := p.eggTask(f)
		k := t.FlourFactor(wholeG, yolkG)
		if k <= 0 {
			return f
		}
		f *= k
	}
	return f
}

// fineFlourG is the flour under which it is weighed to the gram, above to 5 g.
const fineFlourG = 300

// weighStep is how far apart flours near g are tried, g: as finely as it is weighed, and some 60 of them.
func weighStep(g float64) float64 {
	if g < fineFlourG {
		return 1
	}
	return 5 * math.Ceil(g/2000)
}

// roundFlour rounds to what a kitchen scale and a patient hand weigh, g.
func roundFlour(g float64) float64 {
	if g < fineFlourG {
		return max(math.Round(g), 20)
	}
	return math.Round(g/5) * 5
}

// portionG returns a raw portion, g.
func (p *Plan) portionG() float64 { return request.Or(p.Request.Amount.PortionG, p.shape.PortionG) }

// work takes flourG g through every stage, in the order of work.
func (p *Plan) work(flourG float64) {
	p.mix(flourG)
	p.room()
	p.asUsed()
	p.Formula.Allergens = p.allergens()
	p.knead()
	p.roll()
	p.cut()
	p.dry()
	p.keep()
	p.cook()
	p.cost()
}

// size is the part of work that says how much flourG g of flour gives.
func (p *Plan) size(flourG float64) {
	p.mix(flourG)
	p.roll()
	p.cut()
}

// UnmarshalJSON refuses: a plan read from a document lacks what its words and pictures are made
// from. It is made again from the request in it.
func (p *Plan) UnmarshalJSON([]byte) error {
	return errors.New("a plan is made, not read: make it from its request")
}

// Pinned says whether the sheet is rolled with a pin.
func (p *Plan) Pinned() bool { return p.machine.Tool == dough.Pin }

// In is the system of units the words of the plan are in.
func (p *Plan) In() measure.System { return p.in }
