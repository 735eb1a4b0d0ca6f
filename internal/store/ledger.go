package store

import (
	"context"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// LedgerBy is what the ledger adds up by.
type LedgerBy string

// The ledger adds up by week, month or shape.
const (
	ByWeek  LedgerBy = "week"
	ByMonth LedgerBy = "month"
	ByShape LedgerBy = "shape"
)

// LedgerLine is what went in and what came out, of makings that were weighed out. Masses g, times min, cost in the
// house's
// currency.
type LedgerLine struct {
	Of      string // the first day of the week or month, yyyy-mm-dd; or a shape
	N       int    // makings
	Weighed int    // of them, whose pasta was weighed: the masses are theirs
	InG     float64
	OutG    float64
	TrimG   float64 // trimmings, weighed; as planned where they were not
	BackG   float64 // of them kneaded into the next piece
	// HandsMin are the minutes of those whose work was timed, HandsOutG what came out of them.
	HandsMin, HandsOutG float64
	Cost                float64
	Thrown              int // makings thrown away, which cost what went into them
	ThrownG             float64
}

// ledgerMost is how many lines a ledger shows.
const ledgerMost = 120

const sums = `SUM(n) AS n, SUM(weighed) AS weighed, SUM(in_g) AS in_g, SUM(out_g) AS out_g, SUM(trim_g) AS trim_g, SUM(back_g) AS back_g,
	SUM(hands_min) AS hands_min, SUM(hands_out_g) AS hands_out_g, SUM(cost) AS cost,
	SUM(thrown) AS thrown, SUM(thrown_g) AS thrown_g`

// monday is the first day of a day's week, first that of its month.
func monday(t time.Time) time.Time { return t.AddDate(0, 0, -(int(t.Weekday())+6)%7) }
func first(t time.Time) time.Time  { return t.AddDate(0, 0, 1-t.Day()) }

// Ledger adds the makings from one day to another up, the newest first; by shape the most first. Weeks and months that
// lie within are
// read as they were added up, the days at both ends one by one.
func (s *Store) Ledger(ctx context.Context, by LedgerBy, from, to time.Time) (out []LedgerLine, err error) {
	span := "m"
	begin := first
	next := func(t time.Time) time.Time { return t.AddDate(0, 1, 0) }
	of := "DATE_FORMAT(start - INTERVAL DAYOFMONTH(start) - 1 DAY, '%Y-%m-%d')"
	group := "of"
	order := "of DESC"
	switch by {
	case ByMonth:
	case ByShape:
		of, order = "shape", "SUM(out_g) DESC, shape"
	default:
		span = "w"
		begin = monday
		next = func(t time.Time) time.Time { return t.AddDate(0, 0, 7) }
		of = "DATE_FORMAT(start - INTERVAL WEEKDAY(start) DAY, '%Y-%m-%d')"
	}
	day := func(t time.Time) string { return t.Format(time.DateOnly) }
	after := to.AddDate(0, 0, 1)
	whole, over := begin(from), begin(after)
	if whole.Before(from) {
		whole = next(whole)
	}
	if !whole.Before(over) {
		whole, over = after, after
	}
	err = s.db.WithContext(ctx).Raw(fmt.Sprintf(`SELECT %s AS of, %s FROM made_sums
		WHERE span = ? AND start >= ? AND start < ? OR span = 'd' AND start >= ? AND start < ? OR span = 'd' AND start >= ? AND start < ?
		GROUP BY %s ORDER BY %s LIMIT ?`, of, sums, group, order),
		span, day(whole), day(over), day(from), day(whole), day(over), day(after), ledgerMost).Scan(&out).Error
	return out, err
}

// added are the columns of a sum, ofDays what sums of days are made of, from summaries.
const (
	added = "span, start, shape, n, weighed, in_g, out_g, trim_g, back_g, hands_min, hands_out_g, cost, thrown, " +
		"thrown_g"
	// A making nobody weighed is not added up; one that was thrown away, or gave nothing, is.
	ofDays = `SELECT 'd', day, shape, COUNT(*), SUM(out_said), SUM(IF(out_said OR thrown, in_g, 0)), SUM(out_g), SUM(IF(out_said OR thrown, trim_g, 0)),
		SUM(IF(out_said OR thrown, back_g, 0)), SUM(IF(out_said OR thrown, hands_min, 0)), SUM(IF(hands_min > 0, out_g, 0)),
		SUM(IF(out_said OR thrown, cost, 0)), SUM(thrown), SUM(thrown_g) FROM making_summaries`
)

// addUp makes the sums of a day anew from its makings, and those of its week and month from their days.
func addUp(tx *gorm.DB, day string) error {
	t, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return err
	}
	do := func(sql string, args ...any) {
		if err == nil {
			err = tx.Exec(sql, args...).Error
		}
	}
	do("DELETE FROM made_sums WHERE span = 'd' AND start = ?", day)
	do("INSERT INTO made_sums ("+added+") "+ofDays+" WHERE day = ? GROUP BY day, shape", day)
	for _, x := range []struct {
		span        string
		begin, over time.Time
	}{{"w", monday(t), monday(t).AddDate(0, 0, 7)}, {"m", first(t), first(t).AddDate(0, 1, 0)}} {
		start := x.begin.Format(time.DateOnly)
		do("DELETE FROM made_sums WHERE span = ? AND start = ?", x.span, start)
		do("INSERT INTO made_sums ("+added+") SELECT ?, ?, shape, "+sums+" FROM made_sums x WHERE x.span = 'd' AND "+
			"x.start >= ? AND x.start < ? GROUP BY shape",
			x.span, start, start, x.over.Format(time.DateOnly))
	}
	return err
}

// SumUp makes all sums of the ledger anew from the summaries.
func (s *Store) SumUp(ctx context.Context) error {
	return s.transact(ctx, func(tx *gorm.DB) error {
		err := tx.Exec("DELETE FROM made_sums").Error
		for _, sql := range []string{ofDays + " GROUP BY day, shape",
			"SELECT 'w', start - INTERVAL WEEKDAY(start) DAY AS s, shape, " + sums +
				" FROM made_sums x WHERE x.span = 'd' GROUP BY s, shape",
			"SELECT 'm', start - INTERVAL DAYOFMONTH(start) - 1 DAY AS s, shape, " + sums +
				" FROM made_sums x WHERE x.span = 'd' GROUP BY s, shape"} {
			if err == nil {
				err = tx.Exec("INSERT INTO made_sums (" + added + ") " + sql).Error
			}
		}
		return err
	})
}
