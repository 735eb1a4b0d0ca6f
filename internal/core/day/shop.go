package day

import (
	"fmt"
	"slices"

	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/core/plan"
	"hollen/internal/core/rules"
	"hollen/internal/core/schedule"
)

// Span is a time of the day, in min from midnight.
type Span struct {
	From int `json:"from"`
	To   int `json:"to"`
}

// Hand is a person of the day.
type Hand struct {
	Name   string          `json:"name"`
	From   int             `json:"from"` // there from, min from midnight; 0: from opening
	To     int             `json:"to"`   // and until; 0: until closing
	Breaks []Span          `json:"breaks,omitempty"`
	Cannot []schedule.Kind `json:"cannot,omitempty"` // does not do
	Pace   int             `json:"pace"`             // how long everything takes, % of what the batches’ plans say
}

// Shop is what a workshop has on a day, as its maker puts it.
type Shop struct {
	OpenAt  int     `json:"open"`
	CloseAt int     `json:"close"`
	Breaks  []Span  `json:"breaks,omitempty"` // of all
	People  []Hand  `json:"people"`
	Rollers int     `json:"rollers"`
	Mixers  int     `json:"mixers"`
	RackM   float64 `json:"rack_m"` // of rod, m
	Trays   int     `json:"trays"`
	Fridge  int     `json:"fridge"` // doughs or fillings that find a place
	Pots    int     `json:"pots"`
	// RollerFrom is what was rolled last: clean, egg-free, pale or dark.
	RollerFrom string `json:"roller_from"`
	MarginMin  int    `json:"margin"` // how long before it is due an order is aimed to be ready, min
}

// The roller may have been left by one of these before the day.
var fromWords = []string{"clean", "egg_free", "pale", "dark"}

// DefaultShop is one pair of hands, a roller and no mixer, from eight to six.
func DefaultShop(ru rules.Day) Shop {
	return Shop{OpenAt: 8 * 60, CloseAt: 18 * 60, People: []Hand{{Name: "You", Pace: 100}}, Rollers: 1, RackM: 12,
		Trays: 12, Fridge: 4, Pots: 1,
		RollerFrom: fromWords[0], MarginMin: ru.MarginMin}
}

// Part is what of a batch is done on a day.
type Part string

// The parts of a batch.
const (
	Whole     Part = ""
	DoughOnly Part = "dough" // kneaded into the fridge for another day
	FromCold  Part = "cold"  // kneaded before; from the fridge on
)

// Job is a batch of the day.
type Job struct {
	Batch   uint64 `json:"batch"`
	Version int    `json:"version"` // of the batch, when its tasks were last worked out
	Part    Part   `json:"part,omitempty"`
	Cooked  bool   `json:"cooked,omitempty"` // into the pot for its orders
	Left    bool   `json:"left_out,omitempty"`
	// Shown in the list of days.
	Letter   string  `json:"letter"`
	Name     string  `json:"name"`
	Shape    string  `json:"shape"`
	DoughG   float64 `json:"dough_g"`
	Portions float64 `json:"portions"`
	Face     string  `json:"face"` // of its dough’s colour
	Edge     string  `json:"edge"`
	Class    int     `json:"class"`
}

// Wish is what its maker says of one task.
type Wish struct {
	Task      string   `json:"task"`
	Pinned    bool     `json:"pinned,omitempty"`
	At        int      `json:"at,omitempty"`         // where it is pinned, min from midnight
	By        string   `json:"by,omitempty"`         // who does it; "" whoever
	NotBy     []string `json:"not_by,omitempty"`     // who does not
	NotBefore int      `json:"not_before,omitempty"` // min from midnight, 0: any time
	NotAfter  int      `json:"not_after,omitempty"`  // it ends by then; 0: any time
}

// Want is an order as a day sees it.
type Want struct {
	ID    uint64   `json:"order"`
	Who   string   `json:"who"`
	What  string   `json:"what"`
	Due   int      `json:"due"`      // min from midnight
	Jobs  []uint64 `json:"batches"`  // that it needs
	Count float64  `json:"portions"` // 0 where it is said otherwise and is not known yet
	// Said is how much was ordered, as it was said.
	Said order.Amount `json:"amount"`
	Note string       `json:"note,omitempty"`
	// Lost says that the batch made for it was thrown away, and no other serves it yet.
	Lost bool `json:"thrown_away,omitempty"`
}

// Asked is how much was ordered: portions, where nothing else was said.
func (w *Want) Asked() order.Amount {
	if w.Said.N == 0 {
		return order.Amount{N: w.Count}
	}
	return w.Said
}

// Marks are what an order is to be without, in words: "allergy: nuts; no egg"; "" where it says nothing of it.
func (w *Want) Marks() string { return order.MarksWords(order.Marks(w.What, w.Note)) }

