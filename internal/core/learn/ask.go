package learn

import (
	"math"
	"slices"
)

// Question is something worth knowing that a maker could measure; asked where the log says that it pays.
type Question struct {
	What string // moisture of a flour, sheets of a machine
	Of   string // the label of the flour, the key of the machine
}

// The questions.
const (
	AskMoisture = "moisture"
	AskSheets   = "sheets"
	AskEggs     = "eggs"
)

// eggsOff is from what share on eggs weigh off their class.
const eggsOff = .03

// driftRatio is from how much on sheets of a machine are taken to have drifted, share; driftRuns how many makings on
// end.
const (
	driftRatio = .08
	driftRuns  = 2
)

// Questions are what the newest makings ask for: a flour whose last two batches both felt dry, or both wet, has its
// moisture weighed; a
// machine whose sheets of the last two makings that measured any were off by much is measured at three stops; eggs that
// twice weighed
// off their class are weighed, ten of them.
func (l *Log) Questions() (out []Question) {
	last, runs := map[string]int{}, map[string]int{}
	off, eggs := map[string]int{}, map[string]int{}
	for i := range l.entries { // oldest first: what stands at the end is the newest
		e := &l.entries[i]
		if f := e.Evidence.Flour; e.Felt != nil && f != "" {
			side := 0
			if *e.Felt < 0 {
				side = -1
			} else if *e.Felt > 0 {
				side = 1
			}
			if side == last[f] && side != 0 {
				runs[f]++
			} else {
				runs[f] = 1
			}
			last[f] = side
		}
		if r := e.Evidence.EggRatio; r > 0 {
			if math.Abs(r-1) > eggsOff {
				eggs[e.Evidence.Eggs]++
			} else {
				eggs[e.Evidence.Eggs] = 0
			}
		}
		seen := map[string]bool{}
		for _, x := range e.Evidence.Sheets {
			if seen[x.Machine] {
				continue
			}
			seen[x.Machine] = true
			if math.Abs(x.Ratio-1) > driftRatio {
				off[x.Machine]++
			} else {
				off[x.Machine] = 0
			}
		}
	}
	for f, n := range runs {
		if n >= 2 && last[f] != 0 {
			out = append(out, Question{AskMoisture, f})
		}
	}
	for m, n := range off {
		if n >= driftRuns {
			out = append(out, Question{AskSheets, m})
		}
	}
	for k, n := range eggs {
		if n >= driftRuns {
			out = append(out, Question{AskEggs, k})
		}
	}
	slices.SortFunc(out, func(a, b Question) int {
		if a.What != b.What {
			return map[bool]int{true: -1, false: 1}[a.What < b.What]
		}
		return map[bool]int{true: -1, false: 1}[a.Of < b.Of]
	})
	return out
}
