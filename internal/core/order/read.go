package order

import (
	"encoding/csv"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"

	"hollen/internal/core/measure"
)

// Asked is one order as it was said.
type Asked struct {
	Who, What string
	Amount    Amount
	When      When
	Note      string
	Line      int // of the text it stands in, from 1
	// Message counts the messages of a text that hold several orders, from 1: those of one belong together. 0: it
	// stands
	// by itself.
	Message int
}

// These bound what is read.
const (
	LongestWord = 80
	LongestNote = 160
	MostLines   = 200
	mostItems   = 12 // in one message

	longestSentence = 1000 // letters
)

// LineError says what is wrong with one line of several, and in which of its parts.
type LineError struct {
	Line int // from 1, as in the text
	Part string
	Text string
}

func (e LineError) Error() string { return fmt.Sprintf("Line %d, %s: %s", e.Line, e.Part, e.Text) }

// the columns of a list with a head, and how their heads may be called.
var columns = []struct {
	key   string
	words []string
}{
	{"who", strings.Fields("who customer client name kunde kundin wer für fuer chi cliente qui pour")},
	{"what", strings.Fields("what item product recipe was artikel gericht cosa prodotto quoi produit")},
	{"much", strings.Fields("amount quantity qty portions howmuch much menge anzahl portionen quanto quantità " +
		"porzioni combien")},
	{"unit", strings.Fields("unit einheit unità unité")},
	{"when", strings.Fields("when time due at uhrzeit zeit wann um ora quando heure quand")},
	{"date", strings.Fields("date day datum tag data giorno jour")},
	{"note", strings.Fields("note notes remark comment bemerkung notiz hinweis nota remarque")},
}

// order of the columns where there is no head.
var unheaded = []string{"who", "what", "much", "when", "note"}

// Read reads orders: a line each, “who; what; how much; when; note” parted by semicolons, tabs or commas, with a head,
// whose columns may stand in any order, or without; or as one says it: “24 tagliatelle and 2 kg linguine for the Pharos
// at noon (no egg)”, over several lines, too. today is the day it is said on. Lines that cannot be read are named by
// where they begin, the others read.
func Read(text string, today time.Time) (out []Asked, wrong []LineError) {
	r := reader{today: today}
	text = strings.ToValidUTF8(text, "")
	n := 0
	for _, rec := range records(text) {
		if n++; n > MostLines {
			r.fault(rec.line, "order", fmt.Sprintf("%d are read at once: this and what follows stay in the box",
				MostLines))
			break
		}
		r.line = rec.line
		if len(rec.parts) >= 3 && r.head(rec.parts) {
			continue
		}
		if courtesy.MatchString(word(rec.text)) { // “Thank you!”
			continue
		}
		if rec.more != nil {
			r.blocked(append([]string{rec.text}, rec.more...), 1)
			continue
		}
		if len(rec.parts) < 3 || r.columns == nil && spoken(said(rec.text), len(rec.parts)) {
			r.sentence(rec.text)
			continue
		}
		r.row(rec.parts)
	}
	return r.out, r.wrong
}

// Kept is what stays of a text that Read found wrong in places: the lines the faults name, whole, under the heads of
// their lists, and all that follows the lines read at once.
func Kept(text string, wrong []LineError) string {
	at := map[int]bool{}
	for _, e := range wrong {
		at[e.Line] = true
	}
	var r reader
	var out strings.Builder
	head, n := "", 0
	for _, rec := range records(strings.ToValidUTF8(text, "")) {
		n++
		if len(rec.parts) >= 3 && r.head(rec.parts) {
			head = rec.text + "\n"
			continue
		}
		keep := n > MostLines
		for i := range len(rec.more) + 1 {
			keep = keep || at[rec.line+i]
		}
		if keep {
			out.WriteString(head + strings.Join(append([]string{rec.text}, rec.more...), "\n") + "\n")
			head = ""
		}
	}
	return out.String()
}

