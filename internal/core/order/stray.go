package order

import (
	"regexp"
	"slices"
	"strings"
)

// What a sentence says besides who, what, how much and when, and what of it must not be passed over.

var (
	// pleased and thanks say nothing of an order; thanks are taken off its end alone, for places are called so.
	pleased = regexp.MustCompile(`(?i)(^|[\s,])(?:please|pls|bitte|per favore|per piacere|s['’]il vous pla[iî]t|svp|` +
		`por favor|कृपया)($|[\s,.!])`)
	thanks = regexp.MustCompile(`(?i)[\s,.!–-]+(?:(?:many )?thanks(?: a lot| so much)?|` +
		`thank you(?: very much| so much)?|(?:vielen )?danke?|(?:mille )?grazie|` +
		`merci(?: beaucoup)?|(?:muchas )?gracias|धन्यवाद)$`)
	greeting = regexp.MustCompile(`(?i)^(?:hi|hello|hey|good (?:morning|afternoon|evening)|hallo|moin|servus|` +
		`guten (?:tag|morgen|abend)|ciao|salve|buongiorno|buonasera|bonjour|bonsoir|salut|hola|buenos d[ií]as|` +
		`buenas tardes|नमस्ते)(?: there| all| you| team| zusammen| a tutti| à tous| a todos)?\s*[,!.–-]+\s*`)
	wanting = regexp.MustCompile(`(?i)^(?:(?:we|i) (?:need|want|would like|take)|(?:we|i)['’]d like|` +
		`can (?:we|i) have|send(?: us| me)?|(?:ich|wir) (?:brauchen?|nehmen?|h[äa]tten? gerne?)|` +
		`vorrei|vorremmo|(?:ci|mi) servono|` +
		`je voudrais|nous voudrions|il (?:nous|me) faut|quisiera|quisi[ée]ramos|necesit(?:o|amos)|queremos)\s+`)
	pointed = regexp.MustCompile(`(?i)\b([ap])\. ?m\.?(\s|$|,)`)
	ends    = regexp.MustCompile(`[\s.!…,;]+$`)
	pauses  = regexp.MustCompile(`\s*,[\s,]*,`)
)

// said is a sentence without what is said for courtesy.
func said(text string) string {
	text = word(text)
	text = pointed.ReplaceAllString(text, "${1}m$2")
	text = ends.ReplaceAllString(pleased.ReplaceAllString(text, "$1 $2"), "")
	text = ends.ReplaceAllString(thanks.ReplaceAllString(text, ""), "")
	text = word(pauses.ReplaceAllString(text, ","))
	return wanting.ReplaceAllString(greeting.ReplaceAllString(strings.TrimLeft(text, ", "), ""), "")
}

// alters are words that say an order otherwise than it reads: what stands with them is asked.
var (
	alters = listed("instead statt anstatt invece cancel storniere stornieren annulla annullare annule annuler " +
		"cancela cancelar every each daily jeden jede jedes taglich ogni chaque cada हर until between")
	compares = listed("or oder ou not nicht more less fewer mehr weniger meno piu moins menos mas twice")
	lacking  = listed("without with no of ohne mit davon senza con sans avec dont sin which बिना")
	heads    = listed("people persons pax guests covers personen leute gaste persone coperti personnes couverts " +
		"personas comensales")
	// lead are words that lead to a day
	lead = listed("on am every next this last il el le jeden ogni chaque cada until to prossimo prochain prochaine " +
		"proximo nachste nachsten nachster kommenden coming following by from for fur per pour para")
	chats = listed("hi hello hey dear hallo ciao bonjour hola here this me mir mich")
	onDay = listed("on am")
	// around are words before a moment, or between two
	around = listed("shortly just kurz poco peu after nach ab from dopo dalle apres des despues desde and und et " +
		"past halb half quarter viertel to til till zu von than later earlier oltre")
	alike   = listed("double same ditto likewise too also auch ebenso anche stesso aussi pareil tambien igual")
	joins   = listed("and und e et y plus also auch")
	weeks   = listed("week weeks next woche settimana prossima semaine prochaine semana proxima")
	timed   = regexp.MustCompile(`^\d{1,2}(?:[:h]\d{2}|h|am|pm)$`)
	dated   = regexp.MustCompile(`^\d{4}-\d{2}-\d{2}$|^\d{1,2}\.\d{1,2}\.(?:\d{4})?$|^\d{1,2}/\d{1,2}(?:/\d+)?$`)
	letters = 2
)

// strayWho and strayWhat are the word of a customer's name, or of what is ordered, that belongs to neither: of a
// moment, of somebody else's order, or one that changes what the sentence says. "" where there is none.
func strayWho(name string) string {
	words := momentWords(name)
	if len(words) == 0 {
		return ""
	}
	if first := words[0]; slices.Contains(wishes, first) || slices.Contains(prepositions, first) ||
		slices.Contains(onDay, first) {
		return first
	}
	if strings.Trim(words[0], "0123456789") == "" && (len(words) == 1 || slices.Contains(heads, words[1])) {
		return strings.Join(words[:min(2, len(words))], " ")
	}
	for _, w := range words {
		if slices.Contains(chats, w) {
			return w
		}
	}
	if rulesOut(name) {
		return MarksWords(Marks(name))
	}
	if items := itemsOf(name); len(items) > 1 {
		return items[1]
	}
	return stray(words)
}

