package bench

import (
	"math"
	"strings"
	"time"

	"hollen/internal/core/cook"
	"hollen/internal/core/request"
)

// Food is how long the dough has been out of the fridge by what happened: UsedS up to Since, and on from there where
// it runs.
type Food struct {
	UsedS      float64   `json:"used_s"`
	Since      time.Time `json:"since,omitzero"` // zero: it does not run now
	CautionMin float64   `json:"caution_min"`
	DiscardMin float64   `json:"discard_min"`
	// Hung says that it is dried to keep: past the usual advice once, and no more said of it; the clock stops at the
	// weight it keeps at.
	Hung bool `json:"hung,omitempty"`
}

// OutMin is how long it has been out by a moment, min.
func (f Food) OutMin(at time.Time) float64 {
	if !f.Since.IsZero() {
		return (f.UsedS + max(0, at.Sub(f.Since).Seconds())) / 60
	}
	return f.UsedS / 60
}

// food is the food clock: from mixing on, the fridge apart, until the last load is in the pot or it is put away cold.
func (m *Making) food() Food {
	d := &m.Begun.Dry
	f := Food{CautionMin: d.CautionAt, DiscardMin: d.DiscardAt, Hung: m.Begun.Keep.Where == cook.Shelf}
	out := func(at time.Time) {
		if f.Since.IsZero() {
			f.Since = at
		}
	}
	in := func(at time.Time) {
		if !f.Since.IsZero() {
			f.UsedS, f.Since = f.UsedS+max(0, at.Sub(f.Since).Seconds()), time.Time{}
		}
	}
	for _, s := range m.Steps {
		x := m.State.Steps[s.Key]
		switch {
		case x.Began.IsZero() || x.Status == LeftOut:
		case strings.HasPrefix(s.Key, "mix."):
			out(x.Began)
		case s.Cold:
			in(x.Began)
			if !x.Over.IsZero() {
				out(x.Over)
			}
		case s.Kind == Pack && f.Hung && !x.LossAt.IsZero() && x.Loss >= m.keepsAtLoss()-1e-3:
			in(x.LossAt)
		case (s.Kind == Pack || s.Kind == Pot) && !x.Over.IsZero():
			in(x.Over)
		}
	}
	if !m.State.Ended.IsZero() {
		in(m.State.Ended)
	}
	if m.Begun.Dry.CautionAt <= 0 || !m.Begun.Perishable() {
		return Food{}
	}
	return f
}

// KeptAt is when what is dried to keep was weighed at the weight it keeps at; zero before that.
func (m *Making) KeptAt() (at time.Time) {
	for i := range m.Steps {
		x := m.State.Steps[m.Steps[i].Key]
		if m.Steps[i].Station == request.AtDry && x.Loss > 0 && x.Loss >= m.keepsAtLoss()-1e-3 && (at.IsZero() ||
			x.LossAt.Before(at)) {
			at = x.LossAt
		}
	}
	return at
}

// keepsAtLoss is the share of its mass what is dried to keep must lose.
func (m *Making) keepsAtLoss() float64 {
	k := m.Ahead.Dry.ToKeep
	if k == nil || k.RawG <= 0 {
		return 1
	}
	return 1 - k.TargetG/k.RawG
}

// asMeasured gives rack and pot the minutes of the sheet as it was measured, and of what it has lost: weighed, or by
// how
// long it lay.
func (m *Making) asMeasured() {
	p := m.Ahead
	times, weighed := 1., 0. // thickness by the planned one, and the loss the scale said
	sum, n := 0., 0
	for i := range m.Steps {
		s := &m.Steps[i]
		x := m.State.Steps[s.Key]
		if lastOfPiece(m.Steps, i) && x.MM > 0 && s.SheetMM > 0 {
			sum, n = sum+x.MM/s.SheetMM, n+1
		}
	}
	off := n > 0 && math.Abs(sum/float64(n)-1) > p.Rules().Bench.SheetOff
	if off {
		times = sum / float64(n)
	}
	ru := p.Rules().Bench
	for i := range m.Steps {
		s := &m.Steps[i]
		x := m.State.Steps[s.Key]
		switch {
		case x.Loss > 0:
			weighed, off = x.Loss, true
		case s.Kind == Wait && p.Dry.Moment(s.Key) != nil && x.Status == WasDone &&
			math.Abs(x.Took()-s.PlanMin) > math.Max(ru.OtherwiseMin, ru.Otherwise*s.PlanMin):
			off = true
		}
	}
	if !off || p.Roll.SheetMM <= 0 {
		return
	}
	took := func(key string) (float64, bool) {
		x := m.State.Steps[key]
		return x.Took(), x.Status == WasDone
	}
	for i := range m.Steps {
		s := &m.Steps[i]
		if st := m.State.Steps[s.Key].Status; st == WasDone || st == LeftOut {
			continue
		}
		switch {
		case s.Kind == Pot:
			part := s.Part
			tasteFrom, tasteTo := p.PotAs(part, times, m.lossAtPot(part, weighed, took))
			s.Min = tasteFrom / 60
			s.LeastMin = tasteFrom / 60
			s.MostMin = tasteTo / 60
		case p.Dry.Moment(s.Key) != nil:
			if from, to := p.DryAs(p.Dry.Moment(s.Key), times); from > 0 && !p.Dry.Moment(s.Key).Own {
				s.Min = from
				s.LeastMin = from
				s.MostMin = to
				s.Say = p.DryingSays(p.Dry.Moment(s.Key), from, to)
			}
		}
	}
	for i := range m.State.Clocks { // what runs goes by it at once
		c := &m.State.Clocks[i]
		for j := range m.Steps {
			if s := &m.Steps[j]; c.Step == s.Key && (s.Kind == Pot || p.Dry.Moment(s.Key) != nil) {
				c.LengthS = 60 * max(0, s.Min+m.State.Steps[s.Key].MoreMin)
			}
		}
	}
}

// lossAtPot is the share of its mass a shape has lost when it goes into the pot: as it was weighed, else by how long it
// really dried.
func (m *Making) lossAtPot(part int, weighed float64, took func(string) (float64, bool)) float64 {
	p := m.Ahead
	switch {
	case weighed > 0:
		return weighed
	case p.Request.Cook.After != request.AsDried || p.Dry.ToKeep != nil:
		return p.PotLoss(part)
	}
	return min(p.DriedLoss(min(part, len(p.Cut.Also)), took), mostDriedLoss)
}

// mostDriedLoss bounds what drying for minutes may have taken, share. Source: house.
const mostDriedLoss = .3
