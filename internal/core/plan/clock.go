package plan

import (
	"fmt"
	"math"
	"time"

	"hollen/internal/core/knead"
	"hollen/internal/core/measure"
	"hollen/internal/core/request"
)

// ClockPlan is how the wish to roll at a time can be met. Times are yyyy-mm-ddThh:mm.
type ClockPlan struct {
	StartAt string     `json:"start_at"` // of the batch as it stands
	Fits    bool       `json:"fits"`     // it starts no earlier than may be
	Ways    []ClockWay `json:"ways"`     // room and fridge
}

// ClockWay is one way to meet the wish.
type ClockWay struct {
	Place     request.Place `json:"place"`
	Fits      bool          `json:"fits"`
	StartAt   string        `json:"start_at"`
	RollAt    string        `json:"roll_at"` // as wished; where it does not fit, the nearest possible
	RestMin   float64       `json:"rest_min"`
	TemperMin float64       `json:"temper_min"`
	OutMin    float64       `json:"out_of_fridge_min"` // by the time it is rolled
	Why       string        `json:"why"`
}

// clock works out how the batch can be rolled at the time wished for: from the room, as late
// a start as can be; from the fridge, from the start that is open, or as late as can be when
// none is said, with the tempering that takes the stiffness out.
func (p *Plan) clock() {
	r := &p.Request
	p.Clock = nil
	roll, err := measure.At(r.Clock.RollAt)
	if err != nil {
		return
	}
	from, err := measure.At(r.Clock.From)
	open := err != nil // any start will do
	minutes := func(m float64) time.Duration { return time.Duration(math.Round(m)) * time.Minute }
	c := &ClockPlan{Ways: []ClockWay{}}
	start := roll.Add(-minutes(p.way.ElapsedMin))
	c.StartAt, c.Fits = start.Format(measure.ClockForm), open || !start.Before(from)

	free := p.ask
	free.FixRest, free.TemperMin = nil, 0
	if free.Own != nil { // what a school would do
		_, free, _ = p.solveBy(p.Knead.School, p.loadsBy(p.Knead.School), func(a *knead.Ask) {
			a.FixRest,
				a.TemperMin = nil, 0
		})
	}
	room, cold := free, free
	room.Cold, cold.Cold = false, true
	if !room.School.Traits().Cold {
		w := p.model.Solve(room) // the model is of a load, the way counts them all
		c.Ways = append(c.Ways, p.meet(request.InRoom, w, roll, from, open))
	}
	w := p.model.Solve(cold)
	mixAndWork := w.ElapsedMin - w.RestMin
	long := w.RestMin
	if !open {
		long = min(max(long, roll.Sub(from).Minutes()-mixAndWork), p.rules.Knead.KeepMin)
	}
	// The dough comes out of the fridge early enough to lose its stiffness.
	cold.FixRest = &long
	temper := max(0, p.model.TemperFor(p.model.Solve(cold).TempC, r.Room.TempC))
	if cold.ChillG > 0 {
		temper = min(temper, p.rules.Knead.TemperPieceMin)
	}
	temper = 5 * math.Ceil(temper/5)
	rest := max(w.RestMin, 5*math.Floor((long-temper)/5))
	cold.FixRest, cold.TemperMin = &rest, temper
	c.Ways = append(c.Ways, p.meet(request.InFridge, p.model.Solve(cold), roll, from, open))
	p.Clock = c
}

// meet sets a way against the wish.
func (p *Plan) meet(place request.Place, w knead.Way, roll, from time.Time, open bool) ClockWay {
	elapsed := time.Duration(math.Round(w.ElapsedMin)) * time.Minute
	c := ClockWay{Place: place, RestMin: w.RestMin, OutMin: p.mixMin() + w.OutMin, Fits: true}
	for _, s := range w.Steps {
		if place == request.InFridge && s.By == knead.InRoom && s.Min == p.temperOf(w) {
			c.TemperMin = s.Min
		}
	}
	start := roll.Add(-elapsed)
	work := fmt.Sprintf("%s of mixing and kneading, %s of rest", measure.Minutes(w.ElapsedMin-w.RestMin-c.TemperMin),
		measure.Minutes(w.RestMin))
	switch {
	case !w.Ready:
		c.Fits = false
		c.Why = "This way the dough is never quite ready: see the notes. "
	case !open && start.Before(from):
		c.Fits = false
		start = from
		roll = from.Add(elapsed)
		c.Why = fmt.Sprintf("Not before %s: %s, until tension and water are right.", measure.ClockWords(roll, from),
			work)
	case place == request.InRoom:
		c.Why = fmt.Sprintf("%s; ready just then.", measure.Capital(work))
	default:
		c.Why = fmt.Sprintf("%s in the fridge", measure.Capital(work))
		if c.TemperMin > 0 {
			c.Why += fmt.Sprintf(", %s out of it to lose the stiffness", measure.Minutes(c.TemperMin))
		}
		c.Why += "."
	}
	if limit := p.cautionAt(); c.OutMin > limit {
		c.Why += fmt.Sprintf(" Out of the fridge for %s: over %s is long for egg.", measure.Minutes(c.OutMin),
			measure.Minutes(limit))
	}
	c.StartAt, c.RollAt = start.Format(measure.ClockForm), roll.Format(measure.ClockForm)
	return c
}

// temperOf is the last step of a way from the fridge, when it lies in the room, min.
func (p *Plan) temperOf(w knead.Way) float64 {
	if n := len(w.Steps); n > 1 && w.Steps[n-1].By == knead.InRoom && w.Steps[n-2].By == knead.InFridge {
		return w.Steps[n-1].Min
	}
	return 0
}
