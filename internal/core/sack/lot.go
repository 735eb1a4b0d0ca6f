package sack

import (
	"time"

	"hollen/internal/core/flour"
	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
)

// noon is the middle of a day of yyyy-mm-dd, where no hour is known.
func noon(day string) (time.Time, bool) {
	d, err := measure.Day(day)
	if err != nil {
		return time.Time{}, false
	}
	return time.Date(d.Year(), d.Month(), d.Day(), 12, 0, 0, 0, time.Local), true
}

// OfLot returns a lot of a flour as a sack: how it was kept since it was opened, and what was measured of it; false
// where nobody said when it was opened.
func OfLot(ru rules.Flour, me rules.Measure, l *flour.Lot, kind flour.Flour) (s Sack, ok bool) {
	opened, ok := noon(l.OpenedOn)
	if !ok {
		return s, false
	}
	s = Sack{Class: kind.Sorption, StartWB: kind.MilledMoistureWB, StartSD: me.StartSD,
		Kept: []Keep{{At: opened, How: l.How, KG: l.ContainerKG}}}
	if s.StartWB == 0 {
		s.StartWB = ru.MilledMoistureWB
	}
	if at, said := noon(l.MeasuredOn); said && l.MeasuredWB > 0 {
		s.Measured = append(s.Measured, Measurement{At: at, WB: l.MeasuredWB, SD: ru.MeasuredSD})
	}
	for _, e := range l.History {
		if e.At.Before(opened) {
			continue
		}
		last := s.Kept[len(s.Kept)-1]
		switch e.Kind {
		case flour.LotTaken:
			s.Kept = append(s.Kept, Keep{At: e.At, How: last.How, KG: e.G / 1000})
			s.Weighed = append(s.Weighed, Weighing{At: e.At, G: e.G, StepG: e.StepG, After: true})
		case flour.LotMoved:
			s.Kept = append(s.Kept, Keep{At: e.At, How: e.How, KG: e.G / 1000})
			s.Weighed = append(s.Weighed, Weighing{At: e.At}) // what lies on both sides of it is not compared
		case flour.LotWeighed:
			s.Weighed = append(s.Weighed, Weighing{At: e.At, G: e.G, StepG: e.StepG})
		case flour.LotDried:
			s.Dried = append(s.Dried, Dried{At: e.At, WB: e.LostG / e.SampleG, SD: OvenSD(me, e.StepG, e.SampleG)})
		}
	}
	return s, true
}
