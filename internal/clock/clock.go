// Package clock is the program's one clock. cmd makes it and hands it to the store, pages ask the store for it, and
// tests set it;
// whatever shows, keeps or compares a date goes by it. How long something took, and until when a connection may wait,
// is no date:
// Deadline, and the watch of the standard library, measure that.
package clock

import (
	"fmt"
	"os"
	"time"
)

// Clock says what moment it is.
type Clock func() time.Time

// System is the clock of the machine.
func System() Clock { return time.Now }

// From is a clock that stood at that moment when it was made and runs at the machine's pace.
func From(at time.Time) Clock {
	begun := time.Now()
	return func() time.Time { return at.Add(time.Since(begun)) }
}

// At is the variable of the environment that has a test run at another moment, RFC 3339.
const At = "HOLLEN_AT"

// ForTests is the machine's clock, or one that starts at the moment At names. An At that cannot be read is an error: a
// test at a
// moment nobody asked for would prove nothing.
func ForTests() (Clock, error) {
	said := os.Getenv(At)
	if said == "" {
		return System(), nil
	}
	at, err := time.Parse(time.RFC3339, said)
	if err != nil {
		return nil, fmt.Errorf("%s=%q: a moment as 2028-02-29T10:00:00Z is read: %w", At, said, err)
	}
	return From(at), nil
}

// Deadline is the moment in that long, by the machine's own clock: connections go by no other.
func Deadline(in time.Duration) time.Time { return time.Now().Add(in) }

// Watch measures how long something takes; the zero Watch was started long ago.
type Watch struct{ begun time.Time }

// Start starts a watch.
func Start() Watch { return Watch{time.Now()} }

// Taken is how long the watch has run.
func (w Watch) Taken() time.Duration { return time.Since(w.begun) }
