package order

import (
	"regexp"
	"slices"
	"strconv"
	"strings"

	"hollen/internal/core/measure"
)

// The words of time in six languages, as measure.Plain writes them.

// prepositions lead to a moment: what is wanted by, before or around it is due then.
var prepositions = listed("at by on um alle all' ore a vers gegen @ around about circa ca. etwa ungefahr verso " +
	"environ sobre al bis spatestens before entro avant antes vor")

// wishes lead to a moment, too, but also to people: "for 9" is no time, "for 9 am" is one.
var wishes = listed("for fur per pour para")

// articles stand between a preposition and the hour.
var articles = listed("de las la le les delle")

// filler are words that say no more of a moment.
var filler = listed("sharp punto en in prompt genau punkt pile exactly latest di")

// noons are moments with a name, in min from midnight.
var noons = map[string]int{"noon": 720, "midday": 720, "mittag": 720, "mittags": 720, "mezzogiorno": 720, "midi": 720,
	"mediodia": 720, "midnight": 1440, "mitternacht": 1440, "mezzanotte": 1440, "minuit": 1440, "medianoche": 1440}

// parts are the parts of a day, and the hours of the clock face that are meant in them: from the first to the last of
// twelve, which are before noon or after it.
var parts = []struct {
	words       []string
	first, last int
	add         int
}{
	{listed("morning morgens fruh vormittag vormittags mattina mattino matin manana", "सुबह"), 0, 11, 0},
	{listed("afternoon nachmittag nachmittags pomeriggio apres-midi tarde"), 1, 8, 720},
	{listed("evening night abend abends sera soir noche", "शाम"), 4, 11, 720},
}

// partLeads are words before a part of the day that say no more of it.
var partLeads = listed("in the this at am in der di del della nel de du dans par por la l'")

// together are words that are said as one, as momentWords takes them apart.
var together = strings.NewReplacer("no later than", "by", "not later than", "by", "at the latest", "latest",
	"non oltre le", "entro le", "au plus tard", "avant", "a mas tardar", "antes", "12 noon", "noon", "12 midnight",
	"midnight", "tonight", "today evening", "this morning", "today morning", "this afternoon",
	"today afternoon", "this evening", "today evening", "stasera", "oggi sera", "stamattina", "oggi mattina",
	"ce matin", "aujourd'hui matin", "cet apres-midi", "aujourd'hui apres-midi", "ce soir", "aujourd'hui soir",
	"esta manana", "hoy manana", "esta tarde", "hoy tarde", "esta noche", "hoy noche")

// hourWords are the hours of the clock face by their names.
var hourWords = func() map[string]int {
	hindi := strings.Fields("एक दो तीन चार पांच छह सात आठ नौ दस ग्यारह बारह")
	m := map[string]int{"eins": 1}
	for i, words := range spokenNumbers {
		for _, w := range strings.Fields(words) {
			if len(w) > 2 { // no "a", "un"
				m[measure.Plain(w)] = i + 1
			}
		}
		m[hindi[i]] = i + 1
	}
	return m
}()

// beforeHour and afterHour are what is said before an hour, or after it, and how many minutes it moves the hour by.
var beforeHour, afterHour = spokenMinutes()

func spokenMinutes() (before, after map[string]int) {
	before = map[string]int{"half past": 30, "quarter past": 15, "a quarter past": 15, "quarter to": -15,
		"a quarter to": -15, "halb": -30, "viertel nach": 15, "viertel vor": -15, "dreiviertel": -15,
		"funf vor halb": -35, "funf nach halb": -25, "साढ़े": 30, "सवा": 15, "पौने": -15}
	after = map[string]int{"e mezza": 30, "e mezzo": 30, "e un quarto": 15, "e quarto": 15, "meno un quarto": -15,
		"e tre quarti": 45, "et demie": 30, "et demi": 30, "et quart": 15, "moins le quart": -15, "moins quart": -15,
		"y media": 30, "y cuarto": 15, "menos cuarto": -15}
	for minutes, in := range map[int][5]string{5: {"five", "funf", "cinque", "cinq", "cinco"},
		10: {"ten", "zehn", "dieci", "dix", "diez"}, 20: {"twenty", "zwanzig", "venti", "vingt", "veinte"},
		25: {"twenty-five", "funfundzwanzig", "venticinque", "vingt-cinq", "veinticinco"}} {
		for _, en := range []string{in[0], strings.ReplaceAll(in[0], "-", " ")} {
			before[en+" past"], before[en+" to"] = minutes, -minutes
		}
		before[in[1]+" nach"], before[in[1]+" vor"] = minutes, -minutes
		after["e "+in[2]], after["meno "+in[2]] = minutes, -minutes
		after[in[3]], after["moins "+in[3]] = minutes, -minutes
		after["y "+in[4]], after["menos "+in[4]] = minutes, -minutes
	}
	return before, after
}

// listed are the words of lists.
func listed(lists ...string) (out []string) {
	for _, l := range lists {
		out = append(out, strings.Fields(l)...)
	}
	return out
}

