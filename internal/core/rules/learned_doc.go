package rules

import (
	"math"
	"slices"
)

// LearnedDoc is what the log has learned of a batch as a document has it: named, with its units, and to the digits it
// counts with. What nothing is
// known of is left out.
type LearnedDoc struct {
	Water     *LearnedWater   `json:"water,omitempty"`
	Kneading  *LearnedTimes   `json:"kneading_work,omitempty"`
	Resting   *LearnedTimes   `json:"relaxation_time,omitempty"`
	Drying    *LearnedTimes   `json:"drying_minutes,omitempty"`
	Cooking   *LearnedTimes   `json:"pot_seconds,omitempty"`
	Hands     *LearnedTimes   `json:"cutting_minutes,omitempty"`
	Loss      *LearnedTimes   `json:"loss_on_the_board,omitempty"`
	Trimmings *LearnedTimes   `json:"trimmings,omitempty"`
	Shrinkage *LearnedPulls   `json:"ribbons_pull_in,omitempty"`
	Gaps      []LearnedAtStop `json:"roller_gaps,omitempty"`
	Cups      []LearnedOfCup  `json:"cups_of_flour,omitempty"`
	Sacks     []LearnedSack   `json:"sacks_of_flour,omitempty"`
}

// LearnedOfCup is what a cup of a flour weighs here.
type LearnedOfCup struct {
	Flour  string  `json:"flour"` // key
	Cups   int     `json:"cups"`  // it stands on
	G      float64 `json:"g"`
	Within float64 `json:"nine_in_ten_share"`
}

// LearnedWater is how much more water than the book a batch wants, in points of working hydration.
type LearnedWater struct {
	Batches int       `json:"batches"` // it stands on, and sittings of small doughs
	Doughs  int       `json:"sittings,omitempty"`
	Points  float64   `json:"points"`
	SD      float64   `json:"sd_points"`
	Within  float64   `json:"nine_in_ten_points"`
	Parts   []float64 `json:"parts_points,omitempty"` // kitchen, flour, lot, maker, eggs, season
	Last    *LastWord `json:"last,omitempty"`
}

// LearnedTimes is a multiplier of what the book says.
type LearnedTimes struct {
	Looks int     `json:"looks"` // it stands on
	Times float64 `json:"times"`
	From  float64 `json:"from_times"` // nine in ten lie between
	To    float64 `json:"to_times"`
}

// LearnedPulls is the share a ribbon pulls in lengthwise once it is cut.
type LearnedPulls struct {
	Looks  int     `json:"looks"`
	Share  float64 `json:"share"`
	Within float64 `json:"nine_in_ten_share"`
}

// LearnedAtStop is what sheets of a stop are over what its gap says.
type LearnedAtStop struct {
	Stop   string  `json:"stop"`
	Sheets int     `json:"sheets"`
	Times  float64 `json:"times"`
	Within float64 `json:"nine_in_ten_share"`
}

// Doc is what is learned as a document; nil where nothing is.
func (l Learned) Doc() *LearnedDoc {
	times := func(x LearnedBy) *LearnedTimes {
		if x.N == 0 {
			return nil
		}
		return &LearnedTimes{x.N, x.By, x.From, x.To}
	}
	d := LearnedDoc{
		Kneading:  times(l.Knead),
		Resting:   times(l.Rest),
		Drying:    times(l.Dry),
		Cooking:   times(l.Cook),
		Hands:     times(l.Hands),
		Loss:      times(l.Loss),
		Trimmings: times(l.Trim),
	}
	looked := 0
	for _, x := range []LearnedBy{l.Knead, l.Rest, l.Dry, l.Cook, l.Hands, l.Loss, l.Trim} {
		looked += x.N
	}
	none := looked == 0 && l.Hw.N == 0 && l.Shrink.N == 0 && len(l.Gaps) == 0 && len(l.Cups) == 0 && len(l.Sacks) == 0
	if none {
		return nil
	}
	if h := l.Hw; h.N > 0 {
		d.Water = &LearnedWater{h.N, h.Doughs, h.Points, h.SD, h.Within, h.Parts, h.Last}
	}
	if s := l.Shrink; s.N > 0 {
		d.Shrinkage = &LearnedPulls{s.N, s.Share, s.Within}
	}
	for _, g := range l.Gaps {
		d.Gaps = append(d.Gaps, LearnedAtStop{g.Stop, g.N, g.By, g.Within})
	}
	for _, c := range l.Cups {
		d.Cups = append(d.Cups, LearnedOfCup{c.Flour, c.N, c.G, c.Within})
	}
	d.Sacks = slices.Clone(l.Sacks)
	return &d
}