func strayWhat(name string) string {
	words := momentWords(name)
	if len(words) == 0 {
		return ""
	}
	if slices.Contains(lacking, words[0]) {
		return words[0]
	}
	for _, w := range words {
		if slices.Contains(compares, w) || w == "o" {
			return w
		}
	}
	return stray(words)
}

// stray is the word of a name that speaks of a moment, or changes what is said.
func stray(words []string) string {
	for i, w := range words {
		switch {
		case slices.Contains(alters, w), slices.Contains(pastDays, w), w == "कल", timed.MatchString(w),
			dated.MatchString(w), i > 0 && slices.Contains(wishes, w):
			return w
		case ordinal.MatchString(w), i > 0 && slices.Contains(lead, words[i-1]) &&
			(weekdayOf(w) >= 0 || strings.Trim(w, "0123456789.") == ""):
			return words[max(0, i-1)] + " " + w
		case w == "um", i+1 < len(words) && weekdayOf(w) >= 0 && strings.Trim(words[i+1], "0123456789.") == "":
			return strings.Join(words[i:min(i+2, len(words))], " ")
		case i > 0 && strings.Trim(words[i-1], "0123456789.") == "" && len(w) > letters && monthNamed(w) > 0:
			return words[i-1] + " " + w
		}
		if _, is := relativeDays[w]; is {
			return w
		}
		if slices.Contains(prepositions, w) {
			for j := i + 2; j <= min(len(words), i+5); j++ {
				if _, err := clockOf(words[i+1 : j]); err != errWhen {
					return strings.Join(words[i:j], " ")
				}
			}
		}
	}
	return leftOver(words)
}

// handing is how an order is handed over, where it stands between a name and the moment.
var handing = regexp.MustCompile(`(?i)[\s,–-]+((?:for |to |zur |zum |per |pour |para |da |à )?(?:pick(?:ed)?[- ]?up|` +
	`collect(?:ed|ion)?|ready|deliver(?:ed|y)|abholung|abholen|lieferung|geliefert|ritiro|consegna|asporto|retrait|` +
	`emporter|livraison|recogida|recoger|entrega))$`)

// handed takes how an order is handed over off a name.
func handed(name string) (who, how string) {
	if m := handing.FindStringSubmatchIndex(name); m != nil {
		return name[:m[0]], name[m[2]:m[3]]
	}
	return name, ""
}

// named takes off a name what is said with it behind commas: how the order is handed over, what it is to be without.
func named(name string) (who string, notes []string) {
	who, how := handed(name)
	for {
		at := strings.LastIndexByte(who, ',')
		if at < 0 || len(Marks(who[at:])) == 0 {
			break
		}
		who, notes = who[:at], append([]string{word(who[at+1:])}, notes...)
	}
	if how != "" {
		notes = append(notes, how)
	}
	return who, notes
}

// leftOver is what the words of a name end in that belongs to a moment: a day, its part, what leads to a time.
func leftOver(words []string) string {
	n := len(words)
	for n > 0 && ofMoment(words[n-1]) {
		n--
	}
	return strings.Join(words[n:], " ")
}

func ofMoment(w string) bool {
	if len(w) < letters {
		return false
	}
	for _, p := range parts {
		if slices.Contains(p.words, w) {
			return true
		}
	}
	return weekdayOf(w) >= 0 || slices.Contains(prepositions, w) || slices.Contains(wishes, w) ||
		slices.Contains(weeks, w) || slices.Contains(compares, w) || slices.Contains(lead, w) ||
		slices.Contains(around, w)
}

// aside parts a sentence from what is said after its moment: "…, no eggs", "…; call first". What could be of the order,
// a figure, a moment, a change, is no aside.
func aside(text string) (before, note string, ok bool) {
	at := strings.LastIndexAny(text, ",;–")
	if at < 0 {
		return text, "", false
	}
	note = word(strings.TrimLeft(text[at:], ",;– "))
	if note == "" || strings.ContainsAny(note, "0123456789") {
		return text, "", false
	}
	words := momentWords(note)
	if _, _, _, begins := readFigure(note); begins && !slices.Contains(lacking, words[0]) {
		return text, "", false
	}
	for i, w := range words {
		if slices.Contains(alike, w) {
			return text, "", false
		}
		_, day := relativeDays[w]
		_, noon := noons[w]
		if day || noon || weekdayOf(w) >= 0 || slices.Contains(alters, w) || slices.Contains(compares, w) ||
			slices.Contains(pastDays, w) || i == 0 && slices.Contains(joins, w) {
			return text, "", false
		}
	}
	return word(text[:at]), note, true
}
