// Package device answers: what do scale and room sensor say now? Readings come in as JSON, one a line, from
// anything that can send; the latest of each device is held in memory, and whoever listens is told. A device that
// is silent is shown as silent, never as nought.
package device

import (
	"encoding/json"
	"math"
	"sync"
	"time"

	"hollen/internal/core/measure"
)

// Kind is what a device measures.
type Kind string

// The kinds of device.
const (
	Scale Kind = "scale"
	Room  Kind = "room"
)

// Silent is for how long a device of a kind may say nothing before it counts as silent.
func (k Kind) Silent() time.Duration {
	if k == Room {
		return 10 * time.Minute
	}
	return 10 * time.Second
}

// Reading is what a device said: a scale grams, a sensor °C and humidity.
type Reading struct {
	At     time.Time `json:"at"`
	G      *float64  `json:"g,omitempty"`
	Steady bool      `json:"steady,omitempty"`
	TempC  *float64  `json:"t_c,omitempty"`
	RH     *float64  `json:"rh,omitempty"` // share 0–1
}

// MaxLine is how long a line of a reading may be, bytes.
const MaxLine = 1000

// Read reads one line of a device of that kind; a measure.Fault says what is wrong with it.
func Read(kind Kind, line []byte) (Reading, error) {
	var r Reading
	if err := json.Unmarshal(line, &r); err != nil {
		return r, measure.Faultf("line", "is no JSON of a reading: %v", err)
	}
	var dated struct {
		At *time.Time `json:"at"`
	}
	if json.Unmarshal(line, &dated) == nil && dated.At != nil && (dated.At.Year() < 2000 || dated.At.Year() > 2199) {
		return r, measure.Faultf("at", "a reading is of the years 2000 to 2199, or says none")
	}
	within := func(v *float64, least, most float64) bool { return v != nil && *v >= least && *v <= most }
	switch {
	case kind == Scale && !within(r.G, -100_000, 200_000):
		return r, measure.Faultf("g", "a scale says -100,000 to 200,000 g")
	case kind == Room && !within(r.TempC, -20, 60):
		return r, measure.Faultf("t_c", "a room is -20 to 60 °C")
	case kind == Room && !within(r.RH, 0, 1):
		return r, measure.Faultf("rh", "humidity is a share from 0 to 1")
	}
	return r, nil
}

// Steadiness of a scale: within SteadyG of each other for SteadyFor. Source: kitchen scales show whole grams.
const (
	SteadyG   = .5 // g either way
	SteadyFor = 1500 * time.Millisecond
)

// MostASecond is how many readings of one device are taken in a second; more are passed over.
const MostASecond = 50

// Latest is what a device said last.
type Latest struct {
	Name   string
	Kind   Kind
	Read   Reading
	Heard  time.Time // by the server's clock
	Steady bool      // by the readings themselves
}

// Silent says whether it has said nothing for too long.
func (l *Latest) Silent(now time.Time) bool { return now.Sub(l.Heard) > l.Kind.Silent() }

// Hub holds the latest readings. Its zero value is ready.
type Hub struct {
	mu      sync.Mutex
	devices map[string]*heard
	ears    map[chan struct{}]bool
}

type heard struct {
	latest Latest
	recent []spot // of a scale, the last while
	second time.Time
	count  int
}

type spot struct {
	at time.Time
	g  float64
}

// Hear takes a reading of a device at a moment; false where it sends too many.
func (h *Hub) Hear(name string, kind Kind, r Reading, now time.Time) bool {
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.devices == nil {
		h.devices = map[string]*heard{}
	}
	d := h.devices[name]
	if d == nil {
		d = &heard{}
		h.devices[name] = d
	}
	if now.Sub(d.second) >= time.Second {
		d.second, d.count = now, 0
	}
	if d.count++; d.count > MostASecond {
		return false
	}
	d.latest = Latest{Name: name, Kind: kind, Read: r, Heard: now}
	if kind == Scale {
		d.recent = append(d.recent, spot{now, *r.G})
		for len(d.recent) > 1 && now.Sub(d.recent[1].at) >= SteadyFor { // one that is old enough stays
			d.recent = d.recent[1:]
		}
		d.latest.Steady = steady(d.recent, now)
	}
	for ear := range h.ears {
		select {
		case ear <- struct{}{}:
		default:
		}
	}
	return true
}

// steady says whether readings have stayed together for long enough.
func steady(recent []spot, now time.Time) bool {
	if now.Sub(recent[0].at) < SteadyFor {
		return false
	}
	low, high := math.Inf(1), math.Inf(-1)
	for _, s := range recent {
		low, high = math.Min(low, s.g), math.Max(high, s.g)
	}
	return high-low <= 2*SteadyG
}

// Of returns what a device of that kind said last; false where none ever did. Of several it is the one heard last.
func (h *Hub) Of(kind Kind) (Latest, bool) {
	h.mu.Lock()
	defer h.mu.Unlock()
	var out Latest
	found := false
	for _, d := range h.devices {
		if d.latest.Kind == kind && (!found || d.latest.Heard.After(out.Heard)) {
			out, found = d.latest, true
		}
	}
	return out, found
}

// Listen has a channel written to when any device speaks, until stop.
func (h *Hub) Listen() (ear chan struct{}, stop func()) {
	ear = make(chan struct{}, 1)
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.ears == nil {
		h.ears = map[chan struct{}]bool{}
	}
	h.ears[ear] = true
	return ear, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		delete(h.ears, ear)
	}
}
