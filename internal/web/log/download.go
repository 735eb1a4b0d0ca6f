package log

import (
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/exchange"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// logFile is how large a log that is handed out may be, so that it can be brought in again, bytes.
const logFile = exchange.MaxBytes - 64<<10

// DownloadLogJSON hands out what is looked for in the log as one document, which can be brought in again: the newest
// makings that fit in
// one file, and where the older ones are.
func (s *Room) DownloadLogJSON(c *page.Visit) error {
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
		found, next, err := s.Store.FindMade(ctx, asked)
		if err != nil {
			return err
		}
		for i := range found {
			x, err := s.asLogged(ctx, &found[i])
			if errors.Is(err, store.ErrUnreadable) { // one that is damaged does not keep the others back
				s.Log.Error("log", "making", found[i].ID, "err", err)
				continue
			} else if err != nil {
				return err
			}
			raw, err := json.Marshal(x)
			if err != nil {
				return page.Refuse(http.StatusInternalServerError, "That making cannot be written.", err.Error())
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
func (s *Room) asLogged(ctx context.Context, m *store.Made) (out exchange.Logged, err error) {
	kept, err := s.Store.Making(ctx, m.ID)
	if err != nil {
		return out, err
	}
	events, _, err := s.Store.Events(ctx, m.ID, 0)
	if err = errors.Join(err, kept.Bad()); err != nil {
		return out, err
	}
	events = slices.DeleteFunc(events, func(e bench.Event) bool { _, bad := e.Says.(bench.Damaged); return bad })
	out.Making = exchange.Making{Format: exchange.MakingFormat, Batch: kept.BatchID, Name: kept.Request.Name,
		Began: kept.Began, Ended: kept.Ended,
		Units: kept.Units, Request: kept.Request.Request, Learned: kept.Rules.Learned, Events: events}
	out.Number, out.Summary = m.ID, m.Summary
	return out, nil
}

// DownloadLogCSV hands out what is looked for in the log, a making a line.
func (s *Room) DownloadLogCSV(c *page.Visit) error {
	all, err := s.foundMade(c)
	if err != nil {
		return err
	}
	c.Header("Content-Type", "text/csv; charset=utf-8")
	c.Header("Content-Disposition", `attachment; filename="log.csv"`)
	w := csv.NewWriter(c.Writer)
	_ = w.Write([]string{"making", "batch", "name", "began", "ended", "shape", "flours", "lots", "makers", "flour_g",
		"dough_g", "hw_points", "plan_hw_points",
		"felt", "poke_s", "sheet_mm", "out_g", "pieces", "minutes", "hands_min", "next", "thrown_g", "thrown_why",
		"piece_min"})
	f := func(v float64) string {
		if v == 0 {
			return ""
		}
		return strconv.FormatFloat(v, 'f', -1, 64)
	}
	for _, m := range all {
		out := f(m.OutG)
		if m.OutSaid && m.OutG == 0 { // said, and nothing
			out = "0"
		}
		felt := ""
		if m.Summary.Felt != nil {
			felt = fmt.Sprint(*m.Summary.Felt)
		}
		_ = w.Write(measure.Cells([]string{fmt.Sprint(m.ID), fmt.Sprint(m.Batch), m.Name, m.Began.Format(time.RFC3339),
			m.Ended.Format(time.RFC3339), m.Shape,
			strings.Join(m.Flours, "; "), strings.Join(m.Lots, "; "), strings.Join(m.Makers, "; "), f(m.FlourG),
			f(m.DoughG), f(m.Hw), f(m.PlanHw), felt,
			f(m.PokeS), f(m.SheetMM), out, f(float64(m.Pieces)), f(m.Min), f(m.HandsMin), m.Next, f(m.ThrownG), m.Why,
			f(m.PieceMin)}))
	}
	w.Flush()
	return nil
}
