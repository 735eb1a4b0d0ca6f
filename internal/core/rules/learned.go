package rules

// Learned is what a workshop's log says about one batch. Its zero value is nothing learned. It is worked out when a
// batch is
// planned, and kept with what is made.
type Learned struct {
	Hw     LearnedPoints
	Knead  LearnedBy    // work and rest the dough wants
	Rest   LearnedBy    // how slowly it relaxes
	Dry    LearnedBy    // minutes on the rack
	Cook   LearnedBy    // seconds in the pot
	Hands  LearnedBy    // minutes of cutting and forming
	Loss   LearnedBy    // what stays on bowl and board
	Trim   LearnedBy    // trimmings
	Shrink LearnedShare // what a cut ribbon pulls in
	Gaps   []LearnedGap
	Cups   []LearnedCup `json:",omitempty"` // of its flours
	// Sacks are its lots of which something was measured: the air they stood in, their weight, a sample dried.
	Sacks []LearnedSack `json:",omitempty"`
}

// LearnedSack is what a sack of flour holds on the day of a batch, by its history.
type LearnedSack struct {
	Lot string  `json:"lot"`         // key
	WB  float64 `json:"moisture_wb"` // share wet basis
	// OffWB is how far off its level by the air it is reckoned, share: as its last batch was, which the log has taken
	// up.
	OffWB    float64 `json:"off_wb,omitempty"`
	SD       float64 `json:"sd_wb"`     // of it, share
	From     string  `json:"from"`      // air, weight, oven or said: where it was last known
	Since    string  `json:"since"`     // yyyy-mm-dd, when that was
	SteadyWB float64 `json:"steady_wb"` // what the batch's air, as if it had always been so, would say
	Bridged  float64 `json:"bridged"`   // days of air nobody measured
	Held     bool    `json:"held"`      // to what is believed without a measurement
	// ChangeSD is how sure the change since the last logged batch of it is, share; 0: there is none.
	ChangeSD float64 `json:"change_sd_wb,omitempty"`
	Ahead    string  `json:"ahead,omitempty"` // the air assumed from now to the day: week or room
}

// Within is nine in ten of its moisture, share.
func (s *LearnedSack) Within() float64 { return 1.645 * s.SD }

// ChangeWithin is nine in ten of the change, share.
func (s *LearnedSack) ChangeWithin() float64 { return 1.645 * s.ChangeSD }

// Sack is what is known of a lot, nil where nothing is.
func (l *Learned) Sack(lot string) *LearnedSack {
	for i := range l.Sacks {
		if lot != "" && l.Sacks[i].Lot == lot {
			return &l.Sacks[i]
		}
	}
	return nil
}

// LearnedCup is what this kitchen's cup of a flour weighs, by what was weighed at the bench.
type LearnedCup struct {
	Flour  string  // key
	N      int     // cups it stands on
	G      float64 // one of them
	Within float64 // nine in ten, share
}

// Cup is the cup of a flour, nil where none was weighed.
func (l *Learned) Cup(flour string) *LearnedCup {
	for i := range l.Cups {
		if l.Cups[i].Flour == flour {
			return &l.Cups[i]
		}
	}
	return nil
}

// LearnedGap is what sheets of a stop are over what its gap says, by scattered measurements.
type LearnedGap struct {
	Stop   string
	N      int     // sheets it stands on
	By     float64 // times the gap
	Within float64 // nine in ten, share
}

// Gap is the multiplier of a stop, 1 where nothing is learned.
func (l *Learned) Gap(stop string) float64 {
	for _, g := range l.Gaps {
		if g.Stop == stop && g.By > 0 {
			return g.By
		}
	}
	return 1
}

// LearnedPoints is how much more water than the book a batch wants, points of working hydration.
type LearnedPoints struct {
	N      int     // batches it stands on and sittings of small doughs, 0: nothing is learned
	Doughs int     `json:",omitempty"` // of them sittings
	Points float64 // to add to the target
	SD     float64 // standard deviation, points
	Within float64 // nine in ten, points
	// Parts are of Points: kitchen, flour, lot, maker, eggs, season.
	Parts []float64
	// Last is what the newest word alone has changed; nil where there is none that counts.
	Last *LastWord `json:",omitempty"`
}

// LastWord is what somebody said last of a dough, and what that alone has moved.
type LastWord struct {
	On     string  `json:"on"`     // yyyy-mm-dd
	Felt   int     `json:"felt"`   // -2 too dry … 2 too wet
	Points float64 `json:"points"` // of working hydration, with it less without it
}

// LearnedShare is a share and how sure it is.
type LearnedShare struct {
	N      int     // looks it stands on, 0: nothing is learned
	Share  float64 // 0–1
	Within float64 // nine in ten
}

// LearnedBy is a multiplier and how sure it is.
type LearnedBy struct {
	N        int     // looks it stands on, 0: nothing is learned
	By       float64 // times the book
	From, To float64 // nine in ten lie between
}

// K is the multiplier, 1 where nothing is learned.
func (l LearnedBy) K() float64 {
	if l.N == 0 || l.By <= 0 {
		return 1
	}
	return l.By
}

// With returns the rules with what is learned put in, for sums; the target of hydration apart, which moves by points.
func (r Rules) With(l Learned) Rules {
	r.Knead.W63Min *= l.Knead.K()
	r.Knead.TauRelaxMin *= l.Rest.K()
	r.Dry.StillMS, r.Dry.FanMS = r.Dry.StillMS/l.Dry.K(), r.Dry.FanMS/l.Dry.K()
	r.Cook = r.Cook.times(l.Cook.K())
	r.Dough.BowlLossShare = min(.2, r.Dough.BowlLossShare*l.Loss.K())
	for _, s := range []*float64{&r.Cut.StrokeS, &r.Cut.RingS, &r.Cut.FilledS, &r.Cut.FormedS, &r.Cut.ChargePerM,
		&r.Cut.KnifeS, &r.Cut.YolkSetS} {
		*s *= l.Hands.K()
	}
	return r
}

// times returns the rules of the pot with every second of them times k: dough, filling and what is frozen alike.
func (c Cook) times(k float64) Cook {
	for _, s := range []*float64{&c.BaseS, &c.PerMMS, &c.FillReadyS, &c.FillRawS, &c.FrozenMoreS} {
		*s *= k
	}
	return c
}
