package log

import (
	"fmt"
	"html/template"
	"math"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/bench"
	"hollen/internal/core/cut"
	"hollen/internal/core/flour"
	"hollen/internal/core/knead"
	"hollen/internal/core/learn"
	"hollen/internal/core/measure"
	"hollen/internal/core/roll"
	"hollen/internal/draw"
	"hollen/internal/store"
	"hollen/internal/web/page"
)

// residueRow is a batch, what it says of the water, and how much it counts.
type residueRow struct {
	ID             uint64
	When, Name, By string
	Flour, Felt, R string
	Doubtful, Left bool
}

// learnedFlour is what is learned of the water of one flour.
type learnedFlour struct {
	Label, Name string
	Words       string
	Off         bool
}

// learnedView is what the log has learned, with what stands behind it.
type learnedView struct {
	Damaged bool // what of the log counts cannot be read
	N       int
	Off     bool
	Since   string
	Kitchen string
	Flours  []learnedFlour
	Rows    []residueRow
	Chart   template.HTML
	Says    []string
	Factors template.HTML // the same as bars
	Newest  int
	Ask     *question
	Open    string // the matter that is open, "" for water
	Tried   []triedRow
}

// triedRow is a law of the book and what the makings say of it.
type triedRow struct {
	Law, Of, Looks string
	Says           string
	Fails          bool
}

// triedRows are the laws that were tried, in words.
func triedRows(all []learn.Tried, machine func(key string) string) (out []triedRow) {
	for _, t := range all {
		k := len(t.Looks)
		r := triedRow{Of: t.Of, Looks: fmt.Sprintf("%d of %d held", t.Held, k), Fails: t.Is == learn.Narrow}
		unit := "minutes"
		switch t.Key {
		case learn.LawLeather:
			r.Law = "Minutes to leather"
		case learn.LawPot:
			r.Law, unit = "Seconds in the pot", "seconds"
			r.Of = cut.Family(t.Of).Traits().Name
		case learn.LawSheet:
			r.Law, unit = "Sheet at a stop", "sheets"
			r.Of = machine(t.Of)
		}
		r.Says = measure.Capital(string(t.Is))
		if t.Is == learn.NotKnown {
			r.Says += fmt.Sprintf(": %d looks would tell", max(learn.Knowable, k+1))
		}
		r.Says += fmt.Sprintf(". Here its %s are %.2f times the book’s, a look give or take %.0f %%.", unit,
			math.Exp(t.LnK),
			100*t.Within())
		out = append(out, r)
	}
	return out
}

// ShowLearned shows what is learned.
func (s *Room) ShowLearned(c *page.Visit) error {
	ctx := c.Request.Context()
	log, set := s.Learned(ctx)
	cab, err := c.Cabinet()
	if err != nil {
		return err
	}
	now := s.Now()
	v := learnedView{N: log.Len(), Off: set.Off, Damaged: set.Damaged, Newest: s.Rules.Learn.Newest,
		Open: c.Query("open")}
	if !set.Since.IsZero() {
		v.Since = set.Since.Local().Format("2 January 2006")
	}
	name := func(label string) string { return labelName(cab, label) }
	var dots []draw.Dot
	for _, r := range log.Residues() {
		v.Rows = append(v.Rows, residueRow{ID: r.Making, When: r.Began.Local().Format("2 Jan"), Name: r.Name,
			By: r.Evidence.Maker, Flour: name(r.Evidence.Flour),
			Felt: bench.FeltWords[*r.Felt+2], R: signed(r.R), Doubtful: r.W < learn.Doubtful})
		dots = append(dots, draw.Dot{At: r.Began, Y: r.R, Of: name(r.Evidence.Flour), Hollow: r.W < learn.Doubtful})
	}
	if e := log.Water("", "", "", "", now); e.N > 0 {
		v.Kitchen = fmt.Sprintf("Whatever the flour, this kitchen wanted %s points, give or take %.1f.", signed(e.M),
			e.Within)
		v.Chart = template.HTML(draw.InWidths(func(w draw.Width) string {
			return draw.Log("What batches wanted", "points of water over the book", dots, 0, "book", e.M-e.Within,
				e.M+e.Within, w)
		}))
	}
	for _, label := range log.Flours() {
		e := log.Water(label, "", "", "", now)
		v.Flours = append(v.Flours, learnedFlour{label, name(label), waterWords(e), slices.Contains(set.Flours, label)})
	}
	left, err := s.leftOut(c, set)
	if err != nil {
		return err
	}
	v.Rows = append(v.Rows, left...)
	var factors []draw.Factor
	for _, x := range log.Says(now) {
		v.Says = append(v.Says, sayWords(x, name))
		if x.N > 0 && x.What != "shrink" {
			factors = append(factors, draw.Factor{Name: sayOf(x, name), By: x.By, From: x.From, To: x.To, N: x.N})
		}
	}
	v.Factors = template.HTML(draw.InWidths(func(w draw.Width) string { return draw.Factors(factors, w) }))
	v.Tried = triedRows(log.Tried(), func(key string) string {
		for _, m := range append(slices.Clone(cab.Machines), roll.Shipped()...) {
			if m.Key == key {
				return m.Name
			}
		}
		return ""
	})
	v.Ask = askOf(log, set, name)
	s.Render(c, http.StatusOK, "learned", "What is learned", v)
	return nil
}

