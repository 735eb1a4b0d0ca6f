package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"time"

	"hollen/internal/core/bench"
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
func (s *Server) logOf(ctx context.Context, st *store.Store, cab desk, things []store.Thing,
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
func (s *Server) takeLog(ctx context.Context, tx *store.Store, cab desk, docs []*exchange.Making) (string, error) {
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
		if _, err := takeMaking(ctx, s.rules, tx, m); err != nil {
			return "", err
		}
	}
	return "/log", nil
}

// logFile is how large a log that is handed out may be, so that it can be brought in again, bytes.
const logFile = exchange.MaxBytes - 64<<10

// downloadLogJSON hands out what is looked for in the log as one document, which can be brought in again: the newest
// makings that fit in
// one file, and where the older ones are.
func (s *Server) downloadLogJSON(c *Visit) error {
	ctx := c.Request.Context()
	doc, size := exchange.Log{Format: exchange.LogFormat, Makings: []exchange.Logged{}}, 0
	q := c.Request.URL.Query()
	older := func(m *store.Made) {
		next := url.Values{"before": {m.Began.UTC().Format(time.RFC3339Nano)}, "id": {fmt.Sprint(m.ID)}}
		for _, k := range []string{"find", "felt", "from", "to"} {
			if q.Get(k) != "" {
				next.Set(k, q.Get(k))
			}
		}
		doc.Older = "/log.json?" + next.Encode()
	}
	asked := logQuery(q)
	for full := false; !full; {
		found, next, err := s.store.FindMade(ctx, asked)
		if err != nil {
			return err
		}
		for i := range found {
			x, err := s.asLogged(ctx, &found[i])
			if errors.Is(err, store.ErrUnreadable) { // one that is damaged does not keep the others back
				s.log.Error("log", "making", found[i].ID, "err", err)
				continue
			} else if err != nil {
				return err
			}
			raw, err := json.Marshal(x)
			if err != nil {
				return refuse(http.StatusInternalServerError, "That making cannot be written.", err.Error())
			}
			if size += len(raw) + 1; size > logFile && len(doc.Makings) > 0 || len(doc.Makings) == exchange.MostLogged {
				full = true
				break
			}
			doc.Makings = append(doc.Makings, x)
			older(&found[i])
		}
		if next == nil && !full {
			doc.Older, full = "", true
		}
		if next != nil {
			asked.After = *next
		}
	}
	c.Header("Content-Disposition", `attachment; filename="log.json"`)
	c.JSON(http.StatusOK, doc)
	return nil
}

// asLogged is an ended making as a log hands it out.
func (s *Server) asLogged(ctx context.Context, m *store.Made) (out exchange.Logged, err error) {
	kept, err := s.store.Making(ctx, m.ID)
	if err != nil {
		return out, err
	}
	events, _, err := s.store.Events(ctx, m.ID, 0)
	if err = errors.Join(err, kept.Bad()); err != nil {
		return out, err
	}
	events = slices.DeleteFunc(events, func(e bench.Event) bool { return e.What == bench.Damaged })
	out.Making = exchange.Making{Format: exchange.MakingFormat, Batch: kept.BatchID, Name: kept.Request.Name,
		Began: kept.Began, Ended: kept.Ended,
		Units: kept.Units, Request: kept.Request.Request, Learned: kept.Rules.Learned, Events: events}
	out.Number, out.Summary = m.ID, m.Summary
	return out, nil
}
