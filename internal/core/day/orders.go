package day

import (
	"encoding/csv"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"
	"unicode/utf8"

	"hollen/internal/core/measure"
)

// Asked is an order as it was typed: who for, what, how many portions, and when.
type Asked struct {
	Who      string  `json:"who"`
	What     string  `json:"what"`
	Portions float64 `json:"portions"`
	Due      int     `json:"due"` // min from midnight
	Note     string  `json:"note,omitempty"`
}

// These bound an order.
const (
	MostPortions = 2000
	LongestWord  = 80
	MostLines    = 200
)

// LineError says what is wrong with one line of several, and in which of its parts.
type LineError struct {
	Line int // from 1
	Part string
	Text string
}

func (e LineError) Error() string { return fmt.Sprintf("Line %d, %s: %s", e.Line, e.Part, e.Text) }

// units are words that count no portions: what is ordered by them is asked for in portions.
var units = regexp.MustCompile(`(?i)^(?:kg|kilos?|kilograms?|g|gr|grams?|lbs?|pounds?|oz|ounces?|l|lit(?:er|re)s?|trays?|boxe?s?|dozens?|pieces?|pcs|nests?|bags?|packs?)\b`)

// number in what is ordered: a second order on the line.
var another = regexp.MustCompile(`[0-9]`)

var sentence = regexp.MustCompile(`(?i)^\s*([0-9]+(?:[.,][0-9]+)?)\s*(?:x|×|portions? of)?\s+(.+?)\s+for\s+(.+?)` +
	`(?:\s+(?:at|by)\s+|\s*,\s*)([0-9]{1,2}(?:[:.h][0-9]{2})?\s*(?:am|pm)?)\s*$`)

// Orders reads orders, one a line: “who; what; portions; when” parted by semicolons, tabs or commas, with a head line
// or
// without, or as one says it: “24 tagliatelle for the Pharos at 12:30”. Lines that cannot be read are named, the others
// read.
func Orders(text string) (out []Asked, wrong []LineError) {
	lines := Lines(text)
	n := 0
	for at, line := range lines {
		line = strings.TrimSpace(strings.TrimPrefix(line, "\ufeff"))
		if line == "" {
			continue
		}
		if n++; n > MostLines {
			wrong = append(wrong, LineError{at + 1, "order", fmt.Sprintf("no more than %d at once.", MostLines)})
			break
		}
		parts := fields(line)
		if n == 1 && headed(parts) {
			continue
		}
		if len(parts) < 3 {
			if m := sentence.FindStringSubmatch(line); m != nil {
				if ask := unsaid(m[2]); ask != "" {
					wrong = append(wrong, LineError{at + 1, "order", ask})
					continue
				}
				parts = []string{m[3], m[2], m[1], m[4]}
			}
		}
		if len(parts) < 4 {
			wrong = append(wrong, LineError{at + 1, "order", "it wants who, what, portions and a time, as in " +
				"“Pharos; tagliatelle; 24; 12:30”."})
			continue
		}
		a := Asked{Who: word(parts[0]), What: word(parts[1])}
		bad := a.check(parts[2], parts[3])
		for _, e := range bad {
			e.Line = at + 1
			wrong = append(wrong, e)
		}
		if len(parts) > 4 {
			a.Note = word(parts[4])
		}
		if len(bad) == 0 {
			out = append(out, a)
		}
	}
	return out, wrong
}

