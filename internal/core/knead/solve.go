package knead

import (
	"math"

	"hollen/internal/core/rules"
)

// Way is a kneading and resting plan and the dough it leaves.
type Way struct {
	KneadMin    float64 `json:"knead_min"`
	RestMin     float64 `json:"rest_min"`
	Ready       bool    `json:"ready"`
	D           float64 `json:"development"`            // 0–1, at the end of the rest
	DFolded     float64 `json:"development_with_folds"` // 0–1, counting the folds planned
	T           float64 `json:"tension"`                // 0–1, at the end of the rest
	TRoll       float64 `json:"tension_rolling"`        // 0–1, after the folds
	U           float64 `json:"water_uptake"`           // 0–1
	TempC       float64 `json:"dough_c"`
	PeakC       float64 `json:"peak_c"` // at the end of kneading
	MinFoldsFor int     `json:"folds_needed"`
	Short       []Short `json:"short_of,omitempty"` // what is not met, empty when ready
	ColdFromMin float64 `json:"cold_from_min"`      // minutes of rest after which it is under 5 °C, -1 if never
}

// Short is one criterion of readiness that is not met.
type Short struct {
	What  string  `json:"what"` // development, tension or uptake
	Is    float64 `json:"is"`
	Wants float64 `json:"wants"`
}

// Ask is one question to the long school: one kneading by hand, one rest.
type Ask struct {
	Method    rules.Method
	StartC    float64 // the dough as it comes together, °C
	RoomC     float64 // °C
	RestC     float64 // where it rests, °C
	Folds     int     // folded passes planned at the widest stop
	MinRest   float64 // min
	FixKnead  float64 // minutes asked for by the maker, 0 when free
	FixRest   float64 // minutes asked for by the maker, 0 when free
	GlutenBar float64 // gluten factor under which only uptake counts
	ColdBarC  float64 // °C under which the food clock stands
}

// judge fills the figures of a way from the states at its end.
func (d *Dough) judge(a Ask, w *Way, end State) {
	w.D, w.T, w.U, w.TempC = d.D(end), end.T, d.U(end), end.TempC
	folded := d.Folds(end, a.Folds)
	w.DFolded, w.TRoll = d.D(folded), folded.T
	w.Short = nil
	if d.Gluten >= a.GlutenBar {
		if w.DFolded < d.r.ReadyD {
			w.Short = append(w.Short, Short{"development", w.DFolded, d.r.ReadyD})
			w.MinFoldsFor = a.Folds
			for s := folded; d.D(s) < d.r.ReadyD && w.MinFoldsFor < 40; w.MinFoldsFor++ {
				s = d.Folds(s, 1)
			}
		}
		if w.T > d.r.ReadyT {
			w.Short = append(w.Short, Short{"tension", w.T, d.r.ReadyT})
		}
	}
	if w.U < d.r.ReadyU {
		w.Short = append(w.Short, Short{"uptake", w.U, d.r.ReadyU})
	}
	w.Ready = len(w.Short) == 0
}

// ready says whether s passes every criterion, counting the folds.
func (d *Dough) ready(a Ask, s State) bool {
	if d.U(s) < d.r.ReadyU {
		return false
	}
	return d.Gluten < a.GlutenBar || s.T <= d.r.ReadyT && d.dAt(s.Work+s.Credit+d.r.FoldWork*float64(a.Folds)) >= d.r.ReadyD
}

// Long solves the long school: whole minutes of kneading between its bounds and rests in
// steps of five minutes, such that the dough is ready; least elapsed time first, then least
// kneading. Minutes fixed by the maker are kept. When nothing within the school is ready
// it returns the way that falls short of the criteria by the least, and says of which.
func (d *Dough) Long(a Ask) Way {
	r := &d.r
	lo, hi := int(r.LongMinMin), int(r.LongMaxMin)
	var at [61]State
	s := d.Start(a.StartC)
	if a.FixKnead > 0 {
		lo, hi = int(a.FixKnead), int(a.FixKnead)
	}
	hi = min(hi, len(at)-1)
	for m := 1; m <= hi; m++ {
		s = d.Knead(s, a.Method, 1, a.RoomC)
		at[m] = s
	}
	minRest, maxRest := a.MinRest, r.RestMaxMin
	if a.FixRest > 0 {
		minRest, maxRest = a.FixRest, a.FixRest
	}
	best := Way{KneadMin: -1}
	bestEnd, bestMiss := State{}, math.Inf(1)
	for m := lo; m <= hi; m++ {
		// A way found already bounds how long a later one may take.
		limit := maxRest
		if best.KneadMin > 0 && bestMiss == 0 {
			limit = min(limit, best.KneadMin+best.RestMin-float64(m)-.5)
		}
		end, rest := at[m], 0.
		for next := minRest; next <= limit; next += r.RestStepMin {
			end = d.Rest(end, next-rest, a.RestC)
			rest = next
			if d.ready(a, end) {
				best, bestEnd, bestMiss = Way{KneadMin: float64(m), RestMin: rest}, end, 0
				break
			}
		}
		if bestMiss > 0 {
			if miss := d.miss(a, end); miss < bestMiss-1e-9 {
				best, bestEnd, bestMiss = Way{KneadMin: float64(m), RestMin: rest}, end, miss
			}
		}
	}
	best.PeakC = at[int(best.KneadMin)].TempC
	best.ColdFromMin = d.coldAfter(at[int(best.KneadMin)].TempC, a)
	d.judge(a, &best, bestEnd)
	return best
}

// miss returns how far s falls short, summed over the criteria.
func (d *Dough) miss(a Ask, s State) float64 {
	m := max(0, d.r.ReadyU-d.U(s))
	if d.Gluten >= a.GlutenBar {
		m += max(0, s.T-d.r.ReadyT) + max(0, d.r.ReadyD-d.dAt(s.Work+s.Credit+d.r.FoldWork*float64(a.Folds)))
	}
	return m
}

// coldAfter returns the minutes of rest after which a dough at fromC is under the food
// clock's temperature, -1 when the resting place never takes it there.
func (d *Dough) coldAfter(fromC float64, a Ask) float64 {
	switch {
	case fromC <= a.ColdBarC:
		return 0
	case a.RestC >= a.ColdBarC:
		return -1
	}
	return d.TauDMin * math.Log((fromC-a.RestC)/(a.ColdBarC-a.RestC))
}

// TemperMin returns the minutes a dough at tempC needs in a room of roomC until it is no
// longer stiff with cold (12 °C): τd·ln((room − t)/(room − 12)). 0 when it is warm enough,
// -1 when the room is too cold to warm it.
func (d *Dough) TemperMin(r rules.Knead, tempC, roomC float64) float64 {
	switch {
	case tempC >= r.ColdC:
		return 0
	case roomC <= r.ColdC:
		return -1
	}
	return d.TauDMin * math.Log((roomC-tempC)/(roomC-r.ColdC))
}
