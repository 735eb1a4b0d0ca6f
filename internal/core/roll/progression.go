package roll

import (
	"fmt"
	"math"

	"hollen/internal/core/rules"
)

// Mode is how the stops are taken.
type Mode string

// The two modes.
const (
	EveryStop Mode = "every"  // one stop after the other, the default
	Fewest    Mode = "fewest" // the fewest passes that stay easy
)

// Fold is how a sheet is folded in the fold phase.
type Fold string

// The ways of folding.
const (
	Thirds Fold = "thirds" // straightens the edges, three layers
	Halves Fold = "halves" // gentler, two layers
)

// Layers is how many layers a fold lays.
func (f Fold) Layers() int {
	if f == Halves {
		return 2
	}
	return 3
}

// UnmarshalText reads a fold; "auto" of older documents took thirds while they went in.
func (f *Fold) UnmarshalText(b []byte) error {
	if *f = Fold(b); *f == "auto" {
		*f = Thirds
	}
	return nil
}

// Lay is what the plan of a progression starts from.
type Lay struct {
	Rules       rules.Roll
	Machine     Machine
	TargetMM    float64 // sheet wanted, mm
	LeastMM     float64 // and no thinner, where a stop gives that, mm; 0: however thin
	MostMM      float64 // nor thicker, mm; 0: however thick
	PieceG      float64 // one piece, g
	DensityG    float64 // g/mL
	T           float64 // tension when rolling starts, 0–1
	D           float64 // development with the folds, 0–1
	ReadyD      float64
	ReadyT      float64
	FatFreePct  float64
	DurumShare  float64
	FatPct      float64 // egg, oil and milk fat, % of flour
	Gluten      float64 // gluten factor 0–1
	OutsideBand float64 // points outside the hydration band, either side
	Folds       int     // folded passes at the widest stop
	Fold        Fold    // how they are folded
	Mode        Mode
	Careful     bool
	LastTwice   bool    // a second pass at the last stop, against spring-back
	BenchMM     float64 // longest sheet the bench takes, mm
	Sheeter     bool
	Pin         bool
	GapOff      float64   // how far a gap may be off, share; 0: they are measured
	Outline     Outline   // of a pin's sheet
	RopeMM      float64   // of a rope, its diameter; 0: a sheet
	Own         []OwnStep // the maker's own way down, empty: by the mode
	StripMM     float64   // strips laid on in it, mm
	TauRMin     float64   // relaxation time of the dough as it is, min
}

// Spring returns the spring-back s, share of the gap.
func (l *Lay) Spring() float64 {
	return l.Rules.SpringBase + l.Rules.SpringTension*l.T + l.Rules.SpringDurum*l.DurumShare
}

// Sheet returns the sheet that leaves a gap at the n-th pass there (1 or 2), mm.
func (l *Lay) Sheet(gapMM float64, n int) float64 { return gapMM * (1 + l.Spring()/float64(n)) }

// Easy returns the largest easy reduction r of the incoming sheet when it goes into gapMM:
//
//	max(.36, .45 − .3max(0,.90−D) − .15max(0,T−.25)) − .004max(0,fat−5) − .20(1−gluten)
//	    + .05 sheeter − .04 if gap < 1.0 − .005 per point outside the band, within .22–.55
func (l *Lay) Easy(gapMM float64) float64 {
	r := &l.Rules
	e := max(r.ReduceRaw, r.ReduceBase-r.ReduceShort*max(0, l.ReadyD-l.D)-r.ReduceTension*max(0, l.T-l.ReadyT)) -
		r.ReduceFat*max(0, l.FatPct-l.FatFreePct) - r.ReduceGluten*(1-l.Gluten) - r.ReduceBand*math.Abs(l.OutsideBand)
	if l.Sheeter {
		e += r.ReduceSheeter
	}
	if gapMM < r.ThinMM {
		e -= r.ReduceThin
	}
	return min(max(e, r.ReduceLow), r.ReduceHigh)
}

// limit is Easy, less what care takes off a skip from stop i to j.
func (l *Lay) limit(i, j int) float64 {
	e := l.Easy(l.Machine.Stops[j].TrueMM())
	if l.Careful && j > i+1 {
		e -= l.Rules.CarefulOff
	}
	return e
}

