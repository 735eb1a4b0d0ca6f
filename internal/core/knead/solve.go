package knead

import (
	"math"
	"slices"

	"hollen/internal/core/rules"
)

// Tool is what works the dough in a step.
type Tool string

// The tools of kneading, and the places of rest.
const (
	ByHand      Tool = "hand"
	BySlowHook  Tool = "slow_hook"
	ByHook      Tool = "hook"
	ByProcessor Tool = "processor"
	InRoom      Tool = "room"
	InFridge    Tool = "fridge"
)

// Step is one stretch of work or rest.
type Step struct {
	By     Tool    `json:"by"`
	Min    float64 `json:"min"`
	Spread bool    `json:"in_pieces,omitempty"` // lies divided, or flat, so that it cools and warms faster

	Lies    string `json:"-"` // how it is covered, where the maker says
	Adds    string `json:"-"` // what goes in before it, in the maker's words
	Tempers bool   `json:"-"` // it loses the chill of the fridge, as the maker says
	lies    lies
	once    bool // done on all the dough at once
}

// of is the step with other minutes.
func (s Step) of(minutes float64) Step {
	s.Min = minutes
	return s
}

// Rests says whether the dough is left alone in the step.
func (s Step) Rests() bool { return s.By == InRoom || s.By == InFridge }

// Way is a kneading and resting plan and the dough it leaves.
type Way struct {
	School     School  `json:"school"`
	Steps      []Step  `json:"steps"`             // from first contact of flour and water
	KneadMin   float64 `json:"knead_min"`         // of one kneading by the school's last tool
	Turns      int     `json:"turns"`             // how often
	Uneven     bool    `json:"uneven,omitempty"`  // they are not of one length, knead_min is the last
	RestMin    float64 `json:"rest_min"`          // the last rest
	Folds      int     `json:"folded_passes"`     // at the widest stop, counted on
	WorkMin    float64 `json:"work_min"`          // all kneading of a load, as long as it takes
	HandsMin   float64 `json:"hands_on_min"`      // mixing, hand kneading, folded passes
	WaitMin    float64 `json:"lots_wait_min"`     // the first load, covered, for the last
	ElapsedMin float64 `json:"elapsed_min"`       // from mixing to the roller, every load counted
	ReadyAtMin float64 `json:"ready_at_min"`      // from first contact, to the minute, -1 when it never is
	OutMin     float64 `json:"out_of_fridge_min"` // from first contact to the roller
	// from the fridge's door until it reads 7 °C, 0: it rests elsewhere; -1: never
	CoolMin     float64 `json:"cooling_min"`
	Ready       bool    `json:"ready"`
	D           float64 `json:"development"`            // 0–1, at the end of the rest
	DFolded     float64 `json:"development_with_folds"` // 0–1, counting the folds planned
	T           float64 `json:"tension"`                // 0–1, at the end of the rest
	TRoll       float64 `json:"tension_rolling"`        // 0–1, after the folds
	U           float64 `json:"water_uptake"`           // 0–1
	TempC       float64 `json:"dough_c"`
	PeakC       float64 `json:"peak_c"` // the warmest it gets
	MinFoldsFor int     `json:"folds_needed"`
	Lacks       []Lack  `json:"short_of,omitempty"` // what is not met, empty when ready
}

// Lack is one criterion of readiness that is not met.
type Lack struct {
	What  string  `json:"what"` // development, tension or uptake
	Is    float64 `json:"is"`
	Wants float64 `json:"wants"`
}

// Ask is one question: how is this dough worked by this school? Pointers are what the maker
// fixed, nil when free.
type Ask struct {
	School    School
	StartC    float64 // the dough as it comes together, °C
	RoomC     float64 // °C
	FridgeC   float64 // °C
	Cold      bool    // the last rest is in the fridge
	Pin       bool    // no folds to count
	MinRest   float64 // min
	FixKnead  *float64
	FixTurns  *float64
	FixRest   *float64
	FixFolds  *float64
	TemperMin float64 // in the room after the fridge
	ChillG    float64 // mass of each piece the last rest is divided into, g, 0: whole
	FlatMM    float64 // how flat it is pressed for it, mm, 0: a lump
	Turns     int     // loads kneaded one after the other, 0 and 1: all at once
	MoreKnead float64 // kneaded on at the board, min
	MoreRest  float64 // rested on, min
	FoldMin   float64 // hands on the machine for one folded pass of every piece, min
	GlutenBar float64 // gluten factor under which only uptake counts
	Own       *Own    // the maker's own way, nil: by the school
}

