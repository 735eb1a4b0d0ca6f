package log

import (
	"fmt"
	"html/template"
	"math"
	"net/http"
	"net/url"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/learn"
	"hollen/internal/core/measure"
	"hollen/internal/core/rules"
	"hollen/internal/draw"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// logRow is one making in the log.
type logRow struct {
	ID, Batch          uint64
	Time, Name, Shape  string
	Flours, Felt, Out  string
	Took, By, Next, Hw string
}

// logDay is a day of the log.
type logDay struct {
	Name string
	Rows []logRow
}

// logView is the log.
type logView struct {
	Words  string
	Felt   string // as it was asked for
	From   string // the first day
	To     string // and the last
	Any    bool   // something is looked for
	Days   []logDay
	Older  string
	Feels  []string
	Charts []logChart
	None   bool // nothing has ended yet
	Ask    *question
}

// Filtered says that more than words is looked for.
func (v logView) Filtered() bool { return v.Felt != "" || v.From != "" || v.To != "" }

// logChart is one figure of what was found, over time.
type logChart struct {
	Name, Side string
	Picture    template.HTML
}

// logQuery reads what is looked for in the log.
func logQuery(q url.Values) store.MadeQuery {
	out := store.MadeQuery{Words: strings.TrimSpace(q.Get("find"))}
	if n, err := strconv.Atoi(q.Get("felt")); err == nil && n >= -2 && n <= 2 {
		out.Felt = &n
	}
	if t, err := time.ParseInLocation(time.DateOnly, q.Get("from"), time.Local); err == nil {
		out.From = t
	}
	if t, err := time.ParseInLocation(time.DateOnly, q.Get("to"), time.Local); err == nil {
		out.To = t.AddDate(0, 0, 1)
	}
	if id, err := strconv.ParseUint(q.Get("id"), 10, 63); err == nil {
		if t, err := time.Parse(time.RFC3339Nano, q.Get("before")); err == nil {
			out.After = store.Mark{At: t, ID: id}
		}
	}
	return out
}

// chartMost is how many makings a chart of the log shows, the newest.
const chartMost = 200

// ShowLog shows the log: by day, and by what is looked for.
func (s *Room) ShowLog(c *page.Visit) error {
	ctx := c.Request.Context()
	q := logQuery(c.Request.URL.Query())
	found, next, err := s.Store.FindMade(ctx, q)
	if err != nil {
		return err
	}
	charted := q
	charted.After, charted.Most = store.Mark{}, chartMost
	all, _, err := s.Store.FindMade(ctx, charted)
	if err != nil {
		return err
	}
	in := c.Units
	v := logView{Words: q.Words, Felt: c.Query("felt"), From: c.Query("from"), To: c.Query("to"),
		Feels: bench.FeltWords,
		Any:   q.Words != "" || q.Felt != nil || !q.From.IsZero() || !q.To.IsZero()}
	v.None = len(found) == 0 && !v.Any
	for _, m := range found {
		day := m.Began.Local().Format("Monday 2 January 2006")
		if n := len(v.Days); n == 0 || v.Days[n-1].Name != day {
			v.Days = append(v.Days, logDay{Name: day})
		}
		d := &v.Days[len(v.Days)-1]
		d.Rows = append(d.Rows, logRowOf(in, &m))
	}
	if next != nil {
		page := url.Values{"before": {next.At.Format(time.RFC3339Nano)}, "id": {fmt.Sprint(next.ID)}}
		if q.Words != "" {
			page.Set("find", q.Words)
		}
		if q.Felt != nil {
			page.Set("felt", fmt.Sprint(*q.Felt))
		}
		for _, day := range []string{"from", "to"} {
			if x := c.Query(day); x != "" {
				page.Set(day, x)
			}
		}
		v.Older = "/log?" + page.Encode()
	}
	v.Charts = chartsOf(s.Rules.Learn, all)
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	log, set := s.Learned(ctx)
	v.Ask = askOf(log, set, func(label string) string { return labelName(cab, label) })
	s.Render(c, http.StatusOK, "log", "The log", v)
	return nil
}

func logRowOf(in measure.System, m *store.Made) logRow {
	r := logRow{ID: m.ID, Batch: m.Batch, Time: m.Began.Local().Format("15:04"), Name: m.Name, Shape: m.Shape,
		Flours: strings.Join(m.Flours, ", "),
		Took:   measure.Minutes(m.Min), By: strings.Join(m.Makers, ", "), Next: m.Next, Hw: fmt.Sprintf("%.1f", m.Hw)}
	if m.Felt != nil {
		r.Felt = bench.FeltWords[*m.Felt+2]
	}
	switch {
	case m.Thrown:
		r.Out = "thrown away"
	case m.OutSaid:
		r.Out = in.Grams(m.OutG)
	}
	return r
}

// flourOf is the flour of a making that a chart tells it by, its first.
func flourOf(m *store.Made) string {
	if len(m.Flours) == 0 {
		return ""
	}
	return m.Flours[0]
}

// chartsOf draws what was found, a figure a chart: those that at least two makings have.
func chartsOf(ru rules.Learn, all []store.Made) (out []logChart) {
	one := func(name, side, unit string, want float64, word string, of func(m *store.Made) (float64, bool)) {
		var dots []draw.Dot
		for i := range all {
			if y, ok := of(&all[i]); ok && !math.IsNaN(y) && !math.IsInf(y, 0) {
				dots = append(dots, draw.Dot{At: all[i].Began, Y: y, Of: flourOf(&all[i])})
			}
		}
		if len(dots) > 1 {
			out = append(out, logChart{name, side, template.HTML(draw.InWidths(func(w draw.Width) string {
				return draw.Log(name, unit, dots, want, word, want, want, w)
			}))})
		}
	}
	one("Water, as it felt", "working hydration as made, less the book’s target and what the hand said of it",
		"points; over the line it wanted more than the book", 0, "book", func(m *store.Made) (float64, bool) {
			return learn.Wanted(ru, &m.Summary)
		})
	var dots []draw.Dot
	for i := range all {
		if y, ok := learn.Wanted(ru, &all[i].Summary); ok && all[i].RH > 0 {
			dots = append(dots, draw.Dot{X: 100 * all[i].RH, Y: y, Of: flourOf(&all[i])})
		}
	}
	if len(dots) > 1 {
		out = append(out, logChart{"Water, over the room’s humidity",
			"the same; flat says that the room is reckoned right",
			template.HTML(draw.InWidths(func(w draw.Width) string {
				return draw.LogOver("Water over the room’s humidity", "points over the book", dots, "% humidity", 0,
					"book", w)
			}))})
	}
	one("A poke, half back", "the last one timed; three seconds is ready", "seconds", 3, "ready",
		func(m *store.Made) (float64, bool) {
			return m.PokeS,
				m.PokeS > 0
		})
	one("Came out", "pasta that was weighed, of what was planned", "% of the plan", 100, "planned",
		func(m *store.Made) (float64, bool) {
			return 100 * m.OutG / math.Max(m.PlanOutG, 1), m.OutG > 0 && m.PlanOutG > 0
		})
	one("Hands", "minutes of work for each kilogram that came out", "min/kg", 0, "", func(m *store.Made) (float64,
		bool) {
		return m.HandsMin / (m.OutG / 1000), m.OutG > 0 && m.HandsMin > 0
	})
	return out
}

// exported is how many makings leave in one file at most: the newest of what is looked for.
const exported = 20_000

func (s *Room) foundMade(c *page.Visit) ([]store.Made, error) {
	q := logQuery(c.Request.URL.Query())
	q.Most = exported
	all, _, err := s.Store.FindMade(c.Request.Context(), q)
	return all, err
}
