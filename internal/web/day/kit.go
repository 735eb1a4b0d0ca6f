package day

import (
	"fmt"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"hollen/internal/core/day"
	"hollen/internal/core/field"
	"hollen/internal/core/measure"
	"hollen/internal/core/order"
	"hollen/internal/core/schedule"
)

// kitField is one line of the form for the hours and the kit.
type kitField struct {
	field.Field
	Value, Err string
	set        func(typed string) error
}

// kitFields are the lines of the form, in order, with what sets each in a shop.
func kitFields(s *day.Shop, in measure.System) []kitField {
	said := func(path, label, value, allowed string, set func(typed string) bool) kitField {
		return kitField{Field: field.Field{Path: path, Label: label, Kind: field.Text}, Value: value,
			set: func(typed string) error {
				if set(typed) {
					return nil
				}
				return field.Error{Path: path, Label: label, Value: typed, Allowed: allowed}
			}}
	}
	clock := func(path, label string, at *int, read func(string) (int, bool)) kitField {
		return said(path, label, day.Time(*at), "a time of the day, as 8:00, is allowed", func(typed string) bool {
			minutes, ok := read(typed)
			if ok {
				*at = minutes
			}
			return ok
		})
	}
	untilMidnight := func(typed string) (int, bool) {
		if typed == "24:00" || typed == "0:00" {
			return 24 * 60, true
		}
		return order.ParseTime(typed)
	}
	number := func(f field.Field, at any) kitField {
		f = f.In(in)
		return kitField{Field: f, Value: f.Get(at), set: func(typed string) error { return f.Set(at, typed) }}
	}
	breaks := said("breaks", "Breaks of all", spansWords(s.Breaks), breaksAllowed, func(typed string) bool {
		spans, ok := readSpans(typed)
		if ok {
			s.Breaks = spans
		}
		return ok
	})
	out := []kitField{clock("open", "Open from", &s.OpenAt, order.ParseTime),
		clock("close", "Until", &s.CloseAt, untilMidnight), breaks}
	for _, k := range day.KitStores() {
		line := number(k.Field, k.Of(s))
		if k.Field.Path == "rack" {
			line.Unit += " of rod"
		}
		out = append(out, line)
	}
	return append(out, number(field.Field{Path: "margin", Label: "Ready before due", Unit: string(measure.MIN),
		Kind: field.Whole, Max: 240}, &s.MarginMin))
}

// breaksAllowed is what breaks may be.
const breaksAllowed = "breaks as 12:30–13:00, more parted by commas, are allowed"

// paceField is how fast a person works, % of what the batches say.
var paceField = field.Field{Path: "pace", Label: "Pace", Unit: "%", Kind: field.Whole, Min: 40, Max: 300}

// handRow is one person of that form.
type handRow struct {
	At                           int
	Name, From, To, Breaks, Pace string
	Cannot                       []kindChoice
	Errors                       map[string]string
	New                          bool
}

type kindChoice struct {
	Kind  schedule.Kind
	Words string
	On    bool
}

// kitView is the hours, the people and the kit of a day as a form.
type kitView struct {
	Fields []kitField
	People []handRow
	From   string // what the roller stands from
	Froms  [][2]string
	Wrong  bool
}

const mostPeople = 8

// longestDay is how long a day may be open, min.
const longestDay = 20 * 60

var kindWords = []kindChoice{{schedule.Knead, "knead", false}, {schedule.Filling, "fillings", false}, {schedule.Roll,
	"roll", false},
	{schedule.Cut, "cut and pack", false},
	{schedule.Pot, "cook", false}}

var rollerFroms = [][2]string{{"clean", "clean"}, {"egg_free", "egg-free dough"}, {"pale", "pale egg dough"}, {"dark",
	"dark dough"}}

// spansWords writes breaks as they are typed.
func spansWords(spans []day.Span) string {
	var out []string
	for _, s := range spans {
		out = append(out, day.Time(s.From)+"–"+day.Time(s.To))
	}
	return strings.Join(out, ", ")
}

// readSpans reads breaks: 12:30–13:00, 16:00-16:15.
func readSpans(text string) ([]day.Span, bool) {
	var out []day.Span
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' }) {
		if part = strings.TrimSpace(part); part == "" {
			continue
		}
		a, b, ok := strings.Cut(strings.NewReplacer("–", "-", "—", "-", " to ", "-").Replace(part), "-")
		from, one := order.ParseTime(a)
		to, two := order.ParseTime(b)
		if !ok || !one || !two || to == from || len(out) >= 6 {
			return nil, false
		}
		if to < from { // over midnight
			to += 24 * 60
		}
		out = append(out, day.Span{From: from, To: to})
	}
	return out, true
}

func timeOr(minutes int) string {
	if minutes == 0 {
		return ""
	}
	return day.Time(minutes)
}

