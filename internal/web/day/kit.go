package day

import (
	"fmt"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"hollen/internal/core/day"
	"hollen/internal/core/measure"
)

// kitField is one line of the form for the hours and the kit.
type kitField struct{ Name, Label, Value, Unit, Err string }

// handRow is one person of that form.
type handRow struct {
	At                           int
	Name, From, To, Breaks, Pace string
	Cannot                       []kindChoice
	Errors                       map[string]string
	New                          bool
}

type kindChoice struct {
	Kind  day.Kind
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

// mostRackM is the most rod a rack may have, m.
const mostRackM = 500

var kindWords = []kindChoice{{day.Knead, "knead", false}, {day.Filling, "fillings", false}, {day.Roll, "roll", false},
	{day.Cut, "cut and pack", false},
	{day.Pot, "cook", false}}

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
		from, one := day.ParseTime(a)
		to, two := day.ParseTime(b)
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

func timeOr(min int) string {
	if min == 0 {
		return ""
	}
	return day.Time(min)
}

// kitOf is the form as a day stands.
func kitOf(s *day.Shop, in measure.System) kitView {
	v := kitView{From: s.RollerFrom, Froms: rollerFroms}
	n := func(i int) string { return strconv.Itoa(i) }
	v.Fields = []kitField{{"open", "Open from", day.Time(s.OpenAt), "", ""}, {"close", "Until", day.Time(s.CloseAt), "",
		""},
		{"breaks", "Breaks of all", spansWords(s.Breaks), "", ""}, {"rollers", "Rollers", n(s.Rollers), "", ""},
		{"mixers", "Mixers", n(s.Mixers), "", ""},
		{"rack", "Rack", in.Bare(s.RackM, measure.M, measure.Shortest), in.Name(measure.M) + " of rod", ""}, {"trays",
			"Trays", n(s.Trays), "", ""},
		{"fridge", "Fridge", n(s.Fridge), "doughs", ""},
		{"pots", "Pots", n(s.Pots), "", ""}, {"margin", "Ready before due", n(s.MarginMin), "min", ""}}
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
		if values.Has(f.Name) {
			stood := f.Value
			// what is shown rounded is kept as it is
			if f.Value = strings.TrimSpace(values.Get(f.Name)); f.Value != stood {
				f.Err = setKit(s, in, f.Name, f.Value)
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
		at, ok := day.ParseTime(text)
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
	pace, err := strconv.Atoi(strings.TrimSpace(r.Pace))
	if err != nil || pace < 40 || pace > 300 {
		r.Errors["pace"] = "40 to 300 % of what the batches say."
	}
	h.Pace = pace
}

// setKit sets one figure of the kit; it returns what is wrong.
func setKit(s *day.Shop, in measure.System, name, text string) string {
	clock := func(to *int) string {
		at, ok := day.ParseTime(text)
		if !ok {
			return "A time of the day, as 8:00."
		}
		*to = at
		return ""
	}
	count := func(to *int, lo, hi int, unit measure.Unit) string {
		v, err := measure.Read(text, unit, nil)
		n := int(v)
		if err != nil || float64(n) != v || n < lo || n > hi {
			return fmt.Sprintf("A whole number, %d to %d.", lo, hi)
		}
		*to = n
		return ""
	}
	switch name {
	case "open":
		return clock(&s.OpenAt)
	case "close":
		if strings.TrimSpace(text) == "24:00" || strings.TrimSpace(text) == "0:00" {
			s.CloseAt = 24 * 60
			return ""
		}
		return clock(&s.CloseAt)
	case "breaks":
		spans, ok := readSpans(text)
		if !ok {
			return "As 12:30–13:00, more parted by commas."
		}
		s.Breaks = spans
	case "rollers":
		return count(&s.Rollers, 0, 4, "")
	case "mixers":
		return count(&s.Mixers, 0, 4, "")
	case "rack":
		_, by, _, _ := in.Turn(measure.M)
		n, err := measure.Read(text, measure.M, func(n float64) float64 { return n / by })
		if err != nil || n < 0 || n > mostRackM {
			return fmt.Sprintf("0 to %s.", in.M(mostRackM, 0))
		}
		s.RackM = n
	case "trays":
		return count(&s.Trays, 0, 500, "")
	case "fridge":
		return count(&s.Fridge, 0, 100, "")
	case "pots":
		return count(&s.Pots, 0, 10, "")
	case "margin":
		return count(&s.MarginMin, 0, 240, measure.MIN)
	}
	return ""
}