// Row is an order as a line of a list without a head, which Read reads as the same.
func (a Asked) Row() string {
	var out strings.Builder
	w := csv.NewWriter(&out)
	w.Comma = ';'
	when := strings.TrimSpace(a.When.Date + " " + Clock(a.When.Due))
	_ = w.Write([]string{a.Who, a.What, a.Amount.Text(), when, a.Note}) // a builder takes all
	w.Flush()
	return out.String()
}

// One reads one order from its parts; what is wrong names the part.
func One(who, what, much, when, note string, today time.Time) (Asked, []LineError) {
	r := reader{today: today, line: 1}
	a := r.checked(who, what, much, when, note)
	return a, r.wrong
}

// reader is what has been read so far.
type reader struct {
	today   time.Time
	line    int
	columns []string // of the list, in their order; nil: it has no head
	out     []Asked
	wrong   []LineError
	message int
}

func (r *reader) fault(line int, part, text string) {
	if text = measure.Lower(strings.TrimSuffix(text, ".")); !strings.HasSuffix(text, "?") {
		text += "."
	}
	r.wrong = append(r.wrong, LineError{line, part, text})
}

// head takes a line that names its columns; false for one that does not.
func (r *reader) head(parts []string) bool {
	var keys []string
	known := 0
	for _, p := range parts {
		name := strings.ToLower(strings.Join(strings.Fields(p), ""))
		key := ""
		for _, c := range columns {
			if slices.Contains(c.words, name) && !slices.Contains(keys, c.key) {
				key = c.key
				known++
			}
		}
		keys = append(keys, key)
	}
	if known < 3 || !slices.Contains(keys, "who") || !slices.Contains(keys, "what") || !slices.Contains(keys, "much") {
		return false
	}
	r.columns = keys
	return true
}

// row reads a line of a list.
func (r *reader) row(parts []string) {
	keys := r.columns
	if keys == nil {
		keys = unheaded
		if len(parts) < 4 {
			r.fault(r.line, "order", "it wants who, what, how much and a time, as in “Pharos; tagliatelle; 24; 12:30”")
			return
		}
	}
	of := map[string]string{}
	for i, p := range parts {
		if i < len(keys) && keys[i] != "" {
			of[keys[i]] = p
		}
	}
	much := of["much"]
	if unit := of["unit"]; unit != "" {
		much += " " + unit
	}
	when := of["when"]
	if date := of["date"]; date != "" {
		when = date + " " + when
	}
	before := len(r.wrong)
	a := r.checked(of["who"], of["what"], much, when, of["note"])
	if len(r.wrong) == before {
		r.out = append(r.out, a)
	}
}

// checked is an order of those parts; what is wrong with them is noted.
func (r *reader) checked(who, what, much, when, note string) Asked {
	a := Asked{Line: r.line, Who: word(who), What: word(what), Note: word(note)}
	for _, w := range []struct{ part, text string }{{"who", a.Who}, {"what", a.What}} {
		if n := utf8.RuneCountInString(w.text); n < 1 || n > LongestWord {
			r.fault(r.line, w.part, fmt.Sprintf("1 to %d letters", LongestWord))
		}
	}
	var err error
	if a.Amount, err = ReadAmount(much); err != nil {
		r.fault(r.line, "how much", err.Error())
	}
	if a.When, err = ReadWhen(when, r.today); err != nil {
		r.fault(r.line, "when", err.Error())
	}
	if utf8.RuneCountInString(a.Note) > LongestNote {
		r.fault(r.line, "note", fmt.Sprintf("up to %d letters", LongestNote))
	}
	return a
}