// TargetStop returns the stop whose sheet comes nearest the target, ties to the thinner: of those whose sheet is
// neither thinner nor thicker than
// is wanted at all, however well or barely the dough has rested, where there is one.
func (l *Lay) TargetStop() int {
	slack, tense := *l, *l
	slack.T, tense.T = 0, l.ReadyT
	nearest := func(from, to float64) int {
		best, miss := -1, math.Inf(1)
		for i, s := range l.Machine.Stops {
			mm := s.TrueMM()
			if m := math.Abs(l.Sheet(mm, 1) - l.TargetMM); slack.Sheet(mm, 1) >= from && tense.Sheet(mm, 1) <= to &&
				m <= miss+1e-9 {
				best, miss = i, m
			}
		}
		return best
	}
	most := l.MostMM
	if most == 0 {
		most = math.Inf(1)
	}
	if within := nearest(l.LeastMM, most); within >= 0 {
		return within
	}
	return max(0, nearest(0, math.Inf(1)))
}

// Pass is one pass through the rollers.
type Pass struct {
	Stop      int     `json:"stop_index"`
	Label     string  `json:"stop"`
	GapMM     float64 `json:"gap_mm"`
	Nth       int     `json:"nth_pass_at_stop"`
	Fold      int     `json:"folded_in"` // 0 flat, 2 book, 3 thirds
	PacketMM  float64 `json:"packet_mm"` // of a folded pass, as folded
	PressMM   float64 `json:"press_mm"`  // press or pin the packet to this before it goes in; 0: it goes in as it is
	InMM      float64 `json:"in_mm"`
	OutMM     float64 `json:"out_mm"`
	Reduction float64 `json:"reduction"` // of the incoming sheet, 0–1; 0 for the fold phase
	Easy      float64 `json:"easy"`      // largest easy reduction here, 0–1; 0 for the fold phase
	Skipped   int     `json:"stops_skipped"`
	LengthMM  float64 `json:"length_mm"`          // of each sheet after the pass
	Sheets    int     `json:"sheets"`             // sheets from one piece at this point
	Halved    bool    `json:"halve_first"`        // cut in half before this pass
	TimeS     float64 `json:"time_s"`             // for all sheets of one piece
	First     First   `json:"first,omitempty"`    // what is done to the sheet before it, of the maker's own way
	RestMin   float64 `json:"rest_min,omitempty"` // of the rest before it, where that is said
	Dust      bool    `json:"dusted,omitempty"`
}

// Folding is how the sheet is folded before the pass, to stand after "fold" or "folded"; "" when
// it goes in flat.
func (x Pass) Folding() string {
	switch x.Fold {
	case 0:
		return ""
	case 4:
		return "ends to the middle, then closed"
	case 2:
		return "in half"
	case 3:
		return "in three"
	}
	return fmt.Sprintf("in %d", x.Fold)
}

// Skip says what would happen if one stop were left out, the one before it taken as usual.
type Skip struct {
	Left      string  `json:"stop_left_out"` // its label
	Stop      int     `json:"stop_index"`
	Reduction float64 `json:"reduction"` // of the incoming sheet, 0–1
	Easy      float64 `json:"easy"`
	Verdict   string  `json:"verdict"` // safe, bold or tearing
	Eased     float64 `json:"eased"`   // the reduction after a second pass at the stop before
	EasedTo   string  `json:"eased_to"`
}

// Progression is the way down from lump to sheet.
type Progression struct {
	Passes    []Pass  `json:"passes"`
	Spring    float64 `json:"spring_back"` // share of gap
	PressedMM float64 `json:"pressed_mm"`  // press or pin the piece to this before the first pass
	SheetMM   float64 `json:"sheet_mm"`
	MissMM    float64 `json:"miss_mm"` // sheet − target
	LengthMM  float64 `json:"length_mm"`
	WidthMM   float64 `json:"sheet_width_mm"` // the machine's, or what the pin gives
	Sheets    int     `json:"sheets_per_piece"`
	Layers    float64 `json:"layers"`
	TimeMin   float64 `json:"minutes_per_piece"`
	Over      int     `json:"passes_over_easy"`
	Skips     []Skip  `json:"skips"`
}

