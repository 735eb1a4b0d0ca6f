package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"gorm.io/gorm"

	"hollen/internal/core/bench"
)

// ErrUnreadable is of a row that is there and is no document Hollen can read. Whoever lists rows passes it over, or
// shows it as damaged; what is
// kept is left as it is.
var ErrUnreadable = errors.New("it cannot be read")

// read reads a JSON document into v; ErrUnreadable when it is none of v's.
func read(doc []byte, v any) error {
	if err := json.Unmarshal(doc, v); err != nil {
		return fmt.Errorf("%w: %w", ErrUnreadable, err)
	}
	return nil
}

// Bad says why the document could not be read, nil where it could; the request is the usual one then, and is never
// written.
func (d Document) Bad() error { return d.bad }

// mend has a batch whose request cannot be read be what the version of it says that it is: that was kept beside it, the
// same to the letter. An
// ErrUnreadable where that cannot be read, either.
func mend(db *gorm.DB, b *Batch) error {
	if b.Request.bad == nil {
		return nil
	}
	var kept []revision
	if err := db.Session(&gorm.Session{NewDB: true}).Where("batch_id = ? AND version = ?", b.ID,
		b.Version).Find(&kept).Error; err != nil {
		return err
	}
	if len(kept) == 0 || kept[0].Request.bad != nil {
		return fmt.Errorf("batch %d: %w", b.ID, b.Request.bad)
	}
	b.Request, b.Mended = kept[0].Request, true
	return nil
}

// readable are those of the batches that can be read; the others are told in the log.
func (s *Store) readable(ctx context.Context, all []Batch) (out []Batch, err error) {
	for _, b := range all {
		switch err := mend(s.db.WithContext(ctx), &b); {
		case errors.Is(err, ErrUnreadable):
			s.log.Error("batch", "id", b.ID, "err", err)
		case err != nil:
			return nil, err
		default:
			out = append(out, b)
		}
	}
	return out, nil
}

// Bad says why a making cannot be read, nil where it can.
func (m *Making) Bad() error {
	if err := errors.Join(m.Request.bad, m.Rules.bad); err != nil {
		return fmt.Errorf("making %d: %w", m.ID, err)
	}
	return nil
}

// event reads an event as it is kept; of one that cannot be read it returns that there was one.
func (s *Store) event(r makingEvent) (e bench.Event) {
	if err := read(r.Doc, &e); err != nil {
		s.log.Error("event", "making", r.MakingID, "seq", r.Seq, "err", err)
		return bench.Event{
			ID:   r.ID,
			At:   r.At,
			Says: bench.Damaged{Text: "What was kept here cannot be read, and is left out."},
		}
	}
	return e
}

// summaryAgain makes what lists read of a making from its events, where what was kept of that cannot be read.
func (s *Store) summaryAgain(ctx context.Context, making uint64) (sum bench.Summary, err error) {
	m, err := s.Making(ctx, making)
	if err != nil {
		return sum, err
	}
	p, err := m.Plan()
	if err != nil {
		return sum, err
	}
	events, _, err := s.Events(ctx, making, 0)
	if err != nil {
		return sum, err
	}
	run := bench.Run(p, m.Began, events)
	return run.Summary(events), nil
}

// DamagedThings are the numbers of things of a kind that cannot be read.
func (s *Store) DamagedThings(ctx context.Context, kind Kind) (out []uint64, err error) {
	var items []item
	if err := s.db.WithContext(ctx).Unscoped().Where("kind = ?", kind).Order("id").Limit(maxThings).Find(
		&items).Error; err != nil {
		return nil, err
	}
	for _, i := range items {
		if _, err := i.thing(); err != nil {
			out = append(out, i.ID)
		}
	}
	return out, nil
}
