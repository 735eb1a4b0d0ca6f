package measure

import (
	"fmt"
	"math"
	"strings"
	"time"
)

// ClockForm is how a moment of the kitchen's clock is written, as package time reads it.
const ClockForm = "2006-01-02T15:04"

// At reads yyyy-mm-ddThh:mm between 2000 and 2100.
func At(s string) (time.Time, error) {
	t, err := time.Parse(ClockForm, s)
	if err != nil || t.Year() < 2000 || t.Year() > 2100 {
		return t, fmt.Errorf("%q is no time; yyyy-mm-ddThh:mm is allowed", s)
	}
	return t, nil
}

// ClockWords returns a time as "17:30", with its day when that is another than the one it is
// told on.
func ClockWords(t, told time.Time) string {
	if t.Year() == told.Year() && t.YearDay() == told.YearDay() {
		return t.Format("15:04")
	}
	return t.Format("Mon 15:04")
}

// Later returns the time so many days after a day or a moment of the kitchen's clock, in the
// same form; "" when that is not said. Of a day half a day counts for nothing.
func Later(at string, days float64) string {
	if t, err := At(at); err == nil {
		return t.Add(time.Duration(days * 24 * float64(time.Hour))).Format(ClockForm)
	}
	t, err := time.Parse(time.DateOnly, at)
	if err != nil {
		return ""
	}
	return t.AddDate(0, 0, int(days)).Format(time.DateOnly)
}

// MinSec returns seconds as "1 min 40", to the nearest five seconds.
func MinSec(s float64) string {
	n := int(math.Round(s/5)) * 5
	if n < 60 {
		return fmt.Sprintf("%d s", n)
	}
	return fmt.Sprintf("%d min %02d", n/60, n%60)
}

// Minutes returns whole minutes, hours and minutes over two hours.
func Minutes(m float64) string {
	n := int(math.Round(m))
	if n >= 120 {
		return fmt.Sprintf("%d h %02d", n/60, n%60)
	}
	return fmt.Sprintf("%d min", n)
}

// Exactly returns minutes as they were said: seconds under two minutes where they are not whole, halves
// and tenths, hours and minutes over two hours.
func Exactly(m float64) string {
	switch {
	case m >= 120 || m == math.Trunc(m):
		return Minutes(m)
	case m < 2:
		return fmt.Sprintf("%.0f s", 60*m)
	}
	return fmt.Sprintf("%.3g min", m)
}

// Days returns "2 days", "1 day", "36 hours".
func Days(d float64) string {
	if d != math.Trunc(d) && d < 7 {
		return fmt.Sprintf("%.0f hours", 24*d)
	}
	return Plural(int(d), "day", "days")
}

// DaysWords returns a span of days: "1 to 2 days", "30 to 60 days", "1 day".
func DaysWords(from, to float64) string {
	if from == to {
		return Days(to)
	}
	return fmt.Sprintf("%g to %s", from, Days(to))
}

// DayWords writes a date of yyyy-mm-dd as all pages do, "Tue 1 Dec 2026"; anything else as it stands.
func DayWords(s string) string {
	d, err := time.Parse(time.DateOnly, s)
	if err != nil {
		return s
	}
	return d.Format("Mon 2 Jan 2006")
}

// TimeWords writes a moment as all pages do, "Tue 1 Dec 2026, 14:30", in the zone it is in.
func TimeWords(t time.Time) string { return t.Format("Mon 2 Jan 2006, 15:04") }

// MomentWords is DayWords of a moment, with its clock: "Tue 1 Dec 2026, 14:30".
func MomentWords(s string) string {
	date, clock, has := strings.Cut(s, "T")
	if words := DayWords(date); has && words != date {
		return words + ", " + clock
	}
	return DayWords(s)
}

// Day reads yyyy-mm-dd between 2000 and 2100.
func Day(s string) (time.Time, error) {
	d, err := time.Parse(time.DateOnly, s)
	if err != nil || d.Year() < 2000 || d.Year() > 2100 {
		return d, fmt.Errorf("%q is no date; yyyy-mm-dd from 2000 to 2100 is allowed", s)
	}
	return d, nil
}
