package flour

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"hollen/internal/core/cost"
	"hollen/internal/core/measure"
)

// LossOnDrying returns the moisture of a sample, share wet basis, from its mass before and
// after it was dried to constant mass, any one unit: (before − after)/before.
func LossOnDrying(before, after float64) (float64, error) {
	if !(before > 0 && after > 0 && after < before) {
		return 0, fmt.Errorf("%g before and %g after drying: the sample must get lighter and not vanish", before, after)
	}
	return (before - after) / before, nil
}

// Lot is one sack or bag of a flour: when it was opened, how it is kept, what it was measured
// at and what it cost. Dates are yyyy-mm-dd, "" when not known.
type Lot struct {
	Key         string     `json:"key"`
	Name        string     `json:"name"`
	Flour       string     `json:"flour"` // key
	How         Keeping    `json:"kept"`
	ContainerKG float64    `json:"container_kg"`
	OpenedOn    string     `json:"opened_on,omitempty"`
	BestBefore  string     `json:"best_before,omitempty"`
	MeasuredOn  string     `json:"measured_on,omitempty"`
	MeasuredWB  float64    `json:"measured_moisture_wb,omitempty"` // share wet basis, 0: not measured
	PricePerKG  cost.Money `json:"price_per_kg,omitempty"`         // 0: not known
	// History is what was done to it and measured of it, in order of time.
	History []LotEvent `json:"history,omitempty"`
}

// LotEventKind is what happened to a lot.
type LotEventKind string

// What may happen to a lot.
const (
	LotWeighed LotEventKind = "weighed" // closed again, on the scale: G net
	LotTaken   LotEventKind = "taken"   // flour was taken: G net are left
	LotMoved   LotEventKind = "moved"   // tipped into How, G net of it
	LotDried   LotEventKind = "dried"   // a sample of SampleG lost LostG in the oven
	LotDoughs  LotEventKind = "doughs"  // small doughs of it are wrapped and rest
	LotInOven  LotEventKind = "in_oven" // a sample of SampleG went in, with its tin TareG heavier
)

// LotEvent is something that happened to a lot.
type LotEvent struct {
	At      time.Time    `json:"at"`
	Kind    LotEventKind `json:"kind"`
	G       float64      `json:"g,omitempty"`        // net, of what is in it by then
	StepG   float64      `json:"step_g,omitempty"`   // of the scale
	How     Keeping      `json:"kept,omitempty"`     // of a move
	SampleG float64      `json:"sample_g,omitempty"` // of what was dried
	LostG   float64      `json:"lost_g,omitempty"`   // by drying
	TareG   float64      `json:"tare_g,omitempty"`   // of the tin it is in
	By      string       `json:"by,omitempty"`
	Making  uint64       `json:"making,omitempty"` // whose bench said it, 0: none
}

// MostLotEvents is how many things are kept of a lot; the oldest go first.
const MostLotEvents = 60

// Add puts an event into the history, in order of time.
func (l *Lot) Add(e LotEvent) {
	h := append(slices.Clone(l.History), e)
	slices.SortStableFunc(h, func(a, b LotEvent) int { return a.At.Compare(b.At) })
	l.History = h[max(0, len(h)-MostLotEvents):]
}

// Bare is the lot without its history, as a batch carries it: what happened to it stays with the lot.
func (l Lot) Bare() Lot {
	l.History = nil
	return l
}

// InOven is the sample that is in the oven by now, nil where none is.
func (l *Lot) InOven() *LotEvent {
	for i := len(l.History) - 1; i >= 0; i-- {
		switch l.History[i].Kind {
		case LotInOven:
			return &l.History[i]
		case LotDried:
			return nil
		}
	}
	return nil
}

// Remove takes an event of that moment and kind out of the history; false where there is none.
func (l *Lot) Remove(at time.Time, kind LotEventKind) bool {
	n := len(l.History)
	l.History = slices.DeleteFunc(slices.Clone(l.History), func(e LotEvent) bool {
		return e.At.Equal(at) && e.Kind == kind
	})
	return len(l.History) < n
}

