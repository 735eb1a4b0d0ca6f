package order

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"hollen/internal/core/measure"
)

// When is a moment something is wanted at: a day, "" where none is said, and the minute of it. What is wanted after the
// midnight a day ends with stays on that day, from 1,440 min on.
type When struct {
	Date string // yyyy-mm-dd
	Due  int    // min from midnight, 0–2,159
}

// LastMin is the last minute of a day an order may be due at, by the clock of the night after it: 11:59.
const LastMin = 36*60 - 1

// ReadWhen reads when something is wanted: 12:30, 6 pm, noon, half past ten, halb elf, tomorrow morning at 9, friday at
// noon, 2 Dec 11:00, 2026-12-02 11:00, 24:01 for a minute past the midnight the day ends with. today is the day it is
// said on. The error says what is allowed, or asks what was meant: 1:30 is asked, 01:30 is at night.
func ReadWhen(text string, today time.Time) (When, error) {
	words := momentWords(text)
	if len(words) > 2*longestMoment {
		return When{}, errWhen
	}
	var unclear error
	for from := range words {
		for to := from + 1; to <= len(words) && to-from < len(words) && to-from <= longestDay; to++ {
			day, ok := dayOf(words[from:to], today)
			if !ok || from > 0 && plainHour.MatchString(words[from-1]) && monthNamed(words[from]) > 0 { // 11 Dec 9
				continue
			}
			due, err := clockOf(slices.Concat(words[:from], words[to:]))
			if err == nil {
				return When{day.Format(time.DateOnly), due}, nil
			}
			if err != errWhen && unclear == nil {
				unclear = err
			}
		}
	}
	due, err := clockOf(words)
	if err == nil {
		return When{Due: due}, nil
	}
	if err == errWhen && unclear != nil {
		err = unclear
	}
	return When{}, err
}

// longestDay is the most words of a day: "for the day after tomorrow".
const longestDay = 5

var errWhen = fmt.Errorf("a time of the day, as 12:30, 6 pm, noon, half past ten, tomorrow 9; 24:01 is a minute " +
	"past midnight")

// Clock writes a minute of a day as ReadWhen reads it: 12:30, 01:05 of the night, and 24:01 past the midnight the day
// ends with.
func Clock(due int) string {
	if due < earliestSaid {
		return fmt.Sprintf("%02d:%02d", due/60, due%60)
	}
	return fmt.Sprintf("%d:%02d", due/60, due%60)
}

// earliestSaid is the earliest time of the day, in min, that is taken as it is said in figures, and earliestSpoken in
// words or by its hour alone: "half past six", "7" and "1:30" may be meant after noon, and are asked.
const earliestSaid, earliestSpoken = 6 * 60, 8 * 60

// earliestMorning is when the night ends, in words, min.
const earliestMorning = 5 * 60

// asMeant is a time as it was said, or what to ask of one that may be of the early hours or after noon.
func asMeant(at int, spoken bool) (int, error) {
	if at < earliestSaid || spoken && at < earliestSpoken {
		part := "at night"
		if at >= earliestMorning {
			part = "in the morning"
		}
		return 0, fmt.Errorf("%02d:%02d %s, or %d:%02d?", at/60, at%60, part, at/60+12, at%60)
	}
	return at, nil
}

var (
	dotted   = strings.NewReplacer("a.m.", "am", "p.m.", "pm", "a. m.", "am", "p. m.", "pm", ",", " ", "’", "'")
	dateTime = regexp.MustCompile(`^(\d{4}-\d{2}-\d{2})t(\d.*)$`)
)

// momentWords are the words of a moment, in small letters without marks.
func momentWords(text string) []string {
	words := strings.Fields(together.Replace(strings.Join(strings.Fields(dotted.Replace(measure.Plain(text))), " ")))
	if len(words) > 0 {
		if m := dateTime.FindStringSubmatch(words[0]); m != nil {
			words = append([]string{m[1], m[2]}, words[1:]...)
		}
	}
	return words
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