// Lines parts a text into its lines, however they end.
func Lines(text string) []string {
	return strings.Split(strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n"), "\n")
}

// unsaid asks back where what stands behind a number is no count of portions, or holds a second order; "" where nothing
// is in doubt.
func unsaid(what string) string {
	switch unit := units.FindString(what); {
	case unit != "":
		return fmt.Sprintf("it is said in %s: how many portions are that?", unit)
	case another.MatchString(what):
		return "it holds a second number: one order a line."
	}
	return ""
}

// OneOrder reads one order from its four parts; what is wrong names the part.
func OneOrder(who, what, portions, when string) (Asked, []LineError) {
	a := Asked{Who: word(who), What: word(what)}
	return a, a.check(portions, when)
}

// check reads what is a number and says what is wrong.
func (a *Asked) check(portions, when string) (bad []LineError) {
	add := func(part, text string) { bad = append(bad, LineError{1, part, text}) }
	for part, w := range map[string]string{"who": a.Who, "what": a.What} {
		if n := utf8.RuneCountInString(w); n < 1 || n > LongestWord {
			add(part, fmt.Sprintf("1 to %d letters.", LongestWord))
		}
	}
	n, err := measure.Read(portions, "", nil)
	if err != nil || n <= 0 || n > MostPortions {
		add("portions", fmt.Sprintf("a number from above 0 to %d.", MostPortions))
	}
	a.Portions = n
	at, ok := ParseTime(when)
	if !ok {
		add("when", "a time of the day, as 12:30 or 6 pm.")
	}
	a.Due = at
	slices.SortFunc(bad, func(x, y LineError) int { return strings.Compare(x.Part, y.Part) })
	return bad
}

// fields parts a line at tabs, semicolons or, failing those, as CSV at commas.
func fields(line string) []string {
	comma, quoted := ',', false
	for _, c := range line {
		if c == '"' {
			quoted = !quoted
		} else if !quoted && (c == '\t' || c == ';') {
			comma = c
			break
		}
	}
	r := csv.NewReader(strings.NewReader(line))
	r.Comma = comma
	r.LazyQuotes = true
	r.FieldsPerRecord = -1
	parts, err := r.Read()
	if err != nil {
		return nil
	}
	for i := range parts {
		parts[i] = measure.Uncell(strings.TrimSpace(parts[i]))
	}
	return parts
}

// headed says whether a line names its columns.
func headed(parts []string) bool {
	if len(parts) < 4 {
		return false
	}
	for _, p := range parts[2:] {
		if strings.ContainsAny(p, "0123456789") {
			return false
		}
	}
	return true
}

// word is a name with single spaces and nothing that cannot be printed.
func word(s string) string {
	s = strings.Map(func(r rune) rune {
		if r == utf8.RuneError || !unicode.IsPrint(r) && !unicode.IsSpace(r) {
			return -1
		}
		return r
	}, s)
	return strings.Join(strings.Fields(s), " ")
}

var clock = regexp.MustCompile(`(?i)^\s*([0-9]{1,2})(?:[:.h]([0-9]{2}))?\s*(am|pm)?\s*$`)

// ParseTime reads a time of the day, in min from midnight: 12:30, 12.30, 9, 6 pm.
func ParseTime(s string) (minutes int, ok bool) {
	m := clock.FindStringSubmatch(s)
	if m == nil {
		return 0, false
	}
	h, _ := strconv.Atoi(m[1])
	minute, _ := strconv.Atoi("0" + m[2])
	switch half := strings.ToLower(m[3]); {
	case half != "" && (h < 1 || h > 12):
		return 0, false
	case half == "pm" && h < 12:
		h += 12
	case half == "am" && h == 12:
		h = 0
	}
	if h > 23 || minute > 59 {
		return 0, false
	}
	return 60*h + minute, true
}

// Like is what an order may be made like: a recipe, or a batch that is of none. The zero value is nothing.
type Like struct {
	ID     uint64
	Recipe bool
}

// recipeMark begins a recipe’s number as forms write it.
const recipeMark = "recipe-"

// String is the number as forms write it: recipe-7, or 7 of a batch.
func (l Like) String() string {
	if l.Recipe {
		return recipeMark + strconv.FormatUint(l.ID, 10)
	}
	return strconv.FormatUint(l.ID, 10)
}

// ReadLike reads what String wrote; an error where it names nothing.
func ReadLike(s string) (Like, error) {
	number, recipe := strings.CutPrefix(s, recipeMark)
	id, err := strconv.ParseUint(number, 10, 63)
	if err == nil && id == 0 {
		err = strconv.ErrRange
	}
	return Like{id, recipe}, err
}

// Proposal is a batch the orders of a day need: one dough for all of them that ask for the same.
type Proposal struct {
	Source   Like     // what it is made like; nothing: nothing was found, or the maker is asked
	Fits     []Known  // that it may be made like, the likeliest first
	Ask      string   // why the maker is asked; "" where nothing is in doubt
	What     string   // as the orders call it
	Orders   []uint64 // that it serves
	Who      []string
	Notes    []string
	Portions float64 // of all of them
	Due      int     // the first of them
	Made     float64 // it makes; what is over is to spare
}

// Known is a recipe, or a batch of none, that an order may be made like.
type Known struct {
	Like
	Name, Shape string
	Kept        string   // fridge, freezer, shelf; "" where it is cooked the same day
	Names       []string // what a recipe is called besides
}

// lasting says whether a batch is dried or frozen: nothing an order gets without asking for it.
func (k Known) lasting() bool { return k.Kept == "freezer" || k.Kept == "shelf" }

// Propose finds what orders are to be made like: those asking for the same are made of one dough, scaled to the sum.
// Recipes go before batches of none, which come the newest first; alike says whether two are the same thing. An order
// with a note stands by itself, and its maker is asked: what is written there may not go with the dough.
func Propose(wants []Want, known []Known, alike func(a, b Like) bool) (out []Proposal) {
	for _, w := range wants {
		if len(w.Jobs) > 0 {
			continue
		}
		f := Find(w.What, known)
		source, ask := f.One(alike)
		if w.Note != "" {
			source, ask = Like{}, "It has a note: "+w.Note
		}
		at := slices.IndexFunc(out, func(p Proposal) bool {
			return w.Note == "" && len(p.Notes) == 0 && (source != Like{} && p.Source == source || source == Like{} &&
				strings.EqualFold(p.What, w.What))
		})
		if at < 0 {
			out = append(out, Proposal{Source: source, Fits: f.Fits, Ask: ask, What: w.What, Due: w.Due})
			at = len(out) - 1
		}
		p := &out[at]
		if w.Note != "" {
			p.Notes = append(p.Notes, w.Note)
		}
		p.Orders = append(p.Orders, w.ID)
		p.Who = append(p.Who, w.Who)
		p.Portions = p.Portions + w.Count
		p.Due = min(p.Due, w.Due)
	}
	return out
}

// Found is what words may mean among what is known.
type Found struct {
	Fits   []Known // recipes, else batches, the newest first
	Nearly bool    // spelt nearly so: proposed, never taken
}

// Find finds what words mean: a recipe before a batch of none. Of each those of that name or other name, else those of
// that shape, before others those that are called by it, else those whose shape, then whose name or shape, holds all of
// the words, else those whose shape is spelt nearly so. What is dried or frozen comes after what is not.
func Find(what string, known []Known) Found {
	var kinds [2][]Known
	for _, k := range known {
		at := 1
		if k.Recipe {
			at = 0
		}
		kinds[at] = append(kinds[at], k)
	}
	want := strings.ToLower(strings.Join(strings.Fields(what), " "))
	if want == "" {
		return Found{}
	}
	for _, all := range kinds {
		if fits := meant(want, all); len(fits) > 0 {
			return Found{Fits: fits}
		}
	}
	for _, all := range kinds {
		if fits := chosen(all, func(k Known) bool {
			return nearly([]rune(want), []rune(strings.ToLower(k.Shape)))
		}); len(fits) > 0 {
			return Found{fits, true}
		}
	}
	return Found{Nearly: true}
}

// meant are those that words in small letters mean.
func meant(want string, known []Known) []Known {
	named := func(k Known) bool { return strings.Contains(strings.ToLower(k.Name), strings.TrimSuffix(want, "s")) }
	holds := func(text string) bool {
		text = " " + strings.ToLower(text)
		for _, w := range strings.Fields(want) {
			if !strings.Contains(text, " "+strings.TrimSuffix(w, "s")) {
				return false
			}
		}
		return true
	}
	for _, fits := range []func(Known) bool{
		func(k Known) bool {
			return strings.ToLower(k.Name) == want ||
				slices.ContainsFunc(k.Names, func(n string) bool { return strings.EqualFold(n, want) })
		},
		func(k Known) bool { return strings.EqualFold(k.Shape, want) && named(k) },
		func(k Known) bool { return strings.EqualFold(k.Shape, want) },
		func(k Known) bool { return holds(k.Shape) },
		func(k Known) bool { return holds(k.Name + " " + k.Shape) },
	} {
		if all := chosen(known, fits); len(all) > 0 {
			return all
		}
	}
	return nil
}

// chosen are those that fit, the dried or frozen ones last.
func chosen(known []Known, fits func(Known) bool) (out []Known) {
	var last []Known
	for _, k := range known {
		switch {
		case !fits(k):
		case k.lasting():
			last = append(last, k)
		default:
			out = append(out, k)
		}
	}
	return append(out, last...)
}

// MostCompared is how many batches that fit are looked at for whether they are the same thing made again.
const MostCompared = 40

// One is the one that is meant, nothing and why where its maker is asked: several differ, it is spelt otherwise, or all
// there is is dried or frozen.
func (f Found) One(alike func(a, b Like) bool) (like Like, ask string) {
	if len(f.Fits) == 0 {
		return Like{}, ""
	}
	first := f.Fits[0]
	switch {
	case f.Nearly:
		return Like{}, "Is that " + strings.ToLower(first.Shape) + "?"
	case first.lasting():
		return Like{}, "What fits is dried or frozen."
	}
	for _, k := range f.Fits[1:min(len(f.Fits), MostCompared)] {
		if k.lasting() {
			break
		}
		if alike != nil && !alike(first.Like, k.Like) {
			return Like{}, "Several fit, and differ."
		}
	}
	return first.Like, ""
}

// nearly says whether two words of at least six letters are alike but for two letters: left out, put in, or others.
func nearly(a, b []rune) bool {
	if len(a) < 6 || len(b) < 6 || len(a)-len(b) > 2 || len(b)-len(a) > 2 {
		return false
	}
	row := make([]int, len(b)+1)
	for j := range row {
		row[j] = j
	}
	for i := range a {
		before := row[0]
		row[0] = i + 1
		for j := range b {
			other := before
			if a[i] != b[j] {
				other++
			}
			before = row[j+1]
			row[j+1] = min(other, row[j]+1, before+1)
		}
	}
	return row[len(b)] <= 2
}

// Words is the proposal in a sentence.
func (p *Proposal) Words() string {
	who := measure.List(p.Who)
	text := fmt.Sprintf("%s portions for %s, the first at %s.", number(p.Portions), who, Time(p.Due))
	if len(p.Who) == 1 {
		text = fmt.Sprintf("%s portions for %s at %s.", number(p.Portions), who, Time(p.Due))
	}
	if spare := p.Made - p.Portions; spare >= .05 {
		text += fmt.Sprintf(" It makes %s: %s to spare.", number(p.Made), number(spare))
	}
	return text
}

// number writes portions: whole where they are, else to a tenth.
func number(v float64) string { return strconv.FormatFloat(math.Round(10*v)/10, 'f', -1, 64) }