// Learned is what a document says is learned; nothing for none.
func (d *LearnedDoc) Learned() (l Learned) {
	if d == nil {
		return l
	}
	times := func(x *LearnedTimes) LearnedBy {
		if x == nil {
			return LearnedBy{}
		}
		return LearnedBy{x.Looks, x.Times, x.From, x.To}
	}
	l = Learned{
		Knead: times(d.Kneading),
		Rest:  times(d.Resting),
		Dry:   times(d.Drying),
		Cook:  times(d.Cooking),
		Hands: times(d.Hands),
		Loss:  times(d.Loss),
		Trim:  times(d.Trimmings),
	}
	if w := d.Water; w != nil {
		l.Hw = LearnedPoints{N: w.Batches, Doughs: w.Doughs, Points: w.Points, SD: w.SD, Within: w.Within,
			Parts: w.Parts, Last: w.Last}
	}
	if s := d.Shrinkage; s != nil {
		l.Shrink = LearnedShare{s.Looks, s.Share, s.Within}
	}
	for _, g := range d.Gaps {
		l.Gaps = append(l.Gaps, LearnedGap{g.Stop, g.Sheets, g.Times, g.Within})
	}
	for _, c := range d.Cups {
		l.Cups = append(l.Cups, LearnedCup{c.Flour, c.Cups, c.G, c.Within})
	}
	l.Sacks = slices.Clone(d.Sacks)
	return l
}

// Rounded is what is learned to the six decimals documents are written to, so that a plan made from its document is the
// same to the digit.
func (l Learned) Rounded() Learned {
	six := func(all ...*float64) {
		for _, v := range all {
			*v = math.Round(*v*1e6) / 1e6
		}
	}
	for _, x := range []*LearnedBy{&l.Knead, &l.Rest, &l.Dry, &l.Cook, &l.Hands, &l.Loss, &l.Trim} {
		six(&x.By, &x.From, &x.To)
	}
	six(&l.Hw.Points, &l.Hw.SD, &l.Hw.Within, &l.Shrink.Share, &l.Shrink.Within)
	parts := make([]float64, len(l.Hw.Parts))
	for i, v := range l.Hw.Parts {
		parts[i] = v
		six(&parts[i])
	}
	if l.Hw.Parts != nil {
		l.Hw.Parts = parts
	}
	if l.Hw.Last != nil {
		last := *l.Hw.Last
		six(&last.Points)
		l.Hw.Last = &last
	}
	gaps := make([]LearnedGap, len(l.Gaps))
	for i, g := range l.Gaps {
		six(&g.By, &g.Within)
		gaps[i] = g
	}
	if l.Gaps != nil {
		l.Gaps = gaps
	}
	l.Cups = slices.Clone(l.Cups)
	for i := range l.Cups {
		six(&l.Cups[i].G, &l.Cups[i].Within)
	}
	l.Sacks = slices.Clone(l.Sacks)
	for i := range l.Sacks {
		s := &l.Sacks[i]
		six(&s.WB, &s.OffWB, &s.SD, &s.SteadyWB, &s.Bridged, &s.ChangeSD)
	}
	return l
}