// last is where the last rest is.
func (a Ask) last() Tool {
	if a.Own != nil {
		if rest, ok := a.Own.lastRest(); ok {
			return rest.By
		}
		return InRoom
	}
	if a.Cold || a.School.Traits().Cold {
		return InFridge
	}
	return InRoom
}

// Fridge says whether the last rest is in the fridge.
func (a Ask) Fridge() bool { return a.last() == InFridge }

// outline is what a school may do before the last rest.
type outline struct {
	steps []Step
	knead float64
	turns int
}

// minutes are the kneadings between lo and hi, whole minutes, or what the maker fixed.
func (a Ask) minutes(lo, hi float64) (out []float64) {
	if a.FixKnead != nil {
		return []float64{*a.FixKnead}
	}
	for m := lo; m <= hi; m++ {
		out = append(out, m)
	}
	return out
}

// outlines lists what the school may do, least work first, and what was kneaded on after it.
func (a Ask) outlines(r *rules.Knead) []outline {
	out := a.School.Traits().outlines(a, r)
	if a.MoreKnead > 0 {
		for i := range out {
			out[i].steps = append(out[i].steps, Step{By: ByHand, Min: a.MoreKnead})
		}
	}
	return out
}

// rests returns the shortest and longest last rest.
func (a Ask) rests(r *rules.Knead) (lo, hi float64) {
	if a.FixRest != nil {
		return *a.FixRest, *a.FixRest
	}
	return a.School.Traits().rests(a, r)
}

// folds returns the fewest and most folded passes.
func (a Ask) folds(r *rules.Knead) (lo, hi int) {
	switch {
	case a.Pin:
		return 0, 0 // no stop to fold at
	case a.FixFolds != nil:
		return int(*a.FixFolds), int(*a.FixFolds)
	}
	from, to := a.School.Traits().folds(r)
	return int(from), int(to)
}

// method returns the work and heat of a tool.
func (d *Dough) method(t Tool) rules.Method {
	switch t {
	case BySlowHook:
		return d.r.HookSlow
	case ByHook:
		return d.r.Hook
	case ByProcessor:
		return d.r.Processor
	case ByMixing:
		return rules.Method{}
	}
	return d.r.Hand
}

// lie is a rest after the last kneading.
func (a Ask) lie(where Tool, minutes float64) Step {
	return Lie(where, minutes, a.ChillG, a.FlatMM)
}

// waits is how long the first load waits for the last after a stretch of work of so many minutes.
func (a Ask) waits(minutes float64) float64 { return float64(max(a.Turns, 1)-1) * minutes }

// Lying returns the time constant of the dough as it lies, divided or flat, min: of a lump
// 75·√(mass/500); h mm flat no more than 2.5·h.
func (d *Dough) Lying(a Ask) float64 { return d.lying(lies{a.ChillG, a.FlatMM}) }

func (d *Dough) lying(l lies) float64 {
	tau := d.TauDMin
	if l.chillG > 0 {
		tau = d.r.CoolTauMin * math.Sqrt(l.chillG/500)
	}
	if l.flatMM > 0 {
		tau = min(tau, d.r.FlatTauMin*l.flatMM)
	}
	return tau
}

// CoolingMin returns how long a dough at tempC takes in a fridge of fridgeC until it reads toC, min;
// -1: never. tau is its time constant, min.
func CoolingMin(tempC, fridgeC, toC, tau float64) float64 {
	switch {
	case tempC <= toC:
		return 0
	case fridgeC >= toC:
		return -1
	}
	return tau * math.Log((tempC-fridgeC)/(toC-fridgeC))
}