// Plan returns the progression: the fold phase at the widest stop, once flat and then as often
// folded as planned; then the stops by the mode; of a pin, its stages. The folded sheet leaves the
// widest as its second pass there.
//
// Fewest is exact. From that sheet on, over states (stop, 1 or 2 passes), it minimises, in this
// order, total passes; the largest reduction over its limit; the sum of their squares; the stop indexes.
// A step to the very next stop is never barred.
func (l *Lay) Plan() Progression {
	if len(l.Own) > 0 && l.RopeMM == 0 {
		return l.planOwn()
	}
	if l.Pin {
		return l.planPin()
	}
	m := l.Machine
	target := l.TargetStop()
	p := Progression{Spring: l.Spring(), Layers: 1, Passes: make([]Pass, 0, len(m.Stops)+l.Folds+3)}
	p.PressedMM = min(l.Rules.PressedGaps*m.Stops[0].TrueMM(), m.FeedMM)
	thick, sheets := p.PressedMM, 1
	add := func(x Pass) {
		x.Label, x.GapMM = m.Stops[x.Stop].Label, m.Stops[x.Stop].TrueMM()
		x.InMM, x.OutMM = thick, l.Sheet(x.GapMM, max(1, min(x.Nth, 2)))
		whole := LengthMM(l.PieceG, l.DensityG, m.WidthMM, x.OutMM)
		for l.BenchMM > 0 && whole/float64(sheets) > l.BenchMM && sheets < 64 {
			sheets *= 2
			x.Halved = true
		}
		x.LengthMM, x.Sheets = whole/float64(sheets), sheets
		x.TimeS = float64(sheets) * (x.LengthMM/m.SpeedMMPerS + l.Rules.HandlingS)
		if x.Easy > 0 {
			x.Reduction = 1 - x.OutMM/x.InMM
			if x.Reduction > x.Easy+1e-9 {
				p.Over++
			}
		}
		thick = x.OutMM
		p.TimeMin += x.TimeS / 60
		p.Passes = append(p.Passes, x)
	}
	add(Pass{Nth: 1})
	for i := range l.Folds {
		x := Pass{Nth: i + 2, Fold: l.Fold.Layers()}
		if x.PacketMM = float64(x.Fold) * thick; x.PacketMM > l.Rules.PacketGives*m.FeedMM+1e-9 {
			x.PressMM = m.FeedMM
		}
		p.Layers *= float64(x.Fold)
		add(x)
	}
	from := 0
	route := l.route(target)
	if n := len(route); n > 0 && l.LastTwice {
		route[n-1].n = 2
	}
	for _, s := range route {
		for n := 1; n <= s.n; n++ {
			x := Pass{Stop: s.stop, Nth: n}
			if n == 1 {
				x.Skipped = s.stop - from - 1
			}
			if x.Easy = l.Easy(m.Stops[s.stop].TrueMM()); n == 1 {
				x.Easy = l.limit(from, s.stop)
			}
			add(x)
		}
		from = s.stop
	}
	last := p.Passes[len(p.Passes)-1]
	p.SheetMM = last.OutMM
	p.LengthMM = last.LengthMM
	p.WidthMM = m.WidthMM
	p.Sheets = last.Sheets
	p.MissMM = p.SheetMM - l.TargetMM
	p.Skips = l.skips(target)
	return p
}

// step is one stop of a route and how many passes it gets.
type step struct{ stop, n int }

// route returns the stops after the widest, each with its passes.
func (l *Lay) route(target int) []step {
	if l.Mode == Fewest {
		return l.fewest(target)
	}
	out := make([]step, 0, target)
	for i := 1; i <= target; i++ {
		out = append(out, step{i, 1})
	}
	return out
}

// startPasses is how many passes, up to two, the widest stop has had when the way down starts.
func (l *Lay) startPasses() int { return min(2, 1+l.Folds) }

// onward is what the best way on from a stop, after n passes there, comes to.
type onward struct {
	passes  int     // fewest
	largest float64 // of those, the smallest largest ratio of reduction to easy
	squares float64 // of those, the smallest sum of squared ratios
}

// leg is one step down from a stop: to which, with how many passes, at what ratio of its reduction
// to what is easy.
type leg struct {
	step
	ratio float64
}

// sameRatio is the largest difference of ratios, or of their squares, that counts as equal.
const sameRatio = 1e-12