// leftOut are the makings that were left out, so that they can be taken in again.
func (s *Room) leftOut(c *page.Visit, set store.LogSettings) (out []residueRow, err error) {
	if len(set.Left) == 0 {
		return nil, nil
	}
	all, err := s.Store.MadeByID(c.Request.Context(), set.Left)
	for _, m := range all {
		felt := ""
		if m.Felt != nil {
			felt = bench.FeltWords[*m.Felt+2]
		}
		out = append(out, residueRow{ID: m.ID, When: m.Began.Local().Format("2 Jan"), Name: m.Name,
			By:   m.Evidence.Maker,
			Felt: felt, Left: true})
	}
	return out, err
}

// signed is points with their sign, one decimal, no finer.
func signed(v float64) string {
	if math.Abs(v) < .05 {
		return "0.0"
	}
	return strings.Replace(fmt.Sprintf("%+.1f", v), "-", "−", 1)
}

// waterWords say what the batches of a flour wanted, cause by cause.
func waterWords(e learn.Estimate) string {
	words := fmt.Sprintf("%s points, right within %.1f nine times in ten", signed(e.M), e.Within)
	var parts []string
	for i, p := range append(slices.Clone(e.Parts), e.Drift) {
		if math.Abs(p) >= .05 {
			parts = append(parts, append(slices.Clone(learn.Levels), "season")[i]+" "+signed(p))
		}
	}
	if len(parts) > 0 {
		words += " (" + strings.Join(parts, ", ") + ")"
	}
	return words + "."
}

// labelName is a flour’s label in names.
func labelName(cab store.Cabinet, label string) string {
	var out []string
	for key := range strings.SplitSeq(label, " + ") {
		name := key
		if f, ok := flour.Find(key); ok {
			name = f.Name
		}
		for _, f := range cab.Flours {
			if f.Key == key {
				name = f.Name
			}
		}
		out = append(out, name)
	}
	return strings.Join(out, " + ")
}

// hiddenWords say what looks could not tell, because the plan kneaded longer than the dough needs.
func hiddenWords(x learn.Saying) string {
	if x.Unseen == 0 {
		return ""
	}
	least := measure.Minutes(x.BelowMin)
	ready := map[string]string{"knead": "smooth at the end of its kneading",
		"rest": "relaxed at the end of its rest"}[x.What]
	said := " One batch was " + ready + ", which was longer than it needs by the book"
	if x.Unseen > 1 {
		said = fmt.Sprintf(" %d batches were ", x.Unseen) + strings.ReplaceAll(ready, "its", "their") +
			", which was longer than they need by the book"
	}
	return said + ": not seen below " + least + "."
}