// take follows s through one step.
func (d *Dough) take(s State, st Step, a Ask) State {
	if st.Spread {
		divided := *d
		divided.TauDMin = d.lying(st.lies)
		d = &divided
	}
	switch st.By {
	case InRoom:
		return d.Rest(s, st.Min, a.RoomC)
	case InFridge:
		out := s.OutMin
		s = d.Rest(s, st.Min, a.FridgeC)
		s.OutMin = out // the minutes count out of the fridge
		return s
	}
	return d.Knead(s, d.method(st.By), st.Min, a.RoomC)
}

// Worked returns the work and the rest credit of a dough after those steps of a way, min of hand kneading: what its
// development goes by.
func (d *Dough) Worked(a Ask, steps []Step) float64 {
	s := d.Start(a.StartC)
	for _, st := range steps {
		s = d.take(s, st, a)
	}
	return s.Work + s.Credit
}

// Of is the step as it was taken, in min.
func (s Step) Of(minutes float64) Step { return s.of(minutes) }

// WorkPerMin is the work of a minute with a tool, min of hand kneading.
func (d *Dough) WorkPerMin(t Tool) float64 { return d.method(t).Work }

// after is what follows the last rest before the roller: what was rested on, and tempering.
func (a Ask) after() []Step {
	var out []Step
	if a.MoreRest > 0 {
		out = append(out, a.lie(InRoom, a.MoreRest))
	}
	if a.TemperMin > 0 && a.last() == InFridge {
		out = append(out, a.lie(InRoom, a.TemperMin))
	}
	return out
}

// foldsFor returns the fewest folds within the ask after which s is ready, -1 when none are.
func (d *Dough) foldsFor(a Ask, s State) int {
	lo, hi := a.folds(&d.r)
	if d.U(s) < d.r.ReadyU {
		return -1
	}
	if d.Gluten < a.GlutenBar {
		return lo
	}
	if s.T > d.r.ReadyT {
		return -1
	}
	for n := lo; n <= hi; n++ {
		if d.dAt(s.Work+s.Credit+d.r.FoldWork*float64(n)) >= d.r.ReadyD {
			return n
		}
	}
	return -1
}

// miss returns how far s falls short with the most folds, summed over the criteria.
func (d *Dough) miss(a Ask, s State) float64 {
	m := max(0, d.r.ReadyU-d.U(s))
	if d.Gluten >= a.GlutenBar {
		_, hi := a.folds(&d.r)
		m += max(0, s.T-d.r.ReadyT) + max(0, d.r.ReadyD-d.dAt(s.Work+s.Credit+d.r.FoldWork*float64(hi)))
	}
	return m
}

// hopeless says whether no rest can bring s to its development.
func (d *Dough) hopeless(a Ask, s State) bool {
	_, hi := a.folds(&d.r)
	return d.Gluten >= a.GlutenBar && d.dAt(s.Work+max(s.Credit, d.r.CreditMax)+d.r.FoldWork*float64(hi)) < d.r.ReadyD
}

// nearEnough is a difference in what is missed that is not worth waiting for.
const nearEnough = .002

// Solve returns the school's way for this dough: whole minutes of kneading between the school's
// bounds and rests in steps of five minutes, such that the dough is ready counting the folds
// planned; the least of (elapsed + 2 × hands-on kneading, a folded pass counting half a minute),
// then least kneading, then fewest folds. What the maker fixed is kept, and a rest of theirs is not made up for by
// kneading past the usual. When nothing within the
// school is ready it keeps the school's usual minutes, rests longer where that serves or until no
// more is gained, and says of what it falls short.
func (d *Dough) Solve(a Ask) Way {
	if a.Own != nil {
		return d.own(a)
	}
	lo, hi := a.rests(&d.r)
	best, least := Way{}, math.Inf(1)
	found := false
	var was outline
	var s State
	for _, o := range a.outlines(&d.r) {
		s = d.through(o, was, s, a)
		was = o
		if d.hopeless(a, s) {
			continue
		}
		// A way found already bounds how long a later one may take.
		before := a.weight(o)
		if rest, folds, ok := d.restFor(a, s, lo, min(hi, least-before)); ok {
			if w := before + rest + 2*d.r.FoldHandsMin*float64(folds); w < least-1e-9 {
				best = a.way(o, rest, folds)
				least = w
				found = true
			}
		}
	}
	if !found || d.kneadsForRest(a, best) {
		best = d.usually(a, lo, hi)
	}
	d.finish(a, &best)
	return best
}

