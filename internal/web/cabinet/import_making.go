package cabinet

import (
	"context"
	"fmt"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// importMaking is a making in a document.
type importMaking struct {
	Name, Words string
	Same        uint64       // the making that is the same already, 0 when there is none
	Batch       uint64       // the batch it goes to, 0: one is made of it
	New         *importBatch // that batch
	made        *exchange.Making
}

// Set is what the preview said it would bring along and what it was compared to.
func (m *importMaking) Set() string {
	if m.Batch > 0 {
		return fmt.Sprintf("making.%d", m.Batch)
	}
	return "making " + m.New.Set()
}

// makingOf is a making of a document beside what is here.
func (s *Room) makingOf(ctx context.Context, st *store.Store, cab desk, things []store.Thing,
	doc *exchange.Making) (*importMaking, error) {
	m := &importMaking{Name: doc.Name, made: doc, New: s.batchOf(cab, things, doc.Request)}
	m.Words = fmt.Sprintf("Begun %s, %s", measure.TimeWords(doc.Began.Local()),
		measure.Plural(len(doc.Events), "event", "events"))
	if doc.Ended == nil {
		m.Words += "; it has not ended"
	}
	list, _, err := st.List(ctx, store.Query{Words: doc.Request.Name})
	if err != nil {
		return nil, err
	}
	for _, b := range list {
		if strings.EqualFold(b.Row.Name, doc.Request.Name) && m.Batch == 0 {
			m.Batch = b.ID
		}
	}
	if m.Batch == 0 {
		return m, nil
	}
	all, err := st.Makings(ctx, m.Batch)
	for _, x := range all {
		if x.Began.Equal(doc.Began.UTC().Truncate(time.Millisecond)) {
			m.Same = x.ID
		}
	}
	return m, err
}

// takeMaking keeps a making, and its batch where there is none, and returns its address.
func takeMaking(ctx context.Context, ru rules.Rules, tx *store.Store, m *importMaking) (string, error) {
	batch := store.Batch{ID: m.Batch}
	if m.Batch == 0 {
		at, err := takeBatch(ctx, ru, tx, m.New)
		if err != nil {
			return "", err
		}
		if _, err := fmt.Sscanf(at, "/batches/%d", &batch.ID); err != nil {
			return "", err
		}
	}
	batch, err := tx.Get(ctx, batch.ID)
	if err != nil {
		return "", err
	}
	p, err := m.made.Plan(ru)
	if err != nil {
		return "", err
	}
	kept, err := tx.Begin(ctx, batch, p, m.made.Began)
	if err != nil {
		return "", err
	}
	events := m.made.Events
	for i := range events {
		if events[i].At = events[i].At.UTC().Truncate(time.Millisecond); events[i].At.Before(kept.Began) {
			events[i].At = kept.Began
		}
	}
	if len(events) > 0 {
		if _, err := tx.AddEvents(ctx, kept.ID, events); err != nil {
			return "", err
		}
	}
	run := bench.Run(p, kept.Began, events)
	if at := run.State.Ended; !at.IsZero() {
		if err := tx.SetEnded(ctx, kept.ID, &at); err != nil {
			return "", err
		}
		if err := tx.KeepSummary(ctx, kept, &run, events); err != nil {
			return "", err
		}
	}
	return fmt.Sprintf("/bench/%d/made", kept.ID), nil
}