var (
	bracket = regexp.MustCompile(`[(\[]([^()\[\]]*)[)\]]`)
	forWho  = regexp.MustCompile(`(?i)^(.+?)\s+(?:for|für|per|pour|para)\s+(.+)$`)
	// lineHead parts a line after what it says whom it is for, and for when
	lineHead = regexp.MustCompile(`^(.{1,100}?):\s+(.+)$`)
	asks     = regexp.MustCompile(`^([^:0-9]{1,80}?)\s*:\s*(.*[0-9].*)$`)
	between  = regexp.MustCompile(`(?i)\s*(?:,|;|\+|&|\band\b|\bund\b|\be\b|\bet\b|\by\b|\bplus\b)\s*`)
	decimal  = regexp.MustCompile(`^[0-9],[0-9]$`)
	// pictures are no part of an amount or of what is ordered
	pictures = regexp.MustCompile(`[\x{2600}-\x{27BF}\x{1F000}-\x{1FAFF}\x{FE0F}\x{200D}\x{20E3}]+`)
)

// sentence reads an order, or several of one message, as one says it.
func (r *reader) sentence(text string) {
	if utf8.RuneCountInString(text) > longestSentence {
		r.fault(r.line, "order", fmt.Sprintf("up to %d letters in one line", longestSentence))
		return
	}
	if m := lineHead.FindStringSubmatch(said(text)); m != nil && begins(m[2]) {
		head, _ := bracketed(m[1])
		if _, err := r.headed([]string{head}); err == nil { // “Net loft, tomorrow 9: 6 tagliatelle”
			r.blocked([]string{m[1], m[2]}, 0)
			return
		}
	}
	if ofAll(text) {
		r.fault(r.line, "order", fmt.Sprintf("“%s”: of which order? In its line, in brackets", shortened(word(text))))
		return
	}
	text, notes := bracketed(text)
	m, ok := r.parted(said(text))
	if !ok {
		return
	}
	if m.note != "" {
		notes = append(notes, m.note)
	}
	m.note = strings.Join(notes, "; ")
	before := len(r.wrong)
	all := r.things(m)
	if len(r.wrong) == before { // a message is taken whole or not at all
		r.take(r.line, all)
	}
}

// bracketed takes what stands in brackets out of a text.
func bracketed(text string) (rest string, notes []string) {
	for _, m := range bracket.FindAllStringSubmatch(text, -1) {
		if n := word(m[1]); n != "" {
			notes = append(notes, n)
		}
	}
	return bracket.ReplaceAllString(text, " "), notes
}

// take takes the orders of one message that begins at a line.
func (r *reader) take(line int, all []Asked) {
	if len(all) > mostItems {
		r.fault(line, "order", fmt.Sprintf("no more than %d things in one message", mostItems))
		return
	}
	if len(all) > 1 {
		r.message++
		for i := range all {
			all[i].Message = r.message
		}
	}
	r.out = append(r.out, all...)
}

// things are the orders of what a sentence says is wanted; what is wrong with one is noted.
func (r *reader) things(m spokenOrder) (all []Asked) {
	items := itemsOf(m.items)
	for _, item := range items {
		item = strings.Trim(word(pictures.ReplaceAllString(item, " ")), " ,;")
		amount, what, ask, is := readFigure(item)
		stray := strayWhat(what)
		a := Asked{Line: r.line, Who: word(m.who), What: word(what), Amount: amount, When: m.when, Note: m.note}
		switch {
		case ask != "":
			r.fault(r.line, "how much", ask)
		case !is || what == "":
			r.fault(r.line, "how much", fmt.Sprintf("“%s” says no amount: how much of what?", shortened(item)))
		case stray != "":
			r.fault(r.line, "what", moreThan(item, stray, "an amount of one thing"))
		case len(items) > 1 && ofWhich(what) != "":
			r.fault(r.line, "what", fmt.Sprintf("“%s”: of this alone, or of all? Each on a line, or in "+
				"brackets for all", shortened(ofWhich(what))))
		case strings.ContainsAny(what, "0123456789"):
			r.fault(r.line, "what", fmt.Sprintf("“%s” holds a second number: one thing at a time, with “and” between",
				shortened(item)))
		case amount.check() != nil:
			r.fault(r.line, "how much", amount.check().Error())
		case utf8.RuneCountInString(a.What) > LongestWord || utf8.RuneCountInString(a.Who) > LongestWord ||
			utf8.RuneCountInString(a.Note) > LongestNote:
			r.fault(r.line, "order", fmt.Sprintf("names have up to %d letters, notes %d", LongestWord, LongestNote))
		default:
			all = append(all, a)
		}
	}
	return all
}