// kneadsForRest says whether a way kneads longer than the school usually does only for what the maker's own rest
// leaves out, tension or uptake: a minute more of rest does that better, and is said.
func (d *Dough) kneadsForRest(a Ask, w Way) bool {
	if a.FixRest == nil || a.FixKnead != nil || a.FixTurns != nil {
		return false
	}
	o := a.School.Traits().usual(a, &d.r)
	if o.turns != w.Turns || o.knead >= w.KneadMin {
		return false
	}
	s := d.settle(d.take(d.through(o, outline{}, State{}, a), a.lie(a.last(), *a.FixRest), a), a)
	_, hi := a.folds(&d.r)
	return d.dAt(s.Work+s.Credit+d.r.FoldWork*float64(hi)) >= d.r.ReadyD
}

// usually is the way where nothing within the school is ready: its usual minutes, and a rest past the
// school's where that is all it takes; else the rest that leaves least missing.
func (d *Dough) usually(a Ask, lo, hi float64) Way {
	o := a.School.Traits().usual(a, &d.r)
	s := d.through(o, outline{}, State{}, a)
	longest := hi
	if a.FixRest == nil {
		longest = max(hi, d.r.RestMaxMin)
	}
	if rest, folds, ok := d.restFor(a, s, lo, longest); ok {
		return a.way(o, rest, folds)
	}
	w := a.way(o, d.restNearest(a, s, lo, hi), 0)
	if w.Folds = int(d.usualFolds(a)); a.FixFolds != nil && !a.Pin {
		w.Folds = int(*a.FixFolds)
	}
	return w
}

// usualFolds are the folded passes of a school where nothing else decides.
func (d *Dough) usualFolds(a Ask) float64 {
	lo, hi := a.folds(&d.r)
	return math.Round(float64(lo+hi) / 2)
}

// weight is what an outline counts before its last rest: its minutes, over all loads, and twice the
// hands-on kneading.
func (a Ask) weight(o outline) float64 {
	sum, run := 0., 0.
	for _, st := range o.steps {
		sum += st.Min
		if run += st.Min; st.Rests() {
			run = 0
		}
		if st.By == ByHand {
			sum += 2 * st.Min * float64(max(a.Turns, 1))
		}
	}
	return sum + a.waits(run)
}

// through takes the dough through an outline; from the end of another (state s) where this one
// only goes on with its last step.
func (d *Dough) through(o, was outline, s State, a Ask) State {
	n := len(o.steps)
	on := n > 0 && n == len(was.steps) && slices.Equal(o.steps[:n-1], was.steps[:n-1]) &&
		o.steps[n-1].By == was.steps[n-1].By &&
		o.steps[n-1].Min > was.steps[n-1].Min
	if on {
		return d.take(s, Step{By: o.steps[n-1].By, Min: o.steps[n-1].Min - was.steps[n-1].Min}, a)
	}
	s = d.Start(a.StartC)
	for _, st := range o.steps {
		s = d.take(s, st, a)
	}
	return s
}

// restFor returns the shortest last rest between lo and hi after which s is ready, and the
// folds it takes.
func (d *Dough) restFor(a Ask, s State, lo, hi float64) (rest float64, folds int, ok bool) {
	at := 0.
	for next := lo; next <= hi; next += d.r.RestStepMin {
		s = d.take(s, a.lie(a.last(), next-at), a)
		at = next
		if n := d.foldsFor(a, d.settle(s, a)); n >= 0 {
			return next, n, true
		}
	}
	return 0, 0, false
}

