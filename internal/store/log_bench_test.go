package store_test

import (
	"context"
	"database/sql"
	"fmt"
	"strings"
	"testing"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/store"
	"hollen/internal/store/storetest"
)

// filled is a log of so many makings, ten a day back from now.
func filled(b *testing.B, n int) *store.Store {
	b.Helper()
	dsn := storetest.DSN(b)
	s, err := store.Open(context.Background(), dsn, storetest.Now)
	if err != nil {
		b.Fatal(err)
	}
	b.Cleanup(func() { s.Close() })
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		b.Fatal(err)
	}
	defer db.Close()
	now := time.Date(2026, 11, 26, 8, 0, 0, 0, time.UTC)
	const at = 2000
	for from := 0; from < n; from += at {
		var rows []string
		for i := from; i < min(n, from+at); i++ {
			began := now.Add(-time.Duration(i) * 144 * time.Minute)
			shape := []string{"Tagliatelle", "Linguine", "Ravioli"}[i%3]
			rows = append(rows, fmt.Sprintf(`(%d,%d,%d,1,'Batch %d','%s','%s',%d,' batch %d %s soft wheat linde note%d','%s','%s',1500,1400,100,60,20,
				'{"version":%d,"name":"Batch %d","began":"%s","out_g":1400}')`,
				i+1, i%50+1, bench.SummaryVersion, i%50, began.Format("2006-01-02 15:04:05"),
				began.Add(time.Hour).Format("2006-01-02 15:04:05"), i%5-2, i%50,
				strings.ToLower(shape), i, began.Format("2006-01-02"), shape, bench.SummaryVersion, i%50,
				began.Format(time.RFC3339)))
		}
		if _, err := db.Exec("INSERT INTO making_summaries " +
			"(making_id,batch_id,version,seq,name,began,ended,felt,words,day,shape," +
			"in_g,out_g,trim_g,hands_min,cost,doc) VALUES " +
			strings.Join(rows, ",")); err != nil {
			b.Fatal(err)
		}
	}
	if err := s.SumUp(context.Background()); err != nil {
		b.Fatal(err)
	}
	return s
}

// The log at 100 and at 100,000 makings: its first page, its charts, what is looked for, its ledger, what plans read.
func BenchmarkLog(b *testing.B) {
	ctx := context.Background()
	now := time.Date(2026, 11, 26, 8, 0, 0, 0, time.UTC)
	for _, n := range []int{100, 100_000} {
		s := filled(b, n)
		for name, f := range map[string]func() error{
			"page":   func() error { _, _, err := s.FindMade(ctx, store.MadeQuery{}); return err },
			"charts": func() error { _, _, err := s.FindMade(ctx, store.MadeQuery{Most: 200}); return err },
			"find":   func() error { _, _, err := s.FindMade(ctx, store.MadeQuery{Words: "note77"}); return err },
			"common": func() error { _, _, err := s.FindMade(ctx, store.MadeQuery{Words: "tagliatelle"}); return err },
			"both": func() error {
				_, _, err := s.FindMade(ctx,
					store.MadeQuery{Words: "tagliatelle wheat"})
				return err
			},
			"months": func() error { _, err := s.Ledger(ctx, store.ByMonth, now.AddDate(-1, 0, 0), now); return err },
			"shapes": func() error { _, err := s.Ledger(ctx, store.ByShape, now.AddDate(-1, 0, 0), now); return err },
			"ledger": func() error { _, err := s.Ledger(ctx, store.ByWeek, now.AddDate(-1, 0, 0), now); return err },
			"stamp":  func() error { _, err := s.LogStamp(ctx); return err },
			"newest": func() error { _, err := s.NewestMade(ctx, 200); return err },
		} {
			b.Run(fmt.Sprintf("%s/%d", name, n), func(b *testing.B) {
				for b.Loop() {
					if err := f(); err != nil {
						b.Fatal(err)
					}
				}
			})
		}
	}
}
