package order

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"
)

// When is a moment something is wanted at: a day, "" where none is said, and the minute of it. What is wanted after the
// midnight a day ends with stays on that day, from 1,440 min on.
type When struct {
	Date string // yyyy-mm-dd
	Due  int    // min from midnight, 0–2,159
}

// LastMin is the last minute of a day an order may be due at, by the clock of the night after it: 11:59.
const LastMin = 36*60 - 1

var (
	plainHour = regexp.MustCompile(`(?i)^([0-9]{1,2})$`)
	lateHour  = regexp.MustCompile(`^(2[4-9]|3[0-5])(?:[:.h]([0-5][0-9]))?$`)
	isoDate   = regexp.MustCompile(`^(\d{4}-\d{2}-\d{2})[ t,]*(.*)$`)
	saidDate  = regexp.MustCompile(`(?i)^([0-9]{1,2})(?:st|nd|rd|th|\.)? (jan|feb|mar|apr|may|jun|jul|aug|sep|oct|` +
		`nov|dec)[a-z]*\.?,?(?: (?:at|by))? (.+)$`)
	namedHour  = regexp.MustCompile(`^(?:ore )?([0-9]{1,2}(?:[:.h][0-9]{2})?) ?(?:uhr|h|ore)?$`)
	spokenPast = regexp.MustCompile(`^(half|quarter|a quarter|five|ten|twenty|twenty five|twenty-five) (past|to) (.+)$`)
	clockWord  = regexp.MustCompile(`^(.+?) ?o[’']? ?clock$`)
)

var hours = map[string]int{"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8,
	"nine": 9,
	"ten":  10, "eleven": 11, "twelve": 12}

var pastMinutes = map[string]int{"half": 30, "quarter": 15, "a quarter": 15, "five": 5, "ten": 10, "twenty": 20,
	"twenty five": 25, "twenty-five": 25}

// clockOf reads a time of the day alone; false where it is none, or none there is: "25:61", "half past noonish".
func clockOf(text string) (int, bool) {
	text = strings.TrimSpace(preposed.ReplaceAllString(text, ""))
	if m := namedHour.FindStringSubmatch(text); m != nil { // 18 Uhr, 9h, ore 9
		text = m[1]
	}
	switch text {
	case "noon", "midday", "mittag", "mittags", "mezzogiorno", "midi", "mediodía", "mediodia":
		return 12 * 60, true
	case "midnight", "mitternacht", "mezzanotte", "minuit":
		return 24 * 60, true
	}
	if m := lateHour.FindStringSubmatch(text); m != nil {
		h, _ := strconv.Atoi(m[1])
		minutes, _ := strconv.Atoi("0" + m[2])
		return 60*h + minutes, true
	}
	if m := clockWord.FindStringSubmatch(text); m != nil {
		text = m[1]
	}
	if h, is := hours[text]; is {
		return 60 * h, 60*h >= earliestSaid
	}
	if m := spokenPast.FindStringSubmatch(text); m != nil {
		hour, ok := clockOf(m[3])
		if !ok || hour%60 != 0 || hour >= 24*60 {
			return 0, false
		}
		at := hour + pastMinutes[m[1]]
		if m[2] != "past" {
			at = hour - pastMinutes[m[1]]
		}
		if at < earliestSaid { // in the morning or after noon?
			return 0, false
		}
		return at, true
	}
	for _, x := range []struct {
		word string
		add  int
	}{{" in the morning", 0}, {" in the afternoon", 720}, {" in the evening", 720}, {" tonight", 720}} {
		if before, is := strings.CutSuffix(text, x.word); is {
			at, ok := clockOf(before)
			if ok && at < 12*60 {
				at += x.add
			}
			return at, ok
		}
	}
	return ParseTime(text)
}

// earliestSaid is the earliest time of the day taken as it is said in words: "half past one" may be meant after noon.
const earliestSaid = 6 * 60

// ReadWhen reads when something is wanted: 12:30, 6 pm, noon, half past ten, tomorrow 9, friday at noon, 2 Dec 11:00,
// 2026-12-02 11:00, 24:01 for a minute past the midnight the day ends with. today is the day it is said on. The error
// says what is allowed.
func ReadWhen(text string, today time.Time) (w When, err error) {
	said := strings.Join(strings.Fields(strings.ToLower(text)), " ")
	rest := preposed.ReplaceAllString(said, "")
	dated := func(t time.Time, after string) (When, error) {
		after = strings.TrimLeft(after, ", ")
		due, ok := clockOf(after)
		if !ok {
			return When{}, errWhen
		}
		return When{t.Format(time.DateOnly), due}, nil
	}
	if m := isoDate.FindStringSubmatch(rest); m != nil {
		t, err := time.Parse(time.DateOnly, m[1])
		if err != nil {
			return w, errWhen
		}
		return dated(t, m[2])
	}
	if m := saidDate.FindStringSubmatch(rest); m != nil {
		t, err := time.Parse("2 Jan 2006", fmt.Sprintf("%s %s %d", m[1], strings.ToUpper(m[2][:1])+m[2][1:3],
			today.Year()))
		if err != nil {
			return w, errWhen
		}
		if t.Before(today.AddDate(0, 0, -1)) { // said in December of January
			t = t.AddDate(1, 0, 0)
		}
		return dated(t, m[3])
	}
	for n, words := range map[int][]string{0: {"today", "heute", "oggi", "aujourd'hui", "hoy"}, 1: {"tomorrow",
		"morgen", "domani", "demain", "mañana"},
		2: {"the day after tomorrow", "day after tomorrow", "übermorgen", "dopodomani"}} {
		for _, word := range words {
			if after, is := strings.CutPrefix(rest, word+" "); is {
				return dated(today.AddDate(0, 0, n), after)
			}
			if before, is := strings.CutSuffix(rest, " "+word); is {
				return dated(today.AddDate(0, 0, n), before)
			}
		}
	}
	for n := range 7 {
		t := today.AddDate(0, 0, n)
		name := strings.ToLower(t.Weekday().String())
		for _, word := range []string{name, name[:3]} {
			if after, is := strings.CutPrefix(rest, word+" "); is {
				return dated(t, after)
			}
		}
	}
	due, ok := clockOf(rest)
	if !ok {
		return w, errWhen
	}
	return When{Due: due}, nil
}

var errWhen = fmt.Errorf("a time of the day, as 12:30, 6 pm, noon, half past ten, tomorrow 9; 24:01 is a minute " +
	"past midnight")

// Clock writes a minute of a day as ReadWhen reads it: 12:30, and 24:01 past the midnight the day ends with.
func Clock(due int) string { return fmt.Sprintf("%d:%02d", due/60, due%60) }

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
