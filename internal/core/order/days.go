package order

import (
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
)

// relativeDays are days named from the one they are said on, as measure.Plain writes them.
var relativeDays = map[string]int{"today": 0, "heute": 0, "oggi": 0, "aujourd'hui": 0, "hoy": 0, "आज": 0,
	"tomorrow": 1, "morgen": 1, "domani": 1, "demain": 1, "manana": 1, "the day after tomorrow": 2,
	"day after tomorrow": 2, "ubermorgen": 2, "dopodomani": 2, "apres-demain": 2, "apres demain": 2,
	"pasado manana": 2}

// dayLeads are words before a day that say no more of it.
var dayLeads = listed("on am den der il lo le el la the an this for fur per pour para")

// pastDays are days that are no more.
var pastDays = listed("yesterday gestern ieri hier ayer")

// weekdays are their names from Sunday on, and months theirs from January on, a line a language.
var weekdays = [][]string{
	strings.Fields("sunday monday tuesday wednesday thursday friday saturday"),
	strings.Fields("sun mon tue wed thu fri sat"),
	strings.Fields("sonntag montag dienstag mittwoch donnerstag freitag samstag"),
	strings.Fields("sonntag montag dienstag mittwoch donnerstag freitag sonnabend"),
	strings.Fields("domenica lunedi martedi mercoledi giovedi venerdi sabato"),
	strings.Fields("dimanche lundi mardi mercredi jeudi vendredi samedi"),
	strings.Fields("domingo lunes martes miercoles jueves viernes sabado"),
	strings.Fields("रविवार सोमवार मंगलवार बुधवार गुरुवार शुक्रवार शनिवार"),
}

var months = [][]string{
	strings.Fields("january february march april may june july august september october november december"),
	strings.Fields("januar februar marz april mai juni juli august september oktober november dezember"),
	strings.Fields("gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre"),
	strings.Fields("janvier fevrier mars avril mai juin juillet aout septembre octobre novembre decembre"),
	strings.Fields("enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre"),
}

var (
	isoDay    = regexp.MustCompile(`^\d{4}-\d{2}-\d{2}$`)
	dottedDay = regexp.MustCompile(`^(\d{1,2})\.(\d{1,2})\.(\d{4})?$`)
	ofMonth   = regexp.MustCompile(`^(\d{1,2})(?:st|nd|rd|th|\.|°|º|er)?(?: of| de| di)? ([^\d\s.]{3,})\.?` +
		`(?: (\d{4}))?$`)
	ordinal = regexp.MustCompile(`^(\d{1,2})(?:st|nd|rd|th)$`)
	monthOf = regexp.MustCompile(`^([^\d\s.]{3,})\.? (\d{1,2})(?:st|nd|rd|th)?$`)
)

// dayOf reads a day from its words: tomorrow, on Friday, 2 December, 2.12., 2026-12-02. Of a weekday it is the next
// from today on, of a day of a month the next that is not long past.
func dayOf(words []string, today time.Time) (t time.Time, ok bool) {
	text := strings.Join(words, " ")
	if n, is := relativeDays[text]; is {
		return today.AddDate(0, 0, n), true
	}
	if len(words) > 1 && slices.Contains(dayLeads, words[0]) {
		return dayOf(words[1:], today)
	}
	if n := weekdayOf(words[0]); n >= 0 && len(words) > 1 { // Saturday 5 December, where it is one
		t, ok := dayOf(words[1:], today)
		return t, ok && int(t.Weekday()) == n
	}
	if n := weekdayOf(text); n >= 0 {
		return today.AddDate(0, 0, (n-int(today.Weekday())+7)%7), true
	}
	if isoDay.MatchString(text) {
		t, err := time.Parse(time.DateOnly, text)
		return t, err == nil
	}
	if m := dottedDay.FindStringSubmatch(text); m != nil {
		return ofYear(m[1], m[2], m[3], today)
	}
	if m := ofMonth.FindStringSubmatch(text); m != nil {
		return ofYear(m[1], strconv.Itoa(monthNamed(m[2])), m[3], today)
	}
	if m := ordinal.FindStringSubmatch(text); m != nil { // the next of that number
		for n := range 62 {
			if t := today.AddDate(0, 0, n); strconv.Itoa(t.Day()) == m[1] {
				return t, true
			}
		}
	}
	if m := monthOf.FindStringSubmatch(text); m != nil {
		return ofYear(m[2], strconv.Itoa(monthNamed(m[1])), "", today)
	}
	return t, false
}

// weekdayOf is the weekday of that name, from 0 for Sunday; -1 where it is none.
func weekdayOf(name string) int {
	for _, names := range weekdays {
		if i := slices.Index(names, name); i >= 0 {
			return i
		}
	}
	return -1
}

// monthNamed is the month, 1–12, that a name or its beginning, of three letters or more, means in every language that
// knows it; 0 where it is none, or they differ.
func monthNamed(name string) (month int) {
	for _, names := range months {
		for i, n := range names {
			if !strings.HasPrefix(n, name) {
				continue
			}
			if month != 0 && month != i+1 {
				return 0
			}
			month = i + 1
		}
	}
	return month
}

// ofYear is a day of a month; without a year the next that is not past, or was yesterday.
func ofYear(day, month, year string, today time.Time) (time.Time, bool) {
	y, given := today.Year(), year != ""
	if given {
		y, _ = strconv.Atoi(year)
	}
	d, _ := strconv.Atoi(day)
	m, _ := strconv.Atoi(month)
	t := time.Date(y, time.Month(m), d, 0, 0, 0, 0, time.UTC)
	if m < 1 || m > 12 || t.Day() != d {
		return t, false
	}
	first := time.Date(today.Year(), today.Month(), today.Day()-1, 0, 0, 0, 0, time.UTC)
	if !given && t.Before(first) { // said in December of January
		t = time.Date(y+1, time.Month(m), d, 0, 0, 0, 0, time.UTC)
	}
	return t, true
}