// clockOf reads a time of the day alone, in min from midnight; the error is errWhen where it is none, or none there is,
// as "25:61", and otherwise asks what was meant.
func clockOf(words []string) (int, error) {
	words = led(words)
	rest, part := partOfDay(words)
	if part < 0 {
		at, hour, err := bareClock(words)
		if err != nil || hour >= 13 || hour < 0 {
			return at, err
		}
		return asMeant(at, !slices.ContainsFunc(words, func(w string) bool { return timed.MatchString(w) }))
	}
	at, hour, err := bareClock(led(rest))
	if err != nil {
		return 0, err
	}
	p := parts[part]
	switch face := at / 60 % 12; {
	case hour < 0 || at >= 24*60: // noon in the evening
		return 0, errWhen
	case hour >= 13: // 18:00 in the evening
		if (p.add == 0) != (at < 12*60) {
			return 0, errWhen
		}
		return at, nil
	case at >= 12*60 && p.add > 0 && p.first <= 1: // 12:30 in the afternoon
		return at, nil
	case at >= 12*60 || face < p.first || face > p.last:
		return 0, errWhen
	}
	return at + p.add, nil
}

// led is a moment without the words that lead to it.
func led(words []string) []string {
	for i := 0; len(words) > 1; i++ {
		if w := words[0]; !slices.Contains(prepositions, w) && !slices.Contains(wishes, w) &&
			!(i > 0 && slices.Contains(articles, w)) {
			break
		}
		words = words[1:]
	}
	return words
}

// partOfDay takes the part of the day off the beginning or the end of a time; -1 where it says none, or nothing else.
func partOfDay(words []string) (rest []string, part int) {
	of := func(w string) int {
		for i, p := range parts {
			if slices.Contains(p.words, w) {
				return i
			}
		}
		return -1
	}
	n := len(words)
	if n < 2 {
		return words, -1
	}
	at := 0
	for at < n-1 && slices.Contains(partLeads, words[at]) {
		at++
	}
	if i := of(words[at]); i >= 0 && at+1 < n {
		return words[at+1:], i
	}
	if words[0] == "morgen" { // of a day said before it
		return words[1:], 0
	}
	if i := of(words[n-1]); i >= 0 {
		end := n - 1
		for end > 1 && slices.Contains(partLeads, words[end-1]) {
			end--
		}
		return words[:end], i
	}
	return words, -1
}

var (
	figures = regexp.MustCompile(`^([0-9]{1,2})(?:[:.h]([0-9]{2}))? ?(am|pm|h|uhr|ore|hrs?|heures?|horas?|` +
		`o'? ?clock|बजे)?$`)
	apart = regexp.MustCompile(`^([0-9]{1,2}) ?(?:uhr|heures?|h|ore) ([0-9]{2})$`)
)

// bareClock reads a time without its part of the day. hour is the hour that was said, by which one tells whether it may
// be meant after noon; 24 where it cannot, -1 of a moment with a name.
func bareClock(words []string) (at, hour int, err error) {
	words = slices.DeleteFunc(slices.Clone(words), func(w string) bool { return slices.Contains(filler, w) })
	text := strings.Join(words, " ")
	if at, is := noons[text]; is {
		return at, -1, nil
	}
	m := apart.FindStringSubmatch(text)
	if m == nil {
		m = figures.FindStringSubmatch(text)
	}
	if m != nil {
		return figured(m)
	}
	for _, to := range []struct {
		minutes  map[string]int
		from, by int
	}{{afterHour, len(words) - 1, -1}, {beforeHour, 1, 1}} {
		for i := to.from; i > 0 && i < len(words); i += to.by {
			said, of := words[i:], words[:i]
			if to.by > 0 {
				said, of = words[:i], words[i:]
			}
			if by, is := to.minutes[strings.Join(said, " ")]; is {
				h, ok := hourOf(of)
				if !ok || 60*h+by < 0 { // "fünf nach halb elf"
					continue
				}
				return 60*h + by, h, nil
			}
		}
	}
	h, ok := hourOf(words)
	if !ok {
		return 0, 0, errWhen
	}
	return 60 * h, h, nil
}

// figured is a time in figures.
func figured(m []string) (at, hour int, err error) {
	h, _ := strconv.Atoi(m[1])
	minute := 0
	if m[2] != "" {
		minute, _ = strconv.Atoi(m[2])
	}
	half := ""
	if len(m) > 3 && strings.HasSuffix(m[3], "m") {
		half = m[3]
	}
	hour = h
	switch {
	case minute > 59, half != "" && (h < 1 || h > 12), h > 24 && m[2] == "":
		return 0, 0, errWhen
	case half == "pm":
		h, hour = h%12+12, 24
	case half == "am":
		h, hour = h%12, 24
	case m[1][0] == '0': // 01:30 is by the clock of the whole day
		hour = 24
	}
	if at = 60*h + minute; at > LastMin {
		return 0, 0, errWhen
	}
	return at, hour, nil
}

// hourUnits are words after an hour.
var hourUnits = listed("o'clock uhr heures heure horas ore h बजे")

// hourOf reads a full hour, 1–23, in words or figures.
func hourOf(words []string) (int, bool) {
	n := len(words)
	if n > 1 && slices.Contains(hourUnits, words[n-1]) {
		n--
	} else if n == 3 && words[1] == "o" && words[2] == "clock" {
		n = 1
	}
	if n != 1 {
		return 0, false
	}
	if h, is := hourWords[words[0]]; is {
		return h, true
	}
	if at, is := noons[words[0]]; is && at == 720 { // midi et demi
		return 12, true
	}
	h, err := strconv.Atoi(strings.TrimSuffix(words[0], "h"))
	return h, err == nil && h >= 1 && h <= 23
}
