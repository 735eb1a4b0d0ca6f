package exchange

import (
	"encoding/json"
	"fmt"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/plan"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// MakingFormat names the version of the document.
const MakingFormat = "hollen-making/1"

// MostEvents is how many events a making may bring.
const MostEvents = 5000

// Making is one making as a document: what it was begun with, and what happened. Steps and State are for reading; they
// follow
// from the rest.
type Making struct {
	Format  string          `json:"format"`
	Batch   uint64          `json:"batch"` // its number where it was made
	Name    string          `json:"name"`
	Began   time.Time       `json:"began"`
	Ended   *time.Time      `json:"ended"`
	Units   measure.System  `json:"units"`
	Request request.Request `json:"request"`
	Learned rules.Learned   `json:"learned"` // what was known when it was begun
	Steps   []bench.Step    `json:"steps"`
	Events  []bench.Event   `json:"events"`
	State   bench.State     `json:"state"`
}

// Plan makes the plan of a making again, by these rules and what was known when it was begun.
func (m *Making) Plan(ru rules.Rules) (*plan.Plan, error) {
	ru.Learned = m.Learned
	return plan.MakeIn(m.Units, ru, m.Request)
}

// readMaking reads a making; it refuses one whose request is not allowed, or whose events are not of its steps.
func readMaking(ru rules.Rules, raw []byte) (*Making, error) {
	var m struct {
		Making
		Request json.RawMessage `json:"request"`
		Steps   json.RawMessage `json:"steps"` // they are made again
		State   json.RawMessage `json:"state"`
	}
	if err := json.Unmarshal(raw, &m); err != nil {
		return nil, place(raw, err)
	}
	if len(m.Request) == 0 {
		return nil, PlaceError{Text: "the making holds no request; those of older versions do not"}
	}
	r, err := readBegun(ru, m.Request)
	if err != nil {
		return nil, err
	}
	m.Making.Request = r
	out := m.Making
	if out.Units != measure.Customary {
		out.Units = measure.Metric
	}
	switch {
	case out.Began.IsZero() || out.Began.Year() < 2000 || out.Began.Year() > 2200:
		return nil, PlaceError{Text: "the making says no time it was begun at"}
	case len(out.Events) > MostEvents:
		return nil, PlaceError{Text: fmt.Sprintf("%d events given; at most %d are allowed", len(out.Events),
			MostEvents)}
	}
	if err := soundLearned(out.Learned); err != nil {
		return nil, err
	}
	p, err := out.Plan(ru)
	if err != nil {
		return nil, err
	}
	run := bench.Run(p, out.Began, out.Events)
	has := func(step string) bool { return run.State.Steps[step] != nil }
	for i := range out.Events {
		e := &out.Events[i]
		if err := e.Check(has); err != nil {
			return nil, fmt.Errorf("events.%d: %w", i, err)
		}
		if x, ok := e.Says.(bench.Shaped); ok { // a document says of no other own shape than the request brings
			x.Own = ownShape(r, x.Shape)
			e.Says = x
		}
	}
	return &out, nil
}

// ownShape is the workshop's own shape of that key, where the request brings it.
func ownShape(r request.Request, key string) *bench.OwnShape {
	for _, x := range append([]request.ShapePart{{Shape: r.Cut.Shape, Own: r.Cut.Own}}, r.Cut.Also...) {
		if x.Shape == key && x.Own != nil {
			return x.Own
		}
	}
	return nil
}

// soundLearned refuses what no log teaches.
func soundLearned(l rules.Learned) error {
	within := func(v, low, high float64) bool { return v >= low && v <= high }
	ok := within(l.Hw.Points, -6, 6) && within(l.Hw.SD, 0, 10) && within(l.Hw.Within, 0, 20) && len(l.Hw.Parts) <= 10 &&
		len(l.Gaps) <= 60 && l.Hw.N >= 0
	for _, x := range []rules.LearnedBy{l.Knead, l.Rest, l.Dry, l.Cook, l.Hands, l.Loss, l.Trim} {
		ok = ok && x.N >= 0 && (x.N == 0 || within(x.By, .1, 10))
	}
	ok = ok && within(l.Shrink.Share, 0, .3) && within(l.Shrink.Within, 0, 1) && l.Shrink.N >= 0
	for _, g := range l.Gaps {
		ok = ok && within(g.By, .5, 2) && len(g.Stop) <= 40
	}
	ok = ok && len(l.Sacks) <= 12
	for _, s := range l.Sacks {
		ok = ok && within(s.WB, .05, .20) && within(s.OffWB, -.15, .15) && within(s.SD, 0, .05) && within(s.SteadyWB,
			.05, .20) && within(s.Bridged, 0,
			1000) && within(s.ChangeSD, 0, .05) && len(s.Lot) <= 80 && len(s.Since) <= 10
	}
	if !ok {
		return PlaceError{Text: "learned: that is nothing a log teaches"}
	}
	return nil
}