// Notice is what whoever makes or packs an order must not pass over: its allergies, then its note; "" where there is
// neither.
func (w *Want) Notice() string { return order.Notice(w.What, w.Note) }

// Letters are the names of the batches of a day: A to Z, then AA.
func Letters(n int) string {
	s := ""
	for n++; n > 0; n = (n - 1) / 26 {
		s = string(rune('A'+(n-1)%26)) + s
	}
	return s
}

// OnRoller says whether a task is done on a roller: not ropes, not with a pin.
func OnRoller(d *schedule.Day, task int) bool {
	return d.Tasks[task].Class >= 0 || slices.ContainsFunc(d.Holds, func(h schedule.Hold) bool {
		return h.Store == AtRollers &&
			h.From.Task == task
	})
}

// Put puts a workshop’s day together: its jobs with their plans, what is wished of them, and the orders. The jobs’
// letters
// and what a list shows of them are filled in.
func Put(ru rules.Day, shop Shop, jobs []Job, plans []*plan.Plan, wishes []Wish, wants []Want) *schedule.Day {
	d := &schedule.Day{First: slices.Index(fromWords, shop.RollerFrom) - 1,
		Setup: [][]int{{0, 0, ru.CleanDarkMin}, {ru.CleanEggFreeMin, 0, ru.CleanDarkMin}, {ru.CleanEggFreeMin,
			ru.CleanPaleMin, 0}},
		Stores: storesOf(&shop)}
	if d.First < -1 {
		d.First = -1
	}
	for _, h := range shop.People {
		d.People = append(d.People, schedule.Person{Name: h.Name, Off: shop.off(h)})
	}
	b := &builder{day: d, ru: ru, shop: &shop, ends: map[uint64][]int{}}
	for i := range jobs {
		b.job(i, &jobs[i], plans[i])
	}
	for _, w := range wants {
		o := schedule.Order{Name: w.Who, Due: max(0, w.Due-shop.MarginMin)}
		for _, id := range w.Jobs {
			o.Last = append(o.Last, b.ends[id]...)
		}
		if len(o.Last) > 0 {
			d.Orders = append(d.Orders, o)
		}
	}
	b.wish(wishes)
	d.KeepNeeds()
	return d
}

// off is when a person is not there, in order: before and after their hours, and in every break.
func (s *Shop) off(h Hand) [][2]int {
	from, to := s.OpenAt, s.CloseAt
	if h.From > 0 {
		from = max(from, h.From)
	}
	if h.To > 0 {
		to = min(to, h.To)
	}
	spans := [][2]int{{0, from}, {to, schedule.NoLimit / 8}}
	for _, b := range append(slices.Clone(s.Breaks), h.Breaks...) {
		if b.To > b.From {
			spans = append(spans, [2]int{b.From, b.To})
		}
	}
	slices.SortFunc(spans, func(a, b [2]int) int { return a[0] - b[0] })
	out := spans[:0]
	for _, x := range spans {
		if n := len(out); n > 0 && x[0] <= out[n-1][1] {
			out[n-1][1] = max(out[n-1][1], x[1])
			continue
		}
		out = append(out, x)
	}
	return slices.DeleteFunc(out, func(x [2]int) bool { return x[1] <= x[0] })
}

// Within is a time that was said of this day: what lies before opening and is within the hours past midnight is meant
// there.
func (s *Shop) Within(x Span) Span {
	for _, at := range []*int{&x.From, &x.To} {
		if *at > 0 && *at < s.OpenAt && *at+24*60 <= s.CloseAt {
			*at += 24 * 60
		}
	}
	return x
}

// wish puts what is said of single tasks into the day.
func (b *builder) wish(wishes []Wish) {
	for _, w := range wishes {
		i := slices.IndexFunc(b.day.Tasks, func(t schedule.Task) bool { return t.Key == w.Task })
		if i < 0 {
			continue
		}
		t := &b.day.Tasks[i]
		for p := range b.day.People {
			name := b.day.People[p].Name
			if t.Hands && (w.By != "" && w.By != name || slices.Contains(w.NotBy, name)) {
				t.Minutes[p] = -1
			}
		}
		if w.NotBefore > 0 {
			t.From = max(t.From, w.NotBefore)
		}
		if w.NotAfter > 0 {
			t.To = min(t.To, w.NotAfter)
		}
		if w.Pinned {
			t.From, t.To = w.At, w.At
			for _, m := range t.Minutes {
				t.To = max(t.To, w.At+m)
			}
		}
	}
}

// Time writes a minute of the day as the clock says it: 9:05; past midnight 25:10 is 1:10.
func Time(minutes int) string { return fmt.Sprintf("%d:%02d", (minutes/60)%24, minutes%60) }

// Words writes minutes as they are said.
func Words(minutes int) string { return measure.Minutes(float64(minutes)) }
