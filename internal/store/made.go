package store

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hollen/internal/core/bench"
)

// makingSummary is the row of an ended making that lists read.
type makingSummary struct {
	MakingID uint64 `gorm:"primaryKey"`
	BatchID  uint64
	Version  int
	Seq      uint64 // of the making's last event it counts
	Name     string
	Felt     *int
	Words    string // that it is found by, in small letters
	Began    time.Time
	Ended    time.Time
	Doc      raw
	Day      string // the making's, by the clock here
	Shape    string
	InG      float64
	OutG     float64
	OutSaid  bool
	Thrown   bool
	ThrownG  float64
	TrimG    float64
	BackG    float64
	HandsMin float64
	Cost     float64
}

// Made is an ended making as lists read it.
type Made struct {
	ID, Batch uint64
	bench.Summary
}

func summaryOf(m Making, run *bench.Making, events []bench.Event) (makingSummary, error) {
	s := run.Summary(events)
	doc, err := json.Marshal(s)
	name := []rune(s.Name)
	words := []string{s.Name, s.Shape, s.Next, s.Why}
	words = append(append(append(words, s.Flours...), s.Makers...), s.Lots...)
	for _, e := range run.State.Remarks {
		if r, ok := e.Says.(bench.Remark); ok {
			words = append(words, r.Found())
		}
	}
	found := []rune(" " + strings.Join(wordsOf(strings.Join(words, " ")), " "))
	return makingSummary{MakingID: m.ID, BatchID: m.BatchID, Version: s.Version, Seq: uint64(len(events)),
		Name: string(name[:min(len(name), 200)]),
		Felt: s.Felt, Words: string(found[:min(len(found), 8000)]), Began: s.Began, Ended: s.Ended, Doc: doc,
		Day:   s.Began.Local().Format(time.DateOnly),
		Shape: cut80(s.Shape), InG: s.InG, OutG: s.OutG, OutSaid: s.OutSaid, Thrown: s.Thrown, ThrownG: s.ThrownG,
		TrimG: s.TrimG, BackG: s.BackG, HandsMin: s.HandsMin, Cost: s.Cost}, err
}

// cut80 is a name as far as its column goes.
func cut80(s string) string {
	r := []rune(s)
	return string(r[:min(len(r), 80)])
}

// KeepSummary keeps what lists read of a making: its row while it has ended, none while it goes on.
func (s *Store) KeepSummary(ctx context.Context, m Making, run *bench.Making, events []bench.Event) error {
	row, err := summaryOf(m, run, events)
	if err != nil {
		return err
	}
	return s.transact(ctx, func(tx *gorm.DB) error {
		if run.State.Ended.IsZero() {
			if err := tx.Delete(&makingSummary{}, m.ID).Error; err != nil {
				return err
			}
		} else if err := tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&row).Error; err != nil {
			return err
		}
		if err := addUp(tx, row.Day); err != nil {
			return err
		}
		return stampLog(tx)
	})
}

// MadeOf returns the ended makings of a batch, the newest first, at most 100.
func (s *Store) MadeOf(ctx context.Context, batch uint64) ([]Made, error) {
	return s.made(
		ctx,
		s.db.WithContext(ctx).Where("batch_id = ?", batch).Order("began DESC, making_id DESC").Limit(100),
	)
}

func (s *Store) made(ctx context.Context, db *gorm.DB) ([]Made, error) {
	var rows []makingSummary
	if err := db.Find(&rows).Error; err != nil {
		return nil, err
	}
	return s.madeOf(ctx, rows)
}

func (s *Store) madeOf(ctx context.Context, rows []makingSummary) ([]Made, error) {
	out := make([]Made, 0, len(rows))
	for _, r := range rows {
		m := Made{ID: r.MakingID, Batch: r.BatchID}
		if err := json.Unmarshal(r.Doc, &m.Summary); err != nil {
			s.log.Error("summary", "making", r.MakingID, "err", err)
			if m.Summary, err = s.summaryAgain(ctx, r.MakingID); err != nil { // it hides itself, and nothing else
				s.log.Error("summary", "making", r.MakingID, "err", err)
				continue
			}
		}
		out = append(out, m)
	}
	return out, nil
}

// remakeAtOnce is how many makings are read at once to remake their summaries.
const remakeAtOnce = 100

// RemakeSummaries makes the summaries of all ended makings anew from their events, all or those of another version
// alone, and
// returns how many. A making that cannot be read is passed over and named in the log.
func (s *Store) RemakeSummaries(ctx context.Context, all bool) (n int, err error) {
	for after := uint64(0); ; {
		var makings []Making
		db := s.db.WithContext(ctx).Where("makings.id > ? AND makings.ended IS NOT NULL", after)
		if !all {
			db = db.Where("NOT EXISTS (SELECT 1 FROM making_summaries x WHERE x.making_id = makings.id AND x.version = ?)", bench.SummaryVersion)
		}
		if err := db.Order("id").Limit(remakeAtOnce).Find(&makings).Error; err != nil {
			return n, err
		}
		if len(makings) == 0 {
			if n > 0 || all {
				err = s.SumUp(ctx)
			}
			return n, err
		}
		for _, m := range makings {
			after = m.ID
			if err := s.remake(ctx, m); err != nil {
				s.log.Error("summary", "making", m.ID, "err", err)
				continue
			}
			n++
		}
	}
}

func (s *Store) remake(ctx context.Context, m Making) error {
	p, err := m.Plan()
	if err != nil {
		return err
	}
	events, _, err := s.Events(ctx, m.ID, 0)
	if err != nil {
		return err
	}
	run := bench.Run(p, m.Began, events)
	if run.State.Damaged > 0 {
		return fmt.Errorf("%d of its events cannot be read; its summary stays as it was kept", run.State.Damaged)
	}
	if run.State.Ended.IsZero() {
		return fmt.Errorf("it is kept as ended and its events do not say so")
	}
	return s.KeepSummary(ctx, m, &run, events)
}

// RoomMean is the air of ten minutes, by one sensor.
type RoomMean struct {
	Device string `gorm:"primaryKey"`
	At     time.Time
	TempC  float64 `gorm:"column:t_c"`
	RH     float64 `gorm:"column:rh"`
	N      int     // readings it is the mean of
}

// TableName names the table.
func (RoomMean) TableName() string { return "room_means" }

// RoomMeanOver is the time one mean stands for.
const RoomMeanOver = 10 * time.Minute

// HearRoom takes a reading of a room sensor into the mean of its ten minutes.
func (s *Store) HearRoom(ctx context.Context, device string, tempC, rh float64, at time.Time) error {
	return again(func() error {
		return s.db.WithContext(ctx).Exec(`INSERT INTO room_means (device, at, t_c, rh, n) VALUES (?, ?, ?, ?, 1)
			ON DUPLICATE KEY UPDATE t_c = t_c + (VALUES(t_c) - t_c) / (n + 1), rh = rh + (VALUES(rh) - rh) / (n + 1), n = n + 1`,
			device, at.UTC().Truncate(RoomMeanOver), tempC, rh).Error
	})
}

// mostMeans is how many means are read at once: two sensors for more than a year.
const mostMeans = 120_000

// RoomMeans returns the means from one moment to another, the oldest first.
func (s *Store) RoomMeans(ctx context.Context, from, to time.Time) (out []RoomMean, err error) {
	err = s.db.WithContext(ctx).Where("at >= ? AND at <= ?", from.UTC().Truncate(RoomMeanOver),
		to.UTC()).Order("at, device").Limit(mostMeans).Find(&out).Error
	return out, err
}
