package cabinet

import (
	"context"
	"fmt"
	"time"

	"hollen/internal/core/measure"
	"hollen/internal/exchange"
	"hollen/internal/store"
)

// importLog is the makings of a document.
type importLog struct {
	Makings []*importMaking
	New     int // of them not here
	Batches int // that are made of them
}

// Set is what the preview said it would do.
func (l *importLog) Set() string {
	return fmt.Sprintf("log.%d.%d.%d", len(l.Makings), l.New, l.Batches)
}

// docs are the makings as they were read.
func (l *importLog) docs() (out []*exchange.Making) {
	for _, m := range l.Makings {
		out = append(out, m.made)
	}
	return out
}

// Words say what it would do.
func (l *importLog) Words() string {
	words := "All of it is here already."
	if l.New > 0 {
		words = fmt.Sprintf("%s to add", measure.Plural(l.New, "making", "makings"))
		if here := len(l.Makings) - l.New; here > 0 {
			words += fmt.Sprintf("; %d are here already and stay as they are", here)
		}
		words += "."
		if l.Batches > 0 {
			words += fmt.Sprintf(" %s made of them.", measure.Plural(l.Batches, "batch is", "batches are"))
		}
	}
	return words
}

// logOf is the makings of a document beside what is here.
func (s *Room) logOf(ctx context.Context, st *store.Store, cab desk, things []store.Thing,
	docs []*exchange.Making) (*importLog, error) {
	l := &importLog{}
	batches, seen := map[string]bool{}, map[string]bool{}
	for _, doc := range docs {
		m, err := s.makingOf(ctx, st, cab, things, doc)
		if err != nil {
			return nil, err
		}
		l.Makings = append(l.Makings, m)
		key := doc.Request.Name + doc.Began.UTC().Format(time.RFC3339Nano)
		if m.Same > 0 || seen[key] {
			continue
		}
		seen[key] = true
		if l.New++; m.Batch == 0 && !batches[doc.Request.Name] {
			l.Batches, batches[doc.Request.Name] = l.Batches+1, true
		}
	}
	return l, nil
}

// takeLog keeps what is not here of a log, the oldest first, each beside what has come before it.
func (s *Room) takeLog(ctx context.Context, tx *store.Store, cab desk, docs []*exchange.Making) (string, error) {
	for i := len(docs) - 1; i >= 0; i-- {
		things, err := tx.Things(ctx, true)
		if err != nil {
			return "", err
		}
		m, err := s.makingOf(ctx, tx, cab, things, docs[i])
		if err != nil {
			return "", err
		}
		if m.Same > 0 {
			continue
		}
		if _, err := takeMaking(ctx, s.Rules, tx, m); err != nil {
			return "", err
		}
	}
	return "/log", nil
}
