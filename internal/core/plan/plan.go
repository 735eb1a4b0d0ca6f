// Package plan is the one way through: plan.Make(request.Request) gives the whole Plan of a
// batch, stage by stage in the order of work. It does no sums of its own beyond carrying masses
// from one stage to the next; each stage's sums live in the package of its name.
package plan

import (
	"errors"

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
	// neverDry are the moments at which it was to dry until it is right, and never is in this air.
	neverDry []Moment
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
	OpenG float64 `json:"flour_weighed_out_g,omitempty"`
	// where liquid goes in until it comes together; 0: all that is poured out goes in
	OpenLiquidG float64 `json:"liquid_poured_out_g,omitempty"`
	HeldBackG   float64 `json:"held_back_g"` // of the flour, worked in only if the dough asks
	// with none of it worked in; the dough's own counts all of it
	HwBefore float64      `json:"hw_before_held_back_points"`
	Band     *Band        `json:"band,omitempty"` // by what cups and spoons hold; nil where all is weighed
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

// moisture is a flour's moisture in the room's air, had its humidity been rh; as the history of its sack has it where
// something was measured of it.
func (p *Plan) moisture(kind flour.Flour, f request.FlourPart, rh float64) flour.Moisture {
	r := &p.Request
	kept := f.Keeping(r.MadeOn)
	steady := kind.Now(p.rules.Flour, kept, r.Room.TempC, rh)
	sack := p.made.Learned.Sack(f.Lot)
	if sack == nil || kept.MeasuredWB != nil {
		return steady
	}
	kept.Sack = sack
	m := kind.Now(p.rules.Flour, kept, r.Room.TempC, rh)
	if rh != r.Room.RH { // as much wetter or drier as steady air would have made it
		m.NowWB += steady.NowWB - kind.Now(p.rules.Flour, f.Keeping(r.MadeOn), r.Room.TempC, r.Room.RH).NowWB
	}
	return m
}

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
		ru.Learned = rules.Learned{Sacks: ru.Learned.Sacks} // what a sack holds is measured, not learned
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
		p.parts[i] = flour.Part{Flour: kind, MassG: f.Share, Moisture: p.moisture(kind, f, r.Room.RH)}
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
	p.measured()
	p.steps()
	return p, nil
}

// Rules returns the house rules the plan was made by: with its request they make it again.
func (p *Plan) Rules() rules.Rules { return p.made }

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

// UnmarshalJSON refuses: a plan read from a document lacks what its words and pictures are made
// from. It is made again from the request in it.
func (p *Plan) UnmarshalJSON([]byte) error {
	return errors.New("a plan is made, not read: make it from its request")
}

// Pinned says whether the sheet is rolled with a pin.
func (p *Plan) Pinned() bool { return p.machine.Tool == dough.Pin }

// In is the system of units the words of the plan are in.
func (p *Plan) In() measure.System { return p.in }