// ofWhich is what one of several things is to be without that may be meant of all: what is said behind a comma, and any
// allergy, which is somebody's and no dish's; "" where there is none.
func ofWhich(what string) string {
	_, behind, _ := strings.Cut(what, ",")
	if behind = word(behind); behind != "" && len(Marks(behind)) > 0 {
		return behind
	}
	for _, m := range Marks(what) {
		if m.Allergy {
			return m.Words()
		}
	}
	return ""
}

// spokenOrder is a sentence in its parts.
type spokenOrder struct {
	items, who, note string
	when             When
}

// moreThan says that a part of a sentence holds what does not belong to it.
func moreThan(part, stray, wanted string) string {
	if measure.Plain(part) == stray {
		return fmt.Sprintf("“%s” is not %s", shortened(part), wanted)
	}
	return fmt.Sprintf("“%s” is more than %s: “%s”", shortened(part), wanted, shortened(stray))
}

var hindiFor = regexp.MustCompile(`^(.+?) के लिए (.+)$`)

// parted finds in a sentence what is ordered, for whom and for when; it says what is missing.
func (r *reader) parted(text string) (m spokenOrder, ok bool) {
	var missing error
	for rest, note := text, ""; len(note) <= LongestNote*utf8.UTFMax; {
		m, missing = r.ways(rest)
		if missing == nil {
			m.note = note
			break
		}
		before, tail, is := aside(rest)
		if !is {
			break
		}
		if rest = before; note != "" {
			tail += ", " + note
		}
		note = tail
	}
	if missing != nil { // what is missing of the whole
		_, missing = r.ways(text)
		part := "when"
		if missing == errOrder {
			part = "order"
		}
		r.fault(r.line, part, missing.Error())
		return m, false
	}
	who, notes := named(m.who)
	if m.who = who; m.note != "" {
		notes = append(notes, m.note)
	}
	m.note = strings.Join(notes, "; ")
	if w := strayWho(m.who); w != "" {
		r.fault(r.line, "who", fmt.Sprintf("%s: one customer and one moment a line, the moment last",
			moreThan(m.who, w, "a name")))
		return m, false
	}
	return m, true
}

var errOrder = fmt.Errorf("it wants who, what, how much and a time, as in “24 tagliatelle for the Pharos at 12:30”")

// ways reads a sentence in the ways one is said: “Pharos: 24 tagliatelle, noon”, “24 tagliatelle for the Pharos at
// noon”.
func (r *reader) ways(text string) (m spokenOrder, err error) {
	for _, way := range []*regexp.Regexp{asks, hindiFor} {
		parts := way.FindStringSubmatch(text)
		if parts == nil {
			continue
		}
		m.who = parts[1]
		if m.items, m.when, err = r.ending(parts[2]); err == nil {
			return m, nil
		}
		if !forWho.MatchString(text) {
			return m, err
		}
	}
	parts := forWho.FindStringSubmatch(text)
	if parts == nil {
		return m, errOrder
	}
	m.items = parts[1]
	m.who, m.when, err = r.ending(parts[2])
	if err == nil && m.who == "" {
		err = errOrder
	}
	return m, err
}

