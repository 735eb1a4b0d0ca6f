package order

import (
	"fmt"
	"regexp"
	"strings"
	"time"
	"unicode/utf8"
)

// A message may be written over several lines, as one writes it on a telephone: a line that names the customer, and
// often the moment, and ends in a colon; a line for each thing, and one for what all of it is to be without; the moment
// last where it was not said first.
//
//	Net loft, tomorrow 9:
//	- 6 tagliatelle
//	- 4 ravioli (no egg)
//	nut allergy!

var (
	bullet   = regexp.MustCompile(`^\s*[-–•*·]\s*`)
	opening  = regexp.MustCompile(`(?i)^(?:(?:order|bestellung|ordine|commande|pedido) )?(?:for|für|per|pour|para)\s+`)
	courtesy = regexp.MustCompile(`(?i)^(?:hi|hello|hey|good (?:morning|afternoon|evening)|hallo|moin|servus|` +
		`ciao|salve|guten (?:tag|morgen|abend)|buongiorno|buonasera|bonjour|bonsoir|salut|hola|buenos d[ií]as|` +
		`buenas tardes|नमस्ते|(?:many )?thanks(?: a lot| so much)?|thank you(?: very much| so much)?|` +
		`please|(?:vielen )?dank|danke|bitte|` +
		`(?:mille )?grazie(?: mille)?|merci(?: beaucoup)?|(?:muchas )?gracias|धन्यवाद)(?: there| all| team)?[\s,.!]*$`)
)

// block gathers the message that begins with a line: its lines after that, where they are such a message; nil where
// they are none.
func block(lines []string) []string {
	if !strings.HasSuffix(strings.TrimSpace(lines[0]), ":") || strings.ContainsAny(lines[0], ";\t\"") {
		return nil
	}
	var out []string
	things := 0
	for _, line := range lines[1:] {
		switch {
		case strings.TrimSpace(line) == "", ofAll(line):
		case ofThing(line):
			things++
		case things > 0 && isMoment(line):
			return append(out, line)
		default:
			return ended(out, things)
		}
		out = append(out, line)
	}
	return ended(out, things)
}

// ended are the lines of a message, those at its end that are empty left out; none where nothing is ordered in it.
func ended(lines []string, things int) []string {
	for len(lines) > 0 && strings.TrimSpace(lines[len(lines)-1]) == "" {
		lines = lines[:len(lines)-1]
	}
	if things == 0 {
		return nil
	}
	return lines
}

// ofThing says whether a line is an amount of something and no more.
func ofThing(line string) bool {
	text := said(bullet.ReplaceAllString(line, ""))
	_, rest, _, is := readFigure(text)
	return is && rest != "" && !strings.ContainsAny(text, ";\t\":") && !forWho.MatchString(text) &&
		!isMoment(line)
}

// ofAll says whether a line is no more than what all that is ordered is to be without: “nut allergy!”.
func ofAll(line string) bool {
	text := strings.Trim(said(bullet.ReplaceAllString(line, "")), "()[] ")
	return len(Marks(text)) > 0 && !begins(text) && !strings.ContainsAny(text, "0123456789;\t\":") &&
		!forWho.MatchString(text)
}

// isMoment says whether a line is a moment alone.
func isMoment(line string) bool {
	_, err := ReadWhen(said(line), time.Time{})
	return err == nil
}

// blocked reads a message of several lines, or of one, parted behind its head: step is how many lines of the text each
// takes, 1 or 0.
func (r *reader) blocked(lines []string, step int) {
	first, before := r.line, len(r.wrong)
	if n := utf8.RuneCountInString(strings.Join(lines, "")); n > 3*longestSentence {
		r.fault(first, "order", fmt.Sprintf("up to %d letters in one message", 3*longestSentence))
		return
	}
	head, forAll := bracketed(lines[0])
	m, err := r.headed(append([]string{head}, lines[1:]...))
	if err != nil {
		r.fault(first, "when", err.Error())
		return
	}
	who, notes := named(m.who)
	m.who, forAll = who, append(forAll, notes...)
	if w := strayWho(m.who); w != "" || m.who == "" {
		r.fault(first, "who", moreThan(m.who, w, "a name")+": the customer and the moment, and then a line for each "+
			"thing")
		return
	}
	for _, line := range lines[1:] {
		if ofAll(line) {
			forAll = append(forAll, strings.Trim(said(bullet.ReplaceAllString(line, "")), "()[] "))
		}
	}
	var all []Asked
	for i, line := range lines[1:] {
		if r.line = first + step*(1+i); ofThing(line) {
			text, notes := bracketed(bullet.ReplaceAllString(line, ""))
			notes = append(notes, forAll...)
			m.items, m.note = said(text), strings.Join(notes, "; ")
			all = append(all, r.things(m)...)
		}
	}
	if len(r.wrong) == before { // a message is taken whole or not at all
		r.take(first, all)
	}
}

// headed reads whom a message of several lines is for and for when: both in its first line, in either order, or the
// moment in its last.
func (r *reader) headed(lines []string) (m spokenOrder, err error) {
	head := opening.ReplaceAllString(said(strings.TrimSuffix(strings.TrimSpace(lines[0]), ":")), "")
	if last := lines[len(lines)-1]; isMoment(last) {
		if _, _, twice := r.ending(head); twice == nil {
			return m, fmt.Errorf("when is it wanted? Two moments are said")
		}
		m.who = head
		m.when, err = ReadWhen(said(last), r.today)
		return m, err
	}
	if m.who, m.when, err = r.ending(head); err == nil {
		return m, nil
	}
	words := strings.Fields(head)
	for n := min(longestMoment, len(words)-1); n > 0; n-- { // “tomorrow 9, Net loft:”
		if w, unread := ReadWhen(strings.TrimRight(strings.Join(words[:n], " "), ",;–"), r.today); unread == nil &&
			strings.HasSuffix(words[n-1], ",") {
			m.who, m.when = strings.Join(words[n:], " "), w
			return m, nil
		}
	}
	return m, err
}