// kitOf is the form as a day stands.
func kitOf(s *day.Shop, in measure.System) kitView {
	v := kitView{From: s.RollerFrom, Froms: rollerFroms}
	n := func(i int) string { return strconv.Itoa(i) }
	v.Fields = kitFields(s, in)
	for i, h := range s.People {
		r := handRow{At: i, Name: h.Name, From: timeOr(h.From), To: timeOr(h.To), Breaks: spansWords(h.Breaks),
			Pace: n(h.Pace)}
		for _, k := range kindWords {
			k.On = slices.Contains(h.Cannot, k.Kind)
			r.Cannot = append(r.Cannot, k)
		}
		v.People = append(v.People, r)
	}
	if len(s.People) < mostPeople {
		v.People = append(v.People, handRow{At: len(s.People), Pace: "100", Cannot: slices.Clone(kindWords), New: true})
	}
	return v
}

// readKit reads the form over a shop; what is wrong stands in the view, with everything as typed.
func readKit(values url.Values, s *day.Shop, in measure.System) kitView {
	v := kitOf(s, in)
	for i := range v.Fields {
		f := &v.Fields[i]
		if values.Has(f.Path) {
			stood := f.Value
			// what is shown rounded is kept as it is
			if f.Value = strings.TrimSpace(values.Get(f.Path)); f.Value != stood {
				f.Err = field.Refusal(f.set(f.Value))
			}
			v.Wrong = v.Wrong || f.Err != ""
		}
	}
	if from := values.Get("roller_from"); slices.ContainsFunc(rollerFroms,
		func(x [2]string) bool { return x[0] == from }) {
		s.RollerFrom, v.From = from, from
	}
	if s.CloseAt <= s.OpenAt { // past midnight
		s.CloseAt += 24 * 60
	}
	if s.CloseAt-s.OpenAt > longestDay && !v.Wrong {
		v.Fields[1].Err, v.Wrong = fmt.Sprintf("After it opens, and at most %s later.", day.Words(longestDay)), true
	}
	for i := range s.Breaks {
		s.Breaks[i] = s.Within(s.Breaks[i])
	}
	v.People = nil
	var people []day.Hand
	for i := range mostPeople {
		key := func(part string) string { return fmt.Sprintf("p%d_%s", i, part) }
		if !values.Has(key("name")) {
			continue
		}
		r := handRow{At: i, Name: strings.Join(strings.Fields(values.Get(key("name"))), " "),
			From: values.Get(key("from")), To: values.Get(key("to")),
			Breaks: values.Get(key("breaks")), Pace: values.Get(key("pace")), Errors: map[string]string{}}
		h := day.Hand{Name: r.Name}
		for _, k := range kindWords {
			if k.On = slices.Contains(values[key("cannot")], string(k.Kind)); k.On {
				h.Cannot = append(h.Cannot, k.Kind)
			}
			r.Cannot = append(r.Cannot, k)
		}
		if r.Name == "" {
			continue
		}
		r.read(&h, people)
		hours := s.Within(day.Span{From: h.From, To: h.To})
		if h.From, h.To = hours.From, hours.To; h.From > 0 && h.To > 0 && h.To < h.From {
			r.Errors["to"] = "After they come."
		}
		for k := range h.Breaks {
			h.Breaks[k] = s.Within(h.Breaks[k])
		}
		v.Wrong = v.Wrong || len(r.Errors) > 0
		v.People, people = append(v.People, r), append(people, h)
	}
	if len(people) == 0 {
		v.Wrong = true
		v.People = append(v.People, handRow{Pace: "100", Cannot: slices.Clone(kindWords), Errors: map[string]string{
			"name": "Somebody has to be there."}})
	} else if len(people) < mostPeople {
		v.People = append(v.People, handRow{At: len(people), Pace: "100", Cannot: slices.Clone(kindWords), New: true})
	}
	s.People = people
	return v
}

// read reads a person’s line.
func (r *handRow) read(h *day.Hand, others []day.Hand) {
	if utf8.RuneCountInString(r.Name) > 40 {
		r.Errors["name"] = "Up to 40 letters."
	}
	if slices.ContainsFunc(others, func(o day.Hand) bool { return o.Name == r.Name }) {
		r.Errors["name"] = "Another has that name."
	}
	for part, to := range map[string]*int{"from": &h.From, "to": &h.To} {
		text := map[string]string{"from": r.From, "to": r.To}[part]
		if strings.TrimSpace(text) == "" {
			continue
		}
		at, ok := order.ParseTime(text)
		if !ok {
			r.Errors[part] = "A time, as 14:00; empty: all day."
		}
		*to = at
	}
	if h.From > 0 && h.From == h.To {
		r.Errors["to"] = "After they come."
	}
	spans, ok := readSpans(r.Breaks)
	if !ok {
		r.Errors["breaks"] = "As 12:30–13:00, more parted by commas."
	}
	h.Breaks = spans
	if err := paceField.Set(&h.Pace, r.Pace); err != nil {
		r.Errors["pace"] = field.Refusal(err)
	}
}