// check says what cannot be of an event.
func (e *LotEvent) check() error {
	bad := func(v, least, most float64) bool { return !(v >= least && v <= most) }
	switch {
	case e.At.Year() < 2000 || e.At.Year() > 2199:
		return measure.Faultf("history", "at %s; the years 2000 to 2199 are allowed", e.At)
	case bad(e.StepG, 0, 1000):
		return measure.Faultf("history", "a scale’s step of %g g; 0 to 1,000 g is allowed", e.StepG)
	}
	switch e.Kind {
	case LotWeighed, LotTaken, LotMoved:
		if bad(e.G, 0, 1e6) || e.Kind == LotWeighed && e.G == 0 {
			return measure.Faultf("history", "%g g in it; up to 1,000 kg is allowed", e.G)
		}
		if e.Kind == LotMoved && !e.How.known() {
			return measure.Faultf("history", "moved into %q; sealed_tub, paper_bag, open_bin or sifted is allowed",
				e.How)
		}
	case LotDoughs:
	case LotInOven:
		if bad(e.SampleG, 1, 1000) || bad(e.TareG, 0, 1e5) {
			return measure.Faultf("history", "%g g in a tin of %g g; 1 to 1,000 g are dried", e.SampleG, e.TareG)
		}
	case LotDried:
		if bad(e.SampleG, 1, 1000) || bad(e.LostG/e.SampleG, .08, .16) {
			return measure.Faultf("history", "%g g of %g g lost; 8 to 16 %% is a flour’s", e.LostG, e.SampleG)
		}
	default:
		return measure.Faultf("history", "%q; weighed, taken, moved, in_oven, dried or doughs is allowed", e.Kind)
	}
	return nil
}

// MeasuredDays is how long a measured moisture counts as measured, days; later the flour is
// taken to drift from it. Source: house.
const MeasuredDays = 2

// DaysBetween returns the whole days from one date to a later one, 0 when it is not later,
// and whether both are dates.
func DaysBetween(from, to string) (float64, bool) {
	a, errA := measure.Day(from)
	b, errB := measure.Day(to)
	if errA != nil || errB != nil {
		return 0, false
	}
	return max(0, math.Round(b.Sub(a).Hours()/24)), true
}

// Kept returns how the lot has been kept by that day. openDays stands where a date is not
// known.
func (l Lot) Kept(on string, openDays float64) Kept {
	k := Kept{How: l.How, Days: openDays, MassKG: l.ContainerKG}
	if days, ok := DaysBetween(l.OpenedOn, on); ok {
		k.Days = days
	}
	if l.MeasuredWB > 0 {
		since, ok := DaysBetween(l.MeasuredOn, on)
		if !ok || since <= MeasuredDays {
			m := l.MeasuredWB
			k.MeasuredWB = &m
		} else {
			k.StartWB, k.Days = l.MeasuredWB, since
		}
	}
	return k
}

// Check returns an error for everything in l that cannot be right.
func (l *Lot) Check() error {
	var errs []error
	if n := len([]rune(strings.TrimSpace(l.Name))); n < 1 || n > 60 {
		errs = append(errs, measure.Faultf("name", "%d letters; 1 to 60 are allowed", n))
	}
	if !l.How.known() {
		errs = append(errs, measure.Faultf("kept", "%q; sealed_tub, paper_bag, open_bin or sifted is allowed", l.How))
	}
	if !(l.ContainerKG >= .05 && l.ContainerKG <= 1000) {
		errs = append(errs, measure.Faultf("container_kg", "%g; 0.05 to 1000 kg is allowed", l.ContainerKG))
	}
	for _, d := range []struct{ name, day string }{{"opened_on", l.OpenedOn}, {"best_before", l.BestBefore},
		{"measured_on", l.MeasuredOn}} {
		if _, err := measure.Day(d.day); d.day != "" && err != nil {
			errs = append(errs, fmt.Errorf("%s: %w", d.name, err))
		}
	}
	if l.MeasuredWB != 0 && !(l.MeasuredWB >= .05 && l.MeasuredWB <= .20) {
		errs = append(errs, measure.Faultf("measured_moisture_wb", "%g; 0.05 to 0.20 is allowed", l.MeasuredWB))
	}
	if len(l.History) > MostLotEvents {
		errs = append(errs, measure.Faultf("history", "%d events; at most %d are allowed", len(l.History),
			MostLotEvents))
	}
	for i := range l.History {
		if err := l.History[i].check(); err != nil {
			errs = append(errs, err)
		}
	}
	return errors.Join(errs...)
}