// settle follows s from the last rest to the roller.
func (d *Dough) settle(s State, a Ask) State {
	for _, st := range a.after() {
		s = d.take(s, st, a)
	}
	return s
}

// restNearest returns the last rest after which s falls short by the least, the shortest of
// those that do not differ.
func (d *Dough) restNearest(a Ask, s State, lo, hi float64) float64 {
	best := lo
	least := math.Inf(1)
	at := 0.
	for next := lo; next <= hi; next += d.r.RestStepMin {
		s = d.take(s, a.lie(a.last(), next-at), a)
		at = next
		if m := d.miss(a, d.settle(s, a)); m < least-nearEnough {
			best, least = next, m
		}
	}
	return best
}

// way puts an outline and its last rest together.
func (a Ask) way(o outline, rest float64, folds int) Way {
	w := Way{School: a.School, KneadMin: o.knead, Turns: o.turns, RestMin: rest, Folds: folds}
	w.Steps = append(append([]Step{}, o.steps...), a.lie(a.last(), rest))
	if rest == 0 {
		w.Steps = w.Steps[:len(w.Steps)-1]
	}
	w.Steps = append(w.Steps, a.after()...)
	return w
}

// finish follows the way from the start and fills in what it leaves: of a load, and over all loads the
// minutes.
func (d *Dough) finish(a Ask, w *Way) {
	mix, machine := d.mixing(a)
	s := d.Start(a.StartC)
	at := 0.
	run := 0.
	paused := 0.
	turns := float64(max(a.Turns, 1))
	w.PeakC = s.TempC
	w.HandsMin = mix
	w.ElapsedMin = mix
	w.ReadyAtMin = -1
	if machine && len(w.Steps) > 0 && !w.Steps[0].Rests() && w.Steps[0].InTurn() { // a bowl is filled load by load
		run = mix
		w.HandsMin += (turns - 1) * mix
	}
	for i, st := range w.Steps {
		if st.Rests() && !hasWork(w.Steps[i+1:]) {
			if st.By == InFridge {
				w.CoolMin = CoolingMin(s.TempC, a.FridgeC, d.coolC, d.lying(st.lies))
			}
			s = d.watch(a, w, s, st, at)
		} else {
			s = d.take(s, st, a)
		}
		at += st.Min
		w.PeakC = max(w.PeakC, s.TempC)
		w.ElapsedMin += st.Min
		switch {
		case !st.Rests():
			if !st.once {
				run += st.Min
			}
			if st.By != ByMixing {
				w.WorkMin += st.Min
			}
		case hasWork(w.Steps[i+1:]):
			if paused += st.Min; !w.Steps[i+1].Rests() { // the others have their turn meanwhile
				w.WaitMin += max(0, a.waits(run)-paused)
				run, paused = 0, 0
			}
		}
		if st.By == ByHand || st.By == ByProcessor || st.By == ByMixing {
			w.HandsMin += st.Min * a.times(st)
		}
	}
	w.WaitMin += a.waits(run)
	w.ElapsedMin += w.WaitMin
	w.HandsMin += float64(w.Folds) * a.FoldMin
	if w.ReadyAtMin < 0 && d.readyWith(a, s, w.Folds) {
		w.ReadyAtMin = at
	}
	if w.ReadyAtMin >= 0 {
		w.ReadyAtMin += w.WaitMin
	}
	w.D = d.D(s)
	w.T = s.T
	w.U = d.U(s)
	w.TempC = s.TempC
	w.OutMin = s.OutMin + w.WaitMin
	folded := d.Folds(s, w.Folds)
	w.DFolded, w.TRoll = d.D(folded), folded.T
	d.lacks(a, w, folded)
}

