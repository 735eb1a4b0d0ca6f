package exchange

import (
	"encoding/csv"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"

	"hollen/internal/core/day"
	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/core/schedule"
)

// DayFormat names the version of the document.
const DayFormat = "hollen-day/1"

// Day is a planned day as a document: for reading elsewhere. Minutes count from midnight where the workshop is.
type Day struct {
	Format  string          `json:"format"`
	Date    string          `json:"date"`
	Shop    day.Shop        `json:"shop"`
	Batches []day.Job       `json:"batches"`
	Orders  []DayOrder      `json:"orders"`
	Tasks   []DayTask       `json:"tasks"`
	Goals   *schedule.Goals `json:"goals"` // nil before it is planned
	Bound   *schedule.Goals `json:"bound"`
	Proved  bool            `json:"proved"`
}

// DayOrder is an order and when it is ready.
type DayOrder struct {
	day.Want
	Ready *int `json:"ready"` // min from midnight, null where no batch of the day serves it
}

// DayTask is one task, by whom and when.
type DayTask struct {
	Key      string        `json:"key"`
	Batch    string        `json:"batch"` // its letter
	Name     string        `json:"name"`
	Kind     schedule.Kind `json:"kind"`
	By       string        `json:"by"` // "" a machine
	Start    int           `json:"start"`
	Min      int           `json:"minutes"`
	CleanMin int           `json:"cleaning_before"`
}

// DayDocument is a day as a document, as it stands by now.
func DayDocument(s day.Sheet, wants []day.Want, shown []schedule.Slot) Day {
	d := Day{Format: DayFormat, Date: s.Date, Shop: s.Shop, Batches: s.Jobs, Orders: []DayOrder{}, Tasks: []DayTask{},
		Proved: s.Proved}
	if d.Batches == nil {
		d.Batches = []day.Job{}
	}
	planned := s.Planned() && len(shown) == len(s.Day.Tasks)
	said := day.Narrator{Day: s.Day, Jobs: s.Jobs, Slots: shown}
	for _, w := range wants {
		if w.Jobs == nil {
			w.Jobs = []uint64{}
		}
		o := DayOrder{Want: w}
		if planned {
			if end, ok := said.End(w); ok {
				o.Ready = &end
			}
		}
		d.Orders = append(d.Orders, o)
	}
	if !planned {
		d.Proved = false
		return d
	}
	d.Goals, d.Bound = &s.Goals, &s.Bound
	for i, t := range s.Day.Tasks {
		x := DayTask{Key: t.Key, Batch: s.Jobs[t.Batch].Letter, Name: t.Name, Kind: t.Kind, Start: shown[i].Start,
			Min: shown[i].Min, CleanMin: shown[i].CleanMin}
		if by := shown[i].By; by >= 0 {
			x.By = s.Day.People[by].Name
		}
		d.Tasks = append(d.Tasks, x)
	}
	return d
}

// WriteDay writes the document.
func WriteDay(d Day) ([]byte, error) { return json.MarshalIndent(d, "", "  ") }

// Calendar writes the day as iCalendar (RFC 5545), an event a task, those of one person where who is named. The same
// day
// gives the same events, so that a calendar that reads it again changes them.
func Calendar(d Day, midnight time.Time, who, identity string) string {
	c := ics.NewCalendarFor("Hollen")
	c.SetMethod(ics.MethodPublish)
	c.SetName("Pasta, " + d.Date)
	names, batches := map[string]string{}, map[string]uint64{}
	for _, b := range d.Batches {
		names[b.Letter], batches[b.Letter] = b.Name, b.Batch
	}
	at := func(minutes int) time.Time { return day.At(midnight, minutes).UTC() }
	for _, t := range d.Tasks {
		if t.By == "" || who != "" && t.By != who {
			continue
		}
		e := c.AddEvent(fmt.Sprintf("%s-%s@%s.hollen", d.Date, t.Key, identity))
		e.SetDtStampTime(midnight.UTC())
		e.SetStartAt(at(t.Start - t.CleanMin))
		e.SetEndAt(at(t.Start + t.Min))
		e.SetSummary(fmt.Sprintf("%s: %s, %s", t.By, t.Batch, t.Name))
		text := names[t.Batch]
		if t.CleanMin > 0 {
			text += fmt.Sprintf(". Clean the roller first, %d min.", t.CleanMin)
		}
		for _, o := range d.Orders {
			if notice := o.Notice(); notice != "" && slices.Contains(o.Jobs, batches[t.Batch]) {
				text += "\n" + o.Who + ": " + notice
			}
		}
		e.SetDescription(text)
	}
	for _, o := range d.Orders {
		if who != "" || len(o.Jobs) == 0 {
			continue
		}
		e := c.AddEvent(fmt.Sprintf("%s-order-%d@%s.hollen", d.Date, o.ID, identity))
		e.SetDtStampTime(midnight.UTC())
		e.SetStartAt(at(o.Due))
		e.SetEndAt(at(o.Due + 5))
		e.SetSummary("Due: " + o.Who + ", " + o.Asked().Words() + " of " + o.What)
		if notice := o.Notice(); notice != "" {
			e.SetDescription(notice)
		}
	}
	return c.Serialize(ics.WithNewLineWindows)
}

// OrdersCSV writes orders a line each: who, what, amount, when, note, as order.Read reads them; and what for reading
// alone stands beside: the recipe that serves it, and what it is to be without.
func OrdersCSV(wants []day.Want, beside func(i int) (note, served string)) (string, error) {
	var b strings.Builder
	b.WriteString("\ufeff") // by which spreadsheets know the letters
	w := csv.NewWriter(&b)
	w.UseCRLF = true
	lines := [][]string{{"who", "what", "amount", "when", "note", "served by", "without"}}
	for i := range wants {
		x := &wants[i]
		note, served := beside(i)
		lines = append(lines, measure.Cells([]string{x.Who, x.What, x.Asked().Text(), order.Clock(x.Due), note, served,
			x.Marks()}))
	}
	err := w.WriteAll(lines)
	return b.String(), err
}

// ReadDayOrders reads the orders of a day's document as they were said, due as on its day; the error says what is wrong
// with it, and which order.
func ReadDayOrders(raw []byte, today time.Time) ([]order.Asked, error) {
	var d struct {
		Format string `json:"format"`
		Orders []struct {
			Who    string       `json:"who"`
			What   string       `json:"what"`
			Due    int          `json:"due"`
			Note   string       `json:"note"`
			Count  float64      `json:"portions"`
			Amount order.Amount `json:"amount"`
		} `json:"orders"`
	}
	if err := json.Unmarshal(raw, &d); err != nil {
		return nil, fmt.Errorf("this is no list of orders and no day’s document: %w", err)
	}
	if d.Format != DayFormat {
		return nil, fmt.Errorf("a document of %q; %q, a day’s, is read here", d.Format, DayFormat)
	}
	if len(d.Orders) > order.MostLines {
		return nil, fmt.Errorf("%d orders; no more than %d at once", len(d.Orders), order.MostLines)
	}
	var out []order.Asked
	for i, o := range d.Orders {
		if o.Amount.N == 0 {
			o.Amount = order.Amount{N: o.Count}
		}
		a, wrong := order.One(o.Who, o.What, o.Amount.Text(), order.Clock(max(0, o.Due)), o.Note, today)
		if len(wrong) > 0 {
			return nil, fmt.Errorf("order %d, %s: %s", i+1, wrong[0].Part, wrong[0].Text)
		}
		a.Line = i + 1
		out = append(out, a)
	}
	return out, nil
}
