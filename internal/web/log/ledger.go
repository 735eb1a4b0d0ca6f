package log

import (
	"fmt"
	"net/http"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/measure"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// ledgerRow is a week, a month or a shape of the ledger.
type ledgerRow struct {
	Of, N, In, Out, Yield, Trims, Back, Cost, Each, PerKG, Thrown string
}

// ledgerView is what went in and what came out.
type ledgerView struct {
	By    string
	From  string
	To    string
	Err   string
	Rows  []ledgerRow
	Total *ledgerRow
}

// aYear is how far back the ledger goes unless it is asked for more, days.
const aYear = 365

// ShowLedger shows the ledger by week, month or shape.
func (s *Room) ShowLedger(c *page.Visit) error {
	ctx := c.Request.Context()
	now := s.Now()
	v := ledgerView{By: c.DefaultQuery("by", string(store.ByWeek)), From: c.DefaultQuery("from", now.AddDate(0, 0,
		-aYear).Format(time.DateOnly)),
		To: c.DefaultQuery("to", now.Format(time.DateOnly))}
	from, err1 := time.Parse(time.DateOnly, v.From)
	to, err2 := time.Parse(time.DateOnly, v.To)
	status := http.StatusOK
	switch {
	case err1 != nil || err2 != nil:
		v.Err, status = "Days as 2026-11-28 are read.", http.StatusUnprocessableEntity
	case to.Before(from):
		v.Err, status = "The first day comes after the last.", http.StatusUnprocessableEntity
	}
	if v.By != string(store.ByWeek) && v.By != string(store.ByMonth) && v.By != string(store.ByShape) {
		v.By = string(store.ByWeek)
	}
	if v.Err != "" {
		s.Render(c, status, "ledger", "The ledger", v)
		return nil
	}
	h, err := s.House(c)
	if err != nil {
		return err
	}
	lines, err := s.Store.Ledger(ctx, store.LedgerBy(v.By), from, to)
	if err != nil {
		return err
	}
	in := c.Units
	var all store.LedgerLine
	for _, l := range lines {
		v.Rows = append(v.Rows, ledgerRowOf(in, h.Prices.Currency, v.By, l))
		all = store.LedgerLine{Of: "In all", N: all.N + l.N, Weighed: all.Weighed + l.Weighed,
			InG: all.InG + l.InG, OutG: all.OutG + l.OutG, TrimG: all.TrimG + l.TrimG,
			BackG:    all.BackG + l.BackG,
			HandsMin: all.HandsMin + l.HandsMin, HandsOutG: all.HandsOutG + l.HandsOutG, Cost: all.Cost + l.Cost,
			Thrown: all.Thrown + l.Thrown, ThrownG: all.ThrownG + l.ThrownG}
	}
	if len(lines) > 1 {
		total := ledgerRowOf(in, h.Prices.Currency, "", all)
		v.Total = &total
	}
	s.Render(c, status, "ledger", "The ledger", v)
	return nil
}

func ledgerRowOf(in measure.System, currency, by string, l store.LedgerLine) ledgerRow {
	r := ledgerRow{Of: l.Of, N: fmt.Sprint(l.N)}
	if l.Weighed < l.N {
		r.N = fmt.Sprintf("%d, %d weighed", l.N, l.Weighed)
	}
	if t, err := time.Parse(time.DateOnly, l.Of); err == nil && by != "" {
		r.Of = t.Format("January 2006")
		if by == string(store.ByWeek) {
			for t.Weekday() != time.Monday {
				t = t.AddDate(0, 0, -1)
			}
			r.Of = "week of " + t.Format("2 January 2006")
		}
	}
	if l.Thrown > 0 {
		r.Thrown = fmt.Sprintf("%d, %s", l.Thrown, in.KG(l.ThrownG/1000, 1))
	}
	if l.InG <= 0 {
		return r
	}
	r.In = in.KG(l.InG/1000, 1)
	r.Out = in.KG(l.OutG/1000, 1)
	r.Trims = in.KG(l.TrimG/1000, 1)
	if l.BackG > 0 {
		r.Back = in.KG(l.BackG/1000, 2)
	}
	if l.InG > 0 {
		r.Yield = fmt.Sprintf("%.0f %%", 100*l.OutG/l.InG)
	}
	if l.Cost > 0 {
		r.Cost = strings.TrimSpace(fmt.Sprintf("%s %s", currency, measure.Thousands(l.Cost)))
		if l.OutG > 0 {
			r.Each = strings.TrimSpace(fmt.Sprintf("%s %.2f", currency, l.Cost/(l.OutG/1000)))
		}
	}
	if l.HandsOutG > 0 {
		r.PerKG = fmt.Sprintf("%.0f", l.HandsMin/(l.HandsOutG/1000))
	}
	return r
}

// besidePair is one figure of two makings.
type besidePair struct{ Name, A, B, Differs string }

// ShowBesideMade sets two makings side by side.
func (s *Room) ShowBesideMade(c *page.Visit) error {
	kept, run, err := s.Making(c)
	if err != nil {
		return err
	}
	ctx := c.Request.Context()
	a, err := s.Store.MadeByID(ctx, []uint64{kept.ID})
	if err != nil {
		return err
	}
	others, err := s.Store.MadeOf(ctx, kept.BatchID)
	if err != nil {
		return err
	}
	v := struct {
		ID, Other uint64
		Name      string
		WhenA     string
		WhenB     string
		Pairs     []besidePair
		Others    []madeRow
	}{ID: kept.ID, Name: run.Begun.Request.Name, WhenA: measure.TimeWords(kept.Began.Local())}
	for _, o := range others {
		if o.ID != kept.ID {
			v.Others = append(v.Others, madeRow{ID: o.ID, When: measure.TimeWords(o.Began.Local())})
		}
	}
	with := c.Query("with")
	for i := range others {
		if o := &others[i]; o.ID != kept.ID && len(a) > 0 && (with == fmt.Sprint(o.ID) || with == "" && (v.Other == 0 &&
			o.Began.Before(kept.Began))) {
			v.Other, v.WhenB = o.ID, measure.TimeWords(o.Began.Local())
			v.Pairs = pairsOf(c.Units, &a[0], o)
		}
	}
	s.Render(c, http.StatusOK, "besidemade", "Side by side: "+v.Name, v)
	return nil
}

// pairsOf are the figures of two makings side by side.
func pairsOf(in measure.System, a, b *store.Made) (out []besidePair) {
	add := func(name, x, y string) {
		if x == "" && y == "" {
			return
		}
		p := besidePair{Name: name, A: x, B: y}
		if x != y {
			p.Differs = "yes"
		}
		out = append(out, p)
	}
	g := func(v float64) string {
		if v == 0 {
			return ""
		}
		return in.Grams(v)
	}
	n := func(v float64, form string) string {
		if v == 0 {
			return ""
		}
		return fmt.Sprintf(form, v)
	}
	felt := func(m *store.Made) string {
		if m.Felt == nil {
			return ""
		}
		return bench.FeltWords[*m.Felt+2]
	}
	add("Made by", strings.Join(a.Makers, ", "), strings.Join(b.Makers, ", "))
	add("Lots", strings.Join(a.Lots, ", "), strings.Join(b.Lots, ", "))
	add("Flour that went in", g(a.FlourG), g(b.FlourG))
	add("Dough", g(a.DoughG), g(b.DoughG))
	add("Working hydration", n(a.Hw, "%.1f"), n(b.Hw, "%.1f"))
	add("planned", n(a.PlanHw, "%.1f"), n(b.PlanHw, "%.1f"))
	add("Felt", felt(a), felt(b))
	add("A poke, half back", n(a.PokeS, "%.1f s"), n(b.PokeS, "%.1f s"))
	mm := func(v float64) string {
		if v == 0 {
			return ""
		}
		return in.MM(v, 2)
	}
	add("Sheet, measured", mm(a.SheetMM), mm(b.SheetMM))
	add("planned", mm(a.PlanMM), mm(b.PlanMM))
	add("Rolling a piece", n(a.PieceMin, "%.1f min"), n(b.PieceMin, "%.1f min"))
	add("Lost in drying", n(100*a.Loss, "%.1f %%"), n(100*b.Loss, "%.1f %%"))
	came := func(m *store.Made) string { return strings.TrimSuffix(m.OutWords(in), " came out") }
	add("Came out", came(a), came(b))
	add("From beginning to end", measure.Minutes(a.Min), measure.Minutes(b.Min))
	hands := func(m *store.Made) string {
		if m.HandsMin == 0 {
			return ""
		}
		return measure.Minutes(m.HandsMin)
	}
	add("Hands at work", hands(a), hands(b))
	add("Next time", a.Next, b.Next)
	return out
}