// fewest finds the route down with the fewest passes; of those the one whose largest ratio is
// smallest; of those the one with the smallest sum of squared ratios; then the widest stops first.
// It is exact: one pass of dynamic programming an objective, from the target up, over stops and one
// or two passes at each. A pass over more than is easy is barred unless it goes to the next stop.
func (l *Lay) fewest(target int) []step {
	if target == 0 {
		return nil
	}
	best := make([][3]onward, target+1) // by stop and passes there
	legs := make([][3][]leg, target)
	for i := target - 1; i >= 0; i-- {
		for n := 1; n <= 2; n++ {
			legs[i][n] = l.legs(i, n, target)
			o := onward{passes: math.MaxInt, largest: math.Inf(1), squares: math.Inf(1)}
			for _, x := range legs[i][n] {
				o.passes = min(o.passes, x.n+best[x.stop][x.n].passes)
			}
			for _, x := range legs[i][n] {
				if to := best[x.stop][x.n]; x.n+to.passes == o.passes {
					o.largest = min(o.largest, max(x.ratio, to.largest))
				}
			}
			best[i][n] = o
		}
	}
	// A bold pass here costs nothing more where another pass of the route is bolder.
	most := best[0][l.startPasses()].largest + sameRatio
	allowed := func(i, n int, x leg) bool {
		to := best[x.stop][x.n]
		return x.n+to.passes == best[i][n].passes && max(x.ratio, to.largest) <= most
	}
	for i := target - 1; i >= 0; i-- {
		for n := 1; n <= 2; n++ {
			for _, x := range legs[i][n] {
				if allowed(i, n, x) {
					best[i][n].squares = min(best[i][n].squares, x.ratio*x.ratio+best[x.stop][x.n].squares)
				}
			}
		}
	}
	var route []step
	for at := (step{0, l.startPasses()}); at.stop < target; {
		for _, x := range legs[at.stop][at.n] { // the next stops first
			if allowed(at.stop, at.n,
				x) && x.ratio*x.ratio+best[x.stop][x.n].squares <= best[at.stop][at.n].squares+sameRatio {
				at = x.step
				route = append(route, at)
				break
			}
		}
	}
	return route
}

// legs are the steps down from stop i after n passes there that are not barred, the next stop
// first.
func (l *Lay) legs(i, n, target int) (out []leg) {
	in := l.Sheet(l.Machine.Stops[i].TrueMM(), n)
	for j := i + 1; j <= target; j++ {
		reduction, limit := 1-l.Sheet(l.Machine.Stops[j].TrueMM(), 1)/in, l.limit(i, j)
		if j > i+1 && reduction > limit {
			continue
		}
		out = append(out, leg{step{j, 1}, reduction / limit}, leg{step{j, 2}, reduction / limit})
	}
	return out
}

// skips says for every single stop on the way down what leaving it out would do.
func (l *Lay) skips(target int) []Skip {
	out := []Skip{}
	for i := 0; i+2 <= target; i++ {
		n := 1
		if i == 0 {
			n = l.startPasses()
		}
		s := Skip{Left: l.Machine.Stops[i+1].Label, Stop: i + 1, Easy: l.limit(i, i+2)}
		s.Reduction = 1 - l.Sheet(l.Machine.Stops[i+2].TrueMM(), 1)/l.Sheet(l.Machine.Stops[i].TrueMM(), n)
		s.Eased = 1 - l.Sheet(l.Machine.Stops[i+2].TrueMM(), 1)/l.Sheet(l.Machine.Stops[i].TrueMM(), 2)
		s.Verdict, s.EasedTo = l.Verdict(s.Reduction, s.Easy), l.Verdict(s.Eased, s.Easy)
		out = append(out, s)
	}
	return out
}

// The verdicts on a reduction.
const (
	Safe    = "safe"
	Bold    = "bold"
	Tearing = "tearing"
)

// Verdict says how a reduction stands to what is easy: safe up to it, bold up to 0.10 over, tearing
// beyond.
func (l *Lay) Verdict(reduction, easy float64) string {
	switch {
	case reduction <= easy+1e-9:
		return Safe
	case reduction <= easy+l.Rules.BoldOver+1e-9:
		return Bold
	}
	return Tearing
}

// LengthMM returns the length of a sheet, mm: mass/(ρ·width·thickness), mass in g, ρ in
// g/mL, width and thickness in mm.
func LengthMM(massG, densityGPerML, widthMM, sheetMM float64) float64 {
	return massG / (densityGPerML * 1e-3 * widthMM * sheetMM)
}

// SquareMM returns the thickness of a weighed piece of sheet, mm: m/(ρA), mass in g,
// ρ in g/mL, sides in mm.
func SquareMM(massG, densityGPerML, aMM, bMM float64) float64 {
	return massG / (densityGPerML * 1e-3 * aMM * bMM)
}