// lacks says what the dough of a way lacks where it is to be rolled, and how many folds would give it what kneading did
// not.
func (d *Dough) lacks(a Ask, w *Way, folded State) {
	w.Lacks = nil
	if d.Gluten >= a.GlutenBar {
		if w.DFolded < d.r.ReadyD {
			w.Lacks = append(w.Lacks, Lack{"development", w.DFolded, d.r.ReadyD})
			if !a.Pin {
				w.MinFoldsFor = w.Folds
				for x := folded; d.D(x) < d.r.ReadyD && w.MinFoldsFor < mostFolds; w.MinFoldsFor++ {
					x = d.Folds(x, 1)
				}
			}
		}
		if w.T > d.r.ReadyT {
			w.Lacks = append(w.Lacks, Lack{"tension", w.T, d.r.ReadyT})
		}
	}
	if w.U < d.r.ReadyU {
		w.Lacks = append(w.Lacks, Lack{"uptake", w.U, d.r.ReadyU})
	}
	w.Ready = len(w.Lacks) == 0
}

// mixing is how long flour and liquids take to hang together, min, and whether in a machine.
func (d *Dough) mixing(a Ask) (minutes float64, machine bool) {
	switch {
	case a.Own != nil:
		return a.Own.MixMin, a.Own.Machine
	case a.School.Traits().Machine():
		return d.r.MixMachineMin, true
	}
	return d.r.MixHandMin, false
}

// mostFolds is where the search for folds that finish a dough stops.
const mostFolds = 40

// watch takes s through a rest that ends the way, minute by minute, and notes when it may be
// rolled.
func (d *Dough) watch(a Ask, w *Way, s State, st Step, at float64) State {
	for m := 0.; m < st.Min; m++ {
		if w.ReadyAtMin >= 0 {
			return d.take(s, st.of(st.Min-m), a)
		}
		if d.readyWith(a, s, w.Folds) {
			w.ReadyAtMin = at + m
		}
		s = d.take(s, st.of(min(1, st.Min-m)), a)
	}
	return s
}

func hasWork(steps []Step) bool {
	for _, s := range steps {
		if !s.Rests() {
			return true
		}
	}
	return false
}

// readyWith says whether s passes every criterion counting n folds.
func (d *Dough) readyWith(a Ask, s State, n int) bool {
	f := float64(n)
	a.FixFolds = &f
	return d.foldsFor(a, s) >= 0
}

// Through returns the dough at the end of its way.
func (d *Dough) Through(a Ask, w Way) State {
	s := d.Start(a.StartC)
	for _, st := range w.Steps {
		s = d.take(s, st, a)
	}
	return s
}

// RestOn leaves s where it rests for so many more minutes.
func (d *Dough) RestOn(a Ask, s State, minutes float64) State {
	return d.take(s, a.lie(a.last(), minutes), a)
}

// Moment is the dough at one minute of its way.
type Moment struct {
	Min    float64 `json:"min"` // from first contact
	D      float64 `json:"development"`
	T      float64 `json:"tension"`
	U      float64 `json:"water_uptake"`
	TempC  float64 `json:"dough_c"`
	OutMin float64 `json:"out_of_fridge_min"`
}

// Follow returns the dough along its way, a moment every so many minutes and one at the end
// of every step.
func (d *Dough) Follow(a Ask, w Way, every float64) []Moment {
	s, at := d.Start(a.StartC), 0.
	var out []Moment
	note := func() { out = append(out, Moment{at, d.D(s), s.T, d.U(s), s.TempC, s.OutMin}) }
	note()
	for _, st := range w.Steps {
		for left := st.Min; left > 1e-9; {
			dt := min(every, left)
			s = d.take(s, st.of(dt), a)
			at = at + dt
			left = left - dt
			note()
		}
	}
	return out
}

// TemperFor returns the minutes a dough at tempC needs in a room of roomC until it is no
// longer stiff with cold (12 °C): τd·ln((room − t)/(room − 12)). 0 when it is warm enough,
// -1 when the room is too cold to warm it.
func (d *Dough) TemperFor(tempC, roomC float64) float64 {
	switch {
	case tempC >= d.r.ColdC:
		return 0
	case roomC <= d.r.ColdC:
		return -1
	}
	return d.TauDMin * math.Log((roomC-tempC)/(roomC-d.r.ColdC))
}
