package store

import (
	"context"
	"database/sql/driver"
	"encoding/json"
	"strconv"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"hollen/internal/core/plan"
	"hollen/internal/core/practice"
	"hollen/internal/core/request"
	"hollen/internal/core/rules"
)

// PracticeRound is one dough somebody practises on, or a sitting of several: what it was drawn from, and what was done.
// How the dough is follows from it and is never kept.
type PracticeRound struct {
	ID      uint64 `gorm:"primaryKey"`
	Who     string // an account or a browser; nobody else sees it
	Form    practice.Form
	Level   int
	Seed    uint64
	Looking bool // it was seen before: nothing of it counts
	AtOnce  bool // what a call meant is said after it
	BatchID *uint64
	Name    string
	Request Document
	Rules   practiceBook
	Asked   jsonOf[PracticeAsked]
	Acts    jsonOf[[]practice.Act]
	Seq     int // how many acts there are
	Began   time.Time
	Ended   *time.Time
	Points  *float64 // kept of a hundred; of a sitting the mean mark, 0–1
	Regret  *float64 // points
}

// TableName names the table.
func (PracticeRound) TableName() string { return "practice_rounds" }

// PracticeAsked is what a sitting asks: the calls in their order, or the moments of a log.
type PracticeAsked struct {
	Calls   []practice.Call      `json:"calls,omitempty"`
	Moments []practice.LogMoment `json:"moments,omitempty"`
}

// practiceBook is the rules a dough was begun with, all of them, those of practice, too: a later version of Hollen ends
// it by these.
type practiceBook struct {
	rules.Rules
}

type practiceBookDoc struct {
	Rules    *rules.Rules    `json:"rules"`
	Practice *rules.Practice `json:"practice"`
}

// Scan reads a JSON column.
func (r *practiceBook) Scan(v any) error {
	r.Rules = rules.Default()
	var doc raw
	if err := doc.Scan(v); err != nil {
		return err
	}
	return read(doc, &practiceBookDoc{&r.Rules, &r.Rules.Practice})
}

// Value writes a JSON column.
func (r practiceBook) Value() (driver.Value, error) {
	b, err := json.Marshal(practiceBookDoc{&r.Rules, &r.Rules.Practice})
	return string(b), err
}

// GormDataType names the column type.
func (practiceBook) GormDataType() string { return "json" }

// jsonOf is a value kept as JSON.
type jsonOf[T any] struct{ V T }

// Scan reads a JSON column.
func (j *jsonOf[T]) Scan(v any) error {
	var doc raw
	if err := doc.Scan(v); err != nil {
		return err
	}
	return read(doc, &j.V)
}

// Value writes a JSON column.
func (j jsonOf[T]) Value() (driver.Value, error) {
	b, err := json.Marshal(j.V)
	return string(b), err
}

// GormDataType names the column type.
func (jsonOf[T]) GormDataType() string { return "json" }

// practiceCall is how somebody stands at a call.
type practiceCall struct {
	Who  string `gorm:"primaryKey"`
	Name string `gorm:"primaryKey"`
	A, B float64
	N    int
	Met  time.Time
}

// TableName names the table.
func (practiceCall) TableName() string { return "practice_calls" }

// DemoPractises is who has practised in the made-up workshop: a browser that has done nothing yet goes on from there.
const DemoPractises = "bmadeupworkshopofthequay"

// keepPractised writes the rounds of a scenario, and how their maker stands by them.
func keepPractised(tx *gorm.DB, all []PracticeRound) error {
	if len(all) == 0 {
		return nil
	}
	if err := tx.Create(&all).Error; err != nil {
		return err
	}
	of := map[string]practiceCall{}
	for i := range all {
		r := &all[i]
		marks, err := r.marks()
		if err != nil {
			return err
		}
		for c, mark := range marks {
			row := of[string(c)]
			is := row.standing().Seen(&r.Rules.Practice, mark, dayOf(*r.Ended))
			of[string(c)] = practiceCall{Who: r.Who, Name: string(c), A: is.A, B: is.B, N: is.N, Met: *r.Ended}
		}
	}
	for _, row := range of {
		if err := tx.Create(&row).Error; err != nil {
			return err
		}
	}
	return nil
}

// marks are the marks of a sitting of calls, the mean of each call's.
func (r *PracticeRound) marks() (map[practice.Call]float64, error) {
	if r.Form != practice.OneCall {
		return nil, nil
	}
	p, err := plan.Make(r.Rules.Rules, r.Request.Request)
	if err != nil {
		return nil, err
	}
	b, err := practice.Of(p)
	if err != nil {
		return nil, err
	}
	sit, err := practice.NewKitchen(b).Sit(r.Seed, r.Level, r.Asked.V.Calls, r.Acts.V)
	if err != nil {
		return nil, err
	}
	out := map[practice.Call]float64{}
	for i, v := range sit.Before {
		out[r.Asked.V.Calls[i]] = v.Mark
	}
	return out, nil
}

// DemoDoughs says whether the doughs of the made-up workshop are here.
func (s *Store) DemoDoughs(ctx context.Context) bool {
	var n int64
	err := s.db.WithContext(ctx).Model(&PracticeRound{}).Where("who = ?", DemoPractises).Limit(1).Count(&n).Error
	return err == nil && n > 0
}

// AccountPractises is who an account is as somebody who practises.
func AccountPractises(id uint64) string { return "a" + strconv.FormatUint(id, 10) }

// MostRounds is how many rounds of one person are kept; older ones go.
const MostRounds = 200

// NewPractice is a round of who with what a sitting asks, not kept yet.
func NewPractice(who string, form practice.Form, r request.Request, ru rules.Rules, asked PracticeAsked) PracticeRound {
	o := PracticeRound{Who: who, Form: form, Request: Document{Request: r}, Rules: practiceBook{ru}}
	o.Asked.V = asked
	o.Acts.V = []practice.Act{}
	return o
}

