package store

import (
	"context"
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

// LedgerLine is what went in and what came out, of makings that were weighed out. Masses g, times min, cost in the house's
// currency.
type LedgerLine struct {
	Of      string // a day of the week or month, yyyy-mm-dd; or a shape
	N       int    // makings
	Weighed int    // of them, whose pasta was weighed: the masses are theirs
	InG     float64
	OutG    float64
	TrimG   float64
	// HandsMin are the minutes of those whose work was timed, HandsOutG what came out of them.
	HandsMin, HandsOutG float64
	Cost                float64
}

// ledgerMost is how many lines a ledger shows.
const ledgerMost = 120

// Ledger adds the makings from one day to another up, the newest first; by shape the most first.
func (s *Store) Ledger(ctx context.Context, by LedgerBy, from, to time.Time) (out []LedgerLine, err error) {
	of, order := "DATE_FORMAT(MIN(day), '%Y-%m-%d')", "MIN(day) DESC"
	group := map[LedgerBy]string{ByWeek: "YEARWEEK(day, 3)", ByMonth: "DATE_FORMAT(day, '%Y-%m')", ByShape: "shape"}[by]
	if by == ByShape {
		of, order = "shape", "SUM(out_g) DESC, shape"
	}
	if group == "" {
		group = "YEARWEEK(day, 3)"
	}
	err = s.db.WithContext(ctx).Raw(`SELECT `+of+` AS of, SUM(n) AS n, SUM(weighed) AS weighed, SUM(in_g) AS in_g, SUM(out_g) AS out_g, SUM(trim_g) AS trim_g,
		SUM(hands_min) AS hands_min, SUM(hands_out_g) AS hands_out_g, SUM(cost) AS cost FROM made_days WHERE day >= ? AND day <= ?
		GROUP BY `+group+` ORDER BY `+order+` LIMIT ?`, from.Format(time.DateOnly), to.Format(time.DateOnly), ledgerMost).Scan(&out).Error
	return out, err
}

// addUp makes the sums of a day anew from its makings.
func addUp(tx *gorm.DB, day string) error {
	if err := tx.Exec("DELETE FROM made_days WHERE day = ?", day).Error; err != nil {
		return err
	}
	return tx.Exec(`INSERT INTO made_days (day, shape, n, weighed, in_g, out_g, trim_g, hands_min, hands_out_g, cost)
		SELECT day, shape, COUNT(*), SUM(out_g > 0), SUM(IF(out_g > 0, in_g, 0)), SUM(out_g), SUM(IF(out_g > 0, trim_g, 0)),
		SUM(IF(out_g > 0, hands_min, 0)), SUM(IF(hands_min > 0, out_g, 0)), SUM(IF(out_g > 0, cost, 0))
		FROM making_summaries WHERE day = ? GROUP BY day, shape`, day).Error
}