// ending takes the moment a text ends with off it: the longest end that is one. A bare hour counts after “at” or a
// comma alone, for names end in numbers, too. The error asks for the moment.
func (r *reader) ending(text string) (rest string, when When, err error) {
	words := strings.Fields(text)
	err = fmt.Errorf("when is it wanted? %w", errWhen)
	for k := min(longestMoment, len(words)-1); k > 0; k-- {
		tail := momentWords(strings.Join(words[len(words)-k:], " "))
		head := strings.Join(words[:len(words)-k], " ")
		if len(tail) == 0 {
			continue
		}
		told := slices.Contains(prepositions, tail[0]) || strings.HasSuffix(head, ",") ||
			len(tail) > 1 && slices.Contains(wishes, tail[0]) && slices.Contains(articles, tail[1])
		if bare := led(tail); len(bare) == 1 && plainHour.MatchString(bare[0]) && !told {
			continue
		}
		w, unread := ReadWhen(strings.Join(tail, " "), r.today)
		if unread == nil {
			return strings.TrimRight(strings.TrimSpace(head), ",;– "), w, nil
		}
		if unread != errWhen {
			err = unread
		}
	}
	return text, when, err
}

// longestMoment is the most words of a moment: "on the day after tomorrow at half past ten".
const longestMoment = 10

var plainHour = regexp.MustCompile(`^[0-9]{1,2}$`)

// itemsOf parts what is ordered where a new amount begins: “24 tagliatelle and 2 kg linguine”, “linguine, no egg” is
// one.
func itemsOf(text string) (out []string) {
	last := 0
	for _, at := range between.FindAllStringIndex(text, -1) {
		if decimal.MatchString(text[max(0, at[0]-1):min(len(text), at[1]+1)]) { // 1,5 kg
			continue
		}
		if _, _, _, begins := readFigure(text[at[1]:]); begins && at[0] > last {
			out = append(out, text[last:at[0]])
			last = at[1]
		}
	}
	return append(out, text[last:])
}

// record is one line of a list, or several where a quoted part holds line breaks, or a message of several lines.
type record struct {
	line  int // it begins at
	text  string
	parts []string
	more  []string // of a message of several lines, those after the first
}

// spoken says whether a line with commas, in so many parts, is a sentence rather than a list's: it begins with an
// amount, or a name and a colon.
func spoken(text string, parts int) bool {
	if strings.ContainsAny(text, ";\t\"") {
		return false
	}
	_, rest, _, is := readFigure(text)
	if is && rest != "" && forWho.MatchString(text) {
		return true
	}
	if m := lineHead.FindStringSubmatch(text); m != nil && begins(m[2]) {
		return true
	}
	return asks.MatchString(text) && parts < 4
}

// begins says whether a text begins with an amount.
func begins(text string) bool {
	_, _, _, is := readFigure(text)
	return is
}

// records parts a text into its lines; a quoted part may hold line breaks.
func records(text string) (out []record) {
	text = strings.TrimPrefix(strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n"), "\ufeff")
	lines := strings.Split(text, "\n")
	for i := 0; i < len(lines); i++ {
		if strings.TrimSpace(lines[i]) == "" {
			continue
		}
		first, whole := i, lines[i]
		for opened(whole) && i+1 < len(lines) && i-first < 20 {
			i++
			whole += "\n" + lines[i]
		}
		if opened(whole) { // a lone quote: each line by itself
			i, whole = first, lines[first]
		}
		rec := record{line: first + 1, text: strings.TrimSpace(whole), parts: fields(whole)}
		if i == first {
			rec.more = block(lines[first:])
			i += len(rec.more)
		}
		out = append(out, rec)
	}
	return out
}

// opened says whether a quoted part of a text is not closed.
func opened(text string) bool { return strings.Count(text, `"`)%2 == 1 }

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

// word is a name with single spaces and nothing that cannot be printed.
func word(s string) string {
	s = strings.Map(func(r rune) rune {
		if r == utf8.RuneError || !unicode.IsPrint(r) && !unicode.IsSpace(r) && !unicode.Is(unicode.Cf, r) ||
			r >= 0x202a && r <= 0x202e || r >= 0x2066 &&
			r <= 0x2069 { // what turns the direction of a line is no letter
			return -1
		}
		return r
	}, s)
	return strings.Join(strings.Fields(s), " ")
}

// shortened is a text as an error repeats it.
func shortened(s string) string {
	if r := []rune(s); len(r) > 40 {
		return string(r[:39]) + "…"
	}
	return s
}
