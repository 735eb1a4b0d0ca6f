package bench

import (
	"strings"

	"hollen/internal/core/measure"
)

// Paused says that the clock of a step stands.
type Paused struct {
	Step string `json:"step"`
}

func (Paused) what() What     { return "paused" }
func (x Paused) step() string { return x.Step }
func (Paused) check() error   { return nil }
func (x Paused) bear(f *folding, e *Event) {
	if p := f.at(x.Step); p.Status == Running && p.PausedAt.IsZero() {
		p.PausedAt = e.At
	}
}

// Resumed says that the clock of a step goes on.
type Resumed struct {
	Step string `json:"step"`
}

func (Resumed) what() What                  { return "resumed" }
func (x Resumed) step() string              { return x.Step }
func (Resumed) check() error                { return nil }
func (x Resumed) bear(f *folding, e *Event) { f.at(x.Step).resume(e.At) }

// MoreMin gives a clock minutes more, or fewer: a step's, or one of one's own.
type MoreMin struct {
	Step  string  `json:"step,omitempty"`
	Clock string  `json:"of,omitempty"` // the event that set it
	Min   float64 `json:"min,omitempty"`
}

func (MoreMin) what() What     { return "minutes" }
func (x MoreMin) near() string { return x.Step }
func (x MoreMin) check() error {
	if x.Min == 0 {
		return measure.Faultf("min", "how many minutes more or fewer?")
	}
	return checkMin(x.Min)
}
func (x MoreMin) bear(f *folding, _ *Event) {
	if c := f.own[x.Clock]; c != nil {
		c.LengthS = max(0, c.LengthS+60*x.Min)
		return
	}
	f.at(x.Step).MoreMin += x.Min
}

// ClockSet sets a clock of one's own; its id is the event's.
type ClockSet struct {
	Min  float64 `json:"min,omitempty"`
	Name string  `json:"text,omitempty"`
}

func (ClockSet) what() What { return "clock" }
func (x ClockSet) check() error {
	if !(x.Min > 0) || strings.TrimSpace(x.Name) == "" {
		return measure.Faultf("min", "a clock of one’s own has a name, and minutes over nought")
	}
	return firstWrong(checkMin(x.Min), checkText(x.Name))
}
func (x ClockSet) bear(f *folding, e *Event) { f.set(e, x.Name, x.Min) }

// ClockPutAway puts a clock of one's own away.
type ClockPutAway struct {
	Clock string `json:"of,omitempty"` // the event that set it
}

func (ClockPutAway) what() What { return "unclock" }
func (x ClockPutAway) check() error {
	if !IsID(x.Clock) {
		return measure.Faultf("of", "which event?")
	}
	return nil
}
func (x ClockPutAway) bear(f *folding, _ *Event) { delete(f.own, x.Clock) }