// BeginPractice keeps a new round and lets the oldest of the same person beyond MostRounds go.
func (s *Store) BeginPractice(ctx context.Context, r PracticeRound) (PracticeRound, error) {
	r.Began = s.now()
	if err := s.db.WithContext(ctx).Create(&r).Error; err != nil {
		return r, err
	}
	var old []uint64
	err := s.db.WithContext(
		ctx,
	).Model(
		&PracticeRound{},
	).Where(
		"who = ?",
		r.Who,
	).Order(
		"id DESC",
	).Offset(
		MostRounds,
	).Limit(
		1000,
	).
		Pluck(
			"id",
			&old,
		).Error
	if err == nil && len(old) > 0 {
		err = s.db.WithContext(ctx).Where("id IN ?", old).Delete(&PracticeRound{}).Error
	}
	return r, err
}

// PracticeRoundOf returns a round of who; ErrNotFound where there is none or it is another's.
func (s *Store) PracticeRoundOf(ctx context.Context, who string, id uint64) (PracticeRound, error) {
	var rows []PracticeRound
	if err := s.db.WithContext(ctx).Where("id = ? AND who = ?", id, who).Limit(1).Find(&rows).Error; err != nil {
		return PracticeRound{}, err
	}
	if len(rows) == 0 {
		return PracticeRound{}, ErrNotFound
	}
	return rows[0], nil
}

// PracticeRounds returns the newest rounds of who, without their requests and rules.
func (s *Store) PracticeRounds(ctx context.Context, who string, n int) (out []PracticeRound, err error) {
	err = s.db.WithContext(
		ctx,
	).Select(
		"id",
		"who",
		"form",
		"level",
		"looking",
		"name",
		"seq",
		"began",
		"ended",
		"points",
		"regret",
	).
		Where(
			"who = ?",
			who,
		).Order(
		"id DESC",
	).Limit(
		n,
	).Find(
		&out,
	).Error
	return out, err
}

// PracticeStep adds an act to a round of which so many were seen, and says how the round stands by it; ErrChanged where
// another window was quicker. learnt are the calls it answers, with their marks.
func (s *Store) PracticeStep(
	ctx context.Context,
	r *PracticeRound,
	a practice.Act,
	marks map[practice.Call]float64,
) error {
	acts := append(append([]practice.Act{}, r.Acts.V...), a)
	return s.transact(ctx, func(tx *gorm.DB) error {
		done := tx.Model(
			&PracticeRound{},
		).Where(
			"id = ? AND who = ? AND seq = ? AND ended IS NULL",
			r.ID,
			r.Who,
			r.Seq,
		).
			Updates(
				map[string]any{
					"acts":   jsonOf[[]practice.Act]{acts},
					"seq":    r.Seq + 1,
					"ended":  r.Ended,
					"points": r.Points,
					"regret": r.Regret,
				},
			)
		if done.Error != nil {
			return done.Error
		}
		if done.RowsAffected == 0 {
			return ErrChanged
		}
		r.Acts.V, r.Seq = acts, r.Seq+1
		return s.standings(tx, r, marks)
	})
}

// EndPractice ends a round that is opened before it is done; again is no error.
func (s *Store) EndPractice(ctx context.Context, r *PracticeRound) error {
	return s.db.WithContext(ctx).Model(&PracticeRound{}).Where("id = ? AND who = ? AND ended IS NULL", r.ID, r.Who).
		Updates(map[string]any{"ended": s.now()}).Error
}

// standings takes marks up into how somebody stands.
func (s *Store) standings(tx *gorm.DB, r *PracticeRound, marks map[practice.Call]float64) error {
	if r.Looking {
		return nil
	}
	now := s.now()
	for c, mark := range marks {
		var rows []practiceCall
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("who = ? AND name = ?", r.Who, string(c)).
			Find(&rows).Error; err != nil {
			return err
		}
		var was practice.Standing
		if len(rows) > 0 {
			was = rows[0].standing()
		}
		is := was.Seen(&r.Rules.Practice, mark, dayOf(now))
		row := practiceCall{Who: r.Who, Name: string(c), A: is.A, B: is.B, N: is.N, Met: now}
		if err := tx.Clauses(clause.OnConflict{UpdateAll: true}).Create(&row).Error; err != nil {
			return err
		}
	}
	return nil
}

// dayOf is a moment in days, as standings count them.
func dayOf(t time.Time) float64 { return float64(t.UnixMilli()) / 86400e3 }

// PracticeDay is now in days, as standings count them.
func (s *Store) PracticeDay() float64 { return dayOf(s.now()) }

func (c *practiceCall) standing() practice.Standing {
	return practice.Standing{A: c.A, B: c.B, N: c.N, Day: dayOf(c.Met)}
}

// Standings are how who stands at each call that was met.
func (s *Store) Standings(ctx context.Context, who string) (map[practice.Call]practice.Standing, error) {
	var rows []practiceCall
	if err := s.db.WithContext(ctx).Where("who = ?", who).Find(&rows).Error; err != nil {
		return nil, err
	}
	out := map[practice.Call]practice.Standing{}
	for i := range rows {
		out[practice.Call(rows[i].Name)] = rows[i].standing()
	}
	return out, nil
}

// ForgetPractice deletes everything of who.
func (s *Store) ForgetPractice(ctx context.Context, who string) error {
	return s.transact(ctx, func(tx *gorm.DB) error {
		if err := tx.Where("who = ?", who).Delete(&practiceCall{}).Error; err != nil {
			return err
		}
		return tx.Where("who = ?", who).Delete(&PracticeRound{}).Error
	})
}