// sayWords say a factor as one would across the bench.
func sayWords(x learn.Saying, flour func(string) string) string {
	if x.What == "shrink" {
		return fmt.Sprintf("Ribbons of %s pull in %.1f %% once they are cut, within %.1f, from %d.", flour(x.Of),
			100*x.By, 100*x.To, x.N)
	}
	k := fmt.Sprintf("%.0f %% of the book’s, nine times in ten %.0f to %.0f %%, from %d.", 100*x.By, 100*x.From,
		100*x.To, x.N)
	if x.N == 0 {
		k = "nothing learned yet."
	}
	return sayOf(x, flour) + ": " + k + hiddenWords(x)
}

// sayOf names what a factor is of.
func sayOf(x learn.Saying, flour func(string) string) string {
	switch x.What {
	case "knead":
		school := x.Of
		if t := knead.School(x.Of).Traits(); t != nil && t.Name != "" {
			school = t.Name
		}
		return fmt.Sprintf("Kneading (%s)", strings.ToLower(school))
	case "rest":
		return "Rest of " + flour(x.Of)
	case "dry":
		return fmt.Sprintf("Leather (%s air)", x.Of)
	case "cook":
		return "In the pot, " + strings.ReplaceAll(x.Of, "_", " ")
	case "loss":
		return "Left on bowl and board"
	case "trim":
		return "Trimmings, " + strings.ReplaceAll(x.Of, "-", " ")
	}
	return "Hands at the cut, " + strings.ReplaceAll(x.Of, "-", " ")
}

// matterOf is the matter of the page in which a thing is done; none stands for the first.
var matterOf = map[string]string{"leave": "behind", "take": "behind", "reset": "now", "again": "now"}

// ChangeLearned changes what of the log counts.
func (s *Room) ChangeLearned(c *page.Visit) error {
	values, err := s.Posted(c)
	if err != nil {
		return err
	}
	id, _ := strconv.ParseUint(values.Get("making"), 10, 63)
	label := values.Get("flour")
	do := map[string]func(*store.LogSettings){
		"off":       func(l *store.LogSettings) { l.Off = true },
		"on":        func(l *store.LogSettings) { l.Off, l.Damaged = false, false },
		"flour_off": func(l *store.LogSettings) { l.Flours = append(l.Flours, label) },
		"flour_on": func(l *store.LogSettings) {
			l.Flours = slices.DeleteFunc(l.Flours, func(x string) bool { return x == label })
		},
		"leave": func(l *store.LogSettings) { l.Left = append(l.Left, id) },
		"take": func(l *store.LogSettings) {
			l.Left = slices.DeleteFunc(l.Left,
				func(x uint64) bool { return x == id })
		},
		"reset": func(l *store.LogSettings) { l.Since = s.Now().UTC().Truncate(time.Second) },
		"again": func(l *store.LogSettings) { l.Since = time.Time{} },
		"tick":  func(l *store.LogSettings) { l.Ticked = append(l.Ticked, id) },
		"away":  func(l *store.LogSettings) { l.Away = append(l.Away, values.Get("question")) },
	}[values.Get("do")]
	what := values.Get("do")
	if do == nil || (what == "leave" || what == "take" || what == "tick") && id == 0 ||
		what == "away" && (values.Get("question") == "" || len(values.Get("question")) > 200) || strings.HasPrefix(what,
		"flour_") && (label == "" ||
		len(label) > 200) {
		return page.Refuse(http.StatusUnprocessableEntity, "That cannot be done here.",
			"Off, on, a flour, a making, or from now on is understood.")
	}
	if err := s.Store.ChangeLogSettings(c.Request.Context(), do); err != nil {
		return err
	}
	s.LogChanged()
	to := "/log/learned" // the matter it was done in stays open
	if matter := matterOf[what]; matter != "" {
		to += "?open=" + matter
	}
	if back := values.Get("back"); strings.HasPrefix(back, "/") && !strings.HasPrefix(back, "//") {
		to = back
	}
	c.Redirect(http.StatusSeeOther, to)
	return nil
}
