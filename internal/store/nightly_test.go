package store

import (
	"testing"
	"time"
)

// A backup is due at three in the night, and at once where none has been made since it was due; a clock that was put
// back does not hold it up.
func TestNextBackup(t *testing.T) {
	at := func(day, hour, minutes int) time.Time {
		return time.Date(2026, 11, day, hour, minutes, 0, 0, time.Local)
	}
	for name, c := range map[string]struct{ last, now, want time.Time }{
		"none yet":             {time.Time{}, at(26, 14, 0), at(26, 14, 0)},
		"a night missed":       {at(24, 3, 0), at(26, 14, 0), at(26, 14, 0)},
		"made tonight":         {at(26, 3, 0), at(26, 14, 0), at(27, 3, 0)},
		"by day":               {at(26, 10, 0), at(26, 10, 1), at(27, 3, 0)},
		"before three":         {at(25, 10, 0), at(26, 1, 0), at(26, 3, 0)},
		"at three":             {at(26, 3, 0), at(26, 3, 0), at(27, 3, 0)},
		"three, to the second": {at(25, 10, 0), at(26, 3, 0), at(26, 3, 0)},
		"after three":          {at(25, 10, 0), at(26, 3, 59), at(26, 3, 59)},
		"put back":             {at(26, 12, 0), at(26, 8, 0), at(27, 3, 0)},
	} {
		if got := nextBackup(c.last, c.now); !got.Equal(c.want) {
			t.Errorf("%s: %v, %v wanted", name, got, c.want)
		}
	}
}
