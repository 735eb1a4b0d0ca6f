package flour

import (
	"errors"
	"fmt"
	"math"
	"strings"

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
	switch l.How {
	case SealedTub, PaperBag, OpenBin, Sifted:
	default:
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
	return errors.Join(errs...)
}
